"""Soil parameters from field and index tests, by published correlations.

Each correlation names its source and the range for which it was given, of the test or of what its source limits, as
(N1)60; outside, and where the result is not plausible, it still gives a value, marked. Stresses in kPa; qc in MPa; phi'
in degrees; E' and cu in kPa; PI, wL, w in percent."""

import bisect
import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from korbent.core.cache import Cache, remembered
from korbent.core.ground.profile import (
    DRY,
    effective_stress,
    pore_pressure,
    profile_at,
    profile_of,
    strata_of,
)
from korbent.core.model.ground import Borehole, Ground, GroundTest, TestKind
from korbent.core.working import Array
from korbent.words import say

ATMOSPHERE = 100.0
"""Reference pressure pa, kPa."""


@dataclass(frozen=True)
class State:
    """Stresses at a test, kPa, the energy ratio of the SPT hammer (percent), and what was measured at the same
    depth."""

    total: float
    effective: float
    energy: float = 60.0
    depth: float = 10.0
    """Below the ground level, m."""
    fs: float | None = None
    """Sleeve friction of a cone there, kPa."""
    u2: float | None = None
    """Pore pressure behind a cone there, kPa."""
    area_ratio: float = 0.8
    """Net area ratio of the cone."""


@dataclass(frozen=True)
class Correlation:
    """One published relation from a test to a soil parameter (a field of Soil)."""

    gives: str
    kind: TestKind
    source: str
    formula: str
    function: Callable[[float, State], float]
    low: float
    high: float
    limits: str = ""
    """What has that range, where it is not the value of the test: (N1)60, depth, Ic."""

    def outside(self, value: float, state: State) -> str:
        """Why a test is not one that the source is for; '' where it is."""
        limited = LIMITED[self.limits](value, state) if self.limits else value
        if limited is not None and self.low <= limited <= self.high:
            return ""
        name = self.limits or self.kind
        text = say("not known") if limited is None else f"{limited:.3g}"
        return say("{name} {text} is outside {low:g} to {high:g}", name=name, text=text, low=self.low, high=self.high)


def n60(n: float, state: State) -> float:
    """SPT blow count at 60 % energy (Skempton 1986; rod and borehole corrections taken as 1)."""
    return n * state.energy / 60.0


def overburden_factor(effective: float) -> float:
    """C_N = sqrt(pa / sigma'v0), at most 1.7 (Liao and Whitman 1986, cap of Youd et al. 2001)."""
    return min(math.sqrt(ATMOSPHERE / max(effective, 1.0)), 1.7)


def n1_60(n: float, state: State) -> float:
    """(N1)60: N60 normalised to an effective overburden of 100 kPa."""
    return n60(n, state) * overburden_factor(state.effective)


def corrected(q: float, state: State) -> float:
    """q_t = q_c + u_2 (1 - a), MPa (Lunne, Robertson and Powell 1997); q_c where no pore pressure was measured."""
    return q + (state.u2 or 0.0) * (1 - state.area_ratio) / 1000


def cone_index(q: float, state: State) -> float | None:
    """I_c at a cone test; None without sleeve friction there."""
    found = behaviour(corrected(q, state), state.fs, state) if state.fs else None
    return found[0] if found else None


LIMITED: dict[str, Callable[[float, State], float | None]] = {
    "(N1)60": lambda n, s: n1_60(n, s),
    "depth": lambda _, s: s.depth,
    "Ic": lambda q, s: cone_index(q, s),
}
"""What the range of a correlation may be of."""
PLAUSIBLE = {
    "friction_angle": (15.0, 48.0),
    "undrained_strength": (2.0, 800.0),
    "modulus": (200.0, 500_000.0),
    "compression_index": (0.005, 3.0),
    "recompression_index": (0.001, 0.6),
    "compressibility": (0.005, 10.0),
    "weight_saturated": (10.0, 25.0),
    "void_ratio": (0.2, 6.0),
}
"""Beyond these a result is marked, whatever it comes from (own choice)."""


