"""Bounds of the collapse load of a strip on horizontal strata from below and above, by conic programs on triangles.

Plane strain, Mohr-Coulomb with associated flow: ||(d, t)|| <= c cos(phi) - p sin(phi) with p = (sx + sy)/2, d = (sx -
sy)/2, t = txy, tension positive. **Lower**: stresses linear in each triangle, in equilibrium, tractions continuous
across all sides, yield at the vertices, which suffices (Makrodimopoulos and Martin 2006). **Upper**: velocities
quadratic over each triangle and continuous, the flow rule at its three vertices, which suffices as strain rates are
linear (Makrodimopoulos and Martin 2007), solved in its static form: stresses at the vertices balance the loads in the
mean, and the velocities are the multipliers. Both raise the load until nothing more is carried.

Between base and ground the lower bound limits the tractions at the ends of each side. The upper bound lets the ground
slide and part along the
base: the jump of velocity, quadratic along a side, follows the flow rule at its three control points (Bernstein), and
with them everywhere.

The lower bound holds for the box that is looked at, the upper also for the half space, as the ground beyond the box is
at rest. Both hold for associated flow only, in the ground and below the base."""

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray
from scipy import sparse

from korbent.core.plasticity.mesh import Mesh, fan_mesh, halved, mirrored, slope_mesh
from korbent.core.plasticity.section import Load, Section, box, checked, scale_of, strength_of, weights
from korbent.words import say

Array = NDArray[np.float64]
Index = NDArray[np.int64]
Side = Literal["lower", "upper"]
TOLERANCE, TOLERANCE_UNDRAINED = 1e-8, 1e-7
"""Of the conic programs: with friction, and without any."""
SHARE = 0.5
"""Triangles with so much of the work together are halved."""
AT_WALLS, AT_WALLS_COARSE, COARSE, WIDER, WIDENINGS = 2e-3, 1e-2, 1000, 1.5, 2
"""More of the work than this at the walls of the box (on coarse meshes, whose triangles reach far, than that), and it
is made so many times as large, so often at most."""
GENTLE = 0.95
"""Of the way to the border of the cones, with short steps."""
REGULAR = 1e-7
"""What is added to the diagonal of its equations then."""
TRIES = 3
"""So often the first mesh is made finer where its program has no end."""
ATTEMPTS = ((False, False), (True, False), (True, True))
"""Whether each system of equations is refined, which hardly any program needs and takes as long as all else, and
whether steps are short, which come to an end where long ones lose their way."""
SOLVED = ("Solved", "AlmostSolved")
WIDENED = 2e-4
"""By so much a bound of a program that was solved almost is moved outwards, at least."""


@dataclass(frozen=True)
class Bound:
    """One bound, on which mesh, and how much of the plastic work lies at the walls of the box."""

    pressure: float
    """V at collapse over the width of the base, kPa."""
    mesh: Mesh
    at_walls: float
    status: str
    work: Array
    """Work of shearing of each triangle, as a share of all."""
    uneven: Array
    """What asks for smaller triangles: the work, and twice how it differs between the corners; as a share of all."""
    factor: float = 1.0
    """Of what grows, at collapse."""
    stress: Array = field(default_factory=lambda: np.zeros((0, 3, 3)))
    """p, d, t at the corners of each triangle, kPa (m, 3, 3), tension positive; those of the lower bound are in
    equilibrium."""
    velocity: Array = field(default_factory=lambda: np.zeros((0, 2)))
    """Of the points of the mesh, upper bound only (n, 2)."""
    motion: tuple[float, float, float] = (0.0, 0.0, 0.0)
    """Of the base, upper bound only: down, to the right, turning to the right, so that what grows does a work of 1. No
    load whose work is more than that of this one can be carried: V down + H right + M turning."""


class NotSolvedError(ValueError):
    """A program that did not come to its end: there is no bound."""


def bound(
    section: Section,
    side: Side,
    most: int = 3000,
    told: Callable[[Bound], None] | None = None,
    stop: Callable[[], bool] = lambda: False,
) -> Bound:
    """A bound on meshes that are halved where the ground yields, up to ``most`` triangles; each is told as it comes.

    Raises:
        ValueError: what cannot be looked at.
        NotSolvedError: when not even the first program came to its end.
    """
    checked(section)
    best = _refined(section, side, mesh_of(section), most, told, stop)
    size = 1.0
    for _ in range(WIDENINGS):
        if best.at_walls <= (AT_WALLS if most > COARSE else AT_WALLS_COARSE) or stop():
            break
        size *= WIDER
        try:
            best = _refined(section, side, mesh_of(section, size), most, told, stop)
        except NotSolvedError:  # what is known stays, with what it has at its walls
            break
    return best


