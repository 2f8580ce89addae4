"""Reference cases of the strip: exact by slip lines, bracketed, and on the way to collapse."""

from functools import cache

import numpy as np

from korbent.core.plasticity.bounds import bound
from korbent.core.plasticity.path import first_mesh_of, mesh_for
from korbent.core.plasticity.section import ROUGH, Layer, Load, Section, Underside, scale_of, uniform
from korbent.core.plasticity.section import SMOOTH as SMOOTH_BASE
from korbent.core.plasticity.slip_lines import Strip, exact, n_c, n_gamma
from korbent.core.plasticity.way import Base, Stiffness, Way
from korbent.verification.case import Case

MEMORY = "Martin 2005, quoted from memory"
ROUGH_VALUES = ((5, 0.1134), (10, 0.4332), (20, 2.839), (30, 14.7543), (40, 85.566))
SMOOTH_VALUES = ((5, 0.08446), (10, 0.2809), (20, 1.579), (30, 7.653), (40, 43.19))


@cache
def _mid(section: Section, most: int) -> float:
    low, high = (bound(section, side, most).pressure for side in ("lower", "upper"))
    return (low + high) / 2


def _inclined(phi: float, tan_i: float, q: float) -> float:
    """V/B of an inclined load on ground without weight and cohesion: the major stress below the base turns as far as
    the shear asks."""
    f, i = np.deg2rad(phi), np.arctan(tan_i)
    turn = (np.arcsin(np.sin(i) / np.sin(f)) + i) / 2
    mean = q / (1 - np.sin(f)) * np.exp(2 * np.tan(f) * (np.pi / 2 - turn))
    return float(mean * (1 + np.sin(f) * np.cos(2 * turn)))


def _beside_slope(phi: float, beta: float) -> float:
    """N_c of weightless ground without surcharge whose surface falls away by beta."""
    f = np.deg2rad(phi)
    turns = np.pi - 2 * np.deg2rad(beta)
    return float((np.tan(np.pi / 4 + f / 2) ** 2 * np.exp(turns * np.tan(f)) - 1) / np.tan(f))


def _limit(section: Section, round_: bool) -> float:
    base = Base(section, (Stiffness(5000.0, 0.3, 1.0),), round_)
    return Way(base, mesh_for(base, 800)).limit_of_mesh * scale_of(section)


def _layer_slope(B: float, h: float, E: float, nu: float) -> float:
    """Pressure over the mean settlement of a flexible strip on a layer bonded to firm ground (kernel as of Gladwell
    1980)."""
    m = (np.arange(400_000) + 0.5) * 300.0 / 400_000
    k, a = 3 - 4 * nu, np.minimum(m * h, 50.0)
    kernel = (2 * k * np.sinh(2 * a) - 4 * a) / (2 * k * np.cosh(2 * a) + 4 * a**2 + 1 + k**2)
    total = float((np.sin(m * B / 2) ** 2 * kernel / m**3).sum() * (m[1] - m[0]))
    return float(np.pi * E * B / 2 / (4 * (1 - nu**2) * total))


def _slope(B: float, h: float, E: float, nu: float) -> float:
    base = Base(uniform(B, 50.0, 0.0, 0.0, 5.0), (Stiffness(E, nu, 1.0),), False, True, h)
    return Way(base, first_mesh_of(base)).elastic


def _first_tilt() -> float:
    """Of a strip of 2 m under V/B of 1 kPa with an eccentricity of 0.2 m."""
    ground = (Layer(0.0, 1e6, 30.0, 0.0, 0.0),)
    base = Base(Section(2.0, ground, 0.0, SMOOTH_BASE, Load((100.0, 0.0, 20.0))), (Stiffness(1e4, 0.3, 1.0),))
    return float(-Way(base, first_mesh_of(base)).first_moves[-1] / 2.0)


PUSHED = Section(2.0, (Layer(0.0, 1e6, 30.0, 0.0, 0.0),), 10.0, Underside(tension=False), Load((100.0, 10.0, 20.0)))
CURVE, SMOOTH, ROUGH_CLAY = (
    uniform(1.0, 5.0, 30.0, 18.0, 10.0),
    uniform(1.0, 1.0, 0.0, 0.0, 0.0, 0.0),
    uniform(1.0, 1.0, 0.0, 0.0, 0.0),
)
GENERAL = Strip(2.0, 10.0, 30.0, 18.0, 20.0)
OVER = Section(1.0, (Layer(0.0, 0.4, 30.0, 0.0, 0.0), Layer(0.4, 1e6, 30.0, 0.0, 0.0)))

