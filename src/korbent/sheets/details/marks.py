"""Marks of bars at the places where they lie, and how they are labelled."""

from dataclasses import dataclass

from korbent.core.concrete.bar_text import diameter_words
from korbent.core.concrete.fabric import INCH
from korbent.core.concrete.schedule import Bar, schedule, sheets
from korbent.core.model import Bars, Project
from korbent.words import english


@dataclass(frozen=True)
class Marks:
    """Marks of the schedule of the whole project, by base and place in it."""

    bars: dict[tuple[str, str], tuple[tuple[Bar, int], ...]]
    fabrics: dict[tuple[str, str], str]

    def of(self, base: str, place: str) -> tuple[tuple[Bar, int], ...]:
        """(bar, how many) of a place in a base."""
        return self.bars.get((base, place), ())

    def word(self, base: str, place: str) -> str:
        """The marks of a place: 03, or 03–07 where bars of several lengths lie there."""
        found = sorted({bar.mark for bar, _ in self.of(base, place)})
        if not found:
            return self.fabrics.get((base, english(place).partition(" ")[0]), "")
        return found[0] if len(found) == 1 else f"{found[0]}–{found[-1]}"

    def count(self, base: str, place: str) -> int:
        """How many bars lie there."""
        return sum(n for _, n in self.of(base, place))


def marks_of(project: Project) -> Marks:
    """The marks of all bars and fabrics of a project."""
    found: dict[tuple[str, str], list[tuple[Bar, int]]] = {}
    for bar in schedule(project):
        for base, place, count in bar.where:
            found.setdefault((base, place), []).append((bar, count))
    fabrics = {(base, place): s.mark for s in sheets(project) for base, place, _ in s.where}
    return Marks({k: tuple(v) for k, v in found.items()}, fabrics)


def bar_label(project: Project, pad: str, place: str, bars: Bars, marks: Marks) -> str:
    """``n ø - spacing - mark``: 14 ø16 - 150 - 03."""
    us = project.units == "us"
    mark = marks.word(pad, place)
    if bars.fabric:
        return f"{bars.fabric} - {mark}" if mark else bars.fabric
    count = marks.count(pad, place)
    parts = [f"{count} {diameter_words(bars.diameter, us)}" if count else diameter_words(bars.diameter, us)]
    if bars.spacing:
        parts.append(f'{bars.spacing / INCH:.3g}"' if us else f"{1000 * bars.spacing:.0f}")
    return " - ".join([*parts, mark] if mark else parts)
