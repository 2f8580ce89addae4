"""Brinch Hansen (1970): shape, depth, inclination, tilted base and sloping ground; undrained the influences are
added."""

import numpy as np

from korbent.core.bearing.methods.method import Footing, Ultimate, depth_measure, prandtl, record_base
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

NAME = "Brinch Hansen 1970"
REFERENCE = "Brinch Hansen 1970, Danish Geotechnical Institute Bulletin 28"
TAKES = frozenset({"inclination", "tilt", "slope"})


def drained(base: Footing, record: Recorder = SILENT) -> Ultimate:
    """The lesser of two: failure across B' with H_B, and along L' with H_L.

    q_ult = c N_c s_c d_c i_c b_c g_c + q N_q s_q d_q i_q b_q g_q + 0.5 gamma B N_gamma s_gamma i_gamma b_gamma g_gamma.
    """
    record_base(base, record, True)
    phi = base.phi
    N_q, N_c = prandtl(phi)
    N_gamma = 1.5 * (N_q - 1) * np.tan(phi)
    record.step("N_q", "exp(pi*tan(phi))*tan(pi/4 + phi/2)**2", N_q, reference=REFERENCE)
    record.step("N_c", "(N_q - 1)/tan(phi)", N_c, reference=REFERENCE)
    record.step("N_gamma", "1.5*(N_q - 1)*tan(phi)", N_gamma, reference=REFERENCE)
    tilt, slope = np.asarray(base.tilt, dtype=float), np.asarray(base.slope, dtype=float)
    b_q, b_gamma = np.exp(-2 * tilt * np.tan(phi)), np.exp(-2.7 * tilt * np.tan(phi))
    b_c = 1 - np.degrees(tilt) / 147
    g_q = (1 - 0.5 * np.tan(slope)) ** 5
    g_c = 1 - np.degrees(slope) / 147
    record.given("eta", tilt, "rad", note=say("tilt of the base"))
    record.given("beta", slope, "rad", note=say("slope of the ground"))
    record.step("b_q", "exp(-2*eta*tan(phi))", b_q, reference=REFERENCE)
    record.step("b_gamma", "exp(-2.7*eta*tan(phi))", b_gamma, reference=REFERENCE)
    record.step("b_c", "1 - eta*180/pi/147", b_c, reference=REFERENCE)
    record.step("g_q", "(1 - 0.5*tan(beta))**5", g_q, reference=REFERENCE, note=say("also of γ"))
    record.step("g_c", "1 - beta*180/pi/147", g_c, reference=REFERENCE)
    holding = base.N + base.B * base.L * base.cohesion / np.tan(phi)
    slides = (holding <= 0) | (holding <= base.H)
    record.step("F_H", "N + B_eff*L_eff*cprime/tan(phi)", holding, "kN")
    i = {}
    for axis, force in (("B", base.H_B), ("L", base.H_L)):
        share = np.where(slides, 0.0, force / np.where(slides, 1.0, holding))
        i_q = np.maximum(1 - 0.5 * share, 0.0) ** 5
        i_gamma = np.maximum(1 - (0.7 - np.degrees(tilt) / 450) * share, 0.0) ** 5
        record.given(f"H_{axis}", force, "kN", note=say("horizontal force along {axis}′", axis=axis))
        record.step(
            f"i_q{axis}",
            f"max(1 - 0.5*H_{axis}/max(F_H, 1e-12), 0)**5",
            np.where(slides, np.maximum(1 - 0.5 * force / np.maximum(holding, 1e-12), 0) ** 5, i_q),
            reference=REFERENCE,
        )
        record.step(
            f"i_gamma{axis}",
            f"max(1 - (0.7 - eta*180/pi/450)*H_{axis}/max(F_H, 1e-12), 0)**5",
            np.where(
                slides,
                np.maximum(1 - (0.7 - np.degrees(tilt) / 450) * force / np.maximum(holding, 1e-12), 0) ** 5,
                i_gamma,
            ),
            reference=REFERENCE,
        )
        i[axis] = (i_q, i_gamma)
    q_B = _one_way(
        base,
        base.B,
        base.L,
        i["B"],
        i["L"],
        N_q,
        N_c,
        N_gamma,
        (b_c * g_c, b_q * g_q, b_gamma * g_q),
        "B",
        "L",
        record,
    )
    q_L = _one_way(
        base,
        base.L,
        base.B,
        i["L"],
        i["B"],
        N_q,
        N_c,
        N_gamma,
        (b_c * g_c, b_q * g_q, b_gamma * g_q),
        "L",
        "B",
        record,
    )
    q = np.minimum(q_B, q_L)
    record.step("q_ult", "min(q_B, q_L)", q, "kPa", reference=REFERENCE, note=say("the lesser of both directions"))
    return Ultimate(np.maximum(q, 0.0), slides)


