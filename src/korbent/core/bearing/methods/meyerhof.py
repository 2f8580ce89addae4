"""Meyerhof (1963): shape, depth and inclination; no tilted base, no sloping ground."""

import numpy as np

from korbent.core.bearing.methods.method import Footing, Ultimate, deep, prandtl, record_base
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

NAME = "Meyerhof 1963"
REFERENCE = "Meyerhof 1963, Canadian Geotechnical Journal 1(1)"
TAKES = frozenset({"inclination"})


def drained(base: Footing, record: Recorder = SILENT) -> Ultimate:
    """q_ult = c N_c s_c d_c i_c + q N_q s_q d_q i_q + 0.5 gamma B N_gamma s_gamma d_gamma i_gamma.

    s_q, d_q and those of gamma differ from 1 above 10 degrees only.
    """
    record_base(base, record, True)
    phi = base.phi
    N_q, N_c = prandtl(phi)
    N_gamma = (N_q - 1) * np.tan(1.4 * phi)
    K_p = np.tan(np.pi / 4 + phi / 2) ** 2
    grown = np.where(phi > np.radians(10.0), 1.0, 0.0)
    over = deep(base, "B", record)
    s_c, s_q = 1 + 0.2 * K_p * base.shape, 1 + 0.1 * grown * K_p * base.shape
    d_c, d_q = 1 + 0.2 * np.sqrt(K_p) * over, 1 + 0.1 * grown * np.sqrt(K_p) * over
    theta = np.arctan2(base.H, np.maximum(base.N, 1e-12))
    slides = theta >= phi
    i_q = (1 - theta / (np.pi / 2)) ** 2
    i_gamma = np.where(slides, 0.0, 1 - theta / phi) ** 2
    q = (
        base.cohesion * N_c * s_c * d_c * i_q
        + base.overburden * N_q * s_q * d_q * i_q
        + 0.5 * base.weight * base.B * N_gamma * s_q * d_q * i_gamma
    )
    record.step("N_q", "exp(pi*tan(phi))*tan(pi/4 + phi/2)**2", N_q, reference=REFERENCE)
    record.step("N_c", "(N_q - 1)/tan(phi)", N_c, reference=REFERENCE)
    record.step("N_gamma", "(N_q - 1)*tan(1.4*phi)", N_gamma, reference=REFERENCE)
    record.step("K_p", "tan(pi/4 + phi/2)**2", K_p)
    record.step("k_10", "where(phi > rad(10), 1, 0)", grown, reference=REFERENCE, note=say("above 10° only"))
    record.step("s_c", "1 + 0.2*K_p*s_BL", s_c, reference=REFERENCE)
    record.step("s_q", "1 + 0.1*k_10*K_p*s_BL", s_q, reference=REFERENCE, note=say("also of γ"))
    record.step("d_c", "1 + 0.2*sqrt(K_p)*D/max(W_B, 1e-12)", d_c, reference=REFERENCE)
    record.step("d_q", "1 + 0.1*k_10*sqrt(K_p)*D/max(W_B, 1e-12)", d_q, reference=REFERENCE, note=say("also of γ"))
    record.step("theta", "atan(H/max(N, 1e-12))", theta, "rad", note=say("inclination of the load"))
    record.step("i_q", "(1 - theta/(pi/2))**2", i_q, reference=REFERENCE, note=say("also of c"))
    record.step("i_gamma", "max(0, 1 - theta/phi)**2", i_gamma, reference=REFERENCE)
    record.step(
        "q_ult",
        "cprime*N_c*s_c*d_c*i_q + q_0*N_q*s_q*d_q*i_q + 0.5*gammaprime*B_eff*N_gamma*s_q*d_q*i_gamma",
        q,
        "kPa",
        reference=REFERENCE,
    )
    # beyond the friction angle only the weight term is gone: the method still bears by surcharge and cohesion
    return Ultimate(q, np.zeros(np.shape(q), dtype=bool))


def undrained(base: Footing, record: Recorder = SILENT) -> Ultimate:
    """q_ult = (pi + 2) c_u s_c d_c i_c + q i_q, K_p = 1."""
    record_base(base, record, False)
    s_c = 1 + 0.2 * base.shape
    d_c = 1 + 0.2 * deep(base, "B", record)
    theta = np.arctan2(base.H, np.maximum(base.N, 1e-12))
    i_c: Array = (1 - theta / (np.pi / 2)) ** 2
    slides = base.B * base.L * base.cohesion < base.H
    q = ((np.pi + 2) * base.cohesion * s_c * d_c + base.overburden) * i_c
    record.step("s_c", "1 + 0.2*s_BL", s_c, reference=REFERENCE)
    record.step("d_c", "1 + 0.2*D/max(W_B, 1e-12)", d_c, reference=REFERENCE)
    record.step("theta", "atan(H/max(N, 1e-12))", theta, "rad", note=say("inclination of the load"))
    record.step("i_c", "(1 - theta/(pi/2))**2", i_c, reference=REFERENCE, note=say("also of the overburden"))
    record.step("q_ult", "((pi + 2)*c_u*s_c*d_c + q_0)*i_c", q, "kPa", reference=REFERENCE)
    return Ultimate(q, slides)
