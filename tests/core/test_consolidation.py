"""Consolidation: against the series, against small steps in time, layered, staged, with drains; and histories of whole
plans."""

import datetime
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.model import (
    AreaLoad,
    BandDrains,
    Borehole,
    ConstructionStep,
    Load,
    Project,
    SettlementMark,
    Soil,
    Stratum,
    edited,
)
from korbent.core.settlement.consolidation import (
    Cells,
    Ramp,
    barron,
    drain_rate,
    excess_pressure,
    graded,
    influence_diameter,
    modes,
    terzaghi,
)
from korbent.core.settlement.history import PadHistory, compute, history, mark_history, without_drains
from korbent.verification.pad import one_pad

LOAD = 100.0


def layer(n: int = 40, H: float = 4.0, cv: float = 0.01, **more: Any) -> Cells:
    h = -np.diff(graded(0.0, -H, n))
    return Cells(h, np.full(n, cv), np.full(n, 5e-4), np.full(n, more.pop("rate", 0.0)), **more)


def degree(
    cells: Cells, times: np.ndarray, ramps: list[Ramp] | None = None, stress: np.ndarray | None = None
) -> np.ndarray:
    n = len(cells.thickness)
    stress = np.full(n, LOAD) if stress is None else stress
    ramps = ramps or [Ramp(0.0, 0.0, stress)]
    u = excess_pressure(modes(cells), ramps, times, n)
    return 1 - (u * cells.thickness).sum(axis=1) / (stress * cells.thickness).sum()


@given(st.floats(0.01, 2.0))
def test_one_layer_meets_the_series(T: float) -> None:
    """Drained at both ends (H/2) and at one (H): Terzaghi's series within 1e-3."""
    both = degree(layer(), np.array([T * 2.0**2 / 0.01]))[0]
    one = degree(layer(drained_bottom=False), np.array([T * 4.0**2 / 0.01]))[0]
    assert both == pytest.approx(float(terzaghi(np.array(T))), abs=1e-3)
    assert one == pytest.approx(float(terzaghi(np.array(T))), abs=1e-3)


def test_values_of_the_series() -> None:
    """U = 50 % at Tv 0.197, 90 % at 0.848 (Terzaghi)."""
    assert float(terzaghi(np.array(0.197))) == pytest.approx(0.5, abs=1e-3)
    assert float(terzaghi(np.array(0.848))) == pytest.approx(0.9, abs=1e-3)


def test_triangular_pressure_as_a_series_of_its_own() -> None:
    """Excess pressure from zero at the drained top to u0 at the closed bottom, by Fourier's series of that shape."""
    cells = layer(60, drained_bottom=False)
    z = np.cumsum(cells.thickness) - cells.thickness / 2
    for T in (0.05, 0.2, 0.7):
        m = np.arange(400)
        M = np.pi / 2 * (2 * m + 1)
        # mean of sum 2 (-1)^m/M^2 sin(M z/H) exp(-M^2 T), over the mean 1/2
        remaining = float((2 * (-1.0) ** m / M**3 * np.exp(-(M**2) * T)).sum() / 0.5)
        found = degree(cells, np.array([T * 16 / 0.01]), stress=LOAD * z / 4.0)[0]
        assert found == pytest.approx(1 - remaining, abs=1e-3)


def test_halving_the_cells_moves_the_degree_by_less_than_two_thousandths() -> None:
    def layered(n: int) -> np.ndarray:
        h = np.concatenate([-np.diff(graded(0, -2.5, n)), -np.diff(graded(0, -1.5, n))])
        cv = np.repeat([0.004, 0.03], n)
        mv = np.repeat([8e-4, 2e-4], n)
        cells = Cells(h, cv, mv, np.zeros(2 * n), True, False)
        return degree(cells, np.geomspace(5, 3000, 12))

    assert np.abs(layered(40) - layered(80)).max() < 2e-3


