"""Settlement of a raft against its load: its own check, the straight line of springs, what the ground bears, the
mirror, the strata."""

import numpy as np
import pytest

from korbent.core.explain.raft_curve import RaftCurve, raft_curve
from korbent.core.model import Project
from korbent.core.model.plate import Region
from korbent.core.units import Showing
from korbent.drawing.primitives import Line
from korbent.drawing.raft_curve import raft_curve_drawing, share_at
from tests.core.test_rafts import plate_of, raft

METRIC = Showing(system="metric")


def curve(project: Project) -> RaftCurve:
    found = raft_curve(project, project.pads[0])
    assert isinstance(found, RaftCurve)
    return found


def nodes_at(project: Project, found: RaftCurve) -> np.ndarray:
    """What the raft's own check has at the places of the curve, m; of the node that lies there, or nan."""
    solved = plate_of(project, "settlement_long")
    x, y = solved.mesh.nodes
    apart = np.hypot(x[:, None] - [p[1] for p in found.places], y[:, None] - [p[2] for p in found.places])
    there = np.where(apart.min(axis=0) < 1e-9, apart.argmin(axis=0), -1)
    return np.where(there >= 0, solved.solution.settlement[there, 0], np.nan)


def test_on_springs_it_is_straight_and_under_the_whole_load_that_of_the_check() -> None:
    project = raft()
    found = curve(project)
    assert found.ended == ""
    assert found.shares[[0, -1]] == pytest.approx([0.0, 2.0])
    end = found.settlement[:, -1:]
    assert found.settlement == pytest.approx(end * found.shares / 2.0, rel=1e-9)
    own = nodes_at(project, found)
    corners = [n.startswith("corner") for n, _, _ in found.places]
    assert not np.isnan(own[corners]).any()
    known = ~np.isnan(own)
    assert found.settlement[known, 10] == pytest.approx(own[known], rel=1e-9)


def test_all_that_presses_is_the_load() -> None:
    """Springs of one stiffness: the mean settlement under a rigid raft is the load over k and area."""
    found = curve(raft(thickness=5.0, k=2e4))
    assert found.settlement[0, 10] == pytest.approx(found.load / (2e4 * 9.2 * 4.8), rel=0.01)
    # a plane through all nine
    s = dict(zip((n for n, _, _ in found.places), found.settlement[:, 10]))
    assert s["corner −x −y"] + s["corner +x +y"] == pytest.approx(2 * s["middle"], rel=0.02)


def test_a_greatest_pressure_bends_it_and_ends_it() -> None:
    project = raft(greatest=90.0)
    free, held = curve(raft()), curve(project)
    count = len(held.shares)
    assert 2 < count < len(free.shares)
    assert "at 100% of the load" in held.ended
    assert held.settlement[:, :5] == pytest.approx(free.settlement[:, :5], rel=1e-6)
    # where the ground gives way it goes down more, and by more with each step
    worst = int(held.settlement[:, -1].argmax())
    assert held.settlement[worst, -1] > 1.2 * free.settlement[worst, count - 1]
    assert np.all(np.diff(held.settlement[worst], 2) > -1e-9)
    # no share that is asked for could have been held beyond: the load is then more than the ground bears in all
    assert held.load * 1.0 > 90.0 * 9.2 * 4.8 > held.load * held.shares[-1]


def test_in_a_mirror_left_is_right() -> None:
    project = raft()
    a = project.actions
    points = tuple(
        p.replaced(x=-p.x, loads={c: q.replaced(My=-q.My, Hx=-q.Hx) for c, q in p.loads.items()}) for p in a.load_points
    )
    pad = project.pads[0]
    mirrored = project.replaced(
        actions=a.replaced(load_points=points),
        pads=(pad.replaced(offset_x=-pad.offset_x),),
    )
    there, here = curve(mirrored), curve(project)

    def by_name(found: RaftCurve) -> dict[str, float]:
        return {n: float(s[-1]) for (n, _, _), s in zip(found.places, found.settlement)}

    swapped = str.maketrans({"−": "+", "+": "−"})
    other = by_name(there)
    for name, value in by_name(here).items():
        first, _, last = name.partition("x")
        named = first.translate(swapped) + "x" + last if "x" in name else name
        assert other[named] == pytest.approx(value, rel=1e-6)


def test_what_lies_in_an_opening_is_not_named() -> None:
    hole = Region(x_from=-0.5, x_to=0.5, y_from=-0.5, y_to=0.5)
    found = curve(raft(openings=(hole,)))
    assert np.isnan(found.settlement[0]).all()
    assert not np.isnan(found.settlement[1:]).any()
    drawing = raft_curve_drawing(found, METRIC, 1.0)
    assert not any("middle" in text for text in drawing.texts)
    beside = Region(x_from=0.0, x_to=1.0, y_from=-0.5, y_to=0.5)  # the middle lies on its edge: there is concrete
    assert not np.isnan(curve(raft(openings=(beside,))).settlement).any()


@pytest.mark.long
def test_on_the_strata_each_load_has_its_own_stiffness() -> None:
    project = raft(k=None, ground="layers")
    found = curve(project)
    whole = int(np.abs(found.shares - 1).argmin())
    own = nodes_at(project, found)
    known = ~np.isnan(own)
    assert known.sum() >= 4
    assert found.settlement[known, whole] == pytest.approx(own[known], rel=1e-6)
    # below what was dug out the ground is stiff: the settlement grows by more than the load
    assert found.settlement[1, whole] > 1.5 * found.settlement[1, 1] * found.shares[whole] / found.shares[1]


def test_what_cannot_be_is_said() -> None:
    project = raft()
    bare = project.replaced(
        actions=project.actions.replaced(
            combinations=tuple(c.replaced(serves=("concrete",)) for c in project.actions.combinations)
        )
    )
    assert "settlement" in str(raft_curve(bare, bare.pads[0]))
    light = raft(greatest=2.0)
    assert "at 10% of the load the greatest pressure is too little" in str(raft_curve(light, light.pads[0]))


def test_the_drawing_names_all_lines_and_tells_the_load_at_a_place() -> None:
    found = curve(raft(greatest=90.0))
    drawing = raft_curve_drawing(found, METRIC, 0.8)
    texts = "\n".join(drawing.texts)
    assert all(name in texts for name, _, _ in found.places)
    assert "combination 1 × 0.9" in texts
    assert "settlement, mm" in texts
    assert "load, kN" in texts
    deepest = 1000 * found.settlement[:, -1].max()
    assert f"{deepest:.2f}"[:3] in texts
    lines = [s for s in drawing.shapes if isinstance(s, Line) and len(s.points) == len(found.shares)]
    assert len(lines) == 9
    assert share_at(found, lines[0].points[-1][0]) == pytest.approx(found.shares[-1])
    assert share_at(found, lines[0].points[3][0]) == pytest.approx(0.3)
    assert share_at(found, 9.9) is None
    us = "\n".join(raft_curve_drawing(found, Showing(system="us"), 0.8).texts)
    assert "settlement, in" in us
    assert "load, kip" in us
    assert "cannot" in raft_curve_drawing("it cannot be", METRIC, 1.0).texts[0]
