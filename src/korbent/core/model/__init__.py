"""What the engineer describes: immutable, validated values."""

from korbent.core.model.actions import (
    Actions,
    Anchors,
    AreaLoad,
    BandDrains,
    Combination,
    ConstructionStep,
    Load,
    LoadCase,
    LoadPoint,
    SettlementMark,
)
from korbent.core.model.consistency import inconsistencies
from korbent.core.model.edit import edited, expressed, expression_at, note_on, noted, recomputed, renamed
from korbent.core.model.edit_paths import value_at
from korbent.core.model.foundations import Acceptance, Opening, Pad, PadType, Pedestal, Replacement
from korbent.core.model.frozen import Expression, Row
from korbent.core.model.ground import (
    Backfill,
    Borehole,
    Ground,
    GroundTest,
    Oedometer,
    OverLevel,
    Readings,
    Soil,
    Stratum,
    Surfaces,
    Water,
)
from korbent.core.model.problem import Problem
from korbent.core.model.project import InconsistentError, Project, Quantity, Title
from korbent.core.model.reinforcement import Bars, Dowels, Reinforcement
from korbent.core.model.settings import Settings, origin, resolve
from korbent.core.model.standards import Standards

__all__ = [
    "Acceptance",
    "Actions",
    "Anchors",
    "AreaLoad",
    "Backfill",
    "BandDrains",
    "Bars",
    "Borehole",
    "Combination",
    "ConstructionStep",
    "Dowels",
    "Expression",
    "Ground",
    "GroundTest",
    "InconsistentError",
    "Load",
    "LoadCase",
    "LoadPoint",
    "Oedometer",
    "Opening",
    "OverLevel",
    "Pad",
    "PadType",
    "Pedestal",
    "Problem",
    "Project",
    "Quantity",
    "Readings",
    "Reinforcement",
    "Replacement",
    "Row",
    "Settings",
    "SettlementMark",
    "Soil",
    "Standards",
    "Stratum",
    "Surfaces",
    "Title",
    "Water",
    "edited",
    "expressed",
    "expression_at",
    "inconsistencies",
    "note_on",
    "noted",
    "origin",
    "recomputed",
    "renamed",
    "resolve",
    "value_at",
]
