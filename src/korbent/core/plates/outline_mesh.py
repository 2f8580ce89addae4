"""Meshes of any outline: elements that follow its sides and the lines within it, made by Gmsh (Geuzaine and Remacle
2009).

Each surface between lines is meshed with triangles, which are joined to quadrilaterals where that is good.
"""

import threading
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from math import hypot
from typing import Any

import numpy as np

from korbent.core.plates.mesh import Box, Mesh, lines_between
from korbent.core.working import Array
from korbent.words import say

Corners = Sequence[tuple[float, float]]
Stretch = tuple[float, float, float, float]
"""x and y of its ends, m."""
SNAP = 1e-6
"""Grid on which all corners lie, m."""
REACH = 1.5
"""From lines and edges the elements grow to their greatest size over so many of those."""
NEWTON = 8
WITHIN = 1e-7
_one_at_a_time = threading.Lock()


class UnmeshedError(ValueError):
    """An outline of which no mesh can be made, and where."""


@dataclass(frozen=True)
class OutlineMesh(Mesh):
    """Any quadrilaterals; places are found in them."""

    x: Array
    y: Array
    quads: Array

    @property
    def nodes(self) -> tuple[Array, Array]:
        """Of the elements."""
        return self.x, self.y

    @property
    def elements(self) -> Array:
        """Quadrilaterals."""
        return self.quads

    @cached_property
    def sizes(self) -> tuple[Array, Array]:
        """Of rectangles as large, with the proportions of the boxes around them."""
        x, y = self.x[self.quads], self.y[self.quads]
        area = ((x[:, 2] - x[:, 0]) * (y[:, 3] - y[:, 1]) - (x[:, 3] - x[:, 1]) * (y[:, 2] - y[:, 0])) / 2
        wide, long = np.ptp(x, axis=1), np.ptp(y, axis=1)
        share = np.sqrt(area / (wide * long))
        return wide * share, long * share

    @cached_property
    def _met(self) -> tuple[Array, Array, Array]:
        """(place, element, shape functions (pairs, 4)) of all places that lie in an element or on its edge."""
        x, y = self.x[self.quads], self.y[self.quads]
        e = 1e-9
        i0, i1 = np.searchsorted(self.lines_x, x.min(1) - e), np.searchsorted(self.lines_x, x.max(1) + e)
        j0, j1 = np.searchsorted(self.lines_y, y.min(1) - e), np.searchsorted(self.lines_y, y.max(1) + e)
        wide, long = i1 - i0, j1 - j0
        element = np.repeat(np.arange(len(x)), wide * long)
        first = np.cumsum(wide * long) - wide * long
        number = np.arange(len(element)) - np.repeat(first, wide * long)
        i, j = i0[element] + number // long[element], j0[element] + number % long[element]
        px, py = self.lines_x[i], self.lines_y[j]
        xi, eta = np.zeros(len(px)), np.zeros(len(px))
        X, Y = x[element], y[element]
        for _ in range(NEWTON):
            N, by_xi, by_eta = _shapes(xi, eta)
            rx, ry = px - (N * X).sum(1), py - (N * Y).sum(1)
            a, b, c, d = (by_xi * X).sum(1), (by_eta * X).sum(1), (by_xi * Y).sum(1), (by_eta * Y).sum(1)
            det = a * d - b * c
            det = np.where(np.abs(det) > 1e-15, det, 1e-15)
            xi = np.clip(xi + (d * rx - b * ry) / det, -2.0, 2.0)
            eta = np.clip(eta + (a * ry - c * rx) / det, -2.0, 2.0)
        near = (np.abs(xi) <= 1 + WITHIN) & (np.abs(eta) <= 1 + WITHIN)
        place = (i * len(self.lines_y) + j)[near]
        return place, element[near], _shapes(xi[near], eta[near])[0]

    @cached_property
    def seen(self) -> Array:
        """What lies in an element."""
        found = np.zeros(self.grid[0] * self.grid[1], dtype=bool)
        found[self._met[0]] = True
        return found

    @cached_property
    def free(self) -> Array:
        """What lies on an edge that belongs to one element."""
        sides = np.concatenate([self.quads[:, [k, (k + 1) % 4]] for k in range(4)])
        sides = sides[sides[:, 0] != sides[:, 1]]  # of a triangle there are three
        _, number, count = np.unique(np.sort(sides, axis=1), axis=0, return_inverse=True, return_counts=True)
        edge = sides[count[number] == 1]
        x0, y0, x1, y1 = (v[edge[:, k]] for k in (0, 1) for v in (self.x, self.y))
        some = np.flatnonzero(self.seen)
        px, py = (v[some][:, None] for v in self.places)
        dx, dy = x1 - x0, y1 - y0
        t = np.clip(((px - x0) * dx + (py - y0) * dy) / (dx**2 + dy**2), 0.0, 1.0)
        far = np.hypot(px - x0 - t * dx, py - y0 - t * dy).min(axis=1)
        found = np.zeros(len(self.seen), dtype=bool)
        found[some[far < 1e-5]] = True
        return found

    def on_places(self, values: Array, which: Array | None = None) -> Array:
        """Interpolated in the elements; on an edge the mean of those that meet there."""
        place, element, N = self._met
        if which is not None:
            mine = which[element]
            place, element, N = place[mine], element[mine], N[mine]
        flat = values.reshape(len(values), -1)
        found = np.einsum("pk,pkl->pl", N, flat[self.quads[element]])
        total, count = np.zeros((len(self.seen), flat.shape[1])), np.zeros(len(self.seen))
        np.add.at(total, place, found)
        np.add.at(count, place, 1.0)
        with np.errstate(invalid="ignore", divide="ignore"):
            mean: Array = total / count[:, None]
        return mean.reshape(-1, *values.shape[1:])


