"""Help at hand: what is in front, and the texts it takes from guide and theory."""

import pytest
from PySide6.QtCore import Qt, QUrl
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit
from pytestqt.qtbot import QtBot

from korbent.app.help_panel import SIZES, heading_of, topic_at
from korbent.app.size_panel import LABELS
from korbent.app.window import MainWindow
from korbent.core.checks import CHECKS
from korbent.core.explain.check_words import MEANS, OF_STANDARDS, THEORY
from korbent.core.model import Project, edited
from korbent.core.model.standards import CONCRETE
from korbent.files import docs
from tests.app.test_window import opened, panel

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = opened(qtbot, demo)
    made.session.select("P11")
    return made


def test_every_check_has_words_and_paragraphs_of_the_theory() -> None:
    assert MEANS.keys() == THEORY.keys() == CHECKS.keys()
    for name, phrases in THEORY.items():
        assert MEANS[name].endswith((".", "?"))
        for phrase in phrases:
            heading, text = docs.beginning("theory", phrase)
            assert text, (name, phrase)
            assert docs.section("theory", heading)
    for standard, phrase in OF_STANDARDS.items():
        assert standard in CONCRETE
        assert docs.beginning("theory", phrase)[1], standard
    assert SIZES.keys() == LABELS.keys()


def test_every_stop_has_a_section_of_the_guide(window: MainWindow) -> None:
    for stop in window.stops:
        heading = heading_of(stop.place)
        assert docs.section("guide", heading), heading


def test_f1_on_a_check_and_back(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select_check("punching")
    window.ledger.list.setFocus()
    QTest.keyClick(window, Qt.Key.Key_F1)
    found = window.ledger.helped
    assert found is not None
    assert found.isVisible()
    assert found.heading.text() == "Punching"
    text = found.text.toPlainText()
    assert MEANS["punching"][:40] in text
    assert "ratio = v" in text  # the formula as it is computed
    assert "perimeters from 0.1 d to 2 d" in text  # the theory
    found.text.anchorClicked.emit(QUrl("theory:Concrete"))
    assert found.heading.text() == "Theory: Concrete"
    QTest.keyClick(found, Qt.Key.Key_Escape)
    assert found.heading.text() == "Punching"
    found.text.anchorClicked.emit(QUrl("open:punching"))
    assert window.ledger.stack.currentWidget() is window.ledger.working
    QTest.keyClick(window, Qt.Key.Key_F1)
    assert found.isVisible()
    QTest.keyClick(window, Qt.Key.Key_F1)  # once more: what was there before
    assert window.ledger.stack.currentWidget() is window.ledger.working


def test_by_another_standard_its_own_paragraph(window: MainWindow, demo: Project) -> None:
    window.session.apply(edited(demo, ("standards", "concrete"), "ACI 318-19"))
    window.ledger.show_help(("check", "shear-x", ""))
    assert window.ledger.helped is not None
    text = window.ledger.helped.text.toPlainText()
    assert "ACI 318-19, in pounds and inches" in text
    assert "One-way shear at d from the face" not in text


@pytest.mark.long
def test_on_a_size_a_setting_and_a_column(window: MainWindow, qtbot: QtBot) -> None:
    field = window.findChild(QLineEdit, "field-thickness")
    field.setFocus()
    QTest.keyClick(window, Qt.Key.Key_F1)
    found = window.ledger.helped
    assert found is not None
    assert found.heading.text() == "Thickness h"
    QTest.keyClick(window, Qt.Key.Key_F1)
    window.show_table("settings:passive_share")
    assert topic_at(window.stop.settings.view, window.session, "Project") == ("setting", "passive_share", "")
    QTest.keyClick(window, Qt.Key.Key_F1)
    assert "mobilised" in found.heading.text()
    assert "the whole of it needs much movement" in found.text.toPlainText()
    QTest.keyClick(window, Qt.Key.Key_F1)
    pads = panel(window, "pads")
    titles = [c.title for c in pads.model.columns]
    column = next(i for i, c in enumerate(pads.model.columns) if c.tip)
    pads.view.setCurrentIndex(pads.model.index(0, column))
    pads.view.setFocus()
    QTest.keyClick(window, Qt.Key.Key_F1)
    assert found.heading.text() == titles[column]
    assert pads.model.columns[column].tip[1:] in found.text.toPlainText()


def test_elsewhere_the_guide_and_the_keys(window: MainWindow, qtbot: QtBot) -> None:
    window.go_to(4)
    window.stop.setFocus()
    assert topic_at(window.stop, window.session, "Settlement") == ("guide", "Settlement", "")
    window.ledger.show_help(("guide", "", ""))
    found = window.ledger.helped
    assert found is not None
    text = found.text.toPlainText()
    assert all(heading in text for heading in docs.headings("guide"))
    window.show_keys()
    assert "Ctrl+P" in found.text.toPlainText()
    assert "what one is at" in found.text.toPlainText()


def test_in_front_of_the_start_page_the_keys(window: MainWindow, qtbot: QtBot) -> None:
    window.show_start()
    QTest.keyClick(window, Qt.Key.Key_F1)
    box = next(w for w in window.children() if type(w).__name__ == "QMessageBox")
    assert "Ctrl+P" in box.text()
    box.close()


def test_sections_end_where_the_next_begins() -> None:
    sliding = docs.beginning("theory", "**Sliding**")
    assert sliding[0] == "Stability"
    section = docs.section("theory", "Stability")
    assert "**Uplift**" in section
    assert "## " not in section
    assert docs.section("theory", "no such heading") == ""
    assert docs.text_of("nothing") == ""
    assert docs.beginning("theory", "no such paragraph") == ("", "")
