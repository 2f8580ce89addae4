"""A raft from above: a field over its plan with isolines, columns with their punching, openings; a transect with moment
and steel."""

import math
from dataclasses import replace
from itertools import pairwise
from textwrap import wrap

import numpy as np
from contourpy import FillType, LineType, contour_generator

from korbent.core.concrete.bar_text import words as bar_words
from korbent.core.concrete.fabric import INCH
from korbent.core.evaluate import PadResult
from korbent.core.explain.raft import Field, Transect
from korbent.core.explain.raft_line import RaftLine
from korbent.core.explain.raft_punching import Punched, punched
from korbent.core.geometry import local_place, standing_size
from korbent.core.model import Bars, Pad, Project
from korbent.core.model.labels import label
from korbent.core.rafts.stiffness import stiffness_of
from korbent.core.units import Showing, length_text, show, show_length, show_ratio, shown_unit, to_shown
from korbent.core.working import Array
from korbent.drawing.plan import edge_of
from korbent.drawing.primitives import (
    Anchor,
    Dimension,
    Drawing,
    Line,
    Point,
    Polygon,
    Sketch,
    Text,
    rectangle,
)
from korbent.words import english, say

BANDS = 8


def levels_of(low: float, high: float) -> list[float]:
    """Round values between two, about BANDS of them."""
    if not high - low > 1e-9 * max(abs(low), abs(high), 1e-9):
        return []
    magnitude = 10.0 ** math.floor(math.log10((high - low) / BANDS))
    step = next(s * magnitude for s in (1, 2, 2.5, 5, 10) if s * magnitude >= (high - low) / BANDS)
    first = math.ceil(low / step - 1e-9)
    return [round(k * step, 9) for k in range(first, math.floor(high / step + 1e-9) + 1)]


def raft_drawing(
    project: Project,
    pad: Pad,
    result: PadResult,
    field: Field | str,
    line: tuple[Point, Point, float] | None = None,
    highlight: str = "",
) -> Drawing:
    """The raft in its own axes.

    Args:
        line: (start, end, band) of a transect that is drawn on it.
    """
    B, L, units = pad.width, pad.length, project.showing
    sketch = Sketch()
    edge = edge_of(pad)
    sketch.layer = "results"
    sketch.add(Polygon(edge, "faint", None))
    if isinstance(field, Field):
        _bands(sketch, field if not pad.outline else _reaching_over(field, pad), units, _places(project, pad))
        if pad.outline:
            sketch.add(Polygon(_beyond(field, pad), "paper", None))
    sketch.layer = "foundations"
    _plate_parts(sketch, pad, highlight == "ribs")
    sketch.layer = "foundations"
    sketch.add(Polygon(edge, None, "concrete_line", 2.0))
    sketch.layer = "results"
    if line is not None:
        _line(sketch, line, units)
    sketch.layer = "columns"
    if isinstance(field, Field):
        _punching(sketch, punched(project, pad), highlight == "punching")
    _columns(sketch, project, pad, result)
    sketch.layer = "results"
    _part_names(sketch, pad, units)
    if isinstance(field, Field) and field.provided is not None:
        _short(sketch, field)
    if isinstance(field, Field):
        _extremes(sketch, field, units)
    _sizes(sketch, B, L, units)
    if isinstance(field, Field):
        _ways(sketch, field, (B / 2, -L / 2), max(B, L))
    for k, text in enumerate(_all_words(project, pad, field)):
        sketch.add(Text((-B / 2, -L / 2), text, 10.5, "soft", dy=18 + 14 * k))
    return Drawing(tuple(sketch.shapes), (-B / 2, -L / 2, B / 2, L / 2))


