"""Random hands on the window: clicks, keys, wheel and drags wherever something can be clicked, questions answered by
chance."""

import random
import time
from collections.abc import Callable
from itertools import pairwise
from typing import Any

from PySide6.QtCore import QPoint, QPointF, Qt, QTimer
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QDialog,
    QLineEdit,
    QMenu,
    QMessageBox,
    QScrollBar,
    QTabBar,
    QWidget,
)

from korbent.app.canvas import DrawingView
from korbent.app.edge_outline import EdgeOutline
from korbent.app.window import MainWindow
from korbent.app.words import Door

KEYS = (
    Qt.Key.Key_Tab,
    Qt.Key.Key_Backtab,
    Qt.Key.Key_Return,
    Qt.Key.Key_Escape,
    Qt.Key.Key_Up,
    Qt.Key.Key_Down,
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
    Qt.Key.Key_Delete,
    Qt.Key.Key_Backspace,
    Qt.Key.Key_Space,
    Qt.Key.Key_Plus,
    Qt.Key.Key_Minus,
    Qt.Key.Key_F2,
    Qt.Key.Key_Home,
    Qt.Key.Key_End,
    Qt.Key.Key_F1,
)
CONTROL = "zyacvdkftl,"
"""Letters pressed with Ctrl: undo, redo, select all, copy, paste, ... not those that open files."""
TYPED = (
    "2",
    "-1",
    "0",
    "1e9",
    "3'-6\"",
    "12 kip",
    "= B + 1",
    "x",
    "",
    "1,250",
    "0.35",
    "999999",
    "ø16/150",
    "P1",
)
CLICKED = (
    QAbstractButton,
    QAbstractItemView,
    QComboBox,
    QLineEdit,
    QTabBar,
    DrawingView,
    QAbstractSpinBox,
    QScrollBar,
    EdgeOutline,
    Door,
)


class Hands:
    """Works on a window by chance, and says how long each step kept the processor."""

    def __init__(self, window: MainWindow, seed: int) -> None:
        self.window, self.rng = window, random.Random(seed)
        self.took: list[tuple[float, str]] = []
        self.working = True
        self._turn: Callable[[], None] = lambda: None
        self._soon()

    def stop(self) -> None:
        """No question is answered any more."""
        self.working = False

    def _soon(self) -> None:
        """An answer may bring up the next question: each call starts the next one before it does anything."""
        if self.working:
            QTimer.singleShot(20, self._answer)

    def _answer(self) -> None:
        """A question, a dialog or a menu that came up is answered."""
        self._soon()
        popup, modal = QApplication.activePopupWidget(), QApplication.activeModalWidget()
        if isinstance(popup, QMenu):
            chosen = [a for a in popup.actions() if a.isEnabled() and not a.isSeparator() and not a.menu()]
            if chosen and self.rng.random() < 0.6:
                popup.setActiveAction(self.rng.choice(chosen))
                QTest.keyClick(popup, Qt.Key.Key_Return)
            else:
                popup.close()
        elif popup is not None:
            popup.close()
        elif isinstance(modal, QMessageBox):
            self.rng.choice(modal.buttons()).click()
        elif isinstance(modal, QDialog):
            if self.rng.random() < 0.5:
                self._touch(modal)
            else:
                modal.reject()

    def step(self) -> str:
        """One step; what it was. What is kept is the longest of its turns: the hands' own event, each letter, each turn
        of the loop."""
        target = self.window
        turns = [time.thread_time()]
        self._turn = lambda: turns.append(time.thread_time())
        what = self._touch(target)
        self._turn()
        for _ in range(2):
            QApplication.processEvents()
            self._turn()
        self.took.append((max(b - a for a, b in pairwise(turns)), what))
        return what

    def _touch(self, top: QWidget) -> str:
        rng = self.rng
        kind = rng.random()
        if kind < 0.1 and isinstance(top, MainWindow):
            stop = rng.randrange(len(top.stops))
            top.go_to(stop)
            return f"stop {stop}"
        focus = QApplication.focusWidget() or top
        if kind < 0.35:
            key = rng.choice(KEYS)
            QTest.keyClick(focus, key)
            return f"{key.name} in {_name(focus)}"
        if kind < 0.45:
            letter = rng.choice(CONTROL)
            QTest.keyClick(focus, letter, Qt.KeyboardModifier.ControlModifier)
            return f"Ctrl+{letter} in {_name(focus)}"
        if kind < 0.6:
            text = rng.choice(TYPED)
            for letter in text:
                QTest.keyClicks(focus, letter)
                self._turn()
            QTest.keyClick(focus, Qt.Key.Key_Return)
            return f"'{text}' in {_name(focus)}"
        seen = [
            w
            for w in top.findChildren(QWidget)
            if isinstance(w, CLICKED) and w.isVisible() and w.isEnabled() and _safe(w)
        ]
        if not seen:
            return "nothing to click"
        widget: Any = rng.choice(seen)
        inner = widget.viewport() if isinstance(widget, QAbstractItemView) else widget
        at = QPoint(rng.randrange(max(inner.width(), 1)), rng.randrange(max(inner.height(), 1)))
        if kind < 0.75:
            QTest.mouseClick(inner, Qt.MouseButton.LeftButton, pos=at)
            return f"click on {_name(widget)}"
        if kind < 0.83:
            QTest.mouseDClick(inner, Qt.MouseButton.LeftButton, pos=at)
            return f"double click on {_name(widget)}"
        if kind < 0.87:
            QTest.mouseClick(inner, Qt.MouseButton.RightButton, pos=at)
            return f"right click on {_name(widget)}"
        if kind < 0.93:
            turned = QPoint(0, rng.choice((-240, 120, 360)))
            wheel = QWheelEvent(
                QPointF(at),
                QPointF(inner.mapToGlobal(at)),
                QPoint(),
                turned,
                Qt.MouseButton.NoButton,
                Qt.KeyboardModifier.NoModifier,
                Qt.ScrollPhase.NoScrollPhase,
                False,
            )
            QApplication.sendEvent(inner, wheel)
            return f"wheel on {_name(widget)}"
        to = QPoint(rng.randrange(max(inner.width(), 1)), rng.randrange(max(inner.height(), 1)))
        QTest.mousePress(inner, Qt.MouseButton.LeftButton, pos=at)
        QTest.mouseMove(inner, to)
        QTest.mouseRelease(inner, Qt.MouseButton.LeftButton, pos=to)
        return f"drag on {_name(widget)}"


def _safe(widget: QWidget) -> bool:
    """Not what closes the window."""
    return not (isinstance(widget, QAbstractButton) and widget.text() in ("Quit", "Close"))


def _name(widget: QWidget) -> str:
    text = widget.objectName() or (widget.text() if isinstance(widget, QAbstractButton) else "")
    return f"{type(widget).__name__} {text!r}"