def relative_density(n: float, state: State) -> float:
    """Dr (0 to 1) by (N1)60 = 60 Dr^2 (Skempton 1986)."""
    return min(math.sqrt(max(n1_60(n, state), 0.0) / 60.0), 1.0)


def _wolff(n: float, state: State) -> float:
    x = n1_60(n, state)
    return 27.1 + 0.3 * x - 0.00054 * x * x


def _schmertmann(n: float, state: State) -> float:
    ratio = n60(n, state) / (12.2 + 20.3 * state.effective / ATMOSPHERE)
    return math.degrees(math.atan(max(ratio, 0.0) ** 0.34))


def _robertson(q: float, state: State) -> float:
    return math.degrees(math.atan((math.log10(max(1000 * q / max(state.effective, 1.0), 1.0)) + 0.29) / 2.68))


def _kulhawy(q: float, state: State) -> float:
    normal = 1000 * q / ATMOSPHERE / math.sqrt(max(state.effective, 1.0) / ATMOSPHERE)
    return 17.6 + 11 * math.log10(max(normal, 1.0))


def _net(q: float, state: State) -> float:
    """q_t - sigma_v0, kPa."""
    return max(1000 * corrected(q, state) - state.total, 0.0)


def _constrained(q: float, state: State) -> float:
    """M of Robertson (2009), kPa: alpha_M (q_t - sigma_v0); alpha_M = Q_t up to 14 where I_c > 2.2, else 0.03 10^(0.55
    I_c + 1.68)."""
    index = cone_index(q, state)
    if index is None:
        return 0.0
    alpha = min(_net(q, state) / state.effective, 14.0) if index > 2.2 else 0.03 * 10 ** (0.55 * index + 1.68)
    return alpha * _net(q, state)


def _young(q: float, state: State) -> float:
    """E' of Robertson (2009), kPa: 0.015 10^(0.55 I_c + 1.68) (q_t - sigma_v0), at about 0.1 % strain."""
    index = cone_index(q, state)
    return 0.0 if index is None else 0.015 * 10 ** (0.55 * index + 1.68) * _net(q, state)


def _cone_weight(q: float, state: State) -> float:
    """gamma of Robertson and Cabal (2010): 0.27 log R_f + 0.36 log(q_t/pa) + 1.236, over that of water; R_f in
    percent."""
    qt = max(1000 * corrected(q, state), 1.0)
    ratio = max(100 * (state.fs or 0.0) / qt, 0.01)
    return 9.81 * (0.27 * math.log10(ratio) + 0.36 * math.log10(qt / ATMOSPHERE) + 1.236)


def _cubrinovski(n: float, state: State) -> float:
    # N78 of the Japanese hammer (78 % energy), grain size of a fine to medium sand
    n78 = n * state.energy / 78.0 * overburden_factor(state.effective)
    return min(100.0 * math.sqrt(max(n78, 0.0) * (0.23 + 0.06 / 0.2) ** 1.7 / 9.0), 100.0)


def _density_qc(q: float, state: State) -> float:
    normal = 1000 * q / ATMOSPHERE / (305.0 * math.sqrt(max(state.effective, 1.0) / ATMOSPHERE))
    return min(100.0 * math.sqrt(max(normal, 0.0)), 100.0)


ZONES: tuple[tuple[float, str], ...] = (
    (1.31, say("gravelly sand to dense sand")),
    (2.05, "sand"),
    (2.60, say("sand mixtures")),
    (2.95, say("silt mixtures")),
    (3.60, "clay"),
    (math.inf, "organic"),
)
"""Upper bound of I_c of each soil behaviour type (Robertson 1990, 2009)."""


