"""What the strata at a level bear below the base, seen from its underside."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import NamedTuple

import numpy as np

from korbent.core.bearing.layers.means import AT_ZERO
from korbent.core.bearing.layers.strata import Stratum, stress_at, weight_below
from korbent.core.bearing.methods.method import Footing, Method, Ultimate
from korbent.core.bench import Bench
from korbent.core.model.labels import label
from korbent.core.working import SILENT, Array, Recorder, Silent
from korbent.words import say

AT_LEAST = 1 / 20
"""Strata are averaged over no less than this share of B′, so that a film matters as much as its thickness."""
SQUEEZE = "Mandel and Salençon 1972"
SOUND = 1e6
"""Resistance of rock without strength parameters, kPa."""


@dataclass(frozen=True)
class Looking:
    """What all levels share."""

    bench: Bench
    base: Footing
    own: Ultimate
    drainage: str
    method: Method
    water: Array
    strata: list[Stratum]
    inclined: Array | None
    """Where squeezing is chosen: what an inclined load leaves of it (see :func:`leaning`)."""
    borne: dict["Asked", Array] = field(default_factory=dict)
    """What strata bear alone, as far as it was looked at together (see :func:`look_together`)."""

    @cached_property
    def waters(self) -> tuple[Array, Array]:
        """The levels of the water, and which of them belongs to each situation."""
        return np.unique(self.water, return_inverse=True)

    @cached_property
    def edges(self) -> tuple[Array, Array]:
        """Levels of the top of the strata, of the water or their edge nearer to it, and of their bottom, and the
        effective stress there, kPa:
        (edges, strata, candidates, levels of the water)."""
        levels = self.waters[0]
        found = []
        for one in self.strata:
            bottom = one.top - one.thick
            wet = np.clip(levels, bottom, one.top)
            found += [one.top + 0.0 * wet, wet, bottom + 0.0 * wet]
        stress = stress_at(self.bench, np.stack(found), levels, "effective")
        places, stresses = (
            np.asarray(v).reshape(len(self.strata), 3, *v[0].shape).swapaxes(0, 1) for v in (np.stack(found), stress)
        )
        return places, stresses

    def stress(self, level: Array, kind: str) -> Array:
        """Stress beside the base at levels (..., candidates, 1) in every situation, kPa."""
        return self.in_situations(stress_at(self.bench, level, self.waters[0], kind))

    def in_situations(self, values: Array) -> Array:
        """What depends on a situation by its water only, (..., levels of the water), for every situation."""
        found: Array = values[..., self.waters[1]]
        return found


class Asked(NamedTuple):
    """Which stratum is asked what it bears alone, at the top of which, and whether the load has spread down to
    there."""

    place: int
    first: int
    wide: bool


def leaning(base: Footing, method: Method, record: Recorder) -> Array:
    """What the inclination of the load leaves of the resistance of clay, as the method says."""
    upright = base.but(H_B=0.0 * base.H_B, H_L=0.0 * base.H_L)
    bears, at_most = (method.undrained(b).pressure - b.overburden for b in (base, upright))
    found: Array = np.clip(bears / np.maximum(at_most, 1e-9), 0.0, 1.0)
    record.given("k_i", found, note=say("inclination, as the method says for clay"), needs="q_1")
    return found


class Seen(NamedTuple):
    """A stratum as a base finds it: where it begins below the underside, its thickness, how much wider the base is
    there, m, and what it bears alone, kPa seen from the underside."""

    place: int
    """Among the strata that are looked at."""
    stratum: Stratum
    begins: Array
    wider: Array | float
    thick: Array
    bears: Array


def strata_seen(at: Looking, wide: bool, record: Recorder) -> list[Seen]:
    """What each stratum bears alone under the base on it, with the depth factors of the base on both sides of a
    contrast.

    Args:
        wide: with the load spread down to it, else at the size of the base.
    """
    if wide:
        record.given(
            "a_s",
            at.bench.settings.load_spread,
            reference=say("setting"),
            note=say("load spread, sideways for each metre down"),
        )
    return [
        Seen(
            place,
            one,
            _begins(at, one),
            _wider(at, place, wide),
            _counted(one),
            _borne(at, Asked(place, place, wide), record),
        )
        for place, one in enumerate(at.strata)
    ]


def _begins(at: Looking, one: Stratum) -> Array:
    return np.asarray(at.bench.geometry.underside - one.top)


def _wider(at: Looking, place: int, wide: bool) -> Array | float:
    """How much wider the base is where a stratum begins, m."""
    return 2 * at.bench.settings.load_spread * _begins(at, at.strata[place]) if wide else 0.0


def _counted(one: Stratum) -> Array:
    """The thickness with which a stratum counts in means, m."""
    return np.where(one.known | one.bears_all, one.thick, 0.0)


def from_level(at: Looking, seen: list[Seen], first: int, depth: Array, record: Recorder, wide: bool) -> list[Seen]:
    """The strata from ``first`` down to ``depth`` as a base where that one begins would find each alone.

    So a mean of them does not depend on where a stratum is cut.
    """
    own = seen[first]
    found = [own if first or wide else own._replace(bears=at.own.pressure)]
    for one in seen[first + 1 :]:
        if ((one.begins < own.begins + depth) & (one.thick > 0.0)).any():
            found.append(one._replace(bears=_borne(at, Asked(one.place, first, wide), record)))
    return found


def mean_over(seen: list[Seen], depth: Array) -> tuple[Array, list[Array]]:
    """Mean resistance by thickness over a depth below where the first stratum begins, and the thickness of each within
    it."""
    start = seen[0].begins
    lengths = [np.clip(start + depth - s.begins, 0.0, s.thick) for s in seen]
    if len(seen) == 1:
        return seen[0].bears, lengths
    whole = sum(lengths)
    mean = sum(s.bears * length for s, length in zip(seen, lengths)) / np.maximum(whole, 1e-12)
    # without any thickness the first one counts
    return np.where(whole > 1e-12, mean, seen[0].bears), lengths


def raised(at: Looking, seen: list[Seen], first: int, record: Recorder, symbol: str, size: str) -> Array:
    """What a stratum bears with those below it: more than alone only where it is a film, or clay that is squeezed, kPa.

    A film counts by its thickness in the mean over B'/20. Where squeezing is chosen, the least over all depths z from
    there to B'/2 of the mean and what its clay bears more by squeezing."""
    B, L = at.base.B + seen[first].wider, at.base.L + seen[first].wider
    least = AT_LEAST * B
    parabola = at.bench.settings.weak_over_strong == "Meyerhof 1974"
    deepest = _deepest(at, B)
    record.step(
        f"q_{size}a",
        f"q_{size}{first + 1}" if first or size == "w" else "q_1",
        seen[first].bears if first or size == "w" else at.own.pressure,
        "kPa",
        note=say("that stratum alone"),
    )
    near = from_level(at, seen, first, deepest, record, size == "w")
    if len(near) == 1 and at.inclined is None and isinstance(record, Silent):
        return near[0].bears  # nothing else comes near enough
    depths = [least]
    if at.inclined is not None:
        depths += [B / 2, *(np.clip(s.begins - near[0].begins + s.thick, least, B / 2) for s in near)]
    names = []
    found: Array = np.array(np.inf)
    for number, depth in enumerate(depths, 1):
        mean, lengths = mean_over(near, depth)
        name = _record_mean(near, first, mean, lengths, record, size, number)
        if at.inclined is not None:
            name, mean = _squeezed(at, near, lengths, mean, depth, B, L, record, name)
        names.append(name)
        found = np.minimum(found, mean)
    least_of = f"min({', '.join(names)})" if len(names) > 1 else names[0]
    what = near[0].stratum.soil.name
    if parabola:
        by_depth = _parabola(at, near, B, record, size)
        if at.inclined is None:
            least_of += f", q_{size}y"
            found = np.maximum(found, by_depth)
        elif not at.bench.settings.squeezing:  # clay bears no more than it is squeezed
            least_of = f"min({', '.join(names)}, q_{size}y)"
            found = np.minimum(found, by_depth)
    found = np.maximum(near[0].bears, found)
    record.step(
        symbol, f"max(q_{size}a, {least_of})", found, "kPa", note=say("{what}, with what lies near below", what=what)
    )
    return found


