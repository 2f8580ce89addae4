"""Every text that a person reads is said here, once, where it is written: ``say("A base {width} wide", width=…)``.

The English text is the code of a message; what goes into it are values by name. A language is a catalogue from codes
to its own texts (``languages.py``), chosen once for a process. Names, numbers and formulas are values: they stay.
"""

import os
import sys
from collections.abc import Callable, Iterable, Mapping
from typing import Any, Self

Wording = Callable[[str], str]
VARIABLE = "KORBENT_LANGUAGE"
"""The environment names the language: nothing or ``en``, ``made-up``, a language with a catalogue, or the path of one."""


class _Spoken:
    """The language of this process: how a code is worded, and one of two codes by a count."""

    wording: Wording | None = None
    plural: Callable[[str, str, int], str] | None = None


def speak(wording: Wording | None, plural: Callable[[str, str, int], str] | None = None) -> None:
    """Word all that is said from now on by these; None is English."""
    _Spoken.wording, _Spoken.plural = wording, plural


def worded(code: str) -> str:
    """A code without its values, in the language of this process."""
    return _Spoken.wording(code) if _Spoken.wording and code else code


class Message(str):
    """A text in the language of this process that knows its code and values, and so can be said in another."""

    __slots__ = ("code", "values")
    code: str
    values: Mapping[str, Any]

    def __new__(cls, code: str, values: Mapping[str, Any], wording: str | None = None) -> Self:
        try:
            text = worded(code) if wording is None else wording
            text = text.format_map(values) if values else text
        except (LookupError, ValueError):  # a catalogue that names other values: better English than nothing
            text = code.format_map(values)
        made = super().__new__(cls, text)
        made.code, made.values = code, values
        return made

    def __reduce__(self) -> tuple[Any, ...]:
        return type(self), (self.code, self.values)


def say(code: str, /, **values: Any) -> str:
    """A text in the language of this process. ``code`` is the English one, with its values in braces by name."""
    return Message(code, values) if values or (_Spoken.wording and code) else code


def english(text: str) -> str:
    """A text as it is in English, whatever language it was said in: by it a program knows it again."""
    if not isinstance(text, Message):
        return text
    values = {k: english(v) if isinstance(v, str) else v for k, v in text.values.items()}
    return text.code.format_map(values) if values else text.code


def say_count(number: int, one: str, many: str, /, **values: Any) -> str:
    """A text that depends on a number, which is ``{number}`` in both."""
    values["number"] = number
    if _Spoken.plural is not None:
        return Message(one if number == 1 else many, values, _Spoken.plural(one, many, number))
    return Message(one if number == 1 else many, values)


def joined(parts: Iterable[str], between: str = "; ") -> str:
    """Texts one after the other, without those that are empty; each still knows its code and values."""
    said = [part for part in parts if part]
    if len(said) < 2:
        return said[0] if said else ""
    names = [f"part{k}" for k in range(len(said))]
    return Message(between.join(f"{{{name}}}" for name in names), dict(zip(names, said)))


def spoken() -> str:
    """The name of the language that the environment asks for; '' for English."""
    name = os.environ.get(VARIABLE, "")
    return "" if name == "en" else os.path.splitext(os.path.basename(name))[0]


def _begin() -> None:
    """The language that the environment names; English, with a line about why, where there is none of that name."""
    name = os.environ.get(VARIABLE, "")
    if name in ("", "en"):
        return
    from korbent.words.languages import language

    try:
        speak(*language(name))
    except ValueError as error:
        print(error, file=sys.stderr)


_begin()
