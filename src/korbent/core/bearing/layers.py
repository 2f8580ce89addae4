"""Bearing resistance where another stratum begins below the base: which mechanisms are possible, and which is adopted.

In this order: contrast small: weighted means over the failure depth; strong over weak: punching and load spread, two
estimates of one mechanism, never more than the strong stratum alone; two clays by their own solution; weak over strong:
the weak stratum alone, raised by squeezing only when chosen. Strata further down are reached by load spread.
"""

from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from korbent.core.bearing.methods.base import Base, Method, Ultimate
from korbent.core.bench import Bench
from korbent.core.ground.profile import (
    WATER_WEIGHT,
    Profile,
    effective_stress,
    missing,
    next_other,
    parameter,
    total_stress,
)
from korbent.core.model.ground import Soil
from korbent.core.working import Array, Recorder

ALONE, MEANS, PUNCHING, SPREAD, CLAYS, WEAK, SQUEEZING, DEEPER, DEEPEST = range(9)
MECHANISMS = (
    "the stratum alone",
    "weighted means",
    "punching",
    "load spread",
    "two clays",
    "weak stratum alone",
    "squeezing",
    "spread to third stratum",
    "spread to fourth stratum",
)
MEYERHOF_HANNA = "Meyerhof and Hanna 1978"
BROWN_MEYERHOF = "Brown and Meyerhof 1969"
SQUEEZE = "Meyerhof and Chaplin 1953"
PARAMETERS = {"drained": ("friction_angle", "cohesion"), "undrained": ("undrained_strength",)}
FURTHER = (DEEPER, DEEPEST)
"""Strata further down than the next one, looked at by load spread."""
REACH = 5.0
"""So many widths down; further, the load has spread so much that only very weak ground could govern."""


class Factors(NamedTuple):
    """What the strengths are divided by: tan(phi'), c', c_u; arrays over situations, or 1."""

    tan_phi: Array | float = 1.0
    cohesion: Array | float = 1.0
    undrained: Array | float = 1.0


@dataclass(frozen=True)
class Layered:
    """The resistance with all strata, kPa, and how it came about; arrays (candidates, situations)."""

    pressure: Array
    slides: Array
    mechanism: Array
    """Index into MECHANISMS."""
    values: dict[int, Array]
    """Resistance by mechanism, kPa; meaningful where ``possible``."""
    possible: dict[int, Array]
    contrast: Array
    """Resistance of the next stratum alone over that of the stratum below the base."""
    depth: Array
    """From the base to the next stratum, m, (candidates, 1); very large where there is none."""
    below: tuple[str, ...]
    """Name of the next stratum by candidate, '' where there is none or it lacks what is needed."""
    lacking: tuple[str, ...]
    """By candidate: what the next stratum lacks."""
    further: tuple[str, ...]
    """By candidate: what a stratum below the next one lacks, within reach."""
    failure_depth: Array
    spread: float
    limit: float

    def reason(self, candidate: int, column: int) -> str:
        """The adopted mechanism and why, in a line."""
        name = self.below[min(candidate, len(self.below) - 1)]
        if not name:
            return ""
        code = int(self.at(self.mechanism, candidate, column))
        return f"{MECHANISMS[code]}: {self.why(code, candidate, column)}"

    def at(self, values: Array, candidate: int, column: int) -> float:
        """One value of an array."""
        shape = self.pressure.shape
        return float(np.broadcast_to(values, shape)[candidate, column % shape[-1]])

    def why(self, code: int, candidate: int, column: int) -> str:
        """Why a mechanism is or is not possible."""
        name = self.below[min(candidate, len(self.below) - 1)]
        r, t = self.at(self.contrast, candidate, column), self.at(self.depth, candidate, column)
        d = self.at(self.failure_depth, candidate, column)
        strong = f"{name} begins {t:.2f} m below and bears {r:.2f} times as much alone"
        return {
            ALONE: f"{strong}; the failure reaches {d:.2f} m down",
            MEANS: f"{strong}: a small contrast, within {1 / self.limit:.2f} and {self.limit:.2f}; failure reaches {d:.2f} m",
            PUNCHING: f"{strong}: strong over weak",
            SPREAD: f"{strong}: strong over weak; spread 1 down to {self.spread:.2f} sideways",
            CLAYS: f"{strong}: both undrained, strong over weak",
            WEAK: f"{strong}: weak over strong, squeezing is not chosen or not possible",
            SQUEEZING: f"{strong}: the weak clay is squeezed between the base and it",
            DEEPER: f"{strong}; the stratum below that governs",
            DEEPEST: f"{strong}; the second stratum below that governs",
        }[code]


