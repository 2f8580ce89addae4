"""Ribs of rafts: their stiffness as beams of the mesh, and what they carry as T-sections with the plate beside them."""

from dataclasses import dataclass, fields
from itertools import pairwise

import numpy as np

from korbent.core.concrete.several import Column
from korbent.core.model.foundations import Pad
from korbent.core.model.plate import Rib
from korbent.core.plates.beams import Beams, added_inertia, line_of, torsion_constant
from korbent.core.plates.element import SHEAR
from korbent.core.plates.mesh import Box, Mesh
from korbent.core.working import Array

WALL = -1
"""In the place of the number of a rib."""
INNER = 0.7
"""Distance between points of zero moment over the span, of an inner span (EN 1992-1-1 figure 5.2)."""


@dataclass(frozen=True)
class Flange:
    """The plate that acts with a rib, m from its middle to either side, and the distance between zero moments that it
    comes from."""

    before: float
    after: float
    zero_to_zero: float

    @property
    def width(self) -> float:
        """Of the T, m."""
        return self.before + self.after


def flange_of(pad: Pad, rib: Rib, columns: tuple[Column, ...]) -> Flange:
    """Effective width by EN 1992-1-1 (5.7), (5.7a): to each side of the web 0.2 of half the distance to the next rib
    (or of what there is to the edge) and 0.1 of the distance between zero moments, at most 0.2 of that and what there
    is."""
    assert pad.plate is not None
    box = pad.rib_box(rib)
    i = 0 if rib.axis == "x" else 2
    low, high = box[i], box[i + 1]
    stops = sorted(p for p in places_on(pad, rib, columns) if low <= p <= high)
    spans = [b - a for a, b in pairwise(stops) if b - a > rib.depth]
    l_0 = INNER * min(spans, default=high - low)
    half = (pad.length if rib.axis == "x" else pad.width) / 2
    sides = []
    for sign in (-1.0, 1.0):
        face = sign * rib.at + rib.width / 2
        others = [
            sign * o.at - o.width / 2
            for o in pad.plate.ribs
            if o.axis == rib.axis and sign * o.at > sign * rib.at + 1e-9 and _beside(pad, o, low, high)
        ]
        there = min([half - face, *((o - face) / 2 for o in others)])
        there = max(there, 0.0)
        sides.append(rib.width / 2 + min(0.2 * there + 0.1 * l_0, 0.2 * l_0, there))
    return Flange(sides[0], sides[1], l_0)


def _beside(pad: Pad, rib: Rib, low: float, high: float) -> bool:
    box = pad.rib_box(rib)
    i = 0 if rib.axis == "x" else 2
    return box[i] < high and low < box[i + 1]


def places_on(pad: Pad, rib: Rib, columns: tuple[Column, ...]) -> list[float]:
    """Where the columns on a rib stand along it."""
    return [_along(c, rib) for c in columns if stands_on(c, rib)]


def _along(column: Column, rib: Rib) -> float:
    return float((column.x if rib.axis == "x" else column.y)[0, 0])


def stands_on(column: Column, rib: Rib) -> bool:
    """The middle of the column lies within the width of the rib."""
    across = float((column.y if rib.axis == "x" else column.x)[0, 0])
    return abs(across - rib.at) <= rib.width / 2 + 1e-9


def on_ribs(pad: Pad, column: Column) -> tuple[Rib, ...]:
    """The ribs on which a column stands."""
    found = []
    for rib in pad.plate.ribs if pad.plate else ():
        box = pad.rib_box(rib)
        i = 0 if rib.axis == "x" else 2
        if stands_on(column, rib) and box[i] - 1e-9 <= _along(column, rib) <= box[i + 1] + 1e-9:
            found.append(rib)
    return tuple(found)


def spread_box(pad: Pad, column: Column, own: Box) -> Box:
    """Over which a column presses on the plate: its footprint, on a rib that is wider from face to face of the rib, in
    whose depth it spreads."""
    x0, x1, y0, y1 = own
    for rib in on_ribs(pad, column):
        low, high = rib.at - rib.width / 2, rib.at + rib.width / 2
        if rib.axis == "x" and low <= y0 and y1 <= high:
            y0, y1 = low, high
        elif rib.axis == "y" and low <= x0 and x1 <= high:
            x0, x1 = low, high
    return x0, x1, y0, y1


