"""Soils, boreholes, surfaces and water levels."""

from functools import lru_cache
from itertools import pairwise
from typing import Annotated, Any, Literal, Self

from pydantic import Field, TypeAdapter, ValidationError, model_validator

from korbent.core.model.frozen import (
    Cohesion,
    Consolidation,
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
    Row,
    Share,
    UnitWeight,
    nothing,
)
from korbent.words import say

Pattern = Literal["made_ground", "topsoil", "clay", "silt", "sand", "gravel", "peat", "rock"]
TestKind = Literal["SPT N", "CPT qc", "CPT fs", "CPT u2", "cu", "phi", "PI", "wL", "w", "e0", "gamma", "mv", "cv"]
TEST_UNITS: dict[str, str] = {
    "SPT N": "",
    "CPT qc": "MPa",
    "CPT fs": "kPa",
    "CPT u2": "kPa",
    "cu": "kPa",
    "phi": "deg",
    "gamma": "kN/m3",
    "mv": "1/MPa",
    "cv": "m²/day",
    "PI": "%",
    "wL": "%",
    "w": "%",
    "e0": "",
}
Drainage = Literal["drained", "undrained", "both"]
Compression = Literal["elastic", "oedometer", "mv", "strain_influence", "none"]


class OverLevel(Frozen):
    """A parameter over level: linear between its points, or in steps from each point downwards.

    Points are (level, value) from the top down; beyond the ends the outermost values hold.
    """

    kind: Literal["linear", "stepwise"]
    points: tuple[tuple[Level, float], ...] = Field(min_length=1)

    @model_validator(mode="after")
    def _falling(self) -> Self:
        levels = [level for level, _ in self.points]
        if any(b >= a for a, b in pairwise(levels)):
            raise ValueError(say("levels must fall from each point to the next"))
        return self


LINES = ("friction_angle", "cohesion", "undrained_strength", "modulus")
"""Parameters that may run over level."""


class Soil(Row):
    """A named soil with its parameters; a borehole refers to it by name.

    ``drainage`` says how it answers in the checks; ``compression`` says how it settles: by E' and nu, by the oedometer
    indices, by mv, by strain influence factors, or not at all. With an undrained modulus an immediate part comes before
    the consolidation. Without ``consolidation_coefficient`` and ``permeability`` the stratum drains freely.
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
    compression_ratio: Factor | None = None
    """Cc/(1 + e0), in the place of Cc and e0."""
    recompression_share: Annotated[float, Field(gt=0, le=1, json_schema_extra={"unit": ""})] | None = None
    """Cr over Cc, in the place of Cr."""
    overconsolidation_ratio: float = Field(default=1.0, ge=1.0)
    preconsolidation: Pressure | None = None
    """Preconsolidation pressure sigma'p, in the place of the overconsolidation ratio."""
    preconsolidation_margin: Annotated[float, Field(ge=0, json_schema_extra={"unit": "kPa"})] | None = None
    """sigma'p - sigma'v0, in the place of the overconsolidation ratio."""
    compressibility: Annotated[float, Field(gt=0, json_schema_extra={"unit": "1/MPa"})] | None = None
    """Coefficient of volume compressibility mv."""
    undrained_modulus: Pressure | None = None
    pore_pressure_coefficient: Annotated[float, Field(ge=-0.5, le=1.5)] | None = None
    """A of Skempton: with it the oedometer settlement is reduced (Skempton and Bjerrum 1957)."""
    consolidation_coefficient: Consolidation | None = None
    horizontal_consolidation: Consolidation | None = None
    permeability: Annotated[float, Field(gt=0, json_schema_extra={"unit": "m/s"})] | None = None
    """Vertical permeability k: where it is typed it stays, and cv follows from it and the stiffness."""
    creep_index: Factor | None = None
    """Strain by creep in a tenfold time, at first loading."""
    creep_reload: Share = 0.1
    """Share of it below the greatest stress of the past."""
    over_level: FrozenMap[OverLevel] = Field(default_factory=nothing)
    """Parameters that run over level, by field; where one does, it stands for the constant value."""
    sources: FrozenMap[str] = Field(default_factory=dict, validate_default=True)
    """Where a parameter comes from, by field: a test, a correlation, a note."""

    @property
    def consolidates(self) -> bool:
        """Excess pressure can stand in it."""
        return self.consolidation_coefficient is not None or self.permeability is not None

    @model_validator(mode="after")
    def _said_once(self) -> Self:
        past = [
            name
            for name, given in (
                (say("the overconsolidation ratio"), self.overconsolidation_ratio > 1.0),
                (say("the preconsolidation pressure"), self.preconsolidation is not None),
                (say("the margin of preconsolidation"), self.preconsolidation_margin is not None),
            )
            if given
        ]
        if len(past) > 1:
            raise ValueError(
                say(
                    "{past} say the same thing: give one of them (an overconsolidation ratio of 1 is none)",
                    past=" and ".join(past),
                )
            )
        if self.compression_ratio is not None and self.compression_index is not None:
            raise ValueError(
                say(
                    "the compression ratio Cc/(1 + e0) and the compression index Cc say the same thing: give one of them"
                )
            )
        if self.recompression_share is not None and self.recompression_index is not None:
            raise ValueError(say("the recompression index Cr and its share of Cc say the same thing: give one of them"))
        return self

    @model_validator(mode="after")
    def _possible_lines(self) -> Self:
        for name, line in self.over_level.items():
            if name not in LINES:
                raise ValueError(
                    say("{name} cannot run over level; these can: {lines}", name=name, lines=", ".join(LINES))
                )
            for level, value in line.points:
                try:
                    _constant(name).validate_python(value)
                except ValidationError as error:
                    raise ValueError(
                        say("{name} at {level:g} m: {errors}", name=name, level=level, errors=error.errors()[0]["msg"])
                    ) from None
        return self


