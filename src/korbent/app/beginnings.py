"""With what one can begin."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import TYPE_CHECKING

from korbent.core.model import Project
from korbent.words import say

if TYPE_CHECKING:
    from korbent.app.window import MainWindow


@dataclass(frozen=True)
class Beginning:
    """Something to begin with."""

    text: str
    begin: Callable[[], None]
    short: str = ""
    """On the start page; '' where it is not for that."""
    kind: str = ""
    apart: bool = False
    """Stands below a line in the menu."""


def beginnings(window: "MainWindow") -> list[Beginning]:
    """With what one can begin: nothing, an example, a template of the office."""
    from korbent.demo import coombe, hollin, lindmere, redstem
    from korbent.demo.starter import starter, us_starter
    from korbent.files.office import from_template, templates

    def example(what: str, short: str, make: Callable[[], Project]) -> Beginning:
        return Beginning(say("Example: {what}", what=what), lambda: window.files.begin(make), short, say("example"))

    found = [
        Beginning(say("Start page: recent work, files, quick starts"), window.show_start),
        Beginning(say("First tour: eight steps on an example"), window.take_tour, say("First tour"), say("8 steps")),
        Beginning(say("Empty: metric, EN 1997 and EN 1992"), lambda: window.files.begin(starter), say("Empty: metric")),
        Beginning(
            say("Empty: US customary, ASCE 7"), lambda: window.files.begin(us_starter), say("Empty: US customary")
        ),
        example(say("Lindmere ferry terminal (metric)"), say("Lindmere ferry terminal"), lindmere),
        example(say("Redstem packing shed (US customary)"), say("Redstem packing shed"), redstem),
        example(say("Coombe Hollow workshop (AS 3600)"), say("Coombe Hollow workshop"), coombe),
        example(say("Hollin Court, flats on a ribbed raft (metric)"), say("Hollin Court"), hollin),
    ]
    for name, path in templates().items():
        make = partial(window.files.begin, partial(from_template, path))
        found.append(Beginning(say("Template: {name}", name=name), make, name, say("template")))
    found.append(Beginning(say("Keep this project as a template …"), window.files.ask_template, apart=True))
    return found
