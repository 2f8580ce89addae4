"""Reference cases of the concrete checks."""

import math

import numpy as np

from korbent.core.concrete.flexure import required_steel
from korbent.core.concrete.perimeter import Perimeter, control_perimeter
from korbent.core.concrete.standards.en1992 import EN1992
from korbent.core.working import SILENT
from korbent.verification.case import Case

STANDARD = EN1992()
NO = np.array([False])


def _a(value: float) -> np.ndarray:
    return np.array([value])


def _steel(moment: float, d: float, fck: float = 30.0) -> float:
    fcd, fyd = STANDARD.strengths(fck, 500.0, NO, SILENT)
    return float(required_steel(STANDARD, _a(moment), _a(d), fck, fcd, fyd, SILENT)[0][0])


def _moment_of(steel: float, d: float) -> float:
    """The moment (kNm/m) that steel in mm2/m resists: equilibrium of the section, found by summing 4000 fibres."""
    fcd, fyd = 20.0, 500 / 1.15
    force = steel * fyd / 1000.0  # kN/m
    low, high = 0.0, d
    n = 4000
    for _ in range(60):
        block = (low + high) / 2
        low, high = (block, high) if block * fcd * 1000 < force else (low, block)
    fibres = (np.arange(n) + 0.5) / n * block
    return float((fcd * 1000 * block / n * (d - fibres)).sum())


def _shear(d: float, rho: float, fck: float = 30.0) -> float:
    return float(STANDARD.shear_strength(_a(d), fck, _a(rho), NO, SILENT)[0])


def around(c_x: float, c_y: float, a: float, clear: tuple[float, float, float, float], near: float = 0.0) -> Perimeter:
    """A control perimeter."""
    sides = tuple(np.array([[e]]) for e in clear)
    return control_perimeter(c_x, c_y, sides, np.array([[[a]]]))


WIDE = (9.0, 9.0, 9.0, 9.0)


def _one(value: np.ndarray) -> float:
    return float(value.ravel()[0])


def _by_outline(perimeter: Perimeter) -> float:
    x, y = (values.ravel() for values in perimeter.outline())
    return float(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y) / 2)


def _summed_W(c_x: float, c_y: float, a: float) -> float:
    """The integral of |x| along a perimeter open at -x (clear 0.2 m), from its middle, by walking it in small steps."""
    n = 200_000
    straight = c_x + 0.2
    arc = math.pi / 2 * a
    total = 2 * straight + 2 * arc + c_y
    s = (np.arange(n) + 0.5) / n * total
    east = c_x / 2
    x = np.piecewise(
        s,
        [
            s < straight,
            (s >= straight) & (s < straight + arc),
            (s >= straight + arc) & (s < straight + arc + c_y),
            (s >= straight + arc + c_y) & (s < straight + 2 * arc + c_y),
            s >= straight + 2 * arc + c_y,
        ],
        [
            lambda t: -c_x / 2 - 0.2 + t,
            lambda t: east + a * np.sin((t - straight) / a),
            lambda t: east + a + 0 * t,
            lambda t: east + a * np.cos((t - straight - arc - c_y) / a),
            lambda t: east - (t - straight - 2 * arc - c_y),
        ],
    )
    return float(np.abs(x - x.mean()).sum() * total / n)


