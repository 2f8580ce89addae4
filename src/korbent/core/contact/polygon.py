"""Moments of the part of a convex polygon on which a linear pressure is positive."""

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
    """Area moments of {a + b x + c y > 0} within convex polygons.

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
    """Integrals of max(0, a + b x + c y) over convex polygons (arguments as :func:`clipped_moments`)."""
    m = clipped_moments(x, y, a, b, c)
    return PressureIntegrals(
        a * m.A + b * m.Sx + c * m.Sy, a * m.Sx + b * m.Sxx + c * m.Sxy, a * m.Sy + b * m.Sxy + c * m.Syy
    )


def pressure_on_rectangles(
    x0: Array, x1: Array, y0: Array, y1: Array, a: Array, b: Array, c: Array
) -> PressureIntegrals:
    """Integrals of max(0, a + b x + c y) over upright rectangles: in closed form where all of one is pressed, else clipped.

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
            np.stack([x0[cut], x1[cut], x1[cut], x0[cut]], axis=-1), np.stack([y0[cut], y0[cut], y1[cut], y1[cut]], axis=-1), a[cut], b[cut], c[cut]
        )  # fmt: skip
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
