"""Settings where they act: above the working of a check, changed there."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit
from pytestqt.qtbot import QtBot

from korbent.app.deciding_panel import DecidingPanel
from korbent.app.window import MainWindow
from korbent.core.model import Project, edited
from tests.app.test_window import opened

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = opened(qtbot, demo)
    made.session.select("P3")
    return made


def open_check(qtbot: QtBot, window: MainWindow, check: str) -> DecidingPanel:
    window.session.select_check(check)
    QTest.keyClick(window.ledger.list, Qt.Key.Key_Return)
    found = window.ledger.working.deciding
    qtbot.waitUntil(lambda: found.asked.state == "", timeout=20_000)
    return found


@pytest.mark.long
def test_a_setting_is_changed_above_the_working_and_the_number_moves(window: MainWindow, qtbot: QtBot) -> None:
    found = open_check(qtbot, window, "presumed-pressure")
    assert found.table.isVisible()
    assert found.names[0] == "presumed_pressure"
    assert "decide this" in found.fold.text()
    titles = [c.title for c in found.table.model.columns]
    assert titles == ["Project", "Type T2", "Pad P3"]
    before = window.session.result.check("presumed-pressure").ratio  # type: ignore[union-attr]
    heading = window.ledger.working.heading.text()
    view = found.table.view
    at = found.table.model.index(0, 2)
    QTest.mouseClick(view.viewport(), LEFT, pos=view.visualRect(at).center())
    QTest.keyClick(view, Qt.Key.Key_3)
    QTest.keyClicks(view.findChildren(QLineEdit)[-1], "50")
    QTest.keyClick(view.findChildren(QLineEdit)[-1], Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: window.session.pad.overrides.get("presumed_pressure") == 350.0)  # type: ignore[union-attr]
    after = window.session.result.check("presumed-pressure").ratio  # type: ignore[union-attr]
    assert after < before  # type: ignore[operator]
    assert window.ledger.working.heading.text() != heading
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.ledger.working.heading.text() == heading


def test_what_is_only_read_stands_behind_a_button_and_all_folds(window: MainWindow, qtbot: QtBot) -> None:
    found = open_check(qtbot, window, "sliding-drained")
    shown = found.names
    QTest.mouseClick(found.more, LEFT)
    assert found.names[: len(shown)] == shown
    assert len(found.names) > len(shown)
    QTest.mouseClick(found.fold, LEFT)
    assert not found.table.isVisible()
    QTest.mouseClick(found.fold, LEFT)
    assert found.table.isVisible()


@pytest.mark.long
def test_another_check_another_base_and_a_step_of_the_working(window: MainWindow, qtbot: QtBot) -> None:
    found = open_check(qtbot, window, "sliding-drained")
    first = found.names
    window.session.select_check("frost-depth")
    window.ledger.working.show_check("frost-depth")
    assert found.names == ()  # those of another check are not shown
    qtbot.waitUntil(lambda: found.asked.state == "", timeout=20_000)
    assert found.names
    assert found.names != first
    window.ledger.working.show_check("sliding-drained")
    qtbot.waitUntil(lambda: found.asked.state == "", timeout=20_000)
    line = next(line for line in window.ledger.working.found.lines() if line.inputs)  # type: ignore[union-attr]
    window.ledger.working.trail.append(line.index)
    window.ledger.working._render()
    assert not found.isVisible()  # of a step within it no settings are told
    window.ledger.working.go_back()
    assert found.isVisible()


@pytest.mark.long
def test_a_table_of_presumed_pressures_is_reached(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    window.session.apply(edited(demo, ("settings", "presumed_table"), ((0.5, 0.0, 150.0), (3.0, 0.0, 300.0))))
    found = open_check(qtbot, window, "presumed-pressure")
    assert "presumed_table" in found.found.changing
    assert found.own_table.isVisible()
    QTest.mouseClick(found.own_table, LEFT)
    assert window.stop.title == "Project"
    shown = next(p for p in window.stop.panels if p.isVisible())
    assert shown.spec.name == "presumed"


def test_a_check_that_a_base_does_not_have_has_no_settings(demo: Project) -> None:
    from korbent.jobs import deciding

    found = deciding(demo, "P3", "raft-slope", lambda *_: None, lambda: False)
    assert not found.changing
    assert not found.read
