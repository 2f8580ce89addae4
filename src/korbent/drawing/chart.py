"""Axes of small charts: round steps, their lines and numbers."""

import math
from dataclasses import dataclass

from korbent.drawing.primitives import Line, Sketch, Text

TYPE = 10.0
"""Size of the numbers of all axes, px."""


def round_step(span: float, count: int = 4) -> float:
    """A step of 1, 2, 2.5 or 5 times a power of ten that divides a span into about ``count``."""
    if span <= 0:
        return 1.0
    power = 10.0 ** math.floor(math.log10(span / count))
    return next(k * power for k in (1, 2, 2.5, 5, 10) if k * power >= span / count * 0.999)


def ticks(low: float, high: float, count: int = 4) -> list[float]:
    """Round values from low to high."""
    step = round_step(high - low, count)
    first = math.ceil(low / step - 1e-9)
    return [k * step for k in range(first, math.floor(high / step + 1e-9) + 1)]


def number(value: float) -> str:
    """A value of a tick."""
    text = f"{value:.6g}"
    return text.replace("-", "−")


@dataclass(frozen=True)
class Axis:
    """Values from ``low`` to ``high`` laid out from one place of the drawing to another, with numbers at ``marks``."""

    low: float
    high: float
    start: float
    end: float
    marks: tuple[tuple[float, str], ...] = ()

    def __call__(self, value: float) -> float:
        """The place of a value."""
        return self.start + (self.end - self.start) * (value - self.low) / max(self.high - self.low, 1e-12)

    def back(self, place: float) -> float:
        """The value at a place."""
        return self.low + (place - self.start) / (self.end - self.start) * (self.high - self.low)


def axis(low: float, high: float, start: float, end: float, count: int = 5) -> Axis:
    """An axis with about so many round numbers."""
    return Axis(low, high, start, end, tuple((v, number(v)) for v in ticks(low, high, count)))


def across(sketch: Sketch, x: Axis, low: float, high: float, above: bool = False, strong: float = 0.0) -> None:
    """An axis to the right: lines from ``low`` to ``high`` and its numbers below, or above; stronger at ``strong``."""
    for value, text in x.marks:
        tone = "line" if value == strong and x.low < value else "faint"
        sketch.add(
            Line(((x(value), low), (x(value), high)), tone, 1.0),
            Text(
                (x(value), high if above else low),
                text,
                TYPE,
                "soft",
                "middle",
                dy=-6 if above else 14,
                fixed=True,
            ),
        )


def up(sketch: Sketch, y: Axis, left: float, right: float, strong: float = 0.0) -> None:
    """An axis upwards (or downwards): lines from ``left`` to ``right`` and its numbers at the left."""
    for value, text in y.marks:
        tone = "line" if value == strong and y.low < value else "faint"
        sketch.add(
            Line(((left, y(value)), (right, y(value))), tone, 1.0),
            Text((left, y(value)), text, TYPE, "soft", "right", dx=-6, dy=4, fixed=True),
        )


def top_axis(
    sketch: Sketch, left: float, right: float, top: float, bottom: float, low: float, high: float, title: str
) -> Axis:
    """An axis above a column, with lines down through it and a heading."""
    found = axis(low, high, left, right, 3)
    sketch.add(Text(((left + right) / 2, top), title, 11, "ink", "middle", bold=True, dy=-22))
    across(sketch, found, bottom, top, above=True)
    sketch.add(Line(((left, top), (right, top)), "soft", 1.0))
    return found
