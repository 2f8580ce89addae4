"""The calculation: chapters as values in the order that a set asks for."""

from collections.abc import Callable, Sequence

from korbent.core.evaluate import Results
from korbent.core.explain.changes import Changes
from korbent.core.model import Project
from korbent.core.model.labels import label
from korbent.core.model.sheets import SheetSet
from korbent.sheets.calculation.actions import actions
from korbent.sheets.calculation.bars import bars
from korbent.sheets.calculation.bases import base_blocks, bases
from korbent.sheets.calculation.basis import basis
from korbent.sheets.calculation.blocks import Block, Calculation, Contents, Heading, Para, Table
from korbent.sheets.calculation.ground import ground
from korbent.sheets.calculation.record import record
from korbent.sheets.calculation.settlement import settlement
from korbent.sheets.calculation.strips import strips
from korbent.sheets.calculation.summary import summary
from korbent.sheets.calculation.workings import check_pages, workings
from korbent.sheets.catalogue import ticked
from korbent.sheets.paper import PAPERS, usual_paper
from korbent.words import say

Chapter = Callable[[Project, Results, SheetSet, Changes | None], list[Block]]
CHAPTERS: dict[str, Chapter] = {
    "basis": lambda p, r, s, c: basis(p, r),
    "ground": lambda p, r, s, c: ground(p, r),
    "actions": lambda p, r, s, c: actions(p, r),
    "summary": lambda p, r, s, c: summary(p, r),
    "bases": lambda p, r, s, c: bases(p, r, s.by_type),
    "settlement": lambda p, r, s, c: settlement(p, r, s.workings == "all"),
    "strips": lambda p, r, s, c: strips(p, r, s.by_type),
    "workings": lambda p, r, s, c: workings(p, r, s.workings, s.by_type),
    "bar-list": lambda p, r, s, c: bars(p),
    "record": lambda p, r, s, c: record(p, r, c),
}
"""By key of the sheet."""


def calculation(
    project: Project,
    results: Results,
    chosen: SheetSet,
    keys: Sequence[str] | None = None,
    changed: Changes | None = None,
) -> Calculation:
    """The calculation of a set: a title page with contents, then its chapters. ``keys``: only these of them, without a
    title page; ``changed``: against the last issue, for the record."""
    wanted = [c.key for c in ticked(chosen, ("calculation",))] if keys is None else list(keys)
    blocks: list[Block] = []
    for key in wanted:
        if key in CHAPTERS:
            blocks += CHAPTERS[key](project, results, chosen, changed)
    known = {b.anchor for b in blocks if isinstance(b, Heading)}
    linked = _without_dead_links(blocks, known)
    front = _title(project) if keys is None else []
    return framed(project, [*front, *linked], chosen)


def of_base(project: Project, results: Results, name: str) -> Calculation:
    """The calculation of one base: its page and all its workings.

    Raises:
        KeyError: when there is no such base.
    """
    pad = project.pad(name)
    blocks: list[Block] = [
        Heading(name, 1, f"base-{name}"),
        *base_blocks(project, pad, results),
        Heading(say("Workings"), 1, "workings"),
        *check_pages(project, pad, results),
    ]
    known = {b.anchor for b in blocks if isinstance(b, Heading)}
    return framed(project, _without_dead_links(blocks, known))


def framed(project: Project, blocks: Sequence[Block], chosen: SheetSet | None = None) -> Calculation:
    """Blocks with what stands at head and foot of every page, on the paper of a set or the usual one."""
    usual = usual_paper(project.units == "us", large=False)
    paper = PAPERS[chosen.paper if chosen is not None and chosen.paper in PAPERS else usual]
    title = project.title
    number = f"{title.number} · " if title.number else ""
    by = " · ".join(
        f"{label} {name}" for label, name in ((say("by"), title.author), (say("checked"), title.checker)) if name
    )
    office = title.office or "Korbent"
    return Calculation(
        title.project,
        say("{number}revision {revision}", number=number, revision=title.revision)
        + (f" · {title.date}" if title.date else ""),
        f"{office} · {by}" if by else office,
        title.author or "Korbent",
        tuple(blocks),
        paper.size(upright=not (chosen is not None and chosen.lying)),
    )


def _title(project: Project) -> list[Block]:
    title = project.title
    facts = [
        (say("Project number"), title.number),
        (say("Client"), title.client),
        (say("Office"), title.office),
        (say("Author"), title.author),
        (say("Checked by"), title.checker),
        (say("Date"), title.date),
        (say("Revision"), title.revision),
        (
            say("Standards"),
            f"{project.standards.ground} ({label(project.standards.approach)}), {project.standards.concrete}",
        ),
    ]
    return [
        Heading(title.project, 0),
        Para(say("Foundations: bearing, stability, settlement, concrete")),
        Table(("", ""), tuple((label, value) for label, value in facts if value), (40, 134)),
        Contents(),
    ]


def _without_dead_links(blocks: Sequence[Block], known: set[str]) -> list[Block]:
    """Tables without links to what is not printed."""
    from dataclasses import replace

    from korbent.sheets.calculation.blocks import Cell

    found: list[Block] = []
    for block in blocks:
        if isinstance(block, Table):
            rows = tuple(
                tuple(replace(e, link="") if isinstance(e, Cell) and e.link and e.link not in known else e for e in row)
                for row in block.rows
            )
            block = replace(block, rows=rows)
        found.append(block)
    return found