def _refined(
    section: Section, side: Side, mesh: Mesh, most: int, told: Callable[[Bound], None] | None, stop: Callable[[], bool]
) -> Bound:
    solve = lower if side == "lower" else upper
    best: Bound | None = None
    tries = TRIES
    while True:
        try:
            found = solve(section, mesh)
        except NotSolvedError as error:
            if best is not None:
                return best
            if tries == 0 or "PrimalInfeasible" in str(error):  # nothing is carried, however small
                raise
            # a thin stratum on firm ground may be too coarse to move at all
            tries -= 1
            near = np.abs(mesh.points[mesh.triangles][:, :, 0].mean(axis=1)) < section.B
            mesh = halved(mesh, np.flatnonzero(near))
            continue
        better = best is None or (found.factor > best.factor) == (side == "lower")
        best = found if better else best
        assert best is not None
        if told is not None:
            told(best)
        if stop() or len(mesh.triangles) >= most:
            return best
        mesh = _finer(mesh, found, most)


def mesh_of(section: Section, size: float = 1.0) -> Mesh:
    """The first mesh of a section: of its half where the load is central, else of the whole; ``size``: of the box,
    times its usual one."""
    width, depth = box(section)
    width, depth = size * width, min(size * depth, section.firm or np.inf)
    lines = [
        0.0,
        *(-layer.bottom for layer in section.layers if layer.bottom < depth - 0.02 * section.B),
        -depth,
    ]
    if section.slope:
        tan = float(np.tan(np.deg2rad(section.slope)))
        width = min(width, section.B / 2 + 0.9 * depth / abs(tan))  # not below the firm ground
        return slope_mesh(section.B / 2, width, lines, tan)
    half = fan_mesh(section.B / 2, width, lines)
    return half if section.mirrored else mirrored(half)


