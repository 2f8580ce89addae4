"""Safety against bearing failure with a global factor, and the methods side by side."""

import math

import pytest

from korbent.core.bearing.methods import METHODS
from korbent.core.bearing.safety import compare
from korbent.core.checks import State
from korbent.core.evaluate import evaluate
from korbent.core.explain.working import Working, working
from korbent.core.model import Project, edited
from korbent.core.working import picked
from korbent.verification.pad import one_pad


def with_factor(project: Project, factor: float | None, method: str = "Vesic 1975") -> Project:
    return edited(edited(project, ("settings", "factor_bearing"), factor), ("settings", "bearing_method"), method)


def test_without_a_factor_it_does_not_apply(demo: Project) -> None:
    for check in ("safety-drained", "safety-undrained"):
        assert evaluate(demo).pad("P7").check(check).state is State.NOT_APPLICABLE


def test_the_ratio_is_the_required_over_the_actual_factor(demo: Project) -> None:
    three, six = (evaluate(with_factor(demo, f)).pad("P7").check("safety-drained") for f in (3.0, 6.0))
    assert three.ratio is not None
    assert six.ratio == pytest.approx(2 * three.ratio)
    assert three.factor == pytest.approx(3.0 / three.ratio)
    assert three.capacity == pytest.approx(three.demand * three.factor)  # type: ignore[operator]


def test_by_hand_on_one_pad() -> None:
    """A pad under a vertical load: Vesic's drained resistance in plain scalars."""
    project = with_factor(one_pad(), 3.0)
    pad = project.pads[0]
    found = evaluate(project).pad(pad.name).check("safety-drained")
    assert found.ratio is not None
    recording = working(project, pad, "safety-drained")
    assert isinstance(recording, Working)

    def value(symbol: str) -> float:
        """At the governing situation."""
        step = next(s for s in recording.recording.steps if s.symbol == symbol and "safety_checks" in s.scope)
        return float(picked(step.value, 0, recording.situation))

    phi, B, L, D, c, q, gamma, N, H = (
        value(s) for s in ("phi", "B_eff", "L_eff", "D", "cprime", "q_0", "gammaprime", "N", "H")
    )
    assert phi == pytest.approx(math.radians(project.ground.soils[0].friction_angle or 0.0))
    t = math.tan(phi)
    Nq = math.exp(math.pi * t) * math.tan(math.pi / 4 + phi / 2) ** 2
    Nc, Ng = (Nq - 1) / t, 2 * (Nq + 1) * t
    k, m = D / pad.width, value("m")
    assert value("W_B") == pad.width
    left = 1 - H / (N + B * L * c / t)
    expected = (
        c * Nc * (1 + B / L * Nq / Nc) * (1 + 0.4 * k) * (left**m - (1 - left**m) / (Nq - 1))
        + q * Nq * (1 + B / L * t) * (1 + 2 * t * (1 - math.sin(phi)) ** 2 * k) * left**m
        + 0.5 * gamma * B * Ng * max(1 - 0.4 * B / L, 0.6) * left ** (m + 1)
    )
    assert found.capacity == pytest.approx(expected, rel=1e-9)
    assert found.demand == pytest.approx(N / (B * L), rel=1e-9)
    assert found.ratio == pytest.approx(3.0 * N / (B * L) / expected, rel=1e-9)


@pytest.mark.long
def test_the_comparison_agrees_with_the_check(demo: Project) -> None:
    """The check's governing situation is the comparison's for a vertical method; elsewhere its factor is not less."""
    for name in METHODS:
        project = with_factor(demo, 3.0, name)
        pad = project.pad("P7")
        check = evaluate(project).pad("P7").check("safety-drained")
        compared = next(m for m in compare(project, pad, "drained").methods if m.method == name)
        assert check.factor is not None
        assert compared.factor is not None
        assert compared.factor >= check.factor - 1e-9
        # only Terzaghi leaves the inclination out, and the check says so
        assert ("left out" in check.message) == (name == "Terzaghi 1943")


def test_clay_is_compared_undrained(demo: Project) -> None:
    pad = demo.pad("P7").replaced(level=-0.8)
    project = edited(demo, ("pads", "P7", "level"), -0.8)
    found = compare(project, pad, "undrained")
    assert found.why == ""
    assert [m.method for m in found.methods if not m.layered] == list(METHODS)
    assert sum(m.adopted for m in found.methods) == 1
    assert compare(demo, demo.pad("P7"), "undrained").why != ""
    methods = [m for m in found.methods if not m.layered]
    highest = max(methods, key=lambda m: m.ultimate or 0.0)
    lowest = min(methods, key=lambda m: m.ultimate or 1e9)
    assert (highest.ultimate or 0) < 2.5 * (lowest.ultimate or 1)


def test_nothing_to_compare_says_why() -> None:
    from korbent.demo import redstem

    project = redstem()
    assert "no borehole" in compare(project, project.pads[0], "drained").why


def test_a_net_factor_takes_the_overburden_off_both_sides() -> None:
    project = with_factor(one_pad(), 3.0)
    gross = evaluate(project).pads[0].check("safety-drained")
    found = evaluate(edited(project, ("settings", "safety_basis"), "net")).pads[0].check("safety-drained")
    q = 18.0 * 0.7 + (20.0 - 9.81) * 0.5  # water at -0.7 m in the high case only: the governing combination says which
    dry = 18.0 * 1.2
    assert gross.demand is not None
    assert found.demand is not None
    assert min(abs(gross.demand - found.demand - v) for v in (q, dry)) < 1e-6
    assert found.ratio == pytest.approx(3.0 * found.demand / (found.capacity or 1.0), rel=1e-9)
    assert ", net" in found.message
