"""Reference cases of plates, rafts and trapezoids."""

import math
from functools import lru_cache

import numpy as np
from scipy.sparse.linalg import spsolve

from korbent.core.footprint import Trapezoid
from korbent.core.plates.mesh import GridMesh, mesh_of
from korbent.core.plates.recover import design_moments, fields_of
from korbent.core.plates.solve import PlateOnSprings
from korbent.verification.case import Case

E, NU = 1e7, 0.3


@lru_cache(maxsize=32)
def supported(n: int, t: float, b: float = 1.0) -> tuple[float, float, float]:
    """(deflection, m_x, m_y) in the middle of a simply supported rectangle 1 m by b under 1 kPa, n elements a side."""
    mesh = GridMesh(np.linspace(0.0, 1.0, n + 1), np.linspace(0.0, b, n + 1), np.ones((n, n), dtype=bool))
    plate = PlateOnSprings(mesh, np.full(n * n, t), E, NU, np.zeros(n * n))
    load = plate.load(np.ones((n * n, 4, 1)))[:, 0]
    x, y = mesh.nodes
    on_x, on_y = (x < 1e-9) | (x > 1 - 1e-9), (y < 1e-9) | (y > b - 1e-9)
    fixed = np.zeros(plate.count, dtype=bool)
    fixed[::3], fixed[2::3], fixed[1::3] = on_x | on_y, on_x, on_y
    matrix = plate._matrix(np.zeros((n * n, 4)))
    found = np.zeros(plate.count)
    found[~fixed] = spsolve(matrix[~fixed][:, ~fixed], load[~fixed])
    middle = int(np.argmin((x - 0.5) ** 2 + (y - b / 2) ** 2))
    rows = (3 * mesh.elements[:, :, None] + np.arange(3)).reshape(-1, 12)
    corners = ((-1, -1), (1, -1), (1, 1), (-1, 1))
    moments = [
        plate.plates.forces(found[rows][:, :, None], *corners[corner])[0][element, :2, 0]
        for element, corner in zip(*np.nonzero(mesh.elements == middle))
    ]
    mean = np.mean(moments, axis=0)
    return float(found[3 * middle]), float(mean[0]), float(mean[1])


def _D(t: float) -> float:
    return E * t**3 / (12 * (1 - NU**2))


@lru_cache(maxsize=16)
def _navier(t: float, b: float, shear: bool) -> tuple[float, float, float]:
    """(w, m_x, m_y) by the double series, with or without shear (Mindlin); the moments are those of the thin plate."""
    D, S = _D(t), 5 / 6 * E / (2 * (1 + NU)) * t
    w = mx = my = 0.0
    for m in range(1, 240, 2):
        for n in range(1, 240, 2):
            a, c = (math.pi * m) ** 2, (math.pi * n / b) ** 2
            q = 16 / (math.pi**2 * m * n) * math.sin(m * math.pi / 2) * math.sin(n * math.pi / 2)
            w += q * (1 / (D * (a + c) ** 2) + (1 / (S * (a + c)) if shear else 0.0))
            mx += q * (a + NU * c) / (a + c) ** 2
            my += q * (c + NU * a) / (a + c) ** 2
    return w, mx, my


@lru_cache(maxsize=16)
def _strip(L: float, k: float) -> tuple[float, float, float, float]:
    """(w, M below the load, theirs by Hetényi) of a thin strip of length L with a load over 0.1 m in its middle."""
    h, modulus = 0.05, 30e9
    mesh = mesh_of((-L / 2, L / 2, 0.0, 1.0), [(-0.05, 0.05, 0.0, 1.0)], [], L / 24, 0.05)
    count = len(mesh.elements)
    plate = PlateOnSprings(mesh, np.full(count, h), modulus, 0.0, np.full(count, k))
    q = np.zeros((count, 4, 1))
    q[mesh.within((-0.05, 0.05, 0.0, 1.0))] = 5000.0
    found = plate.solve(plate.load(q), tension=True)
    EI = modulus * h**3 / 12
    lam = (k / (4 * EI)) ** 0.25
    s, c, S, C = math.sin(lam * L), math.cos(lam * L), math.sinh(lam * L), math.cosh(lam * L)
    w = 500 * lam / (2 * k) * (2 + c + C) / (S + s)
    M = 500 / (4 * lam) * (C - c) / (S + s) - 500 * 0.1 / 8
    middle = int(np.abs(mesh.nodes[0]).argmin())
    return float(found.settlement[middle, 0]), float(np.nanmax(fields_of(plate, found)[0].m_x)), w, M


