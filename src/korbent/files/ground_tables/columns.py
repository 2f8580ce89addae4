"""The columns of the tables of the ground: what they are called, here and elsewhere."""

import re
from typing import get_args

from korbent.core.model import Soil
from korbent.core.model.ground import Compression, Drainage, Interpolation, Pattern, TestKind
from korbent.files.sheet import LONGEST_HEADING, name_and_unit

SOIL_FIELDS = tuple(name for name in Soil.model_fields if name not in ("notes", "expressions", "sources", "over_level"))
TEXTS = ("name", "pattern", "description", "drainage", "compression")
CHOSEN = {
    "pattern": get_args(Pattern),
    "drainage": get_args(Drainage),
    "compression": get_args(Compression),
    "interpolation": get_args(Interpolation),
}
"""The keys that some of them are chosen from; a table may hold their labels as well."""

# what the columns of a soil are called besides their field, in lower case without unit and signs
OTHER_NAMES = {
    "weight": ("gamma", "γ", "unitweight", "bulkunitweight"),
    "weight_saturated": ("gammasat", "γsat", "saturatedunitweight"),
    "cohesion": ("c", "cprime", "effectivecohesion"),
    "friction_angle": ("phi", "φ", "phiprime", "frictionangle"),
    "undrained_strength": ("cu", "su", "undrainedstrength"),
    "modulus": ("e", "eprime", "youngsmodulus", "stiffness"),
    "poisson": ("nu", "ν", "poissonsratio"),
    "compression_index": ("cc",),
    "recompression_index": ("cr", "cs"),
    "void_ratio": ("e0",),
    "overconsolidation_ratio": ("ocr",),
    "consolidation_coefficient": ("cv",),
    "name": ("soil", "unit", "soilname"),
}


HOLE, SOIL, TOP, BOTTOM, THICK = "borehole", "soil", "top", "bottom", "thickness"
NAMES: dict[str, tuple[str, ...]] = {
    HOLE: ("borehole", "hole", "bh", "boring", "location", "locaid", "point"),
    SOIL: ("soil", "unit", "stratum", "layer", "geology"),
    TOP: ("top", "from", "depthfrom", "depthtop"),
    BOTTOM: ("bottom", "base", "to", "depthto", "depthbase"),
    THICK: ("thickness",),
    "x": ("x", "easting", "east"),
    "y": ("y", "northing", "north"),
    "level": ("groundlevel", "level", "gl", "elevation", "z"),
    "rigid": ("rigidbelow",),
    "water": ("water", "waterlevel", "waterfound", "groundwater", "gwl"),
    "depth": ("depth",),
    "test": ("test", "kind", "type"),
    "value": ("value", "result", "reading"),
    "left out": ("leftout", "leftoutbecause"),
    "taken": ("taken", "takenas"),
    "sample": ("sample",),
    "initial": ("initialvoidratio", "e0"),
    "stress": ("stress", "pressure"),
    "void": ("voidratio", "e"),
    "height": ("sampleheight", "height"),
    "time": ("time", "elapsedtime"),
    "settlement": ("settlement", "compression"),
    "parameter": ("parameter",),
    "line": ("line",),
    "about": ("noteon",),
    "of": ("of",),
    "number": ("number", "no"),
    "key": ("field",),
    "note": ("note", "remark"),
    "source": ("source",),
    "expression": ("expression",),
    "units": ("expressionunits",),
    "site": ("siteitem",),
}

TESTS: dict[str, TestKind] = {
    "sptn": "SPT N",
    "spt": "SPT N",
    "n": "SPT N",
    "nspt": "SPT N",
    "nvalue": "SPT N",
    "blowcount": "SPT N",
    "blows": "SPT N",
    "cptqc": "CPT qc",
    "qc": "CPT qc",
    "cpt": "CPT qc",
    "coneresistance": "CPT qc",
    "cptfs": "CPT fs",
    "fs": "CPT fs",
    "sleevefriction": "CPT fs",
    "cptu2": "CPT u2",
    "u2": "CPT u2",
    "cu": "cu",
    "su": "cu",
    "vane": "cu",
    "undrainedstrength": "cu",
    "undrainedshearstrength": "cu",
    "phi": "phi",
    "φ": "phi",
    "frictionangle": "phi",
    "pi": "PI",
    "ip": "PI",
    "plasticityindex": "PI",
    "wl": "wL",
    "ll": "wL",
    "liquidlimit": "wL",
    "w": "w",
    "mc": "w",
    "moisture": "w",
    "moisturecontent": "w",
    "watercontent": "w",
    "e0": "e0",
    "initialvoidratio": "e0",
    "gamma": "gamma",
    "γ": "gamma",
    "unitweight": "gamma",
    "bulkunitweight": "gamma",
    "density": "gamma",
    "bulkdensity": "gamma",
    "mv": "mv",
    "cv": "cv",
}
"""What tests are called, in lower case without unit and signs."""

SITE_VALUES: dict[str, tuple[str, str, str]] = {
    "water low": ("water", "low", "m"),
    "water normal": ("water", "normal", "m"),
    "water high": ("water", "high", "m"),
    "existing surface": ("surfaces", "existing", "m"),
    "excavated surface": ("surfaces", "excavated", "m"),
    "finished surface": ("surfaces", "finished", "m"),
    "backfill": ("backfill", "name", ""),
    "backfill weight": ("backfill", "weight", "kN/m3"),
    "backfill weight saturated": ("backfill", "weight_saturated", "kN/m3"),
    "SPT energy": ("spt_energy", "", "%"),
    "cone area ratio": ("cone_area_ratio", "", ""),
    "interpolation": ("interpolation", "", ""),
}
"""What belongs to the ground as a whole: its field, the field within, its unit."""


def bare(header: str) -> tuple[str, str]:
    """A header's name in plain letters, and its unit."""
    name, unit = name_and_unit(header) or (header[:LONGEST_HEADING], "")
    return re.sub(r"[^a-z0-9γφν]", "", name.lower()), unit