CONCRETE = (
    Case(
        "flexure: steel for 320 kNm/m, d = 0.55 m, fck 30",
        "second method",
        "fibres in equilibrium give the moment back",
        320.0,
        lambda: _moment_of(_steel(320.0, 0.55), 0.55),
        1e-5,
        "kNm/m",
    ),
    Case(
        "flexure: small moment",
        "closed form",
        "M/(d fyd) in the limit",
        1e6 * 0.01 / (0.5 * 500 / 1.15) / 1e3,
        lambda: _steel(0.01, 0.5),
        1e-5,
        "mm²/m",
    ),
    Case(
        "one-way shear, ρ 0.5 %, d 200 mm, fck 30",
        "from memory",
        "design tables to EN 1992: 0.59",
        0.59,
        lambda: _shear(0.2, 0.005),
        7e-3,
        "MPa",
    ),
    Case(
        "one-way shear, ρ 1 %, d 200 mm, fck 30",
        "from memory",
        "design tables to EN 1992: 0.75",
        0.75,
        lambda: _shear(0.2, 0.01),
        7e-3,
        "MPa",
    ),
    Case(
        "one-way shear, ρ 2 %, d 200 mm, fck 30",
        "from memory",
        "design tables to EN 1992: 0.94",
        0.94,
        lambda: _shear(0.2, 0.02),
        7e-3,
        "MPa",
    ),
    Case(
        "one-way shear, least value, d 200 mm, fck 30",
        "from memory",
        "design tables to EN 1992: 0.54",
        0.54,
        lambda: _shear(0.2, 0.0005),
        7e-3,
        "MPa",
    ),
    Case(
        "punching strength at d is twice that at 2d",
        "closed form",
        "EN 1992-1-1 (6.50)",
        2.0,
        lambda: (
            _one(STANDARD.punching_strength(_a(0.5), _a(0.5), 30.0, _a(0.005), NO, SILENT))
            / _one(STANDARD.punching_strength(_a(0.5), _a(1.0), 30.0, _a(0.005), NO, SILENT))
        ),
        1e-12,
    ),
    Case(
        "least steel ratio, fck 30, fyk 500",
        "from memory",
        "design tables to EN 1992: 0.151 %",
        0.00151,
        lambda: _one(STANDARD.minimum_steel(_a(0.5), _a(0.6), 30.0, 500.0, SILENT)) / 1e6 / 0.5,
        5e-3,
    ),
    Case(
        "closed perimeter: length at a",
        "closed form",
        "2 (cx + cy) + 2 π a",
        2 * 0.9 + 2 * math.pi * 0.6,
        lambda: _one(around(0.4, 0.5, 0.6, WIDE).length),
        1e-12,
        "m",
    ),
    Case(
        "closed perimeter: area within",
        "closed form",
        "cx cy + 2 a (cx + cy) + π a²",
        0.2 + 1.2 * 0.9 + math.pi * 0.36,
        lambda: _one(around(0.4, 0.5, 0.6, WIDE).area),
        1e-12,
        "m²",
    ),
    Case(
        "closed perimeter: W at 2d",
        "closed form",
        "EN 1992-1-1 (6.41), c1 along the eccentricity",
        0.4**2 / 2 + 0.4 * 0.5 + 4 * 0.5 * 0.3 + 16 * 0.09 + 2 * math.pi * 0.3 * 0.4,
        lambda: _one(around(0.4, 0.5, 0.6, WIDE).W_y),
        1e-9,
        "m²",
    ),
    Case(
        "perimeter open to one edge: length",
        "closed form",
        "2 (cx + clear) + cy + π a",
        2 * 0.6 + 0.5 + math.pi * 0.6,
        lambda: _one(around(0.4, 0.5, 0.6, (0.2, 9.0, 9.0, 9.0)).length),
        1e-12,
        "m",
    ),
    Case(
        "perimeter open to one edge: W",
        "second method",
        "walked in 200 000 steps",
        _summed_W(0.4, 0.5, 0.6),
        lambda: _one(around(0.4, 0.5, 0.6, (0.2, 9.0, 9.0, 9.0)).W_y),
        1e-3,
        "m²",
    ),
    Case(
        "perimeter open to two edges: length",
        "closed form",
        "cx + cy + both clears + π a/2",
        0.4 + 0.5 + 0.5 + math.pi * 0.3,
        lambda: _one(around(0.4, 0.5, 0.6, (0.2, 9.0, 0.3, 9.0)).length),
        1e-12,
        "m",
    ),
    Case(
        "perimeter: area by its outline (8 chords an arc)",
        "second method",
        "shoelace formula",
        _by_outline(around(0.4, 0.5, 0.6, (0.2, 9.0, 9.0, 9.0))),
        lambda: _one(around(0.4, 0.5, 0.6, (0.2, 9.0, 9.0, 9.0)).area),
        5e-3,
        "m²",
    ),
)
