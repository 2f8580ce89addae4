"""Search, autosave, recovery after a kill, recent files."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.search import Entry, matching
from korbent.app.session import Session
from korbent.app.window import MainWindow
from korbent.core.model import Project
from korbent.files.autosave import Autosave, recent_files, remember_file
from korbent.files.folders import state_folder
from korbent.files.project_file import load, project_of, read_json, save

CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def window(qtbot: QtBot, demo: Project, tmp_path: Path) -> MainWindow:
    made = MainWindow(Session(demo), autosave=Autosave(tmp_path))
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.show()
    return made


def test_words_are_found_in_any_order() -> None:
    entries = [
        Entry(t, d, lambda: None) for t, d in (("P1", "pad under A1"), ("A1", "concrete column on P1"), ("P11", "pad"))
    ]
    assert [e.text for e in matching(entries, "p1")] == ["P1", "P11", "A1"]
    assert [e.text for e in matching(entries, "column p1")] == ["A1"]
    assert matching(entries, "zzz") == []


def typed(window: MainWindow, qtbot: QtBot, text: str) -> None:
    qtbot.keyClick(window, Qt.Key.Key_K, CTRL)
    qtbot.keyClicks(window.search, text)
    qtbot.keyClick(window.search, Qt.Key.Key_Return)


@pytest.mark.long
def test_going_to_a_foundation_a_check_a_column_a_table_a_command(window: MainWindow, qtbot: QtBot) -> None:
    typed(window, qtbot, "p12")
    assert window.session.selected == "P12"
    typed(window, qtbot, "punching at")
    assert window.session.check == "punching-face"
    typed(window, qtbot, "d2")
    assert window.session.selected == "P7"
    typed(window, qtbot, "combinations")
    assert window.stack.currentIndex() == 1
    assert window.stop.deck.stack.currentIndex() == 4  # type: ignore[attr-defined]
    typed(window, qtbot, "concrete alt")
    assert window.stack.currentIndex() == 5
    typed(window, qtbot, "change units")
    assert window.session.project.units == "us"
    typed(window, qtbot, "undo")
    assert window.session.project.units == "metric"
    assert not window.search.list.isVisible()


def test_arrows_choose_and_escape_leaves(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.keyClick(window, Qt.Key.Key_K, CTRL)
    qtbot.keyClicks(window.search, "p1")
    assert window.search.list.isVisible()
    assert window.search.list.visibleRegion().boundingRect().height() > 100
    qtbot.keyClick(window.search, Qt.Key.Key_Down)
    qtbot.keyClick(window.search, Qt.Key.Key_Return)
    assert window.session.selected == window.search.found[1].text
    before = window.session.selected
    qtbot.keyClick(window, Qt.Key.Key_K, CTRL)
    qtbot.keyClicks(window.search, "no such thing")
    qtbot.keyClick(window.search, Qt.Key.Key_Return)
    assert window.session.selected == before
    qtbot.keyClick(window, Qt.Key.Key_K, CTRL)
    qtbot.keyClick(window.search, Qt.Key.Key_Escape)
    assert not window.search.list.isVisible()


def test_a_copy_is_kept_and_dropped(window: MainWindow, tmp_path: Path) -> None:
    assert window.files.autosave is not None
    window.files.keep_copy()
    assert not window.files.autosave.copy.exists()
    window.session.change_by("width", 0.1)
    window.files.keep_copy()
    assert kept_in(window.files.autosave.copy) == window.session.project
    window.files.save_file(tmp_path / "a.korbent")
    assert not window.files.autosave.copy.exists()


def kept_in(copy: Path) -> Project:
    return project_of(read_json(copy)["content"], copy)


def test_a_living_run_is_not_taken_for_a_dead_one(tmp_path: Path, demo: Project) -> None:
    own = Autosave(tmp_path)
    own.keep(demo, None)
    assert own.orphans() == []
    (own.folder / "99999999-abc.json").write_text("broken")
    assert own.orphans() == []
    assert own.damaged == ["99999999-abc.json"]
    own.drop()
    assert not own.copy.exists()


def test_a_copy_that_cannot_be_written_stops_nothing(tmp_path: Path, demo: Project) -> None:
    (tmp_path / "unsaved").write_text("a file where the folder should be")
    Autosave(tmp_path).keep(demo, None)


RUN = """
import sys
from pathlib import Path
from korbent.app.main import application
from korbent.app.session import Session
from korbent.app.window import MainWindow
from korbent.files.autosave import Autosave
from korbent.files.project_file import load
app = application()
path = Path(sys.argv[1])
window = MainWindow(Session(load(path), path), autosave=Autosave())
window.show()
window.session.select("P7")
window.session.change_by("width", 0.3)
window.files.keep_copy()
print("kept", flush=True)
app.exec()
"""


@pytest.mark.long
def test_after_a_kill_the_work_is_there(qtbot: QtBot, demo: Project, tmp_path: Path) -> None:
    path = tmp_path / "a.korbent"
    save(demo, path)
    environment = os.environ | {"PYTHONPATH": os.pathsep.join(sys.path)}
    process = subprocess.Popen([sys.executable, "-c", RUN, str(path)], stdout=subprocess.PIPE, env=environment)
    assert process.stdout is not None
    while process.stdout.readline() != b"kept\n":
        time.sleep(0.01)
    process.send_signal(signal.SIGKILL)
    process.wait()
    process.stdout.close()
    window = MainWindow(Session(load(path), path), autosave=Autosave())
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    window.files.recover()
    assert window.session.project.pad("P7").width == pytest.approx(2.8)
    assert "is back" in window.message.text()
    assert not window.session.is_saved
    window.session.undo()
    assert window.session.project == demo
    other = MainWindow(Session(demo), autosave=Autosave())
    qtbot.addWidget(other)
    other.files.recover()
    assert other.session.project is demo


def test_recent_files(tmp_path: Path, demo: Project) -> None:
    assert recent_files() == []
    paths = [tmp_path / f"{i}.korbent" for i in range(10)]
    for path in paths:
        save(demo, path)
        remember_file(path)
    assert recent_files()[0] == paths[-1].resolve()
    assert len(recent_files()) == 8
    paths[-1].unlink()
    assert recent_files()[0] == paths[-2].resolve()
    (state_folder() / "recent.json").write_text("{broken")
    assert recent_files() == []


@pytest.mark.long
def test_recent_files_are_offered(window: MainWindow, qtbot: QtBot, tmp_path: Path, demo: Project) -> None:
    save(demo, tmp_path / "quay.korbent")
    remember_file(tmp_path / "quay.korbent")
    typed(window, qtbot, "quay recent")
    assert window.session.path == tmp_path / "quay.korbent"


def test_dark_and_light_on_the_same_work(window: MainWindow, qtbot: QtBot) -> None:
    window.session.select("P7")
    window.session.change_by("width", 0.1)
    window.go_to(4)
    window.findChild(QPushButton, "theme").click()
    dark = window.successor
    assert dark is not None
    qtbot.addWidget(dark)
    assert not window.isVisible()
    assert dark.isVisible()
    assert dark.theme.name == "dark"
    assert dark.stack.currentIndex() == 4
    assert dark.session is window.session
    assert dark.stop.views[0].theme.name == "dark"
    dark.session.undo()
    assert dark.ledger.size_line.text().startswith("under D2 · 2.50")
