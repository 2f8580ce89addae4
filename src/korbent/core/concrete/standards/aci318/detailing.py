"""ACI 318: least steel, spacing, cover and links."""

import numpy as np

from korbent.core.concrete.standards.aci318.anchorage import Anchorage
from korbent.core.concrete.standards.aci318.section import INCH, PSI
from korbent.core.concrete.standards.protocol import Around, CoverAsked
from korbent.core.model.labels import label
from korbent.core.working import Array, Recorder
from korbent.words import say

AGAINST, EXPOSED, SHELTERED, CORROSIVE = (
    "against_ground",
    "ground_or_weather",
    "neither",
    "corrosive",
)
"""How concrete is cast and exposed (table 20.5.1.3.1, 20.5.1.4.1), as the setting names it."""


class Detailing(Anchorage):
    """ACI 318: least steel, spacing, cover and links."""

    def minimum_steel(self, d: Array, h: Array, fck: float, fyk: float, record: Recorder) -> Array:
        """0.0018 A_g (8.6.1.1, by 13.3.3.1)."""
        steel: Array = 0.0018 * h * 1e6
        record.step("A_s_min", "0.0018*h*1e6", steel, "mm²/m", reference=f"{self.reference} 8.6.1.1")
        return steel

    def greatest_spacing(self, h: Array, one_way: Array, record: Recorder) -> Array:
        """Under a wall the lesser of 3h and 18 in. (7.7.2.3), under columns of 2h and 18 in. (8.7.2.2)."""
        spacing: Array = np.minimum(np.where(one_way > 0.0, 3.0, 2.0) * h, 18 * INCH)
        record.given("k_1w", one_way, note=say("1: spans one way, under a wall"))
        record.step(
            "s_max",
            f"min(where(k_1w > 0, 3, 2)*h, 18*{INCH})",
            spacing,
            "m",
            reference=f"{self.reference} 7.7.2.3, 8.7.2.2",
        )
        return spacing

    def least_gap(self, diameter: Array, record: Recorder) -> Array:
        """25.2.1: 1 in., the diameter, 4/3 of the aggregate of 3/4 in."""
        gap: Array = np.maximum(diameter, INCH)
        record.step(
            "g_min",
            f"max(oe, {INCH})",
            gap,
            "m",
            reference=f"{self.reference} 25.2.1",
            note=say("aggregate 3/4 in."),
        )
        return gap

    def band_share(self, long_over_short: Array) -> Array:
        """2 beta/(beta + 1): the steel of the band (13.3.3.3) spread over the whole length."""
        share: Array = 2 * long_over_short / (long_over_short + 1)
        return share

    def least_cover(self, diameter: Array, asked: CoverAsked, record: Recorder) -> Array:
        """Table 20.5.1.3.1: cast against ground 3 in.; on blinding, in contact with ground or weather 1.5 in. up to #5,
        2 in. beyond; neither 3/4 in. up to #11, 1.5 in. beyond; corrosive surroundings 2.5 in. (20.5.1.4.1,
        commentary)."""
        where = asked.exposure_aci
        if where == "by_casting":
            where = AGAINST if asked.against == "soil" else EXPOSED
        inches, clause = {
            AGAINST: (np.full_like(diameter, 3.0), say("table 20.5.1.3.1")),
            EXPOSED: (np.where(diameter <= 0.64 * INCH, 1.5, 2.0), say("table 20.5.1.3.1")),
            SHELTERED: (np.where(diameter <= 1.42 * INCH, 0.75, 1.5), say("table 20.5.1.3.1")),
            CORROSIVE: (
                np.full_like(diameter, 2.5 if asked.against != "soil" else 3.0),
                say("20.5.1.4.1 and its commentary"),
            ),
        }[where]
        cover: Array = inches * INCH
        record.given(
            "c_req",
            cover,
            "m",
            reference=f"{self.reference} {clause}",
            note=say("{where}, cast against {against}", where=label(where), against=label(asked.against)),
            needs="oe_l",
        )
        return cover

    def side_bars(
        self, h: Array, diameter: Array, cover: float, fck: float, fyk: float, record: Recorder
    ) -> tuple[Array, Array]:
        """9.7.2.3 beyond 36 in.: spacing by 24.3.2 with two thirds of fy; a rule of beams, taken for thick bases."""
        ksi = 2 / 3 * fyk * PSI
        spacing = np.full_like(h, min(15 * 40_000 / ksi - 2.5 * cover / INCH, 12 * 40_000 / ksi) * INCH)
        least = np.where(h > 36 * INCH, 1.0, 0.0)
        record.step(
            "A_s_min",
            f"where(h > 36*{INCH}, 1, 0)",
            least,
            "mm²/m",
            reference=f"{self.reference} 9.7.2.3",
            note=say("bars of any size"),
        )
        record.given("s_max", spacing, "m", reference=f"{self.reference} 24.3.2")
        return least, spacing

    def ties(self, around: Around, fck: float, fyk: float, record: Recorder) -> tuple[Array, Array, Array]:
        """25.7.2: #3 around bars up to #10, #4 beyond; 16 bars, 48 ties, the least size.

        Spirals 25.7.3: #3 and more, 1 to 3 in. clear, rho_s at least 0.45 (A_g/A_ch - 1) f'c/f_yt, and six bars within
        (10.7.3.1)."""
        spiral, tie = around.spiral > 0, around.tie
        least = np.where((around.bar <= 1.28 * INCH) | spiral, 0.375, 0.5) * INCH * 0.999
        tied = np.minimum(np.minimum(16 * around.bar, 48 * tie), around.size)
        spacing = np.where(spiral, 3 * INCH + tie, tied)
        record.given(
            "oe_min",
            least,
            "m",
            reference=f"{self.reference} 25.7.2.2, 25.7.3.2",
            note=say("#3 or #4"),
            needs="oe",
        )
        if not spiral.any():
            record.step(
                "s_max",
                "min(min(16*oe, 48*oe_t), b_min)",
                spacing,
                "m",
                reference=f"{self.reference} 25.7.2.1",
            )
            return least, spacing, np.zeros_like(least)
        record.step(
            "s_max",
            f"where(k_sp > 0, 3*{INCH} + oe_t, min(min(16*oe, 48*oe_t), b_min))",
            spacing,
            "m",
            reference=f"{self.reference} 25.7.2.1, 25.7.3.1",
        )
        core = around.size - 2 * around.cover
        share = np.pi * (core - tie) * np.pi * tie**2 / 4 / (around.spacing * np.pi * core**2 / 4)
        asked = 0.45 * ((around.size / core) ** 2 - 1) * fck / min(fyk, 100_000 / PSI)
        clear = np.maximum(around.spacing - tie, 1e-6)
        more = np.maximum(np.maximum(asked / share, INCH / clear), 6 / around.bars) * spiral
        record.given("c_t", around.cover, "m", note=say("cover of the spiral"))
        record.given("n_b", around.bars, note=say("bars"))
        record.step("D_ch", "b_min - 2*c_t", core, "m", note=say("to the outside of the spiral"))
        record.step(
            "rho_s",
            "4*(D_ch - oe_t)*pi*oe_t**2/4/(s_t*D_ch**2)",
            share,
            reference=f"{self.reference} 25.7.3.3",
        )
        record.given(
            "rho_min",
            asked,
            reference=f"{self.reference} 25.7.3.3",
            note="0.45 (A_g/A_ch - 1) f′c/f_yt",
            needs="b_min D_ch",
        )
        record.step(
            "k_more",
            f"max(max(rho_min/rho_s, {INCH}/max(s_t - oe_t, 0.000001)), 6/n_b)*k_sp",
            more,
            reference=f"{self.reference} 25.7.3.1, 10.7.3.1",
        )
        return least, spacing, more
