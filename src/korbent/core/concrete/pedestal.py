"""Pedestals: axial force with two moments by strain compatibility, least steel, ties, slenderness."""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench, bench_for
from korbent.core.checks import CHECKS, Outcome, by_clause, cannot, does_not_apply
from korbent.core.concrete.interaction import axial_most, capacity, often_by_row, surface_of
from korbent.core.concrete.standard import ColumnRules, ConcreteStandard, standard_of
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad, Pedestal
from korbent.core.model.project import Project
from korbent.core.working import SILENT, Array, Recorder

IDS = ("pedestal", "pedestal-steel", "pedestal-ties", "pedestal-slender")


def pedestal_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """The pedestal under axial force and two moments at the top of the base, and its least steel."""
    standard = standard_of(bench.standards.concrete, bench.settings)
    none = tuple("" if bench.pads[i].pedestal else "there is no pedestal" for i in bench.index)
    if standard is None or all(none):
        return [
            does_not_apply(check, tuple(n or "no concrete standard is chosen" for n in none)) for check in IDS
        ]
    situations = bench.situations("concrete")
    if not len(situations):
        return [
            replace(cannot(check, bench.no_combination("concrete")), not_applicable=none) for check in IDS
        ]
    settings, g = bench.settings, bench.geometry
    rules = standard.column_rules(settings.concrete_strength, settings.steel_strength)
    forces = bench.forces(situations, record)
    _, Hx, Hy, Mx, My = np.moveaxis(forces.factored, -1, 0)
    arm = g.load_level - g.top
    N, M_x, M_y = forces.column, Mx - arm * Hy, My + arm * Hx
    sections = [bench.pads[i].pedestal for i in bench.index]
    M_x, M_y, often, about = _least_moments(bench, rules, sections, standard, N, M_x, M_y, record)
    M = np.hypot(M_x, M_y)
    ends = np.array([axial_most(s, settings, standard) if s else (-1.0, 1.0) for s in sections])
    lost = often <= 0
    alone = np.where(N >= 0, N / ends[:, 1:], N / ends[:, :1])
    ratio = np.where(lost, 0.0, np.maximum(1 / np.maximum(often, 1e-12), alone))
    record("M_Ed", "sqrt(M_xp**2 + M_yp**2)", M, "kNm")
    record(
        "k_M", "", np.maximum(often, 1e-12), "", "interaction by strain compatibility", "how often the moment may grow at N, the worse axis", "N_Ed M_xp M_yp",
    )  # fmt: skip
    record(
        "N_R",
        "",
        np.where(N >= 0, ends[:, 1:], ends[:, :1]),
        "kN",
        note="axial force that it resists without moment",
        needs="N_Ed",
    )
    scope = record.scope("interaction")
    scope("ratio", "max(1/k_M, N_Ed/N_R)", np.maximum(1 / np.maximum(often, 1e-12), alone))
    outcome = Outcome(
        CHECKS["pedestal"], M, np.where(lost, 0.0, M / np.maximum(ratio, 1e-6)), ratio, situations, unresisted=lost, blocks=("interaction",),
        not_applicable=none, note=lambda i, j: "the axial force alone is too much" if lost[i, j] else f"N {N[i, j]:.0f} kN{about(i, j)}",
    )  # fmt: skip
    found = [
        outcome,
        _least_steel(bench, rules, N, none, record.scope("steel")),
        _ties(bench, standard, none, record.scope("ties")),
        _slender(bench, standard, rules, situations, N, none, record.scope("slender")),
    ]
    return [replace(o, check=by_clause(o.check, standard.clauses)) for o in found]


