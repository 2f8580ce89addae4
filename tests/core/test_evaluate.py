"""From project to results: states, symmetry, monotony, what is computed again and what is not."""

import math
from collections.abc import Callable

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import CHECKS, CheckResult, State, worst_by_candidate
from korbent.core.evaluate import effects_of, evaluate, evaluate_pad, increments_of, outcomes_for
from korbent.core.explain.state import BaseState, base_state
from korbent.core.explain.working import working
from korbent.core.geometry import table
from korbent.core.model import Acceptance, Combination, Load, PadType, Project, edited
from korbent.demo import coombe, hollin, lindmere, redstem
from korbent.demo.starter import starter
from korbent.verification.pad import one_pad

force = st.floats(-150.0, 150.0)


def results(project: Project) -> dict[str, CheckResult]:
    return {c.check.id: c for c in evaluate(project).pads[0].checks}


def ratios(project: Project) -> dict[str, float | None]:
    return {name: c.ratio for name, c in results(project).items()}


def same(a: float | None, b: float | None) -> bool:
    return a == b if a is None or b is None else math.isclose(a, b, rel_tol=1e-7, abs_tol=1e-9)


# ---------------------------------------------------------------- symmetry


@pytest.mark.long
@given(force, force, force, force)
def test_mirrored_loads_mirror(Hx: float, Hy: float, Mx: float, My: float) -> None:
    first = ratios(one_pad(load=Load(V=600, Hx=Hx, Hy=Hy, Mx=Mx, My=My), offset_x=0.1))
    # mirrored at the y axis: x components of the force and moments about y turn round
    second = ratios(one_pad(load=Load(V=600, Hx=-Hx, Hy=Hy, Mx=Mx, My=-My), offset_x=-0.1))
    first.pop("overturning"), second.pop("overturning")  # its second case is not mirrored
    for name in first:
        assert same(first[name], second[name]), name


@pytest.mark.long
@given(force, force, force, force)
def test_quarter_turn_with_swapped_layers_turns(Hx: float, Hy: float, Mx: float, My: float) -> None:
    first = ratios(one_pad(load=Load(V=600, Hx=Hx, Hy=Hy, Mx=Mx, My=My)))
    turned = one_pad(load=Load(V=600, Hx=-Hy, Hy=Hx, Mx=-My, My=Mx), width=2.4, length=2.0)
    turned = edited(turned, ("settings", "outer_bars"), "y")
    second = ratios(turned)
    names = {n: n[:-1] + {"x": "y", "y": "x"}[n[-1]] if n[-2:] in ("-x", "-y") else n for n in first}
    for name, other in names.items():
        if name not in ("overturning", "uplift"):
            assert same(first[name], second[other]), name


@pytest.mark.long
@given(st.floats(-180, 180), force, force, force, force)
def test_turning_pad_column_and_loads_together_changes_nothing(
    angle: float, Hx: float, Hy: float, Mx: float, My: float
) -> None:
    load = Load(V=600, Hx=Hx, Hy=Hy, Mx=Mx, My=My)
    first = ratios(one_pad(load=load))
    project = one_pad(load=load, rotation=angle)
    project = edited(project, ("actions", "load_points", "C", "axes"), "local")
    second = ratios(edited(project, ("actions", "load_points", "C", "rotation"), angle))
    for name in first:
        assert same(first[name], second[name]), name


# ---------------------------------------------------------------- combinations


@pytest.mark.long
@given(st.floats(0.0, 2.0), st.floats(-2.0, 2.0))
def test_a_longer_combination_list_never_lowers_the_worst_ratio(g: float, e: float) -> None:
    project = one_pad()
    before = ratios(project)
    more = tuple(
        Combination(number=n, factors={"G": g, "E": e}, serves=(serves,), factor_set="M2")
        for n, serves in ((11, "allowable"), (12, "ultimate"), (13, "concrete"))
    )
    after = results(edited(project, ("actions", "combinations"), (*project.actions.combinations, *more)))
    for name, ratio in before.items():
        if ratio is not None:
            found = after[name]
            assert found.state is State.UNSTABLE or (found.ratio is not None and found.ratio >= ratio - 1e-12), name


def test_nothing_is_factored_twice() -> None:
    """A combination for one question is not seen by the checks of another."""
    project = one_pad()
    before = ratios(project)
    heavy = Combination(number=20, factors={"G": 9.0}, serves=("concrete",))
    after = ratios(edited(project, ("actions", "combinations"), (*project.actions.combinations, heavy)))
    for name, check in CHECKS.items():
        if check.group != "concrete":
            assert before.get(name) == after.get(name)
        elif name in ("punching", "bottom-x"):
            assert (after[name] or 0) > 3 * (before[name] or 0)


