"""The foundation plan: columns, walls, pads coloured by their worst ratio, boreholes."""

import math

from korbent.core.checks import CheckResult, State
from korbent.core.evaluate import Results, worst_of
from korbent.core.model import AreaLoad, LoadPoint, Pad, Project
from korbent.drawing.primitives import Disc, Drawing, Line, Point, Polygon, Sketch, Text


def turned(points: list[Point], degrees: float, about: Point) -> tuple[Point, ...]:
    """Points given about their own middle, turned and moved to where they belong in the plan."""
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    return tuple((about[0] + c * x - s * y, about[1] + s * x + c * y) for x, y in points)


def outline(pad: Pad, point: LoadPoint) -> tuple[Point, ...]:
    """The corners of a pad in the plan."""
    return turned(_box(pad.width, pad.length), pad.rotation, middle(pad, point))


def middle(pad: Pad, point: LoadPoint) -> Point:
    """The middle of a pad in the plan: the column stands off it by the offsets."""
    return turned([(-pad.offset_x, -pad.offset_y)], pad.rotation, (point.x, point.y))[0]


def _box(width: float, length: float) -> list[Point]:
    return [
        (-width / 2, -length / 2),
        (width / 2, -length / 2),
        (width / 2, length / 2),
        (-width / 2, length / 2),
    ]


def area_outlines(area: AreaLoad) -> tuple[tuple[Point, ...], tuple[Point, ...]]:
    """The outlines of an area load at its level and, of an embankment, at its crest (else the same)."""
    if area.shape == "polygon":
        return area.outline, area.outline
    if area.shape == "circle":
        r = area.size_x / 2
        turns = [2 * math.pi * i / 48 for i in range(48)]
        circle = tuple((area.x + r * math.cos(t), area.y + r * math.sin(t)) for t in turns)
        return circle, circle
    at = (area.x, area.y)
    crest = turned(_box(area.size_x, area.size_y), area.rotation, at)
    if area.shape != "embankment":
        return crest, crest
    wider = 2 * area.slope * (area.height or 0.0)
    return turned(_box(area.size_x + wider, area.size_y + wider), area.rotation, at), crest


def plan_drawing(project: Project, results: Results, selected: str = "", group: str | None = None) -> Drawing:
    """The plan. ``group`` colours by the worst check of one group only."""
    sketch = Sketch()
    if not project.actions.load_points:
        text = "No column yet. Add one in Actions with its loads; then add a pad in the table below."
        return Drawing((Text((0, 0), text, 12, "soft", "middle"),), (-1.0, -1.0, 1.0, 1.0))
    points = {p.name: p for p in project.actions.load_points}
    for area in project.actions.area_loads:
        foot, crest = area_outlines(area)
        sketch.add(Polygon(foot, "fill", "soft", 1.0, opacity=0.6, dash=True, key=f"area:{area.name}"))
        if crest != foot:
            sketch.add(Polygon(crest, None, "soft", 1.0))
            sketch.add(*(Line((a, b), "soft", 0.8) for a, b in zip(foot, crest)))
        x, y = (sum(c[i] for c in crest) / len(crest) for i in (0, 1))
        sketch.add(Text((x, y), area.name, 11, "soft", "middle", dy=4, halo=True))
    for hole in project.ground.boreholes:
        sketch.add(
            Disc((hole.x, hole.y), 5, None, "water", 1.2, fixed=True),
            Disc((hole.x, hole.y), 1.6, "water", None, fixed=True),
            Text((hole.x, hole.y), hole.name, 10, "water", dx=8, dy=3),
        )
    for pad in project.pads:
        worst = _worst(results, pad.name, group)
        chosen = pad.name == selected
        corners = outline(pad, points[pad.load_point])
        colour = f"ratio:{worst.ratio}" if worst and worst.ratio is not None else "faint"
        beyond = bool(worst) and worst.state in (State.FAILS, State.UNSTABLE)
        if worst and worst.state is State.UNSTABLE:
            colour = "beyond"
        sketch.add(
            Polygon(
                corners, colour, "accent" if chosen else "ink", 2.6 if chosen else 1.0, hatch=beyond,
                key=f"pad:{pad.name}",
            )
        )  # fmt: skip
        right = max(x for x, _ in corners)
        low = min(y for _, y in corners)
        sketch.add(
            Text(
                (right, low), pad.name, 11, "accent" if chosen else "ink", bold=chosen, dx=4, dy=-1, halo=True
            )
        )
    for point in project.actions.load_points:
        shape = turned(_box(point.size_x, point.size_y), point.rotation, (point.x, point.y))
        free = point.name in results.undesigned
        sketch.add(
            Polygon(
                shape,
                "paper" if free else "ink",
                "soft" if free else "ink",
                dash=free,
                key=f"point:{point.name}",
            )
        )
        if free:
            sketch.add(
                Disc((point.x, point.y), 9, None, "soft", 1.0, fixed=True),
                Text((point.x, point.y), point.name, 10.5, "soft", dx=9, dy=-6, halo=True),
            )
    _scale_bar(sketch, project, bool(results.undesigned))
    return Drawing(tuple(sketch.shapes), _bounds(project), (22.0, 16.0, 74.0, 34.0))


def _worst(results: Results, pad: str, group: str | None) -> CheckResult | None:
    checks = tuple(c for c in results.pad(pad).checks if group in (None, c.check.group))
    return worst_of(checks) if checks else None


def _bounds(project: Project) -> tuple[float, float, float, float]:
    points = {p.name: p for p in project.actions.load_points}
    xy = [c for pad in project.pads for c in outline(pad, points[pad.load_point])]
    xy += [(p.x, p.y) for p in points.values()] + [(h.x, h.y) for h in project.ground.boreholes]
    xy += [c for area in project.actions.area_loads for c in area_outlines(area)[0]]
    xs, ys = [x for x, _ in xy], [y for _, y in xy]
    # a single pad is not blown up to fill the page
    more_x, more_y = (max(0.0, 7.0 - (max(v) - min(v))) / 2 for v in (xs, ys))
    return (min(xs) - more_x, min(ys) - more_y, max(xs) + more_x, max(ys) + more_y)


def _scale_bar(sketch: Sketch, project: Project, open_ones: bool) -> None:
    x0, y0, x1, _ = _bounds(project)
    length = next((n for n in (10.0, 5.0, 2.0, 1.0, 0.5) if n <= (x1 - x0) / 2), 0.2)
    shown, unit = (length, "m") if project.units == "metric" else (length / 0.3048, "ft")
    at = y0 - 0.02 * (x1 - x0)
    sketch.add(
        Line(((x0, at - 0.0), (x0 + length, at)), "soft", 1.4),
        Text((x0 + length, at), f"{shown:.3g} {unit}", 10, "soft", dx=5, dy=4),
    )
    if open_ones:
        sketch.add(Text((x0 + length, at), "ring: not designed yet", 10, "soft", dx=70, dy=4))
