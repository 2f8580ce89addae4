"""Bars as objects: marks, shapes, lengths with hooks and bends, weights; fabrics as sheets; a schedule of the whole
project."""

from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil, hypot, pi

import numpy as np

from korbent.core.actions.tied import direction, middle_of, size_along
from korbent.core.concrete.fabric import INCH
from korbent.core.concrete.standards.registry import rules_of, standard_of
from korbent.core.footprint import footprint_of
from korbent.core.geometry import pad_geometry, table
from korbent.core.model.foundations import Pad, Strap
from korbent.core.model.labels import label
from korbent.core.model.outlines import crossings
from korbent.core.model.plate import Region, Rib
from korbent.core.model.project import Project
from korbent.core.model.reinforcement import FACES, Bars
from korbent.words import say

STEEL = 7850.0
"""kg/m3."""
STRAIGHT, BENT, HOOKED, CLOSED, HELIX, CIRCLE = "00", "11", "21", "51", "77", "99"
"""Shape codes of ISO 3766: straight; one bend by 90 degrees; two to the same side; a closed link; a helix (a its
diameter, b its pitch, c its height); any other, here a closed circle (a its diameter)."""
TURNS = 3.0
"""Turns of a helix beyond its height, one and a half at each end (ACI 318-19 25.7.3.4)."""
ROUNDED = {"metric": 0.01, "us": INCH / 4}
"""Legs and lengths are given to the centimetre, or to a quarter of an inch."""
TAIL = 10
"""Diameters of the straight end beyond the hook of a tie, of which it has two."""

Piece = tuple[str, float, float, float, float]
"""(shape, diameter, a, b, c), outside to outside, m."""


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
    """(foundation, where in it, how many in it)."""

    @property
    def count(self) -> int:
        """How many in all."""
        return sum(n for _, _, n in self.where)

    @property
    def weight(self) -> float:
        """Weight of all of them, kg."""
        return self.count * self.length * pi * self.diameter**2 / 4 * STEEL


@dataclass(frozen=True)
class Sheet:
    """Sheets of a welded fabric that are the same in all; sizes in m."""

    mark: str
    fabric: str
    width: float
    length: float
    mass: float
    """kg/m2."""
    where: tuple[tuple[str, str, int], ...]

    @property
    def count(self) -> int:
        """How many in all."""
        return sum(n for _, _, n in self.where)

    @property
    def weight(self) -> float:
        """Weight of all of them, kg."""
        return self.count * self.width * self.length * self.mass


def mandrel_of(diameter: float, standard: str = "", tie: bool = False) -> float:
    """Least mandrel diameter by the standard, m; without one by EN 1992-1-1."""
    return float(rules_of(standard).mandrel(diameter, tie))


def centre_line(piece: Piece, mandrel: float) -> float:
    """Length of a piece along its centre line, bends included, m."""
    shape, diameter, a, b, c = piece
    R = (mandrel + diameter) / 2
    corner = R + diameter / 2
    if shape == STRAIGHT:
        return b
    if shape == BENT:
        return (a - corner) + (b - corner) + pi / 2 * R
    if shape == HOOKED:
        return (a - corner) + (c - corner) + (b - 2 * corner) + pi * R
    if shape == HELIX:
        return float((c / b + TURNS) * ((pi * (a - diameter)) ** 2 + b**2) ** 0.5)
    if shape == CIRCLE:
        return pi * (a - diameter) + 2 * (3 * pi / 4 * R + TAIL * diameter)
    # closed: four sides, three bends by 90 degrees and two hooks by 135 with their tails
    return 2 * (a + b) - 8 * corner + 3 * pi / 2 * R + 2 * (3 * pi / 4 * R + TAIL * diameter)


def positions(size: float, cover: float, bars: Bars) -> list[float]:
    """Where bars lie across a width, from its middle: at most the spacing apart, cover kept at both sides, m."""
    room = size - 2 * cover - bars.diameter
    if room <= 0:
        return [0.0]
    gaps = bars.number - 1 if bars.number else max(1, ceil(room / (bars.spacing or room) - 1e-9))
    return [-room / 2 + room * i / gaps for i in range(gaps + 1)]