def behaviour(qc: float, fs: float, state: State) -> tuple[float, str] | None:
    """I_c and the soil behaviour type (Robertson 1990, with I_c of Robertson and Wride 1998).

    Q = (qc - sigma_v0)/sigma'_v0, F = 100 fs/(qc - sigma_v0) in percent; None where qc does not exceed the overburden.

    Args:
        qc: MPa; fs: kPa.
    """
    net = 1000 * qc - state.total
    if net <= 0 or fs <= 0:
        return None
    Q, F = net / state.effective, 100 * fs / net
    index = math.hypot(3.47 - math.log10(Q), math.log10(F) + 1.22)
    return index, next(name for bound, name in ZONES if index <= bound)


PSEUDO_UNITS = {"relative_density": "%"}
"""What tests tell that is no parameter of a soil, with its unit."""


CORRELATIONS: tuple[Correlation, ...] = (
    Correlation(
        "friction_angle",
        "SPT N",
        say("Wolff 1989, after Peck, Hanson and Thornburn 1974"),
        "27.1 + 0.3 (N1)60 − 0.00054 (N1)60²",
        _wolff,
        2,
        60,
        "(N1)60",
    ),
    Correlation(
        "friction_angle",
        "SPT N",
        say("Hatanaka and Uchida 1996"),
        "20 + √(15.4 (N1)60)",
        lambda n, s: 20 + math.sqrt(15.4 * max(n1_60(n, s), 0.0)),
        3.5,
        30,
        "(N1)60",
    ),
    Correlation(
        "friction_angle",
        "SPT N",
        say("Kulhawy and Mayne 1990, after Schmertmann 1975"),
        "atan[(N60/(12.2 + 20.3 σ′v0/pa))^0.34]",
        _schmertmann,
        2,
        100,
        "depth",
    ),
    Correlation(
        "friction_angle",
        "CPT qc",
        say("Robertson and Campanella 1983"),
        "atan[(log(qc/σ′v0) + 0.29)/2.68]",
        _robertson,
        1,
        60,
    ),
    Correlation(
        "friction_angle",
        "CPT qc",
        say("Kulhawy and Mayne 1990"),
        say("17.6 + 11 log[(qc/pa)/√(σ′v0/pa)]"),
        _kulhawy,
        1,
        60,
    ),
    Correlation(
        "undrained_strength", "SPT N", say("Stroud 1974, f1 = 4.5"), "4.5 N60", lambda n, s: 4.5 * n60(n, s), 4, 60
    ),
    Correlation(
        "undrained_strength",
        "SPT N",
        say("Hara et al. 1974"),
        "29 N^0.72",
        lambda n, s: 29 * max(n, 0.0) ** 0.72,
        2,
        60,
    ),
    Correlation(
        "undrained_strength",
        "SPT N",
        say("Kulhawy and Mayne 1990, after Terzaghi and Peck"),
        "0.06 pa N",
        lambda n, s: 0.06 * ATMOSPHERE * n,
        2,
        30,
    ),
    Correlation(
        "undrained_strength",
        "CPT qc",
        say("Lunne, Robertson and Powell 1997, Nkt = 14"),
        "(qt − σv0)/14",
        lambda q, s: _net(q, s) / 14,
        0.1,
        5,
    ),
    Correlation(
        "undrained_strength",
        "PI",
        say("Skempton 1957, normally consolidated"),
        "(0.11 + 0.0037 PI) σ′v0",
        lambda i, s: (0.11 + 0.0037 * i) * s.effective,
        10,
        100,
    ),
    Correlation("undrained_strength", "cu", say("measured"), "cu", lambda c, s: c, 0, 1000),
    Correlation(
        "modulus", "SPT N", say("Stroud 1989, E′/N60 = 1 MPa"), "1000 N60", lambda n, s: 1000 * n60(n, s), 4, 60
    ),
    Correlation(
        "modulus",
        "SPT N",
        say("Bowles 1996, sand"),
        "500 (N55 + 15)",
        lambda n, s: 500 * (n60(n, s) * 60 / 55 + 15),
        5,
        60,
    ),
    Correlation(
        "modulus",
        "SPT N",
        say("Kulhawy and Mayne 1990, silty sand"),
        "5 pa N60",
        lambda n, s: 5 * ATMOSPHERE * n60(n, s),
        2,
        60,
    ),
    Correlation(
        "modulus", "CPT qc", say("Schmertmann, Hartman and Brown 1978"), "2.5 qc", lambda q, s: 2500 * q, 0.5, 40
    ),
    Correlation(
        "modulus",
        "CPT qc",
        say("Robertson 2009, E′ by Ic"),
        "0.015·10^(0.55 Ic + 1.68) (qt − σv0)",
        _young,
        1.0,
        2.6,
        "Ic",
    ),
    Correlation(
        "compressibility",
        "CPT qc",
        say("Robertson 2009, M by Ic"),
        "1/[αM (qt − σv0)]",
        lambda q, s: 1000 / max(_constrained(q, s), 1.0),
        1.0,
        4.0,
        "Ic",
    ),
    Correlation(
        "compressibility",
        "SPT N",
        say("Stroud 1974, f2 = 0.45 MPa"),
        "1/(0.45 N60)",
        lambda n, s: 1 / (0.45 * max(n60(n, s), 0.1)),
        4,
        60,
    ),
    Correlation(
        "friction_angle",
        "PI",
        say("Kulhawy and Mayne 1990, after Mitchell 1976, at constant volume"),
        say("asin(0.8 − 0.094 ln PI)"),
        lambda i, s: math.degrees(math.asin(min(max(0.8 - 0.094 * math.log(max(i, 1.0)), 0.0), 1.0))),
        5,
        100,
    ),
    Correlation(
        "weight_saturated",
        "CPT qc",
        say("Robertson and Cabal 2010"),
        say("γw (0.27 log Rf + 0.36 log(qt/pa) + 1.236)"),
        _cone_weight,
        1.0,
        4.0,
        "Ic",
    ),
    Correlation(
        "compression_index",
        "wL",
        say("Terzaghi and Peck 1967"),
        "0.009 (wL − 10)",
        lambda w, s: 0.009 * (w - 10),
        20,
        100,
    ),
    Correlation("compression_index", "w", say("Koppula 1981"), "0.01 w", lambda w, s: 0.01 * w, 15, 100),
    Correlation("compression_index", "PI", say("Kulhawy and Mayne 1990"), "PI/74", lambda i, s: i / 74, 5, 80),
    Correlation(
        "compression_index",
        "e0",
        say("Azzouz, Krizek and Corotis 1976"),
        "0.40 (e0 − 0.25)",
        lambda e, s: 0.40 * (e - 0.25),
        0.4,
        3.0,
    ),
    Correlation(
        "compression_index", "e0", say("Hough 1957"), "0.30 (e0 − 0.27)", lambda e, s: 0.30 * (e - 0.27), 0.4, 3.0
    ),
    Correlation("recompression_index", "PI", say("Kulhawy and Mayne 1990"), "PI/370", lambda i, s: i / 370, 5, 80),
    Correlation("friction_angle", "phi", say("measured"), "φ′", lambda p, s: p, 15, 50),
    Correlation("weight_saturated", "gamma", say("measured"), "γ", lambda g, s: g, 9, 30),
    Correlation(
        "recompression_index",
        "w",
        say("Kulhawy and Mayne 1990, Cr = Cc/5, after Koppula 1981"),
        "0.002 w",
        lambda w, s: 0.002 * w,
        15,
        100,
    ),
    Correlation(
        "recompression_index",
        "wL",
        say("Terzaghi and Peck 1967, Cr = Cc/5"),
        "0.0018 (wL − 10)",
        lambda w, s: 0.0018 * (w - 10),
        20,
        100,
    ),
    Correlation(
        "relative_density",
        "SPT N",
        say("Skempton 1986"),
        "100 √((N1)60/60)",
        lambda n, s: 100 * relative_density(n, s),
        8,
        60,
        "(N1)60",
    ),
    Correlation(
        "relative_density",
        "SPT N",
        say("Cubrinovski and Ishihara 1999, D50 = 0.2 mm"),
        "100 √((N1)78 (0.23 + 0.06/D50)^1.7/9)",
        _cubrinovski,
        3,
        60,
    ),
    Correlation(
        "relative_density",
        "CPT qc",
        say("Kulhawy and Mayne 1990"),
        "100 √((qc/pa)/(305 √(σ′v0/pa)))",
        _density_qc,
        1,
        60,
    ),
    Correlation("compressibility", "mv", say("measured"), "mv", lambda m, s: m, 0, 10),
    Correlation("consolidation_coefficient", "cv", say("measured"), "cv", lambda c, s: c, 0, 1000),
    Correlation("void_ratio", "e0", say("measured"), "e0", lambda e, s: e, 0.2, 5.0),
)


