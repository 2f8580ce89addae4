"""Bars of a base from above, by face."""

import itertools
import math

from korbent.core.concrete.bar_text import diameter_words
from korbent.core.concrete.interface import dowels_of
from korbent.core.concrete.schedule import positions, stretches, trimmers
from korbent.core.model import Bars, Pad, Project
from korbent.core.model.labels import label
from korbent.core.model.reinforcement import Dowels
from korbent.drawing.plan import edge_of, rim, turned
from korbent.drawing.primitives import Dimension, Disc, Drawing, Line, Point, Polygon, Sketch, Spot, Text, rectangle
from korbent.drawing.reinforcement import around
from korbent.sheets.details.marks import Marks, bar_label
from korbent.sheets.details.places import place_of
from korbent.sheets.foundation_plan import length_words
from korbent.words import say

SHOWN = 3
"""Bars of a layer that are drawn; the others are labelled."""


def from_above(project: Project, pad: Pad, face: str, marks: Marks, mm: float) -> Drawing:
    """The base from above with the bars of a face: some are drawn, all are labelled; ``mm`` is 1 mm of paper in m."""
    sketch = Sketch()
    B, L = pad.width, pad.extent
    edge = edge_of(pad)
    with sketch.on("foundations"):
        sketch.add(Polygon(edge, None, "ink", 2.2, key=f"base:{pad.name}"))
        if pad.bore:
            sketch.add(Polygon(tuple(rim(pad.bore / 2)), None, "ink", 2.2))
        for hole in pad.openings:
            sketch.add(Disc((hole.x, hole.y), hole.diameter / 2, "paper", "ink", 1.2))
        for region in pad.plate.openings if pad.plate else ():
            box = rectangle(region.x_from, region.y_from, region.x_to, region.y_to)
            sketch.add(
                Polygon(box, "paper", "ink", 1.8),
                Line((box[0], box[2]), "soft", 0.7),
                Line((box[1], box[3]), "soft", 0.7),
            )
        for region in (*pad.plate.thickenings, *pad.plate.lower) if pad.plate else ():
            sketch.add(
                Polygon(rectangle(region.x_from, region.y_from, region.x_to, region.y_to), None, "ink", 1.0, dash=True)
            )
    _ribs(sketch, pad)
    columns_from_above(sketch, project, pad, mm)
    _names_of_ribs(sketch, project, pad)
    if project.settings_of(pad).base_concrete == "reinforced":
        for axis in ("x", "y"):
            bars = pad.reinforcement.bars(f"{face}_{axis}")
            if bars is not None:
                layer_from_above(sketch, project, pad, face, axis, bars, marks, mm)
        for k, added in enumerate(pad.plate.added if pad.plate else ()):
            if added.face.startswith(face):
                _added(sketch, project, pad, k, marks, mm)
        _trimmers(sketch, project, pad, face, marks)
    else:
        sketch.add(Text((0, -L / 2), say("plain concrete"), 10, "soft", "middle", dy=-8))
    units = project.showing
    with sketch.on("dimensions"):
        sketch.add(
            Dimension(
                (-B / 2, L / 2),
                (B / 2, L / 2),
                f"ø {length_words(B, units)}" if pad.is_round else length_words(B, units),
                7 * mm,
                True,
            )
        )
        if not pad.is_round:
            for end, size, left in ((-1, pad.length_at(-B / 2), True), (1, pad.length_at(B / 2), False)):
                if end > 0 and pad.shape != "trapezoid":
                    continue
                sketch.add(
                    Dimension(
                        (end * B / 2, -size / 2), (end * B / 2, size / 2), length_words(size, units), 7 * mm, left
                    )
                )
            _to_columns(sketch, project, pad, mm)
    return Drawing(tuple(sketch.shapes), (-B / 2 - 16 * mm, -L / 2 - 24 * mm, B / 2 + 42 * mm, L / 2 + 12 * mm))


def _ribs(sketch: Sketch, pad: Pad) -> None:
    """Ribs of a raft, dashed where they lie below."""
    for rib in pad.plate.ribs if pad.plate else ():
        x0, x1, y0, y1 = pad.rib_box(rib)
        with sketch.on("foundations"):
            sketch.add(
                Polygon(rectangle(x0, y0, x1, y1), None, "ink", 1.0, dash=rib.side == "below", key=f"rib:{rib.name}")
            )


