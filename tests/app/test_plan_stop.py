"""The plan at work: pads placed, edges held at the boundary, drawings below, sizes proposed, types chosen."""

from pathlib import Path

import ezdxf
import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QPushButton
from pytestqt.qtbot import QtBot

from korbent.app import specs
from korbent.app.session import Session
from korbent.app.size_panel import SizePanel
from korbent.app.stops.plan import PlanStop
from korbent.app.tables import TableModel
from korbent.app.window import MainWindow
from korbent.core.evaluate import evaluate
from korbent.core.explain.state import base_state
from korbent.core.model import Project
from korbent.core.model.site import Outline, Range
from korbent.core.plan.move import moved, nudged
from korbent.drawing.plan import plan_drawing
from korbent.drawing.pressure import pressure_drawing
from korbent.drawing.primitives import Line, Polygon, Text
from korbent.drawing.theme import LIGHT
from korbent.files.underlay import UnderlayError, read_underlay, with_columns, with_underlay
from tests.app.test_window import opened

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = MainWindow(Session(demo))
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.resize(1280, 800)
    made.show()
    made.go_to(2)
    QApplication.processEvents()
    return made


def stop(window: MainWindow) -> PlanStop:
    found = window.stops[2]
    assert isinstance(found, PlanStop)
    return found


def press(qtbot: QtBot, window: MainWindow, name: str) -> None:
    qtbot.mouseClick(window.findChild(QPushButton, name), LEFT)


def chosen(window: MainWindow, name: str) -> None:
    """An entry of the menu of the selected base."""
    menu = window.findChild(QPushButton, "selected-base").menu()
    next(a for a in menu.actions() if a.objectName() == name).trigger()


def words(window: MainWindow) -> list[str]:
    s = window.session
    return [x.text for x in plan_drawing(s.project, s.results, s.selected).shapes if isinstance(x, Text)]


