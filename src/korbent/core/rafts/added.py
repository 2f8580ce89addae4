"""Bars added to the basic ones of a raft: few regions in which what the basic bars lack is made up."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.concrete.choose import DIAMETERS, region_of
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.labels import label
from korbent.core.model.plate import AddedBars
from korbent.core.model.project import Project
from korbent.core.model.reinforcement import FACES, Bars, Face
from korbent.core.plates.mesh import Box
from korbent.core.rafts.bars import steel_field
from korbent.core.rafts.solved import solved_raft
from korbent.core.working import Array
from korbent.words import say

RASTER = 0.05
"""Sides of regions are multiples of it, m."""
TOGETHER = 1.4
"""Two regions are one where the box around both is at most so many times as large as they are together."""
ENOUGH = 1e-9


@dataclass(frozen=True)
class Shortfall:
    """Where the basic bars of a face are too little: a box, and by how much at most, mm2/m."""

    face: Face
    box: Box
    lacks: float


def proposed_added(project: Project, pad: Pad) -> tuple[AddedBars, ...]:
    """Regions of added bars with which no node of the raft lacks steel, for its basic bars as they are; none where
    those are enough.

    Spacings are that of the basic bars or twice that, so that added bars lie between them.

    Raises:
        ValueError: where the plate cannot be solved, a face that needs bars has no basic ones, or no bars of the region
        are enough.
    """
    found = []
    for one in shortfalls(project, pad):
        basic = pad.reinforcement.bars(one.face)
        if basic is None or not basic.spacing:
            raise ValueError(
                say(
                    "{pad}: the {face} bars must be given by their spacing, such as 16 at 150: what they lack is then added",
                    pad=pad.name,
                    face=label(one.face),
                )
            )
        low_x, high_x, low_y, high_y = one.box
        bars = _least(project, basic.spacing, one.lacks)
        if bars is None:
            raise ValueError(
                say(
                    "{pad}, {face}: it lacks {lacks:.0f} mm²/m, more than one layer of added bars has: make the "
                    "basic bars stronger or the raft thicker",
                    pad=pad.name,
                    face=label(one.face),
                    lacks=one.lacks,
                )
            )
        found.append(AddedBars(x_from=low_x, x_to=high_x, y_from=low_y, y_to=high_y, face=one.face, bars=bars))
    return tuple(found)


def _least(project: Project, spacing: float, lacks: float) -> Bars | None:
    """The lightest bars at the basic spacing or twice that; of two as light the fewer."""
    tries = [Bars(diameter=oe, spacing=s) for oe in DIAMETERS[region_of(project)] for s in (2 * spacing, spacing)]
    enough = [b for b in tries if 1e6 * b.area_in(1.0) >= lacks * (1 - ENOUGH)]
    return min(enough, key=lambda b: (round(1e6 * b.area_in(1.0)), -(b.spacing or 0.0)), default=None)


def shortfalls(project: Project, pad: Pad) -> tuple[Shortfall, ...]:
    """Where the basic bars alone are too little, few boxes a face.

    Raises:
        ValueError: where the plate cannot be solved.
    """
    assert pad.plate is not None
    bare = pad.replaced(plate=pad.plate.replaced(added=()))
    pads = tuple(bare if p.name == pad.name else p for p in project.pads)
    bench = bench_for(project.replaced(pads=pads), (bare,), np.zeros(1, dtype=int), table(bare))
    solved = solved_raft(bench, project, "concrete")
    if isinstance(solved, str):
        raise ValueError(f"{pad.name}: {solved}")
    mesh = solved.mesh
    grid = mesh.grid
    found = []
    for face in FACES:
        asked, basic = (v.reshape(grid) for v in steel_field(bench, solved, *face.split("_")))
        lacks = np.where(np.isnan(asked), 0.0, asked - basic)
        short = lacks > ENOUGH * np.maximum(basic, 1.0)
        boxes = _few([_rounded(_box(mesh.lines_x, mesh.lines_y, *some), pad) for some in _apart(short)])
        x, y = np.meshgrid(mesh.lines_x, mesh.lines_y, indexing="ij")
        for box in boxes:
            inside = (x >= box[0]) & (x <= box[1]) & (y >= box[2]) & (y <= box[3])
            found.append(Shortfall(face, box, float(lacks[inside].max())))
    return tuple(found)


def _apart(short: Array) -> list[tuple[Array, Array]]:
    """Nodes that hang together, also over corners: their indices along x and y."""
    from scipy.ndimage import label

    numbered, count = label(short, structure=np.ones((3, 3)))
    return [np.nonzero(numbered == k) for k in range(1, count + 1)]  # type: ignore[misc]


def _box(lines_x: Array, lines_y: Array, i: Array, j: Array) -> Box:
    """Around nodes, as far as the next lines: between those the basic bars begin to be enough."""
    return (
        float(lines_x[max(i.min() - 1, 0)]),
        float(lines_x[min(i.max() + 1, len(lines_x) - 1)]),
        float(lines_y[max(j.min() - 1, 0)]),
        float(lines_y[min(j.max() + 1, len(lines_y) - 1)]),
    )


def _rounded(box: Box, pad: Pad) -> Box:
    """Outwards on the raster, within the raft."""

    def side(value: float, half: float, out: int) -> float:
        steps = value / RASTER
        on = np.floor(steps + 1e-9) if out < 0 else np.ceil(steps - 1e-9)
        return float(np.clip(round(on * RASTER, 9), -half, half))

    return (
        side(box[0], pad.width / 2, -1),
        side(box[1], pad.width / 2, 1),
        side(box[2], pad.length / 2, -1),
        side(box[3], pad.length / 2, 1),
    )


def _few(boxes: Sequence[Box]) -> list[Box]:
    """Boxes that overlap, or nearly fill the box around both, are one."""
    found = list(boxes)
    merged = True
    while merged:
        merged = False
        for a in range(len(found)):
            for b in range(a + 1, len(found)):
                one, two = found[a], found[b]
                around = (min(one[0], two[0]), max(one[1], two[1]), min(one[2], two[2]), max(one[3], two[3]))
                if _area(around) <= TOGETHER * (_area(one) + _area(two)) or _overlap(one, two):
                    found = [box for k, box in enumerate(found) if k not in (a, b)] + [around]
                    merged = True
                    break
            if merged:
                break
    return sorted(found)


def _area(box: Box) -> float:
    return (box[1] - box[0]) * (box[3] - box[2])


def _overlap(one: Box, two: Box) -> bool:
    return one[0] < two[1] and two[0] < one[1] and one[2] < two[3] and two[2] < one[3]
