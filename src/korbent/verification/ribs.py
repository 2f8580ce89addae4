"""Ribs as beams of the plate: strips with a rib against beams on springs, and their sections by hand."""

import math
from functools import lru_cache

import numpy as np

from korbent.core.plates.beams import Beams, added_inertia, torsion_constant
from korbent.core.plates.mesh import mesh_of
from korbent.core.plates.recover import fields_of
from korbent.core.plates.solve import PlateOnSprings
from korbent.verification.case import Case

E, P = 3e7, 500.0
STRIPS = (
    (12.0, 1.0, 0.20, 0.30, 0.60, 20_000.0),
    (9.0, 1.4, 0.25, 0.40, 0.90, 8_000.0),
    (15.0, 0.9, 0.15, 0.25, 0.45, 45_000.0),
)
"""Length, width, thickness, width of the rib, its depth, m; k, kN/m3."""
Strip = tuple[float, float, float, float, float, float]
HETENYI = "Hetenyi 1946, finite beam with a load in its middle"


@lru_cache(maxsize=8)
def _strip(strip: Strip) -> tuple[float, float, float]:
    """(settlement in the middle m, moment of the T there kNm, of what the springs bear over the load)."""
    L, B, h, b, d, k = strip
    mesh = mesh_of((-L / 2, L / 2, -B / 2, B / 2), [(-L / 2, L / 2, 0, 0), (0, 0, -B / 2, B / 2)], [], L / 60, L / 60)
    x, y = mesh.nodes
    line = np.flatnonzero(np.abs(y) < 1e-9)
    line = line[np.argsort(x[line])]
    one = np.ones(len(line) - 1)
    # without shear, as the beam of the reference
    beams = Beams(
        np.stack([line[:-1], line[1:]], axis=-1),
        np.zeros(len(one), dtype=bool),
        np.diff(x[line]),
        E * added_inertia(b, d, B, h) * one,
        1e12 * one,
        E / 2 * torsion_constant(b, d - h) * one,
        np.zeros(len(one), dtype=int),
    )
    count = len(mesh.elements)
    plate = PlateOnSprings(mesh, np.full(count, h), E, 0.0, np.full(count, k), beams)
    across = np.flatnonzero(np.abs(x) < 1e-9)
    across = across[np.argsort(y[across])]
    gaps = np.diff(y[across]) / 2
    share = np.concatenate([[0.0], gaps]) + np.concatenate([gaps, [0.0]])
    load = np.zeros((plate.count, 1))
    load[3 * across, 0] = P * share / B
    found = plate.solve(load, tension=True)
    middle = int(np.flatnonzero(beams.nodes[:, 1] == line[len(line) // 2])[0])
    M, _, _ = beams.forces(found.unknowns)
    in_plate = fields_of(plate, found)[0].m_x[across, 0] @ share
    borne = (plate.points * found.pressure[:, :, 0]).sum()
    return (
        float(found.settlement[line[len(line) // 2], 0]),
        float(M[middle, 1, 0] + in_plate),
        float(borne / P),
    )


def _hetenyi(strip: Strip) -> tuple[float, float]:
    L, B, h, b, d, k = strip
    stiff = E * (added_inertia(b, d, B, h) + B * h**3 / 12)
    one = (k * B / (4 * stiff)) ** 0.25
    a = one * L
    below = math.sinh(a) + math.sin(a)
    return (
        P * one / (2 * k * B) * (math.cosh(a) + math.cos(a) + 2) / below,
        P / (4 * one) * (math.cosh(a) - math.cos(a)) / below,
    )


def _parallel_axes(b: float, d: float, flange: float, h: float) -> float:
    """The same second moment by slices of a hundredth of the depth."""
    n = 20_000
    y = (np.arange(n) + 0.5) / n * d
    width = np.where(y > d - h, flange, b)
    axis = (width * y).sum() / width.sum()
    return float((width * (y - axis) ** 2).sum() * d / n - flange * h**3 / 12)


RIBS = (
    *(
        case
        for strip in STRIPS
        for name in (f"ribbed strip {strip[0]:g} × {strip[1]:g} m, rib {strip[3]:g} × {strip[4]:g} m",)
        for case in (
            Case(
                f"{name}: settlement below the load",
                "closed form",
                HETENYI,
                _hetenyi(strip)[0],
                lambda s=strip: _strip(s)[0],
                5e-3,
                "m",
            ),
            Case(
                f"{name}: moment of rib and plate",
                "closed form",
                HETENYI,
                _hetenyi(strip)[1],
                lambda s=strip: _strip(s)[1],
                1e-2,
                "kNm",
            ),
            Case(
                f"{name}: what the springs bear over the load",
                "closed form",
                "equilibrium",
                1.0,
                lambda s=strip: _strip(s)[2],
                1e-8,
            ),
        )
    ),
    Case(
        "rib: second moment that it adds",
        "second method",
        "slices over the depth",
        lambda: _parallel_axes(0.45, 0.85, 1.6, 0.25),
        lambda: added_inertia(0.45, 0.85, 1.6, 0.25),
        1e-6,
        "m⁴",
    ),
    Case(
        "rib: torsion of a square",
        "from memory",
        "Timoshenko and Goodier 1970, article 109: 0.1406 b⁴",
        0.1406 * 0.4**4,
        lambda: torsion_constant(0.4, 0.4),
        3e-3,
        "m⁴",
    ),
    Case(
        "rib: torsion of a thin rectangle",
        "closed form",
        "b³ t/3 (1 - 0.63 b/t)",
        0.05**3 * 2.0 / 3 * (1 - 0.63 * 0.025),
        lambda: torsion_constant(2.0, 0.05),
        1e-4,
        "m⁴",
    ),
)
"""Ribs."""
