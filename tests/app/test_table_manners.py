"""Tables: expressions, notes, what is understood while typing, fill, sort, paste as one step; templates and sets."""

from pathlib import Path

import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QGuiApplication, QMouseEvent
from PySide6.QtWidgets import QInputDialog, QLineEdit, QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.beginnings import beginnings
from korbent.app.session import Session
from korbent.app.style import load_fonts
from korbent.app.tables import Reading, TablePanel
from korbent.app.window import MainWindow
from korbent.core.model import Project, edited
from korbent.demo import lindmere, redstem

LEFT = Qt.MouseButton.LeftButton
CONTROL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    load_fonts()
    made = MainWindow(Session(demo))
    made.resize(1280, 800)
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.show()
    qtbot.waitExposed(made)
    return made


def panel(window: MainWindow, stop: int, name: str) -> TablePanel:
    window.show_table(name)
    assert window.stack.currentIndex() == stop
    return next(p for p in window.stop.panels if p.spec.name == name)


def cell(found: TablePanel, row: int, title: str) -> tuple[int, int]:
    return row, next(i for i, c in enumerate(found.model.columns) if c.title == title)


def type_into(qtbot: QtBot, found: TablePanel, row: int, title: str, text: str, finish: bool = True) -> QLineEdit:
    found.view.setFocus()
    found.view.setCurrentIndex(found.model.index(*cell(found, row, title)))
    found.view.edit(found.view.currentIndex())
    editor = found.view.findChildren(QLineEdit)[-1]
    editor.selectAll()
    qtbot.keyClicks(editor, text)
    if finish:
        qtbot.keyClick(editor, Qt.Key.Key_Return)
        QGuiApplication.processEvents()  # the editor commits after it has handled the key
    return editor


@pytest.mark.long
def test_an_expression_in_a_cell(window: MainWindow, qtbot: QtBot) -> None:
    names = panel(window, 7, "quantities")
    qtbot.mouseClick(names.add_button, LEFT)
    type_into(qtbot, names, 0, "Name", "clear")
    type_into(qtbot, names, 0, "Kind", "m") if False else window.session.edit(("quantities", "clear", "unit"), "m")
    type_into(qtbot, names, 0, "Value", "0.45")
    pads = panel(window, 2, "pads")
    type_into(qtbot, pads, 6, "B", "=cx + 4*clear")
    assert window.session.project.pad("P7").width == pytest.approx(2.2)
    row, column = cell(pads, 6, "B")
    assert pads.model.text(row, column) == "2.2"
    assert pads.model.data(pads.model.index(row, column), Qt.ItemDataRole.EditRole) == "=cx + 4*clear"
    names = panel(window, 7, "quantities")
    type_into(qtbot, names, 0, "Value", "60 cm")
    assert window.session.project.pad("P7").width == pytest.approx(2.8)
    # bad names and circles stay in their cell, with the reason; the project does not change
    before = window.session.project
    pads = panel(window, 2, "pads")
    type_into(qtbot, pads, 5, "B", "=clar*2")
    assert window.session.project is before
    assert "nothing is called 'clar'" in pads.model.wrong[cell(pads, 5, "B")][1]
    type_into(qtbot, pads, 6, "L", "=P7.L")
    assert "circle" in pads.model.wrong[cell(pads, 6, "L")][1]
    # a plain number ends the expression
    type_into(qtbot, pads, 6, "B", "2.5")
    assert window.session.project.pad("P7").expressions == {}


def test_what_is_understood_stands_beside_the_cell(window: MainWindow, qtbot: QtBot) -> None:
    pads = panel(window, 2, "pads")
    editor = type_into(qtbot, pads, 6, "B", "7'-6\"", finish=False)
    reading = pads.view.findChild(Reading)
    assert reading.isVisible()
    assert reading.text() == "= 2.286 m"
    editor.selectAll()
    qtbot.keyClicks(editor, "=L/2 + 1")
    assert reading.text() == "= 2.25 m"
    editor.selectAll()
    qtbot.keyClicks(editor, "2 kN")
    assert "not a unit" in reading.text()
    box = reading.geometry()
    assert box.left() >= 0
    assert not box.intersects(editor.geometry())


