"""What is proposed, taken and evaluated again has the ratio that was promised, for every kind of base; first sizes;
costs below."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from korbent.core.evaluate import evaluate
from korbent.core.geometry import table
from korbent.core.model import (
    Bars,
    Load,
    LoadPoint,
    Project,
    Reinforcement,
    Replacement,
    Settings,
    edited,
)
from korbent.core.model.site import Range, Rates
from korbent.core.sizing.cost import quantities, value_of
from korbent.core.sizing.first_size import first_size
from korbent.core.sizing.propose import proposal, taken, types_against_cost
from korbent.verification.pad import one_pad
from tests.core.test_several_columns import pair

STEEL = Reinforcement(bottom_x=Bars(diameter=0.020, spacing=0.1), bottom_y=Bars(diameter=0.020, spacing=0.1))


def worst(project: Project) -> float:
    """Over all pads."""
    return max(
        math.inf if c.ratio is None and c.state.value in ("fails", "unstable") else c.ratio or 0.0
        for pad in evaluate(project).pads
        for c in pad.checks
    )


def of_kind(kind: str, V: float, H: float) -> Project:
    load = Load(V=V, Hx=H)
    if kind == "two columns":
        return pair(Load(V=V), Load(V=0.7 * V))
    changes: dict[str, object] = {"reinforcement": STEEL, "width": 2.4, "length": 2.4, "thickness": 0.6}
    if kind == "circle":
        changes |= {"shape": "circle"}
    if kind == "ring":
        changes |= {"shape": "ring", "hole": 0.6}
    if kind == "held edge":
        changes |= {"offset_x": -0.9, "hold_x": "-x"}
    if kind == "number of bars":
        changes |= {
            "reinforcement": Reinforcement(
                bottom_x=Bars(diameter=0.020, number=20), bottom_y=Bars(diameter=0.020, number=20)
            )
        }
    project = one_pad(load=load, **changes)
    if kind == "wall":
        point = project.actions.load_points[0].replaced(kind="concrete_wall", size_x=0.3, size_y=2.4)
        project = project.replaced(actions=project.actions.replaced(load_points=(point,)))
    return project


@pytest.mark.long
@settings(max_examples=4)
@pytest.mark.parametrize(
    "kind",
    ["rectangle", "circle", "ring", "held edge", "wall", "two columns", "number of bars"],
)
@given(st.floats(200.0, 700.0), st.floats(0.0, 40.0))
def test_what_is_promised_is_what_is_found(kind: str, V: float, H: float) -> None:
    project = of_kind(kind, V, H)
    found = proposal(project, project.pads)
    if found.sizes is None:
        return
    again = taken(project, [found])
    pad = again.pads[0]
    if pad.is_round:
        assert pad.width == pad.length
        assert "length" not in found.sizes
    assert worst(again) == pytest.approx(found.ratio, rel=2e-3)
    assert worst(again) <= 1.0 + 2e-3
    cost = float(value_of(project.rates, quantities(again, pad, table(pad)), "volume")[0])
    assert cost == pytest.approx(found.after, rel=1e-9)


def test_the_range_of_a_diameter_may_stand_at_either_size() -> None:
    project = of_kind("circle", 900.0, 0.0)
    pad = project.pads[0].replaced(ranges={"length": Range(low=2.6, high=3.0)})
    found = proposal(project.replaced(pads=(pad,)), (pad,))
    assert found.sizes is not None
    assert 2.6 <= found.sizes["width"] <= 3.0
    pinned = project.pads[0].replaced(ranges={"length": Range(pinned=True), "thickness": Range(pinned=True)})
    assert proposal(project.replaced(pads=(pinned,)), (pinned,)).remark == "every dimension is pinned"


@pytest.mark.long
def test_a_circle_and_a_square_of_one_type_are_proposed_together() -> None:
    project = one_pad(load=Load(V=500.0), width=2.0, length=2.0, reinforcement=STEEL)
    point = project.actions.load_points[0]
    second = point.replaced(name="D", x=40.0, loads={"G": Load(V=400.0)})
    first = project.pads[0]
    round_ = first.replaced(name="R", load_point="D", shape="circle")
    both = project.replaced(actions=project.actions.replaced(load_points=(point, second)), pads=(first, round_))
    found = proposal(both, both.pads)
    again = taken(both, [found])
    assert worst(again) == pytest.approx(found.ratio, rel=2e-3)
    assert types_against_cost(both, [found], "volume")[0].cost == pytest.approx(found.after, rel=1e-6)


def test_the_curve_of_types_keeps_what_is_pinned() -> None:
    """A proposal whose thickness is pinned says nothing of it: the base's own counts."""
    project = one_pad(load=Load(V=500.0), width=2.0, length=2.0, reinforcement=STEEL)
    pad = project.pads[0].replaced(ranges={"thickness": Range(pinned=True)})
    project = project.replaced(pads=(pad,))
    found = proposal(project, project.pads)
    assert found.sizes is not None
    assert "thickness" not in found.sizes
    assert types_against_cost(project, [found], "volume")[0].cost == pytest.approx(found.after)


