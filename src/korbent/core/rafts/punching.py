"""A raft as one of its columns sees it: to edges and openings, with the pressure around it."""

from dataclasses import replace

import numpy as np

from korbent.core.concrete.pad import ConcretePad, effective_depths
from korbent.core.concrete.several import Column, alone, area_of
from korbent.core.contact.plane import Contact
from korbent.core.footprint import Rectangle, footprint_of
from korbent.core.plates.element import POINTS, shape
from korbent.core.rafts.plate_of import box_of
from korbent.core.rafts.said import thickened, thickness_at, thickness_beside
from korbent.core.rafts.solved import SolvedRaft
from korbent.core.working import Array
from korbent.words import say


def _room(solved: SolvedRaft, column: Column) -> tuple[float, float, float, float]:
    """From the faces of a column to the edge of the raft or of an opening that lies beside it, at -x, +x, -y, +y, m."""
    pad, box = solved.pad, box_of(column)
    low_x, high_x, low_y, high_y = box
    middle_and_size = ((low_x + high_x) / 2, (low_y + high_y) / 2, high_x - low_x, high_y - low_y)
    clear = footprint_of(pad).clear(*(np.array([[v]]) for v in middle_and_size))
    west, east, south, north = (float(v[0, 0]) for v in clear)
    for hole in pad.plate.openings if pad.plate else ():
        x0, x1, y0, y1 = hole.box
        if y0 < high_y and low_y < y1:
            west = min(west, low_x - x1) if x1 <= low_x else west
            east = min(east, x0 - high_x) if x0 >= high_x else east
        if x0 < high_x and low_x < x1:
            south = min(south, low_y - y1) if y1 <= low_y else south
            north = min(north, y0 - high_y) if y0 >= high_y else north
    return west, east, south, north


def thickened_areas(pad: ConcretePad, solved: SolvedRaft, columns: list[Column]) -> list[tuple[Column, float]]:
    """Thickenings below columns as loaded areas, and the thickness beside each: what they stand on may punch through
    the thinner raft.

    EN 1992-1-1 6.4.2 (8) to (11): the perimeters of the thicker part, and those around it.
    """
    found = {}
    for column in columns:
        for box in thickened(solved, float(column.x[0, 0]), float(column.y[0, 0])):
            h = thickness_beside(solved, box)
            if box not in found and h is not None and h < thickness_at(solved, column):
                found[box] = (
                    area_of(pad, list(solved.columns), say("thickening below {column}", column=column.name), box),
                    h,
                )
    return list(found.values())


def seen_by(pad: ConcretePad, solved: SolvedRaft, column: Column, thickness: float | None = None) -> ConcretePad:
    """The raft as one of its columns sees it: to edges and openings, its thickness there (or a given one), the pressure
    around it as a plane."""
    own = alone(pad, column)
    g, settings = own.geometry, pad.settings
    west, east, south, north = _room(solved, column)
    size_x, size_y = (float(s[0, 0]) for s in column.size)
    B, L = west + size_x + east, south + size_y + north
    off_x, off_y = west + size_x / 2 - B / 2, south + size_y / 2 - L / 2
    h = np.array([[thickness_at(solved, column) if thickness is None else thickness]])
    d_x, d_y = effective_depths(h, settings.concrete_cover, settings.outer_bars, g.bars["bottom_x"], g.bars["bottom_y"])
    a, b, c, share = _pressure_around(solved, column, float((d_x + d_y)[0, 0]))
    contact = replace(
        pad.contact,
        a=a - b * off_x - c * off_y,
        b=b,
        c=c,
        stable=np.ones_like(a, dtype=bool),
        share=share,
        corners=np.zeros((*a.shape, 4)),
    )
    geometry = replace(
        g,
        footprint=Rectangle(np.array([[B]]), np.array([[L]])),
        h=h,
        offset_x=np.array([[off_x]]),
        offset_y=np.array([[off_y]]),
        underside=g.top - h,
    )
    assert isinstance(contact, Contact)
    return replace(own, geometry=geometry, contact=contact, d_x=d_x, d_y=d_y)


def _pressure_around(solved: SolvedRaft, column: Column, reach: float) -> tuple[Array, Array, Array, Array]:
    """(a, b, c, share pressed), (1, situations): the plane about the middle of a column nearest to the pressures within
    a reach of it."""
    mesh = solved.mesh
    shapes = np.stack([shape(xi, eta)[0] for xi, eta in POINTS])
    x, y = ((v[mesh.elements] @ shapes.T).ravel() for v in mesh.nodes)
    low_x, high_x, low_y, high_y = box_of(column)
    dx, dy = x - (low_x + high_x) / 2, y - (low_y + high_y) / 2
    near = (np.abs(dx) <= (high_x - low_x) / 2 + reach) & (np.abs(dy) <= (high_y - low_y) / 2 + reach)
    p = solved.solution.pressure.reshape(-1, len(solved.situations))[near]
    terms = np.stack([np.ones(int(near.sum())), dx[near], dy[near]], axis=-1)
    weighed = terms * solved.plate.plates.weights().ravel()[near][:, None]
    plane = np.linalg.solve(weighed.T @ terms, weighed.T @ p)
    share = np.where((p <= 0).any(axis=0), 0.99, 1.0)
    return plane[0][None], plane[1][None], plane[2][None], share[None]
