"""Strengths averaged over the depth of the failure, by thickness."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from korbent.core.bearing.layers.strata import Stratum
from korbent.core.bearing.methods.base import Base, Method
from korbent.core.working import Array, Recorder

ROUNDS = 24
"""Of the search for the failure depth, at most."""
FOUND = 1e-14
"""Relative difference up to which a depth is found: more rounds change nothing."""


def failure_depth(B: Array, phi: Array) -> Array:
    """Greatest depth of the log spiral below a smooth wedge at 45 + phi/2 (Prandtl 1920), m."""
    a = np.pi / 4 + phi / 2
    depth: Array = B / (2 * np.cos(a)) * np.exp(a * np.tan(phi)) * np.cos(phi)
    return depth


def weighted_means(
    base: Base, strata: list[Stratum], level: Array, near: Array, method: Method, record: Recorder, of_angle: bool = False
) -> tuple[Array, Array]:  # fmt: skip
    """(resistance in kPa, depth of the failure in m), drained, with the strengths of the strata averaged over that depth.

    The depth is the least at which the failure of the mean friction angle itself ends, so that more strength never lessens
    the mean: it moves the failure down only as far as it raises the mean. Strata that answer undrained, or are not known, are
    left out of it (``of_angle``: the mean is of phi' instead of tan phi'); as much as they take of the least depth of a failure, the mean ``near`` of resistances counts (kPa).
    """
    counted, same = [], []
    for s in strata:
        founding = (s.top >= level) & s.begins
        usable = founding | (s.known & s.drained & ~s.undrained & ~s.bears_all)
        begins = level - np.minimum(s.top, level)
        counted.append((begins, np.where(usable, s.thick, 0.0)))
        same.append((begins, s.thick))
    angles = [np.arctan(s.tan_phi) for s in strata]
    tans = [s.tan_phi for s in strata]

    def angle(depth: Array) -> Array:
        """Of the mean of the angles, or of their tangents."""
        if of_angle:
            return mean(angles, counted, depth, base.phi)
        return np.asarray(np.arctan(mean(tans, counted, depth, np.tan(base.phi))))

    def ends_at(depth: Array) -> Array:
        return failure_depth(base.B, angle(depth))

    least = AT_ZERO * base.B
    reach = least_fixed(ends_at, least, [a + t for a, t in counted])
    cohesion = mean([s.cohesion for s in strata], counted, reach, base.cohesion)
    found = method.drained(replace(base, phi=angle(reach), cohesion=cohesion), record)
    part, whole = (sum(np.clip(least - a, 0.0, t) for a, t in of) for of in (counted, same))
    share = np.where(whole > 1e-12, part / np.maximum(whole, 1e-12), 1.0)
    q = share * found.pressure + (1 - share) * near
    record("d_f", "", reach, "m", "Prandtl 1920", "depth of the failure of the mean friction angle itself")
    record(
        "k_same",
        "",
        share,
        "",
        "",
        "share of the strata within B′/√2 that drain like the one below the base",
        "B_eff",
    )
    record(
        "q_M",
        "k_same*q_ult + (1 - k_same)*q_near",
        q,
        "kPa",
        "",
        "strengths averaged over that depth by thickness",
        "d_f",
    )
    return q, reach


AT_ZERO = 1 / np.sqrt(2)
"""Depth of the failure over B′ without friction."""


def mean(values: list[Array], counted: list[tuple[Array, Array]], depth: Array, own: Array) -> Array:
    """Mean of values of strata by (depth of the top, thickness) over a depth; ``own`` where there is nothing."""
    lengths = [np.clip(depth - a, 0.0, t) for a, t in counted]
    whole = sum(lengths)
    found: Array = np.where(
        whole > 1e-12, sum(v * length for v, length in zip(values, lengths)) / np.maximum(whole, 1e-12), own
    )
    return found


def least_fixed(ends_at: Callable[[Array], Array], start: Array, edges: list[Array]) -> Array:
    """The least depth d >= start with ends_at(d) = d, for ends_at(d) smooth between ``edges`` (from above) and never below start."""
    low = start + 0.0 * ends_at(start)
    high, found = low, np.zeros(low.shape, dtype=bool)
    for edge in edges:
        here = np.maximum(edge, low)
        over = ends_at(here) > here
        high = np.where(found, high, here)
        found = found | ~over
        low = np.where(found, low, here)
    # below the last stratum nothing changes the mean any more
    high = np.where(found, high, np.maximum(ends_at(np.maximum(high, low) + 1e6), low))
    return _root(ends_at, low, high)


def _root(ends_at: Callable[[Array], Array], low: Array, high: Array) -> Array:
    """Root of ends_at(d) - d between two depths, by false position that halves a value kept twice (Illinois)."""
    a, b = low, high
    fa, fb = ends_at(a) - a, ends_at(b) - b
    for _ in range(ROUNDS):
        slope = fb - fa
        c = np.where(slope != 0.0, b - fb * (b - a) / np.where(slope != 0.0, slope, 1.0), b)
        c = np.clip(c, low, high)
        fc = ends_at(c) - c
        if (np.abs(fc) <= FOUND * np.abs(c)).all():
            return np.asarray(c)
        turned = fc * fb < 0
        a, fa = np.where(turned, b, a), np.where(turned, fb, fa / 2)
        b, fb = c, fc
    return np.asarray(b)
