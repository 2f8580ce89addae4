"""Where the column, its plate or the pedestal stands on the base: bearing on the concrete, and dowels.

The moment that goes over is carried by the section of the column with the dowels as its bars, by strain compatibility.
"""

from dataclasses import replace

import numpy as np

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, does_not_apply
from korbent.core.concrete.interaction import often_by_row
from korbent.core.concrete.pad import ConcretePad, clear_distances, top_moments
from korbent.core.concrete.standards.protocol import DowelEnds
from korbent.core.model.foundations import Pad, Pedestal
from korbent.core.model.reinforcement import Dowels
from korbent.core.working import Array, Recorder
from korbent.words import say

IDS = ("bearing-concrete", "dowels", "dowels-steel", "dowels-anchorage")
DOWELS = IDS[1:]


def interface_checks(bench: Bench, pad: ConcretePad, record: Recorder, column: int | None = None) -> list[Outcome]:
    """Bearing on the concrete, and the dowels where there are any; ``column``: which of several.

    What a strap moves to or from the base does not go through the column.
    """
    if bench.alone is not bench:
        for name in (say("column on the base"), say("dowels")):
            forces = bench.alone.forces(pad.situations, record.scope(name))
        pad = replace(pad, forces=forces)
    bearing = _bearing(pad, record.scope(say("column on the base")), column is not None)
    borne = bearing.capacity * 1000 * pad.geometry.standing[0] * pad.geometry.standing[1]
    return [bearing, *_dowels(bench, pad, borne, record.scope("dowels"), column)]


def _bearing(pad: ConcretePad, record: Recorder, several: bool) -> Outcome:
    """Mean stress below the column against what the concrete bears on the part that the load spreads over."""
    g, standard = pad.geometry, pad.standard
    size_x, size_y = g.standing
    faces = replace(g, face=g.standing)
    clear = clear_distances(faces)
    # areas alike in shape around the same middle: within the base, and as far as the slope reaches
    spread = np.full_like(size_x, standard.bearing_most)
    for size, sides in ((size_x, clear[:2]), (size_y, clear[2:])):
        free = np.maximum(np.minimum(*sides), 0.0)
        spread = np.minimum(spread, 1 + 2 * np.minimum(free, standard.bearing_slope * g.h) / size)
    pressed = np.maximum(pad.forces.column, 0.0)
    demand = pressed / (size_x * size_y) / 1000
    record.given("a_x", size_x, "m", note=say("loaded area along x"))
    record.given("a_y", size_y, "m", note=say("along y"))
    top_moments(pad, record, several)
    record.step("N_c", "max(V_col, 0)", pressed, "kN", note=say("pressing"))
    record.step("sigma_c", "N_c/(a_x*a_y)/1000", demand, "MPa")
    record.given(
        "k_s",
        spread,
        note=say("sizes of the area the load spreads over: within the base and its thickness"),
        needs="a_x a_y h B L o_x o_y",
    )
    capacity = np.broadcast_to(
        standard.bearing_strength(pad.settings.concrete_strength, pad.fcd, spread, record), demand.shape
    )
    record.step("ratio", "sigma_c/f_Rd", demand / capacity)
    return Outcome(
        CHECKS["bearing-concrete"],
        demand,
        capacity,
        demand / capacity,
        pad.situations,
        blocks=(say("column on the base"),),
    )


def dowels_of(pad: Pad, column: str = "") -> Dowels | None:
    """The dowels of a column on a base (the first one where none is named): those of the base, else the bars of its
    pedestal, which go down into the base."""
    if pad.dowels is not None:
        return pad.dowels
    pedestal = pad.pedestal_under(column or pad.load_point)
    return Dowels(number=pedestal.bars, diameter=pedestal.diameter) if pedestal else None


def _section(dowels: Dowels | None, size_x: float, size_y: float, diameter: float) -> Pedestal | None:
    """What stands on the base with the dowels as its bars."""
    if dowels is None:
        return None
    bars = {"top": 0.0, "bars": dowels.number, "diameter": dowels.diameter}
    if diameter:
        return Pedestal(shape="circle", size_x=diameter, size_y=diameter, **bars)
    return Pedestal(size_x=size_x, size_y=size_y, **bars)


