"""What a base costs: concrete, reinforcement, excavation, formwork; and its embodied carbon."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from korbent.core.bench import finished_at
from korbent.core.footprint import footprints
from korbent.core.geometry import DRIVING
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.model.reinforcement import FACES
from korbent.core.model.site import Rates
from korbent.core.working import Array

Objective = Literal["volume", "cost", "carbon"]
OBJECTIVES: tuple[Objective, ...] = ("volume", "cost", "carbon")
STEEL_DENSITY = 7.85
"""t/m3"""
WORKING_SPACE = 0.3
"""Around the base in the pit, m."""


@dataclass(frozen=True)
class Quantities:
    """By candidate: concrete (m3), reinforcement (t), excavation (m3), formwork (m2), granular fill and lean concrete
    below (m3)."""

    concrete: Array
    steel: Array
    excavation: Array
    formwork: Array
    fill: Array
    lean: Array


def quantities(project: Project, pad: Pad, rows: Array) -> Quantities:
    """Quantities of candidate sizes (rows as :func:`korbent.core.geometry.table`), with the pad's bars and straight
    lengths."""
    B, L, far, h, level = (rows[:, DRIVING.index(n)] for n in ("width", "length", "far_length", "thickness", "level"))
    under = footprints([pad], np.zeros(len(rows), dtype=int), B[:, None], L[:, None], far[:, None])
    underside = level if pad.held == "underside" else level - h
    surface = project.ground.surfaces.excavated
    surface = finished_at(project, project.settings_of(pad)) if surface is None else surface
    area = under.area[:, 0]
    volume = np.zeros_like(B)
    for face in FACES:
        bars = pad.reinforcement.bars(face)
        if bars:
            across, along = (L, B) if face.endswith("x") else (B, L)
            count = across / bars.spacing if bars.spacing else np.full_like(B, float(bars.number or 0))
            volume = volume + count * np.pi * bars.diameter**2 / 4 * along * area / (B * L)
    below = pad.replacement
    deeper = below.thickness if below else 0.0
    # what replaces the ground reaches as far to the sides as it spreads the load
    wider = 2 * below.spread * below.thickness if below else 0.0
    placed = under.spread(wider / 2).area[:, 0] * deeper if not pad.bore else (B + wider) ** 2 * np.pi / 4 * deeper
    dig = np.maximum(surface - underside, 0.0)
    lower = sum(pad.area_within(part.box) * part.drop for part in pad.plate.lower) if pad.plate else 0.0
    pit = lower + (B + 2 * WORKING_SPACE) * (L + 2 * WORKING_SPACE) * dig
    none = np.zeros_like(B)
    return Quantities(
        concrete=area * h + pad.added_volume,
        steel=volume * STEEL_DENSITY,
        excavation=pit + placed,
        fill=placed if below and below.kind == "granular" else none,
        lean=placed if below and below.kind == "concrete" else none,
        formwork=(under.around[:, 0] + np.pi * pad.bore) * h,
    )


def value_of(rates: Rates, found: Quantities, objective: Objective) -> Array:
    """What is to be least: m3 of concrete, cost, or kg CO2e."""
    if objective == "volume":
        return found.concrete
    if objective == "carbon":
        carbon: Array = (
            found.concrete * rates.carbon_concrete
            + found.steel * rates.carbon_steel
            + found.fill * rates.carbon_fill
            + found.lean * rates.carbon_lean
        )
        return carbon
    cost: Array = (
        found.concrete * rates.concrete
        + found.steel * rates.steel
        + found.excavation * rates.excavation
        + found.formwork * rates.formwork
        + found.fill * rates.fill
        + found.lean * rates.lean
    )
    return cost


def of_pads(project: Project, objective: Objective) -> float:
    """The objective summed over all pads."""
    from korbent.core.geometry import table

    return float(sum(value_of(project.rates, quantities(project, p, table(p)), objective)[0] for p in project.pads))
