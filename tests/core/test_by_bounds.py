"""Bearing by bounds as the resistance of a strip: counts when computed, is being computed before, and is never a
formula."""

from dataclasses import replace

import numpy as np
import pytest

from korbent.core.bearing import by_bounds
from korbent.core.bearing.as_strip import AsStrip, Taken, as_strip, strip_on
from korbent.core.bench import bench_for
from korbent.core.checks import State
from korbent.core.evaluate import evaluate
from korbent.core.evaluate.road import slow_depends_on
from korbent.core.evaluate.slow import computed, known_now, later
from korbent.core.explain.deciding import deciding
from korbent.core.explain.working import Working, working
from korbent.core.geometry import table
from korbent.core.model import Load, Project, Soil, Stratum, edited
from korbent.core.plasticity.section import Load as Ray
from korbent.core.plasticity.section import Section, uniform
from korbent.verification.pad import one_pad


@pytest.fixture
def few(monkeypatch: pytest.MonkeyPatch) -> None:
    """Coarse meshes, so that it takes seconds."""
    monkeypatch.setattr(by_bounds, "SIZES", (150, 300))


def long_base(**settings: object) -> Project:
    """A base five times as long as wide, whose resistance is that of bounds."""
    project = one_pad(load=Load(V=900.0, Hx=settings.pop("pushed", 0.0)), width=1.5, length=7.5)
    for name, value in {"strip_resistance": "bounds", **settings}.items():
        project = edited(project, ("settings", name), value)
    return project


def of(project: Project, check: str):  # type: ignore[no-untyped-def]
    return next(c for c in evaluate(project).pads[0].checks if c.check.id == check)


@pytest.mark.long
@pytest.mark.parametrize("pushed", [0.0, pytest.param(30.0, marks=pytest.mark.long)])
def test_the_lower_bound_stands_in_the_place_of_the_formula(few: None, pushed: float) -> None:
    project = long_base(pushed=pushed)
    found = of(project, "resistance-bounds-drained")
    formula = of(project, "resistance-drained")
    assert formula.state is State.NOT_APPLICABLE
    assert "that by bounds" in formula.message
    assert found.state in (State.HOLDS, State.FAILS, State.WARNS)
    by_formula = of(edited(project, ("settings", "strip_resistance"), "method"), "resistance-drained")
    assert by_formula.ratio is not None
    assert found.ratio == pytest.approx(by_formula.ratio, rel=0.6)
    assert found.demand / found.capacity == pytest.approx(found.ratio, rel=1e-9)
    # every number of its working
    own = working(project, project.pads[0], "resistance-bounds-drained")
    assert isinstance(own, Working)
    symbols = {s.symbol for s in own.recording.steps}
    assert {"f_low", "V", "H", "M", "ratio", "gamma_R"} <= symbols
    # the bound itself, once more: the load of the situation, that many times, is borne by the section
    pad = project.pads[0]
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad)).on_ground()
    strip = strip_on(bench, "drained", Taken(load="all", strengths="design", underside="friction"), found.situation)
    assert not isinstance(strip, str)
    factor = by_bounds.factor_of(strip.section, 300)
    assert found.capacity == pytest.approx(found.demand * factor, rel=1e-6)


def test_it_is_being_computed_until_a_worker_knows(few: None) -> None:
    project = long_base(load_spread=0.49)
    name = project.pads[0].name
    with later() as waiting:
        found = of(project, "resistance-bounds-drained")
    assert found.state is State.COMPUTING
    assert found.ratio is None
    assert waiting == [name]
    slow = computed(project, name)
    assert slow.bounds
    known_now(project, name, slow_depends_on(project, project.pads[0]), slow)
    with later() as waiting:
        found = of(project, "resistance-bounds-drained")
    assert waiting == []
    assert found.ratio is not None


def test_a_pad_is_no_strip() -> None:
    project = edited(one_pad(), ("settings", "strip_resistance"), "bounds")
    found = of(project, "resistance-bounds-drained")
    assert found.state is State.CANNOT
    assert "times as long as wide" in found.message
    assert not by_bounds.bounds_checks(
        bench_for(one_pad(), one_pad().pads, np.zeros(1, dtype=int), table(one_pad().pads[0])), None
    )  # type: ignore[arg-type]


