"""The bearing checks of a pad: presumed pressure, resistance, eccentricity, contact, levels."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.bearing import annex_d
from korbent.core.bearing.effective import as_seen, on_effective_area
from korbent.core.bearing.layers.adopted import Factors, Layered, layered, place_of
from korbent.core.bearing.layers.strata import weight_below
from korbent.core.bearing.methods import METHODS
from korbent.core.bearing.methods.method import Footing, Ultimate
from korbent.core.bearing.presumed import (
    contact_ratio,
    presumed_at,
    presumed_ratio,
)
from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, cannot, does_not_apply
from korbent.core.contact.plane import Contact
from korbent.core.ground.profile import total_stress
from korbent.core.model.labels import label
from korbent.core.working import Array, Recorder
from korbent.words import say


def service_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Presumed pressure, eccentricity and contact share, from unfactored combinations."""
    situations = bench.situations("allowable")
    ids = ("presumed-pressure", "eccentricity", "contact-share")
    if not len(situations):
        return [cannot(check, bench.no_combination("allowable")) for check in ids]
    g, settings = bench.geometry, bench.settings
    forces = bench.forces(situations, record)
    outcomes = []
    if settings.presumed_pressure is None and not settings.presumed_table:
        outcomes.append(does_not_apply("presumed-pressure", say("no presumed pressure is set")))
    else:
        outcomes.append(_presumed(bench.on_ground(), situations, forces, record.scope("presumed")))
    contact = g.footprint.contact(forces.N, forces.Mx, forces.My, record)
    unstable = ~contact.stable
    usual = settings.eccentricity_round if g.footprint.is_round else settings.eccentricity_limit
    special = usual if settings.eccentricity_special is None else settings.eccentricity_special
    most = np.where(situations.is_special(), special, usual)
    measure, ratio = g.footprint.eccentricity(contact, most, record.scope("eccentricity"))
    limit = np.broadcast_to(most, measure.shape)
    note = _resultant(contact)
    outcomes.append(
        Outcome(
            CHECKS["eccentricity"],
            measure,
            limit,
            ratio,
            situations,
            unstable,
            blocks=(say("eccentricity"),),
            note=note,
        )
    )
    usual, special_share = settings.contact_share_least, settings.contact_share_special
    least = np.where(situations.is_special(), usual if special_share is None else special_share, usual)
    share = contact_ratio(contact, least, record.scope("contact"))
    outcomes.append(
        Outcome(
            CHECKS["contact-share"],
            np.broadcast_to(100 * least, share.shape),
            100 * contact.share,
            share,
            situations,
            unstable,
            blocks=(say("contact"),),
        )
    )
    return outcomes


def _resultant(contact: Contact) -> Callable[[int, int], str]:
    def note(candidate: int, column: int) -> str:
        x, y = (np.broadcast_to(e, contact.stable.shape)[candidate, column] for e in (contact.e_x, contact.e_y))
        where = "" if contact.stable[candidate, column] else say(": the resultant lies outside the base or lifts it")
        return f"e_x {x:+.3f} m, e_y {y:+.3f} m{where}"

    return note


