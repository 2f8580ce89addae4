"""AS 3600:2018 for footings without fitments. Clause numbers and coefficients from memory; N, mm, MPa."""

from typing import ClassVar

import numpy as np

from korbent.core.concrete.critical_section import CriticalSection
from korbent.core.concrete.en1992 import FIRE
from korbent.core.concrete.standard import Around, BarEnds, Bending, ColumnRules, CoverAsked, DowelEnds
from korbent.core.working import Array, Recorder

REFERENCE = "AS 3600:2018"


def gamma_block(fck: float) -> float:
    """Depth of the block over that of the pressed zone (8.1.3)."""
    return max(0.97 - 0.0025 * fck, 0.67)


def capacity_factor(at: Bending) -> Array:
    """phi of axial force and bending (table 2.2.2): 0.65 from the balanced force on; below it phi_0 + (phi - phi_0)(1 - N_u/N_ub), with phi_0 = 0.65 and phi
    = 1.24 - 13 k_uo/12 of bending without axial force, between 0.65 and 0.85."""
    bending = np.clip(1.24 - 13 * at.pure / 12, 0.65, 0.85)
    share = np.where(
        at.balanced > 0.0,
        1 - np.maximum(at.N, 0.0) / np.maximum(at.balanced, 1e-9),
        np.where(at.N > 0.0, 0.0, 1.0),
    )
    found: Array = 0.65 + (bending - 0.65) * np.clip(share, 0.0, 1.0)
    return found


EXPOSED: dict[str, dict[int, int]] = {
    "A1": {20: 20}, "A2": {20: 50, 25: 30, 32: 25, 40: 20}, "B1": {25: 60, 32: 40, 40: 30, 50: 25}, "B2": {32: 65, 40: 45, 50: 35},
    "C1": {40: 70, 50: 50}, "C2": {50: 65},
}  # fmt: skip
"""Cover in mm by the least strength, MPa, for each exposure (table 4.10.3.2, standard formwork)."""


def exposed(exposure: str, fck: float) -> tuple[float, bool]:
    """(cover in m, whether the concrete is strong enough for the exposure at all)."""
    by_strength = EXPOSED[exposure]
    fits = [grade for grade in by_strength if grade <= fck + 1e-9]
    return by_strength[max(fits) if fits else min(by_strength)] / 1000, bool(fits)


