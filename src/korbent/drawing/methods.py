"""All methods of bearing resistance side by side: ultimate pressures on one axis, with the demand and the adopted
one."""

from collections.abc import Callable

from korbent.core.bearing.safety import Compared, Comparison
from korbent.core.model.labels import label
from korbent.core.units import UnitSet, show, show_ratio, shown_unit, to_shown
from korbent.drawing.chart import Axis, across, number, ticks
from korbent.drawing.primitives import Drawing, Line, Polygon, Sketch, Spot, Text, rectangle
from korbent.words import say

WIDE = 10.0


def methods_chart(found: Comparison, adopted: str, units: UnitSet, aspect: float) -> Drawing:
    """A bar for each method; the adopted one is filled. ``aspect``: width over height of the page."""
    if found.why:
        return Drawing((Text((0, 0), found.why, 11, "soft", "middle"),), (-1, -1, 1, 1))
    high = WIDE / max(aspect, 0.5)
    strata = any(m.layered for m in found.methods)
    row = high / max(len(found.methods), 1)
    most = max([m.ultimate or 0.0 for m in found.methods] + [found.pressure]) * 1.5
    sketch = Sketch()

    def at(value: float) -> float:
        return WIDE * value / most

    # round numbers of what is shown
    one = float(to_shown(1.0, "kPa", units))
    marks = tuple((v / one, number(v)) for v in ticks(0.0, most * one, 4))
    across(sketch, Axis(0.0, most, 0.0, WIDE, marks), 0.0, high)
    for i, method in enumerate(found.methods):
        base = high - (i + 1) * row
        if method.layered and not found.methods[i - 1].layered:
            sketch.add(Line(((-0.0, base + row), (WIDE, base + row)), "soft", 1.0))
        _row(sketch, method, base, row, at, adopted, units)
    x = at(found.pressure)
    unit = shown_unit("kPa", units)
    sketch.add(
        Line(((x, 0), (x, high)), "beyond", 2.0),
        Text(
            (x, high),
            f"N/A′ {show(found.pressure, 'kPa', units)} {unit}",
            11,
            "beyond",
            "left",
            bold=True,
            dx=-4,
            dy=-5,
            halo=True,
        ),
        Text(
            (WIDE, 0),
            say(
                "ultimate pressure, {unit}; unfactored, {drainage}, combination {combination}",
                unit=unit,
                drainage=label(found.drainage),
                combination=found.combination,
            ),
            10,
            "soft",
            "right",
            dy=29,
        ),
    )
    if strata:
        below = say("below the line: {adopted} with the strata further down", adopted=adopted)
        sketch.add(Text((WIDE, 0), below, 10, "soft", "right", dy=43))
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))


def _row(
    sketch: Sketch,
    method: Compared,
    base: float,
    row: float,
    at: Callable[[float], float],
    adopted: str,
    units: UnitSet,
) -> None:
    """Name, bar and value of one method or mechanism."""
    chosen = method.adopted if method.layered else method.method == adopted
    middle = base + 0.5 * row
    colour = "accent" if chosen else "ink"
    sketch.add(Text((0, middle), method.method, 11, colour, "right", bold=chosen, dx=-8, dy=4))
    if method.ultimate is None:
        reason = "soft" if method.layered else "beyond"
        sketch.add(
            Text(
                (0, middle),
                say("not possible: {remark}", remark=method.remark) if method.layered else method.remark,
                10,
                reason,
                dx=6,
                dy=4,
            )
        )
        return
    sketch.add(
        Polygon(
            rectangle(0, base + 0.2 * row, at(method.ultimate), base + 0.8 * row),
            "accent" if chosen else "accent_wash",
            "accent",
            1.0,
            key=f"method:{method.method}",
        )
    )
    text = f"{show(method.ultimate, 'kPa', units)}   FS {show_ratio(method.factor or 0.0)}"
    sketch.add(Text((at(method.ultimate), middle), text, 11, "ink", dx=6, dy=4, halo=True))
    if method.remark and not method.layered:
        sketch.add(
            Text(
                (0, middle),
                method.remark,
                9,
                "soft",
                dx=6,
                dy=4,
                halo=chosen,
                spots=(Spot((WIDE, middle), "right", -2, 4),),
            )
        )