def lines_of(pad: Pad) -> list[Box]:
    """What a mesh needs lines at: both faces of every rib, its middle, and the ends that lie within the raft."""
    found: list[Box] = []
    for rib in pad.plate.ribs if pad.plate else ():
        box = pad.rib_box(rib)
        i = 0 if rib.axis == "x" else 2
        low, high = box[i], box[i + 1]
        across = (rib.at - rib.width / 2, rib.at + rib.width / 2)
        ends = [at for at, given in ((low, rib.begin), (high, rib.end)) if given is not None]
        if pad.outline:  # an edge askew is met farther out by one face than by the middle
            low, high = (
                at + sign * rib.width if given is None else at
                for at, given, sign in ((low, rib.begin, -1), (high, rib.end, 1))
            )
        lines = [(low, high, at, at) for at in (*across, rib.at)] + [(at, at, *across) for at in ends]
        found += [one if rib.axis == "x" else (*one[2:], *one[:2]) for one in lines]
    return found


def nodes_of(pad: Pad, mesh: Mesh, rib: Rib) -> Array:
    """The nodes on the middle of a rib, in order along it."""
    box = pad.rib_box(rib)
    return line_of(mesh, rib.axis == "y", rib.at, *(box[:2] if rib.axis == "x" else box[2:]))


def beams_of(
    pad: Pad, mesh: Mesh, columns: tuple[Column, ...], E: float, nu: float, walls: tuple[Box, ...] = ()
) -> Beams | None:
    """The ribs as beams: in bending what their T adds to the plate, in shear their web, in torsion their web below
    (above) the plate; and walls over their whole height about their own axis (what the plate adds below them is left
    out: they are stiff without)."""
    ribs = pad.plate.ribs if pad.plate else ()
    height = pad.plate.walls if pad.plate and pad.plate.walls else 0.0
    if not ribs and not walls:
        return None
    x, y = mesh.nodes
    G = E / (2 * (1 + nu))
    parts = []
    for x0, x1, y0, y1 in walls:
        along_y = y1 - y0 > x1 - x0
        at, thick = ((x0 + x1) / 2, x1 - x0) if along_y else ((y0 + y1) / 2, y1 - y0)
        line = line_of(mesh, along_y, at, *((y0, y1) if along_y else (x0, x1)))
        length = np.diff((y if along_y else x)[line])
        one = np.ones(len(length))
        parts.append(
            Beams(
                np.stack([line[:-1], line[1:]], axis=-1),
                np.full(len(length), along_y),
                length,
                E * thick * height**3 / 12 * one,
                SHEAR * G * thick * height * one,
                G * torsion_constant(thick, height) * one,
                np.full(len(length), WALL),
            )
        )
    for k, rib in enumerate(ribs):
        line = nodes_of(pad, mesh, rib)
        length = np.diff((x if rib.axis == "x" else y)[line])
        flange, one = flange_of(pad, rib, columns), np.ones(len(length))
        bending = E * added_inertia(rib.width, rib.depth, flange.width, pad.thickness)
        twisting = G * torsion_constant(rib.width, rib.depth - pad.thickness)
        parts.append(
            Beams(
                np.stack([line[:-1], line[1:]], axis=-1),
                np.full(len(length), rib.axis == "y"),
                length,
                bending * one,
                SHEAR * G * rib.width * rib.depth * one,
                twisting * one,
                np.full(len(length), k),
            )
        )
    return Beams(*(np.concatenate([getattr(p, f.name) for p in parts]) for f in fields(Beams)))


def weight_of(pad: Pad, mesh: Mesh) -> Array:
    """Thickness (m) that the ribs add to the elements, (elements,): of two that cross the deeper one."""
    found = np.zeros(len(mesh.elements))
    for rib in pad.plate.ribs if pad.plate else ():
        mine = mesh.within(pad.rib_box(rib))
        found[mine] = np.maximum(found[mine], rib.depth - pad.thickness)
    return found


def inside(pad: Pad, mesh: Mesh) -> Array:
    """Places within a rib, between its faces: its own bars are designed there, not those of the plate, (places,)."""
    x, y = mesh.places
    found = np.zeros(len(x), dtype=bool)
    e = 1e-6
    for rib in pad.plate.ribs if pad.plate else ():
        x0, x1, y0, y1 = pad.rib_box(rib)
        if rib.axis == "x":
            found |= (x > x0 - e) & (x < x1 + e) & (y > y0 + e) & (y < y1 - e)
        else:
            found |= (x > x0 + e) & (x < x1 - e) & (y > y0 - e) & (y < y1 + e)
    return found
