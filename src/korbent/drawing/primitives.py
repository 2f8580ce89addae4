"""A drawing as a value: shapes in metres with colour tokens, for the screen, the sheets, or a test to look at."""

from dataclasses import dataclass, field
from typing import Literal

Point = tuple[float, float]
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


@dataclass(frozen=True, slots=True)
class Line:
    """A line through points, with an arrow at its end where asked."""

    points: tuple[Point, ...]
    stroke: str = "ink"
    width: float = 1.0
    dash: bool = False
    arrow: bool = False
    key: str = ""


@dataclass(frozen=True, slots=True)
class Text:
    """A text at a point; ``dx``, ``dy`` move it on the page (px, down positive); ``halo`` sets it on paper.

    ``room``: the width (m) that it may take; what is longer is cut short, and left out where hardly a letter fits.
    """

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


Shape = Polygon | Line | Text | Disc


@dataclass(frozen=True)
class Drawing:
    """Shapes in the order in which they are painted, and the part of the world that must be seen (m)."""

    shapes: tuple[Shape, ...]
    bounds: tuple[float, float, float, float]
    margins: tuple[float, float, float, float] = (12.0, 12.0, 12.0, 12.0)
    """Left, top, right, bottom, px."""


@dataclass
class Sketch:
    """Collects shapes."""

    shapes: list[Shape] = field(default_factory=list)

    def add(self, *shapes: Shape) -> None:
        """Adds shapes on top."""
        self.shapes.extend(shapes)


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


def placed(drawing: Drawing, width: float, height: float) -> Placement:
    """The placement that fits the bounds of a drawing into a page, in its middle."""
    x0, y0, x1, y1 = drawing.bounds
    left, top, right, bottom = drawing.margins
    room_x, room_y = max(width - left - right, 1.0), max(height - top - bottom, 1.0)
    scale = min(room_x / max(x1 - x0, 1e-6), room_y / max(y1 - y0, 1e-6))
    return Placement(
        scale, left + (room_x - (x1 - x0) * scale) / 2, top + (room_y - (y1 - y0) * scale) / 2, x0, y1
    )


def rectangle(x0: float, y0: float, x1: float, y1: float) -> tuple[Point, ...]:
    """The corners of an upright rectangle."""
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
