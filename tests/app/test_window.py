"""The window, driven by clicks and keys."""

from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit, QListWidget, QMessageBox, QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.canvas import DrawingView
from korbent.app.ledger import Fold, Ledger
from korbent.app.session import Session
from korbent.app.style import load_fonts
from korbent.app.tables import TablePanel
from korbent.app.window import MainWindow
from korbent.core.checks import CheckResult, State
from korbent.core.explain.working import Working
from korbent.core.model import Project
from korbent.demo.starter import starter
from korbent.files.project_file import dumps, load
from korbent.verification.pad import one_pad

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    return opened(qtbot, demo)


def opened(qtbot: QtBot, project: Project) -> MainWindow:
    load_fonts()
    made = MainWindow(Session(project))
    made.resize(1280, 800)
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.show()
    qtbot.waitExposed(made)
    return made


def panel(window: MainWindow, name: str) -> TablePanel:
    """Goes to the table by its buttons, as a user does."""
    for i, stop in enumerate(window.stops):
        stop.visit()
        for found in stop.panels:
            if found.spec.name == name:
                window.go_to(i)
                button = window.stop.findChild(QPushButton, f"deck-{name}")
                if button is not None:
                    button.click()
                else:
                    choose_section(window, name)
                return found
    raise AssertionError(name)


def choose_section(window: MainWindow, name: str) -> None:
    """Clicks a section of Project: the table or the head of some settings."""
    sections = window.stop.findChild(QListWidget, "project-sections")
    rows = (sections.item(i) for i in range(sections.count()))
    item = next(r for r in rows if r.data(Qt.ItemDataRole.UserRole) == name)
    sections.scrollToItem(item)
    QTest.mouseClick(sections.viewport(), LEFT, pos=sections.visualItemRect(item).center())


def type_into(qtbot: QtBot, found: TablePanel, row: int, title: str, text: str) -> None:
    """Types a text into a cell with the keyboard."""
    column = next(i for i, c in enumerate(found.model.columns) if c.title == title)
    found.view.setFocus()
    found.view.setCurrentIndex(found.model.index(row, column))
    found.view.edit(found.model.index(row, column))
    editor = found.view.findChildren(QLineEdit)[-1]
    editor.selectAll()
    qtbot.keyClicks(editor, text)
    qtbot.keyClick(editor, Qt.Key.Key_Return)
    QGuiApplication.processEvents()  # the editor commits after it has handled the key


def choose(window: MainWindow, check: str) -> None:
    ledger = window.ledger
    for i, row in enumerate(ledger.model.rows):
        if not isinstance(row, str) and row.check.id == check:
            ledger.list.setCurrentIndex(ledger.model.index(i))
            return
    raise AssertionError(check)


def cell(view: DrawingView, key: str) -> QPoint:
    """The middle of the shape of that key."""
    shape = next(s for s in view.drawing.shapes if getattr(s, "key", "") == key)
    xs, ys = zip(*(view.placement()(p) for p in shape.points))
    where = QPoint(round(sum(xs) / len(xs)), round(sum(ys) / len(ys)))
    assert view.key_at(where.toPointF()) == key
    return where


# ---------------------------------------------------------------- the daily loop


