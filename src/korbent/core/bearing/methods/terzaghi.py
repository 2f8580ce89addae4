"""Terzaghi (1943): strip, square and circle under vertical load; a rough base, the ground above it counts as load
only."""

import numpy as np

from korbent.core.bearing.methods.method import Footing, Ultimate, record_base
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

NAME = "Terzaghi 1943"
REFERENCE = "Terzaghi 1943, Theoretical Soil Mechanics, articles 46 to 49"
TAKES: frozenset[str] = frozenset()

# passive pressure coefficient of the wedge, by friction angle in degrees (as tabulated by Bowles 1996, table 4-2)
ANGLES = np.radians([0.0, 5.0, 10.0, 15.0, 20.0, 25.0, 30.0, 35.0, 40.0, 45.0, 50.0])
K_GAMMA = np.array([10.8, 12.2, 14.7, 18.6, 25.0, 35.0, 52.0, 82.0, 141.0, 298.0, 800.0])


def factors(phi: Array) -> tuple[Array, Array, Array]:
    """N_q, N_c, N_gamma (phi > 0, rad); K_p,gamma linear in its logarithm between the tabulated angles."""
    a = np.exp((0.75 * np.pi - phi / 2) * np.tan(phi))
    N_q = a**2 / (2 * np.cos(np.pi / 4 + phi / 2) ** 2)
    K = np.exp(np.interp(phi, ANGLES, np.log(K_GAMMA)))
    N_gamma = 0.5 * np.tan(phi) * (K / np.cos(phi) ** 2 - 1)
    return N_q, (N_q - 1) / np.tan(phi), N_gamma


def _shapes(base: Footing, record: Recorder) -> tuple[Array, Array]:
    """s_c and s_gamma: 1 and 1 of a strip, 1.3 and 0.8 of a square, 1.3 and 0.6 of a circle; linear in B/L between."""
    s_c = 1 + 0.3 * base.shape
    round_off = 1 - 1.2 / np.sqrt(np.pi)
    s_gamma = 1 - (0.2 + (round_off - 0.2) * np.asarray(base.circle)) * base.shape
    record.given("k_round", np.asarray(base.circle, dtype=float), note=say("1 for a circle, else 0"))
    record.step("s_c", "1 + 0.3*s_BL", s_c, reference=REFERENCE, note=say("strip 1, square and circle 1.3"))
    record.step(
        "s_gamma",
        "1 - (0.2 + (0.8 - 1.2/sqrt(pi))*k_round)*s_BL",
        s_gamma,
        reference=REFERENCE,
        note=say("strip 1, square 0.8, circle 0.6 of its diameter"),
    )
    return s_c, s_gamma


def drained(base: Footing, record: Recorder = SILENT) -> Ultimate:
    """q_ult = c N_c s_c + q N_q + 0.5 gamma B N_gamma s_gamma."""
    record_base(base, record, True)
    N_q, N_c, N_gamma = factors(base.phi)
    s_c, s_gamma = _shapes(base, record)
    q = base.cohesion * N_c * s_c + base.overburden * N_q + 0.5 * base.weight * base.B * N_gamma * s_gamma
    record.step("N_q", "exp((1.5*pi - phi)*tan(phi))/(2*cos(pi/4 + phi/2)**2)", N_q, reference=REFERENCE)
    record.step("N_c", "(N_q - 1)/tan(phi)", N_c, reference=REFERENCE)
    record.given(
        "N_gamma", N_gamma, reference=REFERENCE, note=say("0.5 tan φ (Kpγ/cos² φ - 1), Kpγ tabulated"), needs="phi"
    )
    record.step(
        "q_ult",
        "cprime*N_c*s_c + q_0*N_q + 0.5*gammaprime*B_eff*N_gamma*s_gamma",
        q,
        "kPa",
        reference=REFERENCE,
    )
    return Ultimate(q, np.zeros(np.shape(q), dtype=bool))


def undrained(base: Footing, record: Recorder = SILENT) -> Ultimate:
    """q_ult = 5.7 c_u s_c + q: N_c = 1.5 pi + 1 of a rough base."""
    record_base(base, record, False)
    s_c, _ = _shapes(base, record)
    q = (1.5 * np.pi + 1) * base.cohesion * s_c + base.overburden
    record.step("q_ult", "(1.5*pi + 1)*c_u*s_c + q_0", q, "kPa", reference=REFERENCE, note=say("Nc = 5.71, rough base"))
    return Ultimate(q, np.zeros(np.shape(q), dtype=bool))
