"""One window for all files: a file that is opened while the program runs goes to the window that is there."""

import os
import socket
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from PySide6.QtCore import QObject, QSocketNotifier

from korbent.files.folders import state_folder

TAKEN = b"taken\n"
WAIT = 1.5
"""Seconds that a window has to answer."""
LONGEST = 10_000
"""Bytes of a path."""


def door() -> Path:
    """The socket at which the window listens: of this user alone, gone with the session where the system has a place
    for such."""
    runtime = os.environ.get("XDG_RUNTIME_DIR", "")
    named = os.environ.get("KORBENT_STATE")
    folder = Path(runtime) if runtime and not named and Path(runtime).is_dir() else state_folder()
    return folder / "korbent.window"


def handed_over(path: Path) -> bool:
    """Asks a window that is there to open a file; False where none answers."""
    with suppress(OSError), socket.socket(socket.AF_UNIX) as line:
        line.settimeout(WAIT)
        line.connect(str(door()))
        line.sendall(str(path.resolve()).encode("utf-8", "surrogateescape") + b"\n")
        return line.recv(len(TAKEN)) == TAKEN
    return False


class Listening(QObject):
    """Tells of files that other starts of the program hand over."""

    def __init__(self, opened: Callable[[Path], None], parent: QObject) -> None:
        super().__init__(parent)
        self.opened = opened
        self.line: socket.socket | None = None
        path = door()
        if _answers(path):
            return  # another window listens
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            path.unlink(missing_ok=True)
            line = socket.socket(socket.AF_UNIX)
            line.bind(str(path))
            path.chmod(0o600)
            line.listen(4)
            line.setblocking(False)
        except OSError:
            return  # files then open in windows of their own
        self.line = line
        self.notifier = QSocketNotifier(line.fileno(), QSocketNotifier.Type.Read, self)
        self.notifier.activated.connect(lambda *_: self._called())

    def _called(self) -> None:
        if self.line is None:
            return
        with suppress(OSError):
            other, _ = self.line.accept()
            with other:
                other.settimeout(WAIT)
                data = b""
                while not data.endswith(b"\n") and len(data) < LONGEST:
                    part = other.recv(LONGEST)
                    if not part:
                        return
                    data += part
                other.sendall(TAKEN)
            self.opened(Path(data.decode("utf-8", "surrogateescape").rstrip("\n")))

    def end(self) -> None:
        """No longer."""
        if self.line is not None:
            self.notifier.setEnabled(False)
            self.line.close()
            self.line = None
            door().unlink(missing_ok=True)


def _answers(path: Path) -> bool:
    with suppress(OSError), socket.socket(socket.AF_UNIX) as line:
        line.settimeout(WAIT)
        line.connect(str(path))
        return True
    return False
