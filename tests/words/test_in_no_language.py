"""A language that is made up changes every text of the window and of the sheets, and no number."""

import json
import os
import subprocess
import sys
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import pytest

ROOT = Path(__file__).parents[2]
THOROUGH = bool(os.environ.get("KORBENT_THOROUGH"))


def run(spoken: str, module: str, *words: str, **more: str) -> Any:
    """What a program of its own gives in a language; whatever it saves goes where nobody minds."""
    with TemporaryDirectory() as folder:
        done = _done(folder, spoken, module, words, more)
    assert done.returncode == 0, done.stderr[-3000:]
    assert "Error" not in done.stderr, done.stderr[-3000:]
    return json.loads(done.stdout)


def _done(
    folder: str, spoken: str, module: str, words: tuple[str, ...], more: dict[str, str]
) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", module, *words],
        capture_output=True,
        encoding="utf-8",
        cwd=folder,
        timeout=1800,
        env={
            **os.environ,
            "KORBENT_LANGUAGE": spoken,
            "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}",
            "PYTHONIOENCODING": "utf-8",
            "QT_QPA_PLATFORM": "offscreen",
            "KORBENT_STATE": folder,
            **more,
        },
    )


def english_left(what: str, demo: str, **more: str) -> list[str]:
    return [" | ".join(row[1:]) for row in run("made-up", "tests.words.in_no_language", what, demo, **more)]


def test_nothing_in_the_window_is_left_in_english() -> None:
    assert english_left("window", "redstem", KORBENT_QUICK="1") == []


@pytest.mark.long
def test_the_walk_finds_english_where_it_is_spoken() -> None:
    found = run("en", "tests.words.in_no_language", "window", "redstem", KORBENT_QUICK="1")
    texts = {row[3] for row in found}
    kinds = {row[2] for row in found}
    assert len(texts) > 500
    assert {"text", "tip", "name", "cell", "head", "drawing", "painted", "page", "choice", "action"} <= kinds
    assert {"Bearing", "Settlement"} <= texts


@pytest.mark.long
@pytest.mark.parametrize("demo", ["redstem", "coombe", "lindmere", "hollin", ""])
def test_nothing_in_the_whole_window_is_left_in_english(demo: str) -> None:
    assert english_left("window", demo) == []


@pytest.mark.long
@pytest.mark.parametrize("demo", ["redstem", "lindmere", "coombe", "hollin"])
def test_nothing_on_the_sheets_is_left_in_english(demo: str) -> None:
    assert english_left("sheets", demo) == []


@pytest.mark.long
@pytest.mark.parametrize("seed", range(1, 6 if THOROUGH else 2))
def test_random_hands_find_no_english(seed: int) -> None:
    assert english_left("by_chance", "redstem", KORBENT_SEED=str(seed)) == []


@pytest.mark.parametrize(
    "demo",
    ["redstem", *(pytest.param(d, marks=pytest.mark.long) for d in ("lindmere", "coombe", "hollin"))],
)
def test_another_language_changes_no_number(demo: str) -> None:
    here, there = (run(spoken, "tests.words.numbers", demo) for spoken in ("en", "made-up"))
    assert len(here[demo]) > 40
    for own, other in zip(here[demo], there[demo], strict=True):
        assert own == other
