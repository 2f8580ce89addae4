"""Drawings are values: what must be seen is in them."""

from itertools import pairwise

import numpy as np
import pytest

from korbent.core.concrete.schedule import positions as bar_positions
from korbent.core.evaluate import evaluate
from korbent.core.explain.state import base_state
from korbent.core.model import Bars, Load, Project, edited
from korbent.demo import lindmere
from korbent.drawing.bar_section import bar_section
from korbent.drawing.logs import logs_drawing
from korbent.drawing.patterns import strokes
from korbent.drawing.plan import middle, outline, plan_drawing
from korbent.drawing.pressure import band_polygon, pressure_drawing
from korbent.drawing.primitives import Drawing, Line, Placement, Polygon, Text, placed, rectangle
from korbent.drawing.reinforcement import from_above, steel_demand
from korbent.drawing.resultant import resultant_drawing
from korbent.drawing.section import section_drawing
from korbent.drawing.theme import DARK, LIGHT, TOKENS
from korbent.verification.pad import one_pad


def texts(drawing: Drawing) -> str:
    return "\n".join(drawing.texts)


def test_plan_shows_pads_and_what_is_not_designed(demo: Project) -> None:
    drawing = plan_drawing(demo, evaluate(demo), "P7")
    keys = {s.key for s in drawing.shapes if isinstance(s, Polygon)}
    keys = {key.removeprefix("drag:") for key in keys}
    assert {f"pad:{p.name}" for p in demo.pads} <= keys
    assert "B2" in texts(drawing)
    failing = [s for s in drawing.shapes if isinstance(s, Polygon) and s.hatch]
    assert {s.key.removeprefix("drag:") for s in failing} == {
        f"pad:{p.name}" for p in evaluate(demo).pads if (p.worst.ratio or 0) > 1
    }


def test_a_turned_pad_keeps_its_column_inside(demo: Project) -> None:
    pad = one_pad(rotation=30.0, offset_x=0.4, offset_y=-0.3).pads[0]
    point = one_pad().load_point("C")
    corners = np.array(outline(pad, point))
    assert np.allclose(np.linalg.norm(corners[1] - corners[0]), pad.width)
    assert np.allclose(corners.mean(axis=0), middle(pad, point))
    assert np.allclose(np.hypot(*(corners.mean(axis=0) - (point.x, point.y))), 0.5)


def test_section_shows_strata_water_levels_loads(demo: Project) -> None:
    check = evaluate(demo).pad("P7").check("presumed-pressure")
    state = base_state(demo, demo.pad("P7"), check.question, check.situation)
    text = texts(section_drawing(demo, demo.pad("P7"), state))
    for part in (
        "Silty sand",
        "normal water +1.60",
        "+2.00",
        "finished ground +3.30",
        "kPa",
        "kN",
        "underside held",
    ):
        assert part in text
    assert "no borehole" in texts(
        section_drawing(edited(one_pad(), ("ground", "boreholes"), ()), one_pad().pads[0], None)
    )


def test_section_of_an_unstable_pad_says_so() -> None:
    project = one_pad(load=Load(V=40.0, My=300.0))
    state = base_state(project, project.pads[0], "allowable", 0)
    assert "unstable" in texts(section_drawing(project, project.pads[0], state))
    assert state is not None
    assert not state.stable


def test_pressure_plan_covers_the_contact_area() -> None:
    project = one_pad(load=Load(V=500.0, My=300.0, Mx=90.0))
    pad = project.pads[0]
    state = base_state(project, pad, "allowable", 0)
    assert state is not None
    assert state.share < 1
    corners = rectangle(-pad.width / 2, -pad.length / 2, pad.width / 2, pad.length / 2)
    x, y = np.array(band_polygon(corners, state.plane, 0.0, 1e9)).T
    area = abs(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y)) / 2
    assert area == pytest.approx(state.share * pad.width * pad.length)
    assert "contact ends" in texts(pressure_drawing(project, pad, state))


def test_bands_fill_the_base_once() -> None:
    corners = rectangle(-1, -1, 1, 1)
    plane = (100.0, 30.0, -20.0)
    edges = np.linspace(50.0, 150.0, 8)
    total = 0.0
    for low, high in pairwise(edges):
        points = np.array(band_polygon(corners, plane, low, high))
        x, y = points.T
        total += abs(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y)) / 2
    assert total == pytest.approx(4.0)


