"""The ground at a point of the plan: strata as arrays, stresses at any level.

Levels are positive upwards (m). All functions take levels of any shape and return the same shape.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from korbent.core.cache import Cache, remembered
from korbent.core.ground.between import between, by_distance, described, in_triangles, strata_in
from korbent.core.model.ground import Backfill, Borehole, Ground, OverLevel, Soil, Surfaces
from korbent.core.model.labels import label
from korbent.core.working import Array
from korbent.words import say

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
    return values if values.ndim == 1 else values.reshape(len(values), *([1] * (level.ndim - 1)), values.shape[-1])


def profile_at(ground: Ground, x: float, y: float) -> Profile | None:
    """The strata at (x, y), as the ground's interpolation says; None when no borehole has strata."""
    holes = described(ground.boreholes)
    if not holes:
        return None
    nearest = min(holes, key=lambda hole: (hole.x - x) ** 2 + (hole.y - y) ** 2)
    if ground.interpolation == "nearest" or len(holes) == 1:
        return profile_of(ground, nearest)
    share = (in_triangles if ground.interpolation == "triangulated" else by_distance)(holes, x, y)
    return _shared(ground, holes, share, nearest.rigid_below)


def _shared(ground: Ground, holes: tuple[Borehole, ...], share: Array, rigid_below: bool) -> Profile:
    """The profile to which each borehole gives a share of its thicknesses and of its ground level."""
    all_ = between(holes)
    some = np.nonzero(share > 1e-9)[0]
    if len(some) == 1 and not all_.completed[some[0]]:
        return profile_of(ground, holes[int(some[0])])
    here = share @ all_.thickness
    kept = [i for i in range(len(all_.soils)) if here[i] >= PINCHED]
    names = [holes[int(i)].name for i in some]
    place = (
        say("between {names}", names=", ".join(names))
        if len(names) > 1
        else say("{names}, below its end as in the others", names=names[0])
    )
    return _profile(
        ground.soils,
        ground.surfaces,
        place,
        [all_.soils[i] for i in kept],
        [float(here[i]) for i in kept],
        float(share @ all_.levels),
        rigid_below,
    )


def profile_of(ground: Ground, hole: Borehole) -> Profile:
    """The strata in a borehole itself; the same object as long as hole, soils and surfaces are the same."""
    return _of_hole(hole, ground.soils, ground.surfaces)


@remembered(512)
def _of_hole(hole: Borehole, soils: tuple[Soil, ...], surfaces: Surfaces) -> Profile:
    strata = strata_in(hole)
    names, thicknesses = [name for name, _ in strata], [thick for _, thick in strata]
    return _profile(soils, surfaces, hole.name, names, thicknesses, hole.ground_level, hole.rigid_below)


def _profile(
    known: tuple[Soil, ...],
    surfaces: Surfaces,
    place: str,
    names: list[str],
    thicknesses: list[float],
    ground_level: float,
    rigid_below: bool,
) -> Profile:
    by_name = {soil.name: soil for soil in known}
    whole = ground_level - np.cumsum([0.0, *thicknesses])
    soils: list[Soil] = []
    levels = [ground_level]
    for name, top, bottom in zip(names, whole[:-1], whole[1:]):
        for soil, below in _slices(by_name[name], float(top), float(bottom)):
            soils.append(soil)
            levels.append(below)
    existing = surfaces.existing
    return Profile(
        place=place,
        soils=tuple(soils),
        top=np.array(levels[:-1]),
        bottom=np.array(levels[1:]),
        weight=np.array([s.weight for s in soils]),
        weight_saturated=np.array([s.weight_saturated for s in soils]),
        existing=np.array(ground_level if existing is None else existing),
        rigid_below=rigid_below,
    )


SLICE = 0.5
"""Greatest height (m) of the slices in which a parameter that runs linearly over level is constant: between two of its
points they are equal, so that they move with the ground and not with the datum."""


def _slices(soil: Soil, top: float, bottom: float) -> list[tuple[Soil, float]]:
    """(soil with constant parameters, its lower level) from the top of a stratum down to its bottom."""
    if not soil.over_level:
        return [(soil, bottom)]
    cuts = {level for line in soil.over_level.values() for level, _ in line.points}
    for line in soil.over_level.values():
        if line.kind == "linear":
            levels = sorted({level for level, _ in line.points})
            for low, high in pairwise(levels):
                parts = max(1, int(np.ceil((high - low) / SLICE - 1e-9)))
                cuts |= {low + (high - low) * k / parts for k in range(1, parts)}
    inner = sorted((c for c in cuts if bottom + 1e-6 < c < top - 1e-6), reverse=True)
    ordered = sorted(cuts, reverse=True)
    found = []
    upper = top
    for lower in (*inner, bottom):
        # the value of a slice belongs to its place, whichever part of it a stratum cuts out
        middle = (upper + lower) / 2
        above = min((c for c in ordered if c > middle), default=upper)
        below = max((c for c in ordered if c < middle), default=lower)
        found.append((_constant(soil, (above + below) / 2), lower))
        upper = lower
    return found


def value_over_level(line: OverLevel, level: float) -> float:
    """The value of a parameter at a level."""
    levels = np.array([z for z, _ in line.points])
    values = np.array([v for _, v in line.points])
    if line.kind == "linear":
        return float(np.interp(-level, -levels, values))
    return float(values[max(int((levels >= level - 1e-9).sum()) - 1, 0)])


_slice_soils: Cache[Soil] = Cache()


