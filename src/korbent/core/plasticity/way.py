"""What a base on elastic, perfectly plastic strata does on one mesh as it settles further, by quadratic cone programs.

Triangles of six nodes with quadratic displacements and stresses linear in each, Mohr-Coulomb with associated flow at
their corners. An advance from stresses s to s + ds under a settlement u of the base minimises

    1/2 ds' C ds - u dV   with equilibrium, the yield cones at the end of the advance, and V at most V_cap

(the principle of Haar and von Karman for an increment; Krabbenhoft, Lyamin and Sloan 2007): 'settled by u, or V_cap reached,
whichever comes first'. The multipliers of equilibrium are the displacements. Without C and u it is the limit load of
the mesh. Below a circle the hoop stress joins with two more cones a corner. Stresses begin at rest: K0 with the
surcharge and the weight above.

Beside a slope the ground is not at rest so: of all stresses in equilibrium within the strength those are taken that are
nearest to it in stored energy, by the same program at the surcharge alone; what moves then has moved long ago.

A rigid strip may also carry V, H and M: from rest on a straight line to these, then all three grow together. Where it
lifts off or slides, tractions at the control points of the sides below it are unknowns of their own, without
elasticity, within the same limits as those of the bounds."""

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import sparse

from korbent.core.plasticity.bounds import GENTLE, SOLVED, NotSolvedError, Rows, jumps, limits_of
from korbent.core.plasticity.mesh import Mesh
from korbent.core.plasticity.section import ROUGH, SMOOTH, Section, scale_of, strength_of, weights
from korbent.words import say

Array = NDArray[np.float64]
TOLERANCE = 1e-7
MOST_NU = 0.4999
"""Of the first slope, which is that of a stiffness."""
FAR = 50.0
"""Settlements at which the limit load would be reached elastically: so far that a cap of the load is met."""
CLOSE_TO_REST = 0.999
"""K0 leaves so much of the strength free at least."""
_A, _B = 0.445948490915965, 0.091576213509771
_WA, _WB = 0.223381589678011, 0.109951743655322
POINTS = np.array(
    [
        (1 - 2 * a, a, a) if k == 0 else (a, 1 - 2 * a, a) if k == 1 else (a, a, 1 - 2 * a)
        for a in (_A, _B)
        for k in range(3)
    ]
)
"""Six points of a triangle and their shares of its area: exact to the fourth degree (Dunavant 1985)."""
SHARES = np.array([_WA] * 3 + [_WB] * 3)


@dataclass(frozen=True)
class Stiffness:
    """Of a stratum: E at its top (kPa) and its growth (kPa/m), Poisson's ratio up to 0.5, earth pressure at rest over
    vertical stress."""

    E: float
    nu: float = 0.3
    K0: float = 0.5
    growth: float = 0.0


@dataclass(frozen=True)
class Base:
    """A rigid or a flexible strip of width B, or a circle of diameter B, on a section, with the stiffness of its
    strata."""

    section: Section
    stiff: tuple[Stiffness, ...]
    round: bool = False
    flexible: bool = False
    firm: float | None = None
    """Depth below the underside at which firm ground begins, m."""


@dataclass(frozen=True)
class Point:
    """One state on the way."""

    pressure: float
    """V over the area of the base, kPa."""
    settlement: float
    """Of a rigid base; of a flexible one in the mean, m."""
    centre: float
    edge: float
    stress: Array
    """p, d, t and below a circle the hoop stress at the corners of each triangle, kPa, (m, 3, 3 or 4)."""
    displacement: Array
    """Of the points of the mesh, m (n, 2)."""
    used: Array
    """Share of the strength in each triangle: the radius of Mohr's circle over the greatest (m,)."""
    tilt: float = 0.0
    """Of a rigid base, to the right."""
    slide: float = 0.0
    """To the right, m."""


