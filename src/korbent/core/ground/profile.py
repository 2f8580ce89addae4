"""The ground at a point of the plan: strata as arrays, stresses at any level.

Levels are positive upwards (m). All functions take levels of any shape and return the same shape.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from korbent.core.identity import remembered
from korbent.core.model.ground import Backfill, Borehole, Ground, Soil
from korbent.core.working import Array

WATER_WEIGHT = 9.81
"""Unit weight of water, kN/m3."""

DRY = -1e6
"""The water level (m) that stands for no groundwater."""


@dataclass(frozen=True)
class Profile:
    """Strata below a point, from the top down, or below many points that have the same strata.

    Levels have the shape (strata,), or (points, strata); weights always (strata,).
    """

    place: str
    """How the ground is known here: the borehole, or between which."""
    soils: tuple[Soil, ...]
    top: Array
    bottom: Array
    weight: Array
    weight_saturated: Array
    existing: Array
    """Existing ground, m, shape () or (points,)."""
    rigid_below: bool

    @property
    def end(self) -> Array:
        """Level at which the known ground ends, shape () or (points,)."""
        end: Array = self.bottom[..., -1]
        return end

    def existing_at(self, level: Array) -> Array:
        """Existing ground, shaped to go with levels whose first axis are the points."""
        return self.existing.reshape(-1, *([1] * (level.ndim - 1))) if self.existing.ndim else self.existing


def against(values: Array, level: Array) -> Array:
    """Strata values shaped to go with ``level[..., None]``, whose first axis are the points."""
    return (
        values
        if values.ndim == 1
        else values.reshape(len(values), *([1] * (level.ndim - 1)), values.shape[-1])
    )


def profile_at(ground: Ground, x: float, y: float) -> Profile | None:
    """The strata at (x, y), as the ground's interpolation says; None when there is no borehole."""
    if not ground.boreholes:
        return None
    order = sorted(ground.boreholes, key=lambda hole: (hole.x - x) ** 2 + (hole.y - y) ** 2)
    if ground.interpolation == "nearest" or len(order) == 1:
        return _at_hole(ground, order[0])
    return weighted(ground, x, y) or _at_hole(ground, order[0])


@remembered(64)
def _at_hole(ground: Ground, hole: Borehole) -> Profile:
    thicknesses = [s.thickness for s in hole.strata]
    return _profile(
        ground, hole.name, [s.soil for s in hole.strata], thicknesses, hole.ground_level, hole.rigid_below
    )


def _profile(
    ground: Ground,
    place: str,
    names: list[str],
    thicknesses: list[float],
    ground_level: float,
    rigid_below: bool,
) -> Profile:
    by_name = {soil.name: soil for soil in ground.soils}
    soils = tuple(by_name[name] for name in names)
    levels = ground_level - np.cumsum([0.0, *thicknesses])
    existing = ground.surfaces.existing
    return Profile(
        place=place,
        soils=soils,
        top=levels[:-1],
        bottom=levels[1:],
        weight=np.array([s.weight for s in soils]),
        weight_saturated=np.array([s.weight_saturated for s in soils]),
        existing=np.array(ground_level if existing is None else existing),
        rigid_below=rigid_below,
    )


PINCHED = 0.01
"""A stratum thinner than this (m) between boreholes has pinched out."""


def weighted(ground: Ground, x: float, y: float) -> Profile | None:
    """Strata between the boreholes: thicknesses by inverse squared distance (Shepard 1968).

    A stratum that a borehole lacks has no thickness there, so that it pinches out. None when the boreholes
    disagree about the order of the strata.
    """
    order = unit_order(ground.boreholes)
    if order is None:
        return None
    distance2 = np.array([(hole.x - x) ** 2 + (hole.y - y) ** 2 for hole in ground.boreholes])
    if distance2.min() < 1e-6:
        return _at_hole(ground, ground.boreholes[int(distance2.argmin())])
    share = 1.0 / distance2
    share = share / share.sum()
    thickness = np.zeros((len(ground.boreholes), len(order)))
    for row, hole in enumerate(ground.boreholes):
        for unit, stratum in zip(_units(hole), hole.strata):
            thickness[row, order.index(unit)] = stratum.thickness
    here = share @ thickness
    level = float(share @ np.array([hole.ground_level for hole in ground.boreholes]))
    kept = [i for i in range(len(order)) if here[i] >= PINCHED]
    nearest = ground.boreholes[int(distance2.argmin())]
    place = "between " + ", ".join(hole.name for hole in ground.boreholes)
    return _profile(
        ground, place, [order[i][0] for i in kept], [float(here[i]) for i in kept], level, nearest.rigid_below
    )


