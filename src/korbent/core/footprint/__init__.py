"""The underside of bases: one file a shape says all that makes it different; everything else asks the footprint."""

from collections.abc import Sequence

import numpy as np

from korbent.core.footprint.footprint import Edge, Effective, Footprint, Part
from korbent.core.footprint.polygon import Polygon
from korbent.core.footprint.rectangle import Rectangle
from korbent.core.footprint.round import Round
from korbent.core.footprint.trapezoid import Trapezoid
from korbent.core.model.foundations import Pad
from korbent.core.working import Array

__all__ = [
    "Edge",
    "Effective",
    "Footprint",
    "Part",
    "Polygon",
    "Rectangle",
    "Round",
    "Trapezoid",
    "footprint_of",
    "footprints",
]


def footprints(pads: Sequence[Pad], index: Array, width: Array, length: Array, far_length: Array) -> Footprint:
    """The undersides of candidate sizes of pads of one shape.

    Args:
        index: which pad each candidate belongs to, shape (candidates,).
        width, length, far_length: m, shape (candidates, 1).
    """
    shape = pads[0].shape if pads else "rectangle"
    if shape == "rectangle":
        return Rectangle(width, length)
    if shape == "polygon":
        return _polygons(pads, index, width, length)
    if shape == "trapezoid":
        return Trapezoid.between(width, length, far_length)
    return Round(width, np.array([pad.bore for pad in pads])[index][:, None])


def _polygons(pads: Sequence[Pad], index: Array, width: Array, length: Array) -> Polygon:
    """Polygons of as many corners each: what has fewer has its last one again."""
    most = max(len(pad.outline) for pad in pads)
    x, y = np.zeros((len(width), most)), np.zeros((len(width), most))
    for k, pad in enumerate(pads):
        mine = index == k
        corners = pad.outline_of(width[mine, 0], length[mine, 0])
        for at in range(most):
            x[mine, at], y[mine, at] = corners[min(at, len(corners) - 1)]
    return Polygon(x, y)


def footprint_of(pad: Pad) -> Footprint:
    """The underside of one pad as it is; arrays (1, 1)."""
    sizes = (np.array([[size]]) for size in (pad.width, pad.length, pad.far_length))
    return footprints([pad], np.zeros(1, dtype=int), *sizes)
