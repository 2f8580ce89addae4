"""What a concrete standard provides. A new standard is one module that has these, and one registry line."""

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from functools import lru_cache
from typing import ClassVar, Protocol, runtime_checkable

from korbent.core.concrete.critical_section import CriticalSection
from korbent.core.model.settings import Settings
from korbent.core.working import Array, Recorder


@dataclass(frozen=True)
class ColumnRules:
    """What a standard says of sections under axial force and moments; stresses in MPa, resistances already reduced where it reduces the materials."""

    stress: float
    """Of the concrete in the block."""
    block: float
    """Depth of the block over the compressed depth."""
    strain: float
    """Greatest compressive strain of the concrete."""
    yield_stress: float
    most: float
    """Greatest axial force over the one that all of the section gives."""
    reduction: Callable[[Array], Array]
    """Factor on the resistance by the greatest tensile strain of the steel."""
    least_share: float
    """Least steel over the section."""
    least_force: float
    """Least steel times its yield stress over the axial force."""
    least_clause: str


class ConcreteStandard(Hashable, Protocol):
    """Ultimate-limit rules for bases. Strengths in MPa, lengths in m, steel areas in mm2/m.

    Punching is either searched over perimeters (:class:`Searching`) or checked at one critical section (:class:`AtSection`).
    """

    name: str
    clauses: ClassVar[dict[str, str]]
    """Clause of each check, by its id."""

    def strengths(self, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """Design strengths of concrete and steel; ``special`` marks accidental and seismic situations."""

    def block(self, fck: float, fcd: Array, fyd: Array) -> tuple[Array, Array, float]:
        """Flexure: (stress of the concrete block, greatest depth of the block over d of a ductile section, reduction factor)."""

    def shear_strength(
        self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder
    ) -> Array:
        """One-way shear strength without links."""

    def shear_section(self, d: Array, h: Array) -> tuple[Array, Array]:
        """(distance of the section for one-way shear from the face, depth over which its stress is taken), m."""

    def minimum_steel(self, d: Array, h: Array, fck: float, fyk: float, record: Recorder) -> Array:
        """Least tension steel."""

    def anchorage(
        self, diameter: Array, provided: Array, d: Array, h: Array, outstand: Array, column: Array, x: Array, force: Array, fck: float, fyk: float,
        cover: float, hooked: bool, special: Array, record: Recorder,
    ) -> tuple[Array, Array]:  # fmt: skip
        """(length needed, length there is) of the bottom bars at one side of the base, m.

        Args:
            provided: mm2/m. outstand: from the face of the loaded area ``column`` to the edge. force: net soil pressure within ``x``
                of the edge, kN/m.
        """

    def column_rules(self, fck: float, fyk: float) -> ColumnRules:
        """Rules for pedestals, persistent situations."""

    def greatest_spacing(self, h: Array, record: Recorder) -> Array:
        """Greatest bar spacing, m."""


@runtime_checkable
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


@runtime_checkable
class AtSection(ConcreteStandard, Protocol):
    """Punching is checked at the section half an effective depth from the loaded area."""

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


NAMES = ("EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018")


def standard_of(name: str, settings: Settings) -> ConcreteStandard | None:
    """The standard of this name with the choices of the settings; None where it is none of NAMES. The same values give the same object."""
    choices = (
        settings.gamma_concrete, settings.gamma_steel, settings.alpha_cc, settings.shear_coefficient, settings.shear_least, settings.face_share,
        settings.alpha_ct,
    )  # fmt: skip
    return _made(name, choices, settings.hooks_count == "always", settings.shear_size_effect)


@lru_cache(maxsize=64)
def _made(
    name: str, national: tuple[float, ...], hooks_always: bool, size_effect: bool
) -> ConcreteStandard | None:
    from korbent.core.concrete.aci318 import ACI318
    from korbent.core.concrete.as3600 import AS3600
    from korbent.core.concrete.en1992 import EN1992, NationalValues

    if name == EN1992.name:
        return EN1992(NationalValues(*national), hooks_always)
    if name == ACI318.name:
        return ACI318(size_effect)
    return AS3600() if name == AS3600.name else None
