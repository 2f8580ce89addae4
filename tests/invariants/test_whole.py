"""Whole random projects: a base alone, in a batch, in any order of edits and in its working gives one result."""

import random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.bench import bench_for
from korbent.core.checks import CheckResult, reduced
from korbent.core.evaluate import evaluate, outcomes_for, outcomes_on
from korbent.core.geometry import table
from korbent.core.model import Project
from korbent.core.working import Recording, picked
from korbent.demo.coombe import coombe
from korbent.demo.hollin import hollin
from korbent.demo.lindmere import lindmere
from korbent.demo.redstem import redstem
from tests.invariants.whole import few, random_plan

seeds = st.integers(0, 10**6)


def same(first: CheckResult, second: CheckResult, tolerance: float = 1e-9) -> None:
    """State, message and numbers."""
    assert (first.state, first.message) == (second.state, second.message), first.check.id
    for name in ("ratio", "demand", "capacity"):
        a, b = getattr(first, name), getattr(second, name)
        assert a == (None if b is None else pytest.approx(b, rel=tolerance, abs=1e-12)), first.check.id


def fresh(project: Project, name: str) -> dict[str, CheckResult]:
    """All checks of one base computed alone, nothing remembered."""
    pad = project.pad(name)
    return {o.check.id: reduced(o, name, 0, pad.accepted) for o in outcomes_for(project, pad, table(pad))}


@pytest.mark.long
@few
@given(seeds)
def test_one_base_never_decides_about_another(seed: int) -> None:
    project = random_plan(seed)
    results = evaluate(project)
    for pad in project.pads:
        alone = fresh(project.replaced(pads=(pad,)), pad.name)
        batch = results.pad(pad.name).checks
        assert {c.check.id for c in batch} == set(alone)
        for check in batch:
            same(check, alone[check.check.id])


@pytest.mark.long
@few
@given(seeds, st.integers(0, 10**6))
def test_edits_in_any_order_end_as_from_scratch(seed: int, order: int) -> None:
    """A few bases get other sizes, bars, pedestals and back; each time only what changed is computed again."""
    rng = random.Random(order)
    project = random_plan(seed, 5)
    evaluate(project)
    for _ in range(4):
        pad = rng.choice(project.pads)
        changes = rng.choice(
            (
                {"thickness": pad.thickness + rng.uniform(-0.05, 0.1)},
                {"level": pad.level - rng.uniform(0, 0.2)},
                {"reinforcement": rng.choice(project.pads).reinforcement},
                {"dowels": rng.choice(project.pads).dowels},
                {"openings": ()},
            )
        )
        if pad.pedestal and "level" not in changes:
            changes["pedestal"] = rng.choice((None, pad.pedestal.replaced(top=pad.pedestal.top + 0.2)))
        pads = tuple(p.replaced(**changes) if p is pad else p for p in project.pads)
        project = project.replaced(pads=pads)
        results = evaluate(project)
    for pad in project.pads:
        alone = fresh(project, pad.name)
        for check in results.pad(pad.name).checks:
            same(check, alone[check.check.id])


def ledger_is_working(project: Project) -> int:
    """Every ratio of the ledger is the recorded one, and its formula gives it; how many were compared."""
    count = 0
    results = evaluate(project)
    for pad in project.pads:
        recording = Recording()
        bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
        found = {o.check.id: (family, o) for family, o in outcomes_on(bench, project, recording)}
        for check in results.pad(pad.name).checks:
            if check.ratio is None:
                continue
            family, outcome = found[check.check.id]
            situations = len(outcome.situations) if outcome.situations is not None else 1
            # in a batch other columns may have blocks of their own before it
            own = reduced(outcome, pad.name, 0, pad.accepted)
            scope = f"{family} {outcome.blocks[own.column // situations]}".strip()
            step = recording.nearest("ratio", scope, -1)
            where = f"{pad.name} {check.check.id} in {scope}"
            assert step >= 0, where
            column = check.column % situations
            assert float(picked(recording.steps[step].value, 0, column)) == pytest.approx(
                check.ratio, rel=1e-9, abs=1e-12
            ), where
            if recording.steps[step].formula:
                again = float(np.ravel(picked(recording.evaluated(step), 0, column))[0])
                assert again == pytest.approx(check.ratio, rel=1e-8, abs=1e-12), where
            count += 1
    return count


@pytest.mark.long
@few
@given(seeds)
def test_the_ledger_is_the_working(seed: int) -> None:
    assert ledger_is_working(random_plan(seed, 4)) > 20


@pytest.mark.long
@pytest.mark.parametrize("made", [lindmere, coombe, redstem, hollin], ids=lambda f: f.__name__)
def test_the_ledger_is_the_working_in_the_demos(made) -> None:  # type: ignore[no-untyped-def]
    assert ledger_is_working(made()) > (30 if made is hollin else 100)
