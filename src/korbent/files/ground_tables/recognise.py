"""A table of the ground in a file: its columns by their many names, its cells with their units, and which table it
is."""

import re
from collections.abc import Iterable
from dataclasses import dataclass

from korbent.core.model import Problem
from korbent.core.quantity_text import parse
from korbent.core.units import UnitError, UnitSet, factor
from korbent.files.ground_tables.columns import (
    BOTTOM,
    HOLE,
    NAMES,
    OTHER_NAMES,
    SOIL,
    SOIL_FIELDS,
    TESTS,
    TEXTS,
    THICK,
    bare,
)
from korbent.files.sheet import Sheet
from korbent.words import say


@dataclass
class Table:
    place: str
    sheet: Sheet
    columns: dict[str, int]
    units: UnitSet
    problems: list[Problem]

    def column(self, role: str) -> int | None:
        names = NAMES.get(role, (role,))
        return next((self.columns[n] for n in names if n in self.columns), None)

    def has(self, *roles: str) -> bool:
        return all(self.column(r) is not None for r in roles)

    def rows(self) -> Iterable[tuple[str, tuple[str, ...]]]:
        for i, row in enumerate(self.sheet.rows):
            if any(row):
                yield say("{place} row {first_row}", place=self.place, first_row=self.sheet.first_row + i), row

    def text(self, row: tuple[str, ...], role: str) -> str:
        at = self.column(role)
        return row[at].strip() if at is not None and at < len(row) else ""

    def number(self, place: str, row: tuple[str, ...], at: int | None, unit: str) -> float | None:
        """A value in its stored unit; None where the cell is empty or wrong, which is noted."""
        if at is None or at >= len(row) or row[at] in ("", "-", "–"):
            return None
        given = bare(self.sheet.header[at])[1]
        text = row[at]
        try:
            if unit and given and not re.search(r"[a-zA-Z]", re.sub(r"[eE]", "", text)):
                return parse(text, "") * factor(given, unit)
            return parse(text, unit, self.units)
        except UnitError as error:
            self.problems.append(
                Problem(say("{place}, column {header!r}", place=place, header=self.sheet.header[at]), str(error))
            )
            return None


def is_soils(t: Table) -> bool:
    parameters = [n for f in SOIL_FIELDS if f not in TEXTS for n in (f.replace("_", ""), *OTHER_NAMES.get(f, ()))]
    return any(n in t.columns for n in ("name", *OTHER_NAMES["name"])) and any(n in t.columns for n in parameters)


def is_holes(t: Table) -> bool:
    return t.has(HOLE, "x", "y", "level") and not t.has(SOIL)


def is_strata(t: Table) -> bool:
    return t.has(HOLE, SOIL) and (t.has(THICK) or t.has(BOTTOM))


def is_tests(t: Table) -> bool:
    return t.has(HOLE, "test", "depth", "value")


def is_wide_tests(t: Table) -> bool:
    """A column for each test."""
    return t.has(HOLE, "depth") and not t.has("sample") and not t.has(SOIL) and any(name in TESTS for name in t.columns)


def is_oedometer(t: Table) -> bool:
    return t.has(HOLE, "sample", "stress", "void")


def is_readings(t: Table) -> bool:
    return t.has(HOLE, "sample", "stress", "time", "settlement")


def is_lines(t: Table) -> bool:
    return t.has(SOIL, "parameter", "level", "value")


def is_site(t: Table) -> bool:
    return t.has("site", "value")


def is_notes(t: Table) -> bool:
    return t.has("about", "key") and (t.has("note") or t.has("source") or t.has("expression"))
