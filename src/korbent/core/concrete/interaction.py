"""Sections under axial force and two moments by strain compatibility: the surface of design resistances."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from korbent.core.cache import remembered
from korbent.core.concrete.standards.protocol import Bending, ColumnRules, ConcreteStandard
from korbent.core.contact.polygon import clipped_moments
from korbent.core.model.foundations import Pedestal
from korbent.core.model.settings import Settings
from korbent.core.working import Array

STEEL_MODULUS = 200_000.0
"""MPa."""
ANGLES, DEPTHS = 48, 160


@dataclass(frozen=True)
class Surface:
    """Points of the interaction surface by direction of the neutral axis (angles, depths): kN, compression positive,
    and kNm.

    One direction alone stands for all: a round section.
    """

    N: Array
    Mx: Array
    My: Array


AXES = np.arange(4) * ANGLES // 4
"""Places among the angles at which the compressed part is as wide as the section all along."""
BESIDE = 1e-9
"""So near to an axis, rad, a direction is oblique already."""


RIM = 192
"""Corners of the polygon of equal area by which a round section is taken."""


def bar_places(pedestal: Pedestal, cover: float, turn: float = 0.0) -> Array:
    """Places of the bars from the middle, (bars, 2), m: one in each corner, the others in pairs along opposite sides,
    as evenly as that goes; the last of an odd number is not counted, as nobody says at which side it stands. In a round
    section evenly around, the first one at the angle ``turn``, rad."""
    away = cover + pedestal.tie_diameter + pedestal.diameter / 2
    if pedestal.is_round:
        at = turn + 2 * np.pi * np.arange(pedestal.bars) / pedestal.bars
        return (pedestal.size_x / 2 - away) * np.stack([np.cos(at), np.sin(at)], axis=-1)
    a, b = pedestal.size_x / 2 - away, pedestal.size_y / 2 - away
    more = pedestal.bars - 4
    pairs = more // 2
    # bars between the corners of a side along x and of one along y: the split that leaves the least greatest distance
    along_x = min(range(pairs + 1), key=lambda k: (max(2 * a / (k + 1), 2 * b / (pairs - k + 1)), abs(k - pairs / 2)))
    found = [(-a, -b), (a, -b), (a, b), (-a, b)]
    found += [(-a + 2 * a * (i + 1) / (along_x + 1), s * b) for i in range(along_x) for s in (-1, 1)]
    along_y = pairs - along_x
    found += [(s * a, -b + 2 * b * (i + 1) / (along_y + 1)) for i in range(along_y) for s in (-1, 1)]
    return np.array(found)


def interaction(pedestal: Pedestal, cover: float, rules: ColumnRules) -> Surface:
    """The surface of design resistances: for each direction the compressed zone grows from nothing to all of the
    section.

    Plane sections, no tension in the concrete, its compression as a block over a share of the compressed depth, steel
    elastic to its yield. Moments about x and y as on the base: My turns towards +x. A round section resists alike in
    all directions: the lesser of a bar in the direction of the compression and of the gap between two."""
    if pedestal.is_round:
        return _round(pedestal, cover, rules)
    B, L = pedestal.size_x, pedestal.size_y
    places = bar_places(pedestal, cover)
    even = 2 * np.pi * np.arange(ANGLES) / ANGLES
    turns = (
        even if rules.narrowing == 1.0 else np.sort(np.concatenate([even, even[AXES] - BESIDE, even[AXES] + BESIDE]))
    )
    oblique = np.array([np.abs(t - even[AXES]).min() > 0.0 and abs(t - 2 * np.pi) > 0.0 for t in turns])[:, None]
    c, s = np.cos(turns)[:, None], np.sin(turns)[:, None]
    c, s = np.where(np.abs(c) < 1e-12, 0.0, c), np.where(np.abs(s) < 1e-12, 0.0, s)
    corners = np.array([-B, B, B, -B]) / 2, np.array([-L, -L, L, L]) / 2
    top = np.abs(c) * B / 2 + np.abs(s) * L / 2
    found = _along(rules, c, s, top, places, corners, B * L, pedestal.diameter, oblique)
    return Surface(np.minimum(found.N, rules.most * float(found.N.max())), found.Mx, found.My)


def _round(pedestal: Pedestal, cover: float, rules: ColumnRules) -> Surface:
    """Of a round section: one direction for all."""
    D = pedestal.size_x
    at = 2 * np.pi * (np.arange(RIM) + 0.5) / RIM
    # a regular polygon of the same area
    reach = D / 2 * np.sqrt(np.pi / (RIM / 2 * np.sin(2 * np.pi / RIM)))
    corners = reach * np.cos(at), reach * np.sin(at)
    one, none, top = np.ones((1, 1)), np.zeros((1, 1)), np.full((1, 1), D / 2)
    oblique = np.array([[True]])
    first, second = (
        _along(
            rules,
            one,
            none,
            top,
            bar_places(pedestal, cover, turn),
            corners,
            np.pi / 4 * D**2,
            pedestal.diameter,
            oblique,
        )
        for turn in (0.0, np.pi / pedestal.bars)
    )
    last = int(np.argmax(second.N[0])) + 1
    moment = np.minimum(first.My[0], np.interp(first.N[0], second.N[0, :last], second.My[0, :last]))
    N = np.minimum(first.N, rules.most * float(first.N.max()))
    return Surface(N, np.zeros_like(N), moment[None])


def _along(
    rules: ColumnRules,
    c: Array,
    s: Array,
    top: Array,
    places: Array,
    corners: tuple[Array, Array],
    gross: float,
    diameter: float,
    oblique: Array,
) -> Surface:
    """Resistances as the compressed zone grows along the directions (c, s), (directions, 1), before the greatest axial
    force is capped.

    Args:
        top: distance of the most compressed fibre from the middle. corners: of the section, anticlockwise. oblique:
        whether the
            compressed part narrows towards that fibre.
    """
    area = np.pi * diameter**2 / 4
    # distance of a bar from the most compressed fibre
    bar = top - (c * places[:, 0] + s * places[:, 1])
    deepest = bar.max(axis=1)[:, None]
    depths = deepest * np.concatenate([(1e-7, 1e-3, 5e-3), np.geomspace(0.01, 8.0, DEPTHS), (50.0, 1e4)])[None, :]
    # the block is the part of the section within its depth from that fibre
    block = clipped_moments(*corners, rules.block * depths - top, c + 0 * depths, s + 0 * depths)
    narrow = oblique & (gross * (1 - 1e-9) > block.A)
    concrete = rules.stress * np.where(narrow, rules.narrowing, 1.0)
    strain = rules.strain * (1 - bar[:, None] / depths[..., None])
    if rules.mean_strain is not None:
        # all compressed: the strains turn about the point where they are that of pure compression
        point = (1 - rules.mean_strain / rules.strain) * 2 * top
        turning = rules.mean_strain * (depths[..., None] - bar[:, None]) / np.maximum(depths - point, 1e-9)[..., None]
        strain = np.where((depths > 2 * top)[..., None], turning, strain)
    steel = np.clip(strain * STEEL_MODULUS, -rules.yield_stress, rules.yield_stress)
    # where the block covers a bar, its concrete is not there
    steel = (steel - concrete[..., None] * (bar[:, None] < rules.block * depths[..., None])) * area * 1000
    N = 1000 * concrete * block.A + steel.sum(-1)
    phi = rules.reduction(_bending(rules, strain, N, depths, deepest))
    N = phi * N
    My = phi * (1000 * concrete * block.Sx + steel @ places[:, 0])
    Mx = -phi * (1000 * concrete * block.Sy + steel @ places[:, 1])
    return Surface(N, Mx, My)


def _bending(rules: ColumnRules, strain: Array, N: Array, depths: Array, deepest: Array) -> Bending:
    """What the reduction goes by."""
    yields = rules.yield_stress / STEEL_MODULUS
    at_balance = deepest[:, 0] * rules.strain / (rules.strain + yields)
    balanced = np.array([np.interp(x, d, n) for x, d, n in zip(at_balance, depths, N)])[:, None]
    pure = np.array([np.interp(0.0, n, d) for d, n in zip(depths, N)])[:, None] / deepest
    return Bending(-strain.min(axis=-1), N, balanced, pure)


@remembered(512)
def _ends(surface: Surface) -> list[int]:
    """How many points of each direction there are up to the greatest force: N grows with the compressed depth until
    then."""
    return [int(np.argmax(row >= row.max() - 1e-9)) + 1 for row in surface.N]


def capacity(surface: Surface, N: Array, Mx: Array, My: Array) -> Array:
    """How often the moment may grow at the force N until the surface is met; 0 where N alone is too much. Any one
    shape."""
    shape = N.shape
    n, mx, my = N.ravel(), Mx.ravel(), My.ravel()
    angles = len(surface.N)
    row = surface.N[0]
    if angles == 1:
        last = int(np.argmax(row >= row.max() - 1e-9)) + 1
        there = np.interp(n, row[:last], surface.My[0, :last]) / np.maximum(np.hypot(mx, my), 1e-9)
        there = np.where(np.hypot(mx, my) < 1e-9, 1e9, there)
        return np.where((n > row.max()) | (n < row.min()), 0.0, there).reshape(shape)
    curve = np.empty((2, angles, n.size))
    for k, last in enumerate(_ends(surface)):
        row = surface.N[k, :last]
        curve[0, k] = np.interp(n, row, surface.Mx[k, :last])
        curve[1, k] = np.interp(n, row, surface.My[k, :last])
    size = np.maximum(np.hypot(mx, my), 1e-9)
    # the ray along the moment meets the closed curve through the points
    direction = np.stack([mx, my]) / size
    edge = np.roll(curve, -1, axis=1) - curve
    cross = direction[0] * edge[1] - direction[1] * edge[0]
    safe = np.where(np.abs(cross) < 1e-12, 1.0, cross)
    far = (curve[0] * edge[1] - curve[1] * edge[0]) / safe
    along = (curve[0] * direction[1] - curve[1] * direction[0]) / safe
    meets = (np.abs(cross) >= 1e-12) & (far > 0) & (along >= -1e-9) & (along <= 1 + 1e-9)
    often = np.where(meets, far, 0.0).max(axis=0) / size
    often = np.where(np.hypot(mx, my) < 1e-9, 1e9, often)
    beyond = (n > surface.N.max(axis=1).min()) | (n < surface.N.min(axis=1).max())
    found: Array = np.where(beyond, 0.0, often).reshape(shape)
    return found


@lru_cache(maxsize=128)
def _surface(pedestal: Pedestal, cover: float, standard: ConcreteStandard, fck: float, fyk: float) -> Surface:
    return interaction(pedestal, cover, standard.column_rules(fck, fyk, pedestal.around == "spiral"))


@remembered(512)
def _section(pedestal: Pedestal) -> Pedestal:
    """What its surface depends on: its level and the spacing of its ties do not matter to it."""
    return pedestal.replaced(top=0.0, tie_spacing=0.15, cover=None, strength=None)


def surface_of(pedestal: Pedestal, settings: Settings, standard: ConcreteStandard) -> Surface:
    """The surface of a section, remembered."""
    section = _section(pedestal)
    cover = settings.concrete_cover if pedestal.cover is None else pedestal.cover
    strength = settings.concrete_strength if pedestal.strength is None else pedestal.strength
    return _surface(section, cover, standard, strength, settings.steel_strength)


def axial_most(pedestal: Pedestal, settings: Settings, standard: ConcreteStandard) -> tuple[float, float]:
    """Least and greatest axial force that a section resists without moment, kN."""
    surface = surface_of(pedestal, settings, standard)
    return float(surface.N.min(axis=1).max()), float(surface.N.max(axis=1).min())


def often_by_row(
    sections: Sequence[Pedestal | None],
    settings: Settings,
    standard: ConcreteStandard,
    N: Array,
    M_x: Array,
    M_y: Array,
) -> Array:
    """How often the moment may grow, by candidate and situation; 1 where there is no section.

    Args:
        sections: one for each candidate. N, M_x, M_y: (candidates, situations).
    """
    often = np.ones(N.shape)
    rows_of: dict[int, tuple[Surface, dict[bytes, list[int]]]] = {}
    all_forces = np.concatenate([N, M_x, M_y], axis=-1)
    for row, section in enumerate(sections):
        if section is not None:
            surface = surface_of(section, settings, standard)
            # sizes in plan leave the forces alone: equal rows are worked out once
            alike = rows_of.setdefault(id(surface), (surface, {}))[1]
            alike.setdefault(all_forces[row].tobytes(), []).append(row)
    for surface, alike in rows_of.values():
        alone = [rows[0] for rows in alike.values()]
        found = capacity(surface, N[alone], M_x[alone], M_y[alone])
        for rows, value in zip(alike.values(), found):
            often[rows] = value
    return often