def test_a_check_without_combination_says_so() -> None:
    project = edited(one_pad(), ("actions", "combinations"), ())
    found = results(project)
    for name in ("presumed-pressure", "settlement", "punching", "overturning", "uplift", "sliding-drained"):
        assert found[name].state is State.CANNOT
        assert "no combination serves" in found[name].message


def test_safety_factors_replace_limit_states() -> None:
    project = one_pad(load=Load(V=300.0, Hx=40.0, My=320.0))
    kept = tuple(c for c in project.actions.combinations if "allowable" in c.serves)
    found = results(edited(project, ("actions", "combinations"), kept))
    sliding, overturning = found["sliding-drained"], found["overturning"]
    assert sliding.required_factor == 1.5
    assert sliding.factor == pytest.approx((sliding.capacity or 0) / (sliding.demand or 1))
    assert overturning.ratio == pytest.approx(1.5 / (overturning.factor or 1))
    assert found["resistance-drained"].state is State.NOT_APPLICABLE


# ---------------------------------------------------------------- states


def test_a_resultant_outside_the_base_is_unstable() -> None:
    found = results(one_pad(load=Load(V=40.0, Hx=60.0, My=250.0)))
    for name in (
        "presumed-pressure",
        "eccentricity",
        "contact-share",
        "resistance-drained",
        "bottom-x",
        "punching",
    ):
        assert found[name].state is State.UNSTABLE, name
        assert found[name].ratio is None
    shown = working(one_pad(load=Load(V=40.0, Hx=60.0, My=250.0)), one_pad().pads[0], "eccentricity")
    assert "r_e" in [line.symbol for line in shown.lines()]  # type: ignore[union-attr]


@given(
    st.floats(-3000, 3000),
    st.floats(-800, 800),
    st.floats(-800, 800),
    st.floats(-900, 900),
    st.floats(-900, 900),
)
def test_no_load_gives_nan_or_a_crash(V: float, Hx: float, Hy: float, Mx: float, My: float) -> None:
    project = one_pad(load=Load(V=V, Hx=Hx, Hy=Hy, Mx=Mx, My=My), offset_x=0.5)
    for check in evaluate(project).pads[0].checks:
        for value in (check.ratio, check.demand, check.capacity):
            assert value is None or math.isfinite(value), check.check.id
        if check.ratio is None:
            assert check.state in (State.UNSTABLE, State.CANNOT, State.NOT_APPLICABLE) or check.capacity == 0
        else:
            assert check.state in (State.HOLDS, State.WARNS, State.FAILS)
            assert (check.ratio > 1 + 1e-9) == (check.state is State.FAILS)


@pytest.mark.parametrize(
    ("soil", "check", "names"),
    [
        ("friction_angle", "resistance-drained", "friction angle"),
        ("cohesion", "resistance-drained", "cohesion"),
        ("undrained_strength", "resistance-undrained", "undrained strength"),
        ("modulus", "settlement", "modulus"),
    ],
)
def test_missing_parameters_are_named(soil: str, check: str, names: str) -> None:
    found = results(edited(one_pad(), ("ground", "soils", "ground", soil), None))[check]
    assert found.state is State.CANNOT
    assert names in found.message
    assert "'ground'" in found.message


def test_missing_oedometer_values_are_named_together() -> None:
    found = results(edited(one_pad(), ("ground", "soils", "ground", "compression"), "oedometer"))["settlement"]
    assert "compression index" in found.message
    assert "void ratio" in found.message


def test_without_ground_what_can_be_done_is_done() -> None:
    project = one_pad()
    bare = edited(project, ("ground", "boreholes"), ())
    found = results(bare)
    assert found["presumed-pressure"].ratio is not None
    assert found["punching"].ratio is not None
    assert found["overturning"].ratio is not None
    for name in ("resistance-drained", "sliding-drained", "settlement"):
        assert found[name].state is State.CANNOT
        assert "borehole" in found[name].message
    with_friction = results(edited(bare, ("settings", "base_friction"), 0.4))
    assert with_friction["sliding-drained"].ratio is not None


def test_a_profile_that_ends_too_early_is_warned_of_with_the_share_that_is_missing() -> None:
    whole = results(one_pad())["settlement"]
    short = edited(one_pad(), ("ground", "boreholes", "BH", "strata", 0, "thickness"), 3.0)
    found = results(short)["settlement"]
    assert found.state is State.WARNS
    assert "ends too early" in found.message
    missing = 1 - (found.demand or 0) / (whole.demand or 1)
    assert f"about {100 * missing:.0f} % of the settlement is missing" in found.message
    rigid = edited(short, ("ground", "boreholes", "BH", "rigid_below"), True)
    assert results(rigid)["settlement"].state is State.HOLDS


