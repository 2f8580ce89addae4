"""Bars as text, fabrics, all of a type, top like bottom, bars in a proposal, and what the schedule lists."""

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import LIMIT, State
from korbent.core.concrete.bar_text import parsed, words
from korbent.core.concrete.choose import alike, bar_table, lightest_bars, taken, with_bars
from korbent.core.concrete.fabric import BY_NAME, FABRICS
from korbent.core.concrete.schedule import (
    BENT,
    CLOSED,
    STRAIGHT,
    centre_line,
    in_base,
    lap_of,
    mandrel_of,
    schedule,
    schedule_by_type,
    schedule_rows,
    sheets,
    weight_of,
)
from korbent.core.evaluate import evaluate, evaluate_pad
from korbent.core.model import Bars, Dowels, Load, Pad, Pedestal, Project, Reinforcement, edited
from korbent.core.sizing.propose import proposal, proposals
from korbent.core.sizing.propose import taken as proposed
from korbent.demo import coombe, redstem
from korbent.verification.pad import one_pad

# text


@pytest.mark.parametrize(
    ("text", "bars"),
    [
        ("16 at 150", Bars(diameter=0.016, spacing=0.15)),
        ("ø20@175", Bars(diameter=0.02, spacing=0.175)),
        ("12 - 20 cm", Bars(diameter=0.012, spacing=0.2)),
        ("12 no 16", Bars(diameter=0.016, number=12)),
        ("9 x 20 mm", Bars(diameter=0.02, number=9)),
        ("#5 at 9", Bars(diameter=0.015875, spacing=0.2286)),
        ("#6 at 12 in", Bars(diameter=0.01905, spacing=0.3048)),
        ("8 no #5", Bars(diameter=0.015875, number=8)),
        ("sl82", BY_NAME["SL82"]),
        ("A393", BY_NAME["A393"]),
    ],
)
def test_bars_from_text(text: str, bars: Bars) -> None:
    assert parsed(text) == bars


@pytest.mark.parametrize("text", ["", "16", "at 150", "16 at", "SL99", "16 at 150 furlongs", "some bars"])
def test_what_is_no_bars_says_what_to_type(text: str) -> None:
    with pytest.raises(ValueError, match="16 at 150"):
        parsed(text)


@given(
    st.integers(8, 40),
    st.one_of(
        st.integers(50, 400).map(lambda s: ("spacing", s / 1000)),
        st.integers(2, 60).map(lambda n: ("number", n)),
    ),
)
def test_words_are_read_back(diameter: int, given_as: tuple[str, Any]) -> None:
    bars = Bars(diameter=diameter / 1000, **{given_as[0]: given_as[1]})
    assert parsed(words(bars) or "") == bars


@pytest.mark.parametrize("fabric", BY_NAME.values())
def test_fabrics_are_read_back_and_weigh_what_their_wires_do(fabric: Bars) -> None:
    assert parsed(words(fabric) or "") == fabric
    assert fabric.fabric in {name for sheet in FABRICS.values() for name in sheet}


def test_areas_of_fabrics() -> None:
    """A393: 393 mm2/m; SL82: 227 mm2/m; 6x6-D8: 0.16 in2/ft."""
    assert BY_NAME["A393"].area_in(2.0) * 1e6 == pytest.approx(393, abs=0.5)
    assert BY_NAME["SL82"].area_in(2.0) * 1e6 == pytest.approx(227, abs=0.5)
    assert BY_NAME["6x6-D8"].area_in(2.0) / 0.0254**2 * 0.3048 == pytest.approx(0.16, rel=2e-4)


# choosing


def test_the_table_of_a_type_holds_for_each_of_it(demo: Project) -> None:
    pad = demo.pad("P2")
    same = alike(demo, pad)
    assert {p.name for p in same} == {p.name for p in demo.pads if p.type == pad.type}
    own, whole = bar_table(demo, pad), bar_table(demo, pad, pads=same)
    assert whole.alike == tuple(p.name for p in same)
    assert all(w.ratio >= o.ratio - 1e-12 for o, w in zip(own.choices, whole.choices))
    best = whole.lightest
    assert best is not None
    new = taken(demo, pad, "bottom x and y", best.bars)
    for p in same:
        for check in evaluate_pad(new, new.pad(p.name)).checks:
            if check.check.id.split("-")[0] in (
                "bottom",
                "minimum",
                "spacing",
                "anchorage",
                "shear",
                "punching",
            ):
                assert check.ratio is None or check.ratio <= LIMIT


