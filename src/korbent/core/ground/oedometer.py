"""Oedometer tests: compression indices, preconsolidation by two constructions, disturbance, and cv from readings.

Stresses in kPa, void ratios without unit, times in minutes, heights in mm; cv comes out in m2/day. The e-log p curve is
straight between its points where lines are drawn through them, and a monotone cubic where a curvature is needed.
"""

import math
from dataclasses import dataclass

import numpy as np

from korbent.core.model.ground import Oedometer, Readings
from korbent.core.working import Array
from korbent.words import say


@dataclass(frozen=True)
class Straight:
    """A line in the plane of log10(stress) and void ratio: through a point, with the compression index as its fall."""

    stress: float
    void_ratio: float
    index: float

    def at(self, stress: float) -> float:
        """Void ratio at a stress."""
        return self.void_ratio - self.index * math.log10(stress / self.stress)

    def reaches(self, void_ratio: float) -> float:
        """Stress at which the line has a void ratio, kPa."""
        return float(self.stress * 10.0 ** ((self.void_ratio - void_ratio) / self.index))

    @staticmethod
    def through(first: tuple[float, float], second: tuple[float, float]) -> "Straight":
        """The line through two points (stress, void ratio)."""
        fall = (first[1] - second[1]) / math.log10(second[0] / first[0])
        return Straight(first[0], first[1], fall)


@dataclass(frozen=True)
class Curve:
    """The branches of a test: first loading up to the greatest stress, and what was unloaded and loaded again
    before."""

    stress: Array
    void_ratio: Array
    loops: tuple[tuple[tuple[float, float], tuple[float, float]], ...]
    """Unloadings as (upper point, lower point)."""
    start: float
    """Void ratio at the start of the test."""
    remarks: tuple[str, ...] = ()
    """What was taken where the test may be read in two ways."""

    def at(self, stress: float) -> float:
        """Void ratio of first loading at a stress, between the points."""
        return float(np.interp(math.log10(stress), np.log10(self.stress), self.void_ratio))


class OedometerError(ValueError):
    """A construction that a test does not allow: why."""


def curve_of(test: Oedometer) -> Curve:
    """Splits the load steps of a test into first loading and unloading loops.

    Raises:
        OedometerError: when fewer than three load steps load the sample further.
    """
    first: list[tuple[float, float]] = []
    loops: list[tuple[tuple[float, float], tuple[float, float]]] = []
    top: tuple[float, float] | None = None
    low: tuple[float, float] | None = None
    remarks: list[str] = []
    for stress, void in test.points:
        if top is not None and low is None and abs(stress - top[0]) <= SAME * top[0]:
            # wetted, or left under its load: what it is like in the end counts
            word = "swells" if void > top[1] else "falls"
            remarks.append(
                say(
                    "at {stress:g} kPa the sample {word} from {top:.3f} to {void:.3f} without more load: the state "
                    "after it is taken",
                    stress=stress,
                    word=word,
                    top=top[1],
                    void=void,
                )
            )
            top = first[-1] = (top[0], void)
        elif top is None or stress > top[0]:
            if low is not None and top is not None:
                loops.append((top, low))
            low = None
            top = (stress, void)
            first.append(top)
        elif low is None or stress <= low[0]:
            low = (stress, void)
    if low is not None and top is not None:
        loops.append((top, low))
    if len(first) < 3:
        raise OedometerError(
            say(
                "{sample}: at least three steps must load the sample beyond all before; it has {first}",
                sample=test.sample,
                first=len(first),
            )
        )
    load_steps = np.array(first, dtype=float)
    return Curve(load_steps[:, 0], load_steps[:, 1], tuple(loops), test.void_ratio, tuple(remarks))


SAME = 1e-6
"""Relative difference up to which two load steps have one stress."""


def virgin_line(curve: Curve) -> Straight:
    """The straight part of first loading: through the steepest stretch between two neighbouring load steps."""
    log = np.log10(curve.stress)
    slopes = -np.diff(curve.void_ratio) / np.diff(log)
    i = int(np.argmax(slopes))
    if slopes[i] <= 0:
        raise OedometerError(say("the void ratio does not fall under load"))
    return Straight(float(curve.stress[i]), float(curve.void_ratio[i]), float(slopes[i]))


def recompression_index(curve: Curve) -> tuple[float, str]:
    """Cr, and where it is taken from: the mean of the unloading loops, else the first stretch of loading; never of a
    step without a change of stress."""
    if curve.loops:
        falls = [(low[1] - top[1]) / math.log10(top[0] / low[0]) for top, low in curve.loops]
        return float(np.mean(falls)), say("unloading")
    fall = -(curve.void_ratio[1] - curve.void_ratio[0]) / math.log10(curve.stress[1] / curve.stress[0])
    where = say("first stretch of loading") + (f"; {curve.remarks[0]}" if curve.remarks else "")
    return float(fall), where


@dataclass(frozen=True)
class Casagrande:
    """Casagrande's construction: the point of greatest curvature, its tangent, the bisector, and where they lead."""

    point: tuple[float, float]
    tangent: Straight
    bisector: Straight
    virgin: Straight
    stress: float
    """Preconsolidation stress, kPa."""


