"""A raft on the strata: the construction steps, what it is like at once, and rafts that settle each other."""

from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass, replace

import numpy as np

from korbent.core.actions.construction import construction_situations
from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench, bench_for, stands_of
from korbent.core.cache import MEGABYTE, Cache
from korbent.core.concrete.several import columns_of
from korbent.core.geometry import table
from korbent.core.model.project import Project
from korbent.core.plates.outline_mesh import UnmeshedError
from korbent.core.plates.solve import PlateOnSprings, UnsolvedError
from korbent.core.rafts.layered import CLOSE, Cells, Layered, Strata, cells_of, in_plan, layered, strata_of
from korbent.core.rafts.plate_of import (
    gross_pressure,
    key_of,
    rests_on_strata,
    springs_of,
    subgrade_of,
    unsolved_words,
)
from korbent.core.settlement.at_once import SLOW, at_once, lacking_at_once
from korbent.core.settlement.at_places import Pressure
from korbent.core.settlement.pressing import dug, stages_of, water_before
from korbent.core.settlement.stress.influences import Areas
from korbent.core.working import SILENT, Array
from korbent.words import say


def layered_below(
    bench: Bench, project: Project, springs: PlateOnSprings, share: float = 1.0, quick: bool = False
) -> Layered | str:
    """The strata below the raft as springs, found under a share of the lasting load that settlement is asked for; or
    why they cannot be.

    Other rafts on the strata press as they do by their own plates (see :func:`coupled`), all else evenly.

    Args:
        quick: as they settle at once.
    """
    why = _why_not(bench)
    if why:
        return why

    def made() -> Layered:
        others, mine = coupled(project), bench.pads[0].name
        known = others.by_cell.get(mine)
        found = _found(bench, project, springs, others.beside(mine), known, share, quick)
        return replace(found, coupled=others.words(mine))

    key, values = key_of(bench, project, "settlement_long")
    return _layered.of((*key, round(springs.E, 6), springs.nu, share, quick), values, made)


_layered: Cache[Layered] = Cache(16 * MEGABYTE)


def _why_not(bench: Bench) -> str:
    """Why the strata below a raft cannot be looked at; '' where they can."""
    if not len(bench.situations("settlement_long")):
        return say("no combination serves 'settlement long': the strata settle under its load")
    why = bench.why_not()[0]
    if why or bench.profile is None:
        return say("{why}; or let it rest on springs", why=why or say("there is no ground below it"))
    return ""


def _found(
    bench: Bench,
    project: Project,
    springs: PlateOnSprings,
    uneven: Mapping[str, Pressure],
    known: Array | None,
    share: float = 1.0,
    quick: bool = False,
) -> Layered:
    plate = bench.pads[0].plate
    assert plate is not None
    parts = strata_and_loads(bench, project, springs, quick, uneven)
    stages = None if parts.stages is None else share * parts.stages
    return layered(springs, share * parts.loads, parts.cells, parts.strata, plate.lifts, plate.greatest, stages, known)


@dataclass(frozen=True)
class Coupled:
    """Rafts on the strata that settle each other, by name; nothing where there are not two of them."""

    pressures: dict[str, Pressure]
    by_cell: dict[str, Array]
    """Stiffness of the ground below the cells of each, kN/m3."""
    rounds: int = 0
    moved: float = 0.0
    """By how much the pressure of a cell still changed in the last round, over the mean."""

    def beside(self, name: str) -> dict[str, Pressure]:
        """How the others of a raft press."""
        return {other: one for other, one in self.pressures.items() if other != name}

    def words(self, name: str) -> str:
        """With which others a raft was found."""
        others = [n for n in self.pressures if n != name]
        if name not in self.pressures or not others:
            return ""
        return say(
            "with {others} by turns, {rounds} rounds, pressures to {moved:.1f} %",
            others=", ".join(others),
            rounds=self.rounds,
            moved=100 * self.moved,
        )


AGAIN = 8
"""How often rafts that settle each other are found by turns."""


def coupled(project: Project) -> Coupled:
    """All rafts on the strata, each with the others pressing as their plates do, by turns until their pressures
    stay."""
    stands = [one for one in stands_of(project).values() if rests_on_strata(one.pad)]
    if len(stands) < 2:
        return Coupled({}, {})
    benches = {one.pad.name: bench_for(project, (one.pad,), np.zeros(1, dtype=int), table(one.pad)) for one in stands}
    keys, values = zip(*(key_of(bench, project, "settlement_long") for bench in benches.values()))
    return _coupled.of(keys, values, lambda: _by_turns(benches, project))


_coupled: Cache[Coupled] = Cache(16 * MEGABYTE)


def _by_turns(benches: dict[str, Bench], project: Project) -> Coupled:
    plates: dict[str, PlateOnSprings] = {}
    for name, bench in benches.items():
        if _why_not(bench):
            continue  # it presses evenly
        k, _ = subgrade_of(bench, project)
        columns = tuple(columns_of(bench, bench.situations("settlement_long")))
        with suppress(UnmeshedError):
            plates[name] = springs_of(bench, k or FIRST, columns)[1]
    pressures: dict[str, Pressure] = {}
    by_cell: dict[str, Array] = {}
    rounds, moved = 0, np.inf
    while plates and moved > CLOSE and rounds < AGAIN:
        rounds, moved = rounds + 1, 0.0
        for name, springs in list(plates.items()):
            uneven = {n: p for n, p in pressures.items() if n != name}
            try:
                found = _found(benches[name], project, springs, uneven, by_cell.get(name))
                new = pressure_of(benches[name], project, springs.on(found.k), found.stages)
            except UnsolvedError:
                del plates[name]
                pressures.pop(name, None)
                continue
            before = pressures.get(name)
            change = (
                np.inf
                if before is None
                else float(np.abs(new.values - before.values).max() / np.abs(new.values).mean())
            )
            moved = max(moved, change)
            pressures[name], by_cell[name] = new, found.by_cell
    return Coupled(pressures, by_cell, rounds, moved)


