"""Pedestals: axial force with two moments by strain compatibility, least steel, ties, slenderness."""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench, bench_for
from korbent.core.checks import CHECKS, Outcome, by_clause, cannot, does_not_apply
from korbent.core.concrete.interaction import axial_most, capacity, often_by_row, surface_of
from korbent.core.concrete.several import Column, columns_of, together
from korbent.core.concrete.standards.protocol import Around, ColumnRules, ConcreteStandard
from korbent.core.concrete.standards.registry import standard_of
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad, Pedestal
from korbent.core.model.project import Project
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

IDS = ("pedestal", "pedestal-steel", "pedestal-ties", "pedestal-slender")


@dataclass(frozen=True)
class Under:
    """The pedestals under one column of each base, and what acts on them at the top of the base, (candidates,
    situations)."""

    sections: list[Pedestal | None]
    """By candidate."""
    N: Array
    M_x: Array
    M_y: Array

    def of(self, pick: Callable[[Pedestal], float]) -> Array:
        """A number of each candidate's pedestal, (candidates, 1); 1 where there is none."""
        return np.array([pick(s) if s else 1.0 for s in self.sections])[:, None]


def pedestal_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """The pedestal under each column under axial force and two moments at the top of the base, its steel, its ties, its
    slenderness."""
    standard = standard_of(bench.standards.concrete, bench.settings)
    none = tuple("" if bench.pads[i].all_pedestals else say("there is no pedestal") for i in bench.index)
    if standard is None or all(none):
        return [does_not_apply(check, tuple(n or say("no concrete standard is chosen") for n in none)) for check in IDS]
    situations = bench.situations("concrete")
    if not len(situations):
        return [replace(cannot(check, bench.no_combination("concrete")), not_applicable=none) for check in IDS]
    if len(bench.standing[0]) == 1:
        found = _checks(bench, standard, situations, _under(bench, situations, record), record)
    else:
        by_check: dict[str, list[tuple[Column, Outcome]]] = {}
        for k, column in enumerate(columns_of(bench, situations)):
            scope = record.scope(column.name)
            for outcome in _checks(bench, standard, situations, _under_column(bench, column, k, scope), scope):
                by_check.setdefault(outcome.check.id, []).append((column, outcome))
        found = [replace(together(check, parts, situations), not_applicable=none) for check, parts in by_check.items()]
    return [replace(o, check=by_clause(o.check, standard.clauses)) for o in found]


def _under(bench: Bench, situations: Situations, record: Recorder) -> Under:
    """Of bases under one column."""
    g, forces = bench.geometry, bench.alone.forces(situations, record)
    _, Hx, Hy, Mx, My = np.moveaxis(forces.factored, -1, 0)
    arm = g.load_level - g.top
    N, M_x, M_y = forces.column, Mx - arm * Hy, My + arm * Hx
    record.step("N_Ed", "V_c + gamma_G*W_ped", N, "kN", note=say("at the top of the base"))
    record.step("M_xc", "total(gamma_F*M_xk) - (z_L - z_f - h)*H_y", M_x, "kNm")
    record.step("M_yc", "total(gamma_F*M_yk) + (z_L - z_f - h)*H_x", M_y, "kNm")
    return Under([bench.pads[i].pedestal for i in bench.index], N, M_x, M_y)


def _under_column(bench: Bench, column: Column, k: int, record: Recorder) -> Under:
    """Of bases under several columns: the pedestal of one of them."""
    g = bench.geometry
    N, Hx, Hy, Mx, My = np.moveaxis(column.loads, -1, 0)
    arm = column.level - g.top
    M_x, M_y = Mx - arm * Hy, My + arm * Hx
    record.given("z_t", g.top, "m", note=say("top of the base"))
    record.given("z_L", column.level, "m", note=say("level of its loads"))
    for symbol, at, unit in (("H_x", 1, "kN"), ("H_y", 2, "kN"), ("M_xk0", 3, "kNm"), ("M_yk0", 4, "kNm")):
        record.given(symbol, column.loads[..., at], unit, note=say("{column}, factored", column=column.name))
    record.given(
        "N_Ed", N, "kN", note=say("{column} with its pedestal, factored, at the top of the base", column=column.name)
    )
    record.step("M_xc", "M_xk0 - (z_L - z_t)*H_y", M_x, "kNm")
    record.step("M_yc", "M_yk0 + (z_L - z_t)*H_x", M_y, "kNm")
    sections = [bench.pads[i].pedestal_under(bench.standing[i][k].name) for i in bench.index]
    return Under(sections, N, M_x, M_y)


