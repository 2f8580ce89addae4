"""What every footprint answers.

The middle of a base is halfway along its width B and on the axis along it; x runs along the width, y along the length L
(of a trapezoid the mean length). Arrays are (candidates, 1), m, if nothing else is said."""

from dataclasses import dataclass
from typing import ClassVar, NamedTuple, Protocol, Self

from korbent.core.contact.plane import Contact
from korbent.core.working import SILENT, Array, Recorder


@dataclass(frozen=True)
class Effective:
    """The effective area: sizes of the rectangle that stands for it, along two axes at right angles, and the horizontal
    forces along them (kN). Under a rectangle and a trapezoid the axes are those of the pad, under a polygon its
    principal axes; under a round base the first one points towards the resultant."""

    x: Array
    y: Array
    Hx: Array
    Hy: Array


class Edge(NamedTuple):
    """A straight edge: its outward direction (cosine and sine, from x) and its distance from the middle, m."""

    name: str
    cosine: Array | float
    sine: Array | float
    away: Array


class Part(NamedTuple):
    """What lies beyond a section across an axis."""

    x: Array
    y: Array
    """Its corners, anticlockwise, m, (..., candidates, situations or 1, corners)."""
    start: Array
    """From the middle of the base to the section, towards the side: within the base, m."""
    outstand: Array
    """From the section to the edge, m."""
    chord: Array
    """Width of the section, m."""


class Footprint(Protocol):
    """The underside of candidate sizes of bases of one shape."""

    is_round: ClassVar[bool]
    slices_alike: ClassVar[bool]
    """All slices across an axis are alike: it can be looked at slice by slice, and repeated to an endless strip."""
    around_formula: ClassVar[str]
    full_contact: ClassVar[str]
    """The symbols of the working by which the eccentricity is known."""

    @property
    def B(self) -> Array:
        """Width along x."""
        ...

    @property
    def area_formula(self) -> str:
        """The area as a formula of the working."""
        ...

    @property
    def L(self) -> Array:
        """Length along y; of a trapezoid the mean."""
        ...

    @property
    def area(self) -> Array:
        """m2."""
        ...

    @property
    def around(self) -> Array:
        """Length of the outer edge."""
        ...

    @property
    def centroid(self) -> Array | float:
        """Centre of the area from the middle, along x; an array where it is not the middle."""
        ...

    @property
    def centroid_y(self) -> Array | float:
        """The same along y."""
        ...

    @property
    def inertia(self) -> tuple[Array, Array]:
        """Integrals of x2 and of y2 about the centre of the area, m4."""
        ...

    @property
    def product(self) -> Array | float:
        """Integral of x y about the centre of the area, m4."""
        ...

    @property
    def turn(self) -> Array | float:
        """From the axes of the pad to those of the equal rectangle and of the effective area, rad."""
        ...

    @property
    def equal_rectangle(self) -> tuple[Array, Array]:
        """Sizes of the rectangle that stands for it where only area and proportions count: a round base as a square."""
        ...

    @property
    def hole(self) -> Array:
        """Diameter of the hole of a ring, 0 without one."""
        ...

    @property
    def edges(self) -> tuple[Edge, ...]:
        """About which it can overturn; none of a round base: any tangent."""
        ...

    def outline(self, x0: Array | float = 0.0, y0: Array | float = 0.0) -> tuple[Array, Array]:
        """Points of the outer edge from (x0, y0), anticlockwise, (candidates, points)."""
        ...

    def size(self, axis: str) -> Array:
        """Greatest size along an axis."""
        ...

    def span(self, axis: str, at: Array) -> tuple[Array, Array]:
        """From where to where the base reaches along an axis, at a place ``at`` across it."""
        ...

    def chord(self, axis: str, at: Array) -> Array:
        """Width of the section across an axis at a place ``at`` along it."""
        ...

    def beyond(self, side: str, start: Array) -> Part:
        """What lies beyond a section at a distance ``start`` from the middle towards a side ("+x", "-x", "+y",
        "-y")."""
        ...

    def clear(
        self, offset_x: Array, offset_y: Array, size_x: Array, size_y: Array
    ) -> tuple[Array, Array, Array, Array]:
        """Room from the faces of a loaded area to the edges at -x, +x, -y, +y; a perimeter so far around lies within
        the base."""
        ...

    def spread(self, by: Array | float) -> Self:
        """As far as that larger to every side."""
        ...

    def halfway(self, other: Self) -> Self:
        """In the middle between two of a shape."""
        ...

    def recorded(self, record: Recorder) -> None:
        """The sizes besides B and L."""
        ...

    def contact(self, N: Array, Mx: Array, My: Array, record: Recorder = SILENT) -> Contact:
        """The pressure plane, without tension, with the force N (kN, down) and the moments Mx, My (kNm) at the
        middle."""
        ...

    def effective(self, contact: Contact, Hx: Array, Hy: Array, record: Recorder = SILENT) -> Effective:
        """The effective area, whose middle is the resultant (Meyerhof 1953)."""
        ...

    def eccentricity(self, contact: Contact, limit: Array, record: Recorder = SILENT) -> tuple[Array, Array]:
        """(measure, ratio) of the eccentricity against a limit."""
        ...
