"""Worker processes: results and progress come back with their token, a task is left off or its process ended, the
window is free."""

import time
from typing import Any

import pytest
from PySide6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot
from shiboken6 import delete

from korbent.app.workers import Pool, pool
from korbent.core.model import Project
from korbent.core.settlement.history import history
from korbent.core.sizing.size_map import size_map
from korbent.demo import lindmere
from korbent.files import faults


class Heard:
    """What tasks gave and told."""

    def __init__(self) -> None:
        self.given: list[tuple[Any, Any]] = []
        self.told: list[Any] = []

    def done(self, token: Any, result: Any) -> None:
        self.given.append((token, result))

    def tell(self, what: Any) -> None:
        self.told.append(what)


@pytest.fixture
def heard() -> Heard:
    return Heard()


def wait(qtbot: QtBot, heard: Heard, count: int = 1) -> None:
    qtbot.waitUntil(lambda: len(heard.given) >= count, timeout=20_000)


def test_a_result_comes_back_with_its_token_and_what_was_told(qtbot: QtBot, heard: Heard) -> None:
    token, project = object(), Project()
    task = pool().run("echo", token, (project, 3), heard.done, heard.tell)
    wait(qtbot, heard)
    assert heard.given == [(token, 3)]
    assert heard.told == [(1, 3), (2, 3), (3, 3)]
    assert task.seconds > 0.0


def test_left_off_it_gives_what_it_has(qtbot: QtBot, heard: Heard) -> None:
    task = pool().run("echo", "a", (Project(), 400), heard.done, heard.tell)
    qtbot.waitUntil(lambda: len(heard.told) > 2, timeout=20_000)
    task.leave_off()
    wait(qtbot, heard)
    assert 2 < heard.given[0][1] < 400


@pytest.mark.long
def test_a_process_that_does_not_listen_is_ended_and_the_next_task_gets_a_new_one(qtbot: QtBot, heard: Heard) -> None:
    own = Pool()
    task = own.run("echo", "a", (Project(), 10_000), heard.done, heard.tell)
    qtbot.waitUntil(lambda: bool(heard.told), timeout=20_000)
    own.workers[0].process.kill()
    wait(qtbot, heard)
    assert heard.given == [("a", None)]
    assert task.token == "a"
    own.run("echo", "b", (Project(), 1), heard.done)
    wait(qtbot, heard, 2)
    assert heard.given[1] == ("b", 1)
    own.end()


def test_a_failure_gives_none_and_is_kept(qtbot: QtBot, heard: Heard, monkeypatch: pytest.MonkeyPatch) -> None:
    texts: list[str] = []
    monkeypatch.setattr("korbent.app.workers.kept", texts.append)
    pool().run("sizes", "a", (lindmere(), "no such base", "length", 1), heard.done)
    wait(qtbot, heard)
    assert heard.given == [("a", None)]
    assert "KeyError" in texts[0]
    assert faults.kept is not texts.append


@pytest.mark.long
def test_of_a_channel_the_newest_that_waits_counts(qtbot: QtBot, heard: Heard) -> None:
    own = Pool()
    for k in range(6):
        own.run("echo", k, (Project(), 8), heard.done, channel="one")
    qtbot.waitUntil(lambda: not own.busy(), timeout=20_000)
    tokens = [token for token, _ in heard.given]
    assert tokens[-1] == 5
    assert len(tokens) < 6
    own.end()


def test_a_widget_that_is_gone_is_not_told(qtbot: QtBot) -> None:
    told: list[Any] = []

    class Asks(QWidget):
        def done(self, token: Any, result: Any) -> None:
            told.append(result)

    widget = Asks()
    pool().run("echo", "a", (Project(), 3), widget.done)
    delete(widget)
    qtbot.waitUntil(lambda: not pool().busy(), timeout=20_000)
    QApplication.processEvents()
    assert told == []


@pytest.mark.long
def test_a_worker_finds_what_this_process_would(qtbot: QtBot, heard: Heard) -> None:
    project = lindmere()
    pad = project.pads[7]
    pool().run("sizes", "map", (project, pad.name, "length", 1), heard.done)
    pool().run("settled", "time", (project, pad.name), heard.done)
    begun = time.thread_time()
    wait(qtbot, heard, 2)
    # this thread only waited
    assert time.thread_time() - begun < 5.0
    found = dict(heard.given)
    here = size_map(project, pad, "length")
    assert (found["map"].ratio == here.ratio).all()
    of_all, _ = found["time"]
    own = history(project)
    for a, b in zip(of_all.pads, own.pads):
        assert a.final == pytest.approx(b.final, rel=1e-12)
        assert a.degree(400.0) == pytest.approx(b.degree(400.0), rel=1e-9)


@pytest.mark.long
def test_what_nobody_wants_any_more_ends_early(qtbot: QtBot, heard: Heard) -> None:
    """A new one of its channel that replaces: the old one ends where it asks; without that word it goes on to its
    end."""
    for replaces, least, most in ((True, 0, 60), (False, 100, 100)):
        before = len(heard.given)
        pool().run("echo", "old", (lindmere(), 100), heard.done, channel="c")
        qtbot.waitUntil(lambda: any(w.task is not None and w.task.begun for w in pool().workers), timeout=5000)
        qtbot.wait(100)
        pool().run("echo", "new", (lindmere(), 3), heard.done, channel="c", replaces=replaces)
        wait(qtbot, heard, before + 2)
        given = dict(heard.given[before:])
        assert given["new"] == 3
        assert least <= given["old"] <= most
