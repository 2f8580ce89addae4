"""The stop Sheets, driven by clicks and keys."""

import io
import weakref
from pathlib import Path
from threading import Event

import pytest
from pypdf import PdfReader
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QPushButton
from pytestqt.qtbot import QtBot

from korbent.app import background
from korbent.app.page_view import PageView
from korbent.app.sheet_list import KEY, STATE, tick_box
from korbent.app.sheet_panel import NOTHING
from korbent.app.stops.sheets import SheetsStop
from korbent.app.window import MainWindow
from korbent.core.model import Project, edited
from korbent.demo import DEMOS
from korbent.files.office import title_block
from korbent.files.project_file import load, save
from korbent.sheets.catalogue import KINDS, set_named, ticked
from tests.app.test_window import opened

LEFT = Qt.MouseButton.LeftButton
SOON = 30_000


@pytest.fixture
def window(qtbot: QtBot) -> MainWindow:
    project = DEMOS["redstem"]()
    made = opened(qtbot, project)
    made.activateWindow()
    qtbot.waitUntil(made.isActiveWindow)
    QTest.mouseClick(made.rail.buttons[6], LEFT)
    assert isinstance(made.stop, SheetsStop)
    return made


@pytest.fixture
def stop(window: MainWindow) -> SheetsStop:
    assert isinstance(window.stop, SheetsStop)
    return window.stop


def shown(qtbot: QtBot, stop: SheetsStop, key: str) -> None:
    """Chooses a sheet by a click on its name and waits for it."""
    row = next(i for i in range(stop.list.count()) if stop.list.item(i).data(KEY) == key)
    stop.list.scrollToItem(stop.list.item(row))
    box = stop.list.visualItemRect(stop.list.item(row))
    QTest.mouseClick(stop.list.viewport(), LEFT, pos=box.center())
    assert stop.key == key
    qtbot.waitUntil(lambda: stop._is_current(key), timeout=SOON)


def tick(stop: SheetsStop, key: str) -> None:
    """Clicks the box of a sheet."""
    row = next(i for i in range(stop.list.count()) if stop.list.item(i).data(KEY) == key)
    stop.list.scrollToItem(stop.list.item(row))
    QTest.mouseClick(stop.list.viewport(), LEFT, pos=tick_box(stop.list.visualItemRect(stop.list.item(row))).center())


def test_a_key_leads_there(window: MainWindow) -> None:
    window.go_to(0)
    QTest.keyClick(window, Qt.Key.Key_7, Qt.KeyboardModifier.AltModifier)
    assert isinstance(window.stop, SheetsStop)


def test_neither_sizes_nor_ledger_stand_beside_it(window: MainWindow) -> None:
    assert not window.ledger.isVisible()
    assert not window.sizes.isVisible()
    window.go_to(3)
    assert window.ledger.isVisible()
    assert window.sizes.isVisible()


def test_help_comes_beside_it_and_goes_again(window: MainWindow) -> None:
    QTest.keyClick(window, Qt.Key.Key_F1)
    assert window.ledger.isVisible()
    assert window.ledger.helped is not None
    QTest.keyClick(window, Qt.Key.Key_F1)
    assert not window.ledger.isVisible()


@pytest.mark.long
def test_a_page_comes_as_it_will_print(stop: SheetsStop, qtbot: QtBot) -> None:
    shown(qtbot, stop, "plan")
    qtbot.waitUntil(lambda: stop.page.settled, timeout=SOON)
    _, made = stop.previews["plan"]
    assert made is not None
    assert made.pdf[:4] == b"%PDF"
    assert stop.detail.text().endswith("as it will print")
    assert stop.page._image is not None
    # paper is white, and something is drawn on it
    colours = {
        stop.page._image.pixelColor(x, y).name()
        for x in range(0, stop.page._image.width(), 7)
        for y in range(0, stop.page._image.height(), 7)
    }
    assert "#ffffff" in colours
    assert len(colours) > 3


@pytest.mark.long
def test_pages_turn_and_zoom_by_keys_wheel_and_buttons(stop: SheetsStop, qtbot: QtBot) -> None:
    shown(qtbot, stop, "bases")
    qtbot.waitUntil(lambda: stop.page.settled, timeout=SOON)
    assert stop.page.pages > 1
    QTest.keyClick(stop.page, Qt.Key.Key_PageDown)
    assert stop.at_page.text() == f"2 of {stop.page.pages}"
    QTest.mouseClick(stop.buttons["page-back"], LEFT)
    assert stop.page.page == 0
    assert not stop.buttons["page-back"].isEnabled()
    whole = stop.page.percent()
    QTest.mouseClick(stop.buttons["zoom-in"], LEFT)
    assert stop.page.percent() == pytest.approx(1.25 * whole, abs=1)
    middle = stop.page.middle
    QTest.keyClick(stop.page, Qt.Key.Key_Down)
    assert stop.page.middle[1] > middle[1]
    QTest.keyClick(stop.page, Qt.Key.Key_0)
    assert stop.page.percent() == whole
    QTest.mouseDClick(stop.page, LEFT, pos=QPoint(200, 200))
    assert stop.page.percent() > 2 * whole
    qtbot.waitUntil(lambda: stop.page.settled, timeout=SOON)


