"""Construction steps as loadings: what presses when, and at which times one looks."""

import datetime
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from korbent.core.actions.situations import Situations, situations_for
from korbent.core.bench import bench_for
from korbent.core.geometry import table
from korbent.core.ground.profile import total_stress
from korbent.core.model.actions import Combination, ConstructionStep
from korbent.core.model.project import Project
from korbent.core.settlement.footing import equal_rectangle
from korbent.core.working import SILENT, Array

YEAR = 365.25

FIRST_DAY = 1.0

POINTS = 18
"""Output times after each step, evenly over the logarithm of the time since its start."""

FINAL_STEP = "sustained load"

FAR_DATE = datetime.date(2000, 1, 1)


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
class LoadedBase:
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


def loadings_of(project: Project) -> tuple[list[LoadedBase], list[Loading]]:
    """All bases, and the steps with the net pressure of each of them.

    The own weight of a base and its backfill, less the excavated ground, act from the first step in which one of its load
    cases acts.
    """
    steps = steps_of(project)
    first = steps[0].date if steps else FAR_DATE
    bases: list[LoadedBase] = []
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
            LoadedBase(
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


def shares_at(loadings: Sequence[Loading], times: Array) -> Array:
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
