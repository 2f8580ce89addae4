"""How many types of bases are worth what: the objective over their number, each point to be chosen."""

from collections.abc import Sequence

from korbent.core.sizing.propose import Grouping
from korbent.drawing.primitives import Disc, Drawing, Line, Sketch, Text
from korbent.words import say

WIDE = 10.0


def types_curve(groupings: Sequence[Grouping], now: int, title: str, unit: str, aspect: float) -> Drawing:
    """The curve. ``now``: how many types (and single bases) the plan has; ``aspect``: width over height of the page."""
    high = WIDE / max(aspect, 0.5)
    sketch = Sketch()
    most, least = max(g.cost for g in groupings), min(g.cost for g in groupings)
    span, count = max(most - least, 1e-9), max(max(g.count for g in groupings) - 1, 1)

    def at(g: Grouping) -> tuple[float, float]:
        return WIDE * (g.count - 1) / count, high * (0.08 + 0.8 * (g.cost - least) / span)

    sketch.add(Line(((0, 0), (WIDE, 0)), "soft", 1.0), Line(((0, 0), (0, high)), "soft", 1.0))
    sketch.add(Line(tuple(at(g) for g in groupings), "accent", 1.6))
    last = -1.0
    for g in groupings:
        x, y = at(g)
        current = g.count == now
        sketch.add(
            Disc(
                (x, y),
                5.0,
                "accent" if current else "paper",
                "accent",
                1.5,
                fixed=True,
                key=f"types:{g.count}",
            )
        )
        sketch.add(Text((x, 0), str(g.count), 10, "soft", "middle", dy=14))
        if x - last > WIDE * 0.11:
            digits = 1 if most < 100 else 0
            sketch.add(Text((x, y), f"{g.cost:.{digits}f}", 10, "ink", "middle", dy=-9, halo=True))
            last = x
    sketch.add(
        Text(
            (WIDE, 0),
            say("types: {title}{unit}; a click takes it", title=title, unit=", " + unit if unit else ""),
            10,
            "soft",
            "right",
            dy=29,
        )
    )
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))
