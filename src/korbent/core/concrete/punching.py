"""Punching: searched over perimeters, or at one critical section, and at the face."""

from collections.abc import Callable
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from korbent.core.checks import CHECKS, LIMIT, Outcome, does_not_apply
from korbent.core.concrete.critical_section import (
    VARIANTS,
    CriticalSection,
    critical_section,
    critical_sections,
)
from korbent.core.concrete.openings import weakened_perimeter, weakened_section
from korbent.core.concrete.pad import ConcretePad, clear_distances, steel_ratio, top_moments
from korbent.core.concrete.perimeter import Perimeter, control_perimeter
from korbent.core.concrete.standards.protocol import AtSection, Searching, is_at_section, is_searching
from korbent.core.geometry import PadGeometry
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

PASSAGE = 0.2
"""An open section at d/2 counts with its whole moments from a mean stress of so much more than that of the closed one
on."""
CLIPPED_AT_ONCE = 1024
"""Candidates x situations whose perimeters are cut by the neutral line together."""


def punching(pad: ConcretePad, record: Recorder, thin: tuple[str, ...], several: bool = False) -> list[Outcome]:
    """Punching as the standard has it: searched over perimeters, or at one critical section; ``several``: one column of
    several."""
    if is_searching(pad.standard):
        return _searched(pad, pad.standard, record, thin, several)
    assert is_at_section(pad.standard)
    return _at_section(pad, pad.standard, record, thin, several)


def _links(ratio: float) -> str:
    """What to say where the standard would go on with links."""
    return say("; links in bases are not covered: thicken the base") if ratio > LIMIT else ""


def _sides(g: PadGeometry, standard: AtSection, d: Array) -> tuple[Array, Array]:
    """Sides of the loaded area at which the critical section starts; of a round column those of a square."""
    side = standard.round_side(g.diameter, d)
    return np.where(g.diameter > 0, side, g.face[0]), np.where(g.diameter > 0, side, g.face[1])


def perimeter_around(g: PadGeometry, a: Array) -> Perimeter:
    """The control perimeter at distances ``a`` from the column; of a round one about its middle, at its radius and
    ``a``."""
    clear = clear_distances(g)
    if not g.diameter.any():
        return control_perimeter(g.face[0], g.face[1], clear, a)
    is_round, radius = g.diameter > 0, g.diameter / 2
    face_x, face_y = (np.where(is_round, 0.0, face) for face in g.face)
    middle = (
        np.where(is_round, edge + face / 2, edge)
        for edge, face in zip(clear, (g.face[0], g.face[0], g.face[1], g.face[1]))
    )
    west, east, south, north = middle
    return control_perimeter(face_x, face_y, (west, east, south, north), a + radius)


def _reach(pad: ConcretePad, d: Array) -> Array:
    """How near to the loaded area an opening counts, m."""
    if pad.settings.opening_reach == "all":
        return np.full_like(d, 1e9)
    return pad.standard.opening_reach(d, pad.geometry.h)


