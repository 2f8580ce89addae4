"""Concrete: standard's rules, sections, perimeters, bars."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import CheckResult, State
from korbent.core.concrete.flexure import required_steel
from korbent.core.concrete.pad import effective_depths
from korbent.core.concrete.perimeter import control_perimeter
from korbent.core.concrete.sections import SIDES, forces_beyond
from korbent.core.concrete.standards.en1992 import EN1992
from korbent.core.concrete.standards.en1992.section import NationalValues
from korbent.core.concrete.standards.registry import standard_of
from korbent.core.contact.rectangle import linear_no_tension
from korbent.core.evaluate import evaluate
from korbent.core.geometry import BarArrays, pad_geometry, table
from korbent.core.model import Bars, Load, Project, Reinforcement, Settings, edited
from korbent.core.working import SILENT
from korbent.verification.pad import one_pad

STANDARD = EN1992()
ORDINARY = np.array([False])


def found(project: Project, check: str) -> CheckResult:
    return evaluate(project).pads[0].check(check)


def steel(moment: float, d: float = 0.45, fck: float = 30.0) -> tuple[float, float]:
    fcd, fyd = STANDARD.strengths(fck, 500.0, ORDINARY, SILENT)
    required, deep = required_steel(STANDARD, np.array([moment]), np.array([d]), fck, fcd, fyd, SILENT)
    return float(required[0]), float(deep[0])


# ---------------------------------------------------------------- the standard


def test_the_registry_knows_the_standard_by_the_name_in_the_model() -> None:
    assert standard_of(Project().standards.concrete, Settings()).name == STANDARD.name


@given(st.floats(1.0, 500.0))
def test_more_moment_needs_more_steel_and_depth_saves_it(moment: float) -> None:
    assert steel(moment)[0] < steel(moment * 1.05)[0]
    assert steel(moment, d=0.55)[0] < steel(moment, d=0.45)[0]


@given(st.floats(1.0, 700.0), st.sampled_from([20.0, 30.0, 50.0, 70.0]))
def test_the_steel_found_resists_the_moment(moment: float, fck: float) -> None:
    required, deep = steel(moment, fck=fck)
    if deep <= 1.0:
        eta = 1.0 - max(fck - 50, 0) / 200
        force = required * 500 / 1.15 / 1000
        block = force / (eta * fck / 1.5 * 1000)
        assert force * (0.45 - block / 2) == pytest.approx(moment, rel=1e-9)
    else:
        assert required == pytest.approx(steel(moment * 2, fck=fck)[0])


def test_strengths_in_accidental_situations() -> None:
    fcd, fyd = EN1992(NationalValues(alpha_cc=0.85)).strengths(30.0, 500.0, np.array([False, True]), SILENT)
    assert fcd == pytest.approx([0.85 * 20, 0.85 * 25])
    assert fyd == pytest.approx([500 / 1.15, 500.0])


def test_shear_strength_has_a_size_effect_and_a_least_value() -> None:
    thin, thick = (
        float(STANDARD.shear_strength(np.array([d]), 30.0, np.array([0.004]), ORDINARY, SILENT)[0]) for d in (0.2, 0.8)
    )
    assert thin > thick
    bare = STANDARD.shear_strength(np.array([0.5]), 30.0, np.array([0.0]), ORDINARY, SILENT)[0]
    k = 1 + math.sqrt(0.2 / 0.5)
    assert bare == pytest.approx(0.035 * k**1.5 * math.sqrt(30))
    rich = [
        float(STANDARD.shear_strength(np.array([0.5]), 30.0, np.array([r]), ORDINARY, SILENT)[0]) for r in (0.02, 0.05)
    ]
    assert rich[0] == rich[1]


@pytest.mark.parametrize(("ratio", "k"), [(0.2, 0.45), (0.5, 0.45), (1.0, 0.6), (1.5, 0.65), (2.0, 0.7), (5.0, 0.8)])
def test_share_of_a_moment_by_uneven_shear(ratio: float, k: float) -> None:
    assert float(STANDARD.moment_share(np.array(ratio))) == pytest.approx(k)


def test_least_steel_never_below_its_floor() -> None:
    weak = STANDARD.minimum_steel(np.array([0.5]), np.array([0.6]), 12.0, 500.0, SILENT)[0]
    assert weak == pytest.approx(0.0013 * 0.5e6)
    assert STANDARD.minimum_steel(np.array([0.5]), np.array([0.6]), 90.0, 500.0, SILENT)[0] > 2 * weak


@pytest.mark.parametrize(("h", "spacing"), [(0.1, 0.2), (0.12, 0.24), (0.2, 0.25), (0.8, 0.25)])
def test_greatest_spacing(h: float, spacing: float) -> None:
    assert STANDARD.greatest_spacing(np.array([h]), np.zeros(1), SILENT)[0] == pytest.approx(spacing)


# ---------------------------------------------------------------- sections


@given(st.floats(-0.4, 0.4), st.floats(-0.4, 0.4))
def test_what_is_beyond_two_opposite_sections_and_between_is_the_whole(u: float, v: float) -> None:
    """Sections through the column's axis from both sides share the base between them."""
    pad = one_pad(offset_x=0.2).pads[0]
    g = pad_geometry((pad,), (one_pad().load_point("C"),), np.zeros(1, dtype=int), table(pad))
    contact = linear_no_tension(
        np.array([[500.0]]),
        np.array([[-500.0 * v * 2.4]]),
        np.array([[500.0 * u * 2.0]]),
        np.array([[2.0]]),
        np.array([[2.4]]),
    )
    to_axis = np.array([-0.2, -0.2, -0.2, -0.2]).reshape(4, 1, 1)
    found = forces_beyond(g, contact, np.array([[0.0]]), to_axis)
    pressed = dict(zip(SIDES, found.pressed[:, 0, 0]))
    assert pressed["+x"] + pressed["−x"] == pytest.approx(500.0)
    assert pressed["+y"] + pressed["−y"] == pytest.approx(500.0)
    moments = dict(zip(SIDES, found.pressed_moment[:, 0, 0]))
    assert moments["+x"] - moments["−x"] == pytest.approx(500 * (u * 2.0 - 0.2), abs=1e-6)
    assert moments["+y"] - moments["−y"] == pytest.approx(500 * v * 2.4, abs=1e-6)


