"""Files are written whole or not at all, the copies of unsaved work and the kept states too."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from korbent.core.model import Project, edited
from korbent.core.model.differences import differences
from korbent.files.atomic import replacing, sweep, write_whole
from korbent.files.autosave import Autosave, Opened
from korbent.files.kept import MOST, Store
from korbent.files.project_file import load, save
from korbent.files.sheet import write_sheets


def test_what_fails_leaves_the_old_file_and_nothing_else(tmp_path: Path) -> None:
    path = tmp_path / "a.txt"
    path.write_text("old")

    def half() -> None:
        with replacing(path) as temporary:
            temporary.write_text("half")
            raise RuntimeError("the disk is full")

    with pytest.raises(RuntimeError):
        half()
    assert path.read_text() == "old"
    assert os.listdir(tmp_path) == ["a.txt"]


def test_links_are_followed_and_permissions_kept(tmp_path: Path) -> None:
    real, link = tmp_path / "real.txt", tmp_path / "link.txt"
    real.write_text("old")
    real.chmod(0o640)
    link.symlink_to(real)
    write_whole(link, b"new")
    assert link.is_symlink()
    assert real.read_bytes() == b"new"
    assert real.stat().st_mode & 0o777 == 0o640


def test_names_that_no_file_can_have_are_refused_with_a_word(tmp_path: Path) -> None:
    with pytest.raises(OSError, match="too long"):
        write_whole(tmp_path / ("x" * 250), b"")
    with pytest.raises(OSError, match="this is a folder"):
        write_whole(tmp_path, b"")
    odd = tmp_path / "ein Name — mit „allem“ 'und' $(x).txt"
    write_whole(odd, b"1")
    assert odd.read_bytes() == b"1"


@pytest.mark.skipif(os.geteuid() == 0, reason="root may write everything")
def test_a_read_only_file_is_not_written(tmp_path: Path) -> None:
    path = tmp_path / "a.txt"
    path.write_text("old")
    path.chmod(0o444)
    with pytest.raises(PermissionError, match="read-only"):
        write_whole(path, b"new")


def test_what_a_killed_run_left_is_swept(tmp_path: Path) -> None:
    (tmp_path / ".korbent-99999999-abc.part").write_text("half")
    (tmp_path / f".korbent-{os.getpid()}-abc.part").write_text("of a living run")
    sweep(tmp_path)
    assert os.listdir(tmp_path) == [f".korbent-{os.getpid()}-abc.part"]


KILLED = """
import sys, itertools
from pathlib import Path
from korbent.demo import lindmere
from korbent.core.model import edited
from korbent.files.autosave import Autosave
from korbent.files.project_file import save
path = Path(sys.argv[1])
copy = Autosave(Path(sys.argv[2]))
project = lindmere()
for i in itertools.count():
    state = edited(project, ("title", "revision"), f"r{i}")
    save(state, path)
    copy.keep(edited(project, ("title", "revision"), f"c{i}"), path)
    if i == 0:
        print("begun", flush=True)
