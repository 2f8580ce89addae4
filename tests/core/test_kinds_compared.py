"""The kinds of foundation for some columns side by side: each is what it says, nothing else is touched."""

import numpy as np
import pytest

from korbent.core.concrete.schedule import schedule
from korbent.core.evaluate import evaluate
from korbent.core.model import Load, LoadPoint, Project
from korbent.core.sizing.kinds import KINDS, Option, footprint_of, options
from korbent.verification.pad import one_pad


def columns(*places: tuple[float, float, float]) -> Project:
    """Columns (x, y, kN), one base under the first; and one far away on a base of its own."""
    project = one_pad(load=Load(V=places[0][2]))
    first = project.actions.load_points[0]
    points = [first.replaced(name=f"C{i}", x=x, y=y, loads={"G": Load(V=V)}) for i, (x, y, V) in enumerate(places)]
    far = LoadPoint(name="F", x=60.0, y=0.0, size_x=0.4, size_y=0.4, level=first.level, loads={"G": Load(V=300.0)})
    pad = project.pads[0].replaced(load_point="C0")
    other = pad.replaced(name="far one", load_point="F")
    return project.replaced(actions=project.actions.replaced(load_points=(*points, far)), pads=(pad, other))


@pytest.fixture(scope="module")
def two() -> tuple[Project, dict[str, Option]]:
    project = columns((0, 0, 500.0), (4.5, 0, 650.0))
    heard: list[Option] = []
    found = options(project, ("C0", "C1"), told=heard.append)
    assert list(found) == heard
    assert tuple(o.kind for o in found) == KINDS
    return project, {o.kind: o for o in found}


@pytest.mark.long
def test_each_is_the_kind_it_says(two: tuple[Project, dict[str, Option]]) -> None:
    project, found = two
    for kind, option in found.items():
        assert option.project is not None, option.why_not
        bases = [option.project.pad(name) for name in option.names]
        assert {c for p in bases for c in p.carries} == {"C0", "C1"}
        # nothing else is touched
        assert option.project.pad("far one") is project.pad("far one")
        assert [p.kind for p in bases] == (["raft"] if "raft" in kind else ["pad"] * len(bases))
        assert len(bases) == (2 if kind in ("pads", "strap") else 1)
        assert len(option.project.straps) == (1 if kind == "strap" else 0)


@pytest.mark.long
def test_what_is_said_is_what_the_project_gives(two: tuple[Project, dict[str, Option]]) -> None:
    _, found = two
    for kind, option in found.items():
        assert option.project is not None
        results = evaluate(option.project)
        bases = [option.project.pad(name) for name in option.names]
        checks = [c for p in bases for c in results.pad(p.name).checks]
        assert option.holds, (kind, option.worst)
        assert all(c.state.is_good for c in checks)
        assert option.worst is not None
        assert option.worst.ratio == max(c.ratio for c in checks if c.ratio is not None)
        assert option.settlement == max(c.demand for c in checks if c.check.id == "settlement")
        assert option.area == pytest.approx(sum(p.width * p.length for p in bases))
        concrete = sum(p.width * p.length * p.thickness + p.added_volume for p in bases)
        steel = sum(b.weight for b in schedule(option.project)) - sum(
            b.weight for b in schedule(option.project, (option.project.pad("far one"),))
        )
        assert option.steel == pytest.approx(steel, rel=1e-9)
        if kind == "strap":
            strap = option.project.straps[0]
            concrete += strap.width * strap.depth * 4.5
        assert option.concrete == pytest.approx(concrete)
        assert option.cost > option.concrete * option.project.rates.concrete


@pytest.mark.long
def test_pads_are_the_least_where_the_ground_bears_much(two: tuple[Project, dict[str, Option]]) -> None:
    _, found = two
    assert min(found.values(), key=lambda o: o.cost).kind == "pads"
    assert found["raft"].settlement < found["pads"].settlement  # type: ignore[operator]


@pytest.mark.long
def test_what_is_not_possible_says_why() -> None:
    project = columns((0, 0, 400.0), (4.0, 0, 400.0), (0.0, 4.0, 400.0))
    heard: list[Option] = []
    found = {o.kind: o for o in options(project, ("C0", "C1", "C2"), told=heard.append, stop=lambda: len(heard) > 2)}
    assert found["strap"].project is None
    assert "two columns" in found["strap"].why_not
    assert not found["strap"].holds
    with pytest.raises(ValueError, match="mark columns"):
        options(project, ())
    joined = project.replaced(pads=(project.pads[0].replaced(further=("C1",), width=12.0), project.pads[1]))
    with pytest.raises(ValueError, match="C1 would lose its base"):
        options(joined, ("C0",))


@pytest.mark.long
def test_it_is_left_off_between_kinds() -> None:
    project = columns((0, 0, 500.0), (4.5, 0, 650.0))
    heard: list[Option] = []
    found = options(project, ("C0", "C1"), told=heard.append, stop=lambda: len(heard) >= 1)
    assert [o.kind for o in found] == ["pads"]


def test_the_footprint_is_that_within_the_columns() -> None:
    project = columns((0, 0, 1.0), (4.0, 0, 1.0), (0.0, 3.0, 1.0))
    # the hull of three squares of 0.4 m: the triangle, and 0.4 m around it on two sides and over its longest one
    corners = [(x + a, y + b) for x, y in ((0, 0), (4, 0), (0, 3)) for a in (-0.2, 0.2) for b in (-0.2, 0.2)]
    hull = 0.5 * 4 * 3 + 0.4 * 4 + 0.4 * 3 + 0.16
    assert len(corners) == 12
    assert footprint_of(project, ("C0", "C1", "C2")) == pytest.approx(hull)
    assert footprint_of(project, ("C0", "C1")) == 0.0
    assert footprint_of(project, ("C0",)) == 0.0
    assert np.isfinite(hull)
