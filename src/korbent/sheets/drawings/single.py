"""Sheets of one drawing: the ground, the borehole logs, the whole; with clouds around what has changed."""

from collections.abc import Sequence
from dataclasses import replace

from korbent.core.model import Project
from korbent.core.model.sheets import SheetChoice, SheetSet
from korbent.drawing.ground_section import exaggerated, ground_section, usual_line
from korbent.drawing.logs import logs_drawing
from korbent.drawing.primitives import Drawing, Polygon, Shape, Sketch, Text
from korbent.drawing.whole import whole_drawing
from korbent.sheets.composition import PX, Block, Sheet, View
from korbent.sheets.drawings.page import Changed, Page, page_of, sheet_of
from korbent.sheets.foundation_plan import cloud
from korbent.sheets.paper import MM, fitting, scale_words
from korbent.words import say


def ground_sheets(
    project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed
) -> list[tuple[Sheet, Block]]:
    if not project.ground.boreholes:
        return []
    us = project.units == "us"
    page = page_of(project, choice, "Arch C" if us else "A3")
    line, aspect = usual_line(project), page.wide / page.high
    drawn = ground_section(project, line, aspect)
    sheet, block = _one(project, "section", say("Ground section A–A"), drawn, choice, page, us, changed)
    times = exaggerated(project, line, aspect)
    if times > 1:
        said = say(
            "{scales}, heights {scale_words}",
            scales=sheet.scales,
            scale_words=scale_words(sheet.views[0].scale / times, False),
        )
        return [(replace(sheet, scales=said), replace(block, scales=said))]
    return [(sheet, block)]


def log_sheets(project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed) -> list[tuple[Sheet, Block]]:
    holes = sorted(project.ground.boreholes, key=lambda h: (h.x, h.y))
    us = project.units == "us"
    page = page_of(project, choice, "Arch C" if us else "A3")
    found = []
    for k in range(0, len(holes), 6):
        part = (
            project.replaced(ground=project.ground.replaced(boreholes=tuple(holes[k : k + 6])))
            if len(holes) > 6
            else project
        )
        drawn = logs_drawing(part, page.wide / page.high)
        found.append(
            _one(part, "logs", say("Borehole logs") + (f", {k // 6 + 1}" if k else ""), drawn, choice, page, us)
        )
    return found


def _one(
    project: Project,
    key: str,
    title: str,
    drawn: Drawing,
    choice: SheetChoice,
    page: Page,
    us: bool,
    changed: Changed | None = None,
) -> tuple[Sheet, Block]:
    """One drawing in the middle of its sheet, with room for what is written around it; clouds around what has
    changed."""
    x0, y0, x1, y1 = drawn.bounds
    scale = choice.scale or fitting((x1 - x0, y1 - y0), (page.wide - 70, page.high - 45), us)
    if changed is not None:
        drawn = replace(drawn, shapes=(*drawn.shapes, *_clouds(drawn, changed, scale * MM)))
    wide, high = 1000 * (x1 - x0) / scale, 1000 * (y1 - y0) / scale
    view = View(key, drawn, scale, page.left + (page.wide - wide) / 2, page.top + (page.high - high) / 2)
    return sheet_of(project, key, title, page, [view])


def whole_sheets(
    project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed
) -> list[tuple[Sheet, Block]]:
    us = project.units == "us"
    page = page_of(project, choice, "Arch C" if us else "A2")
    return [_one(project, "whole", say("The whole with its ground"), whole_drawing(project), choice, page, us, changed)]


def _clouds(drawn: Drawing, changed: Changed, mm: float) -> tuple[Shape, ...]:
    """Around the bases of a drawing that have changed, where they are seen in it."""
    sketch = Sketch(layer="changes")
    for name in changed.bases:
        own = [s for s in drawn.shapes if isinstance(s, Polygon) and s.key == f"pad:{name}"]
        if own:
            ring = [p for s in own for p in s.points]
            cloud(sketch, ring, changed.revision, mm, _free_corner(drawn, ring, mm))
    return tuple(sketch.shapes)


def _free_corner(drawn: Drawing, ring: Sequence[tuple[float, float]], mm: float) -> tuple[float, float]:
    """The corner of a cloud, right or left, above or below, where its triangle lies on the fewest texts."""
    texts = [(s.at, 0.6 * s.size * len(s.text) / PX * mm, s.anchor) for s in drawn.shapes if isinstance(s, Text)]
    shares = {"left": (0.0, 1.0), "middle": (-0.5, 0.5), "right": (-1.0, 0.0)}

    def lies_on(corner: tuple[float, float]) -> int:
        x, y = ((max if side > 0 else min)(p[k] for p in ring) + side * 8.2 * mm for k, side in enumerate(corner))
        return sum(
            at[0] + shares[anchor][0] * wide - 5 * mm < x < at[0] + shares[anchor][1] * wide + 5 * mm
            and abs(at[1] - y) < 6 * mm
            for at, wide, anchor in texts
        )

    return min(((1.0, 1.0), (-1.0, 1.0), (1.0, -1.0), (-1.0, -1.0)), key=lies_on)
