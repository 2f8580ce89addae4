"""What acts on the underside in one situation, for drawings."""

from dataclasses import dataclass

import numpy as np

from korbent.core.actions.base_forces import case_loads
from korbent.core.bench import bench_for
from korbent.core.geometry import local_place, standing_face, table
from korbent.core.model.actions import Combination
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.working import SILENT, Array


@dataclass(frozen=True)
class Standing:
    """A column or wall on a base: its place from the middle of the base and its size there, in pad axes, its level, m;
    and its vertical force with the weight of its pedestal, kN."""

    x: float
    y: float
    size_x: float
    size_y: float
    level: float
    V: float


@dataclass(frozen=True)
class BaseState:
    """Forces (kN, kNm) and pressure under a pad in one situation, in pad axes, for drawings."""

    label: str
    combination: Combination
    V: float
    N: float
    Hx: float
    Hy: float
    column: float
    e_x: float
    e_y: float
    stable: bool
    plane: tuple[float, float, float]
    """Pressure a + b x + c y about the middle of the base, kPa, kPa/m."""
    share: float
    corners: tuple[float, ...]
    """Pressures at (-,-), (+,-), (+,+), (-,+), of a polygon at its corners, kPa."""
    water: float
    """Water level, m."""
    effective: tuple[float, float]
    """Sizes of the effective area; under a round base of the rectangle of equal area, the first towards the resultant,
    m."""
    turn: float = 0.0
    """From the axes of the pad to those of the effective area, rad."""
    standing: tuple[Standing, ...] = ()
    """All that stand on it."""


def situation_labels(project: Project, pad: Pad, question: str) -> tuple[str, ...]:
    """The situations of a question, as they are named, in the order of :func:`base_state`."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations(question)
    return tuple(situations.label(i) for i in range(len(situations)))


def base_state(project: Project, pad: Pad, question: str, situation: int) -> BaseState | None:
    """What acts on the underside in one situation of a question; None when nothing serves it."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations(question)
    if not len(situations):
        return None
    i = situation % len(situations)
    forces = bench.forces(situations, SILENT)
    g = bench.geometry
    contact = g.footprint.contact(forces.N, forces.Mx, forces.My)
    area = g.footprint.effective(contact, forces.Hx, forces.Hy)

    plinths = situations.weight[i] * bench.settings.concrete_weight * g.pedestal_volumes[0]

    def at(values: Array) -> float:
        return float(np.broadcast_to(values, forces.N.shape)[0, i])

    return BaseState(
        label=situations.label(i),
        combination=situations.combinations[i],
        V=at(forces.V),
        N=at(forces.N),
        Hx=at(forces.Hx),
        Hy=at(forces.Hy),
        column=at(forces.column),
        e_x=at(contact.e_x),
        e_y=at(contact.e_y),
        stable=bool(contact.stable[0, i]),
        plane=(at(contact.a), at(contact.b), at(contact.c)),
        share=at(contact.share),
        corners=tuple(map(float, contact.corners[0, i])),
        water=float(bench.water(situations)[i]),
        effective=(at(area.x), at(area.y)),
        turn=float(np.ravel(g.footprint.turn)[0]),
        standing=tuple(
            Standing(
                *local_place(pad, bench.standing[0][0], point),
                *standing_face(pad, point),
                point.level,
                float(situations.factors[i] @ case_loads(point, situations.cases)[:, 0]) + float(plinths[k]),
            )
            for k, point in enumerate(bench.standing[0])
        ),
    )
