"""What stands up out of a base in its sections: dowels, ties and anchor bolts."""

from math import ceil

from korbent.core.concrete.bar_text import diameter_words
from korbent.core.concrete.fabric import INCH
from korbent.core.concrete.interface import dowels_of
from korbent.core.concrete.schedule import in_base, lap_of
from korbent.core.geometry import standing_size
from korbent.core.model import LoadPoint, Pad, Project
from korbent.core.model.labels import label
from korbent.core.units import length_text
from korbent.drawing.plan import turned
from korbent.drawing.primitives import Leader, Line, Sketch
from korbent.sheets.details.marks import Marks
from korbent.sheets.details.places import level_above, place_of
from korbent.sheets.foundation_plan import length_words
from korbent.words import say


def standing_bars(
    sketch: Sketch, project: Project, pad: Pad, column: str, i: int, up: float, marks: Marks, mm: float, named: bool
) -> None:
    """Dowels with their feet on the bottom bars, the bars and ties of a pedestal."""
    dowels, pedestal = dowels_of(pad, column), pad.pedestal_under(column)
    point = project.load_point(column)
    if dowels is None or (point.kind == "steel_column" and pedestal is None):
        return
    settings = project.settings_of(pad)
    offset, half = place_of(project, pad, column)[i], standing_size(pad, point)[i] / 2
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
    low = pad.thickness + max((up - pad.thickness) * 0.55, level_above(project, pad) * mm)
    for k, text in enumerate(texts):
        y = low + (len(texts) - 1 - k) * 5.5 * mm
        sketch.add(Leader((x, y), (offset + at, min(y, top)), text, 9.5, "ink", "left"))


def bolts_of(sketch: Sketch, point: LoadPoint, turn: float, axis: int, offset: float, foot: float) -> None:
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
