"""A polygon: any outline that does not cross itself, with corners that go in or out."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import ClassVar

import numpy as np

from korbent.core.contact.plane import AT_EDGE, Contact
from korbent.core.contact.polygon import AreaMoments, clipped_moments, plane_without_tension
from korbent.core.footprint.footprint import Edge, Effective, Part
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

ROUNDS, STEPS = 30, 24
"""Of both cuts, and of each of them, until the rest has its centre at the resultant."""


@dataclass(frozen=True)
class Polygon:
    """Corners from the middle of its box, anticlockwise, (candidates, corners), m."""

    x: Array
    y: Array
    is_round: ClassVar[bool] = False
    slices_alike: ClassVar[bool] = False
    around_formula: ClassVar[str] = "u_p"
    full_contact: ClassVar[str] = "e_x e_y"

    @property
    def B(self) -> Array:
        """Width of its box."""
        width: Array = np.ptp(self.x, axis=-1)[:, None]
        return width

    @property
    def L(self) -> Array:
        """Length of its box."""
        length: Array = np.ptp(self.y, axis=-1)[:, None]
        return length

    @property
    def area_formula(self) -> str:
        """From its corners."""
        return "A_p"

    @cached_property
    def _moments(self) -> AreaMoments:
        """About the middle of the box, (candidates, 1)."""
        one, none = np.ones(len(self.x)), np.zeros(len(self.x))
        return AreaMoments(*(m[:, None] for m in clipped_moments(self.x, self.y, one, none, none)))

    @property
    def area(self) -> Array:
        """m2."""
        return self._moments.A

    @property
    def around(self) -> Array:
        """Length of the outline, m."""
        far = np.hypot(np.roll(self.x, -1, -1) - self.x, np.roll(self.y, -1, -1) - self.y)
        around: Array = far.sum(-1)[:, None]
        return around

    @property
    def centroid(self) -> Array | float:
        """Along x."""
        centroid: Array = self._moments.Sx / self.area
        return centroid

    @property
    def centroid_y(self) -> Array | float:
        """Along y."""
        centroid: Array = self._moments.Sy / self.area
        return centroid

    @property
    def inertia(self) -> tuple[Array, Array]:
        """About the centre of the area, m4."""
        m = self._moments
        return m.Sxx - m.Sx**2 / m.A, m.Syy - m.Sy**2 / m.A

    @property
    def product(self) -> Array | float:
        """About the centre of the area, m4."""
        m = self._moments
        product: Array = m.Sxy - m.Sx * m.Sy / m.A
        return product

    @property
    def turn(self) -> Array | float:
        """To the principal axes, of the two the one nearer to x, between -45 and 45 degrees."""
        xx, yy = self.inertia
        difference, twice = xx - yy, 2 * np.asarray(self.product)
        tiny = np.hypot(difference, twice) <= 1e-9 * (xx + yy)
        sign = np.where(difference < 0, -1.0, 1.0)
        turn: Array = np.where(tiny, 0.0, 0.5 * np.arctan2(sign * twice, np.maximum(np.abs(difference), 1e-300)))
        return turn

    @property
    def principal(self) -> tuple[Array, Array]:
        """Second moments along the principal axes, m4."""
        (xx, yy), xy = self.inertia, self.product
        c, s = np.cos(self.turn), np.sin(self.turn)
        return c**2 * xx + 2 * c * s * xy + s**2 * yy, s**2 * xx - 2 * c * s * xy + c**2 * yy

    @property
    def equal_rectangle(self) -> tuple[Array, Array]:
        """As large, and with the same ratio of principal second moments."""
        return _rectangle(self.area, *self.principal)

    @property
    def hole(self) -> Array:
        """None."""
        return np.zeros((1, 1))

    @cached_property
    def edges(self) -> tuple[Edge, ...]:
        """The sides of its convex hull: it can tip over about them alone."""
        from scipy.spatial import ConvexHull

        found = []
        for x, y in zip(self.x, self.y):
            rows = ConvexHull(np.stack([x, y], axis=-1)).equations
            rows = rows[np.argsort(np.arctan2(rows[:, 1], rows[:, 0]), kind="stable")]
            # of a side that the hull has in pieces one is enough
            apart = np.abs(rows - np.roll(rows, 1, axis=0)).max(axis=-1) > 1e-9
            found.append(rows[apart] if apart.any() else rows[:1])
        most = max(map(len, found))
        rows = np.stack([np.concatenate([f, np.repeat(f[-1:], most - len(f), axis=0)]) for f in found])
        return tuple(
            Edge(say("edge {k}", k=k + 1), rows[:, k, 0:1], rows[:, k, 1:2], -rows[:, k, 2:3]) for k in range(most)
        )

    def outline(self, x0: Array | float = 0.0, y0: Array | float = 0.0) -> tuple[Array, Array]:
        """The corners from (x0, y0)."""
        return self.x - x0, self.y - y0

    def size(self, axis: str) -> Array:
        """Of its box."""
        return self.B if axis == "x" else self.L

    def _met(self, axis: str, at: Array) -> Array:
        """Where a line along an axis meets the sides, in order, nan after the last one, (..., candidates, situations,
        sides)."""
        along, across = (self.x, self.y) if axis == "x" else (self.y, self.x)
        at = np.asarray(at)[..., None]
        # a line along a side is taken a hair beside it, within
        low, high = across.min(-1)[:, None, None], across.max(-1)[:, None, None]
        at = np.clip(at, low + 1e-9, high - 1e-9)
        u0, v0 = along[:, None, :], across[:, None, :]
        u1, v1 = np.roll(u0, -1, -1), np.roll(v0, -1, -1)
        crosses = (v0 > at) != (v1 > at)
        rise = np.where(crosses, v1 - v0, 1.0)
        return np.sort(np.where(crosses, u0 + (at - v0) * (u1 - u0) / rise, np.nan), axis=-1)

    def span(self, axis: str, at: Array) -> tuple[Array, Array]:
        """From the first side that it meets to the last one."""
        met = self._met(axis, at)
        return np.nanmin(met, axis=-1), np.nanmax(met, axis=-1)

    def chord(self, axis: str, at: Array) -> Array:
        """What of a section lies within."""
        met = self._met("y" if axis == "x" else "x", at)
        lengths = met[..., 1::2] - met[..., : met.shape[-1] - met.shape[-1] % 2 : 2]
        chord: Array = np.nansum(lengths, axis=-1)
        return chord

    def beyond(self, side: str, start: Array) -> Part:
        """What lies beyond a section: every corner on the near side moved onto it, and where the sides meet it a corner
        more."""
        sign = 1.0 if side[0] == "+" else -1.0
        along, across = (self.x, self.y) if side[1] == "x" else (self.y, self.x)
        far = (sign * along).max(-1)[:, None]
        start = np.clip(np.asarray(start), -far, far)
        u, v = np.broadcast_arrays(sign * along[:, None, :], across[:, None, :])
        s = start[..., None]
        u1, v1 = np.roll(u, -1, -1), np.roll(v, -1, -1)
        rise = u1 - u
        t = np.where((u > s) != (u1 > s), (s - u) / np.where(rise != 0.0, rise, 1.0), 0.0)
        x = np.stack([np.maximum(u + 0.0 * s, s), np.maximum(u + t * rise, s)], axis=-1)
        y = np.stack([v + 0.0 * s, v + t * (v1 - v)], axis=-1)
        x, y = (w.reshape(*w.shape[:-2], -1) for w in (x, y))
        x, y = (sign * x, y) if side[1] == "x" else (y, sign * x)
        return Part(x, y, start, far - start, self.chord(side[1], sign * start))

    def clear(
        self, offset_x: Array, offset_y: Array, size_x: Array, size_y: Array
    ) -> tuple[Array, Array, Array, Array]:
        """To what of each side lies beside the area; to a side askew its least distance, on the side that it faces."""
        low_x, high_x = offset_x - size_x / 2, offset_x + size_x / 2
        low_y, high_y = offset_y - size_y / 2, offset_y + size_y / 2
        x0, y0 = self.x, self.y
        x1, y1 = np.roll(x0, -1, -1), np.roll(y0, -1, -1)
        length = np.maximum(np.hypot(x1 - x0, y1 - y0), 1e-12)
        out_x, out_y = (y1 - y0) / length, (x0 - x1) / length
        # along its way each side comes nearest to the area at its ends, or where one of the corners lies beside it
        distance = np.full(np.broadcast(x0, low_x).shape, np.inf)
        for cx in (low_x, high_x):
            for cy in (low_y, high_y):
                t = np.clip(((cx - x0) * (x1 - x0) + (cy - y0) * (y1 - y0)) / length**2, 0.0, 1.0)
                distance = np.minimum(distance, np.hypot(x0 + t * (x1 - x0) - cx, y0 + t * (y1 - y0) - cy))
        for ex, ey in ((x0, y0), (x1, y1)):
            off = np.hypot(
                np.maximum(np.maximum(low_x - ex, ex - high_x), 0.0),
                np.maximum(np.maximum(low_y - ey, ey - high_y), 0.0),
            )
            distance = np.minimum(distance, off)
        straight = (np.abs(out_x) > 1 - 1e-9) | (np.abs(out_y) > 1 - 1e-9)
        beside_y = (np.minimum(y0, y1) < high_y - 1e-9) & (np.maximum(y0, y1) > low_y + 1e-9)
        beside_x = (np.minimum(x0, x1) < high_x - 1e-9) & (np.maximum(x0, x1) > low_x + 1e-9)
        found = []
        for faces, beside, plain in (
            (-out_x, beside_y, low_x - np.maximum(x0, x1)),
            (out_x, beside_y, np.minimum(x0, x1) - high_x),
            (-out_y, beside_x, low_y - np.maximum(y0, y1)),
            (out_y, beside_x, np.minimum(y0, y1) - high_y),
        ):
            on_it = np.where(straight, (faces > 0.5) & beside, faces >= np.sqrt(0.5) - 1e-9)
            room = np.where(straight, plain, distance)
            # of what lies behind the area nothing is seen
            found.append(np.where(on_it & (room > -1e-6 - size_x - size_y), room, np.inf))
        box = (low_x + self.B / 2, self.B / 2 - high_x, low_y + self.L / 2, self.L / 2 - high_y)
        west, east, south, north = (
            np.minimum(f.min(axis=-1, keepdims=True), np.maximum(b, 0.0)) for f, b in zip(found, box)
        )
        return west, east, south, north

    def spread(self, by: Array | float) -> "Polygon":
        """All sides move out by as much. A corner that is there twice, to have as many as others of a batch, stays
        one."""
        x0, y0 = self.x, self.y
        x1, y1 = np.roll(x0, -1, -1), np.roll(y0, -1, -1)
        length = np.hypot(x1 - x0, y1 - y0)
        none = length == 0.0
        safe = np.where(none, 1.0, length)
        nx, ny = (y1 - y0) / safe, (x0 - x1) / safe
        px, py, before = np.roll(nx, 1, -1), np.roll(ny, 1, -1), np.roll(none, 1, -1)
        for _ in range(int(none.sum(axis=-1).max())):
            nx, ny = (np.where(none, np.roll(v, -1, -1), v) for v in (nx, ny))
            px, py = (np.where(before, np.roll(v, 1, -1), v) for v in (px, py))
        share = by / np.maximum(1 + px * nx + py * ny, 1e-3)
        return Polygon(x0 + share * (px + nx), y0 + share * (py + ny))

    def halfway(self, other: "Polygon") -> "Polygon":
        """The mean corners."""
        return Polygon((self.x + other.x) / 2, (self.y + other.y) / 2)

    def recorded(self, record: Recorder) -> None:
        """Area, centre, and what else its corners give."""
        inertia_x, inertia_y = self.inertia
        count = say("from its {shape} corners", shape=self.x.shape[-1])
        record.given("A_p", self.area, "m²", note=say("area of the outline, {count}", count=count))
        record.given("u_p", self.around, "m", note=say("length of the outline"))
        record.given(
            "x_m",
            np.asarray(self.centroid),
            "m",
            note=say("centre of the area, from the middle of width and length"),
        )
        record.given("y_m", np.asarray(self.centroid_y), "m", note=say("along y"))
        record.given("I_x", inertia_x, "m⁴", note=say("integral of x² about the centre of the area"))
        record.given("I_y", inertia_y, "m⁴", note=say("integral of y²"))
        record.given(
            "t_p", np.asarray(self.turn), "rad", note=say("from x to the first principal axis"), needs="I_x I_y"
        )

    def contact(self, N: Array, Mx: Array, My: Array, record: Recorder = SILENT) -> Contact:
        """By Newton's method on the part that is pressed."""
        N, Mx, My = np.broadcast_arrays(N, Mx, My)
        pressed = N > 0.0
        nonzero = np.where(N != 0.0, N, 1.0)
        e_x, e_y = My / nonzero, -Mx / nonzero
        x_m, y_m = np.asarray(self.centroid), np.asarray(self.centroid_y)
        outs = [
            ((e_x - x_m) * e.cosine + (e_y - y_m) * e.sine) / (e.away - x_m * e.cosine - y_m * e.sine)
            for e in self.edges
        ]
        out = np.max(np.stack(np.broadcast_arrays(*outs)), axis=0)
        stable = pressed & (out <= 1.0 - 2 * AT_EDGE)
        found = plane_without_tension(np.where(stable, N, 0.0), e_x, e_y, self.x, self.y, stable)
        a, b, c = found.plane
        corners = np.maximum(0.0, a[..., None] + b[..., None] * self.x[:, None, :] + c[..., None] * self.y[:, None, :])
        share = np.where(stable, found.area / self.area, 0.0)
        record.step("e_x", "M_y/N", e_x, "m", note=say("eccentricity along x, from the middle"))
        record.step("e_y", "-M_x/N", e_y, "m", note=say("eccentricity along y"))
        record.given(
            "r_e",
            np.where(pressed, out, 1.0),
            note=say("below 1: the resultant lies within the convex hull of the outline"),
            needs="e_x e_y x_m y_m",
        )
        record.step("p_0", "N/A_p", N / self.area, "kPa", note=say("mean pressure"))
        needs = "N e_x e_y A_p I_x I_y"
        solved = say("solved: linear without tension, in equilibrium with N at e_x, e_y")
        record.given("p_mid", a, "kPa", note=solved, needs=needs)
        record.given("g_x", b, "kPa/m", note=say("slope of the pressure along x"), needs=needs)
        record.given("g_y", c, "kPa/m", note=say("slope of the pressure along y"), needs=needs)
        record.given("s_c", share, note=say("share of the base in contact"), needs=needs)
        record.given("p_max", corners.max(axis=-1), "kPa", note=say("peak, at a corner"), needs="p_mid g_x g_y")
        return Contact(a, b, c, e_x, e_y, stable, share, corners)

    def effective(self, contact: Contact, Hx: Array, Hy: Array, record: Recorder = SILENT) -> Effective:
        """What is left when a piece along each principal axis is cut off so that the rest has its centre at the
        resultant (of a rectangle (B - 2 e_x)(L - 2 e_y), Meyerhof 1953), as the rectangle with its area and the ratio
        of its second moments."""
        shape = np.broadcast(contact.e_x, contact.stable).shape
        e_x = np.broadcast_to(np.where(contact.stable, contact.e_x, self.centroid), shape)
        e_y = np.broadcast_to(np.where(contact.stable, contact.e_y, self.centroid_y), shape)
        c, s = np.cos(np.asarray(self.turn)), np.sin(np.asarray(self.turn))
        x, y = (
            np.broadcast_to(v[:, None, :], (*shape, v.shape[-1]))
            for v in (c * self.x + s * self.y, c * self.y - s * self.x)
        )
        left = _about(x, y, c * e_x + s * e_y, c * e_y - s * e_x)
        B, L = _rectangle(left.A, left.Sxx, left.Syy)
        record.given(
            "A_even",
            left.A,
            "m²",
            reference="Meyerhof 1953",
            note=say(
                "the part of the base whose middle is the resultant: a piece along each principal axis is cut off"
            ),
            needs="e_x e_y A_p",
        )
        record.given(
            "B_x",
            B,
            "m",
            note=say(
                "width along the first principal axis of the rectangle with this area and the ratio of its second moments"
            ),
            needs="A_even",
        )
        record.step("L_y", "A_even/max(B_x, 1e-12)", L, "m", note=say("its length along y"))
        turned_x, turned_y = c * Hx + s * Hy, c * Hy - s * Hx
        if np.any(s != 0.0):
            for symbol, was in (("H_x", Hx), ("H_y", Hy)):
                record.step(f"{symbol}0", symbol, was, "kN", note=say("along the axes of the base"))
            record.step(
                "H_x", "cos(t_p)*H_x0 + sin(t_p)*H_y0", turned_x, "kN", note=say("along the first principal axis")
            )
            record.step("H_y", "cos(t_p)*H_y0 - sin(t_p)*H_x0", turned_y, "kN", note=say("along the second"))
        return Effective(B, L, turned_x, turned_y)

    def eccentricity(self, contact: Contact, limit: Array, record: Recorder = SILENT) -> tuple[Array, Array]:
        """As of the rectangle with its area and ratio of principal second moments, from the centre of the area."""
        B, L = self.equal_rectangle
        record.given(
            "B_e",
            B,
            "m",
            note=say("width of the rectangle with the area and the ratio of principal second moments of the base"),
            needs="A_p I_x I_y",
        )
        record.step("L_e", "A_p/B_e", L, "m", note=say("its length"))
        c, s = np.cos(self.turn), np.sin(self.turn)
        off_x, off_y = contact.e_x - self.centroid, contact.e_y - self.centroid_y
        first, second = c * off_x + s * off_y, c * off_y - s * off_x
        record.step(
            "e_1",
            "cos(t_p)*(e_x - x_m) + sin(t_p)*(e_y - y_m)",
            first,
            "m",
            note=say("from the centre of the area along the first principal axis"),
        )
        record.step("e_2", "cos(t_p)*(e_y - y_m) - sin(t_p)*(e_x - x_m)", second, "m", note=say("along the second"))
        measure = np.hypot(first / B, second / L)
        record.step(
            "e_rel",
            "sqrt((e_1/B_e)**2 + (e_2/L_e)**2)",
            measure,
            reference="EN 1997-1 6.5.4",
            note=say("relative eccentricity"),
        )
        record.given("e_lim", limit, note=say("limit"))
        record.step("ratio", "e_rel/e_lim", measure / limit)
        return measure, measure / limit


