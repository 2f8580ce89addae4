"""Settlement over time: construction steps, consolidation of the strata, creep, for every foundation and any mark of
the plan."""

import datetime
from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np

from korbent.core.actions.construction import YEAR, Timeline, timeline
from korbent.core.cache import remembered
from korbent.core.ground.profile import profile_at
from korbent.core.model.actions import SettlementMark
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.model.settings import Settings
from korbent.core.settlement.at_places import added_at
from korbent.core.settlement.beside import Beside, besides, feet_below
from korbent.core.settlement.column import Column, column_of
from korbent.core.settlement.creep import creep_strain, slow_factor
from korbent.core.settlement.drainage import Drainage, ends_of_primary
from korbent.core.settlement.integration import immediate_strain, primary_strain, reach
from korbent.core.settlement.laws import lacking_for
from korbent.core.settlement.laws.strain_influence import StrainInfluence
from korbent.core.settlement.memory import (
    BEFORE,
    Staged,
    drains_of,
    excess_at,
    reference_water,
    staged_base,
    water_changes,
)
from korbent.core.settlement.pressing import Pressing, areas_of, pressing_of
from korbent.core.working import Array
from korbent.words import say

FOREVER = 1e7
"""Days beyond which nothing more is waited for."""


def _root(function: Callable[[float], float], a: float, b: float) -> float:
    """The day between two at which a function changes its sign."""
    from scipy.optimize import brentq  # a tenth of a second to load, and seldom asked for

    return float(brentq(function, a, b, xtol=1e-6, rtol=1e-10))


@dataclass(frozen=True)
class PadHistory:
    """The settlement of one point over time. ``times`` in days from the first step; lengths in m, stresses in kPa.

    Of a base it is counted from the moment in which it is built; what the ground settled there before is ``earlier``.
    """

    name: str
    times: Array
    total: Array
    immediate: Array
    creep: Array
    earlier: Array
    """Settlement of the ground that is not that of the base, (times,): all of it before the base is built."""
    by_stratum: Array
    """(times, strata), immediate and creep within."""
    strata: tuple[str, ...]
    levels: Array
    """Levels of the cell edges, (cells + 1,)."""
    before: Array
    """Effective stress before loading, (cells,)."""
    preconsolidation: Array
    """(cells,); nan where the stratum has none."""
    added: Array
    """Added total stress, (times, cells)."""
    excess: Array
    """Excess pore pressure, (times, cells)."""
    strain: Array
    """(times, cells), of what counts, since the base is built."""
    stratum: Array
    """Index of the stratum of each cell."""
    consolidating: Array
    """Which cells consolidate, (cells,)."""
    final: float = 0.0
    """In the end: primary at full dissipation after the last step, and creep at the end of the stated life."""
    final_primary: float = 0.0
    final_immediate: float = 0.0
    final_creep: float = 0.0
    end_of_primary: float = 0.0
    """The day on which primary consolidation under the last step has ended by the rule of the settings, the latest of
    the strata."""
    begins: float = 0.0
    """The day on which the base is built."""
    depth: float = 0.0
    """Down to which depth strata are counted, m below the first cell."""
    below: float = 0.0
    """What lies deeper would add in the end, m."""
    why: str = ""
    """Why there is no history, where there is none."""
    reached: Array = field(default_factory=lambda: np.zeros(0))
    """Greatest added over effective stress of all steps, (cells,)."""
    solve: Callable[[float], float] | None = field(default=None, compare=False, repr=False)
    """Primary settlement with what comes at once, at any day."""
    pore: Callable[[float], tuple[Array, ...]] | None = field(default=None, compare=False, repr=False)
    """Added stress and excess pressure of the cells at any day."""

    def level_of(self, share: float) -> float | None:
        """The level down to which the added stress is more than a share of the effective stress; none where it never
        is."""
        above = np.flatnonzero(self.reached > share)
        return float(self.levels[int(above[-1]) + 1]) if len(above) else None

    @property
    def primary(self) -> Array:
        """Primary settlement with what comes at once, without creep, (times,)."""
        found: Array = self.total - self.creep
        return found

    def at(self, day: float) -> float:
        """Settlement at a day, m."""
        return float(np.interp(day, self.times, self.total))

    def degree(self, day: float) -> float:
        """Primary settlement at a day over that in the end; creep stands apart."""
        whole = self.final_primary
        if abs(whole) < 1e-12:
            return 1.0
        now = self.solve(day) if self.solve is not None else float(np.interp(day, self.times, self.primary))
        return now / whole

    def crossings(self, share: float) -> tuple[float, ...]:
        """The days on which primary settlement passes a share of its end, solved for; after unloading there can be
        several."""
        if not len(self.times) or self.solve is None or abs(self.final_primary) < 1e-12:
            return ()
        days, values = list(self.times), list(self.primary / self.final_primary - share)
        while values[-1] < 0 and days[-1] < FOREVER:
            days.append(2 * days[-1] + 1.0)
            values.append(self.degree(days[-1]) - share)
        found = [days[0]] if values[0] >= 0 and self.begins <= days[0] else []
        for a, b, u, v in zip(days, days[1:], values, values[1:]):
            if (u < 0) != (v < 0):
                found.append(self._solved(a, b, share))
        return tuple(found)

    def _solved(self, a: float, b: float, share: float) -> float:
        def off(day: float) -> float:
            return self.degree(day) - share

        if off(a) * off(b) > 0:
            return b
        return _root(off, a, b)

    def time_to(self, share: float) -> float:
        """The day from which on primary settlement stays beyond a share of its end; inf where it never is."""
        found = self.crossings(share)
        if not found:
            return float(self.times[0]) if len(self.times) and abs(self.final_primary) < 1e-12 else np.inf
        return found[-1]

    def time_at_level(self, share: float, level: float) -> float:
        """The day from which on the excess pressure at a level stays below what is left of the greatest one; inf where
        it never is.

        The degree there is 1 less the excess pressure over the greatest excess pressure at the level.
        """
        if self.pore is None or not len(self.before):
            return np.inf
        cell = int(np.clip((self.levels >= level).sum() - 1, 0, len(self.before) - 1))
        excess = np.abs(self.excess[:, cell])
        most = float(excess.max(initial=0.0))
        if most < 1e-9 or not self.consolidating[cell]:
            return float(self.times[0])
        last = int(np.flatnonzero(excess > (1 - share) * most)[-1])
        if last + 1 >= len(self.times):
            return np.inf

        def off(day: float) -> float:
            assert self.pore is not None
            return float(abs(self.pore(day)[1][cell])) - (1 - share) * most

        a, b = float(self.times[last]), float(self.times[last + 1])
        return _root(off, a, b) if off(a) > 0 >= off(b) else b


