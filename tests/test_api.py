"""What other programs may call, by closed forms, by the calculation of a whole project, and with arrays."""

import json
import math
from pathlib import Path

import numpy as np
import pytest

from korbent import api
from korbent.core.evaluate import evaluate
from korbent.demo import coombe, hollin, lindmere


@pytest.mark.parametrize("method", api.BEARING_METHODS)
def test_a_strip_without_weight_bears_by_prandtl(method: str) -> None:
    """Weightless ground below a long strip at the surface: q N_q (Reissner 1924) for all but Terzaghi, whose wedge is
    another."""
    found = api.bearing(method, B=1.0, L=1e9, overburden=10.0, weight=0.0, friction_angle=30.0, N=1.0)
    N_q = math.exp(math.pi * math.tan(math.radians(30))) * math.tan(math.radians(60)) ** 2
    if method.startswith("Terzaghi"):
        N_q = math.exp((1.5 * math.pi - math.radians(30)) * math.tan(math.radians(30))) / (
            2 * math.cos(math.radians(60)) ** 2
        )
    assert float(found.pressure) == pytest.approx(10.0 * N_q, rel=1e-6)
    assert float(found.values["N_q"]) == pytest.approx(N_q, rel=1e-9)


def test_clay_below_a_strip_bears_by_prandtl() -> None:
    found = api.bearing("Vesic 1975", B=1.0, L=1e9, overburden=0.0, weight=0.0, cohesion=np.array([20.0, 40.0]))
    assert found.pressure == pytest.approx((math.pi + 2) * np.array([20.0, 40.0]), rel=2e-3)


def test_arrays_are_single_calls() -> None:
    sizes = np.array([1.0, 1.5, 2.0])
    many = api.bearing(
        "Brinch Hansen 1970",
        B=sizes,
        L=2.5,
        overburden=18.0,
        weight=19.0,
        friction_angle=32.0,
        N=500.0,
        H_B=40.0,
    )
    for size, pressure in zip(sizes, many.pressure):
        one = api.bearing(
            "Brinch Hansen 1970",
            B=size,
            L=2.5,
            overburden=18.0,
            weight=19.0,
            friction_angle=32.0,
            N=500.0,
            H_B=40.0,
        )
        assert float(one.pressure) == pytest.approx(float(pressure), rel=1e-12)


def test_pressure_is_in_equilibrium() -> None:
    middle = api.contact(600.0, 0.0, 0.0, B=2.0, L=3.0)
    assert (float(middle.peak), float(middle.share)) == pytest.approx((100.0, 1.0))
    # a triangle over a third: e = B/2 - 1/9 B
    lost = api.contact(600.0, 0.0, 600.0 * (1.0 - 2.0 / 9), B=2.0, L=3.0)
    assert float(lost.share) == pytest.approx(1 / 3, rel=1e-9)
    assert float(lost.peak) == pytest.approx(600.0, rel=1e-9)
    round_ = api.contact(500.0, 0.0, 50.0, B=2.0)
    assert float(round_.peak) == pytest.approx(500 / math.pi + 50 * 32 / (math.pi * 2.0**3), rel=1e-6)
    ring = api.contact(500.0, -30.0, 40.0, B=2.0, hole=1.0)
    inertia = math.pi * (2.0**4 - 1.0) / 64
    assert float(ring.peak) == pytest.approx(500 / (math.pi * 0.75) + 50 / inertia, rel=1e-6)
    assert not api.contact(100.0, 0.0, 150.0, B=2.0, L=2.0).stable


def test_stress_below_the_corner_is_newmark() -> None:
    """m = n = 1: 0.1752 of the pressure (Newmark 1935, in Steinbrenner's closed form)."""
    exact = (2 * math.sqrt(3) / 4 * 4 / 3 + math.atan2(2 * math.sqrt(3), 3 - 1)) / (4 * math.pi)
    assert float(api.stress_below(1.0, 2.0, 2.0, z=2.0, x=1.0, y=1.0)) == pytest.approx(exact, rel=1e-9)
    assert float(api.stress_below(100.0, 1e4, 1e4, z=1.0)) == pytest.approx(100.0, rel=1e-6)


@pytest.mark.parametrize("standard", api.CONCRETE_STANDARDS)
def test_steel_is_in_equilibrium(standard: str) -> None:
    """The block and the steel carry the moment: force times lever arm, at the material factors that the pairs of forces
    show."""
    small, large = (float(api.flexural_steel(standard, m, d=0.5, f_c=30.0, f_y=500.0)[0]) for m in (1.0, 200.0))
    lever = 0.5 * (200.0 / large) / (1.0 / small)  # that of a tiny moment is d
    assert 0.4 < lever < 0.5
    steel, used = api.flexural_steel(standard, np.array([10.0, 5000.0]), d=0.5, f_c=30.0, f_y=500.0)
    assert used[0] < 1.0 < used[1]
    assert steel.shape == (2,)
    thick, thin = api.one_way_shear(standard, d=np.array([0.6, 0.3]), f_c=30.0, steel_ratio=0.004)
    assert 0.0 < thick <= thin


