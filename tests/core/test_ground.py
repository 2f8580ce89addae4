"""The ground at a point: nearest borehole, stresses, strata below a level."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import reduced
from korbent.core.evaluate import evaluate, outcomes_for
from korbent.core.geometry import table
from korbent.core.ground.profile import (
    DRY,
    Profile,
    effective_stress,
    missing,
    parameter,
    pore_pressure,
    profile_at,
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
        interpolation="distance-weighted",
    )


def thickness(ground: Ground, x: float, y: float = 0.0) -> dict[str, float]:
    found = profile_at(ground, x, y)
    assert found is not None
    return {s.name: float(t - b) for s, t, b in zip(found.soils, found.top, found.bottom)}


TWO = line_of_holes(
    (0.0, [("fill", 1.0), ("sand", 3.0), ("clay", 4.0)]), (10.0, [("fill", 2.0), ("clay", 6.0)])
)


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


def test_boreholes_that_disagree_fall_back_to_the_nearest() -> None:
    ground = line_of_holes((0.0, [("sand", 1.0), ("clay", 2.0)]), (10.0, [("clay", 1.0), ("sand", 2.0)]))
    found = profile_at(ground, 2.0, 0.0)
    assert found is not None
    assert found.place == "B0"


def test_many_points_at_once_are_each_point_alone(demo: Project) -> None:
    """Pads on ground of their own are computed together and give what each gives alone."""
    weighted = edited(demo, ("ground", "interpolation"), "distance-weighted")
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
