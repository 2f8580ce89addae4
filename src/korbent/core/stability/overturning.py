"""Overturning about the four edges of a rectangular base, or about the rim of a round one.

Two rules. By action (EQU): an action whose own moment about the edge overturns is destabilising with its whole moment,
all others stabilise; the parts of one load case (V, M and H times its height) act together. With a global factor:
vertical loads stabilise or overturn each by its own sign, column by column; against them stand the lateral moments (M,
and H times its height) netted over the whole combination. How loads are split into cases does not matter to it."""

from dataclasses import dataclass

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.geometry import PadGeometry
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

RIM = "rim"


TOWARDS = np.arange(0.0, 2 * np.pi, np.pi / 12)
"""Directions in which a round base is tipped besides that of its resultant, rad."""


MOSTLY_NETTED = 0.5
"""Where less than this share of the lateral moments is left by netting, it is said."""


@dataclass(frozen=True)
class Vertical:
    """Vertical loads of the columns on a base by case, kN, (candidates, columns, cases), and where they stand from its
    middle, m, (candidates, columns, 1)."""

    V: Array
    x: Array
    y: Array


@dataclass(frozen=True)
class Moments:
    """Moments about the edges, kNm, (candidates, edges x situations), edges outermost."""

    over: Array
    back: Array
    netted: Array
    """Where more than half of the lateral moments cancel in netting."""


def _apart(
    lateral: Array, vertical: Array, situations: Situations, r: Recorder, labels: tuple[str, ...]
) -> tuple[Array, Array, Array]:
    """(overturning, stabilising, mostly netted) of loads with a global factor.

    Args:
        lateral: moments towards the edge by case, not factored, (..., cases).
        vertical: those of the vertical loads by column and case, (..., columns, cases); overturning positive.
    """
    sides = lateral[..., None, :] * situations.overturning * situations.factors
    uprights = vertical[..., :, None, :] * situations.factors
    net, gross = sides.sum(-1), np.abs(sides).sum(-1)
    lifting, pressing = np.maximum(uprights, 0.0).sum((-3, -1)), np.maximum(-uprights, 0.0).sum((-3, -1))
    r.listed("M_lk", sides, labels, "kNm", say("factored lateral moment of each case towards the edge"))
    r.step("M_lat", "total(M_lk)", net, "kNm", note=say("lateral moments, netted over the combination"))
    r.step("M_gross", "total(abs(M_lk))", gross, "kNm", note=say("their gross sum"))
    r.given("M_lift", lifting, "kNm", note=say("vertical loads that lift"), needs="l_c")
    r.step(
        "M_over",
        "max(M_lat, 0) + M_lift",
        np.maximum(net, 0.0) + lifting,
        "kNm",
        note=say("what overturns of the loads; ") + GLOBAL,
    )
    r.given("M_back", pressing, "kNm", note=say("vertical loads that press down"), needs="l_c")
    netted = (gross > 1e-9) & (np.abs(net) < MOSTLY_NETTED * gross) & (net > -1e-9 * gross)
    return np.maximum(net, 0.0) + lifting, pressing, netted


GLOBAL = say("vertical loads by their own sign against lateral moments netted, however the loads are split into cases")
BY_ACTION = say("by action: each case as a whole overturns or stabilises")


