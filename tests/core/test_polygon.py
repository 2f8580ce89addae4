"""Footprints that are polygons: against rectangle and trapezoid, against sums over small cells, and what holds for any
of them."""

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from korbent.core.footprint import Polygon, Rectangle, Trapezoid
from korbent.core.footprint.footprint import Footprint
from korbent.core.model import outlines

FORCE = np.array([[100.0, 200.0, 300.0, 150.0]])
ABOUT_X = np.array([[10.0, -80.0, 200.0, 0.0]])
ABOUT_Y = np.array([[30.0, 120.0, -200.0, 0.0]])
ELL = ((-3.0, -2.0), (3.0, -2.0), (3.0, 0.0), (0.0, 0.0), (0.0, 2.0), (-3.0, 2.0))


def one(value: float) -> np.ndarray:
    return np.array([[value]])


def polygon(corners: tuple[tuple[float, float], ...]) -> Polygon:
    x, y = np.array(corners).T
    return Polygon(x[None], y[None])


def same_as(shape: Footprint) -> Polygon:
    x, y = shape.outline()
    return Polygon(np.atleast_2d(x), np.atleast_2d(y))


SHAPES = [Rectangle(one(4.0), one(3.0)), Trapezoid.between(one(4.0), one(2.0), one(3.5))]


@pytest.mark.parametrize("shape", SHAPES, ids=["rectangle", "trapezoid"])
def test_a_polygon_is_the_shape_with_its_corners(shape: Footprint) -> None:
    other = same_as(shape)
    for name in ("area", "around", "centroid", "inertia", "B"):
        assert np.allclose(getattr(shape, name), getattr(other, name), rtol=1e-12), name
    a, b = (s.contact(FORCE, ABOUT_X, ABOUT_Y) for s in (shape, other))
    for name in ("a", "b", "c", "share", "peak"):
        assert getattr(a, name) == pytest.approx(getattr(b, name), rel=1e-6, abs=1e-6), name
    for axis in "xy":
        for at in (-1.0, 0.2, 1.1):
            assert np.allclose(shape.span(axis, one(at)), other.span(axis, one(at)), atol=1e-6)
            assert np.allclose(shape.chord(axis, one(at)), other.chord(axis, one(at)), atol=1e-6)
    for side in ("+x", "-x", "+y", "-y"):
        first, second = shape.beyond(side, one(0.4)), other.beyond(side, one(0.4))
        forces = (a.on_polygons(first.x, first.y).force, b.on_polygons(second.x, second.y).force)
        assert forces[0] == pytest.approx(forces[1], rel=1e-6)
    for off in (0.0, 0.3, -0.5):
        rooms = (s.clear(one(off), one(off), one(0.4), one(0.6)) for s in (shape, other))
        assert np.allclose(*rooms)


def test_the_effective_area_of_a_rectangle_is_meyerhofs() -> None:
    rectangle, other = SHAPES[0], same_as(SHAPES[0])
    a, b = (s.effective(s.contact(FORCE, ABOUT_X, ABOUT_Y), FORCE, FORCE) for s in (rectangle, other))
    assert b.x == pytest.approx(a.x, rel=1e-9)
    assert b.y == pytest.approx(a.y, rel=1e-9)


def cells(corners: tuple[tuple[float, float], ...], count: int = 1500) -> tuple[np.ndarray, np.ndarray, float]:
    """Middles of small cells within, and the area of one."""
    import shapely

    x0, x1, y0, y1 = outlines.box_of(corners)
    step = (np.arange(count) + 0.5) / count
    X, Y = (v.ravel() for v in np.meshgrid(x0 + (x1 - x0) * step, y0 + (y1 - y0) * step))
    inside = shapely.contains_xy(shapely.Polygon(corners), X, Y)
    return X[inside], Y[inside], (x1 - x0) * (y1 - y0) / count**2


@pytest.mark.long
def test_pressure_below_an_ell_is_in_equilibrium() -> None:
    """Sums over small cells give the force and both moments back, lifted corners and a corner that goes in included."""
    contact = polygon(ELL).contact(FORCE, ABOUT_X, ABOUT_Y)
    assert contact.stable.all()
    assert contact.share.min() < 0.5
    X, Y, area = cells(ELL)
    for k in range(FORCE.shape[1]):
        p = np.maximum(0.0, contact.a[0, k] + contact.b[0, k] * X + contact.c[0, k] * Y) * area
        wanted = (FORCE[0, k], ABOUT_Y[0, k], -ABOUT_X[0, k])
        assert (p.sum(), (p * X).sum(), (p * Y).sum()) == pytest.approx(wanted, rel=2e-3, abs=0.3)


