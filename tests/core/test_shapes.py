"""Round bases, several columns on one base, wall strips, and replacement below: by cells, by hand and by
superposition."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from korbent.core.bearing.safety import base_on
from korbent.core.bench import bench_for
from korbent.core.checks import CheckResult, State
from korbent.core.evaluate import effects_of, evaluate_pad
from korbent.core.explain.state import base_state
from korbent.core.explain.working import situations_of, working
from korbent.core.footprint.round import overlap
from korbent.core.geometry import table
from korbent.core.model import Load, LoadPoint, Pad, Project, Replacement, edited
from korbent.core.model.edit import renamed
from korbent.core.plan.site import outlines_of
from korbent.core.sizing.propose import proposal
from korbent.core.sizing.size_map import size_map
from korbent.core.working import SILENT
from korbent.verification.pad import one_pad


def check(project: Project, name: str) -> CheckResult:
    return evaluate_pad(project, project.pads[0]).check(name)


def round_pad(**changes: Any) -> Project:
    changes = {"shape": "circle", "width": 2.6, "length": 2.6} | changes
    return one_pad(**changes)


def polar(R: float, r: float = 0.0, n: int = 500) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Cells of a ring: x, y and area."""
    rho = r + (np.arange(n) + 0.5) * (R - r) / n
    phi = (np.arange(2 * n) + 0.5) * math.pi / n
    cell = rho[:, None] * (R - r) / n * (math.pi / n) * np.ones_like(phi)
    return rho[:, None] * np.cos(phi), rho[:, None] * np.sin(phi), cell


# forces, weights and pressure


@pytest.mark.parametrize("hole", [0.0, 1.1])
def test_forces_and_pressure_of_a_round_base_by_cells(hole: float) -> None:
    load = Load(V=700.0, Hx=60.0, Hy=-45.0, Mx=90.0, My=120.0)
    kind = {"shape": "ring", "hole": hole} if hole else {}
    project = round_pad(load=load, offset_x=0.1, **kind)
    state = base_state(project, project.pads[0], "allowable", 0)
    assert state is not None
    area = math.pi / 4 * (2.6**2 - hole**2)
    column = 0.0 if hole else 0.16
    soil = 18.0 * 0.7
    V = 700 + 25 * 0.5 * area + soil * (area - column)
    assert pytest.approx(V, rel=1e-12) == state.V
    M_y = 120 + 1.2 * 60 + 0.1 * (700 - soil * column)
    M_x = 90 + 1.2 * 45
    assert state.e_x == pytest.approx(M_y / state.N, rel=1e-12)
    assert state.e_y == pytest.approx(-M_x / state.N, rel=1e-12)
    x, y, cell = polar(1.3, hole / 2)
    a, b, c = state.plane
    p = np.maximum(a + b * x + c * y, 0.0)
    assert float((p * cell).sum()) == pytest.approx(state.N, rel=2e-4)
    assert float((p * x * cell).sum()) == pytest.approx(M_y, rel=1e-3)
    assert float((p * y * cell).sum()) == pytest.approx(-M_x, rel=1e-3)
    assert max(state.corners) == pytest.approx(p.max(), rel=5e-3)
    assert state.share == pytest.approx(float(cell[p > 0].sum() / cell.sum()), abs=3e-3)


def test_peak_at_the_kern_of_a_circle_is_twice_the_mean() -> None:
    """e = D/8: the pressure falls to zero at the rim (closed form)."""
    project = round_pad(load=Load(V=1000.0), width=2.0, length=2.0)
    base = base_state(project, project.pads[0], "allowable", 0)
    assert base is not None
    project = round_pad(load=Load(V=1000.0, My=base.N * 0.25), width=2.0, length=2.0)
    state = base_state(project, project.pads[0], "allowable", 0)
    assert state is not None
    assert state.share == 1.0
    assert max(state.corners) == pytest.approx(2 * state.N / math.pi, rel=1e-9)
    assert min(state.corners) == pytest.approx(0.0, abs=1e-6)


