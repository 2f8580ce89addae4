"""A set of sheets written to a folder, in the formats that are asked for."""

import re
from collections.abc import Callable, Sequence
from errno import ENOTDIR
from functools import partial
from pathlib import Path

from korbent.core.evaluate import Results, evaluate
from korbent.core.explain.changes import Changes, changes
from korbent.core.model import Project
from korbent.core.model.sheets import SheetSet
from korbent.files.sheet import write_sheets
from korbent.sheets.calculation import CHAPTERS, calculation
from korbent.sheets.catalogue import FORMATS, KINDS, USUAL, ticked
from korbent.sheets.changes import changes_grid
from korbent.sheets.composition import Sheet
from korbent.sheets.drawings import Changed, drawings
from korbent.sheets.tables import MAKERS
from korbent.words import say

Told = Callable[..., None]
Stop = Callable[[], bool]


def formats_of(text: str) -> tuple[str, ...]:
    """The formats that a text names, separated by commas.

    Raises:
        ValueError: naming one that is not known.
    """
    found = tuple(dict.fromkeys(part.strip().lower() for part in text.split(",") if part.strip()))
    for one in found:
        if one not in FORMATS:
            raise ValueError(say("there is no format '{one}'; known: {formats}", one=one, formats=", ".join(FORMATS)))
    if not found:
        raise ValueError(say("no format is named; known: {formats}", formats=", ".join(FORMATS)))
    return found


def prefix_of(project: Project) -> str:
    """How the files begin: the number and revision of the project, or its name."""
    title = project.title
    text = f"{title.number or title.project}-{title.revision}" if title.revision else title.number or title.project
    return re.sub(r"[^\w.-]+", "-", text).strip("-.")[:60] or "project"


def write_set(
    project: Project,
    chosen: SheetSet,
    folder: Path,
    formats: Sequence[str] = USUAL,
    before: Project | None = None,
    told: Told = lambda *_: None,
    stop: Stop = lambda: False,
) -> list[Path]:
    """Writes a set; returns the files. What of the set has no such format is not written; ``before``: what changes are
    marked against.

    Raises:
        OSError: when the folder cannot be made or a file not be written.
    """
    if folder.exists() and not folder.is_dir():
        raise NotADirectoryError(ENOTDIR, say("Not a folder"), str(folder))
    folder.mkdir(parents=True, exist_ok=True)
    results = evaluate(project)
    found = changes(before, project) if before is not None else None
    jobs = _jobs(project, results, chosen, folder / prefix_of(project), set(formats), found)
    written: list[Path] = []
    for k, (name, job) in enumerate(jobs):
        if stop():
            break
        told(k, len(jobs), name)
        written += job()
    return written


Job = Callable[[], list[Path]]


def _jobs(
    project: Project, results: Results, chosen: SheetSet, start: Path, formats: set[str], found: Changes | None
) -> list[tuple[str, Job]]:
    jobs: list[tuple[str, Job]] = []
    if any(c.key in CHAPTERS for c in ticked(chosen)) and formats & {"pdf", "docx", "html"}:
        own = calculation(project, results, chosen, changed=found)
        for kind, writer in _CALCULATION.items():
            if kind in formats:
                jobs.append(
                    (say("calculation, {kind}", kind=kind), partial(writer, own, _path(start, "calculation", kind)))
                )
    choices = ticked(chosen, ("drawings",))
    if choices and formats & {"pdf", "svg", "dxf"}:
        marked = Changed(found.clouded, project.title.revision) if found is not None else None
        made = drawings(project, chosen, choices, marked)
        if made:
            for kind, draw in _DRAWINGS.items():
                if kind in formats:
                    jobs.append((say("drawings, {kind}", kind=kind), partial(draw, project, made, start)))
    keys = [c.key for c in ticked(chosen, ("tables",))]
    if found is not None:
        keys = list(dict.fromkeys([*keys, "changes"]))
    if keys:
        jobs += [
            (say("tables, {kind}", kind=kind), partial(_tables, project, results, keys, found, start, kind))
            for kind in ("xlsx", "csv")
            if kind in formats
        ]
    return jobs


def _path(start: Path, what: str, kind: str) -> Path:
    return start.with_name(f"{start.name}-{what}.{kind}")


def _calculation_pdf(own: object, path: Path) -> list[Path]:
    from korbent.sheets.calculation_pdf import write_calculation

    write_calculation(own, path)  # type: ignore[arg-type]
    return [path]


def _calculation_docx(own: object, path: Path) -> list[Path]:
    from korbent.sheets.calculation_docx import write_docx

    write_docx(own, path)  # type: ignore[arg-type]
    return [path]


def _calculation_html(own: object, path: Path) -> list[Path]:
    from korbent.sheets.calculation_html import write_html

    write_html(own, path)  # type: ignore[arg-type]
    return [path]


def _drawings_pdf(project: Project, made: Sequence[Sheet], start: Path) -> list[Path]:
    from korbent.sheets.to_pdf import write_sheets_pdf

    path = _path(start, "drawings", "pdf")
    write_sheets_pdf(made, path)
    return [path]


def _drawings_svg(project: Project, made: Sequence[Sheet], start: Path) -> list[Path]:
    from korbent.sheets.to_svg import write_sheet_svg

    paths = [_path(start, f"{sheet.number:02d}-{sheet.key}", "svg") for sheet in made]
    for sheet, path in zip(made, paths):
        write_sheet_svg(sheet, path)
    return paths


def _drawings_dxf(project: Project, made: Sequence[Sheet], start: Path) -> list[Path]:
    from korbent.sheets.to_dxf import write_dxf

    path = _path(start, "drawings", "dxf")
    return write_dxf(made, path, project.units == "us")


def _tables(
    project: Project, results: Results, keys: Sequence[str], found: Changes | None, start: Path, kind: str
) -> list[Path]:
    made = {key: MAKERS[key](project, results) for key in keys if key in MAKERS}
    if found is not None and "changes" in keys:
        made["changes"] = changes_grid(found)
    if kind == "xlsx":  # sheets by their titles, files by their keys
        made = {KINDS[key].title: grid for key, grid in made.items()}
    if len(made) == 1 and kind == "csv":
        return write_sheets(_path(start, f"tables-{next(iter(made))}", kind), made)
    return write_sheets(_path(start, "tables", kind), made) if made else []


_CALCULATION = {"pdf": _calculation_pdf, "docx": _calculation_docx, "html": _calculation_html}
_DRAWINGS = {"pdf": _drawings_pdf, "svg": _drawings_svg, "dxf": _drawings_dxf}
