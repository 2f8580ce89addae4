"""Reference cases of bearing resistance, stresses in the ground and settlement."""

import math

import numpy as np

from korbent.core.bearing.annex_d import bearing_factors, drained, effective_sizes, undrained, weight_below
from korbent.core.ground.profile import effective_stress, profile_at, total_stress
from korbent.core.model import Backfill, Borehole, Ground, Settings, Soil, Stratum, Surfaces
from korbent.core.settlement.final import final_settlement
from korbent.core.settlement.formulas import oedometer_strain
from korbent.core.settlement.stress.below import corner_stress, displacement_below, stress_below
from korbent.verification.case import Case

THIRTY = np.array(math.radians(30.0))


def _a(*values: float) -> list[np.ndarray]:
    return [np.array([v]) for v in values]


def _annex_d_by_hand(N: float, H: float, B: float, L: float, c: float, phi: float, q: float, gamma: float) -> float:
    """Annex D.4 once more, in plain scalars and in degrees, for a force along the shorter side B' = B."""
    t = math.tan(math.radians(phi))
    Nq = math.exp(math.pi * t) * (1 + math.sin(math.radians(phi))) / (1 - math.sin(math.radians(phi)))
    Nc, Ng = (Nq - 1) / t, 2 * (Nq - 1) * t
    sq, sg = 1 + B / L * math.sin(math.radians(phi)), 1 - 0.3 * B / L
    sc = (sq * Nq - 1) / (Nq - 1)
    m = (2 + B / L) / (1 + B / L)
    iq = (1 - H / (N + B * L * c / t)) ** m
    ig = (1 - H / (N + B * L * c / t)) ** (m + 1)
    ic = iq - (1 - iq) / (Nc * t)
    return float(c * Nc * sc * ic + q * Nq * sq * iq + 0.5 * gamma * B * Ng * sg * ig)


def _annex_d(
    N: float, H_x: float, H_y: float, B_x: float, L_y: float, c: float, phi: float, q: float, gamma: float
) -> float:
    B, L, _, H, m = effective_sizes(*_a(B_x, L_y, H_x, H_y))
    result = drained(np.array([N]), H, m, B, L, *_a(c, math.tan(math.radians(phi)), q, gamma))
    return float(result.pressure[0])


def _undrained(H: float, B: float, L: float, c: float, q: float) -> float:
    return float(undrained(*_a(H, B, L, c, q)).pressure[0])


def _strain_integral(B: float, L: float, x: float, y: float, upper: float, lower: float, nu: float) -> float:
    """Compression between two depths, times E/q: point loads summed over the area, Hooke's law, summed over depth."""
    n = 120
    nodes, weights = np.polynomial.legendre.leggauss(n)
    u, wu = (nodes + 1) / 2 * B - B / 2 - x, weights * B / 2
    v, wv = (nodes + 1) / 2 * L - L / 2 - y, weights * L / 2
    r2 = u[:, None] ** 2 + v[None, :] ** 2
    area = wu[:, None] * wv[None, :]
    total = 0.0
    depth_nodes, depth_weights = np.polynomial.legendre.leggauss(60)
    half = (lower - upper) / 2
    for z, wz in zip(upper + (depth_nodes + 1) * half, depth_weights * half):
        R = np.sqrt(r2 + z * z)
        s_z = 3 * z**3 / (2 * math.pi * R**5)
        # the sum of the horizontal stresses, from the first invariant (1 + nu) z / (pi R^3)
        s_h = (1 + nu) * z / (math.pi * R**3) - s_z
        total += wz * float(((s_z - nu * s_h) * area).sum())
    return total


def _between(upper: float, lower: float, nu: float, at: float) -> float:
    depth = np.array([upper, lower])
    u = displacement_below(np.array(2.0), np.array(3.0), depth, np.array(nu), at)
    return float(u[1] - u[0])


def two_strata() -> Ground:
    """Two metres of sand over clay, water one metre down."""
    sand = Soil(name="sand", weight=18.0, weight_saturated=20.0, modulus=20_000.0, poisson=0.3)
    clay = Soil(
        name="clay",
        weight=17.0,
        weight_saturated=19.0,
        compression="oedometer",
        compression_index=0.3,
        recompression_index=0.05,
        void_ratio=0.9,
        overconsolidation_ratio=1.4,
        modulus=1.0,
    )
    hole = Borehole(
        name="BH",
        x=0,
        y=0,
        ground_level=0.0,
        rigid_below=True,
        strata=(Stratum(soil="sand", thickness=2.0), Stratum(soil="clay", thickness=4.0)),
    )
    return Ground(soils=(sand, clay), boreholes=(hole,), surfaces=Surfaces(finished=0.0), backfill=Backfill())


