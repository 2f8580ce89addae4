"""Reference cases of overturning with a global factor, uplift, sliding, contact near an edge and net safety, by
hand."""

import math
from typing import Any

import numpy as np

from korbent.core.contact.rectangle import linear_no_tension
from korbent.core.evaluate import evaluate_pad
from korbent.core.geometry import within_circle
from korbent.core.model import Combination, Load, LoadCase, Project, edited
from korbent.verification.case import Case
from korbent.verification.pad import one_pad

B, L, H, D, COLUMN = 2.0, 2.4, 0.5, 1.2, 0.4
WEIGHTS = 25 * H * B * L + 18 * (D - H) * (B * L - COLUMN**2)
"""Base and backfill of the pad, kN."""


def _by_factor(loads: dict[str, Load], settings: dict[str, Any] | None = None, **changes: Any) -> Project:
    """One unfactored combination that is checked with factors of safety."""
    project = one_pad(**changes)
    point = project.actions.load_points[0].replaced(loads=loads)
    cases = tuple(LoadCase(name=n, nature="permanent" if n == "G" else "wind") for n in loads)
    rows = (Combination(number=1, factors=dict.fromkeys(loads, 1.0), serves=("allowable",), water="low"),)
    project = project.replaced(actions=project.actions.replaced(cases=cases, load_points=(point,), combinations=rows))
    for name, value in (settings or {}).items():
        project = edited(project, ("settings", name), value)
    return project


def _found(project: Project, check: str, what: str = "factor") -> float:
    value = getattr(evaluate_pad(project, project.pads[0]).check(check), what)
    return float("nan") if value is None else float(value)


def _two_columns() -> Project:
    """The second column, 2.4 m from the first, pulls."""
    project = _by_factor({"G": Load(V=500.0)}, width=4.0, offset_x=-1.2)
    second = project.actions.load_points[0].replaced(name="D", x=2.4, loads={"G": Load(V=-120.0)})
    actions = project.actions.replaced(load_points=(*project.actions.load_points, second))
    return project.replaced(actions=actions, pads=(project.pads[0].replaced(further=("D",)),))


def _peak(away: float, v: float = 0.0) -> float:
    """Peak below a base of 2 x 3 m whose resultant is ``away`` (share of the width) off the edge, 100 kN."""
    N = 100.0
    found = linear_no_tension(*(np.array([[x]]) for x in (N, -N * v * 3.0, N * (0.5 - away) * 2.0, 2.0, 3.0)))
    return float(found.peak[0, 0])


def _weighted(side: float) -> float:
    """Ring of 2.4 m with a hole of 0.8 m: backfill off its area less what of a square column stands outside the
    hole."""
    inside = within_circle(0.4, 0.0, 0.0, side, side)[0]
    return 18 * 0.7 * (math.pi / 4 * (2.4**2 - 0.8**2) - (side**2 - inside))


RING = {"shape": "ring", "hole": 0.8, "width": 2.4, "length": 2.4}
RING_BASE = 25 * H * math.pi / 4 * (2.4**2 - 0.8**2)
FRICTION = math.tan(math.radians(30.0))
N = 400.0 + WEIGHTS
# a circle of 0.4 m and a square of 0.7 m about its middle: four segments lie outside the square
SEGMENTS = 4 * (0.4**2 * math.acos(0.35 / 0.4) - 0.35 * math.sqrt(0.4**2 - 0.35**2))


def _uplift(side: float) -> float:
    project = _by_factor({"G": Load(V=-40.0)}, **RING)
    point = project.actions.load_points[0].replaced(size_x=side, size_y=side)
    return _found(project.replaced(actions=project.actions.replaced(load_points=(point,))), "uplift")


