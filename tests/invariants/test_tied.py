"""Random tied pairs written otherwise, edited in any order, in their working, and with more of what resists."""

import random
from collections.abc import Callable

import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.evaluate import evaluate
from korbent.core.model import Bars, Load, Project
from korbent.core.model.foundations import Strap
from korbent.verification.straps import tied_pair
from tests.invariants.plans import moved, turned
from tests.invariants.test_transforms import (
    alike,
    cut_in_two,
    halved,
    in_mirror,
    in_other_units,
    nudged,
    shuffled,
    under_other_names,
    verdicts,
)
from tests.invariants.test_whole import fresh, ledger_is_working, same
from tests.invariants.whole import few, random_pedestal, random_plan

seeds = st.integers(0, 10**6)


def tied_plan(seed: int, local: bool = True) -> Project:
    """A tied pair with forces and moments in all directions, turned anyhow, under a standard of the random plans; a
    third base far off."""
    rng = random.Random(seed)
    other = random_plan(seed, 1)
    project = tied_pair(
        Load(
            V=rng.uniform(200, 900),
            Hx=rng.uniform(-40, 40),
            Hy=rng.uniform(-20, 20),
            Mx=rng.uniform(-40, 40),
            My=rng.uniform(-60, 60),
        ),
        Load(V=rng.uniform(400, 1500), Hx=rng.uniform(-40, 40), My=rng.uniform(-60, 60)),
        rng.uniform(0.0, 0.7),
        rng.uniform(4.0, 8.0),
        (rng.uniform(1.5, 2.4), rng.uniform(1.8, 2.8)),
        turn=rng.choice((0.0, 90.0, 33.0, 200.0)),
    )
    points = tuple(
        p.replaced(axes=rng.choice(("plan", "local" if local else "plan"))) for p in project.actions.load_points
    )
    pads = tuple(
        p.replaced(
            thickness=rng.uniform(0.5, 0.8),
            pedestal=random_pedestal(rng, 0.5, p.level + 0.8) if rng.random() < 0.4 else None,
        )
        for p in project.pads
    )
    strap = Strap(
        name="S",
        edge="P",
        inner="Q",
        width=rng.uniform(0.3, 0.8),
        depth=rng.uniform(0.5, 1.2),
        top=Bars(diameter=0.02, number=rng.randint(3, 8)),
        bottom=Bars(diameter=0.016, number=rng.randint(2, 6)),
        links=rng.choice((None, Bars(diameter=0.01, spacing=0.15))),
        legs=rng.choice((2, 3, 4)),
    )
    return project.replaced(
        actions=project.actions.replaced(load_points=points),
        pads=pads,
        straps=(strap,),
        standards=other.standards,
    )


@pytest.mark.parametrize(
    "change",
    [in_mirror, turned, shuffled, halved, cut_in_two, in_other_units, under_other_names],
    ids=lambda f: f.__name__,
)
@few
@given(seeds)
def test_written_otherwise(change: Callable[[Project], Project], seed: int) -> None:
    project = tied_plan(seed, local=change is not turned)  # which turns forces in plan axes
    alike(verdicts(project), verdicts(change(project)), 1e-8)


@pytest.mark.long
@few
@given(seeds, st.floats(-40.0, 40.0))
def test_another_datum(seed: int, levels: float) -> None:
    project = tied_plan(seed)
    alike(verdicts(project), verdicts(moved(project, levels)), 1e-7)


@pytest.mark.long
@few
@given(seeds)
def test_a_nudge_changes_as_little(seed: int) -> None:
    project = tied_plan(seed)
    alike(verdicts(project), verdicts(nudged(project)), 1e-5)


@pytest.mark.long
@few
@given(seeds)
def test_the_ledger_is_the_working(seed: int) -> None:
    assert ledger_is_working(tied_plan(seed)) > 20


@pytest.mark.long
@few
@given(seeds, st.integers(0, 10**6))
def test_edits_in_any_order_end_as_from_scratch(seed: int, order: int) -> None:
    """Sizes, loads and the strap change, at either base: each sees it."""
    rng = random.Random(order)
    project = tied_plan(seed)
    evaluate(project)
    for _ in range(4):
        pad = rng.choice(project.pads)
        what = rng.choice(("thickness", "width", "strap", "load", "no strap"))
        if what in ("thickness", "width"):
            changed = pad.replaced(**{what: getattr(pad, what) + rng.uniform(0.0, 0.1)})
            project = project.replaced(pads=tuple(changed if p is pad else p for p in project.pads))
        elif what == "load":
            points = tuple(
                p.replaced(loads={"G": Load(V=rng.uniform(300, 900), My=20.0)}) if p.name == pad.load_point else p
                for p in project.actions.load_points
            )
            project = project.replaced(actions=project.actions.replaced(load_points=points))
        elif what == "strap":
            project = project.replaced(straps=tuple(s.replaced(depth=s.depth + 0.05) for s in project.straps))
        else:
            project = project.replaced(straps=() if project.straps else tied_plan(seed).straps)
        results = evaluate(project)
        for p in project.pads:
            alone = fresh(project, p.name)
            assert {c.check.id for c in results.pad(p.name).checks} == set(alone)
            for check in results.pad(p.name).checks:
                same(check, alone[check.check.id])


@pytest.mark.long
@few
@given(seeds, st.sampled_from(["top", "bottom", "links", "strength"]))
def test_more_of_what_resists_never_raises_a_ratio(seed: int, what: str) -> None:
    project = tied_plan(seed)
    (strap,) = project.straps
    if what == "strength":
        settings = project.settings.replaced(concrete_strength=project.settings.concrete_strength + 10)
        more = project.replaced(settings=settings)
    elif what == "links":
        more = project.replaced(straps=(strap.replaced(links=Bars(diameter=0.01, spacing=0.1)),))
    else:
        bars = getattr(strap, what)
        more = project.replaced(straps=(strap.replaced(**{what: bars.replaced(number=bars.number + 1)}),))
    before, after = (
        {c.check.id: c.ratio for c in evaluate(p).pad("P").checks if c.check.id.startswith("strap")}
        for p in (project, more)
    )
    for check, ratio in before.items():
        if what in ("strength", "links") and check != "strap-shear":
            continue  # least steel grows with the strength, and the first links lower the bars
        assert (after[check] or 0.0) <= (ratio or 0.0) * (1 + 1e-9), check
