"""ACI 318: materials and sections."""

from typing import ClassVar

import numpy as np

from korbent.core.concrete.standards.protocol import ColumnRules
from korbent.core.working import Array, Recorder
from korbent.words import say

PSI = 145.0377377
"""psi in one MPa."""


INCH = 0.0254


STEEL_MODULUS = 29e6
"""psi, 20.2.2.2."""


ULTIMATE_STRAIN = 0.003


def beta_1(fck: float) -> float:
    """Depth of the block over that of the pressed zone (table 22.2.2.4.3)."""
    return float(np.clip(0.85 - 0.05 * (fck * PSI - 4000) / 1000, 0.65, 0.85))


class Section:
    """ACI 318: materials and sections."""

    reference: ClassVar[str] = "ACI 318-19"

    def __init__(self, size_effect: bool = False) -> None:
        self.size_effect = size_effect

    def strengths(self, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """Nominal: 0.85 f'c over the stress block (22.2.2.4.1), fy; the strength reduction factors come with each
        check."""
        fcd, fyd = np.full(special.shape, 0.85 * fck), np.full(special.shape, fyk)
        record.given("f_c", fck, "MPa", note=say("specified compressive strength f′c"))
        record.given("f_y", fyk, "MPa", note=say("reinforcing steel"))
        record.step("f_yd", "f_y", fyd, "MPa")
        record.step("f_cd", "0.85*f_c", fcd, "MPa", reference=f"{self.reference} 22.2.2.4.1")
        return fcd, fyd

    def block(self, fck: float, fcd: Array, fyd: Array) -> tuple[Array, Array, float]:
        """22.2.2.4; the section tension-controlled: eps_t at least eps_ty + 0.003 (21.2.2, 9.3.3.1); phi = 0.9."""
        yield_strain = fyd * PSI / STEEL_MODULUS
        return fcd, beta_1(fck) * ULTIMATE_STRAIN / (ULTIMATE_STRAIN + yield_strain + 0.003), 0.9

    def column_rules(self, fck: float, fyk: float, spiral: bool = False) -> ColumnRules:
        """22.2.2, 21.2.2 (phi 0.65 to 0.9 for ties, 0.75 to 0.9 for spirals), 22.4.2.1 (0.80 P_o, 0.85 P_o), 16.3.4.1
        (0.005 A_g)."""
        least, most = (0.75, 0.85) if spiral else (0.65, 0.80)
        beta = beta_1(fck)
        yields = fyk * PSI / STEEL_MODULUS
        return ColumnRules(
            0.85 * fck,
            beta,
            ULTIMATE_STRAIN,
            fyk,
            most,
            lambda at: least + (0.9 - least) * np.clip((at.tension - yields) / 0.003, 0.0, 1.0),
            0.005,
            0.0,
            f"{self.reference} 16.3.4.1",
            0.08,
            f"{self.reference} 10.6.1.1",
            lambda size: 0.0 * size,
            f"{self.reference} 22.4.2.1",
        )

    def bearing_strength(self, fck: float, fcd: Array, spread: Array, record: Recorder) -> Array:
        """Table 22.8.3.2: 0.85 f'c sqrt(A_2/A_1), at most twice it; phi = 0.65 (21.2.1)."""
        strength: Array = 0.65 * fcd * spread
        record.step(
            "f_Rd",
            "0.65*f_cd*k_s",
            strength,
            "MPa",
            reference=f"{self.reference} table 22.8.3.2",
            note="φ = 0.65",
        )
        return strength

    def plain(self, fck: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """phi = 0.6 (21.2.1): 5 sqrt(f'c) (14.5.2.1); 4/3 sqrt(f'c) (table 14.5.5.1)."""
        root = min(np.sqrt(fck * PSI), 100.0)
        flexure, shear = (np.full(special.shape, 0.6 * k * root / PSI) for k in (5.0, 4 / 3))
        record.given("r_fc", root, "psi", reference=f"{self.reference} 22.6.3.1", note="√f′c")
        record.step(
            "f_Rd",
            f"0.6*5*r_fc/{PSI}",
            flexure,
            "MPa",
            reference=f"{self.reference} 14.5.2.1",
            note="φ = 0.6",
        )
        record.step(
            "v_Rd",
            f"0.6*4/3*r_fc/{PSI}",
            shear,
            "MPa",
            reference=f"{self.reference} table 14.5.5.1",
            note="φ = 0.6",
        )
        return flexure, shear

    def plain_depth(self, h: Array, deduction: float, record: Recorder) -> Array:
        """h less 2 in. cast against soil (14.5.1.7)."""
        depth: Array = np.maximum(h - deduction, h / 10)
        record.step(
            "h_p",
            f"max(h - {deduction}, h/10)",
            depth,
            "m",
            reference=f"{self.reference} 14.5.1.7",
            note=say("thickness that counts"),
        )
        return depth

    def slenderness(
        self, length: Array, size: Array, is_round: Array, pressed: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """6.2.5.1: k l_u/r at most 22, k = 2, r = 0.3 h, of a circle 0.25 D (6.2.5.2)."""
        radius = np.where(is_round > 0, 0.25, 0.3)
        found, limit = 2 * length / (radius * size), np.full_like(pressed, 22.0)
        record.step(
            "lambda_p",
            "2*l_p/(where(k_o > 0, 0.25, 0.3)*b_min)",
            found,
            reference=f"{self.reference} 6.2.5.1",
            note=say("free at the top"),
        )
        record.given("lambda_lim", limit, reference=f"{self.reference} 6.2.5.1")
        return found, limit
