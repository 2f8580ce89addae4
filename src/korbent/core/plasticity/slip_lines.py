"""The exact bearing capacity of a strip on uniform ground with c, phi, gamma and a surcharge, by the method of
characteristics.

Stresses are positive in compression, x runs outwards from the edge of the base, z downwards. With the mean stress s,
the radius of Mohr's circle R = c cos(phi) + s sin(phi) and the angle theta of the major principal stress from the
vertical (dx/dz = tan(theta) along it) the characteristics are dx/dz = tan(theta -+ eps), eps = pi/4 - phi/2, and along
them (Kötter 1903, Sokolovskii 1965)

    alpha:  ds - 2 R/cos(phi) dtheta = gamma (dz + tan(phi) dx)
    beta:   ds + 2 R/cos(phi) dtheta = gamma (dz - tan(phi) dx)

From the free surface (theta = pi/2) through the fan at the edge to the base. Smooth: theta = 0 on the base, each half
by itself (Hill).
Rough: a rigid wedge, bounded by the alpha line from the edge, or from the last point at which the base slides, down to
the middle, where theta = 0. Between smooth and rough the base slides further in, at the angle of its own friction.
Trapezoidal rule, three grids, Richardson's extrapolation twice. That this is the collapse load, not only a lower bound,
was shown by Martin (2005) by extending stress and velocity fields."""

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from korbent.words import say

Array = NDArray[np.float64]
GRIDS = (16, 32, 64)
"""Points on the free surface of the three grids: what is left is about 1e-8."""
GRIDS_ALONE = (20, 40, 80)
"""With weight alone: about 1e-6."""
FINE_GRIDS = (40, 80, 160)
"""And then below a rough base on strong ground, a smooth one on weak ground."""
GRADED, GRADED_SMOOTH, GRADED_ROUGH = 4.0, 6.0, (2.0, 12.0)
"""Points lie nearer to each other towards the edge, by this power; more so where there is weight alone, whose stresses
begin at nothing:
below a rough base from the one on weak ground to the other from 30 degrees on."""
SWEEPS = 30
"""Of the trapezoidal rule at a point, at most."""
CLOSE = 1e-11
WILD = 0.1
"""Theta of a parallelogram so far from the mean of both lines is not gone on from, rad."""
MOST_SHARE = 0.9
"""Of one change to the one before, with which a series goes on."""
SETTLED, FAINT = 1e-6, 1e-6
"""Change of theta below which a point with hardly any stress is not waited for; share of the greatest stress of a front
that is hardly any."""
SLIGHT, ENOUGH = 1e-6, 3e-10
"""Change of an unknown for a slope; what is left of a condition that holds."""
MOSTLY_WEIGHT = 10.0
"""Weight of the width over cohesion and surcharge from which on a field is begun as that of weight alone."""
MOST_STEPS, LARGEST_STEP = 20, 0.2
"""Of Broyden's method: how many, and by how much an unknown changes in one at most."""
MOST_TURN = 1.985
"""Of the unknown of a rough base: up to 1 the share of the fan between theta = 0 and the slip limit; what is beyond 1
is the share of the graded free surface from which lines lead to where the base slides."""


@dataclass(frozen=True)
class Strip:
    """A strip of width B (m) at the surface of uniform ground: c (kPa), phi (degrees), gamma (kN/m3), surcharge q
    (kPa)."""

    B: float
    c: float
    phi: float
    gamma: float
    q: float
    roughness: float = 1.0
    """Share of c and tan(phi) that acts below the base: 1 rough, 0 smooth."""

    @property
    def rough(self) -> bool:
        """Shear acts below the base."""
        return self.roughness > 0

    @property
    def sliding_angle(self) -> float:
        """Theta where the base slides (rad, negative): tan(delta) is the roughness times tan(phi), and the major
        principal stress lies (delta + asin(sin(delta)/sin(phi)))/2 from the vertical (Mohr's circle with its centre
        shifted by c cot(phi))."""
        f = np.deg2rad(self.phi)
        delta = np.arctan(self.roughness * np.tan(f))
        share = min(float(np.sin(delta) / np.sin(f)), 1.0) if self.phi else self.roughness
        return -float(delta + np.arcsin(share)) / 2


