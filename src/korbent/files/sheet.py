"""Tables in CSV and XLSX files: found, read as texts, written. What they mean is decided elsewhere."""

import csv
import datetime
import re
import time
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from io import StringIO
from pathlib import Path
from typing import Any

from korbent.core.model.frozen import cleaned
from korbent.core.units import TONS, UnitError, understood
from korbent.files.atomic import replacing
from korbent.files.watched import StoppedError, counted
from korbent.words import say


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
    title: str = ""
    """What stands above the header."""


def read_sheets(path: Path) -> list[Sheet]:
    """All tables of a file: one of a CSV file, one of each sheet of a workbook that has a header row.

    Raises:
        TableError: when the file cannot be read or has no table.
    """
    try:
        found = _xlsx(path) if path.suffix.lower() in (".xlsx", ".xlsm") else {"": _csv(path)}
    except (OSError, UnicodeDecodeError, csv.Error, ValueError, KeyError) as error:
        raise TableError(say("{path} cannot be read as a table: {error}", path=path.name, error=error)) from None
    sheets = [sheet for name, cells in found.items() if (sheet := _sheet(name, cells)) is not None]
    if not sheets:
        raise TableError(say("{path} has no header row: the first row must name the columns", path=path.name))
    return sheets


def read_sheet(path: Path) -> Sheet:
    """The first table of a file (see :func:`read_sheets`)."""
    return read_sheets(path)[0]


def _sheet(name: str, cells: list[list[str]]) -> Sheet | None:
    """The first row with at least two texts that are no numbers is the header; a second row of names and one of units
    belong to it."""
    for i, row in enumerate(cells):
        words = len([c for c in row if _is_word(c)])
        # a title with a comma in it has fewer cells than the header that follows
        if words < 2 or any(2 * words < len([c for c in r if _is_word(c)]) for r in cells[i + 1 : i + 4]):
            continue
        header, start = list(row), i + 1
        title = " ".join(c for above in cells[:i] for c in above if c)
        if start < len(cells) and _is_second(cells[start], cells[start + 1 : start + 3]):
            header = _merged(header, cells[start])
            start += 1
        if start < len(cells) and _is_unit_row(cells[start]):
            units = cells[start] + [""] * (len(header) - len(cells[start]))
            header = [f"{h} [{u.strip(' []()')}]" if u else h for h, u in zip(header, units)]
            start += 1
        header = [h[:LONGEST_HEADING] for h in header]
        rows = [tuple(r) + ("",) * (len(header) - len(r)) for r in cells[start:]]
        return Sheet(tuple(header), tuple(rows), start + 1, name, title)
    return None


LONGEST_HEADING = 200
"""Letters of a heading that are looked at."""


def name_and_unit(heading: str) -> tuple[str, str] | None:
    """(name, unit) of a heading with its unit in brackets at the end, such as Fz [kN]; None where there are none."""
    text = heading[:LONGEST_HEADING].strip()
    begins = [at for at in (text.find("["), text.find("(")) if at >= 0]
    if not begins or text[-1] not in "])":
        return None
    return text[: min(begins)].strip(), text[min(begins) + 1 : -1].strip()


def _is_word(cell: str) -> bool:
    return bool(cell) and not re.match(r"^[+\-−]?[\d.,]", cell)


def _is_second(row: Sequence[str], below: Sequence[Sequence[str]]) -> bool:
    """A second row of headings: names alone, at least two of them of forces or moments, no units, and numbers further
    down."""
    filled = [c for c in row if c]
    if len(filled) < 2 or not all(_is_word(c) for c in filled) or _is_unit_row(row):
        return False
    if sum(bool(QUANTITY.fullmatch(c.strip())) for c in filled) < 2:
        return False
    return any(re.match(r"^[+\-−]?[\d.,]", c) for other in below for c in other)


QUANTITY = re.compile(r"r?[fmvhrnp][_ ]?[xyz123]{0,2}|axial|vertical|torsion", re.IGNORECASE)
"""How a force or a moment is called in a row of its own below wider headings."""


