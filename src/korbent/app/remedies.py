"""Where what a check lacks can be given: the table of the window for what its message says."""

from korbent.app.places import OF_TABLES

_REMEDIES = (
    ("mark one in actions", "combinations"),
    ("there is no borehole", "boreholes"),
    ("no concrete standard", "title"),
    ("of plain concrete", "settings:base_concrete"),
    ("the soil '", "soils"),
    ("base friction", "settings:base_friction"),
    ("presumed pressure", "settings:presumed_pressure"),
)
"""What a message says, in small letters, and the table; the first that fits counts."""
TITLES = {name: title for _, name, title in OF_TABLES}


def remedy(message: str) -> tuple[str, str]:
    """(what the place is called, its name for :meth:`korbent.app.session.Session.show_place`); ('', '') where none is
    known."""
    said = message.lower()
    for part, place in _REMEDIES:
        if part in said:
            return TITLES[place.partition(":")[0]], place
    return "", ""
