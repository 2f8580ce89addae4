"""The whole plan in one go: the size that is enough for each base or type, and how many types are worth what."""

from pydantic import ValidationError
from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QAbstractItemView,
    QCheckBox,
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QProgressBar,
    QPushButton,
    QSizePolicy,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.stops.stop import Elided
from korbent.app.style import font
from korbent.app.words import Label, tip
from korbent.app.workers import Task, pool
from korbent.core.concrete.bar_text import diameter_words, words
from korbent.core.model import Pad, Project
from korbent.core.model.foundations import Pedestal
from korbent.core.model.labels import label
from korbent.core.sizing.cost import OBJECTIVES, Objective
from korbent.core.sizing.propose import Grouping, Proposal, as_types, taken
from korbent.core.units import UnitSet, show_ratio, shown_unit, sizes_text, to_shown
from korbent.drawing.primitives import Drawing, Text
from korbent.drawing.theme import SIZE
from korbent.drawing.types_curve import types_curve
from korbent.files.project_file import problems_of
from korbent.words import say, say_count

TITLES = {"volume": say("least concrete"), "cost": say("least cost"), "carbon": say("least carbon")}
SHORT = {"width": "B", "length": "L", "thickness": "h", "level": "level"}
UNITS = {"volume": "", "cost": "", "carbon": "kg CO₂e"}


