"""Which settings decide a check: those that its calculation read, and of these the ones by which its number would
change."""

from collections.abc import Callable, Iterator, Mapping
from contextlib import suppress
from contextvars import ContextVar
from dataclasses import dataclass, replace
from functools import cache
from typing import Any, Literal, Self, cast, get_args, get_origin

import numpy as np
from pydantic import ValidationError

from korbent.core.bearing.by_bounds import bounds_checks
from korbent.core.bench import bench_for
from korbent.core.checks import reduced
from korbent.core.evaluate.families import families_of, family_of, outcomes_of, outcomes_on
from korbent.core.geometry import table
from korbent.core.model.edit import edited
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.model.settings import Settings
from korbent.core.rafts.checks import raft_checks
from korbent.core.settlement.checks import settlement_checks
from korbent.words import say

ORDER = {name: i for i, name in enumerate(Settings.model_fields)}
OTHER = (0.3, 1.5, 10.0, 100.0)
"""Values that are tried for a number which is left empty, in the stored unit."""

SLOW = (raft_checks.__name__, bounds_checks.__name__)
"""Families that are solved anew by every setting."""


@dataclass(frozen=True)
class Deciding:
    """The settings of a check, by the names of the fields of :class:`korbent.core.model.Settings`; first those that few
    other checks read."""

    changing: tuple[str, ...]
    """Another value of one of these changes the check as it stands."""
    read: tuple[str, ...]
    """These were read on the way, without effect on it now."""


def deciding(project: Project, pad: Pad, check: str, stop: Callable[[], bool] = lambda: False) -> Deciding:
    """The settings on which a check of a base rests.

    What is read is found by settings that tell when they are asked, on a calculation from the start. Each of those that
    the family of the check read is then given other values (numbers some per cent more and less, all other choices):
    where demand, capacity, ratio or state changes, it decides. For what a raft's plate gives, and for bounds, only what
    is read is told: they would be solved anew each time.

    Args:
        stop: asked between the settings; what is not tried yet then counts as read.

    Raises:
        KeyError: when there is no such check.
    """
    was = _of(project, pad, check)  # by which its family is known
    family = family_of(check, pad.kind)
    names = _read(project, pad, family)
    if family in SLOW:
        return Deciding((), names)
    changing = tuple(
        name
        for name in names
        if not stop() and any(_of(p, p.pad(pad.name), check) != was for p in _tried(project, pad, name, family))
    )
    return Deciding(changing, tuple(n for n in names if n not in changing))


def _of(project: Project, pad: Pad, check: str) -> tuple[object, ...]:
    """What is told of a check."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    for _, outcome in outcomes_on(bench, project, check=check):
        if outcome.check.id == check:
            found = reduced(outcome, pad.name, 0, pad.accepted)
            return (
                found.state,
                found.ratio,
                found.demand,
                found.capacity,
                found.required_factor,
                found.message,
            )
    raise KeyError(check)


# ---------------------------------------------------------------- what is read

_heard: ContextVar[set[str] | None] = ContextVar(say("settings that are read"), default=None)


@cache
def _fields() -> frozenset[str]:
    return frozenset(Settings.model_fields)


class Watched(Settings):
    """Settings that tell which of them are read."""

    def __getattribute__(self, name: str) -> Any:
        heard = _heard.get()
        if heard is not None and name in _fields():
            heard.add(name)
        return super().__getattribute__(name)

    def replaced(self, **changes: Any) -> Self:
        """As of all models; copying is no reading."""
        return cast(Self, type(self).model_construct(**{**self.__dict__, **changes}))


def _read(project: Project, pad: Pad, family: str) -> tuple[str, ...]:
    """The settings that a family of checks reads: first those that few others read, in the order of the model."""
    watched = project.model_copy(update={"settings": Watched.model_construct(**project.settings.__dict__)})
    own = watched.pad(pad.name)
    heard: dict[str, set[str]] = {}
    before = _heard.set(set())
    try:
        bench = bench_for(watched, (own,), np.zeros(1, dtype=int), table(own))
        shared = _heard.get() or set()
        for each in (*families_of(bench), bounds_checks):
            if each.__name__ == family or each.__name__ not in SLOW:
                heard[each.__name__] = set(shared)
                _heard.set(heard[each.__name__])
                outcomes_of(each, replace(bench), watched)
    finally:
        _heard.reset(before)
    by = {name: sum(name in some for some in heard.values()) for name in heard[family]}
    return tuple(sorted(by, key=lambda name: (by[name], ORDER[name])))


# ---------------------------------------------------------------- what changes it


def _tried(project: Project, pad: Pad, name: str, family: str) -> Iterator[Project]:
    """The project with other values of a setting: for the base; where all bases press the ground together then for
    all."""
    paths: list[tuple[str, ...]] = [("pads", pad.name, "overrides", name)]
    if family == settlement_checks.__name__:
        paths.append(("settings", name))
    for path in paths:
        for value in others(name, getattr(project.settings_of(pad), name)):
            with suppress(ValidationError):
                yield edited(project, path, value)


def others(name: str, value: Any) -> tuple[Any, ...]:
    """Other values of a setting."""
    annotation = Settings.model_fields[name].annotation
    if get_origin(annotation) is Literal:
        return tuple(choice for choice in get_args(annotation) if choice != value)
    if isinstance(value, bool):
        return (not value,)
    if isinstance(value, int):
        return value + 1, value - 1
    if isinstance(value, float):
        return (value * 1.05 + 0.01, value * 0.95)
    if value is None and annotation is not None and float in _kinds(annotation):
        return OTHER
    if isinstance(value, (tuple, Mapping, str)) and value:
        return (type(value)(),)
    return ()


def _kinds(annotation: Any) -> set[Any]:
    """The plain types in an annotation."""
    found = {annotation}
    for part in get_args(annotation):
        found |= _kinds(part)
    return found
