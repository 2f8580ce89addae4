"""The strata themselves below a raft: the pressure of each cell settles all of them, and the plate follows.

The ground is the half-space of the Settlement stop: stresses of all cells by Boussinesq (1885), strains by the laws of the strata,
settlement as the mean over a cell. What the plate rests on are springs whose stiffness is the pressure over that settlement, cell by
cell; found by turns, with the mixing of Anderson (1965), until plate and ground settle alike.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from korbent.core.bench import Bench
from korbent.core.plates.mesh import GridMesh, Mesh
from korbent.core.plates.solve import PlateOnSprings
from korbent.core.settlement.beside import Beside
from korbent.core.settlement.column import Column, column_of
from korbent.core.settlement.final import Around, settle
from korbent.core.settlement.footing import Footing
from korbent.core.settlement.stress.influences import Areas, angle_of_pairs, gauss_places, stress_of_pairs
from korbent.core.working import Array

ALONG = 12
"""Cells along each side, finer to the edges, where the pressure rises."""
ROUNDS = 40
CLOSE = 2e-3
"""Greatest difference of plate and ground over the mean settlement that is good enough."""
MIXED, KEPT = 0.7, 6
"""Share of a step that is taken, and steps that are looked back on."""
STIFFEST = 1e3
"""Times the mean: what the ground is at most where it hardly settles, or heaves."""


@dataclass(frozen=True)
class Cells:
    """Cells of pressure of a raft, made of elements of its mesh; x and y from the middle of the raft, m."""

    x: Array
    y: Array
    size_x: Array
    size_y: Array
    area: Array
    """Of the elements that are there, m2."""
    of: Array
    """Cell of each element, (elements,)."""

    def mean(self, values: Array, weights: Array) -> Array:
        """Mean over each cell of values at the points of integration, (elements, 4)."""
        sums = np.bincount(self.of, (values * weights).sum(axis=1), len(self.x))
        found: Array = sums / np.bincount(self.of, weights.sum(axis=1), len(self.x))
        return found


def cells_of(mesh: Mesh, along: int = ALONG) -> Cells:
    """Cells between lines of a mesh, about as many as asked for, closer together at the edges."""
    x, y = (_chosen(lines, along) for lines in (mesh.lines_x, mesh.lines_y))
    mid_x, mid_y = mesh.middles
    size_x, size_y = mesh.sizes
    number = (np.searchsorted(x, mid_x) - 1) * (len(y) - 1) + np.searchsorted(y, mid_y) - 1
    present, of = np.unique(number, return_inverse=True)
    i, j = present // (len(y) - 1), present % (len(y) - 1)
    area = np.bincount(of, size_x * size_y)
    at_x, at_y = (x[i] + x[i + 1]) / 2, (y[j] + y[j + 1]) / 2
    wide, long = x[i + 1] - x[i], y[j + 1] - y[j]
    if isinstance(mesh, GridMesh):
        return Cells(at_x, at_y, wide, long, area, of)
    # elements that follow an outline fill the cells as they do: rectangles as large, about their middles
    share = np.sqrt(area / (wide * long))
    at_x, at_y = (np.bincount(of, v * size_x * size_y) / area for v in (mid_x, mid_y))
    return Cells(at_x, at_y, share * wide, share * long, area, of)


def _chosen(lines: Array, along: int) -> Array:
    """Some of the lines, the first and the last among them, as near as there are to those of a cosine; of two as near both, so that
    a mirror image has the same."""
    half, middle = (lines[-1] - lines[0]) / 2, (lines[-1] + lines[0]) / 2
    wanted = middle - half * np.cos(np.pi * np.arange(along + 1) / along)
    far = np.abs(lines[:, None] - wanted)
    found: Array = lines[(far <= far.min(axis=0) + 1e-9).any(axis=1)]
    return found


@dataclass(frozen=True)
class Strata:
    """The ground below the cells of a raft: what a unit pressure of each adds below each, (cells, cells, levels)."""

    column: Column
    stress: Array
    angle: Array
    beside: Array
    """What acts beside the raft, linear over it, kPa, (cells, levels)."""
    beside_angle: Array | None
    before: Array
    """Total stress at the founding level before the excavation, less the water pressure below the raft: what the net pressure lacks, kPa,
    (cells,)."""
    settled: Callable[[Array, Array], Array]
    """Settlement of the cells, m, from stress and angle below them, (cells, levels)."""

    def settlement(self, pressure: Array) -> Array:
        """Mean settlement of each cell, m, under effective pressures of all cells, kPa."""
        net = pressure - self.before
        stress = np.einsum("ijz,j->iz", self.stress, net) + self.beside
        angle = np.einsum("ijz,j->iz", self.angle, net)
        if self.beside_angle is not None:
            angle = angle + self.beside_angle
        return self.settled(stress, angle)


def strata_of(
    bench: Bench, cells: Cells, water: Array, before: Array, beside: Beside | None, turn: float
) -> Strata:
    """The strata below a raft.

    Args:
        water: groundwater before anything is built, m, (1,). beside: what other foundations and area loads add below its middle, and how
        that changes over the plan. turn: of the raft in the plan, rad.
    """
    assert bench.profile is not None
    underside = bench.geometry.underside[:, 0]
    column = column_of(bench.profile, underside)
    levels = column.middle[0]
    n = len(cells.x)
    areas = Areas(cells.x, cells.y, cells.size_x, cells.size_y, np.zeros(n), np.full(n, underside[0]))
    places = gauss_places(areas)
    stress, angle = np.zeros((n, n, len(levels))), np.zeros((n, n, len(levels)))
    for four, kernel in ((stress, stress_of_pairs), (angle, angle_of_pairs)):
        for i in range(n):
            for at in places[i]:
                four[i] += kernel(at, levels[None], areas) / 4
    others, others_angle = np.zeros((n, len(levels))), None
    if beside is not None:
        c, s = np.cos(turn), np.sin(turn)
        east, north = c * cells.x - s * cells.y, s * cells.x + c * cells.y
        parts = [beside.at(levels, v[:1])[0] for v in (beside.stress, beside.along_x, beside.along_y)]
        others = parts[0] + east[:, None] * parts[1] + north[:, None] * parts[2]
        if beside.angle is not None:
            others_angle = np.repeat(beside.at(levels, beside.angle[:1]), n, axis=0)
        else:
            # the sum of stresses under which nothing strains sideways
            others_angle = others / (1 - column.soil("poisson")[0])
    g, settings = bench.geometry, bench.settings
    B, L = g.footprint.equal_rectangle
    footing = Footing(np.repeat(B, n, axis=0), np.repeat(L, n, axis=0), np.repeat(g.underside, n, axis=0))

    def settled(below: Array, angles: Array) -> Array:
        around = Around(below[:, None], angle=angles[:, None], sideways=True)
        found: Array = settle(
            column, bench.ground.backfill, footing, np.zeros((n, 1)), water, settings, around
        ).total[:, 0]
        return found

    return Strata(column, stress, angle, others, others_angle, before, settled)


@dataclass(frozen=True)
class Layered:
    """The ground as springs that settle as the strata do."""

    k: Array
    """Of each element, kN/m3."""
    cells: int
    rounds: int
    out: float
    """Greatest difference of the settlements of plate and ground over their mean."""
    stiffest: bool
    """Somewhere the ground hardly settles, or heaves: it is taken as STIFFEST times as stiff as in the mean."""

    def words(self) -> str:
        """What there is to say of it."""
        text = (
            f"the strata below {self.cells} cells of pressure: {self.k.min():.0f} to {self.k.max():.0f} kN/m³, after {self.rounds} rounds plate and "
            f"ground differ by {100 * self.out:.1f} % of the mean settlement"
        )
        return text + ("; in places the ground hardly settles or heaves" if self.stiffest else "")


def layered(
    plate: PlateOnSprings, loads: Array, cells: Cells, strata: Strata, lifts: bool, most: float | None = None
) -> Layered:
    """The stiffness of the ground below each element of a plate under one load.

    Args:
        plate: on springs to begin with. loads: on its unknowns, (unknowns, 1). most: the greatest pressure, kPa: where it is reached the
            plate goes further down than the strata below it.
    """
    weights = plate.points
    x = np.log(np.full(len(cells.x), float(plate.k.mean())))
    tried: list[Array] = []
    wrong: list[Array] = []
    best: tuple[float, Array, bool] | None = None
    rounds = 0
    while rounds < ROUNDS:
        rounds += 1
        k = np.exp(x)
        solution = plate.on(k[cells.of]).solve(loads, not lifts, most)
        pressure = cells.mean(solution.pressure[:, :, 0], weights)
        ground = strata.settlement(pressure)
        mean = float(np.abs(ground).mean())
        presses = pressure > 1e-6 * np.abs(pressure).max()
        elastic = presses if most is None else presses & (pressure < most * (1 - 1e-6))
        least = max(mean, 1e-9) / STIFFEST
        stiffest = bool((presses & (ground < least)).any())
        settles = np.maximum(ground, least)
        out = float(np.abs(np.where(elastic, pressure / k - settles, 0.0)).max() / max(mean, 1e-12))
        if best is None or out < best[0]:
            best = (out, k, stiffest)
        if out < CLOSE:
            break
        # where nothing presses the spring says nothing: it stays
        step = np.where(presses, np.log(np.where(presses, pressure, 1.0) / settles) - x, 0.0)
        tried, wrong = [*tried, x][-KEPT - 1 :], [*wrong, step][-KEPT - 1 :]
        x = _mixed(tried, wrong)
    assert best is not None
    out, k, stiffest = best
    return Layered(k[cells.of], len(cells.x), rounds, out, stiffest)


def _mixed(tried: list[Array], wrong: list[Array]) -> Array:
    """The next try: the combination of the last ones whose error would be least, and a share of that error (Anderson 1965)."""
    x, step = tried[-1], wrong[-1]
    if len(tried) == 1:
        return np.asarray(x + MIXED * step)
    errors = np.diff(np.stack(wrong, axis=1), axis=1)
    moves = np.diff(np.stack(tried, axis=1), axis=1)
    share = np.linalg.lstsq(errors, step, rcond=1e-8)[0]
    return np.asarray(x + MIXED * step - (moves + MIXED * errors) @ share)
