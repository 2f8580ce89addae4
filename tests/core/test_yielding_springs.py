"""Springs that give no more than a greatest pressure: a rigid plate by hand, limits, what no pressure can hold."""

import numpy as np
import pytest
from scipy.optimize import brentq

from korbent.core.checks import State
from korbent.core.evaluate import evaluate
from korbent.core.plates.mesh import GridMesh
from korbent.core.plates.solve import PlateOnSprings, YieldedError
from tests.core.test_rafts import plate_of, raft
from tests.invariants.test_whole import ledger_is_working

B, L, K = 4.0, 1.0, 10_000.0


def rigid(n: int = 80) -> PlateOnSprings:
    """A stiff strip of 4 m by 1 m."""
    mesh = GridMesh(np.linspace(-B / 2, B / 2, n + 1), np.array([-L / 2, L / 2]), np.ones((n, 1), dtype=bool))
    return PlateOnSprings(mesh, np.full(n, 2.0), 1e10, 0.2, np.full(n, K))


def loads(plate: PlateOnSprings, mean: float, slope: float) -> np.ndarray:
    """Of a pressure mean + slope x, (unknowns, 1)."""
    x, _ = plate.mesh.nodes
    corner = x[plate.mesh.elements]
    from korbent.core.plates.solve import SHAPES

    at = corner @ SHAPES.T
    return plate.load((mean + slope * at)[:, :, None])


def by_hand(mean: float, slope: float, most: float, lifts: bool) -> tuple[float, float]:
    """(a, b) of the settlement a + b x of a rigid strip whose pressure is k w between 0 (or none) and the most."""
    x = np.linspace(-B / 2, B / 2, 40_001)
    N, M = mean * B, slope * B**3 / 12

    def pressure(a: float, b: float) -> np.ndarray:
        return np.clip(K * (a + b * x), 0.0 if lifts else -np.inf, most)

    def a_of(b: float) -> float:
        return float(brentq(lambda a: np.trapezoid(pressure(a, b), x) - N, -1.0, 1.0, xtol=1e-14))

    b = float(brentq(lambda b: np.trapezoid(pressure(a_of(b), b) * x, x) - M, 0.0, 0.5, xtol=1e-14))
    return a_of(b), b


@pytest.mark.parametrize(
    ("mean", "slope", "most", "lifts"),
    [
        (100.0, 30.0, 140.0, False),
        (100.0, 30.0, 140.0, True),
        (100.0, 55.0, 170.0, True),
        (60.0, 40.0, 130.0, True),
    ],
)
def test_a_rigid_plate_is_as_by_hand(mean: float, slope: float, most: float, lifts: bool) -> None:
    plate = rigid()
    found = plate.solve(loads(plate, mean, slope), not lifts, most)
    a, b = by_hand(mean, slope, most, lifts)
    x, _ = plate.mesh.nodes
    assert found.settlement[:, 0] == pytest.approx(a + b * x, rel=3e-3, abs=3e-3 * (a + b * B / 2))
    assert found.pressure.max() == pytest.approx(most)
    assert 0 < found.yielded[0] < 1
    assert found.residual < 1e-6
    assert bool(found.lifted[0]) is bool(lifts and a - b * B / 2 < 0)


def test_a_limit_that_is_not_reached_changes_nothing() -> None:
    plate = rigid()
    several = np.concatenate([loads(plate, 100.0, 20.0), loads(plate, 80.0, 60.0)], axis=1)
    free, held = plate.solve(several), plate.solve(several, most=1e5)
    assert held.unknowns == pytest.approx(free.unknowns, rel=1e-6, abs=1e-9)
    assert held.yielded.tolist() == [0.0, 0.0]


def test_each_load_is_solved_as_alone() -> None:
    plate = rigid()
    each = [loads(plate, m, s) for m, s in ((100.0, 30.0), (60.0, 40.0), (50.0, 0.0))]
    whole = plate.solve(np.concatenate(each, axis=1), most=140.0)
    for i, one in enumerate(each):
        alone = plate.solve(one, most=140.0)
        assert whole.settlement[:, i] == pytest.approx(alone.settlement[:, 0], rel=1e-6, abs=1e-9)


def test_less_strength_settles_more() -> None:
    plate = rigid()
    load = loads(plate, 100.0, 30.0)
    # at 125 kPa it would tip over: no more than 3.2 m of it could press
    settled = [float(plate.solve(load, most=most).settlement.max()) for most in (200.0, 150.0, 135.0, 126.0)]
    assert settled == sorted(settled)
    assert settled[0] < settled[-1]


@pytest.mark.long
@pytest.mark.parametrize(("mean", "slope", "most"), [(100.0, 0.0, 99.0), (100.0, 60.0, 125.0)])
def test_what_no_pressure_can_hold_is_refused(mean: float, slope: float, most: float) -> None:
    """More than the most all over; or within the effective width B - 2 e, N = most (B - 2 e), more than the most."""
    e = slope * B**2 / 12 / mean
    assert mean * B > most * (B - 2 * e)
    plate = rigid()
    with pytest.raises(YieldedError):
        plate.solve(loads(plate, mean, slope), most=most)


@pytest.mark.long
def test_a_raft_yields_below_its_heavy_columns_and_says_so() -> None:
    free, held = raft(thickness=0.35), raft(thickness=0.35, greatest=100.0)
    assert plate_of(held).solution.yielded.max() > 0
    before, after = (evaluate(p).pads[0] for p in (free, held))
    assert before.check("raft-pressure").demand > 110.0  # type: ignore[operator]
    assert after.check("raft-pressure").demand == pytest.approx(100.0, rel=1e-6)
    assert "the ground yields below" in after.check("raft-pressure").message
    assert after.check("raft-slope").demand > before.check("raft-slope").demand  # type: ignore[operator]
    assert ledger_is_working(held) > 25
    weak = evaluate(raft(greatest=20.0)).pads[0].check("punching")
    assert weak.state is State.CANNOT
    assert "the greatest pressure is too little" in weak.message
    strata = raft(thickness=0.35, greatest=120.0, ground="layers")
    found = plate_of(strata, "settlement_long")
    assert np.nanmax(found.solution.pressure) <= 120.0 + 1e-6


def test_the_combination_that_nothing_holds_is_named() -> None:
    """One of several combinations is too much for the ground: it is that one which is said, not the others."""
    project = raft(greatest=150.0)
    first = project.actions.combinations[0]
    heavy = first.replaced(number=7, name="too much", factors={"G": 9.0}, serves=("concrete",))
    project = project.replaced(actions=project.actions.replaced(combinations=(*project.actions.combinations, heavy)))
    check = evaluate(project).pads[0].check("top-x")
    assert check.state is State.CANNOT
    assert "in combination 7" in check.message
    assert "too little" in check.message
    lifted = first.replaced(number=8, name="lifted", factors={"G": -1.0}, serves=("concrete",))
    project = project.replaced(actions=project.actions.replaced(combinations=(first, lifted)))
    check = evaluate(project).pads[0].check("top-x")
    assert check.state is State.UNSTABLE
    assert "in combination 8" in check.message
    assert "floats up" in check.message
