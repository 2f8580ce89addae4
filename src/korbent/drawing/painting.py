"""Puts a drawing on a page: where each shape falls, heads of arrows, alignment and room of texts, once for every kind of page."""

import math
from collections.abc import Callable, Iterable, Sequence
from typing import Protocol

from korbent.drawing.primitives import Anchor, Disc, Line, Placement, Point, Polygon, Shape, Text

ALIGN = {"left": 0.0, "middle": -0.5, "right": -1.0}


class Page(Protocol):
    """What can be painted on. Places are in units of the page, y down; widths, type and marks in px as on the screen, of which the page has
    ``px`` units each. Colours are tokens of the theme."""

    px: float

    def area(self, points: Sequence[Point], fill: str, opacity: float) -> None:
        """Fills a polygon."""

    def pattern(self, points: Sequence[Point], name: str) -> None:
        """Fills a polygon with the pattern of a soil."""

    def hatch(self, points: Sequence[Point]) -> None:
        """Hatches a polygon: it fails."""

    def line(
        self, points: Sequence[Point], stroke: str, width: float, dash: bool = False, closed: bool = False
    ) -> None:
        """A line through points."""

    def disc(self, at: Point, radius: float, fill: str | None, stroke: str | None, width: float) -> None:
        """A round mark; ``radius`` in units of the page."""

    def text(self, at: Point, text: str, size: float, colour: str, bold: bool, anchor: Anchor) -> None:
        """A text that begins at a point of its base line; ``anchor`` is what stays where its width turns out another."""

    def halo(self, at: Point, width: float, size: float, bold: bool) -> None:
        """Paper behind a text of that width (units of the page)."""

    def width_of(self, text: str, size: float, bold: bool) -> float:
        """Width of a text, in units of the page."""


def paint(page: Page, shapes: Iterable[Shape], place: Placement) -> None:
    """Paints shapes in their order."""
    for shape in shapes:
        match shape:
            case Polygon():
                _polygon(page, shape, [place(p) for p in shape.points])
            case Line():
                _line(page, shape, [place(p) for p in shape.points])
            case Disc():
                radius = shape.radius * (page.px if shape.fixed else place.scale)
                page.disc(place(shape.at), radius, shape.fill, shape.stroke, shape.width)
            case Text():
                _text(page, shape, place)


def _polygon(page: Page, shape: Polygon, points: list[Point]) -> None:
    if shape.fill:
        page.area(points, shape.fill, shape.opacity)
    if shape.pattern:
        page.pattern(points, shape.pattern)
    if shape.hatch:
        page.hatch(points)
    if shape.stroke:
        page.line(points, shape.stroke, shape.width, shape.dash, closed=True)


def _line(page: Page, shape: Line, points: list[Point]) -> None:
    if not shape.arrow:
        page.line(points, shape.stroke, shape.width, shape.dash)
        return
    (tx, ty), (fx, fy) = points[-1], points[-2]
    length = math.hypot(tx - fx, ty - fy) or 1.0
    ux, uy = (tx - fx) / length, (ty - fy) / length
    size = (4.5 + 2.2 * shape.width) * page.px
    foot = (tx - ux * size, ty - uy * size)
    side = (-uy * size * 0.45, ux * size * 0.45)
    page.line([*points[:-1], foot], shape.stroke, shape.width, shape.dash)
    head = ((tx, ty), (foot[0] + side[0], foot[1] + side[1]), (foot[0] - side[0], foot[1] - side[1]))
    page.area(head, shape.stroke, 1.0)


def _text(page: Page, shape: Text, place: Placement) -> None:
    text, size = shape.text, shape.size + 1
    width = page.width_of(text, size, shape.bold)
    if shape.room and width > shape.room * place.scale:
        text = cut(text, shape.room * place.scale, lambda t: page.width_of(t, size, shape.bold))
        if len(text) < 4:
            return
        width = page.width_of(text, size, shape.bold)
    x, y = place(shape.at)
    at = (x + shape.dx * page.px + ALIGN[shape.anchor] * width, y + shape.dy * page.px)
    if shape.halo:
        page.halo(at, width, size, shape.bold)
    page.text(at, text, size, shape.colour, shape.bold, shape.anchor)


def cut(text: str, room: float, width_of: Callable[[str], float]) -> str:
    """As much of a text as there is room for, with an ellipsis for the rest."""
    low, high = 0, len(text)
    while low < high:
        middle = (low + high + 1) // 2
        if width_of(text[:middle].rstrip() + "…") <= room:
            low = middle
        else:
            high = middle - 1
    return text if low == len(text) and width_of(text) <= room else text[:low].rstrip() + "…"
