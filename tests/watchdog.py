"""Says which turns of the interface's thread took long: an event with all that it set off, in processor time of that
thread."""

import os
import time

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QApplication

LONG = float(os.environ.get("KORBENT_LONG_TURN", "0.1"))
"""Seconds from which on a turn is named at the end of the run."""

Turns = dict[str, float]
"""Seconds by what took them: the longest of each test, receiver and kind of event."""
found: Turns = {}


class Watched(QApplication):
    """The application of the tests. An event within another one belongs to the outer one."""

    inside = False

    def notify(self, receiver: QObject, event: QEvent) -> bool:
        """Delivers an event."""
        if Watched.inside:
            return super().notify(receiver, event)
        Watched.inside = True
        begun = time.thread_time()
        try:
            return super().notify(receiver, event)
        finally:
            Watched.inside = False
            took = time.thread_time() - begun
            if took > LONG:
                test = os.environ.get("PYTEST_CURRENT_TEST", "").split(" ")[0]
                what = f"{test} {type(receiver).__name__} {QEvent.Type(event.type()).name}"
                found[what] = max(took, found.get(what, 0.0))


def words() -> list[str]:
    """One line on all, then the longest."""
    longest = sorted(found.items(), key=lambda item: -item[1])
    return [
        f"turns of the interface over {LONG:g} s: {len(found)}",
        *(f"{s:6.2f} s {what}" for what, s in longest[:20]),
    ]
