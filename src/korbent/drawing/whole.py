"""The whole with its ground in parallel projection, from where one likes: strata as a block that is cut away at the
founding level, bases, pedestals, columns and straps on it, and the bars within them where the concrete is seen
through."""

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cached_property

from korbent.core.cache import Cache
from korbent.core.checks import State
from korbent.core.ground.profile import profile_at, strata_of
from korbent.core.model import Ground, LoadPoint, Pad, Project
from korbent.core.results import Results
from korbent.drawing.plan import edge_of, extent, middle, outline, rim, turned
from korbent.drawing.primitives import Drawing, Line, Point, Polygon, Sketch, Text, rectangle

STATIONS = 25
DEEP = 1.2
"""The ground is drawn so many times as deep below the lowest base as the widest base is wide, at least to ``LEAST``."""
LEAST = 4.0
COLUMN = 1.2
"""So much of a column is drawn, m."""
LOWEST, HIGHEST = 8.0, 90.0
"""Between which the eye may be above the horizontal, deg."""
Space = tuple[float, float, float]


@dataclass(frozen=True)
class Eye:
    """From where it is seen, at an infinite distance.

    Args:
        azimuth: direction from the middle to the eye in the plan, anticlockwise from +x, deg.
        height: of the eye above the horizontal, deg.
        stretch: of the picture.
    """

    azimuth: float = -60.0
    height: float = 32.0
    stretch: float = 1.0

    def __call__(self, x: float, y: float, z: float) -> Point:
        """Where a point of space falls on the picture, m."""
        c, s, up, flat = self._turns
        return self.stretch * (c * y - s * x), self.stretch * (flat * z - up * (c * x + s * y))

    def nearness(self, x: float, y: float) -> float:
        """How near to the eye a point of the plan is; what is nearer hides what is behind."""
        c, s, _, _ = self._turns
        return c * x + s * y

    @cached_property
    def _turns(self) -> tuple[float, float, float, float]:
        a, e = math.radians(self.azimuth), math.radians(self.height)
        return math.cos(a), math.sin(a), math.sin(e), math.cos(e)

    def turned(self, by: float, up: float) -> "Eye":
        """The eye gone around by so much, and higher by so much, deg."""
        height = min(max(self.height + up, LOWEST), HIGHEST)
        return replace(self, azimuth=(self.azimuth + by + 180.0) % 360.0 - 180.0, height=height)


ISOMETRIC = Eye(-45.0, math.degrees(math.asin(math.sqrt(1 / 3))), math.sqrt(1.5))
"""Lengths along both plan axes and heights are true."""


@dataclass(frozen=True)
class Block:
    """An upright prism: its outline in the plan, anticlockwise, and its levels."""

    ring: tuple[Point, ...]
    low: float
    high: float
    side: str = "concrete"
    top: str = "paper"
    stroke: str = "ink"
    width: float = 1.0
    key: str = ""
    smooth: bool = False
    """Of a round one the edges of its sides are not drawn."""
    hatch: bool = False

    @property
    def middle(self) -> Point:
        """Of the outline."""
        n = len(self.ring)
        return sum(x for x, _ in self.ring) / n, sum(y for _, y in self.ring) / n


