"""Reference cases of layered ground: every mechanism once more in plain scalars, and its limits."""

import math

import numpy as np
from scipy.optimize import brentq

from korbent.core.bearing.layers.adopted import MECHANISMS, passive
from korbent.core.bearing.layers.means import failure_depth
from korbent.core.evaluate import evaluate_pad
from korbent.core.model import Borehole, Load, Project, Settings, Soil, Stratum
from korbent.verification.case import Case
from korbent.verification.pad import one_pad

B, L, D = 2.0, 2.4, 1.2
STRONG = {"weight": 19.0, "weight_saturated": 21.0, "friction_angle": 36.0, "cohesion": 0.0}
WEAK_SAND = {"weight": 17.0, "weight_saturated": 19.0, "friction_angle": 29.0, "cohesion": 0.0}
NEAR_SAND = {"weight": 18.0, "weight_saturated": 20.0, "friction_angle": 34.0, "cohesion": 0.0}
SOFT = {"drainage": "undrained", "weight": 17.0, "weight_saturated": 18.0, "undrained_strength": 30.0}
STIFF = {"drainage": "undrained", "weight": 19.0, "weight_saturated": 20.0, "undrained_strength": 120.0}


def layered_pad(
    upper: dict[str, object],
    lower: dict[str, object],
    below: float,
    further: dict[str, object] | None = None,
    pad: dict[str, object] | None = None,
    **settings: object,
) -> Project:
    """A concentric pad whose next stratum begins ``below`` metres under the base; no water, the global factor by Annex
    D."""
    project = one_pad(load=Load(V=600.0), **(pad or {}))
    given = [("upper", upper, D + below), ("lower", lower, 30.0 if further is None else 1.0)]
    given += [("further", further, 30.0)] if further else []
    soils = tuple(Soil(name=n, **values) for n, values, _ in given)
    strata = tuple(Stratum(soil=n, thickness=t) for n, _, t in given)
    hole = Borehole(name="BH", x=0, y=0, ground_level=0.0, strata=strata)
    ground = project.ground.replaced(soils=soils, boreholes=(hole,), water=None)
    chosen: dict[str, object] = {"factor_bearing": 3.0, "bearing_method": "EN 1997-1 Annex D", **settings}
    return project.replaced(ground=ground, settings=Settings(**chosen))


def resistance(project: Project, drainage: str) -> float:
    """Ultimate resistance with all strata, kPa."""
    found = evaluate_pad(project, project.pads[0]).check(f"safety-{drainage}")
    assert found.capacity is not None, found.message
    return found.capacity


def mechanism(project: Project, drainage: str) -> str:
    """The adopted one."""
    found = evaluate_pad(project, project.pads[0]).check(f"safety-{drainage}")
    return next(m for m in sorted(MECHANISMS, key=len, reverse=True) if f"; {m}: " in found.message)


def _sand(phi: float, gamma: float, q: float, b: float = B, length: float = L) -> float:
    """Annex D, drained, no cohesion, vertical load."""
    f = math.radians(phi)
    Nq = math.exp(math.pi * math.tan(f)) * (1 + math.sin(f)) / (1 - math.sin(f))
    return q * Nq * (1 + b / length * math.sin(f)) + 0.5 * gamma * b * 2 * (Nq - 1) * math.tan(f) * (
        1 - 0.3 * b / length
    )


def _clay(cu: float, q: float, b: float = B, length: float = L) -> float:
    return (math.pi + 2) * cu * (1 + 0.2 * b / length) + q


def _kp_tan(phi: float, share: float) -> float:
    """K_p tan(delta) by the angles of the stress fields at the wall and at the surface."""
    f, d = math.radians(phi), math.radians(phi * share)
    # Mohr's circle of the wall: angle of the stress point, and the turn of the principal stresses
    lam = math.asin(math.sin(d) / math.sin(f))
    fan = (d + lam) / 2
    normal = (1 + math.sin(f) * math.cos(d + lam)) / (1 - math.sin(f)) * math.exp(2 * fan * math.tan(f))
    return normal * math.tan(d)


def _punched(lower: float, sigma_i: float, t: float) -> float:
    s0 = 19.0 * D
    side = (1 + B / L) * t * (sigma_i + s0) * _kp_tan(36.0, 0.5) / B
    return lower - (sigma_i - s0) + side


def _spread(on: float, sigma_i: float, s0: float, t: float) -> float:
    return s0 + (on - sigma_i) * (B + t) * (L + t) / (B * L)


S1 = 19.0 * (D + 1.0)


def _mean_sand(below: float, gamma: float) -> float:
    """A metre of sand at 36 degrees over another: the depth of the failure is that of the mean itself."""
    upper, lower = math.tan(math.radians(36.0)), math.tan(math.radians(below))

    def mean(depth: float) -> float:
        return (min(depth, 1.0) * upper + max(depth - 1.0, 0.0) * lower) / depth

    def too_deep(depth: float) -> float:
        f = math.atan(mean(depth))
        a = math.pi / 4 + f / 2
        return depth - B / (2 * math.cos(a)) * math.exp(a * math.tan(f)) * math.cos(f)

    f = math.degrees(math.atan(mean(float(brentq(too_deep, 1.0, 10.0, xtol=1e-14)))))
    return _sand(f, (19.0 + gamma) / 2, 19.0 * D)


