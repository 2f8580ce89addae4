"""Circles and rings: kern, equilibrium by quadrature, limits, and the lens of the effective area."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.contact.circle import effective_circle, kern_radius, linear_no_tension_round, segment


def integrals(a: float, b: float, R: float, r: float, n: int = 400) -> tuple[float, float]:
    """Force and moment of max(0, a + b x) over a ring, by the midpoint rule in polar coordinates."""
    rho = r + (np.arange(n) + 0.5) * (R - r) / n
    phi = (np.arange(2 * n) + 0.5) * math.pi / n
    x = rho[:, None] * np.cos(phi)
    cell = rho[:, None] * (R - r) / n * math.pi / n
    p = np.maximum(a + b * x, 0.0) * cell
    return float(p.sum()), float((p * x).sum())


@given(R=st.floats(0.5, 8.0), hole=st.floats(0.0, 0.9), e=st.floats(0.0, 0.97))
def test_equilibrium(R: float, hole: float, e: float) -> None:
    N, r = 750.0, hole * R
    found = linear_no_tension_round(np.array([N]), np.array([N * e * R]), np.array([R]), r)
    force, moment = integrals(float(found.a[0]), float(found.b[0]), R, r)
    thin = 1e-3 + 3e-3 * (e > 0.9)
    assert force == pytest.approx(N, rel=thin)
    assert moment == pytest.approx(N * e * R, rel=thin, abs=1e-6 * N * R)
    assert 0 < found.share[0] <= 1


def test_ten_thousand_cases_exactly() -> None:
    """With the segment integrals of the found plane the load comes back to 1e-9, up to 99 % of the limit."""
    rng = np.random.default_rng(5)
    R, hole, e = rng.uniform(0.5, 9, 10_000), rng.uniform(0, 0.85, 10_000), rng.uniform(0, 0.99, 10_000)
    N = rng.uniform(10, 5000, 10_000)
    found = linear_no_tension_round(N, N * e * R, R, hole * R)
    assert found.stable.all()
    partial = found.share < 1
    x0 = np.where(partial, -found.a / np.where(found.b > 0, found.b, 1), -R)
    A, S, second = (w - h for w, h in zip(segment(R, x0), segment(hole * R, x0)))
    assert np.abs(found.a * A + found.b * S - N).max() < 1e-9 * N.max()
    assert np.abs((found.a * S + found.b * second) / (N * R) - e).max() < 1e-9


def test_kern_and_closed_forms() -> None:
    assert kern_radius(np.array(2.0)) == pytest.approx(0.5)
    assert kern_radius(np.array(2.0), 1.0) == pytest.approx(0.625)
    at_kern = linear_no_tension_round(np.array(100.0), np.array(50.0), np.array(2.0))
    mean = 100.0 / (4 * math.pi)
    assert at_kern.peak == pytest.approx(2 * mean)
    assert at_kern.least == pytest.approx(0.0, abs=1e-9)
    # half of a circle in contact: x_0 = 0, e = I/S = (pi R^4/8)/(2 R^3/3)
    e = 3 * math.pi * 2.0 / 16
    half = linear_no_tension_round(np.array(100.0), np.array(100.0 * e), np.array(2.0))
    assert half.share == pytest.approx(0.5)
    assert half.peak == pytest.approx(100.0 * 2.0 / (2 * 2.0**3 / 3))


def test_a_thin_ring_is_a_line() -> None:
    """A thin ring of mean radius R: kern nearly R/2, and twice the mean pressure there."""
    found = linear_no_tension_round(np.array(10.0), np.array(10.0 * 0.4995), np.array(1.0), 0.999)
    assert found.share == pytest.approx(1.0, rel=1e-6)
    assert found.peak * math.pi * (1 - 0.999**2) == pytest.approx(20.0, rel=2e-3)


@pytest.mark.parametrize(("N", "M"), [(-5.0, 0.0), (0.0, 1.0), (10.0, 10.0), (10.0, 30.0)])
def test_what_cannot_stand_is_said(N: float, M: float) -> None:
    found = linear_no_tension_round(np.array(N), np.array(M), np.array(1.0))
    assert not found.stable
    assert found.peak == 0.0


def test_the_effective_lens() -> None:
    area, B, L = effective_circle(np.array([0.0, 0.5, 0.999999]), np.array(1.0))
    assert area[0] == pytest.approx(math.pi)
    assert B[0] == pytest.approx(math.sqrt(math.pi))
    assert area[1] == pytest.approx(2 * (math.acos(0.5) - 0.5 * math.sqrt(0.75)))
    assert pytest.approx(area) == B * L
    assert area[2] < 1e-4
