"""The matrix of concrete checks: standard x place of the column x pressure, each once more from cells, walked
perimeters and scalars.

The pressure is found anew on a grid of cells by a general solver; moments, shears and the force within a perimeter are
sums over cells; perimeters are walked in small pieces; steel comes from fibres of the section in equilibrium; strengths
are written out as scalars."""

import math
from collections.abc import Callable
from functools import cache
from itertools import product

import numpy as np
from scipy.optimize import root

from korbent.core.explain.working import working
from korbent.core.model import Load, Project, edited
from korbent.core.working import Array
from korbent.verification.case import Case
from korbent.verification.pad import one_pad

STANDARDS = {"EN": "EN 1992-1-1:2004", "ACI": "ACI 318-19", "AS": "AS 3600:2018"}
PLACES = {"interior": (0.0, 0.0), "edge": (0.7, 0.0), "corner": (0.7, 0.85)}
"""The column from the middle of the base, m."""
PRESSURES = {
    "concentric": (0.0, 0.0),
    "one-way": (0.22, 0.0),
    "two-way": (0.14, 0.18),
    "partial": (0.55, 0.35),
}
"""The resultant from the middle of the base, m."""
B, L, H, COLUMN, V = 2.0, 2.4, 0.5, 0.4, 640.0
SOIL = 18 * 0.7
WEIGHT = 25 * H + SOIL
N = V + 25 * H * B * L + SOIL * (B * L - COLUMN**2)
D_X, D_Y = H - 0.05 - 0.008, H - 0.05 - 0.016 - 0.008
FCK, FYK = 30.0, 500.0
STEEL = math.pi * 0.016**2 / 4 / 0.2
"""m2/m."""
PSI, INCH = 145.0377377, 0.0254
CELLS = 800
_x = ((np.arange(CELLS) + 0.5) / CELLS - 0.5) * B
_y = ((np.arange(CELLS) + 0.5) / CELLS - 0.5) * L
_cell = B * L / CELLS**2


def _column_moments(place: str, pressure: str) -> tuple[float, float]:
    """Moments of the column about x and y that bring the resultant to its place, kNm."""
    (o_x, o_y), (e_x, e_y) = PLACES[place], PRESSURES[pressure]
    pressing = V - SOIL * COLUMN**2
    return -N * e_y + o_y * pressing, N * e_x - o_x * pressing


@cache
def _pressure(pressure: str) -> Array:
    """Pressure of every cell, kPa, from three equations of equilibrium on the cells."""
    e_x, e_y = PRESSURES[pressure]

    def off(plane: Array) -> list[float]:
        p = np.maximum(plane[0] + plane[1] * _x[:, None] + plane[2] * _y[None, :], 0.0) * _cell
        return [p.sum() / N - 1, (p * _x[:, None]).sum() / N - e_x, (p * _y[None, :]).sum() / N - e_y]

    mean = N / (B * L)
    start = np.array([mean, mean * 12 * e_x / B**2, mean * 12 * e_y / L**2])
    plane = root(off, start, tol=1e-12).x
    found: Array = np.maximum(plane[0] + plane[1] * _x[:, None] + plane[2] * _y[None, :], 0.0)
    return found


def _beyond(place: str, pressure: str, axis: str, sign: int, away: float) -> tuple[float, float]:
    """(shear, moment) of what lies beyond a section at ``away`` from a face, weights deducted; cells cut by the section
    count in part."""
    i = 0 if axis == "x" else 1
    at = sign * PLACES[place][i] + COLUMN / 2 + away
    u = sign * (_x[:, None] if i == 0 else _y[None, :])
    size = (B, L)[i] / CELLS
    share = np.clip((u + size / 2 - at) / size, 0.0, 1.0)
    middle = u + size / 2 * (1 - share)
    net = (_pressure(pressure) - WEIGHT) * _cell * share
    return float(net.sum()), float((net * (middle - at)).sum())