def test_turning_the_load_changes_nothing_on_a_circle() -> None:
    ratios = []
    for angle in (0.0, 0.4, 2.0):
        c, s = math.cos(angle), math.sin(angle)
        load = Load(V=600.0, Hx=40 * c, Hy=40 * s, Mx=-60 * s, My=60 * c)
        project = round_pad(load=load)
        found = evaluate_pad(project, project.pads[0])
        ratios.append(
            [
                found.check(n).ratio
                for n in (
                    "resistance-drained",
                    "resistance-undrained",
                    "eccentricity",
                    "presumed-pressure",
                    "sliding-drained",
                )
            ]
        )
    assert np.array(ratios[1:], dtype=float) == pytest.approx(np.array([ratios[0]] * 2, dtype=float), rel=1e-9)


def test_a_circle_without_eccentricity_resists_as_the_square_of_equal_area() -> None:
    """EN 1997-1 Annex D gives circles the shape factors of squares."""
    side = 2.6 * math.sqrt(math.pi) / 2
    load = Load(V=900.0)
    circle = check(round_pad(load=load), "resistance-drained")
    square = check(one_pad(load=load, width=side, length=side), "resistance-drained")
    assert circle.capacity == pytest.approx(square.capacity, rel=1e-9)
    assert circle.ratio == pytest.approx(square.ratio, rel=1e-3)


@given(R=st.floats(0.5, 4.0), share=st.floats(0.05, 0.95), d=st.floats(0.0, 6.0))
def test_overlap_of_circles_by_strips(R: float, share: float, d: float) -> None:
    r = share * R
    x = np.linspace(d - r, d + r, 20_001)
    half = np.minimum(np.sqrt(np.maximum(R**2 - x**2, 0)), np.sqrt(np.maximum(r**2 - (x - d) ** 2, 0)))
    strips = float(np.trapezoid(2 * half, x))
    found = float(overlap(np.array(R), np.array(r), np.array(d)))
    assert found == pytest.approx(strips, rel=1e-4, abs=1e-4 * r * r)


def test_the_effective_area_of_a_ring_is_the_ring_when_centred_and_less_otherwise() -> None:
    def area(load: Load) -> float:
        project = round_pad(shape="ring", hole=1.2, load=load)
        bench = bench_for(project, project.pads, np.zeros(1, dtype=int), table(project.pads[0]))
        situations = bench.situations("allowable")
        base, _ = base_on(bench, situations, bench.forces(situations, SILENT), "drained")
        return float((base.B * base.L)[0, 0])

    assert area(Load(V=500.0)) == pytest.approx(math.pi / 4 * (2.6**2 - 1.2**2), rel=1e-9)
    assert area(Load(V=500.0, My=150.0)) < area(Load(V=500.0, My=60.0)) < area(Load(V=500.0))


# stability


def test_overturning_of_a_circle_about_its_rim() -> None:
    """One load case along x, factors 0.9 and 1.0: by hand about the tangent at +x, which is the worst."""
    project = round_pad(load=Load(V=600.0))
    found = check(project, "overturning")
    area, soil = math.pi / 4 * 2.6**2, 18 * 0.7
    weights = 0.9 * (25 * 0.5 * area + soil * (area - 0.16)) * 1.3
    over = 100 * 1.3 + 90 + 30 * 1.2
    assert found.demand == pytest.approx(over, rel=1e-9)
    assert found.capacity == pytest.approx(0.9 * 600 * 1.3 + weights, rel=1e-9)


def test_a_circle_is_tipped_in_the_worst_of_all_directions() -> None:
    """Forces that are not along an axis: against a fine search of all directions, moment by moment."""
    project = round_pad(load=Load(V=600.0, Hy=25.0), offset_y=0.2)
    project = edited(project, ("actions", "load_points", "C", "loads", "E", "Hy"), 40.0)
    found = check(project, "overturning")
    area, soil = math.pi / 4 * 2.6**2, 18 * 0.7
    worst = 0.0
    for angle in np.linspace(0, 2 * math.pi, 3601):
        c, s = math.cos(angle), math.sin(angle)
        lever = 1.3 - s * 0.2
        over = back = 0.0
        for f, V, tx, ty in ((0.9, 600.0, 0.0, 1.2 * 25.0), (1.0, -100.0, 90 + 36.0, 1.2 * 40.0)):
            m = f * (c * tx + s * ty - lever * V)
            over, back = over + max(m, 0.0), back + max(-m, 0.0)
        back += 0.9 * ((25 * 0.5 * area + soil * area) * 1.3 - soil * 0.16 * lever)
        worst = max(worst, over / back)
    assert found.ratio == pytest.approx(worst, rel=2e-3)


