"""The elevation of a strap with its bars and links."""

import math

from korbent.core.concrete.bar_text import diameter_words
from korbent.core.concrete.fabric import INCH
from korbent.core.concrete.schedule import lap_of
from korbent.core.model import Pad, Project
from korbent.core.model.foundations import Strap
from korbent.core.model.labels import label
from korbent.drawing.plan import edge_of
from korbent.drawing.primitives import Dimension, Drawing, Leader, Line, Polygon, Sketch, Text, rectangle
from korbent.sheets.details.marks import Marks, bar_label
from korbent.sheets.details.places import STUMP
from korbent.sheets.foundation_plan import length_words
from korbent.words import say


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
        _base(sketch, project, pad, at, ends[-1], low, top)
    y1 = top - low
    y0 = y1 - strap.depth
    cover = project.settings_of(edge).concrete_cover if strap.cover is None else strap.cover
    with sketch.on("foundations"):
        sketch.add(Polygon(rectangle(ends[0][1], y0, ends[1][0], y1), None, "ink", 1.6, key=f"strap:{strap.name}"))
    with sketch.on("foundations"):  # within the bases, as far as its bars go
        inner_end = min(ends[1][1], ends[1][0] + lap_of(project, edge, strap.top.diameter) + cover)
        sketch.add(Line(((ends[0][1], y0), (ends[0][0], y0), (ends[0][0], y1)), "ink", 1.0, dash=True))
        sketch.add(Line(((ends[1][0], y0), (inner_end, y0), (inner_end, y1)), "ink", 1.0, dash=True))
    into = min(ends[1][1] - cover, ends[1][0] + lap_of(project, edge, strap.top.diameter))
    levels = (y0 + cover + 0.02, y1 - cover - 0.02)
    with sketch.on("bars"):
        for y in reversed(levels):
            sketch.add(Line(((ends[0][0] + cover, y), (into, y)), "steel_x", 2.4))
        if strap.links and strap.links.spacing:
            x = ends[0][1]
            while x <= ends[1][0] + 1e-9:
                sketch.add(Line(((x, y0 + cover), (x, y1 - cover)), "steel_y", 0.9))
                x += strap.links.spacing
    middle = (ends[0][1] + ends[1][0]) / 2
    for face, bars, at, place in (
        ("top", strap.top, levels[1], y1 + 6 * mm),
        ("bottom", strap.bottom, levels[0], y0 - 7 * mm),
    ):
        text = bar_label(project, strap.name, say("strap {face}", face=label(face)), bars, marks)
        sketch.add(Leader((middle + 4 * mm, place), (middle, at), text, 9.5, "steel_x", "left"))
    if strap.links:
        sketch.add(Text((ends[0][1], y0), _links_words(project, strap, marks), 9.5, "steel_y", dx=4, dy=32))
    units = project.showing
    with sketch.on("dimensions"):
        sketch.add(
            Dimension((0.0, 0.0), (length, 0.0), length_words(length, units), 16 * mm),
        )
    return Drawing(
        tuple(sketch.shapes),
        (ends[0][0] - 8 * mm, min(0.0, y0) - 24 * mm, ends[1][1] + 8 * mm, y1 + STUMP + 4 * mm),
    )


def _base(
    sketch: Sketch, project: Project, pad: Pad, at: float, ends: tuple[float, float], low: float, top: float
) -> None:
    """A base from the side with its name and its column; ``low``: the level of the drawing's zero, ``top`` of the
    higher base."""
    y0, y1 = pad.underside - low, pad.top - low
    with sketch.on("foundations"):
        sketch.add(
            Polygon(rectangle(ends[0], y0, ends[1], y1), None, "ink", 2.0, key=f"base:{pad.name}"),
            Text((sum(ends) / 2, (y0 + y1) / 2), pad.name, 9.5, "ink", "middle", True, dy=4, halo=True, fixed=True),
        )
    with sketch.on("columns"):
        half = project.load_point(pad.load_point).size_x / 2
        for x in (at - half, at + half):
            sketch.add(Line(((x, y1), (x, top - low + STUMP)), "ink", 1.4))


def _links_words(project: Project, strap: Strap, marks: Marks) -> str:
    assert strap.links is not None
    spacing, us = strap.links.spacing or 0.0, project.units == "us"
    return say(
        "links {diameter} - {each} - {word}, {legs} legs",
        diameter=diameter_words(strap.links.diameter, us),
        each=f'{spacing / INCH:.3g}"' if us else f"{1000 * spacing:.0f}",
        word=marks.word(strap.name, say("strap links")),
        legs=strap.legs,
    )
