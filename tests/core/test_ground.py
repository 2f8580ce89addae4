"""The ground at a point: nearest borehole, stresses, strata below a level."""

import random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import reduced
from korbent.core.evaluate import evaluate, outcomes_for
from korbent.core.geometry import table
from korbent.core.ground.between import strata_in
from korbent.core.ground.profile import (
    DRY,
    Profile,
    effective_stress,
    missing,
    parameter,
    pore_pressure,
    profile_at,
    strata_of,
    stratum_below,
    total_stress,
)
from korbent.core.model import Backfill, Borehole, Ground, Project, Soil, Stratum, edited
from korbent.verification.ground import two_strata

FILL = Backfill(weight=17.0, weight_saturated=19.0)


def profile(ground: Ground | None = None) -> Profile:
    found = profile_at(ground or two_strata(), 0.0, 0.0)
    assert found is not None
    return found


def walked(surface: float, level: float, water: float) -> float:
    """Total stress by walking down in steps of a millimetre."""
    z = np.arange(level + 0.0005, surface, 0.001)
    dry = np.where(z > 0, 17.0, np.where(z > -2, 18.0, 17.0))
    wet = np.where(z > 0, 19.0, np.where(z > -2, 20.0, 19.0))
    known = z > -6.0
    return float((np.where(z < water, wet, dry) * known).sum() * 0.001)


@given(st.floats(-1.5, 1.5), st.floats(-5.9, 0.9), st.floats(-7.0, 1.4))
def test_total_stress_is_the_weight_above(surface: float, level: float, water: float) -> None:
    found = total_stress(profile(), FILL, np.array(surface), np.array([level]), np.array(water))[0]
    assert found == pytest.approx(walked(surface, level, water) if level < surface else 0.0, abs=0.1)


@given(st.floats(-5.5, 0.0), st.floats(-8.0, 3.0))
def test_effective_stress_is_never_negative_and_grows_downwards(level: float, water: float) -> None:
    levels = np.array([level, level - 0.5])
    found = effective_stress(profile(), FILL, np.array(0.0), levels, np.array(water))
    assert found[0] >= -1e-9
    assert found[1] >= found[0] - 1e-9


def test_free_water_above_the_surface_changes_no_effective_stress() -> None:
    first, second = (
        effective_stress(profile(), FILL, np.array(0.0), np.array([-3.0]), np.array(w))[0] for w in (0.0, 2.0)
    )
    assert first == second


def test_pore_pressure() -> None:
    assert pore_pressure(np.array([-3.0, 1.0]), np.array(-1.0)).tolist() == [2 * 9.81, 0.0]
    assert pore_pressure(np.array([-3.0]), np.array(DRY))[0] == 0.0


@pytest.mark.parametrize(
    ("level", "index"), [(1.0, 0), (0.0, 0), (-1.9, 0), (-2.0, 1), (-5.9, 1), (-6.0, -1), (-9.0, -1)]
)
def test_the_stratum_below_a_level(level: float, index: int) -> None:
    assert stratum_below(profile(), np.array([level]))[0] == index


def test_the_nearest_borehole_counts(demo: Project) -> None:
    for hole in demo.ground.boreholes:
        found = profile_at(demo.ground, hole.x + 0.5, hole.y - 0.5)
        assert found is not None
        assert found.place == hole.name
    assert profile_at(Ground(), 0.0, 0.0) is None


def test_existing_ground_is_that_of_the_borehole_unless_stated(demo: Project) -> None:
    assert profile(demo.ground).existing in (3.15, 3.20, 3.25)
    stated = edited(demo, ("ground", "surfaces", "existing"), 3.05)
    assert profile(stated.ground).existing == 3.05


def test_parameters_and_what_is_missing() -> None:
    found = profile()
    assert parameter(found, "modulus").tolist() == [20_000.0, 1.0]
    assert parameter(found, "cohesion").tolist() == [0.0, 0.0]
    assert missing(found.soils[0], ("modulus",)) == ""
    assert (
        missing(found.soils[0], ("cohesion", "friction_angle"))
        == "the soil 'sand' has no cohesion and no friction angle"
    )


def test_the_end_of_the_profile() -> None:
    assert profile().end == -6.0
    soil = Soil(name="s", weight=18, weight_saturated=20)
    hole = Borehole(name="B", x=0, y=0, ground_level=2.0, strata=(Stratum(soil="s", thickness=5.0),))
    assert profile(Ground(soils=(soil,), boreholes=(hole,))).end == -3.0


