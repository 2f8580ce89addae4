"""The concrete checks of a pad: flexure, one-way shear, punching, least steel and spacing."""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Check, Outcome, cannot, does_not_apply
from korbent.core.concrete.critical_section import CriticalSection, critical_section
from korbent.core.concrete.perimeter import Perimeter, control_perimeter
from korbent.core.concrete.sections import SIDES, SectionForces, forces_beyond
from korbent.core.concrete.standard import AtSection, ConcreteStandard, Searching, registry
from korbent.core.contact.base import contact_under
from korbent.core.contact.polygon import pressure_over
from korbent.core.contact.rectangle import Contact
from korbent.core.geometry import BarArrays, PadGeometry
from korbent.core.model.settings import Settings
from korbent.core.working import SILENT, Array, Recorder


def concrete_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """All concrete checks at the ultimate limit."""
    if bench.standards.concrete not in registry():
        why = "no concrete standard is chosen: choose one in Plan, under Title"
        return [cannot(c.id, why) for c in CHECKS.values() if c.group == "concrete"]
    situations = bench.situations("concrete")
    if not len(situations):
        why = bench.no_combination("concrete")
        return [cannot(c.id, why) for c in CHECKS.values() if c.group == "concrete"]
    g = bench.geometry
    why = no_concrete(bench)
    if why:
        return [cannot(c.id, why) for c in CHECKS.values() if c.group == "concrete"]
    from korbent.core.concrete.anchorage import anchorage_checks

    forces = bench.forces(situations, record)
    contact = contact_under(g, forces.N, forces.Mx, forces.My, record)
    pad = concrete_pad(
        g,
        situations,
        forces,
        contact,
        bench.settings,
        bench.standards.concrete,
        record,
    )
    if any(len(points) > 1 for points in bench.standing):
        from korbent.core.concrete.several import several_outcomes

        outcomes = several_outcomes(bench, pad, record, too_thin(pad))
    else:
        outcomes = [*concrete_outcomes(pad, record), *anchorage_checks(pad, record, too_thin(pad))]
    outcomes = [replace(o, check=_with_clause(o.check, pad.standard.clauses)) for o in outcomes]
    if any(g.askew):
        text = "the column is turned against the base: a square of equal area is used"
        warnings = tuple(text if askew else "" for askew in g.askew)
        outcomes = [replace(o, warnings=warnings) for o in outcomes]
    return outcomes


def no_concrete(bench: Bench) -> str:
    """Why the concrete of these bases is not checked."""
    if bench.geometry.shape == "ring":
        return "the concrete of a ring is not checked yet: check it by hand"
    if bench.geometry.shape != "rectangle" and any(len(points) > 1 for points in bench.standing):
        return "the concrete of a round base with several columns is not checked: check it by hand"
    return ""


def _with_clause(check: Check, clauses: dict[str, str]) -> Check:
    """The check with the clause of the standard in force; the very same one where it is its own."""
    clause = clauses.get(check.id, check.reference)
    if clause == check.reference:
        return check
    key = (check.id, clause)
    if key not in _by_clause:
        _by_clause[key] = replace(check, reference=clause)
    return _by_clause[key]


_by_clause: dict[tuple[str, str], Check] = {}


@dataclass(frozen=True)
class ConcretePad:
    """What the concrete checks of one pad share."""

    geometry: PadGeometry
    situations: Situations
    forces: BaseForces
    contact: Contact
    weight: Array
    """Net downward load of base, backfill and (negative) water pressure, kPa."""
    settings: Settings
    d_x: Array
    d_y: Array
    fcd: Array
    fyd: Array
    special: Array
    standard: ConcreteStandard

    def depth(self, axis: str) -> Array:
        """Effective depth of the bottom bars along an axis, m."""
        return self.d_x if axis == "x" else self.d_y

    def bars(self, face: str, axis: str) -> BarArrays:
        """Bars of a face (bottom, top) along an axis."""
        return self.geometry.bars[f"{face}_{axis}"]


