"""Vesic (1973, 1975): shape, depth, inclination, tilted base and sloping ground."""

import numpy as np

from korbent.core.bearing.methods.method import Footing, Ultimate, depth_measure, prandtl, record_base
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

NAME = "Vesic 1975"
REFERENCE = "Vesic 1975, in Foundation Engineering Handbook, chapter 3"
TAKES = frozenset({"inclination", "tilt", "slope"})


def _record_m(base: Footing, m: Array, record: Recorder) -> None:
    record.given("H_L", base.H_L, "kN", note=say("horizontal force along L′"))
    record.step("m_B", "(2 + s_BL)/(1 + s_BL)", (2 + base.shape) / (1 + base.shape), reference=REFERENCE)
    inverse = 1 / np.maximum(base.shape, 1e-12)
    record.step(
        "m_L",
        "(2 + 1/max(s_BL, 1e-12))/(1 + 1/max(s_BL, 1e-12))",
        (2 + inverse) / (1 + inverse),
        reference=REFERENCE,
    )
    record.step(
        "C_theta",
        "where(H > 0, (H_L/where(H > 0, H, 1))**2, 0)",
        np.where(base.H > 0, (base.H_L / np.where(base.H > 0, base.H, 1.0)) ** 2, 0.0),
    )
    record.step("m", "m_L*C_theta + m_B*(1 - C_theta)", m, reference=REFERENCE)


def drained(base: Footing, record: Recorder = SILENT) -> Ultimate:
    """q_ult = c N_c s_c d_c i_c b_c g_c + q N_q s_q d_q i_q b_q g_q + 0.5 gamma B N_gamma s_gamma i_gamma b_gamma
    g_gamma."""
    record_base(base, record, True)
    phi = base.phi
    t = np.tan(phi)
    N_q, N_c = prandtl(phi)
    N_gamma = 2 * (N_q + 1) * t
    s_c, s_q = 1 + base.shape * N_q / N_c, 1 + base.shape * t
    s_gamma = np.maximum(1 - 0.4 * base.shape, 0.6)
    k = depth_measure(base, "B", record, "k_D")
    d_q = 1 + 2 * t * (1 - np.sin(phi)) ** 2 * k
    d_c = 1 + 0.4 * k
    m = base.exponent
    holding = base.N + base.B * base.L * base.cohesion / t
    slides = (holding <= 0) | (holding <= base.H)
    left = np.where(slides, 0.0, 1 - base.H / np.where(slides, 1.0, holding))
    i_q, i_gamma = left**m, left ** (m + 1)
    i_c = i_q - (1 - i_q) / (N_q - 1)
    tilt, slope = np.asarray(base.tilt, dtype=float), np.asarray(base.slope, dtype=float)
    b_q = np.maximum(1 - tilt * t, 0.0) ** 2
    g_q = np.maximum(1 - np.tan(slope), 0.0) ** 2
    b_c, g_c = b_q - (1 - b_q) / (N_c * t), g_q - (1 - g_q) / (N_c * t)
    q = (
        base.cohesion * N_c * s_c * d_c * i_c * b_c * g_c
        + base.overburden * N_q * s_q * d_q * i_q * b_q * g_q
        + 0.5 * base.weight * base.B * N_gamma * s_gamma * i_gamma * b_q * g_q
    )
    record.step("N_q", "exp(pi*tan(phi))*tan(pi/4 + phi/2)**2", N_q, reference=REFERENCE)
    record.step("N_c", "(N_q - 1)/tan(phi)", N_c, reference=REFERENCE)
    record.step("N_gamma", "2*(N_q + 1)*tan(phi)", N_gamma, reference=REFERENCE)
    record.step("s_c", "1 + s_BL*N_q/N_c", s_c, reference=REFERENCE)
    record.step("s_q", "1 + s_BL*tan(phi)", s_q, reference=REFERENCE)
    record.step("s_gamma", "max(1 - 0.4*s_BL, 0.6)", s_gamma, reference=REFERENCE)
    record.step("d_q", "1 + 2*tan(phi)*(1 - sin(phi))**2*k_D", d_q, reference=REFERENCE)
    record.step("d_c", "1 + 0.4*k_D", d_c, reference=REFERENCE)
    _record_m(base, m, record)
    record.step("F_H", "N + B_eff*L_eff*cprime/tan(phi)", holding, "kN")
    record.step("i_0", "max(0, 1 - H/max(F_H, 1e-12))", left)
    record.step("i_q", "i_0**m", i_q, reference=REFERENCE)
    record.step("i_gamma", "i_0**(m + 1)", i_gamma, reference=REFERENCE)
    record.step("i_c", "i_q - (1 - i_q)/(N_q - 1)", i_c, reference=REFERENCE)
    record.given("eta", tilt, "rad", note=say("tilt of the base"))
    record.given("beta", slope, "rad", note=say("slope of the ground"))
    record.step("b_q", "max(1 - eta*tan(phi), 0)**2", b_q, reference=REFERENCE, note=say("also of γ"))
    record.step("g_q", "max(1 - tan(beta), 0)**2", g_q, reference=REFERENCE, note=say("also of γ"))
    record.step("b_c", "b_q - (1 - b_q)/(N_c*tan(phi))", b_c, reference=REFERENCE)
    record.step("g_c", "g_q - (1 - g_q)/(N_c*tan(phi))", g_c, reference=REFERENCE)
    record.step(
        "q_ult",
        "cprime*N_c*s_c*d_c*i_c*b_c*g_c + q_0*N_q*s_q*d_q*i_q*b_q*g_q + 0.5*gammaprime*B_eff*N_gamma*s_gamma*i_gamma*b_q*g_q",
        q,
        "kPa",
        reference=REFERENCE,
    )
    return Ultimate(np.maximum(q, 0.0), slides)


