"""What differs between two states of a project, by place, in words."""

from collections.abc import Iterator
from typing import Any, Literal, get_origin

from korbent.core.model.frozen import BOOKKEEPING, Frozen
from korbent.core.model.labels import field_word, label
from korbent.core.model.project import Project
from korbent.words import say


def differences(before: Project, after: Project, most: int = 200) -> list[str]:
    """A line for each value, row added and row gone, by the name of the row: ``pads P3 width: 1.8 becomes 2``; at most
    ``most``."""
    found: list[str] = []
    for line in _between("", before, after):
        if len(found) == most:
            return [*found, say("… and more")]
        found.append(line)
    return found


def _between(place: str, a: Any, b: Any) -> Iterator[str]:
    if a is b or a == b:
        return
    if isinstance(a, Frozen) and type(a) is type(b):
        for name in type(a).model_fields:
            if name not in BOOKKEEPING:
                own, other = getattr(a, name), getattr(b, name)
                if own != other and get_origin(type(a).model_fields[name].annotation) is Literal:
                    own, other = label(own), label(other)
                yield from _between(f"{place} {field_word(name)}".strip(), own, other)
        if all(getattr(a, n) == getattr(b, n) for n in type(a).model_fields if n not in BOOKKEEPING):
            yield say("{place}: notes or expressions", place=place)
    elif isinstance(a, tuple) and isinstance(b, tuple) and _rows(a) is not None and _rows(b) is not None:
        yield from _by_key(place, _rows(a) or {}, _rows(b) or {})
        if [*(_rows(a) or {})] != [*(_rows(b) or {})] and set(_rows(a) or {}) == set(_rows(b) or {}):
            yield say("{place}: in another order", place=place)
    elif hasattr(a, "items") and hasattr(b, "items"):
        yield from _by_key(place, dict(a.items()), dict(b.items()))
    else:
        yield say("{place}: {said} becomes {said_2}", place=place, said=_said(a), said_2=_said(b))


def _by_key(place: str, a: dict[Any, Any], b: dict[Any, Any]) -> Iterator[str]:
    for key in a:
        if key in b:
            yield from _between(f"{place} {field_word(key)}", a[key], b[key])
        else:
            yield say("{place} {key}: gone", place=place, key=field_word(key))
    for key in b:
        if key not in a:
            yield say("{place} {key}: new", place=place, key=field_word(key))


def _rows(values: tuple[Any, ...]) -> dict[Any, Any] | None:
    """Rows by name or number; None where they have none, or not each its own."""
    keys = [getattr(v, "name", getattr(v, "number", None)) for v in values]
    known = all(isinstance(v, Frozen) and k is not None for v, k in zip(values, keys))
    return dict(zip(keys, values)) if known and len(set(keys)) == len(keys) else None


def _said(value: Any) -> str:
    if value is None or value == "":
        return say("nothing")
    if isinstance(value, bool):
        return label("yes" if value else "no")
    if isinstance(value, float):
        return f"{value:g}"
    text = say("other rows") if isinstance(value, tuple) and value and isinstance(value[0], Frozen) else str(value)
    return text if len(text) <= 60 else text[:57] + "…"
