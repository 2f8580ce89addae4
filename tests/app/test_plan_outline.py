"""An outline drawn in the plan by mouse and keys, its corners dragged, added and typed."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from korbent.app import specs
from korbent.app.session import Session
from korbent.app.stops.plan import PlanStop
from korbent.app.tables import TableModel
from korbent.app.window import MainWindow
from korbent.core.model import Project
from korbent.core.model.site import Grid, Outline
from korbent.core.plan.outline import corner_added, corner_moved, corners_in_plan, snapped
from korbent.drawing.plan import plan_drawing
from korbent.drawing.primitives import Disc
from korbent.drawing.theme import LIGHT
from tests.core.test_rafts import raft

LEFT = Qt.MouseButton.LeftButton
PLAN = 2


def without_raft() -> Project:
    project = raft()
    return project.replaced(pads=())


def opened(qtbot: QtBot, project: Project) -> tuple[MainWindow, PlanStop]:
    window = MainWindow(Session(project))
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    window.resize(1280, 800)
    window.show()
    window.go_to(PLAN)
    assert isinstance(window.stop, PlanStop)
    qtbot.waitExposed(window)
    return window, window.stop


def click(stop: PlanStop, *places: tuple[float, float]) -> None:
    for x, y in places:
        QTest.mouseClick(stop.plan, LEFT, pos=at(stop, x, y))


def at(stop: PlanStop, x: float, y: float) -> QPoint:
    px, py = stop.plan.placement()((x, y))
    return QPoint(round(px), round(py))


def begin(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.mouseClick(window.findChild(QPushButton, "outline"), LEFT)


def first_of(project: Project) -> tuple[float, float]:
    return project.actions.load_points[0].x, project.actions.load_points[0].y


@pytest.mark.long
def test_a_raft_is_drawn_around_its_columns(qtbot: QtBot) -> None:
    window, stop = opened(qtbot, without_raft())
    x, y = first_of(window.session.project)
    begin(window, qtbot)
    assert "new raft" in window.session.message
    # an ell around five of the six columns, closed by a click on its first corner
    ring = [
        (x - 0.6, y - 0.6),
        (x + 8.6, y - 0.6),
        (x + 8.6, y + 1.6),
        (x + 5.0, y + 1.6),
        (x + 5.0, y + 4.2),
        (x - 0.6, y + 4.2),
    ]
    click(stop, *ring)
    assert stop.plan.ring is not None
    assert len(stop.plan.ring) == 6
    click(stop, ring[0])
    (pad,) = window.session.project.pads
    assert (pad.kind, pad.shape, len(pad.outline)) == ("raft", "polygon", 6)
    assert len(pad.carries) == 5
    assert stop.plan.ring is None
    assert corners_in_plan(window.session.project, pad)[0] == pytest.approx(ring[0], abs=0.06)
    # one step of undo
    window.session.undo()
    assert window.session.project.pads == ()


@pytest.mark.long
def test_keys_take_a_corner_back_close_and_end(qtbot: QtBot) -> None:
    window, stop = opened(qtbot, raft())
    session = window.session
    session.select("P")
    x, y = first_of(session.project)
    begin(window, qtbot)
    assert "of P" in session.message
    click(stop, (x - 1.0, y - 1.0), (x + 9.0, y - 1.0), (x + 4.0, y + 2.0))
    QTest.keyClick(stop.plan, Qt.Key.Key_Backspace)
    assert len(stop.plan.ring or ()) == 2
    QTest.keyClick(stop.plan, Qt.Key.Key_Return)
    assert session.message.startswith("! an outline has at least three corners")
    click(stop, (x + 9.5, y + 4.6), (x - 1.0, y + 4.6))
    QTest.keyClick(stop.plan, Qt.Key.Key_Return)
    pad = session.project.pad("P")
    assert len(pad.outline) == 4
    assert stop.plan.ring is None
    begin(window, qtbot)
    click(stop, (x, y))
    QTest.keyClick(stop.plan, Qt.Key.Key_Escape)
    assert stop.plan.ring is None
    assert session.project.pad("P") is pad


@pytest.mark.long
def test_what_cannot_be_is_said_and_the_corners_stay(qtbot: QtBot) -> None:
    window, stop = opened(qtbot, raft())
    session = window.session
    session.select("P")
    before = session.project
    x, y = first_of(before)
    begin(window, qtbot)
    click(stop, (x - 1.0, y - 1.0), (x + 6.0, y - 1.0), (x + 6.0, y + 4.6), (x - 1.0, y + 4.6))
    QTest.keyClick(stop.plan, Qt.Key.Key_Return)
    assert "stands off the base" in session.message
    assert session.project is before
    assert len(stop.plan.ring or ()) == 4
    QTest.keyClick(stop.plan, Qt.Key.Key_Escape)
    begin(window, qtbot)
    click(stop, (x - 1.0, y - 1.0), (x + 9.0, y + 4.6), (x + 9.0, y - 1.0), (x - 1.0, y + 4.6))
    QTest.keyClick(stop.plan, Qt.Key.Key_Return)
    assert "cross" in session.message
    assert session.project is before


@pytest.mark.long
def test_corners_are_dragged_and_pulled_out_of_sides(qtbot: QtBot) -> None:
    project = raft()
    project = project.replaced(pads=(project.pads[0].replaced(shape="polygon"),))
    window, stop = opened(qtbot, project)
    session = window.session
    session.select("P")
    handles = [
        s
        for s in plan_drawing(session.project, session.results, "P").shapes
        if isinstance(s, Disc) and s.key.startswith("drag:")
    ]
    assert len(handles) == 8
    corner = corners_in_plan(session.project, session.project.pad("P"))[2]
    drag(stop, corner, (corner[0] + 1.0, corner[1] + 0.5))
    pad = session.project.pad("P")
    assert corners_in_plan(session.project, pad)[2] == pytest.approx((corner[0] + 1.0, corner[1] + 0.5), abs=0.06)
    assert "corner moved" in session.message
    a, b = corners_in_plan(session.project, pad)[:2]
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    drag(stop, middle, (middle[0], middle[1] - 0.8))
    assert len(session.project.pad("P").outline) == 5
    # back upon its neighbour it is gone
    there = corners_in_plan(session.project, session.project.pad("P"))
    one = min(range(5), key=lambda k: there[k][1])
    kept = corner_moved(session.project, session.project.pad("P"), one, *there[one - 1])
    assert len(kept.outline) == 4


def drag(stop: PlanStop, start: tuple[float, float], end: tuple[float, float]) -> None:
    QTest.mousePress(stop.plan, LEFT, pos=at(stop, *start))
    place = at(stop, *end)
    QTest.mouseMove(stop.plan, place)
    from PySide6.QtCore import QEvent, QPointF
    from PySide6.QtGui import QMouseEvent

    to = QPointF(place)
    event = QMouseEvent(
        QEvent.Type.MouseMove,
        to,
        stop.plan.mapToGlobal(to),
        Qt.MouseButton.NoButton,
        LEFT,
        Qt.KeyboardModifier.NoModifier,
    )
    stop.plan.mouseMoveEvent(event)
    QTest.mouseRelease(stop.plan, LEFT, pos=place)


@pytest.mark.long
def test_corners_are_typed_in_the_table_of_rafts(qtbot: QtBot) -> None:
    session = Session(raft())
    model = TableModel(session, specs.RAFTS, LIGHT)
    column = next(k for k, c in enumerate(model.columns) if c.title == "Outline")
    cell = model.index(0, column)
    assert model.text(0, column) == ""
    assert model.setData(cell, "-0.6 -0.6; 8.6 -0.6; 9.6 4.2; -0.6 4.2")
    pad = session.project.pad("P")
    assert (pad.shape, pad.width, pad.length) == ("polygon", 10.2, 4.8)
    model.refresh()
    assert model.text(0, column) == "−0.60 −0.60; 8.60 −0.60; 9.60 4.20; −0.60 4.20"
    assert not model.setData(cell, "0 0; 1")
    assert "no corner" in session.message
    assert not model.setData(cell, "-0.6 -0.6; 8.6 -0.6; 8.6 2.0; -0.6 2.0")
    assert "stands off the base" in session.message
    assert session.project.pad("P") is pad
    assert model.setData(cell, "")
    assert session.project.pad("P").shape == "rectangle"


def test_places_snap_to_what_is_near() -> None:
    project = raft()
    x, y = first_of(project)
    project = project.replaced(
        grids=(Grid(x=x, y=y, along_x=(0.0, 4.0, 8.0), along_y=(0.0, 3.6)),),
        site=(Outline(name="Quay", points=((x - 2.03, y - 9.0), (x - 2.03, y + 9.0)), closed=False),),
    )
    assert snapped(project, x + 0.1, y - 0.1, 0.3).on in (
        "C",
        "C0",
        "grid",
        project.actions.load_points[0].name,
    )
    near_line = snapped(project, x - 2.1, y + 1.31, 0.2)
    assert (near_line.x, near_line.on) == (pytest.approx(x - 2.03), "Quay")
    # where the quay meets a line of the grid
    crossing = snapped(project, x - 2.0, y + 3.7, 0.2)
    assert (crossing.x, crossing.y) == pytest.approx((x - 2.03, y + 3.6))
    # square to the last corner, on the raster beside
    square = snapped(project, x + 1.42, y - 5.03, 0.2, ring=((x - 6.0, y - 5.0),))
    assert square.on == "square to the last corner"
    assert square.y == pytest.approx(y - 5.0)
    free = snapped(project, x + 1.42, y - 7.03, 0.1)
    assert (free.on, round(free.x / 0.05, 6) % 1) == ("", 0.0)


def test_a_corner_more_changes_nothing_until_it_is_moved() -> None:
    project = raft()
    project = project.replaced(pads=(project.pads[0].replaced(shape="polygon"),))
    pad = project.pads[0]
    a, b = corners_in_plan(project, pad)[1:3]
    more = corner_added(project, pad, 1, (a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    assert len(more.outline) == 5
    assert (more.width, more.length, more.offset_x) == pytest.approx((pad.width, pad.length, pad.offset_x))
    assert more.area(more.width, more.length) == pytest.approx(pad.area(pad.width, pad.length))