def _rounded(project: Project, length: float) -> float:
    step = ROUNDED[project.units]
    return round(round(length / step) * step, 6)


def _of_face(project: Project, pad: Pad, face: str, bars: Bars) -> Iterator[tuple[Piece, int]]:
    """The bars of one face and direction, and how many there are of each; of a round base one by one."""
    settings = project.settings_of(pad)
    cover, along_x = settings.concrete_cover, face.endswith("_x")
    across, along = (pad.extent, pad.width) if along_x else (pad.width, pad.extent)
    # the layer inside stands on the outer one: its legs are shorter by that
    inside = settings.outer_bars != face[-1]
    other = pad.reinforcement.bars(face[:-1] + ("y" if along_x else "x"))
    leg = _rounded(project, pad.thickness - 2 * cover - (other.diameter if inside and other else 0.0))
    shortest = mandrel_of(bars.diameter, project.standards.concrete) / 2 + 3 * bars.diameter
    hooked = settings.bar_ends == "hooked" and leg > shortest
    places = positions(across, cover, bars)
    under = footprint_of(pad)
    lengths = (
        [(high - low, 1) for at in places for low, high in stretches(pad, face[-1], at, cover)]
        if pad.outline or openings_of(pad)
        else [(along, len(places))]
        if under.slices_alike
        else [(float((high - low)[0, 0]), 1) for low, high in (under.span(face[-1], np.array([[at]])) for at in places)]
    )
    for whole, count in lengths:
        straight = _rounded(project, whole - 2 * cover)
        if straight > 4 * bars.diameter:
            yield (
                (
                    (HOOKED, bars.diameter, leg, straight, leg)
                    if hooked
                    else (STRAIGHT, bars.diameter, 0.0, straight, 0.0)
                ),
                count,
            )


def openings_of(pad: Pad) -> tuple[Region, ...]:
    """The openings of a raft: bars end at them."""
    return pad.plate.openings if pad.plate is not None else ()


def stretches(pad: Pad, axis: str, at: float, cover: float) -> list[tuple[float, float]]:
    """From where to where along an axis of a base there is concrete for a bar at a place across it: openings, and what
    is nearer to them than the cover, break it off."""
    if pad.outline:
        found = [(float(a), float(b)) for a, b in crossings(pad.outline, axis, at)]
    else:
        low, high = footprint_of(pad).span(axis, np.array([[at]]))
        found = [(float(low[0, 0]), float(high[0, 0]))]
    for opening in openings_of(pad):
        (a, b), (c, d) = _along(opening, axis)
        if c - cover < at < d + cover:
            found = [(x, y) for s, e in found for x, y in ((s, min(e, a)), (max(s, b), e)) if y > x]
    return found


def _along(region: Region, axis: str) -> tuple[tuple[float, float], tuple[float, float]]:
    """(from, to) of a region along an axis, and across it."""
    x, y = (region.x_from, region.x_to), (region.y_from, region.y_to)
    return (x, y) if axis == "x" else (y, x)


@dataclass(frozen=True)
class Trimmer:
    """Bars beside an opening in the place of those that it cuts: ``count`` of them from ``low`` to ``high`` along the
    axis of the face, the first at ``at`` across it, the next ones further from the opening by ``apart``, m."""

    face: str
    opening: int
    side: int
    """-1 or 1: towards which end of the axis across it they lie."""
    count: int
    diameter: float
    low: float
    high: float
    at: float
    apart: float


