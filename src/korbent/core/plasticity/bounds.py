"""Bounds of the collapse load of a strip on horizontal strata from below and above, by conic programs on triangles.

Plane strain, Mohr-Coulomb with associated flow: ||(d, t)|| <= c cos(phi) - p sin(phi) with p = (sx + sy)/2, d = (sx - sy)/2, t = txy, tension
positive. **Lower**: stresses linear in each triangle, in equilibrium, tractions continuous across all sides, yield at the vertices, which
suffices (Makrodimopoulos and Martin 2006). **Upper**: velocities quadratic over each triangle and continuous, the flow rule at its three
vertices, which suffices as strain rates are linear (Makrodimopoulos and Martin 2007), solved in its static form: stresses at the vertices
balance the loads in the mean, and the velocities are the multipliers. Both raise the load until nothing more is carried.

The lower bound holds for the box that is looked at, the upper also for the half space, as the ground beyond the box is at rest. Both hold for
associated flow only. Symmetric: half of the section, a central vertical load.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray
from scipy import sparse

from korbent.core.plasticity.mesh import Mesh, fan_mesh, halved

Array = NDArray[np.float64]
Side = Literal["lower", "upper"]
TOLERANCE, TOLERANCE_UNDRAINED = 1e-8, 1e-7
"""Of the conic programs: with friction, and without any."""
SHARE = 0.5
"""Triangles with so much of the work together are halved."""
SOLVED = ("Solved", "AlmostSolved")
WIDENED = 2e-4
"""By so much a bound of a program that was solved almost is moved outwards, at least."""


@dataclass(frozen=True)
class Layer:
    """A stratum below the base: from ``top`` to ``bottom`` (m below the underside), c at its top (kPa) and its growth with depth (kPa/m),
    phi (degrees), the weight that counts (kN/m3; buoyant below water)."""

    top: float
    bottom: float
    c: float
    phi: float
    gamma: float
    growth: float = 0.0


@dataclass(frozen=True)
class Section:
    """What a strip of width B (m) stands on, with a surcharge q (kPa) beside it; a rough or a smooth base."""

    B: float
    layers: tuple[Layer, ...]
    q: float = 0.0
    rough: bool = True


@dataclass(frozen=True)
class Bound:
    """One bound of the mean pressure below the base (kPa), on which mesh, and how much of the plastic work lies at the walls of the box."""

    pressure: float
    mesh: Mesh
    at_walls: float
    status: str
    work: Array
    """Work of shearing of each triangle, as a share of all."""
    uneven: Array
    """What asks for smaller triangles: the work, and twice how it differs between the corners; as a share of all."""


class NotSolvedError(ValueError):
    """A program that did not come to its end: there is no bound."""


def checked(section: Section) -> Section:
    """The section, when it can be looked at.

    Raises:
        ValueError: what is missing or beyond what is solved.
    """
    if section.B <= 0 or section.q < 0:
        raise ValueError("the width must be greater than zero and the surcharge not negative")
    if not section.layers or abs(section.layers[0].top) > 1e-9:
        raise ValueError("the strata must begin at the underside of the base")
    for a, b in zip(section.layers, section.layers[1:]):
        if abs(a.bottom - b.top) > 1e-9:
            raise ValueError(f"there is a gap between the strata at {a.bottom:g} m")
    for layer in section.layers:
        if layer.bottom <= layer.top:
            raise ValueError(f"a stratum ends at {layer.bottom:g} m, above its top at {layer.top:g} m")
        if not 0 <= layer.phi <= 50 or layer.c < 0 or layer.gamma < 0:
            raise ValueError("φ must lie between 0 and 50°, c and γ must not be negative")
    if all(layer.c == 0 and layer.growth == 0 and (layer.phi == 0 or (layer.gamma == 0 and section.q == 0)) for layer in section.layers):  # fmt: skip
        raise ValueError("there is no strength: give c, or φ with γ or q")
    return section


def box(section: Section) -> tuple[float, float]:
    """(width from the middle, depth) of the part that is looked at, m: somewhat beyond the straight-lined mechanism of the strongest stratum
    that it reaches; the last stratum goes on as deep as it takes."""
    depth, reach = 0.0, 0.0
    for layer in section.layers:
        f = np.deg2rad(layer.phi)
        spiral = section.B * float(np.tan(np.pi / 4 + f / 2) * np.exp(np.pi / 2 * np.tan(f)))
        down = section.B / (2 * np.cos(np.pi / 4 + f / 2)) * float(np.exp((np.pi / 4 + f / 2) * np.tan(f)) * np.cos(f))  # fmt: skip
        if layer.top <= max(depth, 0.6 * section.B):
            reach, depth = max(reach, spiral), max(depth, down)
    return section.B / 2 + 1.25 * reach, 1.35 * depth


def bound(section: Section, side: Side, most: int = 3000, told: Callable[[Bound], None] | None = None, stop: Callable[[], bool] = lambda: False) -> Bound:  # fmt: skip
    """A bound on meshes that are halved where the ground yields, up to ``most`` triangles; each is told as it comes.

    Raises:
        ValueError: what cannot be looked at.
        NotSolvedError: when not even the first program came to its end.
    """
    checked(section)
    width, depth = box(section)
    lines = [
        0.0,
        *(-layer.bottom for layer in section.layers if layer.bottom < depth - 0.02 * section.B),
        -depth,
    ]
    mesh = fan_mesh(section.B / 2, width, lines)
    best: Bound | None = None
    while True:
        try:
            found = (lower if side == "lower" else upper)(section, mesh)
        except NotSolvedError:
            if best is None:
                raise
            return best
        better = best is None or (found.pressure > best.pressure) == (side == "lower")
        best = found if better else best
        assert best is not None
        if told is not None:
            told(best)
        if stop() or len(mesh.triangles) >= most:
            return best
        mesh = _finer(mesh, found, most)


def _finer(mesh: Mesh, found: Bound, most: int) -> Mesh:
    """The triangles that do most of the work together, halved."""
    order = np.argsort(-found.uneven)
    count = int(np.searchsorted(np.cumsum(found.uneven[order]), SHARE)) + 1
    count = min(max(count, len(order) // 12), max(most // 3, 1))
    return halved(mesh, order[:count])


# ---------------------------------------------------------------- programs


@dataclass(frozen=True)
class _Strength:
    """At each vertex of each triangle (m, 3): c cos(phi), sin(phi)."""

    cohesion: Array
    sine: Array


def _strength(section: Section, mesh: Mesh) -> _Strength:
    layers = section.layers
    at = np.minimum(mesh.stratum, len(layers) - 1)
    f = np.deg2rad(np.array([layer.phi for layer in layers]))[at]
    depth = -mesh.points[mesh.triangles][:, :, 1]
    top, c, growth = (
        np.array([getattr(layer, n) for layer in layers])[at][:, None] for n in ("top", "c", "growth")
    )
    return _Strength((c + growth * np.maximum(depth - top, 0.0)) * np.cos(f)[:, None], np.repeat(np.sin(f)[:, None], 3, axis=1))  # fmt: skip


def _weights(section: Section, mesh: Mesh) -> Array:
    layers = section.layers
    return np.array([layer.gamma for layer in layers])[np.minimum(mesh.stratum, len(layers) - 1)]


def _scale(section: Section) -> float:
    """A stress by which all are divided: strengths, weight over half the base, surcharge."""
    strongest = max(
        max(layer.c + layer.growth * section.B, layer.gamma * section.B / 2) for layer in section.layers
    )
    return max(strongest, section.q, 1e-3)


def _raised(
    section: Section, mesh: Mesh, rows: sparse.csr_matrix, right: Array, load: Array
) -> tuple[float, Array, Array, str]:
    """The greatest load V of rows x + load V = right with the cones at all vertices: (V, x, the multipliers of the cones, status).

    x holds p, d, t of each vertex of each triangle in turn.

    Raises:
        NotSolvedError: when the program did not come to its end.
    """
    import clarabel  # loaded only where something is solved

    strength = _strength(section, mesh)
    count = 3 * len(mesh.triangles)
    norm = np.sqrt(np.asarray(rows.multiply(rows).sum(axis=1)).ravel() + load**2)
    norm[norm == 0] = 1.0
    equal = sparse.hstack(
        [sparse.diags(1 / norm) @ rows, sparse.csr_matrix((load / norm)[:, None])], format="csc"
    )
    # the cone of a vertex: (c cos phi - p sin phi, d, t)
    i = np.arange(3 * count)
    first = 3 * np.arange(count)
    values = np.full(3 * count, -1.0)
    values[first] = strength.sine.ravel()
    cones = sparse.csc_matrix((values, (i, i)), shape=(3 * count, 3 * count + 1))
    offset = np.zeros(3 * count)
    offset[first] = strength.cohesion.ravel() / _scale(section)
    A = sparse.vstack([equal, cones], format="csc")
    b = np.concatenate([right / norm, offset])
    objective = np.zeros(3 * count + 1)
    objective[-1] = -1.0
    settings = clarabel.DefaultSettings()
    settings.verbose = False
    tight = TOLERANCE if any(layer.phi > 0 for layer in section.layers) else TOLERANCE_UNDRAINED
    settings.tol_gap_abs = settings.tol_gap_rel = settings.tol_feas = tight
    settings.max_iter = 120
    settings.presolve_enable = False
    settings.chordal_decomposition_enable = False
    settings.max_threads = 1
    kinds = [clarabel.ZeroConeT(equal.shape[0]), *([clarabel.SecondOrderConeT(3)] * count)]
    zero = sparse.csc_matrix((3 * count + 1, 3 * count + 1))
    solution = clarabel.DefaultSolver(zero, objective, A, b, kinds, settings).solve()
    status = str(solution.status)
    if status not in SOLVED:
        raise NotSolvedError(f"the program ended as {status}: there is no bound")
    x = np.array(solution.x)
    return float(x[-1]), x[:-1], np.array(solution.z)[equal.shape[0] :], status


def _work(section: Section, mesh: Mesh, x: Array, multipliers: Array) -> tuple[Array, Array]:
    """(what each triangle does: the mean of strength times multiplier over its vertices; with twice the range), each as a share of all."""
    strength = _strength(section, mesh)
    p = x.reshape(-1, 3, 3)[:, :, 0] * _scale(section)
    own = np.maximum(strength.cohesion - p * strength.sine, 0.0) * multipliers.reshape(-1, 3, 3)[:, :, 0]

    def share(value: Array) -> Array:
        total = value.sum()
        return np.asarray(value / total if total > 0 else np.full(len(value), 1 / len(value)))

    mean = own.mean(axis=1)
    return share(mean), share(mean + 2 * (own.max(axis=1) - own.min(axis=1)))


def _at_walls(mesh: Mesh, work: Array) -> float:
    """Share of the work of triangles at the outer wall and at the bottom."""
    x, y = mesh.points[mesh.triangles][:, :, 0], mesh.points[mesh.triangles][:, :, 1]
    wall = (x.max(axis=1) >= mesh.points[:, 0].max() - 1e-9) | (
        y.min(axis=1) <= mesh.points[:, 1].min() + 1e-9
    )
    return float(work[wall].sum())


def _gradients(mesh: Mesh) -> Array:
    """Of the three linear shape functions of each triangle, shape (m, 3, 2)."""
    a, b, c = (mesh.points[mesh.triangles[:, k]] for k in range(3))
    twice = 2 * mesh.area[:, None]
    return np.stack([np.stack([q[:, 1] - r[:, 1], r[:, 0] - q[:, 0]], axis=1) / twice for q, r in ((b, c), (c, a), (a, b))], axis=1)  # fmt: skip


def lower(section: Section, mesh: Mesh) -> Bound:
    """The lower bound of one mesh.

    Raises:
        NotSolvedError: when the program did not come to its end.
    """
    scale, B = _scale(section), section.B
    m = len(mesh.triangles)
    rows, cols, values, right = [], [], [], []
    count = 0

    def put(row: Any, col: Any, value: Any) -> None:
        rows.append(row.ravel())
        cols.append(col.ravel())
        values.append(value.ravel())

    # equilibrium: d(p + d)/dx + dt/dy = 0, dt/dx + d(p - d)/dy = gamma
    grad = _gradients(mesh)
    base = 9 * np.arange(m)[:, None] + 3 * np.arange(3)[None, :]
    r = np.repeat(np.arange(m)[:, None], 3, axis=1)
    for part, weight in ((0, grad[:, :, 0]), (1, grad[:, :, 0]), (2, grad[:, :, 1])):
        put(r, base + part, weight)
    for part, weight in ((2, grad[:, :, 0]), (0, grad[:, :, 1]), (1, -grad[:, :, 1])):
        put(r + m, base + part, weight)
    right += [np.zeros(m), _weights(section, mesh) / scale]
    count = 2 * m
    ends, beside = mesh.edges()
    place = {(int(e), int(v)): 9 * int(e) + 3 * k for e in range(m) for k, v in enumerate(mesh.triangles[e])}
    a, b = mesh.points[ends[:, 0]], mesh.points[ends[:, 1]]
    normal = np.stack([b[:, 1] - a[:, 1], a[:, 0] - b[:, 0]], axis=1)
    normal /= np.linalg.norm(normal, axis=1)[:, None]
    inner = np.flatnonzero(beside[:, 1] >= 0)
    for end in (0, 1):
        nodes = ends[inner, end]
        for own, sign in ((0, 1.0), (1, -1.0)):
            spot = np.array([place[int(e), int(v)] for e, v in zip(beside[inner, own], nodes)])
            n = normal[inner] * sign
            row = count + np.arange(len(inner))
            put(row, spot, n[:, 0])
            put(row, spot + 1, n[:, 0])
            put(row, spot + 2, n[:, 1])
            row = row + len(inner)
            put(row, spot + 2, n[:, 0])
            put(row, spot, n[:, 1])
            put(row, spot + 1, -n[:, 1])
        right.append(np.zeros(2 * len(inner)))
        count += 2 * len(inner)
    outer = np.flatnonzero(beside[:, 1] < 0)
    load_row: list[tuple[int, float]] = []
    for edge in outer:
        e = int(beside[edge, 0])
        (x0, y0), (x1, y1) = mesh.points[ends[edge, 0]], mesh.points[ends[edge, 1]]
        middle = ((x0 + x1) / 2, (y0 + y1) / 2)
        spots = [place[e, int(v)] for v in ends[edge]]
        if middle[1] > -1e-9 and middle[0] > B / 2:  # the free surface: no shear, the surcharge
            for at in spots:
                put(
                    np.array([count, count + 1, count + 1]),
                    np.array([at + 2, at, at + 1]),
                    np.array([1.0, 1.0, -1.0]),
                )
                right.append(np.array([0.0, -section.q / scale]))
                count += 2
        elif middle[1] > -1e-9:  # the base
            for at in spots:
                load_row += [(at, -abs(x1 - x0) / 2), (at + 1, abs(x1 - x0) / 2)]
                if not section.rough:
                    put(np.array([count]), np.array([at + 2]), np.array([1.0]))
                    right.append(np.zeros(1))
                    count += 1
        elif middle[0] < 1e-9:  # the middle plane: no shear
            for at in spots:
                put(np.array([count]), np.array([at + 2]), np.array([1.0]))
                right.append(np.zeros(1))
                count += 1
    # the load: minus the integral of the vertical stress below half the base
    put(
        np.full(len(load_row), count),
        np.array([at for at, _ in load_row]),
        np.array([v for _, v in load_row]),
    )
    right.append(np.zeros(1))
    count += 1
    load = np.zeros(count)
    load[-1] = -B / 2
    matrix = sparse.csr_matrix((np.concatenate(values), (np.concatenate(rows), np.concatenate(cols))), shape=(count, 9 * m))  # fmt: skip
    V, x, multipliers, status = _raised(section, mesh, matrix, np.concatenate(right), load)
    work, uneven = _work(section, mesh, x, multipliers)
    pressure = V * scale * (1 - (WIDENED if status != "Solved" else TOLERANCE_UNDRAINED))
    return Bound(pressure, mesh, _at_walls(mesh, work), status, work, uneven)


def upper(section: Section, mesh: Mesh) -> Bound:
    """The upper bound of one mesh.

    Raises:
        NotSolvedError: when the program did not come to its end.
    """
    scale, B = _scale(section), section.B
    m, n = len(mesh.triangles), len(mesh.points)
    ends, _ = mesh.edges()
    number = {(int(a), int(b)): n + k for k, (a, b) in enumerate(ends)}
    t = mesh.triangles
    sides = np.array(
        [
            [
                number[min(a, b), max(a, b)]
                for a, b in ((int(v[0]), int(v[1])), (int(v[1]), int(v[2])), (int(v[2]), int(v[0])))
            ]
            for v in t
        ]
    )
    nodes = np.concatenate([t, sides], axis=1)
    places = np.concatenate([mesh.points, mesh.points[ends].mean(axis=1)])
    width, depth = places[:, 0].max(), places[:, 1].min()
    on_base = (places[:, 1] > -1e-9) & (places[:, 0] < B / 2 + 1e-9)
    fixed_x = (places[:, 0] < 1e-9) | (places[:, 0] > width - 1e-9) | (places[:, 1] < depth + 1e-9)
    fixed_y = (places[:, 0] > width - 1e-9) | (places[:, 1] < depth + 1e-9)
    if section.rough:
        fixed_x = fixed_x | on_base
    # unknown velocities: -1 where there is none; all of the base go down together
    dof = np.full((len(places), 2), -1, dtype=np.int64)
    free_x, free_y = ~fixed_x, ~fixed_y & ~on_base
    dof[free_x, 0] = np.arange(free_x.sum())
    dof[free_y, 1] = free_x.sum() + np.arange(free_y.sum())
    together = int(free_x.sum() + free_y.sum())
    dof[on_base, 1] = together
    count = together + 1
    # gradients of the six quadratic shape functions at the three vertices: (m, 3 vertices, 6, 2)
    grad = _gradients(mesh)
    at_vertex = np.eye(3)
    shape = np.empty((m, 3, 6, 2))
    for v in range(3):
        L = at_vertex[v]
        for k in range(3):
            shape[:, v, k] = (4 * L[k] - 1) * grad[:, k]
        for s, (i, j) in enumerate(((0, 1), (1, 2), (2, 0))):
            shape[:, v, 3 + s] = 4 * (L[i] * grad[:, j] + L[j] * grad[:, i])
    third = (mesh.area / 3)[:, None, None]
    rows, cols, values = [], [], []
    base = 9 * np.arange(m)[:, None, None] + 3 * np.arange(3)[None, :, None]
    column = np.broadcast_to(base, (m, 3, 6))
    for axis in (0, 1):
        own = np.broadcast_to(dof[nodes, axis][:, None, :], (m, 3, 6))
        along, across = shape[:, :, :, axis] * third, shape[:, :, :, 1 - axis] * third
        sign = 1.0 if axis == 0 else -1.0
        for part, value in ((0, along), (1, sign * along), (2, across)):
            keep = own >= 0
            rows.append(own[keep])
            cols.append((column + part)[keep])
            values.append(value[keep])
    # loads: weight (of quadratic functions a third at each side, nothing at the vertices), surcharge (1, 4, 1 sixths of a side)
    right = np.zeros(count)
    weight = -_weights(section, mesh) * mesh.area / 3 / scale
    for s in range(3):
        own = dof[sides[:, s], 1]
        np.add.at(right, own[own >= 0], weight[own >= 0])
    if section.q:
        for k, (a, b) in enumerate(ends):
            (x0, y0), (x1, y1) = mesh.points[a], mesh.points[b]
            if y0 > -1e-9 and y1 > -1e-9 and min(x0, x1) > B / 2 - 1e-9:
                length = abs(x1 - x0) * section.q / scale
                for node, share in ((a, 1 / 6), (b, 1 / 6), (n + k, 4 / 6)):
                    if dof[node, 1] >= 0:
                        right[dof[node, 1]] -= share * length
    load = np.zeros(count)
    load[together] = B / 2
    matrix = sparse.csr_matrix((np.concatenate(values), (np.concatenate(rows), np.concatenate(cols))), shape=(count, 9 * m))  # fmt: skip
    V, x, multipliers, status = _raised(section, mesh, matrix, right, load)
    work, uneven = _work(section, mesh, x, multipliers)
    pressure = V * scale * (1 + (WIDENED if status != "Solved" else TOLERANCE_UNDRAINED))
    return Bound(pressure, mesh, _at_walls(mesh, work), status, work, uneven)


def where_it_yields(found: Bound, most: int = 2400) -> list[tuple[tuple[float, ...], float]]:
    """The triangles that do most of the work, the densest first: their corners (x, y of each, m) and how much for their area: 1 where the
    denser half of all work is done, 0 where a twentieth of that density is."""
    density = found.work / found.mesh.area
    order = np.argsort(-density)
    half = density[order[int(np.searchsorted(np.cumsum(found.work[order]), 0.5))]]
    if half <= 0:
        return []
    shown = np.minimum(1.0 + np.log(np.maximum(density / half, 1e-9)) / np.log(20.0), 1.0)
    seen = np.flatnonzero(shown > 0.05)
    chosen = seen[np.argsort(-found.work[seen])[:most]]
    corners = found.mesh.points[found.mesh.triangles]
    return [
        (tuple(float(v) for v in corners[k].ravel()), float(shown[k]))
        for k in chosen[np.argsort(-density[chosen])]
    ]


def bracket(section: Section, most: int = 3000) -> tuple[Bound, Bound]:
    """(lower, upper) one after the other; see :func:`bound`."""
    return bound(section, "lower", most), bound(section, "upper", most)


def uniform(B: float, c: float, phi: float, gamma: float, q: float, rough: bool = True) -> Section:
    """A strip on uniform ground."""
    return Section(B, (Layer(0.0, 1e6, c, phi, gamma),), q, rough)


def layered(B: float, strata: Sequence[Layer], q: float = 0.0, rough: bool = True) -> Section:
    """A strip on strata."""
    return Section(B, tuple(strata), q, rough)