@pytest.mark.long
def test_pads_under_marked_columns_then_under_all(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    stop(window).plan.clicked.emit("point:B2")
    stop(window).plan.clicked.emit("point:C3")
    assert "marked: B2, C3" in session.message
    press(qtbot, window, "place-pads")
    assert [p.load_point for p in session.project.pads[-2:]] == ["B2", "C3"]
    assert stop(window).marked == ()
    press(qtbot, window, "place-pads")
    assert session.results.undesigned == ()
    press(qtbot, window, "place-pads")
    assert "every column has a foundation" in session.message
    session.undo()
    session.undo()
    assert len(session.project.pads) == 14


def test_an_edge_is_brought_to_the_boundary(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P5")
    session.edit(("pads", "P5", "offset_x"), 0.0)
    assert not session.results.pad("P5").check("site").state.is_good
    chosen(window, "pin-boundary")
    pad = session.project.pad("P5")
    assert (pad.hold_x, pad.offset_x) == ("+x", pytest.approx(0.20))
    assert "+x edge is held 0.05 m from the boundary" in session.message
    assert session.results.pad("P5").check("site").state.is_good
    session.apply(session.project.replaced(site=()))
    chosen(window, "pin-boundary")
    assert "no boundary is drawn" in session.message


def test_the_strip_switches_the_edge_and_widens_from_it(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P7")
    stepper, outline = window.sizes.steppers["width"], window.sizes.outline
    left = outline.edges()["-x"][0].toPoint() + QPoint(0, 8)
    qtbot.mouseClick(outline, LEFT, pos=left)
    assert session.project.pad("P7").hold_x == "-x"
    assert outline.held() == ("-x",)
    assert stepper.moves.text().startswith("▸")
    qtbot.mouseClick(stepper.more, LEFT)
    assert session.project.pad("P7").offset_x == pytest.approx(-0.05)
    qtbot.keyClick(outline, Qt.Key.Key_Right)
    assert session.project.pad("P7").hold_x == "+x"
    qtbot.keyClick(outline, Qt.Key.Key_Right)
    assert session.project.pad("P7").hold_x == "middle"
    qtbot.keyClick(outline, Qt.Key.Key_Up)
    assert outline.held() == ("+y",)


@pytest.mark.long
def test_several_bases_are_edited_together(window: MainWindow, qtbot: QtBot) -> None:
    session, plan = window.session, stop(window).plan
    window.go_to(2)
    session.select("P1")
    plan.grab()

    def shift_click(name: str) -> None:
        pad = session.project.pad(name)
        point = session.project.load_point(pad.load_point)
        at = plan.placement()((point.x + 0.3 * pad.width, point.y + 0.3 * pad.length))
        qtbot.mouseClick(plan, LEFT, Qt.KeyboardModifier.ShiftModifier, QPoint(*(round(v) for v in at)))

    for name in ("P2", "P6"):
        shift_click(name)
    assert session.chosen == ("P1", "P2", "P6")
    assert "Sizes of 3" in window.sizes.heading.text()
    before = {n: session.project.pad(n).width for n in session.chosen}
    qtbot.mouseClick(window.sizes.steppers["width"].more, LEFT)  # each by a step
    assert {n: session.project.pad(n).width for n in before} == pytest.approx({n: w + 0.1 for n, w in before.items()})
    field = window.sizes.steppers["thickness"].field
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, "0.6")
    qtbot.keyClick(field, Qt.Key.Key_Return)  # what is typed is that of all
    assert {session.project.pad(n).thickness for n in before} == {0.6}
    session.undo()
    session.undo()  # one step each
    assert {n: session.project.pad(n).width for n in before} == before
    # one that is poured: none is changed
    session.edit(("pads", "P6", "frozen"), "poured")
    now = session.project
    qtbot.mouseClick(window.sizes.steppers["width"].more, LEFT)
    assert session.project == now
    assert "P6" in session.message
    shift_click("P6")
    assert session.chosen == ("P1", "P2")
    session.select("P3")
    assert session.chosen == ("P3",)


def test_what_helps_is_said(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P8")
    qtbot.waitUntil(lambda: "what helps most: Length L +" in window.sizes.detail.text())


def test_a_poured_base_keeps_its_size(window: MainWindow) -> None:
    session = window.session
    session.select("P3")
    assert session.edit(("pads", "P3", "frozen"), "poured") == ""
    assert "is poured: its size stays" in session.edit(("pads", "P3", "width"), 3.0)
    assert session.project.pad("P3").width == 2.2
    assert not window.sizes.steppers["width"].isEnabled()
    assert "poured" in words(window)
    assert session.edit(("pads", "P3", "frozen"), "") == ""
    assert session.edit(("pads", "P3", "width"), 2.3) == ""


def test_ranges_are_typed_in_their_table(demo: Project) -> None:
    session = Session(demo)
    session.select("P1")
    table = TableModel(session, specs.RANGES, LIGHT)
    titles = [c.title for c in table.columns]
    assert table.setData(table.index(0, titles.index("At least")), "1.8")
    table.refresh()
    assert session.project.pad("P1").ranges["width"] == Range(low=1.8)
    assert not table.setData(table.index(0, titles.index("At most")), "1.5")
    assert session.project.pad("P1").ranges["width"] == Range(low=1.8)
    table.refresh()
    assert table.text(0, titles.index("Proposals look at")).startswith("1.8")
    assert table.text(3, titles.index("Proposals look at")) == "as it is"


@pytest.mark.long
def test_sizes_are_proposed_taken_and_taken_back(window: MainWindow, qtbot: QtBot) -> None:
    session, panel = window.session, stop(window).proposal
    before = session.project
    press(qtbot, window, "propose")
    qtbot.waitUntil(lambda: panel._job is None, timeout=60_000)
    assert panel.list.rowCount() == 4
    texts = [panel.list.item(0, c).text() for c in range(4)]
    assert texts[0] == f"T1 ({sum(p.type == 'T1' for p in before.pads)})"
    assert texts[1] == "1.70×1.70×0.40"
    assert texts[2] != texts[1]
    assert not panel.take_one.isEnabled()  # no row is chosen
    panel.list.selectRow(0)
    assert "not less: B" in panel.why.text()
    assert session.pad.type == "T1"  # type: ignore[union-attr]
    # one of them is taken; the others can still be
    press(qtbot, window, "take-proposal")
    assert panel.list.rowCount() == 3
    assert {p.name for p, q in zip(before.pads, session.project.pads) if p != q} <= {
        p.name for p in before.pads if p.type == "T1"
    }
    assert panel.take.isEnabled()
    session.undo()
    assert "out of date" in panel.words.text()
    session.redo()
    assert panel.take.isEnabled()
    press(qtbot, window, "take-proposals")
    assert all((p.worst.ratio or 9) <= 1.0 + 1e-9 for p in session.results.pads)
    assert "bases resized" in session.message
    assert not panel.take.isEnabled()
    assert "out of date" in panel.words.text()
    session.undo()
    session.undo()
    assert session.project is before


@pytest.mark.long
def test_a_pedestal_that_fails_is_proposed_with_its_base(demo: Project, qtbot: QtBot) -> None:
    plinth = demo.pad("P11").pedestal
    assert plinth is not None
    weak = plinth.replaced(bars=4, diameter=0.010)
    pad = demo.pad("P5").replaced(type=None, pedestal=weak)
    window = opened(qtbot, demo.replaced(pads=(pad,), straps=()))
    window.go_to("plan")
    session, panel = window.session, stop(window).proposal
    press(qtbot, window, "propose")
    qtbot.waitUntil(lambda: panel._job is None, timeout=60_000)
    assert panel.list.rowCount() == 1
    panel.list.selectRow(0)
    assert "pedestal " in panel.why.text()
    assert panel.list.item(0, 2).text() != "as it is"
    press(qtbot, window, "take-proposal")
    new = session.project.pad("P5").pedestal
    assert new is not None
    assert new != weak
    session.undo()
    assert session.project.pad("P5").pedestal == weak


@pytest.mark.long
def test_what_was_proposed_for_bases_that_are_called_otherwise_by_now(window: MainWindow, qtbot: QtBot) -> None:
    session, panel = window.session, stop(window).proposal
    session.apply(session.project.replaced(pads=session.project.pads[:4]))
    press(qtbot, window, "propose")
    for pad in session.project.pads[1:]:
        session.edit(("pads", pad.name, "name"), f"{pad.name} new")
    session.apply(session.project.replaced(pads=session.project.pads[1:]))
    qtbot.waitUntil(lambda: panel._job is None, timeout=60_000)
    assert panel.list.rowCount() > 0
    assert "out of date" in panel.words.text()
    assert not panel.take.isEnabled()


@pytest.mark.long
def test_a_number_of_types_is_taken_from_the_curve(window: MainWindow, qtbot: QtBot) -> None:
    session, panel = window.session, stop(window).proposal
    session.apply(session.project.replaced(pads=session.project.pads[:6]))
    panel.by_type.setChecked(False)
    press(qtbot, window, "propose")
    qtbot.waitUntil(lambda: panel._job is None, timeout=60_000)
    assert len(panel.groupings) == 6
    panel.curve.clicked.emit("types:3")
    assert len({p.type for p in session.project.pads}) == 3
    qtbot.waitUntil(lambda: panel._job is None, timeout=60_000)
    assert len(panel.found) == 3


def test_a_search_can_be_cancelled(window: MainWindow, qtbot: QtBot) -> None:
    panel = stop(window).proposal
    press(qtbot, window, "propose")
    assert panel.cancel.isVisible()
    press(qtbot, window, "cancel-propose")
    qtbot.waitUntil(lambda: panel._job is None, timeout=60_000)
    assert panel.go.isEnabled()
    assert not panel.cancel.isVisible()


def test_the_plan_is_coloured_by_what_is_chosen(window: MainWindow) -> None:
    session, combo = window.session, window.findChild(QComboBox, "plan-colour")
    for i in range(combo.count()):
        key = combo.itemData(i)
        drawing = plan_drawing(session.project, session.results, by=key)
        fills = {s.fill for s in drawing.shapes if isinstance(s, Polygon) and s.key.startswith("pad:")}
        assert len(fills) > 1, key
    texts = [s.text for s in plan_drawing(session.project, session.results, by="type").shapes if isinstance(s, Text)]
    assert "P8 T4" in texts


def test_clashes_are_marked(window: MainWindow) -> None:
    session = window.session
    session.edit(("pads", "P1", "width"), 16.0)
    assert "overlap" in words(window)
    assert "conflict" in stop(window).status()
    table = TableModel(session, specs.CONFLICTS, LIGHT)
    assert "overlap by" in table.text(0, 3)


def drawing(path: Path) -> Path:
    document = ezdxf.new(units=4)
    space = document.modelspace()
    space.add_line((0, 0), (10_000, 0), dxfattribs={"layer": "walls"})
    space.add_lwpolyline([(0, 0), (0, 5000), (4000, 5000)], close=True)
    space.add_circle((2000, 3000), 250)
    space.add_point((6000, 3000))
    space.add_text("not a line")
    document.saveas(path)
    return path


@pytest.mark.long
def test_a_drawing_below_and_columns_from_it(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    session, bar = window.session, stop(window).bar
    path = drawing(tmp_path / "a.dxf")
    bar.take(path, columns=False)
    qtbot.waitUntil(lambda: bar.reading.over)
    lines = [o for o in session.project.site if o.kind == "underlay"]
    assert lines[0].points == ((0.0, 0.0), (10.0, 0.0))
    assert "1 things that are no lines" in session.message
    assert any(
        isinstance(s, Line) and s.stroke == "faint" for s in plan_drawing(session.project, session.results).shapes
    )
    assert evaluate(session.project).pad("P1").check("site").state.is_good
    bar.take(path, columns=True)
    qtbot.waitUntil(lambda: bar.reading.over)
    new = [
        p
        for p in session.project.actions.load_points
        if p.name.startswith("C") and (p.x, p.y) in ((2.0, 3.0), (6.0, 3.0))
    ]
    assert len(new) == 2
    assert new[0].size_x == pytest.approx(0.443, abs=1e-3)
    bar.take(path, columns=True)
    qtbot.waitUntil(lambda: bar.reading.over)
    assert "no point, circle or block where there is no column yet" in session.message
    bar.take_away()
    assert not [o for o in session.project.site if o.kind == "underlay"]


@pytest.mark.parametrize(
    "content", [b"", b"nonsense", b"\x00\xff" * 90, b"0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n"]
)
def test_broken_drawings_change_nothing(window: MainWindow, qtbot: QtBot, tmp_path: Path, content: bytes) -> None:
    path = tmp_path / "b.dxf"
    path.write_bytes(content)
    before = window.session.project
    stop(window).bar.take(path, columns=False)
    qtbot.waitUntil(lambda: stop(window).bar.reading.over)
    assert window.session.message.startswith("! b.dxf")
    assert window.session.project is before


def test_underlays_as_functions(demo: Project, tmp_path: Path) -> None:
    found = read_underlay(drawing(tmp_path / "a.dxf"), unit=0.01)
    assert found.outlines[0].points[1] == (100.0, 0.0)
    once = with_underlay(demo, found)
    assert with_underlay(once, found) == once
    assert once.site[0] == demo.site[0]
    project, count = with_columns(demo, found)
    assert count == 2
    assert with_columns(project, found)[1] == 0
    with pytest.raises(UnderlayError, match="cannot be read"):
        read_underlay(tmp_path / "none.dxf")


def test_boundaries_and_grids_are_added_and_typed(demo: Project) -> None:
    session = Session(demo.replaced(site=()))
    assert specs.SITE.add(session, None) == ""
    table = TableModel(session, specs.SITE, LIGHT)
    points = [c.title for c in table.columns].index("Points")
    assert table.setData(table.index(0, points), "0 0; 40 0; 40 30; 0 30")
    assert session.project.site[0].points[2] == (40.0, 30.0)
    assert not table.setData(table.index(0, points), "0 0; 5 5; 5 0; 0 5")
    assert isinstance(session.project.site[0], Outline)
    assert specs.GRIDS.add(session, None) == ""
    grid = session.project.grids[0]
    assert grid.along_x[0] == min(p.x for p in demo.actions.load_points)
    table = TableModel(session, specs.GRIDS, LIGHT)
    turned = [c.title for c in table.columns].index("Lines across x")
    assert table.setData(table.index(0, turned), "0 7.2 14.4")
    assert session.project.grids[0].along_x == pytest.approx((0.0, 7.2, 14.4))


def test_size_and_bars_are_copied_to_the_type(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P2")
    session.edit(("pads", "P2", "width"), 2.4)
    session.edit(("pads", "P3", "frozen"), "issued")
    chosen(window, "copy-to-type")
    same = {p.name: p.width for p in session.project.pads if p.type == "T2"}
    assert same == {"P2": 2.4, "P3": 2.2, "P6": 2.4, "P9": 2.4, "P10": 2.4}
    assert "P3 frozen" in session.message
    assert session.project.pad("P6").reinforcement == session.project.pad("P2").reinforcement
    session.select("P7")
    chosen(window, "copy-to-type")
    assert "the only one of type T3" in session.message


def test_one_edge_moves_the_opposite_one_stays(demo: Project) -> None:
    session = Session(demo)
    table = TableModel(session, specs.PADS, LIGHT)
    row = [p.name for p in demo.pads].index("P8")
    column = [c.title for c in table.columns].index("Edge -x")
    assert table.text(row, column) == "1.15"
    assert table.setData(table.index(row, column), "1.40")
    pad = session.project.pad("P8")
    assert (pad.width, pad.edge("-x"), pad.edge("+x")) == (
        pytest.approx(2.05),
        pytest.approx(1.4),
        pytest.approx(0.65),
    )
    assert pad.length == 2.5
    table.refresh()
    assert not table.setData(table.index(row, column), "-2")
    assert session.project.pad("P8") == pad
    session.edit(("pads", "P8", "frozen"), "issued")
    table.refresh()
    assert not table.setData(table.index(row, column), "1.5")


def test_the_map_gives_a_frozen_base_no_size(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P8")
    session.edit(("pads", "P8", "frozen"), "poured")
    window.go_to(3)
    bearing = window.stops[3]
    bearing._bring(2)
    qtbot.waitUntil(lambda: bearing.map.current, timeout=20_000)
    bearing.map._take(0, 0)
    assert "P8 is poured: its size stays" in session.message
    assert session.project.pad("P8").width == 1.8


def test_many_layers_of_one_name_in_a_drawing(tmp_path: Path) -> None:
    document = ezdxf.new(units=6)
    layer = "a very long name of a layer " * 4
    for i in range(12):
        document.modelspace().add_line((0, i), (5, i), dxfattribs={"layer": layer})
    document.saveas(tmp_path / "l.dxf")
    found = read_underlay(tmp_path / "l.dxf")
    assert len({o.name for o in found.outlines}) == 12


def drag(qtbot: QtBot, window: MainWindow, start: tuple[float, float], end: tuple[float, float]) -> None:
    """Drags in the plan from one point of the world to another, by mouse."""
    view = stop(window).plan
    place = view.placement()
    a, b = (QPoint(*(round(v) for v in place(p))) for p in (start, end))
    qtbot.mousePress(view, LEFT, pos=a)
    QTest.mouseMove(view, a + QPoint(3, 3))
    view.mouseMoveEvent(
        QMouseEvent(
            QEvent.Type.MouseMove,
            QPointF(b),
            view.mapToGlobal(QPointF(b)),
            LEFT,
            LEFT,
            Qt.KeyboardModifier.NoModifier,
        )
    )
    qtbot.mouseRelease(view, LEFT, pos=b)


def test_a_base_is_dragged_its_column_stays(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P7")
    point = session.project.load_point(session.project.pad("P7").load_point)
    drag(qtbot, window, (point.x + 0.7, point.y + 0.7), (point.x + 1.3, point.y + 0.7))
    pad = session.project.pad("P7")
    assert pad.offset_x == pytest.approx(-0.6, abs=0.16)
    assert pad.offset_y == pytest.approx(0.0, abs=0.11)
    assert "its column stays" in session.message
    session.undo()
    assert session.project.pad("P7").offset_x == 0.0


def test_an_edge_is_dragged_the_opposite_one_stays(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P7")
    pad = session.project.pad("P7")
    point = session.project.load_point(pad.load_point)
    stop(window).plan.dragged.emit("edge+x:P7", point.x + 1.63, point.y)
    new = session.project.pad("P7")
    assert new.edge("+x") == pytest.approx(1.65)
    assert new.edge("-x") == pytest.approx(pad.edge("-x"))
    stop(window).plan.dragged.emit("edge-y:P7", point.x, point.y + 4.0)
    assert "cannot pass the opposite one" in session.message
    assert session.project.pad("P7") == new


def test_arrow_keys_nudge_and_a_frozen_base_stays(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P7")
    view = stop(window).plan
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_Right)
    qtbot.keyClick(view, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    pad = session.project.pad("P7")
    assert (pad.offset_x, pad.offset_y) == (pytest.approx(-0.05), pytest.approx(-0.25))
    session.edit(("pads", "P7", "frozen"), "issued")
    qtbot.keyClick(view, Qt.Key.Key_Left)
    assert "it stays where it is" in session.message
    assert session.project.pad("P7").offset_x == pytest.approx(-0.05)


def test_a_moved_base_comes_in_line_with_its_neighbour(demo: Project) -> None:
    """P1 and P2 stand in a row: moved so that its lower edge comes near that of P2, it lies on the line."""
    first, second = demo.pad("P1"), demo.pad("P2")
    gap = second.length / 2 - first.length / 2
    new, words = moved(demo, first, 0.0, -(gap - 0.03))
    assert new.offset_y == pytest.approx(gap)
    assert "edge in line with" in words
    back, words = moved(demo, new, 0.0, gap + 0.04)
    assert back.offset_y == 0.0
    assert "centred" in words
    turned = first.replaced(rotation=90.0)
    assert nudged(turned, 0.1, 0.0).offset_y == pytest.approx(0.1)


def test_one_base_under_marked_columns(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    for name in ("B2", "C2"):
        stop(window).plan.clicked.emit(f"point:{name}")
    press(qtbot, window, "one-base")
    pad = session.pad
    assert pad is not None
    assert pad.carries == ("B2", "C2")
    assert {"B2", "C2"}.isdisjoint(session.results.undesigned)
    assert abs(base_state(session.project, pad, "allowable", 0).e_x) < 0.25 * pad.width
    assert session.result.check("presumed-pressure").ratio is not None
    session.undo()
    stop(window).plan.clicked.emit("point:B2")
    press(qtbot, window, "one-base")
    assert "at least two" in session.message


@pytest.mark.long
def test_a_round_base_in_table_plan_and_pressure(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P3")
    assert not session.edit(("pads", "P3", "shape"), "circle")
    assert "ø 2.20 × 0.45 m" in window.ledger.size_line.text()
    sizes = window.findChild(SizePanel)
    assert sizes.steppers["length"].isHidden()
    assert sizes.steppers["width"].label.text() == "Diameter"
    assert not session.edit(("pads", "P3", "length"), 2.5)
    assert session.project.pad("P3").width == 2.5
    outline = next(
        s
        for s in plan_drawing(session.project, session.results, "P3").shapes
        if isinstance(s, Polygon) and s.key == "drag:pad:P3"
    )
    assert len(outline.points) == 72
    state = base_state(session.project, session.project.pad("P3"), "allowable", 0)
    for uniform in (False, True):
        drawing = pressure_drawing(session.project, session.project.pad("P3"), state, uniform)
        assert any("ø 2.50" in text for text in drawing.texts)
    assert not session.edit(("pads", "P3", "shape"), "ring")
    assert "hole of a ring" in session.edit(("pads", "P3", "hole"), 3.0)


@pytest.mark.parametrize(
    ("typed", "kind", "thickness"),
    [
        ("granular 0.8", "granular", 0.8),
        ("concrete 0.6 spread 1 stress 4000", "concrete", 0.6),
        ("Granular 1,2 φ 40 weight 19", "granular", 1.2),
    ],
)
def test_replacement_is_typed(window: MainWindow, typed: str, kind: str, thickness: float) -> None:
    model = TableModel(window.session, specs.PADS, LIGHT)
    column = [c.title for c in model.columns].index("Replacement below")
    assert model.setData(model.index(0, column), typed, Qt.ItemDataRole.EditRole)
    found = window.session.project.pads[0].replacement
    assert found is not None
    assert (found.kind, found.thickness) == (kind, pytest.approx(thickness))
    assert window.session.results.pad("P1").check("replacement").ratio is not None
    assert not model.setData(model.index(0, column), "sand", Qt.ItemDataRole.EditRole)
    assert window.session.project.pads[0].replacement is found
