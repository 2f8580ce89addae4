"""The combination that is shown everywhere: chosen by a row, by keys, by the search field; the governing one by
default."""

import numpy as np
import pytest
from PySide6.QtCore import Qt, QUrl
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from korbent.app.session import Session
from korbent.app.window import MainWindow
from korbent.core.explain.state import base_state
from korbent.core.explain.working import Working, situations_of, working
from korbent.core.model import Project
from korbent.demo import lindmere
from tests.app.test_window import opened


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = MainWindow(Session(demo))
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.show()
    made.session.select("P8")
    made.session.select_check("resistance-drained")
    return made


@pytest.mark.long
def test_a_row_of_all_combinations_is_shown_everywhere(window: MainWindow, qtbot: QtBot) -> None:
    session, panel = window.session, window.ledger.working
    window.ledger.open_working()
    governing = panel.found
    assert isinstance(governing, Working)
    panel.all.setChecked(True)
    rows = situations_of(session.project, session.pad, "resistance-drained")
    other = rows[-1].combination
    assert other != governing.result.combination
    panel.text.anchorClicked.emit(QUrl(f"situation:{other}"))
    assert session.situation == other
    assert f"▸ {other}:" in panel.text.toPlainText()
    # the working, the forces and the pressure are those of that combination, and their ratio that of the row
    panel.all.setChecked(False)
    assert f"combination {other}, chosen" in panel.text.toPlainText()
    assert isinstance(panel.found, Working)
    assert panel.found.result.ratio == pytest.approx(rows[-1].ratio, rel=1e-9)
    state = session.shown_state()
    assert state is not None
    assert state.label == other
    expected = base_state(session.project, session.pad, "ultimate", session.labels().index(other))
    assert (state.N, state.e_x, state.water) == (expected.N, expected.e_x, expected.water)
    # what is edited meanwhile keeps it
    session.change_by("width", 0.1)
    assert session.shown_state().label == other
    shown = window.ledger.shown
    assert shown.isVisibleTo(window.ledger) or window.ledger.stack.currentIndex() == 1
    panel.go_back()
    qtbot.mouseClick(shown, Qt.MouseButton.LeftButton)
    assert session.situation == ""
    assert not shown.isVisible()
    assert session.shown_state().label == session.result.check("resistance-drained").combination


def test_keys_go_through_the_combinations_and_back(window: MainWindow) -> None:
    session = window.session
    labels = session.labels()
    assert len(labels) > 5
    QTest.keyClick(window, Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier)
    assert session.situation == labels[0]
    QTest.keyClick(window, Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier)
    assert session.situation == labels[1]
    QTest.keyClick(window, Qt.Key.Key_Left, Qt.KeyboardModifier.AltModifier)
    QTest.keyClick(window, Qt.Key.Key_Left, Qt.KeyboardModifier.AltModifier)
    assert session.situation == ""
    QTest.keyClick(window, Qt.Key.Key_Left, Qt.KeyboardModifier.AltModifier)
    assert session.situation == labels[-1]
    QTest.keyClick(window, Qt.Key.Key_Home, Qt.KeyboardModifier.AltModifier)
    assert session.situation == ""


def test_the_search_field_knows_them(window: MainWindow) -> None:
    entry = next(e for e in window.places() if e.text == f"Combination {window.session.labels()[2]}")
    entry.go()
    assert window.session.situation == window.session.labels()[2]


def test_a_check_without_that_combination_shows_its_own(window: MainWindow) -> None:
    session = window.session
    session.choose_situation(session.labels()[0])
    session.select_check("settlement")
    own = session.result.check("settlement")
    found = working(session.project, session.pad, "settlement", session.situation)
    assert isinstance(found, Working)
    assert found.result.combination == own.combination
    assert session.shown_state().label == own.combination


def test_in_every_situation_the_working_ends_at_the_ratio_of_its_row(demo: Project) -> None:
    pad = demo.pad("P7")
    for check in ("resistance-drained", "punching", "shear-x", "bottom-y", "sliding-drained", "overturning"):
        rows = situations_of(demo, pad, check)
        for label in {row.combination for row in rows}:
            most = max((r.ratio for r in rows if r.combination == label and r.ratio is not None), default=None)
            found = working(demo, pad, check, label)
            if most is None or not isinstance(found, Working):
                continue
            assert found.result.ratio == pytest.approx(most, rel=1e-9), (check, label)
            value = found.recording.steps[found.step].value
            flat = np.broadcast_to(value, np.broadcast_shapes(np.shape(value), (1, 1)))
            assert float(flat[0, found.situation % flat.shape[-1]]) == pytest.approx(most, rel=1e-9), (
                check,
                label,
            )


@pytest.mark.long
def test_the_search_knows_all_kinds_their_tables_and_each_command_once(qtbot: QtBot) -> None:
    window = opened(qtbot, lindmere())
    found = {(e.text, e.detail) for e in window.places()}
    assert {
        ("R1", "raft under B2"),
        ("P15", "strip under W1"),
        ("Rafts", "table"),
        ("Straps", "table"),
    } <= found
    # every column of a raft is carried by it
    assert {text for text, detail in found if detail.endswith(" on R1")} == {"B2", "C2", "B3", "C3"}
    titles = [e.text for e in window.places() if e.text == "Earlier versions"]
    assert len(titles) == 1
    next(e for e in window.places() if e.text == "Straps").go()
    assert window.stop.title == "Plan"
