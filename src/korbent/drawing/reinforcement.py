"""The base from above with the bars of a face to scale, critical sections, perimeter, and the steel asked for bar by
bar beside it."""

from dataclasses import replace

import numpy as np

from korbent.core.concrete.bar_text import words
from korbent.core.concrete.critical_section import critical_section
from korbent.core.concrete.demand import SteelAlong
from korbent.core.concrete.interface import dowels_of
from korbent.core.concrete.pad import clear_distances, effective_depths
from korbent.core.concrete.plain import plain_depth_of
from korbent.core.concrete.punching.around import perimeter_around
from korbent.core.concrete.schedule import positions
from korbent.core.concrete.standards.protocol import is_searching
from korbent.core.concrete.standards.registry import rules_of
from korbent.core.evaluate import PadResult
from korbent.core.footprint import footprint_of
from korbent.core.geometry import (
    PadGeometry,
    local_place,
    pad_geometry,
    standing_diameter,
    standing_face,
    table,
)
from korbent.core.model import Bars, Pad, Project
from korbent.core.model.labels import label
from korbent.core.model.reinforcement import Dowels
from korbent.core.units import Showing, length_text, show, shown_unit
from korbent.core.working import Array
from korbent.drawing.plan import edge_of
from korbent.drawing.primitives import (
    Anchor,
    Dimension,
    Disc,
    Drawing,
    Line,
    Point,
    Polygon,
    Sketch,
    Text,
    rectangle,
)
from korbent.drawing.words import lengths_words
from korbent.words import english, say

BESIDE = 0.42
"""Room for the steel beside the base, over its greater size."""
AWAY = 0.03
"""How far from the base its dimensions are drawn, as a share of its size."""


def from_above(
    project: Project,
    pad: Pad,
    result: PadResult,
    highlight: str = "",
    face: str = "bottom",
    demands: dict[str, SteelAlong | None] | None = None,
    named: bool = True,
) -> Drawing:
    """Bars of a face from above, the sections for flexure and shear, the perimeter that governs, openings.

    Args:
        highlight: what to light up (see Check.about).
        demands: by axis, the steel asked for at each bar: drawn beside the base.
        named: the bars are written above it.
    """
    B, L = pad.width, pad.extent
    units = project.showing
    sketch = Sketch()
    sketch.layer = "foundations"
    sketch.add(Polygon(edge_of(pad), "faint", "concrete_line", 2.6 if highlight == "sides" else 1.6))
    sketch.layer = "bars"
    _bars(sketch, project, pad, face, highlight)
    sketch.layer = "sections"
    g = pad_geometry((pad,), (project.load_point(pad.load_point),), np.zeros(1, dtype=int), table(pad))
    settings = project.settings_of(pad)
    d_x, d_y = effective_depths(
        g.h, settings.concrete_cover, settings.outer_bars, g.bars["bottom_x"], g.bars["bottom_y"]
    )
    if settings.base_concrete == "plain":
        # shear is looked at the thickness that counts beyond the column
        counts = plain_depth_of(project, pad)
        _sections(sketch, pad, g, counts, counts, highlight)
    else:
        _sections(sketch, pad, g, float(d_x[0, 0]), float(d_y[0, 0]), highlight)
    sketch.layer = "columns"
    _columns(sketch, project, pad, g, result, float((d_x + d_y)[0, 0]) / 2, highlight)
    for opening in pad.openings:
        at = (opening.x, opening.y)
        sketch.add(
            Disc(at, opening.diameter / 2, "paper", "concrete_line", 1.4),
            Line(((at[0] - opening.diameter / 3, at[1]), (at[0] + opening.diameter / 3, at[1])), "soft", 0.8),
            Line(((at[0], at[1] - opening.diameter / 3), (at[0], at[1] + opening.diameter / 3)), "soft", 0.8),
        )
    sketch.layer = "results"
    right, below = B / 2, -L / 2
    if demands:
        room = BESIDE * max(B, L)
        gap = 0.06 * max(B, L)
        most = max([1.0, *(v for d in demands.values() if d for v in (*d.required, d.provided, d.least))])
        for axis, found in demands.items():
            if found:
                _demand(sketch, found, axis, face, (B / 2 + gap, -L / 2 - gap), room / most, units, highlight)
                right, below = (right + gap + room, below) if axis == "x" else (right, below - gap - room)
    sketch.add(
        Dimension(
            (-B / 2, L / 2),
            (B / 2, L / 2),
            f"B {length_text(B, units)}",
            (2.6 * AWAY if named else AWAY) * max(B, L),  # above the names of the bars
            left=True,
            size=11,
        ),
        Dimension(
            (-B / 2, -pad.length / 2),
            (-B / 2, pad.length / 2),
            f"L {lengths_words(pad, units)}",
            AWAY * max(B, L),
            left=True,
            size=11,
        ),
    )
    if not named:
        pass  # they stand in the text beside the drawing
    elif settings.base_concrete == "plain":
        sketch.add(Text((-B / 2, L / 2), say("plain concrete"), 11, "soft", dy=-5))
    else:
        sketch.add(
            Text(
                (-B / 2, L / 2),
                _named(pad, face, "x", units, L, settings.concrete_cover),
                11,
                "steel_x",
                dy=-5,
            ),
            Text(
                (B / 2, L / 2),
                _named(pad, face, "y", units, B, settings.concrete_cover),
                11,
                "steel_y",
                "right",
                dy=-5,
            ),
        )
    return Drawing(tuple(sketch.shapes), (-B / 2, below, right, L / 2))