def effective_depths(
    h: Array, cover: float, outer: str, x: BarArrays, y: BarArrays, record: Recorder = SILENT
) -> tuple[Array, Array]:
    """Depths of the bars along x and y from the opposite face, m; at least a tenth of h (see :func:`too_thin`)."""
    first, second = (x, y) if outer == "x" else (y, x)
    outer_d = h - cover - first.diameter / 2
    inner_d = h - cover - first.diameter - second.diameter / 2
    d_x, d_y = (outer_d, inner_d) if outer == "x" else (inner_d, outer_d)
    record("c", "", cover, "m", note="cover")
    record("oe_x", "", x.diameter, "m", note="bars along x")
    record("oe_y", "", y.diameter, "m", note="bars along y")
    below_x = "" if outer == "x" else " - oe_y"
    below_y = " - oe_x" if outer == "x" else ""
    least = h / 10
    record(
        "d_x",
        f"max(h - c{below_x} - oe_x/2, h/10)",
        np.maximum(d_x, least),
        "m",
        note="effective depth, bars along x",
    )
    record(
        "d_y",
        f"max(h - c{below_y} - oe_y/2, h/10)",
        np.maximum(d_y, least),
        "m",
        note="effective depth, bars along y",
    )
    return np.maximum(d_x, least), np.maximum(d_y, least)


def concrete_pad(
    geometry: PadGeometry, situations: Situations, forces: BaseForces, contact: Contact, settings: Settings, standard_name: str, record: Recorder = SILENT,
) -> ConcretePad:  # fmt: skip
    """Gathers effective depths, design strengths and the net weight of a pad."""
    standard = registry(settings.shear_size_effect)[standard_name]
    special = situations.is_special()
    record("f_x1", "", geometry.face[0], "m", note="loaded area along x")
    record("f_y1", "", geometry.face[1], "m", note="loaded area along y")
    fcd, fyd = standard.strengths(
        settings.concrete_strength, settings.steel_strength, settings.alpha_cc, special, record
    )
    d_x, d_y = effective_depths(
        geometry.h,
        settings.concrete_cover,
        settings.outer_bars,
        geometry.bars["bottom_x"],
        geometry.bars["bottom_y"],
        record,
    )
    area = geometry.area
    weight = situations.weight * (settings.concrete_weight * geometry.h + forces.backfill) - forces.U / area
    record(
        "w_d", "gamma_G*(gamma_c*h + q_b) - U/A", weight, "kPa",
        note="base and backfill, less water pressure: deducted from the soil pressure",
    )  # fmt: skip
    return ConcretePad(
        geometry, situations, forces, contact, weight, settings, d_x, d_y, fcd, fyd, special, standard
    )


def concrete_outcomes(pad: ConcretePad, record: Recorder = SILENT) -> list[Outcome]:
    """All concrete checks of a pad."""
    thin = too_thin(pad)
    outcomes = punching(pad, record, thin)
    outcomes += _shear(pad, record, thin)
    outcomes += _flexure(pad, record, thin)
    for axis in "xy":
        outcomes += detailing(pad, axis, record, thin)
    return outcomes


def too_thin(pad: ConcretePad) -> tuple[str, ...]:
    """Per candidate: why the base is too thin for its cover and bars, or ''."""
    used = pad.settings.concrete_cover + pad.bars("bottom", "x").diameter + pad.bars("bottom", "y").diameter
    return tuple(
        f"the base is {h:.3g} m thick; cover and two layers of bars leave no effective depth"
        if h <= 1.2 * u
        else ""
        for h, u in zip(pad.geometry.h[:, 0], used[:, 0])
    )


def _steel_ratio(bars: BarArrays, d: Array) -> Array:
    ratio: Array = bars.area / d
    return ratio


