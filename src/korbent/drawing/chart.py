"""Axes of small charts: round steps, their lines and numbers."""

import math
from collections.abc import Callable

from korbent.drawing.primitives import Line, Sketch, Text


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


def top_axis(
    sketch: Sketch, left: float, right: float, top: float, bottom: float, low: float, high: float, title: str
) -> Callable[[float], float]:
    """An axis above a column with lines down through it; gives the place of a value."""
    span = max(high - low, 1e-12)

    def at(value: float) -> float:
        return left + (right - left) * (value - low) / span

    sketch.add(Text(((left + right) / 2, top), title, 11, "ink", "middle", bold=True, dy=-22))
    for value in ticks(low, high, 3):
        sketch.add(
            Line(((at(value), top), (at(value), bottom)), "faint", 1.0),
            Text((at(value), top), number(value), 9.5, "soft", "middle", dy=-6),
        )
    sketch.add(Line(((left, top), (right, top)), "soft", 1.0))
    return at
