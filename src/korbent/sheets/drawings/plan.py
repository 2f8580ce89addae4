"""Sheets of the plan, in parts where it is too large for one."""

import math

from korbent.core.model import Project
from korbent.core.model.sheets import SheetChoice, SheetSet
from korbent.drawing.ground_section import usual_line
from korbent.drawing.plan import extent
from korbent.drawing.primitives import Drawing
from korbent.drawing.words import size_words
from korbent.sheets.clipping import clipped
from korbent.sheets.composition import Block, Sheet, View
from korbent.sheets.drawings.notes import general_notes
from korbent.sheets.drawings.page import Changed, Page, page_of, sheet_of
from korbent.sheets.foundation_plan import foundation_plan, grid_lines
from korbent.sheets.paper import PAPERS, fitting, usual_paper
from korbent.sheets.types import kinds_built
from korbent.words import say


def _legend() -> tuple[str, ...]:
    return (
        say("P1 · F1 · −1.20: base, type, level of its underside"),
        say("filled: column or wall"),
        say("dashed: below, or beyond"),
    )


def _types_lines(project: Project) -> tuple[str, ...]:
    return tuple(
        f"{kind.name}  {size_words(kind.first, project.showing)} ({len(kind.members)})" for kind in kinds_built(project)
    )


def plan_sheets(project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed) -> list[tuple[Sheet, Block]]:
    us = project.units == "us"
    x0, y0, x1, y1 = extent(project)
    scale = choice.scale or 100.0
    for _ in range(3):  # the bubbles of the grid stand a length on paper beyond what is built
        by_x, by_y = grid_lines(project, scale / 1000)
        ends = [p for line in (*by_x, *by_y) for p in (line.start, line.end)]
        wide = max([x1, *(x for x, _ in ends)]) - min([x0, *(x for x, _ in ends)])
        high = max([y1, *(y for _, y in ends)]) - min([y0, *(y for _, y in ends)])
        page, scale = _for_plan(project, choice, (wide, high), us)
    line = usual_line(project) if project.ground.boreholes and "section_mark" not in chosen.hidden else None
    drawn = foundation_plan(project, chosen.hidden, line, scale, changed.bases, changed.revision)
    notes: list[tuple[str, tuple[str, ...]]] = [(say("types"), _types_lines(project)), (say("legend"), _legend())]
    if "general_notes" not in chosen.hidden:
        notes.append((say("notes"), general_notes(project)))
    if changed.bases:
        notes.append(("changed", (f"{changed.revision}: {', '.join(changed.bases)}",)))
    views = _in_parts(drawn, scale, page)
    return [
        sheet_of(
            project,
            "plan",
            say("Foundation plan") + (say(", part {k}", k=k) if len(views) > 1 else ""),
            page,
            [view],
            tuple(notes),
        )
        for k, view in enumerate(views, 1)
    ]


def _for_plan(project: Project, choice: SheetChoice, size: tuple[float, float], us: bool) -> tuple[Page, float]:
    """The paper and scale of a plan: the scale that fits the usual paper, on the smallest paper that it fits too."""
    around = (60.0, 70.0)
    page = page_of(project, choice, usual_paper(us, True))
    scale = choice.scale or fitting(size, (page.wide - around[0], page.high - around[1]), us, least=48.0)
    if choice.paper in PAPERS:
        return page, scale
    for name in ("Arch B", "Arch C", "Arch D", "Arch E") if us else ("A3", "A2", "A1", "A0"):
        page = page_of(project, choice, name)
        if all(1000 * m / scale <= mm - a for m, mm, a in zip(size, (page.wide, page.high), around)):
            break
    return page, scale


def _in_parts(drawn: Drawing, scale: float, page: Page) -> list[View]:
    """The plan in the middle of one sheet; or cut into parts where a scale was asked for at which it does not fit."""
    x0, y0, x1, y1 = drawn.bounds
    wide, high = 1000 * (x1 - x0) / scale, 1000 * (y1 - y0) / scale
    nx, ny = (max(1, math.ceil((s - 1.0) / room_)) for s, room_ in ((wide, page.wide), (high, page.high)))
    if nx * ny == 1:
        return [View("plan", drawn, scale, page.left + (page.wide - wide) / 2, page.top + (page.high - high) / 2)]
    found = []
    step_x, step_y = (x1 - x0) / nx, (y1 - y0) / ny
    for j in range(ny):
        for i in range(nx):
            box = (x0 + i * step_x, y1 - (j + 1) * step_y, x0 + (i + 1) * step_x, y1 - j * step_y)
            found.append(View("plan", clipped(drawn, box), scale, page.left, page.top, part_of=drawn))
    return found
