"""Which kind of foundation: the table fills as kinds are found, one is taken in one step, what is out of date is
not."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.kinds_dialog import KindsDialog
from korbent.app.window import MainWindow
from tests.app.test_window import opened
from tests.core.test_kinds_compared import columns

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot) -> MainWindow:
    return opened(qtbot, columns((0, 0, 500.0), (4.5, 0, 650.0)))


def compared(window: MainWindow, qtbot: QtBot) -> KindsDialog:
    window.go_to(2)
    for name in ("C0", "C1"):
        window.stop._clicked(f"point:{name}")  # type: ignore[attr-defined]
    qtbot.mouseClick(window.findChild(QPushButton, "which-kind"), LEFT)
    dialog = window.stop.bar.kinds  # type: ignore[attr-defined]
    assert dialog.table.item(0, 7).text().startswith("being computed")
    qtbot.waitUntil(lambda: dialog._job is None, timeout=60_000)
    return dialog  # type: ignore[no-any-return]


@pytest.mark.long
def test_kinds_are_compared_and_one_is_taken(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    before = session.project
    dialog = compared(window, qtbot)
    assert session.project is before
    rows = [[dialog.table.item(r, c).text() for c in range(8)] for r in range(5)]
    assert [r[0] for r in rows] == ["pads", "one base", "strap", "raft", "ribbed raft"]
    assert all(float(r[5]) > 0 for r in rows if not r[7].startswith("not possible"))
    assert "Cheapest that holds: pads" in dialog.note.text()
    button = dialog.button
    assert not button.isEnabled()
    dialog.table.selectRow(2)
    assert button.isEnabled()
    # what was compared for another project is not taken
    session.edit(("title", "author"), "somebody")
    changed = session.project
    dialog.table.selectRow(0)
    assert not button.isEnabled()
    assert "changed since" in dialog.note.text()
    dialog.take()
    assert session.project is changed
    session.undo()
    dialog.table.selectRow(2)
    qtbot.mouseClick(button, LEFT)
    assert not dialog.isVisible()
    assert len(session.project.straps) == 1
    assert session.message.startswith("strap for C0, C1")
    session.undo()
    assert session.project is before


def test_without_marked_columns_it_says_so(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    pad = session.project.pads[0]
    other = pad.replaced(name="Q", load_point="C1")
    session.apply(session.project.replaced(pads=(*session.project.pads, other)))
    window.go_to(2)
    qtbot.mouseClick(window.findChild(QPushButton, "which-kind"), LEFT)
    assert session.message.startswith("mark the columns first")
