"""Dimensions of a raft that move several of its sizes together: how far it reaches beyond its columns, width and depth
of its ribs."""

from math import hypot

from korbent.core.geometry import local_place
from korbent.core.model.foundations import Pad
from korbent.core.model.outlines import Corner, sides
from korbent.core.model.project import Project

NAMES = ("overhang", "rib_width", "rib_depth")


def dimensions_of(pad: Pad) -> tuple[str, ...]:
    """Those that a base has."""
    if pad.plate is None:
        return ()
    return NAMES if pad.plate.ribs else NAMES[:1]


def value_of(project: Project, pad: Pad, name: str) -> float:
    """Of the least overhang beyond the axes of the columns, held edges aside; of ribs that are not alike the greatest,
    m.

    Raises:
        KeyError: when the base has no such dimension.
    """
    if name not in dimensions_of(pad) or pad.plate is None:
        raise KeyError(name)
    if name != "overhang":
        field = name.removeprefix("rib_")
        return max(float(getattr(rib, field)) for rib in pad.plate.ribs)
    first = project.load_point(pad.load_point)
    places = [
        (pad.offset_x, pad.offset_y),
        *(local_place(pad, first, project.load_point(n)) for n in pad.further),
    ]
    B, L = pad.width / 2, pad.length / 2
    corners = pad.outline or ((-B, -L), (B, -L), (B, L), (-B, L))
    free = [side for side in sides(corners) if not pad.is_held(*side)]
    return min(_to_side(place, *side) for place in places for side in free)


def _to_side(place: Corner, a: Corner, b: Corner) -> float:
    dx, dy = b[0] - a[0], b[1] - a[1]
    t = min(max(((place[0] - a[0]) * dx + (place[1] - a[1]) * dy) / (dx * dx + dy * dy), 0.0), 1.0)
    return hypot(place[0] - a[0] - t * dx, place[1] - a[1] - t * dy)


def changed(project: Project, pad: Pad, name: str, value: float) -> Pad:
    """The raft with another overhang, all edges but the held ones moving alike, or with all ribs wider or deeper by the
    same.

    Raises:
        KeyError: when it has no such dimension. pydantic.ValidationError: when no raft is left.
    """
    by = round(value - value_of(project, pad, name), 9)
    if name == "overhang":
        return pad.resized_about_columns(by)
    assert pad.plate is not None
    field = name.removeprefix("rib_")
    ribs = tuple(rib.replaced(**{field: round(getattr(rib, field) + by, 9)}) for rib in pad.plate.ribs)
    return pad.replaced(plate=pad.plate.replaced(ribs=ribs))