def _fibre_steel(moment: float, d: float, stress: float, yield_stress: float, phi: float) -> float:
    """Steel (mm2/m) whose force balances 2000 fibres of the block that carry the moment (kNm/m), by bisection on the
    block."""
    low, high = 0.0, d
    for _ in range(60):
        block = (low + high) / 2
        fibres = (np.arange(2000) + 0.5) / 2000 * block
        carried = phi * 1000 * stress * float((d - fibres).mean()) * block
        low, high = (block, high) if carried < moment else (low, block)
    return block * stress * 1e6 / yield_stress


def _steel(standard: str, place: str, pressure: str) -> tuple[float, float]:
    """(greatest moment at the faces along x, steel asked for), kNm and mm2/m."""
    moment = max(0.0, *(_beyond(place, pressure, "x", s, 0.0)[1] for s in (1, -1)))
    stress, fyd, phi = {
        "EN": (FCK / 1.5, FYK / 1.15, 1.0),
        "ACI": (0.85 * FCK, FYK, 0.9),
        "AS": ((0.85 - 0.0015 * FCK) * FCK, FYK, 0.85),
    }[standard]
    steel = _fibre_steel(moment / L, D_X, stress, fyd, phi)
    beta = L / B  # bars along x are those of the short direction
    return moment, steel * (2 * beta / (beta + 1) if standard == "ACI" else 1.0)


def _shear(standard: str, place: str, pressure: str) -> tuple[float, float]:
    """(stress, strength) one-way along x, MPa."""
    depth = max(0.72 * H, 0.9 * D_X) if standard == "AS" else D_X
    stresses = []
    for sign in (1, -1):
        room = B / 2 - (sign * PLACES[place][0] + COLUMN / 2)
        force = _beyond(place, pressure, "x", sign, depth)[0] if depth < room else 0.0
        stresses.append(abs(force) / (L * depth) / 1000)
    rho = STEEL / D_X
    if standard == "EN":
        k = min(1 + math.sqrt(0.2 / depth), 2.0)
        strength = max(0.18 / 1.5 * k * (100 * rho * FCK) ** (1 / 3), 0.035 * k**1.5 * math.sqrt(FCK))
    elif standard == "ACI":
        strength = 0.75 * min(8 * rho ** (1 / 3), 5.0) * math.sqrt(FCK * PSI) / PSI
    else:
        strength = 0.7 * min(200 / (1000 + 1300 * depth), 0.1) * math.sqrt(FCK)
    return max(stresses), strength


Pieces = tuple[Array, Array, Array]


def _line(p: tuple[float, float], q: tuple[float, float], n: int = 4000) -> Pieces:
    t = (np.arange(n) + 0.5) / n
    return p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1]), np.full(n, math.dist(p, q) / n)


def _arc(cx: float, cy: float, a: float, start: float, n: int = 4000) -> Pieces:
    t = start + (np.arange(n) + 0.5) / n * math.pi / 2
    return cx + a * np.cos(t), cy + a * np.sin(t), np.full(n, a * math.pi / 2 / n)