def _one_way(
    base: Footing,
    size: Array,
    other: Array,
    i_here: tuple[Array, Array],
    i_other: tuple[Array, Array],
    N_q: Array,
    N_c: Array,
    N_gamma: Array,
    beside: tuple[Array, Array, Array],
    axis: str,
    across: str,
    record: Recorder,
) -> Array:
    phi = base.phi
    i_q, i_gamma = i_here
    i_c = i_q - (1 - i_q) / (N_q - 1)
    ratio = size / np.maximum(other, 1e-12)
    s_c = 1 + ratio * i_c * N_q / N_c
    s_q = 1 + ratio * i_q * np.sin(phi)
    s_gamma = np.maximum(1 - 0.4 * ratio * i_gamma / np.maximum(i_other[1], 1e-12), 0.6)
    k = depth_measure(base, axis, record, f"k_{axis}")
    d_c, d_q = 1 + 0.4 * k, 1 + 2 * np.tan(phi) * (1 - np.sin(phi)) ** 2 * k
    q: Array = (
        base.cohesion * N_c * s_c * d_c * i_c * beside[0]
        + base.overburden * N_q * s_q * d_q * i_q * beside[1]
        + 0.5 * base.weight * size * N_gamma * s_gamma * i_gamma * beside[2]
    )
    a, o = f"{axis}_eff", f"{across}_eff"
    record.step(f"i_c{axis}", f"i_q{axis} - (1 - i_q{axis})/(N_q - 1)", i_c, reference=REFERENCE)
    record.step(f"s_c{axis}", f"1 + {a}/max({o}, 1e-12)*i_c{axis}*N_q/N_c", s_c, reference=REFERENCE)
    record.step(f"s_q{axis}", f"1 + {a}/max({o}, 1e-12)*i_q{axis}*sin(phi)", s_q, reference=REFERENCE)
    record.step(
        f"s_gamma{axis}",
        f"max(1 - 0.4*{a}/max({o}, 1e-12)*i_gamma{axis}/max(i_gamma{across}, 1e-12), 0.6)",
        s_gamma,
        reference=REFERENCE,
    )
    record.step(f"d_c{axis}", f"1 + 0.4*k_{axis}", d_c, reference=REFERENCE)
    record.step(f"d_q{axis}", f"1 + 2*tan(phi)*(1 - sin(phi))**2*k_{axis}", d_q, reference=REFERENCE)
    record.step(
        f"q_{axis}",
        f"cprime*N_c*s_c{axis}*d_c{axis}*i_c{axis}*b_c*g_c + q_0*N_q*s_q{axis}*d_q{axis}*i_q{axis}*b_q*g_q"
        f" + 0.5*gammaprime*{a}*N_gamma*s_gamma{axis}*i_gamma{axis}*b_gamma*g_q",
        q,
        "kPa",
        reference=REFERENCE,
        note=say("failure along {axis}′", axis=axis),
    )
    return q


def undrained(base: Footing, record: Recorder = SILENT) -> Ultimate:
    """q_ult = (pi + 2) c_u (1 + s + d - i - b - g) + q, with the whole horizontal force."""
    record_base(base, record, False)
    tilt, slope = np.asarray(base.tilt, dtype=float), np.asarray(base.slope, dtype=float)
    limit = base.B * base.L * base.cohesion
    slides = limit < base.H
    s = 0.2 * base.shape
    d = 0.4 * depth_measure(base, "B", record, "k_D")
    i = 0.5 - 0.5 * np.sqrt(np.maximum(1 - base.H / np.maximum(limit, 1e-12), 0.0))
    b, g = np.degrees(tilt) / 147, np.degrees(slope) / 147
    q = (np.pi + 2) * base.cohesion * (1 + s + d - i - b - g) + base.overburden
    record.step("s_a", "0.2*s_BL", s, reference=REFERENCE)
    record.step("d_a", "0.4*k_D", d, reference=REFERENCE)
    record.step("i_a", "0.5 - 0.5*sqrt(max(1 - H/max(B_eff*L_eff*c_u, 1e-12), 0))", i, reference=REFERENCE)
    record.given("eta", tilt, "rad", note=say("tilt of the base"))
    record.given("beta", slope, "rad", note=say("slope of the ground"))
    record.step("b_a", "eta*180/pi/147", b, reference=REFERENCE)
    record.step("g_a", "beta*180/pi/147", g, reference=REFERENCE)
    record.step("q_ult", "(pi + 2)*c_u*(1 + s_a + d_a - i_a - b_a - g_a) + q_0", q, "kPa", reference=REFERENCE)
    return Ultimate(np.maximum(q, 0.0), slides)