def test_it_fits_1280_by_800(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.wait(30)
    for i in range(len(window.stops)):
        window.go_to(i)
        assert window.minimumSizeHint().width() <= 1280, window.stop.title
        assert window.minimumSizeHint().height() <= 800, window.stop.title


def test_stepping_the_width_changes_everything_at_once_and_undo_restores(window: MainWindow, qtbot: QtBot) -> None:
    session = window.session
    session.select("P8")
    stepper = window.sizes.steppers["width"]
    before_title, before_worst = window.ledger.size_line.text(), window.ledger.worst.text()
    qtbot.waitUntil(lambda: "0.9" in stepper.effects[1].text() or "1." in stepper.effects[1].text())
    foretold = stepper.effects[1].text()
    section = window.stop.views[2].grab().toImage()
    qtbot.mouseClick(stepper.more, LEFT)
    assert session.pad is not None
    assert session.pad.width == pytest.approx(1.9)
    assert window.ledger.size_line.text() != before_title
    assert window.ledger.worst.text() in foretold
    assert window.stop.views[2].grab().toImage() != section
    assert f"was {before_worst}" in window.ledger.worst_line.text()
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.ledger.size_line.text() == before_title
    assert window.ledger.worst.text() == before_worst
    assert window.stop.views[2].grab().toImage() == section
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    assert session.pad.width == pytest.approx(1.9)


def test_typing_a_size_with_a_unit(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P7")
    field = window.sizes.steppers["width"].field
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, "9 ft")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert window.session.pad is not None
    assert window.session.pad.width == pytest.approx(2.7432)
    assert field.text().startswith("2.743")


def test_a_wrong_size_is_marked_and_changes_nothing(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    stepper = window.sizes.steppers["thickness"]
    for text, says in (("thick", "not a number"), ("-0.4", "greater than 0"), ("3 kN", "not a unit")):
        stepper.field.setFocus()
        stepper.field.selectAll()
        qtbot.keyClicks(stepper.field, text)
        qtbot.keyClick(stepper.field, Qt.Key.Key_Return)
        assert stepper.frame.property("wrong") is True
        assert says in window.message.text()
        assert window.session.project is demo
        assert stepper.field.text() == text
        qtbot.keyClick(stepper.field, Qt.Key.Key_Escape)
        assert stepper.frame.property("wrong") is False


@pytest.mark.parametrize(
    ("key", "modifier", "change"),
    [
        (Qt.Key.Key_Up, Qt.KeyboardModifier.NoModifier, 0.1),
        (Qt.Key.Key_Down, Qt.KeyboardModifier.NoModifier, -0.1),
        (Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier, 0.5),
        (Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier, -0.02),
    ],
)
def test_arrow_keys_step(
    window: MainWindow, qtbot: QtBot, key: Qt.Key, modifier: Qt.KeyboardModifier, change: float
) -> None:
    window.session.select("P7")
    qtbot.keyClick(window.sizes.steppers["length"].field, key, modifier)
    assert window.session.pad is not None
    assert window.session.pad.length == pytest.approx(2.5 + change)


def test_clicking_a_pad_on_the_plan_selects_it(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    plan = window.stop.views[0]
    point = demo.load_point("A1")
    x, y = plan.placement()((point.x + 0.5, point.y + 0.5))
    qtbot.mouseClick(plan, LEFT, pos=QPoint(round(x), round(y)))
    assert window.session.selected == "P1"
    assert window.ledger.title.text() == "P1"
    assert plan.key_at(QPointF(2, 2)) == ""


def test_brackets_go_from_foundation_to_foundation(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P1")
    qtbot.keyClick(window, Qt.Key.Key_BracketRight)
    assert window.ledger.title.text() == "P2"
    qtbot.keyClick(window, Qt.Key.Key_BracketLeft)
    assert window.ledger.title.text() == "P1"


def test_stops_by_key_keep_the_selection(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P10")
    for i in range(len(window.rail.buttons)):
        qtbot.keyClick(window, Qt.Key(Qt.Key.Key_1.value + i), Qt.KeyboardModifier.AltModifier)
        assert window.stack.currentIndex() == i
        assert window.rail.buttons[i].isChecked()
        assert window.ledger.title.text() == "P10"


@pytest.mark.long
def test_stops_by_click(window: MainWindow, qtbot: QtBot) -> None:
    for i, button in enumerate(window.rail.buttons):
        qtbot.mouseClick(button, LEFT)
        assert window.stack.currentIndex() == i
        assert window.stop.status()


# ---------------------------------------------------------------- ledger and working


def test_enter_opens_the_working_and_a_symbol_opens_its_own(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P7")
    choose(window, "punching")
    qtbot.keyClick(window.ledger.list, Qt.Key.Key_Return)
    shown = window.ledger.working
    assert window.ledger.stack.currentIndex() == 1
    text = shown.text.toPlainText()
    assert "EN 1992-1-1 (6.50)" in text
    assert isinstance(shown.found, Working)
    ratio = shown.found.lines()[-1]
    link = next(index for name, index in ratio.inputs if name == "v_Rd")
    shown.text.anchorClicked.emit(f"step:{link}")
    assert shown.heading.text().startswith("v_Rd = ")
    qtbot.keyClick(shown, Qt.Key.Key_Escape)
    assert shown.heading.text().startswith("Punching")
    qtbot.keyClick(shown, Qt.Key.Key_Escape)
    assert window.ledger.stack.currentIndex() == 0


def test_the_open_working_follows_an_edit_and_copies(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P7")
    choose(window, "shear-x")
    window.ledger.open_working()
    before = window.ledger.working.plain()
    window.session.change_by("thickness", 0.05)
    after = window.ledger.working.plain()
    assert before != after
    assert "h = 0.55 m" in after
    qtbot.mouseClick(window.ledger.working.copy, LEFT)
    assert QGuiApplication.clipboard().text() == after


def test_the_selected_check_lights_up_and_chooses_the_situation(window: MainWindow) -> None:
    window.session.select("P7")
    choose(window, "overturning")
    assert window.session.check == "overturning"
    found = window.session.result
    assert found is not None
    assert found.check("overturning").combination in window.stop.section_pane.detail.text()  # type: ignore[attr-defined]


def test_pointing_at_a_check_lights_up_the_drawing(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P7")
    window.go_to(5)
    before = window.stop.views[0].grab().toImage()
    ledger = window.ledger
    row = next(i for i, r in enumerate(ledger.model.rows) if not isinstance(r, str) and r.check.id == "shear-y")
    ledger.list.entered.emit(ledger.model.index(row))
    assert window.session.lit == "shear-y"
    assert window.stop.views[0].grab().toImage() != before
    ledger.list.left.emit()
    assert window.stop.views[0].grab().toImage() == before


def test_a_check_selected_elsewhere_is_marked_in_the_ledger(window: MainWindow) -> None:
    window.session.select_check("uplift")
    chosen = window.ledger.chosen()
    assert chosen is not None
    assert chosen.check.id == "uplift"
    window.ledger.open_working()
    assert "V_dst" in window.ledger.working.plain()


def test_sorting_by_ratio(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.mouseClick(window.ledger.order, LEFT)
    rows = [r for r in window.ledger.model.rows if isinstance(r, CheckResult)]
    ratios = [r.ratio for r in rows if r.ratio is not None]
    assert ratios == sorted(ratios, reverse=True)
    assert not any(isinstance(r, str) for r in window.ledger.model.rows)


def test_only_what_fails(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P11")
    ledger = window.ledger
    assert ledger.order.text() == "by group"
    for _ in range(2):
        qtbot.mouseClick(ledger.order, LEFT)
    assert ledger.order.text() == "what fails"
    result = window.session.result
    assert result is not None
    failing = {c.check.id for c in result.checks if c.state is State.FAILS}
    assert failing == {r.check.id for r in ledger.model.rows if isinstance(r, CheckResult)} != set()
    # nothing is out of sight without a word, and a check that is looked for is found
    folded = [c for r in ledger.model.rows if isinstance(r, Fold) for c in r.checks]
    assert len(folded) + len(failing) == len(result.checks)
    window.session.select_check("eccentricity")
    chosen = ledger.chosen()
    assert chosen is not None
    assert chosen.check.id == "eccentricity"
    # a base that holds: one line says so
    window.session.select_check("")
    qtbot.mouseClick(ledger.order, LEFT)
    for _ in range(2):
        qtbot.mouseClick(ledger.order, LEFT)
    window.session.select("P1")
    assert not [r for r in ledger.model.rows if isinstance(r, CheckResult)]
    assert ledger.model.rows[0].title.endswith("without failure")


def test_a_click_opens_what_is_folded_and_a_search_finds_it(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P7")
    ledger = window.ledger
    at = next(i for i, r in enumerate(ledger.model.rows) if isinstance(r, Fold))
    count = ledger.model.rowCount()
    index = ledger.model.index(at)
    ledger.list.scrollTo(index)
    qtbot.mouseClick(ledger.list.viewport(), LEFT, pos=ledger.list.visualRect(index).center())
    fold = ledger.model.rows[at]
    assert isinstance(fold, Fold)
    assert fold.is_open
    assert ledger.model.rowCount() == count + len(fold.checks)
    ledger.list.setFocus()
    qtbot.keyClick(ledger.list, Qt.Key.Key_Return)
    assert ledger.model.rowCount() == count
    # a check that is gone to by name is not hidden
    window.session.select_check("replacement")
    chosen = ledger.chosen()
    assert chosen is not None
    assert chosen.check.id == "replacement"


def test_accepting_a_failing_check(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P8")
    ledger: Ledger = window.ledger
    choose(window, "presumed-pressure")
    qtbot.mouseClick(ledger.accept_button, LEFT)
    qtbot.keyClick(ledger.reason, Qt.Key.Key_Return)
    assert "needs a reason" in window.message.text()
    qtbot.keyClicks(ledger.reason, "short gusts on sound sand")
    qtbot.keyClick(ledger.reason, Qt.Key.Key_Return)
    assert window.session.result is not None
    assert window.session.result.check("presumed-pressure").state is State.ACCEPTED


# ---------------------------------------------------------------- files, units, from nothing


def test_save_and_reopen(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    window.session.select("P7")
    window.session.change_by("width", 0.1)
    path = tmp_path / "a.korbent"
    assert window.files.save_file(path)
    assert "saved" in window.bar.saved_label.text()
    assert "not saved" not in window.bar.saved_label.text()
    assert load(path).pad("P7").width == pytest.approx(2.6)
    assert window.files.open_file(path)
    assert window.session.project.pad("P7").width == pytest.approx(2.6)
    assert window.session.is_saved


def test_a_wrong_file_changes_nothing(window: MainWindow, qtbot: QtBot, tmp_path: Path, demo: Project) -> None:
    path = tmp_path / "w.korbent"
    path.write_text(dumps(demo).replace('"width": 1.7', '"width": -1.7'))
    assert not window.files.open_file(path)
    assert window.session.project is demo
    assert "was not opened" in window.message.text()
    box = window.findChild(QMessageBox)
    assert "pads[P1].width" in box.detailedText()
    box.close()
    assert not window.files.save_file(tmp_path / "none" / "a.korbent")
    assert "not saved" in window.message.text()


@pytest.mark.long
def test_report_from_the_window(qtbot: QtBot, tmp_path: Path) -> None:
    window = opened(qtbot, one_pad())
    window.printing.report_to(tmp_path / "r.pdf")
    qtbot.waitUntil(lambda: "pages written" in window.message.text(), timeout=60_000)


@pytest.mark.long
def test_units_switch_everywhere(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.mouseClick(window.bar.units_button, LEFT)
    assert "ft" in window.ledger.size_line.text()
    assert "ft" in window.sizes.steppers["width"].field.text()
    assert "kip" in window.bar.units_button.text()
    for i in range(len(window.stops)):
        window.go_to(i)
        window.grab()
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert "m" in window.ledger.size_line.text()


@pytest.mark.long
def test_from_nothing_to_checks_by_mouse_and_keys(qtbot: QtBot) -> None:
    """One column, one load, one pad under a presumed pressure; then what can be done and why the rest cannot."""
    window = opened(qtbot, starter())
    assert "Begin here" in window.message.text()
    assert window.ledger.title.text() == "No foundation"
    qtbot.mouseClick(panel(window, "points").add_button, LEFT)
    loads = panel(window, "loads")
    type_into(qtbot, loads, 0, "V", "420")
    type_into(qtbot, loads, 1, "V", "180 kN")
    qtbot.mouseClick(panel(window, "pads").add_button, LEFT)
    assert window.session.selected == "P1"
    result = window.session.result
    assert result is not None
    assert result.check("presumed-pressure").ratio is not None
    assert 0.8 < (result.check("presumed-pressure").ratio or 0) < 1.15
    assert result.check("punching").ratio is not None
    assert result.check("overturning").ratio is not None
    for name in ("resistance-drained", "settlement", "sliding-drained"):
        assert result.check(name).state is State.CANNOT
        assert "borehole" in result.check(name).message
    qtbot.mouseClick(panel(window, "soils").add_button, LEFT)
    qtbot.mouseClick(panel(window, "boreholes").add_button, LEFT)
    type_into(qtbot, panel(window, "soils"), 0, "φ′", "31")
    type_into(qtbot, panel(window, "soils"), 0, "c′", "0")
    assert window.session.result is not None
    assert window.session.result.check("resistance-drained").ratio is not None


@pytest.mark.long
def test_an_empty_project_shows_every_stop(qtbot: QtBot) -> None:
    window = opened(qtbot, Project())
    for i in range(len(window.stops)):
        window.go_to(i)
        assert not window.grab().isNull()


def test_new_starts_from_nothing(window: MainWindow, qtbot: QtBot) -> None:
    window.files.new()
    assert window.session.project.pads == ()
    assert "Add a column" in window.message.text()
    assert window.stack.currentIndex() == 1


def test_the_held_face_is_switched_without_moving_the_base(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P7")
    pad = window.session.pad
    assert pad is not None
    qtbot.mouseClick(window.sizes.held, LEFT)
    new = window.session.pad
    assert new is not None
    assert (new.held, new.underside, new.top) == ("top", pytest.approx(pad.underside), pytest.approx(pad.top))
    window.session.change_by("thickness", 0.05)
    assert window.session.pad is not None
    assert window.session.pad.top == pytest.approx(pad.top)


@pytest.mark.long
def test_the_methods_chart_and_its_workings(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P8")
    window.go_to(3)
    qtbot.mouseClick(window.findChild(QPushButton, "pane-methods"), LEFT)
    view = window.stop.methods
    texts = [s.text for s in view.drawing.shapes if hasattr(s, "text")]
    assert {"Terzaghi 1943", "Meyerhof 1963", "Brinch Hansen 1970", "Vesic 1975", "EN 1997-1 Annex D"} <= set(texts)
    assert any("FS" in t for t in texts)
    bar = next(
        QPoint(x, y)
        for y in range(0, view.height(), 3)
        for x in range(0, view.width(), 6)
        if view.key_at(QPointF(x, y)) == "method:Brinch Hansen 1970"
    )
    qtbot.mouseClick(view, LEFT, pos=bar)
    assert window.ledger.working.heading.text().startswith("Brinch Hansen 1970, drained")
    assert "q_ult" in window.ledger.working.plain().replace("qult", "q_ult")
    # a click on a size is seen in the chart too
    before = [t for t in texts if "FS" in t]
    window.session.change_by("width", 0.3)
    after = [s.text for s in view.drawing.shapes if hasattr(s, "text") and "FS" in s.text]
    assert after != before


def test_all_combinations_of_a_check(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P8")
    choose(window, "presumed-pressure")
    qtbot.keyClick(window.ledger.list, Qt.Key.Key_Return)
    panel_ = window.ledger.working
    qtbot.mouseClick(panel_.all, LEFT)
    assert panel_.heading.text() == "Against presumed pressure, 15 situations"
    rows = [line.split("\t") for line in panel_.plain().splitlines()]
    assert len(rows) == 15
    assert rows[0][0].startswith("2: G + 0.7 Q + W+x")
    assert rows[0][3] == "1.07"
    qtbot.mouseClick(panel_.all, LEFT)
    assert "situations" not in panel_.heading.text()
