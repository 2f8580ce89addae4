"""Quantities as people type them: numbers with either decimal sign and blanks between thousands, fractions of inches,
feet and inches, units."""

import re
from typing import Literal

from korbent.core.units import SUBGRADE, TONS, UnitError, UnitSet, factor, shown_unit
from korbent.words import say


class AmbiguousTonError(UnitError):
    """A 'ton' that may be short (2000 lbf) or metric (1000 kgf)."""


class AmbiguousNumberError(UnitError):
    """A number such as 1,250 that may be 1.25 or 1250."""


Ton = Literal["short", "metric"]
Decimal = Literal[".", ","]


def ton_named(text: str) -> Ton | None:
    """Which ton a typed quantity names: 1.6 short tsf, 2 metric ton."""
    match = re.search(r"\b(short|metric)\s+(tsf|tons?|tonf|tcf)\b", text)
    return ("short" if match[1] == "short" else "metric") if match else None


DIGITS = r"\d[\d.,'\u2019 \u00a0\u202f]*|[.,]\d+"
NUMBER = re.compile(
    rf"\s*(?P<sign>[+\-−]?)\s*(?P<digits>{DIGITS})(?P<power>[eE][+\-−]?\d{{1,3}})?\s*(?P<unit>[^\d\s].*?)?\s*"
)
INCHES = r"(?:(?P<whole>\d+(?:\.\d+)?)?(?:(?:(?<=\d)\s+|(?<!\d))(?P<over>\d+)\s*/\s*(?P<under>\d+))?)"
FEET = re.compile(
    rf"\s*(?P<sign>[+\-−]?)\s*(?:(?P<feet>\d+(?:\.\d+)?)\s*(?:'|′|’|ft\.?|feet)\s*-?\s*)?(?:{INCHES}\s*(?P<mark>\"|″|''|in\.?|inches)?)?\s*"
)
LONGEST = 60


def decimal_of(text: str) -> Decimal | None:
    """Which decimal sign a number shows without doubt; None where it shows none, or may be read both ways."""
    digits = re.sub(r"[^\d.,]", "", text)
    points, commas = digits.count("."), digits.count(",")
    if points and commas:
        return "." if digits.rfind(".") > digits.rfind(",") else ","
    if points == 1:
        return "."
    if commas == 1 and (len(digits.partition(",")[2]) != 3 or digits.startswith(("0,", ","))):
        return ","
    if points > 1:
        return ","
    return "." if commas > 1 else None


def is_ambiguous(text: str) -> bool:
    """A comma and three digits after it, and nothing that says which sign it is."""
    digits = re.sub(r"[^\d.,]", "", text)
    return digits.count(",") == 1 and "." not in digits and decimal_of(digits) is None


def number_of(digits: str, decimal: Decimal | None, units: UnitSet) -> float:
    """The value of digits with their signs.

    Raises:
        AmbiguousNumberError: for one such as 1,250, where neither ``decimal`` nor US units say that the comma parts
        thousands.
        UnitError: when the signs make no number.
    """
    plain = re.sub(r"(?<=\d)[ \u00a0\u202f'\u2019](?=\d{3}(?!\d))", "", digits.strip())
    if re.search(r"[ \u00a0\u202f'\u2019]", plain):
        raise UnitError(say("'{digits}' is not a number: blanks part groups of three digits", digits=digits.strip()))
    sign = decimal_of(plain) or decimal
    if is_ambiguous(plain) and sign is None:
        us = units == "us" or getattr(units, "system", "") == "us"
        if not us:
            whole = plain.replace(",", "")
            raise AmbiguousNumberError(
                say(
                    "'{plain}' may be {replace:g} or {whole}: type one of the two",
                    plain=plain,
                    replace=float(plain.replace(",", ".")),
                    whole=whole,
                )
            )
        sign = "."
    sign = sign or "."
    other = "," if sign == "." else "."
    if plain.count(sign) > 1:
        raise UnitError(say("'{digits}' is not a number: it has two decimal signs", digits=digits.strip()))
    head, _, tail = plain.partition(sign)
    if other in tail or (other in head and not re.fullmatch(rf"\d{{1,3}}(?:\{other}\d{{3}})+", head)):
        raise UnitError(say("'{digits}' is not a number: groups of thousands have three digits", digits=digits.strip()))
    return float(f"{head.replace(other, '') or '0'}.{tail or '0'}")


