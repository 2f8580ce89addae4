"""What one increment of a dimension would do."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from korbent.core.cache import Cache
from korbent.core.checks import (
    State,
    worst_by_candidate,
)
from korbent.core.concrete.pedestal_sizes import worst_of_pedestals
from korbent.core.dimensions import DRIVING_INCREMENTS, Page, dimensions_of, next_value, value_of
from korbent.core.dimensions import NAMES as FURTHER
from korbent.core.dimensions import changed as with_dimension
from korbent.core.evaluate.families import outcomes_for
from korbent.core.evaluate.road import depends_on, evaluate_pad, with_neighbours
from korbent.core.geometry import DRIVING, table
from korbent.core.kinds import kind_of
from korbent.core.model.foundations import HELD, Pad
from korbent.core.model.project import Project
from korbent.core.plan.linked import Link, linked
from korbent.core.results import PadResult


@dataclass(frozen=True)
class Effect:
    """What one increment of one dimension does to the worst ratio."""

    dimension: str
    change: float
    ratio: float | None
    state: State


def increments_of(pad: Pad, units: str = "metric", driven: tuple[str, ...] = DRIVING) -> tuple[tuple[str, float], ...]:
    """The increments of driven dimensions that leave a legal pad: sizes stay positive and the column stays on the base."""
    increments = []
    if pad.frozen:
        return ()
    for name, change in ((n, s) for n, size in DRIVING_INCREMENTS[units].items() for s in (-size, size)):
        if (
            name not in driven
            or (pad.is_round and name == "length")
            or (pad.shape != "trapezoid" and name == "far_length")
        ):
            continue
        B = pad.width + (change if name == "width" else 0.0)
        L = B if pad.is_round else pad.length + (change if name == "length" else 0.0)
        h = pad.thickness + (change if name == "thickness" else 0.0)
        ox = pad.offset_x + (change if name == "offset_x" else HELD[pad.hold_x] * (B - pad.width) / 2)
        oy = pad.offset_y + (change if name == "offset_y" else HELD[pad.hold_y] * (L - pad.length) / 2)
        far = pad.far_length + (change if name == "far_length" else 0.0) if pad.shape == "trapezoid" else L
        there = L + (far - L) * (ox / B + 0.5)
        if min(B, L, far, h) > 0.05 and abs(ox) <= B / 2 and abs(oy) <= there / 2:
            increments.append((name, change))
    return tuple(increments)


def slow_effects(project: Project, pad: Pad, stop: Callable[[], bool] = lambda: False) -> tuple[Effect, ...]:
    """As :func:`effects_of` for a raft: each increment is evaluated as a project of its own, with its plate."""
    found = []
    increments = list(increments_of(pad, project.units, kind_of(pad).driven(pad, project.load_point(pad.load_point))))
    for name, change in [*increments, *_further(project, pad)]:
        if stop():
            break
        try:
            worst = _after(project, pad, name, change).worst
        except ValueError:  # an opening would reach over the edge, or nothing be left
            continue
        found.append(Effect(name, change, worst.ratio, worst.state))
    return tuple(found)


def _further(project: Project, pad: Pad, page: Page = "sizes") -> list[tuple[str, float]]:
    """Increments of what it has besides its own sizes, on a page."""
    if pad.frozen:
        return []
    found = [
        (name, round(next_value(project, pad, name, sign) - value_of(project, pad, name), 9))
        for name in dimensions_of(project, pad, page)
        for sign in (-1, 1)
    ]
    return [(name, change) for name, change in found if change]


def _resized(project: Project, pad: Pad, name: str, change: float, link: Link) -> Pad:
    """The base after an increment of its size.

    Raises:
        ValueError: when that increment is not possible.
    """
    if name in FURTHER:
        value = round(value_of(project, pad, name) + change, 9)
        return with_dimension(project, pad, name, value).pad(pad.name)
    return pad.resized(**linked(pad, name, round(getattr(pad, name) + change, 9), link))


def _after(project: Project, pad: Pad, name: str, change: float) -> PadResult:
    """The result of a base after an increment, as that of a project of its own.

    Raises:
        ValueError: when that increment is not possible.
    """
    if name in FURTHER:
        project = with_dimension(project, pad, name, round(value_of(project, pad, name) + change, 9))
    else:
        new = _resized(project, pad, name, change, "apart")
        project = project.replaced(pads=tuple(new if p is pad else p for p in project.pads))
    return evaluate_pad(project, project.pad(pad.name))


def effects_of(project: Project, pad: Pad, page: Page = "sizes", link: Link = "apart") -> tuple[Effect, ...]:
    """The worst ratio after one increment down and one increment up of each driving dimension of a page, remembered like the
    results.

    Of a pedestal it is the worst ratio of its own checks: what it weighs hardly moves the others.

    Args:
        link: what the length does when the width changes, and the other way round.
    """
    key, values = with_neighbours(project, pad, depends_on(project, pad))

    def made() -> tuple[Effect, ...]:
        alone = increments_of(pad, project.units, kind_of(pad).driven(pad, project.load_point(pad.load_point)))
        further = _further(project, pad, page)
        if page == "pedestal":
            return _of_pedestal(project, pad, further)
        increments = tuple(s for s in alone if page == "sizes" or s[0] in ("thickness", "level"))
        # what a base of other sizes only is: all of them looked at together
        rows, known = [], []
        for name, change in (*increments, *(further if page == "edges" else ())):
            try:
                new = _resized(project, pad, name, change, link)
            except ValueError:
                continue
            rows.append(table(new))
            known.append((name, change))
        own = []
        if rows:
            outcomes = outcomes_for(project, pad, np.concatenate([table(pad), *rows]))
            worst = worst_by_candidate(outcomes, 1 + len(rows))[1:]
            own = [Effect(name, change, *found) for (name, change), found in zip(known, worst)]
        for name, change in further if page != "edges" else ():
            try:
                after = _after(project, pad, name, change).worst
            except ValueError:
                continue
            own.append(Effect(name, change, after.ratio, after.state))
        return tuple(own)

    return _effects.of((*key, project.units, page, link), values, made)


def _of_pedestal(project: Project, pad: Pad, increments: list[tuple[str, float]]) -> tuple[Effect, ...]:
    """The worst ratio of the pedestal's own checks after each of some increments."""
    known, variants = [], []
    for name, change in increments:
        try:
            variants.append(_resized(project, pad, name, change, "apart"))
        except ValueError:
            continue
        known.append((name, change))
    if not variants:
        return ()
    return tuple(Effect(n, c, *found) for (n, c), found in zip(known, worst_of_pedestals(project, variants)))


_effects: Cache[tuple[Effect, ...]] = Cache(each=100_000)
