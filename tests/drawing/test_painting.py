"""Drawings on pages: the same shapes fall at the same places whatever is painted on; SVG says what the drawing says."""

import math
from dataclasses import replace
from pathlib import Path
from xml.etree import ElementTree

import pytest

from korbent.core.evaluate import evaluate
from korbent.demo import lindmere
from korbent.drawing.painting import cut, fitted, paint
from korbent.drawing.plan import plan_drawing
from korbent.drawing.primitives import (
    LAYERS,
    Dimension,
    Disc,
    Drawing,
    Leader,
    Line,
    Point,
    Polygon,
    Sketch,
    Text,
    placed,
    rectangle,
)
from korbent.drawing.reinforcement import from_above
from korbent.drawing.section import section_drawing
from korbent.drawing.theme import PRINT
from korbent.files.pdf_page import TYPE, PdfPage, register_fonts, write_pdf
from korbent.files.svg_page import SvgPage, svg_text, write_svg

SVG = "{http://www.w3.org/2000/svg}"


class Told:
    """A page that keeps what it was told; letters are half as wide as high."""

    def __init__(self, px: float = 1.0) -> None:
        self.px = px
        self.done: list[tuple[object, ...]] = []

    def area(self, points: list[Point], fill: str, opacity: float) -> None:
        self.done.append(("area", tuple(points), fill, opacity))

    def pattern(self, points: list[Point], name: str) -> None:
        self.done.append(("pattern", name))

    def hatch(self, points: list[Point]) -> None:
        self.done.append(("hatch",))

    def line(self, points: list[Point], stroke: str, width: float, dash: bool = False, closed: bool = False) -> None:
        self.done.append(("line", tuple(points), stroke, width, dash, closed))

    def disc(self, at: Point, radius: float, fill: str | None, stroke: str | None, width: float) -> None:
        self.done.append(("disc", at, radius))

    def text(self, at: Point, text: str, size: float, colour: str, bold: bool, anchor: str) -> None:
        self.done.append(("text", at, text))

    def halo(self, at: Point, width: float, size: float, bold: bool) -> None:
        self.done.append(("halo", at, width))

    def width_of(self, text: str, size: float, bold: bool) -> float:
        return len(text) * size / 2 * self.px


def told(*shapes: object, px: float = 1.0, size: float = 100.0) -> list[tuple[object, ...]]:
    page = Told(px)
    drawing = Drawing(tuple(shapes), (0, 0, 10, 10))  # type: ignore[arg-type]
    paint(page, drawing.shapes, placed(drawing, size, size, (0, 0, 0, 0)))
    return page.done


def test_a_polygon_is_filled_patterned_hatched_and_framed_in_this_order() -> None:
    shape = Polygon(rectangle(1, 1, 3, 2), "sand", "ink", 2.0, pattern="sand", hatch=True, opacity=0.5)
    done = told(shape)
    assert [d[0] for d in done] == ["area", "pattern", "hatch", "line"]
    corners = ((10.0, 90.0), (30.0, 90.0), (30.0, 80.0), (10.0, 80.0))
    assert done[0][1] == corners
    assert done[0][3] == 0.5
    assert done[3] == ("line", corners, "ink", 2.0, False, True)


def test_the_head_of_an_arrow_lies_at_its_end_and_the_line_stops_at_its_foot() -> None:
    line, head = told(Line(((0, 0), (3, 4)), "accent", 2.0, arrow=True))
    assert head[0] == "area"
    tip, left, right = head[1]  # type: ignore[misc]
    assert tip == (30.0, 60.0)
    foot = ((left[0] + right[0]) / 2, (left[1] + right[1]) / 2)
    assert line[1][-1] == pytest.approx(foot)  # type: ignore[index]
    assert math.dist(tip, foot) == pytest.approx(4.5 + 2.2 * 2.0)
    # along the line
    assert (tip[0] - foot[0]) / (tip[1] - foot[1]) == pytest.approx(-3 / 4)


def test_marks_and_type_are_in_px_and_what_is_in_metres_goes_with_the_scale() -> None:
    shapes = (Disc((5, 5), 4, fixed=True), Disc((5, 5), 2), Text((5, 5), "abcd", 11, anchor="right", dx=6))
    for px, size in ((1.0, 100.0), (0.78, 200.0)):
        fixed, free, text = told(*shapes, px=px, size=size)
        assert fixed[2] == pytest.approx(4 * px)
        assert free[2] == pytest.approx(2 * size / 10)
        assert text[1] == pytest.approx((size / 2 + 6 * px - 4 * 12 / 2 * px, size / 2))