def test_nothing_holds_is_said_after_a_fine_net_only() -> None:
    """One size of the raster alone holds, away from the coarse nets."""
    project = one_pad(load=Load(V=300.0), width=1.0, length=1.0, reinforcement=STEEL)
    ranges = {
        "width": Range(low=1.0, high=4.0),
        "length": Range(low=1.0, high=4.0),
        "thickness": Range(low=0.3, high=1.1),
    }
    pad = project.pads[0].replaced(ranges=ranges)
    project = project.replaced(pads=(pad,))
    found = proposal(project, project.pads)
    assert found.sizes is not None
    assert found.evaluated > 0


# first sizes


def wall(length: float, V: float, table_: tuple[tuple[float, float, float], ...] = (), turned: float = 0.0) -> Project:
    project = one_pad(load=Load(V=V))
    point = LoadPoint(
        name="W",
        kind="concrete_wall",
        x=30.0,
        y=0.0,
        size_x=length,
        size_y=0.3,
        level=0.0,
        rotation=turned,
        loads={"G": Load(V=V)},
    )
    points = (*project.actions.load_points, point)
    return project.replaced(
        actions=project.actions.replaced(load_points=points),
        settings=Settings(presumed_pressure=None if table_ else 200.0, presumed_table=table_),
    )


def test_a_wall_gets_a_strip_not_a_square() -> None:
    found = first_size(wall(12.0, 1800.0), "W").pad
    assert found.width == pytest.approx(12.3)
    assert found.length == pytest.approx(math.ceil(1.1 * 1800 / 200 / 12.3 / 0.05) * 0.05)
    assert found.width * found.length * found.thickness < 5.0
    turned = first_size(wall(12.0, 1800.0, turned=30.0), "W").pad
    assert turned.rotation == 30.0


def test_the_presumed_pressure_is_that_of_the_width_found() -> None:
    rising = ((0.5, 0.5, 100.0), (0.5, 3.0, 350.0))
    project = wall(6.0, 900.0, rising)
    found = first_size(project, "W").pad
    pressure = 100 + (found.length - 0.5) * 100
    assert found.length * found.width * pressure >= 1.1 * 900 - 1e-6
    less = found.length - 0.05
    assert less * found.width * (100 + (less - 0.5) * 100) < 1.1 * 900


# what lies below is paid


def test_a_replacement_is_paid_as_far_as_it_reaches() -> None:
    project = one_pad(width=2.0, length=2.4)
    bare = quantities(project, project.pads[0], table(project.pads[0]))
    for kind in ("granular", "concrete"):
        pad = project.pads[0].replaced(replacement=Replacement(kind=kind, thickness=0.8, spread=0.5))  # type: ignore[arg-type]
        found = quantities(project, pad, table(pad))
        placed = (2.0 + 0.8) * (2.4 + 0.8) * 0.8
        assert float(found.fill[0] + found.lean[0]) == pytest.approx(placed)
        assert float(found.fill[0] > 0) == (kind == "granular")
        assert float(found.excavation[0] - bare.excavation[0]) == pytest.approx(placed)
        rates = Rates(fill=40.0, lean=100.0, excavation=20.0)
        more = value_of(rates, found, "cost") - value_of(rates, bare, "cost")
        assert float(more[0]) == pytest.approx(placed * (20 + (40 if kind == "granular" else 100)))
        assert float(value_of(rates, found, "volume")[0]) == pytest.approx(float(bare.concrete[0]))
        carbon = value_of(rates, found, "carbon") - value_of(rates, bare, "carbon")
        assert float(carbon[0]) > 0


def test_a_deeper_replacement_costs_more() -> None:
    project = edited(one_pad(), ("rates", "fill"), 60.0)
    costs = []
    for t in (0.2, 0.5, 1.0):
        pad = project.pads[0].replaced(replacement=Replacement(thickness=t))
        costs.append(float(value_of(project.rates, quantities(project, pad, table(pad)), "cost")[0]))
    assert np.all(np.diff(costs) > 0)
