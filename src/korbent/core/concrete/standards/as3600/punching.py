"""AS 3600: punching."""

import numpy as np

from korbent.core.concrete.critical_section import CriticalSection
from korbent.core.concrete.standards.as3600.section import REFERENCE
from korbent.core.concrete.standards.as3600.shear import Shear
from korbent.core.working import Array, Recorder
from korbent.words import say


class Punching(Shear):
    """AS 3600: punching."""

    def round_side(self, diameter: Array, d: Array) -> Array:
        """The square whose critical perimeter is as long as the circle at d/2, pi (D + d) (9.3.1.2)."""
        side: Array = np.maximum(np.pi * (diameter + d) / 4 - d, diameter / 10)
        return side

    def section_strength(
        self,
        d: Array,
        fck: float,
        long_over_short: Array,
        section: CriticalSection,
        sides: Array,
        record: Recorder,
    ) -> Array:
        """phi f_cv, f_cv = 0.17 (1 + 2/beta_h) sqrt(f'c) at most 0.34 sqrt(f'c) (9.3.3), phi = 0.7."""
        root = np.sqrt(fck)
        f_cv = np.minimum(0.17 * (1 + 2 / long_over_short), 0.34) * root
        strength: Array = 0.7 * f_cv + np.zeros_like(d)
        record.given(
            "beta",
            long_over_short,
            reference=f"{REFERENCE} 9.3.3",
            note=say("long over short side of the loaded area"),
        )
        record.step("f_cv", "min(0.17*(1 + 2/beta), 0.34)*sqrt(f_c)", f_cv, "MPa", reference=f"{REFERENCE} 9.3.3")
        record.step("v_Rd", "0.7*f_cv + 0*d", strength, "MPa", reference=f"{REFERENCE} table 2.2.2", note="φ = 0.7")
        return strength

    def section_demand(
        self, V: Array, M_x: Array, M_y: Array, section: CriticalSection, d: Array, record: Recorder
    ) -> Array:
        """V/(u d) (1 + u M/(8 V a d)) (9.3.4 (1)), the terms of both directions together, MPa; a: size of the section
        along the moment."""
        uneven = np.abs(M_x) / (8 * section.size_y * d) + np.abs(M_y) / (8 * section.size_x * d)
        demand: Array = (V / (section.length * d) + uneven / d) / 1000
        record.given("a_x", section.size_x, "m", note=say("size of the section along x"))
        record.given("a_y", section.size_y, "m", note=say("along y"))
        record.step(
            "v_Ed",
            "(V_red/(b_o*d) + (abs(M_xu)/(8*a_y*d) + abs(M_yu)/(8*a_x*d))/d)/1000",
            demand,
            "MPa",
            reference=f"{REFERENCE} 9.3.4",
        )
        return demand

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
        return np.zeros_like(stress)

    def opening_reach(self, d: Array, h: Array) -> Array:
        """2.5 times the thickness (9.3.1.5)."""
        reach: Array = 2.5 * h
        return reach

    def plain_punching(self, fck: float, long_over_short: Array, record: Recorder) -> Array | None:
        """phi 0.1 (1 + 2/beta) sqrt(f'c), at most 0.2 sqrt(f'c) (20.4.3)."""
        strength: Array = 0.6 * np.minimum(0.1 * (1 + 2 / long_over_short), 0.2) * np.sqrt(fck)
        record.given("beta", long_over_short, note=say("long over short side of the loaded area"))
        record.step(
            "v_Rd",
            "0.6*min(0.1*(1 + 2/beta), 0.2)*sqrt(f_c)",
            strength,
            "MPa",
            reference=f"{REFERENCE} 20.4.3",
            note="φ = 0.6",
        )
        return strength
