"""Sliding on the underside."""

import numpy as np

from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say


def drained_resistance(N: Array, tan_delta: Array, divisor: Array | float = 1.0, record: Recorder = SILENT) -> Array:
    """Friction on the underside (kN): N tan(delta_d), none without pressure (EN 1997-1 6.3a, 6.3b)."""
    R: Array = np.maximum(N, 0.0) * tan_delta / divisor
    record.step(
        "R_d",
        "max(N, 0)*t_delta_d/gamma_Rh",
        R,
        "kN",
        reference="EN 1997-1 (6.3a)",
        note=say("friction on the underside"),
    )
    return R


def undrained_resistance(
    area: Array,
    strength: Array,
    V: Array,
    capped: bool,
    divisor: Array | float = 1.0,
    record: Recorder = SILENT,
) -> Array:
    """Adhesion on the effective area (kN): A' c_u;d, at most 0.4 V where water or air reaches the underside.

    EN 1997-1 (6.4a) and (6.5).
    """
    adhesion = area * strength
    R: Array = (np.minimum(adhesion, 0.4 * np.maximum(V, 0.0)) if capped else adhesion) / divisor
    record.step(
        "R_d",
        "min(A_eff*c_ud, 0.4*max(V, 0))/gamma_Rh" if capped else "A_eff*c_ud/gamma_Rh",
        R,
        "kN",
        reference="EN 1997-1 (6.4a), (6.5)" if capped else "EN 1997-1 (6.4a)",
        note=say("adhesion on the underside"),
    )
    return R


def in_worst_direction(
    H_x: Array, H_y: Array, R: Array, F_x: Array | float, F_y: Array | float, record: Recorder = SILENT
) -> Array:
    """Resistance along a horizontal force (kN) of friction R in any direction, and of F_x, F_y along the axes.

    In every direction n the force must not exceed R + F_x |n_x| + F_y |n_y|: it lies in a disc moved over a rectangle.
    The greatest multiple of the force that does so is l_x or l_y where a straight side of that shape is met, else l_r
    at a corner."""
    h_x, h_y = np.abs(H_x), np.abs(H_y)
    H2 = np.maximum(h_x**2 + h_y**2, 1e-18)
    along = h_x * F_x + h_y * F_y
    root = np.sqrt(np.maximum(H2 * np.asarray(R) ** 2 - (h_x * F_y - h_y * F_x) ** 2, 0.0))
    l_x = (R + F_x) / np.maximum(h_x, 1e-9)
    l_y = (R + F_y) / np.maximum(h_y, 1e-9)
    l_r = (along + root) / H2
    times = np.where(l_x * h_y <= F_y, l_x, np.where(l_y * h_x <= F_x, l_y, l_r))
    held: Array = np.where(H2 > 1e-15, times * np.sqrt(H2), R)
    record.step("l_x", "(R_d + F_x)/max(abs(H_x), 1e-9)", l_x, note=say("until the side across x gives way"))
    record.step("l_y", "(R_d + F_y)/max(abs(H_y), 1e-9)", l_y, note=say("until the side across y gives way"))
    record.step(
        "l_r",
        "(abs(H_x)*F_x + abs(H_y)*F_y + sqrt(max((H_x**2 + H_y**2)*R_d**2 - (abs(H_x)*F_y - abs(H_y)*F_x)**2, 0)))"
        "/max(H_x**2 + H_y**2, 1e-18)",
        l_r,
        note=say("askew"),
    )
    record.step(
        "R_all",
        "where(H_x**2 + H_y**2 > 1e-15, where(l_x*abs(H_y) <= F_y, l_x, where(l_y*abs(H_x) <= F_x, l_y, l_r))*H, R_d)",
        held,
        "kN",
        reference="EN 1997-1 (6.2)",
        note=say("least over all directions of R + F_x |cos θ| + F_y |sin θ|"),
    )
    return held
