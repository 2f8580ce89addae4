"""The site and the plan: boundaries, held edges, clashes, first sizes, and proposals for every base."""

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from korbent.core.evaluate import effects_of, evaluate, evaluate_pad, increments_of
from korbent.core.geometry import table
from korbent.core.model import Load, Pad, Project, edited
from korbent.core.model.site import Outline, Range
from korbent.core.plan.site import conflicts, outlines_of, pinned_to_boundary
from korbent.core.sizing.cost import OBJECTIVES, of_pads, quantities, value_of
from korbent.core.sizing.first_size import first_size, placed
from korbent.core.sizing.propose import (
    Proposal,
    as_types,
    proposal,
    proposals,
    range_of,
    taken,
    types_against_cost,
)
from korbent.core.sizing.size_map import size_map, sized
from korbent.verification.pad import one_pad

SQUARE = ((-5.0, -5.0), (5.0, -5.0), (5.0, 5.0), (-5.0, 5.0))


def with_site(*outlines: Outline, **changes: object) -> Project:
    return one_pad(**changes).replaced(site=outlines)


def check(project: Project, name: str = "site"):
    return evaluate_pad(project, project.pads[0]).check(name)


# ---------------------------------------------------------------- boundaries


def test_clearance_inside_a_boundary() -> None:
    project = with_site(Outline(name="plot", points=SQUARE))
    found = check(edited(project, ("settings", "clearance"), 0.5))
    assert (found.demand, found.capacity) == (0.5, pytest.approx(5 - 1.2))
    tight = edited(edited(project, ("settings", "clearance"), 0.5), ("pads", "P", "offset_x"), -0.9)
    tight = tight.replaced(site=(Outline(name="plot", points=((-5.0, -5.0), (2.3, -5.0), (2.3, 5.0), (-5.0, 5.0))),))
    assert check(tight).ratio == pytest.approx(0.5 / 0.4)


@pytest.mark.parametrize(
    ("outline", "ok"),
    [
        (Outline(name="o", points=SQUARE), True),
        (Outline(name="o", points=((0.5, -5.0), (5.0, -5.0), (5.0, 5.0))), False),
        (Outline(name="o", closed=False, points=((1.2, -9.0), (1.2, 9.0))), True),
        (Outline(name="o", closed=False, points=((0.9, -9.0), (0.9, 9.0))), False),
        # a hundredth of a millimetre is across, what rounding leaves is not
        (Outline(name="o", closed=False, points=((0.99999, -9.0), (0.99999, 9.0))), False),
        (Outline(name="o", closed=False, points=((1.0 - 1e-15, -9.0), (1.0 - 1e-15, 9.0))), True),
        (
            Outline(name="o", points=((-5.0, -5.0), (1.0 - 1e-15, -5.0), (1.0 - 1e-15, 5.0), (-5.0, 5.0))),
            True,
        ),
        (Outline(name="o", kind="obstacle", points=((0.2, 0.2), (0.4, 0.2), (0.4, 0.4))), False),
        (Outline(name="o", kind="existing_foundation", points=((3.0, 0.0), (4.0, 0.0), (4.0, 1.0))), True),
        (Outline(name="o", kind="underlay", points=((-9.0, 0.0), (9.0, 0.0))), True),
    ],
)
def test_no_base_crosses(outline: Outline, ok: bool) -> None:
    found = check(with_site(outline))
    assert found.state.is_good is ok
    if not ok:
        assert found.message == "o is crossed"


def test_a_turned_base_reaches_further() -> None:
    line = Outline(name="wall", closed=False, points=((1.3, -9.0), (1.3, 9.0)))
    assert check(with_site(line)).state.is_good
    assert not check(with_site(line, rotation=40.0)).state.is_good


@pytest.mark.parametrize(
    ("points", "why"),
    [(((0.0, 0.0), (1.0, 1.0)), "at least three"), (((0, 0), (1, 1), (1, 0), (0, 1)), "cross each other")],
)
def test_outlines_that_are_none(points: tuple, why: str) -> None:
    with pytest.raises(ValidationError, match=why):
        Outline(name="o", points=points)


# ---------------------------------------------------------------- held edges


