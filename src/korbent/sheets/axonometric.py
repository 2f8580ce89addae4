"""The whole with its ground, seen from a corner in parallel projection: strata as a block that is cut away, bases and columns on it."""

import math

from korbent.core.footprint import footprint_of
from korbent.core.ground.profile import profile_at, strata_of
from korbent.core.model import Pad, Project
from korbent.drawing.plan import outline
from korbent.drawing.primitives import Drawing, Line, Point, Polygon, Sketch, Text
from korbent.sheets.foundation_plan import extent

TILT = math.radians(30.0)
"""Of the two plan axes against the horizontal."""
STATIONS = 25
DEEP = 1.2
"""The ground is drawn so many times as deep below the lowest base as the widest base is wide, at least to ``LEAST``."""
LEAST = 4.0


def seen(x: float, y: float, z: float) -> Point:
    """Where a point of space falls: x to the lower right, y to the upper right, heights upright and true."""
    return ((x + y) * math.cos(TILT), (y - x) * math.sin(TILT) + z)


def axonometric(project: Project) -> Drawing:
    """The bases on the ground, in m; behind first, so that what stands in front covers it."""
    sketch = Sketch()
    x0, y0, x1, y1 = extent(project)
    margin = 0.08 * max(x1 - x0, y1 - y0, 4.0)
    x0, y0, x1, y1 = x0 - margin, y0 - margin, x1 + margin, y1 + margin
    low = min([p.underside for p in project.pads], default=project.ground.surfaces.finished)
    deep = max(DEEP * max([min(p.width, p.extent) for p in project.pads], default=3.0), LEAST)
    bottom = low - deep
    _ground(sketch, project, (x0, y0, x1, y1), bottom, low)
    with sketch.on("foundations"):
        # from behind (large y - x) to the front
        for pad in sorted(project.pads, key=lambda p: _depth(project, p), reverse=True):
            _prism(sketch, project, pad)
    corners = [seen(x, y, z) for x in (x0, x1) for y in (y0, y1) for z in (bottom, low + 2.0)]
    xs, ys = [p[0] for p in corners], [p[1] for p in corners]
    return Drawing(tuple(sketch.shapes), (min(xs), min(ys), max(xs), max(ys)))


def _depth(project: Project, pad: Pad) -> float:
    point = project.load_point(pad.load_point)
    return float(point.y - point.x)


def _ground(sketch: Sketch, project: Project, box: tuple[float, float, float, float], bottom: float, top: float) -> None:  # fmt: skip
    """The two faces of the ground that look at the reader (y at its least, x at its greatest), and its surface at the founding level."""
    x0, y0, x1, y1 = box
    surface = tuple(seen(x, y, top) for x, y in ((x0, y0), (x1, y0), (x1, y1), (x0, y1)))
    if not project.ground.boreholes:
        with sketch.on("ground"):
            sketch.add(Polygon(surface, "fill", "soft", 0.8))
        return
    faces = (((x0, y0), (x1, y0)), ((x1, y0), (x1, y1)))
    named: dict[str, Point] = {}
    with sketch.on("ground"):
        sketch.add(Polygon(surface, "faint", "soft", 0.8))
        for (ax, ay), (bx, by) in faces:
            places = [
                (ax + (bx - ax) * i / (STATIONS - 1), ay + (by - ay) * i / (STATIONS - 1))
                for i in range(STATIONS)
            ]
            columns = []
            for x, y in places:
                profile = profile_at(project.ground, x, y)
                assert profile is not None
                columns.append(
                    [(s.name, s.pattern, min(t, top), max(b, bottom)) for s, t, b in strata_of(profile)]
                )
            for k in range(STATIONS - 1):
                here, there = columns[k], columns[k + 1]
                for i, (name, pattern, t, b) in enumerate(here):
                    if t <= b:
                        continue
                    own = there[i] if i < len(there) and there[i][0] == name else (name, pattern, t, b)
                    (px, py), (qx, qy) = places[k], places[k + 1]
                    ring = (seen(px, py, t), seen(qx, qy, own[2]), seen(qx, qy, own[3]), seen(px, py, b))
                    sketch.add(Polygon(ring, pattern, None), Line((ring[3], ring[2]), "soft", 0.7))
                    if k == STATIONS // 2 and name not in named and t - b > 0.3:
                        named[name] = ((ring[0][0] + ring[2][0]) / 2, (ring[0][1] + ring[2][1]) / 2)
            edge = [seen(x, y, top) for x, y in places]
            sketch.add(Line(tuple(edge), "ink", 1.2))
            sketch.add(Line((seen(ax, ay, top), seen(ax, ay, bottom), seen(bx, by, bottom), seen(bx, by, top)), "ink", 1.2))  # fmt: skip
    with sketch.on("texts"):
        for name, at in named.items():
            sketch.add(Text(at, name, 10, "ink", "middle", dy=4, halo=True))


def _prism(sketch: Sketch, project: Project, pad: Pad) -> None:
    """A base from its underside to its top, its sides that face the reader, and the columns on it."""
    point = project.load_point(pad.load_point)
    ring = outline(pad, point)
    low, high = pad.underside, pad.top
    n = len(ring)
    sides = []
    for k in range(n):
        (ax, ay), (bx, by) = ring[k], ring[(k + 1) % n]
        # outward normal of an edge of an anticlockwise ring; it is seen where it looks to +x or -y
        nx, ny = by - ay, -(bx - ax)
        if nx - ny > 1e-9:
            quad = (seen(ax, ay, high), seen(bx, by, high), seen(bx, by, low), seen(ax, ay, low))
            sides.append(((ay + by) / 2 - (ax + bx) / 2, quad))
    round_ = not footprint_of(pad).has_strips and not pad.outline and pad.is_round
    for _, quad in sorted(sides, reverse=True, key=lambda s: s[0]):
        sketch.add(Polygon(quad, "concrete", "concrete" if round_ else "ink", 0.9))
    sketch.add(Polygon(tuple(seen(x, y, high) for x, y in ring), "paper", "ink", 1.2, key=f"pad:{pad.name}"))
    for name in pad.carries:
        own, pedestal = project.load_point(name), pad.pedestal_under(name)
        if pedestal is not None:
            _post(sketch, own.x, own.y, pedestal.size_x, pedestal.size_y, high, pedestal.top)
        foot = pedestal.top if pedestal is not None else high
        _post(sketch, own.x, own.y, own.size_x, own.size_y, foot, foot + 1.2)
    x, y = max(ring, key=lambda p: p[0] - p[1])
    sketch.add(Text(seen(x, y, low), pad.name, 9.5, "ink", "left", True, dx=3, dy=10, halo=True))


def _post(sketch: Sketch, x: float, y: float, a: float, b: float, low: float, high: float) -> None:
    """An upright block with its three faces that are seen."""
    a, b = a / 2, b / 2
    top = tuple(seen(x + i * a, y + j * b, high) for i, j in ((-1, -1), (1, -1), (1, 1), (-1, 1)))
    front = (
        seen(x - a, y - b, low),
        seen(x + a, y - b, low),
        seen(x + a, y - b, high),
        seen(x - a, y - b, high),
    )
    side = (
        seen(x + a, y - b, low),
        seen(x + a, y + b, low),
        seen(x + a, y + b, high),
        seen(x + a, y - b, high),
    )
    for ring in (front, side, top):
        sketch.add(Polygon(ring, "faint", "ink", 0.8))
