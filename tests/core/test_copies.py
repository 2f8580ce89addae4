"""Bases copied, mirrored and laid out: the copy of a base says what the base says; in a mirror left is right."""

import pytest

from korbent.core.checks import State
from korbent.core.evaluate import evaluate
from korbent.core.model import Project, edited
from korbent.core.plan.copies import Motion, copied, rows_of
from korbent.core.plan.outline import corners_in_plan
from korbent.demo import lindmere
from korbent.verification.pad import one_pad
from tests.invariants.plans import mirrored, random_project

FAR = 1000.0
"""So far that bases do not settle by each other, m."""
ALONE = ("slope", "relative-rotation", "settlement", "settlement-short", "tilt", "site")
"""Checks that look at what stands beside."""


def told(project: Project, name: str) -> dict[str, tuple[object, ...]]:
    return {c.check.id: (c.state, c.ratio) for c in evaluate(project).pad(name).checks if c.check.id not in ALONE}


def same(a: dict[str, tuple[object, ...]], b: dict[str, tuple[object, ...]]) -> None:
    assert a.keys() == b.keys()
    for check, (state, ratio) in a.items():
        other, value = b[check]
        assert state == other, check
        assert value == (None if ratio is None else pytest.approx(ratio, rel=1e-7, abs=1e-9)), check


@pytest.mark.parametrize("seed", range(6))
@pytest.mark.parametrize("motion", [Motion(0.0, FAR), Motion(mirror="x", at=-FAR), Motion(mirror="y", at=FAR)])
def test_the_copy_says_what_the_base_says(seed: int, motion: Motion) -> None:
    project = random_project(seed)
    names = [p.name for p in project.pads if p.kind != "raft"]
    # one hole for all, so that a copy stands on the same ground
    project = project.replaced(ground=project.ground.replaced(boreholes=project.ground.boreholes[:1]))
    whole, made = copied(project, names, (motion,))
    assert len(made) == len(names)
    for name, new in zip(names, made):
        before, after = told(project, name), told(whole, new)
        if not motion.mirror:
            same(before, after)
            continue
        # along and across stay what they are: the axes of the base only turn round
        same(before, after)


@pytest.mark.parametrize("seed", range(4))
def test_a_mirrored_copy_is_the_mirrored_project(seed: int) -> None:
    """A second way: the whole project seen in a mirror, written for the invariants."""
    project = random_project(seed)
    names = [p.name for p in project.pads]
    whole, made = copied(project, names, (Motion(mirror="x", at=0.0),))
    image = mirrored(project)
    for name, new in zip(names, made):
        a, b = image.pad(name), whole.pad(new)
        assert (a.rotation, a.offset_x, a.offset_y) == (b.rotation, b.offset_x, b.offset_y)
        p, q = image.load_point(a.load_point), whole.load_point(b.load_point)
        assert (q.x, q.y, q.rotation) == pytest.approx((p.x, p.y, p.rotation), abs=1e-8)
        assert dict(p.loads) == dict(q.loads)


def test_twice_in_a_mirror_is_where_it_was() -> None:
    project = lindmere()
    for mirror in ("x", "y"):
        for name in ("R1", "P8", "P11"):
            once, (first,) = copied(project, (name,), (Motion(mirror=mirror, at=FAR),))  # type: ignore[arg-type]
            twice, (second,) = copied(once, (first,), (Motion(mirror=mirror, at=FAR),))  # type: ignore[arg-type]
            own = {"name", "load_point", "further", "pedestals", "frozen", "accepted", "expressions"}
            a, b = project.pad(name).model_dump(exclude=own), twice.pad(second).model_dump(exclude=own)
            assert a == b


def test_the_ends_of_a_mirrored_trapezoid_change_places() -> None:
    project = one_pad(shape="trapezoid", width=3.0, length=1.5, far_length=2.5, offset_x=0.3)
    whole, (new,) = copied(project, (project.pads[0].name,), (Motion(mirror="x", at=5.0),))
    pad = whole.pad(new)
    assert (pad.length, pad.far_length, pad.offset_x) == (2.5, 1.5, -0.3)
    assert whole.load_point(pad.load_point).x == 10.0 - project.actions.load_points[0].x


def test_corners_go_where_the_mirror_puts_them() -> None:
    project = edited(lindmere(), ("pads", "P11", "rotation"), 20.0)
    for motion in (Motion(3.0, 4.0), Motion(mirror="x", at=7.0), Motion(mirror="y", at=-2.0)):
        whole, (new,) = copied(project, ("P11",), (motion,))
        expected = sorted(motion(*c) for c in corners_in_plan(project, project.pad("P11")))
        found = sorted(corners_in_plan(whole, whole.pad(new)))
        for a, b in zip(expected, found):
            assert b == pytest.approx(a, abs=1e-7)


def test_straps_are_copied_where_both_bases_are() -> None:
    project = lindmere()
    strap = project.straps[0]
    both, _ = copied(project, (strap.edge, strap.inner), (Motion(0.0, FAR),))
    assert len(both.straps) == 2
    assert {both.straps[1].edge, both.straps[1].inner}.isdisjoint({strap.edge, strap.inner})
    one, _ = copied(project, (strap.edge,), (Motion(0.0, FAR),))
    assert len(one.straps) == 1


@pytest.mark.long
def test_copies_are_free_and_named_on() -> None:
    project = edited(lindmere(), ("pads", "P3", "frozen"), "poured")
    whole, made = copied(project, ("P3",), rows_of(2, 6.0, 2, 5.0))
    assert len(made) == 3
    assert made == ("P17", "P18", "P19")
    point, own = (
        whole.load_point(whole.pad("P17").load_point),
        project.load_point(project.pad("P3").load_point),
    )
    assert (point.x, point.y) == (own.x + 6.0, own.y)
    assert dict(point.loads) == dict(own.loads)
    assert whole.pad("P17").frozen == ""
    assert not whole.pad("P17").accepted
    assert whole.pad("P3") == project.pad("P3")
    assert evaluate(whole).pad("P17").worst.state is not State.CANNOT


@pytest.mark.parametrize(
    ("args", "says"),
    [
        ((1, 5.0, 1, 5.0), "at least two"),
        ((3, 0.0, 1, 5.0), "along x is nothing"),
        ((2, 5.0, 2, 0.0), "along y"),
        ((100, 1.0, 100, 1.0), "at most 2000"),
    ],
)
def test_an_array_of_nothing_is_refused(args: tuple[int, float, int, float], says: str) -> None:
    with pytest.raises(ValueError, match=says):
        rows_of(*args)


def test_nothing_chosen_is_refused() -> None:
    with pytest.raises(ValueError, match="choose a base"):
        copied(lindmere(), (), (Motion(1.0),))