def test_a_section_beyond_the_edge_carries_nothing() -> None:
    assert found(one_pad(thickness=1.1, level=-1.8), "shear-x").demand == pytest.approx(0.0)


def test_weights_cancel_under_a_base_without_column_load() -> None:
    check = found(one_pad(load=Load(V=1e-6)), "bottom-x")
    assert check.demand == pytest.approx(0.0, abs=1e-3)


def test_layers_and_cover() -> None:
    x, y = (BarArrays(np.array([[d]]), np.array([[0.2]])) for d in (0.016, 0.02))
    h = np.array([[0.5]])
    d_x, d_y = effective_depths(h, 0.05, "x", x, y)
    assert (d_x[0, 0], d_y[0, 0]) == pytest.approx((0.442, 0.424))
    d_x, d_y = effective_depths(h, 0.05, "y", x, y)
    assert (d_x[0, 0], d_y[0, 0]) == pytest.approx((0.422, 0.44))


def test_bars_by_diameter_and_spacing() -> None:
    assert Bars(diameter=0.016, spacing=0.2).area_in(2.0) * 1e6 == pytest.approx(math.pi * 64 / 0.2)
    check = found(one_pad(), "minimum-x")
    assert check.capacity == pytest.approx(math.pi * 64 / 0.2)
    assert (
        found(one_pad(reinforcement=Reinforcement(bottom_x=Bars(diameter=0.01, spacing=0.45))), "spacing-x").state
        is State.FAILS
    )


