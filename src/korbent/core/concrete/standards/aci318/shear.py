"""ACI 318: one-way shear."""

import numpy as np

from korbent.core.concrete.standards.aci318.section import INCH, PSI, Section
from korbent.core.working import Array, Recorder
from korbent.words import say


class Shear(Section):
    """ACI 318: one-way shear."""

    def shear_section(self, d: Array, h: Array) -> tuple[Array, Array]:
        """At d from the face (13.2.7.2, 7.4.3.2); stress over d."""
        return d, d

    def _size(self, d: Array, record: Recorder) -> Array:
        size = np.minimum(np.sqrt(2 / (1 + d / INCH / 10)), 1.0) if self.size_effect else np.ones_like(d)
        formula = f"min(sqrt(2/(1 + d/{INCH}/10)), 1)" if self.size_effect else "1 + 0*d"
        note = "" if self.size_effect else say("left out: shallow foundations (13.2.6.2)")
        record.step("lambda_s", formula, size, reference=f"{self.reference} 22.5.5.1.3", note=note)
        return size

    def shear_strength(self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder) -> Array:
        """phi V_c over b d: 8 lambda_s rho^(1/3) sqrt(f'c), at most 5 sqrt(f'c), psi (table 22.5.5.1 (c),
        22.5.5.1.1)."""
        root = min(np.sqrt(fck * PSI), 100.0)
        size = self._size(d, record)
        stress = np.minimum(8 * size * steel_ratio ** (1 / 3), 5.0) * root
        strength: Array = 0.75 * stress / PSI + np.zeros_like(d)
        record.step(
            "r_fc",
            f"min(sqrt(f_c*{PSI}), 100)",
            root,
            "psi",
            reference=f"{self.reference} 22.5.3.1",
            note="√f′c",
        )
        record.step(
            "v_c",
            "min(8*lambda_s*rho_l**(1/3), 5)*r_fc",
            stress,
            "psi",
            reference=f"{self.reference} table 22.5.5.1 (c)",
        )
        record.step("v_Rd", f"0.75*v_c/{PSI}", strength, "MPa", reference=f"{self.reference} 21.2.1", note="φ = 0.75")
        return strength
