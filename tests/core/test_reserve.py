"""The reserve: at its amount the base still holds, a little more fails by the named check."""

import pytest

from korbent.core.evaluate import evaluate
from korbent.core.model import Project, edited
from korbent.core.sizing.reserve import COMPONENTS, reserves


def added(project: Project, pad: str, quantity: str, amount: float) -> Project:
    point = project.load_point(project.pad(pad).load_point)
    load = point.loads["G"]
    path = ("actions", "load_points", point.name, "loads", "G")
    return edited(project, path, load.replaced(**{quantity: getattr(load, quantity) + amount}))


def worst(project: Project, pad: str) -> float:
    return max(c.ratio for c in evaluate(project).pad(pad).checks if c.ratio is not None)


@pytest.mark.long
@pytest.mark.parametrize("pad", ["P3", "P7"])
def test_at_the_reserve_it_holds_beyond_it_fails(demo: Project, pad: str) -> None:
    found = reserves(demo, demo.pad(pad), "G")
    assert [(r.quantity, r.direction) for r in found] == list(COMPONENTS)
    for reserve in found:
        assert reserve.amount is not None
        at = added(demo, pad, reserve.quantity, reserve.direction * reserve.amount)
        assert worst(at, pad) <= 1.0 + 1e-6  # the end of primary is foretold from the load as it is
        # a little more: the neighbours settle with it, which the slope to them feels
        beyond = added(demo, pad, reserve.quantity, reserve.direction * (1.06 * reserve.amount + 0.01))
        failed = [c for c in evaluate(beyond).pad(pad).checks if c.state.value in ("fails", "unstable")]
        assert failed, (reserve.quantity, reserve.amount)
        assert reserve.check in [c.check.title for c in failed]


def test_a_failing_base_has_none(demo: Project) -> None:
    assert reserves(demo, demo.pad("P8"), "G") == ()
    with pytest.raises(KeyError):
        reserves(demo, demo.pad("P7"), "Z")


@pytest.mark.long
def test_a_smaller_load_has_more_reserve(demo: Project) -> None:
    lighter = added(demo, "P7", "V", -100.0)
    before = {(r.quantity, r.direction): r.amount for r in reserves(demo, demo.pad("P7"), "G")}
    after = {(r.quantity, r.direction): r.amount for r in reserves(lighter, lighter.pad("P7"), "G")}
    assert after[("V", 1.0)] == pytest.approx((before[("V", 1.0)] or 0) + 100.0, rel=5e-3)
