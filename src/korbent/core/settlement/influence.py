"""Vertical stress in the ground below loaded areas, superposed; and unit influences that are kept between edits.

Elastic half-space, uniform pressure (Boussinesq 1885). All pressures are counted as one: the results are unit influences.
"""

from dataclasses import dataclass

import numpy as np

from korbent.core.model.actions import AreaLoad
from korbent.core.working import Array

FAR = 6.0
"""Beyond so many times the greater size a rectangle acts as four point loads at its Gauss points (its small stress there within 1e-3)."""
ROUND_SIDES = 96
"""Sides of the polygon of equal area that stands for a circle."""


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


def rectangle_stress(x: Array, y: Array, B: Array, L: Array, z: Array) -> Array:
    """Stress over pressure at (x, y) from the middle of a rectangle B x L and z below it; 0 where z is not positive.

    Newmark (1935) at the four corners, each with the sign of its quarter; so any point, inside or outside.
    """
    below = z > 0
    z = np.where(below, z, 1.0)
    z2 = z * z
    total = np.zeros(np.broadcast(x, y, B, L, z).shape)
    sides_x = [(x + B / 2, 1.0), (x - B / 2, -1.0)]
    sides_y = [(y + L / 2, 1.0), (y - L / 2, -1.0)]
    parts_x = [(a, a * a + z2, sign) for a, sign in sides_x]
    parts_y = [(b, b * b, b * b + z2, sign) for b, sign in sides_y]
    for a, a2z, sign_x in parts_x:
        for b, b2, b2z, sign_y in parts_y:
            R = np.sqrt(a2z + b2)
            product = a * b
            part = np.arctan(product / (z * R)) + product * z / R * (1 / a2z + 1 / b2z)
            total += part if sign_x == sign_y else -part
    stress: Array = np.where(below, total / (2 * np.pi), 0.0)
    return stress


def point_stress(r2: Array, z: Array) -> Array:
    """Stress below a unit point load: 3 z^3 / (2 pi R^5), r2 the square of the distance in the plan."""
    R2 = r2 + z * z
    stress: Array = np.where(z > 0, 1.5 / np.pi * z * z * z / (R2 * R2 * np.sqrt(R2)), 0.0)
    return stress


def stress_of_pairs(places: Array, levels: Array, areas: Areas) -> Array:
    """Unit influence of each rectangle below its own point, (pairs, levels).

    Args:
        places: (pairs, 2), or one point. levels: (pairs, levels), or those of all. areas: as many as pairs, or one.
    """
    c, s = np.cos(areas.turn), np.sin(areas.turn)
    dx, dy = places[..., 0] - areas.x, places[..., 1] - areas.y
    u, v = (c * dx + s * dy)[:, None], (c * dy - s * dx)[:, None]
    z = areas.level[:, None] - levels
    B, L = (np.broadcast_to(size[:, None], u.shape) for size in (areas.B, areas.L))
    far = np.hypot(u, v)[:, 0] > FAR * np.maximum(B, L)[:, 0]
    found = np.empty((len(u), z.shape[-1]))
    z = np.broadcast_to(z, found.shape)
    near = ~far
    if near.any():
        found[near] = rectangle_stress(u[near], v[near], B[near], L[near], z[near])
    if far.any():
        found[far] = _by_points(u[far], v[far], B[far], L[far], z[far])
    return found


def stress_at(x: float, y: float, levels: Array, areas: Areas) -> Array:
    """Unit influences of rectangles below one point, shape (areas, levels)."""
    return stress_of_pairs(np.array([x, y]), levels, areas)


def polygon_stress(corners: Array, x: Array, y: Array, z: Array) -> Array:
    """Stress over pressure below a polygon of any form, by its edges in closed form.

    The triangle between the point and an edge at the distance d, its ends at s from the foot of the perpendicular, gives
    [atan(s/d) - atan(s z/(d R)) + z d s/((d2 + z2) R)]/(2 pi) between the ends, R2 = s2 + d2 + z2: the integral of
    Boussinesq's point load in polar coordinates.

    Args:
        corners: (corners, 2), m, in either direction.
        x, y, z: of any one broadcast shape; z below the area.
    """
    x, y, z = np.broadcast_arrays(np.asarray(x, float), np.asarray(y, float), np.asarray(z, float))
    below = z > 0
    z = np.where(below, z, 1.0)
    total = np.zeros(x.shape)
    following = np.roll(corners, -1, axis=0)
    area2 = float((corners[:, 0] * following[:, 1] - following[:, 0] * corners[:, 1]).sum())
    for (x1, y1), (x2, y2) in zip(corners, following):
        length = float(np.hypot(x2 - x1, y2 - y1))
        if length < 1e-12:
            continue
        tx, ty = (x2 - x1) / length, (y2 - y1) / length
        d = (x1 - x) * ty - (y1 - y) * tx  # distance of the edge, positive where the point lies to its left
        s1 = (x1 - x) * tx + (y1 - y) * ty
        total += _edge(s1 + length, d, z) - _edge(s1, d, z)
    stress: Array = np.where(below, np.sign(area2) * total / (2 * np.pi), 0.0)
    return stress


def _edge(s: Array, d: Array, z: Array) -> Array:
    safe = np.where(np.abs(d) < 1e-12, 1e-12, d)
    R = np.sqrt(s * s + d * d + z * z)
    part: Array = np.arctan(s / safe) - np.arctan(s * z / (safe * R)) + z * d * s / ((d * d + z * z) * R)
    return np.where(np.abs(d) < 1e-12, 0.0, part)


