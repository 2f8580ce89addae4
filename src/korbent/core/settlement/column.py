"""The ground below points of the plan as cells, from the underside of a base down to the end of the known ground.

Cells do not depend on the size of a base, so that all candidates of one level share them: they grow with the depth
below the underside; strata that consolidate have cells of their own, finer towards both ends, where the pressure falls
first. A soil whose strata lie on each other is one, however it is cut."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from korbent.core.cache import Cache
from korbent.core.ground.profile import Profile, effective_stress, parameter
from korbent.core.model.ground import Backfill, Soil
from korbent.core.working import Array

GROWING = 52
"""Cells that grow with depth."""
SCALE = 0.5
"""Depth (m) over which they are about even."""
CONSOLIDATING, FEWEST, MOST = 40, 12, 64
"""Cells of one soil that consolidates, at least so many of each, and about so many of all together."""
SNAP = 0.3
"""An edge nearer than this share of a cell to one that is fixed falls on it."""


@dataclass(frozen=True)
class Column:
    """Cells below points that have the same strata; arrays (points, cells), or (1, cells) where all points have the
    same."""

    profile: Profile
    levels: Array
    """Of the edges, falling, (points, cells + 1), m. Cells without thickness are harmless."""
    stratum: Array
    """Index of the stratum of each cell: the first of the strata that are one."""

    @cached_property
    def middle(self) -> Array:
        """Levels of the middles of the cells, m."""
        return (self.levels[:, 1:] + self.levels[:, :-1]) / 2

    @cached_property
    def thickness(self) -> Array:
        """Shape (points, 1, cells), m."""
        return (self.levels[:, :-1] - self.levels[:, 1:])[:, None, :]

    @cached_property
    def layer(self) -> Array:
        """Which cells lie in one soil without a break: the index of its first stratum."""
        return np.array(_first_of_soil(self.profile.soils))[self.stratum]

    @cached_property
    def creeping(self) -> bool:
        """Some cell creeps by an index; strata by strain influence creep by their own C2."""
        return any(creeps_by_index(self.profile.soils[k]) for k in np.unique(self.stratum[self.thickness[:, 0] > 0]))

    @cached_property
    def by_hooke(self) -> Array:
        """Index of the cells that strain with three stresses: by E', or at once by Eu; of any of the points."""
        some = np.array([s.compression == "elastic" or bool(s.undrained_modulus) for s in self.profile.soils])
        return np.flatnonzero(some[self.stratum].any(axis=0))

    @cached_property
    def following(self) -> Array:
        """For each cell the next one below it that has a thickness, the last of those for what lies further down."""
        sized = self.thickness[:, 0] > 0
        count = sized.shape[1]
        last = np.where(sized, np.arange(count), 0).max(axis=1)[:, None]
        later = np.where(sized, np.arange(count), count)
        below = np.concatenate([later[:, 1:], np.full((len(sized), 1), count)], axis=1)
        found: Array = np.minimum(np.minimum.accumulate(below[:, ::-1], axis=1)[:, ::-1], last)
        return found

    @cached_property
    def _shares(self) -> Array:
        """Thickness of each cell by stratum, (points, cells, strata), m."""
        which = np.arange(len(self.profile.soils))
        shares: Array = (self.stratum[..., None] == which) * self.thickness[:, 0, :, None]
        return shares

    def each(self, values: Array) -> Array:
        """A value of every stratum as one of every cell, (points, 1, cells)."""
        found: Array = values[self.stratum][:, None, :]
        return found

    def soil(self, name: str, otherwise: float = 0.0) -> Array:
        """A parameter of the soil of each cell, (points, 1, cells)."""
        values = parameter(self.profile, name)
        return self.each(np.where(values == 0.0, otherwise, values) if otherwise else values)

    def follows(self, kind: str) -> Array:
        """Where the soil settles by a law, (points, 1, cells)."""
        return self.each(np.array([s.compression == kind for s in self.profile.soils]))

    def by_stratum(self, strain: Array) -> Array:
        """Compression of the strata, (..., points, situations, strata), m."""
        found: Array = strain @ self._shares
        return found

    def cells(self, which: Array) -> "Column":
        """Some of the cells, by their index; only for what needs no levels."""
        found = replace(self, stratum=self.stratum[:, which])
        found.__dict__["thickness"] = self.thickness[..., which]
        return found

    def before(self, backfill: Backfill, water: Array) -> Array:
        """Effective stress before loading, (points, situations, cells), kPa; water: levels (situations,)."""
        level = self.middle[:, None, :] + 0.0 * water[:, None]
        surface = self.profile.existing_at(level)
        return effective_stress(self.profile, backfill, surface, level, water[:, None])

    def yielded(self, before: Array) -> Array:
        """Preconsolidation pressure: typed, with a typed margin, or by the overconsolidation ratio; at least what is
        there."""
        soils = self.profile.soils
        ratio = self.each(np.array([s.overconsolidation_ratio for s in soils]))
        margin = self.each(np.array([s.preconsolidation_margin or 0.0 for s in soils]))
        typed = self.each(np.array([s.preconsolidation or 0.0 for s in soils]))
        found: Array = np.maximum(np.maximum(before * ratio + margin, typed), np.maximum(before, 0.1))
        return found