@dataclass(frozen=True)
class History:
    """The settlement of all foundations over time."""

    start: datetime.date
    line: Timeline
    times: Array
    pads: tuple[PadHistory, ...]

    def pad(self, name: str) -> PadHistory | None:
        """The history of one foundation, where there is one."""
        return next((p for p in self.pads if p.name == name), None)

    def date(self, day: float) -> datetime.date:
        """The date of a day."""
        return self.start + datetime.timedelta(days=float(day))


@remembered(8)
def history(project: Project) -> History:
    """The settlement of all foundations over the settlement years, under all of them, area loads and water levels."""
    return compute(project)


def compute(
    project: Project, told: Callable[[int, int], None] = lambda done, of: None, stop: Callable[[], bool] = lambda: False
) -> History:
    """As :func:`history`; ``told`` hears how far it is, ``stop`` ends it with the foundations that are done."""
    line = timeline(project)
    pressing, around = pressing_of(project), besides(project)
    found = []
    for pad, one in zip(project.pads, pressing):
        if stop():
            break
        found.append(_of_pad(project, pad, one, around.get(pad.name), line))
        told(len(found), len(project.pads))
    return History(
        line.start,
        line,
        line.output_times(line.life(project.settings)),
        tuple(found),
    )


def base_history(project: Project, name: str) -> PadHistory:
    """The settlement of one foundation, with that of no other worked out."""
    index = next(i for i, pad in enumerate(project.pads) if pad.name == name)
    line, pressing = timeline(project), pressing_of(project)
    return _of_pad(project, project.pads[index], pressing[index], besides(project).get(name), line)


NO_LOAD = say("no construction step, no combination serves 'settlement long', and no area load acts")


def _of_pad(project: Project, pad: Pad, one: Pressing, around: Beside | None, line: Timeline) -> PadHistory:
    if one.profile is None or around is None:
        return _nothing(
            pad.name, say("there is no borehole: describe the ground first") if one.profile is None else NO_LOAD
        )
    if not len(line):
        return _nothing(pad.name, NO_LOAD)
    if one.level <= float(one.profile.end) + 0.01:
        return _nothing(pad.name, say("the base lies below the known ground"))
    settings = project.settings_of(pad)
    staged = staged_base(project, one, around, settings)
    return column_history(project, pad.name, staged)


