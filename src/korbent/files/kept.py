"""Kept states of projects: the last saved ones and others with a name and a reason, a file each, bounded in number and
size."""

import datetime
import hashlib
import json
import os
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from korbent.core.model import Project
from korbent.files.atomic import stamp_of, write_whole
from korbent.files.folders import state_folder
from korbent.files.project_file import ProjectFileError, content_of, project_of, read_json

FORMAT = "korbent kept state"
MOST = 20
"""Saved states of one project that are kept."""
LARGEST = 200_000_000
"""Bytes that all kept states take at most."""


@dataclass(frozen=True)
class Kept:
    """One kept state."""

    file: Path
    path: Path | None
    """The project file that it belongs to."""
    time: datetime.datetime
    reason: str
    name: str
    stamp: str
    """Of the project file at that time."""
    what: tuple[str, ...]
    """What had changed against the state before."""

    def project(self) -> Project:
        """The state itself.

        Raises:
            ProjectFileError: when it is damaged.
        """
        content = read_json(self.file)
        return project_of(content.get("content", {}), self.file)


NAMED = "-named"
"""At the end of the file of a state that was given a name."""


class Store:
    """The kept states of all projects of this user."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = (folder or state_folder()) / "kept"

    def keep(
        self, project: Project, path: Path, reason: str, name: str = "", what: tuple[str, ...] = ()
    ) -> Path | None:
        """Keeps a state; None where that cannot be done: work goes on, it is only a copy."""
        now = datetime.datetime.now(datetime.UTC)
        own = self._of(path)
        data = {
            "format": FORMAT,
            "path": str(path.resolve()),
            "time": now.isoformat(),
            "reason": reason,
            "name": name,
            "stamp": stamp_of(path),
            "what": list(what[:20]),
            "content": content_of(project),
        }
        target = own / f"{now:%Y%m%d-%H%M%S-%f}{NAMED * bool(name)}.json"
        try:
            own.mkdir(parents=True, exist_ok=True)
            write_whole(target, json.dumps(data, ensure_ascii=False).encode())
            self._bound(own)
        except OSError:
            return None
        return target

    def of(self, path: Path) -> list[Kept]:
        """The kept states of a project file, the newest first; damaged ones are passed over."""
        found = []
        for file in sorted(self._of(path).glob("*.json"), reverse=True):
            with suppress(OSError, ValueError, KeyError, TypeError, ProjectFileError):
                found.append(_read(file))
        return found

    def _of(self, path: Path) -> Path:
        return self.folder / hashlib.sha256(os.fsencode(path.resolve())).hexdigest()[:24]

    def _bound(self, own: Path) -> None:
        """The oldest saved states go first; named ones stay."""
        plain = [f for f in sorted(own.glob("*.json")) if not f.stem.endswith(NAMED)]
        for file in plain[:-MOST]:
            file.unlink(missing_ok=True)
        every = sorted(self.folder.glob("*/*.json"), key=lambda f: f.stat().st_mtime)
        size = sum(f.stat().st_size for f in every)
        for file in every[:-1]:
            if size <= LARGEST:
                break
            size -= file.stat().st_size
            file.unlink(missing_ok=True)


def _read(file: Path) -> Kept:
    data: dict[str, Any] = read_json(file)
    if data["format"] != FORMAT:
        raise ValueError(file)
    path = data["path"]
    return Kept(
        file,
        Path(path) if path else None,
        datetime.datetime.fromisoformat(data["time"]),
        str(data["reason"]),
        str(data["name"]),
        str(data["stamp"]),
        tuple(map(str, data["what"])),
    )