def _walk(place: str, a: float, is_round: bool) -> tuple[Pieces, Array]:
    """(pieces of the perimeter at a from the column, cells within), the column's middle as origin; open to edges nearer
    than a."""
    o_x, o_y = PLACES[place]
    half = COLUMN / 2
    room = {
        "w": B / 2 + o_x - half,
        "e": B / 2 - o_x - half,
        "s": L / 2 + o_y - half,
        "n": L / 2 - o_y - half,
    }
    closed = {side: a <= r + 1e-9 for side, r in room.items()}
    x0 = -half if closed["w"] else -half - room["w"]
    x1 = half if closed["e"] else half + room["e"]
    y0 = -half if closed["s"] else -half - room["s"]
    y1 = half if closed["n"] else half + room["n"]
    parts: list[Pieces] = []
    # straight parts run along the column, or on to an open edge; with square corners they meet
    more = {side: 0.0 if is_round or not c else a for side, c in closed.items()}
    for side, level in (("s", y0 - a), ("n", y1 + a)):
        if closed[side]:
            parts.append(_line((x0 - more["w"], level), (x1 + more["e"], level)))
    for side, level in (("w", x0 - a), ("e", x1 + a)):
        if closed[side]:
            parts.append(_line((level, y0 - more["s"]), (level, y1 + more["n"])))
    if is_round:
        for pair, centre, start in (
            ("en", (x1, y1), 0.0),
            ("nw", (x0, y1), math.pi / 2),
            ("ws", (x0, y0), math.pi),
            ("se", (x1, y0), 1.5 * math.pi),
        ):
            if closed[pair[0]] and closed[pair[1]]:
                parts.append(_arc(*centre, a, start))
    x, y, w = (np.concatenate(v) for v in zip(*parts))
    dx = np.maximum(np.maximum(x0 - (_x - o_x), (_x - o_x) - x1), 0.0)
    dy = np.maximum(np.maximum(y0 - (_y - o_y), (_y - o_y) - y1), 0.0)
    far = np.hypot(dx[:, None], dy[None, :]) if is_round else np.maximum(dx[:, None], dy[None, :])
    return (x, y, w), far <= a


def _punching(standard: str, place: str, pressure: str, a: float) -> tuple[float, float, float]:
    """(force within, stress, strength), kN and MPa; EN 1992 at the distance that the search gives."""
    d = (D_X + D_Y) / 2
    (x, y, w), within = _walk(place, a, standard == "EN")
    inside = float(((_pressure(pressure) - WEIGHT) * within).sum()) * _cell
    force = max(V - inside, 0.0)
    length = float(w.sum())
    mid_x, mid_y = float((x * w).sum()) / length, float((y * w).sum()) / length
    M_x, M_y = _column_moments(place, pressure)
    if place == "interior":
        M_x, M_y = M_x + force * mid_y, M_y - force * mid_x
    else:
        # about the middle of the open perimeter: the column at the origin, and every cell of soil within
        o_x, o_y = PLACES[place]
        net = (_pressure(pressure) - WEIGHT) * within * _cell
        M_x = M_x + V * mid_y + float((net * ((_y - o_y)[None, :] - mid_y)).sum())
        M_y = M_y - V * mid_x - float((net * ((_x - o_x)[:, None] - mid_x)).sum())
    if standard == "EN":
        W_x, W_y = float((np.abs(y - mid_y) * w).sum()), float((np.abs(x - mid_x) * w).sum())
        stress = (force / length + math.hypot(0.6 * M_x / W_x, 0.6 * M_y / W_y)) / d / 1000
        rho = math.sqrt(STEEL / D_X * STEEL / D_Y)
        k = min(1 + math.sqrt(0.2 / d), 2.0)
        strength = max(0.18 / 1.5 * k * (100 * rho * FCK) ** (1 / 3), 0.035 * k**1.5 * math.sqrt(FCK)) * 2 * d / a
        return inside, stress, strength
    size_x, size_y = float(np.ptp(x)), float(np.ptp(y))
    size_x, size_y = (round(v, 3) for v in (size_x, size_y))
    if standard == "AS":
        stress = (force / (length * d) + (abs(M_x) / (8 * size_y * d) + abs(M_y) / (8 * size_x * d)) / d) / 1000
        return inside, stress, 0.7 * min(0.17 * 3, 0.34) * math.sqrt(FCK)
    # sides that run along y bend about x with their own depth, and the other way round
    along_y = float(w[np.isclose(x, x.min()) | np.isclose(x, x.max())].sum())
    J_x = d * float(((y - mid_y) ** 2 * w).sum()) + along_y * d**3 / 12
    J_y = d * float(((x - mid_x) ** 2 * w).sum()) + (length - along_y) * d**3 / 12
    g_x, g_y = (1 - 1 / (1 + 2 / 3 * math.sqrt(r)) for r in (size_y / size_x, size_x / size_y))
    # linear over the section, in equilibrium with both moments: the plane by a general solver, its greatest value on the pieces
    J_xy = d * float(((x - mid_x) * (y - mid_y) * w).sum())
    plane = np.linalg.solve(np.array([[J_y, J_xy], [J_xy, J_x]]), np.array([g_y * M_y, -g_x * M_x]))
    stress = float(np.abs(force / (length * d) + plane[0] * (x - mid_x) + plane[1] * (y - mid_y)).max()) / 1000
    sides = {"interior": 40.0, "edge": 30.0, "corner": 20.0}[place]
    factor = min(4.0, 2 + 4.0, 2 + sides * d / length)
    return inside, stress, 0.75 * factor * math.sqrt(FCK * PSI) / PSI


