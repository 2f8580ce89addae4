"""The ground from a file: what will come in, what was left out and why, and a picture; then taken over as a whole."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QHBoxLayout,
    QListWidget,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from korbent.app.canvas import DrawingView
from korbent.app.reading_files import Reading
from korbent.app.session import Session
from korbent.app.style import sheet
from korbent.app.words import Label
from korbent.drawing.logs import logs_drawing
from korbent.drawing.primitives import Drawing
from korbent.drawing.theme import Theme
from korbent.files.ground_import import Proposal, differences_to, misfit, proposed
from korbent.files.ground_tables import read_any, write_ground
from korbent.files.sheet import TableError
from korbent.words import say, say_count

FILTER = say("Ground investigation (*.ags *.csv *.txt *.tsv *.xlsx *.xlsm)")


class ImportGround(QDialog):
    """The preview."""

    def __init__(self, session: Session, proposal: Proposal, name: str, theme: Theme, parent: QWidget | None) -> None:
        super().__init__(parent, objectName="import-ground")
        self.session, self.proposal = session, proposal
        self.setWindowTitle(say("Ground from {name}", name=name))
        self.setStyleSheet(sheet(theme))
        self.resize(980, 640)
        against = misfit(session.project, proposal)
        self.view = DrawingView(self._picture, say("Preview"))
        self.view.theme = theme
        self.changes = QListWidget(objectName="ground-changes")
        lines = differences_to(session.project, proposal)
        if any(proposal.shift):
            lines.append(
                say(
                    "coordinates less ({shift:.0f}, {shift_2:.0f}) m",
                    shift=proposal.shift[0],
                    shift_2=proposal.shift[1],
                )
            )
        self.changes.addItems([*lines, *proposal.remarks])
        self.problems = QListWidget(objectName="ground-problems")
        self.problems.addItems([str(p) for p in (*against, *proposal.problems)])
        for box in (self.changes, self.problems):
            box.setWordWrap(True)
        self.summary = Label(self._words(bool(against)), objectName="pane-title", wordWrap=True)
        kinds = QDialogButtonBox.StandardButton
        self.buttons = QDialogButtonBox(kinds.Ok | kinds.Cancel)
        self.take = self.buttons.button(kinds.Ok)
        self.take.setText(say("Take over"))
        self.take.setObjectName("take-ground")
        self.take.setEnabled(not against and not proposal.is_empty)
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        lists = QHBoxLayout()
        for title, box in (
            (say("What comes in"), self.changes),
            (say("Left out or doubtful: {count}", count=self.problems.count()), self.problems),
        ):
            column = QVBoxLayout()
            column.addWidget(Label(title, objectName="quiet"))
            column.addWidget(box)
            lists.addLayout(column)
        whole = QVBoxLayout(self)
        whole.addWidget(self.summary)
        whole.addWidget(self.view, 3)
        whole.addLayout(lists, 2)
        whole.addWidget(self.buttons)

    def _words(self, misfit: bool) -> str:
        p = self.proposal
        if p.is_empty:
            return say("Nothing of the ground can be taken over from this file; the list says why.")
        if misfit:
            return say("What the file gives does not fit the project; the list says why. Nothing can be taken over.")
        tests = sum(len(h.tests) for h in p.boreholes)
        oedometers = sum(len(h.oedometers) for h in p.boreholes)
        strata = sum(len(h.strata) for h in p.boreholes)
        text = say(
            "{boreholes} boreholes, {strata} strata, {soils} soils, {tests} tests",
            boreholes=len(p.boreholes),
            strata=strata,
            soils=len(p.soils),
            tests=tests,
        )
        text += say(", {oedometers} oedometer tests", oedometers=oedometers) if oedometers else ""
        count = len(p.problems)
        left = (
            say_count(count, "; {number} entry left out or doubtful", "; {number} entries left out or doubtful")
            if count
            else ""
        )
        return say(
            "{title}{text}{left}. Nothing changes until it is taken over.",
            title=p.title + ": " if p.title else "",
            text=text,
            left=left,
        )

    def _picture(self, aspect: float) -> Drawing:
        project = self.session.project
        if misfit(project, self.proposal) or self.proposal.is_empty:
            return logs_drawing(project, aspect)
        return logs_drawing(proposed(project, self.proposal), aspect)

    def accept(self) -> None:
        """Takes the ground over: one step of undo."""
        if not self.take.isEnabled():
            return
        self.session.apply(proposed(self.session.project, self.proposal))
        self.session.announce(
            say("ground taken over: {text}; undo takes it back", text=self.summary.text().split(". ")[0])
        )
        super().accept()


class GroundBar(QWidget):
    """Beside the drawings of the ground: import, export, and the library."""

    def __init__(self, session: Session, theme: Theme, library: Callable[[], None]) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.dialog: ImportGround | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 6, 0)
        row.setSpacing(6)
        for name, text, tip, action in (
            (
                "import-ground",
                say("Import …"),
                say("Boreholes, strata and tests from an AGS4 file, CSV or XLSX tables, with a preview"),
                self.ask,
            ),
            (
                "export-ground",
                say("Export …"),
                say("The tables of the ground to XLSX or CSV, or an AGS4 file"),
                self.export,
            ),
            ("library", say("Library …"), say("Soils and rock with usual values to begin with"), library),
        ):
            button = QPushButton(text, objectName=name)
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, a=action: a())
            row.addWidget(button)

    def ask(self) -> None:
        """Asks for files."""
        names, _ = QFileDialog.getOpenFileNames(self, say("Import the ground"), "", FILTER)
        if names:
            self.begin([Path(n) for n in names])

    def begin(self, paths: list[Path]) -> None:
        """Shows the preview of a file, or of several tables together, as soon as they are read."""
        names, project = ", ".join(p.name for p in paths), self.session.project

        def show(proposal: Proposal) -> None:
            self.dialog = ImportGround(self.session, proposal, names, self.theme, self.window())
            self.dialog.open()

        self.reading = Reading(
            self,
            names,
            lambda: read_any(paths, project),
            show,
            lambda why: self.session.announce(f"! {why}"),
            (TableError,),
        )

    def export(self) -> None:
        """Asks where to, and writes the tables."""
        name, _ = QFileDialog.getSaveFileName(
            self, say("Export the ground"), "ground.xlsx", say("Workbook (*.xlsx);;Tables (*.csv);;AGS4 (*.ags)")
        )
        if not name:
            return
        try:
            if name.lower().endswith(".ags"):
                from korbent.files.ags4 import write_ags4

                write_ags4(self.session.project, Path(name))
                self.session.announce(say("ground written to {name}", name=Path(name).name))
            else:
                written = write_ground(self.session.project, Path(name))
                self.session.announce(say("ground written to {p}", p=", ".join(p.name for p in written)))
        except OSError as error:
            self.session.announce(
                say("! {name} cannot be written: {why}", name=Path(name).name, why=error.strerror or error)
            )
