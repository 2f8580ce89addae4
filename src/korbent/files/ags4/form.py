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
    clean, problems = _sorted_out(text)
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
            row = {h: str(columns[h][i]).strip() for h in headings}
            if kind == "UNIT":
                units = row
            elif kind == "DATA":
                rows.append((int(numbers[i]), row))
        if "UNIT" not in kinds:
            problems.append(
                Problem(
                    f"{name} line {lines[name]['GROUP']}",
                    "the group has no UNIT row: the units of the format are taken",
                )
            )
        tables[name] = Table(name, units, tuple(rows))
    return tables, problems


def _sorted_out(text: str) -> tuple[str, list[Problem]]:
    """The text with unreadable lines made harmless in place, so that line numbers stay; and what is wrong with them."""
    problems: list[Problem] = []
    kept: list[str] = []
    group, headings, seen = "", 0, set()
    skip = '"SKIPPED"'
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip():
            kept.append(skip)  # a blank line inside a group is a fault of form only
            continue
        try:
            cells = next(csv.reader([line], strict=True), [])
        except csv.Error as error:
            problems.append(Problem(f"{group or 'file'} line {number}", f"cannot be read: {error}"))
            kept.append(skip)
            continue
        kind = cells[0].strip() if cells else ""
        why = ""
        if kind == "GROUP":
            name = cells[1].strip() if len(cells) > 1 else ""
            if not re.fullmatch(r"[A-Z0-9]{4}", name):
                why = f"'{name}' is no name of a group; what follows is left out until the next group"
                group, headings = "", 0
            elif name in seen:
                why = f"the group {name} comes a second time; its rows here are left out"
                group, headings = "", 0
            else:
                group, headings = name, 0
                seen.add(name)
        elif not group:
            if kind in ("HEADING", "UNIT", "TYPE", "DATA"):
                kept.append(skip)
                if not problems:
                    problems.append(Problem(f"line {number}", "a row stands before any group"))
                continue
        elif kind == "HEADING":
            if headings:
                why = "a second HEADING row in the group is left out"
            elif len(set(cells)) != len(cells):
                twice = next(c for c in cells if cells.count(c) > 1)
                why = f"the heading {twice} stands twice; the group is left out"
                group = ""
            else:
                headings = len(cells)
        elif kind in ("UNIT", "TYPE", "DATA"):
            if not headings:
                why = f"a {kind} row stands before the HEADING row"
            elif len(cells) != headings:
                why = f"has {len(cells) - 1} values for {headings - 1} headings; the row is left out"
        else:
            why = f"begins with '{kind[:20]}' instead of GROUP, HEADING, UNIT, TYPE or DATA"
        if why:
            problems.append(Problem(f"{group or 'file'} line {number}", why))
            kept.append(skip)
        else:
            kept.append(line)
    return "\n".join(kept), problems
