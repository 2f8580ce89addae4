"""Settlement in steps: each fault that was found, as it was reproduced; and its relatives."""

import datetime
from typing import Any

import numpy as np
import pytest

from korbent.core.checks import State
from korbent.core.evaluate import effects_of, evaluate
from korbent.core.explain.settlement import alone, flexible
from korbent.core.explain.working import working
from korbent.core.model import (
    AreaLoad,
    Borehole,
    ConstructionStep,
    Load,
    Project,
    SettlementMark,
    Soil,
    Stratum,
    Water,
    edited,
)
from korbent.core.settlement import beside, column
from korbent.core.settlement.history import PadHistory, history, mark_history
from korbent.core.settlement.over_time import cells, moments, points
from korbent.verification.pad import one_pad
from korbent.verification.settlement_construction import CLAY, ON, filled, mark

DAY = datetime.date(2027, 1, 4)


def steps(project: Project, *rows: tuple[float, dict[str, float]]) -> Project:
    found = tuple(
        ConstructionStep(name=f"s{i}", date=DAY + datetime.timedelta(days=day), factors=f)
        for i, (day, f) in enumerate(rows)
    )
    return project.replaced(actions=project.actions.replaced(steps=found))


def on_clay(V: float = 500.0, level: float = -1.2, thickness: float = 8.0, **soil: Any) -> Project:
    """A pad on clay over gravel."""
    project = one_pad(load=Load(V=V), level=level)
    own = {**CLAY, "consolidation_coefficient": 0.01, **soil}
    clay = project.ground.soils[0].replaced(name="clay", **own)
    gravel = Soil(
        name="gravel", weight=19.0, weight_saturated=21.0, friction_angle=36.0, cohesion=0.0, modulus=80_000.0
    )
    hole = Borehole(
        name="BH",
        x=0,
        y=0,
        ground_level=0.0,
        strata=(Stratum(soil="clay", thickness=thickness), Stratum(soil="gravel", thickness=20.0)),
    )
    return project.replaced(ground=project.ground.replaced(soils=(clay, gravel), boreholes=(hole,)))


def demand(project: Project, check: str = "settlement", pad: str = "P") -> float:
    return evaluate(project).pad(pad).check(check).demand or 0.0


def one(project: Project) -> PadHistory:
    found = history(project).pads[0]
    assert found.why == ""
    return found


# 1


def test_a_preload_that_is_taken_off_keeps_its_history() -> None:
    """The influence depth is that of the greatest stress of all steps, also where nothing acts in the end."""
    kept = mark(filled(ON, soil={"consolidation_coefficient": 0.01}))
    off = mark(filled(ON, (365.0, 0.0, {}), soil={"consolidation_coefficient": 0.01}))
    assert off.at(300.0) == pytest.approx(kept.at(300.0), rel=1e-9)
    assert off.at(300.0) > 0.05
    assert 0 < off.final < 0.95 * off.at(364.0)


# 2


def test_the_average_degree_does_not_explode_after_unloading() -> None:
    rows = (ON, (200.0, 0.0, {"Fill": 0.05}))
    local = mark(filled(*rows, soil={"consolidation_coefficient": 0.02}))
    simple = mark(filled(*rows, soil={"consolidation_coefficient": 0.02}, settlement_time="average_degree"))
    assert float(np.abs(simple.total).max()) < 1.1 * float(np.abs(local.total).max())
    assert simple.at(190.0) == pytest.approx(local.at(190.0), rel=0.15)


# 3, 4


@pytest.mark.parametrize("share", [1e-6, 1e-3, 0.02, -1e-6, -0.02])
def test_a_small_later_step_does_not_make_much_creep(share: float) -> None:
    creeping = {"creep_index": 0.006}
    plain = one(steps(on_clay(**creeping), (0, {"G": 1.0})))
    more = one(steps(on_clay(**creeping), (0, {"G": 1.0}), (9131, {"G": 1.0 + share})))
    assert more.final == pytest.approx(plain.final, rel=2e-7 + 1.5 * abs(share))