# ---------------------------------------------------------------- between boreholes


def line_of_holes(*columns: tuple[float, list[tuple[str, float]]], level: float = 0.0) -> Ground:
    """Boreholes along x, each with (soil, thickness) from above."""
    names = list(dict.fromkeys(soil for _, strata in columns for soil, _ in strata))
    return Ground(
        soils=tuple(Soil(name=n, weight=18, weight_saturated=20) for n in names),
        boreholes=tuple(
            Borehole(
                name=f"B{i}",
                x=x,
                y=0,
                ground_level=level + 0.1 * i,
                strata=tuple(Stratum(soil=s, thickness=t) for s, t in strata),
            )
            for i, (x, strata) in enumerate(columns)
        ),
        interpolation="distance_weighted",
    )


def thickness(ground: Ground, x: float, y: float = 0.0) -> dict[str, float]:
    found = profile_at(ground, x, y)
    assert found is not None
    return {s.name: float(t - b) for s, t, b in zip(found.soils, found.top, found.bottom)}


TWO = line_of_holes((0.0, [("fill", 1.0), ("sand", 3.0), ("clay", 4.0)]), (10.0, [("fill", 2.0), ("clay", 6.0)]))


def test_at_a_borehole_the_ground_is_that_of_the_borehole() -> None:
    assert thickness(TWO, 0.0) == {"fill": 1.0, "sand": 3.0, "clay": 4.0}
    assert thickness(TWO, 10.0) == pytest.approx({"fill": 2.0, "clay": 6.0})


def test_halfway_the_thicknesses_are_the_means_and_a_stratum_pinches_out() -> None:
    assert thickness(TWO, 5.0) == pytest.approx({"fill": 1.5, "sand": 1.5, "clay": 5.0})
    shares = [thickness(TWO, x).get("sand", 0.0) for x in (1.0, 3.0, 5.0, 7.0, 9.0, 9.9)]
    assert shares == sorted(shares, reverse=True)
    assert shares[-1] == 0.0


@given(st.floats(-20, 40), st.floats(-30, 30))
def test_weights_are_by_inverse_squared_distance(x: float, y: float) -> None:
    d0, d1 = x * x + y * y, (x - 10) ** 2 + y * y
    if min(d0, d1) > 1e-3:
        share = (1 / d0) / (1 / d0 + 1 / d1)
        assert thickness(TWO, x, y)["clay"] == pytest.approx(4 * share + 6 * (1 - share))
        found = profile_at(TWO, x, y)
        assert found is not None
        assert found.existing == pytest.approx(0.1 * (1 - share))
        assert found.place == "between B0, B1"


def test_a_soil_may_come_twice() -> None:
    ground = line_of_holes(
        (0.0, [("clay", 1.0), ("silt", 0.2), ("clay", 2.0)]),
        (8.0, [("clay", 1.4), ("silt", 0.1), ("clay", 3.0)]),
    )
    found = profile_at(ground, 4.0, 0.0)
    assert found is not None
    assert [s.name for s in found.soils] == ["clay", "silt", "clay"]
    assert (found.top - found.bottom).tolist() == pytest.approx([1.2, 0.15, 2.5])


def test_boreholes_whose_strata_come_in_another_order_keep_them() -> None:
    """Sand on clay beside clay on sand: no jump half way, and at each hole what it found."""
    ground = line_of_holes((0.0, [("sand", 1.0), ("clay", 2.0)]), (10.0, [("clay", 1.0), ("sand", 2.0)]))
    assert strata_at(ground, 0.0)[:2] == [("sand", 1.0), ("clay", 2.0)]
    assert strata_at(ground, 10.0)[:2] == [("clay", 1.0), ("sand", 2.0)]
    steps = [dict(strata_at(ground, x)) for x in (4.999, 5.001)]
    for soil in steps[0]:
        assert steps[0][soil] == pytest.approx(steps[1][soil], abs=2e-3)


def strata_at(ground: Ground, x: float, y: float = 0.0) -> list[tuple[str, float]]:
    found = profile_at(ground, x, y)
    assert found is not None
    return [(soil.name, round(top - bottom, 9)) for soil, top, bottom in strata_of(found)]