def whole_drawing(
    project: Project,
    eye: Eye = ISOMETRIC,
    results: Results | None = None,
    selected: str = "",
    also: tuple[str, ...] = (),
    through: bool = False,
    steady: bool = False,
) -> Drawing:
    """All bases on their ground, in m; behind first, so that what stands in front covers it.

    Args:
        results: the tops of the bases take the colour of their worst ratio.
        also: bases that are chosen besides the selected one.
        through: the concrete is seen through, with the bars in it.
        steady: room for it from every side, so that it keeps its size while it is turned.
    """
    sketch = Sketch()
    box = _box(project)
    low = min([_lowest(p) for p in project.pads], default=project.ground.surfaces.finished)
    deep = max(DEEP * max([min(p.width, p.extent) for p in project.pads], default=3.0), LEAST)
    bottom = max(low - deep, min(_known(project, box), low - LEAST / 4))
    _ground(sketch, project, eye, box, bottom, low)
    names: list[Text] = []
    with sketch.on("foundations"):
        for pad, blocks, standing in _in_order(project, eye, results, selected, also):
            _solid(sketch, eye, blocks, through)
            if pad is not None and through:
                _bars(sketch, project, pad, eye)
            _solid(sketch, eye, standing, through)
            if pad is not None:
                ring = outline(pad, project.load_point(pad.load_point))
                x, y = max(ring, key=lambda p: (eye.nearness(*p), p))
                chosen = pad.name == selected
                names.append(
                    Text(
                        eye(x, y, pad.underside),
                        pad.name,
                        9.5,
                        "accent" if chosen else "ink",
                        "left",
                        True,
                        dx=3,
                        dy=10,
                        halo=True,
                    )
                )
    sketch.add(*names)
    high = max([low + 2.0, *(h.ground_level for h in project.ground.boreholes)])
    corners = [eye(x, y, z) for x in box[::2] for y in box[1::2] for z in (bottom, high)]
    if steady:
        x0, y0, x1, y1 = box
        wide, about = eye.stretch * math.dist((x0, y0), (x1, y1)) / 2, eye((x0 + x1) / 2, (y0 + y1) / 2, 0.0)
        corners += [(about[0] - wide, corners[0][1]), (about[0] + wide, corners[0][1])]
    xs, ys = [p[0] for p in corners], [p[1] for p in corners]
    if steady:  # what stands in the corner of the view has room below
        ys.append(min(ys) - 0.1 * (max(ys) - min(ys)))
    return Drawing(tuple(sketch.shapes), (min(xs), min(ys), max(xs), max(ys)))


def _known(project: Project, box: tuple[float, float, float, float]) -> float:
    """Down to which level the ground is known below the corners."""
    x0, y0, x1, y1 = box
    found = [profile_at(project.ground, x, y) for x in (x0, x1) for y in (y0, y1)]
    return min([strata_of(p)[-1][2] for p in found if p is not None], default=-math.inf)


def _box(project: Project) -> tuple[float, float, float, float]:
    x0, y0, x1, y1 = extent(project)
    margin = 0.08 * max(x1 - x0, y1 - y0, 4.0)
    return x0 - margin, y0 - margin, x1 + margin, y1 + margin


def _lowest(pad: Pad) -> float:
    plate = pad.plate
    if plate is None:
        return pad.underside
    deeper = [0.0, *(p.drop for p in plate.lower), *(t.thickness - pad.thickness for t in plate.thickenings)]
    deeper += [r.depth - pad.thickness for r in plate.ribs if r.side == "below"]
    return pad.underside - max(deeper)


# ---------------------------------------------------------------- what stands on the ground


def _in_order(
    project: Project, eye: Eye, results: Results | None, selected: str, also: tuple[str, ...]
) -> list[tuple[Pad | None, list[Block], list[Block]]]:
    """What is built, part by part, the farthest first: the base, the blocks that it is of and those that stand on it;
    None for a strap."""
    found: list[tuple[float, Pad | None, list[Block], list[Block]]] = []
    for pad in project.pads:
        at = middle(pad, project.load_point(pad.load_point))
        chosen = pad.name == selected or pad.name in also
        found.append((eye.nearness(*at), pad, *_of_base(project, pad, eye, results, chosen)))
    for strap in project.straps:
        edge, inner = project.pad(strap.edge), project.pad(strap.inner)
        a, b = (middle(p, project.load_point(p.load_point)) for p in (edge, inner))
        about, angle = (
            ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2),
            math.degrees(math.atan2(b[1] - a[1], b[0] - a[0])),
        )
        half = math.dist(a, b) / 2
        ring = turned(list(rectangle(-half, -strap.width / 2, half, strap.width / 2)), angle, about)
        top = min(edge.top, inner.top)
        found.append((eye.nearness(*about), None, [Block(ring, top - strap.depth, top, key=f"pad:{strap.edge}")], []))
    found.sort(key=lambda one: one[0])
    return [one[1:] for one in found]


