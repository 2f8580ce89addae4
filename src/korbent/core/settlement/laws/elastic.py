"""E' and nu: Hooke's law with three stresses below the base itself, without sideways strain below what stands beside
it."""

import numpy as np

from korbent.core.model.ground import Soil
from korbent.core.settlement.column import Column
from korbent.core.settlement.formulas import confined
from korbent.core.settlement.laws.law import Path
from korbent.core.working import Array
from korbent.words import say


def hooke_beside(stress: Array, angle: Array | None, modulus: Array, poisson: Array) -> Array:
    """Strain under loads beside: with all three normal stresses where their sum is known, else without sideways
    strain."""
    if angle is None:
        return np.asarray(stress * confined(modulus, poisson))
    return np.asarray((1 + poisson) * (stress - poisson * angle) / modulus)


def slowed(whole: Array, path: Path, own: Array, beside: Array) -> Array:
    """The strain less what the excess pressure still holds back: linear in it, by the compliance of the greatest load.

    Args:
        whole: strain under the total stress. own: strain per pressure of the base itself. beside: strain per stress
        beside.
    """
    if path.excess is None:
        return whole
    pressure = np.abs(path.pressure).max(axis=0)[..., None]
    others = np.abs(path.beside).max(axis=0)
    stress = pressure * path.unit + others
    compliance = np.where(
        stress > 1e-9,
        (pressure * own + others * beside) / np.where(stress > 1e-9, stress, 1.0),
        beside,
    )
    return np.asarray(whole - compliance * path.excess)


class Elastic:
    """Steinbrenner (1934) by cells."""

    how = say("E′ and ν, Steinbrenner 1934")
    reduced = False

    def lacking(self, soil: Soil) -> str:
        return "" if soil.modulus else "modulus"

    def strain(self, column: Column, path: Path) -> Array:
        E, nu = column.soil("modulus", 1.0), column.soil("poisson")
        own = np.zeros(path.unit.shape)
        if path.footing is not None:
            own = path.footing.strain(column, nu) / E
        whole = path.pressure[..., None] * own + hooke_beside(path.beside, path.angle if path.sideways else None, E, nu)
        return slowed(whole, path, own, confined(E, nu))

    def tangent(self, column: Column, path: Path, after: Array) -> Array:
        return confined(column.soil("modulus", 1.0), column.soil("poisson")) + 0.0 * after

    def hardened(self, column: Column, stress: Array) -> Array:
        return np.asarray(stress * confined(column.soil("modulus", 1.0), column.soil("poisson")))
