"""What a worker was asked for, kept for as long as it belongs to what is shown, and after that marked as out of
date."""

from collections.abc import Callable
from operator import is_
from typing import Any

from PySide6.QtCore import QObject

from korbent.app.workers import pool
from korbent.words import say

COMPUTED = say("being computed")
OUT_OF_DATE = say("out of date, being computed")
FAILED = say("could not be computed")


class Asked(QObject):
    """One thing at a time from a job (see korbent.jobs). ``found`` is what came last, ``state`` '' where that belongs
    to what was asked for last."""

    def __init__(self, job: str, then: Callable[[], None], parent: QObject, channel: str = "") -> None:
        super().__init__(parent)
        self.job, self.then, self.channel = job, then, channel or job
        self.found: Any = None
        self.state = COMPUTED
        self.belongs: tuple[object, ...] = ()
        """What it was asked for."""

    def want(self, belongs: tuple[object, ...], args: tuple[Any, ...], first: bool = False) -> None:
        """Asks, unless the very same is there or on its way; what was found for something else before stays, marked.

        ``belongs``: what the answer depends on, compared by identity but for names and numbers.
        """
        if same(belongs, self.belongs):
            return
        self.belongs = belongs
        self.state = COMPUTED if self.found is None else OUT_OF_DATE
        pool().run(self.job, belongs, args, self._came, channel=self.channel, first=first, replaces=True)

    def leave(self) -> None:
        """What is on its way is not wanted any more; what was found stays, for what it was found for."""
        if self.state:
            pool().leave(self.channel)
            self.belongs = ()

    def forget(self) -> None:
        """What was found belongs to something else altogether."""
        self.found, self.state, self.belongs = None, COMPUTED, ()

    def _came(self, belongs: tuple[object, ...], found: Any) -> None:
        if not same(belongs, self.belongs):
            return
        self.state = "" if found is not None else FAILED
        self.found = self.found if found is None else found
        self.then()


def same(a: tuple[object, ...], b: tuple[object, ...]) -> bool:
    """Names and numbers are equal, all else is the very same."""
    plain = (str, int, float, bool)
    return len(a) == len(b) and all(
        x == y if isinstance(x, plain) and isinstance(y, plain) else is_(x, y) for x, y in zip(a, b)
    )
