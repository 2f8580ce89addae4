"""Editing tables: one row a thing, one column a field, with units and validation in place."""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError
from PySide6.QtCore import (
    QAbstractTableModel,
    QEvent,
    QItemSelection,
    QItemSelectionModel,
    QModelIndex,
    QPersistentModelIndex,
    QPoint,
    QRect,
    Qt,
)
from PySide6.QtGui import (
    QContextMenuEvent,
    QGuiApplication,
    QHelpEvent,
    QKeyEvent,
    QKeySequence,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPolygon,
    QShowEvent,
)
from PySide6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QInputDialog,
    QLineEdit,
    QMenu,
    QPushButton,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableView,
    QToolTip,
    QVBoxLayout,
    QWidget,
)

from korbent.app.naming import naming
from korbent.app.session import Session
from korbent.app.style import colour, font
from korbent.app.words import Label, tip
from korbent.core.model import expressed, noted, value_at
from korbent.core.model.expressions import ExpressionError, spoken
from korbent.core.units import UnitError, UnitSet, feet_words, in_eighths, shown_unit, to_shown
from korbent.drawing.theme import SIZE, Theme
from korbent.files.project_file import problems_of

Path = tuple[str | int, ...]


@dataclass(frozen=True)
class Column:
    """One column. ``path`` leads from a row's key to its value; ``choices`` makes a list to choose from."""

    title: str
    get: Callable[[Any], Any]
    path: Callable[[Any], Path]
    unit: str = ""
    kind: str = "number"
    """number, text, choice, yes, or words (a comma-separated list)."""
    choices: Callable[[Session], Sequence[str]] | None = None
    optional: bool = False
    width: int = 0
    tip: str = ""
    unit_of: Callable[[Any], str] | None = None
    """The unit by row, where it differs."""
    kind_of: Callable[[Any], str] | None = None
    choices_of: Callable[[Any], Sequence[str]] | None = None
    convert: Callable[[Any], Any] | None = None
    convert_in: Callable[[Any, Any], Any] | None = None
    """As convert, with the row first."""
    empty: Any = None
    """What an emptied optional cell stands for."""
    derived: bool = False
    """A label or a result: nothing of it stands in the project."""
    note: Callable[[Any], str] | None = None
    """Where the value of a row comes from; such cells are set in the accent colour, the note is their tooltip."""
    strong: Callable[[Any], bool] | None = None
    """Whether the value of a row is the one in force, set in bold."""
    tint: Callable[[Any], str] | None = None
    """The colour behind the value of a row, a token of the theme; '' for none."""
    odd: Callable[[Any], str] | None = None
    """What is unusual about the value of a row; such cells are washed, the text is in their tooltip."""


@dataclass(frozen=True)
class Spec:
    """What a table shows. ``rows`` gives the row objects; ``add`` and ``remove`` change the project."""

    name: str
    rows: Callable[[Session], Sequence[Any]]
    columns: Callable[[Session], Sequence[Column]]
    add: Callable[[Session, Any], str] | None = None
    remove: Callable[[Session, Any], str] | None = None
    noun: str = "row"
    empty: str = ""
    tools: Callable[["TablePanel"], QWidget] | None = None
    """More controls, beside the buttons."""
    order: Callable[[Session, Sequence[Any]], str] | None = None
    """Puts the rows of the project into another order."""


