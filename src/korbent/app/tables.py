"""Editing tables: one row a thing, one column a field, with units and validation in place."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, Qt
from PySide6.QtGui import QGuiApplication, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from korbent.app.session import Session
from korbent.app.style import colour, font
from korbent.core.units import UnitError, show, shown_unit
from korbent.drawing.theme import SIZE, Theme

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
    note: Callable[[Any], str] | None = None
    """Where the value of a row comes from; such cells are set in the accent colour, the note is their tooltip."""


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


class TableModel(QAbstractTableModel):
    """A table over the project. A wrong entry stays in its cell, marked, until it is corrected or dropped."""

    def __init__(self, session: Session, spec: Spec, theme: Theme) -> None:
        super().__init__()
        self.session, self.spec, self.theme = session, spec, theme
        self.rows: list[Any] = []
        self.columns: list[Column] = []
        self.wrong: dict[tuple[int, int], tuple[str, str]] = {}
        self.refresh()

    def refresh(self) -> None:
        """Reads the project again; the shape of the table is reset only when it changed."""
        rows, columns = list(self.spec.rows(self.session)), list(self.spec.columns(self.session))
        same = len(rows) == len(self.rows) and [c.title for c in columns] == [c.title for c in self.columns]
        if same:
            self.rows, self.columns = rows, columns
            if rows and columns:
                self.dataChanged.emit(self.index(0, 0), self.index(len(rows) - 1, len(columns) - 1))
            self.headerDataChanged.emit(Qt.Orientation.Horizontal, 0, max(len(columns) - 1, 0))
        else:
            self.beginResetModel()
            self.rows, self.columns, self.wrong = rows, columns, {}
            self.endResetModel()

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
                return column.tip or None
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
            text = show(float(value), unit, units, 4)
            text = text.rstrip("0").rstrip(".") if "." in text else text
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
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.EditRole):
            return wrong[0] if wrong else self.text(*place)
        if role == Qt.ItemDataRole.ToolTipRole:
            return wrong[1] if wrong else self._noted(*place) or column.tip or None
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
        if typed == self.text(*place):
            self.wrong.pop(place, None)
            self.dataChanged.emit(index, index)
            return True
        column = self.columns[place[1]]
        row = self.rows[place[0]]
        try:
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
            return None
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
        return column.convert(value) if column.convert else value


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
            return super().createEditor(parent, option, index)
        box = QComboBox(parent)
        box.addItems(["", *choices] if column.optional else list(choices))
        box.activated.connect(lambda _: self._commit(box))
        return box

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


class TableView(QTableView):
    """Copies to and pastes from a spreadsheet; Delete empties optional cells."""

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
        elif event.matches(QKeySequence.StandardKey.Paste):
            self.paste(QGuiApplication.clipboard().text())
        elif event.key() == Qt.Key.Key_Delete:
            for index in self.selectedIndexes():
                self.model().setData(index, "")
        else:
            super().keyPressEvent(event)

    def copy(self) -> None:
        """Puts the selected cells onto the clipboard, tab-separated."""
        chosen = self.selectedIndexes()
        if not chosen:
            return
        rows = sorted({i.row() for i in chosen})
        columns = sorted({i.column() for i in chosen})
        model: TableModel = self.model()  # type: ignore[assignment]
        lines = ["\t".join(model.text(r, c) for c in columns) for r in rows]
        QGuiApplication.clipboard().setText("\n".join(lines))

    def paste(self, text: str) -> None:
        """Writes a tab-separated block from the current cell on; cells that are wrong are marked."""
        start = self.currentIndex()
        model: TableModel = self.model()  # type: ignore[assignment]
        if not start.isValid():
            return
        for i, line in enumerate(text.rstrip("\n").split("\n")):
            for j, typed in enumerate(line.rstrip("\r").split("\t")):
                target = model.index(start.row() + i, start.column() + j)
                if target.isValid():
                    model.setData(target, typed)


class TablePanel(QWidget):
    """A table with its buttons."""

    def __init__(self, session: Session, spec: Spec, theme: Theme) -> None:
        super().__init__(objectName=f"panel-{spec.name}")
        self.session, self.spec = session, spec
        self.model = TableModel(session, spec, theme)
        self.view = TableView(objectName=f"table-{spec.name}")
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
        self.hint = QLabel(spec.empty, objectName="quiet", wordWrap=True)
        self.hint.setContentsMargins(14, 10, 14, 10)
        bar = QHBoxLayout()
        bar.setContentsMargins(8, 4, 8, 4)
        self.add_button = QPushButton(f"Add {spec.noun}", objectName=f"add-{spec.name}")
        self.remove_button = QPushButton(f"Remove {spec.noun}", objectName=f"remove-{spec.name}")
        self.add_button.clicked.connect(self._add)
        self.remove_button.clicked.connect(self._remove)
        self.add_button.setVisible(spec.add is not None)
        self.remove_button.setVisible(spec.remove is not None)
        bar.addWidget(self.add_button)
        bar.addWidget(self.remove_button)
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
        self.model.modelReset.connect(self._fit)
        self._fit()

    def _fit(self) -> None:
        self.view.resizeColumnsToContents()
        for i, column in enumerate(self.model.columns):
            wide = column.width or min(max(self.view.columnWidth(i) + 8, 62), 240)
            self.view.setColumnWidth(i, wide)
        self.hint.setVisible(bool(self.spec.empty) and not self.model.rows)
        self.remove_button.setEnabled(bool(self.model.rows))

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
