"""Quick starts: what comes of a few numbers holds, stays as typed, and is an ordinary project; the bare strip by closed
forms."""

import math

import pytest
from pydantic import ValidationError

from korbent.core.checks import State
from korbent.core.evaluate import evaluate
from korbent.core.explain.state import base_state
from korbent.core.quick.habits import HABITS, Habit
from korbent.core.quick.starts import STARTS, BareStrip, Corner, OneBase, Start, Tied, TwoColumns, Wall, proposed
from korbent.core.quick.strip import of_all_methods
from korbent.core.sizing.kinds import options
from korbent.core.sizing.propose import proposal
from korbent.core.units import factor
from korbent.files.project_file import load, save


@pytest.mark.long
@pytest.mark.parametrize(
    "start",
    [
        OneBase(),
        OneBase(horizontal=18.0, moment=30.0, soil="Dense sand"),
        OneBase(permanent=1500.0, imposed=700.0, pressure=300.0),
        Corner(),
        Wall(),
        TwoColumns(),
        Tied(),
        Tied(edge=0.25, apart=4.0, permanent=500.0, soil="Dense sand"),
    ],
    ids=["one", "on sand", "heavy", "corner", "wall", "two", "strap", "strap on sand"],
)
def test_what_is_left_open_is_proposed_and_holds(start: Start, tmp_path) -> None:  # type: ignore[no-untyped-def]
    project = start.proposed()
    pad = project.pads[0]
    result = evaluate(project).pad(pad.name)
    assert not [c.check.id for c in result.checks if c.state in (State.FAILS, State.UNSTABLE)]
    assert result.worst.ratio is not None
    assert 0.7 < result.worst.ratio <= 1.0
    assert pad.underside == pytest.approx(-start.founded)
    assert project.settings.presumed_pressure == start.pressure
    save(project, tmp_path / "a.korbent")
    assert load(tmp_path / "a.korbent").pads == project.pads
    if start.soil:  # the ground is there: resistance and settlement too
        assert result.check("resistance-drained").ratio is not None
        assert result.check("settlement").ratio is not None


@pytest.mark.long
def test_what_is_typed_stays() -> None:
    pad = proposed(OneBase(width=2.4, length=2.4, thickness=0.5).project()).pads[0]
    assert (pad.width, pad.length, pad.thickness) == (2.4, 2.4, 0.5)
    two = proposed(TwoColumns(left=0.6, right=1.4, apart=3.2).project()).pads[0]
    assert (two.edge("-x"), two.edge("+x") - 3.2) == pytest.approx((0.6, 1.4))
    assert two.carries == ("C1", "C2")
    corner = proposed(Corner(edge_x=0.35, edge_y=0.3).project())
    held = corner.pads[0]
    assert (held.edge("-x"), held.edge("-y")) == pytest.approx((0.35, 0.3))
    # up to the boundaries, across neither
    assert evaluate(corner).pad(held.name).check("site").state is State.HOLDS
    assert proposed(Wall(wall=0.3).project()).pads[0].kind == "strip"


@pytest.mark.long
def test_a_strap_ties_the_base_at_the_boundary_to_the_inner_one() -> None:
    start = Tied(edge=0.3, apart=5.0)
    project = start.proposed()
    first, second = project.pads
    (strap,) = project.straps
    assert (strap.edge, strap.inner) == (first.name, second.name)
    assert first.edge("-x") == pytest.approx(0.3)  # up to the boundary, not across
    results = evaluate(project)
    for pad in (first, second):
        assert not [c for c in results.pad(pad.name).checks if c.state in (State.FAILS, State.UNSTABLE)]
    assert [
        c.check.id for c in results.pad(first.name).checks if c.check.id.startswith("strap-") and c.ratio is not None
    ]
    # by statics: R1 = P1 S / (S - e), e from the column to the middle of its base
    e, S = -first.offset_x, 5.0
    state = base_state(project, first, "allowable", 0)
    own = (first.width * first.length * first.thickness) * 25.0
    assert state is not None
    assert start.permanent * S / (S - e) + own < state.N
    typed = Tied(strap_width=0.6, strap_depth=0.9, width=1.4, length=3.2, thickness=0.7).proposed()
    assert (typed.straps[0].width, typed.straps[0].depth) == (0.6, 0.9)
    assert (typed.pads[0].width, typed.pads[0].length, typed.pads[0].thickness) == (1.4, 3.2, 0.7)


