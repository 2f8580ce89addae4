"""Pressure under a rigid rectangular base, linear without tension, for any eccentricity.

Inside the kern the plane is known in closed form. Beyond it the plane minimises the convex function
1/2 * integral of p+^2 - F . (a, b, c), found by Newton's method from the pressed corner: the second
derivative is the matrix of area moments of the contact region, as the pressure vanishes on its border.
"""

from dataclasses import dataclass

import numpy as np

from korbent.core.contact.polygon import clipped_moments
from korbent.core.working import SILENT, Array, Recorder, Silent

AT_EDGE = 1e-5
"""Where the resultant is nearer to an edge than this share of the size, nothing holds the base up any more: the pressed strip
would be so narrow that no ground bears it."""
ITERATIONS = 40
HALVINGS = 20


@dataclass(frozen=True)
class Contact:
    """Pressure p = a + b x + c y (kPa, cut off at zero) about the middle of the base."""

    a: Array
    b: Array
    c: Array
    e_x: Array
    e_y: Array
    stable: Array
    """The resultant presses down within the base. Elsewhere all values are placeholders (zero)."""
    share: Array
    """Contact area over the area of the base."""
    corners: Array
    """Pressures at (-,-), (+,-), (+,+), (-,+), along a last axis of 4, kPa."""

    @property
    def peak(self) -> Array:
        """Greatest pressure, kPa."""
        peak: Array = self.corners.max(axis=-1)
        return peak

    @property
    def least(self) -> Array:
        """Least pressure, kPa (zero where contact is lost)."""
        least: Array = self.corners.min(axis=-1)
        return least


CORNER_X = np.array([-0.5, 0.5, 0.5, -0.5])
CORNER_Y = np.array([-0.5, -0.5, 0.5, 0.5])


def linear_no_tension(
    N: Array, Mx: Array, My: Array, B: Array, L: Array, record: Recorder = SILENT
) -> Contact:
    """The pressure plane under a rectangle B x L with the force N (down) and the moments Mx, My at its middle.

    e_x = My/N, e_y = -Mx/N. Arrays of any one broadcast shape; kN, kNm, m.
    """
    N, Mx, My, B, L = np.broadcast_arrays(*(np.asarray(v, float) for v in (N, Mx, My, B, L)))
    pressed = N > 0.0
    nonzero = np.where(N != 0.0, N, 1.0)
    e_x, e_y = My / nonzero, -Mx / nonzero
    stable = pressed & (np.abs(e_x) <= (0.5 - AT_EDGE) * B) & (np.abs(e_y) <= (0.5 - AT_EDGE) * L)
    force = np.where(stable, N, 0.0)
    u = np.where(stable, e_x / B, 0.0)
    v = np.where(stable, e_y / L, 0.0)
    mean = force / (B * L)
    a, b, c = mean.copy(), 12.0 * mean * u / B, 12.0 * mean * v / L
    share = np.where(stable, 1.0, 0.0)
    partial = stable & (6.0 * (np.abs(u) + np.abs(v)) > 1.0)
    if partial.any():
        unit_a, unit_b, unit_c, unit_share = _partial(u[partial], v[partial])
        a[partial] = mean[partial] * unit_a
        b[partial] = mean[partial] * unit_b / B[partial]
        c[partial] = mean[partial] * unit_c / L[partial]
        share[partial] = unit_share
    # slopes that are only rounding
    b = np.where(np.abs(b) * B < 1e-11 * mean, 0.0, b)
    c = np.where(np.abs(c) * L < 1e-11 * mean, 0.0, c)
    corners = np.maximum(0.0, a[..., None] + (b * B)[..., None] * CORNER_X + (c * L)[..., None] * CORNER_Y)
    contact = Contact(a, b, c, e_x, e_y, stable, share, corners)
    if not isinstance(record, Silent):
        _record(contact, N, B, L, record)
    return contact


def _record(contact: Contact, N: Array, B: Array, L: Array, record: Recorder) -> None:
    e_x, e_y = contact.e_x, contact.e_y
    beyond = 6 * (np.abs(e_x) / B + np.abs(e_y) / L)
    mean = N / (B * L)
    needs = "N e_x e_y B L"
    solved = "solved: linear without tension, in equilibrium with N at e_x, e_y"
    record("e_x", "M_y/N", e_x, "m", note="eccentricity along x")
    record("e_y", "-M_x/N", e_y, "m", note="eccentricity along y")
    out = np.where(N > 0, np.maximum(2 * np.abs(e_x) / B, 2 * np.abs(e_y) / L), 1.0)
    record(
        "r_e",
        "where(N > 0, max(2*abs(e_x)/B, 2*abs(e_y)/L), 1)",
        out,
        note="below 1: the resultant lies within the base",
    )
    record("p_0", "N/(B*L)", mean, "kPa", note="mean pressure")
    record("k_e", "6*abs(e_x)/B + 6*abs(e_y)/L", beyond, note="up to 1: all in contact")
    record("p_s", "", contact.a, "kPa", "", solved, needs)
    record("g_xs", "", contact.b, "kPa/m", "", solved, needs)
    record("g_ys", "", contact.c, "kPa/m", "", solved, needs)
    a = np.where(beyond > 1, contact.a, mean)
    b = np.where(beyond > 1, contact.b, 12 * mean * e_x / B**2)
    c = np.where(beyond > 1, contact.c, 12 * mean * e_y / L**2)
    record("p_mid", "where(k_e > 1, p_s, p_0)", a, "kPa", note="pressure at the middle")
    record("g_x", "where(k_e > 1, g_xs, 12*p_0*e_x/B**2)", b, "kPa/m", note="slope of the pressure along x")
    record("g_y", "where(k_e > 1, g_ys, 12*p_0*e_y/L**2)", c, "kPa/m", note="slope of the pressure along y")
    record("s_c", "", contact.share, "", "", "share of the base in contact", needs)
    peak = a + np.abs(b) * B / 2 + np.abs(c) * L / 2
    record("p_max", "p_mid + abs(g_x)*B/2 + abs(g_y)*L/2", peak, "kPa", note="peak, at a corner")