def test_two_layers_against_small_steps_in_time() -> None:
    """Implicit steps with the same conductances, written out once more: another way through time."""
    n = 20
    h = np.concatenate([-np.diff(graded(0, -2.0, n)), -np.diff(graded(0, -3.0, n))])
    cv, mv = np.repeat([0.003, 0.02], n), np.repeat([1e-3, 3e-4], n)
    cells = Cells(h, cv, mv, np.zeros(2 * n), True, False)
    k = cv * mv
    count = 2 * n
    A = np.zeros((count, count))
    for i in range(count):
        if i == 0:
            A[i, i] += k[i] / (h[i] / 2)
        if i + 1 < count:
            g = 1 / (h[i] / 2 / k[i] + h[i + 1] / 2 / k[i + 1])
            A[i, i] += g
            A[i + 1, i + 1] += g
            A[i, i + 1] -= g
            A[i + 1, i] -= g
    storage, u, dt = np.diag(mv * h), np.zeros(count), 0.25
    step = np.linalg.inv(storage + dt * A)
    ramp = 40.0
    for i in range(int(200 / dt)):
        t = (i + 1) * dt
        added = LOAD * (min(t, ramp) - min(t - dt, ramp)) / ramp
        u = step @ (storage @ (u + added))
    found = excess_pressure(modes(cells), [Ramp(0.0, ramp, np.full(count, LOAD))], np.array([200.0]), count)[0]
    assert found == pytest.approx(u, rel=0.01, abs=0.15)


def test_a_draining_seam_halves_the_way() -> None:
    n = 40
    h = np.concatenate([-np.diff(graded(0, -2.0, n)), [0.1], -np.diff(graded(0, -2.0, n))])
    cv = np.concatenate([np.full(n, 0.01), [np.inf], np.full(n, 0.01)])
    cells = Cells(h, cv, np.full(2 * n + 1, 5e-4), np.zeros(2 * n + 1), True, True)
    u = excess_pressure(modes(cells), [Ramp(0, 0, np.full(2 * n + 1, LOAD))], np.array([0.3 * 1.0 / 0.01]), 2 * n + 1)[
        0
    ]
    clay = np.isfinite(cv)
    found = 1 - (u[clay] * h[clay]).sum() / (LOAD * h[clay].sum())
    assert found == pytest.approx(float(terzaghi(np.array(0.3))), abs=1e-3)
    assert u[n] == 0.0


def test_staged_loading_is_superposition_and_unloading_takes_back() -> None:
    cells = layer()
    n = len(cells.thickness)
    times = np.array([50.0, 120.0, 400.0])
    full = np.full(n, LOAD)
    both = excess_pressure(modes(cells), [Ramp(0, 30, full), Ramp(100, 100, -0.6 * full)], times, n)
    first = excess_pressure(modes(cells), [Ramp(0, 30, full)], times, n)
    second = excess_pressure(modes(cells), [Ramp(100, 100, -0.6 * full)], times, n)
    assert both == pytest.approx(first + second, abs=1e-9)
    assert both[1].min() < 0.0


def test_a_closed_layer_keeps_its_pressure() -> None:
    cells = layer(drained_top=False, drained_bottom=False)
    u = excess_pressure(modes(cells), [Ramp(0, 10, np.full(40, LOAD))], np.array([5.0, 1e5]), 40)
    assert u[0] == pytest.approx(np.full(40, LOAD / 2), rel=1e-9)
    assert u[1] == pytest.approx(np.full(40, LOAD), rel=1e-6)