def trimmers(project: Project, pad: Pad) -> list[Trimmer]:
    """Beside each opening of a raft as many bars as it cuts, half of them at each side, a lap further at both ends:
    good practice, as ACI 318-19 8.5.4.2 has it for slabs (not checked against the printed text). Where an opening
    reaches to an edge all lie at its other side."""
    cover, found = project.settings_of(pad).concrete_cover, []
    if project.settings_of(pad).base_concrete != "reinforced":
        return []
    for k, opening in enumerate(openings_of(pad)):
        for face in FACES:
            bars = pad.reinforcement.bars(face)
            if bars is None or bars.fabric:
                continue
            axis = face[-1]
            (a, b), (c, d) = _along(opening, axis)
            across = pad.extent if axis == "x" else pad.width
            cut = sum(c - cover < at < d + cover for at in positions(across, cover, bars))
            near = cover + bars.diameter / 2
            room = {}
            for side, place in ((-1, c - near), (1, d + near)):
                there = (s for s in stretches(pad, axis, place, 0.0) if s[0] <= (a + b) / 2 <= s[1])
                whole = next(there, None)
                if whole is not None and abs(place) + near < across / 2:
                    room[side] = place, whole
            beyond = lap_of(project, pad, bars.diameter)
            for side, (place, (start, end)) in room.items() if cut else ():
                low, high = max(a - beyond, start + cover), min(b + beyond, end - cover)
                found.append(
                    Trimmer(face, k, side, ceil(cut / len(room)), bars.diameter, low, high, place, 2.5 * bars.diameter)
                )
    return found


def _trimming(project: Project, pad: Pad) -> Iterator[tuple[str, Piece, int]]:
    """The bars beside the openings of a raft."""
    together: dict[tuple[str, Piece], int] = {}
    for one in trimmers(project, pad):
        piece = (STRAIGHT, one.diameter, 0.0, _rounded(project, one.high - one.low), 0.0)
        key = say("beside openings {face}", face=label(one.face)), piece
        together[key] = together.get(key, 0) + one.count
    for (where, piece), count in together.items():
        yield where, piece, count


def lap_of(project: Project, pad: Pad, diameter: float) -> float:
    """Length of dowels beside the bars above, by the standard; 40 diameters without one, m."""
    settings = project.settings_of(pad)
    standard = standard_of(project.standards.concrete, settings)
    return standard.lap(diameter, settings.concrete_strength, settings.steel_strength) if standard else 40 * diameter


def in_base(project: Project, pad: Pad) -> float:
    """Length of dowels in the base: they stand on the bottom bars, m."""
    r = pad.reinforcement
    return pad.thickness - project.settings_of(pad).concrete_cover - r.bottom_x.diameter - r.bottom_y.diameter


def _rising(project: Project, pad: Pad) -> Iterator[tuple[str, Piece, int]]:
    """Dowels, and the bars and ties of a pedestal."""
    cover, deep = project.settings_of(pad).concrete_cover, in_base(project, pad)
    foot = 12.0
    if pad.dowels:
        oe = pad.dowels.diameter
        # each column has its own; steel columns on the base itself are held by anchors
        held = sum(
            bool(pad.pedestal_under(name)) or project.load_point(name).kind != "steel_column" for name in pad.carries
        )
        if held:
            yield (
                say("dowels"),
                (BENT, oe, _rounded(project, deep + lap_of(project, pad, oe)), _rounded(project, foot * oe), 0.0),
                pad.dowels.number * held,
            )
    for pedestal in pad.all_pedestals.values():
        high = pedestal.top - pad.top
        own = cover if pedestal.cover is None else pedestal.cover
        oe = pedestal.diameter
        if pad.dowels:
            yield say("pedestal"), (STRAIGHT, oe, 0.0, _rounded(project, high - own), 0.0), pedestal.bars
        else:
            yield (
                say("pedestal"),
                (BENT, oe, _rounded(project, deep + high - own), _rounded(project, foot * oe), 0.0),
                pedestal.bars,
            )
        a, b = (_rounded(project, size - 2 * own) for size in (pedestal.size_x, pedestal.size_y))
        count = max(1, ceil((high - own) / pedestal.tie_spacing)) + 1
        if pedestal.around == "spiral":
            yield (
                label("spiral"),
                (HELIX, pedestal.tie_diameter, a, pedestal.tie_spacing, _rounded(project, high - own)),
                1,
            )
        elif pedestal.is_round:
            yield label("ties"), (CIRCLE, pedestal.tie_diameter, a, 0.0, 0.0), count
        else:
            yield label("ties"), (CLOSED, pedestal.tie_diameter, a, b, 0.0), count


