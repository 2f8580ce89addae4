"""What tests look at on sheets: where each text stands, and where two lie on each other."""

import math
from itertools import combinations

from korbent.drawing.painting import ROOMY, box_of, cut, written_of
from korbent.drawing.primitives import Dimension, Leader, Text
from korbent.sheets.composition import Paper, Sheet, laid

Box = tuple[float, float, float, float]
TOUCH_X, TOUCH_Y = 0.4, 0.45
"""So much may the boxes of two texts overlap, mm: the room around their letters."""


def written(sheet: Sheet) -> list[tuple[str, Box]]:
    """All texts of a sheet with what they cover, mm from the upper left corner."""
    measure, found = Paper(), []
    for view in laid(sheet, measure, 1.0).whole:
        place = view.placement(1.0)
        for shape in view.drawing.shapes:
            if not isinstance(shape, Text | Dimension | Leader) or not shape.text:
                continue
            if isinstance(shape, Dimension):
                text = written_of(shape, place)
                wide = measure.width_of(text.text, text.size + 1, text.bold)
                if text.anchor == "middle" and wide > ROOMY * math.dist(*(place(p) for p in shape.line)):
                    continue
            if isinstance(shape, Text) and shape.room:
                wide, size = shape.room * place.scale, shape.size + 1
                short = cut(shape.text, wide, lambda t, s=size, b=shape.bold: measure.width_of(t, s, b))  # type: ignore[misc]
                if len(short) < 4 and short != shape.text:
                    continue
            found.append((shape.text, box_of(measure, shape, place)))
    return found


def overlaps(sheet: Sheet) -> list[tuple[str, str]]:
    """Pairs of texts that lie on each other."""
    return [
        (a, b)
        for (a, p), (b, q) in combinations(written(sheet), 2)
        if min(p[2], q[2]) - max(p[0], q[0]) > TOUCH_X and min(p[3], q[3]) - max(p[1], q[1]) > TOUCH_Y
    ]


def outside(sheet: Sheet) -> list[str]:
    """Texts that reach over the edge of the paper."""
    return [t for t, (a, b, c, d) in written(sheet) if a < 0 or b < 0 or c > sheet.width or d > sheet.height]
