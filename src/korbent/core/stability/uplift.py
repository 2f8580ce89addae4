"""Uplift by tension from the column and by water pressure, and what holds besides the weights."""

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench
from korbent.core.ground.profile import WATER_WEIGHT
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say


def uplift_forces(forces: BaseForces, situations: Situations, record: Recorder = SILENT) -> tuple[Array, Array]:
    """(upward, holding) forces in kN: tension and water pressure; weights and permanent loads.

    Variable loads that press down hold nothing (EN 1997-1 2.4.7.4).
    """
    by_case = forces.cases[:, None, :, 0] * situations.factors
    tension = np.maximum(-by_case, 0.0).sum(-1)
    pressing = (np.maximum(by_case, 0.0) * situations.permanent).sum(-1)
    weight = forces.weight + forces.pedestal
    up = forces.U + tension
    hold = weight + pressing
    record.step("V_up", "total(max(-gamma_F*V_k, 0))", tension, "kN", note=say("cases that lift"))
    record.listed("G_k", situations.permanent, situations.cases, note=say("1 for permanent cases"))
    record.step("V_down", "total(max(gamma_F*V_k, 0)*G_k)", pressing, "kN", note=say("permanent cases that press down"))
    record.step("V_dst", "U + V_up", up, "kN", reference="EN 1997-1 2.4.7.4", note=say("lifting"))
    record.step(
        "V_stb",
        "gamma_G*(W_base + W_ped + W_soil) + V_down",
        hold,
        "kN",
        reference="EN 1997-1 2.4.7.4",
        note=say("holding down"),
    )
    return up, hold


def held_beside(bench: Bench, situations: Situations, hold: Array, record: Recorder = SILENT) -> Array:
    """The holding forces with friction and adhesion on vertical planes around the base, or with a wedge of soil around
    it, kN.

    Both reach up to finished ground: the planes from the underside, the wedge from the top of the base. Friction K
    sigma' tan(phi') / gamma_phi; the wedge weighs as the backfill, below water under buoyancy (EN 1997-1 2.4.7.4(2):
    resistance as a permanent force that holds)."""
    settings, g = bench.settings, bench.geometry
    if settings.uplift_sides == "nothing":
        return hold
    backfill, water = bench.ground.backfill, bench.water(situations)
    around = g.footprint.around
    scope = record
    scope.step("P_s", g.footprint.around_formula, around, "m", note=say("around the base"))
    buoyant = backfill.weight_saturated - WATER_WEIGHT
    if settings.uplift_sides == "soil_wedge":
        height = np.maximum(bench.finished - g.top, 0.0)
        wet = np.clip(water - g.top, 0.0, height)
        t = float(np.tan(np.deg2rad(settings.uplift_wedge)))

        def volume(high: Array) -> Array:
            """Of the wedge up to a height above the top of the base; corners as quarters of a cone."""
            found: Array = around * t * high**2 / 2 + np.pi * t**2 * high**3 / 3
            return found

        below, whole = volume(wet), volume(height)
        weight = situations.weight * (backfill.weight * (whole - below) + buoyant * below)
        scope.given(
            "t_w",
            t,
            reference=say("setting"),
            note=say("tangent of {uplift_wedge:g}°: the wedge", uplift_wedge=settings.uplift_wedge),
        )
        scope.step("h_s", "max(0, z_fin - z_f - h)", height, "m", note=say("backfill above the base"))
        scope.step("h_sw", "min(h_s, max(0, z_w - z_f - h))", wet, "m", note=say("of it below water"))
        scope.step(
            "V_s",
            "P_s*t_w*h_s**2/2 + pi*t_w**2*h_s**3/3",
            whole,
            "m³",
            note=say("soil of the wedge, corners rounded"),
        )
        scope.step("V_sw", "P_s*t_w*h_sw**2/2 + pi*t_w**2*h_sw**3/3", below, "m³", note=say("of it below water"))
        scope.step(
            "R_s",
            "gamma_G*(gamma_b*(V_s - V_sw) + (gamma_b_sat - gamma_w)*V_sw)",
            weight,
            "kN",
            note=say("weight of the wedge"),
        )
        held = weight
    else:
        height = np.maximum(bench.finished - g.underside, 0.0)
        wet = np.clip(water - g.underside, 0.0, height)
        dry = height - wet
        # the stress rises with the depth, below water less
        pressed = backfill.weight * dry**2 / 2 + backfill.weight * dry * wet + buoyant * wet**2 / 2
        angle = settings.uplift_angle
        friction = 0.0 if angle is None else float(np.tan(np.deg2rad(angle)))
        per_length = (
            settings.uplift_earth_pressure * pressed * friction / situations.on_tan_phi
            + settings.uplift_adhesion * height / situations.on_cohesion
        )
        held = around * per_length
        scope.step("h_s", "max(0, z_fin - z_f)", height, "m", note=say("planes from the underside to finished ground"))
        scope.step("h_sw", "min(h_s, max(0, z_w - z_f))", wet, "m", note=say("of it below water"))
        scope.step(
            "S_s",
            "gamma_b*(h_s - h_sw)**2/2 + gamma_b*(h_s - h_sw)*h_sw + (gamma_b_sat - gamma_w)*h_sw**2/2",
            pressed,
            "kN/m",
            note=say("effective stress over the planes"),
        )
        scope.given("K_s", settings.uplift_earth_pressure, reference=say("setting"), note=say("earth pressure on them"))
        scope.given("t_s", friction, reference=say("setting"), note=say("tan φ′ there"))
        scope.given("a_s", settings.uplift_adhesion, "kPa", reference=say("setting"), note=say("adhesion there"))
        scope.given("gamma_phis", situations.on_tan_phi, reference="EN 1997-1 table A.4")
        scope.given("gamma_cs", situations.on_cohesion, reference="EN 1997-1 table A.4")
        scope.step(
            "R_s",
            "P_s*(K_s*S_s*t_s/gamma_phis + a_s*h_s/gamma_cs)",
            held,
            "kN",
            note=say("friction and adhesion on the planes"),
        )
    scope.step("V_stb0", "V_stb", hold, "kN")
    scope.step("V_stb", "V_stb0 + R_s", hold + held, "kN", reference="EN 1997-1 2.4.7.4(2)", note=say("holding down"))
    return hold + held
