"""The plate of a raft: its mesh, what it rests on where nothing is solved yet, and what presses on it."""

import math

import numpy as np

from korbent.core.actions.construction import timeline
from korbent.core.actions.situations import Situations
from korbent.core.bench import Bench, stands_of
from korbent.core.cache import MEGABYTE, Cache
from korbent.core.concrete.modulus import elastic_modulus
from korbent.core.concrete.several import Column
from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import Pad
from korbent.core.model.plate import Plate
from korbent.core.model.project import Project
from korbent.core.plates.mesh import Box, Mesh, mesh_of
from korbent.core.plates.outline_mesh import outline_mesh_of
from korbent.core.plates.solve import SHAPES, PlateOnSprings, UnsolvedError, YieldedError
from korbent.core.rafts.ribs import beams_of, lines_of, spread_box, weight_of
from korbent.core.settlement.beside import besides, needs_angle
from korbent.core.settlement.of_bases import settlement_of
from korbent.core.settlement.pressing import pressing_of
from korbent.core.working import SILENT, Array
from korbent.words import Message, say

FINER = 2.0
"""Cells beside columns and edges are so many times smaller than the greatest."""
COARSE = 8.0
"""Cells of half the distance between two columns, about."""
EVEN = 1.4
"""Elements that follow an outline are as wide as they are long: of cells on lines the greatest are longer than wide, so
they are so many times larger."""


def key_of(bench: Bench, project: Project, question: str) -> tuple[tuple[object, ...], tuple[object, ...]]:
    """What the solution of a raft depends on: a key, and the values that it names."""
    pad = bench.pads[0]
    ground, actions = bench.ground, bench.actions
    values: tuple[object, ...] = (
        pad,
        *bench.standing[0],
        bench.settings,
        bench.profile,
        ground.water,
        ground.backfill,
        ground.surfaces,
        *actions.cases,
        *actions.combinations,
        timeline(project),
        *actions.drains,
    )
    key: tuple[object, ...] = (question, bench.standards.concrete, bench.finished)
    # what stands beside it settles the ground below it too, and when it is built
    if rests_on_strata(pad):
        others = [stand for stand in stands_of(project).values() if rests_on_strata(stand.pad)]
        values += (*pressing_of(project), *project.actions.area_loads)
        values += tuple(v for one in others for v in (one.pad, *one.points, one.settings))
        key += (needs_angle(project),)
    else:
        values += (besides(project).get(pad.name),)
    return (*key, *map(id, values)), values


def rests_on_strata(pad: Pad) -> bool:
    """A raft on the strata themselves."""
    return pad.plate is not None and pad.plate.ground == "layers"


def box_of(column: Column) -> Box:
    """The footprint of a column on the raft."""
    x, y = float(column.x[0, 0]), float(column.y[0, 0])
    a, b = (float(size[0, 0]) / 2 for size in column.size)
    return x - a, x + a, y - b, y + b


def within(box: Box, width: float, length: float) -> Box:
    """The part of a box that lies on the raft."""
    return max(box[0], -width / 2), min(box[1], width / 2), max(box[2], -length / 2), min(box[3], length / 2)


def walls_of(pad: Pad, points: tuple[LoadPoint, ...], columns: tuple[Column, ...]) -> tuple[Box, ...]:
    """Footprints of the concrete walls that stiffen a raft, which run along one of its axes and lie on it; none where
    it says so."""
    if pad.plate is None or pad.plate.walls is None:
        return ()
    boxes = (
        (p, within(box_of(c), pad.width, pad.length)) for p, c in zip(points, columns) if p.kind == "concrete_wall"
    )
    return tuple(
        box
        for p, box in boxes
        if abs(math.sin(2 * math.radians(p.rotation - pad.rotation))) < 1e-6
        and box[1] - box[0] > 1e-6
        and box[3] - box[2] > 1e-6
    )


