"""What each editing table of the window shows, and where its cells stand in the project."""

from korbent.app.specs.actions import CASES, COMBINATIONS, LOADS, OWN_LOADS, POINTS, TOTALS
from korbent.app.specs.common import unique
from korbent.app.specs.construction import AREAS, CONSTRUCTION, DRAINS, MARKS
from korbent.app.specs.ground import HOLES, LEVELS, SOILS, STRATA, TESTS
from korbent.app.specs.matrix import matrix
from korbent.app.specs.names import QUANTITIES, REVISIONS, UNITS
from korbent.app.specs.oedometer import OEDOMETERS, READINGS
from korbent.app.specs.plan import PADS, TYPES
from korbent.app.specs.project import PRESUMED, SETTING_LABELS, SETTINGS, TITLE
from korbent.app.specs.rafts import RAFTS
from korbent.app.specs.ribs import RIBS
from korbent.app.specs.site import CONFLICTS, GRIDS, RANGES, RATES, SITE
from korbent.app.specs.straps import STRAPS

__all__ = [
    "AREAS",
    "CASES",
    "COMBINATIONS",
    "CONFLICTS",
    "CONSTRUCTION",
    "DRAINS",
    "GRIDS",
    "HOLES",
    "LEVELS",
    "LOADS",
    "MARKS",
    "OEDOMETERS",
    "OWN_LOADS",
    "PADS",
    "POINTS",
    "PRESUMED",
    "QUANTITIES",
    "RAFTS",
    "RANGES",
    "RATES",
    "READINGS",
    "REVISIONS",
    "RIBS",
    "SETTINGS",
    "SETTING_LABELS",
    "SITE",
    "SOILS",
    "STRAPS",
    "STRATA",
    "TESTS",
    "TITLE",
    "TOTALS",
    "TYPES",
    "UNITS",
    "matrix",
    "unique",
]
