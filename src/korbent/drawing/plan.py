"""The foundation plan: columns, walls, pads coloured by their worst ratio, boreholes."""

import math

from korbent.core.checks import GROUPS, CheckResult, State
from korbent.core.footprint import footprint_of
from korbent.core.model import AreaLoad, LoadPoint, Pad, Project
from korbent.core.plan.site import conflicts
from korbent.core.results import Results
from korbent.core.units import length_text, show, shown_unit
from korbent.drawing.primitives import (
    Dimension,
    Disc,
    Drawing,
    Line,
    Point,
    Polygon,
    Sketch,
    Spot,
    Text,
    spots_around,
)
from korbent.words import say


def turned(points: list[Point], degrees: float, about: Point) -> tuple[Point, ...]:
    """Points given about their own middle, turned and moved to where they belong in the plan."""
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    return tuple((about[0] + c * x - s * y, about[1] + s * x + c * y) for x, y in points)


def outline(pad: Pad, point: LoadPoint) -> tuple[Point, ...]:
    """The corners of a pad in the plan; of a round one, 72 points of its rim."""
    return turned(list(edge_of(pad)), pad.rotation, middle(pad, point))


def edge_of(pad: Pad) -> tuple[Point, ...]:
    """The outer edge of a pad in its own axes, anticlockwise."""
    x, y = footprint_of(pad).outline()
    return tuple(zip(map(float, x[0]), map(float, y[0])))


def rim(radius: float, count: int = 72) -> list[Point]:
    """Points of a circle about the origin, anticlockwise."""
    turns = (2 * math.pi * i / count for i in range(count))
    return [(radius * math.cos(t), radius * math.sin(t)) for t in turns]


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
        circle = turned(rim(area.size_x / 2, 48), 0.0, (area.x, area.y))
        return circle, circle
    at = (area.x, area.y)
    crest = turned(_box(area.size_x, area.size_y), area.rotation, at)
    if area.shape != "embankment":
        return crest, crest
    wider = 2 * area.slope * (area.height or 0.0)
    return turned(_box(area.size_x + wider, area.size_y + wider), area.rotation, at), crest


def _beside_mark(x: float, y: float, away: float = 8) -> tuple[Spot, ...]:
    """Around a round mark, for its name."""
    at = (x, y)
    return (
        Spot(at, "right", -away, 3),
        Spot(at, "middle", 0, -away),
        Spot(at, "middle", 0, away + 9),
        Spot(at, "left", away - 2, -away + 3),
        Spot(at, "left", away - 2, away + 6),
        Spot(at, "right", 2 - away, -away + 3),
        Spot(at, "right", 2 - away, away + 6),
    )


KINDS = {
    "boundary": ("ink", 1.8, False),
    "obstacle": ("beyond", 1.4, False),
    "existing_foundation": ("concrete_line", 1.4, False),
    "underlay": ("faint", 1.0, False),
}