@dataclass(frozen=True)
class Exact:
    """The exact load per area of the base (kPa), and how it was found."""

    pressure: float
    wedge: float
    """Depth of the rigid wedge below the middle, m; 0 below a smooth base."""
    sliding: float
    """Length at each edge on which a rough base slides, m."""
    reach: float
    """How far the slip lines reach beyond the edge, m."""
    error: float
    """Share by which the second extrapolation changed the first: what is left is less."""


def exact(strip: Strip) -> Exact:
    """The exact bearing pressure of a strip.

    Raises:
        ValueError: where there is no strength, an angle beyond 50 degrees, a negative value, or no width.
    """
    if not 0.0 <= strip.phi <= 50.0:
        raise ValueError(say("a friction angle of {phi:g}° is beyond what this method solves: 0 to 50°", phi=strip.phi))
    if not 0 <= strip.roughness <= 1:
        raise ValueError(
            say("a roughness of {roughness:g} is beyond 0 (smooth) to 1 (rough)", roughness=strip.roughness)
        )
    if min(strip.c, strip.gamma, strip.q) < 0 or strip.B <= 0:
        raise ValueError(say("c, γ and q must not be negative, and the width must be greater than zero"))
    if strip.c == 0 and (strip.phi == 0 or (strip.gamma == 0 and strip.q == 0)):
        raise ValueError(say("there is no strength: give c, or φ with γ or q"))
    with np.errstate(all="ignore"):  # fields that do not close are tried and left
        return _exact(strip)


def n_c(phi: float) -> float:
    """N_c of a strip in closed form (Prandtl 1920): (N_q - 1) cot(phi), 2 + pi without friction."""
    return 2.0 + float(np.pi) if phi == 0 else (n_q(phi) - 1.0) / float(np.tan(np.deg2rad(phi)))


def n_q(phi: float) -> float:
    """N_q of a strip in closed form (Reissner 1924): e^(pi tan(phi)) tan²(45° + phi/2)."""
    f = np.deg2rad(phi)
    return float(np.exp(np.pi * np.tan(f)) * np.tan(np.pi / 4 + f / 2) ** 2)


@lru_cache(maxsize=256)
def n_gamma(phi: float, roughness: float = 1.0) -> float:
    """N_gamma of a strip without cohesion and surcharge, by slip lines: the pressure over gamma B/2."""
    if phi == 0:
        return 0.0
    return exact(Strip(1.0, 0.0, phi, 2.0, 0.0, roughness)).pressure


@lru_cache(maxsize=256)
def _exact(strip: Strip) -> Exact:
    f = np.deg2rad(strip.phi)
    if (
        strip.gamma == 0 or strip.phi == 0
    ):  # straight lines, and without friction weight changes nothing: the closed forms
        pressure = strip.c * n_c(strip.phi) + strip.q * n_q(strip.phi)
        share = 1.0 if strip.rough else 0.5
        reach = strip.B * share * float(np.tan(np.pi / 4 + f / 2) * np.exp(np.pi / 2 * np.tan(f)))
        wedge = strip.B / 2 * float(np.tan(np.pi / 4 + f / 2)) if strip.rough else 0.0
        return Exact(pressure, wedge, 0.0, reach, 0.0)
    found: list[_Field] = []
    hard = strip.phi > 35 if strip.rough else strip.phi < 10
    for count in GRIDS if not _alone(strip) else FINE_GRIDS if hard else GRIDS_ALONE:
        found.append(_refined(strip, count, found) if found else _solved(strip, count))
    one, two, three = (f.pressure for f in found)
    first, second = two + (two - one) / 3.0, three + (three - two) / 3.0
    pressure = second + (second - first) / 15.0
    fine = found[-1]
    return Exact(pressure, fine.wedge, fine.sliding, fine.reach, abs(pressure - second) / pressure)


