"""Settlement of a raft against its load: middle, edges and corners, downwards."""

import numpy as np

from korbent.core.explain.raft_curve import RaftCurve
from korbent.core.units import Showing, show, shown_unit, to_shown
from korbent.drawing.chart import across, axis, up
from korbent.drawing.primitives import Drawing, Line, Sketch, Text
from korbent.drawing.settlement import said
from korbent.words import english, say

WIDE = 10.0
LINES = {"middle": ("ink", False), "edge": ("accent", False), "corner": ("steel_y", True)}
"""Colour by the first word of the place, and whether the line is dashed."""
APART = 0.045
"""Names at the ends of lines keep so much of the height from each other."""
NAMED = 0.76
"""The lines take so much of the width, their names the rest."""


def share_at(found: RaftCurve, x: float) -> float | None:
    """The share of the load at a place of the drawing; None beside the lines."""
    share = x / (NAMED * WIDE) * float(found.shares[-1])
    return share if float(found.shares[0]) <= share <= float(found.shares[-1]) else None


def raft_curve_drawing(found: RaftCurve | str, units: Showing, aspect: float, state: str = "") -> Drawing:
    """``state``: that it is out of date, said above."""
    if isinstance(found, str):
        return said(found)
    high = WIDE / max(aspect, 0.4)
    mm, kN = (float(to_shown(1.0, unit, units)) for unit in ("mm", "kN"))
    settled = 1000 * found.settlement
    solid = ~np.isnan(settled).any(axis=1)
    load = found.shares * found.load * kN
    low, deep = mm * min(0.0, float(settled[solid].min())), mm * max(float(settled[solid].max()), 1e-6)
    # names of the lines stand to the right of them
    x = axis(0.0, float(load[-1]), 0.0, NAMED * WIDE, 4)
    y = axis(low, 1.05 * deep, high, 0.0)
    sketch = Sketch()
    up(sketch, y, x.start, x.end, 0.0)
    across(sketch, x, 0.0, high)
    whole = int(np.abs(found.shares - 1).argmin())
    ends = []
    for (name, *_), values in zip([p for p, on in zip(found.places, solid) if on], settled[solid]):
        colour, dash = LINES[english(name).split()[0]]
        sketch.add(Line(tuple((x(float(a)), y(mm * float(s))) for a, s in zip(load, values)), colour, 1.6, dash=dash))
        ends.append((y(mm * float(values[-1])), name, colour, float(values[whole])))
    ends.sort()
    for (end, name, colour, value), at in zip(ends, _spread([e[0] for e in ends], APART * high)):
        sketch.add(
            Line(((x.end, end), (x.end + 0.02 * WIDE, at)), "line", 0.8),
            Text((x.end + 0.02 * WIDE, at), f"{name}  {show(value, 'mm', units)}", 10, colour, dx=4, dy=4),
        )
    sketch.add(
        Text((0.0, high), say("settlement, {unit}", unit=shown_unit("mm", units)), 11, "ink", bold=True, dy=-8),
        Text((x.end, 0.0), say("load, {unit}", unit=shown_unit("kN", units)), 10, "soft", "right", dy=28),
    )
    at, share = (
        x(float(load[whole])),
        "" if abs(found.shares[whole] - 1) < 1e-9 else f" × {found.shares[whole]:g}",
    )
    sketch.add(
        Line(((at, 0.0), (at, high)), "ink", 1.0, dash=True),
        Text(
            (at, 0.0),
            say("combination {situation}{share}", situation=found.situation, share=share),
            10,
            "ink",
            "right",
            dx=-5,
            dy=-22,
            halo=True,
        ),
        Text((at, 0.0), say("with the values beside"), 10, "soft", "right", dx=-5, dy=-8, halo=True),
    )
    for k, words in enumerate(found.ended.split(": ")):
        sketch.add(Text((0.0, 0.0), words, 10, "beyond", dy=42 + 13 * k))
    if state:
        sketch.add(Text((x.end, high), state, 10, "soft", "right", dy=-8))
    return Drawing(tuple(sketch.shapes), (0.0, 0.0, WIDE, high))


def _spread(places: list[float], apart: float) -> list[float]:
    """Rising places, moved so that none is nearer to the next: together about where they were."""
    groups: list[tuple[float, int]] = []
    for place in places:
        middle, count = place, 1
        # a group that runs into the one below joins it
        while groups and middle - (count - 1) * apart / 2 < groups[-1][0] + (groups[-1][1] + 1) * apart / 2:
            other, more = groups.pop()
            middle, count = (other * more + middle * count) / (more + count), more + count
        groups.append((middle, count))
    found = [m + (k - (count - 1) / 2) * apart for m, count in groups for k in range(count)]
    # none below the chart
    return [max(place, k * apart) for k, place in enumerate(found)]
