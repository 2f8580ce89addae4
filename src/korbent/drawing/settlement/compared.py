"""Settlement by other methods, the load-settlement curve, and the ground as springs."""

from korbent.core.explain.settlement import Curve, Row, Spring
from korbent.core.units import Showing, show, shown_unit, to_shown
from korbent.drawing.chart import across, axis, up
from korbent.drawing.primitives import Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.drawing.settlement.words import WIDE, said
from korbent.words import say


def methods_drawing(rows: tuple[Row, ...], why: str, limit: float, units: Showing, aspect: float) -> Drawing:
    """A bar for every method, in mm, with the limit."""
    if why:
        return said(why)
    high = WIDE / max(aspect, 0.5)
    most = float(
        to_shown(1.5 * max([1000 * r.settlement for r in rows if r.settlement is not None] + [limit]), "mm", units)
    )
    row_height = min(high / max(len(rows), 1), 0.9)
    sketch = Sketch()

    scale = axis(0.0, most, 0.0, WIDE, 5)

    def at(value: float) -> float:
        return scale(float(to_shown(value, "mm", units)))

    low = high - row_height * len(rows)
    across(sketch, scale, low, high)
    for i, row in enumerate(rows):
        base, middle = high - (i + 1) * row_height, high - (i + 0.5) * row_height
        tone = "accent" if row.adopted else "ink"
        sketch.add(Text((0, middle), row.name, 11, tone, "right", bold=row.adopted, dx=-8, dy=4))
        if row.settlement is None:
            sketch.add(Text((0, middle), row.remark, 10, "soft", dx=6, dy=4))
            continue
        x = at(1000 * row.settlement)
        sketch.add(
            Polygon(
                rectangle(0, base + 0.2 * row_height, max(x, 0.01), base + 0.8 * row_height),
                tone if row.adopted else "accent_wash",
                "accent",
                1.0,
            )
        )
        text = show(1000 * row.settlement, "mm", units) + (f"   {row.remark}" if row.remark else "")
        sketch.add(Text((x, middle), text, 10.5, "ink", dx=6, dy=4, halo=True))
    x = at(limit)
    unit = shown_unit("mm", units)
    sketch.add(
        Line(((x, low), (x, high)), "beyond", 1.6, dash=True),
        Text(
            (x, high),
            say("limit {limit} {unit}", limit=show(limit, "mm", units), unit=unit),
            10.5,
            "beyond",
            "middle",
            dy=-5,
        ),
        Text(
            (WIDE, low),
            say("final settlement, {unit}; the base alone, sustained load", unit=unit),
            10,
            "soft",
            "right",
            dy=29,
        ),
    )
    return Drawing(tuple(sketch.shapes), (0, low, WIDE, high))


def curve_drawing(found: Curve, units: Showing, aspect: float) -> Drawing:
    """Settlement downwards over pressure; the working point and the end marked."""
    if found.why:
        return said(found.why)
    high = WIDE / max(aspect, 0.5)
    deepest = float(to_shown(1000 * 6.0 * max(float(_at(found, found.working)), 1e-6), "mm", units))
    most = float(to_shown(1.04 * found.ultimate, "kPa", units))
    sketch = Sketch()

    # settlement downwards
    x, y = axis(0.0, most, 0.0, WIDE, 6), axis(0.0, deepest, high, 0.0, 5)
    across(sketch, x, 0.0, high, above=True)
    up(sketch, y, 0.0, WIDE)

    def place(pressure: float, settlement: float) -> tuple[float, float]:
        shown = float(to_shown(1000 * settlement, "mm", units))
        return x(float(to_shown(pressure, "kPa", units))), y(min(shown, deepest))

    for name, values, tone, width, lift in (
        (say("centre"), found.centre, "soft", 1.4, 12),
        (say("rigid base"), found.rigid, "accent", 2.4, 4),
        (say("corner"), found.edge, "soft", 1.4, -4),
    ):
        points = [
            place(float(p), float(s)) for p, s in zip(found.pressure, values) if place(float(p), float(s))[1] > 1e-9
        ]
        sketch.add(Line(tuple(points), tone, width))
        if points:
            sketch.add(Text(points[-1], name, 10, tone, "right", bold=tone == "accent", dx=-6, dy=lift - 6, halo=True))
    work = place(found.working, _at(found, found.working))
    end = place(found.ultimate, 0.0)[0]
    kpa, mm = shown_unit("kPa", units), shown_unit("mm", units)
    sketch.add(
        Line(((work[0], high), work), "ink", 1.2, dash=True),
        Text(
            work,
            say(
                "sustained {working} {kpa}: {at} {mm}",
                working=show(found.working, "kPa", units),
                kpa=kpa,
                at=show(1000 * _at(found, found.working), "mm", units),
                mm=mm,
            ),
            10.5,
            "ink",
            dx=8,
            dy=-6,
            halo=True,
        ),
        Line(((end, 0), (end, high)), "beyond", 1.6),
        Text(
            (end, 0),
            say("ultimate {ultimate} {kpa}", ultimate=show(found.ultimate, "kPa", units), kpa=kpa),
            10.5,
            "beyond",
            "right",
            dx=-6,
            dy=-6,
            halo=True,
        ),
        Text(
            (WIDE, 0),
            say(
                "settlement, {mm}, over gross pressure, {kpa} · E falls as 1 − f (p/p ult)^g, Fahey and Carter 1993",
                mm=mm,
                kpa=kpa,
            ),
            10,
            "soft",
            "right",
            dy=16,
        ),
    )
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))


def _at(found: Curve, pressure: float) -> float:
    import numpy as np

    return float(np.interp(pressure, found.pressure, found.rigid))


def springs_drawing(rows: tuple[Spring, ...], why: str, units: Showing, aspect: float) -> Drawing:
    """The stiffnesses as lines of a table; what lies far from the ground's own is marked."""
    if why:
        return said(why)
    high = WIDE / max(aspect, 0.5)
    step = min(high / (len(rows) + 2), 0.42)
    sketch = Sketch()
    y = high - 0.5 * step
    sketch.add(Text((0, y), say("The ground as springs at the sustained load"), 12, "ink", bold=True))
    for row in rows:
        y -= step
        tone = "beyond" if row.far else "ink"
        value = float(to_shown(row.value, row.unit, units))
        sketch.add(
            Line(((0, y - 0.35 * step), (WIDE, y - 0.35 * step)), "faint", 1.0),
            Text((0, y), row.name, 11, tone),
            Text(
                (3.4, y),
                f"{value:,.4g}".replace(",", " ") if value < 1e4 else f"{value:,.0f}".replace(",", " "),
                11,
                tone,
                "right",
                bold=True,
            ),
            Text((3.45, y), shown_unit(row.unit, units), 10.5, "soft", dx=4),
            Text(
                (4.6, y),
                row.source + (say(" · far from what the ground implies") if row.far else ""),
                10.5,
                tone if row.far else "soft",
            ),
        )
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))


def curve_table(found: Curve, units: Showing) -> str:
    """The curve as lines divided by tabs, with units."""
    kpa, mm = shown_unit("kPa", units), shown_unit("mm", units)
    lines = [say("pressure, {kpa}\trigid, {mm}\tcentre, {mm}\tcorner, {mm}", kpa=kpa, mm=mm)]
    for p, rigid, centre, edge in zip(found.pressure, found.rigid, found.centre, found.edge):
        values = [
            to_shown(float(p), "kPa", units),
            *(to_shown(1000 * float(v), "mm", units) for v in (rigid, centre, edge)),
        ]
        lines.append("\t".join(f"{v:.6g}" for v in values))
    return "\n".join(lines)
