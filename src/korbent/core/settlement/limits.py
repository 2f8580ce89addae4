"""Limits of settlement and of its differences: typed, or a published set."""

from dataclasses import dataclass
from typing import get_args

from korbent.core.model.settings import LimitSet, Settings
from korbent.words import say


@dataclass(frozen=True)
class Limits:
    """Greatest total settlement (m), slope between neighbours, relative rotation and tilt."""

    total: float
    slope: float
    rotation: float
    tilt: float
    source: str


Published = tuple[float | None, float | None, float | None, float | None, str]
PUBLISHED: dict[str, Published] = {
    # total m, slope, relative rotation, tilt; None: as typed. All quoted from memory.
    "en1997_annex_h": (0.05, None, 1 / 500, None, say("isolated foundations of normal structures")),
    "skempton_macdonald_1956_cracks": (None, None, 1 / 300, None, say("first cracks in panel walls")),
    "skempton_macdonald_1956_structure": (None, None, 1 / 150, None, say("damage to frames")),
    "bjerrum_1963_no_cracks": (
        None,
        None,
        1 / 500,
        1 / 250,
        say("where cracks are not allowed; tilt becomes visible"),
    ),
    "bjerrum_1963_machines": (None, None, 1 / 750, 1 / 750, say("machines sensitive to settlement")),
}
"""By set: what it limits, and for what. A set that does not limit a quantity leaves the typed limit in force."""
assert set(PUBLISHED) | {"typed"} == set(get_args(LimitSet)), "every set of the settings has its values"


def limits_of(settings: Settings) -> Limits:
    """The limits in force."""
    none: Published = (None, None, None, None, "typed")
    total, slope, rotation, tilt, source = PUBLISHED.get(settings.limit_set, none)
    return Limits(
        total or settings.settlement_limit,
        slope or settings.slope_limit,
        rotation or settings.rotation_limit,
        tilt or settings.tilt_limit,
        source,
    )
