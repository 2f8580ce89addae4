"""A moment in time as it is typed: days, months or years from the first construction step, or a date."""

import datetime

from korbent.core.actions.construction import YEAR
from korbent.core.quantity_text import parse
from korbent.core.units import UnitError
from korbent.words import say

TOLD = say("days or years since the first step, such as 90 d or 2.5 y, or a date")
LENGTHS = {
    "years": YEAR,
    "year": YEAR,
    "y": YEAR,
    "months": 30.44,
    "month": 30.44,
    "days": 1.0,
    "day": 1.0,
    "d": 1.0,
}


def day_from(text: str, start: datetime.date | None) -> float:
    """Days from the first step, from what was typed; ``start`` is the date of the first step where it is known.

    Raises:
        ValueError: in words for the user, where it is no moment.
    """
    typed = text.strip().lower()
    try:
        for ending, days in LENGTHS.items():
            if typed.endswith(ending):
                return parse(typed.removesuffix(ending).strip(), "") * days
        if typed.count("-") == 2 and start is not None:
            return float((datetime.date.fromisoformat(typed) - start).days)
        return parse(typed, "")
    except (UnitError, ValueError):
        raise ValueError(
            say(
                "'{text}' is no moment: type days or years such as 90 d or 2.5 y, or a date such as 2027-11-01",
                text=text.strip(),
            )
        ) from None
