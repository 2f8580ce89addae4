"""Reference cases of stress in the ground, consolidation, drains, creep and the methods of settlement."""

import math

import numpy as np

from korbent.core.model import AreaLoad
from korbent.core.model.actions import influence_diameter
from korbent.core.settlement.consolidation import (
    Cells,
    Ramp,
    barron,
    drain_rate,
    excess_pressure,
    graded,
    modes,
    terzaghi,
)
from korbent.core.settlement.formulas import (
    burland_burbidge,
    confined,
    embedment_factor,
    skempton_bjerrum,
    strain_influence,
    time_factor,
)
from korbent.core.settlement.stress.area_loads import area_load_stress
from korbent.core.settlement.stress.polygon import circle, polygon_stress
from korbent.core.settlement.stress.rectangle import rectangle_stress, spread_stress
from korbent.core.working import Array
from korbent.verification.case import Case


def _n(*values: float) -> list[Array]:
    return [np.array(v) for v in values]


def _rectangle(x: float, y: float, B: float, L: float, z: float) -> float:
    return float(rectangle_stress(*_n(x, y, B, L, z)))


def _polygon(corners: list[tuple[float, float]], x: float, y: float, z: float) -> float:
    return float(polygon_stress(np.array(corners), *_n(x, y, z)))


def _summed(x: float, y: float, B: float, L: float, z: float) -> float:
    """Point loads of a fine grid."""
    n = 900
    u = (np.arange(n) + 0.5) / n * B - B / 2
    v = (np.arange(n) + 0.5) / n * L - L / 2
    R2 = (x - u[:, None]) ** 2 + (y - v[None, :]) ** 2 + z * z
    return float((1.5 / math.pi * z**3 / R2**2.5).sum() * B * L / n**2)


def _embankment(z: float, length: float) -> float:
    load = AreaLoad(name="E", shape="embankment", size_x=8.0, size_y=length, height=3.0, weight=20.0, slope=2.0)
    return float(area_load_stress(load, *_n(0.0, 0.0, -z)))


def _osterberg(z: float) -> float:
    a, b = 6.0, 4.0
    first, second = math.atan((a + b) / z) - math.atan(b / z), math.atan(b / z)
    return 2 * 60 / math.pi * ((a + b) / a * (first + second) - b / a * second)


def _column(n: int = 60, top: bool = True, bottom: bool = True, rate: float = 0.0) -> Cells:
    h = -np.diff(graded(0.0, -4.0, n))
    return Cells(h, np.full(n, 0.01), np.full(n, 5e-4), np.full(n, rate), top, bottom)


def _degree(cells: Cells, days: float, stress: Array | None = None, ramp: float = 0.0) -> float:
    n = len(cells.thickness)
    stress = np.full(n, 100.0) if stress is None else stress
    u = excess_pressure(modes(cells), [Ramp(0.0, ramp, stress)], np.array([days]), n)[0]
    return 1 - float((u * cells.thickness).sum() / (stress * cells.thickness).sum())


def _triangle(T: float) -> float:
    cells = _column(bottom=False)
    z = np.cumsum(cells.thickness) - cells.thickness / 2
    return _degree(cells, T * 16 / 0.01, 100 * z / 4)


def _triangle_series(T: float) -> float:
    m = np.arange(400)
    M = np.pi / 2 * (2 * m + 1)
    return 1 - float((2 * (-1.0) ** m / M**3 * np.exp(-(M**2) * T)).sum() / 0.5)


def _ramp_series(days: float, ramp: float) -> float:
    """One drained layer under a load that grows evenly: the series integrated over the ramp, over the load at its
    end."""
    m = np.arange(400)
    M2 = (np.pi / 2 * (2 * m + 1)) ** 2
    rate = M2 * 0.01 / 4.0
    during = min(days, ramp)
    left = (2 / M2 * (1 - np.exp(-rate * during)) / rate * np.exp(-rate * max(days - ramp, 0.0))).sum() / ramp
    return 1 - float(left)


def _layered(days: float) -> float:
    n = 40
    h = np.concatenate([-np.diff(graded(0, -2.0, n)), -np.diff(graded(0, -3.0, n))])
    return _degree(
        Cells(h, np.repeat([0.003, 0.02], n), np.repeat([1e-3, 3e-4], n), np.zeros(2 * n), True, False), days
    )


def _layered_by_steps(days: float) -> float:
    """The same two layers by finite differences on even cells and implicit steps of time."""
    n = 250
    h = 5.0 / n
    z = (np.arange(n) + 0.5) * h
    cv, mv = np.where(z < 2, 0.003, 0.02), np.where(z < 2, 1e-3, 3e-4)
    k = cv * mv
    g = 2 / (h / k[1:] + h / k[:-1])
    A = np.diag(np.concatenate([g, [0]]) + np.concatenate([[0], g])) - np.diag(g, 1) - np.diag(g, -1)
    A[0, 0] += k[0] / (h / 2)
    storage, steps = np.diag(mv * h), 800
    forward = np.linalg.inv(storage + days / steps * A) @ storage
    u = np.full(n, 100.0)
    for _ in range(steps):
        u = forward @ u
    return 1 - float(u.mean() / 100)


