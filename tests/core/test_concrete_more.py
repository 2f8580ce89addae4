"""Bearing, dowels, cover, side bars, plain concrete, bands, openings, round columns: by hand in the standards' own units."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import CheckResult, State
from korbent.core.concrete.aci318 import PSI
from korbent.core.concrete.block import moment_of_steel, steel_for_moment
from korbent.core.concrete.demand import along_base, steel_along
from korbent.core.concrete.openings import weakened_perimeter, weakened_section
from korbent.core.concrete.perimeter import control_perimeter
from korbent.core.concrete.standard import NAMES, standard_of
from korbent.core.evaluate import evaluate_pad, working
from korbent.core.geometry import pad_geometry, table
from korbent.core.model import (
    Bars,
    Dowels,
    Load,
    LoadPoint,
    Opening,
    Pedestal,
    Project,
    Reinforcement,
    Settings,
    edited,
)
from korbent.core.working import SILENT, Recording
from korbent.verification.pad import one_pad

EN, ACI, AS = NAMES
INCH = 25.4


def by(standard: str = EN, settings: dict[str, Any] | None = None, **changes: Any) -> Project:
    project = edited(one_pad(**changes), ("standards", "concrete"), standard)
    for name, value in (settings or {}).items():
        project = edited(project, ("settings", name), value)
    return project


def check(project: Project, name: str) -> CheckResult:
    return evaluate_pad(project, project.pads[0]).check(name)


# column on the base


@pytest.mark.parametrize(("standard", "spread", "strength"), [
    # 0.4 m column, h = 0.5 m, 0.8 m to the nearest edge
    (EN, 1 + 0.5 / 0.4, 20.0), (ACI, 2.0, 0.65 * 0.85 * 30), (AS, 2.0, 0.6 * 0.9 * 30),
])  # fmt: skip
def test_a_column_on_the_middle_of_the_base(standard: str, spread: float, strength: float) -> None:
    found = check(by(standard, load=Load(V=1200.0)), "bearing-concrete")
    assert found.demand == pytest.approx(1200 / 0.16 / 1000)
    assert found.capacity == pytest.approx(spread * strength)


@pytest.mark.parametrize("standard", NAMES)
def test_at_an_edge_nothing_spreads(standard: str) -> None:
    found = check(by(standard, load=Load(V=300.0), offset_x=0.8), "bearing-concrete")
    middle = check(by(standard, load=Load(V=300.0)), "bearing-concrete")
    assert found.capacity is not None
    assert middle.capacity is not None
    assert found.capacity < middle.capacity
    assert found.capacity == pytest.approx({EN: 20.0, ACI: 0.65 * 0.85 * 30, AS: 0.6 * 0.9 * 30}[standard])


# dowels


def doweled(standard: str = EN, **changes: Any) -> Project:
    return by(standard, dowels=Dowels(number=4, diameter=0.020), **changes)


def test_without_dowels_nothing_is_said_of_them() -> None:
    for name in ("dowels", "dowels-steel", "dowels-anchorage"):
        assert check(by(), name).state is State.NOT_APPLICABLE


@pytest.mark.parametrize(("standard", "share"), [(EN, 0.002), (ACI, 0.005), (AS, 0.01)])
def test_least_dowels(standard: str, share: float) -> None:
    found = check(doweled(standard), "dowels-steel")
    assert found.demand == pytest.approx(share * 160_000)
    assert found.capacity == pytest.approx(4 * math.pi * 100)


@pytest.mark.parametrize("standard", NAMES)
def test_dowels_carry_what_a_pedestal_of_their_size_would(standard: str) -> None:
    """The joint is a section of the column with the dowels: the same as a pedestal with these sizes and bars."""
    load = Load(V=500.0, Hx=10.0, My=60.0)
    joint = check(doweled(standard, load=load), "dowels")
    # the pedestal ends just above the base, so that it weighs next to nothing
    as_pedestal = by(
        standard,
        load=load,
        pedestal=Pedestal(size_x=0.4, size_y=0.4, top=-0.7 + 1e-9, bars=4, diameter=0.020),
    )
    assert joint.ratio == pytest.approx(check(as_pedestal, "pedestal").ratio or 0, rel=1e-6)


def test_anchorage_of_dowels_in_compression_and_in_tension() -> None:
    there = 500 - 50 - 32
    pressed = check(doweled(load=Load(V=900.0)), "dowels-anchorage")
    assert pressed.capacity == pytest.approx(there)
    # the concrete bears it all: the least length counts, 10 diameters
    assert pressed.demand == pytest.approx(200.0)
    pulled = check(doweled(load=Load(V=100.0, My=80.0)), "dowels-anchorage")
    fctm = 0.3 * 30 ** (2 / 3)
    f_bd = 2.25 * 0.7 * fctm / 1.5
    share = min(1.0, (80 / 0.4 / 0.8 - 50) / (2 * math.pi * 100 * (500 / 1.15) / 1000))
    assert pulled.demand == pytest.approx(max(0.7 * 20 / 4 * share * 500 / 1.15 / f_bd, 200.0), rel=1e-6)
    aci = check(doweled(ACI, load=Load(V=100.0, My=80.0)), "dowels-anchorage")
    psi_c = 30 * PSI / 15000 + 0.6
    hook = 500 * PSI * psi_c / (55 * math.sqrt(30 * PSI)) * (20 / INCH) ** 1.5 * INCH
    assert aci.demand == pytest.approx(max(hook, 8 * 20, 6 * INCH), rel=1e-6)
    australian = check(doweled(AS, load=Load(V=100.0, My=80.0)), "dowels-anchorage")
    assert australian.demand == pytest.approx(
        max(0.5 * 500 * 20 / (1.12 * math.sqrt(30)), 0.058 * 500 * 20) / 2, rel=1e-6
    )


# cover and sides


@pytest.mark.parametrize(("standard", "against", "needed"), [
    (EN, "blinding", 40.0), (EN, "soil", 75.0), (ACI, "blinding", 1.5 * INCH), (ACI, "soil", 3 * INCH), (AS, "blinding", 40.0), (AS, "soil", 50.0),
])  # fmt: skip
def test_cover_by_the_ground(standard: str, against: str, needed: float) -> None:
    found = check(
        by(
            standard,
            {"cast_against": against},
            reinforcement=Reinforcement(bottom_x=Bars(diameter=0.012, spacing=0.2)),
        ),
        "cover",
    )
    assert found.demand == pytest.approx(needed)
    assert found.state is (State.HOLDS if needed <= 50 else State.FAILS)


def test_bars_along_the_sides_of_thick_bases() -> None:
    assert check(by(thickness=0.7), "side-bars").state is State.NOT_APPLICABLE
    thick = by(thickness=1.1, level=-1.8)
    bare = check(thick, "side-bars")
    assert bare.state is State.WARNS
    assert "no bars along its sides" in bare.message
    bars = Reinforcement(sides=Bars(diameter=0.016, spacing=0.2))
    found = check(by(thickness=1.1, level=-1.8, reinforcement=bars), "side-bars")
    h_c = 2.5 * (0.05 + 0.008)
    assert found.demand == pytest.approx(0.5 * 0.3 * 30 ** (2 / 3) * h_c * 1e6 / 500, rel=1e-6)
    assert found.capacity == pytest.approx(math.pi * 64 / 0.2, rel=1e-9)
    wide = check(
        by(
            AS,
            thickness=0.9,
            level=-1.8,
            reinforcement=Reinforcement(sides=Bars(diameter=0.012, spacing=0.3)),
        ),
        "side-bars",
    )
    assert wide.ratio == pytest.approx(1.5)


# plain concrete


def plain_pad(standard: str, **changes: Any) -> Project:
    return by(
        standard,
        {"base_concrete": "plain", "concrete_strength": 30.0},
        width=1.2,
        length=1.2,
        thickness=0.6,
        load=Load(V=400.0),
        **changes,
    )


@pytest.mark.parametrize("standard", NAMES)
def test_plain_bending_and_shear(standard: str) -> None:
    """Uniform net pressure on a cantilever of 0.4 m; the section less what the standard does not count."""
    project = plain_pad(standard)
    net = 400.0 / 1.44 + 18 * 0.6 * (-0.16 / 1.44)
    depth = {EN: 0.85 * 0.6, ACI: 0.6, AS: 0.6}[standard]
    root = math.sqrt(30 * PSI)
    f_ctd = 0.8 * 0.7 * 0.3 * 30 ** (2 / 3) / 1.5
    strength = {EN: f_ctd, ACI: 0.6 * 5 * root / PSI, AS: 0.6 * 0.6 * math.sqrt(30)}[standard]
    bending = check(project, "plain-x")
    assert bending.demand == pytest.approx(6 * net * 0.4**2 / 2 / depth**2 / 1000, rel=1e-6)
    assert bending.capacity == pytest.approx(strength, rel=1e-9)
    shear = check(project, "plain-shear-x")
    assert shear.demand == pytest.approx(0.0, abs=1e-9)  # the section at its thickness lies beyond the edge
    wide = edited(edited(project, ("pads", "P", "width"), 3.0), ("pads", "P", "length"), 3.0)
    assert check(wide, "plain-shear-x").demand == pytest.approx(
        (400.0 - 18 * 0.6 * 0.16) / 9 * (1.3 - depth) / depth / 1000, rel=1e-6
    )
    assert check(wide, "plain-shear-x").capacity == pytest.approx(
        {EN: f_ctd / 1.5, ACI: 0.6 * 4 / 3 * root / PSI, AS: 0.6 * 0.15 * 30 ** (1 / 3)}[standard], rel=1e-9
    )


def test_plain_punching_and_deduction() -> None:
    assert check(plain_pad(EN), "plain-punching").state is State.NOT_APPLICABLE
    wide = edited(edited(plain_pad(ACI), ("pads", "P", "width"), 3.0), ("pads", "P", "length"), 3.0)
    found = check(wide, "plain-punching")
    net = (400.0 - 18 * 0.6 * 0.16) / 9
    assert found.demand == pytest.approx((400 - 1.0 * net) / (4 * 1.0 * 0.6) / 1000, rel=1e-6)
    assert found.capacity == pytest.approx(0.6 * 2 * 4 / 3 * math.sqrt(30 * PSI) / PSI, rel=1e-9)
    on_soil = edited(wide, ("settings", "cast_against"), "soil")
    assert check(on_soil, "plain-x").demand == pytest.approx(
        (check(wide, "plain-x").demand or 0) * (0.6 / 0.55) ** 2, rel=1e-9
    )
    au = edited(edited(plain_pad(AS), ("pads", "P", "width"), 3.0), ("pads", "P", "length"), 3.0)
    assert check(au, "plain-punching").capacity == pytest.approx(0.6 * 0.2 * math.sqrt(30), rel=1e-9)


def test_a_plain_base_asks_for_no_bars_and_a_reinforced_one_for_no_tensile_strength() -> None:
    plain = evaluate_pad(plain_pad(EN), plain_pad(EN).pads[0])
    for name in ("bottom-x", "minimum-x", "anchorage-y", "cracks-x", "cover", "punching"):
        assert plain.check(name).state is State.NOT_APPLICABLE
    assert plain.check("bearing-concrete").ratio is not None
    assert not [c for c in evaluate_pad(by(), by().pads[0]).checks if c.check.id.startswith("plain")]


# bands


def test_bands_see_the_concentration_near_an_edge() -> None:
    """Partial contact over a corner: the greatest band against a sum over fine cells."""
    load = Load(V=300.0, Hx=60.0, Hy=30.0, Mx=-120.0, My=150.0)
    project = by(load=load)
    whole = edited(project, ("settings", "flexure_bands"), "whole width")
    assert (check(project, "bottom-x").demand or 0) > 1.2 * (check(whole, "bottom-x").demand or 0)
    found = working(project, project.pads[0], "bottom-x")
    moment = next(s for s in found.recording.steps if s.symbol == "m_band" and "+x" in s.scope)  # type: ignore[union-attr]
    N = 300 + 25 * 2.4 + 18 * 0.7 * (4.8 - 0.16)
    from korbent.verification.contact import solved

    contact = solved(N, (150 + 1.2 * 60) / N, -(-120 - 1.2 * 30) / N, 2.0, 2.4)
    n = 1200
    x = 0.2 + (np.arange(n) + 0.5) / n * 0.8
    y = -1.2 + (np.arange(n) + 0.5) / n * 2.4
    p = np.maximum(0.0, contact.a + contact.b * x[:, None] + contact.c * y[None, :]) - (25 * 0.5 + 18 * 0.7)
    per_line = (p * (x[:, None] - 0.2)).sum(axis=0) * 0.8 / n
    bands = per_line.reshape(4, -1).mean(axis=1)
    assert float(moment.value.max()) == pytest.approx(bands.max(), rel=1e-3)


@given(st.floats(-0.12, 0.12), st.floats(-0.12, 0.12), st.integers(2, 12))
def test_the_mean_of_all_bands_is_the_whole_width(sx: float, sy: float, count: int) -> None:
    project = by(
        load=Load(V=700.0, Hx=700 * sx, Hy=700 * sy),
        settings={"flexure_bands": "always", "flexure_band_count": count},
    )
    pad = project.pads[0]
    for axis in "xy":
        along = steel_along(project, pad, "bottom", axis)
        assert along is not None
        assert len(along.required) == len(along.at) == len(along.borders) - 1
    whole = edited(project, ("settings", "flexure_bands"), "whole width")
    for name in ("bottom-x", "bottom-y"):
        assert (check(project, name).demand or 0) >= (check(whole, name).demand or 0) - 1e-9


def test_steel_along_the_width_of_a_concentric_pad_is_even() -> None:
    project = by(load=Load(V=900.0))
    along = steel_along(project, project.pads[0], "bottom", "x")
    assert along is not None
    assert np.ptp(along.required) < 1e-6 * along.required[0]
    assert along.required[0] == pytest.approx(check(project, "bottom-x").demand or 0, rel=1e-9)
    assert steel_along(project, project.pads[0], "top", "x") is None


# moments along the base


@given(
    st.floats(200.0, 1200.0),
    st.floats(-60.0, 60.0),
    st.floats(-60.0, 60.0),
    st.floats(-0.3, 0.3),
    st.booleans(),
)
def test_shear_and_moment_vanish_at_both_ends(
    V: float, H: float, M: float, offset: float, pedestal: bool
) -> None:
    changes: dict[str, Any] = {"pedestal": Pedestal(size_x=0.5, size_y=0.5, top=0.3)} if pedestal else {}
    project = by(load=Load(V=V, Hx=H, Hy=-H / 2, Mx=M, My=M), offset_x=offset, **changes)
    for axis in "xy":
        line = along_base(project, project.pads[0], axis)
        if line is None:
            continue
        for values in (line.shear_least, line.shear_most, line.moment_least, line.moment_most):
            assert abs(values[0]) < 1e-6 * V
            assert abs(values[-1]) < 1e-6 * V


def test_the_greatest_moment_of_a_concentric_pad() -> None:
    project = by(load=Load(V=900.0))
    line = along_base(project, project.pads[0], "x")
    assert line is not None
    assert max(line.moment_most) == pytest.approx((900 - 18 * 0.7 * 0.16) * 2.0 / 8, rel=1e-6)


# openings


def geometry(openings: tuple[Opening, ...], **changes: Any) -> Any:
    pad = one_pad(openings=openings, **changes).pads[0]
    point = LoadPoint(name="C", x=0, y=0, size_x=0.4, size_y=0.4, level=0.0)
    return pad_geometry((pad,), (point,), np.zeros(1, dtype=int), table(pad))


FAR = np.full((1, 1), 9.0)


def test_the_perimeter_loses_what_lies_between_the_tangents() -> None:
    """A 0.15 m pipe 0.5 m from the middle hides 2 asin(0.15) of the turn; on the straight side that is 2 a tan of half of it."""
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
    point = project.actions.load_points[0].replaced(kind="round concrete column", size_x=diameter)
    return edited(project, ("actions", "load_points"), (point,))


def test_a_round_column_has_one_diameter() -> None:
    point = LoadPoint(name="C", x=0, y=0, size_x=0.4, size_y=0.6, level=0.0)
    assert point.replaced(kind="round concrete column").size_y == 0.4
    with pytest.raises(ValueError, match="one diameter"):
        LoadPoint(name="C", kind="round concrete column", x=0, y=0, size_x=0.4, size_y=0.6, level=0.0)


def test_punching_of_a_round_column_is_on_a_circle() -> None:
    """EN: V on pi (D + 2 a), and (6.42): W = (D + 2 a)^2 for a circle, by hand at the distance found."""
    D, load = 0.5, Load(V=900.0, My=40.0)
    project = rounded(by(load=load), D)
    found = working(project, project.pads[0], "punching")
    value = {
        s.symbol: float(np.ravel(s.value)[0]) for s in found.recording.steps if s.scope.endswith("perimeter")
    }  # type: ignore[union-attr]
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
    assert face.demand == pytest.approx(
        (900 - under + u1 * 0.6 * 40 / W1) / (math.pi * D * d) / 1000, rel=5e-3
    )


def test_round_columns_by_the_other_standards() -> None:
    D, d = 0.5, (0.442 + 0.426) / 2
    aci, au = (rounded(by(s, load=Load(V=900.0)), D) for s in (ACI, AS))
    net = (900 - 18 * 0.7 * math.pi * D * D / 4) / 4.8
    side = D * math.sqrt(math.pi) / 2 + d
    assert check(aci, "punching").demand == pytest.approx(
        (900 - side**2 * net) / (4 * side * d) / 1000, rel=1e-6
    )
    side = math.pi * (D + d) / 4
    assert check(au, "punching").demand == pytest.approx(
        (900 - side**2 * net) / (4 * side * d) / 1000, rel=1e-6
    )


# bars by number, the band of the short direction, section within the column, national values


def test_bars_by_number_are_spread_between_the_covers() -> None:
    bars = Bars(diameter=0.016, number=12)
    project = by(reinforcement=Reinforcement(bottom_x=bars, bottom_y=bars))
    assert check(project, "minimum-x").capacity == pytest.approx(12 * math.pi * 64 / 2.4, rel=1e-9)
    assert check(project, "spacing-x").demand == pytest.approx((2400 - 100 - 16) / 11, rel=1e-9)
    wider = edited(project, ("pads", "P", "length"), 3.0)
    assert check(wider, "minimum-x").capacity == pytest.approx(12 * math.pi * 64 / 3.0, rel=1e-9)
    with pytest.raises(ValueError, match="one of the two"):
        Bars(diameter=0.016)
    with pytest.raises(ValueError, match="one of the two"):
        Bars(diameter=0.016, spacing=0.2, number=5)


def test_aci_bars_of_the_short_direction() -> None:
    """13.3.3.3: evenly spaced, they are 2 beta/(beta + 1) of the steel required."""
    even = by(EN, load=Load(V=900.0), width=2.0, length=3.0)
    long_pad = edited(even, ("standards", "concrete"), ACI)
    short, long_ = check(long_pad, "bottom-x"), check(long_pad, "bottom-y")
    found = working(long_pad, long_pad.pads[0], "bottom-x")
    plain = next(s for s in found.recording.steps if s.symbol == "A_s1")  # type: ignore[union-attr]
    assert short.demand == pytest.approx(float(np.max(plain.value)) * 2 * 1.5 / 2.5, rel=1e-9)
    assert long_.demand is not None
    assert not [
        s
        for s in working(long_pad, long_pad.pads[0], "bottom-y").recording.steps
        if s.symbol == "k_b" and s.scope.endswith("y")
    ]  # type: ignore[union-attr]


def test_the_section_may_lie_within_the_column() -> None:
    load = Load(V=900.0)
    net = (900 - 18 * 0.7 * 0.16) / 4.8
    for standard, lever in ((EN, 0.86), (AS, 0.86), (ACI, 0.8)):
        project = by(standard, {"flexure_section": "within the column"}, load=load)
        found = working(project, project.pads[0], "bottom-x")
        moment = next(
            s for s in found.recording.steps if s.symbol == "m_Ed" and s.scope.endswith("+x face bottom")
        )  # type: ignore[union-attr]
        assert float(np.max(moment.value)) == pytest.approx(net * lever**2 / 2, rel=1e-6)


def test_national_values_are_data() -> None:
    changed = {
        "gamma_concrete": 1.4,
        "gamma_steel": 1.1,
        "alpha_cc": 0.85,
        "shear_coefficient": 0.15,
        "face_share": 0.5,
    }
    base, other = by(load=Load(V=900.0)), by(EN, changed, load=Load(V=900.0))
    ratio = (check(other, "punching-face").capacity or 0) / (check(base, "punching-face").capacity or 1)
    assert ratio == pytest.approx(0.85 / 1.4 * 1.5 * 0.5 / 0.4, rel=1e-9)
    assert check(other, "bottom-x").demand != check(base, "bottom-x").demand


# nominal capacity


@given(st.floats(100.0, 6000.0), st.floats(1.0, 2000.0), st.floats(0.2, 1.2), st.sampled_from(NAMES))
def test_capacity_never_falls_with_more_steel(steel: float, more: float, d: float, name: str) -> None:
    standard = standard_of(name, Settings())
    assert standard is not None
    no = np.array([False])
    fcd, fyd = standard.strengths(30.0, 500.0, no, SILENT)
    stress, deepest, phi = standard.block(30.0, fcd, fyd)
    less, greater = (
        moment_of_steel(np.array([s]), np.array([d]), stress, fyd, deepest, phi)
        for s in (steel, steel + more)
    )
    assert float(greater[0]) >= float(less[0]) - 1e-9


@given(st.floats(10.0, 900.0), st.floats(0.3, 1.0), st.sampled_from(NAMES))
def test_steel_for_a_moment_carries_it(moment: float, d: float, name: str) -> None:
    standard = standard_of(name, Settings())
    assert standard is not None
    fcd, fyd = standard.strengths(30.0, 500.0, np.array([False]), SILENT)
    stress, deepest, phi = standard.block(30.0, fcd, fyd)
    args = (np.array([d]), stress, fyd, deepest, phi)
    steel, use = steel_for_moment(np.array([moment]), *args, "", SILENT)
    carried = float(moment_of_steel(steel, *args)[0])
    assert carried == pytest.approx(moment if use[0] <= 1 else carried, rel=1e-9)
    if use[0] > 1:
        assert carried < moment


# every recorded formula of what is new


@pytest.mark.parametrize("standard", NAMES)
@pytest.mark.parametrize("kind", ["reinforced", "plain"])
def test_the_working_computes_itself_again(standard: str, kind: str) -> None:
    project = by(
        standard, {"base_concrete": kind}, load=Load(V=500.0, Hx=40.0, Hy=-20.0, Mx=60.0, My=90.0), pedestal=Pedestal(size_x=0.5, size_y=0.45, top=0.3),
        dowels=Dowels(number=8, diameter=0.016), openings=(Opening(x=0.5, y=0.2, diameter=0.12),), thickness=1.1, level=-1.9, length=3.1,
        reinforcement=Reinforcement(bottom_x=Bars(diameter=0.016, number=14), top_like_bottom=True, sides=Bars(diameter=0.012, spacing=0.15)),
    )  # fmt: skip
    pad = project.pads[0]
    seen = set()
    for result in evaluate_pad(project, pad).checks:
        if result.check.group != "concrete" or result.ratio is None:
            continue
        found = working(project, pad, result.check.id)
        recording = found.recording  # type: ignore[union-attr]
        assert isinstance(recording, Recording)
        for index in recording.leading_to(found.step):  # type: ignore[union-attr]
            step = recording.steps[index]
            if step.formula:
                np.testing.assert_allclose(
                    np.broadcast_to(recording.evaluated(index), step.value.shape),
                    step.value,
                    rtol=1e-9,
                    atol=1e-9,
                )
        seen.add(result.check.id)
    assert {
        "bearing-concrete",
        "dowels",
        "dowels-steel",
        "dowels-anchorage",
        "pedestal-ties",
        "pedestal-slender",
    } <= seen
    assert (
        {"cover", "side-bars", "punching"} if kind == "reinforced" else {"plain-x", "plain-shear-y"}
    ) <= seen


def test_links_are_named_where_the_standard_would_go_on_with_them() -> None:
    for standard in NAMES:
        heavy = by(standard, load=Load(V=3000.0), thickness=0.3)
        for name in ("punching", "shear-x"):
            assert "links in bases are not covered" in check(heavy, name).message


# symmetry, and the same pad in other units


@pytest.mark.parametrize("standard", NAMES)
@given(
    load=st.builds(
        lambda V, h, k, m, n: Load(V=V, Hx=V * h, Hy=V * k, Mx=V * m, My=V * n),
        st.floats(200, 900), *(st.floats(-0.12, 0.12),) * 4,
    ),
    offset=st.floats(-0.4, 0.4), pipe=st.floats(0.35, 0.8),
)  # fmt: skip
def test_a_mirrored_pad_says_the_same(standard: str, load: Load, offset: float, pipe: float) -> None:
    """Mirrored in the y axis: Hx, My and places along x change their sign; openings, bands and dowels go with them."""
    common: dict[str, Any] = {"dowels": Dowels(number=4, diameter=0.02)}
    one = by(
        standard, load=load, offset_x=offset, openings=(Opening(x=pipe, y=0.2, diameter=0.15),), **common
    )
    mirrored = Load(V=load.V, Hx=-load.Hx, Hy=load.Hy, Mx=load.Mx, My=-load.My)
    other = by(
        standard,
        load=mirrored,
        offset_x=-offset,
        openings=(Opening(x=-pipe, y=0.2, diameter=0.15),),
        **common,
    )
    for a, b in zip(evaluate_pad(one, one.pads[0]).checks, evaluate_pad(other, other.pads[0]).checks):
        if a.check.group == "concrete":
            assert a.state is b.state
            assert (a.ratio or 0.0) == pytest.approx(b.ratio or 0.0, rel=1e-6, abs=1e-9)


@pytest.mark.parametrize("standard", NAMES)
def test_metric_and_us_input_of_one_pad_agree(standard: str) -> None:
    """The same pad typed in feet, kips, psi and bar numbers, and in metres, kN, MPa and mm with all digits."""
    from korbent.core.concrete.bar_text import parsed
    from korbent.core.units import parse

    def both(us: str, metric: str, unit: str, kind: str = "metric") -> tuple[float, float]:
        return parse(us, unit, "us"), parse(metric, unit, "metric")

    typed = {
        "width": both("7 ft", "2.1336 m", "m"), "length": both("8'-6\"", "2.5908 m", "m"), "thickness": both("20 in", "508 mm", "m"),
    }  # fmt: skip
    force = both("140 kip", "622.750962173973 kN", "kN")
    moment = both("35 kip ft", "47.4536282870297 kNm", "kNm")
    strength, fy = (
        both("4000 psi", "27.5790291672707 MPa", "MPa"),
        both("60 ksi", "413.685437509060 MPa", "MPa"),
    )
    bars = parsed("#5 at 9 in"), parsed("15.875 at 228.6")
    found = []
    for i in (0, 1):
        r = Reinforcement(bottom_x=bars[i], bottom_y=bars[i])
        settings = {"concrete_strength": strength[i], "steel_strength": fy[i]}
        project = by(
            standard,
            settings,
            load=Load(V=force[i], My=moment[i]),
            reinforcement=r,
            **{k: v[i] for k, v in typed.items()},
        )
        found.append(
            {
                c.check.id: c.ratio
                for c in evaluate_pad(project, project.pads[0]).checks
                if c.check.group == "concrete"
            }
        )
    for name, ratio in found[0].items():
        assert (ratio or 0.0) == pytest.approx(found[1][name] or 0.0, rel=1e-6), name


# pressure on rectangles


@given(
    st.floats(-2, 1), st.floats(0.1, 2), st.floats(-2, 1), st.floats(0.1, 2), st.floats(-50, 300), st.floats(-200, 200), st.floats(-200, 200)
)  # fmt: skip
def test_pressure_on_a_rectangle_whole_cut_or_lifted(
    x: float, wide: float, y: float, high: float, p: float, slope_x: float, slope_y: float
) -> None:
    """The closed form where all is pressed and the clipped one elsewhere: against the polygon, and none where all is lifted."""
    from korbent.core.contact.polygon import pressure_on_rectangles, pressure_over

    one = np.ones((1, 1))
    found = pressure_on_rectangles(
        x * one, (x + wide) * one, y * one, (y + high) * one, p * one, slope_x * one, slope_y * one
    )
    corners_x, corners_y = np.array([[[x, x + wide, x + wide, x]]]), np.array([[[y, y, y + high, y + high]]])
    known = pressure_over(corners_x, corners_y, p * one, slope_x * one, slope_y * one)
    for a, b in zip(found, known):
        assert float(a[0, 0]) == pytest.approx(float(b[0, 0]), rel=1e-9, abs=1e-7)
    lifted = pressure_on_rectangles(
        x * one, (x + wide) * one, y * one, (y + high) * one, -1e6 * one, slope_x * one, slope_y * one
    )
    assert float(lifted.force[0, 0]) == 0.0


# the search of EN 1992


@pytest.mark.parametrize("place", ["interior", "edge", "corner"])
@pytest.mark.parametrize("pressure", ["concentric", "two-way", "partial"])
def test_no_other_perimeter_is_worse_than_the_one_found(place: str, pressure: str) -> None:
    """Thirty distances between 0.1 d and 2 d, each by walking its perimeter over cells: none beyond the search by more than its step."""
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
    """Where the top is in tension it may be asked for what is least below; where it is not, nothing is asked for."""
    top = Bars(diameter=0.012, spacing=0.3)
    r = Reinforcement(
        bottom_x=Bars(diameter=0.016, spacing=0.1),
        bottom_y=Bars(diameter=0.016, spacing=0.1),
        top_x=top,
        top_y=top,
    )
    project = by(standard, load=Load(V=250.0, My=150.0), reinforcement=r)
    asked = edited(project, ("settings", "top_least"), "by the standard")
    free, held = check(project, "top-x"), check(asked, "top-x")
    assert free.state is State.HOLDS
    d = 0.5 - 0.05 - 0.006
    least = {
        EN: max(0.26 * 0.3 * 30 ** (2 / 3) / 500, 0.0013) * d * 1e6, ACI: 0.0018 * 0.5e6,
        AS: 0.19 * (0.5 / d) ** 2 * 0.6 * math.sqrt(30) / 500 * d * 1e6,
    }[standard]  # fmt: skip
    assert held.demand == pytest.approx(least, rel=1e-9)
    assert held.state is State.FAILS
    assert check(asked, "top-y").state is State.NOT_APPLICABLE
    found = working(asked, asked.pads[0], "top-x")
    recording = found.recording  # type: ignore[union-attr]
    for index in recording.leading_to(found.step):  # type: ignore[union-attr]
        step = recording.steps[index]
        if step.formula:
            np.testing.assert_allclose(
                np.broadcast_to(recording.evaluated(index), step.value.shape), step.value, rtol=1e-9
            )
