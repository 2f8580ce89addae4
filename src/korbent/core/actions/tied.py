"""Two bases that a strap ties: what it moves from one to the other, by statics.

Along the strap each base presses in its middle: what its column stands off it, and the moments along the strap, are
carried as a couple. With P1 at e beyond the middle of the edge base and S between the columns this gives R1 = P1 S/(S -
e), R2 = P2 - P1 e/(S - e). Across the strap each base keeps its own moments; horizontal forces stay where they act.
Where several straps meet at a base those that run in line share its moment along them, those at right angles carry
their own."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from korbent.core.actions.base_forces import loads_of_all, turned
from korbent.core.geometry import PadGeometry, pad_geometry, table
from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import Pad, Strap
from korbent.core.working import Array


@dataclass(frozen=True)
class Tie:
    """A strap as one of its bases sees it."""

    strap: Strap
    partner: Pad
    points: tuple[LoadPoint, ...]
    """What stands on the partner."""
    at_edge: bool
    """This base is the one at the boundary."""
    share: float = 1.0
    """Of the moment of this base along the strap: straps that run in line at a base carry it in equal parts."""
    far_share: float = 1.0
    """The same of the partner."""


def direction(own: LoadPoint, other: LoadPoint) -> tuple[float, float]:
    """From one column to the other in the plan."""
    dx, dy = other.x - own.x, other.y - own.y
    length = float(np.hypot(dx, dy))
    return dx / length, dy / length


def middle_of(geometry: PadGeometry) -> tuple[Array, Array]:
    """The middles of bases in the plan, m, (candidates, 1)."""
    c, s = np.cos(geometry.rotation), np.sin(geometry.rotation)
    return (
        geometry.column[0] - c * geometry.offset_x + s * geometry.offset_y,
        geometry.column[1] - s * geometry.offset_x - c * geometry.offset_y,
    )


def in_plan(loads: Array, point: LoadPoint) -> Array:
    """Loads by case in plan axes."""
    axes = 0.0 if point.axes == "plan" else float(np.deg2rad(point.rotation))
    return turned(loads, np.array(-axes))


def along(loads: Array, off: Array, arm: Array, d: tuple[float, float]) -> Array:
    """Moment along the strap about the middle of a base at its underside, by case, kNm, (..., cases).

    Args:
        loads: in plan axes. off: how far the column stands from the middle along the strap, m. arm: of the loads above
        the underside, m.
    """
    V, Hx, Hy, Mx, My = np.moveaxis(loads, -1, 0)
    found: Array = V * off + My * d[0] - Mx * d[1] + (Hx * d[0] + Hy * d[1]) * arm
    return found


@dataclass(frozen=True)
class Moved:
    """What a tie does to one base: (candidates, cases), and the distance of the middles along the strap, m,
    (candidates, 1)."""

    force: Array
    """Added to the vertical force, kN."""
    own: Array
    """What the strap carries of the moment along it of this base's column about its middle, kNm."""
    others: Array
    """That of the other base, in the direction from this one to the other."""
    apart: Array


def moved(
    geometry: PadGeometry, points: tuple[LoadPoint, ...], loads: Array, cases: tuple[str, ...], tie: Tie
) -> Moved:
    """What the tie moves, for candidate sizes of this base; the other is as it is.

    Args:
        loads: of this base by case in plan axes, (candidates, cases, 5).
    """
    first, far = points[0], tie.points[0]
    d = direction(first, far)
    x, y = middle_of(geometry)
    partner = pad_geometry([tie.partner], [far], np.zeros(1, dtype=int), table(tie.partner))
    px, py = middle_of(partner)
    apart = (px - x) * d[0] + (py - y) * d[1]
    off = (first.x - x) * d[0] + (first.y - y) * d[1]
    far_off = (far.x - px) * d[0] + (far.y - py) * d[1]
    own = tie.share * along(loads, off, geometry.load_level - geometry.underside, d)
    theirs = in_plan(loads_of_all(tie.points, cases), far)[None]
    others = tie.far_share * along(theirs, far_off, partner.load_level - partner.underside, d)
    return Moved(-(own + others) / np.maximum(apart, 1e-6), own, others, apart)


def strap_shares(geometry: PadGeometry, first: LoadPoint, tie: Tie) -> tuple[Array, Array]:
    """Volume of the beam between the facing edges that rests on this base, and on the other, as on two supports, m3,
    (candidates, 1)."""
    d = direction(first, tie.points[0])
    x, y = middle_of(geometry)
    partner = pad_geometry([tie.partner], [tie.points[0]], np.zeros(1, dtype=int), table(tie.partner))
    px, py = middle_of(partner)
    apart = np.maximum((px - x) * d[0] + (py - y) * d[1], 1e-6)
    begin, end = size_along(geometry, d) / 2, apart - size_along(partner, d) / 2
    whole = tie.strap.width * tie.strap.depth * np.maximum(end - begin, 0.0)
    far = whole * (begin + end) / (2 * apart)
    return whole - far, far


def size_along(geometry: PadGeometry, d: tuple[float, float]) -> Array:
    """Size of bases along a direction of the plan, through the middle, m, (candidates, 1)."""
    c, s = np.cos(geometry.rotation), np.sin(geometry.rotation)
    on_x, on_y = np.abs(c * d[0] + s * d[1]), np.abs(-s * d[0] + c * d[1])
    found: Array = np.minimum(geometry.B / np.maximum(on_x, 1e-9), geometry.L / np.maximum(on_y, 1e-9))
    return found


def tied_loads(
    geometry: PadGeometry,
    points: tuple[LoadPoint, ...],
    loads: Array,
    cases: tuple[str, ...],
    ties: tuple[Tie, ...],
) -> Array:
    """The loads of a tied base by case, in the axes in which they are given, (candidates, cases, 5): with the forces
    that its straps move, and without the moments along them about the middle that they carry."""
    first = points[0]
    plan = in_plan(loads, first)
    x, y = middle_of(geometry)
    V, Hx, Hy, Mx, My = (v.copy() for v in np.moveaxis(np.broadcast_to(plan, (len(x), *plan.shape[-2:])), -1, 0))
    for tie in ties:
        d = direction(first, tie.points[0])
        found = moved(geometry, points, plan, cases, tie)
        off = (first.x - x) * d[0] + (first.y - y) * d[1]
        V = V + found.force
        # at the place of the loads: the force acts in the middle of the base along the strap
        change = -found.own - found.force * off
        Mx, My = Mx - change * d[1], My + change * d[0]
    back = np.stack([V, Hx, Hy, Mx, My], axis=-1)
    axes = 0.0 if first.axes == "plan" else float(np.deg2rad(first.rotation))
    return turned(back, np.array(axes))


IN_LINE = 0.5**0.5
"""Straps at a base of less than 45 degrees between them run in line."""


def share_of(own: tuple[float, float], all_of_base: Sequence[tuple[float, float]]) -> float:
    """Of the moment of a base along one of its straps what that one carries, by the directions of all of them."""
    return 1.0 / sum(abs(own[0] * d[0] + own[1] * d[1]) > IN_LINE for d in all_of_base)
