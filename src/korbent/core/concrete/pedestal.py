"""Pedestals: axial force with two moments by strain compatibility, least steel, ties, slenderness."""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench, bench_for
from korbent.core.checks import CHECKS, Outcome, by_clause, cannot, does_not_apply
from korbent.core.concrete.interaction import capacity, often_by_row, surface_of
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
    M = np.hypot(M_x, M_y)
    often = often_by_row([bench.pads[i].pedestal for i in bench.index], settings, standard, N, M_x, M_y)
    lost = often <= 0
    ratio = np.where(lost, 0.0, 1 / np.maximum(often, 1e-12))
    record("N_Ed", "V_c + gamma_G*W_ped", N, "kN", note="at the top of the base")
    record("M_xp", "total(gamma_F*M_xk) - (z_L - z_f - h)*H_y", M_x, "kNm")
    record("M_yp", "total(gamma_F*M_yk) + (z_L - z_f - h)*H_x", M_y, "kNm")
    record("M_Ed", "sqrt(M_xp**2 + M_yp**2)", M, "kNm")
    record(
        "k_M",
        "",
        np.maximum(often, 1e-12),
        "",
        "interaction by strain compatibility",
        "how often the moment may grow at N",
        "N_Ed M_xp M_yp",
    )
    scope = record.scope("interaction")
    scope("ratio", "1/k_M", 1 / np.maximum(often, 1e-12))
    outcome = Outcome(
        CHECKS["pedestal"], M, np.where(lost, 0.0, M * np.minimum(often, 1e6)), ratio, situations, unresisted=lost, blocks=("interaction",),
        not_applicable=none, note=lambda i, j: "the axial force alone is too much" if lost[i, j] else f"N {N[i, j]:.0f} kN",
    )  # fmt: skip
    found = [
        outcome,
        _least_steel(bench, rules, N, none, record.scope("steel")),
        _ties(bench, standard, none, record.scope("ties")),
        _slender(bench, standard, rules, situations, N, none, record.scope("slender")),
    ]
    return [replace(o, check=by_clause(o.check, standard.clauses)) for o in found]


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
    _, Hx, Hy, Mx, My = np.moveaxis(forces.factored[0], -1, 0)
    arm = float((g.load_level - g.top)[0, 0])
    N, M_x, M_y = forces.column[0], Mx - arm * Hy, My + arm * Hx
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
    record("ratio", "A_s_min/A_sp", least / steel)
    return Outcome(
        CHECKS["pedestal-steel"], least, steel, least / steel, blocks=("steel",), not_applicable=none
    )


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
    pressed = np.maximum(N, 1e-3) / (area * rules.stress * 1000)
    record("l_p", "", length, "m", note="height above the base")
    record("b_min", "", size, "m", note="lesser size")
    record("N_Ed", "", N, "kN")
    found, limit = (np.broadcast_to(v, N.shape) for v in standard.slenderness(length, size, pressed, record))
    record("ratio", "lambda_p/lambda_lim", found / limit)
    return Outcome(
        CHECKS["pedestal-slender"], found, limit, found / limit, situations, blocks=("slender",), not_applicable=none,
        note=lambda i, j: "second-order effects are not looked at" if found[i, j] > limit[i, j] else "",
    )  # fmt: skip
