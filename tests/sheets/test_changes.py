"""What has changed between two states: nothing between a state and itself, each thing where it is, and back again."""

from collections.abc import Callable
from random import Random

import pytest

from korbent.core.evaluate import evaluate
from korbent.core.explain.changes import changes
from korbent.core.model import Bars, Project, edited
from korbent.core.model.actions import Anchors
from korbent.core.model.reinforcement import Dowels
from korbent.core.model.site import Range
from korbent.demo import DEMOS, lindmere
from korbent.sheets.changes import changes_grid, changes_text, changes_values


def loaded(project: Project, column: str, share: float) -> Project:
    """The permanent load of a column, so many times as great."""
    points = tuple(
        p.replaced(loads={**p.loads, "G": p.loads["G"].replaced(V=p.loads["G"].V * share)}) if p.name == column else p
        for p in project.actions.load_points
    )
    return project.replaced(actions=project.actions.replaced(load_points=points))


def column(project: Project, **values: object) -> Project:
    """The column on P7 with other values."""
    name = project.pad("P7").load_point
    points = tuple(p.replaced(**values) if p.name == name else p for p in project.actions.load_points)
    return project.replaced(actions=project.actions.replaced(load_points=points))


ANCHORED = {"plate_x": 0.5, "plate_y": 0.5, "anchors": Anchors(apart_x=0.3, apart_y=0.3, depth=0.4)}

EDITS: dict[str, tuple[Callable[[Project], Project], str, str]] = {
    "width": (lambda p: edited(p, ("pads", "P7", "width"), 2.7), "sizes", "B 2.50 → 2.70 m"),
    "level": (
        lambda p: edited(p, ("pads", "P7", "level"), p.pad("P7").level - 0.2),
        "sizes",
        "underside 2.00 → 1.80 m",
    ),
    "bars": (
        lambda p: edited(p, ("pads", "P7", "reinforcement", "bottom_y"), Bars(diameter=0.02, spacing=0.2)),
        "bars",
        "bottom y ø16 at 175 → ø20 at 200",
    ),
    "dowels": (lambda p: edited(p, ("pads", "P7", "dowels"), Dowels(number=12)), "bars", "other dowels"),
    "column": (lambda p: column(p, size_x=0.5, size_y=0.45), "sizes", "→ 0.50 × 0.45 m"),
    "anchors": (lambda p: column(p, **ANCHORED), "sizes", "anchors of "),
    "load": (lambda p: loaded(p, p.pad("P7").load_point, 1.1), "loads", "(+10 %)"),
    "soil": (
        lambda p: edited(p, ("ground", "soils", "Silty sand", "friction_angle"), 31.0),
        "ground",
        "Silty sand friction angle: 32.5 → 31",
    ),
}


@pytest.mark.parametrize("name", list(DEMOS))
def test_nothing_has_changed_against_itself(name: str) -> None:
    project = DEMOS[name]()
    found = changes(project, project)
    assert found.bases == ()
    assert found.general == ()
    assert changes_text(found) == "Nothing has changed."


@pytest.mark.parametrize("what", list(EDITS))
def test_each_thing_stands_where_it_is(demo: Project, what: str) -> None:
    change, place, text = EDITS[what]
    found = changes(demo, change(demo))
    own = next(b for b in found.bases if b.base == "P7")
    assert any(text in said for said in getattr(own, place)), getattr(own, place)
    for other in {"sizes", "bars", "loads", "ground"} - {place}:
        assert getattr(own, other) == ()
    assert own.built == (place in ("sizes", "bars"))
    assert ("P7" in found.clouded) == own.built
    # what is not changed itself is named only where its checks moved
    for base in found.bases:
        if base.base != "P7" and place != "ground":
            assert not base.built


def test_ratios_before_and_after_are_those_of_the_checks(demo: Project) -> None:
    after = edited(demo, ("pads", "P7", "width"), 2.3)
    old, new = evaluate(demo), evaluate(after)
    for base in changes(demo, after).bases:
        assert (base.before, base.after) == (old.pad(base.base).worst.ratio, new.pad(base.base).worst.ratio)
        for said in base.crossed:
            title = said.rpartition(" ")[0]
            checks = [
                next(c for c in r.pad(base.base).checks if title.startswith(c.check.title + " ")) for r in (old, new)
            ]
            assert (checks[0].ratio > 1) != (checks[1].ratio > 1)


@pytest.mark.long
def test_new_and_gone_bases_and_straps() -> None:
    whole = lindmere()
    without = whole.replaced(pads=tuple(p for p in whole.pads if p.name not in ("P7", "P8")), straps=())
    there = {b.base: b for b in changes(without, whole).bases}
    assert (there["P7"].kind, there["P8"].kind, there["S1"].kind) == ("new", "new", "new")
    assert there["P7"].before is None
    assert there["P7"].after == evaluate(whole).pad("P7").worst.ratio
    back = {b.base: b for b in changes(whole, without).bases}
    assert (back["P7"].kind, back["S1"].kind) == ("gone", "gone")
    assert "P7" not in changes(whole, without).clouded
    assert {"P7", "P8"} <= set(changes(without, whole).clouded)


@pytest.mark.long
def test_how_a_strap_may_grow_is_nothing_that_is_built_and_what_a_raft_rests_on_is() -> None:
    project = lindmere()
    strap = project.straps[0]
    ranged = project.replaced(straps=(strap.replaced(ranges={"depth": Range(high=1.0)}, type="A"),))
    assert changes(project, ranged).bases == ()
    raft = project.pad("R1")
    assert raft.plate is not None

    def on(**plate: object) -> Project:
        new = raft.replaced(plate=raft.plate.replaced(**plate))  # type: ignore[union-attr]
        return project.replaced(pads=tuple(new if p is raft else p for p in project.pads))

    for plate, said in (
        ({"greatest": 300.0}, "other springs below the raft"),
        ({"subgrade": 9e3}, "other springs below the raft"),
    ):
        (own,) = (b for b in changes(project, on(**plate)).bases if b.base == "R1")
        assert own.sizes == (said,)


def test_what_holds_for_all_is_said_once(demo: Project) -> None:
    after = edited(demo, ("settings", "concrete_strength"), 35.0)
    found = changes(demo, after)
    assert any("concrete strength: 30 becomes 35" in line for line in found.general)
    assert not found.clouded


@pytest.mark.parametrize("seed", range(6))
def test_forth_and_back_name_the_same_bases(demo: Project, seed: int) -> None:
    random = Random(seed)
    project = demo
    for name in random.sample([p.name for p in demo.pads], 3):
        field = random.choice(["width", "length", "thickness"])
        project = edited(project, ("pads", name, field), getattr(project.pad(name), field) + 0.1)
    forth, back = changes(demo, project), changes(project, demo)
    assert {b.base for b in forth.bases} == {b.base for b in back.bases}
    for a in forth.bases:
        b = next(x for x in back.bases if x.base == a.base)
        assert (a.before, a.after) == (b.after, b.before)
        assert len(a.sizes) == len(b.sizes)
        assert len(a.crossed) == len(b.crossed)


def test_as_table_text_and_values(demo: Project) -> None:
    after = edited(demo, ("pads", "P7", "width"), 2.3)
    found = changes(demo, after)
    head, rows = changes_grid(found)
    assert all(len(r) == len(head) for r in rows)
    assert rows[[r[0] for r in rows].index("P7")][4] == "B 2.50 → 2.30 m"
    assert "P7: changed, worst" in changes_text(found)
    values = changes_values(found)
    assert {b["base"] for b in values["bases"]} == {b.base for b in found.bases}
