"""Settlement at work: one moment in time drives all drawings; methods, curve, springs; bad moments refused."""

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from korbent.app import specs
from korbent.app.session import Session
from korbent.app.stops.settlement import SettlementStop
from korbent.app.tables import TableModel
from korbent.app.window import MainWindow
from korbent.core.evaluate import evaluate
from korbent.core.explain.settlement import alone, curve, methods, settle, springs
from korbent.core.model import AreaLoad, BandDrains, Project, SettlementMark, edited
from korbent.core.settlement.history import YEAR, history
from korbent.core.units import Showing
from korbent.drawing.primitives import Disc, Drawing, Line
from korbent.drawing.settlement import (
    SCALES,
    day_of,
    day_words,
    depth_columns,
    place_of,
    settlement_plan,
    sublayer_table,
    time_chart,
)
from korbent.drawing.settlement.compared import curve_drawing, curve_table, methods_drawing, springs_drawing
from korbent.drawing.theme import LIGHT
from korbent.verification.pad import one_pad
from korbent.verification.settlement_construction import filled

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = MainWindow(Session(demo))
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.resize(1280, 800)
    made.session.select("P7")
    made.show()
    made.go_to(4)
    found = stop(made)
    qtbot.waitUntil(lambda: found.belongs is made.session.project, timeout=30_000)
    return made


def stop(window: MainWindow) -> SettlementStop:
    found = window.stops[4]
    assert isinstance(found, SettlementStop)
    return found


def words(drawing: Drawing) -> str:
    return "\n".join(drawing.texts)


def test_the_moment_is_typed_dragged_and_kept(window: MainWindow, qtbot: QtBot) -> None:
    here = stop(window)
    assert here.found is not None
    assert here.day == pytest.approx(float(here.found.times[-1]))
    here.moment.setText("2 y")
    qtbot.keyClick(here.moment, Qt.Key.Key_Return)
    assert window.session.day == pytest.approx(2 * YEAR)
    here.moment.setText("2027-11-01")
    qtbot.keyClick(here.moment, Qt.Key.Key_Return)
    assert window.session.day == 259
    here.moment.setText("soon")
    qtbot.keyClick(here.moment, Qt.Key.Key_Return)
    assert "is no moment" in window.session.message
    assert window.session.day == 259
    x = 10 * place_of(90.0, float(here.found.times[-1]), "log")
    here.chart.dragged.emit("moment", x, 0.0)
    assert window.session.day == pytest.approx(90.0, abs=0.6)
    window.go_to(3)
    window.go_to(4)
    assert window.session.day == pytest.approx(90.0, abs=0.6)
    assert "90 d" in here.plan_pane.detail.text() or "3.0 months" in here.plan_pane.detail.text()


@pytest.mark.long
def test_an_edit_makes_it_out_of_date_then_current(window: MainWindow, qtbot: QtBot) -> None:
    here = stop(window)
    assert here.found is not None
    before = here.found.pad("P7").at(1e9)  # type: ignore[union-attr]
    window.session.edit(("pads", "P7", "width"), 3.2)
    assert "out of date" in here.columns_pane.detail.text()
    qtbot.waitUntil(lambda: here.belongs is window.session.project, timeout=30_000)
    assert "out of date" not in here.columns_pane.detail.text()
    assert here.found.pad("P7").at(1e9) < before  # type: ignore[union-attr]


@pytest.mark.long
def test_the_views_beside_the_columns(window: MainWindow, qtbot: QtBot) -> None:
    here = stop(window)
    for i, expected in ((1, "as adopted, all strata"), (2, "ultimate"), (3, "40 q ult")):
        qtbot.mouseClick(here.choices[i], LEFT)
        view = here.stack.currentWidget()
        assert expected in words(view.drawing)  # type: ignore[attr-defined]
    qtbot.mouseClick(here.choices[2], LEFT)
    qtbot.mouseClick(here.copy_button, LEFT)
    assert QApplication.clipboard().text().startswith("pressure, kPa\trigid, mm")
    qtbot.mouseClick(here.choices[0], LEFT)
    qtbot.mouseClick(here.copy_button, LEFT)
    table = QApplication.clipboard().text().splitlines()
    assert table[0].startswith("stratum\ttop, m\tbottom, m\tσ′ before, kPa")
    own = here._own()
    assert own is not None
    assert len(table) == 1 + len(own.stratum)
    here.plan.clicked.emit("pad:P3")
    assert window.session.selected == "P3"


