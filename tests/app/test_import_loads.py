"""Importing loads in the window: preview, choices, acceptance, marks, taking back."""

import time
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication, QCheckBox, QComboBox, QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.import_loads import ImportLoads, crossed
from korbent.app.loads_bar import LoadsBar
from korbent.app.session import Session
from korbent.app.tables import TablePanel
from korbent.app.window import MainWindow
from korbent.core.evaluate import evaluate
from korbent.core.model import Project, edited
from korbent.files.sheet import Sheet, read_sheet
from korbent.files.watched import step, watched

LEFT = Qt.MouseButton.LeftButton
TEXT = "Column;Case;V [kN];Hx [kN];My [kNm]\nD2;G;1090;4,8;6,1\nD2;Q;500;3;3,9\nA1;G;318;-3,5;-4,5\n"


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = MainWindow(Session(demo))
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.show()
    made.go_to(1)
    return made


def bar(window: MainWindow) -> LoadsBar:
    found = window.findChild(LoadsBar)
    assert found is not None
    return found


def begin(window: MainWindow, folder: Path, text: str = TEXT) -> ImportLoads:
    path = folder / "frame.csv"
    path.write_text(text, encoding="utf-8")
    bar(window).begin(path)
    while not bar(window).reading.over:
        QApplication.processEvents()
    dialog = bar(window).dialog
    assert dialog is not None
    return dialog


def test_the_preview_changes_nothing_until_accepted(
    window: MainWindow, qtbot: QtBot, tmp_path: Path, demo: Project
) -> None:
    dialog = begin(window, tmp_path)
    cells = [dialog.list.item(i, j).text() for i in range(dialog.list.rowCount()) for j in range(6)]
    assert "871" in cells
    assert "1090 kN" in cells
    assert "values differ" in dialog.summary.text()
    assert window.session.project is demo
    dialog.reject()
    assert window.session.project is demo


def test_accepting_says_what_crossed_and_undo_takes_it_back(
    window: MainWindow, qtbot: QtBot, tmp_path: Path, demo: Project
) -> None:
    dialog = begin(window, tmp_path)
    qtbot.mouseClick(dialog.take, LEFT)
    assert window.session.project.load_point("D2").loads["G"].V == 1090.0
    assert window.session.project.load_point("D2").loads["W+x"] == demo.load_point("D2").loads["W+x"]
    assert "P7 against presumed pressure 0.91 → 1.05" in window.message.text()
    window.session.undo()
    assert window.session.project is demo


