"""All situations of a base between bounds: which, in what order, and what is picked."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from korbent.app.stops.bearing import BearingStop
from korbent.app.strip.every import COARSE, FINE
from korbent.app.window import MainWindow
from korbent.core.bearing.as_strip import AsStrip, Taken, as_strip, as_strips
from korbent.core.model import Load, Project, edited
from korbent.drawing.primitives import Polygon
from korbent.drawing.situations import Situation, situation_said, situations_chart
from korbent.verification.pad import one_pad
from tests.app.test_window import opened

SOON = 60_000


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = opened(qtbot, demo)
    made.session.select("P6")
    made.go_to(3)
    return made


@pytest.mark.long
def test_every_situation_is_a_strip_or_says_why(demo: Project) -> None:
    pad = demo.pad("P6")
    for taken in (Taken(), Taken(load="all", strengths="design")):
        every = as_strips(demo, pad, "drained", taken)
        one = as_strip(demo, pad, "drained", taken)
        assert isinstance(every, tuple)
        assert isinstance(one, AsStrip)
        names = [name for name, _ in every]
        assert len(set(names)) == len(names) > 5
        # the one that is looked at alone is among them, the very same
        assert dict(every)[one.combination] == one
        loaded = {s.force for _, s in every if isinstance(s, AsStrip)}
        assert len(loaded) > 1
    lifted = edited(one_pad(load=Load(V=-400.0)), ("settings", "presumed_pressure"), 200.0)
    assert isinstance(as_strips(lifted, lifted.pads[0], "drained"), str)


ROWS = [
    Situation("1", 100.0, 0.4, 0.5),
    Situation("2", 180.0, 1.1, 1.2),
    Situation("3", 90.0),
    Situation("4", why="outside"),
]


def test_the_chart_has_the_greatest_first() -> None:
    drawn = situations_chart(ROWS, "1", "", "metric", 2.0)
    bars = [s for s in drawn.shapes if isinstance(s, Polygon) and s.key]
    assert [b.key for b in bars] == ["situation:2", "situation:2", "situation:1", "situation:1"]
    assert bars[1].fill == "beyond"
    assert bars[3].fill == "accent"
    assert bars[3].stroke == "ink"  # the one that is shown everywhere
    words = " | ".join(drawn.texts)
    assert "2: 1.10 to 1.20 of 150 kPa and more" in words
    assert "3 of 4 so far" in words
    assert "1 without: outside" in words
    assert situations_chart([], "", "", "metric", 2.0).texts == ("being computed …",)
    assert situations_chart(ROWS, "", "no strength", "metric", 2.0).texts == ("no strength",)
    assert situation_said(ROWS[0], "metric") == "Combination 1: 100 kPa over 200 to 250 kPa: 0.40 to 0.50"
    assert situation_said(ROWS[2], "metric").endswith("being computed …")
    assert situation_said(ROWS[3], "metric").endswith("outside")


@pytest.mark.long
def test_a_click_shows_a_situation_everywhere(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    stop = window.stop
    assert isinstance(stop, BearingStop)
    own = stop.strip
    wanted: list[tuple[int, int]] = []
    every = own.every
    monkeypatch.setattr(every, "_want", lambda k, most: wanted.append((k, most)))
    QTest.mouseClick(stop.choices[4], Qt.MouseButton.LeftButton)
    QTest.mouseClick(own.modes["All"], Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: isinstance(every.strips.found, tuple) and isinstance(own.shown, AsStrip), timeout=SOON)
    found = every.strips.found
    first = own.shown
    assert isinstance(first, AsStrip)
    qtbot.waitUntil(lambda: len(wanted) >= len(found), timeout=SOON)
    own.came()
    last = wanted[-len(found) :]
    # the one that governs is asked for first, all of them, on the coarse mesh
    assert found[last[0][0]][0] == first.combination
    assert {most for _, most in last} == {COARSE}
    assert len({k for k, _ in last}) == len(found)
    sections = list(every.sections)
    own.came()
    assert all(a is b for a, b in zip(sections, every.sections))
    # what is known on all is refined where it governs
    monkeypatch.setattr(
        every,
        "rows",
        lambda: [Situation(name, 100.0, 0.5, 0.6 + 0.01 * k) for k, (name, _) in enumerate(found)],
    )
    own.came()
    assert wanted[-1] == (len(found) - 1, FINE)
    other = found[1][0]
    own.view.clicked.emit(f"situation:{other}")
    assert window.session.situation == other
    own.view.hovered.emit(f"situation:{other}")
    assert own.words.text().startswith(f"Combination {other}: 100 kPa over")
    own.view.hovered.emit("")
    assert own.words.text().startswith("Load over what is borne")
