"""Words and widths that drawings of settlement have in common."""

import math

from korbent.core.settlement.history import YEAR
from korbent.drawing.primitives import Drawing, Text
from korbent.words import say

WIDE = 10.0

NOTHING = Drawing((), (-1.0, -1.0, 1.0, 1.0))

Points = tuple[tuple[float, float], ...]


def said(text: str) -> Drawing:
    """A line where there is nothing to draw."""
    return Drawing((Text((0, 0), text, 12, "soft", "middle"),), (-1.0, -1.0, 1.0, 1.0))


def day_words(day: float) -> str:
    """A time span in the unit that suits it."""
    if not math.isfinite(day):
        return say("never")
    if day < 60:
        return f"{day:.0f} d"
    if day < 2 * YEAR:
        return say("{day:.1f} months", day=day / 30.44) if day < YEAR else say("{day:.1f} years", day=day / YEAR)
    return say("{day:.3g} years", day=day / YEAR)
