"""ACI 318: punching."""

import numpy as np

from korbent.core.concrete.critical_section import CriticalSection
from korbent.core.concrete.standards.aci318.section import PSI
from korbent.core.concrete.standards.aci318.shear import Shear
from korbent.core.working import Array, Recorder
from korbent.words import say


class Punching(Shear):
    """ACI 318: punching."""

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
        """phi v_c of two-way shear: the least of 4, 2 + 4/beta, 2 + alpha_s d/b_o times lambda_s sqrt(f'c), psi (table
        22.6.5.2).

        alpha_s: 40 where the section has four sides, 30 with three, 20 with two.
        """
        root = min(np.sqrt(fck * PSI), 100.0)
        size = self._size(d, record)
        alpha = np.where(sides >= 4, 40.0, np.where(sides == 3, 30.0, 20.0))
        factor = np.minimum(np.minimum(4.0, 2 + 4 / long_over_short), 2 + alpha * d / section.length)
        strength: Array = 0.75 * factor * size * root / PSI
        record.step(
            "r_fc",
            f"min(sqrt(f_c*{PSI}), 100)",
            root,
            "psi",
            reference=f"{self.reference} 22.6.3.1",
            note="√f′c",
        )
        record.given(
            "beta",
            long_over_short,
            reference=f"{self.reference} 22.6.5.3",
            note=say("long over short side of the loaded area"),
        )
        record.given(
            "alpha_s",
            alpha,
            reference=f"{self.reference} 22.6.5.3",
            note=say("40, 30, 20: four, three, two sides"),
        )
        record.step(
            "k_v",
            "min(min(4, 2 + 4/beta), 2 + alpha_s*d/b_o)",
            factor,
            reference=f"{self.reference} table 22.6.5.2",
        )
        record.step(
            "v_Rd",
            f"0.75*k_v*lambda_s*r_fc/{PSI}",
            strength,
            "MPa",
            reference=f"{self.reference} 22.6.5, 21.2.1",
            note="φ = 0.75",
        )
        return strength

    def section_demand(
        self, V: Array, M_x: Array, M_y: Array, section: CriticalSection, d: Array, record: Recorder
    ) -> Array:
        """V/(b_o d) + gamma_v M c/J (8.4.4.2.3, 22.6.4), MPa, the worst of the corners and ends of the section; J with
        its d^3 terms.

        Where the section has no axis of symmetry (a corner), about its principal axes: the linear stress in equilibrium
        with both moments, by J_x, J_y and the product J_xy."""
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
        corners = slope_x[..., None] * section.corner_x[:, None, :] + slope_y[..., None] * section.corner_y[:, None, :]
        mean = V / (section.length * d)
        demand: Array = np.abs(mean[..., None] + corners).max(axis=-1) / 1000
        for symbol, value, unit, note in (
            ("J_x", J_x, "m⁴", say("about x")),
            ("J_y", J_y, "m⁴", say("about y")),
            ("J_xy", J_xy, "m⁴", say("product, of a section without symmetry")),
            ("b_x", section.size_x, "m", say("extent along x")),
            ("b_y", section.size_y, "m", say("extent along y")),
        ):
            record.given(
                symbol,
                value,
                unit,
                reference=f"{self.reference} R8.4.4.2.3" if symbol[0] == "J" else "",
                note=note,
            )
        record.step("gamma_vx", "1 - 1/(1 + 2/3*sqrt(b_y/b_x))", g_x, reference=f"{self.reference} 8.4.4.2.2")
        record.step("gamma_vy", "1 - 1/(1 + 2/3*sqrt(b_x/b_y))", g_y, reference=f"{self.reference} 8.4.4.2.2")
        record.step("D_J", "max(J_x*J_y - J_xy**2, 1e-12*J_x*J_y + 1e-30)", determinant, "m⁸")
        record.step(
            "v_x",
            "(gamma_vy*M_yu*J_x + gamma_vx*M_xu*J_xy)/D_J",
            slope_x,
            "kPa/m",
            note=say("slope of the stress along x"),
        )
        record.step("v_y", "(-gamma_vx*M_xu*J_y - gamma_vy*M_yu*J_xy)/D_J", slope_y, "kPa/m", note=say("along y"))
        names = []
        for k in range(4):
            record.given(
                f"x_{k + 1}",
                section.corner_x[:, k : k + 1],
                "m",
                note=say("a corner or end of the section, from its middle; 0, 0 where there is none"),
            )
            record.given(f"y_{k + 1}", section.corner_y[:, k : k + 1], "m")
            names.append(f"abs(v_m + v_x*x_{k + 1} + v_y*y_{k + 1})")
        record.step("v_m", "V_red/(b_o*d)", mean, "kPa", note=say("mean stress"))
        record.step(
            "v_Ed",
            f"max({', '.join(names)})/1000",
            demand,
            "MPa",
            reference=f"{self.reference} 8.4.4.2.3",
            note=say("the worst of the corners and ends"),
        )
        return demand

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
        """8.6.1.2: 5 v_uv b_slab b_o/(phi alpha_s f_y) over b_slab where v_uv exceeds phi 2 lambda_s sqrt(f'c), phi =
        0.75."""
        root, scale = min(np.sqrt(fck * PSI), 100.0), self._size(d, record)
        limit = 0.75 * 2 * scale * root / PSI
        alpha = np.where(sides >= 4, 40.0, np.where(sides == 3, 30.0, 20.0))
        over = stress > limit
        least: Array = np.where(over, 5e6 * stress * perimeter / (0.75 * alpha * fyk), 0.0)
        record.given(
            "v_lim",
            limit,
            "MPa",
            reference=f"{self.reference} 8.6.1.2",
            note="φ 2 λ_s √f′c",
            needs="lambda_s",
        )
        record.given("alpha_s", alpha, reference=f"{self.reference} 22.6.5.3", note=say("40, 30, 20 by the sides"))
        record.step(
            "A_s_col",
            f"where(v_uv > v_lim, 5000000*v_uv*b_o/(0.75*alpha_s*{fyk}), 0)",
            least,
            "mm²/m",
            reference=f"{self.reference} 8.6.1.2",
            note=say("near the column"),
        )
        return least

    def opening_reach(self, d: Array, h: Array) -> Array:
        """4 h (22.6.4.3)."""
        reach: Array = 4 * h
        return reach

    def plain_punching(self, fck: float, long_over_short: Array, record: Recorder) -> Array | None:
        """phi (1 + 2/beta) 4/3 sqrt(f'c), at most twice 4/3 (table 14.5.5.1)."""
        root = min(np.sqrt(fck * PSI), 100.0)
        strength: Array = 0.6 * np.minimum(1 + 2 / long_over_short, 2.0) * 4 / 3 * root / PSI
        record.given("beta", long_over_short, note=say("long over short side of the loaded area"))
        record.step(
            "v_Rd",
            f"0.6*min(1 + 2/beta, 2)*4/3*r_fc/{PSI}",
            strength,
            "MPa",
            reference=f"{self.reference} table 14.5.5.1",
            note="φ = 0.6",
        )
        return strength
