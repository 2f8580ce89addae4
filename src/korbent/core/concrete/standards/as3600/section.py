"""AS 3600: materials and sections."""

import numpy as np

from korbent.core.concrete.standards.protocol import Bending, ColumnRules
from korbent.core.working import Array, Recorder
from korbent.words import say

REFERENCE = "AS 3600:2018"


def gamma_block(fck: float) -> float:
    """Depth of the block over that of the pressed zone (8.1.3)."""
    return max(0.97 - 0.0025 * fck, 0.67)


def capacity_factor(at: Bending) -> Array:
    """phi of axial force and bending (table 2.2.2): 0.65 from the balanced force on; below it phi_0 + (phi - phi_0)(1 -
    N_u/N_ub), with phi_0 = 0.65 and phi = 1.24 - 13 k_uo/12 of bending without axial force, between 0.65 and 0.85."""
    bending = np.clip(1.24 - 13 * at.pure / 12, 0.65, 0.85)
    share = np.where(
        at.balanced > 0.0,
        1 - np.maximum(at.N, 0.0) / np.maximum(at.balanced, 1e-9),
        np.where(at.N > 0.0, 0.0, 1.0),
    )
    found: Array = 0.65 + (bending - 0.65) * np.clip(share, 0.0, 1.0)
    return found


class Section:
    """AS 3600: materials and sections."""

    def strengths(self, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """alpha_2 f'c over the stress block (8.1.3), fsy; the capacity factors come with each check."""
        alpha = max(0.85 - 0.0015 * fck, 0.67)
        fcd, fyd = np.full(special.shape, alpha * fck), np.full(special.shape, fyk)
        record.given("f_c", fck, "MPa", note=say("characteristic strength f′c"))
        record.given("f_y", fyk, "MPa", note=say("reinforcing steel fsy"))
        record.step("f_yd", "f_y", fyd, "MPa")
        record.step("alpha_2", "max(0.85 - 0.0015*f_c, 0.67)", alpha, reference=f"{REFERENCE} 8.1.3")
        record.step("f_cd", "alpha_2*f_c", fcd, "MPa", reference=f"{REFERENCE} 8.1.3")
        return fcd, fyd

    def block(self, fck: float, fcd: Array, fyd: Array) -> tuple[Array, Array, float]:
        """8.1.3; k_uo at most 0.36 (8.1.5), phi = 0.85 (table 2.2.2)."""
        return fcd, np.asarray(0.36 * gamma_block(fck)), 0.85

    def column_rules(self, fck: float, fyk: float, spiral: bool = False) -> ColumnRules:
        """8.1.3, table 2.2.2 (phi by the axial force, see :func:`capacity_factor`), 10.1.2 (0.05 D), 10.7.1 (0.01 to
        0.04 A_g)."""
        return ColumnRules(
            max(0.85 - 0.0015 * fck, 0.67) * fck,
            gamma_block(fck),
            0.003,
            fyk,
            1.0,
            capacity_factor,
            0.01,
            0.0,
            f"{REFERENCE} 10.7.1",
            0.04,
            f"{REFERENCE} 10.7.1",
            lambda size: 0.05 * size,
            f"{REFERENCE} 10.1.2",
        )

    def bearing_strength(self, fck: float, fcd: Array, spread: Array, record: Recorder) -> Array:
        """12.6: 0.9 f'c sqrt(A_2/A_1), at most 1.8 f'c; phi = 0.6 (table 2.2.2)."""
        strength: Array = 0.6 * 0.9 * fck * spread + 0.0 * fcd
        record.step("f_Rd", "0.6*0.9*f_c*k_s", strength, "MPa", reference=f"{REFERENCE} 12.6", note="φ = 0.6")
        return strength

    def plain(self, fck: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """20.4, phi = 0.6: f'ct.f = 0.6 sqrt(f'c); shear 0.15 f'c^(1/3)."""
        flexure, shear = (np.full(special.shape, 0.6 * v) for v in (0.6 * np.sqrt(fck), 0.15 * fck ** (1 / 3)))
        record.step("f_Rd", "0.6*0.6*sqrt(f_c)", flexure, "MPa", reference=f"{REFERENCE} 20.4.2", note="φ = 0.6")
        record.step("v_Rd", "0.6*0.15*f_c**(1/3)", shear, "MPa", reference=f"{REFERENCE} 20.4.3", note="φ = 0.6")
        return flexure, shear

    def plain_depth(self, h: Array, deduction: float, record: Recorder) -> Array:
        """h less 50 mm cast on soil (20.4.1)."""
        depth: Array = np.maximum(h - deduction, h / 10)
        record.step(
            "h_p",
            f"max(h - {deduction}, h/10)",
            depth,
            "m",
            reference=f"{REFERENCE} 20.4.1",
            note=say("thickness that counts"),
        )
        return depth

    def slenderness(
        self, length: Array, size: Array, is_round: Array, pressed: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """10.3.1: L_e/r at most 22, L_e = 2.2 L (figure 10.5.3), r = 0.3 D, of a circle 0.25 D (10.5.2)."""
        radius = np.where(is_round > 0, 0.25, 0.3)
        found, limit = 2.2 * length / (radius * size), np.full_like(pressed, 22.0)
        record.step(
            "lambda_p",
            "2.2*l_p/(where(k_o > 0, 0.25, 0.3)*b_min)",
            found,
            reference=f"{REFERENCE} 10.5.2",
            note=say("free at the top"),
        )
        record.given("lambda_lim", limit, reference=f"{REFERENCE} 10.3.1")
        return found, limit