def test_an_ell_under_its_centre_bears_evenly_on_all_of_it() -> None:
    ell = polygon(ELL)
    x_m, y_m = np.asarray(ell.centroid), np.asarray(ell.centroid_y)
    contact = ell.contact(one(90.0), -90.0 * y_m, 90.0 * x_m)
    assert contact.b == pytest.approx(0.0, abs=1e-9)
    assert contact.a == pytest.approx(90.0 / 18.0)
    found = ell.effective(contact, one(0.0), one(0.0))
    assert found.x * found.y == pytest.approx(18.0, rel=1e-9)
    assert ell.eccentricity(contact, one(1 / 3))[0] == pytest.approx(0.0, abs=1e-9)


def test_room_beside_a_column_ends_at_a_corner_that_goes_in() -> None:
    west, east, south, north = (float(v[0, 0]) for v in polygon(ELL).clear(one(-1.0), one(1.0), one(0.4), one(0.4)))
    assert (west, east, south, north) == pytest.approx((1.8, 0.8, 2.8, 0.8))
    # beside the notch the wing goes on below it
    below = [float(v[0, 0]) for v in polygon(ELL).clear(one(2.0), one(-1.0), one(0.4), one(0.4))]
    assert below == pytest.approx([4.8, 0.8, 0.8, 0.8])


def test_it_tips_about_the_sides_of_its_hull() -> None:
    """The hull of the ell has a side askew, from the tip of one wing to that of the other."""
    edges = polygon(ELL).edges
    askew = [e for e in edges if 0.1 < float(e.cosine[0, 0]) < 0.9]
    assert len(edges) == 5
    assert len(askew) == 1
    c, s, away = (float(v[0, 0]) for v in (askew[0].cosine, askew[0].sine, askew[0].away))
    for x, y in ((3.0, 0.0), (0.0, 2.0)):
        assert c * x + s * y == pytest.approx(away)


corner_count = st.integers(3, 8)


@st.composite
def stars(draw: st.DrawFn) -> tuple[tuple[float, float], ...]:
    """Corners around a middle at any distance: some go in."""
    count = draw(corner_count)
    turns = sorted(draw(st.lists(st.floats(0.1, 1.0), min_size=count, max_size=count)))
    angles = 2 * np.pi * np.cumsum(turns) / sum(turns)
    far = draw(st.lists(st.floats(1.5, 5.0), min_size=count, max_size=count))
    return tuple((float(r * np.cos(a)), float(r * np.sin(a))) for r, a in zip(far, angles))


@pytest.mark.long
@settings(max_examples=40, deadline=None)
@given(stars(), st.floats(-0.4, 0.4), st.floats(-0.4, 0.4))
@example(
    (
        (-0.7499999999999997, 1.299038105676658),
        (-0.7500000000000007, -1.2990381056766576),
        (2.9453125, -7.213935051227377e-16),
    ),
    0.109375,
    0.0,
)  # the cut across does nothing: each cut alone must come to its end
def test_any_polygon_bears_in_equilibrium_and_its_effective_area_is_about_the_resultant(
    corners: tuple[tuple[float, float], ...], along: float, across: float
) -> None:
    import shapely

    shape = polygon(corners)
    if not shapely.Polygon(corners).is_valid or shape.area[0, 0] < 1.0:
        return
    e_x = float(np.asarray(shape.centroid)[0, 0]) + along
    e_y = float(np.asarray(shape.centroid_y)[0, 0]) + across
    contact = shape.contact(one(100.0), one(-100.0 * e_y), one(100.0 * e_x))
    if not contact.stable.all():
        return
    whole = contact.on_polygons(shape.x[:, None, :], shape.y[:, None, :])
    for found, wanted in ((whole.force, 100.0), (whole.x, 100.0 * e_x), (whole.y, 100.0 * e_y)):
        assert found[0, 0] == pytest.approx(wanted, rel=1e-6, abs=1e-5)
    left = shape.effective(contact, one(0.0), one(0.0))
    assert 0.0 <= float((left.x * left.y)[0, 0]) <= float(shape.area[0, 0]) * (1 + 1e-9)
    # the mirror image: the same with the other sign
    mirrored = polygon(tuple((-x, y) for x, y in corners[::-1]))
    other = mirrored.contact(one(100.0), one(-100.0 * e_y), one(-100.0 * e_x))
    assert other.peak == pytest.approx(contact.peak, rel=1e-6)
    assert mirrored.effective(other, one(0.0), one(0.0)).x == pytest.approx(left.x, rel=1e-6, abs=1e-6)


