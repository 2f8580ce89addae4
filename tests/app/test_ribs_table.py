"""Ribs of rafts in the window: laid by one click, changed in their table, looked at along."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QComboBox, QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.window import MainWindow
from korbent.core.concrete.demand import BeamLine
from tests.app.test_window import opened, panel, type_into
from tests.core.test_rafts import raft

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot) -> MainWindow:
    return opened(qtbot, raft(thickness=0.25))


def laid(window: MainWindow, qtbot: QtBot) -> None:
    panel(window, "ribs")
    qtbot.mouseClick(window.findChild(QPushButton, "lay-ribs"), LEFT)
    qtbot.waitUntil(lambda: not window.session.waiting, timeout=30_000)


@pytest.mark.long
def test_they_are_laid_by_one_click_and_checked(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    before = session.project
    laid(window, qtbot)
    table = panel(window, "ribs")
    assert [r.name for r in table.model.rows] == ["X1", "X2", "Y1", "Y2", "Y3"]
    assert session.message.endswith("ribs X1, X2, Y1, Y2, Y3")
    assert session.results.pads[0].check("rib-top").ratio is not None
    qtbot.mouseClick(window.findChild(QPushButton, "lay-ribs"), LEFT)
    assert "has its rib already" in session.message
    session.undo()
    assert session.project is before
    assert not table.model.rows


@pytest.mark.long
def test_the_table_changes_adds_and_removes(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    laid(window, qtbot)
    table = panel(window, "ribs")
    type_into(qtbot, table, 0, "Depth", "0.9")
    type_into(qtbot, table, 1, "Top", "5 no 20")
    ribs = session.project.pads[0].plate.ribs  # type: ignore[union-attr]
    assert ribs[0].depth == 0.9
    assert ribs[1].top.number == 5
    type_into(qtbot, table, 1, "Rib", "north")
    assert session.project.pads[0].plate.ribs[1].name == "north"  # type: ignore[union-attr]
    type_into(qtbot, table, 0, "At", "2.3")
    assert "reaches over the edge" in session.message
    table.view.setCurrentIndex(table.model.index(4, 0))
    qtbot.mouseClick(table.remove_button, LEFT)
    assert len(table.model.rows) == 4
    table.view.setCurrentIndex(table.model.index(0, 0))
    qtbot.mouseClick(table.add_button, LEFT)
    added = session.project.pads[0].plate.ribs[-1]  # type: ignore[union-attr]
    assert added.axis == "x"
    assert added.at == pytest.approx(0.0)


@pytest.mark.long
def test_a_click_on_a_rib_shows_what_runs_along_it(window: MainWindow, qtbot: QtBot) -> None:
    laid(window, qtbot)
    window.go_to(5)
    qtbot.waitUntil(lambda: not window.session.waiting, timeout=30_000)
    raft_panel = window.stop.raft  # type: ignore[attr-defined]
    chosen = window.findChild(QComboBox, "raft-rib")
    assert [chosen.itemText(i) for i in range(chosen.count())] == [
        "plate",
        "rib X1",
        "rib X2",
        "rib Y1",
        "rib Y2",
        "rib Y3",
    ]
    view = raft_panel.field
    rib = window.session.project.pads[0].plate.ribs[0]  # type: ignore[union-attr]
    x, y = view.placement()((2.0, rib.at))
    qtbot.mouseClick(view, LEFT, pos=QPoint(round(x), round(y)))
    assert chosen.currentText() == "rib X1"
    assert raft_panel.line_pane.title.text() == "Rib  X1"
    found = raft_panel._along()
    assert isinstance(found, BeamLine)
    assert min(found.moment_least) < 0 < max(found.shear_most)
    texts = raft_panel.line.drawing.texts
    assert any("rib X1 with" in text for text in texts)
    place = raft_panel.line.placement()((5.0, 1.0))
    assert window.minimumSizeHint().width() <= 1280
    QTest.mouseMove(raft_panel.line, QPoint(round(place[0]), round(place[1])))
    qtbot.waitUntil(lambda: "V " in window.session.message)
    assert window.session.message.startswith("rib X1")
    # a click beside it shows the plate again
    x, y = view.placement()((2.0, 0.1))
    qtbot.mouseClick(view, LEFT, pos=QPoint(round(x), round(y)))
    assert chosen.currentText() == "plate"


@pytest.mark.long
def test_what_is_too_weak_grows_by_one_click(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    laid(window, qtbot)
    table = panel(window, "ribs")
    assert (session.results.pads[0].check("rib-top").ratio or 0) > 1.0
    qtbot.mouseClick(table.findChild(QPushButton, "grow-ribs"), LEFT)
    assert "top" in session.message
    qtbot.waitUntil(lambda: not session.waiting, timeout=30_000)
    assert (session.results.pads[0].check("rib-top").ratio or 9) <= 1.0
    qtbot.mouseClick(table.findChild(QPushButton, "grow-ribs"), LEFT)
    assert session.message.endswith("hold as they are")


@pytest.mark.long
def test_overhang_and_ribs_stand_in_the_size_panel(window: MainWindow, qtbot: QtBot) -> None:
    session, sizes = window.session, window.sizes
    shown = lambda: {n for n, s in sizes.steppers.items() if s.isVisible()}  # noqa: E731
    assert "overhang" in shown()
    assert not {"rib_depth", "offset_x"} & shown()
    laid(window, qtbot)
    assert {"overhang", "rib_width", "rib_depth", "thickness"} <= shown()
    before = session.pad
    assert before is not None
    stepper = sizes.steppers["overhang"]
    assert stepper.field.text() == "0.60 m"
    qtbot.mouseClick(stepper.more, LEFT)
    after = session.pad
    assert after is not None
    assert (after.width, after.length) == pytest.approx((before.width + 0.2, before.length + 0.2))
    assert (after.offset_x, after.offset_y) == (before.offset_x, before.offset_y)
    field = sizes.steppers["rib_depth"].field
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, "0.85")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert {r.depth for r in session.pad.plate.ribs} == {0.85}  # type: ignore[union-attr]
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, "0.1")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert "no more than the raft is thick" in session.message
    assert {r.depth for r in session.pad.plate.ribs} == {0.85}  # type: ignore[union-attr]
    qtbot.waitUntil(lambda: any(e.dimension == "rib_depth" and e.change > 0 for e in sizes._shown), timeout=60_000)
    deeper = {(e.dimension, e.change > 0): e.ratio for e in sizes._shown}
    assert deeper["rib_depth", True] is not None
