"""Stress and displacement below a uniformly loaded flexible rectangle on an elastic half-space."""

import numpy as np

from korbent.core.working import Array

CHARACTERISTIC = 0.74
"""Distance of the characteristic point from the middle, over half the size: there the flexible and the rigid
base settle alike (Grasshoff 1955)."""


Place = float | tuple[float, float]
"""A point of a rectangle: its distance from the middle over half the size, the same along both sides or one each."""


def corner_stress(B: Array, L: Array, z: Array) -> Array:
    """Vertical stress over pressure at depth ``z`` below the corner of a rectangle B x L.

    Boussinesq (1885), integrated by Newmark (1935); 1/4 at the surface, 0 for a rectangle without area.
    """
    B, L, z = np.broadcast_arrays(B, L, np.maximum(z, 1e-9))
    R1, R2, R3 = np.sqrt(L * L + z * z), np.sqrt(B * B + z * z), np.sqrt(B * B + L * L + z * z)
    stress: Array = (np.arctan2(B * L, z * R3) + B * L * z / R3 * (1 / R1**2 + 1 / R2**2)) / (2 * np.pi)
    return stress


def _steinbrenner(B: Array, L: Array, z: Array) -> tuple[Array, Array]:
    """B F1 and B F2 of Steinbrenner (1934) below the corner of a rectangle, m."""
    B, L, z = np.broadcast_arrays(B, L, np.asarray(z, float))
    b, l = np.minimum(B, L), np.maximum(B, L)  # noqa: E741
    some = b > 1e-12
    b, l = np.where(some, b, 1.0), np.where(some, l, 1.0)  # noqa: E741
    m, n = l / b, np.maximum(z / b, 1e-12)
    root = np.sqrt(m * m + n * n + 1)
    F1 = (
        m * np.log((1 + np.sqrt(m * m + 1)) * np.sqrt(m * m + n * n) / (m * (1 + root)))
        + np.log((m + np.sqrt(m * m + 1)) * np.sqrt(1 + n * n) / (m + root))
    ) / np.pi
    F2 = n / (2 * np.pi) * np.arctan2(m, n * root)
    return np.where(some, b * F1, 0.0), np.where(some, b * F2, 0.0)


def corner_displacement(B: Array, L: Array, z: Array, poisson: Array) -> Array:
    """Vertical displacement between the surface and depth ``z`` below the corner, times E' over the pressure (m).

    Steinbrenner (1934): B [(1 - nu^2) F1 + (1 - nu - 2 nu^2) F2]. Differences between two depths are the
    compression of what lies between them, by Hooke's law with all three normal stresses.
    """
    F1, F2 = _steinbrenner(B, L, z)
    nu = np.asarray(poisson)
    displacement: Array = (1 - nu * nu) * F1 + (1 - nu - 2 * nu * nu) * F2
    return displacement


def corner_compression(B: Array, L: Array, z: Array) -> tuple[Array, Array]:
    """a and b (m) of what is compressed between the surface and depth ``z`` below the corner: ((1 - nu2) a + (1 + nu)
    b) p/E.

    The same as :func:`corner_displacement`, for any nu: (1 - nu - 2 nu2) F2 = 2 (1 - nu2) F2 - (1 + nu) F2.
    """
    F1, F2 = _steinbrenner(B, L, z)
    return F1 + 2 * F2, -F2


def compression_below(B: Array, L: Array, z: Array, at: Place = 0.0) -> tuple[Array, Array]:
    """a and b as in :func:`corner_compression` below a point of the rectangle; ``at`` as in :func:`stress_below`."""
    parts = [corner_compression(x, y, z) for x, y in _quarters(B, L, at)]
    return sum(p[0] for p in parts[1:]) + parts[0][0], sum(p[1] for p in parts[1:]) + parts[0][1]


def _quarters(B: Array, L: Array, at: Place) -> list[tuple[Array, Array]]:
    """Sizes of the four rectangles that meet at a point within the rectangle."""
    along_x, along_y = at if isinstance(at, tuple) else (at, at)
    near_x, far_x = B * (1 - along_x) / 2, B * (1 + along_x) / 2
    near_y, far_y = L * (1 - along_y) / 2, L * (1 + along_y) / 2
    return [(x, y) for x in (near_x, far_x) for y in (near_y, far_y)]


def stress_below(B: Array, L: Array, z: Array, at: Place = 0.0) -> Array:
    """Vertical stress over pressure at depth z; ``at`` 0: below the middle, 1: below the corner."""
    parts = _quarters(B, L, at)
    total: Array = sum((corner_stress(x, y, z) for x, y in parts[1:]), corner_stress(*parts[0], z))
    return total


def displacement_below(B: Array, L: Array, z: Array, poisson: Array, at: Place = 0.0) -> Array:
    """Compression from the surface to depth z, times E' over the pressure (m); ``at`` as above."""
    parts = _quarters(B, L, at)
    first = corner_displacement(*parts[0], z, poisson)
    total: Array = sum((corner_displacement(x, y, z, poisson) for x, y in parts[1:]), first)
    return total
