"""The start page by mouse and keys: numbers at a drawing, cards of recent work, files, and back to the bench."""

from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLineEdit, QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.main import first_window
from korbent.app.session import Session
from korbent.app.start.ground import OfSettlement
from korbent.app.start.page import StartPage
from korbent.app.start.quick import AtDrawing, OfStrip
from korbent.app.style import load_fonts
from korbent.app.window import MainWindow
from korbent.core.model import Project
from korbent.core.quick.starts import OneBase, proposed
from korbent.demo.starter import starter
from korbent.files.autosave import remember_file
from korbent.files.project_file import save

LEFT = Qt.MouseButton.LeftButton


def page_of(window: MainWindow) -> StartPage:
    assert window.start is not None
    return window.start


@pytest.fixture
def window(qtbot: QtBot) -> MainWindow:
    made = first_window(starter(), None)
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    qtbot.waitUntil(lambda: made.start is not None)
    return made


def found(page: StartPage, qtbot: QtBot) -> None:
    """Until a size is there for what is typed."""
    qtbot.waitUntil(page.quick.go.isEnabled, timeout=30_000)


def retype(qtbot: QtBot, page: StartPage, name: str, text: str) -> None:
    at = page.quick.page
    assert isinstance(at, AtDrawing)
    edit = at.fields[name].edit
    edit.setFocus()
    edit.selectAll()
    qtbot.keyClicks(edit, text)


@pytest.mark.long
def test_few_numbers_come_to_a_checked_and_reinforced_base(window: MainWindow, qtbot: QtBot) -> None:
    page = page_of(window)
    at = page.quick.page
    assert isinstance(at, AtDrawing)
    assert at.count <= 15
    found(page, qtbot)
    retype(qtbot, page, "permanent", "820")
    retype(qtbot, page, "imposed", "45 tonf")
    assert at.fields["imposed"].note.text().startswith("= ")
    retype(qtbot, page, "pressure", "3 kgf/cm2")
    assert not page.quick.go.isEnabled()
    found(page, qtbot)
    assert at.start.pressure == pytest.approx(294.2, abs=0.1)
    assert at.fields["width"].edit.placeholderText().startswith("proposed ")
    assert "every check that can be done holds" in page.quick.state.text()
    # a width of its own stays
    retype(qtbot, page, "width", "2.6")
    found(page, qtbot)
    qtbot.mouseClick(page.quick.go, LEFT)
    assert window.start is None
    pad = window.session.project.pads[0]
    assert pad.width == pytest.approx(2.6)
    assert window.session.results.pad(pad.name).worst.ratio is not None
    assert pytest.approx(820.0) == window.session.project.load_point("C1").loads["G"].V
    # what comes of it is an ordinary project: it grows and goes back
    assert window.session.edit(("pads", pad.name, "width"), 2.8) == ""
    window.session.undo()
    assert window.session.project.pads[0].width == pytest.approx(2.6)


def test_wrong_numbers_are_marked_and_change_nothing(window: MainWindow, qtbot: QtBot) -> None:
    page = page_of(window)
    at = page.quick.page
    assert isinstance(at, AtDrawing)
    before = at.start
    retype(qtbot, page, "founded", "0.9 kg")
    assert at.start is before or at.start.founded == before.founded
    assert at.fields["founded"].edit.property("wrong") is True
    retype(qtbot, page, "founded", "-2")
    assert at.fields["founded"].edit.property("wrong") is True
    retype(qtbot, page, "founded", "4 ft")
    assert at.fields["founded"].edit.property("wrong") is False
    assert at.start.founded == pytest.approx(1.2192)


@pytest.mark.long
def test_other_rules_bring_their_units_and_keep_what_was_typed(window: MainWindow, qtbot: QtBot) -> None:
    page = page_of(window)
    at = page.quick.page
    assert isinstance(at, AtDrawing)
    retype(qtbot, page, "permanent", "900")
    # the next entry, by the keyboard
    at.habits.setFocus()
    qtbot.keyClick(at.habits, Qt.Key.Key_Down)
    assert at.habits.currentText() == "ASCE 7, ACI 318"
    assert at.fields["permanent"].edit.text() == "202 kip"
    assert at.fields["imposed"].edit.text().endswith("0.0 kip")
    assert at.fields["column_x"].edit.text() == "1.50 ft"
    retype(qtbot, page, "permanent", "150")  # a bare number is one of kips
    assert at.start.permanent == pytest.approx(667.2, abs=0.1)
    found(page, qtbot)
    assert "ACI 318-19" in page.quick.assumed.text()
    assert "pcf" in page.quick.assumed.text()
    qtbot.mouseClick(page.quick.go, LEFT)
    project = window.session.project
    assert (project.units, project.standards.concrete) == ("us", "ACI 318-19")
    assert pytest.approx(667.2, abs=0.1) == project.load_point("C1").loads["D"].V
    assert {c.name for c in project.actions.cases} == {"D", "L"}
    assert [c for c in window.session.results.pad(project.pads[0].name).checks if c.ratio and c.ratio > 1.0] == []


