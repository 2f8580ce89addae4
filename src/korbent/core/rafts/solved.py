"""A raft as a plate on the ground: columns press over their footprints, the ground as springs; solved for all situations of a question."""

import math
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from korbent.core.actions.situations import Situations
from korbent.core.actions.steps import step_situations, timeline
from korbent.core.bench import Bench
from korbent.core.cache import MEGABYTE, Cache
from korbent.core.concrete.modulus import elastic_modulus
from korbent.core.concrete.several import Column, columns_of
from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import Pad, Plate
from korbent.core.model.project import Project
from korbent.core.plates.mesh import Box, Mesh, mesh_of
from korbent.core.plates.outline_mesh import UnmeshedError, outline_mesh_of
from korbent.core.plates.recover import Fields, fields_of
from korbent.core.plates.solve import SHAPES, PlateOnSprings, Solution, UnsolvedError, YieldedError, together
from korbent.core.rafts.layered import Cells, Layered, Strata, cells_of, layered, strata_of
from korbent.core.rafts.ribs import beams_of, inside, lines_of, spread_box, weight_of
from korbent.core.settlement.at_once import SLOW, at_once, lacking_at_once
from korbent.core.settlement.beside import besides
from korbent.core.settlement.of_bases import settlement_of
from korbent.core.settlement.pressing import dug, stages_of, water_before
from korbent.core.working import SILENT, Array

FINER = 2.0
"""Cells beside columns and edges are so many times smaller than the greatest."""
COARSE = 8.0
"""Cells of half the distance between two columns, about."""
EVEN = 1.4
"""Elements that follow an outline are as wide as they are long: of cells on lines the greatest are longer than wide, so they are so many
times larger."""


@dataclass(frozen=True)
class SolvedRaft:
    """The raft in all situations of a question."""

    pad: Pad
    situations: Situations
    columns: tuple[Column, ...]
    plate: PlateOnSprings
    solution: Solution
    gross: Array
    """Downward pressure at the points of integration without that of the ground, (elements, 4, situations), kPa."""
    k: float
    """Of the ground, kN/m3; where it rests on the strata pressure over settlement in the mean."""
    source: str
    """Where k is from."""
    softened: Array
    """Modulus of the concrete in each situation over that of the plate, (situations,)."""

    @property
    def mesh(self) -> Mesh:
        """Of the plate."""
        return self.plate.mesh

    @cached_property
    def fields(self) -> tuple[Fields, ...]:
        """Forces at the places, by thickness."""
        return fields_of(self.plate, replace(self.solution, unknowns=self.bending))

    @property
    def bending(self) -> Array:
        """Unknowns of which the stiffness of the plate makes its forces: those of softer concrete in proportion, (nodes x 3, situations)."""
        found: Array = self.solution.unknowns * self.softened
        return found

    @cached_property
    def pressure(self) -> Array:
        """Of the ground at the places, effective, kPa, (places, situations): at each node the mean of the points around."""
        total, count = np.zeros((len(self.mesh.used), len(self.situations))), np.zeros(len(self.mesh.used))
        np.add.at(total, self.mesh.elements, self.solution.pressure)
        np.add.at(count, self.mesh.elements, 1.0)
        with np.errstate(invalid="ignore", divide="ignore"):
            return self.mesh.on_places(total / count[:, None])

    @cached_property
    def settlement(self) -> Array:
        """Of the plate at the places, m, (places, situations)."""
        return self.mesh.on_places(self.solution.settlement)

    @cached_property
    def subgrade(self) -> Array:
        """Stiffness of the ground at the places, kN/m3, (places,): at each node the mean of the elements around."""
        total, count = np.zeros(len(self.mesh.used)), np.zeros(len(self.mesh.used))
        np.add.at(total, self.mesh.elements, self.plate.k[:, None])
        np.add.at(count, self.mesh.elements, 1.0)
        with np.errstate(invalid="ignore", divide="ignore"):
            return self.mesh.on_places(total / count)

    @cached_property
    def in_columns(self) -> Array:
        """Places within a column, beyond its faces: nothing is designed there, (places,)."""
        x, y = self.mesh.places
        inside = np.zeros(len(x), dtype=bool)
        for column in self.columns:
            low_x, high_x, low_y, high_y = box_of(column)
            e = 1e-6
            inside |= (x > low_x + e) & (x < high_x - e) & (y > low_y + e) & (y < high_y - e)
        return inside

    @cached_property
    def in_ribs(self) -> Array:
        """Places within a rib: its own bars are designed there, (places,)."""
        return inside(self.pad, self.mesh)

    @cached_property
    def on_edges(self) -> Array:
        """Places on the outer edge or that of an opening, (places,)."""
        return self.mesh.free


