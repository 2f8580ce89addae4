"""The model: immutable, validated, shared between versions, with settings inherited."""

import pytest
from pydantic import ValidationError

from korbent.core.model import (
    Acceptance,
    Borehole,
    InconsistentError,
    Pad,
    Pedestal,
    Project,
    Settings,
    Soil,
    Stratum,
    edited,
    origin,
    renamed,
    resolve,
    value_at,
)
from korbent.core.model.frozen import unit_of


def inconsistency(error: ValidationError) -> list[str]:
    return [str(p) for e in error.errors() for p in getattr(e["ctx"]["error"], "problems", ())]


def test_nothing_can_be_changed_in_place(demo: Project) -> None:
    with pytest.raises(ValidationError):
        demo.pads[0].width = 3.0
    with pytest.raises(TypeError):
        demo.actions.combinations[0].factors["G"] = 2.0


def test_an_edit_shares_what_stays(demo: Project) -> None:
    new = edited(demo, ("pads", "P7", "width"), 2.6)
    assert new.pad("P7").width == 2.6
    assert demo.pad("P7").width != 2.6
    assert new.ground is demo.ground
    assert new.actions is demo.actions
    assert new.pad("P8") is demo.pad("P8")


@pytest.mark.parametrize(
    ("path", "value"),
    [
        (("pads", "P7", "thickness"), 0.0),
        (("pads", "P7", "thickness"), -0.4),
        (("pads", "P7", "width"), float("nan")),
        (("ground", "soils", "Silty sand", "weight"), -18.0),
        (("ground", "soils", "Silty sand", "friction_angle"), 0.0),
        (("ground", "boreholes", "BH1", "strata", 1, "thickness"), 0.0),
        (("actions", "load_points", "A1", "size_x"), 0.0),
        (("settings", "presumed_pressure"), "much"),
        (("pads", "P7", "overrides", "no_such_setting"), 1.0),
        (("pads", "P7", "overrides", "presumed_pressure"), -1.0),
        (("actions", "combinations", 1, "serves"), ()),
    ],
)
def test_bad_values_are_refused(demo: Project, path: tuple[str | int, ...], value: object) -> None:
    with pytest.raises(ValidationError):
        edited(demo, path, value)


@pytest.mark.parametrize(
    ("path", "value", "says"),
    [
        (("pads", "P7", "load_point"), "Z9", "no column or wall 'Z9'"),
        (("pads", "P7", "type"), "T9", "no type 'T9'"),
        (("pads", "P7", "offset_x"), 1.4, "outside the pad"),
        (("pads", "P7", "name"), "P8", "used 2 times"),
        (("actions", "combinations", 6, "factors"), {"ghost": 1.0}, "no load case 'ghost'"),
        (("actions", "combinations", 6, "factor_set"), None, "names its set"),
        (("ground", "water", "low"), 9.0, "levels must rise"),
        (("ground", "boreholes", "BH1", "strata", 0, "soil"), "lava", "no soil 'lava'"),
    ],
)
def test_names_that_lead_nowhere(demo: Project, path: tuple[str | int, ...], value: object, says: str) -> None:
    with pytest.raises(ValidationError) as caught:
        edited(demo, path, value)
    assert says in "".join(inconsistency(caught.value))


def test_paths_that_lead_nowhere(demo: Project) -> None:
    for path in (("pads", "P99", "width"), ("pads", "P7", "girth"), ("nothing",)):
        with pytest.raises(KeyError):
            edited(demo, path, 1.0)


def test_a_load_is_made_where_there_was_none(demo: Project) -> None:
    path = ("actions", "load_points", "A2", "loads", "Ship", "Hy")
    assert value_at(demo, path) is None
    assert value_at(edited(demo, path, -12.0), path) == -12.0


