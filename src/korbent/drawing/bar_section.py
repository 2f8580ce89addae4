"""Sections through the base along x and along y: bars with hooks, dowels, ties of a pedestal, bars along the sides, to
scale."""

from math import ceil

from korbent.core.concrete.bar_text import diameter_words, words
from korbent.core.concrete.interface import dowels_of
from korbent.core.concrete.schedule import HOOKED, in_base, lap_of, positions, schedule
from korbent.core.geometry import local_place, standing_size
from korbent.core.model import Pad, Project
from korbent.core.model.labels import label
from korbent.core.units import length_text, show, shown_unit
from korbent.drawing.primitives import Disc, Drawing, Leader, Line, Polygon, Sketch, Text, rectangle
from korbent.words import say

STUMP = 0.45
"""How much of a column is drawn above the base, m."""


def bar_section(project: Project, pad: Pad, axis: str = "x", highlight: str = "") -> Drawing:
    """The section along an axis, from the underside up."""
    size = pad.width if axis == "x" else pad.length
    h, settings, r = pad.thickness, project.settings_of(pad), pad.reinforcement
    cover, other = settings.concrete_cover, "y" if axis == "x" else "x"
    sketch = Sketch()
    sketch.add(Polygon(rectangle(-size / 2, 0, size / 2, h), "faint", "concrete_line", 1.6))
    plinths = [max(p.top - pad.top, 0.05) for p in pad.all_pedestals.values()]
    up = h + (max(plinths) + STUMP / 2 if plinths else STUMP)
    _standing(sketch, project, pad, axis, up)
    for opening in pad.openings:
        at, half = (opening.x if axis == "x" else opening.y), opening.diameter / 2
        sketch.add(Polygon(rectangle(at - half, 0, at + half, h), "paper", "soft", 0.8, dash=True))
    if settings.base_concrete == "reinforced":
        for face in ("bottom", "top"):
            _layers(
                sketch,
                pad,
                face,
                axis,
                size,
                cover,
                settings.outer_bars,
                settings.bar_ends == "hooked",
                highlight,
            )
        if r.sides:
            layers = r.sides.number or max(1, ceil((h - 2 * cover) / (r.sides.spacing or 1.0) - 1e-9) - 1)
            for k in range(1, layers + 1):
                level = cover + (h - 2 * cover) * k / (layers + 1)
                for x in (-size / 2 + cover, size / 2 - cover):
                    sketch.add(
                        Disc(
                            (x, level),
                            max(r.sides.diameter / 2, 0.008),
                            f"steel_{other}",
                            None,
                            key="check:side-bars",
                        )
                    )
        for name in pad.carries:
            _dowels(sketch, project, pad, name, axis, up, highlight)
    sketch.add(Text((size / 2, h / 2), f"h {length_text(h, project.showing)}", 11, "ink", dx=8, dy=4))
    _marks(sketch, project, pad, axis, size, highlight)
    bottom = say(
        "cover {cover} {unit}, {outer_bars} bars outside",
        cover=show(cover * 1000, "mm", project.showing),
        unit=shown_unit("mm", project.showing),
        outer_bars=settings.outer_bars,
    )
    if settings.base_concrete == "plain":
        bottom = say("plain concrete")
    tone = "accent" if highlight == "cover" else "soft"
    sketch.add(Text((-size / 2, 0), bottom, 11, tone, dy=33, bold=highlight == "cover"))
    return Drawing(tuple(sketch.shapes), (-size / 2, 0, size / 2, up))


def _standing(sketch: Sketch, project: Project, pad: Pad, axis: str, up: float) -> None:
    """Columns and their pedestals."""
    i = 0 if axis == "x" else 1
    bare = pad.replaced(pedestal=None, pedestals={})
    for name in pad.carries:
        point, offset = project.load_point(name), _place(project, pad, name)[i]
        half = standing_size(pad, point)[i] / 2
        pedestal = pad.pedestal_under(name)
        top = pad.thickness + max(pedestal.top - pad.top, 0.05) if pedestal else up
        sketch.add(
            Polygon(
                rectangle(offset - half, pad.thickness, offset + half, top),
                "faint",
                "concrete_line",
                1.4,
                key="check:bearing-concrete" if name == pad.load_point else "",
            )
        )
        if pedestal:
            column = standing_size(bare, point)[i] / 2
            sketch.add(Polygon(rectangle(offset - column, top, offset + column, up), "faint", "soft", 0.9))


def _place(project: Project, pad: Pad, name: str) -> tuple[float, float]:
    """Where a column stands, from the middle of its base, m."""
    return local_place(pad, project.load_point(pad.load_point), project.load_point(name))


