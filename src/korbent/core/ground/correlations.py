"""Soil parameters from field and index tests, by published correlations.

Each correlation names its source and the range of test values for which it was given; outside, it still gives a
value, marked. Stresses in kPa; qc in MPa; phi' in degrees; E' and cu in kPa; PI, wL, w in percent.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from korbent.core.ground.profile import DRY, pore_pressure, profile_at, total_stress
from korbent.core.model.ground import Ground, GroundTest, TestKind

ATMOSPHERE = 100.0
"""Reference pressure pa, kPa."""


@dataclass(frozen=True)
class State:
    """Stresses at a test, kPa, and the energy ratio of the SPT hammer (percent)."""

    total: float
    effective: float
    energy: float = 60.0


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

    def applies_to(self, value: float) -> bool:
        """The test value lies in the range of the correlation."""
        return self.low <= value <= self.high


def n60(n: float, state: State) -> float:
    """SPT blow count at 60 % energy (Skempton 1986; rod and borehole corrections taken as 1)."""
    return n * state.energy / 60.0


def overburden_factor(effective: float) -> float:
    """C_N = sqrt(pa / sigma'v0), at most 1.7 (Liao and Whitman 1986)."""
    return min(math.sqrt(ATMOSPHERE / max(effective, 1.0)), 1.7)


def n1_60(n: float, state: State) -> float:
    """(N1)60: N60 normalised to an effective overburden of 100 kPa."""
    return n60(n, state) * overburden_factor(state.effective)


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


CORRELATIONS: tuple[Correlation, ...] = (
    Correlation("friction_angle", "SPT N", "Wolff 1989, after Peck, Hanson and Thornburn 1974",
                "27.1 + 0.3 (N1)60 − 0.00054 (N1)60²", _wolff, 2, 60),
    Correlation("friction_angle", "SPT N", "Hatanaka and Uchida 1996", "20 + √(15.4 (N1)60)",
                lambda n, s: 20 + math.sqrt(15.4 * max(n1_60(n, s), 0.0)), 4, 50),
    Correlation("friction_angle", "SPT N", "Kulhawy and Mayne 1990, after Schmertmann 1975",
                "atan[(N60/(12.2 + 20.3 σ′v0/pa))^0.34]", _schmertmann, 3, 60),
    Correlation("friction_angle", "CPT qc", "Robertson and Campanella 1983", "atan[(log(qc/σ′v0) + 0.29)/2.68]", _robertson, 1, 60),
    Correlation("friction_angle", "CPT qc", "Kulhawy and Mayne 1990", "17.6 + 11 log[(qc/pa)/√(σ′v0/pa)]", _kulhawy, 1, 60),
    Correlation("undrained_strength", "SPT N", "Stroud 1974, f1 = 4.5", "4.5 N60", lambda n, s: 4.5 * n60(n, s), 4, 60),
    Correlation("undrained_strength", "SPT N", "Hara et al. 1974", "29 N^0.72", lambda n, s: 29 * max(n, 0.0) ** 0.72, 2, 60),
    Correlation("undrained_strength", "SPT N", "Kulhawy and Mayne 1990, after Terzaghi and Peck", "0.06 pa N",
                lambda n, s: 0.06 * ATMOSPHERE * n, 2, 30),
    Correlation("undrained_strength", "CPT qc", "Lunne, Robertson and Powell 1997, Nkt = 14", "(qc − σv0)/14",
                lambda q, s: max(1000 * q - s.total, 0.0) / 14, 0.1, 5),
    Correlation("undrained_strength", "PI", "Skempton 1957, normally consolidated", "(0.11 + 0.0037 PI) σ′v0",
                lambda i, s: (0.11 + 0.0037 * i) * s.effective, 10, 100),
    Correlation("undrained_strength", "cu", "measured", "cu", lambda c, s: c, 0, 1000),
    Correlation("modulus", "SPT N", "Stroud 1989, E′/N60 = 1 MPa", "1000 N60", lambda n, s: 1000 * n60(n, s), 4, 60),
    Correlation("modulus", "SPT N", "Bowles 1996, sand", "500 (N55 + 15)", lambda n, s: 500 * (n60(n, s) * 60 / 55 + 15), 5, 60),
    Correlation("modulus", "SPT N", "Kulhawy and Mayne 1990, silty sand", "5 pa N60", lambda n, s: 5 * ATMOSPHERE * n60(n, s), 2, 60),
    Correlation("modulus", "CPT qc", "Schmertmann, Hartman and Brown 1978", "2.5 qc", lambda q, s: 2500 * q, 0.5, 40),
    Correlation("compression_index", "wL", "Terzaghi and Peck 1967", "0.009 (wL − 10)", lambda w, s: 0.009 * (w - 10), 20, 100),
    Correlation("compression_index", "w", "Koppula 1981", "0.01 w", lambda w, s: 0.01 * w, 15, 100),
    Correlation("compression_index", "PI", "Kulhawy and Mayne 1990", "PI/74", lambda i, s: i / 74, 5, 80),
    Correlation("compression_index", "e0", "Azzouz et al. 1976", "0.30 (e0 − 0.27)", lambda e, s: 0.30 * (e - 0.27), 0.4, 3.0),
    Correlation("recompression_index", "PI", "Kulhawy and Mayne 1990", "PI/370", lambda i, s: i / 370, 5, 80),
    Correlation("void_ratio", "e0", "measured", "e0", lambda e, s: e, 0.2, 5.0),
)  # fmt: skip


@dataclass(frozen=True)
class Derived:
    """One value of a parameter from one test."""

    borehole: str
    level: float
    correlation: Correlation
    test: float
    value: float
    in_range: bool


def parameters_of(ground: Ground, soil: str) -> tuple[str, ...]:
    """Parameters that the tests in a soil give."""
    kinds = {test.kind for _, _, test in _tests_in(ground, soil)}
    return tuple(dict.fromkeys(c.gives for c in CORRELATIONS if c.kind in kinds))


def _tests_in(ground: Ground, soil: str) -> list[tuple[str, float, GroundTest]]:
    found = []
    for hole in ground.boreholes:
        for test in hole.tests:
            depth = 0.0
            for stratum in hole.strata:
                if depth <= test.depth < depth + stratum.thickness and stratum.soil == soil:
                    found.append((hole.name, hole.ground_level - test.depth, test))
                depth += stratum.thickness
    return found


def derived(ground: Ground, soil: str, parameter: str) -> list[Derived]:
    """All values of a parameter of a soil, by every correlation that its tests allow, in the order of the tests."""
    holes = {hole.name: hole for hole in ground.boreholes}
    water = ground.water.normal if ground.water else DRY
    found = []
    for name, level, test in _tests_in(ground, soil):
        hole = holes[name]
        profile = profile_at(ground, hole.x, hole.y)
        assert profile is not None
        z = np.array([level])
        total = float(
            total_stress(profile, ground.backfill, np.array(hole.ground_level), z, np.array(water))[0]
        )
        state = State(total, max(total - float(pore_pressure(z, np.array(water))[0]), 1.0), ground.spt_energy)
        for correlation in CORRELATIONS:
            if correlation.kind == test.kind and correlation.gives == parameter:
                value = correlation.function(test.value, state)
                found.append(
                    Derived(name, level, correlation, test.value, value, correlation.applies_to(test.value))
                )
    return found


@dataclass(frozen=True)
class Estimate:
    """A suggested value, and how it is formed."""

    name: str
    formula: str
    value: float


def estimates(values: list[float]) -> list[Estimate]:
    """Suggested cautious values for a parameter that is unfavourable when low.

    Mean; lower quartile; the lower 95 % confidence bound of the mean (Student's t, one-sided, EN 1990 annex D in spirit).
    """
    if not values:
        return []
    data = np.asarray(values, dtype=float)
    found = [Estimate("mean", "Σx/n", float(data.mean()))]
    if len(data) >= 3:
        found.append(
            Estimate("lower quartile", "25 % of the values lie below", float(np.quantile(data, 0.25)))
        )
        half = student_t(len(data) - 1) * float(data.std(ddof=1)) / math.sqrt(len(data))
        found.append(Estimate("95 % bound of the mean", "x̄ − t s/√n", float(data.mean()) - half))
    return found


def student_t(freedom: int, share: float = 0.95) -> float:
    """Quantile of Student's distribution (one-sided), by bisection on its integrated density."""
    constant = math.exp(math.lgamma((freedom + 1) / 2) - math.lgamma(freedom / 2)) / math.sqrt(
        freedom * math.pi
    )

    def below(t: float) -> float:
        x = np.linspace(0.0, t, 2001)
        density = (1 + x * x / freedom) ** (-(freedom + 1) / 2)
        h = t / 2000
        simpson = h / 3 * (density[0] + density[-1] + 4 * density[1:-1:2].sum() + 2 * density[2:-1:2].sum())
        return 0.5 + constant * float(simpson)

    low, high = 0.0, 700.0 / freedom + 5.0
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if below(middle) < share else (low, middle)
    return (low + high) / 2
