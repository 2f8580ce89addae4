"""Reads rows and values of the groups of an AGS4 file, and gathers what is wrong with them."""

import re
from collections.abc import Iterator
from typing import NamedTuple

from korbent.core.model import Problem
from korbent.core.quantity_text import AmbiguousNumberError, parse
from korbent.core.units import UnitError, factor
from korbent.files.ags4.form import Row, Table
from korbent.words import say, say_count

# typical units of the format, by heading, for files without a UNIT row
UNITS = {
    "LOCA_GL": "m",
    "LOCA_NATE": "m",
    "LOCA_NATN": "m",
    "LOCA_LOCX": "m",
    "LOCA_LOCY": "m",
    "LOCA_FDEP": "m",
    "GEOL_TOP": "m",
    "GEOL_BASE": "m",
    "ISPT_TOP": "m",
    "SCPT_DPTH": "m",
    "SCPT_RES": "MPa",
    "SCPT_FRES": "MPa",
    "SCPT_PWP2": "MPa",
    "IVAN_DPTH": "m",
    "IVAN_IVAN": "kPa",
    "IPEN_DPTH": "m",
    "IPEN_IPEN": "kPa",
    "LVAN_VNPK": "kPa",
    "TRIT_CU": "kPa",
    "TREG_PHI": "deg",
    "SHBG_PHI": "deg",
    "LDEN_BDEN": "Mg/m3",
    "CONS_INCF": "kPa",
    "CONS_INMV": "m2/MN",
    "CONS_INCV": "m2/year",
    "SPEC_DPTH": "m",
    "SAMP_TOP": "m",
    "MOND_RDNG": "m",
    "WSTG_DPTH": "m",
    "WSTD_POST": "m",
}
LENGTHS = {
    "maod": "m",
    "mod": "m",
    "m aod": "m",
    "m od": "m",
    "mbgl": "m",
    "m bgl": "m",
    "mad": "m",
    "metres": "m",
}
"""Lengths that are written with what they are measured from."""


class Hole(NamedTuple):
    """Where a hole is, its ground level, and its depth where that is known, m."""

    x: float
    y: float
    level: float
    depth: float | None = None


LONGEST_WORD = 400
"""Letters of what is said of one value."""


class Reader:
    """The groups of a file, with the problems met on the way."""

    def __init__(self, tables: dict[str, Table], problems: list[Problem]) -> None:
        self.tables, self.problems = tables, problems
        self.remarks: list[str] = []

    def rows(self, group: str, *needed: str) -> Iterator[tuple[str, Row]]:
        """(place, row) of a group; without the headings that are needed, none."""
        table = self.tables.get(group)
        if table is None:
            return
        missing = [h for h in needed if table.rows and h not in table.rows[0][1]]
        if missing:
            self.problems.append(
                Problem(
                    group, say("has no heading {missing}: the group is left out", missing=say(" and no ").join(missing))
                )
            )
            return
        for line, row in table.rows:
            yield say("{group} line {line}", group=group, line=line), row

    def bad(self, place: str, message: str) -> None:
        shown = message if len(message) <= LONGEST_WORD else f"{message[:LONGEST_WORD]} …"
        self.problems.append(Problem(place[:LONGEST_WORD], shown))

    def number(self, place: str, row: Row, group: str, heading: str, unit: str, quiet: bool = False) -> float | None:
        """A value in ``unit``; None where there is none or it is wrong (which is noted unless ``quiet``)."""
        text = row.get(heading, "")
        if not text:
            return None

        def wrong(message: str) -> float | None:
            if not quiet:
                self.bad(f"{place}, {heading}", message)
            return None

        try:
            value = parse(text, "")
        except AmbiguousNumberError as error:
            return wrong(str(error))
        except UnitError:
            return wrong(say("'{text}' is not a number", text=text))
        if not -1e9 < value < 1e9:
            return wrong(say("'{text}' is no value that can be meant", text=text))
        given = self.unit_of(group, heading, unit)
        if not unit or given in (unit, "%", "-", ""):
            return value
        try:
            return value * factor(given, unit)
        except UnitError as error:
            return wrong(str(error))

    def unit_of(self, group: str, heading: str, unit: str = "") -> str:
        """The unit of a heading as the file gives it, else that of the format."""
        given = self.tables[group].units.get(heading, "").strip() or UNITS.get(heading, unit)
        return LENGTHS.get(given.lower(), given)

    def first(self, place: str, row: Row, group: str, headings: tuple[str, ...], unit: str) -> float | None:
        """The first value that there is."""
        return next((d for h in headings if (d := self.number(place, row, group, h, unit)) is not None), None)

    def hole(self, place: str, row: Row, holes: dict[str, Hole]) -> str | None:
        """The hole that a row belongs to."""
        name = row.get("LOCA_ID", "")
        if name not in holes:
            self.bad(place, say("belongs to the hole '{name}', which LOCA does not have", name=name))
            return None
        return name


def gathered(problems: list[Problem]) -> tuple[Problem, ...]:
    """One problem for one cause: those of a group that differ in lines, names and numbers only are said once, with the
    other lines."""
    found: dict[tuple[str, str], list[Problem]] = {}
    for problem in problems:
        cause = re.sub(r"'[^']*'|[-+]?\d+(\.\d+)?|\b(?=\w*\d)\w+\b", "…", problem.message)
        group, _, heading = problem.place.partition(" line ")
        heading = heading.partition(", ")[2]
        found.setdefault((f"{group} {heading}", cause), []).append(problem)
    return tuple(_together(several) for several in found.values())


def _together(several: list[Problem]) -> Problem:
    first = several[0]
    if len(several) == 1:
        return first
    own, *others = (m[1] if (m := re.search(r"line (\d+)", p.place)) else "" for p in several)
    lines = [line for line in dict.fromkeys(others) if line not in ("", own)]
    where = (
        say_count(
            len(lines),
            " in line {lines}",
            " in lines {lines}",
            lines=", ".join(lines[:8]) + " …" * (len(lines) > 8),
        )
        if lines
        else ""
    )
    return Problem(
        first.place,
        say("{message} (and {several} more{where})", message=first.message, several=len(several) - 1, where=where),
    )