def test_a_bare_strip_answers_while_one_types(window: MainWindow, qtbot: QtBot) -> None:
    page = page_of(window)
    qtbot.mouseClick(page.findChild(QPushButton, "start-bare-strip"), LEFT)
    strip = page.quick.page
    assert isinstance(strip, OfStrip)
    assert not page.ledger.isVisible()
    edit = page.findChild(QLineEdit, "quick-strip-friction")
    edit.selectAll()
    qtbot.keyClicks(edit, "0")
    edit = page.findChild(QLineEdit, "quick-strip-cohesion")
    edit.selectAll()
    qtbot.keyClicks(edit, "50 kPa")
    assert strip.table.item(1, 1).text() == "5.14"
    rows = {strip.table.item(i, 0).text() for i in range(strip.table.rowCount())}
    assert {"Exact, rough base", "Exact, smooth base", "Bounds, rough base"} <= rows
    edit = page.findChild(QLineEdit, "quick-strip-roughness")
    edit.selectAll()
    qtbot.keyClicks(edit, "0.5")
    rows = {strip.table.item(i, 0).text() for i in range(strip.table.rowCount())}
    assert {"Exact, roughness 0.5", "Bounds, roughness 0.5"} <= rows
    qtbot.mouseClick(page.findChild(QPushButton, "start-one-base"), LEFT)
    assert page.ledger.isVisible() or not window.isVisible()


@pytest.mark.long
def test_a_bare_strip_is_bracketed(window: MainWindow, qtbot: QtBot) -> None:
    page = page_of(window)
    qtbot.mouseClick(page.findChild(QPushButton, "start-bare-strip"), LEFT)
    strip = page.quick.page
    rows = {strip.table.item(i, 0).text(): i for i in range(strip.table.rowCount())}
    exact, bounds = rows["Exact, rough base"], rows["Bounds, rough base"]
    qtbot.waitUntil(lambda: " to " in strip.table.item(bounds, 4).text(), timeout=60_000)
    qtbot.waitUntil(lambda: strip.table.item(exact, 4).text().replace(".", "").isdigit(), timeout=60_000)
    low, high = map(float, strip.table.item(bounds, 4).text().split(" to "))
    assert low < float(strip.table.item(exact, 4).text()) < high < 1.1 * low
    # the factors too, each by itself
    for column in (1, 2, 3):
        qtbot.waitUntil(lambda c=column: " to " in strip.table.item(bounds, c).text(), timeout=120_000)  # type: ignore[misc]
        low, high = map(float, strip.table.item(bounds, column).text().split(" to "))
        assert low < float(strip.table.item(exact, column).text()) < high < 1.3 * low
    # without friction weight changes nothing: cu (2 + π) + q
    for name, text in (("friction", "0"), ("cohesion", "50 kPa")):
        edit = page.findChild(QLineEdit, f"quick-strip-{name}")
        edit.selectAll()
        qtbot.keyClicks(edit, text)
    qtbot.waitUntil(lambda: strip.table.item(exact, 1).text() == "5.1416", timeout=60_000)
    value = 50 * (2 + np.pi) + strip.strip.surcharge
    assert float(strip.table.item(exact, 4).text()) == pytest.approx(value, abs=0.06)


@pytest.mark.long
def test_recent_work_stands_on_cards_and_opens(qtbot: QtBot, tmp_path: Path) -> None:
    path = tmp_path / "harbour.korbent"
    project = proposed(OneBase().project())
    save(project.replaced(title=project.title.replaced(project="Harbour shed")), path)
    remember_file(path)
    made = first_window(starter(), None)
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    qtbot.waitUntil(lambda: made.start is not None)
    page = page_of(made)
    card = next(c for c in page.cards if c.path == path)
    qtbot.waitUntil(lambda: card.glance is not None, timeout=30_000)
    assert card.title.text() == "Harbour shed"
    assert "1 base" in card.detail.text()
    card.setFocus()
    qtbot.keyClick(card, Qt.Key.Key_Return)
    assert made.start is None
    assert made.session.path == path


