"""The size panel: sizes, edges and pedestal; width and length that change together; the least pedestal."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from korbent.app.size_panel import SizePanel, Stepper
from korbent.app.window import MainWindow
from korbent.core.model import Pad, Project
from tests.app.test_window import opened

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    window = opened(qtbot, demo)
    window.go_to(3)
    window.session.select("P2")
    return window


def shown(sizes: SizePanel) -> list[str]:
    return [name for name, stepper in sizes.steppers.items() if stepper.isVisible()]


def enter(stepper: Stepper, text: str) -> None:
    stepper.field.setFocus()
    stepper.field.selectAll()
    QTest.keyClicks(stepper.field, text)
    QTest.keyClick(stepper.field, Qt.Key.Key_Return)


def base(window: MainWindow) -> Pad:
    assert window.session.pad is not None
    return window.session.pad


def test_the_size_is_typed_at_the_edges(window: MainWindow, qtbot: QtBot) -> None:
    sizes, before = window.sizes, base(window)
    QTest.mouseClick(sizes.pages["edges"], LEFT)
    assert shown(sizes) == ["edge_-x", "edge_+x", "edge_-y", "edge_+y", "thickness", "level"]
    left, right = sizes.steppers["edge_-x"], sizes.steppers["edge_+x"]
    assert left.field.text() == f"{before.width / 2:.2f} m"
    enter(right, "1.45")
    assert base(window).width == pytest.approx(before.width / 2 + 1.45)
    assert left.field.text() == f"{before.width / 2:.2f} m"  # the other edge stays
    qtbot.waitUntil(lambda: sizes.steppers["edge_-y"].effects[1].text() not in ("", "…"), timeout=8000)
    QTest.mouseClick(left.more, LEFT)
    assert base(window).edge("-x") == pytest.approx(before.width / 2 + 0.05)
    QTest.mouseClick(sizes.pages["sizes"], LEFT)
    assert {"width", "length", "thickness", "level", "offset_x", "offset_y"} == {*shown(sizes)}
    assert sizes.steppers["width"].field.text() == f"{base(window).width:.2f} m"


def test_a_held_edge_is_not_typed(window: MainWindow, qtbot: QtBot) -> None:
    sizes = window.sizes
    window.session.edit(("pads", "P2", "hold_x"), "+x")
    QTest.mouseClick(sizes.pages["edges"], LEFT)
    assert not sizes.steppers["edge_+x"].isEnabled()
    assert "held" in sizes.steppers["edge_+x"].toolTip()
    assert sizes.steppers["edge_-x"].isEnabled()


@pytest.mark.long
def test_width_and_length_together_and_in_proportion(window: MainWindow, qtbot: QtBot) -> None:
    sizes, session = window.sizes, window.session
    session.select("P8")
    before, history = base(window), session.position
    assert before.width != before.length
    QTest.mouseClick(sizes.link, LEFT)
    assert sizes.link.text() == "B, L together"
    QTest.mouseClick(sizes.steppers["width"].more, LEFT)
    assert base(window).width == pytest.approx(before.width + 0.1)
    assert base(window).length == pytest.approx(before.length + 0.1)
    assert session.position == history + 1  # one step of undo
    session.undo()
    QTest.mouseClick(sizes.link, LEFT)
    enter(sizes.steppers["length"], "3.0")
    assert base(window).width / 3.0 == pytest.approx(before.width / before.length)
    session.undo()
    QTest.mouseClick(sizes.link, LEFT)
    assert sizes.link.text() == "B, L apart"
    QTest.mouseClick(sizes.steppers["width"].more, LEFT)
    assert base(window).length == before.length


def test_a_wrong_size_of_both_changes_neither(window: MainWindow, qtbot: QtBot) -> None:
    QTest.mouseClick(window.sizes.link, LEFT)
    project = window.session.project
    enter(window.sizes.steppers["width"], "-1")
    assert window.session.project is project
    assert "greater than 0" in window.message.text()


@pytest.mark.long
def test_the_pedestal_is_driven_and_proposed(window: MainWindow, qtbot: QtBot) -> None:
    sizes, session = window.sizes, window.session
    session.select("P11")
    before = base(window).pedestal
    assert before is not None
    QTest.mouseClick(sizes.pages["pedestal"], LEFT)
    assert shown(sizes) == [f"pedestal_{n}" for n in ("x", "y", "top", "bars", "diameter", "ties")]
    qtbot.waitUntil(lambda: "0." in sizes.steppers["pedestal_diameter"].effects[1].text(), timeout=8000)
    QTest.mouseClick(sizes.steppers["pedestal_bars"].more, LEFT)
    QTest.mouseClick(sizes.steppers["pedestal_diameter"].more, LEFT)
    enter(sizes.steppers["pedestal_ties"], "125 mm")
    now = base(window).pedestal
    assert now is not None
    assert (now.bars, now.diameter, now.tie_spacing) == (before.bars + 2, 0.020, pytest.approx(0.125))
    enter(sizes.steppers["pedestal_diameter"], "25")
    enter(sizes.steppers["pedestal_bars"], "7.5")
    assert "whole number" in window.message.text()
    now = base(window).pedestal
    assert now is not None
    assert (now.bars, now.diameter) == (before.bars + 2, 0.025)
    QTest.mouseClick(sizes.least, LEFT)
    qtbot.waitUntil(lambda: "least pedestal that holds" in window.message.text(), timeout=30000)
    least = base(window).pedestal
    assert least is not None
    assert least.size_x < before.size_x
    assert all(c.ratio <= 1.0 for c in session.result.checks if c.check.id.startswith("pedestal") and c.ratio)  # type: ignore[union-attr]


def test_pages_are_those_of_the_base(window: MainWindow, qtbot: QtBot) -> None:
    sizes, session = window.sizes, window.session
    session.select("P11")
    QTest.mouseClick(sizes.pages["pedestal"], LEFT)
    bare = (
        next(p.name for p in session.project.pads if p.pedestal is None)
        if any(p.pedestal is None for p in session.project.pads)
        else None
    )
    if bare is None:
        session.edit(("pads", "P2", "pedestal"), None)
        bare = "P2"
    session.select(bare)
    assert sizes.page == "sizes"
    assert not sizes.pages["pedestal"].isVisible()
    assert sizes.pages["edges"].isVisible()
    assert "width" in shown(sizes)


def test_effects_of_another_base_are_not_shown(window: MainWindow, qtbot: QtBot) -> None:
    label = window.sizes.steppers["width"].effects[1]
    qtbot.waitUntil(lambda: "0." in label.text(), timeout=8000)
    window.session.select("P11")
    assert label.text() == "…"
    qtbot.waitUntil(lambda: label.text() not in ("", "…"), timeout=8000)


def test_of_a_base_under_several_columns_overhangs_and_spacing_are_read(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    project = session.project
    first, second = project.pad("P1"), project.pad("P2")
    common = first.replaced(further=(second.load_point,), width=11.0, length=3.0, offset_x=-4.2, type=None)
    session.apply(
        project.replaced(pads=(common, *(p for p in project.pads if p.name not in ("P1", "P2")))), select="P1"
    )
    QTest.mouseClick(window.sizes.pages["edges"], LEFT)
    steppers = window.sizes.steppers
    assert steppers["edge_-x"].label.text() == "Overhang −x"
    a, b = (project.load_point(p.load_point).x for p in (first, second))
    assert f"columns {b - a:.2f} m along x" in window.sizes.kind
    sides = [float(steppers[f"edge_{s}x"].field.text().removesuffix(" m")) for s in "-+"]
    assert sum(sides) + b - a == pytest.approx(11.0, abs=0.011)


def test_several_bases_have_their_sizes_alone(window: MainWindow, qtbot: QtBot) -> None:
    sizes, session = window.sizes, window.session
    QTest.mouseClick(sizes.pages["edges"], LEFT)
    session.toggle("P3")
    assert sizes.page == "sizes"
    assert not sizes.pages["edges"].isVisible()
    QTest.mouseClick(sizes.steppers["width"].more, LEFT)
    session.toggle("P3")
    assert sizes.pages["edges"].isVisible()
