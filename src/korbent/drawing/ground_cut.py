"""A vertical cut of the ground below a raft: strata, lines of equal added stress, the bent base."""

import math

import numpy as np
from contourpy import LineType, contour_generator

from korbent.core.explain.ground_cut import GroundCut
from korbent.core.units import Showing, show, show_length, shown_unit, to_shown
from korbent.drawing.primitives import Drawing, Line, Point, Polygon, Sketch, Text, rectangle
from korbent.drawing.raft import levels_of
from korbent.words import say

BENT = 0.05
"""The greatest settlement is drawn as so much of the depth that is seen."""


def ground_cut_drawing(found: GroundCut | str, units: Showing) -> Drawing:
    """To scale, the settlement of the base drawn larger."""
    if isinstance(found, str):
        return Drawing((Text((0, 0), found, 11, "soft", "middle"),), (-1, -1, 1, 1))
    low, top = float(found.z[0]), found.underside + found.thickness
    left, right = float(found.x[0]), float(found.x[-1])
    sketch = Sketch()
    for name, pattern, upper, lower in found.strata:
        upper, lower = min(upper, top), max(lower, low)
        if upper <= lower:
            continue
        sketch.layer = "ground"
        sketch.add(
            Polygon(rectangle(left, lower, right, upper), pattern, None, pattern=pattern, opacity=0.55),
            Line(((left, lower), (right, lower)), "soft", 0.8),
        )
        if upper - lower > 0.04 * (top - low):
            sketch.add(Text((right, (upper + lower) / 2), name, 10, "soft", "right", dx=-6, dy=4, halo=True))
    sketch.layer = "results"
    _isolines(sketch, found, units)
    grown = _bent(sketch, found, top - low)
    u, m = shown_unit("kPa", units), shown_unit("m", units)
    across = "y" if found.axis == "x" else "x"
    words = (
        say(
            "added stress, {u}, of the raft alone · {across} {length} {m}",
            u=u,
            across=across,
            length=show_length(found.at, units),
            m=m,
        ),
        say(
            "combination {situation} · settlement drawn {grown:.0f} times as large",
            situation=found.situation,
            grown=grown,
        ),
    )
    for k, text in enumerate(words):
        sketch.add(Text(((left + right) / 2, low), text, 10, "soft", "middle", dy=16 + 13 * k))
    for level in (found.underside, low):
        sketch.add(Text((left, level), f"{show_length(level, units)}", 10, "soft", "right", dx=-4, dy=4))
    return Drawing(tuple(sketch.shapes), (left, low, right, top))


def _isolines(sketch: Sketch, found: GroundCut, units: Showing) -> None:
    factor = to_shown(1.0, "kPa", units)
    generator = contour_generator(found.x, found.z, found.stress.T, line_type=LineType.Separate)
    span = float(found.x[-1] - found.x[0])
    labelled: list[Point] = []
    values = [v / factor for v in levels_of(float(found.stress.min()) * factor, float(found.stress.max()) * factor)]
    for value in values:
        for line in generator.lines(value) or ():
            points = np.asarray(line, dtype=float)
            if len(points) < 2:
                continue
            tone = "pressure" if value > 0 else "water"
            sketch.add(Line(tuple((float(x), float(z)) for x, z in points), tone, 1.6))
            # where it lies deepest: there its number is in nobody's way
            x, z = (float(v) for v in points[int(np.argmin(points[:, 1]))])
            if all(math.dist((x, z), other) > 0.05 * span for other in labelled):
                labelled.append((x, z))
                sketch.add(Text((x, z), show(value, "kPa", units), 9.5, "ink", "middle", dy=4, halo=True))


def _bent(sketch: Sketch, found: GroundCut, depth: float) -> float:
    """The base as it settles; how many times its settlement is drawn as large."""
    most = float(np.nanmax(np.abs(found.settled)))
    grown = BENT * depth / most if most > 1e-9 else 1.0
    solid = ~np.isnan(found.settled)
    starts = np.flatnonzero(solid & ~np.concatenate([[False], solid[:-1]]))
    ends = np.flatnonzero(solid & ~np.concatenate([solid[1:], [False]]))
    for i, j in zip(starts, ends):
        s, w = found.base[i : j + 1], grown * found.settled[i : j + 1]
        below = [(float(a), found.underside - float(b)) for a, b in zip(s, w)]
        above = [(x, y + found.thickness) for x, y in below]
        sketch.add(Polygon((*below, *above[::-1]), "concrete", "concrete_line", 1.4))
    return grown