def passive(phi: Array, delta: Array) -> Array:
    """Coefficient of passive earth pressure normal to a vertical wall with friction (EN 1997-1 C.2, stresses rotated)."""
    sine = np.maximum(np.sin(phi), 1e-12)
    m_t = np.pi / 4 - phi / 2
    turned = np.arccos(np.clip(np.sin(delta) / sine, -1.0, 1.0))
    m_w = (turned - phi - delta) / 2
    K: Array = (1 + sine * np.sin(turned - delta)) / (1 - sine) * np.exp(2 * (m_t - m_w) * np.tan(phi))
    return K


def failure_depth(B: Array, phi: Array) -> Array:
    """Greatest depth of the log spiral below a smooth wedge at 45 + phi/2 (Prandtl 1920), m."""
    a = np.pi / 4 + phi / 2
    depth: Array = B / (2 * np.cos(a)) * np.exp(a * np.tan(phi)) * np.cos(phi)
    return depth


def layered(
    bench: Bench, base: Base, own: Ultimate, drainage: str, method: Method, factors: Factors, water: Array, record: Recorder,
    symbol: str,
) -> Layered | None:  # fmt: skip
    """The resistance with the strata further down; None where no candidate has another stratum below it.

    Args:
        base, own: the base on the stratum below it, and its resistance there by ``method``.
        water: levels by situation, m.
        symbol: under which the resistance was recorded.
    """
    profile, settings = bench.profile, bench.settings
    if profile is None:
        return None
    count = len(profile.soils)
    founding = bench.founding_stratum()
    following = next_other(profile)
    below = np.where(founding >= 0, following[np.maximum(founding, 0)], count)
    lacking, kinds = _answering(profile, founding, below, drainage)
    has = (below < count) & np.array([not text for text in lacking])
    names = tuple(profile.soils[k].name if ok else "" for k, ok in zip(below, has))
    if not has.any():
        return None if not any(lacking) else _nothing(base, own, lacking)
    r = record.scope("layers")
    r("q_1", symbol, own.pressure, "kPa", note="the stratum below the base alone")
    sigma_0 = base.overburden
    shape = np.broadcast(own.pressure, sigma_0).shape
    first = _interface(bench, base, below, kinds, method, factors, water, drainage, r)
    t, there = first.depth, has[:, None]
    undrained = drainage == "undrained"
    ratio = first.alone / np.maximum(own.pressure, 1e-9)
    r("rho", "q_2/max(q_1, 1e-9)", ratio, "", note="contrast: next stratum alone over the upper one alone")

    # strong over weak
    share = settings.punching_share
    if undrained:
        side = (1 + base.shape) * 2 * share * base.cohesion * t / np.maximum(base.B, 1e-9)
        r("c_u1", "", base.cohesion, "kPa", note="undrained strength of the upper stratum")
        r("k_s", "", share, "", "setting", "share of the strength on the punching planes")
        r("f_side", "(1 + s_1)*2*k_s*c_u1*t_u/max(B_1, 1e-9)", side, "kPa", MEYERHOF_HANNA)
    else:
        delta = share * base.phi
        K_p = passive(base.phi, delta)
        grown = t * (first.effective_below + base.overburden) * K_p * np.tan(delta)
        side = (1 + base.shape) * (2 * share * base.cohesion * t + grown) / np.maximum(base.B, 1e-9)
        r("phi_1", "", base.phi, "rad", note="friction angle of the upper stratum")
        r("c_1", "", base.cohesion, "kPa", note="cohesion of the upper stratum")
        r("k_s", "", share, "", "setting", "δ/φ and share of c on the punching planes")
        r("delta", "k_s*phi_1", delta, "rad")
        r("K_p", "", K_p, "", "EN 1997-1 C.2", "passive, on a wall with the friction δ", "phi_1 delta")
        r("sigma_ie", "", first.effective_below, "kPa", note="effective stress at the interface")
        r(
            "f_side", "(1 + s_1)*(2*k_s*c_1*t_u + t_u*(sigma_ie + sigma_0)*K_p*tan(delta))/max(B_1, 1e-9)", side, "kPa", MEYERHOF_HANNA,
            "on the sides of the punched block",
        )  # fmt: skip
    punching = np.minimum(own.pressure, first.alone + side)
    r("q_P", "min(q_1, q_2 + f_side)", punching, "kPa", MEYERHOF_HANNA, "punching")
    spread = np.minimum(own.pressure, first.spread)
    r("q_S", "min(q_1, q_2S)", spread, "kPa", "", "load spread")
    both_undrained = undrained & first.is_undrained
    relative = first.strength / np.maximum(base.cohesion, 1e-9)
    homogeneous = (np.pi + 2) * (1 - base.shape) + 6.05 * base.shape
    N_m = (1.5 * t / np.maximum(base.B, 1e-9)) * (1 + base.shape) + homogeneous * relative
    clays = sigma_0 + (own.pressure - sigma_0) * np.minimum(N_m / homogeneous, 1.0)
    if undrained:
        r("c_u2", "", first.strength, "kPa", note="undrained strength of the next stratum")
        r("N_1", "(pi + 2)*(1 - s_1) + 6.05*s_1", homogeneous, "", BROWN_MEYERHOF, "strip to circle by B′/L′")
        r(
            "N_m",
            "1.5*t_u/max(B_1, 1e-9)*(1 + s_1) + N_1*c_u2/max(c_u1, 1e-9)",
            N_m,
            "",
            BROWN_MEYERHOF,
        )
        r("q_C", "sigma_0 + (q_1 - sigma_0)*min(N_m/N_1, 1)", clays, "kPa", BROWN_MEYERHOF, "two clays")
    lower = np.where(both_undrained, clays, punching)
    adopted = {"punching": lower, "load spread": spread, "lesser": np.minimum(lower, spread)}[
        settings.layer_mechanism
    ]
    chosen = settings.layer_mechanism
    by_spread = spread < lower if chosen == "lesser" else np.full(shape, chosen == "load spread")
    strong = np.where(by_spread, SPREAD, np.where(both_undrained, CLAYS, PUNCHING))
    r("k_uu", "", np.where(both_undrained, 1.0, 0.0), "", note="1 where both strata are undrained clays")
    name_lower = "where(k_uu > 0.5, q_C, q_P)" if undrained else "q_P"
    r(
        "q_SW",
        {"punching": name_lower, "load spread": "q_S", "lesser": f"min({name_lower}, q_S)"}[
            settings.layer_mechanism
        ],
        adopted,
        "kPa",
        "setting",
        "strong over weak, as chosen",
    )

    # a small contrast
    reach = failure_depth(base.B, base.phi)
    same = (both_undrained if undrained else ~first.is_undrained) & (t < reach)
    small = same & (ratio <= settings.layer_contrast) & (ratio >= 1 / settings.layer_contrast)
    means, slides = _weighted(
        bench, base, own, founding, reach, drainage, method, factors, r, bool((small & there).any())
    )

    # weak over strong
    squeezed = np.maximum(
        (np.pi + 1 + base.B / np.maximum(2 * t, 1e-9)) / (np.pi + 2), 1.0
    )  # of c_u N_c: rough plates
    cap = np.maximum(first.alone, own.pressure)
    squeeze = np.minimum(sigma_0 + (own.pressure - sigma_0) * squeezed, cap)
    squeezes = np.broadcast_to(
        np.array(settings.squeezing and undrained) & (squeezed > 1.0) & (ratio > 1.0), shape
    )
    if undrained:
        r("k_q", "max((pi + 1 + B_1/max(2*t_u, 1e-9))/(pi + 2), 1)", squeezed, "", SQUEEZE)
        r(
            "q_Q",
            "min(sigma_0 + (q_1 - sigma_0)*k_q, max(q_2, q_1))",
            squeeze,
            "kPa",
            SQUEEZE,
            "squeezing, at most the strong stratum alone",
        )

    code = np.where(
        small,
        MEANS,
        np.where(
            ratio < 1.0,
            np.where(adopted < own.pressure - 1e-9, strong, ALONE),
            np.where(squeezes, SQUEEZING, np.where(t < reach, WEAK, ALONE)),
        ),
    )
    code = np.broadcast_to(np.where(there, code, ALONE), shape)
    q = np.select(
        [code == MEANS, (code == PUNCHING) | (code == SPREAD) | (code == CLAYS), code == SQUEEZING],
        [np.broadcast_to(v, shape) for v in (means, adopted, squeeze)],
        np.broadcast_to(own.pressure, shape),
    )
    r("k_case", "", code, "", "", "0, 5: this stratum alone; 1: weighted means; 2 to 4: strong over weak; 6: squeezing", "rho")  # fmt: skip
    r(
        "q_L",
        "where(abs(k_case - 1) < 0.5, q_m, where(abs(k_case - 3) < 1.5, q_SW, "
        + ("where(abs(k_case - 6) < 0.5, q_Q, q_1)))" if undrained else "q_1))"),
        q,
        "kPa",
    )
    q, code, further = _deeper(bench, base, below, drainage, method, factors, water, q, code, r)
    r(symbol, "min(q_L, q_D)", q, "kPa", note="with all strata")
    yes = np.broadcast_to(there, shape)
    return Layered(
        pressure=q, slides=np.where(code == MEANS, slides, own.slides), mechanism=code,
        values={
            ALONE: own.pressure, MEANS: means, PUNCHING: punching, SPREAD: spread, CLAYS: clays, WEAK: own.pressure, SQUEEZING: squeeze,
        },
        possible={
            ALONE: np.ones(shape, dtype=bool), MEANS: yes & small, PUNCHING: yes & (ratio < 1.0) & ~both_undrained, SPREAD: yes & (ratio < 1.0),
            CLAYS: yes & (ratio < 1.0) & both_undrained, WEAK: yes & (ratio >= 1.0) & ~small, SQUEEZING: yes & squeezes,
        },
        contrast=ratio, depth=np.where(there, t, 1e9), below=names, lacking=lacking, further=further, failure_depth=reach,
        spread=settings.load_spread, limit=settings.layer_contrast,
    )  # fmt: skip