class TableModel(QAbstractTableModel):
    """A table over the project. A wrong entry stays in its cell, marked, until it is corrected or dropped."""

    def __init__(self, session: Session, spec: Spec, theme: Theme) -> None:
        super().__init__()
        self.session, self.spec, self.theme = session, spec, theme
        self.rows: list[Any] = []
        self._shown_rows = 0
        self.columns: list[Column] = []
        self.wrong: dict[tuple[int, int], tuple[str, str]] = {}
        self.refresh()

    def refresh(self) -> None:
        """Reads the project again; the shape of the table is reset only when it changed."""
        rows, columns = list(self.spec.rows(self.session)), list(self.spec.columns(self.session))
        same = len(rows) == self._shown_rows and [c.title for c in columns] == [c.title for c in self.columns]
        if same:
            self.rows, self.columns = rows, columns
            if rows and columns:
                self.dataChanged.emit(self.index(0, 0), self.index(len(rows) - 1, len(columns) - 1))
            self.headerDataChanged.emit(Qt.Orientation.Horizontal, 0, max(len(columns) - 1, 0))
        else:
            self.beginResetModel()
            self.rows, self.columns, self.wrong = rows, columns, {}
            self._shown_rows = len(rows)
            self.endResetModel()

    def reread(self) -> None:
        """Reads the rows again within a change of several cells, without telling the view."""
        self.rows, self.columns = list(self.spec.rows(self.session)), list(self.spec.columns(self.session))

    def rowCount(self, parent: QModelIndex | QPersistentModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: QModelIndex | QPersistentModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.columns)

    def headerData(
        self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole
    ) -> Any:
        if orientation == Qt.Orientation.Horizontal and section < len(self.columns):
            column = self.columns[section]
            if role == Qt.ItemDataRole.DisplayRole:
                unit = shown_unit(column.unit, self.session.project.showing)
                return f"{column.title}\n{unit}" if unit else column.title
            if role == Qt.ItemDataRole.ToolTipRole:
                return tip(column.tip) or None
        return None

    def unit_at(self, row: int, column: Column) -> str:
        """The stored unit of a cell."""
        return column.unit_of(self.rows[row]) if column.unit_of else column.unit

    def kind_at(self, row: int, column: Column) -> str:
        """The kind of a cell."""
        return column.kind_of(self.rows[row]) if column.kind_of else column.kind

    def choices_at(self, row: int, column: Column) -> Sequence[str]:
        """What a cell can be chosen from."""
        if column.choices_of:
            return column.choices_of(self.rows[row])
        return column.choices(self.session) if column.choices else ()

    def text(self, row: int, position: int) -> str:
        """The text of a cell."""
        column = self.columns[position]
        value = column.get(self.rows[row])
        if value is None:
            return ""
        kind = self.kind_at(row, column)
        if kind == "yes":
            return "yes" if value else "no"
        if kind == "words":
            return ", ".join(value)
        if kind == "number" and not isinstance(value, str):
            units = self.session.project.showing
            unit = self.unit_at(row, column)
            text = _plain(float(value), unit, units)
            return f"{text} {shown_unit(unit, units)}" if column.unit_of and unit else text
        return str(value)

    def data(
        self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole
    ) -> Any:
        place = (index.row(), index.column())
        if place[0] >= len(self.rows) or place[1] >= len(self.columns):
            return None
        column = self.columns[place[1]]
        wrong = self.wrong.get(place)
        if role == Qt.ItemDataRole.EditRole:
            return wrong[0] if wrong else self.expression(*place) or self.text(*place)
        if role == Qt.ItemDataRole.DisplayRole:
            return wrong[0] if wrong else self.text(*place)
        if role == Qt.ItemDataRole.ToolTipRole:
            parts = (
                self.expression(*place),
                self.note(*place),
                self._noted(*place),
                self._odd(*place),
                column.tip,
            )
            return tip(wrong[1] if wrong else "\n".join(p for p in parts if p)) or None
        if role == Qt.ItemDataRole.FontRole and not wrong:
            strong = column.strong is not None and column.strong(self.rows[place[0]])
            slanted = bool(self.expression(*place))
            return font(SIZE["text"], bold=strong, italic=slanted) if strong or slanted else None
        if role == Qt.ItemDataRole.BackgroundRole and not wrong:
            token = (
                "odd_wash" if self._odd(*place) else column.tint(self.rows[place[0]]) if column.tint else ""
            )
            return colour(token, self.theme) if token else None
        if role == Qt.ItemDataRole.ForegroundRole and not wrong and self._noted(*place):
            return colour("accent", self.theme)
        if role == Qt.ItemDataRole.BackgroundRole and wrong:
            return colour("beyond_wash", self.theme)
        if role == Qt.ItemDataRole.ForegroundRole and wrong:
            return colour("beyond", self.theme)
        if role == Qt.ItemDataRole.TextAlignmentRole:
            number = self.kind_at(place[0], column) == "number"
            side = Qt.AlignmentFlag.AlignRight if number else Qt.AlignmentFlag.AlignLeft
            return side | Qt.AlignmentFlag.AlignVCenter
        return None

    def path_at(self, row: int, position: int) -> Path:
        """Where the value of a cell stands in the project; () for what is no value of it."""
        column = self.columns[position]
        return () if column.derived else column.path(self.rows[row])

    def is_name(self, row: int, position: int) -> bool:
        """Whether a cell is what its row is called, by which it is found."""
        path = self.path_at(row, position)
        return bool(path) and path[-1] in ("name", "number")

    def expression(self, row: int, position: int) -> str:
        """The expression behind a cell."""
        path = self.path_at(row, position)
        return (
            self.session.expression(path)
            if path and self.kind_at(row, self.columns[position]) == "number"
            else ""
        )

    def note(self, row: int, position: int) -> str:
        """The engineer's note on a cell."""
        path = self.path_at(row, position)
        return self.session.note(path) if path else ""

    def understood(self, row: int, position: int, typed: str) -> str:
        """What a text would mean in a cell, or what is wrong with it: shown while it is typed."""
        column = self.columns[position]
        typed = typed.strip()
        if not typed or self.kind_at(row, column) != "number":
            return ""
        unit, units = self.unit_at(row, column), self.session.project.showing
        try:
            if typed.startswith("="):
                path = self.path_at(row, position)
                if not path:
                    return "no expression can stand here"
                project = expressed(self.session.project, path, typed)
                value = float(value_at(project, path))
            else:
                value = self.session.parse(typed, unit)
        except (UnitError, ExpressionError) as error:
            return str(error)
        except ValidationError as error:
            return "; ".join(p.message for p in problems_of(error)).removeprefix("expressions: ")
        except (KeyError, TypeError):
            return "no expression can stand here"
        return f"= {_plain(value, unit, units)} {shown_unit(unit, units)}".rstrip()

    def _odd(self, row: int, position: int) -> str:
        column = self.columns[position]
        return column.odd(self.rows[row]) if column.odd else ""

    def _noted(self, row: int, position: int) -> str:
        column = self.columns[position]
        return column.note(self.rows[row]) if column.note else ""

    def flags(self, index: QModelIndex | QPersistentModelIndex) -> Qt.ItemFlag:
        return Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEditable

    def setData(
        self, index: QModelIndex | QPersistentModelIndex, value: Any, role: int = Qt.ItemDataRole.EditRole
    ) -> bool:
        place = (index.row(), index.column())
        typed = str(value).strip()
        if role != Qt.ItemDataRole.EditRole or place[0] >= len(self.rows):
            return False
        if typed == (self.expression(*place) or self.text(*place)):
            self.wrong.pop(place, None)
            self.dataChanged.emit(index, index)
            return True
        column = self.columns[place[1]]
        row = self.rows[place[0]]
        try:
            if typed.startswith("=") and self.kind_at(place[0], column) == "number":
                path = self.path_at(*place)
                why = self.session.express(path, typed) if path else "no expression can stand here"
            else:
                converted = self._converted(place[0], column, typed)
                why = self.session.edit(column.path(row), converted)
        except UnitError as error:
            why = str(error)
        if why:
            self.wrong[place] = (typed, why)
            self.session.say(f"! {column.title}: {why}")
        else:
            self.wrong.pop(place, None)
        self.dataChanged.emit(index, index)
        return not why

    def _converted(self, row: int, column: Column, typed: str) -> Any:
        kind = self.kind_at(row, column)
        if not typed and column.optional:
            return column.empty
        value: Any = typed
        if kind == "number":
            value = self.session.parse(typed, self.unit_at(row, column))
        elif kind == "yes":
            if typed.lower() not in ("yes", "no"):
                raise UnitError(f"'{typed}' is neither yes nor no")
            value = typed.lower() == "yes"
        elif kind == "words":
            value = tuple(word.strip() for word in typed.split(",") if word.strip())
        elif kind == "choice":
            choices = self.choices_at(row, column)
            if typed not in choices:
                raise UnitError(f"'{typed}' is not one of: {', '.join(choices)}")
        if column.convert_in:
            return column.convert_in(self.rows[row], value)
        return column.convert(value) if column.convert else value


