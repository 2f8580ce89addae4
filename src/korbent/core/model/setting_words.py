"""What each setting does, in a line, and under which head it stands."""

from collections.abc import Mapping
from types import MappingProxyType

from korbent.words import say

_WORDS: Mapping[str, Mapping[str, str]] = {
    say("Presumed pressure"): {
        "presumed_pressure": say(
            "Pressure that the ground may carry, from a report or a table of a code; the pressure below the base is compared with it."
        ),
        "presumed_table": say(
            "Presumed pressures by depth and width, linear between the rows; they stand for the one value."
        ),
        "presumed_short": say(
            "The presumed pressure is multiplied by this in combinations with wind, seismic or accidental loads."
        ),
        "presumed_basis": say(
            "Gross: compared with the whole pressure on the underside. Net: with what exceeds the soil that was there."
        ),
        "presumed_compares": say(
            "Peak: the greatest pressure below the base. Effective area: the mean on the area that is concentric to the load."
        ),
    },
    say("Bearing failure"): {
        "factor_bearing": say(
            "Where combinations carry no partial factors, bearing failure is checked with this global factor of safety."
        ),
        "safety_basis": say(
            "Whether that factor divides the whole bearing pressure, or only what exceeds the soil beside the base."
        ),
        "bearing_method": say(
            "The bearing capacity theory by which that factor is found; the others stand beside it in Methods."
        ),
        "depth_width": say(
            "Depth factors grow with depth over the width of the base: its full width, or the effective one of an eccentric load."
        ),
        "depth_measure": say(
            "How D/B enters the depth factors: itself up to 1 and its arctangent beyond, or the arctangent throughout."
        ),
        "layer_mechanism": say(
            "A strong stratum over a weak one bears by punching through it, by spreading the load onto it, or by the lesser of both."
        ),
        "strip": say("Whether the base of a wall resists over its own length, or as a strip without ends."),
        "strip_resistance": say(
            "A method and its mechanisms, or rigorous lower bounds with all strata and V, H and M together, for walls and bases five times as long as wide."
        ),
        "load_spread": say("How far a load spreads sideways for each metre down, on its way to a weak stratum below."),
        "punching_share": say(
            "What of friction and cohesion acts on the vertical planes on which a base punches through a strong stratum."
        ),
        "surcharge_beside": say(
            "A lasting load on the ground beside the base: it adds to the overburden that resists bearing failure."
        ),
        "surcharge_on": say(
            "A lasting load on the backfill over the base: it weighs on the underside as the backfill does."
        ),
        "means_of": say(
            "Where strata within the depth of failure are taken together, the mean is that of the tangents or of the angles."
        ),
        "weak_over_strong": say(
            "What a weak stratum over a strong one bears: as if it went on for ever, or more as it gets thinner."
        ),
        "squeezing": say(
            "A thin weak clay between the base and strong ground resists being squeezed out: more than thick clay would."
        ),
        "base_tilt": say(
            "Angle of the underside to the horizontal: it lowers the bearing resistance (factors b) and helps against sliding."
        ),
        "ground_slope": say("Slope of the ground beside the base: it lowers the bearing resistance (factors g)."),
        "board_strength": say(
            "What a board of insulation or formwork below the base may carry in design; the pressure is compared with it."
        ),
        "resistance_bearing": say("In combinations with the set R the bearing resistance is multiplied by this."),
        "resistance_sliding": say("In combinations with the set R the sliding resistance is multiplied by this."),
    },
    say("Eccentricity"): {
        "eccentricity_limit": say(
            "The load may act no further from the middle than this share of the size of the base."
        ),
        "eccentricity_round": say("As above for circles and rings, as a share of the diameter."),
        "contact_share_least": say("At least this share of the underside stays in contact with the ground."),
        "eccentricity_special": say("As the first, in accidental and seismic situations."),
        "contact_share_special": say("As the third, in accidental and seismic situations."),
    },
    say("Sliding"): {
        "base_friction": say("tan δ between base and ground, typed; empty: from the friction angle of the soil below."),
        "friction_ratio": say(
            "The friction of the underside as a share of that of the soil: 1 for concrete cast on it, less for precast."
        ),
        "critical_angle": say("Friction at constant volume, which sliding on a smooth plane comes to in the end."),
        "base_adhesion": say("Adhesion of the underside in drained sliding, where a global factor of safety is used."),
        "adhesion_capped": say(
            "In undrained sliding the adhesion is no more than 0.4 times the vertical load, as water or air may reach the plane."
        ),
        "factor_sliding": say(
            "The resistance over the horizontal load is at least this, where combinations carry no partial factors."
        ),
        "passive_angle": say(
            "Friction of the soil before the base: its passive resistance counts against sliding; empty: none is counted."
        ),
        "passive_cohesion": say("Cohesion of that soil."),
        "passive_undrained": say("Undrained strength of that soil, for undrained sliding."),
        "passive_by": say("Passive resistance of the soil typed here, or of the strata that stand beside the base."),
        "passive_share": say(
            "The share of the passive resistance that is counted on: the whole of it needs much movement."
        ),
        "passive_ignored": say(
            "Down to this depth the ground may be dug away or loosened: no passive resistance above it."
        ),
        "prop_force": say("What a floor or a tie holds against sliding and overturning."),
        "prop_level": say("At which level it acts."),
        "prop_direction": say("In which direction it acts."),
        "prop_reason": say("What the prop or tie is: printed with the check."),
    },
    say("Overturning and uplift"): {
        "seismic_overturning": say(
            "Overturning moments of seismic loads at the ground may be less by this, depending on the analysis they come from."
        ),
        "factor_overturning": say(
            "The moment that holds over the moment that turns is at least this, where combinations carry no partial factors."
        ),
        "factor_uplift": say(
            "The weights over the uplift are at least this, where combinations carry no partial factors."
        ),
        "uplift_sides": say(
            "What holds a base besides its weights: nothing, friction on vertical planes, or a wedge of soil."
        ),
        "uplift_earth_pressure": say("Earth pressure of the backfill on these planes over its vertical stress."),
        "uplift_angle": say("Friction on these planes."),
        "uplift_adhesion": say("Adhesion on these planes."),
        "uplift_wedge": say("How far the wedge of soil that is lifted spreads, from the vertical."),
    },
    say("Levels and site"): {
        "clearance": say("Distance that a base keeps from boundaries and obstacles."),
        "gap_least": say("Distance that bases keep from each other."),
        "step_slope": say("Between neighbours on different levels: how steep the line between their edges may be."),
        "finished_level": say("Finished ground at this base, on terraces; empty: that of the project."),
        "frost_depth": say("The underside is at least so deep below finished ground."),
        "founding_unit": say("The underside has to stand in this soil."),
        "founding_embedment": say("…and so deep below its top."),
        "cover_above": say("Soil over the top of the base, at least."),
    },
    say("Settlement limits"): {
        "limit_set": say("Where the limits come from: typed here, or a published set."),
        "settlement_limit": say("Greatest settlement of a base."),
        "slope_limit": say("Difference of settlement of two neighbours over their distance."),
        "tilt_limit": say("Turn of a base by eccentric loads and by what presses beside it."),
        "rotation_limit": say("Turn of a line between neighbours against the turn of the whole."),
        "neighbour_reach": say("Bases further apart than this are not compared."),
    },
    say("Settlement"): {
        "settlement_years": say(
            "The settlement checked is the one after so many years, in which consolidation and creep go on."
        ),
        "stiffness_f": say("The stiffness of a stratum falls as its load nears failure: f of 1 − f (p/p ult)^g."),
        "stiffness_g": say("g of that formula: how early it falls."),
        "spring_modulus": say("A spring stiffness from elsewhere, drawn beside those from the ground to compare."),
        "settlement_embedment": say("A buried base settles less in an elastic ground: none of it, or by Fox."),
        "settlement_time": say(
            "While pore water flows off: each depth by its own effective stress, or all by the average degree."
        ),
        "creep_from": say(
            "When creep begins: at a share of excess pressure that remains, by the log of time, or at a typed time."
        ),
        "creep_remaining": say("That share of the excess pressure."),
        "creep_days": say("That time."),
        "settlement_influence": say(
            "Strata count down to where the added stress is this share of the effective stress."
        ),
        "rigid_ratio": say(
            "Settlement of a rigid base over that of the middle of a flexible one; empty: by the characteristic point."
        ),
        "elastic_beside": say(
            "Under the load of other bases a stratum with a modulus is squeezed between its neighbours, or may give sideways."
        ),
        "pore_pressure_shape": say(
            "The correction by Skempton's A for sideways strain is that of a circle or of a strip."
        ),
        "drainage_top": say("Whether pore water can leave at the top of the strata."),
        "drainage_bottom": say("Whether it can leave at their bottom."),
    },
    say("Concrete"): {
        "concrete_weight": say("Weight of the concrete of base and pedestal."),
        "concrete_strength": say("Characteristic cylinder strength."),
        "steel_strength": say("Yield strength of the bars."),
        "base_concrete": say("Reinforced, or plain: then no bars are counted on."),
        "plain_deduction": say("Of plain concrete cast on soil so much of the thickness is not counted."),
        "concrete_weights": say(
            "Soil pressure bends the base less its own weight and backfill (net), without them (left out), or as a whole (with)."
        ),
        "weight_relief": say("With which factor weights relieve the base."),
        "flexure_section": say("Where bending is looked at: at the face of the column or a little within it."),
        "flexure_bands": say("Moments of bands of the width, where the pressure differs much across it."),
        "flexure_band_count": say("How many bands."),
        "top_least": say("Whether least steel is asked for above, where the top is in tension."),
        "top_hanging": say(
            "Whether the top carries all weights that hang from the column, or only where the soil does not press."
        ),
        "outer_bars": say("Which bars lie outside and have the greater depth."),
        "shear_size_effect": say(
            "Deep sections without links are weaker in shear: whether the size effect of ACI 318-19 counts for footings."
        ),
        "punching_moments": say(
            "Effect of moments on punching: by the distribution in equilibrium, or by the fixed factors."
        ),
        "opening_reach": say("How near an opening has to be to take from the punching perimeter."),
        "crack_width": say("Greatest width of cracks."),
    },
    say("Cover and anchorage"): {
        "concrete_cover": say("From the surface to the outermost bar."),
        "cast_against": say(
            "What the underside is cast against: it asks for more cover, and of plain concrete takes thickness."
        ),
        "cover_tolerance": say("What the cover may be less by on site."),
        "exposure_en": say("Exposure by EN 1992, which asks for cover."),
        "exposure_as": say("Exposure by AS 3600, which asks for cover."),
        "exposure_aci": say("How the concrete is cast and exposed by ACI 318, which asks for cover."),
        "fire_resistance": say("Minutes of fire, which ask for cover."),
        "design_life": say("Life of the structure: a longer one asks for more cover."),
        "cover_required": say("Cover that is asked for, in place of the one by the standard."),
        "bar_ends": say("Whether bars end in hooks or straight: hooks need less length."),
        "hooks_count": say("When a hook shortens the length: where the concrete beside it is thick enough, or always."),
        "anchorage_e": say("Where the tension to be anchored is taken, as a share of the column."),
        "anchorage_least": say("Least anchorage by the stress that acts, or by the full strength."),
    },
    say("National values"): {
        "gamma_concrete": say("Partial factor of concrete."),
        "gamma_steel": say("Partial factor of steel."),
        "alpha_cc": say("Long-term effects on the strength of concrete in compression."),
        "shear_coefficient": say("Coefficient of the shear strength without links."),
        "shear_least": say("Coefficient of the least shear strength."),
        "face_share": say("Greatest shear stress at the column, as a share of the strength in struts."),
        "alpha_ct": say("Long-term effects on the strength of plain concrete in tension."),
    },
}

GROUPS: Mapping[str, tuple[str, ...]] = MappingProxyType({head: tuple(some) for head, some in _WORDS.items()})
"""By head, the names of the settings below it."""
DOES: Mapping[str, str] = MappingProxyType({name: does for some in _WORDS.values() for name, does in some.items()})
"""By name, what a setting does."""
