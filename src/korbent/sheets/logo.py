"""The logo of an office as shapes, so that every kind of page can draw it; a PNG is a picture that pages place
themselves."""

import itertools
import re
from collections.abc import Iterator
from pathlib import Path
from xml.etree import ElementTree

from korbent.drawing.primitives import Point, Polygon

STEPS = 12
"""Straight pieces of a curve."""


def svg_shapes(path: Path, box: tuple[float, float, float, float]) -> tuple[Polygon, ...]:
    """The filled shapes of an SVG file, fitted into a box (left, low, right, high; y up), in their colours; one that
    cannot be read has none."""
    from fontTools.pens.recordingPen import RecordingPen
    from fontTools.svgLib.path import parser
    from fontTools.svgLib.path.shapes import PathBuilder

    try:
        root = ElementTree.fromstring(path.read_bytes())
    except (OSError, ElementTree.ParseError):
        return ()
    found: list[tuple[str, list[Point]]] = []
    for element, fill in _filled(root, "#000000"):
        builder = PathBuilder()
        try:
            builder.add_path_from_element(element)
            for text, transform in zip(builder.paths, builder.transforms):
                pen = RecordingPen()
                parser.parse_path(text, pen)
                for ring in _rings(pen.value):
                    found.append((fill, [transform.transformPoint(p) for p in ring] if transform else ring))
        except Exception:  # what the reader of paths does not know is left out
            continue
    points = [p for _, ring in found for p in ring]
    if not points:
        return ()
    x0, x1 = min(x for x, _ in points), max(x for x, _ in points)
    y0, y1 = min(y for _, y in points), max(y for _, y in points)
    left, low, right, high = box
    scale = min((right - left) / max(x1 - x0, 1e-9), (high - low) / max(y1 - y0, 1e-9))
    placed = [
        (fill, tuple((left + (x - x0) * scale, high - (y - y0) * scale) for x, y in ring)) for fill, ring in found
    ]
    return tuple(
        Polygon(ring, "paper" if _within(ring, placed[:k], fill) else fill, None, layer="frame")
        for k, (fill, ring) in enumerate(placed)
        if len(ring) > 2
    )


def _filled(element: ElementTree.Element, fill: str) -> Iterator[tuple[ElementTree.Element, str]]:
    """Elements that are filled, with their colours, as they inherit them."""
    style = dict(p.split(":", 1) for p in element.get("style", "").replace(" ", "").split(";") if ":" in p)
    own = style.get("fill") or element.get("fill") or fill
    if not re.fullmatch(r"#[0-9a-fA-F]{6}|none", own):
        short = re.fullmatch(r"#([0-9a-fA-F])([0-9a-fA-F])([0-9a-fA-F])", own)
        own = "#" + "".join(2 * c for c in short.groups()) if short else "#000000"
    if element.tag.rpartition("}")[2] in ("defs", "clipPath", "mask", "symbol"):
        return
    if own != "none":
        yield element, own
    for child in element:
        yield from _filled(child, own)


def _rings(steps: list[tuple[str, tuple[Point, ...]]]) -> Iterator[list[Point]]:
    ring: list[Point] = []
    for name, points in steps:
        if name == "moveTo":
            if len(ring) > 2:
                yield ring
            ring = [points[0]]
        elif name == "lineTo":
            ring.append(points[0])
        elif name == "curveTo":
            ring += [_bezier((ring[-1], *points), k / STEPS) for k in range(1, STEPS + 1)]
        elif name == "qCurveTo":
            ring += [_bezier((ring[-1], *points[-2:]), k / STEPS) for k in range(1, STEPS + 1)]
    if len(ring) > 2:
        yield ring


def _bezier(points: tuple[Point, ...], t: float) -> Point:
    """A point of a Bézier curve (de Casteljau)."""
    while len(points) > 1:
        points = tuple((a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])) for a, b in itertools.pairwise(points))
    return points[0]


def _within(ring: tuple[Point, ...], before: list[tuple[str, tuple[Point, ...]]], fill: str) -> bool:
    """Whether a ring is a hole: it lies within an odd number of others of its colour that came before."""
    from shapely import Point as At
    from shapely import Polygon as Shape

    inside = At(ring[0])
    return bool(sum(Shape(o).buffer(0).contains(inside) for f, o in before if f == fill and len(o) > 2) % 2 == 1)
