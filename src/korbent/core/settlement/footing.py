"""A base as its settlement is computed."""

import numpy as np

from korbent.core.geometry import PadGeometry
from korbent.core.working import Array


def equal_rectangle(geometry: PadGeometry) -> tuple[Array, Array]:
    """Sizes of the rectangle that settles for a base: a round one as the square of equal area."""
    if geometry.shape == "rectangle":
        return geometry.B, geometry.L
    side = np.sqrt(geometry.area)
    return side, side
