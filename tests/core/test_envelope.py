"""What a strip bears of V, H and M at once: closed forms, convexity, mirror images, methods along rays."""

from dataclasses import replace

import numpy as np
import pytest

from korbent.core.bearing.as_strip import Taken, as_strip, by_method, davis, strip_on
from korbent.core.bearing.methods import METHODS
from korbent.core.bench import bench_for
from korbent.core.evaluate import evaluate
from korbent.core.geometry import table
from korbent.core.model import edited
from korbent.core.plasticity.bounds import bound
from korbent.core.plasticity.envelope import along, beyond, carried, cut, hull, mirrored, rays
from korbent.core.plasticity.section import Load, uniform
from korbent.demo import lindmere
from korbent.drawing.envelope import Known, envelope_chart, envelope_said, inside

CLAY = uniform(2.0, 30.0, 0.0, 0.0, 5.0)


def green(h: float) -> float:
    """V over c B at H = h c B, without the surcharge (Green 1954)."""
    return float(1 + np.pi - np.arcsin(h) + np.sqrt(1 - h * h))


@pytest.mark.long
def test_the_envelope_of_v_and_h_holds_green_s_curve_and_is_held_by_it() -> None:
    loads = rays("V-H", 2.0, 0.0)[:9:2]
    lower, upper = [], []
    for load in loads:
        section = along(CLAY, replace(load, turns=False))
        lower.append(carried(load, bound(section, "lower", 500).factor))
        found = bound(section, "upper", 500)
        upper.append((carried(load, found.factor), found.motion))
    safe, outer = hull("V-H", lower), beyond("V-H", upper)
    for h in np.linspace(-0.95, 0.95, 15):
        V = (30.0 * green(abs(h)) + 5.0) * 2.0
        assert inside(outer, (h * 60.0, 0.999 * V))
        assert not inside(safe, (h * 60.0, 1.001 * V))
    assert inside(safe, (10.0, 0.9 * (30.0 * green(1 / 6) + 5.0) * 2.0))


def test_hull_and_what_lies_beyond() -> None:
    points = [(100.0, 0.0, 0.0), (80.0, 0.0, 10.0), (20.0, 0.0, 8.0)]
    ring = hull("V-M", points)
    assert set(ring) == {(0.0, 100.0), (10.0, 80.0), (-10.0, 80.0), (8.0, 20.0), (-8.0, 20.0)}
    assert inside(ring, (0.0, 60.0))
    assert not inside(ring, (12.0, 60.0))
    assert hull("V-M", []) == []
    # one half-plane V + 2 M <= 120, and its image
    outer = beyond("V-M", [((100.0, 0.0, 10.0), (1.0, 0.0, 2.0))])
    assert all(v + 2 * abs(m) <= 120.0 + 1e-9 for m, v in outer)
    assert cut([(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)], 1.0, 0.0, 0.5) == [
        (0.0, 0.0),
        (0.5, 0.0),
        (0.5, 1.0),
        (0.0, 1.0),
    ]
    assert mirrored("V-M", (1.0, 2.0, 3.0)) == (1.0, -2.0, -3.0)


def test_rays_cover_the_plane() -> None:
    quarter, half = rays("V-M", 2.0, 0.0), rays("H-M", 2.0, 50.0)
    assert len(quarter) == 13
    assert quarter[0].growing == (1.0, 0.0, 0.0)
    assert quarter[-1].growing[0] == pytest.approx(0.0, abs=1e-12)
    assert len(half) == 12  # with their images 24
    assert all(load.held == (50.0, 0.0, 0.0) for load in half)
    assert along(CLAY, quarter[3]).underside.tension is False


def test_methods_along_rays_carry_what_they_do() -> None:
    """At the load found the method's own resistance of the effective width is the load: Meyerhof's rule, read
    backwards."""
    ground = uniform(2.0, 4.0, 28.0, 18.0, 12.0)
    loads = rays("V-M", 2.0, 0.0)
    found = by_method(METHODS["Meyerhof 1963"], ground, loads, "drained")
    assert [v for v, _, _ in found[:10]] == sorted([v for v, _, _ in found[:10]], reverse=True)
    V, _, M = found[4]
    alone = by_method(
        METHODS["Meyerhof 1963"], replace(ground, B=2.0 - 2 * M / V), rays("V-M", 1.0, 0.0)[:1], "drained"
    )
    assert pytest.approx(alone[0][0], rel=1e-4) == V
    # without friction, central: (2 + pi) c + q
    clay = by_method(METHODS["EN 1997-1 Annex D"], CLAY, [Load((1.0, 0.0, 0.0))], "undrained")
    assert clay[0][0] == pytest.approx(2.0 * (30.0 * (2 + np.pi) + 5.0), rel=1e-4)


