"""Where the ground yields, as few areas: triangles of at least a share are one, however many they are."""

from collections.abc import Sequence

SHADES = 6
"""So many areas lie upon each other, the darkest above."""
FINE = 0.01
"""Outlines are drawn as exactly as so much of the width of the base; what is smaller than four squares of that is left out."""

Ring = tuple[tuple[float, float], ...]


def areas(triangles: Sequence[tuple[tuple[float, ...], float]], width: float) -> tuple[Ring, ...]:
    """Closed rings around all triangles of at least 1/6, 2/6 … of the greatest share, holes joined to their outlines by a line there and back.

    Args:
        triangles: (x, y of each corner in m, share from 0 to 1).
        width: of the base, m.
    """
    from shapely import Polygon, get_parts, union_all

    found: list[Ring] = []
    for shade in range(1, SHADES + 1):
        own = [
            Polygon(list(zip(c[::2], c[1::2]))) for c, share in triangles if share >= (shade - 0.5) / SHADES
        ]
        for part in get_parts(union_all(own).simplify(FINE * width)):
            if part.area > 4 * (FINE * width) ** 2:
                found.append(_joined(part.exterior.coords[:], [hole.coords[:] for hole in part.interiors]))
    return tuple(found)


def _joined(outline: list[tuple[float, float]], holes: list[list[tuple[float, float]]]) -> Ring:
    ring = list(outline)
    for hole in holes:
        x, y = hole[0]
        at = min(range(len(ring)), key=lambda k: (ring[k][0] - x) ** 2 + (ring[k][1] - y) ** 2)
        ring[at : at + 1] = [ring[at], *hole, ring[at]]
    return tuple((float(a), float(b)) for a, b in ring)


def within(ring: Ring, reach: float, low: float) -> Ring:
    """The part of a ring with x up to ``reach`` and y down to ``low`` (Sutherland and Hodgman 1974)."""
    for axis, sign, limit in ((0, 1.0, reach), (1, -1.0, -low)):
        kept: list[tuple[float, float]] = []
        for a, b in zip(ring, (*ring[1:], *ring[:1])):
            da, db = sign * a[axis] - limit, sign * b[axis] - limit
            if da <= 0:
                kept.append(a)
            if da * db < 0:
                share = da / (da - db)
                kept.append((a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])))
        ring = tuple(kept)
    return ring