def _of_base(
    project: Project, pad: Pad, eye: Eye, results: Results | None, chosen: bool
) -> tuple[list[Block], list[Block]]:
    """The blocks of a base from the lowest, and those that stand on it; of those side by side the farthest first."""
    key, stroke, width = f"pad:{pad.name}", "accent" if chosen else "ink", 2.0 if chosen else 1.0
    top, hatch = "paper", False
    if results is not None:
        found = results.pad(pad.name)
        worst = found.worst if found.checks else None
        top = "faint" if worst is None or worst.ratio is None else f"ratio:{worst.ratio}"
        if worst is not None and worst.state in (State.FAILS, State.UNSTABLE):
            top, hatch = ("beyond" if worst.state is State.UNSTABLE else top), True
    at = middle(pad, project.load_point(pad.load_point))

    def part(box: Iterable[Point], low: float, high: float) -> Block:
        return Block(turned(list(box), pad.rotation, at), low, high, "concrete", top, stroke, width, key, hatch=hatch)

    below, above = [], []
    if pad.plate is not None:
        h = pad.thickness
        for t in pad.plate.thickenings:
            below.append(part(_of(t.box), pad.top - t.thickness, pad.underside))
        for p in pad.plate.lower:
            below.append(part(_of(p.box), pad.underside - p.drop, pad.underside))
        for r in pad.plate.ribs:
            half = (pad.width if r.axis == "x" else pad.extent) / 2
            begin, end = (-half if r.begin is None else r.begin), (half if r.end is None else r.end)
            across = (r.at - r.width / 2, r.at + r.width / 2)
            box = (begin, end, *across) if r.axis == "x" else (*across, begin, end)
            if r.side == "below":
                below.append(part(_of(box), pad.top - r.depth, pad.underside))
            else:
                above.append(part(_of(box), pad.top, pad.top - h + r.depth))
    base = replace(part(edge_of(pad), pad.underside, pad.top), smooth=pad.is_round, width=2.2 if chosen else 1.2)
    for name in pad.carries:
        own, pedestal = project.load_point(name), pad.pedestal_under(name)
        foot = pad.top
        if pedestal is not None:
            size = (pedestal.size_x, pedestal.size_y)
            above.append(
                Block(
                    _standing(own, size, pad.rotation),
                    pad.top,
                    pedestal.top,
                    "concrete",
                    "faint",
                    key=key,
                    smooth=own.is_round,
                )
            )
            foot = pedestal.top
        size = (own.size_x, own.size_y)
        above.append(
            Block(
                _standing(own, size, own.rotation),
                foot,
                foot + COLUMN,
                "faint",
                "faint",
                key=f"point:{name}",
                smooth=own.is_round,
            )
        )
    below.sort(key=lambda b: eye.nearness(*b.middle))
    above.sort(key=lambda b: (round(eye.nearness(*b.middle), 6), b.low))
    return [*below, base], above


def _of(box: tuple[float, float, float, float]) -> tuple[Point, ...]:
    x0, x1, y0, y1 = box
    return rectangle(x0, y0, x1, y1)


def _standing(point: LoadPoint, size: tuple[float, float], degrees: float) -> tuple[Point, ...]:
    a, b = size[0] / 2, size[1] / 2
    ring = rim(a, 24) if point.is_round else list(rectangle(-a, -b, a, b))
    return turned(ring, degrees, (point.x, point.y))


