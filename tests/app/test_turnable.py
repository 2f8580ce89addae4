"""The plan in space: turned by mouse and keys, bases chosen there, back to the plan for what is done in it."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from korbent.app.turnable import BY_KEY, PER_PX, TurnableView
from korbent.app.window import MainWindow
from korbent.core.model import Project
from korbent.drawing.primitives import Polygon
from tests.app.test_window import opened

LEFT, SHIFT = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def view(qtbot: QtBot, demo: Project) -> TurnableView:
    window = opened(qtbot, demo)
    window.go_to(2)
    found = window.stop.plan
    assert isinstance(found, TurnableView)
    QTest.mouseClick(found.in_space, LEFT)
    return found


def window_of(view: TurnableView) -> MainWindow:
    window = view.window()
    assert isinstance(window, MainWindow)
    return window


def drag(view: TurnableView, way: QPoint, keys: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
    start = QPoint(view.width() // 2, view.height() // 2)
    QTest.mousePress(view, LEFT, keys, start)
    for part in (1, 2):
        move(view, start + way * part / 2, keys)
    QTest.mouseRelease(view, LEFT, keys, start + way)


def move(view: TurnableView, to: QPoint, keys: Qt.KeyboardModifier) -> None:
    from PySide6.QtCore import QEvent, QPointF
    from PySide6.QtGui import QGuiApplication, QMouseEvent

    event = QMouseEvent(QEvent.Type.MouseMove, QPointF(to), view.mapToGlobal(QPointF(to)), LEFT, LEFT, keys)
    QGuiApplication.sendEvent(view, event)


def test_dragging_turns_and_with_shift_moves(view: TurnableView) -> None:
    before = view.eye
    assert before is not None
    selected = window_of(view).session.selected
    drag(view, QPoint(50, 20))
    assert view.eye is not None
    assert view.eye.azimuth == pytest.approx(before.azimuth - 50 * PER_PX)
    assert view.eye.height == pytest.approx(before.height + 20 * PER_PX)
    assert window_of(view).session.selected == selected  # turning is no click
    eye, left = view.eye, view.placement().left
    drag(view, QPoint(40, 0), SHIFT)
    assert view.eye == eye
    assert view.placement().left == pytest.approx(left + 40)


def test_arrow_keys_turn_and_do_not_move_the_base(view: TurnableView) -> None:
    window = window_of(view)
    before, project = view.eye, window.session.project
    assert before is not None
    QTest.keyClick(view, Qt.Key.Key_Right)
    QTest.keyClick(view, Qt.Key.Key_Up)
    assert view.eye is not None
    assert view.eye.azimuth == pytest.approx(before.azimuth + BY_KEY)
    assert view.eye.height == pytest.approx(before.height + BY_KEY)
    assert window.session.project is project
    QTest.keyClick(view, Qt.Key.Key_Escape)
    assert view.eye is None
    QTest.mouseClick(view.in_space, LEFT)
    assert view.eye.azimuth == pytest.approx(before.azimuth + BY_KEY)  # as it was left


def test_a_click_selects_a_base(view: TurnableView) -> None:
    window = window_of(view)
    other = "P1" if window.session.selected != "P1" else "P2"
    top = [s for s in view.drawing.shapes if isinstance(s, Polygon) and s.key == f"pad:{other}"][-1]
    x, y = (sum(p[i] for p in top.points) / len(top.points) for i in (0, 1))
    spot = next(
        QPoint(round(a), round(b))
        for f in (0.0, 0.3, 0.5, 0.7)
        for corner in top.points
        for a, b in [view.placement()((x + f * (corner[0] - x), y + f * (corner[1] - y)))]
        if view.key_at(QPoint(round(a), round(b)).toPointF()) == f"pad:{other}"
    )
    QTest.mouseClick(view, LEFT, pos=spot)
    assert window.session.selected == other


def test_bars_are_seen_through_the_concrete(view: TurnableView) -> None:
    assert "bars" not in view.drawing.layers
    QTest.mouseClick(view.bars, LEFT)
    assert "bars" in view.drawing.layers
    QTest.mouseClick(view.in_space, LEFT)
    assert "bars" not in view.drawing.layers
    assert not view.bars.isVisible()


def test_a_changed_size_is_seen_there_too(view: TurnableView) -> None:
    window = window_of(view)
    before = view.drawing
    window.session.resize("width", window.session.pad.width + 0.5)
    assert view.drawing is not before


def test_what_is_done_in_the_plan_leads_back_to_it(view: TurnableView) -> None:
    stop = window_of(view).stop
    stop.measure()
    assert view.eye is None
    assert not view.in_space.isChecked()
    QTest.mouseClick(view.in_space, LEFT)
    stop.bar.outline.setChecked(True)
    assert view.eye is None