def _checks(
    bench: Bench, standard: ConcreteStandard, situations: Situations, under: Under, record: Recorder
) -> list[Outcome]:
    """All checks of the pedestals under one column of each base."""
    none = tuple("" if section else say("there is no pedestal") for section in under.sections)
    settings = bench.settings
    if all(none):
        return [does_not_apply(check, none) for check in IDS]
    rules = standard.column_rules(settings.concrete_strength, settings.steel_strength)
    N = under.N
    M_x, M_y, often, about = _least_moments(bench, rules, under, standard, record)
    M = np.hypot(M_x, M_y)
    each = {
        id(s): axial_most(s, settings, standard) if s else (-1.0, 1.0)
        for s in {id(s): s for s in under.sections}.values()
    }
    ends = np.array([each[id(s)] for s in under.sections])
    lost = often <= 0
    alone = np.where(N >= 0, N / ends[:, 1:], N / ends[:, :1])
    ratio = np.where(lost, 0.0, np.maximum(1 / np.maximum(often, 1e-12), alone))
    record.step("M_Ed", "sqrt(M_xp**2 + M_yp**2)", M, "kNm")
    record.given(
        "k_M",
        np.maximum(often, 1e-12),
        reference=say("interaction by strain compatibility"),
        note=say("how often the moment may grow at N, the worse axis"),
        needs="N_Ed M_xp M_yp",
    )
    record.given(
        "N_R",
        np.where(N >= 0, ends[:, 1:], ends[:, :1]),
        "kN",
        note=say("axial force that it resists without moment"),
        needs="N_Ed",
    )
    odd = [s is not None and not s.is_round and s.bars % 2 == 1 for s in under.sections]
    scope = record.scope("interaction")
    scope.step("ratio", "max(1/k_M, N_Ed/N_R)", np.maximum(1 / np.maximum(often, 1e-12), alone))
    outcome = Outcome(
        CHECKS["pedestal"],
        M,
        np.where(lost, 0.0, M / np.maximum(ratio, 1e-6)),
        ratio,
        situations,
        unresisted=lost,
        blocks=(say("interaction"),),
        not_applicable=none,
        note=lambda i, j: (
            say("the axial force alone is too much")
            if lost[i, j]
            else say(
                "N {N:.0f} kN{about}{value}",
                N=N[i, j],
                about=about(i, j),
                value=say(", the odd bar not counted") if odd[i] else "",
            )
        ),
    )
    return [
        outcome,
        _least_steel(rules, under, none, record.scope("steel")),
        _ties(bench, under, standard, none, record.scope("ties")),
        _slender(bench, under, standard, rules, situations, none, record.scope("slender")),
    ]