@dataclass(frozen=True)
class _Field:
    """A field: what it carries, its geometry, and the unknown of a rough base that it was made with."""

    pressure: float
    half: float
    """Half the width of the base that it ends at."""
    wedge: float
    sliding: float
    reach: float
    turn: float
    lines: int
    """Lines that lead to where the base slides."""
    tip: float
    """Theta at the tip of the wedge."""
    slope: Array | None = None
    """How what is left of the conditions changes with the unknowns, as it was known at last."""

    def scaled(self, k: float) -> "_Field":
        """So many times as large, where stresses go with the size."""
        return replace(
            self,
            pressure=self.pressure * k,
            half=self.half * k,
            wedge=self.wedge * k,
            sliding=self.sliding * k,
            reach=self.reach * k,
        )


def _alone(strip: Strip) -> bool:
    """Weight alone: any size of the field is as good as any other."""
    return strip.c == 0 and strip.q == 0


def _solved(strip: Strip, count: int) -> _Field:
    """The field that ends in the middle of the base, from nothing: both unknowns at once, where that leads nowhere one
    within the other."""
    return (_at_once(strip, count) if strip.rough else None) or _nested(strip, count)


def _at_once(strip: Strip, count: int) -> _Field | None:
    """Size and turn by Broyden's method from those of ground without weight, or of weight alone; None where that leads
    nowhere."""
    f = np.deg2rad(strip.phi)
    reach = strip.B * float(np.tan(np.pi / 4 + f / 2) * np.exp(np.pi / 2 * np.tan(f)))
    alone = 1.95 - 0.006 * strip.phi
    weighty = strip.gamma * strip.B > MOSTLY_WEIGHT * (strip.c + strip.q)
    for turn in (alone,) if _alone(strip) else (alone - 0.2, 1.3, 0.9) if weighty else (0.9, 0.5, 1.3):
        own = _lines(count, turn - 1.0) if turn > 1.0 else 0
        start: _Field | None = _field(strip, reach, turn, count, own)
        if start is None or not (np.isfinite(start.half) and np.isfinite(start.tip) and start.half > 0):
            continue
        if not _alone(strip):  # about as large as it has to be
            start = replace(start, reach=reach * min(max(strip.B / 2 / start.half, 0.2), 1.5))
        for _ in range(4):
            start = _broyden(strip, count, start, own)
            if start is None:
                break
            lines = _lines(count, start.turn - 1.0) if start.turn > 1.0 else 0
            if lines == own:
                return start
            own = lines
    return None


def _nested(strip: Strip, count: int) -> _Field:
    """As :func:`_solved`: size by the secant, the unknown of a rough base within."""
    f = np.deg2rad(strip.phi)
    size = strip.B * float(np.tan(np.pi / 4 + f / 2) * np.exp(np.pi / 2 * np.tan(f)))
    turn, own = 0.5, 0

    def field_of(size: float) -> _Field:
        nonlocal turn, own
        if not strip.rough:
            return _field(strip, size, 0.0, count, 0)
        found = _turned(strip, size, count, turn, own, 0.02 if own else 0.2)
        if found.turn > 1.0 and own != _lines(count, found.turn - 1.0):
            own = _lines(count, found.turn - 1.0)
            found = _turned(strip, size, count, found.turn, own, 0.02)
        turn = found.turn
        return found

    made = field_of(size)
    if _alone(strip):
        return made.scaled(strip.B / 2 / made.half)
    sizes, ends = [size, 1.02 * size], [made.half / (strip.B / 2) - 1.0]
    for _ in range(30):
        if abs(ends[-1]) < 1e-9:
            break
        made = field_of(sizes[-1])
        ends.append(made.half / (strip.B / 2) - 1.0)
        change = ends[-1] - ends[-2]
        if not change:
            break
        sizes.append(max(sizes[-1] - ends[-1] * (sizes[-1] - sizes[-2]) / change, 0.3 * sizes[-1]))
    return made


