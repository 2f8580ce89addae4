"""Typing into a cell: what is understood beside it, lists where there are choices."""

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import (
    QEvent,
    QModelIndex,
    QPersistentModelIndex,
    QPoint,
    Qt,
)
from PySide6.QtGui import (
    QHelpEvent,
    QPainter,
    QPolygon,
)
from PySide6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QLineEdit,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QToolTip,
    QWidget,
)

from korbent.app.naming import naming
from korbent.app.style import colour, font
from korbent.app.tables.column import Column
from korbent.app.tables.model import TableModel
from korbent.app.words import Label, tip
from korbent.core.model.labels import label
from korbent.drawing.theme import SIZE, Theme


class Reading(Label):
    """Beside a cell that is being typed into: what is understood."""

    def __init__(self, editor: QWidget, parent: QWidget, theme: Theme) -> None:
        super().__init__("", parent, objectName="reading")
        self.editor = editor
        self.setFont(font(SIZE["text"]))
        self.setStyleSheet(
            f"background: {theme.raised}; color: {theme.accent}; border: 1px solid {theme.line}; padding: 1px 7px;"
        )
        self.hide()
        editor.destroyed.connect(self.deleteLater)

    def show_text(self, text: str) -> None:
        """Shows a text right of the cell, or left of it where there is no room."""
        self.setText(text)
        self.setVisible(bool(text))
        self.adjustSize()
        box = self.editor.geometry()
        over = self.parentWidget()
        room = over.width() if over is not None else 0
        x = box.right() + 4 if box.right() + 4 + self.width() <= room else max(box.left() - self.width() - 4, 0)
        self.setGeometry(x, box.top(), min(self.width(), room), box.height())
        self.raise_()


def _choices(model: TableModel, row: int, column: Column) -> Sequence[str]:
    """What a cell offers, as it is read."""
    kind = model.kind_at(row, column)
    if kind == "yes":
        return tuple(map(label, ("yes", "no")))
    if kind == "key":
        return tuple(map(label, model.choices_at(row, column)))
    return model.choices_at(row, column) if kind == "choice" else ()


class ChoiceDelegate(QStyledItemDelegate):
    """Offers a list where a column has choices."""

    def createEditor(
        self, parent: QWidget, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> QWidget:
        model: TableModel = index.model()  # type: ignore[assignment]
        column = model.columns[index.column()]
        kind = model.kind_at(index.row(), column)
        choices = _choices(model, index.row(), column)
        if not choices:
            editor = super().createEditor(parent, option, index)
            if isinstance(editor, QLineEdit) and kind == "number":
                reading = Reading(editor, parent, model.theme)
                place = (index.row(), index.column())
                editor.textEdited.connect(lambda text: reading.show_text(model.understood(*place, text)))
                if model.path_at(*place):
                    naming().begin(editor, model.session, model.path_at(*place))
            return editor
        box = QComboBox(parent)
        box.addItems(["", *choices] if column.optional else list(choices))
        box.activated.connect(lambda _: self._commit(box))
        return box

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        """The cell; a corner marks a value with a note."""
        super().paint(painter, option, index)
        model: TableModel = index.model()  # type: ignore[assignment]
        inside = index.row() < len(model.rows) and index.column() < len(model.columns)
        if inside and model.note(index.row(), index.column()):
            corner = option.rect.topRight()
            painter.save()
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("accent", model.theme))
            painter.drawPolygon(QPolygon([corner, corner + QPoint(-7, 0), corner + QPoint(0, 7)]))
            painter.restore()

    def helpEvent(
        self,
        event: QHelpEvent,
        view: QAbstractItemView,
        option: QStyleOptionViewItem,
        index: QModelIndex | QPersistentModelIndex,
    ) -> bool:
        """The tooltip; of a text that is cut the whole of it."""
        whole = QStyleOptionViewItem(option)
        self.initStyleOption(whole, index)
        cut = whole.fontMetrics.horizontalAdvance(whole.text) + 8 > option.rect.width()
        said = str(index.data(Qt.ItemDataRole.ToolTipRole) or "")
        if event.type() == QEvent.Type.ToolTip and cut:
            QToolTip.showText(event.globalPos(), tip(whole.text) + said, view)
            return True
        return super().helpEvent(event, view, option, index)

    def _commit(self, box: QComboBox) -> None:
        self.commitData.emit(box)
        self.closeEditor.emit(box)

    def setEditorData(self, editor: QWidget, index: QModelIndex | QPersistentModelIndex) -> None:
        if isinstance(editor, QComboBox):
            editor.setCurrentText(str(index.data(Qt.ItemDataRole.EditRole)))
        else:
            super().setEditorData(editor, index)

    def setModelData(self, editor: QWidget, model: Any, index: QModelIndex | QPersistentModelIndex) -> None:
        if isinstance(editor, QComboBox):
            model.setData(index, editor.currentText())
        else:
            super().setModelData(editor, model, index)