def raft_mesh(pad: Pad, plate: Plate, columns: tuple[Column, ...], walls: tuple[Box, ...] = ()) -> Mesh:
    """The mesh of a raft: lines at the faces of columns, at openings, thickenings and loaded regions."""
    B, L = pad.width, pad.length
    outline = (-B / 2, B / 2, -L / 2, L / 2)
    inner = [within(spread_box(pad, c, box_of(c)), B, L) for c in columns]
    # walls are beams on their middle
    inner += [((a + b) / 2,) * 2 + (c, d) if d - c > b - a else (a, b) + ((c + d) / 2,) * 2 for a, b, c, d in walls]
    between = [r.box for r in (*plate.thickenings, *plate.loads, *plate.zones, *plate.lower)] + lines_of(pad)
    between += [side for part in plate.lower for side in pad.wall_sides(part)]
    size = plate.mesh or greatest_cell(pad, columns)
    openings, fine = [r.box for r in plate.openings], min(size, max(size / FINER, pad.thickness / 3))
    if pad.outline:
        return outline_mesh_of(pad.outline, inner, openings, EVEN * size, fine, between)
    return mesh_of(outline, inner + between, openings, size, fine)


def greatest_cell(pad: Pad, columns: tuple[Column, ...]) -> float:
    """A part of the distance between columns, m."""
    places = np.array([(float(c.x[0, 0]), float(c.y[0, 0])) for c in columns])
    apart = np.hypot(*(places[:, None] - places[None, :]).transpose(2, 0, 1)) if len(places) > 1 else np.zeros((1, 1))
    apart[apart < 0.5] = np.inf
    near = float(np.median(apart.min(axis=0)))
    span = min(near if np.isfinite(near) else min(pad.width, pad.length), pad.width, pad.length)
    return max(span / (2 * COARSE), 0.15)


def springs_of(bench: Bench, k: float, columns: tuple[Column, ...]) -> tuple[PlateOnSprings, PlateOnSprings]:
    """The plate on even springs (and zones), with the modulus of its concrete and with that of concrete that has
    crept."""
    pad = bench.pads[0]
    assert pad.plate is not None
    modulus = pad.plate.modulus or elastic_modulus(bench)
    short, late = (
        _springs(pad, bench.standing[0], round(E, 6), round(k, 9), columns)
        for E in (modulus, modulus / (1 + pad.plate.creep))
    )
    return short, late


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


def subgrade_of(bench: Bench, project: Project) -> tuple[float | None, str]:
    """(k in kN/m3, where it is from, or why there is none): typed, or the gross pressure over the settlement that the
    strata give."""
    plate = bench.pads[0].plate
    if plate is not None and plate.subgrade is not None:
        return plate.subgrade, "typed"
    situations = bench.situations("settlement_long")
    if not len(situations):
        return None, say("no combination serves 'settlement long', and no modulus of subgrade reaction is typed")
    why = bench.why_not()[0]
    if why:
        return None, say("{why}; or type the modulus of subgrade reaction", why=why)
    forces = bench.forces(situations, SILENT)
    found = settlement_of(bench, project, situations, forces, SILENT)
    s = float(found.total[0, 0])
    if not s > 1e-6:
        return (
            None,
            say("the ground does not settle under the lasting load: type the modulus of subgrade reaction"),
        )
    return float((forces.V / bench.geometry.area)[0, 0]) / s, say(
        "gross pressure over the settlement of the whole raft by its strata"
    )


class Afloat(Message):
    """Why a raft has no solution where nothing holds it: it is unstable."""

    __slots__ = ()


def unsolved_words(error: UnsolvedError, labels: tuple[str, ...]) -> str:
    """Why a raft has no solution, and in which situations."""
    where = (
        say(" in combination {labels}{value}", labels=", ".join(labels[:3]), value=" …" if len(labels) > 3 else "")
        if labels
        else ""
    )
    if isinstance(error, YieldedError):
        return say("the greatest pressure is too little{where}: {error}", where=where, error=error)
    return Afloat("{error}{where}: the raft floats up or tips over", {"error": str(error), "where": where})


def gross_pressure(bench: Bench, situations: Situations, on: PlateOnSprings, columns: tuple[Column, ...]) -> Array:
    """What presses down on the plate at its points of integration, without the ground: columns and walls over what of
    their footprints lies on it, with their moments, own weight, backfill, water pressure from below (negative), loads
    on regions; kPa, (elements, 4, situations)."""
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
        for side in pad.wall_sides(part):  # its step stands on the part itself
            found[mesh.within(side)] += situations.weight * settings.concrete_weight * part.drop
    for load in pad.plate.loads:
        case = situations.cases.index(load.case)
        found[mesh.within(load.box)] += situations.factors[:, case] * load.pressure
    return found
