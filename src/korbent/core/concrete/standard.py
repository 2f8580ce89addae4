"""What a concrete standard provides. A new standard is one module that has these, and one registry line."""

from typing import Protocol

from korbent.core.working import Array, Recorder


class ConcreteStandard(Protocol):
    """Ultimate-limit rules for bases. Strengths in MPa, lengths in m, steel areas in mm2/m."""

    name: str

    def strengths(
        self, fck: float, fyk: float, alpha_cc: float, special: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """Design strengths of concrete and steel; ``special`` marks accidental and seismic situations."""

    def steel_for(
        self, moment: Array, d: Array, fck: float, fcd: Array, fyd: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """(steel for a moment in kNm/m, moment over the greatest that a ductile section carries)."""

    def shear_strength(
        self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder
    ) -> Array:
        """One-way shear strength without links."""

    def punching_strength(
        self, d: Array, a: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder
    ) -> Array:
        """Punching strength on the perimeter at the distance ``a`` from the loaded area."""

    def face_strength(self, fck: float, fcd: Array, record: Recorder) -> Array:
        """Greatest punching stress at the face of the loaded area."""

    def minimum_steel(self, d: Array, fck: float, fyk: float, record: Recorder) -> Array:
        """Least tension steel."""

    def greatest_spacing(self, h: Array, record: Recorder) -> Array:
        """Greatest bar spacing, m."""

    def search_distances(self, d: Array) -> Array:
        """Distances at which punching is searched, along a new first axis."""

    def moment_share(self, ratio: Array) -> Array:
        """Share k of an unbalanced moment carried by uneven shear, by the ratio of the column sizes."""


def registry() -> dict[str, ConcreteStandard]:
    """The standards known, by name."""
    from korbent.core.concrete.en1992 import EN1992

    return {standard.name: standard for standard in (EN1992(),)}
