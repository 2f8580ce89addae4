"""Settlement over time: construction steps, consolidation of the strata, creep, for every foundation and any mark of the plan."""

import datetime
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from korbent.core.actions.situations import Situations, situations_for
from korbent.core.bench import bench_for
from korbent.core.geometry import table
from korbent.core.ground.profile import Profile, effective_stress, missing, profile_at, total_stress
from korbent.core.identity import remembered
from korbent.core.model.actions import BandDrains, Combination, ConstructionStep
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.model.settings import Settings
from korbent.core.settlement.boussinesq import CHARACTERISTIC, displacement_below, stress_below
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
from korbent.core.settlement.final import NEEDED
from korbent.core.settlement.footing import equal_rectangle
from korbent.core.settlement.influence import Areas, area_load_stress, stress_at
from korbent.core.settlement.laws import (
    confined,
    embedment_factor,
    fox,
    peak_depth,
    skempton_bjerrum,
    strain_influence,
    time_factor,
)
from korbent.core.working import SILENT, Array

CONSOLIDATING_CELLS, OTHER_CELLS = 40, 10
YEAR = 365.25
FIRST_DAY = 1.0
POINTS = 18
"""Output times after each step, evenly over the logarithm of the time since its start."""


@dataclass(frozen=True)
class Loading:
    """One construction step as it presses: days from the first step, and the net pressure (kPa) of every base."""

    name: str
    begins: float
    ends: float
    pressure: Array
    areas: Array
    """Share of every area load."""
    water: str


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


FINAL_STEP = "sustained load"
FAR_DATE = datetime.date(2000, 1, 1)


def steps_of(project: Project) -> tuple[ConstructionStep, ...]:
    """The construction steps; where there is none, one in which the sustained combination acts."""
    if project.actions.steps:
        return project.actions.steps
    combination = next((c for c in project.actions.combinations if "settlement long" in c.serves), None)
    if combination is None:
        return ()
    factors = {**combination.factors, **{a.name: 1.0 for a in project.actions.area_loads}}
    return (ConstructionStep(name=FINAL_STEP, date=FAR_DATE, factors=factors),)


@dataclass(frozen=True)
class _Base:
    """One base as it presses the ground, for every step."""

    x: float
    y: float
    B: float
    L: float
    turn: float
    level: float
    surface: float
    embedment: float = 0.0
    """Depth below the finished ground, m."""


def loadings_of(project: Project) -> tuple[list[_Base], list[Loading]]:
    """All bases, and the steps with the net pressure of each of them.

    The own weight of a base and its backfill, less the excavated ground, act from the first step in which one of its load
    cases acts.
    """
    steps = steps_of(project)
    first = steps[0].date if steps else FAR_DATE
    bases: list[_Base] = []
    pressures = np.zeros((len(steps), len(project.pads)))
    for column, pad in enumerate(project.pads):
        bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad)).on_ground()
        g = bench.geometry
        situations = _as_situations(project, steps)
        forces = bench.forces(situations, SILENT)
        profile = bench.profile
        before, surface = 0.0, bench.finished
        if profile is not None:
            existing = profile.existing_at(g.underside)
            surface = float(np.ravel(existing)[0])
            water = np.minimum(situations.water_level[:1], existing)
            before = float(
                np.ravel(total_stress(profile, project.ground.backfill, existing, g.underside, water))[0]
            )
        V = np.broadcast_to(forces.V, (1, len(steps)))[0]
        acts = np.abs(forces.factored[0, :, :]).sum(axis=-1) > 1e-9 if len(steps) else np.zeros(0, dtype=bool)
        begun = np.cumsum(acts) > 0
        area = float(g.area[0, 0])
        pressures[:, column] = np.where(begun, V / area - before, 0.0)
        B, L = equal_rectangle(g)
        c, s = np.cos(g.rotation), np.sin(g.rotation)
        bases.append(
            _Base(
                float((g.column[0] - c * g.offset_x + s * g.offset_y)[0, 0]), float((g.column[1] - s * g.offset_x - c * g.offset_y)[0, 0]),
                float(B[0, 0]), float(L[0, 0]), float(g.rotation[0, 0]), float(g.underside[0, 0]), surface,
                max(float(np.ravel(bench.finished - g.underside)[0]), 0.0),
            )
        )  # fmt: skip
    found = [
        Loading(
            step.name, float((step.date - first).days), float((step.date - first).days) + step.ramp, pressures[i],
            np.array([step.factors.get(a.name, 0.0) for a in project.actions.area_loads]), step.water,
        )
        for i, step in enumerate(steps)
    ]  # fmt: skip
    return bases, found


