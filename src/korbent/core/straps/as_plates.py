"""A strap as it is built: both bases as plates on springs that only press, the beam along them and elastic between
their faces.

Axes: s along the strap from the middle of the base at the boundary to the other, t across it. Both bases are rectangles
along these axes (one that stands askew, or is round, as wide and long as keeps its size along the strap and its area).
"""

from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np

from korbent.core.actions.tied import middle_of, size_along
from korbent.core.bench import Bench
from korbent.core.concrete.modulus import elastic_modulus
from korbent.core.model.actions import LoadPoint
from korbent.core.plates.beams import Beams, added_inertia, line_of, torsion_constant
from korbent.core.plates.element import SHEAR
from korbent.core.plates.mesh import Box, GridMesh, Mesh, mesh_of
from korbent.core.plates.solve import SHAPES, PlateOnSprings, Solution, UnsolvedError
from korbent.core.straps.on_springs import tied_by
from korbent.core.working import Array
from korbent.words import say

POISSON = 0.2
ACROSS = 6
"""Elements over the shorter side of a base, about."""
LEAST_FOOTPRINT = 1e-3
"""Of what of a column stands on its base, m."""
STIFF = 100.0
"""Times its own stiffness: the end of the beam stays plane over its width."""


@dataclass(frozen=True)
class Part:
    """One base with its column; m in the axes of the strap."""

    box: Box
    thickness: float
    column: Box
    k: float
    """Modulus of subgrade reaction, kN/m3."""
    V: Array
    """Of its column, kN, (situations,)."""
    M: Array
    """Along the strap about the middle of the column at the underside, kNm, (situations,); positive where the far side
    is pressed."""

    @property
    def at(self) -> float:
        """Of the column along the strap."""
        return (self.column[0] + self.column[1]) / 2


@dataclass(frozen=True)
class AsPlates:
    """The plates, the beam and what acts; all bending in kNm with sagging positive."""

    parts: tuple[Part, Part]
    line: float
    """Where the beam runs across, m."""
    width: float
    depth: float
    E: float
    weight: Array
    """Of the beam between the faces, kN, (situations,)."""

    @property
    def key(self) -> tuple[object, ...]:
        """What it is made of, by value."""
        parts = ((p.box, p.thickness, p.column, p.k, p.V.tobytes(), p.M.tobytes()) for p in self.parts)
        return (*parts, self.line, self.width, self.depth, self.E, self.weight.tobytes())

    @cached_property
    def plate(self) -> PlateOnSprings:
        """Both bases on their springs, with the beam."""
        mesh = _mesh(self)
        h, k = np.zeros(len(mesh.elements)), np.zeros(len(mesh.elements))
        for part in self.parts:
            mine = mesh.within(part.box)
            h[mine], k[mine] = part.thickness, part.k
        return PlateOnSprings(mesh, h, self.E, POISSON, k, _beams(self, mesh))

    @cached_property
    def gross(self) -> Array:
        """What the columns press over their footprints, (elements, 4, situations), kPa."""
        plate = self.plate
        x, _ = (v[plate.mesh.elements] @ SHAPES.T for v in plate.mesh.nodes)
        found = np.zeros((*plate.points.shape, len(self.weight)))
        for part in self.parts:
            mine = plate.mesh.within(part.column)
            terms = np.stack([np.ones_like(x[mine]), x[mine] - part.at], axis=-1)
            moments = np.einsum("epi,ep,epj->ij", terms, plate.points[mine], terms)
            found[mine] += terms @ np.linalg.solve(moments, np.stack([part.V, part.M]))
        return found

    @cached_property
    def loads(self) -> Array:
        """On the unknowns: columns, and the weight of the beam on its ends as on an even load between them."""
        plate, (near, far) = self.plate, self.faces
        found = plate.load(self.gross)
        ends = [3 * int(plate._number[_node(plate.mesh, s, self.line)]) for s in (near, far)]
        turning = self.weight * (far - near) / 12
        # a rotation is against the slope: the end moments of a beam that is held at both ends
        for end, sign in zip(ends, (-1.0, 1.0)):
            found[end] += self.weight / 2
            found[end + 1] += sign * turning
        return found

    @property
    def faces(self) -> tuple[float, float]:
        """Of both bases, between which the beam is free."""
        return self.parts[0].box[1], self.parts[1].box[0]