def _deepest(at: Looking, B: Array) -> Array:
    """How far down strata can raise what the one on top of them bears, m."""
    found = AT_LEAST * B if at.inclined is None else B / 2
    if at.bench.settings.weak_over_strong == "Meyerhof 1974":
        found = np.maximum(found, REACH[at.drainage] * B)
    return np.asarray(found)


REACH, POWER = {"drained": 0.6, "undrained": 1.0}, {"drained": 3, "undrained": 2}
"""Widths below the base up to which a stronger stratum is felt, and how it fades. Meyerhof (1974) takes a parabola over
2 widths for sands and over 1 for clays; rigorous upper bounds of strips lie below that, so that sands count by a cubic
over 0.6 and clays bear no more than they are squeezed."""


def _parabola(at: Looking, near: list[Seen], B: Array, record: Recorder, size: str) -> Array:
    """Weak over strong in the way of Meyerhof (1974): q_t + (q_b - q_t) (1 - t/H)^n, kPa; over less depth than his (see
    REACH).

    Written as the mean of what the strata bear with the weight n (1 - z/H)^(n-1)/H over the depth z: over one strong
    stratum it is that, a stratum cut in two changes nothing, and a film counts by its thickness."""
    reach = np.maximum(REACH[at.drainage] * B, 1e-9)
    level, first = near[0].begins, near[0].bears
    found, rest = 0.0 * first, 1.0 + 0.0 * first
    for one in near:
        begins = np.maximum(one.begins - level, 0.0)
        above, below = (np.maximum(1 - z / reach, 0.0) ** POWER[at.drainage] for z in (begins, begins + one.thick))
        share = np.where(one.stratum.known | one.stratum.bears_all, above - below, 0.0)
        found, rest = found + one.bears * share, rest - share
    # what is not known bears as the first one
    found = np.asarray(found + np.maximum(rest, 0.0) * first)
    record.given(
        f"q_{size}y",
        found,
        "kPa",
        reference="Meyerhof 1974",
        note=say(
            "{value} over {reach:g} B′",
            value=say("parabola") if POWER[at.drainage] == 2 else say("cubic"),
            reach=REACH[at.drainage],
        ),
        needs="B_1",
    )
    return found


