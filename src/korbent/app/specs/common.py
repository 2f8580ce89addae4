"""What the editing tables share: columns for fields, validated changes, labels and results that are not typed."""

from collections.abc import Callable, Sequence
from typing import Any

from pydantic import ValidationError

from korbent.app.session import Session
from korbent.app.tables import Column
from korbent.core.concrete.bar_text import parsed, words
from korbent.core.model import (
    Project,
    edited,
)
from korbent.core.model.frozen import Frozen, unit_of
from korbent.core.units import UnitError
from korbent.files.project_file import problems_of
from korbent.words import say


def unique(base: str, names: Sequence[str]) -> str:
    """A name not yet taken: P1, P2, ..."""
    return next(f"{base}{i}" for i in range(1, 10_000) if f"{base}{i}" not in names)


def changed(session: Session, make: Callable[[Project], Project], message: str = "") -> str:
    """Applies a change; returns what is wrong with it, or ''."""
    try:
        session.apply(make(session.project), message)
    except ValidationError as error:
        return "; ".join(str(p) for p in problems_of(error))
    return ""


def field(
    model: type[Frozen],
    name: str,
    title: str,
    path: Callable[[Any], tuple[str | int, ...]],
    kind: str = "number",
    choices: Sequence[str] = (),
    optional: bool = False,
    tip: str = "",
    width: int = 0,
) -> Column:
    """A column for one field of the row object."""
    return Column(
        title,
        lambda row: getattr(row, name),
        lambda row: (*path(row), name),
        unit_of(model, name),
        kind,
        (lambda _: choices) if choices else None,
        optional,
        width,
        tip,
    )


def bar_cell(
    session: Session,
    title: str,
    get: Callable[[Any], Any],
    path: Callable[[Any], tuple[str | int, ...]],
    tip: str,
    optional: bool = True,
) -> Column:
    """A column for bars, as text such as "16 at 150"."""
    us = session.project.units == "us"
    return Column(
        title,
        lambda row: words(get(row), us),
        path,
        kind="text",
        optional=optional,
        convert=_bars,
        width=100 if us else 84,
        tip=tip,
    )


def _bars(text: str) -> Any:
    try:
        return parsed(text)
    except ValueError as error:
        raise UnitError(str(error)) from None


def listed(root: str, name: str) -> Callable[[Any], tuple[str | int, ...]]:
    return lambda row: (root, name, row.number if hasattr(row, "number") else row.name)


def append(path: tuple[str, ...], new: Any) -> Callable[[Project], Project]:
    def make(project: Project) -> Project:
        here: Any = project
        for step in path:
            here = getattr(here, step)
        return edited(project, path, (*here, new))

    return make


def drop(path: tuple[str, ...], row: Any) -> Callable[[Project], Project]:
    def make(project: Project) -> Project:
        here: Any = project
        for step in path:
            here = getattr(here, step)
        return edited(project, path, tuple(item for item in here if item is not row))

    return make


def reordered(*path: str) -> Callable[[Session, Sequence[Any]], str]:
    """Puts the rows at a path into another order, one step of undo."""

    def order(session: Session, rows: Sequence[Any]) -> str:
        return changed(session, lambda p: edited(p, path, tuple(rows)), say("rows sorted"))

    return order


def label_only(_: Any) -> Any:
    raise UnitError(say("this is a label; the value stands to the right of it"))


def computed(_: Any) -> Any:
    raise UnitError(say("this is a result"))
