"""Combinations that are looked at for some bases alone."""

import pytest
from pydantic import ValidationError

from korbent.core.cache import forget_all
from korbent.core.evaluate import Results, evaluate
from korbent.core.model import Project, edited, renamed
from korbent.core.plan.totals import building
from korbent.core.sizing.propose import proposals


def with_only(project: Project, *names: str, number: int | None = None) -> Project:
    """The combinations that press hardest on the concrete, or one, only for some bases."""
    combinations = tuple(
        c.replaced(only=names) if (c.number == number if number else limits(c)) else c
        for c in project.actions.combinations
    )
    return edited(project, ("actions", "combinations"), combinations)


def told(results: Results, name: str) -> list[tuple[object, ...]]:
    """What is said of a base; how many are computed together is felt in the last digits of sums."""
    checks = results.pad(name).checks
    return [(c.check.id, c.state, c.message, c.combination, c.ratio and round(c.ratio, 9)) for c in checks]


def limits(combination: object) -> bool:
    serves = set(combination.serves)  # type: ignore[attr-defined]
    return bool(serves & {"concrete", "ultimate"}) and not serves & {"settlement_long", "settlement_short"}


def without(project: Project) -> Project:
    kept = tuple(c for c in project.actions.combinations if not limits(c))
    return edited(project, ("actions", "combinations"), kept)


def test_others_are_as_if_it_were_not_there_and_its_own_as_if_it_were_for_all(demo: Project) -> None:
    some = evaluate(with_only(demo, "P8", "P11"))
    every, none = evaluate(demo), evaluate(without(demo))
    for pad in demo.pads:
        wanted = every if pad.name in ("P8", "P11") else none
        assert told(some, pad.name) == told(wanted, pad.name)


def test_one_of_many_leaves_the_others_their_combinations(demo: Project) -> None:
    every = evaluate(demo)
    found = every.pad("P8").check("punching")
    number = int("".join(c for c in found.combination.split()[0] if c.isdigit()))
    changed = evaluate(with_only(demo, "P1", number=number))
    now = changed.pad("P8").check("punching")
    assert now.ratio is not None
    assert found.ratio is not None
    assert now.ratio < found.ratio
    assert told(changed, "P1") == told(every, "P1")


@pytest.mark.long
def test_many_different_choices_are_kept_apart() -> None:
    """More of them than are remembered: each of a hundred bases alike has a combination of its own, ten times as heavy
    as the others'."""
    from korbent.core.model import Combination
    from korbent.verification.pad import one_pad

    project = one_pad()
    point, pad = project.actions.load_points[0], project.pads[0]
    names = [f"Q{k}" for k in range(100)]
    points = tuple(point.replaced(name=n, x=30.0 * k) for k, n in enumerate(names))
    case = project.actions.cases[0].name
    combinations = tuple(
        Combination(number=k + 1, factors={case: 0.05 * (k + 1)}, serves=("allowable",), only=(n,))
        for k, n in enumerate(names)
    )
    actions = project.actions.replaced(load_points=points, combinations=combinations)
    pads = tuple(pad.replaced(name=n, load_point=n) for n in names)
    project = project.replaced(actions=actions, pads=pads)
    for k, found in enumerate(evaluate(project).pads):
        for check in found.checks:
            assert check.combination.split(" ")[0] in ("", str(k + 1)), (found.name, check.check.id)


@pytest.mark.long
def test_warm_is_cold(demo: Project) -> None:
    evaluate(demo)
    project = with_only(demo, "P8")
    warm = evaluate(project)
    forget_all()
    cold = evaluate(project)
    assert [p.checks for p in warm.pads] == [p.checks for p in cold.pads]


@pytest.mark.long
def test_proposals_see_those_of_each_base(demo: Project) -> None:
    pads = tuple(demo.pad(n).replaced(type=None) for n in ("P8", "P1"))
    project = demo.replaced(pads=pads)
    both = {p.pads[0]: p.sizes for p in proposals(project)}
    some = {p.pads[0]: p.sizes for p in proposals(with_only(project, "P8"))}
    assert some["P8"] == both["P8"]
    assert some["P1"] != both["P1"]


def test_it_follows_the_name_of_its_base(demo: Project) -> None:
    project = renamed(with_only(demo, "P8"), ("pads", "P8"), "Z1")
    assert {c.only for c in project.actions.combinations if limits(c)} == {("Z1",)}


@pytest.mark.parametrize(
    ("names", "serves", "said"),
    [
        (("P99",), ("concrete",), "there is no base 'P99'"),
        (("P8",), ("settlement_long",), "bases settle together"),
        (("P8",), ("settlement_short", "concrete"), "bases settle together"),
    ],
)
def test_what_cannot_be_is_refused(demo: Project, names: tuple[str, ...], serves: tuple[str, ...], said: str) -> None:
    first = demo.actions.combinations[0].replaced(only=names, serves=serves)
    with pytest.raises(ValidationError, match=said):
        edited(demo, ("actions", "combinations"), (first, *demo.actions.combinations[1:]))


def test_both_ends_of_a_strap_or_none() -> None:
    from korbent.demo import lindmere

    project = lindmere()
    strap = project.straps[0]
    with pytest.raises(ValidationError, match="are tied by a strap"):
        with_only(project, strap.edge)
    assert with_only(project, strap.edge, strap.inner)


def test_what_is_for_some_is_none_of_the_building(demo: Project) -> None:
    allowable = [c for c in demo.actions.combinations if c.serves == ("allowable",)]
    whole = building(demo)
    assert whole is not None
    heavy = allowable[0].replaced(number=900, factors=dict.fromkeys(allowable[0].factors, 5.0), only=("P8",))
    project = edited(demo, ("actions", "combinations"), (*demo.actions.combinations, heavy))
    again = building(project)
    assert again is not None
    assert pytest.approx(whole.V) == again.V


def test_a_base_that_a_combination_names_is_not_replaced_by_another(demo: Project) -> None:
    from korbent.core.sizing.first_size import combined, raft_under

    columns = tuple(demo.pad(n).load_point for n in ("P1", "P2"))
    for make in (combined, raft_under):
        with pytest.raises(ValueError, match="is looked at for some of these bases only"):
            make(with_only(demo, "P1"), columns)


def test_ground_that_is_not_known_is_left_out_in_space(demo: Project) -> None:
    from korbent.drawing.whole import whole_drawing

    holes = tuple(h.replaced(strata=()) for h in demo.ground.boreholes)
    assert "foundations" in whole_drawing(edited(demo, ("ground", "boreholes"), holes)).layers


def test_templates_and_sets_of_the_office_leave_them_behind(demo: Project) -> None:
    from korbent.files.office import combinations_of, keep_set, template_of

    project = with_only(demo, "P8")
    kept = [c for c in project.actions.combinations if not c.only]
    assert 0 < len(kept) < len(project.actions.combinations)
    assert [c.name for c in template_of(project).actions.combinations] == [c.name for c in kept]
    keep_set(project.actions, "mine")
    assert [c.name for c in combinations_of("mine", project.actions.cases)] == [c.name for c in kept]
