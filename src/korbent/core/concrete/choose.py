"""Which bars would do: diameters against spacings for one base, each with its worst ratio, its weight, and why not."""

from dataclasses import dataclass

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.checks import LIMIT
from korbent.core.concrete.checks import concrete_checks
from korbent.core.concrete.cracks import crack_checks
from korbent.core.concrete.schedule import weight_of
from korbent.core.geometry import table
from korbent.core.model.foundations import Bars, Pad
from korbent.core.model.project import Project
from korbent.core.sizing.size_map import governing_by_candidate
from korbent.core.working import SILENT

INCH = 0.0254
DIAMETERS = {
    "metric": (0.010, 0.012, 0.016, 0.020, 0.025, 0.032),
    "us": tuple(n / 8 * INCH for n in (4, 5, 6, 7, 8)),
    "as": (0.012, 0.016, 0.020, 0.024, 0.028),
}
"""Bars of a region, m: of EN 10080, #4 to #8, and N12 to N28."""
SPACINGS = {
    "metric": (0.100, 0.125, 0.150, 0.175, 0.200, 0.250, 0.300),
    "us": tuple(n * INCH for n in (4, 5, 6, 8, 9, 10, 12)),
    "as": (0.100, 0.125, 0.150, 0.175, 0.200, 0.250, 0.300),
}
DIRECTIONS = ("bottom x", "bottom y", "bottom x and y")
GAP = 0.020
"""Least clear gap between bars, m, besides their diameter (EN 1992-1-1 8.2(2), with 16 mm aggregate)."""


@dataclass(frozen=True)
class Choice:
    """One diameter at one spacing: the worst ratio of the checks of the concrete, kilograms in the base, why not ('' where it does)."""

    bars: Bars
    ratio: float
    weight: float
    why: str

    @property
    def works(self) -> bool:
        """Every check holds."""
        return not self.why


@dataclass(frozen=True)
class BarTable:
    """Choices by diameter (rows) and spacing (columns)."""

    direction: str
    rows: tuple[tuple[Choice, ...], ...]

    @property
    def lightest(self) -> Choice | None:
        """The lightest that works; of two alike the one with fewer bars."""
        working = [c for row in self.rows for c in row if c.works]
        return min(working, key=lambda c: (round(c.weight, 1), -(c.bars.spacing or 0.0)), default=None)


def region_of(project: Project) -> str:
    """Whose bars: by the unit set and the standard."""
    return (
        "us" if project.units == "us" else "as" if project.standards.concrete.startswith("AS") else "metric"
    )


def with_bars(pad: Pad, direction: str, bars: Bars) -> Pad:
    """The pad with other bottom bars along a direction, or along both."""
    changes = {f"bottom_{axis}": bars for axis in "xy" if axis in direction.removeprefix("bottom")}
    return pad.replaced(reinforcement=pad.reinforcement.replaced(**changes))


def bar_table(project: Project, pad: Pad, direction: str = "bottom x and y") -> BarTable:
    """All bars of the region for one base, in one batch.

    Raises:
        KeyError: when the direction is none of DIRECTIONS.
    """
    if direction not in DIRECTIONS:
        raise KeyError(direction)
    region = region_of(project)
    grid = [[Bars(diameter=d, spacing=s) for s in SPACINGS[region]] for d in DIAMETERS[region]]
    tried = [with_bars(pad, direction, bars) for row in grid for bars in row]
    sizes = np.repeat(table(pad), len(tried), axis=0)
    bench = bench_for(project, tried, np.arange(len(tried)), sizes)
    outcomes = [*concrete_checks(bench, SILENT), *crack_checks(bench, SILENT)]
    ratio, which = governing_by_candidate(outcomes, len(tried))
    blocked = next(
        (
            o.why_not[0]
            for o in outcomes
            if o.why_not and all(o.why_not) and not o.check.id.startswith("cracks")
        ),
        "",
    )
    rows = []
    for i, line in enumerate(grid):
        choices = []
        for j, bars in enumerate(line):
            k = i * len(line) + j
            title = outcomes[which[k]].check.title.lower() if which[k] >= 0 else ""
            worst = float(ratio[k])
            why = (
                blocked
                if np.isnan(worst)
                else ""
                if worst <= LIMIT
                else f"{title} {worst:.2f}"
                if np.isfinite(worst)
                else f"{title}: lost"
            )
            if not why and (bars.spacing or 1.0) - bars.diameter < max(bars.diameter, GAP):
                why = "too close"
            choices.append(Choice(bars, worst, weight_of(project, tried[k]), why))
        rows.append(tuple(choices))
    return BarTable(direction, tuple(rows))


def taken(project: Project, pad: Pad, direction: str, bars: Bars, alike: bool = True) -> Project:
    """The project with these bars in the base, and in all others of its type that are not frozen."""
    same = {p.name for p in project.pads if alike and pad.type and p.type == pad.type and not p.frozen} | {
        pad.name
    }
    pads = tuple(with_bars(p, direction, bars) if p.name in same else p for p in project.pads)
    return project.replaced(pads=pads)


__all__ = ["DIRECTIONS", "BarTable", "Choice", "bar_table", "region_of", "taken", "with_bars"]
