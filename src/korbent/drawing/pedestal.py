"""The interaction of axial force and moment of a pedestal, with all situations as points."""

import numpy as np

from korbent.core.concrete.pedestal import Line as Interaction
from korbent.core.units import Showing, shown_unit, to_shown
from korbent.drawing.chart import across, axis, up
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Sketch, Text
from korbent.words import say

WIDE = 10.0


def pedestal_drawing(found: Interaction | None, units: Showing, aspect: float) -> Drawing:
    """Moment to the right, axial force upwards; the curve goes through the direction of the moment that governs."""
    if found is None:
        return Drawing(
            (Text((0, 0), say("no pedestal, or nothing to check it by"), 12, "soft", "middle"),),
            (-1.0, -1.0, 1.0, 1.0),
        )
    high = WIDE / max(aspect, 0.5)
    kn, knm = shown_unit("kN", units), shown_unit("kNm", units)
    N = np.array([to_shown(float(v), "kN", units) for v in found.N])
    M = np.array([to_shown(float(v), "kNm", units) for v in found.M])
    low, top, most = min(float(N.min()), 0.0), float(N.max()), 1.08 * float(M.max())
    sketch = Sketch()

    x, y = axis(0.0, most, 0.0, WIDE, 6), axis(low, top, 0.0, high, 5)
    across(sketch, x, 0.0, high)
    up(sketch, y, 0.0, WIDE)

    def place(m: float, n: float) -> tuple[float, float]:
        return x(m), y(n)

    points = [place(float(m), float(n)) for m, n in zip(M, N)]
    sketch.add(
        Polygon((place(0.0, float(N[0])), *points, place(0.0, float(N[-1]))), "accent_wash", None),
        Line(tuple(points), "accent", 2.2),
    )
    for m, n in zip(found.acting_M, found.acting_N):
        at = place(float(to_shown(float(m), "kNm", units)), float(to_shown(float(n), "kN", units)))
        sketch.add(Disc((min(at[0], WIDE), at[1]), 3.4, "ink", "paper", 1.0, fixed=True))
    text = say(
        "moment, {knm}, through {direction:.0f}° from x · up: axial force, {kn} · a dot for each situation",
        knm=knm,
        direction=found.direction,
        kn=kn,
    )
    sketch.add(Text((WIDE, 0), text, 10, "soft", "right", dy=29))
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))
