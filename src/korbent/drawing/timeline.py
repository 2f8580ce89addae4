"""Construction steps over time: what acts from when to when, and how much of it."""

import datetime

from korbent.core.model import Project
from korbent.drawing.primitives import Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.words import say

WIDE = 10.0


def timeline(project: Project, aspect: float = 4.0) -> Drawing:
    """A bar for each load case and area load that some step names; its height is the share that acts."""
    steps = project.actions.steps
    if not steps:
        text = say("no construction step yet: add one in the table 'Construction steps'")
        return Drawing((Text((0, 0), text, 11, "soft", "middle"),), (-1, -1, 1, 1))
    every = (*(a.name for a in project.actions.area_loads), *(c.name for c in project.actions.cases))
    names = [n for n in every if any(s.factors.get(n) for s in steps)]
    first = steps[0].date
    last = max(s.date + datetime.timedelta(days=s.ramp) for s in steps)
    days = max((last - first).days, 1) * 1.15
    high = WIDE / max(aspect, 0.5)
    row = high / max(len(names), 1)
    most = {n: max((s.factors.get(n, 0.0) for s in steps), default=1.0) or 1.0 for n in names}
    sketch = Sketch()

    def at(day: float) -> float:
        return WIDE * day / days

    for i, name in enumerate(names):
        base = high - (i + 1) * row
        sketch.add(
            Text((0, base + 0.3 * row), name, 11, "ink", "right", dx=-8),
            Line(((0, base), (WIDE, base)), "faint", 1.0),
        )
        corners = [(0.0, base)]
        share = 0.0
        for step in steps:
            start = at((step.date - first).days)
            end = at((step.date - first).days + step.ramp)
            corners.append((start, base + 0.8 * row * share / most[name]))
            share = step.factors.get(name, 0.0)
            corners.append((max(end, start), base + 0.8 * row * share / most[name]))
        corners += [(WIDE, base + 0.8 * row * share / most[name]), (WIDE, base)]
        sketch.add(Polygon(tuple(corners), "accent_wash", "accent", 1.2))
        sketch.add(Text((WIDE, base + 0.3 * row), f"{share:g}", 10, "soft", dx=6))
    for i, step in enumerate(steps):
        x = at((step.date - first).days)
        sketch.add(Line(((x, 0), (x, high)), "soft", 1.0, dash=True))
        room = (at((steps[i + 1].date - first).days) if i + 1 < len(steps) else WIDE) - x
        sketch.add(
            Text((x, high), step.name, 11, "ink", dx=3, dy=-16, room=room),
            Text((x, high), step.date.isoformat(), 10, "soft", dx=3, dy=-4, room=room),
        )
    sketch.add(Polygon(rectangle(0, 0, WIDE, high), None, "line"))
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))
