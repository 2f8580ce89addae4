"""Bars as objects and the choice of bars: lengths by geometry, counts, weights; every cell of the table is what the pad
would be."""

import math
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.session import Session
from korbent.app.stops.concrete import ConcreteStop
from korbent.app.window import MainWindow
from korbent.core.concrete.choose import DIRECTIONS, OF_BARS, WORDS, bar_table, region_of, taken, with_bars
from korbent.core.concrete.schedule import (
    HEADER,
    centre_line,
    mandrel_of,
    positions,
    schedule,
    schedule_rows,
    weight_of,
)
from korbent.core.evaluate import evaluate_pad
from korbent.core.model import Bars, Project, Reinforcement, edited
from korbent.demo import coombe, redstem
from korbent.files.sheet import read_sheet
from korbent.verification.pad import one_pad


@given(a=st.floats(0.2, 0.6), b=st.floats(0.8, 4.0), d=st.sampled_from([0.010, 0.016, 0.025]))
def test_the_length_of_a_bent_bar_is_that_of_its_centre_line(a: float, b: float, d: float) -> None:
    """The centre line walked in small steps: legs, two quarter circles, the straight part between them."""
    D = mandrel_of(d)
    R, corner = (D + d) / 2, (D + d) / 2 + d / 2
    points = [(d / 2, a), (d / 2, corner)]
    for k in range(401):
        t = math.pi + math.pi / 2 * k / 400
        points.append((corner + R * math.cos(t), corner + R * math.sin(t)))
    for k in range(401):
        t = 1.5 * math.pi + math.pi / 2 * k / 400
        points.append((b - corner + R * math.cos(t), corner + R * math.sin(t)))
    points.append((b - d / 2, a))
    walked = sum(math.dist(p, q) for p, q in pairwise(points))
    assert centre_line(("21", d, a, b, a), D) == pytest.approx(walked, rel=1e-5)


@given(size=st.floats(0.8, 5.0), spacing=st.floats(0.08, 0.3), cover=st.floats(0.03, 0.08))
def test_bars_lie_no_farther_apart_than_asked(size: float, spacing: float, cover: float) -> None:
    bars = Bars(diameter=0.016, spacing=spacing)
    at = positions(size, cover, bars)
    gaps = [q - p for p, q in pairwise(at)]
    assert max(gaps) <= spacing + 1e-9
    assert at[0] == pytest.approx(-size / 2 + cover + 0.008)
    assert sum(at) == pytest.approx(0.0, abs=1e-9)


def test_a_schedule_by_hand() -> None:
    """2.0 x 2.4 x 0.5 m, cover 50 mm, 16 at 200 both ways, x outside: legs 400 and 384 to the centimetre."""
    project = one_pad()
    bars = schedule(project)
    by_face = {w[1]: bar for bar in bars for w in bar.where}
    x, y = by_face["bottom x"], by_face["bottom y"]
    assert (x.shape, x.a, x.b, x.count) == ("21", 0.4, 1.9, 13)
    assert (y.shape, y.a, y.b, y.count) == ("21", 0.38, 2.3, 11)
    length = centre_line(("21", 0.016, 0.4, 1.9, 0.4), 0.064)
    assert x.length == pytest.approx(length)
    assert x.weight == pytest.approx(13 * length * math.pi * 0.016**2 / 4 * 7850)
    straight = schedule(edited(project, ("settings", "bar_ends"), "straight"))
    assert {b.shape for b in straight} == {"00"}
    assert {b.length for b in straight} == {1.9, 2.3}
    assert weight_of(project, project.pads[0]) == pytest.approx(x.weight + y.weight)


def test_alike_bars_share_a_mark(demo: Project) -> None:
    bars = schedule(demo)
    assert len({b.mark for b in bars}) == len(bars)
    shared = next(b for b in bars if len(b.where) >= 2)
    assert shared.count == sum(n for _, _, n in shared.where)
    rows = schedule_rows(demo)
    assert rows[-1][8] == sum(b.count for b in bars)
    assert rows[-1][9] == pytest.approx(sum(b.weight for b in bars), abs=0.06)


def test_bars_of_a_circle_are_its_chords() -> None:
    project = edited(one_pad(shape="circle", width=2.4, length=2.4), ("settings", "bar_ends"), "straight")
    lengths = sorted({b.length for b in schedule(project)})
    assert lengths[-1] == pytest.approx(2 * math.sqrt(1.2**2) - 0.1, abs=0.02)
    assert lengths[0] < 1.2
    assert all(length < 2.3 + 1e-9 for length in lengths)