def _merged(first: Sequence[str], second: Sequence[str]) -> list[str]:
    """Two rows of headings as one: the lower name where there is one, with the case above it where the upper row spans
    several."""
    wide = max(len(first), len(second))
    upper, lower = list(first) + [""] * (wide - len(first)), list(second) + [""] * (wide - len(second))
    found, group = [], ""
    for above, below in zip(upper, lower):
        group = above or (group if below else "")
        general = not group or re.fullmatch(
            r"(forces?|moments?|reactions?|loads?|actions?|support\w*|base\w*)\b.*", group, re.IGNORECASE
        )
        found.append(below if below and (general or group == below) else f"{group} {below}".strip() if below else above)
    return found


def _is_unit_row(row: Sequence[str]) -> bool:
    """Units and nothing else, at least one of them no dash."""
    known = [c.strip(" []()") for c in row if c]
    return any(c not in ("-", "–", "") for c in known) and all(c in ("-", "–", "%", "") or _is_unit(c) for c in known)


def _is_unit(text: str) -> bool:
    if text.lower() in (
        "x",
        "y",
        "z",
        "v",
        "n",
        "g",
        "a",
        "d",
        "t",
        "m1",
        "m2",
        "m3",
        "s",
        "h",
        "k",
    ) and text not in ("m", "N", "k", "t"):
        return False
    try:
        understood(text)
    except UnitError:
        return any(ton in text.lower() for ton in TONS)
    return True


def read_text(path: Path) -> str:
    """The text of a file in UTF-8, UTF-16 (by its mark), or else as a Western spreadsheet writes it.

    Raises:
        OSError, UnicodeDecodeError: when it cannot be read.
    """
    data = path.read_bytes()
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return data.decode("utf-16")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        if b"\x00" in data:
            raise
        return data.decode("cp1252")


def _csv(path: Path) -> list[list[str]]:
    if path.stat().st_size > SWOLLEN:
        raise ValueError(
            say(
                "it is larger than {swollen} MB: that is no table of loads or of the ground",
                swollen=SWOLLEN // 1_000_000,
            )
        )
    text = read_text(path)
    # of these, the one that the first lines hold most of; a comma may be a decimal one
    # a text in quotes may hold anything, line ends too: it is left aside before the first lines are looked at
    head = "\n".join(re.sub(r'"[^"]*"', "", text).splitlines()[:10])
    delimiter = next((d for d in "\t;|" if head.count(d) > 1), ",")
    return [
        [unguarded(c.strip()) for c in row]
        for row in counted(csv.reader(StringIO(text, newline=""), delimiter=delimiter), lambda n: say("{n} rows", n=n))
    ]


def _xlsx(path: Path) -> dict[str, list[list[str]]]:
    from zipfile import BadZipFile, ZipFile

    from openpyxl import load_workbook

    try:
        with ZipFile(path) as archive:
            whole = sum(part.file_size for part in archive.infolist())
        if whole > SWOLLEN:
            raise ValueError(
                say(
                    "it swells to {whole} MB when it is unpacked: that is no table of loads or of the ground",
                    whole=whole // 1_000_000,
                )
            )
        book = load_workbook(path, read_only=True, data_only=True)
        try:
            return {sheet.title: _cells(sheet.title, sheet.iter_rows(values_only=True)) for sheet in book.worksheets}
        finally:
            book.close()
    except BadZipFile:
        raise ValueError(say("it is not a workbook")) from None
    except (ValueError, MemoryError, RecursionError) as error:
        raise ValueError(str(error) or say("it is too large")) from None
    except StoppedError:
        raise
    except Exception as error:  # openpyxl raises many kinds on a damaged workbook
        raise ValueError(say("the workbook is damaged ({name})", name=type(error).__name__)) from None


