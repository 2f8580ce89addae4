"""A base as a strip of unit length: the bracket of the bounds, the exact value, and every method beside them on one
axis."""

from dataclasses import dataclass

from korbent.core.bearing.as_strip import AsStrip
from korbent.core.units import UnitSet, show, shown_unit, to_shown
from korbent.drawing.chart import Axis, across, number, ticks
from korbent.drawing.primitives import Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.words import say

WIDE = 10.0


@dataclass(frozen=True)
class Found:
    """What is known so far, kPa; None what is still being computed."""

    lower: float | None = None
    upper: float | None = None
    exact: float | None = None
    state: str = ""
    """'' where both bounds are the refined ones."""
    plateau: float | None = None
    """Where the curve to collapse ends, if it was asked for."""


def outside(value: float, found: Found) -> str:
    """How far a value lies outside the bracket."""
    if found.lower is None or found.upper is None:
        return ""
    if value < found.lower:
        return say("{lower:.0f} % below the bracket", lower=100 * (found.lower - value) / found.lower)
    if value > found.upper:
        return say("{upper:.0f} % above the bracket", upper=100 * (value - found.upper) / found.upper)
    return say("within the bracket")


def strip_said(strip: AsStrip, units: UnitSet) -> str:
    """What the chart is of, below it."""
    unit = shown_unit("kPa", units)
    return say(
        "Ultimate pressure of the strip, {unit}; methods on the first stratum alone; combination "
        "{combination}. {said}.",
        unit=unit,
        combination=strip.combination,
        said=strip.said,
    )


def strip_chart(strip: AsStrip | str, found: Found, adopted: str, units: UnitSet, aspect: float) -> Drawing:
    """Rows of the methods over the band between the bounds. ``aspect``: width over height of the page."""
    if isinstance(strip, str):
        return Drawing((Text((0, 0), strip, 11, "soft", "middle"),), (-1, -1, 1, 1))
    high = WIDE / max(aspect, 0.5)
    values = [v for _, v in strip.methods] + [v for v in (found.lower, found.upper, found.exact) if v is not None]
    most = max([*values, strip.pressure]) * 1.55
    row = high / (len(strip.methods) + 1)
    sketch = Sketch()

    def at(value: float) -> float:
        return WIDE * value / most

    one = float(to_shown(1.0, "kPa", units))
    marks = tuple((v / one, number(v)) for v in ticks(0.0, most * one, 4))
    across(sketch, Axis(0.0, most, 0.0, WIDE, marks), 0.0, high)
    unit = shown_unit("kPa", units)
    if found.lower is not None and found.upper is not None:
        sketch.add(Polygon(rectangle(at(found.lower), 0, at(found.upper), high), "accent_wash", "accent", 0.8))
    _bracket(sketch, found, high - row, row, at, units)
    for i, (name, value) in enumerate(strip.methods):
        base = high - (i + 2) * row
        chosen = name == adopted
        colour = "accent" if chosen else "ink"
        sketch.add(
            Text((0, base + row / 2), name, 11, colour, "right", bold=chosen, dx=-8, dy=4),
            Polygon(
                rectangle(0, base + 0.28 * row, at(value), base + 0.72 * row),
                "accent" if chosen else "concrete",
                "soft",
                0.8,
            ),
            Text(
                (at(value), base + row / 2),
                f"{show(value, 'kPa', units)}   {outside(value, found)}",
                11,
                "ink",
                dx=6,
                dy=4,
                halo=True,
            ),
        )
    if found.exact is not None:
        x = at(found.exact)
        sketch.add(Line(((x, 0), (x, high)), "ink", 1.6, dash=True))
    if found.plateau is not None:
        x = at(found.plateau)
        sketch.add(Line(((x, high - row), (x, high)), "pressure", 2.4))
    x = at(strip.pressure)
    sketch.add(
        Line(((x, 0), (x, high)), "beyond", 2.0),
        Text(
            (x, high),
            f"{'N/A′' if strip.central else 'V/B'} {show(strip.pressure, 'kPa', units)} {unit}",
            11,
            "beyond",
            "left",
            bold=True,
            dx=-4,
            dy=-5,
            halo=True,
        ),
    )
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))


def _bracket(sketch: Sketch, found: Found, base: float, row: float, at, units: UnitSet) -> None:  # type: ignore[no-untyped-def]
    """The row of the bounds: from below and above, the mid value and half the gap."""
    middle = base + row / 2
    sketch.add(Text((0, middle), say("Bounds"), 11, "accent", "right", bold=True, dx=-8, dy=4))
    if found.lower is None or found.upper is None:
        sketch.add(Text((0, middle), found.state or say("being computed …"), 10, "soft", dx=6, dy=4))
        return
    mid = (found.lower + found.upper) / 2
    text = say(
        "{lower} to {upper}, ±{upper_2:.1f} %",
        lower=show(found.lower, "kPa", units),
        upper=show(found.upper, "kPa", units),
        upper_2=100 * (found.upper - found.lower) / 2 / mid,
    )
    if found.exact is not None:
        text += say(", exact {exact}", exact=show(found.exact, "kPa", units, 4))
    if found.plateau is not None:
        text += say(", curve {plateau}", plateau=show(found.plateau, "kPa", units, 4))
    if found.state:
        text += f" · {found.state}"
    sketch.add(
        Line(((at(found.lower), middle), (at(found.upper), middle)), "accent", 3.0),
        Line(((at(mid), base + 0.2 * row), (at(mid), base + 0.8 * row)), "accent", 2.0),
        Text((at(found.upper), middle), text, 11, "ink", dx=8, dy=4, halo=True),
    )
