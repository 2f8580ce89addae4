"""Painting, colours and texts of the window."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage, QPainter
from PySide6.QtWidgets import QApplication

from korbent.app.canvas import DrawingView
from korbent.app.ledger import BY_GROUP, Fold, LedgerModel, quantities
from korbent.app.main import application
from korbent.app.qt_page import QtPage
from korbent.app.session import Session
from korbent.app.style import colour, font, sheet
from korbent.app.window import MainWindow
from korbent.core.checks import CHECKS, CheckResult, State
from korbent.core.evaluate import evaluate
from korbent.core.model import Project
from korbent.core.quick.starts import OneBase
from korbent.core.units import show_ratio
from korbent.demo import redstem
from korbent.drawing.painting import paint
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Text, placed, rectangle
from korbent.drawing.theme import DARK, LIGHT, Theme


@pytest.fixture
def app() -> QApplication:
    return application()


def painted(*shapes: object, theme: Theme = LIGHT) -> QImage:
    image = QImage(100, 100, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.white)
    painter = QPainter(image)
    drawing = Drawing(tuple(shapes), (0, 0, 10, 10))  # type: ignore[arg-type]
    paint(QtPage(painter, theme), drawing.shapes, placed(drawing, 100, 100, (0, 0, 0, 0)))
    painter.end()
    return image


def test_shapes_land_where_they_belong(app: QApplication) -> None:
    image = painted(Polygon(rectangle(2, 2, 4, 4), "#ff0000"))
    assert image.pixelColor(30, 70).name() == "#ff0000"
    assert image.pixelColor(70, 30).name() == "#ffffff"
    image = painted(Line(((0, 5), (10, 5)), "#00ff00", 4))
    assert image.pixelColor(50, 50).name() == "#00ff00"
    image = painted(Disc((5, 5), 2, "#0000ff", None))
    assert image.pixelColor(50, 50).name() == "#0000ff"
    assert image.pixelColor(50, 80).name() == "#ffffff"


def test_a_hatch_marks_what_fails(app: QApplication) -> None:
    plain, hatched = (painted(Polygon(rectangle(1, 1, 9, 9), "beyond", hatch=h)) for h in (False, True))
    assert plain != hatched


@pytest.mark.parametrize("theme", [LIGHT, DARK], ids=lambda t: t.name)
def test_texts_arrows_patterns_paint(app: QApplication, theme: Theme) -> None:
    blank = painted(theme=theme)
    for shape in (
        Text((5, 5), "P7", bold=True, halo=True),
        Line(((1, 1), (9, 9)), arrow=True),
        Polygon(rectangle(1, 1, 9, 9), "sand", None, pattern="sand"),
        Polygon(rectangle(1, 1, 9, 9), None, "ink", dash=True),
        Polygon(rectangle(1, 1, 9, 9), "field:0.5"),
        Polygon(rectangle(1, 1, 9, 9), "ratio:0.9"),
    ):
        assert painted(shape, theme=theme) != blank, shape


def test_a_view_makes_its_drawing_once(app: QApplication) -> None:
    calls = []
    view = DrawingView(lambda aspect: calls.append(aspect) or Drawing((), (0, 0, 1, 1)), "v")  # type: ignore[func-returns-value]
    view.resize(200, 100)
    view.show()
    app.processEvents()
    assert set(calls) == {2.0}
    count = len(calls)
    view.repaint()
    assert len(calls) == count
    view.refresh()
    view.repaint()
    assert len(calls) == count + 1
    view.close()


def test_scales(app: QApplication) -> None:
    assert colour("ratio:1.2").name() == LIGHT.beyond
    assert colour("ratio:None").name() == LIGHT.line
    assert colour("ink", opacity=0.5).alphaF() == pytest.approx(0.5, abs=0.01)
    lightness = [colour(f"field:{s / 10}").lightness() for s in range(11)]
    assert lightness == sorted(lightness, reverse=True)
    assert LIGHT.resolved("field:2.0") == LIGHT.resolved("field:1.0")
    assert font(13, bold=True).weight() > font(13).weight()
    assert LIGHT.accent in sheet(LIGHT)
    assert DARK.paper in sheet(DARK)


@pytest.mark.parametrize(
    ("value", "text"), [(0.634, "0.63"), (9.99, "9.99"), (12.3, "12"), (153.4, "153"), (5e4, "> 999")]
)
def test_ratios(value: float, text: str) -> None:
    assert show_ratio(value) == text


def test_quantities_show_demand_capacity_or_factor() -> None:
    check = CHECKS["presumed-pressure"]
    plain = CheckResult("P", check, State.HOLDS, ratio=0.5, demand=100.0, capacity=200.0)
    assert quantities(plain, "metric") == "100 / 200 kPa"
    assert quantities(plain, "us") == "2.09 / 4.18 ksf"
    factor = CheckResult(
        "P", CHECKS["sliding-drained"], State.HOLDS, ratio=0.75, demand=1, capacity=2, required_factor=1.5
    )
    assert quantities(factor, "metric") == "FS 2.00, ≥ 1.50"
    nothing = CheckResult("P", CHECKS["overturning"], State.HOLDS, ratio=0.0, demand=0, capacity=2, required_factor=1.5)
    assert "large" in quantities(nothing, "metric")
    assert quantities(CheckResult("P", check, State.CANNOT), "metric") == "cannot be done"


def test_the_ledger_is_flat_and_by_group(demo: Project) -> None:
    model = LedgerModel()
    checks = evaluate(demo).pad("P7").checks
    model.show(checks, order=BY_GROUP)
    groups = [r for r in model.rows if isinstance(r, str)]
    assert groups == ["bearing", "stability", "settlement", "concrete"]
    live = [r for r in model.rows if isinstance(r, CheckResult)]
    (fold,) = [r for r in model.rows if isinstance(r, Fold)]
    # what does not apply stands in one line at the end, until that is opened
    assert model.rows[-1] is fold
    assert {c.state for c in fold.checks} == {State.NOT_APPLICABLE}
    assert len(live) + len(fold.checks) == len(checks)
    assert all(c.state is not State.NOT_APPLICABLE for c in live)
    model.opened.add(fold.key)
    model.show(checks, order=BY_GROUP)
    assert model.rowCount() == len(checks) + 4 + 1
    first = model.index(0)
    assert model.flags(first) == Qt.ItemFlag.NoItemFlags
    tip = model.data(model.index(2), Qt.ItemDataRole.ToolTipRole)
    assert isinstance(tip, str)
    assert "Resistance, drained: holds" in tip


def test_one_reason_that_prevents_several_is_said_once() -> None:
    project = OneBase().project()
    model = LedgerModel()
    checks = evaluate(project).pad("P1").checks
    model.show(checks, order=BY_GROUP)
    folds = [r for r in model.rows if isinstance(r, Fold) and r.key]
    stuck = [c for c in checks if c.state is State.CANNOT]
    assert len(folds) < len(stuck)
    (most,) = [
        f for f in folds if f.key.startswith("there is no borehole: describe the ground first") and len(f.checks) > 3
    ]
    assert most.title == f"▸ {len(most.checks)} checks cannot be done"
    shown = [r for r in model.rows if isinstance(r, CheckResult)]
    assert sum(len(f.checks) for f in folds) + sum(c.state is State.CANNOT for c in shown) == len(stuck)


def test_the_dark_window_paints_too(app: QApplication, demo: Project) -> None:
    window = MainWindow(Session(demo), DARK)
    window.resize(1280, 800)
    image = window.grab().toImage()
    points = [image.pixelColor(x, y).lightness() for x in range(20, 1280, 60) for y in range(20, 800, 60)]
    assert sum(lightness < 100 for lightness in points) > 0.7 * len(points)
    window.session.saved = window.session.project
    window.close()


def test_what_cannot_be_done_fills_no_bar_of_the_rail(app: QApplication) -> None:
    window = MainWindow(Session(redstem()), LIGHT)
    window.resize(1280, 800)
    window.show()
    button = window.rail.buttons[4]
    worst = button.post.worst(window.session)
    assert worst is not None
    assert worst.state is State.CANNOT
    image = button.grab().toImage()
    scale = image.devicePixelRatio()
    red = colour("beyond", LIGHT)
    seen = [image.pixelColor(int(x * scale), int(54 * scale)) for x in range(40, 138)]
    assert red not in seen
    failing = window.rail.buttons[3].grab().toImage()
    assert red in [failing.pixelColor(int(x * scale), int(54 * scale)) for x in range(40, 138)]
    window.session.saved = window.session.project
    window.close()
