"""Constructions for oedometer tests against curves whose answer is known."""

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from korbent.core.ground.oedometer import (
    OedometerError,
    Straight,
    casagrande,
    curve_of,
    log_time,
    recompression_index,
    root_time,
    schmertmann,
    silva,
    virgin_line,
)
from korbent.core.model import Oedometer, Readings

STRESSES = (12.5, 25.0, 50.0, 100.0, 200.0, 400.0, 800.0, 1600.0)
TIMES = (0.1, 0.25, 0.5, 1, 2, 4, 8, 15, 30, 60, 120, 240, 480, 1440)


def bilinear(yield_stress: float, Cc: float, Cr: float, e0: float = 0.95) -> Oedometer:
    """A test whose curve is two straight lines that meet at the preconsolidation stress."""

    def void(stress: float) -> float:
        first = Cr * math.log10(min(stress, yield_stress) / 10.0)
        return e0 - first - Cc * math.log10(max(stress / yield_stress, 1.0))

    return Oedometer(sample="S", depth=3.0, void_ratio=e0, points=tuple((s, void(s)) for s in STRESSES))


def degree(factor: float) -> float:
    """Terzaghi's average degree of consolidation by its series, for T above 0.2; else 2 sqrt(T/pi)."""
    if factor < 0.2:
        return 2 * math.sqrt(factor / math.pi)
    m = (np.arange(60) + 0.5) * math.pi
    return float(1 - (2 / m**2 * np.exp(-(m**2) * factor)).sum())


def readings(cv: float, height: float, start: float, primary: float, creep: float) -> Readings:
    """Readings of a sample drained at both faces; cv in m2/day, lengths in mm."""
    path = height / 2 * 1e-3
    points = [(t, start + primary * degree(cv * t / 1440 / path**2) + creep * math.log10(1 + t / 100)) for t in TIMES]
    return Readings(stress=200.0, height=height, points=tuple(points))


@given(st.floats(90, 350), st.floats(0.2, 0.6), st.floats(0.02, 0.05))
def test_indices_are_those_of_the_curve(yield_stress: float, Cc: float, Cr: float) -> None:
    curve = curve_of(bilinear(yield_stress, Cc, Cr))
    assert virgin_line(curve).index == pytest.approx(Cc, rel=1e-9)
    index, where = recompression_index(curve)
    assert index == pytest.approx(Cr, rel=1e-9)
    assert where == "first stretch of loading"


@given(st.floats(90, 350), st.floats(0.2, 0.6), st.floats(0.02, 0.05))
def test_silva_on_two_lines_has_a_closed_form(yield_stress: float, Cc: float, Cr: float) -> None:
    """The corner lies at sigma_p (sigma_p/10)^(-Cr/Cc); the answer Cr/Cc of the way from there, all in logarithms."""
    test = bilinear(yield_stress, Cc, Cr)
    found = silva(curve_of(test))
    corner = yield_stress * (yield_stress / 10.0) ** (-Cr / Cc)
    assert found.corner[0] == pytest.approx(corner, rel=1e-9)
    # below the corner the curve is known between its steps only where both lie left of the yield stress
    before = max(s for s in STRESSES if s <= corner)
    after = min(s for s in STRESSES if s > corner)
    assume(after <= yield_stress and before >= STRESSES[0])
    void = 0.95 - Cr * math.log10(corner / 10.0)
    expected = yield_stress * 10 ** ((0.95 - Cr * math.log10(yield_stress / 10) - void) / Cc)
    assert found.stress == pytest.approx(expected, rel=1e-9)
    assert corner < found.stress < yield_stress


@given(st.floats(100, 300), st.floats(0.25, 0.5), st.floats(0.02, 0.04))
def test_casagrande_finds_the_bend(yield_stress: float, Cc: float, Cr: float) -> None:
    found = casagrande(curve_of(bilinear(yield_stress, Cc, Cr)))
    assert 0.7 < found.stress / yield_stress < 1.4
    # with the bend chosen by eye at the corner of the two lines the bisector starts there: both meet at it
    assert found.bisector.index == pytest.approx(0.5 * math.tan(math.atan(found.tangent.index / 0.5) / 2), rel=1e-9)
    assert found.virgin.at(found.stress) == pytest.approx(found.bisector.at(found.stress), abs=1e-9)


