"""EN 1992-1-1: least steel, spacing, cover and links."""

import numpy as np

from korbent.core.concrete.standards.en1992.anchorage import Anchorage
from korbent.core.concrete.standards.en1992.section import REFERENCE, mean_tension
from korbent.core.concrete.standards.protocol import Around, CoverAsked
from korbent.core.model.labels import label
from korbent.core.working import Array, Recorder
from korbent.words import say

DURABLE = {
    "X0": (10, 10, 10, 10, 15, 20),
    "XC1": (10, 10, 10, 15, 20, 25),
    "XC2": (10, 15, 20, 25, 30, 35),
    "XC3": (10, 15, 20, 25, 30, 35),
    "XC4": (15, 20, 25, 30, 35, 40),
    "XD1": (20, 25, 30, 35, 40, 45),
    "XS1": (20, 25, 30, 35, 40, 45),
    "XD2": (25, 30, 35, 40, 45, 50),
    "XS2": (25, 30, 35, 40, 45, 50),
    "XD3": (30, 35, 40, 45, 50, 55),
    "XS3": (30, 35, 40, 45, 50, 55),
}
"""c_min,dur in mm by exposure, for structural classes S1 to S6 (table 4.4N)."""


STRONG = {
    "X0": 30,
    "XC1": 30,
    "XC2": 35,
    "XC3": 35,
    "XC4": 40,
    "XD1": 40,
    "XS1": 40,
    "XD2": 40,
    "XS2": 45,
    "XD3": 45,
    "XS3": 45,
}
"""f_ck from which the structural class is one less (table 4.3N)."""


FIRE = {"30": 10, "60": 20, "90": 30, "120": 40, "180": 55, "240": 65}
"""Least axis distance of the bars of slabs that span one way by minutes of fire resistance, mm (EN 1992-1-2 table 5.8,
AS 3600 table 5.5.2)."""


def durability(exposure: str, fck: float, life: float) -> tuple[float, int]:
    """(c_min,dur in m, structural class): S4, two more from 100 years on, one less with strong concrete; (0, 0) without
    an exposure."""
    if not exposure:
        return 0.0, 0
    structural = min(max(4 + (2 if life >= 100 else 0) - (1 if fck >= STRONG[exposure] else 0), 1), 6)
    return DURABLE[exposure][structural - 1] / 1000, structural


