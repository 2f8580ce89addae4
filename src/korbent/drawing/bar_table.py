"""Bars that would do, as a table to click: spacings across, diameters down."""

from korbent.core.concrete.choose import BarTable, Choice
from korbent.core.model.reinforcement import Bars
from korbent.core.units import Showing, show_ratio
from korbent.drawing.primitives import Drawing, Polygon, Sketch, Text, rectangle
from korbent.drawing.words import bar_words, show_weight, weight_unit
from korbent.words import say

WIDE = 10.0


def bar_table_drawing(found: BarTable, now: Bars | None, units: Showing, aspect: float, state: str = "") -> Drawing:
    """Each cell: kilograms and why not, or the worst ratio; the present and the lightest marked; fabrics in a row of
    their own.

    ``state``: what to say of it where it does not belong to what is there now.
    """
    high = WIDE / min(max(aspect, 0.5), 8.0)
    columns = len(found.rows[0])
    lines = [*found.rows, *([found.fabrics] if found.fabrics else [])]
    tall = high / len(lines)
    sketch = Sketch()
    for j, choice in enumerate(found.rows[0]):
        text = bar_words(choice.bars, units)[1]
        sketch.add(Text(((j + 0.5) * WIDE / columns, high), text, 11, "ink", "middle", dy=-6))
    k = 0
    for i, row in enumerate(lines):
        base = high - (i + 1) * tall
        name = say("fabric") if row is found.fabrics else bar_words(row[0].bars, units)[0]
        sketch.add(Text((0, base + tall / 2), name, 11, "ink", "right", dx=-8, dy=4))
        for j, choice in enumerate(row):
            _cell(
                sketch,
                choice,
                f"bars:{k}",
                (j * WIDE / len(row), base, WIDE / len(row), tall),
                _is(choice.bars, now),
                choice is found.lightest,
                units,
            )
            k += 1
    unit = "in" if units.system == "us" else "mm"
    who = say("for all of {alike} alike", alike=len(found.alike)) if len(found.alike) > 1 else say("in the base")
    sketch.add(
        Text(
            (0, 0),
            say(
                "spacing across, {unit} · {weight_unit} in one base · worst ratio {who}",
                unit=unit,
                weight_unit=weight_unit(units),
                who=who,
            ),
            10,
            "soft",
            dy=16,
        ),
        Text(
            (0, 0),
            state or say("dark frame: now · green frame: the lightest that works · a click takes it"),
            10,
            "soft",
            dy=30,
        ),
    )
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))


def _is(bars: Bars, now: Bars | None) -> bool:
    return (
        now is not None
        and abs(bars.diameter - now.diameter) < 1e-5
        and abs((bars.spacing or 0.0) - (now.spacing or 0.0)) < 1e-5
        and bars.fabric == now.fabric
    )


def _cell(
    sketch: Sketch,
    choice: Choice,
    key: str,
    box: tuple[float, float, float, float],
    chosen: bool,
    lightest: bool,
    units: Showing,
) -> None:
    x, y, wide, tall = box
    ratio = choice.ratio if choice.ratio == choice.ratio else 0.0
    fill = f"ratio:{max(min(ratio, 9.9), 0.0):.3f}" if choice.works else "faint"
    stroke, width = ("accent", 3.0) if lightest else ("ink", 2.4) if chosen else ("line", 1.0)
    outline = rectangle(x + 0.03, y + 0.03, x + wide - 0.03, y + tall - 0.03)
    sketch.add(Polygon(outline, fill, stroke, width, key=key))
    middle = (x + wide / 2, y + tall / 2)
    tone = "ink" if choice.works else "soft"
    weight = f"{show_weight(choice.weight, units)} {weight_unit(units)}"
    text = show_ratio(ratio) if choice.works else choice.short
    head = weight
    if choice.bars.fabric:
        head, text = choice.bars.fabric, f"{weight}, {text}" if choice.works else text
    sketch.add(
        Text(middle, head, 10.5, tone, "middle", bold=choice.works, dy=-2, room=wide),
        Text(middle, text, 8.5, tone, "middle", dy=9, room=wide),
    )
