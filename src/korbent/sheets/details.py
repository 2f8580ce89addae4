"""Details of a base that it is built from: bars from above by face, sections with hooks, laps, dowels, ties, cover,
blinding and levels."""

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

from korbent.core.concrete.bar_text import diameter_words
from korbent.core.concrete.fabric import INCH
from korbent.core.concrete.interface import dowels_of
from korbent.core.concrete.schedule import (
    CLOSED,
    HOOKED,
    STRAIGHT,
    Bar,
    in_base,
    lap_of,
    positions,
    schedule,
    sheets,
    stretches,
    trimmers,
)
from korbent.core.geometry import local_place, standing_size
from korbent.core.model import Bars, LoadPoint, Pad, Project
from korbent.core.model.foundations import Strap
from korbent.core.model.labels import label
from korbent.core.model.plate import Rib
from korbent.core.model.reinforcement import Dowels
from korbent.core.units import length_text
from korbent.drawing.logs import signed
from korbent.drawing.plan import edge_of, rim, turned
from korbent.drawing.primitives import (
    Dimension,
    Disc,
    Drawing,
    Leader,
    Line,
    Point,
    Polygon,
    Shape,
    Sketch,
    Spot,
    Text,
    rectangle,
)
from korbent.drawing.reinforcement import around
from korbent.sheets.foundation_plan import WORKING_SPACE, length_words
from korbent.words import english, say

BLINDING = 0.075
"""Drawn below bases that are cast against it, m."""
SHOWN = 3
"""Bars of a layer that are drawn; the others are labelled."""
STUMP = 0.45
"""How much of a column is drawn above the base, m."""


@dataclass(frozen=True)
class Marks:
    """Marks of the schedule of the whole project, by base and place in it."""

    bars: dict[tuple[str, str], tuple[tuple[Bar, int], ...]]
    fabrics: dict[tuple[str, str], str]

    def of(self, base: str, place: str) -> tuple[tuple[Bar, int], ...]:
        """(bar, how many) of a place in a base."""
        return self.bars.get((base, place), ())

    def word(self, base: str, place: str) -> str:
        """The marks of a place: 03, or 03–07 where bars of several lengths lie there."""
        found = sorted({bar.mark for bar, _ in self.of(base, place)})
        if not found:
            return self.fabrics.get((base, english(place).partition(" ")[0]), "")
        return found[0] if len(found) == 1 else f"{found[0]}–{found[-1]}"

    def count(self, base: str, place: str) -> int:
        """How many bars lie there."""
        return sum(n for _, n in self.of(base, place))


def marks_of(project: Project) -> Marks:
    """The marks of all bars and fabrics of a project."""
    found: dict[tuple[str, str], list[tuple[Bar, int]]] = {}
    for bar in schedule(project):
        for base, place, count in bar.where:
            found.setdefault((base, place), []).append((bar, count))
    fabrics = {(base, place): s.mark for s in sheets(project) for base, place, _ in s.where}
    return Marks({k: tuple(v) for k, v in found.items()}, fabrics)


def bar_label(project: Project, pad: str, place: str, bars: Bars, marks: Marks) -> str:
    """``n ø - spacing - mark``: 14 ø16 - 150 - 03."""
    us = project.units == "us"
    mark = marks.word(pad, place)
    if bars.fabric:
        return f"{bars.fabric} - {mark}" if mark else bars.fabric
    count = marks.count(pad, place)
    parts = [f"{count} {diameter_words(bars.diameter, us)}" if count else diameter_words(bars.diameter, us)]
    if bars.spacing:
        parts.append(f'{bars.spacing / INCH:.3g}"' if us else f"{1000 * bars.spacing:.0f}")
    return " - ".join([*parts, mark] if mark else parts)


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
    _columns(sketch, project, pad, mm)
    _names_of_ribs(sketch, project, pad)
    if project.settings_of(pad).base_concrete == "reinforced":
        for axis in ("x", "y"):
            bars = pad.reinforcement.bars(f"{face}_{axis}")
            if bars is not None:
                _layer(sketch, project, pad, face, axis, bars, marks, mm)
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
    taken = [_place(project, pad, name) for name in pad.carries]
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


