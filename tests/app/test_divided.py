"""The lines between parts of a stop: moved by hand, put back, kept from run to run, and whatever the size."""

import json

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from korbent.app.divided import Divided
from korbent.app.remembered import Remembered
from korbent.app.window import MainWindow
from korbent.core.model import Project
from korbent.files.folders import state_folder
from tests.app.test_enlarged import settle
from tests.app.test_remembered import window_of
from tests.app.test_window import opened

LEFT = Qt.MouseButton.LeftButton


def divided(window: MainWindow, name: str) -> Divided:
    found = window.stop.findChild(Divided, name)
    assert isinstance(found, Divided)
    return found


def draw(whole: Divided, by: int, at: int = 1) -> None:
    """Takes the line before a part with the mouse and moves it."""
    line, start = whole.handle(at), QPoint(1, 1)
    way = QPoint(by, 0) if whole.orientation() == Qt.Orientation.Horizontal else QPoint(0, by)
    QTest.mousePress(line, LEFT, pos=start)
    QTest.mouseMove(line, start + way)
    QTest.mouseRelease(line, LEFT, pos=start + way)
    settle()


@pytest.mark.long
@pytest.mark.parametrize(
    ("stop", "name"),
    [
        (0, "ground"),
        (1, "actions"),
        (2, "plan"),
        (3, "bearing"),
        (3, "bearing-top"),
        (4, "settlement"),
        (4, "settlement-bottom"),
        (5, "concrete"),
        (5, "concrete-right"),
    ],
)
def test_a_line_follows_the_mouse_and_goes_back(qtbot: QtBot, demo: Project, stop: int, name: str) -> None:
    window = opened(qtbot, demo)
    window.session.select("P3")
    window.go_to(stop)
    settle()
    whole = divided(window, name)
    before = whole.sizes()
    # away from the part that has more to give; the other would soon be at what it needs
    first, second = (
        size - (needs.width() if whole.orientation() == Qt.Orientation.Horizontal else needs.height())
        for size, needs in ((before[i], whole.widget(i).minimumSizeHint()) for i in (0, 1))
    )
    sign = 1 if second > first else -1
    draw(whole, 20 * sign)
    after = whole.sizes()
    assert after != before
    assert sum(after) == sum(before)
    assert (after[0] - before[0]) * sign > 0
    assert all(size > 0 for size in after)
    QTest.mouseDClick(whole.handle(1), LEFT)
    settle()
    assert whole.sizes() == before


def test_shares_outlive_the_size_of_the_window(qtbot: QtBot, demo: Project) -> None:
    window = opened(qtbot, demo)
    window.go_to(3)
    settle()
    whole = divided(window, "bearing")
    draw(whole, 60)
    share = whole.sizes()[0] / sum(whole.sizes())
    for size in ((1500, 1000), (1300, 820), (1700, 1050)):
        window.resize(*size)
        settle()
        assert whole.sizes()[0] / sum(whole.sizes()) == pytest.approx(share, abs=0.004)


@pytest.mark.long
def test_parts_that_are_hidden_keep_their_share(qtbot: QtBot, demo: Project) -> None:
    window = opened(qtbot, demo)
    window.resize(1700, 900)
    window.go_to(1)
    settle()
    whole = divided(window, "actions-lower")
    before = whole.sizes()
    assert before[2] == 0  # the construction steps are not seen with the loads
    window.stop.deck.bring("steps")  # type: ignore[attr-defined]
    settle()
    steps = whole.sizes()
    assert steps[:2] == [0, 0]
    assert min(steps[2:]) > 0
    window.stop.deck.bring("loads")  # type: ignore[attr-defined]
    settle()
    assert whole.sizes() == before


@pytest.mark.long
def test_they_come_back_in_the_next_run(qtbot: QtBot, demo: Project) -> None:
    first = window_of(qtbot, demo)
    first.resize(1280, 800)
    first.go_to(2)
    settle()
    draw(divided(first, "plan"), -40)
    kept = divided(first, "plan").sizes()
    first.close()
    second = window_of(qtbot, demo)
    second.resize(1280, 800)
    second.go_to(2)
    settle()
    assert all(abs(a - b) <= 2 for a, b in zip(kept, divided(second, "plan").sizes(), strict=True))
    assert divided(second, "plan").shares[0] < 0.95 * 7 / 12


@pytest.mark.long
@pytest.mark.parametrize(
    "dividers",
    [{"plan": [1.0, -1.0]}, {"plan": [1.0]}, {"plan": "wide"}, {"plan": [None, 2]}, ["plan"], 7, {"x": [1, 2]}],
)
def test_what_cannot_be_shares_is_passed_over(qtbot: QtBot, demo: Project, dividers: object) -> None:
    path = state_folder() / "window.json"
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(json.dumps({"theme": "dark", "dividers": dividers}), encoding="utf-8")
    assert Remembered().theme == "dark"
    window = window_of(qtbot, demo)
    window.go_to(2)
    settle()
    assert divided(window, "plan").shares == [7.0, 5.0]


def test_nothing_is_folded_away(qtbot: QtBot) -> None:
    holder = QWidget()
    qtbot.addWidget(holder)
    parts = [QWidget(), QWidget()]
    for part in parts:
        part.setMinimumWidth(50)
    whole = Divided(holder, "two", Qt.Orientation.Horizontal, [(part, 1) for part in parts])
    whole.resize(401, 100)
    holder.show()
    settle()
    draw(whole, 900)
    assert whole.sizes() == [350, 50]
    draw(whole, -900)
    assert whole.sizes() == [50, 350]