def _constant(soil: Soil, level: float) -> Soil:
    """The soil with the values that it has at a level; the same object for the same level."""

    def made() -> Soil:
        values: dict[str, float] = {name: value_over_level(line, level) for name, line in soil.over_level.items()}
        if "undrained_strength" in values:
            values["undrained_strength_gradient"] = 0.0
        return soil.replaced(**values, over_level={})

    return _slice_soils.of((id(soil), round(level, 6)), soil, made)


PINCHED = 0.01
"""A stratum thinner than this (m) between boreholes has pinched out."""


def strata_of(profile: Profile) -> list[tuple[Soil, float, float]]:
    """(soil, top, bottom) of a profile below one point, slices of one soil put together again."""
    found: list[tuple[Soil, float, float]] = []
    for soil, top, bottom in zip(profile.soils, profile.top, profile.bottom):
        if found and found[-1][0].name == soil.name:
            found[-1] = (found[-1][0], found[-1][1], float(bottom))
        else:
            found.append((soil, float(top), float(bottom)))
    return found


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
    surface, level, water = (np.asarray(a, float) for a in (surface, level, water))
    if (
        profile.top.ndim == 1
        and surface.ndim == 0
        and water.ndim <= 1
        and max(level.size, level.size // level.shape[-1] * water.size if level.ndim else 0) > LARGE
    ):
        return _along_depth(profile, backfill, surface, level, water)
    shape = np.broadcast_shapes(surface.shape, level.shape, water.shape)
    surface, level, water = surface[..., None], level[..., None], water[..., None]
    like = np.empty(shape)
    ends = _ends(profile) if profile.top.ndim == 1 else _with_backfill(profile)
    top, bottom = (against(v, like) for v in ends)
    weights = _unit_weights(profile, backfill)
    return np.asarray(_weighing(top, bottom, surface, level, water, *weights).sum(axis=-1))


def _with_backfill(profile: Profile) -> tuple[Array, Array]:
    """Tops and bottoms of the strata, the backfill above them first."""
    top, bottom = profile.top, profile.bottom
    above = np.full_like(top[..., :1], np.inf)
    return np.concatenate([above, top], axis=-1), np.concatenate([top[..., :1], bottom], axis=-1)


@remembered(64)
def _ends(profile: Profile) -> tuple[Array, Array]:
    """The same of a profile below one point."""
    return _with_backfill(profile)


@remembered(64)
def _unit_weights(profile: Profile, backfill: Backfill) -> tuple[Array, Array]:
    """Unit weights above and below water, the backfill first."""
    return (
        np.concatenate([[backfill.weight], profile.weight]),
        np.concatenate([[backfill.weight_saturated], profile.weight_saturated]),
    )


def _weighing(
    top: Array,
    bottom: Array,
    surface: Array,
    level: Array,
    water: Array,
    dry_weight: Array,
    wet_weight: Array,
) -> Array:
    """What each stratum presses with between the surface and a level, kPa."""
    upper, lower = np.minimum(top, surface), np.maximum(bottom, level)
    dry = np.maximum(0.0, upper - np.maximum(lower, water))
    wet = np.maximum(0.0, np.minimum(upper, water) - lower)
    found: Array = dry * dry_weight + wet * wet_weight
    return found


LARGE = 4000
"""So many levels of one profile are read off the line of its stress, which is straight between strata, water and
surface."""


def _along_depth(profile: Profile, backfill: Backfill, surface: Array, level: Array, water: Array) -> Array:
    """The stress at many levels of one profile, one line for each water level."""
    found = np.empty(np.broadcast_shapes(level.shape, water.shape))
    for one in np.unique(water):
        corners = np.unique(
            [*profile.top, *profile.bottom, float(surface), min(max(one, profile.bottom[-1]), float(surface))]
        )
        line = total_stress(profile, backfill, surface, corners, one)
        here = water == one if water.ndim else slice(None)
        at = level if level.shape[-1] == 1 or not water.ndim else level[..., here]
        found[..., here] = np.interp(at, corners, line)
    return found


def pore_pressure(level: Array, water: Array) -> Array:
    """Hydrostatic pore pressure (kPa) at ``level``."""
    pressure: Array = WATER_WEIGHT * np.maximum(0.0, np.asarray(water) - np.asarray(level))
    return pressure


def effective_stress(profile: Profile, backfill: Backfill, surface: Array, level: Array, water: Array) -> Array:
    """Effective vertical stress (kPa). Free water above the surface adds nothing to it."""
    water = np.minimum(water, surface)
    return total_stress(profile, backfill, surface, level, water) - pore_pressure(level, water)


def parameter(profile: Profile, name: str) -> Array:
    """One parameter of every stratum, shape (strata,); 0 where it is missing (see :func:`missing`)."""
    return np.array([getattr(soil, name) or 0.0 for soil in profile.soils], dtype=float)


def next_other(profile: Profile) -> Array:
    """For each stratum the index of the next one of another name; the number of strata where there is none."""
    names = [soil.name for soil in profile.soils]
    n = len(names)
    return np.array([next((k for k in range(i, n) if names[k] != names[i]), n) for i in range(n)])


def missing(soil: Soil, names: tuple[str, ...]) -> str:
    """What a check says when the soil lacks parameters; '' when it has them all."""
    lacking = [label(name) for name in names if getattr(soil, name) is None]
    return (
        say("the soil '{soil}' has no {lacking}", soil=soil.name, lacking=say(" and no ").join(lacking))
        if lacking
        else ""
    )
