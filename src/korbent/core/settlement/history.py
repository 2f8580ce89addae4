"""Settlement over time: construction steps, consolidation of the strata, creep, for every foundation and any mark of the plan."""

import datetime
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from korbent.core.ground.profile import Profile, effective_stress, missing, profile_at
from korbent.core.identity import remembered
from korbent.core.model.actions import BandDrains
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.model.settings import Settings
from korbent.core.settlement.boussinesq import CHARACTERISTIC, stress_below
from korbent.core.settlement.consolidation import (
    Cells,
    Ramp,
    drain_rate,
    excess_pressure,
    graded,
    modes,
    permeability,
    total_stress_change,
)
from korbent.core.settlement.creep import creep_of
from korbent.core.settlement.final import NEEDED
from korbent.core.settlement.influence import Areas, area_load_stress, stress_at
from korbent.core.settlement.laws import (
    peak_depth,
)
from korbent.core.settlement.loadings import (
    FAR_DATE,
    YEAR,
    LoadedBase,
    Loading,
    loadings_of,
    output_times,
    shares_at,
    steps_of,
)
from korbent.core.settlement.strains import Law, by_average_degree, embedded, immediate_part, law_of, sides_of
from korbent.core.working import Array

CONSOLIDATING_CELLS, OTHER_CELLS = 40, 10


@dataclass(frozen=True)
class PadHistory:
    """The settlement of one point over time. ``times`` in days from the first step; lengths in m, stresses in kPa."""

    name: str
    times: Array
    total: Array
    immediate: Array
    creep: Array
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
    """(times, cells)."""
    stratum: Array
    """Index of the stratum of each cell."""
    consolidating: Array
    """Which cells consolidate, (cells,)."""
    why: str = ""
    """Why there is no history, where there is none."""

    def at(self, day: float) -> float:
        """Settlement at a day, m."""
        return float(np.interp(day, self.times, self.total))

    def degree(self, day: float) -> float:
        """Settlement at a day over that at the end."""
        return self.at(day) / self.total[-1] if abs(self.total[-1]) > 1e-12 else 1.0

    def time_to(self, share: float) -> float:
        """The day at which a share of the final settlement is reached for good."""
        target = share * self.total[-1]
        below = np.flatnonzero(self.total < target - 1e-12)
        if not len(below):
            return float(self.times[0])
        i = int(below[-1])
        if i + 1 >= len(self.times):
            return float(self.times[-1])
        a, b = self.total[i], self.total[i + 1]
        return float(self.times[i] + (target - a) / (b - a) * (self.times[i + 1] - self.times[i]))


@dataclass(frozen=True)
class History:
    """The settlement of all foundations over time."""

    start: datetime.date
    loadings: tuple[Loading, ...]
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
) -> History:  # fmt: skip
    """As :func:`history`; ``told`` hears how far it is, ``stop`` ends it with the foundations that are done."""
    bases, loadings = loadings_of(project)
    horizon = max([project.settings.settlement_years * YEAR, *(1.2 * loading.ends for loading in loadings)])
    times = output_times(loadings, horizon)
    steps = steps_of(project)
    found = []
    for i, pad in enumerate(project.pads):
        if stop():
            break
        found.append(_of_pad(project, pad, i, bases, loadings, times))
        told(i + 1, len(project.pads))
    return History(steps[0].date if steps else FAR_DATE, tuple(loadings), times, tuple(found))


def mark_history(project: Project, name: str, x: float, y: float) -> PadHistory:
    """The settlement over time of a mark on the ground, at the excavated, else finished level."""
    known = _marks(project)
    if (name, x, y) not in known:
        known[name, x, y] = _of_mark(project, name, x, y)
    return known[name, x, y]


@remembered(4)
def _marks(project: Project) -> dict[tuple[str, float, float], PadHistory]:
    """The marks of a project that are known."""
    return {}


def _of_mark(project: Project, name: str, x: float, y: float) -> PadHistory:
    bases, loadings = loadings_of(project)
    horizon = max([project.settings.settlement_years * YEAR, *(1.2 * loading.ends for loading in loadings)])
    surfaces = project.ground.surfaces
    level = surfaces.finished if surfaces.excavated is None else surfaces.excavated
    profile = profile_at(project.ground, x, y)
    if profile is None:
        return _nothing(name, "there is no borehole: describe the ground first")
    level = min(level, float(profile.top[0]) - 1e-3)
    mark = LoadedBase(x, y, 0.0, 0.0, 0.0, level, float(profile.existing))
    return _column(
        project, name, mark, None, bases, loadings, output_times(loadings, horizon), project.settings
    )


def _of_pad(
    project: Project, pad: Pad, index: int, bases: list[LoadedBase], loadings: list[Loading], times: Array
) -> PadHistory:
    return _column(project, pad.name, bases[index], index, bases, loadings, times, project.settings_of(pad))


