"""Overturning about the four edges of a rectangular base, or about the rim of a round one.

Two rules. By action (EQU): an action whose own moment about the edge overturns is destabilising with its whole moment,
all others stabilise; the parts of one load case (V, M and H times its height) act together. With a global factor:
vertical loads stabilise or overturn each by its own sign, column by column; against them stand the lateral moments (M,
and H times its height) netted over the whole combination. How loads are split into cases does not matter to it."""

from dataclasses import dataclass
from typing import NamedTuple

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


GLOBAL = say("vertical loads by their own sign against lateral moments netted, however the loads are split into cases")
BY_ACTION = say("by action: each case as a whole overturns or stabilises")


class _Line(NamedTuple):
    """A line about which a base may turn, or several: the direction from the middle to it as cosine and sine, (...,
    candidates, 1 or situations) or one for all, and how far away it is, m."""

    c: Array
    s: Array
    away: Array

    def along(self, x: Array | float, y: Array | float, deeper: int = 0) -> Array:
        """What of (x, y) points to the line; ``deeper``: axes that they have after those of the line."""
        if not deeper:
            return np.asarray(self.c * x + self.s * y)
        more = (..., *([None] * deeper))
        return np.asarray(self.c[more] * x + self.s[more] * y)


@dataclass(frozen=True)
class _Turning:
    """All that turns a base about a line, or about several, and what resists; m and kNm."""

    column: Array
    stands: Array
    pedestal: Array
    middle: Array
    """To the line: from the column, from what stands on the base, from the pedestals, from the middle of the area."""
    rests: Array
    lower: Array
    """From that middle, towards the line: what rests on the base; lower parts, (..., parts)."""
    by_case: Array
    """Factored, by case: whole where it goes by action, else the lateral part alone; (..., cases)."""
    loads: Array
    lifted: Array
    held: Array
    netted: Array
    """Of the loads: what overturns, what of it is lifted by vertical loads alone, what stabilises, and where lateral
    moments cancel mostly."""
    weights: Array
    water: Array
    prop: Array

    @property
    def over(self) -> Array:
        """What overturns."""
        return self.loads + self.water

    @property
    def back(self) -> Array:
        """What stabilises."""
        return self.held + self.weights + self.prop


def _about(
    line: _Line,
    g: PadGeometry,
    forces: BaseForces,
    situations: Situations,
    props: tuple[Array | float, Array | float],
    apart: Vertical | None,
) -> _Turning:
    """About a line; by action, or with the vertical loads ``apart``."""
    V, Hx, Hy, Mx, My = np.moveaxis(forces.cases[:, None], -1, 0)  # (candidates, 1, cases)
    arm, centre = forces.arm[..., None], (g.footprint.centroid, g.footprint.centroid_y)
    towards_x, towards_y = My + arm * Hx, arm * Hy - Mx
    own = line.along(towards_x, towards_y, 1)
    column = line.away - line.along(g.offset_x, g.offset_y)
    stands = line.away - line.along(g.cut_x, g.cut_y)
    pedestal = line.away - line.along(forces.pedestal_x, forces.pedestal_y)
    middle = line.away - line.along(*centre)
    rest_x, rest_y = (np.asarray(at - v) for at, v in zip(forces.rests_at, centre))
    lower_x, lower_y = (
        g.lower[:, None, :, k] + np.asarray(offset - v)[..., None]
        for k, (offset, v) in enumerate(zip((g.offset_x, g.offset_y), centre))
    )
    rests, lower = line.along(rest_x, rest_y), line.along(lower_x, lower_y, 1)
    if apart is None:
        by_case = (own * situations.overturning - column[..., None] * V) * situations.factors
        loads, held = np.maximum(by_case, 0.0).sum(-1), np.maximum(-by_case, 0.0).sum(-1)
        lifted, netted = np.zeros(loads.shape), np.zeros(loads.shape, dtype=bool)
    else:
        from_column = apart.x - g.offset_x[:, None], apart.y - g.offset_y[:, None]
        aside_x, aside_y = ((apart.V * off).sum(-2)[:, None] for off in from_column)
        by_case = (own - line.along(aside_x, aside_y, 1)) * situations.overturning * situations.factors
        # (..., situations, columns, cases)
        levers = line.away[..., None, None] - line.along(apart.x[:, None], apart.y[:, None], 2)
        uprights = -levers * apart.V[:, None] * situations.factors[:, None, :]
        net, gross = by_case.sum(-1), np.abs(by_case).sum(-1)
        lifted, held = np.maximum(uprights, 0.0).sum((-2, -1)), np.maximum(-uprights, 0.0).sum((-2, -1))
        loads = np.maximum(net, 0.0) + lifted
        netted = (gross > 1e-9) & (np.abs(net) < MOSTLY_NETTED * gross) & (net > -1e-9 * gross)
    weights = (forces.weight + forces.backfill_cut) * middle + forces.pedestal * pedestal - forces.backfill_cut * stands
    return _Turning(
        column=column,
        stands=stands,
        pedestal=pedestal,
        middle=middle,
        rests=rests,
        lower=lower,
        by_case=by_case,
        loads=loads,
        lifted=lifted,
        held=held,
        netted=netted,
        weights=weights - forces.rests * rests,
        water=forces.U * middle - (forces.below * lower).sum(axis=-1),
        # a prop pushes back as far as the base is pushed towards this line
        prop=np.maximum(line.along(*props), 0.0),
    )


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
    R = geometry.B / 2
    resultant = np.arctan2(-forces.Mx, forces.My)
    every = np.broadcast_to(TOWARDS[:, None, None], (len(TOWARDS), *resultant.shape))
    angles = np.concatenate([resultant[None], every])
    tried = _about(_Line(np.cos(angles), np.sin(angles), R), geometry, forces, situations, props, apart)
    worst = np.argmax(tried.over / np.maximum(tried.back, 1e-9), axis=0)
    angle = np.take_along_axis(angles, worst[None], axis=0)[0]
    found = _about(_Line(np.cos(angle), np.sin(angle), R), geometry, forces, situations, props, apart)
    r = record.scope(RIM)
    r.given(
        "theta",
        np.rad2deg(angle),
        "°",
        note=say("direction from x in which the ratio is greatest"),
        needs="M_x M_y",
    )
    r.step("l_m", "B/2", R, "m", note=say("from the middle to the rim"))
    for symbol, x, y, value, note in (
        ("l_c", "o_x", "o_y", found.column, say("from the column")),
        ("l_p", "x_p", "y_p", found.pedestal, say("from the pedestals")),
        ("l_f", "x_f", "y_f", found.stands, say("from what stands on the base")),
    ):
        r.step(symbol, f"l_m - cos(rad(theta))*{x} - sin(rad(theta))*{y}", value, "m", note=note)
    _record(r, found, situations, apart is not None, TANGENT, forces)
    return Moments(found.over, found.back, found.netted)