@lru_cache(maxsize=8)
def _infinite() -> tuple[float, float]:
    """(w, theirs by Westergaard 1926) below a load on a wide plate on springs: P/(8 sqrt(k D)), spread over 0.2 m by
    0.2 m."""
    h, k, modulus = 0.2, 5e4, 30e6
    D = modulus * h**3 / (12 * (1 - 0.2**2))
    size = 0.2
    mesh = mesh_of((-5.0, 5.0, -5.0, 5.0), [(-size / 2, size / 2, -size / 2, size / 2)], [], 0.4, 0.07)
    count = len(mesh.elements)
    # as stiff in bending, without shear: thin and of another modulus
    thin = 0.02
    plate = PlateOnSprings(mesh, np.full(count, thin), modulus * (h / thin) ** 3, 0.2, np.full(count, k))
    q = np.zeros((count, 4, 1))
    q[mesh.within((-size / 2, size / 2, -size / 2, size / 2))] = 100.0 / size**2
    found = plate.solve(plate.load(q), tension=True)
    x, y = mesh.nodes
    middle = int((x**2 + y**2).argmin())
    length = (D / k) ** 0.25
    # a load over a circle of equal area: Westergaard's correction
    a = size / math.sqrt(math.pi)
    w = 100.0 / (8 * math.sqrt(k * D)) * (1 + (math.log(a / (2 * length)) - 0.673) * (a / length) ** 2 / (2 * math.pi))
    return float(found.settlement[middle, 0]), w


@lru_cache(maxsize=8)
def _tensionless() -> tuple[float, float]:
    """(contact length, theirs) of a stiff strip with an eccentric load that lifts: 3 (L/2 - e)."""
    L, e, k = 4.0, 1.2, 5e3
    mesh = mesh_of((-L / 2, L / 2, 0.0, 1.0), [(e - 0.1, e + 0.1, 0.0, 1.0)], [], 0.05, 0.05)
    count = len(mesh.elements)
    plate = PlateOnSprings(mesh, np.full(count, 3.0), 30e7, 0.0, np.full(count, k))
    q = np.zeros((count, 4, 1))
    q[mesh.within((e - 0.1, e + 0.1, 0.0, 1.0))] = 100.0 / 0.2
    found = plate.solve(plate.load(q))
    pressed = (plate.plates.weights() * (found.pressure[:, :, 0] > 0)).sum()
    return float(pressed), 3 * (L / 2 - e)


def _rigid(what: str) -> float:
    """Pressure at a corner of a stiff plate with an eccentric load, tension allowed."""
    mesh = mesh_of((-3.0, 3.0, -2.0, 2.0), [(0.4, 0.8, 0.2, 0.6)], [], 0.3, 0.1)
    count = len(mesh.elements)
    plate = PlateOnSprings(mesh, np.full(count, 6.0), 30e6, 0.2, np.full(count, 500.0))
    q = np.zeros((count, 4, 1))
    q[mesh.within((0.4, 0.8, 0.2, 0.6))] = 600.0 / 0.16
    found = plate.solve(plate.load(q), tension=True)
    x, y = mesh.nodes
    sign = 1.0 if what == "corner" else -1.0
    at = int(((x - sign * 3.0) ** 2 + (y - sign * 2.0) ** 2).argmin())
    return float(found.settlement[at, 0]) * 500.0


def _trapezoid(what: str) -> float:
    base = Trapezoid.between(*(np.array([[v]]) for v in (5.0, 1.2, 2.4)))
    if what == "centre":
        return float(np.asarray(base.centroid)[0, 0]) + 2.5
    N = np.array([[900.0]])
    middle = np.asarray(base.centroid)
    return float(base.contact(N, 0 * N, N * middle).peak[0, 0])


def _wood(m_x: float, m_y: float, m_xy: float, which: int) -> float:
    return float(design_moments(*(np.array(v) for v in (m_x, m_y, m_xy)))[which])


