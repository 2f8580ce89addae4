"""The search field: goes to a foundation, a check, a place, a command, a recent file."""

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import QEvent, QObject, QPoint, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit, QListWidget, QWidget

from korbent.words import say

SHOWN = 12


@dataclass(frozen=True)
class Entry:
    """Something to go to."""

    text: str
    detail: str
    go: Callable[[], object]


def matching(entries: list[Entry], typed: str) -> list[Entry]:
    """Entries that hold every typed word, those that begin with the text first."""
    words = typed.lower().split()
    found = [e for e in entries if all(w in f"{e.text} {e.detail}".lower() for w in words)]
    start = typed.strip().lower()
    return sorted(found, key=lambda e: (e.text.lower() != start, not e.text.lower().startswith(start)))[:SHOWN]


class SearchField(QLineEdit):
    """A line edit with a list of what matches below it."""

    def __init__(self, entries: Callable[[], list[Entry]], parent: QWidget) -> None:
        super().__init__(parent, objectName="search", accessibleName=say("Go to"))
        self.entries = entries
        self.found: list[Entry] = []
        self.setPlaceholderText(say("Go to …   Ctrl+K"))
        self.setToolTip(say("A foundation, a column, a check, a soil, a command, a recent file"))
        self.setFixedWidth(196)
        self.list = QListWidget(parent.window(), objectName="search-list")
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.hide()
        self.list.itemClicked.connect(lambda _: self.take())
        self.textEdited.connect(lambda _: self.look())
        self.installEventFilter(self)

    def begin(self) -> None:
        """Takes the keyboard and shows everything."""
        self.setFocus()
        self.selectAll()
        self.look()

    def look(self) -> None:
        """Shows what matches."""
        self.found = matching(self.entries(), self.text())
        self.list.clear()
        self.list.addItems([f"{e.text}    {e.detail}" for e in self.found] or [say("nothing of that name")])
        self.list.setCurrentRow(0)
        below = self.mapTo(self.window(), QPoint(0, self.height() + 2))
        if self.list.parent() is not self.window():
            self.list.setParent(self.window())  # over everything, not within the bar
        rows = max(1, len(self.found)) * max(self.list.sizeHintForRow(0), 16)
        self.list.setGeometry(below.x(), below.y(), 420, rows + 10)
        self.list.show()
        self.list.raise_()

    def take(self) -> None:
        """Goes to the marked entry."""
        row = self.list.currentRow()
        chosen = self.found[row] if 0 <= row < len(self.found) else None
        self.leave()
        if chosen:
            chosen.go()

    def leave(self) -> None:
        """Closes the list."""
        self.list.hide()
        self.clear()
        self.clearFocus()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            key = Qt.Key(event.key())
            if key in (Qt.Key.Key_Down, Qt.Key.Key_Up) and self.found:
                step = 1 if key == Qt.Key.Key_Down else -1
                self.list.setCurrentRow((self.list.currentRow() + step) % len(self.found))
                return True
            if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self.take()
                return True
            if key == Qt.Key.Key_Escape:
                self.leave()
                return True
        if event.type() == QEvent.Type.FocusOut and not self.list.underMouse():
            self.list.hide()
        return super().eventFilter(watched, event)
