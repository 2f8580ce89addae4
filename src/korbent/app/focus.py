"""The keyboard without a mouse: a frame around what has the focus, and a key from one part of the window to the
next."""

from collections.abc import Iterator

from PySide6.QtCore import QEvent, QObject, QPoint, Qt
from PySide6.QtGui import QFocusEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractItemView, QApplication, QDialog, QWidget

from korbent.app.divided import Divided
from korbent.app.stops.stop import Stop
from korbent.app.style import colour
from korbent.drawing.theme import Theme


class FocusFrame(QWidget):
    """A frame around what the keyboard is at, shown once it was used to get there; a click elsewhere takes it away."""

    def __init__(self, window: QWidget, theme: Theme) -> None:
        super().__init__(window)
        self.theme = theme
        self.framed: QWidget | None = None
        self._followed: list[QWidget] = []
        """What is framed and all it stands in, the window left out: any of them may move it."""
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setAttribute(Qt.WidgetAttribute.WA_NoSystemBackground)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.hide()
        QApplication.instance().focusChanged.connect(self._changed)  # type: ignore[union-attr]

    def frame(self, widget: QWidget | None) -> None:
        """Goes around a widget, or away."""
        for before in self._followed:
            before.removeEventFilter(self)
        self.framed, self._followed = widget, []
        if widget is None:
            self.hide()
            return
        part: QWidget | None = widget
        while part is not None and part is not self.window():
            part.installEventFilter(self)
            self._followed.append(part)
            part = part.parentWidget()
        self._place()
        self.show()
        self.raise_()

    def _place(self) -> None:
        if self.framed is not None:
            corner = self.framed.mapTo(self.window(), QPoint(0, 0))
            box = self.framed.rect().translated(corner).adjusted(-2, -2, 2, 2)
            self.setGeometry(box.intersected(self.window().rect()))

    def _changed(self, _: QWidget | None, now: QWidget | None) -> None:
        if self.framed is not None and now is not self.framed:
            self.frame(None)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Follows what it is around."""
        if event.type() in (QEvent.Type.Move, QEvent.Type.Resize):
            self._place()
        elif watched is self.framed and event.type() in (QEvent.Type.Hide, QEvent.Type.MouseButtonPress):
            self.frame(None)
        return False

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(colour("accent", self.theme), 2))
        painter.drawRoundedRect(self.rect().adjusted(1, 1, -1, -1), 4, 4)
        painter.end()


BY_KEY = (Qt.FocusReason.TabFocusReason, Qt.FocusReason.BacktabFocusReason)


class InDialogs(QObject):
    """The same frame in the dialogs of a window, from their first key on."""

    def __init__(self, window: QWidget, theme: Theme) -> None:
        super().__init__(window)
        self.theme = theme
        self._frames: dict[QWidget, FocusFrame] = {}
        QApplication.instance().focusChanged.connect(self._changed)  # type: ignore[union-attr]

    def _changed(self, _: QWidget | None, now: QWidget | None) -> None:
        dialog = now.window() if now is not None else None
        if not isinstance(dialog, QDialog) or dialog in self._frames:
            return
        over = dialog.parentWidget()
        if over is None or over.window() is not self.parent():
            return
        self._frames[dialog] = FocusFrame(dialog, self.theme)
        dialog.destroyed.connect(lambda _=None, d=dialog: self._frames.pop(d, None))
        for part in dialog.findChildren(QWidget):
            part.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if isinstance(event, QFocusEvent) and event.type() == QEvent.Type.FocusIn and isinstance(watched, QWidget):
            frame = self._frames.get(watched.window())
            if frame is not None and event.reason() in BY_KEY:
                frame.frame(watched)
        return False


PARTED = ("body", "whole")
"""What lays out the parts of the window: rail, middle, size panel, ledger; top bar and message."""


def part_of(widget: QWidget, window: QWidget) -> QWidget:
    """The part of the window in which a widget stands: what a divider or the window itself lays out."""
    while True:
        parent = widget.parentWidget()
        if parent is None or parent is window:
            return widget
        if isinstance(parent, (Divided, Stop)) or parent.objectName() in PARTED:
            return widget
        widget = parent


def reachable(start: QWidget, backwards: bool = False) -> Iterator[QWidget]:
    """What can take the keyboard, in the order of the window, beginning after a widget and going round once."""
    widget: QWidget | None = start
    while True:
        assert widget is not None
        widget = widget.previousInFocusChain() if backwards else widget.nextInFocusChain()
        if widget is None or widget is start:
            return
        if widget.isVisible() and widget.isEnabled() and widget.focusPolicy() & Qt.FocusPolicy.TabFocus:
            yield widget


def next_part(window: QWidget, backwards: bool = False) -> QWidget | None:
    """The table or list of the next part of the window, else its first widget; None where there is no other part."""
    now = QApplication.focusWidget() or window
    part, found = part_of(now, window), None
    for widget in reachable(now, backwards):
        at = part_of(widget, window)
        if found is None and at is not part:
            found = at
        if at is found and isinstance(widget, QAbstractItemView):
            return widget
    return next((w for w in reachable(now, backwards) if part_of(w, window) is found), None)