def test_sand_clay_sand_beside_clay_sand() -> None:
    """The clay and the sand below it are the same in both holes; the upper sand pinches out."""
    ground = line_of_holes((0.0, [("sand", 2.0), ("clay", 3.0), ("sand", 4.0)]), (10.0, [("clay", 5.0), ("sand", 4.0)]))
    assert strata_at(ground, 0.0) == [("sand", 2.0), ("clay", 3.0), ("sand", 4.0)]
    assert strata_at(ground, 10.0) == [("clay", 5.0), ("sand", 4.0)]
    assert strata_at(ground, 5.0) == [("sand", 1.0), ("clay", 4.0), ("sand", 4.0)]


def test_a_hole_that_ends_early_says_nothing_below_its_end() -> None:
    full = [("sand", 3.0), ("clay", 12.0), ("gravel", 6.0)]
    ground = line_of_holes((0.0, [("sand", 3.0), ("clay", 2.0)]), (10.0, full))
    assert strata_at(ground, 5.0) == full
    # at the hole too, and it is said where that comes from
    assert strata_at(ground, 0.0) == full
    at_the_hole = profile_at(ground, 0.0, 0.0)
    assert at_the_hole is not None
    assert at_the_hole.place == "B0, below its end as in the others"
    # a hole that ends on rigid ground has found what is below it
    first = ground.boreholes[0].replaced(rigid_below=True)
    rigid = ground.replaced(boreholes=(first, ground.boreholes[1]))
    assert strata_at(rigid, 5.0) == [("sand", 3.0), ("clay", 7.0), ("gravel", 3.0)]


def test_a_clay_that_is_deeper_than_elsewhere_stays_so() -> None:
    ground = line_of_holes(
        (0.0, [("sand", 3.0), ("clay", 14.0)]), (10.0, [("sand", 3.0), ("clay", 12.0), ("gravel", 6.0)])
    )
    assert strata_at(ground, 5.0) == [("sand", 3.0), ("clay", 13.0), ("gravel", 6.0)]


@given(st.integers(0, 10**6), st.sampled_from(("distance_weighted", "triangulated")))
def test_random_holes_keep_their_strata_in_any_order(seed: int, how: str) -> None:
    rng = random.Random(seed)
    names = ["fill", "sand", "clay", "silt"]
    holes = [
        (
            9.0 * i + rng.uniform(-3, 3),
            [(rng.choice(names), rng.uniform(0.3, 4.0)) for _ in range(rng.randint(1, 5))],
        )
        for i in range(rng.randint(2, 4))
    ]
    ground = line_of_holes(*holes).replaced(interpolation=how)
    moved = tuple(h.replaced(y=rng.uniform(-9, 9)) for h in ground.boreholes)
    ground = ground.replaced(boreholes=moved)
    mixed = list(moved)
    rng.shuffle(mixed)
    for hole in moved:
        own = strata_in(hole)
        found = strata_at(ground, hole.x, hole.y)
        assert [n for n, _ in found[: len(own)]] == [n for n, _ in own]
        assert [t for _, t in found[: len(own) - 1]] == pytest.approx([t for _, t in own[:-1]])
        assert found[len(own) - 1][1] >= own[-1][1] - 1e-9
    at = rng.uniform(-5, 35), rng.uniform(-9, 9)
    shuffled = ground.replaced(boreholes=tuple(mixed))
    assert strata_at(ground, *at) == [(n, pytest.approx(t)) for n, t in strata_at(shuffled, *at)]
    # a sounding without strata changes nothing
    sounding = Borehole(name="CPT", x=at[0], y=at[1], ground_level=0.3)
    assert strata_at(ground.replaced(boreholes=(*moved, sounding)), *at) == strata_at(ground, *at)


@pytest.mark.long
def test_many_points_at_once_are_each_point_alone(demo: Project) -> None:
    """Pads on ground of their own are computed together and give what each gives alone."""
    weighted = edited(demo, ("ground", "interpolation"), "distance_weighted")
    together = {p.name: p for p in evaluate(weighted).pads}
    for pad in weighted.pads:
        alone = edited(weighted, ("title", "revision"), "Z")
        alone = edited(alone, ("ground", "surfaces", "finished"), 3.30)
        outcomes = outcomes_for(alone, pad, table(pad))
        for outcome in outcomes:
            found = reduced(outcome, pad.name)
            same = together[pad.name].check(outcome.check.id)
            assert (found.ratio is None) == (same.ratio is None)
            if found.ratio is not None:
                assert found.ratio == pytest.approx(same.ratio, rel=1e-12)
            assert found.message == same.message
    nearest = {p.name: p.check("settlement").ratio for p in evaluate(demo).pads}
    assert any(together[n].check("settlement").ratio != r for n, r in nearest.items())
