"""A base as its settlement is computed: what a unit pressure of it adds in the cells below it."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from korbent.core.settlement.column import Column
from korbent.core.settlement.formulas import fox, skempton_bjerrum, skempton_bjerrum_strip
from korbent.core.settlement.stress.below import CHARACTERISTIC, Place, compression_below, stress_below
from korbent.core.settlement.stress.round import disc_displacement, disc_stress, ring_point
from korbent.core.working import Array

RING = 0.2
"""From this share of the hole in the outer radius on a ring is an exact ring."""


@dataclass(frozen=True)
class Footing:
    """Bases of one shape below which columns begin; arrays (points, 1), m."""

    B: Array
    L: Array
    """Sizes, of a round base those of the square of equal area."""
    level: Array
    """Of the underside."""
    radius: Array | None = None
    """Outer radius of rings; none for other bases."""
    hole: Array | None = None
    """Radius of their hole."""
    embedment: Array | None = None
    """Depth below the ground with which the elastic settlement is reduced (Fox 1948); none: it is not."""
    at_base: Array | None = None
    """Effective stress before loading at the founding level, (points, situations), kPa: for strain influence."""
    at_peak: Array | None = None
    """The same at the peak of the strain influence."""
    middle: bool = False
    """Below the middle of a flexible base, not at the point that settles as a rigid one."""
    place: tuple[float, float] | None = None
    """Below another point of a flexible rectangle: its distance from the middle over half the size, along both
    sides."""
    strip: bool = False
    """Skempton's coefficient acts as below a strip."""

    def depth(self, column: Column) -> Array:
        """Of the middles of the cells below the underside, (points, 1, cells)."""
        found: Array = (self.level - column.middle)[:, None, :]
        return found

    def _at(self) -> Place:
        if self.place is not None:
            return self.place
        return 0.0 if self.middle else CHARACTERISTIC

    def _round_at(self) -> Array:
        """Radius at which a ring is looked at: the middle of its width, or where it settles as a rigid one."""
        assert self.radius is not None
        assert self.hole is not None
        return (self.radius + self.hole) / 2 if self.middle else ring_point(self.radius, self.hole)

    def _square(self) -> tuple[Array, Array]:
        """Sides of the square of the area within the outer edge."""
        assert self.radius is not None
        side = np.sqrt(np.pi) * self.radius
        return side, side

    def _open(self) -> Array:
        """How far a ring is one: 0 without a hole, where it is the square of equal area, 1 from a fifth of the radius
        on."""
        assert self.radius is not None
        assert self.hole is not None
        share: Array = np.clip(self.hole / self.radius / RING, 0.0, 1.0)
        return share

    def unit(self, column: Column) -> Array:
        """Stress over pressure in the cells, (points, 1, cells)."""
        z = np.maximum(self.level - column.middle, 0.0)
        if self.radius is None:
            return stress_below(self.B, self.L, z, self._at())[:, None, :]
        assert self.hole is not None
        radius, hole, at = self.radius, self.hole, self._round_at()
        ring = disc_stress(radius, at, z) - disc_stress(hole, at, z)
        compact = stress_below(*self._square(), z, 0.0 if self.middle else CHARACTERISTIC)
        return np.asarray(compact + self._open() * (ring - compact))[:, None, :]

    def _parts(self, column: Column) -> tuple[Array, Array]:
        """a and b of the cells: their compression is ((1 - nu2) a + (1 + nu) b) p/E (Hooke, three stresses)."""
        if self.radius is None:
            cells, edges = column.by_hooke, np.unique(np.concatenate([column.by_hooke, column.by_hooke + 1]))
            z = np.maximum(self.level - column.levels[:, edges], 0.0)
            upper, lower = np.searchsorted(edges, cells), np.searchsorted(edges, cells + 1)
            found = []
            for part_of in compression_below(self.B, self.L, z, self._at()):
                whole = np.zeros((len(part_of), 1, column.levels.shape[1] - 1))
                whole[:, 0, cells] = part_of[:, lower] - part_of[:, upper]
                found.append(whole)
            return found[0], found[1]
        z = np.maximum(self.level - column.levels, 0.0)
        assert self.hole is not None
        radius, hole, at = self.radius, self.hole, self._round_at()

        def part(nu: float) -> Array:
            ring = (disc_displacement(r, at, z, np.array(nu)) for r in (radius, hole))
            found: Array = -np.diff(next(ring) - next(ring))[:, None, :]
            return found

        # nu = 0: a + b; nu = 1/2: 0.75 a + 1.5 b
        none, half = part(0.0), part(0.5)
        b = (half - 0.75 * none) / 0.75
        square = compression_below(*self._square(), z, 0.0 if self.middle else CHARACTERISTIC)
        share = self._open()[..., None]
        first, second = (
            np.diff(compact)[:, None, :] * (1 - share) + share * ring for compact, ring in zip(square, (none - b, b))
        )
        return first, second

    @cached_property
    def _kept(self) -> dict[int, tuple[Array, Array]]:
        return {}

    def strain(self, column: Column, poisson: Array) -> Array:
        """Strain of the cells under a unit pressure, times E (Steinbrenner 1934), (points, 1, cells); embedment
        within."""
        key = id(column)
        if key not in self._kept:
            self._kept[key] = self._parts(column)
        a, b = self._kept[key]
        thickness = np.where(column.thickness > 0, column.thickness, 1.0)
        compressed = (1 - poisson**2) * a + (1 + poisson) * b
        found: Array = np.where(column.thickness > 0, compressed / thickness, 0.0)
        if self.embedment is None:
            return found
        values = np.unique(poisson)
        less = np.ones(found.shape)
        for nu in values:
            share = fox(self.B, self.L, self.embedment, nu)[:, None, :]
            less = np.where(poisson == nu, share, less)
        return found * less

    def reduction(self, column: Column, coefficient: Array) -> Array:
        """What is left of the oedometer strain in the cells (Skempton and Bjerrum 1957)."""
        depth = np.maximum(self.depth(column), 1e-9)
        if self.strip:
            return skempton_bjerrum_strip(coefficient, depth, np.minimum(self.B, self.L)[..., None])
        return skempton_bjerrum(coefficient, depth, np.sqrt(self.B * self.L / np.pi)[..., None])
