"""Bars that would do, as a table to click: spacings across, diameters down."""

from korbent.core.concrete.choose import BarTable
from korbent.core.model.foundations import Bars
from korbent.core.units import Showing, show_ratio
from korbent.drawing.primitives import Drawing, Polygon, Sketch, Text, rectangle
from korbent.drawing.words import bar_words

WIDE = 10.0


def bar_table_drawing(found: BarTable, now: Bars, units: Showing, aspect: float) -> Drawing:
    """Each cell: kilograms and the worst ratio; hatched where something fails; the present and the lightest marked."""
    high = WIDE / max(aspect, 0.5)
    count, columns = len(found.rows), len(found.rows[0])
    wide, tall = WIDE / columns, high / count
    best = found.lightest
    sketch = Sketch()
    for j, choice in enumerate(found.rows[0]):
        sketch.add(
            Text(((j + 0.5) * wide, high), bar_words(choice.bars, units)[1], 11, "ink", "middle", dy=-6)
        )
    for i, row in enumerate(found.rows):
        base = high - (i + 1) * tall
        sketch.add(
            Text((0, base + tall / 2), bar_words(row[0].bars, units)[0], 11, "ink", "right", dx=-8, dy=4)
        )
        for j, choice in enumerate(row):
            chosen = (
                abs(choice.bars.diameter - now.diameter) < 1e-5
                and abs((choice.bars.spacing or 0.0) - (now.spacing or 0.0)) < 1e-5
            )
            lightest = best is not None and choice is best
            box = rectangle(j * wide + 0.03, base + 0.03, (j + 1) * wide - 0.03, base + tall - 0.03)
            ratio = choice.ratio if choice.ratio == choice.ratio else 0.0
            fill = f"ratio:{min(ratio, 9.9):.3f}" if choice.works else "faint"
            stroke, width = ("accent", 3.0) if lightest else ("ink", 2.4) if chosen else ("line", 1.0)
            sketch.add(
                Polygon(box, fill, stroke, width, hatch=not choice.works and ratio > 1, key=f"bars:{i}:{j}")
            )
            middle = ((j + 0.5) * wide, base + tall / 2)
            tone = "ink" if choice.works else "soft"
            text = show_ratio(ratio) if ratio < 100 else "–"
            sketch.add(
                Text(middle, f"{choice.weight:.0f} kg", 11, tone, "middle", bold=choice.works, dy=-2, halo=not choice.works),
                Text(middle, text if not choice.why or ratio > 1 else choice.why, 9.5, tone, "middle", dy=11, halo=not choice.works),
            )  # fmt: skip
    unit = "in" if units.system == "us" else "mm"
    sketch.add(
        Text(
            (0, 0),
            f"spacing across, {unit} · kilograms in the base · worst ratio of the concrete",
            10,
            "soft",
            dy=16,
        ),
        Text(
            (0, 0),
            "dark frame: now · green frame: the lightest that works · a click takes it",
            10,
            "soft",
            dy=30,
        ),
    )
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high), (48.0, 24.0, 12.0, 38.0))
