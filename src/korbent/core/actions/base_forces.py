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
    water = np.minimum(situations.water_level, finished)

    area = g.area
    base = concrete_weight * area * g.h
    volumes = g.pedestal_volumes
    volume = volumes.sum(axis=-1, keepdims=True)
    pedestal = concrete_weight * volume
    pedestal_x, pedestal_y = (
        offset + (volumes * g.pedestals[..., at]).sum(axis=-1, keepdims=True) / np.maximum(volume, 1e-12)
        for at, offset in ((0, g.offset_x), (1, g.offset_y))
    )
    h_soil = np.maximum(0.0, finished - g.top)
    h_wet = np.clip(water - g.top, 0.0, h_soil)
    q_soil = backfill.weight * (h_soil - h_wet) + backfill.weight_saturated * h_wet + surcharge
    soil = q_soil * (area - g.cut)
    head = np.maximum(0.0, water - g.underside)
    even = situations.water_factor * WATER_WEIGHT * head * area
    # below lower parts there is more of it, (candidates, situations, parts)
    deeper = np.maximum(0.0, (water - g.underside)[..., None] + g.lower[:, None, :, 3]) - head[..., None]
    below = np.asarray(situations.water_factor)[..., None] * WATER_WEIGHT * deeper * g.lower[:, None, :, 2]
    U = even + below.sum(axis=-1)

    plinths = situations.weight * pedestal
    column = V_c + plinths
    weight = situations.weight * (base + soil + resting)
    cut = situations.weight * q_soil * g.cut
    V = column + weight
    N = V - U
    M_x = M_xc - arm * H_ym - g.offset_y * V_c - pedestal_y * plinths + g.cut_y * cut
    M_y = M_yc + arm * H_xm + g.offset_x * V_c + pedestal_x * plinths - g.cut_x * cut
    # base, backfill and water act at the centre of the area, lower parts and what rests on it where they are
    centre = (g.footprint.centroid, g.footprint.centroid_y)
    aside = any(not isinstance(v, float) for v in centre)
    rests = situations.weight * resting
    at = resting_at if resting_at is not None else centre
    own_y, own_x = (
        v * (weight - rests + cut - even)
        + w * rests
        - ((g.lower[:, None, :, k] + offset[..., None]) * below).sum(axis=-1)
        for k, (v, w, offset) in enumerate(zip(centre, at, (g.offset_x, g.offset_y)))
    )
    own_x = -own_x
    M_x, M_y = M_x + own_x, M_y + own_y

    if record is not SILENT:
        rested, lowered = bool(np.any(np.asarray(resting) != 0.0)), bool(g.lower.shape[1])
        if rested:
            note = say("more concrete that rests on it: its part of a strap, or thicker parts, steps and ribs")
            record.given("W_m", np.broadcast_to(resting, base.shape), "kN", note=note)
        steps = _Steps(
            local,
            area,
            base,
            pedestal,
            pedestal_x,
            pedestal_y,
            water,
            h_soil,
            h_wet,
            q_soil,
            soil,
            U,
            V,
            N,
            V_c,
            H_x,
            H_y,
            M_x,
            M_y,
            cut,
            resting,
            rested,
            aside or lowered or (rested and resting_at is not None),
            own_x,
            own_y,
            even,
            centre,
            at,
            below,
        )
        _record(g, situations, backfill, finished, concrete_weight, surcharge, steps, record)
    return BaseForces(
        V=V,
        U=U,
        even=even,
        N=N,
        own_x=own_x,
        own_y=own_y,
        rests=rests + 0.0 * V,
        rests_at=at,
        below=below + 0.0 * V[..., None],
        Hx=H_x,
        Hy=H_y,
        Mx=M_x,
        My=M_y,
        column=column,
        weight=weight,
        pedestal=plinths,
        pedestal_x=pedestal_x,
        pedestal_y=pedestal_y,
        backfill=q_soil,
        backfill_cut=cut,
        cases=local,
        factored=factored,
        arm=arm,
    )