def moments_about_rim(
    geometry: PadGeometry,
    forces: BaseForces,
    situations: Situations,
    record: Recorder = SILENT,
    props: tuple[Array | float, Array | float] = (0.0, 0.0),
    apart: Vertical | None = None,
) -> Moments:
    """Moments of a round base about the tangent at its rim; by action, or with the vertical loads ``apart``.

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
    plinth = R - c * forces.pedestal_x - s * forces.pedestal_y
    weights = (forces.weight + forces.backfill_cut) * R + forces.pedestal * plinth - forces.backfill_cut * cut
    water = forces.U * R
    over_cases, back_cases = np.maximum(by_case, 0.0).sum(-1), np.maximum(-by_case, 0.0).sum(-1)
    netted, lateral = np.zeros(over_cases.shape, dtype=bool), by_case
    if apart is not None:
        off_x, off_y = apart.x - g.offset_x[:, None], apart.y - g.offset_y[:, None]
        side_x = towards_x - (apart.V * off_x).sum(-2)
        side_y = towards_y - (apart.V * off_y).sum(-2)
        lateral = c[..., None] * side_x[:, None] + s[..., None] * side_y[:, None]
        # (directions, candidates, situations, columns, 1) times (candidates, 1, columns, cases)
        levers = R[..., None, None] - c[..., None, None] * apart.x[:, None] - s[..., None, None] * apart.y[:, None]
        uprights = -levers * apart.V[:, None] * situations.factors[:, None, :]
        sides = lateral * situations.overturning * situations.factors
        net, gross = sides.sum(-1), np.abs(sides).sum(-1)
        over_cases = np.maximum(net, 0.0) + np.maximum(uprights, 0.0).sum((-2, -1))
        back_cases = np.maximum(-uprights, 0.0).sum((-2, -1))
        netted = (gross > 1e-9) & (np.abs(net) < MOSTLY_NETTED * gross) & (net > -1e-9 * gross)
        lateral = sides
    prop = np.maximum(c * np.asarray(props[0]) + s * np.asarray(props[1]), 0.0)
    over, back = over_cases + water, back_cases + weights + prop
    ratio = over / np.maximum(back, 1e-9)
    worst = np.argmax(ratio, axis=0)[None]

    def at(values: Array) -> Array:
        found: Array = np.take_along_axis(np.broadcast_to(values, ratio.shape), worst, axis=0)[0]
        return found

    r = record.scope(RIM)
    r.given(
        "theta",
        np.rad2deg(at(angles)),
        "°",
        note=say("direction from x in which the ratio is greatest"),
        needs="M_x M_y",
    )
    r.step("l_m", "B/2", R, "m", note=say("from the middle to the rim"))
    r.step("l_c", "l_m - cos(rad(theta))*o_x - sin(rad(theta))*o_y", at(lever), "m", note=say("from the column"))
    r.step(
        "l_p",
        "l_m - cos(rad(theta))*x_p - sin(rad(theta))*y_p",
        at(plinth),
        "m",
        note=say("from the pedestals"),
    )
    r.step(
        "l_f",
        "l_m - cos(rad(theta))*x_f - sin(rad(theta))*y_f",
        at(cut),
        "m",
        note=say("from what stands on the base"),
    )
    chosen = np.take_along_axis(lateral, np.broadcast_to(worst[..., None], (1, *lateral.shape[1:])), axis=0)[0]
    if apart is None:
        r.listed(
            "M_ck",
            chosen,
            situations.cases,
            "kNm",
            say("factored moment of each case about the tangent, + overturns"),
        )
        r.step("M_over", "total(max(M_ck, 0))", at(over_cases), "kNm", note=say("cases that overturn; ") + BY_ACTION)
        r.step("M_back", "total(max(-M_ck, 0))", at(back_cases), "kNm", note=say("cases that stabilise"))
    else:
        r.listed(
            "M_lk",
            chosen,
            situations.cases,
            "kNm",
            say("factored lateral moment of each case towards the tangent"),
        )
        r.step("M_lat", "total(M_lk)", chosen.sum(-1), "kNm", note=say("lateral moments, netted over the combination"))
        r.step("M_gross", "total(abs(M_lk))", np.abs(chosen).sum(-1), "kNm", note=say("their gross sum"))
        lifting = at(over_cases) - np.maximum(chosen.sum(-1), 0.0)
        r.given("M_lift", lifting, "kNm", note=say("vertical loads that lift"), needs="l_c")
        r.step(
            "M_over",
            "max(M_lat, 0) + M_lift",
            at(over_cases),
            "kNm",
            note=say("what overturns of the loads; ") + GLOBAL,
        )
        r.given("M_back", at(back_cases), "kNm", note=say("vertical loads that press down"), needs="l_c")
    r.step(
        "M_W",
        "gamma_G*((W_base + W_soil + q_b*A_f)*l_m + W_ped*l_p - q_b*A_f*l_f)",
        at(weights),
        "kNm",
        note=say("weights"),
    )
    r.step("M_U", "U*l_m", water, "kNm", note=say("water pressure"))
    r.step("M_dst", "M_over + M_U", at(over), "kNm", note=say("destabilising"))
    r.given("M_P", at(prop), "kNm", note=say("prop or tie, as far as it is called upon"))
    r.step("M_stb", "M_back + M_W + M_P", at(back), "kNm", note=say("stabilising"))
    return Moments(at(over), at(back), at(netted))


def _deeper(*values: Array | float) -> tuple[Array | float, ...]:
    """Arrays (candidates, 1) for those by column, (candidates, columns, 1)."""
    return tuple(v if isinstance(v, float) else np.asarray(v)[:, None] for v in values)


def moments_about_edges(
    geometry: PadGeometry,
    forces: BaseForces,
    situations: Situations,
    record: Recorder = SILENT,
    props: tuple[Array | float, Array | float] = (0.0, 0.0),
    apart: Vertical | None = None,
) -> Moments:
    """Moments about the edges; by action, or with the vertical loads ``apart``."""
    g = geometry
    V, Hx, Hy, Mx, My = np.moveaxis(forces.cases, -1, 0)
    arm = forces.arm
    destabilising, stabilising, mostly = [], [], []
    towards_x, towards_y = My + arm * Hx, arm * Hy - Mx
    for edge, c, s, away in g.footprint.edges:

        def along(x: Array, y: Array, c: Array | float = c, s: Array | float = s) -> Array:
            """Towards the edge."""
            found: Array = c * x + s * y
            return found

        lever = away - along(g.offset_x, g.offset_y)
        own = along(towards_x, towards_y)
        by_case = (own * situations.overturning - lever * V)[..., None, :] * situations.factors
        cut = away - along(g.cut_x, g.cut_y)
        plinth = away - along(forces.pedestal_x, forces.pedestal_y)
        middle = away - c * g.footprint.centroid - s * g.footprint.centroid_y
        weights = (forces.weight + forces.backfill_cut) * middle + forces.pedestal * plinth - forces.backfill_cut * cut
        # what does not act at the centre of the area
        to_x, to_y = (
            np.asarray(at - v) for at, v in zip(forces.rests_at, (g.footprint.centroid, g.footprint.centroid_y))
        )
        further = along(to_x, to_y)
        lower_x, lower_y = (
            g.lower[:, None, :, k] + (offset - v)[..., None]
            for k, (offset, v) in enumerate(((g.offset_x, g.footprint.centroid), (g.offset_y, g.footprint.centroid_y)))
        )
        off_lower = along(lower_x, lower_y, *_deeper(c, s))
        weights = weights - forces.rests * further
        water = forces.U * middle - (forces.below * off_lower).sum(axis=-1)
        # a prop pushes back as far as the base is pushed towards this edge
        prop = np.maximum(along(np.asarray(props[0]), np.asarray(props[1])), 0.0)
        r = record.scope(edge)
        r.given("l_c", lever, "m", note=say("from the column to the {edge}", edge=edge))
        r.given("l_f", cut, "m", note=say("from what stands on the base to the {edge}", edge=edge))
        r.given("l_p", plinth, "m", note=say("from the pedestals to the {edge}", edge=edge))
        r.given("l_m", middle, "m", note=say("from the middle of the area to the {edge}", edge=edge))
        rested, lowered = bool(np.any(np.asarray(further) * forces.rests != 0.0)), forces.below.shape[-1] > 0
        if rested:
            r.given(
                "l_W",
                further + 0.0 * middle,
                "m",
                note=say("from there to what rests on the base, towards the edge"),
            )
        if lowered:
            parts = tuple(say("lower part {k}", k=k + 1) for k in range(forces.below.shape[-1]))
            r.listed("l_l", off_lower, parts, "m", say("from there to lower parts, towards the edge"))
        if apart is not None:
            off = along(apart.x - g.offset_x[:, None], apart.y - g.offset_y[:, None], *_deeper(c, s))
            lateral = own - (apart.V * off).sum(-2)
            uprights = -(away[:, None] - along(apart.x, apart.y, *_deeper(c, s))) * apart.V
            loads, held, netted = _apart(lateral, uprights, situations, r, situations.cases)
        else:
            loads, held = np.maximum(by_case, 0.0).sum(-1), np.maximum(-by_case, 0.0).sum(-1)
            netted = np.zeros(loads.shape, dtype=bool)
            r.listed(
                "M_ck",
                by_case,
                situations.cases,
                "kNm",
                say("factored moment of each case about the edge, + overturns"),
            )
            r.step("M_over", "total(max(M_ck, 0))", loads, "kNm", note=say("cases that overturn; ") + BY_ACTION)
            r.step("M_back", "total(max(-M_ck, 0))", held, "kNm", note=say("cases that stabilise"))
        over, back = loads + water, held + weights + prop
        destabilising.append(over)
        stabilising.append(back)
        mostly.append(netted)
        r.step(
            "M_W",
            "gamma_G*((W_base + W_soil + q_b*A_f)*l_m + W_ped*l_p - q_b*A_f*l_f" + (" - W_m*l_W)" if rested else ")"),
            weights,
            "kNm",
            note=say("weights"),
        )
        r.step("M_U", "U*l_m - total(U_l*l_l)" if lowered else "U*l_m", water, "kNm", note=say("water pressure"))
        r.step("M_dst", "M_over + M_U", over, "kNm", note=say("destabilising"))
        r.given("M_P", prop, "kNm", note=say("prop or tie, as far as it is called upon"))
        r.step("M_stb", "M_back + M_W + M_P", back, "kNm", note=say("stabilising"))
    return Moments(*(np.concatenate(parts, axis=-1) for parts in (destabilising, stabilising, mostly)))