def _nothing(base: Base, own: Ultimate, lacking: tuple[str, ...]) -> Layered:
    """The stratum alone, because the next one lacks what is needed."""
    shape = np.broadcast(own.pressure, base.overburden).shape
    q = np.broadcast_to(own.pressure, shape)
    return Layered(
        pressure=q, slides=own.slides, mechanism=np.full(shape, ALONE), values={ALONE: q}, possible={ALONE: np.ones(shape, dtype=bool)},
        contrast=np.ones(shape), depth=np.full((shape[0], 1), 1e9), below=("",) * len(lacking), lacking=lacking, further=("",) * len(lacking),
        failure_depth=failure_depth(base.B, base.phi), spread=0.0, limit=1.0,
    )  # fmt: skip


class _Kinds(NamedTuple):
    """How a lower stratum answers, by candidate (candidates, 1): drained, undrained, or the lesser of both."""

    drained: Array
    undrained: Array


def answers(upper: Soil, lower: Soil, drainage: str) -> tuple[bool, bool]:
    """(drained, undrained): how a lower stratum answers in a check of the upper one; both: the lesser counts.

    Where both soils may be either, they go together; below sand that only drains, such a clay is looked at both ways.
    """
    if drainage == "drained":
        alone = lower.drainage == "both" and upper.drainage != "both"
        return lower.drainage != "undrained", lower.drainage == "undrained" or alone
    return lower.drainage == "drained", lower.drainage != "drained"


