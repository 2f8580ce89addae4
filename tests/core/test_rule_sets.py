"""Rule sets as data: what is read, what a project may change, groups across kinds, directions of an earthquake,
patterns, water levels."""

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from korbent.core.actions.coverage import left_out
from korbent.core.actions.generate import IMPORTED
from korbent.core.actions.rules import RULES, combinations_for, number, rule_set, said
from korbent.core.actions.situations import situations_for
from korbent.core.evaluate import evaluate_pad
from korbent.core.model import Actions, Combination, Load, LoadCase, LoadPoint, Water
from korbent.core.model.actions import CATEGORIES, Nature
from korbent.verification.pad import one_pad
from tests.invariants.whole import few

EN, ASCE, AS = "EN 1990 (6.10), DA1", "ASCE 7-22", "AS/NZS 1170.0"
G = LoadCase(name="G")
Q = LoadCase(name="Q", nature="imposed", category="B")


def rows(rules: str, question: str, *cases: LoadCase, **changed: float) -> list[dict[str, float]]:
    return [dict(c.factors) for c in combinations_for(rules, cases, changed) if question in c.serves]


# ---------------------------------------------------------------- data


@pytest.mark.parametrize("rules", RULES)
def test_every_value_has_its_source_and_every_row_its_clause(rules: str) -> None:
    found = rule_set(rules)
    assert all(v.source and v.about for v in found.values)
    table = said(found)
    assert len(table) >= 15
    assert all(row.clause and row.serves and row.permanent for row in table)
    # a generated row says by which of them it was made
    clauses = {f"{found.source}, {row.clause}" for row in table}
    for row in combinations_for(rules, [G, Q, LoadCase(name="E", nature="seismic")]):
        assert row.origin in clauses


def test_values_of_a_national_annex() -> None:
    pair = "EN 1990 (6.10a/b), DA1"
    assert {"G": 1.35 * 0.85, "Q": 1.5} in rows(pair, "concrete", G, Q)
    assert {"G": round(1.35 * 0.925, 6), "Q": 1.5} in rows(pair, "concrete", G, Q, xi=0.925)
    assert {"G": 1.0, "Q": 0.6} in rows(EN, "settlement_long", G, Q, **{"psi2 B": 0.6})
    # EN 1990 table A1.1: snow above 1000 m lasts
    high = LoadCase(name="S", nature="snow", category="above_1000_m")
    assert {"G": 1.0, "S": 0.2} in rows(EN, "settlement_long", G, high)
    assert {"G": 1.35, "Q": 1.5, "S": 1.05} in rows(EN, "concrete", G, Q, high)


def test_formulas_of_values_only() -> None:
    assert number("1.2 + 0.2*S_DS", {"S_DS": 1.5}) == pytest.approx(1.5)
    for wrong in ("x", "__import__('os')", "2**9", "min(1, 2)"):
        with pytest.raises(ValueError, match="no formula"):
            number(wrong, {})


def test_vertical_earthquake_of_asce_7() -> None:
    E = LoadCase(name="E", nature="seismic")
    assert {"G": 1.4, "E": 1.0, "Q": 1.0} in rows(ASCE, "concrete", G, Q, E, S_DS=1.0)
    assert {"G": 0.7, "E": 1.0} in rows(ASCE, "concrete", G, Q, E, S_DS=1.0)
    assert {"G": 0.46, "E": 0.7} in rows(ASCE, "allowable", G, Q, E, S_DS=1.0)
    S = LoadCase(name="S", nature="snow")
    assert {"G": 1.0, "E": 0.525, "Q": 0.75, "S": 0.1} in rows(ASCE, "allowable", G, Q, E, S)


# ---------------------------------------------------------------- who acts with whom


def test_one_direction_of_an_earthquake_with_a_share_of_the_other() -> None:
    X = LoadCase(name="X", nature="seismic", category="x", reversible=True)
    Y = LoadCase(name="Y", nature="seismic", category="y")
    for rules in (EN, ASCE, AS):
        found = rows(rules, "concrete", G, X, Y)
        for one in (
            {"X": 1.0, "Y": 0.3},
            {"X": -1.0, "Y": 0.3},
            {"Y": 1.0, "X": 0.3},
            {"Y": 1.0, "X": -0.3},
            {"X": 1.0},
        ):
            assert any(one == {k: v for k, v in row.items() if k != "G"} for row in found), (rules, one)
    # without directions they exclude each other
    plain = [c.replaced(category="") for c in (X, Y)]
    assert not any("X" in row and "Y" in row for row in rows(EN, "concrete", G, *plain))


