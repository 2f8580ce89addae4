"""The cracked elastic section in service."""

import numpy as np

from korbent.core.concrete.standards.protocol import Cracked
from korbent.core.working import Array, Recorder
from korbent.words import say

STEEL_MODULUS = 200_000.0
"""MPa."""


def steel_stress(at: Cracked, ratio: float, record: Recorder) -> tuple[Array, Array]:
    """(stress of the steel in MPa, depth of the pressed zone in m) of the cracked elastic section."""
    n = ratio * at.steel / (1e6 * at.d)
    x = at.d * (np.sqrt(n**2 + 2 * n) - n)
    stress = at.m * 1000 / (at.steel * (at.d - x / 3))
    record.given("alpha_e", ratio, note=say("modular ratio"))
    record.step("n_rho", "alpha_e*A_s/(1e6*d)", n)
    record.step("x", "d*(sqrt(n_rho**2 + 2*n_rho) - n_rho)", x, "m", note=say("pressed zone, cracked"))
    record.step("sigma_s", "m_s*1000/(A_s*(d - x/3))", stress, "MPa", note=say("steel"))
    return stress, x
