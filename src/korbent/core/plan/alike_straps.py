"""Straps of one type: they have the same beam."""

from korbent.core.model.foundations import Strap
from korbent.core.model.project import Project

BEAM = ("width", "depth", "top", "bottom", "links", "legs", "cover", "ranges")
"""What straps of one type have in common."""


def with_beam(project: Project, strap: Strap) -> Project:
    """The project with a strap as it is given, and its beam for all of its type."""
    beam = {name: getattr(strap, name) for name in BEAM}
    straps = tuple(
        strap if s.name == strap.name else s.replaced(**beam) if strap.type and s.type == strap.type else s
        for s in project.straps
    )
    return project.replaced(straps=straps)