def test_the_check_opens_its_working_in_the_ledger(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select_check("slope")
    window.ledger.open_working()
    assert window.ledger.stack.currentIndex() == 1


def test_drawings_say_what_they_show(demo: Project) -> None:
    found = history(demo)
    own = found.pad("P7")
    assert own is not None
    columns = words(depth_columns(demo, own, 330.0, 1.8))
    for text in (
        "Effective stress, kPa",
        "Strain, %",
        "Compression, mm",
        "Excess u, kPa",
        "Silty clay",
        f"total {1000 * own.at(330.0):.3g}",
    ):
        assert text in columns
    for scale in SCALES:
        chart = time_chart(demo, found, "P7", 330.0, scale, 1.6)
        assert "limit 25.0" in words(chart)
        assert "Ramp filled" in words(chart)
        assert any(isinstance(s, Line) and s.key == "drag:moment" for s in chart.shapes)
        for day in (2.0, 400.0, 9000.0):
            assert day_of(place_of(day, 18000.0, scale), 18000.0, scale) == pytest.approx(day, rel=1e-9)
    plan = settlement_plan(demo, found, 330.0, "P7")
    assert sum(isinstance(s, Disc) for s in plan.shapes) == len(demo.pads)
    steep = edited(demo, ("settings", "slope_limit"), 1 / 2000)
    assert any(
        isinstance(s, Line) and s.stroke == "beyond" for s in settlement_plan(steep, history(steep), 1e5, "P7").shapes
    )
    assert [day_words(d) for d in (12.0, 200.0, 500.0, 3652.5)] == [
        "12 d",
        "6.6 months",
        "1.4 years",
        "10 years",
    ]


def test_in_us_units_the_table_and_columns_follow(demo: Project) -> None:
    project = demo.replaced(units="us")
    own = history(project).pad("P7")
    assert own is not None
    assert "Effective stress, ksf" in words(depth_columns(project, own, 330.0, 1.8))
    assert "top, ft" in sublayer_table(project, own, 330.0)


@pytest.mark.long
def test_drains_show_the_line_without_them(demo: Project, qtbot: QtBot) -> None:
    drains = BandDrains(name="D", x=20.0, y=10.0, size_x=80.0, size_y=60.0, level=-3.2)
    project = demo.replaced(actions=demo.actions.replaced(drains=(drains,)))
    made = MainWindow(Session(project))
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.session.select("P7")
    made.go_to(4)
    here = stop(made)
    qtbot.waitUntil(lambda: here.belongs is made.session.project, timeout=30_000)
    assert here.plain is not None
    assert "no drains" in words(here._chart(1.6))
    fast, slow = here.found.pad("P7"), here.plain  # type: ignore[union-attr]
    assert fast is not None
    assert fast.at(300.0) > slow.at(300.0)


def test_a_project_without_ground_says_why(qtbot: QtBot) -> None:
    bare = one_pad()
    bare = bare.replaced(ground=bare.ground.replaced(boreholes=()))
    found = history(bare).pad("P")
    assert found is not None
    assert "no borehole" in words(depth_columns(bare, found, 10.0, 1.8))
    assert methods(bare, bare.pads[0])[1]
    assert springs(bare, bare.pads[0])[1]
    assert curve(bare, bare.pads[0]).why
    assert "no borehole" in words(methods_drawing(*methods(bare, bare.pads[0]), 25.0, bare.showing, 1.6))


# the methods beside each other


def test_methods_start_from_one_load(demo: Project) -> None:
    pad = demo.pad("P7")
    rows, why = methods(demo, pad)
    assert why == ""
    by = {r.name: r for r in rows}
    one = alone(demo, pad)
    assert not isinstance(one, str)
    assert by["as adopted, all strata"].settlement == pytest.approx(float(settle(one).total[0, 0]))
    check = evaluate(demo).pad("P7").check("settlement").demand
    assert by["with all other loads"].settlement == pytest.approx((check or 0) / 1000)
    assert by["mv where known"].settlement is None
    assert by["penetration, Burland and Burbidge 1985"].settlement is not None
    assert by["strain influence, granular"].settlement != by["as adopted, all strata"].settlement


def test_the_curve_passes_the_working_point_and_ends_at_the_ultimate_pressure() -> None:
    project = one_pad()
    found = curve(project, project.pads[0])
    one = alone(project, project.pads[0])
    assert not isinstance(one, str)
    assert found.why == ""
    at_work = float(np.interp(one.gross, found.pressure, found.rigid))
    assert at_work == pytest.approx(float(settle(one).total[0, 0]), rel=5e-3)
    assert np.all(np.diff(found.rigid) > 0)
    assert np.all(found.centre[1:] > found.rigid[1:])
    assert np.all(found.rigid[1:] > found.edge[1:])
    assert found.pressure[-1] == pytest.approx(0.995 * found.ultimate)
    secant = found.pressure[1:] / found.rigid[1:]
    assert np.all(np.diff(secant) < 0)
    linear = curve(edited(project, ("settings", "stiffness_f"), 0.0), project.pads[0])
    assert linear.rigid[30] / linear.pressure[30] == pytest.approx(linear.rigid[10] / linear.pressure[10])
    assert curve_table(found, project.showing).count("\n") == len(found.pressure)
    assert "sustained" in words(curve_drawing(found, project.showing, 1.6))


def test_springs_are_load_over_settlement_and_far_ones_are_marked() -> None:
    project = edited(one_pad(), ("settings", "spring_modulus"), 100_000.0)
    rows, why = springs(project, project.pads[0])
    assert why == ""
    one = alone(project, project.pads[0])
    assert not isinstance(one, str)
    s = float(settle(one).total[0, 0])
    by = {r.name: r for r in rows}
    assert by["vertical, per area"].value == pytest.approx(one.gross / s)
    assert by["vertical"].value == pytest.approx(one.vertical / s)
    assert by["k = E/(B (1 − ν²))"].value == pytest.approx(25_000 / (2.0 * (1 - 0.09)))
    assert by["typed"].far
    assert "far from what the ground implies" in words(springs_drawing(rows, why, Showing("metric"), 1.6))
    # a circle rocks by Borowicka's closed form against its own settlement
    round_ = one_pad(shape="circle", width=2.4, length=2.4)
    rocking = {r.name: r.value for r in springs(round_, round_.pads[0])[0]}
    R = 1.2
    assert rocking["rocking along x"] == pytest.approx(rocking["vertical"] * R**2 / 1.5, rel=0.02)


@pytest.mark.long
def test_drains_marks_and_water_are_entered_in_tables(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    drains = TableModel(session, specs.DRAINS, LIGHT)
    specs.DRAINS.add(session, None)
    drains.refresh()
    titles = [c.title for c in drains.columns]
    assert session.project.actions.drains[0].pattern == "triangular"
    assert not drains.setData(drains.index(0, titles.index("Spacing")), "0.1", Qt.ItemDataRole.EditRole)
    assert "smear zone" in session.message
    assert drains.setData(drains.index(0, titles.index("Spacing")), "1.2 m", Qt.ItemDataRole.EditRole)
    assert session.project.actions.drains[0].spacing == pytest.approx(1.2)
    specs.MARKS.add(session, None)
    marks = TableModel(session, specs.MARKS, LIGHT)
    marks.refresh()
    shown = marks.index(0, [c.title for c in marks.columns].index("Settlement")).data()
    assert shown.endswith("mm")
    assert "M1" in words(settlement_plan(session.project, history(session.project), 330.0, "P7"))
    steps = TableModel(session, specs.CONSTRUCTION, LIGHT)
    steps.refresh()
    column = [c.title for c in steps.columns].index("Water")
    before = history(session.project).pad("P7")
    assert steps.setData(steps.index(2, column), "low", Qt.ItemDataRole.EditRole)
    after = history(session.project).pad("P7")
    assert before is not None
    assert after is not None
    assert after.total[-1] != before.total[-1]


@pytest.mark.long
def test_a_mark_is_looked_at_asked_and_copied(window: MainWindow, qtbot: QtBot) -> None:
    """Chosen from the list: its ground, its line, the time to a degree, and all moments for a spreadsheet."""
    here, session = stop(window), window.session
    marks = (SettlementMark(name="Quay", x=34.0, y=10.0, level=1.5, limit=0.02),)
    session.edit(("actions", "marks"), marks)
    qtbot.waitUntil(lambda: here.belongs is session.project, timeout=30_000)
    assert here.point.isVisible()
    here.point.setCurrentIndex(1)
    here.point.activated.emit(1)
    assert "Ground below Quay" in here.columns_pane.title.text()
    assert "Quay" in words(here._chart(1.6))
    assert "limit 20" in words(here._chart(1.6))
    here.degree.setText("90 %")
    qtbot.keyClick(here.degree, Qt.Key.Key_Return)
    assert session.message.startswith("Quay: 90 % of primary at ")
    here.degree.setText("90 % at −1.0")
    qtbot.keyClick(here.degree, Qt.Key.Key_Return)
    assert "90 % at −1" in session.message
    here.degree.setText("much")
    qtbot.keyClick(here.degree, Qt.Key.Key_Return)
    assert "is no degree" in session.message
    qtbot.mouseClick(here.time_button, LEFT)
    lines = QApplication.clipboard().text().splitlines()
    assert lines[0].split("\t")[4] == "settlement, mm"
    assert lines[-1].split("\t")[3] == "in the end"
    assert all(line.split("\t")[0] == "Quay" for line in lines[1:])


def test_a_tank_without_any_foundation_is_shown(qtbot: QtBot) -> None:
    project = filled(load=AreaLoad(name="Fill", shape="circle", size_x=10.0, pressure=60.0))
    project = project.replaced(actions=project.actions.replaced(marks=(SettlementMark(name="M", limit=0.5),)))
    window = MainWindow(Session(project))
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    window.show()
    window.go_to(4)
    here = stop(window)
    qtbot.waitUntil(lambda: here.belongs is project, timeout=30_000)
    assert "Ground below M" in here.columns_pane.title.text()
    assert "total" in words(here._columns(1.6))
    assert "M " in words(here._plan(1.0))


def test_lines_over_depth_stand_where_the_stress_falls(demo: Project) -> None:
    own = history(demo).pad("P7")
    assert own is not None
    shown = words(depth_columns(demo, own, 1000.0, 1.6))
    assert "20 %" in shown
    assert "10 %" in shown
    deep, shallow = own.level_of(0.1), own.level_of(0.2)
    assert deep is not None
    assert shallow is not None
    assert deep < shallow < own.levels[0]


def test_soils_and_marks_take_their_new_values(window: MainWindow) -> None:
    """Permeability in any unit, a margin of preconsolidation, a limit of a mark; what says the same twice is refused
    with a word."""
    session = window.session
    session.edit(("ground", "soils", "Silty clay", "overconsolidation_ratio"), 1.0)
    session.edit(("ground", "soils", "Silty clay", "preconsolidation_margin"), 25.0)
    assert (
        session.project.ground.soils[
            [s.name for s in session.project.ground.soils].index("Silty clay")
        ].preconsolidation_margin
        == 25.0
    )
    before = session.project
    said = session.edit(("ground", "soils", "Silty clay", "preconsolidation"), 90.0)
    assert session.project is before
    assert "say the same thing" in said
