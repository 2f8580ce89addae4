"""Units: a fixed list with its grammar, factors between them, and how values are shown in the unit set of the project.

Inside, everything is m, kN, kPa, kN/m3, kNm, MPa, deg. ``pint`` knows the factors; it is loaded when a unit
other than the shown one is met first. What was typed is read in :mod:`korbent.core.quantity_text`.
"""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from math import gcd
from typing import Any, Literal

from korbent.words import say

System = Literal["metric", "us"]


@dataclass(frozen=True)
class Showing:
    """A unit set with single overrides: (stored unit, unit shown instead)."""

    system: System
    overrides: tuple[tuple[str, str], ...] = ()

    @property
    def feet_and_inches(self) -> bool:
        """Whether sizes are written in feet and inches."""
        return ("m", FEET_AND_INCHES) in self.overrides


UnitSet = System | Showing
FEET_AND_INCHES = "ft-in"
"""What a project may show lengths in: 5'-6 1/2" for sizes, feet for what is listed."""

SUBGRADE = "kN/m²/m"
"""The stored unit of a modulus of subgrade reaction: force per area and settlement, not the weight of a volume."""

# stored unit -> unit shown, by unit set
SHOWN: dict[System, dict[str, str]] = {
    "metric": {"m²/day": "m²/year", SUBGRADE: "kN/m³"},
    "us": {
        "m": "ft",
        "kN": "kip",
        "kPa": "ksf",
        "kNm": "kip ft",
        "kN/m3": "pcf",
        "MPa": "psi",
        "kPa/m": "ksf/ft",
        "mm": "in",
        "mm²/m": "in²/ft",
        "mm²": "in²",
        "kN/m³": "pcf",
        "kN/m": "kip/ft",
        "kNm/m": "kip ft/ft",
        "m²": "ft²",
        "m³": "yd³",
        "m²/day": "ft²/day",
        "1/MPa": "ft²/kip",
        SUBGRADE: "pci",
        "kNm/rad": "kip ft/rad",
    },
}


class UnitError(ValueError):
    """A text that is not a quantity of the expected kind."""


NAMES: dict[str, str] = {
    "m": "m",
    "mm": "mm",
    "cm": "cm",
    "km": "km",
    "in": "inch",
    "inch": "inch",
    "ft": "foot",
    "foot": "foot",
    "feet": "foot",
    "yd": "yard",
    "N": "newton",
    "kN": "kilonewton",
    "MN": "meganewton",
    "lbf": "force_pound",
    "lb": "force_pound",
    "lbs": "force_pound",
    "k": "kip",
    "kip": "kip",
    "kips": "kip",
    "kp": "force_kilogram",
    "kgf": "force_kilogram",
    "kg": "force_kilogram",
    "g": "force_gram",
    "shortton": "force_ton",
    "t": "force_metric_ton",
    "tf": "force_metric_ton",
    "Mg": "force_metric_ton",
    "Pa": "pascal",
    "kPa": "kilopascal",
    "MPa": "megapascal",
    "GPa": "gigapascal",
    "bar": "bar",
    "mbar": "millibar",
    "psi": "(force_pound/inch**2)",
    "psf": "(force_pound/foot**2)",
    "ksi": "(kip/inch**2)",
    "ksf": "(kip/foot**2)",
    "pcf": "(force_pound/foot**3)",
    "kcf": "(kip/foot**3)",
    "pci": "(force_pound/inch**3)",
    "plf": "(force_pound/foot)",
    "klf": "(kip/foot)",
    "s": "second",
    "sec": "second",
    "min": "minute",
    "h": "hour",
    "hr": "hour",
    "d": "day",
    "day": "day",
    "days": "day",
    "a": "year",
    "yr": "year",
    "year": "year",
    "years": "year",
    "deg": "degree",
    "°": "degree",
    "rad": "radian",
}
"""Units that are understood, and what the library calls them. Masses are weights, as nothing here has a mass."""
RUN_TOGETHER: dict[str, str] = {
    "kNm": "kN*m",
    "KNm": "kN*m",
    "Nm": "N*m",
    "Nmm": "N*mm",
    "MNm": "MN*m",
    "kNmm": "kN*mm",
    "kgm": "kg*m",
    "tm": "t*m",
    "kipft": "kip*ft",
    "kipin": "kip*in",
    "ftkip": "kip*ft",
    "ftk": "k*ft",
    "kft": "k*ft",
    "kin": "k*in",
    "lbft": "lb*ft",
    "ftlb": "lb*ft",
    "lbin": "lb*in",
    "inlb": "lb*in",
}
"""Products that are written without a sign between."""
_CASELESS: dict[str, list[str]] = {}
for _name in NAMES:
    _CASELESS.setdefault(_name.lower(), []).append(_name)
PART = re.compile(r"(?P<name>[A-Za-z°]+)(?P<power>[23])?")
LONGEST = 40
TONS = ("ton", "tons", "tonf", "tsf", "tcf")
"""What may be short or metric."""


