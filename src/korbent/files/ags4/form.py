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
from korbent.core.model.base import cleaned
from korbent.files.sheet import unguarded
from korbent.files.watched import counted

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
                    f"{name} line {kept[int(lines[name]['GROUP']) - 1][0]}",
                    "the group has no UNIT row: the units of the format are taken",
                )
            )
        tables[name] = Table(name, units, tuple(rows))
    return tables, problems


SKIP = '"SKIPPED"'


def _sorted_out(text: str) -> tuple[list[tuple[int, str]], list[Problem]]:
    """(lines of the text with their numbers, what is wrong with them): unreadable lines made harmless, the rows of each group together.

    A group that comes again gives its rows to the first one, in the order of that one's headings.
    """
    problems: list[Problem] = []
    # by group in the order in which they begin; before any group: ""
    blocks: dict[str, list[tuple[int, str]]] = {"": []}
    headings: dict[str, list[str]] = {}
    units: dict[str, list[str]] = {}
    group, again = "", False
    own: list[str] = []
    for number, line in enumerate(counted(text.splitlines(), "{} lines"), 1):
        if not line.strip():
            blocks[group].append((number, SKIP))  # a blank line inside a group is a fault of form only
            continue
        try:
            cells = next(csv.reader([line], strict=True), [])
        except csv.Error as error:
            problems.append(Problem(f"{group or 'file'} line {number}", f"cannot be read: {error}"))
            blocks[group].append((number, SKIP))
            continue
        kind = cells[0].strip() if cells else ""
        why, kept = "", line
        if kind == "GROUP":
            name = cells[1].strip() if len(cells) > 1 else ""
            group, again, own = name, name in blocks, []
            if not re.fullmatch(r"[A-Z0-9]{4}", name):
                why = f"'{name}' is no name of a group; what follows is left out until the next group"
                group, again = "", False
            elif again:
                kept = SKIP
            else:
                blocks[name] = []
        elif not group:
            if kind in ("HEADING", "UNIT", "TYPE", "DATA"):
                blocks[""].append((number, SKIP))
                if not problems:
                    problems.append(Problem(f"line {number}", "a row stands before any group"))
                continue
            why = _no_row(kind)
        elif kind == "HEADING":
            names = [c.strip() for c in cells]
            if own:
                why = "a second HEADING row in the group is left out"
            elif len(set(names)) != len(names):
                twice = next(c for c in names if names.count(c) > 1)
                why = f"the heading {twice} stands twice; the group is left out"
                group = ""
            else:
                own = names
                if again and group in headings:
                    unknown = [n for n in own if n not in headings[group]]
                    if unknown:
                        why = f"the group comes a second time, with {', '.join(unknown)}, which the first has not: that is left out"
                    kept = SKIP
                else:
                    headings[group] = own
        elif kind in ("UNIT", "TYPE", "DATA"):
            if not own:
                why = f"a {kind} row stands before the HEADING row"
            elif len(cells) != len(own):
                why = f"has {len(cells) - 1} values for {len(own) - 1} headings; the row is left out"
            elif own is not headings[group]:
                row = dict(zip(own, (c.strip() for c in cells)))
                arranged = [row.get(h, "") if k else kind for k, h in enumerate(headings[group])]
                kept = _as_line(arranged) if kind == "DATA" else SKIP
                first = dict(zip(headings[group], units.get(group, [])))
                other = [h for h in own[1:] if kind == "UNIT" and h in first and first[h] != row[h]]
                if other:
                    why = f"the group comes a second time with other units of {', '.join(other)}: its rows here are left out"
                    group, again = "", False
            elif kind == "UNIT":
                units[group] = [c.strip() for c in cells]
        else:
            why = _no_row(kind)
        if why:
            problems.append(Problem(f"{group or 'file'} line {number}", why))
            kept = SKIP if kind != "GROUP" or not group else kept
        blocks[group].append((number, kept))
    return [line for block in blocks.values() for line in block], problems


def _no_row(kind: str) -> str:
    return f"begins with '{kind[:20]}' instead of GROUP, HEADING, UNIT, TYPE or DATA"


def _as_line(cells: list[str]) -> str:
    return ",".join('"' + cell.replace('"', '""') + '"' for cell in cells)
