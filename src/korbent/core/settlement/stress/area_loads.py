"""Stress below the area loads of a project: rectangles, circles, polygons, and embankments as faces of their sloping
pressure."""

import numpy as np

from korbent.core.model.actions import AreaLoad
from korbent.core.settlement.stress.polygon import (
    circle,
    polygon_angle,
    polygon_slope,
    polygon_stress,
    rectangle_corners,
)
from korbent.core.working import Array

Face = tuple[Array, tuple[float, float, float]]
"""Corners (corners, 2), and the pressure p0 + px x + py y over them, kPa."""


def faces(load: AreaLoad) -> list[Face]:
    """The areas on which a load presses, each with its plane of pressure.

    An embankment presses with its own height: evenly below the crest, falling evenly below each of its four slopes.
    """
    if load.shape == "polygon":
        return [(np.array(load.outline), (load.pressure, 0.0, 0.0))]
    if load.shape == "circle":
        return [(circle(load.x, load.y, load.size_x), (load.pressure, 0.0, 0.0))]
    crest = rectangle_corners(load.x, load.y, load.size_x, load.size_y, load.rotation)
    if load.shape == "rectangle" or load.height is None:
        return [(crest, (load.pressure, 0.0, 0.0))]
    full = load.weight * load.height
    found: list[Face] = [(crest, (full, 0.0, 0.0))]
    wider = load.slope * load.height
    if wider > 1e-9:
        toe = rectangle_corners(load.x, load.y, load.size_x + 2 * wider, load.size_y + 2 * wider, load.rotation)
        for i in range(4):
            j = (i + 1) % 4
            a, b = crest[i], crest[j]
            tx, ty = (b - a) / np.hypot(*(b - a))
            out = np.array([ty, -tx])  # outward of an anticlockwise rectangle
            px, py = -full / wider * out
            p0 = full - px * a[0] - py * a[1]
            found.append((np.stack([b, a, toe[i], toe[j]]), (float(p0), float(px), float(py))))
    return found


def area_load_stress(load: AreaLoad, x: Array, y: Array, levels: Array) -> Array:
    """Stress (kPa) of an area load at points and levels (one broadcast shape)."""
    parts = (polygon_stress(corners, x, y, load.level - levels, plane) for corners, plane in faces(load))
    total: Array = sum(parts, np.zeros(np.broadcast(x, y, levels).shape))
    return total


def area_load_angle(load: AreaLoad, x: Array, y: Array, levels: Array) -> Array:
    """What gives the sum of its normal stresses, over 1 + nu: the solid angle weighted by the pressure, over pi,
    kPa."""
    parts = (polygon_angle(corners, x, y, load.level - levels, plane) for corners, plane in faces(load))
    total: Array = sum(parts, np.zeros(np.broadcast(x, y, levels).shape))
    return total


def area_load_slope(load: AreaLoad, x: Array, y: Array, levels: Array) -> tuple[Array, Array]:
    """Change of its stress along x and y of the plan, kPa/m.

    The pressure of an embankment has no jump: its stress changes as that of the steepness of its faces.
    """
    shape = np.broadcast(x, y, levels).shape
    z = load.level - levels
    east, north = np.zeros(shape), np.zeros(shape)
    known = faces(load)
    sloping = len(known) > 1
    for corners, (p0, px, py) in known:
        if sloping:
            if px or py:
                unit = polygon_stress(corners, x, y, z)
                east, north = east + px * unit, north + py * unit
        else:
            a, b = polygon_slope(corners, x, y, z)
            east, north = east + p0 * a, north + p0 * b
    return east, north


def covers(load: AreaLoad, x: float, y: float) -> bool:
    """The point lies below the load in the plan."""
    return any(_inside(corners, x, y) for corners, _ in faces(load))


def _inside(corners: Array, x: float, y: float) -> bool:
    """A ray from the point along x crosses the outline an odd number of times."""
    following = np.roll(corners, -1, axis=0)
    spans = (corners[:, 1] > y) != (following[:, 1] > y)
    a, b = corners[spans], following[spans]
    crossing = a[:, 0] + (y - a[:, 1]) / (b[:, 1] - a[:, 1]) * (b[:, 0] - a[:, 0])
    return bool((crossing > x).sum() % 2)
