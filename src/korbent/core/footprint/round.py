"""A circle or a ring."""

from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from korbent.core.contact.circle import effective_circle, linear_no_tension_round
from korbent.core.contact.plane import Contact
from korbent.core.footprint.footprint import Edge, Effective, Part
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

RIM_POINTS = 72
ARC = 48
"""Points of an arc; its radius is raised so that sector and polygon have the same area."""


@dataclass(frozen=True)
class Round:
    """B is the diameter."""

    B: Array
    hole: Array
    """Diameter of the hole, m; 0 without one."""
    is_round: ClassVar[bool] = True
    slices_alike: ClassVar[bool] = False
    around_formula: ClassVar[str] = "pi*B"
    full_contact: ClassVar[str] = "e"

    @property
    def L(self) -> Array:
        """The diameter, m."""
        return self.B

    @property
    def area_formula(self) -> str:
        """Of a ring where there is a hole."""
        return "pi*(B**2 - B_h**2)/4" if self.hole.any() else "pi*B**2/4"

    @property
    def area(self) -> Array:
        """m2."""
        area: Array = np.pi / 4 * (self.B**2 - self.hole**2)
        return area

    @property
    def around(self) -> Array:
        """Length of the rim, m."""
        around: Array = np.pi * self.B
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
        """pi (D4 - d4)/64 both ways, m4."""
        inertia: Array = np.pi * (self.B**4 - self.hole**4) / 64
        return inertia, inertia

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
        """The square of equal area."""
        side = np.sqrt(self.area)
        return side, side

    @property
    def edges(self) -> tuple[Edge, ...]:
        """None: any tangent."""
        return ()

    def outline(self, x0: Array | float = 0.0, y0: Array | float = 0.0) -> tuple[Array, Array]:
        """Points of the rim from (x0, y0)."""
        angles = np.linspace(0.0, 2 * np.pi, RIM_POINTS, endpoint=False)
        return self.B / 2 * np.cos(angles) - x0, self.B / 2 * np.sin(angles) - y0

    def size(self, axis: str) -> Array:
        """The diameter."""
        return self.B

    def span(self, axis: str, at: Array) -> tuple[Array, Array]:
        """From rim to rim."""
        half = np.sqrt(np.maximum((self.B / 2) ** 2 - np.asarray(at) ** 2, 0.0))
        return -half, half

    def chord(self, axis: str, at: Array) -> Array:
        """Of the outer circle."""
        low, high = self.span(axis, at)
        return high - low

    def beyond(self, side: str, start: Array) -> Part:
        """A segment of the outer circle."""
        sign = 1.0 if side[0] == "+" else -1.0
        R = self.B / 2
        start = np.clip(start, -0.999999 * R, 0.999999 * R)
        half = np.arccos(start / R)
        step = 2 * half / (ARC - 1)
        angles = half[..., None] * np.linspace(-1.0, 1.0, ARC)
        raised = (R * np.sqrt(step / np.sin(step)))[..., None]
        raised = np.where(np.abs(np.linspace(-1.0, 1.0, ARC)) == 1.0, R[..., None], raised)
        u, v = sign * raised * np.cos(angles), raised * np.sin(angles) * sign
        # towards y, the x section is turned by a quarter
        x, y = (u, v) if side[1] == "x" else (-v, u)
        return Part(x, y, start, R - start, 2 * R * np.sin(half))

    def clear(
        self, offset_x: Array, offset_y: Array, size_x: Array, size_y: Array
    ) -> tuple[Array, Array, Array, Array]:
        """To the rim as the corner that is nearest sees it: a perimeter there lies within the base."""
        room = self.B / 2 - np.hypot(np.abs(offset_x) + size_x / 2, np.abs(offset_y) + size_y / 2)
        return room, room, room, room

    def spread(self, by: Array | float) -> "Round":
        """The hole grows smaller."""
        return Round(self.B + 2 * by, np.maximum(self.hole - 2 * by, 0.0))

    def halfway(self, other: "Round") -> "Round":
        """The mean diameters."""
        return Round((self.B + other.B) / 2, (self.hole + other.hole) / 2)

    def recorded(self, record: Recorder) -> None:
        """The hole."""
        record.given("B_h", self.hole, "m", note=say("diameter of the hole"))

    def contact(self, N: Array, Mx: Array, My: Array, record: Recorder = SILENT) -> Contact:
        """By segment integrals; ``corners`` are the pressures on the rim towards the resultant, a quarter turn on,
        opposite, and three quarters on."""
        N, Mx, My, R, r = np.broadcast_arrays(N, Mx, My, self.B / 2, self.hole / 2)
        found = linear_no_tension_round(N, np.hypot(Mx, My), R, r)
        nonzero = np.where(N != 0.0, N, 1.0)
        e_x, e_y = My / nonzero, -Mx / nonzero
        e = np.hypot(e_x, e_y)
        cosine, sine = (
            np.where(e > 0, e_x / np.maximum(e, 1e-300), 1.0),
            np.where(e > 0, e_y / np.maximum(e, 1e-300), 0.0),
        )
        corners = np.maximum(0.0, np.stack([found.a + found.b * R, found.a, found.a - found.b * R, found.a], axis=-1))
        record.given("B_h", self.hole, "m", note=say("diameter of the hole"))
        record.step("e_x", "M_y/N", e_x, "m", note=say("eccentricity along x"))
        record.step("e_y", "-M_x/N", e_y, "m", note=say("eccentricity along y"))
        record.step("e", "sqrt(e_x**2 + e_y**2)", e, "m")
        record.step(
            "r_e",
            "where(N > 0, 2*e/B, 1)",
            np.where(N > 0, 2 * e / self.B, 1.0),
            note=say("below 1: the resultant lies within the base"),
        )
        record.step("p_0", f"N/({self.area_formula})", N / self.area, "kPa", note=say("mean pressure"))
        record.step(
            "e_k",
            "(B**2 + B_h**2)/(8*B)",
            (self.B**2 + self.hole**2) / (8 * self.B),
            "m",
            note=say("up to here all is in contact"),
        )
        needs = "N e B B_h"
        solved = say("segment integrals, no tension: in equilibrium with N at e")
        record.given("p_mid", found.a, "kPa", note=solved, needs=needs)
        record.given("g_e", found.b, "kPa/m", note=say("slope of the pressure towards the resultant"), needs=needs)
        record.step(
            "g_x",
            "where(e > 0, g_e*e_x/max(e, 1e-300), g_e)",
            found.b * cosine,
            "kPa/m",
            note=say("slope of the pressure along x"),
        )
        record.step(
            "g_y",
            "where(e > 0, g_e*e_y/max(e, 1e-300), 0)",
            found.b * sine,
            "kPa/m",
            note=say("slope of the pressure along y"),
        )
        record.given("s_c", found.share, note=say("share of the base in contact"), needs=needs)
        record.step("p_max", "p_mid + g_e*B/2", found.a + found.b * R, "kPa", note=say("peak, on the rim"))
        return Contact(found.a, found.b * cosine, found.b * sine, e_x, e_y, found.stable, found.share, corners)

    def effective(self, contact: Contact, Hx: Array, Hy: Array, record: Recorder = SILENT) -> Effective:
        """The lens about the resultant, taken as the rectangle of equal area and of the lens's proportions.

        Of a ring, what lies within the ring and within its mirror image at the resultant counts; its shorter side is at
        most w (2 - r/R), w being the width of the ring: a circle where there is no hole, a strip where the hole is wide
        (our own interpolation, on the safe side)."""
        e = np.hypot(contact.e_x, contact.e_y)
        R, r, e = np.broadcast_arrays(self.B / 2, self.hole / 2, np.where(contact.stable, e, 0.0))
        area, short, _ = effective_circle(e, R)
        within = area
        if self.hole.any():
            within = np.maximum(area - 2 * overlap(R, r, 2 * e) + overlap(r, r, 2 * e), 1e-9)
            short = np.minimum(short * np.sqrt(within / np.maximum(area, 1e-12)), (R - r) * (2 - r / R))
        long = within / np.maximum(short, 1e-12)
        some = e > 1e-12
        cosine = np.where(some, contact.e_x / np.where(some, e, 1.0), 1.0)
        sine = np.where(some, contact.e_y / np.where(some, e, 1.0), 0.0)
        along, across = cosine * Hx + sine * Hy, cosine * Hy - sine * Hx
        record.given(
            "A_lens", within, "m²", note=say("the lens about the resultant, without the hole"), needs="e B B_h"
        )
        record.given(
            "B_x",
            short,
            "m",
            note=say("effective size towards the resultant, of a rectangle of equal area"),
            needs="e B B_h",
        )
        record.step("L_y", "A_lens/max(B_x, 1e-12)", long, "m", note=say("effective size across it"))
        record.given("c_e", cosine, note=say("direction of the resultant"), needs="e_x e_y")
        record.given("s_e", sine, note=say("direction of the resultant"), needs="e_x e_y")
        before_x, before_y = np.broadcast_arrays(Hx, Hy)
        record.step("H_x0", "H_x", before_x, "kN", note=say("along x"))
        record.step("H_y0", "H_y", before_y, "kN", note=say("along y"))
        record.step("H_x", "c_e*H_x0 + s_e*H_y0", along, "kN", note=say("towards the resultant"))
        record.step("H_y", "c_e*H_y0 - s_e*H_x0", across, "kN", note=say("across it"))
        return Effective(short, long, along, across)

    def eccentricity(self, contact: Contact, limit: Array, record: Recorder = SILENT) -> tuple[Array, Array]:
        """Eccentricity over the diameter; 0.6 of the radius is the limit 0.3 (EN 1997-1 6.5.4)."""
        measure = np.hypot(contact.e_x, contact.e_y) / self.B
        record.step("e_rel", "e/B", measure, reference="EN 1997-1 6.5.4", note=say("eccentricity over diameter"))
        record.given("e_lim", limit, note=say("limit"))
        record.step("ratio", "e_rel/e_lim", measure / limit)
        return measure, measure / limit


def overlap(first: Array, second: Array, apart: Array) -> Array:
    """Area that two circles have in common, m2; ``apart``: between their middles."""
    R, r = np.maximum(first, second), np.maximum(np.minimum(first, second), 1e-12)
    free, inside = apart >= R + r, apart <= R - r
    d = np.where(free | inside, 1.0, apart)
    lens_r = np.arccos(np.clip((d**2 + r**2 - R**2) / (2 * d * r), -1.0, 1.0))
    lens_R = np.arccos(np.clip((d**2 + R**2 - r**2) / (2 * d * R), -1.0, 1.0))
    root = np.sqrt(np.maximum((-d + r + R) * (d + r - R) * (d - r + R) * (d + r + R), 0.0))
    found: Array = np.where(free, 0.0, np.where(inside, np.pi * r**2, r**2 * lens_r + R**2 * lens_R - root / 2))
    return found
