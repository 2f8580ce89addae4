"""A line drawn anywhere over a raft: Mohr's circle, the transects along the axes, mirrors, what lies off it, torsion of
ribs."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent import api
from korbent.core.explain.raft import Transect, raft_field, transect
from korbent.core.explain.raft_line import RaftLine, raft_line
from korbent.core.explain.rib import along_rib
from korbent.core.model import Project
from korbent.core.model.plate import Region
from korbent.drawing.raft import transect_drawing
from tests.core.test_rafts import raft
from tests.core.test_ribs import ribbed

PROJECT = raft()
PAD = PROJECT.pads[0]


def line(
    start: tuple[float, float], end: tuple[float, float], band: float = 0.0, project: Project = PROJECT
) -> RaftLine:
    found = raft_line(project, project.pads[0], start, end, band)
    assert isinstance(found, RaftLine), found
    return found


def middle(values: tuple[np.ndarray, np.ndarray]) -> np.ndarray:
    """(greatest, least) half-way."""
    return np.array([v[len(v) // 2] for v in values])


@given(st.floats(-3.5, 3.5), st.floats(-1.6, 1.6), st.floats(0.0, np.pi))
def test_the_moments_of_two_lines_across_each_other_add_up_to_the_same(x: float, y: float, turn: float) -> None:
    """m_s + m_t does not depend on the way in which a cross of lines is turned; turned by a right angle twist changes
    its sign (one situation)."""

    def at(angle: float) -> RaftLine:
        c, s = np.cos(angle), np.sin(angle)
        return line((x - 0.3 * c, y - 0.3 * s), (x + 0.3 * c, y + 0.3 * s))

    along, across, plain, upright = (at(a) for a in (turn, turn + np.pi / 2, 0.0, np.pi / 2))
    assert middle(along.moment) + middle(across.moment) == pytest.approx(
        middle(plain.moment) + middle(upright.moment), abs=1e-6
    )
    assert middle(along.twist)[0] == pytest.approx(-middle(across.twist)[1], abs=1e-6)
    # the circle: what is left of the moments and the twist have one radius
    radius = [
        np.hypot((middle(a.moment)[0] - middle(b.moment)[0]) / 2, middle(a.twist)[0])
        for a, b in ((along, across), (plain, upright))
    ]
    assert radius[0] == pytest.approx(radius[1], abs=1e-6)


@pytest.mark.parametrize("axis", ["x", "y"])
def test_along_an_axis_it_is_the_transect(axis: str) -> None:
    own = transect(PROJECT, PAD, axis, 0.4, 1.2)
    assert isinstance(own, Transect)
    half = (PAD.width if axis == "x" else PAD.length) / 2
    ends = ((-half, 0.4), (half, 0.4)) if axis == "x" else ((0.4, -half), (0.4, half))
    found = line(*ends, band=1.2)
    for mine, theirs in (
        (found.moment[0], own.most),
        (found.moment[1], own.least),
        (found.pressure[0], own.pressure_most),
        (found.settled[0], own.settled_most),
        (found.shear[0], own.shear_most),
    ):
        expected = np.interp(found.places - half, own.places, theirs)
        assert mine == pytest.approx(expected, rel=0.03, abs=0.03 * np.abs(theirs).max())
    drawn = transect_drawing(found, PROJECT.showing, 1.0)
    assert "moment along the line, kNm/m" in drawn.texts
    assert "pressure, kPa" in transect_drawing(found, PROJECT.showing, 1.0, True).texts


def test_the_value_in_a_field_is_that_on_the_line() -> None:
    field = raft_field(PROJECT, PAD, "pressure", "")
    assert not isinstance(field, str)
    found = line((-3.0, -1.5), (2.0, 1.4))
    i = 37
    share = found.places[i] / found.places[-1]
    assert field.at(-3.0 + 5.0 * share, -1.5 + 2.9 * share) == pytest.approx(found.pressure[0][i], rel=1e-6)


def test_backwards_and_beyond_the_edge_and_over_an_opening() -> None:
    there, back = line((-3.0, -1.5), (3.0, 1.2)), line((3.0, 1.2), (-3.0, -1.5))
    assert back.moment[0][::-1] == pytest.approx(there.moment[0], rel=1e-9)
    assert back.shear[0][::-1] == pytest.approx(-there.shear[1], rel=1e-9)
    beyond = line((0.0, 0.0), (8.0, 3.0))
    assert np.isnan(beyond.pressure[0][-1])
    assert not np.isnan(beyond.pressure[0][:40]).any()
    plate = PAD.plate
    assert plate is not None
    hole = Region(x_from=1.0, x_to=2.0, y_from=-0.6, y_to=0.6)
    hollow = PROJECT.replaced(pads=(PAD.replaced(plate=plate.replaced(openings=(hole,))),))
    over = line((0.0, 0.0), (3.0, 0.3), project=hollow)
    assert np.isnan(over.moment[0][60])
    assert not np.isnan(over.moment[0][[5, -5]]).any()


def test_the_promised_name_and_what_cannot_be() -> None:
    found = api.raft_line(PROJECT, PAD.name, (-3.0, 0.0), (3.0, 0.0))
    assert found["moment"][0] == pytest.approx(line((-3.0, 0.0), (3.0, 0.0), 1.0).moment[0], nan_ok=True)
    assert set(found["asked"]) == {"bottom_x", "bottom_y", "top_x", "top_y"}
    with pytest.raises(ValueError, match="at least"):
        api.raft_line(PROJECT, PAD.name, (1.0, 0.0), (1.05, 0.0))


def test_torsion_of_a_rib_turns_round_in_the_mirror() -> None:
    project = ribbed()
    pad = project.pads[0]
    assert pad.plate is not None
    name = pad.plate.ribs[0].name
    found = along_rib(project, pad, name)
    assert not isinstance(found, str)
    assert max(found.twist_most) > 0 > min(found.twist_least)
    middle_of = (found.at[0] + found.at[-1]) / 2
    assert found.twist(middle_of) is not None
    assert found.twist(found.at[-1] + 1.0) is None
    assert api.rib(project, pad.name, name)["torsion"].shape == (2, len(found.at))
