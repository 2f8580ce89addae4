"""Load cases, combinations, and the columns and walls through which loads come down."""

from typing import Annotated, Literal

from pydantic import Field

from korbent.core.model.base import Angle, Coordinate, Force, Frozen, FrozenMap, Length, Level, Moment, Name

Nature = Literal["permanent", "imposed", "snow", "wind", "seismic", "accidental", "soil", "water"]
Serves = Literal[
    "allowable", "ultimate", "EQU", "UPL", "concrete", "cracks", "settlement long", "settlement short"
]
DesignSituation = Literal["persistent", "transient", "accidental", "seismic"]
WaterLevel = Literal["low", "normal", "high"]
FactorSet = Literal["M1", "M2"]
LoadPointKind = Literal["concrete column", "steel column", "concrete wall", "masonry wall"]
NotNegative = Annotated[float, Field(ge=0)]


class LoadCase(Frozen):
    """One action with its nature.

    ``category``: of an imposed load (EN 1990 table A1.1: A to H; "roof" in ASCE 7; "storage" in AS/NZS 1170). A
    reversible case acts with either sign; of the cases in one ``exclusive`` group at most one acts at a time.
    """

    name: Name
    nature: Nature = "permanent"
    description: str = ""
    category: str = ""
    reversible: bool = False
    exclusive: str = ""


class Combination(Frozen):
    """Factors per case, and which questions the combination serves.

    The weights of base, pedestal and backfill take the unfavourable and the favourable factor in turn;
    the water pressure under the base takes ``water_factor``. ``factor_set`` names the material factors
    (EN 1997-1 tables A.4, A.16) for ultimate ground checks. ``origin`` says by which rule it was generated;
    ``edited`` that it was changed by hand since, ``origin_name`` how it was called before.
    """

    number: int = Field(ge=1)
    name: str = ""
    factors: FrozenMap[float]
    serves: tuple[Serves, ...] = Field(min_length=1)
    factor_set: FactorSet | None = None
    situation: DesignSituation = "persistent"
    water: WaterLevel = "normal"
    weight_unfavourable: NotNegative = 1.0
    weight_favourable: NotNegative = 1.0
    water_factor: NotNegative = 1.0
    origin: str = ""
    origin_name: str = ""
    edited: bool = False


class Load(Frozen):
    """One case at one load point: actions on the foundation, V down, moments right-handed."""

    V: Force = 0.0
    Hx: Force = 0.0
    Hy: Force = 0.0
    Mx: Moment = 0.0
    My: Moment = 0.0
    Mz: Moment = 0.0


class LoadPoint(Frozen):
    """A column or a wall. ``level`` is where its loads act; ``plate_x/y`` the base plate of a steel column."""

    name: Name
    kind: LoadPointKind = "concrete column"
    x: Coordinate
    y: Coordinate
    size_x: Length
    size_y: Length
    rotation: Angle = 0.0
    plate_x: Length | None = None
    plate_y: Length | None = None
    level: Level
    axes: Literal["plan", "local"] = "plan"
    loads: FrozenMap[Load] = Field(default_factory=dict, validate_default=True)
    imported: FrozenMap[Load] = Field(default_factory=dict, validate_default=True)
    """Loads as they came from a file; where ``loads`` differs, it was changed by hand."""


class Actions(Frozen):
    """All that acts."""

    cases: tuple[LoadCase, ...] = ()
    combinations: tuple[Combination, ...] = ()
    load_points: tuple[LoadPoint, ...] = ()
    rules: str = ""
    """The rule set by which combinations were generated last."""
