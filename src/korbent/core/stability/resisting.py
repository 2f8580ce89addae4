"""What resists sliding besides the underside: earth pressure in front of the base, and props or ties."""

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench
from korbent.core.ground.profile import WATER_WEIGHT
from korbent.core.working import Array, Recorder


def passive_forces(bench: Bench, situations: Situations, record: Recorder) -> tuple[Array, Array]:
    """Mobilised passive resistance (kN) on the faces across x and across y of the base, smooth wall (Rankine 1857).

    From the underside up to the top of the base, or to the ignored depth below finished ground where that is lower.
    """
    g, settings, backfill = bench.geometry, bench.settings, bench.ground.backfill
    if settings.passive_angle is None:
        none = np.zeros_like(g.B)
        record("E_px", "", none, "kN", note="no passive resistance is counted")
        record("E_py", "", none, "kN")
        return none, none
    water = bench.water(situations)
    t = np.tan(np.deg2rad(settings.passive_angle)) / situations.on_tan_phi
    phi = np.arctan(t)
    K_p = np.tan(np.pi / 4 + phi / 2) ** 2
    upper = np.minimum(g.top, bench.finished - settings.passive_ignored)
    height = np.maximum(upper - g.underside, 0.0)
    stresses = []
    for name, level in (("t", np.maximum(upper, g.underside)), ("b", g.underside)):
        depth = np.maximum(bench.finished - level, 0.0)
        wet = np.clip(water - level, 0.0, depth)
        sigma = backfill.weight * (depth - wet) + (backfill.weight_saturated - WATER_WEIGHT) * wet
        record(
            f"D_{name}",
            "",
            depth,
            "m",
            note="depth below finished ground, " + ("upper end" if name == "t" else "underside"),
        )
        record(f"w_{name}", "", wet, "m", note="of which below water")
        record(
            f"sigma_{name}", f"gamma_b*(D_{name} - w_{name}) + (gamma_b_sat - gamma_w)*w_{name}", sigma, "kPa",
            note="effective stress beside the base",
        )  # fmt: skip
        stresses.append(sigma)
    # water between the two ends bends the line of the stress: below it the trapezium is an approximation on the safe side
    per_width = settings.passive_share * K_p * (stresses[0] + stresses[1]) / 2 * height
    divisor = bench.on_resistance(situations, "sliding")
    E_x, E_y = per_width * g.L / divisor, per_width * g.B / divisor
    record("phi_p", "", settings.passive_angle, "°", note="soil beside the base")
    record("gamma_phip", "", situations.on_tan_phi, "", "EN 1997-1 table A.4")
    record("K_p", "tan(pi/4 + atan(tan(rad(phi_p))/gamma_phip)/2)**2", K_p, "", "Rankine 1857")
    record("k_p", "", settings.passive_share, "", "setting", "share that is mobilised")
    record("h_p", "", height, "m", note="height that counts")
    record("E_px", "k_p*K_p*(sigma_t + sigma_b)/2*h_p*L/gamma_Rh", E_x, "kN", note="on the face across x")
    record("E_py", "k_p*K_p*(sigma_t + sigma_b)/2*h_p*B/gamma_Rh", E_y, "kN", note="on the face across y")
    return E_x, E_y


def prop_forces(bench: Bench, record: Recorder) -> tuple[float, float]:
    """What a named prop or tie can take along x and along y, kN, as a design value."""
    settings = bench.settings
    P_x, P_y = (settings.prop_force if settings.prop_direction in (axis, "both") else 0.0 for axis in "xy")
    reason = settings.prop_reason or "no reason given"
    record("P_x", "", P_x, "kN", "setting", f"prop or tie: {reason}")
    record("P_y", "", P_y, "kN", "setting")
    return P_x, P_y


def prop_moments(bench: Bench, forces: BaseForces, record: Recorder) -> tuple[Array, Array]:
    """Moments (kNm) with which the prop holds back along x and along y: as much of it as the
    horizontal force calls upon, with its sign."""
    settings, g = bench.settings, bench.geometry
    if settings.prop_force == 0.0:
        return np.zeros_like(g.B), np.zeros_like(g.B)
    P_x, P_y = prop_forces(bench, record)
    level = g.top if settings.prop_level is None else np.full_like(g.top, settings.prop_level)
    arm = np.maximum(level - g.underside, 0.0)
    M_x: Array = np.clip(forces.Hx, -P_x, P_x) * arm
    M_y: Array = np.clip(forces.Hy, -P_y, P_y) * arm
    return M_x, M_y
