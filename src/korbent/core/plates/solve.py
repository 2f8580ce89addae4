"""A plate on springs: assembled once, solved for many loads; without tension by taking springs off until all that press
are pressed."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np

from korbent.core.plates.beams import Beams
from korbent.core.plates.element import POINTS, Plates, shape
from korbent.core.plates.mesh import Mesh
from korbent.core.working import Array
from korbent.words import say

if TYPE_CHECKING:  # a tenth of a second to load, and not needed before there is a plate
    from scipy.sparse import csc_matrix, csr_matrix
    from scipy.sparse.linalg import SuperLU

SHAPES = np.stack([shape(xi, eta)[0] for xi, eta in POINTS])
"""(points, nodes)."""
ROUNDS = 60
TINY = 1e-9
ROUGH, EXACT = 1e-3, 1e-11
"""Residual over load of a plate whose contact still moves, and of one whose contact stays."""
OUT_OF_BALANCE = 1e-6
"""Of the load: more is no equilibrium."""
HALVINGS = 30
STEPS = 120
"""Of conjugate gradients, before a plate is factored by itself."""


class UnsolvedError(ValueError):
    """No pressure of the ground holds a load. ``loads``: which ones, where that is known."""

    def __init__(self, text: str, loads: tuple[int, ...] = ()) -> None:
        super().__init__(text)
        self.loads = loads


class LiftedError(UnsolvedError):
    """Nothing holds the plate down: no part of it stays in contact."""


class YieldedError(UnsolvedError):
    """The ground cannot bear the load with the greatest pressure that it may have."""


@dataclass(frozen=True)
class Solution:
    """Unknowns of the nodes (nodes x 3, loads), pressure at the points of integration (elements, 4, loads), kPa, and
    out of balance, the greatest of all loads over the force."""

    unknowns: Array
    pressure: Array
    residual: float
    lifted: Array
    """Loads for which a part has no contact, (loads,)."""
    yielded: Array
    """Share of the area on which the ground gives no more, (loads,)."""

    @property
    def settlement(self) -> Array:
        """Of the nodes, m, (nodes, loads)."""
        return self.unknowns[::3]


def together(parts: Sequence[Solution]) -> Solution:
    """Solutions of the same plate under more loads, one after the other."""
    if len(parts) == 1:
        return parts[0]
    return Solution(
        np.concatenate([p.unknowns for p in parts], axis=-1),
        np.concatenate([p.pressure for p in parts], axis=-1),
        max(p.residual for p in parts),
        np.concatenate([p.lifted for p in parts]),
        np.concatenate([p.yielded for p in parts]),
    )


@dataclass(frozen=True)
class PlateOnSprings:
    """A plate on springs k (elements,), kN/m3."""

    mesh: Mesh
    h: Array
    E: float
    nu: float
    k: Array
    beams: Beams | None = None
    """Ribs that stiffen it."""

    def on(self, k: Array) -> "PlateOnSprings":
        """The same plate on other springs; what does not depend on them is kept."""
        other = replace(self, k=k)
        for name in ("plates", "_number", "_rows", "points", "_stiffness", "_sampling"):
            other.__dict__[name] = getattr(self, name)
        return other

    def near(self, k: Array) -> "PlateOnSprings":
        """The same plate on other springs for a few loads only: not factored, but found by conjugate gradients from
        this one's factor."""
        other = self.on(k)
        other.__dict__["_near_to"] = self._base
        return other

    @property
    def _base(self) -> "PlateOnSprings":
        """Whose factor conjugate gradients begin from: this plate, or one that it is near to."""
        found: PlateOnSprings = self.__dict__.get("_near_to", self)
        return found

    def __reduce__(self) -> tuple[type["PlateOnSprings"], tuple[object, ...]]:
        """What travels: not what can be found again."""
        return PlateOnSprings, (self.mesh, self.h, self.E, self.nu, self.k, self.beams)

    @cached_property
    def plates(self) -> Plates:
        """The elements."""
        x, y = self.mesh.nodes
        return Plates(x[self.mesh.elements], y[self.mesh.elements], self.h, self.E, self.nu)

    @cached_property
    def _number(self) -> Array:
        """Of the nodes among those that there are, (nodes,)."""
        number = np.full(len(self.mesh.used), -1)
        number[self.mesh.used] = np.arange(int(self.mesh.used.sum()))
        return number

    @cached_property
    def _rows(self) -> Array:
        """Unknowns of each element, numbered among those that there are, (elements, 12)."""
        nodes = self._number[self.mesh.elements]
        return (3 * nodes[:, :, None] + np.arange(3)).reshape(len(nodes), 12)

    @property
    def count(self) -> int:
        """Number of unknowns."""
        return 3 * int(self.mesh.used.sum())

    @cached_property
    def points(self) -> Array:
        """Area that belongs to each point of integration, (elements, 4), m2."""
        return self.plates.weights()

    @cached_property
    def _stiffness(self) -> Array:
        return self.plates.stiffness()

    def _matrix(self, pressed: Array) -> "csc_matrix":
        """With springs at the points that are pressed, (elements, 4)."""
        from scipy.sparse import csc_matrix

        springs = np.einsum("e,ep,pi,pj->eij", self.k, self.points * pressed, SHAPES, SHAPES)
        whole = self._stiffness.copy()
        whole[:, ::3, ::3] += springs
        parts = [(whole, self._rows)]
        if self.beams is not None:
            parts.append((self.beams.stiffness(), self.beams.rows(self._number)))
        values = np.concatenate([v.ravel() for v, _ in parts])
        rows = np.concatenate([np.broadcast_to(r[:, :, None], v.shape).ravel() for v, r in parts])
        columns = np.concatenate([np.broadcast_to(r[:, None, :], v.shape).ravel() for v, r in parts])
        return csc_matrix((values, (rows, columns)), shape=(self.count, self.count))

    @cached_property
    def _sampling(self) -> "csr_matrix":
        """Settlement at the points of integration from the unknowns, (elements x 4, unknowns)."""
        from scipy.sparse import csr_matrix

        count = self.points.size
        columns = np.repeat(self._rows[:, None, ::3], len(SHAPES), axis=1)
        values = np.broadcast_to(SHAPES, columns.shape)
        rows = np.repeat(np.arange(count), SHAPES.shape[1])
        return csr_matrix((values.ravel(), (rows, columns.ravel())), shape=(count, self.count))

    @cached_property
    def _whole(self) -> "csc_matrix":
        """On all springs."""
        return self._matrix(np.ones(self.points.shape))

    @cached_property
    def _factor(self) -> "SuperLU":
        """Of all springs: one for all loads."""
        return self._factored(np.ones(self.points.shape))

    def _factored(self, pressed: Array) -> "SuperLU":
        from scipy.sparse.linalg import splu

        # positive definite: exchanged rows would only fill it up
        return splu(
            self._matrix(pressed),
            permc_spec="MMD_AT_PLUS_A",
            diag_pivot_thresh=0.0,
            options={"SymmetricMode": True},
        )

    def load(self, pressure: Array) -> Array:
        """Forces on the unknowns from pressures at the points of integration (elements, 4, loads), kPa, down."""
        found: Array = self._sampling.T @ (self.points[:, :, None] * pressure).reshape(-1, pressure.shape[-1])
        return found

    def _depth(self, unknowns: Array) -> Array:
        """Settlement at the points of integration, (elements, 4, loads)."""
        found: Array = (self._sampling @ unknowns).reshape(*self.points.shape, -1)
        return found

    def solve(self, loads: Array, tension: bool = False, most: float | None = None) -> Solution:
        """The plate under loads on its unknowns (count, loads).

        Args:
            most: pressure beyond which the springs give no more, kPa; none: they go on.

        Raises:
            LiftedError: when nothing stays in contact.
            YieldedError: when the ground cannot bear a load with that pressure.
        """
        found = self._on_all(loads)
        depth = self._depth(found)
        force = (loads[::3]).sum(axis=0)
        if most is not None:
            heavy = np.flatnonzero(force > most * self.points.sum() * (1 - TINY))
            if len(heavy):
                raise YieldedError(
                    say("the load is more than {most:g} kPa below all of it", most=most), tuple(heavy.tolist())
                )
        # where the springs are linear all along, the first solution stands
        outside = np.zeros(loads.shape[1], dtype=bool)
        if not tension:
            outside |= _pulls(depth)
        if most is not None:
            outside |= (self.k[:, None, None] * depth > most * (1 + TINY)).any(axis=(0, 1))
        if outside.any():
            which = np.flatnonzero(outside)
            try:
                found[:, outside] = self._within_limits(loads[:, outside], found[:, outside], tension, most)
            except LiftedError as error:
                raise LiftedError(str(error), tuple(which[list(error.loads)].tolist())) from None
            depth = self._depth(found)
        lifted = _pulls(depth) & (not tension)
        pressure = self.k[:, None, None] * (depth if tension else np.maximum(depth, 0.0))
        yielded = np.zeros(loads.shape[1])
        if most is not None:
            beyond = pressure > most * (1 + TINY)
            yielded = (self.points[:, :, None] * beyond).sum(axis=(0, 1)) / self.points.sum()
            pressure = np.minimum(pressure, most)
        reaction = (self.points[:, :, None] * pressure).sum(axis=(0, 1))
        lacking = np.abs(force - reaction) / np.maximum(np.abs(loads[::3]).sum(axis=0), 1e-9)
        residual = float(lacking.max(initial=0.0))
        if most is not None and residual > OUT_OF_BALANCE:
            tipping = tuple(np.flatnonzero(lacking > OUT_OF_BALANCE).tolist())
            raise YieldedError(
                say("no pressure of at most {most:g} kPa holds the load: it tips over", most=most), tipping
            )
        whole = np.zeros((3 * len(self.mesh.used), loads.shape[1]))
        whole[np.repeat(self.mesh.used, 3)] = found
        return Solution(whole, pressure, residual, lifted, yielded)

    def _on_all(self, loads: Array) -> Array:
        """Loads on all springs."""
        if self._base is not self:
            on = np.ones((*self.points.shape, loads.shape[1]), dtype=bool)
            close = np.full(loads.shape[1], EXACT)
            found, known = self._conjugate(loads, self._base._factor.solve(loads), on, close)
            if known.all():
                return found
        return np.asarray(self._factor.solve(loads))

    def _within_limits(self, loads: Array, unknowns: Array, tension: bool, most: float | None) -> Array:
        """Loads without tension and with a greatest pressure, all at once: springs come off where they would pull and
        come back where the plate comes down; where they would give more than the most they give that, whatever the
        plate does.

        Each round is solved by conjugate gradients from the last one, with the plate on all springs as preconditioner:
        that is factored once. Rough until the contact stays as it is, then exact."""
        found = unknowns.copy()
        pressed, full = self._states(found, tension, most)
        open_ones, exact = np.arange(loads.shape[1]), np.zeros(loads.shape[1], dtype=bool)
        for _ in range(ROUNDS):
            on, at_most = pressed[:, :, open_ones], full[:, :, open_ones]
            lost = ~(on | at_most).any(axis=(0, 1))
            if lost.any():
                raise LiftedError(
                    say("no part of the plate stays in contact with the ground"), tuple(open_ones[lost].tolist())
                )
            close = np.where(exact[open_ones], EXACT, ROUGH)
            borne = loads[:, open_ones] - (self.load(at_most * most) if most is not None else 0.0)
            before = found[:, open_ones]
            found[:, open_ones], known = self._conjugate(borne, before, on, close)
            for k in np.flatnonzero(~known):
                found[:, open_ones[k]] = self._directly(borne[:, k], on[:, :, k])
            if most is not None:
                way = found[:, open_ones] - before
                share = self._share(before, way, loads[:, open_ones], tension, most)
                found[:, open_ones] = before + share * way
            now, now_full = self._states(found[:, open_ones], tension, most)
            same = (now == on).all(axis=(0, 1)) & (now_full == at_most).all(axis=(0, 1))
            pressed[:, :, open_ones], full[:, :, open_ones] = now, now_full
            done = same & (exact[open_ones] | ~known)
            exact[open_ones] = same
            open_ones = open_ones[~done]
            if not len(open_ones):
                break
        return found

    def _share(self, start: Array, way: Array, loads: Array, tension: bool, most: float) -> Array:
        """How far to go along a way so that the energy is least, (loads,): the whole of it, or less where that would go
        too far.

        The energy of plate and springs is convex: its slope along the way rises, and is zero where it is least.
        """
        depth, change = self._sampling @ start, self._sampling @ way
        area = self.points.reshape(-1, 1)
        k = np.repeat(self.k, len(SHAPES))[:, None]
        stiff = (self._base.k[:, None] * self.points).reshape(-1, 1)

        def bare(u: Array, w: Array) -> Array:
            """Without the springs."""
            found: Array = self._base._whole @ u - self._sampling.T @ (stiff * w)
            return found

        constant = np.einsum("il,il->l", way, bare(start, depth) - loads)
        rising = np.einsum("il,il->l", way, bare(way, change))

        def slope(t: Array) -> Array:
            pressure = np.clip(k * (depth + t * change), -np.inf if tension else 0.0, most)
            return np.asarray(constant + t * rising + (area * pressure * change).sum(axis=0))

        low, high = np.zeros(way.shape[1]), np.ones(way.shape[1])
        too_far = slope(high) > 1e-9 * np.abs(constant)
        for _ in range(HALVINGS):
            middle = (low + high) / 2
            beyond = slope(middle) > 0
            low, high = np.where(beyond, low, middle), np.where(beyond, middle, high)
        found: Array = np.where(too_far, low, 1.0)
        return found

    def _states(self, unknowns: Array, tension: bool, most: float | None) -> tuple[Array, Array]:
        """(where the springs are springs, where they give the most), (elements, 4, loads)."""
        depth = self._depth(unknowns)
        pressed = np.ones(depth.shape, dtype=bool) if tension else depth > 0
        full = np.zeros(depth.shape, dtype=bool)
        if most is not None:
            full = self.k[:, None, None] * depth > most
        return pressed & ~full, full

    def _directly(self, load: Array, pressed: Array) -> Array:
        """One load on the springs that are pressed, by a factor of its own."""
        found: Array = self._factored(pressed.astype(float)).solve(load)
        return found

    def _conjugate(self, loads: Array, start: Array, pressed: Array, close: Array) -> tuple[Array, Array]:
        """(unknowns, known) of the plate on the springs that are pressed; ``close``: residual over load at which each
        is good enough."""
        base = self._base
        more = base.k[:, None, None] - self.k[:, None, None] * pressed
        off = (self.points[:, :, None] * more).reshape(-1, pressed.shape[-1])
        # near itself few points are off under any of the loads: only those are looked at
        some = np.flatnonzero(off.any(axis=1))
        off, sampling = off[some], self._sampling[some]
        back = sampling.T.tocsr()

        def pulled(v: Array, of: Array) -> Array:
            """What springs that are off, or softer than those that are factored, would take of the unknowns, of some
            loads."""
            found: Array = back @ (off[:, of] * (sampling @ v))
            return found

        u = start.copy()
        r = loads - (base._whole @ u - pulled(u, np.arange(u.shape[1])))
        target = close * np.linalg.norm(loads, axis=0)
        p, on_p = np.zeros_like(u), np.zeros_like(u)
        before = np.ones(u.shape[1])
        for _ in range(STEPS):
            going = np.flatnonzero(np.linalg.norm(r, axis=0) > target)
            if not len(going):
                break
            z = base._factor.solve(r[:, going])
            size = np.einsum("il,il->l", r[:, going], z)
            beta = size / before[going]
            p[:, going], on_p[:, going] = z + beta * p[:, going], r[:, going] + beta * on_p[:, going]
            before[going] = np.where(size > 0, size, 1.0)
            through = on_p[:, going] - pulled(p[:, going], going)
            work = np.einsum("il,il->l", p[:, going], through)
            alpha = np.where(work > 0, size / np.where(work > 0, work, 1.0), 0.0)
            u[:, going] += alpha * p[:, going]
            r[:, going] -= alpha * through
        known: Array = np.linalg.norm(r, axis=0) <= target
        return u, known


def _pulls(depth: Array) -> Array:
    """Loads under which a part comes up, each by its own size, (loads,)."""
    found: Array = (depth < -TINY * np.abs(depth).max(axis=(0, 1))).any(axis=(0, 1))
    return found
