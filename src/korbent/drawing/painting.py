"""Puts a drawing on a page: where each shape falls, heads of arrows, alignment and room of texts, once for every kind
of page."""

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from typing import Protocol

from korbent.drawing.primitives import (
    Anchor,
    Dimension,
    Disc,
    Drawing,
    Leader,
    Line,
    Margins,
    Placement,
    Point,
    Polygon,
    Shape,
    Text,
    placed,
)

ALIGN = {"left": 0.0, "middle": -0.5, "right": -1.0}


LEAST = 12.0
"""Least margin around the bounds of a drawing, px."""
MOST = 0.36
"""Share of the page that a margin takes at most: longer texts end at the edge."""
ROOMY = 1.15
"""A text may be so many times longer than the line of its dimension."""
DOT = 2.2
"""Radius of the ends of dimensions and leaders, px."""


USUAL = 90.0
"""Margins hardly grow beyond this, px."""
OUTSIDE = 0.1
"""So far outside the bounds, in their size, may stand what belongs to them."""
WIDEST = 0.8
"""No letter is wider than so much of the size of its type."""
Label = Text | Dimension | Leader


class Measure(Protocol):
    """What is to be known of a page to find room on it."""

    px: float

    def width_of(self, text: str, size: float, bold: bool) -> float:
        """Width of a text, in units of the page."""


def fitted(measure: Measure, drawing: Drawing, width: float, height: float) -> Placement:
    """The placement that fits a drawing into a page with all that is written around its bounds."""
    least = LEAST * measure.px
    margins: Margins = (least, least, least, least)
    place = placed(drawing, width, height, margins)
    labels = _within(drawing)
    usual = (USUAL * measure.px,) * 4
    # most texts lie well inside: they are not measured
    some = _near_edges(measure, drawing, labels, placed(drawing, width, height, usual))
    for k in range(4):
        found = _margins(measure, drawing, some, place, width, height)
        if k == 0 and any(a > b for a, b in zip(found, usual)):
            some = labels
            found = _margins(measure, drawing, some, place, width, height)
        if all(abs(a - b) < 1.0 for a, b in zip(found, margins)):
            break
        margins = found
        place = placed(drawing, width, height, margins)
    # on whole pixels: patterns are painted twice as fast there, and lines sharper
    return replace(place, left=round(place.left), top=round(place.top)) if measure.px == 1.0 else place


def _within(drawing: Drawing) -> list[Label]:
    """What is written of what must be seen: a drawing may go on beyond that, to be moved into sight."""
    x0, y0, x1, y1 = drawing.bounds
    far_x, far_y = OUTSIDE * (x1 - x0), OUTSIDE * (y1 - y0)
    x0, y0, x1, y1 = x0 - far_x, y0 - far_y, x1 + far_x, y1 + far_y
    found: list[Label] = []
    for shape in drawing.shapes:
        if isinstance(shape, Text | Leader):
            x, y = shape.at
        elif isinstance(shape, Dimension):
            x, y = shape.start
        else:
            continue
        if x0 <= x <= x1 and y0 <= y <= y1:
            found.append(shape)
    return found


def _near_edges(measure: Measure, drawing: Drawing, labels: list[Label], place: Placement) -> list[Label]:
    """Those that may reach over the bounds, by a length that is more than theirs."""
    x0, y0, x1, y1 = drawing.bounds
    per_px = measure.px / place.scale
    found: list[Label] = []
    for label in labels:
        if not isinstance(label, Text):
            found.append(label)
            continue
        (x, y), size = label.at, label.size + 1
        wide = WIDEST * size * len(label.text) * per_px + abs(label.dx) * per_px
        high = (1.2 * size + abs(label.dy)) * per_px
        if x - wide < x0 or x + wide > x1 or y - high < y0 or y + high > y1:
            found.append(label)
    return found


