"""The way to collapse of a rigid strip beside ground that falls away."""

from dataclasses import replace
from functools import cache
from math import cos, radians, sin, tan

import numpy as np
import pytest

from korbent.core.plasticity.bounds import NotSolvedError, bracket
from korbent.core.plasticity.mesh import halved, slope_mesh
from korbent.core.plasticity.path import FEW_ADVANCES, Curve, curve, first_mesh_of
from korbent.core.plasticity.section import Layer, Load, Section, strength_of
from korbent.core.plasticity.way import Base, Stiffness, Way

B = 2.0
CENTRAL = Load((1.0, 0.0, 0.0))
MIXED = (Layer(0.0, 1.5, 12.0, 28.0, 18.0), Layer(1.5, 1e6, 30.0, 0.0, 9.0))
STIFF = (Stiffness(2e4, 0.3, 0.5), Stiffness(8e3, 0.45, 0.8))


def beside(slope: float, load: Load = CENTRAL, q: float = 15.0, times: float = 1.0) -> Base:
    stiff = tuple(replace(s, E=times * s.E) for s in STIFF)
    return Base(Section(B, MIXED, q, load=load, slope=slope), stiff)


@cache
def one(slope: float, load: Load = CENTRAL, times: float = 1.0) -> Curve:
    base = beside(slope, load, times=times)
    return curve(base, 0, mesh=first_mesh_of(base, 0.08), advances=FEW_ADVANCES)


def before(base: Base, finer: int = 0) -> tuple[Way, np.ndarray]:
    """The ground before the base carries more than the surcharge."""
    mesh = first_mesh_of(base, 0.08)
    for _ in range(finer):
        mesh = halved(mesh, np.arange(len(mesh.triangles)))
    way = Way(base, mesh)
    towards = Way(base, way.mesh, way.limit_of_mesh * way.scale, way)
    return towards, towards.before(way.rest())


@pytest.mark.long
def test_before_the_load_the_ground_is_in_equilibrium_within_its_strength() -> None:
    way, state = before(beside(20.0))
    rows, right, load = way.balance
    carried = 15.0 / way.scale
    assert np.abs(rows @ way.rest() - right - load * carried).max() > 0.1  # at rest as below level ground it is not
    assert np.abs(rows @ state - right - load * carried).max() < 1e-5
    stress = state.reshape(way.count, 3, 3)
    strength = strength_of(way.base.section, way.mesh)
    radius = np.hypot(stress[:, :, 1], stress[:, :, 2])
    assert np.all(radius <= strength.cohesion / way.scale - stress[:, :, 0] * strength.sine + 1e-5)


@pytest.mark.long
def test_below_a_long_slope_it_is_the_closed_form() -> None:
    """On planes along the surface of an endless slope act gamma z cos^2 and gamma z sin cos of its angle, whatever the
    ground is made of (Rankine 1857)."""
    angle, gamma = radians(18.0), 18.0
    section = Section(B, (Layer(0.0, 1e6, 40.0, 25.0, gamma),), 0.0, load=CENTRAL, slope=18.0)
    way, state = before(Base(section, (Stiffness(2e4, 0.3, 0.5),)), finer=1)
    stress = state.reshape(way.count, 3, 3) * way.scale
    places = way.mesh.points[way.mesh.triangles]
    z = -tan(angle) * np.maximum(places[:, :, 0] - B / 2, 0.0) - places[:, :, 1]
    far = (np.abs(places[:, :, 0] - 6.0 * B) < 2.0 * B) & (z < 1.5 * B)
    # t turned into the axes along and across the slope; compression positive across
    p, d, t = (stress[:, :, k] for k in range(3))
    across = -(p - d * cos(2 * angle) + t * sin(2 * angle))
    along = d * sin(2 * angle) + t * cos(2 * angle)
    scale = gamma * 1.5 * B
    assert far.sum() > 30
    weight = np.repeat(way.mesh.area[:, None], 3, axis=1)[far]
    for found, exact in ((across, gamma * z * cos(angle) ** 2), (along, gamma * z * sin(angle) * cos(angle))):
        off = min(np.average(np.abs(found - sign * exact)[far], weights=weight) for sign in (1.0, -1.0))
        assert off < 0.06 * scale


@pytest.mark.long
@pytest.mark.parametrize(("slope", "load"), [(12.0, CENTRAL), (25.0, CENTRAL), (-15.0, Load((10.0, -1.0, 1.0)))])
def test_it_ends_within_the_bracket(slope: float, load: Load) -> None:
    base = beside(slope, load)
    found = curve(base, 700, advances=FEW_ADVANCES)
    low, high = bracket(base.section, 1500)
    assert 0.98 * low.pressure < found.limit < 1.02 * high.pressure
    assert found.points[-1].pressure == pytest.approx(found.limit, rel=0.03)
    assert np.all(np.diff([p.pressure for p in found.points]) > -1e-6 * found.limit)


@pytest.mark.long
def test_a_mirrored_slope_has_the_mirrored_way() -> None:
    for a, b in zip(one(15.0).points, one(-15.0).points, strict=True):
        assert b.pressure == pytest.approx(a.pressure, rel=2e-4)
        assert b.settlement == pytest.approx(a.settlement, rel=2e-3, abs=1e-7)
        assert b.tilt == pytest.approx(-a.tilt, rel=5e-3, abs=1e-6)
        assert b.slide == pytest.approx(-a.slide, rel=5e-3, abs=1e-6)
    assert one(15.0).points[-1].slide > 0  # down the slope


@pytest.mark.long
def test_a_slope_that_is_hardly_one_is_level_ground() -> None:
    hardly = beside(1e-7)
    lines = [0.0, -1.5, -12.0 * B]
    mesh = slope_mesh(B / 2, 12.0 * B, lines, 1e-9, 0.08)
    level = curve(replace(hardly, section=replace(hardly.section, slope=0.0)), 0, mesh=mesh, advances=FEW_ADVANCES)
    for a, b in zip(level.points, curve(hardly, 0, mesh=mesh, advances=FEW_ADVANCES).points, strict=True):
        assert b.pressure == pytest.approx(a.pressure, rel=1e-3)
        assert b.settlement == pytest.approx(a.settlement, rel=1e-3, abs=1e-7)


@pytest.mark.long
def test_steeper_bears_less_and_stiffness_only_scales_the_way() -> None:
    limits = [one(slope).limit for slope in (5.0, 15.0, 25.0)]
    assert limits == sorted(limits, reverse=True)
    soft, stiff = one(15.0), one(15.0, times=10.0)
    assert stiff.limit == pytest.approx(soft.limit, rel=1e-6)
    for a, b in zip(soft.points, stiff.points, strict=True):
        assert b.pressure == pytest.approx(a.pressure, rel=1e-3)
        assert b.settlement == pytest.approx(a.settlement / 10, rel=1e-2, abs=1e-8)


@pytest.mark.long
def test_a_slope_that_does_not_stand_has_none() -> None:
    section = Section(B, (Layer(0.0, 1e6, 0.0, 20.0, 18.0),), 5.0, load=CENTRAL, slope=28.0)
    base = Base(section, (Stiffness(2e4),))
    with pytest.raises(NotSolvedError, match="slope does not stand"):
        curve(base, 0, mesh=first_mesh_of(base, 0.08), advances=FEW_ADVANCES)
