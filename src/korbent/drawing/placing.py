"""Labels that never lie on each other: one routine for every drawing and every page.

What has a place of its own (dimensions, leaders, ticks and levels) stays; all else that is written gives way: to one of
the other spots that it may stand at, or by a line or so up or down. What finds no room is left out until there is some:
by zooming in."""

import math
from collections.abc import Iterator
from dataclasses import replace

from korbent.drawing.painting import ALIGN, ROOMY, Label, Measure, box_of, written_of
from korbent.drawing.primitives import (
    Anchor,
    Dimension,
    Disc,
    Drawing,
    Leader,
    Placement,
    Point,
    Polygon,
    Shape,
    Text,
)

Box = tuple[float, float, float, float]
"""Left, top, right, bottom on the page."""
WIDE, HIGH = 96.0, 32.0
"""Cells in which boxes are looked for, px."""
TOUCH_X, TOUCH_Y = 1.0, 1.5
"""So much may two labels overlap: the room around their letters, px."""
NUDGES = (-0.7, 0.7, -1.2, 1.2, -1.8, 1.8)
"""Lines up and down by which a label may give way."""
KEPT_OFF = ("pad:", "drag:pad:", "point:")
"""Keys of what labels with spots rather do not cover."""
PAPER = 3.0
"""Of a text that is set on paper, to both sides of it, px."""
EDGE = 2.0
"""Between a label and the edge of the page, px."""
CROWD = 0.5
"""Where all labels would cover so much of the page none is looked another spot for: what has no room is left out at
once."""


