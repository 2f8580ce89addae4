"""Reference cases of what is read from field and laboratory tests."""

import math

import numpy as np

from korbent.core.ground.correlations import State, behaviour
from korbent.core.ground.estimates import student_t
from korbent.core.ground.oedometer import (
    Straight,
    curve_of,
    log_time,
    root_time,
    schmertmann,
    silva,
    virgin_line,
)
from korbent.core.ground.profile import profile_at
from korbent.core.model import Borehole, Ground, Oedometer, Readings, Soil, Stratum
from korbent.verification.case import Case

TIMES = (0.1, 0.25, 0.5, 1, 2, 4, 8, 15, 30, 60, 120, 240, 480, 1440)
CC, CR, E0, YIELD = 0.32, 0.04, 0.95, 300.0


def _bilinear() -> Oedometer:
    stresses = (12.5, 25.0, 50.0, 100.0, 200.0, 400.0, 800.0)

    def void(stress: float) -> float:
        return E0 - CR * math.log10(min(stress, YIELD) / 10) - CC * math.log10(max(stress / YIELD, 1))

    return Oedometer(sample="S", depth=2.0, void_ratio=E0, points=tuple((s, void(s)) for s in stresses))


def _silva() -> float:
    """By elimination on two straight lines, all in logarithms of stress."""
    corner = math.log10(YIELD) - CR / CC * math.log10(YIELD / 10)
    return float(10 ** (math.log10(YIELD) - CR / CC * (math.log10(YIELD) - corner)))


def _settled(cv: float) -> Readings:
    """Terzaghi's average degree by 400 terms of its series, 20 mm sample drained at both faces, 0.001 mm in all.

    So small a settlement leaves the drainage path at 10 mm.
    """
    m = (np.arange(400) + 0.5) * math.pi
    points = [(t, 1e-3 * float(1 - (2 / m**2 * np.exp(-(m**2) * cv * t / 1440 / 1e-4)).sum())) for t in TIMES]
    return Readings(stress=100.0, height=20.0, points=tuple(points))


def _plane(x: float, y: float) -> float:
    soil = Soil(name="A", weight=18, weight_saturated=20)
    holes = tuple(
        Borehole(
            name=str(i),
            x=a,
            y=b,
            ground_level=0.0,
            strata=(Stratum(soil="A", thickness=2 + 0.1 * a + 0.05 * b),),
        )
        for i, (a, b) in enumerate(((0.0, 0.0), (12.0, 1.0), (3.0, 14.0), (15.0, 15.0)))
    )
    profile = profile_at(Ground(soils=(soil,), boreholes=holes, interpolation="triangulated"), x, y)
    assert profile is not None
    return -float(profile.end)


def _corrected() -> float:
    virgin = Straight(YIELD, E0 - CR * math.log10(YIELD / 60.0), CC)
    return schmertmann(virgin, E0, 60.0, YIELD, CR).compression_index


SOIL_TESTS = (
    Case(
        "Cc of two straight lines",
        "closed form",
        "slope of the second",
        CC,
        lambda: virgin_line(curve_of(_bilinear())).index,
        1e-9,
    ),
    Case(
        "preconsolidation by Silva, two straight lines",
        "closed form",
        "elimination, logarithms",
        _silva(),
        lambda: silva(curve_of(_bilinear())).stress,
        1e-9,
        "kPa",
    ),
    Case(
        "Schmertmann's correction of an undisturbed curve",
        "closed form",
        "gives its own Cc back",
        CC,
        _corrected,
        1e-12,
    ),
    Case(
        "cv by log time",
        "second method",
        "readings made by Terzaghi's series",
        2e-3,
        lambda: log_time(_settled(2e-3)).value,
        0.04,
        "m²/day",
    ),
    Case(
        "cv by root time",
        "second method",
        "readings made by Terzaghi's series",
        2e-3,
        lambda: root_time(_settled(2e-3)).value,
        0.04,
        "m²/day",
    ),
    Case(
        "behaviour index of a cone test",
        "closed form",
        "expression of Robertson and Wride 1998 by hand",
        math.hypot(3.47 - math.log10(8910 / 60), math.log10(100 * 45 / 8910) + 1.22),
        lambda: (behaviour(9.0, 45.0, State(90.0, 60.0)) or (0.0, ""))[0],
        1e-12,
    ),
    Case(
        "Student's t, 95 %, 10 degrees of freedom",
        "from memory",
        "tables of the distribution",
        1.812,
        lambda: student_t(10),
        3e-4,
    ),
    Case(
        "thickness in a triangle of boreholes",
        "closed form",
        "a plane is met exactly",
        2 + 0.1 * 7 + 0.05 * 6,
        lambda: _plane(7.0, 6.0),
        1e-12,
        "m",
    ),
)
