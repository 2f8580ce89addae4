"""Reference cases of the methods of bearing resistance: each method against each family of factors, in plain
scalars."""

import math

import numpy as np

from korbent.core.bearing.methods import METHODS, Footing
from korbent.verification.case import Case

PLAIN = {
    "N": 900.0,
    "H_B": 0.0,
    "H_L": 0.0,
    "B": 1.8,
    "L": 2.7,
    "depth": 0.0,
    "cohesion": 8.0,
    "phi": 31.0,
    "overburden": 22.0,
    "weight": 18.5,
    "tilt": 0.0,
    "slope": 0.0,
}
# what each family changes; angles in degrees
FAMILIES: dict[str, dict[str, float]] = {
    "strip": {"L": 1e9, "N": 9e11},
    "shape": {},
    "depth within B": {"depth": 1.2},
    "depth beyond B": {"depth": 2.6},
    "inclined along B'": {"H_B": 80.0, "depth": 1.0},
    "inclined along L'": {"H_L": 80.0, "depth": 1.0},
    "tilted base": {"tilt": 6.0, "H_B": 40.0},
    "sloping ground": {"slope": 12.0},
    "depth over the full width": {"depth": 1.5, "full_B": 2.6, "full_L": 3.4},
    "water below (light weight)": {"weight": 9.0, "depth": 1.0},
}


def _base(values: dict[str, float]) -> Footing:
    arrays = {k: np.array([[math.radians(v) if k in ("phi", "tilt", "slope") else v]]) for k, v in values.items()}
    return Footing(**arrays)


def _computed(method: str, values: dict[str, float], drained: bool) -> float:
    found = METHODS[method].drained(_base(values)) if drained else METHODS[method].undrained(_base(values))
    return float(found.pressure[0, 0])


def _k(depth: float, size: float) -> float:
    return depth / size if depth <= size else math.atan(depth / size)


def _terzaghi(v: dict[str, float]) -> float:
    phi = math.radians(v["phi"])
    a = math.exp((0.75 * math.pi - phi / 2) * math.tan(phi))
    Nq = a * a / (2 * math.cos(math.pi / 4 + phi / 2) ** 2)
    # Kp at 31 degrees between those tabulated at 30 and 35, linear in the logarithm
    K = 52.0 * (82.0 / 52.0) ** 0.2
    Ng = math.tan(phi) / 2 * (K / math.cos(phi) ** 2 - 1)
    s = v["B"] / v["L"]
    return float(
        v["cohesion"] * (Nq - 1) / math.tan(phi) * (1 + 0.3 * s)
        + v["overburden"] * Nq
        + v["weight"] * v["B"] / 2 * Ng * (1 - 0.2 * s)
    )


def _meyerhof(v: dict[str, float]) -> float:
    phi = math.radians(v["phi"])
    K = (1 + math.sin(phi)) / (1 - math.sin(phi))
    Nq = math.exp(math.pi * math.tan(phi)) * K
    s, d = v["B"] / v["L"], v["depth"] / v.get("full_B", v["B"]) * math.sqrt(K)
    angle = math.degrees(math.atan2(math.hypot(v["H_B"], v["H_L"]), v["N"]))
    i, ig = (1 - angle / 90) ** 2, (1 - angle / v["phi"]) ** 2
    sg, dg = 1 + 0.1 * K * s, 1 + 0.1 * d
    return (
        v["cohesion"] * (Nq - 1) / math.tan(phi) * (1 + 0.2 * K * s) * (1 + 0.2 * d) * i
        + v["overburden"] * Nq * sg * dg * i
        + v["weight"] * v["B"] / 2 * (Nq - 1) * math.tan(1.4 * phi) * sg * dg * ig
    )


def _hansen(v: dict[str, float]) -> float:
    phi, eta, beta = (math.radians(v[k]) for k in ("phi", "tilt", "slope"))
    Nq = math.exp(math.pi * math.tan(phi)) * (1 + math.sin(phi)) / (1 - math.sin(phi))
    Nc, Ng = (Nq - 1) / math.tan(phi), 1.5 * (Nq - 1) * math.tan(phi)
    F = v["N"] + v["B"] * v["L"] * v["cohesion"] / math.tan(phi)

    def along(size: float, other: float, H: float, H_other: float, full: float) -> float:
        iq = (1 - 0.5 * H / F) ** 5
        ig, ig_other = ((1 - (0.7 - v["tilt"] / 450) * h / F) ** 5 for h in (H, H_other))
        ic = iq - (1 - iq) / (Nq - 1)
        k, r = _k(v["depth"], full), size / other
        c = Nc * (1 + r * ic * Nq / Nc) * (1 + 0.4 * k) * ic * (1 - v["tilt"] / 147) * (1 - v["slope"] / 147)
        g = (1 - 0.5 * math.tan(beta)) ** 5
        q = (
            Nq
            * (1 + r * iq * math.sin(phi))
            * (1 + 2 * math.tan(phi) * (1 - math.sin(phi)) ** 2 * k)
            * iq
            * math.exp(-2 * eta * math.tan(phi))
            * g
        )
        w = Ng * max(1 - 0.4 * r * ig / ig_other, 0.6) * ig * math.exp(-2.7 * eta * math.tan(phi)) * g
        return v["cohesion"] * c + v["overburden"] * q + v["weight"] * size / 2 * w

    return min(
        along(v["B"], v["L"], v["H_B"], v["H_L"], v.get("full_B", v["B"])),
        along(v["L"], v["B"], v["H_L"], v["H_B"], v.get("full_L", v["L"])),
    )


