"""Meshes of quadrilaterals on lines along x and y: every face, edge and opening is a line of the mesh."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np

from korbent.core.working import Array

Box = tuple[float, float, float, float]
"""x from, x to, y from, y to, m."""
SAME = 1e-6
"""Lines nearer than this to each other are one, m."""


@dataclass(frozen=True)
class Mesh:
    """Nodes on lines along both axes; elements are the cells that are not in an opening."""

    lines_x: Array
    lines_y: Array
    present: Array
    """Which cells are there, (cells along x, cells along y)."""

    @cached_property
    def nodes(self) -> tuple[Array, Array]:
        """Coordinates of all nodes, y running fastest, (nodes,) each, m."""
        x, y = np.meshgrid(self.lines_x, self.lines_y, indexing="ij")
        return x.ravel(), y.ravel()

    @cached_property
    def elements(self) -> Array:
        """Nodes of each element, anticlockwise, (elements, 4)."""
        i, j = np.nonzero(self.present)
        count = len(self.lines_y)
        first = i * count + j
        return np.stack([first, first + count, first + count + 1, first + 1], axis=-1)

    @cached_property
    def middles(self) -> tuple[Array, Array]:
        """Middles of the elements, m."""
        x, y = self.nodes
        return x[self.elements].mean(-1), y[self.elements].mean(-1)

    @cached_property
    def sizes(self) -> tuple[Array, Array]:
        """Sizes of the elements along x and y, m."""
        x, y = self.nodes
        first, third = self.elements[:, 0], self.elements[:, 2]
        return x[third] - x[first], y[third] - y[first]

    @cached_property
    def used(self) -> Array:
        """Which nodes belong to an element, (nodes,)."""
        found = np.zeros(len(self.nodes[0]), dtype=bool)
        found[self.elements.ravel()] = True
        return found

    @property
    def area(self) -> float:
        """Of all elements, m2."""
        dx, dy = self.sizes
        return float((dx * dy).sum())

    def within(self, box: Box) -> Array:
        """Which elements lie within a box whose sides are lines of the mesh."""
        x, y = self.middles
        return (x > box[0]) & (x < box[1]) & (y > box[2]) & (y < box[3])


def mesh_of(outline: Box, inner: Sequence[Box], openings: Sequence[Box], size: float, fine: float) -> Mesh:
    """The mesh of a rectangle with lines along the sides of boxes within it.

    Args:
        inner: boxes whose sides are lines of the mesh (columns, thickenings, ribs).
        openings: boxes that are cut out.
        size: greatest size of elements, m. fine: size beside lines and along the edges, m.
    """
    boxes = [*inner, *openings]
    x = _lines(outline[0], outline[1], [v for b in boxes for v in b[:2]], size, fine)
    y = _lines(outline[2], outline[3], [v for b in boxes for v in b[2:]], size, fine)
    mid_x, mid_y = (x[:-1] + x[1:]) / 2, (y[:-1] + y[1:]) / 2
    present = np.ones((len(mid_x), len(mid_y)), dtype=bool)
    for low_x, high_x, low_y, high_y in openings:
        gone = ((mid_x > low_x) & (mid_x < high_x))[:, None] & ((mid_y > low_y) & (mid_y < high_y))[None, :]
        present &= ~gone
    return Mesh(x, y, present)


def _lines(start: float, end: float, wanted: Iterable[float], size: float, fine: float) -> Array:
    """Lines from start to end through all that are wanted; between two the cells grow from ``fine`` at both to ``size``."""
    inside = sorted(v for v in wanted if start + SAME < v < end - SAME)
    stops = [start]
    for v in [*inside, end]:
        if v - stops[-1] > SAME:
            stops.append(v)
    stops[-1] = end
    found = [np.array([start])]
    for a, b in pairwise(stops):
        found.append(a + (b - a) * _graded(b - a, size, fine)[1:])
    return np.concatenate(found)


GROWTH = 1.6
"""From cell to cell."""


def _graded(length: float, size: float, fine: float) -> Array:
    """Shares from 0 to 1 of cells that grow from both ends to the middle."""
    half: list[float] = []
    step = min(fine, size)
    while sum(half) + min(step, size) <= length / 2:
        half.append(min(step, size))
        step *= GROWTH
    left = length - 2 * sum(half)
    count = max(1, int(np.ceil(left / size - 1e-9))) if left > 0.3 * min(fine, size) or not half else 0
    cells = np.array([*half, *([left / count] * count if count else []), *half[::-1]])
    cells *= length / cells.sum()
    shares = np.concatenate([[0.0], np.cumsum(cells)]) / length
    shares[-1] = 1.0
    return shares