def _dowels(bench: Bench, pad: ConcretePad, borne: Array, record: Recorder, column: int | None) -> list[Outcome]:
    names = [points[column or 0].name for points in bench.standing]
    of_pads = [dowels_of(p, name) for p, name in zip(bench.pads, names)]
    g, settings, standard = pad.geometry, pad.settings, pad.standard
    steel = [
        points[column or 0].kind == "steel_column" and not p.pedestal_under(name)
        for points, p, name in zip(bench.standing, bench.pads, names)
    ]
    none = tuple(
        say("no dowels are given")
        if of_pads[i] is None
        else say("a steel column is held by its anchors")
        if steel[i]
        else ""
        for i in bench.index
    )
    if all(none):
        return [does_not_apply(check, none) for check in DOWELS]
    # where the bars of the pedestal go down into the base, its own checks say the rest
    own = tuple(
        why or ("" if bench.pads[i].dowels else say("the bars of the pedestal go down into the base"))
        for why, i in zip(none, bench.index)
    )
    M_x, M_y = top_moments(pad, record, column is not None)
    N, M = pad.forces.column, np.hypot(M_x, M_y)
    if all(own):
        given = [of_pads[i] or Dowels() for i in bench.index]
        record.step("M_Ed", "sqrt(M_xt**2 + M_yt**2)", M, "kNm")
        record.step("N_Ed", "V_col", N, "kN", note=say("at the top of the base"))
        count, diameter = _numbers(given)
        rest = [does_not_apply(check, own) for check in DOWELS[:2]]
        return [*rest, _anchored(pad, count, diameter, M_x, M_y, borne, none, record)]
    sections = [
        _section(
            of_pads[i],
            float(g.standing[0][k, 0]),
            float(g.standing[1][k, 0]),
            float(g.diameter[k, 0]),
        )
        for k, i in enumerate(bench.index)
    ]
    often = often_by_row(sections, settings, standard, N, M_x, M_y)
    lost = often <= 0
    safe = np.maximum(often, 1e-12)
    record.step("N_Ed", "V_col", N, "kN", note=say("at the top of the base"))
    record.step("M_Ed", "sqrt(M_xt**2 + M_yt**2)", M, "kNm")
    record.given(
        "k_M",
        safe,
        reference=say("interaction by strain compatibility"),
        note=say("how often the moment may grow at N"),
        needs="N_Ed M_xt M_yt",
    )
    strength = record.scope("strength")
    strength.step("ratio", "1/k_M", 1 / safe)
    ratio = np.where(lost, 0.0, 1 / safe)
    given = [of_pads[i] or Dowels() for i in bench.index]
    count, diameter = _numbers(given)
    shown = Outcome(
        CHECKS["dowels"],
        M,
        np.where(lost, 0.0, M * np.minimum(often, 1e6)),
        ratio,
        pad.situations,
        unresisted=lost,
        blocks=(say("dowels strength"),),
        not_applicable=own,
        note=lambda i, j: f"{given[i].number} ø{1000 * given[i].diameter:.3g}, N {N[i, j]:.0f} kN",
    )
    return [
        shown,
        _least(pad, count, diameter, borne, own, record),
        _anchored(pad, count, diameter, M_x, M_y, borne, none, record),
    ]


def _numbers(given: list[Dowels]) -> tuple[Array, Array]:
    """(number, diameter) of the dowels of each candidate, (candidates, 1)."""
    return np.array([float(d.number) for d in given])[:, None], np.array([d.diameter for d in given])[:, None]


