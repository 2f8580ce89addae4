"""One reference case, its outcome, and the table of all."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from korbent.core.sources import MARK, MEANING, UNCHECKED

How = Literal["closed form", "second method", "printed", "from memory"]


TINY = 1e-9
"""References nearer to zero are compared absolutely."""


@dataclass(frozen=True)
class Case:
    """A value that is known, and the calculation that must give it.

    ``how``: a closed form, a second method of computing, a value printed in the named source, or one quoted
    from memory. ``tolerance`` is relative to the reference (absolute where that is zero). A reference that takes
    some computing is given as a function.
    """

    name: str
    how: How
    source: str
    reference: float | Callable[[], float]
    compute: Callable[[], float]
    tolerance: float
    unit: str = ""

    @cached_property
    def known(self) -> float:
        """The value of the reference."""
        return float(self.reference() if callable(self.reference) else self.reference)


@dataclass(frozen=True)
class Outcome:
    """A case with the value computed."""

    case: Case
    computed: float

    @property
    def difference(self) -> float:
        """Relative to the reference; absolute where that is zero."""
        gap = self.computed - self.case.known
        return gap / abs(self.case.known) if abs(self.case.known) > TINY else gap

    @property
    def within(self) -> bool:
        """The difference is within the tolerance (and a number)."""
        return abs(self.difference) <= self.case.tolerance


def outcomes(cases: Iterable[Case]) -> list[Outcome]:
    """Computes all cases."""
    return [Outcome(case, float(case.compute())) for case in cases]


HEAD = ("case", "how known", "source", "reference", "computed", "difference", "tolerance", "")


def _row(outcome: Outcome) -> tuple[str, ...]:
    case = outcome.case
    unit = f" {case.unit}" if case.unit else ""
    return (
        case.name,
        case.how,
        case.source,
        f"{case.known:.6g}{unit}",
        f"{outcome.computed:.6g}{unit}",
        f"{outcome.difference:+.1e}",
        f"{case.tolerance:.0e}",
        "within" if outcome.within else "OUTSIDE",
    )


def as_text(found: list[Outcome]) -> str:
    """The table for the terminal."""
    rows = [HEAD, *map(_row, found)]
    widths = [max(len(row[i]) for row in rows) for i in range(len(HEAD))]
    lines = ["  ".join(cell.ljust(width) for cell, width in zip(row, widths)).rstrip() for row in rows]
    count = sum(o.within for o in found)
    return "\n".join([*lines, f"{count} of {len(found)} within their tolerance"])


def as_markdown(found: list[Outcome]) -> str:
    """The table for the documentation."""
    lines = [
        "# Verification",
        "",
        "Made by `./korbent verify`. Each case says how its reference value is known: a closed form, a second method of",
        "computing, a value printed in the source, or one quoted from memory. Differences are relative. Which small faults,",
        "made on purpose, the tests see is told in [reliability](reliability.md).",
        "",
        "| " + " | ".join(HEAD[:-1]) + " | |",
        "|" + "---|" * len(HEAD),
    ]
    lines += ["| " + " | ".join(cell.replace("|", "\\|") for cell in _row(o)) + " |" for o in found]
    count = sum(o.within for o in found)
    lines += [
        "",
        f"{count} of {len(found)} within their tolerance.",
        "",
        f"## {MARK} {MEANING[0].upper()}{MEANING[1:]}",
        "",
    ]
    lines += [
        "Values with these references carry the mark in workings, tooltips of the ledger and the report. A second method above that repeats the same",
        "coefficient proves nothing about the coefficient.",
        "",
        "| reference begins with | what is from memory |",
        "|---|---|",
    ]
    lines += [f"| {start} | {what} |" for start, what in UNCHECKED]
    return "\n".join([*lines, ""])
