"""The one road from a project to its results."""

import bisect
from collections import OrderedDict
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from functools import cache, cached_property

import numpy as np

from korbent.core.actions.coverage import left_out_on, level_left_out, words
from korbent.core.bearing.checks import board_checks, level_checks, resistance_checks, service_checks
from korbent.core.bearing.replacement import replacement_checks
from korbent.core.bearing.safety import safety_checks
from korbent.core.bench import Bench, bench_for, benches_for, stand_of
from korbent.core.checks import (
    CHECKS,
    LIMIT,
    SEVERITY,
    Check,
    CheckResult,
    Outcome,
    State,
    reduced,
    worst_by_candidate,
)
from korbent.core.concrete.checks import concrete_checks
from korbent.core.concrete.cracks import crack_checks
from korbent.core.concrete.pedestal import pedestal_checks
from korbent.core.contact.base import contact_under, effective_under
from korbent.core.geometry import table
from korbent.core.identity import remembered
from korbent.core.model.actions import Combination
from korbent.core.model.foundations import HELD, Pad
from korbent.core.model.project import Project
from korbent.core.plan.site import site_checks
from korbent.core.settlement.beside import besides
from korbent.core.settlement.checks import final, settlement_checks
from korbent.core.settlement.marks import mark_checks
from korbent.core.settlement.neighbours import neighbours, settled
from korbent.core.settlement.steps import timeline
from korbent.core.sources import unchecked
from korbent.core.stability.checks import overturning_checks, sliding_checks, uplift_checks
from korbent.core.working import SILENT, Array, Line, Recorder, Recording, lines

Family = Callable[[Bench, Recorder], list[Outcome]]
FAMILIES: tuple[Family, ...] = (
    service_checks,
    resistance_checks,
    safety_checks,
    level_checks,
    replacement_checks,
    board_checks,
    site_checks,
    sliding_checks,
    overturning_checks,
    uplift_checks,
    settlement_checks,
    concrete_checks,
    crack_checks,
    pedestal_checks,
)
"""Each computes checks that share their situations, and records them under its own name."""


@dataclass(frozen=True)
class Effect:
    """What one step of one dimension does to the worst ratio."""

    dimension: str
    change: float
    ratio: float | None
    state: State


@dataclass(frozen=True)
class PadResult:
    """All checks of one pad."""

    name: str
    checks: tuple[CheckResult, ...]

    def check(self, name: str) -> CheckResult:
        """One check by its id."""
        return next(c for c in self.checks if c.check.id == name)

    @property
    def worst(self) -> CheckResult:
        """The check in the worst state, then with the greatest ratio."""
        return worst_of(self.checks)


def worst_of(checks: tuple[CheckResult, ...]) -> CheckResult:
    """Unstable before failing; otherwise the greatest ratio; what cannot be done only when nothing has a ratio."""
    return max(checks, key=_rank)


def _rank(result: CheckResult) -> tuple[float, float]:
    if result.state is State.UNSTABLE:
        return (3.0, 0.0)
    if result.state is State.FAILS and result.ratio is None:
        return (2.0, 0.0)
    return (1.0, result.ratio) if result.ratio is not None else (0.0, float(SEVERITY[result.state]))