def _stress(level: float, effective: bool) -> float:
    ground = two_strata()
    profile = profile_at(ground, 0.0, 0.0)
    assert profile is not None
    function = effective_stress if effective else total_stress
    return float(function(profile, ground.backfill, np.array(0.0), np.array([level]), np.array(-1.0))[0])


def _layered(stratum: int) -> float:
    ground = two_strata()
    profile = profile_at(ground, 0.0, 0.0)
    assert profile is not None
    result = final_settlement(
        profile,
        ground.backfill,
        np.array([[120.0]]),
        np.array([[2.0]]),
        np.array([[3.0]]),
        np.array([[-1.0]]),
        np.array([-1.0]),
        Settings(settlement_influence=1e-6),
    )
    return float(result.by_stratum[0, 0, stratum]) * 1000


def _layered_fine() -> float:
    """The clay's share, by 2000 even sublayers."""
    z = 1.0 + (np.arange(2000) + 0.5) / 2000 * 4.0
    before = 18.0 + (20.0 - 9.81) * 1.0 + (19.0 - 9.81) * (z - 1.0)
    added = 120.0 * stress_below(np.array(2.0), np.array(3.0), z, 0.74)
    strain = oedometer_strain(before, added, 1.4 * before, *(np.array(v) for v in (0.3, 0.05, 0.9)))
    return float(strain.sum() * 4.0 / 2000) * 1000


def _weight(water: float) -> float:
    return float(weight_below(*_a(18.0, 20.0, 0.0, water, 2.0))[0])


HALF_SPACE = 2 / math.pi * math.log(1 + math.sqrt(2))

