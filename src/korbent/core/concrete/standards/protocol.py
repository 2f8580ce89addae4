"""What a concrete standard provides. A new standard is a folder beside this file and a line in
korbent.core.model.standards."""

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import Any, ClassVar, Protocol, TypeGuard

from korbent.core.concrete.critical_section import CriticalSection
from korbent.core.model.settings import Settings
from korbent.core.working import Array, Recorder


@dataclass(frozen=True)
class ColumnRules:
    """What a standard says of sections under axial force and moments; stresses in MPa, resistances already reduced
    where it reduces the materials."""

    stress: float
    """Of the concrete in the block."""
    block: float
    """Depth of the block over the compressed depth."""
    strain: float
    """Greatest compressive strain of the concrete."""
    yield_stress: float
    most: float
    """Greatest axial force over the one that all of the section gives."""
    reduction: "Callable[[Bending], Array]"
    """Factor on the resistance."""
    least_share: float
    """Least steel over the section."""
    least_force: float
    """Least steel times its yield stress over the axial force."""
    least_clause: str
    most_share: float
    """Greatest steel over the section."""
    most_clause: str
    least_eccentricity: Callable[[Array], Array]
    """Of an axial force, m, by the size of the section along it; about one axis at a time."""
    eccentricity_clause: str
    mean_strain: float | None = None
    """Strain of the concrete where all of the section is compressed alike: it turns about there (EN 1992-1-1 figure
    6.1)."""
    narrowing: float = 1.0
    """Factor on the stress of the block where the compressed part narrows towards its extreme fibre."""


@dataclass(frozen=True)
class Bending:
    """What a reduction of a resistance goes by, (angles, depths): the greatest tensile strain, the axial force (kN,
    compression positive) and that of the balanced section, and the depth of the neutral axis of bending without it over
    the effective depth."""

    tension: Array
    N: Array
    balanced: Array
    pure: Array


@dataclass(frozen=True)
class BarEnds:
    """Bars of one face at one side of the base; arrays (candidates, 1), lengths in m."""

    diameter: Array
    provided: Array
    """mm2/m."""
    d: Array
    h: Array
    outstand: Array
    """From the face of the loaded area to the edge."""
    column: Array
    """Size of the loaded area along the bars."""
    x: Array
    """Distance of the crack from the edge."""
    force: Array
    """Net force within x of the edge that bends the bars, kN/m, (candidates, situations)."""
    share: Array
    """Steel needed at the face over that provided, 0 to 1, (candidates, situations)."""
    cover: float
    hooked: bool
    level: Array
    """Of the bars above the underside: what is cast below them."""


@dataclass(frozen=True)
class CoverAsked:
    """What the least cover goes by: strength of the concrete, MPa, what it is cast against ("blinding" or "soil"), the
    allowance for deviation, m, the exposure class, and the design life in years."""

    fck: float
    against: str
    tolerance: float
    exposure_en: str
    exposure_aci: str
    exposure_as: str
    life: float
    fire: str
    """Minutes of fire resistance asked for, "" for none."""


@dataclass(frozen=True)
class Around:
    """What goes around the bars of pedestals, (candidates, 1), m: diameters of bars and ties, distance from tie to tie,
    lesser size of the section, its cover, number of bars; 1 where it is a spiral."""

    bar: Array
    tie: Array
    spacing: Array
    size: Array
    cover: Array
    bars: Array
    spiral: Array


@dataclass(frozen=True)
class DowelEnds:
    """Dowels in the base: diameter and distance apart (candidates, 1), m; by situation whether some are pulled, and
    their stress over the design strength."""

    diameter: Array
    apart: Array
    pulled: Array
    share: Array


@dataclass(frozen=True)
class Cracked:
    """A section in service: moment per width (kNm/m), bars (m) with their steel (mm2/m), effective depth and thickness
    (m)."""

    m: Array
    diameter: Array
    spacing: Array
    steel: Array
    d: Array
    h: Array

    @property
    def cover(self) -> Array:
        """Of these bars, m."""
        found: Array = self.h - self.d - self.diameter / 2
        return found