def _nothing(name: str, why: str) -> PadHistory:
    none = np.zeros(0)
    return PadHistory(
        name,
        none,
        none,
        none,
        none,
        np.zeros((0, 0)),
        (),
        none,
        none,
        none,
        np.zeros((0, 0)),
        np.zeros((0, 0)),
        np.zeros((0, 0)),
        none,
        none,
        why,
    )


def _column(
    project: Project, name: str, base: LoadedBase, own: int | None, bases: list[LoadedBase], loadings: list[Loading], times: Array, settings: Settings
) -> PadHistory:  # fmt: skip
    profile = profile_at(project.ground, base.x, base.y)
    if profile is None:
        return _nothing(name, "there is no borehole: describe the ground first")
    if not loadings:
        return _nothing(name, "no construction step, and no combination serves 'settlement long'")
    if base.level <= float(profile.end) + 0.01:
        return _nothing(name, "the base lies below the known ground")
    lacking = [
        missing(soil, NEEDED[soil.compression])
        for soil, bottom in zip(profile.soils, profile.bottom)
        if bottom < base.level
    ]
    why = "; ".join(dict.fromkeys(text for text in lacking if text))
    if why:
        return _nothing(name, why)
    levels, stratum = _grid(profile, base.level)
    middle = (levels[1:] + levels[:-1]) / 2
    thickness = levels[:-1] - levels[1:]
    water = project.ground.water
    reference = getattr(water, loadings[0].water) if water else -1e6
    before = effective_stress(
        profile, project.ground.backfill, np.array(base.surface), middle, np.array(reference)
    )
    stresses = _stresses(project, base, own, bases, loadings, middle, profile, before)
    changes = np.diff(np.concatenate([np.zeros((1, len(middle))), stresses], axis=0), axis=0)
    ramps = [Ramp(a.begins, a.ends, change) for a, change in zip(loadings, changes)]
    total = total_stress_change(ramps, times, len(middle))
    counted = _counted(levels, stresses[-1], before, settings.settlement_influence)
    peak = float(peak_depth(*sides_of(base)))
    at_base = effective_stress(
        profile,
        project.ground.backfill,
        np.array(base.surface),
        np.array([base.level, base.level - peak]),
        np.array(reference),
    )
    law = law_of(profile, stratum, base, own, loadings, levels, before, settings, at_base, times / YEAR)
    mv = _secant(law, stratum, stresses, thickness)
    cv = np.array([profile.soils[i].consolidation_coefficient or np.inf for i in stratum])
    rate = _drain_rates(project, profile, stratum, base, middle, levels, mv)
    cells = Cells(thickness, cv, mv, rate, True, not profile.rigid_below and not np.isfinite(cv[-1]))
    excess = excess_pressure(modes(cells), ramps, times, len(middle))
    pressing = shares_at(loadings, times)
    if settings.settlement_time == "average degree":
        strain = by_average_degree(law, total, excess, before, stratum, thickness, pressing)
    else:
        strain = law(total - excess, pressing, total)
    immediate = immediate_part(profile, stratum, base, own, loadings, levels, pressing, counted)
    immediate = immediate * (1.0 if own is None else embedded(base, 0.5, settings))
    creep = creep_of(profile, stratum, loadings, times, total, excess, before, settings, strain, thickness)
    count = len(profile.soils)
    by_stratum = np.zeros((len(times), count))
    parts = (strain + creep) * thickness * counted
    for k in range(count):
        by_stratum[:, k] = parts[:, stratum == k].sum(axis=1) + immediate[:, k]
    pre = np.array(
        [
            b
            * (
                profile.soils[i].overconsolidation_ratio
                if profile.soils[i].compression == "oedometer"
                else np.nan
            )
            for i, b in zip(stratum, before)
        ]
    )
    return PadHistory(
        name=name, times=times, total=by_stratum.sum(axis=1), immediate=immediate.sum(axis=1),
        creep=(creep * thickness * counted).sum(axis=1), by_stratum=by_stratum, strata=tuple(s.name for s in profile.soils),
        levels=levels, before=before, preconsolidation=pre, added=total, excess=excess, strain=(strain + creep) * (counted > 0), stratum=stratum,
        consolidating=cells.consolidating,
    )  # fmt: skip


def _grid(profile: Profile, level: float) -> tuple[Array, Array]:
    """Levels of the cell edges from the underside down, and the stratum of each cell."""
    edges, stratum = [level], []
    for i, soil in enumerate(profile.soils):
        top, bottom = min(float(profile.top[i]), level), float(profile.bottom[i])
        if bottom >= level - 1e-9 or top <= bottom:
            continue
        count = CONSOLIDATING_CELLS if soil.consolidation_coefficient else OTHER_CELLS
        edges += list(graded(top, bottom, count)[1:])
        stratum += [i] * count
    return np.array(edges), np.array(stratum, dtype=int)


