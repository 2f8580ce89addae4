"""Long reading and writing that tells how far it is, and can be stopped between two steps."""

from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import TypeVar

Item = TypeVar("Item")
EVERY = 500
"""Rows from one word to the next."""


class StoppedError(Exception):
    """Nobody wants the result any more."""


_tell: ContextVar[Callable[[str], None] | None] = ContextVar("_tell", default=None)


@contextmanager
def watched(tell: Callable[[str], None]) -> Iterator[None]:
    """Within, :func:`step` calls ``tell``, which may raise :class:`StoppedError`."""
    token = _tell.set(tell)
    try:
        yield
    finally:
        _tell.reset(token)


def step(text: str) -> None:
    """Says how far it is."""
    tell = _tell.get()
    if tell is not None:
        tell(text)


def counted(items: Iterable[Item], what: Callable[[str], str]) -> Iterator[Item]:
    """The items, with a word on every few of them; ``what`` says how many."""
    for number, item in enumerate(items):
        if number % EVERY == 0:
            step(what(f"{number:,}"))
        yield item
