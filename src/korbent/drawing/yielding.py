"""What bounds and curves show of the ground below a strip: where it yields as few areas, how it moves, its stresses,
the triangles."""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from korbent.drawing.ground_field import WORDS, GroundField, fields_of

if TYPE_CHECKING:
    from korbent.core.plasticity.bounds import Bound
    from korbent.core.plasticity.mesh import Mesh
    from korbent.core.plasticity.path import Curve
    from korbent.core.plasticity.section import Section

SHADES = 6
"""So many areas lie upon each other, the darkest above."""
PLAIN = 4
"""So often an area without shades lies upon itself."""
FINE = 0.01
"""Outlines are drawn as exactly as so much of the width of the base; what is smaller than four squares of that is left
out."""

ARROWS = (15, 7)
"""Places across and down at which movements and stresses are drawn."""
Ring = tuple[tuple[float, float], ...]
Stroke = tuple[float, float, float, float]
Sides = NDArray[np.float32]


@dataclass(frozen=True)
class Below:
    """Drawn below a base, from the middle of the strip, m: areas that lie upon each other where more yields, arrows of
    movement, crosses of principal stresses (each stroke once), sides of triangles."""

    areas: tuple[Ring, ...] = ()
    arrows: tuple[Stroke, ...] = ()
    crosses: tuple[Stroke, ...] = ()
    sides: Sides = field(default_factory=lambda: np.zeros((0, 4), dtype=np.float32))
    slope: tuple[Stroke, ...] = ()
    """The ground that falls away beside the base, from its edge to where it is not looked at any more."""
    fields: tuple[GroundField, ...] = ()
    """Values over the section; what is shown has one or none of them."""

    def moved(self, by: float) -> "Below":
        """To the right."""

        def along(strokes: tuple[Stroke, ...]) -> tuple[Stroke, ...]:
            return tuple((a + by, b, c + by, d) for a, b, c, d in strokes)

        return Below(
            tuple(tuple((x + by, y) for x, y in ring) for ring in self.areas),
            along(self.arrows),
            along(self.crosses),
            self.sides + np.array([by, 0, by, 0], dtype=np.float32),
            along(self.slope),
            tuple(f.moved(by) for f in self.fields),
        )

    def showing(self, what: str) -> "Below":
        """Of all of it one thing: areas, arrows, crosses, sides or a field; with movements also the areas."""
        nothing = Below(slope=self.slope)
        if what in WORDS:
            return replace(nothing, fields=tuple(f for f in self.fields if f.name == what))
        if what == "arrows":
            return replace(nothing, areas=self.areas, arrows=self.arrows)
        return replace(nothing, **{what: getattr(self, what)})


def shown(found: "Bound", section: "Section") -> Below:
    """What is drawn of a bound: of the upper one where it yields and how it moves, of the lower one its stresses; both
    their triangles."""
    from korbent.core.plasticity.bounds import where_it_yields  # loaded only where something is solved

    mesh, at = found.mesh, _places(found.mesh, found.work > 1e-3 * found.work.max(), section.B)
    if not len(found.velocity):
        (fields,) = fields_of(mesh, section, [found.stress], [None])
        below = Below(crosses=_crosses(mesh, found.stress, at), sides=_sides(mesh), fields=fields)
    else:
        below = Below(areas(where_it_yields(found), section.B), _arrows(mesh, found.velocity, at), sides=_sides(mesh))
    if section.slope:
        x = section.B / 2 if section.slope > 0 else -section.B / 2
        far = float(mesh.points[:, 0].max() if section.slope > 0 else mesh.points[:, 0].min())
        down = -abs(float(np.tan(np.deg2rad(section.slope))) * (far - x))
        return replace(below, slope=((x, 0.0, far, down),))
    return both_sides(below) if section.mirrored else below


def shown_of_curve(
    curve: "Curve", yields: Sequence[Sequence[tuple[tuple[float, ...], float]]], section: "Section"
) -> tuple[Below, ...]:
    """What is drawn of each point of a curve: where it yields, how far it has moved, its stresses, the triangles.

    Args:
        yields: of each point, the triangles that yield.
    """
    sides, found, B = _sides(curve.mesh), [], section.B
    every = fields_of(curve.mesh, section, [p.stress for p in curve.points], [p.displacement for p in curve.points])
    near = np.abs(curve.mesh.points[curve.mesh.triangles].mean(axis=1)) < np.array([2.2 * B, 1.6 * B])
    at = _places(curve.mesh, near.all(axis=1), B)
    for point, own, fields in zip(curve.points, yields, every):
        arrows = _arrows(curve.mesh, point.displacement, at) if np.abs(point.displacement).max() > 0 else ()
        below = Below(
            areas(own, B, 1) * PLAIN,
            arrows,
            _crosses(curve.mesh, point.stress[:, :, :3], at),
            sides,
            fields=fields,
        )
        found.append(below if curve.mesh.points[:, 0].min() < -1e-9 else both_sides(below))
    return tuple(found)


