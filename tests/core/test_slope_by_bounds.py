"""A strip beside ground that falls away: closed forms without weight, mirror images, no jump from level ground, and
what does not stand."""

from dataclasses import replace
from itertools import pairwise
from math import exp, pi, radians, tan

import numpy as np
import pytest

from korbent.core.bearing.as_strip import AsStrip, Taken, as_strip
from korbent.core.explain.collapse import base_of
from korbent.core.model import Load as Forces
from korbent.core.model import edited
from korbent.core.plasticity.bounds import NotSolvedError, bracket, lower, mesh_of, upper
from korbent.core.plasticity.envelope import along, hull, rays
from korbent.core.plasticity.mesh import Mesh, slope_mesh
from korbent.core.plasticity.section import Layer, Load, Section, checked
from korbent.drawing.yielding import shown
from korbent.verification.pad import one_pad

ALONE = Load((2.0, 0.0, 0.0))


def beside(slope: float, *layers: Layer, q: float = 0.0, load: Load = ALONE) -> Section:
    return Section(2.0, layers or (Layer(0.0, 1e6, 1.0, 0.0, 0.0),), q, load=load, slope=slope)


def weightless(phi: float, slope: float) -> float:
    """N_c where the fan turns by twice the slope less: Prandtl 1920 and its like for a surface that is not level."""
    f, turned = radians(phi), pi - 2 * radians(slope)
    if phi == 0:
        return 2 + turned
    return (tan(pi / 4 + f / 2) ** 2 * exp(turned * tan(f)) - 1) / tan(f)


@pytest.mark.long
@pytest.mark.parametrize(
    ("phi", "slope"),
    [
        (0.0, 20.0),
        *(pytest.param(*v, marks=pytest.mark.long) for v in ((0.0, 40.0), (25.0, 10.0), (25.0, 25.0), (35.0, 15.0))),
    ],
)
def test_without_weight_it_is_the_closed_form(phi: float, slope: float) -> None:
    low, high = bracket(beside(slope, Layer(0.0, 1e6, 1.0, phi, 0.0)), 500 if phi == 0 else 1200)
    exact = weightless(phi, slope)
    assert low.pressure <= exact <= high.pressure
    assert high.pressure - low.pressure < 0.08 * exact


def test_the_mesh_fills_the_section_and_strata_stay_level() -> None:
    lines = [0.0, -0.6, -1.7, -6.0]
    for slope in (0.3, -0.3, 0.02):
        mesh = slope_mesh(1.0, 5.0, lines, slope)
        assert np.all(mesh.area > 0)
        assert mesh.area.sum() == pytest.approx(10.0 * 6.0 - abs(slope) * 16.0 / 2, rel=1e-8)
        y = mesh.points[mesh.triangles][:, :, 1]
        for stratum in range(3):
            own = y[mesh.stratum == stratum]
            assert own.max() <= lines[stratum] + 1e-6
            assert own.min() >= lines[stratum + 1] - 1e-6
        _conform(mesh)


def _conform(mesh: Mesh) -> None:
    """Every side has a triangle on both its sides, or lies on the outline."""
    ends, beside_it = mesh.edges()
    lone = ends[beside_it[:, 1] < 0]
    length = np.linalg.norm(mesh.points[lone[:, 0]] - mesh.points[lone[:, 1]], axis=1).sum()
    x, y = mesh.points.T
    walls = sum(float(np.ptp(y[np.abs(x - wall) < 1e-9])) for wall in (x.min(), x.max()))
    drop = float(np.max(y[x > x.max() - 1e-9].max()) - y[x < x.min() + 1e-9].max())
    surface = (x.max() + 1.0) + float(np.hypot(x.max() - 1.0, drop))
    assert length == pytest.approx(2 * x.max() + walls + surface, rel=1e-6)


@pytest.mark.long
def test_a_mirrored_slope_bears_the_mirrored_load() -> None:
    load = Load((10.0, 2.0, 1.5))
    ground = (Layer(0.0, 0.8, 6.0, 20.0, 18.0), Layer(0.8, 1e6, 30.0, 0.0, 9.0, 2.0))
    one = beside(15.0, *ground, q=10.0, load=load)
    other = replace(one, slope=-15.0, load=Load((10.0, -2.0, -1.5)))
    for solve in (lower, upper):
        a, b = (solve(s, mesh_of(s)).factor for s in (one, other))
        assert a == pytest.approx(b, rel=5e-4)  # a program solved almost is moved outwards by 2e-4
    # pushed up the slope it bears more than pushed down
    up = replace(one, load=Load((10.0, -2.0, -1.5)))
    assert lower(up, mesh_of(up)).factor > upper(one, mesh_of(one)).factor


