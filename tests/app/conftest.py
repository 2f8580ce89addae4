"""A window that the tests of a file share: only for those that leave the project as it is."""

from collections.abc import Iterator

import pytest
from PySide6.QtWidgets import QApplication

from korbent.app.session import Session
from korbent.app.style import load_fonts
from korbent.app.window import MainWindow
from korbent.core.model import Project


@pytest.fixture(scope="module")
def kept_open(qapp: QApplication, demo: Project) -> Iterator[MainWindow]:
    """The bench on the demonstration, once for a file."""
    load_fonts()
    made = MainWindow(Session(demo))
    made.resize(1280, 800)
    made.show()
    qapp.processEvents()
    yield made
    made.session.saved = made.session.project
    made.close()
    made.deleteLater()
