"""EN 1992-1-1:2004 with corrigendum AC:2010 and amendment A1:2014, recommended values."""

from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from korbent.core.concrete.standard import Around, BarEnds, ColumnRules, CoverAsked, DowelEnds
from korbent.core.working import Array, Recorder

REFERENCE = "EN 1992-1-1"


def _block(fck: float) -> tuple[float, float]:
    """lambda and eta of the stress block (3.19) to (3.22)."""
    return 0.8 - max(fck - 50.0, 0.0) / 400.0, 1.0 - max(fck - 50.0, 0.0) / 200.0


def mean_tension(fck: float) -> float:
    """f_ctm (table 3.1), MPa."""
    return float(0.3 * fck ** (2 / 3) if fck <= 50.0 else 2.12 * np.log(1 + (fck + 8) / 10))


@dataclass(frozen=True)
class NationalValues:
    """What a National Annex may choose; the recommended values."""

    gamma_C: float = 1.5
    gamma_S: float = 1.15
    alpha_cc: float = 1.0
    shear: float = 0.18
    """C_Rd,c times gamma_C (6.2.2(1), 6.4.4(1))."""
    shear_least: float = 0.035
    """Of v_min (6.3N)."""
    face: float = 0.4
    """v_Rd,max over nu f_cd (6.4.5(3), A1:2014)."""
    alpha_ct: float = 0.8
    """alpha_ct,pl (12.3.1(1))."""
    e: float = 0.15
    """Distance e over the size of the column (9.8.2.2(3))."""


DURABLE = {
    "X0": (10, 10, 10, 10, 15, 20), "XC1": (10, 10, 10, 15, 20, 25), "XC2": (10, 15, 20, 25, 30, 35), "XC3": (10, 15, 20, 25, 30, 35),
    "XC4": (15, 20, 25, 30, 35, 40), "XD1": (20, 25, 30, 35, 40, 45), "XS1": (20, 25, 30, 35, 40, 45), "XD2": (25, 30, 35, 40, 45, 50),
    "XS2": (25, 30, 35, 40, 45, 50), "XD3": (30, 35, 40, 45, 50, 55), "XS3": (30, 35, 40, 45, 50, 55),
}  # fmt: skip
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
"""Least axis distance of the bars of slabs that span one way by minutes of fire resistance, mm (EN 1992-1-2 table 5.8, AS 3600 table 5.5.2)."""


def durability(exposure: str, fck: float, life: float) -> tuple[float, int]:
    """(c_min,dur in m, structural class): S4, two more from 100 years on, one less with strong concrete; (0, 0) without an exposure."""
    if not exposure:
        return 0.0, 0
    structural = min(max(4 + (2 if life >= 100 else 0) - (1 if fck >= STRONG[exposure] else 0), 1), 6)
    return DURABLE[exposure][structural - 1] / 1000, structural


