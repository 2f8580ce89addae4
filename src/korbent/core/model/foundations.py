"""Pads, their bars, and types of pads."""

from math import pi
from typing import Any, Literal

from pydantic import Field, field_validator, model_validator

from korbent.core.model import outlines
from korbent.core.model.frozen import (
    Angle,
    Coordinate,
    Depth,
    FrictionAngle,
    Frozen,
    FrozenMap,
    Length,
    Level,
    Name,
    Pressure,
    Row,
    Share,
    Strength,
    UnitWeight,
    nothing,
)
from korbent.core.model.pad_rules import ROUND, check_plate, check_shape
from korbent.core.model.plate import LowerPart, Plate, Region, Rib, moved_rib, overlap
from korbent.core.model.reinforcement import BarDiameter, Bars, Dowels, Reinforcement
from korbent.core.model.settings import Overrides
from korbent.core.model.site import Range
from korbent.words import say


class Opening(Frozen):
    """A pipe or another round opening through the base: its middle from that of the base in pad axes, and its diameter
    (m)."""

    x: Coordinate
    y: Coordinate
    diameter: Length


class Pedestal(Frozen):
    """A plinth between base and column, up to the level ``top``, with ties around its bars.

    Both sizes of a round one are its diameter; ties or a spiral go around its bars, ``tie_spacing`` apart.
    """

    shape: Literal["rectangle", "circle"] = "rectangle"
    size_x: Length
    size_y: Length
    top: Level
    bars: int = Field(default=8, ge=4, le=60)
    """Number of bars, evenly around."""
    around: Literal["ties", "spiral"] = "ties"
    diameter: BarDiameter = 0.016
    tie_diameter: BarDiameter = 0.010
    tie_spacing: Length = 0.15
    cover: Length | None = None
    """Of the ties, m; that of the base where nothing is given."""
    strength: Strength | None = None
    """Of its concrete, f'c or fck, MPa; that of the base where nothing is given."""

    @model_validator(mode="after")
    def _room(self) -> "Pedestal":
        away = (self.cover or 0.0) + self.tie_diameter + self.diameter
        if min(self.size_x, self.size_y) <= 2 * away:
            raise ValueError(
                say(
                    "the cover, the ties and the bars leave no room in a pedestal of {size_x:g} m: make it larger",
                    size_x=min(self.size_x, self.size_y),
                )
            )
        if self.is_round and abs(self.size_x - self.size_y) > 1e-9:
            raise ValueError(
                say(
                    "a round pedestal has one diameter: {size_x:g} m and {size_y:g} m are two; make them the same",
                    size_x=self.size_x,
                    size_y=self.size_y,
                )
            )
        if self.around == "spiral" and not self.is_round:
            raise ValueError(say("a spiral goes around a round pedestal: make the pedestal round or choose ties"))
        return self

    @property
    def is_round(self) -> bool:
        """A circle in plan."""
        return self.shape == "circle"

    @property
    def area(self) -> float:
        """Of the section, m2."""
        return pi / 4 * self.size_x**2 if self.is_round else self.size_x * self.size_y

    @property
    def sides(self) -> tuple[float, float]:
        """Sizes along x and y, of a round one those of the square of its area, m."""
        side = pi**0.5 / 2
        return (self.size_x * side, self.size_y * side) if self.is_round else (self.size_x, self.size_y)


class Acceptance(Frozen):
    """A failing check that the engineer accepts, with the reason, up to a ratio."""

    check: Name
    reason: str = Field(min_length=3)
    ratio: float = Field(gt=0)


class Replacement(Frozen):
    """Concrete or granular fill below a base: it spreads the load and has a resistance of its own.

    ``spread`` is how far the load spreads sideways for 1 down. Granular fill resists by its friction angle, lean
    concrete by its design compressive stress (kPa).
    """

    kind: Literal["granular", "concrete"] = "granular"
    thickness: Length
    spread: Share = 0.5
    weight: UnitWeight = 20.0
    friction_angle: FrictionAngle = 38.0
    strength: Pressure = 5000.0


RANGED = ("width", "length", "thickness", "level", "pedestal_x", "pedestal_y")
HELD = {"middle": 0.0, "-x": -1.0, "-y": -1.0, "+x": 1.0, "+y": 1.0}
"""How far the column moves off the middle, in halves of what the size grows, when that edge is held."""


