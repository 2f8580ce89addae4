"""What is kept between calls: safe across threads, the least used dropped first, by what they weigh."""

from collections import OrderedDict
from collections.abc import Callable, Hashable, Mapping, Sequence
from functools import wraps
from itertools import islice
from threading import RLock
from typing import Any, Generic, ParamSpec, TypeVar

import numpy as np

from korbent.words import say

P = ParamSpec("P")
R = TypeVar("R")
Value = TypeVar("Value")
Key = tuple[Hashable, ...]

MEGABYTE = 2**20
SURE = 16
"""So many values of a cache are weighed at first, then one of so many."""
LOOKED_AT, DEEPEST = 4, 3
"""Parts of a value that are weighed, and how deep; many alike are as heavy as these on the average."""


def weigh(value: Any, depth: int = 0) -> int:
    """About how many bytes a value takes: arrays and texts in it."""
    if isinstance(value, np.ndarray):
        return int(value.nbytes) + 100
    if depth >= DEEPEST or value is None or isinstance(value, (int, float)):
        return 50
    if isinstance(value, (str, bytes)):
        return len(value) + 50
    if hasattr(value, "__dict__"):
        return 100 + sum(weigh(part, depth + 1) for part in vars(value).values())
    if isinstance(value, Mapping):
        parts: list[Any] = list(islice(value.values(), LOOKED_AT))
    elif isinstance(value, (list, tuple)):
        parts = list(value[:LOOKED_AT])
    else:
        return 50
    own = sum(weigh(part, depth + 1) for part in parts)
    return 50 + (own * len(value) // len(parts) if parts else 0)


class Cache(Generic[Value]):
    """Values by their keys. What a key's identities belong to is kept alive with the value, so that none is ever given
    to another object."""

    def __init__(self, most: int = 64 * MEGABYTE, each: int | None = None) -> None:
        """At most so many bytes; ``each``: what every value counts, else some of them are weighed, as those of one
        cache are much alike."""
        self._lock, self._most, self._each, self._weight = RLock(), most, each, 0
        self._puts, self._usual = 0, 0
        self._entries: OrderedDict[Key, tuple[Value, object, int]] = OrderedDict()
        _all.append(self)

    def __len__(self) -> int:
        return len(self._entries)

    @property
    def weight(self) -> int:
        """Of all that is kept, bytes."""
        return self._weight

    def of(self, key: Key, holds: object, make: Callable[[], Value]) -> Value:
        """The value of a key, made where there is none. Two threads may both make it: they make the same."""
        with self._lock:
            entry = self._entries.get(key)
            if entry is not None:
                self._entries.move_to_end(key)
                return entry[0]
        return self.put(key, holds, make())

    def those_of(self, keys: Sequence[Key]) -> dict[int, Value]:
        """The values that are there, by the place of their key."""
        found: dict[int, Value] = {}
        with self._lock:
            for place, key in enumerate(keys):
                entry = self._entries.get(key)
                if entry is not None:
                    self._entries.move_to_end(key)
                    found[place] = entry[0]
        return found

    def put(self, key: Key, holds: object, value: Value) -> Value:
        """Keeps a value and what its key is made of, and gives it back."""
        if self._each is None and (self._puts < SURE or self._puts % SURE == 0):
            self._usual = weigh(value)
        self._puts += 1
        weight = self._usual if self._each is None else self._each
        with self._lock:
            before = self._entries.pop(key, None)
            self._weight += weight - (before[2] if before else 0)
            self._entries[key] = (value, holds, weight)
            while self._weight > self._most and len(self._entries) > 1:
                self._weight -= self._entries.popitem(last=False)[1][2]
        return value

    def clear(self) -> None:
        """Forgets everything."""
        with self._lock:
            self._entries.clear()
            self._weight = 0


_all: list[Cache[Any]] = []
_more: list[Callable[[], None]] = []


def forgets(forget: Callable[[], None]) -> Callable[[], None]:
    """What else is called by :func:`forget_all`."""
    _more.append(forget)
    return forget


def forget_all() -> None:
    """Forgets all that was kept: the next results are those of a fresh start."""
    for cache in _all:
        cache.clear()
    for forget in _more:
        forget()


def remembered(count: int = 512) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Keeps the results of a function of immutable arguments, which are compared by identity; the latest so many."""

    def decorate(function: Callable[P, R]) -> Callable[P, R]:
        cache: Cache[R] = Cache(count, each=1)
        entries, lock = cache._entries, cache._lock

        @wraps(function)
        def lookup(*args: P.args, **kwargs: P.kwargs) -> R:
            if kwargs:
                raise TypeError(say("remembered functions take positional arguments"))
            key = tuple(map(id, args))
            with lock:
                hit = entries.get(key)
            return hit[0] if hit is not None else cache.put(key, args, function(*args, **kwargs))

        return lookup

    return decorate
