"""The concrete standards that there are."""

from functools import lru_cache
from importlib import import_module
from typing import Any

from korbent.core.concrete.standards.protocol import ConcreteStandard
from korbent.core.model.settings import Settings
from korbent.core.model.standards import CONCRETE

NAMES = tuple(CONCRETE)


@lru_cache(maxsize=64)
def rules_of(name: str) -> Any:
    """The class of the standard of this name; that of the first one where it is none of NAMES."""
    return import_module(f"{__package__}.{CONCRETE.get(name, CONCRETE[NAMES[0]])}").STANDARD


def standard_of(name: str, settings: Settings) -> ConcreteStandard | None:
    """The standard of this name with the choices of the settings; None where it is none of NAMES. The same values give
    the same object."""
    return _made(name, rules_of(name).choices(settings)) if name in CONCRETE else None


@lru_cache(maxsize=64)
def _made(name: str, choices: tuple[Any, ...]) -> ConcreteStandard:
    found: ConcreteStandard = rules_of(name)(*choices)
    return found
