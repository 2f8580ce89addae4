"""A plate on springs: assembled once, solved for many loads; without tension by taking springs off until all that press are pressed."""

from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np

from korbent.core.plates.element import POINTS, Plates, shape
from korbent.core.plates.mesh import Mesh
from korbent.core.working import Array

if TYPE_CHECKING:  # a tenth of a second to load, and not needed before there is a plate
    from scipy.sparse import csc_matrix
    from scipy.sparse.linalg import SuperLU

SHAPES = np.stack([shape(xi, eta)[0] for xi, eta in POINTS])
"""(points, nodes)."""
ROUNDS = 60
TINY = 1e-9


class LiftedError(ValueError):
    """Nothing holds the plate down: no part of it stays in contact."""


@dataclass(frozen=True)
class Solution:
    """Unknowns of the nodes (nodes x 3, loads), pressure at the points of integration (elements, 4, loads), kPa, and out of balance, the
    greatest of all loads over the force."""

    unknowns: Array
    pressure: Array
    residual: float
    lifted: Array
    """Loads for which a part has no contact, (loads,)."""

    @property
    def settlement(self) -> Array:
        """Of the nodes, m, (nodes, loads)."""
        return self.unknowns[::3]


@dataclass(frozen=True)
class PlateOnSprings:
    """A plate on springs k (elements,), kN/m3."""

    mesh: Mesh
    h: Array
    E: float
    nu: float
    k: Array

    def __reduce__(self) -> tuple[type["PlateOnSprings"], tuple[object, ...]]:
        """What travels: not what can be found again."""
        return PlateOnSprings, (self.mesh, self.h, self.E, self.nu, self.k)

    @cached_property
    def plates(self) -> Plates:
        """The elements."""
        x, y = self.mesh.nodes
        return Plates(x[self.mesh.elements], y[self.mesh.elements], self.h, self.E, self.nu)

    @cached_property
    def _rows(self) -> Array:
        """Unknowns of each element, numbered among those that there are, (elements, 12)."""
        number = np.full(len(self.mesh.used), -1)
        number[self.mesh.used] = np.arange(int(self.mesh.used.sum()))
        nodes = number[self.mesh.elements]
        return (3 * nodes[:, :, None] + np.arange(3)).reshape(len(nodes), 12)

    @property
    def count(self) -> int:
        """Number of unknowns."""
        return 3 * int(self.mesh.used.sum())

    @cached_property
    def _points(self) -> Array:
        """Area that belongs to each point of integration, (elements, 4), m2."""
        return self.plates.weights()

    @cached_property
    def _stiffness(self) -> Array:
        return self.plates.stiffness()

    def _matrix(self, pressed: Array) -> "csc_matrix":
        """With springs at the points that are pressed, (elements, 4)."""
        from scipy.sparse import csc_matrix

        springs = np.einsum("e,ep,pi,pj->eij", self.k, self._points * pressed, SHAPES, SHAPES)
        whole = self._stiffness.copy()
        whole[:, ::3, ::3] += springs
        rows = np.broadcast_to(self._rows[:, :, None], whole.shape)
        columns = np.broadcast_to(self._rows[:, None, :], whole.shape)
        return csc_matrix((whole.ravel(), (rows.ravel(), columns.ravel())), shape=(self.count, self.count))

    @cached_property
    def _factor(self) -> "SuperLU":
        """Of all springs: one for all loads."""
        return self._factored(np.ones(self._points.shape))

    def _factored(self, pressed: Array) -> "SuperLU":
        from scipy.sparse.linalg import splu

        return splu(self._matrix(pressed), permc_spec="MMD_AT_PLUS_A", options={"SymmetricMode": True})

    def load(self, pressure: Array) -> Array:
        """Forces on the unknowns from pressures at the points of integration (elements, 4, loads), kPa, down."""
        by_node = np.einsum("ep,pi,epl->eil", self._points, SHAPES, pressure)
        found = np.zeros((self.count, pressure.shape[-1]))
        np.add.at(found, self._rows[:, ::3], by_node)
        return found

    def _depth(self, unknowns: Array) -> Array:
        """Settlement at the points of integration, (elements, 4, loads)."""
        found: Array = np.einsum("pi,eil->epl", SHAPES, unknowns[self._rows[:, ::3]])
        return found

    def solve(self, loads: Array, tension: bool = False) -> Solution:
        """The plate under loads on its unknowns (count, loads).

        Raises:
            LiftedError: when nothing stays in contact.
        """
        found = self._factor.solve(loads)
        depth = self._depth(found)
        lifted = np.zeros(loads.shape[1], dtype=bool)
        if not tension:
            for column in np.flatnonzero((depth < -TINY * np.abs(depth).max()).any(axis=(0, 1))):
                found[:, column], lifted[column] = (
                    self._in_contact(loads[:, column], depth[:, :, column]),
                    True,
                )
            depth = self._depth(found)
        pressure = self.k[:, None, None] * (depth if tension else np.maximum(depth, 0.0))
        force = (loads[::3]).sum(axis=0)
        reaction = (self._points[:, :, None] * pressure).sum(axis=(0, 1))
        residual = float(
            (np.abs(force - reaction) / np.maximum(np.abs(loads[::3]).sum(axis=0), 1e-9)).max(initial=0.0)
        )
        whole = np.zeros((3 * len(self.mesh.used), loads.shape[1]))
        whole[np.repeat(self.mesh.used, 3)] = found
        return Solution(whole, pressure, residual, lifted)

    def _in_contact(self, load: Array, depth: Array) -> Array:
        """One load without tension: springs come off where they would pull and come back where the plate comes down."""
        pressed = depth > 0
        for _ in range(ROUNDS):
            if not pressed.any():
                raise LiftedError("no part of the plate stays in contact with the ground")
            unknowns: Array = self._factored(pressed.astype(float)).solve(load)
            now = self._depth(unknowns[:, None])[:, :, 0] > 0
            if (now == pressed).all():
                return unknowns
            pressed = now
        return unknowns
