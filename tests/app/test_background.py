"""Work beside the window: results come back with their token, failures as None."""

import threading

from PySide6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot
from shiboken6 import delete

from korbent.app.background import _running, start


def test_a_result_comes_back_with_its_token(qtbot: QtBot) -> None:
    got: list[tuple[object, object]] = []
    token = object()
    job = start(token, lambda: 6 * 7, lambda t, r: got.append((t, r)))
    qtbot.waitUntil(lambda: bool(got), timeout=5000)
    assert got == [(token, 42)]
    assert job.token is token


def test_a_failure_gives_none_and_the_window_goes_on(qtbot: QtBot) -> None:
    got: list[object] = []

    def fails() -> int:
        raise ValueError("no")

    job = start(1, fails, lambda _, r: got.append(r))
    qtbot.waitUntil(lambda: bool(got), timeout=5000)
    assert got == [None]
    assert job.token == 1


def test_a_widget_that_is_gone_is_not_told(qtbot: QtBot) -> None:
    """The window may be closed, or replaced by one of another look, while something is computed."""
    told: list[object] = []

    class Asks(QWidget):
        def done(self, token: object, result: object) -> None:
            told.append(result)

    widget, go = Asks(), threading.Event()
    start(1, lambda: go.wait(5), widget.done)
    delete(widget)
    go.set()
    qtbot.waitUntil(lambda: not _running, timeout=5000)
    QApplication.processEvents()
    assert told == []
