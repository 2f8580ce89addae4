"""The sketch of one bent bar with its legs."""

import math

from korbent.core.concrete.schedule import CLOSED, HOOKED, STRAIGHT, Bar
from korbent.core.model import Project
from korbent.drawing.primitives import Drawing, Line, Point, Shape, Text
from korbent.sheets.foundation_plan import length_words
from korbent.words import say


def shape_sketch(project: Project, bar: Bar) -> Drawing:
    """A bar as it is bent, with the lengths of its legs, in mm of paper; not to scale."""
    units = project.showing

    def said(value: float) -> str:
        return length_words(value, units)

    w = 30.0
    shapes: tuple[Shape, ...]
    path: tuple[Point, ...]
    if bar.shape == STRAIGHT:
        shapes = (
            Line(((0, 0), (w, 0)), "ink", 1.6),
            Text((w / 2, 0), said(bar.b), 7.5, "ink", "middle", dy=-3),
        )
        return Drawing(shapes, (0, -1, w, 4))
    if bar.shape == HOOKED:
        path = ((0, 7), (0, 0), (w, 0), (w, 7))
        shapes = (
            Line(path, "ink", 1.6),
            Text((w / 2, 0), said(bar.b), 7.5, "ink", "middle", dy=-3),
            Text((0, 4), said(bar.a), 7.5, "ink", "left", dx=3),
            Text((w, 4), said(bar.c), 7.5, "ink", "right", dx=-3),
        )
        return Drawing(shapes, (0, -1, w, 7))
    if bar.shape == CLOSED:
        path = ((6, 9.5), (6, 0), (24, 0), (24, 10), (6, 10), (6, 8), (9, 6.5))
        shapes = (
            Line(path, "ink", 1.6),
            Text((15, 0), said(bar.a), 7.5, "ink", "middle", dy=-3),
            Text((24, 5), said(bar.b), 7.5, "ink", "left", dx=3, dy=3),
        )
        return Drawing(shapes, (0, -1, w, 11))
    if bar.shape == "11":
        path = ((0, 9), (0, 0), (14, 0))
        shapes = (
            Line(path, "ink", 1.6),
            Text((0, 5), said(bar.a), 7.5, "ink", "left", dx=3, dy=3),
            Text((14, 0), said(bar.b), 7.5, "ink", "left", dx=3, dy=3),
        )
        return Drawing(shapes, (0, -1, w, 10))
    if bar.shape == "77":
        path = tuple((2 + 26 * i / 60, 5 + 4.5 * math.sin(2 * math.pi * 5 * i / 60)) for i in range(61))
        shapes = (
            Line(path, "ink", 1.4),
            Text(
                (15, 0),
                say(
                    "ø {said}, pitch {bar_said}, {said_2} high",
                    said=said(bar.a),
                    bar_said=said(bar.b),
                    said_2=said(bar.c),
                ),
                6.5,
                "ink",
                "middle",
                dy=6,
            ),
        )
        return Drawing(shapes, (0, -4, w, 10))
    path = tuple((15 + 5 * math.cos(t), 5.5 + 5 * math.sin(t)) for t in (2 * math.pi * i / 36 for i in range(39)))
    return Drawing(
        (Line(path, "ink", 1.6), Text((20, 5.5), f"ø {said(bar.a)}", 7.5, "ink", "left", dx=3, dy=3)), (0, 0, w, 11)
    )