def test_reasons_say_what_is_wrong(demo: Project) -> None:
    table = bar_table(demo, demo.pad("P7"))
    whys = {c.why.rstrip("0123456789.").strip() for c in table.choices}
    assert {"too little", "anchorage", ""} <= whys
    assert {c.short for c in table.choices} >= {"too little", "anchorage"}
    wide = edited(demo, ("pads", "P7", "thickness"), 0.3)
    assert any(c.why for c in bar_table(wide, wide.pad("P7")).choices)


def test_fabrics_stand_in_the_table_where_both_directions_are_chosen() -> None:
    project = coombe()
    both, one = bar_table(project, project.pads[0]), bar_table(project, project.pads[0], "bottom x")
    assert {c.bars.fabric for c in both.fabrics} == set(FABRICS["as"])
    assert not one.fabrics
    light = edited(project, ("actions", "load_points", "A1", "loads", "G"), Load(V=20.0))
    assert bar_table(light, light.pads[0]).choices


def test_top_like_bottom_follows_the_bottom() -> None:
    project = one_pad(reinforcement=Reinforcement(top_like_bottom=True))
    pad = project.pads[0]
    assert pad.reinforcement.bars("top_x") == pad.reinforcement.bottom_x
    other = with_bars(pad, "bottom x", Bars(diameter=0.02, spacing=0.1))
    assert other.reinforcement.bars("top_x") == Bars(diameter=0.02, spacing=0.1)
    own = with_bars(other, "top x", Bars(diameter=0.012, spacing=0.2))
    assert own.reinforcement.bars("top_x") == Bars(diameter=0.012, spacing=0.2)
    assert not own.reinforcement.top_like_bottom
    faces = {where for bar in schedule(project) for _, where, _ in bar.where}
    assert {"top x", "top y", "bottom x", "bottom y"} == faces


# a proposal with bars


def held(project: Project, how: str, *names: str) -> Project:
    for name in names:
        project = edited(project, ("pads", name, "reinforcement", "pins"), {"bottom_x": how, "bottom_y": how})
    return project


@pytest.mark.long
def test_free_bars_are_chosen_with_the_size(demo: Project) -> None:
    project = held(demo, "free", "P12")
    found = proposal(project, [project.pad("P12")], "cost")
    assert found.sizes is not None
    assert set(found.bars) == {"bottom_x", "bottom_y"}
    new = proposed(project, [found])
    pad = new.pad("P12")
    assert pad.reinforcement.bottom_x == found.bars["bottom_x"]
    assert evaluate_pad(new, pad).worst.ratio == pytest.approx(found.ratio or 0, abs=0.25)
    assert all(c.state.is_good for c in evaluate_pad(new, pad).checks if c.check.group != "settlement")
    as_it_was = proposal(demo, [demo.pad("P12")], "cost")
    assert found.after <= as_it_was.after + 1e-9
    # with no thinner step: the bars are the lightest of the table
    table = bar_table(new, pad, "bottom x")
    assert table.lightest is not None
    assert weight_of(new, pad) <= weight_of(new, with_bars(pad, "bottom x", table.lightest.bars)) + 0.06


@pytest.mark.long
def test_bars_held_at_least_never_get_less(demo: Project) -> None:
    project = held(demo, "at_least", "P12")
    before = project.pad("P12").reinforcement.bottom_x
    found = proposal(project, [project.pad("P12")], "volume")
    chosen = found.bars["bottom_x"]
    assert chosen is not None
    assert chosen.area_in(2.0) >= before.area_in(2.0) - 1e-9