def _searched(
    pad: ConcretePad, standard: Searching, record: Recorder, thin: tuple[str, ...], several: bool
) -> list[Outcome]:
    g, settings = pad.geometry, pad.settings
    d = (pad.d_x + pad.d_y) / 2
    rho = np.sqrt(steel_ratio(pad.bars("bottom", "x"), pad.d_x) * steel_ratio(pad.bars("bottom", "y"), pad.d_y))
    scope = record.scope("punching")
    M_x, M_y = top_moments(pad, scope, several)
    column = pad.forces.column
    lifted = column <= 0.0
    k_y = standard.moment_share(g.face[0] / g.face[1])
    k_x = standard.moment_share(g.face[1] / g.face[0])
    clear = clear_distances(g)
    a = standard.search_distances(d)
    around = weakened_perimeter(perimeter_around(g, a), g, _reach(pad, d))
    is_open = around.exists & np.any(np.stack(np.broadcast_arrays(*around.sides)) == 0.0, axis=0)
    # the moments of the soil within count for open perimeters alone
    inside, first_x, first_y = soil_inside(pad, around, turning=bool(is_open.any()) or record is not SILENT)
    reduced = np.maximum(column - inside, 0.0)
    M_xu, M_yu = _about_middle(M_x, M_y, reduced, column, inside, first_x, first_y, around, is_open, SILENT)
    length = np.where(around.exists, around.length, 1.0)
    flow = _uneven(M_xu, M_yu, around, k_x, k_y)
    beta = None
    if settings.punching_moments == "simplified":
        open_sides = sum((side == 0.0).astype(int) for side in np.broadcast_arrays(*around.sides))
        beta = np.where(open_sides == 0, 1.15, np.where(open_sides == 1, 1.4, 1.5))
        flow = (beta - 1) * reduced / length
    spread = around.exists / (1000.0 * d)
    demand = reduced * (spread / length) + flow * spread
    applies = around.exists & ~lifted
    capacity = standard.punching_strength(d, a, settings.concrete_strength, rho, pad.special, SILENT)
    ratio = demand / capacity
    worst, shape = np.argmax(ratio, axis=0), ratio.shape

    def at(values: Array) -> Array:
        full = np.broadcast_to(values, shape)
        chosen: Array = np.take_along_axis(full, worst[None], axis=0)[0]
        return chosen

    # a column that pulls does not punch
    demand, ratio = (np.where(lifted, 0.0, at(values)) for values in (demand, ratio))
    a_g = at(a)
    if record is not SILENT:
        searched = Searched(
            d,
            rho,
            k_x,
            k_y,
            M_x,
            M_y,
            a_g,
            around,
            is_open,
            length,
            inside,
            first_x,
            first_y,
            reduced,
            applies,
            beta,
            demand,
            ratio,
        )
        _record_searched(pad, standard, searched, at, scope)

    unstable = ~pad.contact.stable
    fits = np.any(around.exists, axis=0)[:, 0]
    idle = _idle(pad, fits, lifted)
    if all(idle):
        return [does_not_apply("punching", idle), does_not_apply("punching-face", idle)]
    distances = a_g / d

    def where(candidate: int, column: int) -> str:
        return say("at {distances:.2f} d", distances=distances[candidate, column]) + _links(ratio[candidate, column])

    outcomes = [
        Outcome(
            CHECKS["punching"],
            demand,
            at(capacity),
            ratio,
            pad.situations,
            unstable,
            blocks=(say("punching perimeter"),),
            why_not=_cannot_fit(pad, fits, thin),
            note=where,
            place=distances,
            warnings=_pulled(lifted),
        )
    ]
    outcomes.append(_face(pad, standard, d, clear, M_x, M_y, k_x, k_y, scope.scope("face"), thin))
    return [replace(outcome, not_applicable=idle) for outcome in outcomes]


class Searched(NamedTuple):
    """What the search among perimeters goes by and what it finds; arrays (distances, candidates, situations), some of
    fewer axes."""

    d: Array
    rho: Array
    k_x: Array
    k_y: Array
    M_x: Array
    M_y: Array
    at_distance: Array
    """Of the perimeter that governs from the loaded area, m."""
    around: Perimeter
    is_open: Array
    length: Array
    inside: Array
    first_x: Array
    first_y: Array
    reduced: Array
    applies: Array
    beta: Array | None
    demand: Array
    ratio: Array


