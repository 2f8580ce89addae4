"""Tables in CSV and XLSX files: found, read as texts, written. What they mean is decided elsewhere."""

import csv
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from io import StringIO
from pathlib import Path


class TableError(Exception):
    """A file that is no table."""


@dataclass(frozen=True)
class Sheet:
    """A table as it stands in the file."""

    header: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    first_row: int
    """The number of the first data row in the file, from 1."""
    name: str = ""
    """Of the sheet in a workbook."""


def read_sheets(path: Path) -> list[Sheet]:
    """All tables of a file: one of a CSV file, one of each sheet of a workbook that has a header row.

    Raises:
        TableError: when the file cannot be read or has no table.
    """
    try:
        found = _xlsx(path) if path.suffix.lower() in (".xlsx", ".xlsm") else {"": _csv(path)}
    except (OSError, UnicodeDecodeError, csv.Error, ValueError, KeyError) as error:
        raise TableError(f"{path.name} cannot be read as a table: {error}") from None
    sheets = [sheet for name, cells in found.items() if (sheet := _sheet(name, cells)) is not None]
    if not sheets:
        raise TableError(f"{path.name} has no header row: the first row must name the columns")
    return sheets


def read_sheet(path: Path) -> Sheet:
    """The first table of a file (see :func:`read_sheets`)."""
    return read_sheets(path)[0]


def _sheet(name: str, cells: list[list[str]]) -> Sheet | None:
    """The first row with at least two texts that are no numbers is the header; a row of units below belongs to it."""
    for i, row in enumerate(cells):
        texts = [c for c in row if c and not re.match(r"^[+\-−]?[\d.,]", c)]
        if len(texts) < 2:
            continue
        header = tuple(row)
        rows = [tuple(r) + ("",) * (len(header) - len(r)) for r in cells[i + 1 :]]
        start = i + 2
        if rows and _is_unit_row(rows[0]):
            header = tuple(f"{h} [{u}]" if u else h for h, u in zip(header, rows[0]))
            rows, start = rows[1:], start + 1
        return Sheet(header, tuple(rows), start, name)
    return None


def _is_unit_row(row: Sequence[str]) -> bool:
    known = [c.strip(" []()") for c in row if c]
    return bool(known) and all(
        re.fullmatch(
            r"k?N(·?m)?|kNm|kip(·| |-)?ft|kips?|lbf?|m|ft|mm|MN|kPa|MPa|ksf|psf|kN/m3|pcf|deg|%|-", c
        )
        for c in known
    )


def _csv(path: Path) -> list[list[str]]:
    text = path.read_text(encoding="utf-8-sig")
    # of these, the one that the first lines hold most of; a comma may be a decimal one
    # a text in quotes may hold anything, line ends too: it is left aside before the first lines are looked at
    head = "\n".join(re.sub(r'"[^"]*"', "", text).splitlines()[:10])
    delimiter = next((d for d in "\t;|" if head.count(d) > 1), ",")
    return [[c.strip() for c in row] for row in csv.reader(StringIO(text, newline=""), delimiter=delimiter)]


def _xlsx(path: Path) -> dict[str, list[list[str]]]:
    from zipfile import BadZipFile

    from openpyxl import load_workbook

    try:
        book = load_workbook(path, read_only=True, data_only=True)
        return {
            sheet.title: [
                ["" if c is None else str(c).strip() for c in row]
                for row in sheet.iter_rows(values_only=True)
            ]
            for sheet in book.worksheets
        }
    except BadZipFile:
        raise ValueError("it is not a workbook") from None
    except Exception as error:  # openpyxl raises many kinds on a damaged workbook
        raise ValueError(f"the workbook is damaged ({type(error).__name__})") from None


Cell = str | float | int | bool | None


NOT_IN_NAMES = re.compile(r"[\[\]:*?/\\]")
"""What the name of a sheet cannot hold."""


def write_sheets(
    path: Path, tables: Mapping[str, tuple[Sequence[str], Sequence[Sequence[Cell]]]]
) -> list[Path]:
    """Writes tables (header, rows) by name: a workbook with a sheet each, or for CSV one file each beside ``path``.

    Raises:
        OSError: when a file cannot be written.
    """
    if path.suffix.lower() in (".xlsx", ".xlsm"):
        from openpyxl import Workbook

        book = Workbook()
        book.remove(book.worksheets[0])
        for name, (header, rows) in tables.items():
            sheet = book.create_sheet(NOT_IN_NAMES.sub(" ", name)[:31])
            sheet.append(list(header))
            for row in rows:
                sheet.append(list(row))
            for cells in sheet.iter_rows():
                for cell in cells:
                    if cell.data_type == "f":  # what begins like a formula is a text here
                        cell.data_type = "s"
            sheet.freeze_panes = "A2"
        book.save(path)
        return [path]
    written = []
    for name, (header, rows) in tables.items():
        target = path if len(tables) == 1 else path.with_name(f"{path.stem}-{name}{path.suffix or '.csv'}")
        with target.open("w", encoding="utf-8-sig", newline="") as file:
            writer = csv.writer(file, quoting=csv.QUOTE_NONNUMERIC)
            writer.writerow(header)
            writer.writerows([_text(v) for v in row] for row in rows)
        written.append(target)
    return written


def _text(value: Cell) -> Cell:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return "" if value is None else value