def _shapes(xi: Array, eta: Array) -> tuple[Array, Array, Array]:
    """(N, N,xi, N,eta), (places, 4) each."""
    one = np.ones_like(xi)
    N = np.stack([(1 - xi) * (1 - eta), (1 + xi) * (1 - eta), (1 + xi) * (1 + eta), (1 - xi) * (1 + eta)], axis=-1)
    by_xi = np.stack([-(1 - eta), 1 - eta, 1 + eta, -(1 + eta)], axis=-1)
    by_eta = np.stack([-(1 - xi), -(1 + xi), 1 + xi, (1 - xi) * one], axis=-1)
    return N / 4, by_xi / 4, by_eta / 4


def outline_mesh_of(
    outline: Corners,
    inner: Sequence[Box],
    openings: Sequence[Box],
    size: float,
    fine: float,
    between: Sequence[Box] = (),
) -> OutlineMesh:
    """The mesh of a polygon with lines along the sides of boxes within it, as far as they lie within.

    Args:
        outline: corners, m. inner: boxes whose sides are lines of the mesh; one of no width is a line. openings: boxes
        that are cut out.
        size: greatest size of elements, m. fine: size beside those boxes and along the edges, m. between: boxes and
        lines beside which
            elements of half the greatest size do.

    Raises:
        UnmeshedError: when no mesh can be made.
    """
    import shapely

    whole = shapely.Polygon(outline)
    holes = [shapely.box(b[0], b[2], b[1], b[3]) for b in openings]
    area = shapely.set_precision(whole.difference(shapely.union_all(holes)) if holes else whole, SNAP)
    if area.geom_type != "Polygon" or area.is_empty:
        raise UnmeshedError(say("its openings cut the raft in pieces"))

    def drawn(box: Box) -> Any:
        a, b, c, d = box
        whole = b - a > SNAP and d - c > SNAP
        line = shapely.box(a, c, b, d).exterior if whole else shapely.LineString([(a, c), (b, d)])
        return shapely.intersection(line, area, grid_size=SNAP)

    close = shapely.unary_union([area.boundary, *map(drawn, inner)])
    lines = shapely.unary_union([close, *map(drawn, between)], grid_size=SNAP)
    nodes, quads = _meshed(area, lines, close.buffer(10 * SNAP), size, fine)
    boxes = [*inner, *between, *openings]
    corners = list(area.exterior.coords)
    low_x, low_y, high_x, high_y = area.bounds
    x = lines_between(low_x, high_x, [*(v for b in boxes for v in b[:2]), *(c[0] for c in corners)], size, fine)
    y = lines_between(low_y, high_y, [*(v for b in boxes for v in b[2:]), *(c[1] for c in corners)], size, fine)
    return OutlineMesh(x, y, nodes[:, 0], nodes[:, 1], quads)


def _meshed(area: Any, lines: Any, close: Any, size: float, fine: float) -> tuple[Array, Array]:
    """(nodes (nodes, 2), elements) of an area with lines in it, all of them noded; fine along those that lie within
    ``close``."""
    import shapely

    faces = [f for f in shapely.polygonize(shapely.get_parts(lines)).geoms if area.covers(f.representative_point())]
    stretches = {tuple(sorted((a, b))) for part in shapely.get_parts(lines) for a, b in pairwise(part.coords)}
    finely = {pair for pair in stretches if close.covers(shapely.LineString(pair))}
    try:
        with _one_at_a_time:
            return _by_gmsh(faces, sorted(stretches), finely, size, fine)
    except UnmeshedError as error:
        (x0, y0), (x1, y1) = min(stretches, key=lambda s: hypot(s[1][0] - s[0][0], s[1][1] - s[0][1]))
        where = say("x {x0:.2f} m, y {y0:.2f} m from the middle", x0=(x0 + x1) / 2, y0=(y0 + y1) / 2)
        raise UnmeshedError(
            say("{error}; its lines come nearest to each other at {where}", error=error, where=where)
        ) from None