class EN1992:
    """The rules of EN 1992-1-1 for bases without links."""

    name = "EN 1992-1-1:2004"
    ductile: ClassVar[str] = ""
    least_depth: ClassVar[tuple[float, str]] = (0.0, "")
    links_from: ClassVar[tuple[float, str]] = (0.0, "")
    least_over_needed: ClassVar[tuple[float, str]] = (1.2, "EN 1992-1-1 9.2.1.1(1)")
    clauses: ClassVar[dict[str, str]] = {
        "anchorage-x": f"{REFERENCE} 9.8.2.2", "anchorage-y": f"{REFERENCE} 9.8.2.2",
        "punching": f"{REFERENCE} 6.4.4(2)", "punching-face": f"{REFERENCE} 6.4.5(3)", "shear-x": f"{REFERENCE} 6.2.2(1)",
        "shear-y": f"{REFERENCE} 6.2.2(1)", "bottom-x": f"{REFERENCE} 6.1", "bottom-y": f"{REFERENCE} 6.1", "top-x": f"{REFERENCE} 6.1",
        "top-y": f"{REFERENCE} 6.1", "minimum-x": f"{REFERENCE} 9.2.1.1(1)", "minimum-y": f"{REFERENCE} 9.2.1.1(1)",
        "spacing-x": f"{REFERENCE} 9.3.1.1(3)", "spacing-y": f"{REFERENCE} 9.3.1.1(3)",
        "cover": "EN 1992-1-1 4.4.1", "side-bars": "EN 1992-1-1 7.3.3(3)", "bearing-concrete": "EN 1992-1-1 6.7", "dowels": "EN 1992-1-1 6.1",
        "dowels-steel": "EN 1992-1-1 9.5.2(2)", "dowels-anchorage": "EN 1992-1-1 8.4.4", "plain-x": "EN 1992-1-1 12.9.3", "plain-y": "EN 1992-1-1 12.9.3",
        "plain-shear-x": "EN 1992-1-1 12.6.3", "plain-shear-y": "EN 1992-1-1 12.6.3", "plain-punching": "EN 1992-1-1 12.6.3", "pedestal": "EN 1992-1-1 6.1",
        "pedestal-steel": "EN 1992-1-1 9.5.2(2)", "pedestal-ties": "EN 1992-1-1 9.5.3", "pedestal-slender": "EN 1992-1-1 5.8.3.1",
        "cracks-x": "EN 1992-1-1 7.3.4", "cracks-y": "EN 1992-1-1 7.3.4",
    }  # fmt: skip

    cracks_near_edge = True

    def __init__(
        self, national: NationalValues | None = None, hooks_always: bool = False, least_by_stress: bool = True
    ) -> None:
        self.national = national or NationalValues()
        self.hooks_always = hooks_always
        self.least_by_stress = least_by_stress

    def _gammas(self, special: Array) -> tuple[Array, Array]:
        """Partial factors of concrete and steel (2.4.2.4): 1.2 and 1.0 in accidental and seismic situations."""
        return np.where(special, 1.2, self.national.gamma_C), np.where(special, 1.0, self.national.gamma_S)

    def shear_section(self, d: Array, h: Array) -> tuple[Array, Array]:
        """At d from the face (6.2.1(8)); stress over d."""
        return d, d

    def strengths(self, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """Clauses 2.4.2.4 (partial factors 1.5 and 1.15; accidental 1.2 and 1.0), 3.1.6 and 3.2.7."""
        gamma_c, gamma_s = self._gammas(special)
        alpha_cc = self.national.alpha_cc
        fcd, fyd = alpha_cc * fck / gamma_c, fyk / gamma_s
        record("f_ck", "", fck, "MPa", note="concrete")
        record("f_yk", "", fyk, "MPa", note="reinforcing steel")
        record("alpha_cc", "", alpha_cc, "", f"{REFERENCE} 3.1.6(1)")
        record("gamma_C", "", gamma_c, "", f"{REFERENCE} 2.4.2.4")
        record("gamma_S", "", gamma_s, "", f"{REFERENCE} 2.4.2.4")
        record("f_cd", "alpha_cc*f_ck/gamma_C", fcd, "MPa", f"{REFERENCE} (3.15)")
        record("f_yd", "f_yk/gamma_S", fyd, "MPa", f"{REFERENCE} 3.2.7")
        return fcd, fyd

    def block(self, fck: float, fcd: Array, fyd: Array) -> tuple[Array, Array, float]:
        """3.1.7(3): (stress of the block, depth of the block over d at most, reduction); x at most 0.45 d (5.6.3(2): 0.35 d above C50)."""
        lam, eta = _block(fck)
        return eta * fcd, np.asarray(lam * (0.45 if fck <= 50.0 else 0.35)), 1.0

    def _basic(
        self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """v_Rd,c and v_min (6.2.2(1), 6.4.4(1)), MPa, at a shear span that gives no increase."""
        gamma_c, _ = self._gammas(special)
        own = self.national
        k = np.minimum(1 + np.sqrt(0.2 / d), 2.0)
        rho = np.minimum(steel_ratio, 0.02)
        basic = own.shear / gamma_c * k * (100 * rho * fck) ** (1 / 3)
        least = own.shear_least * k**1.5 * fck**0.5
        record("k", "min(1 + sqrt(0.2/d), 2)", k, "", f"{REFERENCE} 6.2.2(1)")
        record("rho", "min(rho_l, 0.02)", rho, "", f"{REFERENCE} 6.2.2(1)")
        record("v_c", f"{own.shear}/gamma_C*k*(100*rho*f_ck)**(1/3)", basic, "MPa", f"{REFERENCE} (6.2a)")
        record("v_min", f"{own.shear_least}*k**1.5*f_ck**0.5", least, "MPa", f"{REFERENCE} (6.3N)")
        return basic, least

    def shear_strength(
        self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder
    ) -> Array:
        """One-way shear without links (6.2.2(1))."""
        basic, least = self._basic(d, fck, steel_ratio, special, record)
        strength: Array = np.maximum(basic, least)
        record("v_Rd", "max(v_c, v_min)", strength, "MPa", f"{REFERENCE} (6.2)")
        return strength

    def punching_strength(
        self, d: Array, a: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder
    ) -> Array:
        """Punching within 2d of the loaded area (6.4.4(2), equation 6.50)."""
        basic, least = self._basic(d, fck, steel_ratio, special, record)
        strength: Array = np.maximum(basic, least) * 2 * d / a
        record("v_Rd", "max(v_c, v_min)*2*d/a", strength, "MPa", f"{REFERENCE} (6.50)")
        return strength

    def face_strength(self, fck: float, fcd: Array, record: Recorder) -> Array:
        """0.4 nu f_cd (6.4.5(3) as amended by A1:2014), nu by (6.6N)."""
        nu = 0.6 * (1 - fck / 250.0)
        strength: Array = self.national.face * nu * fcd
        record("nu", "0.6*(1 - f_ck/250)", nu, "", f"{REFERENCE} (6.6N)")
        record("v_Rd_max", f"{self.national.face}*nu*f_cd", strength, "MPa", f"{REFERENCE} 6.4.5(3), A1:2014")
        return strength

    def minimum_steel(self, d: Array, h: Array, fck: float, fyk: float, record: Recorder) -> Array:
        """9.2.1.1(1) as 9.3.1.1(1) has it for slabs."""
        fctm = mean_tension(fck)
        steel: Array = np.maximum(0.26 * fctm / fyk, 0.0013) * d * 1e6
        record("f_ctm", "", fctm, "MPa", f"{REFERENCE} table 3.1")
        record("A_s_min", "max(0.26*f_ctm/f_yk, 0.0013)*d*1e6", steel, "mm²/m", f"{REFERENCE} (9.1N)")
        return steel

    def anchorage(
        self, ends: BarEnds, fck: float, fyk: float, special: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """9.8.2.2: the bar force F_s = R z_e/z_i at the distance x from the edge (z_i = 0.9 d), anchored beyond it; the bars run on below the column.

        Straight bars within x less the cover, at least the greater of 0.3 l_b,rqd, 10 diameters and 100 mm (8.4.4), l_b,rqd by the acting
        stress (8.3) or, as some annexes have it, by f_yd; hooks count with alpha_1 = 0.7. f_bd with eta_1 of bars high up (figure 8.2), eta_2 of bars beyond 32 mm and f_ctd up
        to that of C60 (8.4.2).
        """
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
        counts = (
            np.full(beside.shape, ends.hooked)
            if self.hooks_always
            else ends.hooked & (beside > 3 * ends.diameter)
        )
        alpha = np.where(counts, 0.7, 1.0)
        least = stress if self.least_by_stress else fyk / gamma_s + 0.0 * stress
        by_stress = ends.diameter / 4 / f_bd
        basic = np.maximum(0.3 * by_stress * least, np.maximum(10 * ends.diameter, 0.1))
        # without tension nothing has to be anchored
        needed = np.where(stress > 1e-4, np.maximum(alpha * by_stress * stress, basic), 0.0)
        there = ends.x - ends.cover
        record(
            "x_a",
            "",
            ends.x,
            "m",
            f"{REFERENCE} 9.8.2.2(5)",
            "from the edge: the worst up to the face, bottom bars from h/2, top bars from h on",
            "l_o h",
        )
        record("e_c", "", self.national.e, "", f"{REFERENCE} 9.8.2.2(3)", "e over the column")
        record("z_e", "max(l_o + (0.5 - e_c)*c_1 - x_a/2, 0)", z_e, "m", f"{REFERENCE} 9.8.2.2(3)")
        record("F_s", "R*z_e/(0.9*d)", F_s, "kN/m", f"{REFERENCE} (9.13)")
        record("sigma_s", "min(1000*F_s/max(A_s, 1e-9), f_yk/gamma_S)", stress, "MPa")
        record("f_ctm", "", fctm, "MPa", f"{REFERENCE} table 3.1, 8.4.2(2)", "at most that of C60")
        record("eta_2", "min(1, (0.132 - oe)/0.1)", thick, "", f"{REFERENCE} 8.4.2(2)", "of thick bars")
        record(
            "eta_1", "where(h > 0.25, where(z_b > where(h > 0.6, h - 0.3, 0.25), 0.7, 1), 1)", bond, "", f"{REFERENCE} figure 8.2", "bond: good 1, poor 0.7"
        )  # fmt: skip
        record("f_bd", "2.25*eta_1*eta_2*0.7*f_ctm/gamma_C", f_bd, "MPa", f"{REFERENCE} (8.2)")
        record(
            "c_d",
            "",
            beside,
            "m",
            f"{REFERENCE} figure 8.3",
            "half the clear spacing, or the cover",
            "oe A_s",
        )
        record(
            "alpha_1", "", alpha, "", f"{REFERENCE} table 8.2", "0.7 with hooks" if self.hooks_always else "0.7 with hooks where c_d > 3 ø", "c_d oe",
        )  # fmt: skip
        record(
            "sigma_b",
            "sigma_s" if self.least_by_stress else "f_yk/gamma_S",
            least,
            "MPa",
            f"{REFERENCE} (8.6)",
            "for the least length",
        )
        record("l_min", "max(max(0.3*oe/4*sigma_b/f_bd, 10*oe), 0.1)", basic, "m", f"{REFERENCE} (8.6)")
        record(
            "l_req",
            "where(sigma_s > 0.0001, max(alpha_1*oe/4*sigma_s/f_bd, l_min), 0)",
            needed,
            "m",
            f"{REFERENCE} 8.4.4",
        )
        record("l_av", "x_a - c", there, "m", note="from the crack to the end of the bar")
        return needed, there

    def column_rules(self, fck: float, fyk: float, spiral: bool = False) -> ColumnRules:
        """3.1.7(3) with 10 % less where the compressed part narrows, 3.2.7 with elastic modulus 200 GPa, 6.1(4), 6.1(5), 9.5.2(2); partial factors of
        persistent situations."""
        strain = 0.0035 if fck <= 50 else 0.0026 + 0.035 * ((90 - fck) / 100) ** 4
        lam, eta = _block(fck)
        own = self.national
        # the block goes with the bilinear diagram: eps_c3 at the point about which the strains turn
        mean = 0.00175 if fck <= 50 else 0.00175 + 0.00055 * (fck - 50) / 40
        return ColumnRules(
            eta * own.alpha_cc * fck / own.gamma_C, lam, strain, fyk / own.gamma_S, 1.0, lambda at: np.ones_like(at.tension), 0.002, 0.10, f"{REFERENCE} 9.5.2(2)",
            0.04, f"{REFERENCE} 9.5.2(3)", lambda size: np.maximum(size / 30, 0.02), f"{REFERENCE} 6.1(4)", mean, 0.9,
        )  # fmt: skip

    def greatest_spacing(self, h: Array, one_way: Array, record: Recorder) -> Array:
        """2h, at most 250 mm: principal bars where the load is concentrated and the moment is greatest, as below a column (9.3.1.1(3))."""
        spacing: Array = np.minimum(2 * h, 0.25)
        record(
            "s_max", "min(2*h, 0.25)", spacing, "m", f"{REFERENCE} 9.3.1.1(3)", "below a concentrated load"
        )
        return spacing

    def search_distances(self, d: Array) -> Array:
        """From 0.1 d to 2 d (6.4.2(2), 6.4.4(2))."""
        distances: Array = np.linspace(0.1, 2.0, 39).reshape(-1, *([1] * d.ndim)) * d
        return distances

    def moment_share(self, ratio: Array) -> Array:
        """Table 6.1: k by c1/c2, c1 along the eccentricity."""
        share: Array = np.interp(ratio, [0.5, 1.0, 2.0, 3.0], [0.45, 0.6, 0.7, 0.8])
        return share

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
        """8.2(2): the diameter, 20 mm, 5 mm more than the aggregate of 16 mm."""
        gap: Array = np.maximum(diameter, 0.021)
        record("g_min", "max(oe, 0.021)", gap, "m", f"{REFERENCE} 8.2(2)", "aggregate 16 mm")
        return gap

    def band_share(self, long_over_short: Array) -> Array:
        """No rule: evenly spaced."""
        return np.ones_like(long_over_short)

    def least_cover(self, diameter: Array, asked: CoverAsked, record: Recorder) -> Array:
        """4.4.1.1: the greatest of bond (4.4.1.2(3)), durability by exposure and structural class (tables 4.3N, 4.4N) and 10 mm, and the allowance for
        deviation; 4.4.1.3(4): at least 40 mm on prepared ground (blinding), 75 mm on soil.

        Structural class S4, two more for a design life of 100 years, one less with the strength of table 4.3N.
        """
        ground = 0.075 if asked.against == "soil" else 0.040
        durable, structural = durability(asked.exposure_en, asked.fck, asked.life)
        bond = np.maximum(np.maximum(diameter, durable), 0.010)
        cover: Array = np.maximum(bond + asked.tolerance, ground)
        record("k_g", "", ground, "m", f"{REFERENCE} 4.4.1.3(4)", f"cast against {asked.against}")
        if asked.exposure_en:
            record(
                "S_c",
                "",
                structural,
                "",
                f"{REFERENCE} table 4.3N",
                f"structural class for {asked.life:g} years",
            )
        what = f"exposure {asked.exposure_en}" if asked.exposure_en else "no exposure class is given"
        record("c_dur", "", durable, "m", f"{REFERENCE} table 4.4N" if asked.exposure_en else "", what)
        record(
            "c_min", "max(max(oe_l, c_dur), 0.01)", bond, "m", f"{REFERENCE} (4.2)", "bond, durability, 10 mm"
        )
        if not asked.fire:
            record("c_req", f"max(c_min + {asked.tolerance}, k_g)", cover, "m", f"{REFERENCE} (4.1)")
            return cover
        axis = FIRE[asked.fire] / 1000
        cover = np.maximum(cover, axis - diameter / 2)
        record(
            "a_fi",
            "",
            axis,
            "m",
            "EN 1992-1-2 table 5.8",
            f"axis distance of bars in slabs, {asked.fire} minutes, one way",
        )
        record(
            "c_req", f"max(max(c_min + {asked.tolerance}, k_g), a_fi - oe_l/2)", cover, "m", f"{REFERENCE} (4.1), EN 1992-1-2 table 5.8"
        )  # fmt: skip
        return cover

    within_column = True
    bearing_slope = 0.5
    bearing_most = 3.0

    def bearing_strength(self, fck: float, fcd: Array, spread: Array, record: Recorder) -> Array:
        """(6.63): f_cd sqrt(A_c1/A_c0), at most 3 f_cd; the areas alike in shape, so that the root is the ratio of their sizes."""
        strength: Array = fcd * spread
        record("f_Rd", "f_cd*k_s", strength, "MPa", f"{REFERENCE} (6.63)")
        return strength

    def plain(self, fck: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """f_ctd,pl (12.3.1(1)) for bending; (12.5) with (12.6) for shear, no axial stress: 1.5 V/A at most f_ctd."""
        gamma_c, _ = self._gammas(special)
        own = self.national
        f_ctd = own.alpha_ct * 0.7 * mean_tension(fck) / gamma_c
        record("f_ctm", "", mean_tension(fck), "MPa", f"{REFERENCE} table 3.1")
        record("gamma_C", "", gamma_c, "", f"{REFERENCE} 2.4.2.4")
        record("f_ctd", f"{own.alpha_ct}*0.7*f_ctm/gamma_C", f_ctd, "MPa", f"{REFERENCE} 12.3.1(1)")
        record("f_Rd", "f_ctd", f_ctd, "MPa", f"{REFERENCE} 12.9.3, AC:2010", "bending")
        record("v_Rd", "f_ctd/1.5", f_ctd / 1.5, "MPa", f"{REFERENCE} 12.6.3", "shear, mean over the section")
        return f_ctd, f_ctd / 1.5

    def plain_punching(self, fck: float, long_over_short: Array, record: Recorder) -> Array | None:
        """None in section 12."""
        return None

    def plain_depth(self, h: Array, deduction: float, record: Recorder) -> Array:
        """0.85 h (12.9.3(1), equation 12.13)."""
        depth: Array = 0.85 * h
        record("h_p", "0.85*h", depth, "m", f"{REFERENCE} (12.13)", "thickness that counts")
        return depth

    def dowel_anchorage(
        self, ends: DowelEnds, fck: float, fyk: float, special: Array, record: Recorder
    ) -> Array:
        """8.4.4 for the stress of the bar: bends do not count in compression, and 0.7 in tension."""
        gamma_c, gamma_s = self._gammas(special)
        f_bd = 2.25 * 0.7 * mean_tension(fck) / gamma_c
        oe, pulled = ends.diameter, ends.pulled
        full = oe / 4 * ends.share * fyk / gamma_s / f_bd
        needed: Array = np.maximum(np.maximum(full * np.where(pulled, 0.7, 1.0), 10 * oe), 0.1)
        record("f_bd", "", f_bd, "MPa", f"{REFERENCE} (8.2)", "good bond")
        record("l_rqd", "oe/4*k_d*f_yd/f_bd", full, "m", f"{REFERENCE} (8.3)")
        record(
            "l_req",
            "max(max(l_rqd*where(pulled > 0, 0.7, 1), 10*oe), 0.1)",
            needed,
            "m",
            f"{REFERENCE} 8.4.4",
        )
        return needed

    def lap(self, diameter: float, fck: float, fyk: float) -> float:
        """8.7.3 with alpha_6 = 1.5, at least 15 diameters and 200 mm."""
        own = self.national
        f_bd = 2.25 * 0.7 * mean_tension(fck) / own.gamma_C
        return max(1.5 * diameter / 4 * fyk / own.gamma_S / f_bd, 15 * diameter, 0.2)

    def ties(self, around: Around, fck: float, fyk: float, record: Recorder) -> tuple[Array, Array, Array]:
        """9.5.3, of ties and spirals alike: a quarter of the bar and 6 mm; 20 bars, the lesser size, 400 mm, times 0.6 next to the base
        (9.5.3(4))."""
        least = np.maximum(around.bar / 4, 0.006)
        spacing = 0.6 * np.minimum(np.minimum(20 * around.bar, around.size), 0.4)
        record("oe_min", "max(oe/4, 0.006)", least, "m", f"{REFERENCE} 9.5.3(1)")
        record("s_max", "0.6*min(min(20*oe, b_min), 0.4)", spacing, "m", f"{REFERENCE} 9.5.3(3), (4)")
        return least, spacing, np.zeros_like(least)

    def slenderness(
        self, length: Array, size: Array, is_round: Array, pressed: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """5.8.3: l_0 = 2 l, lambda = l_0/i (i a quarter of a diameter); limit 20 A B C/sqrt(n) with A = 0.7, B = 1.1, C = 0.7."""
        radii = np.where(is_round > 0, 4.0, np.sqrt(12))
        found, limit = 2 * length * radii / size, 20 * 0.7 * 1.1 * 0.7 / np.sqrt(pressed)
        record("n", "", pressed, "", f"{REFERENCE} 5.8.3.1", "N_Ed over A_c f_cd", "N_Ed")
        record(
            "lambda_p",
            "2*l_p*where(k_o > 0, 4, sqrt(12))/b_min",
            found,
            "",
            f"{REFERENCE} (5.14)",
            "free at the top",
        )
        record("lambda_lim", "20*0.7*1.1*0.7/sqrt(n)", limit, "", f"{REFERENCE} (5.13N)")
        return found, limit

    def opening_reach(self, d: Array, h: Array) -> Array:
        """6 d (6.4.2(3))."""
        reach: Array = 6 * d
        return reach

    def side_bars(
        self, h: Array, diameter: Array, cover: float, fck: float, fyk: float, record: Recorder
    ) -> tuple[Array, Array]:
        """7.3.3(3) from 1.0 m on: 7.3.2(2) with k = 0.5, f_ct,eff = f_ctm, the bars at their yield, over 2.5 (c + oe/2); 350 mm apart at most.

        A rule of beams, taken for thick bases.
        """
        thick = 2.5 * (cover + diameter / 2)
        least = np.where(h >= 1.0, 0.5 * mean_tension(fck) * thick * 1e6 / fyk, 0.0)
        spacing = np.full_like(h, 0.35)
        record("h_c", "", thick, "m", f"{REFERENCE} figure 7.1", "2.5 (c + ø/2)", "oe")
        record(
            "A_s_min",
            f"where(h >= 1, 0.5*{mean_tension(fck)}*h_c*1e6/{fyk}, 0)",
            least,
            "mm²/m",
            f"{REFERENCE} 7.3.3(3), (7.1)",
        )
        record("s_max", "", spacing, "m", f"{REFERENCE} 9.7(1)")
        return least, spacing
