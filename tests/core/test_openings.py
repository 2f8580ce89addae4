"""Openings near columns, round columns, and the search of perimeters."""

import math
from typing import Any

import numpy as np
import pytest

from korbent.core.checks import State
from korbent.core.concrete.openings import weakened_perimeter, weakened_section
from korbent.core.concrete.perimeter import control_perimeter
from korbent.core.concrete.standards.registry import NAMES
from korbent.core.explain.working import working
from korbent.core.geometry import pad_geometry, table
from korbent.core.model import (
    Bars,
    Load,
    LoadPoint,
    Opening,
    Project,
    Reinforcement,
    edited,
)
from korbent.verification.pad import one_pad
from tests.core.concrete_pads import ACI, AS, EN, by, check

# openings


def geometry(openings: tuple[Opening, ...], **changes: Any) -> Any:
    pad = one_pad(openings=openings, **changes).pads[0]
    point = LoadPoint(name="C", x=0, y=0, size_x=0.4, size_y=0.4, level=0.0)
    return pad_geometry((pad,), (point,), np.zeros(1, dtype=int), table(pad))


FAR = np.full((1, 1), 9.0)


def test_the_perimeter_loses_what_lies_between_the_tangents() -> None:
    """A 0.15 m pipe 0.5 m from the middle hides 2 asin(0.15) of the turn; on the straight side that is 2 a tan of half
    of it."""
    a = np.full((1, 1, 1), 0.4)
    whole = control_perimeter(np.full((1, 1), 0.4), np.full((1, 1), 0.4), (FAR, FAR, FAR, FAR), a)
    same = weakened_perimeter(whole, geometry(()), np.full((1, 1), 3.0))
    assert same is whole
    g = geometry((Opening(x=0.5, y=0.0, diameter=0.15),))
    weak = weakened_perimeter(whole, g, np.full((1, 1), 3.0))
    hidden = 2 * 0.6 * math.tan(math.asin(0.15))
    assert float(weak.length[0, 0, 0]) == pytest.approx(float(whole.length[0, 0, 0]) - hidden, abs=0.02)
    assert float(weak.x[0, 0, 0]) < -0.02  # the middle moves away from the opening
    assert float(weak.y[0, 0, 0]) == pytest.approx(0.0, abs=1e-9)
    far = weakened_perimeter(whole, g, np.full((1, 1), 0.1))
    assert float(far.length[0, 0, 0]) == pytest.approx(float(whole.length[0, 0, 0]), rel=1e-9)
    assert float(far.W_x[0, 0, 0]) == pytest.approx(float(whole.W_x[0, 0, 0]), rel=1e-3)


@pytest.mark.parametrize("standard", NAMES)
def test_an_opening_beside_the_column_weakens_and_one_far_off_does_not(standard: str) -> None:
    load, far_off = Load(V=900.0), Opening(x=3.7, y=3.7, diameter=0.1)
    wide: dict[str, Any] = {"width": 8.0, "length": 8.0, "thickness": 0.45, "load": load}
    whole = check(by(standard, **wide), "punching")
    near = check(by(standard, openings=(Opening(x=0.4, y=0.0, diameter=0.2),), **wide), "punching")
    away = check(by(standard, openings=(far_off,), **wide), "punching")
    assert (near.ratio or 0) > 1.05 * (whole.ratio or 0)
    assert away.ratio == pytest.approx(whole.ratio or 0, rel=2e-3)
    counted = by(standard, {"opening_reach": "all"}, openings=(far_off,), **wide)
    assert (check(counted, "punching").ratio or 0) >= (away.ratio or 0)


def test_a_critical_section_without_openings_is_summed_to_the_same() -> None:
    from korbent.core.concrete.critical_section import critical_section

    one = np.ones((1, 1))
    section = critical_section(0.4 * one, 0.4 * one, (FAR, FAR, FAR, FAR), 0.2 * one)
    g = geometry((Opening(x=5.0, y=5.0, diameter=0.1),))
    same = weakened_section(section, (one, one, one, one), g, 0.1 * one)
    for name in ("length", "x", "y", "second_x", "second_y", "reach_x", "parallel_x"):
        assert float(getattr(same, name)[0, 0]) == pytest.approx(
            float(getattr(section, name)[0, 0]), rel=1e-3, abs=1e-9
        )