def _flexure(pad: ConcretePad, record: Recorder, thin: tuple[str, ...]) -> list[Outcome]:
    faces = forces_beyond(pad.geometry, pad.contact, pad.weight, np.zeros((4, 1, 1)))
    outcomes = []
    for axis in "xy":
        sides = (0, 1) if axis == "x" else (2, 3)
        bottom: list[tuple[Array, Array, Array, Array]] = []
        top: list[tuple[Array, Array, Array, Array]] = []
        for side in sides:
            # a bottom and a top scope for each face, with the same forces
            scope = record.scope(f"at the {SIDES[side]}")
            width = _width(pad, axis, faces, side, scope)
            scope(
                "l", "", faces.outstand[side], "m", "", "from the face to the edge", "B L o_x o_y f_x1 f_y1"
            )
            scope(
                "S_b", *_first_moment(pad, faces, side), "m³", "", "first moment of the base beyond the face"
            )
            scope(
                "M_p", "", faces.pressed_moment[side], "kNm", "",
                "soil pressure beyond the face, integrated, about the face", "p_mid g_x g_y l b",
            )  # fmt: skip
            scope("M_Ed", "M_p - w_d*S_b", faces.moment[side], "kNm", note="positive: tension below")
            bottom.append(steel_at(pad, axis, "bottom", faces.moment[side], width, scope.scope("bottom")))
            top.append(steel_at(pad, axis, "top", faces.moment[side], width, scope.scope("top")))
        blocks = tuple(f"at the {SIDES[s]}" for s in sides)
        outcomes.append(
            _steel_outcome(pad, f"bottom-{axis}", bottom, tuple(f"{b} bottom" for b in blocks), thin)
        )
        tension = np.max([required.max(axis=-1) for required, _, _, _ in top], axis=0) > 0.0
        idle = tuple("" if some else "no situation puts the top in tension" for some in tension)
        if all(idle):
            outcomes.append(does_not_apply(f"top-{axis}", idle[0]))
        else:
            found = _steel_outcome(pad, f"top-{axis}", top, tuple(f"{b} top" for b in blocks), thin)
            outcomes.append(replace(found, not_applicable=idle))
    return outcomes


def steel_at(
    pad: ConcretePad, axis: str, face: str, moment: Array, width: Array, record: Recorder
) -> tuple[Array, Array, Array, Array]:
    """(required, provided, ratio, use of the compression zone) of the steel along an axis at one section."""
    bottom = face == "bottom"
    bars = pad.bars(face, axis)
    m = np.maximum(moment if bottom else -moment, 0.0) / width
    d = pad.depth(axis)
    record("d", f"d_{axis}", d, "m")
    record(
        "m_Ed", "max(M_Ed, 0)/b" if bottom else "max(-M_Ed, 0)/b", m, "kNm/m", note="design moment per width"
    )
    required, depth_ratio = pad.standard.steel_for(
        m, d, pad.settings.concrete_strength, pad.fcd, pad.fyd, record
    )
    provided = np.broadcast_to(bars.area * 1e6, required.shape)
    record("oe", "", bars.diameter, "m", note="bar diameter")
    record("s", "", bars.spacing, "m", note="bar spacing")
    record("A_s", "pi*oe**2/4/s*1e6", provided, "mm²/m", note="steel provided")
    ratio = np.maximum(required / np.maximum(provided, 1e-9), np.where(depth_ratio > 1.0, depth_ratio, 0.0))
    record("ratio", "max(A_s_req/max(A_s, 1e-9), where(K > K_lim, K/K_lim, 0))", ratio)
    return required, provided, ratio, depth_ratio