@dataclass(frozen=True)
class Results:
    """Results of a project. ``project`` is the one they belong to."""

    project: Project
    pads: tuple[PadResult, ...]
    undesigned: tuple[str, ...] = field(default=())
    """Columns and walls without a foundation."""
    marks: tuple[CheckResult, ...] = field(default=())
    """The settlement of each mark."""

    def pad(self, name: str) -> PadResult:
        """The result of one pad."""
        return next(p for p in self.pads if p.name == name)

    @cached_property
    def all_checks(self) -> tuple[CheckResult, ...]:
        """The checks of all pads, then those of marks, then one line for each column without a foundation."""
        missing_ones = tuple(
            CheckResult(name, NOT_DESIGNED, State.NOT_DESIGNED, message=f"{name} has no foundation yet")
            for name in self.undesigned
        )
        return tuple(c for p in self.pads for c in p.checks) + self.marks + missing_ones

    @property
    def holds(self) -> bool:
        """Every check of every foundation holds or is accepted, and no column is left over."""
        checks = self.all_checks
        return bool(checks) and all(c.state.is_good for c in checks)

    def worst(self, group: str | None = None) -> CheckResult | None:
        """The worst check of a group, or of all."""
        return self._worst.get(group)

    @cached_property
    def _worst(self) -> dict[str | None, CheckResult]:
        """By group, and of all under None: asked for many times while the window is painted."""
        groups: dict[str | None, list[CheckResult]] = {}
        for pad in self.pads:
            for check in pad.checks:
                groups.setdefault(check.check.group, []).append(check)
        found = {group: worst_of(tuple(checks)) for group, checks in groups.items()}
        if found:
            found[None] = worst_of(tuple(found.values()))
        elif self.marks:
            found[None] = worst_of(self.marks)
        return found


NOT_DESIGNED = Check("foundation", "Foundation", "bearing", "", "")

FOOT = 0.3048
STEPS = {
    "metric": {"width": 0.1, "length": 0.1, "thickness": 0.05, "level": 0.1, "offset_x": 0.05, "offset_y": 0.05},
    "us": {
        "width": FOOT / 4, "length": FOOT / 4, "thickness": FOOT / 8, "level": FOOT / 4, "offset_x": FOOT / 8,
        "offset_y": FOOT / 8,
    },
}  # fmt: skip
"""The steps (m) of the driving dimensions, by unit set."""


def steps_of(pad: Pad, units: str = "metric") -> tuple[tuple[str, float], ...]:
    """The steps that leave a legal pad: sizes stay positive and the column stays on the base."""
    steps = []
    if pad.frozen:
        return ()
    for name, change in ((n, s) for n, size in STEPS[units].items() for s in (-size, size)):
        if pad.is_round and name == "length":
            continue
        B = pad.width + (change if name == "width" else 0.0)
        L = B if pad.is_round else pad.length + (change if name == "length" else 0.0)
        h = pad.thickness + (change if name == "thickness" else 0.0)
        ox = pad.offset_x + (change if name == "offset_x" else HELD[pad.hold_x] * (B - pad.width) / 2)
        oy = pad.offset_y + (change if name == "offset_y" else HELD[pad.hold_y] * (L - pad.length) / 2)
        if min(B, L, h) > 0.05 and abs(ox) <= B / 2 and abs(oy) <= L / 2:
            steps.append((name, change))
    return tuple(steps)


def outcomes_for(project: Project, pad: Pad, candidates: Array, record: Recorder = SILENT) -> list[Outcome]:
    """All checks of a pad for candidate sizes (rows as :func:`korbent.core.geometry.table` makes them)."""
    bench = bench_for(project, (pad,), np.zeros(len(candidates), dtype=int), candidates)
    return [outcome for _, outcome in outcomes_on(bench, record)]


def outcomes_on(bench: Bench, record: Recorder = SILENT) -> list[tuple[str, Outcome]]:
    """All checks of a bench in the order of the ledger, each with the name of its family."""
    said = _left_out(bench)
    found = [
        (f.__name__, _said(bench, outcome, said))
        for f in FAMILIES
        for outcome in f(bench, record.scope(f.__name__))
    ]
    return sorted(found, key=lambda pair: ORDER[pair[1].check.id])


Checks = tuple[CheckResult, ...]
Dependence = tuple[tuple[object, ...], tuple[object, ...]]


def evaluate_pads(project: Project, pads: Sequence[Pad]) -> list[PadResult]:
    """All checks of pads, remembered as long as nothing a pad depends on has changed.

    What is not known yet is computed together, all pads with one profile and the same settings at once.
    """
    alone = [_depends_on(project, pad) for pad in pads]
    together = [_with_neighbours(project, pad, found) for pad, found in zip(pads, alone)]
    first = _parts(project, pads, alone, ALONE)
    second = _parts(project, pads, together, TOGETHER)
    results = []
    for pad, a, b in zip(pads, first, second):
        key = (id(a), id(b))
        if key not in _joined:
            _joined[key] = (a, b, PadResult(pad.name, _in_order(a, b)))
        results.append(_joined[key][2])
    while len(_joined) > KEPT:
        _joined.popitem(last=False)
    return results