def rib_section(project: Project, pad: Pad, rib: Rib, marks: Marks, mm: float) -> Drawing:
    """A rib of a raft cut across: size, bars, links, and the plate above or below it."""
    cover, h, us = project.settings_of(pad).concrete_cover, pad.thickness, project.units == "us"
    sketch = Sketch()
    wide, deep, wing = rib.width, rib.depth, 6 * mm
    below = rib.side == "below"
    y0, y1 = (h - deep, h) if below else (0.0, deep)
    outer, inner = (h, 0.0) if below else (0.0, h)
    straight = ((-wing, outer), (wide + wing, outer))
    stepped = (
        (-wing, inner),
        (0.0, inner),
        (0.0, y0 if below else y1),
        (wide, y0 if below else y1),
        (wide, inner),
        (wide + wing, inner),
    )
    with sketch.on("foundations"):
        sketch.add(Line(straight, "ink", 1.8), Line(stepped, "ink", 1.8))
    lines = [f"{length_words(wide, project.showing)} × {length_words(deep, project.showing)}"]
    with sketch.on("bars"):
        sketch.add(
            Polygon(
                rectangle(cover, y0 + cover, wide - cover, y1 - cover),
                None,
                "steel_y",
                1.4,
                key=f"bar:links {rib.name}",
            )
        )
        for face, bars, y in (("top", rib.top, y1 - cover - 0.02), ("bottom", rib.bottom, y0 + cover + 0.02)):
            place = say("rib {rib} {face}", rib=rib.name, face=label(face))
            count = bars.number or marks.count(pad.name, place) or 2
            for k in range(count):
                at = cover + 0.02 + (wide - 2 * cover - 0.04) * k / max(count - 1, 1)
                sketch.add(Disc((at, y), max(bars.diameter / 2, 0.5 * mm), "steel_x", None))
            lines.append(f"{label(face)} {count} {diameter_words(bars.diameter, us)} - {marks.word(pad.name, place)}")
    if rib.links and rib.links.spacing:
        each = f'{rib.links.spacing / INCH:.3g}"' if us else f"{1000 * rib.links.spacing:.0f}"
        lines.append(
            say(
                "links {diameter} - {each} - {word}, {legs} legs",
                diameter=diameter_words(rib.links.diameter, us),
                each=each,
                word=marks.word(pad.name, say("rib {rib} links", rib=rib.name)),
                legs=rib.legs,
            )
        )
    with sketch.on("texts"):
        for k, text in enumerate(lines):
            sketch.add(Text((-wing, min(y0, 0.0)), text, 9, "ink", "left", k == 0, dy=16.0 + 14 * k, fixed=True))
    return Drawing(
        tuple(sketch.shapes), (-wing, min(y0, 0.0) - 20 * mm, max(wide + wing, 42 * mm), max(y1, h) + 2 * mm)
    )


def _to_columns(sketch: Sketch, project: Project, pad: Pad, mm: float) -> None:
    """From edge to columns to edge below the base, where a column stands off its middle or several stand on it."""
    places = [_place(project, pad, name) for name in pad.carries]
    if (len(places) == 1 and abs(places[0][0]) < 1e-6) or len(places) > 8:
        return
    stops = sorted({round(x, 3) for x, _ in places} | {-pad.width / 2, pad.width / 2})
    for a, b in itertools.pairwise(stops):
        if b - a > 0.02:
            sketch.add(
                Dimension((a, -pad.extent / 2), (b, -pad.extent / 2), length_words(b - a, project.showing), 18 * mm)
            )


def _place(project: Project, pad: Pad, name: str) -> tuple[float, float]:
    first = project.load_point(pad.load_point)
    if name == pad.load_point:
        return pad.offset_x, pad.offset_y
    return local_place(pad, first, project.load_point(name))


def _columns(sketch: Sketch, project: Project, pad: Pad, mm: float) -> None:
    """Columns with pedestals, dowels, base plates."""
    for name in pad.carries:
        point = project.load_point(name)
        at = _place(project, pad, name)
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
                    _dowel_places(dowels, size, inset, bool(pedestal.is_round if pedestal else point.is_round)),
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


