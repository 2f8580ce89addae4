"""What every model object shares: frozen, validated, no unknown fields, no infinite numbers."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Annotated, Any, Literal, Self, TypeVar

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, PlainSerializer


class Frozen(BaseModel):
    """An immutable value. Change it with :meth:`replaced`, which validates again."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

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
Level = Annotated[float, Field(json_schema_extra=_unit("m"))]
Coordinate = Annotated[float, Field(json_schema_extra=_unit("m"))]
Length = Annotated[float, Field(gt=0, json_schema_extra=_unit("m"))]
Depth = Annotated[float, Field(ge=0, json_schema_extra=_unit("m"))]
Angle = Annotated[float, Field(ge=-360, le=360, json_schema_extra=_unit("deg"))]
FrictionAngle = Annotated[float, Field(gt=0, lt=50, json_schema_extra=_unit("deg"))]
UnitWeight = Annotated[float, Field(gt=0, le=40, json_schema_extra=_unit("kN/m3"))]
Pressure = Annotated[float, Field(gt=0, json_schema_extra=_unit("kPa"))]
Cohesion = Annotated[float, Field(ge=0, json_schema_extra=_unit("kPa"))]
PressureGradient = Annotated[float, Field(ge=0, json_schema_extra=_unit("kPa/m"))]
Strength = Annotated[float, Field(gt=0, json_schema_extra=_unit("MPa"))]
Force = Annotated[float, Field(json_schema_extra=_unit("kN"))]
Moment = Annotated[float, Field(json_schema_extra=_unit("kNm"))]
Consolidation = Annotated[float, Field(gt=0, json_schema_extra=_unit("m²/day"))]
Factor = Annotated[float, Field(gt=0, json_schema_extra=_unit(""))]
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
