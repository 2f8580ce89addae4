"""What acts on the ground beside a base: all other foundations and the area loads, as stress below its middle."""

from collections import OrderedDict
from dataclasses import dataclass

import numpy as np

from korbent.core.bench import benches_for, standing_on
from korbent.core.ground.profile import profile_at, total_stress
from korbent.core.identity import remembered
from korbent.core.model.actions import Actions, AreaLoad
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.settlement.footing import equal_rectangle
from korbent.core.settlement.influence import Areas, Influences, Slopes, area_load_stress
from korbent.core.working import SILENT, Array

LEVELS = 60


@dataclass(frozen=True)
class Beside:
    """Stress added below the middle of a base by all other loads, kPa.

    ``levels`` (levels,) fall from the surface to the end of the known ground; ``stress`` has the shape (situations, levels).
    """

    levels: Array
    stress: Array
    along_x: Array
    """Change of the stress along x of the plan, kPa/m, (situations, levels)."""
    along_y: Array

    def slopes_at(self, levels: Array) -> tuple[Array, Array]:
        """Changes of the stress along x and y at levels as in :meth:`at`."""
        return self._interpolated(self.along_x, levels), self._interpolated(self.along_y, levels)

    def at(self, levels: Array) -> Array:
        """The stress at levels of shape (candidates, situations, ...): linear between its own levels."""
        return self._interpolated(self.stress, levels)

    def _interpolated(self, values: Array, levels: Array) -> Array:
        count = len(values)
        if levels.shape[1] != count:
            levels = np.broadcast_to(levels, (levels.shape[0], count, *levels.shape[2:]))
        found = np.empty(levels.shape)
        for i, row in enumerate(values):
            found[:, i] = np.interp(-levels[:, i], -self.levels, row)
        return found


@dataclass(frozen=True)
class Pressing:
    """How a base presses the ground: the rectangle that stands for it, and its net pressure by situation, kPa."""

    x: float
    y: float
    B: float
    L: float
    turn: float
    level: float
    pressure: Array


def pressing_of(project: Project, question: str = "settlement long") -> list[Pressing]:
    """How all bases press the ground in the situations that serve a question; what did not change is kept."""
    found: list[Pressing | None] = [None] * len(project.pads)
    keys = [pressing_key(project, pad, question) for pad in project.pads]
    for i, (key, _) in enumerate(keys):
        if key in _pressing:
            found[i] = _pressing[key][1]
    new = [i for i, one in enumerate(found) if one is None]
    for positions, bench in benches_for(project, [project.pads[i] for i in new]):
        bench = bench.on_ground()
        situations = bench.situations(question)
        forces, g = bench.forces(situations, SILENT), bench.geometry
        water = bench.water(situations)
        before: Array | float = 0.0
        if bench.profile is not None:
            surface = bench.profile.existing_at(g.underside)
            before = total_stress(
                bench.profile, bench.ground.backfill, surface, g.underside, np.minimum(water, surface)
            )
        q = np.broadcast_to(forces.V / g.area - before, forces.V.shape)
        B, L = equal_rectangle(g)
        c, s = np.cos(g.rotation), np.sin(g.rotation)
        x = g.column[0] - c * g.offset_x + s * g.offset_y
        y = g.column[1] - s * g.offset_x - c * g.offset_y
        for row, position in enumerate(positions):
            one = Pressing(
                float(x[row, 0]), float(y[row, 0]), float(B[row, 0]), float(L[row, 0]), float(g.rotation[row, 0]),
                float(g.underside[row, 0]), q[row].copy(),
            )  # fmt: skip
            key, values = keys[new[position]]
            _pressing[key] = (values, one)
            found[new[position]] = one
    while len(_pressing) > 4000:
        _pressing.popitem(last=False)
    return [one for one in found if one is not None]


_pressing: OrderedDict[tuple[object, ...], tuple[tuple[object, ...], Pressing]] = OrderedDict()


def pressing_key(
    project: Project, pad: Pad, question: str = "settlement long"
) -> tuple[tuple[object, ...], tuple[object, ...]]:
    """What the way a base presses the ground depends on: identities, and the values."""
    points = standing_on(project, pad)
    ground = project.ground
    values = (
        pad, points, project.settings_of(pad), profile_at(ground, points[0].x, points[0].y), ground.water, ground.backfill,
        ground.surfaces, *project.actions.cases, *project.actions.combinations,
    )  # fmt: skip
    return (question, *map(id, values)), values


def areas_of(pressing: list[Pressing]) -> Areas:
    """The loaded rectangles of bases."""
    return Areas(
        *(np.array([getattr(p, n) for p in pressing]) for n in ("x", "y", "B", "L", "turn", "level"))
    )


_influences = Influences()