def _solid(sketch: Sketch, eye: Eye, blocks: list[Block], through: bool) -> None:
    for block in blocks:
        pale = through and block.side == "concrete"
        opacity = 0.25 if pale else 1.0
        sides = []
        for (ax, ay), (bx, by) in zip(block.ring, (*block.ring[1:], block.ring[0])):
            # outward normal of an edge of an anticlockwise ring: the side is seen where it looks to the eye
            if eye.nearness(by - ay, ax - bx) > 1e-9:
                quad = (
                    eye(ax, ay, block.high),
                    eye(bx, by, block.high),
                    eye(bx, by, block.low),
                    eye(ax, ay, block.low),
                )
                sides.append((eye.nearness((ax + bx) / 2, (ay + by) / 2), quad))
        stroke = None if block.smooth and not pale else block.stroke
        for _, quad in sorted(sides, key=lambda s: s[0]):
            sketch.add(
                Polygon(
                    quad,
                    block.side,
                    None if block.smooth else stroke,
                    0.9,
                    opacity=opacity,
                    key=block.key,
                    layer="foundations",
                )
            )
        ring = tuple(eye(x, y, block.high) for x, y in block.ring)
        if pale:
            sketch.add(
                Polygon(
                    ring,
                    block.side,
                    block.stroke,
                    block.width,
                    opacity=opacity,
                    key=block.key,
                    layer="foundations",
                )
            )
        else:
            sketch.add(
                Polygon(
                    ring,
                    block.top,
                    block.stroke,
                    block.width,
                    hatch=block.hatch,
                    key=block.key,
                    layer="foundations",
                )
            )


def _bars(sketch: Sketch, project: Project, pad: Pad, eye: Eye) -> None:
    """The bars of both faces where they lie, and those of the pedestals."""
    from korbent.core.concrete.schedule import positions, stretches

    settings = project.settings_of(pad)
    at, cover = middle(pad, project.load_point(pad.load_point)), settings.concrete_cover
    if settings.base_concrete == "plain":
        return
    for face in ("bottom", "top"):
        for axis in ("x", "y"):
            bars = pad.reinforcement.bars(f"{face}_{axis}")
            if bars is None:
                continue
            other = pad.reinforcement.bars(f"{face}_{'y' if axis == 'x' else 'x'}")
            outer = (settings.outer_bars == axis) == (face == "bottom")
            deep = cover + bars.diameter / 2 + (0.0 if outer or other is None else other.diameter)
            z = pad.underside + deep if face == "bottom" else pad.top - deep
            for place in positions(pad.extent if axis == "x" else pad.width, cover, bars):
                for start, end in stretches(pad, axis, place, cover):
                    start, end = start + cover, end - cover
                    if end - start < 0.1:
                        continue
                    ends = ((start, place), (end, place)) if axis == "x" else ((place, start), (place, end))
                    a, b = turned(list(ends), pad.rotation, at)
                    sketch.add(Line((eye(*a, z), eye(*b, z)), f"steel_{axis}", 0.7 + 25 * bars.diameter, layer="bars"))


# ---------------------------------------------------------------- the ground


Columns = tuple[tuple[Point, tuple[tuple[str, str, float, float], ...]], ...]


Area = tuple[str, str, list[Space], list[Space]]


def _columns(ground: Ground, ends: tuple[Point, Point]) -> Columns:
    """Along a side of the block: places, and the strata there: (name, pattern, top, bottom)."""
    (ax, ay), (bx, by) = ends
    found = []
    for i in range(STATIONS):
        x, y = ax + (bx - ax) * i / (STATIONS - 1), ay + (by - ay) * i / (STATIONS - 1)
        profile = profile_at(ground, x, y)
        strata = strata_of(profile) if profile is not None else []
        found.append(((x, y), tuple((s.name, s.pattern, t, b) for s, t, b in strata)))
    return tuple(found)


