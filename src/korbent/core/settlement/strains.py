"""How cells strain under their effective stress, by the law of their soil; average degree and immediate part."""

from collections.abc import Callable, Sequence

import numpy as np

from korbent.core.ground.profile import Profile
from korbent.core.model.settings import Settings
from korbent.core.settlement.boussinesq import CHARACTERISTIC, displacement_below, stress_below
from korbent.core.settlement.laws import (
    confined,
    embedment_factor,
    fox,
    skempton_bjerrum,
    strain_influence,
    time_factor,
)
from korbent.core.settlement.loadings import LoadedBase, Loading
from korbent.core.working import Array

Law = Callable[[Array, Array, Array], Array]
"""Strain (times, cells) from the effective stress that is added, the shares of the steps, and the total stress that is added."""


def sides_of(base: LoadedBase) -> tuple[Array, Array]:
    """The shorter and the longer side, m; 1 m for a mark, which has none."""
    return np.array(min(base.B, base.L) or 1.0), np.array(max(base.B, base.L) or 1.0)


def embedded(base: LoadedBase, poisson: float, settings: Settings) -> float:
    """The share of the elastic settlement at the surface that is left at the depth of the base."""
    if settings.settlement_embedment != "Fox 1948":
        return 1.0
    return float(fox(np.array(base.B), np.array(base.L), np.array(base.embedment), np.array(poisson)))


def law_of(
    profile: Profile, stratum: Array, base: LoadedBase, own: int | None, loadings: list[Loading], levels: Array, before: Array, settings: Settings,
    at_base: Array, years: Array,
) -> Law:  # fmt: skip
    """The strain of every cell by the law of its stratum.

    Strata with E' under the base itself strain by Hooke's law with three stresses (Steinbrenner), under other loads without
    sideways strain; while they consolidate, in proportion to the effective part of the stress. ``at_base`` is the effective stress before
    loading at the base and at the peak of the strain influence, ``years`` the times: one row alone is at the last of them. Oedometer strata follow e-log p with the
    greatest effective stress of their past: what is taken off again swells along Cr.
    """
    soils = [profile.soils[i] for i in stratum]
    middle = (levels[1:] + levels[:-1]) / 2
    thickness = levels[:-1] - levels[1:]
    depth = base.level - middle

    def values(name: str, otherwise: float = 0.0) -> Array:
        return np.array(
            [getattr(s, name) if getattr(s, name) is not None else otherwise for s in soils], dtype=float
        )

    kinds = np.array([s.compression for s in soils])
    oedometer, by_mv = kinds == "oedometer", kinds == "mv"
    elastic, influenced = kinds == "elastic", kinds == "strain influence"
    E = np.where(elastic | influenced, values("modulus", 1.0), 1.0)
    nu = values("poisson")
    Cc, Cr, e0 = values("compression_index"), values("recompression_index"), values("void_ratio")
    yielded = np.maximum(before, 0.1) * values("overconsolidation_ratio", 1.0)
    first = np.maximum(before, 0.1)
    own_unit = np.zeros(len(middle))
    changes = np.diff(
        np.array([0.0] + [float(loading.pressure[own]) if own is not None else 0.0 for loading in loadings])
    )
    own_stress = np.zeros(len(middle))
    if own is not None:
        B, L = np.array(base.B), np.array(base.L)
        edges = base.level - levels
        own_stress = stress_below(B, L, depth, CHARACTERISTIC)
        for value in np.unique(nu[elastic]) if elastic.any() else ():
            u = displacement_below(B, L, edges, np.array(value), CHARACTERISTIC) * embedded(
                base, value, settings
            )
            own_unit = np.where(elastic & (nu == value), np.diff(u) / thickness / E, own_unit)
    less = np.ones(len(middle))
    coefficient = values("pore_pressure_coefficient", np.nan)
    if own is not None and np.isfinite(coefficient).any():
        radius = np.array(np.sqrt(base.B * base.L / np.pi))
        less = np.where(
            np.isfinite(coefficient), skempton_bjerrum(np.nan_to_num(coefficient), depth, radius), 1.0
        )
    sideways = confined(E, nu)

    def strain(effective: Array, shares: Array, total: Array) -> Array:
        pressure = shares @ changes
        after = np.maximum(first + effective, 0.1)
        past = np.maximum.accumulate(np.maximum(after, yielded), axis=0)
        e_log_p = less * (Cr * np.log10(after / first) + (Cc - Cr) * np.log10(past / yielded)) / (1 + e0)
        part = np.where(np.abs(total) > 1e-9, effective / np.where(np.abs(total) > 1e-9, total, 1.0), 1.0)
        others = total - pressure[:, None] * own_stress
        hooke = (pressure[:, None] * own_unit + others * sideways) * part
        found = np.where(oedometer, e_log_p, 0.0) + np.where(
            by_mv, values("compressibility") / 1000 * effective, 0.0
        )
        found = found + np.where(elastic, hooke, 0.0)
        if influenced.any():
            q = np.maximum(pressure, 0.0)[:, None]
            shape = strain_influence(depth, *sides_of(base), q, at_base[1])
            slow = np.array([time_factor(float(t)) for t in years[-len(effective) :]])[:, None]
            under = embedment_factor(q, at_base[0]) * slow * q * shape / E
            found = found + np.where(influenced, (under + others * sideways) * part, 0.0)
        return found

    return strain


def by_average_degree(
    law: Law, total: Array, excess: Array, before: Array, stratum: Array, thickness: Array, shares: Array
) -> Array:
    """The simple alternative: the strain under the whole stress times the average degree of consolidation of the stratum."""
    found = law(total, shares, total)
    for k in np.unique(stratum):
        cells = stratum == k
        stress = (total[:, cells] * thickness[cells]).sum(axis=1)
        remaining = (excess[:, cells] * thickness[cells]).sum(axis=1)
        degree = np.where(
            np.abs(stress) > 1e-9, 1 - remaining / np.where(np.abs(stress) > 1e-9, stress, 1.0), 1.0
        )
        found[:, cells] *= degree[:, None]
    return found


def immediate_part(
    profile: Profile, stratum: Array, base: LoadedBase, own: int | None, loadings: Sequence[Loading], levels: Array, shares: Array, counted: Array
) -> Array:  # fmt: skip
    """Settlement at once of strata with an undrained modulus under the base itself, m, (times, strata)."""
    found = np.zeros((len(shares), len(profile.soils)))
    if own is None:
        return found
    pressure = shares @ np.diff(np.array([0.0] + [float(loading.pressure[own]) for loading in loadings]))
    edges = base.level - levels
    u = displacement_below(np.array(base.B), np.array(base.L), edges, np.array(0.5), CHARACTERISTIC)
    parts = np.diff(u) * counted
    for k, soil in enumerate(profile.soils):
        if soil.undrained_modulus and (stratum == k).any():
            found[:, k] = pressure * parts[stratum == k].sum() / soil.undrained_modulus
    return found