@dataclass(frozen=True)
class Derived:
    """One value of a parameter from one test."""

    borehole: str
    level: float
    correlation: Correlation
    test: float
    value: float
    remark: str = ""
    """Why it does not enter means; '' where it does."""

    @property
    def in_range(self) -> bool:
        """It enters means: the source is for such a test, the result is plausible and nobody left it out."""
        return not self.remark


def parameters_of(ground: Ground, soil: str) -> tuple[str, ...]:
    """Parameters that the tests in a soil give."""
    kinds = {test.kind for _, tests in _tests_in(ground).get(soil, ()) for test in tests}
    return tuple(dict.fromkeys(c.gives for c in CORRELATIONS if c.kind in kinds))


@remembered(4)
def _tests_in(ground: Ground) -> dict[str, list[tuple[Borehole, list[GroundTest]]]]:
    """The tests by the soil in which they lie: for each borehole those in their order."""
    found: dict[str, list[tuple[Borehole, list[GroundTest]]]] = {}
    for hole in ground.boreholes:
        strata = _strata_at(ground, hole)
        ends = np.cumsum([thickness for _, thickness in strata])
        at: dict[str, list[GroundTest]] = {}
        for test in hole.tests:
            i = int(np.searchsorted(ends, test.depth, side="right"))
            if i < len(strata):
                at.setdefault(strata[i][0], []).append(test)
        for soil, tests in at.items():
            found.setdefault(soil, []).append((hole, tests))
    return found


