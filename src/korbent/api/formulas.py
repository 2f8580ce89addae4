"""Single formulas: bearing resistance, contact, stress, flexure, shear."""

from collections.abc import Mapping
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from korbent.core.bearing.methods import METHODS, Footing
from korbent.core.concrete.flexure import required_steel
from korbent.core.concrete.standards.protocol import ConcreteStandard
from korbent.core.concrete.standards.registry import NAMES, standard_of
from korbent.core.contact.circle import linear_no_tension_round
from korbent.core.contact.rectangle import linear_no_tension
from korbent.core.model.settings import Settings
from korbent.core.settlement.stress.rectangle import rectangle_stress
from korbent.core.working import SILENT, Recording
from korbent.words import say

Array = NDArray[Any]

BEARING_METHODS = tuple(METHODS)
"""Names of the methods of bearing resistance."""

CONCRETE_STANDARDS = NAMES
"""Names of the standards of concrete."""


class Bearing(NamedTuple):
    """Ultimate resistance on the effective area."""

    pressure: Array
    """kPa."""
    slides: Array
    """Whether the horizontal force alone is too great for it."""
    values: Mapping[str, Array]
    """What it was made of, by symbol: N_q, N_c, N_gamma, s_q, d_q, i_q ... as far as the method has them."""


def bearing(
    method: str,
    *,
    B: ArrayLike,
    L: ArrayLike,
    overburden: ArrayLike,
    weight: ArrayLike,
    friction_angle: ArrayLike = 0.0,
    cohesion: ArrayLike = 0.0,
    depth: ArrayLike = 0.0,
    N: ArrayLike = 1.0,
    H_B: ArrayLike = 0.0,
    H_L: ArrayLike = 0.0,
    tilt: float = 0.0,
    slope: float = 0.0,
) -> Bearing:
    """The bearing resistance by one method; without friction the undrained one, ``cohesion`` being the undrained
    strength.

    Args:
        method: one of BEARING_METHODS. B, L: effective sizes, B the shorter, m. depth: of the founding level, m.
        overburden: stress beside the base, kPa.
        weight: effective unit weight below the base, kN/m3. N, H_B, H_L: forces, H along B and along L, kN.
        tilt, slope: of the underside, and of the ground falling away beside it, degrees.

    Raises:
        ValueError: for another method, or friction in some values only.
    """
    if method not in METHODS:
        raise ValueError(say("{method!r} is no method: {methods}", method=method, methods=", ".join(METHODS)))
    phi = np.deg2rad(np.asarray(friction_angle, dtype=float))
    if phi.any() and not phi.all():
        raise ValueError(say("friction angles are all above zero (drained) or all zero (undrained)"))

    def a(value: ArrayLike) -> Array:
        return np.asarray(value, dtype=float)

    base = Footing(
        N=a(N),
        H_B=a(H_B),
        H_L=a(H_L),
        B=a(B),
        L=a(L),
        depth=a(depth),
        cohesion=a(cohesion),
        phi=phi,
        overburden=a(overburden),
        weight=a(weight),
        tilt=np.deg2rad(tilt),
        slope=np.deg2rad(slope),
    )
    recording = Recording()
    found = (METHODS[method].drained if phi.any() else METHODS[method].undrained)(base, recording)
    values = {step.symbol: np.asarray(step.value, dtype=float) for step in recording.steps if not step.labels}
    return Bearing(np.asarray(found.pressure), np.asarray(found.slides), values)


class Pressed(NamedTuple):
    """Linear pressure without tension under a rigid base: p = a + b x + c y, cut off at zero."""

    a: Array
    b: Array
    c: Array
    share: Array
    """Of the base in contact."""
    peak: Array
    """kPa."""
    stable: Array
    """The resultant presses down within the base; elsewhere all values are zero."""


def contact(
    N: ArrayLike,
    M_x: ArrayLike,
    M_y: ArrayLike,
    *,
    B: ArrayLike,
    L: ArrayLike | None = None,
    hole: ArrayLike = 0.0,
) -> Pressed:
    """The pressure under a rectangle B x L, or without L under a circle of the diameter B, a ring with a hole.

    Args:
        N: down, kN. M_x, M_y: right-handed, at the middle, kNm. B, L, hole: m.
    """
    arrays = np.broadcast_arrays(*(np.asarray(v, dtype=float) for v in (N, M_x, M_y, B, B if L is None else L, hole)))
    n, mx, my, b, length, inner = (np.atleast_2d(v) for v in arrays)
    shape = arrays[0].shape
    if L is not None:
        found = linear_no_tension(n, mx, my, b, length)
        parts = (found.a, found.b, found.c, found.share, found.peak, found.stable)
    else:
        around = linear_no_tension_round(n, np.hypot(mx, my), b / 2, inner / 2)
        size = np.maximum(np.hypot(mx, my), 1e-300)
        cosine, sine = my / size, -mx / size
        parts = (
            around.a,
            around.b * cosine,
            around.b * sine,
            around.share,
            around.a + around.b * b / 2,
            around.stable,
        )
    return Pressed(*(np.broadcast_to(part, n.shape).reshape(shape) for part in parts))


def stress_below(
    pressure: ArrayLike, B: ArrayLike, L: ArrayLike, *, z: ArrayLike, x: ArrayLike = 0.0, y: ArrayLike = 0.0
) -> Array:
    """Vertical stress (kPa) below a uniformly loaded rectangle at (x, y) from its middle and the depth z, m (Boussinesq
    1885)."""
    parts = np.broadcast_arrays(*(np.asarray(v, dtype=float) for v in (x, y, B, L, z)))
    found: Array = np.asarray(pressure) * rectangle_stress(*(np.atleast_1d(p) for p in parts)).reshape(parts[0].shape)
    return found


def _standard(name: str) -> ConcreteStandard:
    found = standard_of(name, Settings())
    if found is None:
        raise ValueError(say("{name!r} is no standard: {names}", name=name, names=", ".join(NAMES)))
    return found


def flexural_steel(standard: str, moment: ArrayLike, *, d: ArrayLike, f_c: float, f_y: float) -> tuple[Array, Array]:
    """(steel in mm2/m, moment over the greatest of a ductile section) for a moment per width, kNm/m, with the usual
    factors.

    Args:
        standard: one of CONCRETE_STANDARDS. d: effective depth, m. f_c, f_y: strengths, MPa.
    """
    rules, usual = _standard(standard), np.zeros(1, dtype=bool)
    fcd, fyd = rules.strengths(f_c, f_y, usual, SILENT)
    m, depth = np.asarray(moment, dtype=float), np.asarray(d, dtype=float)
    steel, used = required_steel(rules, m, depth, f_c, fcd, fyd, SILENT)
    shape = np.broadcast_shapes(m.shape, depth.shape)
    return np.asarray(steel).reshape(shape), np.asarray(used).reshape(shape)


def one_way_shear(standard: str, *, d: ArrayLike, f_c: float, steel_ratio: ArrayLike) -> Array:
    """Shear strength without links, MPa on width times effective depth, with the usual factors."""
    rules, depth = _standard(standard), np.asarray(d, dtype=float)
    found = rules.shear_strength(depth, f_c, np.asarray(steel_ratio, dtype=float), np.zeros(1, dtype=bool), SILENT)
    return np.asarray(found).reshape(np.broadcast_shapes(depth.shape, np.shape(steel_ratio)))
