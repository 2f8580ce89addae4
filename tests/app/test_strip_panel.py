"""The base as a strip in Bearing: asked for when it is seen, coarse first, refined, and anew after an edit that
matters."""

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from korbent.app.stops.bearing import BearingStop
from korbent.app.strip.panel import StripPanel
from korbent.app.window import MainWindow
from korbent.core.bearing.as_strip import AsStrip
from korbent.core.explain.collapse import Seen, SeenCurve
from korbent.core.model import Project, edited
from korbent.core.plasticity.section import Layer, Section
from korbent.drawing.collapse import Beside, collapse_chart, difference
from korbent.drawing.primitives import Disc, Line, Text
from korbent.drawing.strip_chart import Found, outside, strip_chart, strip_said
from korbent.files.pasted import pairs_of
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
    assert own.bracket.found().lower is None
    QTest.mouseClick(stop.choices[4], Qt.MouseButton.LeftButton)
    qtbot.waitUntil(
        lambda: own.bracket.found().lower is not None and own.bracket.found().upper is not None, timeout=SOON
    )
    first = own.bracket.found()
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
    assert own.bracket.found().lower is not None
    # this one: another strip
    window.session.apply(edited(window.session.project, ("pads", "P6", "width"), 2.5), "P6 wider")
    qtbot.waitUntil(lambda: own.section is not section, timeout=SOON)
    qtbot.waitUntil(lambda: own.bracket.found().lower is not None, timeout=SOON)
    assert (own.bracket.found().lower or 0) != first.lower


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
    ended = strip_chart(STRIP, Found(540.0, 560.0, 551.0, "", 552.3), "One", "metric", 2.0)
    assert any(", curve 552.3" in t for t in ended.texts)
    assert len(ended.shapes) == len(drawn.shapes) + 1
    waiting = strip_chart(STRIP, Found(state="being computed …"), "One", "metric", 2.0)
    assert "being computed …" in waiting.texts
    assert not any("bracket" in t for t in waiting.texts)
    assert [s.text for s in strip_chart("no strength", found, "One", "metric", 2.0).shapes if isinstance(s, Text)] == [
        "no strength"
    ]


# ---------------------------------------------------------------- how it is taken, and what is shown


def bring(window: MainWindow) -> StripPanel:
    stop = window.stop
    assert isinstance(stop, BearingStop)
    QTest.mouseClick(stop.choices[4], Qt.MouseButton.LeftButton)
    return stop.strip


def choose(own: StripPanel, title: str, text: str) -> None:
    """By the menu, as a hand does."""
    menu = next(a.menu() for a in own.menu.actions() if a.text() == title)
    next(a for a in menu.actions() if a.text() == text).trigger()


def strip_of(own: StripPanel, qtbot: QtBot) -> AsStrip:
    qtbot.waitUntil(lambda: own.strip.state == "" and isinstance(own.shown, AsStrip), timeout=SOON)
    found = own.shown
    assert isinstance(found, AsStrip)
    return found


@pytest.mark.long
def test_a_base_is_taken_otherwise_by_the_menu(window: MainWindow, qtbot: QtBot) -> None:
    own = bring(window)
    usual = strip_of(own, qtbot)
    assert own.how.text() == "Taken"
    assert "V alone grows, in the middle of B′" in own.words.text()
    choose(own, "Load", "V, H and M grow together, on all of B")
    choose(own, "Base", "friction of the sliding check")
    qtbot.waitUntil(lambda: "friction of the sliding check" in own.words.text(), timeout=SOON)
    found = strip_of(own, qtbot)
    assert found.section.load is not None
    assert found.section.B > usual.section.B
    assert own.how.text() == "Taken otherwise"
    own.psi.setText("4")
    own.psi.editingFinished.emit()
    qtbot.waitUntil(lambda: "ψ 4°" in own.words.text(), timeout=SOON)
    assert strip_of(own, qtbot).section.layers[0].phi < found.section.layers[0].phi
    # on the way to collapse all of it grows, whatever is chosen for the bracket
    choose(own, "Load", "V alone grows, H and M held, on all of B")
    QTest.mouseClick(own.modes["Curve"], Qt.MouseButton.LeftButton)
    qtbot.waitUntil(
        lambda: (
            isinstance(own.shown, AsStrip)
            and own.shown.section.load is not None
            and own.shown.section.load.held == (0, 0, 0)
        ),
        timeout=SOON,
    )
    choose(own, "Load", "V alone grows, in the middle of B′")
    qtbot.waitUntil(lambda: isinstance(own.shown, AsStrip) and own.shown.section.load is None, timeout=SOON)
    assert own.way.button.isVisible()
    QTest.mouseClick(own.modes["Bracket"], Qt.MouseButton.LeftButton)
    assert not own.way.button.isVisible()


