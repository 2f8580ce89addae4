"""Bars as objects: marks, shapes, lengths with hooks and bends, weights; a schedule of the whole project."""

from dataclasses import dataclass
from math import ceil, pi, sqrt

from korbent.core.model.foundations import Bars, Pad
from korbent.core.model.project import Project

STEEL = 7850.0
"""kg/m3."""
STRAIGHT, HOOKED = "00", "21"
"""Shape codes of ISO 3766: straight; two bends by 90 degrees to the same side."""
FACES = ("bottom_x", "bottom_y", "top_x", "top_y")
ROUNDED = 0.01
"""Legs and lengths are given to the centimetre."""


@dataclass(frozen=True)
class Bar:
    """Bars that are the same in all: dimensions outside to outside (m), a and c the legs, b between them."""

    mark: str
    shape: str
    diameter: float
    a: float
    b: float
    c: float
    length: float
    """Along the centre line, bends included, m."""
    mandrel: float
    """Least diameter of the mandrel, m."""
    where: tuple[tuple[str, str, int], ...]
    """(foundation, face and direction, how many in it)."""

    @property
    def count(self) -> int:
        """How many in all."""
        return sum(n for _, _, n in self.where)

    @property
    def weight(self) -> float:
        """Weight of all of them, kg."""
        return self.count * self.length * pi * self.diameter**2 / 4 * STEEL


def mandrel_of(diameter: float) -> float:
    """Least mandrel diameter: 4 diameters up to 16 mm, 7 beyond (EN 1992-1-1 table 8.1N)."""
    return (4 if diameter <= 0.016 + 1e-9 else 7) * diameter


def hooked_length(a: float, b: float, c: float, diameter: float, mandrel: float) -> float:
    """Centre line of a bar with two bends by 90 degrees, from its outer dimensions, m."""
    R = (mandrel + diameter) / 2
    corner = R + diameter / 2
    return (a - corner) + (c - corner) + (b - 2 * corner) + pi * R


def positions(size: float, cover: float, bars: Bars) -> list[float]:
    """Where bars lie across a width, from its middle: at most the spacing apart, cover kept at both sides, m."""
    room = size - 2 * cover - bars.diameter
    if room <= 0:
        return [0.0]
    gaps = bars.number - 1 if bars.number else max(1, ceil(room / (bars.spacing or room) - 1e-9))
    return [-room / 2 + room * i / gaps for i in range(gaps + 1)]


def _pieces(
    project: Project, pad: Pad, face: str
) -> list[tuple[tuple[str, float, float, float, float], int]]:
    """((shape, diameter, a, b, c), count) of the bars of one face and direction."""
    bars: Bars | None = pad.reinforcement.bars(face)
    if bars is None:
        return []
    settings = project.settings_of(pad)
    cover, along_x = settings.concrete_cover, face.endswith("_x")
    across, along = (pad.length, pad.width) if along_x else (pad.width, pad.length)
    # the layer inside stands on the outer one: its legs are shorter by that
    inside = settings.outer_bars != face[-1]
    other: Bars | None = pad.reinforcement.bars(face[:-1] + ("y" if along_x else "x"))
    leg = pad.thickness - 2 * cover - (other.diameter if inside and other else 0.0)
    hooked = settings.bar_ends == "hooked"
    found: dict[tuple[str, float, float, float, float], int] = {}
    for at in positions(across, cover, bars):
        whole = along if not pad.is_round else 2 * sqrt(max((along / 2) ** 2 - at**2, 0.0))
        straight = round((whole - 2 * cover) / ROUNDED) * ROUNDED
        if straight <= 4 * bars.diameter:
            continue
        shortest = mandrel_of(bars.diameter) / 2 + 3 * bars.diameter
        a = round(leg / ROUNDED) * ROUNDED if hooked and leg > shortest else 0.0
        key = (HOOKED if a else STRAIGHT, bars.diameter, round(a, 3), round(straight, 3), round(a, 3))
        found[key] = found.get(key, 0) + 1
    return list(found.items())


def schedule(project: Project, pads: tuple[Pad, ...] | None = None) -> tuple[Bar, ...]:
    """All bars of the project (or of some pads): bars that are the same have one mark, the thickest and longest first."""
    together: dict[tuple[str, float, float, float, float], list[tuple[str, str, int]]] = {}
    for pad in project.pads if pads is None else pads:
        for face in FACES:
            for key, count in _pieces(project, pad, face):
                together.setdefault(key, []).append((pad.name, face.replace("_", " "), count))
    ordered = sorted(together, key=lambda k: (-k[1], -k[3], k[0]))
    rows = []
    for i, key in enumerate(ordered, 1):
        shape, diameter, a, b, c = key
        mandrel = mandrel_of(diameter) if shape == HOOKED else 0.0
        length = hooked_length(a, b, c, diameter, mandrel) if shape == HOOKED else b
        rows.append(Bar(f"{i:02d}", shape, diameter, a, b, c, length, mandrel, tuple(together[key])))
    return tuple(rows)


def weight_of(project: Project, pad: Pad) -> float:
    """Weight of the bars of one base, kg."""
    return sum(bar.weight for bar in schedule(project, (pad,)))


HEADER = (
    "Mark",
    "Diameter, mm",
    "Shape (ISO 3766)",
    "a, mm",
    "b, mm",
    "c, mm",
    "Mandrel, mm",
    "Length, mm",
    "Number",
    "Weight, kg",
    "Where",
)


def schedule_rows(project: Project) -> list[list[str | float]]:
    """The schedule as rows of a table, the sum last."""
    bars = schedule(project)
    rows: list[list[str | float]] = []
    for bar in bars:
        faces = "; ".join(f"{pad} {face} {n}" for pad, face, n in bar.where)
        legs = (
            [round(1000 * bar.a), round(1000 * bar.b), round(1000 * bar.c)]
            if bar.shape == HOOKED
            else ["", round(1000 * bar.b), ""]
        )
        rows.append(
            [bar.mark, round(1000 * bar.diameter, 1), bar.shape, *legs, round(1000 * bar.mandrel) or "", round(1000 * bar.length), bar.count, round(bar.weight, 1), faces]
        )  # fmt: skip
    rows.append(
        [
            "",
            "",
            "",
            "",
            "",
            "",
            "",
            "",
            sum(b.count for b in bars),
            round(sum(b.weight for b in bars), 1),
            "all",
        ]
    )
    return rows