def test_with_all_sizes_pinned_only_bars_are_chosen(demo: Project) -> None:
    project = held(demo, "free", "P12")
    pins = {n: {"pinned": True} for n in ("width", "length", "thickness", "level")}
    project = edited(project, ("pads", "P12", "ranges"), pins)
    found = proposal(project, [project.pad("P12")])
    assert found.sizes == {}
    new = proposed(project, [found])
    assert new.pad("P12").width == demo.pad("P12").width
    assert weight_of(new, new.pad("P12")) < weight_of(demo, demo.pad("P12"))
    all_pinned = edited(demo, ("pads", "P12", "ranges"), pins)
    assert "pinned" in proposal(all_pinned, [all_pinned.pad("P12")]).remark


@pytest.mark.long
def test_bars_of_a_type_are_proposed_alike(demo: Project) -> None:
    names = [p.name for p in demo.pads if p.type == "T4"]
    project = held(demo, "free", *names)
    found = next(p for p in proposals(project) if names[0] in p.pads)
    if found.sizes is None:
        assert found.remark
        return
    new = proposed(project, [found])
    assert len({new.pad(n).reinforcement.bottom_x for n in names}) == 1


def test_free_top_bars_only_where_the_top_is_pulled() -> None:
    project = one_pad(load=Load(V=600.0))
    project = edited(project, ("pads", "P", "reinforcement", "pins"), {"top_x": "free", "top_y": "free"})
    pads, why = lightest_bars(project, project.pads)
    assert pads[0].reinforcement.top_x is None
    assert not why
    strong = Reinforcement(
        bottom_x=Bars(diameter=0.012, spacing=0.1),
        bottom_y=Bars(diameter=0.012, spacing=0.1),
        pins={"top_x": "free"},
    )
    pulled = one_pad(load=Load(V=150.0, My=300.0), width=4.0, length=4.0, thickness=0.36, reinforcement=strong)
    assert evaluate_pad(pulled, pulled.pads[0]).check("top-x").state is State.FAILS
    pads, why = lightest_bars(pulled, pulled.pads)
    assert not why
    assert pads[0].reinforcement.top_x is not None
    assert evaluate_pad(pulled, pads[0]).check("top-x").state is State.HOLDS


def test_held_names_faces() -> None:
    with pytest.raises(ValueError, match="has no bars"):
        Reinforcement(pins={"left": "free"})


# the schedule


def test_dowels_pedestal_and_ties_are_scheduled() -> None:
    pedestal = Pedestal(size_x=0.5, size_y=0.6, top=0.4, bars=8, diameter=0.02, tie_diameter=0.01, tie_spacing=0.2)
    project = one_pad(pedestal=pedestal)
    by_place = {where: bar for bar in schedule(project) for _, where, _ in bar.where}
    bars = by_place["pedestal"]
    deep = in_base(project, project.pads[0])
    assert deep == pytest.approx(0.5 - 0.05 - 0.032)
    assert (bars.shape, bars.count) == (BENT, 8)
    assert bars.a == pytest.approx(deep + (0.4 + 0.7) - 0.05, abs=0.006)
    ties = by_place["ties"]
    assert (ties.shape, ties.count) == (CLOSED, math.ceil((1.1 - 0.05) / 0.2) + 1)
    assert (ties.a, ties.b) == (pytest.approx(0.4), pytest.approx(0.5))
    with_dowels = edited(project, ("pads", "P", "dowels"), Dowels(number=6, diameter=0.016))
    by_place = {where: bar for bar in schedule(with_dowels) for _, where, _ in bar.where}
    assert by_place["pedestal"].shape == STRAIGHT
    assert by_place["dowels"].count == 6
    lap = lap_of(with_dowels, with_dowels.pads[0], 0.016)
    assert by_place["dowels"].a == pytest.approx(deep + lap, abs=0.006)


def test_laps_by_the_standards() -> None:
    project = one_pad()
    pad = project.pads[0]
    f_bd = 2.25 * 0.7 * 0.3 * 30 ** (2 / 3) / 1.5
    assert lap_of(project, pad, 0.016) == pytest.approx(1.5 * 0.004 * 500 / 1.15 / f_bd)
    psi = 145.0377377
    aci = edited(project, ("standards", "concrete"), "ACI 318-19")
    assert lap_of(aci, pad, 0.016) == pytest.approx(
        1.3 * 1.15 * 500 * psi / (25 * math.sqrt(30 * psi)) * 0.016, rel=1e-6
    )
    au = edited(project, ("standards", "concrete"), "AS 3600:2018")
    assert lap_of(au, pad, 0.016) == pytest.approx(
        1.25 * max(0.5 * 500 * 16 / (1.16 * math.sqrt(30)), 0.058 * 500 * 16) / 1000
    )