@lru_cache(maxsize=1024)
def understood(text: str) -> str:
    """A unit as typed, in the words of the library: names of the list with powers 2 and 3, products and quotients of
    them.

    Raises:
        UnitError: when it is none of these.
    """
    plain = text.strip().translate(_SIGNS).replace("**", "").replace("^", "")
    if len(plain) > LONGEST:
        raise UnitError(say("'{text}…' is not a unit that is known here", text=text[:20]))
    above, *below = re.split(r"\s*/\s*", plain)
    parts = [(1, above), *((-1, part) for part in below)]
    found = []
    for sign, product in parts:
        for word in re.split(r"[\s*·.\-]+", product):
            if word in ("", "1"):
                continue
            found += [f"{name}**{sign * power}" for name, power in _words(word, text)]
    if not found or len(found) > 6:
        raise UnitError(say("'{text}' is not a unit that is known here", text=text.strip()))
    return "*".join(found)


_SIGNS = str.maketrans({"²": "2", "³": "3", "×": "*", "⋅": "*", "’": "'"})


def _words(word: str, text: str) -> list[tuple[str, int]]:
    """A word of a unit: one of the list, with its power, or some that are written together."""
    match = PART.fullmatch(word)
    if match:
        name, power = match["name"], int(match["power"] or 1)
        known = NAMES.get(name)
        if known is None:
            alike = _CASELESS.get(name.lower(), [])
            known = NAMES[alike[0]] if len(alike) == 1 and len(name) > 1 else None
        if known is not None:
            return [(known, power)]
        together = RUN_TOGETHER.get(name) or next(
            (v for k, v in RUN_TOGETHER.items() if k.lower() == name.lower() and len(name) > 2), None
        )
        if together and power == 1:
            return [(NAMES[part], 1) for part in together.split("*")]
    raise UnitError(say("'{text}' is not a unit that is known here", text=text.strip()))


@lru_cache(maxsize=1)
def _registry() -> Any:
    import pint

    registry: Any = pint.UnitRegistry(None)
    registry.load_definitions(DEFINITIONS.splitlines())
    return registry


DEFINITIONS = """
milli- = 1e-3 = m-
centi- = 1e-2 = c-
kilo- = 1e3 = k-
mega- = 1e6 = M-
giga- = 1e9 = G-
meter = [length] = m
gram = [mass] = g
second = [time] = s
radian = []
degree = 1.7453292519943295e-2 * radian
mm = 1e-3 * meter
cm = 1e-2 * meter
km = 1e3 * meter
inch = 2.54e-2 * meter
foot = 12 * inch
yard = 3 * foot
newton = 1e3 * gram * meter / second ** 2
force_gram = 9.80665e-3 * newton
force_kilogram = 9.80665 * newton
force_metric_ton = 9806.65 * newton
force_pound = 4.4482216152605 * newton
kip = 1e3 * force_pound
force_ton = 2e3 * force_pound
pascal = newton / meter ** 2
bar = 1e5 * pascal
minute = 60 * second
hour = 60 * minute
day = 24 * hour
year = 365.25 * day
"""
"""Only what is understood here: the library's own list takes a quarter of a second to read."""


_FT, _LBF = 0.3048, 0.45359237 * 9.80665e-3
EXACT: dict[str, tuple[str, float]] = {
    "m": ("m", 1.0),
    "mm": ("m", 1e-3),
    "ft": ("m", _FT),
    "in": ("m", _FT / 12),
    "m²": ("m2", 1.0),
    "ft²": ("m2", _FT**2),
    "m³": ("m3", 1.0),
    "yd³": ("m3", (3 * _FT) ** 3),
    "kN": ("kN", 1.0),
    "kip": ("kN", 1e3 * _LBF),
    "kNm": ("kNm", 1.0),
    "kip ft": ("kNm", 1e3 * _LBF * _FT),
    "kNm/m": ("kNm/m", 1.0),
    "kip ft/ft": ("kNm/m", 1e3 * _LBF),
    "kN/m": ("kN/m", 1.0),
    "kip/ft": ("kN/m", 1e3 * _LBF / _FT),
    "kPa": ("kPa", 1.0),
    "MPa": ("kPa", 1e3),
    "ksf": ("kPa", 1e3 * _LBF / _FT**2),
    "psi": ("kPa", _LBF / (_FT / 12) ** 2),
    "kN/m3": ("kN/m3", 1.0),
    "kN/m³": ("kN/m3", 1.0),
    "pcf": ("kN/m3", _LBF / _FT**3),
    SUBGRADE: ("kN/m3", 1.0),
    "pci": ("kN/m3", _LBF / (_FT / 12) ** 3),
    "kcf": ("kN/m3", 1e3 * _LBF / _FT**3),
    "MN/m³": ("kN/m3", 1e3),
    "kNm/rad": ("kNm/rad", 1.0),
    "kip ft/rad": ("kNm/rad", 1e3 * _LBF * _FT),
    "kPa/m": ("kPa/m", 1.0),
    "ksf/ft": ("kPa/m", 1e3 * _LBF / _FT**3),
    "mm²/m": ("m2/m", 1e-6),
    "in²/ft": ("m2/m", _FT / 144),
    "mm²": ("m2", 1e-6),
    "in²": ("m2", (_FT / 12) ** 2),
    "m²/day": ("m2/day", 1.0),
    "m²/year": ("m2/day", 1 / 365.25),
    "ft²/day": ("m2/day", _FT**2),
    "1/MPa": ("1/kPa", 1e-3),
    "ft²/kip": ("1/kPa", _FT**2 / (1e3 * _LBF)),
}
"""What is shown all the time: (kind, size in the first of its kind), from the inch of 25.4 mm and the pound-force; the
same as the library's."""