class ProposalPanel(QWidget):
    """Objective, one action, progress with cancel, the proposals with their reasons, and the curve of types."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.project: Project | None = None
        self.found: list[Proposal] = []
        self.groupings: list[Grouping] = []
        self._job: Task | None = None
        self.objective = QComboBox(objectName="objective", accessibleName=say("What a proposal makes least"))
        for key in OBJECTIVES:
            self.objective.addItem(TITLES[key], key)
        self.by_type = QCheckBox(say("types alike"), objectName="by-type", checked=True)
        self.by_type.setToolTip(say("All bases of a type get one size, that of the worst of them"))
        self.go = QPushButton(say("Propose"), objectName="propose")
        self.go.setToolTip(say("The size that is enough for every base, within the ranges: every check holds"))
        self.go.clicked.connect(self.propose)
        self.cancel = QPushButton(say("Cancel"), objectName="cancel-propose")
        self.cancel.clicked.connect(self.leave_off)
        self.bar = QProgressBar(objectName="propose-progress", textVisible=True)
        self.take = QPushButton(say("Take all"), objectName="take-proposals")
        self.take.clicked.connect(self.take_all)
        self.take_one = QPushButton(say("Take it"), objectName="take-proposal")
        self.take_one.setToolTip(say("The proposal of the chosen row alone"))
        self.take_one.clicked.connect(self.take_chosen)
        self.list = QTableWidget(0, 4, objectName="proposals")
        self.list.setFont(font(SIZE["small"]))
        self.list.verticalHeader().hide()
        self.list.verticalHeader().setDefaultSectionSize(24)
        self.list.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.list.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.list.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        header = self.list.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        header.setMinimumSectionSize(36)
        self.list.itemSelectionChanged.connect(self._chosen)
        self.why = Elided("", objectName="quiet")
        self.words = Label("", objectName="quiet", wordWrap=True)
        self.curve = DrawingView(self._curve, say("Types against cost"))
        self.curve.clicked.connect(self._take_types)
        for box in (self.list, self.curve):
            box.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Ignored)
        self.list.setMinimumHeight(102)
        self.curve.setMinimumHeight(84)
        self.words.setContentsMargins(10, 0, 10, 0)
        head = QHBoxLayout()
        head.setContentsMargins(10, 6, 10, 0)
        head.addWidget(self.objective, 1)
        head.addWidget(self.go)
        run = QHBoxLayout()
        run.setContentsMargins(10, 0, 10, 0)
        run.addWidget(self.by_type)
        self.kinds = QPushButton(say("Which kind? …"), objectName="which-kind")
        self.kinds.setToolTip(say("Pads, one base, strap and raft for the columns marked in the plan, side by side"))
        run.addStretch(1)
        run.addWidget(self.kinds)
        run.addWidget(self.bar, 1)
        run.addWidget(self.cancel)
        said, foot = QHBoxLayout(), QHBoxLayout()
        said.setContentsMargins(10, 0, 10, 0)
        said.addWidget(self.why)
        foot.setContentsMargins(10, 0, 10, 2)
        foot.addStretch(1)
        foot.addWidget(self.take_one)
        foot.addWidget(self.take)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addLayout(head)
        column.addLayout(run)
        column.addWidget(self.words)
        column.addWidget(self.list, 6)
        column.addLayout(said)
        column.addLayout(foot)
        column.addWidget(self.curve, 4)
        self.bar.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self._idle(True)
        self.refresh()

    def refresh(self) -> None:
        """What was found for another project is marked so; it can only be taken for its own."""
        current = self.project is self.session.project
        self.take.setEnabled(bool(self.found) and current and self._job is None)
        self.list.setEnabled(current or not self.found)
        for part in (self.list, self.take, self.take_one):
            part.setVisible(bool(self.found))
        self.why.setVisible(bool(self.found))
        self._can_take()
        if not self.session.project.pads:
            self.words.setText(say("no base yet: place pads first"))
        elif not self.found and self._job is None:
            self.words.setText(
                say(
                    "One action for the whole plan: the least size within each base's ranges for which every check holds."
                )
            )
        elif self.found and not current:
            self.words.setText(say("out of date: the project has changed since; propose again"))
        self.curve.refresh()

    def propose(self) -> None:
        """Starts the search in a worker process."""
        project, objective, by_type = self.session.project, self.chosen_objective, self.by_type.isChecked()
        if not project.pads or self._job is not None:
            return
        self._idle(False)
        self.bar.setValue(0)
        self._job = pool().run("proposed", project, (project, objective, by_type), self._finished, self._progress)

    @property
    def chosen_objective(self) -> Objective:
        """What is to be least."""
        return OBJECTIVES[self.objective.currentIndex()]

    def _idle(self, idle: bool) -> None:
        self.bar.setVisible(not idle)
        self.cancel.setVisible(not idle)
        self.kinds.setVisible(idle)  # beside the progress there is no room for it
        self.go.setEnabled(idle)

    def leave_off(self) -> None:
        """What was found so far is enough."""
        if self._job is not None:
            self._job.leave_off()

    def _progress(self, told: tuple[int, int]) -> None:
        done, of = told
        self.bar.setMaximum(of)
        self.bar.setValue(done)
        self.bar.setFormat(say("{done} of {of}", done=done, of=of))

    def _finished(self, project: object, result: tuple[list[Proposal], list[Grouping]] | None) -> None:
        self._job = None
        self._idle(True)
        if result is None:
            self.session.announce(say("! the proposal could not be computed; nothing was changed"))
            return
        self.found, self.groupings = result
        self.project = project  # type: ignore[assignment]
        self._list()
        self.refresh()

    def _list(self) -> None:
        # bases may be renamed or gone since: those of the project that it was asked for
        proposed_for = self.project or self.session.project
        units, objective = self.session.project.showing, self.chosen_objective
        unit = shown_unit("m", units)
        self.list.setHorizontalHeaderLabels([say("Base"), say("Now, {unit}", unit=unit), say("Proposed"), say("Worst")])
        self.list.setRowCount(len(self.found))
        for row, one in enumerate(self.found):
            pad = proposed_for.pad(one.pads[0])
            names = ", ".join(one.pads)
            called = f"{pad.type} ({len(one.pads)})" if len(one.pads) > 1 and pad.type else names
            now = self._size(pad, {}, units)
            size = "–" if one.sizes is None else self._size(pad, one.sizes, units)
            texts = (
                called,
                now,
                say("as it is") if size == now and not any(one.bars.values()) and not one.pedestals else size,
                "–" if one.ratio is None else show_ratio(one.ratio),
            )
            for column, text in enumerate(texts):
                item = QTableWidgetItem(text)
                item.setToolTip(tip(f"{names}\n{self._why(one)}"))
                if column:
                    item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                self.list.setItem(row, column, item)
        self.list.clearSelection()
        self._chosen()
        before, after = sum(p.before for p in self.found), sum(p.after for p in self.found)
        stuck = sum(p.sizes is None for p in self.found)
        more = say_count(stuck, "; {number} left as it is", "; {number} left as they are") if stuck else ""
        if not self.found:
            return  # the last one is taken
        digits, unit = (1 if objective == "volume" else 0), UNITS[objective]
        if objective == "volume":
            unit = shown_unit("m³", self.session.project.showing)
            before, after = (to_shown(v, "m³", self.session.project.showing) for v in (before, after))
        self.words.setText(
            f"{before:.{digits}f} → {after:.{digits}f} {unit}"
            f" ({100 * (after - before) / max(before, 1e-9):+.0f} %){more}."
        )

    @staticmethod
    def _size(pad: Pad, sizes: dict[str, float], units: UnitSet) -> str:
        """The size of a base, some of its dimensions others."""
        names = ("width", "thickness") if pad.is_round else ("width", "length", "thickness")
        return sizes_text([sizes.get(n, getattr(pad, n)) for n in names], units, "×", unit=False)

    def _why(self, one: Proposal) -> str:
        """Why not less, and the bars that go with it; or why there is no proposal."""
        if one.sizes is None:
            return one.remark
        us = (self.project or self.session.project).units == "us"
        bars = ", ".join(f"{label(f)} {words(b, us)}" for f, b in one.bars.items() if b)
        less = ", ".join(f"{SHORT[n]} {r}" for n, r in one.why_not_less.items())
        pedestals = "; ".join(self._pedestal(name, p, len(one.pads) > 1) for name, p in one.pedestals.items())
        parts = (say("not less: {less}", less=less) if less else "", pedestals, bars, one.remark)
        return " · ".join(part for part in parts if part)

    def _pedestal(self, name: str, own: Pedestal, several: bool) -> str:
        """A pedestal that goes with a size, with its bars."""
        units = self.session.project.showing
        sizes = (own.size_x,) if own.is_round else (own.size_x, own.size_y)
        bars = say(
            "{bars} no {diameter}",
            bars=own.bars,
            diameter=diameter_words(own.diameter, self.session.project.units == "us"),
        )
        return say(
            "pedestal{value} {sizes}, {bars}",
            value=say(" of {name}", name=name) if several else "",
            sizes=sizes_text(sizes, units),
            bars=bars,
        )

    def _row(self) -> int:
        rows = self.list.selectionModel().selectedRows()
        return rows[0].row() if rows else -1

    def _can_take(self) -> None:
        row = self._row()
        current = self.project is self.session.project and self._job is None
        self.take_one.setEnabled(current and row >= 0 and self.found[row].sizes is not None)

    def _chosen(self) -> None:
        """Shows the base of the chosen row, and why its size is not less."""
        row = self._row()
        self.why.setText(self._why(self.found[row]) if row >= 0 else say("A row says why its size is not less."))
        if row >= 0 and any(p.name == self.found[row].pads[0] for p in self.session.project.pads):
            self.session.select(self.found[row].pads[0])
        self._can_take()

    def take_chosen(self) -> None:
        """Gives the bases of the chosen row the proposed size; the other rows stand as they were found."""
        row = self._row()
        if row < 0 or self.project is not self.session.project:
            return
        one = self.found[row]
        try:
            project = taken(self.session.project, [one])
        except ValidationError as error:
            self.session.announce(f"! {problems_of(error)[0]}")
            return
        del self.found[row]
        # what is left was found beside the old size of this one: it may be taken, its checks are computed anew
        self.session.apply(project, say("{pads} resized; undo takes it back", pads=", ".join(one.pads)))
        self.project = self.session.project
        self._list()
        self.refresh()

    def take_all(self) -> None:
        """Gives all bases the proposed sizes: one step of undo."""
        if self.project is not self.session.project:
            return
        try:
            project = taken(self.session.project, self.found)
        except ValidationError as error:
            self.session.announce(f"! {problems_of(error)[0]}")
            return
        count = sum(len(p.pads) for p in self.found if p.sizes is not None)
        self.session.apply(project, say("{count} bases resized; undo takes it back", count=count))

    def _curve(self, aspect: float) -> Drawing:
        if not self.groupings or self.project is not self.session.project:
            text = say("types against cost: after a proposal")
            return Drawing((Text((0, 0), text, 11, "soft", "middle"),), (-1, -1, 1, 1))
        now = len({p.type or p.name for p in self.session.project.pads})
        return types_curve(self.groupings, now, TITLES[self.chosen_objective], UNITS[self.chosen_objective], aspect)

    def _take_types(self, key: str) -> None:
        """Makes so many types of the plan, then proposes once more with each type alike."""
        if not key.startswith("types:") or self.project is not self.session.project:
            return
        count = int(key.removeprefix("types:"))
        grouping = next((g for g in self.groupings if g.count == count), None)
        if grouping is None:
            return
        try:
            project = as_types(self.session.project, grouping)
        except ValidationError as error:
            self.session.announce(f"! {problems_of(error)[0]}")
            return
        self.session.apply(project, say("{count} types; proposing once more with each alike", count=count))
        self.by_type.setChecked(True)
        self.propose()