def box_of(column: Column) -> Box:
    """The footprint of a column on the raft."""
    x, y = float(column.x[0, 0]), float(column.y[0, 0])
    a, b = (float(size[0, 0]) / 2 for size in column.size)
    return x - a, x + a, y - b, y + b


def within(box: Box, width: float, length: float) -> Box:
    """The part of a box that lies on the raft."""
    return max(box[0], -width / 2), min(box[1], width / 2), max(box[2], -length / 2), min(box[3], length / 2)


def walls_of(pad: Pad, points: tuple[LoadPoint, ...], columns: tuple[Column, ...]) -> tuple[Box, ...]:
    """Footprints of the concrete walls that stiffen a raft, which run along one of its axes and lie on it; none where it says so."""
    if pad.plate is None or pad.plate.walls is None:
        return ()
    boxes = (
        (p, within(box_of(c), pad.width, pad.length))
        for p, c in zip(points, columns)
        if p.kind == "concrete wall"
    )
    return tuple(
        box for p, box in boxes
        if abs(math.sin(2 * math.radians(p.rotation - pad.rotation))) < 1e-6 and box[1] - box[0] > 1e-6 and box[3] - box[2] > 1e-6
    )  # fmt: skip


def raft_mesh(pad: Pad, plate: Plate, columns: tuple[Column, ...], walls: tuple[Box, ...] = ()) -> Mesh:
    """The mesh of a raft: lines at the faces of columns, at openings, thickenings and loaded regions."""
    B, L = pad.width, pad.length
    outline = (-B / 2, B / 2, -L / 2, L / 2)
    inner = [within(spread_box(pad, c, box_of(c)), B, L) for c in columns]
    # walls are beams on their middle
    inner += [
        ((a + b) / 2,) * 2 + (c, d) if d - c > b - a else (a, b) + ((c + d) / 2,) * 2 for a, b, c, d in walls
    ]
    between = [r.box for r in (*plate.thickenings, *plate.loads, *plate.zones, *plate.lower)] + lines_of(pad)
    between += [side for part in plate.lower for side in pad.step_sides(part)]
    size = plate.mesh or greatest_cell(pad, columns)
    openings, fine = [r.box for r in plate.openings], min(size, max(size / FINER, pad.thickness / 3))
    if pad.outline:
        return outline_mesh_of(pad.outline, inner, openings, EVEN * size, fine, between)
    return mesh_of(outline, inner + between, openings, size, fine)


def greatest_cell(pad: Pad, columns: tuple[Column, ...]) -> float:
    """A part of the distance between columns, m."""
    places = np.array([(float(c.x[0, 0]), float(c.y[0, 0])) for c in columns])
    apart = (
        np.hypot(*(places[:, None] - places[None, :]).transpose(2, 0, 1))
        if len(places) > 1
        else np.zeros((1, 1))
    )
    apart[apart < 0.5] = np.inf
    near = float(np.median(apart.min(axis=0)))
    span = min(near if np.isfinite(near) else min(pad.width, pad.length), pad.width, pad.length)
    return max(span / (2 * COARSE), 0.15)


