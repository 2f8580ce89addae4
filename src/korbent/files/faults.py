"""What is told of a fault of the program: one line, and details to send, kept in a file."""

import datetime
import sys
import traceback
from contextlib import suppress
from pathlib import Path
from types import TracebackType

from korbent import __version__
from korbent.files.atomic import write_whole
from korbent.files.folders import state_folder
from korbent.words import say

KEPT = 10


class Guard:
    """Whether faults are told where they happen and work goes on (in the program), or raised (in tests)."""

    on = False


def line_of(error: BaseException) -> str:
    """A fault in one line."""
    said = str(error).splitlines()[0][:160] if str(error) else ""
    return say(
        "a fault of the program ({name}{value}{said})", name=type(error).__name__, value=": " if said else "", said=said
    )


def details(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> str:
    """All that helps to find a fault."""
    text = "".join(traceback.format_exception(kind, error, trace))
    return say(
        "Korbent {version}, Python {split}, {platform}\n{text}",
        version=__version__,
        split=sys.version.split()[0],
        platform=sys.platform,
        text=text,
    )


def kept(text: str) -> Path | None:
    """Keeps the details of a fault in a file; the last ten stay."""
    folder = state_folder() / "faults"
    path = folder / f"{datetime.datetime.now(datetime.UTC):%Y%m%d-%H%M%S-%f}.txt"
    with suppress(OSError):
        folder.mkdir(parents=True, exist_ok=True)
        write_whole(path, text.encode(errors="replace"))
        for old in sorted(folder.glob("*.txt"))[:-KEPT]:
            old.unlink(missing_ok=True)
        return path
    return None
