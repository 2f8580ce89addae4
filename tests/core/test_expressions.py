"""Expressions: what they give, what they refuse, and how a project keeps them up to date."""

import contextlib
import string

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from korbent.core.model import (
    Project,
    Quantity,
    edited,
    expressed,
    expression_at,
    note_on,
    noted,
    recomputed,
    renamed,
)
from korbent.core.model.expressions import ExpressionError, value_of

NAMES = {"L": (2.4, "m"), "V": (900.0, "kN"), "q": (150.0, "kPa"), "n": (3.0, ""), "t": (250.0, "mm")}


def amount(name: str) -> tuple[float, str]:
    return NAMES[name]


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("=L/3 + 0.20", "m", 1.0),
        ("=0.2 + L/3", "m", 1.0),
        ("=-L + 3", "m", 0.6),
        ("=sqrt(V/q)", "m", 6.0**0.5),
        ("=V/(L*2)", "kPa", None),
        ("=V/L^2", "kPa", 156.25),
        ("=V*t", "kNm", 225.0),
        ("=max(L, 3)", "m", 3.0),
        ("=round(L/7, 0.05)", "m", 0.35),
        ("=n*2 + 1", "", 7.0),
        ("=t + 50", "mm", 300.0),
        ("=L + t", "m", 2.65),
        ("=sin(30)*n", "", 1.5),
        ("=1.5", "m", 1.5),
    ],
)
def test_values(text: str, unit: str, value: float | None) -> None:
    if value is None:
        with pytest.raises(ExpressionError, match="not a value in kPa"):
            value_of(text, unit, "metric", amount)
    else:
        assert value_of(text, unit, "metric", amount) == pytest.approx(value, rel=1e-12)


def test_plain_numbers_are_in_the_shown_unit() -> None:
    assert value_of("=L + 1", "m", "us", amount) == pytest.approx(2.4 + 0.3048)
    assert value_of("=2", "kPa", "us", amount) == pytest.approx(2 * 47.880258980)
    assert value_of("=V/L^2 + 1", "kPa", "us", amount) == pytest.approx(156.25 + 47.880258980)


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("=L + V", "cannot be added"),
        ("=x", "nothing is called 'x'"),
        ("=", "nothing stands behind"),
        ("=1/0", "divides by zero"),
        ("=L +", "cannot be read"),
        ("=__import__('os')", "only these functions"),
        ("=L.__class__", "nothing is called"),
        ("=[1][0]", "only numbers, names"),
        ("='a'", "only numbers"),
        ("=True", "only numbers"),
        ("=9^9^9", "at most 20|no finite"),
        ("=1e308*1e308", "no finite"),
        ("=sqrt(0-1)", "no value here"),
        ("=V", "not a value in m"),
        ("=lambda: 1", "only numbers|cannot be read"),
        ("=(" * 60 + "1" + ")" * 60, "nested|cannot be read"),
        ("=" + "1+" * 150 + "1", "longer|nested"),
        ("=abs(L, L)", "takes one value"),
    ],
)
def test_refusals(text: str, why: str) -> None:
    with pytest.raises(ExpressionError, match=why):
        value_of(text, "m", "metric", amount)


@given(st.text(alphabet=string.ascii_letters + string.digits + "+-*/^()., _[]'\"=:", max_size=60))
def test_any_text_gives_a_number_or_a_clear_error(text: str) -> None:
    with contextlib.suppress(ExpressionError):
        assert isinstance(value_of(text, "m", "metric", amount), float)


@given(st.floats(0.1, 50), st.floats(0.1, 50), st.sampled_from("+-*/"))
def test_like_plain_arithmetic(a: float, b: float, sign: str) -> None:
    expected = {"+": a + b, "-": a - b, "*": a * b, "/": a / b}[sign]
    assert value_of(f"={a!r} {sign} {b!r}", "", "metric", amount) == pytest.approx(expected, rel=1e-12)


def _with_quantity(demo: Project) -> Project:
    return edited(demo, ("quantities",), (Quantity(name="clear", value=0.5, unit="m"),))


def test_a_value_follows_its_sources(demo: Project) -> None:
    project = expressed(_with_quantity(demo), ("pads", "P7", "width"), "=cx + 4*clear")
    assert project.pad("P7").width == pytest.approx(2.4)
    project = recomputed(edited(project, ("quantities", "clear", "value"), 0.6))
    assert project.pad("P7").width == pytest.approx(2.8)
    assert expression_at(project, ("pads", "P7", "width")) == "=cx + 4*clear"


def test_expressions_build_on_each_other(demo: Project) -> None:
    project = expressed(demo, ("pads", "P8", "length"), "=P7.B + 0.1")
    project = expressed(project, ("pads", "P7", "width"), "=P6.B*1.1")
    assert project.pad("P8").length == pytest.approx(demo.pad("P6").width * 1.1 + 0.1)
    project = recomputed(edited(project, ("pads", "P6", "width"), 3.0))
    assert project.pad("P8").length == pytest.approx(3.4)


def test_circles_and_lost_names_are_refused(demo: Project) -> None:
    project = expressed(demo, ("pads", "P8", "length"), "=P7.B")
    with pytest.raises((ExpressionError, ValidationError), match="circle"):
        expressed(project, ("pads", "P7", "width"), "=P8.L")
    project = expressed(_with_quantity(demo), ("pads", "P7", "width"), "=clear*5")
    with pytest.raises(ValidationError, match="nothing is called 'clear'"):
        edited(project, ("quantities",), ())


def test_renaming_follows_into_expressions(demo: Project) -> None:
    project = expressed(_with_quantity(demo), ("pads", "P7", "width"), "=clear*5 + P6.B*0")
    project = renamed(project, ("quantities", "clear"), "gap")
    assert expression_at(project, ("pads", "P7", "width")) == "=gap*5 + P6.B*0"
    project = renamed(project, ("pads", "P6"), "P60")
    assert expression_at(project, ("pads", "P7", "width")) == "=gap*5 + P60.B*0"


def test_an_impossible_value_is_refused(demo: Project) -> None:
    with pytest.raises(ValidationError, match="greater than 0"):
        expressed(demo, ("pads", "P7", "width"), "=L - L")


def test_expressions_in_mappings_and_rows(demo: Project) -> None:
    path = ("actions", "load_points", "A1", "loads", "G", "V")
    project = expressed(demo, path, "=2*100 + 18")
    assert project.load_point("A1").loads["G"].V == 218.0
    renamed_case = renamed(project, ("actions", "cases", "G"), "Perm.")
    assert expression_at(renamed_case, ("actions", "load_points", "A1", "loads", "Perm.", "V")) == "=2*100 + 18"
    assert recomputed(renamed_case) is renamed_case
    project = expressed(demo, ("pads", "P7", "overrides", "settlement_limit"), "=0.01+0.005")
    assert project.pad("P7").overrides["settlement_limit"] == pytest.approx(0.015)


def test_notes_stay_with_their_value(demo: Project) -> None:
    path = ("ground", "soils", "Silty clay", "undrained_strength")
    project = noted(demo, path, "from the laboratory, hole 2")
    project = renamed(project, ("ground", "soils", "Silty clay"), "Grey clay")
    assert note_on(project, ("ground", "soils", "Grey clay", "undrained_strength")) == "from the laboratory, hole 2"
    assert (
        note_on(
            noted(project, ("ground", "soils", "Grey clay", "undrained_strength"), " "),
            ("ground", "soils", "Grey clay", "undrained_strength"),
        )
        == ""
    )
    assert (
        note_on(noted(demo, ("ground", "water", "high"), "spring tide"), ("ground", "water", "high")) == "spring tide"
    )