GROUND = (
    Case(
        "Nq at 30°",
        "closed form",
        "Reissner 1924, rounded to 18.40",
        18.40,
        lambda: float(bearing_factors(THIRTY)[0]),
        1e-3,
    ),
    Case(
        "Nc at 30°",
        "closed form",
        "Prandtl 1920, rounded to 30.14",
        30.14,
        lambda: float(bearing_factors(THIRTY)[1]),
        1e-3,
    ),
    Case(
        "Nγ at 30°, EN 1997-1 D.4",
        "closed form",
        "2 (Nq - 1) tan φ, rounded to 20.09",
        20.09,
        lambda: float(bearing_factors(THIRTY)[2]),
        1e-3,
    ),
    Case(
        "drained resistance, strip, vertical",
        "closed form",
        "q Nq + 0.5 γ B Nγ",
        20 * 18.4011 + 0.5 * 19 * 2 * 20.0931,
        lambda: _annex_d(500, 0, 0, 2.0, 2e9, 0, 30, 20, 19),
        1e-5,
        "kPa",
    ),
    Case(
        "drained resistance, inclined along B', c′ and φ′",
        "second method",
        "plain scalars, Rankine's form of Nq",
        _annex_d_by_hand(820, 95, 1.7, 2.6, 8.0, 27.0, 24.0, 11.0),
        lambda: _annex_d(820, 95, 0, 1.7, 2.6, 8.0, 27.0, 24.0, 11.0),
        1e-9,
        "kPa",
    ),
    Case(
        "the same, turned by a quarter",
        "closed form",
        "the axes are a matter of names",
        _annex_d_by_hand(820, 95, 1.7, 2.6, 8.0, 27.0, 24.0, 11.0),
        lambda: _annex_d(820, 0, 95, 2.6, 1.7, 8.0, 27.0, 24.0, 11.0),
        1e-9,
        "kPa",
    ),
    Case(
        "undrained resistance, strip, vertical",
        "closed form",
        "(π + 2) cu + q, Prandtl 1920",
        (math.pi + 2) * 60 + 18,
        lambda: _undrained(0, 2.0, 2e9, 60, 18),
        1e-8,
        "kPa",
    ),
    Case(
        "undrained resistance, H = A' cu, strip",
        "closed form",
        "exact plasticity: (1 + π/2) cu",
        (1 + math.pi / 2) * 60,
        lambda: _undrained(60 * 2.0 * 2e5, 2.0, 2e5, 60, 0),
        1e-5,
        "kPa",
    ),
    Case(
        "undrained resistance, square",
        "closed form",
        "1.2 (π + 2) cu",
        1.2 * (math.pi + 2) * 60,
        lambda: _undrained(0, 2.0, 2.0, 60, 0),
        1e-12,
        "kPa",
    ),
    Case(
        "weight below the base, water at the base",
        "closed form",
        "γsat - γw",
        20 - 9.81,
        lambda: _weight(0.0),
        1e-12,
        "kN/m³",
    ),
    Case(
        "weight below the base, water in the middle of B'",
        "closed form",
        "mean of both",
        (18 + 20 - 9.81) / 2,
        lambda: _weight(-1.0),
        1e-12,
        "kN/m³",
    ),
    Case(
        "weight below the base, water deeper than B'", "closed form", "γ", 18.0, lambda: _weight(-2.5), 1e-12, "kN/m³"
    ),
    Case(
        "total stress in clay, 5 m deep",
        "closed form",
        "18 + 20 + 3 x 19",
        95.0,
        lambda: _stress(-5.0, False),
        1e-12,
        "kPa",
    ),
    Case(
        "effective stress in clay, 5 m deep",
        "closed form",
        "95 - 4 γw",
        95 - 4 * 9.81,
        lambda: _stress(-5.0, True),
        1e-12,
        "kPa",
    ),
    Case(
        "stress below the corner, m = n = 1",
        "from memory",
        "influence tables after influence tables after Newmark 1935",
        0.1752,
        lambda: float(corner_stress(*_a(1.0, 1.0, 1.0))[0]),
        3e-4,
    ),
    Case(
        "stress at the surface below the corner",
        "closed form",
        "1/4",
        0.25,
        lambda: float(corner_stress(*_a(2.0, 3.0, 1e-7))[0]),
        1e-6,
    ),
    Case(
        "stress deep below a square, at 40 B",
        "closed form",
        "Boussinesq's point load 3/(2π z²)",
        3 / (2 * math.pi * 1600),
        lambda: float(stress_below(*_a(1.0, 1.0, 40.0))[0]),
        1e-3,
    ),
    Case(
        "displacement of a flexible square, middle",
        "closed form",
        "2 (2/π) ln(1 + √2) B (1 - ν²)",
        2 * HALF_SPACE * 2.0 * 0.91,
        lambda: float(displacement_below(*_a(2.0, 2.0, 1e5, 0.3))[0]),
        1e-4,
        "m",
    ),
    Case(
        "displacement of a flexible square, corner",
        "closed form",
        "(2/π) ln(1 + √2) B (1 - ν²)",
        HALF_SPACE * 2.0 * 0.91,
        lambda: float(displacement_below(*_a(2.0, 2.0, 1e5, 0.3), at=1.0)[0]),
        1e-4,
        "m",
    ),
    Case(
        "compression from 0.5 to 3 m, middle of 2 x 3 m",
        "second method",
        "point loads summed, Hooke's law",
        _strain_integral(2.0, 3.0, 0.0, 0.0, 0.5, 3.0, 0.3),
        lambda: _between(0.5, 3.0, 0.3, 0.0),
        1e-4,
        "m",
    ),
    Case(
        "compression from 0.4 to 2 m, characteristic point",
        "second method",
        "point loads summed, Hooke's law",
        _strain_integral(2.0, 3.0, 0.74, 1.11, 0.4, 2.0, 0.2),
        lambda: _between(0.4, 2.0, 0.2, 0.74),
        1e-4,
        "m",
    ),
    Case(
        "oedometer strain, normally consolidated, stress doubled",
        "closed form",
        "Cc/(1 + e0) log 2",
        0.3 / 1.9 * math.log10(2),
        lambda: float(oedometer_strain(*_a(80, 80, 80, 0.3, 0.05, 0.9))[0]),
        1e-12,
    ),
    Case(
        "oedometer strain across the preconsolidation pressure",
        "closed form",
        "Cr log(σp/σ0) + Cc log(σ/σp)",
        (0.05 * math.log10(100 / 80) + 0.3 * math.log10(200 / 100)) / 1.9,
        lambda: float(oedometer_strain(*_a(80, 120, 100, 0.3, 0.05, 0.9))[0]),
        1e-12,
    ),
    Case(
        "settlement of a clay stratum, 16 graded sublayers",
        "second method",
        "2000 even sublayers",
        _layered_fine(),
        lambda: _layered(1),
        5e-3,
        "mm",
    ),
    Case(
        "settlement of a sand stratum by E′",
        "closed form",
        "q/E' times Steinbrenner's displacement",
        120 / 20_000 * 1000 * float(displacement_below(*_a(2.0, 3.0, 1.0, 0.3), at=0.74)[0]),
        lambda: _layered(0),
        1e-9,
        "mm",
    ),
)
