"""Settlement: direction of influences, limits of the methods, convergence."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.evaluate import evaluate
from korbent.core.ground.profile import profile_at
from korbent.core.model import Ground, Load, Project, Settings, edited
from korbent.core.settlement import column, final
from korbent.core.settlement.final import Settlement, final_settlement
from korbent.core.settlement.formulas import oedometer_strain
from korbent.core.settlement.stress.below import (
    corner_displacement,
    corner_stress,
    displacement_below,
    stress_below,
)
from korbent.verification.ground import two_strata
from korbent.verification.pad import one_pad

size = st.floats(0.5, 6.0)


def a(*values: float) -> list[np.ndarray]:
    return [np.array(v) for v in values]


@given(size, size, st.floats(0.01, 20.0))
def test_stress_falls_with_depth_and_stays_below_the_pressure(B: float, L: float, z: float) -> None:
    upper, lower = stress_below(*a(B, L, z)), stress_below(*a(B, L, z + 0.1))
    assert 0 < lower < upper <= 1.0 + 1e-12


@given(size, size, st.floats(0.4, 3.0))
def test_stress_below_a_side_is_the_sum_of_point_loads(B: float, L: float, share: float) -> None:
    z = share * max(B, L)
    n = 300
    x = (np.arange(n) + 0.5) / n * 2 * B - B
    y = (np.arange(n) + 0.5) / n * L
    R2 = x[:, None] ** 2 + y[None, :] ** 2 + z * z
    summed = float((3 * z**3 / (2 * np.pi * R2**2.5)).sum() * 2 * B * L / n**2)
    assert 2 * corner_stress(*a(B, L, z)) == pytest.approx(summed, rel=1e-4)


@given(size, size, st.floats(0.05, 30.0), st.floats(0.0, 0.49))
def test_displacement_grows_with_depth_and_is_symmetric(B: float, L: float, z: float, nu: float) -> None:
    upper, lower = (corner_displacement(*a(B, L, d, nu)) for d in (z, z * 1.1))
    assert -1e-12 <= upper <= lower + 1e-12
    assert upper == pytest.approx(corner_displacement(*a(L, B, z, nu)))


@given(size, size)
def test_the_characteristic_point_settles_less_than_the_middle_and_more_than_the_corner(B: float, L: float) -> None:
    middle, point, corner = (float(displacement_below(*a(B, L, 1e4, 0.3), at=p)) for p in (0.0, 0.74, 1.0))
    assert corner < point < middle


def test_the_characteristic_point_is_near_the_mean_and_the_rigid_base() -> None:
    """A rigid square settles 0.93 of the mean of a flexible one, about 0.88 (1 - nu^2) q B/E (from memory)."""
    found = float(displacement_below(*a(1.0, 1.0, 1e5, 0.0), at=0.74))
    assert found == pytest.approx(0.88, rel=0.03)


@given(st.floats(10, 400), st.floats(0, 400), st.floats(1.0, 4.0))
def test_oedometer_strain_is_continuous_and_grows(before: float, added: float, ratio: float) -> None:
    args = a(before * ratio, 0.3, 0.05, 0.9)
    one, two = (float(oedometer_strain(np.array(before), np.array(x), *args)) for x in (added, added + 1e-6))
    assert 0 <= one <= two + 1e-12
    assert two - one < 1e-6
    # what is taken off swells along Cr, at any preconsolidation
    less = float(oedometer_strain(np.array(before), np.array(-0.5 * before), *args))
    assert less == pytest.approx(0.05 / 1.9 * np.log10(0.5), rel=1e-9)


def settled(ground: Ground, q: float = 120.0, limit: float = 0.2, B: float = 2.0) -> Settlement:
    profile = profile_at(ground, 0.0, 0.0)
    assert profile is not None
    sizes = (np.array([[v]]) for v in (B, 3.0, -1.0))
    return final_settlement(
        profile,
        ground.backfill,
        np.array([[q]]),
        *sizes,
        np.array([-1.0]),
        Settings(settlement_influence=limit),
    )


def soil(ground: Ground, name: str, **changes: object) -> Ground:
    return ground.replaced(soils=tuple(s.replaced(**changes) if s.name == name else s for s in ground.soils))


def test_directions() -> None:
    base = settled(two_strata()).total[0, 0]
    assert settled(two_strata(), q=150).total[0, 0] > base
    assert settled(soil(two_strata(), "clay", compression_index=0.4)).total[0, 0] > base
    assert settled(soil(two_strata(), "clay", overconsolidation_ratio=3.0)).total[0, 0] < base
    assert settled(soil(two_strata(), "sand", modulus=40_000.0)).total[0, 0] < base
    assert settled(two_strata(), limit=0.05).total[0, 0] >= base
    assert settled(two_strata(), q=-10.0).total[0, 0] < 0.0


def test_shares_make_the_total_and_a_stratum_can_be_left_out() -> None:
    found = settled(two_strata())
    assert found.total[0, 0] == pytest.approx(found.by_stratum[0, 0].sum())
    without = settled(soil(two_strata(), "clay", compression="none"))
    assert without.by_stratum[0, 0, 1] == 0.0
    assert without.by_stratum[0, 0, 0] == found.by_stratum[0, 0, 0]
    assert found.middle[0, 0] > found.total[0, 0]


def test_elastic_ground_settles_in_proportion() -> None:
    elastic = soil(two_strata(), "clay", compression="elastic", modulus=5_000.0)
    one, two = (settled(elastic, q=q, limit=1e-9).total[0, 0] for q in (50.0, 100.0))
    assert two == pytest.approx(2 * one)


def test_the_influence_depth_is_where_the_stresses_meet() -> None:
    deep = one_pad()
    profile = profile_at(deep.ground, 0.0, 0.0)
    assert profile is not None
    found = settled(deep.ground, limit=0.2)
    depth = found.influence[0, 0]
    added = 120.0 * stress_below(np.array(2.0), np.array(3.0), np.array(depth), 0.74)
    before = final.effective_stress(
        profile, deep.ground.backfill, np.array(0.0), np.array([-1.0 - depth]), np.array(-1.0)
    )
    assert added / before[0] == pytest.approx(0.2, rel=0.01)


@pytest.mark.parametrize("count", [110, 220])
def test_finer_cells_change_little(count: int, monkeypatch: pytest.MonkeyPatch) -> None:
    coarse = settled(two_strata()).total[0, 0]
    monkeypatch.setattr(column, "GROWING", count)
    monkeypatch.setattr(column, "_known", type(column._known)())
    assert settled(two_strata()).total[0, 0] == pytest.approx(coarse, rel=1e-3)


def check(project: Project) -> tuple[float, float]:
    found = evaluate(project).pads[0].check("settlement")
    return found.demand or 0.0, found.ratio or 0.0


def test_the_check_takes_the_sustained_combination_and_the_limit() -> None:
    demand, ratio = check(one_pad())
    assert ratio == pytest.approx(demand / 25.0)
    halved = edited(one_pad(), ("settings", "settlement_limit"), 0.0125)
    assert check(halved)[1] == pytest.approx(2 * ratio)
    assert check(one_pad(load=Load(V=10.0)))[0] == pytest.approx(0.0, abs=0.3)


def test_excavated_weight_is_deducted() -> None:
    """Deeper founding relieves the ground: the same load settles less."""
    assert check(one_pad(level=-2.5))[0] < check(one_pad())[0]
