"""Moments by bands, steel along the width, shears and moments along the base, pressure on rectangles."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.concrete.demand import along_base, steel_along
from korbent.core.explain.working import working
from korbent.core.model import (
    Load,
    Pedestal,
    edited,
)
from tests.core.concrete_pads import by, check

# bands


def test_bands_see_the_concentration_near_an_edge() -> None:
    """Partial contact over a corner: the greatest band against a sum over fine cells."""
    load = Load(V=300.0, Hx=60.0, Hy=30.0, Mx=-120.0, My=150.0)
    project = by(load=load)
    whole = edited(project, ("settings", "flexure_bands"), "whole_width")
    assert (check(project, "bottom-x").demand or 0) > 1.2 * (check(whole, "bottom-x").demand or 0)
    found = working(project, project.pads[0], "bottom-x")
    moment = next(s for s in found.recording.steps if s.symbol == "m_band" and "+x" in s.scope)  # type: ignore[union-attr]
    N = 300 + 25 * 2.4 + 18 * 0.7 * (4.8 - 0.16)
    from korbent.verification.contact import solved

    contact = solved(N, (150 + 1.2 * 60) / N, -(-120 - 1.2 * 30) / N, 2.0, 2.4)
    n = 1200
    x = 0.2 + (np.arange(n) + 0.5) / n * 0.8
    y = -1.2 + (np.arange(n) + 0.5) / n * 2.4
    p = np.maximum(0.0, contact.a + contact.b * x[:, None] + contact.c * y[None, :]) - (25 * 0.5 + 18 * 0.7)
    per_line = (p * (x[:, None] - 0.2)).sum(axis=0) * 0.8 / n
    bands = per_line.reshape(4, -1).mean(axis=1)
    assert float(moment.value.max()) == pytest.approx(bands.max(), rel=1e-3)


@pytest.mark.long
@given(st.floats(-0.12, 0.12), st.floats(-0.12, 0.12), st.integers(2, 12))
def test_the_mean_of_all_bands_is_the_whole_width(sx: float, sy: float, count: int) -> None:
    project = by(
        load=Load(V=700.0, Hx=700 * sx, Hy=700 * sy),
        settings={"flexure_bands": "always", "flexure_band_count": count},
    )
    pad = project.pads[0]
    for axis in "xy":
        along = steel_along(project, pad, "bottom", axis)
        assert along is not None
        assert len(along.required) == len(along.at) == len(along.borders) - 1
    whole = edited(project, ("settings", "flexure_bands"), "whole_width")
    for name in ("bottom-x", "bottom-y"):
        assert (check(project, name).demand or 0) >= (check(whole, name).demand or 0) - 1e-9


def test_steel_along_the_width_of_a_concentric_pad_is_even() -> None:
    project = by(load=Load(V=900.0))
    along = steel_along(project, project.pads[0], "bottom", "x")
    assert along is not None
    assert np.ptp(along.required) < 1e-6 * along.required[0]
    assert along.required[0] == pytest.approx(check(project, "bottom-x").demand or 0, rel=1e-9)
    assert steel_along(project, project.pads[0], "top", "x") is None


# moments along the base


@given(
    st.floats(200.0, 1200.0),
    st.floats(-60.0, 60.0),
    st.floats(-60.0, 60.0),
    st.floats(-0.3, 0.3),
    st.booleans(),
)
def test_shear_and_moment_vanish_at_both_ends(V: float, H: float, M: float, offset: float, pedestal: bool) -> None:
    changes: dict[str, Any] = {"pedestal": Pedestal(size_x=0.5, size_y=0.5, top=0.3)} if pedestal else {}
    project = by(load=Load(V=V, Hx=H, Hy=-H / 2, Mx=M, My=M), offset_x=offset, **changes)
    for axis in "xy":
        line = along_base(project, project.pads[0], axis)
        if line is None:
            continue
        for values in (line.shear_least, line.shear_most, line.moment_least, line.moment_most):
            assert abs(values[0]) < 1e-6 * V
            assert abs(values[-1]) < 1e-6 * V


def test_the_greatest_moment_of_a_concentric_pad() -> None:
    project = by(load=Load(V=900.0))
    line = along_base(project, project.pads[0], "x")
    assert line is not None
    assert max(line.moment_most) == pytest.approx((900 - 18 * 0.7 * 0.16) * 2.0 / 8, rel=1e-6)


# pressure on rectangles


@given(
    st.floats(-2, 1),
    st.floats(0.1, 2),
    st.floats(-2, 1),
    st.floats(0.1, 2),
    st.floats(-50, 300),
    st.floats(-200, 200),
    st.floats(-200, 200),
)
def test_pressure_on_a_rectangle_whole_cut_or_lifted(
    x: float, wide: float, y: float, high: float, p: float, slope_x: float, slope_y: float
) -> None:
    """The closed form where all is pressed and the clipped one elsewhere: against the polygon, and none where all is
    lifted."""
    from korbent.core.contact.polygon import pressure_on_rectangles, pressure_over

    one = np.ones((1, 1))
    found = pressure_on_rectangles(
        x * one, (x + wide) * one, y * one, (y + high) * one, p * one, slope_x * one, slope_y * one
    )
    corners_x, corners_y = np.array([[[x, x + wide, x + wide, x]]]), np.array([[[y, y, y + high, y + high]]])
    known = pressure_over(corners_x, corners_y, p * one, slope_x * one, slope_y * one)
    for a, b in zip(found, known):
        assert float(a[0, 0]) == pytest.approx(float(b[0, 0]), rel=1e-9, abs=1e-7)
    lifted = pressure_on_rectangles(
        x * one, (x + wide) * one, y * one, (y + high) * one, -1e6 * one, slope_x * one, slope_y * one
    )
    assert float(lifted.force[0, 0]) == 0.0
