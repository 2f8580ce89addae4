"""A rectangle."""

from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from korbent.core.contact.plane import Contact
from korbent.core.contact.rectangle import effective_area, linear_no_tension
from korbent.core.footprint.footprint import Edge, Effective, Part
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say


@dataclass(frozen=True)
class Rectangle:
    """B along x and L along y."""

    B: Array
    L: Array
    is_round: ClassVar[bool] = False
    slices_alike: ClassVar[bool] = True
    around_formula: ClassVar[str] = "2*(B + L)"
    full_contact: ClassVar[str] = "e_x e_y"

    @property
    def area_formula(self) -> str:
        """By both sizes."""
        return "B*L"

    @property
    def area(self) -> Array:
        """m2."""
        return self.B * self.L

    @property
    def around(self) -> Array:
        """Length of the edge, m."""
        around: Array = 2 * (self.B + self.L)
        return around

    @property
    def centroid(self) -> Array | float:
        """In the middle."""
        return 0.0

    @property
    def centroid_y(self) -> Array | float:
        """On the axis."""
        return 0.0

    @property
    def inertia(self) -> tuple[Array, Array]:
        """B3 L/12 and L3 B/12, m4."""
        return self.B**3 * self.L / 12, self.L**3 * self.B / 12

    @property
    def product(self) -> Array | float:
        """None: it has an axis along x."""
        return 0.0

    @property
    def turn(self) -> Array | float:
        """None."""
        return 0.0

    @property
    def equal_rectangle(self) -> tuple[Array, Array]:
        """Itself."""
        return self.B, self.L

    @property
    def hole(self) -> Array:
        """None."""
        return np.zeros((1, 1))

    @property
    def edges(self) -> tuple[Edge, ...]:
        """The four."""
        x, y = self.B / 2, self.L / 2
        return (
            Edge(say("+x edge"), 1.0, 0.0, x),
            Edge(say("−x edge"), -1.0, 0.0, x),
            Edge(say("+y edge"), 0.0, 1.0, y),
            Edge(say("−y edge"), 0.0, -1.0, y),
        )

    def outline(self, x0: Array | float = 0.0, y0: Array | float = 0.0) -> tuple[Array, Array]:
        """The corners from (x0, y0)."""
        x = np.concatenate([-self.B, self.B, self.B, -self.B], axis=-1) / 2 - x0
        y = np.concatenate([-self.L, -self.L, self.L, self.L], axis=-1) / 2 - y0
        return x, y

    def size(self, axis: str) -> Array:
        """B or L."""
        return self.B if axis == "x" else self.L

    def span(self, axis: str, at: Array) -> tuple[Array, Array]:
        """From edge to edge."""
        half = self.size(axis) / 2 + 0.0 * at
        return -half, half

    def chord(self, axis: str, at: Array) -> Array:
        """The size across, wherever the section is."""
        return self.L if axis == "x" else self.B

    def beyond(self, side: str, start: Array) -> Part:
        """A rectangle."""
        along, across = (self.B, self.L) if side[1] == "x" else (self.L, self.B)
        start = np.clip(start, -along / 2, along / 2)
        near, far = np.broadcast_arrays(start, along / 2)
        half = np.broadcast_to(across / 2, near.shape)
        if side[0] == "-":
            near, far = -far, -near
        u, v = np.stack([near, far, far, near], axis=-1), np.stack([-half, -half, half, half], axis=-1)
        x, y = (u, v) if side[1] == "x" else (-v, u)
        return Part(x, y, start, along / 2 - start, np.broadcast_to(across, start.shape))

    def clear(
        self, offset_x: Array, offset_y: Array, size_x: Array, size_y: Array
    ) -> tuple[Array, Array, Array, Array]:
        """To the four edges."""
        x, y = size_x / 2, size_y / 2
        return (
            self.B / 2 + offset_x - x,
            self.B / 2 - offset_x - x,
            self.L / 2 + offset_y - y,
            self.L / 2 - offset_y - y,
        )

    def spread(self, by: Array | float) -> "Rectangle":
        """Both sizes grow by twice that."""
        return Rectangle(self.B + 2 * by, self.L + 2 * by)

    def halfway(self, other: "Rectangle") -> "Rectangle":
        """The mean sizes."""
        return Rectangle((self.B + other.B) / 2, (self.L + other.L) / 2)

    def recorded(self, record: Recorder) -> None:
        """B and L say all."""

    def contact(self, N: Array, Mx: Array, My: Array, record: Recorder = SILENT) -> Contact:
        """In closed forms."""
        return linear_no_tension(N, Mx, My, self.B, self.L, record)

    def effective(self, contact: Contact, Hx: Array, Hy: Array, record: Recorder = SILENT) -> Effective:
        """B - 2 e_x and L - 2 e_y (Meyerhof 1953)."""
        x, y = effective_area(contact.e_x, contact.e_y, self.B, self.L, record)
        return Effective(x, y, Hx, Hy)

    def eccentricity(self, contact: Contact, limit: Array, record: Recorder = SILENT) -> tuple[Array, Array]:
        """sqrt((e_x/B)^2 + (e_y/L)^2) against its limit.

        With the limit 1/3 this is the ellipse of EN 1997-1 6.5.4 in both directions: within a third of the size
        along either axis.
        """
        measure = np.hypot(contact.e_x / self.B, contact.e_y / self.L)
        ratio = measure / limit
        record.step(
            "e_rel",
            "sqrt((e_x/B)**2 + (e_y/L)**2)",
            measure,
            reference="EN 1997-1 6.5.4",
            note=say("relative eccentricity"),
        )
        record.given("e_lim", limit, note=say("limit"))
        record.step("ratio", "e_rel/e_lim", ratio)
        return measure, ratio
