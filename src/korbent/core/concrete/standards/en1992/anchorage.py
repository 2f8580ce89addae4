"""EN 1992-1-1: anchorage and laps."""

import numpy as np

from korbent.core.concrete.standards.en1992.punching import Punching
from korbent.core.concrete.standards.en1992.section import REFERENCE, mean_tension
from korbent.core.concrete.standards.protocol import BarEnds, DowelEnds
from korbent.core.working import Array, Recorder
from korbent.words import say


class Anchorage(Punching):
    """EN 1992-1-1: anchorage and laps."""

    def anchorage(self, ends: BarEnds, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """9.8.2.2: the bar force F_s = R z_e/z_i at the distance x from the edge (z_i = 0.9 d), anchored beyond it; the
        bars run on below the column.

        Straight bars within x less the cover, at least the greater of 0.3 l_b,rqd, 10 diameters and 100 mm (8.4.4),
        l_b,rqd by the acting stress (8.3) or, as some annexes have it, by f_yd; hooks count with alpha_1 = 0.7. f_bd
        with eta_1 of bars high up (figure 8.2), eta_2 of bars beyond 32 mm and f_ctd up to that of C60 (8.4.2)."""
        gamma_c, gamma_s = self._gammas(special)
        reach = (0.5 - self.national.e) * ends.column
        z_e = np.maximum(ends.outstand + reach - ends.x / 2, 0.0)
        F_s = ends.force * (z_e / (0.9 * ends.d))
        stress = np.minimum(F_s * (1000 / np.maximum(ends.provided, 1e-9)), fyk / gamma_s)
        fctm = mean_tension(min(fck, 60.0))
        thick = np.minimum(1.0, (0.132 - ends.diameter) / 0.1)
        # poor bond: more than 250 mm up, of thick bases the uppermost 300 mm
        low = np.where(ends.h > 0.6, ends.h - 0.3, 0.25)
        bond = np.where((ends.h > 0.25) & (ends.level > low), 0.7, 1.0)
        f_bd = 2.25 * bond * thick * 0.7 * fctm / gamma_c
        apart = 1e6 * np.pi * ends.diameter**2 / 4 / np.maximum(ends.provided, 1e-9)
        beside = np.minimum((apart - ends.diameter) / 2, ends.cover)
        counts = np.full(beside.shape, ends.hooked) if self.hooks_always else ends.hooked & (beside > 3 * ends.diameter)
        alpha = np.where(counts, 0.7, 1.0)
        least = stress if self.least_by_stress else fyk / gamma_s + 0.0 * stress
        by_stress = ends.diameter / 4 / f_bd
        basic = np.maximum(0.3 * by_stress * least, np.maximum(10 * ends.diameter, 0.1))
        # without tension nothing has to be anchored
        needed = np.where(stress > 1e-4, np.maximum(alpha * by_stress * stress, basic), 0.0)
        there = ends.x - ends.cover
        record.given(
            "x_a",
            ends.x,
            "m",
            reference=f"{REFERENCE} 9.8.2.2(5)",
            note=say("from the edge: the worst up to the face, bottom bars from h/2, top bars from h on"),
            needs="l_o h",
        )
        record.given("e_c", self.national.e, reference=f"{REFERENCE} 9.8.2.2(3)", note=say("e over the column"))
        record.step("z_e", "max(l_o + (0.5 - e_c)*c_1 - x_a/2, 0)", z_e, "m", reference=f"{REFERENCE} 9.8.2.2(3)")
        record.step("F_s", "R*z_e/(0.9*d)", F_s, "kN/m", reference=f"{REFERENCE} (9.13)")
        record.step("sigma_s", "min(1000*F_s/max(A_s, 1e-9), f_yk/gamma_S)", stress, "MPa")
        record.given(
            "f_ctm", fctm, "MPa", reference=f"{REFERENCE} table 3.1, 8.4.2(2)", note=say("at most that of C60")
        )
        record.step(
            "eta_2",
            "min(1, (0.132 - oe)/0.1)",
            thick,
            reference=f"{REFERENCE} 8.4.2(2)",
            note=say("of thick bars"),
        )
        record.step(
            "eta_1",
            "where(h > 0.25, where(z_b > where(h > 0.6, h - 0.3, 0.25), 0.7, 1), 1)",
            bond,
            reference=f"{REFERENCE} figure 8.2",
            note=say("bond: good 1, poor 0.7"),
        )
        record.step("f_bd", "2.25*eta_1*eta_2*0.7*f_ctm/gamma_C", f_bd, "MPa", reference=f"{REFERENCE} (8.2)")
        record.given(
            "c_d",
            beside,
            "m",
            reference=f"{REFERENCE} figure 8.3",
            note=say("half the clear spacing, or the cover"),
            needs="oe A_s",
        )
        record.given(
            "alpha_1",
            alpha,
            reference=f"{REFERENCE} table 8.2",
            note=say("0.7 with hooks") if self.hooks_always else say("0.7 with hooks where c_d > 3 ø"),
            needs="c_d oe",
        )
        record.step(
            "sigma_b",
            "sigma_s" if self.least_by_stress else "f_yk/gamma_S",
            least,
            "MPa",
            reference=f"{REFERENCE} (8.6)",
            note=say("for the least length"),
        )
        record.step("l_min", "max(max(0.3*oe/4*sigma_b/f_bd, 10*oe), 0.1)", basic, "m", reference=f"{REFERENCE} (8.6)")
        record.step(
            "l_req",
            "where(sigma_s > 0.0001, max(alpha_1*oe/4*sigma_s/f_bd, l_min), 0)",
            needed,
            "m",
            reference=f"{REFERENCE} 8.4.4",
        )
        record.step("l_av", "x_a - c", there, "m", note=say("from the crack to the end of the bar"))
        return needed, there

    def dowel_anchorage(self, ends: DowelEnds, fck: float, fyk: float, special: Array, record: Recorder) -> Array:
        """8.4.4 for the stress of the bar: bends do not count in compression, and 0.7 in tension."""
        gamma_c, gamma_s = self._gammas(special)
        f_bd = 2.25 * 0.7 * mean_tension(fck) / gamma_c
        oe, pulled = ends.diameter, ends.pulled
        full = oe / 4 * ends.share * fyk / gamma_s / f_bd
        needed: Array = np.maximum(np.maximum(full * np.where(pulled, 0.7, 1.0), 10 * oe), 0.1)
        record.given("f_bd", f_bd, "MPa", reference=f"{REFERENCE} (8.2)", note=say("good bond"))
        record.step("l_rqd", "oe/4*k_d*f_yd/f_bd", full, "m", reference=f"{REFERENCE} (8.3)")
        record.step(
            "l_req",
            "max(max(l_rqd*where(pulled > 0, 0.7, 1), 10*oe), 0.1)",
            needed,
            "m",
            reference=f"{REFERENCE} 8.4.4",
        )
        return needed

    def lap(self, diameter: float, fck: float, fyk: float) -> float:
        """8.7.3 with alpha_6 = 1.5, at least 15 diameters and 200 mm."""
        own = self.national
        f_bd = 2.25 * 0.7 * mean_tension(fck) / own.gamma_C
        return max(1.5 * diameter / 4 * fyk / own.gamma_S / f_bd, 15 * diameter, 0.2)
