"""What the strata at a level bear below the base, seen from its underside."""

from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from korbent.core.bearing.layers.strata import Stratum, stress_at, weight_below
from korbent.core.bearing.methods.base import Base, Method, Ultimate
from korbent.core.bench import Bench
from korbent.core.working import Array, Recorder

AT_LEAST = 1 / 20
"""Strata are averaged over no less than this share of B′, so that a film matters as much as its thickness."""
SQUEEZE = "Mandel and Salençon 1972"
SOUND = 1e6
"""Resistance of rock without strength parameters, kPa."""


@dataclass(frozen=True)
class Looking:
    """What all levels share."""

    bench: Bench
    base: Base
    own: Ultimate
    drainage: str
    method: Method
    water: Array
    strata: list[Stratum]
    inclined: Array | None
    """Where squeezing is chosen: what an inclined load leaves of it (see :func:`leaning`)."""


def leaning(base: Base, method: Method, record: Recorder) -> Array:
    """What the inclination of the load leaves of the resistance of clay, as the method says."""
    upright = replace(base, H_B=0.0 * base.H_B, H_L=0.0 * base.H_L)
    bears, at_most = (method.undrained(b).pressure - b.overburden for b in (base, upright))
    found: Array = np.clip(bears / np.maximum(at_most, 1e-9), 0.0, 1.0)
    record("k_i", "", found, "", "", "inclination, as the method says for clay", "q_1")
    return found


class Seen(NamedTuple):
    """A stratum as a base finds it: where it begins below the underside, its thickness, how much wider the base is there, m, and
    what it bears alone, kPa seen from the underside."""

    stratum: Stratum
    begins: Array
    thick: Array
    wider: Array | float
    bears: Array


def strata_seen(at: Looking, wide: bool, record: Recorder) -> list[Seen]:
    """What each stratum bears alone under the base on it, with the depth factors of the base on both sides of a contrast.

    Args:
        wide: with the load spread down to it, else at the size of the base.
    """
    underside = at.bench.geometry.underside
    a = at.bench.settings.load_spread
    found = []
    if wide:
        record("a_s", "", a, "", "setting", "load spread, sideways for each metre down")
    for place, one in enumerate(at.strata):
        begins = underside - one.top
        wider = 2 * a * begins if wide else 0.0
        thick = np.where(one.known | one.bears_all, one.thick, 0.0)
        found.append(Seen(one, begins, thick, wider, _borne(at, place, one.top, wider, record, wide, "")))
    return found


def from_level(
    at: Looking, seen: list[Seen], first: int, depth: Array, record: Recorder, wide: bool
) -> list[Seen]:
    """The strata from ``first`` down as a base where that one begins would find each alone; those below ``depth`` do not matter.

    So a mean of them does not depend on where a stratum is cut.
    """
    own = seen[first]
    level = at.bench.geometry.underside - own.begins
    found = [own if first or wide else own._replace(bears=at.own.pressure)]
    for place, one in enumerate(seen[first + 1 :], first + 1):
        near = (one.begins < own.begins + depth) & (one.thick > 0.0)
        if near.any():
            one = one._replace(bears=_borne(at, place, level, own.wider, record, wide, "l"))
        found.append(one)
    return found


def mean_over(seen: list[Seen], depth: Array) -> tuple[Array, list[Array]]:
    """Mean resistance by thickness over a depth below where the first stratum begins, and the thickness of each within it."""
    start = seen[0].begins
    lengths = [np.clip(start + depth - s.begins, 0.0, s.thick) for s in seen]
    whole = sum(lengths)
    mean = sum(s.bears * length for s, length in zip(seen, lengths)) / np.maximum(whole, 1e-12)
    # without any thickness the first one counts
    return np.where(whole > 1e-12, mean, seen[0].bears), lengths


