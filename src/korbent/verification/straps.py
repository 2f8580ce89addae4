"""Reference cases of straps: reactions, moments and shears by statics."""

import math
from functools import lru_cache

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.geometry import table
from korbent.core.model import Bars, Load, Project
from korbent.core.model.foundations import Strap
from korbent.core.straps.as_plates import AsPlates, Part, by_plates
from korbent.core.straps.checks import beam_of, strap_weight
from korbent.core.straps.on_springs import Pair, solved_pair
from korbent.core.working import SILENT
from korbent.verification.case import Case
from korbent.verification.pad import one_pad


def tied_pair(
    first: Load,
    second: Load,
    e: float,
    S: float,
    sizes: tuple[float, float] = (1.6, 2.2),
    turn: float = 0.0,
    tied: bool = True,
) -> Project:
    """A column at the origin that stands ``e`` beyond the middle of its base P, and one ``S`` further in the middle of
    Q; turned as a whole.

    Args:
        sizes: of both bases along the strap, m.
    """
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    project = one_pad(load=first, width=sizes[0], length=2.2, thickness=0.5, level=-1.2, offset_x=-e, rotation=turn)
    own = project.actions.load_points[0].replaced(loads={"G": first}, rotation=turn)
    other = own.replaced(name="D", x=S * c, y=S * s, loads={"G": second})
    inner = project.pads[0].replaced(name="Q", load_point="D", width=sizes[1], offset_x=0.0)
    strap = Strap(
        name="S1",
        edge="P",
        inner="Q",
        width=0.5,
        depth=0.9,
        top=Bars(diameter=0.025, number=5),
        bottom=Bars(diameter=0.016, number=3),
    )
    return project.replaced(
        actions=project.actions.replaced(load_points=(own, other)),
        pads=(project.pads[0], inner),
        straps=(strap,) if tied else (),
    )


@lru_cache(maxsize=64)
def solved(P1: float, P2: float, e: float, S: float, L1: float, L2: float, M: float = 0.0) -> dict[str, float]:
    """What the program finds for a pair with factors of one: reactions of the columns alone, and the beam."""
    loads = Load(V=P1, My=M), Load(V=P2)
    found = {}
    for name in "PQ":
        values = []
        for tied in (True, False):
            project = tied_pair(*loads, e, S, (L1, L2), tied=tied)
            pad = project.pad(name)
            bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
            situations = bench.situations("concrete")
            at = int(situations.factors.sum(axis=-1).argmin())
            values.append(float(bench.forces(situations, SILENT).V[0, at]))
            factor, gamma = float(situations.factors[at].max()), float(situations.weight[at])
            if tied and (tie := bench.stands[0].ties[0]) is not None:
                near, far = (gamma * float(w[0, 0]) for w in strap_weight(bench, tie))
                values[-1] -= near
                if name == "P":
                    moment, shear = (v[0, :, at] for v in beam_of(bench, tie)[1:])
                    beam = {
                        "weight": near + far,
                        "top": float(moment.min()),
                        "face": float(moment[-1]),
                        "shear": float(np.abs(shear).max()),
                        "near": near,
                        "far": far,
                    }
        found[name] = (values[0] - values[1]) / factor + (P1 if name == "P" else P2)
    return {"R1": found["P"], "R2": found["Q"], "factor": factor, **beam}


def _hogging(pair: tuple[float, ...]) -> float:
    """Where the shear is zero below the column's base: its pressure has come up to its column's force."""
    P1, _, e, S, L1, _ = pair
    found = solved(*pair)
    R1, P = found["factor"] * P1 * S / (S - e) + found["near"], found["factor"] * P1
    s0 = P * L1 / R1
    return R1 / L1 * s0**2 / 2 - P * (s0 - (L1 / 2 - e))


def _shear(pair: tuple[float, ...]) -> float:
    """Beside the base at the boundary, or at the face of the inner one, whichever is more."""
    P1, _, e, S, _, _ = pair
    found = solved(*pair)
    here = found["factor"] * P1 * e / (S - e) + found["near"]
    return max(abs(here), abs(here - found["weight"]))


def as_plates(pair: tuple[float, ...], thickness: float, k: tuple[float, float], modulus: float) -> AsPlates:
    """The pair as plates, its beam 0.5 x 0.9 m without weight."""
    P1, P2, e, S, L1, L2 = pair
    apart = S - e  # of the middles; the first column stands e beyond the middle of its base
    boxes = ((-L1 / 2, L1 / 2, -1.0, 1.0), (apart - L2 / 2, apart + L2 / 2, -1.2, 1.2))
    columns = ((-e - 0.15, -e + 0.15, -0.2, 0.2), (apart - 0.2, apart + 0.2, -0.2, 0.2))
    first, second = (
        Part(box, thickness, column, spring, np.array([P]), np.zeros(1))
        for box, column, spring, P in zip(boxes, columns, k, (P1, P2))
    )
    return AsPlates((first, second), 0.0, 0.5, 0.9, modulus, np.zeros(1))


SPRINGS = (18_000.0, 11_000.0)


@lru_cache
def in_plates(pair: tuple[float, ...], thickness: float, modulus: float) -> dict[str, float]:
    """R1 and the moments of the beam at its faces."""
    found = by_plates(as_plates(pair, thickness, SPRINGS, modulus))
    return {"R1": float(found.R[0][0]), "near": float(found.beam[0][0]), "far": float(found.beam[1][0])}


