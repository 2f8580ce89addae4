"""Units at the edge: what was typed becomes SI, what is shown is in the unit set of the project.

Inside, everything is m, kN, kPa, kN/m3, kNm, MPa, deg. ``pint`` knows the units; it is loaded when a unit
other than the shown one is met first.
"""

import re
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

System = Literal["metric", "us"]


@dataclass(frozen=True)
class Showing:
    """A unit set with single overrides: (stored unit, unit shown instead)."""

    system: System
    overrides: tuple[tuple[str, str], ...] = ()


UnitSet = System | Showing

# stored unit -> unit shown, by unit set
SHOWN: dict[System, dict[str, str]] = {
    "metric": {"m²/day": "m²/year"},
    "us": {
        "m": "ft", "kN": "kip", "kPa": "ksf", "kNm": "kip ft", "kN/m3": "pcf", "MPa": "psi", "kPa/m": "ksf/ft",
        "mm": "in", "mm²/m": "in²/ft", "kN/m³": "pcf", "kNm/m": "kip ft/ft", "m²": "ft²", "m²/day": "ft²/day", "1/MPa": "ft²/kip",
    },
}  # fmt: skip

PINT = {
    "kNm": "kN*m", "kN/m3": "kN/m**3", "kN/m³": "kN/m**3", "kip ft": "kip*ft", "pcf": "force_pound/ft**3",
    "ksf": "kip/ft**2", "psf": "force_pound/ft**2", "ksf/ft": "kip/ft**3", "psi": "force_pound/inch**2",
    "ksi": "kip/inch**2", "mm²/m": "mm**2/m", "in²/ft": "inch**2/ft", "kNm/m": "kN*m/m", "kip ft/ft": "kip*ft/ft",
    "m²": "m**2", "ft²": "ft**2", "deg": "degree", "°": "degree", "lbf": "force_pound", "lb": "force_pound",
    "kips": "kip", "tf": "force_metric_ton", "in": "inch", "kg/cm2": "force_kilogram/cm**2",
    "t/m2": "force_metric_ton/m**2", "m²/day": "m**2/day", "m²/year": "m**2/year", "ft²/day": "ft**2/day", "m2/year": "m**2/year", "m2/yr": "m**2/year", "m²/s": "m**2/s", "mm²/min": "mm**2/min", "cm²/s": "cm**2/s", "bar": "bar", "1/MPa": "1/MPa", "ft²/kip": "ft**2/kip", "m²/MN": "m**2/MN", "m²/kN": "m**2/kN", "MN": "MN", "kipft": "kip*ft", "kip-ft": "kip*ft", "kN-m": "kN*m", "kN·m": "kN*m", "kip·ft": "kip*ft", "k-ft": "kip*ft", "kN*m": "kN*m",
}  # fmt: skip

TONS = {
    "tsf": ("force_ton/ft**2", "force_metric_ton/ft**2"),
    "ton": ("force_ton", "force_metric_ton"),
    "tons": ("force_ton", "force_metric_ton"),
}


class UnitError(ValueError):
    """A text that is not a quantity of the expected kind."""


class AmbiguousTonError(UnitError):
    """A 'ton' that may be short (2000 lbf) or metric (1000 kgf)."""


@lru_cache(maxsize=1)
def _registry() -> Any:
    import pint

    registry: Any = pint.UnitRegistry()
    return registry


@lru_cache(maxsize=256)
def factor(from_unit: str, to_unit: str) -> float:
    """What to multiply a value in one unit by to have it in the other.

    Raises:
        UnitError: when a unit is unknown or the two do not measure the same.
    """
    if from_unit == to_unit:
        return 1.0
    registry = _registry()
    try:
        source = registry.Quantity(1.0, PINT.get(from_unit, from_unit))
        return float(source.to(PINT.get(to_unit, to_unit)).magnitude)
    except Exception as error:  # pint raises many kinds
        raise UnitError(f"'{from_unit}' is not a unit for a value in {to_unit}") from error