def _names_of_ribs(sketch: Sketch, project: Project, pad: Pad) -> None:
    """The name of each rib where it is furthest from columns and from other ribs: its bars stand in the cut across."""
    taken = [place_of(project, pad, name) for name in pad.carries]
    ribs = pad.plate.ribs if pad.plate else ()
    for rib in ribs:
        x0, x1, y0, y1 = pad.rib_box(rib)
        others = [o for o in ribs if o.axis != rib.axis]
        crossed = [sum(pad.rib_box(o)[:2]) / 2 if rib.axis == "x" else sum(pad.rib_box(o)[2:]) / 2 for o in others]

        def room(at: Point, axis: str = rib.axis, crossed: list[float] = crossed) -> float:
            near = min((math.dist(at, p) for p in taken), default=9.0)
            return min(near, *(abs(c - at[0 if axis == "x" else 1]) for c in crossed), 9.0)

        shares = [k / 40 for k in range(1, 40)]
        places = [
            (x0 + t * (x1 - x0), (y0 + y1) / 2) if rib.axis == "x" else ((x0 + x1) / 2, y0 + t * (y1 - y0))
            for t in shares
        ]
        ordered = sorted(places, key=room, reverse=True)
        with sketch.on("texts"):
            sketch.add(
                Text(
                    ordered[0],
                    rib.name,
                    9,
                    "ink",
                    "middle",
                    True,
                    dy=4,
                    halo=True,
                    spots=tuple(Spot(p, "middle", 0, 4) for p in ordered[1:8]),
                )
            )


def _to_columns(sketch: Sketch, project: Project, pad: Pad, mm: float) -> None:
    """From edge to columns to edge below the base, where a column stands off its middle or several stand on it."""
    places = [place_of(project, pad, name) for name in pad.carries]
    if (len(places) == 1 and abs(places[0][0]) < 1e-6) or len(places) > 8:
        return
    stops = sorted({round(x, 3) for x, _ in places} | {-pad.width / 2, pad.width / 2})
    for a, b in itertools.pairwise(stops):
        if b - a > 0.02:
            sketch.add(
                Dimension((a, -pad.extent / 2), (b, -pad.extent / 2), length_words(b - a, project.showing), 18 * mm)
            )


def columns_from_above(sketch: Sketch, project: Project, pad: Pad, mm: float) -> None:
    """Columns with pedestals, dowels, base plates."""
    for name in pad.carries:
        point = project.load_point(name)
        at = place_of(project, pad, name)
        turn = point.rotation - pad.rotation
        pedestal = pad.pedestal_under(name)
        with sketch.on("columns"):
            if pedestal is not None:
                sketch.add(
                    Polygon(_box(pedestal.size_x, pedestal.size_y, pedestal.is_round, turn, at), "paper", "ink", 1.4)
                )
            if point.plate_x and point.plate_y:
                sketch.add(Polygon(_box(point.plate_x, point.plate_y, False, turn, at), None, "ink", 1.0, dash=True))
            sketch.add(
                Polygon(
                    _box(point.size_x, point.size_y, point.is_round, turn, at),
                    "faint",
                    "ink",
                    1.4,
                    key=f"column:{name}",
                )
            )
            for p in turned(list(point.anchors.places()), turn, at) if point.anchors is not None else ():
                sketch.add(Disc(p, max(point.anchors.diameter / 2, 0.3 * mm), "paper", "ink", 1.0, key="anchor"))
        dowels = dowels_of(pad, name)
        if dowels and (pedestal is not None or point.kind != "steel_column"):
            with sketch.on("bars"):
                size = (pedestal.size_x, pedestal.size_y) if pedestal else (point.size_x, point.size_y)
                inset = project.settings_of(pad).concrete_cover + dowels.diameter / 2
                for p in turned(
                    dowel_places(dowels, size, inset, bool(pedestal.is_round if pedestal else point.is_round)),
                    turn,
                    at,
                ):
                    sketch.add(Disc(p, max(dowels.diameter / 2, 0.25 * mm), "ink", None))
        if len(pad.carries) > 1:
            sketch.add(
                Text(
                    at,
                    name,
                    9,
                    "ink",
                    dx=7,
                    dy=-7,
                    halo=True,
                    spots=(Spot(at, "right", -7, -7), Spot(at, "left", 7, 14)),
                )
            )


def _box(a: float, b: float, is_round: bool, turn: float, at: Point) -> tuple[Point, ...]:
    return turned(rim(a / 2, 36) if is_round else list(rectangle(-a / 2, -b / 2, a / 2, b / 2)), turn, at)


def dowel_places(dowels: Dowels, size: tuple[float, float], inset: float, is_round: bool) -> list[Point]:
    if is_round:
        r = size[0] / 2 - inset
        return [
            (r * math.cos(2 * math.pi * i / dowels.number), r * math.sin(2 * math.pi * i / dowels.number))
            for i in range(dowels.number)
        ]
    return around(size[0] - 2 * inset, size[1] - 2 * inset, dowels.number)


def _span(pad: Pad, axis: str, at: float) -> tuple[float, float] | None:
    """The longest stretch of concrete along an axis at a place across it."""
    return max(stretches(pad, axis, at, 0.0), key=lambda s: s[1] - s[0], default=None)


