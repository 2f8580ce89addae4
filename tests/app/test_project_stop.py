"""Project: what holds for the whole, reached from the bar; and the way to what a check lacks."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit, QListWidget
from pytestqt.qtbot import QtBot

from korbent.app.remedies import _REMEDIES, TITLES, remedy
from korbent.app.stops.plan import PlanStop
from korbent.app.stops.project import ProjectStop
from korbent.app.tables.titles import OF_TABLES
from korbent.app.window import MainWindow
from korbent.core.checks import State
from korbent.core.model import Project, edited
from tests.app.test_window import choose_section, opened, panel, type_into

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    return opened(qtbot, demo)


def project_stop(window: MainWindow) -> ProjectStop:
    assert isinstance(window.stop, ProjectStop)
    return window.stop


def test_a_click_on_the_title_leads_there_and_back(window: MainWindow, qtbot: QtBot) -> None:
    window.go_to(4)
    QTest.mouseClick(window.bar.project_label, LEFT)
    assert window.stop.title == "Project"
    assert not window.sizes.isVisible()
    assert not any(button.isChecked() for button in window.rail.buttons)
    QTest.mouseClick(window.bar.project_label, LEFT)
    assert window.stack.currentIndex() == 4
    assert window.sizes.isVisible()
    assert window.rail.buttons[4].isChecked()
    QTest.keyClick(window, Qt.Key.Key_Comma, Qt.KeyboardModifier.ControlModifier)
    assert window.stop.title == "Project"
    QTest.keyClick(window, Qt.Key.Key_1, Qt.KeyboardModifier.AltModifier)
    assert window.stack.currentIndex() == 0
    QTest.mouseClick(window.bar.standards_label, LEFT)
    assert next(p for p in window.stop.panels if p.isVisible()).spec.name == "title"


def test_no_setting_is_cut(window: MainWindow, qtbot: QtBot) -> None:
    """What is longer than its column goes on in a second line, also of a list that is as long as the one before."""
    window.show_project()
    stop = project_stop(window)
    choose_section(window, "settings")
    view = stop.settings.view

    def looked_at() -> int:
        lines = 0
        for row in range(view.model().rowCount()):
            for column in range(2):
                index = view.model().index(row, column)
                text, wide = str(index.data() or ""), view.columnWidth(column) - 6
                box = view.fontMetrics().boundingRect(0, 0, wide, 999, Qt.TextFlag.TextWordWrap, text)
                assert view.rowHeight(row) >= box.height(), text
                lines += box.height() > view.fontMetrics().height()
        return lines

    assert looked_at() > 10
    assert view.rowHeight(0) < 30
    low = view.rowHeight(2)
    for word in ("surcharge", "compared"):
        QTest.keyClicks(stop.search, word)
        assert len(stop.rows()) > 0
        looked_at()
        stop.search.clear()
    assert view.rowHeight(2) == low


def test_settings_are_grouped_searched_and_filtered(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P8")
    window.show_project()
    stop = project_stop(window)
    choose_section(window, "settings")
    everything = len(stop.settings.model.rows)
    assert everything == len([*stop.rows()]) > 100
    choose_section(window, "settings:Sliding")
    assert "factor_sliding" in stop.rows()
    assert "concrete_cover" not in stop.rows()
    assert stop.heading.text() == "Settings · Sliding"
    QTest.keyClicks(stop.search, "cover bars")
    assert stop.rows() == ("concrete_cover",)  # wherever the words stand
    stop.search.clear()
    choose_section(window, "settings")
    QTest.mouseClick(stop.filters[2], LEFT)
    assert "concrete_cover" in stop.rows()  # of T4
    assert all(stop.settings.model.text(i, 4) for i in range(len(stop.settings.model.rows)))
    QTest.mouseClick(stop.filters[1], LEFT)
    usual = type(window.session.project.settings)()
    assert stop.rows()
    assert all(getattr(window.session.project.settings, n) != getattr(usual, n) for n in stop.rows())
    QTest.keyClicks(stop.search, "no such word")
    assert stop.rows() == ()
    assert stop.settings.hint.isVisible()


def test_a_setting_is_changed_there_and_says_what_it_does(window: MainWindow, qtbot: QtBot) -> None:
    window.show_table("settings:frost_depth")
    stop = project_stop(window)
    assert stop.settings.current_row() == "frost_depth"
    assert "finished ground" in stop.does.text()
    row = stop.rows().index("frost_depth")
    type_into(qtbot, stop.settings, row, "Project", "900 mm")
    assert window.session.project.settings.frost_depth == pytest.approx(0.9)
    assert "default: 0.500 m" in str(stop.settings.model.index(row, 1).data(Qt.ItemDataRole.ToolTipRole))


@pytest.mark.long
def test_every_table_of_the_window_is_reached_by_its_name(window: MainWindow) -> None:
    window.session.select("R1")
    reached = set()
    for stop, name, _ in OF_TABLES:
        window.show_table(name)
        assert window.stop.title.lower() == stop
        shown = [p.spec.name for p in window.stop.panels if p.isVisible()]
        assert name in shown
        reached.add(name)
    there = {p.spec.name for stop in window.stops for p in stop.panels}
    assert there == reached | {"own-loads"}  # those of the selected base stand beside the others


def test_plan_keeps_what_is_drawn(window: MainWindow) -> None:
    window.go_to(2)
    assert isinstance(window.stop, PlanStop)
    names = {p.spec.name for p in window.stop.panels}
    assert not names & {"settings", "title", "units", "quantities", "rates", "presumed"}


def test_search_finds_a_setting(window: MainWindow, qtbot: QtBot) -> None:
    QTest.keyClick(window, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClicks(window.search, "creep begins")
    QTest.keyClick(window.search, Qt.Key.Key_Return)
    assert project_stop(window).settings.current_row() == "creep_from"


def test_what_cannot_be_done_leads_to_what_is_missing(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    ledger = window.ledger
    window.session.select("P3")
    window.session.apply(edited(demo, ("standards", "concrete"), "none"))
    window.session.select_check("punching")
    row = next(i for i, r in enumerate(ledger.model.rows) if getattr(r, "key", "").startswith("no concrete"))
    ledger.list.setCurrentIndex(ledger.model.index(row))
    assert "standards" in ledger.go_button.text()
    QTest.mouseClick(ledger.go_button, LEFT)
    assert next(p for p in window.stop.panels if p.isVisible()).spec.name == "title"


def test_the_opened_check_leads_there_too(window: MainWindow, demo: Project) -> None:
    window.session.select("P3")
    window.session.apply(demo.replaced(ground=demo.ground.replaced(boreholes=())))
    window.session.select_check("resistance-drained")
    window.ledger.working.show_check("resistance-drained")
    assert "place:boreholes" in window.ledger.working.text.toHtml()


def test_reasons_lead_to_tables_that_are_there(demo: Project) -> None:
    for _, place in _REMEDIES:
        assert place.partition(":")[0] in TITLES
    assert remedy("the soil 'Silty sand' has no modulus") == ("Soils", "soils")
    assert remedy("it cannot be") == ("", "")
    assert State.CANNOT.value == "cannot be done"


@pytest.mark.long
def test_one_list_of_sections_by_keys(window: MainWindow, qtbot: QtBot) -> None:
    window.show_project()
    sections = window.stop.findChild(QListWidget, "project-sections")
    sections.setFocus()
    QTest.keyClick(sections, Qt.Key.Key_Down)
    assert next(p for p in window.stop.panels if p.isVisible()).spec.name == "settings"
    assert window.stop.findChild(QLineEdit, "search-settings").isVisible()
    assert panel(window, "rates").isVisible()
