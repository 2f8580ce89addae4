"""Punching at the perimeter that governs, found by search between the column and twice the effective depth."""

from dataclasses import replace
from typing import NamedTuple

import numpy as np

from korbent.core.checks import CHECKS, Outcome, does_not_apply
from korbent.core.concrete.openings import weakened_perimeter
from korbent.core.concrete.pad import ConcretePad, steel_ratio, top_moments
from korbent.core.concrete.perimeter import Perimeter
from korbent.core.concrete.punching.applies import cannot_fit, idle_because, links_say, pulled_warning
from korbent.core.concrete.punching.around import about_middle, opening_reach, perimeter_around, soil_inside
from korbent.core.concrete.punching.face import at_face
from korbent.core.concrete.standards.protocol import Searching
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say


def by_search(
    pad: ConcretePad, standard: Searching, record: Recorder, thin: tuple[str, ...], several: bool
) -> list[Outcome]:
    """Punching at the worst perimeter, and at the face of the column."""
    scope = record.scope("punching")
    s = _search(pad, standard, top_moments(pad, scope, several), record is not SILENT)
    if record is not SILENT:
        _record(pad, standard, s, scope)
    lifted = pad.forces.column <= 0.0
    fits = np.any(s.around.exists, axis=0)[:, 0]
    idle = idle_because(pad, fits, lifted)
    if all(idle):
        return [does_not_apply("punching", idle), does_not_apply("punching-face", idle)]
    distances = s.at_distance / s.d

    def where(candidate: int, column: int) -> str:
        return say("at {distances:.2f} d", distances=distances[candidate, column]) + links_say(
            s.ratio[candidate, column]
        )

    outcome = Outcome(
        CHECKS["punching"],
        s.demand,
        s.at(s.capacity),
        s.ratio,
        pad.situations,
        ~pad.contact.stable,
        blocks=(say("punching perimeter"),),
        why_not=cannot_fit(pad, fits, thin),
        note=where,
        place=distances,
        warnings=pulled_warning(lifted),
    )
    face = at_face(pad, standard, s.d, (s.M_x, s.M_y), (s.k_x, s.k_y), scope.scope("face"), thin)
    return [replace(one, not_applicable=idle) for one in (outcome, face)]


class Searched(NamedTuple):
    """What the search among perimeters goes by and what it finds; arrays (distances, candidates, situations), some of
    fewer axes."""

    d: Array
    rho: Array
    k_x: Array
    k_y: Array
    M_x: Array
    M_y: Array
    around: Perimeter
    is_open: Array
    length: Array
    inside: Array
    first_x: Array
    first_y: Array
    reduced: Array
    applies: Array
    beta: Array | None
    capacity: Array
    worst: Array
    """Which distance governs, (candidates, situations)."""
    at_distance: Array
    """Of the perimeter that governs from the loaded area, m."""
    demand: Array
    ratio: Array
    """There; 0 where the column pulls."""

    def at(self, values: Array) -> Array:
        """Of values at all distances those where it governs."""
        full = np.broadcast_to(values, (len(self.around.exists), *self.worst.shape))
        return np.asarray(np.take_along_axis(full, self.worst[None], axis=0)[0])


def _search(pad: ConcretePad, standard: Searching, moments: tuple[Array, Array], whole: bool) -> Searched:
    """The perimeter with the greatest ratio; ``whole``: with all that is told of it."""
    g, settings, column = pad.geometry, pad.settings, pad.forces.column
    M_x, M_y = moments
    d = (pad.d_x + pad.d_y) / 2
    rho = np.sqrt(steel_ratio(pad.bars("bottom", "x"), pad.d_x) * steel_ratio(pad.bars("bottom", "y"), pad.d_y))
    k_y, k_x = standard.moment_share(g.face[0] / g.face[1]), standard.moment_share(g.face[1] / g.face[0])
    a = standard.search_distances(d)
    around = weakened_perimeter(perimeter_around(g, a), g, opening_reach(pad, d))
    is_open = around.exists & np.any(np.stack(np.broadcast_arrays(*around.sides)) == 0.0, axis=0)
    # the moments of the soil within count for open perimeters alone
    inside, first_x, first_y = soil_inside(pad, around, turning=bool(is_open.any()) or whole)
    reduced = np.maximum(column - inside, 0.0)
    M_xu, M_yu = about_middle(M_x, M_y, reduced, column, inside, first_x, first_y, around, is_open, SILENT)
    length = np.where(around.exists, around.length, 1.0)
    flow = _uneven(M_xu, M_yu, around, k_x, k_y)
    beta = None
    if settings.punching_moments == "simplified":
        open_sides = sum((side == 0.0).astype(int) for side in np.broadcast_arrays(*around.sides))
        beta = np.where(open_sides == 0, 1.15, np.where(open_sides == 1, 1.4, 1.5))
        flow = (beta - 1) * reduced / length
    spread = around.exists / (1000.0 * d)
    demand = reduced * (spread / length) + flow * spread
    capacity = standard.punching_strength(d, a, settings.concrete_strength, rho, pad.special, SILENT)
    ratio = demand / capacity
    found = Searched(
        d=d,
        rho=rho,
        k_x=k_x,
        k_y=k_y,
        M_x=M_x,
        M_y=M_y,
        around=around,
        is_open=is_open,
        length=length,
        inside=inside,
        first_x=first_x,
        first_y=first_y,
        reduced=reduced,
        applies=around.exists & (column > 0.0),
        beta=beta,
        capacity=capacity,
        worst=np.argmax(ratio, axis=0),
        at_distance=a,
        demand=demand,
        ratio=ratio,
    )
    # a column that pulls does not punch
    demand, ratio = (np.where(column <= 0.0, 0.0, found.at(values)) for values in (demand, ratio))
    return found._replace(at_distance=found.at(a), demand=demand, ratio=ratio)


