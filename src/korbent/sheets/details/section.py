"""Sections of a base: hooks, laps, cover, blinding and levels."""

from collections.abc import Sequence
from math import ceil

from korbent.core.concrete.schedule import positions
from korbent.core.geometry import standing_size
from korbent.core.model import Pad, Project
from korbent.core.model.labels import label
from korbent.drawing.logs import signed
from korbent.drawing.primitives import Dimension, Disc, Drawing, Leader, Line, Point, Polygon, Sketch, Text, rectangle
from korbent.sheets.details.marks import Marks, bar_label
from korbent.sheets.details.places import STUMP, level_above, place_of
from korbent.sheets.details.standing import bolts_of, standing_bars
from korbent.sheets.foundation_plan import WORKING_SPACE, length_words
from korbent.words import say

BLINDING = 0.075
"""Drawn below bases that are cast against it, m."""


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
        standing_bars(sketch, project, pad, name, i, up, marks, mm, k == 0)
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
            max(up, top, h + (level_above(project, pad) + 18.0) * mm) + 4 * mm,
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
        point, offset = project.load_point(name), place_of(project, pad, name)[i]
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
                bolts_of(sketch, point, point.rotation - pad.rotation, i, offset, head if pedestal else h)


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


def _between_columns(project: Project, pad: Pad, axis: str, size: float, wide: float) -> float:
    """Where above the base a text of that width stands furthest from the columns."""
    i = 0 if axis == "x" else 1
    taken = [place_of(project, pad, name)[i] for name in pad.carries]
    places = [(-0.45 + 0.9 * k / 30) * size for k in range(31)]
    return max(
        places, key=lambda x: min(0.0 if x <= c <= x + wide else min(abs(c - x), abs(c - x - wide)) for c in taken)
    )
