"""Every reference case is within its tolerance, and the table in the documentation is the present one."""

from pathlib import Path

import pytest

from korbent.verification import CASES, as_markdown, as_text, outcomes
from korbent.verification.case import Case, Outcome

SLOW = (
    "strip: N_γ rough",
    "strip: mid",
    "strip: hardly",
    "strip: half",
    "strip: inclined",
    "strip: beside",
    "creep with",
    "round plate on springs",
    "half-space, raft",
    "curve: collapse",
    "raft without stiffness in two steps",
    "two like rafts",
    "pad beside a stiff raft",
    "raft in two steps on clay",
    "half-space, flexible square: mean",
    "half-space, flexible square: cell",
    "raft of five columns on springs",
)
"""Beginnings of the names of cases that take seconds."""


@pytest.mark.parametrize(
    "case",
    [pytest.param(c, id=c.name, marks=[pytest.mark.long] if c.name.startswith(SLOW) else []) for c in CASES],
)
def test_case(case: Case) -> None:
    (found,) = outcomes([case])
    assert found.within, f"{case.name}: {found.computed} instead of {case.reference}"


def test_names_are_unique() -> None:
    assert len({c.name for c in CASES}) == len(CASES)


def test_documented_table_lists_every_case() -> None:
    text = (Path(__file__).parents[1] / "docs" / "verification.md").read_text()
    for case in CASES:
        assert case.name.replace("|", "\\|") in text


def test_a_wrong_value_is_seen() -> None:
    case = Case("x", "closed form", "", 1.0, lambda: 1.01, 1e-3)
    (found,) = outcomes([case])
    assert not found.within
    assert "OUTSIDE" in as_text([found])
    assert "0 of 1" in as_markdown([found])
    assert not Outcome(case, float("nan")).within
