"""The rectangular stress block: steel for a moment, and the moment that steel carries, per metre of width."""

import numpy as np

from korbent.core.working import Array, Recorder
from korbent.words import say

ROUNDING = 1e-6
"""Steel that a moment of rounding alone asks for, mm2/m."""


def steel_for_moment(
    moment: Array,
    d: Array,
    stress: Array,
    yield_stress: Array,
    deepest: float | Array,
    phi: float,
    clause: str,
    record: Recorder,
) -> tuple[Array, Array]:
    """(steel in mm2/m, moment over the greatest that a ductile section carries); beyond that the steel that the moment
    needs all the same.

    Args:
        moment: kNm/m. d: effective depth, m.
        stress: of the concrete in the block, yield_stress: of the steel, MPa, both reduced where the standard reduces
        materials.
        deepest: greatest depth of the block over d. phi: strength reduction factor.
    """
    K_limit = deepest * (1 - deepest / 2)
    K = moment / (phi * 1000.0 * d**2 * stress)
    # a block over the whole depth carries K = 0.5; beyond it there is no equilibrium, and the steel grows on with the moment
    z = d * (1 + np.sqrt(np.maximum(1 - 2 * K, 0.0))) / 2
    steel = 1000.0 * K * 1000.0 * d**2 * stress / (z * yield_stress)
    # what only rounding asks for
    steel = np.where(steel < ROUNDING, 0.0, steel)
    record.given("f_b", stress, "MPa", note=say("concrete in the block"), needs="f_cd")
    record.given("phi_f", phi, note=say("strength reduction factor"))
    record.given("a_d", deepest, reference=clause, note=say("deepest block over d that stays ductile"))
    record.step("K_lim", "a_d*(1 - a_d/2)", K_limit)
    record.step("K", "m_Ed/(phi_f*1000*d**2*f_b)", K, reference=clause)
    record.step("z", "d*(1 + sqrt(max(1 - 2*K, 0)))/2", z, "m", note=say("lever arm"))
    record.step(
        "A_s_req",
        f"where(1000*K*1000*d**2*f_b/(z*f_yd) < {ROUNDING}, 0, 1000*K*1000*d**2*f_b/(z*f_yd))",
        steel,
        "mm²/m",
        note=say("steel required"),
    )
    return steel, K / K_limit
