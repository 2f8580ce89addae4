"""The first tour: eight steps on an example, each done by whoever takes it; it can be left at any time."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QObject, QPoint, QRect, Qt, QTimer
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QWidget

from korbent.app.style import colour
from korbent.app.words import Label
from korbent.core.checks import State
from korbent.words import say

if TYPE_CHECKING:
    from korbent.app.window import MainWindow

BASE, CHECK, SIZE = "P11", "presumed-pressure", "length"
"""The base of the tour, the check that fails there, and the size that helps."""
LOOK_EVERY = 120
"""How often it is looked whether a task is done, ms."""


@dataclass(frozen=True)
class Task:
    """One task: what to do, whether it is done, and the part of the window where it is done."""

    text: str
    done: Callable[["MainWindow"], bool]
    where: Callable[["MainWindow"], QWidget | None]


def _length(window: "MainWindow") -> float:
    pad = window.session.project.pad(BASE)
    return pad.length


def _working_open(window: "MainWindow") -> bool:
    return window.ledger.shows_working and window.session.check == CHECK


def _fails_there(window: "MainWindow") -> bool:
    result = window.session.result
    return (
        window.stop.place == "all bases"
        and result is not None
        and result.name != BASE
        and any(c.state in (State.FAILS, State.UNSTABLE) and c.check.id == window.session.check for c in result.checks)
    )


def _way_to_all(window: "MainWindow") -> QWidget:
    """The table of all bases, or what leads to it."""
    if window.stop.place == "all bases":
        return window.stop
    whole: QWidget = window.ledger.whole
    return whole if whole.isVisible() else window.ledger.working.back


def tasks(start: float) -> tuple[Task, ...]:
    """The tasks; ``start``: the length that the base had at first, m."""
    return (
        Task(
            say(
                "The rail at the left is the work in its order. Begin with the ground: click Ground (or Alt+1), and look at the three boreholes."
            ),
            lambda w: w.stop.place == "ground",
            lambda w: w.rail.buttons[0],
        ),
        Task(
            say(
                "Go to Bearing. In the plan the colour is the worst ratio of each base; hatched red fails. "
                "Click {base}, at the quay wall.",
                base=BASE,
            ),
            lambda w: w.stop.place == "bearing" and w.session.selected == BASE,
            lambda w: w.rail.buttons[3] if w.stop.place != "bearing" else w.stop,
        ),
        Task(
            say(
                "At the right stand all its checks, the long bar that passes the mark is the one that fails. Double-click 'Against presumed pressure' (or Enter): its working opens."
            ),
            _working_open,
            lambda w: w.ledger.list,
        ),
        Task(
            say(
                "Each coloured letter in a formula is a door: click one, and you see where that number comes from. The settings that decide stand above."
            ),
            lambda w: _working_open(w) and bool(w.ledger.working.trail),
            lambda w: w.ledger.working.text,
        ),
        Task(
            say(
                "Below stand the sizes, with the worst ratio after one step less and one step more. Press + at Length L until nothing of this base fails."
            ),
            lambda w: _length(w) > start and (w.session.results.pad(BASE).worst.ratio or 2.0) <= 1.0,
            lambda w: w.sizes.steppers[SIZE],
        ),
        Task(
            say(
                "A wedge on each bar shows where it came from. Set this state aside, so that you can compare: Tries (Ctrl+T), Keep this try, Close."
            ),
            lambda w: bool(w.session.tries()) and not w.tries_shown,
            lambda w: w.sizes.tries,
        ),
        Task(
            say("What about the others? All bases (Ctrl+L) shows every check of every base. Click a hatched cell."),
            _fails_there,
            _way_to_all,
        ),
        Task(
            say(
                "Help is at hand: press F1 on what you are at, here on this check. What it asks, its formula and the theory stand beside your work."
            ),
            lambda w: w.ledger.helped is not None and w.ledger.stack.currentWidget() is w.ledger.helped,
            lambda w: w.ledger,
        ),
    )


class Frame(QWidget):
    """A line around the part of the window where the step is done; clicks go through it."""

    def __init__(self, window: "MainWindow") -> None:
        super().__init__(window)
        self.theme = window.theme
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setAttribute(Qt.WidgetAttribute.WA_NoSystemBackground)
        self.hide()

    def around(self, part: QWidget | None) -> None:
        """Stands around a part, where it is seen."""
        window = self.parentWidget()
        if part is None or window is None or not part.isVisible():
            self.hide()
            return
        box = QRect(part.mapTo(window, QPoint(0, 0)), part.size()).adjusted(-5, -3, 5, 3) & window.rect()
        if box != self.geometry():
            self.setGeometry(box)
        self.show()
        self.raise_()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(colour("accent", self.theme), 2))
        painter.drawRoundedRect(self.rect().adjusted(1, 1, -2, -2), 6, 6)
        painter.end()


class Tour(QFrame):
    """A bar with the step to be done, above the message line."""

    def __init__(self, window: "MainWindow") -> None:
        super().__init__(objectName="tour")
        self.window_ = window
        self.tasks = tasks(window.session.project.pad(BASE).length)
        self.at = 0
        self.frame = Frame(window)
        self.count = Label(objectName="tour-count")
        self.text = Label(objectName="tour-text", wordWrap=True)
        self.skip = QPushButton(say("Skip this step"), objectName="flat")
        self.skip.clicked.connect(self.go_on)
        self.leave = QPushButton(say("Leave the tour"), objectName="leave-tour")
        self.leave.clicked.connect(self.end)
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 8, 12, 8)
        row.setSpacing(10)
        row.addWidget(self.count)
        row.addWidget(self.text, 1)
        row.addWidget(self.skip)
        row.addWidget(self.leave)
        self.timer = QTimer(self, interval=LOOK_EVERY)
        self.timer.timeout.connect(self.look)
        self.timer.start()
        self._show()
        window.installEventFilter(self)

    def _show(self) -> None:
        done = self.at >= len(self.tasks)
        self.count.setText("" if done else say("{at} of {steps}", at=self.at + 1, steps=len(self.tasks)))
        self.text.setText(
            say(
                "That is the tour. Undo takes back what you have changed; Ctrl+N begins with your own numbers, Ctrl+K goes anywhere."
            )
            if done
            else self.tasks[self.at].text
        )
        self.skip.setVisible(not done)
        self.leave.setText(say("Done") if done else say("Leave the tour"))
        self._point()

    def _point(self) -> None:
        if self.at < len(self.tasks) and self.window_.start is None:
            self.frame.around(self.tasks[self.at].where(self.window_))
        else:
            self.frame.hide()

    def look(self) -> None:
        """Goes on when the step is done; ends where the example is gone."""
        if not any(p.name == BASE for p in self.window_.session.project.pads):
            self.end()
            return
        if self.at < len(self.tasks) and self.window_.start is None and self.tasks[self.at].done(self.window_):
            self.go_on()
        else:
            self._point()

    def go_on(self) -> None:
        """The next step."""
        self.at += 1
        self._show()

    def end(self) -> None:
        """Leaves the tour; what was done stays."""
        self.timer.stop()
        self.window_.removeEventFilter(self)
        self.frame.deleteLater()
        self.window_.tour = None
        self.hide()
        self.deleteLater()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """The line stays around its part while the window changes its size."""
        if event.type() == QEvent.Type.Resize:
            QTimer.singleShot(0, self._point_later)
        return False

    def _point_later(self) -> None:
        if self.window_.tour is self:
            self._point()