def test_drains_alone_are_barron_and_with_the_vertical_flow_carrillo() -> None:
    """U_h = 1 - exp(-8 T_h/mu); together (1 - U) = (1 - U_v)(1 - U_h) (Carrillo 1942)."""
    ch, S, dw = 0.02, 1.5, 0.066
    De = influence_diameter(S, "triangular")
    assert De == pytest.approx(1.05 * S, rel=1e-3)
    assert influence_diameter(S, "square") == pytest.approx(1.128 * S, rel=1e-3)
    mu = barron(De / dw, 2.0, 3.0)
    assert mu == pytest.approx(np.log(De / dw / 2) + 3 * np.log(2) - 0.75)
    rate = drain_rate(ch, S, "triangular", dw, 2.0, 3.0, 10.0, 1e-4, None)
    assert rate == pytest.approx(8 * ch / De**2 / mu)
    times = np.array([20.0, 60.0])
    radial = degree(layer(drained_top=False, drained_bottom=False, rate=rate), times)
    assert radial == pytest.approx(1 - np.exp(-rate * times), rel=1e-9)
    together = degree(layer(rate=rate), times)
    assert 1 - together == pytest.approx((1 - degree(layer(), times)) * (1 - radial), rel=1e-6)
    slower = drain_rate(ch, S, "triangular", dw, 2.0, 3.0, 10.0, 1e-4, 0.5)
    assert slower == pytest.approx(8 * ch / De**2 / (mu + 2 * np.pi * 100 / 3 * 1e-4 / 0.5))
    with pytest.raises(ValueError, match="not more than its smear zone"):
        drain_rate(ch, 0.2, "square", dw, 4.0, 3.0, 10.0, 1e-4, None)


# histories

DAY = datetime.date(2027, 1, 4)


def clay_pad(**changes: Any) -> Project:
    """A pad on clay over gravel that drains, one step."""
    project = one_pad(load=Load(V=500.0))
    clay = Soil(
        name="ground",
        drainage="both",
        weight=18.0,
        weight_saturated=19.0,
        cohesion=5.0,
        friction_angle=25.0,
        undrained_strength=60.0,
        compression="mv",
        compressibility=0.4,
        consolidation_coefficient=0.01,
        **changes,
    )
    gravel = Soil(
        name="gravel", weight=19.0, weight_saturated=21.0, friction_angle=36.0, cohesion=0.0, modulus=80_000.0
    )
    hole = Borehole(
        name="BH",
        x=0,
        y=0,
        ground_level=0.0,
        strata=(Stratum(soil="ground", thickness=5.2), Stratum(soil="gravel", thickness=20.0)),
    )
    ground = project.ground.replaced(soils=(clay, gravel), boreholes=(hole,))
    project = project.replaced(ground=ground)
    return with_steps(edited(project, ("settings", "settlement_influence"), 0.01), ("load", 0, 0, {"G": 1.0}))


def with_steps(project: Project, *rows: tuple[str, int, float, dict[str, float]]) -> Project:
    steps = tuple(
        ConstructionStep(name=n, date=DAY + datetime.timedelta(days=d), ramp=r, factors=f) for n, d, r, f in rows
    )
    return project.replaced(actions=project.actions.replaced(steps=steps))


def one(project: Project) -> PadHistory:
    found = history(project).pads[0]
    assert found.why == ""
    return found


def test_a_history_ends_at_the_final_settlement() -> None:
    """The last value is that of the check under the same loads; the degree in between that of the layered solution."""
    from korbent.core.evaluate import evaluate

    project = clay_pad()
    found = one(project)
    final = evaluate(project).pad("P").check("settlement").demand or 0
    assert 1000 * found.total[-1] == pytest.approx(final, rel=0.01)
    assert found.time_to(0.5) < found.time_to(0.9) < found.time_to(0.99)
    assert found.degree(found.time_to(0.5)) == pytest.approx(0.5, abs=1e-9)
    assert np.all(np.diff(found.total) >= -1e-12)
    assert found.excess[0].max() > 0.8 * found.added[0].max()


def test_a_ramp_lags_behind_a_sudden_load() -> None:
    sudden = one(clay_pad())
    slow = one(with_steps(clay_pad(), ("load", 0, 200.0, {"G": 1.0})))
    assert slow.at(100.0) < sudden.at(100.0)
    assert slow.total[-1] == pytest.approx(sudden.total[-1], rel=1e-3)


def test_steps_add_up_for_linear_ground() -> None:
    """With mv and two steps of half the load each: the sum of two half loads, the second one later."""
    two = one(with_steps(clay_pad(), ("a", 0, 0.0, {"G": 0.5}), ("b", 300, 0.0, {"G": 1.0})))
    half = one(with_steps(clay_pad(), ("a", 0, 0.0, {"G": 0.5})))
    whole = one(clay_pad())
    assert two.total[-1] == pytest.approx(whole.total[-1], rel=2e-2)
    assert two.at(299.0) == pytest.approx(half.at(299.0), rel=2e-2)