def moments_about_edges(
    geometry: PadGeometry,
    forces: BaseForces,
    situations: Situations,
    record: Recorder = SILENT,
    props: tuple[Array | float, Array | float] = (0.0, 0.0),
    apart: Vertical | None = None,
) -> Moments:
    """Moments about the edges; by action, or with the vertical loads ``apart``."""
    every = []
    for edge, c, s, away in geometry.footprint.edges:
        found = _about(_Line(np.asarray(c), np.asarray(s), away), geometry, forces, situations, props, apart)
        r = record.scope(edge)
        r.given("l_c", found.column, "m", note=say("from the column to the {edge}", edge=edge))
        r.given("l_f", found.stands, "m", note=say("from what stands on the base to the {edge}", edge=edge))
        r.given("l_p", found.pedestal, "m", note=say("from the pedestals to the {edge}", edge=edge))
        r.given("l_m", found.middle, "m", note=say("from the middle of the area to the {edge}", edge=edge))
        _record(r, found, situations, apart is not None, EDGE, forces)
        every.append(found)
    return Moments(*(np.concatenate([getattr(t, n) for t in every], axis=-1) for n in ("over", "back", "netted")))


EDGE = (
    say("factored moment of each case about the edge, + overturns"),
    say("factored lateral moment of each case towards the edge"),
)
TANGENT = (
    say("factored moment of each case about the tangent, + overturns"),
    say("factored lateral moment of each case towards the tangent"),
)
"""What is said of the moments of cases: whole, or lateral alone."""


def _record(
    r: Recorder, of: _Turning, situations: Situations, apart: bool, words: tuple[str, str], forces: BaseForces
) -> None:
    """What turns and what resists, with how far what does not act in the middle is away from it."""
    rested, lowered = bool(np.any(of.rests * forces.rests != 0.0)), of.lower.shape[-1] > 0
    if rested:
        away = of.rests + 0.0 * of.middle
        r.given("l_W", away, "m", note=say("from there to what rests on the base, towards the edge"))
    if lowered:
        parts = tuple(say("lower part {k}", k=k + 1) for k in range(of.lower.shape[-1]))
        r.listed("l_l", of.lower, parts, "m", say("from there to lower parts, towards the edge"))
    (_record_apart if apart else _record_by_action)(r, of, situations.cases, words[apart])
    r.step(
        "M_W",
        "gamma_G*((W_base + W_soil + q_b*A_f)*l_m + W_ped*l_p - q_b*A_f*l_f" + (" - W_m*l_W)" if rested else ")"),
        of.weights,
        "kNm",
        note=say("weights"),
    )
    r.step("M_U", "U*l_m - total(U_l*l_l)" if lowered else "U*l_m", of.water, "kNm", note=say("water pressure"))
    r.step("M_dst", "M_over + M_U", of.over, "kNm", note=say("destabilising"))
    r.given("M_P", of.prop, "kNm", note=say("prop or tie, as far as it is called upon"))
    r.step("M_stb", "M_back + M_W + M_P", of.back, "kNm", note=say("stabilising"))


def _record_by_action(r: Recorder, of: _Turning, cases: tuple[str, ...], words: str) -> None:
    r.listed("M_ck", of.by_case, cases, "kNm", words)
    r.step("M_over", "total(max(M_ck, 0))", of.loads, "kNm", note=say("cases that overturn; ") + BY_ACTION)
    r.step("M_back", "total(max(-M_ck, 0))", of.held, "kNm", note=say("cases that stabilise"))


def _record_apart(r: Recorder, of: _Turning, cases: tuple[str, ...], words: str) -> None:
    """Of loads with a global factor."""
    r.listed("M_lk", of.by_case, cases, "kNm", words)
    net, gross = of.by_case.sum(-1), np.abs(of.by_case).sum(-1)
    r.step("M_lat", "total(M_lk)", net, "kNm", note=say("lateral moments, netted over the combination"))
    r.step("M_gross", "total(abs(M_lk))", gross, "kNm", note=say("their gross sum"))
    r.given("M_lift", of.lifted, "kNm", note=say("vertical loads that lift"), needs="l_c")
    note = say("what overturns of the loads; ") + GLOBAL
    r.step("M_over", "max(M_lat, 0) + M_lift", of.loads, "kNm", note=note)
    r.given("M_back", of.held, "kNm", note=say("vertical loads that press down"), needs="l_c")