@pytest.mark.parametrize(("size", "spacing"), [(2.0, 0.15), (0.3, 0.4), (1.73, 0.2), (0.1, 0.1)])
def test_bars_keep_cover_and_spacing(size: float, spacing: float) -> None:
    bars = Bars(diameter=0.016, spacing=spacing)
    positions = bar_positions(size, 0.05, bars)
    assert len(positions) >= 1
    if len(positions) > 1:
        assert np.diff(positions).max() <= spacing + 1e-9
        assert max(positions) <= size / 2 - 0.05 - 0.008 + 1e-9


def test_concrete_drawings(demo: Project) -> None:
    result = evaluate(demo).pad("P7")
    above = texts(from_above(demo, demo.pad("P7"), result, "shear-x"))
    assert "punching at" in above
    assert "15 ø16 at 175" in above
    assert "cover 50" in texts(bar_section(demo, demo.pad("P7")))
    steel = texts(steel_demand(demo, result))
    assert "least" in steel
    assert "no situation puts the top in tension" in steel
    topped = edited(demo, ("pads", "P7", "reinforcement", "top_x"), {"diameter": 0.012, "spacing": 0.2})
    bar_section(topped, topped.pad("P7"))


def test_logs(demo: Project) -> None:
    text = texts(logs_drawing(demo))
    for part in ("BH1", "BH2", "BH3", "Silty clay", "high +2.40", "finished +3.30"):
        assert part in text
    assert "no borehole yet" in texts(logs_drawing(Project()))


def test_us_units_reach_the_drawings(demo: Project) -> None:
    us = edited(demo, ("units",), "us")
    check = evaluate(us).pad("P7").check("presumed-pressure")
    text = texts(section_drawing(us, us.pad("P7"), base_state(us, us.pad("P7"), check.question, check.situation)))
    assert "ksf" in text
    assert "kip" in text
    assert "ft" in text


def test_placement_goes_there_and_back(demo: Project) -> None:
    place = placed(plan_drawing(demo, evaluate(demo)), 640, 400)
    assert isinstance(place, Placement)
    assert place.back(*place((3.0, 4.0))) == pytest.approx((3.0, 4.0))


@pytest.mark.parametrize("pattern", ["made_ground", "topsoil", "clay", "silt", "sand", "gravel", "peat", "rock"])
def test_patterns_are_steady(pattern: str) -> None:
    assert len(strokes(pattern, 120, 60)) > 5
    strokes.cache_clear()
    first = strokes(pattern, 120, 60)
    strokes.cache_clear()
    assert first == strokes(pattern, 120, 60)


def test_beyond_one_has_another_hue_in_both_themes() -> None:
    for theme in (LIGHT, DARK):
        assert theme.ratio(1.0) == theme.ratio_4
        assert theme.ratio(1.01) == theme.beyond
        assert all(theme.colour(t) for t in TOKENS)


def test_the_uniform_model_is_drawn_about_the_resultant(demo: Project) -> None:
    pad = demo.pad("P8")
    state = base_state(demo, pad, "ultimate", 3)
    assert state is not None
    drawing = pressure_drawing(demo, pad, state, uniform=True)
    area = next(s for s in drawing.shapes if isinstance(s, Polygon) and s.fill == "field:0.7")
    xs, ys = zip(*area.points)
    assert sum(xs) / 4 == pytest.approx(state.e_x)
    assert max(xs) - min(xs) == pytest.approx(pad.width - 2 * abs(state.e_x))
    value = state.N / ((max(xs) - min(xs)) * (max(ys) - min(ys)))
    assert any(text.startswith(f"N/A′ {value:.0f}") for text in drawing.texts)


def test_the_forces_of_several_columns_stand_where_they_act() -> None:
    project = lindmere()
    raft = project.pad("R1")
    state = base_state(project, raft, "allowable", 0)
    assert state is not None
    assert len(state.standing) == 4
    assert sum(one.V for one in state.standing) == pytest.approx(state.column)
    assert sum(one.V * one.x for one in state.standing) / sum(one.V for one in state.standing) == pytest.approx(
        np.mean([one.x for one in state.standing]), abs=0.2
    )
    drawing = resultant_drawing(project, raft, state)
    arrows = [s for s in drawing.shapes if isinstance(s, Line) and s.arrow and s.stroke == "ink"]
    down = [s for s in arrows if s.points[0][0] == s.points[1][0]]
    assert len(down) == 4  # two places along each axis
    written = sum(float(s.text.split()[1]) for s in drawing.shapes if isinstance(s, Text) and s.text.startswith("V "))
    assert written == pytest.approx(2 * sum(one.V for one in state.standing), abs=4.0)
    one = project.pad("P1")
    alone = base_state(project, one, "allowable", 0)
    assert alone is not None
    assert pytest.approx(alone.column) == alone.standing[0].V
    assert (alone.standing[0].x, alone.standing[0].y) == (one.offset_x, one.offset_y)
