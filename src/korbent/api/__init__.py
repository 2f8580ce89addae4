"""What other programs may call: small, typed, and kept as it is from release to release. Only the names of this module
are promised.

Units are m, kN, kNm, kPa, MPa (strengths of concrete and steel), kN/m3, degrees; days for time. Arrays of any shape
that broadcast against each other may stand for numbers."""

from korbent.api.formulas import (
    BEARING_METHODS,
    CONCRETE_STANDARDS,
    Bearing,
    Pressed,
    bearing,
    contact,
    flexural_steel,
    one_way_shear,
    stress_below,
)
from korbent.api.projects import change, changes, check, explain, settlement, sheets, situations
from korbent.api.rafts import RAFT_FIELDS, PlateFields, plate, raft, raft_line, rib, strap
from korbent.api.strips import collapse, envelope, strip, strip_below, strip_situations
from korbent.core import model
from korbent.files.project_file import load, save

__all__ = [
    "BEARING_METHODS",
    "CONCRETE_STANDARDS",
    "RAFT_FIELDS",
    "Bearing",
    "PlateFields",
    "Pressed",
    "bearing",
    "change",
    "changes",
    "check",
    "collapse",
    "contact",
    "envelope",
    "explain",
    "flexural_steel",
    "load",
    "model",
    "one_way_shear",
    "plate",
    "raft",
    "raft_line",
    "rib",
    "save",
    "settlement",
    "sheets",
    "situations",
    "strap",
    "stress_below",
    "strip",
    "strip_below",
    "strip_situations",
]
