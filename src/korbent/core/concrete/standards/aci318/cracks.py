"""ACI 318: distance of bars by their stress in service."""

import numpy as np

from korbent.core.concrete.standards.aci318.detailing import Detailing
from korbent.core.concrete.standards.aci318.section import INCH, PSI
from korbent.core.concrete.standards.cracked import STEEL_MODULUS, steel_stress
from korbent.core.concrete.standards.protocol import Cracked
from korbent.core.model.settings import Settings
from korbent.core.working import Array, Recorder
from korbent.words import say


class Cracks(Detailing):
    """ACI 318: distance of bars by their stress in service."""

    cracks_by = "spacing"

    def cracks(self, at: Cracked, settings: Settings, record: Recorder) -> tuple[Array, Array]:
        """(spacing, greatest spacing) in mm by table 24.3.2, with the calculated service stress, not less than a tenth
        of 2/3 fy."""
        ratio = STEEL_MODULUS / (4700 * np.sqrt(settings.concrete_strength))
        stress, _ = steel_stress(at, float(ratio), record)
        used = np.maximum(stress, settings.steel_strength / 15)
        cover = at.cover
        allowed = np.minimum(15 * 40_000 / (used * PSI) - 2.5 * cover / INCH, 12 * 40_000 / (used * PSI)) * INCH
        allowed = np.maximum(allowed, 1e-3)
        record.step(
            "f_s",
            f"max(sigma_s, {settings.steel_strength}/15)",
            used,
            "MPa",
            reference=f"{self.reference} 24.3.2.1",
            note=say("service stress"),
        )
        record.step("c_c", "h - d - oe/2", cover, "m", note=say("clear cover of these bars"))
        record.step(
            "s_lim",
            f"max(min(15*40000/(f_s*{PSI}) - 2.5*c_c/{INCH}, 12*40000/(f_s*{PSI}))*{INCH}, 0.001)",
            allowed,
            "m",
            reference=f"{self.reference} table 24.3.2",
        )
        record.step("r_c", "s/s_lim", at.spacing / allowed * np.ones_like(at.m))
        return 1000 * at.spacing * np.ones_like(at.m), 1000 * allowed
