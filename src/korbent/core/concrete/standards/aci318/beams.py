"""ACI 318: beams."""

import numpy as np

from korbent.core.concrete.standards.aci318.cracks import Cracks
from korbent.core.concrete.standards.aci318.section import INCH, PSI
from korbent.core.working import Array, Recorder
from korbent.words import say


class Beams(Cracks):
    """ACI 318: beams."""

    across = True
    """The distance of the legs across the width has a limit (since 318-19)."""

    def shear_with_links(
        self, concrete: Array, fck: float, fcd: Array, fyk: float, fyd: Array, links: float, record: Recorder
    ) -> Array:
        """phi (V_c + V_s) (22.5.1.1, 22.5.8.5.3), V_s at most 8 sqrt(f'c) (22.5.1.2), f_yt at most 60,000 psi (table
        20.2.2.4(a))."""
        yield_ = min(fyk, 60_000 / PSI)
        most = 0.75 * 8 * min(np.sqrt(fck * PSI), 100.0) / PSI
        steel = np.minimum(0.75 * links * yield_, most) + 0.0 * concrete
        record.step(
            "f_yt",
            f"min(f_y, {60_000 / PSI})",
            yield_,
            "MPa",
            reference=f"{self.reference} table 20.2.2.4(a)",
        )
        record.step("v_smax", f"0.75*8*r_fc/{PSI}", most, "MPa", reference=f"{self.reference} 22.5.1.2")
        record.step("v_sw", "min(0.75*rho_w*f_yt, v_smax)", steel, "MPa", reference=f"{self.reference} 22.5.8.5.3")
        strength: Array = concrete + steel
        record.step("v_Rd_all", "v_Rd + v_sw", strength, "MPa", reference=f"{self.reference} 22.5.1.1")
        return strength

    def least_in_beam(self, d: Array, h: Array, fck: float, fyk: float, needed: Array, record: Recorder) -> Array:
        """The greater of 3 sqrt(f'c) and 200 psi over f_y (9.6.1.2, f_y at most 80 000 psi), at most 4/3 of what is
        needed (9.6.1.3)."""
        yield_ = min(fyk * PSI, 80_000.0)
        steel = max(3 * np.sqrt(fck * PSI), 200.0) / yield_ * d * 1e6
        least: Array = np.minimum(steel, 4 / 3 * needed)
        record.step(
            "A_s_min",
            f"max(3*sqrt(f_c*{PSI}), 200)/min(f_y*{PSI}, 80000)*d*1e6",
            steel,
            "mm²/m",
            reference=f"{self.reference} 9.6.1.2",
        )
        record.step("A_s_least", "min(A_s_min, 4/3*A_s_req)", least, "mm²/m", reference=f"{self.reference} 9.6.1.3")
        return least

    def links_in_beam(
        self, stress: Array, concrete: Array, d: Array, h: Array, fck: float, fyk: float, record: Recorder
    ) -> tuple[Array, Array, Array | None]:
        """Least links where V_u is more than phi sqrt(f'c) b d (9.6.3.1; 318-14: half of phi V_c, which is the same),
        9.6.3.4; spacing d/2 and 24 in., half of it where V_s is more than 4 sqrt(f'c) b d (table 9.7.6.2.2)."""
        root = min(np.sqrt(fck * PSI), 100.0)
        yield_ = min(fyk * PSI, 60_000.0)
        from_ = 0.75 * root / PSI
        ratio = np.where(stress > from_, max(0.75 * root, 50.0) / yield_, 0.0)
        much = (stress - concrete) / 0.75 > 4 * root / PSI
        halved = np.where(much, 0.5, 1.0)
        along = halved * np.minimum(d / 2, 24 * INCH)
        across = halved * np.minimum(d, 24 * INCH) if self.across else None
        record.step(
            "v_from",
            f"0.75*r_fc/{PSI}",
            from_,
            "MPa",
            reference=f"{self.reference} 9.6.3.1",
            note=say("least links beyond it"),
        )
        record.step(
            "rho_w_min",
            f"where(v_Ed > v_from, max(0.75*r_fc, 50)/min(f_y*{PSI}, 60000), 0)",
            ratio,
            reference=f"{self.reference} 9.6.3.4",
        )
        record.step(
            "k_s",
            f"where((v_Ed - v_Rd)/0.75 > 4*r_fc/{PSI}, 0.5, 1)",
            halved,
            reference=f"{self.reference} table 9.7.6.2.2",
            note=say("half the distance where V_s is more than 4 √f′c b d"),
        )
        record.step("s_w_max", f"k_s*min(d/2, 24*{INCH})", along, "m", reference=f"{self.reference} table 9.7.6.2.2")
        if across is not None:
            record.step(
                "s_t_max",
                f"k_s*min(d, 24*{INCH})",
                across,
                "m",
                reference=f"{self.reference} table 9.7.6.2.2",
            )
        return ratio, along, across
