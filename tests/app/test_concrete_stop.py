"""The Concrete stop by mouse and keys: bars typed, held, like the bottom; faces and sections turned; hover links ledger
and drawings."""

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtWidgets import QCheckBox, QLineEdit, QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.asked import OUT_OF_DATE
from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.stops.concrete import ConcreteStop
from korbent.app.window import MainWindow
from korbent.core.concrete.demand import along_base, steel_along
from korbent.core.evaluate import evaluate
from korbent.core.model import Bars, Dowels, Load, Opening, Project, Reinforcement, edited
from korbent.demo import redstem
from korbent.drawing.bar_section import bar_section
from korbent.drawing.beam_line import beam_line_drawing
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon
from korbent.drawing.reinforcement import from_above

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    made = MainWindow(Session(demo))
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.resize(1280, 800)
    made.session.select("P7")
    made.show()
    made.go_to(5)
    return made


def stop_of(window: MainWindow) -> ConcreteStop:
    stop = window.stops[5]
    assert isinstance(stop, ConcreteStop)
    return stop


def typed(window: MainWindow, qtbot: QtBot, name: str, text: str) -> None:
    field = window.findChild(QLineEdit, f"bars-{name}")
    assert field is not None
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, text) if text else qtbot.keyClick(field, Qt.Key.Key_Delete)
    qtbot.keyClick(field, Qt.Key.Key_Return)


def texts(drawing: Drawing) -> str:
    return "\n".join(drawing.texts)


def button(window: MainWindow, name: str) -> QPushButton:
    found = window.findChild(QPushButton, name)
    assert found is not None
    return found


