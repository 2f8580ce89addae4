"""The rules of editing hold for scripts as for the window."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from korbent import api
from korbent.core.model import Project, edited, expressed
from korbent.core.plan.by_hand import SIZES, FrozenError, by_hand
from korbent.demo import lindmere
from korbent.drawing.plan import outline


def edge_of(project: Project, name: str, side: str) -> tuple[float, float]:
    """The middle of an edge in the plan."""
    pad = project.pad(name)
    ring = outline(pad, project.load_point(pad.load_point))
    pair = {"-y": (0, 1), "+x": (1, 2), "+y": (2, 3), "-x": (3, 0)}[side]
    (ax, ay), (bx, by) = (ring[k] for k in pair)
    return (ax + bx) / 2, (ay + by) / 2


@given(st.sampled_from(["-x", "+x"]), st.floats(1.2, 4.0))
def test_a_held_edge_stays(side: str, width: float) -> None:
    project = by_hand(lindmere(), ("pads", "P2", "hold_x"), side)
    wider = by_hand(project, ("pads", "P2", "width"), width)
    assert wider.pad("P2").width == width
    assert edge_of(wider, "P2", side) == pytest.approx(edge_of(project, "P2", side))


@pytest.mark.parametrize("name", SIZES)
def test_a_frozen_base_keeps_its_size(name: str) -> None:
    project = by_hand(lindmere(), ("pads", "P2", "frozen"), "poured")
    now = getattr(project.pad("P2"), name)
    other = ("top" if now == "underside" else "underside") if name == "held" else now + 0.1
    with pytest.raises(FrozenError, match="P2 is poured"):
        by_hand(project, ("pads", "P2", name), other)
    with pytest.raises(FrozenError):
        by_hand(project, ("pads", "P2", "edge", "+x"), 2.0)
    assert by_hand(project, ("pads", "P2", name), now) is project  # nothing changes


def test_a_value_is_no_longer_that_of_its_expression() -> None:
    project = expressed(lindmere(), ("pads", "P2", "width"), "L/2 + 0.3")
    assert project.pad("P2").width == pytest.approx(project.pad("P2").length / 2 + 0.3)
    assert project.pad("P2").expressions
    project = by_hand(project, ("pads", "P2", "width"), 2.5)
    assert project.pad("P2").width == 2.5
    assert not project.pad("P2").expressions


def test_a_generated_combination_counts_as_edited() -> None:
    project = lindmere()
    row = project.actions.combinations[0]
    project = edited(project, ("actions", "combinations", row.number, "origin"), "EN 1990, 6.10")
    changed = by_hand(project, ("actions", "combinations", row.number, "name"), "stormy night")
    new = next(c for c in changed.actions.combinations if c.number == row.number)
    assert (new.edited, new.origin_name) == (True, row.name)


def test_a_parameter_loses_its_source() -> None:
    project = lindmere()
    soil = project.ground.soils[0].name
    project = edited(project, ("ground", "soils", soil, "sources", "friction_angle"), "SPT, 7 tests")
    assert dict(next(s for s in project.ground.soils if s.name == soil).sources)
    changed = by_hand(project, ("ground", "soils", soil, "friction_angle"), 31.5)
    assert "friction_angle" not in next(s for s in changed.ground.soils if s.name == soil).sources


def test_a_name_is_taken_up_everywhere() -> None:
    project = lindmere()
    strap = project.straps[0]
    changed = api.change(project, "pads", strap.edge, "name", to="Q1")
    assert changed.straps[0].edge == "Q1"
    column = project.pads[0].load_point
    changed = api.change(project, "actions", "load_points", column, "name", to="Z9")
    assert changed.pads[0].load_point == "Z9"


def test_wrong_values_and_ways_are_refused() -> None:
    project = lindmere()
    with pytest.raises(ValidationError):
        api.change(project, "pads", "P2", "width", to=-1.0)
    with pytest.raises(KeyError):
        api.change(project, "pads", "P99", "width", to=1.0)
