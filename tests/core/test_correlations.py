"""Correlations: anchors known otherwise, direction, ranges, tests found in their soil, estimates."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.ground.correlations import (
    CORRELATIONS,
    PSEUDO_UNITS,
    Correlation,
    State,
    derived,
    estimates,
    n1_60,
    n60,
    overburden_factor,
    parameters_of,
    relative_density,
    student_t,
)
from korbent.core.model import Ground, GroundTest, Project, Soil, edited

AT_100 = State(total=150.0, effective=100.0)


def named(start: str, gives: str, kind: str = "SPT N") -> Correlation:
    return next(c for c in CORRELATIONS if c.source.startswith(start) and c.gives == gives and c.kind == kind)


def test_at_least_three_for_each_of_the_main_parameters() -> None:
    for parameter in ("friction_angle", "undrained_strength", "modulus"):
        assert len({c.source for c in CORRELATIONS if c.gives == parameter}) >= 3


def test_each_gives_a_field_of_the_soil_and_names_its_source() -> None:
    for c in CORRELATIONS:
        assert c.gives in Soil.model_fields or c.gives in PSEUDO_UNITS
        assert c.low < c.high
        assert c.formula
        assert c.source == "measured" or any(ch.isdigit() for ch in c.source)


@pytest.mark.parametrize("correlation", CORRELATIONS, ids=lambda c: f"{c.gives} {c.kind} {c.source}")
def test_more_in_the_test_is_more_of_the_parameter(correlation: Correlation) -> None:
    values = [correlation.function(x, AT_100) for x in np.linspace(correlation.low, correlation.high, 20)]
    assert all(math.isfinite(v) for v in values)
    assert values == sorted(values)


def test_normalised_blow_counts() -> None:
    assert overburden_factor(100.0) == 1.0
    assert overburden_factor(25.0) == pytest.approx(1.7)
    assert overburden_factor(400.0) == pytest.approx(0.5)
    assert n60(20, State(50, 50, energy=45)) == 15.0
    assert n1_60(20, State(450, 400)) == pytest.approx(10.0)
    assert relative_density(60, AT_100) == 1.0
    assert relative_density(15, AT_100) == pytest.approx(0.5)


@pytest.mark.parametrize(("n", "phi"), [(10, 30.0), (30, 35.6), (50, 40.7)])
def test_friction_by_blow_count_follows_the_chart(n: float, phi: float) -> None:
    """Peck, Hanson and Thornburn's chart, read from memory: about 30, 36 and 41 degrees at N = 10, 30 and 50."""
    assert named("Wolff", "friction_angle").function(n, AT_100) == pytest.approx(phi, abs=0.6)


def test_the_cone_relations_agree_within_a_few_degrees() -> None:
    """Two independent calibrations for clean sand over the range of common cone resistances."""
    first, second = (
        named("Robertson", "friction_angle", "CPT qc"),
        named("Kulhawy", "friction_angle", "CPT qc"),
    )
    for q in (4.0, 10.0, 20.0):
        assert first.function(q, AT_100) == pytest.approx(second.function(q, AT_100), abs=3.5)


def test_strength_from_the_cone_inverts() -> None:
    c = named("Lunne", "undrained_strength", "CPT qc")
    assert c.function((14 * 60 + 150) / 1000, AT_100) == pytest.approx(60.0)
    assert c.function(0.1, AT_100) == 0.0


def test_cc_by_liquid_limit_and_by_plasticity_are_of_one_size() -> None:
    """On the A line, PI = 0.73 (wL - 20): the two relations differ by less than a third for common clays."""
    for wl in (40.0, 60.0, 80.0):
        pi = 0.73 * (wl - 20)
        by_wl = named("Terzaghi", "compression_index", "wL").function(wl, AT_100)
        by_pi = named("Kulhawy", "compression_index", "PI").function(pi, AT_100)
        assert by_pi == pytest.approx(by_wl, rel=0.33)


@given(st.floats(1.0, 60.0), st.floats(10.0, 500.0))
def test_no_relation_crashes(n: float, effective: float) -> None:
    for c in CORRELATIONS:
        assert math.isfinite(c.function(n, State(effective + 50, effective)))


def test_tests_are_found_in_their_stratum(demo: Project) -> None:
    sand = derived(demo.ground, "Silty sand", "friction_angle")
    assert {d.test for d in sand} == {9, 13, 15, 10, 14, 17, 8, 12}
    assert {d.correlation.source for d in sand} == {
        c.source for c in CORRELATIONS if c.gives == "friction_angle" and c.kind == "SPT N"
    }
    for d in sand:
        hole = next(h for h in demo.ground.boreholes if h.name == d.borehole)
        top = hole.ground_level - hole.strata[0].thickness
        assert top - hole.strata[1].thickness < d.level <= top
    assert "compression_index" in parameters_of(demo.ground, "Silty clay")
    assert parameters_of(demo.ground, "Silt parting") == ()
    assert derived(Ground(), "Silty sand", "friction_angle") == []


def test_the_stress_at_the_test_counts(demo: Project) -> None:
    """The same blow count deeper down means less."""
    sand = [d for d in derived(demo.ground, "Silty sand", "friction_angle") if d.borehole == "BH1"]
    first = [d for d in sand if d.correlation.source.startswith("Wolff")]
    factor = first[0].value - named("Wolff", "friction_angle").function(first[0].test, AT_100)
    assert factor > 0


def test_values_outside_the_range_are_marked(demo: Project) -> None:
    weak = edited(
        demo, ("ground", "boreholes", "BH1", "tests"), (GroundTest(kind="SPT N", depth=1.5, value=1),)
    )
    found = [d for d in derived(weak.ground, "Silty sand", "friction_angle") if d.test == 1]
    assert found
    assert not any(d.in_range for d in found)


# ---------------------------------------------------------------- estimates


@pytest.mark.parametrize(
    ("freedom", "t"), [(1, 6.314), (2, 2.920), (3, 2.353), (5, 2.015), (10, 1.812), (30, 1.697)]
)
def test_students_t(freedom: int, t: float) -> None:
    """Against the printed table, from memory."""
    assert student_t(freedom) == pytest.approx(t, abs=1e-3)


def test_student_tends_to_the_normal_distribution() -> None:
    assert student_t(2000) == pytest.approx(1.6449, abs=2e-3)


@given(st.lists(st.floats(20, 45), min_size=3, max_size=20))
def test_estimates_are_cautious(values: list[float]) -> None:
    found = {e.name: e.value for e in estimates(values)}
    assert min(values) - 1e-9 <= found["lower quartile"] <= np.median(values) + 1e-9
    assert found["95 % bound of the mean"] <= found["mean"] + 1e-9


def test_estimates_by_hand() -> None:
    found = {e.name: e.value for e in estimates([30.0, 32.0, 34.0, 36.0])}
    assert found["mean"] == 33.0
    assert found["lower quartile"] == 31.5
    s = math.sqrt(20 / 3)
    assert found["95 % bound of the mean"] == pytest.approx(33 - 2.3534 * s / 2, abs=1e-3)
    assert [e.name for e in estimates([30.0, 31.0])] == ["mean"]
    assert estimates([]) == []