def test_groups_exclude_whatever_the_kinds_and_categories() -> None:
    crane = Q.replaced(name="crane", category="E", exclusive="hall")
    storm = LoadCase(name="W", nature="wind", exclusive="hall")
    stock = Q.replaced(name="stock", category="A", exclusive="hall")
    for rules in RULES:
        for row in combinations_for(rules, [G, Q, crane, storm, stock]):
            assert len({"crane", "W", "stock"} & row.factors.keys()) <= 1, (rules, row.name)
        assert left_out(_all(rules, (G, Q, crane, storm, stock))) == {}


def test_winds_exclude_each_other_in_a_group_or_not() -> None:
    west, east = (LoadCase(name=n, nature="wind", exclusive="storm") for n in ("west", "east"))
    gust = LoadCase(name="gust", nature="wind")
    for rules in RULES:
        for row in combinations_for(rules, [G, Q, west, east, gust]):
            assert len({"west", "east", "gust"} & row.factors.keys()) <= 1


def test_spans_that_are_loaded_and_not() -> None:
    second = Q.replaced(name="Q2")
    for rules, full in ((EN, 1.5), (ASCE, 1.6), (AS, 1.5)):
        found = [{k: v for k, v in row.items() if k != "G"} for row in rows(rules, "concrete", G, Q, second)]
        for one in ({"Q": full, "Q2": full}, {"Q": full}, {"Q2": full}):
            assert one in found, (rules, one)


def test_wind_of_the_two_limit_states_of_as_nzs() -> None:
    ultimate, service = (
        LoadCase(name=n, nature="wind", category=c) for n, c in (("Wu", "ultimate"), ("Ws", "service"))
    )
    for row in combinations_for(AS, [G, Q, ultimate, service]):
        factored = {"concrete", "EQU", "UPL", "ultimate"} & set(row.serves)
        assert ("Ws" if factored else "Wu") not in row.factors
    assert left_out(_all(AS, (G, Q, ultimate, service))) == {}
    roof = Q.replaced(name="Qr", category="roof")
    assert {"G": 1.0, "Q": 0.4} in rows(AS, "settlement_long", G, Q, roof)
    assert {"G": 1.2, "Wu": 1.0, "Q": 0.4} in rows(AS, "concrete", G, Q, roof, ultimate)


def test_ultimate_bearing_by_as_nzs() -> None:
    found = combinations_for("AS/NZS 1170.0, ultimate bearing", [G, Q])
    strength = [c for c in found if "concrete" in c.serves]
    assert strength
    assert all("ultimate" in c.serves and c.factor_set == "R" for c in strength)


def test_permanent_cases_that_turn_against_those_that_hold() -> None:
    thrust = LoadCase(name="arch")
    assert {"G": 0.9, "arch": 1.1} in rows(EN, "EQU", G, thrust)
    assert {"G": 0.9, "arch": 1.0} in rows(EN, "UPL", G, thrust)
    assert {"G": 0.9, "arch": 1.35} in rows(AS, "EQU", G, thrust)


def _all(rules: str, cases: tuple[LoadCase, ...]) -> Actions:
    loads = {c.name: Load(V=-30.0 if c.nature != "permanent" else 400.0, Hx=5.0, My=8.0) for c in cases}
    point = LoadPoint(name="C", x=0, y=0, size_x=0.4, size_y=0.4, level=0.0, loads=loads)
    return Actions(cases=cases, combinations=tuple(combinations_for(rules, cases)), load_points=(point,))


KINDS: list[tuple[Nature, str]] = [
    (nature, category)
    for nature in (
        "imposed",
        "snow",
        "wind",
        "seismic",
        "accidental",
        "soil",
        "water",
        "temperature",
        "fluid",
        "rain",
    )
    for category in ("", *CATEGORIES.get(nature, ()))
]  # type: ignore[misc]