# concrete of a circle


def test_moment_and_shear_at_a_chord_by_cells() -> None:
    project = round_pad(load=Load(V=900.0, Hx=50.0, Hy=20.0, My=80.0, Mx=-30.0), offset_x=0.12)
    state = base_state(project, project.pads[0], "concrete", 0)
    found = working(project, project.pads[0], "bottom-x")
    assert state is not None
    assert not isinstance(found, CheckResult)
    values = {
        found.recording.steps[i].symbol: found.recording.steps[i].value for i in found.recording.leading_to(found.step)
    }
    x, y, cell = polar(1.3, n=900)
    a, b, c = state.plane
    w = 25 * 0.5 + 18 * 0.7
    face = 0.12 + 0.2
    moments = []
    for sign in (1.0, -1.0):
        edge = sign * 0.12 + 0.2
        beyond = sign * x > edge
        moments.append(float(((np.maximum(a + b * x + c * y, 0) - w) * (sign * x - edge) * cell)[beyond].sum()))
    chord = 2 * math.sqrt(1.3**2 - face**2)
    M = float(np.asarray(values["M_Ed"]).ravel()[0])
    width = float(np.asarray(values["b"]).ravel()[0])
    assert min(abs(M - m) for m in moments) < 4e-3 * abs(M)
    assert width == pytest.approx(2 * math.sqrt(1.3**2 - (0.2 - 0.12) ** 2), rel=1e-6) or width == pytest.approx(
        chord, rel=1e-6
    )


def test_concrete_of_a_circle_is_near_that_of_the_square_of_equal_area() -> None:
    side = 2.6 * math.sqrt(math.pi) / 2
    load = Load(V=900.0)
    for name in ("bottom-x", "bottom-y", "shear-x", "punching"):
        circle, square = (
            check(round_pad(load=load), name),
            check(one_pad(load=load, width=side, length=side), name),
        )
        assert circle.ratio is not None
        assert square.ratio is not None
        assert circle.ratio == pytest.approx(square.ratio, rel=0.2), name


# several columns


def two_columns(**changes: Any) -> Project:
    project = one_pad(**({"width": 4.0, "length": 2.4, "offset_x": -1.2} | changes))
    other = LoadPoint(
        name="D",
        x=2.1,
        y=0.3,
        size_x=0.5,
        size_y=0.4,
        level=0.4,
        rotation=30.0,
        axes="local",
        loads={"G": Load(V=450.0, Hx=20.0, Hy=-10.0, Mx=15.0, My=-8.0)},
    )
    points = (*project.actions.load_points, other)
    project = project.replaced(actions=project.actions.replaced(load_points=points))
    pad = project.pads[0].replaced(further=("D",))
    return project.replaced(pads=(pad,))


def test_two_columns_act_by_superposition() -> None:
    """Each column alone on the same base, the weights once: forces and moments add up."""
    project = two_columns(rotation=20.0, width=6.0, length=4.0)
    pad = project.pads[0]
    both = base_state(project, pad, "allowable", 0)
    first = base_state(project.replaced(pads=(pad.replaced(further=()),)), pad.replaced(further=()), "allowable", 0)
    assert both is not None
    assert first is not None
    turn = math.radians(20.0)
    dx = math.cos(turn) * 2.1 + math.sin(turn) * 0.3 - 1.2
    dy = -math.sin(turn) * 2.1 + math.cos(turn) * 0.3
    c, s = math.cos(math.radians(10)), math.sin(math.radians(10))
    Hx, Hy = c * 20 + s * 10, s * 20 - c * 10
    Mx, My = c * 15 + s * 8, s * 15 - c * 8
    cut = 18 * 0.7 * 0.5 * 0.4
    arm = 0.4 + 1.2
    assert pytest.approx(first.V + 450 - cut, rel=1e-12) == both.V
    assert both.Hx == pytest.approx(first.Hx + Hx, rel=1e-12)
    assert both.Hy == pytest.approx(first.Hy + Hy, rel=1e-12)
    M_y = first.e_x * first.N + My + arm * Hx + dx * (450 - cut)
    M_x = -first.e_y * first.N + Mx - arm * Hy - dy * (450 - cut)
    assert both.e_x * both.N == pytest.approx(M_y, rel=1e-9)
    assert -both.e_y * both.N == pytest.approx(M_x, rel=1e-9)