def casagrande(curve: Curve, virgin: Straight | None = None, at: float | None = None) -> Casagrande:
    """Preconsolidation stress by Casagrande (1936).

    At the point of greatest curvature of the e-log p curve (or at the stress ``at``, chosen by eye) the angle between
    horizontal and tangent is halved; the bisector meets the virgin line at the preconsolidation stress. The angle is
    that of a sheet on which one cycle of stress is as wide as 0.5 of void ratio is high.

    Raises:
        OedometerError: when bisector and virgin line do not meet.
    """
    from scipy.interpolate import PchipInterpolator

    virgin = virgin or virgin_line(curve)
    log = np.log10(curve.stress)
    smooth = PchipInterpolator(log, curve.void_ratio)
    scale = 0.5  # void ratio on the sheet as high as one cycle of stress is wide
    if at is None:
        at = _bend(log, curve.void_ratio, scale)
    here = math.log10(at)
    if not log[0] <= here <= log[-1]:
        raise OedometerError(say("the point of greatest curvature must lie on the curve"))
    gradient = float(smooth.derivative()(here)) / scale
    void = float(smooth(here))
    half = math.tan(math.atan(gradient) / 2)
    tangent, bisector = Straight(at, void, -gradient * scale), Straight(at, void, -half * scale)
    return Casagrande((at, void), tangent, bisector, virgin, _meet(bisector, virgin))


def _bend(log: Array, void: Array, scale: float) -> float:
    """The stress of greatest curvature, kPa: where the curve turns most, between the step and its neighbour that share
    the turn.

    At each step the curve turns by the angle between its stretches. Two straight lines that meet between two steps turn
    at both, in the proportion of their distances: the centre of both turns is where they meet."""
    angle = np.arctan(-np.diff(void) / np.diff(log) / scale)
    turn = np.maximum(np.diff(angle), 0.0)
    if not turn.any():
        raise OedometerError(say("the curve does not bend downwards: choose the point of greatest curvature by eye"))
    i = int(np.argmax(turn))
    beside = [k for k in (i - 1, i + 1) if 0 <= k < len(turn)]
    j = max(beside, key=lambda k: turn[k]) if beside else i
    at = (turn[i] * log[i + 1] + turn[j] * log[j + 1]) / (turn[i] + turn[j])
    return float(10.0**at)


def _meet(a: Straight, b: Straight) -> float:
    if abs(a.index - b.index) < 1e-9:
        raise OedometerError(say("the lines of the construction are parallel: they do not meet"))
    log = (b.void_ratio - a.void_ratio + b.index * math.log10(b.stress) - a.index * math.log10(a.stress)) / (
        b.index - a.index
    )
    if not -3 < log < 7:
        raise OedometerError(say("the lines of the construction do not meet within reason"))
    return float(10.0**log)


@dataclass(frozen=True)
class Silva:
    """Silva's construction: horizontal through e0, its meeting with the virgin line, down to the curve, and across."""

    corner: tuple[float, float]
    on_curve: tuple[float, float]
    virgin: Straight
    stress: float
    """Preconsolidation stress, kPa."""


def silva(curve: Curve, virgin: Straight | None = None) -> Silva:
    """Preconsolidation stress by Pacheco Silva (1970); it does not depend on the scale of the sheet.

    The horizontal through the initial void ratio meets the virgin line extended upwards; below that point on the
    curve a second horizontal leads to the virgin line, which it meets at the preconsolidation stress.
    """
    virgin = virgin or virgin_line(curve)
    corner = virgin.reaches(curve.start)
    void = curve.at(corner) if corner >= curve.stress[0] else float(curve.void_ratio[0])
    return Silva((corner, curve.start), (corner, void), virgin, virgin.reaches(void))


@dataclass(frozen=True)
class FieldCurve:
    """The curve as the ground has it before sampling disturbs it."""

    start: tuple[float, float]
    yield_: tuple[float, float]
    end: tuple[float, float]
    compression_index: float
    recompression_index: float


def schmertmann(
    virgin: Straight, void_ratio: float, effective: float, preconsolidation: float, recompression: float
) -> FieldCurve:
    """Curve corrected for disturbance (Schmertmann 1955).

    From (sigma'v0, e0) with Cr to the preconsolidation stress (at once where it does not exceed sigma'v0), from there
    straight to the point in which the laboratory's virgin line has 0.42 e0.

    Raises:
        OedometerError: when the laboratory's line ends left of the preconsolidation stress.
    """
    yield_stress = max(preconsolidation, effective)
    e_p = void_ratio - recompression * math.log10(yield_stress / effective)
    end = virgin.reaches(0.42 * void_ratio)
    if end <= yield_stress:
        raise OedometerError(
            say("the virgin line has 0.42 e0 left of the preconsolidation stress: the correction has no meaning")
        )
    index = (e_p - 0.42 * void_ratio) / math.log10(end / yield_stress)
    return FieldCurve((effective, void_ratio), (yield_stress, e_p), (end, 0.42 * void_ratio), index, recompression)


