"""Uplift by tension from the column and by water pressure."""

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.working import SILENT, Array, Recorder


def uplift_forces(
    forces: BaseForces, situations: Situations, record: Recorder = SILENT
) -> tuple[Array, Array]:
    """(upward, holding) forces in kN: tension and water pressure; weights and permanent loads.

    Variable loads that press down hold nothing (EN 1997-1 2.4.7.4).
    """
    by_case = forces.cases[:, None, :, 0] * situations.factors
    tension = np.maximum(-by_case, 0.0).sum(-1)
    pressing = (np.maximum(by_case, 0.0) * situations.permanent).sum(-1)
    weight = forces.weight + forces.pedestal
    up = forces.U + tension
    hold = weight + pressing
    record("V_up", "total(max(-gamma_F*V_k, 0))", tension, "kN", note="cases that lift")
    record.listed("G_k", situations.permanent, situations.cases, note="1 for permanent cases")
    record("V_down", "total(max(gamma_F*V_k, 0)*G_k)", pressing, "kN", note="permanent cases that press down")
    record("V_dst", "U + V_up", up, "kN", "EN 1997-1 2.4.7.4", "lifting")
    record(
        "V_stb", "gamma_G*(W_base + W_ped + W_soil) + V_down", hold, "kN", "EN 1997-1 2.4.7.4", "holding down"
    )
    return up, hold