def _named(pad: Pad, face: str, axis: str, units: Showing, across: float, cover: float) -> str:
    bars = pad.reinforcement.bars(f"{face}_{axis}")
    if bars is None:
        return say("{axis}: no {face} bars", axis=axis, face=label(face))
    count = "" if bars.fabric or bars.number else f"{len(positions(across, cover, bars))} "
    return f"{axis}: {count}{words(bars, units.system == 'us')}"


def _bars(sketch: Sketch, project: Project, pad: Pad, face: str, highlight: str) -> None:
    """The bars as they lie; the lower layer first."""
    settings, r = project.settings_of(pad), pad.reinforcement
    if settings.base_concrete == "plain":
        return
    cover = settings.concrete_cover

    under = footprint_of(pad)
    layers: dict[str, list[Line]] = {"x": [], "y": []}
    for axis, across in (("x", pad.extent), ("y", pad.width)):
        bars = r.bars(f"{face}_{axis}")
        if bars is None:
            continue
        strong = highlight == f"flexure-{axis}"
        for at in positions(across, cover, bars):
            low, high = (float(v[0, 0]) for v in under.span(axis, np.array([[at]])))
            low, high = low + cover, high - cover
            if high - low > 0.1:
                ends = ((low, at), (high, at)) if axis == "x" else ((at, low), (at, high))
                layers[axis].append(
                    Line(
                        ends,
                        f"steel_{axis}",
                        _thick(bars) * (1.5 if strong else 1.0),
                        key=f"check:{face}-{axis}",
                    )
                )
    lower = settings.outer_bars if face == "bottom" else ("y" if settings.outer_bars == "x" else "x")
    for axis in (lower, "y" if lower == "x" else "x"):
        sketch.add(*layers[axis])


def _thick(bars: Bars) -> float:
    return 1.2 + bars.diameter * 60


def _sections(sketch: Sketch, pad: Pad, g: PadGeometry, dx: float, dy: float, highlight: str) -> None:
    """Where flexure and shear are looked at."""
    B, L, under = pad.width, pad.extent, footprint_of(pad)
    fx, fy = (float(size[0, 0]) / 2 for size in g.face)
    lit = {
        "shear-x": ("v", fx + dx),
        "shear-y": ("h", fy + dy),
        "flexure-x": ("v", fx),
        "flexure-y": ("h", fy),
    }
    for name, (kind, away) in lit.items():
        strong = highlight == name
        colour, width = ("accent", 2.6) if strong else ("soft", 0.9)
        for sign in (-1, 1):
            at = sign * away + (pad.offset_x if kind == "v" else pad.offset_y)
            if abs(at) < (B if kind == "v" else L) / 2:
                low, high = (float(v[0, 0]) for v in under.span("y" if kind == "v" else "x", np.array([[at]])))
                ends = ((at, low), (at, high)) if kind == "v" else ((low, at), (high, at))
                check = name if name.startswith("shear") else f"bottom-{name[-1]}"
                sketch.add(Line(ends, colour, width, dash=True, key=f"check:{check}"))


