"""In the plan: bases copied with their columns, mirrored, laid out in rows; a measuring line."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialogButtonBox, QInputDialog
from pytestqt.qtbot import QtBot

from korbent.app.stops.plan import PlanStop
from korbent.app.window import MainWindow
from korbent.core.model import Project
from korbent.drawing.primitives import Dimension
from tests.app.test_window import opened

LEFT, CONTROL = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = opened(qtbot, demo)
    made.go_to(2)
    made.session.select("P3")
    return made


def stop(window: MainWindow) -> PlanStop:
    assert isinstance(window.stop, PlanStop)
    return window.stop


def on_page(window: MainWindow, x: float, y: float) -> QPoint:
    return QPoint(*(round(v) for v in stop(window).plan.placement()((x, y))))


def test_copied_and_pasted_with_the_column_and_its_loads(window: MainWindow, qtbot: QtBot) -> None:
    session, plan = window.session, stop(window).plan
    before = session.project
    plan.setFocus()
    QTest.keyClick(plan, Qt.Key.Key_C, CONTROL)
    assert "P3 with what stands on it is copied" in session.message
    stop(window).paste_at(12.0, 3.03)
    new = session.project.pads[-1]
    assert session.selected == new.name
    point = session.project.load_point(new.load_point)
    assert (point.x, point.y) == (12.0, 3.05)  # on the raster
    assert dict(point.loads) == dict(before.load_point(before.pad("P3").load_point).loads)
    assert session.results.pad(new.name).checks
    session.undo()
    assert session.project is before
    # over the name of a column it snaps there; without anything copied it says so
    stop(window).copies.held = ()
    QTest.keyClick(plan, Qt.Key.Key_V, CONTROL)
    assert "nothing is copied" in session.message


def test_marked_columns_are_copied_together(window: MainWindow) -> None:
    stop(window).marked = ("A1", "B1")
    stop(window).copies.copy()
    assert len(stop(window).copies.held) == 2
    count = len(window.session.project.pads)
    stop(window).paste_at(2.0, -6.0)
    assert len(window.session.project.pads) == count + 2


def test_mirrored_in_a_line_that_is_typed(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    session = window.session
    session.select("P11")
    asked = []

    def answer(*args: object, **more: object) -> tuple[str, bool]:
        asked.append(more["text"])
        return "x = 40", True

    monkeypatch.setattr(QInputDialog, "getText", answer)
    stop(window).copies.ask_mirror()
    assert str(asked[0]).startswith("x = ")
    new, old = session.project.pads[-1], session.project.pad("P11")
    assert new.offset_x == -old.offset_x
    assert new.hold_x != old.hold_x or old.hold_x == "middle"
    x = session.project.load_point(old.load_point).x
    assert session.project.load_point(new.load_point).x == pytest.approx(80 - x)
    project = session.project
    for text, says in (("z = 3", "no line"), ("x = far", "far"), ("", "no line")):
        stop(window).copies.mirror(("P11",), text)
        assert says in session.message
        assert session.project is project


def test_rows_and_columns_by_a_dialog(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    count = len(session.project.pads)
    stop(window).copies.ask_array()
    dialog = stop(window).copies.dialog
    for field, text in zip(dialog.fields, ("2", "", "2", "7 m")):
        field.setText(text)
    ok = dialog.findChild(QDialogButtonBox).button(QDialogButtonBox.StandardButton.Ok)
    QTest.mouseClick(ok, LEFT)
    assert "spacing along x is nothing" in dialog.note.text()
    assert dialog.isVisible()
    dialog.fields[1].setText("20 ft")
    QTest.mouseClick(ok, LEFT)
    assert not dialog.isVisible()
    assert len(session.project.pads) == count + 3
    own = session.project.load_point(session.project.pad("P3").load_point)
    xs = {round(session.project.load_point(p.load_point).x - own.x, 3) for p in session.project.pads[count:]}
    assert xs == {0.0, 6.096}
    dialog.fields[0].setText("two")
    dialog.take()
    assert "whole number" in dialog.note.text()


def test_a_measuring_line_snaps_and_goes(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    session, plan = window.session, stop(window).plan
    plan.setFocus()
    QTest.keyClick(plan, Qt.Key.Key_M)
    assert plan.drawing_line
    a, b = (demo.load_point(n) for n in ("A1", "B1"))
    start, end = on_page(window, a.x, a.y) + QPoint(2, 1), on_page(window, b.x, b.y) + QPoint(-2, 2)
    QTest.mousePress(plan, LEFT, pos=start)
    QTest.mouseMove(plan, end)
    qtbot.mouseMove(plan, end)
    QTest.mouseRelease(plan, LEFT, pos=end)
    if stop(window).measured is None:  # without a window system the movement is not told
        stop(window)._measured(a.x + 0.02, a.y, b.x, b.y - 0.02)
    assert session.message.startswith(f"{abs(b.x - a.x):.2f} m")
    assert "from A1 to B1" in session.message
    drawn = [s for s in plan.drawing.shapes if isinstance(s, Dimension) and s.start == (a.x, a.y)]
    assert drawn[0].end == (b.x, b.y)
    QTest.keyClick(plan, Qt.Key.Key_Escape)
    assert not plan.drawing_line
    assert not [s for s in plan.drawing.shapes if isinstance(s, Dimension) and s.start == (a.x, a.y)]


def test_without_a_base_it_says_so(window: MainWindow, demo: Project) -> None:
    window.session.apply(demo.replaced(pads=()))
    for action in (stop(window).copies.copy, stop(window).copies.ask_mirror, stop(window).copies.ask_array):
        action()
        assert "choose a base first" in window.session.message
