"""The whole in space: projection, what hides what, bars within the concrete."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.concrete.schedule import positions
from korbent.core.evaluate import evaluate
from korbent.core.model import Project, edited
from korbent.demo import DEMOS
from korbent.drawing.primitives import Drawing, Line, Polygon, Text
from korbent.drawing.whole import HIGHEST, ISOMETRIC, LOWEST, Eye, _areas, whole_drawing

AZIMUTH = st.floats(-180.0, 180.0)
HEIGHT = st.floats(LOWEST, HIGHEST)
PLACE = st.tuples(*[st.floats(-30.0, 30.0)] * 3)


def shapes_of(drawing: Drawing, kind: type, **wanted: object) -> list[object]:
    return [s for s in drawing.shapes if isinstance(s, kind) and all(getattr(s, k) == v for k, v in wanted.items())]


@given(AZIMUTH, HEIGHT, PLACE, PLACE)
def test_it_is_a_projection(azimuth: float, height: float, p: tuple[float, ...], q: tuple[float, ...]) -> None:
    """What is lost of the distance of two points is what lies along the line of sight."""
    eye = Eye(azimuth, height)
    a, e = math.radians(azimuth), math.radians(height)
    sight = (math.cos(e) * math.cos(a), math.cos(e) * math.sin(a), math.sin(e))
    (ax, ay), (bx, by) = eye(*p), eye(*q)
    along = sum((u - v) * s for u, v, s in zip(p, q, sight))
    assert (ax - bx) ** 2 + (ay - by) ** 2 == pytest.approx(math.dist(p, q) ** 2 - along**2, abs=1e-8)


def test_seen_from_right_above_it_is_the_plan() -> None:
    eye = Eye(-90.0, 90.0)
    assert eye(3.0, 4.0, 17.0) == pytest.approx((3.0, 4.0))


def test_isometric_lengths_are_true_along_all_axes() -> None:
    nought = ISOMETRIC(0.0, 0.0, 0.0)
    for end in ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)):
        assert math.dist(nought, ISOMETRIC(*end)) == pytest.approx(1.0)


@given(AZIMUTH, HEIGHT, st.floats(-400.0, 400.0), st.floats(-100.0, 100.0))
def test_the_eye_stays_above_the_ground(azimuth: float, height: float, by: float, up: float) -> None:
    eye = Eye(azimuth, height).turned(by, up)
    assert LOWEST <= eye.height <= HIGHEST
    assert -180.0 <= eye.azimuth < 180.0
    assert math.cos(math.radians(eye.azimuth)) == pytest.approx(math.cos(math.radians(azimuth + by)), abs=1e-9)


@pytest.mark.parametrize("name", list(DEMOS))
@pytest.mark.parametrize("azimuth", [-60.0, 25.0, 130.0, -170.0])
def test_what_is_nearer_is_painted_later(name: str, azimuth: float) -> None:
    project, eye = DEMOS[name](), Eye(azimuth, 30.0)
    drawing = whole_drawing(project, eye)
    first: dict[str, int] = {}
    for i, shape in enumerate(drawing.shapes):
        if isinstance(shape, Polygon) and shape.key.startswith("pad:"):
            first.setdefault(shape.key.removeprefix("pad:"), i)
    tied = {s.edge for s in project.straps}
    order = [n for n in sorted(first, key=lambda n: first[n]) if n not in tied]
    assert {*order} | tied == {p.name for p in project.pads}
    from korbent.drawing.plan import middle

    near = [eye.nearness(*middle(p, project.load_point(p.load_point))) for p in map(project.pad, order)]
    assert near == sorted(near)
    assert {t.text for t in drawing.shapes if isinstance(t, Text)} >= {p.name for p in project.pads}


def test_half_of_the_sides_of_a_block_are_seen(single: Project) -> None:
    for azimuth in (-60.0, 10.0, 100.0, 190.0):
        drawing = whole_drawing(single, Eye(azimuth, 30.0))
        name = f"pad:{single.pads[0].name}"
        assert len(shapes_of(drawing, Polygon, key=name)) == 3  # its top and two sides
    drawing = whole_drawing(single, Eye(0.0, 30.0))
    assert len(shapes_of(drawing, Polygon, key=f"pad:{single.pads[0].name}")) == 2


def test_bars_lie_within_the_concrete_as_many_as_there_are(single: Project) -> None:
    pad, eye = single.pads[0], Eye(-90.0, 90.0)
    solid, through = (whole_drawing(single, eye, through=t) for t in (False, True))
    assert not [s for s in solid.shapes if s.layer == "bars"]
    cover = single.settings_of(pad).concrete_cover
    for axis, across in (("x", pad.extent), ("y", pad.width)):
        found = [s for s in through.shapes if isinstance(s, Line) and s.stroke == f"steel_{axis}"]
        sets = [b for face in ("bottom", "top") if (b := pad.reinforcement.bars(f"{face}_{axis}"))]
        assert len(found) == sum(len(positions(across, cover, bars)) for bars in sets) > 0
        for line in found:
            (x0, y0), (x1, y1) = line.points
            along = abs(x1 - x0) if axis == "x" else abs(y1 - y0)
            assert along == pytest.approx((pad.width if axis == "x" else pad.extent) - 2 * cover)


def test_its_size_stays_while_it_turns(demo: Project) -> None:
    wide = set()
    for azimuth in (-60.0, 0.0, 77.0):
        x0, _, x1, _ = whole_drawing(demo, Eye(azimuth, 30.0), steady=True).bounds
        wide.add(round(x1 - x0, 6))
    assert len(wide) == 1


def test_tops_take_the_colour_of_their_worst_check(demo: Project) -> None:
    results = evaluate(demo)
    drawing = whole_drawing(demo, results=results, selected="P8")
    own = [s for s in shapes_of(drawing, Polygon, key="pad:P8") if isinstance(s, Polygon)]
    assert f"ratio:{results.pad('P8').worst.ratio}" in {s.fill for s in own}
    assert {s.stroke for s in own if s.fill and s.fill.startswith("ratio")} == {"accent"}


def test_strata_that_end_between_two_places_are_closed() -> None:
    columns = (
        ((0.0, 0.0), (("sand", "sand", 0.0, -2.0), ("clay", "clay", -2.0, -9.0))),
        ((1.0, 0.0), (("sand", "sand", 0.0, -1.0), ("clay", "clay", -1.0, -9.0))),
        ((2.0, 0.0), (("clay", "clay", 0.0, -9.0),)),
    )
    found = {name: (upper, lower) for name, _, upper, lower in _areas(columns, -5.0, -0.5)}
    assert [p[0] for p in found["sand"][0]] == [0.0, 1.0, 2.0]
    assert [p[2] for p in found["sand"][1]] == [-2.0, -1.0, -1.0]
    assert [p[2] for p in found["clay"][0]] == [-2.0, -1.0, -0.5]
    assert {p[2] for p in found["clay"][1]} == {-5.0}


def test_without_a_borehole_or_a_base_there_is_a_surface(single: Project) -> None:
    bare = edited(single, ("ground", "boreholes"), ())
    assert whole_drawing(bare.replaced(pads=())).shapes