def along(Hx: float, Hy: float) -> AsStrip | str:
    """The strip that the check of a base pushed along both sides looks at."""
    project = edited(
        one_pad(load=Load(V=900.0, Hx=Hx, Hy=Hy), width=1.5, length=7.5), ("settings", "strip_resistance"), "bounds"
    )
    pad = project.pads[0]
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad)).on_ground()
    asked = by_bounds.asked(bench)["resistance-bounds-drained"]
    assert isinstance(asked, tuple)
    return strip_on(bench, *asked)


def test_what_pushes_along_the_strip_counts_as_pushing_across_it() -> None:
    alone, both, only = along(50.0, 0.0), along(30.0, 40.0), along(0.0, 50.0)
    assert isinstance(alone, AsStrip)
    assert isinstance(both, AsStrip)
    assert isinstance(only, AsStrip)
    per_metre = [abs(s.force[1]) for s in (alone, both, only)]
    assert per_metre == pytest.approx([per_metre[0]] * 3, rel=0.1)  # each of its own effective length
    assert "along the strip" not in alone.said
    assert "kN/m along the strip acts across it too" in both.said
    # where one looks at the cut alone, it is left out and said
    project = one_pad(load=Load(V=900.0, Hx=30.0, Hy=40.0), width=1.5, length=7.5)
    seen = as_strip(project, project.pads[0], "drained", Taken(load="all"))
    assert isinstance(seen, AsStrip)
    assert "kN/m along the strip is left out" in seen.said
    assert abs(seen.force[1]) == pytest.approx(0.6 * per_metre[1], rel=0.1)


@pytest.mark.long
def test_what_acts_along_may_push_to_either_side(few: None) -> None:
    """H and M to the same side, and to opposite ones, are not borne alike: the lesser counts."""
    both = along(30.0, 40.0)
    assert isinstance(both, AsStrip)
    assert both.either_way
    alone = along(30.0, 0.0)
    assert isinstance(alone, AsStrip)
    assert not alone.either_way
    V, H, _ = both.force
    leaning = replace(both, section=replace(both.section, load=Ray((V, H, 0.15 * V))))
    other = replace(leaning.section, load=Ray((V, -H, 0.15 * V)))
    one, two = by_bounds.factor_of(leaning.section, 150), by_bounds.factor_of(other, 150)
    assert one != pytest.approx(two, rel=1e-3)
    assert by_bounds._least(leaning, 150) == min(one, two)
    assert by_bounds._least(replace(leaning, either_way=False), 150) == one


def test_a_stratum_without_strengths_further_down_is_named(few: None) -> None:
    project = long_base()
    unknown = Soil(name="grey silt", weight=18.0, weight_saturated=19.0, drainage="both", modulus=9e3)
    hole = project.ground.boreholes[0]
    strata = (Stratum(soil="ground", thickness=2.5), Stratum(soil="grey silt", thickness=20.0))
    project = project.replaced(
        ground=project.ground.replaced(
            soils=(*project.ground.soils, unknown), boreholes=(hole.replaced(strata=strata),)
        )
    )
    found = of(project, "resistance-bounds-drained")
    assert found.state is State.CANNOT
    assert "grey silt" in found.message


@pytest.mark.long
def test_asking_which_settings_decide_solves_no_bound_anew(few: None) -> None:
    project = long_base(factor_bearing=3.0)
    found = of(project, "resistance-bounds-drained")
    assert found.ratio is not None
    by_bounds.new_ones()
    decided = deciding(project, project.pads[0], "resistance-bounds-drained")
    assert not decided.changing
    assert "strip_resistance" in decided.read
    assert by_bounds.new_ones() == ()


@pytest.mark.long
def test_half_of_a_central_section_is_the_whole() -> None:
    ground = uniform(1.5, 5.0, 25.0, 18.0, 10.0)
    central = Section(1.5, ground.layers, 10.0, ground.underside, Ray((300.0, 0.0, 0.0)))
    nearly = Section(1.5, ground.layers, 10.0, ground.underside, Ray((300.0, 1e-4, 0.0)))
    assert by_bounds.factor_of(central, 800) == pytest.approx(by_bounds.factor_of(nearly, 800), rel=0.02)


@pytest.mark.long
def test_the_global_factor(few: None) -> None:
    project = long_base(factor_bearing=3.0)
    found = of(project, "safety-bounds-drained")
    assert found.ratio is not None
    twice = of(edited(project, ("settings", "factor_bearing"), 6.0), "safety-bounds-drained")
    assert twice.ratio == pytest.approx(2 * found.ratio, rel=1e-6)
