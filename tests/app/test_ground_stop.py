"""The Ground stop by mouse and keys: import, sections, boundaries, oedometer tests, library."""

from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtWidgets import QFileDialog, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.stops.ground import GroundStop
from korbent.app.style import load_fonts
from korbent.app.window import MainWindow
from korbent.core.model import Project
from korbent.core.model.labels import label
from korbent.demo import lindmere

LEFT = Qt.MouseButton.LeftButton
EXAMPLES = Path(__file__).parents[2] / "examples"


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    load_fonts()
    made = MainWindow(Session(demo))
    made.resize(1280, 800)
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.show()
    qtbot.waitExposed(made)
    made.go_to(0)
    return made


def ground(window: MainWindow) -> GroundStop:
    stop = window.stop
    assert isinstance(stop, GroundStop)
    return stop


def at(view: DrawingView, key: str) -> QPoint:
    """Where on the page a shape with a key can be taken: scanned as a person would search for it."""
    for y in range(0, view.height(), 2):
        for x in range(0, view.width(), 4):
            if view.key_at(QPointF(x, y)) == key:
                return QPoint(x, y)
    raise AssertionError(key)


def drag(qtbot: QtBot, view: DrawingView, start: QPoint, end: QPoint) -> None:
    qtbot.mousePress(view, LEFT, pos=start)
    from PySide6.QtCore import QEvent
    from PySide6.QtGui import QMouseEvent
    from PySide6.QtWidgets import QApplication

    for k in range(1, 4):
        here = QPointF(start + (end - start) * k / 3)
        move = QMouseEvent(
            QEvent.Type.MouseMove,
            here,
            view.mapToGlobal(here),
            Qt.MouseButton.NoButton,
            LEFT,
            Qt.KeyboardModifier.NoModifier,
        )
        QApplication.sendEvent(view, move)
    qtbot.mouseRelease(view, LEFT, pos=end)


