"""Width and depth of the strap that ties a base at a boundary to an inner one."""

from korbent.core.model.foundations import Pad, Strap
from korbent.core.model.project import Project
from korbent.core.plan.alike_straps import with_beam

NAMES = ("strap_width", "strap_depth")


def strap_of(project: Project, pad: Pad) -> Strap | None:
    """That of a base at a boundary."""
    return next((s for s in project.straps if s.edge == pad.name), None)


def dimensions_of(project: Project, pad: Pad) -> tuple[str, ...]:
    """Those that a base has."""
    return NAMES if strap_of(project, pad) is not None else ()


def value_of(project: Project, pad: Pad, name: str) -> float:
    """Of its strap, m.

    Raises:
        KeyError: when the base has no strap.
    """
    strap = strap_of(project, pad)
    if strap is None or name not in NAMES:
        raise KeyError(name)
    return float(getattr(strap, name.removeprefix("strap_")))


def changed(project: Project, pad: Pad, name: str, value: float) -> Project:
    """The project with another width or depth of the strap of a base.

    Raises:
        KeyError: when the base has no strap. pydantic.ValidationError: when that is no size.
    """
    strap = strap_of(project, pad)
    if strap is None or name not in NAMES:
        raise KeyError(name)
    return with_beam(project, strap.replaced(**{name.removeprefix("strap_"): value}))
