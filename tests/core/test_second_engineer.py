"""Random pads against the second engineer, check by check."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from korbent.core.checks import Outcome
from korbent.core.evaluate import outcomes_for
from korbent.core.explain.state import base_state
from korbent.core.explain.working import working
from korbent.core.geometry import table
from korbent.core.model import Load, Pedestal, Project, edited
from korbent.verification.pad import one_pad
from tests.core.second_engineer import Numbers, bearing, forces, pressure, punching, section, steel

BACKFILL, CONCRETE, FINISHED = (18.0, 20.0), 25.0, 0.0


@st.composite
def pads(draw: st.DrawFn) -> tuple[Project, Numbers]:
    """A random pad with its numbers, in the combination with factors of one."""
    B, L = draw(st.floats(1.2, 3.5)), draw(st.floats(1.2, 3.5))
    h = draw(st.floats(0.35, 0.8))
    underside = draw(st.floats(-2.2, -0.9))
    offset = draw(st.floats(-0.15, 0.15)) * B, draw(st.floats(-0.15, 0.15)) * L
    rotation = draw(st.sampled_from([0.0, 0.0, 90.0, 17.0, -133.0]))
    V = draw(st.floats(300.0, 1500.0))
    share = st.floats(-0.12, 0.12)
    load = (V, draw(share) * V, draw(share) * V, draw(share) * V, draw(share) * V)
    water = draw(st.sampled_from([-8.0, -1.5, -0.4]))
    pedestal = draw(st.booleans())
    changes: dict[str, Any] = {
        "load": Load(V=load[0], Hx=load[1], Hy=load[2], Mx=load[3], My=load[4]),
        "width": B,
        "length": L,
        "thickness": h,
        "level": underside,
        "rotation": rotation,
        "offset_x": offset[0],
        "offset_y": offset[1],
    }
    if pedestal:
        changes["pedestal"] = Pedestal(size_x=0.6, size_y=0.5, top=0.2)
    project = one_pad(**changes)
    project = edited(project, ("actions", "load_points", "C", "rotation"), rotation)
    project = edited(project, ("ground", "water"), {"low": water, "normal": water, "high": max(water, -0.3)})
    numbers = Numbers(
        B=B,
        L=L,
        h=h,
        underside=underside,
        column=(0.4, 0.4),
        offset=offset,
        rotation=rotation,
        load=load,
        load_level=0.0,
        factor=1.0,
        weight_factor=1.0,
        finished=FINISHED,
        water=water,
        backfill=BACKFILL,
        concrete=CONCRETE,
        pedestal_top=0.2 if pedestal else None,
        pedestal=(0.6, 0.5) if pedestal else (0.0, 0.0),
    )
    return project, numbers


def outcome(project: Project, check: str) -> Outcome:
    pad = project.pads[0]
    return next(o for o in outcomes_for(project, pad, table(pad)) if o.check.id == check)


def inside(f: dict[str, float], n: Numbers, limit: float = 0.45) -> bool:
    return f["N"] > 50 and abs(f["My"]) < limit * n.B * f["N"] and abs(f["Mx"]) < limit * n.L * f["N"]


@given(pads())
def test_forces_at_the_underside(case: tuple[Project, Numbers]) -> None:
    project, n = case
    f = forces(n)
    state = base_state(project, project.pads[0], "allowable", 0)
    assert state is not None
    assert [state.V, state.N, state.Hx, state.Hy, state.column] == pytest.approx(
        [f["V"], f["N"], f["Hx"], f["Hy"], f["column"]], rel=1e-9, abs=1e-9
    )
    if f["N"] > 1:
        assert [state.e_x, state.e_y] == pytest.approx([f["My"] / f["N"], -f["Mx"] / f["N"]], abs=1e-9)


@given(pads())
def test_pressure_plane(case: tuple[Project, Numbers]) -> None:
    project, n = case
    f = forces(n)
    assume(inside(f, n, 0.42))
    state = base_state(project, project.pads[0], "allowable", 0)
    assert state is not None
    a, b, c = pressure(f["N"], f["My"] / f["N"], -f["Mx"] / f["N"], n.B, n.L)
    scale = f["N"] / n.B / n.L
    assert state.plane[0] == pytest.approx(a, abs=0.02 * scale)
    assert state.plane[1] * n.B == pytest.approx(b * n.B, abs=0.03 * scale)
    assert state.plane[2] * n.L == pytest.approx(c * n.L, abs=0.03 * scale)


@given(pads())
def test_drained_resistance(case: tuple[Project, Numbers]) -> None:
    project, n = case
    f = forces(n)
    assume(inside(f, n, 0.4))
    found = outcome(project, "resistance-drained")
    water = min(n.water, FINISHED)
    overburden = 18.0 * min(-n.underside, max(0.0, -water)) + (20 - 9.81) * max(0.0, water - n.underside)
    phi = math.degrees(math.atan(math.tan(math.radians(30)) / 1.25))
    demand, resistance = bearing(f, n, 5 / 1.25, phi, overburden, (18.0, 20.0))
    assert found.demand[0, 0] == pytest.approx(demand, rel=1e-9)
    assert found.capacity[0, 0] == pytest.approx(resistance, rel=1e-9)


@given(pads())
def test_sliding(case: tuple[Project, Numbers]) -> None:
    project, n = case
    f = forces(n)
    assume(f["N"] > 50)
    found = outcome(project, "sliding-drained")
    H = math.hypot(n.load[1], n.load[2])
    assert found.ratio[0, 0] == pytest.approx(H / (f["N"] * math.tan(math.radians(30)) / 1.25), rel=1e-9)


@pytest.mark.long
@given(pads())
def test_flexure_and_shear(case: tuple[Project, Numbers]) -> None:
    project, n = case
    project = edited(project, ("settings", "flexure_bands"), "whole_width")
    f = forces(n)
    assume(inside(f, n, 0.4))
    plane = pressure(f["N"], f["My"] / f["N"], -f["Mx"] / f["N"], n.B, n.L)
    face = n.pedestal if n.pedestal_top is not None else n.column
    d_x = n.h - 0.05 - 0.008
    for axis, i, d in (("x", 0, d_x), ("y", 1, d_x - 0.016)):
        other = n.L if axis == "x" else n.B
        size = n.B if axis == "x" else n.L
        required, stress = [], []
        for sign in (1, -1):
            at = sign * n.offset[i] + face[i] / 2
            _, moment = section(plane, n, f["w"], axis, sign, at)
            required.append(steel(max(moment, 0.0) / other, d, 30.0, 500.0))
            beyond = min(at + d, size / 2)
            shear = section(plane, n, f["w"], axis, sign, beyond)[0] if beyond < size / 2 else 0.0
            stress.append(abs(shear) / other / d / 1000)
        bottom = outcome(project, f"bottom-{axis}")
        if float(bottom.ratio.max()) < 3:
            assert bottom.demand[0].max() == pytest.approx(max(required), rel=0.02, abs=3.0)
        assert outcome(project, f"shear-{axis}").demand[0].max() == pytest.approx(max(stress), rel=0.02, abs=2e-3)


@given(pads())
def test_punching(case: tuple[Project, Numbers]) -> None:
    project, n = case
    f = forces(n)
    assume(inside(f, n, 0.3))
    found = working(project, project.pads[0], "punching")
    values = {s.symbol: np.asarray(s.value).ravel()[0] for s in found.recording.steps if "punching" in s.scope}  # type: ignore[union-attr]
    assume(abs(values["x_u"]) + abs(values["y_u"]) < 1e-9)  # closed perimeters
    plane = pressure(f["N"], f["My"] / f["N"], -f["Mx"] / f["N"], n.B, n.L)
    d = n.h - 0.05 - 0.016
    arm = 0.0 - (n.underside + n.h)
    stress = punching(f, n, plane, d, float(values["a"]), arm)
    governing = outcome(project, "punching")
    assert governing.demand[0, 0] == pytest.approx(stress, rel=0.03, abs=5e-3)
    # the search found the worst of all closed perimeters that fit
    face = n.pedestal if n.pedestal_top is not None else n.column
    clear = min(n.B / 2 - abs(n.offset[0]) - face[0] / 2, n.L / 2 - abs(n.offset[1]) - face[1] / 2)
    k = min(1 + math.sqrt(0.2 / d), 2.0)
    rho = math.sqrt(1.0053e-3 / (d + 0.008) * 1.0053e-3 / (d - 0.008))
    basic = max(0.12 * k * (100 * rho * 30) ** (1 / 3), 0.035 * k**1.5 * 30**0.5)
    for share in (0.3, 0.6, 1.0, 1.5):
        if share * d < clear:
            ratio = punching(f, n, plane, d, share * d, arm) / (basic * 2 / share)
            assert governing.ratio[0, 0] >= ratio * 0.97 - 5e-3


@given(pads())
def test_overturning_and_uplift(case: tuple[Project, Numbers]) -> None:
    """EQU: 0.9 G with 1.0 E; UPL the same with high water."""
    project, n = case
    high = project.ground.water.high if project.ground.water else -8.0
    G = Numbers(**{**vars(n), "factor": 0.9, "weight_factor": 0.9})
    E = Numbers(**{**vars(n), "load": (-100.0, 30.0, 0.0, 0.0, 90.0), "weight_factor": 0.0})
    g, e = forces(G), forces(E)
    loads_only = forces(Numbers(**{**vars(G), "weight_factor": 0.0}))
    lever = n.B / 2
    over = back = 0.0
    for part in (loads_only, e):
        moment = part["My"] - part["V"] * lever
        over, back = over + max(moment, 0.0), back + max(-moment, 0.0)
    weights = (g["V"] - loads_only["V"]) * lever - (g["My"] - loads_only["My"])
    found = outcome(project, "overturning")
    assert found.demand[0, 0] == pytest.approx(over + g["U"] * lever, rel=1e-9, abs=1e-9)
    assert found.capacity[0, 0] == pytest.approx(back + weights, rel=1e-9, abs=1e-9)
    wet = forces(Numbers(**{**vars(G), "water": high}))
    uplift = outcome(project, "uplift")
    assert uplift.demand[0, 0] == pytest.approx(100.0 + wet["U"], rel=1e-9)
    assert uplift.capacity[0, 0] == pytest.approx(wet["V"], rel=1e-9)
