"""What every model object shares: frozen, validated, no unknown fields, no infinite numbers."""

import copyreg
import re
from collections.abc import Callable, Mapping
from functools import cache
from types import MappingProxyType
from typing import Annotated, Any, Literal, Self, TypeVar

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    PlainSerializer,
    ValidationError,
)
from pydantic_core import InitErrorDetails

from korbent.words import say

LONGEST_TEXT = 20_000
LARGEST, SMALLEST = 1e9, 1e-18
"""Of any number, and of those that are greater than zero, in the stored unit."""
NOT_IN_TEXTS = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\u2028\u2029\ud800-\udfff\ufffe\uffff]")
"""Control characters and halves of character pairs, which no file could hold."""
NOT_IN_NAMES = re.compile("[\x00-\x1f\x7f-\x9f\u200b-\u200f\u2028-\u202e\u2066-\u2069\ud800-\udfff\ufeff\ufffe\uffff]")
"""Nor line ends and marks that nobody sees."""
ONE_LINE = ("name", "load_point", "soil", "case", "type", "exclusive")


@cache
def _positive(model: type[BaseModel]) -> frozenset[str]:
    """The fields whose numbers are greater than zero: sizes, strengths, factors."""

    def above_zero(parts: Any) -> bool:
        return any(getattr(part, "gt", None) == 0 for part in parts)

    found = set()
    for name, field in model.model_fields.items():
        inner = [getattr(a, "__metadata__", ()) for a in getattr(field.annotation, "__args__", ())]
        notes = [n for parts in inner for p in parts for n in (p, *getattr(p, "metadata", ()))]
        if above_zero(field.metadata) or above_zero(notes):
            found.add(name)
    return frozenset(found)


def text_that_can_be_kept(text: str, one_line: bool = False) -> str:
    """The text, when every file can hold it.

    Raises:
        ValueError: with the character that it cannot have, or that it is too long.
    """
    found = (NOT_IN_NAMES if one_line else NOT_IN_TEXTS).search(text)
    if found:
        raise ValueError(
            say(
                "has a character that cannot be kept (code {ord} at place {start}): type it without",
                ord=ord(found[0]),
                start=found.start() + 1,
            )
        )
    if len(text) > LONGEST_TEXT:
        raise ValueError(
            say("has {text} letters: at most {longest_text} can be kept", text=len(text), longest_text=LONGEST_TEXT)
        )
    return text


def cleaned(text: str) -> str:
    """A text from a file without what no file of ours could hold."""
    return NOT_IN_TEXTS.sub("", text)[:LONGEST_TEXT] if NOT_IN_TEXTS.search(text) or len(text) > LONGEST_TEXT else text


def _number(model: type[BaseModel], name: str, value: float) -> None:
    if not -LARGEST <= value <= LARGEST or (0.0 < value < SMALLEST and name in _positive(model)):
        raise ValueError(say("{value:g} is no value that can be meant", value=value))


def _text(model: type[BaseModel], name: str, value: str) -> None:
    text_that_can_be_kept(value, name in ONE_LINE)


def _mapping(model: type[BaseModel], name: str, values: Mapping[Any, Any]) -> None:
    for key, one in values.items():
        if type(key) is str:
            text_that_can_be_kept(key, True)
        if type(one) is str:
            text_that_can_be_kept(one)
        elif type(one) is float and not -LARGEST <= one <= LARGEST:
            raise ValueError(say("{key}: {one:g} is no value that can be meant", key=key, one=one))


def _row(model: type[BaseModel], name: str, values: tuple[Any, ...]) -> None:
    for one in values:
        if type(one) is str:
            text_that_can_be_kept(one, True)
        elif type(one) is tuple and any(type(v) is float and not -LARGEST <= v <= LARGEST for v in one):
            raise ValueError(say("holds a number that cannot be meant"))


LOOKED_AT: dict[type, Callable[[type[BaseModel], str, Any], None]] = {
    float: _number,
    str: _text,
    MappingProxyType: _mapping,
    tuple: _row,
}
"""What is looked at in every field, by the type of its value."""