class AS3600:
    """The rules of AS 3600:2018 for footings."""

    name = "AS 3600:2018"
    ductile: ClassVar[str] = "AS 3600:2018 8.1.5"
    least_depth: ClassVar[tuple[float, str]] = (0.0, "")
    links_from: ClassVar[tuple[float, str]] = (0.75, "AS 3600:2018 8.2.1.6")
    least_over_needed: ClassVar[tuple[float, str]] = (4 / 3, "own choice")
    searches = False
    clauses: ClassVar[dict[str, str]] = {
        "anchorage-x": "AS 3600:2018 13.1.2", "anchorage-y": "AS 3600:2018 13.1.2",
        "punching": "AS 3600:2018 9.3", "punching-face": "AS 3600:2018 9.3", "shear-x": "AS 3600:2018 8.2.4", "shear-y": "AS 3600:2018 8.2.4",
        "bottom-x": "AS 3600:2018 8.1", "bottom-y": "AS 3600:2018 8.1", "top-x": "AS 3600:2018 8.1", "top-y": "AS 3600:2018 8.1",
        "minimum-x": "AS 3600:2018 section 21", "minimum-y": "AS 3600:2018 section 21", "spacing-x": "AS 3600:2018 9.5.1", "spacing-y": "AS 3600:2018 9.5.1",
        "cover": "AS 3600:2018 4.10.3", "side-bars": "AS 3600:2018 8.6.3", "bearing-concrete": "AS 3600:2018 12.6", "dowels": "AS 3600:2018 10.6",
        "dowels-steel": "AS 3600:2018 10.7.1", "dowels-anchorage": "AS 3600:2018 13.1.5", "plain-x": "AS 3600:2018 20.4.2", "plain-y": "AS 3600:2018 20.4.2",
        "plain-shear-x": "AS 3600:2018 20.4.3", "plain-shear-y": "AS 3600:2018 20.4.3", "plain-punching": "AS 3600:2018 20.4.3", "pedestal": "AS 3600:2018 10.6",
        "pedestal-steel": "AS 3600:2018 10.7.1", "pedestal-ties": "AS 3600:2018 10.7.4", "pedestal-slender": "AS 3600:2018 10.3.1",
        "cracks-x": "EN 1992-1-1 7.3.4", "cracks-y": "EN 1992-1-1 7.3.4",
    }  # fmt: skip

    cracks_near_edge = False

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
        """0.19 (D/d)^2 f'ct.f/fsy b d, f'ct.f = 0.6 sqrt(f'c) (section 21, footings; 3.1.1.3)."""
        tension = 0.6 * np.sqrt(fck)
        steel: Array = 0.19 * (h / d) ** 2 * tension / fyk * d * 1e6
        record("f_ctf", "", tension, "MPa", f"{REFERENCE} 3.1.1.3")
        record("A_s_min", "0.19*(h/d)**2*f_ctf/f_y*d*1e6", steel, "mm²/m", f"{REFERENCE} section 21")
        return steel

    def anchorage(
        self, ends: BarEnds, fck: float, fyk: float, special: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """Development from the face to the end of the bar; nearer to the edge than the thickness the bars run on below the column.
        13.1.2.2: 0.5 k1 k3 fsy db/(k2 sqrt(f'c)), at least 0.058 fsy k1 db; by the stress needed (13.1.2.4), at least 12 db; half of it
        with a hook (13.1.2.6). k3 by the cover or half the clear spacing.
        """
        db = 1000 * ends.diameter
        apart = 1e6 * np.pi * ends.diameter**2 / 4 / np.maximum(ends.provided, 1e-9)
        c_d = np.minimum(np.minimum(1000 * ends.cover, 1000 * (apart - ends.diameter) / 2), 3 * db)
        k_2 = (132 - db) / 100
        k_3 = np.clip(1 - 0.15 * (c_d - db) / np.maximum(db, 1e-9), 0.7, 1.0)
        k_1 = np.where(ends.level - ends.diameter / 2 > 0.3, 1.3, 1.0)
        full = (
            k_1 * np.maximum(0.5 * k_3 * fyk * db / (k_2 * np.sqrt(min(fck, 65.0))), 0.058 * fyk * db) / 1000
        )
        k_h = 0.5 if ends.hooked else 1.0
        needed = np.where(ends.share > 0.0, k_h * np.maximum(full * ends.share, 12 * ends.diameter), 0.0)
        there = np.maximum(ends.outstand, ends.x) - ends.cover
        record(
            "k_1", "where(z_b - oe/2 > 0.3, 1.3, 1)", k_1, "", f"{REFERENCE} 13.1.2.2", "1.3 with more than 300 mm cast below"
        )  # fmt: skip
        record("k_2", "(132 - 1000*oe)/100", k_2, "", f"{REFERENCE} 13.1.2.2")
        record(
            "k_3",
            "",
            k_3,
            "",
            f"{REFERENCE} 13.1.2.2",
            "by cover or half the clear spacing over diameter, 0.7 to 1",
            "oe A_s",
        )
        record("k_h", "", k_h, "", f"{REFERENCE} 13.1.2.6", "half with a hook")
        record(
            "L_sy",
            "k_1*max(0.5*k_3*f_y*1000*oe/(k_2*sqrt(min(f_c, 65))), 0.058*f_y*1000*oe)/1000",
            full,
            "m",
            f"{REFERENCE} 13.1.2.2",
        )
        record(
            "k_x",
            "",
            ends.share,
            "",
            f"{REFERENCE} 13.1.2.4",
            "steel needed at the face over that provided",
            "A_s R",
        )
        record("l_req", "where(k_x > 0, k_h*max(L_sy*k_x, 12*oe), 0)", needed, "m", f"{REFERENCE} 13.1.2.4")
        record("c", "", ends.cover, "m", note="cover")
        record(
            "x_a",
            "",
            ends.x,
            "m",
            "",
            "the thickness: nearer to the edge the bars run on below the column",
            "l_o h",
        )
        record("l_av", "max(l_o, x_a) - c", there, "m", note="to the end of the bar")
        return needed, there

    def column_rules(self, fck: float, fyk: float, spiral: bool = False) -> ColumnRules:
        """8.1.3, table 2.2.2 (phi by the axial force, see :func:`capacity_factor`), 10.1.2 (0.05 D), 10.7.1 (0.01 to 0.04 A_g)."""
        return ColumnRules(
            max(0.85 - 0.0015 * fck, 0.67) * fck, gamma_block(fck), 0.003, fyk, 1.0, capacity_factor, 0.01, 0.0, f"{REFERENCE} 10.7.1",
            0.04, f"{REFERENCE} 10.7.1", lambda size: 0.05 * size, f"{REFERENCE} 10.1.2",
        )  # fmt: skip

    def greatest_spacing(self, h: Array, one_way: Array, record: Recorder) -> Array:
        """The lesser of 2 D and 300 mm (9.5.1)."""
        spacing: Array = np.minimum(2 * h, 0.3)
        record("s_max", "min(2*h, 0.3)", spacing, "m", f"{REFERENCE} 9.5.1")
        return spacing

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

    def least_gap(self, diameter: Array, record: Recorder) -> Array:
        """17.1.3: so that concrete can be placed; the diameter and 25 mm are taken."""
        gap: Array = np.maximum(diameter, 0.025)
        record("g_min", "max(oe, 0.025)", gap, "m", f"{REFERENCE} 17.1.3", "own choice: diameter, 25 mm")
        return gap

    def band_share(self, long_over_short: Array) -> Array:
        """No rule: evenly spaced."""
        return np.ones_like(long_over_short)

    def least_cover(self, diameter: Array, asked: CoverAsked, record: Recorder) -> Array:
        """4.10.3: by exposure and strength (table 4.10.3.2), 10 mm more on a membrane or blinding, 20 mm on soil (4.10.3.5); bars 4.10.2."""
        base, strong = exposed(asked.exposure_as, asked.fck)
        more = 0.020 if asked.against == "soil" else 0.010
        cover: Array = np.maximum(base + more, diameter)
        note = f"exposure {asked.exposure_as}" + (
            "" if strong else ": the concrete is too weak for it, the next strength is taken"
        )
        record("c_e", "", base, "m", f"{REFERENCE} table 4.10.3.2", note)
        record("c_g", "", more, "m", f"{REFERENCE} 4.10.3.5", f"cast against {asked.against}")
        if not asked.fire:
            record("c_req", "max(c_e + c_g, oe_l)", cover, "m", f"{REFERENCE} 4.10.2")
            return cover
        axis = FIRE[asked.fire] / 1000
        cover = np.maximum(cover, axis - diameter / 2)
        record(
            "a_fi",
            "",
            axis,
            "m",
            f"{REFERENCE} table 5.5.2",
            f"axis distance of bars in slabs, {asked.fire} minutes, one way",
        )
        record(
            "c_req",
            "max(max(c_e + c_g, oe_l), a_fi - oe_l/2)",
            cover,
            "m",
            f"{REFERENCE} 4.10.2, table 5.5.2",
        )
        return cover

    within_column = True
    bearing_slope = 100.0
    bearing_most = 2.0

    def bearing_strength(self, fck: float, fcd: Array, spread: Array, record: Recorder) -> Array:
        """12.6: 0.9 f'c sqrt(A_2/A_1), at most 1.8 f'c; phi = 0.6 (table 2.2.2)."""
        strength: Array = 0.6 * 0.9 * fck * spread + 0.0 * fcd
        record("f_Rd", "0.6*0.9*f_c*k_s", strength, "MPa", f"{REFERENCE} 12.6", "φ = 0.6")
        return strength

    def plain(self, fck: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """20.4, phi = 0.6: f'ct.f = 0.6 sqrt(f'c); shear 0.15 f'c^(1/3)."""
        flexure, shear = (
            np.full(special.shape, 0.6 * v) for v in (0.6 * np.sqrt(fck), 0.15 * fck ** (1 / 3))
        )
        record("f_Rd", "0.6*0.6*sqrt(f_c)", flexure, "MPa", f"{REFERENCE} 20.4.2", "φ = 0.6")
        record("v_Rd", "0.6*0.15*f_c**(1/3)", shear, "MPa", f"{REFERENCE} 20.4.3", "φ = 0.6")
        return flexure, shear

    def plain_punching(self, fck: float, long_over_short: Array, record: Recorder) -> Array | None:
        """phi 0.1 (1 + 2/beta) sqrt(f'c), at most 0.2 sqrt(f'c) (20.4.3)."""
        strength: Array = 0.6 * np.minimum(0.1 * (1 + 2 / long_over_short), 0.2) * np.sqrt(fck)
        record("beta", "", long_over_short, "", note="long over short side of the loaded area")
        record(
            "v_Rd",
            "0.6*min(0.1*(1 + 2/beta), 0.2)*sqrt(f_c)",
            strength,
            "MPa",
            f"{REFERENCE} 20.4.3",
            "φ = 0.6",
        )
        return strength

    def plain_depth(self, h: Array, deduction: float, record: Recorder) -> Array:
        """h less 50 mm cast on soil (20.4.1)."""
        depth: Array = np.maximum(h - deduction, h / 10)
        record(
            "h_p", f"max(h - {deduction}, h/10)", depth, "m", f"{REFERENCE} 20.4.1", "thickness that counts"
        )
        return depth

    def dowel_anchorage(
        self, ends: DowelEnds, fck: float, fyk: float, special: Array, record: Recorder
    ) -> Array:
        """13.1.5: 0.22 fsy/sqrt(f'c) db, at least 0.0435 fsy db, by the stress, and 200 mm; half the length of 13.1.2.2 with a hook where some are pulled."""
        db, root = 1000 * ends.diameter, float(np.sqrt(min(fck, 65.0)))
        pressed = np.maximum(ends.share * np.maximum(0.22 * fyk / root, 0.0435 * fyk) * db, 200.0) / 1000
        hooked = np.maximum(0.5 * fyk * db / ((132 - db) / 100 * root), 0.058 * fyk * db) / 2000
        needed: Array = np.where(ends.pulled, np.maximum(pressed, hooked), pressed)
        record(
            "l_c",
            f"max(k_d*max(0.22*f_y/{root}, 0.0435*f_y)*1000*oe, 200)/1000",
            pressed,
            "m",
            f"{REFERENCE} 13.1.5",
        )
        record(
            "l_h",
            f"max(0.5*f_y*1000*oe/((132 - 1000*oe)/100*{root}), 0.058*f_y*1000*oe)/2000",
            hooked,
            "m",
            f"{REFERENCE} 13.1.2.6",
        )
        record("l_req", "where(pulled > 0, max(l_c, l_h), l_c)", needed, "m")
        return needed

    def lap(self, diameter: float, fck: float, fyk: float) -> float:
        """13.2.2: 1.25 times the development length, at least 0.058 fsy db."""
        db = 1000 * diameter
        length = max(0.5 * fyk * db / ((132 - db) / 100 * float(np.sqrt(min(fck, 65.0)))), 0.058 * fyk * db)
        return 1.25 * length / 1000

    def ties(self, around: Around, fck: float, fyk: float, record: Recorder) -> tuple[Array, Array, Array]:
        """10.7.4, of ties and helices alike: 6 mm around bars up to 20, 10 mm up to 28, 12 mm beyond; the least size and 15 bars."""
        diameter = around.bar
        least = np.where(diameter <= 0.0201, 0.006, np.where(diameter <= 0.0281, 0.010, 0.012))
        spacing = np.minimum(15 * diameter, around.size)
        record("oe_min", "", least, "m", f"{REFERENCE} table 10.7.4.3", "by the bar", "oe")
        record("s_max", "min(15*oe, b_min)", spacing, "m", f"{REFERENCE} 10.7.4.3")
        return least, spacing, np.zeros_like(least)

    def slenderness(
        self, length: Array, size: Array, is_round: Array, pressed: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """10.3.1: L_e/r at most 22, L_e = 2.2 L (figure 10.5.3), r = 0.3 D, of a circle 0.25 D (10.5.2)."""
        radius = np.where(is_round > 0, 0.25, 0.3)
        found, limit = 2.2 * length / (radius * size), np.full_like(pressed, 22.0)
        record(
            "lambda_p",
            "2.2*l_p/(where(k_o > 0, 0.25, 0.3)*b_min)",
            found,
            "",
            f"{REFERENCE} 10.5.2",
            "free at the top",
        )
        record("lambda_lim", "", limit, "", f"{REFERENCE} 10.3.1")
        return found, limit

    def opening_reach(self, d: Array, h: Array) -> Array:
        """2.5 times the thickness (9.3.1.5)."""
        reach: Array = 2.5 * h
        return reach

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
        record(
            "A_s_min", "", least, "mm²/m", f"{REFERENCE} 8.6.3", "12 mm at 200 mm, or 16 mm at 300 mm", "h oe"
        )
        record("s_max", "", spacing, "m", f"{REFERENCE} 8.6.3", "by the diameter", "oe")
        return least, spacing