def test_a_base_under_two_equal_columns_is_centred_between_them() -> None:
    project = two_columns()
    other = project.actions.load_points[1].replaced(
        y=0.0, x=2.4, rotation=0.0, level=0.0, size_x=0.4, loads={"G": Load(V=600.0)}
    )
    actions = project.actions.replaced(
        load_points=(project.actions.load_points[0].replaced(loads={"G": Load(V=600.0)}), other)
    )
    project = project.replaced(actions=actions)
    state = base_state(project, project.pads[0], "allowable", 0)
    assert state is not None
    assert state.e_x == pytest.approx(0.0, abs=1e-12)
    assert state.e_y == pytest.approx(0.0, abs=1e-12)


def test_a_base_with_two_columns_is_checked_and_its_columns_are_designed() -> None:
    project = two_columns()
    found = evaluate_pad(project, project.pads[0])
    assert found.check("presumed-pressure").ratio is not None
    assert found.check("overturning").state in (State.HOLDS, State.FAILS)
    from korbent.core.evaluate import evaluate

    assert evaluate(project).undesigned == ()
    other = renamed(project, ("actions", "load_points", "D"), "D2")
    assert other.pads[0].further == ("D2",)


@pytest.mark.parametrize(
    ("further", "words"),
    [
        (("X",), "no column or wall 'X'"),
        (("C",), "stands on the base twice"),
        (("D", "D"), "stands on the base twice"),
    ],
)
def test_further_columns_that_cannot_be(further: tuple[str, ...], words: str) -> None:
    project = two_columns()
    with pytest.raises(ValueError, match=words):
        project.replaced(pads=(project.pads[0].replaced(further=further),))


def test_a_further_column_beside_the_base_is_refused() -> None:
    with pytest.raises(ValueError, match="D stands off the base"):
        two_columns(width=2.4, offset_x=-0.2)


# strips


def test_an_endless_strip_has_the_shape_factors_of_a_strip() -> None:
    """By hand: shape factors 1 (Annex D), the pressure that of the base itself."""
    load = Load(V=600.0)
    project = one_pad(load=load, width=1.2, length=5.0)
    wall = project.actions.load_points[0].replaced(kind="concrete_wall", size_x=0.25, size_y=5.0)
    project = project.replaced(actions=project.actions.replaced(load_points=(wall,)))
    strip = edited(project, ("settings", "strip"), "endless")
    as_base, as_strip = check(project, "resistance-drained"), check(strip, "resistance-drained")
    phi = math.atan(math.tan(math.radians(30)) / 1.25)
    N_q = math.exp(math.pi * math.tan(phi)) * math.tan(math.pi / 4 + phi / 2) ** 2
    N_c, N_g = (N_q - 1) / math.tan(phi), 2 * (N_q - 1) * math.tan(phi)
    r = 5 / 1.25 * N_c + 18 * 1.2 * N_q + 0.5 * 18 * 1.2 * N_g
    assert as_strip.capacity == pytest.approx(r, rel=2e-3)
    assert as_strip.demand == pytest.approx(as_base.demand, rel=1e-9)
    assert as_strip.capacity < as_base.capacity
    undrained = check(strip, "resistance-undrained")
    assert undrained.capacity == pytest.approx((math.pi + 2) * 80 / 1.4 + 18 * 1.2, rel=1e-3)


def test_a_column_is_no_strip() -> None:
    project = one_pad()
    assert (
        check(project, "resistance-drained").ratio
        == check(edited(project, ("settings", "strip"), "endless"), "resistance-drained").ratio
    )


