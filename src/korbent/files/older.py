"""What older files hold is brought to what this Korbent reads."""

from collections.abc import Mapping
from typing import Any

WORDS: Mapping[str, Mapping[str, str]] = {
    "serves": {"settlement short": "settlement_short", "settlement long": "settlement_long"},
    "kind": {
        "concrete column": "concrete_column",
        "round concrete column": "round_concrete_column",
        "concrete wall": "concrete_wall",
        "masonry wall": "masonry_wall",
        "steel column": "steel_column",
        "existing foundation": "existing_foundation",
    },
    "pattern": {"made ground": "made_ground"},
    "compression": {"strain influence": "strain_influence"},
    "interpolation": {"distance-weighted": "distance_weighted"},
    "pins": {"at least": "at_least"},
    "presumed_compares": {"effective area": "effective_area"},
    "depth_measure": {"arctangent beyond 1": "arctangent_beyond_1"},
    "layer_mechanism": {"load spread": "load_spread"},
    "strip": {"its length": "own_length"},
    "strip_resistance": {"a method": "method"},
    "means_of": {"tan φ′": "tan_phi", "φ′": "phi"},
    "weak_over_strong": {"the weak stratum alone": "weak_alone"},
    "passive_by": {"the strata": "strata", "as set": "as_set"},
    "seismic_overturning": {"static −25 %": "static_less_25", "modal −10 %": "modal_less_10"},
    "uplift_sides": {"friction and adhesion": "friction_and_adhesion", "soil wedge": "soil_wedge"},
    "limit_set": {
        "Bjerrum 1963, no cracks": "bjerrum_1963_no_cracks",
        "Skempton and MacDonald 1956, cracks": "skempton_macdonald_1956_cracks",
        "Skempton and MacDonald 1956, structure": "skempton_macdonald_1956_structure",
        "EN 1997-1 annex H": "en1997_annex_h",
        "Bjerrum 1963, machines": "bjerrum_1963_machines",
    },
    "settlement_time": {"local effective stress": "local_effective_stress", "average degree": "average_degree"},
    "creep_from": {"log time": "log_time", "remaining pressure": "remaining_pressure"},
    "elastic_beside": {"with three stresses": "three_stresses", "without sideways strain": "no_sideways_strain"},
    "pore_pressure_shape": {"circle of equal area": "circle_of_equal_area"},
    "drainage_bottom": {"by the strata": "by_strata"},
    "hooks_count": {"where the cover allows": "where_cover_allows"},
    "anchorage_least": {"design strength": "design_strength", "acting stress": "acting_stress"},
    "flexure_section": {"within the column": "within_column", "at the face": "at_face"},
    "flexure_bands": {"whole width": "whole_width", "where very eccentric": "where_very_eccentric"},
    "top_least": {"not asked for": "not_asked_for", "by the standard": "by_standard"},
    "concrete_weights": {"left out": "left_out"},
    "weight_relief": {"mean load factor": "mean_load_factor", "their own factor": "own_factor"},
    "top_hanging": {"as the soil presses": "as_soil_presses"},
    "punching_moments": {"by equilibrium": "by_equilibrium"},
    "exposure_aci": {
        "against the ground": "against_ground",
        "in contact with ground or weather": "ground_or_weather",
        "neither ground nor weather": "neither",
        "by the casting": "by_casting",
    },
    "opening_reach": {"by the standard": "by_standard"},
    "approach": {"resistance factors": "resistance_factors"},
    "hidden": {
        "dimensions to the grid": "dimensions_to_grid",
        "edges of excavation": "edges_of_excavation",
        "boundaries and obstacles": "boundaries_and_obstacles",
        "section mark": "section_mark",
        "general notes": "general_notes",
    },
    "category": {"above 1000 m": "above_1000_m"},
}
"""By field: English words that files before version 3 held, and the keys that stand for them."""
ABOVE = ("above 1000 m", "above_1000_m")
"""So is a category called in the names of combination values."""
RETIRED = ("layer_contrast",)
"""Settings that older files hold and that nothing reads any more."""


def brought_up(raw: dict[str, Any], version: int) -> dict[str, Any]:
    """The project of a file of an older version."""
    raw = _without_retired(raw)
    if version < 2:
        raw = _with_strips(raw)
    if version < 3:
        raw = keyed(raw)
    return raw


def keyed(value: Any, field: str = "") -> Any:
    """Keys in place of words, wherever a field of that name stands."""
    if isinstance(value, dict):
        if field == "rule_values":
            return {k.replace(*ABOVE): v for k, v in value.items()}
        if field == "reinforcement":
            value = {"pins" if k == "held" else k: v for k, v in value.items()}
        # bars are pinned by face: the faces stand for the field
        return {k: keyed(v, field if field == "pins" else k) for k, v in value.items()}
    if isinstance(value, list):
        return [keyed(part, field) for part in value]
    return WORDS.get(field, {}).get(value, value) if isinstance(value, str) else value


def _without_retired(raw: dict[str, Any]) -> dict[str, Any]:
    """The project of a file without settings that are gone: of the project, of its types and of its bases."""

    def kept(values: Any) -> Any:
        return {k: v for k, v in values.items() if k not in RETIRED} if isinstance(values, dict) else values

    def rows(values: Any) -> Any:
        if not isinstance(values, list):
            return values
        return [
            row | {"overrides": kept(row["overrides"])} if isinstance(row, dict) and "overrides" in row else row
            for row in values
        ]

    found = dict(raw)
    if "settings" in found:
        found["settings"] = kept(found["settings"])
    for name in ("pads", "types"):
        if name in found:
            found[name] = rows(found[name])
    return found


def _with_strips(raw: Any) -> Any:
    """Version 1 knew no kinds: what stands under a wall alone is a strip."""
    points, pads = (raw.get("actions") or {}).get("load_points"), raw.get("pads")
    if not isinstance(points, list) or not isinstance(pads, list):
        return raw
    walls = {p.get("name") for p in points if isinstance(p, dict) and str(p.get("kind", "")).endswith("wall")}

    def kind(pad: Any) -> Any:
        alone = isinstance(pad, dict) and not pad.get("further") and pad.get("shape", "rectangle") == "rectangle"
        return {"kind": "strip", **pad} if alone and pad.get("load_point") in walls else pad

    return {**raw, "pads": [kind(pad) for pad in pads]}