def _margins(
    measure: Measure, drawing: Drawing, labels: list[Label], place: Placement, width: float, height: float
) -> Margins:
    """What the labels ask for around the bounds, at most their share of the page."""
    x0, y0, x1, y1 = drawing.bounds
    (left, top), (right, bottom) = place((x0, y1)), place((x1, y0))
    need = [LEAST * measure.px] * 4
    for label in labels:
        a, b, c, d = box_of(measure, label, place)
        over = (left - a, top - b, c - right, d - bottom)
        need = [max(n, o + 6 * measure.px) for n, o in zip(need, over)]
    return (
        min(need[0], MOST * width),
        min(need[1], MOST * height),
        min(need[2], MOST * width),
        min(need[3], MOST * height),
    )


def box_of(measure: Measure, label: Label, place: Placement) -> tuple[float, float, float, float]:
    """What a text covers on the page: left, top, right, bottom."""
    if isinstance(label, Dimension):
        label = written_of(label, place)
    elif isinstance(label, Leader):
        label = _beside(label)
    px, size = measure.px, label.size + 1
    width = measure.width_of(label.text, size, label.bold)
    if label.room:
        width = min(width, label.room * place.scale)
    x, y = place(label.at)
    x, y = x + label.dx * px + ALIGN[label.anchor] * width, y + label.dy * px
    return x, y - 0.8 * size * px, x + width, y + 0.25 * size * px


class Page(Protocol):
    """What can be painted on. Places are in units of the page, y down; widths, type and marks in px as on the screen,
    of which the page has ``px`` units each. Colours are tokens of the theme."""

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
        """A text that begins at a point of its base line; ``anchor`` is what stays where its width turns out
        another."""

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
            case Dimension():
                _dimension(page, shape, place)
            case Leader():
                _leader(page, shape, place)


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


def _dimension(page: Page, shape: Dimension, place: Placement) -> None:
    ends = [place(p) for p in shape.line]
    if shape.away:
        for point, end in zip((shape.start, shape.end), ends):
            page.line([place(point), end], shape.colour, 0.6)
    page.line(ends, shape.colour, 1.0)
    for end in ends:
        page.disc(end, DOT * page.px, shape.colour, None, 1.0)
    written = written_of(shape, place)
    # where it is longer than what it measures it would lie on its neighbours
    if written.anchor != "middle" or page.width_of(written.text, written.size + 1, written.bold) <= ROOMY * math.dist(
        *ends
    ):
        _text(page, written, place)


def written_of(shape: Dimension, place: Placement) -> Text:
    """The text of a dimension beside the middle of its line: it stands clear of the line however that runs."""
    a, b = shape.line
    nx, ny = shape.normal
    # straight beside an upright line the text begins or ends there, else its middle stands there
    anchor: Anchor = "middle" if abs(nx) < 0.9 else ("left" if nx > 0 else "right")
    dx = 6.0 * nx if anchor != "middle" else 14.0 * nx
    dy = (4.0 if anchor != "middle" else 4.0 - 9.5 * ny) if abs(ny) < 0.999 else (13.0 if ny < 0 else -5.0)
    return Text(
        ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2),
        shape.text,
        shape.size,
        shape.colour,
        anchor,
        dx=dx,
        dy=dy,
        halo=True,
    )


def _leader(page: Page, shape: Leader, place: Placement) -> None:
    page.line([place(shape.at), place(shape.to)], shape.colour, 0.8)
    page.disc(place(shape.to), DOT * page.px, shape.colour, None, 1.0)
    _text(page, _beside(shape), place)


def _beside(shape: Leader) -> Text:
    """The text of a leader, beyond the end of its line."""
    dx = {"left": 4.0, "middle": 0.0, "right": -4.0}[shape.anchor]
    above = shape.anchor == "middle" and shape.at[1] >= shape.to[1]
    dy = -4.0 if above else 13.0 if shape.anchor == "middle" else 4.0
    return Text(shape.at, shape.text, shape.size, shape.colour, shape.anchor, dx=dx, dy=dy, halo=True)


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