class ConcreteStandard(Hashable, Protocol):
    """Ultimate-limit rules for bases. Strengths in MPa, lengths in m, steel areas in mm2/m.

    Punching is either searched over perimeters (:class:`Searching`) or checked at one critical section
    (:class:`AtSection`)."""

    name: str
    clauses: ClassVar[dict[str, str]]
    """Clause of each check, by its id."""
    bar_set: ClassVar[str]
    """Which bars a metric project chooses from: "metric" or "as"."""
    cracks_by: ClassVar[str]
    """Width of cracks ("width") or distance of bars by their stress ("spacing")."""
    fire: ClassVar[str]
    """What is to be said where fire resistance is asked for; '' where the least cover goes by it."""
    ductile: ClassVar[str]
    """Clause by which the steel provided must leave the section ductile; '' where none asks for it."""
    least_depth: ClassVar[tuple[float, str]]
    """Least effective depth of the bottom bars, m, and its clause; 0 where none is asked for."""
    links_from: ClassVar[tuple[float, str]]
    """Thickness from which bases that span one way need links, m, and its clause; 0 where none do."""
    least_over_needed: ClassVar[tuple[float, str]]
    """Least steel need not be more than so many times the steel needed, and by which clause."""

    @classmethod
    def choices(cls, settings: Settings) -> tuple[Any, ...]:
        """What of the settings it takes: the arguments of its making."""

    @staticmethod
    def mandrel(diameter: float, tie: bool) -> float:
        """Least mandrel diameter of a bar or a tie, m."""

    def cracks(self, at: Cracked, settings: Settings, record: Recorder) -> tuple[Array, Array]:
        """(found, limit) in mm: width of cracks, or distance of bars (see ``cracks_by``); ``r_c`` is recorded as their
        ratio."""

    def strengths(self, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """Design strengths of concrete and steel; ``special`` marks accidental and seismic situations."""

    def block(self, fck: float, fcd: Array, fyd: Array) -> tuple[Array, Array, float]:
        """Flexure: (stress of the concrete block, greatest depth of the block over d of a ductile section, reduction
        factor)."""

    def shear_strength(self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder) -> Array:
        """One-way shear strength without links."""

    def shear_with_links(
        self, concrete: Array, fck: float, fcd: Array, fyk: float, fyd: Array, links: float, record: Recorder
    ) -> Array:
        """One-way shear strength of a beam with links at 45 degrees, MPa over the depth of :meth:`shear_section`;
        ``concrete``: that of :meth:`shear_strength`, ``links``: area of links over width and spacing."""

    def least_in_beam(self, d: Array, h: Array, fck: float, fyk: float, needed: Array, record: Recorder) -> Array:
        """Least tension steel of a beam, mm2/m, where there is tension; ``needed``: by its moment (recorded as
        A_s_req)."""

    def links_in_beam(
        self, stress: Array, concrete: Array, d: Array, h: Array, fck: float, fyk: float, record: Recorder
    ) -> tuple[Array, Array, Array | None]:
        """(least area of links over width and spacing, greatest distance along the beam, of legs across it or None);
        ``stress``: MPa over d (recorded as v_Ed), ``concrete``: that of :meth:`shear_strength` (v_Rd)."""

    def shear_section(self, d: Array, h: Array) -> tuple[Array, Array]:
        """(distance of the section for one-way shear from the face, depth over which its stress is taken), m."""

    def minimum_steel(self, d: Array, h: Array, fck: float, fyk: float, record: Recorder) -> Array:
        """Least tension steel."""

    def anchorage(self, ends: BarEnds, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """(length needed, length there is) of the bars at one side of the base, m."""

    def column_rules(self, fck: float, fyk: float, spiral: bool = False) -> ColumnRules:
        """Rules for pedestals, persistent situations; ``spiral``: a spiral goes around the bars instead of ties."""

    def greatest_spacing(self, h: Array, one_way: Array, record: Recorder) -> Array:
        """Greatest bar spacing, m; ``one_way``: 1 where the base spans one way, under a wall."""

    def steel_at_column(
        self,
        stress: Array,
        perimeter: Array,
        sides: Array,
        d: Array,
        fck: float,
        fyk: float,
        record: Recorder,
    ) -> Array:
        """Least steel near the column of a base that spans both ways, by the direct punching stress (MPa) on a section
        at d/2 of so many sides, mm2/m; 0 where none is asked for."""

    def least_gap(self, diameter: Array, record: Recorder) -> Array:
        """Least clear distance between bars, m."""

    def band_share(self, long_over_short: Array) -> Array:
        """By how much evenly spaced bars of the short direction must exceed the steel required, for what a central band
        asks for."""

    def least_cover(self, diameter: Array, asked: "CoverAsked", record: Recorder) -> Array:
        """Least cover of the bottom bars, m."""

    cracks_near_edge: bool
    """Whether anchorage is looked at for cracks at any distance from the edge (EN 1992-1-1 9.8.2.2), or at the face
    alone."""
    within_column: bool
    """Whether the section for flexure may lie within the column."""
    bearing_slope: float
    """How far a load spreads sideways in the base for 1 down, where it presses on the concrete."""
    bearing_most: float
    """Greatest ratio of the sizes of the area that it spreads over and the loaded area."""

    def bearing_strength(self, fck: float, fcd: Array, spread: Array, record: Recorder) -> Array:
        """Stress that the concrete of the base bears below a column, MPa; ``spread``: ratio of sizes that counts."""

    def plain(self, fck: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """Plain concrete: (flexural strength, one-way shear strength as mean stress over the section), MPa."""

    def plain_punching(self, fck: float, long_over_short: Array, record: Recorder) -> Array | None:
        """Plain concrete: two-way shear strength at half the depth from the column, MPa; None where the standard has
        none."""

    def plain_depth(self, h: Array, deduction: float, record: Recorder) -> Array:
        """Thickness of a plain base that counts, m."""

    def dowel_anchorage(self, ends: DowelEnds, fck: float, fyk: float, special: Array, record: Recorder) -> Array:
        """Length that dowels need in the base, hooked at its bottom, m."""

    def lap(self, diameter: float, fck: float, fyk: float) -> float:
        """Length by which dowels stand beside the bars above, for bars fully in tension, m."""

    def ties(self, around: "Around", fck: float, fyk: float, record: Recorder) -> tuple[Array, Array, Array]:
        """(least diameter in m, greatest spacing in m, greatest of other ratios) of the ties or the spiral around
        pedestal bars."""

    def slenderness(
        self, length: Array, size: Array, is_round: Array, pressed: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """(slenderness, limit up to which second-order effects may be left out) of a free-standing pedestal.

        Args:
            is_round: 1 where the section is a circle. pressed: axial stress over the design strength of the concrete.
        """

    def opening_reach(self, d: Array, h: Array) -> Array:
        """Openings whose edge is nearer than this to the loaded area weaken the perimeter, m."""

    def side_bars(
        self, h: Array, diameter: Array, cover: float, fck: float, fyk: float, record: Recorder
    ) -> tuple[Array, Array]:
        """(least steel in mm2 per m of height, greatest spacing in m) of bars along the sides of thick bases; no steel
        where none is asked for."""


class Searching(ConcreteStandard, Protocol):
    """Punching is searched between the face of the loaded area and 2d."""

    def punching_strength(
        self, d: Array, a: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder
    ) -> Array:
        """Punching strength on the perimeter at the distance ``a`` from the loaded area."""

    def face_strength(self, fck: float, fcd: Array, record: Recorder) -> Array:
        """Greatest punching stress at the face of the loaded area."""

    def search_distances(self, d: Array) -> Array:
        """Distances at which punching is searched, along a new first axis."""

    def moment_share(self, ratio: Array) -> Array:
        """Share k of an unbalanced moment carried by uneven shear, by the ratio of the column sizes."""


class AtSection(ConcreteStandard, Protocol):
    """Punching is checked at the section half an effective depth from the loaded area."""

    def round_side(self, diameter: Array, d: Array) -> Array:
        """Side of the square by which a round column is taken, m."""

    def section_strength(
        self,
        d: Array,
        fck: float,
        long_over_short: Array,
        section: CriticalSection,
        sides: Array,
        record: Recorder,
    ) -> Array:
        """Design strength there, by the number of its sides."""

    def section_demand(
        self, V: Array, M_x: Array, M_y: Array, section: CriticalSection, d: Array, record: Recorder
    ) -> Array:
        """Stress there from the force (kN) and the moments (kNm) about the middle of the section."""


def is_searching(standard: ConcreteStandard) -> TypeGuard[Searching]:
    """Whether punching is searched by it."""
    return hasattr(standard, "search_distances")


def is_at_section(standard: ConcreteStandard) -> TypeGuard[AtSection]:
    """Whether punching is checked at one section by it."""
    return hasattr(standard, "section_demand")
