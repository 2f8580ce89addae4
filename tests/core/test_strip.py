"""Strips under walls: their length follows the wall, their width is sized; a pad under a wall of an older file becomes
one."""

import json
from pathlib import Path

import pytest
from pydantic import ValidationError

from korbent.core.evaluate import effects_of, evaluate
from korbent.core.kinds import KINDS, kind_of
from korbent.core.model import Load, LoadPoint, Pad, Project
from korbent.core.model.foundations import Pad as Foundation
from korbent.core.model.site import Range
from korbent.core.sizing.first_size import first_size
from korbent.core.sizing.propose import proposal, range_of
from korbent.files.project_file import load, save
from korbent.verification.pad import one_pad


def under_wall(rotation: float = 0.0, kind: str = "strip", **changes: object) -> Project:
    """A wall 6 m long, along the x axis when it is not turned, on a base along it."""
    project = one_pad(load=Load(V=900.0), width=6.3, length=1.2, thickness=0.4, rotation=rotation)
    wall = project.actions.load_points[0].replaced(kind="concrete_wall", size_x=6.0, size_y=0.25, rotation=rotation)
    pad = project.pads[0].replaced(kind=kind, **changes)
    return project.replaced(actions=project.actions.replaced(load_points=(wall,)), pads=(pad,))


@pytest.mark.parametrize("rotation", [0.0, 30.0, 90.0])
def test_only_what_is_across_the_wall_is_stepped(rotation: float) -> None:
    project = under_wall(rotation)
    pad, wall = project.pads[0], project.actions.load_points[0]
    assert kind_of(pad).follows(pad, wall) == "width"
    assert {e.dimension for e in effects_of(project, pad)} == {"length", "thickness", "level", "offset_y"}
    other = under_wall(rotation, "pad")
    assert {e.dimension for e in effects_of(other, other.pads[0])} >= {"width", "offset_x"}


def test_a_turned_wall_makes_the_other_size_follow() -> None:
    project = under_wall()
    wall = project.actions.load_points[0].replaced(size_x=0.25, size_y=6.0)
    pad = project.pads[0].replaced(width=1.2, length=6.3)
    project = project.replaced(actions=project.actions.replaced(load_points=(wall,)), pads=(pad,))
    assert kind_of(pad).follows(pad, wall) == "length"
    assert "width" in {e.dimension for e in effects_of(project, pad)}


def test_a_proposal_leaves_the_length_unless_it_has_a_range() -> None:
    project = under_wall()
    pad = project.pads[0]
    assert range_of(pad, "width", "metric", "width")[:2] == (6.3, 6.3)
    found = proposal(project, project.pads)
    assert found.sizes.get("width", 6.3) == pytest.approx(6.3)
    assert found.sizes.get("length", 1.2) != pytest.approx(6.3)
    free = pad.replaced(ranges={"width": Range(low=6.1, high=7.0)})
    low, high, _ = range_of(free, "width", "metric", "width")
    assert low < high


def test_its_checks_are_those_of_the_pad() -> None:
    strip, pad = (evaluate(under_wall(kind=k)).all_checks for k in ("strip", "pad"))
    for a, b in zip(strip, pad):
        assert (a.check.id, a.state, a.ratio) == (b.check.id, b.state, b.ratio)


def test_the_first_base_of_a_wall_is_a_strip() -> None:
    project = under_wall().replaced(pads=())
    pad = first_size(project, project.actions.load_points[0].name).pad
    assert pad.kind == "strip"
    assert pad.width >= 6.0
    assert pad.length < 3.0
    column = project.actions.load_points[0].replaced(name="Z", kind="concrete_column", x=20.0, size_x=0.4, size_y=0.4)
    project = project.replaced(actions=project.actions.replaced(load_points=(column,)))
    assert first_size(project, "Z").pad.kind == "pad"


def test_what_is_no_strip_is_refused() -> None:
    project = under_wall()
    column = project.actions.load_points[0].replaced(kind="concrete_column")
    with pytest.raises(ValidationError, match="a strip stands under a wall"):
        project.replaced(actions=project.actions.replaced(load_points=(column,)))
    for changes in ({"shape": "circle"}, {"further": ("X",)}):
        with pytest.raises(ValidationError, match="a rectangle under one wall"):
            project.pads[0].replaced(**changes)


def test_a_file_of_version_1_gets_strips_under_its_walls(tmp_path: Path) -> None:
    project = under_wall(kind="pad")
    other = LoadPoint(name="Z", x=30.0, y=0.0, size_x=0.4, size_y=0.4, level=0.0)
    pads = (*project.pads, Pad(name="Q", load_point="Z", width=2.0, length=2.0, thickness=0.5, level=-1.2))
    actions = project.actions.replaced(load_points=(*project.actions.load_points, other))
    path = tmp_path / "old.korbent"
    save(project.replaced(actions=actions, pads=pads), path)
    content = json.loads(path.read_text())
    assert content["version"] == 3
    content["version"] = 1
    for pad in content["project"]["pads"]:
        pad.pop("kind", None)
    path.write_text(json.dumps(content))
    assert [p.kind for p in load(path).pads] == ["strip", "pad"]
    content["version"] = 2
    path.write_text(json.dumps(content))
    assert [p.kind for p in load(path).pads] == ["pad", "pad"]


def test_every_kind_of_the_model_has_its_own_file() -> None:
    known = Foundation.model_fields["kind"].annotation
    assert set(KINDS) == set(known.__args__)  # type: ignore[union-attr]
