"""A page of a drawing: its room, its sheet with title block, captions of views."""

from collections.abc import Sequence
from dataclasses import dataclass

from korbent.core.model import Project
from korbent.core.model.sheets import SheetChoice
from korbent.drawing.primitives import Drawing, Polygon, Sketch, Text
from korbent.files.pdf_page import width_of
from korbent.sheets.composition import PX, Block, Sheet, View, px, room
from korbent.sheets.paper import MM, PAPERS, scale_words

GAP = 8.0
"""Between views, mm."""

CAPTION = 7.0
"""Of a view's name above it, mm."""


@dataclass(frozen=True)
class Changed:
    """What a drawing marks as changed: bases, and the name of the revision."""

    bases: tuple[str, ...] = ()
    revision: str = ""


@dataclass(frozen=True)
class Page:
    """The paper of a choice, and what its frame leaves."""

    name: str
    width: float
    height: float
    left: float
    top: float
    wide: float
    high: float


def page_of(project: Project, choice: SheetChoice, large: str) -> Page:
    name = choice.paper if choice.paper in PAPERS else large
    width, height = PAPERS[name].size(choice.upright)
    left, top, wide, high = room(width, height)
    return Page(name, width, height, left, top, wide, high)


def sheet_of(
    project: Project,
    key: str,
    title: str,
    page: Page,
    views: Sequence[View],
    notes: tuple[tuple[str, tuple[str, ...]], ...] = (),
) -> tuple[Sheet, Block]:
    us = project.units == "us"
    scales = list(dict.fromkeys(scale_words(v.scale, us) for v in views if v.scale > 1.0))
    said = ", ".join(scales) or "–"
    block = Block(
        project.title,
        project.revisions,
        title,
        said,
        page.name,
        notes=notes,
        logo=has_logo(),
    )
    empty = Drawing((), (0, 0, 1, 1))
    return Sheet(key, title, page.width, page.height, tuple(views), empty, page.name, said), block


def has_logo() -> bool:
    """Whether this office has a logo for its title blocks."""
    from korbent.files.office import logo_file

    return logo_file() is not None


def caption(text: str, left: float, top: float, wide: float, revision: str = "") -> View:
    """The name of a view above it; with the triangle of a revision where it has changed."""
    sketch = Sketch(layer="texts")
    sketch.add(Text((0.0, 0.0), text, px(2.8), "ink", bold=True, fixed=True))
    if revision:
        x, s = width_of(text, (px(2.8) + 1) * PX, True) + 8.0, 4.2
        ring = ((x - s, -0.7 * s), (x + s, -0.7 * s), (x, s))
        sketch.layer = "changes"
        sketch.add(
            Polygon(tuple((a * MM, (b + 1.0) * MM) for a, b in ring), "paper", "beyond", 1.4, key="revision"),
            Text((x * MM, 1.0 * MM), revision, 9, "beyond", "middle", True, dy=5, fixed=True),
        )
    return View("caption", Drawing(tuple(sketch.shapes), (0.0, -1.2 * MM, wide * MM, 4 * MM)), 1.0, left, top)
