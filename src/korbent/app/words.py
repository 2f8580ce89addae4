"""Text that may hold data is shown as it is: never read as markup, whatever is in it."""

from html import escape
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QLabel, QMessageBox, QWidget


class Label(QLabel):
    """A label of plain text."""

    def __init__(self, text: str = "", parent: QWidget | None = None, **properties: Any) -> None:
        super().__init__(parent, **properties)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


class Door(Label):
    """A text that leads somewhere: by a click, or by Enter where it has the focus."""

    clicked = Signal()

    def __init__(self, text: str = "", parent: QWidget | None = None, **properties: Any) -> None:
        super().__init__(text, parent, **properties)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.clicked.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.clicked.emit()
        else:
            super().keyPressEvent(event)


def tip(text: str) -> str:
    """A text for a tooltip, which would read markup."""
    return f"<qt>{escape(text).replace(chr(10), '<br>')}</qt>" if text else ""


def message_box(icon: QMessageBox.Icon, title: str, text: str, parent: QWidget) -> QMessageBox:
    """A message of plain text."""
    box = QMessageBox(icon, title, "", parent=parent)
    box.setTextFormat(Qt.TextFormat.PlainText)
    box.setText(text)
    return box
