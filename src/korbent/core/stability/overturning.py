"""Overturning about the four edges of a rectangular base.

The rule: an action whose own moment about the edge overturns is destabilising with its whole moment, all
others stabilise. The parts of one load case (V, M and H times its height) act together.
"""

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.geometry import PadGeometry
from korbent.core.working import SILENT, Array, Recorder

EDGES = ("+x edge", "−x edge", "+y edge", "−y edge")


def moments_about_edges(
    geometry: PadGeometry,
    forces: BaseForces,
    situations: Situations,
    record: Recorder = SILENT,
    props: tuple[Array | float, Array | float] = (0.0, 0.0),
) -> tuple[Array, Array]:
    """(destabilising, stabilising) moments in kNm, shape (candidates, edges x situations), edges outermost."""
    g = geometry
    V, Hx, Hy, Mx, My = np.moveaxis(forces.cases, -1, 0)
    arm = forces.arm
    destabilising, stabilising = [], []
    for edge in EDGES:
        sign = 1.0 if edge[0] == "+" else -1.0
        along_x = edge[1] == "x"
        size, offset = (g.B, g.offset_x) if along_x else (g.L, g.offset_y)
        lever = size / 2 - sign * offset
        own = sign * ((My + arm * Hx) if along_x else (arm * Hy - Mx))
        by_case = (own * situations.overturning - lever * V)[..., None, :] * situations.factors
        weights = (forces.weight + forces.backfill_cut) * size / 2 + (
            forces.pedestal - forces.backfill_cut
        ) * lever
        water = forces.U * size / 2
        over = np.maximum(by_case, 0.0).sum(-1) + water
        # a prop pushes back as far as the base is pushed towards this edge
        prop = np.maximum(sign * np.asarray(props[0] if along_x else props[1]), 0.0)
        back = np.maximum(-by_case, 0.0).sum(-1) + weights + prop
        destabilising.append(over)
        stabilising.append(back)
        r = record.scope(edge)
        r("l_c", "", lever, "m", note=f"from the column to the {edge}")
        r("l_m", "", size / 2, "m", note=f"from the middle to the {edge}")
        r.listed(
            "M_ck",
            by_case,
            situations.cases,
            "kNm",
            "factored moment of each case about the edge, + overturns",
        )
        r(
            "M_over",
            "total(max(M_ck, 0))",
            np.maximum(by_case, 0.0).sum(-1),
            "kNm",
            note="cases that overturn",
        )
        r(
            "M_back",
            "total(max(-M_ck, 0))",
            np.maximum(-by_case, 0.0).sum(-1),
            "kNm",
            note="cases that stabilise",
        )
        r(
            "M_W", "gamma_G*((W_base + W_soil + q_b*f_x*f_y)*l_m + (W_ped - q_b*f_x*f_y)*l_c)", weights, "kNm",
            note="weights",
        )  # fmt: skip
        r("M_U", "U*l_m", water, "kNm", note="water pressure")
        r("M_dst", "M_over + M_U", over, "kNm", note="destabilising")
        r("M_P", "", prop, "kNm", note="prop or tie, as far as it is called upon")
        r("M_stb", "M_back + M_W + M_P", back, "kNm", note="stabilising")
    return np.concatenate(destabilising, axis=-1), np.concatenate(stabilising, axis=-1)
