"""Paths into a project: through field names, and through rows by their name, number or position."""

from typing import Any

from korbent.core.model.frozen import Frozen, Row

Step = str | int
Path = tuple[Step, ...]


def value_at(project: Any, path: Path) -> Any:
    """What stands at the path."""
    here: Any = project
    for step in path:
        if here is None:
            return None
        here = into(here, step)
    return here


def into(here: Any, step: Step) -> Any:
    if isinstance(here, Frozen):
        if not isinstance(step, str) or step not in type(here).model_fields:
            raise KeyError(step)
        return getattr(here, step)
    if isinstance(here, tuple):
        return here[position(here, step)]
    return here.get(step)


def position(rows: tuple[Any, ...], step: Step) -> int:
    for i, row in enumerate(rows):
        if step in (getattr(row, "name", None), getattr(row, "number", None)):
            return i
    if isinstance(step, str) and step.isdigit():
        step = int(step)
    if isinstance(step, int) and 0 <= step < len(rows):
        return step
    raise KeyError(step)


def host(project: Any, path: Path) -> tuple[Path, str]:
    """The row that keeps notes and expressions for the value at ``path``, and the key it keeps them under."""
    here: Any = project
    at = 0
    for i, step in enumerate(path[:-1], 1):
        here = into(here, step)
        if isinstance(here, Row):
            at = i
    return path[:at], key_of(path[at:])


def key_of(path: Path) -> str:
    """A path below a row as a dotted key; dots within names are escaped."""
    return ".".join(str(step).replace("~", "~0").replace(".", "~1") for step in path)


def path_of(key: str) -> Path:
    """The path of a dotted key (see :func:`key_of`)."""
    return tuple(part.replace("~1", ".").replace("~0", "~") for part in key.split("."))