def _answering(
    profile: Profile, founding: Array, below: Array, drainage: str
) -> tuple[tuple[str, ...], _Kinds]:
    """(what the lower stratum lacks by candidate, how it answers)."""
    known: dict[tuple[int, int], tuple[str, bool, bool]] = {}
    for pair in set(zip(founding.tolist(), below.tolist())):
        i, k = pair
        known[pair] = ("", False, False)
        if i < 0 or k >= len(profile.soils):
            continue
        lower = profile.soils[k]
        d, u = answers(profile.soils[i], lower, drainage)
        text = missing(
            lower, (*(PARAMETERS["drained"] if d else ()), *(PARAMETERS["undrained"] if u else ()))
        )
        # rock without strength parameters does not weaken what lies above it
        known[pair] = ("", False, False) if text and lower.pattern == "rock" else (text, d, u)
    found = [known[pair] for pair in zip(founding.tolist(), below.tolist())]
    return tuple(text for text, _, _ in found), _Kinds(
        np.array([d for _, d, _ in found])[:, None], np.array([u for _, _, u in found])[:, None]
    )


@dataclass(frozen=True)
class _Interface:
    depth: Array
    alone: Array
    """Resistance of the lower stratum under the same base, at the level of the base, kPa."""
    spread: Array
    effective_below: Array
    is_undrained: Array
    strength: Array
    """Undrained strength, kPa."""