def mark_level(project: Project, mark: SettlementMark) -> float:
    """The level of a mark: its own, else the excavated, else the finished ground, m."""
    surfaces = project.ground.surfaces
    if mark.level is not None:
        return mark.level
    return surfaces.finished if surfaces.excavated is None else surfaces.excavated


def mark_history(project: Project, mark: SettlementMark) -> PadHistory:
    """The settlement over time of a mark on or in the ground."""
    known = _marks(project)
    key = (mark.name, mark.x, mark.y, mark.level)
    if key not in known:
        known[key] = _of_mark(project, mark)
    return known[key]


@remembered(4)
def _marks(project: Project) -> dict[tuple[str, float, float, float | None], PadHistory]:
    """The marks of a project that are known."""
    return {}


def staged_mark(project: Project, mark: SettlementMark) -> Staged | str:
    """A mark under the construction steps, or why there is none."""
    line = timeline(project)
    profile = profile_at(project.ground, mark.x, mark.y)
    if profile is None:
        return say("there is no borehole: describe the ground first")
    if not len(line):
        return NO_LOAD
    pressing = pressing_of(project) if project.pads else []
    areas = areas_of(pressing)
    level = mark_level(project, mark)
    if level <= float(profile.end) + 0.01:
        return say("the mark lies below the known ground")
    column = column_of(profile, np.array([level]), feet_below(project.actions.area_loads, areas, mark.x, mark.y)[None])
    added = added_at(project, np.array([[mark.x, mark.y]]), column.middle[0])
    stress, angle = (rows[-len(line) :, 0] for rows in added)
    before = column.before(project.ground.backfill, np.array([reference_water(project, line)]))
    changes = water_changes(project, profile, column, line)
    return Staged(
        column,
        line,
        _of_marks(project.settings),
        (mark.x, mark.y),
        before,
        column.yielded(before),
        None,
        np.zeros(len(line)),
        stress + changes,
        angle,
        0,
        changes,
    )


@remembered(8)
def _of_marks(settings: Settings) -> Settings:
    """The settings for marks: the influence depth is a rule for bases, at a mark all known ground counts."""
    return settings.replaced(settlement_influence=0.0)


def _of_mark(project: Project, mark: SettlementMark) -> PadHistory:
    staged = staged_mark(project, mark)
    return _nothing(mark.name, staged) if isinstance(staged, str) else column_history(project, mark.name, staged)


def _nothing(name: str, why: str) -> PadHistory:
    none, flat = np.zeros(0), np.zeros((0, 0))
    return PadHistory(
        name, none, none, none, none, none, flat, (), none, none, none, flat, flat, flat, none, none, why=why
    )


def lacking_in(column: Column) -> str:
    """What the soils of the cells lack to settle by their laws; '' when nothing."""
    soils = column.profile.soils
    used = np.unique(column.stratum[column.thickness[:, 0] > 0])
    return "; ".join(dict.fromkeys(text for k in used if (text := lacking_for(soils[k]))))