def creeps_by_index(soil: Soil) -> bool:
    """A soil creeps by C_alpha."""
    return bool(soil.creep_index) and soil.compression not in ("strain_influence", "none")


def _same(a: Soil, b: Soil) -> bool:
    """Two strata are one for the settlement: the same soil, and nothing that its law uses runs over level between
    them."""
    return a is b or (a.name == b.name and (a.modulus == b.modulus or a.compression in ("oedometer", "mv", "none")))


def _first_of_soil(soils: Sequence[Soil]) -> list[int]:
    """For each stratum the first one of the same soil without a break between."""
    found: list[int] = []
    for i, soil in enumerate(soils):
        found.append(found[-1] if i and soils[i - 1].name == soil.name else i)
    return found


def first_of_law(soils: Sequence[Soil]) -> list[int]:
    """For each stratum the first one that is the same for the settlement, without a break between."""
    found: list[int] = []
    for i, soil in enumerate(soils):
        found.append(found[-1] if i and _same(soils[i - 1], soil) else i)
    return found


def column_of(profile: Profile, underside: Array, feet: Array | None = None) -> Column:
    """The cells below bases; one row where they are the same below all of them.

    Args:
        underside: levels, (points,), m; a base above the ground begins to press at the ground.
        feet: levels at which something more begins to press, (points, FEET); above the underside they say nothing.
    """
    points = len(underside)
    top = np.broadcast_to(profile.top, (points, profile.top.shape[-1]))
    bottom = np.broadcast_to(profile.bottom, top.shape)
    existing = np.broadcast_to(profile.existing, (points,))
    start = np.minimum(np.minimum(underside, existing), top[:, 0])
    more = np.repeat(start[:, None], FEET, axis=1) if feet is None else np.minimum(feet, start[:, None])
    rows = np.concatenate([start[:, None], top, bottom, more], axis=1)
    if (rows == rows[0]).all():
        rows = rows[:1]
        profile = replace(profile, top=top[0], bottom=bottom[0], existing=existing[0])
    parts = [_cells(profile.soils, row.tobytes()) for row in rows]
    return Column(profile, np.stack([p[0] for p in parts]), np.stack([p[1] for p in parts]))


ROUNDING = 1e-7
"""Edges nearer to each other (m) are one."""
FEET = 4
"""So many levels at which something more begins to press are looked at."""
_known: Cache[tuple[Array, Array]] = Cache()


def _cells(soils: Sequence[Soil], row: bytes) -> tuple[Array, Array]:
    """Edges and strata below one point, kept: they depend on the strata and the level alone."""
    key = (row, *map(id, soils))
    values, n = np.frombuffer(row), len(soils)
    top, bottom, feet = values[1 : 1 + n], values[1 + n : 1 + 2 * n], values[1 + 2 * n :]
    return _known.of(key, soils, lambda: _graded(soils, float(values[0]), top, bottom, feet))


def _graded(soils: Sequence[Soil], start: float, top: Array, bottom: Array, feet: Array) -> tuple[Array, Array]:
    """Edges (cells + 1,) and strata (cells,) below one point; their number depends on the soils alone."""
    end = min(float(bottom[-1]), start)
    own, first = np.array(_first_of_soil(soils)), np.array(first_of_law(soils))
    runs = [k for k in np.unique(own) if soils[k].consolidates]
    count = int(np.clip(MOST // max(len(runs), 1), FEWEST, CONSOLIDATING))
    shares = (1 - np.cos(np.pi * np.arange(count + 1) / count)) / 2
    breaks = [start, end, *(float(bottom[i]) for i in range(len(soils) - 1) if first[i + 1] != first[i])]
    fixed = [np.clip(np.array(breaks), end, start), np.clip(feet, end, start)]
    for k in runs:
        members = np.flatnonzero(own == k)
        upper, lower = np.clip([top[members[0]], bottom[members[-1]]], end, start)
        fixed.append(upper + (lower - upper) * shares)
    kept = np.concatenate(fixed)
    growth = np.log1p((start - end) / SCALE) / GROWING
    depth = SCALE * np.expm1(growth * np.arange(1, GROWING))
    near = np.abs((start - depth)[:, None] - kept).argmin(axis=1)
    on_fixed = np.abs(start - depth - kept[near]) < SNAP * growth * (depth + SCALE)
    levels = -np.sort(-np.concatenate([kept, np.where(on_fixed, kept[near], start - depth)]))
    # what stands apart by the rounding of a level alone is one edge: a cell has a thickness or none
    apart = np.concatenate([[True], levels[:-1] - levels[1:] > ROUNDING])
    levels = levels[np.maximum.accumulate(np.where(apart, np.arange(len(levels)), 0))]
    middle = (levels[1:] + levels[:-1]) / 2
    index = np.clip((bottom[None, :] > middle[:, None]).sum(axis=1), 0, len(soils) - 1)
    return levels, first[index]