def _least_moments(
    bench: Bench, rules: ColumnRules, sections: list[Pedestal | None], standard: ConcreteStandard, N: Array, M_x: Array, M_y: Array, record: Recorder,
) -> tuple[Array, Array, Array, Callable[[int, int], str]]:  # fmt: skip
    """(M_x, M_y, how often they may grow, words) with the least eccentricity of the axial force about one axis at a time, the worse."""
    e_x, e_y = (
        rules.least_eccentricity(_of_pedestals(bench, pick))
        for pick in (lambda p: p.size_y, lambda p: p.size_x)
    )
    pressed = np.maximum(N, 0.0)
    more_x = np.where(M_x < 0, -1.0, 1.0) * np.maximum(np.abs(M_x), pressed * e_x)
    more_y = np.where(M_y < 0, -1.0, 1.0) * np.maximum(np.abs(M_y), pressed * e_y)
    first, second = (
        often_by_row(sections, bench.settings, standard, N, x, y) for x, y in ((more_x, M_y), (M_x, more_y))
    )
    by_x = first <= second
    raised = np.where(by_x, more_x != M_x, more_y != M_y)
    record("N_Ed", "V_c + gamma_G*W_ped", N, "kN", note="at the top of the base")
    record("M_xc", "total(gamma_F*M_xk) - (z_L - z_f - h)*H_y", M_x, "kNm")
    record("M_yc", "total(gamma_F*M_yk) + (z_L - z_f - h)*H_x", M_y, "kNm")
    record("e_x0", "", e_x, "m", rules.eccentricity_clause, "least eccentricity, for moments about x")
    record("e_y0", "", e_y, "m", rules.eccentricity_clause, "for moments about y")
    record(
        "k_ax",
        "",
        np.where(by_x, 1.0, 0.0),
        "",
        "",
        "1: the least eccentricity counts about x, else about y; the worse",
        "N_Ed e_x0 e_y0",
    )
    worst_x, worst_y = np.where(by_x, more_x, M_x), np.where(by_x, M_y, more_y)
    sign = "where({m} < 0, -1, 1)*max(abs({m}), max(N_Ed, 0)*{e})"
    record("M_xp", f"where(k_ax > 0.5, {sign.format(m='M_xc', e='e_x0')}, M_xc)", worst_x, "kNm")
    record("M_yp", f"where(k_ax > 0.5, M_yc, {sign.format(m='M_yc', e='e_y0')})", worst_y, "kNm")

    def about(candidate: int, column: int) -> str:
        return ", least eccentricity" if raised[candidate, column] else ""

    return worst_x, worst_y, np.minimum(first, second), about


@dataclass(frozen=True)
class Line:
    """The resistance through the acting moment direction, and the situations as points. kN, kNm."""

    N: Array
    M: Array
    acting_N: Array
    acting_M: Array
    labels: tuple[str, ...]
    direction: float
    """Of the moment, degrees from a moment that turns towards +x."""


def interaction_line(project: Project, pad: Pad) -> Line | None:
    """For a drawing; None where the pad has no pedestal or nothing to check it by."""
    standard = standard_of(project.standards.concrete, project.settings_of(pad))
    if pad.pedestal is None or standard is None:
        return None
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations("concrete")
    if not len(situations):
        return None
    settings, g = bench.settings, bench.geometry
    forces = bench.forces(situations, SILENT)
    _, Hx, Hy, Mx, My = np.moveaxis(forces.factored, -1, 0)
    arm = g.load_level - g.top
    rules = standard.column_rules(settings.concrete_strength, settings.steel_strength)
    least = _least_moments(
        bench, rules, [pad.pedestal], standard, forces.column, Mx - arm * Hy, My + arm * Hx, SILENT
    )
    N, M_x, M_y = forces.column[0], least[0][0], least[1][0]
    surface = surface_of(pad.pedestal, settings, standard)
    often = capacity(surface, N, M_x, M_y)
    worst = int(np.argmin(often))
    angle = float(np.arctan2(M_x[worst], M_y[worst]))
    levels = np.linspace(float(surface.N.min(axis=1).max()), float(surface.N.max(axis=1).min()), 61)[1:-1]
    there = capacity(
        surface, levels, np.full_like(levels, np.sin(angle)), np.full_like(levels, np.cos(angle))
    )
    labels = tuple(situations.label(i) for i in range(len(situations)))
    return Line(levels, there, N, np.hypot(M_x, M_y), labels, float(np.rad2deg(angle)))


