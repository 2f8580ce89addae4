"""The foundation plan that is built from: grid, columns, bases with marks and levels, dimensions, boundaries, north."""

import itertools
import math
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from korbent.core.model import LoadPoint, Pad, Project
from korbent.core.model.site import Grid
from korbent.core.units import Showing, feet_words, sizes_text, to_shown
from korbent.drawing.ground_section import Stretch
from korbent.drawing.logs import signed
from korbent.drawing.painting import box_of
from korbent.drawing.placing import Taken
from korbent.drawing.plan import edge_of, extent, middle, outline, rim, turned
from korbent.drawing.primitives import (
    Dimension,
    Disc,
    Drawing,
    Line,
    Placement,
    Point,
    Polygon,
    Sketch,
    Spot,
    Text,
    rectangle,
    spots_around,
)
from korbent.sheets.composition import PX, Paper
from korbent.sheets.types import kind_of, kinds_built

WORKING_SPACE = 0.15
"""Between a base and the edge of its pit at the bottom, m; as the section through a base draws it."""
BESIDE = 0.3
"""Columns that stand less beside the line of others have none of their own where no grid is given, m."""
BUBBLE = 13.0
"""Radius of the bubble of a grid line, px."""


@dataclass(frozen=True)
class GridLine:
    """A line of the grid in the plan, from where its bubble stands to its other end."""

    label: str
    start: Point
    end: Point


def grid_lines(project: Project, mm: float = 0.1) -> tuple[tuple[GridLine, ...], tuple[GridLine, ...]]:
    """(lines across x, lines across y) of all grids with their labels; without a grid those through the columns.

    A line is called as the columns on it are: B where they are B1, B2; 2 where they are A2, B2; else by letters and
    numbers in turn."""
    grids = project.grids or (_of_columns(project),)
    points = {p.name: p for p in project.actions.load_points}
    built = [c for pad in project.pads for c in outline(pad, points[pad.load_point])] + [
        (p.x, p.y) for p in points.values()
    ]
    built = built or [(0.0, 0.0)]
    across_x: list[GridLine] = []
    across_y: list[GridLine] = []
    for grid in grids:
        xs, ys = sorted(grid.along_x), sorted(grid.along_y)
        c, t = math.cos(math.radians(grid.rotation)), math.sin(math.radians(grid.rotation))
        own = [((x - grid.x) * c + (y - grid.y) * t, (y - grid.y) * c - (x - grid.x) * t) for x, y in built]
        # beyond all that is built, and its dimensions
        reach = 0.04 * max([*(b - a for v in (xs, ys) for a, b in itertools.pairwise(v)), 10.0]) + 13 * mm
        low_x, high_x = min([*xs, *(x for x, _ in own)]), max([*xs, *(x for x, _ in own)])
        low_y, high_y = min([*ys, *(y for _, y in own)]), max([*ys, *(y for _, y in own)])
        named_x, named_y = _labels(project, grid, xs, 0), _labels(project, grid, ys, 1)

        def at(x: float, y: float, grid: Grid = grid) -> Point:
            return turned([(x, y)], grid.rotation, (grid.x, grid.y))[0]

        step = 2.6 * BUBBLE * PX * mm
        far_x, far_y = _apart(xs, step), _apart(ys, step)
        across_x += [
            GridLine(n, at(x, high_y + reach + far), at(x, low_y - reach)) for n, x, far in zip(named_x, xs, far_x)
        ]
        across_y += [
            GridLine(n, at(low_x - reach - far, y), at(high_x + reach, y)) for n, y, far in zip(named_y, ys, far_y)
        ]
    return tuple(across_x), tuple(across_y)


def _thinned(values: Sequence[float]) -> list[float]:
    """Without those that lie hardly beside the one before."""
    found: list[float] = []
    for value in values:
        if not found or value - found[-1] > BESIDE:
            found.append(value)
    return found


def _apart(values: Sequence[float], step: float) -> list[float]:
    """How much further out the bubble of each line stands: lines that lie near each other take turns."""
    found: list[float] = []
    for k, value in enumerate(values):
        near = k > 0 and value - values[k - 1] < step
        found.append(step if near and found[-1] == 0.0 else 0.0)
    return found


