"""What one step of a dimension would do."""

from collections.abc import Callable
from dataclasses import dataclass

from korbent.core.cache import Cache
from korbent.core.checks import (
    State,
    worst_by_candidate,
)
from korbent.core.evaluate.families import outcomes_for
from korbent.core.evaluate.road import depends_on, evaluate_pad, with_neighbours
from korbent.core.geometry import DRIVING, table
from korbent.core.kinds import kind_of
from korbent.core.model.foundations import HELD, Pad
from korbent.core.model.project import Project
from korbent.core.rafts.dimensions import changed as with_dimension
from korbent.core.rafts.dimensions import dimensions_of, value_of


@dataclass(frozen=True)
class Effect:
    """What one step of one dimension does to the worst ratio."""

    dimension: str
    change: float
    ratio: float | None
    state: State


FOOT = 0.3048
RAFT_STEPS = {
    "metric": {"overhang": 0.1, "rib_width": 0.05, "rib_depth": 0.05},
    "us": {"overhang": FOOT / 4, "rib_width": FOOT / 8, "rib_depth": FOOT / 8},
}
"""The steps (m) of what a raft has besides."""
STEPS = {
    "metric": {"width": 0.1, "length": 0.1, "thickness": 0.05, "level": 0.1, "offset_x": 0.05, "offset_y": 0.05, "far_length": 0.1},
    "us": {
        "width": FOOT / 4, "length": FOOT / 4, "thickness": FOOT / 8, "level": FOOT / 4, "offset_x": FOOT / 8,
        "offset_y": FOOT / 8, "far_length": FOOT / 4,
    },
}  # fmt: skip
"""The steps (m) of the driving dimensions, by unit set."""


def steps_of(
    pad: Pad, units: str = "metric", driven: tuple[str, ...] = DRIVING
) -> tuple[tuple[str, float], ...]:
    """The steps of driven dimensions that leave a legal pad: sizes stay positive and the column stays on the base."""
    steps = []
    if pad.frozen:
        return ()
    for name, change in ((n, s) for n, size in STEPS[units].items() for s in (-size, size)):
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
            steps.append((name, change))
    return tuple(steps)


def slow_effects(project: Project, pad: Pad, stop: Callable[[], bool] = lambda: False) -> tuple[Effect, ...]:
    """As :func:`effects_of` for a raft: each step is evaluated as a project of its own, with its plate."""
    found = []
    steps = list(steps_of(pad, project.units, kind_of(pad).driven(pad, project.load_point(pad.load_point))))
    if not pad.frozen:
        sizes = RAFT_STEPS["us" if project.units == "us" else "metric"]
        steps += [(name, change) for name in dimensions_of(pad) for change in (-sizes[name], sizes[name])]
    for name, change in steps:
        if stop():
            break
        try:
            if name in RAFT_STEPS["metric"]:
                changed = with_dimension(project, pad, name, value_of(project, pad, name) + change)
            else:
                changed = pad.resized(**{name: round(getattr(pad, name) + change, 9)})
            pads = tuple(changed if p is pad else p for p in project.pads)
            worst = evaluate_pad(project.replaced(pads=pads), changed).worst
        except ValueError:  # an opening would reach over the edge, or nothing be left
            continue
        found.append(Effect(name, change, worst.ratio, worst.state))
    return tuple(found)


def effects_of(project: Project, pad: Pad) -> tuple[Effect, ...]:
    """The worst ratio after one step down and one step up of each driving dimension, remembered like the results."""
    key, values = with_neighbours(project, pad, depends_on(project, pad))

    def made() -> tuple[Effect, ...]:
        steps = steps_of(pad, project.units, kind_of(pad).driven(pad, project.load_point(pad.load_point)))
        outcomes = outcomes_for(project, pad, table(pad, steps))
        worst = worst_by_candidate(outcomes, 1 + len(steps))[1:]
        return tuple(Effect(name, change, *found) for (name, change), found in zip(steps, worst))

    return _effects.of((*key, project.units), values, made)


_effects: Cache[tuple[Effect, ...]] = Cache(each=100_000)
