"""ACI 318-14: what differs from ACI 318-19. No size effect, shear without the steel ratio, sections tension-controlled
from a strain of 0.005, development lengths without factors for the grade, least steel by the grade, none near the
column.

Coefficients and clauses from memory.
"""

from typing import ClassVar

import numpy as np

from korbent.core.concrete.standards.aci318 import ACI318
from korbent.core.concrete.standards.aci318.section import INCH, PSI, STEEL_MODULUS, ULTIMATE_STRAIN, beta_1
from korbent.core.concrete.standards.protocol import ColumnRules
from korbent.core.working import Array, Recorder
from korbent.words import say

CONTROLLED = 0.005
"""Tensile strain from which a section is tension-controlled (table 21.2.2)."""
OF_2014 = {
    "anchorage": "13.2.8",
    "cover": "20.6.1.3",
    "minimum": "8.6.1.1",
    "spacing": "7.7.2.3",
    "pedestal-slender": "6.2.5",
}
"""Clauses by the beginning of the check that stand elsewhere than in the edition of 2019."""


class ACI318of2014(ACI318):
    """The rules of ACI 318-14 for footings. Normal-weight concrete."""

    name = "ACI 318-14"
    across = False
    reference: ClassVar[str] = "ACI 318-14"
    ductile: ClassVar[str] = "ACI 318-14 9.3.3.1"
    least_depth: ClassVar[tuple[float, str]] = (6 * INCH, "ACI 318-14 13.3.1.2")
    least_over_needed: ClassVar[tuple[float, str]] = (4 / 3, "ACI 318-14 9.6.1.3")
    clauses: ClassVar[dict[str, str]] = {
        check: next(
            (f"ACI 318-14 {clause}" for start, clause in OF_2014.items() if check.startswith(start)),
            text.replace("318-19", "318-14"),
        )
        for check, text in ACI318.clauses.items()
    }

    def block(self, fck: float, fcd: Array, fyd: Array) -> tuple[Array, Array, float]:
        """22.2.2.4; tension-controlled: eps_t at least 0.005 (table 21.2.2); phi = 0.9."""
        return fcd, beta_1(fck) * ULTIMATE_STRAIN / (ULTIMATE_STRAIN + CONTROLLED) + 0.0 * fyd, 0.9

    def column_rules(self, fck: float, fyk: float, spiral: bool = False) -> ColumnRules:
        """As in 2019, but phi rises from the yield strain to 0.005 (table 21.2.2)."""
        rules = super().column_rules(fck, fyk, spiral)
        least = 0.75 if spiral else 0.65
        yields = fyk * PSI / STEEL_MODULUS
        between = max(CONTROLLED - yields, 1e-6)
        return ColumnRules(
            **{
                **vars(rules),
                "reduction": lambda at: least + (0.9 - least) * np.clip((at.tension - yields) / between, 0.0, 1.0),
            }
        )

    def _size(self, d: Array, record: Recorder) -> Array:
        """There is no size effect."""
        record.step("lambda_s", "1 + 0*d", np.ones_like(d), note=say("no size effect in ACI 318-14"))
        return np.ones_like(d)

    def shear_strength(self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder) -> Array:
        """phi 2 sqrt(f'c) over b d, psi (22.5.5.1)."""
        root = min(np.sqrt(fck * PSI), 100.0)
        strength: Array = 0.75 * 2 * root / PSI + np.zeros_like(d) + 0.0 * steel_ratio
        record.step(
            "r_fc",
            f"min(sqrt(f_c*{PSI}), 100)",
            root,
            "psi",
            reference=f"{self.reference} 22.5.3.1",
            note="√f′c",
        )
        record.step("v_c", "2*r_fc", 2 * root, "psi", reference=f"{self.reference} 22.5.5.1")
        record.step("v_Rd", f"0.75*v_c/{PSI}", strength, "MPa", reference=f"{self.reference} 21.2.1", note="φ = 0.75")
        return strength

    def minimum_steel(self, d: Array, h: Array, fck: float, fyk: float, record: Recorder) -> Array:
        """Table 8.6.1.1: 0.0020 A_g below grade 60, else 0.0018 x 60 000/f_y A_g, at least 0.0014 A_g."""
        psi = fyk * PSI
        # a grade of 420 MPa is grade 60
        share = 0.0020 if psi < 59_900 else max(0.0018 * min(60_000 / psi, 1.0), 0.0014)
        steel: Array = share * h * 1e6
        record.given(
            "k_min", np.full_like(h, share), reference=f"{self.reference} table 8.6.1.1", note=say("by the grade")
        )
        record.step("A_s_min", "k_min*h*1e6", steel, "mm²/m", reference=f"{self.reference} table 8.6.1.1")
        return steel

    def steel_at_column(
        self,
        stress: Array,
        perimeter: Array,
        sides: Array,
        d: Array,
        fck: float,
        fyk: float,
        record: Recorder,
    ) -> Array:
        """None is asked for."""
        least: Array = 0.0 * (stress * perimeter)
        record.step("A_s_col", "0*v_uv", least, "mm²/m", note=say("ACI 318-14 asks for none near the column"))
        return least

    def hooked_length(
        self, diameter: Array, apart: Array, fck: float, fyk: float, beside: float | Array, record: Recorder
    ) -> Array:
        """l_dh (25.4.3.1): f_y psi_c psi_r/(50 sqrt(f'c)) d_b, at least 8 d_b and 6 in.; psi_c and psi_r are 1: neither
        covers beside nor ties are counted on."""
        root, db = min(float(np.sqrt(fck * PSI)), 100.0), diameter / INCH
        found: Array = np.maximum(np.maximum(fyk * PSI / (50 * root) * db, 8 * db), 6.0) * INCH
        record.step(
            "l_dh",
            f"max(max({fyk * PSI}/(50*{root})*oe/{INCH}, 8*oe/{INCH}), 6)*{INCH}",
            found,
            "m",
            reference=f"{self.reference} 25.4.3.1",
            note=say("ψ_c and ψ_r 1"),
        )
        return found

    straight_clause: ClassVar[str] = "25.4.2.2"
    general_clause: ClassVar[str] = "25.4.2.3"

    def grade(self, fyk: float) -> float:
        """The grade has no factor of its own."""
        return 1.0


STANDARD = ACI318of2014