PLATES: tuple[Case, ...] = (
    *(
        Case(
            f"simply supported square, t/a = 0.001, {n} x {n}: {what}",
            "closed form",
            "Navier (Timoshenko and Woinowsky-Krieger 1959)",
            lambda i=i: _navier(0.001, 1.0, False)[i],
            lambda n=n, i=i: supported(n, 0.001)[i],
            tolerance,
            unit,
        )
        for n, tolerances in ((8, (1e-3, 1.2e-2)), (16, (3e-4, 4e-3)))
        for i, what, tolerance, unit in ((0, "w", tolerances[0], "m"), (1, "m_x", tolerances[1], "kNm/m"))
    ),
    *(
        Case(
            f"simply supported rectangle 1 x {b}: {what}",
            "closed form",
            "Navier, double series",
            lambda b=b, i=i: _navier(0.001, b, False)[i],
            lambda b=b, i=i: supported(20, 0.001, b)[i],
            tolerance,
            unit,
        )
        for b in (1.5, 2.0)
        for i, what, tolerance, unit in ((0, "w", 1e-3, "m"), (1, "m_x", 4e-3, "kNm/m"), (2, "m_y", 6e-3, "kNm/m"))
    ),
    *(
        Case(
            f"simply supported square, t/a = {t}: w with shear",
            "closed form",
            "Navier with shear (Mindlin 1951)",
            lambda t=t: _navier(t, 1.0, True)[0],
            lambda t=t: supported(16, t)[0],
            3e-3,
            "m",
        )
        for t in (0.05, 0.1, 0.2)
    ),
    *(
        Case(
            f"strip of {L:g} m on springs: {what}",
            "closed form",
            "Hetényi 1946, finite strip with a load in its middle",
            lambda L=L, k=k, i=i: _strip(L, k)[i + 2],
            lambda L=L, k=k, i=i: _strip(L, k)[i],
            tolerance,
            unit,
        )
        for L, k in ((4.0, 2e4), (8.0, 2e4), (14.0, 5e4))
        for i, what, tolerance, unit in ((0, "w", 5e-3, "m"), (1, "M", 1.5e-2, "kNm/m"))
    ),
    Case(
        "wide plate on springs below a load: w",
        "closed form",
        "Westergaard 1926",
        lambda: _infinite()[1],
        lambda: _infinite()[0],
        1e-2,
        "m",
    ),
    Case(
        "stiff strip that lifts: length in contact",
        "closed form",
        "3 (L/2 - e)",
        lambda: _tensionless()[1],
        lambda: _tensionless()[0],
        2e-2,
        "m²",
    ),
    Case(
        "stiff plate: pressure at the corner",
        "closed form",
        "N/A + M x/I",
        600 / 24 + 12 * 360 / (4 * 216) * 3 + 12 * 240 / (6 * 64) * 2,
        lambda: _rigid("corner"),
        5e-3,
        "kPa",
    ),
    Case(
        "stiff plate: pressure at the opposite corner, tension allowed",
        "closed form",
        "N/A - M x/I",
        600 / 24 - 15 - 15,
        lambda: _rigid("opposite"),
        2e-2,
        "kPa",
    ),
    *(
        Case(
            f"design moments of ({a:g}, {b:g}, {c:g}): {name}",
            "closed form",
            "Wood 1968",
            value,
            lambda a=a, b=b, c=c, i=i: _wood(a, b, c, i),
            1e-12,
            "kNm/m",
        )
        for a, b, c, values in (
            (40.0, 30.0, 10.0, (50.0, 40.0, 0.0, 0.0)),
            (40.0, -30.0, 10.0, (40 + 100 / 30, 0.0, 0.0, 30 + 100 / 40)),
            (-20.0, -50.0, 15.0, (0.0, 0.0, 35.0, 65.0)),
        )
        for i, (name, value) in enumerate(zip(("bottom x", "bottom y", "top x", "top y"), values))
    ),
    Case(
        "trapezoid 5 m, ends 1.2 and 2.4 m: centre from the short end",
        "closed form",
        "B (L1 + 2 L2)/(3 (L1 + L2))",
        5.0 * 6.0 / 10.8,
        lambda: _trapezoid("centre"),
        1e-12,
        "m",
    ),
    Case(
        "trapezoid with its load there: greatest pressure",
        "closed form",
        "N/A",
        100.0,
        lambda: _trapezoid("peak"),
        1e-9,
        "kPa",
    ),
)