@pytest.mark.long
def test_what_cannot_be_done_makes_no_base_grow() -> None:
    """Without a borehole resistance and settlement cannot be done: no size would help, and none is looked for."""
    project = Tied().project()
    found = options(project, ("C1", "C2"))
    areas = {o.kind: o.area for o in found if o.project is not None}
    needed = sum((350 + 150, 600 + 250)) / 200.0
    assert areas
    assert all(area < 3 * needed for area in areas.values()), areas


@pytest.mark.long
def test_more_load_is_never_a_smaller_base() -> None:
    areas = [
        p.width * p.length for p in (proposed(OneBase(permanent=V).project()).pads[0] for V in (300.0, 600.0, 1200.0))
    ]
    assert areas == sorted(areas)


@pytest.mark.long
@pytest.mark.parametrize(
    ("kind", "habit"),
    [
        pytest.param(
            k, h, id=f"{k.name}-{h.name}", marks=[pytest.mark.long] if k is TwoColumns and h is not HABITS[0] else []
        )
        for k in STARTS
        for h in HABITS
    ],
)
def test_every_habit_comes_to_a_base_that_holds(kind: type[Start], habit: Habit) -> None:
    project = kind.usual(habit).proposed()
    checks = evaluate(project).pad(project.pads[0].name).checks
    assert not [c.check.id for c in checks if c.state in (State.FAILS, State.UNSTABLE)]
    concrete = [c for c in checks if c.check.group == "concrete" and c.ratio is not None]
    assert max(c.ratio or 0.0 for c in concrete) > 0.3
    assert (project.units, project.actions.rules) == (habit.units, habit.rules)
    assert {c.name for c in project.actions.cases} == {habit.permanent[0], habit.imposed[0]}


def test_another_habit_keeps_what_was_typed_and_rounds_the_rest() -> None:
    here = OneBase(permanent=432.1, width=2.2)
    there = here.at(HABITS[1])
    assert (there.permanent, there.width, there.soil) == (432.1, 2.2, "")
    for value, unit, step in (
        (there.imposed, "kip", 10),
        (there.pressure, "ksf", 0.5),
        (there.column_x, "ft", 0.5),
        (there.concrete, "psi", 500),
    ):
        stored = {"kip": "kN", "ksf": "kPa", "ft": "m", "psi": "MPa"}[unit]
        shown = value * factor(stored, unit) / step
        assert shown == pytest.approx(round(shown))
        assert round(shown) > 0
    assert (there.horizontal, there.moment) == (0.0, 0.0)
    # there and back again
    assert there.at(HABITS[0]) == here
    assert OneBase.usual(HABITS[0]) == OneBase()


def test_numbers_that_cannot_be_are_refused() -> None:
    for changes in ({"width": -1.0}, {"concrete": 3.0}, {"founded": 0.0}):
        with pytest.raises(ValidationError):
            OneBase(**changes)  # type: ignore[arg-type]


@pytest.mark.long
def test_a_proposal_leaves_aside_what_no_size_makes_possible() -> None:
    """Without ground nothing but the allowable pressure is known of it: the rest of the checks is held, and that is
    said."""
    project = OneBase().project()
    found = proposal(project, project.pads)
    assert found.sizes is not None
    assert "that cannot be done are left aside" in found.remark
    whole = OneBase(soil="Dense sand").project()
    assert "left aside" not in proposal(whole, whole.pads).remark


def test_a_bare_strip_by_closed_forms() -> None:
    found = {b.method: b for b in of_all_methods(BareStrip(friction=30.0))}
    N_q = math.exp(math.pi * math.tan(math.radians(30))) * math.tan(math.radians(60)) ** 2
    for name in ("Meyerhof 1963", "Vesic 1975", "EN 1997-1 Annex D"):
        assert found[name].N_q == pytest.approx(N_q)
        assert found[name].N_c == pytest.approx((N_q - 1) / math.tan(math.radians(30)))
    one = found["EN 1997-1 Annex D"]
    assert one.N_gamma == pytest.approx(2 * (N_q - 1) * math.tan(math.radians(30)))
    # without weight below and cohesion the surcharge alone bears; shape factors of so long a strip are one in a thousand
    bare = next(b for b in of_all_methods(BareStrip(weight=0.0)) if b.method == "EN 1997-1 Annex D")
    assert bare.ultimate == pytest.approx(18.0 * N_q, rel=2e-3)
    undrained = next(
        b for b in of_all_methods(BareStrip(friction=0.0, cohesion=50.0)) if b.method == "EN 1997-1 Annex D"
    )
    assert undrained.N_c == pytest.approx(math.pi + 2, rel=1e-3)
    assert undrained.ultimate == pytest.approx(50 * (math.pi + 2) + 18, rel=1e-3)
