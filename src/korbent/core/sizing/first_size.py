"""A first size for a base: allowable-stress load over presumed pressure, with an assumed share for its own weight."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil

import numpy as np

from korbent.core.bearing.presumed import presumed_at
from korbent.core.bench import bench_for
from korbent.core.geometry import table
from korbent.core.model import outlines
from korbent.core.model.actions import LoadPoint
from korbent.core.model.foundations import Pad
from korbent.core.model.outlines import Corner
from korbent.core.model.plate import Plate
from korbent.core.model.project import Project
from korbent.core.model.reinforcement import Bars, Reinforcement
from korbent.core.plan.outline import outlined
from korbent.core.working import SILENT
from korbent.words import say

ASSUMED_SHARE = 0.10
"""Of the load, for base and backfill."""
WITHOUT_PRESSURE = 150.0
"""kPa, where no presumed pressure is set."""


@dataclass(frozen=True)
class FirstSize:
    """A pad, and how much its own weight turned out to be of the column's load (None: no load)."""

    pad: Pad
    share: float | None

    def words(self) -> str:
        """In a line: what was assumed, and what it came to."""
        if self.share is None:
            return say("{pad} under {load_point}: no load yet", pad=self.pad.name, load_point=self.pad.load_point)
        more = say(": more than assumed, look at the ground checks") if self.share > ASSUMED_SHARE + 0.005 else ""
        return say(
            "{pad} under {load_point}: own weight {share:.0f} % of the load, {assumed_share:.0f} % assumed{more}",
            pad=self.pad.name,
            load_point=self.pad.load_point,
            share=100 * self.share,
            assumed_share=100 * ASSUMED_SHARE,
            more=more,
        )


def _allowable_load(project: Project, point: LoadPoint) -> float:
    """The greatest allowable-stress load of a column or a whole wall, kN; its sum where no combination serves that."""
    length = max(point.size_x, point.size_y) if point.per == "metre" else 1.0
    loads = [
        length * sum(f * point.loads[c].V for c, f in combination.factors.items() if c in point.loads)
        for combination in project.actions.combinations
        if "allowable" in combination.serves and not combination.only
    ] or [length * sum(load.V for load in point.loads.values())]
    return float(max(max(loads), 0.0))


def first_size(project: Project, column: str) -> FirstSize:
    """A pad for a column: a square of the greatest allowable-stress load, raised by the assumed share, over the
    pressure; under a wall a strip along it, a little longer than it, and as broad as that asks for. The presumed
    pressure is that at the width found.

    Raises:
        KeyError: when there is no such column.
    """
    point = project.load_point(column)
    finished = project.ground.surfaces.finished
    depth = max(0.8, project.settings.frost_depth)
    load = _allowable_load(project, point)
    is_wall = point.kind.endswith("wall")
    long, thick = max(point.size_x, point.size_y), min(point.size_x, point.size_y)
    run = _up(long + 2 * BEYOND_WALL) if is_wall else 0.0
    least = _up(max(0.5, thick + 0.2)) if is_wall else max(0.8, point.size_x + 0.2, point.size_y + 0.2)

    def needed(width: float) -> float:
        """Side, or width below the wall, that the pressure presumed at this width asks for, m."""
        found = presumed_at(project.settings, np.array(depth), np.array(width))
        area = (1 + ASSUMED_SHARE) * load / (WITHOUT_PRESSURE if found is None else float(found))
        return float(max(least, area / run if is_wall else area**0.5))

    # the least size on the raster that is as broad as the pressure at its own width asks for
    side = _up(least)
    while needed(side) > side + 1e-9:
        side = round(side + RASTER, 2)
    taken = {p.name for p in project.pads}
    along_x = point.size_x >= point.size_y
    width, length = ((run, side) if along_x else (side, run)) if is_wall else (side, side)
    pad = Pad(
        name=next(f"P{i}" for i in range(1, 100_000) if f"P{i}" not in taken),
        kind="strip" if is_wall else "pad",
        load_point=column,
        width=width,
        length=length,
        thickness=_up(max(0.35, (side - thick) / 3 if is_wall else side / 4)),
        level=round(finished - depth, 3),
        rotation=point.rotation if is_wall else 0.0,
    )
    return FirstSize(pad, _own_share(project, pad, load))


RASTER = 0.05
"""First sizes are multiples of it, m."""
ROUNDS = 40
BEYOND_WALL = 0.15
"""How far a strip reaches beyond the ends of its wall, m."""


def _up(size: float) -> float:
    """The next multiple of 50 mm, m."""
    return round(ceil(size / RASTER - 1e-9) * RASTER, 2)