def _partial(u: Array, v: Array) -> tuple[Array, Array, Array, Array]:
    """Planes over the unit square about its middle, mean pressure 1, resultant at (u, v); shapes (cases,)."""
    side_x, side_y = np.where(u < 0.0, -1.0, 1.0), np.where(v < 0.0, -1.0, 1.0)
    r, s = 0.5 - np.abs(u), 0.5 - np.abs(v)
    # coordinates from the pressed corner, in units of the distances r, s of the resultant from it
    X = np.array([0.0, 1.0, 1.0, 0.0]) / r[:, None]
    Y = np.array([0.0, 0.0, 1.0, 1.0]) / s[:, None]
    cell = r * s
    F = np.ones((len(u), 3))
    plane = np.stack([np.ones_like(u), np.full_like(u, -0.25), np.full_like(u, -0.25)], axis=-1)
    K = _matrix(X, Y, cell, plane)
    plane = plane / np.einsum("ni,ni->n", K[:, 0], plane)[:, None]
    open_ones = np.arange(len(u))
    for _ in range(ITERATIONS):
        residual = np.abs(np.einsum("nij,nj->ni", K[open_ones], plane[open_ones]) - F[open_ones]).max(axis=-1)
        open_ones = open_ones[residual > 1e-13]
        if not len(open_ones):
            break
        plane[open_ones], K[open_ones] = _newton_step(
            X[open_ones], Y[open_ones], cell[open_ones], plane[open_ones], K[open_ones], F[open_ones]
        )
    area = K[:, 0, 0]
    p0, px, py = plane[:, 0], plane[:, 1] / r, plane[:, 2] / s
    a = p0 + (px + py) / 2
    return a, -px * side_x, -py * side_y, np.minimum(area, 1.0)


def _newton_step(X: Array, Y: Array, cell: Array, plane: Array, K: Array, F: Array) -> tuple[Array, Array]:
    """One step of Newton's method, halved for each case until the convex function no longer grows."""
    # a ridge that only keeps the matrix of a very narrow contact invertible: the result is where K plane = F
    ridge = 1e-15 * np.einsum("nii->n", K)[:, None, None] * np.eye(3)
    step = np.linalg.solve(K + ridge, F[..., None])[..., 0] - plane
    value = _value(K, plane, F)
    new, K_new = plane + step, K.copy()
    search = np.arange(len(plane))
    for halving in range(HALVINGS):
        new[search] = plane[search] + 0.5**halving * step[search]
        K_new[search] = _matrix(X[search], Y[search], cell[search], new[search])
        grown = _value(K_new[search], new[search], F[search]) > value[search] + 1e-12 * np.abs(value[search])
        search = search[grown]
        if not len(search):
            break
    return new, K_new


def _matrix(X: Array, Y: Array, cell: Array, plane: Array) -> Array:
    """Area moments of the contact region, in the mixed coordinates; a tiny base keeps it invertible."""
    m = clipped_moments(X, Y, plane[:, 0], plane[:, 1], plane[:, 2])
    K = np.stack([m.A, m.Sx, m.Sy, m.Sx, m.Sxx, m.Sxy, m.Sy, m.Sxy, m.Syy], axis=-1)
    return (K * cell[:, None]).reshape(-1, 3, 3)


def _value(K: Array, plane: Array, F: Array) -> Array:
    value: Array = np.einsum("ni,nij,nj->n", plane, K, plane) / 2 - np.einsum("ni,ni->n", plane, F)
    return value


def effective_area(
    e_x: Array, e_y: Array, B: Array, L: Array, record: Recorder = SILENT
) -> tuple[Array, Array]:
    """Sizes (along x, along y) of the effective area, whose middle is the resultant (Meyerhof 1953)."""
    B_x = np.maximum(B - 2.0 * np.abs(e_x), 0.0)
    L_y = np.maximum(L - 2.0 * np.abs(e_y), 0.0)
    record("B_x", "max(B - 2*abs(e_x), 0)", B_x, "m", "Meyerhof 1953", "effective size along x")
    record("L_y", "max(L - 2*abs(e_y), 0)", L_y, "m", "Meyerhof 1953", "effective size along y")
    return B_x, L_y
