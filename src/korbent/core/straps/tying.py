"""Which base a strap would tie to which: what the plan proposes, and straps that lose one of their bases."""

from math import cos, hypot, radians, sin

from korbent.core.model import Pad, Project
from korbent.core.model.foundations import Strap
from korbent.core.units import sizes_text
from korbent.words import say

NEAREST = 1.0
"""Columns of tied bases stand at least so far apart, m."""


def ties(project: Project, pad: Pad, at_edge: bool = False) -> bool:
    """Whether a strap may tie this base: a pad under one column on the ground itself; as the one at the boundary of no
    other strap."""
    free = not at_edge or all(strap.edge != pad.name for strap in project.straps)
    return pad.kind == "pad" and not pad.further and pad.replacement is None and free


def strap_for(project: Project, edge: Pad, inner: Pad | None = None) -> Strap:
    """A strap from a base to another one; where none is named to the nearest one on that side of its column on which it
    reaches further.

    Where the column stands in the middle, the nearest one at all. Depth an eighth of the distance of the columns, to
    0.1 m, at least 0.6 m; width 0.6 of that.

    Raises:
        ValueError: where this base cannot be tied, or no other.
    """
    if not ties(project, edge, at_edge=True):
        raise ValueError(
            say(
                "{edge} is at the boundary of a strap already, or no pad under one column on the ground itself: "
                "a strap ties such pads",
                edge=edge.name,
            )
        )
    points = {p.name: p for p in project.actions.load_points}
    own, turn = points[edge.load_point], radians(edge.rotation)
    inwards = (
        -edge.offset_x * cos(turn) + edge.offset_y * sin(turn),
        -edge.offset_x * sin(turn) - edge.offset_y * cos(turn),
    )
    tied = [{s.edge, s.inner} for s in project.straps]
    found: list[tuple[float, Pad]] = []
    for pad in project.pads if inner is None else (inner,):
        there = points[pad.load_point]
        dx, dy = there.x - own.x, there.y - own.y
        apart = hypot(dx, dy)
        if pad is edge or apart < NEAREST or not ties(project, pad) or {edge.name, pad.name} in tied:
            continue
        along = (dx * inwards[0] + dy * inwards[1]) / apart
        # to 30 degrees off the way in which it reaches further
        if inner is not None or hypot(*inwards) < 1e-6 or along > 0.86 * hypot(*inwards):
            found.append((apart, pad))
    if not found:
        raise ValueError(
            say(
                "no other pad under one column stands on the inner side of {edge}: give both bases in the table Straps",
                edge=edge.name,
            )
            if inner is None
            else say(
                "{inner} is tied to it already, no pad under one column, or stands at the very same place",
                inner=inner.name,
            )
        )
    apart, inner = min(found, key=lambda one: one[0])
    depth = max(0.6, round(apart / 8, 1))
    names = {s.name for s in project.straps}
    name = next(f"S{i}" for i in range(1, len(names) + 2) if f"S{i}" not in names)
    return Strap(name=name, edge=edge.name, inner=inner.name, width=round(0.6 * depth, 1), depth=depth)


def tied_up(project: Project, edge: Pad, inner: Pad | None = None) -> tuple[Project, str]:
    """The project with :func:`strap_for` this base, and what was done.

    Raises:
        ValueError: see there.
        pydantic.ValidationError: when the strap is not possible.
    """
    strap = strap_for(project, edge, inner)
    units = project.showing
    size = f"{sizes_text((strap.width, strap.depth), units, ' x ')}"
    words = say(
        "{strap} ties {edge} to {inner}, {size}; its checks stand at {edge}",
        strap=strap.name,
        edge=strap.edge,
        inner=strap.inner,
        size=size,
    )
    return project.replaced(straps=(*project.straps, strap)), words
