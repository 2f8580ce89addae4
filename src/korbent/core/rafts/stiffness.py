"""Rigid or flexible: the characteristic length of a base on its ground, by which the nearer of the two is told."""

from dataclasses import dataclass

import numpy as np

from korbent.core.bench import Bench, bench_for
from korbent.core.cache import remembered
from korbent.core.concrete.modulus import elastic_modulus
from korbent.core.concrete.several import columns_of
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.plates.beams import added_inertia
from korbent.core.rafts.plate_of import subgrade_of
from korbent.core.rafts.ribs import flange_of
from korbent.words import say

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
            say("rigid")
            if value <= RIGID
            else say("flexible")
            if value >= FLEXIBLE
            else say("between rigid and flexible")
        )


@remembered(64)
def stiffness_of(project: Project, pad: Pad) -> Stiffness | None:
    """lambda L = L (k B/(4 E_c I))^(1/4) of a base as a strip on springs (Hetenyi 1946), I = B h3/12 and what ribs
    along it add; None where its ground is not known."""
    bench: Bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    k, _ = subgrade_of(bench, project)
    if k is None or not k > 0:
        return None
    E, ribs = elastic_modulus(bench), pad.plate.ribs if pad.plate else ()
    columns = (
        tuple(columns_of(bench, bench.situations("concrete"))) if ribs and len(bench.situations("concrete")) else ()
    )

    def along(axis: str, length: float, across: float) -> float:
        inertia = across * pad.thickness**3 / 12 + sum(
            added_inertia(rib.width, rib.depth, flange_of(pad, rib, columns).width, pad.thickness)
            for rib in ribs
            if rib.axis == axis
        )
        return float(length * (k * across / (4 * E * inertia)) ** 0.25)

    return Stiffness(along("x", pad.width, pad.length), along("y", pad.length, pad.width), k)
