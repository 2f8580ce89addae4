"""The way to collapse of a rigid strip that carries H and M too: it tilts, slides, lifts off, and ends where the
bracket is."""

from dataclasses import replace
from functools import cache

import numpy as np
import pytest

from korbent.core.bearing.as_strip import AsStrip, Taken, as_strip
from korbent.core.explain.collapse import base_of, seen
from korbent.core.plasticity.bounds import bracket
from korbent.core.plasticity.path import FEW_ADVANCES, Curve, curve, first_mesh_of
from korbent.core.plasticity.section import SMOOTH, Layer, Load, Section, Underside
from korbent.core.plasticity.way import Base, Stiffness, Way
from korbent.demo import lindmere
from korbent.drawing.yielding import shown_of_curve

B = 2.0
CLAY = (Layer(0.0, 1e6, 30.0, 0.0, 0.0),)
SOFT = (Stiffness(10_000.0, 0.49, 1.0),)
LIFTS = Underside(tension=False)


def pushed(
    V: float,
    H: float,
    M: float,
    underside: Underside = LIFTS,
    layers: tuple[Layer, ...] = CLAY,
    stiff: tuple[Stiffness, ...] = SOFT,
) -> Base:
    return Base(Section(B, layers, 10.0, underside, Load((V, H, M))), stiff)


@cache
def one(V: float, H: float, M: float) -> Curve:
    base = pushed(V, H, M)
    return curve(base, 0, mesh=first_mesh_of(base, 0.08), advances=FEW_ADVANCES)


@pytest.mark.long
def test_the_load_of_the_situation_is_met_and_then_all_of_it_grows() -> None:
    found = one(100.0, 10.0, 20.0)
    pressures = np.array([p.pressure for p in found.points])
    assert pressures[0] == pytest.approx(10.0)  # at rest, as the surcharge
    assert found.points[0].settlement == found.points[0].tilt == found.points[0].slide == 0.0
    assert np.min(np.abs(pressures - 50.0)) < 1e-3
    assert np.all(np.diff(pressures) > 0)
    assert pressures[-1] == pytest.approx(found.limit, rel=0.02)
    for name in ("settlement", "tilt", "slide"):
        assert np.all(np.diff([getattr(p, name) for p in found.points]) > 0), name
    for point in found.points[1:]:
        assert point.edge == pytest.approx(point.settlement + abs(point.tilt) * B / 2)
        assert point.centre == point.settlement


@pytest.mark.long
def test_a_mirrored_load_tilts_and_slides_the_other_way() -> None:
    for a, b in zip(one(100.0, 10.0, 20.0).points, one(100.0, -10.0, -20.0).points):
        assert b.pressure == pytest.approx(a.pressure, rel=1e-4)
        assert b.settlement == pytest.approx(a.settlement, rel=2e-3, abs=1e-6)
        assert b.tilt == pytest.approx(-a.tilt, rel=2e-3, abs=1e-6)
        assert b.slide == pytest.approx(-a.slide, rel=2e-3, abs=1e-6)


@pytest.mark.long
def test_a_central_load_on_the_whole_is_that_of_the_half() -> None:
    whole = pushed(100.0, 0.0, 0.0)
    half = Base(Section(B, CLAY, 10.0), SOFT)
    a, b = Way(whole, first_mesh_of(whole, 0.08)), Way(half, first_mesh_of(half, 0.08))
    assert a.limit_of_mesh == pytest.approx(b.limit_of_mesh, rel=1e-3)
    assert a.first_slope == pytest.approx(b.first_slope, rel=1e-6)
    assert a._stuck.first_moves[-1] == pytest.approx(0.0, abs=1e-9)  # it does not turn


def test_the_first_tilt_is_that_of_a_rigid_strip_on_the_half_plane() -> None:
    """4 (1 - nu2) M / (pi E a2): pressures 2 M x/(pi a2 sqrt(a2 - x2)) turn the surface below them by as much
    everywhere."""
    base = Base(Section(B, CLAY, 0.0, SMOOTH, Load((100.0, 0.0, 20.0))), (Stiffness(10_000.0, 0.3, 1.0),))
    way = Way(base, first_mesh_of(base))
    # smooth: it sinks and turns with the ground, which slides below it
    assert way.tied == (False, True)
    tilt = -way.first_moves[-1] / B  # under V/B of 1: M = 20/100 V
    assert tilt == pytest.approx(4 * (1 - 0.3**2) * (0.2 * B) / (np.pi * 10_000.0 * (B / 2) ** 2), rel=0.02)


