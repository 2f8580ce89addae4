"""Combinations become situations; loads become forces at the underside."""

from dataclasses import fields

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.actions.base_forces import base_forces, case_loads, turned
from korbent.core.actions.situations import BY_SITUATION, situations_for
from korbent.core.geometry import DRIVING, pad_geometry, table
from korbent.core.model import Actions, Backfill, Combination, LoadCase, Project, Water, edited
from korbent.verification.pad import one_pad

ONE = np.zeros(1, dtype=int)
CASES = (LoadCase(name="G"), LoadCase(name="Q", nature="imposed"))


def actions(*combinations: Combination) -> Actions:
    return Actions(cases=CASES, combinations=combinations)


def test_two_weight_factors_give_two_situations() -> None:
    both = Combination(
        number=3,
        factors={"G": 1.35, "Q": 1.5},
        serves=("concrete",),
        weight_unfavourable=1.35,
        weight_favourable=1.0,
    )
    one = Combination(number=4, factors={"G": 1.0}, serves=("concrete", "allowable"))
    found = situations_for(actions(both, one), None, "concrete")
    assert [found.label(i) for i in range(len(found))] == ["3 heavy", "3 light", "4"]
    assert found.weight.tolist() == [1.35, 1.0, 1.0]
    assert found.factors.tolist() == [[1.35, 1.5], [1.35, 1.5], [1.0, 0.0]]
    assert found.permanent.tolist() == [1.0, 0.0]
    assert len(situations_for(actions(both, one), None, "allowable")) == 1
    assert len(situations_for(actions(both, one), None, "EQU")) == 0


@pytest.mark.parametrize(("name", "factors"), [("M1", (1.0, 1.0, 1.0)), ("M2", (1.25, 1.25, 1.4))])
def test_material_factors(name: str, factors: tuple[float, ...]) -> None:
    combination = Combination(number=1, factors={"G": 1.0}, serves=("ultimate",), factor_set=name)  # type: ignore[arg-type]
    found = situations_for(actions(combination), None, "ultimate")
    assert (found.on_tan_phi[0], found.on_cohesion[0], found.on_undrained[0]) == factors


def test_water_levels_and_special_situations() -> None:
    rows = [
        Combination(number=i, factors={"G": 1.0}, serves=("UPL",), water=level, situation=kind)  # type: ignore[arg-type]
        for i, (level, kind) in enumerate((("low", "persistent"), ("normal", "accidental"), ("high", "seismic")), 1)
    ]
    found = situations_for(actions(*rows), Water(low=-3, normal=-2, high=-1), "UPL")
    assert found.water_level.tolist() == [-3.0, -2.0, -1.0]
    assert found.is_special().tolist() == [False, True, True]
    assert (situations_for(actions(*rows), None, "UPL").water_level < -1e5).all()


def forces(project: Project) -> np.ndarray:
    pad = project.pads[0]
    point = project.load_point(pad.load_point)
    situations = situations_for(project.actions, project.ground.water, "allowable")
    found = base_forces(
        pad_geometry((pad,), (point,), ONE, table(pad)),
        case_loads(point, situations.cases)[None],
        situations,
        project.ground.backfill,
        0.0,
        25.0,
    )
    return np.array([found.V, found.N, found.Hx, found.Hy, found.Mx, found.My])[:, 0, 0]


@given(st.floats(-3, 3), st.floats(-3, 3))
def test_forces_superpose(first: float, second: float) -> None:
    """Loads of two cases add; the weights are there once."""

    def with_factors(g: float, e: float) -> np.ndarray:
        row = Combination(number=1, factors={"G": g, "E": e}, serves=("allowable",))
        return forces(edited(one_pad(rotation=25.0, offset_x=0.3), ("actions", "combinations"), (row,)))

    none = with_factors(0.0, 0.0)
    total = with_factors(first, second) - none
    parts = (with_factors(first, 0.0) - none) + (with_factors(0.0, second) - none)
    assert total == pytest.approx(parts, abs=1e-8)


@given(st.floats(-360, 360))
def test_turning_keeps_lengths(angle: float) -> None:
    loads = np.array([[500.0, 30.0, -20.0, 60.0, 45.0]])
    found = turned(loads, np.deg2rad(angle))[0]
    assert found[0] == 500.0
    assert np.hypot(*found[1:3]) == pytest.approx(np.hypot(30, 20))
    assert np.hypot(*found[3:]) == pytest.approx(75.0)
    back = turned(turned(loads, np.deg2rad(angle)), -np.deg2rad(angle))
    assert back == pytest.approx(loads)


