"""Shared fixtures. Windows are made offscreen unless the environment says otherwise."""

import gc
import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # as the program itself sets it

from collections.abc import Generator
from typing import Any

import pytest
from hypothesis import HealthCheck, settings
from PySide6.QtCore import QCoreApplication, QEvent
from PySide6.QtWidgets import QApplication

from korbent.core.model import Project
from korbent.demo import lindmere
from korbent.verification.pad import one_pad
from tests import watchdog

# windows and results of many tests live side by side: looking through all of them for garbage took a sixth of the time
gc.set_threshold(50_000, 20, 1_000)

THOROUGH = bool(os.environ.get("KORBENT_THOROUGH"))
WHOLE = THOROUGH or bool(os.environ.get("KORBENT_WHOLE"))
"""Also tests that take a second or more: ``./test --whole``, before a change is handed in."""
EXAMPLES = 300 if THOROUGH else 15 if WHOLE else 8
"""Random examples of a property; ``./test --thorough`` looks at many more."""

settings.register_profile(
    "korbent",
    derandomize=bool(os.environ.get("CI")),  # the same cases on every run there; new ones at the desk
    deadline=None,
    max_examples=EXAMPLES,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
    database=None,
)
settings.load_profile("korbent")


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """The long ones are left out, unless one is asked for by its name."""
    if THOROUGH or any("::" in arg for arg in config.args):
        return
    left_out = ("thorough",) if WHOLE else ("thorough", "long")
    long = [item for item in items if any(item.get_closest_marker(name) for name in left_out)]
    if long:
        config.hook.pytest_deselected(items=long)
        items[:] = [item for item in items if item not in long]


@pytest.fixture(autouse=True)
def state(tmp_path_factory: pytest.TempPathFactory, monkeypatch: pytest.MonkeyPatch) -> None:
    """No test reads or writes what Korbent remembers on this machine."""
    monkeypatch.setenv("KORBENT_STATE", str(tmp_path_factory.mktemp("state")))


@pytest.fixture(scope="session")
def demo() -> Project:
    """The Lindmere project with its pads, before core, waiting room and strap were designed."""
    whole = lindmere()
    return whole.replaced(pads=tuple(p for p in whole.pads if p.kind == "pad"), straps=())


@pytest.fixture
def single() -> Project:
    """One pad on one soil, all combinations with factors of one."""
    return one_pad()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_teardown(item: pytest.Item) -> Generator[None, Any, Any]:
    """Windows that a test closed go for good: nothing else sends what they wait for, and each that stays slows down all
    that follow."""
    found = yield
    if QCoreApplication.instance() is not None:
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    return found


@pytest.fixture(scope="session")
def qapp_cls() -> type[QApplication]:
    """Every window of the tests lives in an application that looks at the time its turns take; that costs a quarter of
    the time of windows, so ``./test`` alone does without."""
    return watchdog.Watched if WHOLE else QApplication


def pytest_sessionfinish(session: pytest.Session) -> None:
    """A process beside tells what it saw."""
    told = getattr(session.config, "workeroutput", None)
    if told is not None:
        told["turns"] = watchdog.found


@pytest.hookimpl(optionalhook=True)
def pytest_testnodedown(node: Any) -> None:
    """Takes what a process beside saw."""
    watchdog.found.update(getattr(node, "workeroutput", {}).get("turns", {}))


def pytest_terminal_summary(terminalreporter: Any) -> None:
    """Names the long turns: said, not asserted, as the time of one turn depends on the machine."""
    if watchdog.found:
        terminalreporter.section("watchdog")
        for line in watchdog.words():
            terminalreporter.line(line)
