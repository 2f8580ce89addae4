"""What the window can be told to do, once: name, keys, what it does. Keys, buttons, the search field and F1 take it
from here."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from korbent.app.stops import signposts
from korbent.words import say

if TYPE_CHECKING:
    from korbent.app.window import MainWindow

RAIL = tuple(post.key for post in signposts.RAIL)
"""The stops of the rail in their order."""
BESIDE = ("project", "all bases")
"""Places that stand on no rail."""


@dataclass(frozen=True)
class Command:
    """Something that the window does.

    Args:
        key: by which the program knows it.
        name: as it is looked for.
        does: in words.
        act: does it in a window.
        keys: by which it is called from anywhere in the window.
        searched: the search field finds it.
    """

    key: str
    name: str
    does: str
    act: "Callable[[MainWindow], object]"
    keys: tuple[str, ...] = ()
    searched: bool = True

    @property
    def tip(self) -> str:
        """What a button of it says."""
        return f"{self.does[0].upper()}{self.does[1:]}" + (f" ({', '.join(self.keys)})" if self.keys else "")


COMMANDS: tuple[Command, ...] = (
    *(
        Command(
            post.key,
            post.title,
            say("the stop {title} of the rail", title=post.title),
            lambda w, key=post.key: w.go_to(key),  # type: ignore[misc]
            (f"Alt+{i + 1}",),
        )
        for i, post in enumerate(signposts.RAIL)
    ),
    Command(
        "project",
        say("Project"),
        say("title, standards, settings, units, named values, rates; once more goes back"),
        lambda w: w.show_project(),
        ("Ctrl+,",),
    ),
    Command(
        "all bases",
        say("All bases"),
        say("the ledger of the whole plan; once more goes back"),
        lambda w: w.show_whole(),
        ("Ctrl+L",),
    ),
    Command(
        "go",
        say("Go to …"),
        say("a foundation, a check, a command, a recent file"),
        lambda w: w.search.begin(),
        ("Ctrl+K",),
        False,
    ),
    Command(
        "start",
        say("Start page"),
        say("recent work, files, examples, quick starts"),
        lambda w: w.show_start(),
        ("Ctrl+N",),
    ),
    Command("new", say("New"), say("an empty project"), lambda w: w.files.new()),
    Command("open", say("Open"), say("open a project"), lambda w: w.files.open(), ("Ctrl+O",)),
    Command("save", say("Save"), say("save the project"), lambda w: w.files.save(), ("Ctrl+S",)),
    Command(
        "versions",
        say("Earlier versions"),
        say("the last saved states of this project"),
        lambda w: w.files.earlier_versions(),
    ),
    Command("report", say("Report"), say("print the report to a PDF file"), lambda w: w.printing.report(), ("Ctrl+P",)),
    Command(
        "print", say("Print this base"), say("its calculation with all workings"), lambda w: w.printing.print_base()
    ),
    Command(
        "tries",
        say("Tries"),
        say("set this state aside, compare, take one back"),
        lambda w: w.show_tries(),
        ("Ctrl+T",),
    ),
    Command("undo", say("Undo"), say("undo"), lambda w: w.session.undo(), ("Ctrl+Z",)),
    Command("redo", say("Redo"), say("redo"), lambda w: w.session.redo(), ("Ctrl+Shift+Z",)),
    Command(
        "previous base", say("Previous foundation"), say("selects it"), lambda w: w.session.select_next(-1), ("[",)
    ),
    Command("next base", say("Next foundation"), say("selects it"), lambda w: w.session.select_next(1), ("]",)),
    Command(
        "previous combination",
        say("Previous combination"),
        say("in every drawing and working"),
        lambda w: w.session.next_situation(-1),
        ("Alt+Left",),
    ),
    Command(
        "next combination",
        say("Next combination"),
        say("in every drawing and working"),
        lambda w: w.session.next_situation(1),
        ("Alt+Right",),
    ),
    Command(
        "governing",
        say("Governing combinations"),
        say("in every drawing and working"),
        lambda w: w.session.choose_situation(""),
        ("Alt+Home",),
    ),
    Command(
        "next part",
        say("Next part"),
        say("of the window; Tab within it; a frame shows where one is"),
        lambda w: w.to_next_part(),
        ("F6",),
        False,
    ),
    Command(
        "previous part",
        say("Previous part"),
        say("of the window"),
        lambda w: w.to_next_part(backwards=True),
        ("Shift+F6",),
        False,
    ),
    Command("theme", say("Dark or light"), say("colours of the window"), lambda w: w.switch_theme()),
    Command("units", say("Change units"), say("metric or US customary"), lambda w: w.switch_units()),
    Command(
        "help",
        say("Help"),
        say("what one is at: a check, a size, a setting, a column; once more goes back"),
        lambda w: w.help(),
        ("F1",),
    ),
    Command("keys", say("Keys"), say("the list of keys"), lambda w: w.show_keys()),
)
IN_PLACES = (
    (say("↑ ↓ in a size"), say("one step; with Shift five, with Ctrl a fifth")),
    (say("Enter in the ledger"), say("open the working; Esc goes back")),
    (say("Enter, Tab in a table"), say("take the entry and go on down, along; below the last row typing adds one")),
    ("Ctrl+← ↑ ↓ →", say("in a table: to the end of what is filled; Ctrl+D fills down, Ctrl+M writes a note")),
    (
        say("← ↑ ↓ → in the plan"),
        say("move the selected base by a step, with Shift by five; in space they turn the whole"),
    ),
    (say("M in the plan"), say("a measuring line; Ctrl+C and Ctrl+V copy bases with their columns")),
)
"""Keys that one part of the window takes for itself."""


def command(key: str) -> Command:
    """The one of that key.

    Raises:
        KeyError: when there is none.
    """
    return _BY_KEY[key]


_BY_KEY = {c.key: c for c in COMMANDS}


def keys_and_words() -> list[tuple[str, str]]:
    """All keys and what they do: those of the window, then those of its parts."""
    stops = COMMANDS[: len(RAIL)]
    found = [(f"{stops[0].keys[0]} … {len(stops)}", say("the stops of the rail"))]
    found += [(c.keys[0], _said(c)) for c in COMMANDS if c.keys and c not in stops]
    return [*found, *IN_PLACES]


def _said(one: Command) -> str:
    return one.does if one.does == one.name.lower() else f"{one.name.lower()}: {one.does}"
