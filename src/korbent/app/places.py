"""All that the search field of the window can go to: foundations, columns, checks, combinations, tables, commands,
recent files."""

from functools import partial
from typing import TYPE_CHECKING

from korbent.app.commands import COMMANDS, RAIL, command
from korbent.app.search import Entry
from korbent.core.model import Settings
from korbent.core.model.setting_words import DOES
from korbent.files.autosave import recent_files

if TYPE_CHECKING:
    from korbent.app.window import MainWindow


OF_TABLES = (
    ("ground", "boreholes", "Boreholes"),
    ("ground", "strata", "Strata"),
    ("ground", "soils", "Soils"),
    ("ground", "tests", "Tests"),
    ("ground", "levels", "Levels, water, backfill"),
    ("ground", "oedometers", "Oedometer tests"),
    ("ground", "readings", "Oedometer readings"),
    ("actions", "loads", "Loads"),
    ("actions", "matrix", "Loads as a matrix"),
    ("actions", "points", "Columns and walls"),
    ("actions", "totals", "Totals"),
    ("actions", "combinations", "Combinations"),
    ("actions", "cases", "Load cases"),
    ("actions", "areas", "Area loads"),
    ("actions", "steps", "Construction steps"),
    ("actions", "drains", "Drains"),
    ("actions", "marks", "Settlement marks"),
    ("plan", "pads", "Pads"),
    ("plan", "rafts", "Rafts"),
    ("plan", "ribs", "Ribs of rafts"),
    ("plan", "straps", "Straps"),
    ("plan", "ranges", "Ranges of sizes"),
    ("plan", "types", "Types"),
    ("plan", "site", "Boundaries and obstacles"),
    ("plan", "grids", "Grids"),
    ("plan", "conflicts", "Conflicts"),
    ("project", "title", "Title, revision, standards"),
    ("project", "settings", "Settings"),
    ("project", "presumed", "Presumed pressure by depth and width"),
    ("project", "units", "Units one by one"),
    ("project", "quantities", "Named values"),
    ("project", "rates", "Rates"),
    ("project", "revisions", "Revisions"),
)
"""The stop at which a table stands, its name, and how it is called in the search."""


def places(window: "MainWindow") -> list[Entry]:
    """All that the search field can go to."""
    session = window.session
    project = session.project

    found = [Entry(p.name, f"{p.kind} under {p.load_point}", partial(session.select, p.name)) for p in project.pads]
    carried = {name: p.name for p in project.pads for name in p.carries}
    for point in project.actions.load_points:
        pad = carried.get(point.name)
        detail = f"{point.kind} on {pad}" if pad else f"{point.kind}, not designed"
        found.append(
            Entry(
                point.name,
                detail,
                partial(session.select, pad) if pad else partial(window.show_table, "points"),
            )
        )
    if session.result:
        for check in session.result.checks:
            found.append(
                Entry(
                    check.check.title,
                    f"check of {check.foundation}: {check.state.value}",
                    partial(session.select_check, check.check.id),
                )
            )
    found += [
        Entry(
            f"Combination {label}",
            "shown in every drawing and working",
            partial(session.choose_situation, label),
        )
        for label in session.labels()
    ]
    found += [
        Entry(name.capitalize(), command(name.capitalize()).keys[0], partial(window.go_to, name)) for name in RAIL
    ]
    for soil in project.ground.soils:
        found.append(Entry(soil.name, "soil", lambda: window.show_table("soils")))
    for _, name, title in OF_TABLES:
        found.append(Entry(title, "table", partial(window.show_table, name)))
    found += [
        Entry(
            Settings.model_fields[name].title or name,
            f"setting: {DOES[name]}",
            partial(window.show_table, f"settings:{name}"),
        )
        for name in DOES
        if name != "presumed_table"
    ]
    found += [Entry(text, "begin with it", action) for text, action in window.beginnings()]
    for one in COMMANDS:
        if one.searched and one.name.lower() not in RAIL:
            keys = f"{one.keys[0]} · " if one.keys else ""
            found.append(Entry(one.name, f"{keys}{one.does}", partial(one.act, window)))
    for path in recent_files():
        found.append(Entry(path.name, f"recent file in {path.parent}", partial(window.open_recent, path)))
    return found
