"""Reference cases of the base pressure."""

import math

import numpy as np

from korbent.core.contact.circle import linear_no_tension_round
from korbent.core.contact.plane import Contact
from korbent.core.contact.polygon import pressure_over
from korbent.core.contact.rectangle import CORNER_X, CORNER_Y, effective_area, linear_no_tension
from korbent.verification.case import Case


def solved(N: float, e_x: float, e_y: float, B: float, L: float) -> Contact:
    """The pressure for a force at an eccentricity."""
    return linear_no_tension(*(np.array([v]) for v in (N, -N * e_y, N * e_x, B, L)))


def _peak(*values: float) -> float:
    return float(solved(*values).peak[0])


def _share(*values: float) -> float:
    return float(solved(*values).share[0])


def _summed(N: float, e_x: float, e_y: float, B: float, L: float, what: str) -> float:
    """Force or moment of the pressure by summing a fine grid of cells."""
    contact = solved(N, e_x, e_y, B, L)
    n = 1200
    x = (np.arange(n) + 0.5) / n * B - B / 2
    y = (np.arange(n) + 0.5) / n * L - L / 2
    p = np.maximum(0.0, contact.a + contact.b * x[:, None] + contact.c * y[None, :]) * B * L / n**2
    return float({"N": p.sum(), "x": (p * x[:, None]).sum(), "y": (p * y[None, :]).sum()}[what])


def _part() -> float:
    """Force on the half x > 0.3 of a two-way eccentric base, by exact clipping."""
    contact = solved(800.0, 0.55, 0.4, 2.4, 1.9)
    x, y = np.array([0.3, 1.2, 1.2, 0.3]), np.array([-0.95, -0.95, 0.95, 0.95])
    return float(pressure_over(x, y, contact.a, contact.b, contact.c).force[0])


def _part_summed() -> float:
    contact = solved(800.0, 0.55, 0.4, 2.4, 1.9)
    n = 1500
    x = 0.3 + (np.arange(n) + 0.5) / n * 0.9
    y = (np.arange(n) + 0.5) / n * 1.9 - 0.95
    p = np.maximum(0.0, contact.a + contact.b * x[:, None] + contact.c * y[None, :])
    return float(p.sum() * 0.9 * 1.9 / n**2)


def _worst_equilibrium() -> float:
    rng = np.random.default_rng(7)
    n = 2000
    B, L, N = rng.uniform(0.5, 5, n), rng.uniform(0.5, 5, n), rng.uniform(10, 3000, n)
    e_x, e_y = rng.uniform(-0.495, 0.495, n) * B, rng.uniform(-0.495, 0.495, n) * L
    contact = linear_no_tension(N, -N * e_y, N * e_x, B, L)
    total = pressure_over(CORNER_X * B[:, None], CORNER_Y * L[:, None], contact.a, contact.b, contact.c)
    parts = (total.force / N - 1, (total.x / N - e_x) / B, (total.y / N - e_y) / L)
    return float(max(np.abs(p).max() for p in parts))


CONTACT = (
    Case(
        "base pressure, one-way, e = B/6: peak",
        "closed form",
        "2 V/(B L)",
        2 * 900 / (2.0 * 1.5),
        lambda: _peak(900, 2.0 / 6, 0, 2.0, 1.5),
        1e-9,
        "kPa",
    ),
    Case(
        "base pressure, one-way, e = B/4: peak",
        "closed form",
        "2 V/(3 L (B/2 - e))",
        2 * 900 / (3 * 1.5 * 0.5),
        lambda: _peak(900, 0.5, 0, 2.0, 1.5),
        1e-9,
        "kPa",
    ),
    Case(
        "base pressure, one-way, e = B/4: contact",
        "closed form",
        "3 (B/2 - e)/B",
        0.75,
        lambda: _share(900, 0.5, 0, 2.0, 1.5),
        1e-9,
    ),
    Case(
        "base pressure, two-way in the kern: peak",
        "closed form",
        "V/A (1 + 6 ex/B + 6 ey/L)",
        900 / 3.0 * (1 + 6 * 0.12 / 2.0 + 6 * 0.15 / 1.5),
        lambda: _peak(900, 0.12, 0.15, 2.0, 1.5),
        1e-9,
        "kPa",
    ),
    Case(
        "base pressure, contact at one corner: peak",
        "closed form",
        "tetrahedron, 6 V/(16 u v)",
        6 * 900 / (16 * 0.3 * 0.2),
        lambda: _peak(900, 0.7, 0.55, 2.0, 1.5),
        1e-9,
        "kPa",
    ),
    Case(
        "base pressure, contact at one corner: contact",
        "closed form",
        "16 u v/(2 B L)",
        16 * 0.3 * 0.2 / 2 / 3.0,
        lambda: _share(900, 0.7, 0.55, 2.0, 1.5),
        1e-9,
    ),
    Case(
        "base pressure, five-cornered contact: force",
        "second method",
        "sum over 1200 x 1200 cells",
        900.0,
        lambda: _summed(900, 0.3, 0.28, 2.0, 1.5, "N"),
        1e-4,
        "kN",
    ),
    Case(
        "base pressure, five-cornered contact: moment",
        "second method",
        "sum over 1200 x 1200 cells",
        900 * 0.3,
        lambda: _summed(900, 0.3, 0.28, 2.0, 1.5, "x"),
        1e-4,
        "kNm",
    ),
    Case(
        "base pressure, four-cornered contact: moment",
        "second method",
        "sum over 1200 x 1200 cells",
        900 * 0.12,
        lambda: _summed(900, 0.62, 0.12, 2.0, 1.5, "y"),
        1e-3,
        "kNm",
    ),
    Case(
        "force on a part of a partly pressed base",
        "second method",
        "sum over 1500 x 1500 cells",
        _part_summed(),
        _part,
        1e-4,
        "kN",
    ),
    Case("equilibrium of 2000 random bases, worst", "closed form", "0", 0.0, _worst_equilibrium, 1e-9),
    Case(
        "effective area, e = (0.3, 0.2)",
        "closed form",
        "Meyerhof 1953",
        (2.0 - 0.6) * (1.5 - 0.4),
        lambda: float(np.prod(effective_area(np.array(0.3), np.array(-0.2), np.array(2.0), np.array(1.5)))),
        1e-12,
        "m²",
    ),
)


def _round(what: str, e: float, inner: float = 0.0) -> float:
    found = linear_no_tension_round(np.array(100.0), np.array(100.0 * e), np.array(2.0), inner)
    return float(getattr(found, what))


_MEAN, _RING = 100.0 / (4 * math.pi), 100.0 / (3 * math.pi)
ROUND = (
    Case(
        "circle at the kern e = R/4: peak", "closed form", "2 V/A", 2 * _MEAN, lambda: _round("peak", 0.5), 1e-9, "kPa"
    ),
    Case(
        "circle, half in contact: share",
        "closed form",
        "e = 3πR/16",
        0.5,
        lambda: _round("share", 3 * math.pi / 8),
        1e-9,
    ),
    Case(
        "circle, half in contact: peak",
        "closed form",
        "V R/(2R³/3)",
        37.5,
        lambda: _round("peak", 3 * math.pi / 8),
        1e-9,
        "kPa",
    ),
    Case(
        "ring at the kern e = (R² + r²)/(4R): peak",
        "closed form",
        "2 V/A",
        2 * _RING,
        lambda: _round("peak", 0.625, 1.0),
        1e-9,
        "kPa",
    ),
)
