"""The settlement checks of a pad: total, slope to its neighbours, relative rotation, tilt."""

from dataclasses import dataclass, replace

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, cannot, does_not_apply
from korbent.core.ground.profile import missing, total_stress
from korbent.core.settlement.beside import Beside, besides
from korbent.core.settlement.final import HOW, NEEDED, Settlement, final_settlement, together
from korbent.core.settlement.footing import equal_rectangle
from korbent.core.settlement.limits import limits_of
from korbent.core.settlement.neighbours import beside_each, middles, settled
from korbent.core.working import SILENT, Array, Recorder, Silent

QUESTION = "settlement long"
CHECKED = ("settlement", "slope", "relative-rotation", "tilt")


def settlement_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Long-term settlement with its differences, and what comes at once under short-term combinations."""
    return [*_long_term(bench, record), _short_term(bench, record.scope("short"))]


def _short_term(bench: Bench, record: Recorder) -> Outcome:
    """Settlement at once: granular strata by their law, the others by their undrained modulus alone, without creep."""
    situations = bench.situations("settlement short")
    if not len(situations):
        return does_not_apply("settlement-short", "no combination serves 'settlement short'")
    bench = bench.on_ground()
    why = bench.why_not()
    if all(why):
        return cannot("settlement-short", why[0])
    assert bench.profile is not None
    at_once = tuple(
        soil.replaced(compression="none", creep_index=None)
        if soil.compression in ("oedometer", "mv")
        else soil.replaced(creep_index=None)
        for soil in bench.profile.soils
    )
    lacking = [
        f"the soil '{soil.name}' has no undrained modulus for what comes at once"
        for soil, bottom in zip(bench.profile.soils, np.atleast_2d(bench.profile.bottom)[0])
        if soil.compression in ("oedometer", "mv")
        and soil.undrained_modulus is None
        and bottom < float(bench.geometry.underside.max())
    ]
    if lacking:
        return cannot("settlement-short", lacking[0])
    quick = replace(bench, profile=replace(bench.profile, soils=at_once), project=None)
    reasons = tuple(first or second for first, second in zip(why, _lacking_for_settlement(quick)))
    if all(reasons):
        return cannot("settlement-short", reasons[0])
    forces = quick.forces(situations, record)
    total = _final(quick, situations, forces, record).total
    limit = limits_of(bench.settings).total
    record("s_max", "", limit * 1000, "mm", note="limit")
    record("ratio", "s/s_max", total / limit)
    return Outcome(
        CHECKS["settlement-short"], total * 1000, np.full_like(total, limit * 1000), total / limit, situations, forces.V <= 0.0,
        blocks=("short",), why_not=reasons, note=lambda candidate, column: "at once, the base alone", because="the base is lifted: nothing settles it",
    )  # fmt: skip


def _long_term(bench: Bench, record: Recorder) -> list[Outcome]:
    """Final settlement under the sustained combinations, all foundations and area loads acting together, and its differences."""
    situations = bench.situations(QUESTION)
    if not len(situations):
        return [cannot(check, bench.no_combination(QUESTION)) for check in CHECKED]
    bench = bench.on_ground()
    why = bench.why_not()
    if all(why):
        return [cannot(check, why[0]) for check in CHECKED]
    lacking = _lacking_for_settlement(bench)
    if all(lacking):
        return [cannot(check, lacking[0]) for check in CHECKED]
    reasons = tuple(first or second for first, second in zip(why, lacking))
    forces = bench.forces(situations, record)
    found = _known(bench, record) or _final(bench, situations, forces, record)
    total = _total(bench, situations, forces, found, reasons, record)
    return [
        total,
        *_differences(bench, situations, found.total, reasons, record),
        _tilt(bench, situations, forces, found, reasons, record.scope("tilt")),
    ]


def _known(bench: Bench, record: Recorder) -> Settlement | None:
    """The settlement of bases as they are, where it is known already."""
    if not bench.as_is or bench.project is None or not isinstance(record, Silent):
        return None
    own = {pad.name: pad for pad in bench.project.pads}
    if any(own.get(pad.name) is not pad for pad in bench.pads):
        return None  # a pad that is tried, not the one in the project
    known = settled(bench.project, final)
    rows = [known.get(pad.name) for pad in bench.pads]
    found = [row for row in rows if row is not None]
    return together(found) if len(found) == len(rows) else None


def final(bench: Bench) -> Settlement | None:
    """Settlement of the bases of a bench; None where it cannot be computed, nan where not for one of them."""
    situations = bench.situations(QUESTION)
    bench = bench.on_ground()
    if not len(situations) or bench.profile is None:
        return None
    reasons = [a or b for a, b in zip(bench.why_not(), _lacking_for_settlement(bench))]
    if all(reasons):
        return None
    found = _final(bench, situations, bench.forces(situations, SILENT), SILENT)
    return replace(found, total=np.where(np.array([bool(r) for r in reasons])[:, None], np.nan, found.total))


def _final(bench: Bench, situations: Situations, forces: BaseForces, record: Recorder) -> Settlement:
    """The settlement of the bases, with what leads to it recorded."""
    assert bench.profile is not None
    g, settings, profile = bench.geometry, bench.settings, bench.profile
    beside = _beside(bench, len(situations))
    water = np.minimum(situations.water_level, profile.existing_at(g.underside))
    before = total_stress(
        profile, bench.ground.backfill, profile.existing_at(g.underside), g.underside, water
    )
    B, L = equal_rectangle(g)
    q = forces.V / g.area - before
    result = final_settlement(
        profile, bench.ground.backfill, q, B, L, g.underside, situations.water_level, settings.settlement_influence,
        None if beside is None else beside.at, settings.settlement_years,
        settings.creep_days, np.maximum(bench.finished - g.underside, 0.0) if settings.settlement_embedment == "Fox 1948" else None,
        None if beside is None else beside.slopes_at,
    )  # fmt: skip
    note = "total stress at the founding level before the excavation"
    record("sigma_v0", "", before, "kPa", note=note, needs="z_f")
    record("q_net", "V/A - sigma_v0", q, "kPa", note="net pressure")
    record(
        "r_lim", "", settings.settlement_influence, "", note="influence depth: added over effective stress"
    )
    record(
        "z_i",
        "",
        result.influence,
        "m",
        "EN 1997-1 6.6.2(6)",
        "influence depth below the base",
        "q_net B L r_lim",
    )
    if beside is not None:
        level = g.underside[..., None] - 1e-3 + np.zeros(q.shape)[..., None]
        record(
            "sigma_b", "", beside.at(level)[..., 0], "kPa", "Boussinesq 1885",
            "added below the underside by all other foundations and area loads", "z_f",
        )  # fmt: skip
    record(
        "s_0",
        "",
        result.middle * 1000,
        "mm",
        note="middle of a flexible base, for comparison",
        needs="q_net B L z_i",
    )
    shares = []
    for i, soil in enumerate(profile.soils):
        symbol = f"s_{i + 1}"
        how = HOW[soil.compression] + (", after Eu" if soil.undrained_modulus else "")
        how += f", creep to {settings.settlement_years:g} years" if soil.creep_index else ""
        record(symbol, "", result.by_stratum[..., i] * 1000, "mm", how, soil.name, "q_net B L z_i")
        shares.append(symbol)
    record(
        "s",
        " + ".join(shares),
        result.total * 1000,
        "mm",
        "characteristic point, Grasshoff 1955",
        "rigid base",
    )
    return result


def _total(
    bench: Bench, situations: Situations, forces: BaseForces, found: Settlement, reasons: tuple[str, ...], record: Recorder
) -> Outcome:  # fmt: skip
    settings, profile = bench.settings, bench.profile
    assert profile is not None
    scope = record.scope("total")
    limit = limits_of(settings).total
    scope("s_max", "", limit * 1000, "mm", note="limit")
    ratio = found.total / limit
    scope("ratio", "s/s_max", ratio)
    end_ratio = found.end_ratio.max(axis=1)
    shallow = end_ratio > settings.settlement_influence
    missing_share = (
        _missing_share(bench, situations, forces, found) if shallow.any() else np.zeros(len(shallow))
    )
    warnings = tuple(
        f"the profile ends too early, at {known:+.2f} m, where the added stress is still {100 * end:.0f} % of the effective "
        f"stress: about {100 * share:.0f} % of the settlement is missing; extend the borehole ({profile.place}) or mark it rigid below"
        if deep else ""
        for deep, end, known, share in zip(shallow, end_ratio, np.broadcast_to(profile.end, shallow.shape), missing_share)
    )  # fmt: skip

    def note(candidate: int, column: int) -> str:
        return f"influence depth {found.influence[candidate, column]:.1f} m"

    return Outcome(
        CHECKS["settlement"], found.total * 1000, np.full_like(found.total, limit * 1000), ratio, situations, forces.V <= 0.0,
        blocks=("total",), why_not=reasons, warnings=warnings, note=note, because="the base is lifted: nothing settles it",
    )  # fmt: skip


BELOW = 8.0
"""By how many widths the last stratum is thought to go on, to find what a profile that ends too early leaves out."""


def _missing_share(bench: Bench, situations: Situations, forces: BaseForces, found: Settlement) -> Array:
    """Share of the settlement that is missing where the profile ends, as if its last stratum went on."""
    assert bench.profile is not None
    bottom = np.array(bench.profile.bottom, dtype=float)
    bottom[..., -1] -= BELOW * float(np.maximum(bench.geometry.B, bench.geometry.L).max())
    deeper = replace(bench, profile=replace(bench.profile, bottom=bottom))
    whole = _final(deeper, situations, forces, SILENT).total.max(axis=1)
    share: Array = np.clip(1 - found.total.max(axis=1) / np.maximum(whole, 1e-12), 0.0, 1.0)
    return share


def _differences(
    bench: Bench, situations: Situations, total: Array, reasons: tuple[str, ...], record: Recorder
) -> list[Outcome]:
    """Slope to each neighbour, and relative rotation against the line through two opposite neighbours."""
    slope, rotation = record.scope("slope"), record.scope("relative-rotation")
    count = len(situations)
    rows = [_neighbours_of(bench, i) for i in range(len(bench.pads))]
    if not any(rows):
        why = "there is no other foundation whose settlement is known"
        return [does_not_apply("slope", why), does_not_apply("relative-rotation", why)]
    most = max(map(len, rows))
    others = np.zeros((len(rows), most, count))
    distance = np.full((len(rows), most), np.inf)
    for i, row in enumerate(rows):
        for j, (_, l_j, settled_by) in enumerate(row):
            distance[i, j] = l_j
            others[i, j] = settled_by if len(settled_by) == count else settled_by.max()
    apart, s_other = distance[bench.index][..., None], others[bench.index]
    slopes = np.abs(total[:, None] - s_other) / apart
    worst = slopes.argmax(axis=1)[:, None]

    def at(values: Array) -> Array:
        full = np.broadcast_to(values, slopes.shape)
        chosen: Array = np.take_along_axis(full, worst, axis=1)[:, 0]
        return chosen

    limit = limits_of(bench.settings).slope
    value = np.where(np.isfinite(at(apart)), at(slopes), 0.0)
    away = np.where(np.isfinite(at(apart)), at(apart), 1.0)
    slope("s_j", "", at(s_other) * 1000, "mm", "", "the neighbour to which it slopes most", "s")
    slope("l_j", "", away, "m", note="between the middles of the two")
    slope("slope", "abs(s - s_j)/l_j", np.abs(total - at(s_other)) * 1000 / away, "‰")
    slope("slope_max", "", 1000 * limit, "‰", note=f"limit, 1/{1 / limit:.0f}")
    slope("ratio", "slope/slope_max", np.abs(total - at(s_other)) / away / limit)
    idle = tuple(
        "" if rows[i] else "there is no other foundation whose settlement is known" for i in bench.index
    )

    def note(candidate: int, column: int) -> str:
        name = rows[bench.index[candidate]][int(worst[candidate, 0, column % count])][0]
        steep = value[candidate, column % count]
        return f"to {name}" + (f", 1/{1 / steep:.0f}" if steep > 1e-9 else "")

    return [
        Outcome(
            CHECKS["slope"], 1000 * value, np.full_like(value, 1000 * limit), value / limit, situations, blocks=("slope",),
            why_not=reasons, not_applicable=idle, note=note,
        ),
        _relative_rotation(bench, situations, total, rows, reasons, rotation),
    ]  # fmt: skip


def _neighbours_of(bench: Bench, pad: int) -> list[tuple[str, float, Array]]:
    if bench.project is None:
        return []
    return list(beside_each(bench.project, bench.pads[pad], final))


def _relative_rotation(
    bench: Bench, situations: Situations, total: Array, rows: list[list[tuple[str, float, Array]]], reasons: tuple[str, ...], record: Recorder
) -> Outcome:  # fmt: skip
    """Deflection of the base against the straight line through two neighbours on opposite sides, over the shorter distance.

    So a common slope, which is a tilt of the whole, is taken out (Skempton and MacDonald 1956: beta).
    """
    assert bench.project is not None
    project, count = bench.project, len(situations)
    places = {pad.name: at for pad, at in zip(project.pads, middles(project))}
    triples: list[list[tuple[str, str, float, float, Array, Array]]] = []
    for pad, row in zip(bench.pads, rows):
        own, found = places.get(pad.name), []
        for i, (a, l_a, s_a) in enumerate(row):
            for b, l_b, s_b in row[i + 1 :]:
                if own is None or len(s_a) != count or len(s_b) != count:
                    continue
                u, v = places[a] - own, places[b] - own
                if float(u @ v) < -0.94 * l_a * l_b:  # within 20 degrees of a straight line
                    found.append((a, b, l_a, l_b, s_a, s_b))
        triples.append(found)
    idle = tuple("" if triples[i] else "no two neighbours stand on opposite sides" for i in bench.index)
    if all(idle):
        return does_not_apply("relative-rotation", idle[0])
    limit = limits_of(bench.settings).rotation
    shape = total.shape
    beta, line, short, which = np.zeros(shape), np.zeros(shape), np.ones(shape), np.zeros(shape, dtype=int)
    for c in range(shape[0]):
        for k, (_, _, l_a, l_b, s_a, s_b) in enumerate(triples[bench.index[c]]):
            chord = (s_a * l_b + s_b * l_a) / (l_a + l_b)
            value = np.abs(total[c] - chord) / min(l_a, l_b)
            more = value > beta[c]
            beta[c], line[c] = np.where(more, value, beta[c]), np.where(more, chord, line[c])
            short[c], which[c] = np.where(more, min(l_a, l_b), short[c]), np.where(more, k, which[c])
    record("s_l", "", line * 1000, "mm", "", "on the straight line between two neighbours", "s")
    record("l_s", "", short, "m", note="to the nearer of the two")
    exact = np.abs(total - line) * 1000 / short
    record("beta", "abs(s - s_l)/l_s", exact, "‰", "Skempton and MacDonald 1956", "relative rotation")
    record("beta_max", "", 1000 * limit, "‰", note=f"limit, 1/{1 / limit:.0f}")
    record("ratio", "beta/beta_max", exact / 1000 / limit)

    def note(candidate: int, column: int) -> str:
        found = triples[bench.index[candidate]]
        a, b = found[int(which[candidate, column % count])][:2]
        steep = beta[candidate, column % count]
        return f"against the line {a} to {b}" + (f", 1/{1 / steep:.0f}" if steep > 1e-9 else "")

    return Outcome(
        CHECKS["relative-rotation"], 1000 * beta, np.full(shape, 1000 * limit), beta / limit, situations,
        blocks=("relative-rotation",), why_not=reasons, not_applicable=idle, note=note,
    )  # fmt: skip


def _tilt(
    bench: Bench, situations: Situations, forces: BaseForces, found: Settlement, reasons: tuple[str, ...], record: Recorder
) -> Outcome:  # fmt: skip
    """Tilt of the rigid base by the moments of the sustained load, and by what acts beside it.

    On the elastic half-space a rigid circle settles V (1 - nu2)/(2 E R) and tilts 3 M (1 - nu2)/(4 E R3) (Borowicka 1943): the tilt is
    1.5 e/R2 times the settlement. Of a rectangle R is that of equal area in the settlement and of equal second moment in the tilt.
    The settlement of the strata stands in the place of the half-space's: deep strata count too, which is on the safe side.
    """
    g, total = bench.geometry, found.total
    pressed = forces.N > 0
    N = np.where(pressed, forces.N, 1.0)
    B, L = equal_rectangle(g)
    R_a = np.sqrt(B * L / np.pi)
    if g.shape == "rectangle":
        R_x, R_y = (B**3 * L / (3 * np.pi)) ** 0.25, (L**3 * B / (3 * np.pi)) ** 0.25
    else:
        R_x = R_y = ((g.B**4 - g.hole**4) / 16) ** 0.25
    c, s = np.cos(g.rotation), np.sin(g.rotation)
    beside = {"x": c * found.tilt_x + s * found.tilt_y, "y": c * found.tilt_y - s * found.tilt_x}
    record("R_a", "", R_a, "m", "", "radius of the circle of equal area", "B L")
    sides = []
    for axis, moment, R in (("x", forces.My, R_x), ("y", -forces.Mx, R_y)):
        e = moment / N
        own = 1.5 * e * R_a / R**3 * total
        record(f"e_{axis}", "M_y/N" if axis == "x" else "-M_x/N", e, "m", note=f"eccentricity along {axis}")
        record(f"R_{axis}", "", R, "m", "", "radius of the circle of equal second moment", "B L")
        record(
            f"theta_{axis}b", "", 1000 * beside[axis], "‰", "", f"by what acts beside, along {axis}", "z_i"
        )
        record(
            f"theta_{axis}", f"1.5*e_{axis}*R_a/R_{axis}**3*s + theta_{axis}b", 1000 * (own + beside[axis]), "‰", "Borowicka 1943",
            f"along {axis}",
        )  # fmt: skip
        sides.append(own + beside[axis])
    exact = np.hypot(*sides)
    tilt = np.where(pressed, exact, 0.0)
    limit = limits_of(bench.settings).tilt
    record("theta", "sqrt(theta_x**2 + theta_y**2)", 1000 * exact, "‰")
    record("theta_max", "", 1000 * limit, "‰", note=f"limit, 1/{1 / limit:.0f}")
    record("ratio", "theta/theta_max", exact / limit)

    def note(candidate: int, column: int) -> str:
        value = tilt[candidate, column]
        return f"1/{1 / value:.0f}" if value > 1e-9 else ""

    return Outcome(
        CHECKS["tilt"], 1000 * tilt, np.full_like(tilt, 1000 * limit), tilt / limit, situations, forces.V <= 0.0,
        blocks=("tilt",), why_not=reasons, note=note, because="the base is lifted: nothing settles it",
    )  # fmt: skip


@dataclass(frozen=True)
class _Stacked:
    """What acts beside each candidate."""

    parts: tuple[Beside, ...]
    index: Array

    def slopes_at(self, levels: Array) -> tuple[Array, Array]:
        """Changes of the stress along x and y of the plan, kPa/m, at such levels."""
        count = len(self.parts[0].stress)
        if levels.shape[1] != count:
            levels = np.broadcast_to(levels, (levels.shape[0], count, *levels.shape[2:]))
        x, y = np.empty(levels.shape), np.empty(levels.shape)
        for which in np.unique(self.index):
            rows = self.index == which
            x[rows], y[rows] = self.parts[which].slopes_at(levels[rows])
        return x, y

    def at(self, levels: Array) -> Array:
        """Stress (kPa) at levels of shape (candidates, situations, ...)."""
        count = len(self.parts[0].stress)
        if levels.shape[1] != count:
            levels = np.broadcast_to(levels, (levels.shape[0], count, *levels.shape[2:]))
        found = np.empty(levels.shape)
        for which in np.unique(self.index):
            rows = self.index == which
            found[rows] = self.parts[which].at(levels[rows])
        return found


def _beside(bench: Bench, count: int) -> _Stacked | None:
    """What acts beside the bases of a bench; None where nothing does."""
    if bench.project is None:
        return None
    known = besides(bench.project)
    parts = tuple(known.get(pad.name) for pad in bench.pads)
    found = tuple(p for p in parts if p is not None and p.stress.shape[0] == count)
    if len(found) != len(parts) or not any(p.stress.any() for p in found):
        return None
    return _Stacked(found, bench.index)


def _lacking_for_settlement(bench: Bench) -> tuple[str, ...]:
    assert bench.profile is not None
    texts = []
    for index in bench.founding_stratum():
        parts = [missing(s, NEEDED[s.compression]) for s in bench.profile.soils[max(int(index), 0) :]]
        texts.append("; ".join(dict.fromkeys(p for p in parts if p)))
    return tuple(texts)
