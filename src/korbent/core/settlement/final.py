"""Final settlement of one rigid base on layered ground, each stratum by its own law."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from korbent.core.ground.profile import Profile, against, effective_stress, parameter
from korbent.core.model.ground import Backfill
from korbent.core.settlement.boussinesq import CHARACTERISTIC, displacement_below, stress_below
from korbent.core.settlement.laws import (
    confined,
    embedment_factor,
    fox,
    oedometer_strain,
    peak_depth,
    skempton_bjerrum,
    strain_influence,
    time_factor,
)
from korbent.core.working import Array

SUBLAYERS = 16
GRADING = np.linspace(0.0, 1.0, SUBLAYERS + 1) ** 1.5
SEARCH = np.linspace(0.0, 1.0, 81) ** 2

NEEDED = {
    "elastic": ("modulus",),
    "oedometer": ("compression_index", "recompression_index", "void_ratio"),
    "mv": ("compressibility",),
    "strain influence": ("modulus",),
    "none": (),
}
HOW = {
    "elastic": "E′ and ν, Steinbrenner 1934",
    "oedometer": "e-log p, Boussinesq",
    "mv": "mv, Boussinesq",
    "strain influence": "Schmertmann et al. 1978",
    "none": "not counted",
}
"""The law of a stratum, as it is named where its settlement is shown."""


@dataclass(frozen=True)
class Settlement:
    """Results of shape (candidates, situations), m, unless said otherwise."""

    total: Array
    by_stratum: Array
    """Shape (candidates, situations, strata), m."""
    immediate: Array
    """Part of it that comes at once, undrained (Eu), shape (candidates, situations), m."""
    middle: Array
    """Settlement of the middle of a flexible base, m."""
    influence: Array
    """Depth below the base to which strata are counted, m."""
    end_ratio: Array
    """Added stress over effective stress where the profile ends; above the limit, the profile is too shallow."""
    tilt_x: Array
    """Change of the settlement along x of the plan by what acts beside, m/m."""
    tilt_y: Array

    def row(self, candidate: int) -> "Settlement":
        """One candidate alone."""
        return Settlement(*(getattr(self, f)[candidate : candidate + 1].copy() for f in FIELDS))


FIELDS = ("total", "by_stratum", "immediate", "middle", "influence", "end_ratio", "tilt_x", "tilt_y")


def together(rows: Sequence[Settlement]) -> Settlement:
    """Candidates one after the other."""
    return Settlement(*(np.concatenate([getattr(row, f) for row in rows]) for f in FIELDS))


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
    beside: Callable[[Array], Array] | None = None,
    years: float = 50.0,
    primary: float = 365.0,
    embedment: Array | None = None,
    slopes: Callable[[Array], tuple[Array, Array]] | None = None,
) -> Settlement:
    """Settlement of a rigid base under the net pressure ``q``, by strata down to the influence depth.

    Rigid: the flexible base at its characteristic point. Stress increase by Boussinesq. Strata with E'
    compress by Hooke's law with three stresses (Steinbrenner's displacements), those with oedometer indices
    by e-log p, each cut into graded sublayers. The influence depth is where the added stress falls to
    ``limit`` times the effective stress before loading. Strata with an undrained modulus settle at once by
    Steinbrenner with nu = 0.5 besides. Those with a creep index creep by C_alpha log10(years/primary), below the greatest stress of
    the past by a share of it.

    Args:
        q: kPa, shape (candidates, situations).
        B, L, founding: m, shape (candidates, 1).
        water: m, shape (situations,) or (candidates, situations).
        beside: stress (kPa) that other loads add at levels of shape (candidates, situations, ...). Strata with E' take it
            without sideways strain.
        embedment: depth of the base below the ground, m, shape (candidates, 1): with it the elastic part under the base is
            reduced (Fox 1948).
        slopes: change of the stress ``beside`` along x and y of the plan, kPa/m, at levels as there.
    """
    q = np.maximum(q, 0.0)
    depth_known = np.maximum(founding - profile.end[..., None], 1e-6)
    influence, end_ratio = _influence(profile, backfill, q, B, L, founding, water, limit, depth_known, beside)
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
    by_modulus = np.array([s.compression in ("elastic", "strain influence") for s in profile.soils])
    E = np.where(by_modulus, parameter(profile, "modulus"), 1.0)
    E = np.where(E > 0.0, E, 1.0)[:, None]
    nu = law("poisson")
    mid = (edges[..., 1:] + edges[..., :-1]) / 2
    thickness = np.diff(edges, axis=-1)
    before = effective_stress(profile, backfill, profile.existing_at(mid), zx - mid, wx)
    others = np.zeros(mid.shape) if beside is None else np.maximum(beside(zx - mid), 0.0)
    compressible = np.array([s.compression == "mv" for s in profile.soils])
    influenced = np.array([s.compression == "strain influence" for s in profile.soils])
    at_once = np.array([bool(s.undrained_modulus) for s in profile.soils])
    Eu = np.where(at_once, parameter(profile, "undrained_modulus"), 1.0)
    bjerrum = np.array([s.pore_pressure_coefficient is not None for s in profile.soils])
    creeps = np.array([bool(s.creep_index) for s in profile.soils])
    # where every stratum follows Hooke's law, the stress at the sublayers is not asked for
    one_dimensional = bool(oedometer.any() or compressible.any() or creeps.any() or slopes is not None)
    totals, immediates, added_by = [], [], []
    for at in (CHARACTERISTIC, 0.0):
        by_stratum = np.zeros((*q.shape, len(profile.soils)))
        added = others + (qx * stress_below(Bx, Lx, mid, at) if one_dimensional else 0.0)
        added_by.append(added)
        if elastic.any():
            u = displacement_below(Bx, Lx, edges[..., [0, -1]], nu, at)
            if embedment is not None:
                u = u * fox(Bx, Lx, embedment[..., None, None], nu)
            by_stratum += np.where(elastic, (qx * (u[..., 1:] - u[..., :1]) / E)[..., 0], 0.0)
            if beside is not None:
                by_stratum += np.where(elastic, (others * confined(E, nu) * thickness).sum(axis=-1), 0.0)
        if oedometer.any():
            strain = oedometer_strain(
                before, added, before * law("overconsolidation_ratio"), law("compression_index"),
                law("recompression_index"), law("void_ratio"),
            )  # fmt: skip
            if bjerrum.any():
                radius = np.sqrt(Bx * Lx / np.pi)
                less = skempton_bjerrum(law("pore_pressure_coefficient"), mid, radius)
                strain = strain * np.where(bjerrum[:, None], less, 1.0)
            by_stratum += np.where(oedometer, (strain * thickness).sum(axis=-1), 0.0)
            yielded = before + added > before * law("overconsolidation_ratio")
        else:
            yielded = np.ones(mid.shape, dtype=bool)
        if creeps.any():
            decades = np.log10(max(years * 365.25 / primary, 1.0))
            slow = np.where(yielded, 1.0, law("creep_reload")) * law("creep_index") * decades
            loaded = added > 0.01 * before
            by_stratum += (np.where(loaded, slow, 0.0) * thickness).sum(axis=-1)
        if compressible.any():
            by_stratum += np.where(
                compressible, (law("compressibility") / 1000 * added * thickness).sum(axis=-1), 0.0
            )
        if influenced.any():
            short, long = np.minimum(Bx, Lx), np.maximum(Bx, Lx)
            level = zx - peak_depth(short, long) * np.ones(qx.shape)
            at_peak = effective_stress(profile, backfill, profile.existing_at(level), level, wx)
            beside_base = effective_stress(profile, backfill, profile.existing_at(founding), founding, water)[
                ..., None, None
            ]
            factors = embedment_factor(qx, beside_base) * time_factor(years)
            strain = factors * qx * strain_influence(mid, short, long, qx, at_peak) / E
            strain = np.where(qx > 0, strain, 0.0) + others * confined(E, nu)
            by_stratum += np.where(influenced, (strain * thickness).sum(axis=-1), 0.0)
        now = np.zeros(by_stratum.shape)
        if at_once.any():
            u = displacement_below(Bx, Lx, edges[..., [0, -1]], np.full_like(nu, 0.5), at)
            if embedment is not None:
                u = u * fox(Bx, Lx, embedment[..., None, None], np.full_like(nu, 0.5))
            now = np.where(at_once, (qx * (u[..., 1:] - u[..., :1]))[..., 0] / Eu, 0.0)
        totals.append(by_stratum + now)
        immediates.append(now.sum(axis=-1))
    by_stratum, middle = totals
    tilts = [np.zeros(q.shape), np.zeros(q.shape)]
    if slopes is not None:
        # how much more each sublayer would be compressed by a little more stress, as it is in the end
        after = before + added_by[0]
        index = np.where(
            after > before * law("overconsolidation_ratio"),
            law("compression_index"),
            law("recompression_index"),
        )
        yielding = np.where(
            oedometer[:, None], index / (1 + law("void_ratio")) / np.log(10) / np.maximum(after, 0.1), 0.0
        )
        yielding = yielding + np.where(by_modulus[:, None], confined(E, nu), 0.0)
        yielding = yielding + np.where(compressible[:, None], law("compressibility") / 1000, 0.0)
        tilts = [(yielding * slope * thickness).sum(axis=(-1, -2)) for slope in slopes(zx - mid)]
    return Settlement(
        by_stratum.sum(-1), by_stratum, immediates[0], middle.sum(-1), influence, end_ratio, *tilts
    )


def _influence(
    profile: Profile, backfill: Backfill, q: Array, B: Array, L: Array, founding: Array, water: Array,
    limit: float, known: Array, beside: Callable[[Array], Array] | None = None,
) -> tuple[Array, Array]:  # fmt: skip
    """(influence depth in m, ratio of stresses at the end of the profile), both (candidates, situations)."""
    depth = known[..., None] * SEARCH
    level = founding[..., None] - depth
    before = effective_stress(profile, backfill, profile.existing_at(level), level, water[..., None])
    ratio = added_ratio(depth, q[..., None], B[..., None], L[..., None], before)
    if beside is not None:
        ratio = ratio + np.maximum(beside(level), 0.0) / np.maximum(before, 0.1)
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
