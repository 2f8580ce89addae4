"""Control perimeters around a rectangular column on a rectangular base, closed or open to the edges.

EN 1992-1-1 6.4.2(4): near an edge the perimeter runs at right angles to it.
"""

from dataclasses import dataclass

import numpy as np

from korbent.core.working import Array


@dataclass(frozen=True)
class Perimeter:
    """One perimeter for each distance and candidate: arrays (distances, candidates, 1); column at the origin."""

    exists: Array
    length: Array
    area: Array
    """Area within the perimeter (up to the edges where it is open), m2."""
    area_x: Array
    area_y: Array
    """Middle of that area, m."""
    x: Array
    y: Array
    """Middle of the perimeter line, m."""
    W_x: Array
    W_y: Array
    """Integrals of |y| and |x| along the perimeter from its middle: for moments about x and about y, m2."""
    sides: tuple[Array, ...]
    """1 where the perimeter is closed at -x, +x, -y, +y."""
    core: tuple[Array, Array, Array, Array]
    """Extent of the loaded area, stretched to the edges where the perimeter is open: x from, to, y from, to."""
    a: Array

    def second_moments(self) -> tuple[Array, Array, Array]:
        """Integrals of x^2, y^2 and xy over the area within, about the column, m4."""
        w, e, s, n = self.sides
        x_w, x_e, y_s, y_n = self.core
        return _second_moments((w, e, s, n), (x_w, x_e, y_s, y_n), self.a)

    def outline(self) -> tuple[Array, Array]:
        """Corners of the area within along a last axis, anticlockwise, m; arcs as eight chords."""
        w, e, s, n = self.sides
        x_w, x_e, y_s, y_n = self.core
        corners = (
            (e, s, x_e, y_s, 1.0, -1.0),
            (e, n, x_e, y_n, 1.0, 1.0),
            (w, n, x_w, y_n, -1.0, 1.0),
            (w, s, x_w, y_s, -1.0, -1.0),
        )
        xs, ys = [], []
        turns = np.linspace(0.0, np.pi / 2, 9)
        for i, (side_x, side_y, cx, cy, sx, sy) in enumerate(corners):
            both = side_x * side_y > 0
            # anticlockwise: from the south-east corner on, odd corners run from the x side to the y side
            for angle in turns if i % 2 else turns[::-1]:
                xs.append(cx + sx * self.a * np.where(both, np.cos(angle), side_x))
                ys.append(cy + sy * self.a * np.where(both, np.sin(angle), side_y))
        return np.stack(xs, axis=-1), np.stack(ys, axis=-1)


def control_perimeter(c_x: Array, c_y: Array, clear: tuple[Array, Array, Array, Array], a: Array) -> Perimeter:
    """The perimeter at distance ``a`` from a column c_x by c_y: closed, or open to the edges nearer than ``a``.

    Between two open edges that face each other there is no perimeter: that is one-way shear.

    Args:
        c_x, c_y: sizes of the column, m, shape (candidates, 1) or numbers.
        clear: distances from the column's faces to the edges at -x, +x, -y, +y, m, shape (candidates, 1).
        a: distances, shape (distances, candidates, 1).
    """
    edges = [np.broadcast_to(np.maximum(e, 0.0), a.shape) for e in clear]
    w, e, s, n = ((a <= edge + 1e-9).astype(float) for edge in edges)
    exists = (w + e > 0.0) & (s + n > 0.0)
    x_w, x_e = -c_x / 2 - (1 - w) * edges[0], c_x / 2 + (1 - e) * edges[1]
    y_s, y_n = -c_y / 2 - (1 - s) * edges[2], c_y / 2 + (1 - n) * edges[3]
    return _properties(exists, w, e, s, n, x_w, x_e, y_s, y_n, a)


