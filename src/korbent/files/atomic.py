"""Files are written whole or not at all: beside the old one first, then in its place."""

import hashlib
import os
import re
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from korbent.words import say

PART = re.compile(r"\.korbent-(\d+)-\w+\.part")
LONGEST = 240
"""Bytes of a file name that systems take, with what is put before it."""


@contextmanager
def replacing(path: Path) -> Iterator[Path]:
    """A path to write to; what was written there takes the place of ``path`` when the block ends well, else the old
    file stays.

    A symbolic link is followed, permissions are kept; what a killed run left behind in the folder goes.

    Raises:
        OSError: when the folder or the file cannot be written, the file is read-only, or the name is too long.
    """
    target = Path(os.path.realpath(path))
    if len(os.fsencode(target.name)) > LONGEST:
        raise OSError(36, say("the name is too long: choose one of less than 240 letters"))
    if target.is_dir():
        raise IsADirectoryError(21, say("this is a folder: name a file in it"))
    if target.exists() and not os.access(target, os.W_OK):
        raise PermissionError(13, say("the file is read-only: save under another name, or allow writing"))
    sweep(target.parent)
    handle, name = tempfile.mkstemp(dir=target.parent, prefix=f".korbent-{os.getpid()}-", suffix=".part")
    os.close(handle)
    temporary = Path(name)
    try:
        yield temporary
        with temporary.open("rb+") as file:
            os.fsync(file.fileno())
        temporary.chmod(_mode(target))
        temporary.replace(target)
    except BaseException:
        temporary.unlink(missing_ok=True)
        raise
    with suppress(OSError):  # some systems cannot open a folder
        folder = os.open(target.parent, os.O_RDONLY)
        try:
            os.fsync(folder)
        finally:
            os.close(folder)


def write_whole(path: Path, data: bytes) -> None:
    """Writes a file whole (see :func:`replacing`)."""
    with replacing(path) as temporary:
        temporary.write_bytes(data)


def sweep(folder: Path) -> None:
    """Removes what runs that are gone left in a folder while writing."""
    with suppress(OSError):
        for entry in os.scandir(folder):
            match = PART.fullmatch(entry.name)
            if match and not alive(int(match[1])):
                with suppress(OSError):
                    os.unlink(entry.path)


def alive(pid: int) -> bool:
    """Whether a process runs."""
    try:
        os.kill(pid, 0)
    except (ProcessLookupError, OverflowError):
        return False
    except PermissionError:
        return True
    return True


def stamp_of(path: Path) -> str:
    """What tells one content of a file from another; '' where there is no file."""
    try:
        return hashlib.sha256(Path(path).read_bytes()).hexdigest()[:24]
    except OSError:
        return ""


def _mode(target: Path) -> int:
    if target.exists():
        return target.stat().st_mode & 0o777
    mask = os.umask(0)
    os.umask(mask)
    return 0o666 & ~mask
