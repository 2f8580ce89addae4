"""What a raft has besides a base: regions, ribs, springs."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from korbent.core.model.frozen import Coordinate, Frozen, Length, Name, Pressure, Row, Share
from korbent.core.model.reinforcement import Bars, Face
from korbent.core.units import SUBGRADE
from korbent.words import say


class Region(Frozen):
    """A rectangle on a raft, in its axes from its middle: from and to along x and y, m."""

    x_from: Coordinate
    x_to: Coordinate
    y_from: Coordinate
    y_to: Coordinate

    @model_validator(mode="after")
    def _has_area(self) -> "Region":
        if not (self.x_from < self.x_to and self.y_from < self.y_to):
            raise ValueError(say("a region goes from a lesser to a greater value along both axes"))
        return self

    @property
    def box(self) -> tuple[float, float, float, float]:
        """x from, x to, y from, y to."""
        return self.x_from, self.x_to, self.y_from, self.y_to


class Thickening(Region):
    """Where a raft is thicker, downwards: its thickness there, m."""

    thickness: Length


class LowerPart(Region):
    """Where a raft lies lower, such as below a lift: by how much, m. It is as thick there; a step as thick as the raft,
    or more, goes around it, on the inside."""

    drop: Length
    wall: Length | None = None
    """Thickness of the step, m; that of the raft where nothing is given."""


class AddedBars(Region):
    """Bars of a face besides the basic ones, over a region."""

    face: Face
    bars: Bars


class RaftLoad(Region):
    """A load case that acts on a region of a raft as a pressure, kPa, down."""

    case: Name
    pressure: Annotated[float, Field(allow_inf_nan=False, ge=-10_000, le=10_000, json_schema_extra={"unit": "kPa"})]


Subgrade = Annotated[float, Field(gt=0, le=1e7, json_schema_extra={"unit": SUBGRADE})]
"""Modulus of subgrade reaction, kN/m3."""


class SubgradeZone(Region):
    """Where the springs below a raft have a stiffness of their own, kN/m3."""

    subgrade: Subgrade


class Rib(Row):
    """A beam of a raft along one of its axes, below or above it; it acts with the plate."""

    name: Name
    axis: Literal["x", "y"] = "x"
    """Along which it runs."""
    at: Coordinate = 0.0
    """Its middle, across, from the middle of the raft."""
    begin: Coordinate | None = None
    """Where it begins along its axis, from the middle of the raft; at the edge where nothing is given."""
    end: Coordinate | None = None
    width: Length = 0.4
    depth: Length = 0.8
    """With the thickness of the raft."""
    side: Literal["below", "above"] = "below"
    top: Bars = Bars(diameter=0.020, number=3)
    bottom: Bars = Bars(diameter=0.020, number=3)
    links: Bars | None = Bars(diameter=0.010, spacing=0.2)
    legs: int = Field(default=2, ge=2, le=12)
    """Of a link, across the width."""

    @model_validator(mode="after")
    def _has_length(self) -> "Rib":
        if self.begin is not None and self.end is not None and self.end - self.begin < self.width:
            raise ValueError(say("a rib is longer than it is wide: it ends beyond where it begins"))
        if self.links is not None and self.links.spacing is None:
            raise ValueError(say("links are given by their spacing, such as 10 at 200"))
        return self


class Plate(Frozen):
    """What a raft has besides a base: it bends, on springs, with openings, thicker parts, more bars and loads of its
    own."""

    ground: Literal["springs", "layers"] = "springs"
    """What it rests on: springs of one stiffness, or the strata themselves."""
    subgrade: Subgrade | None = None
    """Of the springs; where nothing is given the pressure over the settlement that the strata give."""
    zones: tuple[SubgradeZone, ...] = ()
    """Where the springs are other ones; of two that overlap the later counts."""
    lifts: bool = True
    """Springs press only."""
    greatest: Pressure | None = None
    """The ground gives no more than this effective pressure, kPa; none: it goes on."""
    openings: tuple[Region, ...] = ()
    thickenings: tuple[Thickening, ...] = ()
    lower: tuple[LowerPart, ...] = ()
    added: tuple[AddedBars, ...] = ()
    ribs: tuple[Rib, ...] = ()
    loads: tuple[RaftLoad, ...] = ()
    modulus: Pressure | None = None
    """Of the concrete, kPa; by its strength where nothing is given."""
    poisson: Share = 0.2
    walls: Length | None = None
    """Height of the concrete walls on it that stiffen it, m; where nothing is given they press only."""
    creep: float = Field(default=0.0, ge=0.0, le=10.0)
    """Creep coefficient of the concrete: under lasting load its modulus is the given one over 1 + creep. Strength is
    checked with both."""
    mesh: Length | None = None
    """Greatest size of elements, m; by the distances of the columns where nothing is given."""
    cells: int | None = Field(default=None, ge=12, le=28)
    """Cells of pressure along each side where it rests on the strata; 16 where nothing is given."""

    def moved(self, dx: float, dy: float) -> "Plate":
        """All that is given from the middle, where the middle is another one, m."""

        def region(one: Region) -> Region:
            sides = {
                f"{axis}_{end}": round(getattr(one, f"{axis}_{end}") + by, 9)
                for axis, by in (("x", dx), ("y", dy))
                for end in ("from", "to")
            }
            return one.replaced(**sides)

        def rib(one: Rib) -> Rib:
            along, across = (dx, dy) if one.axis == "x" else (dy, dx)
            ends = {n: None if v is None else round(v + along, 9) for n, v in (("begin", one.begin), ("end", one.end))}
            return one.replaced(at=round(one.at + across, 9), **ends)

        names = ("zones", "openings", "thickenings", "lower", "added", "loads")
        regions = {name: tuple(region(r) for r in getattr(self, name)) for name in names}
        return self.replaced(**regions, ribs=tuple(rib(r) for r in self.ribs))


def moved_rib(rib: Rib, halves: tuple[tuple[float, float], tuple[float, float]], shifts: tuple[float, float]) -> Rib:
    """A rib that stays with the columns as the edges of its raft move; what ended at an edge ends there again."""
    own = 0 if rib.axis == "x" else 1
    (old, half), shift = halves[own], shifts[own]
    sides: dict[str, float | None] = {}
    for name, sign in (("begin", -1.0), ("end", 1.0)):
        value = getattr(rib, name)
        if value is not None:
            at_edge = abs(value - sign * old) < 1e-6
            sides[name] = None if at_edge else min(max(round(value + shift, 9), -half), half)
    at = round(rib.at + shifts[1 - own], 9)
    room = halves[1 - own][1] - rib.width / 2
    return rib.replaced(at=min(max(at, -room), room), **sides)


def overlap(a: tuple[float, float, float, float], b: tuple[float, float, float, float]) -> bool:
    """Two boxes (x from, x to, y from, y to) have an area in common."""
    return a[0] < b[1] - 1e-9 and b[0] < a[1] - 1e-9 and a[2] < b[3] - 1e-9 and b[2] < a[3] - 1e-9
