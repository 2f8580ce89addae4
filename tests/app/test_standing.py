"""Pedestals and anchor bolts as they are typed into cells, in any units; bolts on the drawings."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError
from pytestqt.qtbot import QtBot

from korbent.app.specs.standing import anchors_of, anchors_text, pedestal_of, pedestal_text, pedestals_of
from korbent.core.model import Anchors, LoadPoint, Pedestal, edited
from korbent.core.model.sheets import SheetChoice
from korbent.core.units import Showing, UnitError, UnitSet
from korbent.demo import redstem
from korbent.drawing.primitives import Disc, Line, Text
from korbent.sheets.catalogue import set_named
from tests.app.test_window import opened, panel, type_into

UNITS: list[UnitSet] = ["metric", "us", Showing("us", (("m", "ft-in"),))]
BOLTS = Anchors(along_x=2, along_y=3, diameter=0.024, apart_x=0.2, apart_y=0.24, depth=0.6)


@pytest.mark.parametrize(
    ("text", "units", "wanted"),
    [
        (
            "0.6 x 0.7 to 3.2, 8 ø 16, ties 10 at 150",
            "metric",
            {
                "size_x": 0.6,
                "size_y": 0.7,
                "top": 3.2,
                "bars": 8,
                "diameter": 0.016,
                "around": "ties",
                "tie_diameter": 0.010,
                "tie_spacing": 0.15,
            },
        ),
        (
            "ø 0.6 to -1.2, 10 20, spiral 10 at 60, cover 50, concrete 35",
            "metric",
            {
                "shape": "circle",
                "size_x": 0.6,
                "size_y": 0.6,
                "top": -1.2,
                "bars": 10,
                "diameter": 0.020,
                "around": "spiral",
                "tie_spacing": 0.06,
                "cover": 0.05,
                "strength": 35.0,
            },
        ),
        ("600 mm x 60 cm to 3.2", "metric", {"size_x": 0.6, "size_y": 0.6}),
        (
            "2 x 2.5 to 10.5, 8 #5, ties #3 at 6, cover 2, concrete 4000",
            "us",
            {
                "size_x": 0.6096,
                "size_y": 0.762,
                "top": 3.2004,
                "bars": 8,
                "diameter": 5 * 0.0254 / 8,
                "tie_diameter": 3 * 0.0254 / 8,
                "tie_spacing": 0.1524,
                "cover": 0.0508,
                "strength": 27.579029,
            },
        ),
        ("2'-0\" x 2'-6\" to 10'-6\", 8 #5", "us", {"size_x": 0.6096, "size_y": 0.762, "top": 3.2004}),
    ],
)
def test_a_pedestal_as_it_is_typed(text: str, units: UnitSet, wanted: dict[str, object]) -> None:
    found = pedestal_of(text, units)
    for name, value in wanted.items():
        assert found[name] == (pytest.approx(value, rel=1e-6) if isinstance(value, float) else value), name
    Pedestal(**found)


@pytest.mark.parametrize("units", UNITS)
@given(
    st.integers(300, 1500),
    st.integers(300, 1500),
    st.integers(-5000, 5000),
    st.integers(4, 30),
    st.sampled_from([0.010, 0.016, 5 * 0.0254 / 8]),
    st.booleans(),
)
def test_a_pedestal_comes_back_as_it_was(
    units: UnitSet, x: int, y: int, top: int, bars: int, bar: float, round_: bool
) -> None:
    own = Pedestal(
        shape="circle" if round_ else "rectangle",
        size_x=x / 1000,
        size_y=(x if round_ else y) / 1000,
        top=top / 1000,
        bars=bars,
        diameter=bar,
        cover=0.05,
    )
    text = pedestal_text(own, units)
    assert text is not None
    again = Pedestal(**pedestal_of(text, units))
    for name in ("size_x", "size_y", "top", "tie_spacing", "cover"):
        assert getattr(again, name) == pytest.approx(getattr(own, name), abs=2e-5), name
    assert (again.shape, again.bars) == (own.shape, own.bars)
    assert again.diameter == pytest.approx(own.diameter, rel=6e-3)  # a metric bar in inches has three digits


@pytest.mark.parametrize("text", ["0.6", "big x 0.6 to 3", "0.6 x 0.6 to 3, many bars", "0.6 x 0.6 to"])
def test_what_is_no_pedestal_is_refused(text: str) -> None:
    with pytest.raises(UnitError):
        pedestal_of(text, "metric")
    with pytest.raises(UnitError, match="name the column"):
        pedestals_of(text, "metric")


@pytest.mark.parametrize("units", UNITS)
def test_bolts_come_back_as_they_were(units: UnitSet) -> None:
    text = anchors_text(BOLTS, units)
    assert text is not None
    again = Anchors(**anchors_of(text, units))
    for name in ("diameter", "apart_x", "apart_y", "depth"):
        assert getattr(again, name) == pytest.approx(getattr(BOLTS, name), abs=1e-5)
    assert (again.along_x, again.along_y) == (2, 3)
    assert anchors_of("2 x 2 M24 at 240 x 240, 600 deep", "metric")["diameter"] == pytest.approx(0.024)
    assert anchors_of("2 x 2 3/4 in at 9 x 9, 18 deep", "us")["diameter"] == pytest.approx(0.75 * 0.0254)
    with pytest.raises(UnitError, match="type how many along x and y"):
        anchors_of("four bolts", units)


def test_they_stand_around_none_in_the_middle() -> None:
    assert len(BOLTS.places()) == 6
    assert len(BOLTS.replaced(along_x=4, along_y=4).places()) == 12
    assert BOLTS.replaced(along_x=1, along_y=2).places() == ((0.0, -0.12), (0.0, 0.12))


def test_they_need_a_plate_that_is_large_enough() -> None:
    point = LoadPoint(name="S", kind="steel_column", x=0, y=0, size_x=0.2, size_y=0.2, level=0.0)
    with pytest.raises(ValidationError, match="give its sizes first"):
        point.replaced(anchors=BOLTS)
    with pytest.raises(ValidationError, match="reach over the base plate"):
        point.replaced(plate_x=0.2, plate_y=0.3, anchors=BOLTS)
    assert point.replaced(plate_x=0.3, plate_y=0.3, anchors=BOLTS).anchors == BOLTS


@pytest.mark.long
def test_bolts_typed_in_the_table_stand_on_the_detail(qtbot: QtBot) -> None:
    from korbent.sheets.drawings import drawings

    project = redstem()
    bare = tuple(p.replaced(anchors=None) for p in project.actions.load_points)
    window = opened(qtbot, edited(project, ("actions", "load_points"), bare))
    points = panel(window, "points")
    type_into(qtbot, points, 0, "Anchors", "2 x 2 ø 1 at 8 x 10, 20 deep")
    point = window.session.project.actions.load_points[0]
    assert point.anchors is not None
    assert point.anchors.depth == pytest.approx(20 * 0.0254)
    type_into(qtbot, points, 0, "Anchors", "2 x 2 ø 1 at 80 x 10, 20 deep")
    assert "reach over the base plate" in window.message.text()
    project = window.session.project
    made = drawings(project, set_named(project, ""), [SheetChoice(key="details")])
    shapes = [s for sheet in made for view in sheet.views for s in view.drawing.shapes]
    assert len([s for s in shapes if isinstance(s, Disc) and s.key == "anchor"]) in (4, 8)
    assert len([s for s in shapes if isinstance(s, Line) and s.key == "anchor"]) >= 4
    assert any('4 anchors ø1" at 8" × 10", 1\'-8" deep' in getattr(s, "text", "") for s in shapes)
    assert not [s for s in shapes if isinstance(s, Text) and "nan" in s.text]
