"""Remembers results by the identity of the immutable values they were made from."""

from collections import OrderedDict
from collections.abc import Callable
from functools import wraps
from typing import Any, ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")


def remembered(size: int = 512) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Caches a function of immutable arguments, compared by identity; the oldest are forgotten.

    The arguments are kept alive with the result, so that an identity is never reused by mistake.
    """

    def decorate(function: Callable[P, R]) -> Callable[P, R]:
        cache: OrderedDict[tuple[int, ...], tuple[Any, R]] = OrderedDict()

        @wraps(function)
        def lookup(*args: P.args, **kwargs: P.kwargs) -> R:
            if kwargs:
                raise TypeError("remembered functions take positional arguments")
            key = tuple(map(id, args))
            hit = cache.get(key)
            if hit is not None:
                return hit[1]
            result = function(*args, **kwargs)
            cache[key] = (args, result)
            if len(cache) > size:
                cache.popitem(last=False)
            return result

        return lookup

    return decorate
