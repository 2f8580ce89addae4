"""Rigid or flexible: the characteristic length of a base on its ground, by which the nearer of the two is told."""

from dataclasses import dataclass

import numpy as np

from korbent.core.bench import Bench, bench_for
from korbent.core.cache import remembered
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.rafts.solved import elastic_modulus, subgrade_of

RIGID, FLEXIBLE = np.pi / 4, np.pi
"""lambda L up to which a beam on springs is rigid, and from which on its ends do not feel each other (Hetenyi 1946)."""


@dataclass(frozen=True)
class Stiffness:
    """lambda L of a base along both axes, and the stiffness of the ground that it was found with, kN/m3."""

    x: float
    y: float
    k: float

    def along(self, axis: str) -> float:
        """lambda L along an axis."""
        return self.x if axis == "x" else self.y

    @staticmethod
    def word(value: float) -> str:
        """What it means."""
        return (
            "rigid" if value <= RIGID else "flexible" if value >= FLEXIBLE else "between rigid and flexible"
        )


@remembered(64)
def stiffness_of(project: Project, pad: Pad) -> Stiffness | None:
    """lambda L = L (3 k/(E_c h^3))^(1/4) of a base as a strip on springs (Hetenyi 1946); None where its ground is not known."""
    bench: Bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    k, _ = subgrade_of(bench, project)
    if k is None or not k > 0:
        return None
    one = float((3 * k / (elastic_modulus(bench) * pad.thickness**3)) ** 0.25)
    return Stiffness(one * pad.width, one * pad.length, k)
