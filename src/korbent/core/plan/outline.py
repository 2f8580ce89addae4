"""Outlines of rafts drawn in the plan: corners snap to what is there, a raft is made of a ring, corners are moved and
added."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import cos, hypot, radians, sin

from korbent.core.model.foundations import Pad
from korbent.core.model.outlines import Corner
from korbent.core.model.project import Project
from korbent.core.plan.move import RASTER
from korbent.words import say


@dataclass(frozen=True)
class Snapped:
    """A place of the plan, m, and in words what it lies on; '' on the raster alone."""

    x: float
    y: float
    on: str = ""


def corners_in_plan(project: Project, pad: Pad) -> tuple[Corner, ...]:
    """The corners of a rectangle or a polygon in the plan, m."""
    own = pad.outline or tuple(
        (sx * pad.width / 2, sy * pad.length / 2) for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1))
    )
    point = project.load_point(pad.load_point)
    c, s = cos(radians(pad.rotation)), sin(radians(pad.rotation))
    return tuple(
        (
            point.x + c * (x - pad.offset_x) - s * (y - pad.offset_y),
            point.y + s * (x - pad.offset_x) + c * (y - pad.offset_y),
        )
        for x, y in own
    )


def from_middle(project: Project, pad: Pad, ring: Sequence[Corner]) -> tuple[Corner, ...]:
    """Places of the plan from the middle of a base, in its axes, m."""
    point = project.load_point(pad.load_point)
    c, s = cos(radians(pad.rotation)), sin(radians(pad.rotation))
    return tuple(
        (
            round(pad.offset_x + c * (x - point.x) + s * (y - point.y), 9),
            round(pad.offset_y + c * (y - point.y) - s * (x - point.x), 9),
        )
        for x, y in ring
    )


def snapped(
    project: Project, x: float, y: float, near: float, besides: str = "", ring: Sequence[Corner] = ()
) -> Snapped:
    """The place nearest to (x, y) that means something: a point within ``near`` before a line within it, before the
    raster.

    Args:
        near: m. besides: name of the base whose own corners do not count. ring: corners drawn before: what is square to
        the last and the
            first one counts as a line.
    """
    points = [(hypot(px - x, py - y), px, py, on) for px, py, on in _points(project, besides)]
    close = min(points, default=None)
    if close is not None and close[0] <= near:
        return Snapped(round(close[1], 6), round(close[2], 6), close[3])
    raster = RASTER[project.units]
    found = Snapped(round(round(x / raster) * raster, 9), round(round(y / raster) * raster, 9))
    lines = []
    for (x0, y0), (dx, dy), low, high, on in _lines(project, ring):
        t = min(max((x - x0) * dx + (y - y0) * dy, low), high)
        lines.append((hypot(x - x0 - t * dx, y - y0 - t * dy), x0, y0, dx, dy, t, on))
    lines.sort(key=lambda one: one[0])
    lines = [one for one in lines if one[0] <= near]
    if not lines:
        return found
    # where two of them cross near by, that place
    first = lines[0]
    for other in lines[1:]:
        cross = first[3] * other[4] - first[4] * other[3]
        if abs(cross) < 0.05:
            continue
        t = ((other[1] - first[1]) * other[4] - (other[2] - first[2]) * other[3]) / cross
        px, py = first[1] + t * first[3], first[2] + t * first[4]
        if hypot(px - x, py - y) <= near:
            return Snapped(round(px, 6), round(py, 6), f"{first[6]}, {other[6]}")
    # on the line, at the raster along it where it runs along an axis
    _, x0, y0, dx, dy, t, on = first
    if abs(dx) > 1 - 1e-9:
        return Snapped(found.x, round(y0, 6), on)
    if abs(dy) > 1 - 1e-9:
        return Snapped(round(x0, 6), found.y, on)
    return Snapped(round(x0 + t * dx, 6), round(y0 + t * dy, 6), on)


FAR = 1e4
"""Lines that do not end are so long to either side, m."""


def _points(project: Project, besides: str) -> list[tuple[float, float, str]]:
    found = [(p.x, p.y, p.name) for p in project.actions.load_points]
    for outline in project.site:
        if outline.kind != "underlay" or len(outline.points) < 400:
            found += [(x, y, say("corner of {outline}", outline=outline.name)) for x, y in outline.points]
    for grid in project.grids:
        c, s = cos(radians(grid.rotation)), sin(radians(grid.rotation))
        found += [(grid.x + c * u - s * v, grid.y + s * u + c * v, "grid") for u in grid.along_x for v in grid.along_y]
    for pad in project.pads:
        if pad.name != besides and not pad.is_round and pad.shape != "trapezoid":
            found += [(x, y, say("corner of {pad}", pad=pad.name)) for x, y in corners_in_plan(project, pad)]
    return found


Stretch = tuple[Corner, Corner, float, float, str]
"""A point, a direction of length 1, from where to where along it, and what it is."""


def _lines(project: Project, ring: Sequence[Corner]) -> list[Stretch]:
    found: list[Stretch] = []
    for at, word in (
        ((ring[-1], say("square to the last corner")), (ring[0], say("square to the first corner"))) if ring else ()
    ):
        found += [(at, (1.0, 0.0), -FAR, FAR, word), (at, (0.0, 1.0), -FAR, FAR, word)]
    for grid in project.grids:
        c, s = cos(radians(grid.rotation)), sin(radians(grid.rotation))
        found += [((grid.x + c * u, grid.y + s * u), (-s, c), -FAR, FAR, "grid") for u in grid.along_x]
        found += [((grid.x - s * v, grid.y + c * v), (c, s), -FAR, FAR, "grid") for v in grid.along_y]
    for outline in project.site:
        if outline.kind == "underlay":
            continue
        points = [*outline.points, outline.points[0]] if outline.closed else list(outline.points)
        for (x0, y0), (x1, y1) in pairwise(points):
            length = hypot(x1 - x0, y1 - y0)
            if length > 1e-9:
                found.append(((x0, y0), ((x1 - x0) / length, (y1 - y0) / length), 0.0, length, outline.name))
    return found


def outlined(project: Project, pad: Pad, ring: Sequence[Corner]) -> Pad:
    """A raft with another outline, given in the plan.

    Raises:
        pydantic.ValidationError: when the ring is none, or what the raft has lies beyond it.
    """
    return pad.replaced(outline=from_middle(project, pad, ring))


def corner_moved(project: Project, pad: Pad, number: int, x: float, y: float) -> Pad:
    """A raft with a corner at a place of the plan; upon the next corner it is gone.

    Raises:
        pydantic.ValidationError: when that is no outline.
    """
    ring = list(corners_in_plan(project, pad))
    ring[number] = (x, y)
    return outlined(project, pad, ring)


def corner_added(project: Project, pad: Pad, after: int, x: float, y: float) -> Pad:
    """A raft with one corner more, after one of its corners, at a place of the plan.

    Raises:
        pydantic.ValidationError: when that is no outline.
    """
    ring = list(corners_in_plan(project, pad))
    ring.insert(after + 1, (x, y))
    return outlined(project, pad, ring)