# replacement


def replaced_ground(**changes: Any) -> Project:
    return one_pad(replacement=Replacement(**({"thickness": 0.8, "spread": 0.5} | changes)))


def test_the_ground_below_a_replacement_sees_the_wider_base_with_its_weight() -> None:
    plain, project = one_pad(), replaced_ground()
    found = working(project, project.pads[0], "resistance-undrained")
    assert not isinstance(found, CheckResult)
    values = {
        found.recording.steps[i].symbol: float(np.asarray(found.recording.steps[i].value).ravel()[0])
        for i in found.recording.leading_to(found.step)
        if found.recording.steps[i].value is not None and np.asarray(found.recording.steps[i].value).size
    }
    area, middle, wide = 2.0 * 2.4, 2.4 * 2.8, 2.8 * 3.2
    W = 20 * 0.8 * (area + 4 * middle + wide) / 6
    state = base_state(plain, plain.pads[0], "ultimate", 0)
    assert state is not None
    V = state.V + W
    M = 50 + 40 * (1.2 + 0.8)
    assert values["W_r"] == pytest.approx(W, rel=1e-12)
    assert values["N"] == pytest.approx(V, rel=1e-12)
    assert values["B_x"] == pytest.approx(2.8 - 2 * M / V, rel=1e-9)
    assert values["z_f"] == pytest.approx(-2.0)
    # the concrete and overturning are those of the base itself
    for name in ("punching", "bottom-x", "overturning"):
        assert check(project, name).ratio == check(plain, name).ratio


def test_granular_replacement_alone_by_hand() -> None:
    """Annex D with the friction angle of the fill, no cohesion, on the base itself."""
    project = replaced_ground(friction_angle=40.0, weight=19.0)
    found = check(project, "replacement")
    state = base_state(project, project.pads[0], "ultimate", 0)
    assert state is not None
    B = 2.0 - 2 * state.e_x
    phi = math.atan(math.tan(math.radians(40)) / 1.25)
    N_q = math.exp(math.pi * math.tan(phi)) * math.tan(math.pi / 4 + phi / 2) ** 2
    N_g = 2 * (N_q - 1) * math.tan(phi)
    low, long = min(B, 2.4), max(B, 2.4)
    shape = low / long
    m = (2 + shape) / (1 + shape)
    i = 1 - 40 / state.N
    r = 18 * 1.2 * N_q * (1 + shape * math.sin(phi)) * i**m + 0.5 * 19 * low * N_g * (1 - 0.3 * shape) * i ** (m + 1)
    assert found.capacity == pytest.approx(r, rel=1e-6)
    assert found.demand == pytest.approx(state.N / (B * 2.4), rel=1e-9)


def test_concrete_replacement_by_its_stress() -> None:
    found = check(replaced_ground(kind="concrete", strength=900.0, spread=1.0), "replacement")
    state = base_state(one_pad(), one_pad().pads[0], "ultimate", 0)
    assert state is not None
    assert found.demand == pytest.approx(max(state.corners), rel=1e-9)
    assert found.ratio == pytest.approx(max(state.corners) / 900.0, rel=1e-9)


def test_without_one_it_does_not_apply() -> None:
    assert check(one_pad(), "replacement").state is State.NOT_APPLICABLE


# the model, and what else knows of shapes


def test_a_circle_keeps_one_diameter() -> None:
    pad = round_pad().pads[0]
    assert pad.replaced(length=3.0).width == 3.0
    assert pad.resized(width=2.0).length == 2.0
    assert pad.replaced(shape="ring").hole == pytest.approx(1.3)
    square = one_pad().pads[0].replaced(shape="circle")
    assert square.length == square.width == 2.0
    with pytest.raises(ValidationError, match="one diameter"):
        Pad(name="P", load_point="C", shape="circle", width=2.0, length=3.0, thickness=0.5, level=0.0)
    with pytest.raises(ValidationError, match="hole of a ring"):
        pad.replaced(shape="ring", hole=2.7)