@pytest.mark.long
def test_imported_values_are_marked_and_a_change_can_be_taken_back(
    window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    qtbot.mouseClick(begin(window, tmp_path).take, LEFT)
    panel = window.findChild(TablePanel, "panel-loads")
    assert panel is not None
    row = next(i for i, r in enumerate(panel.model.rows) if (r[0].name, r[1]) == ("D2", "G"))
    last = len(panel.model.columns) - 1
    assert panel.model.text(row, last) == "imported"
    assert panel.model.text(row + 2, last) == ""
    window.session.edit(("actions", "load_points", "D2", "loads", "G", "V"), 1000.0)
    assert panel.model.text(row, last) == "imported · changed"
    panel.view.setCurrentIndex(panel.model.index(row, 2))
    back = window.findChild(QPushButton, "loads-back")
    qtbot.mouseClick(back, LEFT)
    assert window.session.project.load_point("D2").loads["G"].V == 1090.0
    qtbot.mouseClick(back, LEFT)
    assert "changed by hand" in window.message.text()


@pytest.mark.long
def test_choices_are_read_at_once_and_remembered(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    dialog = begin(window, tmp_path)
    dialog.sense.setCurrentText("reactions, z up")
    dialog.sense.activated.emit(2)
    assert dialog.table.loads["D2"]["G"].Hx == -4.8
    dialog.swapped.setChecked(True)
    assert dialog.table.loads["D2"]["G"].Hy == -4.8
    dialog.units["V"].setCurrentText("MN")
    dialog.units["V"].activated.emit(1)
    assert pytest.approx(1_090_000.0) == dialog.table.loads["D2"]["G"].V
    dialog.units["V"].setCurrentText("kN")
    dialog.units["V"].activated.emit(0)
    qtbot.mouseClick(dialog.take, LEFT)
    again = begin(window, tmp_path)
    assert again.sense.currentText() == "reactions, z up"
    assert again.swapped.isChecked()
    assert "0 values differ" in again.summary.text()
    again.reject()


def test_columns_mapped_by_hand(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    dialog = begin(window, tmp_path, "Where;What;Down\nD2;G;900\n")
    assert not dialog.take.isEnabled()
    assert "problems" in dialog.summary.text()
    for role, column in (("point", 1), ("case", 2), ("V", 3)):
        dialog.columns[role].setCurrentIndex(column)
        dialog.columns[role].activated.emit(column)
    assert dialog.take.isEnabled()
    assert dialog.table.loads["D2"]["G"].V == 900.0
    assert not dialog.picture.grab().isNull()
    dialog.reject()


def test_problems_block_and_are_listed(window: MainWindow, qtbot: QtBot, tmp_path: Path, demo: Project) -> None:
    dialog = begin(window, tmp_path, TEXT + "D2;W+x;much;0;0\nQ9;G;5;0;0\n")
    assert not dialog.take.isEnabled()
    cells = " ".join(dialog.list.item(i, j).text() for i in range(dialog.list.rowCount()) for j in range(6))
    assert "row 5, column 'V [kN]'" in cells
    assert "Q9" in cells
    dialog.accept()
    assert window.session.project is demo
    dialog.reject()


def test_a_file_that_is_no_table(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    (tmp_path / "x.csv").write_text("1,2\n")
    bar(window).begin(tmp_path / "x.csv")
    qtbot.waitUntil(lambda: bar(window).reading.over)
    assert "no header" in window.message.text()


@pytest.mark.long
def test_a_long_table_is_read_beside_the_window_and_can_be_left_off(
    window: MainWindow, qtbot: QtBot, tmp_path: Path, demo: Project, monkeypatch: pytest.MonkeyPatch
) -> None:
    def slowly(_: Path) -> Sheet:
        for row in range(20_000):
            step(f"{row} rows")
            time.sleep(0.002)
        return Sheet((), (), 1)

    monkeypatch.setattr("korbent.app.loads_bar.read_sheet", slowly)
    bar(window).begin(tmp_path / "long.csv")
    reading = bar(window).reading
    told: list[str] = []
    reading.told.connect(told.append)
    qtbot.waitUntil(lambda: reading.dialog.isVisible() and len(told) > 2)
    assert "rows" in reading.dialog.labelText()
    window.session.edit(("title", "author"), "meanwhile")  # the window goes on
    qtbot.mouseClick(reading.dialog.findChild(QPushButton), LEFT)
    qtbot.waitUntil(lambda: reading.over)
    assert bar(window).dialog is None
    assert "left off" in window.message.text()


def test_reading_says_how_far_it_is(tmp_path: Path) -> None:
    (tmp_path / "long.csv").write_text(TEXT + "D2;G;1090;4,8;6,1\n" * 2000, encoding="utf-8")
    told: list[str] = []
    with watched(told.append):
        assert len(read_sheet(tmp_path / "long.csv").rows) == 2003
    assert told == ["0 rows", "500 rows", "1,000 rows", "1,500 rows", "2,000 rows"]


def test_what_crossed(demo: Project) -> None:
    before = evaluate(demo)
    wider = evaluate(edited(demo, ("pads", "P8", "width"), 2.1))
    assert "now within 1.0: P8" in crossed(before, wider, 1)
    assert "now beyond 1.0: P8 against presumed pressure" in crossed(wider, before, 1)
    assert "no check crossed" in crossed(before, before, 0)


def test_what_is_not_clear_is_confirmed_before_it_is_taken(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    """No unit, a combination and a case of an unknown kind: each has its box, and until all are answered nothing can be
    taken."""
    text = "Column,Case,V,Hx\nA1,G,318,1\nA1,Walkway,20,1\nD2,1.35G+1.5Q,900,2\n"
    dialog = begin(window, tmp_path, text)
    assert not dialog.take.isEnabled()
    assert "to be confirmed" in dialog.summary.text()
    for key in ("units", "combinations"):
        tick = dialog.findChild(QCheckBox, f"ask-{key}")
        assert tick is not None
        qtbot.mouseClick(tick, LEFT, pos=QPoint(8, tick.height() // 2))
        assert tick.isChecked()
        assert not dialog.take.isEnabled()
    choice = dialog.findChild(QComboBox, "ask-nature:Walkway")
    assert choice is not None
    choice.setCurrentText("imposed")
    choice.activated.emit(choice.currentIndex())
    assert dialog.take.isEnabled()
    qtbot.mouseClick(dialog.take, LEFT)
    project = window.session.project
    assert next(c for c in project.actions.cases if c.name == "Walkway").nature == "imposed"
    assert project.actions.combinations[-1].factors == {"1.35G+1.5Q": 1.0}


def test_a_unit_that_is_not_understood_is_chosen(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    dialog = begin(window, tmp_path, "Column,Case,V (tonf)\nA1,G,32\n")
    assert "choose the unit" in dialog.list.item(0, 4).text()
    unit = dialog.units["V"]
    assert unit.currentText() == "choose …"
    unit.setCurrentText("tf")
    unit.activated.emit(unit.currentIndex())
    assert pytest.approx(32 * 9.80665) == dialog.table.loads["A1"]["G"].V
    assert dialog.take.isEnabled()
