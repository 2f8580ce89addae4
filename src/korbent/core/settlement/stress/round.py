"""Stress and displacement below uniformly loaded circles and rings on an elastic half-space, at any distance from the
middle.

The boundary is followed by its own angle phi: a slice of the pole angle d theta = (R2 - r R cos phi)/rho2 d phi holds
what lies between the point and the boundary at the distance rho. The radial integral is closed, the other by Gauss
points that are finer where the boundary comes nearest to the point."""

import numpy as np

from korbent.core.working import Array

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(40)
"""Gauss points along half the boundary."""


def _boundary(R: Array, r: Array) -> tuple[Array, Array]:
    """(rho squared, weight of the pole angle over pi) along half the boundary, on a new last axis.

    phi is stretched (sinh) towards where the boundary comes nearest to the point.
    """
    R, r = np.asarray(R, float)[..., None], np.asarray(r, float)[..., None]
    t = (_NODES + 1) / 2
    near = np.clip(np.abs(R - r) / np.maximum(R, 1e-9), 0.02, 1.0)
    top = np.arcsinh(np.pi / near)
    phi = near * np.sinh(top * t)
    step = near * np.cosh(top * t) * top * _WEIGHTS / 2
    rho2 = np.maximum(R * R + r * r - 2 * r * R * np.cos(phi), 1e-18)
    return rho2, (R * R - r * R * np.cos(phi)) / rho2 * step / np.pi


def disc_stress(R: Array, r: Array, z: Array) -> Array:
    """Vertical stress over pressure at the distance r from the middle of a circle of radius R, z below it."""
    rho2, weight = _boundary(R, r)
    z = np.maximum(np.asarray(z, float), 1e-9)[..., None]
    stress: Array = (weight * (1 - (1 + rho2 / (z * z)) ** -1.5)).sum(axis=-1)
    return stress


def disc_angle(R: Array, r: Array, z: Array) -> Array:
    """Solid angle of the circle as seen from the point, over pi."""
    rho2, weight = _boundary(R, r)
    z = np.maximum(np.asarray(z, float), 1e-9)[..., None]
    angle: Array = 2 * (weight * (1 - z / np.sqrt(rho2 + z * z))).sum(axis=-1)
    return angle


def disc_displacement(R: Array, r: Array, z: Array, poisson: Array) -> Array:
    """Displacement at depth z below a circle, times E over the pressure (m); what lies between two depths is their
    difference.

    (1 + nu)/(2 pi) [2 (1 - nu)/R + z2/R3] (Boussinesq 1885), integrated. In the middle at the surface: 2 R (1 - nu2).
    """
    rho2, weight = _boundary(R, r)
    z = np.asarray(z, float)[..., None]
    nu = np.asarray(poisson, float)[..., None]
    root = np.sqrt(rho2 + z * z)
    radial = 2 * (1 - nu) * (root - z) + z - z * z / root
    displacement: Array = ((1 + nu) * weight * radial).sum(axis=-1)
    return displacement


def ring_point(R: Array, hole: Array) -> Array:
    """Radius at which a flexible ring settles about as a rigid one: 0.69 of the half width outside its middle line.

    Without a hole 0.845 R (Grasshoff 1955, the circle, from memory); of a thin ring near the 0.74 of a strip.
    """
    radius: Array = (R + hole) / 2 + 0.69 * (R - hole) / 2
    return radius
