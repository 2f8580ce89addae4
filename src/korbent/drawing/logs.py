"""The logs of all boreholes side by side on one level axis."""

import math
from collections import OrderedDict
from itertools import pairwise

from korbent.core.model import Borehole, Project, Soil
from korbent.core.model.labels import label
from korbent.core.units import LENGTH_DECIMALS, show, shown_unit, to_shown
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Shape, Sketch, Spot, Text, rectangle
from korbent.words import say

APART = 1.8
"""Lines from the name of a stratum to the next: nearer they would lie on each other, and stand in another order."""
AT_ONCE = 8
"""At most so many logs are shown side by side; the others follow to the right."""

MARKS = {
    "cu": ("cu", "kPa", "steel_x"),
    "w": ("w", "", "water"),
    "CPT qc": ("qc", "MPa", "accent"),
    "SPT N": ("N", "", "ink"),
}
"""Tests that the log shows: their sign, unit and colour; the others stand in the table."""


def signed(level: float, units: object) -> str:
    """A level with its sign in the shown unit: two decimals of m and ft, none of mm."""
    decimals = LENGTH_DECIMALS.get(shown_unit("m", units), 2)  # type: ignore[arg-type]
    return f"{to_shown(level, 'm', units):+.{decimals}f}".replace("-", "−")  # type: ignore[arg-type]


def _joined(sketch: Sketch, left: Borehole, right: Borehole, x0: float, x1: float) -> None:
    """Lines between two logs at the bounds of the units that both have; a unit that one lacks pinches out half way."""
    bounds = []
    for hole in (left, right):
        seen: dict[str, int] = {}
        level = hole.ground_level
        found = {}
        for stratum in hole.strata:
            seen[stratum.soil] = seen.get(stratum.soil, -1) + 1
            found[(stratum.soil, seen[stratum.soil])] = (level, level - stratum.thickness)
            level -= stratum.thickness
        bounds.append(found)
    for unit in bounds[0].keys() & bounds[1].keys():
        sketch.add(Line(((x0, bounds[0][unit][1]), (x1, bounds[1][unit][1])), "line", 1.0))
    middle = (x0 + x1) / 2
    for here, x in ((0, x0), (1, x1)):
        for unit in bounds[here].keys() - bounds[1 - here].keys():
            top, bottom = bounds[here][unit]
            if bottom > level_of_end(left, right, here):
                sketch.add(Line(((x, top), (middle, (top + bottom) / 2), (x, bottom)), "line", 1.0, dash=True))


def level_of_end(left: Borehole, right: Borehole, here: int) -> float:
    """Level at which the other hole ends: what lies deeper may go on there unseen."""
    other = right if here == 0 else left
    return other.ground_level - sum(s.thickness for s in other.strata)


def logs_drawing(project: Project, aspect: float = 2.0) -> Drawing:
    """Boreholes in the order of their x, to scale in depth, with water levels and surfaces. Boundaries can be
    dragged."""
    holes = sorted(project.ground.boreholes, key=lambda h: (h.x, h.y))
    if not holes:
        text = Text((0, 0), say("no borehole yet: import a file, or add one in the table below"), 12, "soft", "middle")
        return Drawing((text,), (-1, -1, 1, 1))
    soils = {s.name: s for s in project.ground.soils}
    tops = [h.ground_level for h in holes]
    ends = [h.ground_level - sum(s.thickness for s in h.strata) for h in holes]
    # to half metres, so that a small change moves nothing else on the sheet
    high = math.ceil(2 * (max(*tops, project.ground.surfaces.finished) + 0.3)) / 2
    low = math.floor(2 * min(ends)) / 2
    pitch = (high - low) * aspect / min(len(holes), AT_ONCE)
    span = pitch * len(holes)
    sketch = Sketch()
    _surfaces(sketch, project, span, pitch * min(len(holes), AT_ONCE), 0.042 * (high - low))
    width = pitch * 0.29
    for i, (left, right) in enumerate(pairwise(holes)):
        _joined(sketch, left, right, i * pitch + 0.06 * pitch + width, (i + 1) * pitch + 0.06 * pitch)
    for i, hole in enumerate(holes):
        sketch.shapes.extend(_remembered(project, hole, soils, i * pitch + 0.06 * pitch, width, 0.035 * (high - low)))
    if len(holes) > AT_ONCE:
        sketch.add(
            Text(
                (0, high),
                say("{holes} boreholes: drag the sheet for the others, zoom with the wheel", holes=len(holes)),
                11,
                "soft",
                dy=-30,
            )
        )
    seen = pitch * min(len(holes), AT_ONCE)
    return Drawing(tuple(sketch.shapes), (0, low, seen, high))


