"""The base from above and in section with its bars to scale, critical sections and the punching perimeter."""

from dataclasses import replace

import numpy as np

from korbent.core.concrete.critical_section import critical_section
from korbent.core.concrete.pad import clear_distances, effective_depths
from korbent.core.concrete.perimeter import control_perimeter
from korbent.core.concrete.schedule import positions
from korbent.core.evaluate import PadResult
from korbent.core.geometry import PadGeometry, local_place, pad_geometry, standing_face, table
from korbent.core.model import Bars, Pad, Project
from korbent.core.units import Showing, UnitSet, show, show_length, shown_unit
from korbent.drawing.plan import rim
from korbent.drawing.primitives import Disc, Drawing, Line, Point, Polygon, Sketch, Text, rectangle
from korbent.drawing.words import bar_words


def _settings(project: Project, pad: Pad) -> tuple[float, str]:
    settings = project.settings_of(pad)
    return settings.concrete_cover, settings.outer_bars


def _geometry(project: Project, pad: Pad) -> PadGeometry:
    return pad_geometry((pad,), (project.load_point(pad.load_point),), np.zeros(1, dtype=int), table(pad))


def _label(bars: Bars, count: int, units: UnitSet) -> str:
    if not isinstance(units, Showing):
        units = Showing(units)
    diameter, spacing = bar_words(bars, units)
    return f"{count} {diameter} at {spacing}" + ("" if units.system == "us" else " mm")


def from_above(project: Project, pad: Pad, result: PadResult, highlight: str = "") -> Drawing:
    """Bottom bars from above, the sections for flexure and shear, and the perimeter that governs."""
    B, L = pad.width, pad.length
    cover, outer = _settings(project, pad)
    g = _geometry(project, pad)
    x_bars, y_bars = pad.reinforcement.bottom_x, pad.reinforcement.bottom_y
    sketch = Sketch()
    edge = tuple(rim(B / 2)) if pad.is_round else rectangle(-B / 2, -L / 2, B / 2, L / 2)
    sketch.add(Polygon(edge, "faint", "concrete_line", 1.6))

    def reach(half: float, at: float) -> float:
        """Half the length of a bar at a distance from the middle: to the edge, or to the rim."""
        return (max(half**2 - at**2, 0.0) ** 0.5 if pad.is_round else half) - cover

    along_x = [
        Line(((-reach(B / 2, y), y), (reach(B / 2, y), y)), "steel_x", _thick(x_bars))
        for y in positions(L, cover, x_bars)
        if reach(B / 2, y) > 0.05
    ]
    along_y = [
        Line(((x, -reach(L / 2, x)), (x, reach(L / 2, x))), "steel_y", _thick(y_bars))
        for x in positions(B, cover, y_bars)
        if reach(L / 2, x) > 0.05
    ]
    # the outer layer lies lower: painted first
    sketch.add(*(along_x + along_y if outer == "x" else along_y + along_x))
    d_x, d_y = effective_depths(g.h, cover, outer, g.bars["bottom_x"], g.bars["bottom_y"])
    dx, dy = float(d_x[0, 0]), float(d_y[0, 0])
    fx, fy = (float(size[0, 0]) / 2 for size in g.face)
    ox, oy = pad.offset_x, pad.offset_y
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
            at = sign * away + (ox if kind == "v" else oy)
            if abs(at) < (B if kind == "v" else L) / 2:
                ends = ((at, -L / 2), (at, L / 2)) if kind == "v" else ((-B / 2, at), (B / 2, at))
                sketch.add(Line(ends, colour, width, dash=True))
    further = {name: _of_column(project, pad, g, name) for name in pad.further}
    # with several columns the message of the check begins with the one that governs
    governing = further.get(result.check("punching").message.partition(" ")[0], g)
    square = not project.standards.concrete.startswith("EN")
    _perimeter(sketch, pad, governing, result, (dx + dy) / 2, highlight == "perimeter", square)
    for name, own in further.items():
        x, y = float(own.offset_x[0, 0]), float(own.offset_y[0, 0])
        hx, hy = (float(v[0, 0]) / 2 for v in own.face)
        sketch.add(
            Polygon(rectangle(x - hx, y - hy, x + hx, y + hy), "concrete", "concrete_line", 1.4),
            Text((x, y), name, 10, "ink", "middle", dy=4),
        )
    strong = highlight == "face"
    sketch.add(
        Polygon(
            rectangle(ox - fx, oy - fy, ox + fx, oy + fy),
            "concrete",
            "accent" if strong else "concrete_line",
            2.6 if strong else 1.4,
        )
    )
    unit = shown_unit("m", project.showing)
    sketch.add(
        Text(
            (0, -L / 2),
            f"B {show_length(B, project.showing)} {unit}   along x: {_label(x_bars, len(along_x), project.showing)}",
            11,
            "steel_x",
            "middle",
            dy=17,
        ),
        Text(
            (-B / 2, L / 2),
            f"L {show_length(L, project.showing)} {unit}   along y: {_label(y_bars, len(along_y), project.showing)}",
            11,
            "steel_y",
            dy=-8,
        ),
    )
    return Drawing(tuple(sketch.shapes), (-B / 2, -L / 2, B / 2, L / 2), (24.0, 28.0, 24.0, 30.0))


def _thick(bars: Bars) -> float:
    return 1.2 + bars.diameter * 60


