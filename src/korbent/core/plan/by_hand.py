"""What a change by hand entails: the rules of editing, for the window and for scripts alike.

A base that is issued or poured keeps its size; one whose edge is held grows away from it; a value that came from an
expression no longer does; a soil parameter adopted from tests loses its source; a generated combination is marked as
edited; a name is changed everywhere."""

from typing import Any

from korbent.core.kinds import kind_of
from korbent.core.model import edited, expressed, expression_at, renamed, value_at
from korbent.core.model.labels import label
from korbent.core.model.project import Project
from korbent.core.model.site import Range
from korbent.core.plan.alike_straps import BEAM, with_beam
from korbent.words import say

Path = tuple[str | int, ...]
SIZES = ("width", "length", "far_length", "thickness", "level", "offset_x", "offset_y", "rotation", "held")
"""What a frozen base keeps."""
UNNAMED = (("ground", "boreholes"), ("actions", "combinations"))
"""What nothing refers to by its name."""


class FrozenError(ValueError):
    """The base is issued or poured: its size stays."""


def by_hand(project: Project, path: Path, value: Any) -> Project:
    """The project with one value changed, and all that this entails; the very same one where it was that value already.

    Args:
        path: such as ``("pads", "P8", "width")``, ``("pads", "P8", "edge", "+x")`` for the distance of an edge from the
        column,
            ``("ground", "soils", "Silty sand", "friction_angle")``; the last part ``name`` renames.

    Raises:
        FrozenError: when that is a size of a base that is issued or poured.
        pydantic.ValidationError: when the value, or the project with it, is not valid.
        KeyError: when the path leads nowhere.
    """
    if path[0] == "pads" and len(path) == 4 and path[2] == "edge":
        refuse_frozen(project, (*path[:2], "width"))
        pad = project.pad(str(path[1]))
        new = pad.with_edge(str(path[3]), float(value))
        return project.replaced(pads=tuple(new if p is pad else p for p in project.pads))
    if path[0] in ("pads", "straps") and len(path) == 5 and path[2] == "ranges":
        return _ranged(project, path, value)
    if _expression(project, path):
        return marked(edited(expressed(project, path, None), path, value), path, project)
    if path[-1] == "name" and path[:2] not in UNNAMED and path[0] != "title":
        return renamed(project, path[:-1], value)
    if value_at(project, path) == value:
        return project
    refuse_frozen(project, path)
    return _alike(marked(_changed(project, path, value), path, project), path)


def _alike(project: Project, path: Path) -> Project:
    """Straps of one type after a change of one: all have its beam; one that joins a type takes that of the others."""
    if path[0] != "straps" or len(path) < 3 or path[2] not in (*BEAM, "type"):
        return project
    own = next(s for s in project.straps if s.name == path[1])
    others = [s for s in project.straps if s is not own and own.type and s.type == own.type]
    if not others:
        return project
    if path[2] == "type":
        new = own.replaced(**{name: getattr(others[0], name) for name in BEAM})
        return project.replaced(straps=tuple(new if s is own else s for s in project.straps))
    return with_beam(project, own)


def refuse_frozen(project: Project, path: Path) -> None:
    """Refuses a change of the size of a base that is issued or poured.

    Raises:
        FrozenError: with what to do.
    """
    if path[0] == "pads" and len(path) == 3 and path[2] in SIZES:
        pad = next((p for p in project.pads if p.name == path[1]), None)
        if pad and pad.frozen:
            raise FrozenError(
                say(
                    "{pad} is {frozen}: its size stays. Take the mark away in the table of pads first",
                    pad=pad.name,
                    frozen=label(pad.frozen),
                )
            )


def _expression(project: Project, path: Path) -> str:
    try:
        return expression_at(project, path)
    except (KeyError, AttributeError, TypeError):
        return ""


def _changed(project: Project, path: Path, value: Any) -> Project:
    """A pad whose edge is held grows away from it."""
    sizes = path[0] == "pads" and len(path) == 3 and path[2] in ("width", "length")
    if not sizes or not isinstance(value, float | int):
        return edited(project, path, value)
    pads = tuple(p.resized(**{str(path[2]): float(value)}) if p.name == path[1] else p for p in project.pads)
    return project.replaced(pads=pads)


def _ranged(project: Project, path: Path, value: Any) -> Project:
    """A range of a size is made at need."""
    name = str(path[3])
    if path[0] == "straps":
        strap = next(s for s in project.straps if s.name == path[1])
        own = strap.ranges.get(name) or Range(pinned=name == "width")
        return _alike(edited(project, path[:4], own.replaced(**{str(path[4]): value})), path)
    pad = project.pad(str(path[1]))
    follows = kind_of(pad).follows(pad, project.load_point(pad.load_point))
    given = pad.ranges.get(name) or Range(pinned=name in ("level", follows))
    return edited(project, path[:4], given.replaced(**{str(path[4]): value}))


def marked(project: Project, path: Path, before: Project) -> Project:
    """The project after a change at a path, with what loses its source or counts as edited now."""
    if path[:2] == ("ground", "soils") and len(path) == 4:
        for kept in ("over_level", "sources"):
            if path[3] in value_at(project, (*path[:3], kept)):
                project = edited(project, (*path[:3], kept, path[3]), None)
        return project
    if path[:2] != ("actions", "combinations") or len(path) < 4:
        return project
    old = next(c for c in before.actions.combinations if path[2] in (c.number, c.name))
    if not old.origin or old.edited:
        return project
    number = project.actions.combinations[before.actions.combinations.index(old)].number
    project = edited(project, ("actions", "combinations", number, "origin_name"), old.name)
    return edited(project, ("actions", "combinations", number, "edited"), True)