OVERRIDABLE = ("m", "mm", "kN", "kNm", "kPa", "MPa", "kN/m3", "kPa/m", "m²/day", "1/MPa")
"""Stored units that a project may show in another unit than that of its set."""


def shown_unit(unit: str, units: UnitSet) -> str:
    """The unit in which a value stored in ``unit`` is shown."""
    if isinstance(units, str):
        return SHOWN[units].get(unit, unit)
    for stored, shown in units.overrides:
        if stored == unit:
            return shown
    return SHOWN[units.system].get(unit, unit)


def to_shown(value: float, unit: str, units: UnitSet) -> float:
    """A stored value in the unit in which it is shown."""
    return value * factor(unit, shown_unit(unit, units)) if unit else value


Ton = Literal["short", "metric"]


def ton_named(text: str) -> Ton | None:
    """Which ton a typed quantity names: 1.6 short tsf, 2 metric ton."""
    match = re.search(r"\b(short|metric)\s+(tsf|tons?)\b", text)
    return ("short" if match[1] == "short" else "metric") if match else None


NUMBER = re.compile(
    r"^\s*([+\-−]?)\s*(\d[\d \u00a0\u202f']*(?:[.,]\d+)?|[.,]\d+)(e[+-]?\d+)?\s*(.*?)\s*$", re.IGNORECASE
)
FEET = re.compile(
    r"^\s*([+\-−]?)\s*(\d+(?:\.\d+)?)\s*(?:'|ft)\s*-?\s*(?:(\d+(?:\.\d+)?)\s*(?:\"|in|'')?)?\s*$"
)


def parse(text: str, unit: str, units: UnitSet = "metric", ton: Ton | None = None) -> float:
    """The value in the stored ``unit`` of what was typed; without a unit, the shown one is meant.

    Decimal commas and blanks between thousands are understood, and 3'-6" for feet and inches.

    Raises:
        AmbiguousTonError: for 'tsf' or 'ton' while ``ton`` does not say which.
        UnitError: with what is wrong and what to type instead.
    """
    feet = FEET.match(text) if unit in ("m", "mm") and "'" in text else None
    if feet:
        sign = -1.0 if feet[1] in "-−" and feet[1] else 1.0
        return sign * (float(feet[2]) * factor("ft", unit) + float(feet[3] or 0.0) * factor("inch", unit))
    match = NUMBER.match(text)
    wanted = shown_unit(unit, units)
    if not match:
        raise UnitError(
            f"'{text.strip()}' is not a number; type one such as 2.4"
            + (f" or 2.4 {wanted}" if wanted else "")
        )
    sign = -1.0 if match[1] in ("-", "−") else 1.0
    digits = re.sub(r"[ \u00a0\u202f']", "", match[2]).replace(",", ".")
    value = sign * float(digits + (match[3] or ""))
    if not abs(value) < 1e15:
        raise UnitError(f"'{text.strip()[:40]}' is no value that can be meant")
    typed = match[4]
    if not typed or typed == wanted:
        return value * factor(wanted, unit) if wanted != unit else value
    if not unit:
        if typed == "%":
            return value / 100
        raise UnitError(f"'{typed}' does not belong here: a plain number is meant")
    which = ton_named(text)
    if which:
        typed, ton = typed.split(None, 1)[1], which
    if typed in TONS:
        if ton is None:
            raise AmbiguousTonError(
                f"'{typed}' may be short (2000 lbf) or metric (1000 kgf): type 'short {typed}' or 'metric {typed}' once"
            )
        return value * factor(TONS[typed][0 if ton == "short" else 1], unit)
    return value * factor(typed.replace("²", "2").replace("³", "3") if typed not in PINT else typed, unit)


def show_length(value: float, units: UnitSet = "metric") -> str:
    """A length stored in m as text in its shown unit, without the unit: two decimals unless a third matters."""
    text = f"{to_shown(value, 'm', units):.3f}"
    text = text.removeprefix("-") if text == "-0.000" else text
    return (text[:-1] if text.endswith("0") else text).replace("-", "−")


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
