"""No case drops out of a question silently: it is said at the case, at the check, and in the report."""

from pathlib import Path

import pytest

from korbent.core.actions.coverage import left_out, left_out_on, questions_without
from korbent.core.evaluate import evaluate, evaluate_pad
from korbent.core.model import Combination, Load, LoadCase, Project
from korbent.sheets.report import write_report
from korbent.verification.pad import one_pad
from tests.sheets.pdf_text import texts_of


def with_water() -> Project:
    """A case of water pressure that lifts, which no combination contains."""
    project = one_pad()
    a = project.actions
    point = a.load_points[0]
    point = point.replaced(loads={**point.loads, "U": Load(V=-80.0, Hx=5.0)})
    return project.replaced(
        actions=a.replaced(cases=(*a.cases, LoadCase(name="U", nature="water")), load_points=(point,))
    )


def test_a_case_in_no_combination_is_named_by_question() -> None:
    project = with_water()
    found = left_out(project.actions)
    assert "U" in found["allowable"]
    assert "U" in found["UPL"]
    assert "U" in found["EQU"]
    assert "settlement_short" not in found  # nothing serves it: its checks say that themselves
    assert questions_without(project.actions, "G") == ()
    assert "ultimate" in questions_without(project.actions, "U")


def test_it_is_said_at_the_check() -> None:
    project = with_water()
    result = evaluate_pad(project, project.pads[0])
    for check in ("presumed-pressure", "uplift", "overturning", "punching"):
        words = result.check(check).message.split("; ")
        assert any(
            w.startswith("E, U act in no combination") or w == "U acts in no combination of this question"
            for w in words
        ), (check, words)
    # once it acts, nothing is said any more
    a = project.actions
    rows = tuple(c.replaced(factors={**c.factors, "U": 1.0, "E": 1.0}) for c in a.combinations)
    whole = project.replaced(actions=a.replaced(combinations=rows))
    assert not left_out(whole.actions)
    assert "in no combination" not in evaluate_pad(whole, whole.pads[0]).check("uplift").message


def test_it_is_said_on_the_bases_that_it_loads_alone() -> None:
    project = with_water()
    a, pad = project.actions, project.pads[0]
    other = a.load_points[0].replaced(name="D", x=50.0, loads={"G": Load(V=400.0)})
    project = project.replaced(
        actions=a.replaced(load_points=(*a.load_points, other)),
        pads=(pad, pad.replaced(name="Q", load_point="D")),
    )
    results = evaluate(project)
    assert "in no combination" in results.pad("P").check("punching").message
    assert "in no combination" not in results.pad("Q").check("punching").message
    assert left_out_on(project.actions, "concrete", (other,)) == ()


@pytest.mark.parametrize(
    ("nature", "question", "said"),
    [
        ("wind", "settlement_long", False),
        ("snow", "cracks", False),
        ("imposed", "settlement_long", True),
        ("soil", "settlement_long", True),
        ("accidental", "allowable", True),
        ("seismic", "cracks", False),
    ],
)
def test_what_cannot_matter_is_not_said(nature: str, question: str, said: bool) -> None:
    project = one_pad()
    a = project.actions
    point = a.load_points[0].replaced(loads={"G": Load(V=600.0), "X": Load(V=50.0)})
    serves = Combination(number=9, factors={"G": 1.0}, serves=("cracks",))
    actions = a.replaced(
        cases=(a.cases[0], LoadCase(name="X", nature=nature)),  # type: ignore[arg-type]
        load_points=(point,),
        combinations=(*(c.replaced(factors={"G": 1.0}) for c in a.combinations), serves),
    )
    assert ("X" in left_out(actions).get(question, ())) == said
    # what only presses down is left out of uplift on the safe side
    assert "X" not in left_out(actions).get("UPL", ())


@pytest.mark.long
def test_it_stands_in_the_report(tmp_path: Path) -> None:
    write_report(with_water(), tmp_path / "r.pdf")
    text = " ".join("".join(texts_of(tmp_path / "r.pdf")).split())
    assert "in no combination that serves UPL" in text
