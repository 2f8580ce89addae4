"""EN 1992-1-1: one-way shear."""

import numpy as np

from korbent.core.concrete.standards.en1992.section import REFERENCE, Section
from korbent.core.working import Array, Recorder


class Shear(Section):
    """EN 1992-1-1: one-way shear."""

    def shear_section(self, d: Array, h: Array) -> tuple[Array, Array]:
        """At d from the face (6.2.1(8)); stress over d."""
        return d, d

    def _basic(self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder) -> tuple[Array, Array]:
        """v_Rd,c and v_min (6.2.2(1), 6.4.4(1)), MPa, at a shear span that gives no increase."""
        gamma_c, _ = self._gammas(special)
        own = self.national
        k = np.minimum(1 + np.sqrt(0.2 / d), 2.0)
        rho = np.minimum(steel_ratio, 0.02)
        basic = own.shear / gamma_c * k * (100 * rho * fck) ** (1 / 3)
        least = own.shear_least * k**1.5 * fck**0.5
        record.step("k", "min(1 + sqrt(0.2/d), 2)", k, reference=f"{REFERENCE} 6.2.2(1)")
        record.step("rho", "min(rho_l, 0.02)", rho, reference=f"{REFERENCE} 6.2.2(1)")
        record.step(
            "v_c",
            f"{own.shear}/gamma_C*k*(100*rho*f_ck)**(1/3)",
            basic,
            "MPa",
            reference=f"{REFERENCE} (6.2a)",
        )
        record.step("v_min", f"{own.shear_least}*k**1.5*f_ck**0.5", least, "MPa", reference=f"{REFERENCE} (6.3N)")
        return basic, least

    def shear_strength(self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder) -> Array:
        """One-way shear without links (6.2.2(1))."""
        basic, least = self._basic(d, fck, steel_ratio, special, record)
        strength: Array = np.maximum(basic, least)
        record.step("v_Rd", "max(v_c, v_min)", strength, "MPa", reference=f"{REFERENCE} (6.2)")
        return strength
