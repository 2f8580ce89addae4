"""All methods of bearing resistance side by side: ultimate pressures on one axis, with the demand and the adopted one."""

from korbent.core.bearing.safety import Comparison
from korbent.core.units import UnitSet, show, show_ratio, shown_unit
from korbent.drawing.primitives import Drawing, Line, Polygon, Sketch, Text, rectangle

WIDE = 10.0


def methods_chart(found: Comparison, adopted: str, units: UnitSet, aspect: float) -> Drawing:
    """A bar for each method; the adopted one is filled. ``aspect``: width over height of the page."""
    if found.why:
        return Drawing((Text((0, 0), found.why, 11, "soft", "middle"),), (-1, -1, 1, 1))
    high = WIDE / max(aspect, 0.5)
    row = high / max(len(found.methods), 1)
    most = max([m.ultimate or 0.0 for m in found.methods] + [found.pressure]) * 1.5
    sketch = Sketch()

    def at(value: float) -> float:
        return WIDE * value / most

    step = most / 4
    power = 10.0 ** (len(str(int(step))) - 1) if step >= 1 else 0.1
    step = next(k * power for k in (1, 2, 5, 10) if k * power >= step)
    value = 0.0
    while value <= most:
        sketch.add(Line(((at(value), 0), (at(value), high)), "faint", 1.0))
        sketch.add(
            Text((at(value), 0), show(value, "kPa", units) if value else "0", 10, "soft", "middle", dy=14)
        )
        value += step
    for i, method in enumerate(found.methods):
        base = high - (i + 1) * row
        chosen = method.method == adopted
        sketch.add(
            Text(
                (0, base + 0.5 * row),
                method.method,
                11,
                "accent" if chosen else "ink",
                "right",
                bold=chosen,
                dx=-8,
                dy=4,
            )
        )
        if method.ultimate is None:
            sketch.add(Text((0, base + 0.5 * row), method.remark, 10, "beyond", dx=6, dy=4))
            continue
        sketch.add(
            Polygon(
                rectangle(0, base + 0.2 * row, at(method.ultimate), base + 0.8 * row), "accent" if chosen else "accent_wash", "accent",
                1.0, key=f"method:{method.method}",
            )
        )  # fmt: skip
        text = f"{show(method.ultimate, 'kPa', units)}   FS {show_ratio(method.factor or 0.0)}"
        sketch.add(Text((at(method.ultimate), base + 0.5 * row), text, 11, "ink", dx=6, dy=4, halo=True))
        if method.remark:
            sketch.add(
                Text((0, base + 0.5 * row), method.remark, 9, "paper" if chosen else "soft", dx=6, dy=4)
            )
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
            f"ultimate pressure, {unit}; unfactored, {found.drainage}, combination {found.combination}",
            10,
            "soft",
            "right",
            dy=29,
        ),
    )
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high), (124.0, 22.0, 14.0, 38.0))
