"""The way to collapse: limit loads, first slopes against elastic layers solved another way, and what holds for any
curve."""

from collections.abc import Callable
from dataclasses import replace
from functools import cache
from itertools import pairwise
from random import Random

import numpy as np
import pytest
from scipy.special import j1

from korbent.core.bearing.as_strip import as_strip
from korbent.core.explain.collapse import base_of, seen, stiffness_of
from korbent.core.model.ground import Soil
from korbent.core.plasticity.bounds import bracket
from korbent.core.plasticity.path import FEW_ADVANCES, Curve, curve, first_mesh_of
from korbent.core.plasticity.section import Layer, Load, Section, layered, uniform
from korbent.core.plasticity.slip_lines import Strip, exact
from korbent.core.plasticity.way import Base, Stiffness, Way
from korbent.demo import lindmere

CLAY = Base(uniform(1.0, 10.0, 0.0, 0.0, 0.0), (Stiffness(5000.0, 0.49, 1.0),))
SANDY = Base(uniform(1.0, 5.0, 30.0, 18.0, 10.0), (Stiffness(20000.0, 0.3, 0.5),))


@cache
def of_clay() -> Curve:
    return curve(CLAY, 300, advances=FEW_ADVANCES)


# ---------------------------------------------------------------- collapse


@pytest.mark.long
def test_the_plateau_of_a_strip_without_friction_is_prandtl_s() -> None:
    found = of_clay()
    assert found.limit == pytest.approx(10.0 * (2 + np.pi), rel=0.03)
    assert found.points[-1].pressure == pytest.approx(found.limit, rel=0.01)
    assert found.points[0].pressure == pytest.approx(0.0, abs=1e-6)


@pytest.mark.long
@pytest.mark.parametrize(("roughness", "value"), [(0.0, 5.69), (1.0, 6.05)])
def test_the_plateau_of_a_circle_without_friction(roughness: float, value: float) -> None:
    """Smooth 5.69 (Shield 1955), rough 6.05 (Eason and Shield 1960)."""
    base = Base(uniform(1.0, 10.0, 0.0, 0.0, 0.0, roughness), (Stiffness(5000.0, 0.3, 1.0),), round=True)
    assert curve(base, 800).limit == pytest.approx(10.0 * value, rel=0.005)


@pytest.mark.long
def test_the_plateau_with_everything_is_the_exact_strip() -> None:
    assert curve(SANDY, 900).limit == pytest.approx(exact(Strip(1.0, 5.0, 30.0, 18.0, 10.0)).pressure, rel=0.005)


@pytest.mark.long
@pytest.mark.parametrize("seed", range(4))
def test_random_strata_have_a_curve_whose_plateau_lies_within_the_bracket(seed: int) -> None:
    random = Random(seed)
    B, thick = random.uniform(0.8, 3), random.uniform(0.3, 1.2)
    sand = (0.0, random.uniform(26, 36))
    clay = (random.uniform(15, 60), 0.0)
    first, second = (sand, clay) if seed % 2 else (clay, sand)
    layers = (Layer(0.0, thick * B, *first, 10.0), Layer(thick * B, 60 * B, *second, 9.0))
    section = layered(B, layers, random.uniform(8, 25))
    stiff = tuple(Stiffness(random.uniform(3000, 40000), 0.3 if x.phi else 0.5, 0.5) for x in layers)
    low, high = bracket(section, 700)
    found = curve(Base(section, stiff), 700)
    assert 0.98 * low.pressure < found.limit < 1.02 * high.pressure
    pressures = [p.pressure for p in found.points]
    assert all(b > a - 1e-4 * found.limit for a, b in pairwise(pressures))
    assert pressures[-1] == pytest.approx(found.limit, rel=0.02)


# ---------------------------------------------------------------- elastic layers


def kernel(a: np.ndarray, nu: float) -> np.ndarray:
    """Of a layer bonded to firm ground, over that of the half-space, a = m h (Gladwell 1980): 1 for deep, the oedometer
    for thin layers."""
    k = 3 - 4 * nu
    a = np.minimum(a, 50.0)
    return np.asarray((2 * k * np.sinh(2 * a) - 4 * a) / (2 * k * np.cosh(2 * a) + 4 * a**2 + 1 + k**2))


def test_the_kernel_tends_to_the_oedometer() -> None:
    nu, a = 0.3, np.array([1e-4])
    assert 2 * (1 - nu**2) * kernel(a, nu) / a == pytest.approx((1 + nu) * (1 - 2 * nu) / (1 - nu), rel=1e-3)
    assert kernel(np.array([40.0]), nu) == pytest.approx(1.0)


def integral(of: Callable[[np.ndarray], np.ndarray], most: float, count: int = 400_000) -> float:
    m = (np.arange(count) + 0.5) * most / count
    return float(of(m).sum() * most / count)


