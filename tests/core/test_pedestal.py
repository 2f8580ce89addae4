"""Pedestals: the interaction surface against single sections worked out by bisection, its ends in closed form, symmetry."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import CheckResult, State
from korbent.core.concrete.interaction import bar_places, capacity, interaction
from korbent.core.concrete.pedestal import interaction_line
from korbent.core.concrete.standard import standard_of
from korbent.core.evaluate import evaluate_pad, working
from korbent.core.model import Load, Pedestal, Settings, edited
from korbent.drawing.pedestal import pedestal_drawing
from korbent.drawing.primitives import Text
from korbent.verification.pad import one_pad

PEDESTAL = Pedestal(size_x=0.6, size_y=0.6, top=0.2, bars=8, diameter=0.020)
COVER = 0.05
NAMES = ("EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018")


def growth(pedestal: Pedestal, N: float, Mx: float, My: float, name: str = NAMES[0]) -> float:
    surface = interaction(pedestal, COVER, standard_of(name, Settings()).column_rules(30.0, 500.0))
    return float(capacity(surface, np.array([[N]]), np.array([[Mx]]), np.array([[My]]))[0, 0])


def test_bars_stand_evenly_around() -> None:
    at = bar_places(PEDESTAL, COVER)
    assert len(at) == 8
    assert np.abs(at).max() == pytest.approx(0.24)
    assert at.sum(axis=0) == pytest.approx([0.0, 0.0], abs=1e-12)


def uniaxial(N: float, My: float) -> float:
    """The moment that the section resists at N, EN 1992: neutral axis by bisection, block in closed form, three layers of bars."""
    fcd, fyd, B = 20_000.0, 500_000 / 1.15, 0.6
    layers = ((0.24, 3), (0.0, 2), (-0.24, 3))
    area = math.pi * 0.02**2 / 4

    def forces(x: float) -> tuple[float, float]:
        block = min(0.8 * x, B)
        n, m = fcd * block * B, fcd * block * B * (B / 2 - block / 2)
        for place, count in layers:
            strain = 0.0035 * (x - (B / 2 - place)) / x
            stress = max(-fyd, min(fyd, strain * 2e8))
            if B / 2 - place < block:
                stress -= fcd
            n, m = n + stress * area * count, m + stress * area * count * place
        return n, m

    low, high = 0.01, 5.0
    for _ in range(100):
        x = (low + high) / 2
        low, high = (x, high) if forces(x)[0] < N else (low, x)
    return forces(x)[1]


@given(st.floats(100.0, 4500.0))
def test_bending_about_one_axis_by_bisection(N: float) -> None:
    assert growth(PEDESTAL, N, 0.0, 100.0) * 100.0 == pytest.approx(uniaxial(N, 100.0), rel=0.025)


def test_pure_compression_and_pure_tension() -> None:
    rules = standard_of(NAMES[0], Settings()).column_rules(30.0, 500.0)
    surface = interaction(PEDESTAL, COVER, rules)
    area = 8 * math.pi * 0.02**2 / 4
    squash = 20_000 * (0.36 - area) + area * 500_000 / 1.15
    assert float(surface.N.max()) == pytest.approx(squash, rel=5e-3)
    assert growth(PEDESTAL, 1.02 * squash, 10.0, 0.0) == 0.0
    assert float(surface.N.min()) == pytest.approx(-area * 500_000 / 1.15, rel=0.02)


@pytest.mark.parametrize("name", NAMES)
def test_a_square_pedestal_is_alike_in_all_four_directions(name: str) -> None:
    values = [
        growth(PEDESTAL, 1500.0, *m, name) for m in ((80.0, 0.0), (-80.0, 0.0), (0.0, 80.0), (0.0, -80.0))
    ]
    assert values == pytest.approx([values[0]] * 4, rel=1e-6)
    askew = growth(PEDESTAL, 1500.0, 80.0, 80.0, name) * math.sqrt(2)
    assert 0.6 * values[0] < askew < 1.02 * values[0]
    assert growth(PEDESTAL, 1500.0, 40.0, 0.0, name) == pytest.approx(2 * values[0], rel=1e-9)
    more = PEDESTAL.replaced(diameter=0.028)
    assert growth(more, 1500.0, 80.0, 0.0, name) > values[0]


@pytest.mark.parametrize("name", NAMES)
def test_the_check_of_a_pad(name: str) -> None:
    project = edited(
        one_pad(load=Load(V=900.0, Hx=60.0, My=90.0), pedestal=PEDESTAL), ("standards", "concrete"), name
    )
    found = evaluate_pad(project, project.pads[0])
    result = found.check("pedestal")
    N = 900 + 25 * 0.36 * 0.9
    moment = 90 + 60 * 0.7
    expected = 1 / growth(PEDESTAL, N, 0.0, moment, name)
    assert result.ratio == pytest.approx(expected, rel=1e-6)
    assert result.demand == pytest.approx(moment, rel=1e-9)
    opened = working(project, project.pads[0], "pedestal")
    assert not isinstance(opened, CheckResult)
    assert opened.lines()
    least = {
        "EN 1992-1-1:2004": max(0.002 * 360_000, 0.1 * N * 1000 / (500 / 1.15)),
        "ACI 318-19": 1800.0,
        "AS 3600:2018": 3600.0,
    }[name]
    assert found.check("pedestal-steel").demand == pytest.approx(least, rel=1e-6)
    bare = evaluate_pad(
        edited(project, ("pads", "P", "pedestal"), None),
        edited(project, ("pads", "P", "pedestal"), None).pads[0],
    )
    assert bare.check("pedestal").state is State.NOT_APPLICABLE


SLENDER = PEDESTAL.replaced(size_x=0.3, size_y=0.3, top=3.5)


@pytest.mark.parametrize("name", NAMES)
def test_a_slender_pedestal_fails_its_limit(name: str) -> None:
    """Free at its top: 2 l over the radius of gyration (AS 3600: 2.2 l), l from the top of the base."""
    project = edited(one_pad(load=Load(V=300.0), pedestal=SLENDER), ("standards", "concrete"), name)
    found = evaluate_pad(project, project.pads[0]).check("pedestal-slender")
    length = 3.5 - (-1.2 + 0.5)
    N = 300.0 + 25 * 0.09 * length
    expected = {
        NAMES[0]: (2 * length * math.sqrt(12) / 0.3, 20 * 0.7 * 1.1 * 0.7 / math.sqrt(N / (0.09 * 20_000))),
        NAMES[1]: (2 * length / 0.09, 22.0), NAMES[2]: (2.2 * length / 0.09, 22.0),
    }[name]  # fmt: skip
    assert (found.demand, found.capacity) == pytest.approx(expected, rel=1e-3)
    assert found.state is State.FAILS
    assert "second-order" in found.message
    low = edited(project, ("pads", "P", "pedestal", "top"), 0.2)
    assert evaluate_pad(low, low.pads[0]).check("pedestal-slender").state is State.HOLDS


@pytest.mark.parametrize(
    ("name", "greatest"), [(NAMES[0], 0.6 * 400), (NAMES[1], 16 * 20), (NAMES[2], 15 * 20)]
)
def test_ties_by_their_clauses(name: str, greatest: float) -> None:
    """20 mm bars, 600 mm square: 20 bars and 400 mm times 0.6; 16 bars; 15 bars."""
    project = edited(one_pad(pedestal=PEDESTAL.replaced(tie_diameter=0.025)), ("standards", "concrete"), name)
    found = evaluate_pad(project, project.pads[0]).check("pedestal-ties")
    assert (found.demand, found.capacity) == pytest.approx((150.0, greatest), rel=1e-9)
    thin = edited(project, ("pads", "P", "pedestal", "tie_diameter"), 0.005)
    worse = evaluate_pad(thin, thin.pads[0]).check("pedestal-ties")
    assert worse.message == "diameter"
    assert worse.state is State.FAILS


def test_the_drawn_line_is_where_the_check_would_be_one() -> None:
    project = one_pad(load=Load(V=900.0, Hx=60.0, My=90.0), pedestal=PEDESTAL)
    line = interaction_line(project, project.pads[0])
    assert line is not None
    ratio = evaluate_pad(project, project.pads[0]).check("pedestal").ratio or 0
    N, M = float(line.acting_N[0]), float(line.acting_M[0])
    assert M / float(np.interp(N, line.N, line.M)) == pytest.approx(ratio, rel=0.01)
    assert line.direction == pytest.approx(0.0, abs=1e-9)
    drawing = pedestal_drawing(line, project.showing, 1.6)
    assert any("axial force" in s.text for s in drawing.shapes if isinstance(s, Text))
    assert interaction_line(one_pad(), one_pad().pads[0]) is None
    assert "no pedestal" in pedestal_drawing(None, project.showing, 1.6).shapes[0].text  # type: ignore[union-attr]