def plan_drawing(
    project: Project,
    results: Results,
    selected: str = "",
    by: str = "worst",
    marked: tuple[str, ...] = (),
    quiet: bool = False,
    also: tuple[str, ...] = (),
) -> Drawing:
    """The plan.

    Args:
        by: what the colour of the bases stands for: "worst", a group of checks, "load", "level" or "type".
        marked: columns that are chosen.
        also: bases that are edited together with the selected one.
        quiet: bases are pale and there is room around, for what is drawn over them.
    """
    sketch = Sketch()
    if not project.actions.load_points:
        text = say("No column yet. Add one in Actions with its loads; then add a pad in the table below.")
        return Drawing((Text((0, 0), text, 12, "soft", "middle"),), (-1.0, -1.0, 1.0, 1.0))
    points = {p.name: p for p in project.actions.load_points}
    sketch.layer = "site"
    _site(sketch, project)
    sketch.layer = "loads"
    _area_loads(sketch, project)
    sketch.layer = "ground"
    for hole in project.ground.boreholes:
        sketch.add(
            Disc((hole.x, hole.y), 5, None, "water", 1.2, fixed=True),
            Disc((hole.x, hole.y), 1.6, "water", None, fixed=True),
            Text((hole.x, hole.y), hole.name, 10, "water", dx=8, dy=3, spots=_beside_mark(hole.x, hole.y)),
        )
    sketch.layer = "foundations"
    _straps(sketch, project, points)
    for pad in project.pads:
        colour, label, beyond = _looks(project, results, pad, by)
        if quiet:
            colour, beyond = "faint", False
        _base(sketch, project, pad, points, (colour, label, beyond), pad.name == selected, pad.name in also)
    sketch.layer = "results"
    _conflicts(sketch, project, points)
    sketch.layer = "columns"
    for point in project.actions.load_points:
        _column(sketch, point, point.name in marked, point.name in results.undesigned)
    sketch.layer = "foundations"
    for pad in project.pads:
        if pad.name == selected and pad.outline:
            _handles(sketch, pad, points[pad.load_point])
    sketch.layer = "texts"
    _scale_bar(sketch, project, bool(results.undesigned))
    x0, y0, x1, y1 = _bounds(project)
    room = ROOM * max(x1 - x0, y1 - y0) if quiet else 0.0
    return Drawing(tuple(sketch.shapes), (x0 - room, y0 - room - CLEAR * (x1 - x0), x1 + room, y1 + room))


def _area_loads(sketch: Sketch, project: Project) -> None:
    for area in project.actions.area_loads:
        foot, crest = area_outlines(area)
        sketch.add(Polygon(foot, "fill", "soft", 1.0, opacity=0.6, dash=True, key=f"area:{area.name}"))
        if crest != foot:
            sketch.add(Polygon(crest, None, "soft", 1.0))
            sketch.add(*(Line((a, b), "soft", 0.8) for a, b in zip(foot, crest)))
        x, y = (sum(c[i] for c in crest) / len(crest) for i in (0, 1))
        sketch.add(Text((x, y), area.name, 11, "soft", "middle", dy=4, halo=True))


def _looks(project: Project, results: Results, pad: Pad, by: str) -> tuple[str, str, bool]:
    """(colour, label, whether it is hatched) of a base."""
    worst = _worst(results, pad.name, by if by in GROUPS else None)
    colour = f"ratio:{worst.ratio}" if worst and worst.ratio is not None else "faint"
    beyond = worst is not None and worst.state in (State.FAILS, State.UNSTABLE)
    if worst and worst.state is State.UNSTABLE:
        colour = "beyond"
    label = pad.name
    if by in ("load", "level", "type"):
        colour, text = _shade(project, results, pad, by)
        label, beyond = f"{pad.name} {text}", False
    return colour, label, beyond


def _base(
    sketch: Sketch,
    project: Project,
    pad: Pad,
    points: dict[str, LoadPoint],
    looks: tuple[str, str, bool],
    chosen: bool,
    also: bool,
) -> None:
    """A base with its label; the chosen one with its handles and dimensions."""
    colour, label, beyond = looks
    corners = outline(pad, points[pad.load_point])
    if chosen and not pad.outline:
        _handles(sketch, pad, points[pad.load_point])
    sketch.add(
        Polygon(
            corners,
            colour,
            "accent" if chosen or also else "ink",
            2.6 if chosen or also else 1.0,
            hatch=beyond,
            key=f"drag:pad:{pad.name}" if chosen and not pad.frozen else f"pad:{pad.name}",
        )
    )
    if pad.bore:
        ring = turned(rim(pad.bore / 2), 0.0, middle(pad, points[pad.load_point]))
        sketch.add(Polygon(ring, "paper", "accent" if chosen else "ink", 1.6 if chosen else 1.0))
    for other in pad.further:
        ends = ((points[pad.load_point].x, points[pad.load_point].y), (points[other].x, points[other].y))
        sketch.add(Line(ends, "ink", 1.0, dash=True))
    right = max(x for x, _ in corners)
    low = min(y for _, y in corners)
    left, high = min(x for x, _ in corners), max(y for _, y in corners)
    ink = "accent" if chosen else "ink"
    spots = spots_around(left, low, right, high)
    if right - left > 4 * (high - low):  # of a long strip below its middle: beside it the next one may stand
        first = Spot(((left + right) / 2, low), "middle", 0, 13)
    else:
        first = Spot((right, low), "left", 4, -1)
    sketch.add(Text(first.at, label, 11, ink, first.anchor, chosen, first.dx, first.dy, halo=True, spots=spots))
    _held(sketch, pad, points[pad.load_point])
    if chosen:
        _dimensions(sketch, project, pad, points[pad.load_point])