def _m(v: dict[str, float]) -> float:
    if not (v["H_B"] or v["H_L"]):
        return 0.0
    theta = math.atan2(v["H_B"], v["H_L"])  # between the force and L'
    m_B, m_L = (2 + v["B"] / v["L"]) / (1 + v["B"] / v["L"]), (2 + v["L"] / v["B"]) / (1 + v["L"] / v["B"])
    return m_L * math.cos(theta) ** 2 + m_B * math.sin(theta) ** 2


def _vesic(v: dict[str, float]) -> float:
    phi, eta, beta = (math.radians(v[k]) for k in ("phi", "tilt", "slope"))
    t = math.tan(phi)
    Nq = math.exp(math.pi * t) * (1 + math.sin(phi)) / (1 - math.sin(phi))
    Nc = (Nq - 1) / t
    left = 1 - math.hypot(v["H_B"], v["H_L"]) / (v["N"] + v["B"] * v["L"] * v["cohesion"] / t)
    m, s, k = _m(v), v["B"] / v["L"], _k(v["depth"], v.get("full_B", v["B"]))
    iq, b, g = left**m, (1 - eta * t) ** 2, (1 - math.tan(beta)) ** 2

    def less(x: float) -> float:
        return x - (1 - x) / (Nc * t)

    return float(
        v["cohesion"] * Nc * (1 + s * Nq / Nc) * (1 + 0.4 * k) * less(iq) * less(b) * less(g)
        + v["overburden"] * Nq * (1 + s * t) * (1 + 2 * t * (1 - math.sin(phi)) ** 2 * k) * iq * b * g
        + v["weight"] * v["B"] * (Nq + 1) * t * max(1 - 0.4 * s, 0.6) * left ** (m + 1) * b * g
    )


def _annex_d(v: dict[str, float]) -> float:
    phi = math.radians(v["phi"])
    t = math.tan(phi)
    Nq = math.exp(math.pi * t) * (1 + math.sin(phi)) / (1 - math.sin(phi))
    left = 1 - math.hypot(v["H_B"], v["H_L"]) / (v["N"] + v["B"] * v["L"] * v["cohesion"] / t)
    m, s = _m(v), v["B"] / v["L"]
    iq = left**m
    sq = 1 + s * math.sin(phi)
    Nc = (Nq - 1) / t
    b = (1 - math.radians(v["tilt"]) * t) ** 2
    return float(
        v["cohesion"] * Nc * (sq * Nq - 1) / (Nq - 1) * (iq - (1 - iq) / (Nc * t)) * (b - (1 - b) / (Nc * t))
        + v["overburden"] * Nq * sq * iq * b
        + v["weight"] * v["B"] * (Nq - 1) * t * (1 - 0.3 * s) * left ** (m + 1) * b
    )


DRAINED = {
    "Terzaghi 1943": _terzaghi,
    "Meyerhof 1963": _meyerhof,
    "Brinch Hansen 1970": _hansen,
    "Vesic 1975": _vesic,
    "EN 1997-1 Annex D": _annex_d,
}


def _undrained(method: str, v: dict[str, float]) -> float:
    c, q, s, A = v["cohesion"], v["overburden"], v["B"] / v["L"], v["B"] * v["L"]
    H, k = math.hypot(v["H_B"], v["H_L"]), _k(v["depth"], v.get("full_B", v["B"]))
    root = math.sqrt(1 - H / (A * c))
    five = math.pi + 2
    if method == "Terzaghi 1943":
        return (1.5 * math.pi + 1) * c * (1 + 0.3 * s) + q
    if method == "Meyerhof 1963":
        return (five * c * (1 + 0.2 * s) * (1 + 0.2 * v["depth"] / v.get("full_B", v["B"])) + q) * (
            1 - math.degrees(math.atan2(H, v["N"])) / 90
        ) ** 2
    if method == "Brinch Hansen 1970":
        return five * c * (1 + 0.2 * s + 0.4 * k - (0.5 - 0.5 * root) - v["tilt"] / 147 - v["slope"] / 147) + q
    if method == "Vesic 1975":
        b, g = (1 - 2 * math.radians(v[x]) / five for x in ("tilt", "slope"))
        weight = v["weight"] * v["B"] * math.sin(math.radians(v["slope"])) * max(1 - 0.4 * s, 0.6)
        return (
            five * c * (1 + s / five) * (1 + 0.4 * k) * (1 - _m(v) * H / (A * c * five)) * b * g
            + q * (1 - math.tan(math.radians(v["slope"]))) ** 2
            - weight
        )
    return five * c * (1 + 0.2 * s) * 0.5 * (1 + root) * (1 - 2 * math.radians(v["tilt"]) / five) + q


def _cases() -> tuple[Case, ...]:
    found = []
    for method in METHODS:
        for family, changes in FAMILIES.items():
            drained = PLAIN | changes
            found.append(
                Case(
                    f"{method}, {family}",
                    "second method",
                    "plain scalars, factors written anew",
                    DRAINED[method](drained),
                    lambda m=method, v=drained: _computed(m, v, True),
                    1e-9,
                    "kPa",
                )
            )
            clay = PLAIN | {"cohesion": 65.0} | changes
            found.append(
                Case(
                    f"{method}, {family}, undrained",
                    "second method",
                    "plain scalars, factors written anew",
                    _undrained(method, clay),
                    lambda m=method, v=clay: _computed(m, v, False),
                    1e-9,
                    "kPa",
                )
            )
    return tuple(found)


METHOD_CASES = _cases()
