"""Whole random projects written otherwise: seen in a mirror, turned, moved, permuted, renamed, nudged, with bases added
far away."""

import random
from collections.abc import Callable

import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.checks import CHECKS
from korbent.core.evaluate import evaluate
from korbent.core.model import Expression, LoadPoint, Pad, Project, Quantity, Stratum, recomputed, renamed
from tests.invariants.plans import mirrored, moved, turned
from tests.invariants.whole import few, random_plan

seeds = st.integers(0, 10**6)
Verdicts = dict[tuple[str, str], tuple[str, float | None]]


def verdicts(project: Project, names: dict[str, str] | None = None) -> Verdicts:
    """(state, ratio) by base and check; bases under their old names."""
    known = names or {}
    return {
        (known.get(pad.name, pad.name), check.check.id): (check.state.value, check.ratio)
        for pad in evaluate(project).pads
        for check in pad.checks
    }


def alike(first: Verdicts, second: Verdicts, tolerance: float = 1e-9, swapped: bool = False) -> None:
    """The same states and ratios; ``swapped``: what is of x in one is of y in the other."""
    for (base, check), (state, ratio) in first.items():
        other = check
        if swapped and check[-2:] in ("-x", "-y"):
            other = check[:-1] + ("y" if check[-1] == "x" else "x")
        found_state, found = second[(base, other)]
        assert found == (None if ratio is None else pytest.approx(ratio, rel=tolerance, abs=1e-12)), (
            base,
            check,
        )
        # a ratio of 1 to rounding holds or fails by rounding
        if ratio is None or abs(ratio - 1) > 1e-6:
            assert found_state == state, (base, check)


def in_mirror(project: Project) -> Project:
    """With openings too."""
    pads = tuple(p.replaced(openings=tuple(o.replaced(x=-o.x) for o in p.openings)) for p in mirrored(project).pads)
    return mirrored(project).replaced(pads=pads)


def shuffled(project: Project) -> Project:
    """Bases, columns, cases, combinations and boreholes in another order."""
    rng = random.Random(1)

    def mixed(rows: tuple) -> tuple:  # type: ignore[type-arg]
        found = list(rows)
        rng.shuffle(found)
        return tuple(found)

    a, g = project.actions, project.ground
    actions = a.replaced(cases=mixed(a.cases), combinations=mixed(a.combinations), load_points=mixed(a.load_points))
    return project.replaced(
        pads=mixed(project.pads),
        actions=actions,
        ground=g.replaced(boreholes=mixed(g.boreholes), soils=mixed(g.soils)),
    )


def without_the_last(project: Project) -> Project:
    """The last base and its columns are gone."""
    gone = project.pads[-1]
    points = tuple(p for p in project.actions.load_points if p.name not in gone.carries)
    return project.replaced(pads=project.pads[:-1], actions=project.actions.replaced(load_points=points))


def another_first(project: Project) -> Project:
    """Bases under two columns name the other one first; the base stays where it is."""
    points = {p.name: p for p in project.actions.load_points}

    def renamed(pad: Pad) -> Pad:
        if not pad.further:
            return pad
        first, other = points[pad.load_point], points[pad.further[0]]
        # not turned in these plans
        return pad.replaced(
            load_point=other.name,
            further=(first.name,),
            pedestal=pad.pedestal_under(other.name),
            pedestals={first.name: pad.pedestal} if pad.pedestal else {},
            offset_x=pad.offset_x + other.x - first.x,
            offset_y=pad.offset_y + other.y - first.y,
        )

    return project.replaced(pads=tuple(map(renamed, project.pads)))


def halved(project: Project) -> Project:
    """Every case is given as two halves."""
    a = project.actions

    def half(point: LoadPoint) -> LoadPoint:
        loads = {}
        for name, f in point.loads.items():
            part = f.replaced(**{q: getattr(f, q) / 2 for q in ("V", "Hx", "Hy", "Mx", "My", "Mz")})
            loads |= {name: part, f"{name}2": part}
        return point.replaced(loads=loads)

    cases = tuple(c.replaced(name=n) for c in a.cases for n in (c.name, f"{c.name}2"))
    combinations = tuple(
        c.replaced(factors={n: f for name, f in c.factors.items() for n in (name, f"{name}2")}) for c in a.combinations
    )
    actions = a.replaced(cases=cases, combinations=combinations, load_points=tuple(map(half, a.load_points)))
    return project.replaced(actions=actions)


def nudged(project: Project) -> Project:
    """Every load a hundred-millionth greater."""
    a = project.actions
    points = tuple(
        p.replaced(
            loads={
                n: f.replaced(V=f.V * (1 + 1e-8), Hx=f.Hx * (1 + 1e-8), My=f.My * (1 + 1e-8))
                for n, f in p.loads.items()
            }
        )
        for p in a.load_points
    )
    return project.replaced(actions=a.replaced(load_points=points))


def cut_in_two(project: Project) -> Project:
    """Every stratum of every borehole is given as two."""
    g = project.ground
    rng = random.Random(2)

    def halves(stratum: Stratum) -> tuple[Stratum, ...]:
        share = rng.uniform(0.2, 0.8)
        return (
            stratum.replaced(thickness=stratum.thickness * share),
            stratum.replaced(thickness=stratum.thickness * (1 - share)),
        )

    holes = tuple(h.replaced(strata=tuple(p for s in h.strata for p in halves(s))) for h in g.boreholes)
    return project.replaced(ground=g.replaced(boreholes=holes))


