"""Charts of one oedometer test: e over log p with its constructions, and settlement over time of one step."""

import math
from dataclasses import dataclass

from korbent.core.ground.oedometer import (
    Casagrande,
    Curve,
    FieldCurve,
    OedometerError,
    Rate,
    Silva,
    Straight,
)
from korbent.core.model import Oedometer, Readings
from korbent.core.units import UnitSet, show, shown_unit
from korbent.drawing.chart import TYPE, Axis, across, number, ticks, up
from korbent.drawing.primitives import Disc, Drawing, Line, Point, Polygon, Sketch, Text
from korbent.words import say

WIDE = 10.0
"""Width of a chart in units of its own; its height follows from the page."""


@dataclass(frozen=True)
class Axes:
    """Where values lie in a chart; ``x`` of what is drawn to the right, already logarithm or root."""

    x0: float
    x1: float
    y0: float
    y1: float
    high: float

    def __call__(self, x: float, y: float) -> Point:
        """The place of a pair of values."""
        return (WIDE * (x - self.x0) / (self.x1 - self.x0), self.high * (y - self.y0) / (self.y1 - self.y0))

    def back(self, x: float, y: float) -> Point:
        """The pair of values at a place."""
        return (self.x0 + x / WIDE * (self.x1 - self.x0), self.y0 + y / self.high * (self.y1 - self.y0))


def curve_axes(test: Oedometer, effective: float, aspect: float) -> Axes:
    """The axes of the e over log p chart."""
    stresses = [s for s, _ in test.points] + [effective]
    voids = [e for _, e in test.points] + [test.void_ratio, 0.42 * test.void_ratio]
    margin = 0.06 * (max(voids) - min(voids))
    return Axes(
        math.floor(math.log10(min(stresses)) * 2) / 2 - 0.1,
        math.log10(max(stresses)) + 0.75,
        min(voids) - margin,
        max(voids) + margin,
        WIDE / max(aspect, 0.3),
    )


@dataclass(frozen=True)
class Constructions:
    """What is drawn into the chart; a construction that has no meaning is missing."""

    curve: Curve | None = None
    casagrande: Casagrande | None = None
    silva: Silva | None = None
    field: FieldCurve | None = None
    why: str = ""


def curve_chart(test: Oedometer, found: Constructions, effective: float, units: UnitSet, aspect: float) -> Drawing:
    """Void ratio over the logarithm of stress. The virgin line and the point of curvature have handles."""
    axes = curve_axes(test, effective, aspect)
    sketch = Sketch()
    unit = shown_unit("kPa", units)
    powers = range(math.floor(axes.x0), math.ceil(axes.x1) + 1)
    logs = [power + math.log10(step) for power in powers for step in (1, 2, 5)]
    stresses = tuple((x, show(10.0**x, "kPa", units)) for x in logs if axes.x0 <= x <= axes.x1)
    voids = tuple((e / 10, f"{e / 10:.1f}") for e in range(math.ceil(10 * axes.y0), math.floor(10 * axes.y1) + 1))
    across(sketch, Axis(axes.x0, axes.x1, 0.0, WIDE, stresses), 0.0, axes.high)
    up(sketch, Axis(axes.y0, axes.y1, 0.0, axes.high, voids), 0.0, WIDE)
    sketch.add(
        Text(axes(axes.x1, axes.y0), say("effective stress, {unit}", unit=unit), TYPE, "soft", "right", dy=29),
        Text(axes(axes.x0, axes.y1), say("void ratio"), TYPE, "soft", dy=-6),
    )

    def place(stress: float, void: float) -> Point:
        return axes(math.log10(stress), void)

    def straight(line: Straight, low: float, high: float) -> tuple[Point, Point]:
        return place(low, line.at(low)), place(high, line.at(high))

    x = math.log10(effective)
    sketch.add(
        Line((axes(x, axes.y0), axes(x, axes.y1)), "water", 1.2, dash=True),
        Text(axes(x, axes.y0), "σ′v0", 11, "water", dx=4, dy=-6, halo=True),
    )
    if found.casagrande:
        c = found.casagrande
        reach = 10 ** min(math.log10(c.point[0]) + 0.9, axes.x1)
        level = Straight(c.point[0], c.point[1], 0.0)
        for line, colour in ((level, "soft"), (c.tangent, "soft"), (c.bisector, "steel_y")):
            low = c.point[0]
            high = min(reach, line.reaches(axes.y0) if line.index > 0 else reach)
            sketch.add(Line(straight(line, low, high), colour, 1.1))
        _preconsolidation(sketch, axes, c.stress, "Casagrande", "steel_y", units, 0)
    if found.silva:
        s = found.silva
        corner = (
            place(test.points[0][0], s.corner[1]),
            place(*s.corner),
            place(*s.on_curve),
            place(s.stress, s.on_curve[1]),
        )
        sketch.add(Line(corner, "steel_x", 1.1, dash=True))
        _preconsolidation(sketch, axes, s.stress, "Silva", "steel_x", units, 1)
    if found.field:
        f = found.field
        corners = (place(*f.start), place(*f.yield_), place(*f.end))
        sketch.add(
            Line(corners, "good", 2.0),
            Text(corners[2], say("corrected"), 11, "good", "right", dx=-8, dy=-2, halo=True),
        )
    points = [place(s, e) for s, e in test.points]
    sketch.add(Line(tuple(points), "ink", 1.6))
    sketch.add(*(Disc(p, 3, "paper", "ink", 1.4, fixed=True) for p in points))
    virgin = found.casagrande.virgin if found.casagrande else found.silva.virgin if found.silva else None
    if virgin and virgin.index > 0:
        low, high = virgin.reaches(axes.y1 - 0.02), virgin.reaches(axes.y0 + 0.02)
        ends = [min(max(v, 10**axes.x0), 10**axes.x1) for v in (low, high)]
        sketch.add(Line(straight(virgin, *ends), "accent", 1.6))
        for name, stress in (
            ("virgin:0", ends[0] ** 0.65 * ends[1] ** 0.35),
            ("virgin:1", ends[0] ** 0.15 * ends[1] ** 0.85),
        ):
            sketch.add(Disc(place(stress, virgin.at(stress)), 5, "accent", None, fixed=True, key=f"drag:{name}"))
    if found.casagrande:
        sketch.add(Disc(place(*found.casagrande.point), 5, "steel_y", None, fixed=True, key="drag:bend"))
    if found.why:
        sketch.add(Text(axes(axes.x0, axes.y0), found.why, 11, "beyond", dx=8, dy=-10, halo=True))
    sketch.add(
        Polygon(
            (axes(axes.x0, axes.y0), axes(axes.x1, axes.y0), axes(axes.x1, axes.y1), axes(axes.x0, axes.y1)),
            None,
            "line",
        )
    )
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, axes.high))


