"""All that the search field of the window can go to: foundations, columns, checks, combinations, tables, commands, recent files."""

from typing import TYPE_CHECKING

from korbent.app.search import Entry
from korbent.core.model import Settings
from korbent.core.model.setting_words import DOES
from korbent.files.autosave import recent_files

if TYPE_CHECKING:
    from korbent.app.window import MainWindow


OF_TABLES = (
    (0, "boreholes", "Boreholes"), (0, "strata", "Strata"), (0, "soils", "Soils"), (0, "tests", "Tests"), (0, "levels", "Levels, water, backfill"),
    (0, "oedometers", "Oedometer tests"), (0, "readings", "Oedometer readings"),
    (1, "loads", "Loads"), (1, "matrix", "Loads as a matrix"), (1, "points", "Columns and walls"), (1, "totals", "Totals"), (1, "combinations", "Combinations"),
    (1, "cases", "Load cases"), (1, "areas", "Area loads"), (1, "steps", "Construction steps"),
    (1, "drains", "Drains"), (1, "marks", "Settlement marks"),
    (2, "pads", "Pads"), (2, "rafts", "Rafts"), (2, "ribs", "Ribs of rafts"), (2, "straps", "Straps"), (2, "ranges", "Ranges of sizes"),
    (2, "types", "Types"), (2, "site", "Boundaries and obstacles"), (2, "grids", "Grids"), (2, "conflicts", "Conflicts"),
    (7, "title", "Title, revision, standards"), (7, "settings", "Settings"), (7, "presumed", "Presumed pressure by depth and width"),
    (7, "units", "Units one by one"), (7, "quantities", "Named values"), (7, "rates", "Rates"), (7, "revisions", "Revisions"),
)  # fmt: skip
"""The stop at which a table stands, its name, and how it is called in the search."""


def places(window: "MainWindow") -> list[Entry]:
    """All that the search field can go to."""
    session = window.session
    project = session.project

    found = [
        Entry(p.name, f"{p.kind} under {p.load_point}", lambda n=p.name: session.select(n))
        for p in project.pads
    ]
    carried = {name: p.name for p in project.pads for name in p.carries}
    for point in project.actions.load_points:
        pad = carried.get(point.name)
        detail = f"{point.kind} on {pad}" if pad else f"{point.kind}, not designed"
        found.append(
            Entry(point.name, detail, lambda n=pad: session.select(n) if n else window.show_table("points"))
        )
    if session.result:
        for check in session.result.checks:
            found.append(
                Entry(check.check.title, f"check of {check.foundation}: {check.state.value}",
                      lambda c=check.check.id: session.select_check(c))
            )  # fmt: skip
    found += [
        Entry(
            f"Combination {label}",
            "shown in every drawing and working",
            lambda n=label: session.choose_situation(n),
        )
        for label in session.labels()
    ]
    found += [Entry(s.title, f"Alt+{i + 1}", lambda i=i: window.go_to(i)) for i, s in enumerate(window.stops)]
    for soil in project.ground.soils:
        found.append(Entry(soil.name, "soil", lambda: window.show_table("soils")))
    for _, name, title in OF_TABLES:
        found.append(Entry(title, "table", lambda n=name: window.show_table(n)))
    found += [
        Entry(
            Settings.model_fields[name].title or name,
            f"setting: {DOES[name]}",
            lambda n=name: window.show_table(f"settings:{n}"),
        )
        for name in DOES
        if name != "presumed_table"
    ]
    found += [Entry(text, "begin with it", action) for text, action in window.beginnings()]
    for title, keys, action in (
        ("Start page", "Ctrl+N", window.show_start), ("New", "an empty project", window.new), ("Open", "Ctrl+O", window.open), ("Save", "Ctrl+S", window.save), ("Earlier versions", "the last saved states of this project", window.earlier_versions),
        ("Report", "Ctrl+P", window.report), ("Print this base", "its calculation with all workings", window.print_base), ("Undo", "Ctrl+Z", session.undo), ("Redo", "Ctrl+Shift+Z", session.redo),
        ("Project: title, standards, settings", "Ctrl+,", window.show_project), ("All bases: the ledger of the whole plan", "Ctrl+L", window.show_whole), ("Tries", "Ctrl+T", window.show_tries), ("Dark or light", "colours of the window", window.switch_theme), ("Change units", "metric or US customary", window.switch_units), ("Help on what one is at", "F1", window.help), ("Keys", "the list of keys", window.show_keys),
    ):  # fmt: skip
        found.append(Entry(title, keys, action))
    for path in recent_files():
        found.append(Entry(path.name, f"recent file in {path.parent}", lambda p=path: window.open_recent(p)))
    return found
