"""The report, and the calculation of one base, printed to files beside the work."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog

from korbent.app.workers import pool
from korbent.words import say

if TYPE_CHECKING:
    from korbent.app.window import MainWindow


class Printing:
    """What a window prints."""

    def __init__(self, window: "MainWindow") -> None:
        self.window = window

    def report(self) -> None:
        """Asks where, and prints the report."""
        name, _ = QFileDialog.getSaveFileName(
            self.window,
            say("Print the report"),
            str(Path(self.window.files.folder()) / "report.pdf"),
            say("PDF (*.pdf)"),
        )
        if name:
            self.report_to(Path(name))

    def report_to(self, path: Path) -> None:
        """Prints the report to a file, in the background."""
        self.window.session.announce(say("the report is being written to {path} …", path=path.name))
        pool().run("report", path, (self.window.session.project, path.resolve()), self._reported)

    def print_base(self) -> None:
        """Asks where, and prints the calculation of the selected base."""
        base = self.window.session.selected
        if not base:
            self.window.session.announce(say("! there is no base to print: add one in Plan"))
            return
        name, _ = QFileDialog.getSaveFileName(
            self.window,
            say("Print {base}", base=base),
            str(Path(self.window.files.folder()) / f"{base}.pdf"),
            say("PDF (*.pdf)"),
        )
        if name:
            self.print_base_to(base, Path(name))

    def print_base_to(self, base: str, path: Path) -> None:
        """Prints the calculation of one base to a file, in the background."""
        self.window.session.announce(
            say("the calculation of {base} is being written to {path} …", base=base, path=path.name)
        )
        pool().run("base_report", path, (self.window.session.project, base, path.resolve()), self._reported)

    def _reported(self, path: object, found: object) -> None:
        assert isinstance(path, Path)
        pages, why = found if isinstance(found, tuple) else (0, say("something went wrong; the log tells what"))
        self.window.session.announce(
            say("! the report was not written: {why}", why=why)
            if why
            else say("report of {pages} pages written to {path}", pages=pages, path=path.name)
        )
