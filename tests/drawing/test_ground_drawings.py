"""Drawings of the ground, of steps, sizes and methods: what must be on them, in every state."""

import math

import numpy as np
import pytest

from korbent.core.bearing.layers.adopted import MECHANISMS
from korbent.core.bearing.layers.means import failure_depth
from korbent.core.bearing.mechanism import Mechanism, mechanism_of
from korbent.core.bearing.safety import Comparison, compare
from korbent.core.evaluate import evaluate
from korbent.core.model import AreaLoad, Project, edited
from korbent.core.sizing.size_map import size_map
from korbent.drawing.ground_section import ground_section, holes_plan, usual_line
from korbent.drawing.logs import AT_ONCE, logs_drawing
from korbent.drawing.mechanism import draw_mechanism, failure_surface
from korbent.drawing.methods import methods_chart
from korbent.drawing.plan import area_outlines
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Sketch, Text
from korbent.drawing.size_map import size_map_drawing
from korbent.drawing.timeline import timeline


def texts(drawing: Drawing) -> list[str]:
    return list(drawing.texts)


def test_the_log_names_soils_tests_levels_and_water(demo: Project) -> None:
    found = texts(logs_drawing(demo))
    for wanted in (
        "BH1",
        "Silty clay",
        "firm, slightly overconsolidated",
        "N 9",
        "high +2.40",
        "low +0.70",
        "excavated +2.00",
    ):
        assert wanted in found
    american = texts(logs_drawing(demo.replaced(units="us")))
    assert any(t.startswith("high +7.87") for t in american)
    keys = [s.key for s in logs_drawing(demo).shapes if isinstance(s, Line) and s.key]
    assert keys.count("drag:bound:BH2:0") == 1
    rings = [s for s in logs_drawing(demo).shapes if isinstance(s, Disc) and s.key.startswith("oedometer:")]
    assert len(rings) == 3


def test_many_logs_go_on_to_the_right(demo: Project) -> None:
    hole = demo.ground.boreholes[0]
    many = demo.ground.replaced(boreholes=tuple(hole.replaced(name=f"B{i}", x=float(i)) for i in range(30)))
    drawing = logs_drawing(demo.replaced(ground=many))
    assert any("30 boreholes" in t for t in texts(drawing))
    right = max(x for s in drawing.shapes if isinstance(s, Polygon) for x, _ in s.points)
    assert right > 30 / AT_ONCE * drawing.bounds[2] * 0.9


def test_a_section_too_short_or_without_holes_says_so(demo: Project) -> None:
    assert texts(ground_section(demo, ((0.0, 0.0), (0.0, 0.01)))) == ["the line is too short: draw it again"]
    assert texts(ground_section(Project(), usual_line(Project()))) == ["no borehole yet"]
    ends = [s.key for s in holes_plan(demo, usual_line(demo)).shapes if isinstance(s, Disc) and s.key]
    assert ends == ["drag:end:0", "drag:end:1"]


def test_the_timeline_shows_what_acts(demo: Project) -> None:
    found = texts(timeline(demo))
    assert {"Ramp", "G", "Q", "Ramp filled", "In use", "2027-11-01"} <= set(found)
    assert "W+x" not in found
    assert "no construction step yet" in texts(timeline(Project()))[0]


@pytest.mark.parametrize("shape", ["rectangle", "circle", "embankment", "polygon"])
def test_outlines_of_area_loads(shape: str) -> None:
    area = AreaLoad(
        name="a",
        shape=shape,
        x=2.0,
        y=1.0,
        size_x=4.0,
        size_y=6.0,
        rotation=30.0,
        height=2.0,
        slope=1.5,
        outline=((0, 0), (4, 0), (4, 6), (0, 6)),
    )  # type: ignore[arg-type]

    def size(corners: tuple[tuple[float, float], ...]) -> float:
        return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(corners, (*corners[1:], corners[0])))) / 2

    foot, crest = area_outlines(area)
    expected = {"rectangle": 24.0, "circle": 4 * math.pi, "embankment": 24.0, "polygon": 24.0}[shape]
    assert size(crest) == pytest.approx(expected, rel=4e-3)
    assert size(foot) == pytest.approx(10.0 * 12.0 if shape == "embankment" else expected, rel=4e-3)