def _steel_outcome(
    pad: ConcretePad, check: str, parts: list[tuple[Array, Array, Array, Array]], scopes: tuple[str, ...],
    thin: tuple[str, ...],
) -> Outcome:  # fmt: skip
    required, provided, ratio, compression = (np.concatenate(values, axis=-1) for values in zip(*parts))
    count = len(pad.situations)
    bars = pad.bars(*check.split("-"))

    def note(candidate: int, column: int) -> str:
        where = scopes[column // count].rsplit(" ", 1)[0]
        diameter, spacing = 1000 * bars.diameter[candidate, 0], 1000 * bars.spacing[candidate, 0]
        if diameter == 0.0:
            return f"{where}: the {check.split('-')[0]} is in tension and has no bars"
        deep = compression[candidate, column] > 1
        extra = "; compression zone too deep: thicken the base" if deep else ""
        return f"{where}, ø{diameter:g} at {spacing:g} mm{extra}"

    return Outcome(
        CHECKS[check], required, provided, ratio, pad.situations, np.tile(~pad.contact.stable, 2),
        # plain concrete is not counted on: any tension without bars fails
        unresisted=(provided == 0.0) & (required > 0.0), blocks=scopes, why_not=thin, note=note,
    )  # fmt: skip


def _shear(pad: ConcretePad, record: Recorder, thin: tuple[str, ...]) -> list[Outcome]:
    h = pad.geometry.h
    away = np.stack([pad.standard.shear_section(d, h)[0] for d in (pad.d_x, pad.d_x, pad.d_y, pad.d_y)])
    sections = forces_beyond(pad.geometry, pad.contact, pad.weight, away)
    outcomes = []
    for axis in "xy":
        demands, capacities = [], []
        d = pad.standard.shear_section(pad.depth(axis), h)[1]
        sides = (0, 1) if axis == "x" else (2, 3)
        rho = _steel_ratio(pad.bars("bottom", axis), pad.depth(axis))
        for side in sides:
            scope = record.scope(f"shear at d from the {SIDES[side]}")
            own = pad.standard.shear_section(pad.depth(axis), h)[1] is pad.depth(axis)
            scope("d", f"d_{axis}" if own else f"max(0.72*h, 0.9*d_{axis})", d, "m")
            width = _width(pad, axis, sections, side, scope)
            scope(
                "l",
                "",
                sections.outstand[side],
                "m",
                "",
                "from the section to the edge",
                "B L o_x o_y f_x1 f_y1 d",
            )
            scope(
                "P",
                "",
                sections.pressed[side],
                "kN",
                "",
                "soil pressure beyond the section, integrated",
                "p_mid g_x g_y l b",
            )
            whole = "l*b" if pad.geometry.shape == "rectangle" else ""
            scope(
                "A_b", whole, sections.area[side], "m²", "", "base beyond the section", "" if whole else "l B"
            )
            scope("V_Ed", "P - w_d*A_b", sections.shear[side], "kN")
            demand = np.abs(sections.shear[side]) / (width * d) / 1000.0
            scope("v_Ed", "abs(V_Ed)/(b*d)/1000", demand, "MPa", pad.standard.clauses["shear-x"])
            scope("rho_l", "", rho, "", note=f"bottom bars along {axis}")
            capacity = pad.standard.shear_strength(d, pad.settings.concrete_strength, rho, pad.special, scope)
            scope("ratio", "v_Ed/v_Rd", demand / capacity)
            demands.append(demand)
            capacities.append(np.broadcast_to(capacity, demand.shape))
        demand, capacity = np.concatenate(demands, axis=-1), np.concatenate(capacities, axis=-1)
        outcomes.append(
            Outcome(
                CHECKS[f"shear-{axis}"], demand, capacity, demand / capacity, pad.situations,
                np.tile(~pad.contact.stable, 2), blocks=tuple(f"shear at d from the {SIDES[s]}" for s in sides),
                why_not=thin, note=_side_note(pad, sides),
            )
        )  # fmt: skip
    return outcomes


def _side_note(pad: ConcretePad, sides: tuple[int, int]) -> Callable[[int, int], str]:
    count = len(pad.situations)
    return lambda candidate, column: f"d from the {SIDES[sides[column // count]]}"


CLIPPED_AT_ONCE = 1024
"""Candidates x situations whose perimeters are cut by the neutral line together."""


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


def column_moments(pad: ConcretePad) -> tuple[Array, Array]:
    """Moments of the column at the top of the base, about x and y, kNm."""
    g = pad.geometry
    _, Hx, Hy, Mx, My = np.moveaxis(pad.forces.factored, -1, 0)
    arm = g.load_level - g.top
    return Mx - arm * Hy, My + arm * Hx


def _width(pad: ConcretePad, axis: str, sections: SectionForces, side: int, record: Recorder) -> Array:
    """Width of a section across an axis, m: the whole base, or the chord of a round one."""
    g = pad.geometry
    if g.shape == "rectangle":
        width = g.L if axis == "x" else g.B
        record("b", "L" if axis == "x" else "B", width, "m", note="width of the section")
        return width
    chord: Array = sections.width[side][..., :1]
    record("b", "", chord, "m", "", "chord of the base at the section", "B o_x o_y f_x1 f_y1")
    return chord


def _first_moment(pad: ConcretePad, sections: SectionForces, side: int) -> tuple[str, Array]:
    """(formula, value) of the first moment of the base beyond a section, m3."""
    return "l**2/2*b" if pad.geometry.shape == "rectangle" else "", sections.area_moment[side]


def clear_distances(geometry: PadGeometry) -> tuple[Array, Array, Array, Array]:
    """From the faces of the loaded area to the edges at -x, +x, -y, +y, m.

    On a round base to the rim as the corner of the loaded area that is nearest sees it: a perimeter there lies within the base.
    """
    g = geometry
    face_x, face_y = g.face[0] / 2, g.face[1] / 2
    if g.shape != "rectangle":
        room = g.B / 2 - np.hypot(np.abs(g.offset_x) + face_x, np.abs(g.offset_y) + face_y)
        return room, room, room, room
    return (
        g.B / 2 + g.offset_x - face_x, g.B / 2 - g.offset_x - face_x,
        g.L / 2 + g.offset_y - face_y, g.L / 2 - g.offset_y - face_y,
    )  # fmt: skip


def _uneven(M_x: Array, M_y: Array, perimeter: Perimeter, k_x: Array, k_y: Array) -> Array:
    """Shear flow from the two moments, kN/m: root of the squares as in EN 1992-1-1 (6.43)."""
    flow_x = np.where(perimeter.exists, k_x * M_x / np.where(perimeter.exists, perimeter.W_x, 1.0), 0.0)
    flow_y = np.where(perimeter.exists, k_y * M_y / np.where(perimeter.exists, perimeter.W_y, 1.0), 0.0)
    uneven: Array = np.hypot(flow_x, flow_y)
    return uneven


def punching(
    pad: ConcretePad, record: Recorder, thin: tuple[str, ...], several: bool = False
) -> list[Outcome]:
    """Punching as the standard has it: searched over perimeters, or at one critical section; ``several``: one column of several."""
    if isinstance(pad.standard, Searching):
        return _searched(pad, pad.standard, record, thin, several)
    assert isinstance(pad.standard, AtSection)
    return _at_section(pad, pad.standard, record, thin, several)


def _top_moments(pad: ConcretePad, record: Recorder, several: bool) -> tuple[Array, Array]:
    """Moments of the column at the top of the base, kNm, and its force, recorded."""
    M_x, M_y = column_moments(pad)
    at_x, at_y = ("M_xk0", "M_yk0") if several else ("total(gamma_F*M_xk)", "total(gamma_F*M_yk)")
    if several:
        record("z_L", "", pad.geometry.load_level, "m", note="level of its loads")
    record("M_xt", f"{at_x} - (z_L - z_f - h)*H_y", M_x, "kNm", note="column, at the top of the base")
    record("M_yt", f"{at_y} + (z_L - z_f - h)*H_x", M_y, "kNm")
    force = "V_c" if several else "V_c + gamma_G*W_ped"
    record("V_col", force, pad.forces.column, "kN", note="column" if several else "column and pedestal")
    return M_x, M_y


def _at_section(
    pad: ConcretePad, standard: AtSection, record: Recorder, thin: tuple[str, ...], several: bool
) -> list[Outcome]:
    g = pad.geometry
    d = (pad.d_x + pad.d_y) / 2
    clear = clear_distances(g)
    section = critical_section(g.face[0], g.face[1], clear, d / 2)
    column, lifted = pad.forces.column, pad.forces.column <= 0.0
    inside = soil_within(pad, section)
    V = np.maximum(column - inside, 0.0)
    scope = record.scope("punching")
    M_x, M_y = _top_moments(pad, scope, several)
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
    sides = sum((d / 2 <= np.maximum(edge, 0.0) + 1e-9).astype(float) for edge in clear)
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
        note=lambda i, j: "at d/2" if section.exists[i, 0] else "no section fits within the base: one-way shear governs",
    )  # fmt: skip
    return [outcome, does_not_apply("punching-face", f"{standard.name} has no check at the face")]


