"""Contact under a base of any shape: linear without tension, and uniform on the effective area."""

from dataclasses import dataclass

import numpy as np

from korbent.core.contact.circle import effective_circle, linear_no_tension_round
from korbent.core.contact.rectangle import Contact, effective_area, linear_no_tension
from korbent.core.geometry import PadGeometry
from korbent.core.working import SILENT, Array, Recorder


def contact_under(
    geometry: PadGeometry, N: Array, Mx: Array, My: Array, record: Recorder = SILENT
) -> Contact:
    """The pressure plane under a base with the force N (kN, down) and the moments Mx, My (kNm) at its middle.

    Under a circle or a ring ``corners`` are the pressures on its rim towards the resultant, a quarter turn on, opposite, and
    three quarters on.
    """
    g = geometry
    if g.shape == "rectangle":
        return linear_no_tension(N, Mx, My, g.B, g.L, record)
    N, Mx, My, R, r = np.broadcast_arrays(N, Mx, My, g.B / 2, g.hole / 2)
    found = linear_no_tension_round(N, np.hypot(Mx, My), R, r)
    nonzero = np.where(N != 0.0, N, 1.0)
    e_x, e_y = My / nonzero, -Mx / nonzero
    e = np.hypot(e_x, e_y)
    cosine, sine = (
        np.where(e > 0, e_x / np.maximum(e, 1e-300), 1.0),
        np.where(e > 0, e_y / np.maximum(e, 1e-300), 0.0),
    )
    corners = np.maximum(
        0.0, np.stack([found.a + found.b * R, found.a, found.a - found.b * R, found.a], axis=-1)
    )
    record("B_h", "", g.hole, "m", note="diameter of the hole")
    record("e_x", "M_y/N", e_x, "m", note="eccentricity along x")
    record("e_y", "-M_x/N", e_y, "m", note="eccentricity along y")
    record("e", "sqrt(e_x**2 + e_y**2)", e, "m")
    record(
        "r_e",
        "where(N > 0, 2*e/B, 1)",
        np.where(N > 0, 2 * e / g.B, 1.0),
        note="below 1: the resultant lies within the base",
    )
    record("p_0", f"N/({g.area_formula})", N / g.area, "kPa", note="mean pressure")
    record(
        "e_k",
        "(B**2 + B_h**2)/(8*B)",
        (g.B**2 + g.hole**2) / (8 * g.B),
        "m",
        note="up to here all is in contact",
    )
    needs = "N e B B_h"
    solved = "segment integrals, no tension: in equilibrium with N at e"
    record("p_mid", "", found.a, "kPa", "", solved, needs)
    record("g_e", "", found.b, "kPa/m", "", "slope of the pressure towards the resultant", needs)
    record(
        "g_x",
        "where(e > 0, g_e*e_x/max(e, 1e-300), g_e)",
        found.b * cosine,
        "kPa/m",
        note="slope of the pressure along x",
    )
    record(
        "g_y",
        "where(e > 0, g_e*e_y/max(e, 1e-300), 0)",
        found.b * sine,
        "kPa/m",
        note="slope of the pressure along y",
    )
    record("s_c", "", found.share, "", "", "share of the base in contact", needs)
    record("p_max", "p_mid + g_e*B/2", found.a + found.b * R, "kPa", note="peak, on the rim")
    return Contact(found.a, found.b * cosine, found.b * sine, e_x, e_y, found.stable, found.share, corners)


@dataclass(frozen=True)
class Effective:
    """The effective area: sizes of the rectangle that stands for it, along two axes at right angles, and the horizontal
    forces along them (kN). Under a rectangle the axes are those of the pad; under a circle the first one points towards the
    resultant."""

    x: Array
    y: Array
    Hx: Array
    Hy: Array


def effective_under(
    geometry: PadGeometry, contact: Contact, Hx: Array, Hy: Array, record: Recorder = SILENT
) -> Effective:
    """The effective area, whose middle is the resultant (Meyerhof 1953).

    Under a circle it is the lens about the resultant, taken as the rectangle of equal area and of the lens's proportions. Of
    a ring, what lies within the ring and within its mirror image at the resultant counts; its shorter side is at most w (2 - r/R), w being the width of the
    ring: a circle where there is no hole, a strip where the hole is wide (our own interpolation, on the safe side).
    """
    g = geometry
    if g.shape == "rectangle":
        x, y = effective_area(contact.e_x, contact.e_y, g.B, g.L, record)
        return Effective(x, y, Hx, Hy)
    e = np.hypot(contact.e_x, contact.e_y)
    R, r, e = np.broadcast_arrays(g.B / 2, g.hole / 2, np.where(contact.stable, e, 0.0))
    area, short, _ = effective_circle(e, R)
    within = area
    if g.shape == "ring":
        within = np.maximum(area - 2 * overlap(R, r, 2 * e) + overlap(r, r, 2 * e), 1e-9)
        short = np.minimum(short * np.sqrt(within / np.maximum(area, 1e-12)), (R - r) * (2 - r / R))
    long = within / np.maximum(short, 1e-12)
    some = e > 1e-12
    cosine = np.where(some, contact.e_x / np.where(some, e, 1.0), 1.0)
    sine = np.where(some, contact.e_y / np.where(some, e, 1.0), 0.0)
    along, across = cosine * Hx + sine * Hy, cosine * Hy - sine * Hx
    record("A_lens", "", within, "m²", "", "the lens about the resultant, without the hole", "e B B_h")
    record(
        "B_x",
        "",
        short,
        "m",
        "",
        "effective size towards the resultant, of a rectangle of equal area",
        "e B B_h",
    )
    record("L_y", "A_lens/max(B_x, 1e-12)", long, "m", note="effective size across it")
    record("c_e", "", cosine, "", "", "direction of the resultant", "e_x e_y")
    record("s_e", "", sine, "", "", "direction of the resultant", "e_x e_y")
    before_x, before_y = np.broadcast_arrays(Hx, Hy)
    record("H_x0", "H_x", before_x, "kN", note="along x")
    record("H_y0", "H_y", before_y, "kN", note="along y")
    record("H_x", "c_e*H_x0 + s_e*H_y0", along, "kN", note="towards the resultant")
    record("H_y", "c_e*H_y0 - s_e*H_x0", across, "kN", note="across it")
    return Effective(short, long, along, across)


def overlap(first: Array, second: Array, apart: Array) -> Array:
    """Area that two circles have in common, m2; ``apart``: between their middles."""
    R, r = np.maximum(first, second), np.maximum(np.minimum(first, second), 1e-12)
    free, inside = apart >= R + r, apart <= R - r
    d = np.where(free | inside, 1.0, apart)
    lens_r = np.arccos(np.clip((d**2 + r**2 - R**2) / (2 * d * r), -1.0, 1.0))
    lens_R = np.arccos(np.clip((d**2 + R**2 - r**2) / (2 * d * R), -1.0, 1.0))
    root = np.sqrt(np.maximum((-d + r + R) * (d + r - R) * (d - r + R) * (d + r + R), 0.0))
    found: Array = np.where(
        free, 0.0, np.where(inside, np.pi * r**2, r**2 * lens_r + R**2 * lens_R - root / 2)
    )
    return found
