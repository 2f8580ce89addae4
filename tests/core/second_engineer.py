"""A second engineer: one pad in one situation once more, in plain scalars, by other routes.

Pressures are found by bisection over the position of the neutral line and summed over cells, section
forces and punching by sums over the same cells, stresses by walking down the strata. Nothing is imported from the
calculations under test; slower and coarser, so it is compared with a tolerance of its own.
"""

import math
from dataclasses import dataclass

import numpy as np

WATER = 9.81
CELLS = 400


@dataclass(frozen=True)
class Numbers:
    """One pad in one situation (m, kN, kPa, degrees)."""

    B: float
    L: float
    h: float
    underside: float
    column: tuple[float, float]
    offset: tuple[float, float]
    rotation: float
    load: tuple[float, float, float, float, float]
    load_level: float
    factor: float
    weight_factor: float
    finished: float
    water: float
    backfill: tuple[float, float]
    concrete: float
    pedestal_top: float | None = None
    pedestal: tuple[float, float] = (0.0, 0.0)


def forces(n: Numbers) -> dict[str, float]:
    """Forces at the middle of the underside, term by term as vectors with their points of action."""
    V, Hx, Hy, Mx, My = (n.factor * v for v in n.load)
    angle = math.radians(-n.rotation)
    hx = Hx * math.cos(angle) - Hy * math.sin(angle)
    hy = Hx * math.sin(angle) + Hy * math.cos(angle)
    mx = Mx * math.cos(angle) - My * math.sin(angle)
    my = Mx * math.sin(angle) + My * math.cos(angle)
    top = n.underside + n.h
    water = min(n.water, n.finished)
    foot = n.pedestal if n.pedestal_top is not None else n.column
    depth = max(0.0, n.finished - top)
    wet = min(depth, max(0.0, water - top))
    soil = n.backfill[0] * (depth - wet) + n.backfill[1] * wet
    pieces = [  # downward force, x, y
        (V, *n.offset),
        (n.weight_factor * n.concrete * n.B * n.L * n.h, 0.0, 0.0),
        (n.weight_factor * soil * n.B * n.L, 0.0, 0.0),
        (-n.weight_factor * soil * foot[0] * foot[1], *n.offset),
    ]
    if n.pedestal_top is not None:
        height = max(0.0, n.pedestal_top - top)
        pieces.append((n.weight_factor * n.concrete * foot[0] * foot[1] * height, *n.offset))
    total = sum(f for f, _, _ in pieces)
    arm = n.load_level - n.underside
    # r x F with F = (hx, hy, -V): about x: -y V - z hy, about y: z hx + x V
    about_x = mx - arm * hy - sum(f * y for f, _, y in pieces)
    about_y = my + arm * hx + sum(f * x for f, x, _ in pieces)
    uplift = WATER * max(0.0, water - n.underside) * n.B * n.L
    return {
        "V": total,
        "U": uplift,
        "N": total - uplift,
        "Hx": hx,
        "Hy": hy,
        "Mx": about_x,
        "My": about_y,
        "w": n.weight_factor * (n.concrete * n.h + soil) - uplift / (n.B * n.L),
        "column": V + (pieces[4][0] if len(pieces) > 4 else 0.0),
        "mx": mx,
        "my": my,
    }


def cells(B: float, L: float) -> tuple[np.ndarray, np.ndarray, float]:
    """Middles of square-ish cells and their area."""
    x = (np.arange(CELLS) + 0.5) / CELLS * B - B / 2
    y = (np.arange(CELLS) + 0.5) / CELLS * L - L / 2
    return x[:, None], y[None, :], B * L / CELLS**2


def pressure(N: float, e_x: float, e_y: float, B: float, L: float) -> tuple[float, float, float]:
    """The plane a + b x + c y by fixed-point search on cells: springs in tension are taken out one round at a time."""
    x, y, area = cells(B, L)
    X, Y = np.broadcast_arrays(x, y)
    pressed = np.ones_like(X, dtype=bool)
    for _ in range(400):
        A = np.array(
            [
                [pressed.sum(), (X * pressed).sum(), (Y * pressed).sum()],
                [(X * pressed).sum(), (X * X * pressed).sum(), (X * Y * pressed).sum()],
                [(Y * pressed).sum(), (X * Y * pressed).sum(), (Y * Y * pressed).sum()],
            ]
        )
        a, b, c = np.linalg.solve(A * area, np.array([N, N * e_x, N * e_y]))
        now = a + b * X + c * Y > 0
        if (now == pressed).all():
            break
        pressed = now
    return float(a), float(b), float(c)


