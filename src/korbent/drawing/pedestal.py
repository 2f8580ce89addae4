"""The interaction of axial force and moment of a pedestal, with all situations as points."""

import numpy as np

from korbent.core.concrete.pedestal import Line as Interaction
from korbent.core.units import Showing, shown_unit, to_shown
from korbent.drawing.chart import number, ticks
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Sketch, Text

WIDE = 10.0


def pedestal_drawing(found: Interaction | None, units: Showing, aspect: float) -> Drawing:
    """Moment to the right, axial force upwards; the curve goes through the direction of the moment that governs."""
    if found is None:
        return Drawing(
            (Text((0, 0), "no pedestal, or nothing to check it by", 12, "soft", "middle"),),
            (-1.0, -1.0, 1.0, 1.0),
        )
    high = WIDE / max(aspect, 0.5)
    kn, knm = shown_unit("kN", units), shown_unit("kNm", units)
    N = np.array([to_shown(float(v), "kN", units) for v in found.N])
    M = np.array([to_shown(float(v), "kNm", units) for v in found.M])
    low, top, most = min(float(N.min()), 0.0), float(N.max()), 1.08 * float(M.max())
    sketch = Sketch()

    def place(m: float, n: float) -> tuple[float, float]:
        return WIDE * m / most, high * (n - low) / (top - low)

    for value in ticks(0.0, most, 6):
        x = place(value, low)[0]
        sketch.add(
            Line(((x, 0), (x, high)), "faint", 1.0), Text((x, 0), number(value), 10, "soft", "middle", dy=14)
        )
    for value in ticks(low, top, 5):
        y = place(0.0, value)[1]
        sketch.add(
            Line(((0, y), (WIDE, y)), "line" if value == 0 else "faint", 1.0),
            Text((0, y), number(value), 10, "soft", "right", dx=-6, dy=4),
        )
    points = [place(float(m), float(n)) for m, n in zip(M, N)]
    sketch.add(
        Polygon((place(0.0, float(N[0])), *points, place(0.0, float(N[-1]))), "accent_wash", None),
        Line(tuple(points), "accent", 2.2),
    )
    for m, n in zip(found.acting_M, found.acting_N):
        at = place(float(to_shown(float(m), "kNm", units)), float(to_shown(float(n), "kN", units)))
        sketch.add(Disc((min(at[0], WIDE), at[1]), 3.4, "ink", "paper", 1.0, fixed=True))
    text = f"moment, {knm}, through {found.direction:.0f}° from x · up: axial force, {kn} · a dot for each situation"
    sketch.add(Text((WIDE, 0), text, 10, "soft", "right", dy=29))
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high), (56.0, 12.0, 14.0, 36.0))
