"""Reference cases of whole pads: each check once more by hand, from plain numbers."""

import math

import numpy as np

from korbent.core.evaluate import outcomes_for
from korbent.core.explain.working import working
from korbent.core.geometry import table
from korbent.core.model import (
    Actions,
    Backfill,
    Bars,
    Borehole,
    Combination,
    Ground,
    Load,
    LoadCase,
    LoadPoint,
    Pad,
    Project,
    Reinforcement,
    Settings,
    Soil,
    Stratum,
    Surfaces,
    Water,
)
from korbent.verification.case import Case


def one_pad(**changes: object) -> Project:
    """A pad of 2.0 x 2.4 x 0.5 m on clayey sand, its underside 1.2 m below ground, one unfactored load case.

    Every combination has factors of one, so that hand values stay short.
    """
    soil = Soil(
        name="ground",
        drainage="both",
        weight=18.0,
        weight_saturated=20.0,
        cohesion=5.0,
        friction_angle=30.0,
        undrained_strength=80.0,
        modulus=25_000.0,
        poisson=0.3,
    )
    load = changes.pop("load", Load(V=600.0, Hx=40.0, My=50.0))
    pad = {
        "name": "P",
        "load_point": "C",
        "width": 2.0,
        "length": 2.4,
        "thickness": 0.5,
        "level": -1.2,
        "reinforcement": Reinforcement(
            bottom_x=Bars(diameter=0.016, spacing=0.2), bottom_y=Bars(diameter=0.016, spacing=0.2)
        ),
    }
    pad |= changes
    return Project(
        settings=Settings(presumed_pressure=200.0),
        ground=Ground(
            soils=(soil,),
            boreholes=(
                Borehole(name="BH", x=0, y=0, ground_level=0.0, strata=(Stratum(soil="ground", thickness=30.0),)),
            ),
            surfaces=Surfaces(finished=0.0),
            water=Water(low=-8.0, normal=-8.0, high=-0.7),
            backfill=Backfill(weight=18.0, weight_saturated=20.0),
        ),
        actions=Actions(
            cases=(LoadCase(name="G"), LoadCase(name="E", nature="wind")),
            combinations=(
                Combination(number=1, factors={"G": 1.0}, serves=("allowable", "concrete", "settlement_long")),
                Combination(number=2, factors={"G": 1.0}, serves=("ultimate",), factor_set="M2"),
                Combination(
                    number=3,
                    factors={"G": 0.9, "E": 1.0},
                    serves=("EQU",),
                    weight_unfavourable=0.9,
                    weight_favourable=0.9,
                ),
                Combination(
                    number=4,
                    factors={"G": 0.9, "E": 1.0},
                    serves=("UPL",),
                    water="high",
                    weight_unfavourable=0.9,
                    weight_favourable=0.9,
                ),
            ),
            load_points=(
                LoadPoint(
                    name="C",
                    x=0,
                    y=0,
                    size_x=0.4,
                    size_y=0.4,
                    level=max(0.0, float(str(pad["level"]))),
                    loads={"G": load, "E": Load(V=-100.0, Hx=30.0, My=90.0)},
                ),
            ),
        ),
        pads=(Pad(**pad),),
    )


def _value(check: str, what: str, **changes: object) -> float:
    project = one_pad(**changes)
    pad = project.pads[0]
    for outcome in outcomes_for(project, pad, table(pad)):
        if outcome.check.id == check:
            column = int(np.argmax(outcome.ratio[0]))
            return float(getattr(outcome, what)[0, column])
    raise KeyError(check)


def _step(check: str, symbol: str, **changes: object) -> float:
    """A recorded value on the way to a check."""
    project = one_pad(**changes)
    found = working(project, project.pads[0], check)
    for index in found.recording.leading_to(found.step):  # type: ignore[union-attr]
        step = found.recording.steps[index]  # type: ignore[union-attr]
        if step.symbol == symbol:
            return float(np.broadcast_to(step.value, (1, max(1, step.value.size)))[0, 0])
    raise KeyError(symbol)


# by hand: weights and forces at the underside
BASE = 25 * 2.0 * 2.4 * 0.5
SOIL = 18 * 0.7 * (2.0 * 2.4 - 0.16)
V = 600 + BASE + SOIL
M = 50 + 1.2 * 40
E = M / V
PEAK = V / 4.8 * (1 + 6 * E / 2.0)
NET = 25 * 0.5 + 18 * 0.7  # base and backfill, kPa
SLOPE = 12 * V * E / (2.4 * 2.0**3)
AT_FACE = V / 4.8 + SLOPE * 0.2
CANTILEVER = (AT_FACE - NET) * 0.8**2 / 2 + SLOPE * 0.8**3 / 3  # kNm/m about the face at x = 0.2
D_X, D_Y = 0.5 - 0.05 - 0.008, 0.5 - 0.05 - 0.016 - 0.008
SHEAR_SPAN = 1.0 - 0.2 - D_X
SHEAR = (V / 4.8 + SLOPE * (1.0 - SHEAR_SPAN / 2) - NET) * SHEAR_SPAN / D_X / 1000
B_EFF = 2.0 - 2 * E
T_D = math.tan(math.radians(30)) / 1.25


