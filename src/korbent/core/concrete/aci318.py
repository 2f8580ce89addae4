"""ACI 318-19 for footings without shear reinforcement, in its own pounds and inches."""

from typing import ClassVar

import numpy as np

from korbent.core.concrete.critical_section import CriticalSection
from korbent.core.concrete.standard import ColumnRules
from korbent.core.working import Array, Recorder

REFERENCE = "ACI 318-19"
PSI = 145.0377377
"""psi in one MPa."""
INCH = 0.0254
STEEL_MODULUS = 29e6
"""psi, 20.2.2.2."""
ULTIMATE_STRAIN = 0.003


def beta_1(fck: float) -> float:
    """Depth of the block over that of the pressed zone (table 22.2.2.4.3)."""
    return float(np.clip(0.85 - 0.05 * (fck * PSI - 4000) / 1000, 0.65, 0.85))


class ACI318:
    """The rules of ACI 318-19 for footings (chapter 13). Normal-weight concrete."""

    name = "ACI 318-19"
    searches = False
    clauses: ClassVar[dict[str, str]] = {
        "anchorage-x": "ACI 318-19 13.2.8", "anchorage-y": "ACI 318-19 13.2.8",
        "punching": "ACI 318-19 22.6", "punching-face": "ACI 318-19 22.6", "shear-x": "ACI 318-19 22.5.5.1", "shear-y": "ACI 318-19 22.5.5.1",
        "bottom-x": "ACI 318-19 22.2", "bottom-y": "ACI 318-19 22.2", "top-x": "ACI 318-19 22.2", "top-y": "ACI 318-19 22.2",
        "minimum-x": "ACI 318-19 8.6.1.1", "minimum-y": "ACI 318-19 8.6.1.1", "spacing-x": "ACI 318-19 7.7.2.3", "spacing-y": "ACI 318-19 7.7.2.3",
    }  # fmt: skip

    def __init__(self, size_effect: bool = False) -> None:
        self.size_effect = size_effect

    def strengths(self, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """Nominal: 0.85 f'c over the stress block (22.2.2.4.1), fy; the strength reduction factors come with each check."""
        fcd, fyd = np.full(special.shape, 0.85 * fck), np.full(special.shape, fyk)
        record("f_c", "", fck, "MPa", note="specified compressive strength f′c")
        record("f_y", "", fyk, "MPa", note="reinforcing steel")
        record("f_yd", "f_y", fyd, "MPa")
        record("f_cd", "0.85*f_c", fcd, "MPa", f"{REFERENCE} 22.2.2.4.1")
        return fcd, fyd

    def block(self, fck: float, fcd: Array, fyd: Array) -> tuple[Array, Array, float]:
        """22.2.2.4; the section tension-controlled: eps_t at least eps_ty + 0.003 (21.2.2, 9.3.3.1); phi = 0.9."""
        yield_strain = fyd * PSI / STEEL_MODULUS
        return fcd, beta_1(fck) * ULTIMATE_STRAIN / (ULTIMATE_STRAIN + yield_strain + 0.003), 0.9

    def shear_section(self, d: Array, h: Array) -> tuple[Array, Array]:
        """At d from the face (13.2.7.2, 7.4.3.2); stress over d."""
        return d, d

    def _size(self, d: Array, record: Recorder) -> Array:
        size = np.minimum(np.sqrt(2 / (1 + d / INCH / 10)), 1.0) if self.size_effect else np.ones_like(d)
        formula = f"min(sqrt(2/(1 + d/{INCH}/10)), 1)" if self.size_effect else "1 + 0*d"
        note = "" if self.size_effect else "left out: shallow foundations (13.2.6.2)"
        record("lambda_s", formula, size, "", f"{REFERENCE} 22.5.5.1.3", note)
        return size

    def shear_strength(
        self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder
    ) -> Array:
        """phi V_c over b d: 8 lambda_s rho^(1/3) sqrt(f'c), at most 5 sqrt(f'c), psi (table 22.5.5.1 (c), 22.5.5.1.1)."""
        root = min(np.sqrt(fck * PSI), 100.0)
        size = self._size(d, record)
        stress = np.minimum(8 * size * steel_ratio ** (1 / 3), 5.0) * root
        strength: Array = 0.75 * stress / PSI + np.zeros_like(d)
        record("r_fc", f"min(sqrt(f_c*{PSI}), 100)", root, "psi", f"{REFERENCE} 22.5.3.1", "√f′c")
        record(
            "v_c", "min(8*lambda_s*rho_l**(1/3), 5)*r_fc", stress, "psi", f"{REFERENCE} table 22.5.5.1 (c)"
        )
        record("v_Rd", f"0.75*v_c/{PSI}", strength, "MPa", f"{REFERENCE} 21.2.1", "φ = 0.75")
        return strength

    def section_strength(
        self,
        d: Array,
        fck: float,
        long_over_short: Array,
        section: CriticalSection,
        sides: Array,
        record: Recorder,
    ) -> Array:
        """phi v_c of two-way shear: the least of 4, 2 + 4/beta, 2 + alpha_s d/b_o times lambda_s sqrt(f'c), psi (table 22.6.5.2).

        alpha_s: 40 where the section has four sides, 30 with three, 20 with two.
        """
        root = min(np.sqrt(fck * PSI), 100.0)
        size = self._size(d, record)
        alpha = np.where(sides >= 4, 40.0, np.where(sides == 3, 30.0, 20.0))
        factor = np.minimum(np.minimum(4.0, 2 + 4 / long_over_short), 2 + alpha * d / section.length)
        strength: Array = 0.75 * factor * size * root / PSI
        record("r_fc", f"min(sqrt(f_c*{PSI}), 100)", root, "psi", f"{REFERENCE} 22.6.3.1", "√f′c")
        record(
            "beta",
            "",
            long_over_short,
            "",
            f"{REFERENCE} 22.6.5.3",
            "long over short side of the loaded area",
        )
        record("alpha_s", "", alpha, "", f"{REFERENCE} 22.6.5.3", "40, 30, 20: four, three, two sides")
        record("k_v", "min(min(4, 2 + 4/beta), 2 + alpha_s*d/b_o)", factor, "", f"{REFERENCE} table 22.6.5.2")
        record(
            "v_Rd",
            f"0.75*k_v*lambda_s*r_fc/{PSI}",
            strength,
            "MPa",
            f"{REFERENCE} 22.6.5, 21.2.1",
            "φ = 0.75",
        )
        return strength

    def section_demand(
        self, V: Array, M_x: Array, M_y: Array, section: CriticalSection, d: Array, record: Recorder
    ) -> Array:
        """V/(b_o d) + gamma_v M c/J in both directions (8.4.4.2.3, 22.6.4), MPa; J with its d^3 terms."""
        J_x = d * section.second_x + section.parallel_y * d**3 / 12
        J_y = d * section.second_y + section.parallel_x * d**3 / 12
        g_x = 1 - 1 / (1 + 2 / 3 * np.sqrt(section.size_y / section.size_x))
        g_y = 1 - 1 / (1 + 2 / 3 * np.sqrt(section.size_x / section.size_y))
        uneven = g_x * np.abs(M_x) * section.reach_y / J_x + g_y * np.abs(M_y) * section.reach_x / J_y
        demand: Array = (V / (section.length * d) + uneven) / 1000
        for symbol, value, unit, note in (
            ("J_x", J_x, "m⁴", "about x"), ("J_y", J_y, "m⁴", "about y"), ("c_x", section.reach_x, "m", "farthest along x"),
            ("c_y", section.reach_y, "m", "farthest along y"), ("b_x", section.size_x, "m", "extent along x"), ("b_y", section.size_y, "m", "extent along y"),
        ):  # fmt: skip
            record(symbol, "", value, unit, f"{REFERENCE} R8.4.4.2.3" if symbol[0] == "J" else "", note)
        record("gamma_vx", "1 - 1/(1 + 2/3*sqrt(b_y/b_x))", g_x, "", f"{REFERENCE} 8.4.4.2.2")
        record("gamma_vy", "1 - 1/(1 + 2/3*sqrt(b_x/b_y))", g_y, "", f"{REFERENCE} 8.4.4.2.2")
        record(
            "v_Ed",
            "(V_red/(b_o*d) + gamma_vx*abs(M_xu)*c_y/J_x + gamma_vy*abs(M_yu)*c_x/J_y)/1000",
            demand,
            "MPa",
            f"{REFERENCE} 8.4.4.2.3",
        )
        return demand

    def minimum_steel(self, d: Array, h: Array, fck: float, fyk: float, record: Recorder) -> Array:
        """0.0018 A_g (8.6.1.1, by 13.3.3.1)."""
        steel: Array = 0.0018 * h * 1e6
        record("A_s_min", "0.0018*h*1e6", steel, "mm²/m", f"{REFERENCE} 8.6.1.1")
        return steel

    def anchorage(
        self, diameter: Array, provided: Array, d: Array, h: Array, outstand: Array, column: Array, x: Array, force: Array, fck: float, fyk: float,
        cover: float, hooked: bool, special: Array, record: Recorder,
    ) -> tuple[Array, Array]:  # fmt: skip
        """Development from the critical section at the face to the end of the bar (13.2.8.3): straight 25.4.2.3, hooked 25.4.3.1.

        Normal-weight concrete, uncoated bottom bars, clear spacing and cover of table 25.4.2.3; not reduced for excess steel.
        """
        psi, fy, db = min(np.sqrt(fck * PSI), 100.0), fyk * PSI, diameter / INCH
        if hooked:
            needed = np.maximum(np.maximum(fy * 1.0 / (55 * psi) * db**1.5 * 1.6, 8 * db), 6.0) * INCH
            formula = f"max(max(f_y*{PSI}/(55*r_fc)*(oe/{INCH})**1.5*1.6, 8*oe/{INCH}), 6)*{INCH}"
            clause, note = f"{REFERENCE} 25.4.3.1", "hook, psi_r 1.6: not confined"
        else:
            needed = np.maximum(fy / (np.where(db <= 0.76, 25, 20) * psi) * db, 12.0) * INCH
            formula = f"max(f_y*{PSI}/(where(oe/{INCH} <= 0.76, 25, 20)*r_fc)*oe/{INCH}, 12)*{INCH}"
            clause, note = f"{REFERENCE} table 25.4.2.3", "straight"
        there = outstand - cover
        record("r_fc", f"min(sqrt(f_c*{PSI}), 100)", psi, "psi", f"{REFERENCE} 25.4.1.4", "√f′c")
        needed = needed + 0.0 * force
        record("l_req", formula, needed, "m", clause, note)
        record("c", "", cover, "m", note="cover")
        record("l_av", "l_o - c", there, "m", note="from the face to the end of the bar")
        return needed, there

    def column_rules(self, fck: float, fyk: float) -> ColumnRules:
        """22.2.2, 21.2.2 (phi 0.65 to 0.9 for ties), 22.4.2.1 (0.80 P_o), 16.3.4.1 (0.005 A_g)."""
        beta = beta_1(fck)
        yields = fyk * PSI / STEEL_MODULUS
        return ColumnRules(
            0.85 * fck, beta, ULTIMATE_STRAIN, fyk, 0.80, lambda tension: 0.65 + 0.25 * np.clip((tension - yields) / 0.003, 0.0, 1.0), 0.005, 0.0,
            f"{REFERENCE} 16.3.4.1",
        )  # fmt: skip

    def greatest_spacing(self, h: Array, record: Recorder) -> Array:
        """The lesser of 3h and 18 in. (7.7.2.3)."""
        spacing: Array = np.minimum(3 * h, 18 * INCH)
        record("s_max", f"min(3*h, 18*{INCH})", spacing, "m", f"{REFERENCE} 7.7.2.3")
        return spacing