def _plate_parts(sketch: Sketch, pad: Pad, lit_ribs: bool) -> None:
    """What of a raft is thicker, lower, ribbed, open or has bars of its own."""
    plate = pad.plate
    if plate is None:
        return
    for thick in plate.thickenings:
        sketch.add(Polygon(rectangle(thick.x_from, thick.y_from, thick.x_to, thick.y_to), None, "ink", 0.9, dash=True))
    for part in plate.lower:
        for side in pad.wall_sides(part):
            sketch.add(Polygon(rectangle(side[0], side[2], side[1], side[3]), None, "concrete_line", 0.8, hatch=True))
        x0, x1, y0, y1 = part.box
        sketch.add(Polygon(rectangle(x0, y0, x1, y1), None, "ink", 1.2, dash=True))
    for rib in plate.ribs:
        x0, x1, y0, y1 = pad.rib_box(rib)
        sketch.add(
            Polygon(
                rectangle(x0, y0, x1, y1),
                None,
                "accent" if lit_ribs else "concrete_line",
                2.2 if lit_ribs else 1.2,
                dash=rib.side == "below",
                key=f"rib:{rib.name}",
            )
        )
    for hole in plate.openings:
        sketch.add(
            Polygon(rectangle(hole.x_from, hole.y_from, hole.x_to, hole.y_to), "paper", "concrete_line", 1.4),
            Text(
                ((hole.x_from + hole.x_to) / 2, (hole.y_from + hole.y_to) / 2),
                say("open"),
                10,
                "soft",
                "middle",
                dy=4,
            ),
        )
    sketch.layer = "bars"
    for added in plate.added:
        sketch.add(
            Polygon(
                rectangle(added.x_from, added.y_from, added.x_to, added.y_to),
                None,
                "steel_x" if added.face.endswith("x") else "steel_y",
                1.2,
                dash=True,
            )
        )


def _part_names(sketch: Sketch, pad: Pad, units: Showing) -> None:
    """Of ribs and lower parts."""
    plate = pad.plate
    if plate is None:
        return
    for rib in plate.ribs:
        x0, x1, y0, y1 = pad.rib_box(rib)
        at = (x1, rib.at) if rib.axis == "x" else (rib.at, y0)
        along = rib.axis == "x"
        sketch.add(
            Text(
                at,
                rib.name,
                10,
                "soft",
                "right" if along else "middle",
                dx=-4 if along else 0,
                dy=4 if along else -5,
                halo=True,
            )
        )
    for part in plate.lower:
        x0, x1, y0, y1 = part.box
        words_of = f"−{length_text(part.drop, units)}"
        sketch.add(Text(((x0 + x1) / 2, (y0 + y1) / 2), words_of, 10, "ink", "middle", dy=4, halo=True))


def _sizes(sketch: Sketch, B: float, L: float, units: Showing) -> None:
    sketch.add(
        Dimension(
            (-B / 2, L / 2),
            (B / 2, L / 2),
            f"B {length_text(B, units)}",
            0.02 * max(B, L),
            left=True,
            size=11,
        ),
        Dimension(
            (-B / 2, -L / 2),
            (-B / 2, L / 2),
            f"L {length_text(L, units, False)}",
            0.02 * max(B, L),
            left=True,
            size=11,
        ),
    )


def _all_words(project: Project, pad: Pad, field: Field | str) -> list[str]:
    """The lines below the drawing."""
    units = project.showing
    words = wrap(field, 60) if isinstance(field, str) else list(_words(field, units))
    if isinstance(field, Field) and (short := lacking_words(field, pad, project.units == "us", units)):
        words.insert(2, short)
    if (stiff := stiffness_of(project, pad)) is not None:
        values = ", ".join(say("λL along {axis} {along:.2f}", axis=axis, along=stiff.along(axis)) for axis in "xy")
        words += [values, say("{word} (Hetenyi 1946)", word=stiff.word(max(stiff.x, stiff.y)))]
    return words


def _reaching_over(field: Field, pad: Pad) -> Field:
    """A field that goes on a little beyond an outline that cuts through between its places."""
    from shapely import Polygon as Area
    from shapely import contains_xy

    X, Y = np.meshgrid(field.x, field.y, indexing="ij")
    outside = ~contains_xy(Area(pad.outline).buffer(1e-6), X, Y)
    values = field.values.copy()
    for _ in range(2):
        padded = np.pad(values, 1, constant_values=np.nan)
        i, j = values.shape
        around = np.stack([padded[a : a + i, b : b + j] for a in range(3) for b in range(3)])
        known = ~np.isnan(around)
        count = known.sum(axis=0)
        mean = np.where(known, around, 0.0).sum(axis=0) / np.maximum(count, 1)
        values = np.where(np.isnan(values) & outside & (count > 0), mean, values)
    return replace(field, values=values)


