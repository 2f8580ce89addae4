"""Moments at the face of the column strip by strip over the width, so that a concentration of pressure near an edge is seen."""

import numpy as np

from korbent.core.concrete.sections import SIDES
from korbent.core.contact.polygon import pressure_over
from korbent.core.contact.rectangle import Contact
from korbent.core.geometry import PadGeometry
from korbent.core.working import Array


def strip_moments(
    geometry: PadGeometry, contact: Contact, weight: Array, side: int, away: Array, shares: Array
) -> Array:
    """Moment per width about the section at ``away`` from a face, of strips of the base, kNm/m; positive: tension below.

    Args:
        side: as in SIDES. away: m, (candidates, 1) or a number.
        shares: borders of the strips over the width across, from -1/2 to 1/2, shape (strips + 1,).

    Returns:
        (strips, candidates, situations). Rectangles only.
    """
    g = geometry
    sign, along_x = (1.0 if SIDES[side][0] == "+" else -1.0), SIDES[side][1] == "x"
    size, across = (g.B, g.L) if along_x else (g.L, g.B)
    offset, face = (g.offset_x, g.face[0]) if along_x else (g.offset_y, g.face[1])
    half = size / 2
    start = np.minimum(sign * offset + face / 2 + away, half)
    shape = (len(shares) - 1, *contact.a.shape)
    low, high = (s[:, None, None] * across for s in (shares[:-1], shares[1:]))
    u = np.stack([np.broadcast_to(v, shape) for v in (start, half, half, start)], axis=-1) * sign
    v = np.stack([np.broadcast_to(v, shape) for v in (low, low, high, high)], axis=-1)
    if (sign > 0) != along_x:
        v = v[..., ::-1]  # anticlockwise
    x, y = (u, v) if along_x else (v, u)
    found = pressure_over(x, y, contact.a, contact.b, contact.c)
    first = sign * (found.x if along_x else found.y) - start * found.force
    lever = half - start
    moment: Array = first / (high - low) - weight * lever**2 / 2
    return moment
