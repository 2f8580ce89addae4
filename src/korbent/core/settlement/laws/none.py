"""A stratum that is not counted."""

import numpy as np

from korbent.core.model.ground import Soil
from korbent.core.settlement.column import Column
from korbent.core.settlement.laws.law import Path
from korbent.core.working import Array
from korbent.words import say


class NotCounted:
    """Rigid."""

    how = say("not counted")
    reduced = False

    def lacking(self, soil: Soil) -> str:
        return ""

    def strain(self, column: Column, path: Path) -> Array:
        return np.zeros(path.beside.shape)

    def tangent(self, column: Column, path: Path, after: Array) -> Array:
        return np.zeros(after.shape)

    def hardened(self, column: Column, stress: Array) -> Array:
        return np.zeros(stress.shape)
