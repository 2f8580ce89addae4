"""What sheets share in tests."""

from importlib import import_module

import pytest


@pytest.fixture(autouse=True)
def unsolved(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> None:
    """The chapter of strips takes half a minute for each base: it is solved where it is what is looked at."""
    if not request.module.__name__.endswith("strips_chapter"):
        strips = import_module("korbent.sheets.calculation.strips")
        monkeypatch.setattr(strips, "_bound", lambda *_: None)
        monkeypatch.setattr(strips, "_curve", lambda *_: "not solved here")
