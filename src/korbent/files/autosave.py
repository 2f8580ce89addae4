"""Keeps unsaved work beside the files, so that it is there after a crash."""

import json
import os
from dataclasses import dataclass
from pathlib import Path

from platformdirs import user_state_path

from korbent.core.model import Project
from korbent.files.project_file import ProjectFileError, load, save

MOST_RECENT = 8


def state_folder() -> Path:
    """Where Korbent keeps what it remembers between runs; KORBENT_STATE names another folder."""
    named = os.environ.get("KORBENT_STATE")
    return Path(named) if named else user_state_path("korbent")


@dataclass(frozen=True)
class Recovered:
    """Work of a run that ended without closing."""

    project: Project
    path: Path | None
    """The file that was open, if any."""
    copy: Path

    def drop(self) -> None:
        """Forgets it."""
        self.copy.unlink(missing_ok=True)
        _note(self.copy).unlink(missing_ok=True)


def _note(copy: Path) -> Path:
    return copy.with_suffix(".json")


class Autosave:
    """The copy of this run's unsaved work."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = (folder or state_folder()) / "unsaved"
        self.copy = self.folder / f"{os.getpid()}.korbent"

    def keep(self, project: Project, path: Path | None) -> None:
        """Writes the copy. Work goes on when that fails: it is only a copy."""
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            _note(self.copy).write_text(json.dumps({"path": str(path.resolve()) if path else None}))
            save(project, self.copy)
        except OSError:
            self.drop()

    def drop(self) -> None:
        """Removes the copy: all is saved or given up."""
        for file in (self.copy, _note(self.copy)):
            try:
                file.unlink(missing_ok=True)
            except OSError:
                return

    def orphans(self) -> list[Recovered]:
        """Copies of runs that are gone, the newest first; unreadable ones are left alone."""
        found = []
        copies = sorted(self.folder.glob("*.korbent"), key=lambda p: p.stat().st_mtime, reverse=True)
        for copy in copies:
            if copy.stem.isdigit() and not _alive(int(copy.stem)):
                try:
                    name = json.loads(_note(copy).read_text()).get("path")
                    found.append(Recovered(load(copy), Path(name) if name else None, copy))
                except (OSError, ValueError, ProjectFileError):
                    continue
        return found


def _alive(pid: int) -> bool:
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    return True


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
    try:
        where.mkdir(parents=True, exist_ok=True)
        (where / "recent.json").write_text(json.dumps(names[:MOST_RECENT]))
    except OSError:
        return
