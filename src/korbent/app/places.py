"""All that the search field of the window can go to: foundations, columns, checks, combinations, tables, commands, recent files."""

from typing import TYPE_CHECKING

from korbent.app.search import Entry
from korbent.files.autosave import recent_files

if TYPE_CHECKING:
    from korbent.app.window import MainWindow


def places(window: "MainWindow") -> list[Entry]:
    """All that the search field can go to."""
    session = window.session
    project = session.project

    def to_table(stop: int, name: str) -> None:
        window.go_to(stop)
        deck = getattr(window.stop, "deck", None)
        if deck is not None:
            deck.bring(name)

    found = [
        Entry(p.name, f"{p.kind} under {p.load_point}", lambda n=p.name: session.select(n))
        for p in project.pads
    ]
    carried = {name: p.name for p in project.pads for name in p.carries}
    for point in project.actions.load_points:
        pad = carried.get(point.name)
        detail = f"{point.kind} on {pad}" if pad else f"{point.kind}, not designed"
        found.append(
            Entry(point.name, detail, lambda n=pad: session.select(n) if n else to_table(1, "points"))
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
        found.append(Entry(soil.name, "soil", lambda: to_table(0, "soils")))
    for stop, name, title in (
        (0, "boreholes", "Boreholes"), (0, "strata", "Strata"), (0, "tests", "Tests"),
        (0, "levels", "Levels, water, backfill"), (1, "loads", "Loads"), (1, "points", "Columns and walls"),
        (1, "totals", "Totals"), (1, "combinations", "Combinations"), (1, "cases", "Load cases"),
        (2, "settings", "Settings"), (2, "types", "Types"), (2, "title", "Title, revision, standards"),
        (0, "oedometers", "Oedometer tests"), (0, "readings", "Oedometer readings"), (1, "areas", "Area loads"),
        (1, "steps", "Construction steps"), (2, "quantities", "Named values"), (2, "units", "Units one by one"),
        (2, "presumed", "Presumed pressure by depth and width"), (2, "rafts", "Rafts"), (2, "ribs", "Ribs of rafts"), (2, "straps", "Straps"),
    ):  # fmt: skip
        found.append(Entry(title, "table", lambda s=stop, n=name: to_table(s, n)))
    found += [Entry(text, "begin with it", action) for text, action in window.beginnings()]
    for title, keys, action in (
        ("Start page", "Ctrl+N", window.show_start), ("New", "an empty project", window.new), ("Open", "Ctrl+O", window.open), ("Save", "Ctrl+S", window.save), ("Earlier versions", "the last saved states of this project", window.earlier_versions),
        ("Report", "Ctrl+P", window.report), ("Undo", "Ctrl+Z", session.undo), ("Redo", "Ctrl+Shift+Z", session.redo),
        ("Dark or light", "colours of the window", window.switch_theme), ("Change units", "metric or US customary", window.switch_units), ("Keys", "F1", window.help),
    ):  # fmt: skip
        found.append(Entry(title, keys, action))
    for path in recent_files():
        found.append(Entry(path.name, f"recent file in {path.parent}", lambda p=path: window.open_recent(p)))
    return found