def _sides(project: Project, pad: Pad) -> Iterator[tuple[str, Piece, int]]:
    """Straight bars along the side faces, all around."""
    bars = pad.reinforcement.sides
    if bars is None:
        return
    cover = project.settings_of(pad).concrete_cover
    layers = bars.number or max(1, ceil((pad.thickness - 2 * cover) / (bars.spacing or 1.0) - 1e-9) - 1)
    if pad.outline:
        for k, (a, b) in enumerate(zip(pad.outline, (*pad.outline[1:], pad.outline[0]))):
            length = _rounded(project, hypot(b[0] - a[0], b[1] - a[1]) - 2 * cover)
            if length > 0:
                yield say("side {k}", k=k + 1), (STRAIGHT, bars.diameter, 0.0, length, 0.0), layers
        return
    slope = (pad.extent - pad.length_at(-pad.width / 2), pad.extent - pad.length_at(pad.width / 2))
    for size, side in (
        (hypot(pad.width, max(slope) / 2), "x"),
        (sum(pad.length_at(e * pad.width / 2) for e in (-1, 1)) / 2, "y"),
    ):
        yield (
            say("sides {side}", side=side),
            (STRAIGHT, bars.diameter, 0.0, _rounded(project, size - 2 * cover), 0.0),
            2 * layers,
        )


def _added(project: Project, pad: Pad) -> Iterator[tuple[str, Piece, int]]:
    """Straight bars that a raft has in some regions besides the basic ones: a lap further at both ends, within the
    cover."""
    cover = project.settings_of(pad).concrete_cover
    for added in pad.plate.added if pad.plate else ():
        bars, along_x = added.bars, added.face.endswith("_x")
        spans = ((added.x_from, added.x_to, pad.width), (added.y_from, added.y_to, pad.length))
        (low, high, size), (left, right, _) = spans if along_x else spans[::-1]
        if bars.fabric:
            continue
        beyond = lap_of(project, pad, bars.diameter)
        edge = size / 2 - cover
        length = _rounded(project, min(high + beyond, edge) - max(low - beyond, -edge))
        count = bars.number or ceil((right - left) / (bars.spacing or 1.0) - 1e-9)
        if length > 4 * bars.diameter:
            yield (
                say("added {face}", face=label(added.face)),
                (STRAIGHT, bars.diameter, 0.0, length, 0.0),
                max(1, count),
            )


def _of_strap(project: Project, strap: Strap) -> Iterator[tuple[str, Piece, int]]:
    """Straight bars from the outer edge of the base at the boundary to a lap into the inner base, and closed links as
    far as its face.

    More than two legs are links one within the other, their legs evenly apart; an odd leg stands alone with a hook at
    both ends."""
    edge, inner = project.pad(strap.edge), project.pad(strap.inner)
    first, far = project.load_point(edge.load_point), project.load_point(inner.load_point)
    settings = project.settings_of(edge)
    own = settings.concrete_cover if strap.cover is None else strap.cover
    d = direction(first, far)
    geometries = [
        pad_geometry([pad], [point], np.zeros(1, dtype=int), table(pad)) for pad, point in ((edge, first), (inner, far))
    ]
    (x, y), (px, py) = (tuple(float(v[0, 0]) for v in middle_of(g)) for g in geometries)
    own_size, far_size = (float(size_along(g, d)[0, 0]) for g in geometries)
    apart = (px - x) * d[0] + (py - y) * d[1]
    face = apart - far_size / 2
    for name, bars in (("top", strap.top), ("bottom", strap.bottom)):
        into = min(lap_of(project, edge, bars.diameter), far_size - settings.concrete_cover)
        length = _rounded(project, face + into + own_size / 2 - settings.concrete_cover)
        count = bars.number or len(positions(strap.width, own, bars))
        yield say("strap {face}", face=label(name)), (STRAIGHT, bars.diameter, 0.0, length, 0.0), count
    yield from _links(project, strap, face + own_size / 2 - settings.concrete_cover, own, say("strap links"))


