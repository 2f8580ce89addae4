"""What plans come to: sums that agree with what they are sums of."""

import pytest

from korbent.core.checks import State
from korbent.core.concrete.schedule import schedule, sheets
from korbent.core.evaluate import evaluate
from korbent.core.model import edited
from korbent.core.sizing.cost import of_pads
from korbent.core.sizing.figures import amounts_of, figures_of
from korbent.demo import lindmere, redstem


@pytest.mark.long
def test_the_steel_is_that_of_the_schedule_and_straps_count() -> None:
    project = lindmere()
    found = figures_of(project).amounts
    whole = sum(b.weight for b in schedule(project)) + sum(s.weight for s in sheets(project, project.pads))
    assert found.steel == pytest.approx(whole, rel=1e-9)
    apart = amounts_of(project, project.pads, ())
    assert found.concrete > apart.concrete
    assert found.concrete - apart.concrete == pytest.approx(
        sum(s.width * s.depth * span(project, s) for s in project.straps), rel=1e-9
    )


def span(project, strap):  # type: ignore[no-untyped-def]
    a, b = (project.load_point(project.pad(n).load_point) for n in (strap.edge, strap.inner))
    return ((a.x - b.x) ** 2 + (a.y - b.y) ** 2) ** 0.5


def test_the_parts_make_the_whole_and_the_rates_count() -> None:
    project = redstem()
    whole = amounts_of(project, project.pads, ())
    parts = [amounts_of(project, (p,), ()) for p in project.pads]
    for name in ("area", "concrete", "steel", "cost", "carbon"):
        assert getattr(whole, name) == pytest.approx(sum(getattr(p, name) for p in parts), rel=1e-9)
    assert whole.concrete == pytest.approx(of_pads(project, "volume"), rel=1e-9)
    dearer = amounts_of(edited(project, ("rates", "concrete"), project.rates.concrete + 10), project.pads, ())
    assert dearer.cost - whole.cost == pytest.approx(10 * whole.concrete, rel=1e-9)
    heavier = amounts_of(edited(project, ("rates", "carbon_steel"), project.rates.carbon_steel + 100), project.pads, ())
    assert heavier.carbon - whole.carbon == pytest.approx(whole.steel / 10, rel=1e-9)


def test_the_checks_are_those_of_the_ledger() -> None:
    project = lindmere()
    found, results = figures_of(project), evaluate(project)
    assert found.failing == sum(c.state in (State.FAILS, State.UNSTABLE) for p in results.pads for c in p.checks) > 0
    assert found.worst is not None
    assert found.worst.ratio == max(
        c.ratio for p in results.pads for c in p.checks if c.state is State.FAILS and c.ratio
    )
    assert found.of_bases == {p.name: p.worst for p in results.pads}
    settled = [c.demand for p in results.pads for c in p.checks if c.check.id == "settlement" and c.demand is not None]
    assert found.settlement == max(settled)
