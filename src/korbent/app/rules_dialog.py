"""The rule set as a table: its values with their source, which a project may have otherwise, and its rows."""

import re

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QDialogButtonBox,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QTabWidget,
    QVBoxLayout,
    QWidget,
)

from korbent.app.session import Session
from korbent.app.style import sheet
from korbent.app.words import Label, tip
from korbent.core.actions.rules import Said, rule_set, said
from korbent.core.model.labels import label, labels
from korbent.core.quantity_text import AmbiguousNumberError, parse
from korbent.core.units import UnitError
from korbent.drawing.theme import Theme
from korbent.words import say

VALUES = (say("Value"), say("By the standard"), say("Here"), say("Of what"), say("Source"))
HERE = 2
ROWS = (
    (say("Clause"), 150),
    (say("Serves"), 118),
    (say("Permanent"), 118),
    (say("Other actions"), 0),
    (say("Base and\nbackfill"), 104),
    (say("Earth and water\npressure"), 112),
    (say("Water"), 60),
    (say("Situation"), 78),
)
"""Heads and widths; 0: what is left."""
AT_ONCE = 6
"""Rows of the table that are filled in one turn."""
LETTERS = {"gamma": "γ", "psi": "ψ", "xi": "ξ", "rho": "ρ"}


class RulesDialog(QDialog):
    """Shows a rule set; what is typed under Here is the project's own, and takes effect when combinations are
    generated."""

    def __init__(self, session: Session, name: str, theme: Theme, parent: QWidget | None) -> None:
        super().__init__(parent, objectName="rule-set")
        self.session, self.rules = session, rule_set(name)
        self.changed = dict(session.project.actions.rule_values)
        self.setWindowTitle(say("Rules of {name}", name=name))
        self.setStyleSheet(sheet(theme))
        self.resize(1120, 600)
        self.search = QLineEdit(objectName="rules-find", placeholderText=say("Find: wind, psi, EQU …"))
        self.search.textChanged.connect(lambda _: self._find())
        self._more = QTimer(self, singleShot=True, interval=0)
        self._more.timeout.connect(self._some_rows)
        self.values = _table(VALUES, "rule-values")
        self.values.itemChanged.connect(self._typed)
        self.rows = _table(tuple(head for head, _ in ROWS), "rule-rows")
        tabs = QTabWidget(objectName="rule-tabs")
        tabs.addTab(self.rows, say("Rows"))
        tabs.addTab(self.values, say("Values"))
        self.word = Label("", objectName="rule-word")
        self.word.setWordWrap(True)
        kinds = QDialogButtonBox.StandardButton
        buttons = QDialogButtonBox(kinds.Ok | kinds.Cancel)
        buttons.button(kinds.Ok).setText(say("Generate with these"))
        buttons.button(kinds.Ok).setObjectName("rules-generate")
        self.standard = QPushButton(say("All as in the standard"), objectName="rules-standard")
        self.standard.clicked.connect(self._as_in_the_standard)
        buttons.addButton(self.standard, QDialogButtonBox.ButtonRole.ResetRole)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        for part in (self.search, tabs, self.word, buttons):
            column.addWidget(part, 1 if part is tabs else 0)
        self._fill()

    def _fill(self) -> None:
        self.values.blockSignals(True)
        self.values.setRowCount(len(self.rules.values))
        for i, value in enumerate(self.rules.values):
            here = self.changed.get(value.name)
            texts = (
                _named(value.name),
                f"{value.value:g}",
                "" if here is None else f"{here:g}",
                value.about,
                value.source,
            )
            for j, text in enumerate(texts):
                item = QTableWidgetItem(text)
                if j != HERE:
                    item.setFlags(item.flags() & ~Qt.ItemFlag.ItemIsEditable)
                self.values.setItem(i, j, item)
        self.values.blockSignals(False)
        self._rest = list(enumerate(said(self.rules)))
        self.rows.setRowCount(len(self._rest))
        self._more.start()
        self.values.resizeColumnsToContents()
        self.values.horizontalHeader().setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        for i, (_, width) in enumerate(ROWS):
            self.rows.setColumnWidth(i, width or 100)
            if not width:
                self.rows.horizontalHeader().setSectionResizeMode(i, QHeaderView.ResizeMode.Stretch)
        self._say()

    def _some_rows(self) -> None:
        """Some rows at a time: many rows that all wrap take a while."""
        some, self._rest = self._rest[:AT_ONCE], self._rest[AT_ONCE:]
        for i, row in some:
            for j, text in enumerate(_cells(row)):
                item = QTableWidgetItem(text)
                item.setFlags(item.flags() & ~Qt.ItemFlag.ItemIsEditable)
                item.setToolTip(tip(text))
                self.rows.setItem(i, j, item)
            self.rows.resizeRowToContents(i)
        if self._rest:
            self._more.start()

    def _say(self, text: str = "") -> None:
        own = [_named(v.name) for v in self.rules.values if v.name in self.changed]
        plain = (
            say("This project has its own: {own}.", own=", ".join(own))
            if own
            else say("All values are those of the standard, as recommended; type others under Here.")
        )
        self.word.setText(text or plain)

    def _find(self) -> None:
        words = self.search.text().lower().split()
        while self._rest:
            self._some_rows()
        for table in (self.values, self.rows):
            for i in range(table.rowCount()):
                text = " ".join(item.text() for j in range(table.columnCount()) if (item := table.item(i, j))).lower()
                table.setRowHidden(i, not all(w in text for w in words))

    def _typed(self, item: QTableWidgetItem) -> None:
        """Takes a number, or with nothing the standard's."""
        value, text = self.rules.values[item.row()], item.text().strip()
        try:
            number = parse(text, "", self.session.project.showing) if text else None
        except (UnitError, AmbiguousNumberError, ValueError) as error:
            self._fill()
            self._say(f"{_named(value.name)}: {error}")
            return
        if number is not None and not 0 <= number <= 10:
            self._fill()
            self._say(
                say(
                    "{lettered}: {number:g} is no factor; it lies between 0 and 10",
                    lettered=_named(value.name),
                    number=number,
                )
            )
            return
        if number is None or number == value.value:
            self.changed.pop(value.name, None)
        else:
            self.changed[value.name] = number
        self._fill()

    def _as_in_the_standard(self) -> None:
        for value in self.rules.values:
            self.changed.pop(value.name, None)
        self._fill()


def _cells(row: Said) -> tuple[str, ...]:
    texts = (
        row.clause,
        labels(row.serves),
        row.permanent,
        row.others or say("none"),
        row.weights,
        row.pressing,
        label(row.water),
        label(row.situation),
    )
    return tuple(_lettered(text) for text in texts)


def _named(value: str) -> str:
    """The name of a value, with the action that it is of as it is read."""
    first, *of = value.split()
    return " ".join((_lettered(first), *map(label, of)))


def _lettered(text: str) -> str:
    """Names of values as they are written: gamma_G_sup as γ_G,sup."""

    def letters(match: re.Match[str]) -> str:
        first, _, rest = match[0].partition("_")
        start = re.sub(r"[a-z]+", lambda m: LETTERS.get(m[0], m[0]), first)
        return f"{start}_{rest.replace('_', ',')}" if rest else start

    return re.sub(r"\b(gamma|psi\d?|xi|rho)(_\w+)?\b", letters, text)


def _table(heads: tuple[str, ...], name: str) -> QTableWidget:
    table: QTableWidget = QTableWidget(0, len(heads), objectName=name)
    table.setHorizontalHeaderLabels(list(heads))
    table.verticalHeader().hide()
    table.setWordWrap(True)
    table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectItems)
    return table