def test_a_tick_is_a_step_of_undo(window: MainWindow, stop: SheetsStop) -> None:
    before = [c.key for c in ticked(stop.chosen)]
    assert "details" not in before
    tick(stop, "details")
    assert "details" in [c.key for c in ticked(stop.chosen)]
    assert window.session.project.sheet_sets
    stop.list.choose("details")
    QTest.keyClick(stop.list, Qt.Key.Key_Space)
    assert "details" not in [c.key for c in ticked(stop.chosen)]
    window.session.undo()
    window.session.undo()
    assert [c.key for c in ticked(stop.chosen)] == before
    assert not window.session.project.sheet_sets


def test_sheets_are_ordered_by_keys(stop: SheetsStop) -> None:
    keys = stop.list.keys()
    stop.list.choose("ground")
    QTest.keyClick(stop.list, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    assert stop.list.keys()[:2] == ["ground", "basis"]
    assert stop.list.key() == "ground"
    QTest.keyClick(stop.list, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    assert stop.list.keys()[:2] == ["ground", "basis"]
    QTest.keyClick(stop.list, Qt.Key.Key_Down, Qt.KeyboardModifier.AltModifier)
    assert stop.list.keys() == keys


def test_paper_scale_and_what_is_shown(stop: SheetsStop, qtbot: QtBot) -> None:
    shown(qtbot, stop, "plan")
    assert stop.panel.drawing.isVisible()
    assert not stop.panel.calculation.isVisible()
    paper, scale = stop.panel.paper, stop.panel.scale
    choose(paper, "ANSI D")
    choose(scale, '1/8" = 1\'-0"')
    assert (stop.choice.paper, stop.choice.scale) == ("ANSI D", 96.0)
    QTest.mouseClick(stop.panel.shown["levels"], LEFT, pos=QPoint(8, 8))
    assert "levels" in stop.chosen.hidden
    qtbot.waitUntil(lambda: stop._is_current("plan"), timeout=SOON)
    _, made = stop.previews["plan"]
    assert made is not None
    assert made.said.startswith('ANSI D · 1/8" = 1\'-0"')


def choose(box: QComboBox, text: str) -> None:
    """Chooses an entry by keys."""
    box.setFocus()
    index = box.findText(text)
    assert index >= 0, [box.itemText(i) for i in range(box.count())]
    box.setCurrentIndex(index)
    box.activated.emit(index)


@pytest.mark.long
def test_workings_of_the_set(stop: SheetsStop, qtbot: QtBot) -> None:
    shown(qtbot, stop, "workings")
    assert stop.panel.calculation.isVisible()
    choose(stop.panel.workings, "none")
    assert stop.chosen.workings == "none"
    qtbot.waitUntil(lambda: stop._is_current("workings"), timeout=SOON)
    assert stop.page.said == "nothing to print"


@pytest.mark.long
def test_the_paper_of_the_calculation(window: MainWindow, stop: SheetsStop, qtbot: QtBot) -> None:
    """Chosen beside a chapter, standing or lying: all its pages come so, and the project keeps it."""
    shown(qtbot, stop, "summary")
    data = stop.previews["summary"][1].pdf
    box = stop.panel.findChild(QComboBox, "calculation-paper")
    assert box.currentText() == "usual: Letter"
    choose(box, "ANSI B")
    QTest.mouseClick(stop.panel.lying, LEFT, pos=QPoint(8, stop.panel.lying.height() // 2))
    assert (stop.chosen.paper, stop.chosen.lying) == ("ANSI B", True)
    qtbot.waitUntil(lambda: stop._is_current("summary"), timeout=SOON)
    made = stop.previews["summary"][1].pdf
    assert made != data
    page = PdfReader(io.BytesIO(made)).pages[0].mediabox
    assert [round(float(v) / 72, 2) for v in page[2:]] == [17.0, 11.0]
    window.session.undo()
    window.session.undo()
    assert (stop.chosen.paper, stop.chosen.lying) == ("", False)


@pytest.mark.long
def test_an_edit_leaves_pages_behind_and_they_are_made_again(
    window: MainWindow, stop: SheetsStop, qtbot: QtBot
) -> None:
    shown(qtbot, stop, "plan")
    first = stop.previews["plan"][1]
    pad = window.session.project.pads[0]
    window.session.apply(edited(window.session.project, ("pads", pad.name, "width"), pad.width + 0.3048), "wider")
    assert not stop._is_current("plan")
    assert "out of date" in stop.detail.text()
    assert stop.page.pdf == first.pdf  # type: ignore[union-attr]
    assert "out of date" in window.rail.buttons[6].status()
    row = next(i for i in range(stop.list.count()) if stop.list.item(i).data(KEY) == "plan")
    assert stop.list.item(row).data(STATE)
    qtbot.waitUntil(lambda: stop._is_current("plan"), timeout=SOON)
    assert stop.previews["plan"][1].pdf != first.pdf  # type: ignore[union-attr]
    assert stop.list.item(row).data(STATE) == ""


def test_a_tick_alone_makes_no_page_anew(stop: SheetsStop, qtbot: QtBot) -> None:
    shown(qtbot, stop, "plan")
    first = stop.previews["plan"]
    tick(stop, "schedule")
    assert stop._is_current("plan")
    assert stop.previews["plan"] is first


def test_tables_stand_as_they_will_be_written(stop: SheetsStop, qtbot: QtBot) -> None:
    shown(qtbot, stop, "sizes")
    assert stop.stack.currentWidget() is stop.table
    assert stop.table.grid.head[3] == "Width B, ft"
    assert stop.table.text(0, 0) == stop.session.project.pads[0].name


def test_a_new_set(window: MainWindow, stop: SheetsStop) -> None:
    stop.add_set("for tender")
    assert stop.chosen.name == "for tender"
    assert [stop.sets.itemText(i) for i in range(stop.sets.count())] == [
        "for approval",
        "for site",
        "for tender",
    ]
    stop.add_set("For Tender")
    assert window.message.text().startswith("there is a set") or "there is a set" in window.message.text()
    choose(stop.sets, "for site")
    assert stop.chosen.name == "for site"
    assert set_named(window.session.project, "for tender").name == "for tender"


@pytest.mark.long
def test_the_set_is_written_in_the_background(
    window: MainWindow, stop: SheetsStop, qtbot: QtBot, tmp_path: Path
) -> None:
    for key in ("workings", "settlement", "bases"):
        tick(stop, key)
    stop.write_to(tmp_path / "out")
    assert stop.panel.progress.isVisible()
    assert not stop.panel.write.isEnabled()
    qtbot.waitUntil(lambda: stop._writing is None, timeout=SOON)
    names = {p.name for p in (tmp_path / "out").iterdir()}
    assert {n.rpartition(".")[2] for n in names} == {"pdf", "dxf", "xlsx"}
    assert "written to" in window.message.text()
    assert stop.panel.write.isEnabled()
    for box in stop.panel.formats.values():
        box.setChecked(False)
    stop.write_to(tmp_path / "none")
    assert "tick a format" in window.message.text()
    assert not (tmp_path / "none").exists()


def test_writing_can_be_cancelled(window: MainWindow, stop: SheetsStop, qtbot: QtBot, tmp_path: Path) -> None:
    stop.write_to(tmp_path / "out")
    QTest.mouseClick(stop.panel.cancel, LEFT)
    qtbot.waitUntil(lambda: stop._writing is None, timeout=SOON)
    assert stop.panel.write.isEnabled()


@pytest.mark.long
def test_issued_and_compared(qtbot: QtBot, tmp_path: Path) -> None:
    project = DEMOS["redstem"]()
    path = tmp_path / "r.korbent"
    save(project, path)
    window = opened(qtbot, project)
    window.files.open_file(path)
    made = window.successor or window
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.go_to(6)
    stop = made.stop
    assert isinstance(stop, SheetsStop)
    stop.panel.reason.setText("")
    QTest.mouseClick(stop.panel.issue, LEFT)
    assert "type why it goes out" in made.message.text()
    QTest.keyClicks(stop.panel.reason, "for approval")
    QTest.keyClick(stop.panel.reason, Qt.Key.Key_Return)
    revision = project.title.revision
    assert [(r.name, r.reason) for r in made.session.project.revisions] == [(revision, "for approval")]
    stop.panel.reason.setText("again")
    QTest.mouseClick(stop.panel.issue, LEFT)
    assert "was issued already" in made.message.text()
    entries = [stop.panel.compare.itemText(i) for i in range(stop.panel.compare.count())]
    assert entries == [NOTHING, f"revision {revision}", "another file …"]
    pad = made.session.project.pads[0]
    made.session.apply(edited(made.session.project, ("pads", pad.name, "width"), pad.width + 0.3048), "wider")
    choose(stop.panel.compare, f"revision {revision}")
    qtbot.waitUntil(lambda: stop.changes.grid.rowCount() > 0 and stop._asked.state == "", timeout=SOON)
    assert stop.changed_title.text() == f"Changed since revision {revision}"
    rows = {stop.changes.text(i, 0): stop.changes.text(i, 3) for i in range(stop.changes.grid.rowCount())}
    assert rows[pad.name].startswith("B ")
    shown(qtbot, stop, "plan")
    _, preview = stop.previews["plan"]
    assert preview is not None
    choose(stop.panel.compare, NOTHING)
    assert not stop.changed_pane.isVisible()
    stop.compare_with(str(tmp_path / "gone.korbent"))
    assert "not compared" in made.message.text()
    assert stop.compared == NOTHING


def test_not_issued_without_a_file(window: MainWindow, stop: SheetsStop) -> None:
    assert "save the project first" in stop.issue("for approval")
    assert not window.session.project.revisions


def test_the_office_stands_in_the_title_block(window: MainWindow, stop: SheetsStop, tmp_path: Path) -> None:
    line = stop.panel.findChild(QLineEdit, "office")
    QTest.keyClicks(line, "Ardle and Brook")
    QTest.keyClick(line, Qt.Key.Key_Return)
    assert window.session.project.title.office == "Ardle and Brook"
    (tmp_path / "logo.png").write_text("no picture")
    stop.take_logo(tmp_path / "logo.png")
    assert "is no logo" in window.message.text()


def test_layers_of_the_office(stop: SheetsStop) -> None:
    QTest.mouseClick(stop.panel.layers_button, LEFT)
    dialog = stop.layers_dialog
    dialog.table.item(0, 2).setText("AB;SITE")
    QTest.mouseClick(dialog.findChild(QPushButton, "keep-layers"), LEFT)
    assert "the name of a layer has none of" in dialog.note.text()
    dialog.table.item(0, 2).setText("AB_SITE")
    QTest.mouseClick(dialog.findChild(QPushButton, "keep-layers"), LEFT)
    assert title_block()["layer.site"] == "AB_SITE"


@pytest.mark.long
def test_one_base_prints_from_its_ledger(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    window.go_to(3)
    name = window.session.selected
    window.printing.print_base_to(name, tmp_path / "b.pdf")
    qtbot.waitUntil(lambda: (tmp_path / "b.pdf").exists() and "pages written" in window.message.text(), timeout=SOON)
    assert window.ledger.print.isVisible()


def test_an_empty_project(qtbot: QtBot) -> None:
    window = opened(qtbot, Project())
    window.go_to(6)
    stop = window.stop
    assert isinstance(stop, SheetsStop)
    for key in ("section", "plan", "settlement", "checks"):
        stop.list.choose(key)
        qtbot.waitUntil(lambda k=key: stop._is_current(k), timeout=SOON)
    assert stop.status().endswith("sheets")
    assert sorted(stop.list.keys()) == sorted(KINDS)


def test_the_file_keeps_the_sets(window: MainWindow, stop: SheetsStop, tmp_path: Path) -> None:
    tick(stop, "details")
    window.session.save(tmp_path / "p.korbent")
    assert load(tmp_path / "p.korbent").sheet_sets == window.session.project.sheet_sets


def test_a_page_that_is_on_its_way_says_so(qtbot: QtBot) -> None:
    view = PageView("light")
    qtbot.addWidget(view)
    view.said = "nothing to print"
    assert view.without() == "nothing to print"
    view.pdf, view.pages, view.said = b"%PDF", 1, "1 page"
    assert view.without() == "being painted …"
    view._arrived(((id(view.pdf), 0, 1.0), "damaged"))
    assert view.without() == "This page cannot be shown: damaged"
    view.show_pdf(b"%PDF-2", 1)
    assert view.without() == "being painted …"


def test_a_view_may_go_while_its_page_is_painted(qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    """The thread that paints holds no view: what it brings finds nobody, and the view has gone where it was made."""
    painting, go_on = Event(), Event()

    def slow(*_: object) -> str:
        painting.set()
        go_on.wait(5)
        return "late"

    monkeypatch.setattr("korbent.app.page_view.painted", slow)
    view = PageView("light")
    view.resize(200, 200)
    view.show_pdf(b"%PDF", 1)
    assert painting.wait(5)
    gone = weakref.ref(view)
    del view
    assert gone() is None
    go_on.set()
    qtbot.waitUntil(lambda: not background.busy(), timeout=5000)
    QApplication.processEvents()
