"""Stress from areas of any form, from all foundations together, and the differences of settlement between them."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import CheckResult, State
from korbent.core.evaluate import evaluate, evaluate_pad
from korbent.core.explain.working import working
from korbent.core.model import AreaLoad, Load, Project, edited
from korbent.core.settlement.beside import besides
from korbent.core.settlement.formulas import (
    burland_burbidge,
    confined,
    embedment_factor,
    fox,
    skempton_bjerrum,
    strain_influence,
    time_factor,
)
from korbent.core.settlement.neighbours import gabriel, neighbours, settled
from korbent.core.settlement.pressing import pressing_of
from korbent.core.settlement.stress.area_loads import area_load_stress
from korbent.core.settlement.stress.influences import FAR, Areas, Influences, gauss_places, stress_of_pairs
from korbent.core.settlement.stress.polygon import circle, polygon_stress, rectangle_corners
from korbent.core.settlement.stress.rectangle import point_stress, rectangle_stress, spread_stress
from korbent.verification.pad import one_pad

near = st.floats(-6.0, 6.0)
size = st.floats(0.6, 5.0)


def stress_at(x: float, y: float, levels: np.ndarray, areas: Areas) -> np.ndarray:
    """Unit influences of rectangles below one point, (areas, levels)."""
    return stress_of_pairs(np.array([x, y]), levels, areas)


def n(value: float) -> np.ndarray:
    return np.array(value)


@given(x=near, y=near, B=size, L=size, z=st.floats(0.3, 12.0))
def test_rectangles_are_sums_of_point_loads(x: float, y: float, B: float, L: float, z: float) -> None:
    m = 240
    u = (np.arange(m) + 0.5) / m * B - B / 2
    v = (np.arange(m) + 0.5) / m * L - L / 2
    r2 = (x - u[:, None]) ** 2 + (y - v[None, :]) ** 2
    summed = float(point_stress(r2, n(z)).sum() * B * L / m**2)
    assert float(rectangle_stress(n(x), n(y), n(B), n(L), n(z))) == pytest.approx(summed, rel=1e-3, abs=1e-7)


@given(x=near, y=near, B=size, L=size, z=st.floats(0.05, 12.0), turn=st.floats(-180, 180))
def test_polygons_agree_with_rectangles(x: float, y: float, B: float, L: float, z: float, turn: float) -> None:
    """Edges and corners are two closed forms of one integral; the direction of the corners does not matter."""
    corners = rectangle_corners(0.0, 0.0, B, L, turn)
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    own = float(rectangle_stress(n(c * x + s * y), n(c * y - s * x), n(B), n(L), n(z)))
    assert float(polygon_stress(corners, n(x), n(y), n(z))) == pytest.approx(own, rel=1e-7, abs=1e-10)
    assert float(polygon_stress(corners[::-1], n(x), n(y), n(z))) == pytest.approx(own, rel=1e-7, abs=1e-10)


def test_a_polygon_with_a_bay_is_the_difference_of_two() -> None:
    whole = np.array([(0, 0), (4, 0), (4, 3), (0, 3)], dtype=float)
    bay = np.array([(1, 3), (1, 1), (2.5, 1), (2.5, 3)], dtype=float)
    shape = np.array([(0, 0), (4, 0), (4, 3), (2.5, 3), (2.5, 1), (1, 1), (1, 3), (0, 3)], dtype=float)
    for x, y, z in ((1.7, 2.0, 0.6), (0.2, 0.3, 1.5), (6.0, -2.0, 3.0)):
        parts = [float(polygon_stress(p, n(x), n(y), n(z))) for p in (whole, bay, shape)]
        assert parts[2] == pytest.approx(parts[0] - parts[1], rel=1e-9)


@given(z=st.floats(0.1, 10.0), D=st.floats(0.8, 8.0))
def test_below_the_middle_of_a_circle(z: float, D: float) -> None:
    """1 - (1 + (R/z)^2)^-1.5 (closed form)."""
    found = float(polygon_stress(circle(0.0, 0.0, D), n(0.0), n(0.0), n(z)))
    assert found == pytest.approx(1 - (1 + (D / 2 / z) ** 2) ** -1.5, rel=1e-5)


def test_a_long_embankment_is_the_closed_form_of_a_strip() -> None:
    """Osterberg 1957: under the middle of a long bank, q/pi [(a + b)/a (alpha1 + alpha2) - b/a alpha2] for each
    half."""
    height, crest, slope = 3.0, 8.0, 2.0
    a, b = slope * height, crest / 2
    load = AreaLoad(name="E", shape="embankment", size_x=crest, size_y=2000.0, height=height, weight=20.0, slope=slope)
    for z in (1.0, 4.0, 15.0):
        first = math.atan((a + b) / z) - math.atan(b / z)
        second = math.atan(b / z)
        half = 60.0 / math.pi * ((a + b) / a * (first + second) - b / a * second)
        assert float(area_load_stress(load, n(0.0), n(0.0), n(-z))) == pytest.approx(2 * half, rel=2e-3)
    # far below, the whole weight as a point load
    short = load.replaced(size_y=10.0)
    volume = height / 6 * (8 * 10 + 4 * 14 * 16 + 20 * 22)
    deep = float(area_load_stress(short, n(0.0), n(0.0), n(-200.0)))
    assert deep == pytest.approx(20 * volume * 1.5 / math.pi / 200**2, rel=0.01)


def test_far_rectangles_as_point_loads() -> None:
    """At the distance where the exact form is left, for many sizes, directions and depths: within 1e-3 of the small
    stress there."""
    rng = np.random.default_rng(3)
    for _ in range(400):
        B, L = rng.uniform(1, 4, 2)
        turn, z, r = rng.uniform(0, 6.28), rng.uniform(1.0, 30), FAR * max(B, L) * 1.0001
        one = Areas(*(np.array([v]) for v in (0.0, 0.0, B, L, 0.0, 0.0)))
        far = float(stress_at(r * math.cos(turn), r * math.sin(turn), np.array([-z]), one)[0, 0])
        exact = float(rectangle_stress(n(r * math.cos(turn)), n(r * math.sin(turn)), n(B), n(L), n(z)))
        assert far == pytest.approx(exact, rel=1e-3)


def test_influences_keep_what_stays() -> None:
    rng = np.random.default_rng(7)
    count = 12

    def areas(x: np.ndarray) -> Areas:
        return Areas(x, y, B, B, np.zeros(count), np.full(count, -1.0))

    x, y, B = rng.uniform(0, 30, count), rng.uniform(0, 30, count), rng.uniform(1, 3, count)
    levels = np.tile(np.linspace(-1.2, -15, 20), (count, 1))
    kept = Influences()
    kept(np.stack([x, y], -1), levels, areas(x))
    moved = x.copy()
    moved[4] += 1.3
    again = kept(np.stack([moved, y], -1), levels, areas(moved))
    fresh = Influences()(np.stack([moved, y], -1), levels, areas(moved))
    assert np.array_equal(again, fresh)
    fewer = areas(moved).only(np.arange(5))
    assert kept(np.stack([moved, y], -1), levels, fewer).shape == (count, 5, 20)


def test_spread_of_two_to_one() -> None:
    assert float(spread_stress(n(2.0), n(3.0), n(1.0))) == pytest.approx(6 / 12)


# laws


def test_strain_influence_by_its_corners() -> None:
    """Square: 0.1 at the base, I_p at B/2, 0 at 2 B; strip: 0.2, I_p at B, 0 at 4 B (Schmertmann et al. 1978)."""
    q, at_peak = n(120.0), n(30.0)
    peak = 0.5 + 0.1 * 2.0
    for L, start, middle, end in ((2.0, 0.1, 1.0, 4.0), (20.0, 0.2, 2.0, 8.0)):
        values = [float(strain_influence(n(z), n(2.0), n(L), q, at_peak)) for z in (0.0, middle, end, end + 1)]
        assert values == pytest.approx([start, peak, 0.0, 0.0])
    assert float(embedment_factor(n(100.0), n(40.0))) == pytest.approx(0.8)
    assert float(embedment_factor(n(10.0), n(40.0))) == 0.5
    assert time_factor(10.0) == pytest.approx(1.4)


def test_burland_and_burbidge_by_hand() -> None:
    """B = L = 2 m, N = 20, q = 150 kPa, preload 18 kPa, deep sand, at once: 2^0.7 (1.71/20^1.4)(150 - 12) = 5.8 mm."""
    by_hand = 2**0.7 * 1.71 / 20**1.4 * (150 - 12)
    assert burland_burbidge(2.0, 2.0, 20.0, 150.0, 18.0, 10.0, 1.0) == pytest.approx(by_hand, rel=1e-12)
    assert burland_burbidge(2.0, 2.0, 20.0, 150.0, 18.0, 10.0, 30.0) == pytest.approx(by_hand * 1.5, rel=1e-12)
    assert burland_burbidge(2.0, 200.0, 20.0, 150.0, 18.0, 10.0, 1.0) == pytest.approx(by_hand * 1.25**2, rel=6e-3)
    thin = burland_burbidge(2.0, 2.0, 20.0, 150.0, 18.0, 2**0.763 / 2, 1.0)
    assert thin == pytest.approx(by_hand * 0.75, rel=1e-12)
    assert burland_burbidge(2.0, 2.0, 20.0, 15.0, 18.0, 10.0, 1.0) == pytest.approx(by_hand / 138 * 5, rel=1e-12)


def test_skempton_and_bjerrum() -> None:
    """A = 1 takes nothing off; the horizontal share by numerical integration of Boussinesq's horizontal stress (nu =
    0.5)."""
    assert float(skempton_bjerrum(n(1.0), n(2.0), n(1.5))) == pytest.approx(1.0)
    R, z = 1.5, 2.0
    r = (np.arange(4000) + 0.5) / 4000 * R
    vertical = (3 * z**3 / (r**2 + z**2) ** 2.5 * r).sum()
    horizontal = (1.5 * r**2 * z / (r**2 + z**2) ** 2.5 * r).sum()
    share = float(skempton_bjerrum(n(0.4), n(z), n(R)))
    assert share == pytest.approx(0.4 + 0.6 * horizontal / vertical, rel=1e-4)


def test_confined_strain_is_that_of_hooke() -> None:
    """Three equations of Hooke with no sideways strain, solved."""
    E, nu = 12_000.0, 0.28
    compliance = np.array([[1, -nu, -nu], [-nu, 1, -nu], [-nu, -nu, 1]]) / E
    stiffness = np.linalg.inv(compliance)
    assert float(confined(n(E), n(nu))) == pytest.approx(1 / stiffness[0, 0], rel=1e-12)


# all foundations together


def pair(apart: float = 3.0, **changes: Any) -> Project:
    project = one_pad(load=Load(V=600.0), **changes)
    first = project.actions.load_points[0]
    other = first.replaced(name="D", x=apart)
    project = project.replaced(actions=project.actions.replaced(load_points=(first, other)))
    twin = project.pads[0].replaced(name="Q", load_point="D")
    return project.replaced(pads=(project.pads[0], twin))


def test_a_neighbour_adds_its_stress() -> None:
    project = pair()
    found = besides(project)["P"]
    q = pressing_of(project)[1].pressure[0]
    expected = q * rectangle_stress(n(-3.0), n(0.0), n(2.0), n(2.4), -1.2 - found.levels)
    assert found.stress[0] == pytest.approx(expected, rel=1e-9)
    alone = evaluate_pad(one_pad(load=Load(V=600.0)), one_pad(load=Load(V=600.0)).pads[0]).check("settlement")
    together = evaluate(project).pad("P").check("settlement")
    assert (together.demand or 0) > 1.03 * (alone.demand or 0)
    far = evaluate(pair(200.0)).pad("P").check("settlement")
    assert far.demand == pytest.approx(alone.demand, rel=1e-4)


def test_equal_neighbours_do_not_slope_and_unequal_ones_do() -> None:
    same = evaluate(pair()).pad("P").check("slope")
    assert same.ratio == pytest.approx(0.0, abs=1e-9)
    project = edited(pair(), ("actions", "load_points", "D", "loads", "G", "V"), 200.0)
    results = evaluate(project)
    s = {name: float(value.total[0, 0]) for name, value in settled(project).items() if value is not None}
    found = results.pad("P").check("slope")
    assert found.demand == pytest.approx(1000 * abs(s["P"] - s["Q"]) / 3.0, rel=1e-9)
    assert found.ratio == pytest.approx(500 * abs(s["P"] - s["Q"]) / 3.0, rel=1e-9)
    assert "to Q, 1/" in found.message
    opened = working(project, project.pads[0], "slope")
    assert not isinstance(opened, CheckResult)
    assert opened.lines()
    assert evaluate_pad(one_pad(), one_pad().pads[0]).check("slope").state is State.NOT_APPLICABLE


def row(*loads: float) -> Project:
    """Pads in a row, 5 m apart."""
    project = one_pad(load=Load(V=loads[0]))
    first = project.actions.load_points[0]
    points = tuple(first.replaced(name=f"C{i}", x=5.0 * i, loads={"G": Load(V=v)}) for i, v in enumerate(loads))
    pads = tuple(project.pads[0].replaced(name=f"P{i}", load_point=f"C{i}") for i in range(len(loads)))
    return project.replaced(actions=project.actions.replaced(load_points=points), pads=()).replaced(pads=pads)


def test_relative_rotation_takes_the_common_slope_out() -> None:
    project = row(300.0, 500.0, 900.0)
    s = [float(v.total[0, 0]) for v in settled(project).values() if v is not None]
    found = evaluate(project).pad("P1").check("relative-rotation")
    assert found.demand == pytest.approx(1000 * abs(s[1] - (s[0] + s[2]) / 2) / 5.0, rel=1e-9)
    assert "against the line P0 to P2" in found.message
    assert evaluate(project).pad("P0").check("relative-rotation").state is State.NOT_APPLICABLE


def test_tilt_of_a_circle_on_the_half_space() -> None:
    """Closed form (Borowicka 1943): 3 M (1 - nu2)/(4 E R3), with the settlement V (1 - nu2)/(2 E R) taken out."""
    project = one_pad(shape="circle", width=2.4, length=2.4, load=Load(V=700.0, My=60.0))
    pad = project.pads[0]
    result = evaluate_pad(project, pad)
    opened = working(project, pad, "tilt")
    assert not isinstance(opened, CheckResult)
    values = {
        opened.recording.steps[i].symbol: float(np.ravel(opened.recording.steps[i].value)[0])
        for i in opened.recording.leading_to(opened.step)
    }
    expected = 1.5 * abs(values["e_x"]) / 1.2**2 * values["s"]
    assert result.check("tilt").demand == pytest.approx(expected, rel=1e-9)


def test_gabriel_pairs_of_a_grid_are_its_lines() -> None:
    places = np.array([(x, y) for x in (0.0, 6.0, 12.0) for y in (0.0, 5.0)])
    assert len(gabriel(places)) == 7
    assert gabriel(places[:1]) == []
    names = neighbours(row(1.0, 1.0, 1.0))
    assert [n for n, _ in names["P1"]] == ["P0", "P2"]
    assert [n for n, _ in names["P0"]] == ["P1"]


def test_an_area_load_settles_the_bases_beside_it() -> None:
    project = one_pad(load=Load(V=400.0))
    fill = AreaLoad(name="Fill", x=4.0, y=0.0, size_x=6.0, size_y=8.0, level=0.0, pressure=50.0)
    loaded = project.replaced(actions=project.actions.replaced(area_loads=(fill,)))
    before, after = (evaluate(p).pad("P").check("settlement").demand or 0 for p in (project, loaded))
    assert after > 1.1 * before


def mindlin(r2: np.ndarray, depth: float, nu: float) -> np.ndarray:
    """Settlement at the depth of a point load, times 16 pi G (1 - nu), without the cell itself (Mindlin 1936)."""
    R1, R2, two = np.sqrt(r2), np.sqrt(r2 + 4 * depth**2), 2 * depth
    own = (3 - 4 * nu) / np.where(R1 > 0, R1, 1.0)
    rest = (8 * (1 - nu) ** 2 - (3 - 4 * nu)) / R2 + ((3 - 4 * nu) * two**2 - 2 * depth**2) / R2**3
    return np.where(R1 > 0, own, 0.0) + rest + 6 * depth**2 * two**2 / R2**5


@pytest.mark.parametrize(
    ("B", "L", "depth", "nu"),
    [(2.0, 2.0, 1.0, 0.3), (2.0, 3.0, 2.0, 0.3), (2.0, 2.0, 4.0, 0.49), (1.5, 3.0, 1.0, 0.2)],
)
def test_fox_is_mindlin_integrated(B: float, L: float, depth: float, nu: float) -> None:
    """Mean settlement of a rectangle at a depth over that at the surface: all pairs of cells, each cell itself in
    closed form."""
    m = 30
    x, y = (np.arange(m) + 0.5) / m * B, (np.arange(m) + 0.5) / m * L
    r2 = ((x[:, None] - x[None]) ** 2)[:, None, :, None] + ((y[:, None] - y[None]) ** 2)[None, :, None, :]
    hx, hy = B / m, L / m
    near = 2 * (hx * np.arcsinh(hy / hx) + hy * np.arcsinh(hx / hy)) / (hx * hy)
    deep = float(mindlin(r2, depth, nu).mean()) + (3 - 4 * nu) * near / m**2
    R1 = np.sqrt(r2)
    surface = 8 * (1 - nu) ** 2 * (float(np.where(R1 > 0, 1 / np.where(R1 > 0, R1, 1.0), 0.0).mean()) + near / m**2)
    assert float(fox(n(B), n(L), n(depth), n(nu))) == pytest.approx(deep / surface, rel=0.01)
    assert float(fox(n(B), n(L), n(1e-9), n(nu))) == pytest.approx(1.0, abs=1e-4)


def test_embedment_reduces_the_elastic_part() -> None:
    plain = one_pad(load=Load(V=500.0))
    reduced = edited(plain, ("settings", "settlement_embedment"), "Fox 1948")
    a, b = (evaluate(p).pad("P").check("settlement").demand or 0 for p in (plain, reduced))
    assert b == pytest.approx(a * float(fox(n(2.0), n(2.4), n(1.2), n(0.3))), rel=1e-9)


def influence_depth(project: Project) -> float:
    """As the check says it, m."""
    message = evaluate(project).pad("P").check("settlement").message
    return float(message.split("influence depth ")[1].split()[0])


def test_a_neighbour_tilts_a_base_towards_it() -> None:
    """The strains that the neighbour causes along both edges of the base, integrated over the depth that counts."""
    project = pair(2.6)
    tilted = evaluate(project).pad("P").check("tilt")
    stiff = float(confined(n(25_000.0), n(0.3)))
    q = pressing_of(project)[1].pressure[0]
    influence = influence_depth(project)
    depth = np.linspace(1e-6, influence, 2000)
    # the mean slope below the base: what the stress differs along its two edges, over its width
    v = (np.arange(40) + 0.5) / 40 * 2.4 - 1.2
    east, west = (
        q * np.mean([rectangle_stress(n(x - 2.6), n(y), n(2.0), n(2.4), depth) for y in v], axis=0) for x in (1.0, -1.0)
    )
    slope = float(np.trapezoid((east - west) / 2.0 * stiff, depth))
    assert tilted.demand == pytest.approx(1000 * slope, rel=0.03)
    assert evaluate(pair(100.0)).pad("P").check("tilt").demand == pytest.approx(0.0, abs=1e-3)


@pytest.mark.parametrize(
    ("name", "rotation"),
    [
        ("en1997_annex_h", 2.0),
        ("skempton_macdonald_1956_cracks", 1000 / 300),
        ("bjerrum_1963_machines", 1000 / 750),
    ],
)
def test_published_limits(name: str, rotation: float) -> None:
    project = edited(row(300.0, 500.0, 900.0), ("settings", "limit_set"), name)
    assert evaluate(project).pad("P1").check("relative-rotation").capacity == pytest.approx(rotation)
    typed = edited(project, ("settings", "limit_set"), "typed")
    assert evaluate(typed).pad("P1").check("relative-rotation").capacity == pytest.approx(2.0)


def test_short_term_settlement_is_what_comes_at_once() -> None:
    """Granular ground: as under the long-term combination; clay by its undrained modulus with nu = 0.5
    (Steinbrenner)."""
    from korbent.core.settlement.stress.below import displacement_below

    project = one_pad(load=Load(V=500.0))
    assert evaluate(project).pad("P").check("settlement-short").state is State.NOT_APPLICABLE
    first = project.actions.combinations[0]
    short = first.replaced(number=8, serves=("settlement_short",))
    project = project.replaced(actions=project.actions.replaced(combinations=(*project.actions.combinations, short)))
    result = evaluate(project).pad("P")
    assert result.check("settlement-short").demand == pytest.approx(result.check("settlement").demand, rel=1e-9)
    soil = project.ground.soils[0].replaced(compression="mv", compressibility=0.3)
    clay = project.replaced(ground=project.ground.replaced(soils=(soil,)))
    assert "no undrained modulus" in evaluate(clay).pad("P").check("settlement-short").message
    stiff = edited(clay, ("ground", "soils", "ground", "undrained_modulus"), 20_000.0)
    found = evaluate(stiff).pad("P").check("settlement-short")
    q = pressing_of(stiff)[0].pressure[0]
    deep = influence_depth(stiff)
    u = float(displacement_below(n(2.0), n(2.4), n(deep), n(0.5), 0.74))
    assert found.demand == pytest.approx(1000 * q * u / 20_000, rel=0.02)


def test_changes_of_pairs_are_kept_and_follow_what_moves() -> None:
    """One base resized, one moved: the same as worked out anew; and each against a difference of the stress itself."""
    from korbent.core.settlement.stress.influences import Slopes

    rng = np.random.default_rng(11)
    n, k = 14, 9
    x, y = rng.uniform(0, 40, n), rng.uniform(0, 30, n)
    values = {
        "B": rng.uniform(1, 3, n),
        "L": rng.uniform(1, 3, n),
        "turn": rng.uniform(0, 1, n),
        "level": rng.uniform(-2, 0, n),
    }
    levels = np.linspace(-0.5, -12.0, k) * np.ones((n, 1))
    kept = Slopes(20.0)

    def of(found: Slopes) -> tuple[np.ndarray, np.ndarray]:
        return found(levels, Areas(x=x, y=y, **values))

    of(kept)
    values = values | {"B": values["B"].copy()}
    values["B"][3] = 2.71
    x = x.copy()
    x[7] += 0.4
    pairs, unit = of(kept)
    again, fresh = of(Slopes(20.0))
    assert (pairs == again).all()
    np.testing.assert_allclose(unit, fresh, rtol=1e-12, atol=1e-15)
    assert (np.diff(pairs[:, 0]) >= 0).all()
    every = Areas(x=x, y=y, **values)
    for (i, j), change in list(zip(pairs, unit))[::17]:
        c, t = np.cos(every.turn[i]), np.sin(every.turn[i])
        u, v = (np.linspace(-0.5, 0.5, 9) * size[i] for size in (every.B, every.L))
        mean = np.zeros(k)
        for a, b, w in ((a, b, _simpson(9)[p] * _simpson(9)[q]) for p, a in enumerate(u) for q, b in enumerate(v)):
            at_x, at_y = float(x[i] + c * a - t * b), float(y[i] + t * a + c * b)
            east, west = (stress_at(at_x + d, at_y, levels[i], every.only(np.array([j])))[0] for d in (1e-4, -1e-4))
            mean += w * (east - west) / 2e-4
        at_gauss = np.zeros(k)  # the same rule, each of its points by a difference of the stress
        for gx, gy in gauss_places(every)[i]:
            east, west = (stress_at(gx + d, gy, levels[i], every.only(np.array([j])))[0] for d in (1e-4, -1e-4))
            at_gauss += (east - west) / 2e-4 / 4
        np.testing.assert_allclose(change[0], at_gauss, rtol=2e-3, atol=2e-8)
        np.testing.assert_allclose(change[0], mean, rtol=0.03, atol=2e-3 * np.abs(mean).max())


def _simpson(n: int) -> np.ndarray:
    weights = np.ones(n)
    weights[1:-1:2], weights[2:-1:2] = 4.0, 2.0
    return weights / weights.sum()
