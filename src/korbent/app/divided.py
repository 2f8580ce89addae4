"""Parts side by side or below each other; the line between them is moved by hand, and stays where it was put."""

from collections.abc import MutableMapping, Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QMouseEvent, QResizeEvent
from PySide6.QtWidgets import QSplitter, QSplitterHandle, QWidget

from korbent.words import say

Shares = MutableMapping[str, list[float]]
"""How the room is shared, by the name of what is divided."""


class Divider(QSplitterHandle):
    """The line between two parts; a double click puts all of them back."""

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        whole = self.splitter()
        if isinstance(whole, Divided):
            whole.put_back()


class Divided(QSplitter):
    """Shares its room in given shares, whatever its size. Nothing is folded away by moving a line."""

    shared = Signal()
    """A line was moved, or all were put back."""

    def __init__(
        self, parent: QWidget, name: str, direction: Qt.Orientation, parts: Sequence[tuple[QWidget, float]]
    ) -> None:
        # the parent first: what the parts ask for is measured in its style
        super().__init__(direction, parent)
        self.setObjectName(name)
        self.setHandleWidth(1)
        self.setChildrenCollapsible(False)
        for part, _ in parts:
            self.addWidget(part)
        for i in range(1, self.count()):
            self.handle(i).setToolTip(say("Drag to move it; a double click puts it back"))
        self.usual = [float(share) for _, share in parts]
        self.shares = list(self.usual)
        self.splitterMoved.connect(self._moved)

    def createHandle(self) -> QSplitterHandle:
        return Divider(self.orientation(), self)

    def take(self, shares: Sequence[float]) -> None:
        """Shares the room so. What does not fit the parts leaves it as it is."""
        if len(shares) == self.count() and all(s > 0 for s in shares):
            self.shares = list(shares)
            self.share()

    def put_back(self) -> None:
        """Shares the room as at first."""
        self.take(self.usual)
        self.shared.emit()

    def share(self) -> None:
        """Gives each part its share; called too after a part came, went or was exchanged."""
        room = self.width() if self.orientation() == Qt.Orientation.Horizontal else self.height()
        self.setSizes([round(room * share / sum(self.shares)) for share in self.shares])

    def _moved(self) -> None:
        # what is hidden keeps its share beside the others
        seen = [i for i in range(self.count()) if (part := self.widget(i)) is not None and part.isVisibleTo(self)]
        sizes, of = self.sizes(), sum(self.shares[i] for i in seen)
        whole = sum(sizes[i] for i in seen)
        if whole > 0:
            for i in seen:
                self.shares[i] = max(sizes[i] / whole * of, 1e-6)
        self.shared.emit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.share()


def beside(parent: QWidget, name: str, *parts: tuple[QWidget, float]) -> Divided:
    """Parts side by side, each with its share of the width."""
    return Divided(parent, name, Qt.Orientation.Horizontal, parts)


def below(parent: QWidget, name: str, *parts: tuple[QWidget, float]) -> Divided:
    """Parts below each other, each with its share of the height."""
    return Divided(parent, name, Qt.Orientation.Vertical, parts)


def remember(part: QWidget, shares: Shares) -> None:
    """All that is divided in a part begins as it was left, and is kept as it is moved."""
    for divided in part.findChildren(Divided):
        divided.take(shares.get(divided.objectName(), []))
        divided.shared.connect(lambda d=divided: shares.__setitem__(d.objectName(), _tidy(d.shares)))


def _tidy(shares: Sequence[float]) -> list[float]:
    return [round(share / sum(shares), 4) for share in shares]