@pytest.mark.parametrize("rule", ["remaining_pressure", "log_time", "typed"])
def test_ledger_and_history_creep_by_one_rule(rule: str) -> None:
    project = edited(on_clay(creep_index=0.006), ("settings", "creep_from"), rule)
    assert demand(project) == pytest.approx(1000 * one(project).final, rel=1e-9)
    assert one(project).final_creep > 0.005


def test_strain_influence_creeps_by_c2_alone() -> None:
    plain = on_clay(compression="strain_influence", consolidation_coefficient=None)
    both = on_clay(compression="strain_influence", consolidation_coefficient=None, creep_index=0.006)
    assert demand(both) == pytest.approx(demand(plain), rel=1e-12)
    assert one(plain).final_creep > 0.1 * one(plain).final


def test_the_ledger_is_never_less_because_the_history_ends_early() -> None:
    """A clay that takes a century: all of primary counts, whatever the stated life."""
    slow = edited(on_clay(consolidation_coefficient=1e-5), ("settings", "settlement_years"), 1.0)
    quick = on_clay(consolidation_coefficient=1.0)
    assert demand(slow) == pytest.approx(demand(quick), rel=1e-9)
    assert one(slow).total[-1] < 0.5 * one(slow).final


# 5


def test_cells_are_few_however_a_clay_is_cut() -> None:
    project = on_clay(over_level={"undrained_strength": {"kind": "linear", "points": ((0.0, 20.0), (-20.0, 120.0))}})
    hole = project.ground.boreholes[0]
    cut = (*(Stratum(soil="clay", thickness=1.0),) * 8, hole.strata[1])
    other = project.replaced(ground=project.ground.replaced(boreholes=(hole.replaced(strata=cut),)))
    a, b = one(project), one(other)
    assert len(a.stratum) == len(b.stratum) <= 125
    for day in (30.0, 365.0, 7305.0):
        assert b.at(day) == pytest.approx(a.at(day), rel=1e-9)


def test_a_typed_permeability_stays() -> None:
    """Twice the stiffness, the same k: twice as quick."""
    soft = mark(filled(ON, soil={"compression": "mv", "compressibility": 0.4, "permeability": 1e-9}))
    stiff = mark(filled(ON, soil={"compression": "mv", "compressibility": 0.2, "permeability": 1e-9}))
    assert soft.time_to(0.5) == pytest.approx(2 * stiff.time_to(0.5), rel=1e-6)


def test_a_ratio_that_varies_drains_by_local_stiffness_without_a_jump() -> None:
    """sigma'p = sigma'v0 is OCR 1; with a margin the soft part below is the slower one."""
    clay = {"consolidation_coefficient": 0.01}
    as_ratio, as_margin = (mark(filled(ON, soil=clay | more)) for more in ({}, {"preconsolidation_margin": 0.0}))
    nearly = mark(filled(ON, soil=clay | {"preconsolidation_margin": 1e-6}))
    for day in (50.0, 400.0):
        assert as_margin.at(day) == pytest.approx(as_ratio.at(day), rel=1e-9)
        assert nearly.at(day) == pytest.approx(as_ratio.at(day), rel=1e-4)
    assert mark(filled(ON, soil=clay | {"preconsolidation_margin": 60.0})).degree(300.0) != pytest.approx(
        as_ratio.degree(300.0), rel=0.01
    )


# 6


def test_a_base_above_the_ground_presses_from_the_ground_on() -> None:
    low, high = one(on_clay(level=0.0)), one(on_clay(level=0.6))
    assert high.levels[0] == 0.0
    assert 0 < high.final < low.final


# 7


def test_the_immediate_part_is_that_of_all_loads() -> None:
    """Below a mark beside an area load, and below a base that an area load stands beside."""
    beside = mark(
        filled(
            ON,
            soil={"undrained_modulus": 15_000.0},
            load=AreaLoad(name="Fill", size_x=6.0, size_y=6.0, pressure=80.0),
        )
    )
    assert beside.final_immediate > 0.003
    wide = mark(filled(ON, soil={"undrained_modulus": 15_000.0}))
    assert wide.final_immediate == pytest.approx(0.0, abs=1e-4)  # nothing gives way sideways
    project = on_clay(undrained_modulus=15_000.0)
    fill = AreaLoad(name="Fill", x=2.0, size_x=2.0, size_y=2.4, level=-1.2, pressure=90.0)
    loaded = project.replaced(actions=project.actions.replaced(area_loads=(fill,)))
    assert one(loaded).final_immediate > 1.1 * one(project).final_immediate


