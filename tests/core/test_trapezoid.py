"""Bases of trapezoid shape: by cells, by rectangles of equal ends, by half a turn, and by statics of two columns."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from korbent.core.bench import bench_for
from korbent.core.concrete.pad import concrete_pad, under_concrete
from korbent.core.concrete.schedule import schedule
from korbent.core.concrete.several import columns_of, sections_at
from korbent.core.evaluate import effects_of, evaluate
from korbent.core.explain.state import base_state
from korbent.core.footprint import Rectangle, Trapezoid, footprint_of
from korbent.core.geometry import table
from korbent.core.model import Load, LoadPoint, Pad, Project
from korbent.core.plan.site import outlines_of
from korbent.core.sizing.propose import proposal
from korbent.core.sizing.size_map import size_map
from korbent.core.working import SILENT
from korbent.demo.lindmere import lindmere
from korbent.verification.pad import one_pad
from tests.invariants.test_whole import ledger_is_working
from tests.invariants.whole import few, random_plan

CELLS = 400


def trapezoid(B: float = 4.0, near: float = 1.6, far: float = 3.0) -> Trapezoid:
    return Trapezoid.between(*(np.array([[v]]) for v in (B, near, far)))


def cells(base: Trapezoid) -> tuple[Any, Any, Any]:
    """Middles and areas of small cells of the base."""
    B = float(base.B[0, 0])
    x = -B / 2 + (np.arange(CELLS) + 0.5) * B / CELLS
    half = base.half(x)[0]
    share = -1 + (np.arange(CELLS) + 0.5) * 2 / CELLS
    y = share[:, None] * half
    return np.broadcast_to(x, y.shape), y, np.broadcast_to(half * 2 / CELLS * B / CELLS, y.shape)


def tapered(project: Project, ratio: float) -> Project:
    """All rectangles as trapezoids whose far end is so much longer."""
    pads = tuple(
        p.replaced(shape="trapezoid", far_length=p.length * ratio, hold_x="middle", hold_y="middle")
        if p.shape == "rectangle"
        else p
        for p in project.pads
    )
    return project.replaced(pads=pads)


def turned_around(pad: Pad) -> Pad:
    """The same base, described from its other end."""
    if pad.shape != "trapezoid":
        return pad
    return pad.replaced(
        rotation=(pad.rotation + 180) % 360,
        length=pad.far_length,
        far_length=pad.length,
        offset_x=-pad.offset_x,
        offset_y=-pad.offset_y,
        openings=tuple(o.replaced(x=-o.x, y=-o.y) for o in pad.openings),
    )


# the shape


def test_area_centre_and_second_moments_by_cells() -> None:
    base = trapezoid()
    x, y, a = cells(base)
    middle = (x * a).sum() / a.sum()
    assert base.area[0, 0] == pytest.approx(a.sum(), rel=1e-9)
    assert np.asarray(base.centroid)[0, 0] == pytest.approx(middle, rel=1e-5)
    by_x, by_y = base.inertia
    assert by_x[0, 0] == pytest.approx((a * (x - middle) ** 2).sum(), rel=1e-4)
    assert by_y[0, 0] == pytest.approx((a * y**2).sum(), rel=1e-4)
    assert base.around[0, 0] == pytest.approx(1.6 + 3.0 + 2 * math.hypot(4.0, 0.7))


def test_two_columns_press_evenly_where_their_resultant_meets_the_centre() -> None:
    """B = 5, ends 1.2 and 2.4: the centre lies B (L1 + 2 L2)/(3 (L1 + L2)) from the short end."""
    base = trapezoid(5.0, 1.2, 2.4)
    from_end = 5.0 * (1.2 + 2 * 2.4) / (3 * (1.2 + 2.4))
    assert np.asarray(base.centroid)[0, 0] + 2.5 == pytest.approx(from_end, rel=1e-12)
    N = np.array([[900.0]])
    found = base.contact(N, 0 * N, N * (from_end - 2.5))
    assert found.corners[0, 0] == pytest.approx(np.full(4, 900.0 / 9.0), rel=1e-9)
    assert found.share[0, 0] == pytest.approx(1.0)


@given(st.floats(-0.95, 0.95), st.floats(-0.95, 0.95), st.floats(0.3, 3.0))
def test_pressure_is_in_equilibrium_and_never_pulls(u: float, v: float, ratio: float) -> None:
    base = trapezoid(3.0, 2.0, 2.0 * ratio)
    e_x = u * 1.5
    e_y = v * float(base.half(np.array([[e_x]]))[0, 0])
    N = np.array([[500.0]])
    found = base.contact(N, -e_y * N, e_x * N)
    assert found.stable[0, 0]
    x, y = base.outline()
    total = found.on_polygons(x[:, None, :], y[:, None, :])
    assert total.force[0, 0] == pytest.approx(500.0, rel=1e-8)
    assert (total.x[0, 0], total.y[0, 0]) == pytest.approx((500 * e_x, 500 * e_y), rel=1e-7, abs=1e-6)
    assert found.pressure_at(x, y)[0].min() >= 0.0
    assert 0.0 < found.share[0, 0] <= 1.0 + 1e-12
    assert found.peak[0, 0] == pytest.approx(found.pressure_at(x, y)[0].max())


@given(st.floats(-0.9, 0.9), st.floats(-0.9, 0.9))
def test_equal_ends_are_a_rectangle(u: float, v: float) -> None:
    B, L = np.array([[2.4]]), np.array([[1.7]])
    N = np.array([[400.0]])
    Mx, My = -v * 0.85 * N, u * 1.2 * N
    first, second = Trapezoid.between(B, L, L), Rectangle(B, L)
    a, b = first.contact(N, Mx, My), second.contact(N, Mx, My)
    for name in ("a", "b", "c", "share"):
        assert getattr(a, name) == pytest.approx(getattr(b, name), rel=1e-7, abs=1e-7)
    p, q = (base.effective(c, N, N) for base, c in ((first, a), (second, b)))
    assert (p.x[0, 0], p.y[0, 0]) == pytest.approx((q.x[0, 0], q.y[0, 0]), rel=1e-9)


def test_outside_nothing_holds_it() -> None:
    base = trapezoid()
    N = np.array([[100.0]])
    # within the long end, beyond the side at the short one
    assert base.contact(N, -1.2 * N, 1.9 * N).stable[0, 0]
    assert not base.contact(N, -1.2 * N, -1.9 * N).stable[0, 0]
    assert not base.contact(-N, 0 * N, 0 * N).stable[0, 0]


@given(st.floats(-0.9, 0.9), st.floats(-0.9, 0.9))
def test_the_effective_area_lies_evenly_about_the_resultant(u: float, v: float) -> None:
    base = trapezoid()
    e_x = 2.0 * u
    e_y = v * float(base.half(np.array([[e_x]]))[0, 0])
    N = np.array([[100.0]])
    found = base.effective(base.contact(N, -e_y * N, e_x * N), N, N)
    # the part of length B_x at one of the ends, as far to both sides of e_y as the nearer side
    x, y, a = cells(base)
    within = np.abs(2 * e_y - y) <= base.half(x)
    area, long = float((found.x * found.y)[0, 0]), float(found.x[0, 0])
    sides = []
    reach = [x[within].min(), x[within].max()]
    for low, high in ((reach[0], reach[0] + long), (reach[1] - long, reach[1])):
        kept = within & (x >= low) & (x <= high)
        sides.append(abs((x * a)[kept].sum() / max(a[kept].sum(), 1e-9) - e_x) + abs(a[kept].sum() - area))
    assert min(sides) < 0.05


# whole bases


def test_weight_and_water_act_at_the_centre_of_the_area() -> None:
    project = one_pad(load=Load(V=600.0), shape="trapezoid", width=3.0, length=1.5, far_length=2.5)
    pad = project.pads[0]
    state = base_state(project, pad, "allowable", 0)
    assert state is not None
    A, x_m = 6.0, 3.0 * (1.5 + 5.0) / (3 * 4.0) - 1.5
    soil = 18.0 * 0.7
    moment = x_m * (25 * 0.5 * A + soil * A) - 0.0 * 600
    weight = 25 * 0.5 * A + soil * (A - 0.16)
    assert pytest.approx(600 + weight, rel=1e-12) == state.V
    assert state.e_x * state.N == pytest.approx(moment, rel=1e-9)


@pytest.mark.long
@few
@given(st.integers(0, 10**6))
def test_with_equal_ends_every_check_is_that_of_the_rectangle(seed: int) -> None:
    project = random_plan(seed, 4)
    # what is repeated to an endless strip is a rectangle
    project = project.replaced(settings=project.settings.replaced(strip="own_length"))
    for a, b in zip(evaluate(project).all_checks, evaluate(tapered(project, 1.0)).all_checks):
        assert a.state is b.state, a.check.id
        assert a.ratio == (None if b.ratio is None else pytest.approx(b.ratio, rel=1e-6, abs=1e-5)), a.check.id


@pytest.mark.long
@few
@given(st.integers(0, 10**6))
def test_seen_from_its_other_end_it_is_the_same_base(seed: int) -> None:
    project = tapered(random_plan(seed, 4), 1.5)
    other = project.replaced(pads=tuple(turned_around(p) for p in project.pads))
    for a, b in zip(evaluate(project).all_checks, evaluate(other).all_checks):
        assert a.state is b.state, a.check.id
        assert a.ratio == (None if b.ratio is None else pytest.approx(b.ratio, rel=1e-7, abs=1e-9)), a.check.id


@pytest.mark.long
@few
@given(st.integers(0, 10**6), st.sampled_from([0.6, 1.3, 1.8]))
def test_the_ledger_is_the_working(seed: int, ratio: float) -> None:
    assert ledger_is_working(tapered(random_plan(seed, 3), ratio)) > 15


def two_columns(**changes: Any) -> Project:
    """An edge column with more load at the long end of the base, an inner one at the short end."""
    size = {"shape": "trapezoid", "width": 5.0, "length": 1.6, "far_length": 2.8, "thickness": 0.7}
    project = one_pad(load=Load(V=700.0), offset_x=-2.0, **size)
    other = LoadPoint(name="C2", x=4.0, y=0.0, size_x=0.4, size_y=0.4, level=0.0, loads={"G": Load(V=1200.0)})
    first = project.actions.load_points[0]
    assert (first.x, first.y) == (0.0, 0.0)
    pads = (project.pads[0].replaced(further=("C2",), **changes),)
    points = (*project.actions.load_points, other.replaced(loads={k: Load(V=1200.0) for k in first.loads}))
    return project.replaced(actions=project.actions.replaced(load_points=points), pads=pads)


@pytest.mark.parametrize("axis", ["x", "y"])
def test_the_beam_under_two_columns_by_cells(axis: str) -> None:
    project = two_columns()
    pad = project.pads[0]
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations("concrete")
    forces, contact = under_concrete(bench, situations)
    own = concrete_pad(
        bench.geometry, situations, forces, contact, bench.settings, project.standards.concrete, SILENT, True
    )
    columns = columns_of(bench, situations)
    base = bench.geometry.footprint
    assert isinstance(base, Trapezoid)
    x, y, a = cells(base)
    along = x if axis == "x" else y
    at = 0.375
    found = sections_at(own, columns, axis, np.array([[[at]]]))
    p = contact.pressure_at(x[..., None], y[..., None])[:, :, 0]
    beyond = along > at
    shear = ((p - own.weight[0, 0]) * a)[beyond].sum()
    moment = ((p - own.weight[0, 0]) * a * (along - at))[beyond].sum()
    for column in columns:
        place = float((column.x if axis == "x" else column.y)[0, 0])
        if place > at:
            force = float((column.V - situations.weight * forces.backfill * column.footprint)[0, 0])
            shear, moment = shear - force, moment - force * (place - at)
    assert found.shear[0, 0, 0] == pytest.approx(shear, rel=5e-3, abs=1.0)
    assert found.moment[0, 0, 0] == pytest.approx(moment, rel=5e-3, abs=1.0)
    assert found.width[0, 0, 0] == pytest.approx(float(base.chord(axis, np.array([[at]]))[0, 0]))


@pytest.mark.long
def test_a_base_under_two_columns_is_checked_and_proposed() -> None:
    project = two_columns()
    result = evaluate(project).pad(project.pads[0].name)
    by_id = {c.check.id: c for c in result.checks}
    for name in ("eccentricity", "punching", "bottom-x", "top-x", "shear-x", "anchorage-x"):
        assert by_id[name].ratio is not None, by_id[name].message
    found = proposal(project, project.pads)
    assert found.evaluated > 5
    assert size_map(project, project.pads[0], "length").ratio.size > 50


def test_both_ends_are_driving_dimensions() -> None:
    project = two_columns()
    effects = {(e.dimension, e.change > 0): e for e in effects_of(project, project.pads[0])}
    assert {("far_length", True), ("length", True)} <= set(effects)
    step = effects["far_length", True]
    pad = project.pads[0]
    stepped = project.replaced(pads=(pad.replaced(far_length=pad.far_length + step.change),))
    worst = evaluate(stepped).pad(pad.name).worst
    assert step.ratio == (None if worst.ratio is None else pytest.approx(worst.ratio, rel=1e-9))
    plain = effects_of(lindmere(), lindmere().pads[0])
    assert all(e.dimension != "far_length" for e in plain)


def test_bars_end_at_the_slanting_sides() -> None:
    project = two_columns()
    pad = project.pads[0]
    cover = project.settings_of(pad).concrete_cover
    along_y = [
        b for b in schedule(project) if any(face.startswith("bottom") and face.endswith("y") for _, face, _ in b.where)
    ]
    lengths = sorted(b.b for b in along_y)
    assert lengths[-1] == pytest.approx(2.8 - 2 * cover, abs=0.06)
    assert lengths[0] == pytest.approx(1.6 - 2 * cover, abs=0.06)
    assert len(lengths) > 5
    x, y = footprint_of(pad).outline()
    shape = outlines_of(project)[0]
    assert shape.area == pytest.approx(11.0)
    assert (np.ptp(x), np.ptp(y)) == pytest.approx((5.0, 2.8))


# what cannot be


def test_what_cannot_be_is_refused() -> None:
    pad = one_pad().pads[0]
    with pytest.raises(ValidationError, match="far_length"):
        Pad(**{**pad.model_dump(), "shape": "trapezoid"})
    with pytest.raises(ValidationError, match="not held"):
        pad.replaced(shape="trapezoid", far_length=2.0, hold_y="+y")
    assert pad.replaced(shape="trapezoid").far_length == pad.length


def test_a_column_off_the_narrow_end_is_refused() -> None:
    project = one_pad(shape="trapezoid", width=4.0, length=1.0, far_length=3.0, offset_x=1.8, offset_y=1.3)
    pad = project.pads[0]
    with pytest.raises(Exception, match="outside the pad"):
        project.replaced(pads=(pad.replaced(offset_x=-1.8),))
