"""Sliding on the underside."""

import numpy as np

from korbent.core.working import SILENT, Array, Recorder


def drained_resistance(N: Array, tan_delta: Array, record: Recorder = SILENT) -> Array:
    """Friction on the underside (kN): N tan(delta_d), none without pressure (EN 1997-1 6.3a)."""
    R = np.maximum(N, 0.0) * tan_delta
    record("R_d", "max(N, 0)*t_delta_d", R, "kN", "EN 1997-1 (6.3a)", "friction on the underside")
    return R


def undrained_resistance(
    area: Array, strength: Array, V: Array, capped: bool, record: Recorder = SILENT
) -> Array:
    """Adhesion on the effective area (kN): A' c_u;d, at most 0.4 V where water or air reaches the underside.

    EN 1997-1 (6.4a) and (6.5).
    """
    adhesion = area * strength
    R = np.minimum(adhesion, 0.4 * np.maximum(V, 0.0)) if capped else adhesion
    record(
        "R_d", "min(A_eff*c_ud, 0.4*max(V, 0))" if capped else "A_eff*c_ud", R, "kN",
        "EN 1997-1 (6.4a), (6.5)" if capped else "EN 1997-1 (6.4a)", "adhesion on the underside",
    )  # fmt: skip
    return R