@given(
    hold=st.sampled_from(["-x", "+x"]),
    rotation=st.floats(0, 360),
    width=st.floats(1.0, 3.0),
    offset=st.floats(-0.3, 0.3),
)
def test_a_held_edge_and_the_column_stay(hold: str, rotation: float, width: float, offset: float) -> None:
    project = one_pad(rotation=rotation, offset_x=offset)
    pad = project.pads[0].replaced(hold_x=hold)
    grown = pad.resized(width=width)
    sign = 1.0 if hold == "+x" else -1.0
    # the edge seen from the column
    assert sign * grown.width / 2 - grown.offset_x == pytest.approx(sign * pad.width / 2 - pad.offset_x, abs=1e-8)
    assert grown.offset_y == pad.offset_y


@pytest.mark.long
def test_step_effects_and_the_map_see_the_held_edge(demo: Project) -> None:
    """Widening a base at the boundary makes it more eccentric: less is gained than with both edges free."""
    pad = demo.pad("P8")
    demo = demo.replaced(site=())
    free = demo.replaced(pads=tuple(p.replaced(hold_x="middle") if p is pad else p for p in demo.pads))

    def wider(project: Project) -> float:
        found = next(e for e in effects_of(project, project.pad("P8")) if e.dimension == "width" and e.change > 0)
        return found.ratio or math.inf

    assert wider(demo) > wider(free) + 0.02
    row = table(pad, (("width", 0.1),))[1]
    assert row[4] == pytest.approx(pad.offset_x + 0.05)
    made = sized(demo, pad, "length", 2.0, 2.5).pad("P8")
    assert made.offset_x == pytest.approx(pad.offset_x + 0.1)
    held, loose = size_map(demo, pad, every=4), size_map(free, free.pad("P8"), every=4)
    right = int(np.argmin(np.abs(held.x - (pad.width + 0.4))))
    assert held.ratio[:, right].min() > loose.ratio[:, right].min()


def test_an_edge_goes_to_the_boundary_and_is_held() -> None:
    project = with_site(Outline(name="wall", closed=False, points=((0.7, -9.0), (0.7, 9.0))), offset_x=0.0)
    found = pinned_to_boundary(project, project.pads[0], 0.05)
    assert found is not None
    pad, side = found
    assert side == "+x"
    assert (pad.hold_x, pad.offset_x) == ("+x", pytest.approx(0.35))
    new = project.replaced(pads=(pad,))
    assert outlines_of(new)[0].bounds[2] == pytest.approx(0.65)
    assert pinned_to_boundary(one_pad(), one_pad().pads[0], 0.0) is None


def test_a_frozen_base_has_no_steps_and_takes_no_size() -> None:
    poured = one_pad().pads[0].replaced(frozen="poured")
    assert increments_of(poured) == ()
    with pytest.raises(ValueError, match="P is poured: its size stays"):
        sized(one_pad().replaced(pads=(poured,)), poured, "length", 3.0, 3.0)


# ---------------------------------------------------------------- neighbours


def two(distance: float, **second: object) -> Project:
    project = one_pad()
    point = project.actions.load_points[0].replaced(name="D", x=distance)
    pad = project.pads[0].replaced(name="Q", load_point="D", **second)
    actions = project.actions.replaced(load_points=(*project.actions.load_points, point))
    return project.replaced(actions=actions, pads=(*project.pads, pad))


@pytest.mark.parametrize(
    ("project", "kinds"),
    [
        (two(5.0), []),
        (two(1.5), ["overlap"]),
        (two(2.05), ["gap"]),
        (two(3.0, level=-1.9), []),
        (two(3.0, level=-2.5), ["step"]),
        (two(2.02, level=-1.5), ["gap", "step"]),
        (two(9.5, level=-9.2), ["step"]),
        (two(10.5, level=-9.2), []),
    ],
)
def test_neighbours(project: Project, kinds: list[str]) -> None:
    assert [c.kind for c in conflicts(project)] == kinds


def test_conflicts_follow_what_they_depend_on() -> None:
    project = two(2.05)
    assert [c.kind for c in conflicts(project)] == ["gap"]
    assert conflicts(edited(project, ("actions", "load_points", "D", "loads", "G", "V"), 900.0)) is conflicts(project)
    assert conflicts(edited(project, ("actions", "load_points", "D", "x"), 2.5)) == ()
    assert conflicts(edited(project, ("settings", "gap_least"), 0.0)) == ()
    assert [c.kind for c in conflicts(project)] == ["gap"]


def test_the_demo_has_no_conflict(demo: Project) -> None:
    assert conflicts(demo) == ()


# ---------------------------------------------------------------- first sizes


