"""What the ground below a base remembers of the construction steps: how it was pressed before, and when primary
ends."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from korbent.core.actions.construction import Timeline, timeline
from korbent.core.bench import stands_of
from korbent.core.cache import MEGABYTE, Cache
from korbent.core.ground.profile import DRY, Profile, effective_stress
from korbent.core.model.project import Project
from korbent.core.model.settings import Settings
from korbent.core.settlement.beside import Beside, besides, column_below
from korbent.core.settlement.column import Column
from korbent.core.settlement.creep import creep_strain
from korbent.core.settlement.drainage import Drainage, drainage, ends_of_primary, needs_stiffness
from korbent.core.settlement.footing import Footing
from korbent.core.settlement.integration import immediate_strain, primary_strain
from korbent.core.settlement.laws import Path
from korbent.core.settlement.pressing import Pressing, pressing_of
from korbent.core.working import Array

BEFORE = 1e-6
"""So many days before a step is just before it."""


@dataclass(frozen=True)
class Staged:
    """A column of one point under the construction steps."""

    column: Column
    line: Timeline
    settings: Settings
    place: tuple[float, float]
    before: Array
    """(1, 1, cells)."""
    yielded: Array
    footing: Footing | None
    stages: Array
    """Net pressure of the base itself after each step, (steps,)."""
    beside: Array
    """Of all else, with what a change of the water level comes to in effective stress, (steps, cells)."""
    angle: Array | None
    first: int
    """The step from which on it is the settlement of the base, 0 for a mark."""
    water: Array
    """The part of ``beside`` that changes of the water level come to, (steps, cells)."""

    @cached_property
    def unit(self) -> Array:
        """Stress of a unit pressure of the base itself, (1, 1, cells)."""
        if self.footing is None:
            return np.zeros((1, 1, self.before.shape[-1]))
        return self.footing.unit(self.column)

    def path(self, shares: Array, excess: Array | None = None) -> Path:
        """The path at moments, from the shares of the steps' changes that are there, (moments, steps)."""

        def of(values: Array) -> Array:
            found: Array = shares @ np.diff(np.concatenate([np.zeros((1, *values.shape[1:])), values]), axis=0)
            return found

        return Path(
            self.before,
            self.yielded,
            of(self.stages)[:, None, None],
            self.unit,
            of(self.beside)[:, None, None, :],
            self.footing,
            None if self.angle is None else of(self.angle)[:, None, None, :],
            None if excess is None else excess[:, None, None, :],
            sideways=self.footing is None or self.settings.elastic_beside == "three_stresses",
        )

    def whole(self) -> Path:
        """One moment for each step, at full dissipation."""
        n = len(self.line)
        return self.path(np.tril(np.ones((n, n))))

    def totals(self) -> Array:
        """Total stress after each step, (steps, cells)."""
        found: Array = self.stages[:, None] * self.unit[0, 0] + self.beside
        return found

    @property
    def begins(self) -> float:
        """The day from which on it is the settlement of the base."""
        return float(self.line.begins[self.first]) if self.first < len(self.line) else float(self.line.ends[-1])


def water_changes(project: Project, profile: Profile, column: Column, line: Timeline) -> Array:
    """What the water levels of the steps come to in effective stress against the first one, kPa, (steps, cells)."""
    water = project.ground.water
    found = np.zeros((len(line), column.middle.shape[1]))
    if water is None or len({step.water for step in line.steps}) < 2:
        return found
    level = column.middle[0]
    stress = {
        name: effective_stress(
            profile,
            project.ground.backfill,
            np.array(float(np.ravel(profile.existing)[0])),
            level[None],
            np.array(getattr(water, name)),
        )[0]
        for name in {step.water for step in line.steps}
    }
    for i, step in enumerate(line.steps):
        found[i] = stress[step.water] - stress[line.steps[0].water]
    return found


