"""Tables as models: text, units, choices, entries that are wrong, and paths into the project."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QComboBox, QStyleOptionViewItem

from korbent.app import specs
from korbent.app.main import application
from korbent.app.session import Session
from korbent.app.tables import ChoiceDelegate, Spec, TableModel, TablePanel
from korbent.core.model import Project, edited, value_at
from korbent.core.sizing.first_size import first_size
from korbent.demo.starter import starter
from korbent.drawing.theme import LIGHT

ALL = (
    specs.SOILS,
    specs.HOLES,
    specs.STRATA,
    specs.LEVELS,
    specs.CASES,
    specs.POINTS,
    specs.LOADS,
    specs.COMBINATIONS,
    specs.PADS,
    specs.TYPES,
    specs.SETTINGS,
    specs.TITLE,
)


@pytest.fixture
def app() -> QApplication:
    return application()


def model(project: Project, spec: Spec) -> TableModel:
    return TableModel(Session(project), spec, LIGHT)


def put(table: TableModel, row: int, title: str, text: str) -> bool:
    column = [c.title for c in table.columns].index(title)
    done = table.setData(table.index(row, column), text)
    table.refresh()  # as the window does after every change
    return done


def shown(table: TableModel, row: int, title: str) -> str:
    return table.text(row, [c.title for c in table.columns].index(title))


@pytest.mark.parametrize("spec", ALL, ids=lambda s: s.name)
@pytest.mark.parametrize("units", ["metric", "us"])
def test_typing_what_is_shown_changes_nothing(app: QApplication, demo: Project, spec: Spec, units: str) -> None:
    project = edited(demo, ("units",), units)
    table = model(project, spec)
    for row in range(min(len(table.rows), 6)):
        for column in range(len(table.columns)):
            table.setData(table.index(row, column), table.text(row, column))
    assert table.session.project is project
    assert not table.wrong


@pytest.mark.parametrize("spec", ALL, ids=lambda s: s.name)
def test_paths_lead_to_what_is_shown(app: QApplication, demo: Project, spec: Spec) -> None:
    table = model(demo, spec)
    for row in table.rows[:6]:
        for column in table.columns:
            path = column.path(row)
            # the whole value of the cell, where it is not a part, a label or a result
            if path and column.convert is None and column.title != "Value" and "edge" not in path:
                found = value_at(demo, path)
                if not hasattr(found, "model_fields"):
                    assert found == column.get(row) or column.get(row) in (0.0, found), (column.title, path)


def test_headers_carry_the_shown_unit(app: QApplication, demo: Project) -> None:
    for units, unit in (("metric", "kN/m3"), ("us", "pcf")):
        table = model(edited(demo, ("units",), units), specs.SOILS)
        heads = [table.headerData(i, Qt.Orientation.Horizontal) for i in range(table.columnCount())]
        assert f"γ\n{unit}" in heads


def test_values_are_shown_and_read_in_us_units(app: QApplication, demo: Project) -> None:
    table = model(edited(demo, ("units",), "us"), specs.PADS)
    assert float(shown(table, 0, "B")) == pytest.approx(demo.pads[0].width / 0.3048, abs=0.005)
    assert put(table, 0, "B", "6")
    assert table.session.project.pads[0].width == pytest.approx(6 * 0.3048)
    assert put(table, 0, "B", "1.9 m")
    assert table.session.project.pads[0].width == pytest.approx(1.9)


def test_empty_means_none_only_where_that_is_allowed(app: QApplication, demo: Project) -> None:
    table = model(demo, specs.SOILS)
    assert put(table, 0, "φ′", "")
    assert table.session.project.ground.soils[0].friction_angle is None
    assert not put(table, 0, "γ", "")
    assert table.session.project.ground.soils[0].weight == demo.ground.soils[0].weight


@pytest.mark.long
def test_factors_enter_and_leave_a_combination(app: QApplication, demo: Project) -> None:
    table = model(demo, specs.COMBINATIONS)
    assert put(table, 0, "W+x", "0.6")
    assert table.session.project.actions.combinations[0].factors["W+x"] == 0.6
    assert put(table, 0, "W+x", "")
    assert "W+x" not in table.session.project.actions.combinations[0].factors
    assert put(table, 0, "Serves", "allowable, settlement long")
    assert table.session.project.actions.combinations[0].serves == ("allowable", "settlement_long")
    assert not put(table, 0, "No.", "2")
    assert "used 2 times" in table.wrong[(0, 0)][1]


def test_water_comes_and_goes(app: QApplication, demo: Project) -> None:
    table = model(demo, specs.LEVELS)
    rows = [table.text(i, 0) for i in range(len(table.rows))]
    at = rows.index("Groundwater known")
    assert table.setData(table.index(at, 1), "no")
    assert table.session.project.ground.water is None
    table.refresh()
    assert len(table.rows) == len(rows) - 3
    assert table.setData(table.index(at, 1), "yes")
    water = table.session.project.ground.water
    assert water is not None
    assert water.low < water.normal < water.high
    assert not table.setData(table.index(at, 1), "perhaps")


def strong(table: TableModel, row: int) -> list[int]:
    """The columns of what is in force."""
    fonts = [table.data(table.index(row, i), Qt.ItemDataRole.FontRole) for i in range(len(table.columns))]
    return [i for i, font in enumerate(fonts) if font is not None and font.weight() > font.Weight.Normal]


def test_settings_say_where_they_stand(app: QApplication, demo: Project) -> None:
    session = Session(demo)
    session.select("P8")
    table = TableModel(session, specs.SETTINGS, LIGHT)
    titles = [c.title for c in table.columns]
    assert titles == ["Setting", "Project", "Type T4", "Pad P8", "Otherwise in"]
    names = [table.text(i, 0) for i in range(len(table.rows))]
    cover = names.index("Cover of the bars")
    assert table.text(cover, 2) == "0.06 m"
    assert table.text(cover, 4) == "T4"
    assert strong(table, cover) == [2]
    assert table.setData(table.index(cover, 3), "70 mm")
    table.refresh()
    assert table.text(cover, 4) == "T4, P8"
    assert strong(table, cover) == [3]
    assert session.pad is not None
    assert session.pad.overrides["concrete_cover"] == pytest.approx(0.07)
    assert table.setData(table.index(cover, 3), "")
    table.refresh()
    assert strong(table, cover) == [2]
    outer = names.index("Outer bars run along")
    assert table.setData(table.index(outer, 1), "y")
    assert not table.setData(table.index(outer, 1), "z")
    assert set(specs.SETTING_LABELS) | {"presumed_table"} == set(type(demo.settings).model_fields)


def test_a_choice_is_offered_as_a_list(app: QApplication, demo: Project) -> None:
    panel = TablePanel(Session(demo), specs.SOILS, LIGHT)
    delegate = panel.view.itemDelegate()
    assert isinstance(delegate, ChoiceDelegate)
    index = panel.model.index(1, 1)
    editor = delegate.createEditor(panel.view.viewport(), QStyleOptionViewItem(), index)
    assert isinstance(editor, QComboBox)
    delegate.setEditorData(editor, index)
    assert editor.currentText() == "sand"
    editor.setCurrentText("gravel")
    delegate.setModelData(editor, panel.model, index)
    assert panel.session.project.ground.soils[1].pattern == "gravel"


def test_bars_and_pedestals_as_text(app: QApplication, demo: Project) -> None:
    table = model(demo, specs.PADS)
    assert shown(table, 0, "Bottom x") == "ø12 at 150"
    assert shown(table, 0, "Pedestal") == "0.6 x 0.6 to 3.2, 8 ø 16, ties 10 at 150"
    assert put(table, 0, "Pedestal", "0.6 x 0.6 to 3.2, 8 ø 16, ties 8 at 120")
    tied = table.session.project.pads[0].pedestal
    assert tied is not None
    assert (tied.tie_diameter, tied.tie_spacing) == (0.008, 0.12)
    assert put(table, 0, "Bottom x", "12 no 16")
    assert table.session.project.pads[0].reinforcement.bottom_x.number == 12
    assert put(table, 0, "Bottom x", "A393")
    assert shown(table, 0, "Bottom x") == "A393"
    for text in ("ø20 at 175", "20@175", "20 - 175 mm"):
        assert put(table, 0, "Top x", text)
        top = table.session.project.pads[0].reinforcement.top_x
        assert top is not None
        assert (top.diameter, top.spacing) == (0.02, 0.175)
        put(table, 0, "Top x", "")
    assert table.session.project.pads[0].reinforcement.top_x is None
    assert put(table, 0, "Pedestal", "")
    assert table.session.project.pads[0].pedestal is None
    assert not put(table, 0, "Bottom x", "16 at 0")


def test_unique_names() -> None:
    assert specs.unique("P", ["P1", "P2", "P4"]) == "P3"


def test_a_first_pad_is_sized_by_load_over_presumed_pressure(demo: Project) -> None:
    pad = first_size(demo, "B2").pad
    load = 884 + 391
    assert pad.width * pad.length >= 1.1 * load / 280
    assert pad.width * pad.length < 1.3 * load / 280
    assert pad.name == "P15"
    tiny = first_size(starter().replaced(actions=demo.actions), "A4").pad
    assert tiny.width > pad.width * 0.5


def test_adding_without_what_is_needed_says_so(app: QApplication) -> None:
    session = Session(Project())
    assert "soil first" in specs.ground._add_hole(session, None)
    assert "borehole first" in specs.ground._add_stratum(session, None)
    assert "column first" in specs.plan._add_pad(session, None)
    assert session.project == Project()


def test_a_borehole_keeps_one_stratum(app: QApplication) -> None:
    session = Session(Project())
    specs.ground._add_soil(session, None)
    specs.ground._add_hole(session, None)
    hole = session.project.ground.boreholes[0]
    assert "at least one" in specs.ground._remove_stratum(session, (hole, 0))


def test_which_ton_is_asked_once_and_remembered(app: QApplication, demo: Project) -> None:
    table = model(demo, specs.SETTINGS)
    presumed = [table.text(i, 0) for i in range(len(table.rows))].index("Presumed pressure")
    cell = table.index(presumed, 1)
    assert not table.setData(cell, "2.5 tsf")
    assert "type 'short tsf' or 'metric tsf' once" in table.wrong[(presumed, 1)][1]
    assert table.setData(cell, "2.5 short tsf")
    assert table.session.project.settings.presumed_pressure == pytest.approx(239.4, rel=1e-3)
    assert table.setData(cell, "3 tsf")
    assert table.session.project.settings.presumed_pressure == pytest.approx(287.28, rel=1e-3)
