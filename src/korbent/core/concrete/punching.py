"""Punching: searched over perimeters, or at one critical section, and at the face."""

from dataclasses import replace

import numpy as np

from korbent.core.checks import CHECKS, LIMIT, Outcome, does_not_apply
from korbent.core.concrete.critical_section import CriticalSection, critical_section
from korbent.core.concrete.openings import weakened_perimeter, weakened_section
from korbent.core.concrete.pad import ConcretePad, clear_distances, steel_ratio, top_moments
from korbent.core.concrete.perimeter import Perimeter, control_perimeter
from korbent.core.concrete.standard import AtSection, Searching
from korbent.core.contact.polygon import pressure_on_rectangles, pressure_over
from korbent.core.geometry import PadGeometry
from korbent.core.working import SILENT, Array, Recorder

CLIPPED_AT_ONCE = 1024
"""Candidates x situations whose perimeters are cut by the neutral line together."""


def punching(
    pad: ConcretePad, record: Recorder, thin: tuple[str, ...], several: bool = False
) -> list[Outcome]:
    """Punching as the standard has it: searched over perimeters, or at one critical section; ``several``: one column of several."""
    if isinstance(pad.standard, Searching):
        return _searched(pad, pad.standard, record, thin, several)
    assert isinstance(pad.standard, AtSection)
    return _at_section(pad, pad.standard, record, thin, several)


def _links(ratio: float) -> str:
    """What to say where the standard would go on with links."""
    return "; links in bases are not covered: thicken the base" if ratio > LIMIT else ""


def _sides(g: PadGeometry, standard: AtSection, d: Array) -> tuple[Array, Array]:
    """Sides of the loaded area at which the critical section starts; of a round column those of a square."""
    side = standard.round_side(g.diameter, d)
    return np.where(g.diameter > 0, side, g.face[0]), np.where(g.diameter > 0, side, g.face[1])