def _in_order(alone: Checks, together: Checks) -> Checks:
    """Both in the order of the ledger; the second ones follow each other there."""
    if not together:
        return alone
    at = bisect.bisect(alone, ORDER[together[0].check.id], key=lambda c: ORDER[c.check.id])
    return (*alone[:at], *together, *alone[at:])


ALONE = tuple(f for f in FAMILIES if f is not settlement_checks)
TOGETHER = (settlement_checks,)
"""What depends on the other foundations too is remembered apart: a change of one base leaves the rest of the others."""
ORDER = {check: i for i, check in enumerate(CHECKS)}


def _parts(
    project: Project, pads: Sequence[Pad], keys: Sequence[Dependence], families: tuple[Family, ...]
) -> list[Checks]:
    """The checks of some families, remembered by what they depend on; what is new is computed together."""
    marked = [(len(families), *key) for key, _ in keys]
    new = [i for i, key in enumerate(marked) if key not in _known]
    for positions, bench in benches_for(project, [pads[i] for i in new]):
        said = _left_out(bench)
        outcomes = sorted(
            (_said(bench, o, said) for family in families for o in family(bench, SILENT)),
            key=lambda outcome: ORDER[outcome.check.id],
        )
        for row, position in enumerate(positions):
            pad = bench.pads[row]
            checks = tuple(reduced(outcome, pad.name, row, pad.accepted) for outcome in outcomes)
            _known[marked[new[position]]] = (keys[new[position]][1], checks)
    found = [_known[key][1] for key in marked]
    while len(_known) > 2 * KEPT:
        _known.popitem(last=False)
    return found


def _left_out(bench: Bench) -> Callable[[str], tuple[str, ...]]:
    """Of a question: for each candidate a word on load cases that act on it and stand in none of its combinations, and on a high water
    level that none looks at, where it comes as near to the base as its width; () where there is none."""

    @cache
    def said(question: str) -> tuple[str, ...]:
        level = level_left_out(bench.actions, bench.ground.water, question)
        some = left_out_on(bench.actions, question, bench.actions.load_points)
        if not level and not some:
            return ()
        by_pad = [words(left_out_on(bench.actions, question, points)) for points in bench.standing]
        g, water = bench.geometry, bench.ground.water
        wet = np.zeros(len(bench.index), dtype=bool)
        if water is not None:
            wet = (water.high > g.underside - np.minimum(g.B, g.L))[:, 0]
        texts = tuple(
            "; ".join(t for t in (by_pad[pad], level * bool(near)) if t)
            for pad, near in zip(bench.index.tolist(), wet.tolist())
        )
        return texts if any(texts) else ()

    return said


def _said(bench: Bench, outcome: Outcome, left_out: Callable[[str], tuple[str, ...]]) -> Outcome:
    """The check with that word on what it did not look at."""
    texts = left_out(outcome.situations.question) if outcome.situations is not None else ()
    if not texts:
        return outcome

    def note(row: int, column: int) -> str:
        own = outcome.note(row, column) if outcome.note else ""
        missing = texts[min(row, len(texts) - 1)]
        return f"{own}; {missing}" if own and missing else own or missing

    return replace(outcome, note=note)


def _with_neighbours(project: Project, pad: Pad, alone: Dependence) -> Dependence:
    """What the settlement of a pad depends on: also what acts beside it."""
    beside = besides(project).get(pad.name)
    known = settled(project, final)
    around = tuple((n, d, known.get(n)) for n, d in neighbours(project).get(pad.name, ()))
    marks = tuple(part for n, d, s in around for part in (n, d, id(s)))
    more = (beside, timeline(project), *project.actions.drains)
    return (*alone[0], *map(id, more), *marks), (*alone[1], *more, around)


