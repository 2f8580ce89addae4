"""What an office keeps: templates and sets of combinations."""

import json

import pytest

from korbent.core.model import LoadCase, Project, Quantity, edited, expressed
from korbent.files.folders import state_folder
from korbent.files.office import (
    OfficeError,
    combinations_of,
    from_template,
    keep_set,
    keep_template,
    set_names,
    template_of,
    templates,
)


def test_a_template_leaves_the_site_behind(demo: Project) -> None:
    kept = template_of(demo)
    assert kept.pads == ()
    assert kept.ground.boreholes == ()
    assert kept.ground.water is None
    assert kept.actions.load_points == ()
    assert kept.actions.area_loads == ()
    assert kept.actions.steps == ()
    assert kept.ground.soils == demo.ground.soils
    assert kept.types == demo.types


def test_templates_are_listed_and_come_back(demo: Project) -> None:
    assert templates() == {}
    keep_template(demo, "Quay / pads")
    assert list(templates()) == ["Quay  pads"]
    assert from_template(templates()["Quay  pads"]) == template_of(demo)
    with pytest.raises(OfficeError, match="is no name"):
        keep_template(demo, "...")
    templates()["Quay  pads"].write_text("{}")
    with pytest.raises(OfficeError):
        from_template(templates()["Quay  pads"])


def test_expressions_into_the_site_stop_a_template(demo: Project) -> None:
    named = edited(demo, ("quantities",), (Quantity(name="q", value=1.0, unit="m"),))
    named = expressed(named, ("quantities", "q", "value"), "=P7.B + 0.1")
    with pytest.raises(OfficeError, match="cannot be a template"):
        keep_template(named, "x")


def test_a_set_maps_cases_by_name_then_by_nature(demo: Project) -> None:
    keep_set(demo.actions, "ours")
    assert set_names() == ("ours",)
    rows = combinations_of("ours", demo.actions.cases)
    assert [r.factors for r in rows] == [c.factors for c in demo.actions.combinations]
    assert all(r.origin == "office set ours" for r in rows)
    other = tuple(
        LoadCase(name={"G": "DL", "Q": "LL"}.get(c.name, c.name), nature=c.nature, category=c.category)
        for c in demo.actions.cases
    )
    assert combinations_of("ours", other)[0].factors == {"DL": 1.0, "LL": 1.0}
    with pytest.raises(OfficeError, match=r"lacks: W\+x \(wind\)"):
        combinations_of("ours", tuple(c for c in demo.actions.cases if c.name != "W+x"))


def test_damaged_sets_say_so(demo: Project) -> None:
    keep_set(demo.actions, "ours")
    path = state_folder() / "combination-sets.json"
    whole = json.loads(path.read_text())
    whole["ours"]["rows"][0]["serves"] = ["nothing"]
    path.write_text(json.dumps(whole))
    with pytest.raises(OfficeError, match="damaged"):
        combinations_of("ours", demo.actions.cases)
    path.write_text("not json")
    assert set_names() == ()
    with pytest.raises(OfficeError, match="no set"):
        combinations_of("ours", demo.actions.cases)
    with pytest.raises(OfficeError, match="no combination"):
        keep_set(demo.actions.replaced(combinations=()), "none")
