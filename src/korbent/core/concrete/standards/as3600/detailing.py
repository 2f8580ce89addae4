"""AS 3600: least steel, spacing, cover and links."""

import numpy as np

from korbent.core.concrete.standards.as3600.anchorage import Anchorage
from korbent.core.concrete.standards.as3600.section import REFERENCE
from korbent.core.concrete.standards.en1992.detailing import FIRE
from korbent.core.concrete.standards.protocol import Around, CoverAsked
from korbent.core.model.labels import label
from korbent.core.working import Array, Recorder
from korbent.words import say

EXPOSED: dict[str, dict[int, int]] = {
    "A1": {20: 20},
    "A2": {20: 50, 25: 30, 32: 25, 40: 20},
    "B1": {25: 60, 32: 40, 40: 30, 50: 25},
    "B2": {32: 65, 40: 45, 50: 35},
    "C1": {40: 70, 50: 50},
    "C2": {50: 65},
}
"""Cover in mm by the least strength, MPa, for each exposure (table 4.10.3.2, standard formwork)."""


def exposed(exposure: str, fck: float) -> tuple[float, bool]:
    """(cover in m, whether the concrete is strong enough for the exposure at all)."""
    by_strength = EXPOSED[exposure]
    fits = [grade for grade in by_strength if grade <= fck + 1e-9]
    return by_strength[max(fits) if fits else min(by_strength)] / 1000, bool(fits)


class Detailing(Anchorage):
    """AS 3600: least steel, spacing, cover and links."""

    def minimum_steel(self, d: Array, h: Array, fck: float, fyk: float, record: Recorder) -> Array:
        """0.19 (D/d)^2 f'ct.f/fsy b d, f'ct.f = 0.6 sqrt(f'c) (section 21, footings; 3.1.1.3)."""
        tension = 0.6 * np.sqrt(fck)
        steel: Array = 0.19 * (h / d) ** 2 * tension / fyk * d * 1e6
        record.given("f_ctf", tension, "MPa", reference=f"{REFERENCE} 3.1.1.3")
        record.step("A_s_min", "0.19*(h/d)**2*f_ctf/f_y*d*1e6", steel, "mm²/m", reference=f"{REFERENCE} section 21")
        return steel

    def greatest_spacing(self, h: Array, one_way: Array, record: Recorder) -> Array:
        """The lesser of 2 D and 300 mm (9.5.1)."""
        spacing: Array = np.minimum(2 * h, 0.3)
        record.step("s_max", "min(2*h, 0.3)", spacing, "m", reference=f"{REFERENCE} 9.5.1")
        return spacing

    def least_gap(self, diameter: Array, record: Recorder) -> Array:
        """17.1.3: so that concrete can be placed; the diameter and 25 mm are taken."""
        gap: Array = np.maximum(diameter, 0.025)
        record.step(
            "g_min",
            "max(oe, 0.025)",
            gap,
            "m",
            reference=f"{REFERENCE} 17.1.3",
            note=say("own choice: diameter, 25 mm"),
        )
        return gap

    def band_share(self, long_over_short: Array) -> Array:
        """No rule: evenly spaced."""
        return np.ones_like(long_over_short)

    def least_cover(self, diameter: Array, asked: CoverAsked, record: Recorder) -> Array:
        """4.10.3: by exposure and strength (table 4.10.3.2), 10 mm more on a membrane or blinding, 20 mm on soil
        (4.10.3.5); bars 4.10.2."""
        base, strong = exposed(asked.exposure_as, asked.fck)
        more = 0.020 if asked.against == "soil" else 0.010
        cover: Array = np.maximum(base + more, diameter)
        note = say("exposure {exposure_as}", exposure_as=asked.exposure_as) + (
            "" if strong else say(": the concrete is too weak for it, the next strength is taken")
        )
        record.given("c_e", base, "m", reference=f"{REFERENCE} table 4.10.3.2", note=note)
        record.given(
            "c_g",
            more,
            "m",
            reference=f"{REFERENCE} 4.10.3.5",
            note=say("cast against {against}", against=label(asked.against)),
        )
        if not asked.fire:
            record.step("c_req", "max(c_e + c_g, oe_l)", cover, "m", reference=f"{REFERENCE} 4.10.2")
            return cover
        axis = FIRE[asked.fire] / 1000
        cover = np.maximum(cover, axis - diameter / 2)
        record.given(
            "a_fi",
            axis,
            "m",
            reference=f"{REFERENCE} table 5.5.2",
            note=say("axis distance of bars in slabs, {fire} minutes, one way", fire=asked.fire),
        )
        record.step(
            "c_req",
            "max(max(c_e + c_g, oe_l), a_fi - oe_l/2)",
            cover,
            "m",
            reference=f"{REFERENCE} 4.10.2, table 5.5.2",
        )
        return cover

    def side_bars(
        self, h: Array, diameter: Array, cover: float, fck: float, fyk: float, record: Recorder
    ) -> tuple[Array, Array]:
        """8.6.3 beyond 750 mm: 12 mm bars at 200 mm or 16 mm at 300 mm; a rule of beams, taken for thick bases."""
        least = np.where(
            h > 0.75,
            np.where(diameter < 0.0159, 0.12**2 * np.pi / 4 * 1e4 / 0.2, 0.16**2 * np.pi / 4 * 1e4 / 0.3),
            0.0,
        )
        spacing = np.where(diameter < 0.0159, 0.2, 0.3)
        record.given(
            "A_s_min",
            least,
            "mm²/m",
            reference=f"{REFERENCE} 8.6.3",
            note=say("12 mm at 200 mm, or 16 mm at 300 mm"),
            needs="h oe",
        )
        record.given("s_max", spacing, "m", reference=f"{REFERENCE} 8.6.3", note=say("by the diameter"), needs="oe")
        return least, spacing

    def ties(self, around: Around, fck: float, fyk: float, record: Recorder) -> tuple[Array, Array, Array]:
        """10.7.4, of ties and helices alike: 6 mm around bars up to 20, 10 mm up to 28, 12 mm beyond; the least size
        and 15 bars."""
        diameter = around.bar
        least = np.where(diameter <= 0.0201, 0.006, np.where(diameter <= 0.0281, 0.010, 0.012))
        spacing = np.minimum(15 * diameter, around.size)
        record.given("oe_min", least, "m", reference=f"{REFERENCE} table 10.7.4.3", note=say("by the bar"), needs="oe")
        record.step("s_max", "min(15*oe, b_min)", spacing, "m", reference=f"{REFERENCE} 10.7.4.3")
        return least, spacing, np.zeros_like(least)
