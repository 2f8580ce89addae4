"""Parameters over level in the window: choose, adopt with its source, lose the source by typing."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.parameter_panel import ParameterPanel
from korbent.app.session import Session
from korbent.app.tables import TablePanel
from korbent.app.window import MainWindow
from korbent.core.model import Project, edited
from korbent.drawing.chart import round_step
from korbent.drawing.parameters import by_source, parameter_chart
from korbent.drawing.primitives import Disc, Text

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = MainWindow(Session(demo))
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.show()
    made.go_to(0)
    return made


def panel(window: MainWindow) -> ParameterPanel:
    found = window.findChild(ParameterPanel)
    assert found is not None
    return found


def choose(found: ParameterPanel, soil: str, parameter: str) -> None:
    found.soil.setCurrentText(soil)
    found.soil.activated.emit(found.soil.currentIndex())
    found.parameter.setCurrentText(parameter)
    found.parameter.activated.emit(found.parameter.currentIndex())


def test_only_what_the_tests_give_is_offered(window: MainWindow) -> None:
    found = panel(window)
    assert [found.soil.itemText(i) for i in range(found.soil.count())] == [
        "Silty sand",
        "Silty clay",
        "Sandy gravel",
    ]
    choose(found, "Silty clay", "Cc")
    offered = [found.parameter.itemText(i) for i in range(found.parameter.count())]
    assert {"cu", "Cc", "Cr", "e0"} <= set(offered)
    assert any("Terzaghi" in s for s, _ in found.suggestions)


def test_adopting_gives_value_source_and_new_checks(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    found = panel(window)
    choose(found, "Silty sand", "φ′")
    before = window.session.results
    row = next(i for i, (s, e) in enumerate(found.suggestions) if s.startswith("Wolff") and e.name == "lower quartile")
    found.estimate.setCurrentIndex(row)
    qtbot.mouseClick(found.adopt_button, LEFT)
    soil = window.session.project.ground.soils[1]
    assert soil.friction_angle == pytest.approx(found.suggestions[row][1].value, rel=5e-3)
    assert "lower quartile" in soil.sources["friction_angle"]
    assert window.session.results is not before
    assert "Wolff" in window.message.text()
    table = window.findChild(TablePanel, "panel-soils")
    assert table is not None
    column = [c.title for c in table.model.columns].index("φ′")
    index = table.model.index(1, column)
    assert "Wolff" in index.data(Qt.ItemDataRole.ToolTipRole)
    assert index.data(Qt.ItemDataRole.ForegroundRole) is not None
    # typing another value takes the source away; undo brings both back, step by step
    window.session.edit(("ground", "soils", "Silty sand", "friction_angle"), 31.0)
    assert "friction_angle" not in window.session.project.ground.soils[1].sources
    window.session.undo()
    assert "friction_angle" in window.session.project.ground.soils[1].sources
    window.session.undo()
    assert window.session.project is demo


@pytest.mark.long
def test_tests_are_edited_in_their_table(window: MainWindow, qtbot: QtBot) -> None:
    button = window.findChild(QPushButton, "deck-tests")
    button.click()
    table = window.findChild(TablePanel, "panel-tests")
    assert table is not None
    count = len(table.model.rows)
    table.view.setCurrentIndex(table.model.index(0, 0))
    qtbot.mouseClick(table.add_button, LEFT)
    assert len(table.model.rows) == count + 1
    assert table.model.text(1, 1) == "SPT N"
    value = [c.title for c in table.model.columns].index("Value")
    assert table.model.setData(table.model.index(1, value), "22")
    assert window.session.project.ground.boreholes[0].tests[1].value == 22
    assert not table.model.setData(table.model.index(1, value), "-3")
    qtbot.mouseClick(table.remove_button, LEFT)
    assert len(table.model.rows) == count


def test_the_chart_shows_every_value_and_the_adopted_one(demo: Project) -> None:
    drawing = parameter_chart(demo, "Silty sand", "friction_angle", 1.0)
    points = [s for s in drawing.shapes if isinstance(s, Disc) and s.radius == 4]
    assert len(points) == 3 * 9
    texts = list(drawing.texts)
    assert "adopted 32.5 deg" in texts
    assert any("Hatanaka" in t for t in texts)
    empty = parameter_chart(demo, "Silt parting", "friction_angle", 1.0)
    assert "no test" in empty.shapes[0].text  # type: ignore[union-attr]
    us = parameter_chart(edited(demo, ("units",), "us"), "Silty sand", "modulus", 1.0)
    assert any("ksf" in text for text in us.texts)


def test_estimates_are_by_source(demo: Project) -> None:
    from korbent.core.ground.correlations import derived

    found = by_source(derived(demo.ground, "Silty sand", "modulus"))
    assert len(found) == 3
    assert all(
        [e.name for e in several][:3] == ["mean", "lower quartile", "95 % bound of the mean"] for _, several in found
    )


@pytest.mark.parametrize(
    ("span", "step"),
    [(0.24, 0.1), (0.5, 0.2), (2.8, 1.0), (12.0, 5.0), (44.0, 20.0), (24000.0, 10000.0), (0.0, 1.0)],
)
def test_round_steps(span: float, step: float) -> None:
    assert round_step(span) == pytest.approx(step)


def test_levels_of_the_chart_are_round_in_what_is_shown(demo: Project) -> None:
    from korbent.drawing.parameters import parameter_chart

    texts = {s.text for s in parameter_chart(demo, "Silty sand", "friction_angle", 1.0).shapes if isinstance(s, Text)}
    assert {"+1", "+2"} <= texts
    american = parameter_chart(demo.replaced(units="us"), "Silty sand", "friction_angle", 1.0)
    assert {"+2", "+4"} <= set(american.texts)
