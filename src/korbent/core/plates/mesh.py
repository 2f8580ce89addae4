"""Meshes of quadrilaterals, and the places on lines along x and y at which fields are given.

Of a rectangle the elements lie on those lines: places and nodes are the same. Of any other outline the elements follow
its sides, and fields are interpolated at the places."""

from abc import ABC, abstractmethod
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
class Mesh(ABC):
    """Nodes, and elements between them; lines_x and lines_y: where fields are given, m."""

    lines_x: Array
    lines_y: Array

    @property
    @abstractmethod
    def nodes(self) -> tuple[Array, Array]:
        """Coordinates of all nodes, (nodes,) each, m."""

    @property
    @abstractmethod
    def elements(self) -> Array:
        """Nodes of each element, anticlockwise, (elements, 4); of a triangle the last one twice."""

    @property
    @abstractmethod
    def sizes(self) -> tuple[Array, Array]:
        """Sizes of the elements along x and y, m: their product is their area."""

    @property
    @abstractmethod
    def seen(self) -> Array:
        """Which places lie on the plate, (places,)."""

    @property
    @abstractmethod
    def free(self) -> Array:
        """Which places lie on an edge of the plate or of an opening, (places,)."""

    @abstractmethod
    def on_places(self, values: Array, which: Array | None = None) -> Array:
        """Values of the nodes (nodes, ...) at the places (places, ...), nan beyond the plate.

        Args:
            which: elements that alone count, (elements,); the others are as if they were not there.
        """

    @cached_property
    def places(self) -> tuple[Array, Array]:
        """Where fields are given, y running fastest, (places,) each, m."""
        x, y = np.meshgrid(self.lines_x, self.lines_y, indexing="ij")
        return x.ravel(), y.ravel()

    @property
    def grid(self) -> tuple[int, int]:
        """Number of places along x and y."""
        return len(self.lines_x), len(self.lines_y)

    def at(self, values: Array, x: Array, y: Array) -> Array:
        """Values of the places (places, ...) anywhere between them, linear along both axes; of those that are nan none
        counts."""
        grid = values.reshape(*self.grid, -1)
        i, u = _between(self.lines_x, x)
        j, v = _between(self.lines_y, y)
        total: Array = np.zeros((len(x), grid.shape[-1]))
        known: Array = np.zeros_like(total)
        for a, s in ((i, 1 - u), (i + 1, u)):
            for b, t in ((j, 1 - v), (j + 1, v)):
                one, share = grid[a, b], (s * t)[:, None]
                there = ~np.isnan(one)
                total += share * np.where(there, one, 0.0)
                known += share * there
        with np.errstate(invalid="ignore", divide="ignore"):
            found: Array = total / known
        return found.reshape(len(x), *values.shape[1:])

    @cached_property
    def middles(self) -> tuple[Array, Array]:
        """Middles of the elements, m."""
        x, y = self.nodes
        return x[self.elements].mean(-1), y[self.elements].mean(-1)

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


@dataclass(frozen=True)
class GridMesh(Mesh):
    """Nodes on lines along both axes; elements are the cells that are not in an opening."""

    present: Array
    """Which cells are there, (cells along x, cells along y)."""

    @property
    def nodes(self) -> tuple[Array, Array]:
        """The places."""
        return self.places

    @cached_property
    def elements(self) -> Array:
        """Cells."""
        i, j = np.nonzero(self.present)
        count = len(self.lines_y)
        first = i * count + j
        return np.stack([first, first + count, first + count + 1, first + 1], axis=-1)

    @cached_property
    def sizes(self) -> tuple[Array, Array]:
        """Of the cells."""
        x, y = self.nodes
        first, third = self.elements[:, 0], self.elements[:, 2]
        return x[third] - x[first], y[third] - y[first]

    @property
    def seen(self) -> Array:
        """What belongs to an element."""
        return self.used

    @cached_property
    def free(self) -> Array:
        """What belongs to fewer than four."""
        around = np.zeros(len(self.used), dtype=int)
        np.add.at(around, self.elements, 1)
        return self.used & (around < 4)

    def on_places(self, values: Array, which: Array | None = None) -> Array:
        """They are the nodes."""
        there = self.used
        if which is not None:
            there = np.zeros(len(self.used), dtype=bool)
            there[self.elements[which].ravel()] = True
        if there.all():
            return values
        found: Array = np.where(there.reshape(-1, *[1] * (values.ndim - 1)), values, np.nan)
        return found


def mesh_of(outline: Box, inner: Sequence[Box], openings: Sequence[Box], size: float, fine: float) -> GridMesh:
    """The mesh of a rectangle with lines along the sides of boxes within it.

    Args:
        inner: boxes whose sides are lines of the mesh (columns, thickenings, ribs).
        openings: boxes that are cut out.
        size: greatest size of elements, m. fine: size beside lines and along the edges, m.
    """
    boxes = [*inner, *openings]
    x = lines_between(outline[0], outline[1], [v for b in boxes for v in b[:2]], size, fine)
    y = lines_between(outline[2], outline[3], [v for b in boxes for v in b[2:]], size, fine)
    mid_x, mid_y = (x[:-1] + x[1:]) / 2, (y[:-1] + y[1:]) / 2
    present = np.ones((len(mid_x), len(mid_y)), dtype=bool)
    for low_x, high_x, low_y, high_y in openings:
        gone = ((mid_x > low_x) & (mid_x < high_x))[:, None] & ((mid_y > low_y) & (mid_y < high_y))[None, :]
        present &= ~gone
    return GridMesh(x, y, present)


def lines_between(start: float, end: float, wanted: Iterable[float], size: float, fine: float) -> Array:
    """Lines from start to end through all that are wanted; between two the cells grow from ``fine`` at both to
    ``size``."""
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


def _between(lines: Array, at: Array) -> tuple[Array, Array]:
    """(line before, share of the way to the next) of places."""
    k = np.clip(np.searchsorted(lines, at) - 1, 0, len(lines) - 2)
    return k, np.clip((at - lines[k]) / (lines[k + 1] - lines[k]), 0.0, 1.0)


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
