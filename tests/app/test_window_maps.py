"""What workers find for the selected base in Bearing: the map of sizes and the reserve."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.size_map import BEFORE, FINE, FIRST
from korbent.app.window import MainWindow
from korbent.core.model import Project
from tests.app.test_window import cell, opened

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    """Two of the bases, without construction steps: the worker that tries them is as busy as it must be, not more."""
    pads = tuple(p for p in demo.pads if p.name in ("P7", "P8"))
    return opened(qtbot, demo.replaced(pads=pads, actions=demo.actions.replaced(steps=())))


@pytest.mark.long
def test_the_size_map_takes_a_size_by_a_click(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P8")
    window.go_to(3)
    qtbot.mouseClick(window.findChild(QPushButton, "pane-sizes"), LEFT)
    map_ = window.stop.map
    qtbot.waitUntil(lambda: map_.state == FIRST, timeout=20_000)
    assert map_.found is not None
    first = map_.found
    assert not map_.take.isEnabled()
    qtbot.waitUntil(lambda: map_.state == FINE, timeout=20_000)
    assert map_.found.ratio.size > 4 * first.ratio.size
    qtbot.mouseClick(map_.take, LEFT)
    result = session.result
    assert result is not None
    assert result.worst.ratio is not None
    assert result.worst.ratio <= 1.0
    # the map of the project before stays marked till the next comes, and takes no clicks; one that comes late is dropped
    qtbot.waitUntil(lambda: map_.state == FINE, timeout=20_000)
    stale = map_.found
    session.undo()
    assert map_.state == BEFORE
    assert any(getattr(s, "text", "") == BEFORE for s in map_.view.drawing.shapes)
    undone = session.project
    qtbot.mouseClick(map_.view, LEFT, pos=cell(map_.view, "size:0:0"))
    assert session.project is undone
    map_.fine._came((stale.project, stale.pad, stale.up), stale)
    assert map_.state == BEFORE
    qtbot.waitUntil(lambda: map_.state == FINE, timeout=20_000)
    assert map_.found is not stale
    view = map_.view
    row, column = map_.found.smallest
    qtbot.mouseClick(view, LEFT, pos=cell(view, f"size:{row}:{column}"))
    assert session.pad is not None
    assert (session.pad.width, session.pad.length) == pytest.approx(stale_size(window, row, column))


def stale_size(window: MainWindow, row: int, column: int) -> tuple[float, float]:
    """The size that the place had on the map before the click: rows and columns run on the raster of the steps."""
    from korbent.core.sizing.size_map import size_map

    before = window.session.history[window.session.position - 1]
    return size_map(before, before.pad("P8")).at(row, column)


@pytest.mark.long
def test_the_reserve_of_a_base(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P7")
    window.go_to(3)
    qtbot.mouseClick(window.findChild(QPushButton, "pane-reserve"), LEFT)
    panel_ = window.stop.reserve
    qtbot.waitUntil(lambda: panel_.current, timeout=20_000)
    texts = [s.text for s in panel_.view.drawing.shapes if hasattr(s, "text")]
    assert "more V, downwards" in texts
    assert any(t.endswith(" kN") for t in texts)
    before = panel_.found
    window.session.change_by("width", 0.2)
    assert "out of date" in panel_.state.text()
    assert panel_.found is before  # the old values stay in sight until the new ones are there
    qtbot.waitUntil(lambda: panel_.current, timeout=20_000)
    assert panel_.found is not None
    assert before is not None
    assert (panel_.found[0].amount or 0) > (before[0].amount or 0)