def test_steps_and_map_of_a_circle_move_its_diameter() -> None:
    project = round_pad(load=Load(V=900.0))
    pad = project.pads[0]
    by = {(e.dimension, round(e.change, 3)): e.ratio for e in effects_of(project, pad)}
    wider = project.replaced(pads=(pad.resized(width=2.7),))
    assert by["width", 0.1] == pytest.approx(evaluate_pad(wider, wider.pads[0]).worst.ratio, rel=1e-9)
    assert not any(dimension == "length" for dimension, _ in by)
    found = size_map(project, pad, "thickness", every=3)
    assert np.isfinite(found.ratio).any()
    assert found.volume[0, 0] == pytest.approx(math.pi / 4 * found.x[0] ** 2 * found.y[0], rel=1e-9)


def test_a_circle_is_proposed_with_one_diameter() -> None:
    project = round_pad(load=Load(V=900.0))
    found = proposal(project, project.pads)
    assert found.sizes is not None
    assert found.sizes["width"] == found.sizes.get("length", found.sizes["width"])
    new = project.replaced(pads=(project.pads[0].resized(**found.sizes),))
    assert all(c.state.is_good or c.state is State.NOT_APPLICABLE for c in evaluate_pad(new, new.pads[0]).checks)


def test_the_outline_of_a_circle_in_the_plan() -> None:
    project = round_pad(offset_x=0.3)
    outline = outlines_of(project)[0]
    assert outline.area == pytest.approx(math.pi / 4 * 2.6**2, rel=2e-3)
    assert outline.centroid.x == pytest.approx(-0.3, abs=1e-9)


def test_every_ratio_of_a_ring_opens_its_working_or_says_why_not() -> None:
    project = round_pad(shape="ring", hole=1.0, load=Load(V=700.0, Hx=20.0, My=30.0))
    pad = project.pads[0]
    for result in evaluate_pad(project, pad).checks:
        found = working(project, pad, result.check.id)
        if result.ratio is not None:
            assert not isinstance(found, CheckResult)
            assert found.lines()
            assert situations_of(project, pad, result.check.id) or result.check.id in (
                "top-cover",
                "frost-depth",
                "site",
            )
        if result.check.group == "concrete" and not result.check.id.startswith(("pedestal", "cracks")):
            assert result.state is State.CANNOT
            assert "ring" in result.message


def test_limits_of_eccentricity_and_contact_by_situation() -> None:
    """What is accidental has limits of its own; without them those of the other situations hold."""
    project = one_pad(load=Load(V=600.0, My=280.0))
    first = project.actions.combinations[0]
    accidental = first.replaced(number=9, situation="accidental", factors={"G": 1.1})
    project = project.replaced(
        actions=project.actions.replaced(combinations=(*project.actions.combinations, accidental))
    )
    same = {r.combination: r for r in situations_of(project, project.pads[0], "eccentricity")}
    project = edited(project, ("settings", "eccentricity_special"), 0.45)
    project = edited(project, ("settings", "contact_share_special"), 0.2)
    found = {r.combination: r for r in situations_of(project, project.pads[0], "eccentricity")}
    assert found["1"].ratio == same["1"].ratio
    assert found["9"].capacity == 0.45
    assert found["9"].ratio == pytest.approx(same["9"].ratio / 3 / 0.45)
    shares = {r.combination: r.demand for r in situations_of(project, project.pads[0], "contact-share")}
    assert shares == {"1": 50.0, "9": 20.0}


def test_a_base_on_a_terrace_has_its_own_finished_ground() -> None:
    """Overburden, backfill and depth are those of its terrace: as if the whole ground were finished there."""
    plain = one_pad()
    low = edited(plain, ("pads", "P", "overrides", "finished_level"), -0.3)
    whole = edited(plain, ("ground", "surfaces", "finished"), -0.3)
    a, b = (evaluate_pad(p, p.pads[0]) for p in (low, whole))
    for one, other in zip(a.checks, b.checks):
        assert one.ratio == other.ratio, one.check.id
    assert a.check("frost-depth").capacity == pytest.approx(0.9)
    assert evaluate_pad(plain, plain.pads[0]).check("frost-depth").capacity == pytest.approx(1.2)