@lru_cache
def _constant(parameter: str) -> Any:
    """What a parameter accepts as a constant value."""
    field = Soil.model_fields[parameter]
    kind: Any = Annotated[(field.annotation, *field.metadata)] if field.metadata else field.annotation
    return TypeAdapter(kind)


class Stratum(Row):
    """One soil in one borehole."""

    soil: Name
    thickness: Length


class GroundTest(Row):
    """One test at a depth below the ground level of its borehole; qc in MPa, cu in kPa, index tests in percent."""

    kind: TestKind
    depth: Depth
    value: float = Field(ge=0)
    left_out: str = ""
    """Why it does not enter parameters; '' where it does."""


class Readings(Frozen):
    """Readings of one load step of an oedometer test: times (minutes) and settlements of the sample (mm), drained at both faces."""

    stress: Pressure
    height: Annotated[float, Field(gt=0, json_schema_extra={"unit": "mm"})] = 20.0
    """Height of the sample at the start of the load step, mm."""
    points: tuple[tuple[float, float], ...] = Field(min_length=1)

    @model_validator(mode="after")
    def _rising(self) -> Self:
        times = [t for t, _ in self.points]
        if min(times) < 0 or any(b <= a for a, b in pairwise(times)):
            raise ValueError(say("times must not be negative and must rise from each reading to the next"))
        return self


class Oedometer(Row):
    """One oedometer test: effective stress (kPa) and void ratio at the end of each load step, in the order of loading."""

    sample: Name
    depth: Depth
    void_ratio: Factor
    """At the start."""
    points: tuple[tuple[Pressure, Factor], ...] = Field(min_length=2)
    readings: tuple[Readings, ...] = ()


class Borehole(Row):
    """Strata from the ground level down. ``rigid_below`` says that what follows does not settle.

    Without strata it is a sounding: its tests count, it says nothing of where strata begin and end.
    """

    name: Name
    x: Coordinate
    y: Coordinate
    ground_level: Level
    strata: tuple[Stratum, ...] = ()
    rigid_below: bool = False
    water: Level | None = None
    """Groundwater found in this hole, for the stresses at its tests; none: the normal level of the site."""
    tests: tuple[GroundTest, ...] = ()
    oedometers: tuple[Oedometer, ...] = ()


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

    name: Name = say("Backfill")
    weight: UnitWeight = 18.0
    weight_saturated: UnitWeight = 20.0


Interpolation = Literal["nearest", "distance_weighted", "triangulated"]


class Ground(Row):
    """Everything below the surface. No borehole and no water are legal: what needs them says so."""

    soils: tuple[Soil, ...] = ()
    boreholes: tuple[Borehole, ...] = ()
    surfaces: Surfaces = Surfaces()
    water: Water | None = None
    backfill: Backfill = Backfill()
    interpolation: Interpolation = "nearest"
    """The ground below a point: of the nearest borehole; thicknesses weighted by distance; linear in triangles."""
    spt_energy: float = Field(default=60.0, gt=0, le=100)
    """Energy ratio of the SPT hammer, percent."""
    cone_area_ratio: float = Field(default=0.8, gt=0, le=1)
    """Net area ratio of the cone, for its corrected resistance."""
    known_variation: FrozenMap[float] = Field(default_factory=nothing)
    """Coefficients of variation that are known, by parameter of the soil."""