def layer_from_above(
    sketch: Sketch, project: Project, pad: Pad, face: str, axis: str, bars: Bars, marks: Marks, mm: float
) -> None:
    """A layer: three bars near the upper (left) side, an arrow over all of its width, and its label."""
    cover = project.settings_of(pad).concrete_cover
    across = pad.extent if axis == "x" else pad.width
    places = positions(across, cover, bars)
    # apart from the bars of the other direction and from the columns in the middle
    share = 0.74 if axis == "x" else 0.27
    middle = min(range(len(places)), key=lambda i: abs(i - share * (len(places) - 1)))
    chosen = places[max(middle - 1, 0) : max(middle - 1, 0) + SHOWN]
    tone = f"steel_{axis}"

    def ends(at: float) -> tuple[Point, Point] | None:
        span = _span(pad, axis, at)
        if span is None or span[1] - span[0] < 2.5 * cover:
            return None
        low, high = span[0] + cover, span[1] - cover
        return ((low, at), (high, at)) if axis == "x" else ((at, low), (at, high))

    with sketch.on("bars"):
        drawn = [e for at in chosen if (e := ends(at)) is not None]
        for a, b in drawn:
            sketch.add(Line((a, b), tone, 2.2, key=f"bar:{face}-{axis}"))
        if not drawn:
            return
    a, b = drawn[len(drawn) // 2]
    # the arrow across, where the bars are spread over
    share_along = 0.86 if axis == "x" else 0.14
    x, y = a[0] + share_along * (b[0] - a[0]), a[1] + share_along * (b[1] - a[1])
    low, high = places[0], places[-1]
    line = ((x, low), (x, high)) if axis == "x" else ((low, y), (high, y))
    with sketch.on("dimensions"):
        sketch.add(
            Line((line[1], line[0]), tone, 0.9, arrow=True),
            Line(line, tone, 0.9, arrow=True),
            Disc((x, y), 2.2, tone, None, fixed=True),
        )
    marked = bar_label(project, pad.name, label(f"{face}_{axis}"), bars, marks)
    with sketch.on("texts"):
        if axis == "x":
            # beside the base, at the height of the bar that is marked
            to = (pad.width / 2 + 3 * mm, y)
            sketch.add(Line(((x, y), to), tone, 0.6), Text(to, marked, 10, tone, "left", True, dx=4, dy=4, fixed=True))
        else:
            to = (x, -pad.extent / 2 - 9 * mm)
            sketch.add(Line(((x, y), to), tone, 0.6), Text(to, marked, 10, tone, "left", True, dx=4, dy=3, fixed=True))


def _added(sketch: Sketch, project: Project, pad: Pad, k: int, marks: Marks, mm: float) -> None:
    """A region of added bars: its border dashed, one bar, its label."""
    assert pad.plate is not None
    added = pad.plate.added[k]
    axis, tone = added.face[-1], f"steel_{added.face[-1]}"
    x0, x1, y0, y1 = added.x_from, added.x_to, added.y_from, added.y_to
    box = rectangle(x0, y0, x1, y1)
    place = say("added {face}", face=label(added.face))
    marked = f"+ {bar_label(project, pad.name, place, added.bars, marks)}"
    mid = ((x0 + x1) / 2, (y0 + y1) / 2)
    bar = ((x0, mid[1]), (x1, mid[1])) if axis == "x" else ((mid[0], y0), (mid[0], y1))
    with sketch.on("bars"):
        sketch.add(Polygon(box, None, tone, 0.8, dash=True), Line(bar, tone, 2.0))
    spots = (
        Spot(mid, "middle", 0, 12),
        Spot((x0, y1), "left", 3, 11),
        Spot((x0, y0), "left", 3, -4),
        Spot((x1, y1), "right", -3, 11),
    )
    with sketch.on("texts"):
        sketch.add(Text(mid, marked, 9, tone, "middle", True, dy=-4, halo=True, spots=spots))


def _trimmers(sketch: Sketch, project: Project, pad: Pad, face: str, marks: Marks) -> None:
    """The bars beside openings: one drawn at each side, all told."""
    us = project.units == "us"
    for one in trimmers(project, pad):
        if not one.face.startswith(face):
            continue
        axis, tone = one.face[-1], f"steel_{one.face[-1]}"
        ends = ((one.low, one.at), (one.high, one.at)) if axis == "x" else ((one.at, one.low), (one.at, one.high))
        mark = marks.word(pad.name, say("beside openings {face}", face=label(one.face)))
        marked = f"{one.count} {diameter_words(one.diameter, us)} - {mark}"
        with sketch.on("bars"):
            sketch.add(Line(ends, tone, 2.4, key="trimmer"))
        at = ends[1]
        spots = (
            Spot(at, "left", 4, 3),
            Spot(ends[0], "right", -4, 3),
            Spot(at, "middle", 0, -6),
            Spot(ends[0], "middle", 0, 14),
        )
        with sketch.on("texts"):
            sketch.add(Text(at, marked, 9, tone, "left", True, dx=4, dy=3, halo=True, spots=spots))
