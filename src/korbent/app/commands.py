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
            post.title,
            say("the stop {title} of the rail", title=post.title),
            lambda w, key=post.key: w.go_to(key),  # type: ignore[misc]
            (f"Alt+{i + 1}",),
        )
        for i, post in enumerate(signposts.RAIL)
    ),
    Command(
        say("Project"),
        say("title, standards, settings, units, named values, rates; once more goes back"),
        lambda w: w.show_project(),
        ("Ctrl+,",),
    ),
    Command(
        say("All bases"),
        say("the ledger of the whole plan; once more goes back"),
        lambda w: w.show_whole(),
        ("Ctrl+L",),
    ),
    Command(
        say("Go to …"),
        say("a foundation, a check, a command, a recent file"),
        lambda w: w.search.begin(),
        ("Ctrl+K",),
        False,
    ),
    Command(
        say("Start page"), say("recent work, files, examples, quick starts"), lambda w: w.show_start(), ("Ctrl+N",)
    ),
    Command(say("New"), say("an empty project"), lambda w: w.new()),
    Command(say("Open"), say("open a project"), lambda w: w.open(), ("Ctrl+O",)),
    Command(say("Save"), say("save the project"), lambda w: w.save(), ("Ctrl+S",)),
    Command(say("Earlier versions"), say("the last saved states of this project"), lambda w: w.earlier_versions()),
    Command(say("Report"), say("print the report to a PDF file"), lambda w: w.report(), ("Ctrl+P",)),
    Command(say("Print this base"), say("its calculation with all workings"), lambda w: w.print_base()),
    Command(say("Tries"), say("set this state aside, compare, take one back"), lambda w: w.show_tries(), ("Ctrl+T",)),
    Command(say("Undo"), say("undo"), lambda w: w.session.undo(), ("Ctrl+Z",)),
    Command(say("Redo"), say("redo"), lambda w: w.session.redo(), ("Ctrl+Shift+Z",)),
    Command(say("Previous foundation"), say("selects it"), lambda w: w.session.select_next(-1), ("[",)),
    Command(say("Next foundation"), say("selects it"), lambda w: w.session.select_next(1), ("]",)),
    Command(
        say("Previous combination"),
        say("in every drawing and working"),
        lambda w: w.session.next_situation(-1),
        ("Alt+Left",),
    ),
    Command(
        say("Next combination"),
        say("in every drawing and working"),
        lambda w: w.session.next_situation(1),
        ("Alt+Right",),
    ),
    Command(
        say("Governing combinations"),
        say("in every drawing and working"),
        lambda w: w.session.choose_situation(""),
        ("Alt+Home",),
    ),
    Command(
        say("Next part"),
        say("of the window; Tab within it; a frame shows where one is"),
        lambda w: w.to_next_part(),
        ("F6",),
        False,
    ),
    Command(say("Previous part"), say("of the window"), lambda w: w.to_next_part(backwards=True), ("Shift+F6",), False),
    Command(say("Dark or light"), say("colours of the window"), lambda w: w.switch_theme()),
    Command(say("Change units"), say("metric or US customary"), lambda w: w.switch_units()),
    Command(
        say("Help"),
        say("what one is at: a check, a size, a setting, a column; once more goes back"),
        lambda w: w.help(),
        ("F1",),
    ),
    Command(say("Keys"), say("the list of keys"), lambda w: w.show_keys()),
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


def command(name: str) -> Command:
    """The one of that name.

    Raises:
        KeyError: when there is none.
    """
    return _BY_NAME[name]


_BY_NAME = {c.name: c for c in COMMANDS}


def keys_and_words() -> list[tuple[str, str]]:
    """All keys and what they do: those of the window, then those of its parts."""
    stops = COMMANDS[: len(RAIL)]
    found = [(f"{stops[0].keys[0]} … {len(stops)}", say("the stops of the rail"))]
    found += [(c.keys[0], _said(c)) for c in COMMANDS if c.keys and c not in stops]
    return [*found, *IN_PLACES]


def _said(one: Command) -> str:
    return one.does if one.does == one.name.lower() else f"{one.name.lower()}: {one.does}"