def _rectangle(area: Array, xx: Array, yy: Array) -> tuple[Array, Array]:
    """Sizes of the rectangle as large with the same ratio of second moments."""
    some = (xx > 0) & (yy > 0)
    ratio = np.sqrt(np.where(some, xx, 1.0) / np.where(some, yy, 1.0))
    B = np.sqrt(np.maximum(area, 0.0) * ratio)
    return B, np.maximum(area, 0.0) / np.maximum(B, 1e-12)


def _about(x: Array, y: Array, e_x: Array, e_y: Array) -> AreaMoments:
    """Area moments about (e_x, e_y) of what is left of polygons (..., corners) when a piece is cut off along each axis
    so that the centre of the rest is there."""
    x, y = x - e_x[..., None], y - e_y[..., None]
    cuts = [np.full(e_x.shape, np.inf), np.full(e_x.shape, np.inf)]
    signs = [np.ones(e_x.shape), np.ones(e_x.shape)]

    def left(limit_x: Array, limit_y: Array) -> AreaMoments:
        first = _cut(x, y, limit_x, signs[0])
        second = _cut(first[1], first[0], limit_y, signs[1])
        one, none = np.ones(e_x.shape), np.zeros(e_x.shape)
        return clipped_moments(second[1], second[0], one, none, none)

    def first(limits: list[Array]) -> Array:
        """First moments, along a first axis of 2."""
        m = left(*limits)
        return np.stack([m.Sx, m.Sy])

    size = np.stack([np.ptp(x, axis=-1), np.ptp(y, axis=-1)])
    close = 1e-10 * size * np.prod(size, axis=0) + 1e-14
    for _ in range(ROUNDS):
        for k in (0, 1):
            limits = list(cuts)
            limits[k] = np.full(e_x.shape, np.inf)
            too_much = first(limits)[k]
            # the piece on the far side goes: towards +1 where too much lies there
            signs[k] = np.where(too_much >= 0, 1.0, -1.0)
            high = (signs[k][..., None] * (x if k == 0 else y)).max(-1)

            def beyond(at: Array, k: int = k, limits: list[Array] = limits) -> Array:
                """First moment towards the sign with a cut there."""
                limits[k] = at
                return np.asarray(signs[k] * first(limits)[k])

            cuts[k] = _root(beyond, np.zeros(e_x.shape), np.maximum(high, 0.0), np.abs(too_much))
        cuts = _both(first, cuts, size)
        if (np.abs(first(cuts)) <= close).all():
            break
    return left(*cuts)


