"""Whole projects: checks, changes, workings, settlements, sheets."""

from collections.abc import Iterable
from pathlib import Path
from typing import Any

from korbent.core.checks import CheckResult
from korbent.core.evaluate import evaluate
from korbent.core.explain import working as explained
from korbent.core.model import Project
from korbent.files.project_file import load
from korbent.files.results_json import as_json
from korbent.files.settlement_tables import as_values


def check(project: Project | str | Path) -> dict[str, Any]:
    """All results of a project, or of its file, as plain values: ``checks``, ``worst``, ``settlement``
    (docs/file-format.md).

    Raises:
        korbent.files.project_file.ProjectFileError: when the file is no project.
    """
    return as_json(evaluate(project_of(project)))


def change(project: Project, *path: str | int, to: Any) -> Project:
    """The project with one value changed, and all that a change by hand entails (see docs/python.md): a base that is
    issued or poured keeps its size, one whose edge is held grows away from it, what came from an expression no longer
    does, a parameter adopted from tests loses its source, a new name is taken up everywhere.

    Args:
        path: the way to the value, such as ``"pads", "P8", "width"``.
        to: the value, in the unit in which it is stored.

    Raises:
        ValueError: when a frozen base would change its size.
        pydantic.ValidationError: when the value, or the project with it, is not valid.
        KeyError: when the path leads nowhere.
    """
    from korbent.core.plan.by_hand import by_hand

    return by_hand(project, path, to)


def changes(before: Project | str | Path, after: Project | str | Path) -> dict[str, Any]:
    """What has changed between two states: ``bases`` (loads, ground, sizes, bars, worst ratios before and after, checks
    that crossed 1.0) and ``project`` (what holds for all), as ``korbent compare --json`` writes them.

    Raises:
        korbent.files.project_file.ProjectFileError: when a file is no project.
    """
    from korbent.core.explain.changes import changes as found
    from korbent.sheets.changes import changes_values

    return changes_values(found(project_of(before), project_of(after)))


def sheets(
    project: Project | str | Path,
    folder: str | Path,
    name: str = "",
    formats: Iterable[str] = ("pdf", "dxf", "xlsx"),
    since: Project | str | Path | None = None,
) -> list[Path]:
    """Writes a set of sheets (the first one where none is named) into a folder, as ``korbent sheets`` does; the files
    that were written.

    Args:
        formats: of pdf, dxf, svg, docx, html, xlsx, csv.
        since: an earlier state, against which changes are marked.

    Raises:
        KeyError: when there is no such set.
        ValueError: when a format is not known.
        OSError: when something cannot be written.
    """
    from korbent.sheets.catalogue import set_named
    from korbent.sheets.issue import formats_of, write_set

    own = project_of(project)
    before = None if since is None else project_of(since)
    return write_set(own, set_named(own, name), Path(folder), formats_of(",".join(formats)), before)


def explain(project: Project | str | Path, base: str, check: str) -> list[dict[str, str]]:
    """The working of one check, line by line: symbol, formula, numbers, value, unit, reference, note.

    Raises:
        KeyError: when there is no such base or check.
    """
    whole = project_of(project)
    found = explained.working(whole, whole.pad(base), check)
    if isinstance(found, CheckResult):
        return [
            {
                "symbol": "",
                "formula": "",
                "numbers": "",
                "value": found.state.value,
                "unit": "",
                "reference": "",
                "note": found.message,
            }
        ]
    names = ("symbol", "formula", "numbers", "value", "unit", "reference", "note")
    return [{name: getattr(line, name) for name in names} for line in found.lines()]


def situations(project: Project | str | Path, base: str, check: str) -> list[dict[str, Any]]:
    """One check in all its situations, the worst first: combination, name, block, demand, capacity, ratio, state.

    Raises:
        KeyError: when there is no such base or check.
    """
    whole = project_of(project)
    rows = explained.situations_of(whole, whole.pad(base), check)
    return [vars(row) | {"state": row.state.value} for row in rows]


def settlement(project: Project | str | Path) -> dict[str, Any]:
    """The settlement of all bases and marks over time, as plain values."""
    found: dict[str, Any] = as_values(project_of(project))
    return found


def project_of(given: Project | str | Path) -> Project:
    return given if isinstance(given, Project) else load(Path(given))
