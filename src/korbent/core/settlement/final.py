"""Final settlement of one rigid base on layered ground, each stratum by its own law."""

from dataclasses import dataclass

import numpy as np

from korbent.core.ground.profile import Profile, against, effective_stress, parameter
from korbent.core.model.ground import Backfill
from korbent.core.settlement.boussinesq import CHARACTERISTIC, displacement_below, stress_below
from korbent.core.settlement.compression import oedometer_strain
from korbent.core.working import Array

SUBLAYERS = 16
GRADING = np.linspace(0.0, 1.0, SUBLAYERS + 1) ** 1.5
SEARCH = np.linspace(0.0, 1.0, 81) ** 2

NEEDED = {
    "elastic": ("modulus",),
    "oedometer": ("compression_index", "recompression_index", "void_ratio"),
    "none": (),
}


@dataclass(frozen=True)
class Settlement:
    """Results of shape (candidates, situations), m, unless said otherwise."""

    total: Array
    by_stratum: Array
    """Shape (candidates, situations, strata), m."""
    middle: Array
    """Settlement of the middle of a flexible base, m."""
    influence: Array
    """Depth below the base to which strata are counted, m."""
    end_ratio: Array
    """Added stress over effective stress where the profile ends; above the limit, the profile is too shallow."""


def added_ratio(
    depth: Array, q: Array, B: Array, L: Array, before: Array, at: float = CHARACTERISTIC
) -> Array:
    """Added stress over the effective stress before loading."""
    ratio: Array = q * stress_below(B, L, depth, at) / np.maximum(before, 0.1)
    return ratio


def final_settlement(
    profile: Profile,
    backfill: Backfill,
    q: Array,
    B: Array,
    L: Array,
    founding: Array,
    water: Array,
    limit: float,
) -> Settlement:
    """Settlement of a rigid base under the net pressure ``q``, by strata down to the influence depth.

    Rigid: the flexible base at its characteristic point. Stress increase by Boussinesq. Strata with E'
    compress by Hooke's law with three stresses (Steinbrenner's displacements), those with oedometer indices
    by e-log p, each cut into graded sublayers. The influence depth is where the added stress falls to
    ``limit`` times the effective stress before loading.

    Args:
        q: kPa, shape (candidates, situations).
        B, L, founding: m, shape (candidates, 1).
        water: m, shape (situations,) or (candidates, situations).
    """
    q = np.maximum(q, 0.0)
    depth_known = np.maximum(founding - profile.end[..., None], 1e-6)
    influence, end_ratio = _influence(profile, backfill, q, B, L, founding, water, limit, depth_known)
    if profile.rigid_below:
        end_ratio = np.zeros_like(end_ratio)

    # boundaries (candidates, situations, strata, sublayers + 1) as depths below the base
    top = np.clip(founding[..., None] - against(profile.top, founding), 0.0, influence[..., None])
    bottom = np.clip(founding[..., None] - against(profile.bottom, founding), 0.0, influence[..., None])
    edges = top[..., None] + (bottom - top)[..., None] * GRADING
    Bx, Lx, zx, wx = (v[..., None, None] for v in (B, L, founding, water))
    qx = q[..., None, None]

    def law(name: str) -> Array:
        return parameter(profile, name)[:, None]

    elastic = np.array([s.compression == "elastic" for s in profile.soils])
    oedometer = np.array([s.compression == "oedometer" for s in profile.soils])
    E = np.where(elastic, parameter(profile, "modulus"), 1.0)
    E = np.where(E > 0.0, E, 1.0)[:, None]
    nu = law("poisson")
    mid = (edges[..., 1:] + edges[..., :-1]) / 2
    thickness = np.diff(edges, axis=-1)
    before = effective_stress(profile, backfill, profile.existing_at(mid), zx - mid, wx)
    totals = []
    for at in (CHARACTERISTIC, 0.0):
        by_stratum = np.zeros((*q.shape, len(profile.soils)))
        if elastic.any():
            u = displacement_below(Bx, Lx, edges[..., [0, -1]], nu, at)
            by_stratum += np.where(elastic, (qx * (u[..., 1:] - u[..., :1]) / E)[..., 0], 0.0)
        if oedometer.any():
            added = qx * stress_below(Bx, Lx, mid, at)
            strain = oedometer_strain(
                before, added, before * law("overconsolidation_ratio"), law("compression_index"),
                law("recompression_index"), law("void_ratio"),
            )  # fmt: skip
            by_stratum += np.where(oedometer, (strain * thickness).sum(axis=-1), 0.0)
        totals.append(by_stratum)
    by_stratum, middle = totals
    return Settlement(by_stratum.sum(-1), by_stratum, middle.sum(-1), influence, end_ratio)


def _influence(
    profile: Profile, backfill: Backfill, q: Array, B: Array, L: Array, founding: Array, water: Array,
    limit: float, known: Array,
) -> tuple[Array, Array]:  # fmt: skip
    """(influence depth in m, ratio of stresses at the end of the profile), both (candidates, situations)."""
    depth = known[..., None] * SEARCH
    level = founding[..., None] - depth
    before = effective_stress(profile, backfill, profile.existing_at(level), level, water[..., None])
    ratio = added_ratio(depth, q[..., None], B[..., None], L[..., None], before)
    above = ratio > limit
    last = np.maximum(ratio.shape[-1] - 1 - np.argmax(above[..., ::-1], axis=-1), 0)
    following = np.minimum(last + 1, ratio.shape[-1] - 1)
    depth = np.broadcast_to(depth, ratio.shape)

    def at(values: Array, index: Array) -> Array:
        return np.take_along_axis(values, index[..., None], axis=-1)[..., 0]

    r0, r1, d0, d1 = at(ratio, last), at(ratio, following), at(depth, last), at(depth, following)
    gap = np.where(r0 > r1, r0 - r1, 1.0)
    found = np.where(r0 > r1, d0 + (d1 - d0) * np.clip((r0 - limit) / gap, 0.0, 1.0), d0)
    return np.where(above.any(axis=-1), found, 0.0), ratio[..., -1]
