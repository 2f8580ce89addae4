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
RIM = "rim"


TOWARDS = np.arange(0.0, 2 * np.pi, np.pi / 12)
"""Directions in which a round base is tipped besides that of its resultant, rad."""


def moments_about_rim(
    geometry: PadGeometry,
    forces: BaseForces,
    situations: Situations,
    record: Recorder = SILENT,
    props: tuple[Array | float, Array | float] = (0.0, 0.0),
) -> tuple[Array, Array]:
    """(destabilising, stabilising) moments in kNm of a round base about the tangent at its rim, shape (candidates, situations).

    Of the direction of the resultant and those every 15 degrees, the one with the greatest ratio counts.
    """
    g = geometry
    V, Hx, Hy, Mx, My = np.moveaxis(forces.cases, -1, 0)
    arm = forces.arm
    towards_x, towards_y = My + arm * Hx, arm * Hy - Mx
    resultant = np.arctan2(-forces.Mx, forces.My)
    angles = np.concatenate(
        [resultant[None], np.broadcast_to(TOWARDS[:, None, None], (len(TOWARDS), *resultant.shape))]
    )
    c, s = np.cos(angles), np.sin(angles)
    R = g.B / 2
    lever = R - c * g.offset_x - s * g.offset_y
    cut = R - c * g.cut_x - s * g.cut_y
    turning = (c[..., None] * towards_x[:, None] + s[..., None] * towards_y[:, None]) * situations.overturning
    by_case = (turning - lever[..., None] * V[:, None]) * situations.factors
    weights = (forces.weight + forces.backfill_cut) * R + forces.pedestal * lever - forces.backfill_cut * cut
    water = forces.U * R
    over_cases, back_cases = np.maximum(by_case, 0.0).sum(-1), np.maximum(-by_case, 0.0).sum(-1)
    prop = np.maximum(c * np.asarray(props[0]) + s * np.asarray(props[1]), 0.0)
    over, back = over_cases + water, back_cases + weights + prop
    ratio = over / np.maximum(back, 1e-9)
    worst = np.argmax(ratio, axis=0)[None]

    def at(values: Array) -> Array:
        found: Array = np.take_along_axis(np.broadcast_to(values, ratio.shape), worst, axis=0)[0]
        return found

    r = record.scope(RIM)
    r(
        "theta",
        "",
        np.rad2deg(at(angles)),
        "°",
        "",
        "direction from x in which the ratio is greatest",
        "M_x M_y",
    )
    r("l_m", "B/2", R, "m", note="from the middle to the rim")
    r("l_c", "l_m - cos(rad(theta))*o_x - sin(rad(theta))*o_y", at(lever), "m", note="from the column")
    r(
        "l_f",
        "l_m - cos(rad(theta))*x_f - sin(rad(theta))*y_f",
        at(cut),
        "m",
        note="from what stands on the base",
    )
    chosen = np.take_along_axis(by_case, np.broadcast_to(worst[..., None], (1, *by_case.shape[1:])), axis=0)[
        0
    ]
    r.listed(
        "M_ck", chosen, situations.cases, "kNm", "factored moment of each case about the tangent, + overturns"
    )
    r("M_over", "total(max(M_ck, 0))", at(over_cases), "kNm", note="cases that overturn")
    r("M_back", "total(max(-M_ck, 0))", at(back_cases), "kNm", note="cases that stabilise")
    r(
        "M_W", "gamma_G*((W_base + W_soil + q_b*A_f)*l_m + W_ped*l_c - q_b*A_f*l_f)", at(weights), "kNm",
        note="weights",
    )  # fmt: skip
    r("M_U", "U*l_m", water, "kNm", note="water pressure")
    r("M_dst", "M_over + M_U", at(over), "kNm", note="destabilising")
    r("M_P", "", at(prop), "kNm", note="prop or tie, as far as it is called upon")
    r("M_stb", "M_back + M_W + M_P", at(back), "kNm", note="stabilising")
    return at(over), at(back)


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
        cut = size / 2 - sign * (g.cut_x if along_x else g.cut_y)
        weights = (
            (forces.weight + forces.backfill_cut) * size / 2
            + forces.pedestal * lever
            - forces.backfill_cut * cut
        )
        water = forces.U * size / 2
        over = np.maximum(by_case, 0.0).sum(-1) + water
        # a prop pushes back as far as the base is pushed towards this edge
        prop = np.maximum(sign * np.asarray(props[0] if along_x else props[1]), 0.0)
        back = np.maximum(-by_case, 0.0).sum(-1) + weights + prop
        destabilising.append(over)
        stabilising.append(back)
        r = record.scope(edge)
        r("l_c", "", lever, "m", note=f"from the column to the {edge}")
        r("l_f", "", cut, "m", note=f"from what stands on the base to the {edge}")
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
            "M_W", "gamma_G*((W_base + W_soil + q_b*A_f)*l_m + W_ped*l_c - q_b*A_f*l_f)", weights, "kNm",
            note="weights",
        )  # fmt: skip
        r("M_U", "U*l_m", water, "kNm", note="water pressure")
        r("M_dst", "M_over + M_U", over, "kNm", note="destabilising")
        r("M_P", "", prop, "kNm", note="prop or tie, as far as it is called upon")
        r("M_stb", "M_back + M_W + M_P", back, "kNm", note="stabilising")
    return np.concatenate(destabilising, axis=-1), np.concatenate(stabilising, axis=-1)