def _least_moments(
    bench: Bench, rules: ColumnRules, under: Under, standard: ConcreteStandard, record: Recorder
) -> tuple[Array, Array, Array, Callable[[int, int], str]]:
    """(M_x, M_y, how often they may grow, words) with the least eccentricity of the axial force about one axis at a
    time, the worse."""
    sections, N, M_x, M_y = under.sections, under.N, under.M_x, under.M_y
    e_x, e_y = (rules.least_eccentricity(under.of(pick)) for pick in (lambda p: p.size_y, lambda p: p.size_x))
    pressed = np.maximum(N, 0.0)
    more_x = np.where(M_x < 0, -1.0, 1.0) * np.maximum(np.abs(M_x), pressed * e_x)
    more_y = np.where(M_y < 0, -1.0, 1.0) * np.maximum(np.abs(M_y), pressed * e_y)
    # both axes at once
    both_x, both_y = np.concatenate([more_x, M_x], axis=-1), np.concatenate([M_y, more_y], axis=-1)
    often = often_by_row(sections, bench.settings, standard, np.concatenate([N, N], axis=-1), both_x, both_y)
    first, second = np.split(often, 2, axis=-1)
    by_x = first <= second
    raised = np.where(by_x, more_x != M_x, more_y != M_y)
    record.given(
        "e_x0", e_x, "m", reference=rules.eccentricity_clause, note=say("least eccentricity, for moments about x")
    )
    record.given("e_y0", e_y, "m", reference=rules.eccentricity_clause, note=say("for moments about y"))
    record.given(
        "k_ax",
        np.where(by_x, 1.0, 0.0),
        note=say("1: the least eccentricity counts about x, else about y; the worse"),
        needs="N_Ed e_x0 e_y0",
    )
    worst_x, worst_y = np.where(by_x, more_x, M_x), np.where(by_x, M_y, more_y)
    sign = "where({m} < 0, -1, 1)*max(abs({m}), max(N_Ed, 0)*{e})"
    record.step("M_xp", f"where(k_ax > 0.5, {sign.format(m='M_xc', e='e_x0')}, M_xc)", worst_x, "kNm")
    record.step("M_yp", f"where(k_ax > 0.5, M_yc, {sign.format(m='M_yc', e='e_y0')})", worst_y, "kNm")

    def about(candidate: int, column: int) -> str:
        return say(", least eccentricity") if raised[candidate, column] else ""

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


def interaction_line(project: Project, pad: Pad, column: str = "") -> Line | None:
    """For a drawing: of the pedestal under one of the columns, the first one that has any where none is named; None
    where there is none, or nothing to check it by."""
    standard = standard_of(project.standards.concrete, project.settings_of(pad))
    column = column or next(iter(pad.all_pedestals), "")
    pedestal = pad.pedestal_under(column)
    if pedestal is None or standard is None:
        return None
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations("concrete")
    if not len(situations):
        return None
    settings = bench.settings
    if pad.further:
        k = pad.carries.index(column)
        under = _under_column(bench, columns_of(bench, situations)[k], k, SILENT)
    else:
        under = _under(bench, situations, SILENT)
    rules = standard.column_rules(settings.concrete_strength, settings.steel_strength)
    least = _least_moments(bench, rules, under, standard, SILENT)
    N, M_x, M_y = under.N[0], least[0][0], least[1][0]
    surface = surface_of(pedestal, settings, standard)
    often = capacity(surface, N, M_x, M_y)
    worst = int(np.argmin(often))
    angle = float(np.arctan2(M_x[worst], M_y[worst]))
    levels = np.linspace(float(surface.N.min(axis=1).max()), float(surface.N.max(axis=1).min()), 61)[1:-1]
    there = capacity(surface, levels, np.full_like(levels, np.sin(angle)), np.full_like(levels, np.cos(angle)))
    labels = tuple(situations.label(i) for i in range(len(situations)))
    return Line(levels, there, N, np.hypot(M_x, M_y), labels, float(np.rad2deg(angle)))


def _least_steel(rules: ColumnRules, under: Under, none: tuple[str, ...], record: Recorder) -> Outcome:
    steel = under.of(lambda p: p.bars * np.pi * p.diameter**2 / 4 * 1e6)
    gross, N = under.of(lambda p: p.area * 1e6), under.N
    pressing = np.maximum(N, 0.0).max(axis=-1, keepdims=True)
    least = np.maximum(rules.least_share * gross, rules.least_force * pressing * 1000 / rules.yield_stress)
    record.given("A_c", gross, "mm²", note=say("section of the pedestal"))
    record.given("A_sp", steel, "mm²", note=say("its bars"))
    record.given("N_max", pressing, "kN", note=say("greatest axial force"))
    record.step(
        "A_s_min",
        f"max({rules.least_share}*A_c, {rules.least_force}*N_max*1000/{rules.yield_stress})",
        least,
        "mm²",
        reference=rules.least_clause,
    )
    most = rules.most_share * gross
    record.step("A_s_max", f"{rules.most_share}*A_c", most, "mm²", reference=rules.most_clause)
    too_much = steel / np.maximum(most, 1e-9) > least / steel
    ratio = np.maximum(least / steel, steel / np.maximum(most, 1e-9) * (gross > 0))
    record.step("ratio", "max(A_s_min/A_sp, A_sp/A_s_max)", ratio)
    return Outcome(
        CHECKS["pedestal-steel"],
        np.where(too_much, steel, least),
        np.where(too_much, most, steel),
        ratio,
        blocks=(say("steel"),),
        not_applicable=none,
        note=lambda i, j: say("more steel than the section may have") if too_much[i, 0] else "",
    )


