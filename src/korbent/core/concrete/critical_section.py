"""The critical section for punching at half an effective depth from the loaded area, with square corners.

Open to the edges of the base that lie nearer: there it has no side, and its other sides run to the edge.
"""

from dataclasses import dataclass, replace

import numpy as np

from korbent.core.working import Array


@dataclass(frozen=True)
class CriticalSection:
    """Arrays (candidates, 1), the column at the origin; lengths in m."""

    exists: Array
    length: Array
    area: Array
    """Area of the base within, m2."""
    area_x: Array
    area_y: Array
    """Its middle."""
    x: Array
    y: Array
    """Middle of the perimeter line."""
    second_x: Array
    """Integral of (y - y_c)^2 along the perimeter: for moments about x, m3."""
    second_y: Array
    product: Array
    """Integral of (x - x_c)(y - y_c) along the perimeter, m3."""
    corner_x: Array
    corner_y: Array
    """Places of the corners and ends of the perimeter from its middle, (candidates, 4); without an end there: the
    middle, so that it never governs."""
    reach_x: Array
    """Greatest distance of the perimeter from its middle along x."""
    reach_y: Array
    size_x: Array
    """Extent along x."""
    size_y: Array
    parallel_x: Array
    """Total length of the sides that run along x."""
    parallel_y: Array
    corners: tuple[Array, Array, Array, Array]
    """x from, to, y from, to."""


CLOSED = (1.0, 1.0, 1.0, 1.0)
VARIANTS = (
    CLOSED,
    (0.0, 1.0, 1.0, 1.0),
    (1.0, 0.0, 1.0, 1.0),
    (1.0, 1.0, 0.0, 1.0),
    (1.0, 1.0, 1.0, 0.0),
    (0.0, 1.0, 0.0, 1.0),
    (0.0, 1.0, 1.0, 0.0),
    (1.0, 0.0, 0.0, 1.0),
    (1.0, 0.0, 1.0, 0.0),
)
"""Sides (-x, +x, -y, +y) at which a section may be closed (1) or open to the edge (0): between two open sides that face
each other there is none, that is one-way shear."""


def critical_sections(
    c_x: Array, c_y: Array, clear: tuple[Array, Array, Array, Array], a: Array
) -> list[tuple[CriticalSection, tuple[Array, Array, Array, Array]]]:
    """The closed section at the distance ``a`` and all open ones, each with 1 where it has a side; they exist where
    their sides fit within the base."""
    fits = [a <= np.maximum(edge, 0.0) + 1e-9 for edge in clear]
    found = []
    for variant in VARIANTS:
        section = critical_section(c_x, c_y, clear, a, variant)
        exists = section.exists
        for side, fit in zip(variant, fits):
            exists = exists & (fit if side else np.ones_like(fit))
        ones = np.ones_like(section.length)
        found.append(
            (
                replace(section, exists=exists),
                (variant[0] * ones, variant[1] * ones, variant[2] * ones, variant[3] * ones),
            )
        )
    return found


def critical_section(
    c_x: Array,
    c_y: Array,
    clear: tuple[Array, Array, Array, Array],
    a: Array,
    variant: tuple[float, float, float, float] | None = None,
) -> CriticalSection:
    """The section at the distance ``a`` from a loaded area c_x by c_y.

    Args:
        clear: from its faces to the edges of the base at -x, +x, -y, +y, m.
        variant: at which sides it is closed; where not given, at those that fit within the base.
    """
    if variant is None:
        w, e, s, n = ((a <= np.maximum(edge, 0.0) + 1e-9).astype(float) for edge in clear)
    else:
        w, e, s, n = (np.full(np.shape(clear[0]), side) for side in variant)
    exists = (w + e > 0) & (s + n > 0)
    x0 = -c_x / 2 - np.where(w > 0, a, np.maximum(clear[0], 0.0))
    x1 = c_x / 2 + np.where(e > 0, a, np.maximum(clear[1], 0.0))
    y0 = -c_y / 2 - np.where(s > 0, a, np.maximum(clear[2], 0.0))
    y1 = c_y / 2 + np.where(n > 0, a, np.maximum(clear[3], 0.0))
    size_x, size_y = x1 - x0, y1 - y0
    along_x, along_y = (s + n) * size_x, (w + e) * size_y
    length = np.where(exists, along_x + along_y, 1.0)
    x = (along_x * (x0 + x1) / 2 + size_y * (w * x0 + e * x1)) / length
    y = (along_y * (y0 + y1) / 2 + size_x * (s * y0 + n * y1)) / length
    second_y = (s + n) * ((x1 - x) ** 3 - (x0 - x) ** 3) / 3 + size_y * (w * (x0 - x) ** 2 + e * (x1 - x) ** 2)
    second_x = (w + e) * ((y1 - y) ** 3 - (y0 - y) ** 3) / 3 + size_x * (s * (y0 - y) ** 2 + n * (y1 - y) ** 2)
    product = (x1 - x0) * ((x0 + x1) / 2 - x) * (s * (y0 - y) + n * (y1 - y))
    product = product + (y1 - y0) * ((y0 + y1) / 2 - y) * (w * (x0 - x) + e * (x1 - x))
    # a corner is there with one of its two sides
    at = [(x0, y0, w, s), (x1, y0, e, s), (x1, y1, e, n), (x0, y1, w, n)]
    corner_x = np.concatenate([np.where(i + j > 0, p - x, 0.0) for p, _, i, j in at], axis=-1)
    corner_y = np.concatenate([np.where(i + j > 0, q - y, 0.0) for _, q, i, j in at], axis=-1)
    return CriticalSection(
        exists=exists,
        length=length,
        area=size_x * size_y,
        area_x=(x0 + x1) / 2,
        area_y=(y0 + y1) / 2,
        x=x,
        y=y,
        second_x=second_x,
        second_y=second_y,
        product=product,
        corner_x=corner_x,
        corner_y=corner_y,
        reach_x=np.maximum(x1 - x, x - x0),
        reach_y=np.maximum(y1 - y, y - y0),
        size_x=size_x,
        size_y=size_y,
        parallel_x=along_x,
        parallel_y=along_y,
        corners=(x0, x1, y0, y1),
    )