def test_renaming_reaches_every_reference(demo: Project) -> None:
    new = renamed(demo, ("ground", "soils", "Silty clay"), "Estuary clay")
    assert {s.soil for h in new.ground.boreholes for s in h.strata} >= {"Estuary clay"}
    new = renamed(new, ("actions", "cases", "G"), "Dead")
    assert "Dead" in new.actions.combinations[0].factors
    assert "Dead" in new.load_point("A1").loads
    new = renamed(new, ("actions", "load_points", "D2"), "D-2")
    assert new.pad("P7").load_point == "D-2"
    new = renamed(new, ("types", "T1"), "small")
    assert new.pad("P1").type == "small"
    with pytest.raises(ValidationError):
        renamed(new, ("types", "small"), "T2")


def test_settings_are_inherited() -> None:
    project = Settings(frost_depth=0.8)
    found = resolve(project, {"frost_depth": 0.9, "concrete_cover": 0.07}, {"frost_depth": 1.0})
    assert (found.frost_depth, found.concrete_cover, found.concrete_strength) == (1.0, 0.07, 30.0)
    assert origin("frost_depth", {"frost_depth": 0.9}, {"frost_depth": 1.0}) == "base"
    assert origin("frost_depth", {"frost_depth": 0.9}, {}) == "type"
    assert origin("frost_depth", {}, {}) == "project"
    assert resolve(project, {}, {}) is project


def test_an_override_can_be_taken_back(demo: Project) -> None:
    path = ("pads", "P7", "overrides", "frost_depth")
    assert edited(edited(demo, path, 0.9), path, None).pad("P7").overrides == {}


def test_the_held_face_stays() -> None:
    common = {"name": "P", "load_point": "C", "width": 2, "length": 2, "level": 1.0}
    below = Pad(**common, thickness=0.5, held="underside")
    above = Pad(**common, thickness=0.5, held="top")
    assert (below.underside, below.top) == (1.0, 1.5)
    assert (above.underside, above.top) == (0.5, 1.0)


def test_a_pedestal_must_rise_above_the_base(demo: Project) -> None:
    with pytest.raises(ValidationError) as caught:
        edited(demo, ("pads", "P7", "pedestal", "top"), 2.1)
    assert "not above the top" in "".join(inconsistency(caught.value))


def test_an_acceptance_needs_a_reason() -> None:
    with pytest.raises(ValidationError):
        Acceptance(check="punching", reason="", ratio=1.02)


def test_a_borehole_may_be_a_sounding_and_a_stratum_has_a_thickness() -> None:
    assert Borehole(name="CPT", x=0, y=0, ground_level=0).strata == ()
    with pytest.raises(ValidationError):
        Stratum(soil="sand", thickness=0)


def test_units_are_known_for_every_number() -> None:
    assert unit_of(Pad, "width") == "m"
    assert unit_of(Soil, "undrained_strength") == "kPa"
    assert unit_of(Soil, "void_ratio") == ""


def test_error_type_carries_all_problems(demo: Project) -> None:
    with pytest.raises(ValidationError) as caught:
        demo.replaced(types=())
    (found,) = [e["ctx"]["error"] for e in caught.value.errors()]
    assert isinstance(found, InconsistentError)
    assert len(found.problems) == len([p for p in demo.pads if p.type])


def test_what_stands_on_a_base_fits_on_it(demo: Project) -> None:
    """A pedestal larger than its base, and loads that act below the underside: said where it is and why."""
    large = Pedestal(size_x=9.0, size_y=0.5, top=demo.pad("P7").top + 1.0)
    with pytest.raises(
        ValueError,
        match=r"pads\[P7\].pedestal.size_x: the pedestal, 9 m, is larger than the width of its base",
    ):
        edited(demo, ("pads", "P7", "pedestal"), large)
    high = demo.load_point(demo.pad("P7").load_point).level + demo.pad("P7").thickness + 0.5
    with pytest.raises(ValueError, match=r"pads\[P7\].level: the loads of .* below the underside of the base"):
        edited(demo, ("pads", "P7", "level"), high)