# round columns


def rounded(project: Project, diameter: float) -> Project:
    point = project.actions.load_points[0].replaced(kind="round_concrete_column", size_x=diameter)
    return edited(project, ("actions", "load_points"), (point,))


def test_a_round_column_has_one_diameter() -> None:
    point = LoadPoint(name="C", x=0, y=0, size_x=0.4, size_y=0.6, level=0.0)
    assert point.replaced(kind="round_concrete_column").size_y == 0.4
    with pytest.raises(ValueError, match="one diameter"):
        LoadPoint(name="C", kind="round_concrete_column", x=0, y=0, size_x=0.4, size_y=0.6, level=0.0)


def test_punching_of_a_round_column_is_on_a_circle() -> None:
    """EN: V on pi (D + 2 a), and (6.42): W = (D + 2 a)^2 for a circle, by hand at the distance found."""
    D, load = 0.5, Load(V=900.0, My=40.0)
    project = rounded(by(load=load), D)
    found = working(project, project.pads[0], "punching")
    value = {s.symbol: float(np.ravel(s.value)[0]) for s in found.recording.steps if s.scope.endswith("perimeter")}  # type: ignore[union-attr]
    a, d = value["a"], (0.442 + 0.426) / 2
    assert value["u"] == pytest.approx(math.pi * (D + 2 * a), rel=1e-9)
    assert value["W_y"] == pytest.approx((D + 2 * a) ** 2, rel=1e-9)
    net = (900 - 18 * 0.7 * math.pi * D * D / 4) / 4.8
    inside = math.pi * (D / 2 + a) ** 2 * net
    stress = ((900 - inside) / value["u"] + 0.6 * 40 / value["W_y"]) / d / 1000
    assert check(project, "punching").demand == pytest.approx(stress, rel=2e-3)
    face = check(project, "punching-face")
    u1, W1 = math.pi * (D + 4 * d), (D + 4 * d) ** 2
    under = net * math.pi * D * D / 4
    assert face.demand == pytest.approx((900 - under + u1 * 0.6 * 40 / W1) / (math.pi * D * d) / 1000, rel=5e-3)


def test_round_columns_by_the_other_standards() -> None:
    D, d = 0.5, (0.442 + 0.426) / 2
    aci, au = (rounded(by(s, load=Load(V=900.0)), D) for s in (ACI, AS))
    net = (900 - 18 * 0.7 * math.pi * D * D / 4) / 4.8
    side = D * math.sqrt(math.pi) / 2 + d
    assert check(aci, "punching").demand == pytest.approx((900 - side**2 * net) / (4 * side * d) / 1000, rel=1e-6)
    side = math.pi * (D + d) / 4
    assert check(au, "punching").demand == pytest.approx((900 - side**2 * net) / (4 * side * d) / 1000, rel=1e-6)


# the search of EN 1992


@pytest.mark.long
@pytest.mark.parametrize("place", ["interior", "edge", "corner"])
@pytest.mark.parametrize("pressure", ["concentric", "two-way", "partial"])
def test_no_other_perimeter_is_worse_than_the_one_found(place: str, pressure: str) -> None:
    """Thirty distances between 0.1 d and 2 d, each by walking its perimeter over cells: none beyond the search by more
    than its step."""
    from korbent.verification.concrete_matrix import D_X, D_Y, PLACES, _punching, _steps

    found = _steps("EN", place, pressure, "punching")["worst"]
    d = (D_X + D_Y) / 2
    o_x, o_y = PLACES[place]
    # as far as a perimeter is not open to two edges that face each other
    room = min(max(1.0 + o_x, 1.0 - o_x) - 0.2, max(1.2 + o_y, 1.2 - o_y) - 0.2)
    for a in np.linspace(0.1 * d, min(2 * d, room), 30):
        _, stress, strength = _punching("EN", place, pressure, float(a))
        assert stress / strength <= found * 1.01 + 1e-6


@pytest.mark.parametrize(("standard", "least"), [(EN, 21.0), (ACI, 25.4), (AS, 25.0)])
def test_bars_may_not_lie_too_close(standard: str, least: float) -> None:
    close = Bars(diameter=0.012, spacing=0.03)
    found = check(by(standard, reinforcement=Reinforcement(bottom_x=close)), "spacing-x")
    assert found.state is State.FAILS
    assert found.message == "clear distance"
    assert (found.demand, found.capacity) == pytest.approx((least, 18.0))
    wide = check(by(standard), "spacing-x")
    assert wide.demand == pytest.approx(200.0)
    assert wide.state is State.HOLDS


