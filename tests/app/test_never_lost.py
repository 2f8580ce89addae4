"""The file changed meanwhile, copies after a kill, earlier versions: in the real window."""

from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QMessageBox, QPushButton
from pytestqt.qtbot import QtBot

from korbent.app import project_files
from korbent.app.session import Session
from korbent.app.window import MainWindow
from korbent.core.model import Project, edited
from korbent.files.autosave import Autosave
from korbent.files.project_file import load, save


@pytest.fixture
def path(tmp_path: Path, demo: Project) -> Path:
    save(demo, tmp_path / "quay.korbent")
    return tmp_path / "quay.korbent"


@pytest.fixture
def window(qtbot: QtBot, path: Path, tmp_path: Path) -> MainWindow:
    made = MainWindow(Session(load(path), path), autosave=Autosave(tmp_path / "state"))
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w.session, "saved", w.session.project))
    made.session.store.folder = tmp_path / "kept"
    made.show()
    return made


def answering(word: str, seen: list[str] | None = None) -> Callable[[], None]:
    """Presses a button of the question that comes up."""

    def answer() -> None:
        box = QApplication.activeModalWidget()
        assert isinstance(box, QMessageBox)
        if seen is not None:
            seen.append(f"{box.text()}\n{box.detailedText()}")
        next(b for b in box.buttons() if b.text() == word).click()

    return answer


def changed_elsewhere(path: Path) -> None:
    save(edited(load(path), ("title", "author"), "somebody else"), path)


def test_saving_over_what_somebody_changed_asks(window: MainWindow, path: Path) -> None:
    window.session.edit(("pads", "P7", "width"), 2.8)
    changed_elsewhere(path)
    seen: list[str] = []
    QTimer.singleShot(0, answering("Cancel", seen))
    assert not window.files.save()
    assert "changed by somebody else" in seen[0]
    # both states are compared
    assert "title author: somebody else becomes" in seen[0]
    assert "pads P7 width" in seen[0]
    assert load(path).title.author == "somebody else"
    assert not window.session.is_saved
    QTimer.singleShot(0, answering("Keep both"))
    assert window.files.save()
    assert window.session.path == path.with_name("quay (mine).korbent")
    assert load(window.session.path).pad("P7").width == 2.8
    assert load(path).title.author == "somebody else"


@pytest.mark.long
def test_taking_theirs_can_be_undone(window: MainWindow, path: Path) -> None:
    window.session.edit(("pads", "P7", "width"), 2.8)
    changed_elsewhere(path)
    QTimer.singleShot(0, answering("Take theirs"))
    assert window.files.save()
    assert window.session.project.title.author == "somebody else"
    assert window.session.is_saved
    window.session.undo()
    assert window.session.project.pad("P7").width == 2.8
    # also when the window is closed then: one's own state is among the earlier versions
    assert [k.project().pad("P7").width for k in window.session.store.of(path)] == [2.8]


@pytest.mark.long
def test_overwriting_theirs(window: MainWindow, path: Path) -> None:
    window.session.edit(("pads", "P7", "width"), 2.8)
    changed_elsewhere(path)
    QTimer.singleShot(0, answering("Overwrite theirs"))
    assert window.files.save()
    assert load(path).pad("P7").width == 2.8
    theirs = next(k for k in window.session.store.of(path) if k.reason.startswith("theirs"))
    assert theirs.project().title.author == "somebody else"
    # from then on it is one's own again
    window.session.edit(("pads", "P7", "width"), 2.9)
    assert window.files.save()


def test_a_file_that_is_gone_is_not_saved(window: MainWindow, path: Path) -> None:
    assert window.session.is_saved
    path.unlink()
    assert not window.session.is_saved
    assert window.files.save()
    assert "was gone" in window.session.message
    assert path.exists()


def of_a_dead_run(window: MainWindow, project: Project, path: Path | None) -> Path:
    assert window.files.autosave is not None
    dead = Autosave(window.files.autosave.folder.parent)
    dead.copy = dead.folder / "99999999-aa.json"
    dead.keep(project, path)
    return dead.copy


@pytest.mark.long
def test_a_copy_is_offered_however_the_project_is_opened(window: MainWindow, path: Path, demo: Project) -> None:
    copy = of_a_dead_run(window, edited(demo, ("pads", "P7", "width"), 3.1), path)
    assert window.files.open_file(path)
    assert window.session.project.pad("P7").width == 3.1
    assert not copy.exists()
    assert window.files.autosave is not None
    assert window.files.autosave.copy.exists()


@pytest.mark.long
def test_an_older_copy_does_not_go_over_a_newer_file_unasked(window: MainWindow, path: Path, demo: Project) -> None:
    copy = of_a_dead_run(window, edited(demo, ("pads", "P7", "width"), 3.1), path)
    changed_elsewhere(path)
    seen: list[str] = []
    QTimer.singleShot(0, answering("Leave it", seen))
    assert window.files.open_file(path)
    assert window.session.project.title.author == "somebody else"
    assert copy.exists()
    assert "after that" in seen[0]
    assert "pads P7 width" in seen[0]
    QTimer.singleShot(0, answering("Show the unsaved work"))
    assert window.files.open_file(path)
    assert window.session.project.pad("P7").width == 3.1


def test_a_damaged_copy_is_passed_over_with_a_word(window: MainWindow, path: Path) -> None:
    assert window.files.autosave is not None
    window.files.autosave.folder.mkdir(parents=True, exist_ok=True)
    (window.files.autosave.folder / "99999998-bb.json").write_text("{")
    window.files.open_file(path)
    assert "damaged and was passed over" in window.session.message


def test_edits_in_quick_succession_put_the_copy_off_no_longer(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert project_files.AUTOSAVE_AT_LAST <= 5000
    window.files.at_last.setInterval(300)
    assert window.files.autosave is not None
    copy = window.files.autosave.copy
    for i in range(40):
        window.session.edit(("pads", "P7", "width"), 2.6 + 0.01 * i)
        qtbot.wait(20)
        if copy.exists():
            break
    assert copy.exists()


@pytest.mark.long
def test_earlier_versions(window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    window.session.store.folder = tmp_path / "kept"
    window.files.earlier_versions()
    assert "no earlier version" in window.session.message
    for width in (2.6, 2.7):
        window.session.edit(("pads", "P7", "width"), width)
        assert window.files.save()
    first = window.session.store.of(window.session.path)[-1]
    assert first.what == ("pads P7 width: 2.5 becomes 2.6",)
    window.files.show_version(first)
    assert window.session.project.pad("P7").width == 2.6
    assert not window.session.is_saved
    window.session.undo()
    assert window.session.project.pad("P7").width == 2.7


@pytest.mark.long
def test_the_report_is_written_while_work_goes_on(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    window.printing.report_to(tmp_path / "r.pdf")
    assert "being written" in window.session.message
    window.session.edit(("pads", "P7", "width"), 2.6)
    qtbot.waitUntil(lambda: "pages written" in window.session.message, timeout=90_000)
    assert (tmp_path / "r.pdf").read_bytes().startswith(b"%PDF")
    window.printing.report_to(tmp_path / "no" / "r.pdf")
    qtbot.waitUntil(lambda: "not written" in window.session.message, timeout=90_000)
    assert window.findChild(QPushButton, "save") is not None
