"""From the stress in the cells to the settlement: the one integrator of the ledger and of every moment in time."""

from dataclasses import dataclass

import numpy as np

from korbent.core.ground.profile import parameter
from korbent.core.settlement.column import Column
from korbent.core.settlement.laws import LAWS, Path
from korbent.core.working import Array


def primary_strain(column: Column, path: Path) -> Array:
    """Strain of every cell by the law of its stratum, (moments, points, situations, cells)."""
    strain = np.zeros(np.broadcast_shapes(path.beside.shape, (*path.pressure.shape, 1)))
    reduction = None
    for kind, law in LAWS.items():
        if kind not in {s.compression for s in column.profile.soils} or kind == "none":
            continue
        found = law.strain(column, path)
        if law.reduced and any(s.pore_pressure_coefficient is not None for s in column.profile.soils):
            if reduction is None:
                reduction = reduced_by(column, path)
            found = found * reduction
        strain = np.where(column.follows(kind), found, strain)
    return strain


def reduced_by(column: Column, path: Path) -> Array:
    """What is left of the oedometer strain where pore pressure rises less than the load (Skempton and Bjerrum 1957).

    Below a mark alpha is that of the stresses there: half of what the normal stresses add up to (nu = 0.5) less the
    vertical."""
    given = column.each(np.array([s.pore_pressure_coefficient is not None for s in column.profile.soils]))
    A = column.each(parameter(column.profile, "pore_pressure_coefficient"))
    if path.footing is not None:
        return np.where(given, path.footing.reduction(column, A), 1.0)
    if path.angle is None:
        return np.ones(path.before.shape)
    which = np.abs(path.beside).sum(axis=-1, keepdims=True).argmax(axis=0)[None]
    vertical, angle = (np.take_along_axis(v, which, axis=0)[0] for v in (path.beside, path.angle))
    some = np.abs(vertical) > 1e-9
    alpha = np.where(some, (1.5 * angle - vertical) / 2 / np.where(some, vertical, 1.0), 0.0)
    return np.where(given, A + np.clip(alpha, 0.0, 1.0) * (1 - A), 1.0)


def immediate_strain(column: Column, path: Path) -> Array:
    """Undrained strain of strata with Eu under all loads, with three stresses and nu = 0.5; shape as above.

    Other loads count where the sum of their normal stresses is known.
    """
    shape = np.broadcast_shapes(path.beside.shape, (*path.pressure.shape, 1))
    Eu = parameter(column.profile, "undrained_modulus")
    if not Eu.any():
        return np.zeros(shape)
    some = column.each(Eu > 0)
    modulus = column.each(np.where(Eu > 0, Eu, 1.0))
    found = np.zeros(shape)
    if path.footing is not None:
        own = path.footing.strain(column, np.full(modulus.shape, 0.5))
        found = path.pressure[..., None] * own / modulus
    if path.angle is not None:
        found = found + 1.5 * (path.beside - 0.5 * path.angle) / modulus
    return np.where(some, found, 0.0)


@dataclass(frozen=True)
class Reach:
    """How deep strata are counted, arrays (points, situations)."""

    depth: Array
    """Below the top of the cells, m."""
    counted: Array
    """Share of each cell above it, (points, situations, cells)."""
    end_ratio: Array
    """Added over effective stress where the known ground ends."""


def reach(column: Column, added: Array, before: Array, limit: float) -> Reach:
    """The depth down to which the greatest added stress of all moments is more than ``limit`` times the effective
    stress.

    Args:
        added: (moments, points, situations, cells), kPa. before: (points, situations, cells). limit: 0 counts all there
        is.
    """
    ratio = np.abs(added).max(axis=0) / np.maximum(before, 0.1)
    top = column.levels[:, :1]
    thickness = column.thickness[:, 0]
    last = thickness.shape[1] - 1
    depth = top - column.middle
    above = (ratio > limit) & (column.thickness > 0)
    some = above.any(axis=-1)
    deepest = last - np.argmax(above[..., ::-1], axis=-1)
    following = column.following
    rows = np.arange(len(depth))[:, None] if len(depth) > 1 else np.zeros((1, 1), dtype=int)
    after = following[rows, deepest]
    d0, d1 = depth[rows, deepest], depth[rows, after]
    r0, r1 = (np.take_along_axis(ratio, i[..., None], axis=-1)[..., 0] for i in (deepest, after))
    falls = r0 > r1
    between = d0 + (d1 - d0) * np.clip((r0 - limit) / np.where(falls, r0 - r1, 1.0), 0.0, 1.0)
    ends = (top - column.levels[:, -1:]) + 0.0 * between
    found = np.where(some, np.where((after == deepest) | ~falls, ends, between), 0.0)
    if limit <= 0.0:
        found = ends
    edges = top - column.levels
    upper, lower = edges[:, None, :-1], edges[:, None, 1:]
    size = np.where(column.thickness > 0, column.thickness, 1.0)
    counted = np.clip((np.minimum(lower, found[..., None]) - upper) / size, 0.0, 1.0)
    lowest = column.following[:, -1:] + np.zeros(found.shape, dtype=int)
    end_ratio = np.take_along_axis(ratio, lowest[..., None], axis=-1)[..., 0]
    return Reach(found, counted, end_ratio)
