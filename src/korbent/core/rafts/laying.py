"""Ribs laid on the lines of columns of a raft."""

import math
from itertools import pairwise

from korbent.core.geometry import local_place
from korbent.core.model.foundations import Pad
from korbent.core.model.plate import Rib
from korbent.core.model.project import Project
from korbent.words import say

ONE_LINE = 0.3
"""Columns whose axes are nearer than this to each other across stand on one line, m."""
STEP = 0.05
SLENDER = 8.0
"""First depth: the greatest distance of columns over this, and at least twice the thickness of the plate."""


def laid(project: Project, pad: Pad) -> tuple[Project, tuple[str, ...]]:
    """The project with a rib along every line of two columns or more of a raft where there is none yet, and their
    names.

    Raises:
        ValueError: when the base is no raft, or no two columns stand on a line.
    """
    if pad.plate is None:
        raise ValueError(say("{pad} is no raft: ribs belong to rafts", pad=pad.name))
    first = project.load_point(pad.load_point)
    points = [project.load_point(name) for name in pad.carries]
    places = [(pad.offset_x, pad.offset_y) if p is first else local_place(pad, first, p) for p in points]
    ribs = list(pad.plate.ribs)
    new: list[Rib] = []
    for axis, along, across in (("x", 0, 1), ("y", 1, 0)):
        for line in _lines([(place[across], place[along], i) for i, place in enumerate(places)]):
            at = round(sum(a for a, _, _ in line) / len(line), 3)
            if any(r.axis == axis and abs(r.at - at) < ONE_LINE + r.width / 2 for r in ribs):
                continue
            apart = max(b - a for a, b in pairwise(sorted(s for _, s, _ in line)))
            widest = max(min(points[i].size_x, points[i].size_y) for _, _, i in line)
            depth = max(2 * pad.thickness, apart / SLENDER)
            name = next(
                f"{axis.upper()}{k}" for k in range(1, 1000) if f"{axis.upper()}{k}" not in {r.name for r in ribs}
            )
            rib = Rib(name=name, axis=axis, at=at, width=_up(widest + 0.1), depth=_up(depth))
            ribs.append(rib)
            new.append(rib)
    if not new:
        raise ValueError(
            say("{pad}: every line of two columns or more has its rib already, or there is none", pad=pad.name)
        )
    changed = pad.replaced(plate=pad.plate.replaced(ribs=tuple(ribs)))
    pads = tuple(changed if p.name == pad.name else p for p in project.pads)
    return project.replaced(pads=pads), tuple(r.name for r in new)


def _lines(found: list[tuple[float, float, int]]) -> list[list[tuple[float, float, int]]]:
    """Groups of (across, along, column) that stand on one line, of two or more."""
    groups: list[list[tuple[float, float, int]]] = []
    for one in sorted(found):
        if groups and one[0] - groups[-1][0][0] < ONE_LINE:
            groups[-1].append(one)
        else:
            groups.append([one])
    return [g for g in groups if len(g) > 1]


def _up(value: float) -> float:
    return round(math.ceil(value / STEP - 1e-9) * STEP, 6)
