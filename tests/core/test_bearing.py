"""Bearing resistance: direction of every influence, limits, and what is checked against what."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.bearing.annex_d import bearing_factors, drained, effective_sizes, undrained, weight_below
from korbent.core.checks import State
from korbent.core.evaluate import evaluate
from korbent.core.model import Project, edited
from korbent.verification.pad import one_pad


def r_drained(
    H: float = 0.0, c: float = 5.0, phi: float = 30.0, q: float = 20.0, gamma: float = 18.0, N: float = 900.0
) -> float:
    B, L, _, h, m = effective_sizes(*(np.array([v]) for v in (1.8, 2.4, H, 0.0)))
    t = np.array([math.tan(math.radians(phi))])
    return float(drained(np.array([N]), h, m, B, L, np.array([c]), t, np.array([q]), np.array([gamma])).pressure[0])


@pytest.mark.parametrize("name", ["c", "phi", "q", "gamma"])
def test_more_of_anything_good_is_better(name: str) -> None:
    base = {"c": 5.0, "phi": 30.0, "q": 20.0, "gamma": 18.0}
    values = [r_drained(**{**base, name: base[name] * f}) for f in (0.9, 1.0, 1.1)]
    assert values == sorted(values)
    assert values[0] < values[2]


@given(st.floats(0.0, 800.0))
def test_horizontal_force_never_helps(H: float) -> None:
    assert r_drained(H=H) <= r_drained() + 1e-9


def test_a_horizontal_force_that_slides_leaves_no_resistance() -> None:
    B, L, area, h, m = effective_sizes(*(np.array([v]) for v in (1.8, 2.4, 2000.0, 0.0)))
    one = np.array([0.5])
    found = drained(np.array([900.0]), h, m, B, L, np.array([0.0]), one, np.array([20.0]), np.array([18.0]))
    assert found.slides.all()
    found = undrained(h, B, L, np.array([50.0]), np.array([20.0]))
    assert (h > area * 50).all()
    assert found.slides.all()


@given(st.floats(5.0, 45.0))
def test_factors_grow_with_friction(phi: float) -> None:
    low, high = (bearing_factors(np.array(math.radians(p))) for p in (phi, phi + 0.5))
    assert all(a < b for a, b in zip(low, high))
    assert low[1] == pytest.approx((low[0] - 1) / math.tan(math.radians(phi)))


def test_nc_tends_to_its_undrained_value() -> None:
    assert bearing_factors(np.array(1e-6))[1] == pytest.approx(math.pi + 2, rel=1e-5)


@given(st.floats(0.5, 4.0), st.floats(0.5, 4.0), st.floats(-50, 50), st.floats(-50, 50))
def test_the_exponent_lies_between_its_two_limits(B: float, L: float, Hx: float, Hy: float) -> None:
    short, long, _, _, m = effective_sizes(*(np.array([v]) for v in (B, L, Hx, Hy)))
    ratio = short / long
    m_B, m_L = (2 + ratio) / (1 + ratio), (2 + 1 / ratio) / (1 + 1 / ratio)
    assert min(m_B, m_L) - 1e-12 <= m[0] <= max(m_B, m_L) + 1e-12


@given(st.floats(-6.0, 3.0))
def test_weight_below_lies_between_wet_and_dry(water: float) -> None:
    found = float(weight_below(*(np.array([v]) for v in (18.0, 20.0, 0.0, water, 2.0)))[0])
    assert 20 - 9.81 - 1e-9 <= found <= 18.0 + 1e-9


def checked(project: Project, name: str) -> float:
    return evaluate(project).pads[0].check(name).ratio or 0.0


def test_m2_governs_where_the_strength_does_and_water_lowers_it() -> None:
    dry = one_pad()
    wet = edited(dry, ("ground", "water"), {"low": -8, "normal": -0.7, "high": -0.5})
    assert checked(wet, "resistance-drained") > checked(dry, "resistance-drained")
    strong = edited(dry, ("actions", "combinations", 2, "factor_set"), "M1")
    assert checked(strong, "resistance-drained") < checked(dry, "resistance-drained")


def test_undrained_strength_grows_with_depth() -> None:
    growing = edited(one_pad(), ("ground", "soils", "ground", "undrained_strength_gradient"), 10.0)
    plain, better = (checked(p, "resistance-undrained") for p in (one_pad(), growing))
    assert better < plain
    deeper = edited(one_pad(), ("ground", "soils", "ground", "undrained_strength"), 80.0 + 12.0)
    assert checked(deeper, "resistance-undrained") == pytest.approx(better)


@pytest.mark.parametrize(
    ("drainage", "drained_state", "undrained_state"),
    [("drained", True, False), ("undrained", False, True), ("both", True, True)],
)
def test_drainage_says_what_is_checked(drainage: str, drained_state: bool, undrained_state: bool) -> None:
    found = evaluate(edited(one_pad(), ("ground", "soils", "ground", "drainage"), drainage)).pads[0]
    for name, applies in (("drained", drained_state), ("undrained", undrained_state)):
        for check in (f"resistance-{name}", f"sliding-{name}"):
            assert (found.check(check).state is not State.NOT_APPLICABLE) == applies


def test_sand_is_not_failed_for_want_of_undrained_strength() -> None:
    sand = edited(one_pad(), ("ground", "soils", "ground", "undrained_strength"), None)
    sand = edited(sand, ("ground", "soils", "ground", "drainage"), "drained")
    states = [c.state for c in evaluate(sand).pads[0].checks]
    assert State.CANNOT not in states


def test_presumed_pressure_gross_net_peak_and_effective() -> None:
    project = one_pad()
    peak = evaluate(project).pads[0].check("presumed-pressure").demand or 0
    net = (
        evaluate(edited(project, ("settings", "presumed_basis"), "net")).pads[0].check("presumed-pressure").demand or 0
    )
    uniform = edited(project, ("settings", "presumed_compares"), "effective_area")
    effective = evaluate(uniform).pads[0].check("presumed-pressure").demand or 0
    assert peak - net == pytest.approx(1.2 * 18)
    assert effective < peak
    state = evaluate(edited(project, ("settings", "presumed_pressure"), None)).pads[0].check("presumed-pressure").state
    assert state is State.NOT_APPLICABLE


def test_net_pressure_without_ground_takes_the_backfill() -> None:
    bare = edited(one_pad(), ("ground", "boreholes"), ())
    gross, net = (
        evaluate(edited(bare, ("settings", "presumed_basis"), basis)).pads[0].check("presumed-pressure").demand or 0
        for basis in ("gross", "net")
    )
    assert gross - net == pytest.approx(1.2 * 18)


def test_eccentricity_in_both_directions_is_an_ellipse() -> None:
    from korbent.core.model import Load

    x = checked(one_pad(load=Load(V=600, My=150)), "eccentricity")
    y = checked(one_pad(load=Load(V=600, Mx=150)), "eccentricity")
    both = checked(one_pad(load=Load(V=600, Mx=150, My=150)), "eccentricity")
    assert both == pytest.approx(math.hypot(x, y))


def test_contact_share_against_its_limit() -> None:
    from korbent.core.model import Load

    partial = one_pad(load=Load(V=600, My=360))
    found = evaluate(partial).pads[0].check("contact-share")
    V = 600 + 60 + 18 * 0.7 * (4.8 - 0.16)
    share = 3 * (1.0 - 360 / V) / 2.0
    assert found.capacity == pytest.approx(100 * share)
    assert found.ratio == pytest.approx(0.5 / share)


def test_levels() -> None:
    found = evaluate(edited(one_pad(), ("settings", "cover_above"), 0.3)).pads[0]
    assert found.check("top-cover").demand == pytest.approx(0.8)
    assert found.check("top-cover").ratio == pytest.approx(0.8 / 1.2)
    assert found.check("frost-depth").ratio == pytest.approx(0.5 / 1.2)
    thick = evaluate(one_pad(thickness=1.3)).pads[0].check("top-cover")
    assert thick.state is State.FAILS


def _founded(demo: Project, unit: str | None, embedment: float, pad: str = "P7") -> object:
    project = edited(edited(demo, ("settings", "founding_unit"), unit), ("settings", "founding_embedment"), embedment)
    return evaluate(project).pad(pad).check("founding-stratum")


@pytest.mark.long
def test_the_founding_rule(demo: Project) -> None:
    """P7 stands at +2.00 m; below it the silty sand of BH3 begins at 3.20 - 1.15 = +2.05 m."""
    assert _founded(demo, None, 0.3).state is State.NOT_APPLICABLE
    held = _founded(demo, "Silty sand", 0.04)
    assert held.state is State.HOLDS
    assert held.ratio == pytest.approx(0.04 / 0.05)
    failed = _founded(demo, "Silty sand", 0.3)
    assert failed.state is State.FAILS
    assert failed.ratio == pytest.approx(6.0)
    too_high = _founded(demo, "Sandy gravel", 0.0)
    assert too_high.state is State.FAILS
    assert "does not reach so deep" in too_high.message
    assert _founded(demo, "Peat", 0.1).state is State.CANNOT


def test_renaming_a_soil_keeps_the_founding_rule(demo: Project) -> None:
    from korbent.core.model import renamed

    project = edited(demo, ("settings", "founding_unit"), "Silty sand")
    project = edited(project, ("pads", "P3", "overrides", "founding_unit"), "Silty sand")
    project = renamed(project, ("ground", "soils", "Silty sand"), "Sand A")
    assert project.settings.founding_unit == "Sand A"
    assert project.pad("P3").overrides["founding_unit"] == "Sand A"
