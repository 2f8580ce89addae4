"""The stability checks of a pad: sliding, overturning, uplift."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from korbent.core.actions.base_forces import BaseForces, case_loads
from korbent.core.actions.situations import Situations
from korbent.core.bearing.annex_d import effective_sizes
from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, cannot, does_not_apply, governing
from korbent.core.model.labels import label
from korbent.core.stability import sliding
from korbent.core.stability.overturning import RIM, Vertical, moments_about_edges, moments_about_rim
from korbent.core.stability.resisting import counts_passive, passive_forces, prop_forces, prop_moments
from korbent.core.stability.uplift import held_beside, uplift_forces
from korbent.core.working import Array, Recorder
from korbent.words import Message, say

DRAINED, UNDRAINED = "sliding-drained", "sliding-undrained"


def sliding_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Sliding by factored combinations, else on friction with a factor of safety."""
    situations, required = _situations(bench, "ultimate", bench.settings.factor_sliding)
    if not len(situations):
        return [cannot(c, bench.no_combination("ultimate")) for c in (DRAINED, UNDRAINED)]
    bench = bench.on_ground()
    forces = bench.forces(situations, record)
    outcomes = []
    idle = bench.idle("drained")
    if all(idle) and bench.settings.base_friction is None:
        outcomes.append(does_not_apply(DRAINED, idle))
    else:
        found = _friction(bench, situations, forces, record.scope("drained"), required)
        outcomes.append(found if bench.settings.base_friction is not None else replace(found, not_applicable=idle))
    idle = bench.idle("undrained")
    if all(idle):
        outcomes.append(does_not_apply(UNDRAINED, idle))
    elif required is not None:
        outcomes.append(does_not_apply(UNDRAINED, say("only checked with combinations that serve 'ultimate'")))
    else:
        found = _adhesion(bench, situations, forces, record.scope("undrained"))
        outcomes.append(replace(found, not_applicable=idle))
    return outcomes


def _friction(
    bench: Bench, situations: Situations, forces: BaseForces, record: Recorder, required: float | None
) -> Outcome:
    """Sliding on friction; with a required factor of safety when the combinations are unfactored."""
    settings = bench.settings
    if settings.base_friction is not None:
        why: tuple[str, ...] = ()
        tan_delta = settings.base_friction / situations.on_tan_phi
        record.given("t_delta", settings.base_friction, note=say("friction on the underside, as set"))
        record.given("gamma_phi", situations.on_tan_phi, reference="EN 1997-1 table A.4")
        record.step("t_delta_d", "t_delta/gamma_phi", tan_delta)
    else:
        why = bench.why_not("friction_angle")
        critical = settings.critical_angle
        angle = bench.soil("friction_angle") if critical is None else np.full_like(bench.geometry.B, critical)
        tan_delta = settings.friction_ratio * np.tan(np.deg2rad(angle)) / situations.on_tan_phi
        record.given(
            "k_delta",
            settings.friction_ratio,
            reference="EN 1997-1 6.5.3(10)",
            note=say("1: cast in place, 2/3: precast"),
        )
        record.given(
            "phiprime",
            angle,
            "°",
            note=say("soil below the base") if critical is None else say("critical state, as set"),
        )
        record.given("gamma_phi", situations.on_tan_phi, reference="EN 1997-1 table A.4")
        record.step("t_delta_d", "k_delta*tan(rad(phiprime))/gamma_phi", tan_delta, note="tan δd")
    if why and all(why):
        return cannot("sliding-drained", tuple(w + say(", and no base friction is set") for w in why))
    divisor = bench.on_resistance(situations, "sliding")
    record.given("gamma_Rh", divisor, reference="EN 1997-1 table A.5", note=say("on the resistance; 1/φ for the set R"))
    R = sliding.drained_resistance(forces.N, tan_delta, divisor, record)
    if settings.base_adhesion > 0.0 and required is not None:
        # EN 1997-1 6.5.3 neglects c' of the soil below: with a global factor alone
        contact = bench.geometry.footprint.contact(forces.N, forces.Mx, forces.My, record)
        eff = bench.geometry.footprint.effective(contact, forces.Hx, forces.Hy, record)
        area = np.where(contact.stable, eff.x * eff.y, 0.0)
        record.given(
            "a_b", settings.base_adhesion, "kPa", reference=say("setting"), note=say("adhesion on the effective area")
        )
        record.given(
            "A_b",
            area,
            "m²",
            note=say("effective area"),
            needs=bench.geometry.footprint.full_contact,
        )
        record.step("R_f", "R_d", R, "kN", note=say("friction alone"))
        R = R + settings.base_adhesion * area
        record.step("R_d", "R_f + a_b*A_b", R, "kN", note=say("friction and adhesion"))
    H, R, ratio, blocks = _by_direction(bench, situations, forces, R, "drained", required, record)
    return Outcome(
        CHECKS["sliding-drained"],
        H,
        R,
        ratio,
        situations,
        (R <= 0.0) & (H > 0.0),
        blocks=blocks,
        required_factor=required,
        why_not=why,
        note=_direction(blocks, len(situations)),
        because=say("nothing presses the base down"),
    )