@pytest.mark.parametrize("round_", [False, True])
def test_the_first_slope_of_a_flexible_base_on_an_elastic_layer(round_: bool) -> None:
    """Its mean settlement by the transform of Fourier or Hankel."""
    B, h, E, nu = 2.0, 4.0, 10_000.0, 0.3
    half = B / 2
    if round_:  # w of a uniform pressure, averaged over the circle: 4 (1 - nu2)/E times the integral of J1(mR)2 K/m2
        mean = 4 * (1 - nu**2) / E * integral(lambda m: j1(m * half) ** 2 * kernel(m * h, nu) / m**2, 300.0)
    else:
        mean = (
            4
            * (1 - nu**2)
            / (np.pi * E * half)
            * integral(lambda m: np.sin(m * half) ** 2 * kernel(m * h, nu) / m**3, 300.0)
        )
    base = Base(uniform(B, 50.0, 0.0, 0.0, 5.0), (Stiffness(E, nu, 1.0),), round_, True, firm=h)
    way = Way(base, first_mesh_of(base))
    assert way.elastic == pytest.approx(1.0 / mean, rel=0.01)


@pytest.mark.parametrize("round_", [False, True])
def test_the_first_slope_of_a_rigid_smooth_base_on_an_elastic_layer(round_: bool) -> None:
    """Uniform pressures on narrow strips or rings, so that all settle alike, by the same transforms."""
    B, h, E, nu, n = 2.0, 4.0, 10_000.0, 0.3, 24
    edges = B / 2 * np.sin(np.linspace(0.0, np.pi / 2, n + 1))
    m = (np.arange(60_000) + 0.5) * 600.0 / 60_000
    if round_:
        loads = edges[:, None] * j1(m * edges[:, None]) / m  # transforms of discs; rings are differences
        rings = np.diff(loads, axis=0)
        area = np.diff(np.pi * edges**2)
        # settlement of ring i (its mean) under a pressure of one on ring j
        w = 2 * (1 - nu**2) / E * (rings * kernel(m * h, nu)) @ rings.T * (m[1] - m[0]) * 2 * np.pi / area[:, None]
    else:
        sines = np.sin(m * edges[:, None]) / m
        strips = np.diff(sines, axis=0)
        area = 2 * np.diff(edges)
        w = (
            2
            * (1 - nu**2)
            / (np.pi * E)
            * 2
            * (strips * kernel(m * h, nu) / m)
            @ strips.T
            * (m[1] - m[0])
            * 2
            / area[:, None]
        )
    pressures = np.linalg.solve(w, np.ones(n))
    mean = float(pressures @ area) / float(area.sum())
    base = Base(uniform(B, 50.0, 0.0, 0.0, 5.0, 0.0), (Stiffness(E, nu, 1.0),), round_, firm=h)
    way = Way(base, first_mesh_of(base))
    assert way.elastic == pytest.approx(mean, rel=0.015)


# ---------------------------------------------------------------- what holds for any curve


def test_it_begins_at_rest_and_in_equilibrium() -> None:
    strata = (
        Layer(0.0, 0.7, 4.0, 30.0, 18.0),
        Layer(0.7, 2.0, 40.0, 0.0, 9.0),
        Layer(2.0, 60.0, 0.0, 35.0, 11.0),
    )
    base = Base(layered(1.4, strata, 12.0), (Stiffness(9e3), Stiffness(4e3, 0.5, 0.7), Stiffness(3e4)))
    for own in (base, replace(base, round=True)):
        way = Way(own, first_mesh_of(own))
        rows, right, load = way.balance
        left = np.asarray(rows @ way.rest()) - right - load * 12.0 / way.scale
        assert np.abs(left).max() < 1e-12
        assert way.point(way.rest(), np.zeros(way.columns), 0.0).pressure == pytest.approx(12.0, rel=1e-9)


def test_a_load_is_met_exactly_and_what_comes_off_comes_off_elastically() -> None:
    way = Way(CLAY, first_mesh_of(CLAY))
    state, moved, by, pressure = way.advance(way.rest(), 0.01, 20.0)
    assert pressure == pytest.approx(20.0, rel=1e-4)
    assert way.point(state, moved, by).pressure == pytest.approx(20.0, rel=1e-4)
    assert by < 0.01
    back, _, lifted, _ = way.advance(state, -0.001, np.inf)
    drop = 20.0 - way.point(back, moved, by).pressure
    assert lifted == pytest.approx(-0.001, rel=1e-3)
    assert drop / 0.001 == pytest.approx(way.elastic, rel=0.01)


@pytest.mark.long
def test_stiffness_stretches_the_curve_and_leaves_its_plateau() -> None:
    stiffer = curve(
        replace(CLAY, stiff=(replace(CLAY.stiff[0], E=3 * CLAY.stiff[0].E),)),
        mesh=of_clay().mesh,
        advances=FEW_ADVANCES,
    )
    assert stiffer.limit == pytest.approx(of_clay().limit, rel=1e-5)
    for a, b in zip(of_clay().points, stiffer.points):
        assert b.settlement == pytest.approx(a.settlement / 3, rel=2e-3)
        assert b.pressure == pytest.approx(a.pressure, rel=2e-3, abs=0.02)


