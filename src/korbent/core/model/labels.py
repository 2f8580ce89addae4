"""How the values that one chooses from are read: a project holds keys, what is seen of them stands here.

Designations that are the same in every language (EQU, XC2, DA1, Vesic 1975) are their own labels."""

from collections.abc import Iterable, Iterator, Mapping
from functools import cache
from types import MappingProxyType

from korbent.core.model.frozen import Frozen
from korbent.words import say, worded

LABELS: Mapping[str, str] = MappingProxyType(
    {
        # actions
        "permanent": say("permanent"),
        "imposed": say("imposed"),
        "snow": say("snow"),
        "wind": say("wind"),
        "seismic": say("seismic"),
        "accidental": say("accidental"),
        "soil": say("soil"),
        "water": say("water"),
        "temperature": say("temperature"),
        "fluid": say("fluid"),
        "rain": say("rain"),
        "allowable": say("allowable"),
        "ultimate": say("ultimate"),
        "concrete": say("concrete"),
        "cracks": say("cracks"),
        "settlement_long": say("settlement long"),
        "settlement_short": say("settlement short"),
        "persistent": say("persistent"),
        "transient": say("transient"),
        "low": say("low"),
        "normal": say("normal"),
        "high": say("high"),
        "worst": say("worst"),
        "concrete_column": say("concrete column"),
        "round_concrete_column": say("round concrete column"),
        "steel_column": say("steel column"),
        "concrete_wall": say("concrete wall"),
        "masonry_wall": say("masonry wall"),
        "plan": say("plan"),
        "local": say("local"),
        "whole": say("whole"),
        "metre": say("metre"),
        "rectangle": say("rectangle"),
        "circle": say("circle"),
        "polygon": say("polygon"),
        "embankment": say("embankment"),
        "triangular": say("triangular"),
        "square": say("square"),
        "above_1000_m": say("above 1000 m"),
        "floor": say("floor"),
        "storage": say("storage"),
        "roof": say("roof"),
        "service": say("service"),
        # base
        "metric": say("metric"),
        # foundations
        "ties": say("ties"),
        "spiral": say("spiral"),
        "granular": say("granular"),
        "pad": say("pad"),
        "strip": say("strip"),
        "raft": say("raft"),
        "ring": say("ring"),
        "trapezoid": say("trapezoid"),
        "middle": say("middle"),
        "issued": say("issued"),
        "poured": say("poured"),
        "underside": say("underside"),
        "top": say("top"),
        "bottom_x": say("bottom x"),
        "bottom_y": say("bottom y"),
        "top_x": say("top x"),
        "top_y": say("top y"),
        # ground
        "made_ground": say("made ground"),
        "topsoil": say("topsoil"),
        "clay": say("clay"),
        "silt": say("silt"),
        "sand": say("sand"),
        "gravel": say("gravel"),
        "peat": say("peat"),
        "rock": say("rock"),
        "drained": say("drained"),
        "undrained": say("undrained"),
        "both": say("both"),
        "elastic": say("elastic"),
        "oedometer": say("oedometer"),
        "strain_influence": say("strain influence"),
        "none": say("none"),
        "nearest": say("nearest"),
        "distance_weighted": say("distance-weighted"),
        "triangulated": say("triangulated"),
        "linear": say("linear"),
        "stepwise": say("stepwise"),
        # plate
        "below": say("below"),
        "above": say("above"),
        "springs": say("springs"),
        "layers": say("the strata"),
        # reinforcement
        "free": say("free"),
        "at_least": say("at least"),
        "pinned": say("pinned"),
        # settings
        "typed": say("typed"),
        "en1997_annex_h": say("EN 1997-1 annex H"),
        "skempton_macdonald_1956_cracks": say("Skempton and MacDonald 1956, cracks"),
        "skempton_macdonald_1956_structure": say("Skempton and MacDonald 1956, structure"),
        "bjerrum_1963_no_cracks": say("Bjerrum 1963, no cracks"),
        "bjerrum_1963_machines": say("Bjerrum 1963, machines"),
        "gross": say("gross"),
        "net": say("net"),
        "peak": say("peak"),
        "effective_area": say("effective area"),
        "full": say("full"),
        "effective": say("effective"),
        "arctangent_beyond_1": say("arctangent beyond 1"),
        "arctangent": say("arctangent"),
        "lesser": say("lesser"),
        "punching": say("punching"),
        "load_spread": say("load spread"),
        "own_length": say("its length"),
        "endless": say("endless"),
        "method": say("a method"),
        "bounds": say("bounds"),
        "tan_phi": say("tan φ′"),
        "weak_alone": say("the weak stratum alone"),
        "as_set": say("as set"),
        "strata": say("the strata"),
        "static_less_25": say("static −25 %"),
        "modal_less_10": say("modal −10 %"),
        "nothing": say("nothing"),
        "friction_and_adhesion": say("friction and adhesion"),
        "soil_wedge": say("soil wedge"),
        "local_effective_stress": say("local effective stress"),
        "average_degree": say("average degree"),
        "remaining_pressure": say("remaining pressure"),
        "log_time": say("log time"),
        "no_sideways_strain": say("without sideways strain"),
        "three_stresses": say("with three stresses"),
        "circle_of_equal_area": say("circle of equal area"),
        "drains": say("drains"),
        "closed": say("closed"),
        "by_strata": say("by the strata"),
        "hooked": say("hooked"),
        "straight": say("straight"),
        "where_cover_allows": say("where the cover allows"),
        "always": say("always"),
        "acting_stress": say("acting stress"),
        "design_strength": say("design strength"),
        "reinforced": say("reinforced"),
        "plain": say("plain"),
        "at_face": say("at the face"),
        "within_column": say("within the column"),
        "whole_width": say("whole width"),
        "where_very_eccentric": say("where very eccentric"),
        "not_asked_for": say("not asked for"),
        "by_standard": say("by the standard"),
        "left_out": say("left out"),
        "with": say("with"),
        "own_factor": say("their own factor"),
        "mean_load_factor": say("mean load factor"),
        "as_soil_presses": say("as the soil presses"),
        "blinding": say("blinding"),
        "by_equilibrium": say("by equilibrium"),
        "simplified": say("simplified"),
        "by_casting": say("by the casting"),
        "against_ground": say("against the ground"),
        "ground_or_weather": say("in contact with ground or weather"),
        "neither": say("neither ground nor weather"),
        "corrosive": say("corrosive"),
        "all": say("all"),
        "phi": say("φ′"),
        # sheets
        "governing": say("governing"),
        "failing": say("failing"),
        # what drawings show
        "levels": say("levels"),
        "boreholes": say("boreholes"),
        "dimensions_to_grid": say("dimensions to the grid"),
        "edges_of_excavation": say("edges of excavation"),
        "boundaries_and_obstacles": say("boundaries and obstacles"),
        "section_mark": say("section mark"),
        "general_notes": say("general notes"),
        # site
        "boundary": say("boundary"),
        "obstacle": say("obstacle"),
        "existing_foundation": say("existing foundation"),
        "underlay": say("underlay"),
        # standards
        "resistance_factors": say("resistance factors"),
        # parameters of soils
        "weight": say("weight"),
        "weight_saturated": say("weight saturated"),
        "cohesion": say("cohesion"),
        "friction_angle": say("friction angle"),
        "undrained_strength": say("undrained strength"),
        "undrained_strength_gradient": say("undrained strength gradient"),
        "modulus": say("modulus"),
        "poisson": say("poisson"),
        "compression_index": say("compression index"),
        "recompression_index": say("recompression index"),
        "void_ratio": say("void ratio"),
        "compression_ratio": say("compression ratio"),
        "recompression_share": say("recompression share"),
        "overconsolidation_ratio": say("overconsolidation ratio"),
        "preconsolidation": say("preconsolidation"),
        "preconsolidation_margin": say("preconsolidation margin"),
        "compressibility": say("compressibility"),
        "undrained_modulus": say("undrained modulus"),
        "pore_pressure_coefficient": say("pore pressure coefficient"),
        "consolidation_coefficient": say("consolidation coefficient"),
        "horizontal_consolidation": say("horizontal consolidation"),
        "permeability": say("permeability"),
        "creep_index": say("creep index"),
        "creep_reload": say("creep reload"),
        # bars by face, and others of a base
        "sides": say("sides"),
        "dowels": say("dowels"),
        "openings": say("openings"),
        "links": say("links"),
        "bottom": say("bottom"),
        "bottom x": say("bottom x"),
        "bottom y": say("bottom y"),
        "bottom x and y": say("bottom x and y"),
        "top x": say("top x"),
        "top y": say("top y"),
        "top x and y": say("top x and y"),
        "rib": say("rib"),
        "strap": say("strap"),
        # quick starts
        "corner": say("corner"),
        "wall": say("wall"),
        "two on a base": say("two on a base"),
        "bare strip": say("bare strip"),
        # kinds of foundations to compare, of loads
        "pads": say("pads"),
        "one base": say("one base"),
        "ribbed raft": say("ribbed raft"),
        "tank": say("tank"),
        "actions, V down": say("actions, V down"),
        "actions, z up": say("actions, z up"),
        "reactions, z up": say("reactions, z up"),
        # along a beam
        "shear": say("shear"),
        "moment": say("moment"),
        "torsion": say("torsion"),
        # curves to collapse
        "rigid strip": say("rigid strip"),
        "flexible strip": say("flexible strip"),
        # stresses, scales
        "total": say("total"),
        "root": say("root"),
        "log": say("log"),
        "pressure": say("pressure"),
        # groups of checks and of sheets
        "bearing": say("bearing"),
        "stability": say("stability"),
        "settlement": say("settlement"),
        "calculation": say("calculation"),
        "drawings": say("drawings"),
        "tables": say("tables"),
        # of switches
        "yes": say("yes"),
        "no": say("no"),
    }
)
"""By key; of one that stands for itself there is none."""


def label(key: str) -> str:
    """A key as it is read."""
    return LABELS.get(key, key)


@cache
def fields() -> frozenset[str]:
    """The names of all fields of a project."""

    def below(model: type[Frozen]) -> Iterator[str]:
        yield from model.model_fields
        for one in model.__subclasses__():
            yield from below(one)

    return frozenset(below(Frozen))


def field_word(step: object) -> str:
    """A step on the way to a value as it is read: a field by its words, a row by its name."""
    text = str(step)
    return worded(text.replace("_", " ")) if text in fields() else text


def labels(keys: Iterable[str]) -> str:
    """Several keys as they are read, with commas."""
    assert not isinstance(keys, str), keys  # its letters would be taken for keys
    return ", ".join(map(label, keys))


def key_of(text: str, keys: Iterable[str]) -> str | None:
    """The key that a text means, as its label or itself, whatever its case; None where it is none of them."""
    keys, plain = tuple(keys), text.strip()
    if plain in keys:
        return plain
    lower = plain.casefold()
    return next((k for k in keys if lower in (k.casefold(), label(k).casefold(), k.replace("_", " ").casefold())), None)
