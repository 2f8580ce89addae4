"""Moments at the face of the column band by band over the width, so that a concentration of pressure near an edge is
seen."""

import numpy as np

from korbent.core.concrete.sections import SIDES
from korbent.core.contact.plane import Contact
from korbent.core.contact.polygon import clipped_moments
from korbent.core.footprint import Trapezoid
from korbent.core.geometry import PadGeometry
from korbent.core.working import Array


def band_moments(
    geometry: PadGeometry, contact: Contact, weight: Array, away: Array, shares: Array, where: Array
) -> Array:
    """Moment per width about the sections at ``away`` from the faces, of bands of the base, kNm/m; positive: tension
    below.

    Args:
        away: m, (4, candidates, 1), in the order of SIDES.
        shares: borders of the bands over the width across, from -1/2 to 1/2, shape (bands + 1,).
        where: in which candidates and situations they are wanted; 0 elsewhere.

    Returns:
        (4, bands, candidates, situations). Not of round bases.
    """
    if isinstance(geometry.footprint, Trapezoid):
        everywhere = _of_trapezoid(geometry, geometry.footprint, contact, weight, away, shares)
        return np.where(where, everywhere, 0.0)
    g = geometry
    bands = len(shares) - 1
    found = np.zeros((4, bands, *contact.shape))
    rows, columns = np.nonzero(where)
    if not len(rows):
        return found
    bounds = np.empty((4, 4, bands, len(g.B)))
    starts, levers, across = np.empty((3, 4, len(g.B)))
    for side, name in enumerate(SIDES):
        sign, along_x = (1.0 if name[0] == "+" else -1.0), name[1] == "x"
        size, width = (g.B, g.L) if along_x else (g.L, g.B)
        offset, face = (g.offset_x, g.face[0]) if along_x else (g.offset_y, g.face[1])
        half = size[:, 0] / 2
        start = np.minimum((sign * offset + face / 2 + away[side])[:, 0], half)
        starts[side], levers[side], across[side] = start, half - start, width[:, 0]
        near, far = (start, half) if sign > 0 else (-half, -start)
        low, high = (s[:, None] * width[:, 0] for s in (shares[:-1], shares[1:]))
        for i, v in enumerate((near, far, low, high) if along_x else (low, high, near, far)):
            bounds[i, side] = v
    pressed = contact.of(rows, columns).on_rectangles(*bounds[..., rows])
    first = np.concatenate([pressed.x[:1], -pressed.x[1:2], pressed.y[2:3], -pressed.y[3:]])
    lever, start = levers[:, None, rows], starts[:, None, rows]
    wide = across[:, None, rows] * np.diff(shares)[None, :, None]
    weights = np.broadcast_to(weight, contact.shape)[rows, columns]
    found[:, :, rows, columns] = (first - start * pressed.force) / wide - weights * lever**2 / 2
    return found


def _of_trapezoid(
    g: PadGeometry, footprint: Trapezoid, contact: Contact, weight: Array, away: Array, shares: Array
) -> Array:
    """As :func:`band_moments`, in all candidates and situations."""
    found = []
    for side, name in enumerate(("+x", "-x", "+y", "-y")):
        sign, along_x = (1.0 if name[0] == "+" else -1.0), name[1] == "x"
        offset, face = (g.offset_x, g.face[0]) if along_x else (g.offset_y, g.face[1])
        size = footprint.size(name[1])
        start = np.minimum(sign * offset + face / 2 + away[side], size / 2)
        x, y, wide = footprint.slices(name, start, shares)
        pressed = contact.on_polygons(x, y)
        one = np.ones(x.shape[:-1])
        whole = clipped_moments(x, y, one, 0.0 * one, 0.0 * one)
        first = sign * (pressed.x if along_x else pressed.y) - start * pressed.force
        own = sign * (whole.Sx if along_x else whole.Sy) - start * whole.A
        found.append((first - weight * own) / np.maximum(wide, 1e-9))
    return np.stack(found)