def _ground(
    sketch: Sketch,
    project: Project,
    eye: Eye,
    box: tuple[float, float, float, float],
    bottom: float,
    top: float,
) -> None:
    """The ground behind what is built, its surface at the founding level, and its sides below that which look at the
    eye."""
    x0, y0, x1, y1 = box
    corners = ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
    surface = Polygon(tuple(eye(x, y, top) for x, y in corners), "faint", "soft", 0.8, layer="ground")
    if not project.ground.boreholes:
        sketch.add(replace(surface, fill="fill"))
        return
    sides = [(a, b, eye.nearness(b[1] - a[1], a[0] - b[0])) for a, b in zip(corners, (*corners[1:], corners[0]))]
    named: dict[str, Text] = {}
    if eye.height < HIGHEST - 0.5:
        for a, b, looks in sides:
            if looks > 1e-6:
                _side(sketch, project.ground, eye, (a, b), bottom, top, named)
        for a, b, looks in sides:
            if looks < -1e-6:  # above the surface the far sides are seen from within
                _side(sketch, project.ground, eye, (a, b), top, math.inf, named, 0.45)
    sketch.add(surface)
    with sketch.on("texts"):
        sketch.add(*named.values())


def _side(
    sketch: Sketch,
    ground: Ground,
    eye: Eye,
    ends: tuple[Point, Point],
    bottom: float,
    top: float,
    named: dict[str, Text],
    opacity: float = 1.0,
) -> None:
    """The strata of one side of the block between two levels, each named once where there is room."""
    (ax, ay), (bx, by) = ends
    columns, areas = _along(ground, ends, bottom, top)
    if not all(strata for _, strata in columns):
        return  # the ground is not known there
    wide = abs(eye(bx, by, 0.0)[0] - eye(ax, ay, 0.0)[0])
    with sketch.on("ground"):
        for name, pattern, upper, lower in areas:
            above, below = ([eye(*p) for p in line] for line in (upper, lower))
            sketch.add(
                Polygon((*above, *reversed(below)), pattern, None, opacity=opacity),
                Line(tuple(below), "soft", 0.7),
            )
            k = len(upper) // 2
            if name not in named and upper[k][2] - lower[k][2] > 0.3 and wide > 3.0:
                where = ((above[k][0] + below[k][0]) / 2, (above[k][1] + below[k][1]) / 2)
                named[name] = Text(where, name, 10, "ink", "middle", dy=4, halo=True)
        edge = [eye(x, y, min(top, strata[0][2])) for (x, y), strata in columns]
        around = (edge[0], eye(ax, ay, bottom), eye(bx, by, bottom), edge[-1])
        ink, width = ("ink", 1.2) if opacity == 1.0 else ("soft", 0.8)
        sketch.add(Line(tuple(edge), ink, width), Line(around, ink, width))


def _along(ground: Ground, ends: tuple[Point, Point], bottom: float, top: float) -> tuple[Columns, list[Area]]:
    """What is known along a side of the block, kept while it is turned."""

    def made() -> tuple[Columns, list[Area]]:
        columns = _columns(ground, ends)
        return columns, _areas(columns, bottom, top)

    return _sides.of((id(ground), ends, bottom, top), ground, made)


_sides: Cache[tuple[Columns, list[Area]]] = Cache(16, each=1)


def _areas(columns: Columns, bottom: float, top: float) -> list[Area]:
    """The strata along a side between two levels: name, pattern, the points of the upper and of the lower bound.

    One that ends between two places goes on to the second as it is at the first.
    """
    found = []
    open_: dict[tuple[str, int], tuple[str, list[Space], list[Space]]] = {}
    for (x, y), strata in columns:
        here: dict[tuple[str, int], tuple[str, float, float]] = {}
        for name, pattern, t, b in strata:
            t, b = min(t, top), max(b, bottom)
            if t > b:
                here[(name, sum(n == name for n, _ in here))] = (pattern, t, b)
        for key in [k for k in open_ if k not in here]:
            pattern, upper, lower = open_.pop(key)
            upper.append((x, y, upper[-1][2]))
            lower.append((x, y, lower[-1][2]))
            found.append((key[0], pattern, upper, lower))
        for key, (pattern, t, b) in here.items():
            _, upper, lower = open_.setdefault(key, (pattern, [], []))
            upper.append((x, y, t))
            lower.append((x, y, b))
    found += [(key[0], pattern, upper, lower) for key, (pattern, upper, lower) in open_.items()]
    return [one for one in found if len(one[2]) > 1]