def _finer(mesh: Mesh, found: Bound, most: int) -> Mesh:
    """The triangles that do most of the work together, halved."""
    order = np.argsort(-found.uneven)
    count = int(np.searchsorted(np.cumsum(found.uneven[order]), SHARE)) + 1
    count = min(max(count, len(order) // 12), max(most // 3, 1))
    return halved(mesh, order[:count])


# ---------------------------------------------------------------- programs


class Rows:
    """Rows of a sparse matrix as they are put together, with their right side."""

    def __init__(self) -> None:
        self.at: list[Any] = []
        self.of: list[Any] = []
        self.values: list[Any] = []
        self.right: list[Any] = []
        self.count = 0

    def put(self, row: Any, column: Any, value: Any) -> None:
        """Entries, rows counted from the first of the next ``rows``."""
        row, column, value = np.broadcast_arrays(row, column, value)
        self.at.append(row.ravel() + self.count)
        self.of.append(column.ravel())
        self.values.append(np.asarray(value, dtype=float).ravel())

    def close(self, count: int, right: Any = 0.0) -> None:
        """So many rows are put."""
        self.right.append(np.broadcast_to(np.asarray(right, dtype=float), (count,)))
        self.count += count

    def matrix(self, columns: int) -> sparse.csr_matrix:
        if not self.values:
            return sparse.csr_matrix((self.count, columns))
        return sparse.csr_matrix(
            (np.concatenate(self.values), (np.concatenate(self.at), np.concatenate(self.of))),
            shape=(self.count, columns),
        )

    @property
    def sides(self) -> Array:
        return np.concatenate(self.right) if self.right else np.zeros(0)


@dataclass(frozen=True)
class _Solved:
    factor: float
    x: Array
    cones: Array
    """Multipliers of the cones."""
    rows: Array
    """Multipliers of the rows."""
    status: str

    @property
    def outwards(self) -> float:
        """By what share the bound is moved outwards for what the program leaves."""
        return WIDENED if self.status != "Solved" else TOLERANCE_UNDRAINED


def _raised(
    section: Section,
    mesh: Mesh,
    rows: sparse.csr_matrix,
    right: Array,
    load: Array,
    limits: sparse.csr_matrix,
    most: Array,
) -> _Solved:
    """The greatest factor f of rows x + load f = right with limits x <= most and the cones at all vertices.

    x holds p, d, t of each vertex of each triangle in turn, then whatever else the rows speak of.

    Raises:
        NotSolvedError: when the program did not come to its end.
    """
    import clarabel  # loaded only where something is solved

    strength = strength_of(section, mesh)
    count, columns = 3 * len(mesh.triangles), rows.shape[1]
    norm = np.sqrt(np.asarray(rows.multiply(rows).sum(axis=1)).ravel() + load**2)
    norm[norm == 0] = 1.0
    equal = sparse.hstack([sparse.diags(1 / norm) @ rows, sparse.csr_matrix((load / norm)[:, None])], format="csc")
    # the cone of a vertex: (c cos phi - p sin phi, d, t)
    i = np.arange(3 * count)
    first = 3 * np.arange(count)
    values = np.full(3 * count, -1.0)
    values[first] = strength.sine.ravel()
    cones = sparse.csc_matrix((values, (i, i)), shape=(3 * count, columns + 1))
    offset = np.zeros(3 * count)
    offset[first] = strength.cohesion.ravel() / scale_of(section)
    limited = sparse.hstack([limits, sparse.csr_matrix((len(most), 1))], format="csc")
    A = sparse.vstack([equal, limited, cones], format="csc")
    b = np.concatenate([right / norm, most, offset])
    objective = np.zeros(columns + 1)
    objective[-1] = -1.0
    settings = clarabel.DefaultSettings()
    settings.verbose = False
    tight = TOLERANCE if any(layer.phi > 0 for layer in section.layers) else TOLERANCE_UNDRAINED
    settings.tol_gap_abs = settings.tol_gap_rel = settings.tol_feas = tight
    settings.max_iter = 120
    settings.presolve_enable = False
    settings.chordal_decomposition_enable = False
    settings.max_threads = 1
    kinds = [clarabel.ZeroConeT(equal.shape[0])]
    kinds += [clarabel.NonnegativeConeT(len(most))] if len(most) else []
    kinds += [clarabel.SecondOrderConeT(3)] * count
    zero = sparse.csc_matrix((columns + 1, columns + 1))
    for refined, gentle in ATTEMPTS:
        settings.iterative_refinement_enable = refined
        if gentle:
            settings.max_step_fraction, settings.static_regularization_constant = GENTLE, REGULAR
        solution = clarabel.DefaultSolver(zero, objective, A, b, kinds, settings).solve()
        status = str(solution.status)
        if status == "Solved" or (refined and status in (*SOLVED, "PrimalInfeasible")):
            break
    if status not in SOLVED:
        why = say(": the slope does not stand by itself, or") if section.slope and status == "PrimalInfeasible" else ":"
        raise NotSolvedError(say("the program ended as {status}{why} there is no bound", status=status, why=why))
    x, z = np.array(solution.x), np.array(solution.z)
    return _Solved(float(x[-1]), x[:-1], z[equal.shape[0] + len(most) :], z[: len(norm)] / norm, status)


def _bound(section: Section, mesh: Mesh, solved: _Solved, unit: float, sign: int, velocity: Array) -> Bound:
    """What a solved program says; sign: -1 below, 1 above."""
    scale = scale_of(section)
    count = 9 * len(mesh.triangles)
    work, uneven = _work(section, mesh, solved.x[:count], solved.cones)
    factor = solved.factor * unit
    factor += sign * solved.outwards * abs(factor)
    load = _load(section)
    pressure = (load.held[0] + factor * load.growing[0]) / section.B
    stress = solved.x[:count].reshape(-1, 3, 3) * scale
    return Bound(
        pressure,
        mesh,
        _at_walls(section, mesh, work),
        solved.status,
        work,
        uneven,
        factor,
        stress,
        velocity,
    )


def _load(section: Section) -> Load:
    """What the base carries; nothing named: V alone, in the middle."""
    return section.load or Load((section.B, 0.0, 0.0))


def _ray(section: Section) -> tuple[Array, Array, float]:
    """(what grows over its greatest part, what is held over the scale, what a factor of the program is in factors of
    the load): V, H, M/B, per width of the base."""
    load, B, scale = _load(section), section.B, scale_of(section)
    size = np.array([B, B, B * B])
    growing, held = np.array(load.growing) / size, np.array(load.held) / size / scale
    most = float(np.max(np.abs(growing)))
    return growing / most, held, scale / most


def _work(section: Section, mesh: Mesh, x: Array, multipliers: Array) -> tuple[Array, Array]:
    """(what each triangle does: the mean of strength times multiplier over its vertices; with twice the range), each as
    a share of all."""
    strength = strength_of(section, mesh)
    p = x.reshape(-1, 3, 3)[:, :, 0] * scale_of(section)
    own = np.maximum(strength.cohesion - p * strength.sine, 0.0) * multipliers.reshape(-1, 3, 3)[:, :, 0]

    def share(value: Array) -> Array:
        total = value.sum()
        return np.asarray(value / total if total > 0 else np.full(len(value), 1 / len(value)))

    mean = own.mean(axis=1)
    return share(mean), share(mean + 2 * (own.max(axis=1) - own.min(axis=1)))


def _at_walls(section: Section, mesh: Mesh, work: Array) -> float:
    """Share of the work of triangles at the outer walls and at the bottom."""
    x, y = mesh.points[mesh.triangles][:, :, 0], mesh.points[mesh.triangles][:, :, 1]
    low = mesh.points[:, 1].min()
    wall = x.max(axis=1) >= mesh.points[:, 0].max() - 1e-9
    if section.firm is None or -low < section.firm - 1e-9:  # firm ground is no wall of the box
        wall |= y.min(axis=1) <= low + 1e-9
    if section.load is not None:
        wall |= x.min(axis=1) <= mesh.points[:, 0].min() + 1e-9
    return float(work[wall].sum())


def _gradients(mesh: Mesh) -> Array:
    """Of the three linear shape functions of each triangle, shape (m, 3, 2)."""
    a, b, c = (mesh.points[mesh.triangles[:, k]] for k in range(3))
    twice = 2 * mesh.area[:, None]
    return np.stack(
        [np.stack([q[:, 1] - r[:, 1], r[:, 0] - q[:, 0]], axis=1) / twice for q, r in ((b, c), (c, a), (a, b))], axis=1
    )


def _limited(section: Section) -> tuple[float, float] | None:
    """(tan delta, adhesion over the scale) below the base, where shear is limited there; a base that lifts off takes no
    more than the ground."""
    under, first = section.underside, section.layers[0]
    if under.rough:
        return None if under.tension else (float(np.tan(np.deg2rad(first.phi))), first.c / scale_of(section))
    assert under.delta is not None
    assert under.adhesion is not None
    return float(np.tan(np.deg2rad(under.delta))), under.adhesion / scale_of(section)


def _outside(section: Section, mesh: Mesh, ends: Index, beside: Index) -> tuple[Index, Index, Index]:
    """The outer sides at the free surface, below the base and on the middle plane of half a section."""
    outer = np.flatnonzero(beside[:, 1] < 0)
    a, b = mesh.points[ends[outer, 0]], mesh.points[ends[outer, 1]]
    middle, near = (a + b) / 2, 1e-9
    plane = (middle[:, 0] < near) & section.mirrored
    wall = np.abs(b[:, 0] - a[:, 0]) < near
    bottom = middle[:, 1] < mesh.points[:, 1].min() + near
    under = (middle[:, 1] > -near) & (np.abs(middle[:, 0]) < section.B / 2)
    return outer[~wall & ~bottom & ~under], outer[under], outer[plane]


def lower(section: Section, mesh: Mesh) -> Bound:
    """The lower bound of one mesh.

    Raises:
        NotSolvedError: when the program did not come to its end.
    """
    m = len(mesh.triangles)
    rows, limits = Rows(), Rows()
    _in_equilibrium(rows, section, mesh)
    ends, beside = mesh.edges()

    def spot(edge: Any, owner: int, end: int) -> Any:
        """First unknown of the corner at an end of edges, in the triangle on one side of each."""
        triangle = beside[edge, owner]
        corner = np.argmax(mesh.triangles[triangle] == ends[edge, end][:, None], axis=1)
        return 9 * triangle + 3 * corner

    a, b = mesh.points[ends[:, 0]], mesh.points[ends[:, 1]]
    normal = np.stack([b[:, 1] - a[:, 1], a[:, 0] - b[:, 0]], axis=1)
    normal /= np.linalg.norm(normal, axis=1)[:, None]
    inner = np.flatnonzero(beside[:, 1] >= 0)
    _across_sides(rows, spot, inner, normal[inner])
    free, under, plane = _outside(section, mesh, ends, beside)
    slant = normal[free] * np.where(normal[free, 1] < 0, -1.0, 1.0)[:, None]
    _on_the_surface(rows, spot, free, slant, section.q / scale_of(section))
    if section.mirrored:  # the middle plane: no shear
        for end in (0, 1):
            rows.put(np.arange(len(plane)), spot(plane, 0, end) + 2, 1.0)
            rows.close(len(plane))
    _below_the_base(rows, limits, section, spot, under)
    growing, held, unit = _ray(section)
    kept = _carried(rows, section, spot, under, mesh.points[ends[under]][:, :, 0])
    share = 0.5 if section.load is None else 1.0
    rows.close(kept, share * held[:kept])
    load = np.zeros(rows.count)
    load[-kept:] = -share * growing[:kept]
    solved = _raised(section, mesh, rows.matrix(9 * m), rows.sides, load, limits.matrix(9 * m), limits.sides)
    return _bound(section, mesh, solved, unit, -1, np.zeros((0, 2)))


Spot = Callable[[Any, int, int], Any]


def _in_equilibrium(rows: Rows, section: Section, mesh: Mesh) -> None:
    """Within each triangle: d(p + d)/dx + dt/dy = 0, dt/dx + d(p - d)/dy = gamma."""
    m, grad = len(mesh.triangles), _gradients(mesh)
    base = 9 * np.arange(m)[:, None] + 3 * np.arange(3)[None, :]
    own = np.arange(m)[:, None]
    for part, weight in ((0, grad[:, :, 0]), (1, grad[:, :, 0]), (2, grad[:, :, 1])):
        rows.put(own, base + part, weight)
    rows.close(m)
    for part, weight in ((2, grad[:, :, 0]), (0, grad[:, :, 1]), (1, -grad[:, :, 1])):
        rows.put(own, base + part, weight)
    rows.close(m, weights(section, mesh) / scale_of(section))


def _tractions(n: Any) -> tuple[tuple[tuple[int, Any], ...], tuple[tuple[int, Any], ...]]:
    """(along x, along y) on a side with normal n: the parts (p, d, t) with their factors."""
    return (
        ((0, n[:, 0]), (1, n[:, 0]), (2, n[:, 1])),
        ((2, n[:, 0]), (0, n[:, 1]), (1, -n[:, 1])),
    )


def _across_sides(rows: Rows, spot: Spot, inner: Any, normal: Any) -> None:
    """Tractions of both sides are the same, along x, then along y."""
    one = np.arange(len(inner))
    for end in (0, 1):
        for axis in (0, 1):
            for owner, sign in ((0, 1.0), (1, -1.0)):
                at = spot(inner, owner, end)
                for part, value in _tractions(normal * sign)[axis]:
                    rows.put(one, at + part, value)
            rows.close(len(inner))


def _on_the_surface(rows: Rows, spot: Spot, free: Any, slant: Any, surcharge: float) -> None:
    """Nothing along it, the surcharge upon each metre of the level."""
    along, across = _tractions(slant)
    for end in (0, 1):
        at, one = spot(free, 0, end), np.arange(len(free))
        for part, value in along:
            rows.put(one, at + part, value)
        rows.close(len(free))
        for part, value in across:
            rows.put(one, at + part, value)
        rows.close(len(free), -surcharge * slant[:, 1])


def _below_the_base(rows: Rows, limits: Rows, section: Section, spot: Spot, under: Any) -> None:
    """Smooth, limited or rough; with or without tension."""
    limited = _limited(section)
    for end in (0, 1):
        at, one = spot(under, 0, end), np.arange(len(under))
        if limited == (0.0, 0.0):
            rows.put(one, at + 2, 1.0)
            rows.close(len(under))
        elif limited is not None and not section.underside.rough:
            for sign in (1.0, -1.0):
                limits.put(one, at + 2, sign)
                limits.put(one, at, limited[0])
                limits.put(one, at + 1, -limited[0])
                limits.close(len(under), limited[1])
        if not section.underside.tension:
            limits.put(one, at, 1.0)
            limits.put(one, at + 1, -1.0)
            limits.close(len(under))


def _carried(rows: Rows, section: Section, spot: Spot, under: Any, xs: Any) -> int:
    """V, H, M: minus the integral of the vertical stress below the base, that of the shear, that of the vertical stress
    times x. How many of them count.

    Args:
        xs: of both ends of the sides below the base, (sides, 2).
    """
    B, length = section.B, np.abs(xs[:, 1] - xs[:, 0])
    for end in (0, 1):
        at = spot(under, 0, end)
        mean = length / 2 / B
        arm = length * (xs[:, end] / 3 + xs[:, 1 - end] / 6) / B**2
        for part, sign in ((0, -1.0), (1, 1.0)):
            rows.put(0, at + part, sign * mean)
            if section.load is not None and section.load.turns:
                rows.put(2, at + part, sign * arm)
        if section.load is not None:
            rows.put(1, at + 2, mean)
    return 1 if section.load is None else 3 if section.load.turns else 2


def upper(section: Section, mesh: Mesh) -> Bound:
    """The upper bound of one mesh.

    Raises:
        NotSolvedError: when the program did not come to its end.
    """
    scale, B = scale_of(section), section.B
    m, n = len(mesh.triangles), len(mesh.points)
    ends, beside = mesh.edges()
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
    # rows of all nodes, first x then y: what the stresses do on each, less what the base does
    rows = Rows()
    base = 9 * np.arange(m)[:, None, None] + 3 * np.arange(3)[None, :, None]
    own = np.broadcast_to(nodes[:, None, :], (m, 3, 6))
    for axis in (0, 1):
        along, across = shape[:, :, :, axis] * third, shape[:, :, :, 1 - axis] * third
        for part, value in ((0, along), (1, (1.0, -1.0)[axis] * along), (2, across)):
            rows.put(own + axis * len(places), base + part, value)
    # loads: weight (of quadratic functions a third at each side, nothing at the vertices), surcharge (1, 4, 1 sixths of a side)
    right = np.zeros((2, len(places)))
    weight = -weights(section, mesh) * mesh.area / 3 / scale
    np.add.at(right[1], sides.ravel(), np.repeat(weight, 3))
    free, under, _ = _outside(section, mesh, ends, beside)
    length = np.abs(np.diff(mesh.points[ends][:, :, 0], axis=1))[:, 0]
    for node, share in ((ends[free, 0], 1 / 6), (ends[free, 1], 1 / 6), (n + free, 4 / 6)):
        np.add.at(right[1], node, -share * length[free] * section.q / scale)
    rows.close(2 * len(places))
    growing, held, unit = _ray(section)
    kept = 1 if section.load is None else 3 if section.load.turns else 2
    half = 0.5 if section.load is None else 1.0
    tied, slips, limits = limits_of(section, len(under), 9 * m)
    moves = _moves(section, places, tied, kept)
    apart = jumps(section, mesh, ends, under, n, slips, kept)
    columns = 9 * m + apart.shape[0]
    thirds = np.repeat(np.tile(length[under] / 3, 3), len(slips))
    node_rows = moves[:-kept].T @ rows.matrix(9 * m)
    matrix = sparse.hstack([node_rows, -(moves.T @ apart.T) @ sparse.diags(thirds)], format="csr")
    # the base goes up, to the right, and turns anticlockwise
    signs = B * half * np.array([-1.0, 1.0, -1.0])[:kept]
    right_side = np.asarray(moves[:-kept].T @ right.ravel())
    right_side[-kept:] += signs * held[:kept]
    load = np.zeros(len(right_side))
    load[-kept:] = -signs * growing[:kept]
    solved = _raised(section, mesh, matrix, right_side, load, limits.matrix(columns), limits.sides)
    velocity = -np.asarray(moves[:-kept] @ solved.rows).reshape(2, -1)[:, :n].T
    up, right_on, turns = (*-solved.rows[-kept:], 0.0, 0.0)[:3]
    motion = np.array([-up, right_on, -turns / B])
    does = float(motion @ np.array(_load(section).growing))
    down, aside, tilts = motion / does if does else motion
    return replace(_bound(section, mesh, solved, unit, 1, velocity), motion=(float(down), float(aside), float(tilts)))


def limits_of(section: Section, sides: int, before: int) -> tuple[tuple[bool, bool], tuple[int, ...], Rows]:
    """(whether the ground goes with the base along x and y; along which axes tractions are unknown; their limits).

    Tractions at the control points of the sides below the base, axis after axis at each, follow ``before`` other
    unknowns."""
    limited, tension = _limited(section), section.underside.tension
    limits = Rows()
    if limited is None:
        return (True, True), (), limits
    tan_delta, adhesion = limited
    sticks = tension and tan_delta == 0.0
    slips = ((0,) if tan_delta or adhesion else ()) + (() if sticks else (1,))
    one = np.arange(3 * sides)
    at = before + len(slips) * one
    if 0 in slips:
        for sign in (1.0, -1.0):
            limits.put(one, at, sign)
            if not sticks:
                limits.put(one, at + 1, tan_delta)
            limits.close(len(one), adhesion)
    if not tension:
        limits.put(one, at + len(slips) - 1, 1.0)
        limits.close(len(one))
    return (False, sticks), slips, limits


def _moves(section: Section, places: Array, tied: tuple[bool, bool], kept: int) -> sparse.csr_matrix:
    """Velocities of all nodes (x of each, then y) and of the base (up, right, turning times B) from those that are
    free; the base's are last."""
    B, count = section.B, len(places)
    x, y = places[:, 0], places[:, 1]
    wall = (x > x.max() - 1e-9) | (y < y.min() + 1e-9)
    wall |= (x < x.min() + 1e-9) & (section.load is not None)
    on_base = (y > -1e-9) & (np.abs(x) < B / 2 + 1e-9)
    free = np.stack([~wall & ~(on_base & tied[0]), ~wall & ~(on_base & tied[1])])
    if section.load is None:
        free[0] &= x > 1e-9
    own = np.flatnonzero(free.ravel())
    total = len(own) + kept
    at, of, values = (
        [own, 2 * count + np.arange(kept)],
        [np.arange(len(own)), len(own) + np.arange(kept)],
        [np.ones(total)],
    )
    base = np.flatnonzero(on_base)
    if tied[0] and kept > 1:
        at.append(base)
        of.append(np.full(len(base), len(own) + 1))
        values.append(np.ones(len(base)))
    if tied[1]:
        for part, value in ((0, np.ones(len(base))), (2, x[base] / B)):
            if part < kept:
                at.append(count + base)
                of.append(np.full(len(base), len(own) + part))
                values.append(value)
    return sparse.csr_matrix(
        (np.concatenate(values), (np.concatenate(at), np.concatenate(of))), shape=(2 * count + kept, total)
    )


def jumps(
    section: Section, mesh: Mesh, ends: Any, under: Any, n: int, slips: tuple[int, ...], kept: int
) -> sparse.csr_matrix:
    """The jump of velocity from base to ground at the three control points of each side below the base (first ends,
    middles, second ends), from the velocities of all nodes and of the base."""
    count, B = n + len(ends), section.B
    a, b, middle = ends[under, 0], ends[under, 1], n + under
    xa, xb = mesh.points[a, 0], mesh.points[b, 0]
    rows = Rows()
    controls = (((a, 1.0),), ((middle, 2.0), (a, -0.5), (b, -0.5)), ((b, 1.0),))
    for point, x in zip(controls, (xa, (xa + xb) / 2, xb)):
        for k, axis in enumerate(slips):
            at = len(slips) * np.arange(len(under)) + k
            for node, share in point:
                rows.put(at, node + axis * count, share)
            if axis == 0 and kept > 1:
                rows.put(at, 2 * count + 1, -1.0)
            if axis == 1:
                rows.put(at, 2 * count, -1.0)
                if kept > 2:
                    rows.put(at, 2 * count + 2, -x / B)
        rows.close(len(slips) * len(under))
    return rows.matrix(2 * count + kept)


def where_it_yields(found: Bound, most: int = 2400) -> list[tuple[tuple[float, ...], float]]:
    """The triangles that do most of the work, the densest first: their corners (x, y of each, m) and how much for their
    area: 1 where the denser half of all work is done, 0 where a twentieth of that density is."""
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
        (tuple(float(v) for v in corners[k].ravel()), float(shown[k])) for k in chosen[np.argsort(-density[chosen])]
    ]


def bracket(section: Section, most: int = 3000) -> tuple[Bound, Bound]:
    """(lower, upper) one after the other; see :func:`bound`."""
    return bound(section, "lower", most), bound(section, "upper", most)
