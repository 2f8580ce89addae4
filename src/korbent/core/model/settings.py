"""Settings that a project states and a type or a base may override, each visibly."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field, PlainSerializer, ValidationError

from korbent.core.model.base import Depth, Factor, Frozen, Length, Pressure, Share, Strength, UnitWeight


class Settings(Frozen):
    """What a check needs to know beyond ground, loads and size."""

    presumed_pressure: Pressure | None = None
    presumed_basis: Literal["gross", "net"] = "gross"
    presumed_compares: Literal["peak", "effective area"] = "peak"
    eccentricity_limit: Share = Field(default=1 / 3, gt=0)
    contact_share_least: Share = 0.5
    base_friction: Share | None = None
    friction_ratio: Share = 1.0
    adhesion_capped: bool = True
    factor_sliding: Factor = 1.5
    factor_overturning: Factor = 1.5
    factor_uplift: Factor = 1.1
    frost_depth: Depth = 0.5
    cover_above: Depth = 0.0
    settlement_limit: Length = 0.025
    settlement_influence: Share = Field(default=0.2, gt=0)
    concrete_weight: UnitWeight = 25.0
    concrete_strength: Strength = 30.0
    steel_strength: Strength = 500.0
    concrete_cover: Length = 0.05
    alpha_cc: Share = Field(default=1.0, gt=0)
    outer_bars: Literal["x", "y"] = "x"


def _known(overrides: Mapping[str, Any]) -> Mapping[str, Any]:
    unknown = [name for name in overrides if name not in Settings.model_fields]
    if unknown:
        raise ValueError(f"no such setting: {', '.join(unknown)}")
    try:
        valid = Settings(**overrides)
    except ValidationError as error:
        parts = (f"{'.'.join(map(str, e['loc']))}: {e['msg']}" for e in error.errors())
        raise ValueError("; ".join(parts)) from None
    return MappingProxyType({name: getattr(valid, name) for name in overrides})


Overrides = Annotated[Mapping[str, Any], AfterValidator(_known), PlainSerializer(dict)]
Origin = Literal["project", "type", "base"]


def resolve(project: Settings, of_type: Mapping[str, Any], of_base: Mapping[str, Any]) -> Settings:
    """The settings in force: the base's override, else the type's, else the project's."""
    if not of_type and not of_base:
        return project
    return project.replaced(**{**of_type, **of_base})


def origin(field: str, of_type: Mapping[str, Any], of_base: Mapping[str, Any]) -> Origin:
    """Where the value in force stands."""
    return "base" if field in of_base else "type" if field in of_type else "project"
