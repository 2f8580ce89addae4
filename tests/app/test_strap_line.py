"""Shears and moments along a strap in Concrete: shown for both bases that it ties, with the value under the mouse."""

import re

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from korbent.core.explain.strap import along_strap
from korbent.drawing.primitives import Line
from tests.app.test_window import opened
from tests.core.test_straps import E, S, pair


def test_the_line_is_that_of_the_checks() -> None:
    project = pair()
    found = along_strap(project, project.pad("P"))
    assert found is not None
    assert along_strap(project, project.pad("Q")) is not None
    assert along_strap(pair(tied=False), project.pad("P")) is None
    # from the outer end of the base at the boundary to the face of the inner one
    assert (found.at[0], found.at[-1]) == pytest.approx((-0.8, S - E - 1.1))
    # nothing acts beyond its outer end
    assert (found.moment_least[0], found.moment_most[0]) == pytest.approx((0.0, 0.0), abs=1e-9)
    # between the bases the shear is the slope of the moment: with one situation that governs both
    clear = [i for i, s in enumerate(found.at) if s > 0.8 + 1e-6]
    slope = np.gradient(np.array(found.moment_least)[clear], np.array(found.at)[clear])
    assert slope[2:-2] == pytest.approx(np.array(found.shear_most)[clear][2:-2], rel=0.02)
    half = found.value((found.at[3] + found.at[4]) / 2)
    assert half is not None
    assert half[2] == pytest.approx((found.moment_least[3] + found.moment_least[4]) / 2)
    assert found.value(99.0) is None


@pytest.mark.long
def test_it_is_seen_and_read_off_with_the_mouse(qtbot: QtBot) -> None:
    window = opened(qtbot, pair())
    session = window.session
    window.go_to(5)
    stop = window.stop
    button = window.findChild(QPushButton, "along-strap")
    for name in ("P", "Q"):
        session.select(name)
        assert button.isVisible()
        qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
        view = stop.lines[2]  # type: ignore[attr-defined]
        keys = {s.key for s in view.drawing.shapes if isinstance(s, Line) and s.key}
        assert {"check:strap-top", "check:strap-shear"} <= keys
        dashed = [s for s in view.drawing.shapes if isinstance(s, Line) and s.dash]
        assert len(dashed) == 4  # least and greatest shear and moment, as plates
    found = along_strap(session.project, session.project.pad("P"))
    assert found is not None
    view.grab()
    place = view.placement()
    s = 2.0
    x, _ = place((10.0 * (s - found.at[0]) / (found.at[-1] - found.at[0]), 0.0))
    qtbot.mouseMove(view, QPoint(round(x), view.height() // 2 + 5))
    qtbot.mouseMove(view, QPoint(round(x), view.height() // 2))
    qtbot.waitUntil(lambda: bool(session.message), timeout=2000)
    text = session.message
    assert text.startswith("S1: P to the face of Q at ")
    match = re.search(r"at ([\d.]+) m: V (.+) to (.+) kN, M (.+) to (.+) kNm", text)
    assert match, text
    assert float(match[1]) == pytest.approx(s, abs=0.03)
    values = found.value(s)
    assert values is not None
    assert float(match[4].replace("−", "-")) == pytest.approx(values[2], rel=0.02)
    # a base that is tied to nothing has no such line
    session.edit(("straps",), ())
    assert not button.isVisible()
    assert stop.middle.currentIndex() == 0  # type: ignore[attr-defined]