@pytest.mark.long
def test_a_boundary_is_dragged_and_undone(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    stop = ground(window)
    start = at(stop.logs, "drag:bound:BH2:1")
    end = start + QPoint(0, 12)
    drag(qtbot, stop.logs, start, end)
    old, new = demo.ground.boreholes[1], window.session.project.ground.boreholes[1]
    assert new.strata[1].thickness > old.strata[1].thickness
    assert sum(s.thickness for s in new.strata) == pytest.approx(sum(s.thickness for s in old.strata))
    level = new.ground_level - new.strata[0].thickness - new.strata[1].thickness
    assert level / 0.05 == pytest.approx(round(level / 0.05), abs=1e-6)
    assert "BH2: Silty sand now ends at" in window.message.text()
    window.session.undo()
    assert window.session.project is demo


def test_a_boundary_cannot_pass_the_next(window: MainWindow, qtbot: QtBot, demo: Project) -> None:
    stop = ground(window)
    stop.move_boundary("bound:BH1:1", 0.0, -9.0)
    assert "cannot pass" in window.message.text()
    assert window.session.project is demo


def test_the_wheel_zooms_about_the_mouse(window: MainWindow, qtbot: QtBot) -> None:
    view = ground(window).logs
    about = QPointF(200, 150)
    before = view.placement().back(200, 150)
    view.zoom_by(2.0, about)
    assert view.placement().back(200, 150) == pytest.approx(before)
    scale = view.placement().scale
    start = QPoint(5, 5)
    drag(qtbot, view, start, start + QPoint(60, 30))
    moved = view.placement().back(260, 180)
    assert moved == pytest.approx(before, abs=20 / scale)
    qtbot.mouseDClick(view, LEFT, pos=QPoint(5, 5))
    assert view.placement().scale == pytest.approx(scale / 2)


@pytest.mark.long
def test_a_section_line_is_drawn_on_the_plan(window: MainWindow, qtbot: QtBot) -> None:
    stop = ground(window)
    qtbot.mouseClick(stop.right.buttons[2], LEFT)
    qtbot.mouseClick(window.findChild(QPushButton, "draw-section"), LEFT)
    start, end = QPoint(40, 40), QPoint(200, 160)
    place = stop.plan.placement()
    drag(qtbot, stop.plan, start, end)
    assert stop.line is not None
    assert stop.line[0] == pytest.approx(place.back(40, 40))
    assert stop.line[1] == pytest.approx(place.back(200, 160))
    assert stop.left.stack.currentIndex() == 1
    texts = [s.text for s in stop.section.drawing.shapes if hasattr(s, "text")]
    assert any("ground of the nearest borehole" in t for t in texts)
    # an end is moved
    handle = at(stop.plan, "drag:end:1")
    drag(qtbot, stop.plan, handle, handle + QPoint(15, -10))
    assert stop.line[1] != pytest.approx(place.back(200, 160))


def test_a_section_shows_units_holes_and_pads(demo: Project) -> None:
    from korbent.drawing.ground_section import ground_section
    from korbent.drawing.primitives import Polygon

    for how in ("nearest", "distance_weighted", "triangulated"):
        project = demo.replaced(ground=demo.ground.replaced(interpolation=how))
        drawing = ground_section(project, ((-2.0, 19.2), (34.0, 19.2)))
        texts = list(drawing.texts)
        assert {"P1", "P2", "P3", "P4", "P5"} <= set(texts)
        assert any(t.startswith("BH1") for t in texts)
        assert any((label(how) if how != "nearest" else "of the nearest borehole") in t for t in texts)
        patterns = {s.pattern for s in drawing.shapes if isinstance(s, Polygon) and s.pattern}
        assert patterns == {"made_ground", "sand", "clay", "silt", "gravel"}


def test_oedometer_results_go_to_the_soil(window: MainWindow, qtbot: QtBot) -> None:
    stop = ground(window)
    qtbot.mouseClick(stop.right.buttons[1], LEFT)
    panel = stop.oedometer
    assert "Casagrande" in panel.result.text()
    assert panel.soil() == "Silty clay"
    found = panel.constructions()
    assert found.casagrande is not None
    assert found.silva is not None
    assert found.field is not None
    # the invented tests were made for Cc 0.25, Cr 0.035 and a preconsolidation of about 105 to 130 kPa
    assert 90 < found.silva.stress < found.casagrande.stress < 150
    assert 0.24 < found.field.compression_index < 0.32
    qtbot.mouseClick(panel.adopt_button, LEFT)
    soil = next(s for s in window.session.project.ground.soils if s.name == "Silty clay")
    assert soil.compression_index == pytest.approx(found.field.compression_index, rel=5e-3)
    assert "Schmertmann 1955" in soil.sources["compression_index"]
    assert "Casagrande" in soil.sources["overconsolidation_ratio"]
    window.session.undo()
    assert window.session.project.ground.soils[2].compression_index == 0.23


@pytest.mark.long
def test_the_lines_of_a_construction_are_dragged(window: MainWindow, qtbot: QtBot) -> None:
    stop = ground(window)
    qtbot.mouseClick(stop.right.buttons[1], LEFT)
    panel = stop.oedometer
    before = panel.constructions()
    handle = at(panel.view, "drag:virgin:1")
    drag(qtbot, panel.view, handle, handle + QPoint(-6, 6))
    after = panel.constructions()
    assert before.silva is not None
    assert after.silva is not None
    assert after.silva.virgin.index > before.silva.virgin.index
    bend = at(panel.view, "drag:bend")
    drag(qtbot, panel.view, bend, bend + QPoint(10, 0))
    moved = panel.constructions()
    assert moved.casagrande is not None
    assert after.casagrande is not None
    assert moved.casagrande.point[0] > after.casagrande.point[0]
    assert "lines by hand" in panel.results()["compression_index"][1]
    qtbot.mouseClick(panel.reset_button, LEFT)
    again = panel.constructions()
    assert again.silva == before.silva
    assert again.casagrande == before.casagrande


def test_cv_from_readings_by_both_ways(window: MainWindow, qtbot: QtBot) -> None:
    """The invented readings were made with 1.9 m2/year."""
    stop = ground(window)
    qtbot.mouseClick(stop.right.buttons[1], LEFT)
    panel = stop.oedometer
    for view in (1, 2):
        panel.kind.setCurrentIndex(view)
        panel.refresh()
        value, source = panel.results()["consolidation_coefficient"]
        assert value * 365.25 == pytest.approx(1.9, rel=0.1)
        assert ("log time", "root time")[view - 1] in source
    qtbot.mouseClick(panel.adopt_button, LEFT)
    assert window.session.project.ground.soils[2].consolidation_coefficient == pytest.approx(value, rel=5e-3)


@pytest.mark.long
def test_the_library_adds_soils(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    qtbot.mouseClick(window.findChild(QPushButton, "library"), LEFT)
    dialog = ground(window).dialog
    dialog.search.setText("stiff clay")
    assert dialog.list.rowCount() == 2
    dialog.list.selectRow(0)
    qtbot.mouseClick(dialog.findChild(QPushButton, "library-add"), LEFT)
    added = window.session.project.ground.soils[-1]
    assert added.name == "Stiff clay"
    assert "starter library" in added.sources["weight"]
    # soils of another project, a name that is taken gets a number
    from korbent.files.project_file import save

    save(lindmere(), tmp_path / "other.korbent")
    qtbot.mouseClick(window.findChild(QPushButton, "library"), LEFT)
    dialog = ground(window).dialog
    dialog.take_from(tmp_path / "other.korbent")
    dialog.list.selectRow(0)
    qtbot.mouseClick(dialog.findChild(QPushButton, "library-add"), LEFT)
    assert window.session.project.ground.soils[-1].name == "Made ground 2"


@pytest.mark.long
def test_an_import_shows_all_and_changes_nothing_before(
    window: MainWindow, qtbot: QtBot, demo: Project, tmp_path: Path
) -> None:
    text = (EXAMPLES / "lindmere.ags").read_text()
    (tmp_path / "part.ags").write_text(
        text.replace('"ISPT","', '"ISPT","').replace('"BH1","1.5","9"', '"BH1","1.5","many"')
    )
    bar = ground(window).bar
    bar.begin([tmp_path / "part.ags"])
    qtbot.waitUntil(lambda: bar.reading.over)
    assert bar.dialog is not None
    problems = [bar.dialog.problems.item(i).text() for i in range(bar.dialog.problems.count())]
    assert any("ISPT line" in p and "'many' is no blow count" in p for p in problems)
    assert window.session.project is demo
    qtbot.mouseClick(bar.dialog.take, LEFT)
    assert len(window.session.project.ground.boreholes[0].tests) == len(demo.ground.boreholes[0].tests) - 1
    window.session.undo()
    assert window.session.project is demo
    bar.begin([tmp_path / "none.ags"])
    qtbot.waitUntil(lambda: bar.reading.over)
    assert "cannot be read" in window.message.text()


def test_export_writes_what_import_reads(
    window: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    for name in ("g.xlsx", "g.ags"):
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, n=name: (str(tmp_path / n), ""))
        qtbot.mouseClick(window.findChild(QPushButton, "export-ground"), LEFT)
        assert (tmp_path / name).exists()
        ground(window).bar.begin([tmp_path / name])
        qtbot.waitUntil(lambda: ground(window).bar.reading.over)
        dialog = ground(window).bar.dialog
        assert dialog is not None
        assert dialog.problems.count() == 0
        dialog.reject()


@pytest.mark.long
def test_a_click_on_a_soil_shows_its_parameters(window: MainWindow, qtbot: QtBot) -> None:
    stop = ground(window)
    spot = at(stop.logs, "soil:Sandy gravel")
    qtbot.mouseClick(stop.logs, LEFT, pos=spot)
    assert stop.parameters.soil.currentText() == "Sandy gravel"


@pytest.mark.long
def test_a_suggested_line_is_adopted(window: MainWindow, qtbot: QtBot) -> None:
    panel = ground(window).parameters
    panel.choose("Silty sand")
    names = [e.name for _, e in panel.suggestions]
    panel.estimate.setCurrentIndex(names.index("regression"))
    qtbot.mouseClick(window.findChild(QPushButton, "adopt"), LEFT)
    soil = next(s for s in window.session.project.ground.soils if s.name == "Silty sand")
    assert soil.over_level["friction_angle"].kind == "linear"
    # typing a constant ends it
    window.session.edit(("ground", "soils", "Silty sand", "friction_angle"), 31.0)
    soil = next(s for s in window.session.project.ground.soils if s.name == "Silty sand")
    assert soil.over_level == {}
    assert soil.sources == {}


class Actions:
    """Counts what a person does."""

    def __init__(self, qtbot: QtBot, window: MainWindow) -> None:
        self.qtbot, self.window, self.count = qtbot, window, 0

    def click(self, name: str, within: QWidget | None = None) -> None:
        self.count += 1
        self.qtbot.mouseClick((within or self.window).findChild(QPushButton, name), LEFT)

    def stop(self, index: int) -> None:
        self.count += 1
        self.qtbot.mouseClick(self.window.rail.buttons[index], LEFT)

    def key(self, widget: QWidget, key: Qt.Key, modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        self.count += 1
        self.qtbot.keyClick(widget, key, modifier)


@pytest.mark.long
def test_lindmere_enters_an_empty_project_in_25_actions(
    qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, demo: Project
) -> None:
    """From the shipped AGS4 and CSV files: ground, soils, levels and loads."""
    from PySide6.QtGui import QGuiApplication

    window = MainWindow(Session(demo))
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    window.show()
    window.activateWindow()
    qtbot.waitExposed(window)
    act = Actions(qtbot, window)
    act.click("new")
    act.count += 1
    next(a for a in window.bar.new_menu.actions() if a.text().startswith("Empty: metric")).trigger()
    window.bar.new_menu.close()
    assert window.session.project.ground.boreholes == ()
    act.stop(0)
    for name in ("lindmere.ags", "lindmere-soils.csv"):
        monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *a, n=name: ([str(EXAMPLES / n)], ""))
        act.count += 2  # choosing the file in the system's window, and its Open
        act.click("import-ground")
        qtbot.waitUntil(lambda: ground(window).bar.reading.over)
        dialog = ground(window).bar.dialog
        assert dialog is not None
        act.click("take-ground", dialog)
    act.click("deck-levels")
    table = next(p for p in window.stop.panels if p.spec.name == "levels")
    labels = [row[0] for row in table.model.rows]
    for name, block in (
        ("Excavated, formation", "2.0\n3.30"),
        ("Backfill above the bases", "Granular backfill\n18.5\n20.4"),
    ):
        QGuiApplication.clipboard().setText(block)
        index = table.model.index(labels.index(name), 1)
        act.count += 1
        qtbot.mouseClick(table.view.viewport(), LEFT, pos=table.view.visualRect(index).center())
        act.key(table.view, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    act.stop(1)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(EXAMPLES / "lindmere-loads.csv"), ""))
    act.count += 2
    act.click("import-loads")
    from korbent.app.import_loads import ImportLoads

    qtbot.waitUntil(lambda: window.findChild(ImportLoads) is not None)
    preview = window.findChild(ImportLoads)
    act.click("take-over", preview)
    got, wanted = window.session.project, demo
    assert act.count <= 25
    assert {h.name: h.strata for h in got.ground.boreholes} == {h.name: h.strata for h in wanted.ground.boreholes}
    assert got.ground.water == wanted.ground.water
    assert got.ground.surfaces == wanted.ground.surfaces
    assert got.ground.backfill == wanted.ground.backfill
    plain = {s.name: s.replaced(sources={}) for s in got.ground.soils}
    assert plain == {s.name: s.replaced(sources={}) for s in wanted.ground.soils}
    assert [p.replaced(imported={}) for p in got.actions.load_points] == list(wanted.actions.load_points)
    natures = {c.name: c.nature for c in got.actions.cases}
    assert {c.name: c.nature for c in wanted.actions.cases}.items() <= natures.items()
