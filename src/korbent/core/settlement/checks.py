"""The settlement checks of a pad: total, at once, slope to its neighbours, relative rotation, tilt."""

from dataclasses import replace

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.construction import QUESTION
from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, cannot, does_not_apply
from korbent.core.model.project import Project
from korbent.core.settlement.at_once import at_once, lacking_at_once
from korbent.core.settlement.final import Settlement, together
from korbent.core.settlement.limits import limits_of
from korbent.core.settlement.neighbours import beside_each, middles, settled
from korbent.core.settlement.of_bases import as_in_project, lacking_for_settlement, settlement_of
from korbent.core.working import SILENT, Array, Recorder, Silent
from korbent.words import say

CHECKED = ("settlement", "slope", "relative-rotation", "tilt")
LIFTED = say("the base is lifted: nothing settles it")


def settlement_checks(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    """Long-term settlement with its differences, and what comes at once under short-term combinations."""
    return [*_long_term(bench, project, record), _short_term(bench, record.scope("short"))]


def _short_term(bench: Bench, record: Recorder) -> Outcome:
    """Settlement at once: granular strata by their law, the others by their undrained modulus alone, without creep."""
    situations = bench.situations("settlement_short")
    if not len(situations):
        return does_not_apply("settlement-short", say("no combination serves 'settlement short'"))
    bench = bench.on_ground()
    why = bench.why_not()
    if all(why):
        return cannot("settlement-short", why)
    assert bench.profile is not None
    quick, own = at_once(bench), lacking_at_once(bench)
    reasons = tuple(first or second or third for first, second, third in zip(why, own, lacking_for_settlement(quick)))
    if all(reasons):
        return cannot("settlement-short", reasons)
    forces = quick.forces(situations, record)
    total = settlement_of(quick, None, situations, forces, record).total
    limit = limits_of(bench.settings).total
    record.given("s_max", limit * 1000, "mm", note=say("limit"))
    record.step("ratio", "abs(s)/s_max", np.abs(total) / limit)
    return Outcome(
        CHECKS["settlement-short"],
        total * 1000,
        np.full_like(total, limit * 1000),
        np.abs(total) / limit,
        situations,
        forces.V <= 0.0,
        blocks=(say("short"),),
        why_not=reasons,
        note=lambda candidate, column: say("at once, the base alone"),
        because=LIFTED,
    )


def _long_term(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    """Final settlement under the sustained combinations, all foundations and area loads acting together, and its
    differences."""
    situations = bench.situations(QUESTION)
    if not len(situations):
        return [cannot(check, bench.no_combination(QUESTION)) for check in CHECKED]
    bench = bench.on_ground()
    why = bench.why_not()
    if all(why):
        return [cannot(check, why) for check in CHECKED]
    reasons = tuple(first or second for first, second in zip(why, lacking_for_settlement(bench)))
    if all(reasons):
        return [cannot(check, reasons) for check in CHECKED]
    forces = bench.forces(situations, record)
    found = _known(bench, project, record) or settlement_of(bench, project, situations, forces, record)
    total = _total(bench, situations, forces, found, reasons, record)
    return [
        total,
        *_differences(bench, project, situations, found.total, reasons, record),
        _tilt(bench, situations, forces, found, reasons, record.scope("tilt")),
    ]


def _known(bench: Bench, project: Project, record: Recorder) -> Settlement | None:
    """The settlement of bases as they are, where it is known already."""
    if not isinstance(record, Silent) or not as_in_project(bench, project):
        return None  # a pad that is tried, not the one in the project
    known = settled(project)
    rows = [known.get(pad.name) for pad in bench.pads]
    found = [row for row in rows if row is not None]
    return together(found) if len(found) == len(rows) else None


def _total(
    bench: Bench,
    situations: Situations,
    forces: BaseForces,
    found: Settlement,
    reasons: tuple[str, ...],
    record: Recorder,
) -> Outcome:
    settings, profile = bench.settings, bench.profile
    assert profile is not None
    scope = record.scope("total")
    limit = limits_of(settings).total
    scope.given("s_max", limit * 1000, "mm", note=say("limit"))
    ratio = np.abs(found.total) / limit
    scope.step("ratio", "abs(s)/s_max", ratio)
    count = len(found.total)
    end_ratio = found.end_ratio.max(axis=1)
    shallow = (end_ratio > (settings.settlement_influence or END)) & (not profile.rigid_below)
    missing_share = _missing_share(bench, situations, forces) if shallow.any() else np.zeros(count)
    ends = np.broadcast_to(profile.end, (count,))

    place = profile.place

    def warned(i: int) -> str:
        texts = []
        if shallow[i]:
            texts.append(
                say(
                    "the profile ends too early, at {ends:+.2f} m, where the added stress is still {end_ratio:.0f} "
                    "% of the effective stress: about {missing_share:.0f} % of the settlement is missing; extend "
                    "the borehole ({place}) or mark it rigid below",
                    ends=ends[i],
                    end_ratio=100 * end_ratio[i],
                    missing_share=100 * missing_share[i],
                    place=place,
                )
            )
        texts += _more_below(bench, found, i, settings.settlement_influence)
        if found.strain[i].max() > STRAIN:
            texts.append(
                say(
                    "the ground is strained by up to {strain:.0f} %: beyond {strain_2:.0f} % the laws of small "
                    "strains do not hold",
                    strain=100 * found.strain[i].max(),
                    strain_2=100 * STRAIN,
                )
            )
        return "; ".join(texts)

    def note(candidate: int, column: int) -> str:
        value, crept, earlier = (v[candidate, column] for v in (found.total, found.creep, found.earlier))
        texts = [say("influence depth {influence:.1f} m", influence=found.influence[candidate, column])]
        if value < 0:
            texts.insert(0, say("the base heaves"))
        if abs(crept) > 5e-5:
            texts.append(
                say(
                    "primary {crept:.1f} mm, creep {crept_2:.1f} mm", crept=1000 * (value - crept), crept_2=1000 * crept
                )
            )
        if abs(earlier) > 5e-5:
            texts.append(say("before it was built {earlier:.1f} mm, not counted", earlier=1000 * earlier))
        return ", ".join(texts)

    return Outcome(
        CHECKS["settlement"],
        found.total * 1000,
        np.full_like(found.total, limit * 1000),
        ratio,
        situations,
        forces.V <= 0.0,
        blocks=(say("total"),),
        why_not=reasons,
        warnings=warned,
        note=note,
        because=LIFTED,
    )


END = 0.1
"""Added over effective stress at the end of the profile beyond which it is said to end too early, where all of it
counts."""
STRAIN = 0.2
"""Strain beyond which a warning is given."""
MORE_SHARE, MORE = 0.05, 0.002
"""What lies below the influence depth is said from this share of the settlement, or this amount (m), on."""
HARDLY = 0.0001
"""Compression (m) that is not worth a word."""


def _more_below(bench: Bench, found: Settlement, candidate: int, limit: float) -> list[str]:
    """What lies below the influence depth, where it matters or is compressible."""
    assert bench.profile is not None
    worst = int(np.abs(found.below[candidate]).argmax())
    more, total = float(found.below[candidate, worst]), float(found.total[candidate, worst])
    if abs(more) < HARDLY:
        return []
    bottom = np.broadcast_to(bench.profile.bottom, (len(found.total), len(bench.profile.soils)))[candidate]
    level = float(bench.geometry.underside[candidate, 0]) - float(found.influence[candidate, worst])
    soft = [
        soil.name
        for soil, lower in zip(bench.profile.soils, bottom)
        if soil.compression in ("oedometer", "mv") and lower < level - 1e-6
    ]
    if not (abs(more) > MORE or abs(more) > MORE_SHARE * abs(total) or soft):
        return []
    where = say(" ({fromkeys} lies there)", fromkeys=", ".join(dict.fromkeys(soft))) if soft else ""
    return [
        say(
            "below the influence depth the ground would settle {more:.1f} mm more{where}: count strata to "
            "{value} of the effective stress, or to the end of the profile",
            more=1000 * more,
            where=where,
            value="10 %" if limit > 0.1 else "5 %",
        )
    ]


BELOW = 8.0
"""By how many widths the last stratum is thought to go on, to find what a profile that ends too early leaves out."""


def _missing_share(bench: Bench, situations: Situations, forces: BaseForces) -> Array:
    """Share of the settlement that is missing where the profile ends, as if its last stratum went on; of the bases
    alone."""
    assert bench.profile is not None
    bottom = np.array(bench.profile.bottom, dtype=float)
    bottom[..., -1] -= BELOW * float(np.maximum(bench.geometry.B, bench.geometry.L).max())
    deeper = replace(bench, profile=replace(bench.profile, bottom=bottom))
    whole, known = (
        np.abs(settlement_of(b, None, situations, forces, SILENT).total).max(axis=1) for b in (deeper, bench)
    )
    share: Array = np.clip(1 - known / np.maximum(whole, 1e-12), 0.0, 1.0)
    return share


def _differences(
    bench: Bench,
    project: Project,
    situations: Situations,
    total: Array,
    reasons: tuple[str, ...],
    record: Recorder,
) -> list[Outcome]:
    """Slope to each neighbour, and relative rotation against the line through two opposite neighbours."""
    slope, rotation = record.scope("slope"), record.scope("relative-rotation")
    count = len(situations)
    rows = [list(beside_each(project, pad)) for pad in bench.pads]
    if not any(rows):
        why = _alone_here(project)
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
    slope.given("s_j", at(s_other) * 1000, "mm", note=say("the neighbour to which it slopes most"), needs="s")
    slope.given("l_j", away, "m", note=say("between the middles of the two"))
    slope.step("slope", "abs(s - s_j)/l_j", np.abs(total - at(s_other)) * 1000 / away, "‰")
    slope.given("slope_max", 1000 * limit, "‰", note=say("limit, 1/{limit:.0f}", limit=1 / limit))
    slope.step("ratio", "slope/slope_max", np.abs(total - at(s_other)) / away / limit)
    idle = tuple("" if rows[i] else _alone_here(project) for i in bench.index)

    def note(candidate: int, column: int) -> str:
        name = rows[bench.index[candidate]][int(worst[candidate, 0, column % count])][0]
        steep = value[candidate, column % count]
        return say("to {name}", name=name) + (f", 1/{1 / steep:.0f}" if steep > 1e-9 else "")

    return [
        Outcome(
            CHECKS["slope"],
            1000 * value,
            np.full_like(value, 1000 * limit),
            value / limit,
            situations,
            blocks=(say("slope"),),
            why_not=reasons,
            not_applicable=idle,
            note=note,
        ),
        _relative_rotation(bench, project, situations, total, rows, reasons, rotation),
    ]


def _alone_here(project: Project) -> str:
    return say(
        "there is no other foundation within {neighbour_reach:g} m whose settlement is known",
        neighbour_reach=project.settings.neighbour_reach,
    )


def _relative_rotation(
    bench: Bench,
    project: Project,
    situations: Situations,
    total: Array,
    rows: list[list[tuple[str, float, Array]]],
    reasons: tuple[str, ...],
    record: Recorder,
) -> Outcome:
    """Deflection of the base against the straight line through two neighbours on opposite sides, over the shorter
    distance.

    So a common slope, which is a tilt of the whole, is taken out (Skempton and MacDonald 1956: beta).
    """
    count = len(situations)
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
    idle = tuple("" if triples[i] else say("no two neighbours stand on opposite sides") for i in bench.index)
    if all(idle):
        return does_not_apply("relative-rotation", idle)
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
    record.given("s_l", line * 1000, "mm", note=say("on the straight line between two neighbours"), needs="s")
    record.given("l_s", short, "m", note=say("to the nearer of the two"))
    exact = np.abs(total - line) * 1000 / short
    record.step(
        "beta",
        "abs(s - s_l)/l_s",
        exact,
        "‰",
        reference="Skempton and MacDonald 1956",
        note=say("relative rotation"),
    )
    record.given("beta_max", 1000 * limit, "‰", note=say("limit, 1/{limit:.0f}", limit=1 / limit))
    record.step("ratio", "beta/beta_max", exact / 1000 / limit)

    def note(candidate: int, column: int) -> str:
        found = triples[bench.index[candidate]]
        a, b = found[int(which[candidate, column % count])][:2]
        steep = beta[candidate, column % count]
        return say("against the line {a} to {b}", a=a, b=b) + (f", 1/{1 / steep:.0f}" if steep > 1e-9 else "")

    return Outcome(
        CHECKS["relative-rotation"],
        1000 * beta,
        np.full(shape, 1000 * limit),
        beta / limit,
        situations,
        blocks=(say("relative-rotation"),),
        why_not=reasons,
        not_applicable=idle,
        note=note,
    )


def _tilt(
    bench: Bench,
    situations: Situations,
    forces: BaseForces,
    found: Settlement,
    reasons: tuple[str, ...],
    record: Recorder,
) -> Outcome:
    """Tilt of the rigid base by the moments of the sustained load, and by what acts beside it.

    On the elastic half-space a rigid circle settles V (1 - nu2)/(2 E R) and tilts 3 M (1 - nu2)/(4 E R3) (Borowicka
    1943): the tilt is 1.5 e/R2 times the settlement. Of a rectangle R is that of equal area in the settlement and of
    equal second moment in the tilt. The settlement of the strata stands in the place of the half-space's: deep strata
    count too, which is on the safe side."""
    g, total = bench.geometry, found.total
    pressed = forces.N > 0
    N = np.where(pressed, forces.N, 1.0)
    B, L = g.footprint.equal_rectangle
    R_a = np.sqrt(B * L / np.pi)
    R_x, R_y = ((4 * inertia / np.pi) ** 0.25 for inertia in g.footprint.inertia)
    middles = {"x": g.footprint.centroid, "y": g.footprint.centroid_y}
    c, s = np.cos(g.rotation), np.sin(g.rotation)
    beside = {"x": c * found.tilt_x + s * found.tilt_y, "y": c * found.tilt_y - s * found.tilt_x}
    record.given("R_a", R_a, "m", note=say("radius of the circle of equal area"), needs="B L")
    sides = []
    for axis, moment, R in (("x", forces.My, R_x), ("y", -forces.Mx, R_y)):
        aside = not isinstance(middles[axis], float)
        e = moment / N - middles[axis]
        own = 1.5 * e * R_a / R**3 * total
        record.step(
            f"e_{axis}",
            ("M_y/N" if axis == "x" else "-M_x/N") + (f" - {axis}_m" if aside else ""),
            e,
            "m",
            note=say("eccentricity along {axis}", axis=axis),
        )
        record.given(f"R_{axis}", R, "m", note=say("radius of the circle of equal second moment"), needs="B L")
        record.given(
            f"theta_{axis}b",
            1000 * beside[axis],
            "‰",
            note=say("by what acts beside, along {axis}", axis=axis),
            needs="z_i",
        )
        record.step(
            f"theta_{axis}",
            f"1.5*e_{axis}*R_a/R_{axis}**3*s + theta_{axis}b",
            1000 * (own + beside[axis]),
            "‰",
            reference="Borowicka 1943",
            note=say("along {axis}", axis=axis),
        )
        sides.append(own + beside[axis])
    exact = np.hypot(*sides)
    tilt = np.where(pressed, exact, 0.0)
    limit = limits_of(bench.settings).tilt
    record.step("theta", "sqrt(theta_x**2 + theta_y**2)", 1000 * exact, "‰")
    record.given("theta_max", 1000 * limit, "‰", note=say("limit, 1/{limit:.0f}", limit=1 / limit))
    record.step("ratio", "theta/theta_max", exact / limit)

    def note(candidate: int, column: int) -> str:
        value = tilt[candidate, column]
        return f"1/{1 / value:.0f}" if value > 1e-9 else ""

    return Outcome(
        CHECKS["tilt"],
        1000 * tilt,
        np.full_like(tilt, 1000 * limit),
        tilt / limit,
        situations,
        forces.V <= 0.0,
        blocks=(say("tilt"),),
        why_not=reasons,
        note=note,
        because=LIFTED,
    )
