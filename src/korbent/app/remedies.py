"""Where what a check lacks can be given: the table of the window for what its message says."""

from korbent.app.tables.titles import TITLES
from korbent.words import say

_REMEDIES = (
    (say("mark one in actions"), "combinations"),
    (say("there is no borehole"), "boreholes"),
    (say("no concrete standard"), "title"),
    (say("of plain concrete"), "settings:base_concrete"),
    (say("the soil '"), "soils"),
    (say("base friction"), "settings:base_friction"),
    (say("presumed pressure"), "settings:presumed_pressure"),
)
"""What a message says, in small letters, and the table; the first that fits counts."""


def remedy(message: str) -> tuple[str, str]:
    """(what the place is called, its name for :meth:`korbent.app.session.Session.show_place`); ('', '') where none is
    known."""
    said = message.lower()
    for part, place in _REMEDIES:
        if part in said:
            return TITLES[place.partition(":")[0]], place
    return "", ""
