"""The underside of bases: one file a shape says all that makes it different; everything else asks the footprint."""

from collections.abc import Sequence

import numpy as np

from korbent.core.footprint.base import Edge, Effective, Footprint, Part
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
    "Rectangle",
    "Round",
    "Trapezoid",
    "footprint_of",
    "footprints",
]


def footprints(
    pads: Sequence[Pad], index: Array, width: Array, length: Array, far_length: Array
) -> Footprint:
    """The undersides of candidate sizes of pads of one shape.

    Args:
        index: which pad each candidate belongs to, shape (candidates,).
        width, length, far_length: m, shape (candidates, 1).
    """
    shape = pads[0].shape if pads else "rectangle"
    if shape == "rectangle":
        return Rectangle(width, length)
    if shape == "trapezoid":
        return Trapezoid.between(width, length, far_length)
    return Round(width, np.array([pad.bore for pad in pads])[index][:, None])


def footprint_of(pad: Pad) -> Footprint:
    """The underside of one pad as it is; arrays (1, 1)."""
    sizes = (np.array([[size]]) for size in (pad.width, pad.length, pad.far_length))
    return footprints([pad], np.zeros(1, dtype=int), *sizes)
