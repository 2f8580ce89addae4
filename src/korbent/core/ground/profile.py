"""The ground at a point of the plan: strata as arrays, stresses at any level.

Levels are positive upwards (m). All functions take levels of any shape and return the same shape.
"""

from dataclasses import dataclass

import numpy as np

from korbent.core.identity import remembered
from korbent.core.model.ground import Backfill, Borehole, Ground, Soil
from korbent.core.working import Array

WATER_WEIGHT = 9.81
"""Unit weight of water, kN/m3."""

DRY = -1e6
"""The water level (m) that stands for no groundwater."""


@dataclass(frozen=True)
class Profile:
    """Strata below a point, from the top down. Arrays of shape (strata,)."""

    borehole: str
    soils: tuple[Soil, ...]
    top: Array
    bottom: Array
    weight: Array
    weight_saturated: Array
    existing: float
    rigid_below: bool

    @property
    def end(self) -> float:
        """Level at which the known ground ends."""
        return float(self.bottom[-1])


def profile_at(ground: Ground, x: float, y: float) -> Profile | None:
    """The strata of the borehole nearest to (x, y); None when there is no borehole."""
    if not ground.boreholes:
        return None
    nearest = min(range(len(ground.boreholes)), key=lambda i: _distance(ground, i, x, y))
    return _profile(ground, ground.boreholes[nearest])


def _distance(ground: Ground, index: int, x: float, y: float) -> float:
    hole = ground.boreholes[index]
    return (hole.x - x) ** 2 + (hole.y - y) ** 2


@remembered(64)
def _profile(ground: Ground, hole: Borehole) -> Profile:
    by_name = {soil.name: soil for soil in ground.soils}
    soils = tuple(by_name[s.soil] for s in hole.strata)
    depths = np.cumsum([0.0] + [s.thickness for s in hole.strata])
    levels = hole.ground_level - depths
    existing = ground.surfaces.existing
    return Profile(
        borehole=hole.name,
        soils=soils,
        top=levels[:-1],
        bottom=levels[1:],
        weight=np.array([s.weight for s in soils]),
        weight_saturated=np.array([s.weight_saturated for s in soils]),
        existing=hole.ground_level if existing is None else existing,
        rigid_below=hole.rigid_below,
    )


def stratum_below(profile: Profile, level: Array) -> Array:
    """Index of the stratum just below each level; -1 below the known ground. Above it: the first."""
    index = np.searchsorted(-profile.bottom, -np.asarray(level) + 1e-9, side="right")
    return np.where(index >= len(profile.soils), -1, index)


def total_stress(profile: Profile, backfill: Backfill, surface: Array, level: Array, water: Array) -> Array:
    """Total vertical stress (kPa) at ``level`` under ground up to ``surface``.

    Strata above the surface are taken as removed; between the highest stratum and a higher surface lies
    backfill. Below ``water`` the saturated weights count.
    """
    surface, level, water = (np.asarray(a, float)[..., None] for a in (surface, level, water))
    top = np.concatenate([[np.inf], profile.top])
    bottom = np.concatenate([[profile.top[0]], profile.bottom])
    dry_weight = np.concatenate([[backfill.weight], profile.weight])
    wet_weight = np.concatenate([[backfill.weight_saturated], profile.weight_saturated])
    upper = np.minimum(top, surface)
    lower = np.maximum(bottom, level)
    dry = np.maximum(0.0, upper - np.maximum(lower, water))
    wet = np.maximum(0.0, np.minimum(upper, water) - lower)
    stress: Array = (dry * dry_weight + wet * wet_weight).sum(axis=-1)
    return stress


def pore_pressure(level: Array, water: Array) -> Array:
    """Hydrostatic pore pressure (kPa) at ``level``."""
    pressure: Array = WATER_WEIGHT * np.maximum(0.0, np.asarray(water) - np.asarray(level))
    return pressure


def effective_stress(
    profile: Profile, backfill: Backfill, surface: Array, level: Array, water: Array
) -> Array:
    """Effective vertical stress (kPa). Free water above the surface adds nothing to it."""
    water = np.minimum(water, surface)
    return total_stress(profile, backfill, surface, level, water) - pore_pressure(level, water)


def parameter(profile: Profile, name: str) -> Array:
    """One parameter of every stratum, shape (strata,); 0 where it is missing (see :func:`missing`)."""
    return np.array([getattr(soil, name) or 0.0 for soil in profile.soils], dtype=float)


def missing(soil: Soil, names: tuple[str, ...]) -> str:
    """What a check says when the soil lacks parameters; '' when it has them all."""
    lacking = [name.replace("_", " ") for name in names if getattr(soil, name) is None]
    return f"the soil '{soil.name}' has no {' and no '.join(lacking)}" if lacking else ""
