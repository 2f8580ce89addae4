"""Sizes and bars of the pedestal under the first column of a base as dimensions that drive."""

from korbent.core.model.foundations import Pad, Pedestal
from korbent.core.model.project import Project
from korbent.core.model.site import Range
from korbent.words import say

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
            raise ValueError(say("bars are counted: type a whole number"))
        return {"bars": int(value)}
    both = {"size_x": value, "size_y": value} if pedestal.is_round and field == "size_x" else {field: value}
    return {n: round(v, 9) for n, v in both.items()}


def next_diameter(project: Project, pad: Pad, name: str, sign: int) -> float | None:
    """The next bar diameter of the region, larger or smaller; None where there is none, or where increments are sizes."""
    if name != "pedestal_diameter" or pad.pedestal is None:
        return None
    from korbent.core.concrete.choose import DIAMETERS, region_of

    now = pad.pedestal.diameter
    sizes = [d for d in DIAMETERS[region_of(project)] if sign * (d - now) > 1e-6]
    return (min if sign > 0 else max)(sizes, default=now)


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
