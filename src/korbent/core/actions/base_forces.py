"""Forces at the middle of the underside of a base, from the loads of its column and its weights."""

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from korbent.core.actions.situations import Situations
from korbent.core.cache import remembered
from korbent.core.geometry import PadGeometry
from korbent.core.ground.profile import WATER_WEIGHT
from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import Pad
from korbent.core.model.ground import Backfill
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say


@dataclass(frozen=True)
class BaseForces:
    """Factored forces in pad axes about the middle of the underside; arrays (candidates, situations).

    Units kN and kNm. V down positive, with all weights; the water pressure below is its own action.
    """

    V: Array
    """All downward forces, water pressure not deducted."""
    U: Array
    """Factored water pressure under the base."""
    even: Array
    """What of it presses evenly on all of the underside; the rest presses on lower parts."""
    N: Array
    """V - U: what the soil skeleton carries."""
    Hx: Array
    Hy: Array
    Mx: Array
    My: Array
    column: Array
    """Vertical force from the columns and their pedestals alone."""
    weight: Array
    """Factored weight of base and backfill."""
    own_x: Array
    own_y: Array
    """Moments about the middle of base, backfill and water, in M_x and M_y."""
    rests: Array
    """What of the weight is concrete that rests on the base, factored."""
    rests_at: tuple[Array | float, Array | float]
    """Where, from the middle of the base, m."""
    below: Array
    """More water pressure below lower parts, factored, (candidates, situations, parts)."""
    pedestal: Array
    """Factored weight of the pedestals."""
    pedestal_x: Array
    pedestal_y: Array
    """Their middle from that of the base, m, (candidates, 1)."""
    backfill: Array
    """Unfactored weight of the backfill above the base, kPa."""
    backfill_cut: Array
    """Factored weight of the backfill that the column displaces."""
    cases: Array
    """Unfactored loads in pad axes, columns V, Hx, Hy, Mx, My, shape (candidates, cases, 5)."""
    factored: Array
    """Factored loads in pad axes at the load level, shape (candidates, situations, 5)."""
    arm: Array
    """Height of the load level above the underside, m."""


@remembered(4096)
def case_loads(point: LoadPoint, cases: tuple[str, ...]) -> Array:
    """Loads of a column by case, columns V, Hx, Hy, Mx, My in the axes in which they are given; of a wall as a
    whole."""
    rows = [
        [getattr(point.loads[c], q) for q in ("V", "Hx", "Hy", "Mx", "My")] if c in point.loads else [0.0] * 5
        for c in cases
    ]
    length = max(point.size_x, point.size_y) if point.per == "metre" else 1.0
    return np.array(rows, dtype=float).reshape(len(cases), 5) * length


@remembered(4096)
def loads_of_all(points: tuple[LoadPoint, ...], cases: tuple[str, ...]) -> Array:
    """Loads by case of all that stands on one base, as they act together at the first column, in the axes of its loads.

    A force F at the place r from there adds the moment r x F.
    """
    first, *others = points
    total = case_loads(first, cases)
    if not others:
        return total
    angle = np.deg2rad(0.0 if first.axes == "plan" else first.rotation)
    for point in others:
        own = np.deg2rad(0.0 if point.axes == "plan" else point.rotation)
        V, Hx, Hy, Mx, My = turned(case_loads(point, cases), np.array(-own)).T
        dx, dy, dz = point.x - first.x, point.y - first.y, point.level - first.level
        there = np.stack([V, Hx, Hy, Mx - dy * V - dz * Hy, My + dx * V + dz * Hx], axis=-1)
        total = total + turned(there, np.array(angle))
    return total


def on_regions(pad: Pad, first: LoadPoint, cases: tuple[str, ...]) -> Array | float:
    """Loads by case of what stands on regions of a raft, as they act together at the first column, in the axes of its
    loads; 0 without."""
    if pad.plate is None or not pad.plate.loads:
        return 0.0
    found = np.zeros((len(cases), 5))
    for load in pad.plate.loads:
        area, x, y = pad.part_within(load.box)
        V = load.pressure * area
        dx, dy = x - pad.offset_x, y - pad.offset_y
        found[cases.index(load.case)] += V, 0.0, 0.0, -dy * V, dx * V
    axes = 0.0 if first.axes == "plan" else first.rotation
    return turned(found, np.array(np.deg2rad(axes - pad.rotation)))