def perimeter_around(g: PadGeometry, a: Array) -> Perimeter:
    """The control perimeter at distances ``a`` from the column; of a round one about its middle, at its radius and ``a``."""
    clear = clear_distances(g)
    if not g.diameter.any():
        return control_perimeter(g.face[0], g.face[1], clear, a)
    is_round, radius = g.diameter > 0, g.diameter / 2
    face_x, face_y = (np.where(is_round, 0.0, face) for face in g.face)
    middle = (
        np.where(is_round, edge + face / 2, edge) for edge, face in zip(clear, (g.face[0], g.face[0], g.face[1], g.face[1]))
    )  # fmt: skip
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
    rho = np.sqrt(
        steel_ratio(pad.bars("bottom", "x"), pad.d_x) * steel_ratio(pad.bars("bottom", "y"), pad.d_y)
    )
    scope = record.scope("punching")
    M_x, M_y = top_moments(pad, scope, several)
    column = pad.forces.column
    lifted = column <= 0.0
    k_y = standard.moment_share(g.face[0] / g.face[1])
    k_x = standard.moment_share(g.face[1] / g.face[0])
    clear = clear_distances(g)
    a = standard.search_distances(d)
    around = weakened_perimeter(perimeter_around(g, a), g, _reach(pad, d))
    inside = soil_inside(pad, around)
    reduced = np.maximum(column - inside, 0.0)
    M_xu, M_yu = M_x + reduced * around.y, M_y - reduced * around.x
    length = np.where(around.exists, around.length, 1.0)
    demand = (reduced / length + _uneven(M_xu, M_yu, around, k_x, k_y)) / d / 1000.0
    applies = around.exists & ~lifted
    demand = np.where(applies, demand, 0.0)
    capacity = standard.punching_strength(d, a, settings.concrete_strength, rho, pad.special, SILENT)
    ratio = demand / capacity
    worst = np.argmax(ratio, axis=0)

    def at(values: Array) -> Array:
        full = np.broadcast_to(values, ratio.shape)
        chosen: Array = np.take_along_axis(full, worst[None], axis=0)[0]
        return chosen

    a_g = at(a)
    scope("d", "(d_x + d_y)/2", d, "m", "EN 1992-1-1 (6.32)", "mean effective depth")
    scope("rho_lx", "", steel_ratio(pad.bars("bottom", "x"), pad.d_x), "", note="bottom bars along x")
    scope("rho_ly", "", steel_ratio(pad.bars("bottom", "y"), pad.d_y), "", note="bottom bars along y")
    scope("rho_l", "sqrt(rho_lx*rho_ly)", rho, "", "EN 1992-1-1 6.4.4(1)")
    scope("k_x", "", k_x, "", "EN 1992-1-1 table 6.1", "for moments about x")
    scope("k_y", "", k_y, "", "EN 1992-1-1 table 6.1", "for moments about y")
    edge = scope.scope("perimeter")
    edge(
        "a",
        "",
        a_g,
        "m",
        "EN 1992-1-1 6.4.4(2)",
        "distance that governs, found by search from 0.1 d to 2 d",
        "d",
    )
    edge("u", "", at(length), "m", "EN 1992-1-1 6.4.2", "length of the perimeter", "a f_x1 f_y1")
    edge("R_in", "", at(inside), "kN", "", "net soil pressure within it, integrated", "p_mid g_x g_y w_d a")
    edge("V_red", "max(V_col - R_in, 0)", at(reduced), "kN", "EN 1992-1-1 (6.48)")
    edge("x_u", "", at(around.x), "m", note="middle of the perimeter, from the column")
    edge("y_u", "", at(around.y), "m")
    edge(
        "W_x",
        "",
        at(np.where(around.exists, around.W_x, 1.0)),
        "m²",
        "EN 1992-1-1 (6.40)",
        "for moments about x",
    )
    edge(
        "W_y",
        "",
        at(np.where(around.exists, around.W_y, 1.0)),
        "m²",
        "EN 1992-1-1 (6.40)",
        "for moments about y",
    )
    edge("M_xu", "M_xt + V_red*y_u", at(M_xu), "kNm", note="about the middle of the perimeter")
    edge("M_yu", "M_yt - V_red*x_u", at(M_yu), "kNm")
    edge(
        "V_min",
        "where(V_col > 0, 1, 0)",
        np.where(at(applies), 1.0, 0.0),
        "",
        note="1 where the column presses down",
    )
    edge(
        "v_Ed", "V_min*(V_red/u + sqrt((k_x*M_xu/W_x)**2 + (k_y*M_yu/W_y)**2))/d/1000", at(demand), "MPa",
        "EN 1992-1-1 (6.51), (6.43)",
    )  # fmt: skip
    standard.punching_strength(d, a_g, settings.concrete_strength, rho, pad.special, edge)
    edge("ratio", "v_Ed/v_Rd", at(ratio))

    unstable = ~pad.contact.stable
    idle = tuple(
        "the column presses down in no situation" if up else "" for up in np.atleast_1d(lifted.all(axis=-1))
    )
    if all(idle):
        return [does_not_apply("punching", idle[0]), does_not_apply("punching-face", idle[0])]
    distances, exists = a_g / d, at(around.exists)

    def where(candidate: int, column: int) -> str:
        if not exists[candidate, column]:
            return "no perimeter fits within the base: one-way shear governs"
        return f"at {distances[candidate, column]:.2f} d" + _links(at(ratio)[candidate, column])

    outcomes = [
        Outcome(
            CHECKS["punching"], at(demand), at(capacity), at(ratio), pad.situations, unstable,
            blocks=("punching perimeter",), why_not=thin, note=where, place=distances,
        )
    ]  # fmt: skip
    outcomes.append(_face(pad, standard, d, clear, M_x, M_y, k_x, k_y, scope.scope("face"), thin))
    return [replace(outcome, not_applicable=idle) for outcome in outcomes]


