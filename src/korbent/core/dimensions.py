"""Dimensions that a base has besides its own sizes: overhang and ribs of a raft, the beam of a strap; the same size
read at its edges; its pedestal."""

from typing import Literal

from korbent.core.concrete import pedestal_dimensions as of_pedestals
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.plan import edges as of_edges
from korbent.core.rafts import dimensions as of_rafts
from korbent.core.straps import dimensions as of_straps

Page = Literal["sizes", "edges", "pedestal"]
PAGES: tuple[Page, ...] = ("sizes", "edges", "pedestal")
"""What is looked at together."""
NAMES = (*of_rafts.NAMES, *of_straps.NAMES, *of_edges.NAMES, *of_pedestals.NAMES)
FOOT = 0.3048
DRIVING_INCREMENTS = {
    "metric": {
        "width": 0.1,
        "length": 0.1,
        "thickness": 0.05,
        "level": 0.1,
        "offset_x": 0.05,
        "offset_y": 0.05,
        "far_length": 0.1,
    },
    "us": {
        "width": FOOT / 4,
        "length": FOOT / 4,
        "thickness": FOOT / 8,
        "level": FOOT / 4,
        "offset_x": FOOT / 8,
        "offset_y": FOOT / 8,
        "far_length": FOOT / 4,
    },
}
"""The increments (m) of the driving dimensions, by unit set."""
INCREMENTS = {
    "metric": {
        "overhang": 0.1,
        "rib_width": 0.05,
        "rib_depth": 0.05,
        "strap_width": 0.05,
        "strap_depth": 0.05,
        **dict.fromkeys(of_edges.NAMES, 0.05),
        "pedestal_x": 0.05,
        "pedestal_y": 0.05,
        "pedestal_top": 0.1,
        "pedestal_bars": 2.0,
        "pedestal_ties": 0.025,
    },
    "us": {
        "overhang": FOOT / 4,
        "rib_width": FOOT / 8,
        "rib_depth": FOOT / 8,
        "strap_width": FOOT / 8,
        "strap_depth": FOOT / 8,
        **dict.fromkeys(of_edges.NAMES, FOOT / 8),
        "pedestal_x": FOOT / 12,
        "pedestal_y": FOOT / 12,
        "pedestal_top": FOOT / 4,
        "pedestal_bars": 2.0,
        "pedestal_ties": FOOT / 12,
    },
}
"""Their increments (m; bars are counted); a bar takes the next diameter."""


def dimensions_of(project: Project, pad: Pad, page: Page = "sizes") -> tuple[str, ...]:
    """Those that a base has on a page."""
    if page == "edges":
        return of_edges.dimensions_of(project, pad)
    if page == "pedestal":
        return of_pedestals.dimensions_of(project, pad)
    return (*of_rafts.dimensions_of(pad), *of_straps.dimensions_of(project, pad))


def pages_of(project: Project, pad: Pad) -> tuple[Page, ...]:
    """The pages on which a base has something; each increment of a raft solves its plate, so it has one page."""
    if pad.plate is not None:
        return ("sizes",)
    return tuple(page for page in PAGES if page == "sizes" or dimensions_of(project, pad, page))


def value_of(project: Project, pad: Pad, name: str) -> float:
    """In m; what is counted as a number.

    Raises:
        KeyError: when the base has no such dimension.
    """
    if name in of_straps.NAMES:
        return of_straps.value_of(project, pad, name)
    if name in of_edges.NAMES:
        return of_edges.value_of(project, pad, name)
    if name in of_pedestals.NAMES:
        return of_pedestals.value_of(project, pad, name)
    return of_rafts.value_of(project, pad, name)


def changed(project: Project, pad: Pad, name: str, value: float) -> Project:
    """The project with another value of it.

    Raises:
        KeyError: when the base has no such dimension. ValueError: when that is not possible.
    """
    if name in of_straps.NAMES:
        return of_straps.changed(project, pad, name, value)
    if name in of_edges.NAMES:
        return of_edges.changed(project, pad, name, value)
    if name in of_pedestals.NAMES:
        return of_pedestals.changed(project, pad, name, value)
    new = of_rafts.changed(project, pad, name, value)
    return project if new == pad else project.replaced(pads=tuple(new if p is pad else p for p in project.pads))


def next_value(project: Project, pad: Pad, name: str, increments: float) -> float:
    """The value after so many increments."""
    next_one = of_pedestals.next_diameter(project, pad, name, 1 if increments > 0 else -1)
    if next_one is not None:
        return next_one
    size = INCREMENTS["us" if project.units == "us" else "metric"][name]
    by = max(1.0, abs(increments)) * size if name == "pedestal_bars" else abs(increments) * size
    return round(value_of(project, pad, name) + (by if increments > 0 else -by), 9)
