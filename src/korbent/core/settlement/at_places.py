"""What foundations and area loads add to the stress below any places of the plan, in the end and after each
construction step."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from korbent.core.model.project import Project
from korbent.core.settlement.beside import area_shares
from korbent.core.settlement.pressing import areas_of, pressing_of
from korbent.core.settlement.stress.area_loads import area_load_angle, area_load_stress
from korbent.core.settlement.stress.influences import Areas, angle_of_pairs, stress_of_pairs
from korbent.core.settlement.stress.round import disc_angle, disc_stress
from korbent.core.working import Array


@dataclass(frozen=True)
class Pressure:
    """A foundation that presses unevenly: rectangles with a net pressure each, (rows, rectangles), kPa; rows as of
    :func:`added_at`."""

    areas: Areas
    values: Array


def added_at(
    project: Project, places: Array, levels: Array, without: str = "", uneven: Mapping[str, Pressure] | None = None
) -> tuple[Array, Array]:
    """(vertical stress, what the normal stresses add up to over 1 + nu), kPa, (rows, places, levels): a row for each
    situation of long-term settlement, then one for each construction step.

    Args:
        places: (places, 2), m. levels: of all places, (levels,), m. without: the name of a foundation that is left out.
        uneven: foundations, by name, that do not press evenly.
    """
    pressing = pressing_of(project) if project.pads else []
    situations = len(pressing[0].pressure) if pressing else 0
    shares = area_shares(project, situations)
    stress, angle = (np.zeros((len(shares), len(places), len(levels))) for _ in range(2))
    areas = areas_of(pressing)
    for i, (pad, one) in enumerate(zip(project.pads, pressing)):
        if pad.name == without:
            continue
        rows = np.concatenate([one.pressure, one.stages])[:, None]
        if one.radius:
            units = _ring(one.radius, one.hole, np.hypot(*(places - [one.x, one.y]).T), one.level - levels)
            own = (rows[:, :, None] * unit for unit in units)
        else:
            uniform = Pressure(areas.only(np.array([i])), rows)
            own = (v for v in added_by((uneven or {}).get(pad.name, uniform), places, levels))
        for total, more in zip((stress, angle), own):
            total += more
    x, y = places.T[:, :, None]
    for load, share in zip(project.actions.area_loads, shares.T):
        if share.any():
            stress += share[:, None, None] * area_load_stress(load, x, y, levels)
            angle += share[:, None, None] * area_load_angle(load, x, y, levels)
    return stress, angle


def added_by(pressure: Pressure, places: Array, levels: Array) -> tuple[Array, Array]:
    """Stress and angle of one foundation below places, (rows, places, levels)."""
    found = []
    for kernel in (stress_of_pairs, angle_of_pairs):
        units = [kernel(places, levels, pressure.areas.only(np.array([j]))) for j in range(len(pressure.areas))]
        found.append(np.einsum("ra,apz->rpz", pressure.values, np.stack(units)))
    return found[0], found[1]


def _ring(radius: float, hole: float, r: Array, depth: Array) -> tuple[Array, Array]:
    """Stress and angle of a ring under a unit pressure, (places, levels)."""
    z, r = depth + 0.0 * r[:, None], r[:, None] + 0.0 * depth

    def of(disc: Callable[[Array, Array, Array], Array]) -> Array:
        return np.where(z > 0, disc(np.array(radius), r, z) - disc(np.array(hole), r, z), 0.0)

    return of(disc_stress), of(disc_angle)