@example("EN 1990 (6.10), DA1", [(("imposed", ""), False, "g"), (("soil", ""), False, "g")])
@given(
    st.sampled_from(RULES),
    st.lists(st.tuples(st.sampled_from(KINDS), st.booleans(), st.sampled_from(("", "", "g", "h"))), max_size=4),
)
def test_nothing_is_left_out_and_groups_hold(rules: str, drawn: list[tuple[tuple[Nature, str], bool, str]]) -> None:
    cases = (
        G,
        *(
            LoadCase(name=f"C{i}", nature=n, category=c, reversible=r, exclusive=g)
            for i, ((n, c), r, g) in enumerate(drawn)
        ),
    )
    actions = _all(rules, cases)
    assert left_out(actions) == {}
    for row in actions.combinations:
        for group in ("g", "h"):
            assert sum(c.exclusive == group and c.name in row.factors for c in cases) <= 1
    # what is the same is generated once
    keys = [
        (tuple(sorted(c.factors.items())), c.serves, c.factor_set, c.situation, c.water) for c in actions.combinations
    ]
    assert len(set(keys)) == len(keys)


def test_what_came_as_a_combination_is_not_factored() -> None:
    imported = LoadCase(name="K", nature="imposed", exclusive=IMPORTED)
    assert not any("K" in c.factors for c in combinations_for(EN, [G, Q, imported]))


def test_a_category_is_one_of_a_list() -> None:
    with pytest.raises(ValueError, match="'office' is no category of a case that is imposed: choose one of A, B"):
        LoadCase(name="Q", nature="imposed", category="office")
    with pytest.raises(ValueError, match="leave it empty"):
        LoadCase(name="G", category="A")
    assert Q.replaced(nature="permanent").category == ""
    assert Q.replaced(description="offices").category == "B"


# ---------------------------------------------------------------- the worst water level


def test_a_combination_at_each_water_level() -> None:
    row = Combination(
        number=3,
        factors={"G": 1.0},
        serves=("allowable", "settlement_long"),
        water="worst",
        weight_unfavourable=1.35,
    )
    actions = Actions(cases=(G,), combinations=(row,))
    levels = Water(low=-4.0, normal=-2.0, high=-1.0)
    found = situations_for(actions, levels, "allowable")
    assert found.water_level.tolist() == [-2.0, -2.0, -4.0, -4.0, -1.0, -1.0]
    assert [found.label(i) for i in (0, 2, 5)] == ["3 heavy", "3 heavy, low water", "3 light, high water"]
    assert situations_for(actions, levels, "settlement_long").water_level.tolist() == [-2.0, -2.0]
    still = Water(low=-2.0, normal=-2.0, high=-2.0)
    assert [situations_for(actions, still, "allowable").label(i) for i in (0, 1)] == ["3 heavy", "3 light"]
    assert len(situations_for(actions, None, "allowable")) == 2


@pytest.mark.long
@few
@given(st.floats(-4, -0.5), st.floats(0.0, 2.0), st.floats(0.0, 2.0), st.floats(-80, 80))
def test_the_worst_level_is_the_worst_of_all(low: float, up: float, further: float, moment: float) -> None:
    project = one_pad(load=Load(V=500.0, Hx=20.0, My=moment))
    water = Water(low=low, normal=low + up, high=low + up + further)
    project = project.replaced(ground=project.ground.replaced(water=water))

    def ratios(level: str) -> dict[str, float]:
        actions = project.actions.replaced(
            combinations=tuple(c.replaced(water=level) for c in project.actions.combinations)
        )
        checks = evaluate_pad(project.replaced(actions=actions), project.pads[0]).checks
        return {c.check.id: c.ratio for c in checks if c.ratio is not None and c.check.group != "settlement"}

    worst, single = ratios("worst"), [ratios(level) for level in ("low", "normal", "high")]
    assert worst
    for check, ratio in worst.items():
        assert ratio == pytest.approx(max(one[check] for one in single if check in one), rel=1e-9), check


def test_it_is_said_where_no_combination_looks_at_high_water() -> None:
    project = one_pad(load=Load(V=500.0))
    water = Water(low=-4.0, normal=-3.0, high=-0.5)
    project = project.replaced(ground=project.ground.replaced(water=water))

    def word(level: str) -> str:
        rows = tuple(c.replaced(water=level) for c in project.actions.combinations)
        found = evaluate_pad(project.replaced(actions=project.actions.replaced(combinations=rows)), project.pads[0])
        return next(c.message for c in found.checks if c.check.id == "eccentricity")

    said_so = "no combination of this question looks at the high water level"
    assert said_so in word("normal")
    assert said_so not in word("worst") + word("high")