def test_what_is_asked_of_the_curve() -> None:
    found = of_clay()
    middle = found.points[3]
    assert found.at_settlement(middle.settlement) == pytest.approx(middle.pressure)
    assert found.at_pressure(middle.pressure) == pytest.approx(middle.settlement)
    assert found.at_settlement(1e3) is None
    assert found.at_pressure(2 * found.limit) is None
    assert [p.used.max() <= 1.001 for p in found.points] == [True] * len(found.points)
    first = (found.points[1].pressure - found.points[0].pressure) / found.points[1].settlement
    assert first == pytest.approx(found.slope, rel=0.02)
    shown = seen(found, 3.0)
    assert shown.limit == pytest.approx(found.limit + 3.0)
    assert len(shown.points[-1].yields) > len(shown.points[1].yields)


@pytest.mark.parametrize(
    ("base", "says"),
    [
        (replace(SANDY, section=uniform(1.0, 0.0, 30.0, 18.0, 0.0), round=True), "below a circle has no curve"),
        (
            replace(SANDY, section=uniform(1.0, 0.0, 30.0, 18.0, 0.0), flexible=True),
            "below a flexible load has no curve",
        ),
        (
            replace(SANDY, section=replace(SANDY.section, load=Load((1.0, 0.0, 0.1))), flexible=True),
            "central load only",
        ),
        (replace(SANDY, section=replace(SANDY.section, load=Load((1.0, 0.0, 0.1), (0.0, 1.0, 0.0)))), "grow together"),
        (
            replace(SANDY, section=replace(SANDY.section, load=Load((1.0, 0.0, 0.0)), slope=5.0), flexible=True),
            "beside a slope only a rigid strip",
        ),
        (replace(SANDY, stiff=()), "every stratum needs its stiffness"),
        (replace(SANDY, stiff=(Stiffness(0.0),)), "E must be greater"),
        (replace(SANDY, section=Section(1.0, (Layer(0, 9, 0, 0, 18),))), "there is no strength"),
    ],
)
def test_what_has_no_curve_is_said(base: Base, says: str) -> None:
    with pytest.raises(ValueError, match=says):
        curve(base, 300)


# ---------------------------------------------------------------- stiffness of the strata


def test_stiffness_comes_from_what_the_soil_has() -> None:
    soil = Soil(name="Clay", weight=18.0, weight_saturated=19.0, friction_angle=25.0)
    drained, undrained = Layer(0.0, 2.0, 5.0, 25.0, 9.0), Layer(0.0, 2.0, 40.0, 0.0, 9.0)
    lacks = stiffness_of(soil, drained, 20.0, 1.0, False)
    assert isinstance(lacks, str)
    assert "Clay has no stiffness" in lacks
    typed = stiffness_of(soil.replaced(modulus=8000.0), drained, 20.0, 1.0, False)
    assert typed == Stiffness(8000.0, 0.3, 1.0 - np.sin(np.deg2rad(25.0)))
    by_mv = stiffness_of(soil.replaced(compressibility=0.1), drained, 20.0, 1.0, False)
    assert isinstance(by_mv, Stiffness)
    assert pytest.approx(10_000.0 * 1.3 * 0.4 / 0.7) == by_mv.E
    both = soil.replaced(compression_ratio=0.2, recompression_share=0.1)
    first, again, short = (
        stiffness_of(both, *rest)
        for rest in ((drained, 20.0, 1.0, False), (drained, 20.0, 1.0, True), (undrained, 20.0, 1.0, False))
    )
    assert isinstance(first, Stiffness)
    assert isinstance(again, Stiffness)
    assert isinstance(short, Stiffness)
    assert pytest.approx((20.0 + 9.0) * np.log(10) / 0.2 * 1.3 * 0.4 / 0.7) == first.E
    assert pytest.approx(10 * first.E) == again.E
    # the same shear modulus, no change of volume
    assert short.nu == 0.5
    assert pytest.approx(again.E / (2 * 1.3)) == short.E / (2 * 1.5)


@pytest.mark.long
def test_a_base_of_a_project_has_its_curve() -> None:
    project = lindmere()
    strip = as_strip(project, project.pad("P6"), "drained")
    assert not isinstance(strip, str)
    limits = []
    for shape in ("rigid strip", "circle"):
        base = base_of(strip, shape)  # type: ignore[arg-type]
        assert isinstance(base, Base)
        found = seen(curve(base, 300, (strip.pressure,)), strip.water)
        settled = found.at_pressure(strip.pressure)
        assert settled is not None
        assert 0.002 < settled < 0.08
        limits.append(found.limit)
    # a circle bears more per area than a strip
    assert limits[1] > limits[0]


@pytest.mark.parametrize("after", [0, 1, 2])
def test_a_curve_that_nobody_waits_for_ends_where_it_is(after: int) -> None:
    asked = iter(range(after))
    found = curve(CLAY, 60, stop=lambda: next(asked, None) is None, mesh=first_mesh_of(CLAY))
    assert 1 <= len(found.points) <= after + 1
    assert found.points[0].settlement == 0.0
