"""Bars as words, and words as bars: "16 at 150", "12 no 16", "#5 at 9 in", "SL82"."""

import re

from korbent.core.concrete.fabric import BY_NAME, INCH
from korbent.core.model.reinforcement import Bars
from korbent.words import say

HELP = say(
    "type diameter at spacing in mm (16 at 150), number and diameter (12 no 16), inches (#5 at 9 in, 8 no #5), or a fabric (SL82)"
)
SIZE = r"(?:ø\s*)?(?P<size>\d+(?:[.,]\d+)?)\s*(?:mm)?"
EIGHTHS = r"#\s*(?P<eighths>\d+)"
AT = r"\s*(?:at|@|-|–)\s*(?P<spacing>\d+(?:[.,]\d+)?)\s*(?P<unit>mm|cm|m|in|\"|″)?"
NUMBER = r"(?P<number>\d+)\s*(?:no\.?|x|×|ø)\s*"
FORMS = tuple(
    re.compile(rf"\s*{form}\s*", re.IGNORECASE) for form in (EIGHTHS + AT, SIZE + AT, NUMBER + EIGHTHS, NUMBER + SIZE)
)
UNITS = {"mm": 0.001, "cm": 0.01, "m": 1.0, "in": INCH, '"': INCH, "″": INCH}


LONGEST = 80


def parsed(text: str) -> Bars:
    """The bars of a text.

    Raises:
        ValueError: when it says none, with what to type.
    """
    if len(text) > LONGEST:
        raise ValueError(f"'{text[:20]}…': {HELP}")
    fabric = BY_NAME.get(text.strip().upper()) or BY_NAME.get(text.strip())
    if fabric:
        return fabric
    found = next((m for form in FORMS if (m := form.fullmatch(text))), None)
    if found is None:
        raise ValueError(f"'{text}': {HELP}")
    parts = found.groupdict()
    by_eighths = parts.get("eighths") is not None
    diameter = int(parts["eighths"]) / 8 * INCH if by_eighths else _number(parts["size"]) / 1000
    if parts.get("number"):
        return Bars(diameter=round(diameter, 6), number=int(parts["number"]))
    unit = UNITS[(parts["unit"] or ("in" if by_eighths else "mm")).lower()]
    return Bars(diameter=round(diameter, 6), spacing=round(_number(parts["spacing"]) * unit, 6))


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def diameter_words(diameter: float, us: bool) -> str:
    """ø16, or #5 where it is a bar of eighths of an inch."""
    eighths = diameter / INCH * 8
    if us and abs(eighths - round(eighths)) < 0.02:
        return f"#{round(eighths)}"
    return f"{diameter / INCH:.3g} in" if us else f"ø{1000 * diameter:g}"


def words(bars: Bars | None, us: bool = False) -> str | None:
    """The text of bars, as :func:`parsed` takes it."""
    if bars is None:
        return None
    if bars.fabric:
        return bars.fabric
    size = diameter_words(bars.diameter, us)
    if bars.number is not None:
        return say("{number} no {size}", number=bars.number, size=size)
    assert bars.spacing is not None
    return (
        say("{size} at {spacing:.4g} in", size=size, spacing=bars.spacing / INCH)
        if us
        else say("{size} at {spacing:g}", size=size, spacing=1000 * bars.spacing)
    )
