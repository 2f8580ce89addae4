"""The ground between boreholes and over level: triangles, slices, the library, estimates over level."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from korbent.core.evaluate import evaluate
from korbent.core.ground.correlations import State, behaviour
from korbent.core.ground.estimates import lines, student_t
from korbent.core.ground.library import LIBRARY, entry_for, pattern_of, unusual
from korbent.core.ground.profile import profile_at, strata_of, value_over_level
from korbent.core.model import Borehole, Ground, OverLevel, Project, Soil, Stratum, edited

A = Soil(name="A", weight=18, weight_saturated=20, friction_angle=30.0, modulus=10_000.0)
B = Soil(name="B", weight=19, weight_saturated=21, friction_angle=36.0, modulus=40_000.0)


def plane(x: float, y: float) -> float:
    return 3.0 + 0.1 * x - 0.05 * y


def _ground(places: list[tuple[float, float]], how: str = "triangulated") -> Ground:
    holes = tuple(
        Borehole(
            name=f"H{i}",
            x=x,
            y=y,
            ground_level=10 + 0.02 * x,
            strata=(Stratum(soil="A", thickness=plane(x, y)), Stratum(soil="B", thickness=20.0)),
        )
        for i, (x, y) in enumerate(places)
    )
    return Ground(soils=(A, B), boreholes=holes, interpolation=how)  # type: ignore[arg-type]


SQUARE = [(0.0, 0.0), (20.0, 0.0), (20.0, 20.0), (0.0, 20.0), (9.0, 12.0)]


@given(st.floats(0.5, 19.5), st.floats(0.5, 19.5))
def test_triangles_reproduce_a_plane(x: float, y: float) -> None:
    profile = profile_at(_ground(SQUARE), x, y)
    assert profile is not None
    (_, top, bottom), _ = strata_of(profile)
    assert top == pytest.approx(10 + 0.02 * x, abs=1e-9)
    assert top - bottom == pytest.approx(plane(x, y), abs=1e-9)
    assert profile.place.startswith("between")


def test_outside_the_triangles_the_nearest_edge_counts() -> None:
    ground = _ground(SQUARE)
    outside, edge = profile_at(ground, 10.0, -7.0), profile_at(ground, 10.0, 0.0)
    assert outside is not None
    assert edge is not None
    assert np.allclose(outside.bottom, edge.bottom, atol=1e-9)
    corner = profile_at(ground, -5.0, -5.0)
    assert corner is not None
    assert corner.place == "H0"


def test_without_a_triangle_distance_weights_count() -> None:
    row = [(0.0, 0.0), (10.0, 0.0), (20.0, 0.0)]
    a, b = profile_at(_ground(row), 5.0, 2.0), profile_at(_ground(row, "distance_weighted"), 5.0, 2.0)
    assert a is not None
    assert b is not None
    assert np.allclose(a.bottom, b.bottom)


def _lined(line: OverLevel, parameter: str = "modulus") -> Ground:
    soil = A.replaced(over_level={parameter: line})
    hole = Borehole(
        name="H",
        x=0,
        y=0,
        ground_level=0.0,
        strata=(Stratum(soil="A", thickness=4.0), Stratum(soil="B", thickness=3.0)),
    )
    return Ground(soils=(soil, B), boreholes=(hole,))


def test_a_line_over_level_becomes_slices() -> None:
    line = OverLevel(kind="linear", points=((0.0, 10_000.0), (-4.0, 18_000.0)))
    profile = profile_at(_lined(line), 0, 0)
    assert profile is not None
    assert len(profile.soils) == 9
    for soil, top, bottom in zip(profile.soils[:-1], profile.top, profile.bottom):
        assert soil.modulus == pytest.approx(value_over_level(line, (top + bottom) / 2))
    assert [(s.name, t, b) for s, t, b in strata_of(profile)] == [("A", 0.0, -4.0), ("B", -4.0, -7.0)]


def test_steps_over_level_cut_where_they_are() -> None:
    line = OverLevel(kind="stepwise", points=((0.0, 8_000.0), (-1.3, 12_000.0)))
    profile = profile_at(_lined(line), 0, 0)
    assert profile is not None
    assert [s.modulus for s in profile.soils] == [8_000.0, 12_000.0, 40_000.0]
    assert profile.bottom[0] == pytest.approx(-1.3)


@pytest.mark.long
def test_a_level_line_reaches_the_checks(demo: Project) -> None:
    """A stiffer sand below settles less; a constant line gives the same as the constant."""
    base = evaluate(demo).pad("P7").check("settlement")
    same = OverLevel(kind="linear", points=((3.0, 21_000.0), (-1.0, 21_000.0)))
    path = ("ground", "soils", "Silty sand", "over_level", "modulus")
    assert evaluate(edited(demo, path, same)).pad("P7").check("settlement").demand == pytest.approx(
        base.demand, rel=2e-3
    )
    softer = OverLevel(kind="linear", points=((3.0, 9_000.0), (-1.0, 15_000.0)))
    changed = evaluate(edited(demo, path, softer)).pad("P7").check("settlement")
    assert changed.demand is not None
    assert base.demand is not None
    assert changed.demand > base.demand * 1.05


def test_lines_must_make_sense() -> None:
    with pytest.raises(ValidationError, match="must fall"):
        OverLevel(kind="linear", points=((0.0, 1.0), (1.0, 2.0)))
    with pytest.raises(ValidationError, match="cannot run over level"):
        A.replaced(over_level={"poisson": OverLevel(kind="linear", points=((0.0, 0.3),))})
    with pytest.raises(ValidationError, match="at -2 m"):
        A.replaced(over_level={"friction_angle": OverLevel(kind="linear", points=((0.0, 30.0), (-2.0, 80.0)))})


def test_the_regression_bound_against_its_formula() -> None:
    """Against the classical expression at the mean level, where the bound is t s / sqrt(n) below the line."""
    rng = np.random.default_rng(4)
    z = np.linspace(0.0, -6.0, 13)
    x = 50 - 4 * z + rng.normal(0, 3, 13)
    found = {e.name: e for e in lines(list(z), list(x))}
    slope, start = np.polyfit(z, x, 1)
    rest = x - start - slope * z
    s = float(np.sqrt((rest**2).sum() / 11))
    bound = found["95 % bound of the regression"]
    assert bound.line is not None
    assert value_over_level(bound.line, -3.0) == pytest.approx(
        start + slope * -3.0 - student_t(11) * s / np.sqrt(13), rel=2e-3
    )
    assert bound.value < found["regression"].value
    steps = found["means in steps"].line
    assert steps is not None
    assert steps.kind == "stepwise"
    assert [v for _, v in steps.points] == sorted(v for _, v in steps.points)
    assert lines([0.0, -1.0, -2.0], [1.0, 2.0, 3.0]) == []


def test_behaviour_types_by_their_index() -> None:
    """A clean sand and a soft clay, whose index is worked by hand from Robertson's expression."""
    state = State(total=90.0, effective=60.0)
    found = behaviour(9.0, 45.0, state)
    assert found is not None
    Q, F = (9000 - 90) / 60, 100 * 45 / (9000 - 90)
    assert found[0] == pytest.approx(((3.47 - np.log10(Q)) ** 2 + (np.log10(F) + 1.22) ** 2) ** 0.5)
    assert found[1] == "sand"
    soft = behaviour(0.5, 15.0, state)
    assert soft is not None
    assert soft[1] == "clay"
    assert behaviour(0.05, 1.0, state) is None


