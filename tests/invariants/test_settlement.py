"""What must not matter to a settlement, on random projects; and what must agree."""

import datetime

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from korbent.core.cache import forget_all
from korbent.core.evaluate import evaluate
from korbent.core.model import ConstructionStep, Load, Project, SettlementMark, Stratum, edited
from korbent.core.settlement.history import history, mark_history
from tests.conftest import EXAMPLES
from tests.invariants.plans import mirrored, moved, random_project, turned

CHECKS = ("settlement", "slope", "relative-rotation", "tilt")
seeds = st.integers(0, 10_000)
few = settings(max_examples=EXAMPLES // 2)


def found(project: Project) -> dict[tuple[str, str], float]:
    """What the checks of settlement demand, by pad."""
    results = evaluate(project)
    values = {(p.name, c): p.check(c).demand for p in results.pads for c in CHECKS}
    return {key: value for key, value in values.items() if value is not None}


def same(a: Project, b: Project, rel: float, least: float = 2e-3) -> None:
    one, two = found(a), found(b)
    assert one.keys() == two.keys()
    assert one
    for key, value in one.items():
        assert two[key] == pytest.approx(value, rel=rel, abs=least), key


@few
@given(seeds, st.booleans())
def test_the_ledger_ends_where_the_history_ends(seed: int, unload: bool) -> None:
    project = random_project(seed, unload)
    results, over_time = evaluate(project), history(project)
    for pad in over_time.pads:
        assert pad.why == ""
        assert results.pad(pad.name).check("settlement").demand == pytest.approx(1000 * pad.final, rel=1e-6, abs=1e-6)


@few
@given(seeds, st.integers(0, 2), st.floats(0.1, 0.9), st.booleans())
def test_cutting_a_stratum_in_two_changes_nothing(seed: int, which: int, share: float, unload: bool) -> None:
    project = random_project(seed, unload)

    def cut(strata: tuple[Stratum, ...]) -> tuple[Stratum, ...]:
        own = strata[which]
        parts = (
            own.replaced(thickness=share * own.thickness),
            own.replaced(thickness=(1 - share) * own.thickness),
        )
        return (*strata[:which], *parts, *strata[which + 1 :])

    holes = tuple(h.replaced(strata=cut(h.strata)) for h in project.ground.boreholes)
    other = project.replaced(ground=project.ground.replaced(boreholes=holes))
    same(project, other, 1e-6)
    for a, b in zip(history(project).pads, history(other).pads):
        assert b.at(200.0) == pytest.approx(a.at(200.0), rel=1e-6, abs=1e-8)


@few
@given(seeds, st.floats(-30.0, 30.0))
def test_the_datum_changes_nothing(seed: int, levels: float) -> None:
    project = random_project(seed)
    same(project, moved(project, levels), 1e-3)


@few
@given(seeds)
def test_a_line_of_strength_over_level_changes_no_settlement(seed: int) -> None:
    project = random_project(seed)
    line = {"undrained_strength": {"kind": "linear", "points": ((0.0, 30.0), (-12.0, 90.0))}}
    soils = tuple(s.replaced(over_level=line) for s in project.ground.soils)
    other = project.replaced(ground=project.ground.replaced(soils=soils))
    same(project, other, 1e-6)
    assert len(history(other).pads[0].stratum) == len(history(project).pads[0].stratum)


@few
@given(seeds, st.booleans())
def test_the_order_of_bases_and_boreholes_changes_nothing(seed: int, unload: bool) -> None:
    project = random_project(seed, unload)
    other = project.replaced(
        pads=project.pads[::-1], ground=project.ground.replaced(boreholes=project.ground.boreholes[::-1])
    )
    same(project, other, 1e-9, 1e-9)


@pytest.mark.long
@few
@given(seeds)
def test_mirrored_and_turned_plans_give_the_same(seed: int) -> None:
    project = random_project(seed)
    same(project, mirrored(project), 1e-6, 1e-6)
    same(project, turned(project), 1e-6, 1e-6)


@few
@given(seeds, st.sampled_from((1e-7, -1e-7)), st.integers(30, 12_000))
def test_a_step_that_vanishes_changes_nothing(seed: int, share: float, later: int) -> None:
    """Another step, after all others, with hardly more or less: at every moment the same, and in the end."""
    project = random_project(seed, one_day=True)
    if not project.actions.steps:
        return
    last, first = project.actions.steps[-1], project.actions.steps[0]
    later = min(
        later, int(365 * project.settings.settlement_years) - (last.date - first.date).days - 5
    )  # within the stated life
    factors = {name: factor * (1 + share) for name, factor in last.factors.items()}
    step = ConstructionStep(name="hardly", date=last.date + datetime.timedelta(days=later), factors=factors)
    other = project.replaced(actions=project.actions.replaced(steps=(*project.actions.steps, step)))
    for a, b in zip(history(project).pads, history(other).pads):
        assert b.final == pytest.approx(a.final, rel=2e-5, abs=2e-7)
        for day in (later / 2, later + 40.0, later + 4000.0):
            if day < a.times[-1]:
                assert b.at(day) == pytest.approx(a.at(day), rel=1.5e-2, abs=5e-5)


@few
@given(seeds, st.integers(0, 2))
def test_a_step_made_of_two_at_one_date_is_both(seed: int, which: int) -> None:
    """A base made of what two cases bring on one day settles as under one case that brings both."""
    project = random_project(seed, one_day=True)
    points = tuple(p.replaced(loads={"G": p.loads["G"]}) for p in project.actions.load_points)
    whole = tuple(
        p.replaced(
            loads={
                "G": Load(V=p.loads["G"].V / 2, Mx=p.loads["G"].Mx / 2, My=p.loads["G"].My / 2),
                "Q": Load(V=p.loads["G"].V / 2, Mx=p.loads["G"].Mx / 2, My=p.loads["G"].My / 2),
            }
        )
        for p in points
    )
    rows = (("a", 0, {"G": 1.0}),) if which else (("a", 0, {"Fill": 1.0}), ("b", 90, {"Fill": 1.0, "G": 1.0}))

    def with_(rows_: tuple[tuple[str, int, dict[str, float]], ...], columns: tuple) -> Project:  # type: ignore[type-arg]
        start = datetime.date(2027, 1, 4)
        steps = tuple(ConstructionStep(name=n, date=start + datetime.timedelta(days=d), factors=f) for n, d, f in rows_)
        combination = project.actions.combinations[0].replaced(
            factors=dict(rows_[-1][2])
            if "Fill" not in rows_[-1][2]
            else {k: v for k, v in rows_[-1][2].items() if k != "Fill"}
        )
        return project.replaced(
            actions=project.actions.replaced(load_points=columns, steps=steps, combinations=(combination,))
        )

    one = with_(rows, points)
    two = with_(tuple((n, d, {**f, "Q": 1.0} if "G" in f else f) for n, d, f in rows), whole)
    same(one, two, 1e-9, 1e-9)


@pytest.mark.long
@few
@given(seeds, st.integers(0, 2**30))
def test_warm_equals_fresh(seed: int, edits: int) -> None:
    """After a row of edits the results that were kept are those of a start from nothing."""
    project = random_project(seed, unload=bool(edits % 2))
    evaluate(project)
    for i in range(3):
        name = project.pads[(edits >> (3 * i)) % len(project.pads)].name
        point = project.pad(name).load_point
        project = (
            edited(project, ("pads", name, "width"), 1.5 + ((edits >> (4 * i)) % 9) / 8),
            edited(project, ("actions", "load_points", point, "x"), -project.load_point(point).x),
            edited(project, ("actions", "load_points", point, "loads", "G", "V"), 300.0 + (edits >> i) % 500),
            edited(project, ("pads", name, "level"), -1.0 - ((edits >> (2 * i)) % 8) / 10),
        )[(edits >> (5 * i)) % 4]
        warm = found(project)
    forget_all()
    fresh = found(project)
    assert warm == pytest.approx(fresh, rel=1e-7, abs=1e-7)


@few
@given(seeds, st.booleans())
def test_one_base_never_decides_about_another(seed: int, unload: bool) -> None:
    """A base without neighbours in reach gives the same whether others far away stand in the project or not."""
    project = random_project(seed, unload)
    far = tuple(p.replaced(x=p.x + 5000.0 * i, y=p.y) for i, p in enumerate(project.actions.load_points))
    apart = project.replaced(actions=project.actions.replaced(load_points=far))
    name = apart.pads[0].name
    alone = Project(**{f: getattr(apart, f) for f in Project.model_fields} | {"pads": (apart.pads[0],)})
    one, many = (evaluate(p).pad(name) for p in (alone, apart))
    for check in ("settlement", "tilt"):
        assert many.check(check).demand == pytest.approx(one.check(check).demand, rel=1e-6, abs=1e-6)
    assert many.check("slope").state == one.check("slope").state


@few
@given(seeds)
def test_more_ground_and_more_load_never_settle_less(seed: int) -> None:
    """Counting deeper, or loading more in the end, never settles less, where nothing is relieved."""
    project = random_project(seed)
    project = edited(project, ("settings", "settlement_influence"), 0.2)
    deeper = edited(project, ("settings", "settlement_influence"), 0.05)
    heavier = edited(
        project,
        ("actions", "load_points", "C0", "loads", "G", "V"),
        project.load_point("C0").loads["G"].V * 1.2,
    )
    base = evaluate(project).pad("P0").check("settlement").demand or 0.0
    if base > 0.5:
        assert (evaluate(deeper).pad("P0").check("settlement").demand or 0.0) >= base - 0.02 * base
        assert (evaluate(heavier).pad("P0").check("settlement").demand or 0.0) >= base - 1e-6


@few
@given(seeds)
def test_a_mark_far_from_all_hardly_settles_and_one_below_the_fill_does(seed: int) -> None:
    project = random_project(seed)
    fill = project.actions.area_loads[0]
    below = mark_history(project, SettlementMark(name="M", x=fill.x, y=fill.y, level=0.0))
    away = mark_history(project, SettlementMark(name="N", x=fill.x + 2000.0, y=fill.y, level=0.0))
    assert below.why == away.why == ""
    assert below.final > 20 * abs(away.final)