class Pad(Row):
    """A rigid base under one load point, or under several: a pad, or a strip under a wall.

    Width B runs along the pad's own x axis, length L along its y axis; ``rotation`` turns them from the
    plan axes, anticlockwise. ``offset_x/y`` is the position of the (first) column from the middle of the pad, in pad
    axes. ``level`` is the level of the held face: the other face moves with the thickness. A circle and a ring have one
    diameter, which is both width and length.
    """

    name: Name
    kind: Literal["pad", "strip", "raft"] = "pad"
    """What it is: see korbent.core.kinds."""
    load_point: Name
    further: tuple[Name, ...] = ()
    """More columns and walls that stand on the same base."""
    shape: Literal["rectangle", "circle", "ring", "trapezoid", "polygon"] = "rectangle"
    outline: tuple[tuple[Coordinate, Coordinate], ...] = ()
    """Of a polygon its corners, anticlockwise, from the middle of its width and length, m."""
    hole: Depth = 0.0
    """Diameter of the hole of a ring."""
    far_length: Depth = 0.0
    """Of a trapezoid its length at the +x end; ``length`` is that at the -x end."""
    type: Name | None = None
    width: Length
    length: Length
    thickness: Length
    rotation: Angle = 0.0
    offset_x: Coordinate = 0.0
    offset_y: Coordinate = 0.0
    hold_x: Literal["middle", "-x", "+x"] = "middle"
    hold_y: Literal["middle", "-y", "+y"] = "middle"
    """What stays in the plan when the width (length) changes: the middle, or an edge, such as one at a boundary."""
    ranges: FrozenMap[Range] = Field(default_factory=nothing)
    """What a proposal may do with the width, the length, the thickness and the level, and with both sizes of the
    pedestal."""
    frozen: Literal["", "issued", "poured"] = ""
    """A frozen base is resized by nothing; its checks go on."""
    level: Level
    held: Literal["underside", "top"] = "underside"
    pedestal: Pedestal | None = None
    """Under the first column."""
    pedestals: FrozenMap[Pedestal] = Field(default_factory=nothing)
    """Under others of the columns, by their names."""
    replacement: Replacement | None = None
    plate: Plate | None = None
    """Of a raft."""
    reinforcement: Reinforcement = Field(default_factory=Reinforcement)
    dowels: Dowels | None = None
    """Out of the base into the column; with a pedestal its own bars go down into the base where none are given."""
    openings: tuple[Opening, ...] = ()
    overrides: Overrides = Field(default_factory=dict, validate_default=True)
    accepted: tuple[Acceptance, ...] = ()

    @field_validator("outline")
    @classmethod
    def _in_order(cls, outline: tuple[outlines.Corner, ...]) -> tuple[outlines.Corner, ...]:
        return outlines.anticlockwise(outline)

    @field_validator("ranges")
    @classmethod
    def _of_dimensions(cls, ranges: Any) -> Any:
        for name in ranges:
            if name not in RANGED:
                raise ValueError(say("{name} has no range; these have: {ranged}", name=name, ranged=", ".join(RANGED)))
        return ranges

    @model_validator(mode="after")
    def _legal(self) -> "Pad":
        check_shape(self)
        if self.plate is not None:
            check_plate(self, self.plate)
        return self

    def area_within(self, box: tuple[float, float, float, float]) -> float:
        """Of a box what lies on the base, openings of a raft aside, m2."""
        return self.part_within(box)[0]

    def holds(self, x: float, y: float) -> bool:
        """A place, from the middle, lies on the base (of a round one within the square around it)."""
        if self.outline:
            return outlines.contains(self.outline, x, y)
        return abs(x) <= self.width / 2 + 1e-9 and abs(y) <= self.length_at(x) / 2 + 1e-9

    def part_within(self, box: tuple[float, float, float, float]) -> tuple[float, float, float]:
        """(area, x, y of its centre) of what of a box lies on the base, openings of a raft aside, m2 and m."""
        holes = self.plate.openings if self.plate else ()
        cut = [h.box for h in holes if overlap(h.box, box)]
        if not self.outline and not cut:
            return (box[1] - box[0]) * (box[3] - box[2]), (box[0] + box[1]) / 2, (box[2] + box[3]) / 2
        from shapely import Polygon, union_all
        from shapely import box as rectangle

        part = rectangle(box[0], box[2], box[1], box[3])
        if self.outline:
            part = part.intersection(Polygon(self.outline))
        if cut:
            part = part.difference(union_all([rectangle(a, c, b, d) for a, b, c, d in cut]))
        if part.area <= 0:
            return 0.0, (box[0] + box[1]) / 2, (box[2] + box[3]) / 2
        return float(part.area), float(part.centroid.x), float(part.centroid.y)

    def wall_sides(self, part: LowerPart) -> list[tuple[float, float, float, float]]:
        """The walls of the step around a lower part, as boxes that do not lie over each other; none along an edge of
        the raft."""
        t = part.wall or self.thickness
        x0, x1, y0, y1 = part.box
        B, L = self.width / 2 - 1e-6, self.length / 2 - 1e-6
        found = []
        if x0 > -B:
            found.append((x0, x0 + t, y0, y1))
        if x1 < B:
            found.append((x1 - t, x1, y0, y1))
        low, high = (x0 + t if x0 > -B else x0), (x1 - t if x1 < B else x1)
        if y0 > -L:
            found.append((low, high, y0, y0 + t))
        if y1 < L:
            found.append((low, high, y1 - t, y1))
        return found

    @property
    def added_concrete(self) -> tuple[float, float, float]:
        """(volume, x, y of its centre from the middle) of the concrete of a raft below or above its plate: thicker
        parts, steps and ribs; where ribs cross the deeper one counts; m3 and m."""
        if self.plate is None:
            return 0.0, 0.0, 0.0
        h = self.thickness
        parts = [(t.thickness - h, t.box) for t in self.plate.thickenings]
        parts += [(part.drop, side) for part in self.plate.lower for side in self.wall_sides(part)]
        boxes = [(self.rib_box(rib), rib.depth - h, rib.axis) for rib in self.plate.ribs]
        for i, (box, more, axis) in enumerate(boxes):
            parts.append((more, box))
            for other, less, across in boxes[:i]:
                if across != axis and overlap(box, other):
                    cross = (
                        max(box[0], other[0]),
                        min(box[1], other[1]),
                        max(box[2], other[2]),
                        min(box[3], other[3]),
                    )
                    parts.append((-min(more, less), cross))
        volume = along = across_ = 0.0
        for depth, box in parts:
            area, x, y = self.part_within(box)
            volume, along, across_ = (
                volume + depth * area,
                along + depth * area * x,
                across_ + depth * area * y,
            )
        return (volume, along / volume, across_ / volume) if volume > 0 else (0.0, 0.0, 0.0)

    @property
    def added_volume(self) -> float:
        """Of that concrete, m3."""
        return self.added_concrete[0]

    @property
    def skirt(self) -> float:
        """How far below the plate of a raft ribs reach along all of its edges, m; 0 where one of them is open."""
        if self.plate is None:
            return 0.0
        B, L = self.width / 2, self.length / 2
        corners = self.outline or ((-B, -L), (B, -L), (B, L), (-B, L))
        found = []
        for a, b in zip(corners, (*corners[1:], corners[0])):
            reach = [0.0]
            for rib in self.plate.ribs:
                along, across = (0, 1) if rib.axis == "x" else (1, 0)
                length = abs(b[along] - a[along])
                box = self.rib_box(rib)
                low, high = box[2 * along : 2 * along + 2]
                there = min(high, max(a[along], b[along])) - max(low, min(a[along], b[along]))
                beside = all(abs(rib.at - end[across]) <= rib.width / 2 + rib.depth for end in (a, b))
                if rib.side == "below" and beside and there >= 0.95 * length > 0:
                    reach.append(rib.depth - self.thickness)
            found.append(max(reach))
        return min(found)

    def rib_box(self, rib: Rib) -> tuple[float, float, float, float]:
        """x from, x to, y from, y to of a rib, m from the middle."""
        half = (self.width if rib.axis == "x" else self.length) / 2
        first, last = -half, half
        if self.outline and None in (rib.begin, rib.end):
            first, last = self._edges_along(rib.axis, rib.at, rib.begin, rib.end)
        low = first if rib.begin is None else rib.begin
        high = last if rib.end is None else rib.end
        across = (rib.at - rib.width / 2, rib.at + rib.width / 2)
        return (low, high, *across) if rib.axis == "x" else (*across, low, high)

    def _edges_along(self, axis: str, at: float, begin: float | None, end: float | None) -> tuple[float, float]:
        """Where a line along an axis meets the outline: around the end that is given, else over its longest stretch."""
        found = outlines.crossings(self.outline, axis, at)
        known = end if begin is None else begin
        if known is not None:
            found = [s for s in found if s[0] - 1e-6 <= known <= s[1] + 1e-6] or found
        return max(found, key=lambda s: s[1] - s[0], default=(0.0, 0.0))

    @property
    def is_round(self) -> bool:
        """A circle or a ring."""
        return self.shape in ROUND

    def area(self, width: Any, length: Any) -> Any:
        """Area of the underside with this width and length (numbers or arrays, m), m2."""
        if self.shape == "trapezoid":
            return width * (length + self.far_length) / 2
        if self.outline:
            return outlines.area_of(self.outline_of(width, length))
        return width * length if not self.is_round else pi / 4 * (width**2 - self.bore**2)

    def outline_of(self, width: Any, length: Any) -> list[tuple[Any, Any]]:
        """Corners of a polygon with another width and length (numbers or arrays), the held edges where they are."""
        shifts = (
            HELD[self.hold_x] * (width - self.width) / 2,
            HELD[self.hold_y] * (length - self.length) / 2,
        )
        return outlines.fitted(self.outline, (self.width, self.length), (width, length), shifts)

    @property
    def extent(self) -> float:
        """Greatest length along y, m."""
        return max(self.length, self.far_length) if self.shape == "trapezoid" else self.length

    def length_at(self, x: float) -> float:
        """Length along y at a place along x from the middle; of a round base its diameter, m."""
        if self.shape != "trapezoid":
            return self.length
        return self.length + (self.far_length - self.length) * (x / self.width + 0.5)

    @property
    def bore(self) -> float:
        """Diameter of the hole, m; 0 without one."""
        return self.hole if self.shape == "ring" else 0.0

    @property
    def carries(self) -> tuple[str, ...]:
        """All load points that stand on the base."""
        return (self.load_point, *self.further)

    def pedestal_under(self, column: str) -> Pedestal | None:
        """The pedestal under one of the columns; None where that stands on the base itself."""
        return self.pedestal if column == self.load_point else self.pedestals.get(column)

    @property
    def all_pedestals(self) -> dict[str, Pedestal]:
        """Every pedestal by the name of its column, in the order of the columns."""
        found = ((name, self.pedestal_under(name)) for name in self.carries)
        return {name: pedestal for name, pedestal in found if pedestal is not None}

    def replaced(self, **changes: Any) -> "Pad":
        """A new pad with some fields changed; what becomes round, or is, keeps one diameter; the width and the length
        of a polygon are those of its outline, and the other way round."""
        changes = self._outlined(changes)
        if changes.get("shape", self.shape) in ROUND:
            if "length" in changes and "width" not in changes:
                changes["width"] = changes["length"]
            changes["length"] = changes.get("width", self.width)
            if changes.get("shape", self.shape) == "ring" and "hole" not in changes and not self.hole:
                changes["hole"] = float(changes["length"]) / 2
        if changes.get("kind") == "raft" and self.plate is None:
            changes.setdefault("plate", Plate())
        elif changes.get("kind", "raft") != "raft":
            changes.setdefault("plate", None)
        if changes.get("shape", self.shape) == "trapezoid":
            if not changes.get("far_length", self.far_length):
                changes["far_length"] = changes.get("length", self.length)
            if self.shape != "trapezoid":
                changes.setdefault("hold_y", "middle")
        return super().replaced(**changes)

    def _outlined(self, changes: dict[str, Any]) -> dict[str, Any]:
        """Changes with all that goes with the outline."""
        shape = changes.get("shape", self.shape)
        if changes.get("outline"):
            return self._about(changes)
        if "outline" in changes or (shape != "polygon" and self.outline):
            return {**changes, "outline": (), "shape": "rectangle" if shape == "polygon" else shape}
        if shape != "polygon":
            return changes
        now = (self.width, self.length)
        new = (changes.get("width", now[0]), changes.get("length", now[1]))
        if not self.outline:
            B, L = (float(v) / 2 for v in new)
            return {**changes, "outline": ((-B, -L), (B, -L), (B, L), (-B, L))}
        if new == now:
            return changes
        shifts = (
            changes.get("offset_x", self.offset_x) - self.offset_x,
            changes.get("offset_y", self.offset_y) - self.offset_y,
        )
        corners = outlines.fitted(self.outline, now, new, shifts)
        return {**changes, "outline": tuple((round(x, 9), round(y, 9)) for x, y in corners)}

    def _about(self, changes: dict[str, Any]) -> dict[str, Any]:
        """Changes with an outline, whose corners may be given from any middle: sizes, offsets and regions follow."""
        corners = tuple((float(x), float(y)) for x, y in changes["outline"])
        x0, x1, y0, y1 = outlines.box_of(corners)
        if min(x1 - x0, y1 - y0) < outlines.AT_EDGE:  # validation says what is wrong with it
            return {**changes, "shape": "polygon"}
        mid_x, mid_y = round((x0 + x1) / 2, 9), round((y0 + y1) / 2, 9)
        found = {
            **changes,
            "shape": "polygon",
            "width": round(x1 - x0, 9),
            "length": round(y1 - y0, 9),
            "outline": tuple((round(x - mid_x, 9), round(y - mid_y, 9)) for x, y in corners),
        }
        if mid_x or mid_y:
            found["offset_x"] = round(changes.get("offset_x", self.offset_x) - mid_x, 9)
            found["offset_y"] = round(changes.get("offset_y", self.offset_y) - mid_y, 9)
            plate = changes.get("plate", self.plate)
            if plate is not None:
                found["plate"] = plate.moved(-mid_x, -mid_y)
        return found

    def resized(self, **sizes: float) -> "Pad":
        """The pad with another width or length: the held edge stays where it is, and so does the column."""
        if self.is_round and ("width" in sizes or "length" in sizes):
            diameter = sizes.get("width", sizes.get("length", self.width))
            sizes = {**sizes, "width": diameter, "length": diameter}
        changes: dict[str, float] = dict(sizes)
        for size, hold, offset in (("width", self.hold_x, "offset_x"), ("length", self.hold_y, "offset_y")):
            if size in sizes and hold != "middle" and offset not in sizes:
                grown = sizes[size] - getattr(self, size)
                changes[offset] = round(getattr(self, offset) + HELD[hold] * grown / 2, 9)
        return self._with_edges(changes)

    def _with_edges(self, changes: dict[str, float]) -> "Pad":
        """Other sizes or offsets: the regions of a raft stay at their columns, and what reaches to an edge goes on
        reaching to it."""
        if self.plate is None:
            return self.replaced(**changes)
        now = (self.width, self.length, self.offset_x, self.offset_y)
        new = tuple(changes.get(n, v) for n, v in zip(("width", "length", "offset_x", "offset_y"), now))
        if now == new:
            return self.replaced(**changes)
        halves = ((now[0] / 2, new[0] / 2), (now[1] / 2, new[1] / 2))
        shifts = (new[2] - now[2], new[3] - now[3])

        def moved(region: Region, to_edges: bool) -> Region:
            sides: dict[str, float] = {}
            for axis, (old, half), shift in zip("xy", halves, shifts):
                for end, sign in (("from", -1.0), ("to", 1.0)):
                    value = getattr(region, f"{axis}_{end}")
                    at_edge = to_edges and abs(value - sign * old) < 1e-6
                    found = sign * half if at_edge else round(value + shift, 9)
                    sides[f"{axis}_{end}"] = min(max(found, -half), half) if to_edges else found
            return region.replaced(**sides)

        plate = self.plate.replaced(
            openings=tuple(moved(r, False) for r in self.plate.openings),
            **{
                name: tuple(moved(r, True) for r in getattr(self.plate, name))
                for name in ("thickenings", "added", "loads", "zones", "lower")
            },
            ribs=tuple(moved_rib(r, halves, shifts) for r in self.plate.ribs),
        )
        return self.replaced(**changes, plate=plate)

    def resized_about_columns(self, by: float) -> "Pad":
        """All edges but the held ones moved outwards by so much, m; columns, ribs and regions stay with each other.

        Raises:
            ValueError: when no base is left.
        """
        if self.outline:
            held = [self.is_held(a, b) for a, b in outlines.sides(self.outline)]
            return self.replaced(outline=outlines.offset(self.outline, by, held))
        changes = {}
        for size, hold in (("width", self.hold_x), ("length", self.hold_y)):
            grown = by if hold != "middle" else 2 * by
            changes[size] = round(getattr(self, size) + grown, 9)
            if hold != "middle":
                changes[f"offset_{hold[1]}"] = round(getattr(self, f"offset_{hold[1]}") + HELD[hold] * by / 2, 9)
        return self._with_edges(changes)

    def is_held(self, a: outlines.Corner, b: outlines.Corner) -> bool:
        """Whether a side from a corner to another lies on an edge that is held."""
        for k, hold, size in ((0, self.hold_x, self.width), (1, self.hold_y, self.length)):
            at = HELD[hold] * size / 2
            if hold != "middle" and abs(a[k] - at) < outlines.AT_EDGE and abs(b[k] - at) < outlines.AT_EDGE:
                return True
        return False

    def edge(self, side: str) -> float:
        """Distance from the column's axis to an edge ("-x", "+x", "-y", "+y"), m."""
        size, offset = (self.width, self.offset_x) if side[1] == "x" else (self.length, self.offset_y)
        return size / 2 - offset if side[0] == "+" else size / 2 + offset

    def with_edge(self, side: str, distance: float) -> "Pad":
        """The pad with one edge moved to a distance from the column's axis; the opposite edge stays.

        Raises:
            pydantic.ValidationError: when no base is left.
        """
        other = self.edge(("-" if side[0] == "+" else "+") + side[1])
        low, high = (other, distance) if side[0] == "+" else (distance, other)
        name, offset = ("width", "offset_x") if side[1] == "x" else ("length", "offset_y")
        return self._with_edges({name: round(low + high, 9), offset: round((low - high) / 2, 9)})

    @property
    def underside(self) -> float:
        """Founding level, m."""
        return self.level if self.held == "underside" else self.level - self.thickness

    @property
    def top(self) -> float:
        """Level of the top face, m."""
        return self.underside + self.thickness