def _both(first: Callable[[list[Array]], Array], cuts: list[Array], size: Array) -> list[Array]:
    """Both cuts at once by Newton's method, from where they nearly are; as they were where that does not help."""
    best, now = np.stack(cuts), first(cuts)
    for _ in range(8):
        slopes = []
        for k in (0, 1):
            step = 1e-7 * size[k]
            moved = list(best)
            moved[k] = best[k] - step
            slopes.append((now - first(moved)) / step)
        (a, c), (b, d) = slopes
        det = a * d - b * c
        safe = np.abs(det) > 1e-12 * (np.abs(a * d) + np.abs(b * c)) + 1e-30
        det = np.where(safe, det, 1.0)
        way = -np.stack([d * now[0] - b * now[1], a * now[1] - c * now[0]]) / det
        tried = np.maximum(best + np.where(safe, way, 0.0), 0.0)
        then = first(list(tried))
        better = (np.abs(then) / size).sum(axis=0) < (np.abs(now) / size).sum(axis=0)
        if not better.any():
            break
        best, now = np.where(better, tried, best), np.where(better, then, now)
    return list(best)


def _root(f: Callable[[Array], Array], low: Array, high: Array, f_high: Array) -> Array:
    """Where rising functions are zero between two places, by false position with halved ends (Dowell and Jarratt
    1971)."""
    f_low = f(low)
    at = high
    close = 1e-12 * np.maximum(np.abs(f_high), np.abs(f_low)) + 1e-14
    for _ in range(STEPS):
        at = np.where(
            f_high - f_low > close,
            (low * f_high - high * f_low) / np.where(f_high > f_low, f_high - f_low, 1.0),
            high,
        )
        value = f(at)
        if (np.abs(value) <= close).all():
            break
        above = value > 0
        f_low, f_high = np.where(above, f_low / 2, value), np.where(above, value, f_high / 2)
        low, high = np.where(above, low, at), np.where(above, at, high)
    return at


def _cut(along: Array, across: Array, limit: Array, sign: Array) -> tuple[Array, Array]:
    """Polygons (..., corners) without what lies beyond a limit along an axis, towards a sign: corners beyond are moved
    onto it, and where sides meet it there is one more."""
    u, s = sign[..., None] * along, limit[..., None]
    u1, v1 = np.roll(u, -1, -1), np.roll(across, -1, -1)
    rise = u1 - u
    crosses = (u > s) != (u1 > s)
    t = np.where(crosses, (np.where(crosses, s, 0.0) - u) / np.where(rise != 0.0, rise, 1.0), 0.0)
    first = np.stack([np.minimum(u, s), np.minimum(u + t * rise, s)], axis=-1)
    second = np.stack([across, across + t * (v1 - across)], axis=-1)
    flat = (*first.shape[:-2], -1)
    return sign[..., None] * first.reshape(flat), second.reshape(flat)
