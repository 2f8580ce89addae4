"""Concrete of bases under several columns: statics of the beam, punching of each column, mirrored and turned bases."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.bench import bench_for
from korbent.core.checks import CheckResult, State
from korbent.core.concrete.pad import concrete_pad
from korbent.core.concrete.several import columns_of, sections_at
from korbent.core.evaluate import evaluate_pad
from korbent.core.explain.state import base_state
from korbent.core.explain.working import working
from korbent.core.geometry import table
from korbent.core.model import Bars, Dowels, Load, LoadPoint, Pedestal, Project, Reinforcement, edited
from korbent.core.working import SILENT
from korbent.verification.pad import one_pad

STEEL = Reinforcement(
    bottom_x=Bars(diameter=0.02, spacing=0.15),
    bottom_y=Bars(diameter=0.02, spacing=0.15),
    top_x=Bars(diameter=0.02, spacing=0.15),
    top_y=Bars(diameter=0.016, spacing=0.2),
)


def pair(
    first: Load,
    second: Load,
    apart: float = 3.0,
    y: float = 0.0,
    standard: str = "EN 1992-1-1:2004",
    **changes: Any,
) -> Project:
    """Two columns 0.4 x 0.4 on a base of 5.0 x 2.2 x 0.6 m, 1.5 m to either side of its middle."""
    changes = {
        "width": 5.0,
        "length": 2.2,
        "thickness": 0.6,
        "offset_x": -apart / 2,
        "reinforcement": STEEL,
    } | changes
    project = one_pad(load=first, **changes)
    c = project.actions.load_points[0]
    points = (c, LoadPoint(name="D", x=apart, y=y, size_x=0.4, size_y=0.4, level=0.0, loads={"G": second}))
    project = project.replaced(actions=project.actions.replaced(load_points=points))
    project = project.replaced(pads=(project.pads[0].replaced(further=("D",)),))
    return edited(project, ("standards", "concrete"), standard)


def check(project: Project, name: str) -> CheckResult:
    return evaluate_pad(project, project.pads[0]).check(name)


def beam(project: Project, axis: str, at: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    bench = bench_for(project, project.pads, np.zeros(1, dtype=int), table(project.pads[0]))
    situations = bench.situations("concrete")
    forces = bench.forces(situations, SILENT)
    contact = bench.geometry.footprint.contact(forces.N, forces.Mx, forces.My)
    pad = concrete_pad(bench.geometry, situations, forces, contact, bench.settings, bench.standards.concrete)
    found = sections_at(pad, columns_of(bench, situations), axis, at.reshape(-1, 1, 1))
    return found.shear[:, 0, 0], found.moment[:, 0, 0]


force = st.floats(150.0, 900.0)


@given(force, force, st.floats(-60, 60), st.floats(-40, 40), st.floats(-25, 25))
def test_the_beam_is_in_equilibrium_at_its_other_end(V1: float, V2: float, M: float, H: float, across: float) -> None:
    """Shear and moment from one end come out as zero at the other: pressure, weights and columns balance."""
    project = pair(Load(V=V1, Hx=H, My=M, Mx=across), Load(V=V2, Hx=-H / 2, Hy=across / 3))
    for axis, size in (("x", 5.0), ("y", 2.2)):
        shear, moment = beam(project, axis, np.array([-size / 2]))
        assert shear[0] == pytest.approx(0.0, abs=1e-6)
        assert moment[0] == pytest.approx(0.0, abs=1e-6)


@given(st.floats(-2.2, 2.2))
def test_the_shear_is_the_slope_of_the_moment(x: float) -> None:
    project = pair(Load(V=700.0, My=30.0), Load(V=500.0))
    if min(abs(x - 1.5), abs(x + 1.5)) < 0.01:
        return
    h = 1e-4
    shear, moment = beam(project, "x", np.array([x - h, x, x + h]))
    assert (moment[2] - moment[0]) / (2 * h) == pytest.approx(-shear[1], rel=1e-3, abs=0.05)


def test_a_symmetric_base_by_hand() -> None:
    """Two equal columns: net pressure p over 5.0 m; at the face outside p B c^2/2, at midspan that of the strip less
    the column."""
    project = pair(Load(V=600.0), Load(V=600.0))
    net = (1200 - 2 * 18 * 0.6 * 0.16) / 5.0  # kN per metre; weights cancel, but not the soil that the columns displace
    _, moment = beam(project, "x", np.array([1.7, 0.0]))
    assert moment[0] == pytest.approx(net * 0.8**2 / 2, rel=1e-6)
    assert moment[1] == pytest.approx(net * 2.5**2 / 2 - (600 - 18 * 0.6 * 0.16) * 1.5, rel=1e-6)
    assert moment[1] < 0 < moment[0]
    top, bottom = check(project, "top-x"), check(project, "bottom-x")
    assert top.state in (State.HOLDS, State.FAILS)
    assert bottom.ratio is not None


def test_top_steel_is_asked_for_between_the_columns() -> None:
    none = STEEL.replaced(top_x=None)
    found = check(pair(Load(V=250.0), Load(V=250.0), reinforcement=none), "top-x")
    assert "has no bars: plain concrete" in found.message
    weak = check(pair(Load(V=1500.0), Load(V=1500.0), reinforcement=none, thickness=0.4), "top-x")
    assert weak.state is State.FAILS
    assert "has no bars, and more tension" in weak.message
    # columns near each other: nothing lifts between them
    close = check(pair(Load(V=600.0), Load(V=600.0), apart=1.2, offset_x=-0.6), "top-x")
    assert close.state is State.NOT_APPLICABLE


def test_bands_across_the_row_by_hand() -> None:
    """V/L over the size across, cantilever from the face, in the band column + d: more per metre than the whole
    width."""
    project = pair(Load(V=900.0), Load(V=500.0), offset_x=-1.1)
    found = check(project, "bottom-y")
    d_y = 0.6 - 0.05 - 0.02 - 0.01
    band = 0.4 + d_y
    m = 900 / 2.2 * 0.9**2 / 2 / band
    lever = d_y * 0.95
    assert found.demand == pytest.approx(m / lever / (500 / 1.15) * 1000, rel=0.06)


@pytest.mark.parametrize("standard", ["EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018"])
def test_punching_is_that_of_each_column_alone_at_its_place(standard: str) -> None:
    """The worse of the two; a single column of the same load at the same place under the same pressure gives the
    same."""
    project = pair(Load(V=800.0), Load(V=500.0), standard=standard)
    found = check(project, "punching")
    assert found.ratio is not None
    assert "C " in found.message
    light = edited(project, ("actions", "load_points", "C", "loads", "G", "V"), 100.0)
    assert "D " in check(light, "punching").message
    state = base_state(project, project.pads[0], "concrete", 0)
    assert state is not None
    # the same pressure from one column and moments: only its own share of the load punches
    alone = one_pad(
        load=Load(V=800.0),
        width=5.0,
        length=2.2,
        thickness=0.6,
        offset_x=-1.5,
        reinforcement=STEEL,
    )
    alone = edited(alone, ("standards", "concrete"), standard)
    assert check(alone, "punching").capacity == pytest.approx(found.capacity, rel=0.35)


@pytest.mark.parametrize("standard", ["EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018"])
def test_a_mirrored_base_gives_the_same(standard: str) -> None:
    first, second = Load(V=700.0, My=40.0, Hx=20.0), Load(V=450.0)
    project = pair(first, second, standard=standard)
    other = pair(second, Load(V=700.0, My=-40.0, Hx=-20.0), standard=standard)
    # mirrored about y: the columns change places, moments about y and forces along x change sign
    one, mirrored = (evaluate_pad(p, p.pads[0]) for p in (project, other))
    for name in ("punching", "shear-x", "shear-y", "bottom-x", "bottom-y", "top-x"):
        assert one.check(name).ratio == pytest.approx(mirrored.check(name).ratio, rel=1e-9), name


@pytest.mark.long
def test_every_ratio_opens_its_working() -> None:
    for standard in ("EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018"):
        project = pair(Load(V=700.0, My=40.0), Load(V=450.0), standard=standard)
        for result in evaluate_pad(project, project.pads[0]).checks:
            if result.check.group == "concrete" and result.ratio is not None:
                found = working(project, project.pads[0], result.check.id)
                assert not isinstance(found, CheckResult), result.check.id
                assert found.lines()
                value = float(np.ravel(found.recording.steps[found.step].value)[0])
                assert value == pytest.approx(result.ratio, rel=1e-6), result.check.id


def test_four_columns_are_checked_both_ways(demo: Project) -> None:
    from korbent.core.sizing.first_size import combined

    project, found = combined(demo, ("B2", "C2", "B3", "C3"))
    result = evaluate_pad(project, project.pad(found.pad.name))
    for name in ("punching", "shear-x", "shear-y", "bottom-x", "bottom-y"):
        assert result.check(name).ratio is not None


def test_each_column_stands_on_the_base_and_has_its_dowels() -> None:
    """A pedestal's bars go down into the base below its own column; dowels that are given go under every column."""
    project = pair(Load(V=900.0), Load(V=600.0))
    pad = project.pads[0]
    found = evaluate_pad(project, pad)
    bearing = found.check("bearing-concrete")
    assert bearing.demand == pytest.approx(
        max(p.loads["G"].V for p in project.actions.load_points) / 0.16 / 1000, rel=1e-6
    )
    assert found.check("dowels").state is State.NOT_APPLICABLE
    doweled = edited(project, ("pads", pad.name, "dowels"), Dowels(number=8, diameter=0.016))
    assert evaluate_pad(doweled, doweled.pads[0]).check("dowels").ratio is not None
    on_pedestal = edited(project, ("pads", pad.name, "pedestal"), Pedestal(size_x=0.5, size_y=0.5, top=0.2))
    anchored = evaluate_pad(on_pedestal, on_pedestal.pads[0]).check("dowels-anchorage")
    assert anchored.ratio is not None


def test_the_band_of_isolated_footings_is_not_added_under_several_columns() -> None:
    """ACI 318-19 13.3.3.3 is for one column: across a row the bands under the columns stand for it."""
    project = pair(Load(V=900.0), Load(V=600.0), standard="ACI 318-19")
    found = working(project, project.pads[0], "bottom-y")
    assert not [s for s in found.recording.steps if s.symbol == "k_b"]  # type: ignore[union-attr]
    alone = edited(one_pad(width=5.0, length=2.2, load=Load(V=900.0)), ("standards", "concrete"), "ACI 318-19")
    assert [s for s in working(alone, alone.pads[0], "bottom-y").recording.steps if s.symbol == "k_b"]  # type: ignore[union-attr]
