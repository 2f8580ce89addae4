"""Stress below a uniformly loaded rectangle on an elastic half-space, at any point inside or outside."""

import numpy as np

from korbent.core.working import Array


def _corners(x: Array, y: Array, B: Array, L: Array) -> list[tuple[Array, Array, float]]:
    """(distance along x, along y, sign) of the four corners as seen from the point."""
    sides_x = ((x + B / 2, 1.0), (x - B / 2, -1.0))
    sides_y = ((y + L / 2, 1.0), (y - L / 2, -1.0))
    return [(a, b, sign_x * sign_y) for a, sign_x in sides_x for b, sign_y in sides_y]


def rectangle_stress(x: Array, y: Array, B: Array, L: Array, z: Array) -> Array:
    """Stress over pressure at (x, y) from the middle of a rectangle B x L and z below it; 0 where z is not positive.

    Newmark (1935) at the four corners, each with the sign of its quarter; so any point, inside or outside.
    """
    below = z > 0
    found: Array = np.where(below, rectangle_both(x, y, B, L, np.where(below, z, 1.0))[0], 0.0)
    return found


def rectangle_both(x: Array, y: Array, B: Array, L: Array, z: Array) -> tuple[Array, Array]:
    """(stress over pressure, solid angle over pi) as below, where z is positive: the arcs of the one are those of the
    other."""
    z2 = z * z
    shape = np.broadcast(x, y, B, L, z).shape
    arcs, rest = np.zeros(shape), np.zeros(shape)
    sides_x = [(x + B / 2, 1.0), (x - B / 2, -1.0)]
    sides_y = [(y + L / 2, 1.0), (y - L / 2, -1.0)]
    parts_x = [(a, a * a + z2, sign) for a, sign in sides_x]
    parts_y = [(b, b * b, b * b + z2, sign) for b, sign in sides_y]
    for a, a2z, sign_x in parts_x:
        for b, b2, b2z, sign_y in parts_y:
            R = np.sqrt(a2z + b2)
            product = a * b
            arc = np.arctan(product / (z * R))
            part = product * z / R * (1 / a2z + 1 / b2z)
            if sign_x == sign_y:
                arcs += arc
                rest += part
            else:
                arcs -= arc
                rest -= part
    return (arcs + rest) / (2 * np.pi), arcs / np.pi


def rectangle_angle(x: Array, y: Array, B: Array, L: Array, z: Array) -> Array:
    """Solid angle of the rectangle as seen from the point, over pi; 0 where z is not positive.

    The sum of the three normal stresses is (1 + nu) p times it (Boussinesq 1885, integrated: z dA/R3 is the solid
    angle)."""
    below = z > 0
    z = np.where(below, z, 1.0)
    total = np.zeros(np.broadcast(x, y, B, L, z).shape)
    for a, b, sign in _corners(x, y, B, L):
        total += sign * np.arctan(a * b / (z * np.sqrt(a * a + b * b + z * z)))
    angle: Array = np.where(below, total / np.pi, 0.0)
    return angle


def rectangle_slope(x: Array, y: Array, B: Array, L: Array, z: Array) -> tuple[Array, Array]:
    """Change of the stress over pressure along x and along y, 1/m: Boussinesq's point loads along the sides, in closed
    form.

    Along x it is the difference of two lines of length L: 3 z3/(2 pi) [v (3 c2 + 2 v2)/(3 c4 (c2 + v2)^1.5)], c2 = a2 +
    z2."""
    below = z > 0
    z = np.where(below, z, 1.0)
    shape = np.broadcast(x, y, B, L, z).shape
    along_x, along_y = np.zeros(shape), np.zeros(shape)
    for a, b, sign in _corners(x, y, B, L):
        along_x += sign * _line(a, b, z)
        along_y += sign * _line(b, a, z)
    return np.where(below, along_x, 0.0), np.where(below, along_y, 0.0)


def _line(away: Array, v: Array, z: Array) -> Array:
    """Stress (1/m) of a line load of unit pressure, v long from the foot of the perpendicular, at a distance in the
    plan."""
    c2 = away * away + z * z
    stress: Array = z**3 / (2 * np.pi) * v * (3 * c2 + 2 * v * v) / (c2 * c2 * (c2 + v * v) ** 1.5)
    return stress


def point_stress(r2: Array, z: Array) -> Array:
    """Stress below a unit point load: 3 z^3 / (2 pi R^5), r2 the square of the distance in the plan."""
    R2 = r2 + z * z
    stress: Array = np.where(z > 0, 1.5 / np.pi * z * z * z / (R2 * R2 * np.sqrt(R2)), 0.0)
    return stress


def point_both(r2: Array, z: Array) -> tuple[Array, Array]:
    """(stress, solid angle over pi) as seen from z > 0 below and the square of a distance away of a unit load on a
    point, 1/m2."""
    inverse = 1 / (r2 + z * z)
    angle = z * inverse * np.sqrt(inverse) / np.pi
    return 1.5 * angle * z * z * inverse, angle


def spread_stress(B: Array, L: Array, z: Array) -> Array:
    """Stress over pressure by the load spread of 2 down to 1 sideways in all, to compare: B L/((B + z)(L + z))."""
    stress: Array = B * L / ((B + z) * (L + z))
    return stress
