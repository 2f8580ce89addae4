"""The tables of the window: good and wrong entries, rows, blocks from a spreadsheet, rule sets and generated
combinations."""

from typing import get_args

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QLineEdit, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from korbent.app.generate_bar import GenerateBar
from korbent.app.window import MainWindow
from korbent.core.model import Project
from korbent.core.model.actions import Serves
from korbent.core.model.labels import label
from tests.app.test_window import opened, panel, type_into

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    return opened(qtbot, demo)


@pytest.mark.long
def test_editing_a_soil_changes_the_checks(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P7")
    assert window.session.result is not None
    before = window.session.result.check("resistance-drained").ratio
    soils = panel(window, "soils")
    type_into(qtbot, soils, 1, "φ′", "29")
    assert window.session.project.ground.soils[1].friction_angle == 29.0
    assert (window.session.result.check("resistance-drained").ratio or 0) > (before or 0)


@pytest.mark.long
def test_a_wrong_cell_keeps_what_was_typed_and_changes_nothing(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    soils = panel(window, "soils")
    type_into(qtbot, soils, 1, "γ", "-18")
    assert window.session.project is demo
    column = next(i for i, c in enumerate(soils.model.columns) if c.title == "γ")
    index = soils.model.index(1, column)
    assert index.data() == "-18"
    assert "greater than 0" in index.data(Qt.ItemDataRole.ToolTipRole)
    assert "greater than 0" in window.message.text()
    type_into(qtbot, soils, 1, "γ", "115 pcf")
    assert window.session.project.ground.soils[1].weight == pytest.approx(18.065, rel=1e-3)
    assert not soils.model.wrong


@pytest.mark.parametrize(
    ("table", "row", "column", "text", "says"),
    [
        ("strata", 0, "Thickness", "0", "greater than 0"),
        ("strata", 0, "Top", "3", "follows from the thicknesses"),
        ("levels", 5, "Value", "9", "levels must rise"),
        ("loads", 0, "V", "many", "not a number"),
        ("loads", 0, "Case", "Q", "label"),
        ("combinations", 0, "Serves", "beauty", "allowable"),
        ("combinations", 5, "Serves", "ultimate, nothing", "not one of"),
        ("pads", 0, "Bottom x", "thick", "diameter at spacing"),
        ("pads", 0, "Pedestal", "0.6", "sizes and level"),
        ("pads", 0, "Worst", "0.1", "result"),
        ("settings", 0, "Project", "-5", "greater than 0"),
        ("cases", 0, "Case", "", "at least 1"),
    ],
)
def test_wrong_entries_say_what_is_wrong(
    kept_open: MainWindow,
    qtbot: QtBot,
    demo: Project,
    table: str,
    row: int,
    column: str,
    text: str,
    says: str,
) -> None:
    window = kept_open
    window.session.announce("")
    found = panel(window, table)
    type_into(qtbot, found, row, column, text) if text else found.model.setData(
        found.model.index(row, [c.title for c in found.model.columns].index(column)), text
    )
    assert says in window.message.text()
    assert window.session.project is demo
    for editor in found.view.findChildren(QLineEdit):  # what is wrong stays in front: let go
        qtbot.keyClick(editor, Qt.Key.Key_Escape)


@pytest.mark.long
def test_good_entries_reach_the_project(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    type_into(qtbot, panel(window, "pads"), 0, "Bottom x", "20 at 125")
    assert session.project.pads[0].reinforcement.bottom_x.spacing == 0.125
    type_into(qtbot, panel(window, "pads"), 0, "Pedestal", "0.5 x 0.7 to 3.1")
    assert session.project.pads[0].pedestal is not None
    assert session.project.pads[0].pedestal.size_y == 0.7
    type_into(qtbot, panel(window, "loads"), 0, "V", "75 kip")
    assert pytest.approx(333.617, rel=1e-4) == session.project.actions.load_points[0].loads["G"].V
    type_into(qtbot, panel(window, "combinations"), 0, "Q", "0.9")
    assert session.project.actions.combinations[0].factors["Q"] == 0.9
    type_into(qtbot, panel(window, "settings"), 0, f"Pad {session.selected}", "310")
    assert session.pad is not None
    assert session.pad.overrides["presumed_pressure"] == 310.0
    assert session.selected in panel(window, "settings").model.text(0, 4)
    type_into(qtbot, panel(window, "title"), 0, "Text", "Lindmere quay")
    assert window.bar.project_label.text() == "Lindmere quay"
    type_into(qtbot, panel(window, "soils"), 0, "Soil", "Old fill")
    assert session.project.ground.boreholes[0].strata[0].soil == "Old fill"


@pytest.mark.long
def test_the_design_approach_follows_the_rules(window: MainWindow) -> None:
    window.go_to(1)
    bar = window.stop.findChild(GenerateBar)  # type: ignore[attr-defined]
    for rules, approach in (
        ("EN 1990 (6.10), DA2*", "DA2*"),
        ("EN 1990 (6.10), DA3", "DA3"),
        ("ASCE 7-22", "DA3"),
    ):
        bar.rules.setCurrentText(rules)
        bar.run()
        assert window.session.project.standards.approach == approach
    window.session.undo()
    window.session.undo()
    assert window.session.project.standards.approach == "DA2*"


@pytest.mark.long
def test_generating_combinations(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    found = panel(window, "combinations")
    rules, generate, back = (found.findChild(QWidget, n) for n in ("rules", "generate", "take-back"))
    # the demo's own rows were written by hand and stay
    qtbot.mouseClick(generate, LEFT)
    rows = window.session.project.actions.combinations
    assert all(c in rows for c in demo.actions.combinations)
    first = next(i for i, c in enumerate(rows) if c.origin)
    assert found.model.text(first, len(found.model.columns) - 1).startswith("EN 1990, (6.14b)")
    # a factor changed by hand is marked, survives, and can be taken back
    type_into(qtbot, found, first, "G", "1.07")
    edited_row = window.session.project.actions.combinations[first]
    assert edited_row.edited
    assert found.model.text(first, len(found.model.columns) - 1).endswith("edited")
    qtbot.mouseClick(generate, LEFT)
    assert window.session.project.actions.combinations[first].factors["G"] == 1.07
    found.view.setCurrentIndex(found.model.index(first, 0))
    qtbot.mouseClick(back, LEFT)
    again = [c for c in window.session.project.actions.combinations if c.name == edited_row.origin_name and c.origin]
    assert again[0].factors["G"] == 1.0
    assert not again[0].edited
    qtbot.mouseClick(back, LEFT)
    assert "choose a generated row" in window.message.text()
    rules.setCurrentText("ASCE 7-16")
    qtbot.mouseClick(generate, LEFT)
    origins = {c.origin.split(",")[0] for c in window.session.project.actions.combinations}
    assert origins == {"", "ASCE 7-16"}
    assert window.session.project.actions.rules == "ASCE 7-16"
    while window.session.position:
        window.session.undo()
    assert window.session.project is demo


@pytest.mark.long
def test_rows_are_added_and_removed(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    for name, count in (
        ("soils", lambda p: len(p.ground.soils)),
        ("boreholes", lambda p: len(p.ground.boreholes)),
        ("strata", lambda p: sum(len(h.strata) for h in p.ground.boreholes)),
        ("cases", lambda p: len(p.actions.cases)),
        ("points", lambda p: len(p.actions.load_points)),
        ("combinations", lambda p: len(p.actions.combinations)),
        ("types", lambda p: len(p.types)),
        ("pads", lambda p: len(p.pads)),
    ):
        found = panel(window, name)
        before = count(session.project)
        qtbot.mouseClick(found.add_button, LEFT)
        assert count(session.project) == before + 1, name
        found.view.setCurrentIndex(found.model.index(len(found.model.rows) - 1, 0))
        qtbot.mouseClick(found.remove_button, LEFT)
        assert count(session.project) == before, name


def test_what_is_needed_is_not_removed(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    found = panel(window, "soils")
    found.view.setCurrentIndex(found.model.index(0, 0))
    qtbot.mouseClick(found.remove_button, LEFT)
    assert "no soil 'Made ground'" in window.message.text()
    assert window.session.project is demo


def test_copy_and_paste_with_a_spreadsheet(window: MainWindow, qtbot: QtBot) -> None:
    found = panel(window, "loads")
    found.view.setCurrentIndex(found.model.index(0, 2))
    QGuiApplication.clipboard().setText("1 318,5\t-4\nabc\t2")
    qtbot.keyClick(found.view, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    point = window.session.project.actions.load_points[0]
    assert (point.loads["G"].V, point.loads["G"].Hx, point.loads["Q"].Hx) == (1318.5, -4.0, 2.0)
    assert (1, 2) in found.model.wrong
    found.view.selectRow(0)
    qtbot.keyClick(found.view, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert QGuiApplication.clipboard().text().split("\t")[:3] == ["A1", "G", "1318.5"]


@pytest.mark.long
def test_the_rules_as_a_table_with_values_of_an_annex(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    found = panel(window, "combinations")
    bar = found.findChild(GenerateBar)
    qtbot.mouseClick(found.findChild(QPushButton, "show-rules"), LEFT)
    dialog = bar.dialog
    qtbot.waitUntil(lambda: dialog.rows.item(dialog.rows.rowCount() - 1, 0) is not None)
    assert dialog.rows.item(0, 0).text() == "(6.14b) characteristic"
    rows = dialog.rows
    heads = [rows.horizontalHeaderItem(j).text() for j in range(rows.columnCount())]
    serves = {rows.item(i, heads.index("Serves")).text() for i in range(rows.rowCount())}
    assert {"allowable", "ultimate, concrete", "EQU, UPL"} <= serves
    known = {label(key) for key in get_args(Serves)}
    assert {word for text in serves for word in text.split(", ")} <= known
    # a word finds rows and values
    qtbot.keyClicks(dialog.search, "UPL")
    assert 0 < sum(not dialog.rows.isRowHidden(i) for i in range(dialog.rows.rowCount())) < 8
    dialog.search.clear()
    names = [dialog.values.item(i, 0).text() for i in range(dialog.values.rowCount())]
    cell = dialog.values.item(names.index("ψ2 B"), 2)
    cell.setText("many")
    assert dialog.changed == {}
    assert "ψ2 B" in dialog.word.text()
    assert "not a number" in dialog.word.text()
    dialog.values.item(names.index("ψ2 B"), 2).setText("0.6")
    assert "ψ2 B" in dialog.word.text()
    qtbot.mouseClick(dialog.findChild(QPushButton, "rules-generate"), LEFT)
    actions = window.session.project.actions
    assert dict(actions.rule_values) == {"psi2 B": 0.6}
    assert any(c.name == "G + 0.6 Q" and "settlement_long" in c.serves for c in actions.combinations)
    # the standard's again
    qtbot.mouseClick(found.findChild(QPushButton, "show-rules"), LEFT)
    qtbot.mouseClick(bar.dialog.standard, LEFT)
    qtbot.mouseClick(bar.dialog.findChild(QPushButton, "rules-generate"), LEFT)
    assert not window.session.project.actions.rule_values
    while window.session.position:
        window.session.undo()
    assert window.session.project is demo