def soil_within(pad: ConcretePad, section: CriticalSection) -> Array:
    """Net upward soil force within a critical section, kN, shape (candidates, situations)."""
    g, contact = pad.geometry, pad.contact
    x0, x1, y0, y1 = (np.broadcast_to(v, g.B.shape) for v in section.corners)
    x = np.stack([x0, x1, x1, x0], axis=-1) + g.offset_x[..., None]
    y = np.stack([y0, y0, y1, y1], axis=-1) + g.offset_y[..., None]
    shape = (*contact.a.shape, 4)
    pressed = pressure_over(
        np.broadcast_to(x, shape), np.broadcast_to(y, shape), contact.a, contact.b, contact.c
    ).force
    force: Array = pressed - pad.weight * section.area
    return force


def _searched(
    pad: ConcretePad, standard: Searching, record: Recorder, thin: tuple[str, ...], several: bool
) -> list[Outcome]:
    g, settings = pad.geometry, pad.settings
    d = (pad.d_x + pad.d_y) / 2
    rho = np.sqrt(
        _steel_ratio(pad.bars("bottom", "x"), pad.d_x) * _steel_ratio(pad.bars("bottom", "y"), pad.d_y)
    )
    scope = record.scope("punching")
    M_x, M_y = _top_moments(pad, scope, several)
    column = pad.forces.column
    lifted = column <= 0.0
    k_y = standard.moment_share(g.face[0] / g.face[1])
    k_x = standard.moment_share(g.face[1] / g.face[0])
    clear = clear_distances(g)
    a = standard.search_distances(d)
    around = control_perimeter(g.face[0], g.face[1], clear, a)
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
    scope("rho_lx", "", _steel_ratio(pad.bars("bottom", "x"), pad.d_x), "", note="bottom bars along x")
    scope("rho_ly", "", _steel_ratio(pad.bars("bottom", "y"), pad.d_y), "", note="bottom bars along y")
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
        return f"at {distances[candidate, column]:.2f} d"

    outcomes = [
        Outcome(
            CHECKS["punching"], at(demand), at(capacity), at(ratio), pad.situations, unstable,
            blocks=("punching perimeter",), why_not=thin, note=where, place=distances,
        )
    ]  # fmt: skip
    outcomes.append(_face(pad, standard, d, clear, M_x, M_y, k_x, k_y, scope.scope("face"), thin))
    return [replace(outcome, not_applicable=idle) for outcome in outcomes]