@pytest.mark.long
def test_it_begins_at_level_ground() -> None:
    level, nearly = beside(0.0, q=1.0), beside(0.01, q=1.0)
    (low, high), (low_too, high_too) = ([solve(s, mesh_of(s)) for solve in (lower, upper)] for s in (level, nearly))
    assert max(low.pressure, low_too.pressure) <= min(high.pressure, high_too.pressure)


@pytest.mark.long
def test_steeper_never_bears_more() -> None:
    ground = (Layer(0.0, 1.0, 8.0, 28.0, 18.0), Layer(1.0, 1e6, 2.0, 33.0, 10.0))
    brackets = [bracket(beside(slope, *ground, q=12.0), 900) for slope in (0.0, 8.0, 16.0, 24.0)]
    for (low, high), (less, more) in pairwise(brackets):
        assert less.pressure < low.pressure
        assert more.pressure < high.pressure
        assert less.pressure <= high.pressure


@pytest.mark.long
def test_a_slope_that_does_not_stand_says_so() -> None:
    steep = beside(40.0, Layer(0.0, 1e6, 0.0, 30.0, 18.0))
    for solve in (lower, upper):
        with pytest.raises(NotSolvedError, match="slope does not stand"):
            solve(steep, mesh_of(steep))
    with pytest.raises(ValueError, match="at most 45"):
        checked(beside(50.0))
    with pytest.raises(ValueError, match="give the load"):
        checked(replace(beside(10.0), load=None))


def test_firm_ground_ends_the_slope() -> None:
    mesh = mesh_of(replace(beside(30.0), firm=1.0))
    assert mesh.points[:, 1].min() == pytest.approx(-1.0)
    assert np.all(mesh.area > 0)


def strip(slope: float, pushed: float, **taken: object) -> AsStrip:
    project = edited(one_pad(load=Forces(V=600.0, Hx=pushed)), ("settings", "ground_slope"), slope)
    found = as_strip(project, project.pads[0], "drained", Taken(across="x", **taken))  # type: ignore[arg-type]
    assert isinstance(found, AsStrip)
    return found


@pytest.mark.long
def test_a_base_has_it_on_the_side_that_it_is_pushed_to() -> None:
    right, left = strip(12.0, 40.0), strip(12.0, -40.0)
    assert (right.section.slope, left.section.slope) == (12.0, -12.0)
    assert right.section.load is not None
    assert right.central
    assert not right.uniform  # no exact value beside a slope
    assert "falls away by 12° to the right" in right.said
    level = strip(0.0, 40.0)
    for (name, there), (_, flat) in zip(right.methods, level.methods):
        if name in ("Brinch Hansen 1970", "Vesic 1975"):
            assert there < flat
        elif name == "Meyerhof 1963":
            assert there == flat
    assert "no curve beside a slope: choose the rigid strip" in str(base_of(right, "circle"))
    # the section shows where the ground is
    section = right.section
    seen = shown(upper(section, mesh_of(section)), section).showing("arrows").moved(0.5)
    ((x, y, far, down),) = seen.slope
    assert (x, y) == (section.B / 2 + 0.5, 0.0)
    assert (y - down) / (far - x) == pytest.approx(tan(radians(12.0)))


def test_an_envelope_has_both_sides() -> None:
    for plane, count in (("V-M", 25), ("V-H", 25), ("H-M", 24)):
        loads = rays(plane, 2.0, 10.0, both=True)  # type: ignore[arg-type]
        assert len(loads) == count
        assert len({tuple(np.round(r.growing, 9)) for r in loads}) == count
        for load in loads:
            assert any(np.allclose(load.growing, (o.growing[0], -o.growing[1], -o.growing[2])) for o in loads)
    points = [(4.0, 0.0, 1.0), (8.0, 0.0, 0.5), (4.0, 0.0, -0.2)]
    assert (-1.0, 4.0) in hull("V-M", points)
    assert (-1.0, 4.0) not in hull("V-M", points, level=False)
    assert along(beside(10.0), rays("V-M", 2.0, 0.0)[3]).slope == 10.0