def test_a_quarter_turn() -> None:
    """Seen from axes turned by 90 degrees, a force along +x points along -y."""
    found = turned(np.array([[0.0, 10.0, 0.0, 0.0, 7.0]]), np.pi / 2)[0]
    assert found == pytest.approx([0.0, 0.0, -10.0, 7.0, 0.0], abs=1e-12)


def test_water_is_not_netted_into_a_weight() -> None:
    """0.9 W - 1.0 U, not 0.9 (W - U)."""
    project = one_pad()
    row = Combination(
        number=1,
        factors={},
        serves=("allowable",),
        water="high",
        weight_unfavourable=0.9,
        weight_favourable=0.9,
        water_factor=1.0,
    )
    V, N, *_ = forces(edited(project, ("actions", "combinations"), (row,)))
    W = 25 * 2.0 * 2.4 * 0.5 + 18.0 * 0.7 * (4.8 - 0.16)
    assert pytest.approx(0.9 * W) == V
    assert pytest.approx(0.9 * W - 9.81 * 0.5 * 4.8) == N


def test_backfill_below_water_weighs_its_saturated_weight() -> None:
    project = edited(one_pad(), ("ground", "water"), {"low": -5, "normal": -0.3, "high": -0.2})
    V = forces(project)[0]
    assert pytest.approx(600 + 60 + (18 * 0.3 + 20 * 0.4) * (4.8 - 0.16)) == V


def test_no_backfill_above_a_base_that_reaches_the_surface() -> None:
    assert forces(one_pad(level=-0.5))[0] == pytest.approx(600 + 60)
    assert forces(one_pad(level=-0.2))[0] == pytest.approx(600 + 60)


def test_geometry_of_candidates() -> None:
    pad = one_pad(held="top", level=-0.6).pads[0]
    rows = table(pad, (("thickness", 0.1), ("level", -0.2)))
    assert rows.shape == (3, len(DRIVING))
    g = pad_geometry((pad,), (one_pad().load_point("C"),), np.zeros(3, dtype=int), rows)
    assert g.top[:, 0] == pytest.approx([-0.6, -0.6, -0.8])
    assert g.underside[:, 0] == pytest.approx([-1.1, -1.2, -1.3])


@pytest.mark.parametrize(
    ("kind", "turn", "face"),
    [
        ("concrete_column", 0.0, (0.4, 0.6)),
        ("concrete_column", 90.0, (0.6, 0.4)),
        ("concrete_column", 45.0, (0.24**0.5, 0.24**0.5)),
        ("steel_column", 0.0, (0.45, 0.65)),
        ("masonry_wall", 0.0, (0.2, 0.6)),
    ],
)
def test_where_the_critical_sections_start(kind: str, turn: float, face: tuple[float, float]) -> None:
    project = one_pad()
    point = project.load_point("C").replaced(
        kind=kind,
        size_x=0.4,
        size_y=0.6,
        rotation=turn,
        plate_x=0.5 if "steel" in kind else None,
        plate_y=0.7 if "steel" in kind else None,
    )
    g = pad_geometry(project.pads, (point,), ONE, table(project.pads[0]))
    assert [size.item() for size in g.face] == pytest.approx(face)
    assert g.askew == (turn == 45.0,)


def test_backfill_is_a_material_of_its_own() -> None:
    light = edited(one_pad(), ("ground", "backfill"), Backfill(weight=10.0, weight_saturated=12.0))
    assert forces(one_pad())[0] - forces(light)[0] == pytest.approx(8.0 * 0.7 * (4.8 - 0.16))


def test_each_array_of_situations_has_a_row_for_each_or_one_for_each_case(demo: Project) -> None:
    """What is cut or doubled with the situations is just what has a row for each."""
    situations = situations_for(demo.actions, demo.ground.water, "ultimate")
    count, cases = len(situations), len(situations.cases)
    assert count != cases
    arrays = {f.name: getattr(situations, f.name) for f in fields(situations)}
    arrays = {n: v for n, v in arrays.items() if isinstance(v, np.ndarray)}
    assert {n for n, v in arrays.items() if v.shape[0] == count} == {*BY_SITUATION}
    assert {v.shape for n, v in arrays.items() if n not in BY_SITUATION} == {(cases,)}
    twice = situations.twice(" again")
    assert len(twice) == 2 * count == len({*map(twice.label, range(2 * count))})
    assert all(getattr(twice, n).shape[0] == 2 * count for n in BY_SITUATION)