def reference_water(project: Project, line: Timeline) -> float:
    """The water level before anything is built, m."""
    water = project.ground.water
    return float(getattr(water, line.steps[0].water)) if water and len(line) else DRY


def footing_of(project: Project, one: Pressing, column: Column, settings: Settings, water: Array) -> Footing:
    """A base of the project as it presses the cells below it; water (situations,) as before anything is built."""
    assert one.profile is not None
    from korbent.core.settlement.formulas import peak_depth

    B, L, level = (np.array([[v]]) for v in (one.B, one.L, one.level))
    peak = level - peak_depth(np.minimum(B, L), np.maximum(B, L))
    at = [
        effective_stress(
            one.profile,
            project.ground.backfill,
            np.array(float(np.ravel(one.profile.existing)[0])),
            z + 0.0 * water,
            water,
        )
        for z in (level, peak)
    ]
    return Footing(
        B,
        L,
        level,
        np.array([[one.radius]]) if one.radius else None,
        np.array([[one.hole]]) if one.radius else None,
        np.array([[one.embedment]]) if settings.settlement_embedment == "Fox 1948" else None,
        at[0],
        at[1],
        strip=settings.pore_pressure_shape == "strip",
    )


def staged_base(project: Project, one: Pressing, around: Beside, settings: Settings) -> Staged:
    """A base of the project under the construction steps."""
    bare, changes = _bare(project, one, around.feet, settings)
    found = replace(
        bare,
        beside=around.stages + changes,
        angle=around.angle_stages,
        stages=one.stages,
    )
    found.__dict__["unit"] = bare.unit  # worked out once
    return found


_bares: Cache[tuple[Staged, Array]] = Cache(128 * MEGABYTE)


def _bare(project: Project, one: Pressing, feet: Array, settings: Settings) -> tuple[Staged, Array]:
    """A base without what acts beside it, and what its water changes come to; kept as long as the base stays the
    same."""
    line = timeline(project)
    values = (one, settings, line, project.ground.backfill, project.ground.water)
    key = (feet.tobytes(), *map(id, values))
    return _bares.of(key, values, lambda: _worked_out(project, one, feet, settings, line))


def _worked_out(
    project: Project, one: Pressing, feet: Array, settings: Settings, line: Timeline
) -> tuple[Staged, Array]:
    assert one.profile is not None
    column = column_below(one, feet)
    water = np.array([reference_water(project, line)])
    before = column.before(project.ground.backfill, water)
    changes = water_changes(project, one.profile, column, line)
    staged = Staged(
        column,
        line,
        settings,
        (one.x, one.y),
        before,
        column.yielded(before),
        footing_of(project, one, column, settings, water),
        one.stages,
        changes,
        None,
        one.first,
        changes,
    )
    return staged, changes


def drains_of(project: Project, staged: Staged) -> Drainage | None:
    """How the column drains; none where no stratum of it holds water back, or nothing ever presses it."""
    column, drains = staged.column, project.actions.drains
    key = (id(column), id(staged.settings), *map(id, drains), staged.place)
    kept = _drained.those_of([key])
    if kept:
        return kept[0]
    soils = column.profile.soils
    sized = column.thickness[0, 0] > 0
    if not len(staged.line) or not any(soils[k].consolidates for k in np.unique(column.stratum[0][sized])):
        return None
    if needs_stiffness(column, drains, staged.place):
        return drainage(column, staged.whole(), drains, staged.place, staged.settings)
    found = drainage(column, None, drains, staged.place, staged.settings)
    return _drained.put(key, (column, staged.settings, drains), found)


_drained: Cache[Drainage] = Cache(128 * MEGABYTE)