def _beyond(field: Field, pad: Pad) -> tuple[Point, ...]:
    """What lies between the outline and a box around it: the outline as a hole."""
    e = 0.01 * max(pad.width, pad.length)
    box = rectangle(field.x[0] - e, field.y[0] - e, field.x[-1] + e, field.y[-1] + e)
    hole = [*pad.outline[::-1], pad.outline[-1]]
    return (*box, box[0], *hole, box[0])


def _ways(sketch: Sketch, field: Field, corner: Point, size: float) -> None:
    """Below the raft a line both ways, as the bars run that a moment or steel is about."""
    axis = {"m_x": "x", "m_y": "y"}.get(field.name, field.name[-1] if field.provided is not None else "")
    if axis not in ("x", "y"):
        return
    colour, half = f"steel_{axis}", 0.05 * size
    x, y = corner[0] - 1.4 * half, corner[1] - 1.5 * half
    a, b = ((x - half, y), (x + half, y)) if axis == "x" else ((x, y - half), (x, y + half))
    for ends in ((a, b), (b, a)):
        sketch.add(Line(ends, colour, 2.0, arrow=True))
    sketch.add(Text((x - 1.3 * half, y), say("bars along {axis}", axis=axis), 10, colour, "right", dy=4))


def _words(field: Field, units: Showing) -> tuple[str, ...]:
    """What is shown, between which values, and by what it was solved: a line each."""
    known = field.values[~np.isnan(field.values)]
    low, high = (_shown(float(v), field.unit, units) for v in (known.min(), known.max()))
    return (
        f"{field.what} · {field.situation}",
        say("from {low} to {high} {unit}", low=low, high=high, unit=_unit(field.unit, units)),
        say(
            "{unknowns} unknowns, moments to about {error:.1f} %, out of balance {residual:.0e}",
            unknowns=field.unknowns,
            error=100 * field.error,
            residual=field.residual,
        ),
    )


def _unit(unit: str, units: Showing) -> str:
    return unit if unit in ("mm²/m", "kNm/m", "kN/m") and units.system == "metric" else shown_unit(unit, units)


def _shown(value: float, unit: str, units: Showing) -> str:
    return show(value, unit, units)


