"""How bases press the ground: the area that stands for each, and its net pressure in every situation and construction
step."""

from dataclasses import dataclass

import numpy as np

from korbent.core.actions.construction import QUESTION, construction_situations, timeline
from korbent.core.bench import Bench, benches_for, stand_of, stands_of
from korbent.core.cache import Cache, remembered
from korbent.core.ground.profile import Profile, total_stress
from korbent.core.model.project import Project
from korbent.core.settlement.stress.influences import Areas
from korbent.core.working import SILENT, Array


@dataclass(frozen=True)
class Pressing:
    """One base as it presses the ground. Lengths and levels in m, pressures in kPa."""

    x: float
    y: float
    B: float
    L: float
    turn: float
    level: float
    pressure: Array
    """Net pressure in the situations of long-term settlement, (situations,)."""
    stages: Array
    """After each construction step, (steps,)."""
    first: int
    """The first step in which it presses; as many as there are steps where it does so only after them."""
    radius: float = 0.0
    """Outer radius of a ring, else 0."""
    hole: float = 0.0
    embedment: float = 0.0
    """Depth below the finished ground."""
    profile: Profile | None = None


def net_pressure(bench: Bench, water: Array, V: Array) -> tuple[Array, Array | float]:
    """Net pressure (candidates, situations), kPa: less the total stress before the excavation, which is returned too.

    Args:
        water: the level before anything is built, (situations,). V: total vertical force, kN.
    """
    g = bench.geometry
    before: Array | float = 0.0
    if bench.profile is not None:
        before = dug(bench, water, g.underside)
        for k in range(g.lower.shape[1]):  # below lower parts more is dug out, in the mean over the base
            area, drop = g.lower[:, k, 2:3], g.lower[:, k, 3:4]
            before = before + (dug(bench, water, g.underside - drop) - dug(bench, water, g.underside)) * area / g.area
    return np.broadcast_to(V / g.area - before, V.shape), before


def dug(bench: Bench, water: Array, level: Array) -> Array:
    """Total stress at levels (candidates, 1) before the excavation, (candidates, situations), kPa."""
    assert bench.profile is not None
    surface = bench.profile.existing_at(level)
    return total_stress(bench.profile, bench.ground.backfill, surface, level, np.minimum(water, surface))


def water_before(project: Project | None, bench: Bench, levels: Array) -> Array:
    """Water levels before anything is built: with dated steps that of the first one, else those of the situations,
    m."""
    line = timeline(project) if project is not None else None
    if line is None or not line.dated or bench.ground.water is None:
        return levels
    return np.full(len(levels), getattr(bench.ground.water, line.steps[0].water))


def stages_of(project: Project, bench: Bench) -> tuple[Array, Array]:
    """Net pressure after each construction step, (steps, candidates), and the first step in which each candidate
    presses.

    The own weight of a base and its backfill, less the excavated ground, act from the first step in which one of its
    load cases acts."""
    situations = construction_situations(project)
    count = len(bench.index)
    if not len(situations):
        return np.zeros((0, count)), np.zeros(count, dtype=int)
    forces = bench.forces(situations, SILENT)
    q, _ = net_pressure(bench, water_before(project, bench, situations.water_level), forces.V)
    acts = np.abs(forces.factored).sum(axis=-1) > 1e-9
    begun = np.broadcast_to(np.cumsum(acts, axis=-1) > 0, q.shape)
    return np.where(begun, q, 0.0).T, (~begun).sum(axis=-1)


@remembered(8)
def pressing_of(project: Project) -> list[Pressing]:
    """How all bases press the ground; what did not change is kept."""
    keys = pressing_keys(project)
    found = _pressing.those_of([key for key, _ in keys])
    new = [i for i in range(len(keys)) if i not in found]
    for positions, bench in benches_for(project, [project.pads[i] for i in new]):
        bench = bench.on_ground()
        situations = bench.situations(QUESTION)
        forces, g = bench.forces(situations, SILENT), bench.geometry
        q, _ = net_pressure(bench, water_before(project, bench, situations.water_level), forces.V)
        stages, first = stages_of(project, bench)
        B, L = g.footprint.equal_rectangle
        c, s = np.cos(g.rotation), np.sin(g.rotation)
        # the centre of the area from the first column
        along, across = g.footprint.centroid - g.offset_x, g.footprint.centroid_y - g.offset_y
        x = g.column[0] + c * along - s * across
        y = g.column[1] + s * along + c * across
        hole = np.broadcast_to(g.footprint.hole, B.shape)
        turn = g.rotation + g.footprint.turn
        for row, position in enumerate(positions):
            one = Pressing(
                float(x[row, 0]),
                float(y[row, 0]),
                float(B[row, 0]),
                float(L[row, 0]),
                float(turn[row, 0]),
                float(g.underside[row, 0]),
                q[row].copy(),
                stages[:, row].copy(),
                int(first[row]),
                float(g.B[row, 0]) / 2 if hole[row, 0] > 0 else 0.0,
                float(hole[row, 0]) / 2,
                max(bench.finished - float(g.underside[row, 0]), 0.0),
                stand_of(project, bench.pads[row]).profile,
            )
            key, values = keys[new[position]]
            found[new[position]] = _pressing.put(key, values, _as_before(one))
    return [found[i] for i in range(len(keys))]


_pressing: Cache[Pressing] = Cache()


def _as_before(one: Pressing) -> Pressing:
    """The very same object for a base that presses as one did before: bars and names press nothing."""
    numbers = (
        one.x,
        one.y,
        one.B,
        one.L,
        one.turn,
        one.level,
        one.first,
        one.radius,
        one.hole,
        one.embedment,
    )
    key = (*numbers, one.pressure.tobytes(), one.stages.tobytes(), id(one.profile))
    return _alike.of(key, one.profile, lambda: one)


_alike: Cache[Pressing] = Cache()


Key = tuple[tuple[object, ...], tuple[object, ...]]


@remembered(8)
def pressing_keys(project: Project) -> list[Key]:
    """What the way each base presses the ground depends on: identities, and the values."""
    ground = project.ground
    common = (
        ground.water,
        ground.backfill,
        ground.surfaces,
        timeline(project),
        *project.actions.cases,
        *project.actions.combinations,
    )
    same = tuple(map(id, common))
    found: list[Key] = []
    for stand in stands_of(project).values():
        own = (stand.pad, stand.points, stand.settings, stand.profile, stand.ties)
        found.append(((*map(id, own), *same), (*own, *common)))
    return found


def areas_of(pressing: list[Pressing]) -> Areas:
    """The loaded rectangles of bases."""
    return Areas(*(np.array([getattr(p, n) for p in pressing]) for n in ("x", "y", "B", "L", "turn", "level")))