def turned(loads: Array, angle: Array) -> Array:
    """Loads (..., cases, 5) seen from axes turned by ``angle`` (rad, anticlockwise), shape (..., 1)."""
    c, s = np.cos(angle), np.sin(angle)
    V, Hx, Hy, Mx, My = np.moveaxis(loads, -1, 0)
    return np.stack([V, c * Hx + s * Hy, c * Hy - s * Hx, c * Mx + s * My, c * My - s * Mx], axis=-1)


def base_forces(
    geometry: PadGeometry,
    loads: Array,
    situations: Situations,
    backfill: Backfill,
    finished: float,
    concrete_weight: float,
    record: Recorder = SILENT,
    surcharge: float = 0.0,
    resting: Array | float = 0.0,
    resting_at: tuple[Array | float, Array | float] | None = None,
) -> BaseForces:
    """Forces at the underside of a base.

    With the height a of the load level above the underside and the column at (o_x, o_y) from the middle:
    M_y = sum M_y + a H_x + o_x V_c and M_x = sum M_x - a H_y - o_y V_c (V down, moments right-handed), and the
    pedestals where they stand.

    Args:
        loads: by case, columns V, Hx, Hy, Mx, My, in the axes of the loads, shape (candidates, cases, 5).
        finished: finished ground level, m.
        concrete_weight: kN/m3.
        surcharge: permanent, on the backfill above the base, kPa.
        resting: more weight, kN: a strap that rests on it, thicker parts, steps and ribs of a raft.
        resting_at: where, from the middle of the base, m; in the centre of its area where nothing is given.
    """
    g, factors = geometry, situations.factors
    local = turned(loads, g.turn)
    factored = factors @ local
    V_c, H_x, H_y, M_xc, M_yc = np.moveaxis(factored, -1, 0)
    # seismic moments at the ground may be reduced, forces not
    reduced = bool((situations.overturning != 1.0).any())
    turning = (factors * situations.overturning) @ local if reduced else factored
    _, H_xm, H_ym, M_xc, M_yc = np.moveaxis(turning, -1, 0)
    arm = g.load_level - g.underside
    water = _water(g, situations, finished)
    own = _weights(g, backfill, finished, water.level, concrete_weight, surcharge)

    plinths = situations.weight * own.pedestal
    column = V_c + plinths
    weight = situations.weight * (own.base + own.soil + resting)
    cut = situations.weight * own.q_soil * g.cut
    V = column + weight
    # base, backfill and water act at the centre of the area, lower parts and what rests on it where they are
    centre = (g.footprint.centroid, g.footprint.centroid_y)
    rests = situations.weight * resting
    at = resting_at if resting_at is not None else centre
    own_y, own_x = (
        v * (weight - rests + cut - water.even)
        + w * rests
        - ((g.lower[:, None, :, k] + offset[..., None]) * water.below).sum(axis=-1)
        for k, (v, w, offset) in enumerate(zip(centre, at, (g.offset_x, g.offset_y)))
    )
    own_x = -own_x
    found = BaseForces(
        V=V,
        U=water.U,
        even=water.even,
        N=V - water.U,
        own_x=own_x,
        own_y=own_y,
        rests=rests + 0.0 * V,
        rests_at=at,
        below=water.below + 0.0 * V[..., None],
        Hx=H_x,
        Hy=H_y,
        Mx=M_xc - arm * H_ym - g.offset_y * V_c - own.pedestal_y * plinths + g.cut_y * cut + own_x,
        My=M_yc + arm * H_xm + g.offset_x * V_c + own.pedestal_x * plinths - g.cut_x * cut + own_y,
        column=column,
        weight=weight,
        pedestal=plinths,
        pedestal_x=own.pedestal_x,
        pedestal_y=own.pedestal_y,
        backfill=own.q_soil,
        backfill_cut=cut,
        cases=local,
        factored=factored,
        arm=arm,
    )
    if record is not SILENT:
        rested = bool(np.any(np.asarray(resting) != 0.0))
        if rested:
            note = say("more concrete that rests on it: its part of a strap, or thicker parts, steps and ribs")
            record.given("W_m", np.broadcast_to(resting, own.base.shape), "kN", note=note)
        _record_loads(g, situations, found, record)
        _record_levels(g, situations, backfill, finished, water.level, concrete_weight, record)
        _record_column(found, record)
        _record_weights(g, own, resting if rested else None, surcharge, record)
        _record_water(g, water, record)
        _record_sums(found, record)
        aside = any(not isinstance(v, float) for v in centre) or bool(g.lower.shape[1])
        formulas = ("", "")
        k_ot = _record_reduction(situations, record) if reduced else ""
        if aside or (rested and resting_at is not None):
            formulas = _record_aside(g, found, centre, rested, record)
        _record_moments(found, k_ot, formulas, record)
    return found