def raised(at: Looking, seen: list[Seen], first: int, record: Recorder, symbol: str, size: str) -> Array:
    """What a stratum bears with those below it: more than alone only where it is a film, or clay that is squeezed, kPa.

    A film counts by its thickness in the mean over B'/20. Where squeezing is chosen, the least over all depths z from there
    to B'/2 of the mean and what its clay bears more by squeezing.
    """
    B, L = at.base.B + seen[first].wider, at.base.L + seen[first].wider
    least = AT_LEAST * B
    deepest = least if at.inclined is None else B / 2
    parabola = at.bench.settings.weak_over_strong == "Meyerhof 1974"
    if parabola:
        deepest = np.maximum(deepest, REACH[at.drainage] * B)
    record(
        f"q_{size}a",
        f"q_{size}{first + 1}" if first or size == "w" else "q_1",
        seen[first].bears if first or size == "w" else at.own.pressure,
        "kPa",
        note="that stratum alone",
    )
    near = from_level(at, seen, first, deepest, record, size == "w")
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
    found = np.maximum(near[0].bears, found)
    least_of = f"min({', '.join(names)})" if len(names) > 1 else names[0]
    what = near[0].stratum.soil.name
    if parabola:
        least_of += f", q_{size}y"
        found = np.maximum(found, _parabola(at, near, B, record, size))
    record(symbol, f"max(q_{size}a, {least_of})", found, "kPa", note=f"{what}, with what lies near below")
    return found


REACH = {"drained": 2.0, "undrained": 1.0}
"""Widths below the base up to which a stronger stratum is felt (Meyerhof 1974: 2 for sands, 1 for clays)."""


def _parabola(at: Looking, near: list[Seen], B: Array, record: Recorder, size: str) -> Array:
    """Weak over strong by Meyerhof (1974): q_t + (q_b - q_t) (1 - t/H)^2, kPa.

    Written as the mean of what the strata bear with the weight 2 (1 - z/H)/H over the depth z: over one strong stratum it is that parabola,
    a stratum cut in two changes nothing, and a film counts by its thickness.
    """
    reach = np.maximum(REACH[at.drainage] * B, 1e-9)
    level, first = near[0].begins, near[0].bears
    found, rest = 0.0 * first, 1.0 + 0.0 * first
    for one in near:
        begins = np.maximum(one.begins - level, 0.0)
        above, below = (np.maximum(1 - z / reach, 0.0) ** 2 for z in (begins, begins + one.thick))
        share = np.where(one.stratum.known | one.stratum.bears_all, above - below, 0.0)
        found, rest = found + one.bears * share, rest - share
    # what is not known bears as the first one
    found = np.asarray(found + np.maximum(rest, 0.0) * first)
    record(
        f"q_{size}y", "", found, "kPa", "Meyerhof 1974", f"parabola over {REACH[at.drainage]:g} B′", "B_1"
    )  # fmt: skip
    return found


def _record_mean(
    near: list[Seen], first: int, mean: Array, lengths: list[Array], record: Recorder, size: str, number: int
) -> str:
    """Records a mean by thickness; its symbol."""
    terms = []
    for place, (one, length) in enumerate(zip(near, lengths), first + 1):
        if one is near[0] or np.any(length > 0.0):
            if one is near[0]:
                record(
                    f"q_{size}l{place}", f"q_{size}a", one.bears, "kPa", note=f"{one.stratum.soil.name} alone"
                )
            record(f"l_{size}{place}", "", length, "m", note="of it within the mean", needs="B_1")
            terms.append((f"q_{size}l{place}", f"l_{size}{place}"))
    over, total = " + ".join(f"{n}*{of}" for n, of in terms), " + ".join(of for _, of in terms)
    name = f"q_{size}m{number}"
    formula = (
        f"where({total} > 1e-12, ({over})/max({total}, 1e-12), {terms[0][0]})"
        if len(terms) > 1
        else terms[0][0]
    )
    record(name, formula, mean, "kPa", "", "mean by thickness over a depth below that level")
    return name