def _seam() -> float:
    n = 40
    h = np.concatenate([-np.diff(graded(0, -2.0, n)), [0.1], -np.diff(graded(0, -2.0, n))])
    cv = np.concatenate([np.full(n, 0.01), [np.inf], np.full(n, 0.01)])
    count = 2 * n + 1
    u = excess_pressure(
        modes(Cells(h, cv, np.full(count, 5e-4), np.zeros(count))),
        [Ramp(0, 0, np.full(count, 100.0))],
        np.array([30.0]),
        count,
    )[0]
    clay = np.isfinite(cv)
    return 1 - float((u[clay] * h[clay]).sum() / (100 * h[clay].sum()))


_RATE = (
    8
    * 0.02
    / influence_diameter(1.5, "triangular") ** 2
    / barron(influence_diameter(1.5, "triangular") / 0.066, 2.0, 3.0)
)
_L = [(0.0, 0.0), (4.0, 0.0), (4.0, 3.0), (2.0, 3.0), (2.0, 1.0), (0.0, 1.0)]


def _horizontal() -> float:
    r = (np.arange(20_000) + 0.5) / 20_000 * 1.5
    R2 = r**2 + 4.0
    return 0.4 + 0.6 * float((1.5 * r**3 * 2.0 / R2**2.5).sum() / (3 * 8.0 * r / R2**2.5).sum())


def _taken_off() -> float:
    cells = _column()
    n = len(cells.thickness)
    full = np.full(n, 100.0)
    u = excess_pressure(modes(cells), [Ramp(0, 0, full), Ramp(100, 100, -0.6 * full)], np.array([200.0]), n)[0]
    return float((u * cells.thickness).sum() / cells.thickness.sum())