@pytest.mark.parametrize("check", ["bottom-x", "shear-x", "punching", "punching-face"])
def test_thicker_is_never_worse(check: str) -> None:
    ratios = [found(one_pad(thickness=h, level=-1.2), check).ratio or 0.0 for h in (0.4, 0.5, 0.6)]
    assert ratios == sorted(ratios, reverse=True)


def test_stronger_concrete_helps_punching() -> None:
    strong = edited(one_pad(), ("settings", "concrete_strength"), 45.0)
    for check in ("punching", "punching-face", "shear-x"):
        assert (found(strong, check).ratio or 0) < (found(one_pad(), check).ratio or 0)


def test_a_moment_makes_punching_worse() -> None:
    plain = found(one_pad(load=Load(V=600)), "punching").ratio or 0
    assert (found(one_pad(load=Load(V=600, My=80)), "punching").ratio or 0) > plain


def test_a_section_too_weak_in_compression_says_thicken() -> None:
    check = found(one_pad(load=Load(V=9000.0), thickness=0.3), "bottom-x")
    assert check.state is State.FAILS
    assert "thicken" in check.message


def test_a_column_at_the_edge_punches_towards_it() -> None:
    """The perimeter opens to the edge: shorter, and the ratio rises."""
    middle, edge = (found(one_pad(load=Load(V=600), offset_x=o), "punching").ratio or 0 for o in (0.0, 0.7))
    assert edge > middle


def test_the_turned_column_is_said() -> None:
    project = edited(one_pad(), ("actions", "load_points", "C", "rotation"), 30.0)
    check = found(project, "punching")
    assert check.state is State.WARNS
    assert "square of equal area" in check.message


# ---------------------------------------------------------------- perimeters


@given(st.floats(0.2, 0.8), st.floats(0.2, 0.8), st.floats(0.05, 1.2), st.tuples(*[st.floats(0.0, 1.5)] * 4))
def test_perimeters(c_x: float, c_y: float, a: float, clear: tuple[float, float, float, float]) -> None:
    sides = tuple(np.array([[e]]) for e in clear)
    around = control_perimeter(c_x, c_y, sides, np.array([[[a]]]))  # type: ignore[arg-type]
    w, e, s, n = (a <= c + 1e-9 for c in clear)
    assert bool(around.exists.all()) == ((w or e) and (s or n))
    if not around.exists.all():
        return
    # outline: within the base, its area by the shoelace formula (arcs as chords), its middle within it
    x, y = (v.ravel() for v in around.outline())
    left, right, low, high = -c_x / 2 - clear[0], c_x / 2 + clear[1], -c_y / 2 - clear[2], c_y / 2 + clear[3]
    assert x.min() >= left - 1e-9
    assert x.max() <= right + 1e-9
    assert y.min() >= low - 1e-9
    assert y.max() <= high + 1e-9
    area = float(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y) / 2)
    assert area == pytest.approx(around.area.item(), rel=0.01)
    assert x.min() <= around.area_x.item() <= x.max()
    # the whole outline is the perimeter and what lies on the edges
    lengths = np.hypot(np.roll(x, -1) - x, np.roll(y, -1) - y)
    on_edge = 0.0
    for closed, at, values, others in ((w, left, x, y), (e, right, x, y), (s, low, y, x), (n, high, y, x)):
        if not closed:
            along = np.isclose(values, at) & np.isclose(np.roll(values, -1), at)
            on_edge += float(np.abs(np.roll(others, -1) - others)[along].sum())
    assert lengths.sum() - on_edge == pytest.approx(around.length.item(), rel=0.01, abs=1e-9)
    assert around.W_x.item() > 0
    assert around.W_y.item() > 0


def test_a_closed_perimeter_is_symmetric() -> None:
    wide = tuple(np.array([[5.0]]) for _ in range(4))
    around = control_perimeter(0.4, 0.4, wide, np.array([[[0.5]]]))  # type: ignore[arg-type]
    assert around.x.item() == pytest.approx(0.0, abs=1e-12)
    assert around.W_x.item() == pytest.approx(around.W_y.item())
