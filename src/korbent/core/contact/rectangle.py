"""Pressure under a rigid rectangular base, linear without tension, for any eccentricity.

Inside the kern the plane is known in closed form. Beyond it the neutral line cuts off a triangle at the pressed corner,
or a trapezoid along a pressed side: closed forms too; or it cuts off a triangle at the corner that lifts: two
equations, solved by Newton's method."""

import numpy as np

from korbent.core.contact.plane import AT_EDGE, Contact
from korbent.core.working import SILENT, Array, Recorder, Silent
from korbent.words import say

ITERATIONS = 40


CORNER_X = np.array([-0.5, 0.5, 0.5, -0.5])
CORNER_Y = np.array([-0.5, -0.5, 0.5, 0.5])


def linear_no_tension(N: Array, Mx: Array, My: Array, B: Array, L: Array, record: Recorder = SILENT) -> Contact:
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
    solved = say("solved: linear without tension, in equilibrium with N at e_x, e_y")
    record.step("e_x", "M_y/N", e_x, "m", note=say("eccentricity along x"))
    record.step("e_y", "-M_x/N", e_y, "m", note=say("eccentricity along y"))
    out = np.where(N > 0, np.maximum(2 * np.abs(e_x) / B, 2 * np.abs(e_y) / L), 1.0)
    record.step(
        "r_e",
        "where(N > 0, max(2*abs(e_x)/B, 2*abs(e_y)/L), 1)",
        out,
        note=say("below 1: the resultant lies within the base"),
    )
    record.step("p_0", "N/(B*L)", mean, "kPa", note=say("mean pressure"))
    record.step("k_e", "6*abs(e_x)/B + 6*abs(e_y)/L", beyond, note=say("up to 1: all in contact"))
    record.given("p_s", contact.a, "kPa", note=solved, needs=needs)
    record.given("g_xs", contact.b, "kPa/m", note=solved, needs=needs)
    record.given("g_ys", contact.c, "kPa/m", note=solved, needs=needs)
    a = np.where(beyond > 1, contact.a, mean)
    b = np.where(beyond > 1, contact.b, 12 * mean * e_x / B**2)
    c = np.where(beyond > 1, contact.c, 12 * mean * e_y / L**2)
    record.step("p_mid", "where(k_e > 1, p_s, p_0)", a, "kPa", note=say("pressure at the middle"))
    record.step("g_x", "where(k_e > 1, g_xs, 12*p_0*e_x/B**2)", b, "kPa/m", note=say("slope of the pressure along x"))
    record.step("g_y", "where(k_e > 1, g_ys, 12*p_0*e_y/L**2)", c, "kPa/m", note=say("slope of the pressure along y"))
    record.given("s_c", contact.share, note=say("share of the base in contact"), needs=needs)
    peak = a + np.abs(b) * B / 2 + np.abs(c) * L / 2
    record.step("p_max", "p_mid + abs(g_x)*B/2 + abs(g_y)*L/2", peak, "kPa", note=say("peak, at a corner"))


def _partial(u: Array, v: Array) -> tuple[Array, Array, Array, Array]:
    """Planes over the unit square about its middle, mean pressure 1, resultant at (u, v); shapes (cases,).

    Seen from the pressed corner, at distances (r, s) from the resultant, the pressure falls as 1 - alpha x - beta y.
    """
    r, s = 0.5 - np.abs(u), 0.5 - np.abs(v)
    found = np.stack(_triangle(r, s))
    open_ones = np.flatnonzero((4 * r > 1.0) | (4 * s > 1.0))
    for turned in (False, True):
        beside, along = (s, r) if turned else (r, s)
        across = open_ones[along[open_ones] > 0.25]
        alpha, beta, force, area = _trapezoid(beside[across], along[across])
        fits = alpha >= 1.0
        across = across[fits]
        falling = (beta, alpha) if turned else (alpha, beta)
        found[:, across] = np.stack([*falling, force, area])[:, fits]
        open_ones = np.setdiff1d(open_ones, across, assume_unique=True)
    if len(open_ones):
        found[:, open_ones] = np.stack(_corner_lifted(r[open_ones], s[open_ones]))
    alpha, beta, force, area = found
    side_x, side_y = np.where(u < 0.0, -1.0, 1.0), np.where(v < 0.0, -1.0, 1.0)
    a = (1 - (alpha + beta) / 2) / force
    return a, alpha / force * side_x, beta / force * side_y, np.minimum(area, 1.0)