class Strap(Row):
    """A beam that ties a base at a boundary to an inner one, clear of the ground: each base presses in its middle along
    it."""

    name: Name
    edge: Name
    """The base whose column stands off its middle."""
    inner: Name
    type: Name | None = None
    """Straps of one type have the same beam: a change of one by hand, and its growth, are those of all."""
    width: Length = 0.5
    depth: Length = 0.8
    top: Bars = Bars(diameter=0.025, number=4)
    bottom: Bars = Bars(diameter=0.016, number=3)
    links: Bars | None = Bars(diameter=0.010, spacing=0.2)
    legs: int = Field(default=2, ge=2, le=12)
    """Of a link, across the width."""
    cover: Length | None = None
    """Of the links, m; that of the base at the boundary where nothing is given."""
    ranges: FrozenMap[Range] = Field(default_factory=nothing)
    """How far the width and the depth may grow where a check fails, and on which raster; without one the width
    stays."""

    @field_validator("ranges")
    @classmethod
    def _of_its_sizes(cls, ranges: Any) -> Any:
        for name in ranges:
            if name not in ("width", "depth"):
                raise ValueError(say("{name} of a strap has no range; its width and its depth have", name=name))
        return ranges

    @model_validator(mode="after")
    def _two_bases(self) -> "Strap":
        if self.edge == self.inner:
            raise ValueError(say("a strap ties two bases: name another one as the inner base"))
        if self.links is not None and self.links.spacing is None:
            raise ValueError(say("links are given by their spacing, such as 10 at 200"))
        return self


class PadType(Row):
    """A named group of pads with common settings."""

    name: Name
    overrides: Overrides = Field(default_factory=dict, validate_default=True)
