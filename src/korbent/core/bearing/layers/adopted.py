"""Bearing resistance where other strata begin below the base: all mechanisms, and which is adopted.

The least counts of: the stratum below the base alone (raised only where a weak clay is squeezed, or where the stratum
is a film), the weighted means of the strengths, punching through the whole pack above each further stratum, and load
spread down to it. No threshold switches between them: where strata are cut makes no difference, and more strength never
bears less."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from korbent.core.bearing.layers.means import AT_ZERO, weighted_means
from korbent.core.bearing.layers.seen import (
    AT_LEAST,
    SOUND,
    TOGETHER,
    Looking,
    Seen,
    from_level,
    leaning,
    look_together,
    mean_over,
    raised,
    stacked,
    strata_seen,
)
from korbent.core.bearing.layers.strata import Stratum, answers, lacks, strata_below
from korbent.core.bearing.methods.method import Footing, Method, Ultimate
from korbent.core.bench import Bench
from korbent.core.model.ground import Soil
from korbent.core.working import Array, Recorder, Silent
from korbent.words import say

ALONE, MEANS, PUNCHING, SPREAD, WEAK, SQUEEZING, FILM, PARABOLA = range(8)
MECHANISMS = (
    say("the stratum alone"),
    say("weighted means"),
    say("punching"),
    say("load spread"),
    say("weak stratum alone"),
    say("squeezing"),
    say("mean of what lies near"),
    say("Meyerhof's parabola"),
)
COUNTED = {"punching": (PUNCHING,), "load_spread": (SPREAD,), "lesser": (PUNCHING, SPREAD)}
"""The mechanisms that count, by setting."""
MEYERHOF_HANNA = "Meyerhof and Hanna 1978"
BROWN_MEYERHOF = "Brown and Meyerhof 1969"
CLAY_SHARE = 0.75
"""Share of c_u on punching planes: the 1.5 t/B of Brown and Meyerhof (1969) for clay over clay."""
SAME = 1e-12
"""Relative difference up to which two resistances are one."""
WARNED = 5.0
"""So many widths down a stratum that lacks parameters is named."""


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
    reached: Array
    """Index in the profile of the stratum to which the adopted mechanism reaches (that below the base where it reaches
    none)."""
    values: dict[int, Array]
    """Resistance by mechanism, kPa; infinite where it is not possible."""
    contrast: Array
    """Resistance of the next stratum alone over that of the stratum below the base."""
    depth: Array
    """From the base to the next stratum, m, (candidates, 1); very large where there is none."""
    soils: tuple[Soil, ...]
    below: tuple[str, ...]
    """Name of the next stratum by candidate, '' where there is none or it lacks what is needed."""
    lacking: tuple[str, ...]
    """By candidate: what the next stratum lacks."""
    further: tuple[str, ...]
    """By candidate: what a stratum below the next one lacks, within reach."""
    failure_depth: Array
    spread: float

    def reason(self, candidate: int, column: int) -> str:
        """The adopted mechanism and why, in a line."""
        if not self.below[min(candidate, len(self.below) - 1)]:
            return ""
        code = int(self.at(self.mechanism, candidate, column))
        return f"{MECHANISMS[code]}: {self.why(code, candidate, column)}"

    def at(self, values: Array, candidate: int, column: int) -> float:
        """One value of an array."""
        rows, columns = values.shape
        return float(values[min(candidate, rows - 1), min(column % self.pressure.shape[-1], columns - 1)])

    def why(self, code: int, candidate: int, column: int) -> str:
        """Why a mechanism gives what it gives."""
        name = self.below[min(candidate, len(self.below) - 1)]
        r, t = self.at(self.contrast, candidate, column), self.at(self.depth, candidate, column)
        d = self.at(self.failure_depth, candidate, column)
        strong = say("{name} begins {t:.2f} m below and bears {r:.2f} times as much alone", name=name, t=t, r=r)
        to = self.soils[int(self.at(self.reached, candidate, column))].name
        return {
            ALONE: say("{strong}; the failure reaches {d:.2f} m down", strong=strong, d=d),
            MEANS: say("{strong}; averaged over the {d:.2f} m that the failure reaches", strong=strong, d=d),
            PUNCHING: say("{strong}; punched down to {to}", strong=strong, to=to),
            SPREAD: say(
                "{strong}; spread 1 down to {spread:.2f} sideways, as far as {to}",
                strong=strong,
                spread=self.spread,
                to=to,
            ),
            WEAK: say("{strong}; squeezing is not chosen or not possible", strong=strong),
            SQUEEZING: say("{strong}: the weak clay is squeezed between the base and it", strong=strong),
            PARABOLA: say("{strong}; Meyerhof's parabola over the depth", strong=strong),
            FILM: say("{strong}; a film, so that it counts by its thickness over B′/20", strong=strong),
        }[code]


def place_of(mechanism: Array, reached: Array) -> Array:
    """Mechanism and stratum reached as one number, for drawings."""
    found: Array = mechanism + len(MECHANISMS) * reached
    return found


def from_place(place: float) -> tuple[int, int]:
    """(mechanism, index of the stratum reached) from :func:`place_of`."""
    reached, mechanism = divmod(int(place), len(MECHANISMS))
    return mechanism, reached


def passive(phi: Array, delta: Array) -> Array:
    """Coefficient of passive earth pressure normal to a vertical wall with friction (EN 1997-1 C.2, stresses
    rotated)."""
    sine = np.maximum(np.sin(phi), 1e-12)
    m_t = np.pi / 4 - phi / 2
    turned = np.arccos(np.clip(np.sin(delta) / sine, -1.0, 1.0))
    m_w = (turned - phi - delta) / 2
    K: Array = (1 + sine * np.sin(turned - delta)) / (1 - sine) * np.exp(2 * (m_t - m_w) * np.tan(phi))
    return K


def layered(
    bench: Bench,
    base: Footing,
    own: Ultimate,
    drainage: str,
    method: Method,
    factors: Factors,
    water: Array,
    record: Recorder,
    symbol: str,
) -> Layered | None:
    """The resistance with the strata further down; None where no candidate has another stratum below it.

    Args:
        base, own: the base on the stratum below it, and its resistance there by ``method``.
        water: levels by situation, m.
        symbol: under which the resistance was recorded.
    """
    if bench.profile is None:
        return None
    strata = strata_below(bench, base, drainage, factors)
    founding = bench.founding_stratum()
    others = [s.begins & (s.number != founding[:, None]) for s in strata]
    if not any(o.any() for o in others):
        return None
    names, lacking, further, depth = _next(bench, base, drainage, strata, others)
    r = record.scope("layers")
    r.step("q_1", symbol, own.pressure, "kPa", note=say("the stratum below the base alone"))
    r.given("B_1", base.B, "m", note=say("B′ at the underside"))
    r.given("L_1", base.L, "m", note=say("L′ at the underside"))
    r.step("s_1", "B_1/max(L_1, 1e-12)", base.shape, note="B′/L′")
    r.given("sigma_0", base.overburden, "kPa", note=say("stress at the underside, beside the base"))
    settings = bench.settings
    by_depth = settings.weak_over_strong == "Meyerhof 1974"
    inclined = leaning(base, method, r) if (settings.squeezing or by_depth) and drainage == "undrained" else None
    _ = base.H, base.exponent  # once for all strata, which see the base by other sizes or strengths
    looking = Looking(bench, base, own, drainage, method, water, strata, inclined)
    if isinstance(record, Silent):
        look_together(looking)
    narrow, wide = (strata_seen(looking, w, r) for w in (False, True))
    near = raised(looking, narrow, 0, r, "q_N", "n")
    squeezed = (near > own.pressure * (1 + SAME)) & settings.squeezing & (inclined is not None)
    means, reach = _means(looking, narrow, r)
    down = _down(looking, (narrow, wide), others, founding, r)
    best, contrast = down.best, down.contrast
    plain = np.where((contrast > 1.0) & (depth < reach), WEAK, ALONE)
    adopted = _adopted(looking, down, near, means, squeezed, plain, founding)
    counted = ", ".join("q_P" if c == PUNCHING else "q_S" for c in COUNTED[settings.layer_mechanism])
    r.step(symbol, f"min(q_N, q_M, {counted})", adopted.pressure, "kPa", note=say("with all strata"))
    weak = np.where(contrast > 1.0, near, np.inf)
    return Layered(
        pressure=adopted.pressure,
        slides=own.slides,
        mechanism=adopted.mechanism,
        reached=adopted.reached,
        values={
            ALONE: own.pressure,
            MEANS: means,
            PUNCHING: best[PUNCHING],
            SPREAD: best[SPREAD],
            WEAK: weak,
            SQUEEZING: np.where(squeezed, near, np.inf),
            FILM: near,
            PARABOLA: near,
        },
        contrast=contrast,
        depth=depth,
        soils=bench.profile.soils,
        below=names,
        lacking=lacking,
        further=further,
        failure_depth=reach,
        spread=settings.load_spread,
    )


class _Down(NamedTuple):
    """What the strata further down bear by punching and by load spread, the least of all of them."""

    best: dict[int, Array]
    reached: dict[int, Array]
    """Down to which stratum."""
    contrast: Array
    """The first other stratum by itself over that below the base."""


def _down(
    looking: Looking, seen: tuple[list[Seen], list[Seen]], others: list[Array], founding: Array, r: Recorder
) -> _Down:
    """Stratum by stratum, with what holds the sides of the block on the way. ``seen``: as narrow as the base, and as
    wide as its load has spread."""
    own, strata, narrow = looking.own, looking.strata, seen[0]
    shape = np.broadcast(own.pressure, looking.base.overburden, looking.base.B).shape
    best = {PUNCHING: np.full(shape, np.inf), SPREAD: np.full(shape, np.inf)}
    reached = {code: np.zeros(shape, dtype=int) + founding[:, None] for code in best}
    side, contrast = np.zeros(shape), np.ones(shape)
    # at once what the processor's memory holds
    many = max(TOGETHER // own.pressure.size, 1)
    first = np.ones((shape[0], 1), dtype=bool)
    known = {PUNCHING: "", SPREAD: ""}
    r.given("f_0", side, "kPa", note=say("on the sides of the punched block"))
    for place, (one, other) in enumerate(zip(strata, others)):
        exists = other & (one.known | one.bears_all)
        if exists.any():
            found = _reaching(looking, seen, place, exists, side, r)
            for which, value in found.items():
                less = value < best[which]
                best[which] = np.where(less, value, best[which])
                reached[which] = np.where(less, one.number, reached[which])
                known[which] += f", q_{'P' if which == PUNCHING else 'S'}{place + 1}"
            alone = narrow[place].bears / np.maximum(own.pressure, 1e-9)
            contrast = np.where(first & exists, alone, contrast)
            first = first & ~other
        if place % many == 0:
            sides = _sides(looking, place, place + many)
        side = side + sides.found[place % many]
        if not isinstance(r, Silent):
            _record_side(looking, sides, r, place, place % many)
            r.step(
                f"f_{place + 1}",
                f"f_{place} + f_s{place + 1}",
                side,
                "kPa",
                note=say("on the sides of the block down to its end"),
            )
    for which, sign in ((PUNCHING, "P"), (SPREAD, "S")):
        text = known[which].removeprefix(", ")
        formula = f"min({text})" if "," in text else text
        r.step(
            f"q_{sign}",
            formula,
            np.minimum(best[which], 1e9),
            "kPa",
            reference=MEYERHOF_HANNA if sign == "P" else "",
            note=say("{mechanisms}, the least", mechanisms=MECHANISMS[which]),
        )
    return _Down(best, reached, contrast)


class _Adopted(NamedTuple):
    pressure: Array
    mechanism: Array
    reached: Array


def _adopted(
    looking: Looking, down: _Down, near: Array, means: Array, squeezed: Array, plain: Array, founding: Array
) -> _Adopted:
    """The least of what counts, by which mechanism, down to which stratum. ``plain``: what it is called where nothing
    below is less."""
    own, settings = looking.own, looking.bench.settings
    shape = np.broadcast(own.pressure, looking.base.overburden, looking.base.B).shape
    q: Array = near
    otherwise = PARABOLA if settings.weak_over_strong == "Meyerhof 1974" else FILM
    code: Array = np.where(near > own.pressure * (1 + SAME), np.where(squeezed, SQUEEZING, otherwise), plain)
    to = np.zeros(shape, dtype=int) + founding[:, None]
    for mechanism, value in ((MEANS, means), *((c, down.best[c]) for c in COUNTED[settings.layer_mechanism])):
        less = value < q * (1 - SAME)
        q, code = np.where(less, value, q), np.where(less, mechanism, code)
        if mechanism in down.reached:
            to = np.where(less, down.reached[mechanism], to)
    return _Adopted(*(np.broadcast_to(v, shape) for v in (q, code, to)))


def _means(at: Looking, seen: list[Seen], r: Recorder) -> tuple[Array, Array]:
    """(weighted means in kPa, depth of the failure in m): of strengths drained, of resistances undrained."""
    base, level = at.base, at.bench.geometry.underside
    least = AT_ZERO * base.B
    near, _ = mean_over(from_level(at, seen, 0, least, r, False), least)
    r.given("q_near", near, "kPa", note=say("mean of what the strata bear alone, over B′/√2"), needs="B_1")
    if at.drainage == "undrained":
        r.step("q_M", "q_near", near, "kPa", note=say("mean over the depth of the failure"))
        return near, least
    by_angle = at.bench.settings.means_of == "phi"
    return weighted_means(base, at.strata, level, near, at.method, r, by_angle)


def _next(
    bench: Bench, base: Footing, drainage: str, strata: list[Stratum], others: list[Array]
) -> tuple[tuple[str, ...], tuple[str, ...], tuple[str, ...], Array]:
    """(name of the next stratum, what it lacks, what those further down within reach lack) by candidate, and its
    depth."""
    profile = bench.profile
    assert profile is not None
    count, founding = len(bench.index), bench.founding_stratum()
    names, lacking, further = (np.full(count, "", dtype=object) for _ in range(3))
    depth = np.full((count, 1), 1e9)
    reach = WARNED * np.broadcast_to(base.B.max(axis=-1), (count,))
    seen = np.zeros(count, dtype=bool)
    for one, other in zip(strata, others):
        begins = other[:, 0]
        t = (bench.geometry.underside - one.top)[:, 0]
        for i in set(founding[begins].tolist()):
            text = lacks(one.soil, *answers(profile.soils[i], one.soil, drainage))
            rows = begins & (founding == i)
            names[rows & ~seen], lacking[rows & ~seen] = ("" if text else one.soil.name), text
            further[rows & seen & (t < reach) & (further == "")] = text
        depth = np.where((begins & ~seen)[:, None], t[:, None], depth)
        seen |= begins
    return tuple(names), tuple(lacking), tuple(further), depth


def _reaching(
    at: Looking, seen: tuple[list[Seen], list[Seen]], place: int, exists: Array, side: Array, r: Recorder
) -> dict[int, Array]:
    """Punching and load spread down to a stratum, kPa; infinite where it does not begin."""
    name, n = at.strata[place].soil.name, place + 1
    narrow, wide = seen
    r.given("k_there", np.where(exists, 1.0, 0.0), note=say("1 where {name} begins", name=name))
    punched = raised(at, narrow, place, r, f"q_A{n}", "n")
    r.step(
        f"q_P{n}",
        f"where(k_there > 0.5, q_A{n} + f_{place}, 1e9)",
        np.where(exists, punched + side, 1e9),
        "kPa",
        reference=MEYERHOF_HANNA,
        note=say("punching to {name}", name=name),
    )
    spread = raised(at, wide, place, r, f"q_W{n}", "w")
    r.step(
        f"q_S{n}",
        f"where(k_there > 0.5, q_W{n}, 1e9)",
        np.where(exists, spread, 1e9),
        "kPa",
        note=say("load spread to {name}", name=name),
    )
    return {PUNCHING: np.where(exists, punched + side, np.inf), SPREAD: np.where(exists, spread, np.inf)}


class Sides(NamedTuple):
    """What the sides of the punched block bear in the strata that it passes, kPa on the effective area, and what leads
    to it; arrays (strata, candidates, situations)."""

    phi: Array
    delta: Array
    K_p: Array
    below_water: Array
    stresses: tuple[Array, Array, Array]
    """Effective, kPa: at the top of each, at the water or its edge nearer to it, at its bottom."""
    pressed: Array
    drained: Array
    undrained: Array
    found: Array


def _sides(at: Looking, first: int, end: int) -> Sides:
    """Of the strata from the first up to, not including, the end."""
    base, share, strata = at.base, at.bench.settings.punching_share, at.strata[first:end]
    around = (1 + base.shape) / np.maximum(base.B, 1e-9)
    (top, wet, bottom), (top_stress, wet_stress, bottom_stress) = (v[:, first:end] for v in at.edges)
    pressed = (top - wet) * (top_stress + wet_stress) + (wet - bottom) * (wet_stress + bottom_stress)
    below_water, top_stress, wet_stress, bottom_stress, pressed = map(
        at.in_situations, (wet - bottom, top_stress, wet_stress, bottom_stress, pressed)
    )

    def of(pick: Callable[[Stratum], Array]) -> Array:
        return stacked([pick(one) for one in strata])

    tan_phi, cohesion, thick = of(lambda s: s.tan_phi), of(lambda s: s.cohesion), of(lambda s: s.thick)
    phi = np.arctan(tan_phi)
    delta = share * phi
    K_p = passive(phi, delta)
    drained = around * (2 * share * cohesion * thick + pressed * K_p * np.tan(delta))
    undrained = around * 2 * CLAY_SHARE * of(lambda s: s.passed())
    found = np.minimum(
        np.where(of(lambda s: s.drained), drained, np.inf), np.where(of(lambda s: s.undrained), undrained, np.inf)
    )
    found = np.where(of(lambda s: s.known) & np.isfinite(found), found, 0.0)
    bears_all = of(lambda s: s.bears_all)
    if bears_all.any():
        # sound rock is not punched, a film of it as little as its thickness
        rock = SOUND * np.minimum(thick / np.maximum(AT_LEAST * base.B, 1e-9), 1.0)
        found = np.where(bears_all, rock, found)
    stresses = (top_stress, wet_stress, bottom_stress)
    return Sides(phi, delta, K_p, below_water, stresses, pressed, drained, undrained, found)


def _record_side(at: Looking, sides: Sides, r: Recorder, place: int, at_place: int) -> None:
    """How one stratum that is passed comes to what it bears."""
    one, share = at.strata[place], at.bench.settings.punching_share
    name, n = one.soil.name, place + 1
    phi, delta, K_p, below_water, pressed, drained, undrained, found = (v[at_place] for v in (*sides[:4], *sides[5:]))
    top_stress, wet_stress, bottom_stress = (v[at_place] for v in sides.stresses)
    r.given(f"t_{n}", one.thick, "m", note=say("thickness of {name} that is passed", name=name))
    if one.drained.any():
        r.given("k_s", share, reference=say("setting"), note=say("δ/φ and share of c on the punching planes"))
        r.given(f"phi_{n}", phi, "rad", note=say("friction angle of {name}", name=name))
        r.given(f"c_{n}", one.cohesion, "kPa", note=say("its cohesion"))
        r.step(f"delta_{n}", f"k_s*phi_{n}", delta, "rad")
        r.given(
            f"K_p{n}",
            K_p,
            reference="EN 1997-1 C.2",
            note=say("passive, on a wall with the friction δ"),
            needs=f"phi_{n} delta_{n}",
        )
        r.given(f"sigma_a{n}", top_stress, "kPa", note=say("effective stress where {name} begins", name=name))
        r.given(f"sigma_b{n}", bottom_stress, "kPa", note=say("where it ends"))
        r.given(f"t_w{n}", below_water, "m", note=say("of it below water"))
        r.given(
            f"sigma_w{n}",
            wet_stress,
            "kPa",
            note=say("effective stress at the water, or at its end nearer to it"),
        )
        r.step(
            f"P_{n}",
            f"(t_{n} - t_w{n})*(sigma_a{n} + sigma_w{n}) + t_w{n}*(sigma_w{n} + sigma_b{n})",
            pressed,
            "kN/m",
            note=say("twice the stress over its thickness"),
        )
        r.step(
            f"f_d{n}",
            f"(1 + s_1)*(2*k_s*c_{n}*t_{n} + P_{n}*K_p{n}*tan(delta_{n}))/max(B_1, 1e-9)",
            drained,
            "kPa",
            reference=MEYERHOF_HANNA,
        )
    if one.undrained.any():
        r.given(
            f"c_u{n}",
            one.at_top + one.gradient * one.thick / 2,
            "kPa",
            note=say("mean undrained strength of {name}", name=name),
        )
        r.step(
            f"f_u{n}",
            f"(1 + s_1)*2*{CLAY_SHARE}*c_u{n}*t_{n}/max(B_1, 1e-9)",
            undrained,
            "kPa",
            reference=BROWN_MEYERHOF,
        )
    ways = [f"f_{w}{n}" for w, some in (("d", one.drained), ("u", one.undrained)) if some.any()]
    counts = bool(np.all(one.known)) and len(ways) == 1 and not np.any(one.bears_all)
    r.step(
        f"f_s{n}",
        ways[0] if counts else "",
        found,
        "kPa",
        note=say("on the sides in {name}", name=name),
        needs="" if counts else " ".join(ways),
    )
