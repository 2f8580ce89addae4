"""Exact strips and bounds: closed forms, published values, brackets around the exact, and what holds for any of
them."""

from dataclasses import replace
from itertools import pairwise
from random import Random

import numpy as np
import pytest

from korbent.core.bearing.as_strip import as_strip, exact_of
from korbent.core.model import edited
from korbent.core.plasticity.bounds import Bound, bound, bracket, lower, upper, where_it_yields
from korbent.core.plasticity.mesh import Mesh, fan_mesh, first_mesh, halved
from korbent.core.plasticity.section import (
    Layer,
    Load,
    Section,
    Underside,
    checked,
    layered,
    underside_of,
    uniform,
)
from korbent.core.plasticity.slip_lines import Strip, exact, n_c, n_gamma, n_q
from korbent.demo import lindmere
from korbent.verification.pad import one_pad

PUBLISHED_ROUGH = {5: 0.1134, 10: 0.4332, 20: 2.839, 30: 14.7543, 40: 85.566, 45: 234.2}
PUBLISHED_SMOOTH = {5: 0.08446, 10: 0.2809, 20: 1.579, 30: 7.653, 40: 43.19, 45: 117.6}
"""N_gamma by Martin (2005) and Hjiaj, Lyamin and Sloan (2005), to the digits that are known with certainty."""


# ---------------------------------------------------------------- exact


@pytest.mark.parametrize("phi", [0.0, 5.0, 20.0, 35.0, 45.0])
def test_without_weight_it_is_the_closed_form(phi: float) -> None:
    found = exact(Strip(2.3, 14.0, phi, 0.0, 31.0)).pressure
    assert found == pytest.approx(14.0 * n_c(phi) + 31.0 * n_q(phi), rel=1e-9)
    # Prandtl and Reissner, written another way
    f = np.deg2rad(phi)
    nq = np.exp(np.pi * np.tan(f)) * (1 + np.sin(f)) / (1 - np.sin(f))
    assert n_q(phi) == pytest.approx(nq, rel=1e-12)
    assert n_c(phi) == pytest.approx((nq - 1) / np.tan(f) if phi else 2 + np.pi, rel=1e-9)


@pytest.mark.long
def test_half_rough_on_weak_ground_lies_between_smooth_and_rough() -> None:
    phi = 6.24271024374226  # of a random strip that was lost once
    smooth, half, rough = (n_gamma(phi, roughness) for roughness in (0.0, 0.5, 1.0))
    assert smooth < half < rough
    assert half == pytest.approx(0.14609, rel=1e-4)


@pytest.mark.long
@pytest.mark.parametrize("phi", [5.0, 6.0, 7.0])
def test_weak_ground_with_weight_alone_is_solved_and_bracketed(phi: float) -> None:
    """Where stresses begin at nothing and grow slowly: between bounds, whatever the size, more with the angle."""
    found = n_gamma(phi)
    low, high = bracket(uniform(2.0, 0.0, phi, 18.0, 0.0), 1500)
    assert low.pressure <= found * 18.0 <= high.pressure
    assert exact(Strip(2.0, 0.0, phi, 18.0, 0.0)).pressure == pytest.approx(found * 18.0, rel=1e-6)
    assert n_gamma(phi, 0.0) < found < n_gamma(phi + 0.5)


@pytest.mark.long
@pytest.mark.parametrize("phi", list(PUBLISHED_SMOOTH))
def test_smooth_strips_against_published_values(phi: int) -> None:
    assert n_gamma(float(phi), 0.0) == pytest.approx(PUBLISHED_SMOOTH[phi], rel=3e-4)


@pytest.mark.long
@pytest.mark.parametrize("phi", list(PUBLISHED_ROUGH))
def test_rough_strips_against_published_values(phi: int) -> None:
    assert n_gamma(float(phi)) == pytest.approx(PUBLISHED_ROUGH[phi], rel=3e-4)


@pytest.mark.long
def test_with_almost_no_weight_it_tends_to_the_closed_form() -> None:
    """The slip lines with weight, not the closed form, down to a weight that hardly counts."""
    closed = exact(Strip(1.0, 20.0, 25.0, 0.0, 10.0)).pressure
    gaps = [exact(Strip(1.0, 20.0, 25.0, gamma, 10.0)).pressure - closed for gamma in (2.0, 0.2, 0.02)]
    assert gaps[0] > gaps[1] > gaps[2] > 0
    assert gaps[2] / closed < 5e-4
    assert gaps[1] / gaps[2] == pytest.approx(10.0, rel=0.02)


