"""Base pressure: equilibrium, symmetry, and the limit of overturning."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import Polygon, box

from korbent.core.contact.polygon import clipped_moments, pressure_over
from korbent.core.contact.rectangle import CORNER_X, CORNER_Y, Contact, linear_no_tension

size = st.floats(0.3, 12.0)
inside = st.floats(-0.495, 0.495)


def solve(N: float, e_x: float, e_y: float, B: float, L: float) -> Contact:
    return linear_no_tension(*(np.array([v]) for v in (N, -N * e_y, N * e_x, B, L)))


@given(st.floats(1.0, 5000.0), inside, inside, size, size)
def test_equilibrium(N: float, u: float, v: float, B: float, L: float) -> None:
    contact = solve(N, u * B, v * L, B, L)
    total = pressure_over(CORNER_X * B, CORNER_Y * L, contact.a, contact.b, contact.c)
    assert contact.stable.all()
    assert abs(total.force[0] / N - 1) < 1e-9
    assert abs(total.x[0] / N - u * B) < 1e-9 * B
    assert abs(total.y[0] / N - v * L) < 1e-9 * L


@given(inside, inside, size, size)
def test_mirrored_loads_mirror(u: float, v: float, B: float, L: float) -> None:
    first, second = solve(500.0, u * B, v * L, B, L), solve(500.0, -u * B, v * L, B, L)
    assert np.allclose(first.corners[0], second.corners[0][[1, 0, 3, 2]], rtol=1e-8, atol=1e-8)
    assert np.isclose(first.share[0], second.share[0])


@given(inside, inside, size, size)
def test_quarter_turn_swaps_the_axes(u: float, v: float, B: float, L: float) -> None:
    first, second = solve(500.0, u * B, v * L, B, L), solve(500.0, v * L, u * B, L, B)
    assert np.allclose(first.corners[0], second.corners[0][[0, 3, 2, 1]], rtol=1e-8, atol=1e-8)


@given(inside, inside)
def test_pressure_is_never_tension_and_contact_is_a_share(u: float, v: float) -> None:
    contact = solve(100.0, u, v, 1.0, 1.0)
    assert contact.least[0] >= 0
    assert 0 < contact.share[0] <= 1
    spread = 6 * (abs(u) + abs(v))
    if abs(spread - 1) > 1e-6:
        assert (contact.share[0] < 1) == (spread > 1)


@given(inside, inside, size, size)
def test_the_share_in_contact_is_where_its_plane_presses(u: float, v: float, B: float, L: float) -> None:
    """Another road: the rectangle cut along the line on which the plane of pressure is nothing."""
    contact = solve(100.0, u * B, v * L, B, L)
    a, b, c = (float(getattr(contact, n)[0]) for n in "abc")
    whole = box(-B / 2, -L / 2, B / 2, L / 2)
    slope = float(np.hypot(b, c))
    if slope * (B + L) < 1e-9 * a:
        assert contact.share[0] == 1.0
        return
    # a square on the pressed side of that line
    far = 4 * (B + L)
    at, along = -a / slope**2 * np.array([b, c]), np.array([-c, b]) / slope
    into = np.array([b, c]) / slope
    side = Polygon([at - far * along, at + far * along, at + far * (along + into), at + far * (into - along)])
    pressed = whole.intersection(side).area / whole.area if np.hypot(*at) < far / 2 else 1.0
    assert contact.share[0] == pytest.approx(pressed, abs=1e-7)


def test_outside_the_base_is_unstable_and_never_nan() -> None:
    N = np.array([100.0, 100.0, 0.0, -50.0, 100.0])
    My = np.array([51.0, 0.0, 0.0, 0.0, 49.9])
    Mx = np.array([0.0, 60.0, 0.0, 0.0, 0.0])
    contact = linear_no_tension(N, Mx, My, np.ones(5), np.ones(5))
    assert contact.stable.tolist() == [False, False, False, False, True]
    for values in (contact.a, contact.b, contact.c, contact.corners, contact.share):
        assert np.isfinite(values).all()


def test_ten_thousand_cases_at_once_up_to_the_limit() -> None:
    rng = np.random.default_rng(11)
    n = 10_000
    B, L = rng.uniform(0.4, 6, n), rng.uniform(0.4, 6, n)
    u, v = rng.uniform(-0.495, 0.495, (2, n))
    contact = linear_no_tension(np.full(n, 300.0), -300 * v * L, 300 * u * B, B, L)
    total = pressure_over(CORNER_X * B[:, None], CORNER_Y * L[:, None], contact.a, contact.b, contact.c)
    assert np.abs(total.force / 300 - 1).max() < 1e-9
    assert np.abs(total.x / 300 / B - u).max() < 1e-9
    assert np.abs(total.y / 300 / L - v).max() < 1e-9


def test_where_the_shape_of_the_contact_changes_nothing_jumps() -> None:
    """Triangle, trapezoid along either side, a corner that lifts, all in contact: neighbours by a millionth differ by
    as little."""
    s = np.linspace(0.02, 0.49, 400)
    t = np.linspace(0.0, 1.0, 400)
    squares = 1 + t + t * t
    along = (1 + 2 * t + 3 * t * t) / (4 * squares)
    beside = (squares + t**3) / (4 * squares)
    for right, up in (
        (np.full(400, 0.25), s),
        (s, np.full(400, 0.25)),
        (beside, along),
        (along, beside),
        (0.5 - t / 6, 0.5 - (1 - t) / 6),
    ):
        peaks = []
        for nudge in (-1e-6, 1e-6):
            x, y = (np.clip(0.5 - v + nudge, 0.0, 0.48) for v in (right, up))
            peaks.append(linear_no_tension(np.ones(400), -y, x, np.ones(400), np.ones(400)).peak)
        assert (np.abs(peaks[1] / peaks[0] - 1) < 2e-4).all()
        assert (peaks[1] >= peaks[0] * (1 - 1e-12)).all()


@given(st.floats(-2, 2), st.floats(-2, 2), st.floats(-2, 2))
def test_the_two_sides_of_a_line_make_the_whole_square(a: float, b: float, c: float) -> None:
    x, y = np.array([0.0, 1.0, 1.0, 0.0]), np.array([0.0, 0.0, 1.0, 1.0])
    one = clipped_moments(x, y, *map(np.asarray, (a, b, c)))
    other = clipped_moments(x, y, *map(np.asarray, (-a, -b, -c)))
    if abs(a) + abs(b) + abs(c) > 1e-6:
        whole = (1.0, 0.5, 0.5, 1 / 3, 0.25, 1 / 3)
        assert np.allclose([p + q for p, q in zip(one, other)], whole, atol=1e-9)


def test_an_edge_on_the_neutral_line() -> None:
    """Eccentric by just a sixth: the pressure is zero along one edge, and nothing is lost there."""
    x, y = np.array([0.0, 1.0, 1.0, 0.0]), np.array([0.0, 0.0, 1.0, 1.0])
    for plane in ((0.0, 0.0, 1.0), (0.0, 1.0, 0.0), (1.0, 0.0, -1.0), (1.0, -1.0, 0.0), (0.0, 1.0, 1.0)):
        found = pressure_over(x, y, *map(np.asarray, plane))
        mean = plane[0] + (plane[1] + plane[2]) / 2
        assert found.force == pytest.approx(mean), plane
        empty = clipped_moments(x, y, *map(np.asarray, tuple(-v for v in plane)))
        assert pytest.approx(0.0, abs=1e-12) == empty.A
    for e_x, e_y in ((1 / 6, 0.0), (0.0, -1 / 6), (1 / 12, 1 / 12)):
        contact = solve(600.0, e_x * 2.0, e_y * 1.5, 2.0, 1.5)
        total = pressure_over(CORNER_X * 2.0, CORNER_Y * 1.5, contact.a, contact.b, contact.c)
        assert total.force[0] == pytest.approx(600.0)


@pytest.mark.parametrize("away", [1e-3, 2e-5, 1.01e-5, 0.99e-5, 1e-6, 1e-9, 0.0])
def test_a_hair_from_the_edge_is_unstable_and_never_an_error(away: float) -> None:
    """Up to a hundred-thousandth of the size the pressed strip is 2 V/(3 e' L), nearer nothing holds the base up."""
    for v in (0.0, 0.3, 0.5 - away):
        found = linear_no_tension(
            np.array([[100.0]]),
            np.array([[-100.0 * v * 3.0]]),
            np.array([[100.0 * (0.5 - away) * 2.0]]),
            np.array([[2.0]]),
            np.array([[3.0]]),
        )
        assert bool(found.stable[0, 0]) == (away >= 1e-5)
        if found.stable[0, 0] and v == 0.0:
            assert found.peak[0, 0] == pytest.approx(2 * 100.0 / (3 * away * 2.0 * 3.0), rel=2e-3)