@dataclass(frozen=True)
class Memory:
    """What the ground below a base remembers, on the cells below it as it is (levels of their middles, (cells,))."""

    levels: Array
    ends: Array
    """Days from the middle of each step's ramp to the end of primary, (steps, cells)."""
    water: Array
    """Change of the effective stress by the water level, (steps, cells)."""
    strain: Array
    """Primary strain when the base is built, (cells,)."""
    immediate: Array
    creep: Array
    highest: Array
    """Greatest effective stress that anything before the last state leaves behind, (cells,); 0 where it does not
    matter."""
    totals: Array
    """Total stress after each step, (steps, cells)."""
    held: Array | None
    """Excess pressure just before the next step, (steps, cells), where a later step takes stress away."""
    before: Array
    """Effective stress before loading, (cells,)."""


def memories(project: Project, names: Sequence[str], around: Mapping[str, Beside] | None = None) -> dict[str, Memory]:
    """What the ground below some bases remembers; kept as long as what leads to it stays the same. ``around``: what
    acts beside them, where it is not what the project puts there."""
    line = timeline(project)
    if not len(line):
        return {}
    known = around or besides(project)
    pressing = dict(zip((pad.name for pad in project.pads), pressing_of(project)))
    stands = stands_of(project)
    common = (line, *project.actions.drains, *project.ground.soils)
    found: dict[str, Memory] = {}
    todo: list[tuple[str, tuple[object, ...], tuple[Any, ...]]] = []
    for name in names:
        if name not in known:
            continue
        values = (pressing[name], known[name], stands[name].settings, *common)
        key: tuple[object, ...] = tuple(map(id, values))
        kept = _memories.those_of([key])
        if kept:
            found[name] = kept[0]
        else:
            todo.append((name, key, values))
    staged = [staged_base(project, values[0], values[1], values[2]) for _, _, values in todo]
    for (name, key, values), memory in zip(todo, remember(project, staged)):
        found[name] = _memories.put(key, values, memory)
    return found


_memories: Cache[Memory] = Cache(128 * MEGABYTE)


def at_level(project: Project, name: str, level: float) -> tuple[Beside, Memory | None]:
    """What acts beside a base, and what the ground remembers, if it were founded at another level."""
    one = next(p for pad, p in zip(project.pads, pressing_of(project)) if pad.name == name)
    around = besides(project)[name]
    settings, line = project.settings_of(project.pad(name)), timeline(project)
    values = (one, around, settings, line, *project.actions.drains)
    key = (level, *map(id, values))

    def made() -> tuple[Beside, Memory | None]:
        there = replace(one, level=level)
        column = column_below(there, around.feet)
        middle = column.middle[0]
        moved = replace(
            around,
            levels=middle,
            sized=column.thickness[0, 0] > 0,
            stress=around.at(middle, around.stress),
            stages=around.at(middle, around.stages),
            along_x=around.at(middle, around.along_x),
            along_y=around.at(middle, around.along_y),
            angle=None if around.angle is None else around.at(middle, around.angle),
            angle_stages=None if around.angle_stages is None else around.at(middle, around.angle_stages),
        )
        memory = remember(project, [staged_base(project, there, moved, settings)])[0] if len(line) else None
        return moved, memory

    return _moved.of(key, values, made)


_moved: Cache[tuple[Beside, Memory | None]] = Cache()


def remember(project: Project, staged: Sequence[Staged]) -> list[Memory]:
    """What the ground below some points remembers of the steps that pressed it."""
    totals = [one.totals() for one in staged]
    creeping = [one.column.creeping for one in staged]
    falls = [_unloads(one, total) for one, total in zip(staged, totals)]
    drained = [
        drains_of(project, one) if creep or fall or one.first else None
        for one, creep, fall in zip(staged, creeping, falls)
    ]
    groups: dict[tuple[object, ...], list[int]] = {}
    for i, one in enumerate(staged):
        how = one.settings
        alike = (one.column.levels.shape[1], how.creep_from, how.creep_days, how.creep_remaining)
        groups.setdefault(alike, []).append(i)
    ends: dict[int, Array] = {}
    for rows in groups.values():
        some = [drained[i] if creeping[i] else None for i in rows]
        found = ends_of_primary(
            [staged[i].column for i in rows],
            some,
            [totals[i] for i in rows],
            staged[rows[0]].line,
            staged[rows[0]].settings,
        )
        ends |= dict(zip(rows, found))
    return [
        _memory(project, one, total, drain, ends[i], fall)
        for i, (one, total, drain, fall) in enumerate(zip(staged, totals, drained, falls))
    ]


