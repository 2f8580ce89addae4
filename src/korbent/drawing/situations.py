"""All situations of a base as a strip: the load over what is borne of it, from above and from below, the greatest
first."""

from collections.abc import Sequence
from dataclasses import dataclass

from korbent.core.bearing.as_strip import AsStrip
from korbent.core.units import UnitSet, show, shown_unit
from korbent.drawing.chart import axis, up
from korbent.drawing.primitives import Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.words import say

WIDE = 10.0


@dataclass(frozen=True)
class Situation:
    """One of them: its name, V over the width (kPa), the load over the bound from above and over that from below; None:
    not known yet."""

    label: str
    pressure: float = 0.0
    low: float | None = None
    high: float | None = None
    why: str = ""
    """Why there is nothing."""


def situations_said(strip: AsStrip) -> str:
    """What the chart is of, below it."""
    return say(
        "Load over what is borne of it, by combination, the greatest first: from the bound from above "
        "to that from below. A click shows a combination everywhere. {said}.",
        said=strip.said,
    )


def situation_said(row: Situation, units: UnitSet) -> str:
    """One of them in words."""
    kpa = shown_unit("kPa", units)
    if row.why:
        return say("Combination {label}: {why}", label=row.label, why=row.why)
    if row.low is None or row.high is None:
        return say("Combination {label}: being computed …", label=row.label)
    borne = (show(row.pressure / ratio, "kPa", units) for ratio in (row.high, row.low))
    return say(
        "Combination {label}: {pressure} {kpa} over {borne} {kpa}: {low:.2f} to {high:.2f}",
        label=row.label,
        pressure=show(row.pressure, "kPa", units),
        kpa=kpa,
        borne=" to ".join(borne),
        low=row.low,
        high=row.high,
    )


def situations_chart(rows: Sequence[Situation], chosen: str, why: str, units: UnitSet, aspect: float) -> Drawing:
    """A bar from one bound to the other for each situation, keys ``situation:name``; ``chosen``: the one that is shown
    everywhere."""
    if why or not rows:
        return Drawing((Text((0, 0), why or say("being computed …"), 11, "soft", "middle"),), (-1, -1, 1, 1))
    high = WIDE / max(aspect, 0.5)
    known = sorted((r for r in rows if r.high is not None), key=lambda r: -(r.high or 0.0))
    most = max(1.1, 1.15 * max((r.high or 0.0 for r in known), default=1.0))
    sketch = Sketch()
    y = axis(0.0, most, 0.0, high, 5)
    up(sketch, y, 0.0, WIDE)
    sketch.add(Line(((0, y(1.0)), (WIDE, y(1.0))), "beyond", 1.6))
    step = WIDE / max(len(rows), 8)
    for k, row in enumerate(known):
        x, top = (k + 0.5) * step, row.high or 0.0
        low = row.low if row.low is not None else top
        over = low > 1.0
        tone = "beyond" if over else "accent"
        own = row.label == chosen
        sketch.add(
            Polygon(
                rectangle(x - 0.34 * step, 0.0, x + 0.34 * step, y(low)),
                "accent_wash",
                None,
                key=f"situation:{row.label}",
            ),
            Polygon(
                rectangle(x - 0.34 * step, y(low), x + 0.34 * step, max(y(top), y(low) + 0.012 * high)),
                tone,
                "ink" if own else None,
                1.6,
                key=f"situation:{row.label}",
            ),
        )
        if k == 0 or own:
            sketch.add(Text((x, 0.0), row.label, 9.5, "beyond" if own else "ink", "middle", dy=14, bold=own))
    first = known[0] if known else None
    waiting = sum(r.high is None and not r.why for r in rows)
    without = [r for r in rows if r.why]
    words = []
    if first is not None:
        words.append(
            say(
                "{label}: {low:.2f} to {high:.2f} of {pressure} {unit} and more",
                label=first.label,
                low=first.low or 0.0,
                high=first.high or 0.0,
                pressure=show(first.pressure / (first.high or 1.0), "kPa", units),
                unit=shown_unit("kPa", units),
            )
        )
    if waiting:
        words.append(say("{rows} of {rows_2} so far", rows=len(rows) - waiting, rows_2=len(rows)))
    if without:
        words.append(say("{without} without: {why}", without=len(without), why=without[0].why))
    sketch.add(Text((WIDE, high), " · ".join(words), 10.5, "accent" if waiting else "ink", "right", dy=-8))
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))
