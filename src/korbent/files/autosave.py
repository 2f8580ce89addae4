"""Keeps unsaved work beside the files, so that it is there after a crash, and notes which files are open."""

import datetime
import hashlib
import json
import os
import uuid
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path

from korbent.core.model import Project
from korbent.files.atomic import alive, stamp_of, write_whole
from korbent.files.folders import state_folder
from korbent.files.project_file import ProjectFileError, content_of, project_of, read_json

MOST_RECENT = 8
FORMAT = "korbent unsaved work"


@dataclass(frozen=True)
class Recovered:
    """Work of a run that ended without closing."""

    project: Project
    path: Path | None
    """The file that was open, if any."""
    copy: Path
    time: datetime.datetime
    stamp: str
    """Of that file while the copy was kept."""

    @property
    def is_newer_than_file(self) -> bool:
        """The file is still the one that the work began from, or was saved to before the copy."""
        if self.path is None or not self.path.exists():
            return True
        return stamp_of(self.path) == self.stamp

    def drop(self) -> None:
        """Forgets it."""
        with suppress(OSError):
            self.copy.unlink(missing_ok=True)


@dataclass
class Autosave:
    """The copy of this run's unsaved work: one file, whole at any moment."""

    folder: Path = field(default_factory=lambda: state_folder())
    damaged: list[str] = field(default_factory=list)
    """Copies that could not be read, to be told once."""

    def __post_init__(self) -> None:
        self.folder = self.folder / "unsaved"
        self.copy = self.folder / f"{os.getpid()}-{uuid.uuid4().hex[:12]}.json"

    def keep(self, project: Project, path: Path | None) -> bool:
        """Writes the copy; an earlier one stays until the new one is whole. Work goes on when that fails: it is only a
        copy."""
        data = {
            "format": FORMAT,
            "path": str(path.resolve()) if path else None,
            "time": datetime.datetime.now(datetime.UTC).isoformat(),
            "stamp": stamp_of(path) if path else "",
            "content": content_of(project),
        }
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            write_whole(self.copy, json.dumps(data, ensure_ascii=False).encode())
        except OSError:
            return False
        return True

    def drop(self) -> None:
        """Removes the copy: all is saved or given up."""
        with suppress(OSError):
            self.copy.unlink(missing_ok=True)

    def orphans(self, path: Path | None = None, every: bool = True) -> list[Recovered]:
        """Copies of runs that are gone, the newest first; damaged ones are passed over, with a word.

        Args:
            path, every: of one file only (or of work without a file), or all.
        """
        found = []
        wanted = path.resolve() if path else None
        for copy in self.folder.glob("*.json"):
            pid = copy.stem.partition("-")[0]
            if not pid.isdigit() or copy == self.copy or alive(int(pid)):
                continue
            try:
                data = read_json(copy)
                name = data["path"]
                own = Path(name) if name else None
                if not every and own != wanted:
                    continue
                time = datetime.datetime.fromisoformat(data["time"])
                found.append(Recovered(project_of(data["content"], copy), own, copy, time, str(data["stamp"])))
            except (OSError, ValueError, KeyError, TypeError, ProjectFileError):
                self._passed_over(copy)
        return sorted(found, key=lambda r: r.time, reverse=True)

    def _passed_over(self, copy: Path) -> None:
        if copy.name not in self.damaged:
            self.damaged.append(copy.name)


# ---------------------------------------------------------------- files that are open


class Opened:
    """Which files this run has open, so that a second window on one of them knows."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = (folder or state_folder()) / "open"
        self.note: Path | None = None

    def take(self, path: Path | None) -> bool:
        """Notes that a file is open here; False when another run has it open."""
        self.leave()
        if path is None:
            return True
        name = hashlib.sha256(os.fsencode(path.resolve())).hexdigest()[:24]
        others = [p for p in self.folder.glob(f"{name}-*") if _other(p)]
        self.note = self.folder / f"{name}-{os.getpid()}"
        with suppress(OSError):
            self.folder.mkdir(parents=True, exist_ok=True)
            self.note.write_text("")
        return not others

    def leave(self) -> None:
        """The file is open here no more."""
        if self.note:
            with suppress(OSError):
                self.note.unlink(missing_ok=True)
        self.note = None


def _other(note: Path) -> bool:
    pid = note.name.rpartition("-")[2]
    if not pid.isdigit() or not alive(int(pid)):
        with suppress(OSError):
            note.unlink(missing_ok=True)
        return False
    return int(pid) != os.getpid()


# ---------------------------------------------------------------- recent files


def recent_files(folder: Path | None = None) -> list[Path]:
    """Files opened or saved lately that are still there, the last one first."""
    try:
        names = json.loads(((folder or state_folder()) / "recent.json").read_text())
        return [Path(name) for name in names if Path(name).exists()]
    except (OSError, ValueError, TypeError):
        return []


def remember_file(path: Path, folder: Path | None = None) -> None:
    """Puts a file at the head of the recent ones."""
    where = folder or state_folder()
    names = [str(path.resolve()), *(str(p) for p in recent_files(where) if p != path.resolve())]
    with suppress(OSError):
        where.mkdir(parents=True, exist_ok=True)
        write_whole(where / "recent.json", json.dumps(names[:MOST_RECENT]).encode())
