"""The ground of a base: that below its middle, whichever column is named first."""

from collections.abc import Callable
from functools import lru_cache

import numpy as np

from korbent.core.cache import remembered
from korbent.core.ground.profile import Profile, profile_at
from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import Pad
from korbent.core.model.ground import Borehole, Ground, Interpolation, Soil, Surfaces


def middle_of(pad: Pad, first: LoadPoint) -> tuple[float, float]:
    """The middle of a base in the plan, m; its first column stands at the offset from there, in pad axes."""
    angle = float(np.deg2rad(pad.rotation))
    c, s = float(np.cos(angle)), float(np.sin(angle))
    # a place that only rounding moves stays the same place
    x = round(first.x - (c * pad.offset_x - s * pad.offset_y), 9)
    y = round(first.y - (s * pad.offset_x + c * pad.offset_y), 9)
    return x, y


def profile_below(ground: Ground, pad: Pad, first: LoadPoint) -> Profile | None:
    """The strata below the middle of a base; None when there is no borehole.

    The very same object as long as boreholes, soils and surfaces are the same.
    """
    return _at(ground.boreholes, ground.soils, ground.surfaces, ground.interpolation)(*middle_of(pad, first))


@remembered(16)
def _at(
    boreholes: tuple[Borehole, ...], soils: tuple[Soil, ...], surfaces: Surfaces, interpolation: Interpolation
) -> Callable[[float, float], Profile | None]:
    # validation would make new tuples: what is remembered by them would not be found again
    ground = Ground.model_construct(boreholes=boreholes, soils=soils, surfaces=surfaces, interpolation=interpolation)

    @lru_cache(maxsize=4096)
    def at(x: float, y: float) -> Profile | None:
        return profile_at(ground, x, y)

    return at