# 10


def test_times_are_solved_for_and_speak_of_primary() -> None:
    found = one(on_clay(creep_index=0.006))
    for share in (0.2, 0.5, 0.9, 0.99):
        day = found.time_to(share)
        assert found.degree(day) == pytest.approx(share, abs=1e-6)
    assert found.degree(1e6) == pytest.approx(1.0, abs=1e-6)


def test_after_unloading_several_times_are_told() -> None:
    found = mark(filled(ON, (3000.0, 0.0, {"Fill": 0.2}), soil={"consolidation_coefficient": 0.02}))
    assert len(found.crossings(1.02)) >= 2
    assert found.time_to(1.02) == found.crossings(1.02)[-1]


def test_a_degree_at_a_level_comes_sooner_near_the_drain() -> None:
    found = mark(filled(ON, soil={"consolidation_coefficient": 0.01}))
    near, deep = found.time_at_level(0.9, -0.3), found.time_at_level(0.9, -5.8)
    assert near < deep
    cell = int((found.levels >= -5.8).sum() - 1)
    assert found.pore is not None
    assert float(found.pore(deep)[1][cell]) == pytest.approx(0.1 * 80.0, rel=1e-3)


# 11


def test_skemptons_coefficient_goes_with_an_immediate_part() -> None:
    bare = evaluate(on_clay(pore_pressure_coefficient=0.5)).pad("P").check("settlement")
    assert bare.state is State.CANNOT
    assert "undrained modulus Eu" in bare.message
    assert "undrained modulus Eu" in history(on_clay(pore_pressure_coefficient=0.5)).pads[0].why
    for law in ({}, {"compression": "mv", "compressibility": 0.3}):
        full, less = (
            one(on_clay(undrained_modulus=20_000.0, **law, **a)) for a in ({}, {"pore_pressure_coefficient": 0.4})
        )
        assert less.final_immediate == pytest.approx(full.final_immediate, rel=1e-9)
        assert less.final < full.final
    strip = edited(
        on_clay(undrained_modulus=20_000.0, pore_pressure_coefficient=0.4),
        ("settings", "pore_pressure_shape"),
        "strip",
    )
    assert one(strip).final > one(on_clay(undrained_modulus=20_000.0, pore_pressure_coefficient=0.4)).final


# 12


def test_a_ring_is_a_ring() -> None:
    """Below the middle of a narrow ring's width the stress falls as below a strip of that width, not as below a
    square."""
    ring = one_pad(shape="ring", width=8.0, length=8.0, hole=6.0, load=Load(V=2000.0))
    square = one_pad(width=float(np.sqrt(np.pi * 7.0)), length=float(np.sqrt(np.pi * 7.0)), load=Load(V=2000.0))
    assert demand(ring) < 0.9 * demand(square)
    tiny = one_pad(shape="ring", width=3.0, length=3.0, hole=0.02, load=Load(V=900.0))
    disc = one_pad(shape="circle", width=3.0, length=3.0, load=Load(V=900.0))
    assert demand(tiny) == pytest.approx(demand(disc), rel=0.01)


# 13


def test_ledger_and_history_agree_on_a_step_that_lowers_the_water() -> None:
    project = edited(on_clay(), ("ground", "water"), {"low": -5.0, "normal": -0.8, "high": -0.7})
    lowered = steps(project, (0, {"G": 1.0}), (500, {"G": 1.0}))
    rows = lowered.actions.steps
    lowered = lowered.replaced(actions=lowered.actions.replaced(steps=(rows[0], rows[1].replaced(water="low"))))
    assert demand(lowered) == pytest.approx(1000 * one(lowered).final, rel=1e-9)
    assert demand(lowered) > 1.1 * demand(project)


