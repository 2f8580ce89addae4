"""All colours, sizes and type of the application and its sheets, in one place."""

from dataclasses import dataclass, fields, replace
from importlib.resources import files as _files
from pathlib import Path

FAMILY = "Source Sans Pro"


def font_file(weight: str = "Regular") -> Path:
    """The font file of a weight: Regular, Semibold, Bold or It."""
    return Path(str(_files("font_source_sans_pro"))) / "files" / f"SourceSansPro-{weight}.ttf"


@dataclass(frozen=True)
class Theme:
    """Colours by what they mean, as #rrggbb."""

    name: str
    paper: str
    desk: str
    raised: str
    line: str
    faint: str
    ink: str
    soft: str
    accent: str
    accent_wash: str
    beyond: str
    beyond_wash: str
    odd_wash: str
    good: str
    water: str
    concrete: str
    concrete_line: str
    steel_x: str
    steel_y: str
    pressure: str
    fill: str
    made_ground: str
    topsoil: str
    clay: str
    silt: str
    sand: str
    gravel: str
    peat: str
    rock: str
    ratio_0: str
    ratio_1: str
    ratio_2: str
    ratio_3: str
    ratio_4: str

    def colour(self, token: str) -> str:
        """The colour of a token; a literal #rrggbb passes through."""
        return token if token.startswith("#") else str(getattr(self, token.replace(" ", "_")))

    def resolved(self, token: str) -> str:
        """The colour of a token that may be a scale: ``ratio:1.08`` of a check, ``field:0.4`` of a field from paper to
        its colour."""
        if token.startswith("ratio:"):
            value = token.removeprefix("ratio:")
            return self.ratio(None if value == "None" else float(value))
        if token.startswith("field:"):
            share = max(0.0, min(1.0, float(token.removeprefix("field:"))))
            return mixed(self.paper, self.pressure, 0.08 + 0.72 * share)
        return self.colour(token)

    def ratio(self, value: float | None) -> str:
        """The colour of a ratio: calm to warm up to 1.0, then another hue."""
        if value is None:
            return self.line
        if value > 1.0 + 1e-9:
            return self.beyond
        stops = (self.ratio_0, self.ratio_1, self.ratio_2, self.ratio_3, self.ratio_4)
        place = max(0.0, value) * (len(stops) - 1)
        i = min(int(place), len(stops) - 2)
        return mixed(stops[i], stops[i + 1], place - i)


def mixed(first: str, second: str, share: float) -> str:
    """A colour between two, ``share`` of the second."""
    pairs = ((int(first[i : i + 2], 16), int(second[i : i + 2], 16)) for i in (1, 3, 5))
    return "#" + "".join(f"{round(a + (b - a) * share):02x}" for a, b in pairs)


LIGHT = Theme(
    name="light",
    paper="#fcfaf5",
    desk="#efece4",
    raised="#ffffff",
    line="#d9d4c8",
    faint="#e8e4da",
    ink="#20262e",
    soft="#5c646d",
    accent="#0b6a6c",
    accent_wash="#e0eeec",
    beyond="#a11f3f",
    beyond_wash="#f6e1e4",
    odd_wash="#f7ecd2",
    good="#17705a",
    water="#2a67a2",
    concrete="#cfd2d3",
    concrete_line="#20262e",
    steel_x="#34548c",
    steel_y="#935428",
    pressure="#0b6a6c",
    fill="#e9e2cf",
    made_ground="#d4c9b6",
    topsoil="#b9a58a",
    clay="#b9c4cb",
    silt="#cfd0bd",
    sand="#ecdfae",
    gravel="#ded2be",
    peat="#a89784",
    rock="#c3c0c6",
    ratio_0="#a9cdd2",
    ratio_1="#a5c3b3",
    ratio_2="#b6b878",
    ratio_3="#dcae4b",
    ratio_4="#d47a2e",
)

DARK = Theme(
    name="dark",
    paper="#1f2327",
    desk="#171a1d",
    raised="#2a2f34",
    line="#42484e",
    faint="#30363b",
    ink="#ece7db",
    soft="#adb1b1",
    accent="#5cc0bd",
    accent_wash="#1f3b3c",
    beyond="#fa90a5",
    beyond_wash="#46232c",
    odd_wash="#443a1e",
    good="#6cc9a4",
    water="#78b2e6",
    concrete="#5a6065",
    concrete_line="#ece7db",
    steel_x="#8fb0ee",
    steel_y="#dd9c68",
    pressure="#5cc0bd",
    fill="#3d392e",
    made_ground="#4b453a",
    topsoil="#463b2e",
    clay="#39454d",
    silt="#45473a",
    sand="#544b2c",
    gravel="#4c4538",
    peat="#3a332c",
    rock="#45434a",
    ratio_0="#4f7f86",
    ratio_1="#4f806a",
    ratio_2="#7c8040",
    ratio_3="#b1862f",
    ratio_4="#c8702a",
)

PRINT = replace(LIGHT, name="print", paper="#ffffff")
"""On white paper."""

THEMES = {theme.name: theme for theme in (LIGHT, DARK, PRINT)}
TOKENS = tuple(f.name for f in fields(Theme))

RATIO_WASH = 0.65
"""How much of the colour of a ratio lies over the paper where ink is written on it."""

SIZE = {"small": 11, "text": 13, "strong": 14, "title": 16, "great": 26}
"""Type sizes on screen, px."""