def _of_columns(project: Project) -> Grid:
    """Lines through the columns where no grid is given: at most so many that they still say something."""
    points = project.actions.load_points
    xs, ys = (
        _thinned(sorted({round(v, 3) for v in values})) for values in ([p.x for p in points], [p.y for p in points])
    )
    return Grid(along_x=tuple(xs) if len(xs) <= 40 else (), along_y=tuple(ys) if len(ys) <= 40 else ())


def _labels(project: Project, grid: Grid, values: Sequence[float], axis: int) -> list[str]:
    """Names of lines, from the least value on: that of the columns on a line, else what its neighbour is called with a
    prime."""
    c, s = math.cos(math.radians(grid.rotation)), math.sin(math.radians(grid.rotation))
    found: list[str] = []
    for value in values:
        own = set()
        for point in project.actions.load_points:
            dx, dy = point.x - grid.x, point.y - grid.y
            along = (c * dx + s * dy, -s * dx + c * dy)[axis]
            named = re.fullmatch(r"([A-Za-z]+)[-_ ]?(\d+)", point.name)
            if abs(along - value) < 0.05 and named and "wall" not in point.kind:
                own.add(named[1 + axis])
        found.append(own.pop() if len(own) == 1 else "")
    named_once = [n for n in found if n and found.count(n) == 1]
    found = [n if n in named_once else "" for n in found]
    if not named_once:
        return (
            [_letters(i) for i in range(len(values))]
            if axis == 0
            else [str(len(values) - i) for i in range(len(values))]
        )
    # letters rise with x; numbers mostly fall with y: the neighbour is the one that comes before in that order
    order = list(range(len(found))) if axis == 0 else list(range(len(found) - 1, -1, -1))
    before = ""
    for i in order:
        if not found[i]:
            found[i] = f"{before}'" if before else "0"
        before = found[i]
    return found


