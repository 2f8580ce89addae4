"""The least pedestal under the first column of a base that holds its checks."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.checks import State, worst_by_candidate
from korbent.core.concrete.choose import DIAMETERS, region_of
from korbent.core.concrete.pedestal import pedestal_checks
from korbent.core.concrete.pedestal_dimensions import range_of
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad, Pedestal
from korbent.core.model.project import Project
from korbent.core.working import SILENT


@dataclass(frozen=True)
class Least:
    """A pedestal that holds its checks with the least concrete and steel, and its worst ratio."""

    pedestal: Pedestal
    ratio: float


BARS = (4, 6, 8, 10, 12, 14, 16, 20, 24)


def least_pedestal(project: Project, pad: Pad, stop: Callable[[], bool] = lambda: False) -> Least | None:
    """The pedestal with the least volume, then the least steel, that holds all its checks; its top, ties and cover
    stay.

    Sizes go upwards through the ranges of the base, from the column's to twice the present ones where it has none, by
    the raster of the ranges or the increment of the units; those of a rectangular pedestal keep what it is wider than long
    as far as both ranges let them. None where nothing there holds.

    Raises:
        KeyError: when there is no pedestal.
    """
    own = pad.pedestal
    if own is None:
        raise KeyError("pedestal")
    us = project.units == "us"
    increment = 0.3048 / 12 if us else 0.05
    column = project.load_point(pad.load_point)
    for grown in sizes_upwards(pad, own, (column.size_x, column.size_y), increment):
        if stop():
            return None
        variants = []
        for bars, diameter in product(BARS, DIAMETERS[region_of(project)]):
            try:
                variants.append(pad.replaced(pedestal=own.replaced(**grown, bars=bars, diameter=diameter)))
            except ValueError:  # no room for the bars
                continue
        variants.sort(key=lambda p: _steel(p.pedestal))
        for k in range(0, len(variants), TOGETHER):
            some = variants[k : k + TOGETHER]
            held = [
                (p.pedestal, worst)
                for p, (worst, state) in zip(some, worst_of_pedestals(project, some))
                if p.pedestal is not None and state is State.HOLDS and worst is not None
            ]
            if held:
                return Least(*min(held, key=lambda one: _steel(one[0])))
    return None


TOGETHER = 12
"""So many are looked at together, the ones with least steel first."""


def _steel(pedestal: Pedestal | None) -> tuple[float, int]:
    return (pedestal.bars * pedestal.diameter**2, pedestal.bars) if pedestal is not None else (0.0, 0)


def sizes_upwards(pad: Pad, own: Pedestal, column: tuple[float, float], usual: float) -> list[dict[str, float]]:
    """Sizes through both ranges on the raster, the smallest first; they keep their difference as far as both ranges let
    them."""
    names = ("pedestal_x",) if own.is_round else ("pedestal_x", "pedestal_y")
    increment = max(given.step if (given := pad.ranges.get(n)) and given.step else usual for n in names)
    least = [max(float(np.ceil(c / increment - 1e-9)) * increment, increment) for c in column]
    x = range_of(pad, "pedestal_x", max(least) if own.is_round else least[0])
    y = x if own.is_round else range_of(pad, "pedestal_y", least[1])
    smaller = min(own.size_x, own.size_y)  # the side on the raster
    over = own.size_x - smaller, own.size_y - smaller
    both = [(low - more, high - more) for (low, high), more in zip((x, y), over, strict=True)]
    free = [(low, high) for low, high in both if low < high] or both[1:]
    lows, highs = zip(*free, strict=True)
    # from where both are within their ranges; where they never are together, each through its own
    first = max(lows) if max(lows) <= min(highs) else min(lows)
    raster = np.arange(np.ceil(first / increment - 1e-9), np.floor(max(highs) / increment + 1e-9) + 1) * increment
    found = [
        {"size_x": round(float(np.clip(at + over[0], *x)), 9), "size_y": round(float(np.clip(at + over[1], *y)), 9)}
        for at in (raster.tolist() or [first])
    ]
    return [size for k, size in enumerate(found) if k == 0 or size != found[k - 1]]


def worst_of_pedestals(project: Project, variants: Sequence[Pad]) -> list[tuple[float | None, State]]:
    """(worst ratio, state) of the checks of the pedestal for variants of one base; without a ratio where one of them
    cannot be done."""
    sizes = np.concatenate([table(p) for p in variants])
    bench = bench_for(project, variants, np.arange(len(variants)), sizes)
    outcomes = pedestal_checks(bench, SILENT)
    blocked = np.zeros(len(variants), dtype=bool)
    for outcome in outcomes:
        blocked |= np.broadcast_to(outcome.blocked, (len(variants),))
    found = worst_by_candidate(outcomes, len(variants))
    return [(None, State.CANNOT) if lost else one for one, lost in zip(found, blocked.tolist())]
