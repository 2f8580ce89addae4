"""The session: history, selection, saving, without any window."""

import math
import random
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import Any

import pytest

from korbent.app.session import Session
from korbent.core.model import Project, value_at
from korbent.core.model.frozen import Frozen
from korbent.files.project_file import load
from tests.conftest import THOROUGH


@pytest.fixture
def session(demo: Project) -> Session:
    return Session(demo)


@pytest.mark.long
def test_undo_and_redo_go_along_the_same_projects(session: Session, demo: Project) -> None:
    session.select("P7")
    assert session.change_by("width", 0.1) == ""
    second = session.project
    session.change_by("width", 0.1)
    session.undo()
    assert session.project is second
    session.undo()
    assert session.project is demo
    session.undo()
    assert session.project is demo
    session.redo()
    assert session.project is second
    session.change_by("length", 0.1)
    session.redo()
    assert session.pad is not None
    assert session.pad.length == pytest.approx(2.6)


def test_a_wrong_edit_changes_nothing(session: Session, demo: Project) -> None:
    assert "greater than 0" in session.edit(("pads", "P7", "width"), -1.0)
    assert "column" in session.edit(("pads", "P7", "load_point"), "Z9")
    assert "nothing is called" in session.edit(("pads", "P99", "width"), 1.0)
    assert session.project is demo
    assert len(session.history) == 1


def test_an_edit_to_the_same_value_is_none(session: Session, demo: Project) -> None:
    assert session.edit(("pads", "P7", "width"), demo.pad("P7").width) == ""
    assert session.project is demo


def test_renaming_the_selected_pad_keeps_it_selected(session: Session) -> None:
    session.select("P7")
    session.edit(("pads", "P7", "name"), "F7")
    assert session.selected == "F7"
    assert session.result is not None
    session.undo()
    assert session.pad is not None


def test_saving(session: Session, tmp_path: Path) -> None:
    assert not session.is_saved
    with pytest.raises(OSError, match="no file"):
        session.save()
    session.save(tmp_path / "a.korbent")
    assert session.is_saved
    session.change_by("width", 0.1)
    assert not session.is_saved
    session.undo()
    assert session.is_saved
    assert load(tmp_path / "a.korbent") == session.project


def test_acceptance_needs_a_reason_and_a_ratio(session: Session) -> None:
    session.select("P8")
    assert "reason" in session.accept("presumed-pressure", " ")
    assert session.accept("sliding-undrained", "because") == "there is nothing to accept"
    assert session.accept("presumed-pressure", "peak only in gusts") == ""
    assert session.result is not None
    assert session.result.check("presumed-pressure").state.value == "accepted"


def test_selection_goes_round(session: Session) -> None:
    session.select("P1")
    session.select_next(-1)
    assert session.selected == "P14"
    session.select_next(1)
    assert session.selected == "P1"


def test_listeners_hear_of_changes(session: Session) -> None:
    heard: list[str] = []
    session.listen(lambda _: heard.append(session.selected), "changed")
    session.select("P3")
    session.change_by("width", 0.1)
    assert heard == ["P3", "P3"]
    messages: list[str] = []
    session.listen(lambda _: messages.append(session.message), "said")
    session.announce("hello")
    assert messages == ["hello"]
    assert len(heard) == 2
    every: list[str] = []
    session.listen(lambda event: every.append(event.kind))
    session.select_check("punching")
    session.select("P5")
    session.announce("there")
    assert every == ["looked", "changed", "said"]
    session.forget_listeners()
    session.select("P6")
    assert len(every) == 3


def numbers(here: Any, path: tuple[str | int, ...] = ()) -> Iterator[tuple[str | int, ...]]:
    """Paths to all numbers of a project."""
    if isinstance(here, Frozen):
        for name in type(here).model_fields:
            yield from numbers(getattr(here, name), (*path, name))
    elif isinstance(here, tuple):
        for i, item in enumerate(here):
            yield from numbers(item, (*path, getattr(item, "name", getattr(item, "number", i))))
    elif isinstance(here, Mapping):
        for key, item in here.items():
            yield from numbers(item, (*path, key))
    elif isinstance(here, float):
        yield path


@pytest.mark.long
def test_random_edits_never_crash_and_never_give_nan(demo: Project) -> None:
    """Any number made smaller, larger, negative or zero: refused with a word, or computed."""
    chance = random.Random(8)
    session = Session(demo)
    paths = list(numbers(demo))
    done = refused = 0
    for i in range(220 if THOROUGH else 140):
        path = chance.choice(paths)
        old = value_at(session.project, path)
        if old is None:
            continue
        value = chance.choice([old * chance.uniform(0.2, 3), -old, 0.0, old + chance.uniform(-5, 5), old * 100])
        if session.edit(path, value):
            refused += 1
            continue
        done += 1
        for check in session.results.all_checks:
            for number in (check.ratio, check.demand, check.capacity):
                assert number is None or math.isfinite(number), (path, value, check)
        if i % 30 == 0:
            assert all(e.ratio is None or math.isfinite(e.ratio) for e in session.effects())
        if done % 12 == 0:
            while session.position:
                session.undo()
    assert done > 60
    assert refused > 10
