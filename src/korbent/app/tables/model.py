"""The rows and columns of a table for Qt: texts, units, what is odd, and what is typed."""

from collections.abc import Sequence
from typing import Any

from pydantic import ValidationError
from PySide6.QtCore import (
    QAbstractTableModel,
    QModelIndex,
    QPersistentModelIndex,
    Qt,
)

from korbent.app.session import Session
from korbent.app.style import colour, font
from korbent.app.tables.column import Column, Path, Spec
from korbent.app.words import tip
from korbent.core.model import expressed, value_at
from korbent.core.model.expressions import ExpressionError
from korbent.core.model.labels import key_of, label, labels
from korbent.core.units import UnitError, UnitSet, feet_words, in_eighths, shown_unit, to_shown
from korbent.drawing.theme import SIZE, Theme
from korbent.files.project_file import problems_of
from korbent.words import say


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

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
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
            return label("yes" if value else "no")
        if kind == "words":
            return ", ".join(value)
        if kind == "key":
            return label(str(value))
        if kind == "keys":
            return labels(value)
        if kind == "number" and not isinstance(value, str):
            units = self.session.project.showing
            unit = self.unit_at(row, column)
            text = _plain(float(value), unit, units)
            return f"{text} {shown_unit(unit, units)}" if column.unit_of and unit else text
        return str(value)

    def data(self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
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
            token = "odd_wash" if self._odd(*place) else column.tint(self.rows[place[0]]) if column.tint else ""
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
        return self.session.expression(path) if path and self.kind_at(row, self.columns[position]) == "number" else ""

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
                    return say("no expression can stand here")
                project = expressed(self.session.project, path, typed)
                value = float(value_at(project, path))
            else:
                value = self.session.parse(typed, unit)
        except (UnitError, ExpressionError) as error:
            return str(error)
        except ValidationError as error:
            return "; ".join(p.message for p in problems_of(error)).removeprefix("expressions: ")
        except (KeyError, TypeError):
            return say("no expression can stand here")
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
                why = self.session.express(path, typed) if path else say("no expression can stand here")
            else:
                converted = self._converted(place[0], column, typed)
                why = self.session.edit(column.path(row), converted)
        except UnitError as error:
            why = str(error)
        if why:
            self.wrong[place] = (typed, why)
            self.session.announce(f"! {column.title}: {why}")
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
            answer = key_of(typed, ("yes", "no"))
            if answer is None:
                raise UnitError(say("'{typed}' is neither yes nor no", typed=typed))
            value = answer == "yes"
        elif kind == "key":
            value = _key(typed, self.choices_at(row, column))
        elif kind == "keys":
            value = tuple(_key(word, self.choices_at(row, column)) for word in typed.split(",") if word.strip())
        elif kind == "words":
            value = tuple(word.strip() for word in typed.split(",") if word.strip())
        elif kind == "choice":
            choices = self.choices_at(row, column)
            if typed not in choices:
                raise UnitError(say("'{typed}' is not one of: {choices}", typed=typed, choices=", ".join(choices)))
        if column.convert_in:
            return column.convert_in(self.rows[row], value)
        return column.convert(value) if column.convert else value


def _key(typed: str, keys: Sequence[str]) -> str:
    found = key_of(typed, keys)
    if found is None:
        raise UnitError(say("'{typed}' is not one of: {keys}", typed=typed.strip(), keys=labels(k for k in keys if k)))
    return found


def _plain(value: float, unit: str, units: UnitSet) -> str:
    """A number for a cell: what was typed comes back as it was typed."""
    if unit == "m" and not isinstance(units, str) and units.feet_and_inches and in_eighths(value):
        return feet_words(value)
    shown = to_shown(value, unit, units)
    text = f"{shown + 0.0:.6g}"  # no zero with a sign
    if "e" in text:
        text = f"{shown:.0f}" if abs(shown) >= 1 else f"{shown:.9f}".rstrip("0").rstrip(".")
    return text.replace("-", "−")