@pytest.mark.parametrize("standard", NAMES)
def test_least_steel_above_is_a_choice(standard: str) -> None:
    """Where the top is in tension it may be asked for what is least below, as far as that is not much more than what is
    needed; where it is not, nothing is asked for."""
    top = Bars(diameter=0.012, spacing=0.3)
    r = Reinforcement(
        bottom_x=Bars(diameter=0.016, spacing=0.1),
        bottom_y=Bars(diameter=0.016, spacing=0.1),
        top_x=top,
        top_y=top,
    )
    project = by(standard, load=Load(V=250.0, My=150.0), reinforcement=r)
    asked = edited(project, ("settings", "top_least"), "by_standard")
    free, held = check(project, "top-x"), check(asked, "top-x")
    assert free.state is State.HOLDS
    d = 0.5 - 0.05 - 0.006
    least = {
        EN: max(0.26 * 0.3 * 30 ** (2 / 3) / 500, 0.0013) * d * 1e6,
        ACI: 0.0018 * 0.5e6,
        "ACI 318-14": 0.0018 * 60_000 / (500 * 145.0377377) * 0.5e6,
        AS: 0.19 * (0.5 / d) ** 2 * 0.6 * math.sqrt(30) / 500 * d * 1e6,
    }[standard]
    # nothing jumps where the top comes into tension: no more than 1.2 (EN) or 4/3 times what is needed
    share = 1.2 if standard == EN else 4 / 3
    assert held.demand == pytest.approx(min(least, share * (free.demand or 0.0)), rel=1e-9)
    assert (held.demand or 0.0) > (free.demand or 0.0) > 0.0
    assert check(asked, "top-y").state is State.NOT_APPLICABLE
    found = working(asked, asked.pads[0], "top-x")
    recording = found.recording  # type: ignore[union-attr]
    for index in recording.leading_to(found.step):  # type: ignore[union-attr]
        step = recording.steps[index]
        if step.formula:
            np.testing.assert_allclose(
                np.broadcast_to(recording.evaluated(index), step.value.shape), step.value, rtol=1e-9
            )


@pytest.mark.long
@pytest.mark.parametrize("standard", [EN, *(pytest.param(s, marks=pytest.mark.long) for s in (ACI, AS))])
@pytest.mark.parametrize("corner", [False, True], ids=["edge", "corner"])
def test_punching_does_not_jump_as_a_column_nears_an_edge(standard: str, corner: bool) -> None:
    """In steps of 10 mm towards an edge, and towards a corner: the closed section gives way to the open ones without a
    jump."""
    ratios = []
    for k in range(0, 80, 2):
        offset = k / 100
        project = by(standard, load=Load(V=640.0), offset_x=offset, offset_y=1.2 * offset if corner else 0.0)
        ratios.append(check(project, "punching").ratio or 0.0)
    steps = np.abs(np.diff(ratios))
    assert steps.max() < 0.06
    assert max(ratios) > 1.05 * ratios[0]


@pytest.mark.parametrize("standard", [EN, ACI, AS])
def test_a_round_base_on_which_no_section_fits_does_not_hold(standard: str) -> None:
    off = check(by(standard, load=Load(V=400.0), shape="circle", width=2.4, length=2.4, offset_x=0.95), "punching")
    assert off.state is State.CANNOT
    assert "no critical section around a column off the middle fits" in off.message


@pytest.mark.parametrize("standard", [EN, ACI, AS])
def test_a_column_that_pulls_is_said(standard: str) -> None:
    project = by(standard, load=Load(V=400.0))
    combinations = (
        *project.actions.combinations,
        project.actions.combinations[0].replaced(number=9, factors={"G": -0.2}, serves=("concrete",)),
    )
    pulled = project.replaced(actions=project.actions.replaced(combinations=combinations))
    found = check(pulled, "punching")
    assert found.state is State.WARNS
    assert "the column pulls" in found.message
    assert "pulls" not in check(project, "punching").message