def _presumed(bench: Bench, situations: Situations, forces: BaseForces, record: Recorder) -> Outcome:
    g, settings = bench.geometry, bench.settings
    if bench.base is not None:
        forces = bench.forces(situations, record)
    record.step("N", "V", forces.V, "kN", note=say("total stresses: water pressure not deducted"))
    contact = g.footprint.contact(forces.V, forces.Mx, forces.My, record)
    if settings.presumed_compares == "peak":
        pressure = contact.peak
        record.step("p_dem", "p_max", pressure, "kPa", note=say("peak of the linear pressure"))
    else:
        eff = g.footprint.effective(contact, forces.Hx, forces.Hy, record)
        pressure = np.where(contact.stable, forces.V / np.maximum(eff.x * eff.y, 1e-9), 0.0)
        record.step("p_dem", "N/max(B_x*L_y, 1e-9)", pressure, "kPa", note=say("uniform on the effective area"))
    if bench.profile is not None:
        q_0 = total_stress(
            bench.profile,
            bench.ground.backfill,
            np.array(bench.finished),
            g.underside,
            bench.water(situations),
        )
    else:
        q_0 = bench.ground.backfill.weight * np.maximum(bench.finished - g.underside, 0.0) + np.zeros(len(situations))
    net = settings.presumed_basis == "net"
    basis = "net" if net else "gross"
    if settings.presumed_table:
        record.given(
            "D",
            bench.finished - g.underside,
            "m",
            note=say("depth of the founding level below finished ground"),
        )
        record.step("W", "min(B, L)", np.minimum(g.B, g.L), "m", note=say("width"))
    usual = presumed_at(settings, bench.finished - g.underside, np.minimum(g.B, g.L))
    assert usual is not None
    short = _short_term(bench, situations)
    record.given(
        "q_usual",
        usual,
        "kPa",
        note=say("presumed pressure, {basis}", basis=label(basis))
        + (say(", by depth and width") if settings.presumed_table else ""),
        needs="D W" if settings.presumed_table else "",
    )
    record.given("k_short", short, note=say("increase with wind, seismic and accidental actions"))
    presumed = usual * short
    record.step("q_pres", "q_usual*k_short", presumed, "kPa", note=say("presumed pressure"))
    demand, ratio = presumed_ratio(pressure, presumed, q_0, net, record)
    presumed = np.broadcast_to(presumed, demand.shape)

    def note(candidate: int, column: int) -> str:
        return say(
            "{presumed_basis} {presumed_compares}, column {column:.0f} kN",
            presumed_basis=label(settings.presumed_basis),
            presumed_compares=label(settings.presumed_compares),
            column=forces.column[candidate, column],
        )

    return Outcome(
        CHECKS["presumed-pressure"],
        demand,
        presumed,
        ratio,
        situations,
        ~contact.stable,
        blocks=(say("presumed"),),
        note=note,
    )


def _short_term(bench: Bench, situations: Situations) -> Array:
    """Factor on the presumed pressure by situation: with wind, seismic or accidental actions its increase."""
    brief = {c.name for c in bench.actions.cases if c.nature in ("wind", "seismic", "accidental")}
    acts = np.array([any(f and n in brief for n, f in c.factors.items()) for c in situations.combinations])
    return np.where(acts, bench.settings.presumed_short, 1.0)