FIRST = 1e4
"""Stiffness of the springs that a raft begins on where nothing tells another, kN/m3."""


def pressure_of(bench: Bench, project: Project, on: PlateOnSprings, stages: Array | None = None) -> Pressure:
    """How a raft presses the ground: net pressure of its cells in every lasting situation and after each construction
    step.

    Args:
        on: the plate on its springs as they were found. stages: effective pressure of the cells after each step,
        (steps, cells), where known.
    """
    pad, situations, in_steps = bench.pads[0], bench.situations("settlement_long"), construction_situations(project)
    assert pad.plate is not None
    cells = cells_of(on.mesh, pad.plate.cells)
    water = water_before(project, bench, situations.water_level)

    def under(some: Situations) -> Array:
        """Effective pressures; nothing where the raft floats, as it may in a construction step."""
        found = np.zeros((len(some), len(cells.x)))
        if not len(some):
            return found
        gross = gross_pressure(bench, some, on, tuple(columns_of(bench, some)))
        loads, plate = on.load(gross), pad.plate
        assert plate is not None

        def pressed(which: slice) -> Array:
            return cells.means(on.solve(loads[:, which], not plate.lifts, plate.greatest).pressure, on.points)

        try:
            return pressed(slice(None))
        except UnsolvedError:
            for k in range(len(some)):
                with suppress(UnsolvedError):
                    found[k] = pressed(slice(k, k + 1))[0]
        return found

    values = [under(situations) - lacking_below(bench, cells, water, situations)]
    if len(in_steps):
        acts = np.arange(len(in_steps)) >= int(stages_of(project, bench)[1][0])
        own = under(in_steps) if stages is None else stages
        net = own - lacking_below(
            bench,
            cells,
            water[:1] if len(water) else water_before(project, bench, in_steps.water_level)[:1],
            in_steps,
        )
        values.append(np.where(acts[:, None], net, 0.0))
    x, y = in_plan(bench, cells).T
    n = len(x)
    turn, level = float(bench.geometry.rotation[0, 0]), float(bench.geometry.underside[0, 0])
    areas = Areas(x, y, cells.size_x, cells.size_y, np.full(n, turn), np.full(n, level))
    return Pressure(areas, np.concatenate(values) * cells.filled)


@dataclass(frozen=True)
class OnStrata:
    """What a raft on the strata is made of."""

    cells: Cells
    strata: Strata
    loads: Array
    """On the unknowns of the plate, of the first lasting situation, (unknowns, 1)."""
    stages: Array | None
    """The same after each construction step, (unknowns, steps); none where all acts at once."""


def strata_and_loads(
    bench: Bench,
    project: Project,
    springs: PlateOnSprings,
    quick: bool = False,
    uneven: Mapping[str, Pressure] | None = None,
) -> OnStrata:
    """The strata below a raft, as they settle at once where that is asked for, and what presses on the plate."""
    plate, situations = bench.pads[0].plate, bench.situations("settlement_long")
    assert plate is not None
    water = water_before(project, bench, situations.water_level)[:1]
    cells = cells_of(springs.mesh, plate.cells)
    before = lacking_below(bench, cells, water, situations)[0]
    gross = gross_pressure(bench, situations, springs, tuple(columns_of(bench, situations)))[:, :, :1]
    in_steps = construction_situations(project)
    if quick or not len(in_steps):
        ground = at_once(bench) if quick else bench
        return OnStrata(
            cells, strata_of(project, ground, cells, water, before, None, uneven), springs.load(gross), None
        )
    acts = np.arange(len(in_steps)) >= int(stages_of(project, bench)[1][0])
    strata = strata_of(
        project, bench, cells, water, before, (lacking_below(bench, cells, water, in_steps), acts), uneven
    )
    stages = springs.load(gross_pressure(bench, in_steps, springs, tuple(columns_of(bench, in_steps))))
    return OnStrata(cells, strata, springs.load(gross), stages)


def lacking_below(bench: Bench, cells: Cells, water: Array, situations: Situations) -> Array:
    """What the net pressure of each cell lacks of its effective one: the stress before the excavation less the pressure
    of the water, kPa, (situations, cells)."""
    plate, underside = bench.pads[0].plate, bench.geometry.underside
    assert plate is not None
    forces = bench.forces(situations, SILENT)
    uplift = (forces.even / bench.geometry.area)[0]
    found = np.repeat((dug(bench, water, underside)[0] - uplift)[:, None], len(cells.x), axis=1)
    for part, deeper in zip(plate.lower, np.moveaxis(forces.below[0], -1, 0)):
        more = dug(bench, water, underside - part.drop) - dug(bench, water, underside)
        relief = more[0] - deeper / bench.pads[0].area_within(part.box)
        # of a cell that its edge goes through as much as lies within it
        found += relief[:, None] * cells.within(part.box)
    return found


def at_once_below(bench: Bench, project: Project, springs: PlateOnSprings) -> "Layered | str | None":
    """The strata as they are at once; why that is not known; none where no stratum takes its time."""
    if bench.profile is None or not any(soil.compression in SLOW for soil in bench.profile.soils):
        return None
    lacks = lacking_at_once(bench.on_ground())[0]
    if lacks:
        return lacks
    try:
        return layered_below(bench, project, springs, quick=True)
    except UnsolvedError as error:
        return unsolved_words(error, ())