def test_a_closed_tie_walked_along_its_centre_line() -> None:
    """Four sides with three quarter bends, and at the closing corner two bends by 135 degrees with tails of 10
    diameters."""
    a, b, d = 0.4, 0.5, 0.010
    D = 4 * d
    R = (D + d) / 2
    straight = 2 * (a - 2 * (R + d / 2)) + 2 * (b - 2 * (R + d / 2))
    assert centre_line((CLOSED, d, a, b, 0.0), D) == pytest.approx(
        straight + 3 * math.pi / 2 * R + 3 * math.pi / 2 * R + 20 * d
    )
    assert centre_line((BENT, d, a, b, 0.0), D) == pytest.approx(a + b - 2 * (R + d / 2) + math.pi / 2 * R)
    assert centre_line((STRAIGHT, d, 0.0, b, 0.0), 0.0) == b


@pytest.mark.parametrize(
    ("standard", "diameter", "tie", "times"),
    [
        ("EN 1992-1-1:2004", 0.016, False, 4),
        ("EN 1992-1-1:2004", 0.020, False, 7),
        ("ACI 318-19", 0.0254, False, 6),
        ("ACI 318-19", 0.032, False, 8),
        ("ACI 318-19", 0.0127, True, 4),
        ("AS 3600:2018", 0.020, False, 5),
        ("AS 3600:2018", 0.010, True, 4),
    ],
)
def test_mandrels(standard: str, diameter: float, tie: bool, times: float) -> None:
    assert mandrel_of(diameter, standard, tie) == pytest.approx(times * diameter)


def test_side_bars_and_bars_by_number_are_counted() -> None:
    r = Reinforcement(bottom_x=Bars(diameter=0.016, number=11), sides=Bars(diameter=0.012, spacing=0.25))
    project = one_pad(thickness=1.1, level=-1.9, reinforcement=r)
    by_place = {where: (bar, n) for bar in schedule(project) for _, where, n in bar.where}
    assert by_place["bottom x"][1] == 11
    layers = math.ceil((1.1 - 0.1) / 0.25) - 1
    assert by_place["sides x"][1] == by_place["sides y"][1] == 2 * layers
    assert by_place["sides x"][0].b == pytest.approx(1.9)


def test_sheets_of_fabric_are_listed_and_weighed() -> None:
    fabric = BY_NAME["A393"]
    project = one_pad(reinforcement=Reinforcement(bottom_x=fabric, bottom_y=fabric))
    assert not schedule(project)
    (sheet,) = sheets(project)
    assert (sheet.fabric, sheet.width, sheet.length, sheet.count) == ("A393", 1.9, 2.3, 1)
    assert sheet.mass == pytest.approx(2 * math.pi * 0.01**2 / 4 / 0.2 * 7850)
    assert weight_of(project, project.pads[0]) == pytest.approx(sheet.mass * 1.9 * 2.3)
    rows = schedule_rows(project)
    assert rows[0][1:5] == ["A393", "sheet", 1900, 2300]
    assert rows[-1][9] == pytest.approx(sheet.weight, abs=0.06)


def test_a_plain_base_has_no_bars_to_bend() -> None:
    project = edited(one_pad(), ("settings", "base_concrete"), "plain")
    assert not schedule(project)
    assert not sheets(project)


def test_schedules_by_type_sum_up_to_that_of_the_project(demo: Project) -> None:
    found = schedule_by_type(demo)
    assert {f"type {p.type}" if p.type else p.name for p in demo.pads} == set(found)
    assert sum(float(rows[-1][9]) for rows in found.values()) == pytest.approx(
        float(schedule_rows(demo)[-1][9]), abs=0.5
    )


def test_redstem_is_scheduled_with_its_pedestals() -> None:
    project = redstem()
    places = {where for bar in schedule(project) for _, where, _ in bar.where}
    assert {"pedestal", "ties", "bottom x", "top x"} <= places
    assert all(isinstance(p, Pad) for p in project.pads)
    assert evaluate(project).all_checks
