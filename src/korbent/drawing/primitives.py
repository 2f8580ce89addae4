"""A drawing as a value: shapes in metres with colour tokens, for the screen, the sheets, or a test to look at."""

import math
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from typing import Literal

Point = tuple[float, float]
LAYERS = (
    "site",
    "ground",
    "water",
    "fill",
    "foundations",
    "columns",
    "bars",
    "sections",
    "loads",
    "levels",
    "results",
    "dimensions",
    "texts",
)
"""What lies on the layers of plans and sections; charts have none."""
Anchor = Literal["left", "middle", "right"]


@dataclass(frozen=True, slots=True)
class Polygon:
    """A closed area. ``hatch`` marks what fails; ``pattern`` is a soil; ``key`` names what it stands for."""

    points: tuple[Point, ...]
    fill: str | None = None
    stroke: str | None = None
    width: float = 1.0
    pattern: str | None = None
    hatch: bool = False
    opacity: float = 1.0
    dash: bool = False
    key: str = ""
    layer: str = ""


@dataclass(frozen=True, slots=True)
class Line:
    """A line through points, with an arrow at its end where asked."""

    points: tuple[Point, ...]
    stroke: str = "ink"
    width: float = 1.0
    dash: bool = False
    arrow: bool = False
    key: str = ""
    layer: str = ""


@dataclass(frozen=True, slots=True)
class Text:
    """A text at a point; ``dx``, ``dy`` move it on the page (px, down positive); ``halo`` sets it on paper.

    ``room``: the width (m) that it may take; what is longer is cut short, and left out where hardly a letter fits.
    Where it would lie on another text it gives way (see :mod:`korbent.drawing.placing`): to one of its ``spots``, or by
    a line or so; unless it is ``fixed``, as the value of a tick is."""

    at: Point
    text: str
    size: float = 11.0
    colour: str = "ink"
    anchor: Anchor = "left"
    bold: bool = False
    dx: float = 0.0
    dy: float = 0.0
    halo: bool = False
    room: float = 0.0
    layer: str = ""
    fixed: bool = False
    spots: tuple["Spot", ...] = ()
    stays: bool = False
    """Moved by no line: elsewhere it would speak of something else."""


@dataclass(frozen=True, slots=True)
class Spot:
    """Where else a text may stand."""

    at: Point
    anchor: Anchor = "left"
    dx: float = 0.0
    dy: float = 0.0


def spots_around(x0: float, y0: float, x1: float, y1: float) -> tuple[Spot, ...]:
    """Around a box, for the name of what stands in it: at its right, its left, below and above."""
    middle = (x0 + x1) / 2
    return (
        Spot((x1, y1), "left", 4, 9),
        Spot((x0, y0), "right", -4, -1),
        Spot((x0, y1), "right", -4, 9),
        Spot((middle, y0), "middle", 0, 13),
        Spot((middle, y1), "middle", 0, -5),
        Spot((x1, (y0 + y1) / 2), "left", 4, 4),
        Spot((x0, (y0 + y1) / 2), "right", -4, 4),
    )


@dataclass(frozen=True, slots=True)
class Disc:
    """A round mark; the radius in metres, or on the page (px) where ``fixed``."""

    at: Point
    radius: float
    fill: str | None = None
    stroke: str | None = "ink"
    width: float = 1.0
    fixed: bool = False
    key: str = ""
    layer: str = ""


