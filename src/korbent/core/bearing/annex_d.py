"""Bearing resistance by EN 1997-1:2004 Annex D: no depth factors, no ground slope."""

from dataclasses import dataclass

import numpy as np

from korbent.core.ground.profile import WATER_WEIGHT
from korbent.core.working import SILENT, Array, Recorder, Silent
from korbent.words import say

D3 = "EN 1997-1 D.3"
D4 = "EN 1997-1 D.4"


@dataclass(frozen=True)
class Resistance:
    """Design resistance per effective area (kPa), and where the horizontal force alone is too great."""

    pressure: Array
    slides: Array


def bearing_factors(phi: Array) -> tuple[Array, Array, Array]:
    """N_q, N_c, N_gamma for the friction angle ``phi`` (rad, > 0), rough base (EN 1997-1 D.4)."""
    N_q = np.exp(np.pi * np.tan(phi)) * np.tan(np.pi / 4 + phi / 2) ** 2
    return N_q, (N_q - 1) / np.tan(phi), 2 * (N_q - 1) * np.tan(phi)


def weight_below(
    weight: Array, saturated: Array, founding: Array, water: Array, depth: Array, record: Recorder = SILENT
) -> Array:
    """Effective unit weight (kN/m3) over ``depth`` below the base, with water above, within or below it."""
    dry = np.clip(founding - water, 0.0, depth)
    mean: Array = (weight * dry + (saturated - WATER_WEIGHT) * (depth - dry)) / np.maximum(depth, 1e-12)
    record.given("gamma", weight, "kN/m³", note=say("soil below the base, above water"))
    record.given("gamma_sat", saturated, "kN/m³", note=say("below water"))
    record.step("d_w", "min(max(z_f - z_w, 0), B_eff)", dry, "m", note=say("dry depth within B'"))
    record.step(
        "gammaprime",
        "(gamma*d_w + (gamma_sat - gamma_w)*(B_eff - d_w))/max(B_eff, 1e-12)",
        mean,
        "kN/m³",
        note=say("mean effective weight within B'"),
    )
    return mean


def effective_sizes(
    B_x: Array, L_y: Array, H_x: Array, H_y: Array, record: Recorder = SILENT
) -> tuple[Array, Array, Array, Array, Array]:
    """B' (shorter), L', A', the horizontal force and the exponent m of its direction (D.4)."""
    B_eff, L_eff = np.minimum(B_x, L_y), np.maximum(B_x, L_y)
    area = B_eff * L_eff
    H = np.hypot(H_x, H_y)
    along_long = np.where(B_x > L_y, np.abs(H_x), np.abs(H_y))
    safe = np.where(H > 0.0, H, 1.0)
    cos2 = np.where(H > 0.0, (along_long / safe) ** 2, 0.0)
    shape = B_eff / np.maximum(L_eff, 1e-12)
    m_B = (2 + shape) / (1 + shape)
    m_L = (2 + 1 / np.maximum(shape, 1e-12)) / (1 + 1 / np.maximum(shape, 1e-12))
    m = m_L * cos2 + m_B * (1 - cos2)
    record.step("B_eff", "min(B_x, L_y)", B_eff, "m", note=say("B', the shorter effective size"))
    record.step("L_eff", "max(B_x, L_y)", L_eff, "m", note="L'")
    record.step("A_eff", "B_eff*L_eff", area, "m²", note="A'")
    record.step("H", "sqrt(H_x**2 + H_y**2)", H, "kN", note=say("horizontal force"))
    record.step("H_L", "where(B_x > L_y, abs(H_x), abs(H_y))", along_long, "kN", note=say("along L'"))
    record.step("C_theta", "where(H > 0, (H_L/where(H > 0, H, 1))**2, 0)", cos2, note=say("cos² of its angle to L'"))
    record.step("s_BL", "B_eff/max(L_eff, 1e-12)", shape, note="B'/L'")
    record.step("m_B", "(2 + s_BL)/(1 + s_BL)", m_B, reference=D4)
    record.step("m_L", "(2 + 1/max(s_BL, 1e-12))/(1 + 1/max(s_BL, 1e-12))", m_L, reference=D4)
    record.step("m", "m_L*C_theta + m_B*(1 - C_theta)", m, reference=D4)
    return B_eff, L_eff, area, H, m


