"""What is from memory only is marked, everywhere the same."""

import numpy as np
import pytest

from korbent.core.bench import bench_for
from korbent.core.evaluate import outcomes_on
from korbent.core.explain.working import Working, working
from korbent.core.geometry import table
from korbent.core.model import Project
from korbent.core.sources import DERIVED, MARK, UNCHECKED, marked, unchecked
from korbent.core.working import Recording
from korbent.demo.coombe import coombe
from korbent.demo.hollin import hollin
from korbent.demo.lindmere import lindmere
from korbent.demo.redstem import redstem
from korbent.verification import as_markdown
from tests.invariants.whole import random_plan


def references(project: Project) -> set[str]:
    found: set[str] = set()
    for pad in project.pads:
        recording = Recording()
        outcomes_on(bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad)), project, recording)
        found |= {step.reference for step in recording.steps}
    return found


@pytest.mark.long
@pytest.mark.parametrize(
    "made", [lindmere, coombe, redstem, hollin, *(lambda s=s: random_plan(s, 3) for s in range(8))]
)
def test_every_reference_is_either_from_memory_or_derived(made) -> None:  # type: ignore[no-untyped-def]
    for reference in references(made()):
        known = bool(unchecked(reference)) or any(reference == d or (d and reference.startswith(d)) for d in DERIVED)
        assert known, reference


def test_a_working_carries_the_mark(demo: Project) -> None:
    found = working(demo, demo.pad("P7"), "punching")
    assert isinstance(found, Working)
    assert found.unchecked
    text = "\n".join(line.text() for line in found.lines())
    assert f"[EN 1992-1-1 6.4.2 {MARK}]" in text
    assert marked("Boussinesq 1885") == "Boussinesq 1885"


def test_one_list_stands_in_the_documentation() -> None:
    text = as_markdown([])
    assert all(f"| {start} | {what} |" in text for start, what in UNCHECKED)
