"""Work beside the window: results come back with their token, failures as None."""

from pytestqt.qtbot import QtBot

from korbent.app.background import start


def test_a_result_comes_back_with_its_token(qtbot: QtBot) -> None:
    got: list[tuple[object, object]] = []
    token = object()
    job = start(token, lambda: 6 * 7, lambda t, r: got.append((t, r)))
    qtbot.waitUntil(lambda: bool(got), timeout=5000)
    assert got == [(token, 42)]
    assert job.token is token


def test_a_failure_gives_none_and_the_window_goes_on(qtbot: QtBot) -> None:
    got: list[object] = []

    def fails() -> int:
        raise ValueError("no")

    job = start(1, fails, lambda _, r: got.append(r))
    qtbot.waitUntil(lambda: bool(got), timeout=5000)
    assert got == [None]
    assert job.token == 1