def _of_column(project: Project, pad: Pad, g: PadGeometry, name: str) -> PadGeometry:
    """The geometry with a further column in the place of the first."""
    first, other = project.load_point(pad.load_point), project.load_point(name)
    x, y = local_place(pad, first, other)
    face = standing_face(pad, other, first=False)
    return replace(
        g,
        offset_x=np.full((1, 1), x),
        offset_y=np.full((1, 1), y),
        face=(np.full((1, 1), face[0]), np.full((1, 1), face[1])),
    )


def _perimeter(
    sketch: Sketch, pad: Pad, g: PadGeometry, result: PadResult, d: float, lit: bool, square: bool
) -> None:
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
        around = control_perimeter(g.face[0], g.face[1], clear_distances(g), a)
        if not around.exists.all():
            return
        outline_x, outline_y = around.outline()
        points = tuple((float(x) + ox, float(y) + oy) for x, y in zip(outline_x[0, 0, 0], outline_y[0, 0, 0]))
    colour = "beyond" if (check.ratio or 0) > 1 else "accent"
    for line in _within(points, pad):
        sketch.add(Line(line, colour, 3.0 if lit else 2.0))
    top, right = max(p[1] for p in points), max(p[0] for p in points)
    text = f"punching at {share:.2f} d"
    if top < 0.9 * pad.length / 2:
        sketch.add(Text((ox, top), text, 11, colour, "middle", bold=True, dy=-4, halo=True))
    else:  # no room above it
        sketch.add(Text((right, oy), text, 11, colour, "left", bold=True, dx=5, dy=4, halo=True))


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


def bar_section(project: Project, pad: Pad) -> Drawing:
    """The section along x with its bars."""
    B, h = pad.width, pad.thickness
    cover, outer = _settings(project, pad)
    point = project.load_point(pad.load_point)
    x_bars, y_bars = pad.reinforcement.bottom_x, pad.reinforcement.bottom_y
    sketch = Sketch()
    sketch.add(Polygon(rectangle(-B / 2, 0, B / 2, h), "faint", "concrete_line", 1.6))
    size = pad.pedestal.size_x if pad.pedestal else point.size_x
    up = h + 0.45
    sketch.add(
        Polygon(
            rectangle(pad.offset_x - size / 2, h, pad.offset_x + size / 2, up), "faint", "concrete_line", 1.4
        )
    )
    for name in pad.further:
        other = project.load_point(name)
        x, _ = local_place(pad, point, other)
        wide = standing_face(pad, other, first=False)[0] / 2
        sketch.add(Polygon(rectangle(x - wide, h, x + wide, up), "faint", "concrete_line", 1.4))
    low_x = cover + x_bars.diameter / 2 + (0 if outer == "x" else y_bars.diameter)
    low_y = cover + y_bars.diameter / 2 + (x_bars.diameter if outer == "x" else 0)
    hook = min(0.25, h - 2 * cover)
    x0, x1 = -B / 2 + cover, B / 2 - cover
    sketch.add(Line(((x0, low_x + hook), (x0, low_x), (x1, low_x), (x1, low_x + hook)), "steel_x", 2.6))
    for x in positions(B, cover, y_bars):
        sketch.add(Disc((x, low_y), max(y_bars.diameter / 2, 0.009), "steel_y", None))
    for bars, level, colour in ((pad.reinforcement.bars("top_x"), h - cover, "steel_x"),):
        if bars:
            sketch.add(Line(((x0, level - hook), (x0, level), (x1, level), (x1, level - hook)), colour, 2.2))
    top_y = pad.reinforcement.bars("top_y")
    if top_y:
        for x in positions(B, cover, top_y):
            sketch.add(Disc((x, h - cover - 0.02), 0.009, "steel_y", None))
    unit = shown_unit("m", project.showing)
    sketch.add(
        Text((B / 2, h / 2), f"h {show_length(h, project.showing)} {unit}", 11, "ink", dx=8, dy=4),
        Text(
            (0, 0),
            f"cover {show(cover * 1000, 'mm', project.showing)} {shown_unit('mm', project.showing)}, {outer} bars outside",
            11,
            "soft",
            "middle",
            dy=17,
        ),
    )
    return Drawing(tuple(sketch.shapes), (-B / 2, 0, B / 2, up), (16.0, 12.0, 74.0, 28.0))


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
            sketch.add(Text((0.0, y), check.message or check.state.value, 11, "soft", dy=2))
            continue
        need, have = 4.0 * check.demand / greatest, 4.0 * check.capacity / greatest
        beyond = (check.ratio or 0) > 1
        sketch.add(Polygon(rectangle(0, y - 0.12, max(have, 0.01), y + 0.2), "faint", "ink", 1.0))
        sketch.add(
            Polygon(
                rectangle(0, y - 0.04, max(need, 0.01), y + 0.12), f"ratio:{check.ratio}", None, hatch=beyond
            )
        )
        text = f"{show(check.demand, 'mm²/m', project.showing)} of {show(check.capacity, 'mm²/m', project.showing)} {unit}"
        sketch.add(Text((4.1, y), text, 12, "beyond" if beyond else "ink", dy=3))
        axis = check.check.id[-1]
        least = result.check(f"minimum-{axis}")
        if check.check.id.startswith("bottom") and least.demand is not None:
            at = 4.0 * least.demand / greatest
            sketch.add(Line(((at, y - 0.2), (at, y + 0.28)), "soft", 1.2, dash=True))
            sketch.add(
                Text(
                    (at, y - 0.2),
                    f"least {show(least.demand, 'mm²/m', project.showing)}",
                    10,
                    "soft",
                    "middle",
                    dy=10,
                )
            )
    return Drawing(tuple(sketch.shapes), (0.0, y - 0.4, 5.9, -0.6), (14.0, 10.0, 10.0, 14.0))
