"""The map of sizes as a drawing: ratio as colour, the border of what holds, what governs where, now and smallest."""

import numpy as np

from korbent.core.checks import LIMIT
from korbent.core.sizing.size_map import SizeMap
from korbent.core.units import show, show_length, show_ratio, shown_unit, sizes_text
from korbent.drawing.chart import TYPE
from korbent.drawing.primitives import Disc, Drawing, Line, Point, Polygon, Sketch, Text, rectangle
from korbent.words import say

WIDE = 10.0
NAMES = {"length": say("length L"), "thickness": say("thickness h"), "level": say("founded at")}


def size_map_drawing(found: SizeMap, state: str, aspect: float) -> Drawing:
    """Width to the right, the other dimension upwards. ``state``: what to say of it instead of the smallest, where it
    is not the fine map of what is shown."""
    rows, columns = found.ratio.shape
    high = WIDE / max(aspect, 0.5)
    wide, tall = WIDE / columns, high / rows
    units = found.project.showing
    sketch = Sketch()

    def place(x: float, y: float) -> Point:
        """Where a pair of sizes lies; cells stand about their values."""
        step_x = found.x[1] - found.x[0] if columns > 1 else 1.0
        step_y = found.y[1] - found.y[0] if rows > 1 else 1.0
        return ((x - found.x[0]) / step_x * wide + wide / 2, (y - found.y[0]) / step_y * tall + tall / 2)

    for j in range(rows):
        for i in range(columns):
            value = found.ratio[j, i]
            colour = "faint" if np.isnan(value) else "beyond" if np.isinf(value) else f"ratio:{round(float(value), 3)}"
            box = rectangle(i * wide, j * tall, (i + 1) * wide, (j + 1) * tall)
            sketch.add(
                Polygon(
                    box,
                    colour,
                    None,
                    opacity=0.45 if value > LIMIT else 1.0,
                    hatch=bool(value > LIMIT),
                    key=f"size:{j}:{i}",
                )
            )
    held = found.ratio <= LIMIT
    for j in range(rows):
        for i in range(columns):
            if i + 1 < columns and held[j, i] != held[j, i + 1]:
                sketch.add(Line((((i + 1) * wide, j * tall), ((i + 1) * wide, (j + 1) * tall)), "ink", 2.2))
            if j + 1 < rows and held[j, i] != held[j + 1, i]:
                sketch.add(Line(((i * wide, (j + 1) * tall), ((i + 1) * wide, (j + 1) * tall)), "ink", 2.2))
    if found.up != "level":
        _volumes(sketch, found, place, high)
    for which in np.unique(found.governing[found.governing >= 0]):
        cells = np.argwhere(found.governing == which)
        if len(cells) >= max(3, 0.03 * rows * columns):
            middle = cells.mean(axis=0)
            j, i = min(cells, key=lambda c: float(((c - middle) ** 2).sum()))
            sketch.add(
                Text(
                    ((i + 0.5) * wide, (j + 0.5) * tall),
                    found.checks[int(which)],
                    10,
                    "ink",
                    "middle",
                    dy=4,
                    halo=True,
                    room=0.6 * WIDE,
                )
            )
    _axes(sketch, found, place, high)
    now = place(found.pad.width, float(getattr(found.pad, found.up)))
    if 0 <= now[0] <= WIDE and 0 <= now[1] <= high:
        sketch.add(
            Disc(now, 6, None, "ink", 2.2, fixed=True),
            Text(now, say("now"), 11, "ink", bold=True, dx=9, dy=-5, halo=True),
        )
    best = found.smallest
    if best:
        x, y = found.at(*best)
        at = place(x, y)
        sketch.add(
            Disc(at, 5, "accent", "paper", 1.4, fixed=True),
            Text(at, say("smallest"), 11, "accent", bold=True, dx=9, dy=13, halo=True),
        )
    if state:
        sketch.add(Text((WIDE, high), state, 10, "soft", "right", dy=-5))
    elif best:
        value = found.ratio[best]
        text = say(
            "smallest {sizes}, ratio {ratio}",
            sizes=sizes_text((x, y), units, " x "),
            ratio=show_ratio(float(value)),
        )
        sketch.add(Text((WIDE, high), text, 10, "accent", "right", dy=-5))
    else:
        sketch.add(Text((WIDE, high), say("nothing on the map holds"), 10, "beyond", "right", dy=-5))
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))


def _volumes(sketch: Sketch, found: SizeMap, place: object, high: float) -> None:
    """Lines of equal volume of concrete."""
    units = found.project.showing
    other = found.pad.thickness if found.up == "length" else found.pad.length
    now = found.pad.area(found.pad.width, found.pad.length) * found.pad.thickness
    for share in (0.6, 1.0, 1.5):
        x = np.linspace(found.x[0], found.x[-1], 60)
        y = now * share / (x * other)
        points = [place(float(a), float(b)) for a, b in zip(x, y)]  # type: ignore[operator]
        inside = [p for p in points if 0 <= p[0] <= WIDE and 0 <= p[1] <= high]
        if len(inside) > 3:
            sketch.add(Line(tuple(inside), "paper", 1.3, dash=True))
            cubic = f"{show(now * share, 'm³', units)} {shown_unit('m³', units)}"
            sketch.add(Text(inside[-1], cubic, 9, "ink", "right", dx=-3, dy=-3, halo=True))


def _axes(sketch: Sketch, found: SizeMap, place: object, high: float) -> None:
    units = found.project.showing
    unit = shown_unit("m", units)
    # no lines: they would cut through the cells
    for i in range(0, len(found.x), max(1, len(found.x) // 5)):
        x, _ = place(float(found.x[i]), 0.0)  # type: ignore[operator]
        sketch.add(Text((x, 0), show_length(float(found.x[i]), units), TYPE, "soft", "middle", dy=14))
    for j in range(0, len(found.y), max(1, len(found.y) // 4)):
        _, y = place(0.0, float(found.y[j]))  # type: ignore[operator]
        sketch.add(Text((0, y), show_length(float(found.y[j]), units), TYPE, "soft", "right", dx=-6, dy=4))
    sketch.add(
        Text((WIDE, 0), say("width B, {unit}", unit=unit), 10, "soft", "right", dy=28),
        Text((0, high), f"{NAMES[found.up]}, {unit}", 10, "soft", dx=-40, dy=-5),
        Polygon(rectangle(0, 0, WIDE, high), None, "line"),
    )
