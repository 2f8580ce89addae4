"""Bars added to a raft: where the basic ones are too little, enough of them, few regions, mirrored with the raft."""

import numpy as np
import pytest

from korbent.core.checks import State
from korbent.core.concrete.bar_text import parsed
from korbent.core.evaluate import evaluate
from korbent.core.explain.raft import raft_field
from korbent.core.model import Bars, Project, Reinforcement
from korbent.core.model.plate import AddedBars
from korbent.core.model.reinforcement import FACES
from korbent.core.rafts.added import proposed_added, shortfalls
from korbent.core.rafts.bars import steel_field
from korbent.drawing.raft import lacking_words, raft_drawing
from tests.core.test_rafts import bench_of, plate_of, raft

THIN = Bars(diameter=0.010, spacing=0.2)
OF_BARS = tuple(face.replace("_", "-") for face in FACES)


def weak(bars: Bars = THIN, **plate: object) -> Project:
    """The raft of the other tests with thin bars."""
    project = raft(thickness=0.4, **plate)  # type: ignore[arg-type]
    pad = project.pads[0].replaced(reinforcement=Reinforcement(bottom_x=bars, bottom_y=bars, top_x=bars, top_y=bars))
    return project.replaced(pads=(pad,))


def with_added(project: Project, added: tuple[AddedBars, ...]) -> Project:
    pad = project.pads[0]
    assert pad.plate is not None
    return project.replaced(pads=(pad.replaced(plate=pad.plate.replaced(added=added)),))


def test_they_make_up_what_is_lacking_and_no_node_is_short() -> None:
    project = weak()
    before = {c.check.id: c for c in evaluate(project).pads[0].checks}
    failing = [i for i in OF_BARS if before[i].state is State.FAILS]
    assert failing
    added = proposed_added(project, project.pads[0])
    assert {a.face.replace("_", "-") for a in added} == set(failing)
    done = with_added(project, added)
    after = {c.check.id: c for c in evaluate(done).pads[0].checks}
    assert all(after[i].state is State.HOLDS for i in OF_BARS if after[i].ratio is not None)
    solved, bench = plate_of(done), bench_of(done)
    for face in FACES:
        asked, provided = steel_field(bench, solved, *face.split("_"))
        assert np.nanmax(asked - provided) <= 1e-6 * np.nanmax(asked)


def test_they_lie_at_the_spacing_of_the_basic_bars_or_twice_that() -> None:
    project = weak()
    for added in proposed_added(project, project.pads[0]):
        assert added.bars.spacing in (0.2, 0.4)
        pad = project.pads[0]
        assert -pad.width / 2 <= added.x_from < added.x_to <= pad.width / 2
        assert -pad.length / 2 <= added.y_from < added.y_to <= pad.length / 2


def test_where_the_basic_bars_are_enough_none_are_added() -> None:
    project = weak(Bars(diameter=0.025, spacing=0.1))
    assert proposed_added(project, project.pads[0]) == ()
    # what lay there goes too: it is looked at without it
    extra = AddedBars(x_from=-1, x_to=1, y_from=-1, y_to=1, face="top_x", bars=THIN)
    done = with_added(project, (extra,))
    assert proposed_added(done, done.pads[0]) == ()


def test_no_region_overlaps_another_of_its_face() -> None:
    project = weak(Bars(diameter=0.010, spacing=0.3))
    found = shortfalls(project, project.pads[0])
    assert len(found) <= 3 * len(FACES)
    for a in found:
        assert a.lacks > 0
        for b in found:
            if a is not b and a.face == b.face:
                (x0, x1, y0, y1), (u0, u1, v0, v1) = a.box, b.box
                assert x1 <= u0 or u1 <= x0 or y1 <= v0 or v1 <= y0


def test_stronger_basic_bars_lack_less() -> None:
    def lacking(diameter: float) -> dict[str, float]:
        project = weak(Bars(diameter=diameter, spacing=0.2))
        found: dict[str, float] = {}
        for one in shortfalls(project, project.pads[0]):
            found[one.face] = max(found.get(one.face, 0.0), one.lacks)
        return found

    thin, thick = lacking(0.010), lacking(0.012)
    assert thick
    for face, lacks in thick.items():
        assert lacks < thin[face]


def test_what_cannot_be_made_up_says_so() -> None:
    project = weak()
    pad = project.pads[0]
    by_number = pad.replaced(
        reinforcement=pad.reinforcement.replaced(**{f: Bars(diameter=0.010, number=12) for f in FACES})
    )
    with pytest.raises(ValueError, match="by their spacing"):
        proposed_added(project.replaced(pads=(by_number,)), by_number)
    heavy = raft(thickness=0.25, loads=(2200, 2500, 2300, 2600, 2400, 2100))
    thin = heavy.pads[0].replaced(reinforcement=Reinforcement(**dict.fromkeys(FACES, THIN)))
    with pytest.raises(ValueError, match="make the basic bars stronger or the raft thicker"):
        proposed_added(heavy.replaced(pads=(thin,)), thin)


def test_what_is_short_is_told_in_bars() -> None:
    """In bars of the basic diameter: as many as told make up for the lack, a step further apart they do not; nothing
    where steel is enough."""
    project = weak()
    pad = project.pads[0]
    worst = None
    for name in ("bottom_x", "bottom_y", "top_x", "top_y"):
        field = raft_field(project, pad, name, "")
        assert not isinstance(field, str)
        assert field.provided is not None
        lacks = float(np.nanmax(field.values - field.provided))
        said = lacking_words(field, pad, False, project.showing)
        assert bool(said) == (lacks > 0), name
        if said and (worst is None or lacks > worst):
            worst = lacks
            bars = parsed(said.split(": ")[1].removesuffix(" beside what there is"))
            basic = pad.reinforcement.bars(name)  # type: ignore[arg-type]
            assert bars is not None
            assert basic is not None
            assert bars.diameter == basic.diameter
            assert bars.spacing is not None
            assert 1e6 * bars.area_in(1.0) >= lacks
            assert 1e6 * bars.replaced(spacing=bars.spacing + 0.005).area_in(1.0) < lacks
            drawn = raft_drawing(project, pad, evaluate(project).pads[0], field)
            assert said in drawn.texts
    assert worst is not None
    field = raft_field(project, pad, "pressure", "")
    assert not isinstance(field, str)
    assert lacking_words(field, pad, False, project.showing) == ""