class _Weights(NamedTuple):
    """Unfactored, kN; heights in m; (candidates, 1) or (candidates, situations)."""

    base: Array
    pedestal: Array
    pedestal_x: Array
    pedestal_y: Array
    h_soil: Array
    h_wet: Array
    q_soil: Array
    soil: Array


def _weights(
    g: PadGeometry, backfill: Backfill, finished: float, water: Array, concrete_weight: float, surcharge: float
) -> _Weights:
    """Base, pedestals and backfill, with the middle of the pedestals."""
    volumes = g.pedestal_volumes
    volume = volumes.sum(axis=-1, keepdims=True)
    pedestal_x, pedestal_y = (
        offset + (volumes * g.pedestals[..., at]).sum(axis=-1, keepdims=True) / np.maximum(volume, 1e-12)
        for at, offset in ((0, g.offset_x), (1, g.offset_y))
    )
    h_soil = np.maximum(0.0, finished - g.top)
    h_wet = np.clip(water - g.top, 0.0, h_soil)
    q_soil = backfill.weight * (h_soil - h_wet) + backfill.weight_saturated * h_wet + surcharge
    return _Weights(
        concrete_weight * g.area * g.h,
        concrete_weight * volume,
        pedestal_x,
        pedestal_y,
        h_soil,
        h_wet,
        q_soil,
        q_soil * (g.area - g.cut),
    )


class _Water(NamedTuple):
    """Factored water pressure under the base, kN: evenly on all of it, and more below lower parts (candidates,
    situations, parts)."""

    level: Array
    even: Array
    below: Array
    U: Array


def _water(g: PadGeometry, situations: Situations, finished: float) -> _Water:
    level = np.minimum(situations.water_level, finished)
    head = np.maximum(0.0, level - g.underside)
    even = situations.water_factor * WATER_WEIGHT * head * g.area
    deeper = np.maximum(0.0, (level - g.underside)[..., None] + g.lower[:, None, :, 3]) - head[..., None]
    below = np.asarray(situations.water_factor)[..., None] * WATER_WEIGHT * deeper * g.lower[:, None, :, 2]
    return _Water(level, even, below, even + below.sum(axis=-1))


def _record_loads(g: PadGeometry, situations: Situations, of: BaseForces, record: Recorder) -> None:
    """Characteristic loads with their factors, sizes of the base."""
    V_k, Hx_k, Hy_k, Mx_k, My_k = np.moveaxis(of.cases[:, None], -1, 0)
    record.listed("gamma_F", situations.factors, situations.cases, note=say("factors of the combination"))
    for symbol, values, unit in (
        ("V_k", V_k, "kN"),
        ("H_xk", Hx_k, "kN"),
        ("H_yk", Hy_k, "kN"),
        ("M_xk", Mx_k, "kNm"),
        ("M_yk", My_k, "kNm"),
    ):
        record.listed(symbol, values, situations.cases, unit, say("at the load level, in pad axes"))
    record.given("B", g.B, "m", note=say("width, along x"))
    record.given("L", g.L, "m", note=say("length, along y"))
    record.given("h", g.h, "m", note=say("thickness"))
    g.footprint.recorded(record)
    record.step("A", g.footprint.area_formula, g.area, "m²", note=say("underside"))