def _interface(
    bench: Bench, base: Base, below: Array, kinds: _Kinds, method: Method, factors: Factors, water: Array, drainage: str, r: Recorder
) -> _Interface:  # fmt: skip
    """The lower stratum as a base on it would find it, with the same base and with the load spread."""
    profile, settings = bench.profile, bench.settings
    assert profile is not None
    k = np.minimum(below, len(profile.soils) - 1)
    tops = np.broadcast_to(profile.top, (len(bench.index), len(profile.soils)))
    level = np.take_along_axis(tops, k[:, None], axis=-1)
    t = np.maximum(bench.geometry.underside - level, 0.0)

    def of(name: str) -> Array:
        return parameter(profile, name)[k][:, None]

    at = (profile, bench.ground.backfill, np.array(bench.finished), level, water)
    total, effective = total_stress(*at), effective_stress(*at)
    phi = np.arctan(
        np.tan(np.deg2rad(np.where(of("friction_angle") > 0, of("friction_angle"), 30.0))) / factors.tan_phi
    )
    cohesion, strength = (
        of("cohesion") / factors.cohesion,
        np.maximum(of("undrained_strength"), 1e-9) / factors.undrained,
    )
    a = settings.load_spread
    wide_B, wide_L = base.B + 2 * a * t, base.L + 2 * a * t
    dry = np.clip(level - water, 0.0, base.B)
    wet = of("weight_saturated") - WATER_WEIGHT
    weight = (of("weight") * dry + wet * (base.B - dry)) / np.maximum(base.B, 1e-12)
    r("t_u", "", t, "m", note="thickness of the upper stratum below the base")
    r("B_1", "", base.B, "m", note="B′ at the underside")
    r("L_1", "", base.L, "m", note="L′ at the underside")
    r("s_1", "B_1/max(L_1, 1e-12)", base.shape, "", note="B′/L′")
    r("sigma_0", "", base.overburden, "kPa", note="stress at the underside, beside the base")
    r("a_s", "", a, "", "setting", "load spread, sideways for each metre down")
    r("B_2", "B_1 + 2*a_s*t_u", wide_B, "m", note="base spread to the interface")
    r("L_2", "L_1 + 2*a_s*t_u", wide_L, "m")
    lower = replace(
        base, depth=np.zeros_like(base.depth), cohesion=cohesion, phi=phi, overburden=effective, weight=weight, tilt=0.0, slope=0.0
    )  # fmt: skip
    clay = replace(lower, cohesion=strength, overburden=total, weight=of("weight_saturated"))
    levels = {"e": effective, "t": total}
    found: dict[str, Array] = {}
    for which, one, stress in (("d", lower, "e"), ("u", clay, "t")):
        wanted = kinds.drained if which == "d" else kinds.undrained
        if not wanted.any():
            continue
        r(
            f"sigma_i{which}",
            "",
            levels[stress],
            "kPa",
            note=f"{'effective' if which == 'd' else 'total'} stress at the interface",
        )
        for size, B, L in (("", base.B, base.L), ("S", wide_B, wide_L)):
            q = ((method.drained if which == "d" else method.undrained)(replace(one, B=B, L=L), r)).pressure
            r(f"q_b{size}{which}", "q_ult", q, "kPa", note="on the next stratum, at the interface")
            lifted = (
                base.overburden + (q - levels[stress]) * (B * L) / np.maximum(base.B * base.L, 1e-12)
                if size
                else q - (levels[stress] - base.overburden)
            )
            formula = (
                f"sigma_0 + (q_bS{which} - sigma_i{which})*B_2*L_2/max(B_1*L_1, 1e-12)"
                if size
                else f"q_b{which} - (sigma_i{which} - sigma_0)"
            )
            r(f"q_2{size}{which}", formula, lifted, "kPa", note="seen from the level of the base")
            found[size + which] = np.where(wanted, np.maximum(lifted, 0.0), np.inf)
    results = {}
    for size in ("", "S"):
        names = [w for w in ("d", "u") if size + w in found]
        q = found[size + names[0]] if names else np.full(np.shape(base.overburden), np.inf)
        for w in names[1:]:
            q = np.minimum(q, found[size + w])
        # rock without strengths: it bears more than what lies on it
        q = np.where(np.isfinite(q), q, 1e6)
        for w in names:
            r(f"k_{w}", "", np.where(kinds.drained if w == "d" else kinds.undrained, 0.0, 1.0), "", note="0 where it counts")  # fmt: skip
        parts = [f"where(k_{w} < 0.5, max(q_2{size}{w}, 0), 1e6)" for w in names]
        formula = "" if not parts else parts[0] if len(parts) == 1 else f"min({', '.join(parts)})"
        r(f"q_2{size}", formula, q, "kPa", note="the next stratum alone" + (", load spread" if size else ""))
        results[size] = q
    return _Interface(
        depth=t, alone=results[""], spread=results["S"], effective_below=effective,
        is_undrained=kinds.undrained & ~kinds.drained, strength=strength,
    )  # fmt: skip