def scaled_cases(project: Project) -> Project:
    """Loads of one case twice as great, its factors half of what they were (a mean of the factors means another thing
    then)."""
    a = project.actions
    points = tuple(
        p.replaced(
            loads={
                n: f.replaced(**{q: 2 * getattr(f, q) for q in ("V", "Hx", "Hy", "Mx", "My", "Mz")}) if n == "W" else f
                for n, f in p.loads.items()
            }
        )
        for p in a.load_points
    )
    combinations = tuple(
        c.replaced(factors={n: f / 2 if n == "W" else f for n, f in c.factors.items()}) for c in a.combinations
    )
    return project.replaced(actions=a.replaced(load_points=points, combinations=combinations))


def in_other_units(project: Project) -> Project:
    """Shown in US units, some of them other again: what is stored stays."""
    return project.replaced(units="us", unit_overrides={"kN": "lbf", "kPa": "psi"})


def as_expressions(project: Project) -> Project:
    """Sizes and loads are typed as expressions that give the same, one of them through a named value."""
    half = Quantity(name="half", value=0.5)
    pads = tuple(
        p.replaced(
            expressions={
                "thickness": Expression(text=f"{p.thickness!r}*2*half"),
                "level": Expression(text=f"({p.level!r} + 1) - 1"),
            }
        )
        for p in project.pads
    )
    a = project.actions
    points = tuple(
        p.replaced(expressions={f"loads.{n}.V": Expression(text=f"{f.V!r}/2 + {f.V!r}/2") for n, f in p.loads.items()})
        for p in a.load_points
    )
    return recomputed(project.replaced(pads=pads, quantities=(half,), actions=a.replaced(load_points=points)))


def under_other_names(project: Project) -> Project:
    """Soils, cases, columns, boreholes are called otherwise; bases keep their names."""
    for kind, rows in (
        (("ground", "soils"), project.ground.soils),
        (("actions", "cases"), project.actions.cases),
        (("actions", "load_points"), project.actions.load_points),
        (("ground", "boreholes"), project.ground.boreholes),
    ):
        for number, row in enumerate(rows):
            project = renamed(project, (*kind, row.name), f"other {number} of {kind[1]}")
    return project


@pytest.mark.long
@few
@given(seeds)
def test_in_a_mirror(seed: int) -> None:
    project = random_plan(seed, 4)
    alike(verdicts(project), verdicts(in_mirror(project)), 1e-8)


@pytest.mark.long
@few
@given(seeds)
def test_turned_by_a_quarter(seed: int) -> None:
    """The plan turns with its bases: x and y of a base stay its own."""
    project = random_plan(seed, 4)
    alike(verdicts(project), verdicts(turned(project)), 1e-8)


@pytest.mark.parametrize(
    "change",
    [
        shuffled,
        halved,
        cut_in_two,
        in_other_units,
        *(
            pytest.param(f, marks=pytest.mark.long)
            for f in (another_first, scaled_cases, as_expressions, under_other_names)
        ),
    ],
    ids=lambda f: f.__name__,
)
@few
@given(seeds)
def test_written_otherwise(change: Callable[[Project], Project], seed: int) -> None:
    project = random_plan(seed, 4)
    if change is scaled_cases:
        project = project.replaced(settings=project.settings.replaced(weight_relief="0.9"))
    alike(verdicts(project), verdicts(change(project)), 1e-8)


@pytest.mark.long
@few
@given(seeds, st.floats(-40.0, 40.0))
def test_another_datum(seed: int, levels: float) -> None:
    project = random_plan(seed, 4)
    alike(verdicts(project), verdicts(moved(project, levels)), 1e-7)


@pytest.mark.long
@few
@given(seeds)
def test_a_far_base_more_or_less(seed: int) -> None:
    project = random_plan(seed, 4)
    fewer = verdicts(without_the_last(project))
    alike(fewer, verdicts(project), 1e-7)


@pytest.mark.long
@few
@given(seeds)
def test_a_nudge_changes_as_little(seed: int) -> None:
    project = random_plan(seed, 4)
    alike(verdicts(project), verdicts(nudged(project)), 1e-5)


@pytest.mark.long
@few
@given(seeds)
def test_a_ring_whose_hole_vanishes_is_a_circle(seed: int) -> None:
    """What the ground and the stability say; the concrete of a ring is not checked."""
    project = random_plan(seed, 4)
    pads = tuple(
        p.replaced(shape="circle", hole=0.0, length=p.width, offset_x=0.0, offset_y=0.0, openings=())
        for p in project.pads
        if not p.further
    )
    round_ = project.replaced(pads=pads)
    rings = project.replaced(pads=tuple(p.replaced(shape="ring", hole=1e-6) for p in pads))
    first, second = verdicts(round_), verdicts(rings)
    compared = 0
    for (base, check), (_, ratio) in first.items():
        if CHECKS[check].group != "concrete" and ratio is not None:
            assert second[(base, check)][1] == pytest.approx(ratio, rel=1e-5, abs=1e-9), (base, check)
            compared += 1
    assert compared or not pads
