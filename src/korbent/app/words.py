"""Text that may hold data is shown as it is: never read as markup, whatever is in it."""

from html import escape
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QMessageBox, QWidget


class Label(QLabel):
    """A label of plain text."""

    def __init__(self, text: str = "", parent: QWidget | None = None, **properties: Any) -> None:
        super().__init__(parent, **properties)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


def tip(text: str) -> str:
    """A text for a tooltip, which would read markup."""
    return f"<qt>{escape(text).replace(chr(10), '<br>')}</qt>" if text else ""


def message_box(icon: QMessageBox.Icon, title: str, text: str, parent: QWidget) -> QMessageBox:
    """A message of plain text."""
    box = QMessageBox(icon, title, "", parent=parent)
    box.setTextFormat(Qt.TextFormat.PlainText)
    box.setText(text)
    return box