def _column(sketch: Sketch, point: LoadPoint, marked: bool, free: bool) -> None:
    """A column or wall; ``free``: it stands on nothing yet."""
    box = list(rim(point.size_x / 2, 24)) if point.is_round else list(_box(point.size_x, point.size_y))
    shape = turned(box, point.rotation, (point.x, point.y))
    if marked:
        sketch.add(Disc((point.x, point.y), 12, None, "accent", 2.4, fixed=True))
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
            Text(
                (point.x, point.y),
                point.name,
                10.5,
                "soft",
                dx=9,
                dy=-6,
                halo=True,
                spots=_beside_mark(point.x, point.y, 11),
            ),
        )


def _site(sketch: Sketch, project: Project) -> None:
    """Grid lines, boundaries, obstacles, existing foundations, and the drawing below."""
    for grid in project.grids:
        margin = 2.0
        xs, ys = grid.along_x or (0.0,), grid.along_y or (0.0,)
        for x in grid.along_x:
            a, b = turned([(x, min(ys) - margin), (x, max(ys) + margin)], grid.rotation, (grid.x, grid.y))
            sketch.add(Line((a, b), "faint", 1.0, dash=True))
        for y in grid.along_y:
            a, b = turned([(min(xs) - margin, y), (max(xs) + margin, y)], grid.rotation, (grid.x, grid.y))
            sketch.add(Line((a, b), "faint", 1.0, dash=True))
    for outline in project.site:
        stroke, width, dash = KINDS[outline.kind]
        if outline.kind in ("obstacle", "existing_foundation") and outline.closed:
            fill = "concrete" if outline.kind == "existing_foundation" else None
            sketch.add(Polygon(outline.points, fill, stroke, width, hatch=outline.kind == "obstacle", opacity=0.6))
        else:
            ring = (*outline.points, outline.points[0]) if outline.closed else outline.points
            sketch.add(Line(ring, stroke, width, dash))
        if outline.kind != "underlay":
            sketch.add(Text(outline.points[0], outline.name, 10, "soft", dx=6, dy=-4, halo=True))


def _straps(sketch: Sketch, project: Project, points: dict[str, LoadPoint]) -> None:
    """The beams of straps from column to column, below the bases that they tie."""
    pads = {p.name: p for p in project.pads}
    for strap in project.straps:
        a, b = (points[pads[name].load_point] for name in (strap.edge, strap.inner))
        length = math.hypot(b.x - a.x, b.y - a.y)
        at = ((a.x + b.x) / 2, (a.y + b.y) / 2)
        angle = math.degrees(math.atan2(b.y - a.y, b.x - a.x))
        sketch.add(
            Polygon(
                turned(_box(length, strap.width), angle, at), "concrete", "concrete_line", 1.2, key=f"pad:{strap.edge}"
            ),
            Text(
                at,
                strap.name,
                10,
                "soft",
                "middle",
                dy=4,
                halo=True,
                spots=(Spot(at, "middle", 0, -9), Spot(at, "middle", 0, 17)),
            ),
        )


def _held(sketch: Sketch, pad: Pad, point: LoadPoint) -> None:
    """A bold line along an edge that is held; a mark on a frozen base."""
    edges = _edges(pad)
    for hold in () if pad.is_round else (pad.hold_x, pad.hold_y):
        if hold != "middle":
            ends = turned(list(edges[hold]), pad.rotation, middle(pad, point))
            sketch.add(Line(ends, "accent", 4.0, key=f"pad:{pad.name}"))
    if pad.frozen:
        sketch.add(Text(middle(pad, point), pad.frozen, 9, "ink", "middle", dy=-8, halo=True))


