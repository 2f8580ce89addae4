"""Dimensions that a base has besides its own sizes: overhang and ribs of a raft, the beam of a strap."""

from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.rafts import dimensions as of_rafts
from korbent.core.straps import dimensions as of_straps

NAMES = (*of_rafts.NAMES, *of_straps.NAMES)


def dimensions_of(project: Project, pad: Pad) -> tuple[str, ...]:
    """Those that a base has."""
    return (*of_rafts.dimensions_of(pad), *of_straps.dimensions_of(project, pad))


def value_of(project: Project, pad: Pad, name: str) -> float:
    """In m.

    Raises:
        KeyError: when the base has no such dimension.
    """
    if name in of_straps.NAMES:
        return of_straps.value_of(project, pad, name)
    return of_rafts.value_of(project, pad, name)


def changed(project: Project, pad: Pad, name: str, value: float) -> Project:
    """The project with another value of it.

    Raises:
        KeyError: when the base has no such dimension. ValueError: when that is not possible.
    """
    if name in of_straps.NAMES:
        return of_straps.changed(project, pad, name, value)
    new = of_rafts.changed(project, pad, name, value)
    return (
        project if new == pad else project.replaced(pads=tuple(new if p is pad else p for p in project.pads))
    )
