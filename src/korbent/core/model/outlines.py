"""Corners of polygons: their order, their box, and how they move with the edges of the box."""

from collections.abc import Sequence
from math import hypot
from typing import Any

from korbent.words import say

Corner = tuple[float, float]
AT_EDGE = 1e-6
"""A corner nearer than this to an edge of the box lies on it, m."""


def checked(outline: Sequence[Corner]) -> None:
    """Refuses what encloses no area, or crosses itself.

    Raises:
        ValueError: what is wrong with it.
    """
    from shapely import MultiPoint, Polygon  # loaded only where an outline is given

    if len(set(outline)) < 3:
        raise ValueError(say("a polygon needs at least three different corners in its outline"))
    if MultiPoint(outline).convex_hull.area < 1e-6:
        raise ValueError(say("the corners of the outline enclose no area"))
    if not Polygon(outline).is_valid:
        raise ValueError(say("the sides of the outline cross; give the corners in their order around it"))


def anticlockwise(outline: Sequence[Corner]) -> tuple[Corner, ...]:
    """The corners in that order, without those that come twice in a row."""
    ring = [c for i, c in enumerate(outline) if hypot(c[0] - outline[i - 1][0], c[1] - outline[i - 1][1]) > AT_EDGE]
    return tuple(ring if area_of(ring) >= 0 else ring[::-1])


def area_of(outline: Sequence[tuple[Any, Any]]) -> Any:
    """m2, negative of a clockwise one; coordinates may be arrays (Gauss)."""
    return sum((a[0] * b[1] - b[0] * a[1]) / 2 for a, b in zip(outline, [*outline[1:], *outline[:1]]))


def box_of(outline: Sequence[Corner]) -> tuple[float, float, float, float]:
    """x from, x to, y from, y to."""
    xs, ys = zip(*outline)
    return min(xs), max(xs), min(ys), max(ys)


def fitted(
    outline: Sequence[Corner],
    now: tuple[float, float],
    sizes: tuple[Any, Any],
    shifts: tuple[Any, Any] = (0.0, 0.0),
) -> list[tuple[Any, Any]]:
    """The corners of a polygon whose box has other sizes: those on an edge of the box stay on it, others stay with the
    columns.

    Args:
        now: width and length of the box. sizes: the new ones, numbers or arrays. shifts: of the columns against the
        middle where a size
            changes.
    """

    def moved(value: float, old: float, new: Any, shift: Any) -> Any:
        for sign in (-1.0, 1.0):
            if abs(value - sign * old / 2) < AT_EDGE:
                return sign * new / 2
        return value + shift * (abs(new - old) > AT_EDGE)

    return [(moved(x, now[0], sizes[0], shifts[0]), moved(y, now[1], sizes[1], shifts[1])) for x, y in outline]


def sides(outline: Sequence[Corner]) -> list[tuple[Corner, Corner]]:
    """From each corner to the next."""
    return list(zip(outline, [*outline[1:], *outline[:1]]))


def offset(outline: Sequence[Corner], by: float, held: Sequence[bool] = ()) -> tuple[Corner, ...]:
    """All sides moved outwards by so much (inwards where negative), corners where they meet again, m.

    Args:
        held: sides that stay where they are, each from its corner to the next.

    Raises:
        ValueError: when a side would be gone, or the sides would cross.
    """
    count = len(outline)
    normals = []
    for a, b in sides(outline):
        length = hypot(b[0] - a[0], b[1] - a[1])
        normals.append(((b[1] - a[1]) / length, (a[0] - b[0]) / length))
    far = [0.0 if k < len(held) and held[k] else by for k in range(count)]
    found = []
    for i, (x, y) in enumerate(outline):
        (px, py), (nx, ny) = normals[i - 1], normals[i]
        cross = px * ny - py * nx
        if abs(cross) < 1e-6:  # the sides go on straight: the corner moves with the one that moves more
            more = max(far[i - 1], far[i], key=abs)
            dx, dy = more * nx, more * ny
        else:
            dx, dy = (far[i - 1] * ny - far[i] * py) / cross, (far[i] * px - far[i - 1] * nx) / cross
        found.append((round(x + dx, 9), round(y + dy, 9)))
    for i in range(count):
        j = (i + 1) % count
        before = (outline[j][0] - outline[i][0], outline[j][1] - outline[i][1])
        after = (found[j][0] - found[i][0], found[j][1] - found[i][1])
        if before[0] * after[0] + before[1] * after[1] <= 0:
            raise ValueError(say("a side of the outline would be gone"))
    checked(found)
    return tuple(found)


def contains(outline: Sequence[Corner], x: float, y: float, near: float = 1e-6) -> bool:
    """Whether a place lies within, or as near as that to an edge."""
    inside = False
    for (x0, y0), (x1, y1) in sides(outline):
        dx, dy = x1 - x0, y1 - y0
        t = min(max(((x - x0) * dx + (y - y0) * dy) / max(dx * dx + dy * dy, 1e-30), 0.0), 1.0)
        if hypot(x - x0 - t * dx, y - y0 - t * dy) <= near:
            return True
        if (y0 > y) != (y1 > y) and x < x0 + (y - y0) * dx / dy:
            inside = not inside
    return inside


def crossings(outline: Sequence[Corner], axis: str, at: float) -> list[tuple[float, float]]:
    """Stretches along an axis that lie within, at a place across it, in their order; of a line along a side what lies
    on either side of it."""
    i, j = (0, 1) if axis == "x" else (1, 0)

    def stretches(place: float) -> list[tuple[float, float]]:
        met = []
        for a, b in sides(outline):
            if (a[j] > place) != (b[j] > place):
                met.append(a[i] + (place - a[j]) * (b[i] - a[i]) / (b[j] - a[j]))
        met.sort()
        return list(zip(met[::2], met[1::2]))

    return max((stretches(at - 1e-9), stretches(at + 1e-9)), key=lambda s: sum(b - a for a, b in s))
