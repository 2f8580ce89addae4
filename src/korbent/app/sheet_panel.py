"""Beside the page: the paper and scale of the sheet, what is shown, what is compared with, and writing the set."""

from collections.abc import Sequence
from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from korbent.app.words import Label
from korbent.core.model import Project
from korbent.core.model.labels import label
from korbent.core.model.sheets import SheetChoice, SheetSet
from korbent.sheets.catalogue import FORMATS, KINDS, SHOWN, USUAL
from korbent.sheets.paper import papers, scale_words, scales, usual_paper
from korbent.words import say

WORKINGS = {
    "none": say("none"),
    "governing": say("the worst of each group"),
    "failing": say("also all that fail or are accepted"),
    "all": say("all checks"),
}
FITS = say("what fits")
NOTHING, A_FILE = say("nothing"), say("another file …")


class SheetPanel(QScrollArea):
    """Emits what the user chooses; the stop makes it a change of the set."""

    changed = Signal(str, object)
    """A field of the chosen sheet, or of the set (``set:`` before its name)."""
    compared = Signal(str)
    written = Signal()
    issued = Signal(str)
    office = Signal(str)
    logo = Signal()
    layers = Signal()

    def __init__(self) -> None:
        super().__init__(objectName="sheet-panel")
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFixedWidth(262)
        self.setAccessibleName(say("Settings of the sheet and of the set"))
        inside = QWidget()
        self.column = QVBoxLayout(inside)
        self.column.setContentsMargins(14, 10, 14, 12)
        self.column.setSpacing(4)
        self._filling = False
        self.title = Label(say("This sheet"), objectName="pane-title", wordWrap=True)
        self.column.addWidget(self.title)
        self._of_drawing()
        self._of_calculation()
        self._heading(say("The set"))
        self.compare = self._choice("compare-with", say("changed since"), [NOTHING])
        self.compare.setToolTip(
            say("An issued revision or another file: what changed is listed, and marked on the drawings")
        )
        self.compare.activated.connect(
            lambda _: self.compared.emit(self.compare.currentData() or self.compare.currentText())
        )
        self._of_title()
        self._of_writing()
        self.column.addStretch(1)
        self.setWidget(inside)

    def _heading(self, text: str) -> None:
        self.column.addSpacing(8)
        self.column.addWidget(Label(text, objectName="pane-title"))

    def _choice(self, name: str, text: str, entries: Sequence[str], into: QVBoxLayout | None = None) -> QComboBox:
        said = Label(text, objectName="quiet")
        box = QComboBox(objectName=name)
        box.setAccessibleName(text)
        box.addItems(list(entries))
        box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        box.setMinimumContentsLength(10)
        for part in (said, box):
            (into or self.column).addWidget(part)
        return box

    def _of_drawing(self) -> None:
        self.drawing = QWidget()
        column = QVBoxLayout(self.drawing)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        self.paper = self._choice("sheet-paper", say("paper"), [], column)
        self.paper.activated.connect(lambda _: self._told("paper", self.paper.currentData()))
        self.upright = QCheckBox(say("portrait"), objectName="sheet-upright")
        self.upright.toggled.connect(lambda on: self._told("upright", on))
        column.addWidget(self.upright)
        self.scale = self._choice("sheet-scale", say("scale"), [], column)
        self.scale.activated.connect(lambda _: self._told("scale", self.scale.currentData()))
        column.addWidget(Label(say("shown on drawings"), objectName="quiet"))
        self.shown = {name: QCheckBox(label(name), objectName=f"shown-{name.split('_')[0]}") for name in SHOWN}
        for name, box in self.shown.items():
            box.toggled.connect(lambda on, n=name: self._told("set:hidden", (n, not on)))
            column.addWidget(box)
        self.layers_button = QPushButton(say("Layers of drawing files …"), objectName="flat")
        self.layers_button.clicked.connect(lambda: self.layers.emit())
        column.addWidget(self.layers_button, 0, Qt.AlignmentFlag.AlignLeft)
        self.column.addWidget(self.drawing)

    def _of_calculation(self) -> None:
        self.calculation = QWidget()
        column = QVBoxLayout(self.calculation)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        self.workings = self._choice("sheet-workings", say("workings of"), [], column)
        for key, text in WORKINGS.items():
            self.workings.addItem(text, key)
        self.workings.activated.connect(lambda _: self._told("set:workings", self.workings.currentData()))
        self.by_type = QCheckBox(say("one page for what is built alike"), objectName="sheet-by-type")
        self.by_type.setToolTip(say("The worst member has the page, the others stand in a table below it"))
        self.by_type.toggled.connect(lambda on: self._told("set:by_type", on))
        column.addWidget(self.by_type)
        self.page = self._choice("calculation-paper", say("paper"), [], column)
        self.page.activated.connect(lambda _: self._told("set:paper", self.page.currentData()))
        self.lying = QCheckBox(say("landscape"), objectName="calculation-lying")
        self.lying.toggled.connect(lambda on: self._told("set:lying", on))
        column.addWidget(self.lying)
        self.column.addWidget(self.calculation)

    def _of_title(self) -> None:
        self.column.addWidget(Label(say("office, in the title block"), objectName="quiet"))
        self.office_line = QLineEdit(objectName="office", placeholderText=say("name of the office"))
        self.office_line.editingFinished.connect(lambda: self.office.emit(self.office_line.text().strip()))
        self.office_line.setAccessibleName(say("Name of the office"))
        row = QHBoxLayout()
        row.addWidget(self.office_line, 1)
        self.logo_button = QPushButton(say("Logo …"), objectName="logo")
        self.logo_button.setToolTip(say("An SVG or PNG file, kept for all projects"))
        self.logo_button.clicked.connect(lambda: self.logo.emit())
        row.addWidget(self.logo_button)
        self.column.addLayout(row)

    def _of_writing(self) -> None:
        self.column.addSpacing(6)
        self.column.addWidget(Label(say("written as"), objectName="quiet"))
        grid = QGridLayout()
        grid.setSpacing(4)
        self.formats: dict[str, QCheckBox] = {}
        for k, name in enumerate(FORMATS):
            box = QCheckBox(name.upper(), objectName=f"format-{name}", checked=name in USUAL)
            self.formats[name] = box
            grid.addWidget(box, k // 3, k % 3)
        self.column.addLayout(grid)
        self.write = QPushButton(say("Write the set …"), objectName="write-set")
        self.write.setProperty("strong", True)
        self.write.clicked.connect(lambda: self.written.emit())
        self.column.addWidget(self.write)
        self.progress = Label("", objectName="quiet", wordWrap=True)
        self.cancel = QPushButton(say("Cancel"), objectName="cancel-set")
        self.cancel.hide()
        self.progress.hide()
        self.column.addWidget(self.progress)
        self.column.addWidget(self.cancel)
        self.column.addSpacing(8)
        self.column.addWidget(Label(say("issue this revision"), objectName="quiet"))
        row = QHBoxLayout()
        self.reason = QLineEdit(objectName="issue-reason", placeholderText=say("why it goes out"))
        self.reason.setAccessibleName(say("Why this revision goes out"))
        self.reason.returnPressed.connect(self._issue)
        self.issue = QPushButton(say("Issue"), objectName="issue")
        self.issue.setToolTip(
            say(
                "Keeps the project as it is under this revision, to compare with later, and notes it in the revision table"
            )
        )
        self.issue.clicked.connect(self._issue)
        row.addWidget(self.reason, 1)
        row.addWidget(self.issue)
        self.column.addLayout(row)

    def _issue(self) -> None:
        self.issued.emit(self.reason.text().strip())

    def _told(self, field: str, value: object) -> None:
        if not self._filling:
            self.changed.emit(field, value)

    # ------------------------------------------------------------ what is shown

    def fill(
        self, project: Project, chosen: SheetSet, choice: SheetChoice, states: Sequence[tuple[str, str]], compared: str
    ) -> None:
        """Shows the sheet that is chosen; ``states``: (title, what it is known by) of what can be compared with."""
        self._filling = True
        us, kind = project.units == "us", KINDS[choice.key]
        self.title.setText(kind.title)
        self.drawing.setVisible(kind.group == "drawings")
        self.calculation.setVisible(kind.group == "calculation")
        self._entries(self.paper, [(FITS, ""), *((name, name) for name in papers(us))], choice.paper)
        self._entries(self.scale, [(FITS, 0.0), *((scale_words(s, us), s) for s in scales(us))], choice.scale)
        self.upright.setChecked(choice.upright)
        for name, box in self.shown.items():
            box.setChecked(name not in chosen.hidden)
        self.workings.setCurrentIndex(max(self.workings.findData(chosen.workings), 0))
        self.by_type.setChecked(chosen.by_type)
        usual = say("usual: {usual_paper}", usual_paper=usual_paper(us, large=False))
        self._entries(self.page, [(usual, ""), *((name, name) for name in papers(us))], chosen.paper)
        self.lying.setChecked(chosen.lying)
        entries = [(NOTHING, NOTHING), *states, (A_FILE, A_FILE)]
        if compared not in [known for _, known in entries]:
            entries.insert(1, (Path(compared).name, compared))
        self._entries(self.compare, entries, compared)
        if not self.office_line.hasFocus():
            self.office_line.setText(project.title.office)
        self.issue.setText(
            say("Issue {revision}", revision=project.title.revision) if project.title.revision else say("Issue")
        )
        self._filling = False

    @staticmethod
    def _entries(box: QComboBox, entries: Sequence[tuple[str, object]], value: object) -> None:
        known = [(box.itemText(i), box.itemData(i)) for i in range(box.count())]
        if known != list(entries):
            box.clear()
            for text, data in entries:
                box.addItem(text, data)
        box.setCurrentIndex(max(next((i for i, (_, data) in enumerate(entries) if data == value), 0), 0))

    def chosen_formats(self) -> tuple[str, ...]:
        """The formats that are ticked."""
        return tuple(name for name, box in self.formats.items() if box.isChecked())

    def show_progress(self, text: str) -> None:
        """What is being written; '' where nothing is."""
        self.progress.setText(text)
        self.progress.setVisible(bool(text))
        self.cancel.setVisible(bool(text))
        self.write.setEnabled(not text)