def _pack_of_sands() -> float:
    """A metre at 36 and one at 34 degrees, then soft clay: its resistance there and the sides of both."""
    s0, s1, s2 = 19.0 * D, S1, S1 + 18.0
    sides = (1 + B / L) / B * ((s0 + s1) * _kp_tan(36.0, 0.5) + (s1 + s2) * _kp_tan(34.0, 0.5))
    return _clay(30.0, s2) - (s2 - s0) + sides


def _clays(thick: tuple[float, ...], strengths: tuple[float, ...], to: int) -> float:
    """Punching through all clays above number ``to``, each with three quarters of its strength on the sides; one unit
    weight."""
    sides = sum(2 * 0.75 * c * t / B * (1 + B / L) for c, t in zip(strengths[:to], thick[:to]))
    return _clay(strengths[to], 19.0 * D) + sides


def _squeezed(width: float, length: float, t: float, c: float) -> float:
    """(pi + 1 + B/2t) of a strip; its slope falls to 1/3 for a square, the shape factor stays on the first part
    only."""
    s = width / length
    slope = (1 - s) / 2 + s / 3
    return c * ((math.pi + 2) * (1 + 0.2 * s) + slope * (width / t - 2)) + 17.0 * D


def _film(t: float) -> float:
    """A film of soft clay over stiff clay: averaged over B'/20."""
    share = t / (B / 20)
    return share * _clay(30.0, 17.0 * D) + (1 - share) * _clay(120.0, 17.0 * D)


def _case(
    name: str, how: str, source: str, reference: float, project: Project, drainage: str, tolerance: float = 1e-9
) -> Case:
    return Case(f"layers: {name}", how, source, reference, lambda: resistance(project, drainage), tolerance, "kPa")


PUNCH = {"layer_mechanism": "punching"}
SPREADS = {"layer_mechanism": "load_spread"}

PACK = {"weight": 19.0, "weight_saturated": 20.0, "drainage": "undrained"}
CLAYS = tuple(PACK | {"undrained_strength": c} for c in (120.0, 90.0, 25.0))