def subgrade_of(bench: Bench, project: Project) -> tuple[float | None, str]:
    """(k in kN/m3, where it is from, or why there is none): typed, or the gross pressure over the settlement that the strata give."""
    plate = bench.pads[0].plate
    if plate is not None and plate.subgrade is not None:
        return plate.subgrade, "typed"
    situations = bench.situations("settlement long")
    if not len(situations):
        return None, "no combination serves 'settlement long', and no modulus of subgrade reaction is typed"
    why = bench.why_not()[0]
    if why:
        return None, f"{why}; or type the modulus of subgrade reaction"
    forces = bench.forces(situations, SILENT)
    found = settlement_of(bench, project, situations, forces, SILENT)
    s = float(found.total[0, 0])
    if not s > 1e-6:
        return (
            None,
            "the ground does not settle under the lasting load: type the modulus of subgrade reaction",
        )
    return float(
        (forces.V / bench.geometry.area)[0, 0]
    ) / s, "gross pressure over the settlement of the whole raft by its strata"


def solved_raft(bench: Bench, project: Project, question: str) -> SolvedRaft | str:
    """The raft of a bench of one candidate; or why it cannot be solved. Remembered as long as what it depends on stays."""
    return _known.of(*key_of(bench, project, question), lambda: _solved(bench, project, question))


def solved_already(bench: Bench, project: Project, question: str) -> SolvedRaft | str | None:
    """The raft where it is known; None where it would have to be solved first."""
    return _known.those_of([key_of(bench, project, question)[0]]).get(0)


def keep_solved(bench: Bench, project: Project, question: str, found: SolvedRaft | str) -> None:
    """Takes a raft that was solved elsewhere."""
    key, values = key_of(bench, project, question)
    _known.put(key, values, found if isinstance(found, str) else replace(found, pad=bench.pads[0]))


def key_of(bench: Bench, project: Project, question: str) -> tuple[tuple[object, ...], tuple[object, ...]]:
    pad = bench.pads[0]
    ground, actions = bench.ground, bench.actions
    # what stands beside it settles the ground below it too, and when it is built
    when = (besides(project).get(pad.name), timeline(project), *actions.drains)
    values = (
        pad, *bench.standing[0], bench.settings, bench.profile, ground.water, ground.backfill, ground.surfaces, *actions.cases, *actions.combinations,
        *when,
    )  # fmt: skip
    key = (question, bench.standards.concrete, bench.finished, *map(id, values))
    return key, values


_known: Cache["SolvedRaft | str"] = Cache(200 * MEGABYTE, each=8 * MEGABYTE)


def _solved(bench: Bench, project: Project, question: str) -> SolvedRaft | str:
    pad = bench.pads[0]
    plate = pad.plate
    assert plate is not None
    situations = bench.situations(question)
    if not len(situations):
        return bench.no_combination(question)
    k, source = subgrade_of(bench, project)
    if k is None:
        return source
    columns = tuple(columns_of(bench, situations))
    try:
        springs, late = springs_of(bench, k, columns)
    except UnmeshedError as error:
        return str(error)
    early: PlateOnSprings | None = None
    if plate.ground == "layers":
        try:
            below = layered_below(bench, project, late)
        except UnsolvedError as error:
            return unsolved_words(error, ())
        if isinstance(below, str):
            return below
        first = _at_once_below(bench, project, springs) if question == "concrete" else None
        early = springs.on(first.k) if isinstance(first, Layered) else None
        springs, late, source = springs.on(below.k), late.on(below.k), below.words()
        if isinstance(first, Layered):
            source += f"; at once {first.k.min():.0f} to {first.k.max():.0f} kN/m³"
        elif first:
            source += f"; what comes at once is not looked at: {first}"
    elif plate.zones:
        source += f"; {len(plate.zones)} {'zone' if len(plate.zones) == 1 else 'zones'} of other springs, {springs.k.min():.0f} to {springs.k.max():.0f} kN/m³; this is their mean"
    k = float((springs.points.sum(axis=1) @ springs.k) / springs.points.sum())
    gross = gross_pressure(bench, situations, springs, columns)
    plates = (
        (late,)
        if question in LASTING
        else (early or springs, late)
        if (plate.creep or early is not None) and question == "concrete"
        else (springs,)
    )
    try:
        parts = [one.solve(one.load(gross), not plate.lifts, plate.greatest) for one in plates]
    except UnsolvedError as error:
        return unsolved_words(error, tuple(situations.label(i) for i in error.loads))
    softened = np.repeat([one.E / springs.E for one in plates], len(situations))
    if len(parts) > 1:
        situations, gross = situations.twice(" long term"), np.concatenate([gross] * 2, axis=-1)
        columns = tuple(columns_of(bench, situations))
    return SolvedRaft(pad, situations, columns, springs, together(parts), gross, k, source, softened)