def _by_gmsh(faces: list[Any], stretches: list[Any], finely: set[Any], size: float, fine: float) -> tuple[Array, Array]:
    import gmsh
    import shapely

    try:
        gmsh.initialize(interruptible=False)
    except AttributeError:  # its library did not load
        raise UnmeshedError(
            say("the mesher does not start: install libglu1-mesa libxcursor1 libxft2 libxinerama1, then try again")
        ) from None
    try:
        for name, value in (
            ("General.Terminal", 0),
            ("General.NumThreads", 1),
            ("Mesh.Algorithm", 6),
            ("Mesh.RecombineAll", 1),
            ("Mesh.RecombinationAlgorithm", 0),
            ("Mesh.MeshSizeFromPoints", 0),
            ("Mesh.MeshSizeExtendFromBoundary", 0),
            ("Mesh.MeshSizeFromCurvature", 0),
            ("Mesh.RandomSeed", 1),
        ):
            gmsh.option.setNumber(name, value)
        geo = gmsh.model.geo
        points: dict[tuple[float, float], int] = {}

        def point(at: tuple[float, float]) -> int:
            if at not in points:
                points[at] = geo.addPoint(at[0], at[1], 0.0)
            return points[at]

        curves = {pair: geo.addLine(point(pair[0]), point(pair[1])) for pair in stretches}

        def loop(ring: Any) -> tuple[int, set[Any]]:
            at = list(ring.coords)
            used, tags = set(), []
            for a, b in pairwise(at):
                pair = (a, b) if a < b else (b, a)
                used.add(pair)
                tags.append(curves[pair] if (a, b) == pair else -curves[pair])
            return geo.addCurveLoop(tags), used

        on_faces: set[Any] = set()
        surfaces = []
        for face in faces:
            loops = [loop(ring) for ring in (face.exterior, *face.interiors)]
            on_faces |= set().union(*(used for _, used in loops))
            surfaces.append(geo.addPlaneSurface([tag for tag, _ in loops]))
        geo.synchronize()
        for pair, curve in curves.items():
            if pair not in on_faces:  # a line that ends within a surface
                middle = shapely.Point((pair[0][0] + pair[1][0]) / 2, (pair[0][1] + pair[1][1]) / 2)
                k = next(k for k, face in enumerate(faces) if face.covers(middle))
                gmsh.model.mesh.embed(1, [curve], 2, surfaces[k])
        field = gmsh.model.mesh.field
        grown = []
        for some, least in ((finely, fine), (set(stretches) - finely, max(fine, size / 2))):
            if not some:
                continue
            distance, threshold = field.add(say("Distance")), field.add(say("Threshold"))
            field.setNumbers(distance, "CurvesList", [curves[pair] for pair in sorted(some)])
            field.setNumber(distance, say("Sampling"), 40)
            limits = {"SizeMin": least, "SizeMax": size, "DistMin": least, "DistMax": REACH * size}
            for name, limit in {"InField": distance, **limits}.items():
                field.setNumber(threshold, name, limit)
            grown.append(threshold)
        least_of_both = field.add(say("Min"))
        field.setNumbers(least_of_both, "FieldsList", grown)
        field.setAsBackgroundMesh(least_of_both)
        try:
            gmsh.model.mesh.generate(2)
        except Exception as error:
            raise UnmeshedError(
                say(
                    "no mesh can be made of the outline: {error}", error=str(error).strip() or say("the mesher gave up")
                )
            ) from None
        tags, at, _ = gmsh.model.mesh.getNodes()
        kinds, _, members = gmsh.model.mesh.getElements(2)
    finally:
        gmsh.finalize()
    corners = {2: 3, 3: 4}
    if not len(kinds) or any(kind not in corners for kind in kinds):
        raise UnmeshedError(say("no mesh can be made of the outline: a corner or a gap within it is too narrow"))
    found = [np.asarray(m, dtype=int).reshape(-1, corners[kind]) for kind, m in zip(kinds, members)]
    # the last corner of a triangle comes twice
    found = [m if m.shape[1] == 4 else m[:, [0, 1, 2, 2]] for m in found]
    nodes = np.asarray(at).reshape(-1, 3)[:, :2]
    number = np.zeros(int(max(tags)) + 1, dtype=int)
    number[np.asarray(tags, dtype=int)] = np.arange(len(tags))
    quads = number[np.concatenate(found)]
    x, y = nodes[quads, 0], nodes[quads, 1]
    turning = (x[:, 2] - x[:, 0]) * (y[:, 3] - y[:, 1]) - (x[:, 3] - x[:, 1]) * (y[:, 2] - y[:, 0])
    reversed_ = np.where((quads[:, 2] == quads[:, 3])[:, None], quads[:, [0, 2, 1, 1]], quads[:, [0, 3, 2, 1]])
    quads = np.where((turning < 0)[:, None], reversed_, quads)
    kept, quads = np.unique(quads, return_inverse=True)
    return nodes[kept], quads.reshape(-1, 4)