def first_combined(project: Project, columns: tuple[str, ...]) -> FirstSize:
    """One base under several columns, its middle below the resultant of the greatest allowable-stress load.

    As long as the columns ask for, with room beyond them, and as broad as the presumed pressure asks for.

    Raises:
        KeyError: when there is no such column.
        ValueError: when fewer than two are named, or nothing presses down.
    """
    if len(columns) < 2:
        raise ValueError(say("one base under several columns needs at least two: mark them in the plan"))
    points = [project.load_point(name) for name in columns]
    loads = [_allowable_load(project, point) for point in points]
    total = sum(loads)
    if total <= 0:
        raise ValueError(say("nothing presses down on {columns}: give them loads first", columns=", ".join(columns)))
    x = sum(v * p.x for v, p in zip(loads, points)) / total
    y = sum(v * p.y for v, p in zip(loads, points)) / total
    reach_x = max(abs(p.x - x) + max(p.size_x, p.size_y) / 2 for p in points) + EDGE
    reach_y = max(abs(p.y - y) + max(p.size_x, p.size_y) / 2 for p in points) + EDGE
    depth = max(0.8, project.settings.frost_depth)
    width, length = _up(2 * reach_x), _up(2 * reach_y)
    for _ in range(ROUNDS):
        presumed = presumed_at(project.settings, np.array(depth), np.array(min(width, length)))
        area = (1 + ASSUMED_SHARE) * total / (WITHOUT_PRESSURE if presumed is None else float(presumed))
        if width * length >= area - 1e-9:
            break
        # what is missing is added across the row of columns
        width, length = (width, _up(area / width)) if width >= length else (_up(area / length), length)
    taken = {p.name for p in project.pads}
    thickness = _up(max(0.5, _longest(points) / 8))
    pad = Pad(
        name=next(f"P{i}" for i in range(1, 100_000) if f"P{i}" not in taken),
        load_point=columns[0],
        further=columns[1:],
        width=width,
        length=length,
        thickness=thickness,
        level=round(project.ground.surfaces.finished - max(depth, thickness + 0.2), 3),
        offset_x=round(points[0].x - x, 6),
        offset_y=round(points[0].y - y, 6),
    )
    return FirstSize(pad, _own_share(project, pad, total))


OVERHANG = 0.6
"""How far a raft reaches beyond the outer columns and walls, m."""


def first_raft(project: Project, columns: tuple[str, ...]) -> FirstSize:
    """A raft under columns and walls, with an overhang all around; as thick as a tenth of the distance between them
    asks for, with bars in both faces.

    Raises:
        KeyError: when there is no such column.
        ValueError: when fewer than two are named, or nothing presses down.
    """
    if len(columns) < 2:
        raise ValueError(say("a raft stands under two columns or walls at least: mark them in the plan"))
    points = [project.load_point(name) for name in columns]
    total = sum(_allowable_load(project, point) for point in points)
    if total <= 0:
        raise ValueError(say("nothing presses down on {columns}: give them loads first", columns=", ".join(columns)))
    boxes = [extent_of(p) for p in points]
    x0, x1 = min(b[0] for b in boxes) - OVERHANG, max(b[1] for b in boxes) + OVERHANG
    y0, y1 = min(b[2] for b in boxes) - OVERHANG, max(b[3] for b in boxes) + OVERHANG
    width, length = _up(x1 - x0), _up(y1 - y0)
    apart = [min(float(np.hypot(p.x - q.x, p.y - q.y)) for q in points if q is not p) for p in points]
    thickness = _up(max(0.35, float(np.median(apart)) / 10))
    taken = {p.name for p in project.pads}
    bars = Bars(diameter=0.016, spacing=0.15)
    depth = max(0.8, project.settings.frost_depth, thickness + project.settings.cover_above)
    pad = Pad(
        name=next(f"R{i}" for i in range(1, 100_000) if f"R{i}" not in taken),
        kind="raft",
        plate=Plate(),
        load_point=columns[0],
        further=columns[1:],
        width=width,
        length=length,
        thickness=thickness,
        level=round(project.ground.surfaces.finished - depth, 3),
        offset_x=round(points[0].x - (x0 + x1) / 2, 6),
        offset_y=round(points[0].y - (y0 + y1) / 2, 6),
        reinforcement=Reinforcement(bottom_x=bars, bottom_y=bars, top_x=bars, top_y=bars),
    )
    return FirstSize(pad, _own_share(project, pad, total))


def extent_of(point: LoadPoint) -> tuple[float, float, float, float]:
    """Box around a column or wall in the plan."""
    c, s = abs(float(np.cos(np.deg2rad(point.rotation)))), abs(float(np.sin(np.deg2rad(point.rotation))))
    a, b = (c * point.size_x + s * point.size_y) / 2, (s * point.size_x + c * point.size_y) / 2
    return point.x - a, point.x + a, point.y - b, point.y + b