def circle(x: float, y: float, diameter: float) -> Array:
    """Corners of the polygon that stands for a circle: of equal area."""
    step = 2 * np.pi / ROUND_SIDES
    radius = diameter / 2 * np.sqrt(step / np.sin(step))
    angles = step * np.arange(ROUND_SIDES)
    return np.stack([x + radius * np.cos(angles), y + radius * np.sin(angles)], axis=-1)


SLICES = 6
"""Gauss points over the height of an embankment."""
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(SLICES)


def rectangle_corners(x: float, y: float, B: float, L: float, degrees: float) -> Array:
    """Corners of a turned rectangle in the plan, anticlockwise, (4, 2)."""
    c, s = np.cos(np.deg2rad(degrees)), np.sin(np.deg2rad(degrees))
    u, v = np.array([-B, B, B, -B]) / 2, np.array([-L, -L, L, L]) / 2
    return np.stack([x + c * u - s * v, y + s * u + c * v], axis=-1)


def area_load_stress(load: AreaLoad, x: Array, y: Array, levels: Array) -> Array:
    """Stress (kPa) of an area load at points and levels (one broadcast shape).

    An embankment presses as horizontal layers of its fill, each a rectangle: integrated over its height by Gauss points, all
    at its foot.
    """
    z = load.level - levels
    if load.shape == "polygon":
        return load.pressure * polygon_stress(np.array(load.outline), x, y, z)
    if load.shape == "circle":
        return load.pressure * polygon_stress(circle(load.x, load.y, load.size_x), x, y, z)
    c, s = np.cos(np.deg2rad(load.rotation)), np.sin(np.deg2rad(load.rotation))
    u, v = c * (x - load.x) + s * (y - load.y), c * (y - load.y) - s * (x - load.x)
    if load.shape == "rectangle" or load.height is None:
        return load.pressure * rectangle_stress(u, v, np.array(load.size_x), np.array(load.size_y), z)
    total = np.zeros(np.broadcast(u, z).shape)
    for node, weight in zip((_NODES + 1) / 2, _WEIGHTS / 2):
        wider = 2 * load.slope * load.height * (1 - node)
        total = total + weight * rectangle_stress(
            u, v, np.array(load.size_x + wider), np.array(load.size_y + wider), z
        )
    stress: Array = load.weight * load.height * total
    return stress


def spread_stress(B: Array, L: Array, z: Array) -> Array:
    """Stress over pressure by the load spread of 2 down to 1 sideways in all, to compare: B L/((B + z)(L + z))."""
    stress: Array = B * L / ((B + z) * (L + z))
    return stress


def _by_points(u: Array, v: Array, B: Array, L: Array, z: Array) -> Array:
    """A far rectangle as four point loads at its Gauss points."""
    gauss = 0.5 / np.sqrt(3.0)
    total = np.zeros(z.shape)
    for sx in (-gauss, gauss):
        for sy in (-gauss, gauss):
            total += point_stress((u + sx * B) ** 2 + (v + sy * L) ** 2, z)
    found: Array = total * (B * L / 4)
    return found


class Influences:
    """Unit influences of areas below points, (points, areas, levels); what did not change since the last call is kept."""

    def __init__(self) -> None:
        # one value, so that a thread never sees half of what another has put there
        self._kept: tuple[list[bytes], list[bytes], Array] = ([], [], np.empty((0, 0, 0)))

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
            found[i] = stress_at(float(places[i, 0]), float(places[i, 1]), levels[i], areas)
        for j in changed:
            found[:, j] = stress_of_pairs(places, levels, areas.only(np.array([j])))
        self._kept = (points, keys, found.copy())
        return found


class Slopes:
    """Change along x and y of the unit influences below each base of those near it; of each pair what did not change is kept."""

    def __init__(self, reach: float, step: float) -> None:
        self.reach, self.step = reach, step
        # one value, so that a thread never sees half of what another has put there
        self._kept: tuple[Array, Array, Array] = (
            np.empty((0, 2), int),
            np.empty((0, 0)),
            np.empty((0, 2, 0)),
        )

    def __call__(self, places: Array, levels: Array, areas: Areas) -> tuple[Array, Array]:
        """(pairs of a base and one nearer to it than the reach, sorted by base, (pairs, 2); changes per m, (pairs, 2, levels))."""
        apart = np.hypot(areas.x[:, None] - areas.x, areas.y[:, None] - areas.y)
        np.fill_diagonal(apart, np.inf)
        pairs = np.argwhere(apart < self.reach)
        own, other = pairs[:, 0], pairs[:, 1]
        columns = np.stack([areas.x, areas.y, areas.B, areas.L, areas.turn, areas.level], axis=-1)
        made_from = np.concatenate([places[own], levels[own][:, [0, -1]], columns[other]], axis=-1)
        old_pairs, old_from, old = self._kept
        if old_pairs.shape == pairs.shape and (old_pairs == pairs).all() and old.shape[2] == levels.shape[1]:
            unit, new = old.copy(), np.flatnonzero((old_from != made_from).any(axis=-1))
        else:
            unit, new = np.empty((len(pairs), 2, levels.shape[1])), np.arange(len(pairs))
        if len(new):
            at, below, which = places[own[new]], levels[own[new]], areas.only(other[new])
            for axis in (0, 1):
                shift = self.step * np.eye(2)[axis]
                there, back = (stress_of_pairs(at + sign * shift, below, which) for sign in (1, -1))
                unit[new, axis] = (there - back) / (2 * self.step)
        self._kept = (pairs, made_from, unit.copy())
        return pairs, unit