def resistance_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Bearing resistance with factored combinations and a material factor set."""
    situations = bench.situations("ultimate")
    ids = ("resistance-drained", "resistance-undrained")
    if not len(situations):
        if bench.settings.presumed_pressure is None and not bench.settings.presumed_table:
            return [cannot(c, bench.no_combination("ultimate")) for c in ids]
        why = say("no combination serves 'ultimate'; the presumed pressure is checked instead")
        return [does_not_apply(c, why) for c in ids]
    bench = bench.on_ground()
    forces = bench.forces(situations, record)
    outcomes = []
    for check, drainage, compute in zip(ids, ("drained", "undrained"), (_drained, _undrained)):
        idle = bench.idle(drainage)
        if all(idle):
            outcomes.append(does_not_apply(check, idle))
        else:
            found = compute(bench, situations, forces, record.scope(drainage))
            outcomes.append(replace(found, not_applicable=idle))
    return outcomes


def _drained(bench: Bench, situations: Situations, forces: BaseForces, record: Recorder) -> Outcome:
    g = bench.geometry
    why = bench.why_not("friction_angle", "cohesion")
    if all(why):
        return cannot("resistance-drained", why)
    assert bench.profile is not None
    water = bench.water(situations)
    pressing, forces = forces.N, bench.leaning(situations, forces, record)
    contact = g.footprint.contact(forces.N, forces.Mx, forces.My, record)
    on_area = on_effective_area(bench, contact, forces, record)
    B_x, L_y, forces, pressing = on_area.x, on_area.y, on_area.forces, pressing * on_area.times
    B_eff, L_eff, area, H, m = annex_d.effective_sizes(B_x, L_y, forces.Hx, forces.Hy, record)
    c_k, phi_k = (
        bench.soil("cohesion"),
        np.where(bench.soil("friction_angle") > 0.0, bench.soil("friction_angle"), 30.0),
    )
    cohesion = c_k / situations.on_cohesion
    tan_phi = np.tan(np.deg2rad(phi_k)) / situations.on_tan_phi
    record.given("phiprime", phi_k, "°", note=say("soil below the base"))
    record.given("cprime", c_k, "kPa")
    record.given("gamma_phi", situations.on_tan_phi, reference="EN 1997-1 table A.4")
    record.given("gamma_cprime", situations.on_cohesion, reference="EN 1997-1 table A.4")
    record.step("t_phi_d", "tan(rad(phiprime))/gamma_phi", tan_phi, note="tan φ′d")
    record.step("cprime_d", "cprime/gamma_cprime", cohesion, "kPa")
    q = bench.overburden("effective", water, record)
    weight = weight_below(bench, g.underside, B_eff, water, "effective", record)
    r = annex_d.drained(forces.N, H, m, B_eff, L_eff, cohesion, tan_phi, q, weight, record, bench.tilt)
    base = as_seen(bench, on_area, forces.N, cohesion, np.arctan(tan_phi), q, weight)
    return _resistance("resistance-drained", bench, situations, contact, area, base, pressing, r, why, record)


def _undrained(bench: Bench, situations: Situations, forces: BaseForces, record: Recorder) -> Outcome:
    g = bench.geometry
    why = bench.why_not("undrained_strength")
    if all(why):
        return cannot("resistance-undrained", why)
    assert bench.profile is not None
    pressing, forces = forces.V, bench.leaning(situations, forces, record)
    record.step("N", "V", forces.V, "kN", note=say("total stresses: water pressure not deducted"))
    contact = g.footprint.contact(forces.V, forces.Mx, forces.My, record)
    on_area = on_effective_area(bench, contact, forces, record)
    B_x, L_y, forces, pressing = on_area.x, on_area.y, on_area.forces, pressing * on_area.times
    B_eff, L_eff, area, H, _ = annex_d.effective_sizes(B_x, L_y, forces.Hx, forces.Hy, record)
    strength = bench.undrained_strength(situations, record)
    q = bench.overburden("total", bench.water(situations), record)
    r = annex_d.undrained(H, B_eff, L_eff, strength, q, record, bench.tilt)
    base = as_seen(bench, on_area, forces.V, strength, np.zeros_like(g.B), q, bench.soil("weight_saturated"))
    return _resistance("resistance-undrained", bench, situations, contact, area, base, pressing, r, why, record)


def _resistance(
    check: str,
    bench: Bench,
    situations: Situations,
    contact: Contact,
    area: Array,
    base: Footing,
    vertical: Array,
    own: annex_d.Resistance,
    why: tuple[str, ...],
    record: Recorder,
) -> Outcome:
    drainage = check.removeprefix("resistance-")
    factors = Factors(situations.on_tan_phi, situations.on_cohesion, situations.on_undrained)
    alone = Ultimate(own.pressure, own.slides)
    with_all = layered(
        bench, base, alone, drainage, METHODS["EN 1997-1 Annex D"], factors, bench.water(situations), record, "r_d"
    )
    r = alone if with_all is None else Ultimate(with_all.pressure, with_all.slides)
    scoped = record if with_all is None or not any(with_all.below) else record.scope("layers")
    usable = contact.stable & ~r.slides & (r.pressure > 0.0)
    divisor = bench.on_resistance(situations, "bearing")
    design = r.pressure / divisor
    demand = np.where(contact.stable, vertical / np.maximum(area, 1e-9), 0.0)
    capacity = np.where(usable, design, 1.0)
    ratio = np.where(usable, demand / capacity, 0.0)
    if scoped is not record:
        # the calculation of the strata below named its own forces and sizes: those of the base again
        scoped.step("A_eff", "B_1*L_1", base.B * base.L, "m²", note="A'")
    scoped.given("N_Ed", vertical, "kN", note=say("vertical force on the underside, factored"), needs="N")
    scoped.given("gamma_R", divisor, reference="EN 1997-1 table A.5", note=say("1/φ for the set R"))
    scoped.step("r_Rd", "r_d/gamma_R", design, "kPa", reference="EN 1997-1 2.4.7.3.3")
    scoped.step(
        "p_Ed",
        "N_Ed/max(A_eff, 1e-9)",
        np.where(contact.stable, demand, vertical / np.maximum(area, 1e-9)),
        "kPa",
        note="N/A'",
    )
    scoped.step(
        "ratio",
        "p_Ed/max(r_Rd, 1e-9)",
        np.where(usable, ratio, demand / np.maximum(design, 1e-9)),
    )

    def note(candidate: int, column: int) -> str:
        text = say("V/A' by set {factor_set}", factor_set=situations.combinations[column % len(situations)].factor_set)
        reason = with_all.reason(candidate, column) if with_all else ""
        return f"{text}; {reason}" if reason else text

    def because(candidate: int, column: int) -> str:
        if contact.stable[candidate, column]:
            return say("the horizontal force alone is more than the ground holds")
        return say("the resultant lies outside the base or nothing presses it down")

    return Outcome(
        CHECKS[check],
        demand,
        np.where(usable, design, 0.0),
        ratio,
        situations,
        ~usable,
        blocks=(label(drainage) if scoped is record else say("{drainage} layers", drainage=label(drainage)),),
        why_not=why,
        warnings=_left_out(bench, with_all),
        note=note,
        because=because,
        place=place_of(with_all.mechanism, with_all.reached) if with_all else None,
    )


def _left_out(bench: Bench, with_all: Layered | None) -> tuple[str, ...]:
    """Per candidate: what the resistance by Annex D does not take into account."""
    slope = (
        say("Annex D has no factor for ground that falls away beside the base: it is left out")
        if bench.settings.ground_slope > 0
        else ""
    )
    layers = layers_left_out(bench, with_all) or ("",)
    return tuple("; ".join(text for text in (slope, own) if text) for own in layers)


def layers_left_out(bench: Bench, with_all: Layered | None) -> tuple[str, ...]:
    """Per candidate: a warning when another stratum begins near below the base but lacks what is needed."""
    if with_all is None:
        return ()
    near = bench.nearest_other()
    width = np.minimum(bench.geometry.B, bench.geometry.L)[:, 0]
    return tuple(
        say("the next stratum, {d:.2f} m below the base, is not in this resistance: {text}", d=d, text=text)
        if text and d < 2 * w
        else say("a stratum further down is not in this resistance: {further}", further=further)
        if further
        else ""
        for text, further, d, w in zip(with_all.lacking, with_all.further, near, width)
    )


def level_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Top below finished ground, and frost depth; with a replacement, down to its underside."""
    bench = bench.on_ground()
    g, settings = bench.geometry, bench.settings
    depth = bench.finished - g.underside
    sound = depth > 0.0
    record.given("z_fin", bench.finished, "m", note=say("finished ground"))
    record.given("z_f", g.underside, "m", note=say("founding level"))
    record.step("D", "z_fin - z_f", depth, "m", note=say("depth of the founding level"))
    record.given("h", g.h, "m", note=say("thickness"))
    record.given("c_top", settings.cover_above, "m", note=say("cover of soil asked for"))
    record.given("D_frost", settings.frost_depth, "m", note=say("frost depth"))
    skirt = bench.pads[0].skirt
    frost = "D_frost/max(D, 1e-9)"
    if skirt:
        record.given(
            "D_rib",
            skirt,
            "m",
            note=say("further down reach the ribs along all edges: frost comes from outside"),
        )
        frost = "D_frost/max(D + D_rib, 1e-9)"
    outcomes = []
    for check, formula, needed, there in (
        ("top-cover", "(h + c_top)/max(D, 1e-9)", g.h + settings.cover_above, depth),
        ("frost-depth", frost, np.full_like(depth, settings.frost_depth), depth + skirt),
    ):
        ratio = needed / np.maximum(there, 1e-9)
        record.scope(check).step("ratio", formula, ratio)
        why = tuple(
            "" if ok else say("the founding level lies above finished ground: lower the base") for ok in sound[:, 0]
        )
        outcomes.append(Outcome(CHECKS[check], needed, there, ratio, blocks=(check,), why_not=why))
    return [*outcomes, _founding(bench, record.scope("founding-stratum"))]