def _least(
    pad: ConcretePad, count: Array, diameter: Array, borne: Array, none: tuple[str, ...], record: Recorder
) -> Outcome:
    """The least steel of columns, through the joint too, and what the axial force asks for: the dowels carry all
    tension, and of a compression what the concrete below does not bear."""
    g = pad.geometry
    rules = pad.standard.column_rules(pad.settings.concrete_strength, pad.settings.steel_strength)
    scope = record.scope(say("least steel"))
    gross = g.standing[0] * g.standing[1] * 1e6
    steel = count * np.pi * diameter**2 / 4 * 1e6
    share, N = rules.least_share, pad.forces.column
    force = np.maximum(np.maximum(N - borne, -N), 0.0)
    least = np.maximum(
        np.maximum(share * gross, rules.least_force * np.maximum(N, 0.0) * 1000 / rules.yield_stress),
        force * 1000 / pad.fyd,
    )
    scope.given("A_c", gross, "mm²", note=say("section of the column"))
    scope.given("A_d", steel, "mm²", note=say("its dowels"))
    scope.given("N_Ed", N, "kN", note=say("at the top of the base"))
    scope.given("N_b", borne, "kN", note=say("what the concrete of the base bears"))
    scope.given("f_dd", pad.fyd, "MPa", note=say("design strength of the dowels"))
    scope.step("N_s", "max(max(N_Ed - N_b, -N_Ed), 0)", force, "kN", note=say("left to the dowels"))
    scope.step(
        "A_d_min",
        f"max(max({share}*A_c, {rules.least_force}*max(N_Ed, 0)*1000/{rules.yield_stress}), N_s*1000/f_dd)",
        least,
        "mm²",
        reference=pad.standard.clauses["dowels-steel"],
    )
    scope.step("ratio", "A_d_min/A_d", least / steel)
    asked = force * 1000 / pad.fyd >= least
    return Outcome(
        CHECKS["dowels-steel"],
        least,
        np.broadcast_to(steel, least.shape),
        least / steel,
        pad.situations,
        blocks=(say("dowels least steel"),),
        not_applicable=none,
        note=lambda i, j: (
            say("by the axial force") if np.broadcast_to(asked, least.shape)[i, j] else say("least steel")
        ),
    )


def _anchored(
    pad: ConcretePad,
    count: Array,
    diameter: Array,
    M_x: Array,
    M_y: Array,
    borne: Array,
    none: tuple[str, ...],
    record: Recorder,
) -> Outcome:
    """Straight length above the bottom bars on which the dowels stand."""
    g, settings = pad.geometry, pad.settings
    scope = record.scope("anchorage")
    N = pad.forces.column
    a_x, a_y = g.standing
    # some bar is pulled where the resultant leaves the middle sixth
    uneven = np.abs(M_y) / a_x + np.abs(M_x) / a_y
    pulled = (N <= 0) | (uneven > np.maximum(N, 0.0) / 6)
    steel = count * np.pi * diameter**2 / 4 * pad.fyd * 1000
    # in tension half of the dowels at 0.8 of the size; in compression what the concrete does not bear
    pull = np.maximum(uneven / 0.8 - N / 2, 0.0) / (steel / 2)
    press = np.maximum(N - borne, 0.0) / steel
    share = np.clip(np.where(pulled, pull, press), 0.0, 1.0)
    apart = 2 * (a_x + a_y - 4 * settings.concrete_cover) / count
    scope.given("oe", diameter, "m", note=say("dowels"))
    mats = pad.bars("bottom", "x").diameter + pad.bars("bottom", "y").diameter
    there = np.maximum(g.h - settings.concrete_cover - mats, 1e-3) * np.ones_like(N)
    scope.given("s_d", apart, "m", note=say("from dowel to dowel"))
    scope.given("pulled", pulled.astype(float), note=say("1: some dowels are in tension"), needs="N_Ed M_Ed")
    scope.given(
        "k_d",
        share,
        note=say("stress over strength: tension half of them at 0.8 of the size, else what the concrete does not bear"),
        needs="N_Ed M_Ed",
    )
    ends = DowelEnds(diameter, apart, pulled, share)
    needed = pad.standard.dowel_anchorage(ends, settings.concrete_strength, settings.steel_strength, pad.special, scope)
    needed = needed * np.ones_like(N)
    scope.given("c", settings.concrete_cover, "m", note=say("cover"))
    scope.given("oe_m", mats, "m", note=say("both layers of bottom bars"))
    scope.step("l_av", "max(h - c - oe_m, 0.001)", there, "m", note=say("the dowels stand on the bottom bars"))
    scope.step("ratio", "l_req/l_av", needed / there)
    return Outcome(
        CHECKS["dowels-anchorage"],
        1000 * needed,
        1000 * there,
        needed / there,
        pad.situations,
        blocks=(say("dowels anchorage"),),
        not_applicable=none,
        note=lambda i, j: say("some dowels are in tension") if pulled[i, j] else say("in compression"),
    )
