"""The plate elements: quadrilateral and triangle with three unknowns at each node, w (down) and the rotations b_x, b_y
(Katili 1993, DKMQ and DKMT).

Conventions: the normal turns so that u = z b_x, z down; shear strain g_x = w,x + b_x; curvatures k_x = b_x,x. A sagging
moment, with tension below, is positive. Along each edge the rotation is quadratic; what the middle deviates by follows
from the shear strain of the edge, which the edge's own bending gives: neither thin nor thick plates lock."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from korbent.core.working import Array

SHEAR = 5 / 6
"""Shear correction of a rectangle."""
GAUSS = 1 / np.sqrt(3)
POINTS = np.array([(-GAUSS, -GAUSS), (GAUSS, -GAUSS), (GAUSS, GAUSS), (-GAUSS, GAUSS)])
EDGES = ((0, 1), (1, 2), (2, 3), (3, 0))
SIDES = ((0, 1), (1, 2), (2, 0))
"""Of a triangle."""


def shape(xi: float, eta: float) -> tuple[Array, Array, Array]:
    """(N, N,xi, N,eta) of the four nodes."""
    N = np.array([(1 - xi) * (1 - eta), (1 + xi) * (1 - eta), (1 + xi) * (1 + eta), (1 - xi) * (1 + eta)]) / 4
    by_xi = np.array([-(1 - eta), 1 - eta, 1 + eta, -(1 + eta)]) / 4
    by_eta = np.array([-(1 - xi), -(1 + xi), 1 + xi, 1 - xi]) / 4
    return N, by_xi, by_eta


def _bubbles(xi: float, eta: float) -> tuple[Array, Array]:
    """Derivatives by xi and eta of the quadratic functions of the four edges."""
    by_xi = np.array([-xi * (1 - eta), (1 - eta**2) / 2, -xi * (1 + eta), -(1 - eta**2) / 2])
    by_eta = np.array([-(1 - xi**2) / 2, -eta * (1 + xi), (1 - xi**2) / 2, -eta * (1 - xi)])
    return by_xi, by_eta


@dataclass(frozen=True)
class Plates:
    """Elements: corners (elements, 4), m, the last two of a triangle the same; thickness (elements,), m; modulus, kPa;
    Poisson's ratio."""

    x: Array
    y: Array
    h: Array
    E: float
    nu: float

    @property
    def triangles(self) -> Array:
        """Which elements are triangles: their last corner is the one before, (elements,)."""
        found: Array = (self.x[:, 2] == self.x[:, 3]) & (self.y[:, 2] == self.y[:, 3])
        return found

    @property
    def bending(self) -> Array:
        """Stiffness in bending, (elements, 3, 3), kNm."""
        nu = self.nu
        unit = np.array([[1, nu, 0], [nu, 1, 0], [0, 0, (1 - nu) / 2]])
        found: Array = (self.E * self.h**3 / (12 * (1 - nu**2)))[:, None, None] * unit
        return found

    @property
    def shear(self) -> Array:
        """Stiffness in shear, (elements,), kN/m."""
        found: Array = SHEAR * self.E / (2 * (1 + self.nu)) * self.h
        return found

    def _edges(self) -> tuple[Array, Array, Array, Array]:
        """(cosine, sine, length, what shear makes of the deviation) of the edges, (elements, 4)."""
        dx = np.stack([self.x[:, j] - self.x[:, i] for i, j in EDGES], axis=-1)
        dy = np.stack([self.y[:, j] - self.y[:, i] for i, j in EDGES], axis=-1)
        length = np.hypot(dx, dy)
        phi = 2 / (SHEAR * (1 - self.nu)) * (self.h[:, None] / length) ** 2
        return dx / length, dy / length, length, phi

    @cached_property
    def _deviation(self) -> Array:
        """By how much the rotation along the middle of each edge deviates from the mean of its ends, for unit unknowns,
        (elements, 4, 12)."""
        c, s, length, phi = self._edges()
        found = np.zeros((len(self.x), 4, 12))
        for k, (i, j) in enumerate(EDGES):
            by_w = 3 / (2 * length[:, k] * (1 + phi[:, k]))
            by_b = 3 / (4 * (1 + phi[:, k]))
            found[:, k, 3 * i], found[:, k, 3 * j] = by_w, -by_w
            for node in (i, j):
                found[:, k, 3 * node + 1] = -by_b * c[:, k]
                found[:, k, 3 * node + 2] = -by_b * s[:, k]
        return found

    def strains(self, xi: float, eta: float) -> tuple[Array, Array, Array]:
        """(curvatures (elements, 3, 12), shear strains (elements, 2, 12), determinant (elements,)) at a place, for unit
        unknowns."""
        if (xi, eta) not in self._strains:
            self._strains[xi, eta] = self._strains_at(xi, eta)
        return self._strains[xi, eta]

    @cached_property
    def _strains(self) -> dict[tuple[float, float], tuple[Array, Array, Array]]:
        """What was asked for before."""
        return {}

    def _strains_at(self, xi: float, eta: float) -> tuple[Array, Array, Array]:
        mine = np.flatnonzero(self.triangles)
        if not len(mine):
            return self._of_quads(xi, eta)
        curvature, strain = np.zeros((len(self.x), 3, 12)), np.zeros((len(self.x), 2, 12))
        others = np.flatnonzero(~self.triangles)
        if len(others):
            curvature[others], strain[others], _ = self._some(others)._of_quads(xi, eta)
        curvature[mine], strain[mine] = self._some(mine)._of_triangles(xi, eta)
        _, by_xi, by_eta = shape(xi, eta)
        x_xi, y_xi, x_eta, y_eta = (v @ d for d in (by_xi, by_eta) for v in (self.x, self.y))
        return curvature, strain, x_xi * y_eta - y_xi * x_eta

    def _some(self, which: Array) -> "Plates":
        return Plates(self.x[which], self.y[which], self.h[which], self.E, self.nu)

    def _of_triangles(self, xi: float, eta: float) -> tuple[Array, Array]:
        """(curvatures (triangles, 3, 12), shear strains (triangles, 2, 12)); the columns of the corner that comes twice
        are zero in its second place. Rotations are quadratic along the sides, shear strains linear between the corners,
        where two sides give them."""
        x, y = self.x[:, :3], self.y[:, :3]
        share = np.array([(1 - xi) * (1 - eta) / 4, (1 + xi) * (1 - eta) / 4, (1 + eta) / 2])
        dx = np.stack([x[:, j] - x[:, i] for i, j in SIDES], axis=-1)
        dy = np.stack([y[:, j] - y[:, i] for i, j in SIDES], axis=-1)
        length = np.hypot(dx, dy)
        c, s = dx / length, dy / length
        phi = 2 / (SHEAR * (1 - self.nu)) * (self.h[:, None] / length) ** 2
        twice = dx[:, 0] * -dy[:, 2] + dx[:, 2] * dy[:, 0]
        # slopes of the area coordinates: each falls from its corner to the side across it, 1 to 2 and so on
        by_x, by_y = -np.roll(dy, -1, axis=1) / twice[:, None], np.roll(dx, -1, axis=1) / twice[:, None]
        deviation, curvature = np.zeros((len(x), 3, 12)), np.zeros((len(x), 3, 12))
        for k, (i, j) in enumerate(SIDES):
            by_w = 3 / (2 * length[:, k] * (1 + phi[:, k]))
            by_b = 3 / (4 * (1 + phi[:, k]))
            deviation[:, k, 3 * i], deviation[:, k, 3 * j] = by_w, -by_w
            for node in (i, j):
                deviation[:, k, 3 * node + 1] = -by_b * c[:, k]
                deviation[:, k, 3 * node + 2] = -by_b * s[:, k]
            curvature[:, 0, 3 * k + 1] = curvature[:, 2, 3 * k + 2] = by_x[:, k]
            curvature[:, 1, 3 * k + 2] = curvature[:, 2, 3 * k + 1] = by_y[:, k]
        bow_x = np.stack([4 * (share[j] * by_x[:, i] + share[i] * by_x[:, j]) for i, j in SIDES], axis=-1)
        bow_y = np.stack([4 * (share[j] * by_y[:, i] + share[i] * by_y[:, j]) for i, j in SIDES], axis=-1)
        curvature = curvature + np.stack([bow_x * c, bow_y * s, bow_y * c + bow_x * s], axis=-2) @ deviation
        along = -(2 / 3) * phi[:, :, None] * deviation
        strain = np.zeros((len(x), 2, 12))
        for corner, (a, b) in enumerate(((2, 0), (0, 1), (1, 2))):  # the sides that meet there
            det = c[:, a] * s[:, b] - s[:, a] * c[:, b]
            strain[:, 0] += (
                share[corner] * (s[:, b] / det)[:, None] * along[:, a]
                - share[corner] * (s[:, a] / det)[:, None] * along[:, b]
            )
            strain[:, 1] += (
                share[corner] * (c[:, a] / det)[:, None] * along[:, b]
                - share[corner] * (c[:, b] / det)[:, None] * along[:, a]
            )
        return curvature, strain

    def _of_quads(self, xi: float, eta: float) -> tuple[Array, Array, Array]:
        """As :meth:`strains`, all as quadrilaterals."""
        _, by_xi, by_eta = shape(xi, eta)
        x_xi, y_xi, x_eta, y_eta = (v @ d for d in (by_xi, by_eta) for v in (self.x, self.y))
        det = x_xi * y_eta - y_xi * x_eta
        # derivatives by x and y of any function of xi and eta
        inverse = (
            np.stack([np.stack([y_eta, -y_xi], axis=-1), np.stack([-x_eta, x_xi], axis=-1)], axis=-2)
            / det[:, None, None]
        )
        nodes = inverse @ np.stack([by_xi, by_eta])
        edges = inverse @ np.stack(_bubbles(xi, eta))
        c, s, length, phi = self._edges()
        deviation = self._deviation
        curvature = np.zeros((len(self.x), 3, 12))
        for i in range(4):
            curvature[:, 0, 3 * i + 1] = curvature[:, 2, 3 * i + 2] = nodes[:, 0, i]
            curvature[:, 1, 3 * i + 2] = curvature[:, 2, 3 * i + 1] = nodes[:, 1, i]
        of_edges = np.stack([edges[:, 0] * c, edges[:, 1] * s, edges[:, 1] * c + edges[:, 0] * s], axis=-2)
        curvature = curvature + of_edges @ deviation
        # constant along each edge, linear between opposite ones
        along = -(2 / 3) * (phi * length / 2)[:, :, None] * deviation
        natural = np.stack(
            [
                (1 - eta) / 2 * along[:, 0] - (1 + eta) / 2 * along[:, 2],
                (1 + xi) / 2 * along[:, 1] - (1 - xi) / 2 * along[:, 3],
            ],
            axis=-2,
        )
        return curvature, inverse @ natural, det

    def stiffness(self) -> Array:
        """(elements, 12, 12), by four points of integration."""
        found = np.zeros((len(self.x), 12, 12))
        bending, shear = self.bending, self.shear
        for xi, eta in POINTS:
            curvature, strain, det = self.strains(xi, eta)
            found += det[:, None, None] * (
                curvature.transpose(0, 2, 1) @ bending @ curvature
                + shear[:, None, None] * strain.transpose(0, 2, 1) @ strain
            )
        return found

    def forces(self, unknowns: Array, xi: float, eta: float) -> tuple[Array, Array]:
        """(moments m_x, m_y, m_xy in kNm/m (elements, 3, columns), shears v_x, v_y in kN/m (elements, 2, columns)) at a
        place.

        Args:
            unknowns: of each element, (elements, 12, columns).
        """
        curvature, strain, _ = self.strains(xi, eta)
        return self.bending @ (curvature @ unknowns), self.shear[:, None, None] * (strain @ unknowns)

    def weights(self) -> Array:
        """Area that belongs to each point of integration, (elements, 4), m2."""
        return np.stack([self.strains(xi, eta)[2] for xi, eta in POINTS], axis=-1)
