"""The size of a base read the other way: how far its four edges are from the axes of the columns that are next to
them."""

from korbent.core.geometry import local_place
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.words import say

NAMES = ("edge_-x", "edge_+x", "edge_-y", "edge_+y")


def dimensions_of(project: Project, pad: Pad) -> tuple[str, ...]:
    """Those that a base has: four of a rectangle, none of what has no four edges."""
    return NAMES if pad.shape == "rectangle" and not pad.outline and pad.plate is None else ()


def value_of(project: Project, pad: Pad, name: str) -> float:
    """From the axis of the outermost column to an edge, m: of a base under several columns its overhang.

    Raises:
        KeyError: when the base has no such dimension.
    """
    if name not in dimensions_of(project, pad):
        raise KeyError(name)
    side = name.removeprefix("edge_")
    return pad.edge(side) - _outermost(project, pad, side)


def changed(project: Project, pad: Pad, name: str, value: float) -> Project:
    """The project with that edge elsewhere; the columns and the other edges stay.

    Raises:
        KeyError: when the base has no such dimension. ValueError: when the edge is held. pydantic.ValidationError: when
        no base is left.
    """
    if name not in dimensions_of(project, pad):
        raise KeyError(name)
    side = name.removeprefix("edge_")
    if side in (pad.hold_x, pad.hold_y):
        raise ValueError(say("the {side} edge is held: let it go on the small outline first", side=side))
    new = pad.with_edge(side, round(value + _outermost(project, pad, side), 9))
    return project.replaced(pads=tuple(new if p is pad else p for p in project.pads))


def columns_apart(project: Project, pad: Pad) -> tuple[float, float]:
    """From the first to the last column along the axes of the base, m."""
    return tuple(_outermost(project, pad, f"+{axis}") + _outermost(project, pad, f"-{axis}") for axis in "xy")  # type: ignore[return-value]


def _outermost(project: Project, pad: Pad, side: str) -> float:
    """How much further towards an edge than the first column another one stands, m."""
    first = project.load_point(pad.load_point)
    k, sign = "xy".index(side[1]), 1.0 if side[0] == "+" else -1.0
    own = (pad.offset_x, pad.offset_y)[k]
    places = [local_place(pad, first, project.load_point(name))[k] - own for name in pad.further]
    return round(max([0.0, *(sign * place for place in places)]), 9)
