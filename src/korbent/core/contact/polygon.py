"""Moments of the part of a polygon, whose corners may go in, on which a linear pressure is positive."""

from typing import NamedTuple

import numpy as np

from korbent.core.working import Array


class AreaMoments(NamedTuple):
    """Area and its first and second moments about the origin of the coordinates."""

    A: Array
    Sx: Array
    Sy: Array
    Sxx: Array
    Sxy: Array
    Syy: Array


class PressureIntegrals(NamedTuple):
    """Force (kN) of a pressure over an area, and its first moments about the origin (kNm)."""

    force: Array
    x: Array
    y: Array


def clipped_moments(x: Array, y: Array, a: Array, b: Array, c: Array) -> AreaMoments:
    """Area moments of {a + b x + c y > 0} within polygons that do not cross themselves.

    Each edge is cut where the pressure changes sign. The region is then the sum of the triangles between
    the cut edges and one point on the neutral line, as that line itself adds no area seen from the point.

    Args:
        x, y: vertices, anticlockwise, shape (..., vertices).
        a, b, c: the plane, shape (...).
    """
    a, b, c = (np.asarray(v)[..., None] for v in (a, b, c))
    p = a + b * x + c * y
    next_x, next_y, next_p = (np.roll(v, -1, axis=-1) for v in np.broadcast_arrays(x, y, p))
    drop = p - next_p
    with np.errstate(divide="ignore", invalid="ignore"):
        at = np.clip(np.where(drop != 0.0, p / np.where(drop != 0.0, drop, 1.0), 0.0), 0.0, 1.0)
    start = np.where(p > 0.0, 0.0, np.where(next_p > 0.0, at, 0.0))
    end = np.where(next_p > 0.0, 1.0, np.where(p > 0.0, at, 0.0))
    x1, y1 = x + start * (next_x - x), y + start * (next_y - y)
    x2, y2 = x + end * (next_x - x), y + end * (next_y - y)
    # the point on the neutral line nearest to the middle of the polygon; the middle when all is pressed.
    # An edge that lies on the neutral line is no cut edge: seen from a point on that line it adds nothing.
    mid_x, mid_y = (np.asarray(v).mean(axis=-1, keepdims=True) for v in (x, y))
    cut = (p.min(axis=-1, keepdims=True) <= 0.0) & (p.max(axis=-1, keepdims=True) > 0.0)
    slope = np.where(cut, b * b + c * c, 1.0)
    step = np.where(cut, -(a + b * mid_x + c * mid_y) / np.where(slope > 0.0, slope, 1.0), 0.0)
    x0, y0 = mid_x + step * b, mid_y + step * c
    double = (x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0)
    sx, sy = x0 + x1 + x2, y0 + y1 + y2
    return AreaMoments(
        double.sum(-1) / 2,
        (double * sx).sum(-1) / 6,
        (double * sy).sum(-1) / 6,
        (double * (x0 * x0 + x1 * x1 + x2 * x2 + sx * sx)).sum(-1) / 24,
        (double * (x0 * y0 + x1 * y1 + x2 * y2 + sx * sy)).sum(-1) / 24,
        (double * (y0 * y0 + y1 * y1 + y2 * y2 + sy * sy)).sum(-1) / 24,
    )


def pressure_over(x: Array, y: Array, a: Array, b: Array, c: Array) -> PressureIntegrals:
    """Integrals of max(0, a + b x + c y) over polygons (arguments as :func:`clipped_moments`)."""
    m = clipped_moments(x, y, a, b, c)
    return PressureIntegrals(
        a * m.A + b * m.Sx + c * m.Sy, a * m.Sx + b * m.Sxx + c * m.Sxy, a * m.Sy + b * m.Sxy + c * m.Syy
    )


def pressure_on_rectangles(
    x0: Array, x1: Array, y0: Array, y1: Array, a: Array, b: Array, c: Array
) -> PressureIntegrals:
    """Integrals of max(0, a + b x + c y) over upright rectangles: in closed form where all of one is pressed, else
    clipped.

    Args:
        x0, x1, y0, y1: from and to, of any one broadcast shape with the plane a, b, c.
    """
    x0, x1, y0, y1, a, b, c = np.broadcast_arrays(x0, x1, y0, y1, a, b, c)
    least = a + np.minimum(b * x0, b * x1) + np.minimum(c * y0, c * y1)
    dx, dy, mid_x, mid_y = x1 - x0, y1 - y0, (x0 + x1) / 2, (y0 + y1) / 2
    middle = (a + b * mid_x + c * mid_y) * dx * dy
    force = middle
    x = middle * mid_x + b * dx * dx * dx * dy / 12
    y = middle * mid_y + c * dx * dy * dy * dy / 12
    cut = least < 0.0
    if cut.any():
        found = pressure_over(
            np.stack([x0[cut], x1[cut], x1[cut], x0[cut]], axis=-1),
            np.stack([y0[cut], y0[cut], y1[cut], y1[cut]], axis=-1),
            a[cut],
            b[cut],
            c[cut],
        )
        force[cut], x[cut], y[cut] = found.force, found.x, found.y
    return PressureIntegrals(force, x, y)