def board_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """A board (insulation) below the base: the peak pressure of unfactored combinations against its design stress."""
    strength = bench.settings.board_strength
    if strength is None:
        return [does_not_apply("board", say("no board lies below the base"))]
    situations = bench.situations("allowable")
    if not len(situations):
        return [cannot("board", bench.no_combination("allowable"))]
    g, forces = bench.geometry, bench.forces(situations, record)
    record.step("N", "V", forces.V, "kN", note=say("water pressure not deducted: it presses the board too"))
    contact = g.footprint.contact(forces.V, forces.Mx, forces.My, record)
    record.given("f_b", strength, "kPa", note=say("design compressive stress of the board"))
    ratio = contact.peak / strength
    record.step("ratio", "p_max/f_b", np.where(contact.stable, ratio, 0.0))
    return [
        Outcome(
            CHECKS["board"],
            contact.peak,
            np.full_like(contact.peak, strength),
            ratio,
            situations,
            ~contact.stable,
        )
    ]


def _founding(bench: Bench, record: Recorder) -> Outcome:
    """The base stands so deep in a named soil."""
    name, embedment = bench.settings.founding_unit, bench.settings.founding_embedment
    if not name:
        return does_not_apply("founding-stratum", say("no soil is named in which the bases must stand"))
    if bench.profile is None:
        return cannot("founding-stratum", say("there is no borehole: describe the ground first"))
    names = [soil.name for soil in bench.profile.soils]
    if name not in names:
        return cannot(
            "founding-stratum",
            say(
                "the ground here ({place}) has no {name!r}: name a soil that it has",
                place=bench.profile.place,
                name=name,
            ),
        )
    g = bench.geometry
    tops = np.broadcast_to(bench.profile.top, (len(bench.index), len(names)))
    top = tops[:, names.index(name)][:, None]
    depth = top - g.underside
    needed = np.full_like(depth, embedment)
    record.given("z_top", top, "m", note=say("top of {name}", name=name))
    record.given("z_f", g.underside, "m", note=say("founding level"))
    record.step("t", "z_top - z_f", depth, "m", note=say("depth of the base in it"))
    record.given("t_min", embedment, "m", note=say("asked for"))
    ratio = np.where(depth > 1e-9, needed / np.maximum(depth, 1e-9), 0.0)
    record.step("ratio", "where(t > 1e-9, t_min/max(t, 1e-9), 0)", ratio)
    short = (depth < -1e-9) | ((depth <= 1e-9) & (needed > 0))

    def note(candidate: int, column: int) -> str:
        return say("{name} begins at {top:+.2f} m", name=name, top=float(top[candidate, 0])) + (
            say(": the base does not reach so deep") if short[candidate, 0] else ""
        )

    return Outcome(
        CHECKS["founding-stratum"],
        needed,
        np.maximum(depth, 0.0),
        ratio,
        unresisted=short,
        blocks=(say("founding-stratum"),),
        note=note,
    )
