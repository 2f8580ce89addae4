"""What acts on the ground beside a base: all other foundations and the area loads, as stress in the cells below its
middle."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from korbent.core.actions.construction import timeline
from korbent.core.bench import stands_of
from korbent.core.cache import Cache, forgets, remembered
from korbent.core.model.actions import AreaLoad
from korbent.core.model.project import Project
from korbent.core.settlement.column import FEET, Column, column_of
from korbent.core.settlement.pressing import Pressing, areas_of, pressing_of
from korbent.core.settlement.stress.area_loads import (
    area_load_angle,
    area_load_slope,
    area_load_stress,
    covers,
)
from korbent.core.settlement.stress.influences import (
    Areas,
    Influences,
    Slopes,
    angle_of_pairs,
    gauss_places,
)
from korbent.core.working import Array


@dataclass(frozen=True)
class Beside:
    """Stress (kPa) added below the middle of a base by all other loads, in the cells below it as it is: levels
    (cells,)."""

    levels: Array
    stress: Array
    """In the situations of long-term settlement, (situations, cells)."""
    stages: Array
    """After each construction step, (steps, cells)."""
    along_x: Array
    """Change of the stress along x of the plan, kPa/m, (situations, cells)."""
    along_y: Array
    feet: Array
    """Levels at which more begins to press below the base, (FEET,)."""
    sized: Array
    """Cells that have a thickness, (cells,)."""
    angle: Array | None = None
    """What the normal stresses add up to, over 1 + nu, (situations, cells): where something needs it."""
    angle_stages: Array | None = None

    def at(self, levels: Array, values: Array) -> Array:
        """Values (rows, cells) at other levels (cells,): linear between its own."""
        if len(levels) == len(self.levels) and np.array_equal(levels, self.levels):
            return values
        own, some = -self.levels[self.sized], values[:, self.sized]
        return np.stack([np.interp(-levels, own, row) for row in some]).reshape(len(values), len(levels))


_stress, _angle = Influences(), Influences(angle_of_pairs)


@remembered(16)
def besides(project: Project) -> dict[str, Beside]:
    """What acts beside each base, by its name.

    The very same object is given again as long as it stays the same, so that what depends on it is found again.
    """
    if not project.pads or not project.ground.boreholes:
        return {}
    pressing = pressing_of(project)
    line = timeline(project)
    if not pressing[0].pressure.size and not len(line):
        return {}  # nothing serves settlement
    areas = areas_of(pressing)
    places = np.stack([areas.x, areas.y], axis=-1)
    above = _standing_above(areas)
    feet = [
        _feet([*_feet_of_areas(project.actions.area_loads, p.x, p.y), *areas.level[above[i]]])
        for i, p in enumerate(pressing)
    ]
    columns = [column_below(p, f) for p, f in zip(pressing, feet)]
    own = [column.middle[0] for column in columns]
    most = max(map(len, own))
    levels = np.stack([np.concatenate([row, np.full(most - len(row), row[-1])]) for row in own])
    pressures = np.stack([np.concatenate([p.pressure, p.stages]) for p in pressing])
    shares = area_shares(project, len(pressing[0].pressure))
    index = np.arange(len(pressing))
    others = np.repeat(pressures.T[None], len(pressing), axis=0)  # by base: the pressure of all but itself
    others[index, :, index] = 0.0

    def all_of(unit: Array, kind: str) -> Array:
        total: Array = np.matmul(others, unit)
        for load, share in zip(project.actions.area_loads, shares.T):
            if share.any():
                total += share[:, None] * _of_area(load, places, levels, kind)[:, None, :]
        return total

    stress = all_of(_stress(places, levels, areas), "stress")
    angle = all_of(_angle(places, levels, areas), "angle") if needs_angle(project) else None
    names = tuple(pad.name for pad in project.pads)
    pairs, slopes = _near(levels, areas)
    starts = np.searchsorted(pairs[:, 0], np.arange(len(names) + 1))
    count = len(pressing[0].pressure)
    along = np.zeros((len(names), 2, count, most))
    for i in range(len(names)):
        some = slice(starts[i], starts[i + 1])
        if some.start < some.stop:
            along[i] = np.einsum("adk,as->dsk", slopes[some], pressures[pairs[some, 1], :count])
    for load, share in zip(project.actions.area_loads, shares.T):
        if share[:count].any():
            slope = _of_area(load, gauss_places(areas), levels, "slope").mean(axis=1)
            along += share[:count, None] * slope[:, :, None, :]
    before = _last.get("state")  # read once: other threads may put theirs there meanwhile
    everything = np.concatenate(
        [stress, along.reshape(len(names), 2 * count, most), *([] if angle is None else [angle])], axis=1
    )
    same = _unchanged(before, names, levels, everything)
    if before is not None and same.any():
        everything[same] = before[2][same]  # what is kept was made from this
    found = {}
    for i, name in enumerate(names):
        n = len(own[i])
        found[name] = (
            before[3][name]
            if before and same[i]
            else Beside(
                own[i],
                stress[i, :count, :n],
                stress[i, count:, :n],
                along[i, 0, :, :n],
                along[i, 1, :, :n],
                feet[i],
                columns[i].thickness[0, 0] > 0,
                None if angle is None else angle[i, :count, :n],
                None if angle is None else angle[i, count:, :n],
            )
        )
    _last["state"] = (names, levels, everything, found)
    return found


def needs_angle(project: Project) -> bool:
    """What the normal stresses beside add up to is asked for: by strata with Eu, or by Hooke's law with three
    stresses."""
    settings = (project.settings, *(stand.settings for stand in stands_of(project).values()))
    return any(s.undrained_modulus for s in project.ground.soils) or any(
        s.elastic_beside == "three_stresses" for s in settings
    )


_columns: Cache[Column] = Cache()


def column_below(one: Pressing, feet: Array) -> Column:
    """The cells below a base; the very same ones as long as its level and the strata stay the same."""
    assert one.profile is not None
    key = (id(one.profile), one.level, feet.tobytes())
    profile, level = one.profile, np.array([one.level])
    return _columns.of(key, profile, lambda: column_of(profile, level, feet[None]))


def _standing_above(areas: Areas) -> list[Array]:
    """For each base the others within whose outline its middle lies."""
    c, s = np.cos(areas.turn), np.sin(areas.turn)
    dx, dy = areas.x[:, None] - areas.x, areas.y[:, None] - areas.y
    inside = (np.abs(c * dx + s * dy) < areas.B / 2) & (np.abs(c * dy - s * dx) < areas.L / 2)
    np.fill_diagonal(inside, False)
    return [np.flatnonzero(row) for row in inside]


def _feet_of_areas(loads: Sequence[AreaLoad], x: float, y: float) -> list[float]:
    return [load.level for load in loads if _covers(load, x, y)]


def _feet(levels: Sequence[float]) -> Array:
    """The highest FEET of some levels; -inf for none."""
    found = np.full(FEET, -np.inf)
    ordered = sorted(set(levels), reverse=True)[:FEET]
    found[: len(ordered)] = ordered
    return found


def feet_below(loads: Sequence[AreaLoad], areas: Areas, x: float, y: float) -> Array:
    """Levels of the loads that stand right above a point of the plan, the highest FEET of them; -inf for none."""
    c, s = np.cos(areas.turn), np.sin(areas.turn)
    dx, dy = x - areas.x, y - areas.y
    inside = (np.abs(c * dx + s * dy) < areas.B / 2) & (np.abs(c * dy - s * dx) < areas.L / 2)
    return _feet([*_feet_of_areas(loads, x, y), *areas.level[inside]])


_covered: Cache[bool] = Cache(each=5_000)


def _covers(load: AreaLoad, x: float, y: float) -> bool:
    return _covered.of((id(load), x, y), load, lambda: covers(load, x, y))


NEAR = 20.0
"""How far away (m) other bases still tilt one."""
_near = Slopes(NEAR)

Kept = tuple[tuple[str, ...], Array, Array, dict[str, Beside]]
_last: dict[str, Kept] = {}


@forgets
def _forget() -> None:
    _last.clear()
    for kept in (_stress, _angle, _near):
        kept.forget()


def _unchanged(before: Kept | None, names: tuple[str, ...], levels: Array, values: Array) -> Array:
    """For each base: what acts beside it is the same as at the last call, in stress and in how it changes along the
    plan."""
    if before is None or before[0] != names or before[2].shape != values.shape or before[1].shape != levels.shape:
        return np.zeros(len(names), dtype=bool)
    _, old_levels, old, _ = before
    near = np.abs(values - old).max(axis=(1, 2)) <= 1e-9 * (1 + np.abs(old).max(axis=(1, 2)))
    same: Array = near & (levels == old_levels).all(axis=1)
    return same


def area_shares(project: Project, situations: int) -> Array:
    """Share of each area load in the situations (as after the last step) and after each step, (situations + steps,
    loads)."""
    line = timeline(project)
    count = len(project.actions.area_loads)
    last = line.areas[-1:] if len(line) else np.ones((1, count))
    return np.concatenate([np.repeat(last, situations, axis=0), line.areas.reshape(len(line), count)])


_areas: Cache[Array] = Cache()


def _of_area(load: AreaLoad, places: Array, levels: Array, kind: str) -> Array:
    """Of an area load below many places: stress and angle (places, levels), slope (places, 4, 2, levels); what did not
    move is kept.

    Args:
        places: (places, 2), for slopes four points of each base, (places, 4, 2).
    """
    keys = [(kind, id(load), places[i].tobytes(), levels[i].tobytes()) for i in range(len(places))]
    found = _areas.those_of(keys)
    new = [i for i in range(len(keys)) if i not in found]
    if new:
        x, y, z = places[new][..., :1], places[new][..., 1:], levels[new]
        if kind == "slope":
            values = np.stack(area_load_slope(load, x, y, z[:, None]), axis=2)
        else:
            values = (area_load_stress if kind == "stress" else area_load_angle)(load, x, y, z)
        for i, value in zip(new, values):
            found[i] = _areas.put(keys[i], load, value)
    return np.stack([found[i] for i in range(len(keys))])
