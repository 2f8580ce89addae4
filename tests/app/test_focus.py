"""Without a mouse: everything is reached, told by a name, and framed while the keyboard is at it; nothing is a window
by mistake."""

import re

import pytest
from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QAbstractItemView, QApplication, QLabel, QWidget
from pytestqt.qtbot import QtBot

from korbent.app.focus import FocusFrame, part_of, reachable
from korbent.app.window import MainWindow
from korbent.core.model import Project
from tests.app.test_divided import divided, draw
from tests.app.test_enlarged import settle
from tests.app.test_window import opened

STOPS = range(9)


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = opened(qtbot, demo)
    made.session.select("P3")
    made.activateWindow()
    qtbot.waitUntil(made.isActiveWindow)
    return made


def focus() -> QWidget:
    found = QApplication.focusWidget()
    assert found is not None
    return found


@pytest.mark.long
def test_all_that_takes_the_keyboard_has_a_name(window: MainWindow) -> None:
    nameless = set()
    for index in STOPS:
        window.go_to(index)
        settle()
        for widget in reachable(window):
            text = widget.text() if isinstance(widget, (QAbstractButton, QLabel)) else ""
            if not re.search("[A-Za-zφγ]", widget.accessibleName() or text):
                nameless.add((type(widget).__name__, widget.objectName(), text))
    assert not nameless


def test_the_keyboard_goes_along_the_bar_as_it_is_read(window: MainWindow) -> None:
    in_bar = [w for w in reachable(window) if window.bar.isAncestorOf(w)]
    assert [w.objectName() for w in in_bar][:3] == ["project", "search", "standards"]
    places = [w.mapTo(window.bar, w.rect().topLeft()).x() for w in in_bar]
    assert places == sorted(places)
    assert len(places) > 8


@pytest.mark.parametrize("index", STOPS)
@pytest.mark.parametrize("backwards", [False, True])
def test_one_key_goes_round_all_parts(kept_open: MainWindow, index: int, backwards: bool) -> None:
    window = kept_open
    window.activateWindow()
    window.go_to(index)
    settle()
    parts = {part_of(widget, window) for widget in reachable(window)}
    assert len(parts) >= 4
    seen = set()
    for _ in range(2 * len(parts)):
        way = Qt.KeyboardModifier.ShiftModifier if backwards else Qt.KeyboardModifier.NoModifier
        before = part_of(focus(), window) if QApplication.focusWidget() else None
        QTest.keyClick(window, Qt.Key.Key_F6, way)
        at = part_of(focus(), window)
        assert at is not before
        seen.add(at)
        # where there is a table or list in the part, one is at it
        views = [v for v in reachable(window) if isinstance(v, QAbstractItemView) and part_of(v, window) is at]
        assert not views or focus() in views
        frame = window.focus_frame
        assert frame.isVisible()
        assert frame.framed is focus()
    assert seen == parts


def test_the_frame_comes_with_tab_and_goes_with_the_mouse(window: MainWindow, qtbot: QtBot) -> None:
    window.go_to(2)
    settle()
    button = window.findChild(QAbstractButton, "units")
    button.setFocus()
    frame = window.focus_frame
    assert not frame.isVisible()  # one did not come by the keyboard
    QTest.keyClick(button, Qt.Key.Key_Tab)
    assert focus() is not button
    assert frame.isVisible()
    at = focus()
    box = at.rect().translated(at.mapTo(window, at.rect().topLeft()))
    assert frame.geometry().contains(box)
    assert frame.width() <= box.width() + 4
    # it is seen: the picture differs along the edge
    with_it = window.grab(box.adjusted(-2, -2, 2, 2)).toImage()
    frame.hide()
    assert with_it != window.grab(box.adjusted(-2, -2, 2, 2)).toImage()
    QTest.keyClick(at, Qt.Key.Key_Tab)
    assert frame.isVisible()
    table = window.stop.findChild(QAbstractItemView, "table-pads")
    qtbot.mouseClick(table.viewport(), Qt.MouseButton.LeftButton)
    assert not frame.isVisible()


