"""Lines of workings on the page: nothing is lost, no line is wider than the page, indices stand low and small."""

import random

import pytest
from reportlab.lib.styles import ParagraphStyle
from reportlab.pdfbase.pdfmetrics import stringWidth

from korbent.files.formula_line import FormulaLine, Run, broken, with_indices
from korbent.files.pdf_page import BOLD, REGULAR, register_fonts

STYLE = ParagraphStyle("step", fontName=REGULAR, fontSize=8.0, leading=10.0, spaceAfter=1.5)


@pytest.fixture(autouse=True)
def fonts() -> None:
    register_fonts()


def wide(line: list[Run]) -> float:
    text = sum(stringWidth(r.text, r.font, r.size) for r in line)
    last = line[-1]
    return text - stringWidth(last.text, last.font, last.size) + stringWidth(last.text.rstrip(), last.font, last.size)


def said(lines: list[list[Run]]) -> str:
    return "".join(r.text for line in lines for r in line)


@pytest.mark.parametrize("seed", range(30))
def test_lines_hold_all_and_are_no_wider_than_the_page(seed: int) -> None:
    rng = random.Random(seed)
    signs = "abW_γ·()123+−/ "
    runs = [
        Run(
            "".join(rng.choice(signs) for _ in range(rng.randrange(1, 60))),
            rng.choice((REGULAR, BOLD)),
            rng.choice((5.5, 8.0)),
            0.0,
            "#000000",
        )
        for _ in range(rng.randrange(1, 12))
    ]
    width = rng.uniform(30.0, 300.0)
    lines = broken(runs, width)
    assert said(lines) == "".join(r.text for r in runs)
    assert all(wide(line) <= width + 1e-6 for line in lines)


def test_a_line_takes_as_many_words_as_fit() -> None:
    words = "V_c = Σ(γ_F·V_k) = 350.9 kN from the column"
    one = [Run(words, REGULAR, 8.0, 0.0, "#000000")]
    whole = stringWidth(words, REGULAR, 8.0)
    assert len(broken(one, whole + 0.01)) == 1
    _, second = broken(one, whole - 0.01)
    assert said([second]) == "column"


def test_indices_are_lower_and_smaller() -> None:
    V, c, rest, F = with_indices("V_c = γ_F", REGULAR, 8.0, "#000000")
    assert (V.text, c.text, rest.text, F.text) == ("V", "c", " = γ", "F")
    assert c.rise < 0 == V.rise
    assert c.size < V.size


def test_a_long_line_goes_on_over_the_page() -> None:
    line = FormulaLine([Run("word " * 200, REGULAR, 8.0, 0.0, "#000000")], STYLE)
    _, height = line.wrap(200.0, 1000.0)
    assert height == 10.0 * len(line.lines)
    assert line.split(200.0, 5.0) == []
    head, tail = line.split(200.0, 35.0)
    assert (len(head.lines), len(tail.lines)) == (3, len(line.lines) - 3)
    assert head.wrap(200.0, 100.0)[1] == 30.0
    assert said(head.lines) + said(tail.lines) == "word " * 200
