"""Tries: states set aside under a name, compared with what is there now, one of them taken back."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QCloseEvent, QKeyEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from korbent.app.session import Session, Try
from korbent.app.words import Label
from korbent.app.workers import Task, pool
from korbent.core.model import Project
from korbent.core.model.differences import differences
from korbent.core.sizing.figures import Figures
from korbent.core.units import show, show_ratio, shown_unit, to_shown
from korbent.drawing.words import show_weight, size_words, weight_unit
from korbent.words import say

NOW = say("now")
COMPUTED = say("being computed …")
COLUMNS = 9


def proposed_name(session: Session) -> str:
    """A name for a try: its number, and what was changed last."""
    number = len(session.tries()) + 1
    if session.position == 0:
        return say("try {number}", number=number)
    lines = differences(session.history[session.position - 1], session.project, 1)
    return (
        say("try {number}: {lines}", number=number, lines=lines[0])[:60]
        if lines
        else say("try {number}", number=number)
    )


class TriesDialog(QDialog):
    """A row for what is there now and one for each try; the figures come from a worker."""

    def __init__(self, session: Session, parent: QWidget) -> None:
        super().__init__(parent, objectName="tries-dialog")
        self.session = session
        self.shown: tuple[Try, ...] = ()
        self.found: dict[int, Figures] = {}
        self._job: Task | None = None
        self.setWindowTitle(say("Tries"))
        self.resize(1040, 300)
        self.name = QLineEdit(objectName="try-name", placeholderText=say("a name for it"))
        self.name.returnPressed.connect(self.keep)
        self.keep_button = QPushButton(say("Keep this try"), objectName="keep-try", autoDefault=False)
        self.keep_button.clicked.connect(self.keep)
        self.table = QTableWidget(0, COLUMNS, objectName="tries")
        self.table.verticalHeader().setVisible(False)
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.itemSelectionChanged.connect(self._chosen)
        self.table.itemDoubleClicked.connect(lambda _: self.take())
        self.note = Label("", objectName="quiet", wordWrap=True)
        self.take_button = QPushButton(say("Take it back"), objectName="take-try", autoDefault=False)
        self.take_button.setToolTip(say("The whole project as it was in this try; one step of undo"))
        self.take_button.clicked.connect(self.take)
        self.forget_button = QPushButton(say("Forget it"), objectName="forget-try", autoDefault=False)
        self.forget_button.clicked.connect(self.forget)
        close = QPushButton(say("Close"), objectName="close-tries", autoDefault=False)
        close.clicked.connect(self.close)
        top, foot = QHBoxLayout(), QHBoxLayout()
        top.addWidget(self.name, 1)
        top.addWidget(self.keep_button)
        foot.addWidget(self.note, 1)
        for button in (self.take_button, self.forget_button, close):
            foot.addWidget(button)
        column = QVBoxLayout(self)
        column.addLayout(top)
        column.addWidget(self.table, 1)
        column.addLayout(foot)
        self.reread()

    def reread(self) -> None:
        """Shows what is set aside now."""
        session, u = self.session, self.session.project.showing
        base = session.selected or say("Base")
        self.table.setHorizontalHeaderLabels(
            [
                "",
                base,
                say("Concrete, {unit}", unit=shown_unit("m³", u)),
                say("Steel, {unit}", unit=weight_unit(u)),
                say("Cost"),
                say("Carbon, kg CO₂e"),
                say("Settlement, {unit}", unit=shown_unit("mm", u)),
                say("Worst check"),
                say("Fail"),
            ]
        )
        self.shown, self.found = session.tries(), {}
        self.table.setRowCount(1 + len(self.shown))
        for row, (name, project) in enumerate(self._rows()):
            self._fill(row, [name, self._size(project), "", "", "", "", "", COMPUTED, ""])
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(7, QHeaderView.ResizeMode.Stretch)
        self.name.setText(proposed_name(session))
        self.name.selectAll()
        self._leave_off()
        projects = tuple(project for _, project in self._rows())
        self._job = pool().run("figures", projects, (projects,), self._finished, self._came, channel="figures")
        self._chosen()

    def _rows(self) -> list[tuple[str, Project]]:
        return [(NOW, self.session.project), *((one.name, one.project) for one in self.shown)]

    def _size(self, project: Project, found: Figures | None = None) -> str:
        """The selected base in one of them, with its worst ratio where that is known."""
        name = self.session.selected
        pad = next((p for p in project.pads if p.name == name), None)
        if pad is None:
            return "–"
        bad = found.of_bases.get(name) if found else None
        ratio = "" if bad is None else f" · {bad.state.word if bad.ratio is None else show_ratio(bad.ratio)}"
        return size_words(pad, self.session.project.showing) + ratio

    def _fill(self, row: int, texts: list[str]) -> None:
        for column, text in enumerate(texts):
            item = QTableWidgetItem(text)
            if column in (2, 3, 4, 5, 6, 8):
                item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
            item.setToolTip(text if column in (0, 7) else "")
            self.table.setItem(row, column, item)

    def _came(self, told: tuple[int, Figures]) -> None:
        row, found = told
        self.found[row] = found
        name, project = self._rows()[row]
        u, amounts, bad = self.session.project.showing, found.amounts, found.worst
        concrete = to_shown(amounts.concrete, "m³", u)
        said = "" if bad is None else f"{bad.foundation}: {bad.check.title.lower()}"
        said += f" {show_ratio(bad.ratio)}" if bad is not None and bad.ratio is not None else ""
        settled = "–" if found.settlement is None else show(found.settlement, "mm", u)
        self._fill(
            row,
            [
                name,
                self._size(project, found),
                f"{concrete:.1f}",
                show_weight(amounts.steel, u),
                f"{amounts.cost:,.0f}".replace(",", "\u202f"),
                f"{amounts.carbon:,.0f}".replace(",", "\u202f"),
                settled,
                said,
                str(found.failing),
            ],
        )
        if row and 0 in self.found:
            self._chosen()

    def _finished(self, _: object, found: object) -> None:
        self._job = None
        if found is None:
            self.note.setText(say("The figures could not be computed; the log tells why."))

    def _row(self) -> int:
        rows = self.table.selectionModel().selectedRows()
        return rows[0].row() if rows else 0

    def _chosen(self) -> None:
        """What a chosen try has more or less than what is there now."""
        row = self._row()
        self.take_button.setEnabled(row > 0)
        self.forget_button.setEnabled(row > 0)
        self.keep_button.setEnabled(all(one.project != self.session.project for one in self.shown))
        if row and row in self.found and 0 in self.found:
            now, then = self.found[0].amounts, self.found[row].amounts
            parts = (
                f"{name} {100 * (b / a - 1):+.1f} %".replace("-", "−")
                for name, a, b in (
                    ("concrete", now.concrete, then.concrete),
                    ("steel", now.steel, then.steel),
                    ("cost", now.cost, then.cost),
                )
                if a
            )
            self.note.setText(say("{name} against now: {parts}", name=self.shown[row - 1].name, parts=", ".join(parts)))
        else:
            self.note.setText(
                "" if self.shown else say("Nothing is set aside yet: keep what is there now, change it, and compare.")
            )

    def keep(self) -> None:
        """Sets what is there now aside."""
        why = self.session.keep_try(self.name.text()) if self.keep_button.isEnabled() else say("this is kept already")
        if why:
            self.note.setText(why)
        else:
            self.reread()

    def take(self) -> None:
        """The project as it was in the chosen try; one step of undo."""
        row = self._row()
        if row:
            one = self.shown[row - 1]
            self.session.apply(one.project, say("'{one}' is back; undo shows what was there before", one=one.name))
            self.close()

    def forget(self) -> None:
        """Drops the chosen try."""
        row = self._row()
        if row:
            self.session.forget_try(self.shown[row - 1].name)
            self.reread()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Delete and self.table.hasFocus():
            self.forget()
        else:
            super().keyPressEvent(event)

    def _leave_off(self) -> None:
        if self._job is not None:
            self._job.leave_off()
            self._job = None

    def closeEvent(self, event: QCloseEvent) -> None:
        """What goes on is left off."""
        self._leave_off()
        super().closeEvent(event)