@settings(max_examples=30, deadline=None)
@given(stars())
def test_a_corner_more_on_a_side_changes_nothing(corners: tuple[tuple[float, float], ...]) -> None:
    import shapely

    if not shapely.Polygon(corners).is_valid:
        return
    (x0, y0), (x1, y1) = corners[:2]
    more = (corners[0], ((x0 + x1) / 2, (y0 + y1) / 2), *corners[1:])
    a, b = polygon(corners), polygon(more)
    for name in ("area", "around", "centroid", "centroid_y", "inertia"):
        assert np.allclose(getattr(a, name), getattr(b, name), rtol=1e-9, atol=1e-9), name
    assert len(a.edges) == len(b.edges)
    first, second = (p.contact(one(50.0), one(10.0), one(-8.0)) for p in (a, b))
    assert first.share == pytest.approx(second.share, abs=1e-7)
    assert first.peak == pytest.approx(second.peak, rel=1e-5)


@settings(max_examples=30, deadline=None)
@given(stars(), st.integers(1, 3), st.floats(0.05, 0.6))
def test_corners_repeated_for_a_batch_change_nothing(
    corners: tuple[tuple[float, float], ...], times: int, by: float
) -> None:
    alone, beside = polygon(corners), polygon((*corners, *corners[-1:] * times))
    for name in ("area", "around", "centroid", "inertia"):
        assert np.allclose(getattr(alone, name), getattr(beside, name), rtol=1e-9, atol=1e-9), name
    wide, wider = alone.spread(by), beside.spread(by)
    assert wider.area == pytest.approx(wide.area, rel=1e-9)
    assert wider.around == pytest.approx(wide.around, rel=1e-9)
    for axis in ("x", "y"):
        assert beside.chord(axis, one(0.1)) == pytest.approx(alone.chord(axis, one(0.1)), abs=1e-9)


def test_a_rectangle_as_a_polygon_spreads_like_one() -> None:
    plain = polygon(((-1.0, -2.0), (1.0, -2.0), (1.0, 2.0), (-1.0, 2.0), (-1.0, 2.0)))
    assert plain.spread(0.5).area[0, 0] == pytest.approx(3.0 * 5.0)


def test_corners_are_put_in_order_and_moved_as_asked() -> None:
    clockwise = ((0.0, 0.0), (0.0, 2.0), (3.0, 2.0), (3.0, 2.0), (3.0, 0.0))
    ring = outlines.anticlockwise(clockwise)
    assert outlines.area_of(ring) == pytest.approx(6.0)
    assert len(ring) == 4
    grown = outlines.offset(ELL, 0.5)
    assert outlines.area_of(grown) == pytest.approx(18.0 + 20.0 * 0.5 + 0.5**2 * 4)
    assert outlines.offset(grown, -0.5) == pytest.approx(np.array(ELL))
    with pytest.raises(ValueError, match="side"):
        outlines.offset(ELL, -1.1)
    # what lies on an edge of the box stays there, the corner that goes in with the columns
    wider = outlines.fitted(ELL, (6.0, 4.0), (7.0, 4.0), (0.5, 0.0))
    assert wider[0] == (-3.5, -2.0)
    assert wider[3] == (0.5, 0.0)
    assert outlines.contains(ELL, 3.0, -1.0)
    assert not outlines.contains(ELL, 0.1, 0.1)
    assert outlines.crossings(ELL, "x", 1.0) == [(-3.0, 0.0)]
    assert outlines.crossings(ELL, "x", 0.0) == [(-3.0, 3.0)]
    with pytest.raises(ValueError, match="cross"):
        outlines.checked(((0.0, 0.0), (2.0, 2.0), (2.0, 0.0), (0.0, 2.0)))
    with pytest.raises(ValueError, match="three"):
        outlines.checked(((0.0, 0.0), (2.0, 2.0)))