def _refined(strip: Strip, count: int, coarser: list[_Field]) -> _Field:
    """The field of a finer grid from those of coarser ones: both unknowns at once, from nothing where that does not
    lead there."""
    start = coarser[-1]
    if not strip.rough and _alone(strip):
        made = _field(strip, start.reach, 0.0, count, 0)
        return made.scaled(strip.B / 2 / made.half)
    ahead = start
    if len(coarser) > 1:  # what they were off goes with the square of the spacing
        before = coarser[-2]
        turn = start.turn + (start.turn - before.turn) / 4
        ahead = replace(start, reach=start.reach + (start.reach - before.reach) / 4, turn=min(turn, MOST_TURN))
    return (
        _broyden(strip, count, ahead, 2 * start.lines, start.slope)
        or _broyden(strip, count, start, 2 * start.lines)
        or _solved(strip, count)
    )


def _broyden(strip: Strip, count: int, start: _Field, own: int, known: Array | None = None) -> _Field | None:
    """The field near another one that ends where it should, by Broyden's method; None where that leads nowhere.

    Args:
        known: the slope to begin with; by differences where there is none.
    """
    free = [name for name, on in (("size", not _alone(strip)), ("turn", strip.rough)) if on]

    def at(x: Array) -> tuple[Array, _Field]:
        values = dict(zip(free, map(float, x)))
        made = _field(strip, values.get("size", 1.0) * start.reach, values.get("turn", 0.0), count, own)
        left = [made.half / (strip.B / 2) - 1.0] * (not _alone(strip)) + [made.tip] * strip.rough
        return np.array(left), made

    x = np.array([1.0 if name == "size" else start.turn for name in free])
    left, made = at(x)
    slope = known
    if slope is None:
        slope = np.array([(at(x + step)[0] - left) / SLIGHT for step in SLIGHT * np.eye(len(x))]).T
    for _ in range(MOST_STEPS):
        if not np.all(np.isfinite(left)) or not np.all(np.isfinite(slope)) or abs(np.linalg.det(slope)) < 1e-12:
            return None
        if np.max(np.abs(left)) < ENOUGH:
            found = made.scaled(strip.B / 2 / made.half) if _alone(strip) else made
            return replace(found, slope=slope)
        step = -np.linalg.solve(slope, left)
        step *= min(1.0, LARGEST_STEP / float(np.max(np.abs(step))))
        x = x + step
        if x[0] <= 0.05 or (strip.rough and not 0.0 <= x[-1] <= MOST_TURN):
            return None
        new, made = at(x)
        slope = slope + np.outer(new - left - slope @ step, step) / float(step @ step)
        left = new
    return None


def _turned(strip: Strip, size: float, count: int, first: float, own: int, apart: float) -> _Field:
    """The field below a rough base at whose tip theta = 0: the unknown is first bracketed, then found by Brent's
    method."""
    from scipy.optimize import brentq  # loaded only where something is solved

    def tip(turn: float) -> float:
        found = _field(strip, size, turn, count, own).tip
        return found if np.isfinite(found) else -1.0  # beyond where slip lines still meet

    low, high = max(first - apart, 0.0), min(first + apart, MOST_TURN)
    a, b = tip(low), tip(high)
    while not a * b <= 0:
        if low <= 0.0 and high >= MOST_TURN:
            raise ValueError(say("no slip lines were found for this strip; its bounds can be asked for"))
        apart *= 2
        low, high = max(low - apart, 0.0), min(high + apart, MOST_TURN)
        a, b = tip(low), tip(high)
    made = _field(strip, size, float(brentq(tip, low, high, xtol=1e-11, rtol=1e-11)), count, own)
    if not abs(made.tip) < 1e-6:
        raise ValueError(say("no slip lines were found for this strip; its bounds can be asked for"))
    return made


# ---------------------------------------------------------------- marching


