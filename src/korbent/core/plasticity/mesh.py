"""Triangles over one half of a section below a strip: rectangles between the lines of strata, halved again where the
ground yields."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from korbent.words import say

Array = NDArray[np.float64]
Index = NDArray[np.int64]


@dataclass(frozen=True)
class Mesh:
    """Points (n, 2), x from the middle of the base, y upwards from its underside (m); triangles (m, 3), anticlockwise,
    and their stratum."""

    points: Array
    triangles: Index
    stratum: Index

    @property
    def area(self) -> Array:
        """Of each triangle, m2."""
        a, b, c = (self.points[self.triangles[:, k]] for k in range(3))
        return np.asarray(((b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (c[:, 0] - a[:, 0]) * (b[:, 1] - a[:, 1])) / 2)

    def edges(self) -> tuple[Index, Index]:
        """(ends of each edge (e, 2), the triangles at it (e, 2); -1 where there is only one)."""
        count = len(self.triangles)
        every = np.concatenate([self.triangles[:, [0, 1]], self.triangles[:, [1, 2]], self.triangles[:, [2, 0]]])
        owner = np.tile(np.arange(count), 3)
        ends, place = np.unique(np.sort(every, axis=1), axis=0, return_inverse=True)
        beside = np.full((len(ends), 2), -1, dtype=np.int64)
        order = np.argsort(place, kind="stable")
        at, first = place[order], np.r_[True, np.diff(place[order]) > 0]
        beside[at[first], 0] = owner[order][first]
        beside[at[~first], 1] = owner[order][~first]
        return ends, beside


def first_mesh(half: float, width: float, lines: Sequence[float], fine: int = 3) -> Mesh:
    """A mesh of rectangles cut in two: finer near the edge of the base, with the lines of strata among its lines.

    Args:
        half: half the width of the base, m.
        width: of the section from the middle, m.
        lines: levels of strata from 0 downwards, the last one the depth of the section (m, negative).
        fine: rectangles below half the base.
    """
    step = half / fine
    xs = [*np.linspace(0.0, half, fine + 1)]
    size = step
    while xs[-1] < width - 1e-9:
        size = min(size * 1.45, (width - half) / 3)
        xs.append(xs[-1] + size if xs[-1] + 1.5 * size < width else width)
    ys = [0.0]
    for top, bottom in itertools.pairwise(lines):
        size = step * 1.45 ** max(round(np.log(1 + 0.45 * -top / step) / np.log(1.45)), 0)
        y = top
        while y > bottom + 1e-9:
            y = y - size if y - 1.5 * size > bottom else bottom
            ys.append(y)
            size *= 1.45
    grid_x, grid_y = np.meshgrid(np.array(xs), np.array(ys))
    points = np.stack([grid_x.ravel(), grid_y.ravel()], axis=1)
    nx = len(xs)
    found = []
    for j in range(len(ys) - 1):
        for i in range(nx - 1):
            a, b, c, d = j * nx + i, j * nx + i + 1, (j + 1) * nx + i + 1, (j + 1) * nx + i
            # diagonals run as slip lines do: down and outwards below the base, the other way beside it
            found += [(d, c, a), (c, b, a)] if xs[i] < half else [(d, c, b), (d, b, a)]
    triangles = np.array(found)
    middle = points[triangles].mean(axis=1)[:, 1]
    stratum = np.searchsorted(-np.array(lines[1:]), -middle)
    return Mesh(points, triangles, stratum)


def halved(mesh: Mesh, marked: Index) -> Mesh:
    """Every marked triangle halved at its longest side, and neighbours as far as it takes that no point lies on a side
    (Rivara 1984)."""
    points = [tuple(p) for p in mesh.points]
    triangles = {k: tuple(t) for k, t in enumerate(mesh.triangles.tolist())}
    stratum = dict(enumerate(mesh.stratum.tolist()))
    at: dict[tuple[int, int], set[int]] = {}

    def sides(t: tuple[int, int, int]) -> list[tuple[int, int]]:
        return [(min(t[k], t[(k + 1) % 3]), max(t[k], t[(k + 1) % 3])) for k in range(3)]

    def length(side: tuple[int, int]) -> float:
        (ax, ay), (bx, by) = points[side[0]], points[side[1]]
        return float((ax - bx) ** 2 + (ay - by) ** 2)

    def longest(t: tuple[int, int, int]) -> tuple[int, int]:
        return max(sides(t), key=lambda s: (round(length(s), 12), s))

    for k, t in triangles.items():
        for side in sides(t):
            at.setdefault(side, set()).add(k)
    following = len(triangles)

    def cut(side: tuple[int, int]) -> None:
        """Both triangles at a side, which is the longest of each, in two."""
        nonlocal following
        (ax, ay), (bx, by) = points[side[0]], points[side[1]]
        points.append(((ax + bx) / 2, (ay + by) / 2))
        new = len(points) - 1
        for k in list(at[side]):
            t = triangles.pop(k)
            layer = stratum.pop(k)
            for own in sides(t):
                at[own].discard(k)
            i = next(n for n in range(3) if {t[n], t[(n + 1) % 3]} == set(side))
            a, b, c = t[i], t[(i + 1) % 3], t[(i + 2) % 3]
            for part in ((a, new, c), (new, b, c)):
                triangles[following], stratum[following] = part, layer
                for own in sides(part):
                    at.setdefault(own, set()).add(following)
                following += 1

    for k in marked.tolist():
        while k in triangles:
            side = longest(triangles[k])
            while True:  # the way along longest sides, until one is the longest of both its triangles
                other = next((n for n in at[side] if longest(triangles[n]) != side), None)
                if other is None:
                    break
                side = longest(triangles[other])
            cut(side)
    keys = list(triangles)
    return Mesh(np.array(points), np.array([triangles[k] for k in keys]), np.array([stratum[k] for k in keys]))


RAYS, RING = 12, 1.7
"""Rays of the fan of small triangles at the edge of the base; each ring is so many times as wide as the one within."""


def fan_mesh(half: float, width: float, lines: Sequence[float], smallest: float = 0.004) -> Mesh:
    """A mesh with rays at the edge of the base, where stresses turn at a point; else as :func:`first_mesh`, which
    stands in where the rays would cross the line of a stratum.

    Args:
        smallest: the innermost ring, over half the width of the base.
    """
    from scipy.spatial import Delaunay

    plain = first_mesh(half, width, lines)
    reach = 0.8 * min(half, -lines[1] if len(lines) > 1 else half, width - half)
    radii = [smallest * half]
    while radii[-1] * RING < reach:
        radii.append(radii[-1] * RING)
    angles = -np.pi * np.arange(RAYS + 1) / RAYS
    ring = [
        (half + r * np.cos(a), 0.0 if k in (0, RAYS) else r * np.sin(a)) for r in radii for k, a in enumerate(angles)
    ]
    away = np.hypot(plain.points[:, 0] - half, plain.points[:, 1]) > 1.2 * radii[-1]
    points = np.concatenate([[(half, 0.0)], ring, plain.points[away]])
    triangles = Delaunay(points).simplices.astype(np.int64)
    corner = points[triangles]
    one, two = corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]
    area = (one[:, 0] * two[:, 1] - one[:, 1] * two[:, 0]) / 2
    triangles[area < 0] = triangles[area < 0][:, ::-1]
    triangles = triangles[np.abs(area) > 1e-12 * half**2]
    y = points[triangles][:, :, 1]
    for line in lines[1:-1]:
        if np.any((y.max(axis=1) > line + 1e-9) & (y.min(axis=1) < line - 1e-9)):
            return plain
    found = Mesh(points, triangles, np.searchsorted(-np.array(lines[1:]), -y.mean(axis=1)))
    whole = abs(found.area.sum() - width * -lines[-1]) < 1e-9 * width * -lines[-1]
    return found if whole else plain


def slope_mesh(half: float, width: float, lines: Sequence[float], slope: float, smallest: float = 0.004) -> Mesh:
    """A mesh of a whole section whose ground falls away from the right edge of the base on (``slope``: tan of the
    angle; less than 0: from the left edge on), with rays at both edges; strata stay level.

    Raises:
        ValueError: when no triangles are found that keep to the lines of strata.
    """
    if slope < 0:
        other = slope_mesh(half, width, lines, -slope, smallest)
        return Mesh(other.points * np.array([-1.0, 1.0]), other.triangles[:, ::-1], other.stratum)
    plain = mirrored(first_mesh(half, width, lines)).points
    low = lines[-1]

    def surface(x: Array) -> Array:
        return np.asarray(-slope * np.maximum(x - half, 0.0))

    reach = 0.8 * min(half, -lines[1] if len(lines) > 1 else half, width - half)
    radii = [smallest * half]
    while radii[-1] * RING < reach:
        radii.append(radii[-1] * RING)
    rings = []
    for centre, ends in ((-half, (-np.pi, 0.0)), (half, (-np.pi, -float(np.arctan(slope))))):
        for angle in np.linspace(*ends, RAYS + 1):
            rings += [
                (
                    centre + r * np.cos(angle),
                    min(r * np.sin(angle), float(surface(centre + r * np.cos(angle)))),
                )
                for r in radii
            ]
        rings.append((centre, 0.0))
    at = np.unique(plain[:, 0])
    # strata that the slope cuts end on it
    cuts = [half - line / slope for line in lines[1:-1] if half - line / slope < width] if slope else []
    on_top = np.unique(np.concatenate([at, cuts]))
    top = np.stack([on_top, surface(on_top)], axis=1)
    gap = surface(plain[:, 0]) - plain[:, 1]
    column = np.clip(np.searchsorted(at, plain[:, 0]), 1, len(at) - 1)
    inside = plain[(gap > 0.5 * (at[column] - at[column - 1]) * min(slope, 1.0)) & (gap > 1e-9)]
    points = np.concatenate([inside, top, [(x, low) for x in at]])
    away = np.min([np.hypot(points[:, 0] - c, points[:, 1]) for c in (-half, half)], axis=0) > 1.2 * radii[-1]
    points = np.concatenate([rings, points[away]])
    points = points[np.sort(np.unique(np.round(points / half, 9), axis=0, return_index=True)[1])]
    for _ in range(12):
        triangles = _triangles(points, half)
        crossed = _crossed(points, triangles, lines[1:-1], half)
        if not len(crossed):
            break
        points = np.concatenate([points, crossed])
    else:
        raise ValueError(say("no triangles are found that keep to the lines of strata"))
    found = Mesh(points, triangles, np.searchsorted(-np.array(lines[1:]), -points[triangles][:, :, 1].mean(axis=1)))
    whole = 2 * width * -low - slope * (width - half) ** 2 / 2
    if abs(found.area.sum() - whole) > 1e-8 * whole:
        raise ValueError(say("no triangles are found that fill the section"))
    return found


def _triangles(points: Array, half: float) -> Index:
    """Between points of a convex outline, anticlockwise, without those that have no area."""
    from scipy.spatial import Delaunay

    triangles = Delaunay(points).simplices.astype(np.int64)
    a, b, c = (points[triangles[:, k]] for k in range(3))
    twice = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (c[:, 0] - a[:, 0]) * (b[:, 1] - a[:, 1])
    longest = np.max([((p - q) ** 2).sum(axis=1) for p, q in ((a, b), (b, c), (c, a))], axis=0)
    triangles[twice < 0] = triangles[twice < 0][:, ::-1]
    return np.asarray(triangles[np.abs(twice) > 1e-7 * longest])


def _crossed(points: Array, triangles: Index, lines: Sequence[float], half: float) -> Array:
    """Where sides of triangles cross the lines of strata."""
    sides = np.unique(
        np.sort(np.concatenate([triangles[:, [0, 1]], triangles[:, [1, 2]], triangles[:, [2, 0]]]), axis=1),
        axis=0,
    )
    a, b = points[sides[:, 0]], points[sides[:, 1]]
    found = [np.zeros((0, 2))]
    for line in lines:
        over = (np.maximum(a[:, 1], b[:, 1]) > line + 1e-9 * half) & (np.minimum(a[:, 1], b[:, 1]) < line - 1e-9 * half)
        share = (line - a[over, 1]) / (b[over, 1] - a[over, 1])
        found.append(np.stack([a[over, 0] + share * (b[over, 0] - a[over, 0]), np.full(int(over.sum()), line)], axis=1))
    crossed = np.concatenate(found)
    return np.asarray(crossed[np.unique(np.round(crossed / half, 7), axis=0, return_index=True)[1]])


def mirrored(mesh: Mesh) -> Mesh:
    """The whole section of one half: the other is its image in the middle plane."""
    points, count = mesh.points, len(mesh.points)
    middle = points[:, 0] < 1e-12
    image = np.empty(count, dtype=np.int64)
    image[middle] = np.flatnonzero(middle)
    image[~middle] = count + np.arange((~middle).sum())
    other = points[~middle] * np.array([-1.0, 1.0])
    triangles = image[mesh.triangles][:, ::-1]
    return Mesh(np.concatenate([points, other]), np.concatenate([mesh.triangles, triangles]), np.tile(mesh.stratum, 2))
