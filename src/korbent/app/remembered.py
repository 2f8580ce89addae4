"""What the window remembers from one run to the next: its place, its colours, its dividers, the folder of the last
file."""

import json
import logging
from contextlib import suppress
from logging.handlers import RotatingFileHandler
from pathlib import Path

from PySide6.QtCore import QByteArray
from PySide6.QtGui import QGuiApplication, Qt
from PySide6.QtWidgets import QWidget

from korbent.app.divided import Shares
from korbent.drawing.theme import DARK, LIGHT, THEMES, Theme
from korbent.files.atomic import write_whole
from korbent.files.folders import state_folder
from korbent.words import say

LARGEST_LOG = 500_000
"""Bytes."""


class Remembered:
    """Read once, written when the window closes. What cannot be read is as if there were nothing."""

    def __init__(self) -> None:
        self.path = state_folder() / "window.json"
        self.geometry, self.theme, self.folder = "", "", ""
        self.dividers: Shares = {}
        with suppress(OSError, ValueError, AttributeError, TypeError):
            data = json.loads(self.path.read_text(encoding="utf-8"))
            for name in ("geometry", "theme", "folder"):
                value = data.get(name, "")
                setattr(self, name, value if isinstance(value, str) else "")
            for name, shares in data.get("dividers", {}).items():
                self.dividers[name] = [float(share) for share in shares]

    def chosen_theme(self) -> Theme:
        """The colours chosen last; else those of the system."""
        return THEMES.get(self.theme) or system_theme()

    def place(self, window: QWidget) -> None:
        """Puts a window where the last one was."""
        with suppress(ValueError):
            window.restoreGeometry(QByteArray(bytes.fromhex(self.geometry)))

    def keep(self, window: QWidget) -> None:
        """Remembers where a window is."""
        self.geometry = bytes(window.saveGeometry().data()).hex()
        with suppress(OSError):  # it is no loss
            self.path.parent.mkdir(parents=True, exist_ok=True)
            write_whole(
                self.path,
                json.dumps(
                    {
                        "geometry": self.geometry,
                        "theme": self.theme,
                        "folder": self.folder,
                        "dividers": dict(self.dividers),
                    }
                ).encode(),
            )


def system_theme() -> Theme:
    """Dark where the system is."""
    return DARK if QGuiApplication.styleHints().colorScheme() == Qt.ColorScheme.Dark else LIGHT


def begin_log() -> Path:
    """Messages of the window go into a file of bounded size from now on."""
    path = state_folder() / "korbent.log"
    log = logging.getLogger("korbent")
    with suppress(OSError):
        path.parent.mkdir(parents=True, exist_ok=True)
        handler = RotatingFileHandler(path, maxBytes=LARGEST_LOG, backupCount=1, encoding="utf-8")
        handler.setFormatter(logging.Formatter(say("%(asctime)s %(message)s")))
        log.addHandler(handler)
        log.setLevel(logging.INFO)
        log.propagate = False
    return path
