"""Soils, boreholes, surfaces and water levels."""

from typing import Literal

from pydantic import Field

from korbent.core.model.base import (
    Cohesion,
    Coordinate,
    Depth,
    Factor,
    FrictionAngle,
    Frozen,
    FrozenMap,
    Length,
    Level,
    Name,
    Pressure,
    PressureGradient,
    Share,
    UnitWeight,
)

Pattern = Literal["made ground", "topsoil", "clay", "silt", "sand", "gravel", "peat", "rock"]
TestKind = Literal["SPT N", "CPT qc", "cu", "PI", "wL", "w", "e0"]
TEST_UNITS: dict[str, str] = {
    "SPT N": "",
    "CPT qc": "MPa",
    "cu": "kPa",
    "PI": "%",
    "wL": "%",
    "w": "%",
    "e0": "",
}
Drainage = Literal["drained", "undrained", "both"]
Compression = Literal["elastic", "oedometer", "none"]


class Soil(Frozen):
    """A named soil with its parameters; a borehole refers to it by name.

    ``drainage`` says how it answers in the checks; ``compression`` says how it settles: by E' and nu,
    by the oedometer indices, or not at all.
    """

    name: Name
    pattern: Pattern = "sand"
    description: str = ""
    drainage: Drainage = "drained"
    weight: UnitWeight
    weight_saturated: UnitWeight
    cohesion: Cohesion | None = None
    friction_angle: FrictionAngle | None = None
    undrained_strength: Pressure | None = None
    undrained_strength_gradient: PressureGradient = 0.0
    compression: Compression = "elastic"
    modulus: Pressure | None = None
    poisson: Share = Field(default=0.3, lt=0.5)
    compression_index: Factor | None = None
    recompression_index: Factor | None = None
    void_ratio: Factor | None = None
    overconsolidation_ratio: float = Field(default=1.0, ge=1.0)
    sources: FrozenMap[str] = Field(default_factory=dict, validate_default=True)
    """Where a parameter comes from, by field: a test, a correlation, a note."""


class Stratum(Frozen):
    """One soil in one borehole."""

    soil: Name
    thickness: Length


class GroundTest(Frozen):
    """One test at a depth below the ground level of its borehole; qc in MPa, cu in kPa, index tests in percent."""

    kind: TestKind
    depth: Depth
    value: float = Field(ge=0)


class Borehole(Frozen):
    """Strata from the ground level down. ``rigid_below`` says that what follows does not settle."""

    name: Name
    x: Coordinate
    y: Coordinate
    ground_level: Level
    strata: tuple[Stratum, ...] = Field(min_length=1)
    rigid_below: bool = False
    tests: tuple[GroundTest, ...] = ()


class Surfaces(Frozen):
    """The three ground surfaces as levels. ``existing`` None: the ground level of the nearest borehole."""

    existing: Level | None = None
    excavated: Level | None = None
    finished: Level = 0.0


class Water(Frozen):
    """Groundwater levels."""

    low: Level
    normal: Level
    high: Level


class Backfill(Frozen):
    """The material placed above the bases, not the natural stratum."""

    name: Name = "Backfill"
    weight: UnitWeight = 18.0
    weight_saturated: UnitWeight = 20.0


class Ground(Frozen):
    """Everything below the surface. No borehole and no water are legal: what needs them says so."""

    soils: tuple[Soil, ...] = ()
    boreholes: tuple[Borehole, ...] = ()
    surfaces: Surfaces = Surfaces()
    water: Water | None = None
    backfill: Backfill = Backfill()
    interpolation: Literal["nearest", "distance-weighted"] = "nearest"
    """The ground below a point: that of the nearest borehole, or thicknesses weighted by distance."""
    spt_energy: float = Field(default=60.0, gt=0, le=100)
    """Energy ratio of the SPT hammer, percent."""
