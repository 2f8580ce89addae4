"""AS 3600:2018 for footings without fitments. Clause numbers and coefficients from memory; N, mm, MPa."""

from typing import ClassVar

import numpy as np

from korbent.core.concrete.critical_section import CriticalSection
from korbent.core.concrete.standard import ColumnRules
from korbent.core.working import Array, Recorder

REFERENCE = "AS 3600:2018"


def gamma_block(fck: float) -> float:
    """Depth of the block over that of the pressed zone (8.1.3)."""
    return max(0.97 - 0.0025 * fck, 0.67)


class AS3600:
    """The rules of AS 3600:2018 for footings."""

    name = "AS 3600:2018"
    searches = False
    clauses: ClassVar[dict[str, str]] = {
        "anchorage-x": "AS 3600:2018 13.1.2", "anchorage-y": "AS 3600:2018 13.1.2",
        "punching": "AS 3600:2018 9.3", "punching-face": "AS 3600:2018 9.3", "shear-x": "AS 3600:2018 8.2.4", "shear-y": "AS 3600:2018 8.2.4",
        "bottom-x": "AS 3600:2018 8.1", "bottom-y": "AS 3600:2018 8.1", "top-x": "AS 3600:2018 8.1", "top-y": "AS 3600:2018 8.1",
        "minimum-x": "AS 3600:2018 16.3.1", "minimum-y": "AS 3600:2018 16.3.1", "spacing-x": "AS 3600:2018 9.5.1", "spacing-y": "AS 3600:2018 9.5.1",
    }  # fmt: skip

    def strengths(self, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """alpha_2 f'c over the stress block (8.1.3), fsy; the capacity factors come with each check."""
        alpha = max(0.85 - 0.0015 * fck, 0.67)
        fcd, fyd = np.full(special.shape, alpha * fck), np.full(special.shape, fyk)
        record("f_c", "", fck, "MPa", note="characteristic strength f′c")
        record("f_y", "", fyk, "MPa", note="reinforcing steel fsy")
        record("f_yd", "f_y", fyd, "MPa")
        record("alpha_2", "max(0.85 - 0.0015*f_c, 0.67)", alpha, "", f"{REFERENCE} 8.1.3")
        record("f_cd", "alpha_2*f_c", fcd, "MPa", f"{REFERENCE} 8.1.3")
        return fcd, fyd

    def block(self, fck: float, fcd: Array, fyd: Array) -> tuple[Array, Array, float]:
        """8.1.3; k_uo at most 0.36 (8.1.5), phi = 0.85 (table 2.2.2)."""
        return fcd, np.asarray(0.36 * gamma_block(fck)), 0.85

    def shear_section(self, d: Array, h: Array) -> tuple[Array, Array]:
        """At d_v from the face, stress over d_v = max(0.72 D, 0.9 d) (8.2.1.9, 8.2.3.2)."""
        d_v = np.maximum(0.72 * h, 0.9 * d)
        return d_v, d_v

    def shear_strength(
        self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder
    ) -> Array:
        """phi k_v sqrt(f'c), k_v = 200/(1000 + 1.3 d_v) at most 0.10 (8.2.4.3), phi = 0.7; ``d`` is d_v here."""
        root = min(np.sqrt(fck), 8.0)
        k_v = np.minimum(200 / (1000 + 1300 * d), 0.10)
        strength: Array = 0.7 * k_v * root
        record("k_v", "min(200/(1000 + 1300*d), 0.1)", k_v, "", f"{REFERENCE} 8.2.4.3")
        record(
            "v_Rd",
            "0.7*k_v*min(sqrt(f_c), 8)",
            strength,
            "MPa",
            f"{REFERENCE} 8.2.4.1, table 2.2.2",
            "φ = 0.7",
        )
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
        """phi f_cv, f_cv = 0.17 (1 + 2/beta_h) sqrt(f'c) at most 0.34 sqrt(f'c) (9.3.3), phi = 0.7."""
        root = np.sqrt(fck)
        f_cv = np.minimum(0.17 * (1 + 2 / long_over_short), 0.34) * root
        strength: Array = 0.7 * f_cv + np.zeros_like(d)
        record(
            "beta", "", long_over_short, "", f"{REFERENCE} 9.3.3", "long over short side of the loaded area"
        )
        record("f_cv", "min(0.17*(1 + 2/beta), 0.34)*sqrt(f_c)", f_cv, "MPa", f"{REFERENCE} 9.3.3")
        record("v_Rd", "0.7*f_cv + 0*d", strength, "MPa", f"{REFERENCE} table 2.2.2", "φ = 0.7")
        return strength

    def section_demand(
        self, V: Array, M_x: Array, M_y: Array, section: CriticalSection, d: Array, record: Recorder
    ) -> Array:
        """V/(u d) (1 + u M/(8 V a d)) (9.3.4 (1)), the terms of both directions together, MPa; a: size of the section along the moment."""
        uneven = np.abs(M_x) / (8 * section.size_y * d) + np.abs(M_y) / (8 * section.size_x * d)
        demand: Array = (V / (section.length * d) + uneven / d) / 1000
        record("a_x", "", section.size_x, "m", note="size of the section along x")
        record("a_y", "", section.size_y, "m", note="along y")
        record(
            "v_Ed",
            "(V_red/(b_o*d) + (abs(M_xu)/(8*a_y*d) + abs(M_yu)/(8*a_x*d))/d)/1000",
            demand,
            "MPa",
            f"{REFERENCE} 9.3.4",
        )
        return demand

    def minimum_steel(self, d: Array, h: Array, fck: float, fyk: float, record: Recorder) -> Array:
        """0.19 (D/d)^2 f'ct.f/fsy b d, f'ct.f = 0.6 sqrt(f'c) (16.3.1, 3.1.1.3)."""
        tension = 0.6 * np.sqrt(fck)
        steel: Array = 0.19 * (h / d) ** 2 * tension / fyk * d * 1e6
        record("f_ctf", "", tension, "MPa", f"{REFERENCE} 3.1.1.3")
        record("A_s_min", "0.19*(h/d)**2*f_ctf/f_y*d*1e6", steel, "mm²/m", f"{REFERENCE} 16.3.1")
        return steel

    def anchorage(
        self, diameter: Array, provided: Array, d: Array, h: Array, outstand: Array, column: Array, x: Array, force: Array, fck: float, fyk: float,
        cover: float, hooked: bool, special: Array, record: Recorder,
    ) -> tuple[Array, Array]:  # fmt: skip
        """Full development from the face to the end of the bar (13.1.2.2): 0.5 k1 k3 fsy db/(k2 sqrt(f'c)), at least 0.058 fsy k1 db; half of it with a hook (13.1.2.6)."""
        db = 1000 * diameter
        c_d = np.minimum(1000 * cover, 3 * db)
        k_2 = (132 - db) / 100
        k_3 = np.clip(1 - 0.15 * (c_d - db) / np.maximum(db, 1e-9), 0.7, 1.0)
        straight = np.maximum(0.5 * k_3 * fyk * db / (k_2 * np.sqrt(min(fck, 65.0))), 0.058 * fyk * db) / 1000
        needed = straight * (0.5 if hooked else 1.0) + 0.0 * force
        there = outstand - cover
        record("k_2", "(132 - 1000*oe)/100", k_2, "", f"{REFERENCE} 13.1.2.2")
        record("k_3", "", k_3, "", f"{REFERENCE} 13.1.2.2", "by cover over diameter, 0.7 to 1", "oe")
        record("k_h", "", 0.5 if hooked else 1.0, "", f"{REFERENCE} 13.1.2.6", "half with a hook")
        record(
            "l_req",
            "k_h*max(0.5*k_3*f_y*1000*oe/(k_2*sqrt(min(f_c, 65))), 0.058*f_y*1000*oe)/1000",
            needed,
            "m",
            f"{REFERENCE} 13.1.2.2",
        )
        record("c", "", cover, "m", note="cover")
        record("l_av", "l_o - c", there, "m", note="from the face to the end of the bar")
        return needed, there

    def column_rules(self, fck: float, fyk: float) -> ColumnRules:
        """8.1.3, table 2.2.2 (phi 0.65 in compression to 0.85 in bending, over the strain from yield to 0.005), 10.7.1 (0.01 A_g)."""
        yields = fyk / 200_000
        return ColumnRules(
            max(0.85 - 0.0015 * fck, 0.67) * fck, gamma_block(fck), 0.003, fyk, 1.0,
            lambda tension: 0.65 + 0.2 * np.clip((tension - yields) / (0.005 - yields), 0.0, 1.0), 0.01, 0.0, f"{REFERENCE} 10.7.1",
        )  # fmt: skip

    def greatest_spacing(self, h: Array, record: Recorder) -> Array:
        """The lesser of 2 D and 300 mm (9.5.1)."""
        spacing: Array = np.minimum(2 * h, 0.3)
        record("s_max", "min(2*h, 0.3)", spacing, "m", f"{REFERENCE} 9.5.1")
        return spacing
