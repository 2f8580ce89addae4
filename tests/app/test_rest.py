"""Garbage is looked for in pauses: no step pays for it, and nothing that is garbage stays."""

import gc
import weakref

import pytest
from pytestqt.qtbot import QtBot

from korbent.app import rest as resting
from korbent.app.rest import rest
from korbent.demo import lindmere
from tests.app.test_window import opened


class Ring:
    """Garbage that only a search finds."""

    def __init__(self) -> None:
        self.itself = self


@pytest.mark.long
def test_old_garbage_is_not_looked_for_in_the_middle_of_work(qtbot: QtBot) -> None:
    window = opened(qtbot, lindmere())
    seen: list[int] = []

    def watch(phase: str, info: dict[str, int]) -> None:
        if phase == "start":
            seen.append(info["generation"])

    young, middle, old = gc.get_threshold()
    gc.set_threshold(700, 10, old)  # as it is outside of tests
    gc.callbacks.append(watch)
    try:
        for step in range(40):
            window.session.change_by("width", 0.05 if step % 2 else -0.05)
    finally:
        gc.callbacks.remove(watch)
        gc.set_threshold(young, middle, old)
    assert seen  # the young are looked at
    assert 2 not in seen


@pytest.mark.long
def test_garbage_goes_in_the_next_pause(qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    window = opened(qtbot, lindmere())
    gc.collect()
    lost = weakref.ref(Ring())
    rest()._timer.setInterval(50)
    try:
        window.session.change_by("width", 0.05)
        before = rest().times
        qtbot.waitUntil(lambda: rest().times > before, timeout=5000)
        assert lost() is None
        # what was looked at once and became garbage later goes with a later search
        late = Ring()
        lost = weakref.ref(late)
        rest().tidy()
        del late
        for _ in range(resting.WHOLE):
            rest().tidy()
        assert lost() is None
    finally:
        rest()._timer.setInterval(resting.PAUSE)


@pytest.mark.long
def test_a_pause_is_not_put_off_for_ever(qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    opened(qtbot, lindmere())
    monkeypatch.setattr(resting, "AT_LAST", 0.2)
    rest()._timer.setInterval(120)
    rest()._since = None
    try:
        before = rest().times
        for _ in range(20):
            rest().soon()
            qtbot.wait(30)
        assert rest().times > before
    finally:
        rest()._timer.setInterval(resting.PAUSE)
