"""A strap as two stiff bases on springs: against statics where springs resist no tilt, without a beam, and by
energy."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest

from korbent.core.bench import bench_for
from korbent.core.geometry import table
from korbent.core.straps.on_springs import Pair, pair_of, solved_pair
from korbent.demo import lindmere

PAIR = Pair(
    apart=5.6,
    sizes=(1.6, 2.4),
    springs=(40_000.0, 60_000.0),
    EI=4e5,
    GA=4e6,
    V=(np.array([600.0, 800.0]), np.array([900.0, 700.0])),
    M=(np.array([-240.0, -320.0]), np.array([0.0, 35.0])),
)


def test_forces_and_moments_are_in_balance() -> None:
    found = solved_pair(PAIR)
    assert found.R[0] + found.R[1] == pytest.approx(PAIR.V[0] + PAIR.V[1])
    about_first = PAIR.M[0] + PAIR.M[1] + PAIR.V[1] * PAIR.apart
    assert found.M[0] + found.M[1] + found.R[1] * PAIR.apart == pytest.approx(about_first)


def test_where_the_ground_resists_no_tilt_it_is_statics() -> None:
    """Narrow bases: R1 = V1 - M1/S - M2/S, whatever the beam."""
    for stiff in (1e3, 4e5, 1e8):
        found = solved_pair(replace(PAIR, sizes=(1e-4, 1e-4), EI=stiff))
        assert found.R[0] == pytest.approx(PAIR.V[0] - (PAIR.M[0] + PAIR.M[1]) / PAIR.apart, rel=1e-4)
        # at the middle of a base without size the beam carries its moment
        assert found.at_faces[0] == pytest.approx(PAIR.M[0], rel=1e-3)


def test_without_a_beam_each_stands_alone_and_a_stiffer_one_moves_more() -> None:
    alone = solved_pair(replace(PAIR, EI=1e-6))
    assert alone.R[0] == pytest.approx(PAIR.V[0], rel=1e-6)
    assert alone.M[0] == pytest.approx(PAIR.M[0], rel=1e-6)
    steps = [solved_pair(replace(PAIR, EI=EI)) for EI in (1e-6, 1e3, 1e4, 1e5, 4e5, 4e6)]
    # the stiffer the beam, the less of the moment is left to the ground below the first base
    assert all(abs(b.M[0][0]) < abs(a.M[0][0]) for a, b in pairwise(steps))
    by_statics = 600.0 + 240.0 / 5.6
    assert steps[-1].R[0][0] == pytest.approx(by_statics, rel=0.01)
    assert all(600.0 < one.R[0][0] < 1.01 * by_statics for one in steps)


def test_seen_from_the_other_end_it_is_the_same() -> None:
    other = replace(
        PAIR, sizes=PAIR.sizes[::-1], springs=PAIR.springs[::-1], V=PAIR.V[::-1], M=(-PAIR.M[1], -PAIR.M[0])
    )
    one, two = solved_pair(PAIR), solved_pair(other)
    assert one.R[0] == pytest.approx(two.R[1])
    assert one.at_faces[0] == pytest.approx(two.at_faces[1])


def test_on_softer_ground_it_is_another() -> None:
    project = lindmere()
    edge = project.pad(project.straps[0].edge)
    bench = bench_for(project, (edge,), np.zeros(1, dtype=int), table(edge))
    pair = pair_of(bench, (20_000.0, 20_000.0))
    weak = replace(pair, springs=tuple(k * 1e-6 for k in pair.springs))  # type: ignore[arg-type]
    assert solved_pair(weak).R[0] != pytest.approx(solved_pair(pair).R[0], rel=1e-3)
