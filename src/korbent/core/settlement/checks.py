"""The settlement check of a pad."""

import numpy as np

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, cannot
from korbent.core.geometry import PadGeometry
from korbent.core.ground.profile import missing, total_stress
from korbent.core.settlement.final import NEEDED, final_settlement
from korbent.core.working import Array, Recorder


def settlement_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Final settlement under the sustained combination."""
    situations = bench.situations("settlement long")
    if not len(situations):
        return [cannot("settlement", bench.no_combination("settlement long"))]
    bench = bench.on_ground()
    why = bench.why_not()
    if all(why):
        return [cannot("settlement", why[0])]
    assert bench.profile is not None
    g, settings, profile = bench.geometry, bench.settings, bench.profile
    lacking = _lacking_for_settlement(bench)
    if all(lacking):
        return [cannot("settlement", lacking[0])]
    forces = bench.forces(situations, record)
    water = np.minimum(situations.water_level, profile.existing_at(g.underside))
    before = total_stress(
        profile, bench.ground.backfill, profile.existing_at(g.underside), g.underside, water
    )
    B, L = equal_rectangle(g)
    q = forces.V / g.area - before
    result = final_settlement(
        profile,
        bench.ground.backfill,
        q,
        B,
        L,
        g.underside,
        situations.water_level,
        settings.settlement_influence,
    )
    record(
        "sigma_v0",
        "",
        before,
        "kPa",
        note="total stress at the founding level before the excavation",
        needs="z_f",
    )
    record("q_net", "V/A - sigma_v0", q, "kPa", note="net pressure")
    record(
        "r_lim", "", settings.settlement_influence, "", note="influence depth: added over effective stress"
    )
    record(
        "z_i",
        "",
        result.influence,
        "m",
        "EN 1997-1 6.6.2(6)",
        "influence depth below the base",
        "q_net B L r_lim",
    )
    record(
        "s_0",
        "",
        result.middle * 1000,
        "mm",
        note="middle of a flexible base, for comparison",
        needs="q_net B L z_i",
    )
    shares = []
    for i, soil in enumerate(profile.soils):
        symbol = f"s_{i + 1}"
        how = {
            "elastic": "E′ and ν, Steinbrenner 1934",
            "oedometer": "e-log p, Boussinesq",
            "none": "not counted",
        }
        record(
            symbol,
            "",
            result.by_stratum[..., i] * 1000,
            "mm",
            how[soil.compression],
            soil.name,
            "q_net B L z_i",
        )
        shares.append(symbol)
    record(
        "s",
        " + ".join(shares),
        result.total * 1000,
        "mm",
        "characteristic point, Grasshoff 1955",
        "rigid base",
    )
    record("s_max", "", settings.settlement_limit * 1000, "mm", note="limit")
    ratio = result.total / settings.settlement_limit
    record("ratio", "s/s_max", ratio)
    shallow = result.end_ratio.max(axis=1) > settings.settlement_influence
    reasons = tuple(
        first or second or (
            f"the profile ends too early, at {known:+.2f} m, where the added stress is still "
            f"{100 * end:.0f} % of the effective stress: extend the borehole ({profile.place}) or mark it rigid below"
            if deep else ""
        )
        for first, second, deep, end, known in zip(
            why, lacking, shallow, result.end_ratio.max(axis=1), np.broadcast_to(profile.end, shallow.shape)
        )
    )  # fmt: skip

    def note(candidate: int, column: int) -> str:
        return f"influence depth {result.influence[candidate, column]:.1f} m"

    return [
        Outcome(
            CHECKS["settlement"], result.total * 1000, np.full_like(q, settings.settlement_limit * 1000), ratio,
            situations, forces.V <= 0.0, why_not=reasons, note=note, because="the base is lifted: nothing settles it",
        )
    ]  # fmt: skip


def equal_rectangle(geometry: PadGeometry) -> tuple[Array, Array]:
    """Sizes of the rectangle that settles for a base: a round one as the square of equal area."""
    if geometry.shape == "rectangle":
        return geometry.B, geometry.L
    side = np.sqrt(geometry.area)
    return side, side


def _lacking_for_settlement(bench: Bench) -> tuple[str, ...]:
    assert bench.profile is not None
    texts = []
    for index in bench.founding_stratum():
        parts = [missing(s, NEEDED[s.compression]) for s in bench.profile.soils[max(int(index), 0) :]]
        texts.append("; ".join(dict.fromkeys(p for p in parts if p)))
    return tuple(texts)
