"""Pressure under a rigid circular or ring-shaped base, linear without tension, by segment integrals.

By symmetry the pressure is k (x - x_0) along the direction of the eccentricity, cut off at zero. The eccentricity of
its resultant rises with x_0, so that x_0 is found by bisection; within the kern the plane is known in closed form."""

from dataclasses import dataclass

import numpy as np

from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

HALVINGS = 60


@dataclass(frozen=True)
class RoundContact:
    """Pressure p = a + b s (kPa, cut off at zero), s along the eccentricity from the middle."""

    a: Array
    b: Array
    e: Array
    """Eccentricity, m."""
    stable: Array
    share: Array
    """Contact area over the area of the base."""
    peak: Array
    least: Array


def segment(radius: Array, x0: Array) -> tuple[Array, Array, Array]:
    """Area and its first and second moments about the middle of the part of a circle beyond x_0: m2, m3, m4."""
    safe = np.maximum(radius, 1e-12)
    theta = np.arccos(np.clip(x0 / safe, -1.0, 1.0))
    sine, cosine = np.sin(theta), np.cos(theta)
    part = theta - sine * cosine
    return (
        radius**2 * part,
        2 * (radius * sine) ** 3 / 3,
        radius**4 / 4 * (part + 2 * sine**3 * cosine),
    )


def kern_radius(outer: Array, inner: Array | float = 0.0) -> Array:
    """Greatest eccentricity with contact everywhere, m: (R2 + r2)/(4 R)."""
    radius: Array = (outer**2 + np.asarray(inner) ** 2) / (4 * outer)
    return radius


def linear_no_tension_round(
    N: Array, M: Array, outer: Array, inner: Array | float = 0.0, record: Recorder = SILENT
) -> RoundContact:
    """The pressure under a circle of radius ``outer``, or a ring with the hole ``inner``.

    Args:
        N: vertical force, down, kN.
        M: moment about the middle (resultant of both directions), kNm.
        outer, inner: radii, m, inner < outer.

    Arrays of any one broadcast shape.
    """
    N, M, R, r = np.broadcast_arrays(*(np.asarray(v, dtype=float) for v in (N, M, outer, inner)))
    pressed = N > 0.0
    e = np.abs(M) / np.where(pressed, N, 1.0)
    stable = pressed & (e < 0.9999999 * R)
    area, second = np.pi * (R**2 - r**2), np.pi * (R**4 - r**4) / 4
    kern = kern_radius(R, r)
    mean = np.where(stable, N / area, 0.0)
    slope = np.where(stable, N * e / second, 0.0)
    a, b, share = mean.copy(), slope.copy(), np.where(stable, 1.0, 0.0)
    partial = stable & (e > kern)
    if partial.any():
        Rp, rp, ep, Np = R[partial], r[partial], e[partial], N[partial]
        low, high = -Rp, Rp.copy()
        for _ in range(HALVINGS):
            x0 = (low + high) / 2
            A, S, second_moment = _ring(Rp, rp, x0)
            less = second_moment - x0 * S < ep * (S - x0 * A)
            low, high = np.where(less, x0, low), np.where(less, high, x0)
        x0 = (low + high) / 2
        A, S, _ = _ring(Rp, rp, x0)
        k = Np / np.maximum(S - x0 * A, 1e-300)
        a[partial], b[partial] = -k * x0, k
        share[partial] = A / area[partial]
    peak = a + b * R
    record.given("N", N, "kN")
    record.given("e", e, "m", note=say("eccentricity"))
    record.given("e_k", kern, "m", note=say("kern"))
    record.given("p_max", peak, "kPa", note=say("segment integrals, no tension"), needs="N e e_k")
    record.given("s_c", share, note=say("share of the base in contact"), needs="N e e_k")
    return RoundContact(a, b, np.where(pressed, e, 0.0), stable, share, peak, np.maximum(a - b * R, 0.0))


def _ring(outer: Array, inner: Array, x0: Array) -> tuple[Array, Array, Array]:
    whole, hole = segment(outer, x0), segment(inner, x0)
    return whole[0] - hole[0], whole[1] - hole[1], whole[2] - hole[2]


def effective_circle(e: Array, radius: Array) -> tuple[Array, Array, Array]:
    """(A', B', L') of the effective area under a circle: the lens about the resultant, and the rectangle of equal area.

    The sides of the rectangle are in the proportion of the lens: B'/L' = sqrt((R - e)/(R + e)).
    """
    e = np.minimum(np.abs(e), radius)
    area = 2 * (radius**2 * np.arccos(e / radius) - e * np.sqrt(np.maximum(radius**2 - e**2, 0.0)))
    ratio = np.sqrt((radius - e) / (radius + e))
    return area, np.sqrt(area * ratio), np.sqrt(area / np.maximum(ratio, 1e-12))