def undrained(base: Footing, record: Recorder = SILENT) -> Ultimate:
    """q_ult = (pi + 2) c_u s_c d_c i_c b_c g_c + q g_q + 0.5 gamma B N_gamma s_gamma, N_gamma = -2 sin(beta) beside a
    slope."""
    record_base(base, record, False)
    tilt, slope = np.asarray(base.tilt, dtype=float), np.asarray(base.slope, dtype=float)
    s_c, k = 1 + base.shape / (np.pi + 2), depth_measure(base, "B", record, "k_D")
    d_c = 1 + 0.4 * k
    m = base.exponent
    limit = base.B * base.L * base.cohesion
    slides = limit < base.H
    i_c = np.maximum(1 - m * base.H / np.maximum(limit * (np.pi + 2), 1e-12), 0.0)
    b_c, g_c = 1 - 2 * tilt / (np.pi + 2), 1 - 2 * slope / (np.pi + 2)
    N_gamma = -2 * np.sin(slope)
    g_q = np.maximum(1 - np.tan(slope), 0.0) ** 2
    s_gamma = np.maximum(1 - 0.4 * base.shape, 0.6)
    q = (
        (np.pi + 2) * base.cohesion * s_c * d_c * i_c * b_c * g_c
        + base.overburden * g_q
        + 0.5 * base.weight * base.B * N_gamma * s_gamma
    )
    record.step("s_c", "1 + s_BL/(pi + 2)", s_c, reference=REFERENCE)
    record.step("d_c", "1 + 0.4*k_D", d_c, reference=REFERENCE)
    _record_m(base, m, record)
    record.step("i_c", "max(1 - m*H/max(B_eff*L_eff*c_u*(pi + 2), 1e-12), 0)", i_c, reference=REFERENCE)
    record.given("eta", tilt, "rad", note=say("tilt of the base"))
    record.given("beta", slope, "rad", note=say("slope of the ground"))
    record.step("b_c", "1 - 2*eta/(pi + 2)", b_c, reference=REFERENCE)
    record.step("g_c", "1 - 2*beta/(pi + 2)", g_c, reference=REFERENCE)
    record.step("g_q", "max(1 - tan(beta), 0)**2", g_q, reference=REFERENCE, note=say("of the overburden"))
    record.given("gammaprime", base.weight, "kN/m³", note=say("weight below the base"))
    record.step("s_gamma", "max(1 - 0.4*s_BL, 0.6)", s_gamma, reference=REFERENCE)
    record.step("N_gamma", "-2*sin(beta)", N_gamma, reference=REFERENCE)
    record.step(
        "q_ult",
        "(pi + 2)*c_u*s_c*d_c*i_c*b_c*g_c + q_0*g_q + 0.5*gammaprime*B_eff*N_gamma*s_gamma",
        q,
        "kPa",
        reference=REFERENCE,
    )
    return Ultimate(np.maximum(q, 0.0), slides)