def _anchorage(standard: str, place: str, pressure: str) -> float:
    """Greatest length needed over length there is of the hooked bars along x at both sides."""
    cover, oe, worst = 0.05, 0.016, 0.0
    stress, _, phi = {
        "EN": (FCK / 1.5, FYK / 1.15, 1.0),
        "ACI": (0.85 * FCK, FYK, 0.9),
        "AS": ((0.85 - 0.0015 * FCK) * FCK, FYK, 0.85),
    }[standard]
    for sign in (1, -1):
        outstand = B / 2 - (sign * PLACES[place][0] + COLUMN / 2)
        moment = _beyond(place, pressure, "x", sign, 0.0)[1] / L
        if standard == "EN":
            # a crack anywhere from half the thickness to the face
            for x in H / 2 + np.linspace(0.0, 1.0, 7) * max(outstand - H / 2, 0.0):
                pressing = max(_beyond(place, pressure, "x", sign, outstand - x)[0], 0.0) / L
                force = pressing * max(outstand + 0.35 * COLUMN - x / 2, 0.0) / (0.9 * D_X)
                acting = min(force / STEEL / 1000, FYK / 1.15)
                f_bd = 2.25 * 0.7 * 0.3 * FCK ** (2 / 3) / 1.5
                # the cover of 50 mm is more than 3 x 16 mm: hooks count
                needed = max(0.7 * oe / 4 * acting / f_bd, 0.3 * oe / 4 * acting / f_bd, 10 * oe, 0.1)
                worst = max(worst, needed / max(x - cover, 1e-3))
            continue
        there = max(outstand, H) - cover
        if moment <= 0:
            continue
        if standard == "ACI":
            root, db = math.sqrt(FCK * PSI), oe / INCH
            hook = FYK * PSI * 1.25 * (FCK * PSI / 15000 + 0.6) / (55 * root) * db**1.5
            needed = max(hook, 8 * db, 6.0) * INCH
        else:
            k_3 = max(0.7, 1 - 0.15 * (48 - 16) / 16)
            full = max(0.5 * k_3 * FYK * 16 / (1.16 * math.sqrt(FCK)), 0.058 * FYK * 16) / 1000
            share = _fibre_steel(moment, D_X, stress, FYK, phi) / (STEEL * 1e6)
            needed = 0.5 * max(full * min(share, 1.0), 12 * oe)
        worst = max(worst, needed / max(there, 1e-3))
    return worst


def _at_face(place: str, pressure: str) -> float:
    """EN 1992-1-1 6.4.5(3): stress at the face, the soil below the column deducted, beta of the perimeter at 2d."""
    o_x, o_y = PLACES[place]
    d = (D_X + D_Y) / 2
    p = float(_pressure(pressure)[round((o_x + B / 2) / B * CELLS), round((o_y + L / 2) / L * CELLS)])
    under = min((p - WEIGHT) * COLUMN**2, V)
    u_0 = {"interior": 4 * COLUMN, "edge": min(COLUMN + 3 * d, 3 * COLUMN), "corner": min(3 * d, 2 * COLUMN)}[place]
    u_1 = 4 * COLUMN + 4 * math.pi * d
    W = 1.5 * COLUMN**2 + 4 * COLUMN * d + 16 * d**2 + 2 * math.pi * d * COLUMN
    M_x, M_y = _column_moments(place, pressure)
    return (V - under + u_1 * 0.6 * math.hypot(M_x, M_y) / W) / u_0 / d / 1000