def _drained_by_hand() -> float:
    B, L, c = B_EFF, 2.4, 5 / 1.25
    phi = math.atan(T_D)
    Nq = math.exp(math.pi * T_D) * math.tan(math.pi / 4 + phi / 2) ** 2
    Nc, Ng = (Nq - 1) / T_D, 2 * (Nq - 1) * T_D
    sq, sg = 1 + B / L * math.sin(phi), 1 - 0.3 * B / L
    sc = (sq * Nq - 1) / (Nq - 1)
    m = (2 + B / L) / (1 + B / L)
    left = 1 - 40 / (V + B * L * c / T_D)
    iq, ig = left**m, left ** (m + 1)
    ic = iq - (1 - iq) / (Nc * T_D)
    return float(c * Nc * sc * ic + 21.6 * Nq * sq * iq + 0.5 * 18 * B * Ng * sg * ig)


def _undrained_by_hand() -> float:
    c = 80 / 1.4
    area = B_EFF * 2.4
    return (math.pi + 2) * c * (1 + 0.2 * B_EFF / 2.4) * 0.5 * (1 + math.sqrt(1 - 40 / (area * c))) + 21.6


def _cells(what: str) -> float:
    """Shear and moment beyond the face of a partly pressed base, by summing cells (e_x = 0.75 m, e_y = 0.5 m)."""
    from korbent.verification.contact import solved

    load = PARTIAL
    n_force = load.V + BASE + SOIL
    e_x = (load.My + 1.2 * load.Hx) / n_force
    e_y = -(load.Mx - 1.2 * load.Hy) / n_force
    contact = solved(n_force, e_x, e_y, 2.0, 2.4)
    n = 1600
    x = 0.2 + (np.arange(n) + 0.5) / n * 0.8
    y = (np.arange(n) + 0.5) / n * 2.4 - 1.2
    p = np.maximum(0.0, contact.a + contact.b * x[:, None] + contact.c * y[None, :]) - NET
    cell = 0.8 * 2.4 / n**2
    return float((p * (x[:, None] - 0.2)).sum() * cell)


PARTIAL = Load(V=300.0, Hx=60.0, Hy=30.0, Mx=-120.0, My=150.0)


def _punching_by_hand() -> float:
    """v_Ed at the distance the search finds, from the area within and EN (6.41), (6.51)."""
    a = _step("punching", "a")
    d = (D_X + D_Y) / 2
    area = 0.16 + 4 * 0.4 * a + math.pi * a * a
    u = 1.6 + 2 * math.pi * a
    W = 0.08 + 0.16 + 0.8 * a + 4 * a * a + math.pi * a * 0.4
    V_red = 600 - (V / 4.8 - NET) * area
    moment = 50 + 0.7 * 40
    return (V_red / u + 0.6 * moment / W) / d / 1000


def _face_by_hand() -> float:
    """EN 1992-1-1 (6.53) with beta by (6.39) on the basic perimeter at 2d; the soil below the column deducted."""
    d = (D_X + D_Y) / 2
    force = 600 - (V / 4.8 - NET) * 0.16
    u1 = 1.6 + 4 * math.pi * d
    W1 = 0.4**2 / 2 + 0.16 + 4 * 0.4 * d + 16 * d**2 + 2 * math.pi * d * 0.4
    beta = 1 + 0.6 * (50 + 0.7 * 40) / force * u1 / W1
    return beta * force / (1.6 * d) / 1000


