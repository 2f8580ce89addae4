"""Every load case acts in every question that it can matter to, whatever the rule set, favourable and unfavourable."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.actions.coverage import left_out
from korbent.core.actions.rules import RULES, combinations_for
from korbent.core.model import Actions, Combination, Load, LoadCase, LoadPoint
from korbent.core.model.actions import Nature

KINDS: tuple[tuple[Nature, str], ...] = (
    ("imposed", "B"),
    ("imposed", "A"),
    ("imposed", "roof"),
    ("imposed", "storage"),
    ("snow", ""),
    ("wind", ""),
    ("seismic", ""),
    ("accidental", ""),
    ("soil", ""),
    ("water", ""),
)


def actions(rules: str, kinds: tuple[tuple[Nature, str], ...]) -> Actions:
    """A permanent case and one of each of these, all of which press, push and turn."""
    cases = (
        LoadCase(name="G"),
        *(LoadCase(name=f"{n}{i}", nature=n, category=c) for i, (n, c) in enumerate(kinds)),
    )
    loads = {c.name: Load(V=-30.0 if c.nature != "permanent" else 400.0, Hx=5.0, My=8.0) for c in cases}
    point = LoadPoint(name="C", x=0, y=0, size_x=0.4, size_y=0.4, level=0.0, loads=loads)
    return Actions(cases=cases, combinations=tuple(combinations_for(rules, cases)), load_points=(point,))


@pytest.mark.parametrize("rules", list(RULES))
@given(st.sets(st.sampled_from(KINDS), max_size=5))
def test_no_case_is_left_out_of_a_question(rules: str, kinds: set[tuple[Nature, str]]) -> None:
    assert left_out(actions(rules, tuple(sorted(kinds)))) == {}


@pytest.mark.parametrize("rules", list(RULES))
def test_earth_pressure_relieves_and_adds_beside_the_same_weights(rules: str) -> None:
    """Its factor is its own: beside heavy weights it may be the lesser, beside light ones the greater."""
    found = actions(rules, (("soil", ""), ("wind", "")))

    def pairs(question: str) -> set[tuple[float, float]]:
        return {(c.factors["G"], c.factors.get("soil0", 0.0)) for c in found.combinations if question in c.serves}

    # in DA3 actions of the ground have one factor, 1.0, in strength (set A2)
    questions = ["concrete"] if "DA3" not in rules else []
    for question in [*questions, "EQU" if not rules.startswith("ASCE") else "allowable"]:
        by_weight: dict[float, set[float]] = {}
        for weight, pressure in pairs(question):
            by_weight.setdefault(weight, set()).add(pressure)
        assert any(len(pressures) > 1 for pressures in by_weight.values()), question


def rows(rules: str, *cases: LoadCase, question: str) -> list[dict[str, float]]:
    return [dict(c.factors) for c in combinations_for(rules, cases) if question in c.serves]


G, Q = LoadCase(name="G"), LoadCase(name="Q", nature="imposed", category="B")
W, S = LoadCase(name="W", nature="wind"), LoadCase(name="S", nature="snow")
E, A = LoadCase(name="E", nature="seismic"), LoadCase(name="A", nature="accidental")
H, U = LoadCase(name="H", nature="soil"), LoadCase(name="U", nature="water")
EN, EN2, EN3 = "EN 1990 (6.10), DA1", "EN 1990 (6.10), DA2", "EN 1990 (6.10), DA3"


@pytest.mark.parametrize(
    ("rules", "question", "cases", "row"),
    [
        # EN 1990 table A1.2(B), (6.10): permanent light and heavy with one variable that leads alone
        (EN2, "ultimate", (G, Q), {"G": 1.0, "Q": 1.5}),
        (EN2, "ultimate", (G, Q), {"G": 1.35, "Q": 1.5}),
        (EN2, "concrete", (G,), {"G": 1.0}),
        (EN, "ultimate", (G, Q), {"G": 1.0, "Q": 1.3}),
        (EN, "concrete", (G, Q, W), {"G": 1.35, "Q": 1.5}),
        # characteristic, permanent alone and with one variable without the relieving others
        (EN, "allowable", (G, Q, W), {"G": 1.0}),
        (EN, "allowable", (G, Q, W), {"G": 1.0, "W": 1.0}),
        (EN, "allowable", (G, Q, W), {"G": 1.0, "Q": 1.0}),
        (EN, "allowable", (G, Q, W), {"G": 1.0, "Q": 1.0, "W": 0.6}),
        (EN, "allowable", (G, Q, W), {"G": 1.0, "W": 1.0, "Q": 0.7}),
        # 6.10a without wind
        ("EN 1990 (6.10a/b), DA1", "concrete", (G, Q, W), {"G": 1.35, "Q": 1.05}),
        ("EN 1990 (6.10a/b), DA1", "concrete", (G, Q, W), {"G": 1.35, "Q": 1.05, "W": 0.9}),
        # earth and water pressure: 1.35 or 1.0 beside weights of either kind; A2 in DA3; EQU 1.1 and 0.9; UPL 1.0 destabilising
        (EN, "concrete", (G, H), {"G": 1.0, "H": 1.35}),
        (EN, "concrete", (G, H), {"G": 1.35, "H": 1.0}),
        (EN3, "concrete", (G, H), {"G": 1.35, "H": 1.0}),
        (EN, "EQU", (G, H), {"G": 0.9, "H": 1.1}),
        (EN, "EQU", (G, H), {"G": 0.9, "H": 0.9}),
        (EN, "UPL", (G, U), {"G": 0.9, "U": 1.0}),
        (EN, "UPL", (G, Q), {"G": 0.9, "Q": 1.5}),
        # accidental and seismic also for overturning and with presumed pressures
        (EN, "EQU", (G, E), {"G": 1.0, "E": 1.0}),
        (EN, "EQU", (G, A), {"G": 1.0, "A": 1.0}),
        (EN, "allowable", (G, A), {"G": 1.0, "A": 1.0}),
        # ASCE 7: H 1.6 where it adds, 0.9 where it relieves; extraordinary events 2.5.2
        ("ASCE 7-16", "concrete", (G, Q, H), {"G": 1.2, "Q": 1.6, "H": 1.6}),
        ("ASCE 7-16", "concrete", (G, W, H), {"G": 0.9, "W": 1.0, "H": 0.9}),
        ("ASCE 7-16", "concrete", (G, Q, A), {"G": 1.2, "A": 1.0, "Q": 0.5}),
        ("ASCE 7-22", "concrete", (G, A), {"G": 0.9, "A": 1.0}),
        ("ASCE 7-16", "allowable", (G, H), {"G": 1.0, "H": 0.6}),
        ("ASCE 7-16", "allowable", (G, A), {"G": 0.6, "A": 1.0}),
        # AS/NZS 1170.0: stability with 1.5 Q, wind in uplift, snow in service, seismic in stability
        ("AS/NZS 1170.0", "EQU", (G, Q), {"G": 0.9, "Q": 1.5}),
        ("AS/NZS 1170.0", "UPL", (G, W), {"G": 0.9, "W": 1.0}),
        ("AS/NZS 1170.0", "allowable", (G, S), {"G": 1.0, "S": 1.0}),
        ("AS/NZS 1170.0", "EQU", (G, Q, E), {"G": 0.9, "E": 1.0, "Q": 0.3}),
        ("AS/NZS 1170.0", "concrete", (G, Q, H), {"G": 1.2, "Q": 1.5, "H": 1.5}),
    ],
)
def test_rows_written_out(rules: str, question: str, cases: tuple[LoadCase, ...], row: dict[str, float]) -> None:
    assert row in rows(rules, *cases, question=question)


def test_seismic_strengths_by_en_1998_5() -> None:
    found: list[Combination] = [
        c for c in combinations_for(EN, [G, Q, E]) if c.situation == "seismic" and "ultimate" in c.serves
    ]
    assert found
    assert {c.factor_set for c in found} == {"M2"}