def force_on_rectangles(x0: Array, x1: Array, y0: Array, y1: Array, a: Array, b: Array, c: Array) -> Array:
    """The force alone of :func:`pressure_on_rectangles`, kN."""
    dx, dy = x1 - x0, y1 - y0
    middle = a + b * ((x0 + x1) / 2) + c * ((y0 + y1) / 2)
    force: Array = middle * (dx * dy)
    # the least pressure is half the falls across the sides below that in the middle
    cut = np.abs(b) * (dx / 2) + np.abs(c) * (dy / 2) > middle
    if cut.any():
        x0, x1, y0, y1, a, b, c = (np.broadcast_to(v, force.shape)[cut] for v in (x0, x1, y0, y1, a, b, c))
        force[cut] = pressure_on_rectangles(x0, x1, y0, y1, a, b, c).force
    return force


class Pressed(NamedTuple):
    """A plane without tension: its constant and slopes (kPa, kPa/m), and the area that it presses, m2."""

    plane: tuple[Array, Array, Array]
    area: Array


NEWTON = 60
SOLVED = 1e-13


def plane_without_tension(force: Array, e_x: Array, e_y: Array, x: Array, y: Array, wanted: Array) -> Pressed:
    """The plane max(0, a + b x + c y) over polygons whose resultant is ``force`` at (e_x, e_y), within their convex
    hulls.

    It makes the energy, half the integral of p2 less the work of the force, least: a convex function of the plane,
    whose gradient is what is out of balance and whose second derivatives are the area moments of the pressed part.
    Newton's method, with halved steps where the energy would rise.

    Args:
        force: kN. e_x, e_y: m, shape (candidates, situations).
        x, y: corners of each candidate, anticlockwise, m, (candidates, corners).
        wanted: where it is asked for; zero elsewhere.
    """
    rows, columns = np.nonzero(wanted)
    shape = wanted.shape
    plane, area = np.zeros((3, *shape)), np.zeros(shape)
    if len(rows):
        X, Y = x[rows], y[rows]
        size_x, size_y = np.ptp(X, axis=-1), np.ptp(Y, axis=-1)
        u, v = X / size_x[:, None], Y / size_y[:, None]
        target = np.stack([np.ones(len(rows)), e_x[rows, columns] / size_x, e_y[rows, columns] / size_y], axis=-1)
        unit, pressed = _unit_plane(u, v, target)
        scale = force[rows, columns] / (size_x * size_y)
        plane[:, rows, columns] = np.stack([scale, scale / size_x, scale / size_y]) * unit.T
        area[rows, columns] = pressed * size_x * size_y
    a, b, c = plane
    return Pressed((a, b, c), area)


def _matrix(m: AreaMoments) -> Array:
    return np.stack(
        [
            np.stack([m.A, m.Sx, m.Sy], axis=-1),
            np.stack([m.Sx, m.Sxx, m.Sxy], axis=-1),
            np.stack([m.Sy, m.Sxy, m.Syy], axis=-1),
        ],
        axis=-2,
    )


def _unit_plane(u: Array, v: Array, target: Array) -> tuple[Array, Array]:
    """(planes (cases, 3), pressed areas) over polygons of size 1, for forces of 1 with first moments as in
    ``target``."""
    ones, none = np.ones(len(u)), np.zeros(len(u))
    z = np.linalg.solve(_matrix(clipped_moments(u, v, ones, none, none)), target[..., None])[..., 0]

    def energy(z: Array, matrix: Array) -> Array:
        found: Array = np.einsum("ni,nij,nj->n", z, matrix, z) / 2 - (z * target).sum(-1)
        return found

    matrix = _matrix(clipped_moments(u, v, *z.T))
    now = energy(z, matrix)
    for _ in range(NEWTON):
        residual = np.einsum("nij,nj->ni", matrix, z) - target
        if np.abs(residual).max() < SOLVED:
            break
        # a part so small that it says nothing of the slopes is stiffened a little
        stiff = matrix + 1e-15 * (np.trace(matrix, axis1=-2, axis2=-1)[:, None, None] + 1e-15) * np.eye(3)
        step = -np.linalg.solve(stiff, residual[..., None])[..., 0]
        share = np.ones(len(u))
        for _ in range(30):
            tried = z + share[:, None] * step
            tried_matrix = _matrix(clipped_moments(u, v, *tried.T))
            then = energy(tried, tried_matrix)
            worse = then > now + 1e-15 * np.abs(now)
            if not worse.any():
                break
            share = np.where(worse, share / 2, share)
        z, matrix, now = tried, tried_matrix, then
    pressed: Array = matrix[:, 0, 0]
    return z, pressed