def _letters(i: int) -> str:
    """A, B ... Z, AA: without I and O, which are read as numbers."""
    known = "ABCDEFGHJKLMNPQRSTUVWXYZ"
    return known[i] if i < len(known) else known[i // len(known) - 1] + known[i % len(known)]


def foundation_plan(
    project: Project,
    hidden: Sequence[str] = (),
    section: Stretch | None = None,
    scale: float = 100.0,
    changed: Sequence[str] = (),
    triangle: str = "",
) -> Drawing:
    """The plan in m.

    Args:
        hidden: what is left out, by name.
        section: the line of the ground section that is marked.
        scale: what it will be drawn at: distances between chains of dimensions follow from it.
        changed: bases that a cloud is drawn around, with a triangle that names the revision.
    """
    sketch = Sketch()
    points = {p.name: p for p in project.actions.load_points}
    mm = scale / 1000
    by_x, by_y = grid_lines(project, mm)
    if "boundaries_and_obstacles" not in hidden:
        with sketch.on("site"):
            _site(sketch, project)
    with sketch.on("grid"):
        for line in (*by_x, *by_y):
            _grid_line(sketch, line, mm)
    if "edges_of_excavation" not in hidden:
        with sketch.on("fill"):
            for pad in project.pads:
                _excavation(sketch, project, pad, points[pad.load_point])
    with sketch.on("foundations"):
        _straps(sketch, project, points, mm)
        kinds = kind_of(kinds_built(project))
        for pad in project.pads:
            _base(sketch, project, pad, points[pad.load_point], kinds[pad.name], "levels" not in hidden)
    with sketch.on("columns"):
        for point in project.actions.load_points:
            _column(sketch, point)
    if "boreholes" not in hidden:
        with sketch.on("ground"):
            for hole in project.ground.boreholes:
                at = (hole.x, hole.y)
                sketch.add(
                    Disc(at, 5, None, "water", 1.2, fixed=True),
                    Disc(at, 1.6, "water", None, fixed=True),
                    Text(
                        at,
                        hole.name,
                        9.5,
                        "water",
                        dx=8,
                        dy=3,
                        spots=(Spot(at, "right", -8, 3), Spot(at, "middle", 0, -9), Spot(at, "middle", 0, 18)),
                    ),
                )
    x0, y0, x1, y1 = extent(project)
    ends = [p for line in (*by_x, *by_y) for p in (line.start, line.end)]
    x0, x1 = min([x0, *(x for x, _ in ends)]), max([x1, *(x for x, _ in ends)])
    y0, y1 = min([y0, *(y for _, y in ends)]), max([y1, *(y for _, y in ends)])
    seen = within(section, (x0, y0, x1, y1)) if section is not None else None
    if seen is not None:
        with sketch.on("sections"):
            _section_mark(sketch, seen, mm)
    if "dimensions_to_grid" not in hidden:
        with sketch.on("dimensions"):
            y0, x0 = _chains(sketch, project, by_x, by_y, (x0, y0, x1, y1), mm)
            own = [d for pad in project.pads for d in _of_base(project, pad, points[pad.load_point], mm)]
            sketch.add(*_apart_from(sketch, own, scale))
    if changed:
        with sketch.on("changes"):
            for name in changed:
                found = next((p for p in project.pads if p.name == name), None)
                if found is not None:
                    ring = outline(found, points[found.load_point])
                    cloud(sketch, ring, triangle, mm)
    with sketch.on("texts"):
        _north(sketch, (x1 - 4 * mm, y1 + 6 * mm), mm)
    margin = BUBBLE * 2.2 * PX * mm
    return Drawing(tuple(sketch.shapes), (x0 - margin, y0, x1 + margin, y1 + margin + 14 * mm))


def _site(sketch: Sketch, project: Project) -> None:
    marks = {
        "boundary": ("beyond", 2.0, False),
        "obstacle": ("ink", 1.0, False),
        "existing_foundation": ("soft", 1.2, True),
    }
    for item in project.site:
        if item.kind == "underlay":
            continue
        stroke, width, dash = marks[item.kind]
        ring = (*item.points, item.points[0]) if item.closed else item.points
        if item.closed and item.kind != "boundary":
            sketch.add(Polygon(item.points, "faint", stroke, width, dash=dash, key=f"site:{item.name}"))
        else:
            sketch.add(Line(ring, stroke, width, dash, key=f"site:{item.name}"))
        sketch.add(
            Text(
                item.points[0],
                item.name,
                9,
                stroke,
                dx=6,
                dy=-5,
                spots=tuple(Spot(p, "left", 6, 12) for p in item.points[1:]),
            )
        )


def _grid_line(sketch: Sketch, line: GridLine, mm: float) -> None:
    (x0, y0), (x1, y1) = line.start, line.end
    length = math.dist(line.start, line.end) or 1.0
    ux, uy = (x0 - x1) / length, (y0 - y1) / length
    away = BUBBLE * PX * mm
    centre = (x0 + ux * away, y0 + uy * away)
    sketch.add(
        Line((line.end, line.start), "soft", 0.7, dash=True, key=f"grid:{line.label}"),
        Disc(centre, BUBBLE, "paper", "ink", 1.1, fixed=True, key=f"bubble:{line.label}"),
        Text(centre, line.label, 11, "ink", "middle", bold=True, dy=4, fixed=True),
    )


def _base(sketch: Sketch, project: Project, pad: Pad, point: LoadPoint, kind: str, levels: bool) -> None:
    at = middle(pad, point)
    ring = outline(pad, point)
    sketch.add(Polygon(ring, "faint", "ink", 1.8, key=f"pad:{pad.name}"))
    if pad.bore:
        sketch.add(Polygon(turned(rim(pad.bore / 2), 0.0, at), "paper", "ink", 1.2))
    for hole in pad.openings:
        sketch.add(
            Polygon(
                turned([(hole.x + x, hole.y + y) for x, y in rim(hole.diameter / 2, 24)], pad.rotation, at),
                "paper",
                "ink",
                1.0,
            )
        )
    if pad.plate is not None:
        for region in pad.plate.openings:
            corners = turned(list(rectangle(region.x_from, region.y_from, region.x_to, region.y_to)), pad.rotation, at)
            sketch.add(
                Polygon(corners, "paper", "ink", 1.2),
                Line((corners[0], corners[2]), "soft", 0.7),
                Line((corners[1], corners[3]), "soft", 0.7),
            )
        for region in (*pad.plate.thickenings, *pad.plate.lower):
            corners = turned(list(rectangle(region.x_from, region.y_from, region.x_to, region.y_to)), pad.rotation, at)
            sketch.add(Polygon(corners, None, "ink", 1.0, dash=True))
        for rib in pad.plate.ribs:
            x0, x1, y0, y1 = pad.rib_box(rib)
            corners = turned(list(rectangle(x0, y0, x1, y1)), pad.rotation, at)
            sketch.add(Polygon(corners, None, "ink", 1.0, dash=rib.side == "below"))
    for name in pad.carries:
        pedestal, own = pad.pedestal_under(name), project.load_point(name)
        if pedestal is not None:
            box = (
                rim(pedestal.size_x / 2, 24)
                if pedestal.is_round
                else list(
                    rectangle(-pedestal.size_x / 2, -pedestal.size_y / 2, pedestal.size_x / 2, pedestal.size_y / 2)
                )
            )
            sketch.add(Polygon(turned(box, own.rotation, (own.x, own.y)), "paper", "ink", 1.0))
    x0, x1 = min(x for x, _ in ring), max(x for x, _ in ring)
    y0, y1 = min(y for _, y in ring), max(y for _, y in ring)
    text = pad.name if kind == pad.name else f"{pad.name} · {kind}"
    if levels:
        text += f" · {signed(pad.underside, project.showing)}"
    inside = pad.kind == "raft"
    first = Spot((x0, y1), "left", 8, 16) if inside else Spot((x1, y1), "left", 4, 9)
    within = tuple(
        Spot((x, y), "left" if x == x0 else "right", 8 if x == x0 else -8, 16 if y == y1 else -8)
        for y in (y1, y0)
        for x in (x0, x1)
    )
    spots = within if inside else spots_around(x0, y0, x1, y1)
    sketch.add(Text(first.at, text, 9.5, "ink", first.anchor, True, first.dx, first.dy, halo=True, spots=spots))


def _column(sketch: Sketch, point: LoadPoint) -> None:
    if point.is_round:
        box = rim(point.size_x / 2, 24)
    else:
        box = list(rectangle(-point.size_x / 2, -point.size_y / 2, point.size_x / 2, point.size_y / 2))
    shape = turned(box, point.rotation, (point.x, point.y))
    sketch.add(Polygon(shape, "ink", "ink", 0.8, key=f"point:{point.name}"))


def _straps(sketch: Sketch, project: Project, points: dict[str, LoadPoint], mm: float) -> None:
    for strap in project.straps:
        a, b = (points[project.pad(name).load_point] for name in (strap.edge, strap.inner))
        length, angle = math.hypot(b.x - a.x, b.y - a.y), math.degrees(math.atan2(b.y - a.y, b.x - a.x))
        half = (length / 2, strap.width / 2)
        at = ((a.x + b.x) / 2, (a.y + b.y) / 2)
        corners = turned(list(rectangle(-half[0], -half[1], half[0], half[1])), angle, at)
        text = f"{strap.name} {sizes_text((strap.width, strap.depth), project.showing, unit=False)}"
        sketch.add(
            Polygon(corners, "paper", "ink", 1.2, key=f"strap:{strap.name}"),
            Text(
                at,
                text,
                9,
                "ink",
                "middle",
                dy=-8,
                halo=True,
                spots=(Spot(at, "middle", 0, 16), Spot(at, "middle", 0, -18)),
            ),
        )


def _excavation(sketch: Sketch, project: Project, pad: Pad, point: LoadPoint) -> None:
    """The edge of the pit at its bottom: the working space around the base."""
    if pad.outline:
        return
    space = WORKING_SPACE
    corners = [(x + space * (1 if x > 0 else -1), y + space * (1 if y > 0 else -1)) for x, y in edge_of(pad)]
    sketch.add(Polygon(turned(corners, pad.rotation, middle(pad, point)), None, "soft", 0.7, dash=True))


def _chains(
    sketch: Sketch,
    project: Project,
    by_x: Sequence[GridLine],
    by_y: Sequence[GridLine],
    box: tuple[float, float, float, float],
    mm: float,
) -> tuple[float, float]:
    """Chains of dimensions from line to line of the grid and over all, below and at the left. Returns how far down and
    left they reach."""
    x0, y0, x1, _y1 = box
    units = project.showing
    low, left = y0, x0
    chain: list[Dimension] = []
    upright = len(project.grids) <= 1 and not (project.grids and project.grids[0].rotation % 90)
    if not upright:
        return y0 - 4 * mm, x0 - 4 * mm
    if len(by_x) > 1:
        at = [line.end[0] for line in by_x]
        low = y0 - 8 * mm
        for a, b in itertools.pairwise(at):
            chain.append(Dimension((a, low), (b, low), length_words(b - a, units)))
        if len(at) > 2:
            low -= 8 * mm
            chain.append(Dimension((at[0], low), (at[-1], low), length_words(at[-1] - at[0], units)))
    if len(by_y) > 1:
        at = [line.end[1] for line in by_y]
        left = x1 + 8 * mm
        for a, b in itertools.pairwise(at):
            chain.append(Dimension((left, a), (left, b), length_words(b - a, units)))
        if len(at) > 2:
            left += 16 * mm
            chain.append(Dimension((left, at[0]), (left, at[-1]), length_words(at[-1] - at[0], units)))
    # of gaps that are too narrow for two texts beside each other only one is written
    kept = _apart_from(sketch, chain, 1000 * mm)
    sketch.add(*(d if d in kept else replace(d, text="") for d in chain))
    return low - 6 * mm, x0


def length_words(value: float, units: Showing) -> str:
    """A length on a drawing: whole mm in groups of three, or feet and inches."""
    if units.system == "us" or units.feet_and_inches:
        return feet_words(value)
    return f"{round(1000 * value):,}".replace(",", " ")


def _of_base(project: Project, pad: Pad, point: LoadPoint, mm: float) -> list[Dimension]:
    """The sizes of a base below and at the left of it; from its column, where that does not stand in its middle."""
    if pad.kind == "raft" and pad.outline:
        return []
    B, units, at = pad.width, project.showing, middle(pad, point)
    low, left = -pad.extent / 2, -B / 2
    found: list[Dimension] = []

    def line(a: Point, b: Point, hand: bool) -> None:
        (p, q) = turned([a, b], pad.rotation, at)
        found.append(Dimension(p, q, length_words(math.dist(a, b), units), 3.5 * mm, hand, size=8.5))

    if pad.is_round:
        line((-B / 2, low), (B / 2, low), False)
        return found
    for k, (offset, half) in enumerate(((pad.offset_x, B / 2), (pad.offset_y, pad.length / 2))):
        stops = [-half, half] if abs(offset) < 1e-6 else [-half, offset, half]
        for a, b in itertools.pairwise(stops):
            if k == 0:
                line((a, low), (b, low), False)
            else:
                line((left, a), (left, b), True)
    return found


def _apart_from(sketch: Sketch, own: Sequence[Dimension], scale: float) -> list[Dimension]:
    """Those whose texts lie on no other dimension, bubble or column: the sizes of the others stand in the table of
    types."""
    measure, place = Paper(), Placement(1000.0 / scale, 0.0, 0.0, 0.0, 0.0)
    taken = Taken(measure.px)
    for shape in sketch.shapes:
        if isinstance(shape, Dimension) or (isinstance(shape, Text) and shape.fixed):
            taken.add(box_of(measure, shape, place))
    found = []
    for dimension in own:
        box = box_of(measure, dimension, place)
        if not taken.meets(box):
            taken.add(box)
            found.append(dimension)
    return found


def within(line: Stretch, box: tuple[float, float, float, float]) -> Stretch | None:
    """The part of a line within a box; None where it misses it (Liang and Barsky)."""
    (ax, ay), (bx, by) = line
    dx, dy = bx - ax, by - ay
    begin, end = 0.0, 1.0
    for step, room in ((-dx, ax - box[0]), (dx, box[2] - ax), (-dy, ay - box[1]), (dy, box[3] - ay)):
        if abs(step) < 1e-12:
            if room < 0:
                return None
        elif step < 0:
            begin = max(begin, room / step)
        else:
            end = min(end, room / step)
    if end - begin < 1e-9:
        return None
    return (ax + begin * dx, ay + begin * dy), (ax + end * dx, ay + end * dy)


def _section_mark(sketch: Sketch, line: Stretch, mm: float) -> None:
    """Where a section runs: thick ends with an arrow the way it looks, and a letter."""
    (x0, y0), (x1, y1) = line
    length = math.hypot(x1 - x0, y1 - y0) or 1.0
    ux, uy = (x1 - x0) / length, (y1 - y0) / length
    nx, ny = -uy, ux
    for (x, y), sign in (((x0, y0), 1.0), ((x1, y1), -1.0)):
        inner = (x + sign * ux * 10 * mm, y + sign * uy * 10 * mm)
        tip = (x + nx * 7 * mm, y + ny * 7 * mm)
        sketch.add(
            Line(((x, y), inner), "ink", 2.4),
            Line(((x, y), tip), "ink", 1.2, arrow=True),
            Text(
                (x - sign * ux * 4 * mm, y - sign * uy * 4 * mm), "A", 12, "ink", "middle", bold=True, dy=5, fixed=True
            ),
        )
    sketch.add(Line(((x0, y0), (x1, y1)), "soft", 0.6, dash=True))


def _north(sketch: Sketch, at: Point, mm: float) -> None:
    """The arrow along y: north of the plan."""
    x, y = at
    r = 5 * mm
    sketch.add(
        Disc((x, y), r, None, "ink", 0.9),
        Polygon(((x, y + r), (x - 0.45 * r, y - 0.8 * r), (x, y - 0.4 * r)), "ink", "ink", 0.6),
        Polygon(((x, y + r), (x + 0.45 * r, y - 0.8 * r), (x, y - 0.4 * r)), None, "ink", 0.6),
        Text((x, y + r), "N", 11, "ink", "middle", bold=True, dy=-4, fixed=True),
    )


def cloud(
    sketch: Sketch, ring: Sequence[Point], name: str, mm: float, corner: tuple[float, float] = (1.0, 1.0)
) -> None:
    """A cloud around an outline, and a triangle with the name of the revision at a corner, the upper right one."""
    xs, ys = [x for x, _ in ring], [y for _, y in ring]
    away, r = 4 * mm, 2.2 * mm
    x0, y0, x1, y1 = min(xs) - away, min(ys) - away, max(xs) + away, max(ys) + away
    path: list[Point] = []
    corners = [(x0, y0), (x1, y0), (x1, y1), (x0, y1), (x0, y0)]
    for a, b in itertools.pairwise(corners):
        n = max(2, round(math.dist(a, b) / (2 * r)))
        ux, uy = (b[0] - a[0]) / n, (b[1] - a[1]) / n
        half = math.hypot(ux, uy) / 2
        turn = math.atan2(uy, ux)
        for k in range(n):
            c = (a[0] + (k + 0.5) * ux, a[1] + (k + 0.5) * uy)
            path += [
                (c[0] + half * math.cos(turn + math.pi + t), c[1] + half * math.sin(turn + math.pi + t))
                for t in (math.pi * i / 6 for i in range(7))
            ]
    sketch.add(Line(tuple(path), "beyond", 1.6, key="cloud"))
    if name:
        s = 4.2 * mm
        cx, cy = (x1 if corner[0] > 0 else x0) + corner[0] * s, (y1 if corner[1] > 0 else y0) + corner[1] * s
        tri = ((cx - s, cy - 0.7 * s), (cx + s, cy - 0.7 * s), (cx, cy + 1.0 * s))
        sketch.add(
            Polygon(tri, "paper", "beyond", 1.4, key="revision"),
            Text((cx, cy), name, 9, "beyond", "middle", bold=True, dy=5, fixed=True),
        )


def coordinates(project: Project) -> list[tuple[str, str, str, str]]:
    """(column, x, y, the level at which it stands) for setting out, in the unit of lengths, three decimals."""
    units = project.showing

    def three(value: float) -> str:
        return f"{to_shown(value, 'm', units):.3f}"

    return [(p.name, three(p.x), three(p.y), signed(p.level, units)) for p in project.actions.load_points]