Falling = tuple[Array, Array, Array, Array]
"""(alpha, beta, force of the pressure 1 - alpha x - beta y where it is positive, area of that)."""


def _triangle(r: Array, s: Array) -> Falling:
    """A triangle at the corner is pressed: a pyramid, whose resultant lies at a quarter of each leg."""
    return 1 / (4 * r), 1 / (4 * s), 8 * r * s / 3, 8 * r * s


def _trapezoid(r: Array, s: Array) -> Falling:
    """All of one side is pressed, as far as x_1 at the corner and t x_1 at its other end.

    With l(y) = x_1 (1 - (1 - t) y) the integrals of l^2/2, l^3/6 and y l^2/2 give s = (1 + 2t + 3t^2)/(4 (1 + t + t^2))
    and r = x_1 (1 + t + t^2 + t^3)/(4 (1 + t + t^2))."""
    half = 1 - 2 * s
    t = (np.sqrt(half * half + (3 - 4 * s) * (4 * s - 1)) - half) / (3 - 4 * s)
    t = np.clip(t, 0.0, 1.0)
    squares = 1 + t + t * t
    x_1 = 4 * r * squares / (squares + t**3)
    return 1 / x_1, 1 - t, x_1 * squares / 6, x_1 * (1 + t) / 2


def _corner_lifted(r: Array, s: Array) -> Falling:
    """A triangle with the legs m (along the longer) and k m at the far corner lifts.

    With the pressure scaled to m + k m - k m^2 at the pressed corner, the force over m and its moments over m are
    polynomials: those of the whole square less the pyramid that lifts."""
    larger, smaller = np.maximum(r, s), np.minimum(r, s)
    u, v = 0.5 - larger, 0.5 - smaller
    # from the plane with tension
    k = u / v
    m = np.clip((6 * u + 6 * v - 1) / (12 * np.maximum(u, 1e-12)), 0.0, 1.0)
    for _ in range(ITERATIONS):
        kk, m2 = k * k, m * m
        m3, m4 = m2 * m, m2 * m2
        force = (1 + k) / 2 - k * m + kk * m3 / 6
        by_m, by_k = -k + kk * m2 / 2, 0.5 - m + k * m3 / 3
        lifted, lifted_m, lifted_k = kk * m3 / 6 - k * m / 2, kk * m2 / 2 - k / 2, k * m3 / 3 - m / 2
        g = 1 / 4 + k / 6 + lifted - kk * m4 / 24 - larger * force
        h = k / 4 + 1 / 6 + lifted - kk * k * m4 / 24 - smaller * force
        g_m = lifted_m - kk * m3 / 6 - larger * by_m
        g_k = 1 / 6 + lifted_k - k * m4 / 12 - larger * by_k
        h_m = lifted_m - kk * k * m3 / 6 - smaller * by_m
        h_k = 1 / 4 + lifted_k - kk * m4 / 8 - smaller * by_k
        det = g_m * h_k - g_k * h_m
        det = np.where(np.abs(det) > 1e-300, det, 1e-300)
        new_m = np.clip(m + (g_k * h - h_k * g) / det, 0.0, 1.0)
        new_k = np.clip(k + (h_m * g - g_m * h) / det, 0.0, 1.0)
        moved = max(np.abs(new_m - m).max(), np.abs(new_k - k).max())
        m, k = new_m, new_k
        if moved < 1e-12:  # each step doubles the digits
            break
    top = 1 + k - k * m
    alpha, beta = k / top, 1 / top
    force = ((1 + k) / 2 - k * m + k * k * m**3 / 6) / top
    swapped = r < s
    return np.where(swapped, beta, alpha), np.where(swapped, alpha, beta), force, 1 - k * m * m / 2


def effective_area(e_x: Array, e_y: Array, B: Array, L: Array, record: Recorder = SILENT) -> tuple[Array, Array]:
    """Sizes (along x, along y) of the effective area, whose middle is the resultant (Meyerhof 1953)."""
    B_x = np.maximum(B - 2.0 * np.abs(e_x), 0.0)
    L_y = np.maximum(L - 2.0 * np.abs(e_y), 0.0)
    record.step(
        "B_x", "max(B - 2*abs(e_x), 0)", B_x, "m", reference="Meyerhof 1953", note=say("effective size along x")
    )
    record.step(
        "L_y", "max(L - 2*abs(e_y), 0)", L_y, "m", reference="Meyerhof 1953", note=say("effective size along y")
    )
    return B_x, L_y