def _properties(
    exists: Array,
    w: Array,
    e: Array,
    s: Array,
    n: Array,
    x_w: Array,
    x_e: Array,
    y_s: Array,
    y_n: Array,
    a: Array,
) -> Perimeter:
    span_x, span_y = x_e - x_w, y_n - y_s
    mid_x, mid_y = (x_w + x_e) / 2, (y_s + y_n) / 2
    quarter, centre = np.pi * a * a / 4, 4 * a / (3 * np.pi)
    corners = [  # closed, x of its centre, y of its centre, signs
        (e * s, x_e, y_s, 1.0, -1.0),
        (e * n, x_e, y_n, 1.0, 1.0),
        (w * n, x_w, y_n, -1.0, 1.0),
        (w * s, x_w, y_s, -1.0, -1.0),
    ]
    area = span_x * span_y + a * ((w + e) * span_y + (s + n) * span_x)
    first_x = span_x * span_y * mid_x + a * span_y * (w * (x_w - a / 2) + e * (x_e + a / 2))
    first_x = first_x + a * (s + n) * span_x * mid_x
    first_y = span_x * span_y * mid_y + a * span_x * (s * (y_s - a / 2) + n * (y_n + a / 2))
    first_y = first_y + a * (w + e) * span_y * mid_y
    length = (s + n) * span_x + (w + e) * span_y
    line_x = (s + n) * span_x * mid_x + span_y * (w * (x_w - a) + e * (x_e + a))
    line_y = (w + e) * span_y * mid_y + span_x * (s * (y_s - a) + n * (y_n + a))
    for is_closed, cx, cy, sx, sy in corners:
        area = area + is_closed * quarter
        first_x = first_x + is_closed * quarter * (cx + sx * centre)
        first_y = first_y + is_closed * quarter * (cy + sy * centre)
        arc = is_closed * np.pi / 2 * a
        length = length + arc
        line_x = line_x + arc * (cx + sx * 2 * a / np.pi)
        line_y = line_y + arc * (cy + sy * 2 * a / np.pi)
    safe = np.where(exists, length, 1.0)
    x, y = line_x / safe, line_y / safe
    W_y = (s + n) * _absolute(x_w - x, x_e - x) + span_y * (w * np.abs(x_w - a - x) + e * np.abs(x_e + a - x))
    W_x = (w + e) * _absolute(y_s - y, y_n - y) + span_x * (s * np.abs(y_s - a - y) + n * np.abs(y_n + a - y))
    for is_closed, cx, cy, sx, sy in corners:
        W_y = W_y + is_closed * a * _absolute_arc(sx * (cx - x), a)
        W_x = W_x + is_closed * a * _absolute_arc(sy * (cy - y), a)
    return Perimeter(
        exists=exists,
        length=length,
        area=area,
        area_x=first_x / area,
        area_y=first_y / area,
        x=x,
        y=y,
        W_x=W_x,
        W_y=W_y,
        sides=(w, e, s, n),
        core=(x_w, x_e, y_s, y_n),
        a=a,
    )


def _second_moments(
    sides: tuple[Array, Array, Array, Array], core: tuple[Array, Array, Array, Array], a: Array
) -> tuple[Array, Array, Array]:
    """Integrals of x^2, y^2 and xy over the area within, m4: the core, a band along each side, and quarter discs."""
    w, e, s, n = sides
    x_w, x_e, y_s, y_n = core
    bands = [
        (1.0, x_w, x_e, y_s, y_n),
        (w, x_w - a, x_w, y_s, y_n),
        (e, x_e, x_e + a, y_s, y_n),
        (s, x_w, x_e, y_s - a, y_s),
        (n, x_w, x_e, y_n, y_n + a),
    ]
    xx, yy, xy = np.zeros(a.shape), np.zeros(a.shape), np.zeros(a.shape)
    for there, x0, x1, y0, y1 in bands:
        wide, high = x1 - x0, y1 - y0
        xx = xx + there * wide * high * (x1 * x1 + x1 * x0 + x0 * x0) / 3
        yy = yy + there * wide * high * (y1 * y1 + y1 * y0 + y0 * y0) / 3
        xy = xy + there * wide * high * (x1 + x0) * (y1 + y0) / 4
    square = a * a
    disc, first, fourth = np.pi * square / 4, square * a / 3, square * square
    for there, cx, cy, sx, sy in (
        (e * s, x_e, y_s, 1.0, -1.0),
        (e * n, x_e, y_n, 1.0, 1.0),
        (w * n, x_w, y_n, -1.0, 1.0),
        (w * s, x_w, y_s, -1.0, -1.0),
    ):
        xx = xx + there * (cx * cx * disc + 2 * cx * sx * first + np.pi * fourth / 16)
        yy = yy + there * (cy * cy * disc + 2 * cy * sy * first + np.pi * fourth / 16)
        xy = xy + there * (cx * cy * disc + (cx * sy + cy * sx) * first + sx * sy * fourth / 8)
    return xx, yy, xy


def _absolute(start: Array, end: Array) -> Array:
    """Integral of |t| from start to end."""
    result: Array = (end * np.abs(end) - start * np.abs(start)) / 2
    return result


def _absolute_arc(start: Array, a: Array) -> Array:
    """Integral of |start + a cos(t)| over a quarter turn."""
    change = np.arccos(np.clip(-start / a, 0.0, 1.0))
    result: Array = 2 * (start * change + a * np.sin(change)) - (start * np.pi / 2 + a)
    return result