def _at_section(
    pad: ConcretePad, standard: AtSection, record: Recorder, thin: tuple[str, ...], several: bool
) -> list[Outcome]:
    g = pad.geometry
    d = (pad.d_x + pad.d_y) / 2
    clear = clear_distances(g)
    there = tuple((d / 2 <= np.maximum(edge, 0.0) + 1e-9).astype(float) for edge in clear)
    reach = _reach(pad, d)
    section = weakened_section(
        critical_section(*_sides(g, standard, d), clear, d / 2),
        (there[0], there[1], there[2], there[3]),
        g,
        reach,
    )
    column, lifted = pad.forces.column, pad.forces.column <= 0.0
    inside = soil_within(pad, section)
    V = np.maximum(column - inside, 0.0)
    scope = record.scope("punching")
    M_x, M_y = top_moments(pad, scope, several)
    M_xu, M_yu = M_x + V * section.y, M_y - V * section.x
    scope("d", "(d_x + d_y)/2", d, "m", note="mean effective depth")
    scope(
        "b_o", "", section.length, "m", standard.clauses["punching"], "critical section at d/2", "d f_x1 f_y1"
    )
    scope("R_in", "", inside, "kN", "", "net soil pressure within it, integrated", "p_mid g_x g_y w_d d")
    scope("V_red", "max(V_col - R_in, 0)", V, "kN")
    scope("x_u", "", section.x, "m", note="middle of the section, from the column")
    scope("y_u", "", section.y, "m")
    scope("M_xu", "M_xt + V_red*y_u", M_xu, "kNm", note="about the middle of the section")
    scope("M_yu", "M_yt - V_red*x_u", M_yu, "kNm")
    demand = standard.section_demand(V, M_xu, M_yu, section, d, scope)
    sides = sum(there)
    aspect = np.maximum(g.face[0], g.face[1]) / np.minimum(g.face[0], g.face[1])
    capacity = standard.section_strength(
        d, pad.settings.concrete_strength, aspect, section, np.asarray(sides), scope
    )
    capacity = np.broadcast_to(capacity, demand.shape)
    applies = section.exists & ~lifted
    ratio = np.where(applies, demand / capacity, 0.0)
    scope("ratio", "v_Ed/v_Rd", demand / capacity)
    idle = tuple(
        "the column presses down in no situation" if up else "" for up in np.atleast_1d(lifted.all(axis=-1))
    )
    if all(idle):
        return [does_not_apply("punching", idle[0]), does_not_apply("punching-face", idle[0])]
    outcome = Outcome(
        CHECKS["punching"], np.where(applies, demand, 0.0), capacity, ratio, pad.situations, ~pad.contact.stable, blocks=("punching",),
        why_not=thin, not_applicable=idle, place=np.full(ratio.shape, 0.5),
        note=lambda i, j: "at d/2" + _links(ratio[i, j]) if section.exists[i, 0] else "no section fits within the base: one-way shear governs",
    )  # fmt: skip
    return [outcome, does_not_apply("punching-face", f"{standard.name} has no check at the face")]


def _face(
    pad: ConcretePad, standard: Searching, d: Array, clear: tuple[Array, ...], M_x: Array, M_y: Array, k_x: Array, k_y: Array,
    record: Recorder, thin: tuple[str, ...],
) -> Outcome:  # fmt: skip
    g = pad.geometry
    f_x, f_y = g.face
    near_x = (clear[0] < d) | (clear[1] < d)
    near_y = (clear[2] < d) | (clear[3] < d)
    whole = np.where(g.diameter > 0, np.pi * g.diameter, 2 * (f_x + f_y))
    edge_x = np.minimum(f_y + 3 * d, f_y + 2 * f_x)
    edge_y = np.minimum(f_x + 3 * d, f_x + 2 * f_y)
    corner = np.minimum(3 * d, f_x + f_y)
    u_0 = np.where(near_x & near_y, corner, np.where(near_x, edge_x, np.where(near_y, edge_y, whole)))
    middle = pad.contact.a + pad.contact.b * g.offset_x + pad.contact.c * g.offset_y
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
    limit = np.broadcast_to(
        standard.face_strength(pad.settings.concrete_strength, pad.fcd, record), demand.shape
    )
    record("p_col", "p_mid + g_x*o_x + g_y*o_y", middle, "kPa", note="soil pressure below the column")
    record("R_col", "min((max(p_col, 0) - w_d)*f_x1*f_y1, V_col)", inside, "kN")
    record("u_0", "", u_0, "m", "EN 1992-1-1 6.4.5(3)", "perimeter at the face")
    record(
        "u_1",
        "" if g.diameter.any() else "2*(f_x1 + f_y1) + 4*pi*d",
        u_1,
        "m",
        "EN 1992-1-1 6.4.2(1)",
        "basic control perimeter at 2d",
        "d f_x1 f_y1",
    )
    record(
        "W_x",
        "" if g.diameter.any() else "f_y1**2/2 + f_x1*f_y1 + 4*f_x1*d + 16*d**2 + 2*pi*d*f_y1",
        W_x,
        "m²",
        "EN 1992-1-1 (6.41)",
        "of a round column (D + 4 d)²" if g.diameter.any() else "",
        "d f_x1 f_y1",
    )
    record(
        "W_y",
        "" if g.diameter.any() else "f_x1**2/2 + f_x1*f_y1 + 4*f_y1*d + 16*d**2 + 2*pi*d*f_x1",
        W_y,
        "m²",
        "EN 1992-1-1 (6.41)",
        "of a round column (D + 4 d)²" if g.diameter.any() else "",
        "d f_x1 f_y1",
    )
    record(
        "v_Ed",
        "where(V_col > 0, (max(V_col - R_col, 0) + u_1*sqrt((k_x*M_xt/W_x)**2 + (k_y*M_yt/W_y)**2))/u_0/d/1000, 0)",
        demand, "MPa", "EN 1992-1-1 (6.53), (6.39)",
    )  # fmt: skip
    record("ratio", "v_Ed/v_Rd_max", demand / limit)
    return Outcome(
        CHECKS["punching-face"], demand, limit, demand / limit, pad.situations, ~pad.contact.stable,
        blocks=("punching face",), why_not=thin,
    )  # fmt: skip


