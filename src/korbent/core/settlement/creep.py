"""Creep after the end of primary consolidation."""

from collections.abc import Sequence

import numpy as np

from korbent.core.ground.profile import Profile
from korbent.core.model.settings import Settings
from korbent.core.settlement.loadings import Loading
from korbent.core.working import Array


def creep_of(
    profile: Profile, stratum: Array, loadings: Sequence[Loading], times: Array, total: Array, excess: Array, before: Array, settings: Settings,
    strain: Array, thickness: Array,
) -> Array:  # fmt: skip
    """Strain by creep, (times, cells): C_alpha log10(t/t_p) from the end of primary of each loading on.

    Time counts from the middle of the ramp of the last step that loads the stratum; what crept before stays. Below the greatest stress of the
    past only a share of C_alpha acts.
    """
    found = np.zeros(total.shape)
    for k in np.unique(stratum):
        soil = profile.soils[k]
        if not soil.creep_index:
            continue
        cells = np.flatnonzero(stratum == k)
        after = before[cells] + total[:, cells] - excess[:, cells]
        past = np.maximum(before[cells] * soil.overconsolidation_ratio, np.maximum.accumulate(after, axis=0))
        again = (
            after < past * (1 - 1e-6)
            if soil.compression == "oedometer"
            else after < np.maximum.accumulate(after, axis=0) * (1 - 1e-6)
        )
        index = np.where(again, soil.creep_index * soil.creep_reload, soil.creep_index)
        grown = np.zeros((len(times), len(cells)))
        starts = _loading_starts(loadings, times, total[:, cells], before[cells])
        for number, (begin, end) in enumerate(starts):
            following = starts[number + 1][0] if number + 1 < len(starts) else np.inf
            primary = _end_of_primary(
                settings,
                begin,
                end,
                times,
                total[:, cells],
                excess[:, cells],
                strain[:, cells],
                thickness[cells],
            )
            since = times - begin
            active = (times > begin + primary) & (times <= following)
            decades = np.where(active, np.log10(np.maximum(since, 1e-9) / primary), 0.0)
            steps = np.diff(np.concatenate([[0.0], np.maximum(decades, 0.0)]))
            steps = np.where(active, np.maximum(steps, 0.0), 0.0)
            grown += steps[:, None] * index
        found[:, cells] = np.cumsum(grown, axis=0)
    return found


def _loading_starts(
    loadings: Sequence[Loading], times: Array, added: Array, before: Array
) -> list[tuple[float, float]]:
    """(middle of the ramp, its end) of the steps that load the stratum by more than a hundredth of its stress."""
    found = []
    level = float(before.mean())
    for loading in loadings:
        a, b = (float(np.interp(t, times, added.mean(axis=1))) for t in (loading.begins - 1e-6, loading.ends))
        if loading.begins <= 0:
            a = 0.0
        if b - a > 0.01 * level:
            found.append(((loading.begins + loading.ends) / 2, loading.ends))
    return found


def _end_of_primary(
    settings: Settings,
    begin: float,
    end: float,
    times: Array,
    total: Array,
    excess: Array,
    strain: Array,
    thickness: Array,
) -> float:
    """Days from ``begin`` to the end of primary by the rule of the settings, at least one."""
    least = max(end - begin, 1.0)
    if settings.creep_from == "typed":
        return max(settings.creep_days, least)
    later = times >= end
    if not later.any():
        return least
    if settings.creep_from == "remaining pressure":
        remaining = (np.abs(excess[later]) * thickness).sum(axis=1) / np.maximum(
            (np.abs(total[later]) * thickness).sum(axis=1), 1e-9
        )
        done = np.flatnonzero(remaining <= settings.creep_remaining)
        if not len(done):
            return max(float(times[-1] - begin), least)
        i = int(done[0])
        if i == 0:
            return max(float(times[later][0] - begin), least)
        t0, t1, r0, r1 = times[later][i - 1], times[later][i], remaining[i - 1], remaining[i]
        return max(
            float(t0 + (r0 - settings.creep_remaining) / max(r0 - r1, 1e-12) * (t1 - t0) - begin), least
        )
    # the steepest tangent over the logarithm of time meets the final value
    since = times[later] - begin
    settled = (strain[later] * thickness).sum(axis=1)
    some = since > 0
    x, y = np.log10(since[some]), settled[some]
    if len(x) < 3 or y[-1] - y[0] < 1e-9:
        return least
    slope = np.gradient(y, x)
    i = int(slope.argmax())
    return max(float(10 ** (x[i] + (y[-1] - y[i]) / slope[i])), least)