def evaluate_pad(project: Project, pad: Pad) -> PadResult:
    """All checks of one pad."""
    return evaluate_pads(project, (pad,))[0]


def _depends_on(project: Project, pad: Pad) -> Dependence:
    """What the result of a pad depends on: identities, and the values, kept alive with the result."""
    stand = stand_of(project, pad)
    own = (pad, stand.points, stand.settings, stand.profile)
    shared, key = _shared(project)
    return (*map(id, own), *key), (*own, *shared)


@remembered(8)
def _shared(project: Project) -> Dependence:
    """What the results of all pads depend on, and its identities."""
    ground, actions = project.ground, project.actions
    values = (
        project.settings, project.standards, ground.water, ground.backfill, ground.surfaces, project.site, *actions.cases, *actions.combinations,
    )  # fmt: skip
    return values, tuple(map(id, values))


KEPT = 2000
_known: OrderedDict[tuple[object, ...], tuple[tuple[object, ...], Checks]] = OrderedDict()
_joined: OrderedDict[tuple[int, int], tuple[Checks, Checks, PadResult]] = OrderedDict()


def effects_of(project: Project, pad: Pad) -> tuple[Effect, ...]:
    """The worst ratio after one step down and one step up of each driving dimension, remembered like the results."""
    key, values = _with_neighbours(project, pad, _depends_on(project, pad))
    known = _effects.get((*key, project.units))
    if known is None:
        steps = steps_of(pad, project.units)
        outcomes = outcomes_for(project, pad, table(pad, steps))
        worst = worst_by_candidate(outcomes, 1 + len(steps))[1:]
        known = (values, tuple(Effect(name, change, *found) for (name, change), found in zip(steps, worst)))
        _effects[(*key, project.units)] = known
        if len(_effects) > 256:
            _effects.popitem(last=False)
    return known[1]


_effects: OrderedDict[tuple[object, ...], tuple[tuple[object, ...], tuple[Effect, ...]]] = OrderedDict()


def evaluate(project: Project) -> Results:
    """All results of a project. Only what changed since an earlier call is computed again."""
    carried = {name for pad in project.pads for name in pad.carries}
    return Results(
        project,
        tuple(evaluate_pads(project, project.pads)),
        tuple(p.name for p in project.actions.load_points if p.name not in carried),
        mark_checks(project),
    )


@dataclass(frozen=True)
class BaseState:
    """Forces (kN, kNm) and pressure under a pad in one situation, in pad axes, for drawings."""

    label: str
    combination: Combination
    V: float
    N: float
    Hx: float
    Hy: float
    column: float
    e_x: float
    e_y: float
    stable: bool
    plane: tuple[float, float, float]
    """Pressure a + b x + c y about the middle of the base, kPa, kPa/m."""
    share: float
    corners: tuple[float, ...]
    """Pressures at (-,-), (+,-), (+,+), (-,+), kPa."""
    water: float
    """Water level, m."""
    effective: tuple[float, float]
    """Sizes of the effective area; under a round base of the rectangle of equal area, the first towards the resultant, m."""