def test_a_first_size_says_what_its_own_weight_came_to(demo: Project) -> None:
    first = first_size(demo, "B2")
    load = max(
        sum(f * demo.load_point("B2").loads[c].V for c, f in k.factors.items() if c in demo.load_point("B2").loads)
        for k in demo.actions.combinations
        if "allowable" in k.serves
    )
    side = math.sqrt(1.1 * load / 280.0)
    assert side <= first.pad.width < side + 0.05
    assert first.share is not None
    assert f"own weight {100 * first.share:.0f} % of the load, 10 % assumed" in first.words()


def test_pads_under_all_open_columns_at_once(demo: Project) -> None:
    open_ones = evaluate(demo).undesigned
    project, found = placed(demo, open_ones)
    assert len(found) == len(open_ones)
    assert evaluate(project).undesigned == ()
    assert placed(project, open_ones) == (project, [])


# ---------------------------------------------------------------- proposals


def cheaper_neighbours(project: Project, pad: Pad, found: Proposal) -> list[Pad]:
    assert found.sizes is not None
    out = []
    for name in ("width", "length", "thickness"):
        low, _, step = range_of(pad, name, project.units)
        if name in found.sizes and found.sizes[name] - step >= low - 1e-9:
            out.append(pad.resized(**{**found.sizes, name: round(found.sizes[name] - step, 6)}))
    return out


@pytest.mark.long
@pytest.mark.parametrize("name", ["P1", "P7", "P8"])
def test_what_is_proposed_holds_and_nothing_next_to_it_that_is_smaller(demo: Project, name: str) -> None:
    pad = demo.pad(name)
    found = proposal(demo, (pad,))
    assert found.sizes is not None
    project = taken(demo, [found])
    result = evaluate(project).pad(name)
    assert all(c.state.value not in ("fails", "unstable") for c in result.checks)
    assert result.worst.ratio == pytest.approx(found.ratio)
    for less in cheaper_neighbours(demo, pad, found):
        tried = demo.replaced(pads=tuple(less if p is pad else p for p in demo.pads))
        assert evaluate(tried).pad(name).worst.ratio is None or evaluate(tried).pad(name).worst.ratio > 1.0
    assert set(found.why_not_less) == {"width", "length", "thickness"}


@pytest.mark.long
def test_against_a_search_of_everything() -> None:
    """On a small raster the proposal is the best of all sizes."""
    project = one_pad()
    ranges = {
        "width": Range(low=1.6, high=2.6, step=0.2),
        "length": Range(low=1.6, high=2.6, step=0.2),
        "thickness": Range(low=0.4, high=0.6, step=0.1),
    }
    project = project.replaced(pads=(project.pads[0].replaced(ranges=ranges),))
    pad = project.pads[0]
    best = math.inf
    for B in np.arange(1.6, 2.61, 0.2):
        for L in np.arange(1.6, 2.61, 0.2):
            for h in (0.4, 0.5, 0.6):
                one = pad.resized(width=round(B, 3), length=round(L, 3), thickness=h)
                states = evaluate_pad(project.replaced(pads=(one,)), one)
                worst = states.worst
                if (
                    worst.ratio is not None
                    and worst.ratio <= 1.0
                    and all(c.state.value != "fails" for c in states.checks)
                ):
                    best = min(best, B * L * h)
    found = proposal(project, (pad,))
    assert found.after == pytest.approx(best)


@pytest.mark.long
def test_types_get_one_size_that_holds_for_all(demo: Project) -> None:
    found = proposals(demo)
    assert sorted(n for p in found for n in p.pads) == sorted(p.name for p in demo.pads)
    project = taken(demo, found)
    results = evaluate(project)
    for one in found:
        sizes = {(p.width, p.length, p.thickness) for p in project.pads if p.name in one.pads}
        assert len(sizes) == 1
        for name in one.pads:
            assert results.pad(name).worst.ratio <= 1.0 + 1e-9
    assert of_pads(project, "volume") == pytest.approx(sum(p.after for p in found))
    assert of_pads(project, "volume") < of_pads(demo, "volume")
    # levels are pinned unless their range says otherwise
    assert [p.underside for p in project.pads] == [p.underside for p in demo.pads]


