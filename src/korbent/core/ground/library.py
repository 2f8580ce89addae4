"""A starter library of soils and rock: a first soil to begin with, and the range in which each parameter usually lies.

The ranges are guidance of our own, wide on purpose, of the order that textbooks of soil mechanics give (Bowles 1996;
Kulhawy and Mayne 1990; Look 2014). They replace no test: a value outside is marked, never refused.
"""

import re
from dataclasses import dataclass

from korbent.core.model.ground import Soil
from korbent.words import say

SOURCE = "starter library: a usual value, to be confirmed"

Range = tuple[float, float]


@dataclass(frozen=True)
class Entry:
    """One kind of ground: a soil to start with, words by which a description is recognised, and usual ranges."""

    soil: Soil
    words: tuple[str, ...]
    """All of a line's words must occur in the description (lower case); the entry with most words wins."""
    ranges: dict[str, Range]


def _soil(name: str, pattern: str, description: str, **values: object) -> Soil:
    numbers = {k: SOURCE for k, v in values.items() if isinstance(v, float)}
    return Soil(name=name, pattern=pattern, description=description, sources=numbers, **values)


def _coarse(
    name: str, pattern: str, description: str, words: str, weight: Range, wet: Range, phi: Range, E: Range
) -> Entry:
    def middle(r: Range) -> float:
        return round((r[0] + 2 * r[1]) / 3 if r is wet else r[0] + 0.4 * (r[1] - r[0]), 1)

    soil = _soil(
        name,
        pattern,
        description,
        drainage="drained",
        weight=middle(weight),
        weight_saturated=middle(wet),
        cohesion=0.0,
        friction_angle=middle(phi),
        modulus=round(middle(E), -2),
        poisson=0.3,
    )
    ranges = {
        "weight": weight,
        "weight_saturated": wet,
        "friction_angle": phi,
        "modulus": E,
        "cohesion": (0.0, 5.0),
        "poisson": (0.2, 0.4),
    }
    return Entry(soil, tuple(words.split()), ranges)


def _fine(
    name: str,
    pattern: str,
    description: str,
    words: str,
    weight: Range,
    phi: Range,
    cu: Range,
    Cc: Range,
    e0: Range,
    OCR: Range,
) -> Entry:
    def low(r: Range, digits: int = 1) -> float:
        return round(r[0] + 0.4 * (r[1] - r[0]), digits)

    soil = _soil(
        name,
        pattern,
        description,
        drainage="both",
        weight=low(weight),
        weight_saturated=low(weight) + 0.4,
        cohesion=0.0,
        friction_angle=low(phi),
        undrained_strength=low(cu),
        compression="oedometer",
        compression_index=low(Cc, 2),
        recompression_index=round(low(Cc, 2) / 7, 3),
        void_ratio=low(e0, 2),
        overconsolidation_ratio=low(OCR),
    )
    ranges = {
        "weight": weight,
        "weight_saturated": (weight[0], weight[1] + 1),
        "friction_angle": phi,
        "undrained_strength": cu,
        "compression_index": Cc,
        "recompression_index": (Cc[0] / 15, Cc[1] / 3),
        "void_ratio": e0,
        "overconsolidation_ratio": OCR,
        "cohesion": (0.0, 25.0),
        "poisson": (0.2, 0.45),
    }
    return Entry(soil, tuple(words.split()), ranges)