def _face(
    pad: ConcretePad, standard: Searching, d: Array, clear: tuple[Array, ...], M_x: Array, M_y: Array, k_x: Array, k_y: Array,
    record: Recorder, thin: tuple[str, ...],
) -> Outcome:  # fmt: skip
    g = pad.geometry
    f_x, f_y = g.face
    near_x = (clear[0] < d) | (clear[1] < d)
    near_y = (clear[2] < d) | (clear[3] < d)
    whole = 2 * (f_x + f_y)
    edge_x = np.minimum(f_y + 3 * d, f_y + 2 * f_x)
    edge_y = np.minimum(f_x + 3 * d, f_x + 2 * f_y)
    corner = np.minimum(3 * d, f_x + f_y)
    u_0 = np.where(near_x & near_y, corner, np.where(near_x, edge_x, np.where(near_y, edge_y, whole)))
    middle = pad.contact.a + pad.contact.b * g.offset_x + pad.contact.c * g.offset_y
    inside = np.minimum((np.maximum(middle, 0.0) - pad.weight) * f_x * f_y, pad.forces.column)
    V = np.maximum(pad.forces.column - inside, 0.0)
    # beta belongs to the basic control perimeter at 2d
    u_1 = whole + 4 * np.pi * d
    W_x = f_y**2 / 2 + f_x * f_y + 4 * f_x * d + 16 * d**2 + 2 * np.pi * d * f_y
    W_y = f_x**2 / 2 + f_x * f_y + 4 * f_y * d + 16 * d**2 + 2 * np.pi * d * f_x
    uneven = u_1 * np.hypot(k_x * M_x / W_x, k_y * M_y / W_y)
    demand = np.where(pad.forces.column > 0.0, (V + uneven) / u_0 / d / 1000.0, 0.0)
    limit = np.broadcast_to(
        standard.face_strength(pad.settings.concrete_strength, pad.fcd, record), demand.shape
    )
    record("p_col", "p_mid + g_x*o_x + g_y*o_y", middle, "kPa", note="soil pressure below the column")
    record("R_col", "min((max(p_col, 0) - w_d)*f_x1*f_y1, V_col)", inside, "kN")
    record("u_0", "", u_0, "m", "EN 1992-1-1 6.4.5(3)", "perimeter at the face")
    record(
        "u_1", "2*(f_x1 + f_y1) + 4*pi*d", u_1, "m", "EN 1992-1-1 6.4.2(1)", "basic control perimeter at 2d"
    )
    record("W_x", "f_y1**2/2 + f_x1*f_y1 + 4*f_x1*d + 16*d**2 + 2*pi*d*f_y1", W_x, "m²", "EN 1992-1-1 (6.41)")
    record("W_y", "f_x1**2/2 + f_x1*f_y1 + 4*f_y1*d + 16*d**2 + 2*pi*d*f_x1", W_y, "m²", "EN 1992-1-1 (6.41)")
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


