"""Plates: patches of constant bending, closed forms (Navier, Hetényi), limits, contact, design moments."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.sparse.linalg import spsolve

from korbent.core.plates.element import Plates
from korbent.core.plates.mesh import GridMesh, Mesh, mesh_of
from korbent.core.plates.recover import design_moments, fields_of, over_band
from korbent.core.plates.solve import LiftedError, PlateOnSprings

E, NU = 30e6, 0.2


def grid(nx: int, ny: int, a: float = 1.0, b: float = 1.0) -> Mesh:
    return GridMesh(np.linspace(0.0, a, nx + 1), np.linspace(0.0, b, ny + 1), np.ones((nx, ny), dtype=bool))


def supported(n: int, t: float, nu: float = 0.3) -> tuple[float, float]:
    """(deflection, moment) in the middle of a simply supported square of 1 m under 1 kPa, n by n elements."""
    mesh = grid(n, n)
    plate = PlateOnSprings(mesh, np.full(n * n, t), 1e7, nu, np.zeros(n * n))
    load = plate.load(np.ones((n * n, 4, 1)))[:, 0]
    x, y = mesh.nodes
    on_x, on_y = (x < 1e-9) | (x > 1 - 1e-9), (y < 1e-9) | (y > 1 - 1e-9)
    fixed = np.zeros(plate.count, dtype=bool)
    fixed[::3], fixed[2::3], fixed[1::3] = on_x | on_y, on_x, on_y
    matrix = plate._matrix(np.zeros((n * n, 4)))
    found = np.zeros(plate.count)
    found[~fixed] = spsolve(matrix[~fixed][:, ~fixed], load[~fixed])
    middle = int(np.argmin((x - 0.5) ** 2 + (y - 0.5) ** 2))
    moments = []
    for element, corner in zip(*np.nonzero(mesh.elements == middle)):
        xi, eta = ((-1, -1), (1, -1), (1, 1), (-1, 1))[corner]
        unknowns = found[(3 * mesh.elements[:, :, None] + np.arange(3)).reshape(-1, 12)][:, :, None]
        moments.append(plate.plates.forces(unknowns, xi, eta)[0][element, 0, 0])
    return found[3 * middle], float(np.mean(moments))


@pytest.mark.parametrize(("n", "of_w", "of_m"), [(8, 1e-3, 1.2e-2), (16, 3e-4, 4e-3)])
def test_a_thin_square_by_navier(n: int, of_w: float, of_m: float) -> None:
    """w = 0.00406235 q a4/D, M = 0.0478864 q a2 (Timoshenko and Woinowsky-Krieger 1959, table 8), t/a = 1/1000."""
    t = 0.001
    w, M = supported(n, t)
    D = 1e7 * t**3 / (12 * (1 - 0.09))
    assert w == pytest.approx(0.00406235 / D, rel=of_w)
    assert pytest.approx(0.0478864, rel=of_m) == M


def navier_thick(t: float, nu: float = 0.3) -> float:
    """Deflection in the middle of a simply supported square with shear (Mindlin), as a double series."""
    D, shear = 1e7 * t**3 / (12 * (1 - nu**2)), 5 / 6 * 1e7 / (2 * (1 + nu)) * t
    total = 0.0
    for m in range(1, 120, 2):
        for n in range(1, 120, 2):
            k = math.pi**2 * (m**2 + n**2)
            q = 16 / (math.pi**2 * m * n)
            total += q * (1 / (D * k**2) + 1 / (shear * k)) * math.sin(m * math.pi / 2) * math.sin(n * math.pi / 2)
    return total


@pytest.mark.parametrize("t", [0.05, 0.1, 0.2])
def test_a_thick_square_deforms_in_shear_too(t: float) -> None:
    assert supported(16, t)[0] == pytest.approx(navier_thick(t), rel=3e-3)


def test_constant_bending_and_rigid_motion_on_skewed_elements() -> None:
    """Elements of any shape give a constant curvature exactly, and no force for a rigid motion."""
    x = np.array([[0.0, 1.1, 1.3, -0.2]])
    y = np.array([[0.0, 0.2, 1.2, 0.9]])
    plates = Plates(x, y, np.array([0.2]), E, NU)
    # w = -x2/2, b_x = x: curvature 1 along x
    bent = np.stack([-(x**2) / 2, x, 0 * x], axis=-1).reshape(1, 12, 1)
    moments, shears = plates.forces(bent, 0.3, -0.4)
    D = E * 0.2**3 / (12 * (1 - NU**2))
    assert moments[0, :, 0] == pytest.approx([D, NU * D, 0.0], rel=1e-9, abs=1e-6)
    assert shears[0, :, 0] == pytest.approx([0.0, 0.0], abs=1e-6 * D)
    rigid = np.stack([1 + 0.3 * x - 0.2 * y, -0.3 + 0 * x, 0.2 + 0 * x], axis=-1).reshape(1, 12)
    assert np.abs(plates.stiffness()[0] @ rigid[0]).max() < 1e-6 * D
    stiffness = plates.stiffness()[0]
    assert stiffness == pytest.approx(stiffness.T, rel=1e-9)
    assert np.sum(np.linalg.eigvalsh(stiffness) < 1e-6 * D) == 3


def beam(L: float, n: int, h: float, k: float, P: float) -> tuple[float, float, float, float]:
    """(deflection, moment below the load, theirs by Hetényi 1946) of a strip 1 m wide with a load over 0.1 m in the
    middle."""
    mesh = mesh_of((-L / 2, L / 2, 0.0, 1.0), [(-0.05, 0.05, 0.0, 1.0)], [], L / n, 0.05)
    count = len(mesh.elements)
    # as thin as is stiff: no shear
    modulus = 30e6 * (0.5 / h) ** 3
    plate = PlateOnSprings(mesh, np.full(count, h), modulus, 0.0, np.full(count, k))
    q = np.zeros((count, 4, 1))
    q[mesh.within((-0.05, 0.05, 0.0, 1.0))] = P / 0.1
    found = plate.solve(plate.load(q), tension=True)
    assert found.residual < 1e-9
    EI = modulus * h**3 / 12
    lam = (k / (4 * EI)) ** 0.25
    s, c, S, C = math.sin(lam * L), math.cos(lam * L), math.sinh(lam * L), math.cosh(lam * L)
    w = P * lam / (2 * k) * (2 + c + C) / (S + s)
    # the load over 0.1 m takes P b/8 off the peak
    M = P / (4 * lam) * (C - c) / (S + s) - P * 0.1 / 8
    x, _ = mesh.nodes
    middle = int(np.abs(x).argmin())
    return float(found.settlement[middle, 0]), float(np.nanmax(fields_of(plate, found)[0].m_x)), w, M


@pytest.mark.parametrize(("L", "k"), [(4.0, 2e4), (8.0, 2e4), (14.0, 5e4)])
def test_a_strip_on_springs_by_hetenyi(L: float, k: float) -> None:
    w, M, of_w, of_M = beam(L, 24, 0.05, k, 500.0)
    assert w == pytest.approx(of_w, rel=5e-3)
    assert pytest.approx(of_M, rel=1.5e-2) == M


def on_ground(
    h: float, k: float, loads: list[tuple[float, float, float]], size: float = 0.4, lifts: bool = True
) -> tuple[PlateOnSprings, np.ndarray]:
    """A raft of 6 x 4 m with loads V at x, y over 0.4 m x 0.4 m: (plate, forces)."""
    boxes = [(x - 0.2, x + 0.2, y - 0.2, y + 0.2) for _, x, y in loads]
    mesh = mesh_of((-3.0, 3.0, -2.0, 2.0), boxes, [], size, size / 2)
    count = len(mesh.elements)
    plate = PlateOnSprings(mesh, np.full(count, h), E, NU, np.full(count, k))
    q = np.zeros((count, 4, 1))
    for (V, _, _), box in zip(loads, boxes):
        q[mesh.within(box)] += V / 0.16
    return plate, plate.load(q)


def test_a_stiff_raft_has_the_plane_of_a_rigid_base() -> None:
    """N/A + M x/I, without lift-off, within half a percent."""
    plate, load = on_ground(6.0, 1000.0, [(800.0, 1.0, 0.5), (400.0, -1.5, -1.0)])
    found = plate.solve(load, tension=True)
    N, mx, my = 1200.0, 800.0 - 600.0, 400.0 - 400.0
    x, y = (v[plate.mesh.elements].mean(-1) for v in plate.mesh.nodes)
    p = found.pressure.mean(axis=1)[:, 0]
    plane = N / 24 + 12 * mx / (4 * 6**3) * x + 12 * my / (6 * 4**3) * y
    assert p == pytest.approx(plane, rel=5e-3)


def test_a_flexible_raft_presses_where_the_load_is() -> None:
    stiff, load = on_ground(1.0, 2e4, [(800.0, 0.0, 0.0)])
    soft, other = on_ground(0.15, 2e4, [(800.0, 0.0, 0.0)])
    peaks = [plate.solve(q, tension=False).pressure.max() for plate, q in ((stiff, load), (soft, other))]
    assert peaks[1] > 1.5 * peaks[0]


def test_lift_off_is_in_equilibrium_and_never_pulls() -> None:
    plate, load = on_ground(0.8, 2e4, [(900.0, 2.4, 0.0)])
    found = plate.solve(load)
    assert found.lifted[0]
    assert found.pressure.min() >= 0.0
    assert found.residual < 1e-9
    area = plate.plates.weights()
    x = plate.mesh.nodes[0][plate.mesh.elements] @ np.stack([np.full(4, 0.25)]).T
    moment = (area * found.pressure[:, :, 0] * x).sum()
    assert moment == pytest.approx(900.0 * 2.4, rel=5e-3)


def test_what_only_pulls_floats_up() -> None:
    plate, load = on_ground(0.5, 2e4, [(900.0, 0.0, 0.0)])
    with pytest.raises(LiftedError):
        plate.solve(-load)


def test_a_finer_mesh_changes_little_and_the_mirror_image_is_the_mirror_image() -> None:
    results = []
    for size, sign in ((0.5, 1.0), (0.25, 1.0), (0.25, -1.0)):
        plate, load = on_ground(0.5, 2e4, [(800.0, sign * 1.0, 0.5), (400.0, -1.5 * sign, -1.0)], size)
        found = plate.solve(load)
        fields = fields_of(plate, found)[0]
        results.append((found.settlement.max(), np.nanmax(fields.m_x), np.nanmin(fields.m_y)))
    assert results[0][0] == pytest.approx(results[1][0], rel=5e-3)
    assert results[1] == pytest.approx(results[2], rel=1e-9)


def test_moments_at_a_step_of_thickness_are_never_averaged() -> None:
    mesh = mesh_of((0.0, 4.0, 0.0, 1.0), [(0.0, 2.0, 0.0, 1.0)], [], 0.25, 0.25)
    h = np.where(mesh.middles[0] < 2.0, 0.8, 0.4)
    plate = PlateOnSprings(mesh, h, E, NU, np.full(len(h), 2e4))
    q = np.zeros((len(h), 4, 1))
    q[mesh.middles[0] > 3.0] = 100.0
    fields = fields_of(plate, plate.solve(plate.load(q)))
    assert [f.thickness for f in fields] == [0.4, 0.8]
    x = mesh.nodes[0]
    at = np.abs(x - 2.0) < 1e-9
    assert all(not np.isnan(f.m_x[at]).any() for f in fields)
    assert np.isnan(fields[0].m_x[x < 1.9]).all()
    assert np.isnan(fields[1].m_x[x > 2.1]).all()


moments = st.floats(-300.0, 300.0)


@given(moments, moments, moments)
def test_design_moments_carry_every_direction(m_x: float, m_y: float, m_xy: float) -> None:
    """Wood 1968: with bars along x and y for these moments no direction asks for more than they carry; and nothing less
    would do."""
    bottom_x, bottom_y, top_x, top_y = (float(v) for v in design_moments(*(np.array(v) for v in (m_x, m_y, m_xy))))
    assert min(bottom_x, bottom_y, top_x, top_y) >= 0.0
    for angle in np.linspace(0.0, math.pi, 61):
        c, s = math.cos(angle), math.sin(angle)
        acting = m_x * c * c + m_y * s * s + 2 * m_xy * s * c
        assert acting <= bottom_x * c * c + bottom_y * s * s + 1e-6
        assert -acting <= top_x * c * c + top_y * s * s + 1e-6


def test_without_twist_they_are_the_moments_themselves() -> None:
    four = design_moments(np.array([40.0, -30.0]), np.array([-10.0, 20.0]), np.zeros(2))
    assert [v.tolist() for v in four] == [[40.0, 0.0], [0.0, 20.0], [0.0, 30.0], [10.0, 0.0]]


def test_means_over_a_band() -> None:
    mesh = grid(2, 10, 1.0, 5.0)
    y = mesh.nodes[1]
    straight = over_band(mesh, (3.0 + 2.0 * y)[:, None], "x", 1.0)[:, 0]
    inside = (y > 0.6) & (y < 4.4)
    assert straight[inside] == pytest.approx((3.0 + 2.0 * y)[inside], rel=1e-9)
    peak = np.where(np.abs(y - 2.5) < 1e-9, 10.0, 0.0)[:, None]
    assert over_band(mesh, peak, "x", 1.0)[:, 0].max() == pytest.approx(5.0)
    known = np.where(y < 1.1, np.nan, 1.0)[:, None]
    found = over_band(mesh, known, "x", 2.0)[:, 0]
    assert np.isnan(found[y < 1.1]).all()
    assert found[y > 1.1] == pytest.approx(1.0)


def test_lines_of_the_mesh_run_through_all_that_is_asked_for() -> None:
    mesh = mesh_of((-5.0, 5.0, -4.0, 4.0), [(-4.2, -3.8, 1.0, 1.4)], [(0.5, 2.5, -1.0, 1.0)], 0.7, 0.2)
    for v in (-4.2, -3.8, 0.5, 2.5):
        assert np.abs(mesh.lines_x - v).min() < 1e-12
    assert np.diff(mesh.lines_x).min() > 0.05
    assert np.diff(mesh.lines_x).max() <= 0.7 + 1e-9
    assert mesh.area == pytest.approx(80.0 - 4.0)


@pytest.mark.parametrize("seed", range(6))
def test_contact_by_gradients_is_that_of_a_factor_of_its_own(seed: int) -> None:
    """Many loads at once that lift off: each is the solution on just the springs that it presses, and alone it is the
    same."""
    rng = np.random.default_rng(seed)
    n = 14
    mesh = GridMesh(np.linspace(0, 9.0, n + 1), np.linspace(0, 6.0, n + 1), np.ones((n, n), dtype=bool))
    plate = PlateOnSprings(mesh, np.full(n * n, rng.uniform(0.3, 1.2)), 3e7, 0.2, np.full(n * n, rng.uniform(5e3, 8e4)))
    x, y = (v[mesh.elements].mean(axis=1) for v in mesh.nodes)
    pressure = np.full((n * n, 4, 5), 15.0)
    for k in range(1, 5):
        at = (x - rng.uniform(0, 9)) ** 2 + (y - rng.uniform(0, 6)) ** 2 < 1.5
        pressure[:, :, k] += (rng.uniform(100, 900) * at)[:, None]
    found = plate.solve(plate.load(pressure))
    assert found.lifted.any()
    assert not found.lifted[0]
    depth = plate._depth(found.unknowns)
    for k in range(5):
        load = plate.load(pressure[:, :, k : k + 1])
        alone = plate._directly(load[:, 0], depth[:, :, k] > 0)
        size = np.abs(alone).max()
        assert found.unknowns[:, k] == pytest.approx(alone, abs=1e-8 * size)
        assert plate.solve(load).unknowns[:, 0] == pytest.approx(alone, abs=1e-8 * size)


@pytest.mark.parametrize("spread", [3.0, 1e3])
@pytest.mark.parametrize("most", [None, 120.0])
def test_near_another_plate_it_is_the_same(spread: float, most: float | None) -> None:
    """On springs of its own, from the factor of another plate: as from its own factor; near one that is near a third
    too."""
    plate, load = on_ground(0.6, 2e4, [(900.0, 1.2, 0.0), (300.0, -2.0, 1.0)])
    rng = np.random.default_rng(5)
    first, second = (plate.k * np.exp(rng.uniform(-np.log(spread), np.log(spread), len(plate.k))) for _ in "ab")
    loads = np.concatenate([load, 0.3 * load], axis=1)
    for near in (plate.near(first), plate.near(second).near(first)):
        own, found = plate.on(first).solve(loads, most=most), near.solve(loads, most=most)
        size = np.abs(own.unknowns).max()
        assert found.unknowns == pytest.approx(own.unknowns, abs=1e-7 * size)
        assert found.pressure == pytest.approx(own.pressure, abs=1e-5 * own.pressure.max())
        assert found.residual < 1e-6
