"""Bearing resistance on random layered ground of one unit weight: cut, nudged, strengthened, thinned."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from korbent.core.model import Stratum
from tests.invariants.layers import STRENGTHS, cut, layered_project, resistances, with_strength

seeds = st.integers(0, 10**6)


@pytest.mark.long
@given(seeds, st.sampled_from([(1.0, 1e-9), (1 + 1e-6, 1e-4), (1 - 1e-6, 1e-4), (1.01, 0.15), (0.99, 0.15)]))
def test_cutting_a_stratum_changes_as_little_as_the_strengths(seed: int, change: tuple[float, float]) -> None:
    factor, tolerance = change
    project = layered_project(seed)
    before, after = resistances(project), resistances(cut(project, seed, factor))
    for check, value in before.items():
        assert after[check] == (None if value is None else pytest.approx(value, rel=tolerance))


@pytest.mark.long
@given(seeds, st.sampled_from(STRENGTHS), st.sampled_from((1.001, 1.03, 1.2)), st.integers(0, 4))
def test_more_strength_never_bears_less(seed: int, name: str, factor: float, which: int) -> None:
    project = layered_project(seed)
    soils = project.ground.soils
    soil = soils[which % len(soils)]
    value = getattr(soil, name)
    assume(value is not None)
    # Meyerhof's factors jump at 10 degrees, far below these angles
    more = value * factor + (1.0 if name == "cohesion" else 0.0)
    assume(name != "friction_angle" or more < 45)
    before, after = resistances(project), resistances(with_strength(project, soil, name, more))
    for check, least in before.items():
        if least is not None:
            assert after[check] is not None
            assert after[check] >= least * (1 - 1e-9)


@pytest.mark.long
@given(seeds, st.integers(0, 3))
def test_no_jump_as_a_stratum_vanishes(seed: int, which: int) -> None:
    """Thinner and thinner, a stratum between others matters less and less: in the end as if it were not there."""
    project = layered_project(seed)
    hole = project.ground.boreholes[0]
    assume(len(hole.strata) > 2)
    i = 1 + which % (len(hole.strata) - 2)

    def with_thickness(t: float | None) -> dict[str, float | None]:
        strata = [Stratum(soil=s.soil, thickness=t) if k == i and t else s for k, s in enumerate(hole.strata)]
        kept = tuple(s for k, s in enumerate(strata) if t or k != i)
        ground = project.ground.replaced(boreholes=(hole.replaced(strata=kept),))
        return resistances(project.replaced(ground=ground))

    gone, film = with_thickness(None), with_thickness(1e-9)
    for check, value in gone.items():
        assert film[check] == (None if value is None else pytest.approx(value, rel=1e-3))
