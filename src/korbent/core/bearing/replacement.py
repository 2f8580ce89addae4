"""The own resistance of what replaces the ground below a base; what lies under it is checked on the wider area
there."""

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.bearing import annex_d
from korbent.core.bearing.effective import on_effective_area
from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, cannot, does_not_apply
from korbent.core.model.foundations import Replacement
from korbent.core.working import Array, Recorder
from korbent.words import say

USUAL_FACTOR = 3.0
"""Required safety of a granular replacement by unfactored combinations, where no safety factor is set."""


def replacement_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Granular: bearing resistance of the fill alone. Concrete: peak pressure against its design compressive stress."""
    replacement = bench.pads[0].replacement
    if replacement is None:
        return [does_not_apply("replacement", say("nothing replaces the ground below the base"))]
    situations = bench.situations("ultimate")
    factored = bool(len(situations))
    if not factored:
        situations = bench.situations("allowable")
    if not len(situations):
        return [cannot("replacement", bench.no_combination("ultimate"))]
    forces = bench.forces(situations, record)
    if replacement.kind == "concrete":
        return [_concrete(bench, replacement, situations, forces, record)]
    if bench.profile is None:
        return [cannot("replacement", say("there is no borehole: describe the ground first"))]
    return [_granular(bench, replacement, situations, forces, record, factored)]


def _concrete(
    bench: Bench, replacement: Replacement, situations: Situations, forces: BaseForces, record: Recorder
) -> Outcome:
    contact = bench.geometry.footprint.contact(forces.N, forces.Mx, forces.My, record)
    record.given("f_r", replacement.strength, "kPa", note=say("design compressive stress of the replacement"))
    ratio = np.where(contact.stable, contact.peak / replacement.strength, 0.0)
    record.step("ratio", "p_max/f_r", contact.peak / replacement.strength)
    return Outcome(
        CHECKS["replacement"],
        contact.peak,
        np.full_like(contact.peak, replacement.strength),
        ratio,
        situations,
        ~contact.stable,
        note=lambda candidate, column: say("peak pressure on the concrete"),
    )


def _granular(
    bench: Bench, replacement: Replacement, situations: Situations, forces: BaseForces, record: Recorder, factored: bool
) -> Outcome:
    g, water = bench.geometry, bench.water(situations)
    assert bench.profile is not None
    contact = g.footprint.contact(forces.N, forces.Mx, forces.My, record)
    on_area = on_effective_area(bench, contact, forces, record)
    B, L, area, H, m = annex_d.effective_sizes(on_area.x, on_area.y, on_area.forces.Hx, on_area.forces.Hy, record)
    tan_phi = np.tan(np.deg2rad(replacement.friction_angle)) / situations.on_tan_phi
    record.given("phiprime", replacement.friction_angle, "°", note=say("granular replacement"))
    record.given("gamma_phi", situations.on_tan_phi, reference="EN 1997-1 table A.4")
    record.step("t_phi_d", "tan(rad(phiprime))/gamma_phi", tan_phi, note="tan φ′d")
    record.given("cprime_d", np.zeros_like(tan_phi), "kPa", note=say("none is counted"))
    q = bench.overburden("effective", water, record)
    own = np.full_like(g.B, replacement.weight)
    weight = annex_d.weight_below(own, own, g.underside, water, B, record)
    r = annex_d.drained(on_area.forces.N, H, m, B, L, np.zeros_like(tan_phi), tan_phi, q, weight, record, bench.tilt)
    divisor: Array | float = bench.on_resistance(situations, "bearing")
    required = None if factored else bench.settings.factor_bearing or USUAL_FACTOR
    usable = contact.stable & ~r.slides & (r.pressure > 0.0)
    demand = np.where(contact.stable, on_area.forces.N / np.maximum(area, 1e-9), 0.0)
    capacity = np.where(usable, r.pressure / divisor, 1.0)
    ratio = np.where(usable, (required or 1.0) * demand / capacity, 0.0)
    record.given("gamma_R", divisor, reference="EN 1997-1 table A.5", note=say("1/φ for the set R"))
    record.given(
        "F_req",
        required or 1.0,
        note=say("required factor") if required else say("factors are in the combination"),
    )
    record.step("p_Ed", "N/max(A_eff, 1e-9)", on_area.forces.N / np.maximum(area, 1e-9), "kPa", note="N/A'")
    record.step(
        "ratio",
        "F_req*p_Ed*gamma_R/max(r_d, 1e-9)",
        np.where(
            usable,
            ratio,
            (required or 1.0) * on_area.forces.N / np.maximum(area, 1e-9) * divisor / np.maximum(r.pressure, 1e-9),
        ),
    )
    return Outcome(
        CHECKS["replacement"],
        demand,
        np.where(usable, capacity, 0.0),
        ratio,
        situations,
        ~usable,
        required_factor=required,
        note=lambda candidate, column: say(
            "the fill alone, φ′ {friction_angle:g}°", friction_angle=replacement.friction_angle
        ),
        because=say("the resultant lies outside the base, or the horizontal force is more than the fill holds"),
    )
