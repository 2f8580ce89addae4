"""Values over the section below a strip: at any place, in lines of equal value, and under the mouse."""

from functools import cache

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from korbent.app.session import Session
from korbent.app.window import MainWindow
from korbent.core.bearing.as_strip import AsStrip
from korbent.core.plasticity.bounds import lower, mesh_of
from korbent.core.plasticity.mesh import Mesh, first_mesh
from korbent.core.plasticity.path import Curve, curve, first_mesh_of
from korbent.core.plasticity.section import Layer, Section, uniform
from korbent.core.plasticity.way import Base, Stiffness
from korbent.demo import lindmere
from korbent.drawing.ground_field import WORDS, GroundField, fields_of, lines_of_equal
from korbent.drawing.primitives import Line, Sketch, Text
from korbent.drawing.yielding import shown, shown_of_curve

SOON = 20_000
GROUND = uniform(2.0, 10.0, 30.0, 18.0, 20.0)


def state(mesh: Mesh, sx: np.ndarray, sy: np.ndarray, t: np.ndarray) -> np.ndarray:
    """p, d, t at the corners from stresses at the points."""
    at = mesh.triangles
    return np.stack([(sx[at] + sy[at]) / 2, (sx[at] - sy[at]) / 2, t[at]], axis=-1)


def linear() -> tuple[Mesh, tuple[GroundField, ...]]:
    mesh = first_mesh(1.0, 9.0, [0.0, -7.0])
    x, y = mesh.points.T
    found = fields_of(
        mesh, GROUND, [state(mesh, -5.0 + 0 * x, -20.0 + 18.0 * y, 3.0 * x)], [np.stack([0 * x, -0.001 * x], axis=1)]
    )
    return mesh, found[0]


def test_what_is_linear_is_exact_everywhere() -> None:
    _, fields = linear()
    vertical, shear, used, settled = fields
    assert [f.name for f in fields] == list(WORDS)
    for x, y in ((0.3, -1.0), (-2.2, -3.3), (7.9, -0.01)):
        assert vertical.at(x, y) == pytest.approx(20.0 - 18.0 * y, rel=1e-4)
        assert shear.at(x, y) == pytest.approx(
            3.0 * x, abs=1e-3
        )  # of half a section the other side is its image: shear turns over
        assert settled.at(x, y) == pytest.approx(abs(x), abs=2e-3)
    assert vertical.at(0.0, 0.1) is None
    assert vertical.at(8.1, -1.0) is None
    assert 0 <= float(used.values.min()) <= float(used.values.max()) <= 100.0
    # the circle of Mohr at a corner, by hand
    f = np.deg2rad(30.0)
    p, d, t = -(20.0 + 5.0) / 2, (20.0 - 5.0) / 2, 0.0
    assert used.at(0.0, 0.0) == pytest.approx(100 * np.hypot(d, t) / (10.0 * np.cos(f) - p * np.sin(f)), rel=0.03)
    assert vertical.moved(0.5).at(0.8, -1.0) == pytest.approx(vertical.at(0.3, -1.0))


def test_what_is_at_a_place_is_said_in_units() -> None:
    _, (vertical, _, used, settled) = linear()
    assert vertical.said(0.3, -1.0, "metric") == "vertical stress 38.0 kPa"
    assert vertical.said(0.3, -1.0, "us") == "vertical stress 0.794 ksf"
    assert settled.said(2.0, -1.0, "metric") == "settlement 2.00 mm"
    assert used.said(0.0, -0.1, "metric").endswith(" %")
    assert vertical.said(0.0, 3.0, "metric") == ""


def test_lines_of_equal_value_lie_where_it_is() -> None:
    _, (vertical, *_) = linear()
    sketch = Sketch()
    lines_of_equal(sketch, vertical, 2.05, 4.0, -2.0, "metric")
    lines = [s for s in sketch.shapes if isinstance(s, Line)]
    numbers = [s for s in sketch.shapes if isinstance(s, Text)]
    assert len(lines) > 2
    for line in lines:
        level = {round(vertical.at(x, z - 2.05) or 0.0, 2) for x, z in line.points}
        assert len(level) == 1
    for number in numbers:
        assert vertical.at(number.at[0], number.at[1] - 2.05) == pytest.approx(float(number.text), rel=1e-3)


@cache
def clay() -> tuple[Base, Curve]:
    base = Base(Section(2.0, (Layer(0.0, 1e6, 20.0, 0.0, 0.0),), 5.0), (Stiffness(5000.0, 0.3, 1.0),))
    return base, curve(base, 0, mesh=first_mesh_of(base, 0.08), advances=(0.5, 8.0))


@pytest.mark.long
def test_fields_of_a_curve_and_of_a_bound() -> None:
    base, found = clay()
    seen = shown_of_curve(found, [()] * len(found.points), base.section)
    rest, last = seen[0], seen[-1]
    assert [f.name for f in rest.fields] == list(WORDS)
    # at rest the surcharge everywhere; in the end the limit load below the base, and all of the strength
    assert rest.showing("vertical").fields[0].at(0.4, -0.5) == pytest.approx(5.0, rel=1e-3)
    assert last.showing("vertical").fields[0].at(0.0, -0.2) == pytest.approx(found.points[-1].pressure, rel=0.25)
    assert last.showing("used").fields[0].at(0.9, -0.2) > 95.0
    settled = last.showing("settlement").fields[0]
    assert settled.at(0.0, -0.01) == pytest.approx(1000 * found.points[-1].settlement, rel=0.05)
    assert settled.at(-0.5, -0.01) == pytest.approx(settled.at(0.5, -0.01), rel=1e-4)
    low = shown(lower(GROUND, mesh_of(GROUND)), GROUND)
    assert {f.name for f in low.fields} == {"vertical", "shear", "used"}
    assert low.showing("settlement").fields == ()


@pytest.mark.long
def test_the_value_under_the_mouse_is_said(qtbot: QtBot) -> None:
    window = MainWindow(Session(lindmere()))
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    window.resize(1280, 800)
    window.show()
    window.session.select("P6")
    window.go_to(3)
    QTest.mouseClick(window.stop.choices[4], Qt.MouseButton.LeftButton)
    own = window.stop.strip
    qtbot.waitUntil(lambda: isinstance(own.shown, AsStrip), timeout=SOON)
    action = next(a for g in own.groups for a in g.actions() if a.text() == "vertical stress")
    action.trigger()
    base, found = clay()
    last = shown_of_curve(found, [()] * len(found.points), base.section)[-1]
    own.below = lambda: last.showing(own.shows)
    window.stop.refresh()
    assert "vertical stress without water, lower bound" in window.stop.section_pane.detail.text()
    view = window.stop.section
    pad = window.session.pad
    assert pad is not None
    x, y = view.placement()((0.0, pad.underside - 0.4))
    qtbot.mouseMove(view, QPointF(x, y).toPoint() + QPoint(1, 0))
    qtbot.mouseMove(view, QPointF(x, y).toPoint())
    text = window.stop.section_pane.detail.text()
    assert text.startswith("vertical stress ")
    assert " kPa · combination" in text
    view.at.emit(0.0, pad.underside + 1.0)
    assert not window.stop.section_pane.detail.text().startswith("vertical stress ")
