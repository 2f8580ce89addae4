"""EN 1992-1-1: width of cracks."""

import numpy as np

from korbent.core.concrete.standards.cracked import STEEL_MODULUS, steel_stress
from korbent.core.concrete.standards.en1992.section import mean_tension
from korbent.core.concrete.standards.protocol import Cracked
from korbent.core.model.settings import Settings
from korbent.core.working import Array, Recorder
from korbent.words import say


class Cracks:
    """EN 1992-1-1: width of cracks."""

    cracks_by = "width"

    def cracks(self, at: Cracked, settings: Settings, record: Recorder) -> tuple[Array, Array]:
        """(w_k, w_max) in mm by EN 1992-1-1 7.3.4, long term (k_t = 0.4), ribbed bars in bending."""
        fck = settings.concrete_strength
        tension = mean_tension(fck)
        modulus = 22_000 * ((fck + 8) / 10) ** 0.3
        ratio = STEEL_MODULUS / modulus
        record.given("f_ctm", tension, "MPa", reference="EN 1992-1-1 table 3.1")
        stress, x = steel_stress(at, ratio, record)
        around = np.minimum(np.minimum(2.5 * (at.h - at.d), (at.h - x) / 3), at.h / 2)
        rho = at.steel / (1e6 * around)
        strain = np.maximum(
            (stress - 0.4 * tension / rho * (1 + ratio * rho)) / STEEL_MODULUS, 0.6 * stress / STEEL_MODULUS
        )
        cover = at.cover
        near = at.spacing <= 5 * (cover + at.diameter / 2)
        apart = np.where(near, 3.4 * cover + 0.425 * 0.8 * 0.5 * at.diameter / rho, 1.3 * (at.h - x))
        width = 1000 * apart * strain
        limit = np.full_like(width, 1000 * settings.crack_width)
        record.step("c", "h - d - oe/2", cover, "m", note=say("cover of these bars"))
        record.step("h_c", "min(min(2.5*(h - d), (h - x)/3), h/2)", around, "m", reference="EN 1992-1-1 7.3.2(3)")
        record.step("rho_p", "A_s/(1e6*h_c)", rho, reference="EN 1992-1-1 (7.10)")
        record.step(
            "epsilon",
            f"max((sigma_s - 0.4*f_ctm/rho_p*(1 + alpha_e*rho_p))/{STEEL_MODULUS}, 0.6*sigma_s/{STEEL_MODULUS})",
            strain,
            reference="EN 1992-1-1 (7.9)",
        )
        record.step(
            "s_r",
            "where(s <= 5*(c + oe/2), 3.4*c + 0.425*0.8*0.5*oe/rho_p, 1.3*(h - x))",
            apart,
            "m",
            reference="EN 1992-1-1 (7.11), (7.14)",
        )
        record.step("w_k", "1000*s_r*epsilon", width, "mm", reference="EN 1992-1-1 (7.8)", note=say("crack width"))
        record.given("w_max", limit, "mm", reference="EN 1992-1-1 table 7.1N", note=say("limit"))
        record.step("r_c", "w_k/w_max", width / limit)
        return width, limit