def _surfaces(sketch: Sketch, project: Project, span: float, seen: float, gap: float) -> None:
    ground = project.ground
    lines = [(say("finished"), ground.surfaces.finished, "ink")]
    if ground.surfaces.excavated is not None:
        lines.append((say("excavated"), ground.surfaces.excavated, "soft"))
    if ground.surfaces.existing is not None:
        lines.append((say("existing"), ground.surfaces.existing, "soft"))
    water = ground.water
    if water:
        lines += [
            (label("high"), water.high, "water"),
            (label("normal"), water.normal, "water"),
            (label("low"), water.low, "water"),
        ]
    for _, level, colour in lines:
        sketch.add(Line(((0, level), (span, level)), colour, 1.1, dash=colour != "ink"))
    last = 1e9
    for name, level, colour in sorted(lines, key=lambda item: -item[1]):
        # names of levels close to each other stand below one another
        last = min(level, last - gap)
        sketch.add(Text((seen, last), f"{name} {signed(level, project.showing)}", 10, colour, dx=6, dy=4))


_shapes: OrderedDict[tuple[object, ...], tuple[tuple[object, ...], list[Shape]]] = OrderedDict()


def _remembered(
    project: Project, hole: Borehole, soils: dict[str, Soil], x: float, width: float, line: float
) -> list[Shape]:
    """The shapes of one log; the same ones as long as hole, soils, units and place are."""
    key = (id(hole), id(project.ground.soils), project.showing, x, width, line)
    if key not in _shapes:
        sketch = Sketch()
        _log(sketch, project, hole, soils, x, width, line)
        _shapes[key] = ((hole, project.ground.soils), sketch.shapes)
        if len(_shapes) > 2000:
            _shapes.popitem(last=False)
    return _shapes[key][1]


def _log(
    sketch: Sketch, project: Project, hole: Borehole, soils: dict[str, Soil], x: float, width: float, line: float
) -> None:
    z = hole.ground_level
    units = project.showing
    sketch.add(Text((x, z), hole.name, 13, "ink", bold=True, dy=-20))
    sketch.add(Text((x, z), f"{signed(z, units)} {shown_unit('m', units)}", 10, "soft", dy=-7))
    last = written = 1e9
    for i, stratum in enumerate(hole.strata):
        soil = soils[stratum.soil]
        below = z - stratum.thickness
        sketch.add(
            Polygon(
                rectangle(x, below, x + width, z),
                soil.pattern,
                "ink",
                1.0,
                pattern=soil.pattern,
                key=f"soil:{soil.name}",
            )
        )
        middle = min((z + below) / 2, last - APART * line)
        room = 1.7 * width
        sketch.add(Text((x + width, middle), soil.name, 11, "ink", dx=6, dy=4, halo=True, room=room))
        following = hole.strata[i + 1].thickness if i + 1 < len(hole.strata) else 1e9
        # below its name and above that of the next stratum
        if soil.description and stratum.thickness > 3.2 * line and middle - (below - following / 2) > 2.2 * line:
            sketch.add(
                Text(
                    (x + width, middle),
                    soil.description,
                    10,
                    "soft",
                    dx=6,
                    dy=18,
                    halo=True,
                    room=room,
                    spots=(Spot((x + width, middle), "left", 6, 22),),
                    stays=True,
                )
            )
        if written - below > 1.4 * line or i == len(hole.strata) - 1:
            sketch.add(Text((x, below), signed(below, units), 10, "soft", "right", dx=-5, dy=4, fixed=True))
            written = below
        last, z = middle, below
    if hole.water is not None:
        w, h = 0.16 * width, 0.5 * line
        at, side = hole.water, x + 0.5 * width
        sketch.add(
            Polygon(((side - w, at + h), (side + w, at + h), (side, at)), "water"),
            Line(((x, at), (x + width, at)), "water", 1.2),
        )
    level = hole.ground_level
    for i, stratum in enumerate(hole.strata):
        level -= stratum.thickness
        sketch.add(Line(((x, level), (x + width, level)), "ink", 1.6, key=f"drag:bound:{hole.name}:{i}"))
    for kind, (sign, unit, colour) in MARKS.items():
        for test in hole.tests:
            if test.kind != kind:
                continue
            at = hole.ground_level - test.depth
            shown = show(test.value, unit, units) if unit else f"{test.value:g}"
            if kind in ("SPT N", "CPT qc"):
                sketch.add(Text((x + width, at), f"{sign} {shown}", 9, colour, "right", dx=-3, dy=3, halo=True))
            else:
                sketch.add(
                    Disc((x, at), 2.5, colour, None, fixed=True),
                    Text((x, at), f"{sign} {shown}", 9, colour, dx=4, dy=3, halo=True, room=0.42 * width),
                )
    for sample in hole.oedometers:
        at = hole.ground_level - sample.depth
        sketch.add(
            Disc(
                (x + width, at),
                4,
                None,
                "accent",
                1.4,
                fixed=True,
                key=f"oedometer:{hole.name}:{sample.sample}",
            )
        )
    if hole.rigid_below:
        sketch.add(Text((x, z), say("does not settle below"), 10, "soft", dy=13))