def test_the_bench_is_behind_it_and_comes_back(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.keyClick(window, Qt.Key.Key_2, Qt.KeyboardModifier.AltModifier)
    window.go_to(1)
    assert window.start is None
    assert window.front.currentWidget() is window.body
    project = window.session.project
    window.show_start()
    assert window.session.project is project
    page = page_of(window)
    # in front of it the bar does not speak of what is hidden
    assert window.bar.units_button.isHidden()
    assert page.back is None  # nothing was begun
    empty = next(b for b in page.findChildren(QPushButton) if b.text() == "Empty: metric")
    qtbot.mouseClick(empty, LEFT)
    assert window.start is None
    assert window.session.project.pads == ()


@pytest.mark.long
def test_what_is_open_comes_back_as_it_was(window: MainWindow, qtbot: QtBot) -> None:
    window.files.begin(lambda: proposed(OneBase().project()))
    window.session.edit(("pads", "P1", "width"), 2.55)
    project = window.session.project
    window.show()
    qtbot.keyClick(window, Qt.Key.Key_N, Qt.KeyboardModifier.ControlModifier)
    back = page_of(window).back
    assert back is not None
    qtbot.mouseClick(back, LEFT)
    assert window.start is None
    assert not window.bar.units_button.isHidden()
    window.show_start()
    qtbot.keyClick(page_of(window), Qt.Key.Key_Escape)
    assert window.start is None
    assert window.session.project is project


def ground_of(qtbot: QtBot, page: StartPage) -> OfSettlement:
    button = next(b for b in page.quick.buttons if b.text() == "settlement")
    qtbot.mouseClick(button, LEFT)
    found = page.quick.page
    assert isinstance(found, OfSettlement)
    qtbot.waitUntil(page.quick.go.isEnabled, timeout=30_000)
    return found


def put(qtbot: QtBot, field: QLineEdit, text: str) -> None:
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, text)


@pytest.mark.long
def test_a_load_on_layers_comes_to_a_settlement(window: MainWindow, qtbot: QtBot) -> None:
    page = page_of(window)
    ground = ground_of(qtbot, page)
    assert ground.count <= 20
    assert f"{ground.count} inputs" in page.quick.state.text()
    assert "middle: 36.4 mm" in ground.results.text()
    assert "2.2 years" in ground.words.text()
    assert "deep enough" in ground.words.text()
    put(qtbot, ground.fields["pressure"], "200")
    assert not page.quick.go.isEnabled()
    qtbot.waitUntil(page.quick.go.isEnabled, timeout=30_000)
    assert "middle: 72.8 mm" in ground.results.text()  # twice the load
    # a fourth layer, in another unit
    for name, text in (("thickness-3", "10 ft"), ("stiffness-3", "30 MPa")):
        put(qtbot, ground.fields[name], text)
    qtbot.waitUntil(page.quick.go.isEnabled, timeout=30_000)
    assert len(ground.load.layers) == 4
    assert ground.load.layers[3].thickness == pytest.approx(3.048)
    assert len([t for t in ground.view.drawing.texts if t.startswith("settles ")]) == 4
    # what comes of it is an ordinary project
    qtbot.mouseClick(page.quick.go, LEFT)
    qtbot.waitUntil(lambda: window.start is None)
    project = window.session.project
    assert [m.name for m in project.actions.marks] == ["middle", "edge", "corner"]
    assert len(project.ground.soils) == 4


@pytest.mark.long
def test_each_kind_of_load_asks_for_what_it_is_made_of(window: MainWindow, qtbot: QtBot) -> None:
    page = page_of(window)
    ground = ground_of(qtbot, page)
    for kind, there, gone in (
        ("tank", "pressure", "size_y"),
        ("embankment", "height", "pressure"),
        ("strip", "size_x", "height"),
    ):
        ground.kind.setCurrentText(kind)
        ground.kind.activated.emit(ground.kind.currentIndex())
        assert not ground.fields[there].isHidden()
        assert ground.fields[gone].isHidden()
        assert ground.count <= 20
        qtbot.waitUntil(page.quick.go.isEnabled, timeout=30_000)
        assert kind in " ".join(ground.view.drawing.texts)


@pytest.mark.long
def test_wrong_numbers_of_the_ground_are_marked(window: MainWindow, qtbot: QtBot) -> None:
    page = page_of(window)
    ground = ground_of(qtbot, page)
    before = ground.load
    for name, text in (("pressure", "much"), ("degree", "2"), ("stiffness-0", "-3")):
        put(qtbot, ground.fields[name], text)
        assert ground.fields[name].property("wrong")
        assert ground.load is before
    put(qtbot, ground.fields["founded"], "40")
    qtbot.waitUntil(lambda: "make it shallower" in ground.words.text(), timeout=30_000)
    assert not page.quick.go.isEnabled()


def test_everything_fits_a_window_of_1280_by_800(qtbot: QtBot, demo: Project) -> None:
    load_fonts()
    window = MainWindow(Session(demo))
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    window.resize(1280, 800)
    window.show()
    window.show_start()
    assert window.start is not None
    for button in window.start.quick.buttons:
        qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
        least = window.minimumSizeHint()
        assert (least.width() <= 1280, least.height() <= 800) == (True, True), button.text()
    for stop in range(len(window.stops)):
        window.go_to(stop)
        least = window.minimumSizeHint()
        assert (least.width() <= 1280, least.height() <= 800) == (True, True), window.stop.title
    assert (window.width(), window.height()) == (1280, 800)