@pytest.mark.long
def test_a_project_as_plain_values(tmp_path: Path) -> None:
    project = coombe()
    api.save(project, tmp_path / "c.korbent")
    found = api.check(tmp_path / "c.korbent")
    assert json.loads(json.dumps(found, allow_nan=False)) == found
    assert len(found["checks"]) == len(evaluate(project).all_checks)
    row = next(r for r in found["checks"] if r["ratio"] and r["combination"])
    lines = api.explain(project, row["foundation"], row["check"])
    assert lines
    rows = api.situations(project, row["foundation"], row["check"])
    assert rows[0]["ratio"] == pytest.approx(row["ratio"], rel=1e-9)
    assert api.settlement(project) == found["settlement"]


def test_what_is_wrong_is_said() -> None:
    with pytest.raises(ValueError, match="no method"):
        api.bearing("mine", B=1, L=1, overburden=0, weight=18)
    with pytest.raises(ValueError, match="all above zero"):
        api.bearing("Vesic 1975", B=1, L=1, overburden=0, weight=18, friction_angle=np.array([0.0, 30.0]))
    with pytest.raises(ValueError, match="no standard"):
        api.flexural_steel("mine", 1.0, d=0.5, f_c=30, f_y=500)
    with pytest.raises(KeyError):
        api.explain(coombe(), "nowhere", "punching")


def test_a_plate_is_in_balance_and_a_stiff_one_presses_evenly() -> None:
    stiff = api.plate(B=6.0, L=4.0, h=3.0, E=3e8, k=10_000.0, columns=[(0, 0, 0.5, 0.5, 960.0)], pressure=10.0)
    assert stiff.pressure == pytest.approx(960.0 / 24 + 10.0, rel=2e-3)
    assert stiff.settlement == pytest.approx(5.0, rel=2e-3)
    assert stiff.residual < 1e-8
    assert stiff.m_x.shape == (len(stiff.x), len(stiff.y))


def test_a_plate_lifts_yields_and_has_openings() -> None:
    column = (2.4, 0.0, 0.4, 0.4, 600.0)
    lifted = api.plate(B=6.0, L=4.0, h=0.5, E=3e7, k=10_000.0, columns=[column])
    held = api.plate(B=6.0, L=4.0, h=0.5, E=3e7, k=10_000.0, columns=[column], lifts=False)
    assert held.pressure.min() < 0 <= lifted.pressure.min()
    full = api.plate(B=6.0, L=4.0, h=0.5, E=3e7, k=10_000.0, columns=[column], greatest=150.0)
    assert full.pressure.max() == 150.0
    hole = api.plate(B=6.0, L=4.0, h=0.5, E=3e7, k=10_000.0, columns=[column], openings=[(-1, 0, -1, 1)])
    assert np.isnan(hole.settlement).any()
    for wrong, says in (
        ({"h": 0.0}, "h is 0"),
        ({"columns": [(3, 0, 0.4, 0.4, 1.0)]}, "column 1 reaches over"),
        ({"k": -1.0}, "k is -1"),
    ):
        with pytest.raises(ValueError, match=says):
            api.plate(**({"B": 6.0, "L": 4.0, "h": 0.5, "E": 3e7, "k": 1e4, "columns": [column]} | wrong))  # type: ignore[arg-type]


@pytest.mark.long
def test_fields_of_a_raft_along_a_rib_and_a_strap_are_those_of_the_checks() -> None:
    project = hollin()
    field = api.raft(project, "R1", "settlement")
    assert field["unit"] == "mm"
    assert 10 < np.nanmax(field["values"]) < 60
    along = api.rib(project, "R1", "X3")
    assert along["at"][0] == pytest.approx(-6.5)
    assert along["moment"].shape == (2, len(along["at"]))
    assert (along["moment"][0] <= along["moment"][1]).all()
    tied = api.strap(lindmere(), "S1")
    assert tied["moment"].min() < 0
    assert tied["plates"]["moment"].min() == pytest.approx(tied["moment"].min(), rel=0.1)
    assert {name: sum(R) for name, R in tied["reactions"].items()} == pytest.approx(
        dict.fromkeys(("statics", "plates", "stiff"), sum(tied["reactions"]["statics"])), rel=1e-6
    )
    assert 5 < tied["settled"][0] < tied["settled"][1] < 60
    bare = lindmere().replaced(ground=lindmere().ground.replaced(boreholes=()))
    assert "settles by nothing" in api.strap(bare, "S1")["plates"]
    for call in (
        lambda: api.raft(project, "R1", "colour"),
        lambda: api.rib(project, "R1", "Q"),
        lambda: api.strap(project, "S9"),
    ):
        with pytest.raises(KeyError):
            call()
    with pytest.raises(ValueError, match="no raft"):
        api.raft(coombe(), coombe().pads[0].name, "m_x")
