"""The base from above with the pressure under it: field, isolines, corners, neutral line, resultant."""

import math

import numpy as np

from korbent.core.explain.state import BaseState
from korbent.core.footprint import footprint_of
from korbent.core.geometry import local_place
from korbent.core.model import Pad, Project
from korbent.core.units import length_text, show, shown_unit, to_shown
from korbent.drawing.plan import edge_of, rim, turned
from korbent.drawing.primitives import Anchor, Disc, Drawing, Line, Point, Polygon, Sketch, Text, rectangle
from korbent.drawing.words import lengths_words
from korbent.words import say

BANDS = 10


def band_polygon(
    corners: tuple[Point, ...], plane: tuple[float, float, float], low: float, high: float
) -> tuple[Point, ...]:
    """The part of a convex polygon where low <= a + b x + c y <= high."""
    a, b, c = plane
    kept = _kept(corners, (a - low, b, c))
    return _kept(kept, (high - a, -b, -c))


def _kept(points: tuple[Point, ...], plane: tuple[float, float, float]) -> tuple[Point, ...]:
    a, b, c = plane
    result: list[Point] = []
    for (x0, y0), (x1, y1) in zip(points, points[1:] + points[:1]):
        p0, p1 = a + b * x0 + c * y0, a + b * x1 + c * y1
        if p0 >= 0:
            result.append((x0, y0))
        if (p0 < 0) != (p1 < 0):
            t = p0 / (p0 - p1)
            result.append((x0 + t * (x1 - x0), y0 + t * (y1 - y0)))
    return tuple(result)


def pressure_drawing(project: Project, pad: Pad, state: BaseState | None, uniform: bool = False) -> Drawing:
    """The pressure plan of a pad in its own axes: linear without tension, or ``uniform`` on the effective area."""
    B, L = pad.width, pad.extent
    corners = edge_of(pad)
    sketch = Sketch()
    sketch.add(Polygon(corners, "faint", None))
    if state and state.stable and uniform:
        _effective(sketch, project, pad, state)
    elif state and state.stable:
        peak, least = max(state.corners), min(state.corners)
        first = least if state.share >= 1 else 0.0
        edges = np.linspace(first, peak, BANDS + 1)
        for i in range(BANDS):
            shade = (edges[i] + edges[i + 1]) / 2 / max(peak, 1e-9)
            area = band_polygon(
                corners,
                state.plane,
                edges[i] - (1e9 if i == 0 and state.share >= 1 else 0),
                edges[i + 1] + (1e9 if i == BANDS - 1 else 0),
            )
            if len(area) > 2:
                sketch.add(Polygon(area, f"field:{shade:.3f}", f"field:{shade:.3f}"))
        _isolines(sketch, project, corners, state)
        if state.share < 1:
            _neutral_line(sketch, corners, state)
        for (x, y), p in zip(_places(pad, state), state.corners):
            above = (pad.is_round and abs(x) < 0.4 * B) or (bool(pad.outline) and abs(x) < 0.3 * B)
            anchor: Anchor = "middle" if above else "right" if x < 0 else "left"
            dx, dy = (0, -6 if y > 0 else 13) if above else (-6 if x < 0 else 6, 4)
            text, tone = show(p, "kPa", project.showing), "pressure" if p == peak else "ink"
            sketch.add(Text((x, y), text, 12, tone, anchor, bold=p == peak, dx=dx, dy=dy))
    if pad.bore:
        sketch.add(Polygon(tuple(rim(pad.bore / 2)), "paper", "concrete_line", 1.2))
    sketch.add(Polygon(corners, None, "concrete_line", 1.6))
    _kern(sketch, pad)
    point = project.load_point(pad.load_point)
    for name in pad.carries:
        other, pedestal = project.load_point(name), pad.pedestal_under(name)
        x, y = local_place(pad, point, other)
        round_, size_x, size_y = (
            (pedestal.is_round, pedestal.size_x, pedestal.size_y)
            if pedestal
            else (other.is_round, other.size_x, other.size_y)
        )
        box = list(rim(size_x / 2)) if round_ else list(rectangle(-size_x / 2, -size_y / 2, size_x / 2, size_y / 2))
        turn = 0.0 if pedestal else other.rotation - pad.rotation
        sketch.add(Polygon(turned(box, turn, (x, y)), None, "ink", 1.2, dash=True))
    if state and state.stable:
        sketch.add(
            Disc((state.e_x, state.e_y), 4.5, "beyond", "paper", 1.2, fixed=True),
            Text((state.e_x, state.e_y), "N", 11, "beyond", bold=True, dx=8, dy=-4, halo=True),
        )
    below = 11 if pad.is_round else 0
    sketch.add(
        Text(
            (0, -L / 2),
            f"x →   {'ø' if pad.is_round else 'B'} {length_text(B, project.showing)}",
            11,
            "soft",
            "middle",
            dy=17 + below,
        ),
        Text((0, -L / 2), _measure(project, state), 10, "soft", "middle", dy=32 + below),
    )
    if not pad.is_round:
        sketch.add(
            Text(
                (-B / 2, L / 2),
                f"L {lengths_words(pad, project.showing, True)}",
                11,
                "soft",
                "left",
                dy=-7,
            )
        )
    return Drawing(tuple(sketch.shapes), (-B / 2, -L / 2, B / 2, L / 2))


def _places(pad: Pad, state: BaseState) -> tuple[Point, ...]:
    """Where the pressures of ``state.corners`` are: at the corners, or on the rim towards the resultant and each
    quarter turn on."""
    if not pad.is_round:
        return edge_of(pad)
    towards = math.atan2(state.e_y, state.e_x)
    turns = [towards + k * math.pi / 2 for k in range(4)]
    return tuple((pad.width / 2 * math.cos(t), pad.width / 2 * math.sin(t)) for t in turns)


