"""All that a strip bears of V, H and M at once: rays in a plane of them, bounds along each, and what follows between
the rays.

What is borne is convex. So the hull of loads that a lower bound carries is carried, and beyond the line on which the
motion of an upper bound does the work of its collapse load nothing is."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

import numpy as np

from korbent.core.plasticity.section import Load, Section

Plane = Literal["V-M", "V-H", "H-M"]
Vector = tuple[float, float, float]
RAYS = 12
"""Spaces between the rays of a quarter (V with M or H), or of a half (H with M)."""
ASPECT = {"V-M": 0.12, "V-H": 0.3}
"""Of M/B and of H over V on the middle ray."""


def rays(plane: Plane, B: float, V: float, both: bool = False) -> tuple[Load, ...]:
    """Loads that grow along each ray. V with M or H: a quarter, from V alone to M or H alone; the other follows by
    mirror image. H with M: V is held, a half, from H over M against it to H the other way; the other half follows.

    Args:
        B: width, m.
        V: what is held with H and M, kN/m.
        both: also those of the other half, where no mirror image bears as much: beside a slope.
    """
    if both:
        own = rays(plane, B, V)
        other = [Load((g[0], -g[1], -g[2]), held) for g, held in ((r.growing, r.held) for r in own)]
        return (*other[::-1], *own) if plane == "H-M" else (*other[:0:-1], *own)
    angles = np.arange(RAYS + 1) * np.pi / (2 * RAYS)
    if plane == "V-M":
        return tuple(Load((float(np.cos(a)), 0.0, float(np.sin(a)) * ASPECT[plane] * B)) for a in angles)
    if plane == "V-H":
        return tuple(Load((float(np.cos(a)), float(np.sin(a)) * ASPECT[plane], 0.0)) for a in angles)
    return tuple(Load((0.0, float(np.cos(2 * a)), float(np.sin(2 * a)) * B / 2), (V, 0.0, 0.0)) for a in angles[:-1])


def along(section: Section, load: Load) -> Section:
    """The section with a load on all of its base, which holds nothing that would lift off."""
    return replace(section, load=load, underside=replace(section.underside, tension=False))


def mirrored(plane: Plane, point: Vector) -> Vector:
    """The same load from the other side: on level ground it bears as much."""
    V, H, M = point
    return V, -H, -M


def carried(load: Load, factor: float) -> Vector:
    """V, H, M at a factor of what grows."""
    V, H, M = (a + factor * b for a, b in zip(load.held, load.growing))
    return V, H, M


AXES = {"V-M": (2, 0), "V-H": (1, 0), "H-M": (1, 2)}
"""Which of V, H, M goes across and which up."""


def hull(plane: Plane, points: Sequence[Vector], level: bool = True) -> list[tuple[float, float]]:
    """The outline of what certainly is carried, across and up, from loads that are, and (on ``level`` ground) their
    mirror images. No load at all is not among
    them: beside a surcharge, ground without cohesion does not stand below a base that does not press."""
    from scipy.spatial import ConvexHull, QhullError

    i, j = AXES[plane]
    flat = [(p[i], p[j]) for one in points for p in ((one, mirrored(plane, one)) if level else (one,))]
    if len(flat) < 3:
        return []
    own = np.unique(np.round(np.array(flat), 9), axis=0)
    try:
        return [(float(x), float(y)) for x, y in own[ConvexHull(own).vertices]]
    except (QhullError, ValueError):
        return []


def beyond(plane: Plane, points: Sequence[tuple[Vector, Vector]], level: bool = True) -> list[tuple[float, float]]:
    """The outline beyond which certainly nothing is carried: every (collapse load, motion) of an upper bound cuts off
    what does more work; on ``level`` ground also from the other side."""
    i, j = AXES[plane]
    other = [(mirrored(plane, p), mirrored(plane, m)) for p, m in points] if level else []
    both = [*points, *other]
    far = 3 * max((abs(p[k]) for p, _ in both for k in (i, j)), default=0.0) + 1e-9
    ring = [(-far, -far if plane == "H-M" else 0.0), (far, -far if plane == "H-M" else 0.0), (far, far), (-far, far)]
    for p, m in both:
        a, b = m[i], m[j]
        ring = cut(ring, a, b, a * p[i] + b * p[j])
    return ring


def cut(ring: list[tuple[float, float]], a: float, b: float, most: float) -> list[tuple[float, float]]:
    """The part of a convex ring where a x + b y <= most."""
    kept = []
    for one, two in zip(ring, [*ring[1:], *ring[:1]]):
        d1, d2 = a * one[0] + b * one[1] - most, a * two[0] + b * two[1] - most
        if d1 <= 0:
            kept.append(one)
        if d1 * d2 < 0:
            share = d1 / (d1 - d2)
            kept.append((one[0] + share * (two[0] - one[0]), one[1] + share * (two[1] - one[1])))
    return kept