def _bands(sketch: Sketch, field: Field, units: Showing, away: list[Point]) -> None:
    """Filled bands between round values, darker the greater the size, and labelled isolines."""
    known = field.values[~np.isnan(field.values)]
    low, high = float(known.min()), float(known.max())
    factor = to_shown(1.0, field.unit, units)
    levels = [v / factor for v in levels_of(low * factor, high * factor)]
    edges = [
        low - 1e-9 * abs(low) - 1e-9,
        *[v for v in levels if low < v < high],
        high + 1e-9 * abs(high) + 1e-9,
    ]
    most = max(abs(low), abs(high), 1e-12)
    generator = contour_generator(
        field.x,
        field.y,
        np.ma.masked_invalid(field.values.T),
        fill_type=FillType.OuterOffset,
        line_type=LineType.Separate,
    )
    for a, b in pairwise(edges):
        shade = min(abs((a + b) / 2) / most, 1.0) * (1.0 if (a + b) / 2 >= 0 else 0.45)
        token = f"field:{shade:.3f}" if (a + b) / 2 >= 0 else f"ratio:{0.5 + 0.42 * shade:.3f}"
        for outline, offsets in zip(*generator.filled(a, b)):
            sketch.add(Polygon(_bridged(outline, offsets), token, None))
    labelled = list(away)
    for value in [v for v in levels if low < v < high]:
        for points in generator.lines(value):
            if len(points) < 2:
                continue
            sketch.add(Line(tuple(map(_point, points)), "paper", 0.9))
            places = np.asarray(points, dtype=float)
            length = float(np.hypot(*np.diff(places, axis=0).T).sum())
            at = _point(places[len(places) // 2])
            span = float(field.x[-1] - field.x[0])
            if length > 0.25 * span and all(math.dist(at, other) > 0.11 * span for other in labelled):
                labelled.append(at)
                sketch.add(Text(at, _shown(value, field.unit, units), 9.5, "ink", "middle", dy=4, halo=True))


def _point(row: Array) -> Point:
    return float(row[0]), float(row[1])


def _bridged(outline: Array, offsets: Array) -> tuple[Point, ...]:
    """An outline with its holes as one closed line: to each hole and back along the same way."""
    points: list[Point] = []
    start = _point(outline[0])
    for a, b in pairwise(offsets):
        points += [_point(row) for row in outline[a:b]]
        points.append(start)
    return tuple(points)


def _punching(sketch: Sketch, found: tuple[Punched, ...], lit: bool) -> None:
    """The perimeter that governs at every column; the worst one bold."""
    worst = max((one.ratio for one in found), default=0.0)
    for one in found:
        colour, bold = "beyond" if one.ratio > 1 else "accent", one.ratio == worst
        for line in one.lines:
            sketch.add(Line(line, colour, 2.6 if lit or bold else 1.2, key="check:punching"))


def _columns(sketch: Sketch, project: Project, pad: Pad, result: PadResult) -> None:
    """Columns and walls; the one that punches worst is marked with its ratio."""
    first = project.load_point(pad.load_point)
    punching = [c for c in result.checks if c.check.id == "punching"]
    said = punching[0].message if punching and punching[0].ratio is not None else ""
    worst = english(said).removeprefix("thickening below ").split(" ")[0]
    for name in pad.carries:
        point = project.load_point(name)
        x, y = (pad.offset_x, pad.offset_y) if name == pad.load_point else local_place(pad, first, point)
        a, b = standing_size(pad, point)
        sketch.add(
            Polygon(
                rectangle(x - a / 2, y - b / 2, x + a / 2, y + b / 2),
                "ink",
                "ink",
                key="check:punching" if name == worst else f"point:{name}",
            )
        )
        text = name
        tone = "ink"
        if name == worst and punching[0].ratio is not None:
            text, tone = (
                say("{name} punching {ratio}", name=name, ratio=show_ratio(punching[0].ratio)),
                "beyond" if punching[0].ratio > 1 else "ink",
            )
        if pad.carries and (name == worst or len(pad.carries) <= 30):
            left = x > 0.3 * pad.width
            sketch.add(
                Text(
                    (x - a / 2 if left else x + a / 2, y + b / 2),
                    text,
                    9.5,
                    tone,
                    "right" if left else "left",
                    dx=-3 if left else 3,
                    dy=-2,
                    halo=True,
                    bold=name == worst,
                )
            )


def _places(project: Project, pad: Pad) -> list[Point]:
    """The middles of columns and walls: their names stand there."""
    first = project.load_point(pad.load_point)
    return [
        (pad.offset_x, pad.offset_y),
        *(local_place(pad, first, project.load_point(n)) for n in pad.further),
    ]


def _short(sketch: Sketch, field: Field) -> None:
    """Where there is less steel than is asked for."""
    assert field.provided is not None
    for i in range(len(field.x) - 1):
        for j in range(len(field.y) - 1):
            asked, there = field.values[i : i + 2, j : j + 2], field.provided[i : i + 2, j : j + 2]
            if not np.isnan(asked).any() and (asked > there * (1 + 1e-9)).all():
                sketch.add(
                    Polygon(
                        rectangle(field.x[i], field.y[j], field.x[i + 1], field.y[j + 1]),
                        None,
                        None,
                        hatch=True,
                    )
                )


def lacking_words(field: Field, pad: Pad, us: bool, units: Showing) -> str:
    """By how much steel is short where it is shortest, and in bars of the diameter of the basic ones that would make up
    for it; '' where none is."""
    if field.provided is None:
        return ""
    lacks = float(np.nanmax(np.nan_to_num(field.values - field.provided, nan=0.0)))
    if lacks <= 1e-6 * float(np.nanmax(field.values)):
        return ""
    basic = pad.reinforcement.bars(field.name)
    diameter = basic.diameter if basic is not None and basic.diameter > 0 else BESIDE
    step = INCH / 2 if us else 0.005
    spacing = step * math.floor(1e6 * math.pi * diameter**2 / 4 / lacks / step + 1e-9)
    more = bar_words(Bars(diameter=diameter, spacing=spacing), us) if spacing > diameter else say("more than one layer")
    return say(
        "short by {shown} {unit} at most: {more} beside what there is",
        shown=_shown(lacks, "mm²/m", units),
        unit=_unit("mm²/m", units),
        more=more,
    )


BESIDE = 0.016
"""Bars by which a lack of steel is told where there are no basic ones, m."""


def _extremes(sketch: Sketch, field: Field, units: Showing) -> None:
    """Greatest and least, where they are."""
    for pick, mark in ((np.nanargmax, "▲"), (np.nanargmin, "▽")):
        i, j = np.unravel_index(pick(field.values), field.values.shape)
        at = (float(field.x[i]), float(field.y[j]))
        anchor: Anchor = "right" if at[0] > 0.6 * field.x[-1] else "left"
        sketch.add(
            Text(
                at,
                f"{mark} {_shown(float(field.values[i, j]), field.unit, units)}",
                10,
                "ink",
                anchor,
                bold=True,
                dx=-4 if anchor == "right" else 4,
                dy=12,
                halo=True,
            )
        )


def _line(sketch: Sketch, line: tuple[Point, Point, float], units: Showing) -> None:
    (ax, ay), (bx, by), band = line
    length = max(math.hypot(bx - ax, by - ay), 1e-9)
    c, s = (bx - ax) / length, (by - ay) / length

    def beside(x: float, y: float, far: float) -> Point:
        return x - s * far, y + c * far

    low, high = ((beside(ax, ay, f), beside(bx, by, f)) for f in (-band / 2, band / 2))
    upright = abs(s) > abs(c)
    sketch.add(
        Polygon((low[0], low[1], high[1], high[0]), "accent", None, opacity=0.16, key="transect"),
        Line(((ax, ay), (bx, by)), "accent", 2.0, key="transect"),
        Text(
            max(high, key=lambda p: p[1] if upright else p[0]),
            say("band {length}", length=length_text(band, units, False)),
            9.5,
            "accent",
            "left" if upright else "right",
            dx=-4,
            dy=-3,
            halo=True,
        ),
    )


Part = tuple[str, str, tuple[tuple[Array, str, bool], ...], bool]
"""Title, unit, lines (values, colour, whether it is what there is), whether positive values are drawn downwards."""


def _of_steel(found: Transect) -> tuple[Part, ...]:
    own = f"steel_{found.axis}"
    return (
        (say("moment"), "kNm/m", ((found.most, "accent", False), (found.least, "beyond", False)), True),
        (
            say("bottom {axis}", axis=found.axis),
            "mm²/m",
            ((found.bottom, own, False), (found.bottom_has, "ink", True)),
            False,
        ),
        (say("top {axis}", axis=found.axis), "mm²/m", ((found.top, own, False), (found.top_has, "ink", True)), False),
    )


def _of_ground(found: Transect) -> tuple[Part, ...]:
    return (
        (
            say("settlement, lasting"),
            "mm",
            ((found.settled_most, "accent", False), (found.settled_least, "soft", False)),
            True,
        ),
        (
            say("pressure"),
            "kPa",
            ((found.pressure_most, "accent", False), (found.pressure_least, "soft", False)),
            True,
        ),
        (say("shear"), "kN/m", ((found.shear_most, "accent", False), (found.shear_least, "beyond", False)), False),
    )


def _of_line(found: RaftLine, of_ground: bool) -> tuple[Part, ...]:
    """Of a line anywhere: bars run along x and y, not along it."""

    def two(pair: tuple[Array, Array], other: str) -> tuple[tuple[Array, str, bool], ...]:
        return (pair[0], "accent", False), (pair[1], other, False)

    if of_ground:
        return (
            (say("settlement, lasting"), "mm", two(found.settled, "soft"), True),
            (say("pressure"), "kPa", two(found.pressure, "soft"), True),
            (say("shear"), "kN/m", two(found.shear, "beyond"), False),
        )
    steel = tuple(
        (
            say("{face} steel, x and y", face=label(face)),
            "mm²/m",
            tuple(
                (v[f"{face}_{axis}"], f"steel_{axis}", there)
                for axis in "xy"
                for v, there in ((found.asked, False), (found.provided, True))
            ),
            False,
        )
        for face in ("bottom", "top")
    )
    return (
        (say("moment along the line"), "kNm/m", two(found.moment, "beyond"), True),
        ("twist", "kNm/m", two(found.twist, "beyond"), True),
        *steel,
    )


def transect_drawing(
    found: Transect | RaftLine | str, units: Showing, aspect: float, of_ground: bool = False
) -> Drawing:
    """Moment along the line as an envelope, and the steel asked for below and above against what there is; or
    settlement, pressure and shear."""
    if isinstance(found, str):
        return Drawing((Text((0, 0), found, 11, "soft", "middle"),), (-1, -1, 1, 1))
    high = WIDE / max(aspect, 0.4)
    sketch = Sketch()
    first, last = float(found.places[0]), float(found.places[-1])

    def along(place: float) -> float:
        return WIDE * (place - first) / (last - first)

    parts = [p for p in _parts_of(found, of_ground) if not all(np.isnan(v).all() for v, _, _ in p[2])]
    room = high / len(parts)
    for k, (title, unit, lines, both) in enumerate(parts):
        base = high - (k + 1) * room
        values = np.concatenate([v[~np.isnan(v)] for v, _, _ in lines])
        top_value, low_value = max(float(values.max()), 0.0), min(float(values.min()), 0.0)
        span = max(top_value - low_value, 1e-9)
        # what pulls below is drawn below
        down = -1.0 if both else 1.0
        zero = base + room * (0.16 + 0.6 * (top_value if both else -low_value) / span)
        scale = 0.6 * room / span
        sketch.add(Line(((0.0, zero), (WIDE, zero)), "ink", 1.0))
        sketch.add(Text((0.0, base + 0.84 * room), f"{title}, {_unit(unit, units)}", 11, "ink", bold=True, dy=-4))
        for values_of, colour, is_there in lines:
            for stretch in _stretches(found.places, values_of):
                sketch.add(
                    Line(
                        tuple((along(x), zero + down * scale * v) for x, v in stretch),
                        colour,
                        1.6 if not is_there else 1.2,
                        dash=is_there,
                    )
                )
            known = np.where(np.isnan(values_of), -np.inf, np.abs(values_of))
            at = int(known.argmax())
            if known[at] > 0.04 * span:
                v = float(values_of[at])
                x = along(float(found.places[at]))
                anchor: Anchor = "left" if x < 0.15 * WIDE else "right" if x > 0.85 * WIDE else "middle"
                text = say("has {steel}", steel=_shown(v, unit, units)) if is_there else _shown(v, unit, units)
                sketch.add(
                    Text(
                        (x if not is_there else WIDE, zero + down * scale * v),
                        text,
                        10,
                        colour if is_there else "ink",
                        anchor if not is_there else "right",
                        bold=not is_there,
                        dy=12 if down * v < 0 else -4,
                        halo=True,
                    )
                )
    unit = shown_unit("m", units)
    sketch.add(
        Text((0.0, 0.0), f"{show_length(first, units)} {unit}", 10, "soft", dy=14),
        Text((WIDE, 0.0), f"{show_length(last, units)} {unit}", 10, "soft", "right", dy=14),
        Text(
            (WIDE / 2, 0.0),
            say("mean over {length}, all situations", length=length_text(found.band, units)),
            10,
            "soft",
            "middle",
            dy=14,
        ),
    )
    return Drawing(tuple(sketch.shapes), (0.0, 0.0, WIDE, high))


WIDE = 10.0


def _parts_of(found: Transect | RaftLine, of_ground: bool) -> tuple[Part, ...]:
    if isinstance(found, RaftLine):
        return _of_line(found, of_ground)
    return _of_ground(found) if of_ground else _of_steel(found)


def _stretches(places: Array, values: Array) -> list[list[Point]]:
    """The line through known values, broken where none is known."""
    found: list[list[Point]] = [[]]
    for x, v in zip(places, values):
        if np.isnan(v):
            found.append([])
        else:
            found[-1].append((float(x), float(v)))
    return [part for part in found if len(part) > 1]
