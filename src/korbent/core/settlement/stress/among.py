"""What many small rectangles add below each other, each as the mean over the one that is looked at.

Elastic half-space (Boussinesq 1885). Near ones by Newmark (1935) at four Gauss points of the one that is looked at; far
ones as points at four Gauss points for both at once: a kernel that is averaged over two rectangles is that at places
spread as widely as both together."""

import numpy as np

from korbent.core.settlement.stress.influences import Areas
from korbent.core.settlement.stress.rectangle import point_both, rectangle_both
from korbent.core.working import Array

NEAR = 2.5
"""Times the greatest side of the two: from there on they are points."""
BLOCK, AT_ONCE = 40, 2000
"""Rectangles by rectangles, and pairs, at a time, so that they stay in the memory that is near."""


def among(areas: Areas, depths: Array) -> tuple[Array, Array]:
    """(vertical stress, solid angle over pi) that a unit pressure of each adds in the mean below each, (looked at,
    depths, pressing).

    Args:
        areas: side by side at one level and not turned. depths: below that level, (depths,), m; nothing acts where one
        is not positive.
    """
    n = len(areas)
    stress, angle = (np.zeros((n, len(depths), n)) for _ in range(2))
    acts = depths > 0
    depths = np.where(acts, depths, 1.0)
    size = areas.B * areas.L
    for first in range(0, n, BLOCK):
        i = slice(first, first + BLOCK)
        for second in range(first, n, BLOCK):
            j = slice(second, second + BLOCK)
            # the two see the same of each other, each by the area that presses
            for found, one in zip((stress, angle), _from_afar(areas, depths[:, None], i, j)):
                found[i, :, j] = one * size[j]
                found[j, :, i] = one.transpose(2, 1, 0) * size[i]
    side = np.maximum(areas.B, areas.L)
    apart = np.hypot(areas.x[:, None] - areas.x, areas.y[:, None] - areas.y)
    # by a hair less, so that a mirror image has the same
    near = np.argwhere(apart < (NEAR - 1e-9) * np.maximum(side[:, None], side))
    for k in range(0, len(near), AT_ONCE):
        one, other = near[k : k + AT_ONCE].T
        for found, values in zip((stress, angle), _closely(areas, depths, one, other)):
            found[one, :, other] = values
    stress[:, ~acts] = angle[:, ~acts] = 0.0
    return stress, angle


def _closely(areas: Areas, depths: Array, i: Array, j: Array) -> tuple[Array, Array]:
    """Of each pair, (pairs, depths)."""
    stress, angle = (np.zeros((len(i), len(depths))) for _ in range(2))
    for sx, sy in _FOUR:
        x = areas.x[i] + sx * areas.B[i] / np.sqrt(12) - areas.x[j]
        y = areas.y[i] + sy * areas.L[i] / np.sqrt(12) - areas.y[j]
        more = rectangle_both(x[:, None], y[:, None], areas.B[j, None], areas.L[j, None], depths)
        stress += more[0] / 4
        angle += more[1] / 4
    return stress, angle


def _from_afar(areas: Areas, depths: Array, i: slice, j: slice) -> tuple[Array, Array]:
    """Of each of some and each of others per area that presses, 1/m2, (some, depths, others)."""
    across, along = (v[i, None, None] - v[j] for v in (areas.x, areas.y))
    wide, long = (np.sqrt((size[i, None, None] ** 2 + size[j] ** 2) / 12) for size in (areas.B, areas.L))
    parts = [point_both((across + sx * wide) ** 2 + (along + sy * long) ** 2, depths) for sx, sy in _FOUR]
    stress, angle = (np.add.reduce([part[k] for part in parts]) / 4 for k in range(2))
    return stress, angle


_FOUR = ((-1, -1), (1, -1), (1, 1), (-1, 1))
