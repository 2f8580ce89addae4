"""A vertical cut of the ground below a raft: the stress that its pressure adds, and the bent base above it."""

from dataclasses import dataclass

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.cache import remembered
from korbent.core.geometry import table
from korbent.core.ground.profile import strata_of
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.rafts.layered import cells_of
from korbent.core.rafts.solved import solved_raft
from korbent.core.settlement.pressing import net_pressure, water_before
from korbent.core.settlement.stress.rectangle import rectangle_stress
from korbent.core.working import SILENT, Array
from korbent.words import say

PLACES, LEVELS = 61, 25
BESIDE = 0.5
"""How far beside the raft is looked at, in its size along the cut."""
DEEP = 2.0
"""How far down, in its lesser size, where the ground is known so far."""


@dataclass(frozen=True)
class GroundCut:
    """Along an axis of a raft at a place across, under the lasting combination that presses most."""

    axis: str
    at: float
    situation: str
    x: Array
    """Along the axis from the middle of the raft, m."""
    z: Array
    """Levels, rising, m."""
    stress: Array
    """Added vertical stress, kPa, (x, z)."""
    base: Array
    """Places along the base, m."""
    settled: Array
    """Of the base there, m; nan in openings."""
    underside: float
    thickness: float
    strata: tuple[tuple[str, str, float, float], ...]
    """Name, pattern, top and bottom."""


@remembered(16)
def ground_cut(project: Project, pad: Pad, axis: str, at: float) -> GroundCut | str:
    """Boussinesq's stress (Newmark 1935) of the net pressures of cells of the raft, alone; or why there is none."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    found = solved_raft(bench, project, "settlement_long")
    if isinstance(found, str):
        return found
    profile = bench.profile
    if profile is None:
        return say("there is no borehole: describe the ground first")
    situations, mesh = found.situations, found.mesh
    forces = bench.forces(situations, SILENT)
    most = int(np.argmax(forces.V[0]))
    _, before = net_pressure(bench, water_before(project, bench, situations.water_level), forces.V)
    overburden = float(np.broadcast_to(np.asarray(before), forces.V.shape)[0, most])
    uplift = float((forces.even / bench.geometry.area)[0, most])
    cells = cells_of(mesh, pad.plate.cells if pad.plate else None)
    pressure = cells.mean(found.solution.pressure[:, :, most], found.plate.points) + uplift - overburden
    pressure = pressure * cells.area / (cells.size_x * cells.size_y)  # an opening within a cell bears nothing
    half = (pad.width if axis == "x" else pad.length) / 2
    x = np.linspace(-half * (1 + 2 * BESIDE), half * (1 + 2 * BESIDE), PLACES)
    deep = min(DEEP * min(pad.width, pad.length), pad.underside - float(np.ravel(profile.end)[0]))
    if deep <= 0.1:
        return say("the ground below the raft is not known")
    depth = deep * np.linspace(0.0, 1.0, LEVELS) ** 1.5
    along, across = (cells.x, cells.y) if axis == "x" else (cells.y, cells.x)
    wide, long = (cells.size_x, cells.size_y) if axis == "x" else (cells.size_y, cells.size_x)
    stress = (
        rectangle_stress(
            x[:, None, None] - along,
            at - across + 0.0 * x[:, None, None],
            wide,
            long,
            np.maximum(depth, 1e-3)[None, :, None],
        )
        @ pressure
    )
    lines, others = (mesh.lines_x, mesh.lines_y) if axis == "x" else (mesh.lines_y, mesh.lines_x)
    w = found.settlement[:, most].reshape(mesh.grid)
    w = w if axis == "x" else w.T
    j = int(np.abs(others - at).argmin())
    strata = tuple((soil.name, soil.pattern, top, bottom) for soil, top, bottom in strata_of(profile))
    return GroundCut(
        axis,
        at,
        situations.label(most),
        x,
        (pad.underside - depth)[::-1],
        stress[:, ::-1],
        lines,
        w[:, j],
        pad.underside,
        pad.thickness,
        strata,
    )