def _record_mean(
    near: list[Seen], first: int, mean: Array, lengths: list[Array], record: Recorder, size: str, number: int
) -> str:
    """Records a mean by thickness; its symbol."""
    if isinstance(record, Silent):
        return ""
    terms = []
    for one, length in zip(near, lengths):
        place = one.place + 1
        if one is near[0] or np.any(length > 0.0):
            if one is near[0]:
                record.step(
                    f"q_{size}l{place}",
                    f"q_{size}a",
                    one.bears,
                    "kPa",
                    note=say("{soil} alone", soil=one.stratum.soil.name),
                )
            record.given(f"l_{size}{place}", length, "m", note=say("of it within the mean"), needs="B_1")
            terms.append((f"q_{size}l{place}", f"l_{size}{place}"))
    over, total = " + ".join(f"{n}*{of}" for n, of in terms), " + ".join(of for _, of in terms)
    name = f"q_{size}m{number}"
    formula = f"where({total} > 1e-12, ({over})/max({total}, 1e-12), {terms[0][0]})" if len(terms) > 1 else terms[0][0]
    record.step(name, formula, mean, "kPa", note=say("mean by thickness over a depth below that level"))
    return name


def _squeezed(
    at: Looking,
    seen: list[Seen],
    lengths: list[Array],
    mean: Array,
    depth: Array,
    B: Array,
    L: Array,
    record: Recorder,
    symbol: str,
) -> tuple[str, Array]:
    """(symbol, mean over a depth z and what squeezing adds to it), kPa seen from the base.

    The clay within z bears c_u (1/2 - s/6) (B/z - 2) more than without ground below it, from 1/2 of a strip (pi + 1 +
    B/2z in all) to 1/3 of a square or circle; under an inclined load as much less as the method says."""
    assert at.inclined is not None
    base = at.base
    clay = sum(
        np.where(p.stratum.undrained & ~p.stratum.drained, p.stratum.strength, 0.0) * length
        for p, length in zip(seen, lengths)
    ) / np.maximum(sum(lengths), 1e-12)
    slope = 0.5 - B / np.maximum(L, 1e-12) / 6
    larger = B * L / np.maximum(base.B * base.L, 1e-12)
    q: Array = mean + clay * slope * at.inclined * larger * np.maximum(B / np.maximum(depth, 1e-12) - 2, 0.0)
    n = symbol[2:]
    record.given(f"z_{n}", depth, "m", note=say("depth that is squeezed"), needs="B_1")
    record.given(f"B_z{n}", B, "m", note=say("width above it"), needs="B_1")
    record.given(f"k_q{n}", slope, reference=SQUEEZE, note=say("1/2 of a strip, 1/3 of a square"), needs=f"B_z{n}")
    record.given(f"k_A{n}", larger, note=say("area there over that of the base"), needs=f"B_z{n}")
    record.given(f"c_z{n}", clay, "kPa", note=say("mean undrained strength of the clay in it"), needs=f"z_{n}")
    record.step(
        f"q_q{n}",
        f"{symbol} + c_z{n}*k_q{n}*k_i*k_A{n}*max(B_z{n}/max(z_{n}, 1e-12) - 2, 0)",
        q,
        "kPa",
        reference=SQUEEZE,
        note=say("squeezed"),
    )
    return f"q_q{n}", q


