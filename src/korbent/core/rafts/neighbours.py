"""What a raft does to its neighbours as it presses, where their own checks take its pressure as even."""

from dataclasses import dataclass, replace

import numpy as np

from korbent.core.bench import Bench, bench_for
from korbent.core.checks import CHECKS, Outcome, cannot, does_not_apply
from korbent.core.geometry import table
from korbent.core.model.project import Project
from korbent.core.rafts.on_strata import pressure_of
from korbent.core.rafts.plate_of import springs_of, subgrade_of
from korbent.core.rafts.said import unsolved
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.settlement.at_places import Pressure, added_by
from korbent.core.settlement.beside import Beside, besides
from korbent.core.settlement.limits import limits_of
from korbent.core.settlement.neighbours import neighbours, settled
from korbent.core.settlement.of_bases import final
from korbent.core.settlement.pressing import areas_of, pressing_of
from korbent.core.working import Array, Recorder
from korbent.words import say

CHECK = "raft-neighbours"


@dataclass(frozen=True)
class Beneath:
    """A neighbour of a raft: its settlement by situation, m, with the raft pressing evenly and as it does."""

    name: str
    even: Array
    pressed: Array
    limit: float


def on_neighbours(bench: Bench, project: Project, solved: SolvedRaft) -> list[Beneath]:
    """Each neighbour that is no raft, with the net pressures of the cells of the raft in the place of their mean."""
    raft = bench.pads[0]
    pressing = dict(zip((p.name for p in project.pads), pressing_of(project)))
    own = pressing[raft.name]
    mean = Pressure(areas_of([own]), np.concatenate([own.pressure, own.stages])[:, None])
    k, _ = subgrade_of(bench, project)
    assert k is not None  # it is solved
    _, late = springs_of(bench, k, solved.columns)
    uneven = pressure_of(bench, project, late.on(solved.plate.k))
    around, known = besides(project), settled(project)
    found = []
    for name, _ in neighbours(project).get(raft.name, ()):
        pad, even, beside = project.pad(name), known.get(name), around.get(name)
        if pad.kind == "raft" or even is None or beside is None:
            continue
        one = pressing[name]
        place = np.array([[one.x, one.y]])
        more = [a - b for a, b in zip(added_by(uneven, place, beside.levels), added_by(mean, place, beside.levels))]
        count = len(beside.stress)

        def changed(values: Array | None, by: Array) -> Array | None:
            return None if values is None else values + by

        moved: Beside = replace(
            beside,
            stress=beside.stress + more[0][:count, 0],
            stages=beside.stages + more[0][count:, 0],
            angle=changed(beside.angle, more[1][:count, 0]),
            angle_stages=changed(beside.angle_stages, more[1][count:, 0]),
        )
        mine = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
        pressed = final(mine, project, {name: moved})
        if pressed is not None:
            found.append(Beneath(name, even.total[0], pressed.total[0], limits_of(project.settings_of(pad)).total))
    return found


NEAR_ENOUGH = 0.1
"""Of its limit: by so much the settlement of a neighbour may differ from its own check, which takes the raft's pressure
as even."""


def neighbour_checks(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    """By how much the neighbour whose own check is the farthest off settles otherwise as the raft presses."""
    situations = bench.situations("settlement_long")
    if not len(situations):
        return [cannot(CHECK, bench.no_combination("settlement_long"))]
    solved = solved_raft(bench, project, "settlement_long")
    if isinstance(solved, str):
        return [unsolved(CHECK, solved)]
    found = on_neighbours(bench, project, solved)
    if not found:
        return [does_not_apply(CHECK, say("no other foundation that settles stands beside it"))]
    limits = NEAR_ENOUGH * np.array([one.limit for one in found])
    apart = np.abs(np.stack([one.pressed - one.even for one in found]))
    worst = (apart / limits[:, None]).argmax(axis=0)
    pick = np.arange(len(worst))
    even, pressed = (
        1000 * np.stack([getattr(one, n) for one in found])[worst, pick][None] for n in ("even", "pressed")
    )
    demand, limit = 1000 * apart[worst, pick][None], 1000 * limits[worst][None]
    record.given(
        "s_e",
        even,
        "mm",
        note=say("settlement of the neighbour, the raft pressing evenly, as its own check has it"),
    )
    record.given("s_n", pressed, "mm", note=say("the same as the plate presses, cell by cell"), needs="s_e")
    record.step("s_d", "abs(s_n - s_e)", demand, "mm", note=say("by so much its own check is off"))
    record.given("s_d_max", limit, "mm", note=say("{near_enough:.0%} of its limit", near_enough=NEAR_ENOUGH))
    record.step("ratio", "s_d/s_d_max", demand / limit)

    def note(i: int, j: int) -> str:
        return ", ".join(
            f"{one.name} {1000 * one.pressed[j]:.1f} mm ({1000 * (one.pressed[j] - one.even[j]):+.1f})" for one in found
        ) + say("; in brackets what that is more than with even pressure")

    def warned(i: int) -> str:
        beyond = [
            say(
                "{one} goes beyond its limit of {limit:.0f} mm, which it keeps with even pressure",
                one=one.name,
                limit=1000 * one.limit,
            )
            for one in found
            if (np.abs(one.pressed) > one.limit).any() and (np.abs(one.even) <= one.limit).all()
        ]
        return "; ".join(beyond)

    return [
        Outcome(
            CHECKS[CHECK],
            demand,
            limit,
            demand / limit,
            situations,
            blocks=(say("raft neighbours"),),
            note=note,
            warnings=warned,
        )
    ]