def drained(
    N: Array,
    H: Array,
    m: Array,
    B_eff: Array,
    L_eff: Array,
    cohesion: Array,
    tan_phi: Array,
    overburden: Array,
    weight: Array,
    record: Recorder = SILENT,
    tilt: Array | float = 0.0,
) -> Resistance:
    """Drained design resistance per effective area (kPa), underside tilted by ``tilt`` rad (EN 1997-1 D.4, equation
    D.2).

    Args:
        N, H: effective vertical and horizontal force, kN.
        cohesion, tan_phi: design values c'd (kPa) and tan(phi'd).
        overburden: effective, at the founding level, kPa.
        weight: effective unit weight below the base, kN/m3.
    """
    phi = np.arctan(tan_phi)
    N_q, N_c, N_gamma = bearing_factors(phi)
    shape = B_eff / np.maximum(L_eff, 1e-12)
    s_q = 1 + shape * np.sin(phi)
    s_gamma = 1 - 0.3 * shape
    sticks = np.any(cohesion)
    holding = N + B_eff * L_eff * (cohesion / tan_phi) if sticks else N + 0.0 * tan_phi
    slides = (holding <= 0.0) | (holding <= H)
    left = np.where(slides, 0.0, 1 - H / np.where(slides, 1.0, holding))
    i_q = left**m
    tilt = np.asarray(tilt, dtype=float)
    b_q = np.maximum(1 - tilt * tan_phi, 0.0) ** 2
    b_c = b_q - (1 - b_q) / (N_c * tan_phi)
    r = i_q * (overburden * s_q * (N_q * b_q) + weight * (B_eff * s_gamma * left) * (0.5 * N_gamma * b_q))
    silent = isinstance(record, Silent)
    if sticks or not silent:
        s_c = (s_q * N_q - 1) / (N_q - 1)
        i_c = i_q - (1 - i_q) / (N_c * tan_phi)
        r = r + s_c * i_c * (cohesion * N_c * b_c)
    if silent:
        return Resistance(np.maximum(r, 0.0), slides)
    record.step("phi_d", "atan(t_phi_d)", phi, "rad", note=say("design friction angle"))
    record.step("N_q", "exp(pi*t_phi_d)*tan(pi/4 + phi_d/2)**2", N_q, reference=D4)
    record.step("N_c", "(N_q - 1)/t_phi_d", N_c, reference=D4)
    record.step("N_gamma", "2*(N_q - 1)*t_phi_d", N_gamma, reference=D4, note=say("rough base"))
    record.step("s_q", "1 + s_BL*sin(phi_d)", s_q, reference=D4)
    record.step("s_gamma", "1 - 0.3*s_BL", s_gamma, reference=D4)
    record.step("s_c", "(s_q*N_q - 1)/(N_q - 1)", s_c, reference=D4)
    record.step("F_H", "N + A_eff*cprime_d/t_phi_d", holding, "kN")
    record.step("i_0", "max(0, 1 - H/max(F_H, 1e-12))", left)
    record.step("i_q", "i_0**m", i_q, reference=D4)
    record.step("i_c", "i_q - (1 - i_q)/(N_c*t_phi_d)", i_c, reference=D4)
    record.step("i_gamma", "i_q*i_0", i_q * left, reference=D4, note="i_0^(m + 1)")
    record.given("alpha", tilt, "rad", note=say("tilt of the underside"))
    record.step("b_q", "max(1 - alpha*t_phi_d, 0)**2", b_q, reference=D4, note=say("also of γ"))
    record.step("b_c", "b_q - (1 - b_q)/(N_c*t_phi_d)", b_c, reference=D4)
    record.step(
        "r_d",
        "cprime_d*N_c*s_c*i_c*b_c + qprime*N_q*s_q*i_q*b_q + 0.5*gammaprime*B_eff*N_gamma*s_gamma*i_gamma*b_q",
        r,
        "kPa",
        reference="EN 1997-1 (D.2)",
        note="R/A'",
    )
    return Resistance(np.maximum(r, 0.0), slides)


def undrained(
    H: Array,
    B_eff: Array,
    L_eff: Array,
    strength: Array,
    overburden: Array,
    record: Recorder = SILENT,
    tilt: Array | float = 0.0,
) -> Resistance:
    """Undrained design resistance per effective area (kPa), underside tilted by ``tilt`` rad (EN 1997-1 D.3, equation
    D.1).

    Args:
        strength: design value c_u;d, kPa.
        overburden: total, at the founding level, kPa.
    """
    s_c = 1 + 0.2 * B_eff / np.maximum(L_eff, 1e-12)
    limit = B_eff * L_eff * strength
    slides = limit < H
    i_c = 0.5 * (1 + np.sqrt(np.where(slides, 0.0, 1 - H / np.maximum(limit, 1e-12))))
    tilt = np.asarray(tilt, dtype=float)
    b_c = 1 - 2 * tilt / (np.pi + 2)
    r = (np.pi + 2) * strength * b_c * s_c * i_c + overburden
    record.step("s_c", "1 + 0.2*B_eff/max(L_eff, 1e-12)", s_c, reference=D3)
    record.step("H_lim", "A_eff*c_ud", limit, "kN", reference=D3, note=say("greatest horizontal force"))
    record.step("i_c", "0.5*(1 + sqrt(max(0, 1 - H/max(H_lim, 1e-12))))", i_c, reference=D3)
    record.given("alpha", tilt, "rad", note=say("tilt of the underside"))
    record.step("b_c", "1 - 2*alpha/(pi + 2)", b_c, reference=D3)
    record.step("r_d", "(pi + 2)*c_ud*b_c*s_c*i_c + q_t", r, "kPa", reference="EN 1997-1 (D.1)", note="R/A'")
    return Resistance(r, slides)