def _borne(at: Looking, asked: Asked, record: Recorder) -> Array:
    """What one stratum alone bears under the base at a level, seen from the underside, kPa (candidates, situations)."""
    if asked in at.borne:
        return at.borne[asked]
    place, first, wide = asked
    one, base = at.strata[place], at.base
    symbol = f"q_{'w' if wide else 'n'}{'' if first == place else 'l'}{place + 1}"
    level, wider = at.strata[first].top, _wider(at, first, wide)
    if wide:
        record.given("t_u", at.bench.geometry.underside - level, "m", note=say("from the base down to that level"))
        record.step("B_2", "B_1 + 2*a_s*t_u", base.B + wider, "m", note=say("base spread to that level"))
        record.step("L_2", "L_1 + 2*a_s*t_u", base.L + wider, "m")
    founding = (at.bench.founding_stratum() == one.number)[:, None]
    if founding.all():
        record.step(symbol, "q_1", at.own.pressure, "kPa", note=say("{soil}, below the base", soil=one.soil.name))
        return at.own.pressure
    found: dict[str, Array] = {}
    for letter, strengths in _ways(one):
        q, stress, found[letter] = _lifted(at, letter, strengths, level, wider, record)
        kind, wanted = KINDS[letter], one.drained if letter == "d" else one.undrained
        formula = f"q_b{letter} - (sigma_i{letter} - sigma_0)"
        if wide:
            formula = f"sigma_0 + (q_b{letter} - sigma_i{letter})*B_2*L_2/max(B_1*L_1, 1e-12)"
        record.step(f"q_b{letter}", "q_ult", q, "kPa", note=say("on {soil}, where it begins", soil=one.soil.name))
        record.given(
            f"sigma_i{letter}", stress, "kPa", note=say("{kind} stress there, beside the base", kind=label(kind))
        )
        record.step(f"q_2{letter}", formula, found[letter], "kPa", note=say("seen from the base"))
        record.given(f"k_{letter}", np.where(wanted, 0.0, 1.0), note=say("0 where it counts"))
    q = _least(at, one, found)
    parts = [f"where(k_{letter} < 0.5, max(q_2{letter}, 0), {SOUND})" for letter in found]
    text = f"min({', '.join([*parts, str(SOUND)])})" if parts else ""
    if founding.any():
        record.given("k_f", np.where(founding, 1.0, 0.0), note=say("1 where the base stands on it"))
        text = f"where(k_f > 0.5, q_1, {text or SOUND})"
    record.step(
        symbol,
        text,
        q,
        "kPa",
        note=say("{soil} alone", soil=one.soil.name) if parts else say("{soil}: sound rock", soil=one.soil.name),
    )
    return q


KINDS = {"d": "effective", "u": "total"}
"""Of the stresses by which a stratum answers drained and undrained."""


