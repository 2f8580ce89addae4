"""Load cases, combinations, and the columns and walls through which loads come down."""

import datetime
import math
from typing import Annotated, Any, Literal, Self

from pydantic import Field, model_validator

from korbent.core.model.frozen import (
    Angle,
    Coordinate,
    Force,
    Frozen,
    FrozenMap,
    Length,
    Level,
    Moment,
    Name,
    Row,
    UnitWeight,
    nothing,
)
from korbent.core.model.labels import label, labels
from korbent.core.model.outlines import checked
from korbent.words import say

Nature = Literal[
    "permanent",
    "imposed",
    "snow",
    "wind",
    "seismic",
    "accidental",
    "soil",
    "water",
    "temperature",
    "fluid",
    "rain",
]
CATEGORIES: dict[str, tuple[str, ...]] = {
    "imposed": ("A", "B", "C", "D", "E", "F", "G", "H", "floor", "storage", "roof"),
    "snow": ("above_1000_m",),
    "wind": ("ultimate", "service"),
    "seismic": ("x", "y", "z"),
}
"""By nature: imposed loads by EN 1990 table A1.1 or in words, snow above 1000 m, wind that is given for one kind of
limit state only, the direction of an earthquake."""
Serves = Literal["allowable", "ultimate", "EQU", "UPL", "concrete", "cracks", "settlement_long", "settlement_short"]
DesignSituation = Literal["persistent", "transient", "accidental", "seismic"]
WaterLevel = Literal["low", "normal", "high", "worst"]
"""``worst``: each of the three in turn."""
FactorSet = Literal["M1", "M2", "M1+R2", "M1+R2*", "R"]
"""Factors on strengths and resistances: EN 1997-1 tables A.4 and A.5; R2* for DA2*; R: the resistance factors of the
settings."""
LoadPointKind = Literal["concrete_column", "round_concrete_column", "steel_column", "concrete_wall", "masonry_wall"]
NotNegative = Annotated[float, Field(ge=0)]


class LoadCase(Row):
    """One action with its nature.

    ``category``: one of ``CATEGORIES`` of its nature, or none. A reversible case acts with either sign; of the cases in
    one ``exclusive`` group at most one acts at a time."""

    name: Name
    nature: Nature = "permanent"
    description: str = ""
    category: str = ""
    reversible: bool = False
    exclusive: str = ""
    stated_V: Force | None = None
    stated_Hx: Force | None = None
    stated_Hy: Force | None = None
    """Sums over all columns as the source of the loads states them, to compare with."""

    @model_validator(mode="after")
    def _known_category(self) -> Self:
        known = CATEGORIES.get(self.nature, ())
        if self.category and self.category not in known:
            choice = say("choose one of {known}, or none", known=labels(known)) if known else say("leave it empty")
            raise ValueError(
                say(
                    "'{category}' is no category of a case that is {nature}: {choice}",
                    category=self.category,
                    nature=label(self.nature),
                    choice=choice,
                )
            )
        return self

    def replaced(self, **changes: Any) -> Self:
        """A new case with some fields changed; a category that another nature does not have goes."""
        nature = changes.get("nature", self.nature)
        if "category" not in changes and self.category not in CATEGORIES.get(nature, ()):
            changes = {**changes, "category": ""}
        return super().replaced(**changes)


class Combination(Row):
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
    only: tuple[Name, ...] = ()
    """The bases that it is looked at for; all where none is named."""
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


class Anchors(Frozen):
    """Anchor bolts of the base plate of a steel column as the steelwork gives them: drawn, not checked.

    They stand around a rectangle, ``apart_x`` and ``apart_y`` between the outer ones (m), in the axes of the column;
    ``depth`` is how far they go down below the plate, m."""

    along_x: int = Field(default=2, ge=1, le=12)
    along_y: int = Field(default=2, ge=1, le=12)
    diameter: Annotated[float, Field(gt=0, le=0.15, json_schema_extra={"unit": "m"})] = 0.024
    apart_x: Length
    apart_y: Length
    depth: Length

    def places(self) -> tuple[tuple[float, float], ...]:
        """Where they stand from the middle of the plate, m: around, none in the middle."""

        def along(count: int, apart: float) -> list[float]:
            return [-apart / 2 + apart * i / (count - 1) for i in range(count)] if count > 1 else [0.0]

        xs, ys = along(self.along_x, self.apart_x), along(self.along_y, self.apart_y)
        edge = {0, self.along_x - 1}, {0, self.along_y - 1}
        return tuple((x, y) for i, x in enumerate(xs) for j, y in enumerate(ys) if i in edge[0] or j in edge[1])


