"""Unit influences of foundations below points of the plan, kept between edits.

Elastic half-space, uniform pressure (Boussinesq 1885). All pressures are counted as one: the results are unit
influences."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from korbent.core.settlement.stress.rectangle import (
    point_stress,
    rectangle_angle,
    rectangle_slope,
    rectangle_stress,
)
from korbent.core.working import Array

FAR = 6.0
"""Beyond so many times the greater size a rectangle acts as four point loads at its Gauss points (its small stress
there within 1e-3)."""


@dataclass(frozen=True)
class Areas:
    """Loaded rectangles: middle, sizes, rotation (rad) and level, each of shape (areas,)."""

    x: Array
    y: Array
    B: Array
    L: Array
    turn: Array
    level: Array

    def __len__(self) -> int:
        return len(self.x)

    def only(self, which: Array) -> "Areas":
        """Some of them."""
        return Areas(*(getattr(self, n)[which] for n in ("x", "y", "B", "L", "turn", "level")))


def _seen(places: Array, levels: Array, areas: Areas) -> tuple[Array, Array, Array, Array, Array]:
    """Each point as its rectangle sees it: (u, v, B, L, z), the first four (pairs, 1), z (pairs, levels)."""
    c, s = np.cos(areas.turn), np.sin(areas.turn)
    dx, dy = places[..., 0] - areas.x, places[..., 1] - areas.y
    u, v = (c * dx + s * dy)[:, None], (c * dy - s * dx)[:, None]
    B, L = (np.broadcast_to(size[:, None], u.shape) for size in (areas.B, areas.L))
    z = np.broadcast_to(areas.level[:, None] - levels, (len(u), levels.shape[-1]))
    return u, v, B, L, z


def stress_of_pairs(places: Array, levels: Array, areas: Areas) -> Array:
    """Unit influence of each rectangle below its own point, (pairs, levels).

    Args:
        places: (pairs, 2), or one point. levels: (pairs, levels), or those of all. areas: as many as pairs, or one.
    """
    u, v, B, L, z = _seen(places, levels, areas)
    far = np.hypot(u, v)[:, 0] > FAR * np.maximum(B, L)[:, 0]
    found = np.empty(z.shape)
    near = ~far
    if near.any():
        found[near] = rectangle_stress(u[near], v[near], B[near], L[near], z[near])
    if far.any():
        found[far] = _by_points(u[far], v[far], B[far], L[far], z[far])
    return found


def angle_of_pairs(places: Array, levels: Array, areas: Areas) -> Array:
    """Solid angle over pi of each rectangle from below its own point, (pairs, levels); arguments as above."""
    return rectangle_angle(*_seen(places, levels, areas))


def slope_of_pairs(places: Array, levels: Array, areas: Areas) -> Array:
    """Change along x and y of the plan (1/m) of the unit influence of each rectangle, (pairs, 2, levels)."""
    along_u, along_v = rectangle_slope(*_seen(places, levels, areas))
    c, s = np.cos(areas.turn)[:, None], np.sin(areas.turn)[:, None]
    return np.stack([c * along_u - s * along_v, s * along_u + c * along_v], axis=1)


def _by_points(u: Array, v: Array, B: Array, L: Array, z: Array) -> Array:
    """A far rectangle as four point loads at its Gauss points."""
    gauss = 0.5 / np.sqrt(3.0)
    total = np.zeros(z.shape)
    for sx in (-gauss, gauss):
        for sy in (-gauss, gauss):
            total += point_stress((u + sx * B) ** 2 + (v + sy * L) ** 2, z)
    found: Array = total * (B * L / 4)
    return found


Kernel = Callable[[Array, Array, Areas], Array]


class Influences:
    """Unit influences of areas below points, (points, areas, levels), not to be written to; what did not change since
    the last call is kept."""

    def __init__(self, kernel: Kernel = stress_of_pairs) -> None:
        self.kernel = kernel
        # one value, so that a thread never sees half of what another has put there
        self._kept: tuple[list[bytes], list[bytes], Array]
        self.forget()

    def forget(self) -> None:
        """All are worked out anew the next time."""
        self._kept = ([], [], np.empty((0, 0, 0)))

    def __call__(self, places: Array, levels: Array, areas: Areas) -> Array:
        """Influences at ``places`` (points, 2) and their ``levels`` (points, levels)."""
        points = [places[i].tobytes() + levels[i].tobytes() for i in range(len(places))]
        columns = np.stack([areas.x, areas.y, areas.B, areas.L, areas.turn, areas.level], axis=-1)
        keys = [columns[i].tobytes() for i in range(len(areas))]
        shape = (len(points), len(keys), levels.shape[1])
        old_points, old_areas, old = self._kept
        if old.shape == shape:
            found = old.copy()
            rows = [i for i in range(shape[0]) if points[i] != old_points[i]]
            changed = np.array([j for j in range(shape[1]) if keys[j] != old_areas[j]], dtype=int)
        else:
            found, rows, changed = np.empty(shape), list(range(shape[0])), np.empty(0, dtype=int)
        for i in rows:
            found[i] = self.kernel(places[i], levels[i], areas)
        for j in changed:
            found[:, j] = self.kernel(places, levels, areas.only(np.array([j])))
        self._kept = (points, keys, found)
        return found


def gauss_places(areas: Areas) -> Array:
    """Four points of each rectangle whose mean is that over its area, (4, areas, 2), m."""
    c, s = np.cos(areas.turn), np.sin(areas.turn)
    points = []
    for i, j in ((-1, -1), (1, -1), (1, 1), (-1, 1)):
        u, v = i * areas.B / np.sqrt(12), j * areas.L / np.sqrt(12)
        points.append(np.stack([areas.x + c * u - s * v, areas.y + s * u + c * v], axis=-1))
    return np.stack(points, axis=1)


class Slopes:
    """Change along x and y of the unit influences, as the mean below each base, of those near it; of each pair what did
    not change is kept."""

    def __init__(self, reach: float) -> None:
        self.reach = reach
        # one value, so that a thread never sees half of what another has put there
        self._kept: tuple[Array, Array, Array]
        self.forget()

    def forget(self) -> None:
        """All are worked out anew the next time."""
        self._kept = (np.empty((0, 2), int), np.empty((0, 0)), np.empty((0, 2, 0)))

    def __call__(self, levels: Array, areas: Areas) -> tuple[Array, Array]:
        """(pairs of a base and one nearer to it than the reach, sorted by base, (pairs, 2); changes per m, (pairs, 2,
        levels))."""
        apart = np.hypot(areas.x[:, None] - areas.x, areas.y[:, None] - areas.y)
        np.fill_diagonal(apart, np.inf)
        pairs = np.argwhere(apart < self.reach)
        own, other = pairs[:, 0], pairs[:, 1]
        columns = np.stack([areas.x, areas.y, areas.B, areas.L, areas.turn, areas.level], axis=-1)
        # rows of levels by their digest, which a float holds exactly
        digests = np.array([hash(row.tobytes()) & (2**52 - 1) for row in levels], dtype=float)
        made_from = np.concatenate([columns[own], digests[own, None], columns[other]], axis=-1)
        old_pairs, old_from, old = self._kept
        if old_pairs.shape == pairs.shape and (old_pairs == pairs).all() and old.shape[2] == levels.shape[1]:
            unit, new = old.copy(), np.flatnonzero((old_from != made_from).any(axis=-1))
        else:
            unit, new = np.empty((len(pairs), 2, levels.shape[1])), np.arange(len(pairs))
        if len(new):
            which = areas.only(other[new])
            at = gauss_places(areas)[own[new]]
            parts = [slope_of_pairs(at[:, k], levels[own[new]], which) for k in range(4)]
            unit[new] = (parts[0] + parts[1] + parts[2] + parts[3]) / 4
        self._kept = (pairs, made_from, unit)
        return pairs, unit
