"""What the engineer describes: immutable, validated values."""

from korbent.core.model.actions import Actions, Combination, Load, LoadCase, LoadPoint
from korbent.core.model.edit import edited, renamed, value_at
from korbent.core.model.foundations import Acceptance, Bars, Pad, PadType, Pedestal, Reinforcement
from korbent.core.model.ground import Backfill, Borehole, Ground, GroundTest, Soil, Stratum, Surfaces, Water
from korbent.core.model.project import InconsistentError, Problem, Project, Standards, Title, inconsistencies
from korbent.core.model.settings import Settings, origin, resolve

__all__ = [
    "Acceptance",
    "Actions",
    "Backfill",
    "Bars",
    "Borehole",
    "Combination",
    "Ground",
    "GroundTest",
    "InconsistentError",
    "Load",
    "LoadCase",
    "LoadPoint",
    "Pad",
    "PadType",
    "Pedestal",
    "Problem",
    "Project",
    "Reinforcement",
    "Settings",
    "Soil",
    "Standards",
    "Stratum",
    "Surfaces",
    "Title",
    "Water",
    "edited",
    "inconsistencies",
    "origin",
    "renamed",
    "resolve",
    "value_at",
]
