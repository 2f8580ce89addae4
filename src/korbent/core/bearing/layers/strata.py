"""The strata below a base as the mechanisms see them: equal neighbours are one, and each says how it answers."""

from dataclasses import dataclass

import numpy as np

from korbent.core.bearing.methods.method import Footing
from korbent.core.bench import Bench
from korbent.core.ground.profile import effective_stress, missing, parameter, total_stress
from korbent.core.model.ground import Soil
from korbent.core.model.labels import label
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

PARAMETERS = {"drained": ("friction_angle", "cohesion"), "undrained": ("undrained_strength",)}
EQUAL = 1e-12
"""Relative difference of strengths up to which neighbours are one stratum."""


@dataclass(frozen=True)
class Stratum:
    """One stratum of the profile below all candidates; arrays (candidates, 1), levels and lengths in m, stresses in
    kPa.

    Strengths are arrays of two axes that broadcast against (candidates, situations).
    """

    soil: Soil
    number: int
    """Index in the profile."""
    top: Array
    """Level at which it begins, at most the underside of the base."""
    thick: Array
    """Of what lies below the base; 0 where there is nothing of it."""
    begins: Array
    """Where another stratum begins with it; not where it only goes on with the one above, nor where it is absent."""
    drained: Array
    undrained: Array
    """How it answers; both: the lesser counts."""
    known: Array
    """Whether it has the parameters that it answers by."""
    tan_phi: Array
    cohesion: Array
    strength: Array
    """Design values; the undrained strength where the stratum begins, or at the base within it."""
    at_top: Array
    """Undrained strength at its own top, also where it only goes on with the one above."""
    gradient: Array
    bears_all: Array
    """Where it is rock without the strengths that it would answer by: it bears more than what lies on it."""

    def passed(self) -> Array:
        """Undrained strength over its thickness, kN/m."""
        found: Array = (self.at_top + self.gradient * self.thick / 2) * self.thick
        return found


def answers(upper: Soil, lower: Soil, drainage: str) -> tuple[bool, bool]:
    """(drained, undrained): how a lower stratum answers in a check of the upper one; both: the lesser counts.

    Where both soils may be either, they go together; below sand that only drains, such a clay is looked at both ways.
    """
    if drainage == "drained":
        alone = lower.drainage == "both" and upper.drainage != "both"
        return lower.drainage != "undrained", lower.drainage == "undrained" or alone
    return lower.drainage == "drained", lower.drainage != "drained"


def lacks(soil: Soil, drained: bool, undrained: bool) -> str:
    """What a stratum that answers so lacks; '' when it has it all, or is rock, which does not weaken what lies above
    it."""
    return "" if soil.pattern == "rock" else _missing(soil, drained, undrained)


def _missing(soil: Soil, drained: bool, undrained: bool) -> str:
    names = (*(PARAMETERS["drained"] if drained else ()), *(PARAMETERS["undrained"] if undrained else ()))
    return missing(soil, names)


def strata_below(bench: Bench, base: Footing, drainage: str, factors: tuple[Array | float, ...]) -> list[Stratum]:
    """The strata from that below the base down, as far as any candidate has some of them.

    Args:
        base: with design strengths; they are those of the stratum that it stands on.
        factors: what tan(phi'), c' and c_u are divided by.
    """
    profile = bench.profile
    assert profile is not None
    count = len(bench.index)
    founding = bench.founding_stratum()
    level = bench.geometry.underside
    tops, bottoms = (np.broadcast_to(v, (count, len(profile.soils))) for v in (profile.top, profile.bottom))
    uppers = {int(i): profile.soils[i] for i in set(founding.tolist()) if i >= 0}
    cu, gradients = (
        parameter(profile, "undrained_strength"),
        parameter(profile, "undrained_strength_gradient"),
    )
    tan = np.tan(np.deg2rad(parameter(profile, "friction_angle")))
    c = parameter(profile, "cohesion")
    found: list[Stratum] = []
    for number, soil in enumerate(profile.soils):
        is_founding = (founding == number)[:, None]
        below = ((founding >= 0) & (founding <= number))[:, None]
        top = np.minimum(tops[:, number : number + 1], level)
        thick = np.where(below, np.maximum(top - bottoms[:, number : number + 1], 0.0), 0.0)
        # the stratum on which a base stands counts whatever is left of it
        there = is_founding | (thick > 0.0)
        if not there.any():
            continue
        # by the stratum that a base stands on; below the known ground nothing answers
        ways = np.zeros((len(profile.soils) + 1, 2), dtype=bool)
        for i, upper in uppers.items():
            ways[i] = answers(upper, soil, drainage)
        ways[number] = drainage == "drained", drainage == "undrained"
        lacking = np.array([bool(_missing(soil, bool(d), bool(u))) if d or u else False for d, u in ways])
        drained, undrained = ways[founding, 0][:, None], ways[founding, 1][:, None]
        bare = lacking[founding][:, None]
        bears_all = bare & (soil.pattern == "rock") & ~is_founding
        known = ~bare | is_founding
        drained, undrained = drained & ~bears_all, undrained & ~bears_all
        strength = cu[number] + gradients[number] * np.maximum(tops[:, number : number + 1] - top, 0.0)
        strength = np.maximum(strength, 1e-9) / factors[2]
        tan_phi = np.atleast_2d((tan[number] or np.tan(np.pi / 6)) / factors[0])
        cohesion = np.atleast_2d(c[number] / factors[1])
        if is_founding.any() and drainage == "drained":
            tan_phi = np.where(is_founding, np.tan(base.phi), tan_phi)
            cohesion = np.where(is_founding, base.cohesion, cohesion)
        elif is_founding.any():
            strength = np.where(is_founding, base.cohesion, strength)
        one = Stratum(
            soil,
            number,
            top,
            thick,
            there,
            drained,
            undrained,
            known,
            tan_phi,
            cohesion,
            strength,
            strength,
            gradients[number] / np.asarray(factors[2], dtype=float),
            bears_all,
        )
        found.append(_joined(found, one))
    return found