def _strata_at(ground: Ground, hole: Borehole) -> list[tuple[str, float]]:
    """(soil, thickness) in a borehole; at a sounding without strata those of the ground between the others."""
    if hole.strata:
        return [(s.soil, s.thickness) for s in hole.strata]
    profile = profile_at(ground, hole.x, hole.y)
    if profile is None:
        return []
    found = strata_of(profile)
    # from the level of the sounding down
    return [(soil.name, max(min(top, hole.ground_level) - bottom, 0.0)) for soil, top, bottom in found]


@remembered(4)
def _known(ground: Ground) -> dict[tuple[str, str], list[Derived]]:
    """What was derived for this ground so far."""
    return {}


def derived(ground: Ground, soil: str, parameter: str) -> list[Derived]:
    """All values of a parameter of a soil, by every correlation that its tests allow, in the order of the tests."""
    known = _known(ground)
    if (soil, parameter) not in known:
        known[(soil, parameter)] = _derived(ground, soil, parameter)
    return known[(soil, parameter)]


def _derived(ground: Ground, soil: str, parameter: str) -> list[Derived]:
    found: list[Derived] = []
    around = (ground.soils, ground.surfaces, ground.water, ground.backfill)
    for hole, tests in _tests_in(ground).get(soil, ()):
        # a sounding lies in the ground between all others
        holds = (hole, *around) if hole.strata else (hole, ground)
        key = (soil, parameter, ground.spt_energy, ground.cone_area_ratio, *map(id, holds))
        found += _of_holes.of(key, holds, partial(_derived_in, ground, hole, tests, parameter))
    return found


