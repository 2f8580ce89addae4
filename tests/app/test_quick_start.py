"""What is loaded before the first window: nothing that only few will need, and nothing that only checks need."""

import os
import subprocess
import sys
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from korbent import entry
from korbent.app import main
from korbent.app.session import Session
from korbent.app.stops import RAIL, SIGNPOSTS
from korbent.app.stops.stop import Stop
from korbent.app.window import MainWindow
from korbent.core.evaluate import evaluate
from korbent.core.model import Project
from korbent.drawing.theme import LIGHT

SELDOM = ("reportlab", "scipy", "clarabel", "gmsh", "numba", "ezdxf", "docx", "openpyxl", "pypdfium2")
LATER = (
    "typer",
    "korbent.cli",
    "korbent.sheets",
    "korbent.app.stops.plan",
    "korbent.app.working_panel",
    *(f"korbent.core.{room}" for room in ("evaluate", "explain", "settlement", "plates", "plasticity", "sizing")),
)
"""What a window without a project does without."""


def loaded_by(text: str) -> set[str]:
    """The modules that a program loads."""
    done = subprocess.run(
        [sys.executable, "-c", f"import sys\n{text}\nprint(*sys.modules)"],
        capture_output=True,
        text=True,
        check=True,
        env={**os.environ, "PYTHONPATH": os.pathsep.join(p for p in sys.path if p)},
    )
    return set(done.stdout.split())


@pytest.mark.long
@pytest.mark.parametrize("module", ["korbent.app.window", "korbent.cli"])
def test_no_solver_is_loaded_at_the_start(module: str) -> None:
    loaded = {name.split(".")[0] for name in loaded_by(f"import {module}")}
    assert "korbent" in loaded
    assert sorted(loaded & set(SELDOM)) == []


@pytest.mark.long
def test_the_window_is_there_before_what_checks_is_loaded() -> None:
    loaded = loaded_by(
        "import korbent.entry\n"
        "from korbent.app.main import application, first_window\n"
        "from korbent.demo.lindmere import lindmere\n"
        "app = application()\n"
        "window = first_window(lindmere(), None)\n"
        "assert window.isVisible()"
    )
    assert "korbent.app.window" in loaded
    assert sorted(loaded & {*SELDOM, *LATER}) == []


def test_garbage_is_left_alone_by_who_starts_the_program_only() -> None:
    for text, searched in (
        ("import korbent.cli, korbent.app.main", True),
        ("import korbent.entry; korbent.entry.prepare()", False),
        ("import korbent.entry; korbent.entry.prepare(); korbent.entry.searching_again()", True),
    ):
        loaded_by(f"{text}\nimport gc\nassert gc.isenabled() is {searched}")


def test_every_signpost_leads_to_its_stop(qtbot: QtBot) -> None:
    session = Session(Project())
    for post in SIGNPOSTS:
        stop = post.make(session, LIGHT)
        qtbot.addWidget(stop)
        assert isinstance(stop, Stop)
        assert stop.post is post
        assert stop.objectName() == f"stop-{post.title.lower()}"


def test_a_stop_is_made_when_somebody_goes_there(qtbot: QtBot, demo: Project) -> None:
    window = MainWindow(Session(demo))
    qtbot.addWidget(window)
    made = [i for i in range(len(window.stops)) if window.stops.made(i)]
    assert made == [RAIL.index(p) for p in RAIL if p.title == "Bearing"]
    lines = [button.status() for button in window.rail.buttons]
    assert lines[0].endswith("soils")
    assert all(lines)  # the rail knows of all without them
    window.go_to("settlement")
    assert window.stop.title == "Settlement"
    assert window.stack.currentWidget() is window.stop
    window.go_to("bearing")
    assert window.stack.currentWidget() is window.stop
    assert window.stops[-1].title == "All bases"
    assert window.stack.currentWidget() is window.stops[3]  # one that is made does not come to the front
    assert [button.status() for button in window.rail.buttons] == lines


def test_what_has_nothing_to_check_has_no_results() -> None:
    assert Session(Project()).results == evaluate(Project())


@pytest.mark.parametrize(
    ("words", "window"),
    [
        ([], True),
        (["demo"], True),
        (["house.korbent"], True),
        (["check"], False),
        (["check", "house.korbent"], False),
        (["--help"], False),
        (["open", "house.korbent"], False),
    ],
)
def test_plain_ways_to_a_window_need_no_command_line(words: list[str], window: bool) -> None:
    assert entry.asks_for_window(words) is window


def test_from_a_menu_what_is_wrong_is_told_in_the_window(
    monkeypatch: pytest.MonkeyPatch, qtbot: QtBot, tmp_path: Path
) -> None:
    shown: list[MainWindow] = []

    def run(project: Project, path: Path | None, said: str = "") -> int:
        shown.append(main.first_window(project, path, said))
        qtbot.addWidget(shown[0], before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
        return 0

    broken = tmp_path / "broken.korbent"
    broken.write_text("{ not a project")
    monkeypatch.setattr(main, "run", run)
    monkeypatch.setattr(entry, "prepare", lambda: None)
    monkeypatch.setattr(sys, "argv", ["korbent", "--window", str(broken)])
    with pytest.raises(SystemExit) as end:
        entry.main()
    assert end.value.code == 0
    qtbot.waitUntil(lambda: shown[0].start is not None)
    qtbot.waitUntil(lambda: "broken.korbent" in shown[0].message.text())
    assert shown[0].session.path is None


def test_a_fault_before_the_window_is_a_line_with_details(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    def broken(*_: object) -> int:
        raise ZeroDivisionError("nothing there")

    monkeypatch.setattr(main, "run", broken)
    monkeypatch.setattr(entry, "prepare", lambda: None)
    monkeypatch.setattr(sys, "argv", ["korbent", "demo"])
    with pytest.raises(SystemExit) as end:
        entry.main()
    assert end.value.code == 2
    said = capsys.readouterr().err
    assert said.startswith("korbent: ")
    assert "nothing there" in said
    assert said.count("\n") == 1
    assert Path(said.strip().rpartition("details in ")[2]).exists()


def test_a_file_that_cannot_be_read_is_told_by_the_command_line(tmp_path: Path) -> None:
    done = subprocess.run(
        [sys.executable, "-m", "korbent", str(tmp_path / "nowhere.korbent")],
        capture_output=True,
        text=True,
        env={
            **os.environ,
            "PYTHONPATH": os.pathsep.join(p for p in sys.path if p),
            "QT_QPA_PLATFORM": "offscreen",
        },
        timeout=60,
    )
    assert done.returncode == 2
    assert "nowhere.korbent" in done.stderr
    assert "Traceback" not in done.stderr