def _as_situations(project: Project, steps: Sequence[ConstructionStep]) -> Situations:
    """The steps as situations: characteristic weights, the factors of the step."""
    cases = {c.name for c in project.actions.cases}
    rows = tuple(
        Combination(
            number=i + 1, name=step.name, factors={n: f for n, f in step.factors.items() if n in cases}, serves=("settlement long",),
            water=step.water,
        )
        for i, step in enumerate(steps)
    )  # fmt: skip
    return situations_for(
        project.actions.replaced(combinations=rows, steps=()), project.ground.water, "settlement long"
    )


def output_times(loadings: Sequence[Loading], horizon: float) -> Array:
    """Times (days) at which the settlement is computed: within ramps, and evenly over the logarithm after each step."""
    times = [0.0]
    for loading in loadings:
        times += (
            list(np.linspace(loading.begins, loading.ends, 5))
            if loading.ends > loading.begins
            else [loading.begins]
        )
        times += [loading.begins - 1e-6] if loading.begins > 0 else []
        rest = horizon - loading.begins
        times += list(loading.begins + np.geomspace(FIRST_DAY, max(rest, 2.0), POINTS))
    kept = np.unique(np.round(np.array(times), 6))
    found: Array = kept[(kept >= 0) & (kept <= horizon)]
    return np.append(found, horizon) if found[-1] < horizon else found


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
    mark = _Base(x, y, 0.0, 0.0, 0.0, level, float(profile.existing))
    return _column(
        project, name, mark, None, bases, loadings, output_times(loadings, horizon), project.settings
    )


