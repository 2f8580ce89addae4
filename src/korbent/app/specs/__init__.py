"""What each editing table of the window shows, and where its cells stand in the project."""

from korbent.app.specs.actions import CASES, COMBINATIONS, LOADS, POINTS, TOTALS
from korbent.app.specs.common import unique
from korbent.app.specs.ground import HOLES, LEVELS, SOILS, STRATA, TESTS
from korbent.app.specs.plan import PADS, SETTING_LABELS, SETTINGS, TITLE, TYPES, first_pad

__all__ = [
    "CASES",
    "COMBINATIONS",
    "HOLES",
    "LEVELS",
    "LOADS",
    "PADS",
    "POINTS",
    "SETTINGS",
    "SETTING_LABELS",
    "SOILS",
    "STRATA",
    "TESTS",
    "TITLE",
    "TOTALS",
    "TYPES",
    "first_pad",
    "unique",
]
