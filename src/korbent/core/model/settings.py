"""Settings that a project states and a type or a base may override, each visibly."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Annotated, Any, Literal, get_args, get_origin

from pydantic import AfterValidator, Field, PlainSerializer, ValidationError, field_validator

from korbent.core.model.frozen import (
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
from korbent.words import say

LimitSet = Literal[
    "typed",
    "en1997_annex_h",
    "skempton_macdonald_1956_cracks",
    "skempton_macdonald_1956_structure",
    "bjerrum_1963_no_cracks",
    "bjerrum_1963_machines",
]


class Settings(Frozen):
    """What a check needs to know beyond ground, loads and size."""

    presumed_pressure: Pressure | None = Field(default=None, title=say("Presumed pressure"))
    presumed_table: tuple[tuple[Depth, Depth, Pressure], ...] = Field(
        default=(), title=say("Presumed pressure by depth and width")
    )
    """(depth of the founding level below finished ground, width of the base, pressure); it stands for the one value.

    Between its rows linear in both; beyond them the outermost value. Every depth lists the same widths.
    """
    presumed_short: Factor = Field(default=1.0, title=say("Presumed pressure × with wind, seismic, accidental"))
    presumed_basis: Literal["gross", "net"] = Field(default="gross", title=say("Presumed pressure is"))
    presumed_compares: Literal["peak", "effective_area"] = Field(default="peak", title=say("Compared with"))
    factor_bearing: Factor | None = Field(
        default=None, title=say("Safety factor, bearing failure (empty: not checked)")
    )
    safety_basis: Literal["gross", "net"] = Field(
        default="gross", title=say("Safety factor, bearing failure, of pressures")
    )
    bearing_method: Literal[
        "Terzaghi 1943", "Meyerhof 1963", "Brinch Hansen 1970", "Vesic 1975", "EN 1997-1 Annex D"
    ] = Field(default="Vesic 1975", title=say("Method for that"))
    depth_width: Literal["full", "effective"] = Field(
        default="full", title=say("Depth factors: depth over the width of the base")
    )
    depth_measure: Literal["arctangent_beyond_1", "arctangent"] = Field(
        default="arctangent_beyond_1", title=say("Depth factors of Hansen and Vesic: D/B as")
    )
    layer_mechanism: Literal["lesser", "punching", "load_spread"] = Field(
        default="lesser", title=say("Strong over weak stratum by")
    )
    strip: Literal["own_length", "endless"] = Field(
        default="own_length", title=say("A wall's base resists as a strip of")
    )
    strip_resistance: Literal["method", "bounds"] = Field(
        default="method", title=say("A strip's bearing resistance by")
    )
    load_spread: Share = Field(default=0.5, title=say("Load spread, sideways for 1 down"))
    punching_share: Share = Field(default=0.5, title=say("δ/φ and share of c′ on punching planes (clay: 0.75 of c_u)"))
    surcharge_beside: float = Field(
        default=0.0,
        ge=0,
        le=1000,
        title=say("Permanent surcharge on the ground beside (counts in the bearing resistance)"),
        json_schema_extra={"unit": "kPa"},
    )
    surcharge_on: float = Field(
        default=0.0,
        ge=0,
        le=1000,
        title=say("Permanent surcharge on the base, weighs as its backfill"),
        json_schema_extra={"unit": "kPa"},
    )
    means_of: Literal["tan_phi", "phi"] = Field(
        default="tan_phi", title=say("Weighted means of strata: friction by the mean of")
    )
    weak_over_strong: Literal["weak_alone", "Meyerhof 1974"] = Field(
        default="weak_alone",
        title=say("Weak over strong stratum bears, at most (in the way of Meyerhof: a parabola over the depth)"),
    )
    squeezing: bool = Field(default=False, title=say("Squeezing of weak clay over strong ground"))
    base_tilt: float = Field(
        default=0.0, ge=0, lt=30, title=say("Underside tilted by"), json_schema_extra={"unit": "deg"}
    )
    ground_slope: float = Field(
        default=0.0, ge=0, lt=45, title=say("Ground beside falls away by"), json_schema_extra={"unit": "deg"}
    )
    board_strength: Pressure | None = Field(
        default=None, title=say("Board below the base, design compressive stress (empty: none)")
    )
    resistance_bearing: Share = Field(default=0.45, gt=0, title=say("Resistance factor φ, bearing (set R)"))
    resistance_sliding: Share = Field(default=0.8, gt=0, title=say("Resistance factor φ, sliding (set R)"))
    eccentricity_limit: Share = Field(default=1 / 3, gt=0, title=say("Eccentricity, at most (share of size)"))
    eccentricity_round: Share = Field(
        default=0.3, gt=0, title=say("Eccentricity of a circle or ring, at most (share of diameter)")
    )
    contact_share_least: Share = Field(default=0.5, title=say("Contact, at least (share)"))
    eccentricity_special: Share | None = Field(
        default=None, gt=0, title=say("Eccentricity, at most, accidental and seismic (empty: the same)")
    )
    contact_share_special: Share | None = Field(
        default=None, title=say("Contact, at least, accidental and seismic (empty: the same)")
    )
    base_friction: Share | None = Field(default=None, title=say("Friction on the underside, tan δ (empty: from φ′)"))
    friction_ratio: Share = Field(default=1.0, title=say("tan δ over tan φ′"))
    critical_angle: FrictionAngle | None = Field(
        default=None, title=say("φ′cv of the soil below, for sliding (EN 1997-1 6.5.3(10); empty: φ′)")
    )
    base_adhesion: Annotated[float, Field(ge=0, json_schema_extra={"unit": "kPa"})] = Field(
        default=0.0, title=say("Adhesion of the underside, drained (global factor only)")
    )
    adhesion_capped: bool = Field(default=True, title=say("Adhesion at most 0.4 V"))
    factor_sliding: Factor = Field(default=1.5, title=say("Safety factor, sliding"))
    passive_angle: FrictionAngle | None = Field(
        default=None, title=say("φ′ of the soil beside the base, passive (empty: none)")
    )
    passive_cohesion: Cohesion = Field(default=0.0, title=say("c′ of the soil beside the base, passive"))
    passive_undrained: Pressure | None = Field(
        default=None, title=say("c u of the soil beside, passive in undrained sliding (empty: drained)")
    )
    passive_by: Literal["as_set", "strata"] = Field(
        default="as_set", title=say("Passive resistance by the soil as set, or by the strata beside the base")
    )
    passive_share: Share = Field(default=0.5, title=say("Passive resistance mobilised, share"))
    passive_ignored: Depth = Field(default=0.5, title=say("Passive: ignored below finished ground"))
    prop_force: float = Field(default=0.0, ge=0, title=say("Prop or tie, force"), json_schema_extra={"unit": "kN"})
    prop_level: Level | None = Field(default=None, title=say("Prop or tie, level (empty: top of the base)"))
    prop_direction: Literal["x", "y", "both"] = Field(default="both", title=say("Prop or tie acts along"))
    prop_reason: str = Field(default="", title=say("Prop or tie: what it is"))
    seismic_overturning: Literal["full", "static_less_25", "modal_less_10"] = Field(
        default="full", title=say("Seismic overturning at the ground (ASCE 7 12.13.4)")
    )
    factor_overturning: Factor = Field(default=1.5, title=say("Safety factor, overturning"))
    factor_uplift: Factor = Field(default=1.1, title=say("Safety factor, uplift"))
    uplift_sides: Literal["nothing", "friction_and_adhesion", "soil_wedge"] = Field(
        default="nothing", title=say("Uplift is held besides the weights by")
    )
    uplift_earth_pressure: Share = Field(default=0.5, title=say("…K of the backfill on the vertical planes"))
    uplift_angle: FrictionAngle | None = Field(default=None, title=say("…φ′ on the planes (empty: no friction)"))
    uplift_adhesion: Cohesion = Field(default=0.0, title=say("…adhesion on the planes"))
    uplift_wedge: float = Field(
        default=20.0, ge=0, le=45, title=say("…soil wedge, from the vertical"), json_schema_extra={"unit": "deg"}
    )
    clearance: Depth = Field(default=0.0, title=say("Clearance to boundaries and obstacles, at least"))
    gap_least: Depth = Field(default=0.1, title=say("Gap between bases, at least"))
    step_slope: float = Field(default=1.0, gt=0, le=10, title=say("Steps between neighbours: rise over gap, at most"))
    finished_level: Level | None = Field(default=None, title=say("Finished ground at the base (empty: as in Ground)"))
    frost_depth: Depth = Field(default=0.5, title=say("Frost depth"))
    founding_unit: str | None = Field(default=None, title=say("Founded in the soil (empty: any)"))
    founding_embedment: Depth = Field(default=0.0, title=say("At least so deep below its top"))
    cover_above: Depth = Field(default=0.0, title=say("Soil above the base, at least"))
    limit_set: LimitSet = Field(default="typed", title=say("Limits of settlement by"))
    settlement_limit: Length = Field(default=0.025, title=say("Settlement, at most"))
    slope_limit: float = Field(default=1 / 500, gt=0, le=0.1, title=say("Slope between neighbours, at most"))
    tilt_limit: float = Field(default=1 / 250, gt=0, le=0.1, title=say("Tilt of a base, at most"))
    rotation_limit: float = Field(default=1 / 500, gt=0, le=0.1, title=say("Relative rotation, at most"))
    settlement_years: float = Field(default=50.0, gt=0, le=1000, title=say("Settlement after so many years"))
    stiffness_f: Share = Field(default=1.0, title=say("Stiffness falls with load: f of 1 − f (p/p ult)^g"))
    stiffness_g: float = Field(default=0.3, gt=0, le=2, title=say("…and g"))
    spring_modulus: float | None = Field(
        default=None,
        gt=0,
        title=say("Spring stiffness of the ground, typed, to compare (empty: none)"),
        json_schema_extra={"unit": SUBGRADE},
    )
    settlement_embedment: Literal["none", "Fox 1948"] = Field(
        default="none", title=say("Embedment reduces the elastic settlement by")
    )
    settlement_time: Literal["local_effective_stress", "average_degree"] = Field(
        default="local_effective_stress", title=say("Settlement in time by")
    )
    creep_from: Literal["remaining_pressure", "log_time", "typed"] = Field(
        default="remaining_pressure", title=say("Creep begins at the end of primary by")
    )
    creep_remaining: Share = Field(default=0.05, gt=0, title=say("…remaining share of the excess pressure"))
    creep_days: float = Field(default=365.0, gt=0, title=say("…typed, days after loading"))
    settlement_influence: Share = Field(
        default=0.2, title=say("Influence depth: added / effective stress (0: to the end of the profile)")
    )
    rigid_ratio: Annotated[float, Field(gt=0, le=1, json_schema_extra={"unit": ""})] | None = Field(
        default=None, title=say("Rigid base over the middle of a flexible one (empty: characteristic point)")
    )
    elastic_beside: Literal["no_sideways_strain", "three_stresses"] = Field(
        default="no_sideways_strain", title=say("Strata with E′ settle under other loads")
    )
    pore_pressure_shape: Literal["circle_of_equal_area", "strip"] = Field(
        default="circle_of_equal_area", title=say("Skempton's A acts below the base as below a")
    )
    drainage_top: Literal["drains", "closed"] = Field(default="drains", title=say("Top of the strata"))
    drainage_bottom: Literal["by_strata", "drains", "closed"] = Field(
        default="by_strata", title=say("Bottom of the strata")
    )
    neighbour_reach: Length = Field(default=50.0, title=say("Slope and rotation: neighbours up to"))
    concrete_weight: UnitWeight = Field(default=25.0, title=say("Concrete, unit weight"))
    concrete_strength: Strength = Field(default=30.0, title=say("Concrete, fck or f′c"))
    steel_strength: Strength = Field(default=500.0, title=say("Steel, fyk or fy"))
    concrete_cover: Length = Field(default=0.05, title=say("Cover of the bars"))
    shear_size_effect: bool = Field(default=False, title=say("ACI 318: size effect in shear of footings (13.2.6.2)"))
    alpha_cc: Share = Field(default=1.0, gt=0, title="α cc")
    crack_width: Annotated[float, Field(gt=0, le=0.001, json_schema_extra={"unit": "m"})] = Field(
        default=0.0003, title=say("Crack width, at most (EN 1992)")
    )
    bar_ends: Literal["hooked", "straight"] = Field(default="hooked", title=say("Ends of the bars"))
    hooks_count: Literal["where_cover_allows", "always"] = Field(
        default="where_cover_allows", title=say("Hooks count 0.7 (EN 1992-1-1 table 8.2: c_d > 3 ø)")
    )
    anchorage_e: Share = Field(default=0.15, title=say("Anchorage: e over the column (EN 1992-1-1 9.8.2.2(3))"))
    anchorage_least: Literal["acting_stress", "design_strength"] = Field(
        default="acting_stress", title=say("Least anchorage 0.3 l b,rqd by (EN 1992-1-1 (8.6), national)")
    )
    base_concrete: Literal["reinforced", "plain"] = Field(default="reinforced", title=say("Concrete of the base"))
    plain_deduction: Depth = Field(
        default=0.05,
        title=say("Plain concrete cast on soil: thickness not counted (ACI 318 14.5.1.7, AS 3600 20.4)"),
    )
    flexure_section: Literal["at_face", "within_column"] = Field(
        default="at_face",
        title=say("Section for flexure (within: 0.15 c inside, EN 1992-1-1 9.8.2.2, AS 3600 6.10)"),
    )
    flexure_bands: Literal["whole_width", "where_very_eccentric", "always"] = Field(
        default="where_very_eccentric", title=say("Moments by bands, besides those of the whole width")
    )
    flexure_band_count: int = Field(default=4, ge=2, le=20, title=say("…bands over the width"))
    top_least: Literal["not_asked_for", "by_standard"] = Field(
        default="not_asked_for",
        title=say("Least steel above, where it is in tension (EN 9.2.1.1, ACI 8.6.1, AS section 21)"),
    )
    concrete_weights: Literal["net", "left_out", "with"] = Field(
        default="net", title=say("Own weight and backfill in concrete (with: not deducted, one column alone)")
    )
    weight_relief: Literal["own_factor", "0.9", "mean_load_factor"] = Field(
        default="own_factor", title=say("Weights deducted from the soil pressure with (one column alone)")
    )
    top_hanging: Literal["as_soil_presses", "always"] = Field(
        default="as_soil_presses", title=say("Top steel for weights that hang from the column")
    )
    cast_against: Literal["blinding", "soil"] = Field(default="blinding", title=say("Cast against"))
    cover_tolerance: Depth = Field(default=0.01, title=say("Cover: allowance for deviation (EN 1992-1-1 4.4.1.3)"))
    punching_moments: Literal["by_equilibrium", "simplified"] = Field(
        default="by_equilibrium", title=say("EN 1992 punching: β by (6.39), or 1.15, 1.4, 1.5 of 6.4.3(6)")
    )
    exposure_en: Literal["", "X0", "XC1", "XC2", "XC3", "XC4", "XD1", "XS1", "XD2", "XS2", "XD3", "XS3"] = Field(
        default="", title=say("Exposure class, EN 1992-1-1 table 4.4N (empty: bond and casting alone)")
    )
    exposure_as: Literal["A1", "A2", "B1", "B2", "C1", "C2"] = Field(
        default="A2", title=say("Exposure classification, AS 3600 table 4.10.3.2")
    )
    exposure_aci: Literal[
        "by_casting",
        "against_ground",
        "ground_or_weather",
        "neither",
        "corrosive",
    ] = Field(default="by_casting", title=say("Cover by ACI 318 20.5.1.3: cast and exposed"))
    fire_resistance: Literal["", "30", "60", "90", "120", "180", "240"] = Field(
        default="", title=say("Fire resistance for the cover, minutes (EN 1992-1-2, AS 3600; empty: none)")
    )
    design_life: float = Field(default=50.0, ge=10, le=150, title=say("Design life, for the cover, years"))
    cover_required: Length | None = Field(default=None, title=say("Cover asked for, typed (empty: by the standard)"))
    opening_reach: Literal["by_standard", "all"] = Field(
        default="by_standard", title=say("Openings count in punching up to (EN 6 d, ACI 4 h, AS 2.5 h)")
    )
    gamma_concrete: Factor = Field(default=1.5, title=say("γC (EN 1992, national)"))
    gamma_steel: Factor = Field(default=1.15, title=say("γS (EN 1992, national)"))
    shear_coefficient: Factor = Field(default=0.18, title=say("C Rd,c × γC (EN 1992 6.2.2, national)"))
    shear_least: Factor = Field(default=0.035, title=say("v min / (k^1.5 fck^0.5) (EN 1992 6.2.2, national)"))
    face_share: Share = Field(default=0.4, gt=0, title=say("v Rd,max / (ν fcd) (EN 1992 6.4.5, national)"))
    alpha_ct: Share = Field(default=0.8, gt=0, title=say("α ct,pl of plain concrete (EN 1992 12.3.1)"))
    outer_bars: Literal["x", "y"] = Field(default="x", title=say("Outer bars run along"))

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
        raise ValueError(
            say("the depth {twice:g} m with the width {twice_2:g} m stands twice", twice=twice[0], twice_2=twice[1])
        )
    depths, widths = sorted({d for d, _ in places}), sorted({w for _, w in places})
    for d in depths:
        for w in widths:
            if (d, w) not in places:
                raise ValueError(
                    say(
                        "at the depth {d:g} m a pressure for the width {w:g} m is missing: every depth lists the same widths",
                        d=d,
                        w=w,
                    )
                )
    return ordered


def _known(overrides: Mapping[str, Any]) -> Mapping[str, Any]:
    unknown = [name for name in overrides if name not in Settings.model_fields]
    if unknown:
        raise ValueError(say("no such setting: {unknown}", unknown=", ".join(unknown)))
    try:
        valid = Settings(**overrides)
    except ValidationError as error:
        parts = (f"{'.'.join(map(str, e['loc']))}: {e['msg']}" for e in error.errors())
        raise ValueError("; ".join(parts)) from None
    return MappingProxyType({name: getattr(valid, name) for name in overrides})


Overrides = Annotated[Mapping[str, Any], AfterValidator(_known), PlainSerializer(dict)]
CHOICES: Mapping[str, tuple[str, ...]] = MappingProxyType(
    {
        name: get_args(field.annotation)
        for name, field in Settings.model_fields.items()
        if get_origin(field.annotation) is Literal
    }
)
"""The keys of settings that are chosen from a list."""
Origin = Literal["project", "type", "base"]


def resolve(project: Settings, of_type: Mapping[str, Any], of_base: Mapping[str, Any]) -> Settings:
    """The settings in force: the base's override, else the type's, else the project's."""
    if not of_type and not of_base:
        return project
    return project.replaced(**{**of_type, **of_base})


def origin(field: str, of_type: Mapping[str, Any], of_base: Mapping[str, Any]) -> Origin:
    """Where the value in force stands."""
    return "base" if field in of_base else "type" if field in of_type else "project"
