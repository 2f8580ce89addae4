"""One sheet of a set as it will print: the PDF itself, or the rows of a table."""

from collections.abc import Sequence
from dataclasses import dataclass

from korbent.core.evaluate import evaluate
from korbent.core.explain.changes import changes
from korbent.core.model import Project
from korbent.core.model.sheets import SheetChoice, SheetSet
from korbent.files.sheet import Cell
from korbent.sheets.calculation import CHAPTERS, calculation
from korbent.sheets.calculation_pdf import calculation_pdf
from korbent.sheets.catalogue import COMPARED, completed
from korbent.sheets.changes import changes_grid
from korbent.sheets.drawings import MAKERS, Changed, drawings
from korbent.sheets.tables import MAKERS as TABLES
from korbent.sheets.to_pdf import sheets_pdf
from korbent.words import say, say_count

"""Sheets that show what has changed."""


@dataclass(frozen=True)
class Preview:
    """A sheet as it will print: ``pdf`` with its pages, or head and rows of a table; ``said`` in a few words."""

    key: str
    said: str
    pdf: bytes = b""
    pages: int = 0
    head: Sequence[str] = ()
    rows: Sequence[Sequence[Cell]] = ()


def previewed(project: Project, chosen: SheetSet, key: str, before: Project | None = None) -> Preview:
    """One sheet of a set, ticked or not."""
    found = changes(before, project) if before is not None and key in COMPARED else None
    if key in CHAPTERS:
        own = calculation(project, evaluate(project), chosen, (key,), found)
        if not own.blocks:
            return Preview(key, say("nothing to print"))
        data, pages = calculation_pdf(own)
        return Preview(key, say_count(pages, "{number} page", "{number} pages"), data, pages)
    if key in MAKERS:
        choice = next((c for c in completed(chosen) if c.key == key), SheetChoice(key=key))
        marked = Changed(found.clouded, project.title.revision) if found is not None else None
        made = drawings(project, chosen, (choice,), marked)
        if not made:
            return Preview(key, say("nothing to draw"))
        said = f"{made[0].paper} · {made[0].scales}" + (
            f" · {say_count(len(made), '{number} sheet', '{number} sheets')}" if len(made) > 1 else ""
        )
        return Preview(key, said.replace(" · –", ""), sheets_pdf(made), len(made))
    if key == "changes":
        if found is None:
            return Preview(key, say("choose what to compare with"))
        head, rows = changes_grid(found)
    else:
        head, rows = TABLES[key](project, evaluate(project))
    return Preview(
        key, say_count(len(rows), "{number} row", "{number} rows"), head=tuple(head), rows=tuple(tuple(r) for r in rows)
    )
