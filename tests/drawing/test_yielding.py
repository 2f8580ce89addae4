"""Areas in which the ground yields: as large as their triangles, holes left open, and cut at the edge of the
drawing."""

from random import Random

import pytest
from shapely import Polygon, box

from korbent.core.plasticity.bounds import bound, where_it_yields
from korbent.core.plasticity.section import uniform
from korbent.drawing.yielding import SHADES, areas, within

SQUARE = [((0, 0, 3, 0, 0, -3), 1.0), ((3, 0, 3, -3, 0, -3), 1.0)]


def area(ring: tuple[tuple[float, float], ...]) -> float:
    """By the corners alone (Gauss): a line there and back adds nothing."""
    return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, (*ring[1:], *ring[:1])))) / 2


def test_triangles_beside_each_other_are_one_area_of_each_shade() -> None:
    found = areas(SQUARE, 1.0)  # type: ignore[arg-type]
    assert len(found) == SHADES
    assert [area(ring) for ring in found] == pytest.approx([9.0] * SHADES)
    weak = [(corners, 0.5) for corners, _ in SQUARE]
    assert len(areas(weak, 1.0)) == SHADES / 2  # type: ignore[arg-type]


def test_a_hole_stays_open() -> None:
    around = [(box(x, y - 1, x + 1, y), 1.0) for x in range(3) for y in range(0, -3, -1) if (x, y) != (1, -1)]
    triangles = []
    for square, share in around:
        (a, b, c, d, _) = square.exterior.coords
        triangles += [((*a, *b, *c), share), ((*a, *c, *d), share)]
    assert [area(ring) for ring in areas(triangles, 1.0)] == pytest.approx([8.0] * SHADES)  # type: ignore[arg-type]


def test_what_is_beyond_the_drawing_is_cut() -> None:
    random = Random(3)
    for _ in range(30):
        hull = Polygon([(random.uniform(0, 5), random.uniform(-5, 0)) for _ in range(3)])
        cut = within(tuple(hull.exterior.coords[:-1]), 2.5, -3.0)
        assert area(cut) == pytest.approx(hull.intersection(box(-9, -3.0, 2.5, 9)).area, abs=1e-9)


@pytest.mark.long
def test_few_areas_stand_for_many_triangles() -> None:
    found = bound(uniform(1.0, 1.0, 0.0, 0.0, 0.0), "upper", 400)
    triangles = where_it_yields(found)
    rings = areas(triangles, 1.0)
    assert len(rings) < len(triangles) / 3
    seen = sum(Polygon([c[:2], c[2:4], c[4:]]).area for c, share in triangles if share >= 0.5 / SHADES)
    # the outlines are smoothed by little
    assert sum(area(ring) for ring in rings) > seen
    lowest = min(y for ring in rings for _, y in ring)
    assert lowest >= min(min(c[1::2]) for c, _ in triangles) - 1e-9
