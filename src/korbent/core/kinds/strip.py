"""A strip under a wall: as long as the wall asks for, as wide as the ground does."""

from typing import ClassVar

from korbent.core.geometry import DRIVING, runs_along_y
from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import Pad


class StripKind:
    """Its length follows the wall; its width, thickness and level are sized."""

    word: ClassVar[str] = "strip"

    def driven(self, pad: Pad, point: LoadPoint) -> tuple[str, ...]:
        """All but its length and where along the wall it lies."""
        along = self.follows(pad, point)
        without = {along, "offset_y" if along == "length" else "offset_x", "far_length"}
        return tuple(name for name in DRIVING if name not in without)

    def follows(self, pad: Pad, point: LoadPoint) -> str:
        """The size along the wall."""
        return "length" if runs_along_y(pad, point) else "width"

    def spans_one_way(self, point: LoadPoint) -> bool:
        """Always."""
        return True
