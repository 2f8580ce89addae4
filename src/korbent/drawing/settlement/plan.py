"""Settlements in plan at a moment."""

import math

from korbent.core.model import Project
from korbent.core.settlement.history import History, mark_history
from korbent.core.settlement.limits import limits_of
from korbent.core.settlement.neighbours import neighbours
from korbent.core.units import show, shown_unit
from korbent.drawing.plan import outline
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Sketch, Text
from korbent.drawing.settlement.words import said
from korbent.words import say


def settlement_plan(project: Project, found: History, day: float, selected: str) -> Drawing:
    """The foundations as discs of their settlement at a moment, and the slopes between neighbours beyond their
    limit."""
    if not project.pads and not project.actions.marks:
        return said(say("no foundation and no settlement mark yet"))
    points = {p.name: p for p in project.actions.load_points}
    places, values = {}, {}
    sketch = Sketch()
    for pad in project.pads:
        corners = outline(pad, points[pad.load_point])
        places[pad.name] = (
            sum(c[0] for c in corners) / len(corners),
            sum(c[1] for c in corners) / len(corners),
        )
        own = found.pad(pad.name)
        if own is not None and not own.why:
            values[pad.name] = own.at(day)
        sketch.add(Polygon(corners, None, "line", 1.0, key=f"pad:{pad.name}"))
    everywhere = [*places.values(), *((m.x, m.y) for m in project.actions.marks)]
    xs, ys = [p[0] for p in everywhere], [p[1] for p in everywhere]
    span = max(max(xs) - min(xs), max(ys) - min(ys), 6.0)
    greatest = max([abs(v) for h in found.pads if not h.why for v in (h.total.max(initial=0.0),)] + [1e-6])
    drawn = set()
    worst: tuple[float, str, str] = (0.0, "", "")
    for name, rows in neighbours(project).items():
        for other, distance in rows:
            key = tuple(sorted((name, other)))
            if key in drawn or name not in values or other not in values:
                continue
            drawn.add(key)
            slope = abs(values[name] - values[other]) / distance
            limit = limits_of(project.settings_of(project.pad(name))).slope
            beyond = slope > limit
            worst = max(worst, (slope, name, other))
            sketch.add(Line((places[name], places[other]), "beyond" if beyond else "line", 2.6 if beyond else 1.0))
            if beyond:
                mid = ((places[name][0] + places[other][0]) / 2, (places[name][1] + places[other][1]) / 2)
                sketch.add(Text(mid, f"1/{1 / slope:.0f}", 10, "beyond", "middle", bold=True, dy=-5, halo=True))
    units = project.showing
    for mark in project.actions.marks:
        own = mark_history(project, mark)
        text_of = "?" if own.why else show(1000 * own.at(day), "mm", units)
        sketch.add(
            Line(((mark.x - 0.012 * span, mark.y), (mark.x + 0.012 * span, mark.y)), "ink", 1.4),
            Line(((mark.x, mark.y - 0.012 * span), (mark.x, mark.y + 0.012 * span)), "ink", 1.4),
            Text((mark.x, mark.y), f"{mark.name} {text_of}", 10, "ink", dx=7, dy=4, halo=True),
        )
    for pad in project.pads:
        value = values.get(pad.name)
        chosen = pad.name == selected
        if value is None:
            sketch.add(Text(places[pad.name], "?", 11, "soft", "middle", dy=4))
            continue
        radius = max(0.055 * span * math.sqrt(max(value, 0.0) / greatest), 0.006 * span)
        ratio = value / limits_of(project.settings_of(pad)).total
        sketch.add(
            Disc(
                places[pad.name],
                radius,
                f"ratio:{max(ratio, 0.0):.3f}",
                "accent" if chosen else "ink",
                2.4 if chosen else 0.8,
                key=f"pad:{pad.name}",
            ),
            Text(
                (places[pad.name][0], places[pad.name][1] - radius),
                f"{show(1000 * value, 'mm', units)}",
                10,
                "accent" if chosen else "ink",
                "middle",
                bold=chosen,
                dy=12,
                halo=True,
            ),
        )
    text = say("disc: settlement, {unit}", unit=shown_unit("mm", units))
    x0, x1, y0, y1 = (
        min(xs) - 0.06 * span,
        max(xs) + 0.06 * span,
        min(ys) - 0.09 * span,
        max(ys) + 0.07 * span,
    )
    sketch.add(Text(((x0 + x1) / 2, y0), text, 10, "soft", "middle", dy=14))
    if worst[0] > 0:
        steepest = say(
            "steepest slope 1/{worst:.0f}, {worst_2} to {worst_3}",
            worst=1 / worst[0],
            worst_2=worst[1],
            worst_3=worst[2],
        )
        sketch.add(Text(((x0 + x1) / 2, y0), steepest, 10, "soft", "middle", dy=28))
    return Drawing(tuple(sketch.shapes), (x0, y0, x1, y1))
