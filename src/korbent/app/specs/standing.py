"""What stands on a base, as it is typed into a cell: pedestals, and the anchor bolts of base plates."""

import re
from typing import Any

from korbent.core.concrete.bar_text import diameter_words
from korbent.core.model import Anchors, Pedestal
from korbent.core.model.labels import label
from korbent.core.quantity_text import parse
from korbent.core.units import UnitError, UnitSet, shown_unit, to_shown
from korbent.words import say

SIZES = re.compile(r"(?:ø\s*(?P<round>.+?)|(?P<x>.+?)\s*[x×]\s*(?P<y>.+?))\s*\bto\b\s*(?P<top>.+)")
BARS = re.compile(r"(?P<count>\d+)\s*(?:ø\s*)?(?P<bar>#?\s*[\d.]+.*)")
AROUND = re.compile(r"(?P<around>ties|spiral)\s*(?:ø\s*)?(?P<bar>.+?)\s*\bat\b\s*(?P<apart>.+)")
BOLTS = re.compile(
    r"\s*(?P<x>\d+)\s*[x×]\s*(?P<y>\d+)\s*[øM]?\s*(?P<bolt>.+?)\s*\bat\b\s*(?P<a>.+?)\s*[x×]\s*(?P<b>.+?)\s*,\s*(?P<deep>.+?)\s*deep\s*"
)


def _us(units: UnitSet) -> bool:
    return units == "us" or getattr(units, "system", "") == "us"


def _bar(text: str, units: UnitSet) -> float:
    """The diameter of a bar, m: 16 (mm), or #5."""
    eighths = re.fullmatch(r"#\s*(\d+)", text.strip())
    return int(eighths[1]) * 0.0254 / 8 if eighths else _small(text, units)


def _small(text: str, units: UnitSet) -> float:
    """A short length, m: typed in mm, in US units in inches."""
    return round(parse(text, "mm", units) / 1000, 9)


def _small_text(value: float, units: UnitSet) -> str:
    unit = f" {shown_unit('mm', units)}" if _us(units) else ""
    return f"{round(to_shown(1000 * value, 'mm', units), 3):g}{unit}"


def pedestal_text(pedestal: Pedestal | None, units: UnitSet) -> str | None:
    """As :func:`pedestal_of` takes it."""
    if pedestal is None:
        return None
    us = _us(units)
    x, y, top = (f"{round(to_shown(v, 'm', units), 4):.10g}" for v in (pedestal.size_x, pedestal.size_y, pedestal.top))

    def bar(diameter: float) -> str:
        return diameter_words(diameter, us).removeprefix("ø")

    sign = "" if us else "ø "
    return (
        say(
            "{value} to {top}, {bars} {sign}{bar}, {around} {pedestal_bar} at {spacing}",
            value=f"ø {x}" if pedestal.is_round else f"{x} x {y}",
            top=top,
            bars=pedestal.bars,
            sign=sign,
            bar=bar(pedestal.diameter),
            around=label(pedestal.around),
            pedestal_bar=bar(pedestal.tie_diameter),
            spacing=_small_text(pedestal.tie_spacing, units),
        )
        + (say(", cover {spacing}", spacing=_small_text(pedestal.cover, units)) if pedestal.cover is not None else "")
        + (
            say(", concrete {to_shown:g}", to_shown=round(to_shown(pedestal.strength, "MPa", units), 2))
            if pedestal.strength is not None
            else ""
        )
    )


def pedestal_of(text: str, units: UnitSet) -> dict[str, Any]:
    """The fields of a pedestal that was typed.

    Raises:
        UnitError: with what to type instead.
    """
    wrong = UnitError(
        say(
            "'{text}': type sizes and level of the top, and bars, such as 0.6 x 0.6 to 3.2, 8 ø 16, ties 10 "
            "at 150, or ø 0.6 to 3.2",
            text=text,
        )
    )
    head, *rest = (part.strip() for part in text.split(","))
    match = SIZES.fullmatch(head)
    if not match:
        raise wrong
    size_x, size_y = (parse(match[n] or match["round"], "m", units) for n in ("x", "y"))
    found: dict[str, Any] = {
        "shape": "circle" if match["round"] else "rectangle",
        "size_x": size_x,
        "size_y": size_y,
        "top": parse(match["top"], "m", units),
    }
    for part in rest:
        if around := AROUND.fullmatch(part):
            found |= {
                "around": around["around"],
                "tie_diameter": _bar(around["bar"], units),
                "tie_spacing": _small(around["apart"], units),
            }
        elif part.startswith("cover"):
            found["cover"] = _small(part.removeprefix("cover"), units)
        elif part.startswith("concrete"):
            found["strength"] = parse(part.removeprefix("concrete"), "MPa", units)
        elif bars := BARS.fullmatch(part):
            found |= {"bars": int(bars["count"]), "diameter": _bar(bars["bar"], units)}
        else:
            raise wrong
    return found


def pedestals_text(pedestals: Any, units: UnitSet) -> str | None:
    """Those under several columns, as :func:`pedestals_of` takes them."""
    return "; ".join(f"{name}: {pedestal_text(p, units)}" for name, p in pedestals.items()) or None


def pedestals_of(text: str, units: UnitSet) -> dict[str, Any]:
    """Pedestals by their columns.

    Raises:
        UnitError: with what to type instead.
    """
    found: dict[str, Any] = {}
    for part in text.split(";"):
        name, colon, rest = part.partition(":")
        if not part.strip():
            continue
        if not colon:
            raise UnitError(
                say("'{part}': name the column before its pedestal, such as B2: 0.6 x 0.6 to 3.2", part=part.strip())
            )
        found[name.strip()] = pedestal_of(rest, units)
    return found


def anchors_text(anchors: Anchors | None, units: UnitSet) -> str | None:
    """As :func:`anchors_of` takes it."""
    if anchors is None:
        return None
    a = anchors
    bolt, x, y, deep = (_small_text(v, units) for v in (a.diameter, a.apart_x, a.apart_y, a.depth))
    return say(
        "{along_x} x {along_y} ø {bolt} at {x} x {y}, {deep} deep",
        along_x=a.along_x,
        along_y=a.along_y,
        bolt=bolt,
        x=x,
        y=y,
        deep=deep,
    )


def anchors_of(text: str, units: UnitSet) -> dict[str, Any]:
    """The fields of anchor bolts that were typed.

    Raises:
        UnitError: with what to type instead.
    """
    match = BOLTS.fullmatch(text)
    if not match:
        raise UnitError(
            say(
                "'{text}': type how many along x and y, their diameter, how far apart the outer ones are, and "
                "how deep, such as 2 x 2 ø 24 at 240 x 240, 600 deep",
                text=text,
            )
        )
    return {
        "along_x": int(match["x"]),
        "along_y": int(match["y"]),
        "diameter": _small(match["bolt"], units),
        "apart_x": _small(match["a"], units),
        "apart_y": _small(match["b"], units),
        "depth": _small(match["deep"], units),
    }