def _record_levels(
    g: PadGeometry,
    situations: Situations,
    backfill: Backfill,
    finished: float,
    water: Array,
    concrete_weight: float,
    record: Recorder,
) -> None:
    """Levels, unit weights, what stands on the base, factors of weights and water."""
    record.given("z_f", g.underside, "m", note=say("founding level"))
    record.given("z_L", g.load_level, "m", note=say("level of the loads"))
    record.given("z_fin", finished, "m", note=say("finished ground"))
    record.given("z_w", water, "m", note=say("water level, at most finished ground"))
    record.given("gamma_c", concrete_weight, "kN/m³", note=say("concrete"))
    record.given("gamma_b", backfill.weight, "kN/m³", note=say("{backfill}, above water", backfill=backfill.name))
    record.given(
        "gamma_b_sat", backfill.weight_saturated, "kN/m³", note=say("{backfill}, below water", backfill=backfill.name)
    )
    foot_x, foot_y = g.standing
    record.given("f_x", foot_x, "m", note=say("what stands on the base, along x"))
    record.given("f_y", foot_y, "m", note=say("along y"))
    record.given("A_f", g.cut, "m²", note=say("what stands on the base takes of the backfill"))
    record.given("x_f", g.cut_x, "m", note=say("its middle, along x"))
    record.given("y_f", g.cut_y, "m", note=say("along y"))
    record.given("gamma_G", situations.weight, note=say("factor of the weights"))
    record.given("gamma_U", situations.water_factor, note=say("factor of the water pressure"))
    record.given("o_x", g.offset_x, "m", note=say("column from the middle of the base, along x"))
    record.given("o_y", g.offset_y, "m", note=say("along y"))


def _record_column(of: BaseForces, record: Recorder) -> None:
    record.step("V_c", "total(gamma_F*V_k)", of.factored[..., 0], "kN", note=say("from the column"))
    record.step("H_x", "total(gamma_F*H_xk)", of.Hx, "kN")
    record.step("H_y", "total(gamma_F*H_yk)", of.Hy, "kN")


def _record_weights(
    g: PadGeometry, own: _Weights, resting: Array | float | None, surcharge: float, record: Recorder
) -> None:
    """``resting``: more concrete that rests on it, None where there is none."""
    record.step(
        "W_base",
        "gamma_c*A*h + W_m" if resting is not None else "gamma_c*A*h",
        own.base if resting is None else own.base + resting,
        "kN",
        note=say("base, and its part of the strap") if resting is not None else say("base"),
    )
    under = tuple(say("column {k}", k=k + 1) for k in range(g.pedestals.shape[1]))
    for symbol, at, unit, note in (
        ("A_ped", 2, "m²", say("sections of the pedestals, 0: none")),
        ("z_p", 3, "m", say("their tops")),
    ):
        record.listed(symbol, g.pedestals[:, None, :, at], under, unit, note)
    record.step("W_ped", "gamma_c*total(A_ped*max(0, z_p - z_f - h))", own.pedestal, "kN", note=say("pedestals"))
    record.given("x_p", own.pedestal_x, "m", note=say("their middle, along x"))
    record.given("y_p", own.pedestal_y, "m", note=say("along y"))
    record.step("h_b", "max(0, z_fin - z_f - h)", own.h_soil, "m", note=say("backfill above the base"))
    record.step("h_bw", "min(h_b, max(0, z_w - z_f - h))", own.h_wet, "m", note=say("of which below water"))
    if surcharge:
        record.given("q_on", surcharge, "kPa", reference=say("setting"), note=say("permanent surcharge on the base"))
    record.step("q_b", f"gamma_b*(h_b - h_bw) + gamma_b_sat*h_bw{' + q_on' if surcharge else ''}", own.q_soil, "kPa")
    record.step("W_soil", "q_b*(A - A_f)", own.soil, "kN", note=say("backfill"))


