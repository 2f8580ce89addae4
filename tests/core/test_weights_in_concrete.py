"""How own weight and backfill count in the concrete of a base: settings at the check, each by hand."""

import pytest

from korbent.core.checks import CheckResult
from korbent.core.evaluate import evaluate_pad
from korbent.core.explain.working import working
from korbent.core.model import Bars, Load, Project, Reinforcement
from korbent.verification.pad import one_pad
from tests.core.test_several_columns import pair

STEEL = Reinforcement(bottom_x=Bars(diameter=0.016, spacing=0.12), bottom_y=Bars(diameter=0.016, spacing=0.12))


def base(**settings: object) -> Project:
    project = one_pad(load=Load(V=900.0), width=2.4, length=2.4, thickness=0.5, reinforcement=STEEL)
    return project.replaced(settings=project.settings.replaced(**settings))


def check(project: Project, name: str) -> CheckResult:
    return evaluate_pad(project, project.pads[0]).check(name)


def moment(project: Project, scope: str = "at the +x face", symbol: str = "M_Ed") -> float:
    steps = working(project, project.pads[0], "bottom-x").recording.steps  # type: ignore[union-attr]
    return float(next(s.value for s in steps if s.symbol == symbol and s.scope.endswith(scope)).ravel()[0])


def weights(project: Project) -> float:
    """Base and backfill per area, kPa, without factors."""
    steps = working(project, project.pads[0], "bottom-x").recording.steps  # type: ignore[union-attr]
    q_b = next(float(s.value.ravel()[0]) for s in steps if s.symbol == "q_b")
    return 25.0 * 0.5 + q_b


def test_net_left_out_and_with_by_hand() -> None:
    """Central load, not turned: the moment at the face is p l^2/2 b of what counts."""
    span, b, A, c = (2.4 - 0.4) / 2, 2.4, 2.4**2, 0.4**2
    net = base()
    w = weights(net)
    soil = w - 12.5
    column = 900.0
    # the soil that the column displaces is not there
    net_pressure = (column - soil * c) / A
    assert moment(net) == pytest.approx(net_pressure * span**2 / 2 * b, rel=1e-9)
    assert moment(base(concrete_weights="left_out")) == pytest.approx(column / A * span**2 / 2 * b, rel=1e-9)
    assert moment(base(concrete_weights="with")) == pytest.approx((net_pressure + w) * span**2 / 2 * b, rel=1e-9)


def test_relief_by_nine_tenths_and_by_the_mean_load_factor() -> None:
    span, b, A, c = (2.4 - 0.4) / 2, 2.4, 2.4**2, 0.4**2
    net = base()
    w = weights(net)
    pressure = (900.0 - (w - 12.5) * c) / A + w
    assert moment(base(weight_relief="0.9")) == pytest.approx((pressure - 0.9 * w) * span**2 / 2 * b, rel=1e-9)
    # one case with the factor 1: the mean is 1 too
    assert moment(base(weight_relief="mean_load_factor")) == pytest.approx(moment(net), rel=1e-9)


def test_the_mean_load_factor_lies_between_the_factors() -> None:
    from korbent.core.model import Combination

    project = base(weight_relief="mean_load_factor")
    a = project.actions
    point = a.load_points[0].replaced(loads={"G": Load(V=600.0), "Q": Load(V=300.0)})
    cases = (a.cases[0], a.cases[0].replaced(name="Q", nature="imposed"))
    both = Combination(number=1, factors={"G": 1.35, "Q": 1.5}, serves=("concrete",), weight_unfavourable=1.35)
    project = project.replaced(actions=a.replaced(load_points=(point,), cases=cases, combinations=(both,)))
    assert moment(project, "checks", "gamma_m") == pytest.approx((1.35 * 600 + 1.5 * 300) / 900, rel=1e-12)


def test_weights_that_hang_ask_for_top_steel_without_uplift() -> None:
    span, b = (2.4 - 0.4) / 2, 2.4
    always = base(top_hanging="always")
    assert check(base(), "top-x").ratio is None
    assert moment(always, "at the +x face top") == pytest.approx(-weights(always) * span**2 / 2 * b, rel=1e-9)
    assert (check(always, "top-x").ratio or 0.0) > 0.0


def test_under_several_columns_the_base_stays_in_equilibrium() -> None:
    """Deducting less than what presses would leave another moment from the left than from the right."""
    project = pair(Load(V=900.0), Load(V=600.0))
    for changes in ({"concrete_weights": "with"}, {"weight_relief": "0.9"}):
        changed = project.replaced(settings=project.settings.replaced(**changes))
        assert check(changed, "bottom-x").ratio == check(project, "bottom-x").ratio
    hung = project.replaced(settings=project.settings.replaced(top_hanging="always"))
    assert (check(hung, "top-x").demand or 0.0) >= (check(project, "top-x").demand or 0.0)


def test_service_is_not_touched() -> None:
    """Cracks are looked at with the weights as they are."""
    from korbent.core.model import Combination

    project = base()
    serves = Combination(number=99, factors={"G": 1.0}, serves=("cracks",))
    project = project.replaced(actions=project.actions.replaced(combinations=(*project.actions.combinations, serves)))
    changed = project.replaced(settings=project.settings.replaced(concrete_weights="with", weight_relief="0.9"))
    assert check(changed, "cracks-x").ratio == check(project, "cracks-x").ratio
    assert check(project, "cracks-x").ratio is not None