def _joined(above: list[Stratum], one: Stratum) -> Stratum:
    """The stratum as it stands below the others: where it only goes on with the nearest one above, nothing begins with
    it."""
    begins, strength = one.begins, one.strength
    open_ = begins
    for upper in reversed(above):
        there = open_ & ((upper.thick > 0.0) | upper.begins)
        alike = _equal(upper.tan_phi, one.tan_phi) & _equal(upper.cohesion, one.cohesion)
        if not alike.any():
            open_ = open_ & ~there
            continue
        going_on = upper.at_top + upper.gradient * (upper.top - one.top)
        same = (
            alike
            & _equal(going_on, one.at_top)
            & _equal(upper.gradient, one.gradient)
            & (upper.drained == one.drained)
            & (upper.undrained == one.undrained)
            & (upper.known == one.known)
            & (upper.bears_all == one.bears_all)
        )
        # arrays over situations differ by factors only, which are the same for both
        goes_on = there & same.all(axis=-1, keepdims=True)
        begins = begins & ~goes_on
        strength = np.where(goes_on, upper.strength, strength)
        open_ = open_ & ~there
    return Stratum(**(vars(one) | {"begins": begins, "strength": strength}))


def _equal(a: Array, b: Array) -> Array:
    found: Array = np.abs(a - b) <= EQUAL * np.maximum(np.abs(a), np.abs(b))
    return found


def stress_at(bench: Bench, level: Array, water: Array, kind: str) -> Array:
    """Vertical stress beside the base at a level, kPa: ``kind`` "effective" or "total".

    Args:
        level: (candidates, situations or 1), or several such levels, one behind the other.
    """
    return _stress(bench, np.array(bench.finished), level, water, kind)


def _stress(bench: Bench, surface: Array, level: Array, water: Array, kind: str) -> Array:
    assert bench.profile is not None
    of = effective_stress if kind == "effective" else total_stress
    if level.ndim == 3:
        # the points of the profile are the first axis
        beside = surface[:, None] if surface.ndim == 2 else np.moveaxis(surface, 0, 1) if surface.ndim else surface
        return np.moveaxis(of(bench.profile, bench.ground.backfill, beside, np.moveaxis(level, 0, 1), water), 1, 0)
    return of(bench.profile, bench.ground.backfill, surface, level, water)


def weight_below(
    bench: Bench,
    level: Array,
    depth: Array,
    water: Array,
    kind: str,
    record: Recorder = SILENT,
    known: Array | None = None,
) -> Array:
    """Mean unit weight (kN/m3) of the strata over ``depth`` below a level; where the known ground ends, over what is
    known.

    Args:
        known: the stress at the level, where it is known and the level lies below finished ground.
    """
    assert bench.profile is not None
    end = bench.profile.end
    end = np.broadcast_to(end, bench.index.shape)[:, None] if np.ndim(end) else end
    thick = np.maximum(np.minimum(depth, level - end), 1e-3)
    surface = np.array(bench.finished)
    if (level > surface).any():  # of one number much is quicker
        surface, known = np.maximum(surface, level), None
    low = _stress(bench, surface, level - thick, water, kind)
    high = _stress(bench, surface, level, water, kind) if known is None else known
    found: Array = (low - high) / thick
    record.given("d_B", thick, "m", note=say("depth B′ below the base, as far as the ground is known"), needs="B_eff")
    record.given(
        "sigma_B",
        low,
        "kPa",
        note=say("{kind} stress at that depth, over finished ground or the underside", kind=label(kind)),
        needs="d_B",
    )
    record.given("sigma_f", high + 0.0 * found, "kPa", note=say("at the underside"))
    record.step(
        "gammaprime",
        "(sigma_B - sigma_f)/d_B",
        found,
        "kN/m³",
        note=say("mean weight of all strata over B′, water taken off where it stands"),
    )
    return found