@dataclass(frozen=True, slots=True)
class Dimension:
    """A length between two points, written beside the line between them: on its right hand, or its left where ``left``.

    ``text`` is what is written, in the units that are shown; the line stands ``away`` (m) from the points, on the same
    hand, with lines from them to it. A page that knows dimensions of its own (a drawing exchange file) makes one of it.
    """

    start: Point
    end: Point
    text: str
    away: float = 0.0
    left: bool = False
    colour: str = "ink"
    size: float = 10.0
    layer: str = "dimensions"

    @property
    def length(self) -> float:
        """What is measured, m."""
        return math.dist(self.start, self.end)

    @property
    def normal(self) -> Point:
        """To the hand on which it is written, of length 1."""
        (x0, y0), (x1, y1) = self.start, self.end
        length = self.length or 1.0
        hand = 1.0 if self.left else -1.0
        return -hand * (y1 - y0) / length, hand * (x1 - x0) / length

    @property
    def line(self) -> tuple[Point, Point]:
        """Where the line of the dimension runs."""
        nx, ny = self.normal
        a, b = ((x + self.away * nx, y + self.away * ny) for x, y in (self.start, self.end))
        return a, b


@dataclass(frozen=True, slots=True)
class Leader:
    """A text at one point with a line from it to what it speaks of, which ends in a dot."""

    at: Point
    to: Point
    text: str
    size: float = 10.0
    colour: str = "ink"
    anchor: Anchor = "left"
    layer: str = "texts"


Shape = Polygon | Line | Text | Disc | Dimension | Leader


@dataclass(frozen=True)
class Drawing:
    """Shapes in the order in which they are painted, and the part of the world that must be seen (m).

    What is written around that part takes the room it needs: the painter finds it (see
    :func:`korbent.drawing.painting.fitted`)."""

    shapes: tuple[Shape, ...]
    bounds: tuple[float, float, float, float]

    @property
    def texts(self) -> tuple[str, ...]:
        """All that is written, dimensions and leaders too, in the order in which it is painted."""
        return tuple(s.text for s in self.shapes if isinstance(s, Text | Dimension | Leader))

    @property
    def layers(self) -> tuple[str, ...]:
        """The layers on which something is, in the order in which they begin."""
        return tuple(dict.fromkeys(shape.layer for shape in self.shapes))


@dataclass
class Sketch:
    """Collects shapes."""

    shapes: list[Shape] = field(default_factory=list)
    layer: str = ""

    def add(self, *shapes: Shape) -> None:
        """Adds shapes on top; those without a layer of their own lie on that of the sketch."""
        if self.layer:
            self.shapes.extend(s if s.layer else replace(s, layer=self.layer) for s in shapes)
        else:
            self.shapes.extend(shapes)

    @contextmanager
    def on(self, layer: str) -> Iterator[None]:
        """What is added within lies on this layer."""
        before, self.layer = self.layer, layer
        try:
            yield
        finally:
            self.layer = before


@dataclass(frozen=True)
class Placement:
    """Where world coordinates (m) fall on a page (px, y down), at one scale for both axes."""

    scale: float
    left: float
    top: float
    x0: float
    y1: float

    def __call__(self, point: Point) -> Point:
        """Page position of a world point."""
        return self.left + (point[0] - self.x0) * self.scale, self.top + (self.y1 - point[1]) * self.scale

    def back(self, x: float, y: float) -> Point:
        """World point of a page position."""
        return self.x0 + (x - self.left) / self.scale, self.y1 - (y - self.top) / self.scale


Margins = tuple[float, float, float, float]
"""Left, top, right, bottom, units of the page."""


def placed(drawing: Drawing, width: float, height: float, margins: Margins = (12.0, 12.0, 12.0, 12.0)) -> Placement:
    """The placement that fits the bounds of a drawing into a page, in its middle."""
    x0, y0, x1, y1 = drawing.bounds
    left, top, right, bottom = margins
    room_x, room_y = max(width - left - right, 1.0), max(height - top - bottom, 1.0)
    scale = min(room_x / max(x1 - x0, 1e-6), room_y / max(y1 - y0, 1e-6))
    return Placement(scale, left + (room_x - (x1 - x0) * scale) / 2, top + (room_y - (y1 - y0) * scale) / 2, x0, y1)


def rectangle(x0: float, y0: float, x1: float, y1: float) -> tuple[Point, ...]:
    """The corners of an upright rectangle."""
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