Unit = tuple[str, int]
"""A soil and the how-manieth time it comes in a borehole from above."""


def _units(hole: Borehole) -> list[Unit]:
    seen: dict[str, int] = {}
    found = []
    for stratum in hole.strata:
        seen[stratum.soil] = seen.get(stratum.soil, -1) + 1
        found.append((stratum.soil, seen[stratum.soil]))
    return found


def unit_order(holes: tuple[Borehole, ...]) -> list[Unit] | None:
    """One order from above that agrees with every borehole; None when there is none."""
    above: dict[Unit, set[Unit]] = {}
    for hole in holes:
        units = _units(hole)
        for i, unit in enumerate(units):
            above.setdefault(unit, set()).update(units[:i])
    order: list[Unit] = []
    while len(order) < len(above):
        ready = next((unit for unit in above if unit not in order and above[unit] <= set(order)), None)
        if ready is None:
            return None
        order.append(ready)
    return order


def stacked(profiles: Sequence[Profile], index: Array) -> Profile:
    """Profiles with the same strata as one, a row for each entry of ``index``."""
    first = profiles[0]
    if all(profile is first for profile in profiles):
        return first
    return replace(
        first,
        place=" / ".join(dict.fromkeys(profile.place for profile in profiles)),
        top=np.array([profile.top for profile in profiles])[index],
        bottom=np.array([profile.bottom for profile in profiles])[index],
        existing=np.array([profile.existing for profile in profiles])[index],
    )


def stratum_below(profile: Profile, level: Array) -> Array:
    """Index of the stratum just below each level; -1 below the known ground. Above it: the first."""
    level = np.asarray(level)
    index = (against(profile.bottom, level) >= level[..., None] - 1e-9).sum(axis=-1)
    return np.where(index >= len(profile.soils), -1, index)


def total_stress(profile: Profile, backfill: Backfill, surface: Array, level: Array, water: Array) -> Array:
    """Total vertical stress (kPa) at ``level`` under ground up to ``surface``.

    Strata above the surface are taken as removed; between the highest stratum and a higher surface lies
    backfill. Below ``water`` the saturated weights count. The first axis of ``level`` are the points of the profile.
    """
    shape = np.broadcast(surface, level, water)
    like = np.empty(shape.shape)
    surface, level, water = (np.asarray(a, float)[..., None] for a in (surface, level, water))
    known_top, known_bottom = against(profile.top, like), against(profile.bottom, like)
    top = np.concatenate([np.full_like(known_top[..., :1], np.inf), known_top], axis=-1)
    bottom = np.concatenate([known_top[..., :1], known_bottom], axis=-1)
    dry_weight = np.concatenate([[backfill.weight], profile.weight])
    wet_weight = np.concatenate([[backfill.weight_saturated], profile.weight_saturated])
    upper = np.minimum(top, surface)
    lower = np.maximum(bottom, level)
    dry = np.maximum(0.0, upper - np.maximum(lower, water))
    wet = np.maximum(0.0, np.minimum(upper, water) - lower)
    stress: Array = (dry * dry_weight + wet * wet_weight).sum(axis=-1)
    return stress


def pore_pressure(level: Array, water: Array) -> Array:
    """Hydrostatic pore pressure (kPa) at ``level``."""
    pressure: Array = WATER_WEIGHT * np.maximum(0.0, np.asarray(water) - np.asarray(level))
    return pressure


def effective_stress(
    profile: Profile, backfill: Backfill, surface: Array, level: Array, water: Array
) -> Array:
    """Effective vertical stress (kPa). Free water above the surface adds nothing to it."""
    water = np.minimum(water, surface)
    return total_stress(profile, backfill, surface, level, water) - pore_pressure(level, water)


def parameter(profile: Profile, name: str) -> Array:
    """One parameter of every stratum, shape (strata,); 0 where it is missing (see :func:`missing`)."""
    return np.array([getattr(soil, name) or 0.0 for soil in profile.soils], dtype=float)


def missing(soil: Soil, names: tuple[str, ...]) -> str:
    """What a check says when the soil lacks parameters; '' when it has them all."""
    lacking = [name.replace("_", " ") for name in names if getattr(soil, name) is None]
    return f"the soil '{soil.name}' has no {' and no '.join(lacking)}" if lacking else ""
