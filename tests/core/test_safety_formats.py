"""Design approaches and resistance factors, passive resistance, props, reduced seismic overturning."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.actions.rules import RULES, combinations_for
from korbent.core.actions.situations import situations_for
from korbent.core.evaluate import evaluate_pad
from korbent.core.explain.working import Working, situations_of, working
from korbent.core.model import Load, LoadCase, Project, Water
from korbent.core.model.edit import edited
from korbent.core.stability.sliding import in_worst_direction
from korbent.verification.pad import one_pad


def with_set(name: str, **changes: object) -> Project:
    return edited(one_pad(**changes), ("actions", "combinations", 2, "factor_set"), name)


def found(project: Project, check: str):
    return evaluate_pad(project, project.pads[0]).check(check)


@pytest.mark.parametrize("check", ["resistance-drained", "resistance-undrained"])
def test_r2_divides_the_bearing_resistance(check: str) -> None:
    plain, divided = found(with_set("M1"), check), found(with_set("M1+R2"), check)
    assert plain.capacity == pytest.approx(1.4 * divided.capacity)
    assert plain.demand == pytest.approx(divided.demand)
    assert divided.ratio == pytest.approx(1.4 * plain.ratio)


@pytest.mark.parametrize("check", ["sliding-drained", "sliding-undrained"])
def test_r2_divides_the_resistance_to_sliding(check: str) -> None:
    assert found(with_set("M1"), check).capacity == pytest.approx(1.1 * found(with_set("M1+R2"), check).capacity)


def test_resistance_factors_come_from_the_settings() -> None:
    plain, factored = with_set("M1"), with_set("R")
    factored = edited(factored, ("settings", "resistance_bearing"), 0.5)
    assert found(factored, "resistance-drained").capacity == pytest.approx(
        0.5 * found(plain, "resistance-drained").capacity
    )
    assert found(factored, "sliding-drained").capacity == pytest.approx(0.8 * found(plain, "sliding-drained").capacity)


def test_da2_star_keeps_the_eccentricity_of_characteristic_actions() -> None:
    """One variable case 1.5 Q: the resistance is that of Q alone, the demand 1.5 times its vertical force on that
    area."""
    load = Load(V=600.0, Hx=40.0, My=80.0)
    project = with_set("M1+R2*", load=load)
    project = edited(project, ("actions", "cases", "G", "nature"), "imposed")
    project = edited(project, ("actions", "combinations", 2, "factors", "G"), 1.5)
    weightless = project.replaced(settings=project.settings.replaced(concrete_weight=0.001))
    weightless = edited(weightless, ("ground", "backfill", "weight"), 0.001)
    star = found(weightless, "resistance-drained")
    # by hand: the area under 600 kN at e = (80 + 1.2 x 40)/600, the demand 900 kN on it
    e = (80 + 1.2 * 40) / 600
    area = (2.0 - 2 * e) * 2.4
    assert star.demand == pytest.approx(900 / area, rel=1e-4)
    plain = edited(
        edited(weightless, ("actions", "combinations", 2, "factor_set"), "M1"),
        ("actions", "combinations", 2, "factors", "G"),
        1.0,
    )
    assert star.capacity == pytest.approx(found(plain, "resistance-drained").capacity / 1.4, rel=1e-9)


def test_da2_star_is_milder_than_da2_where_a_permanent_load_holds() -> None:
    project = with_set("M1+R2")
    factors = {"G": 1.0, "E": -1.5}
    project = edited(project, ("actions", "combinations", 2, "factors"), factors)
    star = edited(project, ("actions", "combinations", 2, "factor_set"), "M1+R2*")
    assert found(star, "resistance-drained").ratio < found(project, "resistance-drained").ratio


@pytest.mark.parametrize(
    ("rules", "sets", "factor"),
    [
        ("DA1", {"M1", "M2"}, 1.35),
        ("DA2", {"M1+R2", "M1"}, 1.35),
        ("DA2*", {"M1+R2*", "M1"}, 1.35),
        ("DA3", {"M2", "M1"}, 1.35),
    ],
)
def test_rule_sets_of_the_design_approaches(rules: str, sets: set[str], factor: float) -> None:
    cases = (
        LoadCase(name="G"),
        LoadCase(name="Q", nature="imposed"),
        LoadCase(name="A", nature="accidental"),
    )
    rows = combinations_for(f"EN 1990 (6.10), {rules}", cases)
    assert {r.factor_set for r in rows if "ultimate" in r.serves} == sets
    concrete = [r for r in rows if "concrete" in r.serves and r.situation == "persistent"]
    assert max(r.factors["G"] for r in concrete) == factor
    if rules == "DA3":
        assert all(r.factor_set == "M2" for r in concrete)
    assert f"EN 1990 (6.10), {rules}" in RULES


def test_passive_resistance_by_hand() -> None:
    """Base 0.5 m thick, underside 1.2 m down: between 0.7 and 1.2 m, mobilised by half."""
    project = edited(with_set("M1"), ("settings", "passive_angle"), 30.0)
    bare = found(with_set("M1"), "sliding-drained")
    held = found(project, "sliding-drained")
    passive = 0.5 * 3.0 * 18.0 * (0.7 + 1.2) / 2 * 0.5 * 2.4
    assert held.capacity - bare.capacity == pytest.approx(passive)
    deep = edited(project, ("settings", "passive_ignored"), 1.0)
    less = 0.5 * 3.0 * 18.0 * (1.0 + 1.2) / 2 * 0.2 * 2.4
    assert found(deep, "sliding-drained").capacity - bare.capacity == pytest.approx(less)


def test_the_worst_direction_governs() -> None:
    """A prop along x alone leaves the force along y to the friction."""
    project = with_set("M1", load=Load(V=600.0, Hx=150.0, Hy=60.0))
    project = edited(project, ("settings", "prop_direction"), "x")
    bare = found(project, "sliding-drained")
    much = found(edited(project, ("settings", "prop_force"), 1e5), "sliding-drained")
    assert much.message.startswith("worst direction")
    assert much.ratio == pytest.approx(60.0 / bare.capacity)
    some = found(edited(project, ("settings", "prop_force"), 30.0), "sliding-drained")
    rows = situations_of(edited(project, ("settings", "prop_force"), 30.0), project.pads[0], "sliding-drained")
    by_axis = {row.block: row.ratio for row in reversed(rows)}  # the worst of each stays
    assert by_axis["drained along x"] == pytest.approx(150.0 / (bare.capacity + 30.0))
    assert by_axis["drained along y"] == pytest.approx(60.0 / bare.capacity)
    assert some.ratio == pytest.approx(by_axis["drained worst direction"])
    assert some.ratio >= max(by_axis.values())


@given(
    angle=st.floats(0, 2 * math.pi),
    R=st.floats(1.0, 50.0),
    F_x=st.floats(0.0, 80.0),
    F_y=st.floats(0.0, 80.0),
    H=st.floats(0.5, 90.0),
)
def test_the_worst_direction_against_all_directions(angle: float, R: float, F_x: float, F_y: float, H: float) -> None:
    H_x, H_y = H * math.cos(angle), H * math.sin(angle)
    held = float(in_worst_direction(np.array(H_x), np.array(H_y), np.array(R), F_x, F_y))
    way = np.linspace(0, 2 * math.pi, 40_001)
    pushed = H_x * np.cos(way) + H_y * np.sin(way)
    resists = R + F_x * np.abs(np.cos(way)) + F_y * np.abs(np.sin(way))
    assert H / held == pytest.approx(float((pushed / resists).max()), rel=1e-6)


@pytest.mark.parametrize(
    ("nature", "left"),
    [("permanent", 1.0), ("soil", 1.0), ("imposed", 0.9), ("wind", 0.9), ("seismic", 1.35)],
)
def test_characteristic_actions_by_their_nature(nature: str, left: float) -> None:
    project = edited(with_set("M1+R2*"), ("actions", "cases", "G", "nature"), nature)
    project = edited(project, ("actions", "combinations", 2, "factors", "G"), 1.35)
    found_ = situations_for(project.actions, project.ground.water, "ultimate")
    assert found_.characteristic().factors[0, 0] == pytest.approx(left)


def test_a_prop_holds_against_overturning_as_far_as_it_is_called_upon() -> None:
    project = one_pad()
    bare = found(project, "overturning")
    propped = edited(project, ("settings", "prop_force"), 1e4)
    propped = edited(propped, ("settings", "prop_level"), 0.3)
    # governing combination 0.9 G + E: H = 0.9 x 40 + 30 = 66 kN at 1.5 m above the underside
    assert found(propped, "overturning").capacity - bare.capacity == pytest.approx(66.0 * 1.5)
    little = edited(propped, ("settings", "prop_force"), 10.0)
    assert found(little, "overturning").capacity - bare.capacity == pytest.approx(10.0 * 1.5)


@pytest.mark.parametrize(("kind", "share"), [("static_less_25", 0.75), ("modal_less_10", 0.9)])
def test_seismic_overturning_is_reduced_at_the_ground_only(kind: str, share: float) -> None:
    project = edited(one_pad(), ("actions", "cases", "E", "nature"), "seismic")
    project = edited(project, ("actions", "load_points", "C", "loads", "E"), Load(Hx=30.0, My=90.0))
    project = edited(project, ("actions", "load_points", "C", "loads", "G"), Load(V=600.0))
    full = found(project, "overturning")
    less = found(edited(project, ("settings", "seismic_overturning"), kind), "overturning")
    assert less.demand == pytest.approx(share * full.demand)
    assert less.capacity == pytest.approx(full.capacity)
    reduced = edited(project, ("settings", "seismic_overturning"), kind)
    reduced = edited(reduced, ("actions", "combinations", 1, "factors", "E"), 1.0)
    plain = edited(project, ("actions", "combinations", 1, "factors", "E"), 1.0)
    assert found(reduced, "eccentricity").demand == pytest.approx(share * found(plain, "eccentricity").demand)
    assert found(reduced, "bottom-x").demand == pytest.approx(found(plain, "bottom-x").demand)
    opened = working(reduced, reduced.pads[0], "eccentricity")
    assert isinstance(opened, Working)
    assert any("7 12.13.4" in line.reference for line in opened.lines())


def test_every_new_working_leads_down_to_inputs() -> None:
    project = edited(with_set("M1+R2*", load=Load(V=600.0, Hx=150.0, Hy=60.0)), ("settings", "passive_angle"), 30.0)
    project = edited(project, ("settings", "prop_force"), 20.0)
    for check in ("sliding-drained", "sliding-undrained", "resistance-drained", "overturning"):
        opened = working(project, project.pads[0], check)
        assert isinstance(opened, Working)
        assert opened.lines()[-1].symbol == "ratio"


@pytest.mark.parametrize("drainage", ["drained", "undrained"])
def test_a_tilted_underside_lessens_the_resistance_by_annex_d(drainage: str) -> None:
    level, tilted = (
        with_set("M1", load=Load(V=600.0)),
        edited(with_set("M1", load=Load(V=600.0)), ("settings", "base_tilt"), 8.0),
    )
    before, after = (found(p, f"resistance-{drainage}").capacity for p in (level, tilted))
    alpha, t = math.radians(8.0), math.tan(math.radians(30.0))
    if drainage == "undrained":
        q = 18.0 * 1.2
        assert (after - q) / (before - q) == pytest.approx(1 - 2 * alpha / (math.pi + 2))
    else:
        assert after < before * (1 - alpha * t) ** 2 + 1e-9
    assert "no factor" not in found(tilted, f"resistance-{drainage}").message


def test_sloping_ground_is_taken_or_said_to_be_left_out() -> None:
    project = edited(with_set("M1"), ("settings", "ground_slope"), 15.0)
    project = edited(project, ("settings", "factor_bearing"), 3.0)
    assert "ground that falls away beside the base: it is left out" in found(project, "resistance-drained").message
    sloping = found(project, "safety-drained")
    flat = found(edited(project, ("settings", "ground_slope"), 0.0), "safety-drained")
    assert sloping.capacity < flat.capacity
    assert "no factor" not in sloping.message
    meyerhof = edited(project, ("settings", "bearing_method"), "Meyerhof 1963")
    assert "Meyerhof 1963 has no factor for sloping ground" in found(meyerhof, "safety-drained").message


def test_a_board_below_the_base() -> None:
    project = edited(one_pad(load=Load(V=600.0)), ("settings", "board_strength"), 150.0)
    result = found(project, "board")
    weight = 25 * 2 * 2.4 * 0.5 + 18 * 0.7 * (2 * 2.4 - 0.16)
    assert result.demand == pytest.approx((600 + weight) / 4.8)
    assert result.ratio == pytest.approx(result.demand / 150.0)
    assert found(one_pad(), "board").message == "no board lies below the base"
    wet = project.replaced(ground=project.ground.replaced(water=Water(low=-0.7, normal=-0.7, high=-0.7)))
    assert found(wet, "board").demand == pytest.approx(result.demand)
    opened = working(project, project.pads[0], "board")
    assert isinstance(opened, Working)
    assert opened.lines()[-1].symbol == "ratio"