def test_taking_the_load_off_swells_along_the_reload_line() -> None:
    project = clay_pad()
    soil = project.ground.soils[0].replaced(
        compression="oedometer", compression_index=0.3, recompression_index=0.04, void_ratio=0.9
    )
    project = project.replaced(ground=project.ground.replaced(soils=(soil, project.ground.soils[1])))
    loaded = one(with_steps(project, ("on", 0, 0.0, {"G": 1.0})))
    relieved = one(with_steps(project, ("on", 0, 0.0, {"G": 1.0}), ("off", 9000, 0.0, {"G": 0.3})))
    assert 0 < relieved.total[-1] < loaded.total[-1]
    back = loaded.total[-1] - relieved.total[-1]
    assert back < 0.35 * loaded.total[-1]


def test_average_degree_is_the_simple_alternative_with_the_same_end() -> None:
    local = one(clay_pad())
    simple = one(edited(clay_pad(), ("settings", "settlement_time"), "average_degree"))
    assert simple.total[-1] == pytest.approx(local.total[-1], rel=1e-6)
    assert simple.at(60.0) == pytest.approx(local.at(60.0), rel=0.3)


def test_creep_begins_at_the_end_of_primary_and_follows_the_logarithm() -> None:
    project = edited(clay_pad(creep_index=0.005), ("settings", "creep_from"), "typed")
    project = edited(project, ("settings", "creep_days"), 1000.0)
    found = one(project)
    plain = one(clay_pad())
    i = int(np.searchsorted(found.times, 1000.0)) - 1
    assert found.creep[: i + 1].max() < 2e-6
    assert found.total[i] == pytest.approx(plain.total[i], rel=1e-4)
    # strain C log10(t/1000) over the thickness that counts
    a, b = (float(np.interp(t, found.times, found.creep)) for t in (found.times[-3], found.times[-1]))
    counted = (b - a) / (0.005 * np.log10(found.times[-1] / found.times[-3]))
    assert counted == pytest.approx(4.0, rel=5e-3)  # from the underside to the end of the clay
    for rule in ("remaining_pressure", "log_time"):
        other = one(edited(project, ("settings", "creep_from"), rule))
        assert other.creep[-1] > found.creep[-1] * 0.8


def test_creep_is_less_below_the_greatest_stress_of_the_past() -> None:
    def creep(**soil: Any) -> float:
        project = clay_pad(creep_index=0.005)
        s = project.ground.soils[0].replaced(
            compression="oedometer", compression_index=0.3, recompression_index=0.04, void_ratio=0.9, **soil
        )
        return float(
            one(project.replaced(ground=project.ground.replaced(soils=(s, project.ground.soils[1])))).creep[-1]
        )

    assert creep(overconsolidation_ratio=8.0, creep_reload=0.1) == pytest.approx(
        0.1 * creep(overconsolidation_ratio=8.0, creep_reload=1.0), rel=1e-3
    )


def test_a_falling_water_level_settles_the_ground() -> None:
    project = clay_pad()
    project = edited(project, ("ground", "water"), {"low": -4.0, "normal": -0.8, "high": -0.7})
    steady = one(with_steps(project, ("load", 0, 0.0, {"G": 1.0})))
    lowered = with_steps(project, ("load", 0, 0.0, {"G": 1.0}), ("pumps", 500, 0.0, {"G": 1.0}))
    steps = lowered.actions.steps
    lowered = lowered.replaced(actions=lowered.actions.replaced(steps=(steps[0], steps[1].replaced(water="low"))))
    assert one(lowered).total[-1] > 1.1 * steady.total[-1]


def test_an_immediate_part_comes_before_the_consolidation() -> None:
    found = one(clay_pad(undrained_modulus=20_000.0))
    plain = one(clay_pad())
    assert found.immediate[0] > 0
    assert found.total[0] == pytest.approx(found.immediate[0] + plain.total[0], rel=1e-6)