class Way:
    """What all advances on one mesh have in common.

    Args:
        towards: the pressure at which V, H and M are met on a straight line from rest; None: they grow together.
        whole: the way on which they do, whose limit this one has too.
    """

    def __init__(self, base: Base, mesh: Mesh, towards: float | None = None, whole: "Way | None" = None) -> None:
        self.base, self.mesh, self.towards, self.whole = base, mesh, towards, whole
        section = base.section
        self.scale = scale_of(section)
        self.parts = 4 if base.round else 3
        self.count = len(mesh.triangles)
        self.size = 3 * self.parts * self.count
        self.area = section.B if section.load else section.B**2 / 8 if base.round else section.B / 2
        """Of the base that is looked at: per radian, or per metre and half; all of it where what it carries is not
        central."""
        self.kept = 0 if base.flexible else 1 if section.load is None else 3 if section.load.turns else 2
        """In how many ways a rigid base moves: down, to the right, turning."""
        ends, beside = mesh.edges()
        n = len(mesh.points)
        number = {(int(a), int(b)): n + k for k, (a, b) in enumerate(ends)}
        t = mesh.triangles
        sides = np.array(
            [
                [
                    number[min(a, b), max(a, b)]
                    for a, b in ((int(v[0]), int(v[1])), (int(v[1]), int(v[2])), (int(v[2]), int(v[0])))
                ]
                for v in t
            ]
        )
        self.elements = np.concatenate([t, sides], axis=1)
        self.places = np.concatenate([mesh.points, mesh.points[ends].mean(axis=1)])
        self.nodes = len(self.places)
        outer = np.flatnonzero(beside[:, 1] < 0)
        middle = self.places[n + outer]
        below = (middle[:, 1] > -1e-9) & (np.abs(middle[:, 0]) < section.B / 2)
        self.free = (ends, n, outer[~below & ~self._held(middle).any(axis=0)])
        self.under = (ends, n, outer[below])
        rigid = self.kept > 0
        self.tied: tuple[bool, bool] = (rigid and section.underside.rough, rigid)
        self.slips: tuple[int, ...] = ()
        self.limits = Rows()
        if section.load:
            self.tied, self.slips, self.limits = limits_of(section, len(self.under[2]), 0)
        self.tractions = 3 * len(self.slips) * len(self.under[2])

    # ------------------------------------------------ programs

    @cached_property
    def balance(self) -> tuple[sparse.csr_matrix, Array, Array]:
        """(rows of all free movements over the stresses, what weights and surcharge do on them, what a pressure of one
        scale on the base does)."""
        base, section, mesh = self.base, self.base.section, self.mesh
        m, k = self.count, self.parts
        corners = mesh.points[mesh.triangles]
        grad = self._gradients
        rows, cols, values = [], [], []
        right = np.zeros((2, self.nodes))
        gamma = weights(section, mesh) / self.scale
        first = 3 * k * np.arange(m)[:, None, None] + k * np.arange(3)[None, :, None]  # (m, corner of stress, 1)
        own = np.broadcast_to(self.elements[:, None, :], (m, 3, 6))
        gathered: dict[tuple[int, int], Any] = {}
        for L, share in zip(POINTS, SHARES):
            x = corners[:, :, 0] @ L
            weight = share * mesh.area * (x if base.round else 1.0)
            N = np.array(
                [*(L[i] * (2 * L[i] - 1) for i in range(3)), 4 * L[0] * L[1], 4 * L[1] * L[2], 4 * L[2] * L[0]]
            )
            dN = np.stack(
                [
                    *((4 * L[i] - 1) * grad[:, i] for i in range(3)),
                    *(4 * (L[i] * grad[:, j] + L[j] * grad[:, i]) for i, j in ((0, 1), (1, 2), (2, 0))),
                ],
                axis=1,
            )
            np.add.at(right[1], self.elements, -(gamma * weight)[:, None] * N[None, :])
            by = weight[:, None, None] * L[None, :, None]
            for axis in (0, 1):
                along, across = dN[:, None, :, axis] * by, dN[:, None, :, 1 - axis] * by
                for part, value in ((0, along), (1, (1.0, -1.0)[axis] * along), (2, across)):
                    gathered[axis, part] = gathered.get((axis, part), 0.0) + value
            if base.round:
                gathered[0, 3] = (
                    gathered.get((0, 3), 0.0) + (share * mesh.area)[:, None, None] * L[None, :, None] * N[None, None, :]
                )
        for (axis, part), value in gathered.items():
            rows.append((own + axis * self.nodes).ravel())
            cols.append(np.broadcast_to(first + part, (m, 3, 6)).ravel())
            values.append(value.ravel())
        right[1] += -section.q / self.scale * self._pressed(self.free)
        full = sparse.csr_matrix(
            (np.concatenate(values), (np.concatenate(rows), np.concatenate(cols))), shape=(2 * self.nodes, self.size)
        )
        pressed = np.zeros((2, self.nodes))
        pressed[1] = -self._pressed(self.under)
        own, load = np.asarray(self.moves.T @ right.ravel()), np.asarray(self.moves.T @ pressed.ravel())
        if section.load is not None:
            load[:], (grows, holds) = 0.0, self._carried(section)
            load[-self.kept :], own[-self.kept :] = grows, own[-self.kept :] + holds / self.scale
        return self.moves.T @ full, own, load

    def _carried(self, section: Section) -> tuple[Array, Array]:
        """(what grows with the pressure, what is held (kN/m)) on the base, up, to the right and turning times B."""
        assert section.load is not None
        V, H, M = section.load.growing
        B = section.B
        ray = B * np.array([-1.0, H / V, -M / V / B])[: self.kept]
        if self.towards is None:
            return ray, np.zeros(self.kept)
        rest = B * np.array([-1.0, 0.0, 0.0])[: self.kept]
        grows = (self.towards * ray - section.q * rest) / (self.towards - section.q)
        return grows, section.q * (rest - grows)

    @cached_property
    def below(self) -> sparse.csr_matrix:
        """What tractions at the control points of the sides below the base do on all free movements."""
        ends, n, under = self.under
        apart = jumps(self.base.section, self.mesh, ends, under, n, self.slips, self.kept)
        length = np.abs(np.diff(self.mesh.points[ends[under]][:, :, 0], axis=1))[:, 0]
        base = sparse.hstack([sparse.csr_matrix((self.kept, self.columns - self.kept)), sparse.identity(self.kept)])
        thirds = np.repeat(np.tile(length / 3, 3), len(self.slips))
        return -(sparse.vstack([self.moves, base]).T @ apart.T @ sparse.diags(thirds))

    @property
    def columns(self) -> int:
        """How many movements are free, those of the base with them."""
        return int(self.moves.shape[1])

    def _pressed(self, of: tuple[Any, int, Any]) -> Array:
        """Nodal forces of a pressure of one on sides at the surface."""
        ends, n, sides = of
        force = np.zeros(self.nodes)
        a, b, middle = ends[sides, 0], ends[sides, 1], n + sides
        xa, xb = self.places[a, 0], self.places[b, 0]
        length = np.abs(xb - xa)
        # of the quadratic functions; times x below a circle, which is linear: the ends take what they take, the middle two thirds
        wa, wb = (xa, xb) if self.base.round else (1.0, 1.0)
        for node, value in ((a, wa / 6), (b, wb / 6), (middle, (wa + wb) / 3)):
            np.add.at(force, node, value * length)
        return force

    def _held(self, places: Array) -> NDArray[np.bool_]:
        """Which of some places do not move across, and down (2, n): at the walls, of half a section also in its middle,
        and at the floor."""
        x, y = places.T
        low, high = self.places.min(axis=0), self.places.max(axis=0)
        floor = y < low[1] + 1e-9
        return np.stack([(x > high[0] - 1e-9) | (x < low[0] + 1e-9) | floor, floor])

    @cached_property
    def moves(self) -> sparse.csr_matrix:
        """Movements of all nodes (x of each, then y) from those that are free; those of a rigid base (up, right,
        turning times B) are last."""
        section, kept = self.base.section, self.kept
        x, y = self.places[:, 0], self.places[:, 1]
        wall, floor = self._held(self.places)
        base = (y > -1e-9) & (np.abs(x) < section.B / 2 + 1e-9)
        own = np.flatnonzero(np.concatenate([~(wall | (base & self.tied[0])), ~(floor | (base & self.tied[1]))]))
        at, of, values = [own], [np.arange(len(own))], [np.ones(len(own))]
        under = np.flatnonzero(base)
        for part, (axis, value) in enumerate(
            ((1, np.ones(len(under))), (0, np.ones(len(under))), (1, x[under] / section.B))[:kept]
        ):
            if self.tied[axis]:
                at.append(axis * self.nodes + under)
                of.append(np.full(len(under), len(own) + part))
                values.append(value)
        return sparse.csr_matrix(
            (np.concatenate(values), (np.concatenate(at), np.concatenate(of))), shape=(2 * self.nodes, len(own) + kept)
        )

    @cached_property
    def _gradients(self) -> Array:
        a, b, c = (self.mesh.points[self.mesh.triangles[:, k]] for k in range(3))
        twice = 2 * self.mesh.area[:, None]
        return np.stack(
            [np.stack([q[:, 1] - r[:, 1], r[:, 0] - q[:, 0]], axis=1) / twice for q, r in ((b, c), (c, a), (a, b))],
            axis=1,
        )

    @cached_property
    def _local(self) -> Array:
        """The compliance of p, d, t and the hoop stress in each triangle, 1/kPa (m, 3 or 4, 3 or 4)."""
        mesh, k, m = self.mesh, self.parts, self.count
        layers = np.minimum(mesh.stratum, len(self.base.stiff) - 1)
        depth = -mesh.points[mesh.triangles][:, :, 1].mean(axis=1)
        top = np.array([x.top for x in self.base.section.layers])[layers]
        E0, nu, growth = (np.array([getattr(s, n) for s in self.base.stiff])[layers] for n in ("E", "nu", "growth"))
        E = E0 + growth * np.maximum(depth - top, 0.0)
        G = E / (2 * (1 + nu))
        local = np.zeros((m, k, k))
        if self.base.round:
            local[:, 0, 0], local[:, 3, 3], local[:, 0, 3], local[:, 3, 0] = (
                2 * (1 - nu) / E,
                1 / E,
                -2 * nu / E,
                -2 * nu / E,
            )
        else:
            local[:, 0, 0] = (1 - 2 * nu) / G
        local[:, 1, 1] = local[:, 2, 2] = 1 / G
        return local

    @cached_property
    def _mass(self) -> Array:
        """A twelfth of the area of each triangle, times its distance from the axis below a circle."""
        x = self.mesh.points[self.mesh.triangles][:, :, 0].mean(axis=1)
        return np.asarray(self.mesh.area / 12 * (x if self.base.round else 1.0))

    @cached_property
    def energy(self) -> tuple[sparse.csc_matrix, sparse.csc_matrix]:
        """(compliance of the corners of all triangles, and of the sum of their three; what makes the sums of the
        stresses).

        Linear stresses store A/24 (s1' C s1 + s2' C s2 + s3' C s3 + (s1 + s2 + s3)' C (s1 + s2 + s3)): so written,
        corners do not couple."""
        k, m = self.parts, self.count
        block = self._mass[:, None, None] * self._local
        every = np.concatenate([np.repeat(block, 3, axis=0), block])
        at = k * np.arange(4 * m)[:, None, None]
        r = np.broadcast_to(at + np.arange(k)[None, :, None], every.shape)
        c = np.broadcast_to(at + np.arange(k)[None, None, :], every.shape)
        own = every != 0
        P = sparse.csc_matrix((every[own], (r[own], c[own])), shape=(4 * k * m, 4 * k * m))
        to = k * np.repeat(np.arange(m), 3 * k) + np.tile(np.arange(k), 3 * m)
        return P, sparse.csc_matrix((np.ones(self.size), (to, np.arange(self.size))), shape=(k * m, self.size))

    @cached_property
    def cones(self) -> tuple[sparse.csc_matrix, Array, int]:
        """(rows over the stresses, their right side, how many cones of three)."""
        strength = strength_of(self.base.section, self.mesh)
        k, count = self.parts, 3 * self.count
        c, s = strength.cohesion.ravel() / self.scale, strength.sine.ravel()
        at = k * np.arange(count)
        rows, cols, values, right = [], [], [], []
        ways: list[tuple[Array, Array | None, Array]] = [(s, None, c)]
        if self.base.round:  # 2 c cos +(1 - sin) h over (1 + sin) - p, and 2 c cos - (1 + sin) h over (1 - sin) + p
            one = np.ones(count)
            ways += [(one, -(1 - s) / (1 + s), 2 * c / (1 + s)), (-one, (1 + s) / (1 - s), 2 * c / (1 - s))]
        for w, (p, h, most) in enumerate(ways):
            first = 3 * count * w + 3 * np.arange(count)
            parts = [
                (first, at, p),
                (first + 1, at + 1, -np.ones(count)),
                (first + 2, at + 2, -np.ones(count)),
            ]
            if h is not None:
                parts.append((first, at + 3, h))
            for r, q, v in parts:
                rows.append(r)
                cols.append(q)
                values.append(v)
            own = np.zeros(3 * count)
            own[::3] = most
            right.append(own)
        total = 3 * count * len(ways)
        matrix = sparse.csc_matrix(
            (np.concatenate(values), (np.concatenate(rows), np.concatenate(cols))), shape=(total, self.size)
        )
        return matrix, np.concatenate(right), count * len(ways)

    @cached_property
    def _advancing(self) -> Any:
        """The program of all advances; from one to the next only its objective and right side change."""
        return self._program(True)

    def _program(self, stores: bool, gentle: bool = False) -> tuple[Any, Array, sparse.csc_matrix, Array]:
        """(solver, right side, energy, norms of the rows of equilibrium); ``stores``: elastic energy, and a cap of the
        load as last equation."""
        import clarabel  # loaded only where something is solved

        rows, right, load = self.balance
        norm = np.sqrt(np.asarray(rows.multiply(rows).sum(axis=1)).ravel() + load**2)
        norm[norm == 0] = 1.0
        matrix, most, count = self.cones
        more, tractions = self.parts * self.count if stores else 0, self.tractions
        total = self.size + more + tractions + 1
        P, q = sparse.csc_matrix((total, total)), np.zeros(total)
        q[-1] = -1.0
        scaled, load_column = sparse.diags(1 / norm) @ rows, sparse.csr_matrix((-load / norm)[:, None])
        between = [sparse.diags(1 / norm) @ self.below] if tractions else []
        blocks = [sparse.hstack([scaled, sparse.csr_matrix((len(norm), more)), *between, load_column])]
        sides, kinds = [right / norm], [clarabel.ZeroConeT(len(norm) + more)]
        if stores:
            own, sums = self.energy
            P = sparse.block_diag(
                [own * (self.scale / (self.unit * self.area)), sparse.csc_matrix((tractions + 1, tractions + 1))],
                format="csc",
            )
            cap = sparse.csr_matrix(([1.0], ([0], [total - 1])), shape=(1, total))
            blocks += [
                sparse.hstack([sums, -sparse.identity(more), sparse.csr_matrix((more, tractions + 1))]),
                cap,
            ]
            sides += [np.zeros(more), np.ones(1)]
            kinds.append(clarabel.NonnegativeConeT(1))
        if self.limits.count:
            own = self.limits.matrix(tractions)
            before = sparse.csr_matrix((own.shape[0], self.size + more))
            blocks.append(sparse.hstack([before, own, sparse.csr_matrix((own.shape[0], 1))]))
            sides.append(self.limits.sides)
            kinds.append(clarabel.NonnegativeConeT(own.shape[0]))
        blocks.append(sparse.hstack([matrix, sparse.csc_matrix((matrix.shape[0], more + tractions + 1))]))
        sides.append(most)
        kinds += [clarabel.SecondOrderConeT(3)] * count
        settings = clarabel.DefaultSettings()
        settings.verbose = False
        settings.tol_gap_abs = settings.tol_gap_rel = settings.tol_feas = TOLERANCE
        settings.max_iter = 120
        settings.presolve_enable = False
        settings.chordal_decomposition_enable = False
        settings.max_threads = 1
        settings.iterative_refinement_enable = gentle  # without, nearly all are solved, in half the time
        if gentle:
            settings.max_step_fraction = GENTLE
        b = np.concatenate(sides)
        solver = clarabel.DefaultSolver(
            sparse.triu(P, format="csc"), q, sparse.vstack(blocks, format="csc"), b, kinds, settings
        )
        return solver, b, P, norm

    def _solve(
        self,
        program: tuple[Any, Array, sparse.csc_matrix, Array],
        state: Array | None = None,
        settled: float = 1.0,
        cap: float = np.inf,
        gentle: bool = False,
    ) -> tuple[Array, float, Array]:
        """(stresses over the scale, pressure over the scale, multipliers of equilibrium)."""
        solver, b, P, norm = program
        if state is not None:
            own = np.r_[state, self.energy[1] @ state]
            b = b.copy()
            b[len(norm) + self.parts * self.count] = min(cap, self.limit_of_mesh * 2 + 1.0)
            stored = P[: len(own), : len(own)]
            solver.update(q=np.r_[-np.asarray(stored @ own), np.zeros(self.tractions), -settled / self.unit], b=b)
        solution = solver.solve()
        if str(solution.status) != "Solved" and not gentle:
            return self._solve(self._program(state is not None, gentle=True), state, settled, cap, gentle=True)
        if str(solution.status) not in SOLVED:
            falls = self.base.section.slope and str(solution.status) == "PrimalInfeasible"
            why = (
                say("the slope does not stand by itself")
                if falls
                else say("the program ended as {status}", status=solution.status)
            )
            raise NotSolvedError(say("{why}: there is no curve", why=why))
        x = np.array(solution.x)
        return x[: self.size], float(x[-1]), np.array(solution.z)[: len(norm)] / norm

    @cached_property
    def limit_of_mesh(self) -> float:
        """The limit pressure of the mesh over the scale."""
        if self.whole is not None:
            return self.whole.limit_of_mesh
        return self._solve(self._program(False))[1]

    @cached_property
    def unit(self) -> float:
        """The settlement at which the limit load would be reached elastically, m."""
        return max(self.limit_of_mesh * self.scale - self.base.section.q, 1e-6 * self.scale) / self.elastic

    @cached_property
    def elastic(self) -> float:
        """The first slope: kPa per m of settlement (of a base that carries H and M too, of what :meth:`advance` tells),
        without yield."""
        own = self._stuck
        return float(own.area / (own.balance[2] @ own.first_moves))

    @property
    def first_slope(self) -> float:
        """kPa per m of settlement of the middle, without yield."""
        own = self._stuck
        return own.elastic if self.base.section.load is None else float(-1.0 / own.first_moves[-self.kept])

    @cached_property
    def _stuck(self) -> "Way":
        """The way before anything slides or parts."""
        if not self.tractions:
            return self
        under = self.base.section.underside
        holds = SMOOTH if under.delta == under.adhesion == 0.0 else ROUGH
        return Way(
            replace(self.base, section=replace(self.base.section, underside=holds)), self.mesh, self.towards, self.whole
        )

    @cached_property
    def first_moves(self) -> Array:
        """Free movements by a pressure of 1, without yield; by the stiffness that follows from the compliance."""
        from scipy.sparse.linalg import spsolve  # loaded only where something is solved

        rows, _, load = self.balance
        k = self.parts
        layers = np.minimum(self.mesh.stratum, len(self.base.stiff) - 1)
        keeps = np.array([s.nu for s in self.base.stiff])[layers] > MOST_NU  # its volume: it gives a little here
        give = np.where(keeps, (1 - MOST_NU) * np.einsum("mii->m", self._local), 0.0)[:, None, None]
        spot = np.zeros((k, k))
        spot[0, 0] = 1.0
        inverse = np.linalg.inv(self._local + give * spot) / self._mass[:, None, None]
        inverse = np.einsum("ij,mab->miajb", np.eye(3) - 0.25, inverse).reshape(self.count, 3 * k, 3 * k)
        k = 3 * k
        base = k * np.arange(self.count)[:, None, None]
        r = np.broadcast_to(base + np.arange(k)[None, :, None], inverse.shape)
        c = np.broadcast_to(base + np.arange(k)[None, None, :], inverse.shape)
        stiff = sparse.csc_matrix((inverse.ravel(), (r.ravel(), c.ravel())), shape=(self.size, self.size))
        whole = (rows @ stiff @ rows.T).tocsc()
        loose = (np.diff(rows.tocsr().indptr) == 0).astype(float)  # a smooth base slides as it likes
        return np.asarray(spsolve(whole + sparse.diags(loose * whole.diagonal().max()), load))

    def rest(self) -> Array:
        """Stresses at rest over the scale."""
        section, mesh = self.base.section, self.mesh
        depth = -mesh.points[mesh.triangles][:, :, 1]
        layers = section.layers
        above = np.array([sum(x.gamma * (x.bottom - x.top) for x in layers[:i]) for i in range(len(layers))])
        at = np.minimum(mesh.stratum, len(layers) - 1)
        gamma, top = (np.array([getattr(x, n) for x in layers])[at][:, None] for n in ("gamma", "top"))
        vertical = section.q + above[at][:, None] + gamma * (depth - top)
        if section.slope:  # without what lay above the surface
            x = mesh.points[mesh.triangles][:, :, 0] * np.sign(section.slope)
            gone = abs(float(np.tan(np.deg2rad(section.slope)))) * np.maximum(x - section.B / 2, 0.0)
            tops = np.array([layer.top for layer in layers])
            of = np.searchsorted(tops, gone, side="right") - 1
            vertical -= above[of] + np.array([layer.gamma for layer in layers])[of] * (gone - tops[of])
        K = np.array([s.K0 for s in self.base.stiff])[at][:, None] * np.ones_like(depth)
        strength = strength_of(section, mesh)
        # what yields at rest already is brought to just within its strength: sh from the Mohr circle that touches
        c, s = strength.cohesion, strength.sine
        low = (vertical * (1 - s) - 2 * c * CLOSE_TO_REST) / (1 + s)
        high = (vertical * (1 + s) + 2 * c * CLOSE_TO_REST) / (1 - s)
        sideways = np.clip(K * vertical, low, high)
        state = np.zeros((self.count, 3, self.parts))
        state[:, :, 0] = -(vertical + sideways) / 2
        state[:, :, 1] = (vertical - sideways) / 2
        if self.parts == 4:
            state[:, :, 3] = -sideways
        return np.asarray(state.ravel() / self.scale)

    def before(self, near: Array) -> Array:
        """The stresses nearest to some, in stored energy, that are in equilibrium within the strength before the base
        carries more than the surcharge.

        Raises:
            NotSolvedError: when the slope does not stand by itself.
        """
        return self._solve(self._advancing, near, FAR * self.unit, self.base.section.q / self.scale)[0]

    def advance(self, state: Array, settled: float, cap: float) -> tuple[Array, Array, float, float]:
        """(stresses, free movements, settlement, pressure) after so much more settlement, or at a pressure, kPa. Of a
        base that carries H and M too, the settlement is what they do with it, over V."""
        found, pressure, multipliers = self._solve(self._advancing, state, settled, cap / self.scale)
        moved = -multipliers * self.unit * self.area
        by = float(self.balance[2] @ moved) / self.area
        return found, moved, settled if abs(by - settled) < 1e-3 * settled else by, pressure * self.scale

    def point(self, state: Array, free: Array, settled: float, pressure: float | None = None) -> Point:
        """A state on the way as it is told."""
        moved = np.asarray(self.moves @ free)
        tilt = slide = 0.0
        if self.base.section.load is not None:
            up, slide, turns = (*free[-self.kept :], 0.0)[:3]
            settled, tilt = -up, -turns / self.base.section.B
            pressure = self.base.section.q if pressure is None else pressure
        else:
            rows, right, load = self.balance
            residual = np.asarray(rows @ state) - right
            pressure = float(residual @ load / (load @ load)) * self.scale
        stress = state.reshape(self.count, 3, self.parts) * self.scale
        strength = strength_of(self.base.section, self.mesh)
        radius = np.hypot(stress[:, :, 1], stress[:, :, 2])
        most = np.maximum(strength.cohesion - stress[:, :, 0] * strength.sine, 1e-9)
        n, B = len(self.mesh.points), self.base.section.B
        down = -moved.reshape(2, -1)[1]
        x, y = self.places[:, 0], self.places[:, 1]
        edge = float(down[int(np.argmin(np.hypot(x - B / 2, y)))])
        centre = float(down[int(np.argmin(np.hypot(x, y)))])
        if self.base.section.load is not None:  # it may have parted from the ground
            centre, edge = settled, settled + abs(tilt) * B / 2
        return Point(
            pressure,
            float(settled),
            centre,
            edge,
            stress,
            moved.reshape(2, -1)[:, :n].T,
            (radius / most).mean(axis=1),
            float(tilt),
            float(slide),
        )