def _columns(
    sketch: Sketch, project: Project, pad: Pad, g: PadGeometry, result: PadResult, d: float, highlight: str
) -> None:
    """Columns, the perimeter of the one that governs, dowels."""
    fx, fy = (float(size[0, 0]) / 2 for size in g.face)
    ox, oy = pad.offset_x, pad.offset_y
    further = {name: _of_column(project, pad, g, name) for name in pad.further}
    # with several columns the message of the check begins with the one that governs
    named = english(result.check("punching").message).partition(" ")[0]
    governing = further.get(named, g)
    if "+" in named and set(named.split("+")) <= set(pad.carries):
        governing = _of_group(g, [{pad.load_point: g, **further}[name] for name in named.split("+")])
    square = not is_searching(rules_of(project.standards.concrete))
    _perimeter(sketch, pad, governing, result, d, highlight == "perimeter", square)
    for name, own in further.items():
        x, y = float(own.offset_x[0, 0]), float(own.offset_y[0, 0])
        hx, hy = (float(v[0, 0]) / 2 for v in own.face)
        wide = float(own.diameter[0, 0])
        sketch.add(
            Disc((x, y), wide / 2, "concrete", "concrete_line", 1.4)
            if wide
            else Polygon(rectangle(x - hx, y - hy, x + hx, y + hy), "concrete", "concrete_line", 1.4),
            Text((x, y), name, 10, "ink", "middle", dy=4),
        )
    strong = highlight in ("face", "dowels")
    tone, width = ("accent", 2.6) if strong else ("concrete_line", 1.4)
    diameter = float(g.diameter[0, 0])
    if diameter:
        sketch.add(Disc((ox, oy), diameter / 2, "concrete", tone, width, key="check:bearing-concrete"))
    else:
        outline = rectangle(ox - fx, oy - fy, ox + fx, oy + fy)
        sketch.add(Polygon(outline, "concrete", tone, width, key="check:bearing-concrete"))
    tone = "accent" if highlight == "dowels" else "ink"
    for name, own in {pad.load_point: g, **further}.items():
        dowels = dowels_of(pad, name)
        if dowels and (pad.pedestal_under(name) or project.load_point(name).kind != "steel_column"):
            inset = project.settings_of(pad).concrete_cover + dowels.diameter / 2
            x0, y0 = float(own.offset_x[0, 0]), float(own.offset_y[0, 0])
            for x, y in _dowel_places(own, dowels, inset):
                sketch.add(Disc((x0 + x, y0 + y), dowels.diameter / 2, tone, None))


def _dowel_places(g: PadGeometry, dowels: Dowels, inset: float) -> list[Point]:
    """Places of the dowels from the middle of their column."""
    diameter = float(g.diameter[0, 0])
    if diameter:
        turns = 2 * np.pi * np.arange(dowels.number) / dowels.number
        return [(float((diameter / 2 - inset) * np.cos(t)), float((diameter / 2 - inset) * np.sin(t))) for t in turns]
    fx, fy = (float(size[0, 0]) / 2 for size in g.face)
    return around(2 * fx - 2 * inset, 2 * fy - 2 * inset, dowels.number)


def around(wide: float, high: float, count: int) -> list[Point]:
    """So many places evenly around a rectangle about the origin, from a corner on."""
    if wide <= 0 or high <= 0:
        return []
    a, b = wide / 2, high / 2
    corners = np.array([(-a, -b), (a, -b), (a, b), (-a, b), (-a, -b)])
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(corners, axis=0).T))])
    at = np.linspace(0.0, along[-1], count, endpoint=False)
    xs, ys = (np.interp(at, along, corners[:, i]) for i in (0, 1))
    return [(float(x), float(y)) for x, y in zip(xs, ys)]


def _of_column(project: Project, pad: Pad, g: PadGeometry, name: str) -> PadGeometry:
    """The geometry with a further column in the place of the first."""
    first, other = project.load_point(pad.load_point), project.load_point(name)
    x, y = local_place(pad, first, other)
    face = standing_face(pad, other)
    return replace(
        g,
        offset_x=np.full((1, 1), x),
        offset_y=np.full((1, 1), y),
        face=(np.full((1, 1), face[0]), np.full((1, 1), face[1])),
        diameter=np.full((1, 1), standing_diameter(pad, other)),
    )


def _of_group(g: PadGeometry, group: list[PadGeometry]) -> PadGeometry:
    """The geometry with the rectangle around some columns in the place of the first."""

    def ends(axis: int) -> tuple[Array, Array]:
        places = [(own.offset_x, own.offset_y)[axis] for own in group]
        low = np.min([p - own.face[axis] / 2 for p, own in zip(places, group)], axis=0)
        high = np.max([p + own.face[axis] / 2 for p, own in zip(places, group)], axis=0)
        return (low + high) / 2, high - low

    (x, size_x), (y, size_y) = ends(0), ends(1)
    return replace(g, offset_x=x, offset_y=y, face=(size_x, size_y), diameter=np.zeros_like(x))