@pytest.mark.parametrize("direction", DIRECTIONS)
def test_every_cell_is_what_the_pad_would_be(demo: Project, direction: str) -> None:
    pad = demo.pad("P7")
    found = bar_table(demo, pad, direction)
    for i, j in ((0, 0), (1, 3), (2, 5), (4, 6)):
        choice = found.rows[i][j]
        made = with_bars(pad, direction, choice.bars)
        checks = [
            c
            for c in evaluate_pad(demo, made).checks
            if c.check.id.split("-")[0] in OF_BARS and c.ratio is not None and c.check.id != "punching-face"
        ]
        worst = max(checks, key=lambda c: c.ratio or 0.0)
        assert choice.ratio == pytest.approx(worst.ratio, rel=1e-9)
        if choice.ratio > 1:
            assert choice.why == f"{WORDS[worst.check.id.split('-')[0]]} {choice.ratio:.2f}"
        assert choice.weight == pytest.approx(weight_of(demo, made))
    lightest = found.lightest
    assert lightest is not None
    assert all(c.weight >= lightest.weight - 0.05 for row in found.rows for c in row if c.works)
    with pytest.raises(KeyError):
        bar_table(demo, pad, "sideways")


def test_bars_of_the_region(demo: Project) -> None:
    assert [region_of(p) for p in (demo, redstem(), coombe())] == ["metric", "us", "as"]
    us = bar_table(redstem(), redstem().pads[1])
    assert us.rows[1][0].bars.diameter == pytest.approx(0.625 * 0.0254)


def test_taken_bars_reach_the_type_but_no_frozen_base(demo: Project) -> None:
    frozen = edited(demo, ("pads", "P3", "frozen"), "poured")
    bars = Bars(diameter=0.02, spacing=0.2)
    new = taken(frozen, frozen.pad("P2"), "bottom x", bars)
    assert new.pad("P2").reinforcement.bottom_x == bars
    assert new.pad("P6").reinforcement.bottom_x == bars
    assert new.pad("P3").reinforcement == demo.pad("P3").reinforcement
    assert new.pad("P2").reinforcement.bottom_y == demo.pad("P2").reinforcement.bottom_y


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = MainWindow(Session(demo))
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.session.select("P7")
    made.show()
    made.go_to(5)
    return made


@pytest.mark.long
def test_a_click_takes_bars_and_the_schedule_is_written(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    stop = window.stops[5]
    assert isinstance(stop, ConcreteStop)
    qtbot.mouseClick(window.findChild(QPushButton, "steel-bars"), Qt.MouseButton.LeftButton)
    stop.choose.grab()
    qtbot.waitUntil(lambda: stop.would_do.state == "", timeout=20_000)
    stop.choose.clicked.emit(f"bars:{3 * 7 + 2}")
    assert window.session.project.pad("P7").reinforcement == Reinforcement(
        bottom_x=Bars(diameter=0.02, spacing=0.15), bottom_y=Bars(diameter=0.02, spacing=0.15)
    )
    assert "ø20 at 150" in window.session.message
    for name in ("bars.xlsx", "bars.csv"):
        stop.write_schedule(tmp_path / name)
        sheet = read_sheet(tmp_path / name)
        assert sheet.header == HEADER
        assert len(sheet.rows) == len(schedule_rows(window.session.project))
    stop.write_schedule(tmp_path / "no" / "such" / "bars.csv")
    assert window.session.message.startswith("!")


def test_the_third_demo_shows_something_of_each() -> None:
    from korbent.core.checks import State
    from korbent.core.evaluate import evaluate

    found = evaluate(coombe())
    states = {c.state for c in found.all_checks}
    assert {State.HOLDS, State.FAILS} <= states
    near = [c for c in found.all_checks if c.ratio and 0.9 < c.ratio <= 1.0]
    assert near
    assert all(
        c.check.reference.startswith("AS 3600")
        for p in found.pads
        for c in p.checks
        if c.check.id in ("punching", "bottom-x")
    )
    assert not [c for c in found.all_checks if c.state is State.CANNOT]
    levels = sorted({round(p.underside, 2) for p in coombe().pads})
    assert len(levels) == 6