def _weighted(
    bench: Bench, base: Base, own: Ultimate, founding: Array, reach: Array, drainage: str, method: Method, factors: Factors, r: Recorder,
    wanted: bool,
) -> tuple[Array, Array]:  # fmt: skip
    """Resistance with strengths averaged over the failure depth, weighted by thickness."""
    profile = bench.profile
    assert profile is not None
    if not wanted:
        r("q_m", "", own.pressure, "kPa", note="weighted means: not used")
        return own.pressure, own.slides
    level = bench.geometry.underside[..., None]
    count = len(profile.soils)
    top = np.broadcast_to(profile.top, (len(bench.index), count))[:, None, :]
    bottom = np.broadcast_to(profile.bottom, (len(bench.index), count))[:, None, :]
    upper, lower = np.minimum(top, level), np.maximum(bottom, level - reach[..., None])
    thick = np.maximum(upper - lower, 0.0)
    if drainage == "drained":
        usable = parameter(profile, "friction_angle") > 0
        share = thick * usable
        share = share / np.maximum(share.sum(-1, keepdims=True), 1e-12)
        tan_phi = (share * np.tan(np.deg2rad(parameter(profile, "friction_angle")))).sum(-1) / factors.tan_phi
        cohesion = (share * parameter(profile, "cohesion")).sum(-1) / factors.cohesion
        averaged = replace(base, phi=np.arctan(np.maximum(tan_phi, 1e-6)), cohesion=cohesion)
    else:
        usable = parameter(profile, "undrained_strength") > 0
        share = thick * usable
        share = share / np.maximum(share.sum(-1, keepdims=True), 1e-12)
        middle = np.maximum(top - (upper + lower) / 2, 0.0)
        strength = (
            parameter(profile, "undrained_strength")
            + parameter(profile, "undrained_strength_gradient") * middle
        )
        averaged = replace(base, cohesion=(share * strength).sum(-1) / factors.undrained)
    r("d_f", "", reach, "m", "Prandtl 1920", "depth that the failure reaches, for the means")
    found = (method.drained if drainage == "drained" else method.undrained)(averaged, r)
    r("q_m", "q_ult", found.pressure, "kPa", note="weighted means of the strengths over the failure depth")
    return found.pressure, found.slides


def _deeper(
    bench: Bench, base: Base, below: Array, drainage: str, method: Method, factors: Factors, water: Array, q: Array, code: Array, r: Recorder
) -> tuple[Array, Array, tuple[str, ...]]:  # fmt: skip
    """(resistance, mechanism, what is lacking by candidate) with the strata below the next one, reached by load spread."""
    profile = bench.profile
    assert profile is not None
    count = len(profile.soils)
    following = np.append(next_other(profile), count)
    deep, least, governing = below, np.full(q.shape, 1e6), np.zeros(q.shape, dtype=int)
    tops = np.broadcast_to(profile.top, (len(bench.index), count))
    short = [""] * len(bench.index)
    for number, name in enumerate(FURTHER, 3):
        deep = following[deep]
        lacking, ways = _answering(profile, bench.founding_stratum(), deep, drainage)
        level = np.take_along_axis(tops, np.minimum(deep, count - 1)[:, None], axis=-1)
        near = ((bench.geometry.underside - level) < REACH * base.B).any(axis=-1) & (deep < count)
        short = [s or (text if ok else "") for s, text, ok in zip(short, lacking, near)]
        near &= np.array([not text for text in lacking])
        if not near.any():
            continue
        s = r.scope(f"stratum {number}")
        found = _interface(bench, base, deep, ways, method, factors, water, drainage, s)
        less = near[:, None] & (found.spread < least)
        least, governing = np.where(less, found.spread, least), np.where(less, name, governing)
    r("q_D", "", least, "kPa", note="load spread to strata further down; 1e6: none near")
    governs = least < q - 1e-9
    return np.where(governs, least, q), np.where(governs, governing, code), tuple(short)