def test_the_library_knows_its_own_soils() -> None:
    for entry in LIBRARY:
        assert entry_for(entry.soil) is entry
        for parameter in entry.ranges:
            assert unusual(entry.soil, parameter) == "", (entry.soil.name, parameter)


def test_values_outside_the_range_are_marked_not_refused() -> None:
    soil = Soil(
        name="Clay 2",
        pattern="clay",
        description="soft, grey",
        weight=17.0,
        weight_saturated=17.2,
        undrained_strength=95.0,
    )
    assert "outside the usual range of soft clay, 20 to 40" in unusual(soil, "undrained_strength")
    assert unusual(soil.replaced(undrained_strength=30.0), "undrained_strength") == ""


@pytest.mark.parametrize(
    ("text", "pattern"),
    [
        ("Firm grey slightly sandy silty CLAY", "clay"),
        ("MADE GROUND: brick and sand", "made_ground"),
        ("Dense brown very sandy GRAVEL", "gravel"),
        ("Weathered MUDSTONE", "rock"),
        ("silty sand", "sand"),
        ("unknown", ""),
    ],
)
def test_patterns_follow_the_principal_soil(text: str, pattern: str) -> None:
    assert pattern_of(text) == pattern


def test_values_over_level_do_not_depend_on_the_datum() -> None:
    line = OverLevel(kind="linear", points=((-0.3, 10_000.0), (-4.1, 18_000.0)))
    shifted = OverLevel(kind="linear", points=((0.07, 10_000.0), (-3.73, 18_000.0)))
    here, there = _lined(line), _lined(shifted)
    hole = there.boreholes[0].replaced(ground_level=0.37)
    a, b = profile_at(here, 0, 0), profile_at(there.replaced(boreholes=(hole,)), 0, 0)
    assert a is not None
    assert b is not None
    assert [s.modulus for s in a.soils] == pytest.approx([s.modulus for s in b.soils])
    assert np.allclose(a.bottom + 0.37, b.bottom)


def test_the_order_of_boreholes_does_not_decide_the_strata() -> None:
    """Sand in one hole and clay in the other, which never meet: they stand by the level at which they begin."""
    high = Borehole(name="H1", x=0, y=0, ground_level=1.0, strata=(Stratum(soil="A", thickness=2.0),))
    low = Borehole(name="H2", x=10, y=0, ground_level=0.2, strata=(Stratum(soil="B", thickness=4.0),))
    found = [
        profile_at(Ground(soils=(A, B), boreholes=holes, interpolation="distance_weighted"), 4.0, 0.0)
        for holes in ((high, low), (low, high))
    ]
    assert [[s.name for s in p.soils] for p in found if p] == [["A", "B"], ["A", "B"]]
    assert np.allclose(found[0].bottom, found[1].bottom)  # type: ignore[union-attr]
