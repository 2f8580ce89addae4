"""Bases moved by hand in the plan: the column stays, the base goes on a raster, aligned with what is near."""

from math import cos, radians, sin

from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.words import say

RASTER = {"metric": 0.05, "us": 0.0254 * 3}
"""To what a moved base or edge snaps, m."""
REACH = 0.12
"""How near an edge or middle must come to that of another base to be aligned with it, m."""


def place_of(pad: Pad, point: LoadPoint) -> tuple[float, float]:
    """Where the middle of a base is, seen from the origin along the axes of the base, m."""
    c, s = cos(radians(pad.rotation)), sin(radians(pad.rotation))
    return c * point.x + s * point.y - pad.offset_x, c * point.y - s * point.x - pad.offset_y


def moved(project: Project, pad: Pad, dx: float, dy: float) -> tuple[Pad, str]:
    """The base moved by dx, dy (plan axes, m) on the raster, aligned where it comes near; and in words with what.

    The column keeps its place, and stays on the base; ribs and regions of a raft stay with the columns.

    Raises:
        pydantic.ValidationError: when they would reach over its edge.
    """
    point = project.load_point(pad.load_point)
    c, s = cos(radians(pad.rotation)), sin(radians(pad.rotation))
    along = {"x": c * dx + s * dy, "y": c * dy - s * dx}
    at = dict(zip("xy", place_of(pad, point)))
    changes: dict[str, float] = {}
    words = []
    for axis in "xy":
        size = pad.width if axis == "x" else pad.length
        now = float(getattr(pad, f"offset_{axis}"))
        wished = now - along[axis]
        if abs(along[axis]) < 1e-9:
            continue
        origin = at[axis] + now
        near = [
            (abs(wished - offset), offset, text)
            for offset, text in _aligned(project, pad, axis, origin, size)
            if abs(wished - offset) <= REACH
        ]
        raster = RASTER[project.units]
        offset, text = min(near)[1:] if near else (round(wished / raster) * raster, "")
        changes[f"offset_{axis}"] = round(min(max(offset, -size / 2), size / 2), 9)
        if text:
            words.append(text)
    return pad.resized(**changes) if changes else pad, ", ".join(dict.fromkeys(words))


def _aligned(project: Project, pad: Pad, axis: str, origin: float, size: float) -> list[tuple[float, str]]:
    """Offsets with which the base is centred, or in line with edges and middles of others turned alike."""
    found = [(0.0, say("centred below its column"))]
    for other in project.pads:
        turn = (other.rotation - pad.rotation) % 180
        if other.name == pad.name or min(turn, 180 - turn) > 0.01 or other.is_round:
            continue
        there = project.load_point(other.load_point)
        c, s = cos(radians(pad.rotation)), sin(radians(pad.rotation))
        offsets = (other.offset_x, other.offset_y)
        # turned by half a turn, its axes point the other way
        sign = 1.0 if abs((other.rotation - pad.rotation) % 360) < 90 else -1.0
        middle = (
            c * there.x + s * there.y - sign * offsets[0]
            if axis == "x"
            else c * there.y - s * there.x - sign * offsets[1]
        )
        half = (other.width if axis == "x" else other.length) / 2
        for edge in (-1, 1):
            found.append(
                (origin - (middle + edge * (half - size / 2)), say("edge in line with {other}", other=other.name))
            )
        found.append((origin - middle, say("in line with {other}", other=other.name)))
    return found


def edge_moved(project: Project, pad: Pad, side: str, x: float, y: float) -> Pad:
    """The base with one edge moved to the point x, y of the plan, on the raster; a round base keeps its middle.

    Raises:
        pydantic.ValidationError: when no base is left.
    """
    point = project.load_point(pad.load_point)
    c, s = cos(radians(pad.rotation)), sin(radians(pad.rotation))
    dx, dy = x - point.x, y - point.y
    along = c * dx + s * dy if side[1] == "x" else c * dy - s * dx
    raster = RASTER[project.units]
    distance = round((along if side[0] == "+" else -along) / raster) * raster
    if pad.is_round:
        offset = pad.offset_x if side[1] == "x" else pad.offset_y
        radius = distance + (offset if side[0] == "+" else -offset)
        return pad.replaced(width=round(2 * radius, 9))
    return pad.with_edge(side, round(distance, 9))


def nudged(pad: Pad, dx: float, dy: float) -> Pad:
    """As :func:`moved`, by exactly dx, dy (plan axes, m)."""
    c, s = cos(radians(pad.rotation)), sin(radians(pad.rotation))
    x, y = pad.offset_x - c * dx - s * dy, pad.offset_y + s * dx - c * dy
    return pad.resized(
        offset_x=round(min(max(x, -pad.width / 2), pad.width / 2), 9),
        offset_y=round(min(max(y, -pad.length / 2), pad.length / 2), 9),
    )