def _direction(blocks: tuple[str, ...], count: int) -> Callable[[int, int], str]:
    def note(candidate: int, column: int) -> str:
        block = blocks[column // count]
        return str(block.values["way"]) if isinstance(block, Message) and "way" in block.values else ""

    return note


def _by_direction(
    bench: Bench,
    situations: Situations,
    forces: BaseForces,
    R: Array,
    drainage: str,
    required: float | None,
    record: Recorder,
) -> tuple[Array, Array, Array, tuple[str, ...]]:
    """(force, resistance, ratio, blocks): along the force; where faces or props resist, in the worst direction and
    along the axes."""
    H = np.hypot(forces.Hx, forces.Hy)
    H, R = np.broadcast_arrays(H, R)
    record.step("H", "sqrt(H_x**2 + H_y**2)", H, "kN", note=say("horizontal force"))
    target = required or 1.0
    record.given("F_req", target, note=say("required factor") if required else say("factors are in the combination"))
    if not counts_passive(bench) and bench.settings.prop_force == 0.0:
        ratio = np.where(R > 0.0, target * H / np.maximum(R, 1e-9), 0.0)
        record.step("ratio", "where(R_d > 0, F_req*H/max(R_d, 1e-9), 0)", ratio)
        return H, R, ratio, (label(drainage),)
    E_x, E_y = passive_forces(bench, situations, record, drainage)
    P_x, P_y = prop_forces(bench, record)
    F_x, F_y = E_x + P_x, E_y + P_y
    record.step("F_x", "E_px + P_x", F_x, "kN", note=say("what resists along x besides the underside"))
    record.step("F_y", "E_py + P_y", F_y, "kN", note=say("along y"))
    ways = (say("worst direction"), say("along x"), say("along y"))
    scopes = [record.scope(name) for name in ways]
    worst = sliding.in_worst_direction(forces.Hx, forces.Hy, R, F_x, F_y, scopes[0])
    parts = []
    for r, force, held, formulas in zip(
        scopes,
        (H, np.abs(forces.Hx), np.abs(forces.Hy)),
        (worst, R + F_x, R + F_y),
        (("H", ""), ("abs(H_x)", "R_d + F_x"), ("abs(H_y)", "R_d + F_y")),
    ):
        force, held = np.broadcast_arrays(force, held)
        ratio = np.where(held > 0.0, target * force / np.maximum(held, 1e-9), 0.0)
        r.step("H_Ed", formulas[0], force, "kN")
        if formulas[1]:
            r.step(
                "R_all",
                formulas[1],
                held,
                "kN",
                reference="EN 1997-1 (6.2)",
                note=say("with passive resistance and props"),
            )
        r.step("ratio", "where(R_all > 0, F_req*H_Ed/max(R_all, 1e-9), 0)", ratio)
        parts.append((force, held, ratio))
    force, held, ratio = (np.concatenate(found, axis=-1) for found in zip(*parts))
    return force, held, ratio, tuple(say("{drainage} {way}", drainage=label(drainage), way=way) for way in ways)


def _adhesion(bench: Bench, situations: Situations, forces: BaseForces, record: Recorder) -> Outcome:
    why = bench.why_not("undrained_strength")
    if all(why):
        return cannot(UNDRAINED, why)
    g = bench.geometry
    record.step("N", "V", forces.V, "kN", note=say("total stresses: water pressure not deducted"))
    contact = g.footprint.contact(forces.V, forces.Mx, forces.My, record)
    eff = g.footprint.effective(contact, forces.Hx, forces.Hy, record)
    _, _, area, _, _ = effective_sizes(eff.x, eff.y, eff.Hx, eff.Hy, record)
    strength = bench.undrained_strength(situations, record)
    divisor = bench.on_resistance(situations, "sliding")
    record.given("gamma_Rh", divisor, reference="EN 1997-1 table A.5", note=say("on the resistance; 1/φ for the set R"))
    R = sliding.undrained_resistance(area, strength, forces.V, bench.settings.adhesion_capped, divisor, record)
    H, R, ratio, blocks = _by_direction(bench, situations, forces, R, "undrained", None, record)
    unstable = np.tile(contact.stable, len(blocks))
    return Outcome(
        CHECKS[UNDRAINED],
        H,
        R,
        ratio,
        situations,
        ~unstable | ((R <= 0.0) & (H > 0.0)),
        blocks=blocks,
        why_not=why,
        note=_direction(blocks, len(situations)),
    )


def _situations(bench: Bench, question: str, factor: float) -> tuple[Situations, float | None]:
    """Factored situations of the question, else unfactored ones with a required factor of safety."""
    situations = bench.situations(question)
    return (situations, None) if len(situations) else (bench.situations("allowable"), factor)


def overturning_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Overturning about the four edges, by EQU combinations or by a factor of safety."""
    situations, required = _situations(bench, "EQU", bench.settings.factor_overturning)
    if not len(situations):
        return [cannot("overturning", say("no combination serves 'EQU' or 'allowable': mark one in Actions"))]
    forces = bench.forces(situations, record)
    edges = tuple(edge.name for edge in bench.geometry.footprint.edges) or (RIM,)
    about = moments_about_rim if edges == (RIM,) else moments_about_edges
    apart = None if required is None else _verticals(bench, situations)
    found = about(bench.geometry, forces, situations, record, prop_moments(bench, forces, record), apart)
    over, back = found.over, found.back
    ratio = _driving_over_holding(over, back, required, [record.scope(e) for e in edges], "M_dst", "M_stb")
    outcome = Outcome(
        CHECKS["overturning"],
        over,
        back,
        ratio,
        situations,
        (back <= 0.0) & (over > 0.0),
        blocks=edges,
        required_factor=required,
        note=lambda i, j: say("about the {edges}", edges=edges[j // len(situations)]),
        because=say("nothing stabilises the base"),
    )

    def warning(candidate: int) -> str:
        row = min(candidate, found.netted.shape[0] - 1)
        netted = bool(found.netted[row, governing(outcome, candidate)])
        return (
            say("more than half of the lateral moments cancel in this combination: make sure that they act together")
            if netted
            else ""
        )

    return [replace(outcome, warnings=warning)]


def _verticals(bench: Bench, situations: Situations) -> Vertical:
    """The vertical loads of all columns on each candidate, and where they stand."""
    g = bench.geometry
    most = max(len(points) for points in bench.standing)
    V, dx, dy = (np.zeros((len(bench.standing), most, n)) for n in (len(situations.cases), 1, 1))
    for row, points in enumerate(bench.standing):
        for k, point in enumerate(points):
            V[row, k] = case_loads(point, situations.cases)[:, 0]
            dx[row, k], dy[row, k] = point.x - points[0].x, point.y - points[0].y
    c, s = np.cos(g.rotation)[:, None], np.sin(g.rotation)[:, None]
    V, dx, dy = V[bench.index], dx[bench.index], dy[bench.index]
    return Vertical(V, g.offset_x[:, None] + c * dx + s * dy, g.offset_y[:, None] - s * dx + c * dy)


def uplift_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Uplift, by UPL combinations or by a factor of safety."""
    situations, required = _situations(bench, "UPL", bench.settings.factor_uplift)
    if not len(situations):
        return [cannot("uplift", say("no combination serves 'UPL' or 'allowable': mark one in Actions"))]
    forces = bench.forces(situations, record)
    up, hold = uplift_forces(forces, situations, record)
    hold = held_beside(bench, situations, hold, record)
    why = say("nothing lifts: no tension, no water above the underside")
    idle = tuple("" if some else why for some in up.max(axis=-1) > 0.0)
    if all(idle):
        return [does_not_apply("uplift", why)]
    ratio = _driving_over_holding(up, hold, required, [record], "V_dst", "V_stb")
    return [
        Outcome(
            CHECKS["uplift"],
            up,
            hold,
            ratio,
            situations,
            (hold <= 0.0) & (up > 0.0),
            required_factor=required,
            not_applicable=idle,
            because=say("nothing holds the base down"),
        )
    ]


def _driving_over_holding(
    driving: Array, holding: Array, required: float | None, scopes: list[Recorder], dst: str, stb: str
) -> Array:
    target = required or 1.0
    ratio = np.where(holding > 0.0, target * driving / np.maximum(holding, 1e-9), 0.0)
    for scope, part in zip(scopes, np.split(ratio, len(scopes), axis=-1)):
        scope.given("F_req", target, note=say("required factor") if required else say("factors are in the combination"))
        scope.step("ratio", f"where({stb} > 0, F_req*{dst}/max({stb}, 1e-9), 0)", part)
    return ratio