def _ties(bench: Bench, under: Under, standard: ConcreteStandard, none: tuple[str, ...], record: Recorder) -> Outcome:
    """Spacing and diameter of the ties or the spiral, the worst of all."""
    settings = bench.settings
    around = Around(
        under.of(lambda p: p.diameter),
        under.of(lambda p: p.tie_diameter),
        under.of(lambda p: p.tie_spacing),
        under.of(lambda p: min(p.size_x, p.size_y)),
        under.of(lambda p: settings.concrete_cover if p.cover is None else p.cover),
        under.of(lambda p: p.bars),
        under.of(lambda p: float(p.around == "spiral")),
    )
    record.given("oe", around.bar, "m", note=say("bars of the pedestal"))
    record.given("oe_t", around.tie, "m", note=say("ties"))
    record.given("s_t", around.spacing, "m", note=say("from tie to tie"))
    record.given("b_min", around.size, "m", note=say("lesser size"))
    record.given("k_sp", around.spiral, note=say("1: a spiral"))
    least, greatest, more = standard.ties(around, settings.concrete_strength, settings.steel_strength, record)
    apart, thin = around.spacing / greatest, least / around.tie
    ratio = np.maximum(np.maximum(apart, thin), more)
    record.given("k_other", more, note=say("clear distance, share and bars of a spiral, worst ratio"))
    record.step("ratio", "max(max(s_t/s_max, oe_min/oe_t), k_other)", ratio)
    demand = np.where(more >= ratio, more, 1000 * np.where(thin > apart, least, around.spacing))
    limit = np.where(more >= ratio, 1.0, 1000 * np.where(thin > apart, around.tie, greatest))

    def note(candidate: int, _: int) -> str:
        a, t, m = apart[candidate, 0], thin[candidate, 0], more[candidate, 0]
        return (
            say("clear distance, share or bars of the spiral")
            if m >= max(a, t)
            else say("diameter")
            if t > a
            else say("spacing")
        )

    return Outcome(CHECKS["pedestal-ties"], demand, limit, ratio, blocks=(say("ties"),), not_applicable=none, note=note)


def _slender(
    bench: Bench,
    under: Under,
    standard: ConcreteStandard,
    rules: ColumnRules,
    situations: Situations,
    none: tuple[str, ...],
    record: Recorder,
) -> Outcome:
    """Up to its limit second-order effects are left out; beyond it nothing here looks at them."""
    size, N = under.of(lambda p: min(p.size_x, p.size_y)), under.N
    area, is_round = under.of(lambda p: p.area), under.of(lambda p: float(p.is_round))
    length = np.maximum(under.of(lambda p: p.top) - bench.geometry.top, 1e-3)
    # the force that acts on a pedestal in tension does not bend it further
    strength = under.of(lambda p: bench.settings.concrete_strength if p.strength is None else p.strength)
    pressed = np.maximum(N, 1e-3) / (area * rules.stress * strength / bench.settings.concrete_strength * 1000)
    record.given("l_p", length, "m", note=say("height above the base"))
    record.given("b_min", size, "m", note=say("lesser size, or the diameter"))
    record.given("k_o", is_round, note=say("1: round"))
    record.given("N_Ed", N, "kN")
    found, limit = (np.broadcast_to(v, N.shape) for v in standard.slenderness(length, size, is_round, pressed, record))
    record.step("ratio", "lambda_p/lambda_lim", found / limit)
    return Outcome(
        CHECKS["pedestal-slender"],
        found,
        limit,
        found / limit,
        situations,
        blocks=(say("slender"),),
        not_applicable=none,
        note=lambda i, j: say("second-order effects are not looked at") if found[i, j] > limit[i, j] else "",
    )