def base_state(project: Project, pad: Pad, question: str, situation: int) -> BaseState | None:
    """What acts on the underside in one situation of a question; None when nothing serves it."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations(question)
    if not len(situations):
        return None
    i = situation % len(situations)
    forces = bench.forces(situations, SILENT)
    g = bench.geometry
    contact = contact_under(g, forces.N, forces.Mx, forces.My)
    area = effective_under(g, contact, forces.Hx, forces.Hy)

    def at(values: Array) -> float:
        return float(np.broadcast_to(values, forces.N.shape)[0, i])

    return BaseState(
        label=situations.label(i), combination=situations.combinations[i],
        V=at(forces.V), N=at(forces.N), Hx=at(forces.Hx), Hy=at(forces.Hy), column=at(forces.column),
        e_x=at(contact.e_x), e_y=at(contact.e_y), stable=bool(contact.stable[0, i]),
        plane=(at(contact.a), at(contact.b), at(contact.c)), share=at(contact.share),
        corners=tuple(map(float, contact.corners[0, i])), water=float(bench.water(situations)[i]),
        effective=(at(area.x), at(area.y)),
    )  # fmt: skip


@dataclass(frozen=True)
class Working:
    """The derivation of one check: a recording, the step of its ratio, and what governs."""

    result: CheckResult
    recording: Recording
    step: int
    situation: int

    def lines(self, step: int | None = None) -> list[Line]:
        """The lines that lead to a step (to the ratio when none is named)."""
        return lines(self.recording, self.step if step is None else step, 0, self.situation)

    @property
    def unchecked(self) -> tuple[str, ...]:
        """References on the way to the ratio that are known from memory only."""
        used = (self.recording.steps[i].reference for i in self.recording.leading_to(self.step))
        return tuple(dict.fromkeys(r for r in used if unchecked(r)))


ELSE = "a base of this kind has no such check"


def working(project: Project, pad: Pad, check: str) -> Working | CheckResult:
    """The working of one check in its governing situation; the bare result where nothing was computed.

    Raises:
        KeyError: when there is no such check.
    """
    recording = Recording()
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    found = [(f, o) for f, o in outcomes_on(bench, recording) if o.check.id == check]
    if not found and check in CHECKS:
        return CheckResult(pad.name, CHECKS[check], State.NOT_APPLICABLE, message=ELSE)
    if not found:
        raise KeyError(check)
    family, outcome = found[0]
    result = reduced(outcome, pad.name, 0, pad.accepted)
    if result.state in (State.CANNOT, State.NOT_APPLICABLE):
        return result
    count = len(outcome.situations) if outcome.situations is not None else 1
    block = outcome.blocks[result.column // count]
    scope = f"{family} {block}".strip()
    step = recording.nearest("ratio", scope, -1)
    if result.ratio is None:
        step = recording.nearest("r_e" if result.state is State.UNSTABLE else "A_s_req", scope, step)
    return Working(result, recording, step, result.column % count)


@dataclass(frozen=True)
class SituationRow:
    """One check in one of its situations. Without a ratio ``state`` says why."""

    combination: str
    name: str
    block: str
    """What is repeated for every situation, such as an edge; '' where nothing is."""
    demand: float
    capacity: float
    ratio: float | None
    state: State


def situations_of(project: Project, pad: Pad, check: str) -> tuple[SituationRow, ...]:
    """One check of a pad over all its situations, the worst first; empty where it is not computed.

    Raises:
        KeyError: when there is no such check.
    """
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    found = [o for _, o in outcomes_on(bench) if o.check.id == check]
    if not found and check in CHECKS:
        return ()
    if not found:
        raise KeyError(check)
    outcome = found[0]
    state = reduced(outcome, pad.name).state
    if state in (State.CANNOT, State.NOT_APPLICABLE) or outcome.situations is None:
        return ()
    situations = outcome.situations
    shape = (1, len(outcome.blocks) * len(situations))
    demand, capacity, ratio = (
        np.broadcast_to(v, shape)[0] for v in (outcome.demand, outcome.capacity, outcome.ratio)
    )
    lost = (
        np.zeros(shape[1], dtype=bool)
        if outcome.unstable is None
        else np.broadcast_to(outcome.unstable, shape)[0]
    )
    bare = (
        np.zeros(shape[1], dtype=bool)
        if outcome.unresisted is None
        else np.broadcast_to(outcome.unresisted, shape)[0]
    )
    rows = []
    for column in range(shape[1]):
        i = column % len(situations)
        value = None if lost[column] or bare[column] else float(ratio[column])
        verdict = (
            State.UNSTABLE
            if lost[column]
            else State.FAILS
            if bare[column] or (value or 0) > LIMIT
            else State.HOLDS
        )
        block = outcome.blocks[column // len(situations)] if len(outcome.blocks) > 1 else ""
        rows.append(
            SituationRow(
                situations.label(i),
                situations.combinations[i].name,
                block,
                float(demand[column]),
                float(capacity[column]),
                value,
                verdict,
            )
        )
    return tuple(sorted(rows, key=lambda r: -(np.inf if r.ratio is None else r.ratio)))
