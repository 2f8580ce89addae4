"""Sheets of details: views of each type laid on shelves."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from korbent.core.model import Pad, Project
from korbent.core.model.sheets import SheetChoice, SheetSet
from korbent.core.units import show, shown_unit, sizes_text
from korbent.drawing.primitives import Drawing
from korbent.drawing.words import size_words
from korbent.sheets.composition import Block, Sheet, View
from korbent.sheets.details import from_above, marks_of, rib_section, section, strap_elevation
from korbent.sheets.drawings.notes import general_notes
from korbent.sheets.drawings.page import CAPTION, GAP, Changed, Page, caption, page_of, sheet_of
from korbent.sheets.paper import fitting, scale_words, usual_paper
from korbent.sheets.types import Kind, kinds_built
from korbent.words import say


@dataclass(frozen=True)
class _Shelf:
    """Views that stay together, with their name."""

    name: str
    views: tuple[tuple[str, Drawing, float], ...]
    revision: str = ""

    @property
    def size(self) -> tuple[float, float]:
        """mm, with the caption."""
        sizes = [
            (1000 * (d.bounds[2] - d.bounds[0]) / s, 1000 * (d.bounds[3] - d.bounds[1]) / s) for _, d, s in self.views
        ]
        return sum(w for w, _ in sizes) + GAP * (len(sizes) - 1), max(h for _, h in sizes) + 2 * CAPTION


def detail_sheets(
    project: Project, chosen: SheetSet, choice: SheetChoice, changed: Changed
) -> list[tuple[Sheet, Block]]:
    us = project.units == "us"
    page = page_of(project, choice, usual_paper(us, True))
    marks = marks_of(project)
    shelves: list[_Shelf] = []
    for kind in kinds_built(project):
        pad = kind.first
        makers = _views_of(project, kind, marks)
        scale = choice.scale or _detail_scale(project, pad, page, us)
        views = tuple((name, make(scale / 1000), scale) for name, make in makers)
        same = "" if kind.name == kind.names else f" ({kind.names})"
        cover = show(1000 * project.settings_of(pad).concrete_cover, "mm", project.showing)
        title = say(
            "{kind}{same}: {sizes}, cover {cover} {unit}",
            kind=kind.name,
            same=same,
            sizes=size_words(pad, project.showing),
            cover=cover,
            unit=shown_unit("mm", project.showing),
        )
        revision = changed.revision if any(p.name in changed.bases for p in kind.members) else ""
        if pad.plate and pad.plate.ribs:
            across = choice.scale or (24.0 if us else 25.0)
            views = (
                *views,
                *(
                    (say("rib {r}", r=r.name), rib_section(project, pad, r, marks, across / 1000), across)
                    for r in pad.plate.ribs
                ),
            )
        shelves += _split(title, views, page, revision)
    for strap in project.straps:
        a, b = (project.load_point(project.pad(n).load_point) for n in (strap.edge, strap.inner))
        scale = choice.scale or fitting(
            (math.hypot(b.x - a.x, b.y - a.y) + 4.0, 2.5), (page.wide, page.high - 60), us, least=24.0
        )
        title = say(
            "Strap {strap} between {edge} and {inner}: {sizes}",
            strap=strap.name,
            edge=strap.edge,
            inner=strap.inner,
            sizes=sizes_text((strap.width, strap.depth), project.showing),
        )
        shelves.append(
            _Shelf(title, ((say("elevation"), strap_elevation(project, strap, marks, scale / 1000), scale),))
        )
    notes = () if "general_notes" in chosen.hidden else ((say("notes"), general_notes(project)),)
    return [
        sheet_of(project, "details", say("Details") + (say(", sheet {k}", k=k) if k > 1 else ""), page, views, notes)
        for k, views in enumerate(_shelved(shelves, page, us), 1)
    ]


Make = Callable[[float], Drawing]


def _views_of(project: Project, kind: Kind, marks: object) -> list[tuple[str, Make]]:
    from korbent.sheets.details import Marks

    assert isinstance(marks, Marks)
    pad = kind.first
    found: list[tuple[str, Make]] = [(say("bottom bars"), lambda mm: from_above(project, pad, "bottom", marks, mm))]
    r = pad.reinforcement
    added = any(a.face.startswith("top") for a in pad.plate.added) if pad.plate else False
    if (r.bars("top_x") or r.bars("top_y") or added) and project.settings_of(pad).base_concrete == "reinforced":
        found.append((say("top bars"), lambda mm: from_above(project, pad, "top", marks, mm)))
    found += [
        (say("section along x"), lambda mm: section(project, pad, "x", marks, mm)),
        (say("section along y"), lambda mm: section(project, pad, "y", marks, mm)),
    ]
    return found


def _detail_scale(project: Project, pad: Pad, page: Page, us: bool) -> float:
    """Between 1:20 and 1:200, such that plan and sections of a usual base stand side by side."""
    size = max(pad.width, pad.extent)
    return fitting(
        (size + 1.6, size + 0.9), (min(page.wide / 2.3, 320.0), page.high - 50), us, least=24.0 if us else 20.0
    )


def _split(title: str, views: tuple[tuple[str, Drawing, float], ...], page: Page, revision: str = "") -> list[_Shelf]:
    """The views of a base in rows that fit the paper."""
    rows: list[list[tuple[str, Drawing, float]]] = [[]]
    for view in views:
        if rows[-1] and _Shelf("", (*rows[-1], view)).size[0] > page.wide:
            rows.append([])
        rows[-1].append(view)
    return [
        _Shelf(title if k == 0 else say("{title}, continued", title=title), tuple(row), revision)
        for k, row in enumerate(rows)
    ]


def _shelved(shelves: Sequence[_Shelf], page: Page, us: bool) -> list[list[View]]:
    """Shelves beside each other as long as they fit, in rows, on as many sheets as it takes."""
    found: list[list[View]] = [[]]
    left, top, tall = page.left, page.top, 0.0
    for shelf in shelves:
        wide, high = shelf.size
        if left > page.left and left + wide > page.left + page.wide:
            left, top, tall = page.left, top + tall + GAP, 0.0
        if top > page.top and top + high > page.top + page.high:
            found.append([])
            left, top, tall = page.left, page.top, 0.0
        found[-1].append(caption(shelf.name, left, top + CAPTION - 4.5, max(wide, 60), shelf.revision))
        x = left
        for name, drawn, scale in shelf.views:
            view = View(name, drawn, scale, x, top + 2 * CAPTION)
            found[-1].append(
                replace(
                    caption(f"{name}, {scale_words(scale, us)}", x, top + 2 * CAPTION - 5.0, view.size[0]),
                    name="subcaption",
                )
            )
            found[-1].append(view)
            x += view.size[0] + GAP
        tall = max(tall, high)
        left += wide + 2 * GAP
    return [views for views in found if views]
