"""A second method for rafts: a thin plate with free edges on springs by Ritz (1909), Legendre polynomials over the
whole of it."""

from functools import lru_cache

import numpy as np
from numpy.polynomial import legendre

from korbent.core.plates.mesh import mesh_of
from korbent.core.plates.recover import fields_of
from korbent.core.plates.solve import PlateOnSprings
from korbent.verification.case import Case

B, L, H, E, NU, K = 12.0, 9.0, 0.30, 3e7, 0.2, 12_000.0
DEGREE = 40
COLUMNS = (
    (-4.0, -3.0, 900.0),
    (4.0, -3.0, 700.0),
    (-4.0, 3.0, 1100.0),
    (4.0, 3.0, 800.0),
    (0.0, 0.0, 1500.0),
)
"""x, y in m, kN."""
SIDE = 0.6
"""Of the columns, m."""

Vector = np.ndarray


def _values(at: Vector, half: float, order: int) -> Vector:
    """Derivatives of that order of all polynomials at places, (polynomials, places)."""
    return np.stack(
        [
            legendre.legval(
                at / half, legendre.legder(np.eye(DEGREE + 1)[n], order) if order else np.eye(DEGREE + 1)[n]
            )
            / half**order
            for n in range(DEGREE + 1)
        ]
    )


@lru_cache(maxsize=4)
def _integrals(half: float) -> dict[tuple[int, int], Vector]:
    """Integrals over the length of products of derivatives, by their orders."""
    nodes, weights = legendre.leggauss(2 * DEGREE + 4)
    values = {order: _values(nodes * half, half, order) for order in (0, 1, 2)}
    return {
        (a, b): np.einsum("ip,jp,p->ij", values[a], values[b], weights * half) for a in (0, 1, 2) for b in (0, 1, 2)
    }


@lru_cache(maxsize=1)
def shape() -> Vector:
    """The factors of the polynomials in x and y, (degree + 1, degree + 1), m."""
    x, y = _integrals(B / 2), _integrals(L / 2)
    D = E * H**3 / (12 * (1 - NU**2))
    count = DEGREE + 1

    def product(p: Vector, q: Vector) -> Vector:
        return np.asarray(np.einsum("ik,jl->ijkl", p, q).reshape(count**2, count**2))

    # D/2 of (w_xx + w_yy)^2 - 2 (1 - nu)(w_xx w_yy - w_xy^2), and k/2 of w^2
    matrix = D * (
        product(x[2, 2], y[0, 0])
        + product(x[0, 0], y[2, 2])
        + NU * (product(x[2, 0], y[0, 2]) + product(x[0, 2], y[2, 0]))
        + 2 * (1 - NU) * product(x[1, 1], y[1, 1])
    )
    matrix += K * product(x[0, 0], y[0, 0])
    load = np.zeros((count, count))
    nodes, weights = legendre.leggauss(24)
    for cx, cy, V in COLUMNS:
        px = _values(cx + nodes * SIDE / 2, B / 2, 0) @ weights / 2
        py = _values(cy + nodes * SIDE / 2, L / 2, 0) @ weights / 2
        load += V * np.outer(px, py)
    return np.linalg.solve(matrix, load.ravel()).reshape(count, count)


def by_ritz(x: float, y: float) -> tuple[float, float, float, float]:
    """(settlement, m_x, m_y, m_xy) at a place, m and kNm/m; sagging positive."""
    px, py = (
        [_values(np.array([v]), half, order)[:, 0] for order in (0, 1, 2)] for v, half in ((x, B / 2), (y, L / 2))
    )
    factors = shape()
    w, w_xx, w_yy, w_xy = (
        float(a @ factors @ b) for a, b in ((px[0], py[0]), (px[2], py[0]), (px[0], py[2]), (px[1], py[1]))
    )
    D = E * H**3 / (12 * (1 - NU**2))
    # w runs downwards: the plate sags where it is curved upwards
    return w, -D * (w_xx + NU * w_yy), -D * (w_yy + NU * w_xx), -D * (1 - NU) * w_xy


@lru_cache(maxsize=1)
def _plate() -> tuple[PlateOnSprings, Vector, tuple[Vector, ...]]:
    boxes = [(x - SIDE / 2, x + SIDE / 2, y - SIDE / 2, y + SIDE / 2) for x, y, _ in COLUMNS]
    mesh = mesh_of((-B / 2, B / 2, -L / 2, L / 2), boxes, [], 0.2, 0.1)
    plate = PlateOnSprings(mesh, np.full(len(mesh.elements), H), E, NU, np.full(len(mesh.elements), K))
    pressure = np.zeros((len(mesh.elements), 4, 1))
    for box, (_, _, V) in zip(boxes, COLUMNS):
        pressure[mesh.within(box)] += V / SIDE**2
    found = plate.solve(plate.load(pressure), tension=True)
    (fields,) = fields_of(plate, found)
    return plate, found.settlement[:, 0], (fields.m_x[:, 0], fields.m_y[:, 0], fields.m_xy[:, 0])


def by_elements(x: float, y: float) -> tuple[float, float, float, float]:
    """The same by the plate of the program, linear between its nodes."""
    plate, w, moments = _plate()
    mesh = plate.mesh
    grid = (len(mesh.lines_x), len(mesh.lines_y))
    i = int(np.clip(np.searchsorted(mesh.lines_x, x) - 1, 0, grid[0] - 2))
    j = int(np.clip(np.searchsorted(mesh.lines_y, y) - 1, 0, grid[1] - 2))
    u = (x - mesh.lines_x[i]) / (mesh.lines_x[i + 1] - mesh.lines_x[i])
    v = (y - mesh.lines_y[j]) / (mesh.lines_y[j + 1] - mesh.lines_y[j])

    def at(values: Vector) -> float:
        f = values.reshape(grid)
        return float(
            (1 - u) * ((1 - v) * f[i, j] + v * f[i, j + 1]) + u * ((1 - v) * f[i + 1, j] + v * f[i + 1, j + 1])
        )

    return at(w), at(moments[0]), at(moments[1]), at(moments[2])


WHAT = ("w", "m_x", "m_y", "m_xy")
LOOKED_AT = (
    (2.0, 1.5, 0, 5e-3),
    (-2.0, -3.0, 0, 5e-3),
    (-4.0, 0.0, 0, 1e-2),
    (0.6, 0.0, 1, 2e-2),
    (-2.0, -3.0, 1, 2e-2),
    (0.6, 0.0, 2, 1.5e-2),
    (-4.0, 0.0, 2, 1e-2),
    (4.0, 0.0, 2, 1e-2),
    (2.0, 1.5, 3, 1e-2),
    (-2.0, -3.0, 3, 1e-2),
)
"""Beside columns and between them: x, y, which, tolerance."""

RITZ = tuple(
    Case(
        f"raft of five columns on springs, at {x:g}, {y:g} m: {WHAT[i]}",
        "second method",
        f"Ritz with {DEGREE + 1} x {DEGREE + 1} polynomials, a thin plate with free edges",
        lambda x=x, y=y, i=i: (1000 if i == 0 else 1) * by_ritz(x, y)[i],
        lambda x=x, y=y, i=i: (1000 if i == 0 else 1) * by_elements(x, y)[i],
        tolerance,
        "mm" if i == 0 else "kNm/m",
    )
    for x, y, i, tolerance in LOOKED_AT
)
