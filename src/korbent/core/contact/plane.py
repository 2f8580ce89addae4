"""The pressure under a rigid base: a plane, cut off where it would pull."""

from dataclasses import dataclass

import numpy as np

from korbent.core.contact.polygon import (
    PressureIntegrals,
    force_on_rectangles,
    pressure_on_rectangles,
    pressure_over,
)
from korbent.core.working import Array

AT_EDGE = 1e-5
"""Where the resultant is nearer to an edge than this share of the size, nothing holds the base up any more: the pressed
strip would be so narrow that no ground bears it."""


@dataclass(frozen=True)
class Contact:
    """Pressure p = a + b x + c y (kPa, cut off at zero) about the middle of the base."""

    a: Array
    b: Array
    c: Array
    e_x: Array
    e_y: Array
    stable: Array
    """The resultant presses down within the base. Elsewhere all values are placeholders (zero)."""
    share: Array
    """Contact area over the area of the base."""
    corners: Array
    """Pressures at (-,-), (+,-), (+,+), (-,+), of a polygon at its corners, along a last axis, kPa."""

    @property
    def peak(self) -> Array:
        """Greatest pressure, kPa."""
        peak: Array = self.corners.max(axis=-1)
        return peak

    @property
    def least(self) -> Array:
        """Least pressure, kPa (zero where contact is lost)."""
        least: Array = self.corners.min(axis=-1)
        return least

    def of(self, rows: Array, columns: Array) -> "Contact":
        """Of some candidates and situations, along one axis."""
        shape = self.stable.shape
        values = (self.a, self.b, self.c, self.e_x, self.e_y, self.stable, self.share)
        a, b, c, e_x, e_y, stable, share = (np.broadcast_to(v, shape)[rows, columns] for v in values)
        return Contact(a, b, c, e_x, e_y, stable, share, self.corners[rows, columns])

    def plane_at(self, x: Array | float, y: Array | float) -> Array:
        """The plane at a point from the middle of the base (m), negative where it would pull, kPa."""
        found: Array = self.a + self.b * x + self.c * y
        return found

    @property
    def shape(self) -> tuple[int, ...]:
        """(candidates, situations)."""
        return self.a.shape

    def plane_on(
        self, x: Array, y: Array, A: tuple[Array, Array, Array], second: tuple[Array, Array, Array] | None
    ) -> PressureIntegrals:
        """The plane over an area of which (x, y) is the place it is measured from: force (kN), and its moments about
        that place (kNm).

        Right where all of the area is pressed (see :meth:`pulls_in`).

        Args:
            A: its area (m2) and first moments about the place (m3).
            second: its second moments xx, yy, xy about the place, m4; the moments are 0 without them.
        """
        area, S_x, S_y = A
        here = self.plane_at(x, y)
        force = here * area + self.b * S_x + self.c * S_y
        if second is None:
            none = np.zeros((1,) * np.ndim(force))
            return PressureIntegrals(force, none, none)
        xx, yy, xy = second
        return PressureIntegrals(force, here * S_x + self.b * xx + self.c * xy, here * S_y + self.b * xy + self.c * yy)

    def pulls_in(self, x: Array, y: Array) -> Array:
        """Where the plane would pull at a corner of polygons, (..., corners) against (...) planes."""
        found: Array = (self.a[:, None] + self.b[:, None] * x + self.c[:, None] * y).min(axis=-1) < 0.0
        return found

    def pressure_at(self, x: Array | float, y: Array | float) -> Array:
        """Pressure at a point from the middle of the base (m), kPa."""
        found: Array = np.maximum(0.0, self.plane_at(x, y))
        return found

    def on_rectangles(self, x0: Array, x1: Array, y0: Array, y1: Array) -> PressureIntegrals:
        """Force (kN) on upright rectangles and its moments about the middle (kNm)."""
        return pressure_on_rectangles(x0, x1, y0, y1, self.a, self.b, self.c)

    def force_on_rectangles(self, x0: Array, x1: Array, y0: Array, y1: Array) -> Array:
        """The force alone, kN."""
        return force_on_rectangles(x0, x1, y0, y1, self.a, self.b, self.c)

    def on_polygons(self, x: Array, y: Array) -> PressureIntegrals:
        """Force (kN) on polygons (..., corners), anticlockwise, and its moments about the middle (kNm)."""
        return pressure_over(x, y, self.a, self.b, self.c)