def test_drains_hasten_what_settles_and_change_no_end() -> None:
    project = clay_pad()
    drains = BandDrains(name="D", size_x=20.0, size_y=20.0, level=-5.0)
    with_drains = project.replaced(actions=project.actions.replaced(drains=(drains,)))
    fast, slow = one(with_drains), one(without_drains(with_drains))
    assert fast.time_to(0.9) < 0.7 * slow.time_to(0.9)
    assert fast.total[-1] == pytest.approx(slow.total[-1], rel=1e-3)
    away = with_drains.replaced(actions=with_drains.actions.replaced(drains=(drains.replaced(x=100.0),)))
    assert one(away).time_to(0.9) == pytest.approx(slow.time_to(0.9), rel=1e-9)


def test_a_mark_beside_a_fill_settles() -> None:
    project = clay_pad()
    fill = AreaLoad(name="Fill", x=10.0, size_x=8.0, size_y=8.0, level=0.0, pressure=40.0)
    project = project.replaced(actions=project.actions.replaced(area_loads=(fill,)))
    project = with_steps(project, ("fill", 0, 20.0, {"Fill": 1.0}))
    below, away = (
        mark_history(project, SettlementMark(name="M1", x=10.0, y=0.0)),
        mark_history(project, SettlementMark(name="M2", x=40.0, y=0.0)),
    )
    assert below.total[-1] > 20 * max(away.total[-1], 1e-6)
    # mv, uniform pressure over a wide area: nearly mv q H near the surface
    assert below.total[-1] == pytest.approx(0.4e-3 * 40 * 5.2, rel=0.25)


def test_long_work_can_be_stopped() -> None:
    told: list[tuple[int, int]] = []
    found = compute(clay_pad(), lambda done, of: told.append((done, of)))
    assert told == [(1, 1)]
    assert len(found.pads) == 1
    assert compute(clay_pad(), stop=lambda: True).pads == ()


def test_what_lacks_says_so() -> None:
    project = clay_pad()
    soil = project.ground.soils[0].replaced(compressibility=None)
    bare = project.replaced(ground=project.ground.replaced(soils=(soil, project.ground.soils[1])))
    assert "no compressibility" in history(bare).pads[0].why
    assert "no borehole" in history(project.replaced(ground=project.ground.replaced(boreholes=()))).pads[0].why


@pytest.mark.parametrize(("spacing", "smear"), [(0.3, 6.0), (0.1, 2.0)])
def test_drains_within_their_smear_zone_are_refused(spacing: float, smear: float) -> None:
    with pytest.raises(ValueError, match="smear zone"):
        BandDrains(name="D", spacing=spacing, smear=smear)


def test_bad_input_is_refused_at_its_place() -> None:
    with pytest.raises(ValueError, match="consolidation_coefficient"):
        Soil(name="s", weight=18, weight_saturated=19, consolidation_coefficient=-0.1)
    with pytest.raises(ValueError, match="steps stand in the order of time"):
        with_steps(clay_pad(), ("late", 50, 0.0, {"G": 1.0}), ("early", 10, 0.0, {"G": 1.0}))


@pytest.mark.parametrize("embedment", ["none", "Fox 1948"])
@pytest.mark.parametrize("law", ["elastic", "strain_influence"])
def test_on_sand_too_it_ends_at_the_final_settlement(law: str, embedment: str) -> None:
    """Two computations of one settlement: the check's sublayers, and the last of the times of the history."""
    from korbent.core.evaluate import evaluate

    project = clay_pad()
    soils = tuple(
        s.replaced(compression=law, modulus=20.0e3, poisson=0.3, consolidation_coefficient=None)
        for s in project.ground.soils
    )
    project = project.replaced(
        ground=project.ground.replaced(soils=soils),
        settings=project.settings.replaced(settlement_embedment=embedment),
    )
    final = evaluate(project).pad("P").check("settlement").demand or 0
    assert 1000 * one(project).total[-1] == pytest.approx(final, rel=0.02)
