"""Choices of bars and standards, capacity of sections, workings computed again, symmetry and units."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.concrete.block import steel_for_moment
from korbent.core.concrete.standards.registry import NAMES, standard_of
from korbent.core.evaluate import evaluate_pad
from korbent.core.explain.working import working
from korbent.core.model import (
    Bars,
    Dowels,
    Load,
    Opening,
    Pedestal,
    Project,
    Reinforcement,
    Settings,
    edited,
)
from korbent.core.working import SILENT, Array, Recording
from tests.core.concrete_pads import ACI, AS, EN, by, check

# bars by number, the band of the short direction, section within the column, national values


def test_bars_by_number_are_spread_between_the_covers() -> None:
    bars = Bars(diameter=0.016, number=12)
    project = by(reinforcement=Reinforcement(bottom_x=bars, bottom_y=bars))
    assert check(project, "minimum-x").capacity == pytest.approx(12 * math.pi * 64 / 2.4, rel=1e-9)
    assert check(project, "spacing-x").demand == pytest.approx((2400 - 100 - 16) / 11, rel=1e-9)
    wider = edited(project, ("pads", "P", "length"), 3.0)
    assert check(wider, "minimum-x").capacity == pytest.approx(12 * math.pi * 64 / 3.0, rel=1e-9)
    with pytest.raises(ValueError, match="one of the two"):
        Bars(diameter=0.016)
    with pytest.raises(ValueError, match="one of the two"):
        Bars(diameter=0.016, spacing=0.2, number=5)


def test_aci_bars_of_the_short_direction() -> None:
    """13.3.3.3: evenly spaced, they are 2 beta/(beta + 1) of the steel required."""
    even = by(EN, load=Load(V=900.0), width=2.0, length=3.0)
    long_pad = edited(even, ("standards", "concrete"), ACI)
    short, long_ = check(long_pad, "bottom-x"), check(long_pad, "bottom-y")
    found = working(long_pad, long_pad.pads[0], "bottom-x")
    plain = next(s for s in found.recording.steps if s.symbol == "A_s1")  # type: ignore[union-attr]
    assert short.demand == pytest.approx(float(np.max(plain.value)) * 2 * 1.5 / 2.5, rel=1e-9)
    assert long_.demand is not None
    assert not [
        s
        for s in working(long_pad, long_pad.pads[0], "bottom-y").recording.steps
        if s.symbol == "k_b" and s.scope.endswith("y")
    ]  # type: ignore[union-attr]


def test_the_section_may_lie_within_the_column() -> None:
    load = Load(V=900.0)
    net = (900 - 18 * 0.7 * 0.16) / 4.8
    for standard, lever in ((EN, 0.86), (AS, 0.86), (ACI, 0.8)):
        project = by(standard, {"flexure_section": "within_column"}, load=load)
        found = working(project, project.pads[0], "bottom-x")
        moment = next(s for s in found.recording.steps if s.symbol == "m_Ed" and s.scope.endswith("+x face bottom"))  # type: ignore[union-attr]
        assert float(np.max(moment.value)) == pytest.approx(net * lever**2 / 2, rel=1e-6)


def test_national_values_are_data() -> None:
    changed = {
        "gamma_concrete": 1.4,
        "gamma_steel": 1.1,
        "alpha_cc": 0.85,
        "shear_coefficient": 0.15,
        "face_share": 0.5,
    }
    base, other = by(load=Load(V=900.0)), by(EN, changed, load=Load(V=900.0))
    ratio = (check(other, "punching-face").capacity or 0) / (check(base, "punching-face").capacity or 1)
    assert ratio == pytest.approx(0.85 / 1.4 * 1.5 * 0.5 / 0.4, rel=1e-9)
    assert check(other, "bottom-x").demand != check(base, "bottom-x").demand


# nominal capacity


def moment_of_steel(
    steel: Array, d: Array, stress: Array, yield_stress: Array, deepest: float | Array, phi: float = 1.0
) -> Array:
    """Moment that steel (mm2/m) carries, kNm/m; steel beyond the ductile depth adds nothing.

    Never falls with more steel at the same depth.
    """
    block = np.minimum(steel * yield_stress / (1e6 * stress), deepest * d)
    found: Array = phi * 1000 * stress * block * (d - block / 2)
    return found


@given(st.floats(100.0, 6000.0), st.floats(1.0, 2000.0), st.floats(0.2, 1.2), st.sampled_from(NAMES))
def test_capacity_never_falls_with_more_steel(steel: float, more: float, d: float, name: str) -> None:
    standard = standard_of(name, Settings())
    assert standard is not None
    no = np.array([False])
    fcd, fyd = standard.strengths(30.0, 500.0, no, SILENT)
    stress, deepest, phi = standard.block(30.0, fcd, fyd)
    less, greater = (
        moment_of_steel(np.array([s]), np.array([d]), stress, fyd, deepest, phi) for s in (steel, steel + more)
    )
    assert float(greater[0]) >= float(less[0]) - 1e-9


@given(st.floats(10.0, 900.0), st.floats(0.3, 1.0), st.sampled_from(NAMES))
def test_steel_for_a_moment_carries_it(moment: float, d: float, name: str) -> None:
    standard = standard_of(name, Settings())
    assert standard is not None
    fcd, fyd = standard.strengths(30.0, 500.0, np.array([False]), SILENT)
    stress, deepest, phi = standard.block(30.0, fcd, fyd)
    args = (np.array([d]), stress, fyd, deepest, phi)
    steel, use = steel_for_moment(np.array([moment]), *args, "", SILENT)
    carried = float(moment_of_steel(steel, *args)[0])
    assert carried == pytest.approx(moment if use[0] <= 1 else carried, rel=1e-9)
    if use[0] > 1:
        assert carried < moment


# every recorded formula of what is new


@pytest.mark.parametrize("standard", NAMES)
@pytest.mark.parametrize("kind", ["reinforced", "plain"])
def test_the_working_computes_itself_again(standard: str, kind: str) -> None:
    project = by(
        standard,
        {"base_concrete": kind},
        load=Load(V=500.0, Hx=40.0, Hy=-20.0, Mx=60.0, My=90.0),
        pedestal=Pedestal(size_x=0.5, size_y=0.45, top=0.3),
        dowels=Dowels(number=8, diameter=0.016),
        openings=(Opening(x=0.5, y=0.2, diameter=0.12),),
        thickness=1.1,
        level=-1.9,
        length=3.1,
        reinforcement=Reinforcement(
            bottom_x=Bars(diameter=0.016, number=14), top_like_bottom=True, sides=Bars(diameter=0.012, spacing=0.15)
        ),
    )
    pad = project.pads[0]
    seen = set()
    for result in evaluate_pad(project, pad).checks:
        if result.check.group != "concrete" or result.ratio is None:
            continue
        found = working(project, pad, result.check.id)
        recording = found.recording  # type: ignore[union-attr]
        assert isinstance(recording, Recording)
        for index in recording.leading_to(found.step):  # type: ignore[union-attr]
            step = recording.steps[index]
            if step.formula:
                np.testing.assert_allclose(
                    np.broadcast_to(recording.evaluated(index), step.value.shape),
                    step.value,
                    rtol=1e-9,
                    atol=1e-9,
                )
        seen.add(result.check.id)
    assert {
        "bearing-concrete",
        "dowels",
        "dowels-steel",
        "dowels-anchorage",
        "pedestal-ties",
        "pedestal-slender",
    } <= seen
    assert ({"cover", "side-bars", "punching"} if kind == "reinforced" else {"plain-x", "plain-shear-y"}) <= seen


def test_links_are_named_where_the_standard_would_go_on_with_them() -> None:
    for standard in NAMES:
        heavy = by(standard, load=Load(V=3000.0), thickness=0.3)
        for name in ("punching", "shear-x"):
            assert "links in bases are not covered" in check(heavy, name).message


# symmetry, and the same pad in other units


@pytest.mark.long
@pytest.mark.parametrize("standard", NAMES)
@given(
    load=st.builds(
        lambda V, h, k, m, n: Load(V=V, Hx=V * h, Hy=V * k, Mx=V * m, My=V * n),
        st.floats(200, 900),
        *(st.floats(-0.12, 0.12),) * 4,
    ),
    offset=st.floats(-0.4, 0.4),
    pipe=st.floats(0.35, 0.8),
)
def test_a_mirrored_pad_says_the_same(standard: str, load: Load, offset: float, pipe: float) -> None:
    """Mirrored in the y axis: Hx, My and places along x change their sign; openings, bands and dowels go with them."""
    common: dict[str, Any] = {"dowels": Dowels(number=4, diameter=0.02)}
    one = by(standard, load=load, offset_x=offset, openings=(Opening(x=pipe, y=0.2, diameter=0.15),), **common)
    mirrored = Load(V=load.V, Hx=-load.Hx, Hy=load.Hy, Mx=load.Mx, My=-load.My)
    other = by(
        standard,
        load=mirrored,
        offset_x=-offset,
        openings=(Opening(x=-pipe, y=0.2, diameter=0.15),),
        **common,
    )
    for a, b in zip(evaluate_pad(one, one.pads[0]).checks, evaluate_pad(other, other.pads[0]).checks):
        if a.check.group == "concrete":
            assert a.state is b.state
            assert (a.ratio or 0.0) == pytest.approx(b.ratio or 0.0, rel=1e-6, abs=1e-9)


@pytest.mark.parametrize("standard", NAMES)
def test_metric_and_us_input_of_one_pad_agree(standard: str) -> None:
    """The same pad typed in feet, kips, psi and bar numbers, and in metres, kN, MPa and mm with all digits."""
    from korbent.core.concrete.bar_text import parsed
    from korbent.core.quantity_text import parse

    def both(us: str, metric: str, unit: str, kind: str = "metric") -> tuple[float, float]:
        return parse(us, unit, "us"), parse(metric, unit, "metric")

    typed = {
        "width": both("7 ft", "2.1336 m", "m"),
        "length": both("8'-6\"", "2.5908 m", "m"),
        "thickness": both("20 in", "508 mm", "m"),
    }
    force = both("140 kip", "622.750962173973 kN", "kN")
    moment = both("35 kip ft", "47.4536282870297 kNm", "kNm")
    strength, fy = (
        both("4000 psi", "27.5790291672707 MPa", "MPa"),
        both("60 ksi", "413.685437509060 MPa", "MPa"),
    )
    bars = parsed("#5 at 9 in"), parsed("15.875 at 228.6")
    found = []
    for i in (0, 1):
        r = Reinforcement(bottom_x=bars[i], bottom_y=bars[i])
        settings = {"concrete_strength": strength[i], "steel_strength": fy[i]}
        project = by(
            standard,
            settings,
            load=Load(V=force[i], My=moment[i]),
            reinforcement=r,
            **{k: v[i] for k, v in typed.items()},
        )
        found.append(
            {c.check.id: c.ratio for c in evaluate_pad(project, project.pads[0]).checks if c.check.group == "concrete"}
        )
    for name, ratio in found[0].items():
        assert (ratio or 0.0) == pytest.approx(found[1][name] or 0.0, rel=1e-6), name


def test_hooks_count_where_the_cover_allows_or_always() -> None:
    """20 mm bars below 50 mm of cover: c_d = 50 < 60 mm, so that alpha_1 is 1 unless hooks always count (table 8.2)."""
    bars = Bars(diameter=0.020, spacing=0.2)
    project = by(EN, load=Load(V=900.0), reinforcement=Reinforcement(bottom_x=bars, bottom_y=bars))
    always = edited(project, ("settings", "hooks_count"), "always")

    def alpha(of: Project) -> float:
        found = working(of, of.pads[0], "anchorage-x")
        return next(float(np.ravel(s.value)[0]) for s in found.recording.steps if s.symbol == "alpha_1")  # type: ignore[union-attr]

    assert (alpha(project), alpha(always)) == (1.0, 0.7)
    least = 200.0
    assert (check(always, "anchorage-x").demand or 0) >= least - 1e-6
    assert (check(project, "anchorage-x").demand or 0) >= (check(always, "anchorage-x").demand or 0)


def cover_asked(standard: str, **settings: Any) -> float:
    project = by(standard, load=Load(V=400.0))
    for name, value in settings.items():
        project = edited(project, ("settings", name), value)
    return check(project, "cover").demand or 0.0


def test_cover_by_exposure_strength_and_life() -> None:
    """EN 1992-1-1 tables 4.3N and 4.4N, AS 3600 table 4.10.3.2 (all from memory); a typed value stands instead, and
    says so."""
    assert cover_asked(EN) == pytest.approx(40.0)  # cast on blinding
    assert cover_asked(EN, exposure_en="XC2") == pytest.approx(40.0)  # 25 + 10 is less
    assert cover_asked(EN, exposure_en="XS3") == pytest.approx(55.0)  # 45 + 10
    assert cover_asked(EN, exposure_en="XS3", design_life=100.0) == pytest.approx(65.0)
    assert cover_asked(EN, exposure_en="XS3", concrete_strength=45.0) == pytest.approx(50.0)
    assert cover_asked(EN, exposure_en="XS3", cover_tolerance=0.005) == pytest.approx(50.0)
    assert cover_asked(AS) == pytest.approx(40.0)
    assert cover_asked(AS, exposure_as="B1", concrete_strength=32.0) == pytest.approx(50.0)
    assert cover_asked(AS, exposure_as="B2", concrete_strength=40.0, cast_against="soil") == pytest.approx(65.0)
    project = edited(by(EN, load=Load(V=400.0)), ("settings", "cover_required"), 0.07)
    found = check(project, "cover")
    assert (found.demand, found.message) == (pytest.approx(70.0), "as typed")


def test_bars_above_stand_no_further_apart_either() -> None:
    top = Bars(diameter=0.012, spacing=0.4)
    below = Bars(diameter=0.016, spacing=0.15)
    r = Reinforcement(bottom_x=below, bottom_y=below, top_x=top, top_y=below)
    found = check(by(EN, load=Load(V=400.0), reinforcement=r), "spacing-x")
    assert found.ratio == pytest.approx(400 / 250)
    assert found.message == "top bars"
    assert check(by(EN, load=Load(V=400.0), reinforcement=r), "spacing-y").message == ""


def test_a_shallow_base_by_aci() -> None:
    """13.3.1.2: bottom bars at least 6 in. deep."""
    found = check(by(ACI, load=Load(V=100.0), thickness=0.2), "minimum-x")
    assert found.ratio == pytest.approx(6 * 0.0254 / (0.2 - 0.05 - 0.008), rel=1e-9)
    assert "effective depth less than 152 mm" in found.message
