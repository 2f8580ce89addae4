"""The reserve of a base: how much more of each load component it can take before the first check fails."""

from dataclasses import dataclass, replace

import numpy as np

from korbent.core.bench import bench_for, standing_on
from korbent.core.checks import LIMIT, governing_by_candidate
from korbent.core.evaluate import outcomes_on
from korbent.core.geometry import table
from korbent.core.model import Load, LoadPoint, Pad, Project
from korbent.core.working import Array

COMPONENTS = (
    ("V", 1.0),
    ("V", -1.0),
    ("Hx", 1.0),
    ("Hx", -1.0),
    ("Hy", 1.0),
    ("Hy", -1.0),
    ("Mx", 1.0),
    ("Mx", -1.0),
    ("My", 1.0),
    ("My", -1.0),
)
UNITS = {"V": "kN", "Hx": "kN", "Hy": "kN", "Mx": "kNm", "My": "kNm"}
POINTS = 25
GREATEST = 1e6
"""A component that can grow beyond this (kN, kNm) is bounded by no check."""


@dataclass(frozen=True)
class Reserve:
    """What may be added to one component in one direction, kN or kNm; None: no check limits it. ``check`` fails
    first."""

    quantity: str
    direction: float
    amount: float | None
    check: str


def reserves(project: Project, pad: Pad, case: str) -> tuple[Reserve, ...]:
    """The reserve of each component, added unfactored to a load case, all else as it is; empty where a check fails
    already.

    The components are searched together: a first grid of amounts for all, then finer ones about where each fails, until
    the amount is known to a thousandth.

    Raises:
        KeyError: when there is no such load case.
    """
    if case not in {c.name for c in project.actions.cases}:
        raise KeyError(case)
    ratio, _, _ = _worst(project, pad, case, [("V", 0.0)])
    if not ratio[0] <= LIMIT:
        return ()
    low, high = np.zeros(len(COMPONENTS)), np.full(len(COMPONENTS), GREATEST)
    grids = np.tile(np.geomspace(0.5, GREATEST, POINTS), (len(COMPONENTS), 1))
    failing = np.full(len(COMPONENTS), -1)
    titles: tuple[str, ...] = ()
    for _ in range(4):
        added = [(q, s * float(v)) for (q, s), row in zip(COMPONENTS, grids) for v in row]
        ratio, which, titles = _worst(project, pad, case, added)
        fails = ~(ratio.reshape(grids.shape) <= LIMIT)
        which = which.reshape(grids.shape)
        for i in range(len(COMPONENTS)):
            if not fails[i].any():
                if grids[i, -1] >= GREATEST:
                    low[i] = high[i] = np.inf
                continue
            # the first amount that fails: beyond it more may hold again, which is no reserve
            first = int(np.argmax(fails[i]))
            high[i] = grids[i, first]
            low[i] = grids[i, first - 1] if first else low[i]
            failing[i] = which[i, first]
        grids = np.linspace(np.where(np.isfinite(low), low, 0.0), np.where(np.isfinite(high), high, 1.0), POINTS).T
    return tuple(
        Reserve(q, s, None if np.isinf(a) else float(a), titles[w] if w >= 0 else "")
        for (q, s), a, w in zip(COMPONENTS, low, failing)
    )


def _worst(
    project: Project, pad: Pad, case: str, added: list[tuple[str, float]]
) -> tuple[Array, Array, tuple[str, ...]]:
    """(worst ratio, index of the check, titles) of the pad with each of the added loads."""
    point = project.load_point(pad.load_point)
    points = tuple(_with(point, case, quantity, amount) for quantity, amount in added)
    others = standing_on(project, pad)[1:]
    standing = tuple((point, *others) for point in points)
    index = np.arange(len(points))
    bench = bench_for(project, (pad,), np.zeros(len(points), dtype=int), np.repeat(table(pad), len(points), axis=0))
    bench = replace(bench, pads=(pad,) * len(points), points=points, standing=standing, index=index)
    outcomes = [outcome for _, outcome in outcomes_on(bench, project)]
    ratio, which = governing_by_candidate(outcomes, len(points))
    return ratio, which, tuple(o.check.title for o in outcomes)


def _with(point: LoadPoint, case: str, quantity: str, amount: float) -> LoadPoint:
    load = point.loads.get(case, Load())
    length = max(point.size_x, point.size_y) if point.per == "metre" else 1.0
    return point.replaced(
        loads={**point.loads, case: load.replaced(**{quantity: getattr(load, quantity) + amount / length})}
    )
