"""Construction steps: what presses when, and at which times one looks."""

import datetime
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from korbent.core.actions.situations import BY_SITUATION, CONSTRUCTION, Situations, situations_for
from korbent.core.cache import remembered
from korbent.core.model.actions import Actions, Combination, ConstructionStep, LoadCase
from korbent.core.model.ground import Water
from korbent.core.model.project import Project
from korbent.core.model.settings import Settings
from korbent.core.working import Array
from korbent.words import say

YEAR = 365.25
FIRST_DAY = 1.0
POINTS = 18
"""Output times after each step, evenly over the logarithm of the time since its start."""
FINAL_STEP = say("sustained load")
FAR_DATE = datetime.date(2000, 1, 1)
QUESTION = "settlement_long"


@dataclass(frozen=True)
class Timeline:
    """The steps as they follow each other; arrays over the steps, times in days from the first."""

    steps: tuple[ConstructionStep, ...]
    begins: Array
    ends: Array
    areas: Array
    """Share of every area load, (steps, area loads)."""
    dated: bool
    """The steps are those of the project; else the sustained load acts from one moment on."""

    def __len__(self) -> int:
        return len(self.begins)

    @property
    def start(self) -> datetime.date:
        """The date of day 0."""
        return self.steps[0].date if self.steps else FAR_DATE

    @property
    def clocks(self) -> Array:
        """The middles of the ramps, from which time counts for creep."""
        middle: Array = (self.begins + self.ends) / 2
        return middle

    def life(self, settings: Settings) -> float:
        """The day at the end of the stated life: so many years after the first step, never before the last one is
        complete."""
        return max(settings.settlement_years * YEAR, float(self.ends[-1]) if len(self) else 0.0)

    def shares_at(self, times: Array) -> Array:
        """How much of the change of each step is there at each time, (times, steps)."""
        length = np.maximum(self.ends - self.begins, 1e-9)
        since = times[:, None] - self.begins
        shares: Array = np.where(self.ends > self.begins, np.clip(since / length, 0.0, 1.0), since >= 0)
        return shares.astype(float)

    def output_times(self, horizon: float) -> Array:
        """Times at which one looks: within ramps, just before each step, and evenly over the logarithm after it."""
        if horizon not in self._looked:
            self._looked[horizon] = self._times(horizon)
        return self._looked[horizon]

    @cached_property
    def _looked(self) -> dict[float, Array]:
        return {}

    def _times(self, horizon: float) -> Array:
        times = [0.0, horizon]
        for begin, end in zip(self.begins, self.ends):
            times += list(np.linspace(begin, end, 5)) if end > begin else [begin]
            times += [begin - 1e-6] if begin > 0 else []
            times += list(begin + np.geomspace(FIRST_DAY, max(horizon - begin, 2.0), POINTS))
        kept = np.unique(np.round(np.array(times), 6))
        found: Array = kept[(kept >= 0) & (kept <= horizon)]
        return found


@remembered(16)
def _timeline(
    steps: tuple[ConstructionStep, ...],
    combinations: tuple[Combination, ...],
    cases: tuple[str, ...],
    areas: tuple[str, ...],
) -> Timeline:
    found = _steps(steps, combinations, cases, areas)
    days = np.array([float((s.date - found[0].date).days) for s in found])
    return Timeline(
        found,
        days,
        days + np.array([s.ramp for s in found]),
        np.array([[s.factors.get(name, 0.0) for name in areas] for s in found]).reshape(len(found), len(areas)),
        bool(steps),
    )


