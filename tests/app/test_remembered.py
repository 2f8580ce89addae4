"""From one run to the next: place, colours, folder; files handed over to the window that is there; the log."""

import json
import logging
from pathlib import Path

import pytest
from PySide6.QtWidgets import QFileDialog, QWidget
from pytestqt.qtbot import QtBot

from korbent.app import running
from korbent.app.remembered import Remembered, begin_log
from korbent.app.running import Listening, door, handed_over
from korbent.app.session import Session
from korbent.app.window import MainWindow
from korbent.core.model import Project
from korbent.drawing.theme import DARK, LIGHT
from korbent.files.folders import state_folder
from korbent.files.project_file import save


def window_of(qtbot: QtBot, project: Project) -> MainWindow:
    remembered = Remembered()
    made = MainWindow(Session(project), remembered.chosen_theme(), None, remembered)
    remembered.place(made)
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.show()
    return made


@pytest.mark.long
def test_the_folder_comes_back(qtbot: QtBot, demo: Project, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    first = window_of(qtbot, demo)
    save(demo, tmp_path / "quay.korbent")
    assert first.files.open_file(tmp_path / "quay.korbent")
    first.close()
    second = window_of(qtbot, demo)
    asked: list[str] = []

    def answer(*args: object) -> tuple[str, str]:
        asked.append(str(args[2]))
        return "", ""

    monkeypatch.setattr(QFileDialog, "getOpenFileName", answer)
    second.files.open()
    assert asked == [str(tmp_path)]
    assert json.loads((state_folder() / "window.json").read_text())["folder"] == str(tmp_path)


def test_the_place_of_a_window_comes_back(qtbot: QtBot) -> None:
    one, other = QWidget(), QWidget()
    for widget in (one, other):
        qtbot.addWidget(widget)
    one.setGeometry(30, 40, 433, 322)
    one.show()
    Remembered().keep(one)
    Remembered().place(other)
    assert (other.width(), other.height()) == (433, 322)


@pytest.mark.long
def test_chosen_colours_come_back_and_the_system_is_followed_before(
    qtbot: QtBot, demo: Project, monkeypatch: pytest.MonkeyPatch
) -> None:
    import korbent.app.window as at

    first = window_of(qtbot, demo)
    assert first.theme is LIGHT
    monkeypatch.setattr(at, "system_theme", lambda: DARK)
    first.follow_system()
    dark = first.successor
    assert dark is not None
    qtbot.addWidget(dark, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    assert dark.theme is DARK
    assert dark.session is first.session
    dark.switch_theme()  # chosen by hand: no longer followed
    light = dark.successor
    assert light is not None
    qtbot.addWidget(light, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    light.follow_system()
    assert light.successor is None
    light.session.saved = light.session.project
    light.close()
    assert Remembered().chosen_theme() is LIGHT
    assert Remembered().theme == "light"


@pytest.mark.long
@pytest.mark.parametrize(
    "text", ["", "nonsense", "[1, 2]", '{"geometry": 5, "theme": "pink", "folder": []}', '{"geometry": "zz"}']
)
def test_what_cannot_be_read_is_as_if_there_were_nothing(qtbot: QtBot, demo: Project, text: str) -> None:
    state_folder().mkdir(parents=True, exist_ok=True)
    (state_folder() / "window.json").write_text(text)
    made = window_of(qtbot, demo)
    assert made.theme is LIGHT
    assert made.isVisible()


@pytest.mark.long
def test_a_file_goes_to_the_window_that_is_there(qtbot: QtBot, demo: Project, tmp_path: Path) -> None:
    path = tmp_path / "ü b.korbent"
    save(demo, path)
    assert not handed_over(path)  # nobody is there
    made = window_of(qtbot, demo)
    made.session.saved = made.session.project
    listening = Listening(made.files.take_file, made)
    assert door().stat().st_mode & 0o777 == 0o600
    import threading

    answers: list[bool] = []
    other = threading.Thread(target=lambda: answers.append(handed_over(path)))
    other.start()
    qtbot.waitUntil(lambda: made.session.path == path, timeout=10_000)
    other.join()
    assert answers == [True]
    made.files.take_file(path)
    assert "open already" in made.session.message
    # a second window does not take the door of the first
    second = Listening(lambda _: None, made)
    assert second.line is None
    listening.end()
    assert not door().exists()
    assert not handed_over(path)


def test_a_door_that_was_left_behind_is_no_hindrance(qtbot: QtBot, demo: Project, tmp_path: Path) -> None:
    door().parent.mkdir(parents=True, exist_ok=True)
    door().write_text("left behind")
    made = window_of(qtbot, demo)
    listening = Listening(made.files.take_file, made)
    assert listening.line is not None
    listening.end()
    assert running.WAIT < 5


@pytest.mark.long
def test_work_that_is_not_saved_stays(
    qtbot: QtBot, demo: Project, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "other.korbent"
    save(demo, path)
    made = window_of(qtbot, demo)
    made.session.select("P3")
    made.session.resize("width", 2.9)
    monkeypatch.setattr(made.files, "may_leave", lambda: False)
    made.files.take_file(path)
    assert made.session.path is None
    assert made.session.project.pad("P3").width == 2.9


def test_messages_are_logged(demo: Project) -> None:
    path = begin_log()
    try:
        Session(demo).announce("! something is wrong here")
        assert "something is wrong here" in path.read_text()
    finally:
        log = logging.getLogger("korbent")
        for handler in list(log.handlers):
            handler.close()
            log.removeHandler(handler)
        log.propagate = True