@pytest.mark.long
def test_size_and_strength_scale_as_dimensions_ask() -> None:
    """Twice the width with half the weight is the same; all stresses three times as great give three times the
    pressure."""
    one = exact(Strip(1.5, 8.0, 27.0, 18.0, 12.0)).pressure
    assert exact(Strip(3.0, 8.0, 27.0, 9.0, 12.0)).pressure == pytest.approx(one, rel=1e-9)
    assert exact(Strip(1.5, 24.0, 27.0, 54.0, 36.0)).pressure == pytest.approx(3 * one, rel=1e-9)


@pytest.mark.long
def test_superposition_is_on_the_safe_side() -> None:
    """The sum of the three parts never exceeds the whole (the theorem of Davis and Booker 1971 for superposition)."""
    strip = Strip(2.0, 10.0, 30.0, 18.0, 20.0, roughness=0.0)
    parts = 10.0 * n_c(30.0) + 20.0 * n_q(30.0) + 18.0 * 2.0 / 2 * n_gamma(30.0, 0.0)
    assert parts < exact(strip).pressure < 1.3 * parts


@pytest.mark.parametrize("field", ["c", "phi", "gamma", "q"])
@pytest.mark.long
def test_more_never_bears_less(field: str) -> None:
    base = {"B": 1.6, "c": 6.0, "phi": 24.0, "gamma": 17.0, "q": 9.0}
    values = [exact(Strip(**(base | {field: base[field] * k}), roughness=0.0)).pressure for k in (1.0, 1.05, 1.2, 1.4)]
    assert all(b > a for a, b in pairwise(values))


@pytest.mark.long
def test_rough_bears_at_least_what_smooth_does() -> None:
    for strip in (Strip(1.0, 5.0, 30.0, 18.0, 10.0), Strip(2.0, 30.0, 15.0, 19.0, 5.0)):
        rough, smooth = exact(strip), exact(Strip(**(vars(strip) | {"roughness": 0.0})))
        assert rough.pressure > smooth.pressure
        assert rough.wedge > 0
        assert rough.error < 1e-6


@pytest.mark.parametrize(
    ("strip", "says"),
    [
        (Strip(1.0, 5.0, 52.0, 18.0, 0.0), "beyond what this method solves: 0 to 50°"),
        (Strip(1.0, -1.0, 30.0, 18.0, 0.0), "must not be negative"),
        (Strip(0.0, 1.0, 30.0, 18.0, 0.0), "width must be greater than zero"),
        (Strip(1.0, 0.0, 30.0, 0.0, 0.0), "there is no strength"),
        (Strip(1.0, 0.0, 0.0, 18.0, 5.0), "there is no strength"),
    ],
)
def test_what_has_no_exact_solution_is_said(strip: Strip, says: str) -> None:
    with pytest.raises(ValueError, match=says):
        exact(strip)


# ---------------------------------------------------------------- meshes


def whole(mesh: Mesh) -> None:
    """Triangles cover the section once, and every point of a side is the end of it for both."""
    assert (mesh.area > 0).all()
    width, depth = mesh.points[:, 0].max(), -mesh.points[:, 1].min()
    assert mesh.area.sum() == pytest.approx(width * depth, rel=1e-9)
    ends, beside = mesh.edges()
    outer = ends[beside[:, 1] < 0]
    length = np.linalg.norm(mesh.points[outer[:, 0]] - mesh.points[outer[:, 1]], axis=1).sum()
    assert length == pytest.approx(2 * (width + depth), rel=1e-9)


