"""How Korbent is started: a window at once where one is asked for, else the command line."""

import gc
import os
import sys
from pathlib import Path

COMMANDS = (
    "check",
    "explain",
    "report",
    "sheets",
    "compare",
    "schedule",
    "settlement",
    "strip",
    "example",
    "verify",
    "demo",
    "install",
    "uninstall",
    "open",
)


def has_display() -> bool:
    """A window can be shown."""
    return any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"))


def prepare() -> None:
    """Before anything large is loaded."""
    # what is loaded at the start stays: looking through it for garbage on the way takes a tenth of the time
    gc.disable()
    gc.set_threshold(100_000, 50, 100)
    # the matrices of most checks are small: more threads only wait for each other
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    # nobody adds to the model from outside: looking for who might takes a while
    os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")


def searching_again() -> None:
    """From now on garbage is looked for, in what comes."""
    if not gc.isenabled():
        gc.freeze()
        gc.enable()


IN_WINDOW = "--window"
"""As menus and file managers start it: whatever is wrong is told in the window, as nobody sees what is printed."""


def main() -> None:
    """Entry point. What is no plain way to a window is the command line's; a file that cannot be read too, unless it
    was called from a menu."""
    prepare()
    words = sys.argv[1:]
    from_menu = words[:1] == [IN_WINDOW]
    words = words[from_menu:]
    if has_display() and asks_for_window(words):
        try:
            status = _window(words, from_menu)
        except Exception as error:
            raise SystemExit(fault_told(error)) from None
        if status is not None:
            raise SystemExit(status)
    from korbent.cli import main as command_line

    searching_again()
    command_line(words)


def fault_told(error: Exception) -> int:
    """A fault of the program in a line, with a file of its details; and the status with which it ends."""
    from korbent.files.faults import details, kept, line_of

    path = kept(details(type(error), error, error.__traceback__))
    print(f"korbent: {line_of(error)}{f'; details in {path}' if path else ''}", file=sys.stderr)
    return 2


def asks_for_window(words: list[str]) -> bool:
    """Nothing was said, or just the example or a file."""
    return not words or words == ["demo"] or (len(words) == 1 and words[0] not in COMMANDS and words[0][:1] != "-")


def _window(words: list[str], from_menu: bool) -> int | None:
    """The status with which it was closed; None where the file cannot be read and that is told elsewhere."""
    from korbent.app.main import run
    from korbent.demo.starter import starter
    from korbent.files.project_file import ProjectFileError, load

    if not words:
        return run(starter(), None)
    if words == ["demo"]:
        from korbent.demo.lindmere import lindmere

        return run(lindmere(), None)
    path = Path(words[0])
    try:
        project = load(path)
    except ProjectFileError as error:
        return run(starter(), None, f"! {error}") if from_menu else None
    return run(project, path)
