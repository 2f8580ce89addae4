"""Anchorage of top bars: bond where they lie, by the three standards."""

import math

import pytest

from korbent.core.checks import CheckResult
from korbent.core.evaluate import evaluate_pad
from korbent.core.explain.working import working
from korbent.core.model import Bars, Load, Project, Reinforcement

BARS = Bars(diameter=0.016, spacing=0.15)


def hung(
    standard: str, thickness: float = 0.5, ends: str = "straight", width: float = 3.0, V: float = -150.0
) -> Project:
    from korbent.verification.pad import one_pad

    project = one_pad(
        load=Load(V=V),
        width=width,
        length=width,
        thickness=thickness,
        reinforcement=Reinforcement(bottom_x=BARS, bottom_y=BARS, top_x=BARS, top_y=BARS),
    )
    return project.replaced(
        standards=project.standards.replaced(concrete=standard),
        settings=project.settings.replaced(bar_ends=ends),
    )


def found(project: Project) -> CheckResult:
    return evaluate_pad(project, project.pads[0]).check("anchorage-x")


def recorded(project: Project, symbol: str, scope: str = "top anchorage x + side") -> float:
    steps = working(project, project.pads[0], "anchorage-x").recording.steps  # type: ignore[union-attr]
    return float(next(s.value for s in steps if s.symbol == symbol and s.scope.endswith(scope)).ravel()[0])


def test_only_top_bars_are_pulled_where_the_column_hangs() -> None:
    for standard in ("EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018"):
        project = hung(standard)
        assert "above" in found(project).message, standard
        without = project.replaced(
            pads=(project.pads[0].replaced(reinforcement=Reinforcement(bottom_x=BARS, bottom_y=BARS)),)
        )
        assert found(without).ratio == 0.0


@pytest.mark.parametrize(("thickness", "bond"), [(0.25, 1.0), (0.32, 0.7), (0.5, 0.7), (0.7, 0.7)])
def test_bond_of_en_by_figure_8_2(thickness: float, bond: float) -> None:
    """Up to 250 mm thick good; above that poor where the bars lie more than 250 mm up, of thick bases in the uppermost
    300 mm."""
    project = hung("EN 1992-1-1:2004", thickness)
    assert recorded(project, "eta_1") == bond
    assert recorded(project, "eta_1", "checks anchorage x + side") in (1.0, bond)
    fctm = 0.3 * 30 ** (2 / 3)
    assert recorded(project, "f_bd") == pytest.approx(2.25 * bond * 0.7 * fctm / 1.5, rel=1e-9)


def test_en_by_hand() -> None:
    """9.8.2.2 with the weights less the water in place of the soil: F_s z_i = R z_e at the crack recorded."""
    project = hung("EN 1992-1-1:2004")
    R, x, d = (recorded(project, s) for s in ("R", "x_a", "d"))
    z_e = (3.0 - 0.4) / 2 + 0.35 * 0.4 - x / 2
    stress = 1000 * R * z_e / (0.9 * d) / (math.pi * 16**2 / 4 / 0.15)
    f_bd = 2.25 * 0.7 * 0.7 * 0.3 * 30 ** (2 / 3) / 1.5
    l_b = 0.016 / 4 * stress / f_bd
    needed = max(l_b, 0.3 * l_b, 0.16, 0.1)
    assert found(project).demand == pytest.approx(1000 * needed, rel=1e-6)
    assert found(project).capacity == pytest.approx(1000 * (x - 0.05), rel=1e-6)


def test_aci_psi_t_and_as_k1() -> None:
    """1.3 with more than 12 in. (300 mm) cast below the bars, 1 otherwise; the length of a straight bar goes with
    it."""
    for standard, symbol, limit in (("ACI 318-19", "psi_t", 0.3048), ("AS 3600:2018", "k_1", 0.3)):
        for thickness in (limit + 0.05 + 0.016 + 0.016 - 0.004, limit + 0.05 + 0.016 + 0.016 + 0.02):
            project = hung(standard, thickness)
            below = recorded(project, "z_b") - 0.008
            assert recorded(project, symbol) == (1.3 if below > limit else 1.0)
            assert recorded(project, symbol, "checks anchorage x + side") in (1.0, 1.3)
        name = "l_d" if standard.startswith("ACI") else "L_sy"
        thick = hung(standard, 0.5)
        below = "concrete_checks anchorage x + side"
        # the same bar at the same spacing below: without the factor
        assert recorded(thick, name) == pytest.approx(1.3 * recorded(thick, name, below), rel=1e-9)


def test_more_top_bars_need_no_more_length() -> None:
    for standard in ("EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018"):
        project = hung(standard)
        pad = project.pads[0]
        ratios = []
        for spacing in (0.25, 0.2, 0.15):
            faces = pad.reinforcement.replaced(top_x=BARS.replaced(spacing=spacing))
            changed = project.replaced(pads=(pad.replaced(reinforcement=faces),))
            ratios.append(found(changed).ratio or 0.0)
        assert ratios == sorted(ratios, reverse=True), standard