@remembered(16)
def besides(project: Project) -> dict[str, Beside]:
    """What acts beside each base, by its name, in the situations that serve long-term settlement.

    The very same object is given again as long as it stays the same, so that what depends on it is found again.
    """
    if not project.pads or not project.ground.boreholes:
        return {}
    pressing = pressing_of(project)
    if not pressing[0].pressure.size:
        return {}  # no combination serves settlement
    areas = areas_of(pressing)
    places = np.stack([areas.x, areas.y], axis=-1)
    # from the ground's surface down, so that a base that is moved up or down finds the same levels
    spans = np.array([_span(project, p) for p in pressing])
    levels = spans[:, :1] + (spans[:, 1:] - spans[:, :1]) * np.linspace(0.0, 1.0, LEVELS)
    unit = _influences(places, levels, areas)
    pressures = np.maximum(np.stack([p.pressure for p in pressing]), 0.0)
    index = np.arange(len(pressing))
    unit[index, index] = 0.0
    total = np.moveaxis(np.tensordot(unit, pressures, axes=([1], [0])), -1, 1).copy()
    for load, share in acting(project.actions):
        total += share * _of_area(load, places, levels)[:, None, :]
    names = tuple(pad.name for pad in project.pads)
    before = _last.get("state")  # read once: other threads may put theirs there meanwhile
    same = _unchanged(before, names, levels, total)
    pairs, slopes = _near(places, levels, areas)
    starts = np.searchsorted(pairs[:, 0], np.arange(len(names) + 1))

    def along(i: int, level: Array) -> tuple[Array, Array]:
        some = slice(starts[i], starts[i + 1])
        place = (float(areas.x[i]), float(areas.y[i]))
        return _slopes(project, place, level, slopes[some], pressures[pairs[some, 1]])

    found = {
        name: before[3][name] if before and kept else Beside(level, own, *along(i, level))
        for i, (name, level, own, kept) in enumerate(zip(names, levels, total, same))
    }
    stress = np.stack([b.stress for b in found.values()])
    _last["state"] = (names, np.stack([b.levels for b in found.values()]), stress, found)
    return found


NEAR = 20.0
"""How far away (m) other bases still tilt one."""
STEP = 0.5
"""Distance (m) from the middle at which the change of the stress is taken."""
_near = Slopes(NEAR, STEP)


def _slopes(
    project: Project, place: tuple[float, float], levels: Array, unit: Array, pressures: Array
) -> tuple[Array, Array]:
    """Change along x and y of the stress below a base by what is near it, kPa/m, each (situations, levels).

    Args:
        unit: of those near it (near, 2, levels), pressures: of the same (near, situations).
    """
    found = np.einsum("adk,as->dsk", unit, pressures)
    for load, share in acting(project.actions):
        found = found + share * _slopes_of_area(load, *place, levels)[:, None, :]
    return found[0], found[1]


_areas: OrderedDict[tuple[object, ...], tuple[AreaLoad, Array]] = OrderedDict()


def _slopes_of_area(load: AreaLoad, x: float, y: float, levels: Array) -> Array:
    """Change of the stress of an area load along x and y, (2, levels); what stays the same is kept."""
    key = ("slopes", id(load), x, y, levels.tobytes())
    known = _areas.get(key)
    if known is None:
        points = ((x + STEP, y), (x - STEP, y), (x, y + STEP), (x, y - STEP))
        east, west, north, south = (
            area_load_stress(load, np.array(a), np.array(b), levels) for a, b in points
        )
        # the load is kept alive with it, so that its identity is not given to another
        known = _areas[key] = (load, np.stack([east - west, north - south]) / (2 * STEP))
        if len(_areas) > 4000:
            _areas.popitem(last=False)
    return known[1]


Kept = tuple[tuple[str, ...], Array, Array, dict[str, Beside]]
_last: dict[str, Kept] = {}


def _unchanged(before: Kept | None, names: tuple[str, ...], levels: Array, stress: Array) -> list[bool]:
    """For each base: what acts beside it is the same as at the last call."""
    if before is None or before[0] != names or before[2].shape != stress.shape:
        return [False] * len(names)
    _, old_levels, old, _ = before
    near = np.abs(stress - old).max(axis=(1, 2)) <= 1e-9 * (1 + np.abs(old).max(axis=(1, 2)))
    same: list[bool] = (near & (levels == old_levels).all(axis=1)).tolist()
    return same


def acting(actions: Actions) -> list[tuple[AreaLoad, float]]:
    """The area loads that act in the end, with their share: those of the last construction step, all where there is none."""
    last = actions.steps[-1].factors if actions.steps else None
    return [
        (a, 1.0 if last is None else last.get(a.name, 0.0))
        for a in actions.area_loads
        if last is None or last.get(a.name)
    ]


def _of_area(load: AreaLoad, places: Array, levels: Array) -> Array:
    """Stress of an area load below many places, (places, levels); kept as long as load and places stay the same."""
    key = ("stress", id(load), places.tobytes(), levels.tobytes())
    known = _areas.get(key)
    if known is None:
        known = _areas[key] = (load, area_load_stress(load, places[:, :1], places[:, 1:], levels))
    return known[1]


def _span(project: Project, pressing: Pressing) -> tuple[float, float]:
    """The levels of the ground's surface and of the end of the known ground, m."""
    profile = profile_at(project.ground, pressing.x, pressing.y)
    finished = project.ground.surfaces.finished
    if profile is None:
        return finished, finished - 1.0
    return max(finished, float(profile.top[0])), float(profile.end) - 1e-3