def _rigid(pair: tuple[float, ...]) -> float:
    """R1 of bases and beam that do not deform at all: one plane of settlement over both areas."""
    P1, P2, e, S, L1, L2 = pair
    K = np.zeros((2, 2))
    parts = [(SPRINGS[0] * L1 * 2.0, 0.0, L1), (SPRINGS[1] * L2 * 2.4, S - e, L2)]
    for stiff, s, size in parts:
        K += stiff * np.array([[1.0, s], [s, s * s + size**2 / 12]])
    w, turn = np.linalg.solve(K, [P1 + P2, -P1 * e + P2 * (S - e)])
    return float(parts[0][0] * (w + turn * parts[0][1]))


def _stiff(pair: tuple[float, ...]) -> dict[str, float]:
    """Bases that do not bend, and the same beam."""
    P1, P2, e, S, L1, L2 = pair
    E = 30e6
    found = solved_pair(
        Pair(
            S - e,
            (L1, L2),
            (SPRINGS[0] * L1 * 2.0, SPRINGS[1] * L2 * 2.4),
            E * 0.5 * 0.9**3 / 12,
            E / 2.4 * 5 / 6 * 0.5 * 0.9,
            (np.array([P1]), np.array([P2])),
            (np.array([-P1 * e]), np.zeros(1)),
        )
    )
    return {
        "R1": float(found.R[0][0]),
        "near": float(found.at_faces[0][0]),
        "far": float(found.at_faces[1][0]),
    }


PAIRS = (
    (700.0, 1000.0, 0.60, 5.0, 1.6, 2.2),
    (350.0, 1400.0, 0.45, 6.5, 1.4, 2.6),
    (900.0, 1250.0, 0.85, 7.2, 2.2, 2.4),
)
STATICS = "statics: R1 = P1 S/(S - e), R2 = P2 - P1 e/(S - e)"

STRAPS = (
    *(
        Case(
            f"strap, {P1:g} and {P2:g} kN, e {e:g} m, S {S:g} m: {name}",
            "closed form",
            STATICS,
            value,
            lambda pair=pair, name=name: solved(*pair)[name],
            1e-9,
            "kN",
        )
        for pair in PAIRS
        for P1, P2, e, S, _, _ in [pair]
        for name, value in (("R1", P1 * S / (S - e)), ("R2", P2 - P1 * e / (S - e)))
    ),
    *(
        Case(
            f"strap, {P1:g} kN, e {e:g} m, S {S:g} m: moment where the shear is zero",
            "closed form",
            "statics: R1/L1 s²/2 - P1 (s - a), s = P1 L1/R1",
            lambda pair=pair: _hogging(pair),
            lambda pair=pair: solved(*pair)["top"],
            1e-3,
            "kNm",
        )
        for pair in PAIRS
        for P1, _, e, S, L1, _ in [pair]
    ),
    *(
        Case(
            f"strap, {P1:g} kN, e {e:g} m, S {S:g} m: moment at the face of the inner base",
            "second method",
            "from its other side: (R2 - P2) L2/2 with the weight that rests there",
            lambda pair=pair: (
                solved(*pair)["factor"] * (solved(*pair)["R2"] - pair[1]) * pair[5] / 2
                + solved(*pair)["far"] * pair[5] / 2
            ),
            lambda pair=pair: solved(*pair)["face"],
            1e-9,
            "kNm",
        )
        for pair in PAIRS
        for P1, _, e, S, _, _ in [pair]
    ),
    *(
        Case(
            f"strap, {P1:g} kN, e {e:g} m, S {S:g} m: greatest shear",
            "closed form",
            "R1 - P1 at the base at the boundary, less the beam beyond",
            lambda pair=pair: _shear(pair),
            lambda pair=pair: solved(*pair)["shear"],
            1e-9,
            "kN",
        )
        for pair in PAIRS
        for P1, _, e, S, _, _ in [pair]
    ),
    *(
        Case(
            f"strap, {P1:g} kN with {M:g} kNm: {name}",
            "closed form",
            "moments about the middle of the other base",
            value,
            lambda M=M, name=name, pair=PAIRS[0]: solved(*pair, M)[name],
            1e-9,
            "kN",
        )
        for P1, P2, e, S, _, _ in PAIRS[:1]
        for M in (60.0, -90.0)
        for name, value in (("R1", P1 + (P1 * e - M) / (S - e)), ("R2", P2 - (P1 * e - M) / (S - e)))
    ),
    *(
        Case(
            f"strap as plates, {pair[0]:g} kN, e {pair[2]:g} m, S {pair[3]:g} m, rigid: R1",
            "closed form",
            "one plane of settlement below both bases",
            lambda pair=pair: _rigid(pair),
            lambda pair=pair: in_plates(pair, 0.6, 1e13)["R1"],
            1e-4,
            "kN",
        )
        for pair in PAIRS
    ),
    *(
        Case(
            f"strap as plates, {pair[0]:g} kN, e {pair[2]:g} m, S {pair[3]:g} m, thick bases: {name}",
            "second method",
            "stiff bases on springs with an elastic beam",
            lambda pair=pair, key=key: _stiff(pair)[key],
            lambda pair=pair, key=key: in_plates(pair, 8.0, 30e6)[key],
            1e-3,
            unit,
        )
        for pair in PAIRS
        for name, key, unit in (
            ("R1", "R1", "kN"),
            ("moment of the beam at the first face", "near", "kNm"),
            ("moment of the beam at the inner face", "far", "kNm"),
        )
    ),
)
