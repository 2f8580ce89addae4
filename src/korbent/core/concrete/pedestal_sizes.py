"""Sizes and bars of the pedestal under the first column of a base as dimensions that drive, and the least that holds
its checks."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.checks import State, worst_by_candidate
from korbent.core.concrete.choose import DIAMETERS, region_of
from korbent.core.concrete.pedestal import pedestal_checks
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad, Pedestal
from korbent.core.model.project import Project
from korbent.core.model.site import Range
from korbent.core.working import SILENT

FIELDS = {
    "pedestal_x": "size_x",
    "pedestal_y": "size_y",
    "pedestal_top": "top",
    "pedestal_bars": "bars",
    "pedestal_diameter": "diameter",
    "pedestal_ties": "tie_spacing",
}
NAMES = tuple(FIELDS)


def dimensions_of(project: Project, pad: Pad) -> tuple[str, ...]:
    """Those that a base has: none without a pedestal, of a round one no second size."""
    own = pad.pedestal
    if own is None:
        return ()
    return tuple(name for name in NAMES if not (own.is_round and name == "pedestal_y"))


def value_of(project: Project, pad: Pad, name: str) -> float:
    """In m; of the bars how many.

    Raises:
        KeyError: when the base has no such dimension.
    """
    if pad.pedestal is None or name not in dimensions_of(project, pad):
        raise KeyError(name)
    return float(getattr(pad.pedestal, FIELDS[name]))


def changed(project: Project, pad: Pad, name: str, value: float) -> Project:
    """The project with another value of it.

    Raises:
        KeyError: when the base has no such dimension. pydantic.ValidationError: when that is no pedestal.
    """
    if pad.pedestal is None or name not in dimensions_of(project, pad):
        raise KeyError(name)
    return with_pedestal(project, pad, pad.pedestal.replaced(**_sizes(pad.pedestal, name, value)))


def with_pedestal(project: Project, pad: Pad, pedestal: Pedestal) -> Project:
    """The project with another pedestal under the first column of a base."""
    new = pad.replaced(pedestal=pedestal)
    return project.replaced(pads=tuple(new if p is pad else p for p in project.pads))


def _sizes(pedestal: Pedestal, name: str, value: float) -> dict[str, float]:
    field = FIELDS[name]
    if field == "bars":
        if value != round(value):
            raise ValueError("bars are counted: type a whole number")
        return {"bars": int(value)}
    both = {"size_x": value, "size_y": value} if pedestal.is_round and field == "size_x" else {field: value}
    return {n: round(v, 9) for n, v in both.items()}


def stepped(project: Project, pad: Pad, name: str, sign: int) -> float | None:
    """The next bar diameter of the region, larger or smaller; None where there is none, or where steps are sizes."""
    if name != "pedestal_diameter" or pad.pedestal is None:
        return None
    now = pad.pedestal.diameter
    sizes = [d for d in DIAMETERS[region_of(project)] if sign * (d - now) > 1e-6]
    return (min if sign > 0 else max)(sizes, default=now)


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
    the raster of the ranges or the step of the units; those of a rectangular pedestal keep what it is wider than long
    as far as both ranges let them. None where nothing there holds.

    Raises:
        KeyError: when there is no pedestal.
    """
    own = pad.pedestal
    if own is None:
        raise KeyError("pedestal")
    us = project.units == "us"
    step = 0.3048 / 12 if us else 0.05
    column = project.load_point(pad.load_point)
    for grown in sizes_upwards(pad, own, (column.size_x, column.size_y), step):
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


def range_of(pad: Pad, name: str, least: float) -> tuple[float, float]:
    """(low, high) in which a size of the pedestal may move: from the column's to twice what it is unless its range says
    otherwise."""
    if pad.pedestal is None:
        raise KeyError(name)
    now, given = float(getattr(pad.pedestal, FIELDS[name])), pad.ranges.get(name) or Range()
    if given.pinned:
        return now, now
    low = least if given.low is None else given.low
    return low, max(2.0 * max(now, low) if given.high is None else given.high, low)


TOGETHER = 12
"""So many are looked at together, the ones with least steel first."""


def _steel(pedestal: Pedestal | None) -> tuple[float, int]:
    return (pedestal.bars * pedestal.diameter**2, pedestal.bars) if pedestal is not None else (0.0, 0)


def sizes_upwards(pad: Pad, own: Pedestal, column: tuple[float, float], usual: float) -> list[dict[str, float]]:
    """Sizes through both ranges on the raster, the smallest first; they keep their difference as far as both ranges let
    them."""
    names = ("pedestal_x",) if own.is_round else ("pedestal_x", "pedestal_y")
    step = max(given.step if (given := pad.ranges.get(n)) and given.step else usual for n in names)
    least = [max(float(np.ceil(c / step - 1e-9)) * step, step) for c in column]
    x = range_of(pad, "pedestal_x", max(least) if own.is_round else least[0])
    y = x if own.is_round else range_of(pad, "pedestal_y", least[1])
    smaller = min(own.size_x, own.size_y)  # the side on the raster
    over = own.size_x - smaller, own.size_y - smaller
    both = [(low - more, high - more) for (low, high), more in zip((x, y), over, strict=True)]
    free = [(low, high) for low, high in both if low < high] or both[1:]
    lows, highs = zip(*free, strict=True)
    # from where both are within their ranges; where they never are together, each through its own
    first = max(lows) if max(lows) <= min(highs) else min(lows)
    raster = np.arange(np.ceil(first / step - 1e-9), np.floor(max(highs) / step + 1e-9) + 1) * step
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