@dataclass(frozen=True)
class ByPlates:
    """What the plates give, (situations,) unless it says otherwise."""

    R: tuple[Array, Array]
    """Below both bases, kN."""
    settled: tuple[Array, Array]
    """In the middle of both columns, m."""
    at: Array
    """From the outer edge of the base at the boundary to the face of the other, m, (places,)."""
    moment: Array
    """Of base and beam across a whole section, kNm, (places, situations)."""
    shear: Array
    beam: tuple[Array, Array]
    """Moments of the beam itself at both faces, kNm."""
    unknowns: int
    residual: float
    lifted: Array

    def words(self) -> str:
        """How it was solved."""
        part = say(" · a base lifts off in part") if self.lifted.any() else ""
        return say(
            "{unknowns} unknowns, out of balance {residual:.0e}{part}",
            unknowns=self.unknowns,
            residual=self.residual,
            part=part,
        )


BETWEEN = 24
"""Places along the free beam."""


def by_plates(tied: AsPlates) -> ByPlates:
    """The bases bend, tilt and settle with the beam.

    Raises:
        UnsolvedError: where nothing holds them down.
    """
    plate, mesh = tied.plate, tied.plate.mesh
    solution = plate.solve(tied.loads)
    assert plate.beams is not None
    moment, _, _ = plate.beams.forces(solution.unknowns)
    free = int(np.flatnonzero(plate.beams.rib == FREE)[0])
    reactions = [
        (plate.points[mine, :, None] * solution.pressure[mine]).sum(axis=(0, 1))
        for mine in (mesh.within(part.box) for part in tied.parts)
    ]
    at, bending, shear = _sections(tied, solution)
    turning = tied.weight * (tied.faces[1] - tied.faces[0]) / 12
    settled = [solution.settlement[_node(mesh, part.at, tied.line)] for part in tied.parts]
    return ByPlates(
        (reactions[0], reactions[1]),
        (settled[0], settled[1]),
        at,
        bending,
        shear,
        (moment[free, 0] - turning, moment[free, 1] - turning),
        plate.count,
        solution.residual,
        solution.lifted,
    )


def _sections(tied: AsPlates, solution: Solution) -> tuple[Array, Array, Array]:
    """(places, moments, shears) across whole sections: what presses on one side of each, along the free beam its
    weight."""
    plate = tied.plate
    first, (near, far) = tied.parts[0], tied.faces
    x = plate.mesh.nodes[0][plate.mesh.elements] @ SHAPES.T
    mine = plate.mesh.within(first.box)
    force = plate.points[mine, :, None] * (solution.pressure[mine] - tied.gross[mine])
    lines = plate.mesh.lines_x[plate.mesh.lines_x < near + 1e-9]
    middles = (lines[:-1] + lines[1:]) / 2
    at = np.sort(np.concatenate([lines, middles, np.linspace(near, far, BETWEEN)[1:]]))
    moments, shears = [], []
    for s in at:
        before = (x[mine] < s)[:, :, None] * force
        hangs = tied.weight * (max(s - near, 0.0) / (far - near))
        shears.append(before.sum(axis=(0, 1)) - hangs)
        moments.append((before * (s - x[mine])[:, :, None]).sum(axis=(0, 1)) - hangs * max(s - near, 0.0) / 2)
    return at, np.stack(moments), np.stack(shears)


# ---------------------------------------------------------------- mesh and beam

ON, ENDS, FREE = range(3)
"""Stretches of the beam on a base, its ends, and between the faces."""


def _mesh(tied: AsPlates) -> GridMesh:
    first, second = tied.parts
    low, high = (f(p.box[k] for p in tied.parts) for f, k in ((min, 2), (max, 3)))
    outline = (first.box[0], second.box[1], low, high)
    openings = [(first.box[1], second.box[0], low, high)]
    inner: list[Box] = []
    for part in tied.parts:
        x0, x1, y0, y1 = part.box
        openings += [(x0, x1, a, b) for a, b in ((low, y0), (y1, high)) if b - a > 1e-6]
        half = tied.width / 2
        inner += [
            part.box,
            part.column,
            (part.at, part.at, y0, y1),
            (x0, x1, max(tied.line - half, y0), min(tied.line + half, y1)),
            (x0, x1, tied.line, tied.line),
        ]
    size = min(min(p.box[1] - p.box[0], p.box[3] - p.box[2]) for p in tied.parts) / ACROSS
    return mesh_of(outline, inner, openings, 1.5 * size, size)


def _node(mesh: Mesh, s: float, t: float) -> int:
    x, y = mesh.nodes
    return int(np.flatnonzero((np.abs(x - s) < 1e-5) & (np.abs(y - t) < 1e-5) & mesh.used)[0])