@dataclass
class _March:
    """One step of the way from two points to the next; points are rows x, z, s, theta."""

    strip: Strip

    def __post_init__(self) -> None:
        f = np.deg2rad(self.strip.phi)
        self.sin, self.cos, self.tan = float(np.sin(f)), float(np.cos(f)), float(np.tan(f))
        self.eps = float(np.pi / 4 - f / 2)
        self.alone = _alone(self.strip)

    def radius(self, s: Array) -> Array:
        return np.asarray(self.strip.c * self.cos + s * self.sin)

    def meet(self, a: Array, b: Array, behind: Array) -> Array:
        """Where alpha lines from points ``a`` meet beta lines from points ``b`` (4, n), the fourth corner of the mesh
        ``behind``: the trapezoidal rule, by repetition."""
        # rows of both lines side by side, so that every sum is made once
        x2, z2, s2, t2 = np.array((a, b)).swapaxes(0, 1)
        g = self.strip.gamma
        steep, slope = np.array(((-self.eps,), (self.eps,))), np.array(((g * self.tan,), (-g * self.tan,)))
        # to begin with, a parallelogram
        t, s = t2[0] + t2[1] - behind[3], s2[0] + s2[1] - behind[2]
        if self.alone:  # near where stresses begin at nothing that may lie anywhere
            mean = (t2[0] + t2[1]) / 2
            wild = (s <= 0) | (np.abs(t - mean) > WILD)
            t, s = np.where(wild, mean, t), np.where(wild, (s2[0] + s2[1]) / 2, s)
        half, between = t2 / 2 + steep, x2[1] - x2[0]
        # of both ends, 2 R/cos(phi) in the mean and what stress and place give
        start, known = (self.radius(s2) + self.strip.c * self.cos) / self.cos, s2 - g * z2 - slope * x2
        before = change = np.zeros((2, len(t)))
        for sweep in range(SWEEPS):
            way = np.tan(half + t / 2)
            at = way * z2
            z = (between + at[0] - at[1]) / (way[0] - way[1])
            x = x2[0] + way[0] * z - at[0]
            k = start + s * self.tan
            along = known + g * z + slope * x
            both = k[0] + k[1]
            turned = k * t2
            turned = along[1] - along[0] + turned[0] + turned[1]
            # none at a point without stress: theta is then that of the neighbours
            new = np.where(both > 0, turned / np.where(both > 0, both, 1.0), t) if self.alone else turned / both
            s_new = along[0] + k[0] * (new - t2[0])
            apart = np.abs(new - t)
            if sweep % 3:
                change = np.array((new - t, s_new - s))
            t, s = new, s_new
            if self._settled(apart, both):
                return np.array((x, z, s, t))
            # each goes on as a geometric series, to its end (Aitken 1926): where stresses begin at nothing points come
            # to rest slowly
            if sweep % 3 == 2:
                share = np.clip(change / np.where(before != 0, before, 1.0), -MOST_SHARE, MOST_SHARE)
                ahead = change * share / (1.0 - share)
                t, s = t + ahead[0], s + ahead[1]
            before = change
        # next to the edge, where there is hardly any stress, theta is hardly anything either
        left = float(apart[both > FAINT * both.max()].max(initial=0.0))
        # points that do not come to rest are none
        return np.array((x, z, s, t)) if left < 1e-2 else np.full((4, len(t)), np.nan)

    def _settled(self, apart: Array, both: Array) -> bool:
        """Whether theta has come to rest; with weight alone points with hardly any stress are not waited for."""
        most = float(apart.max())
        if most < CLOSE or not self.alone or not most < SETTLED:
            return most < CLOSE
        return bool(apart[both > FAINT * both.max()].max(initial=0.0) < CLOSE)

    def on_base(self, b: Array, theta: float) -> Array:
        """Where the beta line from a point (4,) reaches the base, on which theta is given."""
        xb, zb, sb, tb = (float(v) for v in b)
        x = xb - zb * float(np.tan((tb + theta) / 2 + self.eps))
        g, rb, s = self.strip.gamma, float(self.radius(np.array(sb))), sb
        for _ in range(80):
            k = (rb + self.strip.c * self.cos + s * self.sin) / self.cos
            new = sb - k * (theta - tb) + g * (-zb - self.tan * (x - xb))
            if abs(new - s) < CLOSE * (1 + abs(new)):
                break
            s = new
        return np.array([x, 0.0, s, theta])