def _least_steel(
    bench: Bench, rules: ColumnRules, N: Array, none: tuple[str, ...], record: Recorder
) -> Outcome:
    steel = np.array(
        [
            p.pedestal.bars * np.pi * p.pedestal.diameter**2 / 4 * 1e6 if p.pedestal else 1.0
            for p in bench.pads
        ]
    )[bench.index][:, None]
    gross = np.array(
        [p.pedestal.size_x * p.pedestal.size_y * 1e6 if p.pedestal else 0.0 for p in bench.pads]
    )[bench.index][:, None]
    pressing = np.maximum(N, 0.0).max(axis=-1, keepdims=True)
    least = np.maximum(rules.least_share * gross, rules.least_force * pressing * 1000 / rules.yield_stress)
    record("A_c", "", gross, "mm²", note="section of the pedestal")
    record("A_sp", "", steel, "mm²", note="its bars")
    record("N_max", "", pressing, "kN", note="greatest axial force")
    record(
        "A_s_min",
        f"max({rules.least_share}*A_c, {rules.least_force}*N_max*1000/{rules.yield_stress})",
        least,
        "mm²",
        rules.least_clause,
    )
    most = rules.most_share * gross
    record("A_s_max", f"{rules.most_share}*A_c", most, "mm²", rules.most_clause)
    too_much = steel / np.maximum(most, 1e-9) > least / steel
    ratio = np.maximum(least / steel, steel / np.maximum(most, 1e-9) * (gross > 0))
    record("ratio", "max(A_s_min/A_sp, A_sp/A_s_max)", ratio)
    return Outcome(
        CHECKS["pedestal-steel"], np.where(too_much, steel, least), np.where(too_much, most, steel), ratio, blocks=("steel",), not_applicable=none,
        note=lambda i, j: "more steel than the section may have" if too_much[i, 0] else "",
    )  # fmt: skip


def _of_pedestals(bench: Bench, pick: Callable[[Pedestal], float]) -> Array:
    """A number of each candidate's pedestal, (candidates, 1); 1 where there is none."""
    return np.array([pick(p.pedestal) if p.pedestal else 1.0 for p in bench.pads])[bench.index][:, None]


def _ties(bench: Bench, standard: ConcreteStandard, none: tuple[str, ...], record: Recorder) -> Outcome:
    """Spacing and diameter of the ties, the worse of both."""
    diameter, tie = _of_pedestals(bench, lambda p: p.diameter), _of_pedestals(bench, lambda p: p.tie_diameter)
    spacing = _of_pedestals(bench, lambda p: p.tie_spacing)
    size = _of_pedestals(bench, lambda p: min(p.size_x, p.size_y))
    record("oe", "", diameter, "m", note="bars of the pedestal")
    record("oe_t", "", tie, "m", note="ties")
    record("s_t", "", spacing, "m", note="from tie to tie")
    record("b_min", "", size, "m", note="lesser size")
    least, greatest = standard.ties(diameter, tie, size, record)
    ratio = np.maximum(spacing / greatest, least / tie)
    record("ratio", "max(s_t/s_max, oe_min/oe_t)", ratio)
    thin = least / tie > spacing / greatest
    return Outcome(
        CHECKS["pedestal-ties"], 1000 * np.where(thin, least, spacing), 1000 * np.where(thin, tie, greatest), ratio, blocks=("ties",),
        not_applicable=none, note=lambda i, j: "diameter" if thin[i, 0] else "spacing",
    )  # fmt: skip


def _slender(
    bench: Bench, standard: ConcreteStandard, rules: ColumnRules, situations: Situations, N: Array, none: tuple[str, ...], record: Recorder
) -> Outcome:  # fmt: skip
    """Up to its limit second-order effects are left out; beyond it nothing here looks at them."""
    size = _of_pedestals(bench, lambda p: min(p.size_x, p.size_y))
    area = _of_pedestals(bench, lambda p: p.size_x * p.size_y)
    length = np.maximum(_of_pedestals(bench, lambda p: p.top) - bench.geometry.top, 1e-3)
    # the force that acts on a pedestal in tension does not bend it further
    strength = _of_pedestals(
        bench, lambda p: bench.settings.concrete_strength if p.strength is None else p.strength
    )
    pressed = np.maximum(N, 1e-3) / (area * rules.stress * strength / bench.settings.concrete_strength * 1000)
    record("l_p", "", length, "m", note="height above the base")
    record("b_min", "", size, "m", note="lesser size")
    record("N_Ed", "", N, "kN")
    found, limit = (np.broadcast_to(v, N.shape) for v in standard.slenderness(length, size, pressed, record))
    record("ratio", "lambda_p/lambda_lim", found / limit)
    return Outcome(
        CHECKS["pedestal-slender"], found, limit, found / limit, situations, blocks=("slender",), not_applicable=none,
        note=lambda i, j: "second-order effects are not looked at" if found[i, j] > limit[i, j] else "",
    )  # fmt: skip
