"""Openings near a column: the part of a punching perimeter between the two tangents from the middle of the column does
not count.

EN 1992-1-1 6.4.2(3), ACI 318-19 22.6.4.3, AS 3600:2018 9.3.1.5. With openings the perimeter is summed over small
pieces."""

from dataclasses import replace
from typing import Any

import numpy as np

from korbent.core.concrete.critical_section import CriticalSection
from korbent.core.concrete.perimeter import Perimeter
from korbent.core.geometry import PadGeometry
from korbent.core.working import Array

PIECES = 60
"""Of each side and of each quarter arc."""


def in_shadow(geometry: PadGeometry, reach: Array, x: Array, y: Array) -> Array:
    """True for points (from the middle of the column, candidates along the first but last axis) behind an opening that
    counts.

    Args:
        reach: openings count whose edge is nearer than this to the loaded area, (candidates, 1), m.
        x, y: (..., candidates, pieces).
    """
    hidden = np.zeros(np.broadcast_shapes(x.shape, y.shape), dtype=bool)
    angle = np.arctan2(y, x)
    for k in range(geometry.openings.shape[1]):
        o_x, o_y, diameter = (geometry.openings[:, k, i][:, None] for i in range(3))
        o_x, o_y = o_x - geometry.offset_x, o_y - geometry.offset_y
        away_x = np.maximum(np.abs(o_x) - geometry.face[0] / 2, 0.0)
        away_y = np.maximum(np.abs(o_y) - geometry.face[1] / 2, 0.0)
        near = (diameter > 0) & (np.hypot(away_x, away_y) - diameter / 2 <= reach)
        half = np.arcsin(np.clip(diameter / 2 / np.maximum(np.hypot(o_x, o_y), 1e-9), 0.0, 1.0))
        apart = np.abs((angle - np.arctan2(o_y, o_x) + np.pi) % (2 * np.pi) - np.pi)
        hidden |= near & (apart < half)
    return hidden


def weakened_perimeter(perimeter: Perimeter, geometry: PadGeometry, reach: Array) -> Perimeter:
    """The perimeter without its parts behind openings; unchanged where there are none."""
    if not geometry.openings.size:
        return perimeter
    x, y, w = _pieces_of_perimeter(perimeter)
    w = np.where(in_shadow(geometry, reach, x, y), 0.0, w)
    length = w.sum(-1)
    safe = np.maximum(length, 1e-9)
    mid_x, mid_y = (x * w).sum(-1) / safe, (y * w).sum(-1) / safe
    summed = {
        "exists": perimeter.exists & (length > 1e-6)[..., None],
        "length": safe[..., None],
        "x": mid_x[..., None],
        "y": mid_y[..., None],
        "W_x": np.maximum((np.abs(y - mid_y[..., None]) * w).sum(-1), 1e-9)[..., None],
        "W_y": np.maximum((np.abs(x - mid_x[..., None]) * w).sum(-1), 1e-9)[..., None],
    }
    return replace(perimeter, **_where_open(geometry, perimeter, summed))


def _where_open(geometry: PadGeometry, exact: Perimeter | CriticalSection, summed: dict[str, Array]) -> dict[str, Any]:
    """The summed values for bases with openings; the others keep the exact ones."""
    some = np.any(geometry.openings[..., 2] > 0, axis=-1, keepdims=True)
    return {name: np.where(some, value, getattr(exact, name)) for name, value in summed.items()}


def _pieces_of_perimeter(p: Perimeter) -> tuple[Array, Array, Array]:
    """Middles and lengths of the pieces, (distances, candidates, pieces)."""
    w, e, s, n = p.sides
    x0, x1, y0, y1 = p.core
    t = (np.arange(PIECES) + 0.5) / PIECES
    xs, ys, ws = [], [], []

    def add(x: Array, y: Array, length: Array) -> None:
        shape = (*p.a.shape[:-1], PIECES)
        xs.append(np.broadcast_to(x, shape))
        ys.append(np.broadcast_to(y, shape))
        ws.append(np.broadcast_to(length / PIECES, shape))

    for there, level in ((s, y0 - p.a), (n, y1 + p.a)):
        add(x0 + (x1 - x0) * t, level, there * (x1 - x0))
    for there, level in ((w, x0 - p.a), (e, x1 + p.a)):
        add(level, y0 + (y1 - y0) * t, there * (y1 - y0))
    turn = t * np.pi / 2
    for there, cx, cy, sx, sy in (
        (e * s, x1, y0, 1, -1),
        (e * n, x1, y1, 1, 1),
        (w * n, x0, y1, -1, 1),
        (w * s, x0, y0, -1, -1),
    ):
        add(cx + sx * p.a * np.cos(turn), cy + sy * p.a * np.sin(turn), there * np.pi / 2 * p.a)
    return np.concatenate(xs, -1), np.concatenate(ys, -1), np.concatenate(ws, -1)


def weakened_section(
    section: CriticalSection, sides: tuple[Array, Array, Array, Array], geometry: PadGeometry, reach: Array
) -> CriticalSection:
    """The critical section without its parts behind openings; unchanged where there are none.

    Args:
        sides: 1 where it has a side at -x, +x, -y, +y.
    """
    if not geometry.openings.size:
        return section
    x0, x1, y0, y1 = section.corners
    w, e, s, n = sides
    t = (np.arange(PIECES) + 0.5) / PIECES
    full = np.ones_like(t)
    lines = (
        (s, x0 + (x1 - x0) * t, y0 * full, x1 - x0),
        (n, x0 + (x1 - x0) * t, y1 * full, x1 - x0),
        (w, x0 * full, y0 + (y1 - y0) * t, y1 - y0),
        (e, x1 * full, y0 + (y1 - y0) * t, y1 - y0),
    )
    x, y = (np.concatenate([line[i] for line in lines], -1) for i in (1, 2))
    weight = np.concatenate([there * length / PIECES * full for there, _, _, length in lines], -1)
    weight = np.where(in_shadow(geometry, reach, x, y), 0.0, weight)

    def total(values: Array) -> Array:
        found: Array = values.sum(-1, keepdims=True)
        return found

    length = np.maximum(total(weight), 1e-9)
    mid_x, mid_y = total(x * weight) / length, total(y * weight) / length
    along = 2 * PIECES
    at_x = np.concatenate([x0, x1, x1, x0], axis=-1) - mid_x
    at_y = np.concatenate([y0, y0, y1, y1], axis=-1) - mid_y
    ends = (section.corner_x != 0.0) | (section.corner_y != 0.0)
    summed = {
        "product": total((x - mid_x) * (y - mid_y) * weight),
        "corner_x": np.where(ends, at_x, 0.0),
        "corner_y": np.where(ends, at_y, 0.0),
        "exists": section.exists & (length > 1e-6),
        "length": length,
        "x": mid_x,
        "y": mid_y,
        "second_x": total((y - mid_y) ** 2 * weight),
        "second_y": total((x - mid_x) ** 2 * weight),
        "reach_x": np.maximum(x1 - mid_x, mid_x - x0),
        "reach_y": np.maximum(y1 - mid_y, mid_y - y0),
        "parallel_x": total(weight[..., :along]),
        "parallel_y": total(weight[..., along:]),
    }
    return replace(section, **_where_open(geometry, section, summed))
