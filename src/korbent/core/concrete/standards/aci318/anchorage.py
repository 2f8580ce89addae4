"""ACI 318: anchorage and laps."""

from typing import ClassVar

import numpy as np

from korbent.core.concrete.standards.aci318.punching import Punching
from korbent.core.concrete.standards.aci318.section import INCH, PSI
from korbent.core.concrete.standards.protocol import BarEnds, DowelEnds
from korbent.core.working import Array, Recorder
from korbent.words import say


class Anchorage(Punching):
    """ACI 318: anchorage and laps."""

    straight_clause: ClassVar[str] = "25.4.2.3"
    general_clause: ClassVar[str] = "25.4.2.4"

    def grade(self, fyk: float) -> float:
        """psi_g (table 25.4.2.5): 1.0 up to grade 60, 1.15 up to grade 80, else 1.3."""
        ksi = fyk * PSI / 1000
        return 1.0 if ksi <= 61 else 1.15 if ksi <= 81 else 1.3

    def hooked_length(
        self, diameter: Array, apart: Array, fck: float, fyk: float, beside: float | Array, record: Recorder
    ) -> Array:
        """l_dh (25.4.3.1, table 25.4.3.2), m: psi_r 1.0 where bars are 6 diameters apart, else 1.6.

        Args:
            beside: psi_o. Expects ``oe`` and ``s_d`` (diameter, distance apart) in the record.
        """
        root, db = min(float(np.sqrt(fck * PSI)), 100.0), diameter / INCH
        strength = min(fck * PSI / 15000 + 0.6, 1.0)
        # the better values are those of bars up to No. 11
        thick = diameter > 0.0359
        confined = np.where((apart >= 6 * diameter - 1e-9) & ~thick, 1.0, 1.6)
        beside = np.where(thick, 1.25, beside)
        length: Array = fyk * PSI * confined * beside * strength / (55 * root) * db**1.5
        found: Array = np.maximum(np.maximum(length, 8 * db), 6.0) * INCH
        record.given(
            "psi_o",
            beside,
            reference=f"{self.reference} table 25.4.3.2",
            note=say("1.0 where the cover beside is 6 diameters and up to No. 11, else 1.25"),
        )
        record.given(
            "psi_c", strength, reference=f"{self.reference} table 25.4.3.2", note=say("f′c/15000 + 0.6, at most 1")
        )
        record.step(
            "psi_r",
            "where(oe > 0.0359, 1.6, where(s_d >= 6*oe - 1e-9, 1, 1.6))",
            confined,
            reference=f"{self.reference} table 25.4.3.2",
        )
        record.step(
            "l_dh",
            f"max(max({fyk * PSI}*psi_r*psi_o*psi_c/(55*{root})*(oe/{INCH})**1.5, 8*oe/{INCH}), 6)*{INCH}",
            found,
            "m",
            reference=f"{self.reference} 25.4.3.1",
        )
        return found

    def straight_length(
        self, ends: BarEnds, apart: Array, root: float, fy: float, fyk: float, record: Recorder
    ) -> tuple[Array, float]:
        """(l_d of straight bars, least length), m: table 25.4.2.3, or 25.4.2.4a with K_tr = 0, the lesser. Expects
        ``oe``, ``s_d``, ``c``."""
        db, grade = ends.diameter / INCH, self.grade(fyk)
        small = db <= 0.76
        # no stirrups in a base: clear spacing of two diameters and cover of one make the better case
        spaced = (apart - ends.diameter >= 2 * ends.diameter - 1e-9) & (ends.cover >= ends.diameter)
        high = np.where(ends.level - ends.diameter / 2 > 12 * INCH, 1.3, 1.0)
        tabled = fy * high * grade / (np.where(small, 25, 20) * root) * db * np.where(spaced, 1.0, 1.5)
        around = np.minimum(
            np.minimum(ends.cover + ends.diameter / 2, apart / 2) / np.maximum(ends.diameter, 1e-9), 2.5
        )
        general = 3 / 40 * fy * high / root * np.where(small, 0.8, 1.0) * grade / np.maximum(around, 1e-9) * db
        full = np.minimum(tabled, general) * INCH
        record.given("psi_g", grade, reference=f"{self.reference} table 25.4.2.5", note=say("by the grade"))
        record.step(
            "psi_t",
            f"where(z_b - oe/2 > 12*{INCH}, 1.3, 1)",
            high,
            reference=f"{self.reference} table 25.4.2.5",
            note=say("1.3 with more than 12 in. cast below"),
        )
        record.given(
            "k_c",
            np.where(spaced, 1.0, 1.5),
            reference=f"{self.reference} table {self.straight_clause}",
            note=say("1 spaced and covered, 1.5 other cases"),
            needs="oe s_d c",
        )
        record.step(
            "l_t",
            f"f_y*{PSI}*psi_t*psi_g/(where(oe/{INCH} <= 0.76, 25, 20)*r_fc)*oe/{INCH}*k_c",
            tabled,
            "in",
            reference=f"{self.reference} table {self.straight_clause}",
        )
        record.step(
            "c_b",
            "min(min(c + oe/2, s_d/2)/max(oe, 1e-9), 2.5)",
            around,
            reference=f"{self.reference} {self.general_clause}",
            note=say("cover or half the spacing over the bar"),
        )
        record.step(
            "l_g",
            f"3/40*f_y*{PSI}*psi_t/r_fc*where(oe/{INCH} <= 0.76, 0.8, 1)*psi_g/max(c_b, 1e-9)*oe/{INCH}",
            general,
            "in",
            reference=f"{self.reference} ({self.general_clause}a)",
        )
        record.step("l_d", f"min(l_t, l_g)*{INCH}", full, "m", reference=f"{self.reference} 25.4.2")
        return full, 12 * INCH

    def anchorage(self, ends: BarEnds, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """Development from the critical section at the face to the end of the bar (13.2.8.3); nearer to the edge than
        the thickness the bars run on below the column. Straight by table 25.4.2.3, spaced and covered or other cases,
        or by 25.4.2.4a, the lesser; reduced for excess steel (25.4.10.1), not below 12 in.; hooked 25.4.3.1, not
        reduced (25.4.10.2).

        Normal-weight concrete, uncoated bars, no transverse steel.
        """
        psi, fy = min(np.sqrt(fck * PSI), 100.0), fyk * PSI
        apart = np.pi * ends.diameter**2 / 4 / np.maximum(ends.provided / 1e6, 1e-12)
        record.step(
            "r_fc",
            f"min(sqrt(f_c*{PSI}), 100)",
            psi,
            "psi",
            reference=f"{self.reference} 25.4.1.4",
            note="√f′c",
        )
        record.given("s_d", apart, "m", note=say("width for each bar"), needs="A_s oe")
        record.given("c", ends.cover, "m", note=say("cover"))
        if ends.hooked:
            beside = np.where(ends.cover >= 6 * ends.diameter, 1.0, 1.25)
            needed = self.hooked_length(ends.diameter, apart, fck, fyk, beside, record)
            formula, clause, note = "l_dh", f"{self.reference} 25.4.3.1", say("hook")
        else:
            full, least = self.straight_length(ends, apart, psi, fy, fyk, record)
            needed = np.maximum(full * ends.share, least)
            record.given(
                "k_x",
                ends.share,
                reference=f"{self.reference} 25.4.10.1",
                note=say("steel needed at the face over that provided"),
                needs="A_s",
            )
            formula, clause, note = (
                f"max(l_d*k_x, {least})",
                f"{self.reference} 25.4.10.1, 25.4.2.1",
                "straight",
            )
        needed = np.where(ends.share > 0.0, needed, 0.0)
        there = np.maximum(ends.outstand, ends.x) - ends.cover
        record.given(
            "k_t",
            np.where(ends.share > 0.0, 1.0, 0.0),
            note=say("1 where there is tension at the face"),
            needs="R",
        )
        record.step("l_req", f"where(k_t > 0.5, {formula}, 0)", needed, "m", reference=clause, note=note)
        record.given(
            "x_a",
            ends.x,
            "m",
            note=say("the thickness: nearer to the edge the bars run on below the column"),
            needs="l_o h",
        )
        record.step("l_av", "max(l_o, x_a) - c", there, "m", note=say("to the end of the bar"))
        return needed, there

    def dowel_anchorage(self, ends: DowelEnds, fck: float, fyk: float, special: Array, record: Recorder) -> Array:
        """25.4.9.2 in compression, by the stress (25.4.10.1), bends do not count; 25.4.3.1 for hooks where some are
        pulled, for fy."""
        root, fy, oe = min(np.sqrt(fck * PSI), 100.0), fyk * PSI, ends.diameter
        full = np.maximum(fy / (50 * root), 0.0003 * fy) * oe / INCH
        pressed = np.maximum(ends.share * full, 8.0) * INCH
        hooked = self.hooked_length(oe, ends.apart, fck, fyk, 1.0, record)
        needed: Array = np.where(ends.pulled, np.maximum(pressed, hooked), pressed)
        record.step(
            "l_dc",
            f"max(k_d*max({fy}/(50*{root}), 0.0003*{fy})*oe/{INCH}, 8)*{INCH}",
            pressed,
            "m",
            reference=f"{self.reference} 25.4.9.2",
        )
        record.step("l_req", "where(pulled > 0, max(l_dc, l_dh), l_dc)", needed, "m")
        return needed

    def lap(self, diameter: float, fck: float, fyk: float) -> float:
        """1.3 l_d (25.5.2.1, class B), at least 12 in."""
        root, db = min(float(np.sqrt(fck * PSI)), 100.0), diameter / INCH
        return max(1.3 * self.grade(fyk) * fyk * PSI / ((25 if db <= 0.76 else 20) * root) * db, 12.0) * INCH