def test_the_methods_chart_in_every_state(demo: Project) -> None:
    found = compare(demo, demo.pad("P8"), "drained")
    drawing = methods_chart(found, "Meyerhof 1963", "metric", 2.0)
    filled = [s.key for s in drawing.shapes if isinstance(s, Polygon) and s.fill == "accent"]
    assert filled == ["method:Meyerhof 1963", "method:punching"]
    assert any(t.startswith("N/A′") for t in texts(drawing))
    assert texts(methods_chart(Comparison("drained", why="no sand here"), "", "metric", 2.0)) == ["no sand here"]


@pytest.mark.long
def test_the_size_map_marks_border_now_and_smallest(demo: Project) -> None:
    found = size_map(demo, demo.pad("P8"), every=2)
    drawing = size_map_drawing(found, "", 2.0)
    assert {"now", "smallest"} <= set(texts(drawing))
    cells = [s for s in drawing.shapes if isinstance(s, Polygon) and s.key]
    assert len(cells) == found.ratio.size
    assert sum(c.hatch for c in cells) == int((found.ratio > 1.0 + 1e-9).sum())
    strict = edited(demo, ("settings", "frost_depth"), 9.0)
    nothing = size_map_drawing(size_map(strict, strict.pad("P8"), every=6), "", 2.0)
    assert "nothing on the map holds" in texts(nothing)
    american = size_map(demo.replaced(units="us"), demo.pad("P8"), every=4)
    assert any(t.endswith("yd³") for t in texts(size_map_drawing(american, "a first look", 2.0)))


@pytest.mark.parametrize("phi", [0.0, 20.0, 38.0])
def test_the_failure_surface_has_the_true_angles(phi: float) -> None:
    """Wedge at 45 + phi/2, exit at 45 - phi/2, greatest depth as computed; the other side is its mirror."""
    f = math.radians(phi)
    points = failure_surface(1.0, -1.0, -2.0, f, 2000)
    apex, last, exit_ = points[1], points[-2], points[-1]
    assert math.degrees(math.atan2(-2.0 - apex[1], apex[0] + 1.0)) == pytest.approx(45 + phi / 2)
    assert math.degrees(math.atan2(exit_[1] - last[1], exit_[0] - last[0])) == pytest.approx(45 - phi / 2)
    depth = float(failure_depth(np.array(2.0), np.array(f)))
    assert -2.0 - min(y for _, y in points) == pytest.approx(depth, rel=1e-5)
    mirrored = failure_surface(-1.0, 1.0, -2.0, f, 2000)
    assert np.array(mirrored) * (-1, 1) == pytest.approx(np.array(points))


@pytest.mark.parametrize("code", range(len(MECHANISMS)))
def test_every_mechanism_is_drawn_below_the_base(code: int) -> None:
    sketch = Sketch()
    shown = Mechanism(code, -0.9, 1.1, 0.6, 1.2, "Clay", 0.0, 0.5, 0.1)
    draw_mechanism(sketch, shown, -1.0, (-20.0, 20.0))
    marked = [s for s in sketch.shapes if getattr(s, "key", "") == "mechanism"]
    assert marked
    assert max(y for s in marked for _, y in s.points) == pytest.approx(-1.0, abs=1.3)
    assert any(isinstance(s, Text) and s.text == MECHANISMS[code] for s in sketch.shapes)


def test_a_selected_resistance_brings_its_mechanism(demo: Project) -> None:
    pad = demo.pad("P10")
    result = evaluate(demo).pad("P10")
    found = mechanism_of(demo, pad, result.check("resistance-drained"))
    assert found is not None
    assert (MECHANISMS[found.code], found.below) == ("punching", "Silty clay")
    assert found.right - found.left < pad.width
    assert mechanism_of(demo, pad, result.check("eccentricity")) is None
