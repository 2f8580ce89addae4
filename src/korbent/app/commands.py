"""What the window can be told to do, once: name, keys, what it does. Keys, buttons, the search field and F1 take it
from here."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from korbent.app.stops import signposts

if TYPE_CHECKING:
    from korbent.app.window import MainWindow

RAIL = tuple(post.title.lower() for post in signposts.RAIL)
"""The stops of the rail in their order."""
BESIDE = ("project", "all bases")
"""Places that stand on no rail."""


@dataclass(frozen=True)
class Command:
    """Something that the window does.

    Args:
        name: as it is looked for.
        does: in words.
        act: does it in a window.
        keys: by which it is called from anywhere in the window.
        searched: the search field finds it.
    """

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
            name.capitalize(),
            f"the stop {name.capitalize()} of the rail",
            lambda w, name=name: w.go_to(name),  # type: ignore[misc]
            (f"Alt+{i + 1}",),
        )
        for i, name in enumerate(RAIL)
    ),
    Command(
        "Project",
        "title, standards, settings, units, named values, rates; once more goes back",
        lambda w: w.show_project(),
        ("Ctrl+,",),
    ),
    Command("All bases", "the ledger of the whole plan; once more goes back", lambda w: w.show_whole(), ("Ctrl+L",)),
    Command(
        "Go to …", "a foundation, a check, a command, a recent file", lambda w: w.search.begin(), ("Ctrl+K",), False
    ),
    Command("Start page", "recent work, files, examples, quick starts", lambda w: w.show_start(), ("Ctrl+N",)),
    Command("New", "an empty project", lambda w: w.new()),
    Command("Open", "open a project", lambda w: w.open(), ("Ctrl+O",)),
    Command("Save", "save the project", lambda w: w.save(), ("Ctrl+S",)),
    Command("Earlier versions", "the last saved states of this project", lambda w: w.earlier_versions()),
    Command("Report", "print the report to a PDF file", lambda w: w.report(), ("Ctrl+P",)),
    Command("Print this base", "its calculation with all workings", lambda w: w.print_base()),
    Command("Tries", "set this state aside, compare, take one back", lambda w: w.show_tries(), ("Ctrl+T",)),
    Command("Undo", "undo", lambda w: w.session.undo(), ("Ctrl+Z",)),
    Command("Redo", "redo", lambda w: w.session.redo(), ("Ctrl+Shift+Z",)),
    Command("Previous foundation", "selects it", lambda w: w.session.select_next(-1), ("[",)),
    Command("Next foundation", "selects it", lambda w: w.session.select_next(1), ("]",)),
    Command(
        "Previous combination", "in every drawing and working", lambda w: w.session.next_situation(-1), ("Alt+Left",)
    ),
    Command("Next combination", "in every drawing and working", lambda w: w.session.next_situation(1), ("Alt+Right",)),
    Command(
        "Governing combinations",
        "in every drawing and working",
        lambda w: w.session.choose_situation(""),
        ("Alt+Home",),
    ),
    Command(
        "Next part",
        "of the window; Tab within it; a frame shows where one is",
        lambda w: w.to_next_part(),
        ("F6",),
        False,
    ),
    Command("Previous part", "of the window", lambda w: w.to_next_part(backwards=True), ("Shift+F6",), False),
    Command("Dark or light", "colours of the window", lambda w: w.switch_theme()),
    Command("Change units", "metric or US customary", lambda w: w.switch_units()),
    Command(
        "Help", "what one is at: a check, a size, a setting, a column; once more goes back", lambda w: w.help(), ("F1",)
    ),
    Command("Keys", "the list of keys", lambda w: w.show_keys()),
)
IN_PLACES = (
    ("↑ ↓ in a size", "one step; with Shift five, with Ctrl a fifth"),
    ("Enter in the ledger", "open the working; Esc goes back"),
    ("Enter, Tab in a table", "take the entry and go on down, along; below the last row typing adds one"),
    ("Ctrl+← ↑ ↓ →", "in a table: to the end of what is filled; Ctrl+D fills down, Ctrl+M writes a note"),
    (
        "← ↑ ↓ → in the plan",
        "move the selected base by a step, with Shift by five; in space they turn the whole",
    ),
    ("M in the plan", "a measuring line; Ctrl+C and Ctrl+V copy bases with their columns"),
)
"""Keys that one part of the window takes for itself."""


def command(name: str) -> Command:
    """The one of that name.

    Raises:
        KeyError: when there is none.
    """
    return _BY_NAME[name]


_BY_NAME = {c.name: c for c in COMMANDS}


def keys_and_words() -> list[tuple[str, str]]:
    """All keys and what they do: those of the window, then those of its parts."""
    stops = [c for c in COMMANDS if c.name.lower() in RAIL]
    found = [(f"{stops[0].keys[0]} … {len(stops)}", "the stops of the rail")]
    found += [(c.keys[0], _said(c)) for c in COMMANDS if c.keys and c not in stops]
    return [*found, *IN_PLACES]


def _said(one: Command) -> str:
    return one.does if one.does == one.name.lower() else f"{one.name.lower()}: {one.does}"