def _in_feet(text: str, unit: str) -> float | None:
    """A length in feet and inches, in inches, or with a fraction of an inch; None where it is none of these."""
    match = FEET.fullmatch(text)
    if not match or not (match["feet"] or match["mark"]) or (match["mark"] and not (match["whole"] or match["over"])):
        return None
    if (
        match["feet"]
        and not match["mark"]
        and match["over"] is None
        and match["whole"]
        and "'" not in text
        and "′" not in text
    ):
        return None
    under = float(match["under"] or 1)
    if under == 0:
        raise UnitError(say("'{text}' divides by nothing", text=text.strip()))
    inches = float(match["whole"] or 0) + float(match["over"] or 0) / under
    size = float(match["feet"] or 0) * factor("ft", unit) + inches * factor("in", unit)
    return -size if match["sign"] in ("-", "−") else size


def parse(
    text: str, unit: str, units: UnitSet = "metric", ton: Ton | None = None, decimal: Decimal | None = None
) -> float:
    """The value in the stored ``unit`` of what was typed; without a unit, the shown one is meant.

    Decimal commas, blanks and signs between thousands are understood, and 3'-6 1/2" for feet and inches. ``decimal``
    says which sign a file uses, for numbers that may be read both ways.

    Raises:
        AmbiguousTonError: for 'tsf' or 'ton' while ``ton`` does not say which.
        AmbiguousNumberError: for one such as 1,250, while nothing says which sign the comma is.
        UnitError: with what is wrong and what to type instead.
    """
    if len(text) > LONGEST and len(text.strip()) > LONGEST:
        raise UnitError(say("'{text}…' is no value that can be meant", text=text.strip()[:20]))
    text = text.strip()
    if unit in ("m", "mm") and re.search(r"['\"′″’]|ft|in", text):
        feet = _in_feet(text, unit)
        if feet is not None:
            return feet
    match = NUMBER.fullmatch(text)
    wanted = shown_unit(unit, units)
    if not match:
        raise UnitError(
            say("'{text}' is not a number; type one such as 2.4", text=text)
            + (say(" or 2.4 {wanted}", wanted=wanted) if wanted else "")
        )
    value = number_of(match["digits"].strip(), decimal, units)
    exponent = int((match["power"] or "e0")[1:].replace("−", "-"))
    value = float(f"{value!r}e{exponent}") if "e" not in repr(value) else value * 10.0**exponent
    value = -value if match["sign"] in ("-", "−") else value
    if not abs(value) < 1e15:
        raise UnitError(say("'{text}' is no value that can be meant", text=text[:40]))
    typed = match["unit"] or ""
    if not typed or typed == wanted:
        return value * factor(wanted, unit) if wanted != unit else value
    if not unit:
        if typed == "%":
            return value / 100
        raise UnitError(say("'{typed}' does not belong here: a plain number is meant", typed=typed))
    if unit == SUBGRADE and typed.lower() == "pcf":
        raise UnitError(say("pcf is the weight of a volume: give a modulus of subgrade reaction in pci, kcf or kN/m3"))
    which = ton_named(text)
    if which:
        typed, ton = typed.split(None, 1)[1], which
    return value * factor(ton_unit(typed, ton), unit)


def ton_unit(unit: str, ton: Ton | None) -> str:
    """A unit whose ton is known; the unit itself where it has none.

    Raises:
        AmbiguousTonError: when it may be either.
    """
    words = re.split(r"[^A-Za-z]+", unit)
    named = next((w for w in words if w.lower() in TONS), None)
    if named is None:
        return unit
    if ton is None:
        raise AmbiguousTonError(
            say(
                "'{unit}' may be short (2000 lbf) or metric (1000 kgf): type 'short {unit}' or 'metric {unit}' once",
                unit=unit,
            )
        )
    of_ton = {"tsf": "tonf/ft2", "tcf": "tonf/ft3"}.get(named.lower())
    whole = unit if of_ton is None else unit.replace(named, of_ton)
    return re.sub(r"[A-Za-z]*ton[a-z]*", "short_ton" if ton == "short" else "tf", whole).replace(
        "short_ton", "shortton"
    )