class LoadPoint(Row):
    """A column or a wall. ``level`` is where its loads act; ``plate_x/y`` the base plate of a steel column.

    Both sizes of a round column are its diameter.
    """

    name: Name
    kind: LoadPointKind = "concrete_column"
    x: Coordinate
    y: Coordinate
    size_x: Length
    size_y: Length
    rotation: Angle = 0.0
    plate_x: Length | None = None
    plate_y: Length | None = None
    anchors: Anchors | None = None
    level: Level
    axes: Literal["plan", "local"] = "plan"
    per: Literal["whole", "metre"] = "whole"
    """Loads of a wall may be given per metre of its length (the greater of its sizes)."""
    loads: FrozenMap[Load] = Field(default_factory=dict, validate_default=True)
    imported: FrozenMap[Load] = Field(default_factory=dict, validate_default=True)
    """Loads as they came from a file; where ``loads`` differs, it was changed by hand."""

    @model_validator(mode="after")
    def _one_diameter(self) -> Self:
        if self.is_round and abs(self.size_x - self.size_y) > 1e-9:
            raise ValueError(
                say(
                    "a round column has one diameter: its sizes {size_x:g} m and {size_y:g} m are not the same",
                    size_x=self.size_x,
                    size_y=self.size_y,
                )
            )
        return self

    @model_validator(mode="after")
    def _anchors_in_plate(self) -> Self:
        if self.anchors is None:
            return self
        if self.plate_x is None or self.plate_y is None:
            raise ValueError(say("anchors stand in a base plate: give its sizes first"))
        if self.anchors.apart_x >= self.plate_x or self.anchors.apart_y >= self.plate_y:
            raise ValueError(
                say(
                    "the anchors reach over the base plate of {plate_x:g} x {plate_y:g} m: less apart, or a larger plate",
                    plate_x=self.plate_x,
                    plate_y=self.plate_y,
                )
            )
        return self

    @property
    def is_round(self) -> bool:
        """A round column."""
        return self.kind == "round_concrete_column"

    def replaced(self, **changes: Any) -> Self:
        """A new load point with some fields changed; what becomes round, or is, keeps one diameter."""
        if changes.get("kind", self.kind) == "round_concrete_column":
            diameter = changes.get("size_x", changes.get("size_y", self.size_x))
            changes = {**changes, "size_x": diameter, "size_y": diameter}
        return super().replaced(**changes)


class AreaLoad(Row):
    """A load on an area of the ground: a pressure on a rectangle, a circle or a polygon, or an embankment.

    ``pressure`` (kPa) acts at ``level``. Rectangles have their middle at x, y, their sides ``size_x``, ``size_y`` and
    a rotation; circles the diameter ``size_x``; polygons their corners in ``outline``. An embankment is a rectangle
    at its crest, ``height`` high, of a fill of ``weight``, with side slopes of ``slope`` (horizontal to vertical).
    """

    name: Name
    shape: Literal["rectangle", "circle", "polygon", "embankment"] = "rectangle"
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    size_x: Length = 1.0
    size_y: Length = 1.0
    rotation: Angle = 0.0
    outline: tuple[tuple[Coordinate, Coordinate], ...] = ()
    level: Level = 0.0
    pressure: Annotated[float, Field(ge=0, json_schema_extra={"unit": "kPa"})] = 10.0
    height: Length | None = None
    weight: UnitWeight = 19.0
    slope: Annotated[float, Field(ge=0, le=20, json_schema_extra={"unit": ""})] = 2.0

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if self.shape == "polygon":
            checked(self.outline)
        if self.shape == "embankment" and self.height is None:
            raise ValueError(say("an embankment needs a height"))
        return self


class ConstructionStep(Row):
    """A moment in the life of the site: from ``date`` on, cases and area loads act with these factors.

    What a step does not name does not act in it. ``ramp`` days pass until the change is complete.
    """

    name: Name
    date: datetime.date
    ramp: Annotated[float, Field(ge=0, json_schema_extra={"unit": "day"})] = 0.0
    water: Literal["low", "normal", "high"] = "normal"
    """The water level from then on."""
    factors: FrozenMap[float] = Field(default_factory=nothing)
    """By load case or area load."""


def influence_diameter(spacing: float, pattern: str) -> float:
    """Diameter of the cylinder that one drain serves, m."""
    factor = {"square": 4 / math.pi, "triangular": 2 * math.sqrt(3) / math.pi}[pattern]
    return math.sqrt(factor) * spacing


class BandDrains(Row):
    """Vertical band drains over a rectangle of the plan, from the surface down to a level, from a date on."""

    name: Name
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    size_x: Length = 10.0
    size_y: Length = 10.0
    rotation: Angle = 0.0
    pattern: Literal["triangular", "square"] = "triangular"
    spacing: Length = 1.5
    drain: Length = 0.066
    """Equivalent diameter of a drain; of a band b x t it is 2 (b + t)/pi (Hansbo 1979)."""
    smear: float = Field(default=2.0, ge=1, le=20)
    """Diameter of the smear zone over that of the drain."""
    smear_permeability: float = Field(default=2.0, ge=1, le=50)
    """Permeability of the ground over that of the smear zone."""
    discharge: Annotated[float, Field(gt=0)] | None = None
    """Capacity of a drain, m3/day; none: no well resistance."""
    level: Level = -10.0

    @model_validator(mode="after")
    def _apart(self) -> Self:
        zone, cylinder = self.drain * self.smear, influence_diameter(self.spacing, self.pattern)
        if cylinder <= zone:
            raise ValueError(
                say(
                    "the spacing {spacing:g} m gives each drain a cylinder of {cylinder:.3g} m, not more than its "
                    "smear zone of {zone:.3g} m: set the drains wider or the smear zone smaller",
                    spacing=self.spacing,
                    cylinder=cylinder,
                    zone=zone,
                )
            )
        return self


class SettlementMark(Row):
    """A point of the plan whose settlement is wanted, at a level (none: at the excavated, else finished ground), with a
    limit."""

    name: Name
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    level: Level | None = None
    limit: Length | None = None
    """Settlement, at most; none: it is said, not checked."""


class Actions(Row):
    """All that acts."""

    cases: tuple[LoadCase, ...] = ()
    combinations: tuple[Combination, ...] = ()
    load_points: tuple[LoadPoint, ...] = ()
    area_loads: tuple[AreaLoad, ...] = ()
    steps: tuple[ConstructionStep, ...] = ()
    drains: tuple[BandDrains, ...] = ()
    marks: tuple[SettlementMark, ...] = ()
    rules: str = ""
    """The rule set by which combinations were generated last."""
    rule_values: FrozenMap[float] = Field(default_factory=nothing)
    """Values of the rule set that this project has otherwise, by name: as a national annex has them."""
