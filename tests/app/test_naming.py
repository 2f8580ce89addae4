"""While an expression is typed, a click on a cell or a size puts its name in."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit
from pytestqt.qtbot import QtBot

from korbent.app.naming import naming
from korbent.app.tables import TablePanel
from korbent.app.window import MainWindow
from korbent.core.model import Project, edited
from korbent.core.model.expressions import name_in
from korbent.core.model.project import Quantity
from tests.app.test_window import opened, panel

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = opened(qtbot, edited(demo, ("quantities",), (Quantity(name="clear", value=0.4, unit="m"),)))
    made.session.select("P3")
    return made


def column(found: TablePanel, title: str) -> int:
    return [c.title for c in found.model.columns].index(title)


def begin(found: TablePanel, row: int, title: str) -> QLineEdit:
    found.view.setFocus()
    found.view.setCurrentIndex(found.model.index(row, column(found, title)))
    QTest.keyClick(found.view, Qt.Key.Key_Equal)
    return found.view.findChildren(QLineEdit)[-1]


def click(found: TablePanel, row: int, title: str) -> None:
    """By the window system, as a hand does: so that the focus would go where it goes then."""
    index = found.model.index(row, column(found, title))
    found.view.scrollTo(index)
    QTest.mouseClick(found.view.viewport(), LEFT, pos=found.view.visualRect(index).center())


def test_a_click_on_a_cell_puts_its_name_in(window: MainWindow, qtbot: QtBot) -> None:
    pads = panel(window, "pads")
    editor = begin(pads, 2, "L")
    assert editor.text() == "="
    click(pads, 2, "B")  # its own
    QTest.keyClicks(editor, "+")
    click(pads, 6, "B")  # another base
    assert editor.text() == "=B+P7.B"
    assert editor.isVisible()
    QTest.keyClick(editor, Qt.Key.Key_Return)
    project = window.session.project
    qtbot.waitUntil(lambda: window.session.project.pad("P3").expressions.get("length") is not None)
    project = window.session.project
    assert project.pad("P3").length == pytest.approx(project.pad("P3").width + project.pad("P7").width)
    qtbot.waitUntil(lambda: not naming().is_on)


def test_a_size_below_gives_its_name_too(window: MainWindow, qtbot: QtBot) -> None:
    pads = panel(window, "pads")
    editor = begin(pads, 0, "B")
    QTest.mouseClick(window.sizes.steppers["length"].field, LEFT)
    assert editor.text() == "=P3.L"
    QTest.keyClick(editor, Qt.Key.Key_Escape)
    qtbot.waitUntil(lambda: not naming().is_on)
    field = window.sizes.steppers["length"].field
    qtbot.waitUntil(lambda: field.focusPolicy() != Qt.FocusPolicy.NoFocus)
    QTest.mouseClick(field, LEFT)  # a click is a click again
    assert window.session.project.pad("P1").width == 1.7


def test_what_has_no_name_says_so_and_the_cell_stays_open(window: MainWindow, qtbot: QtBot) -> None:
    pads = panel(window, "pads")
    editor = begin(pads, 0, "B")
    click(pads, 0, "Pad")
    assert editor.text() == "="
    assert "no name in an expression" in window.message.text()
    assert editor.isVisible()
    QTest.keyClick(editor, Qt.Key.Key_Escape)


def test_without_an_expression_a_click_goes_where_it_goes(window: MainWindow, qtbot: QtBot) -> None:
    pads = panel(window, "pads")
    pads.view.setFocus()
    pads.view.setCurrentIndex(pads.model.index(2, column(pads, "L")))
    QTest.keyClick(pads.view, Qt.Key.Key_3)
    editor = pads.view.findChildren(QLineEdit)[-1]
    assert not naming().is_on
    editor.setText("=")
    editor.textEdited.emit("=")
    assert naming().is_on
    editor.setText("3")
    editor.textEdited.emit("3")
    assert not naming().is_on


def test_names_are_those_that_the_expression_understands(window: MainWindow) -> None:
    project = window.session.project
    here = ("pads", "P3", "length")
    assert name_in(project, here, ("pads", "P3", "width")) == "B"
    assert name_in(project, here, ("pads", "P7", "width")) == "P7.B"
    assert name_in(project, here, ("quantities", "clear", "value")) == "clear"
    assert name_in(project, here, ("ground", "soils", "Silty sand", "weight")) == ""
    point = project.actions.load_points[0].name
    assert (
        name_in(project, ("actions", "load_points", point, "size_x"), ("actions", "load_points", point, "size_y"))
        == "cy"
    )