class Detailing(Anchorage):
    """EN 1992-1-1: least steel, spacing, cover and links."""

    def minimum_steel(self, d: Array, h: Array, fck: float, fyk: float, record: Recorder) -> Array:
        """9.2.1.1(1) as 9.3.1.1(1) has it for slabs."""
        fctm = mean_tension(fck)
        steel: Array = np.maximum(0.26 * fctm / fyk, 0.0013) * d * 1e6
        record.given("f_ctm", fctm, "MPa", reference=f"{REFERENCE} table 3.1")
        record.step("A_s_min", "max(0.26*f_ctm/f_yk, 0.0013)*d*1e6", steel, "mm²/m", reference=f"{REFERENCE} (9.1N)")
        return steel

    def greatest_spacing(self, h: Array, one_way: Array, record: Recorder) -> Array:
        """2h, at most 250 mm: principal bars where the load is concentrated and the moment is greatest, as below a
        column (9.3.1.1(3))."""
        spacing: Array = np.minimum(2 * h, 0.25)
        record.step(
            "s_max",
            "min(2*h, 0.25)",
            spacing,
            "m",
            reference=f"{REFERENCE} 9.3.1.1(3)",
            note=say("below a concentrated load"),
        )
        return spacing

    def least_gap(self, diameter: Array, record: Recorder) -> Array:
        """8.2(2): the diameter, 20 mm, 5 mm more than the aggregate of 16 mm."""
        gap: Array = np.maximum(diameter, 0.021)
        record.step("g_min", "max(oe, 0.021)", gap, "m", reference=f"{REFERENCE} 8.2(2)", note=say("aggregate 16 mm"))
        return gap

    def band_share(self, long_over_short: Array) -> Array:
        """No rule: evenly spaced."""
        return np.ones_like(long_over_short)

    def least_cover(self, diameter: Array, asked: CoverAsked, record: Recorder) -> Array:
        """4.4.1.1: the greatest of bond (4.4.1.2(3)), durability by exposure and structural class (tables 4.3N, 4.4N)
        and 10 mm, and the allowance for deviation; 4.4.1.3(4): at least 40 mm on prepared ground (blinding), 75 mm on
        soil.

        Structural class S4, two more for a design life of 100 years, one less with the strength of table 4.3N.
        """
        ground = 0.075 if asked.against == "soil" else 0.040
        durable, structural = durability(asked.exposure_en, asked.fck, asked.life)
        bond = np.maximum(np.maximum(diameter, durable), 0.010)
        cover: Array = np.maximum(bond + asked.tolerance, ground)
        record.given(
            "k_g",
            ground,
            "m",
            reference=f"{REFERENCE} 4.4.1.3(4)",
            note=say("cast against {against}", against=label(asked.against)),
        )
        if asked.exposure_en:
            record.given(
                "S_c",
                structural,
                reference=f"{REFERENCE} table 4.3N",
                note=say("structural class for {life:g} years", life=asked.life),
            )
        what = (
            say("exposure {exposure_en}", exposure_en=asked.exposure_en)
            if asked.exposure_en
            else say("no exposure class is given")
        )
        record.given("c_dur", durable, "m", reference=f"{REFERENCE} table 4.4N" if asked.exposure_en else "", note=what)
        record.step(
            "c_min",
            "max(max(oe_l, c_dur), 0.01)",
            bond,
            "m",
            reference=f"{REFERENCE} (4.2)",
            note=say("bond, durability, 10 mm"),
        )
        if not asked.fire:
            record.step("c_req", f"max(c_min + {asked.tolerance}, k_g)", cover, "m", reference=f"{REFERENCE} (4.1)")
            return cover
        axis = FIRE[asked.fire] / 1000
        cover = np.maximum(cover, axis - diameter / 2)
        record.given(
            "a_fi",
            axis,
            "m",
            reference="EN 1992-1-2 table 5.8",
            note=say("axis distance of bars in slabs, {fire} minutes, one way", fire=asked.fire),
        )
        record.step(
            "c_req",
            f"max(max(c_min + {asked.tolerance}, k_g), a_fi - oe_l/2)",
            cover,
            "m",
            reference=f"{REFERENCE} (4.1), EN 1992-1-2 table 5.8",
        )
        return cover

    def side_bars(
        self, h: Array, diameter: Array, cover: float, fck: float, fyk: float, record: Recorder
    ) -> tuple[Array, Array]:
        """7.3.3(3) from 1.0 m on: 7.3.2(2) with k = 0.5, f_ct,eff = f_ctm, the bars at their yield, over 2.5 (c +
        oe/2); 350 mm apart at most.

        A rule of beams, taken for thick bases.
        """
        thick = 2.5 * (cover + diameter / 2)
        least = np.where(h >= 1.0, 0.5 * mean_tension(fck) * thick * 1e6 / fyk, 0.0)
        spacing = np.full_like(h, 0.35)
        record.given("h_c", thick, "m", reference=f"{REFERENCE} figure 7.1", note="2.5 (c + ø/2)", needs="oe")
        record.step(
            "A_s_min",
            f"where(h >= 1, 0.5*{mean_tension(fck)}*h_c*1e6/{fyk}, 0)",
            least,
            "mm²/m",
            reference=f"{REFERENCE} 7.3.3(3), (7.1)",
        )
        record.given("s_max", spacing, "m", reference=f"{REFERENCE} 9.7(1)")
        return least, spacing

    def ties(self, around: Around, fck: float, fyk: float, record: Recorder) -> tuple[Array, Array, Array]:
        """9.5.3, of ties and spirals alike: a quarter of the bar and 6 mm; 20 bars, the lesser size, 400 mm, times 0.6
        next to the base (9.5.3(4))."""
        least = np.maximum(around.bar / 4, 0.006)
        spacing = 0.6 * np.minimum(np.minimum(20 * around.bar, around.size), 0.4)
        record.step("oe_min", "max(oe/4, 0.006)", least, "m", reference=f"{REFERENCE} 9.5.3(1)")
        record.step("s_max", "0.6*min(min(20*oe, b_min), 0.4)", spacing, "m", reference=f"{REFERENCE} 9.5.3(3), (4)")
        return least, spacing, np.zeros_like(least)
