"""Random edits: what was computed step by step is what a fresh run finds in the file, what comes back by undo, and all of it is numbers."""

import math
import os
import random
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path

import pytest

from korbent.app.session import Session
from korbent.core.model import Project
from korbent.demo import coombe, redstem
from korbent.demo.starter import starter
from korbent.files.project_file import load, save
from tests.attacks.edits import Found, differences, results_of, results_of_file, step
from tests.invariants.plans import random_project
from tests.invariants.whole import random_plan

THOROUGH = bool(os.environ.get("KORBENT_THOROUGH"))
ROUNDS, EDITS = (100, 50) if THOROUGH else (6, 20)


@pytest.fixture(scope="module")
def apart() -> Iterator[ProcessPoolExecutor]:
    """Processes that know nothing yet: each computes one file."""
    with ProcessPoolExecutor(
        1, mp_context=get_context("spawn"), max_tasks_per_child=1 if THOROUGH else 3
    ) as pool:
        yield pool


def project_of(round_: int) -> Project:
    made = (coombe, redstem, starter, lambda: random_plan(round_, 4), lambda: random_project(round_))
    return made[round_ % len(made)]()


@pytest.mark.parametrize("round_", range(ROUNDS))
def test_random_edits_are_as_a_fresh_run(round_: int, tmp_path: Path, apart: ProcessPoolExecutor) -> None:
    rng = random.Random(round_)
    first = project_of(round_)
    session = Session(first)
    steps = [f"round {round_}"]
    states: dict[int, Found] = {id(first): results_of(first)}
    kept = [first]
    for _ in range(EDITS):
        steps.append(step(rng, session))
        project = session.project
        now = results_of(project)
        for name, (_, *numbers, _, _) in now.items():
            assert all(v is None or math.isfinite(v) for v in numbers), (steps[-3:], name, numbers)
        if id(project) in states:  # undone or done again
            assert not differences(states[id(project)], now), steps[-5:]
        states[id(project)] = now
        kept.append(project)
    path = tmp_path / "a.korbent"
    save(session.project, path)
    assert load(path) == session.project
    assert not differences(apart.submit(results_of_file, str(path)).result(), states[id(session.project)]), (
        steps
    )
    while session.position:
        session.undo()
    assert session.project is first
    assert not differences(states[id(first)], results_of(first))