def test_a_base_below_the_known_ground() -> None:
    found = results(edited(one_pad(), ("ground", "boreholes", "BH", "strata", 0, "thickness"), 1.0))
    assert "below the known ground" in found["resistance-drained"].message
    assert found["settlement"].state is State.CANNOT


def test_a_base_above_finished_ground() -> None:
    found = results(one_pad(level=0.3))
    assert found["frost-depth"].state is State.CANNOT
    assert "above finished ground" in found["top-cover"].message


def test_a_base_too_thin_for_its_cover() -> None:
    found = results(one_pad(thickness=0.08))
    assert found["punching"].state is State.CANNOT
    assert "no effective depth" in found["punching"].message


def test_top_steel_is_asked_for_under_uplift() -> None:
    thin = {"width": 4.0, "length": 4.0, "thickness": 0.3}
    found = results(one_pad(load=Load(V=-200.0), **thin))
    assert found["top-x"].state is State.FAILS
    assert "no bars" in found["top-x"].message
    assert (found["top-x"].demand or 0) > 0
    topped = {"bottom_x": {"diameter": 0.016, "spacing": 0.2}, "top_x": {"diameter": 0.012, "spacing": 0.2}}
    assert (results(one_pad(load=Load(V=-200.0), reinforcement=topped, **thin))["top-x"].ratio or 0) > 0
    assert found["punching"].state is State.NOT_APPLICABLE


@pytest.mark.parametrize("standard", ["EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018"])
@pytest.mark.parametrize("least", ["not_asked_for", "by_standard"])
def test_a_top_without_bars_carries_what_plain_concrete_does(standard: str, least: str) -> None:
    """From nothing on without a jump, by 6 m/h_p^2 over the strength of plain concrete; the first tension is no
    failure."""
    base = one_pad(width=4.0, length=4.0, thickness=0.3)
    base = base.replaced(
        standards=base.standards.replaced(concrete=standard), settings=base.settings.replaced(top_least=least)
    )
    last = 0.0
    loads = [-200.0 * t for t in (1e-9, 1e-6, 0.01, 0.2, 0.4, 0.6, 0.8, 1.0)]
    found = []
    for V in [20.0, *loads]:
        point = base.actions.load_points[0].replaced(loads={"G": Load(V=V)})
        project = base.replaced(actions=base.actions.replaced(load_points=(point,)))
        check = results(project)["top-x"]
        ratio = check.ratio or 0.0
        found.append(ratio)
        assert ratio >= last - 1e-12
        last = ratio
    assert found[0] == 0.0
    # the column hangs on the base: tension grows with its pull, in proportion
    hung = np.array(found[1:]) - found[1]
    assert hung[1:] == pytest.approx(hung[-1] * np.array([1e-6, 0.01, 0.2, 0.4, 0.6, 0.8, 1.0]), rel=0.02, abs=1e-6)


def test_another_stratum_near_the_base_is_part_of_the_resistance(demo: Project) -> None:
    found = evaluate(demo).pad("P7").check("resistance-drained")
    assert "punching: Silty clay begins 2.00 m below" in found.message
    bare = edited(demo, ("ground", "soils", "Silty clay", "friction_angle"), None)
    bare = edited(bare, ("ground", "soils", "Silty clay", "undrained_strength"), None)
    found = evaluate(bare).pad("P7").check("resistance-drained")
    assert found.state is State.WARNS
    assert "'Silty clay' has no" in found.message


def test_acceptance_holds_until_the_demand_grows() -> None:
    project = edited(one_pad(), ("settings", "presumed_pressure"), 205.0)
    ratio = results(project)["presumed-pressure"].ratio or 0
    assert ratio > 1
    accepted = (Acceptance(check="presumed-pressure", reason="short-term peak only", ratio=round(ratio, 3)),)
    project = edited(project, ("pads", "P", "accepted"), accepted)
    assert results(project)["presumed-pressure"].state is State.ACCEPTED
    worse = edited(project, ("actions", "load_points", "C", "loads", "G", "V"), 640.0)
    found = results(worse)["presumed-pressure"]
    assert found.state is State.FAILS
    assert "demand has grown" in found.message


