"""The first tour, taken by mouse and keys from the first step to the last; and left at any time."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.session import Session
from korbent.app.stops.whole import WholeStop
from korbent.app.tour import Tour
from korbent.app.window import MainWindow
from korbent.core.checks import State
from korbent.demo import lindmere
from korbent.demo.starter import starter
from tests.app.test_window import opened

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot) -> MainWindow:
    return opened(qtbot, starter())


def begun(qtbot: QtBot, window: MainWindow) -> Tour:
    """From the start page, as somebody who is new does."""
    QTest.keyClick(window, Qt.Key.Key_N, Qt.KeyboardModifier.ControlModifier)
    assert window.start is not None
    link = next(b for b in window.start.findChildren(QPushButton) if b.text() == "First tour")
    QTest.mouseClick(link, LEFT)
    assert window.tour is not None
    assert window.tour.isVisible()
    return window.tour


def test_the_eight_steps_are_done_by_hand(window: MainWindow, qtbot: QtBot) -> None:
    tour = begun(qtbot, window)
    session, ledger = window.session, window.ledger

    def at(step: int) -> None:
        qtbot.waitUntil(lambda: tour.at == step, timeout=15_000)
        qtbot.waitUntil(lambda: tour.frame.isVisible() or step == len(tour.tasks))

    assert len(tour.tasks) == 8
    assert tour.count.text() == "1 of 8"
    at(0)
    QTest.mouseClick(window.rail.buttons[0], LEFT)
    at(1)
    QTest.mouseClick(window.rail.buttons[3], LEFT)
    session.select("P11")
    at(2)
    row = next(
        i
        for i, r in enumerate(ledger.model.rows)
        if getattr(getattr(r, "check", None), "id", "") == "presumed-pressure"
    )
    ledger.list.setCurrentIndex(ledger.model.index(row))
    QTest.keyClick(ledger.list, Qt.Key.Key_Return)
    at(3)
    ledger.working.text.anchorClicked.emit("step:0")
    at(4)
    for _ in range(10):
        if (session.result.worst.ratio or 2.0) <= 1.0:  # type: ignore[union-attr]
            break
        QTest.mouseClick(window.sizes.steppers["length"].more, LEFT)
        session.settle()
    at(5)
    QTest.mouseClick(window.sizes.tries, LEFT)
    dialog = window.tries
    QTest.mouseClick(dialog.keep_button, LEFT)
    assert tour.at == 5  # it is still open
    QTest.mouseClick(dialog.findChild(QPushButton, "close-tries"), LEFT)
    at(6)
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    QTest.keyClick(window, Qt.Key.Key_L, Qt.KeyboardModifier.ControlModifier)
    stop = window.stop
    assert isinstance(stop, WholeStop)
    base, column = next(
        (r, c)
        for r in range(stop.model.rowCount())
        for c in range(1, stop.model.columnCount())
        if (found := stop.model.of(stop.model.rows[r], c)) is not None and found.state in (State.FAILS, State.UNSTABLE)
    )
    index = stop.model.index(base, column)
    stop.view.scrollTo(index)
    QTest.mouseClick(stop.view.viewport(), LEFT, pos=stop.view.visualRect(index).center())
    at(7)
    QTest.keyClick(window, Qt.Key.Key_F1)
    at(8)
    assert "That is the tour" in tour.text.text()
    assert not tour.frame.isVisible()
    QTest.mouseClick(tour.leave, LEFT)
    assert window.tour is None
    assert session.pad is not None  # the example stays open


@pytest.mark.long
def test_it_is_left_or_skipped_at_any_time(window: MainWindow, qtbot: QtBot) -> None:
    tour = begun(qtbot, window)
    QTest.mouseClick(tour.skip, LEFT)
    assert tour.count.text() == "2 of 8"
    QTest.mouseClick(tour.leave, LEFT)
    assert window.tour is None
    tour = begun(qtbot, window)
    assert tour.count.text() == "1 of 8"  # from the start again
    window.replace_session(starter(), None)
    qtbot.waitUntil(lambda: window.tour is None)


@pytest.mark.long
def test_work_that_is_not_saved_is_asked_about(qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    window = opened(qtbot, lindmere())
    window.session.resize("width", 2.9)
    mine = window.session.project
    monkeypatch.setattr(window.files, "may_leave", lambda: False)
    window.take_tour()
    assert window.tour is None
    assert window.session.project is mine


@pytest.mark.long
def test_the_base_of_the_tour_fails_and_a_longer_one_does_not() -> None:
    session = Session(lindmere())
    session.select("P11")
    assert session.result is not None
    assert session.result.check("presumed-pressure").state is State.FAILS
    assert [c.check.id for c in session.result.checks if c.state is State.FAILS] == ["presumed-pressure"]
    for _ in range(3):
        session.change_by("length", 0.1)
    assert (session.result.worst.ratio or 2.0) <= 1.0
    others = [c for p in session.results.pads for c in p.checks if c.state is State.FAILS]
    assert others  # something is left for the ledger of the whole plan
