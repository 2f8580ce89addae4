"""What the tables of the window are called."""

from korbent.words import say

OF_TABLES = (
    ("ground", "boreholes", say("Boreholes")),
    ("ground", "strata", say("Strata")),
    ("ground", "soils", say("Soils")),
    ("ground", "tests", say("Tests")),
    ("ground", "levels", say("Levels, water, backfill")),
    ("ground", "oedometers", say("Oedometer tests")),
    ("ground", "readings", say("Oedometer readings")),
    ("actions", "loads", say("Loads")),
    ("actions", "matrix", say("Loads as a matrix")),
    ("actions", "points", say("Columns and walls")),
    ("actions", "totals", say("Totals")),
    ("actions", "combinations", say("Combinations")),
    ("actions", "cases", say("Load cases")),
    ("actions", "areas", say("Area loads")),
    ("actions", "steps", say("Construction steps")),
    ("actions", "drains", say("Drains")),
    ("actions", "marks", say("Settlement marks")),
    ("plan", "pads", say("Pads")),
    ("plan", "rafts", say("Rafts")),
    ("plan", "ribs", say("Ribs of rafts")),
    ("plan", "straps", say("Straps")),
    ("plan", "ranges", say("Ranges of sizes")),
    ("plan", "types", say("Types")),
    ("plan", "site", say("Boundaries and obstacles")),
    ("plan", "grids", say("Grids")),
    ("plan", "conflicts", say("Conflicts")),
    ("project", "title", say("Title, revision, standards")),
    ("project", "settings", say("Settings")),
    ("project", "presumed", say("Presumed pressure by depth and width")),
    ("project", "units", say("Units one by one")),
    ("project", "quantities", say("Named values")),
    ("project", "rates", say("Rates")),
    ("project", "revisions", say("Revisions")),
)
"""The stop at which a table stands, its name, and how it is called in the search."""
TITLES = {name: title for _, name, title in OF_TABLES} | {
    "own-loads": say("Loads of the selected base"),
    "deciding": say("What decides"),
}
"""By the name of a table."""
