"""AS 3600: one-way shear."""

import numpy as np

from korbent.core.concrete.standards.as3600.section import REFERENCE, Section
from korbent.core.working import Array, Recorder


class Shear(Section):
    """AS 3600: one-way shear."""

    def shear_section(self, d: Array, h: Array) -> tuple[Array, Array]:
        """At d_v from the face, stress over d_v = max(0.72 D, 0.9 d) (8.2.1.9, 8.2.3.2)."""
        d_v = np.maximum(0.72 * h, 0.9 * d)
        return d_v, d_v

    def shear_strength(self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder) -> Array:
        """phi k_v sqrt(f'c), k_v = 200/(1000 + 1.3 d_v) at most 0.10 (8.2.4.3), phi = 0.7; ``d`` is d_v here."""
        root = min(np.sqrt(fck), 8.0)
        k_v = np.minimum(200 / (1000 + 1300 * d), 0.10)
        strength: Array = 0.7 * k_v * root
        record.step("k_v", "min(200/(1000 + 1300*d), 0.1)", k_v, reference=f"{REFERENCE} 8.2.4.3")
        record.step(
            "v_Rd",
            "0.7*k_v*min(sqrt(f_c), 8)",
            strength,
            "MPa",
            reference=f"{REFERENCE} 8.2.4.1, table 2.2.2",
            note="φ = 0.7",
        )
        return strength
