"""A base under one column or several: rectangle, circle, ring or trapezoid."""

from typing import ClassVar

from korbent.core.geometry import DRIVING
from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import Pad


class PadKind:
    """Both sizes are free."""

    word: ClassVar[str] = "pad"

    def driven(self, pad: Pad, point: LoadPoint) -> tuple[str, ...]:
        """All that its shape has."""
        without = {"far_length"} if pad.shape != "trapezoid" else set()
        if pad.is_round:
            without.add("length")
        return tuple(name for name in DRIVING if name not in without)

    def follows(self, pad: Pad, point: LoadPoint) -> str:
        """None."""
        return ""

    def spans_one_way(self, point: LoadPoint) -> bool:
        """Under a wall."""
        return point.kind.endswith("wall")
