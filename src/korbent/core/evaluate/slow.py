"""What is too slow for every keystroke: the plates of rafts, and the bounds of strips where they are chosen as the
resistance.

Where :func:`later` is in force what is not known yet is not computed: its checks say that they are being computed, and
it is listed for whoever computes it elsewhere and gives it back by :func:`known_now`."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, replace

import numpy as np

from korbent.core.bearing import by_bounds
from korbent.core.bench import Bench, bench_for, stand_of
from korbent.core.cache import MEGABYTE, Cache
from korbent.core.checks import CHECKS, CheckResult, Outcome, State, reduced
from korbent.core.evaluate.families import ORDER, left_out_words, with_word
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.rafts.checks import raft_checks
from korbent.core.rafts.solved import SolvedRaft, keep_solved, solved_already
from korbent.core.working import SILENT
from korbent.words import say

Checks = tuple[CheckResult, ...]
QUESTIONS = ("allowable", "settlement_long", "concrete", "cracks")
_waiting: ContextVar[list[str] | None] = ContextVar("waiting", default=None)


@contextmanager
def later() -> Iterator[list[str]]:
    """Within it slow checks that are not known are put off; gives the names of the bases that they are of."""
    names: list[str] = []
    token = _waiting.set(names)
    try:
        yield names
    finally:
        _waiting.reset(token)


@dataclass(frozen=True)
class Slow:
    """What a worker found of a base: its slow checks, of a raft its plate by question, of a strip its bounds."""

    checks: Checks
    plates: dict[str, "SolvedRaft | str"]
    bounds: tuple[by_bounds.Known, ...] = ()


Dependence = tuple[tuple[object, ...], tuple[object, ...]]


def has_slow(project: Project, pad: Pad) -> bool:
    """A raft, or a base whose resistance is that of bounds."""
    return pad.kind == "raft" or by_bounds.chosen(project.settings_of(pad))


def slow_checks(project: Project, pad: Pad, depends: Dependence) -> Checks:
    """The checks of the plate of a raft, or those by bounds; none of any other base."""
    if not has_slow(project, pad):
        return ()
    known = _known.those_of([depends[0]])
    if known:
        return known[0]
    waiting = _waiting.get()
    if waiting is not None:
        waiting.append(pad.name)
        return _pending(project, pad)
    return _known.put(*depends, _computed(_bench(project, pad), project))


def _bench(project: Project, pad: Pad) -> Bench:
    return bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))


def _computed(bench: Bench, project: Project) -> Checks:
    said = left_out_words(bench)
    pad = bench.pads[0]
    outcomes = sorted(
        (
            with_word(bench, o, said)
            for o in (
                raft_checks(bench, project, SILENT) if pad.kind == "raft" else by_bounds.bounds_checks(bench, SILENT)
            )
        ),
        key=lambda o: ORDER[o.check.id],
    )
    found = tuple(reduced(o, pad.name, 0, pad.accepted) for o in outcomes)
    _latest[pad.name] = found
    return found


def _pending(project: Project, pad: Pad) -> Checks:
    """The checks as they were when they were last known, now being computed."""
    if pad.kind != "raft":
        bench, before = _bench(project, pad), {c.check.id: c for c in _latest.get(pad.name, ())}
        return tuple(
            reduced(one, pad.name, 0, pad.accepted)
            if isinstance(one, Outcome)
            else CheckResult(
                pad.name,
                CHECKS[check],
                State.COMPUTING,
                message=say("being computed")
                + (
                    say("; was {was:.2f}", was=was)
                    if check in before and (was := before[check].ratio) is not None
                    else ""
                ),
            )
            for check, one in by_bounds.asked(bench).items()
        )
    return tuple(
        c
        if c.state is State.NOT_APPLICABLE
        else replace(
            c,
            state=State.COMPUTING,
            ratio=None,
            message=say("being computed") if c.ratio is None else say("being computed; was {ratio:.2f}", ratio=c.ratio),
        )
        for c in _latest.get(pad.name, ())
    )


def computed(project: Project, name: str) -> Slow:
    """What a worker does: the checks and the plates of a raft, or the bounds of a strip."""
    pad = project.pad(name)
    bench = _bench(project, pad)
    checks = _computed(bench, project)
    if pad.kind != "raft":
        return Slow(checks, {}, by_bounds.new_ones())
    plates = {q: found for q in QUESTIONS if (found := solved_already(bench, project, q)) is not None}
    return Slow(checks, plates)


def known_now(project: Project, name: str, depends: Dependence, found: Slow) -> None:
    """Takes what was computed elsewhere for this very project."""
    pad = project.pad(name)
    stand_of(project, pad)
    bench = _bench(project, pad)
    by_bounds.known_now(found.bounds)
    for question, plate in found.plates.items():
        keep_solved(bench, project, question, plate)
    _latest[name] = found.checks
    _known.put(*depends, found.checks)


_known: Cache[Checks] = Cache(32 * MEGABYTE, each=20_000)
_latest: dict[str, Checks] = {}
"""By the name of a raft what was found last, for what is shown meanwhile."""
