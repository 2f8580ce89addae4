"""Bars end at the openings of rafts, and as many lie beside them."""

from math import ceil, pi

import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.concrete.schedule import (
    STEEL,
    lap_of,
    positions,
    schedule,
    stretches,
    trimmers,
    weight_of,
)
from korbent.core.model import Pad, Project
from korbent.core.model.plate import Region
from korbent.demo import lindmere
from korbent.drawing.primitives import Line


def raft_of(project: Project) -> Pad:
    return next(p for p in project.pads if p.plate is not None)


def with_openings(*openings: Region) -> tuple[Project, Pad]:
    project = lindmere()
    pad = raft_of(project)
    assert pad.plate is not None
    new = pad.replaced(plate=pad.plate.replaced(openings=openings, thickenings=(), lower=(), added=()))
    project = project.replaced(pads=tuple(new if p is pad else p for p in project.pads))
    return project, project.pad(pad.name)


HOLE = Region(x_from=0.7, x_to=2.9, y_from=-1.2, y_to=1.2)


def total(project: Project, pad: Pad, place: str) -> float:
    """Length of the bars of a place, straight parts alone, m."""
    return sum(n * bar.b for bar in schedule(project, (pad,)) for base, where, n in bar.where if where == place)


@pytest.mark.parametrize("face", ["bottom_x", "bottom_y", "top_x", "top_y"])
def test_what_is_cut_out_is_the_opening_and_its_covers(face: str) -> None:
    """By counting: each bar that meets the opening loses its length there and the cover at both of its sides."""
    bare, pad = with_openings()
    cut, same = with_openings(HOLE)
    bars, axis = pad.reinforcement.bars(face), face[-1]
    assert bars is not None
    cover = bare.settings_of(pad).concrete_cover
    (a, b), (c, d) = ((HOLE.x_from, HOLE.x_to), (HOLE.y_from, HOLE.y_to))[:: 1 if axis == "x" else -1]
    met = sum(c - cover < at < d + cover for at in positions(pad.extent if axis == "x" else pad.width, cover, bars))
    assert met > 5
    place = face.replace("_", " ")
    lost = total(bare, pad, place) - total(cut, same, place)
    assert lost == pytest.approx(met * (b - a + 2 * cover), abs=met * 0.011)  # each piece is rounded to the centimetre


def test_beside_it_lie_as_many_as_it_cuts() -> None:
    project, pad = with_openings(HOLE)
    cover = project.settings_of(pad).concrete_cover
    found = trimmers(project, pad)
    for face in ("bottom_x", "bottom_y", "top_x", "top_y"):
        bars = pad.reinforcement.bars(face)
        assert bars is not None
        own = [t for t in found if t.face == face]
        assert [t.side for t in own] == [-1, 1]
        (a, b), (c, d) = ((HOLE.x_from, HOLE.x_to), (HOLE.y_from, HOLE.y_to))[:: 1 if face[-1] == "x" else -1]
        met = sum(
            c - cover < at < d + cover for at in positions(pad.extent if face[-1] == "x" else pad.width, cover, bars)
        )
        assert sum(t.count for t in own) in (met, met + 1)
        for one in own:
            assert one.count == ceil(met / 2)
            assert one.diameter == bars.diameter
            lap = lap_of(project, pad, bars.diameter)
            half = (pad.width if face[-1] == "x" else pad.extent) / 2 - cover
            assert one.low == pytest.approx(max(a - lap, -half))
            assert one.high == pytest.approx(min(b + lap, half))
            assert one.at < c if one.side < 0 else one.at > d


def test_at_an_edge_all_lie_at_the_other_side() -> None:
    project, pad = with_openings()
    edge = Region(x_from=-1.0, x_to=1.0, y_from=pad.length / 2 - 1.0, y_to=pad.length / 2 - 0.02)
    project, pad = with_openings(edge)
    own = [t for t in trimmers(project, pad) if t.face == "bottom_x"]
    assert [t.side for t in own] == [-1]
    both = [t for t in trimmers(project, pad) if t.face == "bottom_y"]
    assert [t.side for t in both] == [-1, 1]


@given(
    st.floats(-3.0, 2.0),
    st.floats(0.4, 2.0),
    st.floats(-2.5, 1.5),
    st.floats(0.4, 2.0),
    st.floats(-4.0, 4.0),
    st.sampled_from("xy"),
)
def test_no_bar_lies_in_an_opening(x: float, wide: float, y: float, high: float, at: float, axis: str) -> None:
    hole = Region(x_from=x, x_to=x + wide, y_from=y, y_to=y + high)
    _, pad = with_openings(hole)
    (a, b), (c, d) = ((hole.x_from, hole.x_to), (hole.y_from, hole.y_to))[:: 1 if axis == "x" else -1]
    size = pad.width if axis == "x" else pad.extent
    parts = stretches(pad, axis, at, 0.05)
    inside = c - 0.05 < at < d + 0.05
    assert sum(e - s for s, e in parts) == pytest.approx(size - (b - a) * inside)
    assert all(e <= a + 1e-9 or s >= b - 1e-9 for s, e in parts) or not inside


def test_a_mirrored_opening_has_mirrored_bars() -> None:
    project, pad = with_openings(HOLE)
    other, flipped = with_openings(Region(x_from=-2.9, x_to=-0.7, y_from=-1.2, y_to=1.2))
    assert weight_of(project, pad) == pytest.approx(weight_of(other, flipped))
    for one, two in zip(trimmers(project, pad), trimmers(other, flipped), strict=True):
        if one.face[-1] == "x":
            assert (one.low, one.high) == pytest.approx((-two.high, -two.low))


def test_weight_and_drawing_have_them() -> None:
    from korbent.core.model.sheets import SheetChoice
    from korbent.sheets.catalogue import set_named
    from korbent.sheets.drawings import drawings

    project, pad = with_openings(HOLE)
    steel = sum(t.count * (t.high - t.low) * pi * t.diameter**2 / 4 * STEEL for t in trimmers(project, pad))
    said = sum(
        n * bar.b * pi * bar.diameter**2 / 4 * STEEL
        for bar in schedule(project, (pad,))
        for _, where, n in bar.where
        if where.startswith("beside openings")
    )
    assert said == pytest.approx(steel, rel=0.01)
    made = drawings(project, set_named(project, ""), [SheetChoice(key="details")])
    lines = [
        s for sheet in made for v in sheet.views for s in v.drawing.shapes if isinstance(s, Line) and s.key == "trimmer"
    ]
    assert len(lines) == len(trimmers(project, pad))