def raft_under(project: Project, columns: tuple[str, ...]) -> tuple[Project, FirstSize]:
    """The project with a raft under these columns and walls, in the place of what carries them now.

    Raises:
        ValueError: see :func:`first_raft`; or when one of their bases is frozen, or another column would lose its base.
        pydantic.ValidationError: when the raft is not possible.
    """
    project = without_bases(project, columns)
    found = first_raft(project, columns)
    return project.replaced(pads=(*project.pads, found.pad)), found


def raft_within(project: Project, columns: tuple[str, ...], ring: Sequence[Corner]) -> tuple[Project, FirstSize]:
    """The project with a raft of this outline under columns, or under all that stand within where none are given.

    Raises:
        ValueError: when the ring is none or no column stands within; see :func:`raft_under`.
        pydantic.ValidationError: when the raft is not possible.
    """
    outlines.checked(tuple(ring))
    columns = columns or tuple(p.name for p in project.actions.load_points if outlines.contains(tuple(ring), p.x, p.y))
    if not columns:
        raise ValueError(say("no column stands within the outline: draw it around some"))
    project, found = raft_under(project, columns)
    pad = project.pad(found.pad.name)
    new = outlined(project, pad, ring)
    pads = tuple(new if p is pad else p for p in project.pads)
    return project.replaced(pads=pads), replace(found, pad=new)


def without_bases(project: Project, columns: tuple[str, ...]) -> Project:
    """The project without what carries these columns now, and without the straps of that.

    Raises:
        ValueError: when one is frozen, carries another column too, or a combination is looked at for it only.
    """
    old = [p for p in project.pads if set(p.carries) & set(columns)]
    kept = [p.name for p in old if p.frozen]
    if kept:
        raise ValueError(say("{kept} is frozen: it stays under its column", kept=", ".join(kept)))
    left = sorted({name for p in old for name in p.carries} - set(columns))
    if left:
        raise ValueError(say("{left} would lose its base: mark it too", left=", ".join(left)))
    names = {p.name for p in old}
    named = [str(c.number) for c in project.actions.combinations if names & {*c.only}]
    if named:
        raise ValueError(
            say(
                "combination {named} is looked at for some of these bases only: empty its column 'Only for' first",
                named=", ".join(named),
            )
        )
    return project.replaced(
        pads=tuple(p for p in project.pads if p.name not in names),
        straps=tuple(s for s in project.straps if not names & {s.edge, s.inner}),
    )


def _longest(points: list[LoadPoint]) -> float:
    """The greatest distance between two of the points, m."""
    return max(float(((a.x - b.x) ** 2 + (a.y - b.y) ** 2) ** 0.5) for a in points for b in points)


def combined(project: Project, columns: tuple[str, ...]) -> tuple[Project, FirstSize]:
    """The project with one base under these columns, in the place of what carries them now.

    Raises:
        ValueError: see :func:`first_combined`; or when one of their bases is frozen.
        pydantic.ValidationError: when the base is not possible.
    """
    old = [p for p in project.pads if set(p.carries) & set(columns)]
    project = without_bases(project, columns)
    found = first_combined(project, columns)
    pad = found.pad
    # what stood on a pedestal goes on standing on it, where it still ends above the base
    under = {name: p for one in old for name, p in one.all_pedestals.items() if p.top > pad.top + 1e-9}
    pad = pad.replaced(
        pedestal=under.get(columns[0]), pedestals={name: under[name] for name in columns[1:] if name in under}
    )
    found = replace(found, pad=pad)
    return project.replaced(pads=(*project.pads, pad)), found


EDGE = 0.3
"""How far a base reaches beyond the outer columns, at least, m."""


def _own_share(project: Project, pad: Pad, load: float) -> float | None:
    """Weight of base, pedestal and backfill over the load."""
    if load <= 0:
        return None
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations("allowable")
    if not len(situations):
        return None
    forces = bench.forces(situations, SILENT)
    return float((forces.weight + forces.pedestal)[0].max()) / load


def placed(project: Project, columns: tuple[str, ...]) -> tuple[Project, list[FirstSize]]:
    """The project with a pad under each of these columns that has none yet.

    Raises:
        KeyError: when there is no such column.
        pydantic.ValidationError: when a pad is not possible.
    """
    carried = {name for p in project.pads for name in p.carries}
    found = []
    for column in columns:
        if column not in carried:
            one = first_size(project, column)
            project = project.replaced(pads=(*project.pads, one.pad))
            found.append(one)
    return project, found
