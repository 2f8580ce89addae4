"""One-way shear beside the column."""

from collections.abc import Callable

import numpy as np

from korbent.core.checks import CHECKS, LIMIT, Outcome
from korbent.core.concrete.pad import (
    ConcretePad,
    section_width,
    steel_ratio,
)
from korbent.core.concrete.sections import FACES, forces_beyond
from korbent.core.working import Array, Recorder
from korbent.words import say


def one_way_shear(pad: ConcretePad, record: Recorder, thin: tuple[str, ...]) -> list[Outcome]:
    h = pad.geometry.h
    away = np.stack([pad.standard.shear_section(d, h)[0] for d in (pad.d_x, pad.d_x, pad.d_y, pad.d_y)])
    sections = forces_beyond(pad.geometry, pad.contact, pad.weight, away)
    outcomes = []
    for axis in "xy":
        demands, capacities, ratios = [], [], []
        d = pad.standard.shear_section(pad.depth(axis), h)[1]
        sides = (0, 1) if axis == "x" else (2, 3)
        below, above = pad.bars("bottom", axis), pad.bars("top", axis)
        rho_below, rho_above = steel_ratio(below, pad.depth(axis)), steel_ratio(above, pad.top_depth(axis))
        for side in sides:
            scope = record.scope(say("shear at d from the {faces}", faces=FACES[side]))
            own = pad.standard.shear_section(pad.depth(axis), h)[1] is pad.depth(axis)
            scope.step("d", f"d_{axis}" if own else f"max(0.72*h, 0.9*d_{axis})", d, "m")
            width = section_width(pad, axis, sections, side, scope)
            scope.given(
                "l",
                sections.outstand[side],
                "m",
                note=say("from the section to the edge"),
                needs="B L o_x o_y f_x1 f_y1 d",
            )
            scope.given(
                "P",
                sections.pressed[side],
                "kN",
                note=say("soil pressure beyond the section, integrated"),
                needs="p_mid g_x g_y l b",
            )
            whole = "l*b" if pad.geometry.footprint.slices_alike else ""
            scope.step(
                "A_b",
                whole,
                sections.area[side],
                "m²",
                note=say("base beyond the section"),
                needs="" if whole else "l B",
            )
            scope.step("V_Ed", "P - w_d*A_b", sections.shear[side], "kN")
            demand = np.abs(sections.shear[side]) / (width * d) / 1000.0
            scope.step("v_Ed", "abs(V_Ed)/(b*d)/1000", demand, "MPa", reference=pad.standard.clauses["shear-x"])
            # where the top is in tension and has bars, they hold the section together
            hogging = (sections.moment[side] < 0.0) & (above.diameter > 0.0)
            rho = np.where(hogging, rho_above, rho_below)
            scope.given(
                "rho_l", rho, note=say("bars along {axis} of the face in tension", axis=axis), needs="p_mid g_x g_y w_d"
            )
            capacity = pad.standard.shear_strength(d, pad.settings.concrete_strength, rho, pad.special, scope)
            ratios.append(without_links(pad, pad.geometry.one_way, demand, capacity, scope))
            demands.append(demand)
            capacities.append(np.broadcast_to(capacity, demand.shape))
        demand, capacity, ratio = (np.concatenate(v, axis=-1) for v in (demands, capacities, ratios))
        outcomes.append(
            Outcome(
                CHECKS[f"shear-{axis}"],
                demand,
                capacity,
                ratio,
                pad.situations,
                np.tile(~pad.contact.stable, 2),
                blocks=tuple(say("shear at d from the {face}", face=FACES[s]) for s in sides),
                why_not=thin,
                note=_side_note(pad, sides, ratio),
            )
        )
    return outcomes


def wants_links(pad: ConcretePad, one_way: Array) -> Array:
    """Where the standard asks for links because of the thickness, (candidates, 1)."""
    limit = pad.standard.links_from[0]
    found: Array = (one_way > 0.0) & (limit > 0.0) & (pad.geometry.h >= limit - 1e-9)
    return found


def without_links(pad: ConcretePad, one_way: Array, demand: Array, capacity: Array, record: Recorder) -> Array:
    """The ratio of demand and capacity, recorded; where links are asked for and there are none at least that of the
    thickness to its limit."""
    wants = wants_links(pad, one_way)
    if not wants.any():
        record.step("ratio", "v_Ed/v_Rd", demand / capacity)
        return demand / capacity
    limit, clause = pad.standard.links_from
    thick = np.where(wants, np.maximum(pad.geometry.h / limit, 1.001), 0.0)
    record.given(
        "k_l",
        thick,
        reference=clause,
        note=say("thickness over {limit} m: links are asked for, none are given", limit=limit),
    )
    ratio = np.maximum(demand / capacity, thick)
    record.step("ratio", "max(v_Ed/v_Rd, k_l)", ratio)
    return ratio


def _side_note(pad: ConcretePad, sides: tuple[int, int], ratio: Array) -> Callable[[int, int], str]:
    count = len(pad.situations)

    def note(candidate: int, column: int) -> str:
        more = say("; links in bases are not covered: thicken the base") if ratio[candidate, column] > LIMIT else ""
        if wants_links(pad, pad.geometry.one_way)[candidate, 0]:
            more = say(
                "; from {links_from:.0f} mm on a base that spans one way needs links, which are not covered: "
                "make it thinner",
                links_from=1000 * pad.standard.links_from[0],
            )
        return say("d from the {face}{more}", face=FACES[sides[column // count]], more=more)

    return note
