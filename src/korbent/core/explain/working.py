"""The derivation of one check, and the check in all its situations."""

from dataclasses import dataclass, fields

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.cache import remembered
from korbent.core.checks import CHECKS, LIMIT, CheckResult, Outcome, State, reduced
from korbent.core.evaluate.families import family_of, outcomes_on
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.sources import unchecked
from korbent.core.working import Line, Recording, lines
from korbent.words import english, say


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


ELSE = say("a base of this kind has no such check")


def working(project: Project, pad: Pad, check: str, situation: str = "") -> Working | CheckResult:
    """The working of one check in its governing situation, or in one that is named by its label, where the check has
    it; the bare result where nothing was computed.

    Raises:
        KeyError: when there is no such check.
    """
    recording, outcomes = _recorded(project, pad, family_of(check, pad.kind) or check)
    found = [(f, o) for f, o in outcomes if o.check.id == check]
    if not found and check in CHECKS:
        return CheckResult(pad.name, CHECKS[check], State.NOT_APPLICABLE, message=ELSE)
    if not found:
        raise KeyError(check)
    family, outcome = found[0]
    result = reduced(outcome, pad.name, 0, pad.accepted)
    if result.state in (State.CANNOT, State.NOT_APPLICABLE):
        return result
    if situation:
        result = reduced(_only(outcome, situation), pad.name, 0, pad.accepted)
    count = len(outcome.situations) if outcome.situations is not None else 1
    block = outcome.blocks[result.column // count]
    scope = f"{family} {english(block)}".strip()
    step = recording.nearest("ratio", scope, -1)
    if result.ratio is None:
        step = recording.nearest("r_e" if result.state is State.UNSTABLE else "A_s_req", scope, step)
    return Working(result, recording, step, result.column % count)


@remembered(16)
def _recorded(project: Project, pad: Pad, family: str) -> tuple[Recording, list[tuple[str, Outcome]]]:
    """The recording of a family of checks of a base, and its checks; of all families where it is not known."""
    recording = Recording()
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    return recording, outcomes_on(bench, project, recording, family)


def _only(outcome: Outcome, label: str) -> Outcome:
    """The check as if one of its situations governed; itself where it does not have it."""
    situations = outcome.situations
    if situations is None:
        return outcome
    mine = np.array([situations.label(i) == label for i in range(len(situations))])
    if not mine.any():
        return outcome
    columns = np.flatnonzero(np.tile(mine, len(outcome.blocks)))
    shape = outcome.ratio.shape
    chosen = Outcome(**{f.name: getattr(outcome, f.name) for f in fields(outcome)})
    values = np.broadcast_to(outcome.ratio, shape)[:, columns]
    values = np.where((outcome.lost | outcome.bare)[:, columns], np.inf, values)
    chosen.__dict__["governing"] = columns[values.argmax(axis=-1)]
    return chosen


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
    found = [o for _, o in outcomes_on(bench, project, check=check) if o.check.id == check]
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
    demand, capacity, ratio = (np.broadcast_to(v, shape)[0] for v in (outcome.demand, outcome.capacity, outcome.ratio))
    lost, bare = (np.broadcast_to(v, shape)[0] for v in (outcome.lost, outcome.bare))
    rows = []
    for column in range(shape[1]):
        i = column % len(situations)
        value = None if lost[column] or bare[column] else float(ratio[column])
        verdict = (
            State.UNSTABLE if lost[column] else State.FAILS if bare[column] or (value or 0) > LIMIT else State.HOLDS
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