PLASTICITY: tuple[Case, ...] = (
    *(
        Case(f"strip: N_γ rough, φ {phi}°", "from memory", MEMORY, value, lambda phi=phi: n_gamma(float(phi)), 3e-4)
        for phi, value in ROUGH_VALUES
    ),
    *(
        Case(
            f"strip: N_γ smooth, φ {phi}°", "from memory", MEMORY, value, lambda phi=phi: n_gamma(float(phi), 0.0), 3e-4
        )
        for phi, value in SMOOTH_VALUES
    ),
    Case(
        "strip: hardly any weight tends to c N_c + q N_q",
        "closed form",
        "Prandtl 1920, Reissner 1924",
        lambda: exact(Strip(1.0, 20.0, 25.0, 0.0, 10.0)).pressure,
        lambda: exact(Strip(1.0, 20.0, 25.0, 0.02, 10.0)).pressure,
        5e-4,
        "kPa",
    ),
    Case(
        "strip: mid of the bounds, c, φ, γ and q",
        "second method",
        "slip lines",
        lambda: exact(GENERAL).pressure,
        lambda: _mid(uniform(2.0, 10.0, 30.0, 18.0, 20.0), 900),
        0.03,
        "kPa",
    ),
    Case(
        "strip: mid of the bounds, undrained",
        "closed form",
        "(2 + π) c",
        2 + float(np.pi),
        lambda: _mid(uniform(1.0, 1.0, 0.0, 0.0, 0.0), 900),
        0.01,
    ),
    Case(
        "strip: half rough, N_γ, φ 30°, mid of the bounds",
        "second method",
        "slip lines",
        lambda: n_gamma(30.0, 0.5),
        lambda: _mid(uniform(1.0, 0.0, 30.0, 2.0, 0.0, 0.5), 500),
        0.04,
    ),
    Case(
        "strip: inclined load, undrained, H = c B/2",
        "closed form",
        "Green 1954: 1 + π − asin h + √(1 − h²)",
        float(1 + np.pi - np.arcsin(0.5) + np.sqrt(0.75)),
        lambda: _mid(
            Section(
                1.0, (Layer(0.0, 1e6, 1.0, 0.0, 0.0),), 0.0, ROUGH, Load((1.0, 0.0, 0.0), (0.0, 0.5, 0.0), turns=False)
            ),
            600,
        ),
        0.02,
    ),
    Case(
        "strip: inclined load, surcharge alone, tan i 0.2",
        "closed form",
        "Mohr's circle and a fan",
        _inclined(30.0, 0.2, 10.0),
        lambda: _mid(
            Section(1.0, (Layer(0.0, 1e6, 0.0, 30.0, 0.0),), 10.0, ROUGH, Load((1.0, 0.2, 0.0), turns=False)), 1000
        ),
        0.03,
        "kPa",
    ),
    Case(
        "strip: beside ground that falls away by 20°, undrained",
        "closed form",
        "(2 + π − 2β) c, a fan that turns by 2β less",
        float(2 + np.pi - 2 * np.deg2rad(20.0)),
        lambda: _mid(
            Section(1.0, (Layer(0.0, 1e6, 1.0, 0.0, 0.0),), 0.0, ROUGH, Load((1.0, 0.0, 0.0)), slope=20.0), 700
        ),
        0.015,
    ),
    Case(
        "strip: beside ground that falls away by 15°, φ 25°, cohesion alone",
        "closed form",
        "Mohr's circle and a fan that turns by 2β less",
        _beside_slope(25.0, 15.0),
        lambda: _mid(
            Section(1.0, (Layer(0.0, 1e6, 1.0, 25.0, 0.0),), 0.0, ROUGH, Load((1.0, 0.0, 0.0)), slope=15.0), 700
        ),
        0.02,
    ),
    Case(
        "curve: collapse of a strip, c, φ, γ and q",
        "second method",
        "slip lines",
        lambda: exact(Strip(1.0, 5.0, 30.0, 18.0, 10.0)).pressure,
        lambda: _limit(CURVE, False),
        0.01,
        "kPa",
    ),
    Case(
        "curve: collapse beside ground that falls away by 20°, undrained",
        "closed form",
        "(2 + π − 2β) c, a fan that turns by 2β less",
        float(2 + np.pi - 2 * np.deg2rad(20.0)),
        lambda: _limit(
            Section(1.0, (Layer(0.0, 1e6, 1.0, 0.0, 0.0),), 0.0, ROUGH, Load((1.0, 0.0, 0.0)), slope=20.0), False
        ),
        0.02,
    ),
    Case(
        "curve: collapse of a smooth circle, undrained",
        "from memory",
        "Shield 1955",
        5.69,
        lambda: _limit(SMOOTH, True),
        0.015,
    ),
    Case(
        "curve: collapse of a rough circle, undrained",
        "from memory",
        "Eason and Shield 1960",
        6.05,
        lambda: _limit(ROUGH_CLAY, True),
        0.015,
    ),
    Case(
        "curve: first slope of a flexible strip on an elastic layer",
        "closed form",
        "transform of Fourier, layer bonded to firm ground",
        lambda: _layer_slope(2.0, 4.0, 1e4, 0.3),
        lambda: _slope(2.0, 4.0, 1e4, 0.3),
        0.01,
        "kPa/m",
    ),
    Case(
        "curve: first tilt of a rigid smooth strip",
        "closed form",
        "4 (1 − ν²) M/(π E a²), pressures 2 M x/(π a² √(a² − x²)) on the half plane",
        4 * 0.91 * 0.4 / (np.pi * 1e4),
        _first_tilt,
        0.01,
    ),
    Case(
        "curve: collapse of a strip that is pushed and eccentric and lifts off",
        "second method",
        "mid of the bounds",
        lambda: _mid(PUSHED, 900),
        lambda: _limit(PUSHED, False),
        0.03,
        "kPa",
    ),
    Case(
        "strip: mid of the bounds, undrained, cut in two strata",
        "closed form",
        "(2 + π) c",
        30.0 * n_c(0.0),
        lambda: _mid(OVER, 900),
        0.01,
        "kPa",
    ),
)
