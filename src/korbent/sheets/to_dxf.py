"""Sheets as a DXF file: drawings in true size in the model, each sheet a layout with viewports at its scales.

The model is in m (feet in US units). Dimensions are dimensions, columns and bubbles of the grid are blocks, layers are
named after ISO 13567-2 or by the office."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

from ezdxf import units
from ezdxf.document import Drawing as Document
from ezdxf.entities.lwpolyline import LWPolyline
from ezdxf.enums import TextEntityAlignment
from ezdxf.filemanagement import new, readfile
from ezdxf.layouts.blocklayout import BlockLayout
from ezdxf.layouts.layout import Paperspace
from ezdxf.math import Vec2

from korbent.drawing.painting import ROOMY, Measure, box_of, cut, written_of
from korbent.drawing.primitives import (
    Dimension,
    Disc,
    Drawing,
    Leader,
    Line,
    Placement,
    Point,
    Polygon,
    Shape,
    Text,
)
from korbent.drawing.theme import PRINT
from korbent.files.atomic import replacing
from korbent.files.office import logo_file, title_block
from korbent.sheets.composition import PX, Paper, Sheet, View, laid
from korbent.sheets.layers import DIMENSION, GEOMETRY, HATCH, LAYERS, TEXT, layer_name

FOOT = 0.3048
STYLE = "KORBENT"
CAPITAL = 0.66
"""Height of a capital over the size of its type."""
NARROW = 0.88
"""The typeface that every reader has is so much wider than ours."""
WEIGHTS = (5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70, 80, 90, 100, 106, 120, 140, 158, 200, 211)
"""Line weights of the format, 1/100 mm."""
ALIGNMENT = {
    "left": TextEntityAlignment.LEFT,
    "middle": TextEntityAlignment.CENTER,
    "right": TextEntityAlignment.RIGHT,
}
DASH = 3.0
"""mm of paper to a unit of the line type: a dash and its gap take two thirds of one."""
BETWEEN = 0.25
"""Between views in the model, over their width."""


def write_dxf(sheets: Sequence[Sheet], path: Path, us: bool = False) -> list[Path]:
    """Writes sheets into one DXF file (2018 format). A logo that is a picture stands in a file beside it, as the format
    holds none itself.

    Returns:
        The files that were written.

    Raises:
        OSError: when one cannot be written; an old file stays then.
    """
    logo = logo_file()
    beside = path.with_name(f"{path.stem}-logo.png") if logo is not None and logo.suffix == ".png" else None
    document = dxf_of(sheets, us, beside.name if beside is not None else "")
    written = [path]
    if beside is not None and logo is not None and next(iter(document.query("IMAGE")), None) is not None:
        with replacing(beside) as part:
            part.write_bytes(logo.read_bytes())
        written.append(beside)
    with replacing(path) as part:
        document.saveas(part)
    return written


def _logo(document: Document, layout: Paperspace, sheet: Sheet, name: str, layer: str) -> None:
    """A logo that is a picture, named, at its place in the title block, as large as it fits there at its left."""
    path = logo_file()
    for shape in sheet.frame.shapes:
        if not isinstance(shape, Polygon) or shape.key != "logo" or path is None:
            continue
        wide, high = (int.from_bytes(path.read_bytes()[k : k + 4], "big") for k in (16, 20))  # of the PNG header
        if not wide or not high:
            continue
        known = [d for d in document.objects.query("IMAGEDEF") if d.dxf.filename == name]
        picture: Any = known[0] if known else document.add_image_def(name, (wide, high))
        (x0, y0), (x1, _), (_, y1), _ = ((1000 * x, 1000 * y) for x, y in shape.points)
        scale = min((x1 - x0) / wide, (y1 - y0) / high)
        at = (x0, y0 + ((y1 - y0) - scale * high) / 2)
        layout.add_image(picture, at, (scale * wide, scale * high), dxfattribs={"layer": layer})


def dxf_of(sheets: Sequence[Sheet], us: bool = False, logo: str = "") -> Document:
    """The DXF document of some sheets; ``logo`` is the file beside it that holds the picture of the office."""
    document = new("R2018", setup=True, units=units.FT if us else units.M)
    document.header["$MEASUREMENT"] = 0 if us else 1
    document.header["$LTSCALE"] = 1.0
    document.header["$PSLTSCALE"] = 0
    document.styles.add(STYLE, font="arial.ttf").dxf.width = NARROW
    own = title_block()
    for name, layer in LAYERS.items():
        for presentation in (GEOMETRY, TEXT, DIMENSION, HATCH):
            called = layer_name(name, presentation, own)
            if called not in document.layers:
                added = document.layers.add(called, color=layer.colour, lineweight=layer.weight)
                added.description = layer.says
    each = 1.0 / FOOT if us else 1.0
    right: float | None = None
    placed: dict[int, Point] = {}
    measure = Paper()
    for k, sheet in enumerate(sheets):
        sheet = laid(sheet, measure, 1.0)
        layout = _layout(document, sheet, k)
        if logo:
            _logo(document, layout, sheet, logo, layer_name("frame", GEOMETRY, own))
        for view in sheet.whole:
            if view.scale == 1.0:
                _Writer(document, layout, own, 1000.0, (view.left, sheet.height - view.top), view.drawing, 1.0).write()
                continue
            whole = view if view.part_of is None else replace(view, drawing=view.part_of)
            window = view.drawing.bounds if view.part_of is not None else _window(measure, view, sheet)
            x0, y0, x1, y1 = (v * each for v in window)
            shift = placed.get(id(view.part_of)) if view.part_of is not None else None
            if shift is None:
                # a plan stands where it is; what else there is stands to the right of what is there already
                low, high = (v * each for v in (whole.drawing.bounds[0], whole.drawing.bounds[2]))
                shift = (0.0, 0.0) if right is None else (right + BETWEEN * (high - low) - low, 0.0)
                _Writer(
                    document, document.modelspace(), own, each, shift, whole.drawing, view.scale, model=True
                ).write()
                right = max(right if right is not None else -math.inf, max(high, x1) + shift[0])
                placed[id(view.part_of)] = shift
            _viewport(layout, sheet, view, (x0 + shift[0], y0 + shift[1], x1 + shift[0], y1 + shift[1]), window)
    return document


def _layout(document: Document, sheet: Sheet, k: int) -> Paperspace:
    name = f"{sheet.number:02d} {sheet.title}"
    for sign in '<>/\\":;?*|,=`':
        name = name.replace(sign, " ")
    if k == 0 and "Layout1" in document.layouts:
        document.layouts.rename("Layout1", name)
        layout = document.paperspace(name)
    else:
        layout = document.layouts.new(name)
    layout.page_setup(size=(sheet.width, sheet.height), margins=(0, 0, 0, 0), units="mm", scale=(1, 1))
    return layout


def _window(measure: Measure, view: View, sheet: Sheet) -> tuple[float, float, float, float]:
    """What of the model a viewport shows, m: the bounds and what is written around them, as far as the paper goes."""
    place = view.placement(1.0)
    (left, top) = place((view.drawing.bounds[0], view.drawing.bounds[3]))
    (right, bottom) = place((view.drawing.bounds[2], view.drawing.bounds[1]))
    for shape in view.drawing.shapes:
        if isinstance(shape, Text | Dimension | Leader):
            x, y = place(shape.start if isinstance(shape, Dimension) else shape.at)
            if not (left - 30 <= x <= right + 30 and top - 30 <= y <= bottom + 30):
                continue
            a, b, c, d = box_of(measure, shape, place)
            left, top, right, bottom = (
                min(left, a - 1),
                min(top, b - 1),
                max(right, c + 1),
                max(bottom, d + 1),
            )
    left, top, right, bottom = (
        max(left, 0.0),
        max(top, 0.0),
        min(right, sheet.width),
        min(bottom, sheet.height),
    )
    (x0, y1), (x1, y0) = place.back(left, top), place.back(right, bottom)
    return x0, y0, x1, y1


def _viewport(
    layout: Any,
    sheet: Sheet,
    view: View,
    model: tuple[float, float, float, float],
    window: tuple[float, float, float, float],
) -> None:
    place = view.placement(1.0)
    left, top = place((window[0], window[3]))
    right, bottom = place((window[2], window[1]))
    port = layout.add_viewport(
        center=((left + right) / 2, sheet.height - (top + bottom) / 2),
        size=(right - left, bottom - top),
        view_center_point=((model[0] + model[2]) / 2, (model[1] + model[3]) / 2),
        view_height=model[3] - model[1],
        status=2,
    )
    port.dxf.layer = "0"
    port.dxf.flags = port.dxf.flags | 16384  # the scale is locked


def _colour(token: str) -> int:
    """0xrrggbb of a token on paper."""
    return int(PRINT.resolved(token)[1:], 16)


def _is_rectangle(points: list[Point]) -> bool:
    """Four right angles: a column seen from above, not a face of one seen askew."""
    if len(points) != 4:
        return False
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = points
    sides = (bx - ax, by - ay), (cx - bx, cy - by)
    upright = abs(sides[0][0] * sides[1][0] + sides[0][1] * sides[1][1]) < 1e-6 * math.hypot(*sides[0]) * math.hypot(
        *sides[1]
    )
    return upright and math.dist((ax + cx, ay + cy), (bx + dx, by + dy)) < 1e-6 * math.dist(points[0], points[2])


class _Writer:
    """Writes the shapes of one drawing into a layout; ``each``: units of the file to a m of the drawing; moved by
    ``shift``."""

    def __init__(
        self,
        document: Document,
        space: Any,
        own: Mapping[str, str],
        each: float,
        shift: Point,
        drawing: Drawing,
        scale: float,
        model: bool = False,
    ) -> None:
        self.document, self.space, self.own, self.each = document, space, own, each
        self.drawing, self.scale, self.model = drawing, scale, model
        x0, _, _, y1 = drawing.bounds
        # on paper the upper left corner of the bounds goes to the place of the view
        self.origin = shift if model else (shift[0] - x0 * each, shift[1] - y1 * each)
        self.mm = each * scale / 1000.0 if model else 1.0
        """Units of the file to a mm of paper."""
        self.measure = Paper()
        self.bubbles = {s.at for s in drawing.shapes if isinstance(s, Disc) and s.key.startswith("bubble:")}

    def write(self) -> None:
        for shape in self.drawing.shapes:
            match shape:
                case Polygon():
                    self._polygon(shape)
                case Line():
                    self._line(shape)
                case Disc():
                    self._disc(shape)
                case Text():
                    if shape.at not in self.bubbles:
                        self._text(shape)
                case Dimension():
                    self._dimension(shape)
                case Leader():
                    self._leader(shape)

    def at(self, point: Point) -> Point:
        """Where a point of the drawing falls in the file."""
        return self.origin[0] + point[0] * self.each, self.origin[1] + point[1] * self.each

    def _like(
        self, shape: Shape, presentation: str, token: str | None, width: float = 0.0, dash: bool = False
    ) -> dict[str, Any]:
        """Attributes of an entity: those of its layer unless its colour or weight are others."""
        layer = LAYERS.get(shape.layer, LAYERS[""])
        found: dict[str, Any] = {
            "layer": layer_name(shape.layer if shape.layer in LAYERS else "", presentation, self.own)
        }
        if token and token not in ("ink", "concrete_line"):
            found["true_color"] = _colour(token)
        elif layer.colour != 7:
            found["color"] = 7
        if width:
            found["lineweight"] = min(WEIGHTS, key=lambda w: abs(w - 100 * width * PX))
        if dash:
            found["linetype"] = "DASHED"
            found["ltscale"] = DASH * self.mm
        return found

    def _polygon(self, shape: Polygon) -> None:
        points = [self.at(p) for p in shape.points]
        if shape.key.startswith("point:") and _is_rectangle(points):
            self._column(shape, points)
            return
        fill = shape.fill or ("soft" if shape.hatch else None)
        if fill:
            hatch = self.space.add_hatch(dxfattribs=self._like(shape, HATCH, fill))
            hatch.paths.add_polyline_path(points, is_closed=True)
            if fill in ("ink", "concrete_line"):
                hatch.dxf.color = 7
            if shape.opacity < 1:
                hatch.transparency = 1 - shape.opacity
        if shape.stroke:
            like = self._like(shape, GEOMETRY, shape.stroke, shape.width, shape.dash)
            entity = self.space.add_lwpolyline(points, close=True, dxfattribs=like)
            if shape.key:
                _mark(self.document, entity, shape.key)

    def _column(self, shape: Polygon, points: list[Point]) -> None:
        """A column as a block of its size, turned, with its name as an attribute that is not shown."""
        a, b = math.dist(points[0], points[1]), math.dist(points[1], points[2])
        name = f"COLUMN {round(1000 * a / self.each)} x {round(1000 * b / self.each)}"
        if name not in self.document.blocks:
            block = self.document.blocks.new(name)
            corners = [(-a / 2, -b / 2), (a / 2, -b / 2), (a / 2, b / 2), (-a / 2, b / 2)]
            layer = layer_name("columns", GEOMETRY, self.own)
            block.add_hatch(
                color=7, dxfattribs={"layer": layer_name("columns", HATCH, self.own)}
            ).paths.add_polyline_path(corners, is_closed=True)
            block.add_lwpolyline(corners, close=True, dxfattribs={"layer": layer})
            _attribute(block, "NAME", (0.0, 0.0), 2.0 * self.mm, hidden=True)
        middle = tuple(sum(p[i] for p in points) / 4 for i in (0, 1))
        turn = math.degrees(math.atan2(points[1][1] - points[0][1], points[1][0] - points[0][0]))
        entity = self.space.add_blockref(
            name, middle, dxfattribs={"rotation": turn, "layer": layer_name("columns", GEOMETRY, self.own)}
        )
        entity.add_auto_attribs({"NAME": shape.key.partition(":")[2]})
        _mark(self.document, entity, shape.key)

    def _line(self, shape: Line) -> None:
        points = [self.at(p) for p in shape.points]
        like = self._like(shape, GEOMETRY, shape.stroke, shape.width, shape.dash)
        entity = (
            self.space.add_lwpolyline(points, dxfattribs=like)
            if len(points) > 2
            else self.space.add_line(*points[:2], dxfattribs=like)
        )
        if shape.key:
            _mark(self.document, entity, shape.key)
        if shape.arrow:
            (fx, fy), (tx, ty) = points[-2:]
            length = math.hypot(tx - fx, ty - fy) or 1.0
            ux, uy = (tx - fx) / length, (ty - fy) / length
            size = (4.5 + 2.2 * shape.width) * PX * self.mm
            foot, side = (tx - ux * size, ty - uy * size), (-uy * size * 0.45, ux * size * 0.45)
            head = [(tx, ty), (foot[0] + side[0], foot[1] + side[1]), (foot[0] - side[0], foot[1] - side[1])]
            self.space.add_hatch(dxfattribs=self._like(shape, HATCH, shape.stroke)).paths.add_polyline_path(
                head, is_closed=True
            )

    def _disc(self, shape: Disc) -> None:
        radius = shape.radius * PX * self.mm if shape.fixed else shape.radius * self.each
        centre = self.at(shape.at)
        if shape.key.startswith("bubble:"):
            self._bubble(shape, centre, radius)
            return
        if shape.fill and shape.fill != "paper":
            hatch = self.space.add_hatch(dxfattribs=self._like(shape, HATCH, shape.fill))
            hatch.paths.add_edge_path().add_arc(centre, radius, 0, 360)
        if shape.stroke:
            self.space.add_circle(centre, radius, dxfattribs=self._like(shape, GEOMETRY, shape.stroke, shape.width))

    def _bubble(self, shape: Disc, centre: Point, radius: float) -> None:
        """The bubble of a grid line: a block of radius 1 with its label as an attribute."""
        name = "GRID BUBBLE"
        if name not in self.document.blocks:
            block = self.document.blocks.new(name)
            block.add_circle((0, 0), 1.0, dxfattribs={"layer": layer_name("grid", GEOMETRY, self.own)})
            _attribute(block, "LABEL", (0.0, 0.0), 0.75)
        entity = self.space.add_blockref(
            name,
            centre,
            dxfattribs={
                "xscale": radius,
                "yscale": radius,
                "zscale": radius,
                "layer": layer_name("grid", GEOMETRY, self.own),
            },
        )
        entity.add_auto_attribs({"LABEL": shape.key.partition(":")[2]})

    def _text(self, shape: Text) -> None:
        if not shape.text:
            return
        size, text = shape.size + 1, shape.text
        if shape.room:
            wide = shape.room * 1000 / self.scale
            if self.measure.width_of(text, size, shape.bold) > wide:
                text = cut(text, wide, lambda t: self.measure.width_of(t, size, shape.bold))
                if len(text) < 4:
                    return
        x, y = self.at(shape.at)
        at = (x + shape.dx * PX * self.mm, y - shape.dy * PX * self.mm)
        self._write(shape, text, at, size, shape.anchor, shape.colour)

    def _write(self, shape: Shape, text: str, at: Point, size: float, anchor: str, colour: str) -> None:
        like = self._like(shape, TEXT, colour) | {"style": STYLE}
        # texts of a drawing file are one line; what it has no letter for is written otherwise
        entity = self.space.add_text(text.replace("′", "'"), height=CAPITAL * size * PX * self.mm, dxfattribs=like)
        entity.set_placement(at, align=ALIGNMENT[anchor])

    def _dimension(self, shape: Dimension) -> None:
        x0, _, _, y1 = self.drawing.bounds
        place = Placement(1000.0 / self.scale, 0.0, 0.0, x0, y1)
        written = written_of(shape, place)
        wide = self.measure.width_of(shape.text, shape.size + 1, False)
        seen = written.anchor != "middle" or wide <= ROOMY * shape.length * 1000 / self.scale
        # the text stands where the other pages write it, where no label lies on it
        left, top, right, bottom = box_of(self.measure, shape, place)
        override = {
            "dimtxsty": STYLE,
            "dimtxt": CAPITAL * (shape.size + 1) * PX * self.mm,
            "dimtsz": 1.2 * self.mm,
            "dimexe": 0.8 * self.mm,
            "dimexo": 1.0 * self.mm,
            "dimgap": 0.3 * self.mm,
            "dimasz": 1.2 * self.mm,
            "dimdle": 0.0,
            "dimtad": 0,
            "dimscale": 1.0,
            "dimtmove": 2,
        }
        if not shape.away:
            override |= {"dimse1": 1, "dimse2": 1}
        distance = shape.away * self.each * (1.0 if shape.left else -1.0)
        made = self.space.add_aligned_dim(
            p1=self.at(shape.start),
            p2=self.at(shape.end),
            distance=distance,
            text=shape.text if seen else " ",
            override=override,
            dxfattribs=self._like(shape, DIMENSION, shape.colour) | {"text_rotation": 0.0},
        )
        if seen:
            made.set_location(self.at(place.back((left + right) / 2, (top + bottom) / 2)), leader=False, relative=False)
        made.render()

    def _leader(self, shape: Leader) -> None:
        a, b = self.at(shape.at), self.at(shape.to)
        like = self._like(shape, GEOMETRY, shape.colour, 0.8)
        self.space.add_line(a, b, dxfattribs=like)
        self.space.add_hatch(dxfattribs=self._like(shape, HATCH, shape.colour)).paths.add_edge_path().add_arc(
            b, 2.2 * PX * self.mm, 0, 360
        )
        dx = {"left": 4.0, "middle": 0.0, "right": -4.0}[shape.anchor]
        above = shape.anchor == "middle" and shape.at[1] >= shape.to[1]
        dy = -4.0 if above else 13.0 if shape.anchor == "middle" else 4.0
        at = (a[0] + dx * PX * self.mm, a[1] - dy * PX * self.mm)
        self._write(shape, shape.text, at, shape.size + 1, shape.anchor, shape.colour)


def _attribute(block: BlockLayout, tag: str, at: Point, height: float, hidden: bool = False) -> None:
    found = block.add_attdef(tag, at, dxfattribs={"height": height, "style": STYLE})
    found.set_placement(at, align=TextEntityAlignment.MIDDLE_CENTER)
    found.is_invisible = hidden


APP = "KORBENT"


def _mark(document: Document, entity: Any, key: str) -> None:
    """What an entity stands for, as data of ours that other programs leave alone."""
    if APP not in document.appids:
        document.appids.add(APP)
    entity.set_xdata(APP, [(1000, key[:200])])


def outlines(path: Path) -> dict[str, list[tuple[float, float]]]:
    """The outlines of bases that a file of ours holds in its model, by name; for comparing with the project.

    Raises:
        OSError, ezdxf.DXFError: when it cannot be read.
    """
    document = readfile(path)
    found: dict[str, list[tuple[float, float]]] = {}
    for entity in document.modelspace().query("LWPOLYLINE"):
        key = keyed(entity)
        if isinstance(entity, LWPolyline) and key.startswith("pad:") and key[4:] not in found:
            found[key[4:]] = [(float(x), float(y)) for x, y in Vec2.list(entity.get_points("xy"))]
    return found


def keyed(entity: Any) -> str:
    """What an entity of a file of ours stands for; '' where nothing is said."""
    return next((value for code, value in entity.get_xdata(APP) if code == 1000), "") if entity.has_xdata(APP) else ""