def _edges(pad: Pad) -> dict[str, tuple[Point, Point]]:
    """The four edges of a base with corners, in its axes; of a round one those of the square around it."""
    B, low, high = pad.width / 2, pad.length_at(-pad.width / 2) / 2, pad.length_at(pad.width / 2) / 2
    return {
        "-x": ((-B, -low), (-B, low)),
        "+x": ((B, -high), (B, high)),
        "-y": ((-B, -low), (B, -high)),
        "+y": ((-B, low), (B, high)),
    }


FOOT = 0.3048
"""m."""
ROOM = 0.15
"""Around a quiet plan, of its size."""
AWAY = 0.45
"""How far from the base its dimensions are drawn, m."""


def _dimensions(sketch: Sketch, project: Project, pad: Pad, point: LoadPoint) -> None:
    """The dimensions of the selected base outside it, and the distances of its edges from the column."""
    B, L = pad.width / 2, pad.extent / 2
    at, units = middle(pad, point), project.showing

    def line(start: Point, end: Point, text: str, left: bool = False) -> None:
        a, b = turned([start, end], pad.rotation, at)
        sketch.add(Dimension(a, b, text, AWAY, left, "accent"))

    if pad.is_round:
        line((-B, -L), (B, -L), f"ø {length_text(pad.width, units, False)}")
    else:
        ox, oy = pad.offset_x, pad.offset_y
        low, left = -L, -B
        # in one where the column stands in the middle, else to either side of it
        for start, end, text in (
            [((-B, low), (B, low), pad.width)]
            if abs(ox) < 1e-9
            else [((-B, low), (ox, low), pad.edge("-x")), ((ox, low), (B, low), pad.edge("+x"))]
        ):
            line(start, end, length_text(text, units, False))
        if pad.shape == "trapezoid":
            near, far = pad.length / 2, pad.far_length / 2
            line((B, -far), (B, far), length_text(pad.far_length, units, False))
            sides = [((left, -near), (left, near), pad.length)]
        elif abs(oy) < 1e-9:
            sides = [((left, -L), (left, L), pad.length)]
        else:
            sides = [((left, -L), (left, oy), pad.edge("-y")), ((left, oy), (left, L), pad.edge("+y"))]
        for start, end, text in sides:
            line(start, end, length_text(text, units, False), left=True)


def _handles(sketch: Sketch, pad: Pad, point: LoadPoint) -> None:
    """Edges of the selected base to drag, below it: the mouse takes them from outside."""
    at = middle(pad, point)
    if pad.frozen:
        return
    if pad.outline:  # its corners, and the middles of its sides, where a corner more can be pulled out
        ring = turned(list(pad.outline), pad.rotation, at)
        for k, (a, b) in enumerate(zip(ring, (*ring[1:], ring[0]))):
            middle_of = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
            sketch.add(
                Disc(middle_of, 3.5, "paper", "accent", 1.4, fixed=True, key=f"drag:after{k}:{pad.name}"),
                Disc(a, 5.5, "accent", "paper", 1.2, fixed=True, key=f"drag:corner{k}:{pad.name}"),
            )
        return
    for side, ends in _edges(pad).items():
        if pad.shape == "trapezoid" and side[1] == "y":
            continue  # its sides follow its ends
        (x0, y0), (x1, y1) = ends
        short = [(x0 + t * (x1 - x0), y0 + t * (y1 - y0)) for t in (0.325, 0.675)]
        sketch.add(Line(turned(short, pad.rotation, at), "accent", 3.4, key=f"drag:edge{side}:{pad.name}"))


def _conflicts(sketch: Sketch, project: Project, points: dict[str, LoadPoint]) -> None:
    """A mark between two bases that clash, stand too near or step too steeply."""
    where = {p.name: middle(p, points[p.load_point]) for p in project.pads}
    for found in conflicts(project):
        a, b = where[found.first], where[found.second]
        at = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        short = {"overlap": say("overlap"), "gap": say("gap {gap:.2f} m", gap=found.gap), "step": say("step")}[
            found.kind
        ]
        sketch.add(
            Line((a, b), "beyond", 1.4, dash=True),
            Text(at, short, 10, "beyond", "middle", bold=True, halo=True),
        )


