"""The size of a base read at its edges, both sizes changed together, and its pedestal as dimensions that drive."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from korbent.core.checks import State
from korbent.core.concrete.pedestal import IDS
from korbent.core.concrete.pedestal_dimensions import range_of, with_pedestal
from korbent.core.concrete.pedestal_sizes import Least, least_pedestal, sizes_upwards, worst_of_pedestals
from korbent.core.dimensions import changed, dimensions_of, next_value, pages_of, value_of
from korbent.core.evaluate import effects_of, evaluate, evaluate_pad
from korbent.core.geometry import table
from korbent.core.model import Project
from korbent.core.model.foundations import Pad
from korbent.core.model.site import Range
from korbent.core.plan.edges import NAMES, columns_apart
from korbent.core.plan.linked import LINKS, linked
from korbent.core.sizing.cost import quantities
from korbent.core.sizing.cost import value_of as objective_of
from korbent.core.sizing.propose import proposals, taken
from korbent.demo import lindmere
from korbent.drawing.plan import outline

SIDES = st.sampled_from(NAMES)


def corners(project: Project, name: str) -> tuple[tuple[float, float], ...]:
    pad = project.pad(name)
    return outline(pad, project.load_point(pad.load_point))


# ---------------------------------------------------------------- edges


@given(SIDES, st.floats(0.3, 2.5), st.floats(-170.0, 170.0), st.floats(-0.3, 0.3))
def test_an_edge_moves_and_the_three_others_stay(name: str, to: float, turn: float, offset: float) -> None:
    project = lindmere()
    base = project.pad("P2").replaced(rotation=turn, offset_x=offset)
    project = project.replaced(pads=tuple(base if p.name == "P2" else p for p in project.pads))
    new = changed(project, project.pad("P2"), name, to)
    pad = new.pad("P2")
    assert value_of(new, pad, name) == pytest.approx(to, abs=2e-9)
    for other in NAMES:
        if other != name:
            assert value_of(new, pad, other) == pytest.approx(value_of(project, base, other), abs=2e-9)
    # the two corners of the opposite edge stay in the plan
    before, after = corners(project, "P2"), corners(new, "P2")
    kept = [c for c in before if any(abs(c[0] - d[0]) + abs(c[1] - d[1]) < 1e-6 for d in after)]
    assert len(kept) >= 2


def test_of_a_base_under_several_columns_it_is_the_overhang(demo: Project) -> None:
    first, second = demo.pad("P1"), demo.pad("P2")
    common = first.replaced(further=(second.load_point,), width=11.0, length=3.0, offset_x=-4.2, type=None)
    demo = demo.replaced(pads=(common, *(p for p in demo.pads if p.name not in ("P1", "P2"))))
    apart = columns_apart(demo, common)
    total = value_of(demo, common, "edge_-x") + apart[0] + value_of(demo, common, "edge_+x")
    assert total == pytest.approx(common.width)
    total = value_of(demo, common, "edge_-y") + apart[1] + value_of(demo, common, "edge_+y")
    assert total == pytest.approx(common.length)
    assert max(apart) > 1.0


def test_a_held_edge_is_not_moved(demo: Project) -> None:
    held = next(p for p in demo.pads if p.hold_x != "middle" or p.hold_y != "middle")
    side = held.hold_x if held.hold_x != "middle" else held.hold_y
    with pytest.raises(ValueError, match="is held"):
        changed(demo, held, f"edge_{side}", 1.0)


def test_an_edge_beyond_the_other_is_refused(demo: Project) -> None:
    with pytest.raises(ValidationError):
        changed(demo, demo.pad("P2"), "edge_+x", -5.0)


def test_what_has_no_four_edges_has_none_of_them(demo: Project) -> None:
    whole = lindmere()
    raft = next(p for p in whole.pads if p.plate is not None)
    assert pages_of(whole, raft) == ("sizes",)
    base = demo.pad("P2")
    assert dimensions_of(demo, base.replaced(shape="circle", length=base.width), "edges") == ()


@pytest.mark.long
@pytest.mark.parametrize("page", ["sizes", "edges"])
@pytest.mark.parametrize("link", LINKS)
def test_effects_are_what_the_edit_gives(demo: Project, page: str, link: str) -> None:
    pad = demo.pad("P2")
    found = effects_of(demo, pad, page, link)  # type: ignore[arg-type]
    assert {e.dimension for e in found} >= ({"width", "length"} if page == "sizes" else set(NAMES))
    for effect in found:
        if effect.dimension in NAMES:
            to = round(value_of(demo, pad, effect.dimension) + effect.change, 9)
            project = changed(demo, pad, effect.dimension, to)
        else:
            size = round(getattr(pad, effect.dimension) + effect.change, 9)
            new = pad.resized(**linked(pad, effect.dimension, size, link))  # type: ignore[arg-type]
            project = demo.replaced(pads=tuple(new if p is pad else p for p in demo.pads))
        worst = evaluate_pad(project, project.pad("P2")).worst
        assert effect.ratio == pytest.approx(worst.ratio, rel=1e-6)


@given(st.sampled_from(["width", "length"]), st.floats(0.6, 5.0))
def test_linked_sizes(dimension: str, value: float) -> None:
    pad = lindmere().pad("P8")
    other = "length" if dimension == "width" else "width"
    now, beside = getattr(pad, dimension), getattr(pad, other)
    assert linked(pad, dimension, value, "apart") == {dimension: value}
    assert linked(pad, dimension, value, "together")[other] == pytest.approx(beside + value - now)
    assert linked(pad, dimension, value, "in proportion")[other] / value == pytest.approx(beside / now)


# ---------------------------------------------------------------- the pedestal


def worst_of(project: Project, name: str) -> float:
    checks = evaluate(project).pad(name).checks
    return max(c.ratio for c in checks if c.check.id in IDS and c.ratio is not None)


@pytest.mark.long
def test_its_effects_are_those_of_its_own_checks(demo: Project) -> None:
    pad = demo.pad("P11")
    found = effects_of(demo, pad, "pedestal")
    assert {e.dimension for e in found} == {*dimensions_of(demo, pad, "pedestal")}
    for effect in found:
        to = round(value_of(demo, pad, effect.dimension) + effect.change, 9)
        assert effect.ratio == pytest.approx(worst_of(changed(demo, pad, effect.dimension, to), "P11"), rel=1e-6)


def test_steps_of_bars(demo: Project) -> None:
    pad = demo.pad("P11")
    assert pad.pedestal is not None
    assert next_value(demo, pad, "pedestal_bars", 1) == pad.pedestal.bars + 2
    assert next_value(demo, pad, "pedestal_bars", 0.2) == pad.pedestal.bars + 2  # never a part of a bar
    assert next_value(demo, pad, "pedestal_diameter", 1) == pytest.approx(0.020)
    assert next_value(demo, pad, "pedestal_diameter", -1) == pytest.approx(0.012)
    with pytest.raises(ValueError, match="whole number"):
        changed(demo, pad, "pedestal_bars", 7.5)


def test_a_round_one_has_one_diameter(demo: Project) -> None:
    pad = demo.pad("P11")
    assert pad.pedestal is not None
    project = with_pedestal(demo, pad, pad.pedestal.replaced(shape="circle", size_y=pad.pedestal.size_x))
    pad = project.pad("P11")
    assert "pedestal_y" not in dimensions_of(project, pad, "pedestal")
    new = changed(project, pad, "pedestal_x", 0.7).pad("P11").pedestal
    assert new is not None
    assert (new.size_x, new.size_y) == (0.7, 0.7)


def heavier(project: Project, factor: float) -> Project:
    """All loads of the column of P11 so many times as great."""
    name = project.pad("P11").load_point
    points = tuple(
        p.replaced(
            loads={
                c: load.replaced(**{q: factor * getattr(load, q) for q in ("V", "Hx", "Hy", "Mx", "My")})
                for c, load in p.loads.items()
            }
        )
        if p.name == name
        else p
        for p in project.actions.load_points
    )
    return project.replaced(actions=project.actions.replaced(load_points=points))


@pytest.mark.long
@pytest.mark.parametrize("factor", [1.0, 6.0])
def test_the_least_pedestal_holds_and_nothing_smaller_does(demo: Project, factor: float) -> None:
    project = heavier(demo, factor)
    pad = project.pad("P11")
    least = least_pedestal(project, pad)
    assert isinstance(least, Least)
    whole = with_pedestal(project, pad, least.pedestal)
    assert worst_of(whole, "P11") == pytest.approx(least.ratio, rel=1e-6)
    assert least.ratio <= 1.0
    thinner = {0.012: 0.010, 0.016: 0.012, 0.020: 0.016, 0.025: 0.020, 0.032: 0.025}.get(least.pedestal.diameter)
    if thinner:
        (found,) = worst_of_pedestals(project, [pad.replaced(pedestal=least.pedestal.replaced(diameter=thinner))])
        assert found[1] is not State.HOLDS
    column = project.load_point(pad.load_point)
    assert least.pedestal.size_x >= column.size_x
    assert least.pedestal.top == pad.pedestal.top  # type: ignore[union-attr]


def test_ranges_are_kept(demo: Project) -> None:
    pad = demo.pad("P11").replaced(ranges={"pedestal_x": Range(low=0.5, high=0.55)})
    project = demo.replaced(pads=tuple(pad if p.name == "P11" else p for p in demo.pads))
    least = least_pedestal(project, pad)
    assert least is not None
    assert 0.5 <= least.pedestal.size_x <= 0.55
    pad = demo.pad("P11").replaced(ranges={"pedestal_x": Range(pinned=True), "pedestal_y": Range(pinned=True)})
    project = demo.replaced(pads=tuple(pad if p.name == "P11" else p for p in demo.pads))
    least = least_pedestal(project, pad)
    assert least is not None
    assert pad.pedestal is not None
    assert (least.pedestal.size_x, least.pedestal.size_y) == (pad.pedestal.size_x, pad.pedestal.size_y)


def test_a_range_above_twice_the_present_size_is_gone_through(demo: Project) -> None:
    """What the table of ranges says is looked at is looked at."""
    pad = demo.pad("P11")
    assert pad.pedestal is not None
    apart = 2.5 * pad.pedestal.size_x
    pad = pad.replaced(ranges={"pedestal_x": Range(low=apart, high=apart + 0.4)})
    project = demo.replaced(pads=tuple(pad if p.name == "P11" else p for p in demo.pads))
    least = least_pedestal(project, pad)
    assert least is not None
    assert apart <= least.pedestal.size_x <= apart + 0.05


SOME = st.none() | st.floats(0.2, 1.2)
RANGE = st.builds(
    lambda a, b, pinned: Range(low=a, high=None if b is None else (a or 0.0) + b, pinned=pinned),
    SOME,
    SOME,
    st.booleans(),
)


COLUMN = st.integers(2, 6).map(lambda k: round(0.05 * k, 9))  # on the raster, as sizes start on it


@given(RANGE, RANGE, st.floats(0.3, 0.9), st.floats(0.3, 0.9), COLUMN, COLUMN)
def test_the_sizes_looked_at(
    x: Range, y: Range, size_x: float, size_y: float, column_x: float, column_y: float
) -> None:
    """Within both ranges, larger from one to the next, to the end of what can move, and of a mirrored pedestal
    mirrored."""
    own = lindmere().pad("P11").pedestal
    assert own is not None

    def looked_at(turned: bool) -> tuple[Pad, list[dict[str, float]]]:
        pair, sizes, column = ((x, y), (size_x, size_y), (column_x, column_y))
        if turned:
            pair, sizes, column = pair[::-1], sizes[::-1], column[::-1]
        pedestal = own.replaced(size_x=sizes[0], size_y=sizes[1])
        pad = (
            lindmere()
            .pad("P11")
            .replaced(pedestal=pedestal, ranges=dict(zip(("pedestal_x", "pedestal_y"), pair, strict=True)))
        )
        return pad, sizes_upwards(pad, pedestal, column, 0.05)

    pad, found = looked_at(turned=False)
    limits = {
        field: range_of(pad, name, column)
        for name, field, column in (("pedestal_x", "size_x", column_x), ("pedestal_y", "size_y", column_y))
    }
    assert found
    for field, (low, high) in limits.items():
        assert all(low - 1e-9 <= size[field] <= high + 1e-9 for size in found)
    for one, two in pairwise(found):
        assert two["size_x"] >= one["size_x"]
        assert two["size_y"] >= one["size_y"]
        assert two != one
    free = [f for f, (low, high) in limits.items() if high > low]
    assert all(limits[f][1] - found[-1][f] < 0.05 + 1e-9 for f in free)
    # one alone, or both where they fit together nowhere as they differ now, start at the least
    now = {"size_x": size_x, "size_y": size_y}
    latest = max(low - now[f] for f, (low, _) in limits.items())
    earliest = min(high - now[f] for f, (_, high) in limits.items())
    if len(free) == 1 or latest > earliest + 1e-6:
        assert all(found[0][f] - limits[f][0] < 0.05 + 1e-9 for f in free)
    _, mirrored = looked_at(turned=True)
    assert [{"size_x": size["size_y"], "size_y": size["size_x"]} for size in mirrored] == found


@pytest.mark.long
def test_where_none_holds_there_is_none(demo: Project) -> None:
    project = heavier(demo, 400.0)
    pad = project.pad("P11").replaced(ranges={n: Range(pinned=True) for n in ("pedestal_x", "pedestal_y")})
    project = project.replaced(pads=tuple(pad if p.name == "P11" else p for p in project.pads))
    assert least_pedestal(project, pad) is None


def small(project: Project, *names: str) -> Project:
    """Some bases alone, without their straps and types."""
    pads = tuple(p.replaced(type=None) for p in project.pads if p.name in names)
    return project.replaced(pads=pads, straps=())


@pytest.mark.long
def test_a_proposal_of_the_plan_changes_a_pedestal_that_fails_or_may_move(demo: Project) -> None:
    """Of three bases with a pedestal one fails, one has a range, one is left as it is."""
    project = small(demo, "P11", "P8", "P5")
    weak = project.pad("P11").pedestal
    assert weak is not None
    failing = weak.replaced(bars=4, diameter=0.010)

    def with_other(pad: Pad) -> Pad:
        if pad.name == "P11":
            return pad.replaced(pedestal=failing)
        if pad.name == "P8":
            return pad.replaced(pedestal=weak, ranges={"pedestal_x": Range(low=0.45), "pedestal_y": Range(low=0.45)})
        return pad.replaced(pedestal=weak)

    project = project.replaced(pads=tuple(map(with_other, project.pads)))
    assert any(
        c.check.id.startswith("pedestal") and c.state is State.FAILS for c in evaluate(project).pad("P11").checks
    )
    found = {p.pads[0]: p for p in proposals(project)}
    new = found["P11"].pedestals["P11"]
    assert new.bars * new.diameter**2 > failing.bars * failing.diameter**2
    moved = found["P8"].pedestals["P8"]
    assert 0.45 <= moved.size_x < weak.size_x
    assert found["P5"].pedestals == {}
    after = taken(project, found.values())
    assert after.pad("P11").pedestal == new
    assert after.pad("P8").pedestal == moved
    assert after.pad("P5").pedestal == weak
    for name in ("P11", "P8", "P5"):
        own = [c for c in evaluate(after).pad(name).checks if c.check.id.startswith("pedestal")]
        assert own
        assert all(c.state is State.HOLDS for c in own)
    # what the objective says is that of the plan with the new pedestals
    whole = sum(objective_of(after.rates, quantities(after, p, table(p)), "volume")[0] for p in after.pads)
    assert sum(p.after for p in found.values()) == pytest.approx(float(whole), rel=1e-9)


def test_pinned_sizes_leave_the_pedestal_to_move(demo: Project) -> None:
    plinth = demo.pad("P11").pedestal
    assert plinth is not None
    project = small(demo, "P5")
    pinned = dict.fromkeys(("width", "length", "thickness", "level"), Range(pinned=True))
    pad = project.pad("P5").replaced(pedestal=plinth.replaced(bars=4, diameter=0.010), ranges=pinned)
    (one,) = proposals(project.replaced(pads=(pad,)))
    assert one.sizes == {}
    assert one.ratio is not None
    assert one.ratio <= 1.0
    assert one.pedestals["P5"].bars * one.pedestals["P5"].diameter ** 2 > 4 * 0.010**2
    assert "as it is" not in one.remark
    (one,) = proposals(project.replaced(pads=(pad.replaced(frozen="poured"),)))
    assert one.pedestals == {}