def _stresses(
    project: Project, base: LoadedBase, own: int | None, bases: list[LoadedBase], loadings: list[Loading], middle: Array, profile: Profile, before: Array
) -> Array:  # fmt: skip
    """Total stress (kPa) added by each step at the cells, with the change of the water level as it ends up in effective stress."""
    areas = Areas(*(np.array([getattr(b, n) for b in bases]) for n in ("x", "y", "B", "L", "turn", "level")))
    unit = stress_at(base.x, base.y, middle, areas) if len(bases) else np.zeros((0, len(middle)))
    if own is not None:
        unit[own] = stress_below(np.array(base.B), np.array(base.L), base.level - middle, CHARACTERISTIC)
    found = np.stack([loading.pressure @ unit for loading in loadings])
    for j, load in enumerate(project.actions.area_loads):
        shares = np.array([loading.areas[j] for loading in loadings])
        if shares.any():
            found += shares[:, None] * area_load_stress(load, np.array(base.x), np.array(base.y), middle)
    water = project.ground.water
    if water:
        for i, loading in enumerate(loadings):
            if loading.water != loadings[0].water:
                level = np.array(getattr(water, loading.water))
                after = effective_stress(
                    profile, project.ground.backfill, np.array(base.surface), middle, level
                )
                found[i] += after - before
    return found


def _counted(levels: Array, added: Array, before: Array, limit: float) -> Array:
    """Share of each cell above the influence depth, 0 to 1."""
    ratio = np.abs(added) / np.maximum(before, 0.1)
    above = np.flatnonzero(ratio > limit)
    if not len(above):
        return np.zeros(len(added))
    last = int(above[-1])
    middle = (levels[1:] + levels[:-1]) / 2
    if last + 1 < len(ratio):
        share = (ratio[last] - limit) / max(ratio[last] - ratio[last + 1], 1e-12)
        end = middle[last] + share * (middle[last + 1] - middle[last])
    else:
        end = levels[-1]
    thickness = levels[:-1] - levels[1:]
    counted: Array = np.clip((levels[:-1] - end) / thickness, 0.0, 1.0)
    return counted


def _secant(law: Law, stratum: Array, stresses: Array, thickness: Array) -> Array:
    """mv (1/kPa) of every cell: the mean of its stratum over the greatest stress that the steps add."""
    greatest = stresses[np.abs(stresses).sum(axis=1).argmax()]
    shares = np.ones((1, len(stresses)))
    found = law(greatest[None], shares, greatest[None])[0]
    mv = np.full(len(stratum), 1e-4)
    for k in np.unique(stratum):
        cells = stratum == k
        stress = float((np.abs(greatest[cells]) * thickness[cells]).sum())
        strained = float((np.abs(found[cells]) * thickness[cells]).sum())
        if stress > 1e-9 and strained > 1e-12:
            mv[cells] = strained / stress
    return mv


def _drain_rates(
    project: Project,
    profile: Profile,
    stratum: Array,
    base: LoadedBase,
    middle: Array,
    levels: Array,
    mv: Array,
) -> Array:
    """The share of the excess pressure that band drains take away, 1/day by cell."""
    rate = np.zeros(len(middle))
    for field in project.actions.drains:
        if not _within(field, base.x, base.y):
            continue
        length = max(float(levels[0]) - field.level, 0.1)
        for k in np.unique(stratum):
            soil = profile.soils[k]
            if soil.consolidation_coefficient is None:
                continue
            ch = soil.horizontal_consolidation or soil.consolidation_coefficient
            cells = (stratum == k) & (middle > field.level)
            if cells.any():
                kh = float(permeability(np.array(ch), mv[cells][:1])[0])
                rate[cells] += drain_rate(
                    ch, field.spacing, field.pattern, field.drain, field.smear, field.smear_permeability, length, kh, field.discharge
                )  # fmt: skip
    return rate


def _within(field: BandDrains, x: float, y: float) -> bool:
    c, s = np.cos(np.deg2rad(field.rotation)), np.sin(np.deg2rad(field.rotation))
    u, v = c * (x - field.x) + s * (y - field.y), c * (y - field.y) - s * (x - field.x)
    return bool(abs(u) <= field.size_x / 2 + 1e-9 and abs(v) <= field.size_y / 2 + 1e-9)


def without_drains(project: Project) -> Project:
    """The project without its band drains, to compare."""
    return project.replaced(actions=project.actions.replaced(drains=()))


__all__ = ["History", "PadHistory", "compute", "history", "mark_history", "without_drains"]
