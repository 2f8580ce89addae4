"""Strain influence below the base itself (Schmertmann, Hartman and Brown 1978), without sideways strain below what
stands beside it."""

import numpy as np

from korbent.core.model.ground import Soil
from korbent.core.settlement.column import Column
from korbent.core.settlement.formulas import confined, embedment_factor, strain_influence
from korbent.core.settlement.laws.elastic import hooke_beside, slowed
from korbent.core.settlement.laws.law import Path
from korbent.core.working import Array
from korbent.words import say


class StrainInfluence:
    """C1 q I_z/E; C2 counts as creep. Upwards (net unloading) the ground is elastic without sideways strain."""

    how = say("Schmertmann et al. 1978")
    reduced = False

    def lacking(self, soil: Soil) -> str:
        return "" if soil.modulus else "modulus"

    def strain(self, column: Column, path: Path) -> Array:
        E, nu = column.soil("modulus", 1.0), column.soil("poisson")
        under = self.under(column, path)
        whole = under + hooke_beside(path.beside, path.angle if path.sideways else None, E, nu)
        greatest = np.abs(path.pressure).max(axis=0)
        at = np.abs(path.pressure).argmax(axis=0)[None, ..., None]
        own = np.take_along_axis(under, at, axis=0)[0] / np.where(greatest > 1e-9, greatest, 1.0)[..., None]
        return slowed(whole, path, np.abs(own), confined(E, nu))

    @staticmethod
    def under(column: Column, path: Path) -> Array:
        """The part of the base itself."""
        foot = path.footing
        if foot is None or foot.at_peak is None or foot.at_base is None:
            return np.zeros(path.beside.shape)
        E = column.soil("modulus", 1.0)
        q = path.pressure[..., None]
        pressed = np.maximum(q, 0.0)
        short, long = np.minimum(foot.B, foot.L)[..., None], np.maximum(foot.B, foot.L)[..., None]
        shape = strain_influence(foot.depth(column), short, long, pressed, foot.at_peak[..., None])
        down = embedment_factor(pressed, foot.at_base[..., None]) * pressed * shape / E
        return np.where(q >= 0, down, q * path.unit * confined(E, column.soil("poisson")))

    def tangent(self, column: Column, path: Path, after: Array) -> Array:
        return confined(column.soil("modulus", 1.0), column.soil("poisson")) + 0.0 * after

    def hardened(self, column: Column, stress: Array) -> Array:
        return np.asarray(stress * confined(column.soil("modulus", 1.0), column.soil("poisson")))
