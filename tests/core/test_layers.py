"""Layered ground: which mechanism is adopted, its bounds, and that every choice is explained."""

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.bearing.layers.adopted import MECHANISMS, passive
from korbent.core.bearing.layers.means import failure_depth
from korbent.core.bearing.mechanism import mechanism_of
from korbent.core.bearing.safety import compare
from korbent.core.evaluate import evaluate_pad
from korbent.core.explain.working import Working, working
from korbent.core.ground.profile import next_other, profile_at
from korbent.core.model import Borehole, Stratum
from korbent.core.model.edit import edited
from korbent.verification.layers import (
    NEAR_SAND,
    SOFT,
    STIFF,
    STRONG,
    WEAK_SAND,
    layered_pad,
    mechanism,
    resistance,
)


@pytest.mark.parametrize(
    ("upper", "lower", "below", "drainage", "settings", "expected"),
    [
        (STRONG, WEAK_SAND, 1.0, "drained", {}, "weighted means"),
        (STRONG, WEAK_SAND, 12.0, "drained", {}, "the stratum alone"),
        (STRONG, SOFT, 1.0, "drained", {}, "punching"),
        (STRONG, SOFT, 1.0, "drained", {"layer_mechanism": "load_spread"}, "load spread"),
        (STRONG, NEAR_SAND, 1.0, "drained", {}, "weighted means"),
        (WEAK_SAND, STRONG, 1.0, "drained", {}, "weak stratum alone"),
        (SOFT, STIFF, 0.4, "undrained", {}, "weak stratum alone"),
        (SOFT, STIFF, 0.4, "undrained", {"squeezing": True}, "squeezing"),
        (SOFT, STIFF, 1.9, "undrained", {"squeezing": True}, "the stratum alone"),
        (STIFF, SOFT, 1.0, "undrained", {"layer_mechanism": "punching"}, "punching"),
        (SOFT, STIFF, 0.02, "undrained", {}, "mean of what lies near"),
        (STIFF, SOFT, 20.0, "undrained", {}, "the stratum alone"),
    ],
)
def test_the_least_mechanism_is_adopted(
    upper: dict, lower: dict, below: float, drainage: str, settings: dict, expected: str
) -> None:
    assert mechanism(layered_pad(upper, lower, below, **settings), drainage) == expected


@pytest.mark.long
@given(
    t=st.floats(0.05, 6.0),
    cu=st.floats(5.0, 80.0),
    chosen=st.sampled_from(["lesser", "punching", "load_spread"]),
)
def test_between_the_weak_and_the_strong_stratum(t: float, cu: float, chosen: str) -> None:
    """With more sand above the clay the resistance grows, from that of the clay to that of the sand."""
    soft = SOFT | {"undrained_strength": cu}
    values = [
        resistance(layered_pad(STRONG, soft, d, layer_mechanism=chosen), "drained") for d in (1e-6, t, t + 0.3, 30.0)
    ]
    assert values == sorted(values)


def test_a_stronger_lower_stratum_never_lessens() -> None:
    values = [
        resistance(layered_pad(STIFF, SOFT | {"undrained_strength": cu}, 0.8), "undrained")
        for cu in (10, 30, 60, 100, 119, 130, 400)
    ]
    assert all(b >= a - 1e-9 for a, b in pairwise(values[:5]))
    assert values[-1] == pytest.approx(resistance(layered_pad(STIFF, STIFF, 0.8), "undrained"))


def test_a_share_of_one_is_punching_on_rough_planes() -> None:
    low, high = (
        resistance(layered_pad(STRONG, SOFT, 1.0, punching_share=s, layer_mechanism="punching"), "drained")
        for s in (0.3, 0.9)
    )
    assert high > low


def test_the_working_leads_through_the_lower_stratum() -> None:
    project = layered_pad(STRONG, SOFT, 1.0)
    found = working(project, project.pads[0], "safety-drained")
    assert isinstance(found, Working)
    symbols = {line.symbol for line in found.lines()}
    assert {"q_1", "q_A2", "q_W2", "q_P", "q_S", "q_M", "q_N", "f_d1", "t_1"} <= symbols


def test_factored_strengths_go_down_too() -> None:
    """Set M2 divides the strength of the lower stratum by 1.4."""
    project = layered_pad(STRONG, SOFT, 1e-6)
    found = evaluate_pad(project, project.pads[0]).check("resistance-drained")
    width, length = 2.0, 2.4
    expected = (np.pi + 2) * 30.0 / 1.4 * (1 + 0.2 * width / length) + 19.0 * 1.2
    assert found.capacity == pytest.approx(expected, rel=1e-4)


def test_water_above_the_interface_is_seen() -> None:
    """Sand over clay in total stresses of the clay: the frame of the effective force takes the pore pressure off."""
    from korbent.core.model import Water

    dry = layered_pad(STRONG, SOFT, 1e-6, bearing_method="EN 1997-1 Annex D")
    wet = dry.replaced(ground=dry.ground.replaced(water=Water(low=-0.2, normal=-0.2, high=-0.2)))
    q_dry, q_wet = resistance(dry, "drained"), resistance(wet, "drained")
    # in total stresses the clay bears c_u N_c + sigma; the demand is effective, so the effective overburden counts
    assert q_dry - q_wet == pytest.approx(19.0 * 1.2 - (19.0 * 0.2 + (21.0 - 9.81) * 1.0), rel=1e-3)