def test_typed_bars_go_to_all_of_the_type_in_one_step(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P2")
    kind = session.project.pad("P2").type
    same = [p.name for p in session.project.pads if p.type == kind]
    typed(window, qtbot, "bottom_x", "20 at 175")
    assert all(session.project.pad(n).reinforcement.bottom_x == Bars(diameter=0.02, spacing=0.175) for n in same)
    assert "20 at 175" in session.message
    session.undo()
    assert session.project.pad("P2").reinforcement.bottom_x != Bars(diameter=0.02, spacing=0.175)
    box = window.findChild(QCheckBox, "bars-alike")
    assert box is not None
    qtbot.mouseClick(box, LEFT, pos=box.rect().center().__class__(8, box.height() // 2))
    typed(window, qtbot, "bottom_x", "14 no 16")
    assert session.project.pad("P2").reinforcement.bottom_x == Bars(diameter=0.016, number=14)
    assert session.project.pad(same[-1]).reinforcement.bottom_x.number is None


def test_wrong_bars_change_nothing_and_say_what_to_type(window: MainWindow, qtbot: QtBot) -> None:
    before = window.session.project
    for name, text, expected in (
        ("bottom_x", "nonsense", "16 at 150"),
        ("bottom_y", "", "plain concrete"),
        ("dowels", "16 at 150", "8 no 16"),
        ("openings", "0.5", "0.6 0.2"),
        ("sides", "0 at 0", "bars, sides"),
    ):
        typed(window, qtbot, name, text)
        assert window.session.project is before
        assert window.session.message.startswith("! bars")
        assert expected in window.session.message
        stop_of(window).bars.fields[name].setModified(False)
        stop_of(window).bars.refresh()


def test_dowels_sides_openings_and_top(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    typed(window, qtbot, "dowels", "8 no 20")
    assert session.project.pad("P7").dowels == Dowels(number=8, diameter=0.02)
    typed(window, qtbot, "sides", "12 at 200")
    assert session.project.pad("P7").reinforcement.sides == Bars(diameter=0.012, spacing=0.2)
    typed(window, qtbot, "openings", "0.6 -0.2 ø 0.11; 70 0 ø 15 cm".replace("70 0 ø 15 cm", "0.7 0.1 ø 0.15 m"))
    assert session.project.pad("P7").openings == (
        Opening(x=0.6, y=-0.2, diameter=0.11),
        Opening(x=0.7, y=0.1, diameter=0.15),
    )
    box = window.findChild(QCheckBox, "top-like-bottom")
    assert box is not None
    box.click()
    assert session.project.pad("P7").reinforcement.top_like_bottom
    assert not stop_of(window).bars.fields["top_x"].isEnabled()
    assert stop_of(window).bars.fields["top_x"].text() == stop_of(window).bars.fields["bottom_x"].text()
    section = stop_of(window).sections[0].drawing
    assert "dowels 8 ø20" in texts(section)
    assert [s for s in section.shapes if isinstance(s, Line) and s.key == "check:dowels"]
    assert [s for s in section.shapes if isinstance(s, Disc) and s.key == "check:side-bars"]
    typed(window, qtbot, "dowels", "")
    assert session.project.pad("P7").dowels is None


def test_what_a_proposal_may_do_is_clicked_through(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    hold = stop_of(window).bars.pins["bottom_x"]
    seen = []
    for _ in range(3):
        qtbot.mouseClick(hold, LEFT)
        seen.append((hold.text(), session.project.pad("P7").reinforcement.pin_of("bottom_x")))
    assert seen == [("at least", "at_least"), ("free", "free"), ("pinned", "pinned")]
    assert not session.project.pad("P7").reinforcement.pins


def shown(stop, qtbot: QtBot) -> None:  # type: ignore[no-untyped-def]
    """The table of bars is there for what is shown."""
    stop.choose.grab()
    qtbot.waitUntil(lambda: stop.would_do.state == "", timeout=20_000)


def test_a_frozen_base_keeps_its_bars(window: MainWindow, qtbot: QtBot) -> None:
    window.session.edit(("pads", "P7", "frozen"), "poured")
    assert not stop_of(window).bars.fields["bottom_x"].isEnabled()
    assert "poured" in stop_of(window).bars.detail.text()
    before = window.session.project
    qtbot.mouseClick(button(window, "steel-bars"), LEFT)
    shown(stop_of(window), qtbot)
    stop_of(window).choose.clicked.emit("bars:3")
    assert window.session.project is before
    assert "poured" in window.session.message


def test_faces_and_sections_are_turned(window: MainWindow, qtbot: QtBot) -> None:
    stop = stop_of(window)
    bottom = stop.views[0].drawing
    assert [s for s in bottom.shapes if isinstance(s, Line) and s.key == "check:bottom-x"]
    qtbot.mouseClick(button(window, "face-top"), LEFT)
    assert not [
        s
        for s in stop.views[0].drawing.shapes
        if isinstance(s, Line) and s.key == "check:bottom-x" and s.stroke == "steel_x"
    ]
    assert "no top bars" in texts(stop.views[0].drawing)
    for i, name in enumerate(("section-x", "section-y", "along-x", "along-y")):
        qtbot.mouseClick(button(window, name), LEFT)
        assert stop.middle.currentIndex() == i
        stop.middle.currentWidget().grab()
    assert "kNm" in texts(stop.lines[0].drawing)


def test_the_mouse_over_a_bar_lights_up_its_check_and_back(window: MainWindow, qtbot: QtBot) -> None:
    stop = stop_of(window)
    above = stop.views[0]
    above.grab()
    place = above.placement()
    bar = next(
        s for s in above.drawing.shapes if isinstance(s, Line) and s.key == "check:bottom-x" and s.stroke == "steel_x"
    )
    x, y = place(bar.points[0])
    spot = next(
        QPointF(round(x) + i, round(y))
        for i in range(2, 40)
        if above.key_at(QPointF(round(x) + i, round(y))) == "check:bottom-x"
    )
    qtbot.mouseMove(above, spot.toPoint())
    assert window.session.pointed == "bottom-x"
    assert window.ledger.delegate.pointed == "bottom-x"
    thick = [
        s.width
        for s in above.drawing.shapes
        if isinstance(s, Line) and s.key == "check:bottom-x" and s.stroke == "steel_x"
    ]
    assert min(thick) > bar.width
    above._hover("")
    assert window.session.pointed == ""


def test_the_table_says_what_a_cell_is(window: MainWindow, qtbot: QtBot) -> None:
    stop = stop_of(window)
    qtbot.mouseClick(button(window, "steel-bars"), LEFT)
    shown(stop, qtbot)
    stop.choose.hovered.emit("bars:0")
    assert "kg" in window.session.message
    assert isinstance(stop.choose, DrawingView)
    assert [s for s in stop.choose.drawing.shapes if isinstance(s, Polygon) and s.key == "bars:0"]
    table = stop.table
    stop.choose.refresh()
    assert stop.choose.drawing.shapes
    assert stop.table is table  # asked once for the same project
    assert stop.would_do.state == ""
    # after a change the old table stays, marked, and takes no clicks until the new one is there
    window.session.change_by("thickness", 0.05)
    changed = window.session.project
    stop.choose.grab()
    assert stop.would_do.state == OUT_OF_DATE
    assert any(getattr(s, "text", "") == OUT_OF_DATE for s in stop.choose.drawing.shapes)
    stop.choose.clicked.emit("bars:3")
    assert window.session.project is changed
    shown(stop, qtbot)
    assert stop.table is not table
    assert stop.choose.drawing is not None
    stop.choose.clicked.emit("bars:3")
    assert window.session.project is not changed


# drawings


def test_shortfall_is_hatched_bar_by_bar(demo: Project) -> None:
    """P8 is very eccentric: its outermost bars are asked for more than there is."""
    pad = demo.pad("P8").replaced(
        reinforcement=Reinforcement(
            bottom_x=Bars(diameter=0.012, spacing=0.2), bottom_y=Bars(diameter=0.012, spacing=0.2)
        )
    )
    project = demo.replaced(pads=tuple(pad if p.name == "P8" else p for p in demo.pads))
    demands = {a: steel_along(project, pad, "bottom", a) for a in "xy"}
    found = demands["y"]
    assert found is not None
    short = [need for need in found.required if need > found.provided]
    assert 0 < len(short) < len(found.required)
    drawing = from_above(project, pad, evaluate(project).pad("P8"), "", "bottom", demands)
    hatched = [s for s in drawing.shapes if isinstance(s, Polygon) and s.hatch and s.key == "check:bottom-y"]
    assert len(hatched) == len(short)
    assert f"asks {max(found.required):.0f}" in texts(drawing)


def test_sections_show_hooks_only_where_bars_are_hooked(demo: Project) -> None:
    pad = demo.pad("P7")
    hooked = bar_section(demo, pad)
    bar = next(s for s in hooked.shapes if isinstance(s, Line) and s.key == "check:bottom-x")
    assert bar.points[0][1] > bar.points[1][1] + 0.1
    straight = edited(demo, ("settings", "bar_ends"), "straight")
    bar = next(s for s in bar_section(straight, pad).shapes if isinstance(s, Line) and s.key == "check:bottom-x")
    assert bar.points[0][1] == pytest.approx(bar.points[1][1])
    assert "hooked" in texts(hooked)
    assert "hooked" not in texts(bar_section(straight, pad))


def test_both_sections_and_lines_of_all_demos() -> None:
    project = redstem()
    for pad in project.pads:
        for axis in "xy":
            assert (
                "ties" in str([getattr(s, "key", "") for s in bar_section(project, pad, axis).shapes])
                or pad.pedestal is None
            )
            drawing = beam_line_drawing(along_base(project, pad, axis), project.showing, 2.0)
            assert "kip" in texts(drawing) or "no moments" in texts(drawing)
    assert "#" in texts(bar_section(project, project.pads[0]))


def test_the_ledger_begins_with_the_checks_of_the_stop(window: MainWindow, qtbot: QtBot) -> None:
    """In Concrete its checks are in sight, and stay there after an edit."""
    ledger = window.ledger
    rows = ledger.model.rows

    def top() -> str:
        row = rows[ledger.list.indexAt(ledger.list.viewport().rect().topLeft().__class__(20, 4)).row()]
        return row if isinstance(row, str) else row.check.group

    window.go_to(3)
    assert top() == "bearing"
    window.go_to(5)
    qtbot.waitUntil(lambda: top() == "concrete")
    at = ledger.list.verticalScrollBar().value()
    window.session.edit(("pads", "P7", "thickness"), 0.55)
    rows = ledger.model.rows
    assert ledger.list.verticalScrollBar().value() == at


def test_a_plain_base_shows_no_bars(window: MainWindow, qtbot: QtBot) -> None:
    window.session.edit(("settings", "base_concrete"), "plain")
    stop = stop_of(window)
    above = stop.views[0].drawing
    assert "plain concrete" in texts(above)
    assert not [s for s in above.shapes if isinstance(s, Line) and s.stroke == "steel_x"]
    assert "plain concrete" in texts(stop.sections[0].drawing)
    assert not stop.bars.fields["bottom_x"].isEnabled()
    assert "plain concrete" in stop.bars.detail.text()


@pytest.mark.long
def test_each_pedestal_of_a_common_base_has_its_curve(qtbot: QtBot) -> None:
    """Pedestals typed in the table of bases: the box by the curve names their columns, the worst first."""
    from tests.core.test_several_columns import pair

    project = pair(Load(V=400.0), Load(V=900.0, My=120.0))
    made = MainWindow(Session(project))
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.resize(1280, 800)
    made.show()
    made.go_to(2)
    model = next(p for p in made.stop.panels if p.spec.name == "pads").model
    heads = {model.headerData(i, Qt.Orientation.Horizontal): i for i in range(model.columnCount())}
    for head, text in (
        ("Pedestal", "0.6 x 0.6 to 0.2, 8 ø 16"),
        ("Pedestals of others", "D: ø 0.6 to 0.2, 8 ø 16, spiral 10 at 60"),
    ):
        column = next(i for name, i in heads.items() if str(name).split("\n")[0] == head)
        assert model.setData(model.index(0, column), text), made.session.message
    pad = made.session.project.pads[0]
    assert pad.pedestals["D"].around == "spiral"
    assert pad.pedestals["D"].is_round
    made.session.select(pad.name)
    made.go_to(5)
    qtbot.mouseClick(button(made, "steel-pedestal"), LEFT)
    box = stop_of(made).column
    assert box.isVisible()
    assert [box.itemText(i) for i in range(box.count())] == ["C", "D"]
    assert box.currentText() == "D"
    worst = texts(stop_of(made).pedestal.drawing)
    box.setCurrentIndex(0)
    box.activated.emit(0)
    assert texts(stop_of(made).pedestal.drawing) != worst
    # emptied, the others are gone and one curve is left
    made.go_to(2)
    column = next(i for name, i in heads.items() if str(name).startswith("Pedestals of others"))
    assert model.setData(model.index(0, column), "")
    assert not made.session.project.pads[0].pedestals
    made.go_to(5)
    assert not stop_of(made).column.isVisible()
