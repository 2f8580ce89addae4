"""The bar schedule as a table or a workbook."""

from collections.abc import Sequence
from pathlib import Path

from korbent.core.concrete.schedule import header_of, schedule_by_type, schedule_rows
from korbent.core.model import Project
from korbent.files.sheet import write_sheets


def write_schedule(project: Project, path: Path) -> int:
    """Writes the schedule of the project; into a workbook also one of each type. Returns the number of marks.

    Raises:
        OSError: when it cannot be written.
        ValueError: when the name ends in neither .csv nor .xlsx.
    """
    rows = schedule_rows(project)
    tables: dict[str, tuple[Sequence[str], list[list[str | float]]]] = {"Bars": (header_of(project), rows)}
    if path.suffix.lower() == ".xlsx":
        tables |= {name: (header_of(project), found) for name, found in schedule_by_type(project).items()}
    write_sheets(path, tables)
    return len(rows) - 1
