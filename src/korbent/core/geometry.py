"""The sizes of pads, or of many candidate sizes of a pad, as arrays of shape (candidates, 1)."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from math import pi

import numpy as np

from korbent.core.footprint import Footprint, footprints
from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import HELD, Pad
from korbent.core.model.outlines import contains
from korbent.core.model.reinforcement import FACES, Bars
from korbent.core.working import Array

DRIVING = ("width", "length", "thickness", "level", "offset_x", "offset_y", "far_length")
"""The dimensions that candidates vary, in the order of the columns of a candidate table."""


@dataclass(frozen=True)
class BarArrays:
    """Bars in one direction and face, arrays (candidates, 1) in m; no bars have the diameter zero."""

    diameter: Array
    spacing: Array
    """Width of the base for each bar: the spacing, or the width over the number."""
    number: Array = field(default_factory=lambda: np.zeros((1, 1)))
    """How many where they are given so, else 0."""

    @property
    def area(self) -> Array:
        """Steel area per width, m2/m."""
        area: Array = np.pi * self.diameter**2 / 4 / self.spacing
        return area

    def centres(self, cover: float) -> Array:
        """From bar to bar: by number, what the covers and the bars leave between them, m."""
        if not self.number.any():
            return self.spacing
        gaps = np.maximum(self.number - 1, 1)
        return np.where(self.number > 0, (self.spacing * self.number - 2 * cover - self.diameter) / gaps, self.spacing)


@dataclass(frozen=True)
class PadGeometry:
    """Dimensions as arrays of shape (candidates, 1), m."""

    footprint: Footprint
    h: Array
    underside: Array
    top: Array
    offset_x: Array
    offset_y: Array
    column: tuple[Array, Array]
    """Where the column stands in the plan, m."""
    rotation: Array
    """Angle from the plan axes to the pad axes, rad."""
    turn: Array
    """Angle from the axes of the loads to the pad axes, rad."""
    standing: tuple[Array, Array]
    """Sizes of what stands on the base along the pad axes (pedestal, else column)."""
    face: tuple[Array, Array]
    """Sizes at which the critical sections start (EN 1992-1-1 5.3.2.2, or halfway to the plate's edge)."""
    pedestals: Array
    """Under each column: x, y from the first column in pad axes, area (0 where there is none), and level of the top, m,
    (candidates, columns, 4)."""
    load_level: Array
    diameter: Array
    """Of a round column that stands on the base itself, else 0; the other sizes are those of the square of its area."""
    one_way: Array
    """1 where the base spans one way: under a wall; else 0."""
    askew: tuple[bool, ...]
    """Per candidate: the column is turned against the pad by other than quarter turns; a square of equal area
    is used."""
    bars: dict[str, BarArrays]
    """By face and direction, as the fields of Reinforcement."""
    cut: Array
    """Area that columns and walls take of the backfill above the base, m2."""
    cut_x: Array
    cut_y: Array
    """Its middle from the middle of the base, m."""
    openings: Array = field(default_factory=lambda: np.zeros((1, 0, 3)))
    """x, y from the middle of the base and diameter, m, (candidates, openings, 3); no opening has the diameter zero."""

    lower: Array = field(default_factory=lambda: np.zeros((1, 0, 4)))
    """Lower parts of rafts: x, y of their centres from the first column, area, and by how much they lie lower,
    (candidates, parts, 4)."""

    @property
    def B(self) -> Array:
        """Width, along x, m."""
        return self.footprint.B

    @property
    def L(self) -> Array:
        """Length, along y; of a trapezoid the mean, m."""
        return self.footprint.L

    @property
    def area(self) -> Array:
        """Area of the underside, m2."""
        return self.footprint.area

    @property
    def pedestal_volumes(self) -> Array:
        """Of the pedestal under each column above the base, m3, (candidates, columns)."""
        volumes: Array = self.pedestals[..., 2] * np.maximum(self.pedestals[..., 3] - self.top, 0.0)
        return volumes


def table(pad: Pad, steps: tuple[tuple[str, float], ...] = ()) -> Array:
    """Candidate sizes, one row each: the pad as it is, then with one dimension changed by each step."""
    rows = np.tile([float(getattr(pad, name)) for name in DRIVING], (1 + len(steps), 1))
    for row, (name, change) in enumerate(steps, 1):
        rows[row, DRIVING.index(name)] += change
    return with_held_edges(rows, pad)


def with_held_edges(rows: Array, pad: Pad) -> Array:
    """Candidate sizes whose held edges stay where those of the pad are (see :meth:`Pad.resized`); what is round keeps
    one diameter."""
    rows = rows.copy()
    if pad.is_round:
        width, length = DRIVING.index("width"), DRIVING.index("length")
        other = rows[:, width] == pad.width
        rows[other, width] = rows[other, length]
        rows[:, length] = rows[:, width]
    for size, hold, offset in (("width", pad.hold_x, "offset_x"), ("length", pad.hold_y, "offset_y")):
        if hold != "middle":
            grown = rows[:, DRIVING.index(size)] - getattr(pad, size)
            rows[:, DRIVING.index(offset)] += HELD[hold] * grown / 2
    return rows


def runs_along_y(pad: Pad, wall: LoadPoint) -> bool:
    """Whether a wall runs along the y axis of its base, or nearer to it than to the x axis."""
    angle = np.deg2rad(wall.rotation - pad.rotation + (90.0 if wall.size_y >= wall.size_x else 0.0))
    return bool(abs(np.sin(angle)) >= abs(np.cos(angle)) - 1e-9)


def off_the_base(rows: Array, pad: Pad) -> Array:
    """Of which candidate sizes the (first) column stands off the base, shape (candidates,)."""
    B, L, far, o_x, o_y = (rows[:, DRIVING.index(n)] for n in ("width", "length", "far_length", "offset_x", "offset_y"))
    there = L + (far - L) * (o_x / B + 0.5) if pad.shape == "trapezoid" else L
    found: Array = (np.abs(o_x) > B / 2 + 1e-9) | (np.abs(o_y) > there / 2 + 1e-9)
    if pad.outline:
        found |= np.array(
            [
                not contains([(float(u), float(v)) for u, v in pad.outline_of(*sizes)], x, y)
                for x, y, *sizes in zip(o_x, o_y, B, L)
            ]
        )
    return found


def local_place(pad: Pad, first: LoadPoint, other: LoadPoint) -> tuple[float, float]:
    """Where a further column stands from the middle of the base, in pad axes, m."""
    angle = float(np.deg2rad(pad.rotation))
    dx, dy = other.x - first.x, other.y - first.y
    c, s = float(np.cos(angle)), float(np.sin(angle))
    return pad.offset_x + c * dx + s * dy, pad.offset_y - s * dx + c * dy


def pad_geometry(
    pads: Sequence[Pad],
    points: Sequence[LoadPoint],
    index: Array,
    candidates: Array,
    further: Sequence[Sequence[LoadPoint]] = (),
) -> PadGeometry:
    """Geometry of candidate sizes of pads of one shape.

    Args:
        pads, points: the pads and the load point of each.
        further: the other load points on each.
        index: which pad each candidate belongs to, shape (candidates,).
        candidates: sizes, shape (candidates, len(DRIVING)).
    """
    B, L, h, level, offset_x, offset_y, far = (candidates[:, i : i + 1] for i in range(len(DRIVING)))
    footprint = footprints(pads, index, B, L, far)
    shapes = [_standing(pad, point) for pad, point in zip(pads, points)]

    def column(values: Sequence[float]) -> Array:
        return np.array(values, dtype=float)[index][:, None]

    def pair(pick: Callable[[_Standing], tuple[float, float]]) -> tuple[Array, Array]:
        return column([pick(s)[0] for s in shapes]), column([pick(s)[1] for s in shapes])

    def bars(face: str) -> BarArrays:
        found: list[Bars | None] = [pad.reinforcement.bars(face) for pad in pads]
        number = column([(b.number or 0) if b else 0 for b in found])
        spacing = column([(b.spacing or 0.0) if b else 1.0 for b in found])
        if number.any():
            across = footprint.size("y" if face.endswith("x") else "x")
            spacing = np.where(number > 0, across / np.maximum(number, 1), spacing)
        return BarArrays(column([b.diameter if b else 0.0 for b in found]), spacing, number)

    cuts = [_cut(*found) for found in zip(pads, points, shapes, further or ((),) * len(pads))]
    held_below = column([float(pad.held == "underside") for pad in pads]) > 0
    underside = np.where(held_below, level, level - h)
    return PadGeometry(
        footprint=footprint,
        h=h,
        underside=underside,
        top=underside + h,
        offset_x=offset_x,
        offset_y=offset_y,
        column=(column([point.x for point in points]), column([point.y for point in points])),
        rotation=column([float(np.deg2rad(pad.rotation)) for pad in pads]),
        turn=column([s.turn for s in shapes]),
        standing=pair(lambda s: s.size),
        face=pair(lambda s: s.face),
        pedestals=_pedestals(pads, points, further)[index],
        load_level=column([point.level for point in points]),
        diameter=column([s.diameter for s in shapes]),
        one_way=column(
            [
                float(pad.kind == "strip" or (pad.kind == "pad" and point.kind.endswith("wall")))
                for pad, point in zip(pads, points)
            ]
        ),
        askew=tuple(shapes[i].askew for i in index),
        bars={face: bars(face) for face in FACES},
        cut=column([c[0] for c in cuts]),
        cut_x=offset_x + column([c[1] for c in cuts]),
        cut_y=offset_y + column([c[2] for c in cuts]),
        openings=_openings(pads)[index],
        lower=_lower(pads)[index],
    )


def _pedestals(pads: Sequence[Pad], points: Sequence[LoadPoint], further: Sequence[Sequence[LoadPoint]]) -> Array:
    """(pads, columns, 4), filled up with pedestals of no area."""
    found = np.zeros((len(pads), 1 + max((len(others) for others in further), default=0), 4))
    for row, pad, first, others in zip(found, pads, points, further or ((),) * len(pads)):
        for place, point in zip(row, (first, *others)):
            pedestal = pad.pedestal_under(point.name)
            if pedestal:
                x, y = local_place(pad, first, point)
                place[:] = x - pad.offset_x, y - pad.offset_y, pedestal.area, pedestal.top
    return found


def _openings(pads: Sequence[Pad]) -> Array:
    """(pads, openings, 3), filled up with openings of no diameter."""
    most = max((len(pad.openings) for pad in pads), default=0)
    found = np.zeros((len(pads), most, 3))
    for row, pad in zip(found, pads):
        for place, opening in zip(row, pad.openings):
            place[:] = opening.x, opening.y, opening.diameter
    return found


def _lower(pads: Sequence[Pad]) -> Array:
    """(pads, parts, 4), filled up with parts of no area."""
    parts = [pad.plate.lower if pad.plate else () for pad in pads]
    found = np.zeros((len(pads), max((len(p) for p in parts), default=0), 4))
    for row, pad, some in zip(found, pads, parts):
        for place, part in zip(row, some):
            area, x, y = pad.part_within(part.box)
            place[:] = x - pad.offset_x, y - pad.offset_y, area, part.drop
    return found


def _cut(pad: Pad, point: LoadPoint, standing: "_Standing", others: Sequence[LoadPoint]) -> tuple[float, float, float]:
    """(area, x, y) of what stands on a base and displaces backfill; its middle from the first column.

    What of it stands over the hole of a ring displaces none: there is no backfill on the base there.
    """
    parts = []
    for number, one in enumerate((point, *others)):
        x, y = (pad.offset_x, pad.offset_y) if number == 0 else local_place(pad, point, one)
        size = standing.size if number == 0 else standing_size(pad, one)
        whole = size[0] * size[1]
        hole, hole_x, hole_y = within_circle(pad.bore / 2, x, y, *size)
        area = whole - hole
        if area > 1e-9 * whole:
            middle = ((whole * x - hole_x) / area, (whole * y - hole_y) / area)
            parts.append((area, middle[0] - pad.offset_x, middle[1] - pad.offset_y))
    area = sum(p[0] for p in parts)
    if not parts:
        return 0.0, 0.0, 0.0
    return area, sum(p[0] * p[1] for p in parts) / area, sum(p[0] * p[2] for p in parts) / area


def within_circle(radius: float, x: float, y: float, size_x: float, size_y: float) -> tuple[float, float, float]:
    """(area, first moments) of the part of a rectangle about (x, y) that lies within a circle about the origin, m2 and
    m3.

    Between the places where its sides meet the circle by Gauss's rule over x, in the angle of the circle.
    """
    if radius <= 0.0:
        return 0.0, 0.0, 0.0
    x0, x1 = max(x - size_x / 2, -radius), min(x + size_x / 2, radius)
    y0, y1 = y - size_y / 2, y + size_y / 2
    if x1 <= x0:
        return 0.0, 0.0, 0.0
    meets = [s * (radius**2 - side**2) ** 0.5 for side in (y0, y1) if abs(side) < radius for s in (-1, 1)]
    cuts = sorted({x0, x1, *(m for m in meets if x0 < m < x1)})
    nodes, weights = np.polynomial.legendre.leggauss(24)
    area = first_x = first_y = 0.0
    for a, b in pairwise(cuts):
        t0, t1 = np.arcsin(a / radius), np.arcsin(b / radius)
        t = (t0 + t1) / 2 + (t1 - t0) / 2 * nodes
        along, reach = radius * np.sin(t), radius * np.cos(t)
        low, high = np.maximum(y0, -reach), np.minimum(y1, reach)
        tall = np.maximum(high - low, 0.0)
        step = weights * (t1 - t0) / 2 * reach
        area += float(step @ tall)
        first_x += float(step @ (tall * along))
        first_y += float(step @ (tall * (low + high) / 2))
    return area, first_x, first_y


def standing_face(pad: Pad, point: LoadPoint) -> tuple[float, float]:
    """Sizes at which the critical sections of a column start, along the pad axes, m."""
    return _standing(pad, point).face


def standing_size(pad: Pad, point: LoadPoint) -> tuple[float, float]:
    """Sizes of what stands on the base along the pad axes, m: the pedestal, else the plate or the column."""
    return _standing(pad, point).size


def standing_diameter(pad: Pad, point: LoadPoint) -> float:
    """Diameter of a round pedestal, or of a round column that stands on the base itself, m; 0 where it has corners."""
    return _standing(pad, point).diameter


def footprint_area(pad: Pad, point: LoadPoint) -> float:
    """Area that a column, its plate, or its pedestal takes of the backfill, m2."""
    x, y = standing_size(pad, point)
    return x * y


@dataclass(frozen=True)
class _Standing:
    """What stands on one pad, seen along the pad axes."""

    turn: float
    size: tuple[float, float]
    face: tuple[float, float]
    askew: bool
    diameter: float
    """Of a round pedestal, or of a round column that stands on the base itself, else 0."""


def _standing(pad: Pad, point: LoadPoint) -> _Standing:
    pedestal = pad.pedestal_under(point.name)
    relative = (point.rotation - pad.rotation) % 180.0
    askew = min(relative % 90.0, 90.0 - relative % 90.0) > 0.01
    quarter = not askew and 45.0 < relative < 135.0

    def along(x: float, y: float) -> tuple[float, float]:
        if askew:
            return (x * y) ** 0.5, (x * y) ** 0.5
        return (y, x) if quarter else (x, y)

    size = along(point.size_x, point.size_y)
    diameter = 0.0
    if point.is_round:
        # a square of the same area (ACI 318-19 13.2.7.3); punching knows the diameter
        side = point.size_x * pi**0.5 / 2
        size, askew = (side, side), False
        diameter = point.size_x
    plate = along(point.plate_x or point.size_x, point.plate_y or point.size_y)
    if pedestal:
        face = stands = pedestal.sides
        diameter = pedestal.size_x if pedestal.is_round else 0.0
    elif point.kind == "steel_column":
        stands, face = plate, ((size[0] + plate[0]) / 2, (size[1] + plate[1]) / 2)
    elif point.kind == "masonry_wall":
        # halfway into its thickness; along itself it holds the base all the way
        along_x = size[0] >= size[1]
        stands, face = size, (size[0] if along_x else size[0] / 2, size[1] / 2 if along_x else size[1])
    else:
        stands = face = size
    axes_of_loads = 0.0 if point.axes == "plan" else point.rotation
    return _Standing(
        turn=float(np.deg2rad(pad.rotation - axes_of_loads)),
        size=stands,
        face=face,
        askew=askew and pedestal is None,
        diameter=diameter,
    )
