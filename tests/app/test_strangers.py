"""Nothing that stands in a project is read as markup, whatever it is."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel
from pytestqt.qtbot import QtBot

from korbent.app.session import Session
from korbent.app.size_panel import SizePanel
from korbent.app.window import MainWindow
from korbent.app.words import tip
from korbent.core.model import Project, edited, renamed
from korbent.sheets.report import write_report

HOSTILE = "<img src='/dev/zero'><b>bold</b>&amp;"


@pytest.fixture
def project(demo: Project) -> Project:
    found = edited(demo, ("title", "project"), HOSTILE)
    found = renamed(found, ("pads", "P3"), HOSTILE)
    found = edited(found, ("ground", "soils", "Silty sand", "description"), HOSTILE)
    return renamed(found, ("actions", "cases", "Q"), "<i>Q</i>")


@pytest.mark.long
def test_every_label_shows_data_as_it_is(qtbot: QtBot, project: Project) -> None:
    window = MainWindow(Session(project))
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    window.show()
    window.session.select(HOSTILE)
    for i in range(len(window.stops)):
        window.go_to(i)
        window.grab()
        for label in window.findChildren(QLabel):
            inside = label.parent()
            while inside is not None and not isinstance(inside, SizePanel):
                inside = inside.parent()
            if inside is None:
                assert label.textFormat() == Qt.TextFormat.PlainText, label.text()[:80]
    assert window.bar.project_label.text() == HOSTILE
    window.session.announce(f"! {HOSTILE}")
    window.ledger.open_working()
    html = window.ledger.working.text.toHtml()
    assert "src='/dev" not in html.replace('"', "'")


@pytest.mark.long
def test_tooltips_are_escaped(qtbot: QtBot, project: Project) -> None:
    assert tip(HOSTILE) == "<qt>&lt;img src=&#x27;/dev/zero&#x27;&gt;&lt;b&gt;bold&lt;/b&gt;&amp;amp;</qt>"
    assert tip("") == ""
    window = MainWindow(Session(project))
    qtbot.addWidget(window)
    model = window.ledger.model
    for i in range(model.rowCount()):
        shown = str(model.data(model.index(i), Qt.ItemDataRole.ToolTipRole) or "")
        assert "<img" not in shown


@pytest.mark.long
def test_the_report_prints_it(project: Project, tmp_path: Path) -> None:
    few = tuple(p for p in project.pads if p.name == HOSTILE)
    assert write_report(project.replaced(pads=few), tmp_path / "r.pdf") > 2