def _record_water(g: PadGeometry, water: _Water, record: Recorder) -> None:
    lowered = g.lower.shape[1] > 0
    if lowered:
        parts = tuple(say("lower part {k}", k=k + 1) for k in range(g.lower.shape[1]))
        record.step(
            "U_0", "gamma_U*gamma_w*max(0, z_w - z_f)*A", water.even, "kN", note=say("water pressure under the base")
        )
        for symbol, k, unit, note in (
            ("A_l", 2, "m²", say("areas of lower parts")),
            ("d_l", 3, "m", say("by how much they lie lower")),
        ):
            record.listed(symbol, g.lower[:, None, :, k], parts, unit, note)
        for symbol, k, offset in (("x_l", 0, g.offset_x), ("y_l", 1, g.offset_y)):
            record.listed(symbol, g.lower[:, None, :, k] + offset[..., None], parts, "m", say("their centres"))
        record.listed(
            "U_l",
            water.below,
            parts,
            "kN",
            say("gamma_U*gamma_w*(max(0, z_w - z_f + d_l) - max(0, z_w - z_f))*A_l: more water pressure below them"),
        )
        record.step("U", "U_0 + total(U_l)", water.U, "kN", note=say("all of it"))
    else:
        record.step(
            "U", "gamma_U*gamma_w*max(0, z_w - z_f)*A", water.U, "kN", note=say("water pressure under the base")
        )


def _record_sums(of: BaseForces, record: Recorder) -> None:
    record.step("V", "V_c + gamma_G*(W_base + W_ped + W_soil)", of.V, "kN", note=say("all downward forces"))
    record.step("N", "V - U", of.N, "kN", note=say("carried by the soil skeleton"))
    record.step("V_f", "gamma_G*q_b*A_f", of.backfill_cut, "kN", note=say("backfill that is not there"))


def _record_reduction(situations: Situations, record: Recorder) -> str:
    """What remains of seismic moments; the factor as it stands in formulas."""
    record.listed(
        "k_ot", situations.overturning, situations.cases, note=say("what remains of seismic moments at the ground")
    )
    return "*k_ot"


def _record_aside(
    g: PadGeometry,
    of: BaseForces,
    centre: tuple[Array | float, Array | float],
    rested: bool,
    record: Recorder,
) -> tuple[str, str]:
    """Moments of what does not act at the middle; how they stand in the formulas of M_x and M_y."""
    lowered = g.lower.shape[1] > 0
    even, rests = "U_0" if lowered else "U", " - W_m" if rested else ""
    for about, moment, at in (("y", of.own_y, 0), ("x", of.own_x, 1)):
        name = "xy"[at]
        terms = []
        if not isinstance(centre[at], float):
            terms.append(f"{name}_m*(gamma_G*(W_base{rests} + W_soil) + V_f - {even})")
        if rested:
            note = say("centre of what rests on it, from the middle")
            record.given(f"{name}_W", np.asarray(of.rests_at[at]) + 0.0 * g.area, "m", note=note)
            terms.append(f"{name}_W*gamma_G*W_m")
        if lowered:
            terms.append(f"-total({name}_l*U_l)")
        formula = " + ".join(terms).replace("+ -", "- ") or "0"
        record.step(
            f"M_{about}W",
            f"-({formula})" if about == "x" else formula,
            moment,
            "kNm",
            note=say("base, backfill and water about the middle"),
        )
    return " + M_xW", " + M_yW"


def _record_moments(of: BaseForces, k_ot: str, more: tuple[str, str], record: Recorder) -> None:
    clause = "ASCE 7 12.13.4" if k_ot else ""
    at_x, at_y = ("total(gamma_F*k_ot*H_xk)", "total(gamma_F*k_ot*H_yk)") if k_ot else ("H_x", "H_y")
    record.step(
        "M_x",
        f"total(gamma_F{k_ot}*M_xk) - (z_L - z_f)*{at_y} - o_y*V_c - y_p*gamma_G*W_ped + y_f*V_f{more[0]}",
        of.Mx,
        "kNm",
        reference=clause,
        note=say("about x, at the underside"),
    )
    record.step(
        "M_y",
        f"total(gamma_F{k_ot}*M_yk) + (z_L - z_f)*{at_x} + o_x*V_c + x_p*gamma_G*W_ped - x_f*V_f{more[1]}",
        of.My,
        "kNm",
        reference=clause,
        note=say("about y, at the underside"),
    )
