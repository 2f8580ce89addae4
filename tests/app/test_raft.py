"""Rafts in the window: made of marked columns, computed by a worker, seen as fields with a transect, resized with step
effects."""

import re

import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from korbent.app.specs import RAFTS
from korbent.app.tables import TableModel
from korbent.app.window import MainWindow
from korbent.app.workers import pool
from korbent.core.checks import State
from korbent.core.model import Project
from korbent.demo import lindmere
from korbent.drawing.primitives import Line, Polygon
from korbent.drawing.theme import LIGHT
from tests.app.test_window import opened
from tests.core.test_added_bars import weak
from tests.core.test_rafts import raft

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot) -> MainWindow:
    made = raft()
    made = made.replaced(pads=())
    return opened(qtbot, made)


def ready(qtbot: QtBot, window: MainWindow) -> None:
    qtbot.waitUntil(lambda: not window.session.waiting, timeout=20_000)


def test_from_columns_to_a_checked_raft(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    window.go_to(2)
    qtbot.mouseClick(window.findChild(QPushButton, "raft"), LEFT)
    assert [p.kind for p in session.project.pads] == ["raft"]
    assert session.selected == "R1"
    # the ground is there at once, the plate is being computed
    assert session.waiting == ("R1",)
    assert session.result is not None
    assert session.result.check("eccentricity").ratio is not None
    ready(qtbot, window)
    result = session.result
    assert result is not None
    assert result.check("punching").ratio is not None
    assert result.check("bottom-x").ratio is not None
    session.undo()
    assert session.project.pads == ()


def with_raft(window: MainWindow, qtbot: QtBot) -> Project:
    window.session.apply(raft())
    window.session.select("P")
    ready(qtbot, window)
    window.go_to(5)
    return window.session.project


def texts(drawing: object) -> str:
    return "\n".join(drawing.texts)  # type: ignore[attr-defined]


@pytest.mark.long
def test_fields_are_chosen_and_a_click_moves_the_transect(window: MainWindow, qtbot: QtBot) -> None:
    with_raft(window, qtbot)
    panel = window.stop.raft  # type: ignore[attr-defined]
    assert window.stop.kinds.currentIndex() == 1  # type: ignore[attr-defined]
    assert panel.isVisible()
    for name in ("pressure", "settlement", "v", "bottom_y"):
        panel.what.setCurrentIndex(panel.what.findData(name))
        panel.what.activated.emit(panel.what.currentIndex())
        assert (
            sum(
                isinstance(s, Polygon) and bool(s.fill) and s.fill.startswith(("field", "ratio"))
                for s in panel.field.drawing.shapes
            )
            >= 2
        )
        assert "out of balance" in texts(panel.field.drawing)
    place = panel.field.placement()
    x, y = place((1.0, 1.2))
    qtbot.mouseClick(panel.field, LEFT, pos=QPoint(round(x), round(y)))
    assert panel.at == pytest.approx(1.2, abs=0.05)
    assert "moment" in texts(panel.line.drawing)
    qtbot.mouseClick(panel.axes["y"], LEFT)
    assert panel.axis == "y"
    qtbot.mouseMove(panel.field, QPoint(round(x), round(y)))
    assert "mm²/m" in panel.field_pane.detail.text()


@pytest.mark.long
def test_a_line_is_drawn_anywhere(window: MainWindow, qtbot: QtBot) -> None:
    """Pressed where it begins, let go where it ends; x leads back; a click without a line changes nothing."""
    with_raft(window, qtbot)
    panel = window.stop.raft  # type: ignore[attr-defined]
    qtbot.mouseClick(window.findChild(QPushButton, "transect-line"), LEFT)
    assert not panel.axes["x"].isChecked()
    place = panel.field.placement()
    a, b = (QPoint(*map(round, place(p))) for p in ((-3.0, -1.5), (2.0, 1.4)))
    qtbot.mouseClick(panel.field, LEFT, pos=a)
    assert panel.free is None
    drag(panel.field, a, b)
    assert panel.free[0] == pytest.approx((-3.0, -1.5), abs=0.05)
    assert panel.free[1] == pytest.approx((2.0, 1.4), abs=0.05)
    assert "moment along the line" in texts(panel.line.drawing)
    assert panel.line_pane.title.text() == "5.780 m" or panel.line_pane.title.text().startswith("5.7")
    qtbot.mouseClick(window.findChild(QPushButton, "transect-ground"), LEFT)
    assert "pressure, kPa" in texts(panel.line.drawing)
    drag(panel.field, a, a + QPoint(4, 0))
    assert "too short" in window.session.message
    qtbot.mouseClick(panel.axes["x"], LEFT)
    assert panel.free is None
    assert not panel.field.drawing_line
    assert window.width() == 1280


def drag(view: QWidget, a: QPoint, b: QPoint) -> None:
    QTest.mousePress(view, LEFT, pos=a)
    there = QMouseEvent(
        QEvent.Type.MouseMove,
        QPointF(b),
        view.mapToGlobal(QPointF(b)),
        Qt.MouseButton.NoButton,
        LEFT,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(view, there)
    QTest.mouseRelease(view, LEFT, pos=b)


@pytest.mark.long
def test_the_transect_shows_the_ground_too(window: MainWindow, qtbot: QtBot) -> None:
    with_raft(window, qtbot)
    panel = window.stop.raft  # type: ignore[attr-defined]
    assert "moment" in texts(panel.line.drawing)
    qtbot.mouseClick(window.findChild(QPushButton, "transect-ground"), LEFT)
    shown = texts(panel.line.drawing)
    assert all(word in shown for word in ("settlement, lasting, mm", "pressure, kPa", "shear, kN/m"))
    assert "moment" not in shown
    # settlements and pressures are drawn downwards
    lines = [s for s in panel.line.drawing.shapes if isinstance(s, Line) and s.stroke == "accent"]
    zero = [s for s in panel.line.drawing.shapes if isinstance(s, Line) and s.stroke == "ink"]
    assert max(y for _, y in lines[0].points) < zero[0].points[0][1]


@pytest.mark.long
def test_the_ground_below_the_line_is_shown_with_the_bent_base(window: MainWindow, qtbot: QtBot) -> None:
    with_raft(window, qtbot)
    panel = window.stop.raft  # type: ignore[attr-defined]
    ground, depth = (window.findChild(QPushButton, f"transect-{name}") for name in ("ground", "depth"))
    qtbot.mouseClick(ground, LEFT)
    qtbot.mouseClick(depth, LEFT)
    assert not ground.isChecked()
    shown = texts(panel.line.drawing)
    assert "added stress, kPa, of the raft alone" in shown
    assert "settlement drawn" in shown
    assert "moment" not in shown
    qtbot.mouseClick(ground, LEFT)
    assert not depth.isChecked()
    assert "pressure, kPa" in texts(panel.line.drawing)


@pytest.mark.long
def test_the_raft_at_a_moment_that_is_typed(window: MainWindow, qtbot: QtBot) -> None:
    """It is the moment of the Settlement stop; the field comes from a worker; an empty entry leads back."""
    with_raft(window, qtbot)
    session = window.session
    panel = window.stop.raft  # type: ignore[attr-defined]
    panel.what.setCurrentIndex(panel.what.findData("settlement"))
    entry = window.findChild(QLineEdit, "raft-moment")

    def typed(text: str) -> None:
        qtbot.mouseClick(entry, LEFT)
        entry.selectAll()
        qtbot.keyClick(entry, Qt.Key.Key_Delete)
        qtbot.keyClicks(entry, text)
        qtbot.keyClick(entry, Qt.Key.Key_Return)
        entry.clearFocus()

    typed("soon")
    assert "'soon' is no moment" in session.message
    typed("2 y")
    assert session.day == pytest.approx(730.5)
    qtbot.waitUntil(lambda: panel.at_day.state == "", timeout=30_000)
    assert panel.field_pane.detail.text().startswith("at 2 years")
    assert "settlement of the plate" in texts(panel.field.drawing)
    panel.what.setCurrentIndex(panel.what.findData("bottom_x"))
    panel.what.activated.emit(panel.what.currentIndex())
    qtbot.waitUntil(lambda: panel.at_day.state == "", timeout=30_000)
    assert "not at a day" in texts(panel.field.drawing).replace("\n", " ")
    typed("")
    assert not panel.timed
    assert "at" not in panel.field_pane.detail.text().split()
    assert entry.text() == ""


@pytest.mark.long
def test_settlement_against_load_comes_from_a_worker_and_tells_the_value_at_the_mouse(
    window: MainWindow, qtbot: QtBot
) -> None:
    with_raft(window, qtbot)
    panel = window.stop.raft  # type: ignore[attr-defined]
    depth, load = (window.findChild(QPushButton, f"transect-{name}") for name in ("depth", "load"))
    qtbot.mouseClick(depth, LEFT)
    qtbot.mouseClick(load, LEFT)
    assert not depth.isChecked()
    assert not panel.axes["x"].isVisible()
    qtbot.waitUntil(lambda: panel.curve.state == "", timeout=30_000)
    shown = texts(panel.line.drawing)
    assert "settlement, mm" in shown
    assert "middle" in shown
    curve = panel.curve.found
    lines = [s for s in panel.line.drawing.shapes if isinstance(s, Line) and len(s.points) == len(curve.shares)]
    x, y = panel.line.placement()(lines[0].points[5])
    QTest.mouseMove(panel.line, QPoint(round(x), round(y)))
    qtbot.waitUntil(lambda: "middle" in window.session.message)
    found = re.search(r"\((\d+)%\): middle", window.session.message)
    assert found is not None
    assert abs(int(found[1]) - 50) <= 1
    qtbot.mouseClick(load, LEFT)
    assert panel.axes["x"].isVisible()
    assert window.minimumSizeHint().width() <= 1280
    assert "moment" in texts(panel.line.drawing)


@pytest.mark.long
def test_while_it_is_computed_the_old_field_is_marked(window: MainWindow, qtbot: QtBot) -> None:
    with_raft(window, qtbot)
    session = window.session
    panel = window.stop.raft  # type: ignore[attr-defined]
    before = session.result
    assert before is not None
    was = before.check("punching").ratio
    assert session.edit(("pads", "P", "thickness"), 0.6) == ""
    assert session.waiting == ("P",)
    check = session.result.check("punching")  # type: ignore[union-attr]
    assert check.state is State.COMPUTING
    assert f"was {was:.2f}" in check.message
    assert "out of date" in panel.field_pane.detail.text()
    assert window.ledger.worst.text() == "…"
    ready(qtbot, window)
    now = session.result.check("punching").ratio  # type: ignore[union-attr]
    assert now is not None
    assert was is not None
    assert now < was
    assert "out of date" not in panel.field_pane.detail.text()


@pytest.mark.long
def test_steps_of_a_raft_are_looked_at_beside_the_window(window: MainWindow, qtbot: QtBot) -> None:
    with_raft(window, qtbot)
    sizes = window.sizes
    qtbot.waitUntil(lambda: bool(sizes._shown), timeout=30_000)
    of_thickness = [e for e in sizes._shown if e.dimension == "thickness"]
    assert len(of_thickness) == 2
    thinner, thicker = sorted(of_thickness, key=lambda e: e.change)
    assert thicker.ratio is not None
    session = window.session
    session.edit(("pads", "P", "thickness"), session.project.pads[0].thickness + thicker.change)
    ready(qtbot, window)
    assert session.result is not None
    assert session.result.worst.ratio == pytest.approx(thicker.ratio, rel=1e-6)
    assert thinner.change < 0
    qtbot.waitUntil(lambda: not pool().busy(), timeout=30_000)


@pytest.mark.long
def test_lindmere_shows_its_raft_with_pedestals(qtbot: QtBot) -> None:
    window = opened(qtbot, lindmere())
    window.session.select("R1")
    ready(qtbot, window)
    window.go_to(5)
    panel = window.stop.raft  # type: ignore[attr-defined]
    assert panel.isVisible()
    assert "kNm/m" in texts(panel.field.drawing) or "kPa" in texts(panel.field.drawing)


@pytest.mark.long
def test_it_is_put_on_the_strata_and_back(window: MainWindow, qtbot: QtBot) -> None:
    with_raft(window, qtbot)
    session = window.session
    window.go_to(2)
    table = TableModel(session, RAFTS, LIGHT)
    column = next(i for i, c in enumerate(table.columns) if c.title == "Rests on")
    assert table.text(0, column) == "springs"
    before = session.result.check("raft-slope").ratio  # type: ignore[union-attr]
    table.setData(table.index(0, column), "the strata")
    assert session.project.pads[0].plate.ground == "layers"  # type: ignore[union-attr]
    assert session.waiting == ("P",)
    ready(qtbot, window)
    after = session.result.check("raft-slope").ratio  # type: ignore[union-attr]
    assert after != before
    window.go_to(5)
    panel = window.stop.raft  # type: ignore[attr-defined]
    panel.what.setCurrentIndex(panel.what.findData("subgrade"))
    panel.refresh()
    assert "pressure over settlement" in texts(panel.field.drawing)
    # in US units a stiffness per volume is no unit weight
    session.edit(("units",), "us")
    assert "pci" in texts(panel.field.drawing)
    session.undo()
    table.refresh()
    assert table.text(0, column) == "the strata"
    table.setData(table.index(0, column), "springs")
    ready(qtbot, window)
    assert session.result.check("raft-slope").ratio == pytest.approx(before)  # type: ignore[union-attr]
    table.setData(table.index(0, column), "sand")
    assert session.project.pads[0].plate.ground == "springs"  # type: ignore[union-attr]


@pytest.mark.long
def test_added_bars_are_proposed_by_one_click(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.apply(weak())
    session.select("P")
    ready(qtbot, window)
    window.go_to(5)
    result = session.result
    assert result is not None
    assert "fails" in {result.check(i).state.value for i in ("bottom-x", "bottom-y", "top-x", "top-y")}
    before = session.project
    button = window.findChild(QPushButton, "propose-added")
    qtbot.mouseClick(button, LEFT)
    assert not button.isEnabled()
    qtbot.waitUntil(button.isEnabled, timeout=20_000)
    assert "of added bars, +" in session.message
    assert session.message.endswith(" kg")
    ready(qtbot, window)
    result = session.result
    assert result is not None
    assert {result.check(i).state for i in ("bottom-x", "bottom-y", "top-x", "top-y")} <= {
        State.HOLDS,
        State.NOT_APPLICABLE,
    }
    proposed = session.project
    qtbot.mouseClick(button, LEFT)
    qtbot.waitUntil(button.isEnabled, timeout=20_000)
    assert session.project is proposed
    assert "those that would be proposed" in session.message
    session.undo()
    assert session.project is before
    # an answer for another project is not taken
    qtbot.mouseClick(button, LEFT)
    session.edit(("title", "author"), "somebody")
    changed = session.project
    qtbot.waitUntil(button.isEnabled, timeout=20_000)
    assert session.project is changed
    assert "changed meanwhile" in session.message
    session.edit(("pads", "P", "frozen"), "poured")
    qtbot.mouseClick(button, LEFT)
    assert session.message.startswith("! P is poured")
