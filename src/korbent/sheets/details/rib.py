"""The section of a rib of a raft."""

from korbent.core.concrete.bar_text import diameter_words
from korbent.core.concrete.fabric import INCH
from korbent.core.model import Pad, Project
from korbent.core.model.labels import label
from korbent.core.model.plate import Rib
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.sheets.details.marks import Marks
from korbent.sheets.foundation_plan import length_words
from korbent.words import say


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
