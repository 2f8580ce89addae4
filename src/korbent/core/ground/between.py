"""The strata of several boreholes as units that run from hole to hole, and the share of each hole in the ground at a
point.

A unit that a hole lacks between others has no thickness there. Below the end of a hole nothing is known: what the
others found there goes on with the thickness that they have, and a unit in which a hole ends is at least as thick there
as it was found to be."""

from itertools import pairwise
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from korbent.core.cache import remembered
from korbent.core.model.ground import Borehole
from korbent.core.working import Array

if TYPE_CHECKING:  # not needed before ground is looked at in triangles
    from scipy.spatial import Delaunay

Strata = list[tuple[str, float]]


def strata_in(hole: Borehole) -> Strata:
    """(soil, thickness) of the strata in a borehole from above; one soil that is given in parts is one stratum."""
    found: Strata = []
    for stratum in hole.strata:
        if found and found[-1][0] == stratum.soil:
            found[-1] = (stratum.soil, found[-1][1] + stratum.thickness)
        else:
            found.append((stratum.soil, stratum.thickness))
    return found


@remembered(16)
def described(holes: tuple[Borehole, ...]) -> tuple[Borehole, ...]:
    """The boreholes with strata: soundings without any say nothing of them."""
    return tuple(hole for hole in holes if hole.strata)


class Between(NamedTuple):
    """What the boreholes say together. ``thickness``: of each unit in each hole (holes, units), m; ``levels``: of the
    ground at the holes."""

    soils: tuple[str, ...]
    """Of the units from above; a soil may come again."""
    thickness: Array
    levels: Array
    completed: tuple[bool, ...]
    """By hole: whether it ends earlier than the others, so that its lower part is taken from them."""


@remembered(16)
def between(holes: tuple[Borehole, ...]) -> Between:
    """The units of all boreholes. Their order does not matter."""
    soils, placed = _units(holes)
    thickness = np.zeros((len(holes), len(soils)))
    known = np.ones(thickness.shape, dtype=bool)
    whole = np.ones(thickness.shape, dtype=bool)
    for row, (hole, own) in enumerate(zip(holes, placed)):
        for unit, (_, thick) in zip(own, strata_in(hole)):
            thickness[row, unit] = thick
        if not hole.rigid_below:
            known[row, own[-1] + 1 :] = False
            whole[row, own[-1] :] = False
    completed = _completed(holes, thickness, known, whole)
    changed = tuple(bool(c) for c in (completed != thickness).any(axis=1))
    return Between(soils, completed, np.array([hole.ground_level for hole in holes]), changed)


def _completed(holes: tuple[Borehole, ...], thickness: Array, known: Array, whole: Array) -> Array:
    """Thicknesses with those below the ends of holes as in the others, by inverse squared distance from the hole."""
    places = np.array([(hole.x, hole.y) for hole in holes])
    found = thickness.copy()
    for row, unit in zip(*np.nonzero(~whole)):
        # holes that passed the unit say how thick it is; where none did, those that found it, how thick at least
        others = np.nonzero(whole[:, unit])[0]
        if not len(others):
            if known[row, unit]:
                continue
            others = np.nonzero(known[:, unit])[0]
        distance2 = ((places[others] - places[row]) ** 2).sum(axis=1)
        share = 1.0 / np.maximum(distance2, 1e-6)
        found[row, unit] = max(thickness[row, unit], float(share @ thickness[others, unit] / share.sum()))
    return found


# ---------------------------------------------------------------- which strata belong together


def _units(holes: tuple[Borehole, ...]) -> tuple[tuple[str, ...], list[list[int]]]:
    """(soils of the units from above, for each hole the unit of each of its strata).

    One hole after the other is laid beside those before: as many strata as possible meet a unit of their soil in order,
    of several ways the one whose levels differ least; the others are units of their own. The holes with most strata
    come first."""
    strata = [strata_in(hole) for hole in holes]
    tops = [
        [float(v) for v in hole.ground_level - np.cumsum([0.0, *(t for _, t in own)])[:-1]]
        for hole, own in zip(holes, strata)
    ]
    # not by name or place: a mirrored or renamed project has the same units
    order = sorted(range(len(holes)), key=lambda i: (-len(strata[i]), [-round(t, 9) for t in tops[i]]))
    chain: list[int] = []
    soil_of: dict[int, str] = {}
    levels: dict[int, list[float]] = {}
    placed: dict[int, list[int]] = {}
    for i in order:
        met = _met(
            [(soil_of[u], float(np.mean(levels[u]))) for u in chain],
            [(s, t) for (s, _), t in zip(strata[i], tops[i])],
        )
        own: list[int] = []
        for at, (soil, _), top in zip(met, strata[i], tops[i]):
            unit = len(soil_of) if at is None else chain[at]
            soil_of.setdefault(unit, soil)
            levels.setdefault(unit, []).append(top)
            own.append(unit)
        placed[i] = own
        chain = _one_after_the_other(list(placed.values()), levels, soil_of)
    position = {unit: k for k, unit in enumerate(chain)}
    return tuple(soil_of[u] for u in chain), [[position[u] for u in placed[i]] for i in range(len(holes))]


