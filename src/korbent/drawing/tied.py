"""Two bases and the strap between them, seen from the side: columns with their loads, what presses on the ground, the
boundary."""

from korbent.core.explain.state import BaseState
from korbent.core.model import Project
from korbent.core.model.foundations import Strap
from korbent.core.units import length_text, show, shown_unit, sizes_text
from korbent.drawing.primitives import Dimension, Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.words import say


def tied_drawing(project: Project, strap: Strap, states: dict[str, BaseState | None]) -> Drawing:
    """An elevation along x.

    Args:
        states: of both bases, by name: forces at their undersides; None where they are not known.
    """
    sketch = Sketch()
    units = project.showing
    force = shown_unit("kN", units)
    bases = [project.pad(name) for name in (strap.edge, strap.inner)]
    middles = []
    for pad in bases:
        point = project.load_point(pad.load_point)
        middle = point.x - pad.offset_x
        middles.append(middle)
        half, column = pad.width / 2, point.size_x / 2
        sketch.add(
            Polygon(
                rectangle(middle - half, pad.underside, middle + half, pad.top),
                "concrete",
                "concrete_line",
                1.6,
                layer="foundations",
            ),
            Polygon(
                rectangle(point.x - column, pad.top, point.x + column, point.level),
                "concrete",
                "concrete_line",
                1.2,
                layer="columns",
            ),
            Text((middle, (pad.underside + pad.top) / 2), pad.name, 12, "ink", "middle", bold=True, dy=4),
        )
        state = states.get(pad.name)
        if state is None:
            continue
        reach = 0.5
        sketch.add(
            Line(((point.x, point.level + reach), (point.x, point.level)), "ink", 2.2, arrow=True),
            Text(
                (point.x, point.level + reach),
                f"V {show(sum(load.V for load in point.loads.values()), 'kN', units)} {force}",
                12,
                "ink",
                bold=True,
                dx=7,
                dy=6,
            ),
            Line(((middle, pad.underside - reach), (middle, pad.underside)), "accent", 2.2, arrow=True),
            Text(
                (middle, pad.underside - reach),
                f"R {show(state.N, 'kN', units)} {force}",
                12,
                "accent",
                "middle",
                bold=True,
                dy=16,
            ),
        )
    first, second = bases
    left, right = middles[0] + first.width / 2, middles[1] - second.width / 2
    top = min(first.top, second.top)
    size = f"{strap.name}: {sizes_text((strap.width, strap.depth), units)}"
    sketch.add(
        Polygon(rectangle(left, top - strap.depth, right, top), "concrete", "accent", 1.6),
        Text(((left + right) / 2, top - strap.depth / 2), size, 11, "ink", "middle", dy=4, halo=True),
    )
    points = [project.load_point(pad.load_point) for pad in bases]
    level = max(p.level for p in points)
    ends = (points[0].x, level + 0.9), (points[1].x, level + 0.9)
    sketch.add(Dimension(*ends, length_text(points[1].x - points[0].x, units), left=True))
    low = min(p.underside for p in bases)
    for outline in project.site:
        x = outline.points[0][0]
        sketch.add(
            Line(((x, low - 0.5), (x, level + 0.8)), "ink", 1.8, dash=True, layer="site"),
            Text((x, level + 0.8), outline.name, 11, "soft", dx=5, dy=4),
        )
    finished = project.ground.surfaces.finished
    begin, end = middles[0] - first.width / 2 - 0.6, middles[1] + second.width / 2 + 0.6
    sketch.add(
        Line(((begin, finished), (end, finished)), "ink", 1.4),
        Text((end, finished), say("finished ground"), 10, "soft", "right", dy=-5),
    )
    return Drawing(tuple(sketch.shapes), (begin, low - 0.7, end, level + 1.0))