def test_a_text_without_room_is_cut_or_left_out() -> None:
    (done,) = told(Text((0, 0), "made ground, sandy", 11, room=5.0))
    assert done[2].endswith("…")  # type: ignore[attr-defined]
    assert len(done[2]) * 6 <= 50  # type: ignore[arg-type]
    assert told(Text((0, 0), "made ground", 11, room=1.0)) == []
    assert told(Text((0, 0), "clay", 11, room=5.0))[0][2] == "clay"


@pytest.mark.parametrize("room", [0.0, 1.0, 3.5, 7.0, 12.0, 100.0])
def test_what_is_cut_fits_and_no_letter_more_would(room: float) -> None:
    text = "silty clay, firm"
    found = cut(text, room, len)  # type: ignore[arg-type]
    if found == text:
        assert len(text) <= room
    else:
        assert found == "…" or len(found) <= room
        kept = len(found) - 1
        longer = text[: kept + 2].rstrip() + "…"
        assert len(longer) > room or len(longer) == len(found)


@pytest.mark.long
def test_svg_holds_the_shapes_of_the_plan_at_their_places() -> None:
    project = lindmere()
    drawing = plan_drawing(project, evaluate(project), selected="P8")
    root = ElementTree.fromstring(svg_text(drawing, 800, 500, "Plan & <columns>"))
    assert root.find(f"{SVG}title").text == "Plan & <columns>"  # type: ignore[union-attr]
    texts = [t.text for t in root.iter(f"{SVG}text")]
    # all but the lengths of dimensions that are shorter than what is written on them
    short = {s.text for s in drawing.shapes if isinstance(s, Dimension)}
    assert [t for t in drawing.texts if t not in short] == [t for t in texts if t not in short]
    filled = [s for s in drawing.shapes if isinstance(s, Polygon) and s.fill]
    areas = [p for p in root.findall(f"{SVG}polygon") if p.get("fill") != "none"]
    arrows = sum(isinstance(s, Line) and s.arrow for s in drawing.shapes)
    assert len(areas) == len(filled) + arrows
    place = fitted(SvgPage(800, 500), drawing, 800, 500)
    x, y = place(filled[0].points[0])
    assert areas[0].get("points", "").startswith(f"{x:.2f}".rstrip("0").rstrip("."))
    assert areas[0].get("fill") == PRINT.resolved(filled[0].fill or "")
    assert y > 0


def test_a_hostile_name_stays_a_text(tmp_path: Path) -> None:
    name = "</text><script>alert(1)</script>&#x41;"
    drawing = Drawing((Text((0, 0), name), Polygon(rectangle(0, 0, 1, 1), None, None, pattern="peat")), (0, 0, 1, 1))
    write_svg(drawing, tmp_path / "a.svg", 200, 100)
    root = ElementTree.fromstring((tmp_path / "a.svg").read_text())
    assert [t.text for t in root.iter(f"{SVG}text")] == [name]
    assert not list(root.iter(f"{SVG}script"))
    clip = root.find(f".//{SVG}clipPath")
    assert clip is not None
    assert root.find(f"{SVG}g").get("clip-path") == f"url(#{clip.get('id')})"  # type: ignore[union-attr]


def test_pdf_of_one_drawing_has_its_size(tmp_path: Path) -> None:
    drawing = Drawing((Text((0, 0), "Kies"), Disc((0, 0), 1.0)), (0, 0, 1, 1))
    write_pdf(drawing, tmp_path / "a.pdf", 400, 300)
    data = (tmp_path / "a.pdf").read_bytes()
    assert data.startswith(b"%PDF")
    assert f"{400 * TYPE:g} {300 * TYPE:g}".encode() in data
    register_fonts()
    assert PdfPage.px == TYPE


