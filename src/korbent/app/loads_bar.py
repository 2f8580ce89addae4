"""Beside the table of loads: import, and taking back what was changed by hand."""

from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QPushButton, QWidget

from korbent.app.import_loads import ImportLoads
from korbent.app.reading_files import Reading
from korbent.app.tables import TablePanel
from korbent.core.model import edited
from korbent.drawing.theme import LIGHT
from korbent.files.sheet import Sheet, TableError, read_sheet
from korbent.words import say


class LoadsBar(QWidget):
    """Two actions on the loads."""

    def __init__(self, panel: TablePanel) -> None:
        super().__init__()
        self.panel, self.session = panel, panel.session
        self.dialog: ImportLoads | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        for name, text, tip, action in (
            ("import-loads", say("Import …"), say("Loads from a CSV or XLSX file, with a preview"), self.ask),
            (
                "loads-back",
                say("Take back the imported value"),
                say("Of the row: as it came from the file"),
                self.take_back,
            ),
        ):
            button = QPushButton(text, objectName=name)
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, a=action: a())
            row.addWidget(button)

    def ask(self) -> None:
        """Asks for a file."""
        name, _ = QFileDialog.getOpenFileName(
            self, say("Import loads"), "", say("Tables (*.csv *.txt *.tsv *.xlsx *.xlsm)")
        )
        if name:
            self.begin(Path(name))

    def begin(self, path: Path) -> None:
        """Shows the preview of a file as soon as it is read."""

        def show(sheet: Sheet) -> None:
            self.dialog = ImportLoads(self.session, sheet, path.name, LIGHT, self.window())
            self.dialog.open()

        self.reading = Reading(
            self,
            path.name,
            lambda: read_sheet(path),
            show,
            lambda why: self.session.announce(f"! {why}"),
            (TableError,),
        )

    def take_back(self) -> None:
        """Makes the current row what was imported."""
        row = self.panel.current_row()
        if not row or row[1] not in row[0].imported or row[0].imported[row[1]] == row[0].loads.get(row[1]):
            self.session.announce(say("! choose a row with an imported value that was changed by hand"))
            return
        point, case, _ = row
        path = ("actions", "load_points", point.name, "loads", case)
        self.session.apply(
            edited(self.session.project, path, point.imported[case]),
            say("{point} {case} as imported", point=point.name, case=case),
        )
