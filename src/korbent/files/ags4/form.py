"""The form of an AGS4 file: its groups as tables, with the lines they come from, and what is wrong with them.

The format's own rules are read by the package python-ags4; lines that it could not read are set aside first.
"""

import csv
import io
import re
from dataclasses import dataclass

from korbent.core.model import (
    Problem,
)
from korbent.core.model.frozen import cleaned
from korbent.files.sheet import unguarded
from korbent.files.watched import counted
from korbent.words import say

Row = dict[str, str]


@dataclass(frozen=True)
class Table:
    """A group: its rows with their lines in the file, and the units of its headings."""

    name: str
    units: Row
    rows: tuple[tuple[int, Row], ...]


def tables_of(text: str) -> tuple[dict[str, Table], list[Problem]]:
    """The groups of a file's text, and all that is wrong with its form, with group and line."""
    import logging

    from python_ags4.AGS4 import AGS4_to_dict, AGS4Error

    logging.getLogger("python_ags4").setLevel(logging.CRITICAL)
    kept, problems = _sorted_out(text)
    clean = "\n".join(line for _, line in kept)
    try:
        data, _, lines = AGS4_to_dict(io.StringIO(clean), get_line_numbers=True)
    except (AGS4Error, KeyError, IndexError, ValueError, TypeError, csv.Error) as error:
        return {}, [*problems, Problem("file", str(error))]
    tables = {}
    for name, columns in data.items():
        if "HEADING" not in columns:
            continue
        kinds = columns["HEADING"]
        numbers = columns["line_number"]
        headings = [h for h in columns if h not in ("HEADING", "line_number")]
        units: Row = {}
        rows = []
        for i, kind in enumerate(kinds):
            row = {h: cleaned(unguarded(str(columns[h][i]).strip())) for h in headings}
            if kind == "UNIT":
                units = row
            elif kind == "DATA":
                rows.append((kept[int(numbers[i]) - 1][0], row))
        if "UNIT" not in kinds:
            problems.append(
                Problem(
                    say("{name} line {kept}", name=name, kept=kept[int(lines[name]["GROUP"]) - 1][0]),
                    say("the group has no UNIT row: the units of the format are taken"),
                )
            )
        tables[name] = Table(name, units, tuple(rows))
    return tables, problems


SKIP = '"SKIPPED"'


def _sorted_out(text: str) -> tuple[list[tuple[int, str]], list[Problem]]:
    """(lines of the text with their numbers, what is wrong with them): unreadable lines made harmless, the rows of each
    group together.

    A group that comes again gives its rows to the first one, in the order of that one's headings.
    """
    groups = _Groups()
    for number, line in enumerate(counted(text.splitlines(), lambda n: say("{n} lines", n=n)), 1):
        groups.take(number, line)
    return [line for block in groups.blocks.values() for line in block], groups.problems


ROWS = ("HEADING", "UNIT", "TYPE", "DATA")


class _Groups:
    """Groups as their lines come."""

    def __init__(self) -> None:
        self.problems: list[Problem] = []
        self.blocks: dict[str, list[tuple[int, str]]] = {"": []}
        """By group in the order in which they begin; before any group: ''."""
        self.headings: dict[str, list[str]] = {}
        self.units: dict[str, list[str]] = {}
        self.group, self.again = "", False
        self.own: list[str] = []
        """The headings of the group that is being read, where it has come to them."""

    def take(self, number: int, line: str) -> None:
        """One line more."""
        if not line.strip():
            self._keep(number, SKIP)  # a blank line inside a group is a fault of form only
            return
        try:
            cells = next(csv.reader([line], strict=True), [])
        except csv.Error as error:
            self.problems.append(
                Problem(
                    say("{group} line {number}", group=self.group or "file", number=number),
                    say("cannot be read: {error}", error=error),
                )
            )
            self._keep(number, SKIP)
            return
        kind = cells[0].strip() if cells else ""
        if not self.group and kind in ROWS:
            self._keep(number, SKIP)
            if not self.problems:
                self.problems.append(Problem(say("line {number}", number=number), say("a row stands before any group")))
            return
        kept, why = line, ""
        if kind == "GROUP":
            kept, why = self._begun(cells, line)
        elif not self.group:
            why = _no_row(kind)
        elif kind == "HEADING":
            kept, why = self._headed([c.strip() for c in cells], line)
        elif kind in ROWS:
            kept, why = self._row(kind, cells, line)
        else:
            why = _no_row(kind)
        if why:
            self.problems.append(Problem(say("{group} line {number}", group=self.group or "file", number=number), why))
            kept = SKIP if kind != "GROUP" or not self.group else kept
        self._keep(number, kept)

    def _keep(self, number: int, line: str) -> None:
        self.blocks[self.group].append((number, line))

    def _begun(self, cells: list[str], line: str) -> tuple[str, str]:
        """(what is kept of the line, what is wrong with it): a group begins, or begins again."""
        name = cells[1].strip() if len(cells) > 1 else ""
        self.group, self.again, self.own = name, name in self.blocks, []
        if not re.fullmatch(r"[A-Z0-9]{4}", name):
            self.group, self.again = "", False
            return line, say("'{name}' is no name of a group; what follows is left out until the next group", name=name)
        if self.again:
            return SKIP, ""
        self.blocks[name] = []
        return line, ""

    def _headed(self, names: list[str], line: str) -> tuple[str, str]:
        """The same of a row of headings."""
        if self.own:
            return line, say("a second HEADING row in the group is left out")
        if len(set(names)) != len(names):
            twice = next(c for c in names if names.count(c) > 1)
            self.group = ""
            return line, say("the heading {twice} stands twice; the group is left out", twice=twice)
        self.own = names
        if not (self.again and self.group in self.headings):
            self.headings[self.group] = names
            return line, ""
        unknown = [n for n in names if n not in self.headings[self.group]]
        if unknown:
            return (
                SKIP,
                say(
                    "the group comes a second time, with {unknown}, which the first has not: that is left out",
                    unknown=", ".join(unknown),
                ),
            )
        return SKIP, ""

    def _row(self, kind: str, cells: list[str], line: str) -> tuple[str, str]:
        """The same of units, types and data."""
        own, group = self.own, self.group
        if not own:
            return line, say("a {kind} row stands before the HEADING row", kind=kind)
        if len(cells) != len(own):
            return line, say(
                "has {cells} values for {own} headings; the row is left out", cells=len(cells) - 1, own=len(own) - 1
            )
        first = self.headings[group]
        if own is first:
            if kind == "UNIT":
                self.units[group] = [c.strip() for c in cells]
            return line, ""
        row = dict(zip(own, (c.strip() for c in cells)))
        arranged = [row.get(h, "") if k else kind for k, h in enumerate(first)]
        units = dict(zip(first, self.units.get(group, [])))
        other = [h for h in own[1:] if kind == "UNIT" and h in units and units[h] != row[h]]
        if other:
            self.group, self.again = "", False
            return (
                line,
                say(
                    "the group comes a second time with other units of {other}: its rows here are left out",
                    other=", ".join(other),
                ),
            )
        return _as_line(arranged) if kind == "DATA" else SKIP, ""


def _no_row(kind: str) -> str:
    return say("begins with '{kind}' instead of GROUP, HEADING, UNIT, TYPE or DATA", kind=kind[:20])


def _as_line(cells: list[str]) -> str:
    return ",".join('"' + cell.replace('"', '""') + '"' for cell in cells)