@pytest.mark.parametrize("drainage", ["drained"])
def test_a_base_is_taken_as_asked(drainage: str) -> None:
    project = lindmere()
    pad = project.pad("P6")

    def taken(**how: object):  # type: ignore[no-untyped-def]
        found = as_strip(project, pad, drainage, Taken(**how))  # type: ignore[arg-type]
        assert not isinstance(found, str), found
        return found

    central, all_of_it, held = taken(), taken(load="all"), taken(load="V")
    assert central.section.load is None
    assert pytest.approx(pad.width) == all_of_it.section.B
    assert pytest.approx(pad.width - 2 * abs(central.shift), rel=1e-6) == central.section.B
    V, H, M = all_of_it.force
    assert all_of_it.section.load is not None
    assert all_of_it.section.load.growing == (V, H, M)
    assert held.section.load is not None
    assert held.section.load.held == (0.0, H, M)
    assert pad.width - 2 * abs(M / V) == pytest.approx(central.section.B, rel=1e-6)
    # methods carry the eccentricity with them: V over all of B, less than over B'
    for (name, a), (_, b) in zip(central.methods, all_of_it.methods):
        assert b < a, name
    assert all(b > a for (_, a), (_, b) in zip(all_of_it.methods, held.methods))
    design = taken(strengths="design")
    assert design.section.layers[0].phi < central.section.layers[0].phi
    assert design.pressure > central.pressure
    smooth, slides = taken(underside="smooth"), taken(underside="friction")
    assert (smooth.section.underside.delta, smooth.section.underside.adhesion) == (0.0, 0.0)
    assert slides.section.underside.delta is not None
    assert slides.section.underside.delta <= central.section.layers[0].phi + 1e-9
    across = taken(across="y")
    assert not across.along_x
    assert pytest.approx(pad.length, abs=0.05) == across.section.B
    loose = taken(psi=0.0)
    assert loose.section.layers[0].phi < central.section.layers[0].phi
    assert "strengths of Davis" in loose.said


def test_davis() -> None:
    assert davis(10.0, 30.0, 30.0) == pytest.approx((10.0, 30.0))
    c, phi = davis(10.0, 30.0, 0.0)
    assert c == pytest.approx(10.0 * np.cos(np.deg2rad(30.0)))
    assert np.tan(np.deg2rad(phi)) == pytest.approx(np.sin(np.deg2rad(30.0)))
    with pytest.raises(ValueError, match="ψ must lie"):
        davis(0.0, 30.0, 31.0)


def test_the_chart_marks_combinations_that_lie_outside() -> None:
    project = lindmere()
    strip = as_strip(project, project.pad("P6"), "drained", Taken(load="all"))
    assert not isinstance(strip, str)
    V, _, M = strip.force
    known = Known(lower=((2 * V, 0.0, 0.0), (1.6 * V, 0.0, 2 * abs(M)), (0.1 * V, 0.0, 0.05)), rays=26, done=3)
    drawn = envelope_chart(strip, "V-M", known, "metric", 2.0)
    assert f"combination {strip.combination}" in drawn.texts
    assert "3 of 26 rays" in drawn.texts
    assert "certainly borne" in envelope_said(strip, "V-M", "metric")
    assert envelope_chart("no strength", "V-M", known, "metric", 2.0).texts == ("no strength",)


@pytest.mark.long
@pytest.mark.parametrize("approach", ["DA1", "DA2*"])
def test_what_presses_is_what_the_check_by_formula_has(approach: str) -> None:
    """Factored, also where the eccentricity is that of characteristic actions."""
    project = edited(lindmere(), ("standards", "approach"), approach)
    check = evaluate(project).pad("P6").check("resistance-drained")
    strip = as_strip(project, project.pad("P6"), "drained", Taken(strengths="design"))
    assert not isinstance(strip, str)
    of_it = strip_on(
        bench_for(project, (project.pad("P6"),), np.zeros(1, dtype=int), table(project.pad("P6"))).on_ground(),
        "drained",
        Taken(strengths="design"),
        check.situation,
    )
    assert not isinstance(of_it, str)
    assert of_it.combination == check.combination
    assert of_it.pressure == pytest.approx(check.demand, rel=1e-9)
    V, _, M = of_it.force
    assert pytest.approx(check.demand, rel=1e-6) == V / of_it.section.B
    assert pytest.approx(of_it.shift, rel=1e-6) == M / V
