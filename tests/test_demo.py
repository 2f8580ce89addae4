"""The demo is the scenario it should be."""

from itertools import pairwise

from korbent.core.checks import State
from korbent.core.evaluate import evaluate
from korbent.core.model import Project
from korbent.demo.lindmere import COLUMNS, GRID_X, GRID_Y
from korbent.demo.starter import starter


def test_grid_and_pads(demo: Project) -> None:
    xs, ys = sorted(GRID_X.values()), sorted(GRID_Y.values())
    assert {round(b - a, 3) for a, b in pairwise(xs)} == {8.1}
    assert {round(b - a, 3) for a, b in pairwise(ys)} == {6.4}
    assert len(demo.pads) == 14


def test_column_loads_are_as_described() -> None:
    totals = [G + Q for G, Q, _ in COLUMNS.values()]
    assert 280 <= min(totals) <= 400
    assert 1300 <= max(totals) <= 1450


def test_ground_is_as_described(demo: Project) -> None:
    for hole in demo.ground.boreholes:
        made, sand, *_ = hole.strata
        assert 0.8 <= made.thickness <= 1.4
        assert 2.0 <= sand.thickness <= 2.6
        clay = sum(s.thickness for s in hole.strata if s.soil in ("Silty clay", "Silt parting"))
        assert 2.8 <= clay <= 3.6
        assert abs(hole.ground_level - 3.2) < 0.1
    assert demo.ground.water is not None
    assert (demo.ground.water.normal, demo.ground.water.high) == (1.6, 2.4)


def test_pads_along_the_quay_are_off_the_middle_and_end_at_the_boundary(demo: Project) -> None:
    for pad in demo.pads:
        if pad.load_point.startswith("E"):
            assert pad.offset_x > 0
            edge = demo.load_point(pad.load_point).x - pad.offset_x + pad.width / 2
            assert abs(edge - 33.05) < 1e-9


def test_it_shows_something_of_each(demo: Project) -> None:
    states = {c.state for c in evaluate(demo).all_checks}
    assert {State.HOLDS, State.FAILS, State.NOT_APPLICABLE, State.NOT_DESIGNED} <= states
    near = [c for c in evaluate(demo).all_checks if c.ratio and 0.9 < c.ratio <= 1.0]
    assert {c.check.group for c in near} >= {"bearing", "settlement"}


def test_every_question_is_served(demo: Project) -> None:
    served = {s for c in demo.actions.combinations for s in c.serves}
    assert {"allowable", "ultimate", "EQU", "UPL", "concrete", "settlement_long"} <= served
    assert {c.factor_set for c in demo.actions.combinations if "ultimate" in c.serves} == {"M1", "M2"}
    assert any(c.situation == "accidental" for c in demo.actions.combinations)


def test_the_starter_has_its_combinations_ready() -> None:
    project = starter()
    served = {s for c in project.actions.combinations for s in c.serves}
    assert {"allowable", "ultimate", "EQU", "UPL", "concrete", "settlement_long"} <= served
    assert project.settings.presumed_pressure