def column_history(project: Project, name: str, staged: Staged) -> PadHistory:
    """The settlement of a column over time, to the end of its stated life."""
    column, line, settings = staged.column, staged.line, staged.settings
    why = lacking_in(column)
    if why:
        return _nothing(name, why)
    life = line.life(settings)
    times = line.output_times(life)
    totals = staged.totals()
    drain = drains_of(project, staged)
    cells = totals.shape[1]
    excess = excess_at(staged, drain, totals, times)
    if excess is None:
        excess = np.zeros((len(times), cells))
    # the last row is the end: all that was pressed out, creep at the end of the life
    shares = np.concatenate([line.shares_at(times), np.ones((1, len(line)))])
    path = staged.path(shares, np.concatenate([excess, np.zeros((1, cells))]))
    primary = primary_strain(column, path)[:, 0, 0]
    immediate = immediate_strain(column, path)[:, 0, 0]
    days = np.append(times, life)
    slow, ends = _creep(staged, drain, totals, days)
    found = reach(column, totals[:, None, None, :], staged.before, settings.settlement_influence)
    size = found.counted[0, 0] * column.thickness[0, 0]
    built = staged.begins
    whole = (primary + immediate + slow) @ size
    since = np.flatnonzero(days >= built - BEFORE / 2)[0]
    start = [v[since - 1] if since else 0.0 * v[0] for v in (primary, immediate, slow)]
    after = (np.arange(len(days)) >= since)[:, None]
    primary, immediate, slow = (after * (v - v0) for v, v0 in zip((primary, immediate, slow), start))
    strain = primary + immediate + slow
    by_stratum = column.by_stratum((strain * found.counted[0])[:, None, None, :])[:, 0, 0]
    total = strain @ size
    oedometer = column.follows("oedometer")[0, 0]
    creep = slow @ size
    some = np.flatnonzero(column.thickness[0, 0] > 0)
    followed = _Followed(staged, drain, totals, size, float((start[0] + start[1]) @ size) if since else 0.0, some)
    latest = float((line.clocks[-1] + ends[-1][some]).max())
    return PadHistory(
        name=name,
        times=times,
        total=total[:-1],
        immediate=(immediate @ size)[:-1],
        creep=creep[:-1],
        earlier=(whole - total)[:-1],
        by_stratum=by_stratum[:-1],
        strata=tuple(s.name for s in column.profile.soils),
        levels=np.append(column.levels[0, some], column.levels[0, some[-1] + 1]),
        before=staged.before[0, 0, some],
        preconsolidation=np.where(oedometer, staged.yielded[0, 0], np.nan)[some],
        added=path.total[:-1, 0, 0][:, some],
        excess=excess[:, some],
        strain=(strain * found.counted[0, 0])[:-1, some],
        stratum=column.stratum[0, some],
        consolidating=(np.zeros(cells, dtype=bool) if drain is None else drain.consolidating)[some],
        final=float(total[-1]),
        final_primary=float(total[-1] - creep[-1]),
        final_immediate=float((immediate @ size)[-1]),
        final_creep=float(creep[-1]),
        end_of_primary=latest,
        begins=built,
        depth=float(found.depth[0, 0]),
        below=float(strain[-1] @ (column.thickness[0, 0] - size)),
        reached=_reached(totals[:, some], staged.before[0, 0, some]),
        solve=followed.solve,
        pore=followed.pore,
    )


def _reached(totals: Array, before: Array) -> Array:
    """Greatest added over effective stress of all steps, (cells,)."""
    ratio: Array = np.abs(totals).max(axis=0) / np.maximum(before, 0.1)
    return ratio


def _creep(staged: Staged, drain: Drainage | None, totals: Array, days: Array) -> tuple[Array, Array]:
    """Strain by creep (days, cells), and days from each step to the end of primary (steps, cells)."""
    column, line, settings = staged.column, staged.line, staged.settings
    ends = ends_of_primary([column], [drain], [totals], line, settings)[0]
    found = creep_strain(
        column,
        days,
        line.clocks,
        ends[:, None, None, :],
        staged.before + totals[:, None, None, :],
        staged.before,
        staged.yielded,
    )[:, 0, 0]
    influenced = column.follows("strain_influence")[0, 0]
    if influenced.any() and staged.footing is not None:
        shares = np.concatenate([line.shares_at(days[:-1]), np.ones((1, len(line)))])
        under = StrainInfluence.under(column, staged.path(shares))[:, 0, 0]
        factor = slow_factor(days, line.clocks, staged.stages[:, None, None])[:, 0]
        found = np.where(influenced, found + factor * np.maximum(under, 0.0), found)
    return found, ends


@dataclass(frozen=True)
class _Followed:
    """The column of one point, followed to any day: the greatest stress of the past is met on the way."""

    staged: Staged
    drain: Drainage | None
    totals: Array
    size: Array
    start: float
    some: Array
    """The cells that there are."""

    def _path_to(self, day: float, history: bool) -> tuple[Array, Array | None]:
        line = self.staged.line
        known = line.output_times(line.life(self.staged.settings))
        times = np.append(known[known < day], day) if history else np.array([day])
        return line.shares_at(times), excess_at(self.staged, self.drain, self.totals, times)

    def solve(self, day: float) -> float:
        """Primary settlement at a day, m."""
        staged = self.staged
        if day < staged.begins - BEFORE / 2:
            return 0.0
        path = staged.path(*self._path_to(day, True))
        strain = primary_strain(staged.column, path)[-1, 0, 0] + immediate_strain(staged.column, path)[-1, 0, 0]
        return float(strain @ self.size) - self.start

    def pore(self, day: float) -> tuple[Array, ...]:
        """(added stress, excess pore pressure) in the cells at a day, kPa."""
        shares, excess = self._path_to(day, False)
        added = self.staged.path(shares).total[0, 0, 0]
        return added[self.some], (np.zeros(len(added)) if excess is None else excess[0])[self.some]


def without_drains(project: Project) -> Project:
    """The project without its band drains, to compare."""
    return project.replaced(actions=project.actions.replaced(drains=()))


__all__ = ["YEAR", "History", "PadHistory", "compute", "history", "mark_history", "without_drains"]
