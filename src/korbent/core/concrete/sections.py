"""Forces on vertical sections through a base, from the soil pressure and the weights beyond the section."""

from dataclasses import dataclass

import numpy as np

from korbent.core.contact.polygon import pressure_over
from korbent.core.contact.rectangle import Contact
from korbent.core.geometry import PadGeometry
from korbent.core.working import Array

SIDES = ("+x face", "−x face", "+y face", "−y face")


@dataclass(frozen=True)
class SectionForces:
    """Per side (first axis, in the order of SIDES), candidate and situation."""

    outstand: Array
    """Length of the base beyond the section, m."""
    pressed: Array
    """Soil force beyond the section, kN."""
    pressed_moment: Array
    """Its moment about the section, kNm."""
    shear: Array
    """Soil force less weights beyond the section, kN (up positive)."""
    moment: Array
    """Moment about the section, kNm (positive: tension at the bottom)."""


def forces_beyond(geometry: PadGeometry, contact: Contact, weight: Array, away: Array) -> SectionForces:
    """Forces on the four sections at the distance ``away`` from the faces of the loaded area.

    Args:
        contact: pressure on the underside.
        weight: net downward load of base, backfill and (negative) water pressure, kPa.
        away: m, shape (sides, 1 or candidates, 1), or broadcastable to it.
    """
    g = geometry
    shape = contact.a.shape
    outstand, xs, ys = [], [], []
    for side, name in enumerate(SIDES):
        sign = 1.0 if name[0] == "+" else -1.0
        along_x = name[1] == "x"
        half, across, offset = (g.B / 2, g.L / 2, g.offset_x) if along_x else (g.L / 2, g.B / 2, g.offset_y)
        face = g.face[0 if along_x else 1] / 2
        start = np.minimum(sign * offset + face + away[side], half)
        u = np.stack(np.broadcast_arrays(start, half, half, start), axis=-1) * sign
        v = np.stack(np.broadcast_arrays(-across, -across, across, across), axis=-1) * sign
        # anticlockwise in both cases: the y sides are the x sides turned by a quarter
        xs.append(np.broadcast_to(u if along_x else -v, (*shape, 4)))
        ys.append(np.broadcast_to(v if along_x else u, (*shape, 4)))
        outstand.append(np.broadcast_to(half - start, shape))
    length = np.stack(outstand)
    integrals = pressure_over(np.stack(xs), np.stack(ys), contact.a, contact.b, contact.c)
    moments = []
    for side, name in enumerate(SIDES):
        sign = 1.0 if name[0] == "+" else -1.0
        along_x = name[1] == "x"
        half = g.B / 2 if along_x else g.L / 2
        first = integrals.x[side] if along_x else integrals.y[side]
        moments.append(sign * first - (half - length[side]) * integrals.force[side])
    pressed_moment = np.stack(moments)
    across = np.stack([np.broadcast_to(w, shape) for w in (g.L, g.L, g.B, g.B)])
    return SectionForces(
        outstand=length,
        pressed=integrals.force,
        pressed_moment=pressed_moment,
        shear=integrals.force - weight * length * across,
        moment=pressed_moment - weight * length**2 / 2 * across,
    )
