"""Random edits: what was computed step by step is what a fresh run finds in the file, what comes back by undo, and all
of it is numbers."""

import json
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
from korbent.core.units import UnitError
from korbent.demo import coombe, redstem
from korbent.demo.starter import starter
from korbent.files.project_file import dumps, load, save
from tests.attacks.edits import Found, differences, places_in, results_of, results_of_file, step, value_in
from tests.invariants.plans import random_project
from tests.invariants.whole import random_plan

THOROUGH = bool(os.environ.get("KORBENT_THOROUGH"))
SEED = int(os.environ.get("KORBENT_SEED", "0"))
"""Other random attacks: ``KORBENT_SEED=7 ./test --thorough``."""
ROUNDS, EDITS = (100, 50) if THOROUGH else (6, 20)


@pytest.fixture(scope="module")
def apart() -> Iterator[ProcessPoolExecutor]:
    """Processes that know nothing yet: each computes one file."""
    with ProcessPoolExecutor(1, mp_context=get_context("spawn"), max_tasks_per_child=1 if THOROUGH else 3) as pool:
        yield pool


def project_of(round_: int) -> Project:
    made = (coombe, redstem, starter, lambda: random_plan(round_, 4), lambda: random_project(round_))
    return made[round_ % len(made)]()


@pytest.mark.long
@pytest.mark.parametrize("round_", range(ROUNDS))
def test_random_edits_are_as_a_fresh_run(round_: int, tmp_path: Path, apart: ProcessPoolExecutor) -> None:
    rng = random.Random(round_ + 1000 * SEED)
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
    assert not differences(apart.submit(results_of_file, str(path)).result(), states[id(session.project)]), steps
    while session.position:
        session.undo()
    assert session.project is first
    assert not differences(states[id(first)], results_of(first))


TYPED = (
    "0",
    "-1",
    "1e-12",
    "1e12",
    "1e300",
    "-1e300",
    "9" * 400,
    "1e-300",
    "nan",
    "inf",
    "0.0001",
    "99999",
    "1,250.5",
    "3'-6\"",
    "1e9",
    "=1/0",
)


@pytest.mark.long
def test_extreme_values_typed_end_in_a_word_or_in_numbers() -> None:
    """One value of a project is typed anew; nothing that is not finite comes out, and one undo takes it back."""
    rng = random.Random(3 + SEED)
    first = coombe()
    session = Session(first)
    before = results_of(first)
    content = json.loads(dumps(first))["project"]
    places = [
        p
        for p in places_in(content)
        if isinstance(value_in(content, p), (int, float)) and not isinstance(value_in(content, p), bool)
    ]
    for _ in range(1400 if THOROUGH else 40):
        place, text = rng.choice(places), rng.choice(TYPED)
        try:
            value = session.parse(text, "") if not text.startswith("=") else text
        except UnitError:
            continue
        wrong = session.express(place, value) if isinstance(value, str) else session.edit(place, value)
        if wrong:
            assert session.project is first, (place, text)
            continue
        for name, (_, *numbers, _, _) in results_of(session.project).items():
            assert all(v is None or math.isfinite(v) for v in numbers), (place, text, name, numbers)
        if session.project is not first:
            session.undo()
        assert session.project is first, (place, text)
    assert not differences(before, results_of(first))
