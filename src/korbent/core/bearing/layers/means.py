"""Strengths averaged over the depth of the failure, by thickness."""

from collections.abc import Callable

import numpy as np

from korbent.core.bearing.layers.strata import Stratum
from korbent.core.bearing.methods.method import Footing, Method
from korbent.core.working import Array, Recorder
from korbent.words import say

ROUNDS = 24
"""Of the search for the failure depth, at most."""
FOUND = 1e-14
"""Relative difference up to which a depth is found: more rounds change nothing."""


def failure_depth(B: Array, phi: Array, tan_phi: Array | None = None) -> Array:
    """Greatest depth of the log spiral below a smooth wedge at 45 + phi/2 (Prandtl 1920), m.

    B/(2 cos a) exp(a tan phi) cos phi with a = 45 + phi/2, where cos phi/(2 cos a) is the root of (1 + sin phi)/2.
    """
    t = np.tan(phi) if tan_phi is None else tan_phi
    depth: Array = B * np.sqrt(0.5 + 0.5 * t / np.sqrt(1 + t * t)) * np.exp((np.pi / 4 + phi / 2) * t)
    return depth


def weighted_means(
    base: Footing,
    strata: list[Stratum],
    level: Array,
    near: Array,
    method: Method,
    record: Recorder,
    of_angle: bool = False,
) -> tuple[Array, Array]:
    """(resistance in kPa, depth of the failure in m), drained, with the strengths of the strata averaged over that
    depth.

    The depth is the least at which the failure of the mean friction angle itself ends, so that more strength never
    lessens the mean: it moves the failure down only as far as it raises the mean. Strata that answer undrained, or are
    not known, are left out of it (``of_angle``: the mean is of phi' instead of tan phi'); as much as they take of the
    least depth of a failure, the mean ``near`` of resistances counts (kPa)."""
    counted, same = [], []
    for s in strata:
        founding = (s.top >= level) & s.begins
        usable = founding | (s.known & s.drained & ~s.undrained & ~s.bears_all)
        begins = level - np.minimum(s.top, level)
        counted.append((begins, np.where(usable, s.thick, 0.0)))
        same.append((begins, s.thick))
    angles = [np.arctan(s.tan_phi) for s in strata]
    tans = [s.tan_phi for s in strata]

    measured = angles if of_angle else tans
    own = base.phi if of_angle else np.tan(base.phi)
    least = AT_ZERO * base.B

    def ends(B: Array, measure: Array) -> Array:
        """Where the failure of a mean ends."""
        return failure_depth(B, measure) if of_angle else failure_depth(B, np.arctan(measure), measure)

    reach = _least_fixed(ends, base.B, own, least, measured, counted)
    cohesion = mean([s.cohesion for s in strata], counted, reach, base.cohesion)
    measure = mean(measured, counted, reach, own)
    phi = measure if of_angle else np.arctan(measure)
    found = method.drained(base.but(phi=phi, cohesion=cohesion), record)
    part, whole = (sum(np.clip(least - a, 0.0, t) for a, t in of) for of in (counted, same))
    share = np.where(whole > 1e-12, part / np.maximum(whole, 1e-12), 1.0)
    q = share * found.pressure + (1 - share) * near
    record.given(
        "d_f",
        reach,
        "m",
        reference="Prandtl 1920",
        note=say("depth of the failure of the mean friction angle itself"),
    )
    record.given(
        "k_same",
        share,
        note=say("share of the strata within B′/√2 that drain like the one below the base"),
        needs="B_eff",
    )
    record.step(
        "q_M",
        "k_same*q_ult + (1 - k_same)*q_near",
        q,
        "kPa",
        note=say("strengths averaged over that depth by thickness"),
        needs="d_f",
    )
    return q, reach


AT_ZERO = 1 / np.sqrt(2)
"""Depth of the failure over B′ without friction."""


def mean(values: list[Array], counted: list[tuple[Array, Array]], depth: Array, own: Array) -> Array:
    """Mean of values of strata by (depth of the top, thickness) over a depth; ``own`` where there is nothing."""
    return _over(*_sums(values, counted, depth), own)


def _sums(values: list[Array], counted: list[tuple[Array, Array]], depth: Array) -> tuple[Array, Array]:
    """(values times length, length) of the strata over a depth."""
    lengths = [np.clip(depth - a, 0.0, t) for a, t in counted]
    return sum(v * length for v, length in zip(values, lengths)), sum(lengths)


def _over(total: Array, whole: Array, own: Array) -> Array:
    return np.where(whole > 1e-12, total / np.maximum(whole, 1e-12), own)


def _least_fixed(
    ends: Callable[[Array, Array], Array],
    B: Array,
    own: Array,
    start: Array,
    values: list[Array],
    counted: list[tuple[Array, Array]],
) -> Array:
    """The least depth d >= start at which the failure of the mean over d ends; ``ends`` never gives less than start.

    Between two edges of strata the sums that make the mean are straight in the depth.
    """

    def sums(depth: Array) -> tuple[Array, Array]:
        return _sums(values, counted, depth)

    def ends_at(depth: Array) -> Array:
        return ends(B, _over(*sums(depth), own))

    low = start + 0.0 * own
    high, found = low, np.zeros(low.shape, dtype=bool)
    # a stratum that is left out has no thickness here, but the next one begins at its end
    for edge in (e for a, t in counted for e in (a, a + t)):
        here = np.maximum(edge, low)
        beyond = here > low
        if not (beyond & ~found).any():
            continue
        over = ends_at(here) > here
        high = np.where(found, high, here)
        found = found | (beyond & ~over)
        low = np.where(found, low, here)
    # below the last stratum nothing changes the mean any more
    if not found.all():
        high = np.where(found, high, np.maximum(ends_at(np.maximum(high, low) + 1e6), low))
    at_low, at_high = sums(low), sums(high)
    wide = np.maximum(high - low, 1e-300)
    parts = [B, own, low, high]
    for x, y in zip(at_low, at_high):
        parts += [x, (y - x) / wide]
    flat = [np.broadcast_to(v, low.shape).ravel() for v in parts]
    return _root(ends, *flat).reshape(low.shape)


def _root(
    ends: Callable[[Array, Array], Array],
    B: Array,
    own: Array,
    low: Array,
    high: Array,
    P: Array,
    p: Array,
    W: Array,
    w: Array,
) -> Array:
    """Root d of ends(B, mean over d) - d between two depths, by false position that halves a value kept twice
    (Illinois).

    The mean over d is (P + p (d - low))/(W + w (d - low)); arrays of one axis.
    """
    rest = [B, own, low, high, P, p, W, w]

    def over(depth: Array) -> Array:
        B, own, low, _, P, p, W, w = rest
        return ends(B, _over(P + p * (depth - low), W + w * (depth - low), own)) - depth

    found, open_ones = high.copy(), np.arange(len(low))
    a, b = low, high
    fa, fb = over(a), over(b)
    for _ in range(ROUNDS):
        slope = fb - fa
        c = np.where(slope != 0.0, b - fb * (b - a) / np.where(slope != 0.0, slope, 1.0), b)
        c = np.clip(c, rest[2], rest[3])
        fc = over(c)
        left = np.abs(fc) > FOUND * np.abs(c)
        found[open_ones] = c
        if not left.any():
            break
        turned = fc * fb < 0
        a, fa = np.where(turned, b, a), np.where(turned, fb, fa / 2)
        b, fb = c, fc
        if 2 * left.sum() < len(left):
            open_ones = open_ones[left]
            rest = [v[left] for v in rest]
            a, b, fa, fb = (v[left] for v in (a, b, fa, fb))
    return found
