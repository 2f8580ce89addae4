"""The ledger of the whole plan: every check of every base, each cell a door."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from korbent.app.stops.whole import WholeStop
from korbent.app.window import MainWindow
from korbent.core.checks import State
from korbent.core.model import Project, edited
from korbent.core.units import show_ratio
from tests.app.test_window import opened

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    return opened(qtbot, demo)


def whole(window: MainWindow) -> WholeStop:
    QTest.keyClick(window, Qt.Key.Key_L, Qt.KeyboardModifier.ControlModifier)
    assert isinstance(window.stop, WholeStop)
    return window.stop


def place(stop: WholeStop, base: str, check: str) -> tuple[int, int]:
    row = [p.name for p in stop.model.rows].index(base)
    return row, 1 + [c.id for c in stop.model.columns].index(check)


def test_every_check_of_every_base_is_there(window: MainWindow) -> None:
    stop = whole(window)
    assert stop.model.rowCount() == len(window.session.project.pads)
    seen = 0
    for base in window.session.results.pads:
        for check in base.checks:
            if check.state is State.NOT_APPLICABLE:
                continue
            seen += 1
            text = stop.model.index(*place(stop, base.name, check.check.id)).data()
            assert text == (show_ratio(check.ratio) if check.ratio is not None else text)
            assert text
    assert seen > 300
    groups = [c.group for c in stop.model.columns]
    assert groups == sorted(groups, key=groups.index)  # each group in one piece


def test_a_cell_selects_and_enter_opens_the_working_there_and_back(window: MainWindow, qtbot: QtBot) -> None:
    window.go_to(4)
    stop = whole(window)
    index = stop.model.index(*place(stop, "P7", "punching"))
    stop.view.scrollTo(index)
    QTest.mouseClick(stop.view.viewport(), LEFT, pos=stop.view.visualRect(index).center())
    assert (window.session.selected, window.session.check) == ("P7", "punching")
    assert window.ledger.title.text() == "P7"
    assert stop.view.currentIndex() == stop.model.index(*place(stop, "P7", "punching"))
    QTest.keyClick(stop.view, Qt.Key.Key_Return)
    assert window.ledger.stack.currentIndex() == 1
    assert window.ledger.working.heading.text().startswith("Punching")
    QTest.keyClick(stop.view, Qt.Key.Key_Down)
    assert window.session.selected == "P8"
    assert window.session.check == "punching"
    window.ledger.close_working()
    QTest.mouseClick(window.ledger.whole, LEFT)
    assert window.stack.currentIndex() == 4


def test_an_edit_shows_at_once_and_the_place_stays(window: MainWindow) -> None:
    window.session.select("P3")
    window.session.select_check("presumed-pressure")
    stop = whole(window)
    at = place(stop, "P3", "presumed-pressure")
    before = stop.model.index(*at).data()
    window.session.resize("width", 3.0)
    assert stop.model.index(*at).data() < before
    assert (stop.view.currentIndex().row(), stop.view.currentIndex().column()) == at


@pytest.mark.long
def test_by_a_check_and_only_what_fails(window: MainWindow, demo: Project) -> None:
    stop = whole(window)
    order = [p.name for p in stop.model.rows]
    head = stop.view.horizontalHeader()
    column = place(stop, "P3", "settlement")[1]
    at = head.sectionViewportPosition(column) + head.sectionSize(column) // 2
    QTest.mouseClick(head.viewport(), LEFT, pos=QPoint(at, 60))
    ratios = [p.check("settlement").ratio or 0.0 for p in stop.model.rows]
    assert ratios == sorted(ratios, reverse=True)
    QTest.mouseClick(head.viewport(), LEFT, pos=QPoint(at, 60))
    assert [p.name for p in stop.model.rows] == order
    QTest.mouseClick(stop.failing, LEFT)
    bad = {
        p.name for p in window.session.results.pads if any(c.state in (State.FAILS, State.UNSTABLE) for c in p.checks)
    }
    assert {p.name for p in stop.model.rows} == bad
    assert bad
    window.session.apply(edited(demo, ("settings", "presumed_pressure"), 40.0))
    assert len(stop.model.rows) > len(bad)  # what fails now is there now
    QTest.mouseClick(stop.failing, LEFT)
    window.session.apply(demo.replaced(pads=()))
    assert stop.model.rowCount() == 0


@pytest.mark.long
def test_where_no_sizes_are_worked_on_one_line_of_them_is_left(window: MainWindow) -> None:
    window.session.select("P3")
    sizes = window.sizes
    for index, folded in ((0, True), (3, False), (1, True), (2, False)):
        window.go_to(index)
        assert sizes.is_folded is folded
        assert sizes.sizes.isVisible() is not folded
    window.go_to(1)
    assert "2.20 × 2.20 × 0.45" in sizes.detail.text()
    high = sizes.height()
    QTest.mouseClick(sizes.folding, LEFT)
    assert sizes.sizes.isVisible()
    assert sizes.steppers["width"].field.text() == "2.20 m"
    window.session.resize("width", 2.4)
    assert not sizes.is_folded  # it stays as it was put
    QTest.mouseClick(sizes.folding, LEFT)
    assert sizes.is_folded
    assert "2.40 × 2.20" in sizes.detail.text()
    assert high > 0
