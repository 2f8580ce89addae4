"""What a pad may be: shapes and what goes with them, and what fits the plate of a raft."""

from typing import TYPE_CHECKING

from korbent.core.model import outlines
from korbent.core.model.labels import label
from korbent.core.model.plate import Plate, overlap
from korbent.words import say

if TYPE_CHECKING:
    from korbent.core.model.foundations import Pad

ROUND = ("circle", "ring")


def check_shape(pad: "Pad") -> None:
    """What goes with its shape.

    Raises:
        ValueError: what does not, and what to do.
    """
    if pad.shape in ROUND and abs(pad.width - pad.length) > 1e-9:
        raise ValueError(
            say("a {shape} has one diameter: its width and its length are the same", shape=label(pad.shape))
        )
    if pad.shape == "ring" and not 0 < pad.hole < pad.width:
        raise ValueError(
            say(
                "the hole of a ring, {hole:g} m, must be more than nothing and less than its diameter, {width:g} m",
                hole=pad.hole,
                width=pad.width,
            )
        )
    if pad.kind == "strip" and (pad.shape != "rectangle" or pad.further):
        raise ValueError(
            say("a strip is a rectangle under one wall: make it a pad to give it another shape or more columns")
        )
    if (pad.kind == "raft") != (pad.plate is not None):
        raise ValueError(say("a raft has its plate, and no other base has one"))
    if (pad.shape == "polygon") != bool(pad.outline):
        raise ValueError(say("a polygon has an outline, and no other shape has one"))
    if pad.shape == "polygon":
        _check_polygon(pad)
    if pad.shape == "trapezoid" and not pad.far_length > 0.0:
        raise ValueError(say("a trapezoid has two lengths: give far_length, that of its end at +x"))
    if pad.shape == "trapezoid" and pad.hold_y != "middle":
        raise ValueError(say("the sides of a trapezoid are not held: hold the middle, or an end (-x, +x)"))


def _check_polygon(pad: "Pad") -> None:
    if pad.kind != "raft":
        raise ValueError(say("of bases only rafts are polygons: make it a raft, or give it another shape"))
    outlines.checked(pad.outline)
    box = outlines.box_of(pad.outline)
    whole = (-pad.width / 2, pad.width / 2, -pad.length / 2, pad.length / 2)
    if max(abs(a - b) for a, b in zip(box, whole)) > outlines.AT_EDGE:
        raise ValueError(
            say(
                "the outline reaches from {box:g} to {box_2:g} m along x and from {box_3:g} to {box_4:g} m "
                "along y, the base from {whole:g} to {whole_2:g} m and from {whole_3:g} to {whole_4:g} m: its "
                "corners are given from the middle of its width and length",
                box=box[0],
                box_2=box[1],
                box_3=box[2],
                box_4=box[3],
                whole=whole[0],
                whole_2=whole[1],
                whole_3=whole[2],
                whole_4=whole[3],
            )
        )


def check_plate(pad: "Pad", plate: Plate) -> None:
    """Whether openings, thickenings, lower parts, loads and ribs fit a raft.

    Raises:
        ValueError: what does not, and what to do.
    """
    if pad.shape not in ("rectangle", "polygon") or pad.replacement is not None or pad.openings:
        raise ValueError(say("a raft is a rectangle or a polygon on the ground itself; its openings are regions"))
    half_x, half_y = pad.width / 2 + 1e-9, pad.length / 2 + 1e-9
    for what, regions in (
        (say("opening"), plate.openings),
        (say("thickening"), plate.thickenings),
        (say("lower part"), plate.lower),
        (say("region of added bars"), plate.added),
        (say("loaded region"), plate.loads),
        (say("zone of springs"), plate.zones),
    ):
        for i, region in enumerate(regions):
            x0, x1, y0, y1 = region.box
            if min(x0 + half_x, half_x - x1, y0 + half_y, half_y - y1) < 0:
                raise ValueError(
                    say(
                        "{what} {i} reaches over the edge of the raft, which ends at {width:g} m and {length:g} m from its middle",
                        what=what,
                        i=i + 1,
                        width=pad.width / 2,
                        length=pad.length / 2,
                    )
                )
    for i, hole in enumerate(plate.openings):
        if pad.outline and not _covers(pad, hole.box):
            raise ValueError(
                say("opening {i} reaches over the outline of the raft: let the outline go around it", i=i + 1)
            )
    for i, one in enumerate(plate.thickenings):
        if one.thickness <= pad.thickness:
            raise ValueError(
                say(
                    "thickening {i} is {thickness:g} m thick, no more than the raft, {thickness_2:g} m",
                    i=i + 1,
                    thickness=one.thickness,
                    thickness_2=pad.thickness,
                )
            )
    _check_lower(pad, plate)
    _check_ribs(pad, plate)
    for i, first in enumerate(plate.openings):
        for other in plate.openings[i + 1 :]:
            a, b = first.box, other.box
            if a[0] < b[1] and b[0] < a[1] and a[2] < b[3] and b[2] < a[3]:
                raise ValueError(say("two openings lie over each other: make them one"))