LIBRARY: tuple[Entry, ...] = (
    _coarse(
        say("Made ground"),
        "made_ground",
        say("mixed, variable"),
        "made_ground",
        (15, 20),
        (16.5, 21.5),
        (22, 34),
        (2_000, 15_000),
    ),
    _coarse(say("Topsoil"), "topsoil", say("with roots"), "topsoil", (13, 18), (15, 20), (20, 30), (1_000, 6_000)),
    _coarse(say("Loose sand"), "sand", "loose", say("loose sand"), (15, 18.5), (18, 20), (27, 32.5), (5_000, 20_000)),
    _coarse(
        say("Medium dense sand"),
        "sand",
        say("medium dense"),
        say("medium dense sand"),
        (16.5, 19.5),
        (19, 21),
        (30, 37),
        (15_000, 50_000),
    ),
    _coarse(say("Dense sand"), "sand", "dense", say("dense sand"), (17.5, 20.5), (20, 22), (34, 42), (35_000, 100_000)),
    _coarse(say("Sand"), "sand", "", "sand", (15, 20.5), (18, 22), (27, 42), (5_000, 100_000)),
    _coarse(
        say("Loose gravel"), "gravel", "loose", say("loose gravel"), (16, 19.5), (18.5, 21), (30, 36), (15_000, 50_000)
    ),
    _coarse(
        say("Medium dense gravel"),
        "gravel",
        say("medium dense"),
        say("medium dense gravel"),
        (17, 20.5),
        (19.5, 22),
        (33, 39),
        (40_000, 90_000),
    ),
    _coarse(
        say("Dense gravel"), "gravel", "dense", say("dense gravel"), (18.5, 22), (20.5, 23), (36, 45), (70_000, 200_000)
    ),
    _coarse(say("Gravel"), "gravel", "", "gravel", (16, 22), (18.5, 23), (30, 45), (15_000, 200_000)),
    _coarse(say("Silt"), "silt", "non-plastic", "silt", (15.5, 20), (17.5, 21), (25, 34), (3_000, 25_000)),
    _fine(
        say("Very soft clay"),
        "clay",
        say("very soft"),
        say("very soft clay"),
        (13, 17),
        (17, 27),
        (5, 20),
        (0.2, 1.5),
        (1.0, 3.0),
        (1.0, 2.0),
    ),
    _fine(
        say("Soft clay"),
        "clay",
        "soft",
        say("soft clay"),
        (14.5, 18),
        (18, 28),
        (20, 40),
        (0.2, 1.0),
        (0.8, 2.2),
        (1.0, 2.5),
    ),
    _fine(
        say("Firm clay"),
        "clay",
        "firm",
        say("firm clay"),
        (16.5, 19.5),
        (20, 29),
        (40, 75),
        (0.1, 0.5),
        (0.6, 1.3),
        (1.2, 6.0),
    ),
    _fine(
        say("Stiff clay"),
        "clay",
        "stiff",
        say("stiff clay"),
        (18, 21),
        (20, 31),
        (75, 150),
        (0.05, 0.35),
        (0.45, 1.0),
        (2.0, 15.0),
    ),
    _fine(
        say("Very stiff clay"),
        "clay",
        say("very stiff"),
        say("very stiff clay"),
        (19, 22),
        (22, 34),
        (150, 300),
        (0.03, 0.25),
        (0.35, 0.8),
        (4.0, 40.0),
    ),
    _fine(say("Clay"), "clay", "", "clay", (13, 22), (17, 34), (5, 300), (0.03, 1.5), (0.35, 3.0), (1.0, 40.0)),
    _fine(
        say("Peat"),
        "peat",
        say("fibrous to amorphous"),
        "peat",
        (9.5, 13),
        (15, 32),
        (3, 25),
        (1.5, 10.0),
        (3.0, 15.0),
        (1.0, 2.0),
    ),
    Entry(
        _soil(
            say("Weak rock"),
            "rock",
            say("weathered, closely jointed"),
            drainage="drained",
            weight=21.0,
            weight_saturated=22.0,
            cohesion=20.0,
            friction_angle=34.0,
            modulus=300_000.0,
            poisson=0.25,
        ),
        ("weak", "rock"),
        {
            "weight": (19, 24),
            "weight_saturated": (20, 25),
            "friction_angle": (27, 40),
            "cohesion": (0, 150),
            "modulus": (50_000, 1_500_000),
            "poisson": (0.15, 0.35),
        },
    ),
    Entry(
        _soil(
            say("Strong rock"),
            "rock",
            say("little weathered"),
            drainage="drained",
            weight=25.0,
            weight_saturated=25.5,
            cohesion=200.0,
            friction_angle=42.0,
            modulus=5_000_000.0,
            poisson=0.2,
        ),
        ("rock",),
        {
            "weight": (22, 29),
            "weight_saturated": (22, 30),
            "friction_angle": (30, 49),
            "cohesion": (50, 5_000),
            "modulus": (500_000, 80_000_000),
            "poisson": (0.1, 0.35),
        },
    ),
)

ROCKS = (
    "mudstone",
    "sandstone",
    "limestone",
    "siltstone",
    "chalk",
    "granite",
    "basalt",
    "schist",
    "slate",
    "gneiss",
    "rock",
    "marl",
)
PATTERNS = ("made_ground", "topsoil", "peat", "clay", "silt", "sand", "gravel")


def pattern_of(description: str) -> str:
    """The pattern that a description asks for: its principal soil stands in capitals, else comes last; '' if none."""
    text = " ".join(description.split())
    lower = text.lower()
    if "made ground" in lower or re.search(r"\bfill\b", lower):
        return "made_ground"
    capitals = [w.lower() for w in re.findall(r"\b[A-Z]{4,}\b", text)]
    for words in (capitals, re.findall(r"[a-z]+", lower)):
        found = [w for w in words if w in PATTERNS or w in ROCKS]
        if found:
            return "rock" if found[-1] in ROCKS else found[-1]
    return ""


def entry_for(soil: Soil) -> Entry | None:
    """The entry that the soil's pattern, name and description point to: of those of its pattern, the most telling."""
    text = f"{soil.name} {soil.description}".lower()
    words = set(re.findall(r"[a-z]+", text))
    best: Entry | None = None
    score = 0
    for entry in LIBRARY:
        if entry.soil.pattern != soil.pattern:
            continue
        qualifiers = [w for w in entry.words if w not in entry.soil.pattern.split()]
        if not all(w in words for w in qualifiers):
            continue
        # between two states, such as loose to medium dense, none is certain: the general entry counts
        if qualifiers and re.search(r"\bto\b", text):
            continue
        if best is None or len(qualifiers) > score:
            best, score = entry, len(qualifiers)
    return best


def unusual(soil: Soil, parameter: str) -> str:
    """What to say of a value that lies outside the usual range of the described soil; '' where it does not."""
    value = getattr(soil, parameter, None)
    entry = entry_for(soil)
    if value is None or entry is None or parameter not in entry.ranges:
        return ""
    low, high = entry.ranges[parameter]
    if low <= value <= high:
        return ""
    return say(
        "outside the usual range of {soil}, {low:g} to {high:g}", soil=entry.soil.name.lower(), low=low, high=high
    )
