"""Stress below a polygon under a pressure that is uniform or a plane, by its edges in closed form.

Elastic half-space (Boussinesq 1885). An edge lies at the distance d from the point in the plan, its ends at s from the
foot of the perpendicular. Polar coordinates about the point give the uniform part; the part that is linear in the
coordinates is a gradient and so becomes an integral along the edges."""

from collections.abc import Callable

import numpy as np

from korbent.core.working import Array

Edge = Callable[[Array, Array, Array], Array]
"""The antiderivative along an edge: from s, d and z."""


def _along(corners: Array, x: Array, y: Array, z: Array, *edges: Edge) -> list[tuple[Array, Array, Array]]:
    """Per antiderivative: its sum over the edges, and the sums weighted by the outward normal along x and y."""
    following = np.roll(corners, -1, axis=0)
    area2 = float((corners[:, 0] * following[:, 1] - following[:, 0] * corners[:, 1]).sum())
    step = following - corners
    length = np.hypot(step[:, 0], step[:, 1])
    kept = length > 1e-12
    shape = (-1, *([1] * np.broadcast(x, y, z).ndim))
    x1, y1, length = (v[kept].reshape(shape) for v in (corners[:, 0], corners[:, 1], length))
    tx, ty = (step[kept, i].reshape(shape) / length for i in (0, 1))
    d = (x1 - x) * ty - (y1 - y) * tx  # distance of the edge, positive where the point lies to its left
    s1 = (x1 - x) * tx + (y1 - y) * ty
    found = []
    for edge in edges:
        part = np.sign(area2) * (edge(s1 + length, d, z) - edge(s1, d, z))
        found.append((part.sum(axis=0), (part * ty).sum(axis=0), -(part * tx).sum(axis=0)))
    return found


def _uniform(s: Array, d: Array, z: Array) -> Array:
    safe = np.where(np.abs(d) < 1e-12, 1e-12, d)
    R = np.sqrt(s * s + d * d + z * z)
    part: Array = np.arctan(s / safe) - np.arctan(s * z / (safe * R)) + z * d * s / ((d * d + z * z) * R)
    return np.where(np.abs(d) < 1e-12, 0.0, part)


def _angle(s: Array, d: Array, z: Array) -> Array:
    safe = np.where(np.abs(d) < 1e-12, 1e-12, d)
    part: Array = np.arctan(s / safe) - np.arctan(s * z / (safe * np.sqrt(s * s + d * d + z * z)))
    return np.where(np.abs(d) < 1e-12, 0.0, part)


def _cubed(s: Array, d: Array, z: Array) -> Array:
    """Of 1/R3."""
    c2 = d * d + z * z
    part: Array = s / (c2 * np.sqrt(s * s + c2))
    return part


def _inverse(s: Array, d: Array, z: Array) -> Array:
    """Of 1/R."""
    part: Array = np.arcsinh(s / np.sqrt(d * d + z * z))
    return part


def _fifth(s: Array, d: Array, z: Array) -> Array:
    """Of 3/R5."""
    c2 = d * d + z * z
    part: Array = s * (3 * c2 + 2 * s * s) / (c2 * c2 * (s * s + c2) ** 1.5)
    return part


def _points(x: Array, y: Array, z: Array) -> tuple[Array, Array, Array, Array]:
    """The points as arrays of one shape, z made positive, and where it was."""
    x, y, z = np.broadcast_arrays(np.asarray(x, float), np.asarray(y, float), np.asarray(z, float))
    below = z > 0
    return x, y, np.where(below, z, 1.0), below


def polygon_stress(
    corners: Array, x: Array, y: Array, z: Array, plane: tuple[float, float, float] = (1.0, 0.0, 0.0)
) -> Array:
    """Stress below a polygon of any form under the pressure p0 + px x + py y (kPa where those are).

    Args:
        corners: (corners, 2), m, in either direction.
        x, y, z: of any one broadcast shape; z below the area.
        plane: p0, px, py.
    """
    p0, px, py = plane
    x, y, z, below = _points(x, y, z)
    if px == 0.0 == py:
        (uniform, _, _) = _along(corners, x, y, z, _uniform)[0]
        return np.where(below, p0 * uniform / (2 * np.pi), 0.0)
    (uniform, _, _), (_, east, north) = _along(corners, x, y, z, _uniform, _cubed)
    here = p0 + px * x + py * y
    stress: Array = (here * uniform - z**3 * (px * east + py * north)) / (2 * np.pi)
    return np.where(below, stress, 0.0)


def polygon_angle(
    corners: Array, x: Array, y: Array, z: Array, plane: tuple[float, float, float] = (1.0, 0.0, 0.0)
) -> Array:
    """Solid angle of a polygon as seen from the point, weighted by the pressure, over pi (see
    :func:`rectangle_angle`)."""
    p0, px, py = plane
    x, y, z, below = _points(x, y, z)
    (angle, _, _), (_, east, north) = _along(corners, x, y, z, _angle, _inverse)
    here = p0 + px * x + py * y
    return np.where(below, (here * angle - z * (px * east + py * north)) / np.pi, 0.0)


def polygon_slope(corners: Array, x: Array, y: Array, z: Array) -> tuple[Array, Array]:
    """Change along x and along y (1/m) of the stress over the uniform pressure of a polygon."""
    x, y, z, below = _points(x, y, z)
    ((_, east, north),) = _along(corners, x, y, z, _fifth)
    # the stress is that of an area that moves the other way: what leaves at one edge comes in at another
    factor = -(z**3) / (2 * np.pi)
    return np.where(below, factor * east, 0.0), np.where(below, factor * north, 0.0)


ROUND_SIDES = 96
"""Sides of the polygon of equal area that stands for a circle."""


def circle(x: float, y: float, diameter: float) -> Array:
    """Corners of the polygon that stands for a circle: of equal area."""
    step = 2 * np.pi / ROUND_SIDES
    radius = diameter / 2 * np.sqrt(step / np.sin(step))
    angles = step * np.arange(ROUND_SIDES)
    return np.stack([x + radius * np.cos(angles), y + radius * np.sin(angles)], axis=-1)


def rectangle_corners(x: float, y: float, B: float, L: float, degrees: float) -> Array:
    """Corners of a turned rectangle in the plan, anticlockwise, (4, 2)."""
    c, s = np.cos(np.deg2rad(degrees)), np.sin(np.deg2rad(degrees))
    u, v = np.array([-B, B, B, -B]) / 2, np.array([-L, -L, L, L]) / 2
    return np.stack([x + c * u - s * v, y + s * u + c * v], axis=-1)