def _preconsolidation(
    sketch: Sketch, axes: Axes, stress: float, who: str, colour: str, units: UnitSet, row: int
) -> None:
    x = math.log10(stress)
    sketch.add(
        Line((axes(x, axes.y1), axes(x, axes.y0)), colour, 1.0, dash=True),
        Text(
            axes(x, axes.y1),
            f"{who} {show(stress, 'kPa', units)}",
            11,
            colour,
            dx=4,
            dy=15 + 15 * row,
            halo=True,
        ),
    )


def time_chart(readings: Readings, rate: Rate | OedometerError, root: bool, aspect: float) -> Drawing:
    """Settlement of the sample over the root or the logarithm of time, with the construction for cv."""
    points = [(t, d) for t, d in readings.points if t > 0 or root]

    def along(time: float) -> float:
        return math.sqrt(time) if root else math.log10(max(time, 1e-3))

    xs = [along(t) for t, _ in points]
    ds = [d for _, d in points]
    if isinstance(rate, Rate):
        ds += [rate.start, rate.end]
    margin = 0.06 * max(max(ds) - min(ds), 0.01)
    axes = Axes(
        min(xs) if not root else 0.0,
        max(xs) * 1.04 if root else max(xs) + 0.1,
        max(ds) + margin,
        min(ds) - margin,
        WIDE / max(aspect, 0.3),
    )
    sketch = Sketch()
    marks = []
    for t in (
        (0.1, 1, 4, 9, 16, 25, 100, 225, 400, 900, 1440)
        if root
        else (0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000)
    ):
        if axes.x0 <= along(t) <= axes.x1:
            marks.append((along(t), f"{t:g}"))
    across(sketch, Axis(axes.x0, axes.x1, 0.0, WIDE, tuple(marks)), 0.0, axes.high)
    values = tuple((d, number(d)) for d in ticks(min(ds), max(ds), 5))
    up(sketch, Axis(axes.y0, axes.y1, 0.0, axes.high, values), 0.0, WIDE)
    sketch.add(
        Text(
            axes(axes.x1, axes.y0),
            say("time, min, root scale") if root else say("time, min, logarithmic scale"),
            10,
            "soft",
            "right",
            dy=28,
        ),
        Text(
            axes(axes.x0, axes.y1),
            say("settlement of the sample, mm; step to {stress:g} kPa", stress=readings.stress),
            10,
            "soft",
            dy=-6,
        ),
    )
    places = [axes(along(t), d) for t, d in points]
    sketch.add(Line(tuple(places), "ink", 1.5), *(Disc(p, 3, "paper", "ink", 1.4, fixed=True) for p in places))
    if isinstance(rate, Rate):
        for value, label in ((rate.start, "start"), (rate.end, say("end of primary"))):
            sketch.add(
                Line((axes(axes.x0, value), axes(axes.x1, value)), "steel_x", 1.1, dash=True),
                Text(axes(axes.x1, value), label, 10, "steel_x", "right", dx=-4, dy=-4, halo=True),
            )
        x = along(rate.time)
        share = "t50" if rate.method == "log time" else "t90"
        at = (rate.start + rate.end) / 2 if rate.method == "log time" else rate.start + 0.9 * (rate.end - rate.start)
        sketch.add(
            Line((axes(x, axes.y0), axes(x, at)), "accent", 1.4),
            Disc(axes(x, at), 4, "accent", None, fixed=True),
            Text(axes(x, at), f"{share} {rate.time:.3g} min", 11, "accent", dx=7, dy=-5, halo=True),
        )
    else:
        sketch.add(Text(axes(axes.x0, axes.y0), str(rate), 11, "beyond", dx=8, dy=-10, halo=True))
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, axes.high))