class Taken:
    """Boxes, by the cells that they touch."""

    def __init__(self, px: float) -> None:
        self.wide, self.high = WIDE * px, HIGH * px
        self.near_x, self.near_y = TOUCH_X * px, TOUCH_Y * px
        self.cells: dict[tuple[int, int], list[Box]] = {}

    def add(self, box: Box) -> None:
        """Takes the place of a box."""
        wide, high = self.wide, self.high
        for i in range(int(box[0] // wide), int(box[2] // wide) + 1):
            for j in range(int(box[1] // high), int(box[3] // high) + 1):
                self.cells.setdefault((i, j), []).append(box)

    def meets(self, box: Box) -> bool:
        """Whether something lies there already."""
        a, b, c, d = box
        a, b, c, d = a + self.near_x, b + self.near_y, c - self.near_x, d - self.near_y
        wide, high, cells = self.wide, self.high, self.cells
        for i in range(int(a // wide), int(c // wide) + 1):
            for j in range(int(b // high), int(d // high) + 1):
                for left, top, right, bottom in cells.get((i, j), ()):
                    if left < c and right > a and top < d and bottom > b:
                        return True
        return False


def arranged(measure: Measure, drawing: Drawing, place: Placement, page: tuple[float, float] | None = None) -> Drawing:
    """The drawing with its labels where none lies on another; the very same one where none did (see
    :func:`given_way`)."""
    changed = given_way(measure, drawing, place, page)
    if not changed:
        return drawing
    shapes = (changed.get(i, s) for i, s in enumerate(drawing.shapes))
    return Drawing(tuple(s for s in shapes if s is not None), drawing.bounds)


def given_way(
    measure: Measure, drawing: Drawing, place: Placement, page: tuple[float, float] | None = None
) -> dict[int, Shape | None]:
    """What becomes of labels that would lie on others, by their place among the shapes: moved, or left out (None).

    Args:
        page: width and height within which all labels stay that belong to what is seen there; None where only a part of
        the drawing is
            seen.
    """
    labels = [(i, s) for i, s in enumerate(drawing.shapes) if isinstance(s, Label) and s.text]
    changed: dict[int, Shape | None] = {}
    if page is not None:  # a drawing may go on beyond what is seen of it
        labels = [(i, s) for i, s in labels if _seen(s, place, page)]
    elif len(labels) < 2:
        return changed
    texts = Taken(measure.px)
    solid = _solid(measure, drawing, place) if any(isinstance(s, Text) and s.spots for _, s in labels) else None
    crowded = page is not None and _covered(measure, labels) > CROWD * page[0] * page[1]
    for i, label in sorted(labels, key=_rank):
        if not isinstance(label, Text):
            if _is_written(measure, label, place):
                texts.add(box_of(measure, label, place))
            continue
        size = (label.size + 1) * measure.px
        width = measure.width_of(label.text, label.size + 1, label.bold)
        if label.room:
            width = min(width, label.room * place.scale)
        beside = PAPER * measure.px if label.halo else 0.0
        box = _box(measure, place, label.at, label.anchor, label.dx, label.dy, width, size, beside)
        if page is not None and not _on(box, page, EDGE * measure.px):
            changed[i] = label = _inside(measure, label, box, place, page)
            size, box = (label.size + 1) * measure.px, box_of(measure, label, place)
            width = box[2] - box[0]
            box = (box[0] - beside, box[1], box[2] + beside, box[3])
        if not texts.meets(box) and (solid is None or not label.spots or not solid.meets(box)):
            texts.add(box)
            continue
        second = None if texts.meets(box) else (label.at, label.anchor, label.dx, label.dy, box)
        found = None
        if not label.fixed and not (crowded and second is None):
            for spot in _others(label):
                other = _box(measure, place, *spot, width, size, beside)
                if texts.meets(other) or (page is not None and not _on(other, page, 0.0)):
                    continue
                if solid is None or not label.spots or not solid.meets(other):
                    found = (*spot, other)
                    break
                second = second or (*spot, other)
        chosen = found or second
        if chosen is None:
            changed[i] = None
            continue
        texts.add(chosen[4])
        if chosen[4] is not box:
            changed[i] = replace(label, at=chosen[0], anchor=chosen[1], dx=chosen[2], dy=chosen[3])
    return changed


def _seen(label: Label, place: Placement, page: tuple[float, float]) -> bool:
    """Whether what a label belongs to lies on the page."""
    x, y = place(label.start if isinstance(label, Dimension) else label.at)
    return 0.0 <= x <= page[0] and 0.0 <= y <= page[1]


def _box(
    measure: Measure,
    place: Placement,
    at: Point,
    anchor: Anchor,
    dx: float,
    dy: float,
    width: float,
    size: float,
    beside: float,
) -> Box:
    """What a text of that width and size covers on the page, with so much paper ``beside`` it."""
    x = place.left + (at[0] - place.x0) * place.scale + dx * measure.px + ALIGN[anchor] * width
    y = place.top + (place.y1 - at[1]) * place.scale + dy * measure.px
    return x - beside, y - 0.8 * size, x + width + beside, y + 0.25 * size


def _covered(measure: Measure, labels: list[tuple[int, Label]]) -> float:
    """About how much of a page all labels cover."""
    return sum(0.55 * len(s.text) * (s.size + 1) ** 2 for _, s in labels) * measure.px**2


def _rank(pair: tuple[int, Label]) -> tuple[int, int, float, int]:
    """What comes first stays where it is."""
    i, label = pair
    if not isinstance(label, Text):
        return (0, 0, 0.0, i)
    return (1 if label.fixed else 2, not label.bold, -label.size, i)


def _solid(measure: Measure, drawing: Drawing, place: Placement) -> Taken:
    """What labels rather do not cover: bases, columns, marks."""
    found = Taken(measure.px)
    for shape in drawing.shapes:
        if isinstance(shape, Polygon) and shape.key.startswith(KEPT_OFF):
            xs, ys = zip(*shape.points)
            (left, top), (right, bottom) = place((min(xs), max(ys))), place((max(xs), min(ys)))
        elif isinstance(shape, Disc) and shape.fixed and shape.radius >= 4:
            x, y = place(shape.at)
            r = shape.radius * measure.px
            left, top, right, bottom = x - r, y - r, x + r, y + r
        else:
            continue
        found.add((left, top, right, bottom))
    return found


def _is_written(measure: Measure, label: Dimension | Leader, place: Placement) -> bool:
    """Whether there is room for the text of a dimension."""
    if isinstance(label, Leader):
        return True
    text = written_of(label, place)
    a, b = (place(p) for p in label.line)
    return text.anchor != "middle" or measure.width_of(text.text, text.size + 1, text.bold) <= ROOMY * math.dist(a, b)


def _inside(measure: Measure, label: Text, box: Box, place: Placement, page: tuple[float, float]) -> Text:
    """A label moved into the page, in smaller type where it is longer than that."""
    edge = EDGE * measure.px
    left, top, right, bottom = box
    if right - left > page[0] - 2 * edge and not label.room:
        size = max(9.0, (label.size + 1) * (page[0] - 2 * edge) / (right - left) - 1)
        label = replace(label, size=size, room=(page[0] - 2 * edge) / place.scale)
        left, top, right, bottom = box_of(measure, label, place)
    dx = max(edge - left, 0.0) or min(page[0] - edge - right, 0.0)
    dy = max(edge - top, 0.0) or min(page[1] - edge - bottom, 0.0)
    return replace(label, dx=label.dx + dx / measure.px, dy=label.dy + dy / measure.px)


def _on(box: Box, page: tuple[float, float], edge: float) -> bool:
    return box[0] >= edge and box[1] >= edge and box[2] <= page[0] - edge and box[3] <= page[1] - edge


def _others(label: Text) -> Iterator[tuple[Point, Anchor, float, float]]:
    """Where else a label may stand, the best first."""
    for s in label.spots:
        yield s.at, s.anchor, s.dx, s.dy
    line = label.size + 3
    for k in () if label.stays else NUDGES:
        yield label.at, label.anchor, label.dx, label.dy + k * line
