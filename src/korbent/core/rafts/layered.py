"""The strata themselves below a raft: the pressure of each cell settles all of them, and the plate follows.

The ground is the half-space of the Settlement stop: stresses of all cells by Boussinesq (1885), strains by the laws of
the strata, settlement as the mean over a cell. What the plate rests on are springs whose stiffness is the pressure over
that settlement, cell by cell; found by turns, with the mixing of Anderson (1965), until plate and ground settle alike.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

import numpy as np

from korbent.core.actions.construction import timeline
from korbent.core.bench import Bench
from korbent.core.model.project import Project
from korbent.core.plates.mesh import Box, GridMesh, Mesh
from korbent.core.plates.solve import PlateOnSprings, UnsolvedError, YieldedError
from korbent.core.settlement.at_places import Pressure, added_at
from korbent.core.settlement.beside import needs_angle
from korbent.core.settlement.column import Column, column_of
from korbent.core.settlement.final import Around, settle
from korbent.core.settlement.footing import Footing
from korbent.core.settlement.memory import Memory, Staged, reference_water, remember, water_changes
from korbent.core.settlement.stress.among import among
from korbent.core.settlement.stress.influences import Areas
from korbent.core.working import Array
from korbent.words import say, say_count

ALONG = 16
"""Cells along each side where nothing is given, finer to the edges, where the pressure rises."""
ROUNDS = 40
PASSES = 8
"""How often the construction steps are looked at again."""
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

    @property
    def filled(self) -> Array:
        """Share of the rectangle of each that bears, (cells,)."""
        share: Array = self.area / (self.size_x * self.size_y)
        return share

    def within(self, box: Box) -> Array:
        """Share of the rectangle of each that lies within a box, (cells,)."""

        def overlap(at: Array, size: Array, low: float, high: float) -> Array:
            ends = np.minimum(at + size / 2, high) - np.maximum(at - size / 2, low)
            return np.asarray(np.maximum(ends, 0.0) / size)

        x0, x1, y0, y1 = box
        found: Array = overlap(self.x, self.size_x, x0, x1) * overlap(self.y, self.size_y, y0, y1)
        return found

    def mean(self, values: Array, weights: Array) -> Array:
        """Mean over each cell of values at the points of integration, (elements, 4)."""
        sums = np.bincount(self.of, (values * weights).sum(axis=1), len(self.x))
        found: Array = sums / np.bincount(self.of, weights.sum(axis=1), len(self.x))
        return found

    def means(self, values: Array, weights: Array) -> Array:
        """The same of several, (elements, 4, n): (n, cells)."""
        return np.stack([self.mean(values[:, :, i], weights) for i in range(values.shape[2])])


def cells_of(mesh: Mesh, along: int | None = None) -> Cells:
    """Cells between lines of a mesh, about as many along each side as asked for, closer together at the edges."""
    along = along or ALONG
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
    """Some of the lines, the first and the last among them, as near as there are to those of a cosine; of two as near
    both, so that a mirror image has the same."""
    half, middle = (lines[-1] - lines[0]) / 2, (lines[-1] + lines[0]) / 2
    wanted = middle - half * np.cos(np.pi * np.arange(along + 1) / along)
    far = np.abs(lines[:, None] - wanted)
    found: Array = lines[(far <= far.min(axis=0) + 1e-9).any(axis=1)]
    return found


@dataclass(frozen=True)
class ConstructionSteps:
    """The construction steps below a raft, (steps, ...)."""

    before: Array
    """As of :class:`Strata`, (steps, cells)."""
    acts: Array
    """From this step on the raft presses, (steps,)."""
    names: tuple[str, ...]
    beside: Array
    """(steps, cells, levels)."""
    beside_angle: Array
    staged: Callable[[Array, Array], list[Staged]]
    """The column of each cell under stress and angle after each step, (steps, cells, levels)."""
    remembered: Callable[[list[Staged]], list[Memory]]

    def past(self, stress: Array, angle: Array) -> Around:
        """What the ground remembers of the steps."""
        columns = self.staged(stress, angle)
        kept = self.remembered(columns)
        n = len(kept)

        def each(values: Callable[[Memory], Array]) -> Array:
            return np.stack([values(m) for m in kept])[:, None]

        return Around(
            np.zeros((n, 1, 1)),
            line=columns[0].line,
            stages=np.zeros((len(stress), n)),
            beside_stages=np.stack([c.beside for c in columns], axis=1)[:, :, None],
            ends=np.stack([m.ends for m in kept], axis=1)[:, :, None],
            strain=each(lambda m: m.strain),
            immediate=each(lambda m: m.immediate),
            creep=each(lambda m: m.creep),
            highest=each(lambda m: m.highest),
        )


@dataclass(frozen=True)
class Strata:
    """The ground below the cells of a raft: what a unit pressure of each adds below each, (cells, levels, cells)."""

    column: Column
    stress: Array
    angle: Array
    beside: Array
    """What acts beside the raft, kPa, (cells, levels), with what changes of the water come to."""
    beside_angle: Array
    before: Array
    """Total stress at the founding level before the excavation, less the water pressure below the raft: what the net
    pressure lacks, kPa, (cells,)."""
    settled: Callable[[Array, Array, Around | None], Array]
    """Settlement of the cells, m, from stress and angle below them, (cells, levels), and what the ground remembers."""
    steps: ConstructionSteps | None = None
    """What came before; none where all acts at once."""
    past: Around | None = None

    def settlement(self, pressure: Array) -> Array:
        """Mean settlement of each cell, m, under effective pressures of all cells, kPa."""
        net = pressure - self.before
        return self.settled(
            self._sum(self.stress, net) + self.beside,
            self._sum(self.angle, net) + self.beside_angle,
            self.past,
        )

    def below(self, pressures: Array) -> tuple[Array, Array]:
        """(stress, angle) below the cells after each construction step, (steps, cells, levels), from the effective
        pressures, (steps, cells)."""
        assert self.steps is not None
        net = np.where(self.steps.acts[:, None], pressures - self.steps.before, 0.0)
        own = (np.stack([self._sum(unit, row) for row in net]) for unit in (self.stress, self.angle))
        stress, angle = (v + more for v, more in zip(own, (self.steps.beside, self.steps.beside_angle)))
        return stress, angle

    def after(self, pressures: Array) -> "Strata":
        """The ground as the construction steps leave it under these effective pressures, (steps, cells)."""
        assert self.steps is not None
        return replace(self, past=self.steps.past(*self.below(pressures)))

    @staticmethod
    def _sum(unit: Array, net: Array) -> Array:
        found: Array = unit @ net
        return found


def strata_of(
    project: Project,
    bench: Bench,
    cells: Cells,
    water: Array,
    before: Array,
    steps: tuple[Array, Array] | None = None,
    uneven: Mapping[str, Pressure] | None = None,
) -> Strata:
    """The strata below a raft, with all that acts on the ground beside it at its place.

    Args:
        water: groundwater before anything is built, m, (1,). before: of :class:`Strata`. steps: the same after each
        construction step, (steps, cells), and from which of them on the raft presses, (steps,); none where all acts at
        once. uneven: see :func:`added_at`.
    """
    assert bench.profile is not None
    pad, profile, settings = bench.pads[0], bench.profile, bench.settings
    g = bench.geometry
    column = column_of(profile, g.underside[:, 0])
    levels = column.middle[0]
    n = len(cells.x)
    areas = Areas(cells.x, cells.y, cells.size_x, cells.size_y, np.zeros(n), np.full(n, g.underside[0, 0]))
    stress, angle = among(areas, g.underside[0, 0] - levels)
    for unit in (stress, angle):
        unit *= cells.filled  # an opening within a cell bears nothing
    line = timeline(project)
    added, around = added_at(project, in_plan(bench, cells), levels, pad.name, uneven)
    if not needs_angle(project):
        # the sum of stresses under which nothing strains sideways
        around = added / (1 - column.soil("poisson")[0])
    changes = water_changes(project, profile, column, line)
    B, L = g.footprint.equal_rectangle
    footing = Footing(np.repeat(B, n, axis=0), np.repeat(L, n, axis=0), np.repeat(g.underside, n, axis=0))

    def settled(below: Array, angles: Array, past: Around | None) -> Array:
        known = past or Around(np.zeros((n, 1, 1)))
        state = replace(known, beside=below[:, None], angle=angles[:, None], sideways=True)
        found: Array = settle(column, bench.ground.backfill, footing, np.zeros((n, 1)), water, settings, state).total[
            :, 0
        ]
        return found

    beside, beside_angle = added[0], around[0]  # in the first lasting situation
    if steps is None or not len(line):
        return Strata(column, stress, angle, beside, beside_angle, before, settled)
    effective = column.before(bench.ground.backfill, np.array([reference_water(project, line)]))
    begun = np.flatnonzero(steps[1])
    first = int(begun[0]) if len(begun) else len(line)
    # band drains are there or not at the place of each cell; without any all drain alike
    at = in_plan(bench, cells) if project.actions.drains else np.zeros((n, 2))

    none = np.zeros((1, 1, len(levels)))

    def staged(below: Array, angles: Array) -> list[Staged]:
        found = [
            Staged(
                column,
                line,
                settings,
                (float(at[i, 0]), float(at[i, 1])),
                effective,
                column.yielded(effective),
                None,
                np.zeros(len(line)),
                below[:, i] + changes,
                angles[:, i],
                first,
                changes,
            )
            for i in range(n)
        ]
        for one in found:
            one.__dict__["unit"] = none  # the same for all: what came before the raft is found once
        return found

    rows = slice(len(added) - len(line), None)
    names = tuple(step.name for step in line.steps)
    history = ConstructionSteps(
        *steps, names, added[rows], around[rows], staged, lambda columns: remember(project, columns)
    )
    return Strata(column, stress, angle, beside + changes[-1], beside_angle, before, settled, history)


def in_plan(bench: Bench, cells: Cells) -> Array:
    """The middles of the cells in the plan, (cells, 2), m."""
    g = bench.geometry
    turn = float(g.rotation[0, 0])
    c, s = np.cos(turn), np.sin(turn)
    # the middle of the raft from its first column
    x, y = cells.x - float(g.offset_x[0, 0]), cells.y - float(g.offset_y[0, 0])
    return np.stack([float(g.column[0][0, 0]) + c * x - s * y, float(g.column[1][0, 0]) + s * x + c * y], axis=-1)


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
    by_cell: Array
    """Stiffness of each cell, kN/m3."""
    stages: Array | None = None
    """Effective pressure of the cells after each construction step, (steps, cells), where they were followed."""
    coupled: str = ""
    """With which other rafts it was found by turns."""
    afloat: tuple[str, ...] = ()
    """Construction steps in which nothing holds the raft down: it presses nothing then."""
    moved: float = 0.0
    """By how much the settlements still changed when the steps were looked at again, over their mean."""

    def words(self) -> str:
        """What there is to say of it."""
        text = say(
            "the strata below {cells} cells of pressure: {k:.0f} to {k_2:.0f} kN/m³, after {rounds} rounds "
            "plate and ground differ by {out:.1f} % of the mean settlement",
            cells=self.cells,
            k=self.k.min(),
            k_2=self.k.max(),
            rounds=self.rounds,
            out=100 * self.out,
        )
        if self.coupled:
            text += f"; {self.coupled}"
        if self.stages is not None:
            n = len(self.stages)
            text += say_count(
                n,
                "; {number} construction step followed, to {moved:.1f} %",
                "; {number} construction steps followed, to {moved:.1f} %",
                moved=100 * self.moved,
            )
        if self.afloat:
            text += say("; nothing holds it down in {afloat}: it presses nothing then", afloat=", ".join(self.afloat))
        return text + (say("; in places the ground hardly settles or heaves") if self.stiffest else "")


def layered(
    plate: PlateOnSprings,
    loads: Array,
    cells: Cells,
    strata: Strata,
    lifts: bool,
    most: float | None = None,
    stages: Array | None = None,
    known: Array | None = None,
) -> Layered:
    """The stiffness of the ground below each element of a plate under one load.

    What the ground remembers of the construction steps depends on how the plate pressed it in each of them, and that on
    the stiffness of the ground: both are found by turns, with the plate of every step on the springs of the last state.

    Args:
        plate: on springs to begin with. loads: on its unknowns, (unknowns, 1). most: the greatest pressure, kPa: where
        it is reached the
            plate goes further down than the strata below it. stages: loads after each construction step, (unknowns,
            steps), where the strata remember them. known: stiffness of the cells to begin with, kN/m3.
    """
    start = np.log(np.full(len(cells.x), float(plate.k.mean())) if known is None else known)
    if stages is None or strata.steps is None:
        return _by_turns(plate, loads, cells, strata, lifts, most, start)[0]
    pressures, _ = _under_construction(plate, stages, cells, strata, lifts, most)
    strata, rounds, passes = strata.after(pressures), 0, 0
    while True:
        found, start, pressure = _by_turns(plate, loads, cells, strata, lifts, most, start)
        rounds, passes = rounds + found.rounds, passes + 1
        new, afloat = _under_construction(plate.near(found.k), stages, cells, strata, lifts, most)
        # half-way from the second time on: a cell that was pressed more the time before counts as preloaded, and so swings
        pressures = new if passes == 1 else (pressures + new) / 2
        following = strata.after(pressures)
        before, now = strata.settlement(pressure), following.settlement(pressure)
        moved = float(np.abs(now - before).max() / max(np.abs(now).mean(), 1e-12))
        if moved < CLOSE or passes == PASSES:
            return replace(found, rounds=rounds, stages=new, afloat=afloat, moved=moved)
        strata = following


def _under_construction(
    plate: PlateOnSprings, stages: Array, cells: Cells, strata: Strata, lifts: bool, most: float | None
) -> tuple[Array, tuple[str, ...]]:
    """(effective pressure of the cells after each construction step, (steps, cells): nothing before the raft is there,
    nor where it floats; the names of the steps in which it floats).

    Raises:
        YieldedError: where the ground gives too little in a step, which is named.
    """
    assert strata.steps is not None
    found, afloat = np.zeros((stages.shape[1], len(cells.x))), []
    acts = np.flatnonzero(strata.steps.acts)
    try:
        if len(acts):
            found[acts] = cells.means(plate.solve(stages[:, acts], not lifts, most).pressure, plate.points)
        return found, ()
    except UnsolvedError:
        pass  # one by one
    for i in acts.tolist():
        try:
            found[i] = cells.means(plate.solve(stages[:, i : i + 1], not lifts, most).pressure, plate.points)[0]
        except YieldedError as error:
            raise YieldedError(
                say("{error}, in the construction step {names}", error=error, names=strata.steps.names[i])
            ) from error
        except UnsolvedError:
            afloat.append(strata.steps.names[i])
    return found, tuple(afloat)


def _by_turns(
    plate: PlateOnSprings,
    loads: Array,
    cells: Cells,
    strata: Strata,
    lifts: bool,
    most: float | None,
    x: Array,
) -> tuple[Layered, Array, Array]:
    """(the ground as springs, logarithm of their stiffness by cell, pressure of the cells), found by turns of plate and
    ground."""
    weights = plate.points
    tried: list[Array] = []
    wrong: list[Array] = []
    best: tuple[float, Array, bool, Array] | None = None
    rounds = 0
    while rounds < ROUNDS:
        rounds += 1
        k = np.exp(x)
        solution = plate.near(k[cells.of]).solve(loads, not lifts, most)
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
            best = (out, k, stiffest, pressure)
        if out < CLOSE:
            break
        # where nothing presses the spring says nothing: it stays
        step = np.where(presses, np.log(np.where(presses, pressure, 1.0) / settles) - x, 0.0)
        tried, wrong = [*tried, x][-KEPT - 1 :], [*wrong, step][-KEPT - 1 :]
        x = _mixed(tried, wrong)
    assert best is not None
    out, k, stiffest, pressure = best
    return Layered(k[cells.of], len(cells.x), rounds, out, stiffest, k), np.log(k), pressure


def _mixed(tried: list[Array], wrong: list[Array]) -> Array:
    """The next try: the combination of the last ones whose error would be least, and a share of that error (Anderson
    1965)."""
    x, step = tried[-1], wrong[-1]
    if len(tried) == 1:
        return np.asarray(x + MIXED * step)
    errors = np.diff(np.stack(wrong, axis=1), axis=1)
    moves = np.diff(np.stack(tried, axis=1), axis=1)
    share = np.linalg.lstsq(errors, step, rcond=1e-8)[0]
    return np.asarray(x + MIXED * step - (moves + MIXED * errors) @ share)
