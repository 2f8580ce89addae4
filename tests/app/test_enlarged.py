"""A view drawn as large as the middle, by a double click on its title or from its menu; and put back."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from korbent.app.stops.stop import Choice, Pane
from korbent.app.window import MainWindow
from korbent.core.model import Project
from tests.app.test_window import opened

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = opened(qtbot, demo)
    made.session.select("P3")
    return made


def settle() -> None:
    """Layouts take their time."""
    for _ in range(4):
        QTest.qWait(1)


@pytest.mark.long
@pytest.mark.parametrize("index", [0, 1, 2, 3, 4, 5])
def test_each_pane_fills_the_middle_and_goes_back(window: MainWindow, index: int) -> None:
    window.go_to(index)
    stop = window.stop
    settle()
    panes = [p for kind in (Pane, Choice) for p in stop.findChildren(kind) if p.isVisible()]
    assert panes
    for pane in panes:
        before = {p: (p.parentWidget(), p.geometry()) for p in panes}
        head = pane.title if isinstance(pane, Pane) else pane
        pos = None if isinstance(pane, Pane) else pane.rect().topRight() + type(pane.rect().topRight())(-2, 3)
        QTest.mouseDClick(head, LEFT, pos=pos) if pos else QTest.mouseDClick(head, LEFT)
        assert stop.large is not None
        assert stop.large[0] is pane
        assert pane.geometry() == stop.rect()
        window.resize(1400, 860)
        assert pane.geometry() == stop.rect()
        window.resize(1280, 800)
        pane.setFocus()
        stop.enlarge(None)
        assert stop.large is None
        settle()
        for p, (parent, box) in before.items():
            assert p.parentWidget() is parent
            assert abs(p.width() - box.width()) <= 2
            assert p.isVisible()


def test_esc_puts_it_back_and_edits_go_on(window: MainWindow, qtbot: QtBot) -> None:
    window.go_to(3)
    stop = window.stop
    section = next(p for p in stop.findChildren(Pane) if p.title.text().startswith("Section"))
    view = next(v for v in stop.views if section.isAncestorOf(v))
    view.enlarged.emit()  # as from its menu
    assert stop.large is not None
    drawn = view.drawing
    window.session.resize("width", 2.9)
    view.grab()
    assert view.drawing is not drawn
    view.setFocus()
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    QTest.keyClick(view, Qt.Key.Key_Escape)
    qtbot.waitUntil(lambda: stop.large is None)
    assert not stop._back.isEnabled()


def test_another_one_takes_its_place(window: MainWindow) -> None:
    window.go_to(3)
    stop = window.stop
    one, other = [p for p in stop.findChildren(Pane) if p.isVisible()][:2]
    stop.enlarge(one)
    stop.enlarge(other)
    assert stop.large is not None
    assert stop.large[0] is other
    assert one.parentWidget() is not None
    stop.enlarge(other)
    assert stop.large is None
