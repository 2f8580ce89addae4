"""Random clicks, keys, drags and answers in the real window: no exception, the window stays usable, nothing that was
typed ends in nonsense."""

import math
import os
import sys
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtGui import QDesktopServices
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from korbent.app.session import Session
from korbent.app.window import MainWindow
from korbent.core.model import Project
from korbent.demo import coombe, lindmere, redstem
from korbent.files.autosave import Autosave
from korbent.files.project_file import save
from tests.attacks.hands import Hands

THOROUGH = bool(os.environ.get("KORBENT_THOROUGH"))
SEED = int(os.environ.get("KORBENT_SEED", "0"))
"""Other random attacks: ``KORBENT_SEED=7 ./test --thorough``."""
STEPS = 500 if THOROUGH else 60
SEEDS = range(10 if THOROUGH else 3)
EXAMPLES = Path(__file__).parents[2] / "examples"


@pytest.mark.long
@pytest.mark.parametrize("seed", SEEDS)
def test_random_hands_end_in_no_exception(
    seed: int, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = (lindmere, coombe, redstem, Project)[seed % 4]()
    save(lindmere(), tmp_path / "other.korbent")
    window = MainWindow(Session(made, patience=(None, 0.0, 0.05)[seed % 3]), autosave=Autosave(tmp_path / "state"))
    window.session.store.folder = tmp_path / "kept"
    hands = Hands(window, seed + 1000 * SEED)
    files = [
        str(tmp_path / "other.korbent"),
        str(EXAMPLES / "lindmere.ags"),
        str(EXAMPLES / "lindmere-loads.csv"),
        "",
    ]

    def opened(*_: Any, **__: Any) -> tuple[str, str]:
        return hands.rng.choice(files), ""

    monkeypatch.setattr(QFileDialog, "getOpenFileName", opened)
    monkeypatch.setattr(
        QFileDialog, "getOpenFileNames", lambda *_: ([f for f in files[1:2] if hands.rng.random() < 0.7], "")
    )
    monkeypatch.setattr(
        QFileDialog,
        "getSaveFileName",
        lambda *a, **_: (
            str(tmp_path / f"out{Path(str(a[2])).suffix}") if hands.rng.random() < 0.5 else "",
            "",
        ),
    )
    monkeypatch.setattr(QDesktopServices, "openUrl", lambda *_: True)
    faults: list[str] = []
    monkeypatch.setattr(MainWindow, "fault", lambda self, line, text: faults.append(f"{line}\n{text}"))
    window.show()
    steps: list[str] = []
    with qtbot.captureExceptions() as exceptions:
        for _ in range(STEPS):
            steps.append(hands.step())
            hands.window = _front(hands.window)
            assert not exceptions, (steps[-4:], exceptions[0])
            assert not faults, (steps[-4:], faults[0])
            for check in hands.window.session.results.all_checks:
                for value in (check.ratio, check.demand, check.capacity):
                    assert value is None or math.isfinite(value), (steps[-4:], check.check.id)
    hands.stop()
    front = _front(hands.window)
    # it can still be worked in, and what stands in it can be saved
    front.session.edit(("title", "author"), "afterwards")
    assert front.session.project.title.author == "afterwards"
    save(front.session.project, tmp_path / "after.korbent")
    slow = sorted(hands.took, reverse=True)[:3]
    print(
        f"\nseed {seed}: the longest steps: " + ", ".join(f"{1000 * t:.0f} ms {what}" for t, what in slow),
        file=sys.stderr,
    )
    front.session.saved = front.session.project
    for widget in QApplication.topLevelWidgets():
        widget.close()


def _front(window: MainWindow) -> MainWindow:
    while window.successor is not None:
        window = window.successor
    return window