def detailing(pad: ConcretePad, axis: str, record: Recorder, thin: tuple[str, ...]) -> list[Outcome]:
    """Least steel and greatest spacing of the bottom bars along an axis."""
    bars, settings = pad.bars("bottom", axis), pad.settings
    scope = record.scope(f"detailing {axis}")
    scope("d", f"d_{axis}", pad.depth(axis), "m")
    least = pad.standard.minimum_steel(
        pad.depth(axis), pad.geometry.h, settings.concrete_strength, settings.steel_strength, scope
    )
    provided = bars.area * 1e6
    scope("oe", "", bars.diameter, "m", note="bar diameter")
    scope("s", "", bars.spacing, "m", note="bar spacing")
    scope("A_s", "pi*oe**2/4/s*1e6", provided, "mm²/m", note="steel provided")
    steel = scope.scope("steel")
    steel("ratio", "A_s_min/A_s", least / provided)
    greatest = pad.standard.greatest_spacing(pad.geometry.h, scope)
    spacing = bars.spacing
    scope.scope("spacing")("ratio", "s/s_max", spacing / greatest)
    return [
        Outcome(
            CHECKS[f"minimum-{axis}"], least, provided, least / provided,
            blocks=(f"detailing {axis} steel",), why_not=thin,
        ),
        Outcome(
            CHECKS[f"spacing-{axis}"], spacing * 1000, greatest * 1000, spacing / greatest,
            blocks=(f"detailing {axis} spacing",), why_not=thin,
        ),
    ]  # fmt: skip