def test_the_frame_follows_what_it_is_around_and_leaves_with_it(window: MainWindow) -> None:
    window.go_to(3)
    settle()
    window.rail.buttons[0].setFocus()
    QTest.keyClick(window.rail.buttons[0], Qt.Key.Key_F6)
    while part_of(focus(), window) is not window.ledger:
        QTest.keyClick(focus(), Qt.Key.Key_F6)
    frame, at = window.focus_frame, focus()
    assert at is window.ledger.list
    before = frame.geometry()
    window.resize(window.width() + 120, window.height() + 60)
    settle()
    assert frame.geometry().height() == before.height() + 60
    at.hide()
    assert not frame.isVisible()
    at.show()


def test_the_frame_stays_with_what_is_moved_by_what_it_stands_in(window: MainWindow) -> None:
    window.go_to(2)
    settle()
    # a button neither moves in its row nor changes its size when the row is moved
    frame, button = window.focus_frame, window.findChild(QAbstractButton, "deck-ribs")
    button.setFocus()
    frame.frame(button)
    before = frame.y()
    draw(divided(window, "plan"), -40)
    assert frame.isVisible()
    assert frame.y() < before
    assert frame.y() == button.mapTo(window, button.rect().topLeft()).y() - 2


@pytest.mark.parametrize("go", ["hide", "disable"])
def test_what_gives_the_keyboard_away_shows_no_frame(window: MainWindow, go: str) -> None:
    window.go_to(2)
    settle()
    button = window.findChild(QAbstractButton, "add-pads")
    button.setFocus()
    button.hide() if go == "hide" else button.setEnabled(False)
    assert focus() is not button
    assert not window.focus_frame.isVisible()


@pytest.mark.long
def test_nothing_becomes_a_window_on_its_way(qtbot: QtBot, demo: Project) -> None:
    """What is shown before it has a parent stands on the desk for a moment, and takes the keyboard from the window."""

    class Shown(QObject):
        def __init__(self) -> None:
            super().__init__()
            self.windows: list[str] = []

        def eventFilter(self, watched: QObject, event: QEvent) -> bool:
            if event.type() == QEvent.Type.Show and isinstance(watched, QWidget) and watched.isWindow():
                self.windows.append(f"{type(watched).__name__} {watched.objectName()}")
            return False

    seen = Shown()
    application = QApplication.instance()
    assert application is not None
    application.installEventFilter(seen)
    try:
        window = opened(qtbot, demo)
        for name in ("P3", "R1"):
            window.session.select(name)
            for index in STOPS:
                window.go_to(index)
                settle()
        window.show_start()
        settle()
    finally:
        application.removeEventFilter(seen)
    assert seen.windows == ["MainWindow "]


def test_in_a_dialog_the_frame_comes_with_tab(window: MainWindow, qtbot: QtBot) -> None:
    window.show_tries()
    dialog = window.tries
    qtbot.waitUntil(dialog.isVisible)
    dialog.activateWindow()
    dialog.name.setFocus()
    settle()
    (frame,) = dialog.findChildren(FocusFrame)
    assert not frame.isVisible()
    QTest.keyClick(dialog.name, Qt.Key.Key_Tab)
    settle()
    assert frame.isVisible()
    assert frame.framed is focus()
    assert focus().window() is dialog
    assert not window.focus_frame.isVisible()
    dialog.close()


def test_on_the_start_page_too(window: MainWindow, qtbot: QtBot) -> None:
    window.show_start()
    settle()
    assert window.start is not None
    window.search.setFocus()
    QTest.keyClick(window, Qt.Key.Key_F6)
    assert window.start.isAncestorOf(focus())
    frame = window.focus_frame
    assert frame.isVisible()
    assert frame.framed is focus()
    before = focus()
    QTest.keyClick(focus(), Qt.Key.Key_Tab)
    assert focus() is not before
    assert frame.framed is focus()
    QTest.keyClick(window, Qt.Key.Key_F6)
    assert not window.start.isAncestorOf(focus())