def test_columns_without_a_foundation_are_listed(demo: Project) -> None:
    found = evaluate(demo)
    assert found.undesigned == ("B2", "C2", "B3", "C3", "W1", "W2")
    assert not found.holds
    assert sum(c.state is State.NOT_DESIGNED for c in found.all_checks) == 6


def test_an_empty_project_does_not_hold() -> None:
    found = evaluate(Project())
    assert not found.holds
    assert found.worst() is None


def test_the_demo_shows_failing_holding_and_deciding(demo: Project) -> None:
    worst = {p.name: p.worst.ratio or 0 for p in evaluate(demo).pads}
    assert any(r > 1 for r in worst.values())
    assert any(0.9 < r <= 1 for r in worst.values())


# ---------------------------------------------------------------- direction of effects


def test_more_load_is_never_better() -> None:
    light, heavy = (ratios(one_pad(load=Load(V=v, My=40.0))) for v in (500.0, 700.0))
    for name in ("presumed-pressure", "resistance-drained", "settlement", "punching", "shear-x", "bottom-x"):
        assert (heavy[name] or 0) > (light[name] or 0)


def test_a_wider_pad_under_a_held_column_may_be_worse() -> None:
    """The column stays by the west edge: widening makes the base more eccentric."""
    narrow = ratios(one_pad(width=1.4, offset_x=0.0))["eccentricity"] or 0
    wide = ratios(one_pad(width=2.4, offset_x=0.5))["eccentricity"] or 0
    assert wide > narrow


def test_type_and_base_settings_reach_the_checks() -> None:
    plain = one_pad()
    with_type = plain.replaced(
        types=(PadType(name="T", overrides={"frost_depth": 0.9}),), pads=(plain.pads[0].replaced(type="T"),)
    )
    own = edited(with_type, ("pads", "P", "overrides", "frost_depth"), 1.1)
    assert [results(p)["frost-depth"].demand for p in (plain, with_type, own)] == [0.5, 0.9, 1.1]


# ---------------------------------------------------------------- candidates and caches


@pytest.mark.long
@pytest.mark.parametrize("pad", ["P5", "P7", "P8"])
def test_step_effects_are_what_the_edit_gives(demo: Project, pad: str) -> None:
    base = demo.pad(pad)
    for effect in effects_of(demo, base):
        one = base.resized(**{effect.dimension: getattr(base, effect.dimension) + effect.change})
        new = demo.replaced(pads=tuple(one if p is base else p for p in demo.pads))
        worst = evaluate_pad(new, new.pad(pad)).worst
        # a step foretells the settlement with the neighbours as they settle now
        if worst.check.group == "settlement":
            assert effect.ratio == pytest.approx(worst.ratio, rel=2e-3), (effect.dimension, effect.change)
        else:
            assert same(effect.ratio, worst.ratio), (effect.dimension, effect.change)


def test_candidates_are_computed_together(demo: Project) -> None:
    pad = demo.pad("P8")
    steps = increments_of(pad)
    outcomes = outcomes_for(demo, pad, table(pad, steps))
    assert len(worst_by_candidate(outcomes, 1 + len(steps))) == 1 + len(steps)
    alone = outcomes_for(demo, pad, table(pad))
    for together, single in zip(outcomes, alone):
        assert np.allclose(together.ratio[0], single.ratio[0])


def test_steps_leave_a_legal_pad() -> None:
    small = one_pad(width=0.5, length=0.5, offset_x=0.24, thickness=0.08).pads[0]
    names = increments_of(small)
    assert ("offset_x", 0.05) not in names
    assert ("width", -0.1) not in names
    assert ("thickness", -0.05) not in names


def test_only_what_changed_is_computed_again(demo: Project) -> None:
    first = evaluate(demo)
    second = evaluate(edited(demo, ("pads", "P7", "width"), 2.55))
    for a, b in zip(first.pads, second.pads):
        # the settlement of all foundations depends on each of them, nothing else does
        kept = [x is y for x, y in zip(a.checks, b.checks) if x.check.group != "settlement"]
        assert all(kept) == any(kept) == (a.name != "P7")
    third = evaluate(edited(demo, ("actions", "load_points", "D2", "loads", "G", "V"), 900.0))
    anew = [a.name for a, b in zip(first.pads, third.pads) if a.check("punching") is not b.check("punching")]
    assert anew == ["P7"]
    fourth = evaluate(edited(demo, ("ground", "water", "normal"), 1.8))
    assert not any(a is b for a, b in zip(first.pads, fourth.pads))