def _links(
    project: Project, beam: Strap | Rib, length: float, cover: float, where: str
) -> Iterator[tuple[str, Piece, int]]:
    """Closed links along a length of a beam, one within the other where they have more than two legs."""
    if beam.links is None or not beam.links.spacing:
        return
    wide, high = beam.width - 2 * cover, _rounded(project, beam.depth - 2 * cover)
    count = max(1, ceil(length / beam.links.spacing - 1e-9)) + 1
    oe = beam.links.diameter
    for k in range(beam.legs // 2):
        size = _rounded(project, wide * (beam.legs - 1 - 2 * k) / (beam.legs - 1))
        yield where, (CLOSED, oe, size, high, 0.0), count
    if beam.legs % 2:
        hook = _rounded(project, TAIL * oe)
        yield where, (HOOKED, oe, hook, high, hook), count


def _of_ribs(project: Project, pad: Pad) -> Iterator[tuple[str, Piece, int]]:
    """Straight bars from end to end of every rib of a raft, and its links."""
    cover = project.settings_of(pad).concrete_cover
    for rib in pad.plate.ribs if pad.plate else ():
        box = pad.rib_box(rib)
        low, high = box[:2] if rib.axis == "x" else box[2:]
        length = high - low - 2 * cover
        for name, bars in (("top", rib.top), ("bottom", rib.bottom)):
            count = bars.number or len(positions(rib.width, cover, bars))
            yield (
                say("rib {rib} {face}", rib=rib.name, face=label(name)),
                (STRAIGHT, bars.diameter, 0.0, _rounded(project, length), 0.0),
                count,
            )
        yield from _links(project, rib, length, cover, say("rib {rib} links", rib=rib.name))


def _all(project: Project, pad: Pad) -> Iterator[tuple[str, Piece, int]]:
    """(where, piece, how many) of all bars of a base."""
    if project.settings_of(pad).base_concrete == "reinforced":
        for face in FACES:
            bars = pad.reinforcement.bars(face)
            if bars is None or bars.fabric:
                continue
            found: dict[Piece, int] = {}
            for piece, count in _of_face(project, pad, face, bars):
                found[piece] = found.get(piece, 0) + count
            for piece, count in found.items():
                yield label(face), piece, count
        yield from _sides(project, pad)
        yield from _added(project, pad)
        yield from _trimming(project, pad)
        yield from _of_ribs(project, pad)
    yield from _rising(project, pad)


def schedule(project: Project, pads: tuple[Pad, ...] | None = None) -> tuple[Bar, ...]:
    """All bars of the project with its straps (or of some pads): bars that are the same have one mark, the thickest and
    longest first."""
    together: dict[Piece, list[tuple[str, str, int]]] = {}
    for pad in project.pads if pads is None else pads:
        for where, piece, count in _all(project, pad):
            together.setdefault(piece, []).append((pad.name, where, count))
    for strap in project.straps if pads is None else ():
        for where, piece, count in _of_strap(project, strap):
            together.setdefault(piece, []).append((strap.name, where, count))
    ordered = sorted(together, key=lambda k: (-k[1], -k[3], k[0], -k[2]))
    rows = []
    for i, piece in enumerate(ordered, 1):
        shape, diameter, a, b, c = piece
        mandrel = (
            mandrel_of(diameter, project.standards.concrete, shape in (CLOSED, CIRCLE, HELIX))
            if shape != STRAIGHT
            else 0.0
        )
        rows.append(
            Bar(
                f"{i:02d}",
                shape,
                diameter,
                a,
                b,
                c,
                centre_line(piece, mandrel),
                mandrel,
                tuple(together[piece]),
            )
        )
    return tuple(rows)


def sheets(project: Project, pads: tuple[Pad, ...] | None = None) -> tuple[Sheet, ...]:
    """All sheets of welded fabric: one for a face whose both directions are of one fabric, half its mass where only one
    is."""
    together: dict[tuple[str, float, float, float], list[tuple[str, str, int]]] = {}
    for pad in project.pads if pads is None else pads:
        settings, r = project.settings_of(pad), pad.reinforcement
        if settings.base_concrete != "reinforced":
            continue
        size = (
            _rounded(project, pad.width - 2 * settings.concrete_cover),
            _rounded(project, pad.extent - 2 * settings.concrete_cover),
        )
        for name in ("bottom", "top"):
            x, y = r.bars(f"{name}_x"), r.bars(f"{name}_y")
            for fabric in dict.fromkeys(b.fabric for b in (x, y) if b and b.fabric):
                mass = sum(
                    pi * b.diameter**2 / 4 / (b.spacing or 1.0) * STEEL for b in (x, y) if b and b.fabric == fabric
                )
                together.setdefault((fabric, *size, round(mass, 6)), []).append((pad.name, name, 1))
    return tuple(Sheet(f"S{i}", *key, tuple(where)) for i, (key, where) in enumerate(sorted(together.items()), 1))


def weight_of(project: Project, pad: Pad) -> float:
    """Weight of the bars and sheets of one base, kg."""
    return sum(b.weight for b in schedule(project, (pad,))) + sum(s.weight for s in sheets(project, (pad,)))


HEADER = (
    say("Mark"),
    say("Diameter, mm"),
    say("Shape (ISO 3766)"),
    "a, mm",
    "b, mm",
    "c, mm",
    say("Mandrel, mm"),
    say("Length, mm"),
    say("Number"),
    say("Weight, kg"),
    say("Where"),
)
POUND = 0.45359237
"""kg."""


def header_of(project: Project) -> tuple[str, ...]:
    """The heads of the columns, in the units of the project."""
    return tuple(h.replace(", mm", ", in").replace(", kg", ", lb") for h in HEADER) if project.units == "us" else HEADER


def schedule_rows(project: Project, pads: tuple[Pad, ...] | None = None) -> list[list[str | float]]:
    """The schedule as rows of a table, bars first, then sheets, the sum last; mm and kg, or in and lb."""
    us = project.units == "us"

    def size(length: float) -> str | float:
        return (round(length / INCH, 2) if us else round(1000 * length)) if length else ""

    def weight(kilograms: float) -> float:
        return round(kilograms / (POUND if us else 1.0), 1)

    bars, fabrics = schedule(project, pads), sheets(project, pads)
    rows: list[list[str | float]] = []
    for bar in bars:
        diameter = round(bar.diameter / INCH, 3) if us else round(1000 * bar.diameter, 1)
        legs = [size(bar.a), size(bar.b), size(bar.c)]
        rows.append(
            [
                bar.mark,
                diameter,
                bar.shape,
                *legs,
                size(bar.mandrel),
                size(bar.length),
                bar.count,
                weight(bar.weight),
                _places(bar.where),
            ]
        )
    for sheet in fabrics:
        sizes = [size(sheet.width), size(sheet.length)]
        rows.append(
            [
                sheet.mark,
                sheet.fabric,
                "sheet",
                *sizes,
                "",
                "",
                "",
                sheet.count,
                weight(sheet.weight),
                _places(sheet.where),
            ]
        )
    count = sum(b.count for b in bars) + sum(s.count for s in fabrics)
    total = sum(b.weight for b in bars) + sum(s.weight for s in fabrics)
    rows.append(["", "", "", "", "", "", "", "", count, weight(total), label("all")])
    return rows


def _places(where: tuple[tuple[str, str, int], ...]) -> str:
    return "; ".join(f"{pad} {place} {n}" for pad, place, n in where)


def schedule_by_type(project: Project) -> dict[str, list[list[str | float]]]:
    """A schedule for each type (its bases together) and each base without one, by name."""
    groups: dict[str, list[Pad]] = {}
    for pad in project.pads:
        groups.setdefault(say("type {type}", type=pad.type) if pad.type else pad.name, []).append(pad)
    return {name: schedule_rows(project, tuple(pads)) for name, pads in groups.items()}
