"""Changes whose results take long: the window goes on, shows them when they are there, and never mixes up two
projects."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.main import first_window
from korbent.app.session import Session
from korbent.app.window import MainWindow
from korbent.core.checks import CheckResult
from korbent.core.evaluate import evaluate
from korbent.core.model import Project
from korbent.files.project_file import save
from tests.app.test_window import opened, panel, type_into


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = opened(qtbot, demo)
    made.session.patience = 0.0
    return made


def ratio(session: Session, name: str = "P7") -> float | None:
    return session.results.pad(name).worst.ratio


def test_who_asks_for_results_gets_those_of_the_project_as_it_is(window: MainWindow, demo: Project) -> None:
    session = window.session
    session.edit(("settings", "concrete_weight"), 30.0)
    assert session.project.settings.concrete_weight == 30.0
    assert session.results.project is session.project
    expected = evaluate(session.project)
    assert [c.ratio for c in session.results.all_checks] == [c.ratio for c in expected.all_checks]


@pytest.mark.long
def test_views_are_told_when_they_come(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    told = []
    session.listen(lambda _: told.append(session.results.project), "changed")
    session.edit(("settings", "concrete_weight"), 31.0)
    assert not told
    qtbot.waitUntil(lambda: bool(told))
    assert told == [session.project]


@pytest.mark.long
def test_of_changes_in_quick_succession_the_last_is_shown(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    told = []
    session.listen(lambda _: told.append(session.results.project.settings.concrete_weight), "changed")
    for weight in (26.0, 27.0, 28.0):
        session.edit(("settings", "concrete_weight"), weight)
    session.undo()
    qtbot.waitUntil(lambda: bool(told))
    qtbot.wait(300)
    assert set(told) == {27.0}
    assert session.results.project is session.project
    assert session.message == "undone"


@pytest.mark.long
def test_a_change_typed_in_a_table_reaches_the_ledger(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P7")
    before = ratio(session)
    pads = panel(window, "pads")
    row = [p.name for p in session.project.pads].index("P7")
    type_into(qtbot, pads, row, "B", "1.6")
    assert session.pad is not None
    assert session.pad.width == 1.6
    qtbot.waitUntil(lambda: window.ledger.worst.text() == f"{ratio(session):.2f}")
    assert (ratio(session) or 0) > (before or 0)
    shown = [c for c in window.ledger.model.rows if isinstance(c, CheckResult)]
    assert shown
    assert all(c is session.results.pad("P7").check(c.check.id) for c in shown)


def test_a_file_is_opened_and_shown(window: MainWindow, qtbot: QtBot, demo: Project, tmp_path) -> None:  # type: ignore[no-untyped-def]
    other = demo.replaced(title=demo.title.replaced(project="Another harbour"), pads=demo.pads[:3])
    save(other, tmp_path / "other.korbent")
    assert window.files.open_file(tmp_path / "other.korbent")
    qtbot.waitUntil(lambda: window.bar.project_label.text() == "Another harbour")
    assert [p.name for p in window.session.results.pads] == [p.name for p in other.pads]
    assert window.stack.currentIndex() == 3


def test_a_window_that_closes_meanwhile_is_not_missed(qtbot: QtBot, demo: Project) -> None:
    window = MainWindow(Session(demo, patience=0.0))
    window.session.saved = demo
    window.show()
    window.session.edit(("settings", "concrete_weight"), 29.0)
    window.session.saved = window.session.project
    window.close()
    window.deleteLater()
    qtbot.wait(400)
    assert window.session.results.project.settings.concrete_weight == 29.0


@pytest.mark.long
def test_a_key_meets_tables_that_are_up_to_date(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    """Rows added and deleted as fast as hands can: each click counts for the row that it is meant for."""
    session = window.session
    soils = panel(window, "soils")
    count = len(demo.ground.soils)
    add, remove = (soils.findChild(QPushButton, f"{name}-soils") for name in ("add", "remove"))
    qtbot.mouseClick(add, Qt.MouseButton.LeftButton)
    assert len(soils.model.rows) == count  # still behind
    qtbot.mouseClick(add, Qt.MouseButton.LeftButton)
    assert len(session.project.ground.soils) == count + 2
    qtbot.keyClick(soils.view, Qt.Key.Key_Down)
    assert len(soils.model.rows) == count + 2
    first = session.project.ground.soils[0].name
    for last in (count + 1, count):
        qtbot.keyClick(soils.view, Qt.Key.Key_Down)
        assert len(soils.model.rows) == last + 1
        soils.view.setCurrentIndex(soils.model.index(last, 0))
        qtbot.mouseClick(remove, Qt.MouseButton.LeftButton)
    assert session.project.ground.soils[0].name == first
    assert len(session.project.ground.soils) == count


def test_what_was_said_after_a_change_stays_said(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.edit(("settings", "concrete_weight"), 25.5)
    session.announce("read this")
    qtbot.waitUntil(lambda: session._untold is None)
    assert window.message.text() == "read this"


def test_the_first_window_is_there_before_its_project(qtbot: QtBot, demo: Project) -> None:
    window = first_window(demo, None)
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    assert window.isVisible()
    assert not window.session.project.pads
    assert "being computed" in window.message.text()
    assert not window.body.isVisible()  # nothing is said of the project that is there until then
    assert not window.bar.project_label.isVisible()
    qtbot.waitUntil(lambda: window.bar.project_label.text() == demo.title.project)
    assert window.session.project is demo
    assert window.session.results.project is demo
    assert window.ledger.model.rows
    assert window.body.isVisible()
    assert window.bar.project_label.isVisible()
    assert window.focusWidget() is window.ledger.list
    assert "check fails" in window.message.text() or "checks fail" in window.message.text()
