"""The ground of a base is that below its middle, whichever column is named first; a wall keeps its direction; a ring is
round."""

import pytest

from korbent.core.evaluate import evaluate, evaluate_pad
from korbent.core.ground.below import middle_of, profile_below
from korbent.core.model import Borehole, Load, Project, Stratum, edited
from korbent.core.settlement.history import history
from korbent.verification.pad import one_pad


def sloping() -> Project:
    """Soft strata thicken towards +x; a long base under two columns, its middle between them."""
    project = one_pad(load=Load(V=500.0), width=5.0, offset_x=-1.5)
    own = project.ground.soils[0]
    soft = own.replaced(name="soft", undrained_strength=25.0, friction_angle=22.0, modulus=5000.0)

    def hole(name: str, x: float, t: float) -> Borehole:
        strata = (Stratum(soil="ground", thickness=2.0 + t), Stratum(soil="soft", thickness=28.0 - t))
        return Borehole(name=name, x=x, y=0.0, ground_level=0.0, strata=strata)

    ground = project.ground.replaced(
        soils=(own, soft),
        boreholes=(hole("A", -8.0, 6.0), hole("B", 12.0, 0.0)),
        interpolation="distance_weighted",
    )
    second = project.actions.load_points[0].replaced(name="D", x=3.0)
    actions = project.actions.replaced(load_points=(*project.actions.load_points, second))
    pads = (project.pads[0].replaced(further=("D",)),)
    return project.replaced(
        ground=ground, actions=actions, pads=pads, settings=project.settings.replaced(factor_bearing=3.0)
    )


def test_naming_the_other_column_first_changes_nothing() -> None:
    project = sloping()
    pad = project.pads[0]
    other = project.replaced(pads=(pad.replaced(load_point="D", further=("C",), offset_x=1.5),))
    assert middle_of(pad, project.load_point("C")) == middle_of(other.pads[0], project.load_point("D")) == (1.5, 0.0)
    first, second = evaluate_pad(project, pad), evaluate_pad(other, other.pads[0])
    for check in first.checks:
        assert second.check(check.check.id).ratio == (
            None if check.ratio is None else pytest.approx(check.ratio, rel=1e-9)
        )
    assert history(project).pads[0].final == pytest.approx(history(other).pads[0].final, rel=1e-9)
    ledger = evaluate(project).pads[0].check("settlement").demand
    assert ledger == pytest.approx(1000 * history(project).pads[0].final, rel=1e-6)


def test_an_endless_wall_turned_by_a_degree_keeps_its_direction() -> None:
    """The base resists as part of a strip along the wall, also where the wall stands a little askew on it."""

    def capacity(turn: float) -> float:
        project = one_pad(load=Load(V=400.0), width=1.2, length=6.0)
        wall = project.actions.load_points[0].replaced(
            kind="concrete_wall", size_x=6.0, size_y=0.3, rotation=90.0 + turn
        )
        project = project.replaced(actions=project.actions.replaced(load_points=(wall,)))
        project = edited(project, ("settings", "strip"), "endless")
        found = evaluate_pad(project, project.pads[0]).check("resistance-undrained").capacity
        assert found is not None
        return found

    straight = capacity(0.0)
    assert capacity(1.0) == pytest.approx(straight, rel=1e-9)
    assert capacity(-3.0) == pytest.approx(straight, rel=1e-9)


def test_a_ring_with_a_vanishing_hole_bears_as_a_circle_by_every_method() -> None:
    for method in ("Terzaghi 1943", "Meyerhof 1963", "Brinch Hansen 1970", "Vesic 1975", "EN 1997-1 Annex D"):
        values = []
        for changes in ({"shape": "circle"}, {"shape": "ring", "hole": 1e-4}):
            project = edited(
                one_pad(load=Load(V=500.0), width=2.4, length=2.4, **changes),
                ("settings", "factor_bearing"),
                3.0,
            )
            project = edited(project, ("settings", "bearing_method"), method)
            values.append(evaluate_pad(project, project.pads[0]).check("safety-drained").ratio)
        assert values[1] == pytest.approx(values[0], rel=1e-3), method


def test_the_working_says_by_which_rule_it_overturns() -> None:
    from korbent.core.explain.working import Working, working

    project = one_pad(load=Load(V=500.0, My=80.0))
    rows = tuple(
        c.replaced(serves=tuple(s for s in c.serves if s != "EQU") or ("allowable",))
        for c in project.actions.combinations
    )
    project = project.replaced(actions=project.actions.replaced(combinations=rows))
    found = working(project, project.pads[0], "overturning")
    assert isinstance(found, Working)
    assert any("lateral moments netted" in line.note for line in found.lines())


def test_a_hole_that_is_not_the_nearest_leaves_the_ground_of_a_base_the_very_same() -> None:
    project = sloping()
    project = edited(project, ("ground", "interpolation"), "nearest")
    pad = project.pads[0]
    point = project.load_point(pad.load_point)
    nearest = profile_below(project.ground, pad, point)
    assert nearest is not None
    other = next(hole for hole in project.ground.boreholes if hole.name != nearest.place)
    there = edited(project, ("ground", "boreholes", other.name, "strata", 0, "thickness"), 3.25)
    assert profile_below(there.ground, pad, point) is nearest
    here = edited(project, ("ground", "boreholes", nearest.place, "strata", 0, "thickness"), 3.25)
    assert profile_below(here.ground, pad, point) is not nearest