def _shade(project: Project, results: Results, pad: Pad, by: str) -> tuple[str, str]:
    """(fill, text) of a base coloured by its load, level or type: the more, the warmer."""
    if by == "type":
        kinds = sorted({p.type or p.name for p in project.pads})
        at = kinds.index(pad.type or pad.name)
        return f"ratio:{0.95 * at / max(len(kinds) - 1, 1)}", pad.type or say("no type")

    def value(p: Pad) -> float:
        if by == "level":
            return p.underside
        loads = project.load_point(p.load_point).loads
        permanent = {c.name for c in project.actions.cases if c.nature in ("permanent", "imposed")}
        return float(sum(load.V for name, load in loads.items() if name in permanent))

    values = [value(p) for p in project.pads]
    low, high = min(values), max(values)
    own = value(pad)
    share = (own - low) / (high - low) if high > low else 0.5
    if by == "level":
        return (
            f"ratio:{0.95 * (1 - share)}",
            length_text(own, project.showing),
        )
    return f"ratio:{0.95 * share}", f"{show(own, 'kN', project.showing)} {shown_unit('kN', project.showing)}"


def _worst(results: Results, pad: str, group: str | None) -> CheckResult | None:
    found = results.pad(pad)
    return found.worst_in(group) if group else found.worst if found.checks else None


def extent(project: Project) -> tuple[float, float, float, float]:
    """The box around all that is built or fixed in the plan, m."""
    points = {p.name: p for p in project.actions.load_points}
    xy = [c for pad in project.pads for c in outline(pad, points[pad.load_point])]
    xy += [(p.x, p.y) for p in points.values()]
    xy += [c for o in project.site if o.kind != "underlay" for c in o.points]
    if not xy:
        return 0.0, 0.0, 10.0, 10.0
    return min(x for x, _ in xy), min(y for _, y in xy), max(x for x, _ in xy), max(y for _, y in xy)


def _bounds(project: Project) -> tuple[float, float, float, float]:
    points = {p.name: p for p in project.actions.load_points}
    xy = [c for pad in project.pads for c in outline(pad, points[pad.load_point])]
    xy += [(p.x, p.y) for p in points.values()] + [(h.x, h.y) for h in project.ground.boreholes]
    xy += [c for outline in project.site for c in outline.points]
    xy += [c for area in project.actions.area_loads for c in area_outlines(area)[0]]
    xs, ys = [x for x, _ in xy], [y for _, y in xy]
    # a single pad is not blown up to fill the page
    more_x, more_y = (max(0.0, 7.0 - (max(v) - min(v))) / 2 for v in (xs, ys))
    return (min(xs) - more_x, min(ys) - more_y, max(xs) + more_x, max(ys) + more_y)


CLEAR = 0.04
"""Of the width, between a base at the edge and the scale bar: its dimension stands there."""


def _scale_bar(sketch: Sketch, project: Project, open_ones: bool) -> None:
    x0, y0, x1, _ = _bounds(project)
    # round in the unit that is shown
    unit = 1.0 if project.units == "metric" else FOOT
    shown = next(
        (n for n in (100.0, 50.0, 20.0, 10.0, 5.0, 2.0, 1.0, 0.5) if n * unit <= min((x1 - x0) / 2, 20.0)),
        0.2,
    )
    length, name = shown * unit, "m" if project.units == "metric" else "ft"
    at = y0 - (CLEAR + 0.02) * (x1 - x0)
    sketch.add(
        Line(((x0, at - 0.0), (x0 + length, at)), "soft", 1.4),
        Text((x0 + length, at), f"{shown:.3g} {name}", 10, "soft", dx=5, dy=4),
    )
    if open_ones:
        sketch.add(Text((x0 + length, at), say("ring: not designed yet"), 10, "soft", dx=70, dy=4))
