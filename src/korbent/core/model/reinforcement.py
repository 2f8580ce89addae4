"""Bars of a base, by face and direction."""

from math import pi
from typing import Annotated, Any, Literal

from pydantic import Field, field_validator, model_validator

from korbent.core.model.frozen import Frozen, FrozenMap, Length, nothing
from korbent.words import say

BarDiameter = Annotated[float, Field(gt=0, le=0.05, json_schema_extra={"unit": "m"})]


class Bars(Frozen):
    """Bars of one diameter (m), by their spacing (m) or by their number in the width of the base.

    ``fabric`` names the welded fabric that they are part of.
    """

    diameter: BarDiameter
    spacing: Length | None = None
    number: int | None = Field(default=None, ge=2, le=500)
    fabric: str = Field(default="", max_length=40)

    @model_validator(mode="after")
    def _one_of_both(self) -> "Bars":
        if (self.spacing is None) == (self.number is None):
            raise ValueError(say("bars are given by their spacing or by their number: one of the two"))
        if self.fabric and self.spacing is None:
            raise ValueError(say("the bars of a fabric are given by their spacing"))
        return self

    def centres(self, width: float, cover: float) -> float:
        """Distance between the bars in a width, m: the spacing, or what so many bars leave between the covers."""
        if self.number is None:
            assert self.spacing is not None
            return self.spacing
        return (width - 2 * cover - self.diameter) / (self.number - 1)

    def area_in(self, width: float) -> float:
        """Steel area per width, m2/m."""
        apart = width / self.number if self.number is not None else self.spacing
        assert apart is not None
        return pi * self.diameter**2 / 4 / apart


Face = Literal["bottom_x", "bottom_y", "top_x", "top_y"]
FACES: tuple[Face, ...] = ("bottom_x", "bottom_y", "top_x", "top_y")
Pin = Literal["free", "at_least", "pinned"]
"""What a proposal may do with bars: choose them, choose no less than these, leave them."""


class Reinforcement(Frozen):
    """Bottom bars along x and y; top bars where there are any, or the same as below; bars along the sides of thick
    bases."""

    bottom_x: Bars = Bars(diameter=0.016, spacing=0.15)
    bottom_y: Bars = Bars(diameter=0.016, spacing=0.15)
    top_x: Bars | None = None
    top_y: Bars | None = None
    top_like_bottom: bool = False
    sides: Bars | None = None
    """Bars along the side faces, all around; the spacing is up the face, the number is of one face."""
    pins: FrozenMap[Pin] = Field(default_factory=nothing)
    """By face: what a proposal may do with its bars; pinned where nothing is said."""

    @field_validator("pins")
    @classmethod
    def _of_faces(cls, pins: Any) -> Any:
        for name in pins:
            if name not in FACES:
                raise ValueError(say("{name} has no bars; these have: {faces}", name=name, faces=", ".join(FACES)))
        return pins

    def bars(self, face: str) -> Bars | None:
        """The bars of a face and direction ("bottom_x", ...), None where there are none."""
        if self.top_like_bottom and face.startswith("top"):
            face = face.replace("top", "bottom")
        found: Bars | None = getattr(self, face)
        return found

    def pin_of(self, face: str) -> Pin:
        """What a proposal may do with the bars of a face."""
        return self.pins.get(face, "pinned")


class Dowels(Frozen):
    """Bars that stand out of the base into the column or pedestal, evenly around, hooked in the base."""

    number: int = Field(default=4, ge=4, le=60)
    diameter: BarDiameter = 0.016