def _lines(count: int, slides: float) -> int:
    """How many of the lines lead to where the base slides; some are left for both parts."""
    return min(max(round(count * slides), 1), 3 * count // 4)


def _surface(strip: Strip, size: float, slides: float, count: int, own: int) -> Array:
    """Places of the points on the free surface: the first ``own`` of them within the share ``slides`` of the way."""
    if own == 0 or slides <= 0.0:
        way = np.linspace(0.0, 1.0, count + 1)
    else:
        way = np.concatenate(
            [slides * np.arange(own) / own, slides + (1.0 - slides) * np.arange(count - own + 1) / (count - own)]
        )
    graded = GRADED
    if _alone(strip):
        low, high = GRADED_ROUGH
        graded = low + (high - low) * min(strip.phi / 30.0, 1.0) if strip.rough else GRADED_SMOOTH
    return np.asarray(size * way**graded)


def _field(strip: Strip, size: float, turn: float, count: int, own: int) -> _Field:
    """The field from a free surface of that size, by wave fronts: point j of a front lies where the alpha line that
    goes through point j - 1 of the front before meets the beta line j."""
    march = _March(strip)
    limit = strip.sliding_angle
    slides = max(turn - 1.0, 0.0) if strip.rough else 0.0
    if strip.rough and slides > 0.0 and own == 0:
        own = _lines(count, slides)
    last = min(turn, 1.0) * limit if strip.rough else 0.0
    fan = count if strip.rough else max(count // 2, 8)
    surface = _surface(strip, size, slides, count, own)
    sliding = (own if slides > 0.0 else 0) if strip.rough else count
    c, q = strip.c, strip.q
    s0 = (q + c * march.cos) / (1 - march.sin)
    turns = np.linspace(np.pi / 2, last, fan + 1)
    s = (float(march.radius(np.array(s0))) * np.exp(-2 * march.tan * (turns - np.pi / 2)) - c * march.cos) / march.sin
    edge = np.array([np.zeros(fan + 1), np.zeros(fan + 1), s, turns])
    n = len(surface)
    behind = front = np.array([surface, np.zeros(n), np.full(n, s0), np.full(n, np.pi / 2)])
    base, wedge = [edge[:, -1]], []
    first = 0
    """The first line of the front that still goes on."""
    steps = fan + count + sliding
    for step in range(1, steps + 1):
        beyond = step - fan
        new = front.copy()
        low = first + 1 if beyond > 0 and beyond % 2 == 0 and beyond // 2 <= sliding else max(first, 1)
        if beyond > 0 and beyond % 2 == 0 and beyond // 2 <= sliding:
            first = beyond // 2
            new[:, first] = march.on_base(front[:, first], 0.0 if not strip.rough else limit)
            base.append(new[:, first])
            low = first + 1
        elif beyond > 0 and beyond % 2 == 1:
            low = (beyond + 1) // 2 if (beyond + 1) // 2 <= sliding else first + 1
        if beyond > 2 * sliding:
            low = beyond - sliding
        if step <= fan:
            new[:, 0] = edge[:, step]
            low = 1
        if low <= count:
            new[:, low:] = march.meet(front[:, low - 1 : count], front[:, low:], behind[:, low - 1 : count])
        behind, front = front, new
        if strip.rough and beyond >= 2 * sliding:
            wedge.append(front[:, beyond - sliding].copy())
    return _measured(march, np.array(base).T, np.array(wedge).T if strip.rough else None, size, turn, own)


def _measured(march: _March, base: Array, wedge: Array | None, size: float, turn: float, lines: int) -> _Field:
    """What is carried: vertical equilibrium of all that lies within the sliding base and the line of the wedge."""
    paths = (base,) if wedge is None else (base, wedge)
    end = paths[-1]
    half = -float(end[0, -1])
    load = 0.0
    for x, z, s, t in paths:
        r = march.radius(s)
        vertical, shear = s + r * np.cos(2 * t), r * np.sin(2 * t)
        load += float(
            np.sum(-(vertical[1:] + vertical[:-1]) / 2 * np.diff(x) + (shear[1:] + shear[:-1]) / 2 * np.diff(z))
        )
    deep, tip = 0.0, 0.0
    if wedge is not None:
        load -= march.strip.gamma * float(np.sum((wedge[1, 1:] + wedge[1, :-1]) / 2 * -np.diff(wedge[0])))
        deep, tip = float(wedge[1, -1]), float(wedge[3, -1])
    return _Field(load / half, half, deep, -float(base[0, -1]), size, turn, lines, tip)
