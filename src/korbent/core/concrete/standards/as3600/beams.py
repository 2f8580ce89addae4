"""AS 3600: beams."""

import numpy as np

from korbent.core.concrete.standards.as3600.detailing import Detailing
from korbent.core.concrete.standards.as3600.section import REFERENCE
from korbent.core.working import Array, Recorder
from korbent.words import say


class Beams(Detailing):
    """AS 3600: beams."""

    def shear_with_links(
        self, concrete: Array, fck: float, fcd: Array, fyk: float, fyd: Array, links: float, record: Recorder
    ) -> Array:
        """phi (V_uc + V_us) (8.2.3.1, 8.2.5.2) at 45 degrees, at most phi V_u.max (8.2.3.3), phi = 0.7."""
        steel = 0.7 * links * fyk + 0.0 * concrete
        most = 0.7 * 0.55 * 0.5 * fck
        record.step("v_sw", "0.7*rho_w*f_y", steel, "MPa", reference=f"{REFERENCE} 8.2.5.2", note=say("links at 45°"))
        record.step("v_max", "0.7*0.55*0.5*f_c", most, "MPa", reference=f"{REFERENCE} 8.2.3.3")
        strength: Array = np.minimum(concrete + steel, most)
        record.step("v_Rd_all", "min(v_Rd + v_sw, v_max)", strength, "MPa", reference=f"{REFERENCE} 8.2.3.1")
        return strength

    def least_in_beam(self, d: Array, h: Array, fck: float, fyk: float, needed: Array, record: Recorder) -> Array:
        """0.20 (D/d)^2 f'ct.f/f_sy b d, rectangular sections (8.1.6.1)."""
        tension = 0.6 * np.sqrt(fck)
        steel: Array = 0.20 * (h / d) ** 2 * tension / fyk * d * 1e6 + 0.0 * needed
        record.given("f_ctf", tension, "MPa", reference=f"{REFERENCE} 3.1.1.3")
        record.step(
            "A_s_least",
            "0.2*(h/d)**2*f_ctf/f_y*d*1e6 + 0*A_s_req",
            steel,
            "mm²/m",
            reference=f"{REFERENCE} 8.1.6.1",
        )
        return steel

    def links_in_beam(
        self, stress: Array, concrete: Array, d: Array, h: Array, fck: float, fyk: float, record: Recorder
    ) -> tuple[Array, Array, Array]:
        """0.08 sqrt(f'c)/f_sy.f (8.2.1.7), asked for in every beam; 0.5 D and 300 mm along, D and 600 mm across
        (8.3.2.2)."""
        ratio = np.full_like(stress, 0.08 * np.sqrt(fck) / fyk)
        along, across = np.minimum(0.5 * h, 0.3) + 0.0 * stress, np.minimum(h, 0.6) + 0.0 * stress
        record.step(
            "rho_w_min",
            "0.08*sqrt(f_c)/f_y",
            ratio,
            reference=f"{REFERENCE} 8.2.1.7",
            note=say("own choice: in every beam"),
        )
        record.step("s_w_max", "min(0.5*h, 0.3)", along, "m", reference=f"{REFERENCE} 8.3.2.2")
        record.step("s_t_max", "min(h, 0.6)", across, "m", reference=f"{REFERENCE} 8.3.2.2")
        return ratio, along, across
