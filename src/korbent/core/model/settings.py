"""Settings that a project states and a type or a base may override, each visibly."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field, PlainSerializer, ValidationError, field_validator

from korbent.core.model.base import (
    Cohesion,
    Depth,
    Factor,
    FrictionAngle,
    Frozen,
    Length,
    Level,
    Pressure,
    Share,
    Strength,
    UnitWeight,
)
from korbent.core.units import SUBGRADE

LimitSet = Literal[
    "typed",
    "EN 1997-1 annex H",
    "Skempton and MacDonald 1956, cracks",
    "Skempton and MacDonald 1956, structure",
    "Bjerrum 1963, no cracks",
    "Bjerrum 1963, machines",
]


class Settings(Frozen):
    """What a check needs to know beyond ground, loads and size."""

    presumed_pressure: Pressure | None = Field(default=None, title="Presumed pressure")
    presumed_table: tuple[tuple[Depth, Depth, Pressure], ...] = Field(
        default=(), title="Presumed pressure by depth and width"
    )
    """(depth of the founding level below finished ground, width of the base, pressure); it stands for the one value.

    Between its rows linear in both; beyond them the outermost value. Every depth lists the same widths.
    """
    presumed_short: Factor = Field(default=1.0, title="Presumed pressure × with wind, seismic, accidental")
    presumed_basis: Literal["gross", "net"] = Field(default="gross", title="Presumed pressure is")
    presumed_compares: Literal["peak", "effective area"] = Field(default="peak", title="Compared with")
    factor_bearing: Factor | None = Field(default=None, title="Safety factor, bearing failure (empty: not checked)")
    safety_basis: Literal["gross", "net"] = Field(default="gross", title="Safety factor, bearing failure, of pressures")
    bearing_method: Literal[
        "Terzaghi 1943", "Meyerhof 1963", "Brinch Hansen 1970", "Vesic 1975", "EN 1997-1 Annex D"
    ] = Field(default="Vesic 1975", title="Method for that")
    depth_width: Literal["full", "effective"] = Field(
        default="full", title="Depth factors: depth over the width of the base"
    )
    depth_measure: Literal["arctangent beyond 1", "arctangent"] = Field(
        default="arctangent beyond 1", title="Depth factors of Hansen and Vesic: D/B as"
    )
    layer_mechanism: Literal["lesser", "punching", "load spread"] = Field(
        default="lesser", title="Strong over weak stratum by"
    )
    strip: Literal["its length", "endless"] = Field(default="its length", title="A wall's base resists as a strip of")
    strip_resistance: Literal["a method", "bounds"] = Field(default="a method", title="A strip's bearing resistance by")
    load_spread: Share = Field(default=0.5, title="Load spread, sideways for 1 down")
    punching_share: Share = Field(default=0.5, title="δ/φ and share of c′ on punching planes (clay: 0.75 of c_u)")
    surcharge_beside: float = Field(
        default=0.0,
        ge=0,
        le=1000,
        title="Permanent surcharge on the ground beside (counts in the bearing resistance)",
        json_schema_extra={"unit": "kPa"},
    )
    surcharge_on: float = Field(
        default=0.0,
        ge=0,
        le=1000,
        title="Permanent surcharge on the base, weighs as its backfill",
        json_schema_extra={"unit": "kPa"},
    )
    means_of: Literal["tan φ′", "φ′"] = Field(
        default="tan φ′", title="Weighted means of strata: friction by the mean of"
    )
    weak_over_strong: Literal["the weak stratum alone", "Meyerhof 1974"] = Field(
        default="the weak stratum alone",
        title="Weak over strong stratum bears, at most (in the way of Meyerhof: a parabola over the depth)",
    )
    squeezing: bool = Field(default=False, title="Squeezing of weak clay over strong ground")
    base_tilt: float = Field(default=0.0, ge=0, lt=30, title="Underside tilted by", json_schema_extra={"unit": "deg"})
    ground_slope: float = Field(
        default=0.0, ge=0, lt=45, title="Ground beside falls away by", json_schema_extra={"unit": "deg"}
    )
    board_strength: Pressure | None = Field(
        default=None, title="Board below the base, design compressive stress (empty: none)"
    )
    resistance_bearing: Share = Field(default=0.45, gt=0, title="Resistance factor φ, bearing (set R)")
    resistance_sliding: Share = Field(default=0.8, gt=0, title="Resistance factor φ, sliding (set R)")
    eccentricity_limit: Share = Field(default=1 / 3, gt=0, title="Eccentricity, at most (share of size)")
    eccentricity_round: Share = Field(
        default=0.3, gt=0, title="Eccentricity of a circle or ring, at most (share of diameter)"
    )
    contact_share_least: Share = Field(default=0.5, title="Contact, at least (share)")
    eccentricity_special: Share | None = Field(
        default=None, gt=0, title="Eccentricity, at most, accidental and seismic (empty: the same)"
    )
    contact_share_special: Share | None = Field(
        default=None, title="Contact, at least, accidental and seismic (empty: the same)"
    )
    base_friction: Share | None = Field(default=None, title="Friction on the underside, tan δ (empty: from φ′)")
    friction_ratio: Share = Field(default=1.0, title="tan δ over tan φ′")
    critical_angle: FrictionAngle | None = Field(
        default=None, title="φ′cv of the soil below, for sliding (EN 1997-1 6.5.3(10); empty: φ′)"
    )
    base_adhesion: Annotated[float, Field(ge=0, json_schema_extra={"unit": "kPa"})] = Field(
        default=0.0, title="Adhesion of the underside, drained (global factor only)"
    )
    adhesion_capped: bool = Field(default=True, title="Adhesion at most 0.4 V")
    factor_sliding: Factor = Field(default=1.5, title="Safety factor, sliding")
    passive_angle: FrictionAngle | None = Field(
        default=None, title="φ′ of the soil beside the base, passive (empty: none)"
    )
    passive_cohesion: Cohesion = Field(default=0.0, title="c′ of the soil beside the base, passive")
    passive_undrained: Pressure | None = Field(
        default=None, title="c u of the soil beside, passive in undrained sliding (empty: drained)"
    )
    passive_by: Literal["as set", "the strata"] = Field(
        default="as set", title="Passive resistance by the soil as set, or by the strata beside the base"
    )
    passive_share: Share = Field(default=0.5, title="Passive resistance mobilised, share")
    passive_ignored: Depth = Field(default=0.5, title="Passive: ignored below finished ground")
    prop_force: float = Field(default=0.0, ge=0, title="Prop or tie, force", json_schema_extra={"unit": "kN"})
    prop_level: Level | None = Field(default=None, title="Prop or tie, level (empty: top of the base)")
    prop_direction: Literal["x", "y", "both"] = Field(default="both", title="Prop or tie acts along")
    prop_reason: str = Field(default="", title="Prop or tie: what it is")
    seismic_overturning: Literal["full", "static −25 %", "modal −10 %"] = Field(
        default="full", title="Seismic overturning at the ground (ASCE 7 12.13.4)"
    )
    factor_overturning: Factor = Field(default=1.5, title="Safety factor, overturning")
    factor_uplift: Factor = Field(default=1.1, title="Safety factor, uplift")
    uplift_sides: Literal["nothing", "friction and adhesion", "soil wedge"] = Field(
        default="nothing", title="Uplift is held besides the weights by"
    )
    uplift_earth_pressure: Share = Field(default=0.5, title="…K of the backfill on the vertical planes")
    uplift_angle: FrictionAngle | None = Field(default=None, title="…φ′ on the planes (empty: no friction)")
    uplift_adhesion: Cohesion = Field(default=0.0, title="…adhesion on the planes")
    uplift_wedge: float = Field(
        default=20.0, ge=0, le=45, title="…soil wedge, from the vertical", json_schema_extra={"unit": "deg"}
    )
    clearance: Depth = Field(default=0.0, title="Clearance to boundaries and obstacles, at least")
    gap_least: Depth = Field(default=0.1, title="Gap between bases, at least")
    step_slope: float = Field(default=1.0, gt=0, le=10, title="Steps between neighbours: rise over gap, at most")
    finished_level: Level | None = Field(default=None, title="Finished ground at the base (empty: as in Ground)")
    frost_depth: Depth = Field(default=0.5, title="Frost depth")
    founding_unit: str | None = Field(default=None, title="Founded in the soil (empty: any)")
    founding_embedment: Depth = Field(default=0.0, title="At least so deep below its top")
    cover_above: Depth = Field(default=0.0, title="Soil above the base, at least")
    limit_set: LimitSet = Field(default="typed", title="Limits of settlement by")
    settlement_limit: Length = Field(default=0.025, title="Settlement, at most")
    slope_limit: float = Field(default=1 / 500, gt=0, le=0.1, title="Slope between neighbours, at most")
    tilt_limit: float = Field(default=1 / 250, gt=0, le=0.1, title="Tilt of a base, at most")
    rotation_limit: float = Field(default=1 / 500, gt=0, le=0.1, title="Relative rotation, at most")
    settlement_years: float = Field(default=50.0, gt=0, le=1000, title="Settlement after so many years")
    stiffness_f: Share = Field(default=1.0, title="Stiffness falls with load: f of 1 − f (p/p ult)^g")
    stiffness_g: float = Field(default=0.3, gt=0, le=2, title="…and g")
    spring_modulus: float | None = Field(
        default=None,
        gt=0,
        title="Spring stiffness of the ground, typed, to compare (empty: none)",
        json_schema_extra={"unit": SUBGRADE},
    )
    settlement_embedment: Literal["none", "Fox 1948"] = Field(
        default="none", title="Embedment reduces the elastic settlement by"
    )
    settlement_time: Literal["local effective stress", "average degree"] = Field(
        default="local effective stress", title="Settlement in time by"
    )
    creep_from: Literal["remaining pressure", "log time", "typed"] = Field(
        default="remaining pressure", title="Creep begins at the end of primary by"
    )
    creep_remaining: Share = Field(default=0.05, gt=0, title="…remaining share of the excess pressure")
    creep_days: float = Field(default=365.0, gt=0, title="…typed, days after loading")
    settlement_influence: Share = Field(
        default=0.2, title="Influence depth: added / effective stress (0: to the end of the profile)"
    )
    rigid_ratio: Annotated[float, Field(gt=0, le=1, json_schema_extra={"unit": ""})] | None = Field(
        default=None, title="Rigid base over the middle of a flexible one (empty: characteristic point)"
    )
    elastic_beside: Literal["without sideways strain", "with three stresses"] = Field(
        default="without sideways strain", title="Strata with E′ settle under other loads"
    )
    pore_pressure_shape: Literal["circle of equal area", "strip"] = Field(
        default="circle of equal area", title="Skempton's A acts below the base as below a"
    )
    drainage_top: Literal["drains", "closed"] = Field(default="drains", title="Top of the strata")
    drainage_bottom: Literal["by the strata", "drains", "closed"] = Field(
        default="by the strata", title="Bottom of the strata"
    )
    neighbour_reach: Length = Field(default=50.0, title="Slope and rotation: neighbours up to")
    concrete_weight: UnitWeight = Field(default=25.0, title="Concrete, unit weight")
    concrete_strength: Strength = Field(default=30.0, title="Concrete, fck or f′c")
    steel_strength: Strength = Field(default=500.0, title="Steel, fyk or fy")
    concrete_cover: Length = Field(default=0.05, title="Cover of the bars")
    shear_size_effect: bool = Field(default=False, title="ACI 318: size effect in shear of footings (13.2.6.2)")
    alpha_cc: Share = Field(default=1.0, gt=0, title="α cc")
    crack_width: Annotated[float, Field(gt=0, le=0.001, json_schema_extra={"unit": "m"})] = Field(
        default=0.0003, title="Crack width, at most (EN 1992)"
    )
    bar_ends: Literal["hooked", "straight"] = Field(default="hooked", title="Ends of the bars")
    hooks_count: Literal["where the cover allows", "always"] = Field(
        default="where the cover allows", title="Hooks count 0.7 (EN 1992-1-1 table 8.2: c_d > 3 ø)"
    )
    anchorage_e: Share = Field(default=0.15, title="Anchorage: e over the column (EN 1992-1-1 9.8.2.2(3))")
    anchorage_least: Literal["acting stress", "design strength"] = Field(
        default="acting stress", title="Least anchorage 0.3 l b,rqd by (EN 1992-1-1 (8.6), national)"
    )
    base_concrete: Literal["reinforced", "plain"] = Field(default="reinforced", title="Concrete of the base")
    plain_deduction: Depth = Field(
        default=0.05,
        title="Plain concrete cast on soil: thickness not counted (ACI 318 14.5.1.7, AS 3600 20.4)",
    )
    flexure_section: Literal["at the face", "within the column"] = Field(
        default="at the face",
        title="Section for flexure (within: 0.15 c inside, EN 1992-1-1 9.8.2.2, AS 3600 6.10)",
    )
    flexure_bands: Literal["whole width", "where very eccentric", "always"] = Field(
        default="where very eccentric", title="Moments by bands, besides those of the whole width"
    )
    flexure_band_count: int = Field(default=4, ge=2, le=20, title="…bands over the width")
    top_least: Literal["not asked for", "by the standard"] = Field(
        default="not asked for",
        title="Least steel above, where it is in tension (EN 9.2.1.1, ACI 8.6.1, AS section 21)",
    )
    concrete_weights: Literal["net", "left out", "with"] = Field(
        default="net", title="Own weight and backfill in concrete (with: not deducted, one column alone)"
    )
    weight_relief: Literal["their own factor", "0.9", "mean load factor"] = Field(
        default="their own factor", title="Weights deducted from the soil pressure with (one column alone)"
    )
    top_hanging: Literal["as the soil presses", "always"] = Field(
        default="as the soil presses", title="Top steel for weights that hang from the column"
    )
    cast_against: Literal["blinding", "soil"] = Field(default="blinding", title="Cast against")
    cover_tolerance: Depth = Field(default=0.01, title="Cover: allowance for deviation (EN 1992-1-1 4.4.1.3)")
    punching_moments: Literal["by equilibrium", "simplified"] = Field(
        default="by equilibrium", title="EN 1992 punching: β by (6.39), or 1.15, 1.4, 1.5 of 6.4.3(6)"
    )
    exposure_en: Literal["", "X0", "XC1", "XC2", "XC3", "XC4", "XD1", "XS1", "XD2", "XS2", "XD3", "XS3"] = Field(
        default="", title="Exposure class, EN 1992-1-1 table 4.4N (empty: bond and casting alone)"
    )
    exposure_as: Literal["A1", "A2", "B1", "B2", "C1", "C2"] = Field(
        default="A2", title="Exposure classification, AS 3600 table 4.10.3.2"
    )
    exposure_aci: Literal[
        "by the casting",
        "against the ground",
        "in contact with ground or weather",
        "neither ground nor weather",
        "corrosive",
    ] = Field(default="by the casting", title="Cover by ACI 318 20.5.1.3: cast and exposed")
    fire_resistance: Literal["", "30", "60", "90", "120", "180", "240"] = Field(
        default="", title="Fire resistance for the cover, minutes (EN 1992-1-2, AS 3600; empty: none)"
    )
    design_life: float = Field(default=50.0, ge=10, le=150, title="Design life, for the cover, years")
    cover_required: Length | None = Field(default=None, title="Cover asked for, typed (empty: by the standard)")
    opening_reach: Literal["by the standard", "all"] = Field(
        default="by the standard", title="Openings count in punching up to (EN 6 d, ACI 4 h, AS 2.5 h)"
    )
    gamma_concrete: Factor = Field(default=1.5, title="γC (EN 1992, national)")
    gamma_steel: Factor = Field(default=1.15, title="γS (EN 1992, national)")
    shear_coefficient: Factor = Field(default=0.18, title="C Rd,c × γC (EN 1992 6.2.2, national)")
    shear_least: Factor = Field(default=0.035, title="v min / (k^1.5 fck^0.5) (EN 1992 6.2.2, national)")
    face_share: Share = Field(default=0.4, gt=0, title="v Rd,max / (ν fcd) (EN 1992 6.4.5, national)")
    alpha_ct: Share = Field(default=0.8, gt=0, title="α ct,pl of plain concrete (EN 1992 12.3.1)")
    outer_bars: Literal["x", "y"] = Field(default="x", title="Outer bars run along")

    @field_validator("presumed_table")
    @classmethod
    def _grid(cls, table: tuple[tuple[float, float, float], ...]) -> tuple[tuple[float, float, float], ...]:
        return _gridded(table)


def _gridded(table: tuple[tuple[float, float, float], ...]) -> tuple[tuple[float, float, float], ...]:
    """The rows of a table in order; ValueError when they are no complete grid of depths and widths."""
    ordered = tuple(sorted(table))
    places = [(d, w) for d, w, _ in ordered]
    if len(set(places)) != len(places):
        twice = next(p for p in places if places.count(p) > 1)
        raise ValueError(f"the depth {twice[0]:g} m with the width {twice[1]:g} m stands twice")
    depths, widths = sorted({d for d, _ in places}), sorted({w for _, w in places})
    for d in depths:
        for w in widths:
            if (d, w) not in places:
                raise ValueError(
                    f"at the depth {d:g} m a pressure for the width {w:g} m is missing: every depth lists the same widths"
                )
    return ordered


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