def test_base_state_for_drawings(demo: Project) -> None:
    check = evaluate(demo).pad("P8").check("presumed-pressure")
    state = base_state(demo, demo.pad("P8"), check.question, check.situation)
    assert isinstance(state, BaseState)
    assert state.label == check.combination
    assert max(state.corners) == pytest.approx(check.demand, rel=0.02)
    assert base_state(demo, demo.pad("P8"), "cracks", 0) is None


def test_the_starter_needs_only_a_column_and_a_pad() -> None:
    project = starter()
    assert evaluate(project).all_checks == ()


def test_a_step_into_another_stratum_is_foretold(demo: Project) -> None:
    """One step down the base stands on clay: the undrained checks come in, and the foretold ratio knows."""
    low = edited(demo, ("pads", "P7", "level"), 0.05)
    low = edited(low, ("ground", "soils", "Silty clay", "undrained_strength"), 12.0)
    pad = low.pad("P7")
    (effect,) = (e for e in effects_of(low, pad) if (e.dimension, e.change) == ("level", -0.1))
    below = edited(low, ("pads", "P7", "level"), pad.level - 0.1)
    found = evaluate_pad(below, below.pad("P7"))
    assert found.check("resistance-undrained").state is State.FAILS
    assert evaluate_pad(low, pad).check("resistance-undrained").state is State.NOT_APPLICABLE
    assert effect.ratio == pytest.approx(found.worst.ratio, rel=2e-3)


def test_an_unstable_check_says_why() -> None:
    toppled = results(one_pad(load=Load(V=40.0, Hx=60.0, My=250.0)))
    for name in (
        "presumed-pressure",
        "eccentricity",
        "contact-share",
        "resistance-undrained",
        "punching",
        "bottom-x",
    ):
        assert "outside the base" in toppled[name].message, name
    pushed = results(one_pad(load=Load(V=100.0, Hx=700.0, My=-850.0)))
    assert "horizontal force alone" in pushed["resistance-drained"].message
    lifted = results(one_pad(load=Load(V=-500.0, Hx=5.0)))
    assert lifted["sliding-drained"].message == "nothing presses the base down"
    assert "lifted" in lifted["settlement"].message


@pytest.mark.long
@pytest.mark.parametrize("pad", ["P8", "P3"])
def test_one_check_over_all_its_situations(demo: Project, pad: str) -> None:
    """The worst row is what the ledger shows; every row is a situation that serves the check."""
    from korbent.core.explain.working import situations_of

    for check in evaluate(demo).pad(pad).checks:
        rows = situations_of(demo, demo.pad(pad), check.check.id)
        if check.state in (State.CANNOT, State.NOT_APPLICABLE) or not check.question:
            assert rows == ()
            continue
        assert rows[0].ratio == pytest.approx(check.ratio)
        ratios = [r.ratio for r in rows if r.ratio is not None]
        assert ratios == sorted(ratios, reverse=True)
        serving = {str(c.number) for c in demo.actions.combinations if check.question in c.serves}
        assert {r.combination.split()[0] for r in rows} == serving


@pytest.mark.parametrize("example", [lindmere, redstem, coombe, hollin])
def test_a_ratio_is_what_is_asked_over_what_is_there(example: Callable[[], Project]) -> None:
    """Of every check of every base, either way round, times the factor of safety where one is asked for. Left out:
    distances that are clear (0), and the least steel that gives way to what is needed."""
    project = edited(example(), ("settings", "board_strength"), 250.0)
    checked = set()
    for found in evaluate(project).all_checks:
        if found.ratio is None or not found.demand or not found.capacity or found.check.id == "site":
            continue
        asked, there = found.demand, found.capacity
        possible = [asked / there, there / asked, (found.required_factor or 1.0) * asked / there]
        if found.check.id.startswith("minimum"):
            assert found.ratio >= min(possible[:2]) - 1e-9
            continue
        assert any(found.ratio == pytest.approx(one, rel=1e-6) for one in possible), (found.foundation, found.check.id)
        checked.add(found.check.id)
    assert len(checked) > 20
    assert "board" in checked


def test_a_board_takes_the_greatest_pressure_with_the_water() -> None:
    project = edited(one_pad(load=Load(V=600.0)), ("settings", "board_strength"), 250.0)
    pad = project.pads[0]
    found = evaluate(project).pad(pad.name).check("board")
    state = base_state(project, pad, "allowable", found.situation)
    assert state is not None
    assert found.capacity == 250.0
    assert found.demand == pytest.approx(state.V / pad.width / pad.length)  # central
    assert found.ratio == pytest.approx(found.demand / 250.0)
    halved = edited(project, ("settings", "board_strength"), 125.0)
    assert evaluate(halved).pad(pad.name).check("board").ratio == pytest.approx(2 * found.ratio)