def _steps(
    steps: tuple[ConstructionStep, ...],
    combinations: tuple[Combination, ...],
    cases: tuple[str, ...],
    areas: tuple[str, ...],
) -> tuple[ConstructionStep, ...]:
    """The steps of the project. Where none of them names a load case, the sustained combination follows the last one;
    without any it acts from the first day on, with all area loads; without a combination the area loads alone."""
    sustained = next((c for c in combinations if QUESTION in c.serves), None)
    if any(factor for step in steps for name, factor in step.factors.items() if name in cases):
        return steps
    if steps and sustained is None:
        return steps
    if not steps and sustained is None and not areas:
        return ()
    last = steps[-1] if steps else None
    factors = dict(last.factors) if last else dict.fromkeys(areas, 1.0)
    factors |= dict(sustained.factors) if sustained else {}
    begins = last.date + datetime.timedelta(days=int(np.ceil(last.ramp))) if last else FAR_DATE
    # without steps, settlement goes by the level of the combination, or the usual one
    usual = sustained.water if sustained and sustained.water != "worst" else "normal"
    water = last.water if last else usual
    return (*steps, ConstructionStep(name=FINAL_STEP, date=begins, factors=factors, water=water))


@remembered(16)
def _names(rows: tuple[object, ...]) -> tuple[str, ...]:
    return tuple(str(getattr(row, "name", "")) for row in rows)


def timeline(project: Project) -> Timeline:
    """The steps of a project; the very same object as long as they stay the same."""
    actions = project.actions
    return _timeline(actions.steps, actions.combinations, _names(actions.cases), _names(actions.area_loads))


def construction_situations(project: Project) -> Situations:
    """The steps as situations: characteristic weights, the factors of the step."""
    return _as_situations(timeline(project).steps, project.actions.cases, project.ground.water)


def situation_at(project: Project, day: float) -> Situations | None:
    """What acts at a day as one situation: the steps with what of their changes is there; none before the first or
    without steps."""
    line, steps = timeline(project), construction_situations(project)
    begun = np.flatnonzero(line.begins <= day)
    if not len(begun):
        return None
    last = int(begun[-1])
    changes = np.diff(np.concatenate([np.zeros((1, steps.factors.shape[1])), steps.factors]), axis=0)
    now = line.shares_at(np.array([day])) @ changes
    rows = {name: getattr(steps, name)[last : last + 1] for name in BY_SITUATION} | {"factors": now}
    combination = steps.combinations[last].replaced(name=say("day {day:.0f}", day=day))
    return replace(steps, combinations=(combination,), variants=steps.variants[last : last + 1], **rows)


@remembered(16)
def _as_situations(steps: tuple[ConstructionStep, ...], cases: tuple[LoadCase, ...], water: Water | None) -> Situations:
    return situations_for(Actions(cases=cases, combinations=_rows(steps, cases)), water, QUESTION)


def _rows(steps: Sequence[ConstructionStep], cases: Sequence[LoadCase], number: int = 1) -> tuple[Combination, ...]:
    names = {c.name for c in cases}
    return tuple(
        Combination(
            number=number + i,
            name=step.name,
            origin=CONSTRUCTION,
            factors={n: f for n, f in step.factors.items() if n in names},
            serves=(QUESTION,),
            water=step.water,
        )
        for i, step in enumerate(steps)
    )


@remembered(16)
def lasting_situations(actions: Actions, water: Water | None) -> Situations:
    """The situations of long-term settlement: the combinations that serve it, each as what follows the last
    construction step.

    With dated steps the water is that of the last one, which is a situation of its own where no combination has its
    factors; a combination that asks for no more than a step has brought already is told by the steps."""
    last = actions.steps[-1] if actions.steps else None
    if last is None:
        return situations_for(actions, water, QUESTION)
    names = {c.name for c in actions.cases}
    greatest = {n: max(step.factors.get(n, 0.0) for step in actions.steps) for n in names}
    told = any(greatest.values())
    own = {n: f for n, f in last.factors.items() if f and n in names}
    serving = tuple(
        c.replaced(water=last.water)
        for c in actions.combinations
        if QUESTION in c.serves
        and (not told or _acting(c) == own or any(f > greatest.get(n, 0.0) + 1e-9 for n, f in c.factors.items()))
    )
    known = any(_acting(c) == own for c in serving)
    number = max((c.number for c in actions.combinations), default=0) + 1
    more = _rows((last,), actions.cases, number) if told and not known else ()
    return situations_for(Actions(cases=actions.cases, combinations=(*serving, *more)), water, QUESTION)


def _acting(combination: Combination) -> dict[str, float]:
    return {n: f for n, f in combination.factors.items() if f}