SWOLLEN = 200_000_000
"""Bytes of a workbook unpacked, at most."""
MOST_CELLS = 2_000_000
"""Cells with something in them, at most."""
EMPTY_ROWS = 10_000
"""After so many without anything a sheet is taken to end."""
LONGEST_READ = 60.0
"""Seconds that reading a workbook may take."""


def _cells(title: str, rows: Iterable[Sequence[object]]) -> list[list[str]]:
    """The rows of a sheet as texts, row by row, within limits; what only swells is refused with a word."""
    found: list[list[str]] = []
    filled = empty = 0
    begun = time.monotonic()
    for row in counted(rows, lambda n: say("{n} rows of {title}", n=n, title=title)):
        cells = ["" if c is None else cleaned(str(c).strip()) for c in row[:MOST_COLUMNS]]
        while cells and not cells[-1]:
            cells.pop()
        filled += len(cells)
        empty = 0 if cells else empty + 1
        if filled > MOST_CELLS or time.monotonic() - begun > LONGEST_READ:
            raise ValueError(
                say(
                    "the sheet {title} is too large: more than {most_cells:,} cells, or more than {longest_read:g} "
                    "seconds to read",
                    title=title,
                    most_cells=MOST_CELLS,
                    longest_read=LONGEST_READ,
                )
            )
        if empty > EMPTY_ROWS:
            break
        found.append(cells)
    wide = max(map(len, found), default=0)
    if wide * len(found) > 4 * MOST_CELLS:
        raise ValueError(
            say(
                "the sheet {title} is too wide and too long: {found} rows of {wide} columns",
                title=title,
                found=len(found),
                wide=wide,
            )
        )
    return [row + [""] * (wide - len(row)) for row in found]


MOST_COLUMNS = 2_000


Cell = str | float | int | bool | datetime.date | None


NOT_IN_NAMES = re.compile(r"[\[\]:*?/\\]")
"""What the name of a sheet cannot hold."""


def write_sheets(path: Path, tables: Mapping[str, tuple[Sequence[str], Sequence[Sequence[Cell]]]]) -> list[Path]:
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
            for cells in sheet.iter_cols(min_row=2):
                _formatted(cells)
            sheet.freeze_panes = "A2"
        with replacing(path) as temporary:
            book.save(temporary)
        return [path]
    written = []
    for name, (header, rows) in tables.items():
        target = path if len(tables) == 1 else path.with_name(f"{path.stem}-{name}{path.suffix or '.csv'}")
        with replacing(target) as temporary, temporary.open("w", encoding="utf-8-sig", newline="") as file:
            writer = csv.writer(file, quoting=csv.QUOTE_NONNUMERIC)
            writer.writerow([_text(h) for h in header])
            writer.writerows([_text(v) for v in row] for row in rows)
        written.append(target)
    return written


def _formatted(cells: Sequence[Any]) -> None:
    """The decimals of a column, as many as its values have, at most four; dates as days."""
    places = 0
    for cell in cells:
        if isinstance(cell.value, float) and cell.value != int(cell.value):
            places = max(places, min(len(f"{cell.value:.4f}".rstrip("0").partition(".")[2]), 4))
    for cell in cells:
        if isinstance(cell.value, float):
            cell.number_format = "0." + "0" * places if places else "0"
        elif isinstance(cell.value, datetime.date):
            cell.number_format = "yyyy-mm-dd"


def _text(value: Cell) -> Cell:
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, datetime.date):
        return value.isoformat()
    return "" if value is None else guarded(value) if isinstance(value, str) else value


FORMULA = re.compile(r"'*[=+\-@\t\r].")
"""How a text begins that a spreadsheet would take for a formula, guarded or not."""


def guarded(text: str) -> str:
    """A text with an apostrophe before what a spreadsheet would calculate; numbers stay."""
    return f"'{text}" if FORMULA.match(text) and not re.fullmatch(r"[+\-]?[\d.,]+([eE][+\-]?\d+)?", text) else text


def unguarded(text: str) -> str:
    """The text without that apostrophe."""
    return text[1:] if text.startswith("'") and FORMULA.match(text) else text