# ---------------------------------------------------------------- rate of consolidation

MINUTES = 1440.0


@dataclass(frozen=True)
class Rate:
    """cv from the readings of one load step: construction points as (time in min, settlement in mm)."""

    method: str
    start: float
    """Settlement at the beginning of primary consolidation, mm."""
    end: float
    """Settlement at its end, mm."""
    time: float
    """t50 (log time) or t90 (root time), min."""
    drainage: float
    """Drainage path, mm: half the mean height."""
    value: float
    """cv, m2/day."""


def _drainage(readings: Readings, middle: float) -> float:
    return (readings.height - middle) / 2.0


def log_time(readings: Readings) -> Rate:
    """cv by Casagrande's log-time construction: cv = 0.197 d^2 / t50 (Taylor 1948).

    The start follows from the parabola of the early readings, d0 = 2 d(t) - d(4 t); the end where the tangent at the
    steepest part meets the straight line of the last readings.

    Raises:
        OedometerError: when the readings do not show both.
    """
    t, d = _columns(readings, 6)
    log = np.log10(t)
    first = float(t[0])
    if 4 * first > t[-1]:
        raise OedometerError(say("the readings are too few for the parabola at the start"))
    start = 2 * float(d[0]) - float(np.interp(math.log10(4 * first), log, d))
    slopes = np.diff(d) / np.diff(log)
    i = int(np.argmax(slopes))
    tail = np.polyfit(log[-3:], d[-3:], 1)
    if slopes[i] <= 0 or slopes[i] <= 1.5 * tail[0]:
        raise OedometerError(say("the curve shows no turn into a final straight line: read longer"))
    lo, hi = max(i - 1, 0), min(i + 3, len(t))
    steep = np.polyfit(log[lo:hi], d[lo:hi], 1) if len(t) > 12 else np.array([slopes[i], d[i] - slopes[i] * log[i]])
    meet = (tail[1] - steep[1]) / (steep[0] - tail[0])
    end = float(np.polyval(tail, meet))
    half = (start + end) / 2
    if not d[0] < half < d[-1]:
        raise OedometerError(say("the middle of primary consolidation lies outside the readings"))
    t50 = float(10.0 ** np.interp(half, d, log))
    path = _drainage(readings, half)
    return Rate(say("log time"), start, end, t50, path, 0.197 * path**2 / t50 * 1e-6 * MINUTES)


def root_time(readings: Readings) -> Rate:
    """cv by Taylor's root-time construction: cv = 0.848 d^2 / t90 (Taylor 1948).

    The early readings lie on a straight line over the root of time; a line with 1.15 times its abscissae meets the
    curve at 90 %.

    Raises:
        OedometerError: when the second line does not meet the curve.
    """
    t, d = _columns(readings, 5)
    root = np.sqrt(t)
    best: tuple[float, Array] | None = None
    for count in range(3, max(4, int(0.6 * len(t)) + 1)):
        line = np.polyfit(root[:count], d[:count], 1)
        # the straight part: the longest one whose readings stay within a hundredth of its rise
        off = float(np.abs(np.polyval(line, root[:count]) - d[:count]).max())
        if best is None or off <= 0.012 * float(d[-1] - d[0]):
            best = (off, line)
    assert best is not None
    slope, start = float(best[1][0]), float(best[1][1])
    if slope <= 0:
        raise OedometerError(say("the early readings do not settle"))
    fine = np.linspace(root[0], root[-1], 4001)
    settled = np.interp(fine, root, d)
    above = settled - (start + slope / 1.15 * fine)
    crossing = np.nonzero((above[:-1] >= 0) & (above[1:] < 0))[0]
    if not len(crossing):
        raise OedometerError(say("the line of 1.15 does not meet the curve: read longer"))
    i = int(crossing[0])
    at = float(fine[i] + (fine[i + 1] - fine[i]) * above[i] / (above[i] - above[i + 1]))
    d90 = float(np.interp(at, root, d))
    end = start + (d90 - start) / 0.9
    path = _drainage(readings, (start + end) / 2)
    return Rate(say("root time"), start, end, at**2, path, 0.848 * path**2 / at**2 * 1e-6 * MINUTES)


def _columns(readings: Readings, least: int) -> tuple[Array, Array]:
    points = [(t, d) for t, d in readings.points if t > 0]
    if len(points) < least:
        raise OedometerError(
            say(
                "the step to {stress:g} kPa has {points} readings; at least {least} are needed",
                stress=readings.stress,
                points=len(points),
                least=least,
            )
        )
    t, d = (np.array(v, dtype=float) for v in zip(*points))
    if d.max() - d.min() < 1e-4:
        raise OedometerError(say("the step to {stress:g} kPa shows no settlement", stress=readings.stress))
    if np.any(np.diff(d) < 0):
        d = np.maximum.accumulate(d)
    # equal settlements have no time of their own
    return t, d + np.arange(len(d)) * 1e-12