def _check_lower(pad: "Pad", plate: Plate) -> None:
    for i, part in enumerate(plate.lower):
        if pad.outline and not _covers(pad, part.box):
            raise ValueError(say("lower part {i} reaches over the outline of the raft: let it lie within", i=i + 1))
        if part.wall is not None and part.wall < pad.thickness - 1e-9:
            raise ValueError(
                say(
                    "the step around lower part {i} is {wall:g} m thick, less than the raft, {thickness:g} m, whose "
                    "moments go through it",
                    i=i + 1,
                    wall=part.wall,
                    thickness=pad.thickness,
                )
            )
        wall = part.wall or pad.thickness
        if min(part.x_to - part.x_from, part.y_to - part.y_from) <= 2 * wall:
            raise ValueError(
                say(
                    "lower part {i} leaves no room within its step, {wall:g} m thick all around: make it larger",
                    i=i + 1,
                    wall=wall,
                )
            )
        if any(overlap(part.box, hole.box) for hole in plate.openings):
            raise ValueError(say("lower part {i} and an opening lie over each other", i=i + 1))
        if any(overlap(part.box, other.box) for other in plate.lower[:i]):
            raise ValueError(say("two lower parts lie over each other: make them one"))


def _check_ribs(pad: "Pad", plate: Plate) -> None:
    names = [rib.name for rib in plate.ribs]
    twice = next((n for n in names if names.count(n) > 1), "")
    if twice:
        raise ValueError(say("two ribs are called {twice}", twice=twice))
    boxes = {rib.name: pad.rib_box(rib) for rib in plate.ribs}
    for rib in plate.ribs:
        x0, x1, y0, y1 = boxes[rib.name]
        if rib.depth <= pad.thickness:
            raise ValueError(
                say(
                    "rib {rib} is {depth:g} m deep, no more than the raft is thick, {thickness:g} m: it counts from "
                    "its other face",
                    rib=rib.name,
                    depth=rib.depth,
                    thickness=pad.thickness,
                )
            )
        half_x, half_y = pad.width / 2 + 1e-9, pad.length / 2 + 1e-9
        if x0 < -half_x or x1 > half_x or y0 < -half_y or y1 > half_y or x1 - x0 <= 0 or y1 - y0 <= 0:
            raise ValueError(
                say(
                    "rib {rib} reaches over the edge of the raft, which ends at {width:g} m and {length:g} m from its middle",
                    rib=rib.name,
                    width=pad.width / 2,
                    length=pad.length / 2,
                )
            )
        if pad.outline and not _has_line(pad, rib.axis, rib.at, *((x0, x1) if rib.axis == "x" else (y0, y1))):
            raise ValueError(
                say(
                    "rib {rib} leaves the outline of the raft: say where it begins and ends, or move it",
                    rib=rib.name,
                )
            )
        for i, hole in enumerate(plate.openings):
            if hole.x_from < x1 and x0 < hole.x_to and hole.y_from < y1 and y0 < hole.y_to:
                raise ValueError(
                    say("rib {rib} runs over opening {i}: end it before, or move it", rib=rib.name, i=i + 1)
                )
        for i, part in enumerate(plate.lower):
            if overlap(part.box, (x0, x1, y0, y1)):
                raise ValueError(
                    say("rib {rib} runs over lower part {i}: end it before, or move it", rib=rib.name, i=i + 1)
                )
        for other in plate.ribs:
            a, b, c, d = boxes[other.name]
            if other.name < rib.name and other.axis == rib.axis and a < x1 and x0 < b and c < y1 and y0 < d:
                raise ValueError(
                    say("ribs {other} and {rib} lie over each other: make them one", other=other.name, rib=rib.name)
                )


def _covers(pad: "Pad", box: tuple[float, float, float, float]) -> bool:
    from shapely import Polygon
    from shapely import box as rectangle

    found: bool = Polygon(pad.outline).buffer(1e-6).covers(rectangle(box[0], box[2], box[1], box[3]))
    return found


def _has_line(pad: "Pad", axis: str, at: float, low: float, high: float) -> bool:
    """All of a line along an axis lies within the outline."""
    found = outlines.crossings(pad.outline, axis, at)
    return any(a - 1e-6 <= low and high <= b + 1e-6 for a, b in found)
