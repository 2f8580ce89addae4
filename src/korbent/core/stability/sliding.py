"""Sliding on the underside."""

import numpy as np

from korbent.core.working import SILENT, Array, Recorder


def drained_resistance(
    N: Array, tan_delta: Array, divisor: Array | float = 1.0, record: Recorder = SILENT
) -> Array:
    """Friction on the underside (kN): N tan(delta_d), none without pressure (EN 1997-1 6.3a, 6.3b)."""
    R: Array = np.maximum(N, 0.0) * tan_delta / divisor
    record("R_d", "max(N, 0)*t_delta_d/gamma_Rh", R, "kN", "EN 1997-1 (6.3a)", "friction on the underside")
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
    record(
        "R_d", "min(A_eff*c_ud, 0.4*max(V, 0))/gamma_Rh" if capped else "A_eff*c_ud/gamma_Rh", R, "kN",
        "EN 1997-1 (6.4a), (6.5)" if capped else "EN 1997-1 (6.4a)", "adhesion on the underside",
    )  # fmt: skip
    return R