def both_sides(below: Below) -> Below:
    """With its mirror image."""

    def with_image(strokes: tuple[Stroke, ...]) -> tuple[Stroke, ...]:
        return (*strokes, *((-a, b, -c, d) for a, b, c, d in strokes if abs(a) + abs(c) > 1e-9))

    rings = tuple(r for ring in below.areas for r in (ring, tuple((-x, y) for x, y in ring)))
    return Below(
        rings,
        with_image(below.arrows),
        with_image(below.crosses),
        np.concatenate([below.sides, below.sides * np.array([-1, 1, -1, 1], dtype=np.float32)]),
        fields=below.fields,  # these know both sides
    )


def _places(mesh: "Mesh", own: NDArray[np.bool_], B: float) -> NDArray[np.float64]:
    """Points of a grid over some triangles."""
    middle = mesh.points[mesh.triangles].mean(axis=1)
    reach_x = min(float(np.abs(middle[own, 0]).max()) * 1.05, 4 * B)
    low = max(float(middle[own, 1].min()) * 1.05, -3 * B)
    nx, ny = ARROWS
    half = mesh.points[:, 0].min() > -1e-9
    xs = (np.arange(nx) + 0.5) / nx * reach_x if half else (np.arange(2 * nx) + 0.5 - nx) / nx * reach_x
    ys = low * (np.arange(ny) + 0.35) / ny
    return np.stack(np.meshgrid(xs, ys), axis=-1).reshape(-1, 2)


def _arrows(mesh: "Mesh", moved: NDArray[np.float64], at: NDArray[np.float64]) -> tuple[Stroke, ...]:
    from scipy.interpolate import LinearNDInterpolator

    speed = LinearNDInterpolator(mesh.points, moved)(at)
    size = np.hypot(speed[:, 0], speed[:, 1])
    most = float(np.nanmax(size))
    if not most > 0:
        return ()
    ends = at + speed / most * 1.6 * abs(at[1, 0] - at[0, 0])
    return tuple(
        (float(a), float(b), float(c), float(d)) for (a, b), (c, d), s in zip(at, ends, size) if s > 0.04 * most
    )


def _crosses(mesh: "Mesh", stress: NDArray[np.float64], at: NDArray[np.float64]) -> tuple[Stroke, ...]:
    from scipy.spatial import cKDTree

    middle = mesh.points[mesh.triangles].mean(axis=1)
    p, d, t = stress.mean(axis=1)[cKDTree(middle).query(at)[1]].T
    radius, turn = np.hypot(d, t), np.arctan2(t, d) / 2  # of the greater (least compressive) stress from x
    most = float(np.max(np.abs(p) + radius))
    step = abs(at[1, 0] - at[0, 0])
    strokes = []
    for size, angle in ((p + radius, turn), (p - radius, turn + np.pi / 2)):
        half = 0.9 * step * np.abs(size) ** 0.5 / max(most, 1e-9) ** 0.5
        dx, dy = half * np.cos(angle), half * np.sin(angle)
        strokes += [(float(x - a), float(y - b), float(x + a), float(y + b)) for (x, y), a, b in zip(at, dx, dy)]
    return tuple(strokes)


def _sides(mesh: "Mesh") -> Sides:
    ends, _ = mesh.edges()
    return np.concatenate([mesh.points[ends[:, 0]], mesh.points[ends[:, 1]]], axis=1).astype(np.float32)


def areas(triangles: Sequence[tuple[tuple[float, ...], float]], width: float, shades: int = SHADES) -> tuple[Ring, ...]:
    """Closed rings around all triangles of at least 1/6, 2/6 … of the greatest share, holes joined to their outlines by
    a line there and back.

    Args:
        triangles: (x, y of each corner in m, share from 0 to 1).
        width: of the base, m.
    """
    from shapely import Polygon, get_parts, union_all

    found: list[Ring] = []
    for shade in range(1, shades + 1):
        own = [Polygon(list(zip(c[::2], c[1::2]))) for c, share in triangles if share >= (shade - 0.5) / shades]
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
    """The part of a ring with x up to ``reach`` on both sides and y down to ``low`` (Sutherland and Hodgman 1974)."""
    for axis, sign, limit in ((0, 1.0, reach), (0, -1.0, reach), (1, -1.0, -low)):
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