@cache
def _project(standard: str, place: str, pressure: str) -> Project:
    M_x, M_y = _column_moments(place, pressure)
    o_x, o_y = PLACES[place]
    project = one_pad(load=Load(V=V, Mx=M_x, My=M_y), offset_x=o_x, offset_y=o_y)
    project = edited(project, ("settings", "flexure_bands"), "whole_width")
    return edited(project, ("standards", "concrete"), STANDARDS[standard])


@cache
def _steps(standard: str, place: str, pressure: str, check: str) -> dict[str, float]:
    """Values on the way to a check in the block that governs, by symbol; "demand" and "capacity" too."""
    project = _project(standard, place, pressure)
    found = working(project, project.pads[0], check)
    result = found.result  # type: ignore[union-attr]
    steps = {"demand": float(result.demand or 0.0), "capacity": float(result.capacity or 0.0)}
    worst = float(result.ratio or 0.0)
    for index in found.recording.leading_to(found.step):  # type: ignore[union-attr]
        step = found.recording.steps[index]  # type: ignore[union-attr]
        steps[step.symbol] = float(np.ravel(step.value)[0])
    return steps | {"worst": worst}


Key = tuple[str, str, str]
"""(standard, place, pressure)."""


def _distance(key: Key) -> float:
    """Of the perimeter: by EN 1992 what its search gives, else half the depth, m."""
    return _steps(*key, "punching")["a"] if key[0] == "EN" else (D_X + D_Y) / 4


Row = tuple[str, str, Callable[[Key], float], tuple[str, str], float, str]
ROWS: tuple[Row, ...] = (
    ("moment", "sum over 800 x 800 cells", lambda k: _steel(*k)[0], ("bottom-x", "M_Ed"), 2e-3, "kNm"),
    ("steel", "fibres in equilibrium", lambda k: _steel(*k)[1], ("bottom-x", "demand"), 2e-3, "mm²/m"),
    ("one-way shear", "sum over cells", lambda k: _shear(*k)[0], ("shear-x", "demand"), 2e-3, "MPa"),
    ("its strength", "scalars", lambda k: _shear(*k)[1], ("shear-x", "capacity"), 1e-9, "MPa"),
    ("force within", "sum over cells", lambda k: _punching(*k, _distance(k))[0], ("punching", "R_in"), 6e-3, "kN"),
    ("punching", "perimeter walked", lambda k: _punching(*k, _distance(k))[1], ("punching", "demand"), 4e-3, "MPa"),
    ("its strength there", "scalars", lambda k: _punching(*k, _distance(k))[2], ("punching", "capacity"), 1e-6, "MPa"),
    ("anchorage, ratio", "sum over cells, scalars", lambda k: _anchorage(*k), ("anchorage-x", "worst"), 3e-3, ""),
    (
        "punching at the face",
        "cell below the column, scalars",
        lambda k: _at_face(*k[1:]),
        ("punching-face", "demand"),
        3e-3,
        "MPa",
    ),
)
"""(what, source, second method, check and symbol, tolerance, unit); the last is a check of EN 1992 only."""


def _case(key: Key, row: Row) -> Case:
    what, source, known, (check, symbol), tolerance, unit = row
    name = f"{key[0]}, {key[1]} column, {key[2]}: {what}"
    return Case(
        name,
        "second method",
        source,
        lambda: known(key),
        lambda: _steps(*key, check)[symbol],
        tolerance,
        unit,
    )


CONCRETE_MATRIX: tuple[Case, ...] = tuple(
    _case((standard, place, pressure), row)
    for standard, place, pressure in product(STANDARDS, PLACES, PRESSURES)
    for row in (ROWS if standard == "EN" else ROWS[:-1])
)