def _beams(tied: AsPlates, mesh: GridMesh) -> Beams:
    """Over the base at the boundary and on the other as far as its column: what the beam is deeper than the base;
    between the faces whole."""
    b, h, E, t = tied.width, tied.depth, tied.E, tied.line
    G = E / (2 * (1 + POISSON))
    x, y = mesh.nodes
    near, far = tied.faces
    whole = (E * b * h**3 / 12, SHEAR * G * b * h, G * torsion_constant(b, h))
    nodes, along_y, values, kind = [], [], [], []

    def add(line: Array, turned: bool, stiff: tuple[float, float, float], which: int) -> None:
        for pair in pairwise(line.tolist()):
            nodes.append(pair)
            along_y.append(turned)
            values.append(stiff)
            kind.append(which)

    for part, (start, end) in zip(tied.parts, ((tied.parts[0].box[0], near), (far, tied.parts[1].at))):
        deeper = h - part.thickness
        if deeper > 1e-6:
            stiff = (E * added_inertia(b, h, b, part.thickness), whole[1], G * torsion_constant(b, deeper))
            add(line_of(mesh, False, t, start, end), False, stiff, ON)
        face = near if part is tied.parts[0] else far
        ends = line_of(mesh, True, face, max(t - b / 2, part.box[2]), min(t + b / 2, part.box[3]))
        add(ends, True, (STIFF * whole[0], STIFF * whole[1], STIFF * whole[2]), ENDS)
    add(np.array([_node(mesh, near, t), _node(mesh, far, t)]), False, whole, FREE)
    pairs, turned = np.array(nodes), np.array(along_y)
    length = np.hypot(x[pairs[:, 1]] - x[pairs[:, 0]], y[pairs[:, 1]] - y[pairs[:, 0]])
    EI, GA, GJ = np.array(values).T
    return Beams(pairs, turned, length, EI, GA, GJ, np.array(kind))


# ---------------------------------------------------------------- of a bench


def as_plates_of(bench: Bench, k: tuple[float, float]) -> AsPlates:
    """The two bases that the strap of a bench of one candidate ties, as plates.

    Args:
        k: modulus of subgrade reaction below each, kN/m3.

    Raises:
        UnsolvedError: where a column does not stand on its base.
    """
    tied = tied_by(bench)
    tie, d = tied.tie, tied.d
    first, far = bench.points[0], tie.points[0]
    from_x, from_y = (float(v[0, 0]) for v in middle_of(bench.geometry))
    pads = (bench.pads[0], tie.partner)
    parts = []
    for pad, g, point, V, M, modulus in zip(pads, (bench.geometry, tied.other), (first, far), tied.V, tied.M, k):
        middle = [float(v[0, 0]) for v in middle_of(g)]
        s, t = _seen(middle[0] - from_x, middle[1] - from_y, d)
        along = float(size_along(g, d)[0, 0])
        across = float(g.area[0, 0]) / along
        box = (s - along / 2, s + along / 2, t - across / 2, t + across / 2)
        column = _column(point, _seen(point.x - from_x, point.y - from_y, d), d, box)
        if min(column[1] - column[0], column[3] - column[2]) < LEAST_FOOTPRINT:
            raise UnsolvedError(say("the column of {pad} stands beside it", pad=pad.name))
        # about the middle of what of the column stands on the base
        off = (column[0] + column[1]) / 2 - s
        parts.append(Part(box, pad.thickness, column, modulus, V, M - V * off))
    strap, line = tie.strap, _seen(first.x - from_x, first.y - from_y, d)[1]
    free = parts[1].box[0] - parts[0].box[1]
    weight = np.ravel(tied.situations.weight) * bench.settings.concrete_weight * strap.width * strap.depth * free
    return AsPlates((parts[0], parts[1]), line, strap.width, strap.depth, elastic_modulus(bench), weight)


def _seen(dx: float, dy: float, d: tuple[float, float]) -> tuple[float, float]:
    """Along and across a direction of the plan."""
    return dx * d[0] + dy * d[1], dy * d[0] - dx * d[1]


def _column(point: LoadPoint, at: tuple[float, float], d: tuple[float, float], box: Box) -> Box:
    """The footprint of a column on its base, as a rectangle along the strap."""
    turn = np.deg2rad(point.rotation) - np.arctan2(d[1], d[0])
    lies = abs(np.cos(turn)) > abs(np.sin(turn))
    a, b = (point.size_x, point.size_y) if lies else (point.size_y, point.size_x)
    if point.is_round:
        a = b = float(np.sqrt(np.pi) / 2 * point.size_x)
    (s, t), (x0, x1, y0, y1) = at, box
    return max(s - a / 2, x0), min(s + a / 2, x1), max(t - b / 2, y0), min(t + b / 2, y1)