"""


@pytest.mark.long
def test_killed_at_any_moment_file_and_copy_are_whole(tmp_path: Path, demo: Project) -> None:
    """The long attack is this one many times more."""
    rounds = 60 if os.environ.get("KORBENT_THOROUGH") else 6
    environment = os.environ | {"PYTHONPATH": os.pathsep.join(sys.path)}
    path = tmp_path / "a.korbent"
    for i in range(rounds):
        state = tmp_path / f"state{i}"
        process = subprocess.Popen(
            [sys.executable, "-c", KILLED, str(path), str(state)], stdout=subprocess.PIPE, env=environment
        )
        assert process.stdout is not None
        assert process.stdout.readline() == b"begun\n"
        time.sleep(0.01 + 0.037 * (i % 17))
        process.send_signal(signal.SIGKILL)
        process.wait()
        process.stdout.close()
        assert load(path).title.revision.startswith("r")
        copies = Autosave(state)
        (work,) = copies.orphans()
        assert work.project.title.revision.startswith("c")
        assert work.path == path.resolve()
        assert copies.damaged == []
        save(demo, path)
        assert [p.name for p in tmp_path.iterdir() if p.name.endswith(".part")] == []


def test_copies_of_several_runs_and_files(tmp_path: Path, demo: Project) -> None:
    own = Autosave(tmp_path)
    path, other = tmp_path / "a.korbent", tmp_path / "b.korbent"
    save(demo, path)
    for number, (of, revision) in enumerate(((path, "old"), (path, "new"), (other, "x"), (None, "y"))):
        dead = Autosave(tmp_path)
        dead.copy = own.folder / f"99999999-{number}.json"
        assert dead.keep(edited(demo, ("title", "revision"), revision), of)
    assert [w.project.title.revision for w in own.orphans(path, every=False)] == ["new", "old"]
    assert [w.project.title.revision for w in own.orphans(None, every=False)] == ["y"]
    assert len(own.orphans()) == 4
    work = own.orphans(path, every=False)[0]
    assert work.is_newer_than_file
    save(edited(demo, ("title", "revision"), "saved since"), path)
    assert not work.is_newer_than_file


def test_kept_states_are_bounded_and_named_ones_stay(tmp_path: Path, demo: Project) -> None:
    store, path = Store(tmp_path), tmp_path / "a.korbent"
    save(demo, path)
    store.keep(demo, path, "tried", name="wider strips")
    for i in range(MOST + 5):
        store.keep(edited(demo, ("title", "revision"), str(i)), path, "saved", what=(f"title revision: becomes {i}",))
    found = store.of(path)
    assert len(found) == MOST + 1
    assert found[0].project().title.revision == str(MOST + 4)
    assert found[0].what == (f"title revision: becomes {MOST + 4}",)
    assert found[-1].name == "wider strips"
    assert store.of(tmp_path / "other.korbent") == []
    # a damaged one is passed over
    found[0].file.write_text("{")
    assert len(store.of(path)) == MOST


def test_a_second_run_on_one_file_knows_of_the_first(tmp_path: Path) -> None:
    path = tmp_path / "a.korbent"
    first, second = Opened(tmp_path), Opened(tmp_path)
    assert first.take(path)
    # a living process that is not this one
    (note,) = (tmp_path / "open").iterdir()
    note.rename(note.with_name(note.name.rpartition("-")[0] + f"-{os.getppid()}"))
    assert not second.take(path)
    assert second.take(tmp_path / "b.korbent")
    second.leave()
    (gone,) = (p for p in (tmp_path / "open").iterdir())
    gone.rename(gone.with_name(gone.name.rpartition("-")[0] + "-99999999"))
    assert second.take(path)


class Broken:
    """What cannot be written."""

    def __str__(self) -> str:
        raise RuntimeError("no text")


def test_tables_are_written_whole(tmp_path: Path) -> None:
    for name in ("t.csv", "t.xlsx"):
        path = tmp_path / name
        write_sheets(path, {"a": (["x"], [[1.0]])})
        before = path.read_bytes()
        with pytest.raises((RuntimeError, ValueError)):
            write_sheets(path, {"a": (["x"], [[2.0], [Broken()]])})  # type: ignore[list-item]
        assert path.read_bytes() == before
    assert not [p for p in tmp_path.iterdir() if p.name.startswith(".")]


def test_differences_in_words(demo: Project) -> None:
    changed = edited(edited(demo, ("pads", "P3", "width"), 2.0), ("title", "revision"), "D")
    pads = tuple(p for p in changed.pads if p.name != "P4")
    changed = changed.replaced(pads=pads)
    assert differences(demo, changed) == [
        "title revision: C becomes D",
        "pads P3 width: 2.2 becomes 2",
        "pads P4: gone",
    ]
    assert differences(demo, demo) == []