def test_heave_is_heave() -> None:
    project = edited(on_clay(V=20.0, level=-4.0), ("settings", "finished_level"), -3.4)
    found = evaluate(project).pad("P").check("settlement")
    assert (found.demand or 0) < -1.0
    assert found.ratio == pytest.approx(abs(found.demand or 0) / 25.0)
    assert "heaves" in found.message
    limited = edited(project, ("settings", "settlement_limit"), 0.001)
    assert evaluate(limited).pad("P").check("settlement").state is State.FAILS


def test_what_went_before_a_base_is_not_its_settlement() -> None:
    project = on_clay()
    fill = AreaLoad(name="Fill", size_x=30.0, size_y=30.0, level=0.0, pressure=60.0)
    project = project.replaced(actions=project.actions.replaced(area_loads=(fill,)))
    built = steps(project, (0, {"Fill": 1.0}), (300, {"Fill": 1.0, "G": 1.0}))
    found = one(built)
    assert found.at(299.0) == 0.0
    assert float(np.interp(299.0, found.times, found.earlier)) > 0.1
    assert demand(built) == pytest.approx(1000 * found.final, rel=1e-9)
    assert "before it was built" in evaluate(built).pad("P").check("settlement").message
    at_once = steps(project, (0, {"Fill": 1.0, "G": 1.0}))
    assert demand(built) < demand(at_once)


def test_a_combination_beyond_the_steps_follows_them_and_steps_without_cases_are_followed() -> None:
    """Steps that say nothing of the columns leave their sustained load to follow; a combination that asks for more is
    looked at too."""
    project = on_clay()
    fill = AreaLoad(name="Fill", x=30.0, size_x=5.0, size_y=5.0, pressure=20.0)
    project = project.replaced(actions=project.actions.replaced(area_loads=(fill,)))
    only_fill = steps(project, (0, {"Fill": 1.0}), (100, {}))
    assert demand(only_fill) == pytest.approx(1000 * one(only_fill).final, rel=1e-9)
    assert demand(only_fill) > 20.0
    less = steps(project, (0, {"G": 0.5}))
    assert evaluate(less).pad("P").check("settlement").combination == "1"
    assert demand(less) > 1000 * one(less).final
    off = steps(project, (0, {"G": 1.0}), (3000, {"G": 0.3}))
    assert evaluate(off).pad("P").check("settlement").combination == "s1"
    assert demand(off) == pytest.approx(1000 * one(off).final, rel=1e-6)


# 14, 15


def test_what_lies_below_the_influence_depth_is_said() -> None:
    project = edited(on_clay(V=150.0), ("settings", "settlement_influence"), 0.5)
    project = edited(project, ("settings", "settlement_limit"), 0.2)
    found = evaluate(project).pad("P").check("settlement")
    whole = demand(edited(project, ("settings", "settlement_influence"), 0.0))
    assert found.state is State.WARNS
    more = float(found.message.split("would settle ")[1].split()[0])
    assert (found.demand or 0) + more == pytest.approx(whole, abs=0.06)
    assert "clay lies there" in found.message


def test_a_strain_beyond_a_fifth_warns() -> None:
    found = evaluate(on_clay(V=3000.0, compression_index=1.5, recompression_index=0.2)).pad("P").check("settlement")
    assert "strained by up to" in found.message


def test_inputs_that_say_the_same_twice_are_refused() -> None:
    soil = on_clay().ground.soils[0]
    with pytest.raises(ValueError, match="say the same thing"):
        soil.replaced(overconsolidation_ratio=2.0, preconsolidation=100.0)
    with pytest.raises(ValueError, match="say the same thing"):
        soil.replaced(compression_ratio=0.2)
    with pytest.raises(ValueError, match="say the same thing"):
        soil.replaced(recompression_share=0.2)


def test_a_rigid_base_as_a_share_of_the_middle_of_a_flexible_one() -> None:
    project = on_clay()
    opened = working(project, project.pads[0], "settlement")
    middle = next(float(np.ravel(s.value)[0]) for s in opened.recording.steps if s.symbol == "s_0")  # type: ignore[union-attr]
    shared = edited(project, ("settings", "rigid_ratio"), 0.8)
    assert demand(shared) == pytest.approx(0.8 * middle, rel=0.02)
    assert demand(edited(project, ("settings", "rigid_ratio"), 1.0)) == pytest.approx(middle, rel=0.02)


