"""EN 1992-1-1: materials and sections."""

from dataclasses import dataclass

import numpy as np

from korbent.core.concrete.standards.protocol import ColumnRules
from korbent.core.working import Array, Recorder
from korbent.words import say

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


class Section:
    """EN 1992-1-1: materials and sections."""

    def __init__(
        self, national: NationalValues | None = None, hooks_always: bool = False, least_by_stress: bool = True
    ) -> None:
        self.national = national or NationalValues()
        self.hooks_always = hooks_always
        self.least_by_stress = least_by_stress

    def _gammas(self, special: Array) -> tuple[Array, Array]:
        """Partial factors of concrete and steel (2.4.2.4): 1.2 and 1.0 in accidental and seismic situations."""
        return np.where(special, 1.2, self.national.gamma_C), np.where(special, 1.0, self.national.gamma_S)

    def strengths(self, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """Clauses 2.4.2.4 (partial factors 1.5 and 1.15; accidental 1.2 and 1.0), 3.1.6 and 3.2.7."""
        gamma_c, gamma_s = self._gammas(special)
        alpha_cc = self.national.alpha_cc
        fcd, fyd = alpha_cc * fck / gamma_c, fyk / gamma_s
        record.given("f_ck", fck, "MPa", note=say("concrete"))
        record.given("f_yk", fyk, "MPa", note=say("reinforcing steel"))
        record.given("alpha_cc", alpha_cc, reference=f"{REFERENCE} 3.1.6(1)")
        record.given("gamma_C", gamma_c, reference=f"{REFERENCE} 2.4.2.4")
        record.given("gamma_S", gamma_s, reference=f"{REFERENCE} 2.4.2.4")
        record.step("f_cd", "alpha_cc*f_ck/gamma_C", fcd, "MPa", reference=f"{REFERENCE} (3.15)")
        record.step("f_yd", "f_yk/gamma_S", fyd, "MPa", reference=f"{REFERENCE} 3.2.7")
        return fcd, fyd

    def block(self, fck: float, fcd: Array, fyd: Array) -> tuple[Array, Array, float]:
        """3.1.7(3): (stress of the block, depth of the block over d at most, reduction); x at most 0.45 d (5.6.3(2):
        0.35 d above C50)."""
        lam, eta = _block(fck)
        return eta * fcd, np.asarray(lam * (0.45 if fck <= 50.0 else 0.35)), 1.0

    def column_rules(self, fck: float, fyk: float, spiral: bool = False) -> ColumnRules:
        """3.1.7(3) with 10 % less where the compressed part narrows, 3.2.7 with elastic modulus 200 GPa, 6.1(4),
        6.1(5), 9.5.2(2); partial factors of persistent situations."""
        strain = 0.0035 if fck <= 50 else 0.0026 + 0.035 * ((90 - fck) / 100) ** 4
        lam, eta = _block(fck)
        own = self.national
        # the block goes with the bilinear diagram: eps_c3 at the point about which the strains turn
        mean = 0.00175 if fck <= 50 else 0.00175 + 0.00055 * (fck - 50) / 40
        return ColumnRules(
            eta * own.alpha_cc * fck / own.gamma_C,
            lam,
            strain,
            fyk / own.gamma_S,
            1.0,
            lambda at: np.ones_like(at.tension),
            0.002,
            0.10,
            f"{REFERENCE} 9.5.2(2)",
            0.04,
            f"{REFERENCE} 9.5.2(3)",
            lambda size: np.maximum(size / 30, 0.02),
            f"{REFERENCE} 6.1(4)",
            mean,
            0.9,
        )

    def bearing_strength(self, fck: float, fcd: Array, spread: Array, record: Recorder) -> Array:
        """(6.63): f_cd sqrt(A_c1/A_c0), at most 3 f_cd; the areas alike in shape, so that the root is the ratio of
        their sizes."""
        strength: Array = fcd * spread
        record.step("f_Rd", "f_cd*k_s", strength, "MPa", reference=f"{REFERENCE} (6.63)")
        return strength

    def plain(self, fck: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """f_ctd,pl (12.3.1(1)) for bending; (12.5) with (12.6) for shear, no axial stress: 1.5 V/A at most f_ctd."""
        gamma_c, _ = self._gammas(special)
        own = self.national
        f_ctd = own.alpha_ct * 0.7 * mean_tension(fck) / gamma_c
        record.given("f_ctm", mean_tension(fck), "MPa", reference=f"{REFERENCE} table 3.1")
        record.given("gamma_C", gamma_c, reference=f"{REFERENCE} 2.4.2.4")
        record.step("f_ctd", f"{own.alpha_ct}*0.7*f_ctm/gamma_C", f_ctd, "MPa", reference=f"{REFERENCE} 12.3.1(1)")
        record.step("f_Rd", "f_ctd", f_ctd, "MPa", reference=f"{REFERENCE} 12.9.3, AC:2010", note=say("bending"))
        record.step(
            "v_Rd",
            "f_ctd/1.5",
            f_ctd / 1.5,
            "MPa",
            reference=f"{REFERENCE} 12.6.3",
            note=say("shear, mean over the section"),
        )
        return f_ctd, f_ctd / 1.5

    def plain_depth(self, h: Array, deduction: float, record: Recorder) -> Array:
        """0.85 h (12.9.3(1), equation 12.13)."""
        depth: Array = 0.85 * h
        record.step("h_p", "0.85*h", depth, "m", reference=f"{REFERENCE} (12.13)", note=say("thickness that counts"))
        return depth

    def slenderness(
        self, length: Array, size: Array, is_round: Array, pressed: Array, record: Recorder
    ) -> tuple[Array, Array]:
        """5.8.3: l_0 = 2 l, lambda = l_0/i (i a quarter of a diameter); limit 20 A B C/sqrt(n) with A = 0.7, B = 1.1, C
        = 0.7."""
        radii = np.where(is_round > 0, 4.0, np.sqrt(12))
        found, limit = 2 * length * radii / size, 20 * 0.7 * 1.1 * 0.7 / np.sqrt(pressed)
        record.given("n", pressed, reference=f"{REFERENCE} 5.8.3.1", note=say("N_Ed over A_c f_cd"), needs="N_Ed")
        record.step(
            "lambda_p",
            "2*l_p*where(k_o > 0, 4, sqrt(12))/b_min",
            found,
            reference=f"{REFERENCE} (5.14)",
            note=say("free at the top"),
        )
        record.step("lambda_lim", "20*0.7*1.1*0.7/sqrt(n)", limit, reference=f"{REFERENCE} (5.13N)")
        return found, limit
