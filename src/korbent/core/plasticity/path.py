"""The way to collapse: load against settlement of a strip or a circle on elastic, perfectly plastic strata, advance by
advance."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from korbent.core.plasticity.bounds import upper
from korbent.core.plasticity.mesh import Mesh, fan_mesh, halved, mirrored, slope_mesh
from korbent.core.plasticity.section import checked
from korbent.core.plasticity.way import Array, Base, Point, Way
from korbent.words import say

WIDE, DEEP = 12.0, 12.0
"""Of the part that is looked at, from the middle and down, over the width; less deep where firm ground begins."""
ADVANCES = (0.25, 0.5, 0.8, 1.3, 2.2, 4.0, 8.0, 20.0)
FEW_ADVANCES = (0.4, 1.0, 2.2, 6.0, 20.0)
"""Settlements over that at which the limit load would be reached elastically; for a first look."""
RING, COARSE_RING, FIRST_LOOK = 0.004, 0.08, 400
"""The innermost ring at the edge of the base over half its width; of meshes of no more than so many triangles."""
WHOLE = 1.7
"""Triangles of a whole section over those of a half."""
FROM_REST, TO_LIMIT = 1.05, 0.99
"""The load of the situation is met on the way where it is more than so many times the surcharge and less than this
share of the limit load."""


@dataclass(frozen=True)
class Curve:
    """From the load at rest to collapse."""

    mesh: Mesh
    points: tuple[Point, ...]
    limit: float
    """Pressure at collapse, of this mesh, kPa."""
    slope: float
    """Of the first, elastic advance: kPa per m."""

    def at_settlement(self, settlement: float) -> float | None:
        """The pressure at which it has settled so much; None beyond the curve."""
        u, p = self._line
        return float(np.interp(settlement, u, p)) if u[0] <= settlement <= u[-1] else None

    def at_pressure(self, pressure: float) -> float | None:
        """How much it has settled at a pressure; None beyond the plateau."""
        u, p = self._line
        rising = np.r_[True, np.diff(p) > 1e-6 * self.limit]
        return float(np.interp(pressure, p[rising], u[rising])) if p[0] <= pressure <= p[rising][-1] else None

    @property
    def _line(self) -> tuple[Array, Array]:
        return np.array([p.settlement for p in self.points]), np.array([p.pressure for p in self.points])


def checked_base(base: Base) -> Base:
    """The base, when it can be looked at.

    Raises:
        ValueError: what is missing or beyond what is solved.
    """
    section = checked(base.section)
    if section.slope and (base.round or base.flexible):
        raise ValueError(say("beside a slope only a rigid strip has its way to collapse"))
    if section.load is not None and (base.round or base.flexible):
        raise ValueError(say("a circle or a flexible strip has its way to collapse under a central load only"))
    if section.load is not None and (section.load.growing[0] <= 0 or any(section.load.held)):
        raise ValueError(say("on the way to collapse V, H and M grow together, and V presses"))
    if len(base.stiff) != len(section.layers):
        raise ValueError(say("every stratum needs its stiffness"))
    for s in base.stiff:
        if s.E <= 0 or not 0 <= s.nu <= 0.5 or s.growth < 0:
            raise ValueError(say("E must be greater than zero and ν between 0 and 0.5"))
    no_hold = [x for x in section.layers if x.c == 0 and x.growth == 0]
    if section.q == 0 and section.layers[0] in no_hold and (base.round or base.flexible):
        what = say("a circle") if base.round else say("a flexible load")
        raise ValueError(
            say(
                "cohesionless ground without surcharge below {what} has no curve: give a cohesion or a surcharge",
                what=what,
            )
        )
    return base


def first_mesh_of(base: Base, ring: float = RING) -> Mesh:
    """The first mesh: finer at the edge, wide and deep enough that its walls hardly matter; ``ring``: see
    :func:`fan_mesh`, ``smallest``."""
    section = base.section
    B = section.B
    depth = min(DEEP * B, base.firm or np.inf, section.firm or np.inf)
    lines = [0.0, *(-x.bottom for x in section.layers if x.bottom < depth - 0.02 * B), -depth]
    if section.slope:
        tan = float(np.tan(np.deg2rad(section.slope)))
        width = min(WIDE * B, B / 2 + 0.9 * depth / abs(tan))  # not below the firm ground
        return slope_mesh(B / 2, width, lines, tan, ring)
    half = fan_mesh(B / 2, WIDE * B, lines, ring)
    return half if section.load is None else mirrored(half)


def mesh_for(base: Base, most: int, stop: Callable[[], bool] = lambda: False) -> Mesh:
    """Refined where the strip on the same section yields; a whole section takes more of them than a half."""
    mesh = first_mesh_of(base, RING if most > FIRST_LOOK else COARSE_RING)
    if most > FIRST_LOOK and base.section.load:
        most = int(most * WHOLE)
    section = base.section
    while len(mesh.triangles) < 0.75 * most and not stop():
        found = upper(section, mesh)
        order = np.argsort(-found.uneven)
        count = int(np.searchsorted(np.cumsum(found.uneven[order]), 0.6)) + 1
        room = max(int((most - len(mesh.triangles)) / 1.8), 8)
        mesh = halved(mesh, order[: min(max(count, len(order) // 12), room)])
    return mesh


def curve(
    base: Base,
    most: int = 1000,
    pressures: Sequence[float] = (),
    told: Callable[[Curve], None] | None = None,
    stop: Callable[[], bool] = lambda: False,
    mesh: Mesh | None = None,
    advances: Sequence[float] = ADVANCES,
) -> Curve:
    """Load against settlement up to collapse.

    Args:
        most: triangles, about.
        pressures: kPa, met exactly on the way.
        told: what there is so far, after each advance.
        advances: settlements, over that at which the limit load would be reached elastically.

    Raises:
        ValueError: what cannot be looked at.
        NotSolvedError: when a program did not come to its end.
    """
    checked_base(base)
    mesh = mesh_for(base, most, stop) if mesh is None else mesh
    way = Way(base, mesh)
    limit = way.limit_of_mesh * way.scale
    stages = _stages(way, limit)
    slope = stages[0][0].first_slope
    state, shift, at = way.rest(), np.zeros(way.columns), 0.0
    if base.section.slope:
        state = stages[0][0].before(state)
    points = [way.point(state, shift, at)]
    held = sorted(p for p in pressures if points[0].pressure < p < 0.999 * limit)
    for stage, end in stages:
        full, pressure = stage.unit, points[-1].pressure
        for share in advances:
            while at < share * full * (1 - 1e-6) and not stop():
                state, moved, by, pressure = stage.advance(
                    state, share * full - at, min(held[0] if held else np.inf, end)
                )
                shift, at = shift + moved, at + by
                points.append(stage.point(state, shift, at, pressure))
                if held and points[-1].pressure >= held[0] * (1 - 1e-5):
                    held.pop(0)
                if told is not None:
                    told(Curve(mesh, tuple(points), limit, slope))
                if pressure >= end * (1 - 1e-5):
                    break
            if pressure >= end * (1 - 1e-5):
                break
    return Curve(mesh, tuple(points), limit, slope)


def _stages(way: "Way", limit: float) -> list[tuple["Way", float]]:
    """One after the other, each with the pressure at which it ends: from rest straight to the load, then as that
    grows."""
    load, section = way.base.section.load, way.base.section
    if load is None:
        return [(way, np.inf)]
    working = load.growing[0] / section.B
    if not FROM_REST * section.q < working < TO_LIMIT * limit:
        return [(Way(way.base, way.mesh, limit, way), np.inf)]  # straight to where it collapses
    return [(Way(way.base, way.mesh, working, way), working), (way, np.inf)]
