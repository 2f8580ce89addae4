"""Pedestals: the interaction surface against single sections worked out by bisection, its ends in closed form,
symmetry."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import CheckResult, State
from korbent.core.concrete.interaction import bar_places, capacity, interaction
from korbent.core.concrete.pedestal import interaction_line
from korbent.core.concrete.standards.registry import standard_of
from korbent.core.evaluate import evaluate_pad
from korbent.core.explain.working import working
from korbent.core.model import Load, Pedestal, Settings, edited
from korbent.drawing.pedestal import pedestal_drawing
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
    # cover, tie and half a bar from the face
    assert np.abs(at).max() == pytest.approx(0.3 - 0.05 - 0.010 - 0.010)
    assert at.sum(axis=0) == pytest.approx([0.0, 0.0], abs=1e-12)


def uniaxial(N: float, My: float) -> float:
    """The moment that the section resists at N, EN 1992: neutral axis by bisection, block in closed form, three layers
    of bars."""
    fcd, fyd, B = 20_000.0, 500_000 / 1.15, 0.6
    layers = ((0.23, 3), (0.0, 2), (-0.23, 3))
    area = math.pi * 0.02**2 / 4

    def forces(x: float) -> tuple[float, float]:
        block = min(0.8 * x, B)
        n, m = fcd * block * B, fcd * block * B * (B / 2 - block / 2)
        for place, count in layers:
            strain = 0.0035 * (x - (B / 2 - place)) / x
            if x > B:  # all compressed: about half the depth at 1.75 per mille
                strain = 0.00175 * (x - (B / 2 - place)) / (x - B / 2)
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
    # all at 1.75 per mille: the steel does not yield (EN 1992-1-1 6.1(5))
    squash = 20_000 * (0.36 - area) + area * 350_000
    assert float(surface.N.max()) == pytest.approx(squash, rel=5e-3)
    assert growth(PEDESTAL, 1.02 * squash, 10.0, 0.0) == 0.0
    assert float(surface.N.min()) == pytest.approx(-area * 500_000 / 1.15, rel=0.02)


@pytest.mark.parametrize("name", NAMES)
def test_a_square_pedestal_is_alike_in_all_four_directions(name: str) -> None:
    values = [growth(PEDESTAL, 1500.0, *m, name) for m in ((80.0, 0.0), (-80.0, 0.0), (0.0, 80.0), (0.0, -80.0))]
    assert values == pytest.approx([values[0]] * 4, rel=1e-6)
    askew = growth(PEDESTAL, 1500.0, 80.0, 80.0, name) * math.sqrt(2)
    assert 0.6 * values[0] < askew < 1.02 * values[0]
    assert growth(PEDESTAL, 1500.0, 40.0, 0.0, name) == pytest.approx(2 * values[0], rel=1e-9)
    more = PEDESTAL.replaced(diameter=0.028)
    assert growth(more, 1500.0, 80.0, 0.0, name) > values[0]


@pytest.mark.parametrize("name", NAMES)
def test_the_check_of_a_pad(name: str) -> None:
    project = edited(one_pad(load=Load(V=900.0, Hx=60.0, My=90.0), pedestal=PEDESTAL), ("standards", "concrete"), name)
    found = evaluate_pad(project, project.pads[0])
    result = found.check("pedestal")
    N = 900 + 25 * 0.36 * 0.9
    moment = 90 + 60 * 0.7
    # the least eccentricity about the other axis
    e = {"EN 1992-1-1:2004": max(0.6 / 30, 0.02), "ACI 318-19": 0.0, "AS 3600:2018": 0.03}[name]
    expected = 1 / min(growth(PEDESTAL, N, e * N, moment, name), growth(PEDESTAL, N, 0.0, moment, name))
    assert result.ratio == pytest.approx(expected, rel=1e-6)
    assert result.demand == pytest.approx(math.hypot(moment, e * N), rel=1e-9)
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
        NAMES[1]: (2 * length / 0.09, 22.0),
        NAMES[2]: (2.2 * length / 0.09, 22.0),
    }[name]
    assert (found.demand, found.capacity) == pytest.approx(expected, rel=1e-3)
    assert found.state is State.FAILS
    assert "second-order" in found.message
    low = edited(project, ("pads", "P", "pedestal", "top"), 0.2)
    assert evaluate_pad(low, low.pads[0]).check("pedestal-slender").state is State.HOLDS


@pytest.mark.parametrize(("name", "greatest"), [(NAMES[0], 0.6 * 400), (NAMES[1], 16 * 20), (NAMES[2], 15 * 20)])
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
    assert line.direction == pytest.approx(math.degrees(math.atan2(0.02 * 908.1, 132)), abs=1e-6)
    drawing = pedestal_drawing(line, project.showing, 1.6)
    assert any("axial force" in text for text in drawing.texts)
    assert interaction_line(one_pad(), one_pad().pads[0]) is None
    assert "no pedestal" in pedestal_drawing(None, project.showing, 1.6).shapes[0].text  # type: ignore[union-attr]


def test_an_axial_force_alone_is_never_nothing() -> None:
    """A concentric force has its least eccentricity (EN, AS); by ACI it counts against its own cap."""
    for name in NAMES:
        project = edited(one_pad(load=Load(V=3500.0), pedestal=PEDESTAL), ("standards", "concrete"), name)
        found = evaluate_pad(project, project.pads[0]).check("pedestal")
        assert found.ratio is not None
        assert found.ratio > 0.2
        assert ("least eccentricity" in found.message) == (name != NAMES[1])


def test_opposite_moments_resist_alike() -> None:
    for bars in (4, 5, 6, 8, 10, 12, 14):
        pedestal = PEDESTAL.replaced(size_y=0.9, bars=bars)
        at = bar_places(pedestal, COVER)
        assert len(at) == bars - bars % 2  # where an odd one stands nobody says
        corners = {(sx * 0.23, sy * 0.38) for sx in (-1, 1) for sy in (-1, 1)}
        assert corners <= {(round(float(x), 9), round(float(y), 9)) for x, y in at}
        if bars % 2 == 0:
            values = [growth(pedestal, 900.0, sx * 60.0, sy * 90.0) for sx in (-1, 1) for sy in (-1, 1)]
            assert values == pytest.approx([values[0]] * 4, rel=1e-9)


def test_a_pedestal_has_its_own_cover_concrete_and_most_steel() -> None:
    project = one_pad(load=Load(V=3000.0, My=250.0), pedestal=PEDESTAL)

    def ratio(pedestal: Pedestal, check: str = "pedestal") -> float:
        changed = edited(project, ("pads", "P", "pedestal"), pedestal)
        found = evaluate_pad(changed, changed.pads[0]).check(check)
        assert found.ratio is not None
        return found.ratio

    assert ratio(PEDESTAL.replaced(strength=50.0)) < ratio(PEDESTAL) < ratio(PEDESTAL.replaced(strength=20.0))
    assert ratio(PEDESTAL.replaced(cover=0.03)) < ratio(PEDESTAL) < ratio(PEDESTAL.replaced(cover=0.09))
    crowded = PEDESTAL.replaced(bars=40, diameter=0.025)
    assert ratio(crowded, "pedestal-steel") == pytest.approx(40 * math.pi * 25**2 / 4 / (0.04 * 360_000))


def test_the_concrete_bears_a_tenth_less_where_the_pressed_part_narrows() -> None:
    """EN 1992-1-1 3.1.7(3): a genuine step from one axis to the slightest turn of it."""
    straight = growth(PEDESTAL, 2000.0, 0.0, 100.0)
    turned = growth(PEDESTAL, 2000.0, 1e-3, 100.0)
    assert 0.85 * straight < turned < 0.97 * straight
    for name in NAMES[1:]:
        assert growth(PEDESTAL, 2000.0, 1e-6, 100.0, name) == pytest.approx(
            growth(PEDESTAL, 2000.0, 0.0, 100.0, name), rel=1e-6
        )
