"""Files are read beside the window: how far it is, and a way to leave off; short ones without a word."""

from collections.abc import Callable
from functools import partial
from threading import Event
from typing import Any

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QProgressDialog, QWidget

from korbent.app.background import start
from korbent.files.watched import StoppedError, watched
from korbent.words import say

AFTER = 400
"""Milliseconds until a word is shown."""


class Reading(QObject):
    """Reads by a function in another thread and gives what it returns, or the error, to ``done`` or ``failed``."""

    told = Signal(str)

    def __init__(
        self,
        parent: QWidget,
        what: str,
        read: Callable[[], Any],
        done: Callable[[Any], None],
        failed: Callable[[str], None],
        errors: tuple[type[Exception], ...],
    ) -> None:
        super().__init__(parent)
        self._done, self._failed, self._errors = done, failed, errors
        self._stop = Event()
        self.over = False
        """It has ended: shown, refused or left off."""
        self.dialog = QProgressDialog(say("Reading {what} …", what=what), say("Leave off"), 0, 0, parent)
        self.dialog.setWindowTitle(say("Reading"))
        self.dialog.setWindowModality(Qt.WindowModality.WindowModal)
        self.dialog.setMinimumDuration(AFTER)
        self.dialog.setMinimumWidth(360)
        self.dialog.canceled.connect(self.leave_off)
        self.told.connect(lambda text: self.dialog.setLabelText(say("Reading {what} … {text}", what=what, text=text)))
        self.dialog.setValue(0)
        start(self, partial(self._read, read), self._ended)

    def leave_off(self) -> None:
        """The result is not wanted any more: nothing changes."""
        self._stop.set()
        self.dialog.close()
        self._failed(say("left off: nothing was read"))

    def _tell(self, text: str) -> None:
        if self._stop.is_set():
            raise StoppedError
        try:
            self.told.emit(text)
        except RuntimeError:  # the window is gone: nobody is left to be told
            raise StoppedError from None

    def _read(self, read: Callable[[], Any]) -> tuple[str, Any]:
        try:
            with watched(self._tell):
                return "", read()
        except StoppedError:
            return "", None
        except self._errors as error:
            return str(error), None

    def _ended(self, _: object, found: object) -> None:
        wanted, self.over = not self._stop.is_set(), True
        self.dialog.canceled.disconnect()
        self.dialog.reset()
        self.dialog.deleteLater()
        self.deleteLater()
        if not wanted:
            return
        if not isinstance(found, tuple):
            self._failed(say("the file could not be read: a fault of the program, kept with its details"))
            return
        problem, value = found
        if problem:
            self._failed(problem)
        else:
            self._done(value)
