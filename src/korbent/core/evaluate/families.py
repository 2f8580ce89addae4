"""The families of checks, and all checks of a bench."""

from collections.abc import Callable
from dataclasses import replace
from functools import cache

import numpy as np

from korbent.core.actions.coverage import left_out_on, level_left_out, words
from korbent.core.bearing.by_bounds import bounds_checks
from korbent.core.bearing.checks import board_checks, level_checks, resistance_checks, service_checks
from korbent.core.bearing.replacement import replacement_checks
from korbent.core.bearing.safety import safety_checks
from korbent.core.bench import Bench, bench_for
from korbent.core.checks import (
    CHECKS,
    Outcome,
)
from korbent.core.concrete.checks import concrete_checks
from korbent.core.concrete.cracks import crack_checks
from korbent.core.concrete.pedestal import pedestal_checks
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.plan.site import site_checks
from korbent.core.rafts.checks import raft_checks
from korbent.core.settlement.checks import settlement_checks
from korbent.core.stability.checks import overturning_checks, sliding_checks, uplift_checks
from korbent.core.straps.checks import strap_checks
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import joined, say

Family = Callable[..., list[Outcome]]
"""Called as ``family(bench, record)``; those of :data:`OF_ALL` as ``family(bench, project, record)``."""
OF_ALL = (settlement_checks, raft_checks)
"""What looks at the ground as all foundations of the project press it together."""
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
    raft_checks,
    strap_checks,
)
"""Each computes checks that share their situations, and records them under its own name."""
SLOW: tuple[Family, ...] = (bounds_checks,)
"""What is not computed with the others (see :mod:`korbent.core.evaluate.slow`), but found by the name of a check."""
RIGID = (concrete_checks, crack_checks)
"""What takes the base as rigid: of a raft its plate stands in their place."""


def outcomes_of(family: Family, bench: Bench, project: Project, record: Recorder = SILENT) -> list[Outcome]:
    """The checks of one family."""
    return family(bench, project, record) if family in OF_ALL else family(bench, record)


def families_of(bench: Bench, families: tuple[Family, ...] = FAMILIES) -> tuple[Family, ...]:
    """Those of some families that the kind of these bases has."""
    raft = bool(bench.pads) and bench.pads[0].kind == "raft"
    return tuple(f for f in families if (f is not raft_checks and f not in RIGID) or (f is raft_checks) == raft)


def outcomes_for(project: Project, pad: Pad, candidates: Array, record: Recorder = SILENT) -> list[Outcome]:
    """All checks of a pad for candidate sizes (rows as :func:`korbent.core.geometry.table` makes them)."""
    bench = bench_for(project, (pad,), np.zeros(len(candidates), dtype=int), candidates)
    return [outcome for _, outcome in outcomes_on(bench, project, record)]


def outcomes_on(
    bench: Bench, project: Project, record: Recorder = SILENT, check: str = ""
) -> list[tuple[str, Outcome]]:
    """All checks of a bench in the order of the ledger, each with the name of its family; of one family alone where it
    is named, or a ``check`` of which it is known."""
    said = left_out_words(bench)
    found = []
    raft = bool(bench.pads) and bench.pads[0].kind == "raft"
    chosen = [
        f for f in (*FAMILIES, *SLOW) if check and f.__name__ in (check, family_of(check, "raft" if raft else "pad"))
    ]
    for family in families_of(bench, tuple(chosen or FAMILIES)):
        for outcome in outcomes_of(family, bench, project, record.scope(family.__name__)):
            _gives.setdefault((raft, outcome.check.id), family)
            found.append((family.__name__, with_word(bench, outcome, said)))
    return sorted(found, key=lambda pair: ORDER[pair[1].check.id])


def family_of(check: str, kind: str = "pad") -> str:
    """The name of the family that gives a check of a kind of base; '' where none did yet."""
    known = _gives.get((kind == "raft", check))
    return known.__name__ if known else ""


_gives: dict[tuple[bool, str], Family] = {(False, check): bounds_checks for check in CHECKS if "-bounds-" in check}
"""Which family gives a check of rafts, or of other bases: learned, as that never changes."""


ORDER = {check: i for i, check in enumerate(CHECKS)}


def left_out_words(bench: Bench) -> Callable[[str], tuple[str, ...]]:
    """Of a question: for each candidate a word on load cases that act on it and stand in none of its combinations, and
    on a high water level that none looks at, where it comes as near to the base as its width; () where there is
    none."""

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
            joined((by_pad[pad], level if near else "")) for pad, near in zip(bench.index.tolist(), wet.tolist())
        )
        return texts if any(texts) else ()

    return said


AS_A_WHOLE = (
    "presumed-pressure",
    "resistance-drained",
    "resistance-undrained",
    "safety-drained",
    "safety-undrained",
    "settlement",
)
"""Checks that take a raft as one whole rectangle."""


def _as_a_whole(bench: Bench) -> str:
    """A word on the openings of a raft, where they are more than a hundredth of it."""
    pad = bench.pads[0] if bench.pads else None
    if pad is None or pad.plate is None:
        return ""
    hollow = sum((o.x_to - o.x_from) * (o.y_to - o.y_from) for o in pad.plate.openings)
    share = hollow / (pad.width * pad.length)
    return (
        say("as a whole, its openings ({share:.0f} %) left out: the plate counts them", share=100 * share)
        if share > 0.01
        else ""
    )


def with_word(bench: Bench, outcome: Outcome, left_out: Callable[[str], tuple[str, ...]]) -> Outcome:
    """The check with that word on what it did not look at."""
    texts = left_out(outcome.situations.question) if outcome.situations is not None else ()
    whole = _as_a_whole(bench) if outcome.check.id in AS_A_WHOLE else ""
    if not texts and not whole:
        return outcome

    def note(row: int, column: int) -> str:
        own = outcome.note(row, column) if outcome.note else ""
        missing = texts[min(row, len(texts) - 1)] if texts else ""
        return joined((own, missing, whole))

    return replace(outcome, note=note)