@pytest.mark.long
def test_what_lifts_off_and_slides_bears_less_but_is_as_stiff_at_first() -> None:
    ground = (Layer(0.0, 1e6, 2.0, 30.0, 18.0),)
    ways = [
        Way(base, first_mesh_of(base, 0.08))
        for base in (
            pushed(100.0, 20.0, 50.0, u, ground, (Stiffness(2e4, 0.3, 0.5),))
            for u in (Underside(), LIFTS, Underside(15.0, 0.0, tension=False))
        )
    ]
    stuck, lifts, slides = (w.limit_of_mesh for w in ways)
    assert stuck > lifts > slides
    assert len({round(w.first_slope, 6) for w in ways}) == 1


@pytest.mark.long
@pytest.mark.parametrize("k", range(5))
def test_the_plateau_lies_within_the_bracket(k: int) -> None:
    random = np.random.default_rng(k)
    c, phi, thick = random.uniform(2, 20), random.uniform(18, 33), random.uniform(0.5, 2)
    layers = (Layer(0.0, thick, c, phi, 18.0), Layer(thick, 1e6, random.uniform(15, 60), 0.0, 9.0))
    V = 200.0
    base = pushed(
        V,
        random.uniform(-0.2, 0.2) * V,
        random.uniform(-0.25, 0.25) * V * B,
        Underside(0.8 * phi, 0.0, tension=False),
        layers,
        (Stiffness(2e4, 0.3, 0.5), Stiffness(1e4, 0.5, 1.0)),
    )
    found = curve(base, 900, advances=FEW_ADVANCES)
    low, high = bracket(base.section, 1500)
    assert 0.98 * low.pressure <= found.limit <= 1.02 * high.pressure
    assert found.points[-1].pressure == pytest.approx(found.limit, rel=0.02)


@pytest.mark.long
def test_more_than_it_bears_goes_straight_to_collapse() -> None:
    found = one(1000.0, 0.0, 200.0)
    assert found.limit < 500.0
    assert max(p.pressure for p in found.points) == pytest.approx(found.limit, rel=0.02)


@pytest.mark.long
def test_a_base_of_a_project_with_what_pushes_it() -> None:
    project = lindmere()
    pad = next(p for p in project.pads if p.name == "P6")
    strip = as_strip(project, pad, "drained", Taken(load="all", underside="friction"))
    assert isinstance(strip, AsStrip)
    base = base_of(strip, "rigid strip")
    assert isinstance(base, Base)
    assert base.section.load == strip.section.load
    assert "central load" in str(base_of(strip, "circle"))
    held = as_strip(project, pad, "drained", Taken(load="V"))
    assert isinstance(held, AsStrip)
    assert "grow together" in str(base_of(held, "rigid strip"))
    # a base that may slide needs all of the section even where its load is central
    central = as_strip(project, pad, "drained", Taken(underside="friction"))
    assert isinstance(central, AsStrip)
    clay = as_strip(project, pad, "undrained", Taken(underside="friction"))
    if isinstance(clay, AsStrip):  # adhesion alone slides too
        sticky = base_of(clay, "rigid strip")
        assert isinstance(sticky, str) or sticky.section.load is not None
    assert Underside(0.0, 5.0).rubs
    assert not SMOOTH.rubs
    assert not Underside().rubs
    own = base_of(central, "rigid strip")
    assert isinstance(own, Base)
    assert own.section.load is not None
    found = curve(base, 0, mesh=first_mesh_of(base, 0.08), advances=(0.3, 0.8))
    line = seen(found, strip.water)
    assert line.points[-1].tilt == found.points[-1].tilt != 0.0
    assert 0 < abs(line.tilt_at(0.9 * line.points[-1].pressure)) < abs(line.points[-1].tilt)
    # all of the section is drawn, once
    below = shown_of_curve(found, [p.yields for p in line.points], base.section)[-1]
    assert len(below.sides) == len(found.mesh.edges()[0])
    assert replace(below, slope=()).sides.min() < 0
