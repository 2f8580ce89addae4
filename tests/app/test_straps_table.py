"""Straps in the plan: made from the base at the boundary, drawn, changed in their table, followed by renaming and
joining."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.specs import RANGES, STRAPS
from korbent.app.tables import TableModel
from korbent.core.checks import State
from korbent.core.evaluate import evaluate
from korbent.core.model import Bars, Project
from korbent.core.sizing.first_size import combined, raft_under
from korbent.core.straps.tying import strap_for
from korbent.drawing.primitives import Polygon
from korbent.drawing.theme import LIGHT
from tests.app.test_window import opened
from tests.core.test_straps import pair


def typed(table: TableModel, title: str, text: str) -> str:
    column = next(i for i, c in enumerate(table.columns) if c.title == title)
    table.setData(table.index(0, column), text)
    table.refresh()
    return table.wrong.get((0, column), ("", ""))[1]


@pytest.mark.long
def test_a_base_at_the_boundary_is_tied_by_one_click(qtbot: QtBot, demo: Project) -> None:
    window = opened(qtbot, demo)
    session = window.session
    session.select("P8")
    before = session.results.pad("P8").worst.ratio
    window.go_to(2)
    plan = window.stop
    qtbot.mouseClick(window.findChild(QPushButton, "deck-straps"), Qt.MouseButton.LeftButton)
    panel = next(p for p in plan.deck.panels if p.spec.name == "straps")  # type: ignore[attr-defined]
    add = window.findChild(QPushButton, "add-straps")
    qtbot.mouseClick(add, Qt.MouseButton.LeftButton)
    (strap,) = session.project.straps
    assert strap.edge == "P8"
    pads = {p.name: p for p in session.project.pads}
    assert strap.inner in pads
    assert session.results.pad("P8").worst.ratio < before  # type: ignore[operator]
    assert panel.model.text(0, 0) == "S1"
    own = [c for c in session.results.pad("P8").checks if c.check.id.startswith("strap")]
    assert {c.state for c in own} == {State.HOLDS}
    shapes = plan._plan(1.0).shapes  # type: ignore[attr-defined]
    beam = [s for s in shapes if isinstance(s, Polygon) and s.key == "pad:P8" and s.fill == "concrete"]
    assert len(beam) == 1
    # a second press says why not
    qtbot.mouseClick(add, Qt.MouseButton.LeftButton)
    assert len(session.project.straps) == 1
    session.undo()
    assert session.project.straps == ()


@pytest.mark.long
def test_the_table_changes_the_beam(qtbot: QtBot) -> None:
    session = opened(qtbot, pair()).session
    table = TableModel(session, STRAPS, LIGHT)
    top = session.results.pad("P").check("strap-top").ratio
    assert typed(table, "Top", "8 no 25") == ""
    assert session.results.pad("P").check("strap-top").ratio < top  # type: ignore[operator]
    assert typed(table, "Legs", "4") == ""
    assert session.project.straps[0].legs == 4
    assert "integer" in typed(table, "Legs", "2.5")
    assert "spacing" in typed(table, "Links", "6 no 10")
    assert typed(table, "Links", "") == ""
    assert session.project.straps[0].links is None
    assert "not one of" in typed(table, "Inner base", "nobody")
    assert session.project.straps[0].legs == 4


@pytest.mark.long
def test_what_is_too_weak_grows_by_one_click_and_the_others_stay(qtbot: QtBot) -> None:
    window = opened(qtbot, pair())
    session = window.session
    session.edit(("straps", "S1", "top"), Bars(diameter=0.012, number=2))
    session.edit(("straps", "S1", "links"), Bars(diameter=0.006, spacing=0.3))
    bottom = session.project.straps[0].bottom
    window.go_to(2)
    qtbot.mouseClick(window.findChild(QPushButton, "deck-straps"), Qt.MouseButton.LeftButton)
    button = window.findChild(QPushButton, "grow-straps")
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert session.message.startswith("S1: top")
    assert "links" in session.message
    assert session.project.straps[0].bottom == bottom
    grown = session.project
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert session.project is grown
    assert session.message == "all straps hold as they are"
    session.undo()
    assert session.project.straps[0].top == Bars(diameter=0.012, number=2)
    session.edit(("standards", "concrete"), "none")
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert session.message.startswith("! S1: no concrete standard")


@pytest.mark.long
def test_a_renamed_base_stays_tied(qtbot: QtBot) -> None:
    session = opened(qtbot, pair()).session
    ratio = session.results.pad("P").check("strap-top").ratio
    session.edit(("pads", "Q", "name"), "inner one")
    session.edit(("pads", "P", "name"), "edge one")
    assert (session.project.straps[0].edge, session.project.straps[0].inner) == ("edge one", "inner one")
    assert session.results.pad("edge one").check("strap-top").ratio == ratio


def test_bases_that_are_joined_lose_their_strap() -> None:
    assert combined(pair(), ("C", "D"))[0].straps == ()
    assert raft_under(pair(), ("C", "D"))[0].straps == ()


def test_the_strap_goes_to_the_side_on_which_the_base_reaches_further() -> None:
    project = pair(tied=False)
    assert strap_for(project, project.pads[0]).inner == "Q"
    point = project.actions.load_points[1].replaced(name="F", x=-2.5)
    nearer = project.replaced(
        actions=project.actions.replaced(load_points=(*project.actions.load_points, point)),
        pads=(*project.pads, project.pads[1].replaced(name="Z", load_point="F")),
    )
    assert strap_for(nearer, nearer.pads[0]).inner == "Q"  # Z is nearer, but beyond the boundary
    middle = nearer.pads[0].replaced(offset_x=0.0)
    assert strap_for(nearer.replaced(pads=(middle, *nearer.pads[1:])), middle).inner == "Z"


@pytest.mark.long
def test_the_beam_stands_in_the_size_panel_with_what_a_step_would_do(qtbot: QtBot) -> None:
    window = opened(qtbot, pair())
    session = window.session
    session.select("P")
    steppers = window.sizes.steppers
    assert steppers["strap_depth"].isVisible()
    assert steppers["strap_depth"].field.text().startswith("0.90")
    found = {(e.dimension, e.change > 0): e for e in session.effects()}
    less = evaluate(session.project.replaced(straps=(session.project.straps[0].replaced(depth=0.85),))).pad("P").worst
    assert found["strap_depth", False].ratio == pytest.approx(less.ratio)
    steppers["strap_depth"].more.click()
    assert session.project.straps[0].depth == pytest.approx(0.95)
    steppers["strap_width"].field.setFocus()
    steppers["strap_width"].field.setText("0.6 m")
    qtbot.keyClick(steppers["strap_width"].field, Qt.Key.Key_Return)
    assert session.project.straps[0].width == pytest.approx(0.6)
    steppers["strap_width"].field.setText("-1")
    qtbot.keyClick(steppers["strap_width"].field, Qt.Key.Key_Return)
    assert session.project.straps[0].width == pytest.approx(0.6)
    session.undo()
    session.undo()
    assert session.project.straps[0].depth == pytest.approx(0.9)
    # the inner base does not own the beam
    session.select("Q")
    assert not steppers["strap_depth"].isVisible()


@pytest.mark.long
def test_ranges_and_types_of_straps_are_typed_in_their_tables(qtbot: QtBot) -> None:
    """The ranges of the beam stand with those of the base at the boundary; what grows keeps to them."""
    session = opened(qtbot, pair()).session
    session.select("P")
    table = TableModel(session, RANGES, LIGHT)
    rows = {table.text(i, 0): i for i in range(table.rowCount())}
    titles = [c.title for c in table.columns]
    assert {"Strap width", "Strap depth"} <= set(rows)
    strap = session.project.straps[0]
    assert table.text(rows["Strap width"], titles.index("Proposals look at")) == "as it is"
    table.setData(table.index(rows["Strap depth"], titles.index("At most")), "1.4")
    table.refresh()
    assert session.project.straps[0].ranges["depth"].high == 1.4
    assert table.text(rows["Strap depth"], titles.index("Proposals look at")).endswith("1.40")
    table.setData(table.index(rows["Strap depth"], titles.index("Now")), "0.75")
    assert session.project.straps[0].depth == 0.75 != strap.depth
    own = TableModel(session, STRAPS, LIGHT)
    assert typed(own, "Type", "A") == ""
    assert session.project.straps[0].type == "A"
    session.select(strap.inner)
    inner = TableModel(session, RANGES, LIGHT)
    assert "Strap depth" not in {inner.text(i, 0) for i in range(inner.rowCount())}