def _layers(
    sketch: Sketch, pad: Pad, face: str, axis: str, size: float, cover: float, outer: str, hooked: bool, highlight: str
) -> None:
    """The bars of one face: those along the section as lines with their hooks, the others as dots."""
    r, h = pad.reinforcement, pad.thickness
    along, across = r.bars(f"{face}_{axis}"), r.bars(f"{face}_{'y' if axis == 'x' else 'x'}")
    other = "y" if axis == "x" else "x"
    up = 1 if face == "bottom" else -1
    start = 0.0 if face == "bottom" else h
    if along:
        inner = across.diameter if across and outer != axis else 0.0
        level = start + up * (cover + inner + along.diameter / 2)
        leg = max(h - 2 * cover - inner - along.diameter, 0.0) if hooked else 0.0
        x0, x1 = -size / 2 + cover + along.diameter / 2, size / 2 - cover - along.diameter / 2
        strong = highlight == f"flexure-{axis}"
        sketch.add(
            Line(
                ((x0, level + up * leg), (x0, level), (x1, level), (x1, level + up * leg)),
                f"steel_{axis}",
                4.0 if strong else 2.6,
                key=f"check:{face}-{axis}",
            )
        )
    if across:
        inner = along.diameter if along and outer == axis else 0.0
        level = start + up * (cover + inner + across.diameter / 2)
        for x in positions(size, cover, across):
            sketch.add(
                Disc(
                    (x, level),
                    max(across.diameter / 2, 0.009),
                    f"steel_{other}",
                    None,
                    key=f"check:{face}-{other}",
                )
            )


def _dowels(sketch: Sketch, project: Project, pad: Pad, column: str, axis: str, up: float, highlight: str) -> None:
    """Dowels of a column on the bottom bars with their feet, the bars and ties of its pedestal."""
    dowels, pedestal = dowels_of(pad, column), pad.pedestal_under(column)
    point = project.load_point(column)
    if dowels is None or (point.kind == "steel_column" and pedestal is None):
        return
    i = 0 if axis == "x" else 1
    settings = project.settings_of(pad)
    offset = _place(project, pad, column)[i]
    half = standing_size(pad, point)[i] / 2
    at = half - settings.concrete_cover - dowels.diameter / 2
    if at <= 0:
        return
    foot = pad.thickness - in_base(project, pad) + dowels.diameter / 2
    top = pad.thickness + (lap_of(project, pad, dowels.diameter) if pad.dowels else 10.0)
    if pedestal:
        level = pad.thickness + max(pedestal.top - pad.top, 0.05) - settings.concrete_cover
        top = min(top, level)
        spacing = pedestal.tie_spacing
        count = max(1, ceil((level - pad.thickness) / spacing))
        for k in range(count + 1):
            y = min(pad.thickness + k * spacing, level)
            sketch.add(
                Line(
                    ((offset - at - dowels.diameter, y), (offset + at + dowels.diameter, y)),
                    "soft",
                    1.0,
                    key="check:pedestal-ties",
                )
            )
    top = min(top, up)
    colour, width = ("accent", 3.2) if highlight == "dowels" else ("ink", 2.0)
    for sign in (-1, 1):
        x = offset + sign * at
        leg = x + sign * 12 * dowels.diameter
        sketch.add(Line(((leg, foot), (x, foot), (x, top)), colour, width, key="check:dowels"))
    if column != pad.load_point and dowels == dowels_of(pad):
        return
    us = project.units == "us"
    name = say("dowels") if pad.dowels else say("pedestal")
    lap = (
        say(
            ", {length} beside the bars above",
            length=length_text(lap_of(project, pad, dowels.diameter), project.showing),
        )
        if pad.dowels
        else ""
    )
    text = f"{name} {dowels.number} {diameter_words(dowels.diameter, us)}{lap}"
    left = offset > 0.25 * (pad.width if axis == "x" else pad.length)
    side = -1.0 if left else 1.0
    level = (pad.thickness + up) / 2
    sketch.add(
        Leader(
            (offset + side * 1.6 * half, level),
            (offset + side * at, level),
            text,
            11,
            "ink",
            "right" if left else "left",
        )
    )


def _marks(sketch: Sketch, project: Project, pad: Pad, axis: str, size: float, highlight: str) -> None:
    """The bars along the section as they are called in the schedule."""
    us = project.units == "us"
    marks = {where: bar for bar in schedule(project, (pad,)) for _, where, _ in bar.where}
    dy = 17.0
    for face in ("bottom", "top"):
        bars = pad.reinforcement.bars(f"{face}_{axis}")
        if bars is None or project.settings_of(pad).base_concrete == "plain":
            continue
        bar = marks.get(label(f"{face}_{axis}"))
        ends = f" {label('hooked')}" if bar and bar.shape == HOOKED else ""
        mark = f"{bar.mark} · " if bar else ""
        if face == "bottom":
            sketch.add(Text((-size / 2, 0), f"{mark}{words(bars, us)}{ends}", 11, f"steel_{axis}", dy=dy))
        else:
            sketch.add(Text((-size / 2, pad.thickness), f"{mark}{words(bars, us)}{ends}", 11, f"steel_{axis}", dy=-5))