@pytest.mark.long
def test_the_combination_that_is_shown_is_the_one_that_is_looked_at(window: MainWindow, qtbot: QtBot) -> None:
    own = bring(window)
    governing = strip_of(own, qtbot)
    other = next(name for name, *_ in governing.others if name != governing.combination)
    window.session.choose_situation(other)
    qtbot.waitUntil(lambda: isinstance(own.shown, AsStrip) and own.shown.combination == other, timeout=SOON)
    assert strip_of(own, qtbot).section != governing.section
    window.session.choose_situation("")
    qtbot.waitUntil(lambda: isinstance(own.shown, AsStrip) and own.shown == governing, timeout=SOON)


def a_curve(k: float = 1.0) -> SeenCurve:
    zone = (((0.0, -1.0, 1.0, -1.0, 0.5, -0.2), 1.0),)
    points = tuple(
        Seen(10.0 + k * p, u, u, u, zone if p > 200 else ())
        for u, p in ((0.0, 0.0), (0.01, 150.0), (0.03, 300.0), (0.1, 400.0), (0.4, 402.0))
    )
    return SeenCurve(points, 412.0, 15_000.0, 0.0)


def test_the_curve_is_marked_compared_and_pasted_onto() -> None:
    curve = a_curve()
    pasted = ((0.01, 128.0), (0.03, 248.0))
    assert difference(curve, pasted) == pytest.approx(0.25)
    beside = Beside(160.0, 0.025, 0.012, (400.0, 425.0), (("P2, circle", a_curve(0.8)),), pasted)
    drawn = collapse_chart(STRIP, curve, beside, 2, 2.0, "being refined …", "metric", 2.0)
    said = " | ".join(drawn.texts)
    for text in (
        "N/A′ 160 kPa: 10.0 mm",
        "collapse 412 kPa",
        "limit 25.0 mm: 272 kPa",
        "Settlement stop, long term: 12.0 mm",
        "P2, circle",
        "pasted: the curve lies 25 % above",
        "bounds",
        "being refined …",
    ):
        assert text in said, text
    discs = [s for s in drawn.shapes if isinstance(s, Disc) and s.key.startswith("point:")]
    assert [d.key for d in discs][:3] == ["point:0", "point:1", "point:2"]
    assert discs[2].radius > discs[1].radius
    beyond = collapse_chart(STRIP, curve, Beside(500.0), -1, 2.0, "", "metric", 2.0)
    assert any("is beyond collapse" in t for t in beyond.texts)
    assert collapse_chart(STRIP, "Clay has no stiffness", Beside(0.0), -1, 2.0, "", "metric", 2.0).texts == (
        "Clay has no stiffness",
    )