def _record(pad: ConcretePad, standard: Searching, s: Searched, scope: Recorder) -> None:
    """How the stress at the perimeter that governs came about."""
    at = s.at
    scope.step("d", "(d_x + d_y)/2", s.d, "m", reference="EN 1992-1-1 (6.32)", note=say("mean effective depth"))
    scope.given("rho_lx", steel_ratio(pad.bars("bottom", "x"), pad.d_x), note=say("bottom bars along x"))
    scope.given("rho_ly", steel_ratio(pad.bars("bottom", "y"), pad.d_y), note=say("bottom bars along y"))
    scope.step("rho_l", "sqrt(rho_lx*rho_ly)", s.rho, reference="EN 1992-1-1 6.4.4(1)")
    scope.given("k_x", s.k_x, reference="EN 1992-1-1 table 6.1", note=say("for moments about x"))
    scope.given("k_y", s.k_y, reference="EN 1992-1-1 table 6.1", note=say("for moments about y"))
    edge = scope.scope("perimeter")
    edge.given(
        "a",
        s.at_distance,
        "m",
        reference="EN 1992-1-1 6.4.4(2)",
        note=say("distance that governs, found by search from 0.1 d to 2 d"),
        needs="d",
    )
    edge.given(
        "u",
        at(s.length),
        "m",
        reference="EN 1992-1-1 6.4.2",
        note=say("length of the perimeter"),
        needs="a f_x1 f_y1",
    )
    edge.given(
        "R_in",
        at(s.inside),
        "kN",
        note=say("net soil pressure within it, integrated"),
        needs="p_mid g_x g_y w_d a",
    )
    edge.step("V_red", "max(V_col - R_in, 0)", at(s.reduced), "kN", reference="EN 1992-1-1 (6.48)")
    _record_moments(pad, s, edge)
    edge.step(
        "V_min",
        "where(V_col > 0, 1, 0)",
        np.where(at(s.applies), 1.0, 0.0),
        note=say("1 where the column presses down"),
    )
    if s.beta is not None:
        edge.given(
            "beta",
            at(s.beta),
            reference="EN 1992-1-1 6.4.3(6)",
            note=say("1.15 interior, 1.4 open to one edge, 1.5 to two"),
            needs="a",
        )
    formula = (
        "V_min*beta*V_red/u/d/1000"
        if s.beta is not None
        else "V_min*(V_red/u + sqrt((k_x*M_xu/W_x)**2 + (k_y*M_yu/W_y)**2))/d/1000"
    )
    edge.step(
        "v_Ed",
        formula,
        s.demand,
        "MPa",
        reference="EN 1992-1-1 (6.38)" if s.beta is not None else "EN 1992-1-1 (6.51), (6.39), (6.43)",
    )
    standard.punching_strength(s.d, s.at_distance, pad.settings.concrete_strength, s.rho, pad.special, edge)
    edge.step("ratio", "v_Ed/v_Rd", s.ratio)


def _record_moments(pad: ConcretePad, s: Searched, edge: Recorder) -> None:
    """Moments about the middle of the perimeter that governs, and what spreads them."""
    at = s.at
    chosen = replace(s.around, x=at(s.around.x), y=at(s.around.y))
    about_middle(
        s.M_x,
        s.M_y,
        at(s.reduced),
        pad.forces.column,
        at(s.inside),
        at(s.first_x),
        at(s.first_y),
        chosen,
        at(s.is_open),
        edge,
    )
    edge.given(
        "W_x",
        at(np.where(s.around.exists, s.around.W_x, 1.0)),
        "m²",
        reference="EN 1992-1-1 (6.40)",
        note=say("for moments about x"),
    )
    edge.given(
        "W_y",
        at(np.where(s.around.exists, s.around.W_y, 1.0)),
        "m²",
        reference="EN 1992-1-1 (6.40)",
        note=say("for moments about y"),
    )


def _uneven(M_x: Array, M_y: Array, perimeter: Perimeter, k_x: Array, k_y: Array) -> Array:
    """Shear flow from the two moments, kN/m: root of the squares as in EN 1992-1-1 (6.43)."""
    share_x = np.where(perimeter.exists, k_x / np.where(perimeter.exists, perimeter.W_x, 1.0), 0.0)
    share_y = np.where(perimeter.exists, k_y / np.where(perimeter.exists, perimeter.W_y, 1.0), 0.0)
    flow_x, flow_y = share_x * M_x, share_y * M_y
    uneven: Array = np.sqrt(flow_x * flow_x + flow_y * flow_y)
    return uneven