_of_holes: Cache[list[Derived]] = Cache(each=2_000)
"""By soil, parameter, hole and what the stresses in it depend on."""


def _derived_in(ground: Ground, hole: Borehole, tests: list[GroundTest], parameter: str) -> list[Derived]:
    giving = [c for c in CORRELATIONS if c.gives == parameter]
    kinds = {c.kind for c in giving}
    chosen = [test for test in tests if test.kind in kinds]
    if not chosen:
        return []
    found = []
    levels = np.array([hole.ground_level - test.depth for test in chosen])
    for test, level, state in zip(chosen, levels, _with_cone(hole, chosen, states_at(ground, hole, levels))):
        for correlation in giving:
            if correlation.kind == test.kind:
                value = correlation.function(test.value, state)
                remark = _remark(test, correlation, value, state)
                found.append(Derived(hole.name, float(level), correlation, test.value, value, remark))
    return found


def _remark(test: GroundTest, correlation: Correlation, value: float, state: State) -> str:
    if test.left_out:
        return say("left out: {left_out}", left_out=test.left_out)
    low, high = PLAUSIBLE.get(correlation.gives, (-math.inf, math.inf))
    # a straight line through nothing measured gives anything
    return correlation.outside(test.value, state) or (
        "" if low <= value <= high else say("the result is not plausible")
    )


def state_at(ground: Ground, hole: Borehole, level: float) -> State:
    """Stresses in a borehole at a level (see :func:`states_at`)."""
    return states_at(ground, hole, np.array([level]))[0]


def states_at(ground: Ground, hole: Borehole, levels: Array) -> list[State]:
    """Stresses in a borehole at levels (m), with the water that was found in it, else the normal one."""
    usual = ground.water.normal if ground.water else DRY
    water = np.array(usual if hole.water is None else hole.water)
    profile = profile_of(ground, hole) if hole.strata else profile_at(ground, hole.x, hole.y)
    if profile is None:
        return [State(0.0, 1.0, ground.spt_energy) for _ in levels]
    # free water above the ground weighs on it and adds nothing to the effective stress
    own = effective_stress(profile, ground.backfill, np.array(hole.ground_level), levels, water)
    total = own + pore_pressure(levels, water)
    effective = np.maximum(own, 1.0)
    ratio = ground.cone_area_ratio
    return [
        State(float(t), float(e), ground.spt_energy, float(hole.ground_level - z), area_ratio=ratio)
        for t, e, z in zip(total, effective, levels)
    ]


NEAR = 0.011
"""Readings of a cone this close belong together, m."""


def _with_cone(hole: Borehole, tests: list[GroundTest], states: list[State]) -> list[State]:
    """The states at cone tests with sleeve friction and pore pressure of the same depth."""
    beside = {kind: sorted((t.depth, t.value) for t in hole.tests if t.kind == kind) for kind in ("CPT fs", "CPT u2")}
    if not any(beside.values()):
        return states

    def there(kind: str, depth: float) -> float | None:
        rows = beside[kind]
        at = bisect.bisect_left(rows, (depth - NEAR,))
        return rows[at][1] if at < len(rows) and rows[at][0] <= depth + NEAR else None

    return [
        replace(state, fs=there("CPT fs", test.depth), u2=there("CPT u2", test.depth))
        if test.kind == "CPT qc"
        else state
        for test, state in zip(tests, states)
    ]


def behaviour_at(ground: Ground, hole: Borehole, test: GroundTest) -> str:
    """The soil behaviour type at a cone test: of its qc and the fs at the same depth; '' where one is missing."""
    if test.kind != "CPT qc":
        return ""
    state = _with_cone(hole, [test], [state_at(ground, hole, hole.ground_level - test.depth)])[0]
    found = behaviour(corrected(test.value, state), state.fs, state) if state.fs else None
    return f"{found[1]} (Ic {found[0]:.2f})" if found else ""
