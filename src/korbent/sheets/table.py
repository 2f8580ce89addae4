"""Tables on a sheet, as drawings in m of paper: rules, heads, texts that end where their column does, small sketches in
cells."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from korbent.drawing.primitives import Anchor, Drawing, Line, Shape, Sketch, Text
from korbent.sheets.composition import px, wrapped
from korbent.sheets.paper import MM

TYPE = 1.9
"""Height of capitals, mm."""
ROW, LINE = 5.2, 3.6
"""Height of a row of one line, and of each further line, mm."""


@dataclass(frozen=True)
class Column:
    """A column: its head, width in mm, and where its texts stand."""

    head: str
    width: float
    anchor: Anchor = "left"


Cell = str | Drawing
"""A text, or a drawing in mm that is put into the middle of the cell."""


def heights(columns: Sequence[Column], rows: Sequence[Sequence[Cell]]) -> list[float]:
    """Heights of the rows, mm."""
    return [_height(columns, row) for row in rows]


def _height(columns: Sequence[Column], row: Sequence[Cell]) -> float:
    lines, tall = 1, 0.0
    for column, cell in zip(columns, row):
        if isinstance(cell, Drawing):
            tall = max(tall, cell.bounds[3] - cell.bounds[1] + 2.0)
        else:
            lines = max(lines, len(wrapped(cell, px(TYPE), column.width - 3.0)))
    return max(ROW + LINE * (lines - 1), tall)


def table_drawing(columns: Sequence[Column], rows: Sequence[Sequence[Cell]], title: str = "") -> Drawing:
    """The table with its upper left corner at the origin; y runs up, so that it lies below."""
    sketch = Sketch(layer="texts")
    wide = sum(c.width for c in columns)
    y = 0.0
    if title:
        sketch.add(Text((0, -4.2 * MM), title, px(2.5), "ink", bold=True, fixed=True))
        y = 6.5
    head = [c.head for c in columns]
    lines = [0.0]
    for c in columns:
        lines.append(lines[-1] + c.width)
    sketch.add(_rule(0, wide, y, 1.4))
    top = y
    for k, row in enumerate([head, *rows]):
        high = _height(columns, row)
        for x, column, cell in zip(lines, columns, row):
            if isinstance(cell, Drawing):
                sketch.add(*_inside(cell, x, y, column.width, high))
            else:
                _write(sketch, cell, x, y, column, k == 0)
        y += high
        sketch.add(_rule(0, wide, y, 1.2 if k == 0 else 0.5))
    sketch.add(_rule(0, wide, y, 1.4))
    for x in lines:
        sketch.add(Line(((x * MM, -top * MM), (x * MM, -y * MM)), "ink", 0.5))
    return Drawing(tuple(sketch.shapes), (0.0, -y * MM, wide * MM, 0.0))


def _rule(x0: float, x1: float, y: float, width: float) -> Line:
    return Line(((x0 * MM, -y * MM), (x1 * MM, -y * MM)), "ink", width)


def _write(sketch: Sketch, cell: str, x: float, y: float, column: Column, bold: bool) -> None:
    at = {"left": x + 1.5, "middle": x + column.width / 2, "right": x + column.width - 1.5}[column.anchor]
    for i, part in enumerate(wrapped(cell, px(TYPE), column.width - 3.0)):
        sketch.add(
            Text(
                (at * MM, -(y + 3.6 + i * LINE) * MM),
                part,
                px(TYPE),
                "ink",
                column.anchor,
                bold,
                fixed=True,
                room=(column.width - 1.0) * MM,
            )
        )


def _inside(cell: Drawing, x: float, y: float, wide: float, high: float) -> list[Shape]:
    """The shapes of a small drawing in mm, in the middle of a cell."""
    x0, y0, x1, y1 = cell.bounds
    dx, dy = x + (wide - (x1 - x0)) / 2 - x0, -(y + high / 2) - (y0 + y1) / 2

    def moved(point: tuple[float, float]) -> tuple[float, float]:
        return (point[0] + dx) * MM, (point[1] + dy) * MM

    found: list[Shape] = []
    for shape in cell.shapes:
        if isinstance(shape, Line):
            found.append(replace(shape, points=tuple(moved(p) for p in shape.points)))
        elif isinstance(shape, Text):
            found.append(replace(shape, at=moved(shape.at), fixed=True))
    return found


def shared(columns: Sequence[Column], rows: Sequence[Sequence[Cell]], high: float) -> list[list[Sequence[Cell]]]:
    """The rows shared out to tables that are at most ``high`` mm, their heads included."""
    found: list[list[Sequence[Cell]]] = [[]]
    head = _height(columns, [c.head for c in columns]) + 7.0
    taken = head
    for row, own in zip(rows, heights(columns, rows)):
        if taken + own > high and found[-1]:
            found.append([])
            taken = head
        found[-1].append(row)
        taken += own
    return found


def narrowed(columns: Sequence[Column], wide: float, least: float = 28.0) -> list[Column]:
    """The columns within a width, mm: the last one gives way first, then all of them."""
    over = sum(c.width for c in columns) - wide
    if over <= 0:
        return list(columns)
    last = max(columns[-1].width - over, min(least, columns[-1].width))
    found = [*columns[:-1], replace(columns[-1], width=last)]
    share = min(1.0, wide / sum(c.width for c in found))
    return [replace(c, width=c.width * share) for c in found]