PAD = (
    Case(
        "vertical force at the underside",
        "closed form",
        "column + base + backfill",
        V,
        lambda: _step("eccentricity", "V"),
        1e-12,
        "kN",
    ),
    Case("moment at the underside", "closed form", "My + h Hx", M, lambda: _step("eccentricity", "M_y"), 1e-12, "kNm"),
    Case(
        "column off the middle by 0.2 m: moment",
        "closed form",
        "M + 0.2 (V - backfill at the column)",
        M + 0.2 * (600 - 18 * 0.7 * 0.16),
        lambda: _step("eccentricity", "M_y", offset_x=0.2),
        1e-12,
        "kNm",
    ),
    Case(
        "pad turned by 90°: Hx becomes -Hy of the pad",
        "closed form",
        "40 kN",
        -40.0,
        lambda: _step("sliding-drained", "H_y", rotation=90.0),
        1e-12,
        "kN",
    ),
    Case(
        "presumed pressure: peak",
        "closed form",
        "V/A (1 + 6 e/B)",
        PEAK,
        lambda: _value("presumed-pressure", "demand"),
        1e-12,
        "kPa",
    ),
    Case(
        "eccentricity ratio", "closed form", "(e/B)/(1/3)", E / 2.0 * 3, lambda: _value("eccentricity", "ratio"), 1e-12
    ),
    Case(
        "drained resistance, DA1-2",
        "second method",
        "Annex D.4 by hand",
        _drained_by_hand(),
        lambda: _value("resistance-drained", "capacity"),
        1e-9,
        "kPa",
    ),
    Case(
        "undrained resistance, DA1-2",
        "second method",
        "Annex D.3 by hand",
        _undrained_by_hand(),
        lambda: _value("resistance-undrained", "capacity"),
        1e-9,
        "kPa",
    ),
    Case(
        "pressure on the effective area",
        "closed form",
        "V/A'",
        V / (B_EFF * 2.4),
        lambda: _value("resistance-drained", "demand"),
        1e-12,
        "kPa",
    ),
    Case(
        "sliding, drained: ratio",
        "closed form",
        "H γφ/(V tan φ)",
        40 / (V * T_D),
        lambda: _value("sliding-drained", "ratio"),
        1e-12,
    ),
    Case(
        "sliding, undrained: capped at 0.4 V",
        "closed form",
        "min(A' cu/1.4, 0.4 V)",
        min(B_EFF * 2.4 * 80 / 1.4, 0.4 * V),
        lambda: _value("sliding-undrained", "capacity"),
        1e-12,
        "kN",
    ),
    Case(
        "overturning, EQU: destabilising",
        "closed form",
        "wind about the +x edge",
        90 + 1.2 * 30 + 100 * 1.0,
        lambda: _value("overturning", "demand"),
        1e-12,
        "kNm",
    ),
    Case(
        "overturning, EQU: stabilising",
        "closed form",
        "0.9 (G and weights)",
        0.9 * ((600 * 1.0 - 50 - 1.2 * 40) + BASE + SOIL),
        lambda: _value("overturning", "capacity"),
        1e-12,
        "kNm",
    ),
    Case(
        "uplift: lifting",
        "closed form",
        "tension + water pressure",
        100 + 9.81 * 0.5 * 4.8,
        lambda: _value("uplift", "demand"),
        1e-12,
        "kN",
    ),
    Case(
        "uplift: holding",
        "closed form",
        "0.9 (G + weights)",
        0.9 * V,
        lambda: _value("uplift", "capacity"),
        1e-12,
        "kN",
    ),
    Case("top below ground: depth", "closed form", "1.2 m", 1.2, lambda: _value("top-cover", "capacity"), 1e-12, "m"),
    Case(
        "flexure at the face: moment",
        "closed form",
        "trapezoid less weights",
        CANTILEVER,
        lambda: _step("bottom-x", "m_Ed"),
        1e-9,
        "kNm/m",
    ),
    Case(
        "flexure at the face, partial contact",
        "second method",
        "sum over 1600 x 1600 cells",
        _cells("moment"),
        lambda: _step("bottom-x", "M_Ed", load=PARTIAL),
        2e-4,
        "kNm",
    ),
    Case(
        "one-way shear at d: stress",
        "closed form",
        "trapezoid less weights",
        SHEAR,
        lambda: _value("shear-x", "demand"),
        1e-9,
        "MPa",
    ),
    Case(
        "punching: stress on the perimeter found",
        "closed form",
        "area within; EN 1992-1-1 (6.41), (6.51)",
        _punching_by_hand(),
        lambda: _value("punching", "demand"),
        1e-9,
        "MPa",
    ),
    Case(
        "punching at the face: stress",
        "closed form",
        "EN 1992-1-1 (6.53), (6.39)",
        _face_by_hand(),
        lambda: _value("punching-face", "demand"),
        1e-9,
        "MPa",
    ),
    Case(
        "punching at the face: limit",
        "closed form",
        "0.4 x 0.6 (1 - 30/250) x 20",
        0.4 * 0.6 * (1 - 30 / 250) * 20,
        lambda: _value("punching-face", "capacity"),
        1e-12,
        "MPa",
    ),
    Case(
        "settlement: net pressure",
        "closed form",
        "V/A - 1.2 γ",
        V / 4.8 - 1.2 * 18,
        lambda: _step("settlement", "q_net"),
        1e-12,
        "kPa",
    ),
)