def _unloads(staged: Staged, totals: Array) -> bool:
    """A step takes stress away from cells that do not forget."""
    if not (totals[1:] < totals[:-1] - 1e-9).any():
        return False
    cells = staged.column.follows("oedometer")[0, 0] & (staged.column.thickness[0, 0] > 0)
    return bool((np.diff(totals[:, cells], axis=0) < -1e-9).any())


def excess_at(
    staged: Staged, drain: Drainage | None, totals: Array, times: Array, count: int | None = None
) -> Array | None:
    """What is not effective yet at times (times, cells): the excess pressure, or by the average degree; none where all
    drains."""
    if drain is None:
        return None
    how = drain.held_back if staged.settings.settlement_time == "average_degree" else drain.excess
    return how(staged.line, totals, times, count)


def _memory(
    project: Project, staged: Staged, totals: Array, drain: Drainage | None, ends: Array, falls: bool
) -> Memory:
    line, column = staged.line, staged.column
    cells = totals.shape[1]
    strain, immediate, creep = np.zeros(cells), np.zeros(cells), np.zeros(cells)
    highest, held = np.zeros(cells), None
    assert column.profile is not None
    if staged.first:
        strain, immediate, creep, highest = _when_built(staged, totals, drain, ends)
    if falls:
        times = line.output_times(line.life(staged.settings))
        excess = excess_at(staged, drain, totals, times)
        path = staged.path(line.shares_at(times), excess)
        highest = path.after[:, 0, 0].max(axis=0)
        events = np.append(line.begins[1:] - BEFORE, np.inf)
        held = np.zeros(totals.shape)
        if drain is not None:
            found = excess_at(staged, drain, totals, events[:-1])
            assert found is not None
            held[:-1] = found
    return Memory(
        column.middle[0],
        ends,
        staged.water,
        strain,
        immediate,
        creep,
        highest,
        totals,
        held,
        staged.before[0, 0],
    )


_built: Cache[tuple[Array, Array, Array, Array]] = Cache()


def _angles(staged: Staged, first: int) -> tuple[bytes, ...]:
    """What else the strains of the first steps are made from."""
    return () if staged.angle is None else (staged.angle[:first].tobytes(),)


def _when_built(
    staged: Staged, totals: Array, drain: Drainage | None, ends: Array
) -> tuple[Array, Array, Array, Array]:
    """Primary, immediate and creep strain when the base is built, and the greatest effective stress until then; each
    (cells,).

    It depends on what came before alone, and so is found again while the bases that come later change.
    """
    first, line, column = staged.first, staged.line, staged.column
    # the unit stress is one object as long as the base, its cells and the steps stay the same
    key = (
        id(staged.unit),
        totals[:first].tobytes(),
        None if drain is None else id(drain.modes),
        *_angles(staged, first),
    )
    kept = _built.those_of([key])
    if kept:
        return kept[0]
    built = staged.begins
    known = line.output_times(line.life(staged.settings))
    times = np.append(known[known < built - BEFORE / 2], built - BEFORE)
    excess = excess_at(staged, drain, totals, times, first)
    path = staged.path(line.shares_at(times), excess)
    primary = primary_strain(column, path)[-1, 0, 0]
    immediate = immediate_strain(column, path)[-1, 0, 0]
    slow = creep_strain(
        column,
        [built - BEFORE],
        line.clocks[:first],
        ends[:first, None, None, :],
        staged.before + totals[:first, None, None, :],
        staged.before,
        staged.yielded,
    )[0, 0, 0]
    found = (primary, immediate, slow, path.after[:, 0, 0].max(axis=0))
    return _built.put(key, (staged.unit, drain), found)