SETTLEMENT: tuple[Case, ...] = (
    Case(
        "corner of a square, m = n = 1",
        "printed",
        "Newmark 1935, Fadum 1948: 0.1752",
        0.1752,
        lambda: _rectangle(0.5, 0.5, 1.0, 1.0, 1.0),
        3e-4,
    ),
    Case(
        "beside a rectangle",
        "second method",
        "point loads summed",
        _summed(3.1, -1.7, 2.0, 3.0, 1.8),
        lambda: _rectangle(3.1, -1.7, 2.0, 3.0, 1.8),
        1e-4,
    ),
    Case(
        "below the middle of a circle, z = R",
        "closed form",
        "1 − (1 + (R/z)²)^−1.5",
        1 - 2**-1.5,
        lambda: float(polygon_stress(circle(0, 0, 2.0), *_n(0.0, 0.0, 1.0))),
        1e-5,
    ),
    Case(
        "polygon of two rectangles",
        "closed form",
        "Newmark, superposed",
        _rectangle(0.0 - 1.0, 0.6 - 0.5, 2.0, 1.0, 1.4) + _rectangle(0.0 - 3.0, 0.6 - 1.5, 2.0, 3.0, 1.4),
        lambda: _polygon(_L, 0.0, 0.6, 1.4),
        1e-9,
    ),
    Case(
        "long embankment below its middle, 4 m",
        "closed form",
        "Osterberg 1957",
        _osterberg(4.0),
        lambda: _embankment(4.0, 4000.0),
        2e-3,
        "kPa",
    ),
    Case(
        "long embankment below its middle, 1 m",
        "closed form",
        "Osterberg 1957",
        _osterberg(1.0),
        lambda: _embankment(1.0, 4000.0),
        2e-3,
        "kPa",
    ),
    Case(
        "load spread 2 : 1",
        "closed form",
        "B L/((B + z)(L + z))",
        6 / 20,
        lambda: float(spread_stress(*_n(2.0, 3.0, 2.0))),
        1e-12,
    ),
    Case("U at Tv = 0.197", "printed", "Terzaghi 1943", 0.5, lambda: float(terzaghi(np.array(0.197))), 2e-3),
    Case("U at Tv = 0.848", "printed", "Terzaghi 1943", 0.9, lambda: float(terzaghi(np.array(0.848))), 2e-3),
    Case(
        "one layer drained both ways, Tv = 0.4",
        "closed form",
        "Terzaghi's series",
        float(terzaghi(np.array(0.4))),
        lambda: _degree(_column(), 160.0),
        1e-3,
    ),
    Case(
        "one layer drained one way, Tv = 0.05",
        "closed form",
        "Terzaghi's series",
        float(terzaghi(np.array(0.05))),
        lambda: _degree(_column(bottom=False), 80.0),
        2e-3,
    ),
    Case(
        "triangular pressure, Tv = 0.2",
        "closed form",
        "Fourier series of the triangle",
        _triangle_series(0.2),
        lambda: _triangle(0.2),
        2e-3,
    ),
    Case(
        "load that grows for 60 days, at 40 days",
        "closed form",
        "the series over the ramp",
        _ramp_series(40.0, 60.0),
        lambda: _degree(_column(), 40.0, ramp=60.0),
        2e-3,
    ),
    Case(
        "load that grows for 60 days, at 200 days",
        "closed form",
        "the series over the ramp",
        _ramp_series(200.0, 60.0),
        lambda: _degree(_column(), 200.0, ramp=60.0),
        2e-3,
    ),
    Case(
        "two layers, 100 days",
        "second method",
        "finite differences, implicit steps",
        _layered_by_steps(100.0),
        lambda: _layered(100.0),
        5e-3,
    ),
    Case(
        "two layers, 800 days",
        "second method",
        "finite differences, implicit steps",
        _layered_by_steps(800.0),
        lambda: _layered(800.0),
        3e-3,
    ),
    Case(
        "a draining seam halves the way",
        "closed form",
        "Terzaghi's series for the halves",
        float(terzaghi(np.array(0.3))),
        _seam,
        1e-3,
    ),
    Case(
        "taken off again: superposition",
        "closed form",
        "U(t) − 0.6 U(t − 100)",
        100 * (1 - float(terzaghi(np.array(0.5)))) - 60 * (1 - float(terzaghi(np.array(0.25)))),
        _taken_off,
        5e-3,
        "kPa",
    ),
    Case(
        "band drains alone, 60 days",
        "closed form",
        "Barron 1948, Hansbo 1981",
        1 - math.exp(-_RATE * 60),
        lambda: _degree(_column(top=False, bottom=False, rate=_RATE), 60.0),
        1e-6,
    ),
    Case(
        "band drains with vertical flow, 60 days",
        "closed form",
        "Carrillo 1942",
        1 - (1 - float(terzaghi(np.array(0.15)))) * math.exp(-_RATE * 60),
        lambda: _degree(_column(rate=_RATE), 60.0),
        1e-3,
    ),
    Case(
        "rate of band drains with well resistance",
        "closed form",
        "8 ch/(De² (μ + 2 π l² kh/(3 qw)))",
        8
        * 0.02
        / influence_diameter(1.5, "square") ** 2
        / (
            math.log(influence_diameter(1.5, "square") / 0.066 / 2)
            + 3 * math.log(2)
            - 0.75
            + 2 * math.pi * 100 / 3 * 1e-4 / 0.5
        ),
        lambda: drain_rate(0.02, 1.5, "square", 0.066, 2.0, 3.0, 10.0, 1e-4, 0.5),
        1e-12,
        "1/d",
    ),
    Case(
        "strain influence of a square at B/2",
        "from memory",
        "Schmertmann et al. 1978: 0.5 + 0.1 √(q/σ'p)",
        0.7,
        lambda: float(strain_influence(*_n(1.0, 2.0, 2.0, 120.0, 30.0))),
        1e-12,
    ),
    Case(
        "strain influence of a strip at 2 B",
        "from memory",
        "Schmertmann et al. 1978",
        0.7 * 2 / 3,
        lambda: float(strain_influence(*_n(4.0, 2.0, 20.0, 120.0, 30.0))),
        1e-12,
    ),
    Case(
        "C1 and C2",
        "from memory",
        "Schmertmann 1970: (1 − 0.5·0.4)(1 + 0.2·2)",
        0.8 * 1.4,
        lambda: float(embedment_factor(*_n(100.0, 40.0))) * time_factor(10.0),
        1e-12,
    ),
    Case(
        "Burland and Burbidge, square, at once",
        "from memory",
        "B^0.7 (1.71/N^1.4)(q − 2/3 σ')",
        2**0.7 * 1.71 / 20**1.4 * 138,
        lambda: burland_burbidge(2.0, 2.0, 20.0, 150.0, 18.0, 10.0, 1.0),
        1e-12,
        "mm",
    ),
    Case(
        "Skempton and Bjerrum, A = 0.4, z/R = 4/3",
        "second method",
        "Boussinesq's stresses integrated",
        _horizontal(),
        lambda: float(skempton_bjerrum(*_n(0.4, 2.0, 1.5))),
        1e-6,
    ),
    Case(
        "strain without sideways strain",
        "second method",
        "Hooke's matrix inverted",
        1 / float(np.linalg.inv(np.array([[1, -0.3, -0.3], [-0.3, 1, -0.3], [-0.3, -0.3, 1]]) / 12_000.0)[0, 0]),
        lambda: float(confined(*_n(12_000.0, 0.3))),
        1e-12,
        "1/kPa",
    ),
)
"""Cases of settlement."""