def test_schmertmann_without_disturbance_gives_the_curve_back() -> None:
    """A laboratory curve that is the field curve: its virgin line is reached again, so Cc stays."""
    Cc, Cr, e0, effective, yield_stress = 0.4, 0.04, 0.95, 60.0, 150.0
    e_p = e0 - Cr * math.log10(yield_stress / effective)
    virgin = Straight(yield_stress, e_p, Cc)
    found = schmertmann(virgin, e0, effective, yield_stress, Cr)
    assert found.compression_index == pytest.approx(Cc, rel=1e-12)
    assert found.yield_ == pytest.approx((yield_stress, e_p))
    # a disturbed sample lies below: the corrected index is greater
    lower = schmertmann(Straight(yield_stress, e_p - 0.05, Cc - 0.05), e0, effective, yield_stress, Cr)
    assert lower.compression_index > Cc - 0.05
    # normally consolidated: the yield point is the start
    normal = schmertmann(virgin, e0, 200.0, 150.0, Cr)
    assert normal.yield_ == normal.start


def test_unloading_gives_the_recompression_index() -> None:
    points = (
        (25, 0.90),
        (50, 0.88),
        (100, 0.85),
        (200, 0.78),
        (50, 0.80),
        (12.5, 0.82),
        (200, 0.775),
        (400, 0.69),
        (800, 0.60),
    )
    curve = curve_of(Oedometer(sample="S", depth=3.0, void_ratio=0.92, points=points))
    assert list(curve.stress) == [25, 50, 100, 200, 400, 800]
    index, where = recompression_index(curve)
    assert where == "unloading"
    assert index == pytest.approx((0.82 - 0.78) / math.log10(16), rel=1e-12)


@given(st.floats(1.5e-3, 8e-3), st.floats(0.0, 0.1), st.floats(0.4, 1.2), st.floats(0.0, 0.02))
def test_cv_of_a_theoretical_curve(cv: float, start: float, primary: float, creep: float) -> None:
    """Both constructions give back the cv of Terzaghi's theory from its own settlements within a few percent."""
    sample = readings(cv, 20.0, start, primary, creep)
    # drainage path over the mean height is a little shorter than that of the theory
    shorter = ((20.0 - start - primary / 2) / 20.0) ** 2
    assert root_time(sample).value == pytest.approx(cv * shorter, rel=0.12)
    assert log_time(sample).value == pytest.approx(cv * shorter, rel=0.12)


def test_what_has_no_answer_says_why() -> None:
    with pytest.raises(OedometerError, match="at least three steps"):
        curve_of(Oedometer(sample="S", depth=1.0, void_ratio=0.9, points=((50, 0.88), (100, 0.85), (50, 0.86))))
    flat = Readings(stress=100.0, points=((0.1, 0.1), (1, 0.1), (10, 0.1), (100, 0.1), (1000, 0.1), (1440, 0.1)))
    with pytest.raises(OedometerError):
        log_time(flat)
    with pytest.raises(OedometerError):
        root_time(flat)
    short = Readings(stress=100.0, points=((1, 0.1), (2, 0.2)))
    with pytest.raises(OedometerError, match="2 readings"):
        log_time(short)
    with pytest.raises(OedometerError, match="must lie on the curve"):
        casagrande(curve_of(bilinear(100, 0.3, 0.03)), at=5.0)


def test_a_sample_that_swells_under_its_load_has_no_traceback() -> None:
    """Two steps share a stress: the state after the wetting is taken, and it is said."""
    points = ((25.0, 0.80), (25.0, 0.83), (50.0, 0.81), (100.0, 0.77), (200.0, 0.70), (400.0, 0.61))
    curve = curve_of(Oedometer(sample="S", depth=3.0, void_ratio=0.82, points=points))
    assert list(curve.stress) == [25.0, 50.0, 100.0, 200.0, 400.0]
    assert curve.void_ratio[0] == 0.83
    index, where = recompression_index(curve)
    assert index == pytest.approx(0.02 / math.log10(2))
    assert "swells from 0.800 to 0.830" in where
    collapsed = curve_of(
        Oedometer(
            sample="S",
            depth=3.0,
            void_ratio=0.82,
            points=((25.0, 0.80), (50.0, 0.79), (50.0, 0.72), (100.0, 0.70), (200.0, 0.6)),
        )
    )
    assert "falls" in collapsed.remarks[0]


def test_an_unloading_without_a_change_of_stress_is_no_loop() -> None:
    points = ((50.0, 0.81), (100.0, 0.77), (100.0, 0.77), (200.0, 0.70), (400.0, 0.61))
    curve = curve_of(Oedometer(sample="S", depth=3.0, void_ratio=0.82, points=points))
    assert curve.loops == ()
    assert math.isfinite(recompression_index(curve)[0])
