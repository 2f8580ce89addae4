"""EN 1992-1-1: beams."""

import numpy as np

from korbent.core.concrete.standards.en1992.detailing import Detailing
from korbent.core.concrete.standards.en1992.section import REFERENCE
from korbent.core.working import Array, Recorder
from korbent.words import say


class Beams(Detailing):
    """EN 1992-1-1: beams."""

    def shear_with_links(
        self, concrete: Array, fck: float, fcd: Array, fyk: float, fyd: Array, links: float, record: Recorder
    ) -> Array:
        """The greater of concrete and links (6.2.3(3), z = 0.9 d, cot theta = 1), at most what the struts bear ((6.9),
        (6.6N))."""
        steel, most = 0.9 * links * fyd, 0.9 * 0.6 * (1 - fck / 250) * fcd / 2
        record.step(
            "v_sw",
            "0.9*rho_w*f_yd",
            steel,
            "MPa",
            reference=f"{REFERENCE} (6.8)",
            note=say("z = 0.9 d, links at 45°"),
        )
        record.step("v_max", "0.9*0.6*(1 - f_ck/250)*f_cd/2", most, "MPa", reference=f"{REFERENCE} (6.9), (6.6N)")
        strength: Array = np.minimum(np.maximum(steel, concrete), most)
        record.step("v_Rd_all", "min(max(v_sw, v_Rd), v_max)", strength, "MPa")
        return strength

    def least_in_beam(self, d: Array, h: Array, fck: float, fyk: float, needed: Array, record: Recorder) -> Array:
        """(9.1N), with no relief: the 1.2 times what is needed of 9.2.1.1(1) is for secondary members."""
        least: Array = self.minimum_steel(d, h, fck, fyk, record) + 0.0 * needed
        record.step(
            "A_s_least",
            "A_s_min + 0*A_s_req",
            least,
            "mm²/m",
            reference=f"{REFERENCE} 9.2.1.1(1)",
            note=say("a main member"),
        )
        return least

    def links_in_beam(
        self, stress: Array, concrete: Array, d: Array, h: Array, fck: float, fyk: float, record: Recorder
    ) -> tuple[Array, Array, Array]:
        """(9.5N), (9.6N), (9.8N): every beam has links (9.2.2(5))."""
        ratio = np.full_like(stress, 0.08 * np.sqrt(fck) / fyk)
        along, across = 0.75 * d + 0.0 * stress, np.minimum(0.75 * d, 0.6) + 0.0 * stress
        record.step("rho_w_min", "0.08*sqrt(f_ck)/f_yk", ratio, reference=f"{REFERENCE} (9.5N)")
        record.step("s_w_max", "0.75*d", along, "m", reference=f"{REFERENCE} (9.6N)")
        record.step("s_t_max", "min(0.75*d, 0.6)", across, "m", reference=f"{REFERENCE} (9.8N)")
        return ratio, along, across