@pytest.mark.long
def test_alike_pads_keep_to_the_ranges_of_all(demo: Project) -> None:
    first, second = demo.pad("P1"), demo.pad("P4")
    first = first.replaced(ranges={"width": Range(high=1.9), "thickness": Range(low=0.5)})
    second = second.replaced(ranges={"width": Range(low=1.8)})
    project = demo.replaced(pads=(first, second))
    found = proposal(project, (first, second))
    assert found.sizes is not None
    assert 1.8 <= found.sizes["width"] <= 1.9
    assert found.sizes["thickness"] >= 0.5
    third = second.replaced(ranges={"width": Range(low=2.5)})
    apart = proposal(demo.replaced(pads=(first, third)), (first, third))
    assert "the ranges of the width have nothing in common" in apart.remark
    pinned = second.replaced(ranges={"width": Range(pinned=True)})
    kept = proposal(demo.replaced(pads=(first, pinned)), (first, pinned))
    assert kept.sizes is None or "width" not in kept.sizes


def test_frozen_pinned_and_impossible() -> None:
    project = one_pad()
    pad = project.pads[0]
    assert "poured" in proposal(project, (pad.replaced(frozen="poured"),)).remark
    pinned = pad.replaced(ranges={n: Range(pinned=True) for n in ("width", "length", "thickness")})
    assert "pinned" in proposal(project, (pinned,)).remark
    small = pad.replaced(ranges={"width": Range(high=0.8), "length": Range(high=0.8)})
    found = proposal(project.replaced(pads=(small,)), (small,))
    assert found.sizes is None
    assert "nothing within the ranges holds" in found.remark


@pytest.mark.long
def test_a_cancelled_search_keeps_what_is_done(demo: Project) -> None:
    found = proposals(demo, stop=lambda: True)
    assert all(p.sizes is None and "cancelled" in p.remark for p in found)
    heard: list[tuple[int, int]] = []
    proposals(one_pad(), told=lambda done, of: heard.append((done, of)))
    assert heard[-1] == (1, 1)


@pytest.mark.parametrize("objective", OBJECTIVES)
def test_objectives_by_hand(objective: str) -> None:
    project = one_pad()
    pad = project.pads[0]
    found = quantities(project, pad, table(pad))
    concrete = 2.0 * 2.4 * 0.5
    steel = 2 * (math.pi * 0.008**2 / 0.2) * 2.0 * 2.4 * 7.85
    dig = (2.6 * 3.0) * 1.2
    form = 2 * 4.4 * 0.5
    expected = {
        "volume": concrete,
        "cost": 160 * concrete + 1500 * steel + 25 * dig + 55 * form,
        "carbon": 280 * concrete + 1200 * steel,
    }[objective]
    assert value_of(project.rates, found, objective)[0] == pytest.approx(expected)


@pytest.mark.long
def test_fewer_types_cost_more(demo: Project) -> None:
    demo = demo.replaced(pads=demo.pads[:6])
    found = proposals(demo, by_type=False)
    curve = types_against_cost(demo, found, "cost")
    assert [g.count for g in curve] == list(range(1, len(demo.pads) + 1))
    assert all(a.cost >= b.cost - 1e-9 for a, b in pairwise(curve))
    three = as_types(demo, curve[2])
    assert len({p.type for p in three.pads}) == 3
    assert len({(p.type, p.width, p.length, p.thickness) for p in three.pads}) == 3
    again = taken(three, proposals(three))
    assert all((p.worst.ratio or 9) <= 1.0 + 1e-9 for p in evaluate(again).pads)


@given(low=st.floats(0.5, 3.0), width=st.floats(0.0, 2.0), step=st.sampled_from([0.05, 0.1, 0.25]))
@settings(max_examples=50)
def test_ranges_keep_to_their_raster(low: float, width: float, step: float) -> None:
    pad = one_pad().pads[0].replaced(ranges={"width": Range(low=low, high=low + width, step=step)})
    a, b, s = range_of(pad, "width", "metric")
    assert a >= low - 1e-8
    assert a <= b
    assert a / s == pytest.approx(round(a / s), abs=1e-6)


def test_bad_ranges_are_refused() -> None:
    with pytest.raises(ValidationError, match="above the upper"):
        Range(low=3.0, high=2.0)
    with pytest.raises(ValidationError, match="has no range"):
        one_pad().pads[0].replaced(ranges={"rotation": Range()})


def test_unloaded_columns_get_the_least_pad() -> None:
    project = edited(one_pad(), ("actions", "load_points", "C", "loads"), {"G": Load()})
    project = project.replaced(pads=())
    first = first_size(project, "C")
    assert first.pad.width == 0.8
    assert first.words().endswith("no load yet")