def section(
    plane: tuple[float, float, float], n: Numbers, w: float, axis: str, sign: int, at: float
) -> tuple[float, float]:
    """(shear, moment) beyond a line at the distance ``at`` from the middle, on the side ``sign`` of an axis."""
    size, other = (n.B, n.L) if axis == "x" else (n.L, n.B)
    # cells of their own between the line and the edge
    s = at + (np.arange(CELLS) + 0.5) / CELLS * (size / 2 - at)
    t = (np.arange(CELLS) + 0.5) / CELLS * other - other / 2
    a, b, c = plane
    along, across = (b, c) if axis == "x" else (c, b)
    p = np.maximum(0.0, a + sign * along * s[:, None] + across * t[None, :]) - w
    area = (size / 2 - at) * other / CELLS**2
    return float(p.sum() * area), float((p * (s[:, None] - at)).sum() * area)


def steel(moment: float, d: float, fck: float, fyk: float) -> float:
    """Steel (mm2/m) by bisection on the depth of the stress block."""
    fcd, fyd = fck / 1.5, fyk / 1.15
    low, high = 0.0, 0.8 * 0.45 * d
    for _ in range(80):
        block = (low + high) / 2
        low, high = (block, high) if fcd * 1000 * block * (d - block / 2) < moment else (low, block)
    return fcd * block / fyd * 1e6


def bearing(
    f: dict[str, float], n: Numbers, c: float, phi: float, q: float, weights: tuple[float, float]
) -> tuple[float, float]:
    """(V/A', R/A') drained by Annex D, design values given."""
    e_x, e_y = f["My"] / f["N"], -f["Mx"] / f["N"]
    bx, ly = n.B - 2 * abs(e_x), n.L - 2 * abs(e_y)
    short, long = min(bx, ly), max(bx, ly)
    H = math.hypot(f["Hx"], f["Hy"])
    along_long = abs(f["Hx"]) if bx > ly else abs(f["Hy"])
    theta = math.acos(min(1.0, along_long / H)) if H > 0 else math.pi / 2
    mB = (2 + short / long) / (1 + short / long)
    mL = (2 + long / short) / (1 + long / short)
    m = mL * math.cos(theta) ** 2 + mB * math.sin(theta) ** 2
    t = math.tan(math.radians(phi))
    Nq = math.e ** (math.pi * t) * math.tan(math.radians(45 + phi / 2)) ** 2
    Nc, Ng = (Nq - 1) / t, 2 * (Nq - 1) * t
    sine = math.sin(math.radians(phi))
    sq, sg = 1 + short / long * sine, 1 - 0.3 * short / long
    sc = (sq * Nq - 1) / (Nq - 1)
    left = 1 - H / (f["N"] + short * long * c / t)
    iq, ig = left**m, left ** (m + 1)
    ic = iq - (1 - iq) / (Nc * t)
    water = min(n.water, n.finished)
    dry = min(max(n.underside - water, 0.0), short)
    gamma = (weights[0] * dry + (weights[1] - WATER) * (short - dry)) / short
    r = c * Nc * sc * ic + q * Nq * sq * iq + 0.5 * gamma * short * Ng * sg * ig
    return f["N"] / (short * long), r


def punching(
    f: dict[str, float], n: Numbers, plane: tuple[float, float, float], d: float, a: float, arm: float
) -> float:
    """Stress (MPa) on the closed perimeter at the distance ``a``, the pressure inside summed over cells."""
    cx, cy = n.pedestal if n.pedestal_top is not None else n.column
    x, y, area = cells(n.B, n.L)
    gap_x = np.maximum(np.abs(x - n.offset[0]) - cx / 2, 0.0)
    gap_y = np.maximum(np.abs(y - n.offset[1]) - cy / 2, 0.0)
    inside = np.hypot(gap_x, gap_y) <= a
    p = np.maximum(0.0, plane[0] + plane[1] * x + plane[2] * y) - f["w"]
    reduced = f["column"] - float((p * inside).sum() * area)
    u = 2 * (cx + cy) + 2 * math.pi * a
    top_x, top_y = f["mx"] - arm * f["Hy"], f["my"] + arm * f["Hx"]

    def W(c1: float, c2: float) -> float:
        return c1**2 / 2 + c1 * c2 + 2 * c2 * a + 4 * a**2 + math.pi * a * c1

    def k(c1: float, c2: float) -> float:
        return float(np.interp(c1 / c2, [0.5, 1, 2, 3], [0.45, 0.6, 0.7, 0.8]))

    uneven = math.hypot(k(cx, cy) * top_y / W(cx, cy), k(cy, cx) * top_x / W(cy, cx))
    return (reduced / u + uneven) / d / 1000
