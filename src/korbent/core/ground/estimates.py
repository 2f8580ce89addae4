"""Cautious values from the values that tests give: means, bounds, fractiles, lines over level."""

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from korbent.core.model.ground import OverLevel
from korbent.words import say


@dataclass(frozen=True)
class Estimate:
    """A suggested value, and how it is formed."""

    name: str
    formula: str
    value: float
    line: OverLevel | None = None
    """Where it runs over level; ``value`` is then that at the middle."""


UPPER = frozenset({"compression_index", "recompression_index", "compressibility", "void_ratio", "creep_index"})
"""Parameters of which the greater value is the cautious one: more of it settles more."""
VARIATION_KNOWN = 1.645
"""Of the normal distribution, one-sided 95 %: what Student's t tends to."""


def estimates(values: list[float], upper: bool = False, variation: float | None = None) -> list[Estimate]:
    """Suggested values, the cautious side first, then the other bound of the mean.

    Mean; quartile; 95 % confidence bound of the mean (Student's t, one-sided); 5 % fractile x̄ ∓ t s sqrt(1 + 1/n) (EN
    1990 D.7.2, unknown coefficient of variation). Where it is known, bound and fractile with 1.645 V x̄ instead (known
    coefficient, table D1), from one value on.

    Args:
        upper: the greater value is the cautious one (see :data:`UPPER`).
        variation: the coefficient of variation, where it is known.
    """
    if not values:
        return []
    data = np.asarray(values, dtype=float)
    n, mean = len(data), float(data.mean())
    sign = 1 if upper else -1
    minus = "+" if upper else "−"
    found = [Estimate(say("mean"), "Σx/n", mean)]
    t_s = student_t(n - 1) * float(data.std(ddof=1)) if n >= 3 else 0.0
    if n >= 3:
        found.append(
            Estimate(
                say("upper quartile") if upper else say("lower quartile"),
                say("25 % of the values lie above") if upper else say("25 % of the values lie below"),
                float(np.quantile(data, 0.75 if upper else 0.25)),
            )
        )
        found.append(
            Estimate(
                say("upper 95 % bound of the mean") if upper else say("95 % bound of the mean"),
                f"x̄ {minus} t s/√n",
                mean + sign * t_s / math.sqrt(n),
            )
        )
        found.append(
            Estimate(
                say("{share} % fractile", share=95 if upper else 5),
                f"x̄ {minus} t s √(1 + 1/n)",
                mean + sign * t_s * math.sqrt(1 + 1 / n),
            )
        )
    if variation is not None:
        half = VARIATION_KNOWN * variation * mean
        known = say(", V = {variation:g} known", variation=variation)
        found.append(
            Estimate(
                say("upper 95 % bound of the mean{known}", known=known)
                if upper
                else say("95 % bound of the mean{known}", known=known),
                f"x̄ (1 {minus} 1.645 V/√n)",
                mean + sign * half / math.sqrt(n),
            )
        )
        found.append(
            Estimate(
                say("{share} % fractile{known}", share=95 if upper else 5, known=known),
                f"x̄ (1 {minus} 1.645 V √(1 + 1/n))",
                mean + sign * half * math.sqrt(1 + 1 / n),
            )
        )
    if n >= 3:
        found.append(
            Estimate(
                say("lower 95 % bound of the mean") if upper else say("upper 95 % bound of the mean"),
                f"x̄ {'−' if upper else '+'} t s/√n",
                mean - sign * t_s / math.sqrt(n),
            )
        )
    # where values scatter widely a bound may pass zero: no soil has that
    return [e for e in found if e.value > 0]


def lines(levels: list[float], values: list[float], upper: bool = False) -> list[Estimate]:
    """Suggested lines over level: the regression, its cautious 95 % bound, and means in steps.

    Bound of the regression line: x(z) - t s sqrt(1/n + (z - z_mean)^2 / sum (z_i - z_mean)^2), Student's t with n - 2
    degrees of freedom, one-sided (Draper and Smith 1998, eq. 3.1.8).
    """
    z, x = np.asarray(levels, dtype=float), np.asarray(values, dtype=float)
    if len(z) < 4 or np.ptp(z) < 0.5:
        return []
    slope, start = np.polyfit(z, x, 1)
    spread = float(((z - z.mean()) ** 2).sum())
    scatter = math.sqrt(float(((x - start - slope * z) ** 2).sum()) / (len(z) - 2))
    t = student_t(len(z) - 2)
    found = []
    ends = np.linspace(z.max(), z.min(), 5)
    middle = float(z.max() + z.min()) / 2
    for name, formula, factor in (
        (say("regression"), say("least squares over level"), 0.0),
        (
            say("95 % bound of the regression"),
            f"x̂(z) {'+' if upper else '−'} t s √(1/n + (z − z̄)²/Σ(zᵢ − z̄)²)",
            -t if upper else t,
        ),
    ):
        at = ends if factor else ends[[0, -1]]
        line = start + slope * at - factor * scatter * np.sqrt(1 / len(z) + (at - z.mean()) ** 2 / spread)
        if (line <= 0).any():
            continue
        points = tuple((round(float(a), 3), float(f"{v:.4g}")) for a, v in zip(at, line))
        over = OverLevel(kind="linear", points=points)
        found.append(Estimate(name, formula, float(np.interp(-middle, -at, line)), over))
    order = np.argsort(-z)
    groups = [g for g in np.array_split(order, max(1, min(4, len(z) // 3))) if len(g)]
    if len(groups) > 1:
        tops = [float(z[groups[0]].max())]
        tops += [float(z[a].min() + z[b].max()) / 2 for a, b in pairwise(groups)]
        if all(b < a - 0.01 for a, b in pairwise(tops)):
            points = tuple((round(top, 3), float(f"{x[g].mean():.4g}")) for top, g in zip(tops, groups))
            over = OverLevel(kind="stepwise", points=points)
            found.append(Estimate(say("means in steps"), say("Σx/n of each step"), float(x.mean()), over))
    return found


def student_t(freedom: int, share: float = 0.95) -> float:
    """Quantile of Student's distribution (one-sided)."""
    from scipy.special import stdtrit

    return float(stdtrit(freedom, share))