def _stable_cases() -> tuple[Case, ...]:
    given: tuple[tuple[str, str, float, Any, float, str], ...] = (
        (
            "overturning, V and M of one case",
            "(V + W) b/2 / M",
            (300 + WEIGHTS) * 1.0 / 200,
            lambda: _found(_by_factor({"G": Load(V=300.0, My=200.0)}), "overturning"),
            1e-9,
            "",
        ),
        (
            "overturning, V and M apart",
            "(V + W) b/2 / M",
            (300 + WEIGHTS) * 1.0 / 200,
            lambda: _found(_by_factor({"G": Load(V=300.0), "W": Load(My=200.0)}), "overturning"),
            1e-9,
            "",
        ),
        (
            "overturning, a load that lifts",
            "(V + W) b/2 / (M + U b/2)",
            (400 + WEIGHTS) / (120 + 150.0),
            lambda: _found(_by_factor({"G": Load(V=400.0), "W": Load(V=-150.0, My=120.0)}), "overturning"),
            1e-9,
            "",
        ),
        (
            "overturning, lateral moments net",
            "(V + W) b/2 / (M1 − M2)",
            (400 + WEIGHTS) / 30.0,
            lambda: _found(_by_factor({"G": Load(V=400.0, My=-90.0), "W": Load(My=120.0)}), "overturning"),
            1e-9,
            "",
        ),
        (
            "overturning, H at its height",
            "(V + W) b/2 / (H a)",
            (400 + WEIGHTS) / (50 * D),
            lambda: _found(_by_factor({"G": Load(V=400.0, Hx=50.0)}), "overturning"),
            1e-9,
            "",
        ),
        (
            "overturning, one column pulls",
            "500·0.8 + W·2 over 120·3.2",
            (500 * 0.8 + (25 * H * 9.6 + 18 * 0.7 * (9.6 - 0.32)) * 2.0) / (120 * 3.2),
            lambda: _found(_two_columns(), "overturning"),
            1e-9,
            "",
        ),
        (
            "uplift of a ring, its column over the hole",
            "W / T",
            (RING_BASE + _weighted(0.4)) / 40,
            lambda: _uplift(0.4),
            1e-9,
            "",
        ),
        (
            "uplift of a ring, a column wider than the hole",
            "segments of the hole outside the square",
            (RING_BASE + 18 * 0.7 * (math.pi / 4 * (2.4**2 - 0.8**2) - (0.49 - (math.pi * 0.16 - SEGMENTS)))) / 40,
            lambda: _uplift(0.7),
            1e-9,
            "",
        ),
        (
            "half a disc within a rectangle",
            "π r²/2",
            math.pi / 2,
            lambda: within_circle(1.0, 0.5, 0.0, 1.0, 4.0)[0],
            1e-12,
            "m²",
        ),
        (
            "first moment of half a disc",
            "2 r³/3",
            2 / 3,
            lambda: within_circle(1.0, 0.5, 0.0, 1.0, 4.0)[1],
            1e-12,
            "m³",
        ),
        (
            "sliding by the critical angle",
            "(V + W) tan φ'cv",
            N * math.tan(math.radians(25)),
            lambda: _found(
                _by_factor({"G": Load(V=400.0, Hx=40.0)}, {"critical_angle": 25.0}), "sliding-drained", "capacity"
            ),
            1e-9,
            "kN",
        ),
        (
            "sliding with a stated adhesion",
            "N tan φ' + a A'",
            N * FRICTION + 8 * (B - 2 * 40 * D / N) * L,
            lambda: _found(
                _by_factor({"G": Load(V=400.0, Hx=40.0)}, {"base_adhesion": 8.0}), "sliding-drained", "capacity"
            ),
            1e-9,
            "kN",
        ),
        ("peak a hundredth off the edge", "2 N/(3 e' L)", 2 * 100 / (3 * 0.02 * 3), lambda: _peak(0.01), 1e-9, "kPa"),
        (
            "peak a hundred-thousandth off the edge",
            "2 N/(3 e' L)",
            2 * 100 / (3 * 2e-5 * 1.1 * 3),
            lambda: _peak(1.1e-5),
            2e-3,
            "kPa",
        ),
        (
            "peak near a corner",
            "pyramid below a corner: 6 N/(a b), a and b four times the distances",
            6 * 100 / (4 * 0.1 * 4 * 0.15),
            lambda: _peak(0.05, 0.45),
            1e-9,
            "kPa",
        ),
        (
            "net safety, demand",
            "N/A' − q",
            N / (B * L) - 18 * D,
            lambda: _found(
                _by_factor({"G": Load(V=400.0)}, {"factor_bearing": 3.0, "safety_basis": "net"}),
                "safety-drained",
                "demand",
            ),
            1e-9,
            "kPa",
        ),
    )
    return tuple(
        Case(f"stability: {name}", "closed form", source, known, compute, tolerance, unit)
        for name, source, known, compute, tolerance, unit in given
    )


STABILITY: tuple[Case, ...] = _stable_cases()
