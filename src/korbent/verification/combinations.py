"""Combinations written out by hand from the tables of the standards, found again among the generated ones.

Each case acts with a vertical load that is a power of ten apart from the others, so that the sum of a row tells its
factors."""

from collections.abc import Callable
from functools import cache

from korbent.core.actions.rules import combinations_for
from korbent.core.model import LoadCase
from korbent.core.model.actions import Nature
from korbent.core.model.labels import label
from korbent.verification.case import Case

LOADS = {"G": 1e6, "Q": 1e4, "W": 1e2, "S": 1.0, "E": 1e8, "A": 1e8, "H": 1e8, "Y": 1e10}
KINDS: dict[str, tuple[Nature, str]] = {
    "G": ("permanent", ""),
    "Q": ("imposed", "B"),
    "W": ("wind", ""),
    "S": ("snow", ""),
    "E": ("seismic", "x"),
    "Y": ("seismic", "y"),
    "A": ("accidental", ""),
    "H": ("soil", ""),
}
EN, PAIR, DA2, DA3 = (
    "EN 1990 (6.10), DA1",
    "EN 1990 (6.10a/b), DA1",
    "EN 1990 (6.10), DA2",
    "EN 1990 (6.10), DA3",
)
US, OLD, AU = "ASCE 7-22", "ASCE 7-16", "AS/NZS 1170.0"