def _ways(one: Stratum) -> list[tuple[str, tuple[Array, ...]]]:
    """How a stratum answers, drained ("d") or undrained ("u"), and the strengths by which it does."""
    ways = (("d", one.drained, (one.cohesion, one.tan_phi)), ("u", one.undrained, (one.strength,)))
    return [(letter, strengths) for letter, wanted, strengths in ways if wanted.any()]


def _lifted(
    at: Looking,
    letter: str,
    strengths: tuple[Array, ...],
    level: Array,
    wider: Array | float,
    record: Recorder,
) -> tuple[Array, Array, Array]:
    """(what strata with these strengths bear at a level, the stress there beside the base, what they bear seen from the
    underside), kPa."""
    base, kind = at.base, KINDS[letter]
    here = base.wider(wider).but(tilt=0.0, slope=0.0)
    stress = at.stress(level, kind)
    weight = weight_below(at.bench, level, here.B, at.water, kind, known=stress)
    if letter == "d":
        cohesion, tan_phi = strengths
        lower = here.but(overburden=stress, weight=weight, cohesion=cohesion, phi=np.arctan(tan_phi))
        q = at.method.drained(lower, record).pressure
    else:
        (strength,) = strengths
        lower = here.but(overburden=stress, weight=weight, cohesion=strength)
        q = at.method.undrained(lower, record).pressure
    larger = (here.B * here.L) / np.maximum(base.B * base.L, 1e-12) if np.ndim(wider) else 1.0
    return q, stress, base.overburden + (q - stress) * larger


def _least(at: Looking, one: Stratum, lifted: dict[str, Array]) -> Array:
    """The least of what a stratum bears in the ways it answers, kPa; what the base stands on bears as it was found
    there."""
    q = np.full(at.own.pressure.shape, SOUND)
    for letter, value in lifted.items():
        wanted = one.drained if letter == "d" else one.undrained
        q = np.minimum(q, np.where(wanted, np.maximum(value, 0.0), SOUND))
    founding = (at.bench.founding_stratum() == one.number)[:, None]
    return np.where(founding, at.own.pressure, q) if founding.any() else q


TOGETHER = 2**15
"""So many values are computed together: more would leave the processor's memory."""


def look_together(at: Looking) -> None:
    """Finds at once what all strata bear alone that is going to be asked for; for many candidates each is found when it
    is asked for."""
    many = TOGETHER // at.own.pressure.size
    if many < 2:
        return
    founding, strata = at.bench.founding_stratum(), at.strata
    asked = [a for a in _to_ask(at) if not (founding == strata[a.place].number).all()]
    lifted: dict[Asked, dict[str, Array]] = {a: {} for a in asked}
    for letter in KINDS:
        answering = [(a, s) for a in asked for way, s in _ways(strata[a.place]) if way == letter]
        for start in range(0, len(answering), many):
            some = [a for a, _ in answering[start : start + many]]
            strengths = zip(*(s for _, s in answering[start : start + many]))
            levels = np.stack([strata[a.first].top for a in some])
            wider = np.stack([_wider(at, a.first, a.wide) + 0.0 * strata[a.first].top for a in some])
            values = _lifted(at, letter, tuple(map(stacked, strengths)), levels, wider, SILENT)[2]
            for a, value in zip(some, values):
                lifted[a][letter] = value
    at.borne.update((a, _least(at, strata[a.place], lifted[a])) for a in asked)


def stacked(values: Sequence[Array]) -> Array:
    return np.stack(np.broadcast_arrays(*values))


def _to_ask(at: Looking) -> list[Asked]:
    """What :func:`strata_seen` and :func:`from_level` are going to ask."""
    places = range(len(at.strata))
    asked = [Asked(place, place, wide) for wide in (False, True) for place in places]
    for wide in (False, True):
        # from the underside only means are looked at, without load spread
        for first in places[1:] if wide else places:
            deep = _deepest(at, at.base.B + _wider(at, first, wide))
            if not first:
                deep = np.maximum(deep, AT_ZERO * at.base.B)
            reach = deep.max(axis=-1, keepdims=True) + _begins(at, at.strata[first])
            for place in places[first + 1 :]:
                one = at.strata[place]
                if ((_begins(at, one) < reach) & (_counted(one) > 0.0)).any():
                    asked.append(Asked(place, first, wide))
    return asked
