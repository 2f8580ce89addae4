"""EN 1997-1:2004 Annex D with the factors on the materials left out: shape and inclination; no depth, no ground
slope."""

import numpy as np

from korbent.core.bearing import annex_d
from korbent.core.bearing.methods.method import Footing, Ultimate
from korbent.core.working import SILENT, Recorder
from korbent.words import say

NAME = "EN 1997-1 Annex D"
REFERENCE = "EN 1997-1:2004 Annex D"
TAKES = frozenset({"inclination", "tilt"})


def _sizes(base: Footing, record: Recorder) -> None:
    record.given("B_eff", base.B, "m", note=say("B′, the shorter effective size"))
    record.given("L_eff", base.L, "m", note="L′")
    record.step("A_eff", "B_eff*L_eff", base.B * base.L, "m²", note="A′")
    record.step("s_BL", "B_eff/max(L_eff, 1e-12)", base.shape, note="B′/L′")
    record.given("H", base.H, "kN", note=say("horizontal force"))


def drained(base: Footing, record: Recorder = SILENT) -> Ultimate:
    """Equation (D.2)."""
    _sizes(base, record)
    m = base.exponent
    record.given("N", base.N, "kN", note=say("vertical force"))
    record.given("m", m, reference="EN 1997-1 D.4", note=say("exponent for the direction of H"))
    record.given("cprime_d", base.cohesion, "kPa", note=say("not factored"))
    record.given("t_phi_d", np.tan(base.phi), note=say("tan φ′, not factored"))
    record.given("qprime", base.overburden, "kPa", note=say("effective overburden"))
    record.given("gammaprime", base.weight, "kN/m³", note=say("effective weight below the base"))
    r = annex_d.drained(
        base.N,
        base.H,
        m,
        base.B,
        base.L,
        base.cohesion,
        np.tan(base.phi),
        base.overburden,
        base.weight,
        record,
        base.tilt,
    )
    record.step("q_ult", "max(r_d, 0)", r.pressure, "kPa", reference=REFERENCE)
    return Ultimate(r.pressure, r.slides)


def undrained(base: Footing, record: Recorder = SILENT) -> Ultimate:
    """Equation (D.1)."""
    _sizes(base, record)
    record.given("c_ud", base.cohesion, "kPa", note=say("not factored"))
    record.given("q_t", base.overburden, "kPa", note=say("total overburden"))
    r = annex_d.undrained(base.H, base.B, base.L, base.cohesion, base.overburden, record, base.tilt)
    record.step("q_ult", "r_d", r.pressure, "kPa", reference=REFERENCE)
    return Ultimate(r.pressure, r.slides)
