"""Pads, their bars, and types of pads."""

from typing import Annotated, Literal

from pydantic import Field

from korbent.core.model.base import Angle, Coordinate, Frozen, Length, Level, Name, Row
from korbent.core.model.settings import Overrides

BarDiameter = Annotated[float, Field(gt=0, le=0.05, json_schema_extra={"unit": "m"})]


class Bars(Frozen):
    """Bars of one diameter at one spacing (m)."""

    diameter: BarDiameter
    spacing: Length

    @property
    def area(self) -> float:
        """Steel area per width, m2/m."""
        return 3.141592653589793 * self.diameter**2 / 4 / self.spacing


class Reinforcement(Frozen):
    """Bottom bars along x and y; top bars where there are any."""

    bottom_x: Bars = Bars(diameter=0.016, spacing=0.15)
    bottom_y: Bars = Bars(diameter=0.016, spacing=0.15)
    top_x: Bars | None = None
    top_y: Bars | None = None


class Pedestal(Frozen):
    """A plinth between base and column, up to the level ``top``."""

    size_x: Length
    size_y: Length
    top: Level


class Acceptance(Frozen):
    """A failing check that the engineer accepts, with the reason, up to a ratio."""

    check: Name
    reason: str = Field(min_length=3)
    ratio: float = Field(gt=0)


class Pad(Row):
    """A rectangular base under one load point.

    Width B runs along the pad's own x axis, length L along its y axis; ``rotation`` turns them from the
    plan axes, anticlockwise. ``offset_x/y`` is the position of the column from the middle of the pad, in pad
    axes. ``level`` is the level of the held face: the other face moves with the thickness.
    """

    name: Name
    load_point: Name
    type: Name | None = None
    width: Length
    length: Length
    thickness: Length
    rotation: Angle = 0.0
    offset_x: Coordinate = 0.0
    offset_y: Coordinate = 0.0
    level: Level
    held: Literal["underside", "top"] = "underside"
    pedestal: Pedestal | None = None
    reinforcement: Reinforcement = Reinforcement()
    overrides: Overrides = Field(default_factory=dict, validate_default=True)
    accepted: tuple[Acceptance, ...] = ()

    @property
    def underside(self) -> float:
        """Founding level, m."""
        return self.level if self.held == "underside" else self.level - self.thickness

    @property
    def top(self) -> float:
        """Level of the top face, m."""
        return self.underside + self.thickness


class PadType(Row):
    """A named group of pads with common settings."""

    name: Name
    overrides: Overrides = Field(default_factory=dict, validate_default=True)
