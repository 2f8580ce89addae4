"""Foundations in words: their size, and what stands on them."""

from korbent.core.concrete.bar_text import diameter_words
from korbent.core.concrete.fabric import INCH
from korbent.core.model import Bars, Pad
from korbent.core.units import Showing, length_text, sizes_text
from korbent.words import say


def size_words(pad: Pad, units: Showing) -> str:
    """The size with its unit: B × L × h, or the diameter (and that of the hole) × h."""
    h = length_text(pad.thickness, units)
    if not pad.is_round:
        corners = say(", {outline} corners", outline=len(pad.outline)) if pad.outline else ""
        return f"{length_text(pad.width, units, False)} × {lengths_words(pad, units)} × {h}{corners}"
    hole = f" / {length_text(pad.bore, units, False)}" if pad.bore else ""
    return f"ø {length_text(pad.width, units, False)}{hole} × {h}"


def lengths_words(pad: Pad, units: Showing, unit: bool = False) -> str:
    """The length; of a trapezoid those of both ends, from -x to +x; ``unit``: with the unit behind."""
    ends = (pad.length, pad.far_length) if pad.shape == "trapezoid" else (pad.length,)
    return sizes_text(ends, units, " / ", unit)


def under_words(pad: Pad) -> str:
    """The columns and walls that stand on it."""
    names = pad.carries
    if pad.kind == "raft":
        return say("{names} columns and walls", names=len(names))
    return (
        ", ".join(names)
        if len(names) <= 3
        else say("{names}, {names_2} and {names_3} more", names=names[0], names_2=names[1], names_3=len(names) - 2)
    )


def bar_words(bars: Bars, units: Showing) -> tuple[str, str]:
    """(diameter, spacing) as the region names them."""
    us = units.system == "us"
    size = diameter_words(bars.diameter, us)
    if bars.spacing is None:
        return size, say("{number} no", number=bars.number)
    return size, f"{bars.spacing / INCH:.3g} in" if us else f"{1000 * bars.spacing:g}"


POUND = 0.45359237
"""kg."""


def weight_unit(units: Showing) -> str:
    """Unit of the weight of bars."""
    return "lb" if units.system == "us" else "kg"


def show_weight(weight: float, units: Showing) -> str:
    """The weight of bars (kg) without its unit."""
    return f"{weight / (POUND if units.system == 'us' else 1.0):.0f}"
