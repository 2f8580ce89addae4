"""Before and now in the ledger, and tries: set aside, compared, taken back."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit
from pytestqt.qtbot import QtBot

from korbent.app.session import Session
from korbent.app.tries_dialog import TriesDialog
from korbent.app.window import MainWindow
from korbent.core.checks import CheckResult
from korbent.core.model import Project
from tests.app.test_window import opened

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = opened(qtbot, demo)
    made.session.select("P3")
    return made


def row_of(window: MainWindow, check: str) -> CheckResult:
    return next(r for r in window.ledger.model.rows if isinstance(r, CheckResult) and r.check.id == check)


def test_after_an_edit_each_check_shows_where_it_came_from(window: MainWindow, qtbot: QtBot) -> None:
    before = row_of(window, "presumed-pressure").ratio
    assert window.ledger.delegate._change(row_of(window, "presumed-pressure")) == ""
    field = window.findChild(QLineEdit, "field-width")
    field.setFocus()
    QTest.keyClick(field, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    now = row_of(window, "presumed-pressure")
    assert now.ratio is not None
    assert before is not None
    assert window.ledger.delegate.former["presumed-pressure"] == before
    assert window.ledger.delegate._change(now) == f"▾ {before - now.ratio:.2f}"
    row = window.ledger.model.rows.index(now)
    tooltip = window.ledger.model.index(row).data(Qt.ItemDataRole.ToolTipRole)
    assert f"before the last change: {before:.2f}" in tooltip
    # a check that has not changed says nothing, another base neither
    assert window.ledger.delegate._change(row_of(window, "contact-share")) == ""
    window.session.select("P7")
    assert window.ledger.delegate.former == {}


def shown(qtbot: QtBot, window: MainWindow) -> TriesDialog:
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    before = getattr(window, "tries", None)
    QTest.keyClick(window, Qt.Key.Key_T, Qt.KeyboardModifier.ControlModifier)
    found = window.tries
    assert found is not before
    qtbot.waitUntil(lambda: found._job is None, timeout=30_000)
    return found


@pytest.mark.long
def test_a_try_is_kept_compared_and_taken_back(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    first = session.project
    dialog = shown(qtbot, window)
    assert dialog.table.rowCount() == 1
    dialog.name.clear()
    QTest.keyClicks(dialog.name, "as it was")
    QTest.keyClick(dialog.name, Qt.Key.Key_Return)
    assert dialog.isVisible()
    assert dialog.table.rowCount() == 2
    assert not dialog.keep_button.isEnabled()  # this state is kept already
    dialog.close()
    session.resize("width", 3.0)
    session.resize("length", 3.0)
    dialog = shown(qtbot, window)
    texts = [[dialog.table.item(r, c).text() for c in range(dialog.table.columnCount())] for r in range(2)]
    assert texts[0][0] == "now"
    assert texts[1][0] == "as it was"
    assert texts[0][1].startswith("3.00 × 3.00")
    assert texts[1][1].startswith("2.20 × 2.20")
    assert float(texts[0][2]) > float(texts[1][2])  # concrete
    dialog.table.selectRow(1)
    assert "concrete −" in dialog.note.text()
    QTest.mouseClick(dialog.take_button, LEFT)
    assert session.project is first or session.project == first
    session.undo()
    assert session.pad.width == 3.0  # type: ignore[union-attr]
    dialog = shown(qtbot, window)
    dialog.table.selectRow(1)
    dialog.table.setFocus()
    QTest.keyClick(dialog.table, Qt.Key.Key_Delete)
    assert dialog.table.rowCount() == 1
    assert session.tries() == ()


def test_a_name_is_asked_for_once(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    assert session.keep_try("  wide   one ") == ""
    assert [t.name for t in session.tries()] == ["wide one"]
    assert "already" in session.keep_try("wide one")
    assert "name" in session.keep_try("   ")
    session.resize("width", 2.6)
    dialog = shown(qtbot, window)
    assert dialog.name.text().startswith("try 2: ")
    assert "width" in dialog.name.text()


@pytest.mark.long
def test_tries_go_with_the_file(demo: Project, tmp_path: Path) -> None:
    path = tmp_path / "plan.korbent"
    session = Session(demo)
    session.keep_try("before it had a file")
    session.save(path)
    session.select("P3")
    session.resize("width", 2.7)
    session.keep_try("wider")
    assert session.is_saved is False  # a try is no saving
    again = Session(session.project, path)
    assert [t.name for t in again.tries()] == ["before it had a file", "wider"]
    assert again.tries()[0].project == demo
    assert again.tries()[1].project.pad("P3").width == 2.7
    for number in range(25):  # saved states are bounded in number, tries stay
        again.select("P3")
        again.resize("width", 2.7 + 0.01 * number)
        again.save()
    assert [t.name for t in again.tries()] == ["before it had a file", "wider"]
    again.forget_try("wider")
    assert [t.name for t in Session(demo, path).tries()] == ["before it had a file"]


def test_another_project_has_none_of_them(window: MainWindow) -> None:
    window.session.keep_try("one")
    window.replace_session(window.session.project, None)
    assert window.session.tries() == ()
