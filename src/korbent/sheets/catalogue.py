"""The sheets that there are, and the sets that a project begins with."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from korbent.core.model import Project
from korbent.core.model.sheets import SheetChoice, SheetSet
from korbent.words import say

FORMATS = ("pdf", "dxf", "svg", "docx", "html", "xlsx", "csv")
USUAL = ("pdf", "dxf", "xlsx")
"""Formats in which a set is written, and those that are ticked at first."""
COMPARED = ("plan", "setting-out", "details", "schedule", "section", "whole", "record", "changes")
"""Sheets that show what has changed."""

Group = Literal["calculation", "drawings", "tables"]


@dataclass(frozen=True)
class SheetKind:
    """A sheet that one can tick."""

    key: str
    title: str
    group: Group
    says: str


KINDS = {
    kind.key: kind
    for kind in (
        SheetKind(
            "basis", say("Basis"), "calculation", say("standards, combinations, factor sets, settings that differ")
        ),
        SheetKind("ground", say("Ground"), "calculation", say("logs, section, parameters and where they come from")),
        SheetKind("actions", say("Actions"), "calculation", say("loads by column and case, totals")),
        SheetKind("summary", say("Plan and summary"), "calculation", say("the plan, and all bases by group of checks")),
        SheetKind("bases", say("Bases"), "calculation", say("a page for each base or type with drawings and checks")),
        SheetKind(
            "settlement",
            say("Settlement over time"),
            "calculation",
            say("all points by time, the ground below the worst"),
        ),
        SheetKind(
            "strips",
            say("Strips by bounds"),
            "calculation",
            say("long bases between bounds and on their way to collapse; takes half a minute each"),
        ),
        SheetKind(
            "workings",
            say("Workings"),
            "calculation",
            say("formula, numbers, value and clause of the checks that are chosen"),
        ),
        SheetKind("bar-list", say("Bars"), "calculation", say("the bar schedule as a table, without sketches")),
        SheetKind(
            "record",
            say("Record"),
            "calculation",
            say("acceptances, checks not done, coefficients not checked, versions"),
        ),
        SheetKind("plan", say("Foundation plan"), "drawings", say("grid, bases with marks and levels, dimensions")),
        SheetKind(
            "setting-out", say("Types and setting out"), "drawings", say("table of types, coordinates of the columns")
        ),
        SheetKind("details", say("Details"), "drawings", say("by type: bars from above, two sections")),
        SheetKind("schedule", say("Bar schedule"), "drawings", say("shapes, cutting lengths, weights by diameter")),
        SheetKind("section", say("Ground section"), "drawings", say("through all boreholes, with the bases")),
        SheetKind("logs", say("Borehole logs"), "drawings", say("side by side on one axis of levels")),
        SheetKind(
            "whole", say("The whole with its ground"), "drawings", say("all bases and strata, seen from a corner")
        ),
        SheetKind("checks", say("Bases × checks"), "tables", say("the ratio of every check of every base")),
        SheetKind("sides", say("Demand and capacity"), "tables", say("of every check of every base, with its unit")),
        SheetKind(
            "list", say("Checks one by one"), "tables", say("state, ratio, governing combination, reference, message")
        ),
        SheetKind("sizes", say("Sizes, levels, quantities, cost"), "tables", say("of every base")),
        SheetKind("reactions", say("Reactions used"), "tables", say("loads by column and case")),
        SheetKind("settlements", say("Settlement by date"), "tables", say("of every base and mark")),
        SheetKind("bars", say("Bars"), "tables", say("the bar schedule as a table")),
        SheetKind(
            "changes", say("Changes"), "tables", say("against the last issue: loads, ground, sizes, bars, ratios")
        ),
    )
}

SHOWN = (
    "levels",
    "dimensions_to_grid",
    "edges_of_excavation",
    "boreholes",
    "boundaries_and_obstacles",
    "section_mark",
    "general_notes",
)
"""What drawings can leave out."""
FIRST_HIDDEN = ("edges_of_excavation", "boreholes")
APPROVAL, SITE = say("for approval"), say("for site")


def usual_sets(project: Project) -> tuple[SheetSet, ...]:
    """The two sets that a project without any begins with: the calculation with the plan, and what is built from."""
    return _usual(bool(project.ground.boreholes))


@lru_cache(maxsize=2)
def _usual(bored: bool) -> tuple[SheetSet, ...]:
    off = set() if bored else {"settlements"}
    approval = tuple(
        SheetChoice(
            key=key,
            on=key
            not in {
                "schedule",
                "whole",
                "changes",
                "details",
                "bars",
                "reactions",
                "sides",
                "bar-list",
                "strips",
            }
            | off,
        )
        for key in KINDS
    )
    built = {"plan", "setting-out", "details", "schedule", "bars", "sizes"}
    return (
        SheetSet(name=APPROVAL, sheets=approval, hidden=FIRST_HIDDEN),
        SheetSet(name=SITE, sheets=tuple(SheetChoice(key=key, on=key in built) for key in KINDS), hidden=FIRST_HIDDEN),
    )


def sets_of(project: Project) -> tuple[SheetSet, ...]:
    """The sets of a project: its own, else the usual ones."""
    return project.sheet_sets or usual_sets(project)


def set_named(project: Project, name: str) -> SheetSet:
    """A set by its name, the first one where none is given.

    Raises:
        KeyError: when there is none, naming those that there are.
    """
    known = sets_of(project)
    if not name:
        return known[0]
    found = next((s for s in known if s.name.casefold() == name.strip().casefold()), None)
    if found is None:
        raise KeyError(
            say("there is no set '{name}'; the project has: {s}", name=name, s=", ".join(s.name for s in known))
        )
    return found


def completed(chosen: SheetSet) -> tuple[SheetChoice, ...]:
    """All sheets in the order of the set; those that it does not name follow, not ticked, ones that are not known are
    passed over."""
    known = [c for c in chosen.sheets if c.key in KINDS]
    named = {c.key for c in known}
    return (*known, *(SheetChoice(key=key, on=False) for key in KINDS if key not in named))


def ticked(chosen: SheetSet, groups: Iterable[str] = ("calculation", "drawings", "tables")) -> list[SheetChoice]:
    """The sheets that go out, of some groups."""
    wanted = set(groups)
    return [c for c in completed(chosen) if c.on and KINDS[c.key].group in wanted]


def with_set(project: Project, changed: SheetSet, name: str) -> Project:
    """The project with the set of that name in another state; the usual ones become its own then."""
    return project.replaced(sheet_sets=tuple(changed if s.name == name else s for s in sets_of(project)))
