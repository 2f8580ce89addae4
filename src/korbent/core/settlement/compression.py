"""Compression of a sublayer in one dimension."""

import numpy as np

from korbent.core.working import Array


def oedometer_strain(
    before: Array, added: Array, preconsolidation: Array, Cc: Array, Cr: Array, e0: Array
) -> Array:
    """Vertical strain from the e-log p line: Cr up to the preconsolidation pressure, Cc beyond.

    Args:
        before: effective vertical stress before loading, kPa (> 0).
        added: stress increase, kPa (>= 0).
        preconsolidation: sigma'p, kPa (>= before).
        Cc, Cr, e0: compression index, recompression index, void ratio before loading.
    """
    before = np.maximum(before, 0.1)
    yielded = np.maximum(preconsolidation, before)
    after = before + np.maximum(added, 0.0)
    again = np.log10(np.minimum(after, yielded) / before)
    first = np.log10(np.maximum(after, yielded) / yielded)
    strain: Array = (Cr * again + Cc * first) / (1 + e0)
    return strain
