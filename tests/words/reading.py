"""Reads everything that a window says: texts of widgets, tooltips, names for screen readers, tables, drawings."""

import re
from collections.abc import Iterator
from typing import Any

from PySide6.QtCore import QAbstractListModel, Qt
from PySide6.QtGui import QAction, QPainter
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QApplication,
    QComboBox,
    QDialogButtonBox,
    QFileDialog,
    QGroupBox,
    QHeaderView,
    QLabel,
    QLineEdit,
    QMenu,
    QMessageBox,
    QTabBar,
    QTextEdit,
    QWidget,
)

from korbent.app.canvas import DrawingView
from korbent.app.help_panel import HelpPanel
from korbent.drawing.primitives import Text

_ROWS = 60
_ROLES = {
    "cell": Qt.ItemDataRole.DisplayRole,
    "tip of a cell": Qt.ItemDataRole.ToolTipRole,
    "name of a cell": Qt.ItemDataRole.AccessibleTextRole,
    "description of a cell": Qt.ItemDataRole.AccessibleDescriptionRole,
}
Said = tuple[str, str, str]
"""Where (widget), as what, the text."""


class Painted:
    """Listens to all that is painted while it is entered."""

    def __init__(self) -> None:
        self.texts: set[str] = set()

    def __enter__(self) -> "Painted":
        self._draw = QPainter.drawText
        real, texts = self._draw, self.texts

        def heard(painter: QPainter, *args: Any) -> Any:
            texts.update(a for a in args if isinstance(a, str))
            return real(painter, *args)

        QPainter.drawText = heard  # type: ignore[method-assign, assignment]
        return self

    def __exit__(self, *_: object) -> None:
        QPainter.drawText = self._draw  # type: ignore[method-assign]


def everything(tables: bool = True) -> Iterator[Said]:
    """All that is said in what can be seen now."""
    for top in QApplication.topLevelWidgets():
        for widget in (top, *top.findChildren(QWidget)):
            if not widget.isVisible() or (isinstance(widget, QAbstractItemView) and not tables) or _is_of_qt(widget):
                continue
            for kind, text in _of(widget):
                if text:
                    yield f"{type(widget).__name__} {widget.objectName()}", kind, text


def _is_of_qt(widget: QWidget) -> bool:
    """What Qt itself says, in a language of its own: choosing a file, the usual answers to a question."""
    window = widget.window()
    asked_by_qt = isinstance(window, QFileDialog) or isinstance(window.parentWidget(), QFileDialog)
    if isinstance(widget.parentWidget(), HelpPanel):  # guide and theory are documents
        return True
    return asked_by_qt or (isinstance(widget.parentWidget(), QDialogButtonBox) and not widget.objectName())


def _of(widget: QWidget) -> Iterator[tuple[str, str]]:
    yield "title", widget.windowTitle()
    yield "tip", plain(widget.toolTip())
    yield "name", widget.accessibleName()
    yield "description", widget.accessibleDescription()
    yield "status", widget.statusTip()
    if isinstance(widget, QLabel | QAbstractButton):
        yield "text", plain(widget.text())
    elif isinstance(widget, QLineEdit):
        yield "placeholder", widget.placeholderText()
        yield "typed", widget.text()
    elif isinstance(widget, QComboBox):
        yield from (("choice", widget.itemText(i)) for i in range(widget.count()))
    elif isinstance(widget, QTabBar):
        for i in range(widget.count()):
            yield from (("tab", widget.tabText(i)), ("tip of a tab", plain(widget.tabToolTip(i))))
    elif isinstance(widget, QGroupBox):
        yield "text", widget.title()
    elif isinstance(widget, QTextEdit):
        yield "page", widget.toPlainText()
    elif isinstance(widget, QMessageBox):
        yield from (("text", widget.text()), ("text", widget.informativeText()))
    elif isinstance(widget, QAbstractItemView) and not isinstance(widget, QHeaderView):
        yield from _table(widget)
    elif isinstance(widget, DrawingView):
        drawing = getattr(widget, "drawing", None)
        for shape in getattr(drawing, "shapes", ()):
            if isinstance(shape, Text):
                yield "drawing", shape.text
    if isinstance(widget, QMenu):
        yield "menu", widget.title()
    for action in widget.actions():
        yield from _action(action)


def _action(action: QAction) -> Iterator[tuple[str, str]]:
    yield "action", action.text()
    yield "tip of an action", plain(action.toolTip())
    yield "tip of an action", action.statusTip()


def _table(view: QAbstractItemView) -> Iterator[tuple[str, str]]:
    model = view.model()
    if model is None:
        return
    for column in range(1 if isinstance(model, QAbstractListModel) else model.columnCount()):
        for role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole):
            yield "head", plain(str(model.headerData(column, Qt.Orientation.Horizontal, role) or ""))
        for row in range(min(model.rowCount(), _ROWS)):
            index = model.index(row, column)
            for kind, role in _ROLES.items():
                found = index.data(role)
                if isinstance(found, str):
                    yield kind, plain(found)


def plain(text: str) -> str:
    """Without markup."""
    return re.sub(r"<[^<>]*>|&[a-z]+;", " ", text).replace("&", "")
