"""The library: soils and rock to begin with, and the soils of another project."""

from pathlib import Path

from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from korbent.app.session import Session
from korbent.app.style import sheet
from korbent.core.ground.library import LIBRARY
from korbent.core.model import Soil, edited
from korbent.core.model.frozen import unit_of
from korbent.core.model.labels import label
from korbent.core.units import show, shown_unit
from korbent.drawing.theme import Theme
from korbent.files.project_file import ProjectFileError, load
from korbent.words import say

COLUMNS = (
    ("weight", "γ"),
    ("weight_saturated", say("γ sat")),
    ("friction_angle", "φ′"),
    ("cohesion", "c′"),
    ("undrained_strength", "cu"),
    ("modulus", "E′"),
    ("compression_index", "Cc"),
    ("void_ratio", "e0"),
)


class SoilLibrary(QDialog):
    """Choose soils; they come into the project, with their source."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None) -> None:
        super().__init__(parent, objectName="soil-library")
        self.session = session
        self.setWindowTitle(say("Library of soils and rock"))
        self.setStyleSheet(sheet(theme))
        self.resize(1060, 560)
        self.soils: list[Soil] = [e.soil for e in LIBRARY]
        self.ranges = {e.soil.name: e.ranges for e in LIBRARY}
        self.search = QLineEdit(objectName="library-find", placeholderText=say("Find: clay, dense …"))
        self.search.textChanged.connect(lambda _: self.refresh())
        self.other = QPushButton(say("Soils of a project file …"), objectName="library-project")
        self.other.clicked.connect(self.ask)
        self.list = QTableWidget(0, 2 + len(COLUMNS), objectName="library-list")
        units = session.project.showing
        heads = [f"{sign}\n{shown_unit(unit_of(Soil, f), units)}" for f, sign in COLUMNS]
        self.list.setHorizontalHeaderLabels([say("Soil"), say("Pattern"), *heads])
        self.list.verticalHeader().hide()
        self.list.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.list.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectRows)
        self.list.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.list.itemDoubleClicked.connect(lambda _: self.accept())
        kinds = QDialogButtonBox.StandardButton
        buttons = QDialogButtonBox(kinds.Ok | kinds.Cancel)
        buttons.button(kinds.Ok).setText(say("Add to the project"))
        buttons.button(kinds.Ok).setObjectName("library-add")
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        top = QHBoxLayout()
        top.addWidget(self.search, 1)
        top.addWidget(self.other)
        column = QVBoxLayout(self)
        column.addLayout(top)
        column.addWidget(self.list, 1)
        column.addWidget(buttons)
        self.refresh()

    def shown(self) -> list[Soil]:
        """The soils that the search leaves."""
        words = self.search.text().lower().split()
        return [s for s in self.soils if all(w in f"{s.name} {s.pattern} {s.description}".lower() for w in words)]

    def refresh(self) -> None:
        """Lists the soils: the value to begin with, and the usual range."""
        soils, units = self.shown(), self.session.project.showing
        self.list.setRowCount(len(soils))
        for i, soil in enumerate(soils):
            texts = [soil.name, label(soil.pattern)]
            for field, _ in COLUMNS:
                value, unit = getattr(soil, field), unit_of(Soil, field)
                text = "" if value is None else show(value, unit, units)
                usual = self.ranges.get(soil.name, {}).get(field)
                if usual and text:
                    text += f"  ({show(usual[0], unit, units)} … {show(usual[1], unit, units)})"
                texts.append(text)
            for j, text in enumerate(texts):
                self.list.setItem(i, j, QTableWidgetItem(text))

    def ask(self) -> None:
        """Asks for a project file whose soils are wanted."""
        name, _ = QFileDialog.getOpenFileName(self, say("Soils of a project"), "", say("Korbent project (*.korbent)"))
        if name:
            self.take_from(Path(name))

    def take_from(self, path: Path) -> None:
        """Lists the soils of a project file instead of the starter library."""
        try:
            soils = load(path).ground.soils
        except ProjectFileError as error:
            self.session.announce(f"! {str(error).splitlines()[0]}")
            return
        self.soils, self.ranges = list(soils), {}
        self.setWindowTitle(say("Soils of {path}", path=path.name))
        self.refresh()

    def accept(self) -> None:
        """Adds the chosen soils; a name that is taken gets a number."""
        rows = sorted({i.row() for i in self.list.selectedIndexes()})
        soils = [self.shown()[r] for r in rows]
        if not soils:
            self.session.announce(say("! choose a soil first"))
            return
        taken = {s.name for s in self.session.project.ground.soils}
        added = []
        for soil in soils:
            name = next(n for n in (soil.name, *(f"{soil.name} {i}" for i in range(2, 1000))) if n not in taken)
            taken.add(name)
            added.append(soil.replaced(name=name))
        project = self.session.project
        self.session.apply(
            edited(project, ("ground", "soils"), (*project.ground.soils, *added)),
            say("added from the library: {s}", s=", ".join(s.name for s in added)),
        )
        super().accept()