def test_what_the_lower_stratum_lacks_is_said() -> None:
    project = edited(layered_pad(STRONG, WEAK_SAND, 1.0), ("ground", "soils", "lower", "friction_angle"), None)
    found = evaluate_pad(project, project.pads[0]).check("safety-drained")
    assert "1.00 m below the base, is not in this resistance: the soil 'lower' has no friction angle" in found.message
    rock = edited(project, ("ground", "soils", "lower", "pattern"), "rock")
    assert "not in this" not in evaluate_pad(rock, rock.pads[0]).check("safety-drained").message


def test_the_comparison_lists_every_mechanism_with_its_reason() -> None:
    project = layered_pad(STRONG, SOFT, 1.0)
    rows = [m for m in compare(project, project.pads[0], "drained").methods if m.layered]
    by_name = {m.method: m for m in rows}
    assert by_name["punching"].adopted
    assert by_name["punching"].ultimate == pytest.approx(resistance(project, "drained"))
    assert by_name["weighted means"].ultimate is not None
    assert by_name["punching"].ultimate <= min(m.ultimate for m in rows if m.ultimate is not None) + 1e-9
    assert by_name["squeezing"].remark == "only of an undrained clay"
    assert all(m.remark for m in rows if m.ultimate is None)


def test_the_same_soil_in_slices_is_one_stratum() -> None:
    project = layered_pad(STRONG, SOFT, 1.0)
    strata = (
        Stratum(soil="upper", thickness=0.5),
        Stratum(soil="upper", thickness=1.7),
        Stratum(soil="lower", thickness=20.0),
    )
    hole = Borehole(name="BH", x=0, y=0, ground_level=0.0, strata=strata)
    sliced = project.replaced(ground=project.ground.replaced(boreholes=(hole,)))
    profile = profile_at(sliced.ground, 0.0, 0.0)
    assert profile is not None
    assert list(next_other(profile)) == [1, 2]  # given in parts, one stratum
    assert resistance(sliced, "drained") == pytest.approx(resistance(project, "drained"), rel=1e-12)


def test_passive_pressure_grows_with_wall_friction() -> None:
    phi = np.radians(np.array([20.0, 30.0, 40.0]))
    rough, smooth = passive(phi, 0.6 * phi), passive(phi, 0.0 * phi)
    assert (rough > smooth).all()
    assert smooth == pytest.approx(np.tan(np.pi / 4 + phi / 2) ** 2)
    assert (np.diff(failure_depth(np.ones(3), phi)) > 0).all()


def test_a_third_and_a_fourth_stratum_are_drawn_where_they_are() -> None:
    project = layered_pad(STRONG, NEAR_SAND, 1.0, SOFT)
    found = evaluate_pad(project, project.pads[0]).check("safety-drained")
    shown = mechanism_of(project, project.pads[0], found)
    assert shown is not None
    assert (MECHANISMS[shown.code], shown.below) == ("punching", "further")
    assert shown.depth == pytest.approx(2.0)
    assert shown.phi_below == 0.0


def test_what_a_stratum_further_down_lacks_is_said() -> None:
    project = layered_pad(STRONG, NEAR_SAND, 1.0, SOFT)
    project = edited(project, ("ground", "soils", "further", "undrained_strength"), None)
    found = evaluate_pad(project, project.pads[0]).check("safety-drained")
    assert (
        "a stratum further down is not in this resistance: the soil 'further' has no undrained strength"
        in found.message
    )


def test_squeezing_needs_thin_clay_and_grows_as_it_thins() -> None:
    values = [resistance(layered_pad(SOFT, STIFF, t, squeezing=True), "undrained") for t in (1.5, 1.0, 0.6, 0.3, 0.2)]
    assert values[0] == pytest.approx(values[1])
    assert all(b > a for a, b in pairwise(values[1:]))
    assert values[-1] < resistance(layered_pad(STIFF, STIFF, 1.0), "undrained")


def test_the_weight_below_the_base_is_the_mean_of_the_strata_over_its_width() -> None:
    """Light sand from half a metre down: its weight counts by its share of B', below water less that of water."""
    light = STRONG | {"weight": 15.0, "weight_saturated": 17.0}
    project = layered_pad(STRONG, light, 0.5)
    found = working(project, project.pads[0], "safety-drained")
    assert isinstance(found, Working)

    def weight(of: Working) -> float:
        step = next(s for s in of.recording.steps if s.symbol == "gammaprime")
        return float(np.asarray(step.value).ravel()[0])

    assert weight(found) == pytest.approx((0.5 * 19.0 + 1.5 * 15.0) / 2.0)
    from korbent.core.model import Water

    wet = project.replaced(ground=project.ground.replaced(water=Water(low=-2.2, normal=-2.2, high=-2.2)))
    found = working(wet, wet.pads[0], "safety-drained")
    assert isinstance(found, Working)
    assert weight(found) == pytest.approx((0.5 * 19.0 + 0.5 * 15.0 + 1.0 * (17.0 - 9.81)) / 2.0)


def test_rock_without_strengths_is_sound_for_each_base_by_how_it_answers() -> None:
    """One profile, one base on clay that is looked at both ways, below it rock that has an undrained strength only."""
    rock = SOFT | {"pattern": "rock", "undrained_strength": 5000.0, "drainage": "both"}
    clay = SOFT | {"drainage": "both", "friction_angle": 25.0, "cohesion": 5.0}
    project = layered_pad(clay, rock, 0.3)
    alone = layered_pad(clay, clay, 0.3)
    for drainage in ("drained", "undrained"):
        assert resistance(project, drainage) == pytest.approx(resistance(alone, drainage), rel=1e-9)
    film = layered_pad(clay, rock, 1e-4)
    assert resistance(film, "undrained") > 50 * resistance(alone, "undrained")
    assert resistance(film, "drained") > 50 * resistance(alone, "drained")
