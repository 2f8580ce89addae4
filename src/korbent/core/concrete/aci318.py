"""ACI 318-19 for footings without shear reinforcement, in its own pounds and inches."""

from typing import ClassVar

import numpy as np

from korbent.core.concrete.critical_section import CriticalSection
from korbent.core.concrete.standard import Around, BarEnds, ColumnRules, CoverAsked, DowelEnds
from korbent.core.working import Array, Recorder

REFERENCE = "ACI 318-19"
PSI = 145.0377377
"""psi in one MPa."""
INCH = 0.0254
STEEL_MODULUS = 29e6
"""psi, 20.2.2.2."""
ULTIMATE_STRAIN = 0.003


def beta_1(fck: float) -> float:
    """Depth of the block over that of the pressed zone (table 22.2.2.4.3)."""
    return float(np.clip(0.85 - 0.05 * (fck * PSI - 4000) / 1000, 0.65, 0.85))


def grade_factor(fyk: float) -> float:
    """psi_g (table 25.4.2.5): 1.0 up to grade 60, 1.15 up to grade 80, else 1.3."""
    ksi = fyk * PSI / 1000
    return 1.0 if ksi <= 61 else 1.15 if ksi <= 81 else 1.3


def hooked_length(
    diameter: Array, apart: Array, fck: float, fyk: float, beside: float | Array, record: Recorder
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
    record(
        "psi_o",
        "",
        beside,
        "",
        f"{REFERENCE} table 25.4.3.2",
        "1.0 where the cover beside is 6 diameters and up to No. 11, else 1.25",
    )
    record("psi_c", "", strength, "", f"{REFERENCE} table 25.4.3.2", "f′c/15000 + 0.6, at most 1")
    record(
        "psi_r",
        "where(oe > 0.0359, 1.6, where(s_d >= 6*oe - 1e-9, 1, 1.6))",
        confined,
        "",
        f"{REFERENCE} table 25.4.3.2",
    )
    record(
        "l_dh", f"max(max({fyk * PSI}*psi_r*psi_o*psi_c/(55*{root})*(oe/{INCH})**1.5, 8*oe/{INCH}), 6)*{INCH}", found, "m",
        f"{REFERENCE} 25.4.3.1",
    )  # fmt: skip
    return found


def _straight(
    ends: BarEnds, apart: Array, root: float, fy: float, fyk: float, record: Recorder
) -> tuple[Array, float]:
    """(l_d of straight bars, least length), m: table 25.4.2.3, or 25.4.2.4a with K_tr = 0, the lesser. Expects ``oe``, ``s_d``, ``c``."""
    db, grade = ends.diameter / INCH, grade_factor(fyk)
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
    record("psi_g", "", grade, "", f"{REFERENCE} table 25.4.2.5", "by the grade")
    record(
        "psi_t", f"where(z_b - oe/2 > 12*{INCH}, 1.3, 1)", high, "", f"{REFERENCE} table 25.4.2.5", "1.3 with more than 12 in. cast below"
    )  # fmt: skip
    record(
        "k_c",
        "",
        np.where(spaced, 1.0, 1.5),
        "",
        f"{REFERENCE} table 25.4.2.3",
        "1 spaced and covered, 1.5 other cases",
        "oe s_d c",
    )
    record(
        "l_t",
        f"f_y*{PSI}*psi_t*psi_g/(where(oe/{INCH} <= 0.76, 25, 20)*r_fc)*oe/{INCH}*k_c",
        tabled,
        "in",
        f"{REFERENCE} table 25.4.2.3",
    )
    record(
        "c_b",
        "min(min(c + oe/2, s_d/2)/max(oe, 1e-9), 2.5)",
        around,
        "",
        f"{REFERENCE} 25.4.2.4",
        "cover or half the spacing over the bar",
    )
    record(
        "l_g",
        f"3/40*f_y*{PSI}*psi_t/r_fc*where(oe/{INCH} <= 0.76, 0.8, 1)*psi_g/max(c_b, 1e-9)*oe/{INCH}",
        general,
        "in",
        f"{REFERENCE} (25.4.2.4a)",
    )
    record("l_d", f"min(l_t, l_g)*{INCH}", full, "m", f"{REFERENCE} 25.4.2")
    return full, 12 * INCH


AGAINST, EXPOSED, SHELTERED, CORROSIVE = (
    "against the ground", "in contact with ground or weather", "neither ground nor weather", "corrosive",
)  # fmt: skip
"""How concrete is cast and exposed (table 20.5.1.3.1, 20.5.1.4.1), as the setting names it."""


class ACI318:
    """The rules of ACI 318-19 for footings (chapter 13). Normal-weight concrete."""

    name = "ACI 318-19"
    ductile: ClassVar[str] = "ACI 318-19 9.3.3.1"
    least_depth: ClassVar[tuple[float, str]] = (6 * INCH, "ACI 318-19 13.3.1.2")
    links_from: ClassVar[tuple[float, str]] = (0.0, "")
    least_over_needed: ClassVar[tuple[float, str]] = (4 / 3, "ACI 318-19 9.6.1.3")
    searches = False
    clauses: ClassVar[dict[str, str]] = {
        "anchorage-x": "ACI 318-19 13.2.8", "anchorage-y": "ACI 318-19 13.2.8",
        "punching": "ACI 318-19 22.6", "punching-face": "ACI 318-19 22.6", "shear-x": "ACI 318-19 22.5.5.1", "shear-y": "ACI 318-19 22.5.5.1",
        "bottom-x": "ACI 318-19 22.2", "bottom-y": "ACI 318-19 22.2", "top-x": "ACI 318-19 22.2", "top-y": "ACI 318-19 22.2",
        "minimum-x": "ACI 318-19 8.6.1.1", "minimum-y": "ACI 318-19 8.6.1.1", "spacing-x": "ACI 318-19 7.7.2.3", "spacing-y": "ACI 318-19 7.7.2.3",
        "cover": "ACI 318-19 20.5.1.3", "side-bars": "ACI 318-19 9.7.2.3", "bearing-concrete": "ACI 318-19 22.8.3", "dowels": "ACI 318-19 22.4",
        "dowels-steel": "ACI 318-19 16.3.4.1", "dowels-anchorage": "ACI 318-19 25.4.9", "plain-x": "ACI 318-19 14.5.2", "plain-y": "ACI 318-19 14.5.2",
        "plain-shear-x": "ACI 318-19 14.5.5", "plain-shear-y": "ACI 318-19 14.5.5", "plain-punching": "ACI 318-19 14.5.5", "pedestal": "ACI 318-19 22.4",
        "pedestal-steel": "ACI 318-19 16.3.4.1", "pedestal-ties": "ACI 318-19 25.7.2", "pedestal-slender": "ACI 318-19 6.2.5.1",
        "cracks-x": "ACI 318-19 24.3.2", "cracks-y": "ACI 318-19 24.3.2",
    }  # fmt: skip

    cracks_near_edge = False

    def __init__(self, size_effect: bool = False) -> None:
        self.size_effect = size_effect

    def strengths(self, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """Nominal: 0.85 f'c over the stress block (22.2.2.4.1), fy; the strength reduction factors come with each check."""
        fcd, fyd = np.full(special.shape, 0.85 * fck), np.full(special.shape, fyk)
        record("f_c", "", fck, "MPa", note="specified compressive strength f′c")
        record("f_y", "", fyk, "MPa", note="reinforcing steel")
        record("f_yd", "f_y", fyd, "MPa")
        record("f_cd", "0.85*f_c", fcd, "MPa", f"{REFERENCE} 22.2.2.4.1")
        return fcd, fyd

    def block(self, fck: float, fcd: Array, fyd: Array) -> tuple[Array, Array, float]:
        """22.2.2.4; the section tension-controlled: eps_t at least eps_ty + 0.003 (21.2.2, 9.3.3.1); phi = 0.9."""
        yield_strain = fyd * PSI / STEEL_MODULUS
        return fcd, beta_1(fck) * ULTIMATE_STRAIN / (ULTIMATE_STRAIN + yield_strain + 0.003), 0.9

    def shear_section(self, d: Array, h: Array) -> tuple[Array, Array]:
        """At d from the face (13.2.7.2, 7.4.3.2); stress over d."""
        return d, d

    def _size(self, d: Array, record: Recorder) -> Array:
        size = np.minimum(np.sqrt(2 / (1 + d / INCH / 10)), 1.0) if self.size_effect else np.ones_like(d)
        formula = f"min(sqrt(2/(1 + d/{INCH}/10)), 1)" if self.size_effect else "1 + 0*d"
        note = "" if self.size_effect else "left out: shallow foundations (13.2.6.2)"
        record("lambda_s", formula, size, "", f"{REFERENCE} 22.5.5.1.3", note)
        return size

    def shear_strength(
        self, d: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder
    ) -> Array:
        """phi V_c over b d: 8 lambda_s rho^(1/3) sqrt(f'c), at most 5 sqrt(f'c), psi (table 22.5.5.1 (c), 22.5.5.1.1)."""
        root = min(np.sqrt(fck * PSI), 100.0)
        size = self._size(d, record)
        stress = np.minimum(8 * size * steel_ratio ** (1 / 3), 5.0) * root
        strength: Array = 0.75 * stress / PSI + np.zeros_like(d)
        record("r_fc", f"min(sqrt(f_c*{PSI}), 100)", root, "psi", f"{REFERENCE} 22.5.3.1", "√f′c")
        record(
            "v_c", "min(8*lambda_s*rho_l**(1/3), 5)*r_fc", stress, "psi", f"{REFERENCE} table 22.5.5.1 (c)"
        )
        record("v_Rd", f"0.75*v_c/{PSI}", strength, "MPa", f"{REFERENCE} 21.2.1", "φ = 0.75")
        return strength

    def round_side(self, diameter: Array, d: Array) -> Array:
        """A square of the same area (22.6.4.1.2)."""
        side: Array = diameter * np.sqrt(np.pi) / 2
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
        """phi v_c of two-way shear: the least of 4, 2 + 4/beta, 2 + alpha_s d/b_o times lambda_s sqrt(f'c), psi (table 22.6.5.2).

        alpha_s: 40 where the section has four sides, 30 with three, 20 with two.
        """
        root = min(np.sqrt(fck * PSI), 100.0)
        size = self._size(d, record)
        alpha = np.where(sides >= 4, 40.0, np.where(sides == 3, 30.0, 20.0))
        factor = np.minimum(np.minimum(4.0, 2 + 4 / long_over_short), 2 + alpha * d / section.length)
        strength: Array = 0.75 * factor * size * root / PSI
        record("r_fc", f"min(sqrt(f_c*{PSI}), 100)", root, "psi", f"{REFERENCE} 22.6.3.1", "√f′c")
        record(
            "beta",
            "",
            long_over_short,
            "",
            f"{REFERENCE} 22.6.5.3",
            "long over short side of the loaded area",
        )
        record("alpha_s", "", alpha, "", f"{REFERENCE} 22.6.5.3", "40, 30, 20: four, three, two sides")
        record("k_v", "min(min(4, 2 + 4/beta), 2 + alpha_s*d/b_o)", factor, "", f"{REFERENCE} table 22.6.5.2")
        record(
            "v_Rd",
            f"0.75*k_v*lambda_s*r_fc/{PSI}",
            strength,
            "MPa",
            f"{REFERENCE} 22.6.5, 21.2.1",
            "φ = 0.75",
        )
        return strength

    def section_demand(
        self, V: Array, M_x: Array, M_y: Array, section: CriticalSection, d: Array, record: Recorder
    ) -> Array:
        """V/(b_o d) + gamma_v M c/J (8.4.4.2.3, 22.6.4), MPa, the worst of the corners and ends of the section; J with its d^3 terms.

        Where the section has no axis of symmetry (a corner), about its principal axes: the linear stress in equilibrium with both
        moments, by J_x, J_y and the product J_xy.
        """
        J_x = d * section.second_x + section.parallel_y * d**3 / 12
        J_y = d * section.second_y + section.parallel_x * d**3 / 12
        J_xy = d * section.product
        g_x = 1 - 1 / (1 + 2 / 3 * np.sqrt(section.size_y / section.size_x))
        g_y = 1 - 1 / (1 + 2 / 3 * np.sqrt(section.size_x / section.size_y))
        determinant = np.maximum(J_x * J_y - J_xy**2, 1e-12 * J_x * J_y + 1e-30)
        # moments turn so that a downward force at +x has +My and at +y has -Mx
        about_y, about_x = g_y * M_y, -g_x * M_x
        slope_x = (about_y * J_x - about_x * J_xy) / determinant
        slope_y = (about_x * J_y - about_y * J_xy) / determinant
        corners = (
            slope_x[..., None] * section.corner_x[:, None, :]
            + slope_y[..., None] * section.corner_y[:, None, :]
        )
        mean = V / (section.length * d)
        demand: Array = np.abs(mean[..., None] + corners).max(axis=-1) / 1000
        for symbol, value, unit, note in (
            ("J_x", J_x, "m⁴", "about x"), ("J_y", J_y, "m⁴", "about y"), ("J_xy", J_xy, "m⁴", "product, of a section without symmetry"),
            ("b_x", section.size_x, "m", "extent along x"), ("b_y", section.size_y, "m", "extent along y"),
        ):  # fmt: skip
            record(symbol, "", value, unit, f"{REFERENCE} R8.4.4.2.3" if symbol[0] == "J" else "", note)
        record("gamma_vx", "1 - 1/(1 + 2/3*sqrt(b_y/b_x))", g_x, "", f"{REFERENCE} 8.4.4.2.2")
        record("gamma_vy", "1 - 1/(1 + 2/3*sqrt(b_x/b_y))", g_y, "", f"{REFERENCE} 8.4.4.2.2")
        record("D_J", "max(J_x*J_y - J_xy**2, 1e-12*J_x*J_y + 1e-30)", determinant, "m⁸")
        record(
            "v_x",
            "(gamma_vy*M_yu*J_x + gamma_vx*M_xu*J_xy)/D_J",
            slope_x,
            "kPa/m",
            note="slope of the stress along x",
        )
        record("v_y", "(-gamma_vx*M_xu*J_y - gamma_vy*M_yu*J_xy)/D_J", slope_y, "kPa/m", note="along y")
        names = []
        for k in range(4):
            record(
                f"x_{k + 1}",
                "",
                section.corner_x[:, k : k + 1],
                "m",
                note="a corner or end of the section, from its middle; 0, 0 where there is none",
            )
            record(f"y_{k + 1}", "", section.corner_y[:, k : k + 1], "m")
            names.append(f"abs(v_m + v_x*x_{k + 1} + v_y*y_{k + 1})")
        record("v_m", "V_red/(b_o*d)", mean, "kPa", note="mean stress")
        record(
            "v_Ed",
            f"max({', '.join(names)})/1000",
            demand,
            "MPa",
            f"{REFERENCE} 8.4.4.2.3",
            "the worst of the corners and ends",
        )
        return demand

    def minimum_steel(self, d: Array, h: Array, fck: float, fyk: float, record: Recorder) -> Array:
        """0.0018 A_g (8.6.1.1, by 13.3.3.1)."""
        steel: Array = 0.0018 * h * 1e6
        record("A_s_min", "0.0018*h*1e6", steel, "mm²/m", f"{REFERENCE} 8.6.1.1")
        return steel

    def anchorage(
        self, ends: BarEnds, fck: float, fyk: float, special: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """Development from the critical section at the face to the end of the bar (13.2.8.3); nearer to the edge than the thickness the
        bars run on below the column. Straight by table 25.4.2.3, spaced and covered or other cases, or by 25.4.2.4a, the lesser; reduced for
        excess steel (25.4.10.1), not below 12 in.; hooked 25.4.3.1, not reduced (25.4.10.2).

        Normal-weight concrete, uncoated bars, no transverse steel.
        """
        psi, fy = min(np.sqrt(fck * PSI), 100.0), fyk * PSI
        apart = np.pi * ends.diameter**2 / 4 / np.maximum(ends.provided / 1e6, 1e-12)
        record("r_fc", f"min(sqrt(f_c*{PSI}), 100)", psi, "psi", f"{REFERENCE} 25.4.1.4", "√f′c")
        record("s_d", "", apart, "m", note="width for each bar", needs="A_s oe")
        record("c", "", ends.cover, "m", note="cover")
        if ends.hooked:
            beside = np.where(ends.cover >= 6 * ends.diameter, 1.0, 1.25)
            needed = hooked_length(ends.diameter, apart, fck, fyk, beside, record)
            formula, clause, note = "l_dh", f"{REFERENCE} 25.4.3.1", "hook"
        else:
            full, least = _straight(ends, apart, psi, fy, fyk, record)
            needed = np.maximum(full * ends.share, least)
            record(
                "k_x",
                "",
                ends.share,
                "",
                f"{REFERENCE} 25.4.10.1",
                "steel needed at the face over that provided",
                "A_s",
            )
            formula, clause, note = f"max(l_d*k_x, {least})", f"{REFERENCE} 25.4.10.1, 25.4.2.1", "straight"
        needed = np.where(ends.share > 0.0, needed, 0.0)
        there = np.maximum(ends.outstand, ends.x) - ends.cover
        record(
            "k_t",
            "",
            np.where(ends.share > 0.0, 1.0, 0.0),
            "",
            "",
            "1 where there is tension at the face",
            "R",
        )
        record("l_req", f"where(k_t > 0.5, {formula}, 0)", needed, "m", clause, note)
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
        """22.2.2, 21.2.2 (phi 0.65 to 0.9 for ties, 0.75 to 0.9 for spirals), 22.4.2.1 (0.80 P_o, 0.85 P_o), 16.3.4.1 (0.005 A_g)."""
        least, most = (0.75, 0.85) if spiral else (0.65, 0.80)
        beta = beta_1(fck)
        yields = fyk * PSI / STEEL_MODULUS
        return ColumnRules(
            0.85 * fck, beta, ULTIMATE_STRAIN, fyk, most, lambda at: least + (0.9 - least) * np.clip((at.tension - yields) / 0.003, 0.0, 1.0), 0.005, 0.0,
            f"{REFERENCE} 16.3.4.1", 0.08, f"{REFERENCE} 10.6.1.1", lambda size: 0.0 * size, f"{REFERENCE} 22.4.2.1",
        )  # fmt: skip

    def greatest_spacing(self, h: Array, one_way: Array, record: Recorder) -> Array:
        """Under a wall the lesser of 3h and 18 in. (7.7.2.3), under columns of 2h and 18 in. (8.7.2.2)."""
        spacing: Array = np.minimum(np.where(one_way > 0.0, 3.0, 2.0) * h, 18 * INCH)
        record("k_1w", "", one_way, "", "", "1: spans one way, under a wall")
        record(
            "s_max", f"min(where(k_1w > 0, 3, 2)*h, 18*{INCH})", spacing, "m", f"{REFERENCE} 7.7.2.3, 8.7.2.2"
        )  # fmt: skip
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
        """8.6.1.2: 5 v_uv b_slab b_o/(phi alpha_s f_y) over b_slab where v_uv exceeds phi 2 lambda_s sqrt(f'c), phi = 0.75."""
        root, scale = min(np.sqrt(fck * PSI), 100.0), self._size(d, record)
        limit = 0.75 * 2 * scale * root / PSI
        alpha = np.where(sides >= 4, 40.0, np.where(sides == 3, 30.0, 20.0))
        over = stress > limit
        least: Array = np.where(over, 5e6 * stress * perimeter / (0.75 * alpha * fyk), 0.0)
        record("v_lim", "", limit, "MPa", f"{REFERENCE} 8.6.1.2", "φ 2 λ_s √f′c", "lambda_s")
        record("alpha_s", "", alpha, "", f"{REFERENCE} 22.6.5.3", "40, 30, 20 by the sides")
        record(
            "A_s_col", f"where(v_uv > v_lim, 5000000*v_uv*b_o/(0.75*alpha_s*{fyk}), 0)", least, "mm²/m", f"{REFERENCE} 8.6.1.2", "near the column"
        )  # fmt: skip
        return least

    def least_gap(self, diameter: Array, record: Recorder) -> Array:
        """25.2.1: 1 in., the diameter, 4/3 of the aggregate of 3/4 in."""
        gap: Array = np.maximum(diameter, INCH)
        record("g_min", f"max(oe, {INCH})", gap, "m", f"{REFERENCE} 25.2.1", "aggregate 3/4 in.")
        return gap

    def band_share(self, long_over_short: Array) -> Array:
        """2 beta/(beta + 1): the steel of the band (13.3.3.3) spread over the whole length."""
        share: Array = 2 * long_over_short / (long_over_short + 1)
        return share

    def least_cover(self, diameter: Array, asked: CoverAsked, record: Recorder) -> Array:
        """Table 20.5.1.3.1: cast against ground 3 in.; on blinding, in contact with ground or weather 1.5 in. up to #5, 2 in. beyond; neither
        3/4 in. up to #11, 1.5 in. beyond; corrosive surroundings 2.5 in. (20.5.1.4.1, commentary)."""
        where = asked.exposure_aci
        if where == "by the casting":
            where = AGAINST if asked.against == "soil" else EXPOSED
        inches, clause = {
            AGAINST: (np.full_like(diameter, 3.0), "table 20.5.1.3.1"),
            EXPOSED: (np.where(diameter <= 0.64 * INCH, 1.5, 2.0), "table 20.5.1.3.1"),
            SHELTERED: (np.where(diameter <= 1.42 * INCH, 0.75, 1.5), "table 20.5.1.3.1"),
            CORROSIVE: (
                np.full_like(diameter, 2.5 if asked.against != "soil" else 3.0),
                "20.5.1.4.1 and its commentary",
            ),
        }[where]
        cover: Array = inches * INCH
        record(
            "c_req", "", cover, "m", f"{REFERENCE} {clause}", f"{where}, cast against {asked.against}", "oe_l"
        )
        return cover

    within_column = False
    bearing_slope = 2.0
    bearing_most = 2.0

    def bearing_strength(self, fck: float, fcd: Array, spread: Array, record: Recorder) -> Array:
        """Table 22.8.3.2: 0.85 f'c sqrt(A_2/A_1), at most twice it; phi = 0.65 (21.2.1)."""
        strength: Array = 0.65 * fcd * spread
        record("f_Rd", "0.65*f_cd*k_s", strength, "MPa", f"{REFERENCE} table 22.8.3.2", "φ = 0.65")
        return strength

    def plain(self, fck: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """phi = 0.6 (21.2.1): 5 sqrt(f'c) (14.5.2.1); 4/3 sqrt(f'c) (table 14.5.5.1)."""
        root = min(np.sqrt(fck * PSI), 100.0)
        flexure, shear = (np.full(special.shape, 0.6 * k * root / PSI) for k in (5.0, 4 / 3))
        record("r_fc", "", root, "psi", f"{REFERENCE} 22.6.3.1", "√f′c")
        record("f_Rd", f"0.6*5*r_fc/{PSI}", flexure, "MPa", f"{REFERENCE} 14.5.2.1", "φ = 0.6")
        record("v_Rd", f"0.6*4/3*r_fc/{PSI}", shear, "MPa", f"{REFERENCE} table 14.5.5.1", "φ = 0.6")
        return flexure, shear

    def plain_punching(self, fck: float, long_over_short: Array, record: Recorder) -> Array | None:
        """phi (1 + 2/beta) 4/3 sqrt(f'c), at most twice 4/3 (table 14.5.5.1)."""
        root = min(np.sqrt(fck * PSI), 100.0)
        strength: Array = 0.6 * np.minimum(1 + 2 / long_over_short, 2.0) * 4 / 3 * root / PSI
        record("beta", "", long_over_short, "", note="long over short side of the loaded area")
        record(
            "v_Rd",
            f"0.6*min(1 + 2/beta, 2)*4/3*r_fc/{PSI}",
            strength,
            "MPa",
            f"{REFERENCE} table 14.5.5.1",
            "φ = 0.6",
        )
        return strength

    def plain_depth(self, h: Array, deduction: float, record: Recorder) -> Array:
        """h less 2 in. cast against soil (14.5.1.7)."""
        depth: Array = np.maximum(h - deduction, h / 10)
        record(
            "h_p", f"max(h - {deduction}, h/10)", depth, "m", f"{REFERENCE} 14.5.1.7", "thickness that counts"
        )
        return depth

    def dowel_anchorage(
        self, ends: DowelEnds, fck: float, fyk: float, special: Array, record: Recorder
    ) -> Array:
        """25.4.9.2 in compression, by the stress (25.4.10.1), bends do not count; 25.4.3.1 for hooks where some are pulled, for fy."""
        root, fy, oe = min(np.sqrt(fck * PSI), 100.0), fyk * PSI, ends.diameter
        full = np.maximum(fy / (50 * root), 0.0003 * fy) * oe / INCH
        pressed = np.maximum(ends.share * full, 8.0) * INCH
        hooked = hooked_length(oe, ends.apart, fck, fyk, 1.0, record)
        needed: Array = np.where(ends.pulled, np.maximum(pressed, hooked), pressed)
        record(
            "l_dc",
            f"max(k_d*max({fy}/(50*{root}), 0.0003*{fy})*oe/{INCH}, 8)*{INCH}",
            pressed,
            "m",
            f"{REFERENCE} 25.4.9.2",
        )
        record("l_req", "where(pulled > 0, max(l_dc, l_dh), l_dc)", needed, "m")
        return needed

    def lap(self, diameter: float, fck: float, fyk: float) -> float:
        """1.3 l_d (25.5.2.1, class B), at least 12 in."""
        root, db = min(float(np.sqrt(fck * PSI)), 100.0), diameter / INCH
        return (
            max(1.3 * grade_factor(fyk) * fyk * PSI / ((25 if db <= 0.76 else 20) * root) * db, 12.0) * INCH
        )

    def ties(self, around: Around, fck: float, fyk: float, record: Recorder) -> tuple[Array, Array, Array]:
        """25.7.2: #3 around bars up to #10, #4 beyond; 16 bars, 48 ties, the least size.

        Spirals 25.7.3: #3 and more, 1 to 3 in. clear, rho_s at least 0.45 (A_g/A_ch - 1) f'c/f_yt, and six bars within (10.7.3.1).
        """
        spiral, tie = around.spiral > 0, around.tie
        least = np.where((around.bar <= 1.28 * INCH) | spiral, 0.375, 0.5) * INCH * 0.999
        tied = np.minimum(np.minimum(16 * around.bar, 48 * tie), around.size)
        spacing = np.where(spiral, 3 * INCH + tie, tied)
        record("oe_min", "", least, "m", f"{REFERENCE} 25.7.2.2, 25.7.3.2", "#3 or #4", "oe")
        if not spiral.any():
            record("s_max", "min(min(16*oe, 48*oe_t), b_min)", spacing, "m", f"{REFERENCE} 25.7.2.1")
            return least, spacing, np.zeros_like(least)
        record(
            "s_max", f"where(k_sp > 0, 3*{INCH} + oe_t, min(min(16*oe, 48*oe_t), b_min))", spacing, "m", f"{REFERENCE} 25.7.2.1, 25.7.3.1"
        )  # fmt: skip
        core = around.size - 2 * around.cover
        share = np.pi * (core - tie) * np.pi * tie**2 / 4 / (around.spacing * np.pi * core**2 / 4)
        asked = 0.45 * ((around.size / core) ** 2 - 1) * fck / min(fyk, 100_000 / PSI)
        clear = np.maximum(around.spacing - tie, 1e-6)
        more = np.maximum(np.maximum(asked / share, INCH / clear), 6 / around.bars) * spiral
        record("c_t", "", around.cover, "m", note="cover of the spiral")
        record("n_b", "", around.bars, "", note="bars")
        record("D_ch", "b_min - 2*c_t", core, "m", note="to the outside of the spiral")
        record("rho_s", "4*(D_ch - oe_t)*pi*oe_t**2/4/(s_t*D_ch**2)", share, "", f"{REFERENCE} 25.7.3.3")
        record(
            "rho_min", "", asked, "", f"{REFERENCE} 25.7.3.3", "0.45 (A_g/A_ch - 1) f′c/f_yt", "b_min D_ch"
        )
        record(
            "k_more",
            f"max(max(rho_min/rho_s, {INCH}/max(s_t - oe_t, 0.000001)), 6/n_b)*k_sp",
            more,
            "",
            f"{REFERENCE} 25.7.3.1, 10.7.3.1",
        )
        return least, spacing, more

    def slenderness(
        self, length: Array, size: Array, is_round: Array, pressed: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """6.2.5.1: k l_u/r at most 22, k = 2, r = 0.3 h, of a circle 0.25 D (6.2.5.2)."""
        radius = np.where(is_round > 0, 0.25, 0.3)
        found, limit = 2 * length / (radius * size), np.full_like(pressed, 22.0)
        record(
            "lambda_p",
            "2*l_p/(where(k_o > 0, 0.25, 0.3)*b_min)",
            found,
            "",
            f"{REFERENCE} 6.2.5.1",
            "free at the top",
        )
        record("lambda_lim", "", limit, "", f"{REFERENCE} 6.2.5.1")
        return found, limit

    def opening_reach(self, d: Array, h: Array) -> Array:
        """4 h (22.6.4.3)."""
        reach: Array = 4 * h
        return reach

    def side_bars(
        self, h: Array, diameter: Array, cover: float, fck: float, fyk: float, record: Recorder
    ) -> tuple[Array, Array]:
        """9.7.2.3 beyond 36 in.: spacing by 24.3.2 with two thirds of fy; a rule of beams, taken for thick bases."""
        ksi = 2 / 3 * fyk * PSI
        spacing = np.full_like(h, min(15 * 40_000 / ksi - 2.5 * cover / INCH, 12 * 40_000 / ksi) * INCH)
        least = np.where(h > 36 * INCH, 1.0, 0.0)
        record(
            "A_s_min",
            f"where(h > 36*{INCH}, 1, 0)",
            least,
            "mm²/m",
            f"{REFERENCE} 9.7.2.3",
            "bars of any size",
        )
        record("s_max", "", spacing, "m", f"{REFERENCE} 24.3.2")
        return least, spacing