def _met(units: list[tuple[str, float]], own: list[tuple[str, float]]) -> list[int | None]:
    """For each stratum of a hole the unit that it meets: most in order, then those whose levels (m) are nearest."""
    n, m = len(units), len(own)
    best = np.zeros((n + 1, m + 1))
    for i in range(n - 1, -1, -1):
        for j in range(m - 1, -1, -1):
            best[i, j] = max(best[i + 1, j], best[i, j + 1])
            if units[i][0] == own[j][0]:
                best[i, j] = max(best[i, j], best[i + 1, j + 1] + _worth(units[i][1] - own[j][1]))
    found: list[int | None] = [None] * m
    i = j = 0
    while i < n and j < m:
        same = units[i][0] == own[j][0]
        if same and best[i, j] == best[i + 1, j + 1] + _worth(units[i][1] - own[j][1]):
            found[j] = i
            i, j = i + 1, j + 1
        elif best[i, j] == best[i + 1, j]:
            i += 1
        else:
            j += 1
    return found


def _worth(difference: float) -> float:
    """Of a stratum that meets a unit: more than all differences of level together."""
    return 1.0 - 1e-3 * min(abs(difference), 100.0) / 100.0


def _one_after_the_other(placed: list[list[int]], levels: dict[int, list[float]], soil_of: dict[int, str]) -> list[int]:
    """An order of the units that agrees with every hole; those that no hole sets in order stand by the mean level at
    which they begin."""
    above: dict[int, set[int]] = {unit: set() for unit in soil_of}
    for own in placed:
        for upper, lower in pairwise(own):
            above[lower].add(upper)
    rank = {unit: (-round(float(np.mean(levels[unit])), 9), soil_of[unit], unit) for unit in soil_of}
    chain: list[int] = []
    while len(chain) < len(soil_of):
        ready = [unit for unit in soil_of if unit not in chain and above[unit] <= set(chain)]
        chain.append(min(ready, key=lambda unit: rank[unit]))
    return chain


# ---------------------------------------------------------------- shares of the holes at a point


def by_distance(holes: tuple[Borehole, ...], x: float, y: float) -> Array:
    """Shares by inverse squared distance (Shepard 1968); at a hole it alone."""
    distance2 = np.array([(hole.x - x) ** 2 + (hole.y - y) ** 2 for hole in holes])
    if distance2.min() < 1e-6:
        return np.asarray(np.arange(len(holes)) == int(distance2.argmin()), dtype=float)
    share: Array = 1.0 / distance2 / (1.0 / distance2).sum()
    return share


def in_triangles(holes: tuple[Borehole, ...], x: float, y: float) -> Array:
    """Shares that are linear in the Delaunay triangles of the holes.

    Outside the triangles those of the nearest point on their edge. Without a triangle (fewer than three holes, or all
    on one line) by distance."""
    mesh = _triangles(holes)
    if mesh is None:
        return by_distance(holes, x, y)
    at = np.array([x, y])
    # a hair more than the triangle, so that its sides belong to it
    number = int(mesh.find_simplex(at, tol=1e-9))
    if number < 0 or not np.isfinite(mesh.transform[number]).all():
        return _on_edge(mesh.points, mesh.convex_hull, at)
    first_two = mesh.transform[number, :2] @ (at - mesh.transform[number, 2])
    share: Array = np.zeros(len(holes))
    share[mesh.simplices[number]] = np.clip([*first_two, 1.0 - first_two.sum()], 0.0, 1.0)
    share /= share.sum()
    return share


@remembered(16)
def _triangles(holes: tuple[Borehole, ...]) -> "Delaunay | None":
    """The triangles between the boreholes; None without one."""
    from scipy.spatial import Delaunay, QhullError

    points = np.array([(hole.x, hole.y) for hole in holes])
    if len(points) < 3:
        return None
    try:
        return Delaunay(points)
    except QhullError:
        return None


def _on_edge(points: Array, edges: Array, at: Array) -> Array:
    """Shares of the two holes at the ends of the outer edge that comes nearest to the point."""
    best, share = np.inf, np.zeros(len(points))
    for i, j in edges:
        along = points[j] - points[i]
        t = float(np.clip((at - points[i]) @ along / max(float(along @ along), 1e-12), 0.0, 1.0))
        distance = float(((points[i] + t * along - at) ** 2).sum())
        if distance < best:
            best = distance
            share = np.zeros(len(points))
            share[i], share[j] = 1 - t, t
    return share