def _dowel_places(dowels: Dowels, size: tuple[float, float], inset: float, is_round: bool) -> list[Point]:
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


def _layer(
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


# ---------------------------------------------------------------- sections


def section(project: Project, pad: Pad, axis: str, marks: Marks, mm: float, named: str = "") -> Drawing:
    """The section through the base along an axis, at its column; levels are those of the base, y from its underside."""
    settings = project.settings_of(pad)
    size = pad.width if axis == "x" else pad.extent
    h, half, sketch = pad.thickness, size / 2, Sketch()
    plinths = [max(p.top - pad.top, 0.05) for p in pad.all_pedestals.values()]
    up = h + (max(plinths) + STUMP / 2 if plinths else STUMP)
    blinding = BLINDING if settings.cast_against == "blinding" else 0.0
    top, slope, _ = _pit(project, pad, up)
    _ground_and_base(sketch, project, pad, half, up, blinding, mm)
    i = 0 if axis == "x" else 1
    _carried(sketch, project, pad, i, up)
    for opening in pad.openings:
        at, r_ = (opening.x if axis == "x" else opening.y), opening.diameter / 2
        sketch.add(Polygon(rectangle(at - r_, 0, at + r_, h), None, "soft", 0.8, dash=True))
    lines = _cut_bars(sketch, project, pad, axis, size, marks, mm)
    for k, name in enumerate(pad.carries):
        _standing_bars(sketch, project, pad, name, i, up, marks, mm, k == 0)
    _leaders(sketch, project, pad, axis, lines, size, settings.concrete_cover, mm)
    units = project.showing
    with sketch.on("dimensions"):
        sketch.add(
            Dimension((half, 0), (half, h), length_words(h, units), 6 * mm),
            Dimension((-half, 0), (half, 0), length_words(size, units), blinding + 9 * mm),
        )
    _levels(sketch, project, pad, half, up, plinths, mm)
    return Drawing(
        tuple(sketch.shapes),
        (
            -half - WORKING_SPACE - slope - 30 * mm,
            -blinding - 32 * mm,
            half + WORKING_SPACE + slope + 34 * mm,
            max(up, top, h + (_above(project, pad) + 18.0) * mm) + 4 * mm,
        ),
    )


def _pit(project: Project, pad: Pad, up: float) -> tuple[float, float, float]:
    """(top of the pit above the underside, run of its slope, finished ground above the underside), m."""
    finished = project.ground.surfaces.finished - pad.underside
    top = min(finished, up + 0.2) if finished > pad.thickness else pad.thickness
    return top, 0.35 * max(top, 0.0), finished


def _ground_and_base(
    sketch: Sketch, project: Project, pad: Pad, half: float, up: float, blinding: float, mm: float
) -> None:
    """The pit, blinding and the base in it."""
    h = pad.thickness
    top, slope, finished = _pit(project, pad, up)
    with sketch.on("ground"):
        pit = [
            (-half - WORKING_SPACE - slope, top),
            (-half - WORKING_SPACE, -blinding),
            (half + WORKING_SPACE, -blinding),
            (half + WORKING_SPACE + slope, top),
        ]
        sketch.add(Line(tuple(pit), "soft", 0.8, dash=True))
        if finished > 0:
            away = half + WORKING_SPACE + slope
            for s in (-1, 1):
                sketch.add(Line(((s * away, top), (s * (away + 8 * mm), top)), "ink", 1.2))
    with sketch.on("foundations"):
        if blinding:
            sketch.add(
                Polygon(
                    rectangle(-half - WORKING_SPACE / 2, -blinding, half + WORKING_SPACE / 2, 0), "faint", "soft", 0.8
                )
            )
        sketch.add(Polygon(rectangle(-half, 0, half, h), None, "ink", 2.2, key=f"base:{pad.name}"))


def _carried(sketch: Sketch, project: Project, pad: Pad, i: int, up: float) -> None:
    """Pedestals and columns on a base, base plates and anchor bolts."""
    h = pad.thickness
    bare = pad.replaced(pedestal=None, pedestals={})
    for name in pad.carries:
        point, offset = project.load_point(name), _place(project, pad, name)[i]
        wide = standing_size(pad, point)[i] / 2
        pedestal = pad.pedestal_under(name)
        head = h + max(pedestal.top - pad.top, 0.05) if pedestal else up
        with sketch.on("foundations" if pedestal else "columns"):
            sides = ((offset - wide, h), (offset - wide, head), (offset + wide, head), (offset + wide, h))
            sketch.add(Line(sides if pedestal else sides[:2], "ink", 1.8), Line(sides[2:], "ink", 1.8))
        if pedestal:
            narrow = standing_size(bare, point)[i] / 2
            with sketch.on("columns"):
                sketch.add(Polygon(rectangle(offset - narrow, head, offset + narrow, up), None, "ink", 1.2))
        if point.kind == "steel_column" and point.plate_x and point.plate_y:
            plate = (point.plate_x if i == 0 else point.plate_y) / 2
            with sketch.on("columns"):
                sketch.add(
                    Polygon(
                        rectangle(
                            offset - plate, head if pedestal else h, offset + plate, (head if pedestal else h) + 0.03
                        ),
                        "ink",
                        "ink",
                        0.8,
                    )
                )
                _bolts(sketch, point, point.rotation - pad.rotation, i, offset, head if pedestal else h)


def _cut_bars(
    sketch: Sketch, project: Project, pad: Pad, axis: str, size: float, marks: Marks, mm: float
) -> list[tuple[str, str]]:
    """Those of both faces and sides; the labels of the faces."""
    settings, r, h = project.settings_of(pad), pad.reinforcement, pad.thickness
    cover, half, other = settings.concrete_cover, size / 2, "y" if axis == "x" else "x"
    lines: list[tuple[str, str]] = []
    if settings.base_concrete == "reinforced":
        with sketch.on("bars"):
            for face in ("bottom", "top"):
                _bars_in_section(
                    sketch, pad, face, axis, size, cover, settings.outer_bars, settings.bar_ends == "hooked", mm
                )
                for way in (axis, other):
                    bars = r.bars(f"{face}_{way}")
                    if bars is not None:
                        lines.append(
                            (f"{face}_{way}", bar_label(project, pad.name, label(f"{face}_{way}"), bars, marks))
                        )
            if r.sides:
                layers = r.sides.number or max(1, ceil((h - 2 * cover) / (r.sides.spacing or 1.0) - 1e-9) - 1)
                for k in range(1, layers + 1):
                    for x in (-half + cover, half - cover):
                        sketch.add(
                            Disc(
                                (x, cover + (h - 2 * cover) * k / (layers + 1)),
                                max(r.sides.diameter / 2, 0.3 * mm),
                                "ink",
                                None,
                            )
                        )
    return lines


def _levels(
    sketch: Sketch, project: Project, pad: Pad, half: float, up: float, plinths: Sequence[float], mm: float
) -> None:
    """Of the base, what stands on it, the ground and high water."""
    h, units = pad.thickness, project.showing
    top, slope, finished = _pit(project, pad, up)
    with sketch.on("levels"):
        shown = [(0.0, pad.underside)]
        others = [(h, pad.top)]
        if plinths:
            others.append((h + max(plinths), pad.top + max(plinths)))
        if top > h and abs(top - finished) < 1e-9:
            others.append((top, project.ground.surfaces.finished))
        # one that stands too near to those below it is left out
        for y, level in others:
            if all(abs(y - there) > 4.5 * mm for there, _ in shown):
                shown.append((y, level))
        left = -half - WORKING_SPACE - slope - 11 * mm
        for y, level in shown:
            sketch.add(*_level(left, y, signed(level, units), mm))
        water = project.ground.water
        if water is not None and -0.5 < water.high - pad.underside < top + 0.05:
            y = water.high - pad.underside
            x = half + WORKING_SPACE + slope + 4 * mm
            sketch.add(
                Line(((half + 1 * mm, y), (x + 12 * mm, y)), "water", 0.9, dash=True),
                Text((x, y), say("high water {level}", level=signed(water.high, units)), 8.5, "water", dy=-3),
            )


def _level(x: float, y: float, text: str, mm: float) -> tuple[Line | Polygon | Text, ...]:
    """A level as a triangle that stands on it."""
    s = 1.6 * mm
    return (
        Line(((x - 11 * mm, y), (x + 7 * mm, y)), "ink", 0.7),
        Polygon(((x, y), (x - s, y + 1.6 * s), (x + s, y + 1.6 * s)), None, "ink", 0.9),
        Text((x - 3 * mm, y), text, 9, "ink", "right", dy=-3, fixed=True),
    )


def _bars_in_section(
    sketch: Sketch, pad: Pad, face: str, axis: str, size: float, cover: float, outer: str, hooked: bool, mm: float
) -> None:
    """Those along the section as a line with its hooks, those across as dots, at their true height."""
    r, h, other = pad.reinforcement, pad.thickness, "y" if axis == "x" else "x"
    along, across = r.bars(f"{face}_{axis}"), r.bars(f"{face}_{other}")
    up, start = (1, 0.0) if face == "bottom" else (-1, h)
    if along:
        inner = across.diameter if across and outer != axis else 0.0
        level = start + up * (cover + inner + along.diameter / 2)
        leg = max(h - 2 * cover - inner - along.diameter, 0.0) if hooked and not along.fabric else 0.0
        x0, x1 = -size / 2 + cover + along.diameter / 2, size / 2 - cover - along.diameter / 2
        path = ((x0, level + up * leg), (x0, level), (x1, level), (x1, level + up * leg))
        sketch.add(Line(path if leg else path[1:3], f"steel_{axis}", 2.4, key=f"bar:{face}-{axis}"))
    if across:
        inner = along.diameter if along and outer == axis else 0.0
        level = start + up * (cover + inner + across.diameter / 2)
        for x in positions(size, cover, across):
            sketch.add(
                Disc((x, level), max(across.diameter / 2, 0.45 * mm), f"steel_{other}", None, key=f"bar:{face}-{other}")
            )


def _leaders(
    sketch: Sketch,
    project: Project,
    pad: Pad,
    axis: str,
    lines: Sequence[tuple[str, str]],
    size: float,
    cover: float,
    mm: float,
) -> None:
    """The labels of the layers, one below the other: bottom bars below the section, top bars above it at the right."""
    h, half = pad.thickness, size / 2
    free = _between_columns(project, pad, axis, size, 34 * mm)
    for face in ("bottom", "top"):
        own = [(name, marked) for name, marked in lines if name.startswith(face)]
        for k, (name, marked) in enumerate(own):
            # the label further in stands nearer, so that no line crosses a label
            level = len(own) - 1 - k
            if face == "bottom":
                x, y = -half + (0.1 + 0.12 * k) * size, -BLINDING - (16 + 5.5 * level) * mm
                place: Point = (x, cover)
            else:
                x, y = free + 3 * k * mm, h + (4 + 5.5 * (len(own) - 1 - level)) * mm
                place = (x, h - cover)
            sketch.add(Leader((x, y), place, marked, 9.5, f"steel_{name[-1]}", "left"))


def _above(project: Project, pad: Pad) -> float:
    """How high the labels of top bars reach above the base, mm."""
    if project.settings_of(pad).base_concrete != "reinforced":
        return 0.0
    count = sum(pad.reinforcement.bars(f"top_{axis}") is not None for axis in ("x", "y"))
    return 5.5 * count + 4.0 if count else 0.0


def _between_columns(project: Project, pad: Pad, axis: str, size: float, wide: float) -> float:
    """Where above the base a text of that width stands furthest from the columns."""
    i = 0 if axis == "x" else 1
    taken = [_place(project, pad, name)[i] for name in pad.carries]
    places = [(-0.45 + 0.9 * k / 30) * size for k in range(31)]
    return max(
        places, key=lambda x: min(0.0 if x <= c <= x + wide else min(abs(c - x), abs(c - x - wide)) for c in taken)
    )


def _standing_bars(
    sketch: Sketch, project: Project, pad: Pad, column: str, i: int, up: float, marks: Marks, mm: float, named: bool
) -> None:
    """Dowels with their feet on the bottom bars, the bars and ties of a pedestal."""
    dowels, pedestal = dowels_of(pad, column), pad.pedestal_under(column)
    point = project.load_point(column)
    if dowels is None or (point.kind == "steel_column" and pedestal is None):
        return
    settings = project.settings_of(pad)
    offset, half = _place(project, pad, column)[i], standing_size(pad, point)[i] / 2
    own = settings.concrete_cover if pedestal is None or pedestal.cover is None else pedestal.cover
    at = half - own - dowels.diameter / 2
    if at <= 0:
        return
    foot = pad.thickness - in_base(project, pad) + dowels.diameter / 2
    lap = lap_of(project, pad, dowels.diameter)
    top = pad.thickness + (lap if pad.dowels else 10.0)
    us = project.units == "us"
    with sketch.on("bars"):
        if pedestal:
            level = pad.thickness + max(pedestal.top - pad.top, 0.05) - own
            top = min(top, level)
            count = max(1, ceil((level - pad.thickness) / pedestal.tie_spacing))
            for k in range(count + 1):
                y = min(pad.thickness + k * pedestal.tie_spacing, level)
                sketch.add(
                    Line(
                        ((offset - at - dowels.diameter, y), (offset + at + dowels.diameter, y)),
                        "ink",
                        1.0,
                        key="bar:ties",
                    )
                )
        top = min(top, up)
        for sign in (-1, 1):
            x = offset + sign * at
            sketch.add(
                Line(((x + sign * 12 * dowels.diameter, foot), (x, foot), (x, top)), "ink", 2.0, key="bar:dowels")
            )
    if not named:
        return
    texts = []
    if pad.dowels:
        mark = marks.word(pad.name, say("dowels"))
        length = length_text(lap, project.showing)
        texts.append(
            say(
                "{number} {diameter} - {mark}, lap {length}",
                number=dowels.number,
                diameter=diameter_words(dowels.diameter, us),
                mark=mark,
                length=length,
            )
        )
    if pedestal:
        if not pad.dowels:
            texts.append(
                f"{pedestal.bars} {diameter_words(pedestal.diameter, us)} - {marks.word(pad.name, say('pedestal'))}"
            )
        spacing = f'{pedestal.tie_spacing / INCH:.3g}"' if us else f"{1000 * pedestal.tie_spacing:.0f}"
        place = label(pedestal.around)
        texts.append(f"{place} {diameter_words(pedestal.tie_diameter, us)} - {spacing} - {marks.word(pad.name, place)}")
    if point.kind == "steel_column" and pedestal and point.plate_x and point.plate_y:
        plate = " × ".join(length_words(v, project.showing) for v in (point.plate_x, point.plate_y))
        texts += [say("base plate {plate}", plate=plate), _bolts_words(project, point)]
    x = offset + half + 5 * mm
    low = pad.thickness + max((up - pad.thickness) * 0.55, _above(project, pad) * mm)
    for k, text in enumerate(texts):
        y = low + (len(texts) - 1 - k) * 5.5 * mm
        sketch.add(Leader((x, y), (offset + at, min(y, top)), text, 9.5, "ink", "left"))


def _bolts(sketch: Sketch, point: LoadPoint, turn: float, axis: int, offset: float, foot: float) -> None:
    """Anchor bolts from the side: from above the plate down to their plates or nuts."""
    a = point.anchors
    if a is None:
        return
    for at in sorted({round(p[axis], 6) for p in turned(list(a.places()), turn, (0.0, 0.0))}):
        x, low, half = offset + at, foot - a.depth, a.diameter
        sketch.add(
            Line(((x, low), (x, foot + 0.03 + 2 * a.diameter)), "ink", 1.4, key="anchor"),
            Line(((x - half, low), (x + half, low)), "ink", 2.0, key="anchor"),
        )


def _bolts_words(project: Project, point: LoadPoint) -> str:
    a = point.anchors
    if a is None:
        return say("anchors by the steelwork")
    bolt, x, y, deep = (_short(v, project) for v in (a.diameter, a.apart_x, a.apart_y, a.depth))
    return say(
        "{places} anchors ø{bolt} at {x} × {y}, {deep} deep", places=len(a.places()), bolt=bolt, x=x, y=y, deep=deep
    )


def _short(value: float, project: Project) -> str:
    """A length on a drawing, one below a foot in inches alone."""
    return length_words(value, project.showing).removeprefix("0'-")


# ---------------------------------------------------------------- straps


def strap_elevation(project: Project, strap: Strap, marks: Marks, mm: float) -> Drawing:
    """The beam of a strap between its two bases, from the side, with its bars and links."""
    edge, inner = project.pad(strap.edge), project.pad(strap.inner)
    a, b = project.load_point(edge.load_point), project.load_point(inner.load_point)
    length = math.hypot(b.x - a.x, b.y - a.y)
    low = min(edge.underside, inner.underside)
    sketch = Sketch()
    angle = math.atan2(b.y - a.y, b.x - a.x)

    def half_of(pad: Pad) -> tuple[float, float]:
        """How far a base reaches from its column along the strap, back and forth."""
        turn = angle - math.radians(pad.rotation)
        c, s = math.cos(turn), math.sin(turn)
        reach = [(x - pad.offset_x) * c + (y - pad.offset_y) * s for x, y in edge_of(pad)]
        return min(reach), max(reach)

    top = max(edge.top, inner.top)
    ends = []
    for pad, at in ((edge, 0.0), (inner, length)):
        back, forth = half_of(pad)
        ends.append((at + back, at + forth))
        with sketch.on("foundations"):
            sketch.add(
                Polygon(
                    rectangle(at + back, pad.underside - low, at + forth, pad.top - low),
                    None,
                    "ink",
                    2.0,
                    key=f"base:{pad.name}",
                )
            )
            sketch.add(
                Text(
                    (at + (back + forth) / 2, (pad.underside + pad.top) / 2 - low),
                    pad.name,
                    9.5,
                    "ink",
                    "middle",
                    True,
                    dy=4,
                    halo=True,
                    fixed=True,
                )
            )
        with sketch.on("columns"):
            own = project.load_point(pad.load_point).size_x / 2
            for s in (-1, 1):
                sketch.add(Line(((at + s * own, pad.top - low), (at + s * own, top - low + STUMP)), "ink", 1.4))
    y1 = top - low
    y0 = y1 - strap.depth
    cover = project.settings_of(edge).concrete_cover if strap.cover is None else strap.cover
    with sketch.on("foundations"):
        sketch.add(Polygon(rectangle(ends[0][1], y0, ends[1][0], y1), None, "ink", 1.6, key=f"strap:{strap.name}"))
    with sketch.on("foundations"):  # within the bases, as far as its bars go
        inner_end = min(ends[1][1], ends[1][0] + lap_of(project, edge, strap.top.diameter) + cover)
        sketch.add(Line(((ends[0][1], y0), (ends[0][0], y0), (ends[0][0], y1)), "ink", 1.0, dash=True))
        sketch.add(Line(((ends[1][0], y0), (inner_end, y0), (inner_end, y1)), "ink", 1.0, dash=True))
    with sketch.on("bars"):
        into = min(ends[1][1] - cover, ends[1][0] + lap_of(project, edge, strap.top.diameter))
        for y in (y1 - cover - 0.02, y0 + cover + 0.02):
            sketch.add(Line(((ends[0][0] + cover, y), (into, y)), "steel_x", 2.4))
        if strap.links and strap.links.spacing:
            x = ends[0][1]
            while x <= ends[1][0] + 1e-9:
                sketch.add(Line(((x, y0 + cover), (x, y1 - cover)), "steel_y", 0.9))
                x += strap.links.spacing
    us = project.units == "us"
    middle = (ends[0][1] + ends[1][0]) / 2
    name = strap.name
    labels = [
        (
            bar_label(project, name, say("strap {face}", face=label("top")), strap.top, marks),
            (middle, y1 - cover - 0.02),
            (middle + 4 * mm, y1 + 6 * mm),
        ),
        (
            bar_label(project, name, say("strap {face}", face=label("bottom")), strap.bottom, marks),
            (middle, y0 + cover + 0.02),
            (middle + 4 * mm, y0 - 7 * mm),
        ),
    ]
    for text, to, place in labels:
        sketch.add(Leader(place, to, text, 9.5, "steel_x", "left"))
    if strap.links:
        spacing = strap.links.spacing or 0.0
        each = f'{spacing / INCH:.3g}"' if us else f"{1000 * spacing:.0f}"
        sketch.add(
            Text(
                (ends[0][1], y0),
                say(
                    "links {diameter} - {each} - {word}, {legs} legs",
                    diameter=diameter_words(strap.links.diameter, us),
                    each=each,
                    word=marks.word(name, say("strap links")),
                    legs=strap.legs,
                ),
                9.5,
                "steel_y",
                dx=4,
                dy=32,
            )
        )
    units = project.showing
    with sketch.on("dimensions"):
        sketch.add(
            Dimension((0.0, 0.0), (length, 0.0), length_words(length, units), 16 * mm),
        )
    return Drawing(
        tuple(sketch.shapes),
        (ends[0][0] - 8 * mm, min(0.0, y0) - 24 * mm, ends[1][1] + 8 * mm, y1 + STUMP + 4 * mm),
    )


# ---------------------------------------------------------------- shapes of bars


def shape_sketch(project: Project, bar: Bar) -> Drawing:
    """A bar as it is bent, with the lengths of its legs, in mm of paper; not to scale."""
    units = project.showing

    def said(value: float) -> str:
        return length_words(value, units)

    w = 30.0
    shapes: tuple[Shape, ...]
    path: tuple[Point, ...]
    if bar.shape == STRAIGHT:
        shapes = (
            Line(((0, 0), (w, 0)), "ink", 1.6),
            Text((w / 2, 0), said(bar.b), 7.5, "ink", "middle", dy=-3),
        )
        return Drawing(shapes, (0, -1, w, 4))
    if bar.shape == HOOKED:
        path = ((0, 7), (0, 0), (w, 0), (w, 7))
        shapes = (
            Line(path, "ink", 1.6),
            Text((w / 2, 0), said(bar.b), 7.5, "ink", "middle", dy=-3),
            Text((0, 4), said(bar.a), 7.5, "ink", "left", dx=3),
            Text((w, 4), said(bar.c), 7.5, "ink", "right", dx=-3),
        )
        return Drawing(shapes, (0, -1, w, 7))
    if bar.shape == CLOSED:
        path = ((6, 9.5), (6, 0), (24, 0), (24, 10), (6, 10), (6, 8), (9, 6.5))
        shapes = (
            Line(path, "ink", 1.6),
            Text((15, 0), said(bar.a), 7.5, "ink", "middle", dy=-3),
            Text((24, 5), said(bar.b), 7.5, "ink", "left", dx=3, dy=3),
        )
        return Drawing(shapes, (0, -1, w, 11))
    if bar.shape == "11":
        path = ((0, 9), (0, 0), (14, 0))
        shapes = (
            Line(path, "ink", 1.6),
            Text((0, 5), said(bar.a), 7.5, "ink", "left", dx=3, dy=3),
            Text((14, 0), said(bar.b), 7.5, "ink", "left", dx=3, dy=3),
        )
        return Drawing(shapes, (0, -1, w, 10))
    if bar.shape == "77":
        path = tuple((2 + 26 * i / 60, 5 + 4.5 * math.sin(2 * math.pi * 5 * i / 60)) for i in range(61))
        shapes = (
            Line(path, "ink", 1.4),
            Text(
                (15, 0),
                say(
                    "ø {said}, pitch {bar_said}, {said_2} high",
                    said=said(bar.a),
                    bar_said=said(bar.b),
                    said_2=said(bar.c),
                ),
                6.5,
                "ink",
                "middle",
                dy=6,
            ),
        )
        return Drawing(shapes, (0, -4, w, 10))
    path = tuple((15 + 5 * math.cos(t), 5.5 + 5 * math.sin(t)) for t in (2 * math.pi * i / 36 for i in range(39)))
    return Drawing(
        (Line(path, "ink", 1.6), Text((20, 5.5), f"ø {said(bar.a)}", 7.5, "ink", "left", dx=3, dy=3)), (0, 0, w, 11)
    )