def _record_searched(
    pad: ConcretePad, standard: Searching, s: Searched, at: Callable[[Array], Array], scope: Recorder
) -> None:
    """How the stress at the perimeter that governs came about; ``at``: of values at all distances those there."""
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
    chosen = replace(s.around, x=at(s.around.x), y=at(s.around.y))
    _about_middle(
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


def _at_section(
    pad: ConcretePad, standard: AtSection, record: Recorder, thin: tuple[str, ...], several: bool
) -> list[Outcome]:
    g = pad.geometry
    d = (pad.d_x + pad.d_y) / 2
    reach, clear = _reach(pad, d), clear_distances(g)
    column, lifted = pad.forces.column, pad.forces.column <= 0.0
    scope = record.scope("punching")
    M_x, M_y = top_moments(pad, scope, several)
    scope.step("d", "(d_x + d_y)/2", d, "m", note=say("mean effective depth"))
    aspect = np.maximum(g.face[0], g.face[1]) / np.minimum(g.face[0], g.face[1])
    no_face = say("{standard} has no check at the face", standard=standard.name)
    parts: list[tuple[int, Array, Array, Array, Array]] = []
    # greatest mean stress of the sections that exist with fewer open sides
    sections = critical_sections(*_sides(g, standard, d), clear, d / 2)
    # a round base has one distance to its rim: what fits there is closed
    means = {open_sides: np.zeros(column.shape) for open_sides in range(3)}
    for number, (section, there) in enumerate(sections[:1] if g.footprint.is_round else sections):
        r = scope.scope(say("section {number}", number=number + 1))
        section = weakened_section(section, there, g, reach)
        inside, first_x, first_y = soil_within(pad, section)
        V = np.maximum(column - inside, 0.0)
        open_sides = int(4 - sum(VARIANTS[number]))
        is_open = open_sides > 0
        mean = V / (section.length * d)
        fewer = means[open_sides]
        for more in range(open_sides + 1, 3):
            means[more] = np.maximum(means[more], np.where(section.exists, mean, 0.0))
        r.given(
            "b_o",
            section.length,
            "m",
            reference=standard.clauses["punching"],
            note=_open_to(there),
            needs="d f_x1 f_y1",
        )
        r.given("R_in", inside, "kN", note=say("net soil pressure within it, integrated"), needs="p_mid g_x g_y w_d d")
        r.step("V_red", "max(V_col - R_in, 0)", V, "kN")
        M_xu, M_yu = _about_middle(M_x, M_y, V, column, inside, first_x, first_y, section, is_open, r)
        share = np.where(fewer > 0.0, np.clip((mean / np.maximum(fewer, 1e-12) - 1) / PASSAGE, 0.0, 1.0), 1.0)
        if is_open:
            M_xu, M_yu = _in_passage(share, fewer, M_xu, M_yu, r)
        demand = standard.section_demand(V, M_xu, M_yu, section, d, r)
        capacity = standard.section_strength(
            d, pad.settings.concrete_strength, aspect, section, np.asarray(sum(there)), r
        )
        applies = section.exists & ~lifted
        r.given(
            "k_on",
            np.where(applies, 1.0, 0.0),
            note=say("1 where this section counts and the column presses down"),
        )
        demand, capacity = np.where(applies, demand, 0.0), np.broadcast_to(capacity, applies.shape)
        ratio = demand / capacity
        r.step("ratio", "where(k_on > 0.5, v_Ed/v_Rd, 0)", ratio)
        parts.append((number, demand, capacity, ratio, np.broadcast_to(section.exists, g.B.shape)))
    fits = np.any(np.stack([p[4] for p in parts]), axis=0)[:, 0]
    idle = _idle(pad, fits, lifted)
    if all(idle):
        return [does_not_apply("punching", idle), does_not_apply("punching-face", no_face)]
    demand, capacity, ratio = (np.concatenate([p[k] for p in parts], axis=-1) for k in (1, 2, 3))
    count, numbers = len(pad.situations), [p[0] for p in parts]

    def note(i: int, j: int) -> str:
        sides = _open_to(VARIANTS[numbers[j // count]])
        return say("at d/2{sides}", sides=sides and ", " + sides) + _links(ratio[i, j])

    outcome = Outcome(
        CHECKS["punching"],
        demand,
        capacity,
        ratio,
        pad.situations,
        np.tile(~pad.contact.stable, len(parts)),
        blocks=tuple(say("punching section {n}", n=n + 1) for n in numbers),
        why_not=_cannot_fit(pad, fits, thin),
        not_applicable=idle,
        place=np.full(ratio.shape, 0.5),
        note=note,
        warnings=_pulled(lifted),
    )
    return [outcome, does_not_apply("punching-face", no_face)]


def direct_stress(pad: ConcretePad, standard: AtSection) -> tuple[Array, CriticalSection, Array]:
    """(stress without moments at d/2, the worst of all situations, MPa; the section that fits; its sides), (candidates,
    1)."""
    g, d = pad.geometry, (pad.d_x + pad.d_y) / 2
    clear = clear_distances(g)
    section = critical_section(*_sides(g, standard, d), clear, d / 2)
    sides = np.sum([(d / 2 <= np.maximum(edge, 0.0) + 1e-9).astype(float) for edge in clear], axis=0)
    inside, _, _ = soil_within(pad, section)
    stress = np.where(section.exists, np.maximum(pad.forces.column - inside, 0.0) / (section.length * d) / 1000, 0.0)
    return np.where(pad.contact.stable, stress, 0.0).max(axis=-1, keepdims=True), section, sides


def _in_passage(share: Array, fewer: Array, M_xu: Array, M_yu: Array, record: Recorder) -> tuple[Array, Array]:
    """The moments about an open section, as far as it counts: fully from a mean stress of a fifth more than that of the
    sections with fewer open sides on, not at all where it has less; so that nothing jumps where a column nears an
    edge."""
    record.given("v_f", fewer, "kPa", note=say("greatest mean stress of the sections with fewer open sides"))
    record.step(
        "k_p",
        f"where(v_f > 0, min(max((V_red/(b_o*d)/max(v_f, 1e-12) - 1)/{PASSAGE}, 0), 1), 1)",
        share,
        note=say("0 to 1: from where its mean stress is the greater one to a fifth more (our own passage)"),
    )
    for symbol, value in (("M_xu", M_xu), ("M_yu", M_yu)):
        record.step(f"{symbol}0", symbol, value, "kNm")
        record.step(symbol, f"k_p*{symbol}0", share * value, "kNm")
    return share * M_xu, share * M_yu


def _open_to(variant: tuple[float, ...] | tuple[Array, ...]) -> str:
    """At which edges a section is open, in words; '' where it is closed."""
    names = [name for name, side in zip(("−x", "+x", "−y", "+y"), variant) if float(np.asarray(side).flat[0]) == 0.0]
    return say("open to the {names} edge", names=" and ".join(names)) if names else ""


def _about_middle(
    M_x: Array,
    M_y: Array,
    V: Array,
    column: Array,
    inside: Array,
    first_x: Array,
    first_y: Array,
    line: CriticalSection | Perimeter,
    is_open: bool | Array,
    record: Recorder,
) -> tuple[Array, Array]:
    """Moments about the middle of a perimeter: of the column's force and moments, and where it is open of the soil
    within it."""
    record.given("x_u", line.x, "m", note=say("middle of the perimeter, from the column"))
    record.given("y_u", line.y, "m")
    record.given(
        "S_x",
        first_x,
        "kNm",
        note=say("first moment of the net soil pressure within it along x, about the column"),
        needs="p_mid g_x g_y w_d",
    )
    record.given("S_y", first_y, "kNm", note=say("along y"), needs="p_mid g_x g_y w_d")
    record.given(
        "k_o",
        np.where(is_open, 1.0, 0.0),
        note=say("1 where it is open to an edge: the soil within it turns too"),
    )
    turned_x, turned_y = V * line.y, V * line.x
    if np.any(is_open):
        turned_x = np.where(is_open, (column - inside) * line.y + first_y, turned_x)
        turned_y = np.where(is_open, (column - inside) * line.x + first_x, turned_y)
    M_xu, M_yu = M_x + turned_x, M_y - turned_y
    record.step(
        "M_xu",
        "M_xt + where(k_o > 0.5, V_col*y_u + S_y - R_in*y_u, max(V_col - R_in, 0)*y_u)",
        M_xu,
        "kNm",
        note=say("about the middle of the perimeter"),
    )
    record.step("M_yu", "M_yt - where(k_o > 0.5, V_col*x_u + S_x - R_in*x_u, max(V_col - R_in, 0)*x_u)", M_yu, "kNm")
    return M_xu, M_yu


def _idle(pad: ConcretePad, fits: Array, lifted: Array) -> tuple[str, ...]:
    """Per candidate: why punching has no meaning."""
    g = pad.geometry
    middle = np.hypot(g.offset_x, g.offset_y)[:, 0] <= 1e-9
    up = np.broadcast_to(lifted.all(axis=-1), fits.shape)
    narrow = fits | ~(middle if g.footprint.is_round else np.ones_like(fits))
    return tuple(
        say("the column presses down in no situation")
        if u
        else ""
        if n
        else say("no section fits within the base: one-way shear governs")
        for u, n in zip(up, narrow)
    )


def _cannot_fit(pad: ConcretePad, fits: Array, thin: tuple[str, ...]) -> tuple[str, ...]:
    """Per candidate: why punching cannot be checked, besides a base that is too thin."""
    why = say(
        "no critical section around a column off the middle fits within the round base: move the column or make the base larger"
    )
    return tuple(t or (why if pad.geometry.footprint.is_round and not f else "") for t, f in zip(thin, fits))


def _pulled(lifted: Array) -> tuple[str, ...]:
    """Per candidate: what is not looked at where the column pulls."""
    text = say("in some situations the column pulls: the cone that it would pull out of the base is not checked")
    return tuple(text if up else "" for up in np.atleast_1d(lifted.any(axis=-1)))


def _face(
    pad: ConcretePad,
    standard: Searching,
    d: Array,
    clear: tuple[Array, ...],
    M_x: Array,
    M_y: Array,
    k_x: Array,
    k_y: Array,
    record: Recorder,
    thin: tuple[str, ...],
) -> Outcome:
    g = pad.geometry
    f_x, f_y = g.face
    near_x = (clear[0] < d) | (clear[1] < d)
    near_y = (clear[2] < d) | (clear[3] < d)
    whole = np.where(g.diameter > 0, np.pi * g.diameter, 2 * (f_x + f_y))
    edge_x = np.minimum(f_y + 3 * d, f_y + 2 * f_x)
    edge_y = np.minimum(f_x + 3 * d, f_x + 2 * f_y)
    corner = np.minimum(3 * d, f_x + f_y)
    u_0 = np.where(near_x & near_y, corner, np.where(near_x, edge_x, np.where(near_y, edge_y, whole)))
    middle = pad.contact.plane_at(g.offset_x, g.offset_y)
    inside = np.minimum((np.maximum(middle, 0.0) - pad.weight) * f_x * f_y, pad.forces.column)
    V = np.maximum(pad.forces.column - inside, 0.0)
    # beta belongs to the basic control perimeter at 2d
    u_1 = whole + 4 * np.pi * d
    around = (g.diameter + 4 * d) ** 2
    W_x = f_y**2 / 2 + f_x * f_y + 4 * f_x * d + 16 * d**2 + 2 * np.pi * d * f_y
    W_y = f_x**2 / 2 + f_x * f_y + 4 * f_y * d + 16 * d**2 + 2 * np.pi * d * f_x
    W_x, W_y = (np.where(g.diameter > 0, around, W) for W in (W_x, W_y))
    uneven = u_1 * np.hypot(k_x * M_x / W_x, k_y * M_y / W_y)
    demand = np.where(pad.forces.column > 0.0, (V + uneven) / u_0 / d / 1000.0, 0.0)
    limit = np.broadcast_to(standard.face_strength(pad.settings.concrete_strength, pad.fcd, record), demand.shape)
    record.step("p_col", "p_mid + g_x*o_x + g_y*o_y", middle, "kPa", note=say("soil pressure below the column"))
    record.step("R_col", "min((max(p_col, 0) - w_d)*f_x1*f_y1, V_col)", inside, "kN")
    record.given("u_0", u_0, "m", reference="EN 1992-1-1 6.4.5(3)", note=say("perimeter at the face"))
    record.step(
        "u_1",
        "" if g.diameter.any() else "2*(f_x1 + f_y1) + 4*pi*d",
        u_1,
        "m",
        reference="EN 1992-1-1 6.4.2(1)",
        note=say("basic control perimeter at 2d"),
        needs="d f_x1 f_y1",
    )
    record.step(
        "W_x",
        "" if g.diameter.any() else "f_y1**2/2 + f_x1*f_y1 + 4*f_x1*d + 16*d**2 + 2*pi*d*f_y1",
        W_x,
        "m²",
        reference="EN 1992-1-1 (6.41)",
        note=say("of a round column (D + 4 d)²") if g.diameter.any() else "",
        needs="d f_x1 f_y1",
    )
    record.step(
        "W_y",
        "" if g.diameter.any() else "f_x1**2/2 + f_x1*f_y1 + 4*f_y1*d + 16*d**2 + 2*pi*d*f_x1",
        W_y,
        "m²",
        reference="EN 1992-1-1 (6.41)",
        note=say("of a round column (D + 4 d)²") if g.diameter.any() else "",
        needs="d f_x1 f_y1",
    )
    record.step(
        "v_Ed",
        "where(V_col > 0, (max(V_col - R_col, 0) + u_1*sqrt((k_x*M_xt/W_x)**2 + (k_y*M_yt/W_y)**2))/u_0/d/1000, 0)",
        demand,
        "MPa",
        reference="EN 1992-1-1 (6.53), (6.39)",
    )
    record.step("ratio", "v_Ed/v_Rd_max", demand / limit)
    return Outcome(
        CHECKS["punching-face"],
        demand,
        limit,
        demand / limit,
        pad.situations,
        ~pad.contact.stable,
        blocks=(say("punching face"),),
        why_not=thin,
    )


def soil_inside(pad: ConcretePad, perimeter: Perimeter, turning: bool = True) -> tuple[Array, Array, Array]:
    """Net upward soil force within perimeters (kN), and its first moments about the column (kNm), where they are asked
    for: (distances, candidates, situations)."""
    g, contact = pad.geometry, pad.contact
    S_x, S_y = perimeter.area * perimeter.area_x, perimeter.area * perimeter.area_y
    force, first_x, first_y = contact.plane_on(
        g.offset_x, g.offset_y, (perimeter.area, S_x, S_y), perimeter.second_moments() if turning else None
    )
    partial = contact.stable & (contact.share < 1.0)
    if partial.any():
        outline_x, outline_y = perimeter.outline()
        found = np.nonzero(partial)
        # in parts that stay in the processor's memory
        for rows, columns in zip(*(np.array_split(v, max(1, len(v) // CLIPPED_AT_ONCE)) for v in found)):
            off_x, off_y = g.offset_x[rows], g.offset_y[rows]
            x, y = outline_x[:, rows, 0] + off_x, outline_y[:, rows, 0] + off_y
            # where the pressure acts on the whole of the area, its value at the middle of the area is exact
            at, which = np.nonzero(contact.of(rows, columns).pulls_in(x, y))
            where = (at, rows[which], columns[which])
            inside = contact.of(*where[1:]).on_polygons(x[at, which], y[at, which])
            force[where] = inside.force
            if turning:
                first_x[where] = inside.x - off_x[which, 0] * inside.force
                first_y[where] = inside.y - off_y[which, 0] * inside.force
    if not turning:
        return force - pad.weight * perimeter.area, first_x, first_y
    return force - pad.weight * perimeter.area, first_x - pad.weight * S_x, first_y - pad.weight * S_y


def soil_within(pad: ConcretePad, section: CriticalSection) -> tuple[Array, Array, Array]:
    """Net upward soil force within a critical section (kN), and its first moments about the column (kNm): (candidates,
    situations)."""
    g, contact = pad.geometry, pad.contact
    x0, x1, y0, y1 = (np.broadcast_to(v, g.B.shape) for v in section.corners)
    bounds = (x0 + g.offset_x, x1 + g.offset_x, y0 + g.offset_y, y1 + g.offset_y)
    pressed = contact.on_rectangles(*bounds)
    force: Array = pressed.force - pad.weight * section.area
    first_x = pressed.x - g.offset_x * pressed.force - pad.weight * section.area * section.area_x
    first_y = pressed.y - g.offset_y * pressed.force - pad.weight * section.area * section.area_y
    return force, first_x, first_y


def _uneven(M_x: Array, M_y: Array, perimeter: Perimeter, k_x: Array, k_y: Array) -> Array:
    """Shear flow from the two moments, kN/m: root of the squares as in EN 1992-1-1 (6.43)."""
    share_x = np.where(perimeter.exists, k_x / np.where(perimeter.exists, perimeter.W_x, 1.0), 0.0)
    share_y = np.where(perimeter.exists, k_y / np.where(perimeter.exists, perimeter.W_y, 1.0), 0.0)
    flow_x, flow_y = share_x * M_x, share_y * M_y
    uneven: Array = np.sqrt(flow_x * flow_x + flow_y * flow_y)
    return uneven
