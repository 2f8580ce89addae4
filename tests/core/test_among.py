"""What rectangles add below each other in the mean: against many more points, one by one and from afar."""

import numpy as np
import pytest

from korbent.core.settlement.stress.among import NEAR, among
from korbent.core.settlement.stress.influences import Areas
from korbent.core.settlement.stress.rectangle import (
    point_both,
    point_stress,
    rectangle_angle,
    rectangle_both,
    rectangle_stress,
)

DEPTHS = np.array([0.4, 1.0, 2.5, 6.0, 15.0])


def side_by_side(along: int, wide: float = 9.0, long: float = 12.0) -> Areas:
    """Rectangles that fill a larger one, smaller to its edges."""
    x, y = (-size / 2 * np.cos(np.pi * np.arange(along + 1) / along) for size in (wide, long))
    mid = np.meshgrid((x[1:] + x[:-1]) / 2, (y[1:] + y[:-1]) / 2, indexing="ij")
    size = np.meshgrid(np.diff(x), np.diff(y), indexing="ij")
    n = along**2
    return Areas(*(v.ravel() for v in (*mid, *size)), np.zeros(n), np.zeros(n))


def by_many_points(areas: Areas, looked_at: int) -> tuple[np.ndarray, np.ndarray]:
    """Mean over one rectangle from 64 Gauss points, (depths, pressing)."""
    at, weight = np.polynomial.legendre.leggauss(8)
    stress = np.zeros((len(DEPTHS), len(areas)))
    angle = np.zeros_like(stress)
    for u, p in zip(at, weight):
        for v, q in zip(at, weight):
            x = areas.x[looked_at] + u * areas.B[looked_at] / 2 - areas.x
            y = areas.y[looked_at] + v * areas.L[looked_at] / 2 - areas.y
            args = (x, y, areas.B, areas.L, DEPTHS[:, None])
            stress += p * q / 4 * rectangle_stress(*args)
            angle += p * q / 4 * rectangle_angle(*args)
    return stress, angle


@pytest.mark.parametrize("along", [10, 15])
def test_as_many_points_say(along: int) -> None:
    areas = side_by_side(along)
    stress, angle = among(areas, DEPTHS)
    assert stress.shape == angle.shape == (along**2, len(DEPTHS), along**2)
    for i in (0, along // 2, along**2 // 2):
        for found, exact in zip((stress[i], angle[i]), by_many_points(areas, i)):
            assert found.sum(axis=1) == pytest.approx(exact.sum(axis=1), rel=5e-3)
            # those that are taken as points are as exact as those that are not
            apart = np.hypot(areas.x - areas.x[i], areas.y - areas.y[i])
            side = np.maximum(np.maximum(areas.B, areas.L), max(areas.B[i], areas.L[i]))
            far = apart > NEAR * side
            assert far.any()
            assert np.abs(found - exact)[:, far].max() < 2e-4
            assert found[:, far] == pytest.approx(exact[:, far], rel=0.03, abs=1e-5)


def test_from_afar_each_sees_the_other_by_the_area_that_presses() -> None:
    areas = side_by_side(12)
    size = areas.B * areas.L
    apart = np.hypot(areas.x[:, None] - areas.x, areas.y[:, None] - areas.y)
    far = apart > NEAR * 2 * float(np.maximum(areas.B, areas.L).max())
    assert far.any()
    for found in among(areas, DEPTHS):
        force = (found * size[:, None, None]).transpose(0, 2, 1)
        assert force[far] == pytest.approx(force.transpose(1, 0, 2)[far], rel=1e-12)


def test_nothing_acts_at_or_above_the_level() -> None:
    areas = side_by_side(5)
    stress, angle = among(areas, np.array([-1.0, 0.0, 2.0]))
    assert not stress[:, :2].any()
    assert not angle[:, :2].any()
    assert stress[:, 2].min() > 0


def test_both_at_once_are_each_alone() -> None:
    rng = np.random.default_rng(7)
    x, y, B, L, z = (rng.uniform(low, 5.0, 200) for low in (-5.0, -5.0, 0.2, 0.2, 0.1))
    stress, angle = rectangle_both(x, y, B, L, z)
    assert stress == pytest.approx(rectangle_stress(x, y, B, L, z), rel=1e-12)
    assert angle == pytest.approx(rectangle_angle(x, y, B, L, z), rel=1e-9, abs=1e-14)
    points = point_both(x * x + y * y, z)
    assert points[0] == pytest.approx(point_stress(x * x + y * y, z), rel=1e-12)
    # a small rectangle far away is a point
    small = 1e-3
    far = rectangle_angle(x + 20, y, np.full(200, small), np.full(200, small), z) / small**2
    assert point_both((x + 20) ** 2 + y * y, z)[1] == pytest.approx(far, rel=1e-4)