class Frozen(BaseModel):
    """An immutable value. Change it with :meth:`replaced`, which validates again."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    def model_post_init(self, context: Any) -> None:
        """Texts are such as every file can hold, numbers such as a quantity can have. (One look at the whole when it is
        made: as a validator of each field it took a seventh of the time in which the classes are made.)"""
        for name, value in self.__dict__.items():
            kind = type(value)
            if kind in LOOKED_AT:
                try:
                    LOOKED_AT[kind](type(self), name, value)
                except ValueError as error:
                    found = InitErrorDetails(type="value_error", loc=(name,), input=value, ctx={"error": error})
                    raise ValidationError.from_exception_data(type(self).__name__, [found]) from None

    def replaced(self, **changes: Any) -> Self:
        """A new object with some fields changed; every field is validated, what is nested is shared.

        Raises:
            pydantic.ValidationError: when the change is not valid.
        """
        new = type(self)(**{name: getattr(self, name) for name in type(self).model_fields} | changes)
        # validation makes tuples and mappings anew: what was not changed stays the very same object
        new.__dict__.update({name: value for name, value in self.__dict__.items() if name not in changes})
        return new


def _unit(unit: str) -> dict[str, Any]:
    return {"unit": unit}


Value = TypeVar("Value")
FrozenMap = Annotated[Mapping[str, Value], AfterValidator(MappingProxyType), PlainSerializer(dict)]


def _proxy(values: dict[str, Any]) -> Mapping[str, Any]:
    return MappingProxyType(values)


def _reduced(values: Mapping[str, Any]) -> tuple[Any, tuple[dict[str, Any]]]:
    return _proxy, (dict(values),)


# a project travels to a worker process
copyreg.pickle(MappingProxyType, _reduced)

NOTHING: Mapping[str, Any] = MappingProxyType({})


def nothing() -> Mapping[str, Any]:
    """The one empty mapping, as a default."""
    return NOTHING


class Expression(Frozen):
    """What was typed instead of a number: its text, and the units in which its plain numbers are meant."""

    text: str = Field(min_length=1, max_length=200)
    units: Literal["metric", "us"] = "metric"


class Row(Frozen):
    """A thing with a table row of its own: it keeps notes on its values, and the expressions they come from.

    Both by the field, or by the dotted path below it: "width", "loads.G.V", "overrides.concrete_cover".
    """

    notes: FrozenMap[str] = Field(default_factory=nothing)
    expressions: FrozenMap[Expression] = Field(default_factory=nothing)


BOOKKEEPING = ("notes", "expressions")

Name = Annotated[str, Field(min_length=1, max_length=80)]
Level = Annotated[float, Field(ge=-20_000, le=20_000, json_schema_extra=_unit("m"))]
Coordinate = Annotated[float, Field(ge=-1e8, le=1e8, json_schema_extra=_unit("m"))]
Length = Annotated[float, Field(gt=0, le=100_000, json_schema_extra=_unit("m"))]
Depth = Annotated[float, Field(ge=0, le=10_000, json_schema_extra=_unit("m"))]
Angle = Annotated[float, Field(ge=-360, le=360, json_schema_extra=_unit("deg"))]
FrictionAngle = Annotated[float, Field(gt=0, lt=50, json_schema_extra=_unit("deg"))]
UnitWeight = Annotated[float, Field(gt=0, le=40, json_schema_extra=_unit("kN/m3"))]
Pressure = Annotated[float, Field(gt=0, le=1e8, json_schema_extra=_unit("kPa"))]
Cohesion = Annotated[float, Field(ge=0, le=1e6, json_schema_extra=_unit("kPa"))]
PressureGradient = Annotated[float, Field(ge=0, le=1e5, json_schema_extra=_unit("kPa/m"))]
Strength = Annotated[float, Field(gt=0, le=2_000, json_schema_extra=_unit("MPa"))]
Force = Annotated[float, Field(ge=-1e7, le=1e7, json_schema_extra=_unit("kN"))]
Moment = Annotated[float, Field(ge=-1e8, le=1e8, json_schema_extra=_unit("kNm"))]
Consolidation = Annotated[float, Field(gt=0, le=1e4, json_schema_extra=_unit("m²/day"))]
Factor = Annotated[float, Field(gt=0, le=1e6, json_schema_extra=_unit(""))]
Share = Annotated[float, Field(ge=0, le=1, json_schema_extra=_unit(""))]


def unit_of(model: type[BaseModel], field: str) -> str:
    """The unit in which a field is stored ('' for a plain number or text)."""
    extra = model.model_fields[field].json_schema_extra
    if isinstance(extra, dict):
        return str(extra.get("unit", ""))
    for part in getattr(model.model_fields[field].annotation, "__args__", ()):
        for note in getattr(part, "__metadata__", ()):
            inner = getattr(note, "json_schema_extra", None)
            if isinstance(inner, dict):
                return str(inner.get("unit", ""))
    return ""