# rule set, question, the row by hand, where it stands
BY_HAND: tuple[tuple[str, str, dict[str, float], str], ...] = (
    (EN, "concrete", {"G": 1.35, "Q": 1.5, "W": 0.9, "S": 0.75}, "EN 1990 (6.10), tables A1.1, A1.2(B): Q leads"),
    (EN, "concrete", {"G": 1.35, "W": 1.5, "Q": 1.05, "S": 0.75}, "W leads"),
    (EN, "concrete", {"G": 1.35, "S": 1.5, "Q": 1.05, "W": 0.9}, "S leads"),
    (EN, "concrete", {"G": 1.0, "W": 1.5}, "W with favourable weights"),
    (EN, "concrete", {"G": 1.35}, "permanent alone"),
    (EN, "ultimate", {"G": 1.0, "Q": 1.3, "W": 0.78}, "table A1.2(C), Q leads: 1.3 x 0.6"),
    (EN, "ultimate", {"G": 1.0, "W": 1.3, "Q": 0.91}, "table A1.2(C), W leads: 1.3 x 0.7"),
    (EN, "EQU", {"G": 0.9, "W": 1.5}, "table A1.2(A)"),
    (EN, "EQU", {"G": 1.1, "W": 1.5, "Q": 1.05}, "table A1.2(A), permanent that overturns"),
    (EN, "UPL", {"G": 0.9, "W": 1.5}, "EN 1997-1 table A.15"),
    (EN, "UPL", {"G": 1.0, "W": 1.5}, "EN 1997-1 table A.15, permanent that lifts"),
    (EN, "allowable", {"G": 1.0, "Q": 1.0, "W": 0.6, "S": 0.5}, "(6.14b)"),
    (EN, "settlement_long", {"G": 1.0, "Q": 0.3}, "(6.16b)"),
    (EN, "settlement_short", {"G": 1.0, "Q": 0.5}, "(6.15b)"),
    (EN, "settlement_short", {"G": 1.0, "W": 0.2, "Q": 0.3}, "(6.15b), W leads"),
    (EN, "concrete", {"G": 1.0, "A": 1.0, "Q": 0.5}, "(6.11b), psi1 of the main action"),
    (EN, "concrete", {"G": 1.0, "E": 1.0, "Q": 0.3}, "(6.12b)"),
    (EN, "concrete", {"G": 1.0, "E": 1.0, "Y": 0.3, "Q": 0.3}, "EN 1998-1 4.3.3.5.1(3)"),
    (PAIR, "concrete", {"G": 1.35, "Q": 1.05, "W": 0.9, "S": 0.75}, "(6.10a)"),
    (PAIR, "concrete", {"G": 1.1475, "Q": 1.5, "W": 0.9, "S": 0.75}, "(6.10b), xi = 0.85"),
    (DA2, "ultimate", {"G": 1.0, "Q": 1.5}, "DA2, light"),
    (DA3, "concrete", {"G": 1.35, "H": 1.0}, "DA3, earth pressure by A2"),
    (EN, "concrete", {"G": 1.0, "H": 1.35}, "earth pressure beside light weights"),
    (US, "concrete", {"G": 1.4}, "ASCE 7 2.3.1(1)"),
    (US, "concrete", {"G": 1.2, "Q": 1.6, "S": 0.3}, "ASCE 7-22 2.3.1(2)"),
    (OLD, "concrete", {"G": 1.2, "Q": 1.6, "S": 0.5}, "ASCE 7-16 2.3.1(2)"),
    (OLD, "concrete", {"G": 1.2, "S": 1.6, "Q": 1.0}, "ASCE 7-16 2.3.1(3)"),
    (US, "concrete", {"G": 1.2, "W": 1.0, "Q": 1.0, "S": 0.3}, "ASCE 7-22 2.3.1(4)"),
    (US, "concrete", {"G": 0.9, "W": 1.0}, "ASCE 7 2.3.1(5)"),
    (OLD, "concrete", {"G": 1.2, "E": 1.0, "Q": 1.0, "S": 0.2}, "ASCE 7-16 2.3.6(6)"),
    (US, "allowable", {"G": 1.0, "Q": 0.75, "W": 0.45, "S": 0.525}, "ASCE 7-22 2.4.1(6)"),
    (US, "allowable", {"G": 0.6, "W": 0.6}, "ASCE 7 2.4.1(7)"),
    (US, "allowable", {"G": 1.0, "E": 0.525, "Q": 0.75, "S": 0.1}, "ASCE 7-22 2.4.5(9)"),
    (OLD, "allowable", {"G": 0.6, "E": 0.7, "Y": 0.21}, "ASCE 7-16 2.4.5(10), 12.5"),
    (AU, "concrete", {"G": 1.2, "Q": 1.5}, "AS/NZS 1170.0 4.2.2(b)"),
    (AU, "concrete", {"G": 1.2, "Q": 0.6}, "AS/NZS 1170.0 4.2.2(c), 1.5 x 0.4"),
    (AU, "concrete", {"G": 1.2, "W": 1.0, "Q": 0.4}, "AS/NZS 1170.0 4.2.2(d)"),
    (AU, "concrete", {"G": 1.0, "E": 1.0, "Q": 0.3}, "AS/NZS 1170.0 4.2.2(f)"),
    (AU, "EQU", {"G": 0.9, "Q": 1.5}, "AS/NZS 1170.0 4.2.1"),
    (AU, "settlement_long", {"G": 1.0, "Q": 0.4}, "AS/NZS 1170.0 4.3"),
)


def _sum(factors: dict[str, float]) -> float:
    return sum(f * LOADS[name] for name, f in factors.items())


@cache
def _sums(rules: str, question: str, cases: tuple[str, ...]) -> tuple[float, ...]:
    made = [LoadCase(name=n, nature=KINDS[n][0], category=KINDS[n][1]) for n in cases]
    return tuple(_sum(dict(c.factors)) for c in combinations_for(rules, made) if question in c.serves)


def _nearest(rules: str, question: str, row: dict[str, float]) -> Callable[[], float]:
    def compute() -> float:
        # the other variable actions of a building stand beside, so that the row must be one among others
        cases = tuple(dict.fromkeys(("G", "Q", "W", "S", *row)))
        return min(_sums(rules, question, cases), key=lambda s: abs(s - _sum(row)))

    return compute


def _named(rules: str, question: str, row: dict[str, float]) -> str:
    return f"{rules}, {label(question)}: {' + '.join(f'{f:g} {n}' for n, f in row.items())}"


COMBINATIONS: tuple[Case, ...] = tuple(
    Case(
        _named(rules, question, row),
        "from memory",
        source,
        _sum(row),
        _nearest(rules, question, row),
        1e-12,
        "kN",
    )
    for rules, question, row, source in BY_HAND
)
"""Sums of the loads of a row in kN."""