LAYERS = (
    _case(
        "sand over weak sand: the mean",
        "second method",
        "mean of tan φ over its own log spiral, in scalars",
        min(_mean_sand(29.0, 17.0), _punched(_sand(29.0, 17.0, S1), S1, 1.0)),
        layered_pad(STRONG, WEAK_SAND, 1.0),
        "drained",
    ),
    _case(
        "sand over soft clay, punching",
        "second method",
        "Meyerhof and Hanna 1978, in scalars",
        _punched(_clay(30.0, S1), S1, 1.0),
        layered_pad(STRONG, SOFT, 1.0, **PUNCH),
        "drained",
    ),
    _case(
        "sand over soft clay, load spread",
        "second method",
        "spread 1:2, in scalars",
        _spread(_clay(30.0, S1, B + 1, L + 1), S1, 19 * D, 1.0),
        layered_pad(STRONG, SOFT, 1.0, **SPREADS),
        "drained",
    ),
    _case(
        "sand over soft clay, the lesser of both",
        "second method",
        "in scalars",
        min(_punched(_clay(30.0, S1), S1, 1.0), _spread(_clay(30.0, S1, B + 1, L + 1), S1, 19 * D, 1.0)),
        layered_pad(STRONG, SOFT, 1.0),
        "drained",
    ),
    _case(
        "thick sand over soft clay: the sand alone",
        "closed form",
        "cap by the strong stratum",
        _sand(36.0, 19.0, 19 * D),
        layered_pad(STRONG, SOFT, 14.0),
        "drained",
    ),
    _case(
        "a film of sand over soft clay: the clay alone",
        "closed form",
        "limit of no thickness",
        _clay(30.0, 19.0 * D),
        layered_pad(STRONG, SOFT, 1e-6),
        "drained",
        1e-5,
    ),
    _case(
        "stiff over soft clay",
        "second method",
        "Brown and Meyerhof 1969: 1.5 t/B of a strip, twice that of a square",
        _clay(30.0, 19.0 * D) + 120.0 * 1.5 * 0.5 / B * (1 + B / L),
        layered_pad(STIFF, SOFT | {"weight": 19.0}, 0.5, **PUNCH),
        "undrained",
    ),
    _case(
        "thick stiff clay over soft clay: the stiff clay alone",
        "closed form",
        "cap",
        _clay(120.0, 19.0 * D),
        layered_pad(STIFF, SOFT, 14.0, **PUNCH),
        "undrained",
    ),
    _case(
        "three clays, punched through two",
        "second method",
        "sum of the sides of the pack, in scalars",
        min(_clays((0.4, 1.0), (120.0, 90.0, 25.0), k) for k in (1, 2)),
        layered_pad(CLAYS[0], CLAYS[1], 0.4, CLAYS[2], **PUNCH),
        "undrained",
    ),
    _case(
        "three clays, the upper two alike",
        "second method",
        "as one clay over another, in scalars",
        _clays((1.4,), (120.0, 25.0), 1),
        layered_pad(CLAYS[0], CLAYS[0], 0.4, CLAYS[2], **PUNCH),
        "undrained",
    ),
    _case(
        "two clays by the mean near the base",
        "second method",
        "thickness by thickness over B/√2",
        19.0 * D + (math.pi + 2) * (1 + 0.2 * B / L) * (1.2 * 120.0 + (math.sqrt(2) - 1.2) * 115.0) / math.sqrt(2),
        layered_pad(CLAYS[0], PACK | {"undrained_strength": 115.0}, 1.2),
        "undrained",
    ),
    _case(
        "two sands, weighted means",
        "second method",
        "mean of tan φ over its own log spiral, in scalars",
        _mean_sand(34.0, 18.0),
        layered_pad(STRONG, NEAR_SAND, 1.0),
        "drained",
    ),
    _case(
        "soft over stiff clay: the soft clay alone",
        "closed form",
        "Annex D",
        _clay(30.0, 17.0 * D),
        layered_pad(SOFT, STIFF, 0.4),
        "undrained",
    ),
    _case(
        "a film of soft clay over stiff clay",
        "closed form",
        "averaged over B′/20",
        _film(0.01),
        layered_pad(SOFT, STIFF, 0.01),
        "undrained",
    ),
    _case(
        "hardly any soft clay over stiff clay",
        "closed form",
        "the stiff clay alone",
        _clay(120.0, 17.0 * D),
        layered_pad(SOFT, STIFF, 1e-8),
        "undrained",
        1e-6,
    ),
    _case(
        "soft over stiff clay, squeezing",
        "second method",
        "Mandel and Salençon 1972, slope of the shape, in scalars",
        _squeezed(B, L, 0.4, 30.0),
        layered_pad(SOFT, STIFF, 0.4, squeezing=True),
        "undrained",
    ),
    _case(
        "clay over sand, squeezing",
        "second method",
        "Mandel and Salençon 1972, slope of the shape, in scalars",
        _squeezed(B, L, 0.4, 30.0),
        layered_pad(SOFT, STRONG, 0.4, squeezing=True),
        "undrained",
    ),
    _case(
        "squeezing of a strip",
        "closed form",
        "Mandel and Salençon 1972: π + 1 + B/2t",
        30.0 * (math.pi + 1 + 2.0 / 0.8) + 17.0 * D,
        layered_pad(SOFT, STIFF, 0.4, squeezing=True, pad={"length": 20000.0}),
        "undrained",
        2e-4,
    ),
    _case(
        "squeezing of a square",
        "second method",
        "slope 1/3, in scalars",
        _squeezed(2.0, 2.0, 0.3, 30.0),
        layered_pad(SOFT, STIFF, 0.3, squeezing=True, pad={"length": 2.0}),
        "undrained",
    ),
    _case(
        "two clays of half a width: no squeezing left",
        "closed form",
        "B/t = 2",
        _clay(30.0, 17.0 * D),
        layered_pad(SOFT, STIFF, 1.0, squeezing=True),
        "undrained",
    ),
    _case(
        "sand, near sand, soft clay: punched through both",
        "second method",
        "Meyerhof and Hanna 1978, both sides, in scalars",
        _pack_of_sands(),
        layered_pad(STRONG, NEAR_SAND, 1.0, SOFT, **PUNCH),
        "drained",
    ),
    _case(
        "sand, near sand, soft clay: load spread to the third",
        "second method",
        "spread 1:2, in scalars",
        _spread(_clay(30.0, 19 * (D + 1) + 18.0, B + 2, L + 2), 19 * (D + 1) + 18.0, 19 * D, 2.0),
        layered_pad(STRONG, NEAR_SAND, 1.0, SOFT, **SPREADS),
        "drained",
    ),
    Case(
        "passive pressure on a smooth wall",
        "closed form",
        "Rankine",
        math.tan(math.radians(62.5)) ** 2,
        lambda: float(passive(np.array(math.radians(35.0)), np.array(0.0))),
        1e-12,
    ),
    Case(
        "passive pressure on a fully rough wall, weightless",
        "closed form",
        "Prandtl's stress field",
        (1 + math.sin(math.radians(35.0)))
        * math.exp((math.pi / 2 + math.radians(35.0)) * math.tan(math.radians(35.0))),
        lambda: float(passive(np.array(math.radians(35.0)), np.array(math.radians(35.0)))),
        1e-6,
    ),
    Case(
        "depth of failure in clay",
        "closed form",
        "Prandtl 1920: B/√2",
        2.0 / math.sqrt(2),
        lambda: float(failure_depth(np.array(2.0), np.array(0.0))),
        1e-12,
        "m",
    ),
)