def test_what_is_written_around_a_drawing_finds_room() -> None:
    """Whatever stands beyond the bounds lies on the page, and no more room is taken than it needs."""
    name = "a name of some length"
    for anchor, at in (("left", (10, 5)), ("right", (0, 5)), ("middle", (5, 0)), ("middle", (5, 10))):
        label = Text(at, name, 11, anchor=anchor, dy=20 if at[1] == 0 else -20 if at[1] == 10 else 0)  # type: ignore[arg-type]
        page = Told(1.0)
        drawing = Drawing((label,), (0, 0, 10, 10))
        place = fitted(page, drawing, 600, 400)
        paint(page, drawing.shapes, place)
        (_, (x, y), _), width = page.done[0], len(name) * 6.0
        assert x >= -0.5
        assert x + width <= 600.5
        assert 8 <= y <= 400.5
        bare = fitted(page, Drawing((), (0, 0, 10, 10)), 600, 400)
        assert bare.scale == pytest.approx((400 - 2 * 12) / 10)
        assert place.scale <= bare.scale
    # one that would take more than its share of the page ends at the edge
    long = fitted(Told(1.0), Drawing((Text((10, 5), 20 * name),), (0, 0, 10, 10)), 600, 400)
    assert long.scale * 10 > 200


def test_a_dimension_measures_stands_clear_and_is_written_on_its_hand() -> None:
    across = Dimension((2, 2), (8, 2), "6.00", 1.0)
    assert across.length == 6.0
    done = told(across)
    lines = [d[1] for d in done if d[0] == "line"]
    # two lines to it, and itself 1 m below: on the right hand of its direction
    assert lines == [((20.0, 80.0), (20.0, 90.0)), ((80.0, 80.0), (80.0, 90.0)), ((20.0, 90.0), (80.0, 90.0))]
    assert [d[1] for d in done if d[0] == "disc"] == [(20.0, 90.0), (80.0, 90.0)]
    assert next(d for d in done if d[0] == "text")[1][1] > 90  # type: ignore[index]
    above = told(replace(across, left=True))
    assert next(d for d in above if d[0] == "text")[1][1] < 70  # type: ignore[index]
    upright = told(Dimension((2, 2), (2, 8), "6.00", 1.0, left=True))
    (x, _), width = next(d for d in upright if d[0] == "text")[1], 4 * 11 / 2  # type: ignore[misc]
    assert x + width < 10
    assert not [d for d in told(replace(across, away=0.0)) if d[0] == "line"][1:]


@pytest.mark.parametrize("angle", range(0, 360, 15))
def test_the_text_of_a_dimension_is_beside_its_line_however_it_runs(angle: int) -> None:
    turn = math.radians(angle)
    end = (5 + 4 * math.cos(turn), 5 + 4 * math.sin(turn))
    for left in (False, True):
        one = Dimension((5, 5), end, "4.00", left=left)
        done = told(one, size=1000.0)
        (a, b) = next(d[1] for d in done if d[0] == "line")
        (x, y), width = next(d[1] for d in done if d[0] == "text"), 4 * 11 / 2
        corners = [(x, y), (x + width, y), (x, y - 8), (x + width, y - 8)]
        hands = {((b[0] - a[0]) * (q - a[1]) - (b[1] - a[1]) * (p - a[0])) > 0 for p, q in corners}
        assert len(hands) == 1  # all of it on one hand
        assert hands == {not left}


def test_a_leader_runs_from_its_text_to_what_it_speaks_of() -> None:
    done = told(Leader((8, 8), (4, 4), "dowels"))
    assert next(d[1] for d in done if d[0] == "line") == ((80.0, 20.0), (40.0, 60.0))
    assert next(d[1] for d in done if d[0] == "disc") == (40.0, 60.0)
    assert next(d for d in done if d[0] == "text")[1][0] > 80  # type: ignore[index]


def test_what_is_drawn_of_a_plan_lies_on_named_layers() -> None:
    project = lindmere()
    results = evaluate(project)
    drawings = (
        plan_drawing(project, results, selected="P8"),
        section_drawing(project, project.pad("P8"), None),
        from_above(project, project.pad("P8"), results.pad("P8")),
    )
    for drawing in drawings:
        assert set(drawing.layers) <= set(LAYERS)
        assert {"foundations", "columns"} & set(drawing.layers)
    assert "dimensions" in drawings[0].layers
    sketch = Sketch()
    with sketch.on("bars"):
        sketch.add(Line(((0, 0), (1, 1))), Text((0, 0), "x", layer="texts"))
    sketch.add(Disc((0, 0), 1))
    assert [s.layer for s in sketch.shapes] == ["bars", "texts", ""]


def test_what_lies_beyond_sight_asks_for_no_room() -> None:
    near = Text((10, 5), "a name")
    far = tuple(Text((10 + 5 * k, 5), "a name that is much longer") for k in range(1, 40))
    alone, among = (fitted(Told(1.0), Drawing(shapes, (0, 0, 10, 10)), 600, 400) for shapes in ((near,), (near, *far)))
    assert among == alone