def _squeezed(
    at: Looking, seen: list[Seen], lengths: list[Array], mean: Array, depth: Array, B: Array, L: Array, record: Recorder, symbol: str
) -> tuple[str, Array]:  # fmt: skip
    """(symbol, mean over a depth z and what squeezing adds to it), kPa seen from the base.

    The clay within z bears c_u (1/2 - s/6) (B/z - 2) more than without ground below it, from 1/2 of a strip (pi + 1 + B/2z in all)
    to 1/3 of a square or circle; under an inclined load as much less as the method says.
    """
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
    record(f"z_{n}", "", depth, "m", note="depth that is squeezed", needs="B_1")
    record(f"B_z{n}", "", B, "m", note="width above it", needs="B_1")
    record(f"k_q{n}", "", slope, "", SQUEEZE, "1/2 of a strip, 1/3 of a square", f"B_z{n}")
    record(f"k_A{n}", "", larger, "", "", "area there over that of the base", f"B_z{n}")
    record(f"c_z{n}", "", clay, "kPa", note="mean undrained strength of the clay in it", needs=f"z_{n}")
    record(
        f"q_q{n}",
        f"{symbol} + c_z{n}*k_q{n}*k_i*k_A{n}*max(B_z{n}/max(z_{n}, 1e-12) - 2, 0)",
        q,
        "kPa",
        SQUEEZE,
        "squeezed",
    )
    return f"q_q{n}", q


def _borne(
    at: Looking, place: int, level: Array, wider: Array | float, record: Recorder, wide: bool, mark: str
) -> Array:
    """What one stratum alone bears under the base at a level, seen from the underside, kPa (candidates, situations)."""
    one, base = at.strata[place], at.base
    symbol = f"q_{'w' if wide else 'n'}{mark}{place + 1}"
    if wide:
        record("t_u", "", at.bench.geometry.underside - level, "m", note="from the base down to that level")
        record("B_2", "B_1 + 2*a_s*t_u", base.B + wider, "m", note="base spread to that level")
        record("L_2", "L_1 + 2*a_s*t_u", base.L + wider, "m")
    shape = at.own.pressure.shape
    founding = (at.bench.founding_stratum() == one.number)[:, None]
    if founding.all():
        record(symbol, "q_1", at.own.pressure, "kPa", note=f"{one.soil.name}, below the base")
        return at.own.pressure
    found: dict[str, Array] = {}
    here = replace(base.wider(wider), tilt=0.0, slope=0.0)
    for kind, letter, wanted in (("effective", "d", one.drained), ("total", "u", one.undrained)):
        if not wanted.any():
            continue
        stress = stress_at(at.bench, level, at.water, kind)
        weight = weight_below(at.bench, level, here.B, at.water, kind)
        lower = replace(here, overburden=stress, weight=weight)
        if letter == "d":
            lower = replace(lower, cohesion=one.cohesion, phi=np.arctan(one.tan_phi))
            q = at.method.drained(lower, record).pressure
        else:
            q = at.method.undrained(replace(lower, cohesion=one.strength), record).pressure
        record(f"q_b{letter}", "q_ult", q, "kPa", note=f"on {one.soil.name}, where it begins")
        record(f"sigma_i{letter}", "", stress, "kPa", note=f"{kind} stress there, beside the base")
        if wide:
            lifted = base.overburden + (q - stress) * (here.B * here.L) / np.maximum(base.B * base.L, 1e-12)
            formula = f"sigma_0 + (q_b{letter} - sigma_i{letter})*B_2*L_2/max(B_1*L_1, 1e-12)"
        else:
            lifted = q - (stress - base.overburden)
            formula = f"q_b{letter} - (sigma_i{letter} - sigma_0)"
        record(f"q_2{letter}", formula, lifted, "kPa", note="seen from the base")
        record(f"k_{letter}", "", np.where(wanted, 0.0, 1.0), "", note="0 where it counts")
        found[letter] = np.where(wanted, np.maximum(lifted, 0.0), SOUND)
    q = np.full(shape, SOUND)
    for value in found.values():
        q = np.minimum(q, value)
    parts = [f"where(k_{letter} < 0.5, max(q_2{letter}, 0), {SOUND})" for letter in found]
    text = f"min({', '.join([*parts, str(SOUND)])})" if parts else ""
    if founding.any():
        q = np.where(founding, at.own.pressure, q)
        record("k_f", "", np.where(founding, 1.0, 0.0), "", note="1 where the base stands on it")
        text = f"where(k_f > 0.5, q_1, {text or SOUND})"
    record(symbol, text, q, "kPa", note=f"{one.soil.name} alone" if parts else f"{one.soil.name}: sound rock")
    return q