class _Steps(NamedTuple):
    """What leads to the forces, as :func:`base_forces` finds it."""

    local: Array
    area: Array
    base: Array
    pedestal: Array
    pedestal_x: Array
    pedestal_y: Array
    water: Array
    h_soil: Array
    h_wet: Array
    q_soil: Array
    soil: Array
    U: Array
    V: Array
    N: Array
    V_c: Array
    H_x: Array
    H_y: Array
    M_x: Array
    M_y: Array
    cut: Array
    resting: Array | float
    strapped: bool
    aside: bool
    """Not all of base, backfill and water acts at the middle."""
    own_x: Array
    own_y: Array
    even: Array
    centre: tuple[Array | float, Array | float]
    at: tuple[Array | float, Array | float]
    """Where what rests on the base acts."""
    below: Array
    """More water pressure below lower parts, (candidates, situations, parts)."""


def _record(
    g: PadGeometry,
    situations: Situations,
    backfill: Backfill,
    finished: float,
    concrete_weight: float,
    surcharge: float,
    of: _Steps,
    record: Recorder,
) -> None:
    """How the forces came about: loads, levels, weights, water, moments."""
    factors, reduced = situations.factors, bool((situations.overturning != 1.0).any())
    V_k, Hx_k, Hy_k, Mx_k, My_k = np.moveaxis(of.local[:, None], -1, 0)
    foot_x, foot_y = g.standing
    record.listed("gamma_F", factors, situations.cases, note=say("factors of the combination"))
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
    record.step("A", g.footprint.area_formula, of.area, "m²", note=say("underside"))
    record.given("z_f", g.underside, "m", note=say("founding level"))
    record.given("z_L", g.load_level, "m", note=say("level of the loads"))
    record.given("z_fin", finished, "m", note=say("finished ground"))
    record.given("z_w", of.water, "m", note=say("water level, at most finished ground"))
    record.given("gamma_c", concrete_weight, "kN/m³", note=say("concrete"))
    record.given("gamma_b", backfill.weight, "kN/m³", note=say("{backfill}, above water", backfill=backfill.name))
    record.given(
        "gamma_b_sat", backfill.weight_saturated, "kN/m³", note=say("{backfill}, below water", backfill=backfill.name)
    )
    record.given("f_x", foot_x, "m", note=say("what stands on the base, along x"))
    record.given("f_y", foot_y, "m", note=say("along y"))
    record.given("A_f", g.cut, "m²", note=say("what stands on the base takes of the backfill"))
    record.given("x_f", g.cut_x, "m", note=say("its middle, along x"))
    record.given("y_f", g.cut_y, "m", note=say("along y"))
    record.given("gamma_G", situations.weight, note=say("factor of the weights"))
    record.given("gamma_U", situations.water_factor, note=say("factor of the water pressure"))
    record.given("o_x", g.offset_x, "m", note=say("column from the middle of the base, along x"))
    record.given("o_y", g.offset_y, "m", note=say("along y"))
    record.step("V_c", "total(gamma_F*V_k)", of.V_c, "kN", note=say("from the column"))
    record.step("H_x", "total(gamma_F*H_xk)", of.H_x, "kN")
    record.step("H_y", "total(gamma_F*H_yk)", of.H_y, "kN")
    record.step(
        "W_base",
        "gamma_c*A*h + W_m" if of.strapped else "gamma_c*A*h",
        of.base + of.resting,
        "kN",
        note=say("base, and its part of the strap") if of.strapped else say("base"),
    )
    under = tuple(say("column {k}", k=k + 1) for k in range(g.pedestals.shape[1]))
    for symbol, at, unit, note in (
        ("A_ped", 2, "m²", say("sections of the pedestals, 0: none")),
        ("z_p", 3, "m", say("their tops")),
    ):
        record.listed(symbol, g.pedestals[:, None, :, at], under, unit, note)
    record.step("W_ped", "gamma_c*total(A_ped*max(0, z_p - z_f - h))", of.pedestal, "kN", note=say("pedestals"))
    record.given("x_p", of.pedestal_x, "m", note=say("their middle, along x"))
    record.given("y_p", of.pedestal_y, "m", note=say("along y"))
    record.step("h_b", "max(0, z_fin - z_f - h)", of.h_soil, "m", note=say("backfill above the base"))
    record.step("h_bw", "min(h_b, max(0, z_w - z_f - h))", of.h_wet, "m", note=say("of which below water"))
    if surcharge:
        record.given("q_on", surcharge, "kPa", reference=say("setting"), note=say("permanent surcharge on the base"))
    record.step("q_b", f"gamma_b*(h_b - h_bw) + gamma_b_sat*h_bw{' + q_on' if surcharge else ''}", of.q_soil, "kPa")
    record.step("W_soil", "q_b*(A - A_f)", of.soil, "kN", note=say("backfill"))
    lowered = g.lower.shape[1] > 0
    if lowered:
        parts = tuple(say("lower part {k}", k=k + 1) for k in range(g.lower.shape[1]))
        record.step(
            "U_0", "gamma_U*gamma_w*max(0, z_w - z_f)*A", of.even, "kN", note=say("water pressure under the base")
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
            of.below,
            parts,
            "kN",
            say("gamma_U*gamma_w*(max(0, z_w - z_f + d_l) - max(0, z_w - z_f))*A_l: more water pressure below them"),
        )
        record.step("U", "U_0 + total(U_l)", of.U, "kN", note=say("all of it"))
    else:
        record.step("U", "gamma_U*gamma_w*max(0, z_w - z_f)*A", of.U, "kN", note=say("water pressure under the base"))
    record.step("V", "V_c + gamma_G*(W_base + W_ped + W_soil)", of.V, "kN", note=say("all downward forces"))
    record.step("N", "V - U", of.N, "kN", note=say("carried by the soil skeleton"))
    record.step("V_f", "gamma_G*q_b*A_f", of.cut, "kN", note=say("backfill that is not there"))
    k_ot, clause = ("*k_ot", "ASCE 7 12.13.4") if reduced else ("", "")
    at_x, at_y = ("total(gamma_F*k_ot*H_xk)", "total(gamma_F*k_ot*H_yk)") if reduced else ("H_x", "H_y")
    if reduced:
        record.listed(
            "k_ot",
            situations.overturning,
            situations.cases,
            note=say("what remains of seismic moments at the ground"),
        )
    own_x = own_y = ""
    if of.aside:
        own_x, own_y = " + M_xW", " + M_yW"
        even, rests = "U_0" if lowered else "U", " - W_m" if of.strapped else ""
        for about, moment, at in (("y", of.own_y, 0), ("x", of.own_x, 1)):
            name = "xy"[at]
            terms = []
            if not isinstance(of.centre[at], float):
                terms.append(f"{name}_m*(gamma_G*(W_base{rests} + W_soil) + V_f - {even})")
            if of.strapped:
                note = say("centre of what rests on it, from the middle")
                record.given(f"{name}_W", np.asarray(of.at[at]) + 0.0 * of.base, "m", note=note)
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
    record.step(
        "M_x",
        f"total(gamma_F{k_ot}*M_xk) - (z_L - z_f)*{at_y} - o_y*V_c - y_p*gamma_G*W_ped + y_f*V_f{own_x}",
        of.M_x,
        "kNm",
        reference=clause,
        note=say("about x, at the underside"),
    )
    record.step(
        "M_y",
        f"total(gamma_F{k_ot}*M_yk) + (z_L - z_f)*{at_x} + o_x*V_c + x_p*gamma_G*W_ped - x_f*V_f{own_y}",
        of.M_y,
        "kNm",
        reference=clause,
        note=say("about y, at the underside"),
    )
