"""Loads as a matrix and beside their drawing; combinations in colour, filtered, and which of them govern."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox
from pytestqt.qtbot import QtBot

from korbent.app import specs
from korbent.app.session import Session
from korbent.app.specs.matrix import ALL, COMPONENTS, Totals
from korbent.app.stops.actions import ActionsStop
from korbent.app.tables import TableModel
from korbent.app.window import MainWindow
from korbent.core.model import Load, Project, edited
from korbent.core.plan.totals import case_totals
from korbent.drawing.theme import LIGHT
from tests.app.test_window import opened, panel, type_into


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    return opened(qtbot, demo)


@pytest.mark.long
def test_columns_down_cases_across_totals_below(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    table = panel(window, "matrix")
    points, cases = demo.actions.load_points, demo.actions.cases
    assert [c.title for c in table.model.columns] == ["Column or wall", *(c.name for c in cases)]
    assert len(table.model.rows) == len(points) + 1
    assert isinstance(table.model.rows[-1], Totals)
    for total, column in zip(case_totals(demo), range(1, len(cases) + 1)):
        shown = table.model.text(len(points), column).replace("−", "-")
        assert float(shown or 0) == pytest.approx(total.V, rel=1e-5, abs=1e-3)
    type_into(qtbot, table, 0, "Q", "150 kN")
    assert window.session.project.actions.load_points[0].loads["Q"].V == 150.0
    assert window.session.project.actions.load_points[0].loads["Q"].Hx == points[0].loads["Q"].Hx
    # the sum follows, and is not typed
    row = len(points)
    column = [c.title for c in table.model.columns].index("Q")
    before = case_totals(demo)[column - 1].V
    assert float(table.model.text(row, column)) == pytest.approx(before + 150.0 - points[0].loads["Q"].V)
    index = table.model.index(row, column)
    assert not table.model.setData(index, "99")
    assert "sum of the rows above" in window.message.text()
    # an emptied cell is no load
    table.model.refresh()
    assert table.model.setData(table.model.index(0, column), "")
    assert window.session.project.actions.load_points[0].loads["Q"].V == 0.0


def test_one_component_or_all(window: MainWindow, demo: Project) -> None:
    table = panel(window, "matrix")
    box = window.stop.findChild(QComboBox, "component")
    box.setCurrentText("My")
    column = 1 + [c.name for c in demo.actions.cases].index("W+x")
    shown = table.model.text(0, column).replace("−", "-")
    assert float(shown or 0) == pytest.approx(demo.actions.load_points[0].loads["W+x"].My)
    assert table.model.text(len(table.model.rows) - 1, column) == ""  # moments about different points
    box.setCurrentText(ALL)
    assert len(table.model.columns) == 1 + len(COMPONENTS) * len(demo.actions.cases)
    assert table.model.columns[1].title == "G V"


@pytest.mark.long
def test_the_loads_of_the_selected_base_stand_at_its_drawing(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P7")
    window.go_to(1)
    assert isinstance(window.stop, ActionsStop)
    table = window.stop.own
    carried = window.session.pad.carries  # type: ignore[union-attr]
    assert len(table.model.rows) == len(carried) * len(window.session.project.actions.cases)
    type_into(qtbot, table, 0, "Hx", "12")
    point = window.session.project.load_point(carried[0])
    assert point.loads[window.session.project.actions.cases[0].name].Hx == 12.0
    window.session.select("P1")
    assert {row[0].name for row in table.model.rows} == set(window.session.pad.carries)  # type: ignore[union-attr]


def test_a_value_changed_after_its_import_is_marked(demo: Project) -> None:
    point = demo.actions.load_points[0]
    came = point.replaced(imported=dict(point.loads), loads={**point.loads, "G": Load(V=1.0)})
    project = edited(demo, ("actions", "load_points"), (came, *demo.actions.load_points[1:]))
    table = TableModel(Session(project), specs.matrix(), LIGHT)
    assert "changed by hand" in str(table.data(table.index(0, 1), Qt.ItemDataRole.ToolTipRole))
    assert table._noted(0, 2) == ""


def test_factors_have_the_colour_of_their_size(window: MainWindow, demo: Project) -> None:
    table = panel(window, "combinations").model
    column = [c.title for c in table.columns].index("G")
    shades = {}
    for i, row in enumerate(table.rows):
        brush = table.data(table.index(i, column), Qt.ItemDataRole.BackgroundRole)
        shades[row.factors.get("G", 0.0)] = brush.lightness() if brush is not None else 255
    order = [shades[f] for f in sorted(shades)]
    assert order == sorted(order, reverse=True)  # the greater the darker
    assert len(set(order)) > 1
    empty = [c.title for c in table.columns].index("Ship")
    missing = next(i for i, r in enumerate(table.rows) if not r.factors.get("Ship"))
    assert table.data(table.index(missing, empty), Qt.ItemDataRole.BackgroundRole) is None


def test_which_govern_is_counted(window: MainWindow) -> None:
    table = panel(window, "combinations").model
    column = [c.title for c in table.columns].index("Governs")
    counted = sum(int(table.text(i, column) or 0) for i in range(len(table.rows)))
    checks = [c for c in window.session.results.all_checks if c.combination and c.ratio is not None]
    assert counted == len(checks) > 100


@pytest.mark.long
def test_only_those_that_serve_a_question_are_listed(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    table = panel(window, "combinations")
    box = window.stop.findChild(QComboBox, "serving")
    box.setCurrentText("allowable")
    listed = [c for c in demo.actions.combinations if "allowable" in c.serves]
    assert list(table.model.rows) == listed
    # sorting them leaves the others in the project
    table.view.sort_by(0)  # they stand by number already: the other way round
    after = window.session.project.actions.combinations
    assert sorted(c.number for c in after) == sorted(c.number for c in demo.actions.combinations)
    assert [c.number for c in after][: len(listed)] == sorted((c.number for c in listed), reverse=True)
    box.setCurrentIndex(0)
    assert len(table.model.rows) == len(demo.actions.combinations)


def test_the_kind_of_action_is_called_so(demo: Project) -> None:
    titles = [c.title for c in TableModel(Session(demo), specs.CASES, LIGHT).columns]
    assert "Kind of action" in titles
    assert "Nature" not in titles


@pytest.mark.long
def test_a_combination_for_some_bases_only(qtbot: QtBot, demo: Project) -> None:
    window = opened(qtbot, demo)
    table = panel(window, "combinations")
    row = next(i for i, c in enumerate(table.model.rows) if c.serves == ("ultimate", "concrete"))
    type_into(qtbot, table, row, "Only for", "P8, P11")
    assert window.session.project.actions.combinations[row].only == ("P8", "P11")
    type_into(qtbot, table, row, "Only for", "P99")
    assert "there is no base 'P99'" in window.message.text()
    assert window.session.project.actions.combinations[row].only == ("P8", "P11")