def _at_once_below(bench: Bench, project: Project, springs: PlateOnSprings) -> "Layered | str | None":
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


def springs_of(bench: Bench, k: float, columns: tuple[Column, ...]) -> tuple[PlateOnSprings, PlateOnSprings]:
    """The plate on even springs (and zones), with the modulus of its concrete and with that of concrete that has crept."""
    pad = bench.pads[0]
    assert pad.plate is not None
    modulus = pad.plate.modulus or elastic_modulus(bench)
    short, late = (
        _springs(pad, bench.standing[0], round(E, 6), round(k, 9), columns)
        for E in (modulus, modulus / (1 + pad.plate.creep))
    )
    return short, late


LASTING = ("settlement long", "cracks")
"""Questions about what lasts: the concrete has crept."""


def unsolved_words(error: UnsolvedError, labels: tuple[str, ...]) -> str:
    """Why a raft has no solution, and in which situations."""
    where = f" in combination {', '.join(labels[:3])}{' …' if len(labels) > 3 else ''}" if labels else ""
    if isinstance(error, YieldedError):
        return f"the greatest pressure is too little{where}: {error}"
    return f"{error}{where}: the raft floats up or tips over"


def layered_below(
    bench: Bench, project: Project, springs: PlateOnSprings, share: float = 1.0, quick: bool = False
) -> Layered | str:
    """The strata below the raft as springs, found under a share of the lasting load that settlement is asked for; or why they cannot be.

    Args:
        quick: as they settle at once.
    """
    plate = bench.pads[0].plate
    assert plate is not None
    situations = bench.situations("settlement long")
    if not len(situations):
        return "no combination serves 'settlement long': the strata settle under its load"
    why = bench.why_not()[0]
    if why or bench.profile is None:
        return f"{why or 'there is no ground below it'}; or let it rest on springs"

    def made() -> Layered:
        parts = strata_and_loads(bench, project, springs, quick)
        stages = None if parts.stages is None else share * parts.stages
        return layered(
            springs, share * parts.loads, parts.cells, parts.strata, plate.lifts, plate.greatest, stages
        )

    key, values = key_of(bench, project, "settlement long")
    return _layered.of((*key, round(springs.E, 6), springs.nu, share, quick), values, made)


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
    bench: Bench, project: Project, springs: PlateOnSprings, quick: bool = False
) -> OnStrata:
    """The strata below a raft, as they settle at once where that is asked for, and what presses on the plate."""
    situations = bench.situations("settlement long")
    water = water_before(project, bench, situations.water_level)[:1]
    cells = cells_of(springs.mesh)
    before = lacking_below(bench, cells, water, situations)[0]
    gross = gross_pressure(bench, situations, springs, tuple(columns_of(bench, situations)))[:, :, :1]
    in_steps = step_situations(project)
    if quick or not len(in_steps):
        ground = at_once(bench) if quick else bench
        return OnStrata(cells, strata_of(project, ground, cells, water, before), springs.load(gross), None)
    acts = np.arange(len(in_steps)) >= int(stages_of(project, bench)[1][0])
    strata = strata_of(
        project, bench, cells, water, before, (lacking_below(bench, cells, water, in_steps), acts)
    )
    stages = springs.load(gross_pressure(bench, in_steps, springs, tuple(columns_of(bench, in_steps))))
    return OnStrata(cells, strata, springs.load(gross), stages)


_layered: Cache[Layered] = Cache(16 * MEGABYTE)


def lacking_below(bench: Bench, cells: Cells, water: Array, situations: Situations) -> Array:
    """What the net pressure of each cell lacks of its effective one: the stress before the excavation less the pressure of the water,
    kPa, (situations, cells)."""
    plate, underside = bench.pads[0].plate, bench.geometry.underside
    assert plate is not None
    forces = bench.forces(situations, SILENT)
    uplift = (forces.even / bench.geometry.area)[0]
    found = np.repeat((dug(bench, water, underside)[0] - uplift)[:, None], len(cells.x), axis=1)
    for part, deeper in zip(plate.lower, np.moveaxis(forces.below[0], -1, 0)):
        x0, x1, y0, y1 = part.box
        mine = (cells.x > x0) & (cells.x < x1) & (cells.y > y0) & (cells.y < y1)
        more = dug(bench, water, underside - part.drop) - dug(bench, water, underside)
        found[:, mine] += (more[0] - deeper / bench.pads[0].area_within(part.box))[:, None]
    return found


