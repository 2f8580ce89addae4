"""What foundations come to: concrete, steel, cost, carbon, and the worst that their checks say."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from korbent.core.checks import CheckResult, State
from korbent.core.concrete.schedule import schedule, weight_of
from korbent.core.evaluate import evaluate
from korbent.core.geometry import table
from korbent.core.model import Pad, Project
from korbent.core.model.foundations import Strap
from korbent.core.sizing.cost import quantities, value_of


@dataclass(frozen=True)
class Amounts:
    """Area of the undersides (m2), concrete (m3), steel (kg), cost (in the currency of the rates), carbon (kg CO2e)."""

    area: float = 0.0
    concrete: float = 0.0
    steel: float = 0.0
    cost: float = 0.0
    carbon: float = 0.0


def amounts_of(project: Project, pads: Sequence[Pad], straps: Sequence[Strap]) -> Amounts:
    """Of some bases and straps of a project; steel as it is scheduled, with hooks and laps."""
    rates = project.rates
    steel = sum(weight_of(project, p) for p in pads)
    if straps:
        # bars of straps are those of the whole that are not of a base
        without = project.replaced(straps=tuple(s for s in project.straps if s not in straps))
        steel += sum(b.weight for b in schedule(project)) - sum(b.weight for b in schedule(without))
    area = concrete = cost = carbon = 0.0
    for pad in pads:
        found = replace(quantities(project, pad, table(pad)), steel=np.zeros(1))
        concrete += float(found.concrete[0])
        cost += float(value_of(rates, found, "cost")[0])
        carbon += float(value_of(rates, found, "carbon")[0])
        area += float(pad.area(pad.width, pad.length))
    for strap in straps:
        a, b = (project.load_point(project.pad(n).load_point) for n in (strap.edge, strap.inner))
        volume = strap.width * strap.depth * float(np.hypot(a.x - b.x, a.y - b.y))
        concrete, cost, carbon = (
            concrete + volume,
            cost + volume * rates.concrete,
            carbon + volume * rates.carbon_concrete,
        )
    return Amounts(area, concrete, steel, cost + steel / 1000 * rates.steel, carbon + steel / 1000 * rates.carbon_steel)


@dataclass(frozen=True)
class Figures:
    """What a whole plan comes to. Settlement in mm, slope in per mille; None where none is computed."""

    amounts: Amounts
    settlement: float | None
    slope: float | None
    worst: CheckResult | None
    of_bases: Mapping[str, CheckResult]
    """The worst check of each base, by its name."""
    failing: int
    """Checks that fail or are unstable."""
    blocked: int
    """Checks that cannot be done."""
    open_ones: int
    """Columns and walls without a foundation."""


def figures_of(project: Project) -> Figures:
    """All foundations of a project together."""
    results = evaluate(project)
    checks = [c for p in results.pads for c in p.checks]
    return Figures(
        amounts_of(project, project.pads, project.straps),
        most(checks, "settlement"),
        most(checks, "slope", "raft-slope"),
        worst(checks),
        {p.name: p.worst for p in results.pads},
        sum(c.state in (State.FAILS, State.UNSTABLE) for c in checks),
        sum(c.state is State.CANNOT for c in checks),
        len(results.undesigned),
    )


def most(checks: Iterable[CheckResult], *names: str) -> float | None:
    """The greatest demand among some checks."""
    return max((c.demand for c in checks if c.check.id in names and c.demand is not None), default=None)


def worst(checks: Iterable[CheckResult]) -> CheckResult | None:
    """What fails most, else what cannot be done, else the greatest ratio."""

    def weight(c: CheckResult) -> tuple[int, float]:
        lost = c.state is State.UNSTABLE or (c.state is State.FAILS and c.ratio is None)
        return (
            3 if lost else 2 if c.state is State.FAILS else 1 if c.state is State.CANNOT else 0,
            c.ratio or 0.0,
        )

    return max(checks, key=weight, default=None)
