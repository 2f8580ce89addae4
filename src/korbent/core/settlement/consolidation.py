"""One-dimensional consolidation of layered ground, exact in time on a grid of cells.

Each cell stores water by its compressibility and exchanges it with its neighbours by their permeability; towards band
drains it loses a share of its excess pressure at a constant rate. That is a linear system with a symmetric matrix: its
modes decay each on its own, so that any load history of ramps is followed in closed form, without steps of time."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from korbent.core.ground.profile import WATER_WEIGHT
from korbent.core.model.actions import influence_diameter
from korbent.core.working import Array
from korbent.words import say


@dataclass(frozen=True)
class Cells:
    """A column of cells from the top down; arrays (cells,), lengths in m, times in days."""

    thickness: Array
    cv: Array
    """Coefficient of consolidation, m2/day; infinite where the cell drains freely."""
    mv: Array
    """Coefficient of volume compressibility, 1/kPa."""
    rate: Array
    """Share of the excess pressure lost to band drains, 1/day."""
    drained_top: bool = True
    drained_bottom: bool = True

    @property
    def consolidating(self) -> Array:
        """True where excess pressure can stand."""
        return np.isfinite(self.cv)


@dataclass(frozen=True)
class Ramp:
    """A change of total stress (kPa by cell) that begins and ends at these times (days); at once where they are the
    same."""

    begins: float
    ends: float
    stress: Array


@dataclass(frozen=True)
class Modes:
    """The modes of a column: excess pressure = shape @ amplitudes, each decaying at its rate (1/day)."""

    rates: Array
    shape: Array
    inverse: Array
    cells: Array
    """Which cells take part."""


def modes(cells: Cells) -> Modes:
    """The modes of the cells in which excess pressure can stand.

    Between two cells water flows as through their halves in series; into a cell that drains freely as through the own
    half; through a closed end not at all."""
    open_ones = np.flatnonzero(cells.consolidating)
    n = len(open_ones)
    if n == 0:
        none = np.empty((0, 0))
        return Modes(np.empty(0), none, none, open_ones)
    storage = cells.mv[open_ones] * cells.thickness[open_ones]
    conduct = cells.cv[open_ones] * cells.mv[open_ones] / (cells.thickness[open_ones] / 2)
    last = len(cells.thickness) - 1
    touching = np.diff(open_ones) == 1
    between = np.where(touching, 1.0 / (1.0 / conduct[:-1] + 1.0 / conduct[1:]), 0.0)
    above = np.concatenate([[cells.drained_top or open_ones[0] > 0], ~touching])
    below = np.concatenate([~touching, [cells.drained_bottom or open_ones[-1] < last]])
    diagonal = storage * cells.rate[open_ones] + conduct * above + conduct * below
    diagonal[1:] += between
    diagonal[:-1] += between
    root = np.sqrt(storage)
    from scipy.linalg import eigh_tridiagonal  # a fifth of a second that most starts can do without

    rates, vectors = eigh_tridiagonal(diagonal / storage, -between / (root[:-1] * root[1:]))
    return Modes(np.maximum(rates, 0.0), vectors / root[:, None], vectors.T * root[None, :], open_ones)


def growth(rates: Array, begins: float, ends: float, times: Array) -> Array:
    """What is left (times, modes) of a unit change that is made evenly between two times, each mode decaying at its
    rate."""
    found = np.zeros((len(times), len(rates)))
    begun = times >= begins
    since = times[begun, None] - begins
    length = ends - begins
    if length <= 0:
        found[begun] = np.exp(-rates * since)
        return found
    ramp = since[:, 0] <= length
    during = since[ramp]
    x = rates * during
    mean = np.where(x > 1e-9, -np.expm1(-x) / np.where(x > 1e-9, x, 1.0), 1.0 - x / 2)
    left = np.empty((len(since), len(rates)))
    left[ramp] = mean * during / length
    x = rates * length
    whole = np.where(x > 1e-9, -np.expm1(-x) / np.where(x > 1e-9, x, 1.0), 1.0 - x / 2)
    left[~ramp] = whole * np.exp(-rates * (since[~ramp] - length))
    found[begun] = left
    return found


def excess_pressure(found: Modes, ramps: Sequence[Ramp], times: Array, count: int) -> Array:
    """Excess pore pressure (kPa) at times (days), shape (times, cells)."""
    u = np.zeros((len(times), count))
    if not len(found.cells):
        return u
    amplitude = np.zeros((len(times), len(found.rates)))
    for ramp in ramps:
        start = found.inverse @ ramp.stress[found.cells]
        amplitude += growth(found.rates, ramp.begins, ramp.ends, times) * start
    u[:, found.cells] = amplitude @ found.shape.T
    return u


def terzaghi(T_v: Array, terms: int = 400) -> Array:
    """Average degree of consolidation of one layer under uniform excess pressure (Terzaghi 1923, as a series)."""
    m = np.arange(terms)
    M = np.pi / 2 * (2 * m + 1)
    degree: Array = 1 - (2 / M**2 * np.exp(-(M**2) * np.asarray(T_v)[..., None])).sum(axis=-1)
    return degree


def barron(n: float, smear: float, permeability_ratio: float) -> float:
    """mu = ln(n/s) + (kh/ks) ln s - 0.75, equal strain (Barron 1948, Hansbo 1981); n = De/dw, s = ds/dw."""
    return float(np.log(n / smear) + permeability_ratio * np.log(smear) - 0.75)


def drain_rate(
    ch: float,
    spacing: float,
    pattern: str,
    drain: float,
    smear: float,
    permeability_ratio: float,
    length: float,
    permeability: float,
    discharge: float | None,
) -> float:
    """Rate (1/day) at which excess pressure is lost to band drains: 8 ch/(De2 mu) (Hansbo 1981).

    Args:
        ch: m2/day. spacing, drain (equivalent diameter dw), length (drainage length of a drain, m): m.
        pattern: "square" (De = 1.13 S) or "triangular" (De = 1.05 S).
        smear: ds/dw; permeability_ratio: kh/ks.
        permeability: kh, m/day; discharge: capacity qw of a drain, m3/day, None for no resistance. Its part is averaged
        over
            the length: 2 pi l2/3 kh/qw.

    Raises:
        ValueError: when the drains stand within their own smear zones.
    """
    De = influence_diameter(spacing, pattern)
    if De <= drain * smear:
        raise ValueError(
            say(
                "a spacing of {spacing:g} m gives each drain a cylinder of {De:.3g} m, not more than its smear "
                "zone of {drain:.3g} m",
                spacing=spacing,
                De=De,
                drain=drain * smear,
            )
        )
    mu = barron(De / drain, smear, permeability_ratio)
    if discharge is not None:
        mu += 2 * np.pi * length**2 / 3 * permeability / discharge
    return float(8 * ch / (De**2 * mu))


def permeability(cv: Array, mv: Array) -> Array:
    """k = cv mv gamma_w, m/day."""
    k: Array = cv * mv * WATER_WEIGHT
    return k


def graded(top: float, bottom: float, count: int) -> Array:
    """Levels of cell edges, finer towards both ends where the pressure falls first."""
    shares = (1 - np.cos(np.pi * np.arange(count + 1) / count)) / 2
    edges: Array = top + (bottom - top) * shares
    return edges
