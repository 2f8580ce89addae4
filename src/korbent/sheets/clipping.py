"""A part of a drawing: what lies within a box, cut at its edges."""

from collections.abc import Iterator
from dataclasses import replace

from shapely import LineString, MultiLineString, MultiPolygon
from shapely import Polygon as Area
from shapely import box as box_of
from shapely.geometry.base import BaseGeometry

from korbent.drawing.primitives import Dimension, Disc, Drawing, Leader, Line, Shape, Text

Box = tuple[float, float, float, float]


def clipped(drawing: Drawing, box: Box) -> Drawing:
    """What of a drawing lies within a box (m); texts and dimensions go with the place that they belong to."""
    return Drawing(tuple(s for shape in drawing.shapes for s in _within(shape, box)), box)


def _within(shape: Shape, box: Box) -> Iterator[Shape]:
    x0, y0, x1, y1 = box
    if isinstance(shape, Text | Disc | Leader | Dimension):
        if isinstance(shape, Dimension):
            (ax, ay), (bx, by) = shape.line
            at = ((ax + bx) / 2, (ay + by) / 2)
        else:
            at = shape.at
        if x0 <= at[0] <= x1 and y0 <= at[1] <= y1:
            yield shape
        return
    xs, ys = [p[0] for p in shape.points], [p[1] for p in shape.points]
    if min(xs) >= x0 and max(xs) <= x1 and min(ys) >= y0 and max(ys) <= y1:
        yield shape
        return
    if max(xs) < x0 or min(xs) > x1 or max(ys) < y0 or min(ys) > y1:
        return
    window = box_of(*box)
    if isinstance(shape, Line):
        for part in _lines(LineString(shape.points).intersection(window)):
            yield replace(shape, points=part, arrow=False)
        return
    # an area without its edge, and of its edge what lies within
    area = Area(shape.points).buffer(0)
    if shape.fill or shape.pattern:
        for ring in _areas(area.intersection(window)):
            yield replace(shape, points=ring, stroke=None)
    if shape.stroke:
        edge = LineString((*shape.points, shape.points[0])).intersection(window)
        for part in _lines(edge):
            yield Line(part, shape.stroke, shape.width, shape.dash, layer=shape.layer)


def _lines(found: BaseGeometry) -> Iterator[tuple[tuple[float, float], ...]]:
    parts = found.geoms if isinstance(found, MultiLineString) else [found]
    for part in parts:
        if isinstance(part, LineString) and len(part.coords) > 1:
            yield tuple((float(x), float(y)) for x, y in part.coords)


def _areas(found: BaseGeometry) -> Iterator[tuple[tuple[float, float], ...]]:
    parts = found.geoms if isinstance(found, MultiPolygon) else [found]
    for part in parts:
        if isinstance(part, Area) and not part.is_empty:
            yield tuple((float(x), float(y)) for x, y in part.exterior.coords[:-1])