def _perimeter(sketch: Sketch, pad: Pad, g: PadGeometry, result: PadResult, d: float, lit: bool, square: bool) -> None:
    """The perimeter that governs punching, about the column whose geometry is given."""
    check = result.check("punching")
    share = check.place
    if share is None:
        return
    ox, oy = float(g.offset_x[0, 0]), float(g.offset_y[0, 0])
    if square:
        section = critical_section(g.face[0], g.face[1], clear_distances(g), np.full((1, 1), share * d))
        if not section.exists.all():
            return
        x0, x1, y0, y1 = (float(v[0, 0]) for v in section.corners)
        points = rectangle(ox + x0, oy + y0, ox + x1, oy + y1)
    else:
        a = np.full((1, 1, 1), share * d)
        perimeter = perimeter_around(g, a)
        if not perimeter.exists.all():
            return
        outline_x, outline_y = perimeter.outline()
        points = tuple((float(x) + ox, float(y) + oy) for x, y in zip(outline_x[0, 0, 0], outline_y[0, 0, 0]))
    colour = "beyond" if (check.ratio or 0) > 1 else "accent"
    for line in _within(points, pad):
        sketch.add(Line(line, colour, 3.0 if lit else 2.0, key="check:punching"))
    for opening in pad.openings:
        _tangents(sketch, opening.x, opening.y, opening.diameter, (ox, oy))
    top, right = max(p[1] for p in points), max(p[0] for p in points)
    text = say("punching at {share:.2f} d", share=share)
    if top < 0.9 * pad.length / 2:
        sketch.add(Text((ox, top), text, 11, colour, "middle", bold=True, dy=-4, halo=True))
    else:  # no room above it
        left = min(p[0] for p in points)
        beside = right < 0.6 * pad.width / 2
        at = (right, oy) if beside else (left, oy)
        anchor: Anchor = "left" if beside else "right"
        dx = 5 if beside else -5
        sketch.add(Text(at, text, 11, colour, anchor, bold=True, dx=dx, dy=4, halo=True))


def _tangents(sketch: Sketch, x: float, y: float, diameter: float, middle: Point) -> None:
    """The tangents between which the perimeter does not count."""
    far = float(np.hypot(x - middle[0], y - middle[1]))
    if far <= diameter / 2:
        return
    half, angle = float(np.arcsin(diameter / 2 / far)), float(np.arctan2(y - middle[1], x - middle[0]))
    reach = far + diameter
    for turn in (-half, half):
        end = (
            middle[0] + reach * float(np.cos(angle + turn)),
            middle[1] + reach * float(np.sin(angle + turn)),
        )
        sketch.add(Line((middle, end), "soft", 0.9, dash=True))


def _within(points: tuple[Point, ...], pad: Pad) -> list[tuple[Point, ...]]:
    """The parts of a closed outline that do not run along an edge of the base."""

    def on_edge(p: Point, q: Point) -> bool:
        return any(
            abs(abs(p[i]) - half) < 1e-6 and abs(p[i] - q[i]) < 1e-6
            for i, half in ((0, pad.width / 2), (1, pad.length / 2))
        )

    parts: list[list[Point]] = [[]]
    for p, q in zip(points, points[1:] + points[:1]):
        parts[-1] = parts[-1] or [p]
        if on_edge(p, q):
            parts.append([])
        else:
            parts[-1].append(q)
    return [tuple(part) for part in parts if len(part) > 1]


