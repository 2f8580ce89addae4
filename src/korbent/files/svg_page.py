"""A drawing as SVG: lines stay lines and texts texts, to be placed and edited in other documents."""

import math
from collections.abc import Sequence
from pathlib import Path
from xml.etree import ElementTree
from xml.etree.ElementTree import Element, SubElement

from korbent.drawing.painting import ALIGN, fitted, paint
from korbent.drawing.patterns import strokes
from korbent.drawing.placing import arranged
from korbent.drawing.primitives import Anchor, Drawing, Point
from korbent.drawing.theme import FAMILY, PRINT
from korbent.files.atomic import replacing
from korbent.files.pdf_page import width_of

FAMILIES = f"'{FAMILY}', 'Source Sans 3', Arial, sans-serif"
ANCHORS = {"left": "start", "middle": "middle", "right": "end"}


def svg_text(drawing: Drawing, width: float, height: float, title: str = "") -> str:
    """The drawing as the text of an SVG file, ``width`` by ``height`` px."""
    page = SvgPage(width, height, title)
    place = fitted(page, drawing, width, height)
    paint(page, arranged(page, drawing, place, (width, height)).shapes, place)
    ElementTree.indent(page.root)
    return ElementTree.tostring(page.root, encoding="unicode", xml_declaration=True) + "\n"


def write_svg(drawing: Drawing, path: Path, width: float, height: float, title: str = "") -> None:
    """Writes one drawing as SVG.

    Raises:
        OSError: when it cannot be written; an old file stays then.
    """
    with replacing(path) as part:
        part.write_text(svg_text(drawing, width, height, title), encoding="utf-8")


class SvgPage:
    """Collects elements (see korbent.drawing.painting.Page)."""

    px = 1.0

    def __init__(self, width: float, height: float, title: str = "") -> None:
        box = f"0 0 {width:g} {height:g}"
        self.root = Element(
            "svg", xmlns="http://www.w3.org/2000/svg", width=f"{width:g}", height=f"{height:g}", viewBox=box
        )
        if title:
            SubElement(self.root, "title").text = title
        self._definitions = SubElement(self.root, "defs")
        self._clips = 0
        SubElement(self.root, "rect", width=f"{width:g}", height=f"{height:g}", fill=PRINT.paper)

    def area(self, points: Sequence[Point], fill: str, opacity: float) -> None:
        more = {} if opacity == 1.0 else {"fill-opacity": f"{opacity:g}"}
        SubElement(self.root, "polygon", points=_points(points), fill=PRINT.resolved(fill)).attrib.update(more)

    def pattern(self, points: Sequence[Point], name: str) -> None:
        group, x0, y0, width, height = self._clipped(points)
        group.set("stroke", PRINT.ink)
        group.set("stroke-opacity", "0.42")
        for kind, v in strokes(name, math.ceil(width), math.ceil(height)):
            if kind == "line":
                SubElement(group, "line", x1=_n(x0 + v[0]), y1=_n(y0 + v[1]), x2=_n(x0 + v[2]), y2=_n(y0 + v[3]))
            elif kind == "dot":
                SubElement(
                    group,
                    "circle",
                    {"fill-opacity": "0.42"},
                    cx=_n(x0 + v[0]),
                    cy=_n(y0 + v[1]),
                    r=_n(v[2]),
                    fill=PRINT.ink,
                    stroke="none",
                )
            else:
                SubElement(
                    group,
                    "ellipse",
                    cx=_n(x0 + v[0]),
                    cy=_n(y0 + v[1]),
                    rx=_n(v[2]),
                    ry=_n(v[3]),
                    fill="none",
                )

    def hatch(self, points: Sequence[Point]) -> None:
        group, x0, y0, width, height = self._clipped(points)
        group.set("stroke", PRINT.paper)
        at = -height
        while at < width:
            SubElement(group, "line", x1=_n(x0 + at), y1=_n(y0 + height), x2=_n(x0 + at + height), y2=_n(y0))
            at += 5.0

    def line(
        self, points: Sequence[Point], stroke: str, width: float, dash: bool = False, closed: bool = False
    ) -> None:
        more = {"stroke-dasharray": f"{5 * width:g} {3.5 * width:g}"} if dash else {}
        SubElement(
            self.root,
            "polygon" if closed else "polyline",
            {"stroke-width": f"{width:g}", **more},
            points=_points(points),
            fill="none",
            stroke=PRINT.resolved(stroke),
        )

    def disc(self, at: Point, radius: float, fill: str | None, stroke: str | None, width: float) -> None:
        more = {"stroke": PRINT.resolved(stroke), "stroke-width": f"{width:g}"} if stroke else {}
        inside = PRINT.resolved(fill) if fill else "none"
        SubElement(self.root, "circle", more, cx=_n(at[0]), cy=_n(at[1]), r=_n(radius), fill=inside)

    def text(self, at: Point, text: str, size: float, colour: str, bold: bool, anchor: Anchor) -> None:
        # another typeface may be wider: what is anchored stays
        x = at[0] - ALIGN[anchor] * self.width_of(text, size, bold)
        more = {"font-size": f"{size:g}", "font-family": FAMILIES, "text-anchor": ANCHORS[anchor]}
        if bold:
            more["font-weight"] = "600"
        found = SubElement(self.root, "text", more, x=_n(x), y=_n(at[1]), fill=PRINT.resolved(colour))
        found.text = text

    def halo(self, at: Point, width: float, size: float, bold: bool) -> None:
        SubElement(
            self.root,
            "rect",
            {"fill-opacity": "0.82"},
            x=_n(at[0] - 3),
            y=_n(at[1] - 0.95 * size),
            width=_n(width + 6),
            height=_n(1.2 * size),
            fill=PRINT.paper,
        )

    def width_of(self, text: str, size: float, bold: bool) -> float:
        return width_of(text, size, bold)

    def _clipped(self, points: Sequence[Point]) -> tuple[Element, float, float, float, float]:
        """A group that shows only within a polygon, and the polygon's box (x, y, width, height)."""
        self._clips += 1
        clip = SubElement(self._definitions, "clipPath", id=f"within-{self._clips}")
        SubElement(clip, "polygon", points=_points(points))
        group = SubElement(self.root, "g", {"clip-path": f"url(#within-{self._clips})"})
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        return group, min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys)


def _n(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".")


def _points(points: Sequence[Point]) -> str:
    return " ".join(f"{_n(x)},{_n(y)}" for x, y in points)