def test_the_formulas_of_the_working_give_its_values() -> None:
    project = on_clay(creep_index=0.004)
    opened = working(project, project.pads[0], "settlement")
    values: dict[str, float] = {}
    steps_to = opened.recording.leading_to(opened.step)  # type: ignore[union-attr]
    for i, s in enumerate(opened.recording.steps):  # type: ignore[union-attr]
        if (s.symbol in ("s_p", "s_c") and s.unit == "mm") or (s.symbol == "s" and i in steps_to):
            values[s.symbol] = float(np.ravel(s.value)[0])
    assert values["s_p"] + values["s_c"] == pytest.approx(values["s"])
    assert values["s"] == pytest.approx(demand(project))


# 16


def test_a_tank_as_the_only_load_is_a_project() -> None:
    project = filled(load=AreaLoad(name="Fill", shape="circle", size_x=10.0, pressure=90.0))
    marks = (
        SettlementMark(name="M", limit=0.05),
        SettlementMark(name="E", x=5.0, limit=1.0),
        SettlementMark(name="D", level=-3.0),
    )
    project = project.replaced(actions=project.actions.replaced(marks=marks))
    results = evaluate(project)
    states = {c.foundation: c.state for c in results.all_checks}
    assert states == {"M": State.FAILS, "E": State.HOLDS, "D": State.NOT_APPLICABLE}
    assert not results.holds
    found, known = points(project)
    assert [own.name for own in known] == ["M", "E", "D"]
    assert known[2].levels[0] == -3.0
    rows = moments(found, known[0])
    assert rows[-1].event == "in the end"
    assert rows[-1].total == pytest.approx(1e-3 * (results.marks[0].demand or 0))
    depth = cells(known[0], 100.0)
    assert sum(c.compression for c in depth) == pytest.approx(known[0].at(100.0), rel=1e-9)
    moved = edited(project, ("actions", "area_loads", "Fill", "pressure"), 45.0)
    assert (evaluate(moved).marks[0].demand or 0) < (results.marks[0].demand or 0)


# 17


def test_one_base_never_decides_about_another_at_once() -> None:
    """A base founded below the clay that lacks Eu settles at once by its gravel, whatever stands beside it."""
    project = on_clay(thickness=2.0)
    short = project.actions.combinations[0].replaced(number=9, serves=("settlement_short",))
    point = project.actions.load_points[0]
    deep = project.pads[0].replaced(name="Q", load_point="D", level=-2.5)
    project = project.replaced(
        actions=project.actions.replaced(
            combinations=(*project.actions.combinations, short),
            load_points=(point, point.replaced(name="D", x=9.0)),
        )
    )
    both = project.replaced(pads=(project.pads[0], deep))
    for order in (both, both.replaced(pads=both.pads[::-1])):
        results = evaluate(order)
        assert results.pad("P").check("settlement-short").state is State.CANNOT
        assert results.pad("Q").check("settlement-short").state is State.HOLDS


def test_a_neighbour_that_changes_sides_turns_the_tilt() -> None:
    project = on_clay()
    point = project.actions.load_points[0]
    project = project.replaced(actions=project.actions.replaced(load_points=(point, point.replaced(name="D", x=3.0))))
    project = project.replaced(pads=(project.pads[0], project.pads[0].replaced(name="Q", load_point="D")))
    project = edited(project, ("actions", "load_points", "C", "loads", "G", "My"), 30.0)
    evaluate(project)
    other = edited(project, ("actions", "load_points", "D", "x"), -3.0)
    warm = demand(other, "tilt")
    fresh = demand(Project(**{f: getattr(other, f) for f in Project.model_fields}), "tilt")
    assert warm == pytest.approx(fresh, rel=1e-9)
    assert warm != pytest.approx(demand(project, "tilt"), rel=0.05)


