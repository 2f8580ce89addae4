"""What is fixed on the site: boundaries, obstacles, existing foundations, the grid, and what the work costs."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from korbent.core.model.frozen import Angle, Coordinate, Frozen, Length, Name, Row
from korbent.words import say

OutlineKind = Literal["boundary", "obstacle", "existing_foundation", "underlay"]
Rate = Annotated[float, Field(ge=0)]


class Outline(Row):
    """A line or a closed outline in the plan, points (x, y) in m.

    No base may cross a boundary (a closed one holds the bases inside) or touch an obstacle or an existing foundation;
    an underlay is only drawn."""

    name: Name
    kind: OutlineKind = "boundary"
    points: tuple[tuple[Coordinate, Coordinate], ...] = Field(min_length=2)
    closed: bool = True

    @model_validator(mode="after")
    def _possible(self) -> Self:
        from shapely import LineString, Polygon  # loaded only where something is drawn

        if not self.closed or self.kind == "underlay":
            if LineString(self.points).length <= 0:
                raise ValueError(say("its points all coincide"))
            return self
        if len(self.points) < 3:
            raise ValueError(say("a closed outline needs at least three points"))
        shape = Polygon(self.points)
        if not shape.is_valid or shape.area <= 0:
            raise ValueError(say("its sides cross each other or enclose nothing"))
        return self


class Grid(Row):
    """Grid lines along both axes of a turned grid: distances from its origin, m."""

    name: Name = say("Grid")
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    rotation: Angle = 0.0
    along_x: tuple[Coordinate, ...] = ()
    """Positions of the lines that cross the grid's x axis."""
    along_y: tuple[Coordinate, ...] = ()


class Range(Frozen):
    """What a proposal may do with a dimension: pinned, or between limits on a raster; m."""

    pinned: bool = False
    low: float | None = Field(default=None, json_schema_extra={"unit": "m"})
    high: float | None = Field(default=None, json_schema_extra={"unit": "m"})
    step: Length | None = None

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if self.low is not None and self.high is not None and self.low > self.high:
            raise ValueError(
                say("the lower limit {low:g} m is above the upper one {high:g} m", low=self.low, high=self.high)
            )
        return self


class Rates(Frozen):
    """Costs (in any currency) and embodied carbon (kg CO2e), by m3, t and m2. Invented defaults: put in your own."""

    concrete: Rate = Field(default=160.0, title=say("Concrete, per m³"))
    steel: Rate = Field(default=1500.0, title=say("Reinforcement, per t"))
    excavation: Rate = Field(default=25.0, title=say("Excavation and backfill, per m³"))
    formwork: Rate = Field(default=55.0, title=say("Formwork, per m²"))
    fill: Rate = Field(default=45.0, title=say("Granular replacement, placed, per m³"))
    lean: Rate = Field(default=110.0, title=say("Lean concrete below, per m³"))
    carbon_concrete: Rate = Field(default=280.0, title=say("Carbon of concrete, kg per m³"))
    carbon_steel: Rate = Field(default=1200.0, title=say("Carbon of reinforcement, kg per t"))
    carbon_fill: Rate = Field(default=12.0, title=say("Carbon of granular replacement, kg per m³"))
    carbon_lean: Rate = Field(default=150.0, title=say("Carbon of lean concrete, kg per m³"))
