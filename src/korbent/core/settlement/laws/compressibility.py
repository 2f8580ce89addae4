"""mv: strain in proportion to the effective stress that is added."""

import numpy as np

from korbent.core.model.ground import Soil
from korbent.core.settlement.column import Column
from korbent.core.settlement.laws.law import Path
from korbent.core.working import Array
from korbent.words import say


class Compressibility:
    """One-dimensional, linear: what is taken off again swells as it was compressed."""

    how = say("mv, Boussinesq")
    reduced = True

    def lacking(self, soil: Soil) -> str:
        return "" if soil.compressibility else "compressibility"

    def strain(self, column: Column, path: Path) -> Array:
        return np.asarray(column.soil("compressibility") / 1000 * path.effective)

    def tangent(self, column: Column, path: Path, after: Array) -> Array:
        return np.asarray(column.soil("compressibility") / 1000 + 0.0 * after)

    def hardened(self, column: Column, stress: Array) -> Array:
        return np.asarray(column.soil("compressibility") / 1000 * stress)
