"""Sliding, overturning, uplift: hand values, the rule of overturning, states."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import CheckResult, State
from korbent.core.evaluate import evaluate
from korbent.core.geometry import within_circle
from korbent.core.model import Combination, Load, LoadCase, Project, edited
from korbent.core.stability.sliding import drained_resistance, undrained_resistance
from korbent.verification.pad import one_pad

BASE, SOIL = 60.0, 18 * 0.7 * (4.8 - 0.16)


def found(project: Project, check: str) -> CheckResult:
    return evaluate(project).pads[0].check(check)


def with_equ(load: Load, second: Load, factors: dict[str, float], **changes: object) -> Project:
    project = one_pad(load=load, **changes)
    project = edited(project, ("actions", "load_points", "C", "loads", "E"), second)
    row = Combination(number=1, factors=factors, serves=("EQU",))
    return edited(project, ("actions", "combinations"), (row,))


def test_resistances() -> None:
    assert drained_resistance(np.array([100.0, -5.0]), np.array(0.5)).tolist() == [50.0, 0.0]
    area, strength, V = np.array([2.0]), np.array([40.0]), np.array([150.0])
    assert undrained_resistance(area, strength, V, capped=True)[0] == 60.0
    assert undrained_resistance(area, strength, V, capped=False)[0] == 80.0


def test_the_parts_of_one_case_act_together() -> None:
    """M and H h of one case oppose each other: only what is left overturns."""
    opposed = with_equ(Load(V=600), Load(Hx=50.0, My=-40.0), {"G": 1.0, "E": 1.0})
    check = found(opposed, "overturning")
    assert check.demand == pytest.approx(50 * 1.2 - 40)
    assert check.message.startswith("about the +x edge")


def test_a_case_that_stabilises_as_a_whole_stabilises_with_its_whole_moment() -> None:
    """V of the case outweighs its own moment about every edge."""
    project = with_equ(Load(V=600, My=100.0), Load(), {"G": 1.0})
    check = found(project, "overturning")
    assert check.demand == 0.0
    assert check.ratio == 0.0
    assert check.state is State.HOLDS


@pytest.mark.parametrize(
    ("load", "edge", "moment"),
    [
        (Load(Hx=30.0), "+x edge", 36.0),
        (Load(Hx=-30.0), "−x edge", 36.0),
        (Load(Hy=30.0), "+y edge", 36.0),
        (Load(Hy=-30.0), "−y edge", 36.0),
        (Load(Mx=25.0), "−y edge", 25.0),
        (Load(Mx=-25.0), "+y edge", 25.0),
        (Load(My=25.0), "+x edge", 25.0),
    ],
)
def test_every_edge(load: Load, edge: str, moment: float) -> None:
    check = found(with_equ(Load(V=600), load, {"G": 1.0, "E": 1.0}), "overturning")
    assert check.message.startswith(f"about the {edge}")
    assert check.demand == pytest.approx(moment)
    half = 1.0 if "x" in edge else 1.2
    assert check.capacity == pytest.approx((600 + BASE + SOIL) * half)


def test_a_column_off_the_middle_has_another_lever() -> None:
    check = found(with_equ(Load(V=600), Load(Hx=30.0), {"G": 1.0, "E": 1.0}, offset_x=0.3), "overturning")
    cut = 18 * 0.7 * 0.16
    assert check.capacity == pytest.approx((600 - cut) * 0.7 + (BASE + SOIL + cut) * 1.0)


def test_water_below_destabilises() -> None:
    dry = with_equ(Load(V=600), Load(Hx=30.0), {"G": 1.0, "E": 1.0})
    wet = edited(dry, ("actions", "combinations", 1, "water"), "high")
    assert (found(wet, "overturning").demand or 0) - (found(dry, "overturning").demand or 0) == pytest.approx(
        9.81 * 0.5 * 4.8 * 1.0
    )


@given(st.floats(0.0, 3.0))
def test_the_ratio_grows_with_the_overturning_load(factor: float) -> None:
    one, two = (
        found(with_equ(Load(V=600), Load(Hx=30.0), {"G": 1.0, "E": f}), "overturning").ratio or 0.0
        for f in (factor, factor + 0.1)
    )
    assert two > one


def test_nothing_holds_a_lifted_base() -> None:
    project = with_equ(Load(V=-500), Load(), {"G": 1.0})
    project = edited(project, ("actions", "combinations", 1, "weight_favourable"), 0.0)
    project = edited(project, ("actions", "combinations", 1, "weight_unfavourable"), 0.0)
    assert found(project, "overturning").state is State.UNSTABLE


def test_uplift_counts_no_variable_load_that_presses() -> None:
    row = Combination(number=1, factors={"G": 0.9, "E": 1.5}, serves=("UPL",), water="high")
    project = edited(one_pad(), ("actions", "combinations"), (row,))
    pressing = edited(project, ("actions", "load_points", "C", "loads", "E", "V"), 200.0)
    assert found(pressing, "uplift").capacity == pytest.approx(0.9 * 600 + BASE + SOIL)
    assert found(pressing, "uplift").demand == pytest.approx(9.81 * 0.5 * 4.8)
    assert found(project, "uplift").demand == pytest.approx(150 + 9.81 * 0.5 * 4.8)


def test_uplift_without_anything_lifting_does_not_apply() -> None:
    row = Combination(number=1, factors={"G": 0.9}, serves=("UPL",), water="low")
    assert found(edited(one_pad(), ("actions", "combinations"), (row,)), "uplift").state is State.NOT_APPLICABLE


def test_uplift_by_a_safety_factor() -> None:
    row = Combination(number=1, factors={"G": 1.0}, serves=("allowable",), water="high")
    check = found(edited(one_pad(), ("actions", "combinations"), (row,)), "uplift")
    assert check.factor == pytest.approx((600 + BASE + SOIL) / (9.81 * 0.5 * 4.8))
    assert check.ratio == pytest.approx(1.1 / (check.factor or 1))


def test_sliding_with_precast_base_and_with_set_friction() -> None:
    cast = found(one_pad(), "sliding-drained").ratio or 0
    precast = found(edited(one_pad(), ("settings", "friction_ratio"), 2 / 3), "sliding-drained").ratio or 0
    assert precast == pytest.approx(1.5 * cast)
    set_by_hand = found(edited(one_pad(), ("settings", "base_friction"), 0.3), "sliding-drained")
    assert set_by_hand.capacity == pytest.approx((600 + BASE + SOIL) * 0.3 / 1.25)


def test_sliding_with_nothing_pressing() -> None:
    check = found(one_pad(load=Load(V=-400.0, Hx=10.0)), "sliding-drained")
    assert check.state is State.UNSTABLE
    assert "nothing presses" in check.message


def test_horizontal_forces_add_as_a_vector() -> None:
    check = found(one_pad(load=Load(V=600, Hx=30, Hy=40)), "sliding-drained")
    assert check.demand == pytest.approx(50.0)
    assert check.ratio == pytest.approx(50 * 1.25 / ((600 + BASE + SOIL) * math.tan(math.radians(30))))


def test_adhesion_beyond_its_cap() -> None:
    free = edited(one_pad(), ("settings", "adhesion_capped"), False)
    assert (found(free, "sliding-undrained").capacity or 0) >= (found(one_pad(), "sliding-undrained").capacity or 0)
    weak = edited(free, ("ground", "soils", "ground", "undrained_strength"), 7.0)
    assert (found(weak, "sliding-undrained").ratio or 0) > 1


# with a global factor


def by_factor(loads: dict[str, Load], factors: dict[str, float] | None = None, **changes: object) -> CheckResult:
    """Overturning with a required factor of safety: no combination serves EQU."""
    project = one_pad(**changes)
    point = project.actions.load_points[0].replaced(loads=loads)
    cases = tuple(LoadCase(name=n, nature="permanent" if n == "G" else "wind") for n in loads)
    combination = Combination(number=1, factors=factors or dict.fromkeys(loads, 1.0), serves=("allowable",))
    actions = project.actions.replaced(cases=cases, load_points=(point,), combinations=(combination,))
    project = project.replaced(actions=actions)
    return found(project, "overturning")


def test_how_loads_are_split_into_cases_does_not_matter() -> None:
    """V and M in one case or apart, or in halves: one factor; by hand about the +x edge."""
    together = by_factor({"G": Load(V=300.0, My=200.0)})
    apart = by_factor({"G": Load(V=300.0), "W": Load(My=200.0)})
    halves = by_factor({"G": Load(V=150.0, My=100.0), "W": Load(V=150.0, My=100.0)})
    weights = 25 * 0.5 * 4.8 + 18 * 0.7 * (4.8 - 0.16)
    factor = (300.0 + weights) * 1.0 / 200.0
    for result in (together, apart, halves):
        assert result.factor == pytest.approx(factor, rel=1e-9)
    assert together.message.startswith("about the +x edge")


def test_vertical_loads_count_by_their_own_sign_and_lateral_ones_net() -> None:
    lifted = by_factor({"G": Load(V=400.0), "W": Load(V=-150.0, My=120.0)})
    weights = 25 * 0.5 * 4.8 + 18 * 0.7 * (4.8 - 0.16)
    assert lifted.factor == pytest.approx((400.0 + weights) / (120.0 + 150.0), rel=1e-9)
    netted = by_factor({"G": Load(V=400.0, My=-90.0), "W": Load(My=120.0)})
    assert netted.factor == pytest.approx((400.0 + weights) / 30.0, rel=1e-9)
    assert netted.state is State.WARNS
    assert "more than half of the lateral moments cancel" in netted.message
    assert "cancel" not in lifted.message


@given(st.floats(0.05, 0.95), st.floats(0.05, 0.95), st.booleans())
def test_splitting_cases_on_any_base(first: float, second: float, round_base: bool) -> None:
    load = Load(V=350.0, Hx=30.0, Hy=-12.0, Mx=25.0, My=60.0)
    shape = {"shape": "circle", "width": 2.2, "length": 2.2} if round_base else {"offset_x": 0.2}

    def part(v: float, m: float) -> Load:
        return Load(V=v * load.V, Hx=m * load.Hx, Hy=m * load.Hy, Mx=m * load.Mx, My=m * load.My)

    whole = by_factor({"G": load}, **shape)
    split = by_factor({"G": part(first, second), "W": part(1 - first, 1 - second)}, **shape)
    assert split.factor == pytest.approx(whole.factor, rel=1e-9)


def test_two_columns_each_by_its_own_sign() -> None:
    """One column pulls while the other presses: the pull overturns about the far edge, whatever the sum does."""
    project = one_pad(load=Load(V=500.0), width=4.0, offset_x=-1.2)
    second = project.actions.load_points[0].replaced(name="D", x=2.4, loads={"G": Load(V=-120.0)})
    actions = project.actions.replaced(
        load_points=(*project.actions.load_points, second),
        combinations=(Combination(number=1, factors={"G": 1.0}, serves=("allowable",)),),
    )
    pads = (project.pads[0].replaced(further=("D",)),)
    result = found(project.replaced(actions=actions, pads=pads), "overturning")
    weights = 25 * 0.5 * 9.6 + 18 * 0.7 * (9.6 - 0.32)
    # about the -x edge: the pull 3.2 m away, the other column 0.8 m, the weights 2 m
    assert result.message.startswith("about the −x edge")
    assert result.factor == pytest.approx((500.0 * 0.8 + weights * 2.0) / (120.0 * 3.2), rel=1e-9)


def test_a_column_on_a_ring_displaces_backfill_outside_the_hole() -> None:
    """A ring with a vanishing hole is a circle; a column over a wide hole displaces nothing."""
    load = Load(V=-100.0)
    circle = found(one_pad(load=load, shape="circle", width=2.4, length=2.4), "uplift")
    ring = found(one_pad(load=load, shape="ring", hole=1e-4, width=2.4, length=2.4), "uplift")
    assert ring.ratio == pytest.approx(circle.ratio, rel=1e-6)
    assert within_circle(0.5, 0.0, 0.0, 0.4, 0.4)[0] == pytest.approx(0.16)
    area, x, _ = within_circle(1.0, 0.5, 0.0, 1.0, 4.0)
    assert area == pytest.approx(math.pi / 2, rel=1e-12)
    assert x == pytest.approx(2 / 3, rel=1e-12)


def test_adhesion_counts_with_a_global_factor_alone_and_the_critical_angle_everywhere() -> None:
    """EN 1997-1 6.5.3 neglects c'; with a factor of safety a stated adhesion on A' counts."""
    project = one_pad(load=Load(V=400.0, Hx=40.0))
    rows = (Combination(number=1, factors={"G": 1.0}, serves=("allowable",)),)
    by_global = project.replaced(actions=project.actions.replaced(combinations=rows))
    friction = found(by_global, "sliding-drained").capacity or 0.0
    held = edited(by_global, ("settings", "base_adhesion"), 8.0)
    N = 400.0 + BASE + SOIL
    area = (2.0 - 2 * 40.0 * 1.2 / N) * 2.4
    assert found(held, "sliding-drained").capacity == pytest.approx(friction + 8.0 * area, rel=1e-9)
    factored = edited(project, ("settings", "base_adhesion"), 8.0)
    assert found(factored, "sliding-drained").capacity == found(project, "sliding-drained").capacity
    critical = edited(by_global, ("settings", "critical_angle"), 25.0)
    expected = friction * math.tan(math.radians(25)) / math.tan(math.radians(30))
    assert found(critical, "sliding-drained").capacity == pytest.approx(expected, rel=1e-9)
