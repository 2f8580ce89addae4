"""What every law of settlement is given, and what it answers."""

from dataclasses import dataclass
from typing import Protocol

from korbent.core.model.ground import Soil
from korbent.core.settlement.column import Column
from korbent.core.settlement.footing import Footing
from korbent.core.working import Array


@dataclass(frozen=True)
class Path:
    """The way of the stress in the cells of a column, moment by moment.

    Shapes: (moments, points, situations, cells) where nothing else is said; a last moment at full dissipation has no
    excess pressure. All stresses are counted from the ground before loading, kPa."""

    before: Array
    """Effective stress before loading, (points, situations, cells)."""
    yielded: Array
    """Preconsolidation pressure, (points, situations, cells)."""
    pressure: Array
    """Net pressure of the base itself, (moments, points, situations)."""
    unit: Array
    """What a unit pressure of the base itself adds, (points, 1, cells)."""
    beside: Array
    """Added by everything else, and by changes of the water."""
    footing: Footing | None = None
    """The base itself; none below a mark."""
    angle: Array | None = None
    """What the normal stresses of everything else add up to, over 1 + nu; without it they strain the ground without
    sideways strain."""
    excess: Array | None = None
    """Excess pore pressure; none at full dissipation."""
    highest: Array | None = None
    """Greatest effective stress of the past, where it is known to lie above ``yielded``, (points, situations,
    cells)."""
    sideways: bool = True
    """Where ``angle`` is known, strata with E' strain with three stresses beside the base too."""

    @property
    def total(self) -> Array:
        """Total stress that is added."""
        found: Array = self.pressure[..., None] * self.unit + self.beside
        return found

    @property
    def effective(self) -> Array:
        """Effective stress that is added."""
        return self.total if self.excess is None else self.total - self.excess

    @property
    def after(self) -> Array:
        """Effective stress at the moments."""
        found: Array = self.before + self.effective
        return found


class Law(Protocol):
    """How a stratum compresses. Results are for all cells; those of other laws are not looked at."""

    how: str
    """Its name where a settlement is shown."""
    reduced: bool
    """It gives an oedometer settlement, which Skempton and Bjerrum (1957) reduce."""

    def lacking(self, soil: Soil) -> str:
        """What the soil lacks for it, in words; '' when it has all."""

    def strain(self, column: Column, path: Path) -> Array:
        """Vertical strain along the path, (moments, points, situations, cells)."""

    def tangent(self, column: Column, path: Path, after: Array) -> Array:
        """Strain per further stress beside the base, 1/kPa, at the effective stress ``after`` (points, situations,
        cells)."""

    def hardened(self, column: Column, stress: Array) -> Array:
        """Strain that a cell does not give back, as a function of the effective stress up to which it was loaded, up to
        a constant."""