def test_points_go_to_the_clipboard_and_come_from_it(window: MainWindow, qtbot: QtBot) -> None:
    own = bring(window)
    strip_of(own, qtbot)
    curve = a_curve()
    own.way.curve = lambda: curve  # type: ignore[method-assign]
    own.way.copy()
    text = QGuiApplication.clipboard().text()
    assert text.splitlines()[0].startswith("settlement (mm)\tpressure (kPa)")
    assert text.splitlines()[2].startswith("10\t160\t")
    own.way.paste()
    assert own.way.pasted == tuple((p.settlement, p.pressure) for p in curve.points)
    own.way.keep()
    assert own.way.kept == ((f"P6, rigid strip, {own.shown.combination}", curve),)
    own.way.forget_kept()
    QGuiApplication.clipboard().setText("settlement\n1 x")
    own.way.paste()
    assert "has no two numbers" in window.session.message or own.way.pasted
    own.way.forget_pasted()
    assert own.way.pasted == ()


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("1 100\n5 200", ((0.001, 100.0), (0.005, 200.0))),
        ("load (MPa)\tsettlement (m)\n0.1\t0.002\n0.2\t0.004", ((0.002, 100.0), (0.004, 200.0))),
        ("settlement (mm); load (kN)\n2,5; 80\n1; 40", ((0.001, 20.0), (0.0025, 40.0))),
    ],
)
def test_pairs_are_read(text: str, found: tuple[tuple[float, float], ...]) -> None:
    assert np.array(pairs_of(text, 2.0)) == pytest.approx(np.array(found))


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "two lines"),
        ("1 2", "two lines"),
        ("1 2\n3 x\n4 5", "line 2"),
        ("settlement (mm)\tload (kN)\n1\t2\n2\t3", "need the area"),
    ],
)
def test_what_is_no_curve_is_said(text: str, says: str) -> None:
    with pytest.raises(ValueError, match=says):
        pairs_of(text)


@pytest.mark.long
def test_an_envelope_comes_ray_by_ray_and_a_curve_with_its_zones(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("korbent.app.strip.envelope.RAY", 100)
    own = bring(window)
    QTest.mouseClick(own.modes["V-M"], Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: own.face.known().rays == 26 and own.face.known().done >= 8, timeout=SOON)
    known = own.face.known()
    assert len(known.lower) >= 2
    assert known.upper[0][0][0] > known.lower[0][0]
    assert {name for name, _ in known.methods} >= {"Meyerhof 1963", "EN 1997-1 Annex D"}
    QTest.mouseClick(own.modes["Bracket"], Qt.MouseButton.LeftButton)
    strip_of(own, qtbot)
    # the strip is the very same: only the curve is asked for
    QTest.mouseClick(own.modes["Curve"], Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: isinstance(own.way.curve(), SeenCurve), timeout=SOON)
    curve = own.way.curve()
    assert isinstance(curve, SeenCurve)
    own.view.clicked.emit(f"point:{len(curve.points) - 2}")
    below = own.below()
    assert below is not None
    assert below.areas
    choose(own, "Section shows", "how it moves")
    moved = own.below()
    assert moved is not None
    assert moved.arrows
    # straight down below the middle of the strip
    middle = min(moved.arrows, key=lambda a: abs(a[0]) + abs(a[1]))
    assert middle[3] < middle[1]
    stop = window.stop
    assert isinstance(stop, BearingStop)
    assert "at the chosen point" in stop.section_pane.detail.text()
    assert all(not a.belongs for a in own.faces[2].asked() if a.state)


@pytest.mark.long
def test_what_is_known_stays_while_another_face_is_seen(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("korbent.app.strip.envelope.RAY", 100)
    own = bring(window)
    qtbot.waitUntil(
        lambda: own.bracket.found().lower is not None and own.bracket.found().upper is not None, timeout=SOON
    )
    own.stop()
    known = own.bracket.found()
    QTest.mouseClick(own.modes["V-M"], Qt.MouseButton.LeftButton)
    envelope = own.faces[2]
    qtbot.waitUntil(lambda: envelope.known().done >= 6, timeout=SOON)
    QTest.mouseClick(own.modes["Bracket"], Qt.MouseButton.LeftButton)
    strip_of(own, qtbot)
    qtbot.waitUntil(lambda: own.bracket.found().lower is not None, timeout=1000)
    assert own.bracket.found().lower == known.lower
    QTest.mouseClick(own.modes["V-M"], Qt.MouseButton.LeftButton)
    strip_of(own, qtbot)
    qtbot.waitUntil(lambda: envelope.known().done >= 6, timeout=1000)
