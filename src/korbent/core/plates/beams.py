"""Beams along lines of a mesh: they bend and twist with the nodes of the plate that they stiffen (Timoshenko 1921,
exact between its ends).

Conventions as in :mod:`korbent.core.plates.element`: w down, the rotation b along the beam with shear strain w' + b,
curvature b'; a sagging moment is positive, the shear is its slope."""

from dataclasses import dataclass

import numpy as np

from korbent.core.plates.mesh import Mesh
from korbent.core.working import Array


@dataclass(frozen=True)
class Beams:
    """Stretches from node to node. EI in kNm2, GA (of shear) in kN, GJ in kNm2, all (beams,)."""

    nodes: Array
    """(beams, 2)."""
    along_y: Array
    """Which run along y; the others run along x, (beams,)."""
    length: Array
    EI: Array
    GA: Array
    GJ: Array
    rib: Array
    """To which rib each belongs, (beams,)."""

    @property
    def places(self) -> Array:
        """Of each unknown (w, b, t at both ends; t turns about the beam) among w, b_x, b_y of its node, (beams, 6)."""
        bend, twist = np.where(self.along_y, 2, 1), np.where(self.along_y, 1, 2)
        one = np.stack([np.zeros_like(bend), bend, twist], axis=-1)
        return np.concatenate([one, one], axis=-1)

    def rows(self, number: Array) -> Array:
        """Unknowns of each beam, where ``number`` numbers the nodes, (beams, 6)."""
        first, last = (3 * number[self.nodes[:, k]] for k in (0, 1))
        found: Array = np.stack([first] * 3 + [last] * 3, axis=-1) + self.places
        return found

    def stiffness(self) -> Array:
        """(beams, 6, 6)."""
        L, EI = self.length, self.EI
        phi = 12 * EI / (self.GA * L**2)
        c = EI / (L**3 * (1 + phi))
        K = np.zeros((len(L), 6, 6))
        # the rotation of the axis is -b in a beam that does not shear
        w1, b1, t1, w2, b2, t2 = range(6)
        for i, j, value in (
            (w1, w1, 12 * c),
            (w1, w2, -12 * c),
            (w2, w2, 12 * c),
            (w1, b1, -6 * L * c),
            (w1, b2, -6 * L * c),
            (b1, w2, 6 * L * c),
            (w2, b2, 6 * L * c),
            (b1, b1, (4 + phi) * L**2 * c),
            (b1, b2, (2 - phi) * L**2 * c),
            (b2, b2, (4 + phi) * L**2 * c),
            (t1, t1, self.GJ / L),
            (t1, t2, -self.GJ / L),
            (t2, t2, self.GJ / L),
        ):
            K[:, i, j] = K[:, j, i] = value
        return K

    def forces(self, unknowns: Array) -> tuple[Array, Array, Array]:
        """(moment at both ends (beams, 2, loads) kNm, shear (beams, loads) kN, torsion (beams, loads) kNm).

        Args:
            unknowns: of all nodes, (nodes x 3, loads).
        """
        rows = self.rows(np.arange(len(unknowns) // 3))
        f = self.stiffness() @ unknowns[rows]
        return np.stack([-f[:, 1], f[:, 4]], axis=1), f[:, 3], f[:, 5]


def line_of(mesh: Mesh, along_y: bool, at: float, low: float, high: float) -> Array:
    """The nodes of a line of the mesh along x or y from a place to another, in order."""
    x, y = mesh.nodes
    along, across = (y, x) if along_y else (x, y)
    mine = np.flatnonzero((np.abs(across - at) < 1e-5) & (along > low - 1e-5) & (along < high + 1e-5) & mesh.used)
    return mine[np.argsort(along[mine])]


def torsion_constant(width: float, depth: float) -> float:
    """Of a rectangle, m4: b3 t (1 - 0.63 b/t (1 - b4/(12 t4)))/3, b the shorter side (Timoshenko and Goodier 1970,
    article 109)."""
    b, t = min(width, depth), max(width, depth)
    return b**3 * t / 3 * (1 - 0.63 * b / t * (1 - b**4 / (12 * t**4)))


def added_inertia(web: float, depth: float, flange: float, thickness: float) -> float:
    """Second moment (m4) of a T of a web over its whole depth and a flange, about its own axis, less that of the flange
    about its own:
    what a rib adds to the plate."""
    below = depth - thickness
    areas = (web * below, flange * thickness)
    middles = (below / 2, below + thickness / 2)
    axis = sum(a * y for a, y in zip(areas, middles)) / sum(areas)
    whole = sum(a * (y - axis) ** 2 for a, y in zip(areas, middles)) + (web * below**3 + flange * thickness**3) / 12
    return whole - flange * thickness**3 / 12