def test_a_base_a_kilometre_away_is_no_neighbour() -> None:
    project = on_clay()
    point = project.actions.load_points[0]
    project = project.replaced(
        actions=project.actions.replaced(
            load_points=(point, point.replaced(name="D", x=1000.0, loads={"G": Load(V=50.0)}))
        )
    )
    project = project.replaced(pads=(project.pads[0], project.pads[0].replaced(name="Q", load_point="D")))
    found = evaluate(project).pad("P").check("slope")
    assert found.state is State.NOT_APPLICABLE
    assert "within 50 m" in found.message
    assert evaluate(edited(project, ("settings", "neighbour_reach"), 2000.0)).pad("P").check("slope").ratio is not None


@pytest.mark.long
def test_steps_are_foretold_where_the_ground_remembers() -> None:
    project = on_clay(creep_index=0.004)
    fill = AreaLoad(name="Fill", size_x=30.0, size_y=30.0, level=0.0, pressure=60.0)
    project = project.replaced(actions=project.actions.replaced(area_loads=(fill,)))
    project = steps(project, (0, {"Fill": 1.0}), (200, {}), (300, {"G": 1.0}))
    for effect in effects_of(project, project.pads[0]):
        pad = project.pads[0]
        moved = edited(project, ("pads", "P", effect.dimension), getattr(pad, effect.dimension) + effect.change)
        worst = evaluate(moved).pad("P").worst.ratio
        if effect.ratio is not None and worst is not None:
            assert effect.ratio == pytest.approx(worst, rel=0.02), effect


def test_water_without_steps_is_that_of_the_combination() -> None:
    dry = on_clay()
    wet = dry.replaced(ground=dry.ground.replaced(water=Water(low=-0.6, normal=-0.5, high=-0.4)))
    assert demand(wet) > demand(dry)
    assert demand(wet) == pytest.approx(1000 * one(wet).final, rel=1e-9)


def test_marks_stay_as_they_are_between_edits_elsewhere() -> None:
    project = filled(ON).replaced(actions=filled(ON).actions.replaced(marks=(SettlementMark(name="M"),)))
    first = evaluate(project).marks[0].demand
    renamed = project.replaced(title=project.title.replaced(project="Another"))
    assert evaluate(renamed).marks[0].demand == first
    assert mark_history(renamed, renamed.actions.marks[0]).final * 1000 == pytest.approx(first or 0.0)


def test_flexible_middle_mean_and_corner() -> None:
    """A square on the half-space: mean over middle 0.848, corner over middle one half (closed forms of the flexible
    square)."""
    project = one_pad(width=2.0, length=2.0, load=Load(V=500.0))
    project = edited(project, ("settings", "settlement_influence"), 0.0)
    hole = project.ground.boreholes[0].replaced(strata=(Stratum(soil="ground", thickness=4000.0),))
    project = project.replaced(ground=project.ground.replaced(boreholes=(hole,)))
    found = alone(project, project.pads[0])
    assert not isinstance(found, str)
    middle, mean, corner = flexible(found)
    assert corner / middle == pytest.approx(0.5, rel=2e-3)
    log = np.log(1 + np.sqrt(2))
    # the mean of a square over its middle: (ln(1 + sqrt 2) - (sqrt 2 - 1)/3) / ln(1 + sqrt 2)
    assert mean / middle == pytest.approx((log - (np.sqrt(2) - 1) / 3) / log, rel=3e-3)


@pytest.mark.parametrize("law", ["mv", "strain_influence", "oedometer"])
def test_finer_cells_move_a_thick_stratum_by_less_than_half_a_percent(
    law: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """20 m of one soil without cv, under a small and a large base: by 52 cells and by 400."""
    for size in (0.8, 6.0):
        project = one_pad(width=size, length=size, load=Load(V=140.0 * size * size))
        own = {
            "compression": law,
            "compressibility": 0.2,
            "compression_index": 0.25,
            "recompression_index": 0.04,
            "void_ratio": 0.8,
        }
        project = project.replaced(ground=project.ground.replaced(soils=(project.ground.soils[0].replaced(**own),)))
        coarse = demand(project)
        with monkeypatch.context() as patch:
            patch.setattr(column, "GROWING", 400)
            patch.setattr(column, "_known", type(column._known)())
            patch.setattr(beside, "_columns", type(beside._columns)())
            fine = demand(edited(project, ("settings", "settlement_years"), 50.0000001))
        assert coarse == pytest.approx(fine, rel=5e-3), size
