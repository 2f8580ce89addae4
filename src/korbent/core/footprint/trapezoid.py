"""A trapezoid whose parallel ends lie across x, symmetrical about the x axis."""

from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from korbent.core.contact.plane import AT_EDGE, Contact
from korbent.core.contact.polygon import plane_without_tension
from korbent.core.footprint.footprint import Edge, Effective, Part
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

HALVINGS = 60
INSIDE = 0.999999
"""A section along the base keeps this share of the half length, so that it has a width."""


@dataclass(frozen=True)
class Trapezoid:
    """B along x; L is the mean of the lengths of both ends, ``taper`` what the half length grows by along x for 1."""

    B: Array
    L: Array
    taper: Array
    is_round: ClassVar[bool] = False
    slices_alike: ClassVar[bool] = False
    around_formula: ClassVar[str] = "2*L + 2*B*sqrt(1 + t_L**2)"
    full_contact: ClassVar[str] = "e_x e_y"

    @classmethod
    def between(cls, width: Array, length: Array, far_length: Array) -> "Trapezoid":
        """From the lengths of the ends at -x and at +x."""
        return cls(width, (length + far_length) / 2, (far_length - length) / (2 * width))

    def half(self, x: Array) -> Array:
        """Half the length at a place along x, m."""
        half: Array = self.L / 2 + self.taper * x
        return half

    @property
    def ends(self) -> tuple[Array, Array]:
        """Lengths of the ends at -x and +x, m."""
        return self.L - self.taper * self.B, self.L + self.taper * self.B

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
        around: Array = 2 * self.L + 2 * self.B * np.sqrt(1 + self.taper**2)
        return around

    @property
    def centroid(self) -> Array | float:
        """Towards the longer end: the integral of 2 x (L/2 + t x) over the area."""
        centroid: Array = self.taper * self.B**2 / (6 * self.L)
        return centroid

    @property
    def centroid_y(self) -> Array | float:
        """On the axis."""
        return 0.0

    @property
    def inertia(self) -> tuple[Array, Array]:
        """About the centre of the area: integrals of 2 x2 (L/2 + t x) and of 2/3 (L/2 + t x)3, m4."""
        B, L, t = self.B, self.L, self.taper
        x = B**3 * L / 12 - self.area * np.asarray(self.centroid) ** 2
        y = 2 / 3 * (B * (L / 2) ** 3 + 3 * (L / 2) * t**2 * B**3 / 12)
        return x, y

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
        """Of the mean length."""
        return self.B, self.L

    @property
    def hole(self) -> Array:
        """None."""
        return np.zeros((1, 1))

    @property
    def edges(self) -> tuple[Edge, ...]:
        """The two ends and the two sides."""
        cosine = 1 / np.sqrt(1 + self.taper**2)
        sine, away = -self.taper * cosine, self.L / 2 * cosine
        return (
            Edge(say("+x edge"), 1.0, 0.0, self.B / 2),
            Edge(say("−x edge"), -1.0, 0.0, self.B / 2),
            Edge(say("+y edge"), sine, cosine, away),
            Edge(say("−y edge"), sine, -cosine, away),
        )

    def outline(self, x0: Array | float = 0.0, y0: Array | float = 0.0) -> tuple[Array, Array]:
        """The corners from (x0, y0)."""
        low, high = (end / 2 for end in self.ends)
        x = np.concatenate([-self.B, self.B, self.B, -self.B], axis=-1) / 2 - x0
        y = np.concatenate([-low, -high, high, low], axis=-1) - y0
        return x, y

    def _along(self, start: Array) -> tuple[Array, Array]:
        """From where to where along x the base reaches beyond |y| = start on one side."""
        end, t = self.B / 2, self.taper
        safe = np.where(t == 0.0, 1.0, t)
        at = np.clip((start - self.L / 2) / safe, -end, end)
        low, high = np.where(t > 0, at, -end + 0.0 * at), np.where(t < 0, at, end + 0.0 * at)
        none = (t == 0.0) & (start >= self.L / 2)
        return np.where(none, high, low), high

    def size(self, axis: str) -> Array:
        """B, or the length of the longer end."""
        return self.B if axis == "x" else np.maximum(*self.ends)

    def span(self, axis: str, at: Array) -> tuple[Array, Array]:
        """Along y from side to side, along x as far as it is long enough."""
        if axis == "y":
            half = self.half(np.clip(at, -self.B / 2, self.B / 2))
            return -half, half
        return self._along(np.abs(at))

    def chord(self, axis: str, at: Array) -> Array:
        """The length there, or how long along x the base reaches so far."""
        low, high = self.span("y" if axis == "x" else "x", at)
        return high - low

    def beyond(self, side: str, start: Array) -> Part:
        """A trapezoid, or the triangle at the longer end."""
        sign = 1.0 if side[0] == "+" else -1.0
        if side[1] == "x":
            near = sign * np.clip(start, -self.B / 2, self.B / 2)
            far = sign * self.B / 2 + 0.0 * near
            low, high = (near, far) if sign > 0 else (far, near)
            a, b = self.half(low), self.half(high)
            x, y = np.stack([low, high, high, low], axis=-1), np.stack([-a, -b, b, a], axis=-1)
            return Part(x, y, sign * near, np.abs(far - near), 2 * self.half(near))
        most = self.size("y") / 2
        start = np.clip(start, -most, INSIDE * most)
        low, high = self._along(start)
        # where, from below the axis on, the section leaves the base: beyond that all of it is taken
        short, long = self._along(np.abs(start))
        kink = np.clip(np.where(self.taper < 0, long, short), low, high)
        low, kink, high = np.broadcast_arrays(low, kink, high)

        def bottom(at: Array) -> Array:
            found: Array = np.maximum(start, -self.half(at))
            return found

        tops = [np.maximum(self.half(at), start) for at in (high, low)]
        x = np.stack([low, kink, high, high, low], axis=-1)
        y = np.stack([bottom(low), bottom(kink), bottom(high), *tops], axis=-1)
        outstand = np.maximum(*tops) - start
        if sign < 0:
            x, y = x[..., ::-1], -y[..., ::-1]
        return Part(x, y, start + 0.0 * outstand, outstand, self.chord("y", start))

    def slices(self, side: str, start: Array, shares: Array) -> tuple[Array, Array, Array]:
        """Corners (slices, candidates, 1, 4) of what lies beyond a section, cut along the axis at shares of its width
        from -1/2 to 1/2, and the widths there (slices, candidates, 1); towards an end the cuts run as the sides do.

        Args:
            start: from the middle towards the side, (candidates, 1).
        """
        first, last = (s[:, None, None] for s in (shares[:-1], shares[1:]))
        sign = 1.0 if side[0] == "+" else -1.0
        none = 0.0 * first
        if side[1] == "x":
            near, end = sign * start, sign * self.B / 2
            width, at_end = 2 * self.half(near), 2 * self.half(end)
            x = np.stack([near + none, end + none, end + none, near + none], axis=-1)
            y = np.stack([first * width, first * at_end, last * at_end, last * width], axis=-1)
            wide = (last - first) * width
        else:
            left, right = self._along(np.abs(start))
            a, b = ((left + right) / 2 + s * (right - left) for s in (first, last))
            tops = [np.maximum(self.half(at), start) for at in (b, a)]
            x = np.stack([a, b, b, a], axis=-1)
            y = sign * np.stack([start + none, start + none, *tops], axis=-1)
            wide = b - a
        return (x, y, wide) if sign > 0 else (x[..., ::-1], y[..., ::-1], wide)

    def clear(
        self, offset_x: Array, offset_y: Array, size_x: Array, size_y: Array
    ) -> tuple[Array, Array, Array, Array]:
        """To the ends; to the sides at a right angle to them from the corner that is nearest."""
        x, y = size_x / 2, size_y / 2
        cosine = 1 / np.sqrt(1 + self.taper**2)
        nearest = np.clip(offset_x - np.sign(self.taper) * x, -self.B / 2, self.B / 2)
        half = self.half(nearest)
        return (
            self.B / 2 + offset_x - x,
            self.B / 2 - offset_x - x,
            (half + offset_y - y) * cosine,
            (half - offset_y - y) * cosine,
        )

    def spread(self, by: Array | float) -> "Trapezoid":
        """All four edges move out by as much; the sides keep their slope."""
        return Trapezoid(self.B + 2 * by, self.L + 2 * by * np.sqrt(1 + self.taper**2), self.taper)

    def halfway(self, other: "Trapezoid") -> "Trapezoid":
        """The mean sizes."""
        return Trapezoid((self.B + other.B) / 2, (self.L + other.L) / 2, self.taper)

    def recorded(self, record: Recorder) -> None:
        """How the sides run."""
        record.given(
            "t_L",
            self.taper,
            note=say("half the length grows by so much along x for 1; L is the mean length"),
        )
        record.step(
            "x_m",
            "t_L*B**2/(6*L)",
            np.asarray(self.centroid),
            "m",
            note=say("centre of the area, from the middle"),
        )

    def contact(self, N: Array, Mx: Array, My: Array, record: Recorder = SILENT) -> Contact:
        """By Newton's method on the part that is pressed."""
        x, y = self.outline()
        N, Mx, My = np.broadcast_arrays(N, Mx, My)
        pressed = N > 0.0
        nonzero = np.where(N != 0.0, N, 1.0)
        e_x, e_y = My / nonzero, -Mx / nonzero
        x_m = np.asarray(self.centroid)
        # how far the resultant is on the way from the centre of the area to the edge that it meets first
        outs = [((e_x - x_m) * e.cosine + e_y * e.sine) / (e.away - x_m * e.cosine) for e in self.edges]
        out = np.max(np.stack(np.broadcast_arrays(*outs)), axis=0)
        stable = pressed & (out <= 1.0 - 2 * AT_EDGE)
        found = plane_without_tension(np.where(stable, N, 0.0), e_x, e_y, x, y, stable)
        a, b, c = found.plane
        corners = np.maximum(0.0, a[..., None] + b[..., None] * x[:, None, :] + c[..., None] * y[:, None, :])
        share = np.where(stable, found.area / self.area, 0.0)
        record.step("e_x", "M_y/N", e_x, "m", note=say("eccentricity along x, from the middle"))
        record.step("e_y", "-M_x/N", e_y, "m", note=say("eccentricity along y"))
        record.given(
            "r_e",
            np.where(pressed, out, 1.0),
            note=say("below 1: the resultant lies within the base"),
            needs="e_x e_y x_m B L t_L",
        )
        record.step("p_0", "N/(B*L)", N / self.area, "kPa", note=say("mean pressure"))
        needs = "N e_x e_y B L t_L"
        solved = say("solved: linear without tension, in equilibrium with N at e_x, e_y")
        record.given("p_mid", a, "kPa", note=solved, needs=needs)
        record.given("g_x", b, "kPa/m", note=say("slope of the pressure along x"), needs=needs)
        record.given("g_y", c, "kPa/m", note=say("slope of the pressure along y"), needs=needs)
        record.given("s_c", share, note=say("share of the base in contact"), needs=needs)
        record.step(
            "p_max",
            "p_mid + max(-g_x*B/2 + abs(g_y)*(L/2 - t_L*B/2), g_x*B/2 + abs(g_y)*(L/2 + t_L*B/2))",
            corners.max(axis=-1),
            "kPa",
            note=say("peak, at a corner"),
        )
        return Contact(a, b, c, e_x, e_y, stable, share, corners)

    def effective(self, contact: Contact, Hx: Array, Hy: Array, record: Recorder = SILENT) -> Effective:
        """What lies evenly about the resultant: along y as far to both sides as the nearer edge, along x cut off at the
        end that is farther. Of equal ends it is (B - 2 e_x)(L - 2 e_y)."""
        e_x, e_y = (
            np.where(contact.stable, contact.e_x, self.centroid),
            np.where(contact.stable, contact.e_y, 0.0),
        )
        low, high = self._along(np.abs(e_y))
        m = self.L / 2 - np.abs(e_y)
        t = self.taper

        def area(a: Array, b: Array) -> Array:
            found: Array = 2 * (m * (b - a) + t * (b**2 - a**2) / 2)
            return found

        def moment(a: Array, b: Array) -> Array:
            """Of the part from a to b, about the resultant."""
            found: Array = 2 * (m * (b**2 - a**2) / 2 + t * (b**3 - a**3) / 3) - e_x * area(a, b)
            return found

        cut_low = moment(low, high) < 0.0
        # moving one end towards the resultant brings the middle there
        near, far = np.where(cut_low, low, high), e_x + 0.0 * low
        for _ in range(HALVINGS):
            at = (near + far) / 2
            still = np.where(cut_low, moment(at, high) < 0.0, moment(low, at) > 0.0)
            near, far = np.where(still, at, near), np.where(still, far, at)
        at = (near + far) / 2
        low, high = np.where(cut_low, at, low), np.where(cut_low, high, at)
        within, x = np.maximum(area(low, high), 0.0), np.maximum(high - low, 0.0)
        y = within / np.maximum(x, 1e-12)
        record.given(
            "A_even",
            within,
            "m²",
            note=say("the part of the base whose middle is the resultant"),
            needs="e_x e_y B L t_L",
        )
        record.given("B_x", x, "m", reference="Meyerhof 1953", note=say("its length along x"), needs="e_x e_y B L t_L")
        record.step("L_y", "A_even/max(B_x, 1e-12)", y, "m", note=say("its mean length along y"))
        return Effective(x, y, Hx, Hy)

    def eccentricity(self, contact: Contact, limit: Array, record: Recorder = SILENT) -> tuple[Array, Array]:
        """As of a rectangle of the mean length, from the centre of the area."""
        measure = np.hypot((contact.e_x - self.centroid) / self.B, contact.e_y / self.L)
        record.step(
            "e_rel",
            "sqrt(((e_x - x_m)/B)**2 + (e_y/L)**2)",
            measure,
            reference="EN 1997-1 6.5.4",
            note=say("relative eccentricity, from the centre of the area"),
        )
        record.given("e_lim", limit, note=say("limit"))
        record.step("ratio", "e_rel/e_lim", measure / limit)
        return measure, measure / limit
