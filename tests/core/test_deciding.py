"""Which settings decide a check: nothing that changes it is missing from them, and nothing among them leaves it as it
is."""

import random
from contextlib import suppress

import numpy as np
import pytest
from pydantic import ValidationError

from korbent.core.bench import bench_for
from korbent.core.checks import State, reduced
from korbent.core.evaluate import evaluate_pad
from korbent.core.evaluate.families import outcomes_on
from korbent.core.explain.deciding import deciding, others
from korbent.core.geometry import table
from korbent.core.model import Project, Settings, edited
from korbent.core.model.setting_words import DOES, GROUPS
from korbent.demo import lindmere
from korbent.verification.pad import one_pad
from tests.invariants.plans import random_project

IDLE = (State.CANNOT, State.NOT_APPLICABLE)


def told(project: Project, name: str) -> dict[str, tuple[object, ...]]:
    """By check what is told of it."""
    found = evaluate_pad(project, project.pad(name)).checks
    return {c.check.id: (c.state, c.ratio, c.demand, c.capacity, c.required_factor, c.message) for c in found}


def changed_by(project: Project, pad: str, setting: str) -> set[str]:
    """The checks of a base that another value of a setting changes, found by all checks from the start."""
    before = told(project, pad)
    found: set[str] = set()
    for value in others(setting, getattr(project.settings_of(project.pad(pad)), setting)):
        try:
            after = told(edited(project, ("pads", pad, "overrides", setting), value), pad)
        except ValidationError:
            continue
        found |= {check for check in before if before[check] != after.get(check)}
    return found


def by_setting(project: Project, pad: str) -> dict[str, set[str]]:
    """Of every setting the checks of a base that it changes."""
    return {name: changed_by(project, pad, name) for name in Settings.model_fields}


@pytest.mark.long
def test_what_is_told_is_what_changes_the_check() -> None:
    """Of one check, by its own calculation."""
    project = one_pad()
    pad = project.pads[0]

    def alone(p: Project) -> tuple[object, ...]:
        bench = bench_for(p, p.pads, np.zeros(1, dtype=int), table(p.pads[0]))
        found = next(o for _, o in outcomes_on(bench, p, check="sliding-drained") if o.check.id == "sliding-drained")
        result = reduced(found, pad.name)
        return (
            result.state,
            result.ratio,
            result.demand,
            result.capacity,
            result.required_factor,
            result.message,
        )

    before, expected = alone(project), set()
    for name in Settings.model_fields:
        for value in others(name, getattr(project.settings, name)):
            with suppress(ValidationError):
                if alone(edited(project, ("pads", pad.name, "overrides", name), value)) != before:
                    expected.add(name)
    assert len(expected) > 5
    assert set(deciding(project, pad, "sliding-drained").changing) == expected


SOME = ("presumed-pressure", "punching", "anchorage-x", "settlement")


@pytest.mark.long
def test_of_checks_of_every_group() -> None:
    _compared(SOME)


@pytest.mark.thorough
def test_of_all_checks() -> None:
    _compared(())


def _compared(some: tuple[str, ...]) -> None:
    """Those of some checks, or of all, against all checks computed anew for every setting."""
    project = one_pad()
    pad = project.pads[0]
    known = by_setting(project, pad.name)
    states = {check: state for check, (state, *_) in told(project, pad.name).items()}
    live = [c for c in states if states[c] not in IDLE and (not some or c in some)]
    assert len(live) >= 4
    for check in live:
        assert set(deciding(project, pad, check).changing) == {n for n, checks in known.items() if check in checks}, (
            check
        )


@pytest.mark.parametrize(
    "seed",
    [
        pytest.param(0, marks=pytest.mark.long),
        *(pytest.param(i, marks=pytest.mark.thorough) for i in range(1, 5)),
    ],
)
def test_none_is_missing_on_random_plans(seed: int) -> None:
    project = random_project(seed)
    chance = random.Random(seed)
    pad = chance.choice([p for p in project.pads if p.kind != "raft"])
    known = by_setting(project, pad.name)
    live = [c for c, (state, *_) in told(project, pad.name).items() if state not in IDLE]
    for check in chance.sample(live, 4):
        missing = {n for n, checks in known.items() if check in checks} - set(deciding(project, pad, check).changing)
        assert not missing, check


def test_the_ones_of_the_check_stand_before_those_of_all(demo: Project) -> None:
    found = deciding(demo, demo.pad("P3"), "presumed-pressure").changing
    assert found[:4] == ("presumed_pressure", "presumed_short", "presumed_basis", "presumed_compares")
    assert found.index("concrete_weight") > 3


@pytest.mark.long
def test_of_a_raft_what_its_plate_reads_is_told() -> None:
    project = lindmere()
    found = deciding(project, project.pad("R1"), "punching")
    assert not found.changing
    assert {"concrete_strength", "concrete_cover"} <= set(found.read)


def test_it_is_left_off_when_asked(demo: Project) -> None:
    found = deciding(demo, demo.pad("P3"), "sliding-drained", lambda: True)
    assert not found.changing
    assert "base_friction" in found.read


def test_another_check_is_none() -> None:
    project = one_pad()
    with pytest.raises(KeyError):
        deciding(project, project.pads[0], "beauty")


def test_every_setting_stands_under_one_head_and_says_what_it_does() -> None:
    names = [name for some in GROUPS.values() for name in some]
    assert sorted(names) == sorted(Settings.model_fields)
    assert all(DOES[name].strip().endswith((".", "^g.")) for name in names)