def test_a_note_is_kept_marked_and_shown(window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    soils = panel(window, 0, "soils")
    row, column = cell(soils, 2, "cu")
    soils.view.setCurrentIndex(soils.model.index(row, column))
    monkeypatch.setattr(QInputDialog, "getMultiLineText", lambda *a: ("laboratory, hole 2", True))
    qtbot.keyClick(soils.view, Qt.Key.Key_M, CONTROL)
    assert soils.model.note(row, column) == "laboratory, hole 2"
    assert "laboratory, hole 2" in soils.model.data(soils.model.index(row, column), Qt.ItemDataRole.ToolTipRole)
    window.session.undo()
    assert soils.model.note(row, column) == ""


def test_values_outside_the_usual_range_are_washed(window: MainWindow, qtbot: QtBot) -> None:
    soils = panel(window, 0, "soils")
    type_into(qtbot, soils, 2, "cu", "310")
    assert window.session.project.ground.soils[2].undrained_strength == 310.0
    index = soils.model.index(*cell(soils, 2, "cu"))
    assert "outside the usual range of firm clay" in soils.model.data(index, Qt.ItemDataRole.ToolTipRole)
    assert soils.model.data(index, Qt.ItemDataRole.BackgroundRole) is not None
    assert soils.model.data(soils.model.index(*cell(soils, 1, "φ′")), Qt.ItemDataRole.BackgroundRole) is None


def test_fill_down_and_undo_in_one_step(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    pads = panel(window, 2, "pads")
    row, column = cell(pads, 0, "B")
    pads.view.clearSelection()
    for i in range(4):
        pads.view.selectionModel().select(
            pads.model.index(row + i, column), pads.view.selectionModel().SelectionFlag.Select
        )
    qtbot.keyClick(pads.view, Qt.Key.Key_D, CONTROL)
    assert [p.width for p in window.session.project.pads[:4]] == [1.7] * 4
    window.session.undo()
    assert window.session.project is demo


def test_sort_by_a_column_both_ways(window: MainWindow, demo: Project) -> None:
    pads = panel(window, 2, "pads")
    _, column = cell(pads, 0, "B")
    pads.view.sort_by(column)
    assert [p.width for p in window.session.project.pads] == sorted(p.width for p in demo.pads)
    pads.view.sort_by(column)
    assert [p.width for p in window.session.project.pads] == sorted((p.width for p in demo.pads), reverse=True)
    pads.view.sort_by(0)
    assert [p.name for p in window.session.project.pads] == [f"P{i}" for i in range(1, 15)]
    strata = panel(window, 0, "strata")
    strata.view.sort_by(1)
    assert "order of their own" in window.message.text()


def test_a_pasted_block_is_one_step_and_adds_rows(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    names = panel(window, 7, "quantities")
    qtbot.mouseClick(names.add_button, LEFT)
    start = window.session.project
    names.view.setCurrentIndex(names.model.index(0, 0))
    QGuiApplication.clipboard().setText("Name\tValue\nalpha\t1,5\nbeta\t1 200\ngamma_\tx\n")
    qtbot.keyClick(names.view, Qt.Key.Key_V, CONTROL)
    assert [(q.name, q.value) for q in window.session.project.quantities] == [
        ("alpha", 1.5),
        ("beta", 1200.0),
        ("gamma_", 0.0),
    ]
    window.session.undo()
    assert window.session.project is start


@pytest.mark.long
def test_one_unit_of_its_own(window: MainWindow, qtbot: QtBot) -> None:
    units = panel(window, 7, "units")
    row = next(i for i, u in enumerate(units.model.rows) if u == "kPa")
    type_into(qtbot, units, row, "Shown in", "bar")
    assert window.session.project.unit_overrides == {"kPa": "bar"}
    soils = panel(window, 0, "soils")
    assert soils.model.headerData(cell(soils, 0, "cu")[1], Qt.Orientation.Horizontal).endswith("bar")
    assert soils.model.text(*cell(soils, 2, "cu")) == "0.58"
    type_into(qtbot, soils, 2, "cu", "0.6")
    assert window.session.project.ground.soils[2].undrained_strength == pytest.approx(60.0)
    units = panel(window, 7, "units")
    type_into(qtbot, units, row, "Shown in", "furlong")
    assert "not a unit" in window.message.text()


@pytest.mark.long
def test_feet_and_inches_are_shown_and_taken(window: MainWindow, qtbot: QtBot) -> None:
    units = panel(window, 7, "units")
    row = next(i for i, u in enumerate(units.model.rows) if u == "m")
    type_into(qtbot, units, row, "Shown in", "ft-in")
    pads = panel(window, 2, "pads")
    type_into(qtbot, pads, 0, "B", "6'-6 1/2\"")
    base = window.session.project.pads[0]
    assert base.width == pytest.approx(78.5 * 0.0254)
    assert pads.model.text(*cell(pads, 0, "B")) == "6'-6 1/2\""
    window.session.select(base.name)
    field = window.sizes.steppers["width"].field
    assert field.text() == "6'-6 1/2\""
    length = window.session.pad.length
    field = window.sizes.steppers["length"].field
    field.setFocus()
    qtbot.keyClick(field, Qt.Key.Key_Return)  # shown to the eighth: as it stands it is no new value
    assert window.session.pad.length == length
    field.selectAll()
    qtbot.keyClicks(field, "7'")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert window.session.pad.length == pytest.approx(7 * 0.3048)
    assert field.text() == "7'-0\""


@pytest.mark.long
def test_area_loads_and_steps(window: MainWindow, qtbot: QtBot) -> None:
    areas = panel(window, 1, "areas")
    qtbot.mouseClick(areas.add_button, LEFT)
    type_into(qtbot, areas, 1, "Outline", "0 0; 6 0; 6 4; 0 4")
    window.session.edit(("actions", "area_loads", "Area 1", "shape"), "polygon")
    area = window.session.project.actions.area_loads[1]
    assert area.shape == "polygon"
    assert area.outline[2] == (6.0, 4.0)
    why = window.session.edit(("actions", "area_loads", "Area 1", "outline"), ((0, 0), (4, 0), (1, 3), (3, 3)))
    assert "cross" in why
    steps = panel(window, 1, "steps")
    qtbot.mouseClick(steps.add_button, LEFT)
    assert window.session.project.actions.steps[-1].factors["Ramp"] == 1.0
    type_into(qtbot, steps, 3, "From", "01.02.2026")
    assert "is not after" in steps.model.wrong[cell(steps, 3, "From")][1]
    type_into(qtbot, steps, 3, "From", "2028-05-01")
    type_into(qtbot, steps, 3, "Area 1", "0.5")
    assert window.session.project.actions.steps[-1].factors["Area 1"] == 0.5
    why = areas.spec.remove(window.session, window.session.project.actions.area_loads[1]) if areas.spec.remove else ""
    assert "Area 1" in why


@pytest.mark.long
def test_stated_totals_are_compared(window: MainWindow, qtbot: QtBot) -> None:
    totals = panel(window, 1, "totals")
    type_into(qtbot, totals, 0, "source ΣV", "11000")
    row, column = cell(totals, 0, "source ΣV")
    assert "differs" in totals.model.data(totals.model.index(row, column), Qt.ItemDataRole.ToolTipRole)
    exact = totals.model.rows[0].V
    type_into(qtbot, totals, 0, "source ΣV", f"{exact:.1f}")
    assert totals.model.data(totals.model.index(row, column), Qt.ItemDataRole.BackgroundRole) is None


def test_templates_keep_the_office_not_the_site(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    window.files.keep_template("EN pads")
    window.session.saved = window.session.project
    entries = {one.text: one.begin for one in beginnings(window)}
    entries["Template: EN pads"]()
    project = window.session.project
    assert project.settings == demo.settings
    assert project.actions.combinations == demo.actions.combinations
    assert [s.name for s in project.ground.soils] == [s.name for s in demo.ground.soils]
    assert project.ground.boreholes == ()
    assert project.pads == ()
    assert project.title.author == demo.title.author
    assert project.title.project == "Untitled"
    window.files.keep_template("///")
    assert "is no name" in window.message.text()


@pytest.mark.long
def test_both_demos_and_both_beginnings_open(window: MainWindow, qtbot: QtBot) -> None:
    entries = {one.text: one.begin for one in beginnings(window)}
    for name in (
        "Empty: metric, EN 1997 and EN 1992",
        "Empty: US customary, ASCE 7",
        "Example: Lindmere ferry terminal (metric)",
        "Example: Coombe Hollow workshop (AS 3600)",
        "Example: Redstem packing shed (US customary)",
    ):
        window.session.saved = window.session.project
        entries[name]()
        for i in range(len(window.stops)):
            window.go_to(i)
            assert window.minimumSizeHint().width() <= 1280, (name, window.stop.title)
            window.grab()
    assert window.bar.units_button.text() == "kip · ft · ksf"
    assert window.bar.standards_label.text() == "allowable stress · ACI 318"


@pytest.mark.long
def test_an_office_set_serves_another_project(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    found = panel(window, 1, "combinations")
    bar = found.findChild(QPushButton, "keep-set").parentWidget()
    bar.keep_as("ours")
    # another project whose wind cases are called otherwise
    session = window.session
    session.edit(("actions", "cases", "Q", "name"), "LL")
    window.session.apply(edited(session.project, ("actions", "combinations"), ()))
    bar.rules.setCurrentText("office: ours")
    qtbot.mouseClick(bar.generate, LEFT)
    rows = session.project.actions.combinations
    assert len(rows) == len(demo.actions.combinations)
    assert rows[0].factors == {"G": 1.0, "LL": 1.0}
    assert rows[0].origin == "office set ours"
    window.session.apply(edited(session.project, ("actions", "combinations"), ()))
    cases = tuple(c for c in session.project.actions.cases if c.nature != "accidental")
    points = tuple(
        p.replaced(loads={k: v for k, v in p.loads.items() if k != "Ship"}) for p in session.project.actions.load_points
    )
    session.apply(session.project.replaced(actions=session.project.actions.replaced(cases=cases, load_points=points)))
    qtbot.mouseClick(bar.generate, LEFT)
    assert "Ship (accidental)" in window.message.text()
    assert session.project.actions.combinations == ()


def test_redstem_shows_something_failing_and_something_just_holding(tmp_path: Path) -> None:
    from korbent.core.evaluate import evaluate
    from korbent.files.project_file import load, save

    project = redstem()
    ratios = [c.ratio for p in evaluate(project).pads for c in p.checks if c.ratio is not None]
    assert any(r > 1.0 for r in ratios)
    assert any(0.9 < r <= 1.0 for r in ratios)
    save(project, tmp_path / "r.korbent")
    assert load(tmp_path / "r.korbent") == project
    assert lindmere().units == "metric"


def test_a_pasted_block_that_renames_keeps_all_its_cells(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    found = panel(window, 2, "pads")
    fields = [found.model.path_at(0, i)[-1:] for i in range(len(found.model.columns))]
    name, width = fields.index(("name",)), fields.index(("width",))
    row = next(i for i, pad in enumerate(found.model.rows) if getattr(pad, "name", "") == "P3")
    line = [found.model.text(row, i) for i in range(width + 1)]
    line[name], line[width] = "P3 north", "2.6"
    other = [found.model.text(row + 1, i) for i in range(width + 1)]
    other[name], other[width] = "P4 north", "wide"
    found.view.setCurrentIndex(found.model.index(row, 0))
    found.view.paste("\n".join("\t".join(cells) for cells in (line, other)))
    project = window.session.project
    assert project.pad("P3 north").width == 2.6
    assert project.pad("P4 north").width == demo.pad("P4").width
    assert f"{2 * (width + 1) - 1} cells pasted, 1 refused" in window.session.message
    window.session.undo()
    assert window.session.project == demo


def middle_of(found: TablePanel, row: int, column: int) -> QPoint:
    return found.view.visualRect(found.model.index(row, column)).center()


def keys(qtbot: QtBot, found: TablePanel, text: str) -> None:
    """The first one opens the cell, the others go into it; Enter."""
    qtbot.keyClicks(found.view, text[0])
    editor = found.view.findChildren(QLineEdit)[-1]
    qtbot.keyClicks(editor, text[1:])
    qtbot.keyClick(editor, Qt.Key.Key_Return)
    QGuiApplication.processEvents()


@pytest.mark.long
def test_enter_takes_an_entry_and_goes_on_down(window: MainWindow, qtbot: QtBot) -> None:
    found = panel(window, 1, "points")
    row, column = cell(found, 0, "x")
    type_into(qtbot, found, 0, "x", "1.25")
    at = found.view.currentIndex()
    assert (at.row(), at.column()) == (row + 1, column)
    # the next number goes there, and does not overwrite the first
    keys(qtbot, found, "2.5")
    points = window.session.project.actions.load_points
    assert (points[0].x, points[1].x) == pytest.approx((1.25, 2.5))
    # a wrong one stays in front
    type_into(qtbot, found, 2, "x", "many")
    assert found.view.currentIndex().row() == 2
    # Enter alone goes on too, F2 edits, Esc leaves as it was
    found.view.setCurrentIndex(found.model.index(0, column))
    qtbot.keyClick(found.view, Qt.Key.Key_Return)
    assert found.view.currentIndex().row() == 1
    qtbot.keyClick(found.view, Qt.Key.Key_F2)
    editor = found.view.findChildren(QLineEdit)[-1]
    qtbot.keyClicks(editor, "9")
    qtbot.keyClick(editor, Qt.Key.Key_Escape)
    assert window.session.project.actions.load_points[1].x == pytest.approx(2.5)


@pytest.mark.long
def test_what_is_typed_below_the_last_row_makes_one_more(window: MainWindow, qtbot: QtBot) -> None:
    found = panel(window, 1, "cases")
    count = found.model.rowCount()
    column = cell(found, 0, "Description")[1]
    found.view.setFocus()
    found.view.setCurrentIndex(found.model.index(count - 1, column))
    qtbot.keyClick(found.view, Qt.Key.Key_Down)
    assert found.view.below
    qtbot.keyClick(found.view, Qt.Key.Key_Up)
    assert not found.view.below
    found.view.setCurrentIndex(found.model.index(count - 1, column))
    qtbot.keyClick(found.view, Qt.Key.Key_Return)
    assert found.view.below
    assert found.model.rowCount() == count
    keys(qtbot, found, "crane")
    assert len(window.session.project.actions.cases) == count + 1
    assert window.session.project.actions.cases[-1].description == "crane"


def test_control_and_arrows_go_to_the_end_of_what_is_filled(window: MainWindow, qtbot: QtBot) -> None:
    found = panel(window, 1, "points")
    column = cell(found, 0, "x")[1]
    last = found.model.rowCount() - 1
    found.view.setFocus()
    found.view.setCurrentIndex(found.model.index(0, column))
    qtbot.keyClick(found.view, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert found.view.currentIndex().row() == last
    both = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    qtbot.keyClick(found.view, Qt.Key.Key_Up, both)
    assert {i.row() for i in found.view.selectedIndexes()} == set(range(last + 1))
    assert {i.column() for i in found.view.selectedIndexes()} == {column}


def test_a_block_is_dragged_by_its_corner_to_fill(window: MainWindow, qtbot: QtBot) -> None:
    found = panel(window, 1, "points")
    column = cell(found, 0, "y")[1]
    before = [p.y for p in window.session.project.actions.load_points[:4]]
    found.view.setFocus()
    found.view.scrollTo(found.model.index(0, column))
    found.view.setCurrentIndex(found.model.index(0, column))
    port = found.view.viewport()
    assert not found.view.handle().isEmpty()
    qtbot.mousePress(port, Qt.MouseButton.LeftButton, pos=found.view.handle().center())
    for row in (1, 2):
        to = QPointF(middle_of(found, row, column))
        move = QMouseEvent(
            QEvent.Type.MouseMove,
            to,
            port.mapToGlobal(to),
            Qt.MouseButton.NoButton,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
        found.view.mouseMoveEvent(move)
    qtbot.mouseRelease(port, Qt.MouseButton.LeftButton, pos=middle_of(found, 2, column))
    after = [p.y for p in window.session.project.actions.load_points[:4]]
    assert after == pytest.approx([before[0]] * 3 + [before[3]])
    window.session.undo()
    assert [p.y for p in window.session.project.actions.load_points[:4]] == pytest.approx(before)
