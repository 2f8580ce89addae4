"""The base as a strip in Bearing: asked for when it is seen, coarse first, refined, and anew after an edit that matters."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from korbent.app.stops.bearing import BearingStop
from korbent.app.strip_panel import StripPanel
from korbent.app.window import MainWindow
from korbent.core.bearing.as_strip import AsStrip
from korbent.core.model import Project, edited
from korbent.core.plasticity.section import Layer, Section
from korbent.drawing.primitives import Line, Text
from korbent.drawing.strip_chart import Found, outside, strip_chart, strip_said
from tests.app.test_window import opened

SOON = 60_000


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = opened(qtbot, demo)
    made.session.select("P6")
    made.go_to(3)
    return made


def panel(window: MainWindow) -> StripPanel:
    stop = window.stop
    assert isinstance(stop, BearingStop)
    return stop.strip


@pytest.mark.long
def test_a_bracket_comes_and_an_edit_elsewhere_keeps_it(window: MainWindow, qtbot: QtBot) -> None:
    stop = window.stop
    assert isinstance(stop, BearingStop)
    own = panel(window)
    assert own.found().lower is None
    QTest.mouseClick(stop.choices[4], Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: own.found().lower is not None and own.found().upper is not None, timeout=SOON)
    first = own.found()
    assert first.lower is not None
    assert first.upper is not None
    assert first.lower < first.upper < 1.2 * first.lower
    assert "As a strip: P6" in stop.pressure_pane.title.text()
    section = own.section
    # another base: the strip is the very same
    project = window.session.project
    window.session.apply(edited(project, ("pads", "P1", "width"), 1.8), "P1 wider")
    qtbot.waitUntil(lambda: own.strip.state == "", timeout=SOON)
    assert own.section is section
    assert own.found().lower is not None
    # this one: another strip
    window.session.apply(edited(window.session.project, ("pads", "P6", "width"), 2.5), "P6 wider")
    qtbot.waitUntil(lambda: own.section is not section, timeout=SOON)
    qtbot.waitUntil(lambda: own.found().lower is not None, timeout=SOON)
    assert (own.found().lower or 0) != first.lower


def test_nothing_is_asked_for_while_it_is_not_seen(window: MainWindow) -> None:
    own = panel(window)
    assert own.strip.belongs == ()


STRIP = AsStrip(
    Section(2.0, (Layer(0.0, 9.0, 0.0, 30.0, 10.0),), 20.0),
    0.0,
    "drained",
    "3",
    180.0,
    (("One", 500.0), ("Two", 700.0)),
    "said",
)


def test_the_chart_says_how_far_methods_lie_outside() -> None:
    found = Found(540.0, 560.0, 551.0)
    assert outside(500.0, found) == "7 % below the bracket"
    assert outside(700.0, found) == "25 % above the bracket"
    assert outside(550.0, found) == "within the bracket"
    drawn = strip_chart(STRIP, found, "One", "metric", 2.0)
    said = " | ".join(drawn.texts)
    for text in ("540 to 560, ±1.8 %, exact 551", "25 % above the bracket", "N/A′ 180 kPa"):
        assert text in said, text
    assert "first stratum alone; combination 3. said." in strip_said(STRIP, "metric")
    assert any(isinstance(s, Line) and s.dash for s in drawn.shapes)
    waiting = strip_chart(STRIP, Found(state="being computed …"), "One", "metric", 2.0)
    assert "being computed …" in waiting.texts
    assert not any("bracket" in t for t in waiting.texts)
    assert [
        s.text for s in strip_chart("no strength", found, "One", "metric", 2.0).shapes if isinstance(s, Text)
    ] == ["no strength"]