def _springs(
    pad: Pad, points: tuple[LoadPoint, ...], modulus: float, k: float, columns: tuple[Column, ...]
) -> PlateOnSprings:
    """The plate on its springs, the same for all questions."""
    places = tuple((p.x, p.y, p.size_x, p.size_y, p.rotation, p.kind) for p in points)

    def made() -> PlateOnSprings:
        plate = pad.plate
        assert plate is not None
        walls = walls_of(pad, points, columns)
        mesh = raft_mesh(pad, plate, columns, walls)
        h = np.full(len(mesh.elements), pad.thickness)
        for thick in plate.thickenings:
            h[mesh.within(thick.box)] = thick.thickness
        below = np.full(len(mesh.elements), k)
        for zone in plate.zones:
            below[mesh.within(zone.box)] = zone.subgrade
        beams = beams_of(pad, mesh, columns, modulus, plate.poisson, walls)
        return PlateOnSprings(mesh, h, modulus, plate.poisson, below, beams)

    return _plates.of((id(pad), places, modulus, k), (pad,), made)


_plates: Cache[PlateOnSprings] = Cache(100 * MEGABYTE, each=16 * MEGABYTE)


def gross_pressure(
    bench: Bench, situations: Situations, on: PlateOnSprings, columns: tuple[Column, ...]
) -> Array:
    """What presses down on the plate at its points of integration, without the ground: columns and walls over what of their footprints lies
    on it, with their moments, own weight, backfill, water pressure from below (negative), loads on regions; kPa, (elements, 4, situations)."""
    pad, g, settings = bench.pads[0], bench.geometry, bench.settings
    assert pad.plate is not None
    forces = bench.forces(situations, SILENT)
    mesh, area = on.mesh, on.points
    corner_x, corner_y = (v[mesh.elements] for v in mesh.nodes)
    x, y = corner_x @ SHAPES.T, corner_y @ SHAPES.T
    thick = on.h + weight_of(pad, mesh)
    weight = situations.weight * (settings.concrete_weight * thick[:, None] + forces.backfill[0])
    below = (forces.even / g.area)[0]
    found = np.repeat((weight - below)[:, None, :], 4, axis=1)
    for column in columns:
        mine = mesh.within(spread_box(pad, column, box_of(column)))
        if not mine.any():
            continue
        V, Hx, Hy, Mx, My = np.moveaxis(column.loads[0], -1, 0)
        arm = float((column.level - g.underside)[0, 0])
        # what acts at the axis of the column, where its footprint is cut by an edge too
        dx, dy = x[mine] - float(column.x[0, 0]), y[mine] - float(column.y[0, 0])
        terms = np.stack([np.ones_like(dx), dx, dy], axis=-1)
        moments = np.einsum("epi,ep,epj->ij", terms, area[mine], terms)
        plane = np.linalg.solve(moments, np.stack([V, My + arm * Hx, arm * Hy - Mx]))
        # where the column stands there is no backfill
        own = pad.area_within(within(box_of(column), pad.width, pad.length))
        backfill = situations.weight * forces.backfill[0] * own / area[mine].sum()
        found[mine] += terms @ plane - backfill
    for part, deeper in zip(pad.plate.lower, np.moveaxis(forces.below[0], -1, 0)):
        mine = mesh.within(part.box)
        found[mine] -= deeper / area[mine].sum()
        for side in pad.step_sides(part):  # its step stands on the part itself
            found[mesh.within(side)] += situations.weight * settings.concrete_weight * part.drop
    for load in pad.plate.loads:
        case = situations.cases.index(load.case)
        found[mesh.within(load.box)] += situations.factors[:, case] * load.pressure
    return found
