"""Which kind of foundation for the marked columns: the kinds side by side as they are found, and one of them taken."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from korbent.app.session import Session
from korbent.app.words import Label
from korbent.app.workers import Task, pool
from korbent.core.model.labels import label
from korbent.core.sizing.cost import Objective
from korbent.core.sizing.kinds import KINDS, Option
from korbent.core.units import show, show_ratio, shown_unit, to_shown
from korbent.drawing.words import show_weight, weight_unit
from korbent.words import say

COMPUTED = say("being computed …")


class KindsDialog(QDialog):
    """The table fills row by row; nothing of the project changes before one is taken."""

    def __init__(self, session: Session, columns: tuple[str, ...], objective: Objective, parent: QWidget) -> None:
        super().__init__(parent)
        self.session, self.project, self.columns = session, session.project, columns
        self.found: dict[str, Option] = {}
        self.setWindowTitle(say("Which kind of foundation?"))
        self.resize(900, 280)
        named = ", ".join(columns[:8]) + (" …" if len(columns) > 8 else "")
        head = Label(
            say(
                "For {named}: each kind with the least size that was found for it. Nothing is changed until one is taken.",
                named=named,
            ),
            wordWrap=True,
        )
        u = session.project.showing
        self.table = QTableWidget(len(KINDS), 8, objectName="kinds")
        self.table.setHorizontalHeaderLabels(
            [
                say("Kind"),
                say("Bases"),
                say("Area, {unit}", unit=shown_unit("m²", u)),
                say("Concrete, {unit}", unit=shown_unit("m³", u)),
                say("Steel, {unit}", unit=weight_unit(u)),
                say("Cost"),
                say("Settlement, {unit}", unit=shown_unit("mm", u)),
                say("Worst check"),
            ]
        )
        self.table.verticalHeader().setVisible(False)
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(7, QHeaderView.ResizeMode.Stretch)
        for row, kind in enumerate(KINDS):
            self._fill(row, [kind, "", "", "", "", "", "", COMPUTED])
        self.table.itemSelectionChanged.connect(self._chosen)
        self.table.itemDoubleClicked.connect(lambda _: self.take())
        self.note = Label("", objectName="quiet", wordWrap=True)
        self.button = QPushButton(say("Take it"), objectName="take-kind", enabled=False)
        self.button.clicked.connect(self.take)
        close = QPushButton(say("Close"), objectName="close-kinds")
        close.clicked.connect(self.close)
        row_ = QHBoxLayout()
        row_.addWidget(self.note, 1)
        row_.addWidget(self.button)
        row_.addWidget(close)
        column = QVBoxLayout(self)
        column.addWidget(head)
        self.note.setMinimumHeight(42)
        column.addWidget(self.table, 1)
        column.addLayout(row_)
        self._job: Task | None = pool().run(
            "kinds",
            self.project,
            (self.project, columns, objective),
            self._finished,
            self._came,
            channel="kinds",
        )

    def _fill(self, row: int, texts: list[str]) -> None:
        for column, text in enumerate(texts):
            item = QTableWidgetItem(text)
            if 2 <= column <= 6:
                item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
            item.setToolTip(text if column == 7 else "")
            self.table.setItem(row, column, item)

    def _came(self, told: tuple[Option]) -> None:
        (option,) = told
        self.found[option.kind] = option
        self._fill(KINDS.index(option.kind), self._texts(option))
        self._chosen()

    def _texts(self, option: Option) -> list[str]:
        if option.project is None:
            return [label(option.kind), "", "", "", "", "", "", say("not possible: {why_not}", why_not=option.why_not)]
        u = self.session.project.showing
        area = show(option.area, "m²", u)
        if option.footprint:
            area += f" ({100 * option.area / option.footprint:.0f} %)"
        concrete = to_shown(option.concrete, "m³", u)
        settled = "" if option.settlement is None else show(option.settlement, "mm", u)
        if option.slope:
            settled += say(", slope 1/{slope:.0f}", slope=1000 / option.slope)
        worst = option.worst
        said = (
            "" if worst is None else worst.check.title + ("" if worst.ratio is None else f" {show_ratio(worst.ratio)}")
        )
        if worst is not None and not option.holds:
            said = f"{worst.state.word}: {said} ({worst.foundation})"
        return [
            label(option.kind),
            ", ".join(option.names),
            area,
            f"{concrete:.1f}",
            show_weight(option.steel, u),
            f"{option.cost:.0f}",
            settled,
            said,
        ]

    def _finished(self, project: object, found: tuple[Option, ...] | str | None) -> None:
        self._job = None
        if isinstance(found, str):
            self.note.setText(found)
        elif found is None:
            self.note.setText(say("The comparison was left off or could not be computed."))
        for row, kind in enumerate(KINDS):
            if kind not in self.found:
                self._fill(row, [label(kind), "", "", "", "", "", "", say("not compared")])
        self._chosen()

    def _option(self) -> Option | None:
        rows = self.table.selectionModel().selectedRows()
        return self.found.get(KINDS[rows[0].row()]) if rows else None

    def _chosen(self) -> None:
        """Says the cheapest that holds until one is chosen; what was compared for another project cannot be taken."""
        current = self.session.project is self.project
        option = self._option()
        self.button.setEnabled(bool(current and option and option.project is not None))
        if not current:
            self.note.setText(say("The project has changed since: compare again."))
            return
        holding = [o for o in self.found.values() if o.holds]
        if self._job is None and holding:
            best = min(holding, key=lambda o: o.cost)
            share = say("; in brackets the share of the area within the columns") if best.footprint else ""
            self.note.setText(
                say(
                    "Cheapest that holds: {kind}. A first comparison, to be worked on once taken{share}.",
                    kind=label(best.kind),
                    share=share,
                )
            )

    def take(self) -> None:
        """The project with this kind; one step of undo."""
        option = self._option()
        if option is None or option.project is None or self.session.project is not self.project:
            self._chosen()
            return
        self.session.apply(
            option.project,
            say(
                "{kind} for {columns}: {names}",
                kind=label(option.kind),
                columns=", ".join(self.columns),
                names=", ".join(option.names),
            ),
            option.names[0],
        )
        self.close()

    def closeEvent(self, event: QCloseEvent) -> None:
        """What goes on is left off."""
        if self._job is not None:
            self._job.leave_off()
            self._job = None
        super().closeEvent(event)
