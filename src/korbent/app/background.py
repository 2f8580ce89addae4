"""Work outside the window's thread. What it gives carries what it was asked for, so that what is out of date is
dropped."""

import logging
from collections.abc import Callable
from contextlib import suppress
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from korbent.files.faults import details, kept


class _Told(QObject):
    done = Signal(object, object)


class Job(QRunnable):
    """Calls a function in another thread; ``done`` gives the token and the result to the window's thread.

    A function that fails gives None, and the failure to the log: the window goes on.
    """

    def __init__(self, token: object, function: Callable[[], Any]) -> None:
        super().__init__()
        self.token, self.function = token, function
        self.told = _Told()
        self.setAutoDelete(False)

    def run(self) -> None:
        try:
            result = self.function()
        except Exception as error:
            logging.getLogger("korbent").exception("a background job failed")
            kept(details(type(error), error, error.__traceback__))
            result = None
        with suppress(RuntimeError):  # the program has ended meanwhile: nobody is left to be told
            self.told.done.emit(self.token, result)
        _running.discard(self)


_running: set[Job] = set()
"""Jobs under way: they outlive what asked for them."""


def start(token: object, function: Callable[[], Any], done: Callable[[object, Any], None]) -> Job:
    """Starts a job. ``done`` is best a method of a widget: then nobody is told once that widget is gone."""
    job = Job(token, function)
    _running.add(job)
    job.told.done.connect(done)
    QThreadPool.globalInstance().start(job)
    return job


def busy() -> bool:
    """Some job is under way."""
    return bool(_running)