def soil_inside(pad: ConcretePad, perimeter: Perimeter) -> Array:
    """Net upward soil force within perimeters, kN, shape (distances, candidates, situations)."""
    g, contact = pad.geometry, pad.contact
    middle = (
        contact.a + contact.b * (g.offset_x + perimeter.area_x) + contact.c * (g.offset_y + perimeter.area_y)
    )
    force = middle * perimeter.area
    partial = contact.stable & (contact.share < 1.0)
    if partial.any():
        outline_x, outline_y = perimeter.outline()
        found = np.nonzero(partial)
        # in parts that stay in the processor's memory
        for rows, columns in zip(*(np.array_split(v, max(1, len(v) // CLIPPED_AT_ONCE)) for v in found)):
            x = outline_x[:, rows, 0] + g.offset_x[rows]
            y = outline_y[:, rows, 0] + g.offset_y[rows]
            a, b, c = (v[rows, columns] for v in (contact.a, contact.b, contact.c))
            # where the pressure acts on the whole of the area, its value at the middle of the area is exact
            cut = (a[:, None] + b[:, None] * x + c[:, None] * y).min(axis=-1) < 0.0
            at, which = np.nonzero(cut)
            inside = pressure_over(x[at, which], y[at, which], a[which], b[which], c[which])
            force[at, rows[which], columns[which]] = inside.force
    net: Array = force - pad.weight * perimeter.area
    return net


def soil_within(pad: ConcretePad, section: CriticalSection) -> Array:
    """Net upward soil force within a critical section, kN, shape (candidates, situations)."""
    g, contact = pad.geometry, pad.contact
    x0, x1, y0, y1 = (np.broadcast_to(v, g.B.shape) for v in section.corners)
    bounds = (x0 + g.offset_x, x1 + g.offset_x, y0 + g.offset_y, y1 + g.offset_y)
    pressed = pressure_on_rectangles(*bounds, contact.a, contact.b, contact.c).force
    force: Array = pressed - pad.weight * section.area
    return force


def _uneven(M_x: Array, M_y: Array, perimeter: Perimeter, k_x: Array, k_y: Array) -> Array:
    """Shear flow from the two moments, kN/m: root of the squares as in EN 1992-1-1 (6.43)."""
    flow_x = np.where(perimeter.exists, k_x * M_x / np.where(perimeter.exists, perimeter.W_x, 1.0), 0.0)
    flow_y = np.where(perimeter.exists, k_y * M_y / np.where(perimeter.exists, perimeter.W_y, 1.0), 0.0)
    uneven: Array = np.hypot(flow_x, flow_y)
    return uneven