def _demand(
    sketch: Sketch, found: SteelAlong, axis: str, face: str, corner: Point, scale: float, units: Showing, highlight: str
) -> None:
    """The steel asked for at each bar as a bar chart beside the base, what is provided as a line, shortfall hatched."""

    def place(along: float, value: float) -> Point:
        return (corner[0] + value * scale, along) if axis == "x" else (along, corner[1] - value * scale)

    colour, key = f"steel_{axis}", f"check:{face}-{axis}"
    lit = highlight == f"flexure-{axis}"
    for low, high, need in zip(found.borders, found.borders[1:], found.required):
        within = min(need, found.provided)
        gap = 0.06 * (high - low)
        for start, end, fill, hatch in ((0.0, within, "concrete", False), (within, need, "beyond", True)):
            if end - start > 1e-6:
                a, b = place(low + gap, start), place(high - gap, end)
                sketch.add(
                    Polygon(
                        rectangle(*a, *b),
                        fill,
                        colour if not hatch else "beyond",
                        1.4 if lit else 0.8,
                        hatch=hatch,
                        key=key,
                    )
                )
    first, last = found.borders[0], found.borders[-1]
    sketch.add(
        Line((place(first, 0.0), place(last, 0.0)), "line", 1.0),
        *(
            [Line((place(first, found.least), place(last, found.least)), "soft", 1.0, dash=True)]
            if face == "bottom"
            else []
        ),
        Line((place(first, found.provided), place(last, found.provided)), "ink", 2.0, key=key),
    )
    most = max(found.required)
    unit = shown_unit("mm²/m", units)
    short = most > found.provided * (1 + 1e-9)
    tone = "beyond" if short else "ink"
    has, needs = show(found.provided, "mm²/m", units), show(most, "mm²/m", units)
    apart = face == "bottom" and not 0.6 < found.least / found.provided < 1.5 and found.least > 0.3 * found.provided
    if axis == "x":
        sketch.add(
            Text(place(last, 0.0), f"{label(f'{face}_x')}, {unit}", 10, "steel_x", dy=-31),
            Text(place(last, 0.0), say("asks {needs}", needs=needs), 10, tone, dy=-18, bold=short),
            Text(place(last, found.provided), say("has {has}", has=has), 10, "ink", "middle", dy=-5),
            *([Text(place(last, found.least), say("least"), 9.5, "soft", "middle", dy=-5)] if apart else []),
        )
    else:
        sketch.add(
            Text(place(last, found.provided), say("has {has}", has=has), 10, "ink", dx=5, dy=4),
            Text(place(last, 0.0), f"{label(f'{face}_y')}, {unit}", 10, "steel_y", dx=5, dy=4),
            Text(place(last, 0.0), say("asks {needs}", needs=needs), 10, tone, dx=5, dy=18, bold=short),
            *([Text(place(last, found.least), say("least"), 9.5, "soft", dx=5, dy=4)] if apart else []),
        )


def steel_demand(project: Project, result: PadResult) -> Drawing:
    """Required against provided steel, least steel marked: one bar for each direction and face."""
    sketch = Sketch()
    unit = shown_unit("mm²/m", project.showing)
    rows = [c for c in result.checks if c.check.id in ("bottom-x", "bottom-y", "top-x", "top-y")]
    values = [v for c in rows for v in (c.demand, c.capacity) if v is not None]
    greatest = max(values, default=1.0) or 1.0
    y = 0.0
    for check in rows:
        y -= 1.3
        sketch.add(Text((0.0, y + 0.36), check.check.title, 12, "ink", dy=0))
        if check.demand is None or check.capacity is None:
            sketch.add(Text((0.0, y), check.message or check.state.word, 11, "soft", dy=2))
            continue
        need, have = 4.0 * check.demand / greatest, 4.0 * check.capacity / greatest
        beyond = (check.ratio or 0) > 1
        key = f"check:{check.check.id}"
        sketch.add(Polygon(rectangle(0, y - 0.12, max(have, 0.01), y + 0.2), "faint", "ink", 1.0, key=key))
        sketch.add(
            Polygon(
                rectangle(0, y - 0.04, max(need, 0.01), y + 0.12), f"ratio:{check.ratio}", None, hatch=beyond, key=key
            )
        )
        text = say(
            "{demand} of {capacity} {unit}",
            demand=show(check.demand, "mm²/m", project.showing),
            capacity=show(check.capacity, "mm²/m", project.showing),
            unit=unit,
        )
        sketch.add(Text((4.1, y), text, 12, "beyond" if beyond else "ink", dy=3))
        axis = check.check.id[-1]
        least = result.check(f"minimum-{axis}")
        if check.check.id.startswith("bottom") and least.demand is not None:
            at = 4.0 * least.demand / greatest
            sketch.add(Line(((at, y - 0.2), (at, y + 0.28)), "soft", 1.2, dash=True))
            text = say("least {demand}", demand=show(least.demand, "mm²/m", project.showing))
            sketch.add(Text((at, y - 0.2), text, 10, "soft", "middle", dy=10))
    return Drawing(tuple(sketch.shapes), (0.0, y - 0.4, 5.9, -0.6))
