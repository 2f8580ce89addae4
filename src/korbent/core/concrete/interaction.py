"""Sections under axial force and two moments by strain compatibility: the surface of design resistances."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from korbent.core.concrete.standard import ColumnRules, ConcreteStandard
from korbent.core.contact.polygon import clipped_moments
from korbent.core.model.foundations import Pedestal
from korbent.core.model.settings import Settings
from korbent.core.working import Array

STEEL_MODULUS = 200_000.0
"""MPa."""
ANGLES, DEPTHS = 48, 160


@dataclass(frozen=True)
class Surface:
    """Points of the interaction surface by direction of the neutral axis (angles, depths): kN, compression positive, and kNm."""

    N: Array
    Mx: Array
    My: Array


def bar_places(pedestal: Pedestal, cover: float) -> Array:
    """Places of the bars from the middle, evenly around the perimeter from a corner on, (bars, 2), m."""
    a, b = (
        pedestal.size_x / 2 - cover - pedestal.diameter / 2,
        pedestal.size_y / 2 - cover - pedestal.diameter / 2,
    )
    corners = np.array([(-a, -b), (a, -b), (a, b), (-a, b), (-a, -b)])
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(corners, axis=0).T))])
    at = np.linspace(0.0, along[-1], pedestal.bars, endpoint=False)
    return np.stack([np.interp(at, along, corners[:, i]) for i in (0, 1)], axis=-1)


def interaction(pedestal: Pedestal, cover: float, rules: ColumnRules) -> Surface:
    """The surface of design resistances: for each direction the compressed zone grows from nothing to all of the section.

    Plane sections, no tension in the concrete, its compression as a block over a share of the compressed depth, steel elastic to its yield. Moments about x and y
    as on the base: My turns towards +x.
    """
    B, L = pedestal.size_x, pedestal.size_y
    places = bar_places(pedestal, cover)
    area = np.pi * pedestal.diameter**2 / 4
    angles = 2 * np.pi * np.arange(ANGLES) / ANGLES
    c, s = np.cos(angles)[:, None], np.sin(angles)[:, None]
    # distance of a point from the most compressed corner, along the direction of compression
    top = np.abs(c) * B / 2 + np.abs(s) * L / 2
    bar = top - (c * places[:, 0] + s * places[:, 1])
    deepest = bar.max(axis=1)[:, None]
    depths = deepest * np.geomspace(0.02, 8.0, DEPTHS)[None, :]
    # the block is the part of the rectangle within its depth from that corner
    corners_x, corners_y = np.array([-B, B, B, -B]) / 2, np.array([-L, -L, L, L]) / 2
    block = clipped_moments(corners_x, corners_y, rules.block * depths - top, c + 0 * depths, s + 0 * depths)
    stress = 1000 * rules.stress
    strain = rules.strain * (1 - bar[:, None] / depths[..., None])
    steel = np.clip(strain * STEEL_MODULUS, -rules.yield_stress, rules.yield_stress)
    # where the block covers a bar, its concrete is not there
    steel = (steel - rules.stress * (bar[:, None] < rules.block * depths[..., None])) * area * 1000
    tension = -strain.min(axis=-1)
    phi = rules.reduction(tension)
    N = phi * (stress * block.A + steel.sum(-1))
    My = phi * (stress * block.Sx + steel @ places[:, 0])
    Mx = -phi * (stress * block.Sy + steel @ places[:, 1])
    return Surface(np.minimum(N, rules.most * float(N.max())), Mx, My)


def capacity(surface: Surface, N: Array, Mx: Array, My: Array) -> Array:
    """How often the moment may grow at the force N until the surface is met; 0 where N alone is too much. Any one shape."""
    shape = N.shape
    n, mx, my = N.ravel(), Mx.ravel(), My.ravel()
    curve = np.empty((2, ANGLES, n.size))
    for k in range(ANGLES):
        # N grows with the compressed depth, up to its greatest value
        row = surface.N[k]
        last = int(np.argmax(row >= row.max() - 1e-9)) + 1
        curve[0, k] = np.interp(n, row[:last], surface.Mx[k, :last])
        curve[1, k] = np.interp(n, row[:last], surface.My[k, :last])
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
    return interaction(pedestal, cover, standard.column_rules(fck, fyk))


def surface_of(pedestal: Pedestal, settings: Settings, standard: ConcreteStandard) -> Surface:
    """The surface of a section, remembered."""
    # its level and its ties do not matter to it
    section = Pedestal(
        size_x=pedestal.size_x,
        size_y=pedestal.size_y,
        top=0.0,
        bars=pedestal.bars,
        diameter=pedestal.diameter,
    )
    return _surface(
        section, settings.concrete_cover, standard, settings.concrete_strength, settings.steel_strength
    )


def often_by_row(
    sections: Sequence[Pedestal | None], settings: Settings, standard: ConcreteStandard, N: Array, M_x: Array, M_y: Array
) -> Array:  # fmt: skip
    """How often the moment may grow, by candidate and situation; 1 where there is no section.

    Args:
        sections: one for each candidate. N, M_x, M_y: (candidates, situations).
    """
    often = np.ones(N.shape)
    rows_of: dict[Pedestal, list[int]] = {}
    for row, section in enumerate(sections):
        if section is not None:
            rows_of.setdefault(section, []).append(row)
    for section, rows in rows_of.items():
        surface = surface_of(section, settings, standard)
        # sizes in plan leave the forces alone: each row is worked out once
        forces_of = np.concatenate([N[rows], M_x[rows], M_y[rows]], axis=-1)
        _, first, back = np.unique(forces_of, axis=0, return_index=True, return_inverse=True)
        alone = [rows[k] for k in first]
        often[rows] = capacity(surface, N[alone], M_x[alone], M_y[alone])[back.ravel()]
    return often
