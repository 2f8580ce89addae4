"""The map of sizes: the worst ratio of a pad over two of its dimensions, what governs where, and the smallest that
holds."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.checks import LIMIT, governing_by_candidate
from korbent.core.dimensions import DRIVING_INCREMENTS
from korbent.core.evaluate import outcomes_on
from korbent.core.geometry import DRIVING, off_the_base, table, with_held_edges
from korbent.core.model import Pad, Project
from korbent.core.model.labels import label
from korbent.core.working import Array
from korbent.words import say

AT_ONCE = 240
"""Sizes that are looked at in one go."""
UP = ("length", "thickness", "level")
"""Dimensions that can stand against the width."""


@dataclass(frozen=True)
class SizeMap:
    """Worst ratios over width (columns) and another dimension (rows); inf where it is unstable or not possible at all.

    ``governing`` indexes ``checks``, -1 where no check has a ratio; ``volume`` of concrete in the base, m3.
    """

    project: Project
    pad: Pad
    up: str
    x: Array
    y: Array
    ratio: Array
    governing: Array
    checks: tuple[str, ...]
    """Titles of the checks."""
    volume: Array

    @property
    def smallest(self) -> tuple[int, int] | None:
        """(row, column) of the least volume that holds; None where nothing on the map does."""
        held = np.where(self.ratio <= LIMIT, self.volume, np.inf)
        if not np.isfinite(held).any():
            return None
        row, column = np.unravel_index(int(np.argmin(held)), held.shape)
        return int(row), int(column)

    def at(self, row: int, column: int) -> tuple[float, float]:
        """(width, other dimension) of a place, m."""
        return float(self.x[column]), float(self.y[row])


def raster(value: float, increment: float, low: float, high: float) -> Array:
    """Values on the raster of ``increment`` through ``value``, from low to high."""
    down, up = int(np.floor((value - low) / increment + 1e-9)), int(np.floor((high - value) / increment + 1e-9))
    values: Array = np.round(value + increment * np.arange(-max(down, 0), max(up, 0) + 1), 9)
    return values


def size_map(
    project: Project, pad: Pad, up: str = "length", every: int = 1, stop: Callable[[], bool] = lambda: False
) -> SizeMap | None:
    """All sizes on the raster of the increments, from about half to one and a half times the present ones.

    Args:
        every: takes each so many-eth value only, for a first look.
        stop: asked now and then; True ends it, and gives nothing.

    Raises:
        KeyError: when ``up`` is no dimension that can stand against the width.
    """
    if up not in UP:
        raise KeyError(up)
    increments = DRIVING_INCREMENTS[project.units]
    x = raster(pad.width, increments["width"], max(0.45 * pad.width, increments["width"]), 1.7 * pad.width)
    now = float(getattr(pad, up))
    low, high = {
        "length": (max(0.45 * now, increments["length"]), 1.7 * now),
        "thickness": (max(0.5 * now, increments["thickness"]), 2.2 * now),
        "level": (now - 1.5, now + 1.0),
    }[up]
    y = raster(now, increments[up], low, high)
    x, y = _thinned(x, pad.width, every), _thinned(y, now, every)
    rows = np.repeat(table(pad), len(x) * len(y), axis=0)
    rows[:, DRIVING.index("width")] = np.tile(x, len(y))
    rows[:, DRIVING.index(up)] = np.repeat(y, len(x))
    rows = with_held_edges(rows, pad)
    ratio, governing = np.zeros(len(rows)), np.zeros(len(rows), dtype=int)
    titles: tuple[str, ...] = ()
    for begin in range(0, len(rows), AT_ONCE):
        if stop():
            return None
        some = slice(begin, begin + AT_ONCE)
        bench = bench_for(project, (pad,), np.zeros(len(rows[some]), dtype=int), rows[some])
        outcomes = [outcome for _, outcome in outcomes_on(bench, project)]
        ratio[some], governing[some] = governing_by_candidate(outcomes, len(rows[some]))
        titles = tuple(o.check.title for o in outcomes)
    B, L, h = (rows[:, DRIVING.index(name)] for name in ("width", "length", "thickness"))
    ratio = np.where(off_the_base(rows, pad), np.inf, ratio)
    shape = (len(y), len(x))
    return SizeMap(
        project,
        pad,
        up,
        x,
        y,
        ratio.reshape(shape),
        governing.reshape(shape),
        titles,
        (pad.area(B, L) * h).reshape(shape),
    )


def _thinned(values: Array, now: float, every: int) -> Array:
    """Each so many-eth value, counted from the present one."""
    at = int(np.argmin(np.abs(values - now)))
    return values[at % every :: every] if every > 1 else values


def sized(project: Project, pad: Pad, up: str, width: float, other: float) -> Project:
    """The project with the pad at a place of the map.

    Raises:
        ValueError: when that is no possible pad, or the pad is frozen.
    """
    if pad.frozen:
        raise ValueError(say("{pad} is {frozen}: its size stays", pad=pad.name, frozen=label(pad.frozen)))
    new = pad.resized(**{"width": width, up: other})
    return project.replaced(pads=tuple(new if p is pad else p for p in project.pads))