def _of_pad(
    project: Project, pad: Pad, index: int, bases: list[_Base], loadings: list[Loading], times: Array
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
    project: Project, name: str, base: _Base, own: int | None, bases: list[_Base], loadings: list[Loading], times: Array, settings: Settings
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
    peak = float(peak_depth(*_sides(base)))
    at_base = effective_stress(
        profile,
        project.ground.backfill,
        np.array(base.surface),
        np.array([base.level, base.level - peak]),
        np.array(reference),
    )
    law = _law(profile, stratum, base, own, loadings, levels, before, settings, at_base, times / YEAR)
    mv = _secant(law, profile, stratum, before, stresses, thickness)
    cv = np.array([profile.soils[i].consolidation_coefficient or np.inf for i in stratum])
    rate = _drain_rates(project, profile, stratum, base, middle, levels, mv, cv)
    cells = Cells(thickness, cv, mv, rate, True, not profile.rigid_below and not np.isfinite(cv[-1]))
    excess = excess_pressure(modes(cells), ramps, times, len(middle))
    pressing = _shares(loadings, times)
    if settings.settlement_time == "average degree":
        strain = _by_average_degree(law, total, excess, before, stratum, thickness, pressing)
    else:
        strain = law(total - excess, pressing, total)
    immediate = _immediate(profile, stratum, base, own, loadings, levels, pressing, counted)
    immediate = immediate * (1.0 if own is None else _embedded(base, 0.5, settings))
    creep = _creep(profile, stratum, loadings, times, total, excess, before, settings, strain, thickness)
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
    project: Project, base: _Base, own: int | None, bases: list[_Base], loadings: list[Loading], middle: Array, profile: Profile, before: Array
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


def _shares(loadings: Sequence[Loading], times: Array) -> Array:
    """How much of each step's change is there at each time, (times, steps)."""
    columns = []
    for loading in loadings:
        length = loading.ends - loading.begins
        columns.append(
            (times >= loading.begins).astype(float)
            if length <= 0
            else np.clip((times - loading.begins) / length, 0.0, 1.0)
        )
    return np.stack(columns, axis=-1)


def _sides(base: _Base) -> tuple[Array, Array]:
    """The shorter and the longer side, m; 1 m for a mark, which has none."""
    return np.array(min(base.B, base.L) or 1.0), np.array(max(base.B, base.L) or 1.0)


def _embedded(base: _Base, poisson: float, settings: Settings) -> float:
    """The share of the elastic settlement at the surface that is left at the depth of the base."""
    if settings.settlement_embedment != "Fox 1948":
        return 1.0
    return float(fox(np.array(base.B), np.array(base.L), np.array(base.embedment), np.array(poisson)))


Law = Callable[[Array, Array, Array], Array]
"""Strain (times, cells) from the effective stress that is added, the shares of the steps, and the total stress that is added."""


def _law(
    profile: Profile, stratum: Array, base: _Base, own: int | None, loadings: list[Loading], levels: Array, before: Array, settings: Settings,
    at_base: Array, years: Array,
) -> Law:  # fmt: skip
    """The strain of every cell by the law of its stratum.

    Strata with E' under the base itself strain by Hooke's law with three stresses (Steinbrenner), under other loads without
    sideways strain; while they consolidate, in proportion to the effective part of the stress. ``at_base`` is the effective stress before
    loading at the base and at the peak of the strain influence, ``years`` the times: one row alone is at the last of them. Oedometer strata follow e-log p with the
    greatest effective stress of their past: what is taken off again swells along Cr.
    """
    soils = [profile.soils[i] for i in stratum]
    middle = (levels[1:] + levels[:-1]) / 2
    thickness = levels[:-1] - levels[1:]
    depth = base.level - middle

    def values(name: str, otherwise: float = 0.0) -> Array:
        return np.array(
            [getattr(s, name) if getattr(s, name) is not None else otherwise for s in soils], dtype=float
        )

    kinds = np.array([s.compression for s in soils])
    oedometer, by_mv = kinds == "oedometer", kinds == "mv"
    elastic, influenced = kinds == "elastic", kinds == "strain influence"
    E = np.where(elastic | influenced, values("modulus", 1.0), 1.0)
    nu = values("poisson")
    Cc, Cr, e0 = values("compression_index"), values("recompression_index"), values("void_ratio")
    yielded = np.maximum(before, 0.1) * values("overconsolidation_ratio", 1.0)
    first = np.maximum(before, 0.1)
    own_unit = np.zeros(len(middle))
    changes = np.diff(
        np.array([0.0] + [float(loading.pressure[own]) if own is not None else 0.0 for loading in loadings])
    )
    own_stress = np.zeros(len(middle))
    if own is not None:
        B, L = np.array(base.B), np.array(base.L)
        edges = base.level - levels
        own_stress = stress_below(B, L, depth, CHARACTERISTIC)
        for value in np.unique(nu[elastic]) if elastic.any() else ():
            u = displacement_below(B, L, edges, np.array(value), CHARACTERISTIC) * _embedded(
                base, value, settings
            )
            own_unit = np.where(elastic & (nu == value), np.diff(u) / thickness / E, own_unit)
    less = np.ones(len(middle))
    coefficient = values("pore_pressure_coefficient", np.nan)
    if own is not None and np.isfinite(coefficient).any():
        radius = np.array(np.sqrt(base.B * base.L / np.pi))
        less = np.where(
            np.isfinite(coefficient), skempton_bjerrum(np.nan_to_num(coefficient), depth, radius), 1.0
        )
    sideways = confined(E, nu)

    def strain(effective: Array, shares: Array, total: Array) -> Array:
        pressure = shares @ changes
        after = np.maximum(first + effective, 0.1)
        past = np.maximum.accumulate(np.maximum(after, yielded), axis=0)
        e_log_p = less * (Cr * np.log10(after / first) + (Cc - Cr) * np.log10(past / yielded)) / (1 + e0)
        part = np.where(np.abs(total) > 1e-9, effective / np.where(np.abs(total) > 1e-9, total, 1.0), 1.0)
        others = total - pressure[:, None] * own_stress
        hooke = (pressure[:, None] * own_unit + others * sideways) * part
        found = np.where(oedometer, e_log_p, 0.0) + np.where(
            by_mv, values("compressibility") / 1000 * effective, 0.0
        )
        found = found + np.where(elastic, hooke, 0.0)
        if influenced.any():
            q = np.maximum(pressure, 0.0)[:, None]
            shape = strain_influence(depth, *_sides(base), q, at_base[1])
            slow = np.array([time_factor(float(t)) for t in years[-len(effective) :]])[:, None]
            under = embedment_factor(q, at_base[0]) * slow * q * shape / E
            found = found + np.where(influenced, (under + others * sideways) * part, 0.0)
        return found

    return strain


def _secant(
    law: Law, profile: Profile, stratum: Array, before: Array, stresses: Array, thickness: Array
) -> Array:
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
    base: _Base,
    middle: Array,
    levels: Array,
    mv: Array,
    cv: Array,
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


def _by_average_degree(
    law: Law, total: Array, excess: Array, before: Array, stratum: Array, thickness: Array, shares: Array
) -> Array:
    """The simple alternative: the strain under the whole stress times the average degree of consolidation of the stratum."""
    found = law(total, shares, total)
    for k in np.unique(stratum):
        cells = stratum == k
        stress = (total[:, cells] * thickness[cells]).sum(axis=1)
        remaining = (excess[:, cells] * thickness[cells]).sum(axis=1)
        degree = np.where(
            np.abs(stress) > 1e-9, 1 - remaining / np.where(np.abs(stress) > 1e-9, stress, 1.0), 1.0
        )
        found[:, cells] *= degree[:, None]
    return found


def _immediate(
    profile: Profile, stratum: Array, base: _Base, own: int | None, loadings: Sequence[Loading], levels: Array, shares: Array, counted: Array
) -> Array:  # fmt: skip
    """Settlement at once of strata with an undrained modulus under the base itself, m, (times, strata)."""
    found = np.zeros((len(shares), len(profile.soils)))
    if own is None:
        return found
    pressure = shares @ np.diff(np.array([0.0] + [float(loading.pressure[own]) for loading in loadings]))
    edges = base.level - levels
    u = displacement_below(np.array(base.B), np.array(base.L), edges, np.array(0.5), CHARACTERISTIC)
    parts = np.diff(u) * counted
    for k, soil in enumerate(profile.soils):
        if soil.undrained_modulus and (stratum == k).any():
            found[:, k] = pressure * parts[stratum == k].sum() / soil.undrained_modulus
    return found


def _creep(
    profile: Profile, stratum: Array, loadings: Sequence[Loading], times: Array, total: Array, excess: Array, before: Array, settings: Settings,
    strain: Array, thickness: Array,
) -> Array:  # fmt: skip
    """Strain by creep, (times, cells): C_alpha log10(t/t_p) from the end of primary of each loading on.

    Time counts from the middle of the ramp of the last step that loads the stratum; what crept before stays. Below the greatest stress of the
    past only a share of C_alpha acts.
    """
    found = np.zeros(total.shape)
    for k in np.unique(stratum):
        soil = profile.soils[k]
        if not soil.creep_index:
            continue
        cells = np.flatnonzero(stratum == k)
        after = before[cells] + total[:, cells] - excess[:, cells]
        past = np.maximum(before[cells] * soil.overconsolidation_ratio, np.maximum.accumulate(after, axis=0))
        again = (
            after < past * (1 - 1e-6)
            if soil.compression == "oedometer"
            else after < np.maximum.accumulate(after, axis=0) * (1 - 1e-6)
        )
        index = np.where(again, soil.creep_index * soil.creep_reload, soil.creep_index)
        grown = np.zeros((len(times), len(cells)))
        starts = _loading_starts(loadings, times, total[:, cells], before[cells])
        for number, (begin, end) in enumerate(starts):
            following = starts[number + 1][0] if number + 1 < len(starts) else np.inf
            primary = _end_of_primary(
                settings,
                begin,
                end,
                times,
                total[:, cells],
                excess[:, cells],
                strain[:, cells],
                thickness[cells],
            )
            since = times - begin
            active = (times > begin + primary) & (times <= following)
            decades = np.where(active, np.log10(np.maximum(since, 1e-9) / primary), 0.0)
            steps = np.diff(np.concatenate([[0.0], np.maximum(decades, 0.0)]))
            steps = np.where(active, np.maximum(steps, 0.0), 0.0)
            grown += steps[:, None] * index
        found[:, cells] = np.cumsum(grown, axis=0)
    return found


def _loading_starts(
    loadings: Sequence[Loading], times: Array, added: Array, before: Array
) -> list[tuple[float, float]]:
    """(middle of the ramp, its end) of the steps that load the stratum by more than a hundredth of its stress."""
    found = []
    level = float(before.mean())
    for loading in loadings:
        a, b = (float(np.interp(t, times, added.mean(axis=1))) for t in (loading.begins - 1e-6, loading.ends))
        if loading.begins <= 0:
            a = 0.0
        if b - a > 0.01 * level:
            found.append(((loading.begins + loading.ends) / 2, loading.ends))
    return found


def _end_of_primary(
    settings: Settings,
    begin: float,
    end: float,
    times: Array,
    total: Array,
    excess: Array,
    strain: Array,
    thickness: Array,
) -> float:
    """Days from ``begin`` to the end of primary by the rule of the settings, at least one."""
    least = max(end - begin, 1.0)
    if settings.creep_from == "typed":
        return max(settings.creep_days, least)
    later = times >= end
    if not later.any():
        return least
    if settings.creep_from == "remaining pressure":
        remaining = (np.abs(excess[later]) * thickness).sum(axis=1) / np.maximum(
            (np.abs(total[later]) * thickness).sum(axis=1), 1e-9
        )
        done = np.flatnonzero(remaining <= settings.creep_remaining)
        if not len(done):
            return max(float(times[-1] - begin), least)
        i = int(done[0])
        if i == 0:
            return max(float(times[later][0] - begin), least)
        t0, t1, r0, r1 = times[later][i - 1], times[later][i], remaining[i - 1], remaining[i]
        return max(
            float(t0 + (r0 - settings.creep_remaining) / max(r0 - r1, 1e-12) * (t1 - t0) - begin), least
        )
    # the steepest tangent over the logarithm of time meets the final value
    since = times[later] - begin
    settled = (strain[later] * thickness).sum(axis=1)
    some = since > 0
    x, y = np.log10(since[some]), settled[some]
    if len(x) < 3 or y[-1] - y[0] < 1e-9:
        return least
    slope = np.gradient(y, x)
    i = int(slope.argmax())
    return max(float(10 ** (x[i] + (y[-1] - y[i]) / slope[i])), least)


def without_drains(project: Project) -> Project:
    """The project without its band drains, to compare."""
    return project.replaced(actions=project.actions.replaced(drains=()))


__all__ = ["History", "PadHistory", "compute", "history", "mark_history", "without_drains"]