def _measure(project: Project, state: BaseState | None) -> str:
    """The unit of the numbers, and how much of the base is in contact."""
    if state is None:
        return say("no combination")
    share = say("in contact {share:.0f} %", share=100 * state.share) if state.stable else "unstable"
    return f"{shown_unit('kPa', project.showing)} · {share}"


def _effective(sketch: Sketch, project: Project, pad: Pad, state: BaseState) -> None:
    """The effective area about the resultant, with its one pressure."""
    b, l_ = state.effective
    if min(b, l_) <= 0:
        return
    x, y = state.e_x, state.e_y
    units = project.showing
    turned = tuple(
        (
            x + math.cos(state.turn) * u - math.sin(state.turn) * v,
            y + math.sin(state.turn) * u + math.cos(state.turn) * v,
        )
        for u, v in rectangle(-b / 2, -l_ / 2, b / 2, l_ / 2)
    )
    area = lens(pad.width / 2, x, y) if pad.is_round else turned
    value = f"{show(state.N / (b * l_), 'kPa', units)} {shown_unit('kPa', units)}"
    size = f"B′ {length_text(b, units, False)} × L′ {length_text(l_, units)}"
    sketch.add(
        Polygon(area, "field:0.7", "pressure", 1.6),
        Text((x, y - l_ / 4), f"N/A′ {value}", 12, "pressure", "middle", bold=True, halo=True),
        Text((x, y - l_ / 4), size, 10, "ink", "middle", dy=15, halo=True),
    )


def lens(radius: float, x: float, y: float) -> tuple[Point, ...]:
    """The part of a circle that lies symmetrically about the point x, y."""
    e = math.hypot(x, y)
    half, towards = math.acos(min(e / radius, 1.0)), math.atan2(y, x)
    arc = [towards + half * (k / 24 - 1) for k in range(49)]
    near = [(radius * math.cos(t), radius * math.sin(t)) for t in arc]
    return tuple(near + [(2 * x - px, 2 * y - py) for px, py in near])


def _neutral_line(sketch: Sketch, corners: tuple[Point, ...], state: BaseState) -> None:
    ends = _crossing(corners, state.plane, 0.0)
    if ends and state.share < 0.97:
        sketch.add(
            *(Line(part, "beyond", 1.6, dash=True) for part in zip(ends[::2], ends[1::2])),
            Text(
                ((ends[0][0] + ends[1][0]) / 2, (ends[0][1] + ends[1][1]) / 2),
                say("contact ends"),
                10,
                "beyond",
                "middle",
                dy=-5,
                halo=True,
            ),
        )


def _isolines(sketch: Sketch, project: Project, corners: tuple[Point, ...], state: BaseState) -> None:
    least, peak = (to_shown(p, "kPa", project.showing) for p in (min(state.corners), max(state.corners)))
    if peak - least < 0.02 * peak:
        return
    magnitude = 10.0 ** math.floor(math.log10((peak - least) / 3))
    step = next(s * magnitude for s in (1, 2, 5, 10) if s * magnitude >= (peak - least) / 4)
    factor = to_shown(1.0, "kPa", project.showing)
    value = math.floor(least / step) * step + step
    while value < peak - 0.05 * step:
        ends = _crossing(corners, state.plane, value / factor)
        for part in zip(ends[::2], ends[1::2]):
            middle = tuple(0.22 * p + 0.78 * q for p, q in zip(*sorted(part, key=lambda e: -e[1])))
            sketch.add(
                Line(part, "paper", 1.0),
                Text(middle, f"{value:.6g}", 10, "ink", "middle", dy=4, halo=True),
            )
        value += step


def _crossing(corners: tuple[Point, ...], plane: tuple[float, float, float], value: float) -> tuple[Point, ...]:
    """Where the isoline of a value meets the edges, in order along it: it lies within from the first to the second, and
    so on."""
    a, b, c = plane
    ends: list[Point] = []
    for (x0, y0), (x1, y1) in zip(corners, corners[1:] + corners[:1]):
        p0, p1 = a + b * x0 + c * y0 - value, a + b * x1 + c * y1 - value
        if (p0 < 0) != (p1 < 0):
            t = p0 / (p0 - p1)
            ends.append((x0 + t * (x1 - x0), y0 + t * (y1 - y0)))
    return tuple(sorted(ends, key=lambda p: c * p[0] - b * p[1]))


def _kern(sketch: Sketch, pad: Pad) -> None:
    """Within it the resultant keeps all of the base in contact: of each edge the point whose neutral line it is."""
    B, under = pad.width, footprint_of(pad)
    if pad.is_round:
        kern = (B**2 + pad.bore**2) / (8 * B)
        sketch.add(Polygon(tuple(rim(kern)), None, "soft", 0.8, dash=True))
        return
    x_m, y_m, area, product = (
        float(np.ravel(v)[0]) for v in (under.centroid, under.centroid_y, under.area, under.product)
    )
    by_x, by_y = (float(np.ravel(inertia)[0]) / area for inertia in under.inertia)
    points = []
    for edge in under.edges:
        c, s, away = (float(np.ravel(v)[0]) for v in edge[1:])
        off = away - c * x_m - s * y_m
        points.append((x_m - (by_x * c + product / area * s) / off, y_m - (by_y * s + product / area * c) / off))
    around = sorted(points, key=lambda p: math.atan2(p[1] - y_m, p[0] - x_m))
    sketch.add(Polygon(tuple(around), None, "soft", 0.8, dash=True))