@lru_cache(maxsize=256)
def factor(from_unit: str, to_unit: str) -> float:
    """What to multiply a value in one unit by to have it in the other.

    Raises:
        UnitError: when a unit is unknown or the two do not measure the same.
    """
    if from_unit == to_unit:
        return 1.0
    if from_unit in EXACT and to_unit in EXACT and EXACT[from_unit][0] == EXACT[to_unit][0]:
        return EXACT[from_unit][1] / EXACT[to_unit][1]
    registry = _registry()
    source, target = understood(from_unit), understood(to_unit)
    try:
        return float(registry.Quantity(1.0, source).to(target).magnitude)
    except Exception as error:  # pint raises many kinds
        raise UnitError(
            say("'{from_unit}' is not a unit for a value in {to_unit}", from_unit=from_unit, to_unit=to_unit)
        ) from error


OVERRIDABLE = ("m", "mm", "kN", "kNm", "kPa", "MPa", "kN/m3", "kPa/m", SUBGRADE, "m²/day", "1/MPa")
"""Stored units that a project may show in another unit than that of its set."""


def shown_unit(unit: str, units: UnitSet) -> str:
    """The unit in which a value stored in ``unit`` is shown."""
    if isinstance(units, str):
        return SHOWN[units].get(unit, unit)
    for stored, shown in units.overrides:
        if stored == unit:
            return "ft" if shown == FEET_AND_INCHES else shown
    return SHOWN[units.system].get(unit, unit)


def to_shown(value: float, unit: str, units: UnitSet) -> float:
    """A stored value in the unit in which it is shown."""
    return value * factor(unit, shown_unit(unit, units)) if unit else value


def show_length(value: float, units: UnitSet = "metric") -> str:
    """A length stored in m as a number in its shown unit: of m and ft two decimals unless a third matters, of mm none
    unless it matters."""
    unit = shown_unit("m", units)
    least = LENGTH_DECIMALS.get(unit, 2)
    text = f"{to_shown(value, 'm', units):.{least + 1}f}"
    text = text.removeprefix("-") if not text.strip("-0.") else text
    return (text[:-1].removesuffix(".") if text.endswith("0") else text).replace("-", "−")


LENGTH_DECIMALS = {"mm": 0, "cm": 1, "in": 1}
"""Decimals of a length in a shown unit; others have two."""


def length_text(value: float, units: UnitSet = "metric", unit: bool = True) -> str:
    """A length stored in m as it is written beside what it measures: with its unit, or in feet and inches where the
    project asks for them.

    ``unit`` False leaves the unit out where a heading names it.
    """
    if not isinstance(units, str) and units.feet_and_inches:
        return feet_words(value).replace("0'-", "", 1) if abs(value) < EXACT["ft"][1] - 1e-3 else feet_words(value)
    return f"{show_length(value, units)} {shown_unit('m', units)}" if unit else show_length(value, units)


def sizes_text(values: Iterable[float], units: UnitSet = "metric", between: str = " × ", unit: bool = True) -> str:
    """Lengths stored in m that belong together, the unit once behind the last: 1.50 × 2.00 m, 5'-0" × 6'-6 3/4"."""
    *first, last = values
    return between.join([*(length_text(v, units, False) for v in first), length_text(last, units, unit)])


def feet_words(value: float) -> str:
    """A length stored in m in feet and inches to the eighth: 5'-0 1/2\"."""
    eighths = round(abs(value) / EXACT["in"][1] * 8)
    inches, part = divmod(eighths, 8)
    feet, inches = divmod(inches, 12)
    fraction = f" {part // gcd(part, 8)}/{8 // gcd(part, 8)}" if part else ""
    return f"{'−' if value < 0 and eighths else ''}{feet}'-{inches}{fraction}\""


def in_eighths(value: float) -> bool:
    """Whether feet and inches to the eighth say all of a length stored in m."""
    eighths = value / EXACT["in"][1] * 8
    return abs(eighths - round(eighths)) < 1e-3


def show_ratio(ratio: float) -> str:
    """A ratio with two decimals; large ones without, as they only say that it is far beyond."""
    return f"{ratio:.2f}" if ratio < 10 else f"{ratio:.0f}" if ratio < 1000 else "> 999"


def show(value: float, unit: str, units: UnitSet = "metric", digits: int = 3) -> str:
    """A stored value as text in its shown unit, without the unit: three significant digits unless more matter."""
    shown = to_shown(value, unit, units)
    if shown == 0:
        return "0"
    size = abs(shown)
    decimals = 0 if size >= 10 ** (digits - 1) else 1 if size >= 10 else 2 if size >= 1 else 3
    return f"{shown:.{decimals}f}".replace("-", "−")