def _plain(value: float, unit: str, units: UnitSet) -> str:
    """A number for a cell: what was typed comes back as it was typed."""
    if unit == "m" and not isinstance(units, str) and units.feet_and_inches and in_eighths(value):
        return feet_words(value)
    shown = to_shown(value, unit, units)
    text = f"{shown + 0.0:.6g}"  # no zero with a sign
    if "e" in text:
        text = f"{shown:.0f}" if abs(shown) >= 1 else f"{shown:.9f}".rstrip("0").rstrip(".")
    return text.replace("-", "−")


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

    def say(self, text: str) -> None:
        """Shows a text right of the cell, or left of it where there is no room."""
        self.setText(text)
        self.setVisible(bool(text))
        self.adjustSize()
        box = self.editor.geometry()
        room = self.parentWidget().width()
        x = (
            box.right() + 4
            if box.right() + 4 + self.width() <= room
            else max(box.left() - self.width() - 4, 0)
        )
        self.setGeometry(x, box.top(), min(self.width(), room), box.height())
        self.raise_()


class ChoiceDelegate(QStyledItemDelegate):
    """Offers a list where a column has choices."""

    def createEditor(
        self, parent: QWidget, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> QWidget:
        model: TableModel = index.model()  # type: ignore[assignment]
        column = model.columns[index.column()]
        kind = model.kind_at(index.row(), column)
        choices = (
            ("yes", "no")
            if kind == "yes"
            else model.choices_at(index.row(), column)
            if kind == "choice"
            else ()
        )
        if not choices:
            editor = super().createEditor(parent, option, index)
            if isinstance(editor, QLineEdit) and kind == "number":
                reading = Reading(editor, parent, model.theme)
                place = (index.row(), index.column())
                editor.textEdited.connect(lambda text: reading.say(model.understood(*place, text)))
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


HANDLE = 4
"""Half the side of the square by which a block is dragged to fill, px."""
WAYS = {Qt.Key.Key_Up: (-1, 0), Qt.Key.Key_Down: (1, 0), Qt.Key.Key_Left: (0, -1), Qt.Key.Key_Right: (0, 1)}


class TableView(QTableView):
    """As a spreadsheet: Enter takes an entry and goes on down, Ctrl with arrows goes to the end of what is filled, a block is copied, pasted,
    filled down, or dragged by its corner to fill what lies beyond; what is typed below the last row makes another one. Delete empties
    optional cells. Each is one step of undo."""

    def __init__(self, parent: QWidget | None = None, **properties: Any) -> None:
        super().__init__(parent, **properties)
        self.below = False
        """Below the last row: what is typed now makes one more."""
        self._block: tuple[int, int, int, int] | None = None
        """From row to row and column to column, what is being dragged to fill."""

    def model_(self) -> TableModel:
        """The model, as what it is."""
        model: TableModel = self.model()  # type: ignore[assignment]
        return model

    def keyPressEvent(self, event: QKeyEvent) -> None:
        control = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        key, at_last = Qt.Key(event.key()), self._is_last()
        if self.below and event.text().isprintable() and event.text() and not control:
            self._one_more(event)
            return
        self._stand_below(False)
        if event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
        elif event.matches(QKeySequence.StandardKey.Paste):
            self.paste(QGuiApplication.clipboard().text())
        elif key == Qt.Key.Key_Delete:
            with self.model_().session.together():
                for index in self.selectedIndexes():
                    self.model().setData(index, "")
        elif control and key == Qt.Key.Key_D:
            self.fill()
        elif control and key == Qt.Key.Key_M:
            self.ask_note()
        elif control and key in WAYS:
            self._jump(WAYS[key], bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.state() != QTableView.State.EditingState:
            self.go_on()
        elif key == Qt.Key.Key_Down and at_last and not event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._stand_below(True)
        else:
            super().keyPressEvent(event)

    def closeEditor(self, editor: QWidget, hint: QStyledItemDelegate.EndEditHint) -> None:
        at = self.currentIndex()
        super().closeEditor(editor, hint)
        taken = hint == QStyledItemDelegate.EndEditHint.SubmitModelCache and isinstance(editor, QLineEdit)
        # a wrong entry stays in front
        if taken and (at.row(), at.column()) not in self.model_().wrong:
            self.go_on()

    def go_on(self) -> None:
        """To the cell below; from the last row to below it."""
        at = self.currentIndex()
        if self._is_last():
            self._stand_below(True)
        elif at.isValid():
            self.setCurrentIndex(self.model().index(at.row() + 1, at.column()))

    def _is_last(self) -> bool:
        at = self.currentIndex()
        return at.isValid() and at.row() == self.model().rowCount() - 1

    def _stand_below(self, is_so: bool) -> None:
        is_so = is_so and self.model_().spec.add is not None
        if is_so != self.below:
            self.below = is_so
            self.viewport().update()

    def _one_more(self, event: QKeyEvent) -> None:
        """Adds a row like the last one and begins to type into it."""
        model, column = self.model_(), self.currentIndex().column()
        self._stand_below(False)
        why = model.spec.add(model.session, model.rows[-1] if model.rows else None) if model.spec.add else ""
        if why:
            model.session.say(f"! {why}")
            return
        model.refresh()
        self.setCurrentIndex(self.model().index(self.model().rowCount() - 1, column))
        super().keyPressEvent(event)

    def _jump(self, way: tuple[int, int], extends: bool) -> None:
        """To the end of what is filled, or to where something is filled again."""
        model, at = self.model_(), self.currentIndex()
        rows, columns = model.rowCount(), model.columnCount()
        row, column = at.row(), at.column()

        def filled(r: int, c: int) -> bool:
            return 0 <= r < rows and 0 <= c < columns and bool(model.text(r, c))

        beside = filled(row + way[0], column + way[1])
        while 0 <= row + way[0] < rows and 0 <= column + way[1] < columns:
            if beside and not filled(row + way[0], column + way[1]):
                break
            row, column = row + way[0], column + way[1]
            if not beside and filled(row, column):
                break
        to = self.model().index(row, column)
        flag = QItemSelectionModel.SelectionFlag
        if not extends:
            self.selectionModel().setCurrentIndex(to, flag.ClearAndSelect)
            return
        self.selectionModel().select(QItemSelection(at, to), flag.Select)
        self.selectionModel().setCurrentIndex(to, flag.NoUpdate)

    # ------------------------------------------------------------ a block dragged to fill

    def _chosen_block(self) -> tuple[int, int, int, int] | None:
        """Rows and columns of what is chosen, where it is a block."""
        chosen = self.selectedIndexes()
        if not chosen:
            return None
        rows, columns = {i.row() for i in chosen}, {i.column() for i in chosen}
        block = (min(rows), max(rows), min(columns), max(columns))
        whole = (block[1] - block[0] + 1) * (block[3] - block[2] + 1) == len(chosen)
        return block if whole else None

    def handle(self) -> QRect:
        """The square at the corner of what is chosen; empty where that is no block."""
        block = self._chosen_block()
        if block is None or self.state() == QTableView.State.EditingState:
            return QRect()
        corner = self.visualRect(self.model().index(block[1], block[3])).bottomRight()
        return QRect(corner.x() - HANDLE, corner.y() - HANDLE, 2 * HANDLE, 2 * HANDLE)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if naming().is_on:  # an expression is typed: the click is an answer to it
            at = self.indexAt(event.position().toPoint())
            if at.isValid() and not naming().take(self.model_().path_at(at.row(), at.column())):
                naming().take(())
            return
        self._stand_below(False)
        block = self._chosen_block()
        if (
            event.button() == Qt.MouseButton.LeftButton
            and block
            and self.handle().adjusted(-2, -2, 2, 2).contains(event.position().toPoint())
        ):
            self._block = block
            return
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._block is None:
            super().mouseMoveEvent(event)
            return
        at = self.indexAt(event.position().toPoint())
        if at.isValid():
            top, left = self.model().index(self._block[0], self._block[2]), self._end_of_fill(at)
            self.selectionModel().select(
                QItemSelection(top, left), QItemSelectionModel.SelectionFlag.ClearAndSelect
            )
            self.viewport().update()

    def _end_of_fill(self, at: QModelIndex) -> QModelIndex:
        """The corner of the block that is filled: down or to the right, whichever is further."""
        assert self._block is not None
        down, right = at.row() - self._block[1], at.column() - self._block[3]
        if down >= right:
            return self.model().index(max(at.row(), self._block[1]), self._block[3])
        return self.model().index(self._block[1], max(at.column(), self._block[3]))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._block is None:
            super().mouseReleaseEvent(event)
            return
        source, self._block = self._block, None
        to = self._chosen_block()
        if to is not None and to != source:
            self._filled_from(source, to)

    def _filled_from(self, source: tuple[int, int, int, int], to: tuple[int, int, int, int]) -> None:
        """Gives a block what another one within it holds, over and over."""
        model = self.model_()
        high, wide = source[1] - source[0] + 1, source[3] - source[2] + 1
        with model.session.together("filled"):
            for row in range(to[0], to[1] + 1):
                for column in range(to[2], to[3] + 1):
                    if row <= source[1] and column <= source[3]:
                        continue
                    of = (source[0] + (row - source[0]) % high, source[2] + (column - source[2]) % wide)
                    model.setData(model.index(row, column), model.expression(*of) or model.text(*of))
                    model.reread()
        model.refresh()

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        painter = QPainter(self.viewport())
        accent = colour("accent", self.model_().theme)
        square = self.handle()
        if not square.isEmpty():
            painter.fillRect(square, accent)
        if self.below:
            last = self.visualRect(self.model().index(self.model().rowCount() - 1, 0))
            painter.fillRect(QRect(0, last.bottom() + 1, self.viewport().width(), 2), accent)
        painter.end()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        self.menu().exec(event.globalPos())

    def menu(self) -> QMenu:
        """What can be done with the chosen cells."""
        menu = QMenu(self)
        at = self.currentIndex()
        title = self.model_().columns[at.column()].title if at.isValid() else ""
        for text, action in (
            ("Copy\tCtrl+C", self.copy),
            ("Paste\tCtrl+V", lambda: self.paste(QGuiApplication.clipboard().text())),
            ("Fill down\tCtrl+D", self.fill),
            (f"Sort rows by {title}", lambda: self.sort_by(at.column())),
            ("Note on this value …\tCtrl+M", self.ask_note),
        ):
            menu.addAction(text, action)
        return menu

    def copy(self) -> None:
        """Puts the selected cells onto the clipboard, tab-separated."""
        chosen = self.selectedIndexes()
        if not chosen:
            return
        rows = sorted({i.row() for i in chosen})
        columns = sorted({i.column() for i in chosen})
        model = self.model_()
        lines = ["\t".join(model.text(r, c) for c in columns) for r in rows]
        QGuiApplication.clipboard().setText("\n".join(lines))

    def paste(self, text: str) -> None:
        """Writes a block from the current cell on; cells that are wrong are marked, rows that are missing are added.

        A header row of the table is recognised and left out.
        """
        start = self.currentIndex()
        model = self.model_()
        if not start.isValid():
            return
        lines = [line.rstrip("\r").split("\t") for line in text.rstrip("\n").split("\n")]
        titles = {c.title.lower() for c in model.columns}
        if (
            len(lines) > 1
            and all(not cell or cell.split("[")[0].strip().lower() in titles for cell in lines[0])
            and any(lines[0])
        ):
            lines = lines[1:]
        taken = refused = 0
        with model.session.together("pasted"):
            need = start.row() + len(lines)
            while (
                need > len(model.rows)
                and model.spec.add
                and not model.spec.add(model.session, model.rows[-1] if model.rows else None)
            ):
                model.reread()
            cells = [
                (start.row() + i, start.column() + j, typed)
                for i, line in enumerate(lines)
                for j, typed in enumerate(line)
            ]
            inside = [(r, c, t) for r, c, t in cells if r < len(model.rows) and c < len(model.columns)]
            # a row is found by its name: names change when all else is in place
            for row, column, typed in sorted(inside, key=lambda cell: model.is_name(cell[0], cell[1])):
                if model.setData(model.index(row, column), typed):
                    taken += 1
                else:
                    refused += 1
                model.reread()
        model.refresh()
        outside = len(cells) - len(inside)
        parts = [f"{taken} cell{'s' * (taken != 1)} pasted"]
        parts += [f"{refused} refused: the marked ones say why"] * bool(refused)
        parts += [f"{outside} beyond the table"] * bool(outside)
        model.session.say(("! " if refused or outside else "") + ", ".join(parts))

    def fill(self) -> None:
        """Gives the chosen cells below the uppermost of each column its content."""
        model = self.model_()
        columns: dict[int, list[int]] = {}
        for index in self.selectedIndexes():
            columns.setdefault(index.column(), []).append(index.row())
        with model.session.together("filled down"):
            for column, rows in columns.items():
                first, *others = sorted(rows)
                typed = model.expression(first, column) or model.text(first, column)
                for row in others:
                    model.setData(model.index(row, column), typed)
                    model.reread()
        model.refresh()

    def sort_by(self, position: int) -> None:
        """Sorts the rows of the project by a column; a second time the other way round."""
        model = self.model_()
        if not model.spec.order or position < 0 or not model.rows:
            model.session.say("! the rows of this table have an order of their own")
            return
        column = model.columns[position]

        def key(row: Any) -> tuple[int, Any]:
            value = column.get(row)
            if value is None:
                return (2, "")
            return (0, float(value)) if isinstance(value, (int, float)) else (1, _natural(str(value)))

        rows = sorted(model.rows, key=key)
        if rows == model.rows:
            rows.reverse()
        why = model.spec.order(model.session, rows)
        if why:
            model.session.say(f"! {why}")

    def ask_note(self) -> None:
        """Asks for a note on the current value."""
        at, model = self.currentIndex(), self.model_()
        path = model.path_at(at.row(), at.column()) if at.isValid() else ()
        if not path:
            model.session.say("! choose a value to note something on")
            return
        title = f"Note on {model.columns[at.column()].title}, {spoken(path[:-1])}"
        text, taken = QInputDialog.getMultiLineText(self, "Note", title, model.session.note(path))
        if taken:
            model.session.apply(noted(model.session.project, path, text), "note kept")


def _natural(text: str) -> tuple[tuple[int, Any], ...]:
    """A key by which P2 comes before P10."""
    parts = re.findall(r"\d+|\D+", text.lower())
    return tuple((0, int(p)) if p.isdigit() else (1, p) for p in parts)


FITTED = 40
"""Rows by whose texts the width of a column is found."""


class TablePanel(QWidget):
    """A table with its buttons."""

    def __init__(
        self, session: Session, spec: Spec, theme: Theme, view: "type[TableView]" = TableView
    ) -> None:
        super().__init__(objectName=f"panel-{spec.name}")
        self.session, self.spec = session, spec
        self.model = TableModel(session, spec, theme)
        self.view = view(objectName=f"table-{spec.name}")
        self.view.setAccessibleName(spec.name.replace("-", " "))
        self.view.setModel(self.model)
        self.view.setItemDelegate(ChoiceDelegate(self.view))
        self.view.setFont(font(SIZE["text"]))
        self.view.horizontalHeader().setFont(font(SIZE["small"] + 0.5))
        self.view.horizontalHeader().setDefaultAlignment(
            Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        )
        self.view.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        self.view.verticalHeader().setDefaultSectionSize(25)
        self.view.verticalHeader().hide()
        self.view.setEditTriggers(
            QAbstractItemView.EditTrigger.DoubleClicked | QAbstractItemView.EditTrigger.EditKeyPressed
            | QAbstractItemView.EditTrigger.AnyKeyPressed
        )  # fmt: skip
        self.hint = Label(spec.empty, objectName="quiet", wordWrap=True)
        self.hint.setContentsMargins(14, 10, 14, 10)
        bar = QHBoxLayout()
        bar.setContentsMargins(8, 4, 8, 4)
        bar.setSpacing(6)
        short = spec.tools is not None  # beside more controls there is less room
        self.add_button = QPushButton("Add" if short else f"Add {spec.noun}", objectName=f"add-{spec.name}")
        self.remove_button = QPushButton(
            "Remove" if short else f"Remove {spec.noun}", objectName=f"remove-{spec.name}"
        )
        self.add_button.setToolTip(f"Add a {spec.noun}" if short else "")
        self.remove_button.setToolTip(f"Remove the {spec.noun} of the current row" if short else "")
        self.add_button.clicked.connect(self._add)
        self.remove_button.clicked.connect(self._remove)
        for button, does in ((self.add_button, spec.add), (self.remove_button, spec.remove)):
            bar.addWidget(button)
            if does is None:  # to show one that has no parent yet would make it a window
                button.hide()
        if spec.tools:
            bar.addSpacing(14)
            bar.addWidget(spec.tools(self))
        bar.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.hint)
        column.addWidget(self.view, 1)
        if spec.add or spec.remove or spec.tools:
            column.addLayout(bar)
        self._fits = False
        """The columns are as wide as what stands in them."""
        self.model.modelReset.connect(self._was_reset)
        self._was_reset()

    def _was_reset(self) -> None:
        self.hint.setVisible(bool(self.spec.empty) and not self.model.rows)
        self.remove_button.setEnabled(bool(self.model.rows))
        self._fits = False
        if self.isVisible():
            self._fit()

    def _fit(self) -> None:
        self._fits = True
        self.view.horizontalHeader().setResizeContentsPrecision(FITTED)
        for i, column in enumerate(self.model.columns):
            if not column.width:
                self.view.resizeColumnToContents(i)
            wide = column.width or min(max(self.view.columnWidth(i) + 8, 62), 240)
            self.view.setColumnWidth(i, wide)

    def showEvent(self, event: QShowEvent) -> None:
        """One that was behind another is fitted when it comes to the front."""
        super().showEvent(event)
        if not self._fits:
            self._fit()

    def refresh(self) -> None:
        """Reads the project again."""
        self.model.refresh()

    def current_row(self) -> Any:
        """The row object of the current cell."""
        row = self.view.currentIndex().row()
        return self.model.rows[row] if 0 <= row < len(self.model.rows) else None

    def _add(self) -> None:
        if self.spec.add:
            why = self.spec.add(self.session, self.current_row())
            if why:
                self.session.say(f"! {why}")
            else:
                self.session.follow(self._go_to_the_last)

    def _go_to_the_last(self) -> None:
        self.view.setCurrentIndex(self.model.index(len(self.model.rows) - 1, 0))

    def _remove(self) -> None:
        row = self.current_row()
        if self.spec.remove:
            if row is None:
                self.session.say(f"! choose the {self.spec.noun} to remove first")
                return
            why = self.spec.remove(self.session, row)
            if why:
                self.session.say(f"! {why}")