def test_meshes_cover_the_section_and_keep_the_strata() -> None:
    lines = [0.0, -0.7, -1.9, -4.0]
    for mesh in (first_mesh(0.5, 5.0, lines), fan_mesh(0.5, 5.0, lines)):
        random = Random(4)
        for _ in range(4):
            whole(mesh)
            y = mesh.points[mesh.triangles][:, :, 1]
            for k, (top, bottom) in enumerate(pairwise(lines)):
                own = mesh.stratum == k
                assert y[own].max() <= top + 1e-9
                assert y[own].min() >= bottom - 1e-9
                assert mesh.area[own].sum() == pytest.approx(5.0 * (top - bottom), rel=1e-9)
            marked = np.array(sorted(random.sample(range(len(mesh.triangles)), len(mesh.triangles) // 5)))
            finer = halved(mesh, marked)
            assert len(finer.triangles) >= len(mesh.triangles) + len(marked)
            mesh = finer


# ---------------------------------------------------------------- bounds


@pytest.mark.parametrize("strip", [(1.0, 5.0, 20.0, 18.0, 10.0, 1.0), (1.0, 0.0, 25.0, 18.0, 20.0, 0.5)])
def test_coarse_bounds_hold_the_exact_value(strip: tuple[float, ...]) -> None:
    """With all of c, phi, gamma and q, and below a base that takes friction alone."""
    low, high = bracket(uniform(*strip), 120)
    value = exact(Strip(*strip)).pressure
    assert 0.85 * value < low.pressure < value < high.pressure < 1.15 * value


def test_what_slides_on_adhesion_alone_is_known_to_the_last() -> None:
    """Pushed undrained below a base that takes half of c: half of c times its width, whatever the ground below."""
    section = replace(uniform(1.0, 10.0, 0.0, 0.0, 0.0, 0.5), load=Load((0.0, 1.0, 0.0), (20.0, 0.0, 0.0), turns=False))
    low, high = bracket(section, 80)
    assert low.factor <= 5.0 * (1 + 1e-3)
    assert high.factor >= 5.0 * (1 - 1e-3)
    assert high.factor == pytest.approx(low.factor, rel=0.01)


def test_firm_ground_is_no_wall_of_the_box() -> None:
    """Most of the work of squeezing is done along it, and the box is as wide as that asks for."""
    section = Section(1.0, (Layer(0.0, 60.0, 10.0, 0.0, 0.0),), firm=0.3)
    assert bound(section, "upper", 120).at_walls < 0.02
    with pytest.raises(ValueError, match="stands on firm ground"):
        checked(replace(section, firm=0.0))


@pytest.mark.long
@pytest.mark.parametrize("rough", [True, pytest.param(False, marks=pytest.mark.long)])
def test_undrained_strip_is_bracketed(rough: bool) -> None:
    low, high = bracket(uniform(2.0, 1.0, 0.0, 0.0, 0.0, float(rough)), 300)
    assert low.pressure < 2 + np.pi < high.pressure
    assert high.pressure / low.pressure < 1.12
    assert low.at_walls < 1e-2


@pytest.mark.long
@pytest.mark.parametrize("seed", [0, *(pytest.param(k, marks=pytest.mark.long) for k in range(1, 8))])
def test_random_uniform_strips_are_bracketed_by_their_exact_value(seed: int) -> None:
    random = Random(seed)
    B, c, phi, gamma, q = (
        random.uniform(0.5, 5),
        random.uniform(1, 40),
        random.uniform(0, 38),
        random.uniform(8, 21),
        random.uniform(0, 40),
    )
    rough = random.random() < 0.5
    value = exact(Strip(B, c, phi, gamma, q, float(rough))).pressure
    low, high = bracket(uniform(B, c, phi, gamma, q, float(rough)), 500 if seed else 250)
    assert low.pressure < value < high.pressure
    assert high.pressure / low.pressure < (1.25 if seed else 1.5)


@pytest.mark.long
def test_where_it_yields_is_where_slip_lines_run() -> None:
    """Of a strip without friction: within the reach of Prandtl's field, 1.5 B from the middle and B/sqrt(2) deep, and
    most at the edge."""
    coarse, fine = (bound(uniform(1.0, 1.0, 0.0, 0.0, 0.0), "upper", count) for count in (150, 450))
    found = where_it_yields(fine)
    assert all(0.0 < share <= 1.0 for _, share in found)
    strong = np.array([corners for corners, share in found if share > 0.8]).reshape(-1, 3, 2).mean(axis=1)
    assert strong[:, 0].max() < 1.65
    assert strong[:, 1].min() > -0.8
    most = np.array(found[0][0]).reshape(3, 2).mean(axis=0)
    assert np.hypot(most[0] - 0.5, most[1]) < 0.1

    def outside(of: Bound) -> float:
        x, y = np.moveaxis(of.mesh.points[of.mesh.triangles].mean(axis=1), 1, 0)
        return float(of.work[(x > 1.5) | (y < -0.75)].sum())

    assert outside(fine) < 0.08
    assert outside(fine) < outside(coarse)


@pytest.mark.long
def test_what_yields_below_a_stiff_stratum_is_seen() -> None:
    """Sand on soft clay: the clay does much of the work, as the base punches through, and is among what is drawn."""
    sand, clay = Layer(0.0, 1.5, 0.0, 33.0, 18.0), Layer(1.5, 60.0, 20.0, 0.0, 18.0)
    found = bound(layered(1.5, (sand, clay), 10.0), "upper", 500)
    y = found.mesh.points[found.mesh.triangles].mean(axis=1)[:, 1]
    assert found.work[y < -1.5].sum() > 0.1
    assert found.work.sum() == pytest.approx(1.0)
    assert any(max(corners[1::2]) <= -1.5 + 1e-9 and share > 0.3 for corners, share in where_it_yields(found))


@pytest.mark.long
def test_each_refinement_tightens_and_is_told() -> None:
    for side, sign in (("lower", 1), ("upper", -1)):
        told: list[float] = []
        bound(uniform(1.0, 5.0, 25.0, 18.0, 5.0), side, 700, lambda b, own=told: own.append(b.pressure))  # type: ignore[arg-type, misc]
        assert len(told) > 2
        assert all(sign * (b - a) >= 0 for a, b in pairwise(told))


@pytest.mark.long
def test_a_cut_through_a_stratum_changes_little_and_never_the_bracket() -> None:
    one = uniform(1.0, 10.0, 20.0, 18.0, 5.0)
    two = Section(1.0, (Layer(0.0, 0.6, 10.0, 20.0, 18.0), Layer(0.6, 1e6, 10.0, 20.0, 18.0)), 5.0)
    value = exact(Strip(1.0, 10.0, 20.0, 18.0, 5.0)).pressure
    for section in (one, two):
        low, high = bracket(section, 500)
        assert low.pressure < value < high.pressure


@pytest.mark.long
def test_soft_over_stiff_and_stiff_over_soft() -> None:
    """Undrained: between the strip on the weaker and that on the stronger alone; a thin soft layer bears more than a
    thick one."""
    soft, stiff = 20.0, 60.0

    def mean(first: float, second: float, thick: float) -> float:
        low, high = bracket(
            layered(1.0, (Layer(0.0, thick, first, 0.0, 0.0), Layer(thick, 1e6, second, 0.0, 0.0))), 600
        )
        assert low.pressure < high.pressure < 1.15 * low.pressure
        return (low.pressure + high.pressure) / 2

    thin, thick = mean(soft, stiff, 0.15), mean(soft, stiff, 0.6)
    assert 5.14 * soft * 0.99 < thick < thin < 5.14 * stiff
    over = mean(stiff, soft, 0.5)
    assert 5.14 * soft < over < 5.14 * stiff * 1.001


@pytest.mark.long
def test_strength_that_grows_with_depth_lies_between_slices_of_less_and_of_more() -> None:
    """A line of strength against steps below it and above it: a second way to the same ground."""
    growing = Section(1.0, (Layer(0.0, 1e6, 10.0, 0.0, 0.0, growth=20.0),))
    cuts = [0.0, 0.1, 0.2, 0.35, 0.5, 0.75, 1.0, 1.5, 1e6]

    def sliced(of_end: bool) -> Section:
        return Section(
            1.0,
            tuple(Layer(a, b, 10.0 + 20.0 * min(b if of_end else a, 2.5), 0.0, 0.0) for a, b in pairwise(cuts)),
        )

    low, high = bracket(growing, 700)
    assert low.pressure < high.pressure < 1.1 * low.pressure
    assert low.pressure < bound(sliced(True), "upper", 500).pressure
    assert high.pressure > bound(sliced(False), "lower", 500).pressure
    # without growth it is the closed form
    none_low, none_high = bracket(Section(1.0, (Layer(0.0, 1e6, 10.0, 0.0, 0.0, growth=1e-6),)), 400)
    assert none_low.pressure < 10 * (2 + np.pi) < none_high.pressure
    assert high.pressure > none_high.pressure


@pytest.mark.long
def test_more_strength_never_bears_less_on_the_same_mesh() -> None:
    section = uniform(1.0, 6.0, 22.0, 17.0, 8.0)
    mesh = bound(section, "lower", 400).mesh
    for program in (lower, upper):
        values = [program(uniform(1.0, 6.0 * k, 22.0 + 3 * (k - 1), 17.0, 8.0), mesh).pressure for k in (1.0, 1.1, 1.5)]
        assert values[0] < values[1] < values[2]


# ---------------------------------------------------------------- roughness, inclination, eccentricity


@pytest.mark.long
def test_roughness_leads_from_smooth_to_rough() -> None:
    values = [n_gamma(30.0, r) for r in (0.0, 0.4, 0.8, 1.0)]
    assert values == sorted(values)
    # what acts does not matter without weight
    assert exact(Strip(1.0, 7.0, 25.0, 0.0, 5.0, 0.5)).pressure == exact(Strip(1.0, 7.0, 25.0, 0.0, 5.0)).pressure
    # hardly less than rough is hardly less
    assert n_gamma(30.0, 0.99) == pytest.approx(n_gamma(30.0), rel=1e-3)


@pytest.mark.parametrize("phi", [15.0, 30.0, 38.0])
@pytest.mark.long
def test_a_base_between_smooth_and_rough_is_bracketed(phi: float) -> None:
    value = exact(Strip(1.0, 0.0, phi, 18.0, 3.0, 0.5)).pressure
    low, high = bracket(uniform(1.0, 0.0, phi, 18.0, 3.0, 0.5), 500)
    assert low.pressure < value < high.pressure < 1.3 * low.pressure


@pytest.mark.long
def test_half_of_the_section_bears_half_of_the_whole() -> None:
    half = uniform(1.0, 4.0, 22.0, 18.0, 6.0)
    whole = replace(half, load=Load((1.0, 0.0, 0.0)))
    for side in ("lower", "upper"):
        one, two = bound(half, side, 100), bound(whole, side, 200)  # type: ignore[arg-type]
        assert two.pressure == pytest.approx(one.pressure, rel=0.02)
        assert two.factor == pytest.approx(two.pressure * half.B, rel=1e-9)


@pytest.mark.long
@pytest.mark.parametrize("h", [0.5, *(pytest.param(k, marks=pytest.mark.long) for k in (0.2, 0.9))])
def test_an_inclined_load_without_friction_is_green_s(h: float) -> None:
    """V of a rough base with H = h c B: c B (1 + pi - asin h + sqrt(1 - h²)) (Green 1954)."""
    value = 1 + np.pi - np.arcsin(h) + np.sqrt(1 - h * h)
    load = Load((1.0, 0.0, 0.0), (0.0, h * 25.0 * 2.0, 0.0), turns=False)
    low, high = bracket(replace(uniform(2.0, 25.0, 0.0, 0.0, 0.0), load=load), 400)
    assert low.pressure < 25.0 * value < high.pressure < 1.15 * low.pressure


@pytest.mark.long
def test_an_inclined_load_without_weight_is_the_closed_form() -> None:
    """Rough base, surcharge alone, tan(inclination) = 0.2: stresses below the base follow from Mohr's circle, the fan
    turns between (Prandtl's field turned as far as the shear asks)."""
    phi, tan_i, q = np.deg2rad(30.0), 0.2, 10.0
    i = np.arctan(tan_i)
    turn = (np.arcsin(np.sin(i) / np.sin(phi)) + i) / 2  # of the major stress from the vertical
    # along the fan the mean stress grows by e^(2 tan(phi) angle); the angle is pi/2 less the turn
    mean = q / (1 - np.sin(phi)) * np.exp(2 * np.tan(phi) * (np.pi / 2 - turn))
    V = mean * (1 + np.sin(phi) * np.cos(2 * turn))
    low, high = bracket(replace(uniform(1.0, 0.0, 30.0, 0.0, q), load=Load((1.0, tan_i, 0.0), turns=False)), 700)
    assert low.pressure < V < high.pressure
    assert (low.pressure + high.pressure) / 2 == pytest.approx(V, rel=0.06)


@pytest.mark.long
def test_an_eccentric_load_bears_at_least_what_its_effective_width_does() -> None:
    """Meyerhof's width is on the safe side: a stress field below it alone is admissible (tension cut off)."""
    ground = uniform(1.0, 20.0, 0.0, 0.0, 0.0)
    lifts = replace(ground, underside=Underside(tension=False), load=Load((1.0, 0.0, 0.15)))
    low, high = bracket(lifts, 500)
    assert high.factor > 20.0 * (2 + np.pi) * 0.7 > 0.9 * low.factor
    other = replace(lifts, load=Load((1.0, 0.0, -0.15)))
    for side, found in (("lower", low), ("upper", high)):
        assert bound(other, side, 500).factor == pytest.approx(found.factor, rel=2e-3)  # type: ignore[arg-type]


@pytest.mark.long
def test_a_base_that_slides_bears_what_its_friction_does() -> None:
    """H grows, V is held: the friction below the base decides where it is weaker than the ground; more tilt than it
    takes bears nothing."""
    ground = replace(uniform(1.0, 0.0, 30.0, 18.0, 20.0), underside=Underside(15.0, 0.0, tension=False))
    pushed = replace(ground, load=Load((0.0, 1.0, 0.0), (20.0, 0.0, 0.0)))
    low, high = bracket(pushed, 300)
    assert low.factor == pytest.approx(20.0 * np.tan(np.deg2rad(15.0)), rel=1e-3)
    assert high.factor == pytest.approx(low.factor, rel=2e-3)
    steep = bound(replace(ground, q=0.0, load=Load((1.0, 0.3, 0.0))), "upper", 200)
    assert steep.factor == pytest.approx(0.0, abs=1e-3)


@pytest.mark.long
def test_the_lower_bound_shows_its_stresses_and_the_upper_its_velocities() -> None:
    section = replace(uniform(1.0, 5.0, 25.0, 18.0, 4.0), load=Load((1.0, 0.1, 0.05)))
    low, high = bound(section, "lower", 300), bound(section, "upper", 300)
    p, d, t = np.moveaxis(low.stress, 2, 0)
    f = np.deg2rad(25.0)
    assert (np.hypot(d, t) <= 5.0 * np.cos(f) - p * np.sin(f) + 1e-3).all()
    top = np.isclose(low.mesh.points[low.mesh.triangles][:, :, 1], 0.0)
    x = low.mesh.points[low.mesh.triangles][:, :, 0]
    beside = top & (np.abs(x) > 0.7) & (top.sum(axis=1) == 2)[:, None]
    assert (p - d)[beside] == pytest.approx(-4.0, abs=1e-3)
    # the base goes down and to the right, the ground at the walls rests
    points, speed = high.mesh.points, high.velocity
    base = (np.abs(points[:, 0]) < 0.499) & (points[:, 1] > -1e-9)
    assert (speed[base, 0] > 0).all()
    assert speed[base, 1].mean() < 0
    # a rigid base: velocities down are linear along it
    assert np.polyfit(points[base, 0], speed[base, 1], 1, full=True)[1].sum() == pytest.approx(0.0, abs=1e-6)
    assert np.abs(speed[points[:, 1] < points[:, 1].min() + 1e-9]).max() == 0.0
    # what the loads do at these velocities is one for the load that grows
    up, turn = np.polyfit(points[base, 0], speed[base, 1], 1)[::-1]
    assert -up * 1.0 + speed[base, 0].mean() * 0.1 - turn * 0.05 == pytest.approx(1.0, rel=1e-3)


@pytest.mark.parametrize(
    ("section", "says"),
    [
        (Section(0.0, (Layer(0, 5, 1, 0, 0),)), "width must be greater than zero"),
        (Section(1.0, (Layer(1, 5, 1, 0, 0),)), "must begin at the underside"),
        (Section(1.0, (Layer(0, 2, 1, 0, 0), Layer(3, 5, 1, 0, 0))), "gap between the strata"),
        (Section(1.0, (Layer(0, 5, 0, 0, 18),)), "there is no strength"),
        (Section(1.0, (Layer(0, 5, 1, 60, 18),)), "between 0 and 50"),
        (Section(1.0, (Layer(0, 5, 1, 0, 18),), underside=Underside(60.0, 0.0)), "δ must lie"),
        (Section(1.0, (Layer(0, 5, 1, 0, 18),), underside=Underside(20.0)), "both δ and an adhesion"),
        (Section(1.0, (Layer(0, 5, 1, 0, 18),), load=Load((0.0, 0.0, 0.0))), "nothing of the load grows"),
    ],
)
def test_what_cannot_be_looked_at_is_said(section: Section, says: str) -> None:
    with pytest.raises(ValueError, match=says):
        checked(section)


def test_a_roughness_beyond_is_said() -> None:
    for make in (lambda: underside_of(1.0, 20.0, 1.2), lambda: exact(Strip(1.0, 1.0, 20.0, 1.0, 0.0, -0.1))):
        with pytest.raises(ValueError, match="is beyond 0"):
            make()


# ---------------------------------------------------------------- a base as a strip


@pytest.mark.long
def test_a_base_of_a_project_as_a_strip() -> None:
    project = lindmere()
    found = as_strip(project, project.pad("P6"), "drained")
    assert not isinstance(found, str)
    section = found.section
    assert 0.5 < section.B <= project.pad("P6").width + 1e-9
    assert section.layers[0].top == 0.0
    assert all(a.bottom == pytest.approx(b.top) for a, b in pairwise(section.layers))
    # buoyant below the water, heavier above it
    assert 7.0 < min(layer.gamma for layer in section.layers) < 12.0
    low, high = bracket(section, 400)
    assert low.pressure < high.pressure
    assert {name for name, _ in found.methods} >= {"Terzaghi", "Meyerhof", "Vesic"} or len(found.methods) >= 4


def test_uniform_ground_has_its_exact_value_within_the_bracket() -> None:
    project = one_pad()
    found = as_strip(project, project.pads[0], "drained")
    if isinstance(found, str):
        pytest.skip(found)
    value = exact_of(found)
    if value is not None:
        low, high = bracket(found.section, 500)
        assert low.pressure + found.water < value < high.pressure + found.water


def test_a_base_without_strengths_says_so() -> None:
    project = one_pad()
    name = project.ground.soils[0].name
    bare = edited(project, ("ground", "soils", name, "undrained_strength"), None)
    found = as_strip(bare, bare.pads[0], "undrained")
    assert isinstance(found, str)
    assert "undrained" in found


# ---------------------------------------------------------------- firm ground, and ground that is not known


@pytest.mark.long
def test_clay_on_firm_ground_bears_as_it_is_squeezed() -> None:
    """A rough strip on clay of a fifth of its width above rock: c (π + 1 + B/2t), Mandel and Salençon's value for a
    thin layer."""
    section = Section(1.0, (Layer(0.0, 60.0, 10.0, 0.0, 0.0),), firm=0.2)
    low, high = bracket(section, 600)
    value = 10.0 * (np.pi + 1 + 1 / 0.4)
    assert low.pressure < 1.01 * value < 1.02 * high.pressure
    assert high.pressure / low.pressure < 1.08
    assert low.mesh.points[:, 1].min() == pytest.approx(-0.2)
    deep = bound(uniform(1.0, 10.0, 0.0, 0.0, 0.0), "upper", 400)
    assert deep.pressure < low.pressure
    with pytest.raises(ValueError, match="stands on firm ground"):
        checked(replace(section, firm=0.0))


def test_ground_that_ends_above_the_mechanism_is_said_to_go_on() -> None:
    project = one_pad()
    found = as_strip(project, project.pads[0], "drained")
    assert not isinstance(found, str)
    assert "goes on" not in found.said
    hole = project.ground.boreholes[0]
    short = hole.replaced(strata=tuple(s.replaced(thickness=2.0) for s in hole.strata[:1]))
    shallow = project.replaced(ground=project.ground.replaced(boreholes=(short,)))
    found = as_strip(shallow, shallow.pads[0], "drained")
    assert not isinstance(found, str)
    assert "known to 0.8 m below the base, further down its last stratum goes on" in found.said
    firm = shallow.replaced(ground=shallow.ground.replaced(boreholes=(short.replaced(rigid_below=True),)))
    found = as_strip(firm, firm.pads[0], "drained")
    assert not isinstance(found, str)
    assert found.rigid == pytest.approx(0.8)
