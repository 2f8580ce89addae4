"""A strap as two stiff bases on springs with an elastic beam between them: what plates come to that do not bend."""

from dataclasses import dataclass

import numpy as np

from korbent.core.actions.base_forces import loads_of_all
from korbent.core.actions.situations import Situations
from korbent.core.actions.tied import Tie, direction, in_plan, middle_of, moved, size_along
from korbent.core.bench import Bench
from korbent.core.concrete.modulus import elastic_modulus
from korbent.core.geometry import PadGeometry, pad_geometry, table
from korbent.core.plates.element import SHEAR
from korbent.core.straps.checks import strap_weight
from korbent.core.working import Array


@dataclass(frozen=True)
class Pair:
    """Two bases and the beam between them, along the beam from the middle of the first, (situations,) where it says
    so."""

    apart: float
    """Of the middles, m."""
    sizes: tuple[float, float]
    """Along the beam, m."""
    springs: tuple[float, float]
    """Of the bases, kN/m: modulus of subgrade reaction times area."""
    EI: float
    GA: float
    V: tuple[Array, Array]
    """What presses on each, kN, (situations,)."""
    M: tuple[Array, Array]
    """About its middle, kNm, (situations,); positive where the far side is pressed."""


@dataclass(frozen=True)
class Reactions:
    """Below both bases: force (kN) and moment about the middle (kNm), and the moments of the beam at both faces,
    (situations,)."""

    R: tuple[Array, Array]
    M: tuple[Array, Array]
    at_faces: tuple[Array, Array]
    """Sagging positive, kNm."""


def solved_pair(pair: Pair) -> Reactions:
    """Settlement and tilt of both bases: springs below them, a beam from face to face after Timoshenko (1921)."""
    a, b = pair.sizes[0] / 2, pair.sizes[1] / 2
    length = pair.apart - a - b
    phi = 12 * pair.EI / (pair.GA * length**2)
    c = pair.EI / (length**3 * (1 + phi))
    own = c * np.array(
        [
            [12, 6 * length, -12, 6 * length],
            [6 * length, (4 + phi) * length**2, -6 * length, (2 - phi) * length**2],
            [-12, -6 * length, 12, -6 * length],
            [6 * length, (2 - phi) * length**2, -6 * length, (4 + phi) * length**2],
        ]
    )
    # ends of the beam from the middles: a base does not bend
    ends = np.array([[1, a, 0, 0], [0, 1, 0, 0], [0, 0, 1, -b], [0, 0, 0, 1]], dtype=float)
    k1, k2 = pair.springs
    # an even bed of springs resists tilt by its second moment: size squared over 12
    ground = np.diag([k1, k1 * pair.sizes[0] ** 2 / 12, k2, k2 * pair.sizes[1] ** 2 / 12])
    loads = np.stack([pair.V[0], pair.M[0], pair.V[1], pair.M[1]])
    u = np.linalg.solve(ground + ends.T @ own @ ends, loads)
    below = ground @ u
    f = own @ (ends @ u)
    # the slope of the axis is positive downwards along the beam: a moment that turns an end so sags it at the first and hogs at the last
    return Reactions((below[0], below[2]), (below[1], below[3]), (f[1], -f[3]))


@dataclass(frozen=True)
class Tied:
    """The bases that a strap ties, and what their columns bring in all situations of concrete."""

    tie: Tie
    situations: Situations
    d: tuple[float, float]
    """From one column to the other in the plan."""
    other: PadGeometry
    V: tuple[Array, Array]
    """Of the columns, kN, (situations,)."""
    M: tuple[Array, Array]
    """Along the strap about the middles of the bases, kNm, (situations,)."""


def tied_by(bench: Bench) -> Tied:
    """Of the strap of a bench of one candidate, which is the base at the boundary."""
    tie = bench.stands[0].edge_tie
    assert tie is not None
    situations = bench.situations("concrete")
    first, far = bench.points[0], tie.points[0]
    other = pad_geometry([tie.partner], [far], np.zeros(1, dtype=int), table(tie.partner))
    plan = in_plan(bench.untied(situations), first)
    turned = moved(bench.geometry, bench.standing[0], plan, situations.cases, tie)
    own = (situations.factors @ plan)[0, :, 0]
    theirs = (situations.factors @ in_plan(loads_of_all(tie.points, situations.cases), far))[:, 0]
    moments = (turned.own @ situations.factors.T)[0], (turned.others @ situations.factors.T)[0]
    return Tied(tie, situations, direction(first, far), other, (own, theirs), moments)


def pair_of(bench: Bench, k: tuple[float, float]) -> Pair:
    """The two bases that the strap of a bench of one candidate ties.

    Args:
        k: modulus of subgrade reaction below each, kN/m3.
    """
    tied = tied_by(bench)
    tie, situations, d, other = tied.tie, tied.situations, tied.d, tied.other
    (x, y), (px, py) = middle_of(bench.geometry), middle_of(other)
    apart = float(((px - x) * d[0] + (py - y) * d[1])[0, 0])
    near, there = (np.ravel(situations.weight * w) for w in strap_weight(bench, tie))
    strap, E = tie.strap, elastic_modulus(bench)
    b, h = strap.width, strap.depth
    areas = float(bench.geometry.area[0, 0]), float(other.area[0, 0])
    return Pair(
        apart,
        (float(size_along(bench.geometry, d)[0, 0]), float(size_along(other, d)[0, 0])),
        (k[0] * areas[0], k[1] * areas[1]),
        E * b * h**3 / 12,
        SHEAR * E / 2.4 * b * h,
        (tied.V[0] + near, tied.V[1] + there),
        tied.M,
    )
